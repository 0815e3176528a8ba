"""Position and outlets: what is missing, and what the position is too coarse for."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from ....checks.registry import check
from ....job import Site, Target
from ....job.problems import Problem
from ....job.targets import Sight
from ....physics.geodesy import look
from ....units.quantities import gauge
from ....units.severity import State
from ..figures import SiteFigures
from ..grids import M_PER_DEG

# How well a place must be known: for a terminal's beam and a profile of the ground [m], for a bearing
# [deg]. Common practice, no source.
BEAM_M, PROFILE_M, BEARING_DEG = 5000.0, 300.0, 0.1
EARTH_M = 6_371_000.0


@check("site", codes=("site-position",), needs=("placed",))
def missing_position(at: SiteFigures) -> Iterator[Problem]:
    """A site without a position."""
    if not at.placed:
        yield _missing("position", "Where is it?", "Type the position or find the place.")


@check("site", codes=("site-outlets",), needs=("job",))
def missing_outlets(at: SiteFigures) -> Iterator[Problem]:
    """A job without outlets."""
    if not at.job.outlets:
        yield _missing("outlets", "No outlets yet", "Add each room that wants a signal.")


@check("site", codes=("position-coarse",), needs=("good_m", "job", "known", "placed"))
def coarse_position(at: SiteFigures) -> Iterator[Problem]:
    """What the position is used for and not good enough: the beam of a two-way terminal, a profile of
    the ground, the bearing of anything. One problem, the strictest use first."""
    job, good_m = at.job, at.good_m
    if not at.placed or good_m is None:
        return
    uses: list[tuple[float, State, str]] = []
    if any(d.two_way for d in job.dishes) and job.beams:
        uses.append((BEAM_M, "fail", "the beam of a terminal (common practice, no source)"))
    if job.reliefs:
        uses.append((PROFILE_M, "marginal", "the ground toward a transmitter (the step of a tile)"))
    for target in job.targets:
        sight = at.known.get(target.id)
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
        return
    least = failed[0][0]
    state: State = "fail" if any(s == "fail" for _, s, _ in failed) else "marginal"
    names = "; ".join(dict.fromkeys(name for _, _, name in failed[:3]))
    yield Problem(
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
