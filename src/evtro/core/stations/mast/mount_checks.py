"""What a mount bears against what the wind does to it, and what nobody can lift alone."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...job import Dish, Job, Mast
from ...job.changes import Set
from ...job.measured import PLUMB_DEG
from ...job.problems import Problem
from ...units.quantities import Gauge, Phrase, Quantity, gauge
from ...units.severity import State, worst
from .mounts import ANCHORS, ARRAY_KG, BOLTED, BRACKETED, WEAK, Held, dish_kg, tube_kg

LEAN_MOST_DEG = 2.0  # what peaking makes good on one satellite; common practice, no source
LIFT_ALONE_KG = 20.0  # over that it is a lift for two; common practice, no source


@dataclass(frozen=True)
class Use:
    """A figure of the mount against what it bears, and where that comes from."""

    name: str
    gauge: Gauge
    origin: str


@dataclass(frozen=True)
class Weight:
    """One thing that is lifted [kg]; whether its weight is its own or typical of its class."""

    name: str
    kg: float
    own: bool


def weights_of(job: Job, mast: Mast) -> list[Weight]:
    """What is lifted, by its own weight or that typical of its class."""
    tube = [] if job.rig.kind != "none" else [Weight("tube", tube_kg(mast), False)]
    return tube + [
        Weight(
            a.name,
            a.weight_kg
            or (dish_kg(a.diameter_m, a.surface == "mesh") if isinstance(a, Dish) else ARRAY_KG),
            a.weight_kg is not None,
        )
        for a in job.antennas
    ]


TYPICAL = "typical, common practice, no source"


def uses_of(mast: Mast, used: Held) -> list[Use]:
    """Each part of a mount against what it bears."""
    own = "the anchor's own sheet"
    return [
        Use(name, g, origin)
        for name, g, origin in (
            ("pull on the worst bolt", used.pull, TYPICAL if mast.bolt_pull_n is None else own),
            ("across the worst bolt", used.shear, TYPICAL if mast.bolt_shear_n is None else own),
            (
                "turning over the edge",
                used.overturn,
                "statics, safety of 1.5 (common practice, no source)",
            ),
            ("sliding", used.slide, "friction of 0.4, safety of 1.5 (common practice, no source)"),
            ("pole in the ground", used.buried, "IBC 1807.3.2.1, clay or silt (from memory)"),
        )
        if g is not None
    ]


def lean_problems(job: Job) -> list[Problem]:
    """A mast out of plumb: a dish that is peaked on one satellite bears a little, a row of feeds and a motor
    bear none."""
    if job.rig.kind != "none":
        return []
    found = []
    for dish in job.dishes:
        if dish.lean_deg <= PLUMB_DEG + 1e-3:
            continue
        strict = dish.mounting != "fixed" or dish.two_way
        out = strict or dish.lean_deg > LEAN_MOST_DEG
        found.append(
            Problem(
                code="mast-lean",
                station="mast",
                state="fail" if out else "marginal",
                place=dish.name,
                title=(f"The mast of {dish.name} is out of plumb",),
                gauge=gauge(dish.lean_deg, "deg", high=PLUMB_DEG),
                limit=("at most ", Quantity(PLUMB_DEG, "deg"), " in two directions"),
                origin="common practice, no source",
                remedy=(
                    "Plumb it before the dish goes on: shim a bracket or move it. Elevation, bearing and turn are all off "
                    "by it, and the farther from its satellite the more.",
                ),
                ref=dish.id,
            )
        )
    return found


def mount_problems(job: Job, mast: Mast, used: Held, weights: list[Weight]) -> list[Problem]:
    """What the mount does not bear, and what nobody can lift alone."""
    found: list[Problem] = []

    def add(
        code: str,
        state: State,
        place: str,
        title: str,
        *,
        one: Gauge | None,
        limit: Phrase,
        origin: str,
        remedy: Phrase,
        change: Set | None = None,
        effect: Phrase = (),
    ) -> None:
        found.append(
            Problem(
                code=code,
                station="mast",
                state=state,
                place=place,
                title=(title,),
                gauge=one,
                limit=limit,
                origin=origin,
                remedy=remedy,
                change=change,
                effect=effect,
            )
        )

    bolted = job.rig.kind == "none" and mast.fixing in BOLTED
    unproved = (
        bolted and mast.base in WEAK and (mast.bolt_pull_n is None or mast.bolt_shear_n is None)
    )
    if unproved and job.antennas:
        words = ANCHORS[mast.base].words
        render = mast.base == "render"
        add(
            "base-unknown",
            "fail" if render else "marginal",
            "fixing",
            "The bolts hold in render only" if render else "Nobody has said what the bolts hold in",
            one=None,
            limit=("solid base behind each bolt",),
            origin="common practice, no source",
            remedy=(
                f"{words[0].upper()}{words[1:]}, and say it here; or type what a bolt bears there.",
            ),
        )
    for code, one, title in (
        ("bolt-pull", used.pull, "The bolts are pulled out"),
        ("bolt-shear", used.shear, "The bolts bear too much across"),
    ):
        if one is None or one.state == "ok" or unproved:
            continue
        bears = one.high or 0.0
        more = math.ceil(mast.bolts * (one.value or 0.0) / bears / 0.9 / 2) * 2 if bears > 0 else 99
        fits = more <= 12
        add(
            code,
            one.state,
            "fixing",
            title if one.state == "fail" else "The bolts are near what they bear",
            one=one,
            limit=("at most ", Quantity(bears, "n", 0), " each"),
            origin=TYPICAL if mast.bolt_pull_n is None else "the anchor's own sheet",
            remedy=(
                f"Take {more} bolts at each bracket, thicker ones, or set the brackets farther apart.",
            )
            if fits and mast.fixing in BRACKETED
            else (f"Take {more} bolts, thicker ones, or a larger foot plate.",)
            if fits
            else ("Hold it wider apart, hang the antennas lower, or choose a better base.",),
            change=Set(rows="mast", values={"bolts": more}) if fits else None,
            effect=(f"{more} bolts",) if fits else (),
        )
    if used.overturn is not None and used.slide is not None:
        state = worst([used.overturn.state, used.slide.state])
        need = used.ballast_needed_kg or 0.0
        if state != "ok":
            least = float(math.ceil(((used.ballast_easy_kg or 0.0) + 0.5) / 5) * 5)
            add(
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
    if used.buried is not None and used.buried.state != "ok":
        need = used.buried.low or 0.0
        deeper = round(math.ceil(need * 1.1 * 20 + 0.2) / 20, 2)
        fits = deeper < mast.length_m and deeper <= 5
        add(
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
    if job.rig.kind == "none" and mast.fixing in ("pole", "ballast"):
        above = mast.held_m if mast.fixing == "ballast" else 0.0
        for dish in job.dishes:
            lowest = dish.on_mast_m + above - dish.diameter_m / 2
            if lowest < 0:
                add(
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
    if bolted and mast.behind == "service":
        add(
            "service-behind",
            "fail",
            "fixing",
            "A cable or a pipe lies where the bolts are to go",
            one=None,
            limit=("nothing behind a hole",),
            origin="common practice, no source",
            remedy=(
                "Move the mount, look again with the detector from both sides, and say here what you found.",
            ),
        )
    heavy = max(weights, key=lambda w: w.kg, default=None)
    if heavy is not None and heavy.kg > LIFT_ALONE_KG * mast.crew and job.antennas:
        people = math.ceil(heavy.kg / LIFT_ALONE_KG)
        add(
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
    return found
