"""Mast, steps and kit: what is worked out on site, on the largest job of the demo."""

from __future__ import annotations

from timing import median_ms

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.stations.kit.kit import kit_of
from evtro.core.stations.mast import answer as mast
from evtro.core.stations.steps import steps_of
from evtro.demo.cascade import whimbrel_court

Row = tuple[str, str, str]


def on_site() -> list[Row]:
    """Each with all before it worked out already."""
    job, shop = whimbrel_court(), catalogue.load()
    limits = profiles.load(job.profile)
    found = work_out(job, shop, limits)
    ready = found.coax, found.readings

    def steps() -> object:
        return steps_of(job, limits, shop, aim=found.aim, mast=found.mast, earth=found.earth, coax=ready[0],
                        readings=ready[1])  # fmt: skip

    return [
        ("mast and fixings", "5 ms", f"{median_ms(lambda: mast.work_out(job, limits), 100):.2f} ms"),
        (f"steps of the largest demo job, {sum(len(r) for r in found.steps.values())}", "30 ms",
         f"{median_ms(steps, 30):.1f} ms"),
        (f"kit and cut list of it, {len(found.kit.reels)} reels", "50 ms",
         f"{median_ms(lambda: kit_of(job, shop, ready[0], found.earth), 30):.1f} ms"),
    ]  # fmt: skip
