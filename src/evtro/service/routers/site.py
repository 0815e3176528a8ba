"""Station Site: position, building, outlets, place search."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import BaseModel

from evtro.core.job import Outlet
from evtro.core.stations.site.position import read_position, show_position
from evtro.formats.gpx import read_places
from evtro.formats.places import find_places

from ..common import (
    MADE,
    READ,
    VIEW,
    WRITE,
    AtDesk,
    JobId,
    RawBody,
    RowId,
    Seen,
    add_row,
    body_of,
    change_row,
    change_single,
    remove_row,
)
from ..schemas import NewOutlet, OutletPatch, SitePatch

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
    "/places/gpx", response_model=list[PlaceFound], responses=WRITE,
    openapi_extra=body_of("application/gpx+xml"),
)  # fmt: skip
def places_of_gpx(body: RawBody) -> list[PlaceFound]:
    """The places in a GPX file, to choose one from."""
    return [
        PlaceFound(name=p.name, position=show_position(p.latitude_deg, p.longitude_deg, 6),
                   good_to_m=WAYPOINT_M)
        for p in read_places(body, MOST_PLACES).places
    ]  # fmt: skip


@router.get("/places", response_model=list[PlaceView], responses=READ)
def places(q: Annotated[str, Query(min_length=2, max_length=60)]) -> list[PlaceView]:
    """Towns by name, offline; a country code may follow after a comma."""
    return [PlaceView(**asdict(p), good_to_m=p.good_to_m) for p in find_places(q)]


@router.patch("/jobs/{job_id}/site", **VIEW)
def change_site(desk: AtDesk, job_id: JobId, seen: Seen, body: SitePatch) -> Response:
    """Change the site; a typed position sets latitude and longitude."""
    values = body.model_dump(exclude_unset=True)
    if values.get("position_text"):
        at = read_position(values["position_text"])
        values["latitude_deg"], values["longitude_deg"] = at.latitude_deg, at.longitude_deg
        # What was said of the place before holds no longer.
        values.setdefault("position_good_m", None)
    elif "position_text" in values:
        values["latitude_deg"] = values["longitude_deg"] = None
    return change_single(desk, job_id, seen=seen, field="site", values=values)


@router.post("/jobs/{job_id}/outlets", **MADE)
def add_outlet(desk: AtDesk, job_id: JobId, seen: Seen, body: NewOutlet) -> Response:
    """Add an outlet."""
    return add_row(desk, job_id, seen=seen, label="add outlet", field="outlets",
                   make=lambda _, new: Outlet(id=new, **body.model_dump()))  # fmt: skip


@router.patch("/jobs/{job_id}/outlets/{row_id}", **VIEW)
def change_outlet(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: OutletPatch
) -> Response:
    """Change an outlet."""
    return change_row(desk, job_id, seen=seen, field="outlets", row_id=row_id, body=body)


@router.delete("/jobs/{job_id}/outlets/{row_id}", **VIEW)
def remove_outlet(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Remove an outlet and its wall plate."""
    return remove_row(desk, job_id, seen=seen, field="outlets", row_id=row_id)
