"""Station Mast: what holds the antennas up in the wind."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

from pydantic import ValidationError

from ...fixes.comparison import (
    Judgement,
    NamedFigure,
    named_by_problem,
    named_figure,
    regressions,
)
from ...job import Dish, Job, Mast
from ...job.changes import Set
from ...job.problems import Problem
from ...job.profile import Profile
from ...physics.beams import dish_beamwidth_deg, off_axis_loss_db
from ...units.quantities import Gauge, Phrase, Quantity, gauge
from ...units.severity import WORDS, State, worst
from .guys import guy_uses, pressed
from .mount_checks import Use, Weight, lean_problems, mount_problems, uses_of, weights_of
from .mounts import (
    GRAVITY,
    MOUNT_KINDS,
    PORTABLE_KINDS,
    MountKind,
    held,
    inertia_mm4,
)
from .statics import (
    ELEMENT_MM,
    ICE_KG_M3,
    FreeTube,
    guys_of,
    iced_area_m2,
    iced_dish_m2,
    stiffness_nm2,
    worst_nm,
)
from .wind import Pressure, area_m2, pressure

STEEL_SAFETY = 1.5  # on yield; common practice, no source
GALE_PA = 250.0  # of 20 m/s: what reception should outlast; common practice, no source
SWAY_DB = 1.0  # common practice, no source
USUAL_MHZ = 12_000.0  # where no carrier is planned
POINTS = 25


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
class Sway:
    """How far a gale turns a dish about the bracket [deg], and what that costs at its highest frequency [dB]."""

    antenna: str
    name: str
    deg: float
    cost_db: float


@dataclass(frozen=True)
class MastAnswer:
    """The answer of the station. `diagram` is bending moment [N m] by height [m]. The upper bracket
    bears the moment over the held length and all the shear, the lower one the moment's part, the
    other way; both are None while nothing is held. `mount` says what holds it, `uses` how each part of
    that is used; `weights` what is lifted [kg]; `sway` how far a gale turns each dish; `guys_n` what the guys
    hold [N]. It stands as `kind`, `free_m` above what holds it and `held_m` within; `kinds` can be chosen, and
    `fields` are the columns of the mast that its own kind has figures in."""

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
    mount: str
    uses: list[Use]
    weights: list[Weight]
    sway: list[Sway]
    guys_n: float
    kind: str
    kinds: list[MountKind]
    fields: list[str]
    free_m: float
    held_m: float
    problems: list[Problem]
    state: State
    figure: str


def section_modulus_mm3(outer_mm: float, wall_mm: float) -> float:
    """Section modulus of a round tube [mm³], pi (D⁴ - d⁴) / 32 D (R. J. Roark, from memory)."""
    inner = max(outer_mm - 2 * wall_mm, 0.0)
    return math.pi * (outer_mm**4 - inner**4) / (32 * outer_mm)


MOUNTS = {
    "wall": "two brackets on a wall", "eave": "brackets under the eave", "balcony": "brackets on a balcony",
    "chimney": "straps round a chimney", "roof": "a foot on the rafter", "jpole": "a J-pole on its foot plate", "pole": "a pole in the ground",
    "ballast": "a foot with ballast", "loft": "in the loft, out of the wind",
    "tripod": "a tripod", "vehicle": "a vehicle's roof",
}  # fmt: skip


def _stands(job: Job) -> Mast:
    """The mast as its mount makes it: what a pole has in the ground is held; a tripod is a foot with ballast
    that carries the dish alone, as high as it stands above ground."""
    mast = job.mast
    if job.rig.kind == "tripod":
        top = max((a.on_mast_m for a in job.antennas), default=0.5)
        head = max(job.site.mount_height_m - top, 0.0)
        return mast.model_copy(update={"fixing": "ballast", "length_m": top + head, "held_m": head})
    if mast.fixing == "pole":
        return mast.model_copy(update={"held_m": min(mast.buried_m, mast.length_m)})
    if mast.fixing == "jpole":
        return mast.model_copy(update={"held_m": 0.0})  # its foot plate holds it, at one place
    return mast


def work_out(job: Job, profile: Profile) -> MastAnswer:
    """Wind load, moment at the upper bracket and the stress in the tube, against their limits. A change that
    would make anything on the mast worse is not offered."""
    found = _work_out(job, profile)
    return replace(found, problems=[_harmless(p, found, job, profile) for p in found.problems])


def _fits(job: Job, change: Set) -> bool:
    """Whether the row that is changed can hold what it would be given."""
    rows = [job.mast] if change.rows == "mast" else [d for d in job.dishes if d.id == change.id]
    try:
        for row in rows:
            type(row).model_validate({**row.model_dump(), **change.values})
    except ValidationError:
        return False
    return True


def _harmless(problem: Problem, found: MastAnswer, job: Job, profile: Profile) -> Problem:
    change = problem.change
    if not isinstance(change, Set) or change.rows not in ("mast", "dishes"):
        return problem
    if not _fits(job, change):
        return replace(problem, change=None, effect=())
    if change.rows == "mast":
        tried = job.model_copy(update={"mast": job.mast.model_copy(update=change.values)})
    else:
        tried = job.model_copy(
            update={
                "dishes": tuple(
                    d.model_copy(update=change.values) if d.id == change.id else d
                    for d in job.dishes
                )
            }
        )
    before = _figures(found)
    worse = list(regressions(before, _figures(_work_out(tried, profile))))
    if any(one.state != "fail" for key in worse for one in before.named.get(key, [_FINE])):
        return replace(problem, change=None, effect=())
    # What fails already and fails by more is said beside it.
    further = [key for key in worse if isinstance(key, str)]
    if further:
        words = (
            f"; {', '.join(further)} {'is' if len(further) == 1 else 'are'} further outside then"
        )
        return replace(problem, effect=(*problem.effect, words))
    return problem


_FINE = NamedFigure("ok")


def _figures(found: MastAnswer) -> Judgement:
    """Every figure of mast and mount, and what is told of them."""
    named = named_by_problem(found.problems)
    gauges = [("moment", found.moment), ("tube", found.tube), ("held", found.held)]
    for name, one in (*gauges, *((use.name, use.gauge) for use in found.uses)):
        named[name] = [named_figure(one)]
    return Judgement(named=named)


def _work_out(job: Job, profile: Profile) -> MastAnswer:
    mast, wind = _stands(job), profile.wind
    blows = pressure(job, profile)
    if job.rig.kind == "vehicle":
        return _on_vehicle(job, blows)
    over = min(mast.held_m, mast.length_m)
    free = mast.length_m - over
    tube_area = iced_area_m2(mast.outer_mm / 1000 * free, mast.ice_mm, mast.outer_mm)
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
        if mast.ice_mm:
            area = (
                iced_dish_m2(area, mast.ice_mm, antenna.diameter_m)
                if isinstance(antenna, Dish)
                else iced_area_m2(area, mast.ice_mm, ELEMENT_MM)
            )
            words = (*words, ", with ice round it")
        force = wind.coefficient * blows.pa * area
        loads.append(
            WindLoad(
                name=antenna.name,
                kind=antenna.kind,
                antenna=antenna.id,
                height_m=antenna.on_mast_m,
                area_m2=area,
                force_n=force,
                moment_nm=force * antenna.on_mast_m,
                area_words=words,
            )
        )
    stiff = stiffness_nm2(inertia_mm4(mast.outer_mm, mast.wall_mm))
    beam = FreeTube(
        tuple((w.force_n, w.height_m) for w in loads if w.antenna is not None),
        spread_n=tube_force,
        free_m=free,
        stiff_nm2=stiff,
        guys=guys_of(mast),
    )
    heights = [free * i / (POINTS - 1) for i in range(POINTS)]
    shear, total = beam.shear_n, abs(beam.moment_nm(0.0))
    weights = weights_of(job, mast)
    carried = sum(w.kg for w in weights) + _ice_kg(job, mast)
    squeeze = pressed(beam, carried)
    bent = max(total, worst_nm(beam, heights)) * squeeze.moment_amplification
    if mast.fixing == "jpole":
        bent += (
            carried * GRAVITY * mast.standoff_m
        )  # what hangs beside its foot bends the tube, too
    own = mast.moment_limit_nm
    limit = min(wind.moment_limit_nm, own) if own is not None else wind.moment_limit_nm
    origin = "the mount's own limit" if own is not None and own <= limit else wind.origin
    moment = gauge(total, "nm", high=limit, reserve=0.1 * limit)
    bearable = (
        mast.yield_mpa / STEEL_SAFETY * section_modulus_mm3(mast.outer_mm, mast.wall_mm) / 1000
    )
    tube = gauge(bent, "nm", high=bearable, reserve=0.1 * bearable)
    least_held = wind.held_fraction * mast.length_m
    hold = gauge(mast.held_m, "m", low=least_held, high=mast.length_m)
    if job.rig.kind != "none" or mast.fixing in ("pole", "loft", "jpole"):
        hold = Gauge(value=mast.held_m, unit="m", low=None, high=None, reserve=0.0, state="ok")
    problems: list[Problem] = []
    if beam.guys is not None:
        carried += beam.guys.axial_load_n(beam.held_n) / GRAVITY  # the brackets carry it, too
    used = held(mast, beam.moment_nm(0.0), shear, carried)
    problems += mount_problems(job, mast, used, weights) + lean_problems(job)
    if not blows.chosen:
        problems.append(_region_problem(profile, blows))
    if moment.state != "ok":
        problems.append(_moment_problem(moment, limit, origin, total))
    if tube.state != "ok":
        problems.append(
            Problem(
                code="mast-tube",
                station="mast",
                state=tube.state,
                place="tube",
                title=(
                    "The tube bends too much"
                    if tube.state == "fail"
                    else "The tube is near its limit",
                ),
                gauge=tube,
                limit=("at most ", Quantity(bearable, "nm", 0)),
                origin=f"yield strength over {STEEL_SAFETY}",
                remedy=("Take a wider or thicker tube, or hang the antennas lower.",),
            )
        )
    if hold.state != "ok":
        problems.append(
            Problem(
                code="mast-held",
                station="mast",
                state=hold.state,
                place="brackets",
                title=("Too little of the mast is held",),
                gauge=hold,
                limit=("at least ", Quantity(least_held, "m", 2), ", one sixth of the mast"),
                origin=wind.origin,
                remedy=("Set the brackets ", Quantity(least_held, "m", 2), " apart or more."),
                change=Set(
                    rows="mast", values={"held_m": round(math.ceil(least_held * 20) / 20, 2)}
                ),
                effect=("then ", Quantity(least_held, "m", 2), f" is held, {WORDS['ok']}"),
            )
        )
    for antenna in job.antennas:
        if antenna.on_mast_m > free + 0.3:
            problems.append(
                Problem(
                    code="mast-short",
                    station="mast",
                    state="fail",
                    place=antenna.name,
                    title=(f"{antenna.name} hangs above the end of the tube",),
                    gauge=gauge(antenna.on_mast_m, "m", high=free),
                    limit=("at most ", Quantity(free, "m", 2), " above the upper bracket"),
                    origin="geometry of the mast",
                    remedy=("Lower it, or take a longer tube.",),
                    ref=antenna.id,
                )
            )
    uses = uses_of(mast, used)
    uses += guy_uses(mast, beam, squeeze, problems)
    swaying = _sway(job, beam, min(GALE_PA / blows.pa, 1.0) if blows.pa > 0 else 0.0, problems)
    share = [total / limit, bent / bearable, *(_share(u.gauge) for u in uses)]
    percent = 100 * max(share)
    states = [moment.state, tube.state, hold.state, *(p.state for p in problems)]
    return MastAnswer(
        loads=loads,
        pressure_pa=blows.pa,
        pressure_origin=blows.origin,
        moment=moment,
        moment_origin=origin,
        tube=tube,
        held=hold,
        upper_bracket_n=used.upper_n,
        lower_bracket_n=used.lower_n,
        diagram=[(z, beam.moment_nm(z)) for z in heights],
        percent=percent,
        mount=MOUNTS["tripod" if job.rig.kind == "tripod" else mast.fixing],
        uses=uses,
        weights=weights,
        sway=swaying,
        guys_n=beam.held_n,
        **_kind(job),
        free_m=max(mast.length_m - mast.held_m, 0.0),
        held_m=mast.held_m,
        problems=problems,
        state=worst(states) if job.antennas else "unknown",
        figure=_figure(job, mast, percent),
    )


def _kind(job: Job) -> dict[str, Any]:
    """What the mast stands as, what it could stand as, and what is asked of it."""
    key = job.mast.fixing if job.rig.kind == "none" else job.rig.kind
    own = next(k for k in (*MOUNT_KINDS, *PORTABLE_KINDS) if k.key == key)
    return {"kind": key, "kinds": list(MOUNT_KINDS), "fields": list(own.fields)}


def _ice_kg(job: Job, mast: Mast) -> float:
    """What ice adds to carry [kg]: a sleeve round the tube, a layer on each dish."""
    ice = mast.ice_mm / 1000
    sleeve = math.pi * (mast.outer_mm / 1000 + ice) * ice * mast.length_m
    layers = sum(math.pi / 4 * d.diameter_m**2 * ice for d in job.dishes)
    return ICE_KG_M3 * (sleeve + layers)


def _sway(job: Job, beam: FreeTube, share: float, problems: list[Problem]) -> list[Sway]:
    """What a gale, a share of the design wind, does to the aim of each dish."""
    found = []
    for dish in job.dishes:
        high = max(
            (c.frequency_mhz for c in job.carriers if c.target == dish.target), default=USUAL_MHZ
        )
        turned = math.degrees(abs(beam.turn_rad(dish.on_mast_m))) * share
        cost = float(off_axis_loss_db(turned, dish_beamwidth_deg(dish.diameter_m, high)))
        found.append(Sway(dish.id, dish.name, turned, cost))
        if cost > SWAY_DB:
            problems.append(
                Problem(
                    code="mast-sway",
                    station="mast",
                    state="marginal",
                    place=dish.name,
                    title=(f"A gale turns {dish.name} off its satellite",),
                    gauge=gauge(cost, "db", high=SWAY_DB),
                    limit=("at most ", Quantity(SWAY_DB, "db"), " in a gale"),
                    origin="common practice, no source",
                    remedy=(
                        "It turns by ",
                        Quantity(turned, "deg", 2),
                        ". Take a wider or thicker tube, hang it lower, or tie guys.",
                    ),
                    ref=dish.id,
                )
            )
    return found


def _figure(job: Job, mast: Mast, percent: float) -> str:
    if not job.antennas:
        return "no antenna"
    return "out of the wind" if mast.fixing == "loft" else f"{min(percent, 9999):.0f} % of limit"


def _share(one: Gauge) -> float:
    """How much of its limit a figure takes."""
    value = one.value or 0.0
    if one.high is not None:
        return value / one.high if one.high > 0 else (0.0 if value <= 0 else 99.0)
    return (one.low or 0.0) / value if value > 0 else 0.0


def _on_vehicle(job: Job, blows: Pressure) -> MastAnswer:
    """A base that its maker made for the roof: what it bears is the maker's word; Aim looks after the rest."""
    none = Gauge(value=None, unit="nm", low=None, high=None, reserve=0.0, state="ok")
    return MastAnswer(
        loads=[],
        pressure_pa=blows.pa,
        pressure_origin=blows.origin,
        moment=none,
        moment_origin="the base's own sheet",
        tube=none,
        held=none,
        upper_bracket_n=None,
        lower_bracket_n=None,
        diagram=[],
        percent=0.0,
        mount=MOUNTS["vehicle"],
        uses=[],
        weights=weights_of(job, job.mast),
        sway=[],
        guys_n=0.0,
        **_kind(job),
        free_m=max((a.on_mast_m for a in job.antennas), default=0.1),
        held_m=0.0,
        problems=[],
        state="ok" if job.antennas else "unknown",
        figure="vehicle's roof" if job.antennas else "no antenna",
    )


def _region_problem(profile: Profile, blows: Pressure) -> Problem:
    first, *others = profile.wind.regions
    return Problem(
        code="wind-region",
        station="mast",
        state="marginal",
        place="wind",
        title=("Which wind does this place get?",),
        gauge=gauge(blows.pa, "pa"),
        limit=(f"reckoned as {first.name} until it is chosen",),
        origin=blows.origin,
        remedy=(
            f"Choose the wind region ({first.name}; {'; '.join(r.name for r in others)}) or type the "
            "design wind speed of the local building office.",
        ),
    )


def _moment_problem(moment: Gauge, limit: float, origin: str, total: float) -> Problem:
    return Problem(
        code="mast-moment",
        station="mast",
        state=moment.state,
        place="fixing",
        title=(
            "The moment at the fixing is too large"
            if moment.state == "fail"
            else "The moment at the fixing is near its limit",
        ),
        gauge=moment,
        limit=("at most ", Quantity(limit, "nm", 0)),
        origin=origin,
        remedy=(
            "Hang the antennas ",
            Quantity(100 * (1 - limit / total), "pct", 0),
            " lower, take a smaller one, or have an engineer prove the mount.",
        )
        if total > limit
        else ("Keep any further antenna off this mast.",),
    )
