"""Beams: width, gain and loss off the axis."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ..units.quantities import InputError
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


def pattern_gain_dbi(
    offset_deg: ArrayLike, diameter_m: ArrayLike, frequency_mhz: ArrayLike, efficiency: float
) -> Floats:
    """Gain of a receiving dish toward directions off its axis [dBi], main lobe and envelope of the
    side lobes; parameters broadcast.

    Reference: ITU-R BO.1213, co-polar reference pattern (from memory).
    """
    offset = np.abs(np.asarray(offset_deg, float))
    ratio = np.asarray(diameter_m, float) * np.asarray(frequency_mhz, float) / LIGHT_M_MHZ
    top = 10 * np.log10(efficiency * (np.pi * ratio) ** 2)
    wide = 95.0 / ratio
    shoulder = 29 - 25 * np.log10(wide)
    edge = np.sqrt(np.maximum(top - shoulder, 0) / 2.5e-3) / ratio
    safe = np.maximum(offset, 1e-9)
    lobe = top - 2.5e-3 * (ratio * offset) ** 2
    far = np.select(
        [offset < 7.0, offset < 9.2, offset < 48.0],
        [29 - 25 * np.log10(safe), np.full_like(safe, 7.9), 32 - 25 * np.log10(safe)],
        -10.0,
    )
    side = np.minimum(np.where(offset < wide, shoulder, far), shoulder)
    return np.asarray(np.where(offset < edge, lobe, np.minimum(side, top)), float)


@dataclass(frozen=True)
class Reflector:
    """An offset dish as three measurements give it. Lengths [mm], angles [deg]; `low_mm` and
    `high_mm` are the distances from the feed's phase centre to the lower and upper rim."""

    focal_mm: float
    offset_deg: float
    centre_mm: float
    low_mm: float
    high_mm: float
    half_angle_deg: float


def offset_reflector(height_mm: float, width_mm: float, depth_mm: float) -> Reflector:
    """Focal length, offset angle and place of the feed from a reflector's long axis, short axis and
    greatest depth below the plane of its rim.

    The rim of a paraboloid z = r²/4f cut by a cylinder of diameter W lies in a plane that leans by
    arccos(W/H); the depth below it, square to it, is W²/16f times W/H. So f = W³ / (16 d H).
    Raises InputError when the figures make no dish.
    """
    if not (width_mm > 0 and 0 < depth_mm < width_mm):
        raise InputError(
            "Reflector",
            "width and depth must be more than nothing, depth the less.",
            "Measure across the rim and straight down to the deepest point.",
            "reflector",
        )
    if width_mm > height_mm:
        raise InputError(
            "Reflector", "it is wider than high.", "Take the long way as the height.", "reflector"
        )
    focal = width_mm**3 / (16 * depth_mm * height_mm)
    lean = math.acos(width_mm / height_mm)
    centre = 2 * focal * math.tan(lean)
    low, high = (focal + (centre + s * width_mm / 2) ** 2 / (4 * focal) for s in (-1, 1))
    toward = [math.degrees(2 * math.atan2(centre + s * width_mm / 2, 2 * focal)) for s in (-1, 1)]
    return Reflector(
        focal_mm=focal,
        offset_deg=math.degrees(lean),
        centre_mm=centre,
        low_mm=low,
        high_mm=high,
        half_angle_deg=(toward[1] - toward[0]) / 2,
    )


def prime_focus(diameter_mm: float, depth_mm: float) -> tuple[float, float, float]:
    """Focal length [mm], f/D and the half angle that the rim subtends at the feed [deg] of a round
    dish: f = D² / 16 d; half angle 2 arctan(D / 4f)."""
    if not 0 < depth_mm < diameter_mm:
        raise InputError(
            "Dish depth",
            "it must lie between nothing and the diameter.",
            "Measure from a straight edge over the rim to the middle.",
            "reflector",
        )
    focal = diameter_mm**2 / (16 * depth_mm)
    return focal, focal / diameter_mm, math.degrees(2 * math.atan(diameter_mm / (4 * focal)))


def beam_deviation_factor(focal_ratio: float, edge: float = 0.36) -> float:
    """Beam angle over feed angle [1] of a dish with its feed moved sideways. Reference: Y. T. Lo, IRE
    Trans. AP-8 (1960), (1 + k u) / (1 + u) with u = (D/4f)², k = 0.36 (from memory)."""
    u = (1 / (4 * focal_ratio)) ** 2
    return (1 + edge * u) / (1 + u)


FIRST_SIDE_LOBE_DB = 13.0  # of an even row of sources; J. D. Kraus, Antennas (from memory)


def array_loss_db(
    offset_deg: ArrayLike, beamwidth_deg: ArrayLike, front_back_db: ArrayLike
) -> Floats:
    """Loss of a terrestrial antenna toward directions beside its heading [dB]; all broadcast.

    A parabola-shaped main lobe down to the first side lobe, from there an even fall to the front to
    back ratio at 180 degrees: an envelope, real patterns have deep nulls in it (common practice).
    """
    offset = np.abs((np.asarray(offset_deg, float) + 180.0) % 360.0 - 180.0)
    width, back = np.asarray(beamwidth_deg, float), np.asarray(front_back_db, float)
    side = np.minimum(FIRST_SIDE_LOBE_DB, back)
    edge = np.minimum(width * np.sqrt(side / 12.0), 180.0)
    lobe = 12.0 * (offset / width) ** 2
    fall = side + (back - side) * (offset - edge) / np.maximum(180.0 - edge, 1e-6)
    return np.asarray(np.where(offset <= edge, lobe, fall), float)


def gain_at_dbi(
    table: tuple[tuple[float, float], ...], flat_dbi: float, frequency_mhz: ArrayLike
) -> Floats:
    """Gain over frequency [dBi] from pairs of MHz and dBi, or one figure for all."""
    f = np.asarray(frequency_mhz, float)
    if not table:
        return np.full_like(f, flat_dbi)
    rows = sorted(table)
    return np.asarray(np.interp(f, [r[0] for r in rows], [r[1] for r in rows]))


def array_gain_dbi(
    table: tuple[tuple[float, float], ...],
    flat_dbi: float,
    band_mhz: tuple[float, float],
    frequency_mhz: ArrayLike,
) -> Floats:
    """Gain of a terrestrial antenna [dBi]; outside its band it falls by 3 dB for each tenth of the
    band's edge (common practice, no source)."""
    f = np.asarray(frequency_mhz, float)
    beyond = np.maximum(band_mhz[0] / f, f / band_mhz[1]) - 1
    return np.asarray(gain_at_dbi(table, flat_dbi, f) - 30 * np.maximum(beyond, 0.0))
