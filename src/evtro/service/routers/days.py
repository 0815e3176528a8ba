"""Days: plans of several jobs for a crew, their weather, calendar and lists."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import APIRouter, Path
from fastapi.responses import Response
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from evtro.core.day.plan import MOST_VISITS, DayPlan, JobKey, Visit
from evtro.core.day.typed import read_clock, read_minutes
from evtro.core.day.view import DayView
from evtro.core.job.base import Name
from evtro.core.job.words import in_words
from evtro.formats import plans
from evtro.formats.calendar import write_day
from evtro.formats.forecast import read_forecast, simulated, write_forecast

from ..common import READ, WRITE, AtDesk, RawBody, Seen, body_of, download, file_of
from ..typing import plain

router = APIRouter(prefix="/api/days", tags=["days"])
Date = Annotated[dt.date, Path(ge=dt.date(1970, 1, 1), le=dt.date(2199, 12, 31))]
Text = Annotated[str, Field(max_length=40)]
SIMULATED = "simulated: no weather of yours"


class DayHead(BaseModel):
    """A date that has a plan, and to how many jobs."""

    date: dt.date
    visits: int


class DayAnswer(BaseModel):
    """A day and the revision of its plan; 0 for one that is not kept yet."""

    revision: int
    day: DayView


class VisitEdit(BaseModel):
    """A job of the day, and its road as typed."""

    model_config = ConfigDict(extra="forbid")
    job: JobKey
    travel: Text = ""


class DayEdit(BaseModel):
    """What is typed of a day; what is not named stays as it is."""

    model_config = ConfigDict(extra="forbid")
    starts: Text | None = None
    home: Text | None = None
    wind_most: Text | None = None
    crew: Annotated[list[Name], Field(min_length=1, max_length=4)] | None = None
    visits: Annotated[list[VisitEdit], Field(max_length=MOST_VISITS)] | None = None
    no_forecast: bool = False


@router.get("", response_model=list[DayHead], responses=READ)
def list_days(desk: AtDesk) -> list[DayHead]:
    """The dates that have a plan."""
    return [DayHead(date=date, visits=visits) for date, visits in desk.days.kept.dates()]


@router.get("/{date}", response_model=DayAnswer, responses=READ)
def open_day(desk: AtDesk, date: Date) -> DayAnswer:
    """A day, worked out from what its jobs say now."""
    revision, plan = desk.days.plan(date)
    return DayAnswer(revision=revision, day=desk.days.view(plan))


@router.put("/{date}", response_model=DayAnswer, responses=WRITE)
def change_day(desk: AtDesk, date: Date, seen: Seen, body: DayEdit) -> DayAnswer:
    """Change what was typed of a day."""
    _, plan = desk.days.plan(date)
    update: dict[str, object] = {}
    if body.starts is not None:
        update["starts_min"] = read_clock("Leave at", body.starts)
    if body.home is not None:
        update["home_min"] = read_minutes("Road home", body.home)
    if body.wind_most is not None:
        rules = list(DayPlan.model_fields["wind_most_ms"].metadata)
        update["wind_most_ms"] = plain("No work at height over", body.wind_most, "ms", rules)
    if body.crew is not None:
        update["crew"] = tuple(name.strip() for name in body.crew)
    if body.visits is not None:
        once = dict.fromkeys(v.job for v in body.visits)
        typed = {v.job: read_minutes("Road", v.travel) for v in body.visits}
        update["visits"] = tuple(Visit(job=job, travel_min=typed[job]) for job in once)
    if body.no_forecast:
        update |= {"forecast": (), "forecast_from": ""}
    try:
        changed = DayPlan.model_validate({**plan.model_dump(), **update})
    except ValidationError as error:
        raise in_words(error, DayPlan)[0] from error
    return _kept(desk, changed, seen)


@router.post(
    "/{date}/forecast", openapi_extra=body_of("text/csv"), response_model=DayAnswer, responses=WRITE
)
def take_forecast(
    desk: AtDesk, date: Date, seen: Seen, body: RawBody, name: Text = ""
) -> DayAnswer:
    """Take in a forecast from CSV: time, wind_ms, gust_ms."""
    _, plan = desk.days.plan(date)
    hours = read_forecast(body, date)
    return _kept(
        desk,
        plan.model_copy(update={"forecast": hours, "forecast_from": name.strip() or "a file"}),
        seen,
    )


@router.post("/{date}/simulated", response_model=DayAnswer, responses=WRITE)
def simulate_forecast(desk: AtDesk, date: Date, seen: Seen) -> DayAnswer:
    """Take the forecast of the weather service's stand-in."""
    _, plan = desk.days.plan(date)
    return _kept(
        desk,
        plan.model_copy(update={"forecast": simulated(date), "forecast_from": SIMULATED}),
        seen,
    )


@router.delete("/{date}", status_code=204, response_class=Response, responses=WRITE)
def remove_day(desk: AtDesk, date: Date) -> Response:
    """Take a day's plan away; its jobs stay."""
    desk.days.kept.remove(date)
    return Response(status_code=204)


@router.get("/{date}/calendar.ics", response_class=Response, responses=file_of("text/calendar"))
def day_ics(desk: AtDesk, date: Date) -> Response:
    """The visits as a calendar."""
    day = desk.days.view(desk.days.plan(date)[1])
    return download(write_day(day), "text/calendar", f"evtro-{date.isoformat()}.ics")


@router.get("/{date}/kit.csv", response_class=Response, responses=file_of("text/csv"))
def day_kit_csv(desk: AtDesk, date: Date) -> Response:
    """What goes into the van."""
    day = desk.days.view(desk.days.plan(date)[1])
    return download(plans.write_kit(day.needs), "text/csv", f"van-{date.isoformat()}.csv")


@router.get("/{date}/forecast.csv", response_class=Response, responses=file_of("text/csv"))
def day_forecast_csv(desk: AtDesk, date: Date) -> Response:
    """The forecast of a day."""
    return download(
        write_forecast(desk.days.plan(date)[1].forecast), "text/csv", f"wind-{date.isoformat()}.csv"
    )


def _kept(desk: AtDesk, plan: DayPlan, seen: int) -> DayAnswer:
    view = desk.days.view(plan)
    return DayAnswer(revision=desk.days.kept.put(plan, seen), day=view)
