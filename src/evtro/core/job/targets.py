"""Where the wanted satellites and transmitters stand, and what arrives from them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..physics.geodesy import bearing_and_distance, look
from . import Job, Site, Target

EFFECTIVE_EARTH_KM = 6371.0 * 4 / 3


@dataclass(frozen=True)
class Sight:
    """The direction of a target: true azimuth, elevation and tilt [deg], distance [km]."""

    target: str
    azimuth_deg: float
    elevation_deg: float
    tilt_deg: float
    distance_km: float
    visible: bool
    horizon_km: float | None


@lru_cache(maxsize=1024)
def sight_of(site: Site, target: Target) -> Sight | None:
    """Direction of one target; None while the site's or the target's place is unknown, and for a line,
    which comes out of the ground."""
    lat, lon = site.latitude_deg, site.longitude_deg
    if lat is None or lon is None or target.kind == "line":
        return None
    height = site.height_m + site.mount_height_m
    if target.kind == "satellite":
        if target.orbit_deg_e is None:
            return None
        seen = look(
            lat,
            lon,
            height_m=height,
            orbit_deg_e=target.orbit_deg_e,
            polarisation_offset_deg=target.polarisation_offset_deg,
        )
        return Sight(
            target=target.id,
            azimuth_deg=float(seen.azimuth_deg),
            elevation_deg=float(seen.elevation_deg),
            tilt_deg=float(seen.tilt_deg),
            distance_km=float(seen.range_km),
            visible=bool(seen.visible),
            horizon_km=None,
        )
    if target.latitude_deg is None or target.longitude_deg is None:
        return None
    bearing, distance = bearing_and_distance(lat, lon, target.latitude_deg, target.longitude_deg)
    d = max(float(distance), 1e-3)
    # Elevation above level over an earth of 4/3 radius: climb less half the arc (ITU-R P.526).
    rise = math.degrees((target.height_m - height) / 1000 / d - d / (2 * EFFECTIVE_EARTH_KM))
    horizon = smooth_horizon_km(site, target, site.mount_height_m)
    return Sight(
        target=target.id,
        azimuth_deg=float(bearing),
        elevation_deg=rise,
        tilt_deg=0.0,
        distance_km=d,
        visible=d <= horizon,
        horizon_km=horizon,
    )


def smooth_ground_m(site: Site, target: Target) -> float:
    """Height above sea of the smooth earth that stands for ground nobody has read [m]: the house's,
    or the transmitter's own where that stands lower."""
    return min(site.height_m, target.height_m)


def smooth_horizon_km(site: Site, target: Target, above_ground_m: float) -> float:
    """Radio horizon of a transmitter and an antenna so high above the house's ground, over the
    smooth earth between them [km]."""
    ground = smooth_ground_m(site, target)
    return radio_horizon_km(target.height_m - ground, site.height_m + above_ground_m - ground)


def radio_horizon_km(height1_m: float, height2_m: float) -> float:
    """Radio horizon over smooth earth, k = 4/3 [km]: 4.12 (√h1 + √h2), h in metres above the ground
    between."""
    return 4.12 * (math.sqrt(max(height1_m, 0.0)) + math.sqrt(max(height2_m, 0.0)))


@lru_cache(maxsize=64)
def arc(site: Site) -> list[tuple[float, float, float]]:
    """The geostationary arc above the horizon: rows of orbit, azimuth, elevation [deg]."""
    if site.latitude_deg is None or site.longitude_deg is None:
        return []
    orbits = site.longitude_deg + np.arange(-82.0, 82.5, 1.0)
    orbits = np.round((orbits + 180) % 360 - 180, 6)
    seen = look(site.latitude_deg, site.longitude_deg, site.height_m, orbits)
    up = seen.elevation_deg > -1
    return [
        (float(o), float(a), float(e))
        for o, a, e in zip(orbits[up], seen.azimuth_deg[up], seen.elevation_deg[up], strict=True)
    ]


def sights(job: Job) -> dict[str, Sight]:
    """Directions of all targets that can be placed, by target id."""
    found = (sight_of(job.site, t) for t in job.targets)
    return {s.target: s for s in found if s is not None}


def wanted_job(job: Job) -> Job:
    """The job without the carriers that nobody looks for at an outlet: those of targets that are not
    wanted, and base stations."""
    others = {t.id for t in job.targets if not t.wanted}
    wanted = tuple(c for c in job.carriers if c.target not in others and not c.mobile)
    return job if len(wanted) == len(job.carriers) else job.model_copy(update={"carriers": wanted})
