"""Changes carried out on a job as they are offered, with the parts and the school of its own."""

from __future__ import annotations

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.changes import Bench, carry_out
from evtro.core.job import Job
from evtro.core.job.changes import Change, Tick
from evtro.core.units.quantities import Step

CATALOGUE = catalogue.load()
NOW = "2026-01-02 03:04"


def taken(job: Job, change: Change | None) -> Job:
    """The job with a change carried out; there must be one."""
    assert change is not None
    bench = Bench(CATALOGUE, profiles.load(job.profile), NOW, steps_of)
    return carry_out(job, change, bench)[0]


def steps_of(job: Job) -> dict[str, Step]:
    """The steps of a job by their keys."""
    found = work_out(job, CATALOGUE, profiles.load(job.profile)).steps
    return {s.key: s for steps in found.values() for s in steps}


def gates_of(job: Job) -> list[str]:
    """Every gate of a job, in the order of the work."""
    steps = work_out(job, CATALOGUE, profiles.load(job.profile)).steps
    return [s.key for rows in steps.values() for s in rows if s.danger]


def behind_gates(job: Job, until: str | None = None) -> Job:
    """The job with every gate confirmed, or those before one."""
    for key in gates_of(job):
        if key == until:
            break
        job = taken(job, Tick(step=key, danger_read=True, by="A. Mender"))
    return job
