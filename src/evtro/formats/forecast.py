"""A forecast as CSV: `time,wind_ms,gust_ms`, a row an hour or so; times of the day or with their date."""

from __future__ import annotations

import datetime as dt
import math

from evtro.core.day.plan import Hour
from evtro.core.day.typed import clock, read_clock
from evtro.core.units.figures import read_figure
from evtro.core.units.quantities import InputError

from .bounded import held_to, not_empty
from .tables import read_table, table_text, write_table

COLUMNS = ("time", "wind_ms", "gust_ms")
MOST_ROWS = 400
MOST_MS = 90.0
_REMEDY = "Write the columns time, wind_ms and gust_ms, a row for each hour."


def read_forecast(data: bytes, day: dt.date) -> tuple[Hour, ...]:
    """The rows of a day from a CSV file; rows of other dates are left out. Raises InputError."""
    not_empty(data, "Forecast", _REMEDY)
    held_to(data, 1, "Forecast", "A forecast of a day has a few kB: this is another file.")
    found: dict[float, Hour] = {}
    for n, row in read_table(table_text(data, "Forecast"), COLUMNS[:2], COLUMNS[2:]):
        text = (row.get("time") or "").strip()
        date, _, time = text.replace("T", " ").rpartition(" ")
        if date and date != day.isoformat():
            continue
        at = read_clock(f"time in line {n}", time)
        found[at] = Hour(
            at_min=at, wind_ms=_speed(row, "wind_ms", n) or 0.0, gust_ms=_speed(row, "gust_ms", n)
        )
    if not found:
        raise InputError(
            "Forecast", f"it says nothing of {day.isoformat()}.", _REMEDY, "file-empty"
        )
    if len(found) > MOST_ROWS:
        raise InputError(
            "Forecast", f"it has {len(found)} rows.", f"At most {MOST_ROWS} are kept.", "too-many"
        )
    return tuple(found[at] for at in sorted(found))


def _speed(row: dict[str, str], column: str, n: int) -> float | None:
    text = (row.get(column) or "").strip()
    if not text and column == "gust_ms":
        return None
    try:
        value = read_figure(text, "ms", 0.0, MOST_MS)
    except InputError as error:
        raise error.at(f"{column} in line {n}") from None
    assert isinstance(value, float)
    if not 0 <= value <= MOST_MS:
        raise InputError(
            f"{column} in line {n}",
            f"{text} is no wind.",
            "Write it in metres a second.",
            "too-large",
        )
    return value


def write_forecast(rows: tuple[Hour, ...]) -> str:
    """The same as CSV."""
    return write_table(
        COLUMNS,
        [
            {
                "time": clock(h.at_min),
                "wind_ms": round(h.wind_ms, 1),
                "gust_ms": "" if h.gust_ms is None else round(h.gust_ms, 1),
            }
            for h in rows
        ],
    )


def simulated(day: dt.date) -> tuple[Hour, ...]:
    """A stand-in for a weather service: the wind of a made-up day, which rises in the afternoon. The same
    date always has the same wind."""
    seed = day.toordinal()
    calm, swing = 3.0 + seed * 7 % 5 * 0.6, 4.0 + seed * 11 % 7
    return tuple(
        Hour(at_min=60.0 * hour, wind_ms=round(wind, 1), gust_ms=round(1.35 * wind, 1))
        for hour in range(5, 23)
        for wind in [calm + swing * math.exp(-(((hour - 15.5) / 3.5) ** 2))]
    )
