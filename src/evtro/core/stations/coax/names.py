"""How parts are called."""

from __future__ import annotations

from ...job import Job
from ...plant.parts import Catalogue
from ...plant.wiring import part_type


def part_name(job: Job, catalogue: Catalogue, part_id: str) -> str:
    """How a part is called: its own name, its outlet's or antenna's, else its type's."""
    part = next(p for p in job.parts if p.id == part_id)
    if part.name:
        return part.name
    kind = part_type(catalogue, part)
    if kind.draws_as == "antenna":
        return next((a.name for a in job.antennas if a.id == part.antenna), kind.name)
    return next((o.name for o in job.outlets if o.id == part.outlet), kind.name)
