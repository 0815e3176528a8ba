"""Changes carried out on a job as they are offered, with the parts and the school of its own."""

from __future__ import annotations

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.changes import Bench, carry_out
from evtro.core.job import Job
from evtro.core.job.changes import Change
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
