"""Station Aim: beams of a two-way satellite, and the record of the terminal."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro.core.job import Beam, Job
from evtro.core.stations.aim.evidence import check_commissioned
from evtro.core.units.quantities import InputError
from evtro.formats.geo import read_beams, take_beams

from ..common import (
    MADE,
    VIEW,
    AtDesk,
    JobId,
    RawBody,
    Seen,
    add_row,
    body_of,
    change_single,
    job_response,
)
from ..rows import row_routes
from ..schemas import BeamPatch, NewBeam, TerminalPatch
from ..typing import typed

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
            raise InputError("Satellite", f"{target} is no satellite of this job.", "Add it at Sky.",
                             "row-missing")  # fmt: skip
        job, left = take_beams(read, job, found)
        notes[:] = left
        return job

    return job_response(desk.change(job_id, seen, "import beams", edit, notes=notes))


@router.post("/beams/typed", **MADE)
def add_beam(desk: AtDesk, job_id: JobId, seen: Seen, body: NewBeam) -> Response:
    """Add a beam as its provider gives it, without a border."""
    job = desk.jobs.get(job_id).job
    if all(t.id != body.target or t.kind != "satellite" for t in job.targets):
        raise InputError("Satellite", f"{body.target} is no satellite of this job.", "Add it at Sky.",
                         "row-missing")  # fmt: skip
    least = body.least_esn0_db.strip()
    return add_row(
        desk, job_id, seen=seen, label="add beam", field="beams",
        make=lambda _, new: Beam(id=new, target=body.target, name=body.name, code=body.code,
                            polarisation=body.polarisation,
                            least_esn0_db=typed(Beam, "least_esn0_db", least) if least else None),
    )  # fmt: skip


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
    if values.get("state") == "commissioned":
        _may_be_commissioned(desk.jobs.get(job_id).job, values)
    return change_single(desk, job_id, seen=seen, field="terminal", values=values)


def _may_be_commissioned(job: Job, values: dict[str, object]) -> None:
    record = job.terminal.model_copy(update=values)
    missing = check_commissioned(job.model_copy(update={"terminal": record}))
    if missing:
        raise InputError("State of the terminal", f"it cannot be commissioned yet: {'; '.join(missing)}.",
                         "Read Es/N0 and isolation, and bring both to their limits first.",
                         "not-commissioned")  # fmt: skip


row_routes(router, "beams", BeamPatch)
