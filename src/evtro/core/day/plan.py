"""A day of several jobs as it is kept: who goes, from when, to which jobs in which order, what the forecast
says."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from pydantic import Field

from ..job.base import In, Name, Row

DAY_MIN = 24 * 60
Minute = Annotated[float, Field(ge=0, le=DAY_MIN)]
JobKey = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$", max_length=40)]
MOST_VISITS = 16


class Visit(Row):
    """A job of the day, and how long the road to it is from the one before it, where that was typed."""

    job: JobKey
    travel_min: Annotated[float | None, Field(title="Road, minutes", ge=0, le=600)] = None


class Hour(Row):
    """What is forecast for a minute of the day: wind and gusts [m/s] at ten metres."""

    at_min: Minute
    wind_ms: Annotated[float, Field(title="Wind", ge=0, le=90)]
    gust_ms: Annotated[float | None, Field(title="Gusts", ge=0, le=120)] = None


class DayPlan(Row):
    """One day. Times are minutes after midnight by the clock of the place."""

    date: Annotated[dt.date, Field(title="Date", ge=dt.date(1970, 1, 1), le=dt.date(2199, 12, 31))]
    starts_min: Annotated[float, Field(title="Leave at", ge=0, le=DAY_MIN - 60)] = 450.0
    crew: Annotated[tuple[Name, ...], Field(title="Crew", min_length=1, max_length=4)] = ("",)
    wind_most_ms: Annotated[float, In("ms"), Field(title="No work at height over", ge=1, le=30)] = (
        10.0
    )
    utc_offset_min: Annotated[int, Field(ge=-840, le=840)] = 0
    home_min: Annotated[float | None, Field(title="Road home, minutes", ge=0, le=600)] = None
    visits: Annotated[tuple[Visit, ...], Field(max_length=MOST_VISITS)] = ()
    forecast: Annotated[tuple[Hour, ...], Field(max_length=400)] = ()
    forecast_from: Annotated[str, Field(max_length=120)] = ""
