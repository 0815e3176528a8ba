"""Station Aim: readings while an axis is turned, tries of a feed, what locked, the simulated meter."""

from __future__ import annotations

import asyncio
import json
import zlib
from collections.abc import AsyncIterator
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.responses import StreamingResponse

from evtro.core.practice.meter import SimulatedMeter, tuned_sky
from evtro.core.units.quantities import InputError
from evtro.store.jobs import JobMissing

from ..common import (
    READ,
    WRITE,
    AtDesk,
    JobId,
    RowId,
    dish_at,
)
from ..job_service import JobService
from ..schemas import (
    Closed,
)

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["finding"])
Axis = Literal["azimuth", "elevation", "skew"]


class Turn(Closed):
    """A turn of the simulated dish: screws in turns, the LNB in degrees."""

    axis: Axis
    by: Annotated[float, Query(ge=-20, le=20)]


class MeterView(Closed):
    """The simulated dish and what its meter shows."""

    azimuth: float
    elevation: float
    skew: float
    cn_db: float
    locked: bool
    tone_hz: float


def _meter(desk: JobService, job_id: str, row_id: str) -> SimulatedMeter:
    """The meter on a dish, under the sky of the job as it is now; it goes with its job and dish."""
    key = job_id, row_id
    try:
        job, dish = dish_at(desk, job_id, row_id)
    except (InputError, JobMissing):
        desk.meters.pop(key, None)
        raise
    known = desk.meters.get(key)
    if known is not None and known[0] is job:
        return known[1]
    aims = desk.answers(desk.jobs.get(job_id)).aim.aims
    aim = next((a for a in aims if a.antenna == row_id), None)
    target = next((t for t in job.targets if aim is not None and t.id == aim.target), None)
    sky = None if target is None else tuned_sky(desk.context(job), dish, target)
    if aim is None or sky is None:
        desk.meters.pop(key, None)
        raise InputError(
            "Target", "this dish looks at no satellite yet.", "Choose one first.", "no-target"
        )
    if known is None or known[1].sky.carrier.target != aim.target:
        # The seed is the place: the same job gives the same hidden aim.
        seed = zlib.crc32(f"{aim.azimuth_deg:.3f} {aim.elevation_deg:.3f} {row_id}".encode())
        meter = SimulatedMeter(sky, seed)
    else:
        meter = known[1]
        meter.sky = sky
    desk.meters[key] = job, meter
    while len(desk.meters) > 32:
        del desk.meters[next(iter(desk.meters))]
    return meter


def _shown(meter: SimulatedMeter) -> MeterView:
    cn, locked, tone = meter.read()
    return MeterView(**meter.at, cn_db=round(cn, 2), locked=locked, tone_hz=round(tone, 1))


@router.get("/antennas/{row_id}/meter", response_model=MeterView, responses=READ)
def read_meter(desk: AtDesk, job_id: JobId, row_id: RowId) -> MeterView:
    """One reading of the simulated meter."""
    return _shown(_meter(desk, job_id, row_id))


@router.post("/antennas/{row_id}/meter", response_model=MeterView, responses=WRITE)
def turn_meter(desk: AtDesk, job_id: JobId, row_id: RowId, body: Turn) -> MeterView:
    """Turn the simulated dish and read."""
    meter = _meter(desk, job_id, row_id)
    meter.turn(body.axis, body.by)
    return _shown(meter)


# An endless answer has no place in the description: nobody could check it against one.
@router.get("/antennas/{row_id}/meter/stream", include_in_schema=False)
async def stream_meter(desk: AtDesk, job_id: JobId, row_id: RowId) -> StreamingResponse:
    """Readings four times a second as server-sent events, for a quarter of an hour at most, and no
    longer than job and dish are there."""
    _meter(desk, job_id, row_id)

    async def events() -> AsyncIterator[str]:
        for _ in range(3600):
            try:
                meter = _meter(desk, job_id, row_id)
            except (InputError, JobMissing):
                return
            yield f"data: {json.dumps(_shown(meter).model_dump())}\n\n"
            await asyncio.sleep(0.25)

    return StreamingResponse(events(), media_type="text/event-stream")
