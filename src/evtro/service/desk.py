"""The desk: keeps jobs through the store and works them out through the core, once for each value."""

from __future__ import annotations

import datetime as dt
import logging
import threading
from collections import OrderedDict
from collections.abc import Callable
from pathlib import Path

from pydantic import TypeAdapter

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.changes import Bench, carry_out, words_of
from evtro.core.job import Job
from evtro.core.job.changes import Change
from evtro.core.job.profile import Profile
from evtro.core.plant.parts import Catalogue
from evtro.core.practice.meter import SimulatedMeter
from evtro.core.stations.coax.levels import Solved
from evtro.core.units.quantities import InputError
from evtro.store.jobs import Jobs, Kept
from evtro.store.library import Library

from .joblist import JobLines, line_of
from .rain import RainMaps
from .schemas import JobView
from .terrain import Terrain
from .typing import asked, device, told

MOST_CACHED = 8
_VIEW = TypeAdapter(JobView)
# The heights of the profiles are many and only the core needs them; the export has them.
LEFT_OUT = {"job": {"reliefs": {"__all__": {"heights_m"}}}}
_log = logging.getLogger("evtro")


class Unworkable(InputError):
    """A job that the core cannot work out. It is kept as it is, and can be exported or removed."""

    def __init__(self) -> None:
        super().__init__("Job", "it cannot be worked out with these figures.",
                         "Look for a figure that cannot be; undo the last change, or export the job and "
                         "mend the file.", "unworkable")  # fmt: skip


class Desk:
    """Everything a router needs."""

    def __init__(self, jobs: Jobs, folder: Path) -> None:
        self.jobs = jobs
        self.library = Library(jobs)
        self.terrain = Terrain(self.library, folder / "terrain")
        self.catalogue: Catalogue = catalogue.load()
        self.rain = RainMaps()
        self.meters: dict[tuple[str, str], SimulatedMeter] = {}
        self.lines = JobLines(jobs, self.worked)
        self.notices: list[str] = []
        # By the value itself: two states of a job may bear one number, never one object.
        self._cache: OrderedDict[int, tuple[Job, tuple[Answers, Solved]]] = OrderedDict()
        self._lock = threading.Lock()

    @staticmethod
    def profile(job: Job) -> Profile:
        """The practice profile of a job."""
        return profiles.load(job.profile)

    @staticmethod
    def today() -> dt.date:
        """The date of a new job."""
        return dt.date.today()

    def answers(self, kept: Kept) -> tuple[Answers, Solved]:
        """What is computed from a job. Raises Unworkable."""
        return self.worked(kept.job)

    def worked(self, job: Job) -> tuple[Answers, Solved]:
        """What is computed from a job's value, remembered for the value. Raises Unworkable."""
        with self._lock:
            known = self._cache.get(id(job))
            if known is not None and known[0] is job:
                self._cache.move_to_end(id(job))
                return known[1]
        try:
            found = work_out(job, self.catalogue, self.profile(job))
        except InputError:
            raise
        except Exception as error:
            _log.exception("a job cannot be worked out")
            raise Unworkable from error
        with self._lock:
            self._cache[id(job)] = job, found
            while len(self._cache) > MOST_CACHED:
                self._cache.popitem(last=False)
        return found

    def prove(self, job: Job) -> str:
        """The spine of a job, as it is kept with it. Raises Unworkable, InputError."""
        return line_of(self.worked(job)[0])

    def add(self, job: Job) -> Kept:
        """Keep a new job, after it was worked out."""
        return self.jobs.add(job, line=self.prove(job))

    def change(
        self, job_id: str, revision: int, label: str, edit: Callable[[Job], Job],
        notes: list[str] | None = None,
    ) -> bytes:  # fmt: skip
        """Change a job; the answer is its new view. `notes` may be filled by the edit. Profiles that
        the change asks for are read from the tiles at hand, in the same step."""
        kept = self.jobs.change(
            job_id,
            revision,
            asked(label),
            lambda job: self.terrain.fill(edit(job)),
            prove=self.prove,
        )
        return self.dump(kept, notes)

    def take(self, job_id: str, revision: int, change: Change) -> bytes:
        """Carry out a change that a device asks for; the answer is the job's new view."""
        said: list[str] = []

        def edit(job: Job) -> Job:
            found, said[:] = self.carried(job, change)
            return self.terrain.fill(found)

        request = asked(words_of(change), change.model_dump_json(exclude_defaults=True))
        kept = self.jobs.change(job_id, revision, request, edit, prove=self.prove)
        return self.dump(kept, told=said)

    def carried(self, job: Job, change: Change) -> tuple[Job, list[str]]:
        """A job with a change carried out, and what is told of it; nothing is kept."""
        now = dt.datetime.now().isoformat(" ", "minutes")
        return carry_out(job, change, Bench(self.catalogue, self.profile(job), now))

    def dump(
        self, kept: Kept, notes: list[str] | None = None, told: list[str] | None = None
    ) -> bytes:
        """A kept job's view as JSON."""
        return _VIEW.dump_json(view_of(self, kept, notes, told), exclude=LEFT_OUT)


def view_of(
    desk: Desk, kept: Kept, notes: list[str] | None = None, said: list[str] | None = None
) -> JobView:
    """A job with its answers, what a file left out, and what typed figures were read as."""
    answers, _ = desk.answers(kept)
    steps = desk.jobs.steps(kept.id, device())
    return JobView.model_construct(
        id=kept.id, revision=kept.revision, kept_at=kept.kept_at, undo=steps.undo, redo=steps.redo,
        job=kept.job, answers=answers, notes=notes or [], told=told() if said is None else said,
    )  # fmt: skip
