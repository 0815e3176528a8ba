"""Beams: width, gain and loss off the axis."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike

from .geodesy import Floats

LIGHT_M_MHZ = 299.792458


def dish_beamwidth_deg(diameter_m: float, frequency_mhz: float) -> float:
    """Half-power beamwidth of a dish [deg]: 70 wavelengths over diameter (common practice)."""
    return 70.0 * LIGHT_M_MHZ / frequency_mhz / diameter_m


def dish_gain_dbi(diameter_m: float, frequency_mhz: float, efficiency: float) -> float:
    """Gain of a dish [dBi], eta (pi D / lambda)². Reference: ITU-R BO.790 annex 1 (from memory)."""
    wavelength_m = LIGHT_M_MHZ / frequency_mhz
    return 10 * math.log10(efficiency * (math.pi * diameter_m / wavelength_m) ** 2)


def yagi_beamwidth_deg(gain_dbi: float) -> float:
    """Half-power beamwidth of a linear array from its gain [deg].

    From the directivity of a beam as wide as high, 32 400 / width² (J. D. Kraus, from memory).
    """
    return math.sqrt(32400 / 10 ** (gain_dbi / 10))


def off_axis_loss_db(offset_deg: ArrayLike, beamwidth_deg: ArrayLike) -> Floats:
    """Loss inside the main lobe [dB], 12 (offset / width)², common practice near the axis."""
    ratio = np.asarray(offset_deg, float) / np.asarray(beamwidth_deg, float)
    return np.asarray(12.0 * ratio**2)


def free_space_loss_db(range_km: ArrayLike, frequency_mhz: ArrayLike) -> Floats:
    """Free-space loss [dB]. Reference: ITU-R P.525, 32.45 + 20 log f + 20 log d."""
    f, d = np.asarray(frequency_mhz, float), np.asarray(range_km, float)
    return np.asarray(20 * np.log10(4 * np.pi * d * 1000 * f / LIGHT_M_MHZ))
