"""What a handover is judged by. Checks read it."""

from __future__ import annotations

from dataclasses import dataclass

from ...job import Job


@dataclass(frozen=True, eq=False)
class HandoverFigures:
    """The job, and whether the stations before are in."""

    job: Job
    ready: bool
