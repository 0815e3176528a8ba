"""Station Sky: mounting places, the sun, and what a remedy would change before it is taken."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import TypeAdapter

from evtro.core.job import Job
from evtro.core.stations.sky.sun_events import SunView, sun_view
from evtro.core.units.quantities import InputError

from ..common import READ, AtDesk, JobId, job_response

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["sky"])


_SUN = TypeAdapter(SunView)


@router.get("/sun", response_model=SunView, responses=READ)
def sun(
    desk: AtDesk, job_id: JobId, day: Annotated[str | None, Query(max_length=10)] = None
) -> Response:
    """The sun of a day at the job's place: its track, bearings, outages."""
    job = desk.jobs.get(job_id).job
    return job_response(_SUN.dump_json(sun_view(job, day_of(job, day))))


def day_of(job: Job, text: str | None) -> dt.date:
    """A day as typed, the job's own without one. Raises InputError outside 1950 to 2100."""
    if not text:
        return job.date
    try:
        day = dt.date.fromisoformat(text)
    except ValueError as error:
        raise InputError(
            "Day", f"“{text}” is not a date.", "Type it as 2026-03-25.", "no-date"
        ) from error
    if not 1950 <= day.year <= 2100:
        raise InputError(
            "Day",
            f"{day.year} is too far off for the sun's formula.",
            "Choose a year between 1950 and 2100.",
            "too-large",
        )
    return day
