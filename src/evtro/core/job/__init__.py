"""A job as a value: everything an installer has entered, and nothing that is computed.

The models are frozen; each list keeps the order in which it is shown. They are also the open job
file: field titles and bounds here are what `evtro schema` publishes.
"""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from pydantic import FailFast, Field

from .aimed import (
    Antenna,
    Array,
    Dish,
    FeedTry,
    Lock,
    Preset,
    Sample,
    SatelliteFeed,
    TrialReading,
    TrialSpot,
)
from .base import Bearing, Id, In, Latitude, Longitude, Name, Note, Pattern, Row
from .built import (
    Cable,
    Company,
    Conductor,
    Earth,
    Handover,
    Mast,
    Part,
    Photo,
    Reading,
    RunSchool,
    Scan,
    TaskRecord,
    ThingSeen,
)
from .mobile import Beam, Rig, Stop, Terminal
from .places import Carrier, Obstruction, Outlet, Site, Spot, Target, TerrainProfile
from .sheets import ArrayData, CableData, LimitData, PartData

__all__ = [
    "Antenna",
    "Array",
    "ArrayData",
    "Beam",
    "Bearing",
    "Cable",
    "CableData",
    "Carrier",
    "Company",
    "Conductor",
    "Dish",
    "Earth",
    "FeedTry",
    "Handover",
    "Id",
    "In",
    "Job",
    "Latitude",
    "LimitData",
    "Lock",
    "Longitude",
    "Mast",
    "Name",
    "Note",
    "Obstruction",
    "Outlet",
    "Part",
    "PartData",
    "Pattern",
    "Photo",
    "Preset",
    "Reading",
    "Rig",
    "Row",
    "RunSchool",
    "Sample",
    "SatelliteFeed",
    "Scan",
    "Site",
    "Spot",
    "Stop",
    "Target",
    "TaskRecord",
    "Terminal",
    "TerrainProfile",
    "ThingSeen",
    "TrialReading",
    "TrialSpot",
]


class Job(Row):
    """One installation."""

    name: Name
    place: Name = ""
    profile: Annotated[str, Field(max_length=40)] = "europe"
    date: Annotated[dt.date, Field(title="Date", ge=dt.date(1970, 1, 1), le=dt.date(2199, 12, 31))]
    site: Site = Site()
    mast: Mast = Mast()
    earth: Earth = Earth()
    handover: Handover = Handover()
    company: Company = Company()
    run_school: RunSchool = RunSchool()
    rig: Rig = Rig()
    terminal: Terminal = Terminal()
    outlets: Annotated[tuple[Outlet, ...], FailFast(), Field(max_length=256)] = ()
    targets: Annotated[tuple[Target, ...], FailFast(), Field(max_length=200)] = ()
    carriers: Annotated[tuple[Carrier, ...], FailFast(), Field(max_length=2000)] = ()
    obstructions: Annotated[tuple[Obstruction, ...], FailFast(), Field(max_length=200)] = ()
    dishes: Annotated[tuple[Dish, ...], FailFast(), Field(max_length=32)] = ()
    arrays: Annotated[tuple[Array, ...], FailFast(), Field(max_length=32)] = ()
    spots: Annotated[tuple[Spot, ...], FailFast(), Field(max_length=24)] = ()
    feeds: Annotated[tuple[SatelliteFeed, ...], FailFast(), Field(max_length=200)] = ()
    presets: Annotated[tuple[Preset, ...], FailFast(), Field(max_length=100)] = ()
    samples: Annotated[tuple[Sample, ...], FailFast(), Field(max_length=2000)] = ()
    feed_tries: Annotated[tuple[FeedTry, ...], FailFast(), Field(max_length=500)] = ()
    locks: Annotated[tuple[Lock, ...], FailFast(), Field(max_length=500)] = ()
    beams: Annotated[tuple[Beam, ...], FailFast(), Field(max_length=200)] = ()
    stops: Annotated[tuple[Stop, ...], FailFast(), Field(max_length=200)] = ()
    reliefs: Annotated[tuple[TerrainProfile, ...], FailFast(), Field(max_length=200)] = ()
    trial_spots: Annotated[tuple[TrialSpot, ...], FailFast(), Field(max_length=200)] = ()
    trial_readings: Annotated[tuple[TrialReading, ...], FailFast(), Field(max_length=4000)] = ()
    scans: Annotated[tuple[Scan, ...], FailFast(), Field(max_length=200)] = ()
    conductors: Annotated[tuple[Conductor, ...], FailFast(), Field(max_length=64)] = ()
    parts: Annotated[tuple[Part, ...], FailFast(), Field(max_length=600)] = ()
    links: Annotated[tuple[Cable, ...], FailFast(), Field(max_length=1200)] = ()
    readings: Annotated[tuple[Reading, ...], FailFast(), Field(max_length=10_000)] = ()
    marks: Annotated[tuple[TaskRecord, ...], FailFast(), Field(max_length=500)] = ()
    seen: Annotated[tuple[ThingSeen, ...], FailFast(), Field(max_length=2000)] = ()
    photos: Annotated[tuple[Photo, ...], FailFast(), Field(max_length=400)] = ()
    part_data: Annotated[tuple[PartData, ...], FailFast(), Field(max_length=300)] = ()
    cable_data: Annotated[tuple[CableData, ...], FailFast(), Field(max_length=60)] = ()
    array_data: Annotated[tuple[ArrayData, ...], FailFast(), Field(max_length=40)] = ()
    limit_data: Annotated[tuple[LimitData, ...], FailFast(), Field(max_length=6)] = ()

    @property
    def antennas(self) -> tuple[Antenna, ...]:
        """Dishes and terrestrial antennas in the order in which they were added."""
        return tuple(sorted((*self.dishes, *self.arrays), key=lambda a: (len(a.id), a.id)))
