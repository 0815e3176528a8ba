"""The list that a scan should find at every outlet."""

from __future__ import annotations

import math

from ...job import Job
from ...job.profile import Profile
from ..aim.array.terminals import terminals
from ..coax.levels.outlets import OutletRow, Solved
from .expected import ExpectedOutlet, expected


def expected_lists(
    job: Job, profile: Profile, rows: list[OutletRow], solved: Solved
) -> list[ExpectedOutlet]:
    """The list that a scan should find at every outlet."""
    spread: dict[str, float] = {}
    for antenna in job.arrays:
        at = terminals(job, antenna)
        for i, carrier in enumerate(at.incident.carriers if at else ()):
            own = float(at.spread_db[i]) if at else 0.0
            spread[carrier.id] = min(spread.get(carrier.id, math.inf), own)
    return expected(job, profile, rows=rows, solved=solved, spread_db=spread)
