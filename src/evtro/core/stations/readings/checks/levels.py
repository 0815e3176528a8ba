"""Readings that part from the plan, and quality that is too low where it counts."""

from __future__ import annotations

from collections.abc import Iterator

from ....checks.registry import check
from ....job.problems import Problem
from ....units.quantities import Quantity
from ..figures import ReadFigures


@check("readings", codes=("reading-off",), needs=("carrier", "profile", "rows"))
def parted_from_the_plan(at: ReadFigures) -> Iterator[Problem]:
    """At each place the reading that is furthest from its plan."""
    for row in at.rows:
        off = [c for c in row.cells if c.deviation.state == "fail"]
        if not off:
            continue
        cell = max(off, key=lambda c: abs(c.deviation.value or 0))
        value = cell.deviation.value or 0
        yield Problem(
            code="reading-off",
            station="readings",
            state="fail",
            place=f"{row.name}, {at.carrier(cell).frequency_mhz:.0f} MHz",
            title=(
                f"{row.name}: read ",
                Quantity(abs(value), "db"),
                " below the plan" if value < 0 else " above the plan",
            ),
            gauge=cell.deviation,
            limit=("within ", Quantity(at.profile.reading_tolerance_db, "db", 0), " of the plan"),
            origin=at.profile.reading_origin,
            remedy=(
                "Read the point ahead of it: the fault lies between the last point that "
                "agrees and the first that does not.",
            ),
            ref=row.part,
        )


@check("readings", codes=("quality-low",), needs=("carrier", "profile", "rows"))
def quality_at_outlets(at: ReadFigures) -> Iterator[Problem]:
    """At each outlet the poorest quality that was read."""
    for row in at.rows:
        poor = [c for c in row.cells if c.quality.state == "fail"]
        if not poor or row.kind != "outlet":
            continue
        cell = min(poor, key=lambda c: c.quality.value or 0)
        yield Problem(
            code="quality-low",
            station="readings",
            state="fail",
            place=f"{row.name}, {at.carrier(cell).frequency_mhz:.0f} MHz",
            title=(f"{row.name}: the quality read is too low",),
            gauge=cell.quality,
            limit=("at least ", Quantity(at.profile.margin_db, "db", 0), " over the threshold"),
            origin=at.profile.margin_origin,
            remedy=(
                "Strength without quality: check satellite, polarity, overload and "
                "reflections before raising the level.",
            ),
            ref=row.part,
        )
