"""What crosses the wire: views of a job, and patches that take typed text."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from evtro.core.job import Job
from evtro.core.job.changes import Tick
from evtro.core.job.parts import Catalogue
from evtro.core.job.stock import Stock
from evtro.core.stations.aim.answer import AimAnswer
from evtro.core.stations.coax.views.answer import CoaxView, PartDetail
from evtro.core.stations.earth.answer import EarthAnswer
from evtro.core.stations.handover.answer import HandoverAnswer, StationLine
from evtro.core.stations.mast.answer import MastAnswer
from evtro.core.stations.readings.answer import ReadingsAnswer
from evtro.core.stations.site.answer import SiteAnswer
from evtro.core.stations.sky.answer import SkyAnswer
from evtro.core.units.quantities import Phrase, Step
from evtro.core.units.severity import State

MOST_WAITED = 100


class Closed(BaseModel):
    """A body without unknown fields."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class JobHead(BaseModel):
    """A job as it is kept, with the units of its regional profile. `named` holds the ids of rows that the change
    just made added under names."""

    id: str
    revision: int
    kept_at: str
    undo: str | None
    redo: str | None
    units: Literal["metric", "us"]
    level: Literal["dbuv", "dbmv", "dbm"]
    job: Job
    notes: list[str] = []
    told: list[str] = []
    named: dict[str, str] = {}


class AnswersView(BaseModel):
    """What is computed from a job: what the header `Evtro-Include` names, everything without it. The
    spine and the states of the outlets are always there."""

    stations: list[StationLine]
    outlets: dict[str, State]
    site: SiteAnswer | None = None
    sky: SkyAnswer | None = None
    aim: AimAnswer | None = None
    mast: MastAnswer | None = None
    earth: EarthAnswer | None = None
    coax: CoaxView | None = None
    readings: ReadingsAnswer | None = None
    handover: HandoverAnswer | None = None
    steps: dict[str, list[Step]] | None = None
    part: PartDetail | None = None
    stock: Stock | None = None


def answer_types() -> dict[str, Any]:
    """The type of each answer, by its name."""
    return {name: field.annotation for name, field in AnswersView.model_fields.items()}


class JobView(JobHead):
    """A job as it is kept, with what is computed from it."""

    answers: AnswersView


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
    next: Phrase = ()
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
    """RFC 9457 problem details in the trade's words, reason and remedy also with their quantities, for
    whoever reads in other units. A late write names the revision that is kept
    now, and the fields in conflict."""

    type: str = "about:blank"
    title: str
    status: int
    code: str
    field: str = ""
    detail: str = ""
    remedy: str = ""
    detail_said: Phrase = ()
    remedy_said: Phrase = ()
    choices: list[str] = []
    revision: int | None = None
    clashes: list[Clash] = []


class Waited(Closed):
    """A step that was done on a device while nobody answered, under the key that counts it once."""

    key: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,64}$")]
    change: Tick


class Outbox(Closed):
    """What waits on a device, in the order in which it was done."""

    entries: Annotated[tuple[Waited, ...], Field(min_length=1, max_length=MOST_WAITED)]


class OutboxTaken(BaseModel):
    """The job after the entries that were looked at, and for each of them why it was refused, or null. Fewer than
    were sent where one met another device's change or the program got into trouble: the rest is sent again."""

    view: JobView
    refused: list[Refusal | None]


class NewJob(Closed):
    """The first words about a job."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    place: Annotated[str, Field(max_length=80)] = ""
    profile: str = "europe"


class CatalogueView(Catalogue):
    """The workshop's catalogue; `cable_curves` are pairs of MHz and what 50 m of a cable give [dB]."""

    cable_curves: dict[str, list[tuple[float, float]]]


Typing = Annotated[str, Field(max_length=80)]


class TakeSender(Closed):
    """A transmitter of the list by its name."""

    name: Annotated[str, Field(min_length=1, max_length=80)]


class QuickJob(Closed):
    """A job with nothing but a place, a satellite and a dish."""

    position: Annotated[str, Field(min_length=1, max_length=80)]
    orbit: Annotated[str, Field(min_length=1, max_length=40)]
    satellite: Annotated[str, Field(max_length=80)] = ""
    diameter_m: Annotated[str, Field(max_length=40)] = "0.6"
    offset_deg: Annotated[str, Field(max_length=40)] = "25"
    kind: Literal["tripod", "vehicle"] = "tripod"
    profile: str = "europe"
