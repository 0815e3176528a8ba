"""Several satellites on one dish: the tilt of the row of feeds, where each feed goes, what it costs."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike

from ..antennas import LIGHT_M_MHZ
from ..geodesy import Floats, direction, half_turn

EDGE_DB = -11.0  # taper of a feed toward the rim; common practice, no source


@dataclass(frozen=True)
class Dish:
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


@lru_cache(maxsize=64)
def _aperture(dish: Dish) -> tuple[Floats, Floats, Floats]:
    """Points of the aperture [m] (across, up, shape n x 2), the reflector's points behind them
    (n x 3, vertex frame, z along the beam) and the feed's taper there as weights."""
    grid = np.linspace(-1, 1, 31)
    x, y = np.meshgrid(grid, grid)
    inside = x**2 + y**2 <= 1 + 1e-9  # rounding must not take points of one side only
    a = dish.diameter_m / 2
    flat = np.column_stack([x[inside] * a, y[inside] * a])
    up = flat[:, 1] + dish.centre_m
    surface = np.column_stack([flat[:, 0], up, (flat[:, 0] ** 2 + up**2) / (4 * dish.focal_m)])
    taper = 10 ** (EDGE_DB / 20 * ((x**2 + y**2)[inside]))
    return flat, surface, taper


def displaced(
    dish: Dish, sideways_m: ArrayLike, upward_m: ArrayLike, frequency_mhz: float
) -> tuple[Floats, Floats, Floats]:
    """Beam angles to the side and upward [deg] and loss of gain [dB] of feeds that are moved in the
    focal plane; a feed moved right throws its beam left. Arrays of one shape.

    The path from each point of the reflector to the feed is compared with that to the focus: its
    even slope over the aperture turns the beam, what is left of it blurs the beam (coma).
    """
    flat, surface, taper = _aperture(dish)
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
    length = np.linalg.norm(surface[None, :, :] - feeds[:, None, :], axis=2)
    change = length - np.linalg.norm(surface - focus, axis=1)[None, :]
    matrix = np.column_stack([np.ones(len(flat)), flat]) * np.sqrt(taper)[:, None]
    slopes = np.linalg.lstsq(matrix, (change * np.sqrt(taper)).T, rcond=None)[0]
    rest = change - (np.column_stack([np.ones(len(flat)), flat]) @ slopes).T
    wave = LIGHT_M_MHZ / frequency_mhz
    sum_ = np.abs((taper * np.exp(2j * np.pi * rest / wave)).sum(axis=1)) / taper.sum()
    # A longer path on the right delays that side: the wavefront, and the beam, turn to the right.
    return (
        np.degrees(np.arcsin(np.clip(slopes[1], -1, 1))).reshape(shape),
        np.degrees(np.arcsin(np.clip(slopes[2], -1, 1))).reshape(shape),
        (-20 * np.log10(np.maximum(sum_, 1e-6))).reshape(shape),
    )


def feed_place(
    dish: Dish, across_deg: float, up_deg: float, frequency_mhz: float
) -> tuple[float, float, float]:
    """Where a feed goes for a beam that is turned by so much: sideways and up in the focal plane
    [m], and the loss there [dB]. Two steps of Newton's method reach 0.01°."""
    reach = _effective_focal_m(dish)
    x, y = -math.tan(math.radians(across_deg)) * reach, -math.tan(math.radians(up_deg)) * reach
    loss = 0.0
    for _ in range(4):
        side, up, lost = displaced(dish, x, y, frequency_mhz)
        loss = float(lost)
        x -= math.radians(across_deg - float(side)) * reach
        y -= math.radians(up_deg - float(up)) * reach
    return x, y, loss


def _effective_focal_m(dish: Dish) -> float:
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
    dish: Dish, sats: Sequence[tuple[str, str, float, float]], main: int, frequency_mhz: float,
    lnb_width_mm: float,
) -> RowOfFeeds:  # fmt: skip
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
    lines = []
    for i, (key, name, a, e) in enumerate(sats):
        fx, fy, loss = feed_place(dish, float(across[i]), float(beside[i]), frequency_mhz)
        lines.append(
            (key, name, a, e, float(across[i]), float(beside[i]), 1000 * fx, 1000 * fy, loss)
        )
    lines.sort(key=lambda r: r[4])
    least = min(r[8] for r in lines)
    feeds = [
        FeedLine(*r[:8], r[8] - least,
                 None if i == 0 else abs(r[6] - lines[i - 1][6]) - lnb_width_mm)
        for i, r in enumerate(lines)
    ]  # fmt: skip
    # How far the beam goes for one feed's width beside the focus.
    side, _, _ = displaced(dish, lnb_width_mm / 1000, 0.0, frequency_mhz)
    factor = abs(math.radians(float(side))) / math.atan(
        lnb_width_mm / 1000 / _effective_focal_m(dish)
    )
    return RowOfFeeds(tilt, az0 % 360, el0, abs(float(side)), factor, feeds)
