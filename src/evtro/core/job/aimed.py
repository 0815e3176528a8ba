"""Antennas and dishes, and what was tried and read while they were set."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from .base import Bearing, Evidence, Id, In, Name, Note, Ref, Row, Table, length


class Antenna(Row):
    """What a dish and a terrestrial antenna have in common: a place on the mast, the target it looks
    at, and the compass by which it is set."""

    kind: ClassVar[Literal["dish", "array"]]

    id: Id
    name: Name
    target: Annotated[Id | None, Ref("targets", gone="cleared")] = None
    on_mast_m: Annotated[float, In("m"), length("Above the upper bracket", 30)] = 0.5
    wind_area_m2: Annotated[float, In("m2"), Field(title="Wind area", ge=0, le=200)] = 0.1
    weight_kg: Annotated[float | None, In("kg"), Field(title="Weight", gt=0, le=2_000)] = None
    compass_error_deg: Annotated[
        float, In("deg"), Field(title="Compass good to", ge=0.1, le=45)
    ] = 3.0
    compass_off_deg: Annotated[
        float, In("deg"), Field(title="Compass reads too high by", ge=-180, le=180)
    ] = 0.0


class Dish(Antenna):
    """A dish, and the satellite at which its main feed looks."""

    table: ClassVar[Table] = Table("dish", "dish", "a", family="antenna")
    kind = "dish"

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
    scale_error_deg: Annotated[float, In("deg"), Field(title="Tool good to", ge=0.05, le=20)] = 0.5
    mounting: Literal["fixed", "multi", "polar"] = "fixed"
    variant: Annotated[Name, Field(title="Variant")] = ""
    lock_torque_nm: Annotated[
        float | None, In("nm"), Field(title="Torque of the locks", ge=0.5, le=500)
    ] = None
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
    lean_bearing_deg: Annotated[Bearing, Field(title="Mast leans toward")] = 0.0
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
    area_from: Literal["size", "own"] = "size"
    surface: Literal["solid", "mesh"] = "solid"
    ground_k: Annotated[
        float | None, Field(title="Noise picked up from the ground, K", ge=0, le=290)
    ] = None
    zero_before_deg: Annotated[
        float | None, In("deg"), Field(title="Zero learned before", ge=-30, le=30)
    ] = None


class Array(Antenna):
    """A terrestrial antenna, and the transmitter on which it is set."""

    table: ClassVar[Table] = Table("array", "terrestrial antenna", "a", family="antenna")
    kind = "array"

    gain_dbi: Annotated[float, In("dbi"), Field(title="Antenna gain", ge=-10, le=40)] = 12.0
    gain_table: Annotated[
        tuple[
            tuple[Annotated[float, Field(ge=1, le=60_000)], Annotated[float, Field(ge=-60, le=80)]],
            ...,
        ],
        Field(title="Gain over frequency", max_length=60),
    ] = ()
    model: Annotated[str, Field(title="Kind of antenna", max_length=40)] = ""
    low_mhz: Annotated[float, In("mhz"), Field(title="Band from", ge=30, le=3000)] = 30.0
    high_mhz: Annotated[float, In("mhz"), Field(title="Band to", ge=30, le=3000)] = 3000.0
    beamwidth_deg: Annotated[
        float | None, In("deg"), Field(title="Half-power beamwidth", ge=5, le=360)
    ] = None
    front_back_db: Annotated[float, In("db"), Field(title="Front to back", ge=0, le=45)] = 20.0
    length_m: Annotated[float, In("m"), length("Antenna length", 12)] = 1.0
    heading_deg: Annotated[float | None, In("deg_true"), Field(title="Heading", ge=0, le=360)] = (
        None
    )
    elements: Literal["auto", "H", "V"] = "auto"
    rotator: bool = False
    standing: Literal["outdoors", "loft", "indoors"] = "outdoors"
    covering: Annotated[str, Field(title="What covers it", max_length=40)] = ""
    entry_loss_db: Annotated[
        float | None, In("db"), Field(title="Loss into the building", ge=0, le=60)
    ] = None
    above_ground_m: Annotated[float | None, In("m"), length("Antenna above ground", 100)] = None
    stands_at: Annotated[Id | None, Ref("trial_spots", gone="cleared")] = None


class SatelliteFeed(Row):
    """One more satellite that a dish looks at: by a feed of its own, or by turning a motor."""

    table: ClassVar[Table] = Table("feed", "feed", "f")

    id: Id
    antenna: Annotated[Id, Ref("dishes", gone="with it")]
    target: Annotated[Id, Ref("targets", gone="with it")]
    placed_mm: Annotated[float | None, In("mm"), Field(title="Feed set at", ge=-3000, le=3000)] = (
        None
    )


class Preset(Row):
    """A zone of a maker's multi-satellite mount, as its sheet gives it: a name and a tilt."""

    table: ClassVar[Table] = Table("preset", "zone", "z")

    id: Id
    antenna: Annotated[Id, Ref("dishes", gone="with it")]
    name: Name
    tilt_deg: Annotated[float, In("deg"), Field(title="Tilt of the zone", ge=-180, le=180)]


class Sample(Evidence):
    """One reading while an axis is turned: where the screw or scale stood, what the meter said.

    `role` tells a sweep from the readings before and after a nut was tightened; `target` names the
    feed where a dish has several."""

    table: ClassVar[Table] = Table("sample", "reading", "q")

    id: Id
    antenna: Annotated[Id, Ref("dishes", "arrays", gone="with it")]
    target: Annotated[Id | None, Ref("targets", gone="with it")] = None
    axis: Literal["azimuth", "elevation", "skew"]
    position: Annotated[float, Field(title="Position", ge=-1000, le=1000)]
    unit: Literal["turn", "flat", "deg"] = "turn"
    reading: Annotated[float, Field(title="Reading", ge=-200, le=1000)]
    scale: Literal["db", "pct", "tone"] = "db"
    role: Literal["sweep", "before", "after"] = "sweep"


class FeedTry(Evidence):
    """One try of a feed's place on a dish that was not made for it."""

    table: ClassVar[Table] = Table("feed_try", "try", "y")

    id: Id
    antenna: Annotated[Id, Ref("dishes", gone="with it")]
    depth_mm: Annotated[
        float, In("mm"), Field(title="Feed back from the front stop", ge=-500, le=500)
    ]
    sideways_mm: Annotated[float, In("mm"), Field(title="Sideways", ge=-500, le=500)] = 0.0
    height_mm: Annotated[float, In("mm"), Field(title="Height", ge=-500, le=500)] = 0.0
    skew_deg: Annotated[float, In("deg"), Field(title="Skew", ge=-180, le=180)] = 0.0
    reading: Annotated[float, Field(title="Reading", ge=-200, le=1000)]
    channels: Annotated[int | None, Field(title="Channels found", ge=0, le=20_000)] = None
    note: Note = ""


class Lock(Evidence):
    """Whether the meter locked on something, and which name it read there, if any."""

    table: ClassVar[Table] = Table("lock", "lock", "k")

    id: Id
    antenna: Annotated[Id, Ref("dishes", "arrays", gone="with it")]
    frequency_mhz: Annotated[float, In("mhz"), Field(title="Frequency", ge=30, le=32000)]
    polarisation: Literal["H", "V", "L", "R"]
    symbol_mbd: Annotated[float, Field(title="Symbol rate", gt=0, le=600)]
    locked: bool = True
    identity: Name = ""
    target: Annotated[Id | None, Ref("targets", gone="with it")] = None


class TrialSpot(Evidence):
    """A spot where the antenna was held on site: where, how high, which way, tilted by how much."""

    table: ClassVar[Table] = Table("trial_spot", "spot", "d")

    id: Id
    antenna: Annotated[Id, Ref("arrays", gone="with it")]
    place: Name
    above_ground_m: Annotated[float | None, In("m"), length("Above ground", 100)] = None
    heading_deg: Annotated[float | None, In("deg_true"), Field(title="Heading", ge=0, le=360)] = (
        None
    )
    tilt_deg: Annotated[float, In("deg"), Field(title="Tilted up by", ge=-45, le=60)] = 0.0
    note: Note = ""


class TrialReading(Evidence):
    """What the meter said of one carrier at a spot: level, C/N or MER."""

    table: ClassVar[Table] = Table("trial_reading", "reading at a spot", "i")

    id: Id
    spot: Annotated[Id, Ref("trial_spots", gone="with it")]
    carrier: Annotated[Id, Ref("carriers", gone="with it")]
    level_dbuv: Annotated[float | None, In("dbuv"), Field(title="Level", ge=-60, le=150)] = None
    cn_db: Annotated[float | None, In("db"), Field(title="C/N or MER", ge=-20, le=80)] = None
