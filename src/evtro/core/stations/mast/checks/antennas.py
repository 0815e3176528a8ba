"""What hangs on the mast: too low, too high, out of plumb, swaying, too heavy to lift alone."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ....checks.registry import check
from ....job.changes import Set
from ....job.measured import PLUMB_DEG
from ....job.problems import Problem
from ....units.quantities import Quantity, gauge
from ..figures import MastFigures
from ..uses import LIFT_ALONE_KG
from .problem import problem

SWAY_DB = 1.0  # common practice, no source
LEAN_MOST_DEG = 2.0  # what peaking makes good on one satellite; common practice, no source


@check(
    "mast",
    codes=("dish-low",),
    needs=(
        "job",
        "mast",
    ),
)
def dishes_in_the_ground(at: MastFigures) -> Iterator[Problem]:
    """Dishes that would stand in the ground."""
    job, mast = at.job, at.mast
    if job.rig.kind == "none" and mast.fixing in ("pole", "ballast"):
        above = mast.held_m if mast.fixing == "ballast" else 0.0
        for dish in job.dishes:
            lowest = dish.on_mast_m + above - dish.diameter_m / 2
            if lowest < 0:
                yield problem(
                    "dish-low",
                    "fail",
                    dish.name,
                    f"{dish.name} would stand in the ground",
                    one=gauge(dish.on_mast_m + above, "m", low=dish.diameter_m / 2),
                    limit=("its middle at least ", Quantity(dish.diameter_m / 2, "m", 2), " up"),
                    origin="geometry of the mast",
                    remedy=("Hang it higher, by ", Quantity(-lowest, "m", 2), " at least."),
                    change=Set(
                        rows="dishes",
                        id=dish.id,
                        values={"on_mast_m": round(dish.on_mast_m - lowest + 0.1, 2)},
                    ),
                    effect=(Quantity(dish.on_mast_m - lowest + 0.1, "m", 2), " up"),
                )


@check(
    "mast",
    codes=("mast-short",),
    needs=(
        "free_m",
        "job",
    ),
)
def above_the_tube(at: MastFigures) -> Iterator[Problem]:
    """Antennas that hang above the end of the tube."""
    for antenna in at.job.antennas:
        if antenna.on_mast_m > at.free_m + 0.3:
            yield problem(
                "mast-short",
                "fail",
                antenna.name,
                f"{antenna.name} hangs above the end of the tube",
                one=gauge(antenna.on_mast_m, "m", high=at.free_m),
                limit=("at most ", Quantity(at.free_m, "m", 2), " above the upper bracket"),
                origin="geometry of the mast",
                remedy=("Lower it, or take a longer tube.",),
                ref=antenna.id,
            )


@check("mast", codes=("mast-lean",), needs=("job",))
def out_of_plumb(at: MastFigures) -> Iterator[Problem]:
    """A dish that is peaked on one satellite bears a little, a row of feeds and a motor bear none."""
    if at.job.rig.kind != "none":
        return
    for dish in at.job.dishes:
        if dish.lean_deg <= PLUMB_DEG + 1e-3:
            continue
        strict = dish.mounting != "fixed" or dish.two_way
        yield problem(
            "mast-lean",
            "fail" if strict or dish.lean_deg > LEAN_MOST_DEG else "marginal",
            dish.name,
            f"The mast of {dish.name} is out of plumb",
            one=gauge(dish.lean_deg, "deg", high=PLUMB_DEG),
            limit=("at most ", Quantity(PLUMB_DEG, "deg"), " in two directions"),
            origin="common practice, no source",
            remedy=(
                "Plumb it before the dish goes on: shim a bracket or move it. Elevation, bearing and turn are all off "
                "by it, and the farther from its satellite the more.",
            ),
            ref=dish.id,
        )


@check("mast", codes=("mast-sway",), needs=("sway",))
def sway(at: MastFigures) -> Iterator[Problem]:
    """Dishes that a gale turns off their satellite."""
    for one in at.sway:
        if one.cost_db > SWAY_DB:
            yield problem(
                "mast-sway",
                "marginal",
                one.name,
                f"A gale turns {one.name} off its satellite",
                one=gauge(one.cost_db, "db", high=SWAY_DB),
                limit=("at most ", Quantity(SWAY_DB, "db"), " in a gale"),
                origin="common practice, no source",
                remedy=(
                    "It turns by ",
                    Quantity(one.deg, "deg", 2),
                    ". Take a wider or thicker tube, hang it lower, or tie guys.",
                ),
                ref=one.antenna,
            )


@check(
    "mast",
    codes=("lift",),
    needs=(
        "job",
        "mast",
        "weights",
    ),
)
def lifting(at: MastFigures) -> Iterator[Problem]:
    """What nobody can lift alone."""
    mast = at.mast
    heavy = max(at.weights, key=lambda w: w.kg, default=None)
    if heavy is not None and heavy.kg > LIFT_ALONE_KG * mast.crew and at.job.antennas:
        people = math.ceil(heavy.kg / LIFT_ALONE_KG)
        yield problem(
            "lift",
            "marginal",
            heavy.name,
            f"{heavy.name} is too heavy for {'one' if mast.crew == 1 else mast.crew}",
            one=gauge(heavy.kg, "kg", high=LIFT_ALONE_KG * mast.crew),
            limit=("at most ", Quantity(LIFT_ALONE_KG, "kg", 0), " each"),
            origin="common practice, no source",
            remedy=(f"Lift it with {people}, in parts where it comes apart, or with a hoist.",),
            change=Set(rows="mast", values={"crew": min(people, 6)}),
            effect=(f"{people} people",),
        )
