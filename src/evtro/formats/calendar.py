"""Sun events and days of work as iCalendar, so that they stand in the installer's and the customer's
calendar."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable

from icalendar import Calendar, Event

from evtro.core.day.typed import clock
from evtro.core.day.view import DayView
from evtro.core.job import Job
from evtro.core.stations.sky.sun_events import SunTarget
from evtro.core.units.quantities import text_of


def write_sun(job: Job, rows: Iterable[SunTarget]) -> bytes:
    """Outages, moments when the sun stands behind a satellite, and the plumb-line time of the job's
    day. Reference: RFC 5545, by icalendar."""
    calendar = Calendar()
    calendar.add("prodid", "-//Evtro//sun events//EN")
    calendar.add("version", "2.0")
    for row in rows:
        for outage in row.outages:
            half = outage.minutes / 2 * 60
            _add(
                calendar,
                job,
                title=f"{row.name}: sun outage",
                start_s=outage.at_s - half,
                end_s=outage.at_s + half,
                words="The sun stands in the beam: reception fails for these minutes and comes back by itself.",
            )
        for view in row.views:
            _add(
                calendar,
                job,
                title=f"{row.name}: the sun shows its place",
                start_s=view.at_s - 60,
                end_s=view.at_s + 60,
                words="Stand where the dish will be, back to the sun: a shadow on it now is a blocked path.",
            )
        for moment in row.plumb:
            _add(
                calendar,
                job,
                title=f"{row.name}: plumb-line shadow gives the bearing",
                start_s=moment[0] - 30,
                end_s=moment[0] + 30,
                words=f"The sun stands at {row.azimuth_deg:.1f}° true: the shadow of a plumb line points the other way.",
            )
    text: bytes = calendar.to_ical()
    return text


def write_day(day: DayView) -> bytes:
    """A day's visits, each from its arrival to its end, with what is done when. Times are those of the
    clock of the place. Reference: RFC 5545, by icalendar."""
    calendar = Calendar()
    calendar.add("prodid", "-//Evtro//day//EN")
    calendar.add("version", "2.0")
    midnight = dt.datetime.combine(day.plan.date, dt.time())
    for visit in day.visits:
        if visit.missing:
            continue
        event = Event()
        event.add("summary", visit.name)
        # Floating: the clock where one is.
        event.add("dtstart", midnight + dt.timedelta(minutes=round(visit.arrives)))
        event.add(
            "dtend",
            midnight + dt.timedelta(minutes=max(round(visit.leaves), round(visit.arrives) + 1)),
        )
        event.add("dtstamp", midnight.replace(tzinfo=dt.UTC))
        event.add("uid", f"{day.plan.date.isoformat()}-{visit.job}@evtro")
        event.add("location", visit.place or visit.name)
        lines = [f"{clock(b.begin)} {b.words}{', at height' if b.high else ''}" for b in visit.bars]
        event.add("description", "\n".join([*lines, *(text_of(c) for c in visit.clashes)]))
        calendar.add_component(event)
    text: bytes = calendar.to_ical()
    return text


def _add(
    calendar: Calendar, job: Job, title: str, start_s: float, end_s: float, words: str
) -> None:
    event = Event()
    event.add("summary", title)
    event.add("dtstart", dt.datetime.fromtimestamp(round(start_s), dt.UTC))
    event.add("dtend", dt.datetime.fromtimestamp(round(max(end_s, start_s + 60)), dt.UTC))
    event.add("dtstamp", dt.datetime(job.date.year, job.date.month, job.date.day, tzinfo=dt.UTC))
    event.add("uid", f"{title}-{round(start_s)}@evtro".replace(" ", "-").replace(":", ""))
    event.add("description", words)
    event.add("location", job.place or job.name)
    calendar.add_component(event)
