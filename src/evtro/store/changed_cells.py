"""Which cells each revision moved, and whether a late write touches one of them."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass
from typing import Any

from .rows import Diff, Values

REMEMBERED = 1000  # revisions of a job
WHOLE = "*"  # the row itself came or went
# The order of rows is a matter of the list, and the ground is read anew: nobody typed either.
_NOBODYS = frozenset({"seq"})
_DERIVED = frozenset({"relief"})

Cells = list[tuple[str, str, list[str]]]


@dataclass(frozen=True)
class CellClash:
    """A cell that a late write and somebody else both changed; `column` is * for a row that came or
    went."""

    table: str
    id: str
    column: str
    mine: Any
    theirs: Any


def cells_of(diff: Diff) -> Cells:
    """The cells that a difference moves."""
    found: Cells = []
    for table, key, before, after in diff:
        if table in _DERIVED:
            continue
        columns = _columns(before, after)
        if columns:
            found.append((table, key, columns))
    return found


def _columns(before: Values | None, after: Values | None) -> list[str]:
    if before is None or after is None:
        return [WHOLE]
    return [c for c in after if c not in _NOBODYS and before.get(c) != after[c]]


def keep(db: sqlite3.Connection, job_id: str, revision: int, diff: Diff) -> None:
    """Note what a revision moved; the oldest notes go."""
    cells = json.dumps(cells_of(diff), ensure_ascii=False, separators=(",", ":"))
    db.execute(
        "INSERT INTO moved (job, revision, cells) VALUES (?, ?, ?)", (job_id, revision, cells)
    )
    if revision % 50 == 0:
        db.execute(
            "DELETE FROM moved WHERE job = ? AND revision <= ?", (job_id, revision - REMEMBERED)
        )


def clashes(
    db: sqlite3.Connection, job_id: str, seen: int, now: int, diff: Diff
) -> list[CellClash] | None:
    """Where a difference against the newest state meets what was moved since `seen`; None when that
    is longer ago than is remembered."""
    found = db.execute(
        "SELECT cells FROM moved WHERE job = ? AND revision > ?", (job_id, seen)
    ).fetchall()
    if seen > now or len(found) < now - seen:
        return None
    since: dict[tuple[str, str], set[str]] = {}
    for row in found:
        for table, key, columns in json.loads(row["cells"]):
            since.setdefault((table, key), set()).update(columns)
    met = []
    for table, key, before, after in diff:
        theirs = since.get((table, key))
        if not theirs or table in _DERIVED:
            continue
        for column in _columns(before, after):
            if column == WHOLE or WHOLE in theirs or column in theirs:
                mine = None if after is None else after.get(column)
                now_there = None if before is None else before.get(column)
                met.append(
                    CellClash(table=table, id=key, column=column, mine=mine, theirs=now_there)
                )
    return met
