"""What goes wrong between the figure and the beam: a leaning mast, a compass, a scale."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ...job import Dish
from ...physics.beams import off_axis_loss_db
from ...physics.geodesy import Floats, angles, crossed, direction, half_turn, turned
from ...units.quantities import Gauge, gauge

ONE_DB = math.sqrt(1 / 12)  # half-power widths off the axis that cost 1 dB
SKEW_ISOLATION_DB = 20.0  # wanted from the other polarisation; common practice, no source


@dataclass(frozen=True)
class Tilted:
    """Where a dish on a leaning mast looks, less where its scales say [deg]."""

    azimuth_deg: Floats
    elevation_deg: Floats
    skew_deg: Floats


@dataclass(frozen=True)
class ErrorLine:
    """One source of error: its size against its limit (1 dB of level, for skew 20 dB of isolation)
    [deg], its shift of the beam on the sky [deg] and its cost [dB]."""

    key: str
    name: str
    gauge: Gauge
    beam_deg: float
    cost_db: float
    words: str


def lean(
    azimuth_deg: ArrayLike, elevation_deg: ArrayLike, lean_deg: ArrayLike, toward_deg: ArrayLike
) -> Tilted:
    """Errors of a dish that is set to azimuth and elevation on a mast that leans by `lean_deg`
    toward a bearing; all parameters broadcast. Exact, by rotation of the whole mount."""
    az, el, t, b = np.broadcast_arrays(
        *(np.asarray(v, float) for v in (azimuth_deg, elevation_deg, lean_deg, toward_deg))
    )
    # Up turned toward the bearing: about up x bearing, the level axis on its left.
    axis = direction(b - 90.0, np.zeros_like(b))
    ahead = turned(direction(az, el), axis, t)
    over = turned(direction(az, el + 90.0), axis, t)
    real_az, real_el = angles(ahead)
    right = crossed(ahead, np.array([0.0, 0.0, 1.0]))
    upward = crossed(right, ahead)
    # The dish's own upright, seen from behind against the vertical plane, clockwise positive.
    roll = np.degrees(np.arctan2(np.sum(over * right, -1), np.sum(over * upward, -1)))
    return Tilted((real_az - az + 180) % 360 - 180, real_el - el, half_turn(roll))


def cross_polar(skew_error_deg: ArrayLike) -> tuple[Floats, Floats]:
    """Loss of the wanted polarisation and isolation from the other one [dB] for a skew error:
    -20 log cos and -20 log tan."""
    error = np.radians(np.abs(np.asarray(skew_error_deg, float)))
    with np.errstate(divide="ignore"):
        return -20 * np.log10(np.cos(error)), -20 * np.log10(np.tan(error))


def budget(
    antenna: Dish, azimuth_deg: float, elevation_deg: float, beamwidth_deg: float, linear: bool
) -> list[ErrorLine]:
    """How good is good enough for a dish: each error against the one that costs 1 dB, skew
    against the one that leaves 20 dB of isolation. A lean moves the beam by no more than itself."""
    allowed = beamwidth_deg * ONE_DB
    flat = max(math.cos(math.radians(elevation_deg)), 0.02)
    tilted = lean(azimuth_deg, elevation_deg, antenna.lean_deg, antenna.lean_bearing_deg)
    d_az, d_el = float(tilted.azimuth_deg) * flat, float(tilted.elevation_deg)
    plumb_beam = math.hypot(d_az, d_el)
    rows = [
        _line(
            "compass",
            "Azimuth by compass",
            error=antenna.compass_error_deg,
            allowed=allowed / flat,
            beam=antenna.compass_error_deg * flat,
            width=beamwidth_deg,
            words="found by the sweep",
        ),
        _line(
            "scale",
            "Elevation by the tool",
            error=antenna.scale_error_deg,
            allowed=allowed,
            beam=antenna.scale_error_deg,
            width=beamwidth_deg,
            words="found by the sweep when it is out",
        ),
        _line(
            "plumb",
            "Mast out of plumb",
            error=antenna.lean_deg,
            allowed=allowed,
            beam=plumb_beam,
            width=beamwidth_deg,
            words=f"azimuth {float(tilted.azimuth_deg):+.2f}°, elevation {d_el:+.2f}°",
        ),
    ]
    if linear:
        roll = float(tilted.skew_deg)
        most = math.degrees(math.atan(10 ** (-SKEW_ISOLATION_DB / 20)))
        loss, isolation = cross_polar(roll)
        rows.append(
            ErrorLine(
                key="skew",
                name="Skew by the lean",
                gauge=gauge(abs(roll), "deg", high=most, reserve=0.3 * most),
                beam_deg=abs(roll),
                cost_db=float(loss),
                words=f"isolation {min(float(isolation), 60.0):.0f} dB at best",
            )
        )
    return rows


def _line(
    key: str, name: str, error: float, allowed: float, beam: float, width: float, words: str
) -> ErrorLine:
    return ErrorLine(
        key=key,
        name=name,
        gauge=gauge(error, "deg", high=allowed, reserve=0.3 * allowed),
        beam_deg=beam,
        cost_db=min(float(off_axis_loss_db(beam, width)), 60.0),
        words=words,
    )
