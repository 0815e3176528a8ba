"""Portable and vehicle dishes: a quick job, its base, and the next stop."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from evtro import profiles
from evtro.core.job import Dish, Job, Rig, Site, Stop, Target, edits
from evtro.core.stations.site.position import read_position, show_position
from evtro.core.stations.sky.survey import parse_orbit
from evtro.formats.gpx import read_places

from ..common import (
    MADE,
    VIEW,
    AtDesk,
    JobId,
    RawBody,
    Seen,
    body_of,
    job_response,
)
from ..schemas import QuickJob
from ..typing import typed

MOST_PLACES = 100

router = APIRouter(prefix="/api/jobs", tags=["portable"])


@router.post("/quick", **MADE)
def quick_job(desk: AtDesk, body: QuickJob) -> Response:
    """Make a job from a place, a satellite and a dish."""
    profiles.load(body.profile)
    at = read_position(body.position)
    lat, lon = at.latitude_deg, at.longitude_deg
    orbit = parse_orbit(body.orbit)
    diameter = typed(Dish, "diameter_m", body.diameter_m)
    name = body.satellite or f"{abs(orbit):.1f}° {'E' if orbit >= 0 else 'W'}"
    job = Job(
        name=f"Quick aim to {name}"[:80],
        place=show_position(lat, lon),
        profile=body.profile,
        date=desk.today(),
        site=Site(
            position_text=body.position,
            latitude_deg=lat,
            longitude_deg=lon,
            mount_height_m=1.0,
            building_length_m=0,
            building_width_m=0,
        ),
        rig=Rig(kind=body.kind, stop="h1"),
        stops=(
            Stop(
                id="h1",
                name="First stop",
                position_text=body.position,
                latitude_deg=lat,
                longitude_deg=lon,
            ),
        ),
        targets=(Target(id="t1", kind="satellite", name=name, orbit_deg_e=orbit),),
        dishes=(
            Dish(
                id="a1",
                name=f"Dish {diameter:g} m",
                target="t1",
                diameter_m=diameter,
                offset_deg=typed(Dish, "offset_deg", body.offset_deg),
                on_mast_m=0.3,
            ),
        ),
    )
    return job_response(desk.dump(desk.add(job)), 201)


@router.post("/{job_id}/stops/gpx", openapi_extra=body_of("application/gpx+xml"), **VIEW)
def stops_from_gpx(desk: AtDesk, job_id: JobId, seen: Seen, body: RawBody) -> Response:
    """Add the waypoints of a GPX file as stops."""
    found = read_places(body, MOST_PLACES)
    notes = []
    if found.more:
        notes.append(
            f"Places from the {MOST_PLACES + 1}st on were left out: a file gives at most {MOST_PLACES}."
        )

    def edit(job: Job) -> Job:
        for p in found.places:
            made = Stop(
                id=edits.new_id(job, "stops"),
                name=p.name,
                position_text=show_position(p.latitude_deg, p.longitude_deg)[:80],
                latitude_deg=p.latitude_deg,
                longitude_deg=p.longitude_deg,
                height_m=p.height_m,
            )
            job = edits.add_row(job, "stops", made)
        return job

    return job_response(desk.change(job_id, seen, "import stops", edit, notes=notes))
