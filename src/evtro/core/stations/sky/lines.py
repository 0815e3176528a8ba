"""What a station Sky computes from, and one line of its answer."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from ...job import (
    Array,
    Carrier,
    Dish,
    Obstruction,
    SatelliteFeed,
    Site,
    Spot,
    Target,
    TerrainProfile,
)
from ...job.targets import Sight
from ...units.quantities import Gauge
from ...units.severity import State
from ..site.skyline import Room

NOTHING = Room(None, None, None, None)


@dataclass(frozen=True)
class Survey:
    """What the station needs of a job: as long as it stays the same, so does the answer."""

    site: Site
    obstructions: tuple[Obstruction, ...]
    targets: tuple[Target, ...]
    carriers: tuple[Carrier, ...]
    dishes: tuple[Dish, ...]
    arrays: tuple[Array, ...]
    feeds: tuple[SatelliteFeed, ...]
    spots: tuple[Spot, ...]
    reliefs: tuple[TerrainProfile, ...]
    date: dt.date
    keep_clear_deg: float
    keep_clear_two_way_deg: float
    keep_clear_origin: str
    margin_reserve_db: float


@dataclass(frozen=True)
class TargetSight:
    """A target on the skyline. `gauge` is its clearance at the end of the years looked ahead, or
    the rise over the skyline of a transmitter, `now_deg` today's; `closes` the year in which growth
    closes it; `field_dbuvm` the forecast field of its strongest carrier outdoors, with `loss_db` over
    free space from `loss_source`; `lifted_deg` what the atmosphere adds to the elevation, stated
    below 5°."""

    id: str
    name: str
    kind: str
    sight: Sight | None
    gauge: Gauge
    now_deg: float | None
    nearest: str | None
    nearest_azimuth_deg: float
    nearest_elevation_deg: float
    room: Room
    closes: int | None
    lifted_deg: float | None
    field_dbuvm: float | None
    loss_db: float | None
    loss_source: str
    state: State
