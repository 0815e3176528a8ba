"""From radiated power to field strength, and from field strength to a level in 75 ohm."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike

from ...units.quantities import DBM_TO_DBUV
from ..beams import LIGHT_M_MHZ
from ..geodesy import Floats


def free_field_dbuvm(erp_kw: ArrayLike, distance_km: float) -> Floats:
    """Field in free space [dBµV/m] from ERP over a dipole. ITU-R P.525 (from memory)."""
    return np.asarray(106.9 + 10 * np.log10(erp_kw) - 20 * math.log10(distance_km))


def isotropic_dbuv(field_dbuvm: ArrayLike, frequency_mhz: ArrayLike) -> Floats:
    """Level that an antenna of 0 dBi gives in 75 ohm [dBµV]: flux E²/(120 pi) times
    lambda²/(4 pi)."""
    flux_dbm = np.asarray(field_dbuvm, float) - 120 - 10 * math.log10(120 * math.pi) + 30
    wave = LIGHT_M_MHZ / np.asarray(frequency_mhz, float)
    return np.asarray(flux_dbm + 10 * np.log10(wave**2 / (4 * math.pi)) + DBM_TO_DBUV)
