"""What a migration needs beyond SQL: functions that its statements call."""

from __future__ import annotations

import json
import secrets
import sqlite3
from typing import Any

from evtro.core.units.plain import cleaned


def lend_functions(connection: sqlite3.Connection) -> None:
    """Let SQL call `cleaned(text)`, `cleaned_note(text)`, `cleaned_json(text)` and `token()`."""
    connection.create_function("cleaned", 1, cleaned, deterministic=True)
    connection.create_function("cleaned_note", 1, _note, deterministic=True)
    connection.create_function("cleaned_json", 1, _json, deterministic=True)
    connection.create_function("token", 0, token)


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
