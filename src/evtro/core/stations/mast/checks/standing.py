"""What a mast stands on: ballast, a pole in the ground, the least that is held."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ....checks.registry import check
from ....job.changes import Set
from ....job.problems import Problem
from ....units.quantities import Quantity
from ....units.severity import WORDS, worst
from ..figures import MastFigures
from .problem import problem


@check("mast", codes=("ballast-low",), needs=("used",))
def ballast(at: MastFigures) -> Iterator[Problem]:
    """A foot with ballast in the wind."""
    used = at.used
    if used.overturn is not None and used.slide is not None:
        state = worst([used.overturn.state, used.slide.state])
        need = used.ballast_needed_kg or 0.0
        if state != "ok":
            least = float(math.ceil(((used.ballast_easy_kg or 0.0) + 0.5) / 5) * 5)
            yield problem(
                "ballast-low",
                state,
                "ballast",
                "The wind turns it over"
                if used.overturn.state == "fail"
                else "The wind pushes it along"
                if used.slide.state == "fail"
                else "The ballast is hardly enough",
                one=used.overturn if used.overturn.state != "ok" else used.slide,
                limit=("at least ", Quantity(need, "kg", 0), " of ballast"),
                origin="statics, safety of 1.5 (common practice, no source)",
                remedy=(
                    "Lay ",
                    Quantity(least, "kg", 0),
                    " on it or take a wider foot; ask first whether the roof bears that.",
                ),
                change=Set(rows="mast", values={"ballast_kg": least}),
                effect=(Quantity(least, "kg", 0), " of ballast"),
            )


@check(
    "mast",
    codes=("pole-shallow",),
    needs=(
        "mast",
        "used",
    ),
)
def pole_in_the_ground(at: MastFigures) -> Iterator[Problem]:
    """A pole against what the ground holds."""
    mast, used = at.mast, at.used
    if used.buried is not None and used.buried.state != "ok":
        need = used.buried.low or 0.0
        deeper = round(math.ceil(need * 1.1 * 20 + 0.2) / 20, 2)
        fits = deeper < mast.length_m and deeper <= 5
        yield problem(
            "pole-shallow",
            used.buried.state,
            "footing",
            "The pole does not stand deep enough",
            one=used.buried,
            limit=("at least ", Quantity(need, "m", 2)),
            origin="IBC 1807.3.2.1, clay or silt (from memory)",
            remedy=(
                "Set it ",
                Quantity(deeper, "m", 2),
                " deep in concrete, or pour a wider footing; the ground of "
                "the place has the last word.",
            )
            if fits
            else ("Take a wider footing, a lower mast, or guys.",),
            change=Set(rows="mast", values={"buried_m": deeper}) if fits else None,
            effect=(Quantity(deeper, "m", 2), " in the ground") if fits else (),
        )


@check(
    "mast",
    codes=("mast-held",),
    needs=(
        "held_gauge",
        "least_held_m",
        "profile",
    ),
)
def held_length(at: MastFigures) -> Iterator[Problem]:
    """How much of the mast is held."""
    hold, least = at.held_gauge, at.least_held_m
    if hold.state != "ok":
        yield problem(
            "mast-held",
            hold.state,
            "brackets",
            "Too little of the mast is held",
            one=hold,
            limit=("at least ", Quantity(least, "m", 2), ", one sixth of the mast"),
            origin=at.profile.wind.origin,
            remedy=("Set the brackets ", Quantity(least, "m", 2), " apart or more."),
            change=Set(rows="mast", values={"held_m": round(math.ceil(least * 20) / 20, 2)}),
            effect=("then ", Quantity(least, "m", 2), f" is held, {WORDS['ok']}"),
        )
