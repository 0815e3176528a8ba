"""Station Aim: beams of a two-way satellite, and the record of the terminal."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro.core.job import Job
from evtro.core.quantities import InputError
from evtro.formats.geo import read_beams

from ..common import (
    VIEW,
    AtDesk,
    JobId,
    RawBody,
    Seen,
    body_of,
    change_single,
    job_response,
)
from ..rows import row_routes
from ..schemas import BeamPatch, TerminalPatch

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

    def edit(job: Job) -> Job:
        found = next((t for t in job.targets if t.id == target and t.kind == "satellite"), None)
        if found is None:
            raise InputError("Satellite", f"{target} is no satellite of this job.", "Add it at Sky.",
                             "row-missing")  # fmt: skip
        job, left = read_beams(body, job, found)
        notes.extend(left)
        return job

    return job_response(desk.change(job_id, seen, "import beams", edit, notes))


@router.patch("/terminal", **VIEW)
def change_terminal(desk: AtDesk, job_id: JobId, seen: Seen, body: TerminalPatch) -> Response:
    """Keep the terminal's record."""
    values = body.model_dump(exclude_unset=True)
    if values.get("beam"):
        job = desk.jobs.get(job_id).job
        if all(b.id != values["beam"] for b in job.beams):
            raise InputError(
                "Beam",
                f"{values['beam']} is not in the job.",
                "Choose from the list.",
                "row-missing",
            )
    return change_single(desk, job_id, seen, "terminal", values)


row_routes(router, "beams", BeamPatch)
