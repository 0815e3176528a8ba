"""Mast, steps and kit: what is worked out on site, on the largest job of the demo; a day of twelve jobs."""

from __future__ import annotations

from timing import median_ms

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.day.plan import DayPlan, Visit
from evtro.core.day.view import DayJob, day_view
from evtro.core.job.context import JobParts
from evtro.core.stations.kit.kit import kit_of
from evtro.core.stations.mast import answer as mast
from evtro.core.stations.steps import steps_of
from evtro.demo.cascade import whimbrel_court
from evtro.demo.progress import DAY
from evtro.demo.world import kept_jobs
from evtro.formats.forecast import simulated

Row = tuple[str, str, str]


def _day() -> Row:
    """Twelve jobs for two people, with a forecast, each worked out already."""
    jobs = []
    shop = catalogue.load()
    for key, job in list(kept_jobs().items())[1:13]:
        found = work_out(job, shop, profiles.load(job.profile))
        jobs.append(
            DayJob(key=key, job=job, steps=found.steps, kit=found.kit, problems=found.problems)
        )
    plan = DayPlan(
        date=DAY,
        crew=("a", "b"),
        visits=tuple(Visit(job=j.key) for j in jobs),
        forecast=simulated(DAY),
    )
    took = median_ms(lambda: day_view(plan, jobs), 5)
    return f"a day of {len(jobs)} jobs", "500 ms", f"{took:.0f} ms"


def on_site() -> list[Row]:
    """Each with all before it worked out already."""
    job, shop = whimbrel_court(), catalogue.load()
    limits = profiles.load(job.profile)
    found = work_out(job, shop, limits)
    ready = found.coax, found.readings

    def steps() -> object:
        return steps_of(
            job,
            limits,
            shop,
            aim=found.aim,
            mast=found.mast,
            earth=found.earth,
            coax=ready[0],
            readings=ready[1],
        )

    return [
        (
            "mast and fixings",
            "5 ms",
            f"{median_ms(lambda: mast.work_out(job, limits), 100):.2f} ms",
        ),
        (
            f"steps of the largest demo job, {sum(len(r) for r in found.steps.values())}",
            "30 ms",
            f"{median_ms(steps, 30):.1f} ms",
        ),
        (
            f"kit and cut list of it, {len(found.kit.reels)} reels",
            "50 ms",
            f"{median_ms(lambda: kit_of(JobParts(job, shop), ready[0], found.earth), 30):.1f} ms",
        ),
        _day(),
    ]
