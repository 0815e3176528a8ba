"""Clear air over a dish: what oxygen and vapour take, and the noise of sky and ground.

The zenith attenuation of a place comes from outside (ITU-R P.676 with the vapour of P.836), because
it is hundreds of spectral lines; until it is there the standard atmosphere's stands for it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ..geodesy import Floats

MEDIUM_K = 275.0  # mean temperature of what absorbs; ITU-R P.618-13, 3
SPACE_K = 2.7  # of the sky behind it; ITU-R P.618-13, 3
LEAST_DEG = 5.0  # below it the cosecant would overstate; ITU-R P.676-12 annex 2
# Frequencies of a table of zenith attenuation [GHz].
GHZ = (
    3.0,
    3.6,
    4.2,
    8.0,
    10.7,
    11.7,
    12.75,
    14.0,
    17.0,
    18.0,
    19.0,
    20.0,
    20.5,
    21.0,
    21.5,
    22.0,
    22.25,
    22.5,
    23.0,
    23.5,
    24.0,
    25.0,
    26.0,
    28.0,
    30.0,
    32.0,
)
# What a dish picks up from warm ground past its rim by elevation [deg, K]: common practice, no source.
GROUND_K = (
    (0.0, 70.0),
    (5.0, 50.0),
    (10.0, 40.0),
    (20.0, 32.0),
    (30.0, 28.0),
    (45.0, 23.0),
    (90.0, 18.0),
)


@dataclass(frozen=True)
class Air:
    """Zenith attenuation of oxygen and vapour at the frequencies of `GHZ` [dB], and whose it is."""

    zenith_db: tuple[float, ...]
    words: str


# ITU-R P.676-12 annex 2 for 1013.25 hPa, 15 °C and 7.5 g/m³ at the ground.
STANDARD = Air(
    (0.0360, 0.0368, 0.0376, 0.0446, 0.0531, 0.0574, 0.0629, 0.0714, 0.1099, 0.1358, 0.1766, 0.2440,
     0.2923, 0.3517, 0.4174, 0.4724, 0.4875, 0.4915, 0.4705, 0.4298, 0.3870, 0.3184, 0.2748, 0.2354,
     0.2287, 0.2384),
    "oxygen and vapour of a standard atmosphere, ITU-R P.676",
)  # fmt: skip


def gas_db(air: Air, frequency_mhz: ArrayLike, elevation_deg: float) -> Floats:
    """Attenuation by oxygen and vapour along the path [dB]: the zenith's over the sine of the
    elevation. Reference: ITU-R P.676-12 annex 2."""
    zenith = np.interp(np.asarray(frequency_mhz, float) / 1000, GHZ, air.zenith_db)
    return np.asarray(zenith / math.sin(math.radians(max(elevation_deg, LEAST_DEG))))


def sky_k(attenuation_db: ArrayLike) -> Floats:
    """Noise temperature of the sky behind an attenuation [K]. Reference: ITU-R P.618-13, 3."""
    share = 10 ** (-np.asarray(attenuation_db, float) / 10)
    return np.asarray(MEDIUM_K * (1 - share) + SPACE_K * share)


def ground_k(elevation_deg: float) -> float:
    """Noise that a dish picks up from the ground [K], by elevation."""
    return float(np.interp(elevation_deg, [e for e, _ in GROUND_K], [k for _, k in GROUND_K]))
