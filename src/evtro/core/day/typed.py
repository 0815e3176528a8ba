"""Times as somebody types them: of the clock, and how long something takes."""

from __future__ import annotations

import re

from ..units.quantities import InputError

_CLOCK = re.compile(r"^(\d{1,2})(?:[:.h ]\s*(\d{2}))?\s*(am|pm|h)?$|^(\d{2})(\d{2})$")
_LASTS = re.compile(
    r"^(?:(\d+(?:[.,]\d+)?)\s*(?:h|hr|hour|hours|std))?\s*(?:(\d+(?:[.,]\d+)?)\s*(?:m|min|minutes?)?)?$"
)
_PAIR = re.compile(r"^(\d{1,2}):(\d{2})$")


def read_clock(field: str, text: str) -> float:
    """Time after midnight [min], from 7:30, 07.30, 0730, 7 or 7:30 pm. Raises InputError."""
    found = _CLOCK.match(text.strip().lower())
    if found:
        hour, minute, half, far, past = found.groups()
        hours, minutes = int(hour or far), int(minute or past or 0)
        if half in ("am", "pm"):
            hours = hours % 12 + (12 if half == "pm" else 0)
        if hours < 24 and minutes < 60:
            return float(60 * hours + minutes)
    raise InputError(field, f"“{text}” is no time of the day.", "Type it as 7:30.", "no-time")


def read_minutes(field: str, text: str, most_min: float = 600.0) -> float | None:
    """A duration [min] from 24, 24 min, 1:10, 1 h 10 or 1,5 h; None from nothing. Raises InputError."""
    text = text.strip().lower()
    if not text:
        return None
    pair, lasts = _PAIR.match(text), _LASTS.match(text)
    if pair and int(pair[2]) < 60:
        minutes = 60.0 * int(pair[1]) + int(pair[2])
    elif lasts and (lasts[1] or lasts[2]):
        hours, rest = (float((g or "0").replace(",", ".")) for g in lasts.groups())
        minutes = 60 * hours + rest
    else:
        raise InputError(
            field, f"“{text}” is no time.", "Type minutes, as 24, or 1 h 10.", "no-time"
        )
    if minutes > most_min:
        raise InputError(
            field,
            f"{minutes:.0f} min is more than {most_min:.0f}.",
            "Make it two days of it.",
            "too-large",
        )
    return minutes


def clock(minutes: float) -> str:
    """A time of the day as 07:30; past midnight it goes on counting."""
    whole = round(minutes)
    return f"{whole // 60:02d}:{whole % 60:02d}"
