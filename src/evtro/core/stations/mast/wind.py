"""The wind on what hangs on a mast: its pressure by region, the area of a dish by its size."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...job import Antenna, Dish, Job
from ...job.profile import Profile, WindRegion
from ...job.targets import sight_of
from ...units.quantities import InputError, Phrase, Quantity
from ..aim.answer import face_lean_deg

ARM_SHARE = 1.1  # feed, arm and mount beside the reflector; common practice, no source
MESH_SHARE = 0.6  # what a mesh reflector catches of a solid one's wind; common practice, no source
LEAST_SHOWN = 0.6  # a dish that looks up is lifted instead of pushed; common practice, no source
STOW_MS = 17.0  # above that a portable dish is taken down; common practice, no source
STOW_WORDS = "near gale, before which a portable dish is taken down (common practice, no source)"
REFERENCE_M = 10.0  # the height of a basic wind speed


@dataclass(frozen=True)
class Pressure:
    """Wind pressure [N/m²], what it rests on, and whether a region was chosen where there are
    several."""

    pa: float
    origin: str
    chosen: bool


def region_of(profile: Profile, key: str) -> WindRegion:
    """A wind region of a profile; the first one where none or another profile's is named."""
    return next((r for r in profile.wind.regions if r.key == key), profile.wind.regions[0])


def check_region(profile: Profile, key: str) -> None:
    """Raise InputError for a wind region that the profile does not have."""
    if key and all(r.key != key for r in profile.wind.regions):
        raise InputError(
            "Wind region",
            f"“{key}” is none of {profile.name}.",
            f"Use one of {', '.join(r.key for r in profile.wind.regions)}.",
            "choice",
        )


def pressure(job: Job, profile: Profile) -> Pressure:
    """Wind pressure at the mount: from the job's own speed, else from the profile's region."""
    wind, own = profile.wind, job.mast.wind_ms
    if job.rig.kind == "none" and job.mast.fixing == "loft":
        return Pressure(0.0, "no wind in a loft", True)
    if own is not None:
        return Pressure(0.5 * wind.air_kg_m3 * own**2, "this job's design wind speed", True)
    if job.rig.kind != "none":
        return Pressure(0.5 * wind.air_kg_m3 * STOW_MS**2, STOW_WORDS, True)
    region = region_of(profile, job.mast.wind_region)
    chosen = len(wind.regions) == 1 or any(r.key == job.mast.wind_region for r in wind.regions)
    high = job.site.mount_height_m
    if region.speed_ms is None:
        pa = region.pressure_high_pa if high > region.change_at_m else region.pressure_low_pa
        return Pressure(pa, region.origin, chosen)
    growth = max((high / REFERENCE_M) ** region.exponent, 1.0) if high > 0 else 1.0
    return Pressure(0.5 * wind.air_kg_m3 * region.speed_ms**2 * growth, region.origin, chosen)


def area_m2(job: Job, antenna: Antenna) -> tuple[float, Phrase]:
    """The area that an antenna turns to the wind [m²], and what it rests on.

    A dish's is its aperture, from the two axes of the reflector where they were measured, with arm
    and mount, less through a mesh, and as far as its face stands upright.
    """
    if not isinstance(antenna, Dish):
        return antenna.wind_area_m2, ("the antenna's own figure",)
    if antenna.area_from == "own":
        return antenna.wind_area_m2, ("this job's own figure",)
    high, wide = antenna.reflector_height_mm, antenna.reflector_width_mm
    measured = high is not None and wide is not None
    if high is not None and wide is not None:
        aperture = math.pi / 4 * high * wide / 1e6
    else:
        aperture = math.pi / 4 * antenna.diameter_m**2
    upright = _upright(job, antenna)
    area = aperture * ARM_SHARE * upright * (MESH_SHARE if antenna.surface == "mesh" else 1.0)
    size: Phrase = (
        ("the measured reflector",)
        if measured
        else ("a dish of ", Quantity(antenna.diameter_m, "m", 2))
    )
    return area, (*size, f", {antenna.surface}, {100 * upright:.0f} % of it upright, with its arm")


def _upright(job: Job, antenna: Dish) -> float:
    """How much of the aperture the wind meets when the dish looks at its satellite."""
    target = next((t for t in job.targets if t.id == antenna.target), None)
    sight = None if target is None else sight_of(job.site, target)
    if sight is None or not sight.visible:
        return 1.0
    lean = math.radians(face_lean_deg(antenna, sight.elevation_deg))
    return max(abs(math.cos(lean)), LEAST_SHOWN)
