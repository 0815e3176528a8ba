"""Station Sky: what can be seen from here, and what is in the way."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ...job import Carrier, Dish, Job, Obstruction, Target
from ...job.problems import Problem
from ...job.profile import Profile
from ...job.targets import Sight, arc, sight_of
from ...physics.beams import dish_beamwidth_deg
from ...physics.geodesy import look, refraction_deg
from ...units.quantities import Gauge, Phrase, Quantity, gauge
from ...units.severity import RANK, State, worst
from ..site.skyline import (
    Edges,
    Silhouette,
    View,
    clear_of,
    edges_of,
    nearest_point,
    room,
    silhouettes,
)
from .dish_size import size_problems
from .interference import NeighbourSatellite
from .lines import NOTHING, Survey, TargetSight
from .receiving import ReceivingDish
from .remedies import Remedy, Wants, asked_deg, closing_years, remedies
from .spots import SpotLine, compare
from .transmitters import transmitter

CLEAR_RESERVE_DEG = 0.5  # how well an inclinometer is read in the hand; common practice, no source
LOW_DEG = 5.0


@dataclass(frozen=True)
class Neighbour:
    """A satellite on the arc that the job does not want, but that a dish may find."""

    id: str
    name: str
    orbit_deg_e: float
    azimuth_deg: float
    elevation_deg: float


@dataclass(frozen=True)
class SkyAnswer:
    """The answer of the station. `later` holds the outlines of what grows, in `until`."""

    targets: list[TargetSight]
    neighbours: list[Neighbour]
    skyline: list[Silhouette]
    later: list[Silhouette]
    arc: list[tuple[float, float, float]]
    keep_clear_deg: float
    until: int
    clear: int
    clear_now: int
    least: Gauge
    least_target: str | None
    closes: int | None
    closes_target: str | None
    remedies: list[Remedy]
    spots: list[SpotLine]
    problems: list[Problem]
    state: State
    figure: str


def dish_of(job: Survey | Job, target: str) -> Dish | None:
    """The dish that looks at a satellite, by its main feed or by another one."""
    main = next((d for d in job.dishes if d.target == target), None)
    if main is not None:
        return main
    side = {f.antenna for f in job.feeds if f.target == target}
    return next((d for d in job.dishes if d.id in side), None)


def wants_of(job: Survey, targets: list[Target], seen: dict[str, Sight]) -> Wants:
    """The directions of satellites with what each must keep clear."""
    own = job.site.keep_clear_deg
    margins, halves, radii = [], [], []
    for target in targets:
        dish = dish_of(job, target.id)
        waves = [c.frequency_mhz for c in job.carriers if c.target == target.id]
        two_way = dish is not None and dish.two_way
        wide = job.keep_clear_two_way_deg if two_way else job.keep_clear_deg
        margins.append(wide if own is None else own)
        width = dish_beamwidth_deg(dish.diameter_m, min(waves)) if dish and waves else 0.0
        halves.append(width / 2)
        radii.append(dish.diameter_m / 2 if dish else 0.0)
    return Wants(
        azimuth_deg=np.array([seen[t.id].azimuth_deg for t in targets]),
        elevation_deg=np.array([seen[t.id].elevation_deg for t in targets]),
        margin_deg=np.array(margins),
        half_beam_deg=np.array(halves),
        radius_m=np.array(radii),
    )


def work_out(job: Job, profile: Profile) -> SkyAnswer:
    """Clearance of every target over the skyline, with the problems and what to do."""
    return _worked_out(
        Survey(
            site=job.site,
            obstructions=job.obstructions,
            targets=job.targets,
            carriers=job.carriers,
            dishes=job.dishes,
            arrays=job.arrays,
            feeds=job.feeds,
            spots=job.spots,
            reliefs=job.reliefs,
            date=job.date,
            keep_clear_deg=profile.keep_clear_deg,
            keep_clear_two_way_deg=profile.keep_clear_two_way_deg,
            keep_clear_origin=profile.keep_clear_origin,
            margin_reserve_db=profile.margin_reserve_db,
        )
    )


@lru_cache(maxsize=64)
def _worked_out(job: Survey) -> SkyAnswer:
    height, years = job.site.mount_height_m, float(job.site.years_ahead)
    skyline = silhouettes(job.obstructions, height)
    growing = {o.id for o in job.obstructions if o.growth_m_year > 0 and years > 0}
    later = [s for s in silhouettes(job.obstructions, height, years) if s.id in growing]
    wanted = [t for t in job.targets if t.wanted and t.kind != "line"]
    seen = {t.id: s for t in wanted if (s := sight_of(job.site, t)) is not None}
    sats = [t for t in wanted if t.kind == "satellite" and t.id in seen]
    wants = wants_of(job, sats, seen)
    now = edges_of(job.obstructions, View(height))
    then = edges_of(job.obstructions, View(height, years=years)) if growing else now
    closing = closing_years(wants, job.obstructions, height)
    problems: list[Problem] = []
    offered: list[Remedy] = []
    rows: list[TargetSight] = []
    for target in wanted:
        sight = seen.get(target.id)
        if sight is None:
            rows.append(
                TargetSight(
                    id=target.id,
                    name=target.name,
                    kind=target.kind,
                    sight=None,
                    gauge=gauge(None, "deg"),
                    now_deg=None,
                    nearest=None,
                    nearest_azimuth_deg=0,
                    nearest_elevation_deg=0,
                    room=NOTHING,
                    closes=None,
                    lifted_deg=None,
                    field_dbuvm=None,
                    loss_db=None,
                    loss_source="",
                    state="unknown",
                )
            )
        elif target.kind == "satellite":
            i = sats.index(target)
            row = _satellite(
                job,
                target,
                sight=sight,
                want=wants.one(i),
                now=now,
                then=then,
                closing=closing[i],
                problems=problems,
            )
            if row.state == "fail" and sight.visible:
                offered += remedies(
                    wants, i, target=target.id, rows=job.obstructions, height_m=height, years=years
                )
            rows.append(row)
        else:
            rows.append(transmitter(job, target, sight=sight, now=now, problems=problems))
    problems = [_with_remedy(p, offered) for p in problems]
    problems += _sizes(job, sats, seen)
    problems.sort(key=lambda p: -RANK[p.state])
    satellites = [r for r in rows if r.kind == "satellite" and r.gauge.value is not None]
    least = min(satellites, key=_slack, default=None)
    soonest = min(
        (r for r in rows if r.closes is not None), key=lambda r: r.closes or 0, default=None
    )
    clear_count = sum(r.state in ("ok", "marginal") for r in rows)
    now_count = sum(
        r.state in ("ok", "marginal")
        or (r.now_deg is not None and r.gauge.low is not None and r.now_deg >= r.gauge.low)
        for r in rows
    )
    own = job.site.keep_clear_deg
    return SkyAnswer(
        targets=rows,
        neighbours=_neighbours(job),
        skyline=skyline,
        later=later,
        arc=arc(job.site),
        keep_clear_deg=_keep_clear(job) if own is None else own,
        until=job.date.year + job.site.years_ahead,
        clear=clear_count,
        clear_now=now_count,
        least=least.gauge if least else gauge(None, "deg"),
        least_target=least.name if least else None,
        closes=soonest.closes if soonest else None,
        closes_target=soonest.name if soonest else None,
        remedies=offered,
        spots=compare(job, wants, names=[t.name for t in sats], height_m=height, years=years),
        problems=problems,
        state=worst(
            [r.state for r in rows] + [p.state for p in problems if p.code.startswith("dish-")]
        ),
        figure=f"{clear_count} of {len(rows)} clear" if rows else "no targets",
    )


def _sizes(job: Survey, sats: list[Target], seen: dict[str, Sight]) -> list[Problem]:
    """Dishes that are too small for their satellite or its neighbours, judged without a run."""
    found: list[Problem] = []
    own: dict[str, list[Carrier]] = {}
    for carrier in job.carriers:
        own.setdefault(carrier.target, []).append(carrier)
    known = {
        t.id: (t, s) for t in job.targets if t.kind == "satellite" and (s := sight_of(job.site, t))
    }
    for target in sats:
        dish = dish_of(job, target.id)
        if dish is None:
            continue
        others = [(t, s) for k, (t, s) in known.items() if k != target.id and s.visible]
        on_dish = {f.target for f in job.feeds if f.antenna == dish.id} | {dish.target}
        near = tuple(
            NeighbourSatellite(
                name=t.name,
                azimuth_deg=s.azimuth_deg,
                elevation_deg=s.elevation_deg,
                carriers=tuple(own[t.id]),
                tilt_deg=None if t.circular else s.tilt_deg,
            )
            for t, s in others
            if t.id in own
        )
        plain = ReceivingDish(dish.diameter_m, dish.efficiency, ground_k=dish.ground_k)
        found += size_problems(
            "sky",
            dish.id,
            name=dish.name,
            target=target,
            dish=plain,
            sight=seen[target.id],
            carriers=tuple(own.get(target.id, ())),
            others=near,
            reserve_db=job.margin_reserve_db,
            arc=[
                (t.name, s.azimuth_deg, s.elevation_deg) for t, s in others if t.id not in on_dish
            ],
        )
    return found


def _keep_clear(job: Survey) -> float:
    """The profile's circle: the wider one as soon as a dish of the job transmits."""
    two_way = any(d.two_way for d in job.dishes)
    return job.keep_clear_two_way_deg if two_way else job.keep_clear_deg


def _slack(row: TargetSight) -> float:
    return (row.gauge.value or 0.0) - (row.gauge.low or 0.0)


def _neighbours(job: Survey) -> list[Neighbour]:
    others = [t for t in job.targets if not t.wanted and t.orbit_deg_e is not None]
    lat, lon = job.site.latitude_deg, job.site.longitude_deg
    if not others or lat is None or lon is None:
        return []
    seen = look(lat, lon, job.site.height_m, np.array([t.orbit_deg_e for t in others], float))
    return [
        Neighbour(
            id=t.id,
            name=t.name,
            orbit_deg_e=t.orbit_deg_e or 0.0,
            azimuth_deg=float(a),
            elevation_deg=float(e),
        )
        for t, a, e in zip(others, seen.azimuth_deg, seen.elevation_deg, strict=True)
        if e > 0
    ]


def _with_remedy(problem: Problem, offered: list[Remedy]) -> Problem:
    """A clearance problem with the first remedy that was found for it."""
    if problem.code != "clearance":
        return problem
    first = next((r for r in offered if r.target == problem.ref), None)
    if first is None:
        words: Phrase = ("No mast, no step aside and no saw frees it: take another place.",)
        if "distance" in problem.fields:
            words = ("Measure how far away it is; then what frees the view is computed.",)
        return problem.with_remedy(words, None, ())
    return problem.with_remedy(first.title, first.change, first.effect)


def _satellite(
    job: Survey,
    target: Target,
    sight: Sight,
    want: Wants,
    now: Edges,
    then: Edges,
    closing: int | None,
    problems: list[Problem],
) -> TargetSight:
    lifted = float(refraction_deg(sight.elevation_deg)) if sight.elevation_deg < LOW_DEG else None
    origin = "this job's own rule" if job.site.keep_clear_deg is not None else job.keep_clear_origin
    nearest: str | None = None
    point = (sight.azimuth_deg, sight.elevation_deg)
    today: float | None = None
    if then.ids:
        asked = asked_deg(want, then)[0]
        angle = clear_of(then, sight.azimuth_deg, sight.elevation_deg)[0]
        k = int((angle - asked).argmin())
        if asked[k] > want.margin_deg[0] + 1e-6:
            origin = "half a beamwidth and the dish's radius"
        judged = gauge(float(angle[k]), "deg", low=float(asked[k]), reserve=CLEAR_RESERVE_DEG)
        shape = job.obstructions[k]
        nearest, point = shape.id, nearest_point(then, k, *point)
        today = float(clear_of(now, sight.azimuth_deg, sight.elevation_deg)[0, k])
        free = room(then, sight.azimuth_deg, sight.elevation_deg)
    else:
        judged = gauge(180.0, "deg", low=float(want.margin_deg[0]))
        free, today = NOTHING, 180.0
    state: State = judged.state
    if not sight.visible:
        state = "fail"
        problems.append(
            Problem(
                code="below-horizon",
                station="sky",
                state="fail",
                place=target.name,
                title=(f"{target.name} stands below the horizon here",),
                gauge=gauge(sight.elevation_deg, "deg", low=0.0),
                limit=("above ", Quantity(0, "deg", 0)),
                origin="geometry of the place",
                remedy=(
                    "Choose a satellite nearer to this longitude, or check the position's signs.",
                ),
                ref=target.id,
            )
        )
    elif state == "fail":
        open_now = today is not None and judged.low is not None and today >= judged.low
        year = job.date.year + (closing or 0)
        problems.append(
            Problem(
                code="clearance",
                station="sky",
                state="fail",
                place=target.name,
                title=(
                    f"{target.name} goes behind {shape.name} in {year}"
                    if open_now
                    else f"{shape.name} is too close to {target.name}",
                ),
                gauge=judged,
                limit=(Quantity(judged.low or 0.0, "deg"), " keep-clear"),
                origin=origin,
                remedy=(),
                ref=target.id,
                fields=("distance",) if all(o.distance_m is None for o in job.obstructions) else (),
            )
        )
    elif nearest and _bare(shape, job) and _short(judged):
        problems.append(
            Problem(
                code="bare",
                station="sky",
                state="marginal",
                place=target.name,
                title=(f"{shape.name} was surveyed without leaves",),
                gauge=judged,
                limit=(Quantity(judged.low or 0.0, "deg"), " keep-clear in summer"),
                origin=origin,
                remedy=(
                    "Judge by the outline of the crown: a test with the meter in winter sees through "
                    "twigs that close the path in leaf.",
                ),
                ref=target.id,
            )
        )
    return TargetSight(
        id=target.id,
        name=target.name,
        kind="satellite",
        sight=sight,
        gauge=judged,
        now_deg=today,
        nearest=nearest,
        nearest_azimuth_deg=point[0],
        nearest_elevation_deg=point[1],
        room=free,
        closes=None if closing is None else job.date.year + closing,
        lifted_deg=lifted,
        field_dbuvm=None,
        loss_db=None,
        loss_source="",
        state=state,
    )


def _short(judged: Gauge) -> bool:
    return (judged.value or 0.0) - (judged.low or 0.0) < 3.0


def _bare(row: Obstruction, job: Survey) -> bool:
    """Whether a tree that sheds its leaves stands bare on the job's date."""
    winter = (11, 12, 1, 2, 3) if (job.site.latitude_deg or 0.0) >= 0 else (5, 6, 7, 8, 9)
    return row.nature == "leafy" and job.date.month in winter
