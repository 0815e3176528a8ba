"""The skyline: outlines of what is in the way, and how far a direction stands clear of them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..geodesy import Floats, sky_separation_deg
from ..job import Obstruction

STEP_DEG = 0.25


@dataclass(frozen=True)
class Silhouette:
    """An obstruction as seen from the mount now: outline points of bearing and elevation [deg]."""

    id: str
    letter: str
    name: str
    outline: str
    top_deg: float
    points: list[tuple[float, float]]


@dataclass(frozen=True)
class Clearance:
    """Least angle between a direction and the skyline [deg], negative inside it, and where."""

    angle_deg: float
    obstruction: str | None
    azimuth_deg: float
    elevation_deg: float


def top_deg(row: Obstruction, mount_height_m: float) -> float:
    """Elevation of the top from the mount at a height above ground [deg].

    An angle without a distance stays as it was measured; with a distance, the top moves when the
    mount is raised, because the obstruction does not.
    """
    if row.distance_m is None:
        return row.top_deg if row.top_deg is not None else 0.0
    above = row.above_m
    if above is None:
        above = row.distance_m * math.tan(math.radians(row.top_deg or 0.0))
    return math.degrees(math.atan2(above + row.seen_from_m - mount_height_m, row.distance_m))


@lru_cache(maxsize=4096)
def outline(row: Obstruction, mount_height_m: float) -> Floats:
    """Points of the upper edge, bearing running upward from `from_deg` [deg], shape (n, 2)."""
    top = top_deg(row, mount_height_m)
    width = (row.to_deg - row.from_deg) % 360
    n = max(int(width / STEP_DEG) + 1, 3) | 1  # odd, so that the middle is a point
    t = np.linspace(0.0, 1.0, n)
    if row.outline == "ridge":
        edge = min(0.5, 3.0 / max(width, 1e-6))
        shape = np.sqrt(np.clip(np.minimum(t, 1 - t) / edge, 0, 1))
    elif row.outline == "gable":
        shape = 0.72 + 0.28 * (1 - np.abs(2 * t - 1))
    elif row.outline == "crowns":
        count = max(round(width / 4), 1)
        shape = 0.88 + 0.12 * np.abs(np.sin(np.pi * count * t))
    else:
        shape = np.ones(n)
    elevation = top * shape if top > 0 else np.full(n, top)
    edge_points = np.column_stack([row.from_deg + width * t, elevation])
    edge_points.flags.writeable = False
    return edge_points


def silhouettes(rows: tuple[Obstruction, ...], mount_height_m: float) -> list[Silhouette]:
    """All obstructions as they stand from the mount, lettered in their order."""
    return [
        Silhouette(
            row.id,
            letter(i),
            row.name,
            row.outline,
            top_deg(row, mount_height_m),
            [(a, e) for a, e in outline(row, mount_height_m).tolist()],
        )
        for i, row in enumerate(rows)
    ]


def letter(index: int) -> str:
    """A, B … Z, AA, AB …"""
    return ("" if index < 26 else letter(index // 26 - 1)) + chr(65 + index % 26)


def clearance(azimuth_deg: float, elevation_deg: float, skyline: list[Silhouette]) -> Clearance:
    """How far a direction stands clear of the skyline; 180 where nothing is in the way."""
    edges = {shape.id: np.asarray(shape.points) for shape in skyline}
    return clearance_of(azimuth_deg, elevation_deg, edges)


def clearance_of(azimuth_deg: float, elevation_deg: float, edges: dict[str, Floats]) -> Clearance:
    """The same over upper edges by obstruction id, each of shape (n, 2) [deg]."""
    if not edges:
        return Clearance(180.0, None, azimuth_deg, elevation_deg)
    rows = [
        np.concatenate([_side(e[0], elevation_deg), e, _side(e[-1], elevation_deg)])
        for e in edges.values()
    ]
    owner = np.repeat(np.arange(len(rows)), [len(r) for r in rows])
    points = np.concatenate(rows)
    away = sky_separation_deg(azimuth_deg, elevation_deg, points[:, 0], points[:, 1])
    for i, edge in enumerate(edges.values()):
        along = (azimuth_deg - edge[0, 0]) % 360
        if along <= edge[-1, 0] - edge[0, 0]:
            top = np.interp(along + edge[0, 0], edge[:, 0], edge[:, 1])
            if elevation_deg < top:
                # Inside: as deep as the nearest edge is far, and first in the order.
                mine = np.flatnonzero(owner == i)
                deepest = mine[np.argmin(away[mine])]
                away[deepest] = -away[deepest]
    best = int(np.argmin(away))
    return Clearance(
        float(away[best]), list(edges)[int(owner[best])],
        float(points[best, 0]), float(points[best, 1]),
    )  # fmt: skip


def _side(corner: Floats, elevation_deg: float) -> Floats:
    """The point of the upright edge below a corner that is level with a direction, at most."""
    return np.array([[corner[0], min(max(elevation_deg, 0.0), corner[1])]])
