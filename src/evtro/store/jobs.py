"""Jobs with their history: every change one transaction, undo and redo over all of it."""

from __future__ import annotations

import datetime as dt
import secrets
import sqlite3
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from evtro.core.job import Job
from evtro.core.quantities import InputError

from . import rows

MOST_REMEMBERED = 32


@dataclass(frozen=True)
class Kept:
    """A job as it is kept."""

    id: str
    revision: int
    kept_at: str
    undo: str | None
    redo: str | None
    job: Job


class JobMissing(LookupError):
    """There is no job of that id."""


class Stale(Exception):
    """The write saw an older revision; `kept` is the current state."""

    def __init__(self, kept: Kept) -> None:
        super().__init__(f"revision is {kept.revision}")
        self.kept = kept


class Jobs:
    """All jobs in one database file. Safe to use from several threads."""

    def __init__(self, connection: sqlite3.Connection) -> None:
        self._db = connection
        self._lock = threading.RLock()
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
        with self._lock:
            self._db.execute("BEGIN IMMEDIATE")
            try:
                yield self._db
                self._db.execute("COMMIT")
            except sqlite3.IntegrityError as error:
                self._db.execute("ROLLBACK")
                raise InputError(
                    "Reference",
                    "something else in the job still uses this, or names what is not there.",
                    "Remove the use first.",
                    "still-used",
                ) from error
            except BaseException:
                self._db.execute("ROLLBACK")
                raise

    def list(self) -> list[tuple[str, int, str, Job]]:
        """Id, revision, time and value of every job, the newest change first."""
        with self._lock:
            ids = self._db.execute("SELECT id FROM job ORDER BY kept_at DESC, id").fetchall()
            kept = [self.get(r["id"]) for r in ids]
        return [(k.id, k.revision, k.kept_at, k.job) for k in kept]

    def revisions(self) -> list[tuple[str, int]]:
        """Id and revision of every job, the newest change first."""
        with self._lock:
            found = self._db.execute("SELECT id, revision FROM job ORDER BY kept_at DESC, id")
            return [(r["id"], r["revision"]) for r in found]

    def get(self, job_id: str) -> Kept:
        """One job. Raises JobMissing."""
        with self._lock:
            known = self._latest.get(job_id)
            if known is not None and self._stamp(job_id) == (known.revision, known.kept_at):
                return known
            found = rows.read(self._db, job_id)
            if found is None:
                raise JobMissing(job_id)
            head, job = found
            labels = dict(
                self._db.execute(
                    "SELECT n - ?, label FROM change WHERE job = ? AND n IN (?, ?)",
                    (head["change_at"], job_id, head["change_at"], head["change_at"] + 1),
                ).fetchall()
            )
            kept = Kept(
                job_id, head["revision"], head["kept_at"], labels.get(0), labels.get(1), job
            )
            self._remember(kept)
        return kept

    def _stamp(self, job_id: str) -> tuple[int, str] | None:
        """Revision and time in the file, which another process may have changed."""
        found = self._db.execute(
            "SELECT revision, kept_at FROM job WHERE id = ?", (job_id,)
        ).fetchone()
        return None if found is None else (found["revision"], found["kept_at"])

    def _remember(self, kept: Kept) -> None:
        self._latest.pop(kept.id, None)
        self._latest[kept.id] = kept
        while len(self._latest) > MOST_REMEMBERED:
            del self._latest[next(iter(self._latest))]

    def add(self, job: Job, job_id: str | None = None) -> Kept:
        """Keep a new job."""
        job_id = job_id or secrets.token_hex(5)
        self._latest.pop(job_id, None)
        with self.transaction() as db:
            rows.insert(db, job_id, job, _now())
        return self.get(job_id)

    def remove(self, job_id: str) -> None:
        """Delete a job and its history. Raises JobMissing."""
        with self.transaction() as db:
            if db.execute("DELETE FROM job WHERE id = ?", (job_id,)).rowcount == 0:
                raise JobMissing(job_id)
            self._latest.pop(job_id, None)

    def change(self, job_id: str, revision: int, label: str, edit: Callable[[Job], Job]) -> Kept:
        """Apply an edit to the job as of `revision`. Raises Stale, JobMissing, InputError.

        What was undone before is no longer there to redo. An edit that changes nothing keeps the
        revision.
        """
        with self.transaction() as db:
            kept = self._current(job_id, revision)
            job = edit(kept.job)
            diff = rows.difference(kept.job, job)
            if not diff:
                return kept
            at = db.execute("SELECT change_at FROM job WHERE id = ?", (job_id,)).fetchone()[0]
            db.execute("DELETE FROM change WHERE job = ? AND n > ?", (job_id, at))
            rows.apply(db, job_id, diff)
            now = _now()
            db.execute(
                "INSERT INTO change (job, n, at, label, diff) VALUES (?, ?, ?, ?, ?)",
                (job_id, at + 1, now, label, rows.pack(diff)),
            )
            self._moved(job_id, at + 1, now)
        # The rows hold just this; reading them back would only cost time.
        changed = Kept(job_id, revision + 1, now, label, None, job)
        with self._lock:
            self._remember(changed)
        return changed

    def undo(self, job_id: str, revision: int) -> Kept:
        """Take back the newest change in force; at the beginning nothing happens."""
        with self.transaction() as db:
            self._current(job_id, revision)
            found = db.execute(
                "SELECT c.n, c.diff FROM change c JOIN job j ON j.id = c.job AND j.change_at = c.n "
                "WHERE c.job = ?",
                (job_id,),
            ).fetchone()
            if found:
                rows.apply(db, job_id, rows.unpack(found["diff"])[::-1], back=True)
                self._moved(job_id, found["n"] - 1, _now())
        return self.get(job_id)

    def redo(self, job_id: str, revision: int) -> Kept:
        """Carry out again the oldest change that was taken back; at the end nothing happens."""
        with self.transaction() as db:
            self._current(job_id, revision)
            found = db.execute(
                "SELECT c.n, c.diff FROM change c "
                "JOIN job j ON j.id = c.job AND j.change_at + 1 = c.n WHERE c.job = ?",
                (job_id,),
            ).fetchone()
            if found:
                rows.apply(db, job_id, rows.unpack(found["diff"]))
                self._moved(job_id, found["n"], _now())
        return self.get(job_id)

    def _current(self, job_id: str, revision: int) -> Kept:
        kept = self.get(job_id)
        if kept.revision != revision:
            raise Stale(kept)
        return kept

    def _moved(self, job_id: str, change_at: int, now: str) -> None:
        self._db.execute(
            "UPDATE job SET revision = revision + 1, change_at = ?, kept_at = ? WHERE id = ?",
            (change_at, now, job_id),
        )

    def settings(self) -> dict[str, str]:
        """The interface's own settings."""
        with self._lock:
            return dict(self._db.execute("SELECT name, value FROM setting").fetchall())

    def set_settings(self, values: dict[str, str]) -> dict[str, str]:
        """Keep settings; returns all of them."""
        with self.transaction() as db:
            db.executemany(
                "INSERT INTO setting (name, value) VALUES (?, ?) "
                "ON CONFLICT (name) DO UPDATE SET value = excluded.value",
                list(values.items()),
            )
        return self.settings()


def _now() -> str:
    return dt.datetime.now(dt.UTC).isoformat(timespec="milliseconds")
