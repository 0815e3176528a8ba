"""Open files of stations Sky and Aim: satellites, geometry, sun events."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro.core.job import Job
from evtro.core.stations.sky.sun_events import sun_view
from evtro.formats import satellites
from evtro.formats.calendar import write_sun
from evtro.formats.geo import write_geojson, write_kml

from ..common import (
    VIEW,
    AtDesk,
    JobId,
    RawBody,
    Seen,
    body_of,
    download,
    file_of,
    job_response,
)
from .survey import day_of

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["open data"])


@router.get("/satellites.csv", response_class=Response, responses=file_of("text/csv"))
def satellites_csv(desk: AtDesk, job_id: JobId) -> Response:
    """Satellites and transponders as CSV."""
    return download(satellites.write_csv(desk.jobs.get(job_id).job), "text/csv", "satellites.csv")


@router.get("/satellites.json", response_class=Response, responses=file_of("application/json"))
def satellites_json(desk: AtDesk, job_id: JobId) -> Response:
    """Satellites and transponders as JSON."""
    return download(
        satellites.write_json(desk.jobs.get(job_id).job), "application/json", "satellites.json"
    )


@router.post("/satellites", openapi_extra=body_of("text/csv"), **VIEW)
def import_satellites(desk: AtDesk, job_id: JobId, seen: Seen, body: RawBody) -> Response:
    """Take in satellites and transponders, CSV or JSON; what cannot be used is told, the rest is
    taken. New ones come in as neighbours, not as wanted."""
    notes: list[str] = []
    lines = satellites.lines_of(body)

    def edit(job: Job) -> Job:
        job, left = satellites.take(lines, job)
        notes[:] = left
        return job

    return job_response(desk.change(job_id, seen, "import satellites", edit, notes=notes))


@router.get("/targets.geojson", response_class=Response, responses=file_of("application/geo+json"))
def targets_geojson(desk: AtDesk, job_id: JobId) -> Response:
    """Site, targets and beams as GeoJSON."""
    return download(
        write_geojson(desk.jobs.get(job_id).job), "application/geo+json", "targets.geojson"
    )


@router.get(
    "/targets.kml",
    response_class=Response,
    responses=file_of("application/vnd.google-earth.kml+xml"),
)
def targets_kml(desk: AtDesk, job_id: JobId) -> Response:
    """Site, targets and beams as KML."""
    return download(
        write_kml(desk.jobs.get(job_id).job), "application/vnd.google-earth.kml+xml", "targets.kml"
    )


@router.get("/sun.ics", response_class=Response, responses=file_of("text/calendar"))
def sun_ics(
    desk: AtDesk, job_id: JobId, day: Annotated[str | None, Query(max_length=10)] = None
) -> Response:
    """Sun events as iCalendar."""
    job = desk.jobs.get(job_id).job
    return download(
        write_sun(job, sun_view(job, day_of(job, day)).targets), "text/calendar", "sun.ics"
    )
