"""Station Aim: an antenna's target, offset, datum and school of skew; its further satellites."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import TypeAdapter

from evtro.core.job import Dish, Hold, edits
from evtro.core.stations.aim.dish.detail import AimDetail, detail, learned_zero
from evtro.core.units.quantities import InputError

from ..common import (
    READ,
    VIEW,
    AtDesk,
    JobId,
    RowId,
    Seen,
    dish_at,
    job_response,
)
from ..schemas import (
    CompassReading,
    ZeroReading,
)
from ..typing import plain

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
        raise InputError("Target", "this dish looks at no satellite yet.", "Choose one at Mast or Sky.",
                         "no-target")  # fmt: skip
    return job_response(_DETAIL.dump_json(found))


@router.post("/antennas/{row_id}/zero", **VIEW)
def learn_zero(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: ZeroReading
) -> Response:
    """Learn how much too high the tool reads, from what it shows on the peaked satellite."""
    answers = desk.answers(desk.jobs.get(job_id))
    aim = next((a for a in answers.aim.aims if a.antenna == row_id), None)
    _, antenna = dish_at(desk, job_id, row_id)
    if aim is None:
        raise InputError(
            "Target", "this dish looks at no satellite yet.", "Choose one first.", "no-target"
        )
    zero = learned_zero(antenna, aim.elevation_deg, plain("The tool reads", body.reads, "deg"))
    if abs(zero) > 30:
        raise InputError("The tool reads", f"that would be {zero:+.1f}° off.",
                         "Check where it is laid and that this satellite is the right one.",
                         "too-large")  # fmt: skip
    return job_response(
        desk.change(job_id, seen, "learn the scale's zero", lambda job: edits.change_row(
            job, "dishes", row_id, _learned(antenna, round(zero, 3))))
    )  # fmt: skip


def _learned(antenna: Dish, zero_deg: float) -> dict[str, float]:
    """The new zero, and the one that was learned before it."""
    if antenna.scale_zero_deg == 0 and antenna.zero_before_deg is None:
        return {"scale_zero_deg": zero_deg}
    return {"scale_zero_deg": zero_deg, "zero_before_deg": antenna.scale_zero_deg}


@router.post("/antennas/{row_id}/compass", **VIEW)
def learn_compass(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: CompassReading
) -> Response:
    """Learn how much too high the compass reads here, from one bearing that is known."""
    _, antenna = dish_at(desk, job_id, row_id)
    answers = desk.answers(desk.jobs.get(job_id))
    turn = answers.aim.declination_deg
    if turn is None:
        raise InputError("The compass reads", "the declination is not known here.",
                         "Type the position at Site and a date within the model first.", "no-place")  # fmt: skip
    limits = list(Hold.model_fields["heading_deg"].metadata)
    known = plain("Known bearing", body.bearing, "deg_true", limits)
    off = (
        plain("The compass reads", body.reads, "deg_mag", limits) - (known - turn) + 180
    ) % 360 - 180
    if abs(off) > 60:
        raise InputError("The compass reads", f"that would be {off:+.1f}° off.",
                         "Check which end of the needle was read, and that the bearing is the right one.",
                         "too-large")  # fmt: skip
    return job_response(
        desk.change(job_id, seen, "learn the compass's error", lambda job: edits.change_row(
            job, "dishes", antenna.id, {"compass_off_deg": round(off, 2)}))
    )  # fmt: skip
