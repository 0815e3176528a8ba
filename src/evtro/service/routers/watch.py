"""Who is alone at a job, what devices keep back, and readings called out from one to the other."""

from __future__ import annotations

import datetime as dt
import time
from typing import Annotated

from fastapi import APIRouter, Path
from fastapi.responses import Response
from pydantic import Field, TypeAdapter
from pydantic.dataclasses import dataclass

from evtro.core.day.weather import Outlook
from evtro.core.stations.check_ins import EVERY_MIN, HIGH, word_state
from evtro.core.units.severity import State
from evtro.store.watch import Alone, HeldBack

from ..broadcast import Called
from ..common import READ, WRITE, AtDesk, JobId
from ..job_service import JobService
from ..schemas import Closed
from ..typing import device, plain

router = APIRouter(prefix="/api", tags=["watch"])
Key = Annotated[str, Path(pattern=r"^[A-Za-z0-9-]{1,64}$")]


@dataclass(frozen=True)
class AloneView:
    """Who is alone at which job, by when a word is due [s since 1970] and how many seconds are left, what to do
    when none comes."""

    job: str
    name: str
    who: str
    call: str
    every_min: int
    due: float
    left_s: float
    state: State
    do: str


@dataclass(frozen=True)
class WatchView:
    """What is going on at a job besides its rows."""

    alone: AloneView | None
    held_back: list[HeldBack]
    every_min: int


_WATCH = TypeAdapter(WatchView)


class Goes(Closed):
    """Somebody goes up alone: who, whom to call when no word comes, how often a word is due."""

    who: Annotated[str, Field(min_length=1, max_length=80)]
    call: Annotated[str, Field(max_length=80)] = ""
    every_min: Annotated[int, Field(title="Word every, minutes", ge=5, le=240)] = EVERY_MIN


class CallOut(Closed):
    """A reading as it is called out, as it was typed. `again` begins a new search for the highest."""

    antenna: Annotated[str, Field(pattern=r"^a[0-9]{1,9}$")]
    scale: Annotated[str, Field(max_length=20)]
    reading: Annotated[float | str, Field(union_mode="left_to_right")]
    by: Annotated[str, Field(max_length=80)] = ""
    again: bool = False


def _view(desk: JobService, alone: Alone) -> AloneView:
    now = time.time()
    name = desk.jobs.get(alone.job).job.name
    return AloneView(
        job=alone.job,
        name=name,
        who=alone.who,
        call=alone.call,
        every_min=alone.every_min,
        due=alone.due,
        left_s=alone.due - now,
        state=word_state(alone.due, now),
        do=HIGH,
    )


def watched(desk: JobService, job_id: str) -> bytes:
    """What the stream tells of a job's site."""
    alone = desk.watch.alone(job_id)
    return _WATCH.dump_json(
        WatchView(
            alone=_view(desk, alone[0]) if alone else None,
            held_back=desk.watch.held_back(job_id),
            every_min=EVERY_MIN,
        )
    )


def _now(desk: JobService, job_id: str) -> Response:
    desk.live.changed(job_id)
    return Response(watched(desk, job_id), media_type="application/json")


@router.get("/check-ins", responses=READ)
def who_is_alone(desk: AtDesk) -> list[AloneView]:
    """Whoever is alone at any job, the soonest due first."""
    return [_view(desk, a) for a in desk.watch.alone()]


@router.get("/jobs/{job_id}/watch", response_model=WatchView, responses=READ)
def look_at_site(desk: AtDesk, job_id: JobId) -> Response:
    """Who is alone at a job, and what devices keep back of it."""
    desk.jobs.revision(job_id)
    return Response(watched(desk, job_id), media_type="application/json")


@router.get("/jobs/{job_id}/forecast", responses=READ)
def forecast_of_job(desk: AtDesk, job_id: JobId) -> Outlook | None:
    """What is forecast for the day on which this job is visited."""
    desk.jobs.revision(job_id)
    return desk.days.outlook(job_id, dt.datetime.now())


@router.put("/jobs/{job_id}/check-ins", response_model=WatchView, responses=WRITE)
def go_alone(desk: AtDesk, job_id: JobId, body: Goes) -> Response:
    """Somebody works alone from now on, and gives word as often as is said."""
    desk.watch.began(job_id, body.who.strip(), call=body.call.strip(), every_min=body.every_min)
    return _now(desk, job_id)


@router.post("/jobs/{job_id}/check-ins", response_model=WatchView, responses=WRITE)
def give_word(desk: AtDesk, job_id: JobId) -> Response:
    """All is well: the next word is due a whole span from now."""
    desk.watch.heard(job_id)
    return _now(desk, job_id)


@router.delete("/jobs/{job_id}/check-ins", response_model=WatchView, responses=WRITE)
def is_down(desk: AtDesk, job_id: JobId) -> Response:
    """Down, or alone no more."""
    desk.watch.over(job_id)
    return _now(desk, job_id)


@router.delete("/jobs/{job_id}/pending-writes/{key}", response_model=WatchView, responses=WRITE)
def let_go(desk: AtDesk, job_id: JobId, key: Key) -> Response:
    """A device has taken back what it kept."""
    desk.watch.let_go(job_id, key)
    return _now(desk, job_id)


@router.post(
    "/jobs/{job_id}/live-readings", status_code=204, response_class=Response, responses=WRITE
)
def call_out(desk: AtDesk, job_id: JobId, body: CallOut) -> Response:
    """Call a reading out to the other devices at the job; nothing is kept of it."""
    desk.jobs.revision(job_id)
    value = plain("Reading", str(body.reading), "count")
    said = Called(
        antenna=body.antenna,
        scale=body.scale,
        value=value,
        highest=value,
        by=body.by.strip(),
        device=device(),
    )
    desk.live.call(job_id, said, again=body.again)
    return Response(status_code=204)
