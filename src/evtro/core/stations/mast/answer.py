"""Station Mast: what holds the antennas up in the wind."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...job import Job
from ...job.changes import Set
from ...job.problems import Problem
from ...job.profile import Profile
from ...units.quantities import (
    Gauge,
    Phrase,
    Quantity,
    State,
    gauge,
    worst,
)
from .wind import Pressure, area_m2, pressure

STEEL_SAFETY = 1.5  # on yield; common practice, no source
ANTENNA_SPACING_M = 0.8  # least distance between antennas; common practice, no source


@dataclass(frozen=True)
class WindLoad:
    """The wind on one thing: force [N] at a height above the upper bracket [m], moment [N m]."""

    name: str
    kind: str
    antenna: str | None
    height_m: float
    area_m2: float
    force_n: float
    moment_nm: float
    area_words: Phrase = ()


@dataclass(frozen=True)
class MastAnswer:
    """The answer of the station. `diagram` is bending moment [N m] by height [m]. The upper bracket
    bears the moment over the held length and all the shear, the lower one the moment's part, the
    other way; both are None while nothing is held."""

    loads: list[WindLoad]
    pressure_pa: float
    pressure_origin: str
    moment: Gauge
    moment_origin: str
    tube: Gauge
    held: Gauge
    upper_bracket_n: float | None
    lower_bracket_n: float | None
    diagram: list[tuple[float, float]]
    percent: float
    problems: list[Problem]
    state: State
    figure: str


def section_modulus_mm3(outer_mm: float, wall_mm: float) -> float:
    """Section modulus of a round tube [mm³], pi (D⁴ - d⁴) / 32 D (R. J. Roark, from memory)."""
    inner = max(outer_mm - 2 * wall_mm, 0.0)
    return math.pi * (outer_mm**4 - inner**4) / (32 * outer_mm)


def moments_nm(loads: list[WindLoad], free_m: float, points: int = 25) -> list[tuple[float, float]]:
    """Bending moment along the free tube; the tube's own wind load is spread evenly."""
    tube = next(load for load in loads if load.antenna is None)
    rows = []
    for i in range(points):
        z = free_m * i / (points - 1)
        own = tube.force_n / free_m * (free_m - z) ** 2 / 2 if free_m > 0 else 0.0
        lifted = sum(
            load.force_n * (load.height_m - z)
            for load in loads
            if load.antenna is not None and load.height_m > z
        )
        rows.append((z, own + lifted))
    return rows


def work_out(job: Job, profile: Profile) -> MastAnswer:
    """Wind load, moment at the upper bracket and the stress in the tube, against their limits."""
    mast, wind = job.mast, profile.wind
    blows = pressure(job, profile)
    held = min(mast.held_m, mast.length_m)
    free = mast.length_m - held
    tube_area = mast.outer_mm / 1000 * free
    tube_force = wind.coefficient * blows.pa * tube_area
    loads = [
        WindLoad(
            name="tube",
            kind="tube",
            antenna=None,
            height_m=free / 2,
            area_m2=tube_area,
            force_n=tube_force,
            moment_nm=tube_force * free / 2,
        )
    ]
    for antenna in job.antennas:
        area, words = area_m2(job, antenna)
        force = wind.coefficient * blows.pa * area
        loads.append(
            WindLoad(name=antenna.name, kind=antenna.kind, antenna=antenna.id, height_m=antenna.on_mast_m, area_m2=area, force_n=force,
                     moment_nm=force * antenna.on_mast_m, area_words=words)
        )  # fmt: skip
    shear = sum(load.force_n for load in loads)
    total = sum(load.moment_nm for load in loads)
    own = mast.moment_limit_nm
    limit = min(wind.moment_limit_nm, own) if own is not None else wind.moment_limit_nm
    origin = "the mount's own limit" if own is not None and own <= limit else wind.origin
    moment = gauge(total, "nm", high=limit, reserve=0.1 * limit)
    bearable = (
        mast.yield_mpa / STEEL_SAFETY * section_modulus_mm3(mast.outer_mm, mast.wall_mm) / 1000
    )
    tube = gauge(total, "nm", high=bearable, reserve=0.1 * bearable)
    least_held = wind.held_fraction * mast.length_m
    hold = gauge(mast.held_m, "m", low=least_held, high=mast.length_m)
    problems: list[Problem] = []
    if not blows.chosen:
        problems.append(_region_problem(profile, blows))
    if moment.state != "in":
        problems.append(_moment_problem(moment, limit, origin, total))
    if tube.state != "in":
        problems.append(
            Problem(code="mast-tube", station="mast", state=tube.state, place="tube",
                    title=("The tube bends too much" if tube.state == "out" else "The tube is near its "
                     "limit",), gauge=tube, limit=("at most ", Quantity(bearable, "nm", 0)),
                    origin=f"yield strength over {STEEL_SAFETY}",
                    remedy=("Take a wider or thicker tube, or hang the antennas lower.",))
        )  # fmt: skip
    if hold.state != "in":
        problems.append(
            Problem(code="mast-held", station="mast", state=hold.state, place="brackets",
                    title=("Too little of the mast is held",), gauge=hold,
                    limit=("at least ", Quantity(least_held, "m", 2), ", one sixth of the mast"),
                    origin=wind.origin,
                    remedy=("Set the brackets ", Quantity(least_held, "m", 2), " apart or more."),
                    change=Set(rows="mast", values={"held_m": round(math.ceil(least_held * 20) / 20, 2)}),
                    effect=("then ", Quantity(least_held, "m", 2), " is held, in"))
        )  # fmt: skip
    for antenna in job.antennas:
        if antenna.on_mast_m > free + 0.3:
            problems.append(
                Problem(code="mast-short", station="mast", state="out", place=antenna.name,
                        title=(f"{antenna.name} hangs above the end of the tube",),
                        gauge=gauge(antenna.on_mast_m, "m", high=free),
                        limit=("at most ", Quantity(free, "m", 2), " above the upper bracket"),
                        origin="geometry of the mast", remedy=("Lower it, or take a longer tube.",),
                        ref=antenna.id)
            )  # fmt: skip
    percent = 100 * max(total / limit, total / bearable)
    states = [moment.state, tube.state, hold.state, *(p.state for p in problems)]
    return MastAnswer(
        loads=loads, pressure_pa=blows.pa, pressure_origin=blows.origin, moment=moment, moment_origin=origin, tube=tube, held=hold,
        upper_bracket_n=total / held + shear if held > 0 else None, lower_bracket_n=total / held if held > 0 else None, diagram=moments_nm(loads, free), percent=percent, problems=problems,
        state=worst(states) if job.antennas else "todo",
        figure=f"{percent:.0f} % of limit" if job.antennas else "no antenna",
    )  # fmt: skip


def _region_problem(profile: Profile, blows: Pressure) -> Problem:
    first, *others = profile.wind.regions
    return Problem(
        code="wind-region", station="mast", state="near", place="wind", title=("Which wind does this place get?",),
        gauge=gauge(blows.pa, "pa"), limit=(f"reckoned as {first.name} until it is chosen",), origin=blows.origin,
        remedy=(f"Choose the wind region ({first.name}; {'; '.join(r.name for r in others)}) or type the "
         "design wind speed of the local building office.",),
    )  # fmt: skip


def _moment_problem(moment: Gauge, limit: float, origin: str, total: float) -> Problem:
    return Problem(
        code="mast-moment", station="mast", state=moment.state, place="fixing",
        title=("The moment at the fixing is too large" if moment.state == "out"
         else "The moment at the fixing is near its limit",),
        gauge=moment, limit=("at most ", Quantity(limit, "nm", 0)), origin=origin,
        remedy=("Hang the antennas ", Quantity(100 * (1 - limit / total), "pct", 0),
         " lower, take a smaller one, or have an engineer prove the mount.")
        if total > limit else ("Keep any further antenna off this mast.",),
    )  # fmt: skip
