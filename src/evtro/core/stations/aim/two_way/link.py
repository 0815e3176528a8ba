"""Two-way terminals: which beam, who must keep away, how well the other polarisation is nulled."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ....job import Beam
from ....physics.beams import LIGHT_M_MHZ
from ....physics.geodesy import Floats, bearing_and_distance
from ....units.quantities import InputError

OET_65 = "FCC OET Bulletin 65, edition 97-01 (from memory)"
PUBLIC_MW_CM2 = 1.0  # 1.5 to 100 GHz, general population: 47 CFR 1.1310 (from memory)
WORKER_MW_CM2 = 5.0
ISOLATION_DB = 25.0  # wanted from a linear feed in service; common practice, no source
FEED_ISOLATION_DB = (
    35.0  # what is left of the other polarisation at a perfect null; common practice
)


_BLOCK = 128


@dataclass(frozen=True)
class Field:
    """Power density round a transmitting dish [mW/cm²] and the distances it goes with [m]."""

    surface_mw_cm2: float
    near_mw_cm2: float
    near_to_m: float
    far_from_m: float
    gain_dbi: float
    public_from_m: float
    worker_from_m: float
    aside_m: float
    curve: list[tuple[float, float]]


@dataclass(frozen=True)
class BeamChoice:
    """A beam judged for a place: inside or not, and how far from its border [km]. One that was typed
    has no border; it counts as its provider gave it."""

    beam: str
    name: str
    code: str
    polarisation: str
    inside: bool
    border_km: float | None
    least_esn0_db: float | None
    best: bool


def power_density(
    diameter_m: float,
    watts: float,
    frequency_mhz: float,
    efficiency: float,
    duty_pct: float = 100.0,
) -> Field:
    """Power density in front of a dish: at its surface 4P/A, in the near field 16 eta P / (pi D²) to
    D²/4 lambda, falling as 1/R to 0.6 D²/lambda, then P G / (4 pi R²). Reference: OET-65.

    `public_from_m` is the distance on the axis beyond which the limit for anybody is met; 0 where
    it is met at the surface. Off the axis, one dish diameter aside, it is 20 dB less.
    """
    area_cm2 = math.pi * (diameter_m * 100 / 2) ** 2
    wave = LIGHT_M_MHZ / frequency_mhz
    power_mw = watts * 1000 * duty_pct / 100
    gain = efficiency * (math.pi * diameter_m / wave) ** 2
    surface = 4 * power_mw / area_cm2
    near = 16 * efficiency * power_mw / (math.pi * (diameter_m * 100) ** 2)
    near_to, far_from = diameter_m**2 / (4 * wave), 0.6 * diameter_m**2 / wave

    def at(metres: Floats) -> Floats:
        far = power_mw * gain / (4 * math.pi * (np.maximum(metres, 1e-3) * 100) ** 2)
        middle = near * near_to / np.maximum(metres, 1e-3)
        return np.where(
            metres <= near_to, near, np.where(metres < far_from, middle, np.minimum(far, middle))
        )

    def beyond(limit: float) -> float:
        if max(near, surface) <= limit:
            return 0.0
        if near <= limit:
            return diameter_m
        crossing = near * near_to / limit
        if crossing <= far_from:
            return crossing
        return max(math.sqrt(power_mw * gain / (4 * math.pi * limit)) / 100, far_from)

    r = np.geomspace(max(diameter_m / 4, 0.1), max(far_from * 4, 10.0), 60)
    return Field(
        surface_mw_cm2=surface,
        near_mw_cm2=near,
        near_to_m=near_to,
        far_from_m=far_from,
        gain_dbi=10 * math.log10(gain),
        public_from_m=beyond(PUBLIC_MW_CM2),
        worker_from_m=beyond(WORKER_MW_CM2),
        aside_m=diameter_m,
        curve=[(float(m), float(d)) for m, d in zip(r, at(r), strict=True)],
    )


def isolation_db(skew_error_deg: ArrayLike) -> Floats:
    """Isolation from the other polarisation against the error of skew [dB]: tan² of the error, and
    what the feed itself leaks."""
    error = np.radians(np.asarray(skew_error_deg, float))
    leak = 10 ** (-FEED_ISOLATION_DB / 10)
    return np.asarray(-10 * np.log10(np.tan(error) ** 2 + leak))


def skew_for_isolation(wanted_db: float) -> float | None:
    """The greatest error of skew that still reaches an isolation [deg], None where none does."""
    left = 10 ** (-wanted_db / 10) - 10 ** (-FEED_ISOLATION_DB / 10)
    return math.degrees(math.atan(math.sqrt(left))) if left >= 0 else None


def _ring(boundary: Sequence[tuple[float, float]]) -> Floats:
    ring = np.asarray(boundary, float)
    if len(ring) > 1 and (ring[0] == ring[-1]).all():
        ring = ring[:-1]
    # Across the date line the longitudes run on.
    ring[:, 0] = np.degrees(np.unwrap(np.radians(ring[:, 0])))
    return ring


def check_boundary(boundary: Sequence[tuple[float, float]]) -> None:
    """Raise InputError for a border that is no border: too few corners, off the earth, crossing
    itself."""
    if not np.isfinite(np.asarray(boundary, float)).all():
        raise InputError(
            "Beam border",
            "a corner is no finite figure.",
            "Type longitude and latitude in degrees, such as -9.97 and 53.48.",
            "polygon-outside",
        )
    ring = _ring(boundary)
    if len(ring) < 3:
        raise InputError(
            "Beam border",
            f"it has {len(ring)} corners.",
            "Three at least make an area.",
            "polygon-short",
        )
    if (np.abs(ring[:, 1]) > 90).any():
        raise InputError(
            "Beam border",
            "a latitude lies outside the earth.",
            "GeoJSON gives longitude first, then latitude.",
            "polygon-outside",
        )
    a, d, n = ring, np.roll(ring, -1, axis=0) - ring, len(ring)
    # A block of sides against all: every pair at once would take 180 MB for the longest border.
    for start in range(0, n, _BLOCK):
        sides = np.arange(start, min(start + _BLOCK, n))
        i, j = np.meshgrid(sides, np.arange(start, n), indexing="ij")
        apart = (j > i + 1) & ~((i == 0) & (j == n - 1))
        i, j = i[apart], j[apart]
        between = a[j] - a[i]
        cross = d[i, 0] * d[j, 1] - d[i, 1] * d[j, 0]
        with np.errstate(divide="ignore", invalid="ignore"):
            s = (between[:, 0] * d[j, 1] - between[:, 1] * d[j, 0]) / cross
            t = (between[:, 0] * d[i, 1] - between[:, 1] * d[i, 0]) / cross
        hit = (cross != 0) & (s > 0) & (s < 1) & (t > 0) & (t < 1)
        if hit.any():
            k = int(np.flatnonzero(hit)[0])
            raise InputError(
                "Beam border",
                f"side {int(i[k]) + 1} crosses side {int(j[k]) + 1}.",
                "Put the corners in the order in which the border runs.",
                "polygon-crossed",
            )


def choose_beam(
    beams: Sequence[Beam], latitude_deg: float, longitude_deg: float
) -> list[BeamChoice]:
    """Beams judged for a place, the one that holds it deepest first."""
    found: list[tuple[Beam, bool, float | None]] = []
    for beam in beams:
        if not beam.boundary:
            found.append((beam, True, None))
            continue
        ring = _ring(beam.boundary)
        middle = float(ring[:, 0].mean())
        lon = middle + (longitude_deg - middle + 180) % 360 - 180
        a, b = ring, np.roll(ring, -1, axis=0)
        # Even-odd rule along the parallel of the place.
        up = (a[:, 1] > latitude_deg) != (b[:, 1] > latitude_deg)
        with np.errstate(divide="ignore", invalid="ignore"):
            meets = a[:, 0] + (latitude_deg - a[:, 1]) * (b[:, 0] - a[:, 0]) / (b[:, 1] - a[:, 1])
        inside = bool((up & (lon < meets)).sum() % 2)
        t = np.linspace(0, 1, 24)[None, :, None]
        line = (a[:, None, :] + t * (b - a)[:, None, :]).reshape(-1, 2)
        near = np.hypot(
            (line[:, 0] - lon) * math.cos(math.radians(latitude_deg)), line[:, 1] - latitude_deg
        )
        close = line[np.argsort(near)[:4]]
        _, km = bearing_and_distance(
            latitude_deg, longitude_deg, close[:, 1], (close[:, 0] + 180) % 360 - 180
        )
        found.append((beam, inside, float(km.min())))
    found.sort(key=lambda f: (not f[1], f[2] is None, (-1 if f[1] else 1) * (f[2] or 0.0)))
    return [
        BeamChoice(
            beam=b.id,
            name=b.name,
            code=b.code,
            polarisation=b.polarisation,
            inside=inside,
            border_km=km,
            least_esn0_db=b.least_esn0_db,
            best=i == 0 and inside and km is not None,
        )
        for i, (b, inside, km) in enumerate(found)
    ]
