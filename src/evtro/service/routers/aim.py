"""Station Aim: an antenna's target, offset, datum and school of skew; its further satellites."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import TypeAdapter

from evtro.core.stations.aim.dish.detail import AimDetail, detail
from evtro.core.units.quantities import InputError

from ..common import (
    READ,
    AtDesk,
    JobId,
    RowId,
    dish_at,
    job_response,
)

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["aim"])
_DETAIL = TypeAdapter(AimDetail)


@router.get("/antennas/{row_id}/aim", response_model=AimDetail, responses=READ)
def aim_detail(
    desk: AtDesk, job_id: JobId, row_id: RowId, feed: Annotated[str, Query(max_length=12)] = ""
) -> Response:
    """All pages of a dish: errors, search, several satellites, motor, peaking, identity, refit. The
    readings are those of a feed, the main one where none is named."""
    kept = desk.jobs.get(job_id)
    dish_at(desk, job_id, row_id)
    answers = desk.answers(kept)
    aim = next((a for a in answers.aim.aims if a.antenna == row_id), None)
    found = None if aim is None else detail(kept.job, answers.sky, aim, feed)
    if found is None:
        raise InputError(
            "Target",
            "this dish looks at no satellite yet.",
            "Choose one at Mast or Sky.",
            "no-target",
        )
    return job_response(_DETAIL.dump_json(found))
