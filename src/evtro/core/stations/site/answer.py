"""Station Site: where we are, what the building is, what is wanted."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...checks.composer import compose
from ...checks.registry import checks_of
from ...job import Job
from ...job.problems import Problem
from ...job.targets import sights
from ...units.severity import State, worst
from . import checks
from .figures import SiteFigures
from .position import show_position
from .skyline import letter

CHECKS = checks_of(checks)


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
    at = SiteFigures(job, known)
    problems = [told.problem for told in compose(CHECKS, at)]
    state: State = worst([p.state for p in problems], "ok")
    lat, lon = site.latitude_deg, site.longitude_deg
    return SiteAnswer(
        position=show_position(lat, lon) if lat is not None and lon is not None else None,
        precision_m=at.good_m if at.placed else None,
        outlets=len(job.outlets),
        rays=rays,
        shapes=shapes,
        entry_m=_at(site.entry_bearing_deg, site.entry_distance_m),
        reach_m=reach,
        problems=problems,
        state=state,
        figure=f"{len(job.outlets)} outlet{'' if len(job.outlets) == 1 else 's'}",
    )
