"""Loss over terrain: single edges, smooth earth, and the delta-Bullington construction.

Distances are km, heights and profiles metres above sea, frequencies MHz. A profile is a pair of
arrays that begin and end at the two antennas' feet. Reference for all of it: ITU-R P.526-15,
sections 3.2 and 4.1 to 4.5 (from memory); the tests hold it against another program's figures.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ..beams import LIGHT_M_MHZ
from ..geodesy import Floats

EARTH_KM = 6371.0
K_MEDIAN = 4 / 3
# Land: permittivity 22, conductivity 0.003 S/m.
_PERMITTIVITY, _CONDUCTIVITY = 22.0, 0.003


def edge_loss_db(v: ArrayLike) -> Floats:
    """Loss over a knife edge from its parameter v [dB], J(v); nothing below -0.78.

    Within 0.12 dB of the exact Fresnel integrals above -0.7. P.526 equation 31."""
    v = np.asarray(v, float)
    d = v - 0.1
    loss = 6.9 + 20 * np.log10(np.sqrt(d * d + 1) + d)
    return np.asarray(np.where(v > -0.78, np.maximum(loss, 0.0), 0.0))


def edge_parameter(
    above_m: ArrayLike, d1_km: ArrayLike, d2_km: ArrayLike, frequency_mhz: ArrayLike
) -> Floats:
    """The parameter v [1] of an edge that stands `above_m` over the straight line between the ends."""
    d1, d2 = np.asarray(d1_km, float), np.asarray(d2_km, float)
    wavelength = LIGHT_M_MHZ / np.asarray(frequency_mhz, float)
    return np.asarray(
        np.asarray(above_m, float) * np.sqrt(0.002 * (d1 + d2) / (wavelength * d1 * d2))
    )


def bulge_m(d1_km: ArrayLike, d2_km: ArrayLike, k: float = K_MEDIAN) -> Floats:
    """How far the earth rises over the chord between two ends [m], at d1 and d2 from them."""
    return np.asarray(500 * np.asarray(d1_km, float) * np.asarray(d2_km, float) / (k * EARTH_KM))


def fresnel_radius_m(d1_km: ArrayLike, d2_km: ArrayLike, frequency_mhz: ArrayLike) -> Floats:
    """Radius of the first Fresnel zone [m], sqrt(lambda d1 d2 / d)."""
    d1, d2 = np.asarray(d1_km, float), np.asarray(d2_km, float)
    wavelength = LIGHT_M_MHZ / np.asarray(frequency_mhz, float)
    return np.asarray(np.sqrt(1000 * wavelength * d1 * d2 / (d1 + d2)))


@dataclass(frozen=True)
class Diffraction:
    """Loss by frequency [dB] and what it comes from: the terrain as one edge, the same over a
    smooth earth, the smooth earth itself. `edge_km` is where the one edge stands, `edge_above_m`
    how far over the straight ray (negative: below it); `in_sight` whether the ray clears all."""

    loss_db: Floats
    terrain_db: Floats
    smooth_edge_db: Floats
    smooth_earth_db: Floats
    edge_km: float
    edge_above_m: float
    in_sight: bool


def delta_bullington(
    distance_km: ArrayLike,
    ground_m: ArrayLike,
    start_m: float,
    end_m: float,
    frequency_mhz: ArrayLike,
    horizontal: ArrayLike = True,
    k: float = K_MEDIAN,
) -> Diffraction:
    """Diffraction loss of a path over a terrain profile.

    Parameters
    ----------
    distance_km, ground_m : array (n,), from 0 to the path's length [km]; ground above sea [m]
    start_m, end_m : antennas above sea [m]
    frequency_mhz, horizontal : array (f,), polarisation horizontal or not
    k : effective earth radius over the true one

    P.526 section 4.5: terrain as one edge, plus what the smooth earth under it costs more than
    the same edge rule says for it."""
    d, h = np.asarray(distance_km, float), np.asarray(ground_m, float)
    f = np.asarray(frequency_mhz, float)
    whole = float(d[-1])
    start_m, end_m = max(start_m, float(h[0])), max(end_m, float(h[-1]))
    terrain, where, above, clear = _bullington(d, h, start_m=start_m, end_m=end_m, f=f, k=k)
    floor_start, floor_end = _smooth_surface(d, h, start_m, end_m)
    over_start, over_end = start_m - floor_start, end_m - floor_end
    edge = _bullington(d, np.zeros_like(d), start_m=over_start, end_m=over_end, f=f, k=k)[0]
    smooth = smooth_earth_db(
        whole, over_start, end_m=over_end, frequency_mhz=f, horizontal=horizontal, k=k
    )
    loss = terrain + np.maximum(smooth - edge, 0.0)
    return Diffraction(
        loss_db=loss,
        terrain_db=terrain,
        smooth_edge_db=edge,
        smooth_earth_db=smooth,
        edge_km=where,
        edge_above_m=above,
        in_sight=clear,
    )


def _bullington(
    d: Floats, h: Floats, start_m: float, end_m: float, f: Floats, k: float
) -> tuple[Floats, float, float, bool]:
    """The whole profile as one edge: loss [dB], its place [km], its height over the ray [m],
    whether the ray is free."""
    whole = float(d[-1])
    if len(d) < 3 or whole <= 0:
        return np.zeros_like(f), 0.0, -np.inf, True
    at = d[1:-1]
    rest = whole - at
    raised = h[1:-1] + 500 / (k * EARTH_KM) * at * rest
    slope = (end_m - start_m) / whole
    rise = (raised - start_m) / at
    over = raised - start_m - slope * at
    root = np.sqrt(0.002 * whole / (at * rest))
    scale = np.sqrt(f / LIGHT_M_MHZ)
    if rise.max() < slope:
        n = int((over * root).argmax())
        where, above, v = float(at[n]), float(over[n]), float(over[n] * root[n])
        clear = True
    else:
        up, down = float(rise.max()), float(((raised - end_m) / rest).max())
        where = (end_m - start_m + down * whole) / (up + down)
        where = min(max(where, 1e-6), whole - 1e-6)
        above = start_m + up * where - (start_m * (whole - where) + end_m * where) / whole
        v = above * float(np.sqrt(0.002 * whole / (where * (whole - where))))
        clear = False
    edge = edge_loss_db(v * scale)
    return edge + (1 - np.exp(-edge / 6)) * (10 + 0.02 * whole), where, above, clear


def _smooth_surface(d: Floats, h: Floats, start_m: float, end_m: float) -> tuple[float, float]:
    """Heights of the smooth surface under the two ends [m above sea]; never above the ground
    there. P.526 section 4.5, with attachment of P.452 for the fit by least squares."""
    whole = float(d[-1])
    if len(d) < 3:
        return float(h[0]), float(h[-1])
    step, a, b = np.diff(d), h[:-1], h[1:]
    v1 = float(np.sum(step * (b + a)))
    v2 = float(np.sum(step * (b * (2 * d[1:] + d[:-1]) + a * (d[1:] + 2 * d[:-1]))))
    low_start = (2 * v1 * whole - v2) / whole**2
    low_end = (v2 - v1 * whole) / whole**2
    at = d[1:-1]
    over = h[1:-1] - (start_m * (whole - at) + end_m * at) / whole
    most = float(over.max())
    if most > 0:
        from_start, from_end = float((over / at).max()), float((over / (whole - at)).max())
        low_start -= most * from_start / (from_start + from_end)
        low_end -= most * from_end / (from_start + from_end)
    return min(low_start, float(h[0])), min(low_end, float(h[-1]))


def smooth_earth_db(
    distance_km: float,
    start_m: float,
    end_m: float,
    frequency_mhz: ArrayLike,
    horizontal: ArrayLike = True,
    k: float = K_MEDIAN,
) -> Floats:
    """Loss over a smooth round earth by frequency [dB]; heights over its surface [m].

    P.526 section 3.2: the first term of the residue series beyond the horizon, blended to nothing
    where 60 % of the Fresnel zone is free."""
    f = np.asarray(frequency_mhz, float)
    flat = np.broadcast_to(np.asarray(horizontal, bool), f.shape)
    radius = k * EARTH_KM
    start_m, end_m = max(start_m, 0.01), max(end_m, 0.01)
    horizon = np.sqrt(2 * radius) * (np.sqrt(0.001 * start_m) + np.sqrt(0.001 * end_m))
    if distance_km >= horizon:
        return _residue_db(distance_km, start_m, end_m=end_m, f=f, flat=flat, radius_km=radius)
    total = start_m + end_m
    c = (start_m - end_m) / total
    m = 250 * distance_km**2 / (radius * total)
    angle = np.arccos(np.clip(1.5 * c * np.sqrt(3 * m / (m + 1) ** 3), -1, 1)) / 3
    b = 2 * np.sqrt((m + 1) / (3 * m)) * np.cos(np.pi / 3 + angle)
    d1 = distance_km / 2 * (1 + b)
    d2 = distance_km - d1
    if d1 <= 0 or d2 <= 0:
        return np.zeros_like(f)
    free = (
        (start_m - 500 * d1**2 / radius) * d2 + (end_m - 500 * d2**2 / radius) * d1
    ) / distance_km
    needed = 17.456 * np.sqrt(d1 * d2 * (LIGHT_M_MHZ / f) / distance_km)
    touching = 500 * (distance_km / (np.sqrt(start_m) + np.sqrt(end_m))) ** 2
    grazing = np.maximum(
        _residue_db(distance_km, start_m, end_m=end_m, f=f, flat=flat, radius_km=touching), 0.0
    )
    return np.asarray(np.where(free > needed, 0.0, (1 - free / needed) * grazing))


def _residue_db(
    distance_km: float,
    start_m: float,
    end_m: float,
    f: Floats,
    flat: np.typing.NDArray[np.bool_],
    radius_km: float,
) -> Floats:
    ghz = f / 1000
    loss_tangent = 18 * _CONDUCTIVITY / ghz
    admittance = (
        0.036
        * (radius_km * ghz) ** (-1 / 3)
        * ((_PERMITTIVITY - 1) ** 2 + loss_tangent**2) ** -0.25
    )
    admittance = np.where(
        flat, admittance, admittance * np.sqrt(_PERMITTIVITY**2 + loss_tangent**2)
    )
    square = admittance**2
    beta = (1 + 1.6 * square + 0.67 * square**2) / (1 + 4.5 * square + 1.53 * square**2)
    x = 21.88 * beta * (ghz / radius_km**2) ** (1 / 3) * distance_km
    along = np.where(
        x >= 1.6,
        11 + 10 * np.log10(x) - 17.6 * x,
        -20 * np.log10(x) - 5.6488 * x**1.425,
    )
    gain = np.zeros_like(f)
    for height in (start_m, end_m):
        y = 0.9575 * beta * (ghz**2 / radius_km) ** (1 / 3) * height * beta
        tall = np.maximum(y - 1.1, 1e-9)
        own = np.where(
            y > 2,
            17.6 * np.sqrt(tall) - 5 * np.log10(tall) - 8,
            20 * np.log10(y + 0.1 * y**3),
        )
        gain = gain + np.maximum(own, 2 + 20 * np.log10(admittance))
    return np.asarray(-along - gain)
