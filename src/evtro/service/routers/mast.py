"""Station Mast: the tube and the antennas on it."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from evtro.core.job import Antenna

from ..common import MADE, VIEW, AtDesk, JobId, RowId, Seen, add_row, change_single, remove_row
from ..schemas import MastPatch, NewAntenna

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["mast"])

DISH_AREA_M2 = 0.5  # a dish of 0.8 m, pi D²/4
ARRAY_AREA_M2 = 0.09  # common practice, no source


@router.patch("/mast", **VIEW)
def change_mast(desk: AtDesk, job_id: JobId, seen: Seen, body: MastPatch) -> Response:
    """Change the mast."""
    return change_single(desk, job_id, seen, "mast", body.model_dump(exclude_unset=True))


@router.post("/antennas", **MADE)
def add_antenna(desk: AtDesk, job_id: JobId, seen: Seen, body: NewAntenna) -> Response:
    """Hang an antenna on the mast."""
    area = DISH_AREA_M2 if body.kind == "dish" else ARRAY_AREA_M2
    return add_row(
        desk, job_id, seen, "add antenna", "antennas",
        lambda _, new: Antenna(id=new, wind_area_m2=area, **body.model_dump()),
    )  # fmt: skip


@router.delete("/antennas/{row_id}", **VIEW)
def remove_antenna(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Take an antenna off the mast and its source out of the run."""
    return remove_row(desk, job_id, seen, "antennas", row_id)
