"""Station Mast: the tube and the antennas on it."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from evtro.core.job import Antenna
from evtro.core.stations.mast.wind import check_region

from ..common import (
    MADE,
    VIEW,
    AtDesk,
    JobId,
    RowId,
    Seen,
    add_row,
    change_single,
    remove_row,
)
from ..schemas import MastPatch, NewAntenna

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["mast"])

ARRAY_AREA_M2 = 0.09  # common practice, no source


@router.patch("/mast", **VIEW)
def change_mast(desk: AtDesk, job_id: JobId, seen: Seen, body: MastPatch) -> Response:
    """Change the mast."""
    if body.wind_region is not None:
        check_region(desk.profile(desk.jobs.get(job_id).job), body.wind_region)
    return change_single(
        desk, job_id, seen=seen, field="mast", values=body.model_dump(exclude_unset=True)
    )


@router.post("/antennas", **MADE)
def add_antenna(desk: AtDesk, job_id: JobId, seen: Seen, body: NewAntenna) -> Response:
    """Hang an antenna on the mast."""
    return add_row(
        desk, job_id, seen=seen, label="add antenna", field="antennas",
        make=lambda _, new: Antenna(id=new, wind_area_m2=ARRAY_AREA_M2, **body.model_dump()),
    )  # fmt: skip


@router.delete("/antennas/{row_id}", **VIEW)
def remove_antenna(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Take an antenna off the mast and its source out of the run."""
    return remove_row(desk, job_id, seen=seen, field="antennas", row_id=row_id)
