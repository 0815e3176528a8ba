"""Station Aim: readings while an axis is turned, tries of a feed, what locked, the simulated meter."""

from __future__ import annotations

import asyncio
import json
import zlib
from collections.abc import AsyncIterator
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.responses import StreamingResponse

from evtro.core.practice.meter import SimulatedMeter
from evtro.core.units.quantities import InputError, Unit

from ..common import (
    READ,
    WRITE,
    AtDesk,
    JobId,
    RowId,
    dish_at,
)
from ..desk import Desk
from ..schemas import (
    Closed,
)

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["finding"])
_SCALES: dict[str, Unit] = {"db": "db", "pct": "pct", "tone": "count"}
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


def _meter(desk: Desk, job_id: str, row_id: str) -> SimulatedMeter:
    _, antenna = dish_at(desk, job_id, row_id)
    key = job_id, row_id
    if key not in desk.meters:
        answers = desk.answers(desk.jobs.get(job_id))
        aim = next((a for a in answers.aim.aims if a.antenna == row_id), None)
        if aim is None:
            raise InputError(
                "Target", "this dish looks at no satellite yet.", "Choose one first.", "no-target"
            )
        # The seed is the place: the same job gives the same hidden aim.
        seed = zlib.crc32(f"{aim.azimuth_deg:.3f} {aim.elevation_deg:.3f} {row_id}".encode())
        desk.meters[key] = SimulatedMeter(beamwidth_deg=aim.beamwidth_deg, deg_per_turn=antenna.deg_per_turn or 0.8, elevation_deg=aim.elevation_deg,
                                          top_cn_db=14.0, seed=seed)  # fmt: skip
        while len(desk.meters) > 32:
            del desk.meters[next(iter(desk.meters))]
    return desk.meters[key]


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
    """Readings four times a second as server-sent events, for a quarter of an hour at most."""
    meter = _meter(desk, job_id, row_id)

    async def events() -> AsyncIterator[str]:
        for _ in range(3600):
            yield f"data: {json.dumps(_shown(meter).model_dump())}\n\n"
            await asyncio.sleep(0.25)

    return StreamingResponse(events(), media_type="text/event-stream")
