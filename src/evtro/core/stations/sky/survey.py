"""Survey notes as they are typed: one line for each thing in the way, orbits with a letter."""

from __future__ import annotations

import re
from typing import Any

from ...units.angles import angle, tokens, unreadable
from ...units.quantities import FOOT_M, InputError

_ROW = re.compile(
    r"^(?P<name>.+?)\s+(?P<a>\d+(?:[.,]\d+)?)°?\s*(?:-|–|to|\s)\s*(?P<b>\d+(?:[.,]\d+)?)°?\s+"
    r"(?:(?P<top>-?\d+(?:[.,]\d+)?)°?(?:\s*(?:at|@)\s*(?P<away>\d+(?:[.,]\d+)?)\s*(?P<away_u>m|ft)?)?"
    r"|(?P<above>-?\d+(?:[.,]\d+)?)\s*(?P<above_u>m|ft)\s*(?:at|@)\s*(?P<far>\d+(?:[.,]\d+)?)\s*"
    r"(?P<far_u>m|ft)?)$",
    re.IGNORECASE,
)
_OUTLINES = {
    "crowns": ("tree", "sycamore", "oak", "birch", "pine", "hedge", "wood", "crown"),
    "ridge": ("hill", "ridge", "mountain", "slope", "dune"),
    "gable": ("chapel", "gable", "barn", "house", "roof", "church"),
}
_ORBIT_REMEDY = "Type it like 28.0 E or 30 W."


def parse_row(line: str) -> dict[str, Any]:
    """Fields of an obstruction from `barn 212 224 11`, `barn 212 224 11 at 40 m` or
    `barn 212 224 8m at 40m`. Raises InputError with an example."""
    found = _ROW.match(line.strip())
    if not found:
        raise InputError(
            "Obstruction",
            f"“{line[:60]}” does not read as a row.",
            "Type name, bearings from and to, and the top's angle: barn 212 224 11",
            "row-unreadable",
        )
    start, end = _number(found["a"]), _number(found["b"])
    for bearing in (start, end):
        if bearing > 360:
            raise InputError(
                "Bearing",
                f"{bearing:g}° is more than a full turn.",
                "Bearings run from 0 to 360.",
                "too-large",
            )
    values: dict[str, Any] = {
        "name": found["name"].strip().rstrip(",")[:80],
        "from_deg": start,
        "to_deg": end,
        "outline": outline_of(found["name"]),
    }
    if found["top"] is not None:
        values["top_deg"] = _number(found["top"])
        if found["away"]:
            values["distance_m"] = _metres(found["away"], found["away_u"])
    else:
        values["above_m"] = _metres(found["above"], found["above_u"])
        values["distance_m"] = _metres(found["far"], found["far_u"])
    return values


def outline_of(name: str) -> str:
    """The shape a thing of that name is drawn with."""
    folded = name.casefold()
    for outline, words in _OUTLINES.items():
        if any(word in folded for word in words):
            return outline
    return "block"


def parse_orbit(text: str) -> float:
    """Orbit position [deg, east positive] from `28 E`, `30.0W`, `-30`. Raises InputError."""
    try:
        found = angle(tokens(text, _ORBIT_REMEDY), text, _ORBIT_REMEDY)
        if found.side.upper() in ("N", "S"):
            raise unreadable(text, "names north or south.", _ORBIT_REMEDY)
    except InputError as error:
        code = error.code if error.code == "two-readings" else "orbit-unreadable"
        raise InputError(
            field="Orbit position",
            reason=error.reason,
            remedy=error.remedy,
            code=code,
            choices=error.choices,
        ) from None
    value = found.value_deg
    if not -180 <= value <= 360 or (found.side and abs(value) > 180):
        raise InputError(
            "Orbit position",
            f"{text.strip()} is not on the arc.",
            "It lies between 180 W and 180 E.",
            "orbit-outside",
        )
    return value - 360 if value > 180 else value


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _metres(text: str, unit: str | None) -> float:
    return _number(text) * (FOOT_M if unit and unit.lower() == "ft" else 1.0)
