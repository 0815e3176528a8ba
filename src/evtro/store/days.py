"""Plans of days, one for each date, in the same database file."""

from __future__ import annotations

import datetime as dt

from pydantic import ValidationError

from evtro.core.day.plan import DayPlan
from evtro.core.job.words import in_words

from .jobs import Jobs, Stale


class Days:
    """The plans beside the jobs."""

    def __init__(self, jobs: Jobs) -> None:
        self._jobs = jobs

    def dates(self) -> list[tuple[dt.date, int]]:
        """The dates that have a plan, and how many visits each has."""
        with self._jobs.reading() as db:
            rows = db.execute(
                "SELECT date, json_array_length(plan, '$.visits') AS visits FROM day ORDER BY date"
            ).fetchall()
        return [(dt.date.fromisoformat(r["date"]), int(r["visits"] or 0)) for r in rows]

    def with_job(self, job: str) -> list[dt.date]:
        """The dates on which a job is visited."""
        with self._jobs.reading() as db:
            rows = db.execute(
                "SELECT date FROM day WHERE EXISTS (SELECT 1 FROM json_each(day.plan, '$.visits') AS v "
                "WHERE json_extract(v.value, '$.job') = ?)",
                (job,),
            ).fetchall()
        return [dt.date.fromisoformat(r["date"]) for r in rows]

    def get(self, date: dt.date) -> tuple[int, DayPlan | None]:
        """The plan of a date and its revision; 0 where there is none. Raises InputError for one that cannot
        be read."""
        with self._jobs.reading() as db:
            row = db.execute("SELECT * FROM day WHERE date = ?", (date.isoformat(),)).fetchone()
        if row is None:
            return 0, None
        try:
            return int(row["revision"]), DayPlan.model_validate_json(row["plan"])
        except ValidationError as error:
            raise in_words(error, DayPlan)[0] from error

    def put(self, plan: DayPlan, seen: int) -> int:
        """Keep a plan that saw a revision; the new one. Raises Stale."""
        with self._jobs.transaction() as db:
            row = db.execute(
                "SELECT revision FROM day WHERE date = ?", (plan.date.isoformat(),)
            ).fetchone()
            now = 0 if row is None else int(row["revision"])
            if now != seen:
                raise Stale(now)
            db.execute(
                "INSERT INTO day (date, revision, plan) VALUES (?, ?, ?) ON CONFLICT (date) DO UPDATE "
                "SET revision = excluded.revision, plan = excluded.plan",
                (plan.date.isoformat(), now + 1, plan.model_dump_json()),
            )
        return now + 1

    def remove(self, date: dt.date) -> None:
        """Take a plan away; its jobs stay."""
        with self._jobs.transaction() as db:
            db.execute("DELETE FROM day WHERE date = ?", (date.isoformat(),))
