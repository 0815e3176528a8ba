"""The way from a transmitter to the house: the ground between, what it costs, what arrives.

A profile runs from the house (distance 0) to the transmitter. Heights are metres above sea.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ...job import Obstruction, Site, Target, TerrainProfile
from ...job.targets import EFFECTIVE_EARTH_KM, smooth_ground_m, smooth_horizon_km
from ...physics.geodesy import Floats, bearing_and_distance
from ...physics.propagation.clutter import clutter_loss_db
from ...physics.propagation.diffraction import (
    Diffraction,
    delta_bullington,
    edge_loss_db,
    edge_parameter,
)
from ...units.phrases import listed, say
from ...units.quantities import Phrase, Quantity

AT_SITE_KM = 0.02
SMOOTH_STEPS = 120
RELIEF_MOST = 601
RELIEF_STEP_KM = 0.1
BRIDGED_KM = 1.0  # a hole of this width is bridged by a straight line; common practice, no source
SAME_PLACE_DEG = 2e-6
SMOOTH = "smooth earth at the house's height"
SMOOTH_LOW = "smooth earth at the transmitter's height"
# How far a forecast may be off [dB, one standard deviation]: with the terrain and in sight, with
# the terrain and over an edge, over a smooth earth, by an own figure. Common practice, no source.
SPREAD_DB = {"sight": 4.0, "edge": 6.0, "smooth": 10.0, "own": 4.0}


@dataclass(frozen=True)
class Ground:
    """A profile to compute with. `known` is false where the smooth earth stands for it; `words`
    say what it is and which part is missing."""

    distance_km: tuple[float, ...]
    ground_m: tuple[float, ...]
    known: bool
    words: str
    missing: Phrase
    short: bool = False  # the tile ends before the way does


@dataclass(frozen=True)
class Way:
    """A way worked out: the profile and the loss of each frequency [dB]. A horizon is told only where
    a smooth earth stands for the ground; over a profile the ground itself says what hides."""

    target: str
    bearing_deg: float
    distance_km: float
    horizon_km: float | None
    house_m: float
    antenna_m: float
    ground: Ground
    diffraction: Diffraction
    near_db: Floats
    near_name: str
    clutter_db: Floats
    own_loss_db: float | None
    spread_db: float


def steps_for(distance_km: float) -> int:
    """How many points a profile of a length has: one each 100 m, 51 to 601."""
    return min(max(math.ceil(distance_km / RELIEF_STEP_KM) + 1, 51), RELIEF_MOST)


def relief_for(
    job_reliefs: tuple[TerrainProfile, ...], site: Site, target: Target
) -> TerrainProfile | None:
    """The stored profile of a transmitter, if it was read for these two places."""
    for relief in job_reliefs:
        if relief.target == target.id and holds(relief, site, target):
            return relief
    return None


def holds(relief: TerrainProfile, site: Site, target: Target) -> bool:
    """Whether a profile was read between just these two places."""
    pairs = (
        (relief.from_latitude_deg, site.latitude_deg),
        (relief.from_longitude_deg, site.longitude_deg),
        (relief.to_latitude_deg, target.latitude_deg),
        (relief.to_longitude_deg, target.longitude_deg),
    )
    return all(b is not None and abs(a - b) <= SAME_PLACE_DEG for a, b in pairs)


def ground_of(
    relief: TerrainProfile | None, distance_km: float, smooth_m: float, smooth: str = SMOOTH
) -> Ground:
    """The profile to compute with: the stored one, its small holes bridged, or a smooth earth at
    `smooth_m` above sea, called `smooth`, where the tile does not reach."""
    if relief is None or len(relief.heights_m) < 3:
        steps = np.linspace(0.0, distance_km, SMOOTH_STEPS)
        return Ground(
            distance_km=tuple(steps.tolist()),
            ground_m=(smooth_m,) * SMOOTH_STEPS,
            known=False,
            words=smooth,
            missing=("no elevation tile was read for this way",),
        )
    d = np.linspace(0.0, distance_km, len(relief.heights_m))
    h = np.array([np.nan if v is None else v for v in relief.heights_m])
    gaps = _gaps(d, np.isnan(h))
    wide = [g for g in gaps if g[1] - g[0] > BRIDGED_KM or g[0] <= 0 or g[1] >= distance_km]
    if wide:
        parts = listed(say("{} to {}", Quantity(a, "km"), Quantity(b, "km")) for a, b in wide)
        return Ground(
            distance_km=tuple(d.tolist()),
            ground_m=(smooth_m,) * len(d),
            known=False,
            words=smooth,
            short=True,
            missing=say(
                "{} does not cover {} of {}", relief.source, parts, Quantity(distance_km, "km")
            ),
        )
    missing: Phrase = ()
    if gaps:
        h = np.interp(d, d[~np.isnan(h)], h[~np.isnan(h)])
        missing = (f"{len(gaps)} hole{'s' if len(gaps) > 1 else ''} bridged",)
    return Ground(
        distance_km=tuple(d.tolist()),
        ground_m=tuple(h.tolist()),
        known=True,
        words=relief.source,
        missing=missing,
    )


def _gaps(d: Floats, empty: np.typing.NDArray[np.bool_]) -> list[tuple[float, float]]:
    """Stretches without a height, from the last known point to the next one [km]."""
    found: list[tuple[float, float]] = []
    start: int | None = None
    for i, hole in enumerate([*empty.tolist(), False]):
        if hole and start is None:
            start = i
        elif not hole and start is not None:
            low = d[start - 1] if start > 0 else 0.0
            high = d[i] if i < len(d) else d[-1]
            found.append((float(low), float(high)))
            start = None
    return found


def near_loss_db(
    obstructions: tuple[Obstruction, ...],
    bearing_deg: float,
    distance_km: float,
    elevation_deg: float,
    above_ground_m: float,
    frequency_mhz: Floats,
    terrain_known: bool,
) -> tuple[Floats, str]:
    """Loss over the worst thing near by that stands in a bearing [dB], as an endless edge, and its
    name. What has no distance is left out; beyond 500 m the terrain counts where it is known."""
    worst, name = np.zeros_like(frequency_mhz), ""
    for row in obstructions:
        inside = (bearing_deg - row.from_deg) % 360 <= (row.to_deg - row.from_deg) % 360
        if not inside or row.distance_m is None or row.distance_m < 2 or row.outline == "eave":
            continue
        d1 = row.distance_m / 1000
        if d1 >= distance_km or (terrain_known and row.distance_m > 500):
            continue
        top = row.above_m
        if top is None:
            top = math.tan(math.radians(row.top_deg or 0.0)) * row.distance_m
        over = top + row.seen_from_m - above_ground_m
        over -= math.tan(math.radians(elevation_deg)) * row.distance_m
        loss = edge_loss_db(edge_parameter(over, d1, distance_km - d1, frequency_mhz))
        if loss.max(initial=0.0) > worst.max(initial=0.0):
            worst, name = loss, row.name
    return worst, name


@lru_cache(maxsize=1024)
def way_of(
    site: Site,
    target: Target,
    relief: TerrainProfile | None,
    obstructions: tuple[Obstruction, ...],
    above_ground_m: float,
    frequencies_mhz: tuple[float, ...],
    horizontal: tuple[bool, ...],
) -> Way | None:
    """The way to one transmitter for its carriers; None while a place is unknown, or where both
    places are the same."""
    lat, lon = site.latitude_deg, site.longitude_deg
    if None in (lat, lon, target.latitude_deg, target.longitude_deg):
        return None
    bearing, away = bearing_and_distance(
        lat or 0.0, lon or 0.0, target.latitude_deg or 0.0, target.longitude_deg or 0.0
    )
    distance = float(away)
    if distance < AT_SITE_KM:
        return None
    smooth_m = smooth_ground_m(site, target)
    ground = ground_of(
        relief, distance, smooth_m, SMOOTH if smooth_m == site.height_m else SMOOTH_LOW
    )
    house = ground.ground_m[0] if ground.known else site.height_m
    antenna = house + above_ground_m
    f = np.array(frequencies_mhz)
    over = delta_bullington(
        ground.distance_km,
        ground.ground_m,
        start_m=antenna,
        end_m=target.height_m,
        frequency_mhz=f,
        horizontal=np.array(horizontal),
    )
    rise = math.degrees(
        (target.height_m - antenna) / 1000 / distance - distance / (2 * EFFECTIVE_EARTH_KM)
    )
    near, name = near_loss_db(
        obstructions,
        float(bearing),
        distance_km=distance,
        elevation_deg=rise,
        above_ground_m=above_ground_m,
        frequency_mhz=f,
        terrain_known=ground.known,
    )
    clutter = (
        np.full_like(f, site.clutter_db)
        if site.clutter_db is not None
        else clutter_loss_db(site.surroundings, above_ground_m, f)
    )
    kind = (
        "own"
        if target.own_loss_db is not None
        else "smooth"
        if not ground.known
        else "sight"
        if over.in_sight
        else "edge"
    )
    return Way(
        target=target.id,
        bearing_deg=float(bearing),
        distance_km=distance,
        horizon_km=None if ground.known else smooth_horizon_km(site, target, above_ground_m),
        house_m=house,
        antenna_m=antenna,
        ground=ground,
        diffraction=over,
        near_db=near,
        near_name=name,
        clutter_db=clutter,
        own_loss_db=target.own_loss_db,
        spread_db=SPREAD_DB[kind],
    )


def loss_db(way: Way) -> Floats:
    """What the way costs over free space by frequency [dB]: terrain, and the greater of a near
    edge and the surroundings, or the installer's own figure for all of it."""
    if way.own_loss_db is not None:
        return np.full_like(way.near_db, way.own_loss_db)
    return way.diffraction.loss_db + np.maximum(way.near_db, way.clutter_db)


def pattern_loss_db(pattern: tuple[tuple[float, float], ...], bearing_deg: float) -> float:
    """How far below its strongest direction a transmitter sends toward a bearing [dB]."""
    if len(pattern) < 2:
        return 0.0
    rows = sorted(pattern)
    return float(
        np.interp(bearing_deg % 360, [r[0] for r in rows], [r[1] for r in rows], period=360)
    )


def sent_toward(site: Site, target: Target) -> float:
    """Bearing from the transmitter to the house [deg]."""
    back, _ = bearing_and_distance(
        target.latitude_deg or 0.0,
        target.longitude_deg or 0.0,
        site.latitude_deg or 0.0,
        site.longitude_deg or 0.0,
    )
    return float(back)
