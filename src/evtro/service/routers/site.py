"""Station Site: position, building, outlets, place search."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel

from evtro.core.stations.site.position import show_position
from evtro.formats.gpx import read_places
from evtro.formats.places import find_places

from ..common import (
    READ,
    WRITE,
    RawBody,
    body_of,
)

router = APIRouter(prefix="/api", tags=["site"])
MOST_PLACES = 100
WAYPOINT_M = 10.0  # a waypoint of a hand-held receiver; common practice, no source


class PlaceView(BaseModel):
    """A town of the gazetteer."""

    name: str
    country: str
    latitude_deg: float
    longitude_deg: float
    population: int
    good_to_m: float


class PlaceFound(BaseModel):
    """A place of a GPX file, as it can be typed, and how good it is [m]."""

    name: str
    position: str
    good_to_m: float


@router.post(
    "/places/gpx",
    response_model=list[PlaceFound],
    responses=WRITE,
    openapi_extra=body_of("application/gpx+xml"),
)
def places_of_gpx(body: RawBody) -> list[PlaceFound]:
    """The places in a GPX file, to choose one from."""
    return [
        PlaceFound(
            name=p.name,
            position=show_position(p.latitude_deg, p.longitude_deg, 6),
            good_to_m=WAYPOINT_M,
        )
        for p in read_places(body, MOST_PLACES).places
    ]


@router.get("/places", response_model=list[PlaceView], responses=READ)
def places(q: Annotated[str, Query(min_length=2, max_length=60)]) -> list[PlaceView]:
    """Towns by name, offline; a country code may follow after a comma."""
    return [PlaceView(**asdict(p), good_to_m=p.good_to_m) for p in find_places(q)]
