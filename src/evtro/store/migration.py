"""What a migration needs beyond SQL: functions that its statements call."""

from __future__ import annotations

import json
import secrets
import sqlite3
from typing import Any

from evtro.core.job import Job
from evtro.core.job.forms import TABLES, of_a_spot, of_its_kind, renewed_row
from evtro.core.job.registry import registry
from evtro.core.units.plain import cleaned

from .rows import planned


def lend_functions(connection: sqlite3.Connection) -> None:
    """Let SQL call `cleaned(text)`, `cleaned_note(text)`, `cleaned_json(text)`, `token()`,
    `cells(text)`, `renewed(text)`, `planned(text)` and `parted(text, stood)`."""
    connection.create_function("cleaned", 1, cleaned, deterministic=True)
    connection.create_function("cleaned_note", 1, _note, deterministic=True)
    connection.create_function("cleaned_json", 1, _json, deterministic=True)
    connection.create_function("token", 0, token)
    connection.create_function("cells", 1, _cells, deterministic=True)
    connection.create_function("renewed", 1, _renewed, deterministic=True)
    connection.create_function("planned", 1, _planned, deterministic=True)
    connection.create_function("parted", 2, _parted, deterministic=True)


def token() -> str:
    """A name for one state of a job that no other state ever has."""
    return secrets.token_hex(8)


def _note(value: Any) -> Any:
    return cleaned(value, lines=True)


def _json(value: Any) -> Any:
    if not isinstance(value, str):
        return value
    found = json.loads(value)
    clean = cleaned(found)
    if clean == found:
        return value
    return json.dumps(clean, ensure_ascii=False, separators=(",", ":"))


def _cells(diff: str) -> str:
    """A difference of whole rows, of any form up to 5, as one of cells in form 6."""
    found = []
    for table, key, before, after in json.loads(diff):
        before, after = renewed_row(table, before, 2), renewed_row(table, after, 2)
        if before is not None and after is not None:
            changed = [c for c in after if before.get(c) != after[c]]
            before, after = ({c: row.get(c) for c in changed} for row in (before, after))
            if not changed:
                continue
        found.append([table, key, before, after])
    return json.dumps(found, ensure_ascii=False, separators=(",", ":"))


def _renewed(diff: str) -> str:
    """A difference of cells of form 6 in form 7."""
    found = [
        [table, key, renewed_row(table, before, 6), renewed_row(table, after, 6)]
        for table, key, before, after in json.loads(diff)
    ]
    return json.dumps(found, ensure_ascii=False, separators=(",", ":"))


def _planned(diff: str) -> int:
    return int(planned([(t, k, b, a) for t, k, b, a in json.loads(diff)], registry(Job)))


def _parted(diff: str, stood: str) -> str:
    """A difference of form 7 in form 8: cells of an antenna as those of the dish or the array that
    stood under its id, the last that `stood` names; other tables by their new names."""
    kinds = dict(json.loads(stood))
    found = []
    for table, key, *cells in json.loads(diff):
        if table == "antenna":
            table = next((c["kind"] for c in cells if c and "kind" in c), kinds.get(key, "dish"))
            cells = [c and of_its_kind(c, table) for c in cells]
            if not any(cells):
                continue
        if table == "heard":
            cells = [c and of_a_spot(c) for c in cells]
        table = TABLES.get(table, table)
        found.append([table, key, *cells])
    return json.dumps(found, ensure_ascii=False, separators=(",", ":"))
