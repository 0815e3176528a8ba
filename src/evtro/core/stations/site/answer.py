"""Station Site: where we are, what the building is, what is wanted."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ...job import Job, Site, Target
from ...job.problems import Problem
from ...job.targets import Sight, sights
from ...physics.geodesy import look
from ...units.quantities import InputError, gauge
from ...units.severity import State
from .grids import M_PER_DEG
from .position import read_position, show_position
from .skyline import letter

# How well a place must be known: for a terminal's beam and a profile of the ground [m], for a bearing
# [deg]. Common practice, no source.
BEAM_M, PROFILE_M, BEARING_DEG = 5000.0, 300.0, 0.1
EARTH_M = 6_371_000.0


@dataclass(frozen=True)
class Ray:
    """A bearing to a target on the plan [deg true]."""

    name: str
    kind: str
    azimuth_deg: float


@dataclass(frozen=True)
class PlanShape:
    """An outline on the plan in metres east and north of the mount."""

    name: str
    letter: str
    kind: str
    points_m: list[tuple[float, float]]


@dataclass(frozen=True)
class SiteAnswer:
    """The answer of the station."""

    position: str | None
    precision_m: float | None
    outlets: int
    rays: list[Ray]
    shapes: list[PlanShape]
    entry_m: tuple[float, float]
    reach_m: float
    problems: list[Problem]
    state: State
    figure: str


def _at(bearing_deg: float, distance_m: float) -> tuple[float, float]:
    angle = math.radians(bearing_deg)
    return distance_m * math.sin(angle), distance_m * math.cos(angle)


def _building(job: Job) -> PlanShape:
    site = job.site
    centre = _at(site.building_offset_bearing_deg, site.building_offset_m)
    along = _at(site.building_bearing_deg, site.building_length_m / 2)
    across = _at(site.building_bearing_deg + 90, site.building_width_m / 2)
    corners = [
        (centre[0] + s * along[0] + t * across[0], centre[1] + s * along[1] + t * across[1])
        for s, t in ((-1, -1), (1, -1), (1, 1), (-1, 1))
    ]
    return PlanShape("building", "", "building", corners)


def work_out(job: Job) -> SiteAnswer:
    """The plan round the mount, and what is still missing to begin."""
    site = job.site
    shapes = [_building(job)]
    reach = max(math.hypot(x, y) for x, y in shapes[0].points_m)
    for i, row in enumerate(job.obstructions):
        if row.distance_m is None:
            continue
        width = (row.to_deg - row.from_deg) % 360
        bearings = [row.from_deg + width * k / 8 for k in range(9)]
        depth = row.distance_m + max(2.0, 0.1 * row.distance_m)
        near = [_at(b, row.distance_m) for b in bearings]
        far = [_at(b, depth) for b in reversed(bearings)]
        shapes.append(PlanShape(row.name, letter(i), row.outline, near + far))
        if row.distance_m <= 120:
            reach = max(reach, depth)
    known = sights(job)
    rays = [
        Ray(t.name, t.kind, known[t.id].azimuth_deg)
        for t in job.targets
        if t.id in known and t.wanted
    ]
    problems: list[Problem] = []
    good = good_to_m(site)
    placed = site.latitude_deg is not None and site.longitude_deg is not None
    if not placed:
        problems.append(
            _missing("position", "Where is it?", "Type the position or find the place.")
        )
    if not job.outlets:
        problems.append(_missing("outlets", "No outlets yet", "Add each room that wants a signal."))
    state: State = "unknown" if problems else "ok"
    if placed and good is not None and (coarse := _too_coarse(job, good, known)) is not None:
        problems.append(coarse)
        state = state if state == "unknown" and coarse.state != "fail" else coarse.state
    lat, lon = site.latitude_deg, site.longitude_deg
    return SiteAnswer(
        position=show_position(lat, lon) if lat is not None and lon is not None else None,
        precision_m=good if placed else None,
        outlets=len(job.outlets),
        rays=rays,
        shapes=shapes,
        entry_m=_at(site.entry_bearing_deg, site.entry_distance_m),
        reach_m=reach,
        problems=problems,
        state=state,
        figure=f"{len(job.outlets)} outlet{'' if len(job.outlets) == 1 else 's'}",
    )


def good_to_m(site: Site) -> float | None:
    """How far off the position may be [m]: as somebody said, else as it was typed; None where it was
    typed nowhere."""
    if site.position_good_m is not None:
        return site.position_good_m
    try:
        return read_position(site.position_text).good_to_m
    except InputError:
        return None


def _too_coarse(job: Job, good_m: float, known: dict[str, Sight]) -> Problem | None:
    """What the position is used for and not good enough: the beam of a two-way terminal, a profile of
    the ground, the bearing of anything. One problem, the strictest use first."""
    uses: list[tuple[float, State, str]] = []
    if any(d.two_way for d in job.dishes) and job.beams:
        uses.append((BEAM_M, "fail", "the beam of a terminal (common practice, no source)"))
    if job.reliefs:
        uses.append((PROFILE_M, "marginal", "the ground toward a transmitter (the step of a tile)"))
    for target in job.targets:
        sight = known.get(target.id)
        if not target.wanted or sight is None:
            continue
        # A satellite's bearing turns by some (1 + tan elevation) of what the place moves on the earth.
        steep = 1 + math.tan(math.radians(min(max(sight.elevation_deg, 0.0), 89.9)))
        if (
            target.kind == "satellite"
            and good_m < 0.3 * EARTH_M * math.radians(BEARING_DEG) / steep
        ):
            continue
        allowed = _bearing_m(job.site, target, sight)
        uses.append((allowed, "marginal", f"the bearing of {target.name} to {BEARING_DEG:g}°"))
    failed = sorted(u for u in uses if good_m > u[0])
    if not failed:
        return None
    least = failed[0][0]
    state: State = "fail" if any(s == "fail" for _, s, _ in failed) else "marginal"
    names = "; ".join(dict.fromkeys(name for _, _, name in failed[:3]))
    return Problem(
        code="position-coarse",
        station="site",
        state=state,
        place="position",
        title=("The position is not good enough for all it is used for",),
        gauge=gauge(good_m / 1000, "km", high=least / 1000),
        limit=(names,),
        origin="what was typed, or said of it",
        remedy=("Type more figures, take a waypoint of the place, or say how good it is.",),
    )


def _bearing_m(site: Site, target: Target, sight: Sight) -> float:
    """How far off a place may be while a target's bearing stays within a tenth of a degree [m]."""
    if target.kind == "transmitter":
        return sight.distance_km * 1000 * math.tan(math.radians(BEARING_DEG))
    # A satellite's bearing turns by so much where the place moves a little to each side.
    moved = 0.01
    lat, lon = site.latitude_deg or 0.0, site.longitude_deg or 0.0
    height = site.height_m + site.mount_height_m
    seen = look(
        np.array([lat + moved, lat - moved, lat, lat]),
        np.array(
            [
                lon,
                lon,
                lon + moved / math.cos(math.radians(lat)),
                lon - moved / math.cos(math.radians(lat)),
            ]
        ),
        height,
        target.orbit_deg_e or 0.0,
    )
    turned = np.abs((seen.azimuth_deg - sight.azimuth_deg + 180) % 360 - 180).max()
    return moved * M_PER_DEG * BEARING_DEG / max(float(turned), 1e-9)


def _missing(code: str, title: str, remedy: str) -> Problem:
    return Problem(
        code=f"site-{code}",
        station="site",
        state="unknown",
        place="site",
        title=(title,),
        gauge=None,
        limit=("needed to begin",),
        origin="order of the work",
        remedy=(remedy,),
    )
