"""Jobs with their history: every change one transaction, undo and redo over all of it."""

from __future__ import annotations

import datetime as dt
import secrets
import sqlite3
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from pydantic import ValidationError

from evtro.core.job import Job
from evtro.core.job.registry import registry
from evtro.core.job.words import in_words
from evtro.core.units.quantities import InputError

from . import changed_cells, history, rows
from .changed_cells import CellClash
from .fair_lock import FairLock
from .history import Asked
from .migration import token

MOST_REMEMBERED = 32
REMOVED_DAYS = 30


@dataclass(frozen=True)
class Kept:
    """A job as it is kept. `state` names its value: no other value ever has the name."""

    id: str
    revision: int
    state: str
    kept_at: str
    job: Job


@dataclass(frozen=True)
class Steps:
    """What a device can take back and carry out again."""

    undo: str | None
    redo: str | None


@dataclass(frozen=True)
class Head:
    """A job in the list: its names and times, and its spine as it was last worked out, if it holds."""

    id: str
    revision: int
    state: str
    kept_at: str
    name: str
    place: str
    date: str
    line: str | None
    removed_at: str | None


class JobMissing(LookupError):
    """There is no job of that id."""


class JobBroken(InputError):
    """The rows of a job are there, and are no job: `head` says which."""

    def __init__(self, job_id: str, error: InputError) -> None:
        super().__init__(error.field, error.reason, error.remedy, "job-broken")
        self.job_id = job_id


class Stale(Exception):
    """The write saw an older revision, and cannot be told apart from what came since. `clashes` are
    the cells that both changed."""

    def __init__(self, revision: int, clashes: list[CellClash] | None = None) -> None:
        super().__init__(f"revision is {revision}")
        self.revision, self.clashes = revision, clashes or []


class Jobs:
    """All jobs in one database file. Safe to use from several threads.

    `program` names what works jobs out; a spine of another program is not used. With `damage` the
    file was found damaged, and nothing is written to it. `job_type` says what rows a job has."""

    def __init__(
        self,
        connection: sqlite3.Connection,
        program: str = "",
        damage: tuple[str, ...] = (),
        *,
        job_type: type[Job] = Job,
    ) -> None:
        self._db = connection
        self.job_type, self._known = job_type, registry(job_type)
        self.program, self.damage = program, damage
        self._lock = threading.RLock()
        self._turns = FairLock()
        self._latest: dict[str, Kept] = {}

    def close(self) -> None:
        """Close the database; SQLite then folds its log into the file."""
        with self._lock:
            self._db.close()

    @contextmanager
    def reading(self) -> Iterator[sqlite3.Connection]:
        """The database for a look, one thread at a time."""
        with self._lock:
            yield self._db

    @contextmanager
    def transaction(self) -> Iterator[sqlite3.Connection]:
        """The database for a change that is kept whole or not at all."""
        if self.damage:
            raise sqlite3_damaged()
        with self._lock:
            self._db.execute("BEGIN IMMEDIATE")
            try:
                yield self._db
                self._db.execute("COMMIT")
            except sqlite3.IntegrityError as error:
                self._take_back()
                raise InputError(
                    "Reference",
                    "something else in the job still uses this, or names what is not there.",
                    "Remove the use first.",
                    "still-used",
                ) from error
            except BaseException:
                self._take_back()
                raise

    def _take_back(self) -> None:
        # A full disk has SQLite take the transaction back by itself.
        if self._db.in_transaction:
            self._db.execute("ROLLBACK")

    def heads(self, *, removed: bool = False) -> list[Head]:
        """All jobs, or all removed ones, the newest change first; nothing is worked out."""
        with self._lock:
            found = self._db.execute(
                "SELECT j.id, revision, j.state, kept_at, name, place, date, removed_at, "
                "CASE WHEN s.state = j.state AND s.program = ? THEN s.line END AS line "
                "FROM job j LEFT JOIN spine s ON s.job = j.id "
                f"WHERE removed_at IS {'NOT ' if removed else ''}NULL ORDER BY kept_at DESC, j.id",
                (self.program,),
            ).fetchall()
        return [Head(**dict(r)) for r in found]

    def get(self, job_id: str) -> Kept:
        """One job. Raises JobMissing, and JobBroken for rows that make no job."""
        with self._lock:
            head = self._head(job_id)
            known = self._latest.get(job_id)
            if known is not None and known.state == head["state"]:
                return known
            try:
                job = self.job_type.model_validate(rows.read(self._db, head, self._known))
            except ValidationError as error:
                raise JobBroken(job_id, in_words(error)[0]) from error
            kept = Kept(
                id=job_id,
                revision=head["revision"],
                state=head["state"],
                kept_at=head["kept_at"],
                job=job,
            )
            self._remember(kept)
        return kept

    def revision(self, job_id: str) -> int:
        """The revision of a job, whether its rows make a job or not. Raises JobMissing."""
        with self._lock:
            return int(self._head(job_id)["revision"])

    def raw(self, job_id: str) -> rows.Values:
        """A job's plain values, whether they make a job or not. Raises JobMissing."""
        with self._lock:
            return rows.read(self._db, self._head(job_id), self._known)

    def _head(self, job_id: str) -> sqlite3.Row:
        found: sqlite3.Row | None = self._db.execute(
            "SELECT * FROM job WHERE id = ? AND removed_at IS NULL", (job_id,)
        ).fetchone()
        if found is None:
            raise JobMissing(job_id)
        return found

    def _remember(self, kept: Kept) -> None:
        self._latest.pop(kept.id, None)
        self._latest[kept.id] = kept
        while len(self._latest) > MOST_REMEMBERED:
            del self._latest[next(iter(self._latest))]

    def add(self, job: Job, job_id: str | None = None, line: str | None = None) -> Kept:
        """Keep a new job, with its spine where it is worked out. The id must not be there yet, not
        even removed."""
        job_id = job_id or secrets.token_hex(5)
        with self.transaction() as db:
            if db.execute("SELECT 1 FROM job WHERE id = ?", (job_id,)).fetchone():
                raise ValueError(f"there is a job {job_id} already")
            state, now = token(), _now()
            rows.insert(db, job_id, job, now)
            db.execute("UPDATE job SET state = ? WHERE id = ?", (state, job_id))
            self._keep_line(job_id, state, line)
        # The rows hold just this value, for which the answers are known already.
        kept = Kept(id=job_id, revision=0, state=state, kept_at=now, job=job)
        with self._lock:
            self._remember(kept)
        return kept

    def remove(self, job_id: str, revision: int) -> None:
        """Take a job off the list; it can be taken back for thirty days. Raises JobMissing, Stale."""
        with self._turns.of(job_id), self.transaction() as db:
            head = self._head(job_id)
            if head["revision"] != revision:
                raise Stale(head["revision"])
            db.execute("UPDATE job SET removed_at = ? WHERE id = ?", (_now(), job_id))
            self._latest.pop(job_id, None)

    def take_back(self, job_id: str) -> None:
        """Put a removed job back on the list. Raises JobMissing."""
        with self.transaction() as db:
            back = db.execute(
                "UPDATE job SET removed_at = NULL WHERE id = ? AND removed_at IS NOT NULL",
                (job_id,),
            )
            if back.rowcount == 0:
                raise JobMissing(job_id)

    def forget(self, job_id: str) -> None:
        """Delete a job and its history for good. Raises JobMissing."""
        with self.transaction() as db:
            if db.execute("DELETE FROM job WHERE id = ?", (job_id,)).rowcount == 0:
                raise JobMissing(job_id)
            self._latest.pop(job_id, None)

    def forget_old(self, now: dt.datetime) -> int:
        """Delete what was removed more than thirty days ago; returns how many went."""
        before = (now - dt.timedelta(days=REMOVED_DAYS)).isoformat(timespec="milliseconds")
        with self.transaction() as db:
            return db.execute("DELETE FROM job WHERE removed_at < ?", (before,)).rowcount

    def change(
        self,
        job_id: str,
        revision: int,
        asked: Asked | str,
        edit: Callable[[Job], Job],
        prove: Callable[[Job], str] | None = None,
    ) -> Kept:
        """Apply an edit that saw `revision` to the newest state, if what it moves was not moved since.

        `prove` works the new job out before it is kept, and gives its spine; it may raise. What this
        device undid before is no longer there to redo. An edit that changes nothing, or was carried
        out already, keeps the revision. Raises Stale, JobMissing, JobBroken, InputError.
        """
        asked = Asked(asked) if isinstance(asked, str) else asked
        with self._turns.of(job_id):
            kept = self.get(job_id)
            if asked.key is not None and self._was_sent(job_id, asked.key):
                return kept
            job = self._edited(kept, revision, edit)
            with self._lock:
                diff = rows.difference(self._db, job_id, before=kept.job, after=job)
            if not diff:
                return kept
            if kept.revision != revision:
                self._let_in(kept, revision, diff)
            line = None if prove is None else prove(job)
            now, state = _now(), token()
            with self.transaction() as db:
                head = self._head(job_id)
                if head["state"] != kept.state:
                    raise Stale(head["revision"])
                rows.apply(db, job_id, diff, self._known)
                history.keep(
                    db,
                    job_id,
                    asked,
                    at=now,
                    revision=kept.revision + 1,
                    diff=diff,
                    planned=rows.planned(diff, self._known),
                )
                self._moved(job_id, now=now, state=state, diff=diff)
                self._keep_line(job_id, state, line)
            # The rows hold just this; reading them back would only cost time.
            changed = Kept(id=job_id, revision=kept.revision + 1, state=state, kept_at=now, job=job)
            with self._lock:
                self._remember(changed)
        return changed

    def _was_sent(self, job_id: str, key: str) -> bool:
        with self._lock:
            return history.was_sent(self._db, job_id, key)

    def _edited(self, kept: Kept, revision: int, edit: Callable[[Job], Job]) -> Job:
        try:
            return edit(kept.job)
        except InputError as error:
            # The row was there when the write was made.
            if error.code == "row-missing" and revision < kept.revision:
                raise Stale(
                    kept.revision, [CellClash("", error.field, "*", mine="", theirs=error.reason)]
                ) from error
            raise

    def _let_in(self, kept: Kept, seen: int, diff: rows.Diff) -> None:
        with self._lock:
            met = changed_cells.clashes(self._db, kept.id, seen=seen, now=kept.revision, diff=diff)
        if met is None or met:
            raise Stale(kept.revision, met)

    def steps(self, job_id: str, device: str = "") -> Steps:
        """What a device can take back and carry out again, as history calls it."""
        with self._lock:
            back = history.next_step(self._db, job_id, device, back=True)
            forth = history.next_step(self._db, job_id, device, back=False)
        return Steps(back["label"] if back else None, forth["label"] if forth else None)

    def undo(self, job_id: str, revision: int, device: str = "") -> Kept:
        """Take back the newest change of a device, but for what was read on site; at the beginning
        nothing happens. Raises Stale
        where somebody changed the same since, or the device itself has gone on since `revision`."""
        return self._step(job_id, revision, device, back=True)

    def redo(self, job_id: str, revision: int, device: str = "") -> Kept:
        """Carry out again the oldest change that a device took back; at the end nothing happens.
        Raises Stale as undo does."""
        return self._step(job_id, revision, device, back=False)

    def _step(self, job_id: str, revision: int, device: str, *, back: bool) -> Kept:
        with self._turns.of(job_id), self.transaction() as db:
            head = self._head(job_id)
            if head["revision"] < revision or history.last_of(db, job_id, device) > revision:
                raise Stale(head["revision"])
            found = history.next_step(db, job_id, device, back=back)
            if found is not None:
                diff = rows.planned_cells(rows.unpack(found["diff"]), self._known)
                diff = diff[::-1] if back else diff
                met = history.met(db, job_id, diff, self._known, back=back)
                if met:
                    raise Stale(head["revision"], met)
                read = history.read_since(db, job_id, diff, self._known, back=back)
                if read is not None:
                    raise _read_there(found["label"], read)
                rows.apply(db, job_id, diff, self._known, back=back)
                history.mark(db, job_id, found["n"], undone=back, revision=head["revision"] + 1)
                self._moved(job_id, now=_now(), state=token(), diff=diff)
        return self.get(job_id)

    def _moved(self, job_id: str, *, now: str, state: str, diff: rows.Diff) -> None:
        found = self._db.execute(
            "UPDATE job SET revision = revision + 1, kept_at = ?, state = ? "
            "WHERE id = ? RETURNING revision",
            (now, state, job_id),
        ).fetchone()
        changed_cells.keep(self._db, job_id, found["revision"], diff)

    def keep_lines(self, lines: list[tuple[str, str, str]]) -> None:
        """Keep spines that were worked out for states of jobs: id, state, spine."""
        with self.transaction():
            for job_id, state, line in lines:
                self._keep_line(job_id, state, line)

    def _keep_line(self, job_id: str, state: str, line: str | None) -> None:
        if line is not None:
            self._db.execute(
                "INSERT INTO spine (job, state, program, line) SELECT id, ?, ?, ? FROM job "
                "WHERE id = ? ON CONFLICT (job) DO UPDATE SET state = excluded.state, "
                "program = excluded.program, line = excluded.line",
                (state, self.program, line, job_id),
            )


def _read_there(label: str, noun: str) -> InputError:
    return InputError(
        "Undo",
        f"“{label}” brought something at which a {noun} was taken since.",
        f"Remove the {noun} first; what was read on site does not go by undo.",
        "read-since",
    )


def sqlite3_damaged() -> sqlite3.DatabaseError:
    """The error of SQLite for a damaged file, before it meets the damage by itself."""
    error = sqlite3.DatabaseError("the file was found damaged")
    error.sqlite_errorcode = sqlite3.SQLITE_CORRUPT
    return error


def _now() -> str:
    return dt.datetime.now(dt.UTC).isoformat(timespec="milliseconds")
