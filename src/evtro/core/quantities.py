"""Figures with units: conversions of the trade, judged figures, and typed input.

Levels are dBµV in 75 ohm unless a name says otherwise.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace
from typing import Literal

State = Literal["in", "near", "out", "todo"]
Unit = Literal[
    "deg", "deg_true", "deg_mag", "m", "km", "mm", "mm2", "m2", "dbuv", "dbuvm", "db", "mhz",
    "v", "ma", "nm", "n", "pct", "count", "msym", "kw", "dbw", "dbi", "mpa", "ms", "pa",
]  # fmt: skip

DBM_TO_DBUV = 108.75  # 10 log10(75 ohm x 1 mW / (1 µV)²) = 108.7506
DBM_TO_DBMV = 48.75
BOLTZMANN_DBM_PER_HZ_K = -198.5992  # 10 log10(1.380649e-23 J/K) + 30, SI 2019
T0_K = 290.0
FOOT_M = 0.3048

_RANK: dict[State, int] = {"in": 0, "todo": 1, "near": 2, "out": 3}


class InputError(ValueError):
    """What was typed or loaded cannot be used. Says the field, what is wrong and the remedy."""

    def __init__(self, field: str, reason: str, remedy: str = "", code: str = "input") -> None:
        super().__init__(f"{field}: {reason} {remedy}".strip(": "))
        self.field, self.reason, self.remedy, self.code = field, reason, remedy, code

    def at(self, field: str) -> InputError:
        """The same error at a field, a line or a column that only the caller knows."""
        return InputError(field, self.reason, self.remedy, self.code)


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


@dataclass(frozen=True)
class Problem:
    """What and where, the figure, the limit and whose it is, and what to do about it."""

    code: str
    station: str
    state: State
    place: str
    title: Phrase
    gauge: Gauge | None
    limit: Phrase
    origin: str
    remedy: Phrase
    fix: str | None = None
    effect: Phrase = ()
    ref: str | None = None
    fields: tuple[str, ...] = ()

    def with_remedy(self, remedy: Phrase, fix: str | None, effect: Phrase) -> Problem:
        """The same problem with what to do about it."""
        return replace(self, remedy=remedy, fix=fix, effect=effect)


@dataclass(frozen=True)
class Step:
    """One thing to do on site. A danger, when there is one, is read and confirmed first."""

    key: str
    title: Phrase
    figure: Quantity | None = None
    hint: Phrase = ()
    danger: str | None = None
    danger_text: str = ""
    gate: str = ""
    measure: Gauge | None = None


def gauge(
    value: float | None,
    unit: Unit,
    low: float | None = None,
    high: float | None = None,
    reserve: float = 0.0,
) -> Gauge:
    """Judge a figure: out beyond a limit, near when inside it by less than `reserve`."""
    if value is None or not math.isfinite(value):
        return Gauge(None, unit, low, high, reserve, "todo")
    room = math.inf if low is None else value - low
    if high is not None and high - value < room:
        room = high - value
    # A thousandth of a unit absorbs rounding, so that a limit met exactly is met.
    state: State = "out" if room < -1e-3 else "near" if room < reserve - 1e-3 else "in"
    return Gauge(value, unit, low, high, reserve, state)


def worst(states: list[State] | tuple[State, ...], empty: State = "todo") -> State:
    """The gravest of some states; `empty` when there are none."""
    return max(states, key=lambda s: _RANK[s]) if states else empty


def awg_to_mm2(awg: float) -> float:
    """Cross-section of an AWG conductor [mm²]. ASTM B258: d = 0.127 mm x 92^((36-n)/39)."""
    diameter_mm: float = 0.127 * 92 ** ((36 - awg) / 39)
    return math.pi / 4 * diameter_mm**2


def mm2_to_awg(area_mm2: float) -> float:
    """Nearest AWG number of a cross-section [mm²], the inverse of `awg_to_mm2`."""
    diameter_mm = math.sqrt(4 * area_mm2 / math.pi)
    return float(36 - 39 * math.log(diameter_mm / 0.127, 92))


def noise_dbuv(bandwidth_mhz: float) -> float:
    """Thermal noise of a matched 75 ohm source at 290 K in a bandwidth [dBµV]."""
    dbm = BOLTZMANN_DBM_PER_HZ_K + 10 * math.log10(T0_K) + 10 * math.log10(bandwidth_mhz * 1e6)
    return dbm + DBM_TO_DBUV


_SHOWN: dict[Unit, str] = {
    "deg": "°", "deg_true": "°T", "deg_mag": "°M", "m": " m", "km": " km", "mm": " mm",
    "mm2": " mm²", "m2": " m²", "dbuv": " dBµV", "dbuvm": " dBµV/m", "db": " dB", "mhz": " MHz",
    "v": " V", "ma": " mA", "nm": " N·m", "n": " N", "pct": " %", "count": "", "msym": " MBd",
    "kw": " kW", "dbw": " dBW", "dbi": " dBi", "mpa": " MPa", "ms": " m/s", "pa": " N/m²",
}  # fmt: skip


def show(quantity: Quantity, units: str = "metric", level: str = "dbuv") -> str:
    """A quantity as text in metric or US units and the chosen level unit."""
    value, unit, digits = quantity.value, quantity.unit, quantity.digits
    suffix = _SHOWN[unit]
    if unit == "dbuv" and level != "dbuv":
        value -= DBM_TO_DBUV if level == "dbm" else 60.0
        suffix = " dBm" if level == "dbm" else " dBmV"
    elif units == "us" and unit == "m":
        value, suffix = value / FOOT_M, " ft"
    elif units == "us" and unit == "km":
        value, suffix = value / 1.609344, " mi"
    elif units == "us" and unit == "mm":
        value, suffix, digits = value / 25.4, " in", 1
    elif units == "us" and unit == "mm2":
        return f"{mm2_to_awg(value):.0f} AWG"
    text = f"{value:.{digits}f}"
    if text.startswith("-") and float(text) == 0:
        text = text[1:]
    return text.replace("-", "−") + suffix


def text_of(phrase: Phrase, units: str = "metric", level: str = "dbuv") -> str:
    """A phrase as plain text."""
    return "".join(part if isinstance(part, str) else show(part, units, level) for part in phrase)


_NUMBER = re.compile(r"^([+\-−]?)\s*(\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE]([+\-]?\d{1,3}))?\s*(.*)$")
_TO_METRES = {"": 1.0, "m": 1.0, "km": 1000.0, "cm": 0.01, "mm": 0.001, "ft": FOOT_M, "'": FOOT_M,
              "in": 0.0254, '"': 0.0254, "mi": 1609.344, "yd": 0.9144}  # fmt: skip
_SCALES: dict[Unit, dict[str, float]] = {
    "m": _TO_METRES,
    "km": {"": 1.0, **{k: v / 1000 for k, v in _TO_METRES.items() if k}},
    "mm": {"": 1.0, **{k: v * 1000 for k, v in _TO_METRES.items() if k}},
    "mm2": {"": 1.0, "mm2": 1.0, "mm²": 1.0, "sqmm": 1.0},
    "m2": {"": 1.0, "m2": 1.0, "m²": 1.0, "ft2": FOOT_M**2, "ft²": FOOT_M**2},
    "mhz": {"": 1.0, "mhz": 1.0, "ghz": 1000.0, "khz": 0.001},
    "kw": {"": 1.0, "kw": 1.0, "w": 0.001, "mw": 1000.0},
    "ma": {"": 1.0, "ma": 1.0, "a": 1000.0},
    "ms": {"": 1.0, "m/s": 1.0, "km/h": 1 / 3.6, "mph": 0.44704},
}


# Thousands as 11 727 are parted by a space.
_GROUPS = re.compile(r"(?<=\d) (?=\d{3}(?!\d))")


def parse_quantity(text: object, unit: Unit) -> object:
    """Read a number as a tired person types it: comma decimals, a unit behind, minus signs.

    Returns the value in `unit`; a number goes through unchanged.
    Raises InputError without a field, which the caller adds.
    """
    if isinstance(text, bool):
        raise InputError("", "yes and no are no figure.", "Type figures, such as 3.5 or 3,5.",
                         "unreadable")  # fmt: skip
    if not isinstance(text, str):
        return text
    plain = _GROUPS.sub("", text.strip().replace("\u00a0", " ").replace("\u202f", " "))
    found = _NUMBER.match(plain.replace("º", "°"))
    if not found:
        raise InputError("", f"“{text[:40]}” is not a number.", "Type figures, such as 3.5 or 3,5.",
                         "unreadable")  # fmt: skip
    sign, digits, exponent, tail = found.groups()
    value = float(digits.replace(",", ".") + (f"e{exponent}" if exponent else ""))
    if not math.isfinite(value):
        raise InputError("", f"“{text[:40]}” is beyond any figure.", "Check the power of ten.",
                         "unreadable")  # fmt: skip
    value = -value if sign in "-−" and sign else value
    tail = tail.strip().lower().rstrip(".")
    if unit == "mm2" and tail in ("awg", "ga"):
        return awg_to_mm2(value)
    if unit == "dbuv" and tail in ("dbm", "dbmv"):
        return value + (DBM_TO_DBUV if tail == "dbm" else 60.0)
    scales = _SCALES.get(unit)
    if scales is not None and tail in scales:
        return value * scales[tail]
    if scales is None and tail.replace(" ", "") in _accepted_tails(unit):
        return value
    raise InputError("", f"“{tail[:40]}” is not a unit that fits here.",
                     f"Leave it out or use {_wanted(unit)}.", "unreadable")  # fmt: skip


def _accepted_tails(unit: Unit) -> set[str]:
    shown = _SHOWN[unit].strip().lower().replace("·", "")
    more = {"deg": {"°", "deg", "°t", "°m"}, "dbuv": {"dbuv", "dbµv"}, "msym": {"msym", "ms/s"}}
    key = "deg" if unit.startswith("deg") else unit
    return {"", shown} | more.get(key, set())


def _wanted(unit: Unit) -> str:
    return _SHOWN[unit].strip() or "a plain count"
