"""Changes carried out on a job as they are offered, with the parts and the school of its own."""

from __future__ import annotations

from collections import OrderedDict

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.changes import ChangeContext, carry_out
from evtro.core.job import Job
from evtro.core.job.changes import Change, Tick
from evtro.core.units.quantities import Step
from evtro.demo.world import kept_jobs

CATALOGUE = catalogue.load()
JOBS = kept_jobs()
NOW = "2026-01-02 03:04"


def taken(job: Job, change: Change | None) -> Job:
    """The job with a change carried out; there must be one."""
    assert change is not None
    bench = ChangeContext(CATALOGUE, profiles.load(job.profile), NOW, steps_of)
    return carry_out(job, change, bench).job


MOST_KNOWN = 40
_known: OrderedDict[int, tuple[Job, Answers]] = OrderedDict()


def answers_of(job: Job) -> Answers:
    """What is worked out from a job with the generic parts, remembered for the same object."""
    known = _known.get(id(job))
    if known is not None and known[0] is job:
        _known.move_to_end(id(job))
        return known[1]
    found = work_out(job, CATALOGUE, profiles.load(job.profile))
    _known[id(job)] = job, found
    while len(_known) > MOST_KNOWN:
        _known.popitem(last=False)
    return found


def steps_of(job: Job) -> dict[str, Step]:
    """The steps of a job by their keys."""
    found = answers_of(job).steps
    return {s.key: s for steps in found.values() for s in steps}


def gates_of(job: Job) -> list[str]:
    """Every gate of a job, in the order of the work."""
    steps = answers_of(job).steps
    return [s.key for rows in steps.values() for s in rows if s.danger]


def behind_gates(job: Job, until: str | None = None) -> Job:
    """The job with every gate confirmed, or those before one."""
    for key in gates_of(job):
        if key == until:
            break
        job = taken(job, Tick(step=key, danger_read=True, by="A. Mender"))
    return job
