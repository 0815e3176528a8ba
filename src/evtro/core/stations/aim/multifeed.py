"""Several satellites on one dish: the tilt of the row of feeds, where each feed goes, what it costs."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ...physics.beams import LIGHT_M_MHZ
from ...physics.geodesy import Floats, direction, half_turn

Complexes = NDArray[np.complex128]
EDGE_DB = -11.0  # taper of a feed toward the rim; common practice, no source


@dataclass(frozen=True)
class Paraboloid:
    """What a displaced feed needs to know of a dish: diameter and focal length [m] and how far the
    middle of the aperture stands off the paraboloid's axis [m] (0 for a round prime-focus dish)."""

    diameter_m: float
    focal_m: float
    centre_m: float


@dataclass(frozen=True)
class FeedLine:
    """One satellite of the row. `across_deg` along the row and `beside_deg` off it as seen from
    behind the dish, `offset_mm` of its feed along the bar (positive to the right from behind),
    loss [dB] against the middle feed, and room to the next one [mm]."""

    target: str
    name: str
    azimuth_deg: float
    elevation_deg: float
    across_deg: float
    beside_deg: float
    offset_mm: float
    height_mm: float
    loss_db: float
    gap_mm: float | None


@dataclass(frozen=True)
class RowOfFeeds:
    """The row: its tilt against level as seen from behind, clockwise positive [deg], the dish's own
    direction, the least spacing of satellites that two feeds side by side allow [deg]."""

    tilt_deg: float
    azimuth_deg: float
    elevation_deg: float
    least_spacing_deg: float
    beam_deviation: float
    feeds: list[FeedLine]


@dataclass(frozen=True)
class _Aperture:
    """Points of the aperture: `flat` across and up [m, n x 2], the reflector's points behind them
    (n x 3, vertex frame, z along the beam), the feed's taper there as weights, and the matrix that
    takes a path over the aperture to its mean and even slopes (3 x n)."""

    flat: Floats
    surface: Floats
    taper: Floats
    fit: Floats


@lru_cache(maxsize=64)
def _aperture(dish: Paraboloid) -> _Aperture:
    grid = np.linspace(-1, 1, 23)
    x, y = np.meshgrid(grid, grid)
    inside = x**2 + y**2 <= 1 + 1e-9  # rounding must not take points of one side only
    a = dish.diameter_m / 2
    flat = np.column_stack([x[inside] * a, y[inside] * a])
    up = flat[:, 1] + dish.centre_m
    surface = np.column_stack([flat[:, 0], up, (flat[:, 0] ** 2 + up**2) / (4 * dish.focal_m)])
    taper = 10 ** (EDGE_DB / 20 * ((x**2 + y**2)[inside]))
    root = np.sqrt(taper)
    fit = np.linalg.pinv(np.column_stack([np.ones(len(flat)), flat]) * root[:, None]) * root
    return _Aperture(flat, surface, taper, fit)


def displaced(
    dish: Paraboloid, sideways_m: ArrayLike, upward_m: ArrayLike, frequency_mhz: float
) -> tuple[Floats, Floats, Floats]:
    """Beam angles to the side and upward [deg] and loss of gain [dB] of feeds that are moved in the
    focal plane; a feed moved right throws its beam left. Arrays of one shape.

    The waves of all points of the reflector are added toward a direction, and that direction is
    moved until their sum is greatest: what is then missing against a feed in the focus is the loss
    (coma, and blur along the field). Where the beam has broken up, the even slope of the paths
    stands for its direction.
    """
    lit = _aperture(dish)
    dx, dy = np.broadcast_arrays(np.asarray(sideways_m, float), np.asarray(upward_m, float))
    shape = dx.shape
    dx, dy = dx.reshape(-1), dy.reshape(-1)
    # The plane of the feeds stands square to the line from the focus to the aperture's middle.
    middle = np.array([0.0, dish.centre_m, dish.centre_m**2 / (4 * dish.focal_m)])
    focus = np.array([0.0, 0.0, dish.focal_m])
    toward = (middle - focus) / np.linalg.norm(middle - focus)
    side = np.array([1.0, 0.0, 0.0])
    rise = np.cross(toward, side)
    rise = rise if rise[1] > 0 else -rise
    feeds = focus + dx[:, None] * side + dy[:, None] * rise
    length = np.linalg.norm(lit.surface[None, :, :] - feeds[:, None, :], axis=2)
    change = length - np.linalg.norm(lit.surface - focus, axis=1)[None, :]
    aim, size = _strongest(lit, change, 2 * np.pi * frequency_mhz / LIGHT_M_MHZ)
    # A longer path on the right delays that side: the wavefront, and the beam, turn to the right.
    # Angles as `dish_frame` has them: in the level plane of the dish, and in its upright one.
    ahead = _ahead(aim)
    return (
        np.degrees(np.arctan2(aim[:, 0], ahead)).reshape(shape),
        np.degrees(np.arctan2(aim[:, 1], ahead)).reshape(shape),
        (-20 * np.log10(np.clip(size, 1e-6, 1.0))).reshape(shape),
    )


def _ahead(aim: Floats) -> Floats:
    """The part of unit directions along the axis, from their parts across and up (m x 2)."""
    return np.asarray(np.sqrt(np.maximum(1 - (aim**2).sum(axis=1), 1e-4)))


def _strongest(lit: _Aperture, change: Floats, wave_number: float) -> tuple[Floats, Floats]:
    """Directions (m x 2, parts of a unit vector) toward which the waves add up most, and the sum
    there against that of waves in step. `change` is each path against that by way of the focus
    [m, m x n]; the direction starts at the paths' even slope and is improved by Newton's method."""
    depth = lit.surface[:, 2]
    aim = np.zeros((len(change), 2))
    for _ in range(3):  # the slope asks for the depth's share, which asks for the slope
        aim = ((change + depth * (1 - _ahead(aim))[:, None]) @ lit.fit.T)[:, 1:]
        aim /= np.maximum(np.linalg.norm(aim, axis=1, keepdims=True) / 0.99, 1.0)
    longest = 2.0 / (wave_number * np.ptp(lit.flat[:, 0]))  # a third of a beamwidth
    waves = _waves(lit, change, aim, wave_number)
    for _ in range(8):
        step = _newton(lit, waves, wave_number)
        reach = np.linalg.norm(step, axis=1, keepdims=True)
        if float(reach.max()) < 1e-4:
            break
        tried = aim + step * np.minimum(1.0, longest / np.maximum(reach, 1e-12))
        there = _waves(lit, change, tried, wave_number)
        better = (np.abs(there.sum(axis=1)) > np.abs(waves.sum(axis=1)))[:, None]
        if not better.any():
            break
        aim, waves = np.where(better, tried, aim), np.where(better, there, waves)
    return aim, np.abs(waves.sum(axis=1)) / lit.taper.sum()


def _waves(lit: _Aperture, change: Floats, aim: Floats, wave_number: float) -> Complexes:
    path = change + lit.surface[:, 2] * (1 - _ahead(aim))[:, None] - aim @ lit.flat.T
    return np.asarray(lit.taper * np.exp(-1j * wave_number * path))


def _newton(lit: _Aperture, waves: Complexes, wave_number: float) -> Floats:
    """Step toward the top of the power, uphill where the power is not yet rounded like a top."""
    x, y = lit.flat[:, 0], lit.flat[:, 1]
    moments = waves @ np.column_stack([np.ones(len(x)), x, y, x * x, x * y, y * y])  # m x 6
    total = moments[:, 0].conj()
    first = 1j * wave_number * moments[:, 1:3]
    second = -(wave_number**2) * moments[:, [3, 4, 4, 5]].reshape(-1, 2, 2)
    slope = (total[:, None] * first).real
    bend = (first.conj()[:, :, None] * first[:, None, :] + total[:, None, None] * second).real
    values, ways = np.linalg.eigh((bend + bend.transpose(0, 2, 1)) / 2)
    along = np.einsum("mji,mj->mi", ways, slope) / np.maximum(np.abs(values), 1e-12)
    return np.asarray(np.einsum("mij,mj->mi", ways, along))


def feed_places(
    dish: Paraboloid, across_deg: Floats, up_deg: Floats, frequency_mhz: float
) -> tuple[Floats, Floats, Floats]:
    """Where feeds go for beams that are turned by so much: sideways and up in the focal plane [m],
    and the loss there [dB]. Four steps reach 0.02°. Kept, for most changes of a job move no dish."""
    return _places(dish, tuple(across_deg.tolist()), tuple(up_deg.tolist()), frequency_mhz)


@lru_cache(maxsize=64)
def _places(
    dish: Paraboloid, across: tuple[float, ...], upward: tuple[float, ...], frequency_mhz: float
) -> tuple[Floats, Floats, Floats]:
    across_deg, up_deg = np.array(across), np.array(upward)
    reach = _effective_focal_m(dish)
    x, y = -np.tan(np.radians(across_deg)) * reach, -np.tan(np.radians(up_deg)) * reach
    loss = np.zeros_like(x)
    for _ in range(4):
        side, up, loss = displaced(dish, x, y, frequency_mhz)
        x = x - np.radians(across_deg - side) * reach
        y = y - np.radians(up_deg - up) * reach
    return x, y, loss


def feed_place(
    dish: Paraboloid, across_deg: float, up_deg: float, frequency_mhz: float
) -> tuple[float, float, float]:
    """`feed_places` for one feed."""
    x, y, loss = feed_places(dish, np.array([across_deg]), np.array([up_deg]), frequency_mhz)
    return float(x[0]), float(y[0]), float(loss[0])


def _effective_focal_m(dish: Paraboloid) -> float:
    """Distance from the focus to the middle of the reflector [m]."""
    return dish.focal_m + dish.centre_m**2 / (4 * dish.focal_m)


def dish_frame(
    azimuth_deg: float, elevation_deg: float, az: ArrayLike, el: ArrayLike
) -> tuple[Floats, Floats]:
    """Directions as angles to the right and upward of a dish's own [deg], seen from behind it."""
    ahead = direction(azimuth_deg, elevation_deg)
    right = np.cross(ahead, np.array([0.0, 0.0, 1.0]))
    right = right / np.linalg.norm(right)
    upward = np.cross(right, ahead)
    other = direction(az, el)
    depth = other @ ahead
    return np.degrees(np.arctan2(other @ right, depth)), np.degrees(
        np.arctan2(other @ upward, depth)
    )


def row_tilt_deg(x: Floats, y: Floats) -> float:
    """Tilt of the line through points against level, clockwise positive as seen from behind [deg]:
    the direction of their greatest spread."""
    dx, dy = x - x.mean(), y - y.mean()
    angle = 0.5 * math.atan2(2 * float((dx * dy).sum()), float((dx**2 - dy**2).sum()))
    return float(half_turn(-math.degrees(angle)))


def row_of_feeds(
    dish: Paraboloid,
    sats: Sequence[tuple[str, str, float, float]],
    main: int,
    frequency_mhz: float,
    lnb_width_mm: float,
) -> RowOfFeeds:
    """Lay out the feeds. `sats` are rows of id, name, azimuth, elevation; `main` is the one whose
    feed stands in the focus, or -1 for the middle between the outer two."""
    az = np.array([s[2] for s in sats])
    el = np.array([s[3] for s in sats])
    unwrapped = az[0] + (az - az[0] + 180) % 360 - 180
    if main >= 0:
        az0, el0 = float(az[main]), float(el[main])
    else:
        az0, el0 = float((unwrapped.min() + unwrapped.max()) / 2), float((el.min() + el.max()) / 2)
    x, y = dish_frame(az0, el0, az, el)
    tilt = row_tilt_deg(x, y) if len(sats) > 1 else 0.0
    turn = math.radians(tilt)
    across = x * math.cos(turn) - y * math.sin(turn)
    beside = x * math.sin(turn) + y * math.cos(turn)
    placed = np.column_stack([across, beside, *feed_places(dish, across, beside, frequency_mhz)])
    lines = [
        (*sat, ax, by, 1000 * fx, 1000 * fy, loss)
        for sat, (ax, by, fx, fy, loss) in zip(sats, placed.tolist(), strict=True)
    ]
    lines.sort(key=lambda r: r[4])
    least = min(r[8] for r in lines)
    feeds = [
        FeedLine(
            *r[:8], r[8] - least, None if i == 0 else abs(r[6] - lines[i - 1][6]) - lnb_width_mm
        )
        for i, r in enumerate(lines)
    ]
    # How far the beam goes for one feed's width beside the focus.
    side, _, _ = displaced(dish, lnb_width_mm / 1000, 0.0, frequency_mhz)
    factor = abs(math.radians(float(side))) / math.atan(
        lnb_width_mm / 1000 / _effective_focal_m(dish)
    )
    return RowOfFeeds(
        tilt_deg=tilt,
        azimuth_deg=az0 % 360,
        elevation_deg=el0,
        least_spacing_deg=abs(float(side)),
        beam_deviation=factor,
        feeds=feeds,
    )
