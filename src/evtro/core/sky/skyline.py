"""The skyline: outlines of what is in the way, and how far directions stand clear of them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..geodesy import Floats, direction
from ..job import Obstruction

STEP_DEG = 0.25
ZENITH_DEG = 90.0


@dataclass(frozen=True)
class Silhouette:
    """An obstruction as seen from the mount: outline points of bearing and elevation [deg].

    An eave hangs: all above its line is covered."""

    id: str
    letter: str
    name: str
    outline: str
    top_deg: float
    points: list[tuple[float, float]]


@dataclass(frozen=True)
class View:
    """Where the eye is: mount height above ground [m], a step aside east and north [m], and how
    many summers from now."""

    height_m: float
    east_m: float = 0.0
    north_m: float = 0.0
    years: float = 0.0


@dataclass(frozen=True)
class Edges:
    """The outlines of all obstructions, laid end to end. `az`, `el` [deg] and unit vectors of all
    points; row k owns the points from `start[k]` on, the last `uprights` of them at its sides."""

    ids: tuple[str, ...]
    az: Floats
    el: Floats
    vectors: Floats
    start: NDArray[np.int64]
    tops: tuple[Floats, ...]
    eave: NDArray[np.bool_]
    distance_m: Floats


@dataclass(frozen=True)
class Clear:
    """Angles between directions and obstructions [deg], negative inside, of shape (directions,
    obstructions), and the point of each obstruction that is nearest."""

    angle_deg: Floats
    point: NDArray[np.int64]
    edges: Edges


def top_m(row: Obstruction, years: float = 0.0) -> float | None:
    """Height of the top above the ground at the mount [m], or None without a distance."""
    if row.distance_m is None:
        return None
    above = row.above_m
    if above is None:
        above = row.distance_m * math.tan(math.radians(row.top_deg or 0.0))
    return above + row.seen_from_m + years * row.growth_m_year


def top_deg(row: Obstruction, mount_height_m: float, years: float = 0.0) -> float:
    """Elevation of the top from the mount at a height above ground [deg].

    An angle without a distance stays as it was measured; with a distance, the top moves when the
    mount is raised, because the obstruction does not, and when it grows.
    """
    height = top_m(row, years)
    if height is None or row.distance_m is None:
        return row.top_deg if row.top_deg is not None else 0.0
    return math.degrees(math.atan2(height - mount_height_m, row.distance_m))


@lru_cache(maxsize=1024)
def _shape(outline: str, width_deg: float) -> Floats:
    """The upper edge from side to side as fractions of the top."""
    n = max(int(width_deg / STEP_DEG) + 1, 3) | 1  # odd, so that the middle is a point
    t = np.linspace(0.0, 1.0, n)
    if outline == "ridge":
        edge = min(0.5, 3.0 / max(width_deg, 1e-6))
        shape = np.sqrt(np.clip(np.minimum(t, 1 - t) / edge, 0, 1))
    elif outline == "gable":
        shape = 0.72 + 0.28 * (1 - np.abs(2 * t - 1))
    elif outline == "crowns":
        count = max(round(width_deg / 4), 1)
        shape = 0.88 + 0.12 * np.abs(np.sin(np.pi * count * t))
    else:
        shape = np.ones(n)
    shape.flags.writeable = False
    return shape


def outline(row: Obstruction, mount_height_m: float, years: float = 0.0) -> Floats:
    """Points of the upper edge, bearing running upward from `from_deg` [deg], shape (n, 2)."""
    top = top_deg(row, mount_height_m, years)
    width = (row.to_deg - row.from_deg) % 360
    shape = _shape(row.outline, width)
    elevation = top * shape if top > 0 else np.full(len(shape), top)
    return np.column_stack([row.from_deg + width * np.linspace(0.0, 1.0, len(shape)), elevation])


def _seen(row: Obstruction, view: View) -> tuple[Floats, float]:
    """The upper edge and the distance from where the eye stands."""
    edge = outline(row, view.height_m, view.years)
    if row.distance_m is None or (view.east_m == 0 and view.north_m == 0):
        return edge, row.distance_m if row.distance_m is not None else math.inf
    bearing = np.radians(edge[:, 0])
    height = row.distance_m * np.tan(np.radians(edge[:, 1]))
    east = row.distance_m * np.sin(bearing) - view.east_m
    north = row.distance_m * np.cos(bearing) - view.north_m
    away = np.hypot(east, north)
    moved = np.degrees(np.unwrap(np.arctan2(east, north)))
    moved += 360.0 * round((edge[0, 0] - moved[0]) / 360.0)
    return np.column_stack([moved, np.degrees(np.arctan2(height, away))]), float(away.min())


def _upright(foot_deg: float, top_deg: float) -> Floats:
    """Elevations up a side, without the corner itself."""
    steps = max(int(abs(top_deg - foot_deg) / (2 * STEP_DEG)), 2)
    return np.linspace(foot_deg, top_deg, steps + 1)[:-1]


def edges_of(rows: Sequence[Obstruction], view: View) -> Edges:
    """All outlines with their sides, ready to be measured against any number of directions."""
    az: list[Floats] = []
    el: list[Floats] = []
    tops: list[Floats] = []
    sizes: list[int] = []
    away: list[float] = []
    for row in rows:
        edge, distance = _seen(row, view)
        if edge[0, 0] > edge[-1, 0]:
            edge = edge[::-1]
        # The sides of what stands run down to level, those of an eave up to the zenith.
        foot = ZENITH_DEG if row.outline == "eave" else min(0.0, float(edge[:, 1].min()))
        left, right = _upright(foot, float(edge[0, 1])), _upright(foot, float(edge[-1, 1]))
        az += [edge[:, 0], np.full(len(left), edge[0, 0]), np.full(len(right), edge[-1, 0])]
        el += [edge[:, 1], left, right]
        sizes.append(len(edge) + len(left) + len(right))
        tops.append(edge)
        away.append(distance)
    start = (
        np.concatenate([[0], np.cumsum(sizes)[:-1]]).astype(np.int64)
        if sizes
        else np.array([], np.int64)
    )
    all_az = np.concatenate(az) if az else np.array([])
    all_el = np.concatenate(el) if el else np.array([])
    return Edges(
        tuple(r.id for r in rows), all_az, all_el, direction(all_az, all_el), start, tuple(tops),
        np.array([r.outline == "eave" for r in rows], bool), np.array(away, float),
    )  # fmt: skip


def clear_of(edges: Edges, azimuth_deg: ArrayLike, elevation_deg: ArrayLike) -> Clear:
    """How far directions stand clear of every obstruction, negative inside it."""
    az = np.atleast_1d(np.asarray(azimuth_deg, float))
    el = np.atleast_1d(np.asarray(elevation_deg, float))
    if not edges.ids:
        none = np.zeros((len(az), 0))
        return Clear(none, none.astype(np.int64), edges)
    cosine = direction(az, el) @ edges.vectors.T
    best = np.maximum.reduceat(cosine, edges.start, axis=1)
    # Which point it was is asked only of the nearest, by `nearest_point`; here the angle will do.
    angle = np.degrees(np.arccos(np.clip(best, -1, 1)))
    for k, edge in enumerate(edges.tops):
        along = (az - edge[0, 0]) % 360
        over = along <= edge[-1, 0] - edge[0, 0]
        if not over.any():
            continue
        line = np.interp(along + edge[0, 0], edge[:, 0], edge[:, 1])
        inside = over & ((el > line) if edges.eave[k] else (el < line))
        angle[:, k] = np.where(inside, -angle[:, k], angle[:, k])
    return Clear(angle, edges.start, edges)


def nearest_point(
    edges: Edges, k: int, azimuth_deg: float, elevation_deg: float
) -> tuple[float, float]:
    """The point of obstruction `k` that is nearest to a direction: bearing and elevation [deg]."""
    end = edges.start[k + 1] if k + 1 < len(edges.start) else len(edges.az)
    own = slice(int(edges.start[k]), int(end))
    best = int((edges.vectors[own] @ direction(azimuth_deg, elevation_deg)).argmax()) + own.start
    return float(edges.az[best]), float(edges.el[best])


@dataclass(frozen=True)
class Room:
    """Free sky round a direction [deg]: down to what stands below it, up to what hangs above it,
    and along the horizon to the left and right; None where nothing is."""

    down: float | None
    up: float | None
    left: float | None
    right: float | None


def room(edges: Edges, azimuth_deg: float, elevation_deg: float) -> Room:
    """How much sky is free straight down, straight up, left and right of a direction."""
    down = up = left = right = None
    for k, edge in enumerate(edges.tops):
        along = (azimuth_deg - edge[0, 0]) % 360
        width = edge[-1, 0] - edge[0, 0]
        if along <= width:
            line = float(np.interp(along + edge[0, 0], edge[:, 0], edge[:, 1]))
            if edges.eave[k]:
                up = min(line - elevation_deg, math.inf if up is None else up)
            else:
                down = min(elevation_deg - line, math.inf if down is None else down)
        blocks = (edge[:, 1] < elevation_deg) if edges.eave[k] else (edge[:, 1] > elevation_deg)
        if blocks.any():
            # Along a circle of equal elevation the sky is narrower by its cosine.
            off = ((edge[blocks, 0] - azimuth_deg + 180) % 360 - 180) * math.cos(
                math.radians(elevation_deg)
            )
            if (off >= 0).any():
                right = min(float(off[off >= 0].min()), math.inf if right is None else right)
            if (off <= 0).any():
                left = min(float(-off[off <= 0].max()), math.inf if left is None else left)
    return Room(down, up, left, right)


def silhouettes(
    rows: tuple[Obstruction, ...], mount_height_m: float, years: float = 0.0
) -> list[Silhouette]:
    """All obstructions as they stand from the mount, lettered in their order."""
    return [
        Silhouette(
            row.id,
            letter(i),
            row.name,
            row.outline,
            top_deg(row, mount_height_m, years),
            [(a, e) for a, e in outline(row, mount_height_m, years).tolist()],
        )
        for i, row in enumerate(rows)
    ]


def letter(index: int) -> str:
    """A, B … Z, AA, AB …"""
    return ("" if index < 26 else letter(index // 26 - 1)) + chr(65 + index % 26)
