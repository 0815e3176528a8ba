"""The desk: keeps jobs through the store and works them out through the core, once for each value."""

from __future__ import annotations

import datetime as dt
import logging
import sqlite3
import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any
from weakref import WeakKeyDictionary

from pydantic import TypeAdapter, ValidationError

from evtro import catalogue
from evtro.core.answers import Answers, work_out
from evtro.core.changes import Applied, ChangeContext, carry_out, words_of
from evtro.core.job import Job
from evtro.core.job.changes import Change, Tick
from evtro.core.job.parts import Catalogue
from evtro.core.job.profile import Profile
from evtro.core.job.stock import carrying, limits, stocked
from evtro.core.memo import Memo
from evtro.core.practice.meter import SimulatedMeter
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.units.quantities import InputError, Step
from evtro.core.workshop import shop_with
from evtro.profiles import shop_profile
from evtro.store.jobs import Jobs, Kept, Stale
from evtro.store.library import Library
from evtro.store.photos import Photos
from evtro.store.watch import Watch

from .broadcast import Live
from .days import DayService
from .designs import Designs
from .errors import Refusable
from .foreseen import Basis, Foreseen, Outcome
from .joblist import JobLines, job_summary
from .rain import RainMaps
from .schemas import JobHead, Waited, answer_types
from .terrain import Terrain
from .typing import asked, device, shown
from .typing import told as typed_notes

MOST_CACHED = 8
MOST_NAMED = 256
_HEAD = TypeAdapter(JobHead)
_ANSWERS: dict[str, TypeAdapter[Any]] = {key: TypeAdapter(of) for key, of in answer_types().items()}
# The heights of the profiles and the data of parts are many and only the core needs them; the export
# has them.
LEFT_OUT = {
    "reliefs": {"__all__": {"heights_m"}},
    **{
        rows: {"__all__": {"data"}}
        for rows in ("part_data", "cable_data", "array_data", "limit_data")
    },
}
UNSAID: dict[str, dict[str, Any]] = {
    "links": {"celsius": 20.0, "route": (), "note": ""},
    "outlets": {"company": "none", "tuners": 1},
}
_log = logging.getLogger("evtro")


class Unworkable(InputError):
    """A job that the core cannot work out. It is kept as it is, and can be exported or removed."""

    def __init__(self) -> None:
        super().__init__(
            "Job",
            "it cannot be worked out with these figures.",
            "Look for a figure that cannot be; undo the last change, or export the job and "
            "mend the file.",
            "unworkable",
        )


class JobService:
    """Everything a router needs."""

    def __init__(self, jobs: Jobs, folder: Path) -> None:
        self.jobs = jobs
        self.library = Library(jobs)
        self.terrain = Terrain(self.library, folder / "terrain")
        self.shop: Catalogue = self._fitted()
        self.photos = Photos(folder)
        self.rain = RainMaps()
        self.designs = Designs()
        self.foreseen = Foreseen()
        self.meters: dict[tuple[str, str], tuple[Job, SimulatedMeter]] = {}
        self.lines = JobLines(jobs, self.worked)
        self.days = DayService(jobs, self.worked)
        self.watch = Watch(jobs)
        self.live = Live()
        self.notices: list[str] = []
        # By the value itself: two states of a job may bear one number, never one object.
        self._memo = Memo()
        self._cache: OrderedDict[int, tuple[Job, Answers]] = OrderedDict()
        self._written: WeakKeyDictionary[Answers, dict[str, bytes]] = WeakKeyDictionary()
        # What a change named, for a device that sends it again because the answer was lost.
        self._named: OrderedDict[tuple[str, str], dict[str, str]] = OrderedDict()
        self._lock = threading.Lock()

    def _fitted(self) -> Catalogue:
        """The generic catalogue with the own sheets. A damaged file costs them, not the start."""
        try:
            return shop_with(catalogue.load(), self.library.sheets())
        except (sqlite3.DatabaseError, ValueError):
            _log.exception("the own sheets cannot be read")
            return catalogue.load()

    def refit(self) -> None:
        """Take what the own sheets say now; answers that were worked out with others go."""
        self.shop = self._fitted()
        self.foreseen.forget()
        with self._lock:
            self._cache.clear()

    def tried(self, job: Job, change: Change) -> Answers:
        """What is computed from a job with a change; nothing is kept."""
        changed = self.carried(job, change).job
        return work_out(changed, self.shop, self.profile(changed))

    def catalogue(self, job: Job) -> Catalogue:
        """Parts, cables and antennas, the job's own data first."""
        return stocked(job, self.shop)

    @staticmethod
    def profile(job: Job) -> Profile:
        """The practice profile of a job, with the limits that it carries."""
        return limits(job, shop_profile(job))

    def context(self, job: Job) -> NetworkContext:
        """A job as it is planned, with the parts and limits that it is computed with."""
        return NetworkContext(job, self.catalogue(job), self.profile(job))

    def whole(self, job: Job) -> Job:
        """A job with the data of all that it uses, and the profiles that the tiles at hand give."""
        return carrying(self.terrain.fill(job), self.shop, shop_profile(job))

    @staticmethod
    def today() -> dt.date:
        """The date of a new job."""
        return dt.date.today()

    def answers(self, kept: Kept) -> Answers:
        """What is computed from a job. Raises Unworkable."""
        return self.worked(kept.job)

    def worked(self, job: Job) -> Answers:
        """What is computed from a job's value, remembered for the value: its verdicts at once, tables
        when they are looked at. Raises Unworkable."""
        with self._lock:
            known = self._cache.get(id(job))
            if known is not None and known[0] is job:
                self._cache.move_to_end(id(job))
                return known[1]
        shop = self.shop
        found = self._worked_anew(job, shop)
        self._remember(job, shop, found)
        return found

    def _worked_anew(self, job: Job, shop: Catalogue) -> Answers:
        try:
            found = work_out(job, shop, shop_profile(job), self._memo)
            job_summary(found)
        except InputError:
            raise
        except Exception as error:
            _log.exception("a job cannot be worked out")
            raise Unworkable from error
        return found

    def _remember(self, job: Job, shop: Catalogue, found: Answers) -> None:
        with self._lock:
            if shop is not self.shop:  # other sheets came in meanwhile
                return
            self._cache[id(job)] = job, found
            while len(self._cache) > MOST_CACHED:
                self._cache.popitem(last=False)

    def prove(self, job: Job) -> str:
        """The spine of a job, as it is kept with it. Raises Unworkable, InputError."""
        return job_summary(self.worked(job))

    def add(self, job: Job) -> Kept:
        """Keep a new job, after it was worked out."""
        job = carrying(job, self.shop, shop_profile(job))
        return self.jobs.add(job, line=self.prove(job))

    def change(
        self,
        job_id: str,
        revision: int,
        label: str,
        edit: Callable[[Job], Job],
        notes: list[str] | None = None,
    ) -> bytes:
        """Change a job; the answer is its new view. `notes` may be filled by the edit. Profiles that
        the change asks for are read from the tiles at hand, in the same step."""
        kept = self.jobs.change(
            job_id,
            revision,
            asked(label),
            lambda job: self.whole(edit(job)),
            prove=self.prove,
        )
        self.live.woken(job_id)
        return self.dump(kept, notes)

    def take(self, job_id: str, revision: int, change: Change) -> bytes:
        """Carry out a change that a device asks for; the answer is the job's new view."""
        kept, said, named = self._taken(job_id, revision, change)
        self.live.woken(job_id)
        return self.dump(kept, told=said, named=named)

    def take_each(
        self, job_id: str, revision: int, waited: Sequence[Waited]
    ) -> tuple[bytes, list[Refusable | None]]:
        """Carry out what waited on a device, in its order, each for itself under its key; the answer is the job's
        new view, and why each was refused. What met another device's change, and trouble of the program, end the
        list there: the rest is sent again. Raises JobMissing, and trouble with the first."""
        why: list[Refusable | None] = []
        kept = self.jobs.get(job_id)
        for row in waited:
            try:
                kept = self._taken(job_id, revision, row.change, row.key)[0]
                revision = kept.revision
                why.append(None)
            except (InputError, ValidationError) as error:
                why.append(error)
            except Stale as error:
                # The device goes on from what the other one made.
                kept = self.jobs.get(job_id)
                why.append(error)
                break
            except Exception:
                if not why:
                    raise
                _log.exception("an outbox is taken in part")
                break
        self.live.woken(job_id)
        return self.dump(kept, told=[]), why

    def _taken(
        self, job_id: str, revision: int, change: Change, key: str | None = None
    ) -> tuple[Kept, list[str], dict[str, str]]:
        """The job with a change, what is told with it, and the ids of the rows that it named."""
        said: list[str] = []
        named: dict[str, str] = {}

        sent = change.model_dump_json(exclude_defaults=True)

        def edit(job: Job) -> Job:
            shop = self.shop
            known = self.foreseen.take(job_id, Basis(job, shop, sent, _minute()))
            if known is not None:
                found, changed = known.carried, known.job
                self._remember(changed, shop, known.answers)
            else:
                found = self.carried(job, change)
                changed = self.whole(found.job)
            said[:] = found.notes
            named.update(found.named)
            return changed

        request = asked(words_of(change), sent, key)
        try:
            kept = self.jobs.change(job_id, revision, request, edit, prove=self.prove)
        except InputError as error:
            self._waits(job_id, change, request.key, error)
            raise
        if request.key and self.watch.let_go(job_id, request.key):
            self.live.changed(job_id)
        return kept, said, self._as_named(job_id, request.key, named)

    def foresee(self, job_id: str, change: Change) -> None:
        """Work out what a change would make of a job, with the answers that the request wants to see; nothing is
        kept. A change that would be refused is not foreseen. Raises JobMissing."""
        job, shop = self.jobs.get(job_id).job, self.shop

        def outcome() -> Outcome:
            carried = self.carried(job, change)
            changed = self.whole(carried.job)
            answers = self._worked_anew(changed, shop)
            self._as_shown(answers, shown())
            return Outcome(carried, changed, answers)

        basis = Basis(job, shop, change.model_dump_json(exclude_defaults=True), _minute())
        with suppress(InputError, ValidationError):
            self.foreseen.work(job_id, basis, outcome)

    def _as_named(self, job_id: str, key: str | None, named: dict[str, str]) -> dict[str, str]:
        """The ids of named rows, also where the change was carried out before."""
        if not key:
            return named
        with self._lock:
            if named:
                self._named[job_id, key] = named
                while len(self._named) > MOST_NAMED:
                    self._named.popitem(last=False)
            return named or self._named.get((job_id, key), {})

    def _waits(self, job_id: str, change: Change, key: str | None, error: InputError) -> None:
        """What a device did without a network and the job does not take yet waits there: the others see it."""
        if not isinstance(change, Tick) or not key or not change.waited_s:
            return
        self.watch.keep_back(
            job_id, key, step=change.step, who=(change.by or "").strip(), code=error.code
        )
        self.live.changed(job_id)

    def carried(self, job: Job, change: Change) -> Applied:
        """A job with a change carried out; nothing is kept."""
        bench = ChangeContext(self.shop, shop_profile(job), _minute(), self.steps_of)
        return carry_out(job, change, bench)

    def steps_of(self, job: Job) -> dict[str, Step]:
        """The steps of a job by their keys."""
        return {s.key: s for steps in self.worked(job).steps.values() for s in steps}

    def dump(
        self,
        kept: Kept,
        notes: list[str] | None = None,
        told: list[str] | None = None,
        named: dict[str, str] | None = None,
    ) -> bytes:
        """A kept job's view as JSON, with the answers that the request wants to see."""
        steps = self.jobs.steps(kept.id, device())
        own = shop_profile(kept.job)
        head = JobHead.model_construct(
            id=kept.id,
            revision=kept.revision,
            kept_at=kept.kept_at,
            undo=steps.undo,
            redo=steps.redo,
            units=own.units,
            level=own.level,
            job=kept.job,
            notes=notes or [],
            told=typed_notes() if told is None else told,
            named=named or {},
        )
        answers = self.shown(kept, shown())
        left = {"job": left_out(kept.job)}
        return b'%s,"answers":%s}' % (_HEAD.dump_json(head, exclude=left)[:-1], answers)

    def shown(self, kept: Kept, wanted: tuple[str, ...]) -> bytes:
        """Some answers of a job as JSON; each is written once for a state of the job. Raises
        Unworkable."""
        return self._as_shown(self.answers(kept), wanted)

    def _as_shown(self, answers: Answers, wanted: tuple[str, ...]) -> bytes:
        with self._lock:
            written = self._written.setdefault(answers, {})
        try:
            rows = [
                b'"%s":%s' % (key.partition(":")[0].encode(), _as_json(answers, written, key))
                for key in wanted
            ]
        except InputError:
            raise
        except Exception as error:
            _log.exception("a job's answers cannot be shown")
            raise Unworkable from error
        return b"{%s}" % b",".join(rows)


def _minute() -> str:
    """The moment of now, as what is read then bears it."""
    return dt.datetime.now().isoformat(" ", "minutes")


def left_out(job: Job) -> dict[str, Any]:
    """What a page of a job does without: what only the core needs, and columns of long lists in which every
    row says what is said without a word."""
    found: dict[str, Any] = dict(LEFT_OUT)
    for rows, columns in UNSAID.items():
        plain = {
            name
            for name, value in columns.items()
            if all(getattr(row, name) == value for row in getattr(job, rows))
        }
        if plain:
            found[rows] = {"__all__": plain}
    return found


def exported(jobs: Jobs, shop: Catalogue, job_id: str) -> dict[str, Any]:
    """A job's plain values with the data of all that it uses, as a file has them. One that is no job
    comes as it stands. Raises JobMissing."""
    try:
        job = jobs.get(job_id).job
        return carrying(job, shop, shop_profile(job)).model_dump(mode="json")
    except InputError:
        return jobs.raw(job_id)


def _as_json(answers: Answers, written: dict[str, bytes], key: str) -> bytes:
    if key not in written:
        name, _, part = key.partition(":")
        value: Any
        if name == "part":
            value = answers.coax.detail(part) if part in answers.coax.names else None
        else:
            value = answers.coax.view if key == "coax" else getattr(answers, key)
        written[key] = _ANSWERS[name].dump_json(value)
    return written[key]
