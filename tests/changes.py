"""Changes carried out on a job as they are offered, with the parts and the school of its own."""

from __future__ import annotations

from evtro import catalogue, profiles
from evtro.core.changes import Bench, carry_out
from evtro.core.job import Job
from evtro.core.job.changes import Change

CATALOGUE = catalogue.load()
NOW = "2026-01-02 03:04"


def taken(job: Job, change: Change | None) -> Job:
    """The job with a change carried out; there must be one."""
    assert change is not None
    return carry_out(job, change, Bench(CATALOGUE, profiles.load(job.profile), NOW))[0]
