"""Station Earth: surroundings and conductors."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from evtro.core.job import Conductor, Job
from evtro.core.job.edits import new_id
from evtro.core.units.quantities import InputError

from ..common import (
    MADE,
    VIEW,
    AtDesk,
    JobId,
    RowId,
    Seen,
    add_row,
    change_row,
    change_single,
    remove_row,
)
from ..schemas import ConductorPatch, EarthPatch, NewConductor

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["earth"])


@router.patch("/earth", **VIEW)
def change_earth(desk: AtDesk, job_id: JobId, seen: Seen, body: EarthPatch) -> Response:
    """Change where the antennas stand, and what hangs near by."""
    return change_single(
        desk, job_id, seen=seen, field="earth", values=body.model_dump(exclude_unset=True)
    )


@router.post("/conductors", **MADE)
def add_conductor(desk: AtDesk, job_id: JobId, seen: Seen, body: NewConductor) -> Response:
    """Plan the conductor of one of the school's rules, at its least size."""

    def make(job: Job, new: str) -> Conductor:
        rule = next((r for r in desk.profile(job).earth_rules if r.role == body.role), None)
        if rule is None or any(c.role == body.role for c in job.conductors):
            raise InputError("Conductor", "this school does not ask for it, or it is there.",
                             "Choose another of the list.", "conductor-role")  # fmt: skip
        size = rule.sizes[0]
        return Conductor(id=new_id(job, "conductors"), role=rule.role, material=size.material,
                         size_mm2=size.least_mm2, length_m=5.0)  # fmt: skip

    return add_row(desk, job_id, seen=seen, label="add conductor", field="conductors", make=make)


@router.patch("/conductors/{row_id}", **VIEW)
def change_conductor(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: ConductorPatch
) -> Response:
    """Change a conductor."""
    return change_row(desk, job_id, seen=seen, field="conductors", row_id=row_id, body=body)


@router.delete("/conductors/{row_id}", **VIEW)
def remove_conductor(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Remove a conductor."""
    return remove_row(desk, job_id, seen=seen, field="conductors", row_id=row_id)
