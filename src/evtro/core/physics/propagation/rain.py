"""Attenuation by rain on the way up, from the rain that falls at a place.

Own arithmetic for the path; the rain rate and the height of the melting layer come from outside
(the digital maps of ITU-R P.837 and P.839), because they are tables and not formulas.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ..geodesy import Floats
from .air import STANDARD, Air

# ITU-R P.838-3 tables 1 to 4: a, b, c of the Gaussians, then m and c of the straight line.
_KH = (
    (
        (-5.33980, -0.10008, 1.13098),
        (-0.35351, 1.26970, 0.45400),
        (-0.23789, 0.86036, 0.15354),
        (-0.94158, 0.64552, 0.16817),
    ),
    -0.18961,
    0.71147,
)
_KV = (
    (
        (-3.80595, 0.56934, 0.81061),
        (-3.44965, -0.22911, 0.51059),
        (-0.39902, 0.73042, 0.11899),
        (0.50167, 1.07319, 0.27195),
    ),
    -0.16398,
    0.63297,
)
_AH = (
    (
        (-0.14318, 1.82442, -0.55187),
        (0.29591, 0.77564, 0.19822),
        (0.32177, 0.63773, 0.13164),
        (-5.37610, -0.96230, 1.47828),
        (16.1721, -3.29980, 3.43990),
    ),
    0.67849,
    -1.95537,
)
_AV = (
    (
        (-0.07771, 2.33840, -0.76284),
        (0.56727, 0.95545, 0.54039),
        (-0.20238, 1.14520, 0.26809),
        (-48.2991, 0.791669, 0.116226),
        (48.5833, 0.791459, 0.116479),
    ),
    -0.053739,
    0.83433,
)
_Table = tuple[tuple[tuple[float, float, float], ...], float, float]


@dataclass(frozen=True)
class Climate:
    """What the maps say of a place: rate exceeded 0.01 % of the year [mm/h], height of the rain above
    sea [km], and what its air takes."""

    rain_mm_h: float
    rain_height_km: float
    air: Air = STANDARD


def _sum(table: _Table, log_f: Floats) -> Floats:
    found = table[1] * log_f + table[2]
    for a, b, c in table[0]:
        found = found + a * np.exp(-(((log_f - b) / c) ** 2))
    return np.asarray(found)


def specific_attenuation(
    rain_mm_h: ArrayLike, frequency_ghz: ArrayLike, elevation_deg: ArrayLike, tilt_deg: ArrayLike
) -> Floats:
    """Attenuation of rain [dB/km]; all broadcast. `tilt_deg` is the polarisation against level, 45
    for circular. Reference: ITU-R P.838-3."""
    log_f = np.log10(np.asarray(frequency_ghz, float))
    kh, kv = 10 ** _sum(_KH, log_f), 10 ** _sum(_KV, log_f)
    ah, av = _sum(_AH, log_f), _sum(_AV, log_f)
    mix = np.cos(np.radians(elevation_deg)) ** 2 * np.cos(2 * np.radians(tilt_deg))
    k = (kh + kv + (kh - kv) * mix) / 2
    alpha = (kh * ah + kv * av + (kh * ah - kv * av) * mix) / (2 * k)
    return np.asarray(k * np.asarray(rain_mm_h, float) ** alpha)


def attenuation_db(
    climate: Climate,
    latitude_deg: float,
    height_m: float,
    frequency_mhz: ArrayLike,
    elevation_deg: ArrayLike,
    tilt_deg: ArrayLike,
    exceeded_pct: ArrayLike,
) -> Floats:
    """Rain attenuation exceeded for so many per cent of an average year [dB]; arrays broadcast.

    For 0.001 to 5 %, elevations above 5°. Reference: ITU-R P.618-13, 2.2.1.1.
    """
    f, el, tilt, p = np.broadcast_arrays(
        np.asarray(frequency_mhz, float) / 1000,
        np.asarray(elevation_deg, float),
        np.asarray(tilt_deg, float),
        np.asarray(exceeded_pct, float),
    )
    rise = climate.rain_height_km - height_m / 1000
    if rise <= 0 or climate.rain_mm_h <= 0:
        return np.zeros(f.shape)
    sin, cos = np.sin(np.radians(el)), np.cos(np.radians(el))
    slant = np.where(
        el >= 5,
        rise / np.maximum(sin, 1e-6),
        2 * rise / (np.sqrt(sin**2 + 2 * rise / 8500.0) + sin),
    )
    ground = slant * cos
    gamma = specific_attenuation(climate.rain_mm_h, f, el, tilt)
    level = 1 / (1 + 0.78 * np.sqrt(ground * gamma / f) - 0.38 * (1 - np.exp(-2 * ground)))
    steep = np.degrees(np.arctan2(rise, ground * level))
    path = np.where(steep > el, ground * level / cos, rise / np.maximum(sin, 1e-6))
    chi = max(36.0 - abs(latitude_deg), 0.0)
    upright = 1 / (
        1
        + np.sqrt(sin) * (31 * (1 - np.exp(-el / (1 + chi))) * np.sqrt(path * gamma) / f**2 - 0.45)
    )
    at_001 = gamma * path * upright
    steepness = np.where(
        (p >= 1) | (abs(latitude_deg) >= 36),
        0.0,
        np.where(
            el >= 25,
            -0.005 * (abs(latitude_deg) - 36),
            -0.005 * (abs(latitude_deg) - 36) + 1.8 - 4.25 * sin,
        ),
    )
    power = (
        0.655
        + 0.033 * np.log(p)
        - 0.045 * np.log(np.maximum(at_001, 1e-9))
        - steepness * (1 - p) * sin
    )
    return np.asarray(at_001 * (p / 0.01) ** -power)
