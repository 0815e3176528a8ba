"""The one way to alter a job: a change as a value, tried or taken."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body
from fastapi.responses import Response
from pydantic import TypeAdapter
from pydantic.dataclasses import dataclass

from evtro.core.job.changes import Change, Set
from evtro.core.stations.handover.answer import StationLine
from evtro.core.stations.sky.answer import SkyAnswer

from ..common import VIEW, WRITE, AtDesk, JobId, Seen, job_response
from ..errors import problem_of
from ..schemas import Outbox, OutboxTaken, Refusal

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["changes"])
Asked = Annotated[Change, Body()]
# What a field asks for while somebody types into it.
Foreseeable = Annotated[Set, Body()]


@dataclass(frozen=True)
class Preview:
    """Station figures and the sky as they would be."""

    stations: list[StationLine]
    sky: SkyAnswer


_PREVIEW = TypeAdapter(Preview)
_REFUSED = TypeAdapter(list[Refusal | None])


@router.post("/changes", **VIEW)
def take_change(desk: AtDesk, job_id: JobId, seen: Seen, body: Asked) -> Response:
    """Carry out a change. A request with an `Idempotency-Key` that was carried out already is not
    carried out again."""
    return job_response(desk.take(job_id, seen, body))


@router.post("/foreseen", status_code=204, response_class=Response, responses=WRITE)
def foresee_change(desk: AtDesk, job_id: JobId, body: Foreseeable) -> Response:
    """Work out what a change would make of the job while it is still being typed, so that its answers are there
    when it is asked for. Nothing is kept."""
    desk.foresee(job_id, body)
    return Response(status_code=204)


@router.post("/outbox", response_model=None, responses={**WRITE, 200: {"model": OutboxTaken}})
def take_outbox(desk: AtDesk, job_id: JobId, seen: Seen, body: Outbox) -> Response:
    """Carry out what waited on a device, in its order, each for itself: one that is refused holds up no other."""
    view, why = desk.take_each(job_id, seen, body.entries)
    refused = _REFUSED.dump_json(
        [None if error is None else problem_of(error) for error in why], exclude_none=True
    )
    return job_response(b'{"view":%s,"refused":%s}' % (view, refused))


@router.post("/preview", response_model=Preview, responses=WRITE)
def try_change(desk: AtDesk, job_id: JobId, body: Asked) -> Response:
    """What a change would make of the stations and the sky; nothing is kept."""
    answers = desk.tried(desk.jobs.get(job_id).job, body)
    return job_response(_PREVIEW.dump_json(Preview(stations=answers.stations, sky=answers.sky)))
