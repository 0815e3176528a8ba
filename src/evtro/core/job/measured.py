"""What was read on site in the place of what was planned. Answers use the reading; the plan stays as it
was typed, and where the two differ by more than the tools do it is said, once and in one way."""

from __future__ import annotations

import threading
from collections import deque
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from pydantic import ValidationError

from ..units.quantities import Phrase, Quantity, Unit, gauge
from . import Job
from .changes import Set
from .problems import Problem
from .words import in_words

OVERHEAD = "site.overhead"  # the step at which overhead lines are looked for
PLUMB_DEG = 0.5  # a mast this upright counts as upright; common practice, no source


def moved(job: Job) -> Job:
    """A job whose mount stands elsewhere: how far a line is away is to be measured anew, and whoever looked
    looked at another place."""
    update: dict[str, Any] = {}
    if any(m.step == OVERHEAD for m in job.marks):
        update["marks"] = tuple(m for m in job.marks if m.step != OVERHEAD)
    if job.earth.overhead_lines == "near" and job.earth.line_distance_m is not None:
        update["earth"] = job.earth.model_copy(update={"line_distance_m": None})
    return job.model_copy(update=update) if update else job


@dataclass(frozen=True)
class OnSite:
    """A figure that was read at a step: of which cell it is the measure, what was planned there, and how
    far the two may lie apart, in `unit`."""

    station: str
    rows: str
    id: str | None
    column: str
    what: str
    value: float
    planned: float | None
    unit: Unit
    within: float


def on_site(job: Job) -> tuple[OnSite, ...]:
    """Every figure that was read at a step and belongs to a cell of the plan."""
    read = {m.step: m.value for m in job.marks if m.value is not None}
    found: list[OnSite] = []

    def add(
        step: str,
        station: str,
        rows: str,
        row: Any,
        *,
        column: str,
        what: str,
        unit: Unit,
        within: float,
    ) -> None:
        value = read.get(step)
        if value is not None:
            found.append(
                OnSite(
                    station=station,
                    rows=rows,
                    id=getattr(row, "id", None),
                    column=column,
                    what=what,
                    value=value,
                    planned=getattr(row, column),
                    unit=unit,
                    within=within,
                )
            )

    for row in job.obstructions:
        add(
            f"sky.{row.id}",
            "sky",
            "obstructions",
            row,
            column="top_deg",
            what=f"top of {row.name}",
            unit="deg",
            within=1.0,
        )
    add(
        "mast.brackets",
        "mast",
        "mast",
        job.mast,
        column="held_m",
        what="length that is held",
        unit="m",
        within=0.05,
    )
    if job.rig.kind == "none":
        for dish in job.dishes:
            add(
                "mast.plumb",
                "aim",
                "dishes",
                dish,
                column="lean_deg",
                what=f"lean of the mast of {dish.name}",
                unit="deg",
                within=PLUMB_DEG,
            )
    add(
        "rig.level",
        "aim",
        "rig",
        job.rig,
        column="base_level_deg",
        what="base off level",
        unit="deg",
        within=0.5,
    )
    if job.rig.kind == "vehicle":
        add(
            "rig.place",
            "aim",
            "rig",
            job.rig,
            column="gap_mm",
            what="gap under the base",
            unit="mm",
            within=1.0,
        )
    if job.company.plan != "none":
        add(
            "coax.company-noise",
            "coax",
            "company",
            job.company,
            column="return_noise_dbuv",
            what="return noise of the company's line",
            unit="dbuv",
            within=3.0,
        )
    for dish in job.dishes:
        if dish.two_way:
            add(
                f"aim.{dish.id}.null",
                "aim",
                "terminal",
                job.terminal,
                column="isolation_db",
                what="isolation",
                unit="db",
                within=1.0,
            )
    return tuple(found)


def check_read(job: Job) -> None:
    """Raise InputError for a figure that was read at a step and that its cell of the plan cannot hold."""
    for f in on_site(job):
        rows = getattr(job, f.rows)
        row = next(r for r in rows if r.id == f.id) if isinstance(rows, tuple) else rows
        try:
            type(row).model_validate({**row.model_dump(), f.column: f.value})
        except ValidationError as error:
            raise in_words(error, type(row))[0] from error


def as_measured(job: Job, found: tuple[OnSite, ...]) -> Job:
    """The job with what was read in the place of what was planned. Rows that nothing was read of stay the
    same objects, and the same readings of the same rows give the same objects again."""
    update: dict[str, Any] = {}
    for rows in {f.rows for f in found}:
        mine = tuple(f for f in found if f.rows == rows and f.value != f.planned)
        if mine:
            update[rows] = _with(getattr(job, rows), mine)
    return job.model_copy(update=update) if update else job


_lock = threading.Lock()
_kept: deque[tuple[object, tuple[OnSite, ...], object]] = deque(maxlen=64)


def _with(rows: Any, found: tuple[OnSite, ...]) -> object:
    with _lock:
        known = next((made for was, by, made in _kept if was is rows and by == found), None)
    if known is not None:
        return known
    made: object
    if isinstance(rows, tuple):
        made = tuple(_read(row, tuple(f for f in found if f.id == row.id)) for row in rows)
    else:
        made = _read(rows, found)
    with _lock:
        _kept.append((rows, found, made))
    return made


def _read(row: Any, found: tuple[OnSite, ...]) -> Any:
    return row.model_copy(update={f.column: f.value for f in found}) if found else row


@lru_cache(maxsize=256)
def told(found: tuple[OnSite, ...], station: str) -> tuple[Problem, ...]:
    """What was read otherwise than planned at a station."""
    problems = []
    for f in found:
        off = 0.0 if f.planned is None else abs(f.value - f.planned)
        if f.station != station or off <= f.within:
            continue
        read, planned = Quantity(f.value, f.unit), Quantity(f.planned or 0.0, f.unit)
        what: Phrase = (f"{f.what[0].upper()}{f.what[1:]}: read ", read, ", planned ", planned)
        problems.append(
            Problem(
                code="read-otherwise",
                station=station,
                state="marginal",
                place=f.what,
                title=what,
                gauge=gauge(off, f.unit, high=f.within),
                limit=("at most ", Quantity(f.within, f.unit), " apart"),
                origin="what such a reading is good to; common practice, no source",
                remedy=(
                    "What was read is reckoned with. Read it once more, or take it into the plan.",
                ),
                change=Set(rows=f.rows, id=f.id or "", values={f.column: f.value}),
                effect=("plans with ", read),
                ref=f.id,
            )
        )
    return tuple(problems)
