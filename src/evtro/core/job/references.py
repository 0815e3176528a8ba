"""What rows say of each other: whether every name leads to a row, and what goes when one is removed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from ..units.quantities import InputError
from .base import Row
from .registry import Kind, Registry, registry_of, rows_of

AnyJob = TypeVar("AnyJob", bound=Row)


def missing(kind: Kind, row_id: str) -> InputError:
    """The error for a row that is not there."""
    return InputError(
        kind.noun.capitalize(),
        f"{row_id} is not in the job.",
        "Reload the job; it may have been removed.",
        "row-missing",
    )


def check_references(job: Row) -> None:
    """Raise InputError for the first id that stands there twice, or name that leads to no row."""
    known = registry_of(job)
    there: dict[str, set[str]] = {}
    for kind in known.lists:
        ids = [row.id for row in rows_of(job, kind.field)]
        there[kind.field] = set(ids)
        if len(there[kind.field]) < len(ids):
            twice = next(i for i in ids if ids.count(i) > 1)
            raise _twice(kind.field, twice)
    _shared_ids(known, there)
    for kind in known.kinds.values():
        rows = rows_of(job, kind.field) if kind.many else (getattr(job, kind.field),)
        for column in kind.columns:
            if column.ref is None:
                continue
            targets = set().union(*(there[to] for to in column.ref.to))
            for row in rows:
                named = getattr(row, column.name)
                if named is not None and named not in targets:
                    raise InputError(
                        f"{kind.field}, {column.name}",
                        f"{named} is not in the job.",
                        "Name a row that is there.",
                        "reference-missing",
                    )


def _shared_ids(known: Registry, there: dict[str, set[str]]) -> None:
    """Kinds with one prefix share their ids."""
    by_prefix: dict[str, set[str]] = {}
    for kind in known.lists:
        ids = by_prefix.setdefault(kind.table.prefix, set())
        both = ids & there[kind.field]
        if both:
            raise _twice(kind.field, min(both))
        ids |= there[kind.field]


def _twice(field: str, row_id: str) -> InputError:
    return InputError(
        field, f"the id {row_id} stands there twice.", "Give each row its own id.", "id-twice"
    )


def without(job: AnyJob, field: str, row_id: str) -> AnyJob:
    """The job without a row and what goes with it; other fields that name it are cleared.

    Raises InputError when the row is not there.
    """
    known = registry_of(job)
    kind = known.kind(field)
    if not kind.many or all(r.id != row_id for r in rows_of(job, field)):
        raise missing(kind, row_id)
    pending = {field: {row_id}}
    while pending:
        field, gone = pending.popitem()
        job = job.model_copy(
            update={field: tuple(r for r in rows_of(job, field) if r.id not in gone)}
        )
        for other, column in known.named_by(field):
            assert column.ref is not None
            names = _names(column.name, gone)
            if not other.many:
                row = getattr(job, other.field)
                if names(row):
                    cleared = row.model_copy(update={column.name: None})
                    job = job.model_copy(update={other.field: cleared})
                continue
            rows = rows_of(job, other.field)
            found = {r.id for r in rows if names(r)}
            if not found:
                continue
            if column.ref.gone == "with it":
                pending[other.field] = pending.get(other.field, set()) | found
            else:
                job = job.model_copy(
                    update={
                        other.field: tuple(
                            r.model_copy(update={column.name: None}) if r.id in found else r
                            for r in rows
                        )
                    }
                )
    return job


def _names(column: str, gone: set[str]) -> Callable[[Any], bool]:
    return lambda row: getattr(row, column) in gone
