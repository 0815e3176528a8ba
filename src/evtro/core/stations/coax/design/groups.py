"""What a design is for: the own antennas' signals; those of a company's line where it is all there is."""

from __future__ import annotations

from ....job import Job, Outlet
from ..levels.outlets import Group, wants_group


def designed_groups(job: Job) -> tuple[Group, ...]:
    """The groups that a design serves."""
    own = any(t.kind != "line" and t.wanted for t in job.targets)
    return ("terrestrial", "satellite") if own else ("cable",)


def designed_for(job: Job, outlet: Outlet) -> bool:
    """Whether an outlet wants any of them."""
    return any(wants_group(outlet, g) for g in designed_groups(job))
