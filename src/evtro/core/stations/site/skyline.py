"""The skyline: outlines of what is in the way, and how far directions stand clear of them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ...job import Obstruction
from ...physics.geodesy import Floats, direction

STEP_DEG = 0.25
ZENITH_DEG = 90.0
APART = 1000.0  # more than once round
FLATTEST = 1.7e-3  # cosine of 89.9 degrees: above that a point has no bearing to speak of


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
    """The outlines of all obstructions as seen, laid end to end: unit vectors east, north and up of
    all points, shape (3, points). Row k owns the points from `start[k]` on; `upper[k]` are those of
    its edge, which ends at `last[k]`; `edge` names the points of all edges and `edge_row` their
    rows. `from_deg` are the bearings the points had at the mount: the new ones run on from them."""

    ids: tuple[str, ...]
    vectors: Floats
    from_deg: Floats
    start: NDArray[np.int64]
    last: NDArray[np.int64]
    upper: tuple[slice, ...]
    edge: NDArray[np.int64]
    edge_row: NDArray[np.int64]
    eave: NDArray[np.bool_]
    distance_m: Floats

    def az_deg(self, at: slice | NDArray[np.int64]) -> Floats:
        """Bearings of some points [deg], without a jump at north."""
        turned = np.degrees(np.arctan2(self.vectors[0, at], self.vectors[1, at]))
        old = self.from_deg[at]
        return np.asarray(old + (turned - old + 180.0) % 360.0 - 180.0)

    def el_deg(self, at: slice | NDArray[np.int64]) -> Floats:
        """Elevations of some points [deg]."""
        return np.asarray(np.degrees(np.arcsin(np.clip(self.vectors[2, at], -1.0, 1.0))))


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
def _shape(outline: str, width_deg: float, step_deg: float = STEP_DEG) -> Floats:
    """The upper edge from side to side as fractions of the top."""
    n = max(int(width_deg / step_deg) + 1, 3) | 1  # odd, so that the middle is a point
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


@dataclass(frozen=True)
class SkylinePoints:
    """Obstructions as points that can be looked at from anywhere: made once, seen many times.

    A point has its row, its bearing from the mount, the fraction of the row's top at which its
    edge lies, and how far up it stands between the foot and that edge (1 on the upper edge, less at
    the sides). Rows without a distance keep their angles; their distance is infinite.
    """

    rows: tuple[Obstruction, ...]
    ids: tuple[str, ...]
    row: NDArray[np.int64]
    bearing_deg: Floats
    sin: Floats
    cos: Floats
    fraction: Floats
    climb: Floats
    start: NDArray[np.int64]
    last: NDArray[np.int64]
    upper: tuple[slice, ...]
    edge: NDArray[np.int64]
    distance_m: Floats
    height_m: Floats
    growth_m: Floats
    fixed_deg: Floats
    eave: NDArray[np.bool_]

    _raised: dict[tuple[float, float], Floats] = field(default_factory=dict, compare=False)

    def seen(self, view: View) -> Edges:
        """The outlines from where the eye stands."""
        vectors, away = self._from_height(view.height_m, view.years), self.distance_m
        if view.east_m or view.north_m:
            far = np.isinf(self.distance_m)
            near_m = np.where(far, 1.0, self.distance_m)
            d = near_m[self.row]
            flat = np.hypot(vectors[0], vectors[1])
            # What has no distance, and the sides of an eave at the zenith, stay where they are.
            stays = far[self.row] | (flat < FLATTEST)
            scale = d / np.maximum(flat, FLATTEST)
            moved = vectors * scale - np.array([[view.east_m], [view.north_m], [0.0]])
            away = np.where(
                far, np.inf, np.minimum.reduceat(np.hypot(moved[0], moved[1]), self.start)
            )
            # Where the eye stands on a point itself that has no direction: nothing is clear of it.
            with np.errstate(invalid="ignore"):
                moved /= np.sqrt((moved * moved).sum(axis=0))
            vectors = np.where(stays, vectors, moved) if stays.any() else moved
        return Edges(
            ids=self.ids,
            vectors=vectors,
            from_deg=self.bearing_deg,
            start=self.start,
            last=self.last,
            upper=self.upper,
            edge=self.edge,
            edge_row=self.row[self.edge],
            eave=self.eave,
            distance_m=away,
        )

    def _from_height(self, height_m: float, years: float) -> Floats:
        """Unit vectors of all points from a height above the mount's ground; the last one is kept,
        as many steps aside are tried at one height."""
        key = height_m, years
        kept = self._raised.get(key)
        if kept is not None:
            return kept
        far = np.isinf(self.distance_m)
        height = self.height_m + years * self.growth_m - height_m
        tall = np.degrees(np.arctan2(height, np.where(far, 1.0, self.distance_m)))
        top = np.where(far, self.fixed_deg, tall)[self.row]
        edge = np.where(top > 0, top * self.fraction, top)
        foot = np.where(self.eave[self.row], ZENITH_DEG, np.minimum(0.0, edge))
        up = np.sin(np.radians(foot + self.climb * (edge - foot)))
        flat = np.sqrt(np.maximum(1 - up * up, 0.0))
        vectors = np.stack([flat * self.sin, flat * self.cos, up])
        self._raised.clear()
        self._raised[key] = vectors
        return vectors


def ground_of(rows: Sequence[Obstruction], step_deg: float = STEP_DEG) -> SkylinePoints:
    """All outlines with their sides as points, so many degrees apart."""
    return _ground(tuple(rows), step_deg)


@lru_cache(maxsize=32)
def _ground(rows: tuple[Obstruction, ...], step_deg: float) -> SkylinePoints:
    bearing: list[Floats] = []
    fraction: list[Floats] = []
    climb: list[Floats] = []
    sizes, uppers = [], []
    for row in rows:
        width = (row.to_deg - row.from_deg) % 360
        shape = _shape(row.outline, width, step_deg)
        # What stands has its sides down to level, what hangs up to the zenith.
        tall = abs((ZENITH_DEG if row.outline == "eave" else 0.0) - top_deg(row, row.seen_from_m))
        up = np.linspace(0.0, 1.0, max(int(tall / (2 * step_deg)), 2) + 1)[:-1]
        bearing += [
            row.from_deg + width * np.linspace(0, 1, len(shape)),
            np.full(len(up), row.from_deg),
            np.full(len(up), row.from_deg + width),
        ]
        fraction += [shape, np.full(len(up), shape[0]), np.full(len(up), shape[-1])]
        climb += [np.ones(len(shape)), up, up]
        uppers.append(len(shape))
        sizes.append(len(shape) + 2 * len(up))
    start = (
        np.concatenate([[0], np.cumsum(sizes)[:-1]]).astype(np.int64)
        if sizes
        else np.array([], np.int64)
    )
    all_bearing = np.concatenate(bearing) if bearing else np.array([])
    angle = np.radians(all_bearing)
    return SkylinePoints(
        rows=rows,
        ids=tuple(r.id for r in rows),
        row=np.repeat(np.arange(len(rows)), sizes),
        bearing_deg=all_bearing,
        sin=np.sin(angle),
        cos=np.cos(angle),
        fraction=np.concatenate(fraction) if fraction else np.array([]),
        climb=np.concatenate(climb) if climb else np.array([]),
        start=start,
        last=start + np.array(uppers, np.int64) - 1,
        upper=tuple(slice(int(s), int(s) + n) for s, n in zip(start, uppers, strict=True)),
        edge=np.concatenate([np.arange(s, s + n) for s, n in zip(start, uppers, strict=True)])
        if uppers
        else start,
        distance_m=np.array(
            [math.inf if r.distance_m is None else r.distance_m for r in rows], float
        ),
        height_m=np.array([top_m(r) or 0.0 for r in rows], float),
        growth_m=np.array([r.growth_m_year for r in rows], float),
        fixed_deg=np.array([r.top_deg or 0.0 for r in rows], float),
        eave=np.array([r.outline == "eave" for r in rows], bool),
    )


def edges_of(rows: Sequence[Obstruction], view: View) -> Edges:
    """All outlines with their sides, ready to be measured against any number of directions."""
    return ground_of(rows).seen(view)


def clear_of(edges: Edges, azimuth_deg: ArrayLike, elevation_deg: ArrayLike) -> Floats:
    """How far directions stand clear of every obstruction [deg], negative inside it; shape
    (directions, obstructions)."""
    az = np.atleast_1d(np.asarray(azimuth_deg, float))
    el = np.atleast_1d(np.asarray(elevation_deg, float))
    if not edges.ids:
        return np.zeros((len(az), 0))
    cosine = direction(az, el) @ edges.vectors
    best = np.maximum.reduceat(cosine, edges.start, axis=1)
    angle: Floats = np.degrees(np.arccos(np.clip(best, -1, 1)))
    first, last = edges.az_deg(edges.start), edges.az_deg(edges.last)
    left, wide = np.minimum(first, last), np.abs(last - first)
    along = (az[:, None] - left) % 360
    over = along <= wide
    direction_of, row_of = np.nonzero(over)
    if len(row_of):
        # One line through all edges: the one of row k runs from k APART on.
        run = edges.edge_row * APART + edges.az_deg(edges.edge) - left[edges.edge_row]
        order = np.argsort(run, kind="stable")
        line = np.interp(row_of * APART + along[over], run[order], edges.el_deg(edges.edge)[order])
        covered = np.where(edges.eave[row_of], el[direction_of] > line, el[direction_of] < line)
        angle[direction_of[covered], row_of[covered]] *= -1
    return angle


def nearest_point(
    edges: Edges, k: int, azimuth_deg: float, elevation_deg: float
) -> tuple[float, float]:
    """The point of obstruction `k` that is nearest to a direction: bearing and elevation [deg]."""
    end = edges.start[k + 1] if k + 1 < len(edges.start) else edges.vectors.shape[1]
    own = slice(int(edges.start[k]), int(end))
    near = direction(azimuth_deg, elevation_deg) @ edges.vectors[:, own]
    best = np.array([int(near.argmax()) + own.start])
    return float(edges.az_deg(best)[0]), float(edges.el_deg(best)[0])


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
    for k, u in enumerate(edges.upper):
        edge = np.column_stack([edges.az_deg(u), edges.el_deg(u)])
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
            id=row.id,
            letter=letter(i),
            name=row.name,
            outline=row.outline,
            top_deg=top_deg(row, mount_height_m, years),
            points=[(a, e) for a, e in outline(row, mount_height_m, years).tolist()],
        )
        for i, row in enumerate(rows)
    ]


def letter(index: int) -> str:
    """A, B … Z, AA, AB …"""
    return ("" if index < 26 else letter(index // 26 - 1)) + chr(65 + index % 26)
