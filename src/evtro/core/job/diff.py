"""Two jobs as the change that leads from one to the other."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count, product
from string import ascii_lowercase
from typing import Any

from . import Job, Row
from .changes import Add, Change, Remove, Set, Several
from .registry import Kind, registry_of, rows_of


def as_change(before: Job, after: Job, words: str) -> Change:
    """The change from one value of a job to another: rows that came, by names of their own, cells
    that changed, rows that went. The order of rows is left as it is."""
    known = registry_of(after)
    kinds = _by_reference(list(known.lists))
    names = _names()
    called: dict[str, str] = {}
    adds: list[Change] = []
    for kind in kinds:
        there = {r.id for r in rows_of(before, kind.field)}
        for row in rows_of(after, kind.field):
            if row.id not in there:
                called[row.id] = next(names)
                values = _filled(kind, row, called)
                adds.append(Add(rows=kind.field, values=values, as_is=True, called=called[row.id]))
    sets = [*_sets(kinds, before, after, called)]
    for kind in known.singles:
        cells = _changed(kind, getattr(before, kind.field), getattr(after, kind.field), called)
        if cells:
            sets.append(Set(rows=kind.field, values=cells, as_is=True))
    removes: list[Change] = [
        Remove(rows=kind.field, id=row.id)
        for kind in reversed(kinds)
        for row in rows_of(before, kind.field)
        if all(r.id != row.id for r in rows_of(after, kind.field))
    ]
    return Several(words=words, changes=(*adds, *sets, *removes))


def _names() -> Iterator[str]:
    for size in count(1):
        for letters in product(ascii_lowercase, repeat=size):
            yield "$" + "".join(letters)


def _by_reference(kinds: list[Kind]) -> list[Kind]:
    """Kinds in an order in which each names only those before it, as far as there is one."""
    found: list[Kind] = []
    while kinds:
        left = {k.field for k in kinds}
        ready = [k for k in kinds if not _needs(k) & (left - {k.field})] or kinds[:1]
        found += ready
        kinds = [k for k in kinds if k not in ready]
    return found


def _needs(kind: Kind) -> set[str]:
    refs = [c.ref for c in kind.columns if c.ref is not None and not c.optional]
    optional = [c.ref for c in kind.columns if c.ref is not None and c.optional]
    return {to for ref in (*refs, *optional) for to in ref.to}


def _sets(kinds: list[Kind], before: Job, after: Job, called: dict[str, str]) -> Iterator[Change]:
    for kind in kinds:
        if getattr(before, kind.field) is getattr(after, kind.field):
            continue
        old = {r.id: r for r in rows_of(before, kind.field)}
        for row in rows_of(after, kind.field):
            was = old.get(row.id)
            cells = {} if was is None or was is row else _changed(kind, was, row, called)
            if cells:
                yield Set(rows=kind.field, id=row.id, values=cells, as_is=True)


def _changed(kind: Kind, old: Row, new: Row, called: dict[str, str]) -> dict[str, Any]:
    if old is new:
        return {}
    was = old.model_dump(mode="json")
    return {k: v for k, v in _filled(kind, new, called).items() if v != was[k]}


def _filled(kind: Kind, row: Row, called: dict[str, str]) -> dict[str, Any]:
    values = row.model_dump(mode="json", exclude={"id"})
    for column in kind.columns:
        if column.ref is not None and values.get(column.name) in called:
            values[column.name] = called[values[column.name]]
    return values
