"""Station Aim: beams of a two-way satellite, and the record of the terminal."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro.core.job import Job
from evtro.core.units.quantities import InputError
from evtro.formats.geo import read_beams, take_beams

from ..common import (
    VIEW,
    AtDesk,
    JobId,
    RawBody,
    Seen,
    body_of,
    job_response,
)

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["two-way"])


@router.post("/beams", openapi_extra=body_of("application/geo+json"), **VIEW)
def import_beams(
    desk: AtDesk,
    job_id: JobId,
    seen: Seen,
    target: Annotated[str, Query(max_length=12)],
    body: RawBody,
) -> Response:
    """Take in the borders of a satellite's beams from GeoJSON; what cannot be used is told."""
    notes: list[str] = []
    read = read_beams(body)

    def edit(job: Job) -> Job:
        found = next((t for t in job.targets if t.id == target and t.kind == "satellite"), None)
        if found is None:
            raise InputError(
                "Satellite",
                f"{target} is no satellite of this job.",
                "Add it at Sky.",
                "row-missing",
            )
        job, left = take_beams(read, job, found)
        notes[:] = left
        return job

    return job_response(desk.change(job_id, seen, "import beams", edit, notes=notes))
