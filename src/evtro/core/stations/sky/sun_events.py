"""The sun at a job's place: its track, the bearings it shows, the days it stands in the beam."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from ...job import Job
from ...job.targets import sights
from ...physics.beams import dish_beamwidth_deg
from ...physics.sun import SUN_RADIUS_DEG, Passing, passings, times_at_azimuth, track
from .answer import dish_of

VIEW_DEG = 0.8  # a glance at a shadow tells no finer; common practice, no source


@dataclass(frozen=True)
class SunTarget:
    """The sun and one target: moments at its bearing [unix s, elevation deg], days on which it
    stands at its very place, and outages for the dish that looks at it."""

    target: str
    name: str
    azimuth_deg: float
    plumb: list[tuple[float, float]]
    views: list[Passing]
    outages: list[Passing]


@dataclass(frozen=True)
class SunView:
    """A day's sun: rows of hour UTC, azimuth, elevation [deg]; and every target."""

    day: dt.date
    track: list[tuple[float, float, float]]
    targets: list[SunTarget]


def sun_view(job: Job, day: dt.date) -> SunView:
    """Everything the sun can tell on a day and in its year. Empty without a position."""
    lat, lon = job.site.latitude_deg, job.site.longitude_deg
    if lat is None or lon is None:
        return SunView(day, [], [])
    seen = sights(job)
    rows = [(t, seen[t.id]) for t in job.targets if t.wanted and t.id in seen]
    times = times_at_azimuth(lat, lon, day, [s.azimuth_deg for _, s in rows]) if rows else []
    found = []
    for (target, sight), moments in zip(rows, times, strict=True):
        views: list[Passing] = []
        outages: list[Passing] = []
        if target.kind == "satellite" and sight.visible:
            dish = dish_of(job, target.id)
            waves = [c.frequency_mhz for c in job.carriers if c.target == target.id]
            width = (
                dish_beamwidth_deg(dish.diameter_m, min(waves, default=11_700.0)) if dish else 0.0
            )
            reach = max(width / 2 + SUN_RADIUS_DEG, VIEW_DEG)
            passed = passings(
                lat,
                lon,
                azimuth_deg=sight.azimuth_deg,
                elevation_deg=sight.elevation_deg,
                year=day.year,
                within_deg=reach,
            )
            views = [p for p in passed if p.separation_deg <= VIEW_DEG]
            outages = [p for p in passed if dish and p.separation_deg <= width / 2 + SUN_RADIUS_DEG]
        found.append(
            SunTarget(
                target=target.id,
                name=target.name,
                azimuth_deg=sight.azimuth_deg,
                plumb=moments,
                views=views,
                outages=outages,
            )
        )
    return SunView(day, track(lat, lon, day), found)
