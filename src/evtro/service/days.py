"""Days of several jobs: kept by date, worked out from what each of their jobs says now."""

from __future__ import annotations

import datetime as dt
import threading
from collections import OrderedDict
from collections.abc import Callable

from evtro.core.answers import Answers
from evtro.core.day.plan import DayPlan
from evtro.core.day.view import DayJob, DayView, day_view
from evtro.core.day.weather import Outlook, outlook
from evtro.core.job import Job
from evtro.core.units.quantities import InputError
from evtro.store.days import Days
from evtro.store.jobs import JobMissing, Jobs

MOST_KEPT = 64


class DayService:
    """The days, and what they need of each job, remembered for its value."""

    def __init__(self, jobs: Jobs, worked: Callable[[Job], Answers]) -> None:
        self.kept = Days(jobs)
        self._jobs, self._worked = jobs, worked
        self._known: OrderedDict[str, tuple[str, DayJob]] = OrderedDict()
        self._lock = threading.Lock()

    def view(self, plan: DayPlan) -> DayView:
        """A plan on the clock."""
        return day_view(plan, [self._job(v.job) for v in plan.visits])

    def plan(self, date: dt.date) -> tuple[int, DayPlan]:
        """The plan of a date, an empty one where there is none, and its revision."""
        revision, plan = self.kept.get(date)
        if plan is not None:
            return revision, plan
        offset = dt.datetime.combine(date, dt.time(12)).astimezone().utcoffset()
        return 0, DayPlan(
            date=date, utc_offset_min=round((offset or dt.timedelta()).total_seconds() / 60)
        )

    def outlook(self, job: str, now: dt.datetime) -> Outlook | None:
        """What is forecast for a job: on the day of its visit that is nearest, at this minute where that is today."""
        near = sorted(self.kept.with_job(job), key=lambda d: abs((d - now.date()).days))
        plan = self.kept.get(near[0])[1] if near else None
        if plan is None:
            return None
        return outlook(plan, now.hour * 60 + now.minute if plan.date == now.date() else None)

    def _job(self, key: str) -> DayJob | None:
        """What a day needs of a job; None for one that is not there or cannot be worked out."""
        try:
            kept = self._jobs.get(key)
            with self._lock:
                known = self._known.get(key)
                if known is not None and known[0] == kept.state:
                    self._known.move_to_end(key)
                    return known[1]
            answers = self._worked(kept.job)
            found = DayJob(
                key=key,
                job=kept.job,
                steps=answers.steps,
                kit=answers.kit,
                problems=answers.problems,
            )
        except (JobMissing, InputError):
            return None
        with self._lock:
            self._known[key] = kept.state, found
            while len(self._known) > MOST_KEPT:
                self._known.popitem(last=False)
        return found
