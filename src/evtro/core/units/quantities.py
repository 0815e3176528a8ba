"""Figures with units: conversions of the trade and judged figures.

Levels are dBµV in 75 ohm unless a name says otherwise.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from .severity import BY_SEVERITY, WORDS, State
from .wire import SAME_SIZE, wire_name, wire_sizes

Unit = Literal[
    "deg",
    "deg_true",
    "deg_mag",
    "m",
    "km",
    "mm",
    "mm2",
    "m2",
    "dbuv",
    "dbuvm",
    "db",
    "mhz",
    "v",
    "ma",
    "nm",
    "n",
    "pct",
    "count",
    "msym",
    "kw",
    "dbw",
    "dbi",
    "mpa",
    "ms",
    "pa",
    "kg",
    "kv",
    "ohm",
    "ohmm",
]

DBM_TO_DBUV = 108.75  # 10 log10(75 ohm x 1 mW / (1 µV)²) = 108.7506
DBM_TO_DBMV = 48.75
DBMV_TO_DBUV = 60.0
BOLTZMANN_DBM_PER_HZ_K = -198.5992  # 10 log10(1.380649e-23 J/K) + 30, SI 2019
T0_K = 290.0
FOOT_M = 0.3048


class InputError(ValueError):
    """What was typed or loaded cannot be used. Says the field, what is wrong and the remedy; where
    it can be read in more than one way, `choices` are the writings that cannot. `said` are reason and
    remedy with their quantities."""

    def __init__(
        self,
        field: str,
        reason: str | Phrase,
        remedy: str | Phrase = "",
        code: str = "input",
        choices: tuple[str, ...] = (),
    ) -> None:
        self.said = _whole(reason), _whole(remedy)
        self.field, self.reason, self.remedy = _whole_text(field), *map(text_of, self.said)
        super().__init__(f"{self.field}: {self.reason} {self.remedy}".strip(": "))
        self.code, self.choices = code, choices

    def at(self, field: str) -> InputError:
        """The same error at a field, a line or a column that only the caller knows."""
        return InputError(
            field=field,
            reason=self.said[0],
            remedy=self.said[1],
            code=self.code,
            choices=self.choices,
        )


@dataclass(frozen=True, slots=True)
class Quantity:
    """A number on its way to a person: `value` in `unit`, shown with `digits` decimals."""

    value: float
    unit: Unit
    digits: int = 1


Phrase = tuple[str | Quantity, ...]


@dataclass(frozen=True, slots=True)
class Gauge:
    """A figure and its limits. `reserve` is the band inside a limit that counts as near."""

    value: float | None
    unit: Unit
    low: float | None
    high: float | None
    reserve: float
    state: State


SeenState = Literal["loose", "snug", "tight", "there", "damaged", "missing", "wrong"]


@dataclass(frozen=True)
class InspectionItem:
    """One of several things that a step looks at, each for itself: how it may be seen, how it must be, how it
    was seen last; its torque against what is asked where that is known."""

    key: str
    name: Phrase
    good: tuple[SeenState, ...]
    states: tuple[SeenState, ...]
    state: SeenState | None
    torque: Gauge | None
    note: str


@dataclass(frozen=True)
class Step:
    """One thing to do on site. A danger, when there is one, is read and confirmed first. `held_by` is the
    gate before it that nobody has confirmed; `stop` why it cannot be done at all as things stand. It takes
    `minutes`, of whoever does it here or as is usual, and `crew` people; `mend` puts right what was read out of its limits; `needs` are steps that
    come before it, done or left with a reason; `high` is work at height; `wait_min` is what has to pass after it, for
    what `wait_for` says, before what follows it goes on. Where it `finds` something out, no reading is wrong;
    `things` are looked at one by one."""

    key: str
    title: Phrase
    figure: Quantity | None = None
    hint: Phrase = ()
    danger: str | None = None
    danger_text: str = ""
    gate: str = ""
    measure: Gauge | None = None
    held_by: str | None = None
    stop: Phrase = ()
    minutes: float = 0.0
    usual_min: float = 0.0
    crew: int = 1
    high: bool = False
    wait_min: float = 0.0
    wait_for: str = ""
    finds: bool = False
    mend: Phrase = ()
    needs: tuple[str, ...] = ()
    things: tuple[InspectionItem, ...] = ()


def gauge(
    value: float | None,
    unit: Unit,
    low: float | None = None,
    high: float | None = None,
    reserve: float = 0.0,
) -> Gauge:
    """Judge a figure: out beyond a limit, near when inside it by less than `reserve`."""
    if value is None or not math.isfinite(value):
        return Gauge(value=None, unit=unit, low=low, high=high, reserve=reserve, state="unknown")
    room = math.inf if low is None else value - low
    if high is not None and high - value < room:
        room = high - value
    # A thousandth of a unit absorbs rounding, so that a limit met exactly is met.
    state: State = "fail" if room < -1e-3 else "marginal" if room < reserve - 1e-3 else "ok"
    return Gauge(value=value, unit=unit, low=low, high=high, reserve=reserve, state=state)


def noise_dbuv(bandwidth_mhz: float) -> float:
    """Thermal noise of a matched 75 ohm source at 290 K in a bandwidth [dBµV]."""
    dbm = BOLTZMANN_DBM_PER_HZ_K + 10 * math.log10(T0_K) + 10 * math.log10(bandwidth_mhz * 1e6)
    return dbm + DBM_TO_DBUV


SHOWN: dict[Unit, str] = {
    "deg": "°", "deg_true": "°T", "deg_mag": "°M", "m": " m", "km": " km", "mm": " mm",
    "mm2": " mm²", "m2": " m²", "dbuv": " dBµV", "dbuvm": " dBµV/m", "db": " dB", "mhz": " MHz",
    "v": " V", "ma": " mA", "nm": " N·m", "n": " N", "pct": " %", "count": "", "msym": " MBd",
    "kw": " kW", "dbw": " dBW", "dbi": " dBi", "mpa": " MPa", "ms": " m/s", "pa": " N/m²",
    "kg": " kg", "kv": " kV", "ohm": " Ω", "ohmm": " Ω·m",
}  # fmt: skip


# What a unit becomes in US units: its size, its name, and digits where they differ.
_US: dict[Unit, tuple[float, str, int | None]] = {
    "m": (FOOT_M, " ft", None), "km": (1.609344, " mi", None), "mm": (25.4, " in", None),
    "m2": (FOOT_M**2, " ft²", None), "ms": (0.44704, " mph", 0), "kg": (0.45359237, " lb", None), "nm": (1.3558179, " ft·lb", None),
    "n": (4.4482216, " lbf", None), "pa": (47.880259, " psf", 1), "mpa": (6.894757, " ksi", 1),
}  # fmt: skip


def show(quantity: Quantity, units: str = "metric", level: str = "dbuv") -> str:
    """A quantity as text in metric or US units and the chosen level unit."""
    value, unit, digits = quantity.value, quantity.unit, quantity.digits
    suffix = SHOWN[unit]
    if unit == "dbuv" and level != "dbuv":
        value -= DBM_TO_DBUV if level == "dbm" else DBMV_TO_DBUV
        suffix = " dBm" if level == "dbm" else " dBmV"
    elif units == "us" and unit == "mm2":
        return wire_name(value) or f"{value:.1f}{suffix}"
    elif units == "us" and unit in _US:
        size, suffix, own = _US[unit]
        value, digits = value / size, digits if own is None else own
        # An inch holds 25 mm: one decimal more says as much.
        digits += unit == "mm"
    text = f"{value:.{digits}f}"
    if text.startswith("-") and float(text) == 0:
        text = text[1:]
    return text.replace("-", "−") + suffix


def _whole(said: str | Phrase) -> Phrase:
    parts = (said,) if isinstance(said, str) else said
    return tuple(_whole_text(p) if isinstance(p, str) else p for p in parts)


def _whole_text(text: str) -> str:
    # What was typed is told back, and half a surrogate pair is no text.
    return text.encode("utf-8", "replace").decode()


def unit_table() -> dict[str, object]:
    """How every unit is shown, for the client, which shows figures by it and knows no other table: its
    name, what it becomes in US units, what is taken from a level, sizes of wire; and the states with
    their words, the most severe first."""
    return {
        "states": [[state, WORDS[state]] for state in BY_SEVERITY],
        "names": {unit: name.strip() for unit, name in SHOWN.items()},
        "us": {unit: [size, name.strip(), digits] for unit, (size, name, digits) in _US.items()},
        "levels": {"dbmv": [DBMV_TO_DBUV, "dBmV"], "dbm": [DBM_TO_DBUV, "dBm"]},
        "wires": [[name, area] for name, area in wire_sizes()],
        "same_wire": SAME_SIZE,
    }


def text_of(phrase: Phrase, units: str = "metric", level: str = "dbuv") -> str:
    """A phrase as plain text."""
    return "".join(part if isinstance(part, str) else show(part, units, level) for part in phrase)
