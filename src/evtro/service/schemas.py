"""What crosses the wire: views of a job, and patches that take typed text."""

from __future__ import annotations

from functools import partial
from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, WithJsonSchema, create_model

from evtro.core import job as model
from evtro.core.answers import Answers
from evtro.core.job import In, Job
from evtro.core.stations.handover.answer import StationLine

from .typing import read


class Closed(BaseModel):
    """A body without unknown fields."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class JobView(BaseModel):
    """A job as it is kept, with everything that is computed from it."""

    id: str
    revision: int
    kept_at: str
    undo: str | None
    redo: str | None
    job: Job
    answers: Answers
    notes: list[str] = []
    told: list[str] = []


class JobSummary(BaseModel):
    """A line of the jobs list. Without stations it is still to be worked out, or cannot be: then
    `broken` says why."""

    id: str
    revision: int
    kept_at: str
    name: str
    place: str
    date: str
    stations: list[StationLine] = []
    next: str = ""
    broken: str | None = None


class JobList(BaseModel):
    """A part of the list: how many there are in all, and how many of all are still worked out."""

    jobs: list[JobSummary]
    total: int
    waiting: int


class RemovedJob(BaseModel):
    """A removed job, which can be taken back until a day."""

    id: str
    name: str
    place: str
    removed_at: str
    until: str


class Clash(BaseModel):
    """A field that two people changed: what each wrote."""

    where: str
    field: str
    mine: str
    theirs: str
    table: str
    id: str
    column: str


class Refusal(BaseModel):
    """RFC 9457 problem details in the trade's words. A late write names the revision that is kept
    now, and the fields in conflict."""

    type: str = "about:blank"
    title: str
    status: int
    code: str
    field: str = ""
    detail: str = ""
    remedy: str = ""
    choices: list[str] = []
    revision: int | None = None
    clashes: list[Clash] = []


def patch_of(kind: type[model.Row], name: str, leave_out: tuple[str, ...] = ("id",)) -> type[Any]:
    """A model of the same fields, all optional; figures may come as typed text with units."""
    fields: dict[str, Any] = {}
    for key, info in kind.model_fields.items():
        if key in leave_out:
            continue
        unit = next((m.unit for m in info.metadata if isinstance(m, In)), None)
        annotation: Any = info.annotation
        optional = info.default is None
        if unit is not None:
            rules = [m for m in info.metadata if not isinstance(m, In)]
            accepted = [{"type": "number"}, {"type": "string", "maxLength": 80}]
            inner = _with_rules(float, rules) if not optional else annotation
            annotation = Annotated[
                inner,
                BeforeValidator(
                    partial(_typed, unit=unit, rules=list(info.metadata), optional=optional)
                ),
                In(unit),
                WithJsonSchema({"anyOf": accepted + ([{"type": "null"}] if optional else [])}),
            ]
        elif info.metadata:
            annotation = _with_rules(annotation, list(info.metadata))
        fields[key] = (annotation, Field(default=None, title=info.title))
    return create_model(name, __base__=Closed, **fields)


def _with_rules(annotation: Any, rules: list[Any]) -> Any:
    for rule in rules:
        annotation = Annotated[annotation, rule]
    return annotation


def _typed(value: Any, unit: Any, rules: list[Any], optional: bool) -> Any:
    if optional and isinstance(value, str) and not value.strip():
        return None
    return read(value, unit, rules)


SitePatch = patch_of(model.Site, "SitePatch")
OutletPatch = patch_of(model.Outlet, "OutletPatch")
TargetPatch = patch_of(model.Target, "TargetPatch", ("id", "kind"))
CarrierPatch = patch_of(model.Carrier, "CarrierPatch", ("id", "target", "frequency_mhz"))
ObstructionPatch = patch_of(model.Obstruction, "ObstructionPatch", ("id", "seen_from_m"))
SpotPatch = patch_of(model.Spot, "SpotPatch")
FeedPatch = patch_of(model.SatelliteFeed, "FeedPatch", ("id", "antenna", "target"))
PresetPatch = patch_of(model.Preset, "PresetPatch", ("id", "antenna"))
SamplePatch = patch_of(model.Sample, "SamplePatch", ("id", "antenna"))
TrialPatch = patch_of(model.Trial, "TrialPatch", ("id", "antenna"))
LockPatch = patch_of(model.Lock, "LockPatch", ("id", "antenna"))
BeamPatch = patch_of(model.Beam, "BeamPatch", ("id", "target", "boundary"))
RigPatch = patch_of(model.Rig, "RigPatch")
TerminalPatch = patch_of(model.Terminal, "TerminalPatch")
AntennaPatch = patch_of(model.Antenna, "AntennaPatch", ("id", "kind"))
MastPatch = patch_of(model.Mast, "MastPatch")
EarthPatch = patch_of(model.Earth, "EarthPatch")
ConductorPatch = patch_of(model.Conductor, "ConductorPatch", ("id", "role"))
LinkPatch = patch_of(
    model.Link, "LinkPatch", ("id", "from_part", "from_port", "to_part", "to_port")
)
ReadingPatch = patch_of(model.Reading, "ReadingPatch", ("id", "part", "carrier"))
HoldPatch = patch_of(model.Hold, "HoldPatch", ("id", "antenna"))
HeardBody = patch_of(model.Heard, "HeardBody", ("id", "hold", "carrier"))
ScanPatch = patch_of(model.Scan, "ScanPatch", ("id", "outlet"))
CompanyPatch = patch_of(model.Company, "CompanyPatch")
HandoverPatch = patch_of(model.Handover, "HandoverPatch")

Typed = Annotated[float | str, Field(union_mode="left_to_right")]


class NewJob(Closed):
    """The first words about a job."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    place: Annotated[str, Field(max_length=80)] = ""
    profile: str = "europe"


Typing = Annotated[str, Field(max_length=80)]


class NewHold(Closed):
    """A spot where the antenna is held; figures as typed, empty where the plan's counts."""

    place: Annotated[str, Field(min_length=1, max_length=80)]
    above_ground_m: Typing = ""
    heading_deg: Typing = ""
    tilt_deg: Typing = ""
    note: Annotated[str, Field(max_length=2000)] = ""


class NewScan(Closed):
    """A scan: names as they stand on the screen, parted by commas or lines."""

    found: Annotated[str, Field(max_length=60_000)]
    tuner: Literal["antenna", "cable"] = "antenna"
    note: Annotated[str, Field(max_length=2000)] = ""


class NewModel(Closed):
    """An antenna of the catalogue."""

    key: Annotated[str, Field(max_length=40)]


class NewFront(Closed):
    """A front end such as `none`, `preamp-13` or `filter-694+preamp-22`."""

    key: Annotated[str, Field(max_length=120)]


class NewSecond(Closed):
    """Headings of an antenna and of the second one beside it."""

    first_deg: Typing
    second_deg: Typing


class TakeSender(Closed):
    """A transmitter of the list by its name."""

    name: Annotated[str, Field(min_length=1, max_length=80)]


class HeadPatch(Closed):
    """Name, place, practice profile and date of a job."""

    name: Annotated[str, Field(min_length=1, max_length=80)] | None = None
    place: Annotated[str, Field(max_length=80)] | None = None
    profile: str | None = None
    date: Annotated[str, Field(max_length=10)] | None = None


class NewOutlet(Closed):
    """A new outlet."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    floor: Annotated[str, Field(max_length=80)] = ""
    terrestrial: bool = True
    satellite: bool = True


class NewTarget(Closed):
    """A satellite by its orbit, or a transmitter by its place. Figures as typed."""

    kind: Literal["satellite", "transmitter"]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    orbit: Annotated[str, Field(max_length=40)] = ""
    position: Annotated[str, Field(max_length=80)] = ""
    height_m: Annotated[str, Field(max_length=40)] = "150"


class NewCarrier(Closed):
    """A carrier; the frequency may be a channel, such as `ch 36`."""

    target: Annotated[str, Field(max_length=12)]
    name: Annotated[str, Field(max_length=80)]
    frequency: Annotated[str, Field(max_length=40)]
    bandwidth: Annotated[str, Field(max_length=40)]
    polarisation: Literal["H", "V", "L", "R"]
    power: Annotated[str, Field(max_length=40)]
    modulation: Annotated[str, Field(max_length=40)]


class CarrierFrequency(CarrierPatch):  # type: ignore[misc, valid-type]
    """A carrier's patch with its frequency as typed."""

    frequency: Annotated[str, Field(max_length=40)] | None = None


class NewObstruction(Closed):
    """One line such as `barn 212 224 11`: name, from, to, and top angle or `8m at 40m`."""

    line: Annotated[str, Field(min_length=1, max_length=120)]


class NewAntenna(Closed):
    """A dish or an array, for a target."""

    kind: Literal["dish", "array"]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    target: Annotated[str, Field(max_length=12)] | None = None


class NewSpot(Closed):
    """Another mounting place, its figures as typed: `12 m`, `3,5`."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    bearing_deg: Annotated[str, Field(max_length=40)] = "0"
    distance_m: Annotated[str, Field(max_length=40)] = "0"
    mount_height_m: Annotated[str, Field(max_length=40)] = ""
    cable_m: Annotated[str, Field(max_length=40)] = "10"


class NewFeed(Closed):
    """One more satellite for a dish."""

    target: Annotated[str, Field(max_length=12)]


class NewPreset(Closed):
    """A zone of a maker's mount, as its sheet gives it."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    tilt_deg: Annotated[str, Field(min_length=1, max_length=40)]


class NewSample(Closed):
    """A reading against the position of an axis, as typed."""

    axis: Literal["azimuth", "elevation", "skew"]
    position: Annotated[str, Field(min_length=1, max_length=40)]
    reading: Annotated[str, Field(min_length=1, max_length=40)]
    unit: Literal["turn", "flat", "deg"] = "turn"
    scale: Literal["db", "pct", "tone"] = "db"
    role: Literal["sweep", "before", "after"] = "sweep"
    target: Annotated[str, Field(max_length=12)] | None = None


class NewTrial(Closed):
    """A try of the feed's place, as typed."""

    depth_mm: Annotated[str, Field(max_length=40)] = "0"
    sideways_mm: Annotated[str, Field(max_length=40)] = "0"
    height_mm: Annotated[str, Field(max_length=40)] = "0"
    skew_deg: Annotated[str, Field(max_length=40)] = "0"
    reading: Annotated[str, Field(min_length=1, max_length=40)]
    channels: Annotated[str, Field(max_length=40)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""


class NewLock(Closed):
    """What the meter was asked for, and whether it locked."""

    frequency: Annotated[str, Field(min_length=1, max_length=40)]
    polarisation: Literal["H", "V", "L", "R"]
    symbol_mbd: Annotated[str, Field(min_length=1, max_length=40)]
    locked: bool = True
    identity: Annotated[str, Field(max_length=80)] = ""
    target: Annotated[str, Field(max_length=12)] | None = None


class ZeroReading(Closed):
    """What the tool shows on a satellite that is peaked."""

    reads: Annotated[str, Field(min_length=1, max_length=40)]


class CompassReading(Closed):
    """What the compass shows along a bearing that is known: of a landmark, the sun, a satellite."""

    reads: Annotated[str, Field(min_length=1, max_length=40)]
    bearing: Annotated[str, Field(min_length=1, max_length=40)]


class NewBeam(Closed):
    """A beam as its provider gives it, without a border."""

    target: Annotated[str, Field(max_length=12)]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    code: Annotated[str, Field(max_length=40)] = ""
    polarisation: Literal["H", "V", "L", "R"] = "L"
    least_esn0_db: Annotated[str, Field(max_length=40)] = ""


class NewStop(Closed):
    """The next place of a portable dish."""

    name: Annotated[str, Field(max_length=80)] = ""
    position: Annotated[str, Field(min_length=1, max_length=80)]


class QuickJob(Closed):
    """A job with nothing but a place, a satellite and a dish."""

    position: Annotated[str, Field(min_length=1, max_length=80)]
    orbit: Annotated[str, Field(min_length=1, max_length=40)]
    satellite: Annotated[str, Field(max_length=80)] = ""
    diameter_m: Annotated[str, Field(max_length=40)] = "0.6"
    offset_deg: Annotated[str, Field(max_length=40)] = "25"
    kind: Literal["tripod", "vehicle"] = "tripod"
    profile: str = "europe"


class NewConductor(Closed):
    """A conductor for one of the school's rules."""

    role: Annotated[str, Field(max_length=40)]


class NewSource(Closed):
    """Where a run begins."""

    antenna: Annotated[str, Field(max_length=12)]
    type: Annotated[str, Field(max_length=40)]


class NewPart(Closed):
    """A part to put behind another. `port` None means the first free output."""

    type: Annotated[str, Field(max_length=40)]
    outlet: Annotated[str, Field(max_length=12)] | None = None
    port: Annotated[int, Field(ge=0, le=63)] | None = None
    cable: Annotated[str, Field(max_length=40)] = "rg6"
    length_m: Annotated[str, Field(max_length=40)] = "0.5"


class NewJoin(Closed):
    """A cable from a part's free output to another part's free input."""

    to: Annotated[str, Field(max_length=12)]
    to_port: Annotated[int, Field(ge=0, le=63)] | None = None
    cable: Annotated[str, Field(max_length=40)] = "rg6"
    length_m: Annotated[str, Field(max_length=40)] = "0.5"


_Setting = patch_of(
    model.Part, "PartSetting", tuple(model.Part.model_fields.keys() - {"setting_db"})
)


class PartPatch(_Setting):  # type: ignore[misc, valid-type]
    """Another type, name or setting for a part."""

    type: Annotated[str, Field(max_length=40)] | None = None
    name: Annotated[str, Field(max_length=80)] | None = None


class MarkPatch(Closed):
    """What was done at a step."""

    done: bool | None = None
    danger_read: bool | None = None
    value: Annotated[str, Field(max_length=40)] | None = None
    note: Annotated[str, Field(max_length=2000)] | None = None
