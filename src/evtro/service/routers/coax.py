"""Station Coax: the run, part by part and cable by cable."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro.core.job import Job, Link, edits
from evtro.core.plant import edits as run
from evtro.core.plant.parts import Catalogue
from evtro.core.stations.coax.answer import Term, terms
from evtro.core.units.quantities import InputError

from ..common import (
    MADE,
    READ,
    VIEW,
    AtDesk,
    JobId,
    RowId,
    Seen,
    change_row,
    job_response,
)
from ..schemas import LinkPatch, NewJoin, NewPart, NewSource, PartPatch
from ..typing import typed

router = APIRouter(prefix="/api", tags=["coax"])


@router.get("/catalogue", response_model=Catalogue, responses=READ)
def catalogue(desk: AtDesk) -> Catalogue:
    """All parts and cables at hand."""
    return desk.catalogue


@router.post("/jobs/{job_id}/sources", **MADE)
def add_source(desk: AtDesk, job_id: JobId, seen: Seen, body: NewSource) -> Response:
    """Begin a run at an antenna."""
    return job_response(
        desk.change(job_id, seen, "start a run",
                    lambda job: run.add_source(job, desk.catalogue, body.antenna, body.type)),
        201,
    )  # fmt: skip


@router.post("/jobs/{job_id}/parts/{row_id}/after", **MADE)
def add_after(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewPart) -> Response:
    """Put a part behind another."""
    length = _length(body.length_m)

    def edit(job: Job) -> Job:
        _cable(desk.catalogue, body.cable)
        if body.outlet is not None and all(o.id != body.outlet for o in job.outlets):
            raise edits.missing("outlets", body.outlet)
        return run.add_after(
            job,
            desk.catalogue,
            after=row_id,
            type_key=body.type,
            cable=body.cable,
            length_m=length,
            outlet=body.outlet,
            port=body.port,
        )[0]

    return job_response(desk.change(job_id, seen, "add part", edit), 201)


@router.post("/jobs/{job_id}/parts/{row_id}/join", **MADE)
def join(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewJoin) -> Response:
    """Join a part's free output to another part's free input."""
    length = _length(body.length_m)

    def edit(job: Job) -> Job:
        _cable(desk.catalogue, body.cable)
        return run.join(
            job,
            desk.catalogue,
            after=row_id,
            to=body.to,
            cable=body.cable,
            length_m=length,
            to_port=body.to_port,
        )

    return job_response(desk.change(job_id, seen, "join parts", edit), 201)


@router.patch("/jobs/{job_id}/parts/{row_id}", **VIEW)
def change_part(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: PartPatch
) -> Response:
    """Replace a part, name it or turn its setting."""
    values = body.model_dump(exclude_unset=True)
    new_type = values.pop("type", None)
    if "name" in values and values["name"] is None:
        values["name"] = ""

    def edit(job: Job) -> Job:
        if new_type is not None:
            job = run.replace(job, desk.catalogue, row_id, new_type)
        return edits.change_row(job, "parts", row_id, values)

    return job_response(desk.change(job_id, seen, "change part", edit))


@router.delete("/jobs/{job_id}/parts/{row_id}", **VIEW)
def remove_part(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Take a part out of the run."""
    return job_response(
        desk.change(
            job_id, seen, "remove part", lambda job: run.remove(job, desk.catalogue, row_id)
        )
    )


@router.patch("/jobs/{job_id}/links/{row_id}", **VIEW)
def change_link(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: LinkPatch
) -> Response:
    """Change a cable's length, type or note."""
    if body.cable is not None:
        _cable(desk.catalogue, body.cable)
    return change_row(desk, job_id, seen=seen, field="links", row_id=row_id, body=body)


@router.get("/jobs/{job_id}/parts/{row_id}/terms", response_model=list[Term], responses=READ)
def level_terms(
    desk: AtDesk,
    job_id: JobId,
    row_id: RowId,
    carrier: Annotated[str, Query(pattern=r"^[a-z]+[0-9]+$", max_length=12)],
) -> list[Term]:
    """The staircase of a carrier's level from its source to a part."""
    kept = desk.jobs.get(job_id)
    run.find_part(kept.job, row_id)
    if all(c.id != carrier for c in kept.job.carriers):
        raise edits.missing("carriers", carrier)
    _, solved = desk.answers(kept)
    return terms(kept.job, desk.catalogue, solved=solved, part_id=row_id, carrier_id=carrier)


def _length(text: str) -> float:
    value = typed(Link, "length_m", text)
    if value < 0:
        raise InputError("Cable length", f"{value:g} m is too small.", "It must be at least 0 m.",
                         "too-small")  # fmt: skip
    return value


def _cable(catalogue: Catalogue, key: str) -> None:
    if key not in catalogue.cables:
        raise InputError("Cable", f"“{key}” is not in the catalogue.",
                         f"Use one of {', '.join(catalogue.cables)}.", "cable-unknown")  # fmt: skip
