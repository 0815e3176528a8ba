"""Station Aim: an antenna's target, offset, datum and school of skew."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from ..common import VIEW, AtDesk, JobId, RowId, Seen, change_row
from ..schemas import AntennaPatch

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["aim"])


@router.patch("/antennas/{row_id}", **VIEW)
def change_antenna(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: AntennaPatch
) -> Response:
    """Change an antenna."""
    return change_row(desk, job_id, seen, "antennas", row_id, body)
