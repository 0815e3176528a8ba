"""What can be read of a damaged data file, as a new and whole one.

Every table is read in the order of its rows; where the file cannot be read the next readable row is
searched for by halving. Jobs are put together from the rows that are left: what names a lost row goes,
a lost single row has its defaults.
"""

from __future__ import annotations

import contextlib
import datetime as dt
import shutil
import sqlite3
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from evtro.core.job import Job
from evtro.core.job.registry import Kind, registry
from evtro.core.units.quantities import InputError

from . import rows
from .connection import form_of, migrate, newest_form, require_ours, told
from .copies import put_in_place
from .jobs import Jobs
from .storage_errors import trouble_of

_LAST = 2**40  # no table here has so many rows
_KNOWN = registry(Job)


@dataclass
class Recovered:
    """What was saved, and what was not."""

    jobs: list[str] = field(default_factory=list)
    lost: list[str] = field(default_factory=list)


def recover(source: Path, target: Path) -> Recovered:
    """Save what can be read of `source` into `target`, a new file. Raises InputError when nothing
    can be read, or the target is there already."""
    if target.exists():
        raise InputError(
            "Recover", f"{target} is there already.", "Name a new file.", "recover-target"
        )
    seen = require_ours(source, "Recover")
    if seen.form > newest_form():
        raise InputError(
            "Recover",
            "it was written by a newer Evtro.",
            "Use the newer program.",
            "database-newer",
        )
    with tempfile.TemporaryDirectory(prefix="evtro-") as folder, told(target, "Recover"):
        # On a copy: to read a file with a log is to write beside it.
        copy = Path(folder) / "copy.sqlite"
        for tail in ("", "-wal"):
            one = source.with_name(source.name + tail)
            if one.exists():
                shutil.copyfile(one, copy.with_name(copy.name + tail))
        found = Recovered()
        new = target.with_name(target.name + ".part")
        new.unlink(missing_ok=True)
        with contextlib.closing(_open(copy)) as old, contextlib.closing(_new(new)) as into:
            _save(old, Jobs(into), found)
        put_in_place(new, target)
    return found


def _open(path: Path) -> sqlite3.Connection:
    connection = sqlite3.connect(path, isolation_level=None)
    connection.row_factory = sqlite3.Row
    # A text that damage has gone through is read as far as it goes; its row must still be one.
    connection.text_factory = lambda raw: raw.decode("utf-8", "replace")
    try:
        connection.execute("SELECT count(*) FROM sqlite_master").fetchone()
        if form_of(connection) < newest_form():
            migrate(connection, check=False)
    except sqlite3.DatabaseError as error:
        connection.close()
        raise InputError(
            "Recover",
            "the head of the file is lost, nothing in it can be found.",
            "Put a backup in place with: evtro restore FILE",
            "recover-nothing",
        ) from error
    return connection


def _new(path: Path) -> sqlite3.Connection:
    connection = sqlite3.connect(path, isolation_level=None)
    connection.row_factory = sqlite3.Row
    migrate(connection)
    connection.execute("PRAGMA foreign_keys = ON")
    return connection


def _save(old: sqlite3.Connection, jobs: Jobs, found: Recovered) -> None:
    names = ("job", *(k.table.name for k in _KNOWN.kinds.values()))
    tables = {t: _read(old, t, found) for t in names}
    heads = {r["id"]: r for r in tables["job"]}
    ids = dict.fromkeys([*heads, *(r["job"] for t, rs in tables.items() if t != "job" for r in rs)])
    for job_id in ids:
        head = heads.get(job_id)
        job = _put_together(job_id, head, tables, found)
        if job is None:
            continue
        jobs.add(job, job_id)
        if head is not None:
            with jobs.transaction() as db:
                db.execute(
                    "UPDATE job SET kept_at = ?, removed_at = ? WHERE id = ?",
                    (head["kept_at"], head["removed_at"], job_id),
                )
        found.jobs.append(job.name)
    _library(old, jobs, found)
    history = _read(old, "change", found)
    if not found.lost:
        # Every row is there: then each step of the history meets what it left.
        with jobs.transaction() as db:
            for row in history:
                columns = [c for c in row.keys() if c != "at_row"]  # noqa: SIM118
                db.execute(
                    f"INSERT INTO change ({', '.join(columns)}) "
                    f"VALUES ({', '.join('?' for _ in columns)})",
                    tuple(row[c] for c in columns),
                )
            for head in heads.values():
                db.execute(
                    "UPDATE job SET revision = ? WHERE id = ?", (head["revision"], head["id"])
                )
    elif history:
        found.lost.append("the history of changes, since it would not meet what is left")


def _read(db: sqlite3.Connection, table: str, found: Recovered) -> list[sqlite3.Row]:
    """All rows of a table that can be read."""
    read: list[sqlite3.Row] = []
    holes = 0
    for row in _rows(db, table):
        if row is None:
            holes += 1
        else:
            read.append(row)
    if holes:
        found.lost.append(f"rows of “{table}”, at {holes} place{'s' if holes > 1 else ''}")
    return read


def _rows(db: sqlite3.Connection, table: str) -> Iterator[sqlite3.Row | None]:
    """Rows in the order of their numbers; None for each stretch that cannot be read."""
    query = f"SELECT rowid AS at_row, * FROM {table} WHERE rowid >= ? ORDER BY rowid"
    at = 1
    while at < _LAST:
        try:
            for row in db.execute(query, (at,)):
                at = row["at_row"] + 1
                yield row
            return
        except sqlite3.DatabaseError as error:
            _only_damage(error)
            yield None
            at = _beyond(db, query, at)


def _beyond(db: sqlite3.Connection, query: str, at: int) -> int:
    """The first row number behind a hole from which the table can be read again: doubling the step
    until it can, then halving."""
    step = 1
    while at + step < _LAST and not _reads(db, query, at + step):
        step *= 2
    if at + step >= _LAST:
        return _LAST
    low, high = at + step // 2, at + step
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if _reads(db, query, middle) else (middle, high)
    return high


def _reads(db: sqlite3.Connection, query: str, at: int) -> bool:
    try:
        db.execute(f"{query} LIMIT 1", (at,)).fetchone()
    except sqlite3.DatabaseError as error:
        _only_damage(error)
        return False
    return True


def _only_damage(error: sqlite3.DatabaseError) -> None:
    trouble = trouble_of(error)
    if trouble is None or trouble.code not in ("damaged", "disk-fault"):
        raise error


def _put_together(
    job_id: str, head: sqlite3.Row | None, tables: dict[str, list[sqlite3.Row]], found: Recovered
) -> Job | None:
    values: dict[str, Any] = (
        {k: head[k] for k in _KNOWN.head}
        if head is not None
        else {"name": f"Recovered job {job_id}", "date": dt.date.today()}
    )
    if head is None:
        found.lost.append(f"name and place of the job {job_id}")
    for kind in _KNOWN.singles:
        mine = [r for r in tables[kind.table.name] if r["job"] == job_id]
        if mine:
            values[kind.field] = rows.plain(mine[0], kind)
        else:
            found.lost.append(f"{kind.noun} of {values['name']}")
    for kind in _KNOWN.lists:
        name, lying = kind.field, tables[kind.table.name]
        mine = sorted((r for r in lying if r["job"] == job_id), key=lambda r: r["seq"])
        values[name] = [v for r in mine if (v := _valid(r, kind)) is not None]
        if len(values[name]) < len(mine):
            found.lost.append(f"{len(mine) - len(values[name])} rows of {name} of {values['name']}")
    _without_lost(values, found)
    try:
        return Job.model_validate(values)
    except ValidationError:
        found.lost.append(f"the job {values['name']}, whose rows make no job")
        return None


def _valid(row: sqlite3.Row, kind: Kind) -> dict[str, Any] | None:
    try:
        return kind.model.model_validate(rows.plain(row, kind)).model_dump()
    except (ValidationError, ValueError):
        return None


def _without_lost(values: dict[str, Any], found: Recovered) -> None:
    """Take out what names a row that is lost, until nothing does; what may be empty is cleared."""
    while True:
        there = {kind.field: {r["id"] for r in values[kind.field]} for kind in _KNOWN.lists}
        gone = 0
        for kind in _KNOWN.kinds.values():
            old = values[kind.field] if kind.many else [values.get(kind.field, {})]
            kept = [r for row in old if (r := _standing(row, kind, there)) is not None]
            gone += len(old) - len(kept)
            if kind.many:
                values[kind.field] = kept
            elif kind.field in values:
                values[kind.field] = kept[0]
        if not gone:
            break
        found.lost.append(f"{gone} rows of {values['name']} that named a lost one")


def _standing(row: dict[str, Any], kind: Kind, there: dict[str, set[str]]) -> dict[str, Any] | None:
    for column in kind.columns:
        named = row.get(column.name)
        if column.ref is None or named is None:
            continue
        if all(named not in there[to] for to in column.ref.to):
            if column.ref.gone == "with it":
                return None
            row = {**row, column.name: None}
    return row


def _library(old: sqlite3.Connection, jobs: Jobs, found: Recovered) -> None:
    for table in ("transmitter", "tile", "sheet"):
        for row in _read(old, table, found):
            columns = [c for c in row.keys() if c != "at_row"]  # noqa: SIM118
            with jobs.transaction() as db:
                db.execute(
                    f"INSERT OR IGNORE INTO {table} ({', '.join(columns)}) "
                    f"VALUES ({', '.join('?' for _ in columns)})",
                    tuple(row[c] for c in columns),
                )
