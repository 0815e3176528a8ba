"""What is going on at a job's site besides its rows: who is alone there and by when a word is due, and what a device
keeps back because it was not taken yet. Both end by themselves and are no part of a job's file."""

from __future__ import annotations

import time
from dataclasses import dataclass

from .jobs import Jobs

HELD_DAYS = 7.0  # what a lost phone kept back is forgotten then


@dataclass(frozen=True)
class Alone:
    """Who works alone at a job, whom to call, how often a word is due [min], since when and by when [s since 1970]."""

    job: str
    who: str
    call: str
    every_min: int
    since: float
    due: float


@dataclass(frozen=True)
class HeldBack:
    """A step that was done on a device and not taken, by the key that it is sent with: who did it, why it waits,
    since when [s since 1970]."""

    key: str
    step: str
    who: str
    code: str
    at: float


class Watch:
    """Who is alone, and what waits. Safe to use from several threads."""

    def __init__(self, jobs: Jobs) -> None:
        self._jobs = jobs

    def alone(self, job: str | None = None) -> list[Alone]:
        """Who is alone at a job, or at any; the soonest due first."""
        with self._jobs.reading() as db:
            rows = db.execute(
                "SELECT alone.* FROM alone JOIN job ON job.id = alone.job WHERE job.removed_at IS NULL "
                "AND (? IS NULL OR alone.job = ?) ORDER BY due",
                (job, job),
            ).fetchall()
        return [Alone(**dict(r)) for r in rows]

    def began(self, job: str, who: str, *, call: str, every_min: int) -> None:
        """Somebody is alone from now on. Raises JobMissing."""
        self._jobs.revision(job)
        now = time.time()
        with self._jobs.transaction() as db:
            db.execute(
                "INSERT INTO alone VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT (job) DO UPDATE SET who = excluded.who, "
                "call = excluded.call, every_min = excluded.every_min, since = excluded.since, due = excluded.due",
                (job, who, call, every_min, now, now + 60 * every_min),
            )

    def heard(self, job: str) -> None:
        """A word came: the next is due a whole span from now."""
        with self._jobs.transaction() as db:
            db.execute(
                "UPDATE alone SET due = ? + 60 * every_min WHERE job = ?", (time.time(), job)
            )

    def over(self, job: str) -> None:
        """Nobody is alone there any more."""
        with self._jobs.transaction() as db:
            db.execute("DELETE FROM alone WHERE job = ?", (job,))

    def held_back(self, job: str) -> list[HeldBack]:
        """What devices keep back of a job, the oldest first."""
        with self._jobs.reading() as db:
            rows = db.execute(
                "SELECT key, step, who, code, at FROM held_back WHERE job = ? AND at > ? ORDER BY at",
                (job, time.time() - 86_400 * HELD_DAYS),
            ).fetchall()
        return [HeldBack(**dict(r)) for r in rows]

    def keep_back(self, job: str, key: str, *, step: str, who: str, code: str) -> None:
        """A device could not send a step: it waits there, under the key of its sending."""
        with self._jobs.transaction() as db:
            db.execute("DELETE FROM held_back WHERE at < ?", (time.time() - 86_400 * HELD_DAYS,))
            db.execute(
                "INSERT INTO held_back VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT (job, key) DO UPDATE SET code = excluded.code",
                (job, key, step, who, time.time(), code),
            )

    def let_go(self, job: str, key: str) -> bool:
        """What waited was taken, or taken back; whether anything did."""
        with self._jobs.reading() as db:
            there = db.execute(
                "SELECT 1 FROM held_back WHERE job = ? AND key = ?", (job, key)
            ).fetchone()
        if there is None:
            return False
        with self._jobs.transaction() as db:
            db.execute("DELETE FROM held_back WHERE job = ? AND key = ?", (job, key))
        return True
