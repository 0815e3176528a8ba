"""A job as a value: everything an installer has entered, and nothing that is computed.

The models are frozen; each list keeps the order in which it is shown. They are also the open job
file: field titles and bounds here are what `evtro schema` publishes.
"""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator

from .quantities import Unit


@dataclass(frozen=True)
class In:
    """Marks a field's unit, so that typed text can be read in it."""

    unit: Unit


class Row(BaseModel):
    """Frozen, closed, finite."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    @field_validator("*", mode="after")
    @classmethod
    def _no_negative_zero(cls, value: object) -> object:
        # The database keeps no sign of a zero, and a job must come back byte for byte.
        return 0.0 if isinstance(value, float) and value == 0 else value


Name = Annotated[str, Field(max_length=80)]
Note = Annotated[str, Field(max_length=2000)]
Id = Annotated[str, Field(pattern=r"^[a-z]+[0-9]+$", max_length=12)]
Bearing = Annotated[float, In("deg"), Field(ge=0, le=360)]
Latitude = Annotated[float, In("deg"), Field(ge=-90, le=90)]
Longitude = Annotated[float, In("deg"), Field(ge=-180, le=180)]


def length(title: str, most: float, least: float = 0.0) -> object:
    """A length [m] with its bounds; for use inside Annotated."""
    return Field(title=title, ge=least, le=most)


class Site(Row):
    """The place, the building and the mounting point."""

    position_text: Annotated[str, Field(title="Position", max_length=80)] = ""
    latitude_deg: Annotated[Latitude | None, In("deg")] = None
    longitude_deg: Annotated[Longitude | None, In("deg")] = None
    height_m: Annotated[float, In("m"), Field(title="Ground above sea", ge=-430, le=6000)] = 0.0
    mount_height_m: Annotated[float, In("m"), length("Mount above ground", 100)] = 6.0
    keep_clear_deg: Annotated[float | None, In("deg"), Field(title="Keep clear", ge=0, le=45)] = (
        None
    )
    building_length_m: Annotated[float, In("m"), length("Building length", 300)] = 12.0
    building_width_m: Annotated[float, In("m"), length("Building width", 300)] = 8.0
    building_bearing_deg: Annotated[Bearing, In("deg"), Field(title="Long side bearing")] = 90.0
    building_offset_m: Annotated[float, In("m"), length("Building centre away", 300)] = 0.0
    building_offset_bearing_deg: Annotated[
        Bearing, In("deg"), Field(title="Building centre bearing")
    ] = 0.0
    entry_distance_m: Annotated[float, In("m"), length("Cable entry away", 300)] = 3.0
    entry_bearing_deg: Annotated[Bearing, In("deg"), Field(title="Cable entry bearing")] = 0.0


class Outlet(Row):
    """A place where a television or receiver is plugged in, and what it wants."""

    id: Id
    name: Name
    floor: Name = ""
    terrestrial: bool = True
    satellite: bool = True


class Target(Row):
    """A satellite or a terrestrial transmitter that the job wants."""

    id: Id
    kind: Literal["satellite", "transmitter"]
    name: Name
    orbit_deg_e: Annotated[
        float | None, In("deg"), Field(title="Orbit position", ge=-180, le=180)
    ] = None
    polarisation_offset_deg: Annotated[
        float, In("deg"), Field(title="Satellite's own tilt", ge=-90, le=90)
    ] = 0.0
    circular: bool = False
    latitude_deg: Annotated[Latitude | None, In("deg"), Field(title="Latitude")] = None
    longitude_deg: Annotated[Longitude | None, In("deg"), Field(title="Longitude")] = None
    height_m: Annotated[
        float, In("m"), Field(title="Transmitting antenna above sea", ge=-430, le=9000)
    ] = 150.0
    extra_loss_db: Annotated[
        float, In("db"), Field(title="Loss beyond free space", ge=-10, le=80)
    ] = 0.0


class Carrier(Row):
    """A multiplex or transponder of a target."""

    id: Id
    target: Id
    name: Name
    frequency_mhz: Annotated[float, In("mhz"), Field(title="Frequency", ge=30, le=32000)]
    bandwidth_mhz: Annotated[
        float, In("mhz"), Field(title="Bandwidth or symbol rate", ge=0.1, le=600)
    ]
    polarisation: Literal["H", "V", "L", "R"]
    power: Annotated[float, Field(title="ERP in kW or EIRP in dBW", gt=-30, le=2000)]
    modulation: Annotated[str, Field(max_length=40)]


class Obstruction(Row):
    """Something in the way: bearings, and its top as an angle or as distance and height."""

    id: Id
    name: Name
    outline: Literal["ridge", "gable", "crowns", "block"] = "block"
    from_deg: Annotated[Bearing, In("deg"), Field(title="From bearing")]
    to_deg: Annotated[Bearing, In("deg"), Field(title="To bearing")]
    top_deg: Annotated[float | None, In("deg"), Field(title="Top angle", ge=-30, le=89)] = None
    distance_m: Annotated[float | None, In("m"), Field(title="Distance", ge=0.1, le=100_000)] = None
    above_m: Annotated[
        float | None, In("m"), Field(title="Height above the antenna", ge=-200, le=5000)
    ] = None
    seen_from_m: Annotated[float, In("m"), length("Seen from above ground", 100)] = 6.0


class Antenna(Row):
    """A dish or a terrestrial antenna on the mast, and the target it looks at."""

    id: Id
    kind: Literal["dish", "array"]
    name: Name
    target: Id | None = None
    diameter_m: Annotated[float, In("m"), Field(title="Dish diameter", ge=0.2, le=15)] = 0.8
    efficiency: Annotated[float, Field(title="Dish efficiency", ge=0.2, le=0.9)] = 0.65
    offset_deg: Annotated[float, In("deg"), Field(title="Offset angle", ge=0, le=45)] = 25.0
    datum: Literal["face", "face_level", "scale", "structure"] = "face"
    constant_deg: Annotated[float, In("deg"), Field(title="Maker's constant", ge=-90, le=90)] = 0.0
    skew_view: Literal["behind", "front"] = "behind"
    skew_zero: Literal["V", "H"] = "V"
    gain_dbi: Annotated[float, In("dbi"), Field(title="Antenna gain", ge=-10, le=40)] = 12.0
    on_mast_m: Annotated[float, In("m"), length("Above the upper bracket", 30)] = 0.5
    wind_area_m2: Annotated[float, In("m2"), Field(title="Wind area", ge=0, le=200)] = 0.1


class Mast(Row):
    """The tube and how it is held."""

    length_m: Annotated[float, In("m"), length("Tube length", 40, 0.2)] = 3.0
    held_m: Annotated[float, In("m"), length("Held between brackets", 20)] = 0.8
    outer_mm: Annotated[float, In("mm"), Field(title="Tube diameter", ge=15, le=300)] = 48.0
    wall_mm: Annotated[float, In("mm"), Field(title="Tube wall", ge=0.8, le=20)] = 3.0
    yield_mpa: Annotated[float, In("mpa"), Field(title="Yield strength", ge=80, le=700)] = 235.0
    moment_limit_nm: Annotated[
        float | None, In("nm"), Field(title="Mount's own limit", ge=10, le=100_000)
    ] = None
    wind_ms: Annotated[float | None, In("ms"), Field(title="Design wind speed", ge=5, le=90)] = None
    fixing: Literal["wall", "chimney", "roof", "pole", "loft"] = "wall"


class Earth(Row):
    """Where the antennas stand to the roof, and what hangs near by."""

    indoors: bool = False
    below_roof_edge_m: Annotated[float, In("m"), length("Below the roof edge", 100)] = 0.0
    from_wall_m: Annotated[float, In("m"), length("Out from the wall", 100)] = 0.0
    overhead_lines: Literal["unknown", "none", "near"] = "unknown"
    line_distance_m: Annotated[float | None, In("m"), length("Overhead line away", 2000)] = None


class Conductor(Row):
    """An earthing or bonding conductor as planned or found."""

    id: Id
    role: Annotated[str, Field(max_length=40)]
    material: Literal["copper", "aluminium", "steel", "copper_clad_steel"] = "copper"
    size_mm2: Annotated[float, In("mm2"), Field(title="Conductor size", ge=0.1, le=500)]
    length_m: Annotated[float, In("m"), length("Conductor length", 500)]
    connected: bool = False


class Part(Row):
    """A device in the run. A source names its antenna, a wall plate its outlet."""

    id: Id
    type: Annotated[str, Field(max_length=40)]
    name: Name = ""
    antenna: Id | None = None
    outlet: Id | None = None
    setting_db: Annotated[float | None, In("db"), Field(title="Setting", ge=0, le=60)] = None


class Link(Row):
    """A cable from an output to an input. Ports count from 0."""

    id: Id
    from_part: Id
    from_port: Annotated[int, Field(ge=0, le=63)] = 0
    to_part: Id
    to_port: Annotated[int, Field(ge=0, le=63)] = 0
    cable: Annotated[str, Field(max_length=40)]
    length_m: Annotated[float, In("m"), length("Cable length", 1000)]
    note: Annotated[str, Field(max_length=200)] = ""


class Reading(Row):
    """What the meter said at a part's output, one row for each carrier."""

    id: Id
    part: Id
    carrier: Id
    level_dbuv: Annotated[float | None, In("dbuv"), Field(title="Level", ge=-60, le=150)] = None
    cn_db: Annotated[float | None, In("db"), Field(title="C/N or MER", ge=-20, le=80)] = None


class Mark(Row):
    """A step that was ticked, with its time, what was measured and a note."""

    id: Id
    step: Annotated[str, Field(max_length=60)]
    done_at: Annotated[str, Field(max_length=40)] = ""
    danger_read: bool = False
    value: float | None = None
    note: Note = ""


class Handover(Row):
    """Who hands over what to whom."""

    customer: Name = ""
    installer: Name = ""
    remarks: Note = ""
    handed_over: bool = False


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
    outlets: Annotated[tuple[Outlet, ...], Field(max_length=256)] = ()
    targets: Annotated[tuple[Target, ...], Field(max_length=64)] = ()
    carriers: Annotated[tuple[Carrier, ...], Field(max_length=1000)] = ()
    obstructions: Annotated[tuple[Obstruction, ...], Field(max_length=200)] = ()
    antennas: Annotated[tuple[Antenna, ...], Field(max_length=32)] = ()
    conductors: Annotated[tuple[Conductor, ...], Field(max_length=64)] = ()
    parts: Annotated[tuple[Part, ...], Field(max_length=600)] = ()
    links: Annotated[tuple[Link, ...], Field(max_length=1200)] = ()
    readings: Annotated[tuple[Reading, ...], Field(max_length=10_000)] = ()
    marks: Annotated[tuple[Mark, ...], Field(max_length=500)] = ()
