"""Changes as the service takes them, in the words of a test."""

from __future__ import annotations

from typing import Any

Change = dict[str, Any]


def setting(rows: str, values: dict[str, Any], row: str = "") -> Change:
    """Set fields of a row, or of a part of the job that is there once."""
    return {"verb": "set", "rows": rows, "id": row, "values": values}


def adding(rows: str, values: dict[str, Any]) -> Change:
    """Add a row."""
    return {"verb": "add", "rows": rows, "values": values}


def removing(rows: str, row: str) -> Change:
    """Remove a row."""
    return {"verb": "remove", "rows": rows, "id": row}
