"""A job as a value: everything an installer has entered, and nothing that is computed.

The models are frozen; each list keeps the order in which it is shown. They are also the open job
file: field titles and bounds here are what `evtro schema` publishes.
"""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from pydantic import Field

from .aimed import Antenna, Heard, Hold, Lock, Preset, Sample, SatelliteFeed, Trial
from .base import Bearing, Id, In, Latitude, Longitude, Name, Note, Pattern, Row
from .built import Company, Conductor, Earth, Handover, Link, Mark, Mast, Part, Reading, Scan
from .mobile import Beam, Rig, Stop, Terminal
from .places import Carrier, Obstruction, Outlet, Relief, Site, Spot, Target

__all__ = [
    "Antenna",
    "Beam",
    "Bearing",
    "Carrier",
    "Company",
    "Conductor",
    "Earth",
    "Handover",
    "Heard",
    "Hold",
    "Id",
    "In",
    "Job",
    "Latitude",
    "Link",
    "Lock",
    "Longitude",
    "Mark",
    "Mast",
    "Name",
    "Note",
    "Obstruction",
    "Outlet",
    "Part",
    "Pattern",
    "Preset",
    "Reading",
    "Relief",
    "Rig",
    "Row",
    "Sample",
    "SatelliteFeed",
    "Scan",
    "Site",
    "Spot",
    "Stop",
    "Target",
    "Terminal",
    "Trial",
]


class Job(Row):
    """One installation."""

    name: Name
    place: Name = ""
    profile: Annotated[str, Field(max_length=40)] = "europe"
    date: Annotated[dt.date, Field(title="Date")]
    site: Site = Site()
    mast: Mast = Mast()
    earth: Earth = Earth()
    handover: Handover = Handover()
    company: Company = Company()
    rig: Rig = Rig()
    terminal: Terminal = Terminal()
    outlets: Annotated[tuple[Outlet, ...], Field(max_length=256)] = ()
    targets: Annotated[tuple[Target, ...], Field(max_length=200)] = ()
    carriers: Annotated[tuple[Carrier, ...], Field(max_length=2000)] = ()
    obstructions: Annotated[tuple[Obstruction, ...], Field(max_length=200)] = ()
    antennas: Annotated[tuple[Antenna, ...], Field(max_length=32)] = ()
    spots: Annotated[tuple[Spot, ...], Field(max_length=24)] = ()
    feeds: Annotated[tuple[SatelliteFeed, ...], Field(max_length=200)] = ()
    presets: Annotated[tuple[Preset, ...], Field(max_length=100)] = ()
    samples: Annotated[tuple[Sample, ...], Field(max_length=2000)] = ()
    trials: Annotated[tuple[Trial, ...], Field(max_length=500)] = ()
    locks: Annotated[tuple[Lock, ...], Field(max_length=500)] = ()
    beams: Annotated[tuple[Beam, ...], Field(max_length=200)] = ()
    stops: Annotated[tuple[Stop, ...], Field(max_length=200)] = ()
    reliefs: Annotated[tuple[Relief, ...], Field(max_length=200)] = ()
    holds: Annotated[tuple[Hold, ...], Field(max_length=200)] = ()
    heard: Annotated[tuple[Heard, ...], Field(max_length=4000)] = ()
    scans: Annotated[tuple[Scan, ...], Field(max_length=200)] = ()
    conductors: Annotated[tuple[Conductor, ...], Field(max_length=64)] = ()
    parts: Annotated[tuple[Part, ...], Field(max_length=600)] = ()
    links: Annotated[tuple[Link, ...], Field(max_length=1200)] = ()
    readings: Annotated[tuple[Reading, ...], Field(max_length=10_000)] = ()
    marks: Annotated[tuple[Mark, ...], Field(max_length=500)] = ()
