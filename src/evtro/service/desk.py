"""The desk: keeps jobs through the store and works them out through the core, once a revision."""

from __future__ import annotations

import datetime as dt
import threading
from collections import OrderedDict
from collections.abc import Callable
from pathlib import Path

from pydantic import TypeAdapter

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.coax.levels import Solved
from evtro.core.job import Job
from evtro.core.parts import Catalogue
from evtro.core.practice.meter import SimulatedMeter
from evtro.core.profile import Profile
from evtro.store.jobs import Jobs, Kept
from evtro.store.library import Library

from .rain import RainMaps
from .schemas import JobSummary, JobView
from .terrain import Terrain
from .typing import told

MOST_CACHED = 8
_VIEW = TypeAdapter(JobView)
# The heights of the profiles are many and only the core needs them; the export has them.
LEFT_OUT = {"job": {"reliefs": {"__all__": {"heights_m"}}}}


class Desk:
    """Everything a router needs."""

    def __init__(self, jobs: Jobs, folder: Path) -> None:
        self.jobs = jobs
        self.library = Library(jobs)
        self.terrain = Terrain(self.library, folder / "terrain")
        self.catalogue: Catalogue = catalogue.load()
        self.rain = RainMaps()
        self.meters: dict[tuple[str, str], SimulatedMeter] = {}
        self._cache: OrderedDict[tuple[str, int], tuple[Answers, Solved]] = OrderedDict()
        self._summaries: dict[str, JobSummary] = {}
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
        """What is computed from a job, kept for its revision."""
        key = kept.id, kept.revision
        with self._lock:
            if key in self._cache:
                self._cache.move_to_end(key)
                return self._cache[key]
        found = work_out(kept.job, self.catalogue, self.profile(kept.job))
        with self._lock:
            self._cache[key] = found
            while len(self._cache) > MOST_CACHED:
                self._cache.popitem(last=False)
        return found

    def change(
        self, job_id: str, revision: int, label: str, edit: Callable[[Job], Job],
        notes: list[str] | None = None,
    ) -> bytes:  # fmt: skip
        """Change a job; the answer is its new view. `notes` may be filled by the edit. Profiles that
        the change asks for are read from the tiles at hand, in the same step."""
        kept = self.jobs.change(job_id, revision, label, lambda job: self.terrain.fill(edit(job)))
        return self.dump(kept, notes)

    def dump(self, kept: Kept, notes: list[str] | None = None) -> bytes:
        """A kept job's view as JSON."""
        return _VIEW.dump_json(view_of(self, kept, notes), exclude=LEFT_OUT)

    def summaries(self) -> list[JobSummary]:
        """All jobs with the state of their stations; worked out anew only where one changed."""
        lines = []
        for job_id, revision in self.jobs.revisions():
            known = self._summaries.get(job_id)
            if known is None or known.revision != revision:
                known = self._summary(self.jobs.get(job_id))
                self._summaries[job_id] = known
            lines.append(known)
        return lines

    def _summary(self, kept: Kept) -> JobSummary:
        answers, _ = self.answers(kept)
        rank = {"out": 0, "todo": 1, "near": 2, "in": 3}
        problems = sorted(answers.problems, key=lambda p: rank[p.state])
        following = "".join(p for p in problems[0].title if isinstance(p, str)) if problems else ""
        return JobSummary(
            id=kept.id, revision=kept.revision, kept_at=kept.kept_at, name=kept.job.name,
            place=kept.job.place, stations=answers.stations, next=following,
        )  # fmt: skip


def view_of(desk: Desk, kept: Kept, notes: list[str] | None = None) -> JobView:
    """A job with its answers, and what a file left out."""
    answers, _ = desk.answers(kept)
    return JobView.model_construct(
        id=kept.id, revision=kept.revision, kept_at=kept.kept_at, undo=kept.undo, redo=kept.redo,
        job=kept.job, answers=answers, notes=notes or [], told=told(),
    )  # fmt: skip
