"""Between what a job carries of its parts and limits and what the workshop has of them."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from . import Job
from .changes import Change, Set, Several
from .parts import Catalogue
from .profile import Profile
from .registry import registry
from .sheets import ArrayData, CableData, Carried, LimitData, PartData

OWN_LIMITS = "own limits of this job"
_KINDS = registry(Job)
_MODELS: dict[str, type[Carried]] = {
    "part_data": PartData,
    "cable_data": CableData,
    "array_data": ArrayData,
    "limit_data": LimitData,
}


def stocked(job: Job, shop: Catalogue) -> Catalogue:
    """The workshop's catalogue with the job's own data in place of the workshop's."""
    if not (job.part_data or job.cable_data or job.array_data):
        return shop
    return shop.model_copy(
        update={
            "parts": _with(shop.parts, job.part_data),
            "cables": _with(shop.cables, job.cable_data),
            "antennas": _with(shop.antennas, job.array_data),
        }
    )


def limits(job: Job, shop: Profile) -> Profile:
    """The limits that the job carries of its profile; the workshop's where it carries none."""
    return next((row.data for row in job.limit_data if row.key == job.profile), shop)


def carrying(job: Job, shop: Catalogue, profile: Profile) -> Job:
    """The job with the data of all that it uses: what it lacks is taken from the workshop, what is no
    longer used and the workshop has as well is let go. What it carries already stays as it is."""
    found: dict[str, tuple[Carried, ...]] = {}
    used = {
        "part_data": {p.type for p in job.parts},
        "cable_data": {k.cable for k in job.links},
        "array_data": {a.model for a in job.arrays},
        "limit_data": {job.profile},
    }
    for shelf in _shelves(shop, profile):
        rows = getattr(job, shelf.rows)
        made = _carried(shelf, rows, used[shelf.rows])
        if made != rows:
            found[shelf.rows] = made
    return job.model_copy(update=found) if found else job


@dataclass(frozen=True)
class _Shelf:
    """What the workshop has of one kind: by key, with origin and day."""

    rows: str
    known: Mapping[str, Any]
    origin: str
    of_date: dt.date


def _shelves(shop: Catalogue, profile: Profile) -> tuple[_Shelf, ...]:
    return (
        _Shelf("part_data", shop.parts, shop.origin, shop.of_date),
        _Shelf("cable_data", shop.cables, shop.origin, shop.of_date),
        _Shelf("array_data", shop.antennas, shop.origin, shop.of_date),
        _Shelf("limit_data", {profile.key: profile}, profile.origin, profile.of_date),
    )


@dataclass(frozen=True)
class Newer:
    """Data that the workshop has of another day or with other figures than the job carries, and the
    change that takes them."""

    rows: str
    key: str
    name: str
    origin: str
    of_date: dt.date
    carried: dt.date
    change: Change


@dataclass(frozen=True)
class Stock:
    """What a job carries otherwise than the workshop has it: its own parts, cables and antennas, data
    that the workshop offers in their place, and the change that takes all of these."""

    own: Catalogue
    newer: list[Newer]
    take_all: Change | None


def stock_of(job: Job, shop: Catalogue, profile: Profile) -> Stock:
    """What a job carries beside the workshop's catalogue and profile."""
    offers = list(_newer(job, shop, profile))
    own = Catalogue(
        origin="carried by the job",
        of_date=job.date,
        parts=_unlike(job.part_data, shop.parts),
        cables=_unlike(job.cable_data, shop.cables),
        antennas=_unlike(job.array_data, shop.antennas),
    )
    changes = tuple(n.change for n in offers)
    return Stock(
        own, offers, Several(words="take newer data", changes=changes) if changes else None
    )


def _newer(job: Job, shop: Catalogue, profile: Profile) -> Iterator[Newer]:
    for shelf in _shelves(shop, profile):
        for row in getattr(job, shelf.rows):
            data = shelf.known.get(row.key)
            if data is None or data == row.data or row.origin.startswith(OWN_LIMITS):
                continue
            change = Set(
                rows=shelf.rows,
                id=row.id,
                values={
                    "data": data.model_dump(mode="json"),
                    "origin": shelf.origin,
                    "of_date": shelf.of_date.isoformat(),
                },
            )
            yield Newer(
                rows=shelf.rows,
                key=row.key,
                name=data.name,
                origin=shelf.origin,
                of_date=shelf.of_date,
                carried=row.of_date,
                change=change,
            )


def _unlike(rows: Iterable[Carried], known: Mapping[str, Any]) -> dict[str, Any]:
    return {row.key: row.data for row in rows if known.get(row.key) != row.data}


def _with(known: Mapping[str, Any], rows: Iterable[Carried]) -> dict[str, Any]:
    return {**known, **{row.key: row.data for row in rows}}


def _carried(shelf: _Shelf, rows: tuple[Carried, ...], used: set[str]) -> tuple[Carried, ...]:
    known = shelf.known
    kept = tuple(r for r in rows if r.key in used or known.get(r.key) != r.data)
    there = {r.key for r in kept}
    prefix, model = _KINDS.kind(shelf.rows).table.prefix, _MODELS[shelf.rows]
    last = max((int(r.id[len(prefix) :]) for r in rows), default=0)
    new = []
    for key in sorted(k for k in used - there if k in known):
        last += 1
        new.append(
            model.model_construct(
                id=f"{prefix}{last}",
                key=key,
                origin=shelf.origin,
                of_date=shelf.of_date,
                data=known[key],
            )
        )
    return (*kept, *new) if new or len(kept) < len(rows) else rows
