"""The place, what is wanted there, and what can be seen from it."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import FailFast, Field, field_validator

from .base import (
    Bearing,
    Id,
    In,
    Latitude,
    Longitude,
    Name,
    Note,
    Pattern,
    Ref,
    Row,
    Table,
    check_pattern,
    length,
)


class Site(Row):
    """The place, the building and the mounting point."""

    table: ClassVar[Table] = Table("site", "site")

    position_text: Annotated[str, Field(title="Position", max_length=80)] = ""
    latitude_deg: Annotated[Latitude | None, In("deg"), Field(title="Latitude")] = None
    longitude_deg: Annotated[Longitude | None, In("deg"), Field(title="Longitude")] = None
    position_good_m: Annotated[
        float | None, In("m"), Field(title="Position good to", ge=0, le=500_000)
    ] = None
    height_m: Annotated[float, In("m"), Field(title="Ground above sea", ge=-430, le=6000)] = 0.0
    mount_height_m: Annotated[float, In("m"), length("Mount above ground", 100)] = 6.0
    keep_clear_deg: Annotated[float | None, In("deg"), Field(title="Keep clear", ge=0, le=45)] = (
        None
    )
    building_length_m: Annotated[float, In("m"), length("Building length", 300)] = 12.0
    building_width_m: Annotated[float, In("m"), length("Building width", 300)] = 8.0
    building_bearing_deg: Annotated[Bearing, Field(title="Long side bearing")] = 90.0
    roof_edge_m: Annotated[float | None, In("m"), length("Roof edge above ground", 200)] = None
    building_offset_m: Annotated[float, In("m"), length("Building centre away", 300)] = 0.0
    building_offset_bearing_deg: Annotated[Bearing, Field(title="Building centre bearing")] = 0.0
    entry_distance_m: Annotated[float, In("m"), length("Cable entry away", 300)] = 3.0
    entry_bearing_deg: Annotated[Bearing, Field(title="Cable entry bearing")] = 0.0
    years_ahead: Annotated[int, Field(title="Summers to look ahead", ge=0, le=40)] = 5
    surroundings: Literal["open", "village", "suburb", "town", "city", "wood"] = "open"
    clutter_db: Annotated[
        float | None, In("db"), Field(title="Loss by surroundings", ge=0, le=60)
    ] = None
    mobile_m: Annotated[
        float | None, In("m"), Field(title="Base station away", ge=20, le=50_000)
    ] = None
    mobile_bearing_deg: Annotated[
        float | None, In("deg_true"), Field(title="Base station bearing", ge=0, le=360)
    ] = None
    boundary_m: Annotated[float | None, In("m"), length("Neighbour's ground away", 500)] = None
    consent: Literal["unasked", "asked", "given", "not_needed", "refused"] = "unasked"
    consent_note: Note = ""


class Outlet(Row):
    """A place where a television or receiver is plugged in, and what it wants."""

    table: ClassVar[Table] = Table("outlet", "outlet", "o")

    id: Id
    name: Name
    floor: Name = ""
    terrestrial: bool = True
    satellite: bool = True
    company: Literal["none", "television", "modem"] = "none"
    tuners: Annotated[int, Field(title="Tuners", ge=1, le=16)] = 1


class Target(Row):
    """A satellite, a terrestrial transmitter, or the line of a cable company that the job wants."""

    table: ClassVar[Table] = Table("target", "target", "t")

    id: Id
    kind: Literal["satellite", "transmitter", "line"]
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
    own_loss_db: Annotated[
        float | None, In("db"), Field(title="Own loss over free space", ge=-10, le=120)
    ] = None
    pattern: Annotated[Pattern, Field(title="Horizontal pattern", max_length=361)] = ()
    delay_us: Annotated[
        float, Field(title="Sends later than its network by, µs", ge=-1000, le=1000)
    ] = 0.0

    @field_validator("pattern")
    @classmethod
    def _two_bearings(cls, value: Pattern) -> Pattern:
        check_pattern(value)
        return value


class Carrier(Row):
    """A multiplex or transponder of a target. On a company's line `power` is how far it stands over the
    line between the two levels that were read at the drop [dB]."""

    table: ClassVar[Table] = Table("carrier", "carrier", "c")

    id: Id
    target: Annotated[Id, Ref("targets", gone="with it")]
    name: Name
    frequency_mhz: Annotated[float, In("mhz"), Field(title="Frequency", ge=30, le=32000)]
    bandwidth_mhz: Annotated[
        float, In("mhz"), Field(title="Bandwidth or symbol rate", ge=0.1, le=600)
    ]
    polarisation: Literal["H", "V", "L", "R"]
    power: Annotated[
        float, Field(title="ERP in kW, EIRP in dBW, or dB over the rest of a line", gt=-30, le=2000)
    ]
    modulation: Annotated[str, Field(max_length=40)]
    label: Annotated[str, Field(title="Virtual channel", max_length=40)] = ""
    services: Annotated[tuple[Name, ...], Field(title="Services", max_length=60)] = ()
    network: Annotated[str, Field(title="Single-frequency network", max_length=40)] = ""
    guard_us: Annotated[float | None, Field(title="Guard interval, µs", ge=1, le=1000)] = None

    @property
    def mobile(self) -> bool:
        """Whether it is a base station's: no outlet wants it, it only loads amplifiers."""
        return self.modulation.split()[0] == "Mobile"


class Obstruction(Row):
    """Something in the way: bearings, and its top as an angle or as distance and height."""

    table: ClassVar[Table] = Table("obstruction", "obstruction", "b")

    id: Id
    name: Name
    outline: Literal["ridge", "gable", "crowns", "block", "eave"] = "block"
    nature: Literal["fixed", "evergreen", "leafy", "own"] = "fixed"
    growth_m_year: Annotated[float, In("m"), Field(title="Growth a year", ge=0, le=5)] = 0.0
    from_deg: Annotated[Bearing, Field(title="From bearing")]
    to_deg: Annotated[Bearing, Field(title="To bearing")]
    top_deg: Annotated[float | None, In("deg"), Field(title="Top angle", ge=-30, le=89)] = None
    distance_m: Annotated[float | None, In("m"), Field(title="Distance", ge=0.1, le=100_000)] = None
    above_m: Annotated[
        float | None, In("m"), Field(title="Height above the antenna", ge=-200, le=5000)
    ] = None
    seen_from_m: Annotated[float, In("m"), length("Seen from above ground", 100)] = 6.0


class Spot(Row):
    """Another place where the mount could stand, from the mount of now."""

    table: ClassVar[Table] = Table("spot", "mounting place", "s")

    id: Id
    name: Name
    bearing_deg: Annotated[Bearing, Field(title="Bearing")] = 0.0
    distance_m: Annotated[float, In("m"), length("Away", 300)] = 0.0
    mount_height_m: Annotated[float, In("m"), length("Mount above ground", 100)] = 6.0
    cable_m: Annotated[float, In("m"), length("Cable to the entry", 300)] = 10.0
    surface: Literal["unknown", "masonry", "timber", "render", "metal", "ground", "chimney"] = (
        "unknown"
    )
    access: Literal["unknown", "ground", "ladder", "roof", "scaffold"] = "unknown"
    wind: Literal["unknown", "sheltered", "open", "edge"] = "unknown"
    in_way: Literal["nothing", "gutter", "ridge", "neighbour"] = "nothing"
    noise: Literal["none", "near"] = "none"
    note: Note = ""


class TerrainProfile(Row):
    """The ground between the job's place and a transmitter, at equal steps from here to there, as
    an elevation tile gave it. It holds for the two places that it names."""

    table: ClassVar[Table] = Table("relief", "terrain profile", "g")

    id: Id
    target: Annotated[Id, Ref("targets", gone="with it")]
    source: Annotated[str, Field(max_length=120)] = ""
    from_latitude_deg: Latitude
    from_longitude_deg: Longitude
    to_latitude_deg: Latitude
    to_longitude_deg: Longitude
    length_km: Annotated[float, Field(gt=0, le=2000)]
    heights_m: Annotated[
        tuple[Annotated[float, Field(ge=-500, le=9000)] | None, ...],
        FailFast(),
        Field(max_length=1201),
    ] = ()
