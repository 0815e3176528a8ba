"""Between a job as a value and its rows: read, compare, write. What tables and columns there are the
rows say themselves; see `evtro.core.job.registry`."""

from __future__ import annotations

import json
import sqlite3
from bisect import bisect_left
from collections.abc import Iterator
from typing import Any

from evtro.core.job.base import Row
from evtro.core.job.registry import Kind, Registry, registry_of, rows_of

# The order of rows is a sparse key: a row between two others takes a number between theirs.
STEP = 1024

Values = dict[str, Any]
# Table, id, what stood there, what stands there: a whole row where one comes or goes, else the
# columns that changed.
Diff = list[tuple[str, str, Values | None, Values | None]]


def difference(db: sqlite3.Connection, job_id: str, before: Row, after: Row) -> Diff:
    """What changes from a job as it is kept to another value, cell by cell.

    An edit copies only what it changes, so that rows which are the same object need no look.
    """
    known = registry_of(after)
    diff: Diff = []
    _cells(diff, table="job", key="", old=_head(known, before), new=_head(known, after))
    for kind in known.kinds.values():
        old, new = getattr(before, kind.field), getattr(after, kind.field)
        if old is new:
            continue
        if kind.many:
            diff += _list_difference(db, job_id, kind=kind, old=old, new=new)
        elif old != new:
            _cells(
                diff,
                table=kind.table.name,
                key="",
                old=old.model_dump(mode="json"),
                new=new.model_dump(mode="json"),
            )
    return diff


def _head(known: Registry, job: Row) -> Values:
    return job.model_dump(mode="json", include=set(known.head))


def _cells(diff: Diff, *, table: str, key: str, old: Values, new: Values) -> None:
    changed = [c for c in new if old[c] != new[c]]
    if changed:
        diff.append((table, key, {c: old[c] for c in changed}, {c: new[c] for c in changed}))


def _list_difference(
    db: sqlite3.Connection, job_id: str, *, kind: Kind, old: tuple[Any, ...], new: tuple[Any, ...]
) -> Diff:
    diff: Diff = []
    table = kind.table.name
    old_at, new_at = {row.id: row for row in old}, {row.id: row for row in new}
    if list(old_at) == list(new_at):
        was: dict[str, int] = {}
        seqs: dict[str, int] = {}
    else:
        found = db.execute(f"SELECT id, seq FROM {table} WHERE job = ?", (job_id,))
        was = {row["id"]: row["seq"] for row in found}
        seqs = order_keys(was, list(new_at))
    for key, row in old_at.items():
        if key not in new_at:
            diff.append((table, key, {**row.model_dump(mode="json"), "seq": was[key]}, None))
    for key, row in new_at.items():
        previous = old_at.get(key)
        if previous is None:
            diff.append((table, key, None, {**row.model_dump(mode="json"), "seq": seqs[key]}))
        elif previous is not row or was.get(key) != seqs.get(key):
            _cells(
                diff,
                table=table,
                key=key,
                old=_in_place(previous, key, was),
                new=_in_place(row, key, seqs),
            )
    return diff


def _in_place(row: Row, key: str, seqs: dict[str, int]) -> Values:
    values = row.model_dump(mode="json")
    return {**values, "seq": seqs[key]} if key in seqs else values


def order_keys(was: dict[str, int], order: list[str]) -> dict[str, int]:
    """Keys for rows in an order, with as many as can be left as they were."""
    keys = {key: was[key] for key in _rising(was, order)}
    found: dict[str, int] = {}
    at = 0
    while at < len(order):
        if order[at] in keys:
            found[order[at]] = keys[order[at]]
            at += 1
            continue
        end = at
        while end < len(order) and order[end] not in keys:
            end += 1
        low = found[order[at - 1]] if at else None
        high = keys[order[end]] if end < len(order) else None
        count = end - at
        if high is None:
            start, step = (low if low is not None else 0), STEP
        elif low is None:
            start, step = high - STEP * (count + 1), STEP
        else:
            start, step = low, (high - low) // (count + 1)
        if step < 1:
            return {key: STEP * (n + 1) for n, key in enumerate(order)}
        for n, key in enumerate(order[at:end]):
            found[key] = start + step * (n + 1)
        at = end
    return found


def _rising(was: dict[str, int], order: list[str]) -> list[str]:
    """The longest run of rows whose keys rise already."""
    tails: list[int] = []
    ends: list[str] = []
    before: dict[str, str | None] = {}
    for key in order:
        if key not in was:
            continue
        at = bisect_left(tails, was[key])
        before[key] = ends[at - 1] if at else None
        tails[at : at + 1] = [was[key]]
        ends[at : at + 1] = [key]
    run: list[str] = []
    last = ends[-1] if ends else None
    while last is not None:
        run.append(last)
        last = before[last]
    return run


def tables_of(job: Row) -> Iterator[tuple[str, str, Values]]:
    """A job as rows: table, id and column values. The head row has the id ''."""
    known = registry_of(job)
    yield "job", "", _head(known, job)
    for kind in known.kinds.values():
        if not kind.many:
            yield kind.table.name, "", getattr(job, kind.field).model_dump(mode="json")
            continue
        for n, row in enumerate(rows_of(job, kind.field)):
            yield kind.table.name, row.id, {**row.model_dump(mode="json"), "seq": STEP * (n + 1)}


def insert(db: sqlite3.Connection, job_id: str, job: Row, kept_at: str) -> None:
    """Write a new job whole."""
    for table, _, values in tables_of(job):
        own = {"id": job_id, "kept_at": kept_at} if table == "job" else {"job": job_id}
        _insert(db, table, {**own, **values})


def apply(
    db: sqlite3.Connection, job_id: str, diff: Diff, known: Registry, *, back: bool = False
) -> None:
    """Carry out a difference, forward or back. Foreign keys are looked at when all of it is done."""
    for table, key, before, after in diff:
        there, put = (after, before) if back else (before, after)
        if put is None:
            db.execute(f"DELETE FROM {table} WHERE job = ? AND id = ?", (job_id, key))
        elif there is None:
            # A row that history kept of an older form lacks what came later.
            kind = known.by_table(table)
            rest = {c.name: c.default for c in kind.columns if not c.required} if kind else {}
            _insert(db, table, {"job": job_id, **rest, **put})
        else:
            own, names = ("id", (job_id,)) if table == "job" else ("job", (job_id,))
            where, at = (f"{own} = ? AND id = ?", (*names, key)) if key else (f"{own} = ?", names)
            columns = ", ".join(f'"{c}" = ?' for c in put)
            changed = db.execute(
                f"UPDATE {table} SET {columns} WHERE {where}",
                (*(_stored(v) for v in put.values()), *at),
            )
            if changed.rowcount != 1:
                raise LookupError(f"no row {key} in {table}")


def _insert(db: sqlite3.Connection, table: str, values: Values) -> None:
    names, marks = ", ".join(f'"{c}"' for c in values), ", ".join("?" for _ in values)
    db.execute(
        f"INSERT INTO {table} ({names}) VALUES ({marks})",
        tuple(_stored(v) for v in values.values()),
    )


def _stored(value: Any) -> Any:
    # A list, such as the border of a beam, and the data of a part lie in their column as JSON.
    return json.dumps(value) if isinstance(value, (list, dict)) else value


def read(db: sqlite3.Connection, head: sqlite3.Row, known: Registry) -> Values:
    """The plain values of a job, by its head row, as they stand in the file."""
    job_id = head["id"]
    fields: Values = {k: head[k] for k in known.head}
    for kind in known.kinds.values():
        found = db.execute(
            f"SELECT * FROM {kind.table.name} WHERE job = ?"
            + (" ORDER BY seq, id" if kind.many else ""),
            (job_id,),
        ).fetchall()
        rows = [plain(row, kind) for row in found]
        fields[kind.field] = rows if kind.many else rows[0] if rows else {}
    return fields


def plain(row: sqlite3.Row, kind: Kind) -> Values:
    """A row's columns as the values of its model."""
    values: Values = {}
    for column in kind.columns:
        value = row[column.name]
        values[column.name] = (
            bool(value) if column.boolean else json.loads(value) if column.json else value
        )
    return values


def planned_cells(diff: Diff, known: Registry) -> Diff:
    """The cells of a difference that undo may move: all but what was read on site. Evidence that went
    with something else comes back with it."""
    return [cell for cell in diff if cell[3] is None or not _read_on_site(cell[0], known)]


def planned(diff: Diff, known: Registry) -> bool:
    """Whether a difference holds anything that undo may move."""
    return bool(planned_cells(diff, known))


def _read_on_site(table: str, known: Registry) -> bool:
    kind = known.by_table(table)
    return kind is not None and kind.evidence


def pack(diff: Diff) -> str:
    """A difference as text."""
    return json.dumps(diff, ensure_ascii=False, separators=(",", ":"))


def unpack(text: str) -> Diff:
    """A difference from text."""
    return [(t, k, b, a) for t, k, b, a in json.loads(text)]
