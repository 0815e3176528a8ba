"""What is built: mast, earth, the run, readings, marks and the handover."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from .base import Evidence, Id, In, Latitude, Longitude, Name, Note, Ref, Row, Table, length

# What was found behind a wall where a hole is to be.
Behind = Literal["unknown", "clear", "stud", "service"]


class Mast(Row):
    """The tube and how it is held."""

    table: ClassVar[Table] = Table("mast", "mast")

    length_m: Annotated[float, In("m"), length("Tube length", 40, 0.2)] = 3.0
    held_m: Annotated[float, In("m"), length("Held between brackets", 20)] = 0.8
    outer_mm: Annotated[float, In("mm"), Field(title="Tube diameter", ge=15, le=300)] = 48.0
    wall_mm: Annotated[float, In("mm"), Field(title="Tube wall", ge=0.8, le=20)] = 3.0
    yield_mpa: Annotated[float, In("mpa"), Field(title="Yield strength", ge=80, le=700)] = 235.0
    moment_limit_nm: Annotated[
        float | None, In("nm"), Field(title="Mount's own limit", ge=10, le=100_000)
    ] = None
    wind_ms: Annotated[float | None, In("ms"), Field(title="Design wind speed", ge=5, le=90)] = None
    wind_region: Annotated[str, Field(title="Wind region", max_length=40)] = ""
    fixing: Literal[
        "wall", "eave", "balcony", "chimney", "roof", "jpole", "pole", "ballast", "loft"
    ] = "wall"
    base: Literal["unknown", "concrete", "brick", "block", "timber", "metal", "render"] = "unknown"
    bolts: Annotated[int, Field(title="Bolts at each bracket", ge=1, le=16)] = 4
    bolt_mm: Annotated[float, In("mm"), Field(title="Bolt", ge=4, le=30)] = 8.0
    bolt_pull_n: Annotated[
        float | None, In("n"), Field(title="A bolt bears, pulled", ge=10, le=200_000)
    ] = None
    bolt_shear_n: Annotated[
        float | None, In("n"), Field(title="A bolt bears, across", ge=10, le=200_000)
    ] = None
    standoff_m: Annotated[float, In("m"), length("Mast off the wall", 2)] = 0.2
    bolts_apart_m: Annotated[float, In("m"), length("Bolts apart, sideways", 2, 0.02)] = 0.2
    rows_apart_m: Annotated[float, In("m"), length("Bolts apart, upright", 2, 0.02)] = 0.2
    bolt_torque_nm: Annotated[
        float | None, In("nm"), Field(title="Torque of the bolts", ge=0.5, le=2_000)
    ] = None
    behind: Behind = "unknown"
    ballast_kg: Annotated[float, In("kg"), Field(title="Ballast", ge=0, le=5_000)] = 0.0
    foot_m: Annotated[float, In("m"), length("Side of the foot", 6, 0.2)] = 1.0
    buried_m: Annotated[float, In("m"), length("Pole in the ground", 5, 0.1)] = 0.8
    footing_mm: Annotated[float, In("mm"), Field(title="Footing, across", ge=50, le=3_000)] = 300.0
    crew: Annotated[int, Field(title="Crew", ge=1, le=6)] = 1
    guys: Annotated[int, Field(title="Guys", ge=0, le=4)] = 0
    guy_m: Annotated[float, In("m"), length("Guys above the upper bracket", 40)] = 0.0
    guy_out_m: Annotated[float, In("m"), length("Guys anchored away", 40, 0.1)] = 2.0
    guy_mm: Annotated[float, In("mm"), Field(title="Guy rope", ge=2, le=16)] = 4.0
    guy_base: Literal["unknown", "concrete", "brick", "block", "timber", "metal", "ground"] = (
        "unknown"
    )
    guy_anchor_n: Annotated[
        float | None, In("n"), Field(title="A guy's anchor bears", ge=10, le=200_000)
    ] = None
    ice_mm: Annotated[float, In("mm"), Field(title="Ice", ge=0, le=100)] = 0.0


class Earth(Row):
    """Where the antennas stand to the roof, and what hangs near by."""

    table: ClassVar[Table] = Table("earth", "earth")

    indoors: bool = False
    below_roof_edge_m: Annotated[float, In("m"), length("Below the roof edge", 100)] = 0.0
    from_wall_m: Annotated[float, In("m"), length("Out from the wall", 100)] = 0.0
    overhead_lines: Literal["unknown", "none", "near", "dead"] = "unknown"
    line_distance_m: Annotated[float | None, In("m"), length("Overhead line away", 2000)] = None
    line_kv: Annotated[float | None, In("kv"), Field(title="Its voltage", ge=0.05, le=1200)] = None
    line_operator: Annotated[Name, Field(title="Who made it dead")] = ""
    line_dead_confirmed: Annotated[Name, Field(title="Who confirmed that it is dead")] = ""
    electrode: Literal["own", "building"] = "own"
    electrode_kind: Literal["unknown", "rod", "horizontal", "foundation", "plate"] = "unknown"
    electrode_m: Annotated[float | None, In("m"), length("Electrode, each", 200, 0.1)] = None
    electrode_count: Annotated[int, Field(title="Electrodes", ge=1, le=20)] = 1
    electrode_ohm: Annotated[
        float | None, In("ohm"), Field(title="Electrode to earth", ge=0, le=100_000)
    ] = None
    soil_ohm_m: Annotated[
        float | None, In("ohmm"), Field(title="Resistivity of the ground", ge=1, le=100_000)
    ] = None
    lps: Literal["none", "there"] = "none"
    lps_apart_m: Annotated[float | None, In("m"), length("From the lightning protection", 100)] = (
        None
    )


class Conductor(Row):
    """An earthing or bonding conductor as planned or found. It begins at a part, or at a bar that joins all
    that its role is for; or it goes on from another one, `after` it."""

    table: ClassVar[Table] = Table("conductor", "conductor", "e")

    id: Id
    role: Annotated[str, Field(max_length=40)]
    material: Literal["copper", "aluminium", "steel", "copper_clad_steel"] = "copper"
    size_mm2: Annotated[float, In("mm2"), Field(title="Conductor size", ge=0.1, le=500)]
    length_m: Annotated[float, In("m"), length("Conductor length", 500)]
    connected: bool = False
    part: Annotated[Id | None, Ref("parts", gone="with it")] = None
    after: Annotated[Id | None, Ref("conductors", gone="cleared")] = None
    begins: Annotated[Name, Field(title="From")] = ""
    ends: Annotated[Name, Field(title="To")] = ""
    bends: Annotated[int, Field(title="Bends", ge=0, le=60)] = 0


class Part(Row):
    """A device in the run. A source names its antenna, a wall plate its outlet."""

    table: ClassVar[Table] = Table("part", "part", "p")

    id: Id
    type: Annotated[str, Field(max_length=40)]
    name: Name = ""
    antenna: Annotated[Id | None, Ref("dishes", "arrays", gone="with it")] = None
    outlet: Annotated[Id | None, Ref("outlets", gone="with it")] = None
    target: Annotated[Id | None, Ref("targets", gone="cleared")] = None
    setting_db: Annotated[float | None, In("db"), Field(title="Setting", ge=0, le=60)] = None
    variant: Annotated[Name, Field(title="Variant")] = ""


Lies = Literal[
    "mast",
    "roof",
    "loft",
    "wall",
    "down",
    "hole",
    "riser",
    "duct",
    "ground",
    "indoors",
    "loop",
    "slack",
]
# where a stretch of cable lies, and how long it is [m]
Route = tuple[tuple[Lies, Annotated[float, Field(ge=0.01, le=1000)]], ...]


class Cable(Row):
    """A cable from an output to an input. Ports count from 0. With a route its length is that of the
    stretches together."""

    table: ClassVar[Table] = Table("link", "cable", "l")

    id: Id
    from_part: Annotated[Id, Ref("parts", gone="with it")]
    from_port: Annotated[int, Field(ge=0, le=63)] = 0
    to_part: Annotated[Id, Ref("parts", gone="with it")]
    to_port: Annotated[int, Field(ge=0, le=63)] = 0
    cable: Annotated[str, Field(max_length=40)]
    length_m: Annotated[float, In("m"), length("Cable length", 1000)]
    note: Annotated[str, Field(max_length=200)] = ""
    celsius: Annotated[float, Field(title="Hottest, °C", ge=-40, le=90)] = 20.0
    route: Annotated[Route, Field(title="Route", max_length=24)] = ()
    behind: Behind = "unknown"


class Reading(Evidence):
    """What the meter said at a part's output, one row for each carrier."""

    table: ClassVar[Table] = Table("reading", "reading", "r")

    id: Id
    part: Annotated[Id, Ref("parts", gone="with it")]
    carrier: Annotated[Id, Ref("carriers", gone="with it")]
    level_dbuv: Annotated[float | None, In("dbuv"), Field(title="Level", ge=-60, le=150)] = None
    cn_db: Annotated[float | None, In("db"), Field(title="C/N or MER", ge=-20, le=80)] = None


class TaskRecord(Evidence):
    """A step that was ticked at a time and by whom, what was measured in which unit, and a note; without a
    time it is not ticked. `left_why` says why it was left as it is. Who confirmed its danger, and when; how long
    it takes whoever does it here [min]."""

    table: ClassVar[Table] = Table("mark", "tick", "m")

    id: Id
    step: Annotated[str, Field(max_length=60)]
    danger_read: bool = False
    confirmed_by: Name = ""
    confirmed_at: Annotated[str, Field(max_length=40)] = ""
    value: Annotated[float | None, Field(title="It reads", ge=-1e6, le=1e6)] = None
    note: Note = ""
    done_by: Name = ""
    left_why: Annotated[str, Field(title="Left, because", max_length=200)] = ""
    unit: Annotated[str, Field(max_length=12)] = ""
    minutes: Annotated[float | None, Field(title="Takes, minutes", ge=1, le=2_880)] = None


class ThingSeen(Evidence):
    """What was seen of one thing at a step: a fastener, a line of the kit."""

    table: ClassVar[Table] = Table("seen", "thing seen", "x")

    id: Id
    step: Annotated[str, Field(max_length=60)]
    thing: Annotated[str, Field(max_length=60)]
    state: Literal["loose", "snug", "tight", "there", "damaged", "missing", "wrong"]
    torque_nm: Annotated[float | None, In("nm"), Field(title="Tightened with", ge=0, le=2_000)] = (
        None
    )
    note: Annotated[str, Field(max_length=200)] = ""
    seen_by: Name = ""


class Photo(Evidence):
    """A photograph of a step. Its file lies beside the data by the hash of what is in it."""

    table: ClassVar[Table] = Table("photo", "photo", "u")

    id: Id
    step: Annotated[str, Field(max_length=60)]
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$", max_length=64)]
    width_px: Annotated[int, Field(ge=1, le=4096)]
    height_px: Annotated[int, Field(ge=1, le=4096)]
    taken_by: Name = ""
    note: Annotated[str, Field(max_length=200)] = ""
    latitude_deg: Annotated[Latitude | None, Field(title="Latitude")] = None
    longitude_deg: Annotated[Longitude | None, Field(title="Longitude")] = None


class Handover(Row):
    """Who hands over what to whom."""

    table: ClassVar[Table] = Table("handover", "handover")

    customer: Name = ""
    installer: Name = ""
    remarks: Note = ""
    handed_over: bool = False


class Scan(Evidence):
    """A scan at an outlet: to what the tuner was set, and the names that it found."""

    table: ClassVar[Table] = Table("scan", "scan", "n")

    id: Id
    outlet: Annotated[Id, Ref("outlets", gone="with it")]
    tuner: Literal["antenna", "cable"] = "antenna"
    found: Annotated[tuple[Name, ...], Field(title="Found", max_length=600)] = ()
    note: Note = ""


class RunSchool(Row):
    """How the run is built where practitioners differ: what becomes of ports that nothing is joined to,
    of spare cable, and what a connector is tightened with."""

    table: ClassVar[Table] = Table("run_school", "school of the run")

    open_ports: Literal["capped", "left"] = "capped"
    slack: Literal["loop", "short", "coil"] = "loop"
    connectors: Literal["by_place", "spanner", "fingers"] = "by_place"


class Company(Row):
    """The line of a cable company at the house: what becomes of it, and what was read there."""

    table: ClassVar[Table] = Table("company", "cable company's line")

    plan: Literal["none", "leave", "both"] = "none"
    low_mhz: Annotated[float, In("mhz"), Field(title="Lowest carrier", ge=5, le=1800)] = 114.0
    high_mhz: Annotated[float, In("mhz"), Field(title="Highest carrier", ge=5, le=1800)] = 802.0
    low_dbuv: Annotated[float | None, In("dbuv"), Field(title="Level there", ge=-20, le=130)] = None
    high_dbuv: Annotated[
        float | None, In("dbuv"), Field(title="Level at the top", ge=-20, le=130)
    ] = None
    return_noise_dbuv: Annotated[
        float | None, In("dbuv"), Field(title="Worst return noise", ge=-40, le=120)
    ] = None
    watched_s: Annotated[float | None, Field(title="Watched for, s", ge=0, le=3600)] = None
    mer_db: Annotated[float | None, In("db"), Field(title="MER at the drop", ge=0, le=60)] = None
    return_high_mhz: Annotated[
        float, In("mhz"), Field(title="Return band up to", ge=10, le=205)
    ] = 65.0
    return_most_db: Annotated[
        float, In("db"), Field(title="Most loss back to the drop", ge=0, le=60)
    ] = 15.0
    unplugged: bool = False
    lines_known: bool = False
    filter_fitted: bool = False
    note: Note = ""
