"""The history of a job: what each change moved, who asked for it, and what of it can be taken back.

Every device takes back its own changes, the newest first, and only where nobody changed the same
since; a change is taken back by its difference, never by carrying something else out."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass
from typing import Any

from evtro.core.job.registry import Registry

from . import rows
from .changed_cells import WHOLE, CellClash

SENT_REMEMBERED = 5000  # requests of a job


@dataclass(frozen=True)
class Asked:
    """A change as a device asked for it: what history calls it, and the change itself as JSON. `key`
    names the request: sent again, it is not carried out again."""

    label: str
    device: str = ""
    verb: str | None = None
    key: str | None = None


def keep(
    db: sqlite3.Connection,
    job_id: str,
    asked: Asked,
    *,
    at: str,
    revision: int,
    diff: rows.Diff,
    planned: bool,
) -> None:
    """Note a change. What its device took back before is no longer there to carry out again, unless
    only something was read."""
    if planned:
        db.execute(
            "DELETE FROM change WHERE job = ? AND device = ? AND undone", (job_id, asked.device)
        )
    db.execute(
        "INSERT INTO change (job, n, at, device, label, asked, diff, undone, revision, planned) "
        "SELECT ?, coalesce(max(n), 0) + 1, ?, ?, ?, ?, ?, 0, ?, ? FROM change WHERE job = ?",
        (
            job_id,
            at,
            asked.device,
            asked.label,
            asked.verb,
            rows.pack(diff),
            revision,
            planned,
            job_id,
        ),
    )
    if asked.key is not None:
        db.execute("INSERT INTO sent (job, key, at) VALUES (?, ?, ?)", (job_id, asked.key, at))
        if revision % 100 == 0:
            db.execute(
                "DELETE FROM sent WHERE job = ? AND rowid NOT IN "
                "(SELECT rowid FROM sent WHERE job = ? ORDER BY rowid DESC LIMIT ?)",
                (job_id, job_id, SENT_REMEMBERED),
            )


def was_sent(db: sqlite3.Connection, job_id: str, key: str) -> bool:
    """Whether a request was carried out already."""
    found = db.execute("SELECT 1 FROM sent WHERE job = ? AND key = ?", (job_id, key)).fetchone()
    return found is not None


def next_step(
    db: sqlite3.Connection, job_id: str, device: str, *, back: bool
) -> sqlite3.Row | None:
    """The change that a device takes back next, or carries out again next."""
    found: sqlite3.Row | None = db.execute(
        "SELECT n, label, diff FROM change WHERE job = ? AND device = ? AND undone = ? AND planned "
        f"ORDER BY n {'DESC' if back else 'ASC'} LIMIT 1",
        (job_id, device, not back),
    ).fetchone()
    return found


def last_of(db: sqlite3.Connection, job_id: str, device: str) -> int:
    """The newest revision that a device made."""
    found = db.execute(
        "SELECT coalesce(max(revision), 0) FROM change WHERE job = ? AND device = ?",
        (job_id, device),
    ).fetchone()
    return int(found[0])


def mark(db: sqlite3.Connection, job_id: str, n: int, *, undone: bool, revision: int) -> None:
    """Note that a change was taken back, or carried out again."""
    db.execute(
        "UPDATE change SET undone = ?, revision = ? WHERE job = ? AND n = ?",
        (undone, revision, job_id, n),
    )


def met(
    db: sqlite3.Connection, job_id: str, diff: rows.Diff, known: Registry, *, back: bool
) -> list[CellClash]:
    """Where a difference that is taken back, or carried out again, no longer finds what it left."""
    found: list[CellClash] = []
    for table, key, before, after in diff:
        left, put = (after, before) if back else (before, after)
        there = _there(db, job_id, (table, key), known)
        if left is None or there is None:
            if left is not there:
                found.append(CellClash(table, key, WHOLE, mine=None, theirs=None))
            continue
        for column, value in left.items():
            # The order of rows is a matter of the list.
            if column != "seq" and there.get(column) != value:
                mine = None if put is None else put.get(column)
                found.append(CellClash(table, key, column, mine=mine, theirs=there.get(column)))
    return found


def read_since(
    db: sqlite3.Connection, job_id: str, diff: rows.Diff, known: Registry, *, back: bool
) -> str | None:
    """What was read on site at a row that a difference, taken back or carried out again, would take
    away: the noun of it. None where nothing was."""
    going = {
        (table, key) for table, key, before, after in diff if (before if back else after) is None
    }
    for table, key in going:
        gone = known.by_table(table)
        for kind, column in known.named_by(gone.field) if gone is not None else ():
            if not kind.evidence:
                continue
            found = db.execute(
                f"SELECT id FROM {kind.table.name} WHERE job = ? AND {column.name} = ?",
                (job_id, key),
            )
            if any((kind.table.name, row["id"]) not in going for row in found):
                return kind.noun
    return None


def _there(
    db: sqlite3.Connection, job_id: str, row: tuple[str, str], known: Registry
) -> dict[str, Any] | None:
    table, key = row
    if table == "job":
        head = db.execute("SELECT * FROM job WHERE id = ?", (job_id,)).fetchone()
        return {k: head[k] for k in known.head}
    kind = known.by_table(table)
    where, at = ("job = ? AND id = ?", (job_id, key)) if key else ("job = ?", (job_id,))
    found = db.execute(f"SELECT * FROM {table} WHERE {where}", at).fetchone()
    if found is None or kind is None:
        return None
    values: dict[str, Any] = json.loads(json.dumps(rows.plain(found, kind)))
    return values
