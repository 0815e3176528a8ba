"""The workshop: generic parts, cables and antennas, and the installer's own sheets in their place."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Path
from fastapi.responses import Response
from pydantic import BaseModel, Field

from evtro import catalogue
from evtro.core.job.changes import Change
from evtro.core.units.severity import State
from evtro.core.workshop import (
    OwnSheet,
    SheetCurve,
    SheetLine,
    Shelf,
    copied,
    curves_of,
    data_of,
    lines_of,
    retyped,
)
from evtro.core.workshop.sheets import known
from evtro.formats import sheets as files

from ..common import READ, AtDesk, RawBody, body_of, download, file_of
from ..job_service import JobService

router = APIRouter(prefix="/api/workshop", tags=["workshop"])
Key = Annotated[str, Path(pattern=r"^[a-z0-9][a-z0-9.-]*$", max_length=40)]
MOST_JOBS = 12  # that are worked out for what a sheet would change in them


@dataclass(frozen=True)
class ShelfLine:
    """What is said of a part, cable or antenna beside its data."""

    shelf: Shelf
    key: str
    own: bool
    origin: str
    of_date: dt.date
    jobs: int


@dataclass(frozen=True)
class Shelves:
    """All of them."""

    lines: list[ShelfLine]


@dataclass(frozen=True)
class JobUse:
    """A job that uses it: with these figures, or with older ones that `change` brings up to date; its
    outlets that are in, now and with it."""

    job: str
    name: str
    revision: int
    older: bool
    change: Change | None
    inside: int
    inside_then: int
    wanted: int
    state: State
    state_then: State


@dataclass(frozen=True)
class SheetView:
    """A sheet: its lines, where it comes from, what it was made from, who uses it."""

    shelf: Shelf
    key: str
    name: str
    own: bool
    base: str
    base_name: str
    origin: str
    of_date: dt.date
    typed: int
    lines: list[SheetLine]
    curves: list[SheetCurve]
    jobs: list[JobUse]


class NewSheet(BaseModel):
    """A name for a copy."""

    name: Annotated[str, Field(max_length=80)]


class TypedLine(BaseModel):
    """A line as somebody typed it; `origin` is a line of every sheet."""

    field: Annotated[str, Field(max_length=60)]
    text: Annotated[str, Field(max_length=4000)]


@router.get("", response_model=Shelves, responses=READ)
def shelves(desk: AtDesk) -> Shelves:
    """What is at hand: which are own sheets, and in how many jobs each is used."""
    own = {(s.shelf, s.key): s for s in desk.library.sheets()}
    used = desk.library.in_jobs()
    found = []
    for shelf in ("part", "cable", "array"):
        for key in known(desk.shop, shelf):
            sheet = own.get((shelf, key))
            found.append(
                ShelfLine(
                    shelf=shelf,
                    key=key,
                    own=sheet is not None,
                    origin=sheet.origin if sheet else desk.shop.origin,
                    of_date=sheet.of_date if sheet else desk.shop.of_date,
                    jobs=len(used.get((shelf, key), ())),
                )
            )
    return Shelves(found)


@router.get("/sheets.json", response_class=Response, responses=file_of("application/json"))
def sheets_json(desk: AtDesk) -> Response:
    """The own sheets as JSON, whole."""
    return download(files.write_json(desk.library.sheets()), "application/json", "sheets.json")


@router.get("/sheets.csv", response_class=Response, responses=file_of("text/csv"))
def sheets_csv(desk: AtDesk) -> Response:
    """The own sheets as CSV."""
    return download(files.write_csv(desk.library.sheets()), "text/csv", "sheets.csv")


@router.post("", response_model=Shelves, responses=READ, openapi_extra=body_of("text/csv"))
def import_sheets(desk: AtDesk, body: RawBody) -> Shelves:
    """Take sheets in, JSON or CSV; one of the same key is replaced. All or none."""
    desk.library.keep_sheets(files.read(body, desk.shop, desk.today()))
    desk.refit()
    return shelves(desk)


@router.get("/{shelf}/{key}", response_model=SheetView, responses=READ)
def sheet_of(desk: AtDesk, shelf: Shelf, key: Key) -> SheetView:
    """One of them, with the jobs that use it."""
    return _view(desk, shelf, key)


@router.post("/{shelf}/{key}", response_model=SheetView, responses=READ, status_code=201)
def copy_sheet(desk: AtDesk, shelf: Shelf, key: Key, body: NewSheet) -> SheetView:
    """A new sheet with the figures of this one."""
    made = copied(desk.shop, shelf, key, name=body.name, today=desk.today())
    desk.library.keep_sheets([made])
    desk.refit()
    return _view(desk, shelf, made.key)


@router.patch("/{shelf}/{key}", response_model=SheetView, responses=READ)
def type_line(desk: AtDesk, shelf: Shelf, key: Key, body: TypedLine) -> SheetView:
    """Type over a line. A generic one becomes a sheet of one's own; what is not typed stays generic."""
    old = _own(desk, shelf, key)
    now = old or OwnSheet(
        shelf, data_of(desk.shop, shelf, key), base=key, origin="own sheet", of_date=desk.today()
    )
    if body.field == "origin":
        now = OwnSheet(
            shelf, now.data, base=now.base, origin=body.text.strip()[:200], of_date=desk.today()
        )
    else:
        data = retyped(shelf, now.data, field=body.field, text=body.text)
        now = OwnSheet(shelf, data, base=now.base, origin=now.origin, of_date=desk.today())
    desk.library.keep_sheets([now])
    desk.refit()
    return _view(desk, shelf, key)


@router.delete("/{shelf}/{key}", response_model=Shelves, responses=READ)
def drop_sheet(desk: AtDesk, shelf: Shelf, key: Key) -> Shelves:
    """Take an own sheet away: the generic one stands in its place again, or nothing. Jobs keep the
    figures that they were planned with."""
    desk.library.drop_sheet(shelf, key)
    desk.refit()
    return shelves(desk)


def _own(desk: JobService, shelf: Shelf, key: str) -> OwnSheet | None:
    return next((s for s in desk.library.sheets() if (s.shelf, s.key) == (shelf, key)), None)


def _view(desk: JobService, shelf: Shelf, key: str) -> SheetView:
    own, data = _own(desk, shelf, key), data_of(desk.shop, shelf, key)
    base_key = own.base if own else key
    # An own sheet in place of a generic one was made from the generic one.
    shop = catalogue.load() if base_key == key else desk.shop
    base = known(shop, shelf).get(base_key)
    lines = lines_of(data, base)
    return SheetView(
        shelf=shelf,
        key=key,
        name=data.name,
        own=own is not None,
        base=base_key,
        base_name=base.name if base else "",
        origin=own.origin if own else desk.shop.origin,
        of_date=own.of_date if own else desk.shop.of_date,
        typed=sum(x.own for x in lines),
        lines=lines,
        curves=curves_of(data, base),
        jobs=_uses(desk, shelf, key),
    )


def _uses(desk: JobService, shelf: Shelf, key: str) -> list[JobUse]:
    found = []
    for job_id in desk.library.in_jobs().get((shelf, key), ())[:MOST_JOBS]:
        kept = desk.jobs.get(job_id)
        answers = desk.answers(kept)
        newer = next(
            (n for n in answers.stock.newer if n.rows == f"{shelf}_data" and n.key == key), None
        )
        now = answers.coax.verdict
        then = desk.tried(kept.job, newer.change).coax.verdict if newer else now
        found.append(
            JobUse(
                job=job_id,
                name=kept.job.name,
                revision=kept.revision,
                older=newer is not None,
                change=newer.change if newer else None,
                inside=now.inside,
                inside_then=then.inside,
                wanted=now.wanted,
                state=now.state,
                state_then=then.state,
            )
        )
    return found
