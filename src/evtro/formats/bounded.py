"""Files from outside, held to a size before their contents are looked at.

A file of a few megabytes can unfold to gigabytes of objects, or keep a check busy for minutes. What
is counted here in a pass over the bytes is refused before anything is built from it.
"""

from __future__ import annotations

import csv
import json
from typing import Any

from evtro.core.units.quantities import InputError

MOST_LISTS = 600_000  # objects and lists in a JSON file
MOST_KEYS = 300_000
MOST_VALUES = 1_500_000
LONGEST_NUMBER = 400  # characters of a literal
LONGEST_CELL = 20_000  # characters of a CSV field


def held_to(data: bytes, most_mb: float, field: str, remedy: str) -> None:
    """Raise InputError for a file that is larger than any of its kind."""
    if len(data) > most_mb * 1e6:
        raise InputError(field, f"it has {len(data) / 1e6:.0f} MB.", remedy, "file-too-large")


def not_empty(data: bytes, field: str, remedy: str) -> None:
    """Raise InputError for a file without contents."""
    if not data.strip():
        raise InputError(field, "the file is empty.", remedy, "file-empty")


def read_json(data: bytes, field: str, remedy: str) -> Any:
    """A JSON document, UTF-8. Raises InputError for what is none, or unfolds beyond any file of
    this program."""
    lists = data.count(b"[") + data.count(b"{")
    if lists > MOST_LISTS or data.count(b":") > MOST_KEYS or data.count(b",") > MOST_VALUES:
        raise InputError(
            field,
            "it holds more rows than any file of this program.",
            "This is another file, or it is damaged.",
            "file-too-large",
        )
    try:
        return json.loads(data.decode("utf-8-sig"), parse_int=_whole, parse_float=_decimal)
    except InputError as error:
        raise error.at(field) from None
    except (UnicodeDecodeError, ValueError, RecursionError) as error:
        raise InputError(field, "this is not a JSON document.", remedy, "file-wrong") from error


def _whole(text: str) -> int:
    _short(text)
    return int(text)


def _decimal(text: str) -> float:
    _short(text)
    return float(text)


def _short(text: str) -> None:
    if len(text) > LONGEST_NUMBER:
        raise InputError(
            "",
            f"it holds a number of {len(text)} figures.",
            "No figure here has so many: the file is damaged.",
            "file-wrong",
        )


def read_text(data: bytes, field: str, remedy: str) -> str:
    """UTF-8 text. Raises InputError for what is none."""
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InputError(field, "it is not UTF-8 text.", remedy, "file-wrong") from error


csv.field_size_limit(LONGEST_CELL)
