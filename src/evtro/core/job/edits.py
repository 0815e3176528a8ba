"""Changes to the rows of a job: pure functions that keep what refers to a row in order."""

from __future__ import annotations

from typing import Any

from ..units.quantities import InputError
from . import Job, Row, TaskRecord, references
from .registry import new_row_id, registry

KINDS = registry(Job)


def new_id(job: Job, field: str) -> str:
    """The id for the next row of a list."""
    return new_row_id(job, field)


def add_row(job: Job, field: str, row: Row) -> Job:
    """Append a row; lists are bounded."""
    kind = KINDS.kind(field)
    rows = getattr(job, field)
    if kind.most is not None and len(rows) >= kind.most:
        raise InputError(
            kind.noun.capitalize(),
            f"a job holds at most {kind.most}.",
            "Remove one first.",
            "too-many",
        )
    return job.model_copy(update={field: (*rows, row)})


def change_row(job: Job, field: str, row_id: str, values: dict[str, Any]) -> Job:
    """Change fields of a row. Raises InputError when it is not there or does not fit."""
    rows = getattr(job, field)
    old = next((r for r in rows if r.id == row_id), None)
    if old is None:
        raise missing(field, row_id)
    changed = type(old).model_validate({**old.model_dump(), **values})
    return job.model_copy(update={field: tuple(changed if r.id == row_id else r for r in rows)})


def missing(field: str, row_id: str) -> InputError:
    """The error for a row that is not there."""
    return references.missing(KINDS.kind(field), row_id)


def set_mark(job: Job, step: str, values: dict[str, Any]) -> Job:
    """Tick a step, confirm its danger, note what was measured."""
    old = next((m for m in job.marks if m.step == step), None)
    if old is None:
        row = TaskRecord.model_validate({"id": new_id(job, "marks"), "step": step, **values})
        return add_row(job, "marks", row)
    return change_row(job, "marks", old.id, values)
