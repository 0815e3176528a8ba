"""Station Readings: what the meter said."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from evtro.core.job import Job, edits

from ..common import VIEW, AtDesk, JobId, RowId, Seen, job_response
from ..schemas import ReadingPatch

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["readings"])


@router.put("/readings/{part}/{carrier}", **VIEW)
def set_reading(
    desk: AtDesk, job_id: JobId, part: RowId, carrier: RowId, seen: Seen, body: ReadingPatch
) -> Response:
    """Write a reading; what the body does not name stays, null takes it away."""
    values = body.model_dump(exclude_unset=True)

    def edit(job: Job) -> Job:
        old = next((r for r in job.readings if (r.part, r.carrier) == (part, carrier)), None)
        level = values.get("level_dbuv", old.level_dbuv if old else None)
        ratio = values.get("cn_db", old.cn_db if old else None)
        return edits.set_reading(job, part, carrier=carrier, level_dbuv=level, cn_db=ratio)

    return job_response(desk.change(job_id, seen, "write reading", edit))
