"""A motorised mount: settings, hour angles, and what a wrong pole does across the arc."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike

from ....physics.geodesy import Floats, direction, look, turned


@dataclass(frozen=True)
class PolarSettings:
    """How the mount is set. `axis_deg` is the elevation of the turning axis above level toward the
    pole, `declination_deg` how far the dish looks below the plane square to it (toward the equator
    is positive), `south` whether the arc lies toward the south, `motor_elevation_deg` 90 - axis."""

    axis_deg: float
    declination_deg: float
    motor_elevation_deg: float
    dish_scale_deg: float
    top_elevation_deg: float
    south: bool
    worst_deg: float


@dataclass(frozen=True)
class ArcStop:
    """A satellite on the motor's arc: turn from the top (west positive) [deg], what is left of the
    aim error [deg] and whether motor and skyline let it be reached."""

    target: str
    name: str
    orbit_deg_e: float
    hour_deg: float
    error_deg: float
    azimuth_deg: float
    elevation_deg: float
    reached: bool
    why: str


def pointing(
    axis_deg: ArrayLike,
    declination_deg: ArrayLike,
    hour_deg: ArrayLike,
    south: bool,
    lean_deg: float = 0.0,
    lean_bearing_deg: float = 0.0,
) -> Floats:
    """Where the dish looks: east, north, up vectors [1] for a turn of the motor, west positive; all
    broadcast. The whole mount may lean toward a bearing."""
    axis_el, fall, hour = np.broadcast_arrays(
        *(np.asarray(v, float) for v in (axis_deg, declination_deg, hour_deg))
    )
    # The axis rises toward the pole; at the top of the arc the dish looks square to it, less `fall`.
    pole_az = 0.0 if south else 180.0
    axis = direction(np.full_like(axis_el, pole_az), axis_el)
    start = direction(np.full_like(axis_el, pole_az + 180.0), 90.0 - axis_el - fall)
    ahead = turned(start, axis, -hour if south else hour)
    if lean_deg:
        about = direction(lean_bearing_deg - 90.0, 0.0)
        ahead = turned(
            ahead, np.broadcast_to(about, ahead.shape), np.full(ahead.shape[:-1], lean_deg)
        )
    return ahead


@lru_cache(maxsize=64)
def _arc(latitude_deg: float) -> tuple[Floats, Floats]:
    """The arc as seen from a place: longitudes west of it [deg] and directions, above 2°."""
    west = np.arange(-72.0, 72.01, 2.0)
    seen = look(latitude_deg, 0.0, 0.0, -west)
    up = seen.elevation_deg > 2.0
    return west[up], direction(seen.azimuth_deg[up], seen.elevation_deg[up])


def _best_hours(axis: float, fall: float, wanted: Floats, south: bool) -> tuple[Floats, Floats]:
    """For each direction the turn that comes nearest [deg] and the angle left [deg]."""
    pole = direction(0.0 if south else 180.0, axis)
    start = direction(180.0 if south else 0.0, 90.0 - axis - fall)
    side = np.cross(pole, start)
    flat = start - pole * float(start @ pole)
    # Turning carries `start` round a cone; the nearest point of it lies in the plane of the target.
    hour = np.arctan2(wanted @ side, wanted @ flat)
    if south:
        hour = -hour
    reached = pointing(axis, fall, np.degrees(hour), south)
    left = np.degrees(np.arccos(np.clip(np.sum(reached * wanted, -1), -1, 1)))
    return np.degrees(hour), left


@lru_cache(maxsize=64)
def settings(latitude_deg: float, bend_deg: float) -> PolarSettings:
    """The axis and the declination that follow the arc best, found by trying on the exact arc.

    The first guess is the textbook's: axis parallel to the earth's, declination from the satellite
    at the top; then both are moved for the least largest error. Raises nothing near the pole: where
    no arc is above 2° the guess stands.
    """
    south = latitude_deg >= 0
    lat = abs(latitude_deg)
    top = look(latitude_deg, 0.0, 0.0, 0.0)
    elevation = float(top.elevation_deg)
    west, wanted = _arc(latitude_deg)
    axis, fall = lat, 90.0 - lat - elevation
    if len(west) < 5:
        return PolarSettings(
            axis_deg=axis,
            declination_deg=fall,
            motor_elevation_deg=90 - axis,
            dish_scale_deg=bend_deg - fall,
            top_elevation_deg=elevation,
            south=south,
            worst_deg=math.nan,
        )
    best = math.inf
    # The top stays exact: the declination follows from the axis, and the axis is tried.
    for tried in np.linspace(lat - 0.2, lat + 1.4, 161):
        _, left = _best_hours(float(tried), 90.0 - float(tried) - elevation, wanted, south)
        if float(left.max()) < best:
            best, axis = float(left.max()), float(tried)
    fall = 90.0 - axis - elevation
    return PolarSettings(
        axis_deg=axis,
        declination_deg=fall,
        motor_elevation_deg=90.0 - axis,
        dish_scale_deg=bend_deg - fall,
        top_elevation_deg=elevation,
        south=south,
        worst_deg=best,
    )


def stops(
    latitude_deg: float,
    longitude_deg: float,
    height_m: float,
    set_to: PolarSettings,
    sats: Sequence[tuple[str, str, float, float]],
    limit_deg: float,
) -> list[ArcStop]:
    """Turns for satellites. `sats` are rows of id, name, orbit [deg E] and slack over the skyline
    [deg], negative where something is in the way."""
    if not sats:
        return []
    seen = look(latitude_deg, longitude_deg, height_m, np.array([s[2] for s in sats]))
    hours, left = _best_hours(
        set_to.axis_deg,
        set_to.declination_deg,
        direction(seen.azimuth_deg, seen.elevation_deg),
        set_to.south,
    )
    found = []
    for i, (key, name, orbit, slack) in enumerate(sats):
        hour = float((hours[i] + 180) % 360 - 180)
        why = ""
        if seen.elevation_deg[i] <= 0:
            why = "below the horizon"
        elif abs(hour) > limit_deg:
            why = f"the motor ends at {limit_deg:.0f}°"
        elif slack < 0:
            why = "behind the skyline"
        found.append(
            ArcStop(
                target=key,
                name=name,
                orbit_deg_e=orbit,
                hour_deg=hour,
                error_deg=float(left[i]),
                azimuth_deg=float(seen.azimuth_deg[i]),
                elevation_deg=float(seen.elevation_deg[i]),
                reached=not why,
                why=why,
            )
        )
    return sorted(found, key=lambda s: s.hour_deg)


def error_along_arc(
    latitude_deg: float,
    set_to: PolarSettings,
    lean_deg: float,
    lean_bearing_deg: float,
    zero_deg: float,
) -> list[tuple[float, float, float]]:
    """What a leaning pole and a wrong zero leave: rows of longitude west of the place [deg], the
    error along the arc and across it [deg]. Across is what the motor cannot mend by turning."""
    west, wanted = _arc(latitude_deg)
    if not len(west):
        return []
    hours, _ = _best_hours(set_to.axis_deg, set_to.declination_deg, wanted, set_to.south)
    real = pointing(
        set_to.axis_deg,
        set_to.declination_deg,
        hour_deg=hours + zero_deg,
        south=set_to.south,
        lean_deg=lean_deg,
        lean_bearing_deg=lean_bearing_deg,
    )
    ahead = pointing(set_to.axis_deg, set_to.declination_deg, hours + 0.05, set_to.south)
    along = ahead - pointing(set_to.axis_deg, set_to.declination_deg, hours, set_to.south)
    along /= np.linalg.norm(along, axis=-1)[:, None]
    across = np.cross(along, wanted)
    off = real - wanted
    return [
        (float(w), float(a), float(c))
        for w, a, c in zip(
            west,
            np.degrees(np.sum(off * along, -1)),
            np.degrees(np.sum(off * across, -1)),
            strict=True,
        )
    ]


def order_of_tuning(
    south: bool, rows: Sequence[ArcStop], to_compass_deg: float | None = None
) -> list[str]:
    """The order in which a motor is tuned, with the satellites of this job by name. `to_compass_deg`
    is what a compass reads here above the true bearing [deg]."""
    reached = [s for s in rows if s.reached]
    top = min(reached, key=lambda s: abs(s.hour_deg), default=None)
    meridian = "south" if south else "north"
    bearing = 180.0 if south else 0.0
    due = f"due {meridian} by true north"
    if to_compass_deg is not None:
        due += f", which is {(bearing + to_compass_deg) % 360:.1f}°M by the compass"
    said = [
        f"Plumb the mast in two directions, set the axis to the pole and the motor to zero, the dish looking {due}.",
        f"Turn the whole mount for the best of {top.name}, the one nearest to true {meridian}"
        + (
            f", with the motor at {abs(top.hour_deg):.1f}° {'west' if top.hour_deg > 0 else 'east'}."
            if abs(top.hour_deg) > 0.05
            else "."
        )
        if top
        else f"Find a satellite nearest to {due}, and turn the whole mount for it.",
        "Set the dish's elevation for it; leave the axis alone.",
    ]
    ends = (
        [s for s in (reached[0], reached[-1]) if top and s.target != top.target] if reached else []
    )
    for end in ends:
        side = "west" if end.hour_deg > 0 else "east"
        said.append(
            f"Drive to {end.name} in the {side}: when it gets better as the dish is pressed up or "
            "down, turn the whole mount a little, never the dish."
        )
    said.append("Go back to the top one, mend its elevation, and drive to both ends once more.")
    return said
