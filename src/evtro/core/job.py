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
    years_ahead: Annotated[int, Field(title="Summers to look ahead", ge=0, le=40)] = 5


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
    wanted: bool = True
    inclination_deg: Annotated[float, In("deg"), Field(title="Orbit inclination", ge=0, le=15)] = (
        0.0
    )
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
    outline: Literal["ridge", "gable", "crowns", "block", "eave"] = "block"
    nature: Literal["fixed", "evergreen", "leafy", "own"] = "fixed"
    growth_m_year: Annotated[float, In("m"), Field(title="Growth a year", ge=0, le=5)] = 0.0
    from_deg: Annotated[Bearing, In("deg"), Field(title="From bearing")]
    to_deg: Annotated[Bearing, In("deg"), Field(title="To bearing")]
    top_deg: Annotated[float | None, In("deg"), Field(title="Top angle", ge=-30, le=89)] = None
    distance_m: Annotated[float | None, In("m"), Field(title="Distance", ge=0.1, le=100_000)] = None
    above_m: Annotated[
        float | None, In("m"), Field(title="Height above the antenna", ge=-200, le=5000)
    ] = None
    seen_from_m: Annotated[float, In("m"), length("Seen from above ground", 100)] = 6.0


class Spot(Row):
    """Another place where the mount could stand, from the mount of now."""

    id: Id
    name: Name
    bearing_deg: Annotated[Bearing, In("deg"), Field(title="Bearing")] = 0.0
    distance_m: Annotated[float, In("m"), length("Away", 300)] = 0.0
    mount_height_m: Annotated[float, In("m"), length("Mount above ground", 100)] = 6.0
    cable_m: Annotated[float, In("m"), length("Cable to the entry", 300)] = 10.0
    note: Note = ""


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
    upside_down: bool = False
    scale_zero_deg: Annotated[
        float, In("deg"), Field(title="Scale reads too high by", ge=-30, le=30)
    ] = 0.0
    skew_turns: Literal["lnb", "dish"] = "lnb"
    level_reads: Literal["0", "90"] = "0"
    mounting: Literal["fixed", "multi", "polar"] = "fixed"
    coarse_first: Literal["elevation", "azimuth"] = "elevation"
    focal_ratio: Annotated[float, Field(title="f/D", ge=0.2, le=2)] = 0.6
    reflector_height_mm: Annotated[
        float | None, In("mm"), Field(title="Reflector, long axis", ge=100, le=20_000)
    ] = None
    reflector_width_mm: Annotated[
        float | None, In("mm"), Field(title="Reflector, short axis", ge=100, le=20_000)
    ] = None
    reflector_depth_mm: Annotated[
        float | None, In("mm"), Field(title="Deepest point below the rim", ge=1, le=5_000)
    ] = None
    lnb_width_mm: Annotated[float, In("mm"), Field(title="LNB width", ge=10, le=300)] = 60.0
    lean_deg: Annotated[float, In("deg"), Field(title="Mast out of plumb", ge=0, le=20)] = 0.0
    lean_bearing_deg: Annotated[Bearing, In("deg"), Field(title="Mast leans toward")] = 0.0
    compass_error_deg: Annotated[
        float, In("deg"), Field(title="Compass good to", ge=0.1, le=45)
    ] = 3.0
    scale_error_deg: Annotated[float, In("deg"), Field(title="Tool good to", ge=0.05, le=20)] = 0.5
    deg_per_turn: Annotated[
        float | None, In("deg"), Field(title="Fine screw, degrees a turn", ge=0.01, le=90)
    ] = None
    play_turns: Annotated[float, Field(title="Play in the screw, turns", ge=0, le=10)] = 0.0
    motor_limit_deg: Annotated[float, In("deg"), Field(title="Motor reaches", ge=10, le=90)] = 65.0
    motor_bend_deg: Annotated[float, In("deg"), Field(title="Motor tube bend", ge=0, le=60)] = 30.0
    motor_zero_deg: Annotated[float, In("deg"), Field(title="Motor zero off by", ge=-30, le=30)] = (
        0.0
    )
    availability_pct: Annotated[float, Field(title="Wanted availability", ge=90, le=99.999)] = 99.7
    two_way: bool = False
    transmit_w: Annotated[float, Field(title="Transmit power, W", ge=0, le=500)] = 2.0
    transmit_mhz: Annotated[
        float, In("mhz"), Field(title="Transmit frequency", ge=1000, le=60_000)
    ] = 14_250.0
    gain_dbi: Annotated[float, In("dbi"), Field(title="Antenna gain", ge=-10, le=40)] = 12.0
    on_mast_m: Annotated[float, In("m"), length("Above the upper bracket", 30)] = 0.5
    wind_area_m2: Annotated[float, In("m2"), Field(title="Wind area", ge=0, le=200)] = 0.1


class SatelliteFeed(Row):
    """One more satellite that a dish looks at: by a feed of its own, or by turning a motor."""

    id: Id
    antenna: Id
    target: Id
    placed_mm: Annotated[float | None, In("mm"), Field(title="Feed set at", ge=-3000, le=3000)] = (
        None
    )


class Preset(Row):
    """A zone of a maker's multi-satellite mount, as its sheet gives it: a name and a tilt."""

    id: Id
    antenna: Id
    name: Name
    tilt_deg: Annotated[float, In("deg"), Field(title="Tilt of the zone", ge=-180, le=180)]


class Sample(Row):
    """One reading while an axis is turned: where the screw or scale stood, what the meter said.

    `role` tells a sweep from the readings before and after a nut was tightened."""

    id: Id
    antenna: Id
    axis: Literal["azimuth", "elevation", "skew"]
    position: Annotated[float, Field(title="Position", ge=-1000, le=1000)]
    unit: Literal["turn", "flat", "deg"] = "turn"
    reading: Annotated[float, Field(title="Reading", ge=-200, le=1000)]
    scale: Literal["db", "pct", "tone"] = "db"
    role: Literal["sweep", "before", "after"] = "sweep"


class Trial(Row):
    """One try of a feed's place on a dish that was not made for it."""

    id: Id
    antenna: Id
    depth_mm: Annotated[
        float, In("mm"), Field(title="Feed back from the front stop", ge=-500, le=500)
    ]
    sideways_mm: Annotated[float, In("mm"), Field(title="Sideways", ge=-500, le=500)] = 0.0
    height_mm: Annotated[float, In("mm"), Field(title="Height", ge=-500, le=500)] = 0.0
    skew_deg: Annotated[float, In("deg"), Field(title="Skew", ge=-180, le=180)] = 0.0
    reading: Annotated[float, Field(title="Reading", ge=-200, le=1000)]
    channels: Annotated[int | None, Field(title="Channels found", ge=0, le=20_000)] = None
    note: Note = ""


class Lock(Row):
    """Whether the meter locked on something, and which name it read there, if any."""

    id: Id
    antenna: Id
    frequency_mhz: Annotated[float, In("mhz"), Field(title="Frequency", ge=30, le=32000)]
    polarisation: Literal["H", "V", "L", "R"]
    symbol_mbd: Annotated[float, Field(title="Symbol rate", gt=0, le=600)]
    locked: bool = True
    identity: Name = ""


class Beam(Row):
    """A beam or spot of a two-way satellite: its border and what the terminal is told."""

    id: Id
    target: Id
    name: Name
    code: Annotated[str, Field(max_length=40)] = ""
    polarisation: Literal["H", "V", "L", "R"] = "L"
    least_esn0_db: Annotated[float | None, In("db"), Field(title="Least Es/N0", ge=-10, le=40)] = (
        None
    )
    boundary: Annotated[tuple[tuple[float, float], ...], Field(min_length=3, max_length=2000)]


class Stop(Row):
    """A place where a portable or vehicle dish is set up again."""

    id: Id
    name: Name
    position_text: Annotated[str, Field(max_length=80)] = ""
    latitude_deg: Annotated[Latitude, In("deg"), Field(title="Latitude")]
    longitude_deg: Annotated[Longitude, In("deg"), Field(title="Longitude")]
    height_m: Annotated[float, In("m"), Field(title="Ground above sea", ge=-430, le=6000)] = 0.0


class Rig(Row):
    """A dish that stands on a tripod or on a vehicle's roof."""

    kind: Literal["none", "tripod", "vehicle"] = "none"
    stop: Id | None = None
    base_level_deg: Annotated[
        float | None, In("deg"), Field(title="Base off level", ge=0, le=45)
    ] = None
    gap_mm: Annotated[float | None, In("mm"), Field(title="Gap under the base", ge=0, le=500)] = (
        None
    )
    nearest_mm: Annotated[
        float | None, In("mm"), Field(title="Nearest thing on the roof away", ge=0, le=20_000)
    ] = None
    highest_mm: Annotated[
        float | None, In("mm"), Field(title="Its height above the roof", ge=0, le=5_000)
    ] = None
    cable_m: Annotated[float | None, In("m"), length("Cable to the receiver", 200)] = None
    sealed: bool = False
    stowed: bool = False


class Terminal(Row):
    """The record of a two-way terminal, for its provider."""

    installer: Name = ""
    licence: Annotated[str, Field(max_length=60)] = ""
    licence_seen: bool = False
    beam: Id | None = None
    esn0_db: Annotated[float | None, In("db"), Field(title="Es/N0 read", ge=-20, le=40)] = None
    isolation_db: Annotated[float | None, In("db"), Field(title="Isolation read", ge=0, le=60)] = (
        None
    )
    skew_error_deg: Annotated[float, In("deg"), Field(title="Skew off by", ge=0, le=45)] = 0.0
    duty_pct: Annotated[float, In("pct"), Field(title="Sends of the time", gt=0, le=100)] = 100.0
    height_above_m: Annotated[
        float | None, In("m"), length("Beam above where people stand", 100)
    ] = None
    state: Literal["new", "pointed", "ranged", "commissioned"] = "new"
    note: Note = ""


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
    target: Id | None = None
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
    conductors: Annotated[tuple[Conductor, ...], Field(max_length=64)] = ()
    parts: Annotated[tuple[Part, ...], Field(max_length=600)] = ()
    links: Annotated[tuple[Link, ...], Field(max_length=1200)] = ()
    readings: Annotated[tuple[Reading, ...], Field(max_length=10_000)] = ()
    marks: Annotated[tuple[Mark, ...], Field(max_length=500)] = ()
