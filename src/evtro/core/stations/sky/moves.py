"""Changes that free a view: the mount moved, a crown cut, another mounting place taken."""

from __future__ import annotations

import math
from typing import Any, TypeVar

from ...job import Job, Obstruction, Spot
from ...job.changes import Change, Move, Set, Several
from ...job.measured import moved
from ...units.quantities import InputError
from ..site.skyline import top_m

T = TypeVar("T", Obstruction, Spot)


def step(bearing_deg: float, distance_m: float) -> tuple[float, float]:
    """East and north of a step [m]."""
    angle = math.radians(bearing_deg)
    return distance_m * math.sin(angle), distance_m * math.cos(angle)


def _from(
    bearing_deg: float, distance_m: float, east_m: float, north_m: float
) -> tuple[float, float]:
    """Bearing [deg] and distance [m] of a thing after the eye has moved."""
    e, n = step(bearing_deg, distance_m)
    e, n = e - east_m, n - north_m
    return math.degrees(math.atan2(e, n)) % 360, math.hypot(e, n)


def move_mount(
    job: Job, bearing_deg: float, distance_m: float, height_m: float | None = None
) -> Job:
    """The job with its mount moved over the ground: everything that has a distance is measured
    anew from there; what has none keeps its bearings, for it is taken to be far."""
    east, north = step(bearing_deg, distance_m)
    site = job.site
    building = _from(site.building_offset_bearing_deg, site.building_offset_m, east, north)
    entry = _from(site.entry_bearing_deg, site.entry_distance_m, east, north)
    height = site.mount_height_m if height_m is None else height_m
    spots = []
    for spot in job.spots:
        b, d = _from(spot.bearing_deg, spot.distance_m, east, north)
        spots.append(_row(spot, bearing_deg=round(b, 2) % 360, distance_m=round(d, 3)))
    return moved(job).model_copy(
        update={
            "site": type(site).model_validate(
                {
                    **site.model_dump(),
                    "mount_height_m": height,
                    "building_offset_bearing_deg": round(building[0], 2) % 360,
                    "building_offset_m": round(building[1], 3),
                    "entry_bearing_deg": round(entry[0], 2) % 360,
                    "entry_distance_m": round(entry[1], 3),
                }
            ),
            "obstructions": tuple(_moved(o, east, north) for o in job.obstructions),
            "spots": tuple(spots),
        }
    )


def seen_after(
    rows: tuple[Obstruction, ...], east_m: float, north_m: float
) -> tuple[Obstruction, ...]:
    """Obstructions as they stand for an eye that moved aside; those without a distance stay. Only to
    look at: a place that is compared may lie where no row of a job could."""
    if not east_m and not north_m:
        return rows
    return tuple(
        o if o.distance_m is None else o.model_copy(update=_aside(o, o.distance_m, east_m, north_m))
        for o in rows
    )


def _moved(row: Obstruction, east_m: float, north_m: float) -> Obstruction:
    if row.distance_m is None:
        return row
    return _row(row, **_aside(row, row.distance_m, east_m, north_m))


def _aside(row: Obstruction, away_m: float, east_m: float, north_m: float) -> dict[str, Any]:
    height = top_m(row)
    assert height is not None
    left, d1 = _from(row.from_deg, away_m, east_m, north_m)
    right, d2 = _from(row.to_deg, away_m, east_m, north_m)
    middle = row.from_deg + (row.to_deg - row.from_deg) % 360 / 2
    _, d3 = _from(middle, away_m, east_m, north_m)
    return {
        "from_deg": round(left, 3) % 360,
        "to_deg": round(right, 3) % 360,
        "distance_m": max(round((d1 + d2 + 2 * d3) / 4, 3), 0.1),
        "above_m": round(height - row.seen_from_m, 3),
        "top_deg": None,
    }


def _row(row: T, **values: object) -> T:
    return type(row).model_validate({**row.model_dump(), **values})


def cut(row: Obstruction, by_m: float) -> Change:
    """The top of something taken down [m]. Raises InputError where its height is not known."""
    height = top_m(row)
    if height is None:
        raise InputError(
            "Cut", "that has no distance.", "Measure how far it is away first.", "row-missing"
        )
    lower = round(height - row.seen_from_m - by_m, 3)
    return Set(
        rows="obstructions", id=row.id, values={"above_m": lower, "top_deg": None}, as_is=True
    )


def to_spot(height_m: float, spot: Spot) -> Change:
    """The mount taken to another of its places; the old place, at its height [m], is
    kept as a spot."""
    old = Spot(
        id=spot.id,
        name="Mount before",
        bearing_deg=0,
        distance_m=0,
        mount_height_m=height_m,
        cable_m=spot.cable_m,
    )
    kept = old.model_dump(mode="json", exclude={"id"})
    return Several(
        words="take the mounting place",
        changes=(
            Set(rows="spots", id=spot.id, values=kept, as_is=True),
            Move(
                bearing_deg=spot.bearing_deg,
                distance_m=spot.distance_m,
                height_m=spot.mount_height_m,
            ),
        ),
    )
