"""Between a job as a value and its rows: read, compare, write."""

from __future__ import annotations

import json
import sqlite3
from typing import Any

from evtro.core import job as model
from evtro.core.job import Job

SINGLES: dict[str, type[model.Row]] = {
    "site": model.Site,
    "mast": model.Mast,
    "earth": model.Earth,
    "handover": model.Handover,
    "company": model.Company,
    "rig": model.Rig,
    "terminal": model.Terminal,
}
LISTS: dict[str, tuple[str, type[model.Row]]] = {
    "outlet": ("outlets", model.Outlet),
    "target": ("targets", model.Target),
    "carrier": ("carriers", model.Carrier),
    "obstruction": ("obstructions", model.Obstruction),
    "antenna": ("antennas", model.Antenna),
    "spot": ("spots", model.Spot),
    "feed": ("feeds", model.SatelliteFeed),
    "preset": ("presets", model.Preset),
    "sample": ("samples", model.Sample),
    "trial": ("trials", model.Trial),
    "lock": ("locks", model.Lock),
    "beam": ("beams", model.Beam),
    "stop": ("stops", model.Stop),
    "relief": ("reliefs", model.Relief),
    "hold": ("holds", model.Hold),
    "heard": ("heard", model.Heard),
    "scan": ("scans", model.Scan),
    "conductor": ("conductors", model.Conductor),
    "part": ("parts", model.Part),
    "link": ("links", model.Link),
    "reading": ("readings", model.Reading),
    "mark": ("marks", model.Mark),
}
# Columns that hold a list as JSON.
AS_JSON = frozenset({"boundary", "pattern", "services", "heights_m", "gain_table", "found"})
HEAD = ("name", "place", "profile", "date")

Values = dict[str, Any]
Diff = list[tuple[str, str, Values | None, Values | None]]


def tables_of(job: Job) -> dict[tuple[str, str], Values]:
    """A job as rows: (table, id) to column values. The head row has the id ''."""
    plain = job.model_dump(mode="json")
    rows: dict[tuple[str, str], Values] = {("job", ""): {k: plain[k] for k in HEAD}}
    for table in SINGLES:
        rows[table, ""] = plain[table]
    for table, (field, _) in LISTS.items():
        for seq, row in enumerate(plain[field]):
            rows[table, row["id"]] = {**row, "seq": seq}
    return rows


def difference(before: Job, after: Job) -> Diff:
    """What changes from one job to the other: table, id, old values, new values.

    An edit copies only what it changes, so that rows which are the same object need no look.
    """
    diff: Diff = []
    old_head, new_head = _head(before), _head(after)
    if old_head != new_head:
        diff.append(("job", "", old_head, new_head))
    for table in SINGLES:
        old, new = getattr(before, table), getattr(after, table)
        if old is not new and old != new:
            diff.append((table, "", old.model_dump(mode="json"), new.model_dump(mode="json")))
    for table, (field, _) in LISTS.items():
        old_rows, new_rows = getattr(before, field), getattr(after, field)
        if old_rows is new_rows:
            continue
        old_at = {row.id: (seq, row) for seq, row in enumerate(old_rows)}
        new_at = {row.id: (seq, row) for seq, row in enumerate(new_rows)}
        for key in [*old_at, *(k for k in new_at if k not in old_at)]:
            was, is_now = old_at.get(key), new_at.get(key)
            if was is None or is_now is None or was[0] != is_now[0] or was[1] != is_now[1]:
                diff.append((table, key, _row(was), _row(is_now)))
    return diff


def _head(job: Job) -> Values:
    return {"name": job.name, "place": job.place, "profile": job.profile,
            "date": job.date.isoformat()}  # fmt: skip


def _row(at: tuple[int, model.Row] | None) -> Values | None:
    return None if at is None else {**at[1].model_dump(mode="json"), "seq": at[0]}


def insert(connection: sqlite3.Connection, job_id: str, job: Job, kept_at: str) -> None:
    """Write a new job whole."""
    for (table, key), values in tables_of(job).items():
        if table == "job":
            values = {**values, "kept_at": kept_at}
        _put(connection, table, job_id=job_id, key=key, values=values)


def apply(connection: sqlite3.Connection, job_id: str, diff: Diff, back: bool = False) -> None:
    """Carry out a difference, forward or back."""
    for table, key, before, after in diff:
        values = before if back else after
        if values is None:
            connection.execute(f"DELETE FROM {table} WHERE job = ? AND id = ?", (job_id, key))
        elif table == "job":
            columns = ", ".join(f"{c} = ?" for c in values)
            connection.execute(f"UPDATE job SET {columns} WHERE id = ?", (*values.values(), job_id))
        else:
            _put(connection, table, job_id=job_id, key=key, values=values)


def _put(connection: sqlite3.Connection, table: str, job_id: str, key: str, values: Values) -> None:
    names = {"id": job_id} if table == "job" else {"job": job_id}
    columns = {**names, **values}
    # Foreign keys are deferred, so replacing a row in place breaks no reference at commit.
    marks = ", ".join("?" for _ in columns)
    own_key = "job, id" if "seq" in values else "id" if table == "job" else "job"
    updates = ", ".join(f"{c} = excluded.{c}" for c in values if c != "id")
    connection.execute(
        f"INSERT INTO {table} ({', '.join(columns)}) VALUES ({marks}) "
        f"ON CONFLICT ({own_key}) DO UPDATE SET {updates}",
        # A list, such as the border of a beam, lies in its column as JSON.
        tuple(json.dumps(v) if isinstance(v, list) else v for v in columns.values()),
    )


def read(connection: sqlite3.Connection, head: sqlite3.Row) -> Values:
    """The plain values of a job, by its head row, as they stand in the file."""
    job_id = head["id"]
    fields: Values = {k: head[k] for k in HEAD}
    for table, kind in SINGLES.items():
        row = connection.execute(f"SELECT * FROM {table} WHERE job = ?", (job_id,)).fetchone()
        fields[table] = {} if row is None else plain(row, kind)
    for table, (field, kind) in LISTS.items():
        found = connection.execute(
            f"SELECT * FROM {table} WHERE job = ? ORDER BY seq", (job_id,)
        ).fetchall()
        fields[field] = [plain(row, kind) for row in found]
    return fields


def plain(row: sqlite3.Row, kind: type[model.Row]) -> Values:
    """A row's columns as the values of its model."""
    values = {k: row[k] for k in kind.model_fields}
    for name, field in kind.model_fields.items():
        if field.annotation is bool:
            values[name] = bool(values[name])
        elif name in AS_JSON:
            values[name] = json.loads(values[name])
    return values


def pack(diff: Diff) -> str:
    """A difference as text."""
    return json.dumps(diff, ensure_ascii=False, separators=(",", ":"))


def unpack(text: str) -> Diff:
    """A difference from text."""
    return [(t, k, _renewed(b), _renewed(a)) for t, k, b, a in json.loads(text)]


def _renewed(values: Values | None) -> Values | None:
    """A row that history kept before form 3: a loss of zero meant free space."""
    if values is not None and "extra_loss_db" in values:
        old = values.pop("extra_loss_db")
        return {**values, "own_loss_db": old or None}
    return values
