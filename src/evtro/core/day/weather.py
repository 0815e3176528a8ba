"""When work at height is over for the day: wind by a forecast, and daylight.

References
----------
1. The sun's upper edge at the horizon: its centre 0.833 degrees below, refraction of 34 minutes of arc and
   16 of radius (Nautical Almanac's convention, from memory).
The crew's own limit of wind is its own rule; 10 m/s to begin with is common practice with no published source.
"""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..physics.geodesy import Floats
from ..physics.sun import midnight_s, sun
from ..units.quantities import Phrase, Quantity
from ..units.severity import State
from .plan import DAY_MIN, DayPlan

EDGE_DEG = -0.833
STEP_MIN = 5


@dataclass(frozen=True)
class Span:
    """From when until when [minutes after midnight]."""

    begin: float
    end: float


@dataclass(frozen=True)
class Sky:
    """The day overhead, each five minutes: wind that counts [m/s], nan where nothing is forecast; whether it
    is over the limit; whether it is dark. `rises`, `sets` [minutes after midnight]."""

    wind_ms: Floats
    windy: NDArray[np.bool_]
    dark: NDArray[np.bool_]
    rises: float | None
    sets: float | None

    @cached_property
    def windy_so_far(self) -> Tally:
        """Minutes of too much wind."""
        return Tally(self.windy)

    @cached_property
    def dark_so_far(self) -> Tally:
        """Minutes without light."""
        return Tally(self.dark, night=True)

    @cached_property
    def bad_so_far(self) -> Tally:
        """Minutes in which nobody should be up there."""
        return Tally(self.windy | self.dark, night=True)

    @cached_property
    def unknown_so_far(self) -> Tally:
        """Minutes of which nothing is forecast."""
        return Tally(np.isnan(self.wind_ms), night=True)


class Tally:
    """How many minutes of a day were so, up to each of its steps: asked for often, with plain numbers. With
    `night` what lies past midnight is so, too."""

    def __init__(self, which: NDArray[np.bool_], *, night: bool = False) -> None:
        self._night = night
        self._sums: list[float] = [0.0, *(STEP_MIN * np.cumsum(which)).tolist()]

    def _until(self, minute: float) -> float:
        at = min(max(minute, 0.0), float(DAY_MIN)) / STEP_MIN
        n = min(int(at), len(self._sums) - 2)
        return self._sums[n] + (at - n) * (self._sums[n + 1] - self._sums[n])

    def between(self, begin: float, end: float) -> float:
        """How much of a span was so [min]."""
        past = max(end, DAY_MIN) - max(begin, DAY_MIN) if self._night else 0.0
        return self._until(end) - self._until(begin) + past


def sky_of(plan: DayPlan, latitude_deg: float | None, longitude_deg: float | None) -> Sky:
    """The day's wind and light at a place; where no place is known it is taken as light."""
    at = np.arange(STEP_MIN / 2, DAY_MIN, STEP_MIN, dtype=np.float64)
    wind = _wind(plan, at)
    dark = np.zeros(len(at), bool)
    rises = sets = None
    if latitude_deg is not None and longitude_deg is not None:
        rises, sets = light(latitude_deg, longitude_deg, plan.date, plan.utc_offset_min)
        up = _up(latitude_deg, longitude_deg, plan.date, offset_min=plan.utc_offset_min, at=at)
        dark = ~up
    return Sky(
        wind_ms=wind,
        windy=np.nan_to_num(wind, nan=0.0) > plan.wind_most_ms,
        dark=dark,
        rises=rises,
        sets=sets,
    )


def _wind(plan: DayPlan, at: Floats) -> Floats:
    """What counts is the stronger of wind and gusts; nothing is said before the first and after the last."""
    rows = sorted(plan.forecast, key=lambda h: h.at_min)
    if not rows:
        return np.full(len(at), np.nan)
    times = [h.at_min for h in rows]
    counts = [max(h.wind_ms, h.gust_ms or 0.0) for h in rows]
    return np.interp(at, times, counts, left=np.nan, right=np.nan)


def _up(
    latitude_deg: float, longitude_deg: float, day: dt.date, *, offset_min: int, at: Floats
) -> NDArray[np.bool_]:
    _, high = sun(latitude_deg, longitude_deg, midnight_s(day) + (at - offset_min) * 60)
    return np.asarray(high > EDGE_DEG)


def light(
    latitude_deg: float, longitude_deg: float, day: dt.date, offset_min: int = 0
) -> tuple[float | None, float | None]:
    """Sunrise and sunset [minutes after midnight of a clock that is `offset_min` before universal time];
    None where the sun does not rise or set. Good to a minute below 60 degrees of latitude."""
    at = np.arange(0, DAY_MIN + 1, 2.0)
    _, high = sun(latitude_deg, longitude_deg, midnight_s(day) + (at - offset_min) * 60)
    over = high - EDGE_DEG
    found: dict[bool, float] = {}
    for n in np.flatnonzero(np.sign(over[:-1]) != np.sign(over[1:])):
        share = over[n] / (over[n] - over[n + 1])
        found.setdefault(bool(over[n + 1] > 0), float(at[n] + 2.0 * share))
    return found.get(True), found.get(False)


def spans(which: NDArray[np.bool_]) -> list[Span]:
    """The stretches of a day that are so."""
    edges = np.flatnonzero(np.diff(np.concatenate([[0], which.astype(int), [0]])))
    return [
        Span(float(a * STEP_MIN), float(b * STEP_MIN))
        for a, b in zip(edges[::2], edges[1::2], strict=True)
    ]


@dataclass(frozen=True)
class Outlook:
    """What a day's forecast says of work at height: in words, and whether it is out at the minute that was asked
    about, or at any of the day."""

    date: dt.date
    words: Phrase
    state: State


def outlook(plan: DayPlan, minute: float | None = None) -> Outlook | None:
    """The wind of a day in words, gusts counted, and of a minute of it; None where nothing is forecast."""
    at = np.arange(STEP_MIN / 2, DAY_MIN, STEP_MIN, dtype=np.float64)
    wind = _wind(plan, at)
    if np.isnan(wind).all():
        return None
    most = int(np.nanargmax(wind))
    over = spans(np.nan_to_num(wind, nan=0.0) > plan.wind_most_ms)
    words: Phrase = (
        "Forecast",
        f" ({plan.forecast_from})" if plan.forecast_from else "",
        ": up to ",
        Quantity(float(wind[most]), "ms", 0),
        f" at {_clock(at[most])}, gusts counted",
    )
    if over:
        said = ", ".join(f"{_clock(s.begin)} to {_clock(s.end)}" for s in over)
        words = (*words, "; over ", Quantity(plan.wind_most_ms, "ms", 0), f" from {said}")
    now = None if minute is None else wind[min(int(minute / STEP_MIN), len(wind) - 1)]
    if now is not None:
        words = (
            (*words, "; now ", Quantity(float(now), "ms", 0))
            if np.isfinite(now)
            else (*words, "; nothing is forecast for now")
        )
    worst = float(wind[most]) if now is None else float(now)
    state: State = (
        "unknown" if not np.isfinite(worst) else "fail" if worst > plan.wind_most_ms else "ok"
    )
    return Outlook(plan.date, (*words, "."), state)


def _clock(minute: float) -> str:
    return f"{int(minute) // 60:02d}:{int(minute) % 60:02d}"
