"""Station Aim: readings while an axis is turned, tries of a feed, what locked, the simulated meter."""

from __future__ import annotations

import asyncio
import json
import zlib
from collections.abc import AsyncIterator
from typing import Annotated, Literal

from fastapi import APIRouter, Path, Query
from fastapi.responses import Response, StreamingResponse

from evtro.core.job import Lock, Sample, Trial
from evtro.core.practice.meter import SimulatedMeter
from evtro.core.stations.aim.dishes import sats_on
from evtro.core.units.quantities import InputError, Unit

from ..common import (
    MADE,
    READ,
    VIEW,
    WRITE,
    AtDesk,
    JobId,
    RowId,
    Seen,
    add_row,
    dish_at,
    job_response,
)
from ..desk import Desk
from ..rows import row_routes
from ..schemas import (
    Closed,
    LockPatch,
    NewLock,
    NewSample,
    NewTrial,
    SamplePatch,
    TrialPatch,
)
from ..typing import typed

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["finding"])
_SCALES: dict[str, Unit] = {"db": "db", "pct": "pct", "tone": "count"}
Axis = Literal["azimuth", "elevation", "skew"]


def _feed(desk: AtDesk, job_id: str, antenna: str, target: str | None) -> str | None:
    """The satellite whose feed a reading belongs to; None for the main one."""
    if not target:
        return None
    job, dish = dish_at(desk, job_id, antenna)
    if all(t.id != target for t in sats_on(job, dish)):
        raise InputError("Feed", f"{target} is no satellite of this dish.", "Choose one of its feeds.",
                         "row-missing")  # fmt: skip
    return None if target == dish.target else target


@router.post("/antennas/{row_id}/samples", **MADE)
def add_sample(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewSample) -> Response:
    """Write a reading against the position of an axis."""
    dish_at(desk, job_id, row_id)
    return add_row(
        desk, job_id, seen=seen, label="write reading", field="samples",
        make=lambda _, new: Sample(
            id=new, antenna=row_id, axis=body.axis, position=typed(Sample, "position", body.position, "deg" if body.unit == "deg" else None),
            unit=body.unit, reading=typed(Sample, "reading", body.reading, _SCALES[body.scale]),
            scale=body.scale, role=body.role, target=_feed(desk, job_id, row_id, body.target),
        ),
    )  # fmt: skip


@router.delete("/antennas/{row_id}/samples/{axis}", **VIEW)
def clear_axis(
    desk: AtDesk, job_id: JobId, row_id: RowId, axis: Annotated[Axis, Path()], seen: Seen,
    feed: Annotated[str, Query(max_length=12)] = "",
) -> Response:  # fmt: skip
    """Begin an axis of a feed anew, the main one where none is named; undo brings its readings
    back."""
    _, dish = dish_at(desk, job_id, row_id)
    at = feed or dish.target
    return job_response(
        desk.change(
            job_id, seen, f"begin {axis} anew",
            lambda job: job.model_copy(update={"samples": tuple(
                s for s in job.samples
                if (s.antenna, s.axis, s.target or dish.target or at) != (row_id, axis, at))}),
        )
    )  # fmt: skip


@router.post("/antennas/{row_id}/trials", **MADE)
def add_trial(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewTrial) -> Response:
    """Log a try of the feed's place."""
    dish_at(desk, job_id, row_id)
    return add_row(
        desk, job_id, seen=seen, label="log a try", field="trials",
        make=lambda _, new: Trial(
            id=new, antenna=row_id, depth_mm=typed(Trial, "depth_mm", body.depth_mm),
            sideways_mm=typed(Trial, "sideways_mm", body.sideways_mm),
            height_mm=typed(Trial, "height_mm", body.height_mm), skew_deg=typed(Trial, "skew_deg", body.skew_deg),
            reading=typed(Trial, "reading", body.reading, "db"),
            channels=int(typed(Trial, "channels", body.channels)) if body.channels.strip() else None,
            note=body.note,
        ),
    )  # fmt: skip


@router.post("/antennas/{row_id}/locks", **MADE)
def add_lock(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewLock) -> Response:
    """Note what locked, or did not."""
    dish_at(desk, job_id, row_id)
    symbol = typed(Lock, "symbol_mbd", body.symbol_mbd, "msym")
    if symbol <= 0:
        raise InputError("Symbol rate", "a carrier of 0 MBd carries nothing.",
                         "Read it off the meter or the list.", "symbol-zero")  # fmt: skip
    return add_row(
        desk, job_id, seen=seen, label="note what locked", field="locks",
        make=lambda _, new: Lock(
            id=new, antenna=row_id, frequency_mhz=typed(Lock, "frequency_mhz", body.frequency),
            polarisation=body.polarisation, symbol_mbd=symbol, locked=body.locked, identity=body.identity,
            target=_feed(desk, job_id, row_id, body.target),
        ),
    )  # fmt: skip


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
        answers, _ = desk.answers(desk.jobs.get(job_id))
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


row_routes(router, "samples", SamplePatch)
row_routes(router, "trials", TrialPatch)
row_routes(router, "locks", LockPatch)
