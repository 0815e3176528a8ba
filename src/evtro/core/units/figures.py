"""Figures as a tired person types them: read right, or refused with both readings.

Comma decimals, thousands, fractions, feet with inches, degrees with minutes, a unit behind or, for
wire, before. Where one writing has two readings the bounds of the field decide; where both fit, the
person is asked.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from .quantities import DBM_TO_DBUV, FOOT_M, SHOWN, InputError, Unit
from .wire import KCMIL_MM2, awg_to_mm2

DIPOLE_DBI = 2.15  # gain of a half-wave dipole
POUND_N = 4.4482216152605
POUND_KG = 0.45359237
_INCH_M = 0.0254
MOST_TYPED = 200

# One sign for each of the many that keyboards and web pages give.
PLAIN = str.maketrans(
    {
        "\u00a0": " ", "\u202f": " ", "\u2009": " ", "\u2007": " ", "\t": " ",
        "−": "-", "–": "-", "—": "-", "‒": "-", "‐": "-", "‑": "-", "﹣": "-", "－": "-",
        "º": "°", "˚": "°", "μ": "µ", "′": "'", "’": "'", "‘": "'", "´": "'", "`": "'",
        "″": '"', "”": '"', "“": '"', "×": "x",
        "½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8", "⅞": " 7/8",
    }
)  # fmt: skip

_METRES = {
    "m": 1.0, "metre": 1.0, "metres": 1.0, "meter": 1.0, "meters": 1.0, "km": 1000.0, "cm": 0.01,
    "mm": 0.001, "ft": FOOT_M, "foot": FOOT_M, "feet": FOOT_M, "'": FOOT_M, "in": _INCH_M,
    "inch": _INCH_M, "inches": _INCH_M, '"': _INCH_M, "''": _INCH_M, "mi": 1609.344,
    "mile": 1609.344, "miles": 1609.344, "yd": 0.9144, "yard": 0.9144, "yards": 0.9144,
}  # fmt: skip
_DEGREES = {"": 1.0, "°": 1.0, "deg": 1.0, "degree": 1.0, "degrees": 1.0}
_FEET, _INCHES = (
    frozenset(("ft", "foot", "feet", "'")),
    frozenset(("in", "inch", "inches", '"', "''")),
)

# What a unit is called, without its spaces, dots and stars, and its size in the field's unit.
_SCALES: dict[Unit, dict[str, float]] = {
    "m": {"": 1.0, **_METRES},
    "km": {"": 1.0, **{k: v / 1000 for k, v in _METRES.items()}},
    "mm": {"": 1.0, **{k: v * 1000 for k, v in _METRES.items()}},
    "mm2": {"": 1.0, "mm²": 1.0, "sqmm": 1.0, "kcmil": KCMIL_MM2,
            "mcm": KCMIL_MM2},
    "m2": {"": 1.0, "m²": 1.0, "sqm": 1.0, "cm²": 1e-4,
            "ft²": FOOT_M**2,  "sqft": FOOT_M**2,
            "in²": _INCH_M**2, "sqin": _INCH_M**2},
    "mhz": {"": 1.0, "mhz": 1.0, "ghz": 1000.0, "khz": 0.001, "hz": 1e-6},
    "msym": {"": 1.0, "mbd": 1.0, "msym": 1.0, "ms/s": 1.0, "msym/s": 1.0, "msps": 1.0, "kbd": 1e-3,
             "ks/s": 1e-3, "ksym/s": 1e-3, "ksps": 1e-3},
    "ma": {"": 1.0, "ma": 1.0, "a": 1000.0},
    "v": {"": 1.0, "v": 1.0, "vdc": 1.0, "volt": 1.0, "volts": 1.0, "mv": 1e-3},
    "ms": {"": 1.0, "m/s": 1.0, "km/h": 1 / 3.6, "kmh": 1 / 3.6, "kph": 1 / 3.6, "mph": 0.44704,
           "mi/h": 0.44704, "kn": 1852 / 3600, "kt": 1852 / 3600, "kts": 1852 / 3600,
           "knot": 1852 / 3600, "knots": 1852 / 3600, "ft/s": FOOT_M},
    "kg": {"": 1.0, "kg": 1.0, "g": 1e-3, "t": 1000.0, "lb": POUND_KG, "lbs": POUND_KG},
    "kv": {"": 1.0, "kv": 1.0, "v": 1e-3},
    "ohm": {"": 1.0, "ohm": 1.0, "ohms": 1.0, "ω": 1.0, "mω": 1e-3, "kω": 1e3},
    "ohmm": {"": 1.0, "ohmm": 1.0, "ωm": 1.0, "kωm": 1e3},
    "nm": {"": 1.0, "nm": 1.0, "knm": 1000.0, "ftlb": POUND_N * FOOT_M, "ftlbf": POUND_N * FOOT_M,
           "ftlbs": POUND_N * FOOT_M, "lbft": POUND_N * FOOT_M, "lbfft": POUND_N * FOOT_M,
           "inlb": POUND_N * _INCH_M, "inlbf": POUND_N * _INCH_M, "kgm": 9.80665},
    "n": {"": 1.0, "n": 1.0, "kn": 1000.0, "lbf": POUND_N, "lb": POUND_N, "lbs": POUND_N,
          "kgf": 9.80665},
    "pa": {"": 1.0, "pa": 1.0, "n/m²": 1.0, "kpa": 1000.0, "kn/m²": 1000.0, "psf": POUND_N / FOOT_M**2, "lb/ft²": POUND_N / FOOT_M**2},
    "mpa": {"": 1.0, "mpa": 1.0, "n/mm²": 1.0, "psi": 0.00689476, "ksi": 6.89476},
    "db": {"": 1.0, "db": 1.0},
    "dbi": {"": 1.0, "dbi": 1.0, "db": 1.0},
    "dbw": {"": 1.0, "dbw": 1.0},
    "dbuv": {"": 1.0, "dbuv": 1.0, "dbµv": 1.0, "db(uv)": 1.0, "db(µv)": 1.0},
    "dbuvm": {"": 1.0, "dbuv/m": 1.0, "dbµv/m": 1.0, "db(uv/m)": 1.0, "db(µv/m)": 1.0},
    "pct": {"": 1.0, "%": 1.0, "pct": 1.0, "percent": 1.0},
    "count": {"": 1.0},
    "deg": _DEGREES,
    "deg_true": _DEGREES,
    "deg_mag": _DEGREES,
}  # fmt: skip
# Units whose zero lies elsewhere.
_OFFSETS: dict[Unit, dict[str, float]] = {
    "dbuv": {"dbm": DBM_TO_DBUV, "dbmv": 60.0, "dbw": DBM_TO_DBUV + 30.0},
    "dbi": {"dbd": DIPOLE_DBI},
    "dbw": {"dbm": -30.0},
}
_WATTS = {
    "kW": 1.0,
    "KW": 1.0,
    "kw": 1.0,
    "Kw": 1.0,
    "W": 1e-3,
    "w": 1e-3,
    "MW": 1e3,
    "mW": 1e-6,
    "GW": 1e6,
    "µW": 1e-9,
}
_TRUE_MARKS = frozenset(("t", "true"))
_MAGNETIC_MARKS = frozenset(("m", "mag", "magnetic", "compass"))

_NUMBER = (
    r"(?:\d+[ -]\d+/\d+|\d+/\d+"  # 12 1/2, 3/16
    r"|\d{1,3}(?: \d{3})+(?!\d)(?:[.,]\d+)?"  # 11 727,48
    r"|\d[\d.,]*|[.,]\d+)(?:[eE][+-]?\d{1,3}(?![\d.,]))?"
)
_PAIR = re.compile(rf"\s*({_NUMBER})\s*([^\d\s]?[^\d]*)", re.ASCII)
_SQUARED = re.compile(r"(?<=[a-zA-Z])\^?2(?![\d.,/])", re.ASCII)
_HAS_SQUARES = ("mm2", "m2", "pa", "mpa")
_AWG_FIRST = re.compile(r"^(?:awg|#)\s*(\d+/0|\d+)(?:\s*awg)?$", re.IGNORECASE | re.ASCII)
_AWG_LAST = re.compile(r"^(\d/0|\d+)\s*(?:awg|ga\.?|gauge)$", re.IGNORECASE | re.ASCII)

Declination = Callable[[], float]


def read_figure(
    text: object,
    unit: Unit,
    least: float | None = None,
    most: float | None = None,
    declination: Declination | None = None,
) -> object:
    """Read a figure with or without a unit as `unit`; what is no text goes through unchanged.

    `least` and `most` are the field's bounds [unit]: of two readings the one that they allow is
    taken. A bearing by compass (`212°M`) in a field of true ones is turned by `declination` [deg,
    east positive]. Raises InputError without a field, which the caller adds; it carries both
    readings where they stay open.
    """
    if isinstance(text, bool):
        raise _unreadable("yes and no are no figure.")
    if not isinstance(text, str):
        return text
    if len(text) > MOST_TYPED:
        raise _unreadable(f"“{text[:30]}…” is not a number.")
    plain = text.translate(PLAIN).strip()
    if unit == "mm2" and (size := _wire(plain)) is not None:
        return size
    if unit in _HAS_SQUARES:  # elsewhere 6ft2 is six feet and two inches
        plain = _SQUARED.sub("²", plain)
    sign, body = _signed(plain)
    pairs = _pairs(body, text)
    if len(pairs) > 1:
        return float(f"{sign * _joined(pairs, unit, text):.12g}")
    number, tail = pairs[0]
    tail = tail.strip().rstrip(".").strip()
    if unit in ("deg_true", "deg_mag"):
        tail, north = _north(tail)
        found = _chosen(
            number, sign, into=lambda v: v * _scale(tail, unit), least=least, most=most, text=text
        )
        return _turned(found, unit, north, declination)
    return _chosen(number, sign, into=_reader(tail, unit), least=least, most=most, text=text)


def _unreadable(reason: str, remedy: str = "Type figures, such as 3.5 or 3,5.") -> InputError:
    return InputError("", reason, remedy, "unreadable")


def _signed(plain: str) -> tuple[float, str]:
    if plain[:1] in ("+", "-"):
        return (-1.0 if plain[0] == "-" else 1.0), plain[1:].lstrip()
    return 1.0, plain


def _pairs(body: str, text: str) -> list[tuple[str, str]]:
    """Numbers with what stands behind each."""
    pairs: list[tuple[str, str]] = []
    at = 0
    while at < len(body):
        found = _PAIR.match(body, at)
        if found is None or found.end() == at:
            raise _unreadable(f"“{text[:40]}” is not a number.")
        pairs.append((found[1], found[2]))
        at = found.end()
    if not pairs:
        raise _unreadable(f"“{text[:40]}” is not a number.")
    if len(pairs) > 1 and any(not tail.strip() for _, tail in pairs[:-1]):
        at_fault = f"{pairs[0][0]} {pairs[1][0]}{pairs[1][1]}".strip()
        raise _unreadable(
            f"“{at_fault[:40]}” is two figures, and their space is not a unit that fits here."
        )
    return pairs


def readings(number: str, text: str = "") -> list[float]:
    """What a bare number can mean: one reading, or two where a comma before three figures may part
    thousands or decimals."""
    mantissa, _, power = number.replace("E", "e").partition("e")
    size = float(f"1e{power}") if power else 1.0
    if "/" in mantissa:
        whole, _, share = mantissa.replace("-", " ").rpartition(" ")
        above, below = share.split("/")
        if int(below) == 0:
            raise _unreadable(f"“{(text or number)[:40]}” is not a number: nothing is parted by 0.")
        return [(int(whole or 0) + int(above) / int(below)) * size]
    mantissa = mantissa.replace(" ", "")
    dots, commas = mantissa.count("."), mantissa.count(",")
    if commas == 1 and dots == 0:
        decimal = float(mantissa.replace(",", "."))
        head, tail = mantissa.split(",")
        if len(tail) == 3 and 1 <= len(head) <= 3 and not head.startswith("0"):
            return [decimal * size, float(head + tail) * size]
        return [decimal * size]
    if commas and dots:
        last = max(mantissa.rfind(","), mantissa.rfind("."))
        group = "," if mantissa[last] == "." else "."
        head, tail = mantissa[:last], mantissa[last + 1 :]
        if mantissa.count(mantissa[last]) == 1 and _grouped(head, group):
            return [float(f"{head.replace(group, '')}.{tail or 0}") * size]
    elif commas > 1 and _grouped(mantissa, ","):
        return [float(mantissa.replace(",", "")) * size]
    elif dots > 1 and _grouped(mantissa, "."):
        return [float(mantissa.replace(".", "")) * size]
    elif dots <= 1 and not commas and mantissa != ".":
        return [float(mantissa) * size]
    raise _unreadable(f"“{(text or number)[:40]}” is not a number.")


def _grouped(text: str, group: str) -> bool:
    head, *rest = text.split(group)
    return bool(rest) and 1 <= len(head) <= 3 and head[0] != "0" and all(len(r) == 3 for r in rest)


def _chosen(
    number: str,
    sign: float,
    into: Callable[[float], float],
    least: float | None,
    most: float | None,
    text: str,
) -> float:
    said = readings(number, text)
    # Twelve figures are more than anyone reads, and 12 ft 6 in is 3.81 m.
    values = [float(f"{into(sign * r):.12g}") + 0.0 for r in said]
    if any(not math.isfinite(v) for v in values):
        raise _unreadable(f"“{text[:40]}” is beyond any figure.", "Check the power of ten.")
    if len(values) == 1:
        return values[0]
    fit = [v for v in values if (least is None or v >= least) and (most is None or v <= most)]
    if len(fit) == 1:
        return fit[0]
    if not fit:
        return values[0]
    tail = text.strip().translate(PLAIN)
    head, _, behind = tail.partition(number)
    writings = tuple(f"{head}{_bare(r)}{behind}".strip() for r in said)
    raise InputError(
        field="",
        reason=f"“{text.strip()[:40]}” can be read as {writings[0]} or as {writings[1]}.",
        remedy=f"Type {writings[0]} or {writings[1]}.",
        code="two-readings",
        choices=writings,
    )


def _bare(value: float) -> str:
    return f"{value:.10g}"


def _key(tail: str) -> str:
    return re.sub(r"(?<=[a-z])[·⋅*-](?=[a-z])|\s", "", tail.lower())


def _scale(tail: str, unit: Unit) -> float:
    scale = _SCALES[unit].get(_key(tail))
    if scale is None:
        raise _no_unit(tail, unit)
    return scale


def _reader(tail: str, unit: Unit) -> Callable[[float], float]:
    """What turns a figure with that unit behind it into the field's unit."""
    key = _key(tail)
    if unit == "kw" and tail:
        if tail in _WATTS:
            return lambda v: v * _WATTS[tail]
        if key in ("dbw", "dbm"):
            less = 30.0 if key == "dbw" else 60.0
            return lambda v: float(10 ** ((v - less) / 10)) if v < 400 else math.inf
        if key == "mw":
            raise InputError(
                "", f"“{tail}” can be megawatts or milliwatts.", "Type MW or mW.", "two-readings"
            )
        raise _no_unit(tail, unit)
    if unit == "kw":
        return lambda v: v
    offset = _OFFSETS.get(unit, {}).get(key)
    if offset is not None:
        return lambda v: v + offset
    scale = _scale(tail, unit)
    return lambda v: v * scale


def _no_unit(tail: str, unit: Unit) -> InputError:
    if unit in ("deg", "deg_mag") and _key(tail).lstrip("°") in _TRUE_MARKS | _MAGNETIC_MARKS:
        return _unreadable(
            f"“{tail[:40]}” names a north, and this is no bearing.",
            "Type the angle alone, such as 24.5°.",
        )
    return _unreadable(
        f"“{tail[:40]}” is not a unit that fits here.",
        f"Leave it out or use {SHOWN[unit].strip() or 'a plain count'}.",
    )


def _north(tail: str) -> tuple[str, str]:
    """The unit alone, and whose north is named: `true`, `magnetic` or nothing."""
    key = _key(tail)
    for start in ("°", "degrees", "degree", "deg", ""):
        if key.startswith(start):
            rest = key[len(start) :]
            if rest in _TRUE_MARKS:
                return start, "true"
            if rest in _MAGNETIC_MARKS:
                return start, "magnetic"
    return tail, ""


def _turned(value: float, unit: Unit, north: str, declination: Declination | None) -> float:
    wanted = "true" if unit == "deg_true" else "magnetic"
    if not north or north == wanted:
        return value
    if declination is None:
        asked = "true north" if wanted == "true" else "the compass"
        raise _unreadable(
            f"this bearing is asked from {asked}.",
            "Type it so; place and date are wanted to turn it.",
        )
    turn = declination() if wanted == "true" else -declination()
    return (value + turn) % 360.0


def _joined(pairs: list[tuple[str, str]], unit: Unit, text: str) -> float:
    """Feet with inches, metres with centimetres, degrees with minutes and seconds."""
    tails = [_key(tail.strip().rstrip(".")) for _, tail in pairs]
    tails = [t.rstrip(",-") for t in tails[:-1]] + tails[-1:]  # 12'-6", 5 ft, 6 in
    values = []
    for number, _ in pairs:
        said = readings(number, text)
        if len(said) > 1:
            raise _unreadable(f"“{text[:40]}” is not a number.")
        values.append(said[0])
    if unit in ("m", "km", "mm"):
        return _length(values, tails, text) * {"m": 1.0, "km": 1e-3, "mm": 1e3}[unit]
    if unit.startswith("deg"):
        return _degrees(values, tails, text)
    raise _unreadable(
        f"“{text[:40]}” holds {len(pairs)} figures.", "Type one figure with one unit."
    )


def _length(values: list[float], tails: list[str], text: str) -> float:
    small = tails[1]
    if len(values) == 2 and tails[0] in _FEET and (small in _INCHES or not small):
        _below(values[1], 12, "inches", text)
        _whole(values[0], "feet", text)
        return values[0] * FOOT_M + values[1] * _INCH_M
    steps = {("m", "cm"): 100, ("m", "mm"): 1000, ("km", "m"): 1000, ("cm", "mm"): 10}
    most = steps.get((tails[0], small))
    if len(values) == 2 and most is not None:
        _below(values[1], most, small, text)
        _whole(values[0], tails[0], text)
        return values[0] * _METRES[tails[0]] + values[1] * _METRES[small]
    raise _unreadable(
        f"“{text[:40]}” does not read as a length.", "Type 3.8 m, 12 ft 6 in or 12' 6\"."
    )


_ANGLE_MARKS = (
    ("°", "deg", "degrees", "degree", "d"),
    ("'", "min", "m", ""),
    ('"', "''", "sec", "s", ""),
)


def _degrees(values: list[float], tails: list[str], text: str) -> float:
    if len(values) > 3 or any(t not in m for t, m in zip(tails, _ANGLE_MARKS, strict=False)):
        raise _unreadable(f"“{text[:40]}” does not read as an angle.", "Type 12.5° or 12°30'.")
    for value in values[:-1]:
        _whole(value, "degrees and minutes before the last", text)
    for value in values[1:]:
        _below(value, 60, "minutes and seconds", text)
    return float(sum(v / 60.0**i for i, v in enumerate(values)))


def _below(value: float, most: float, name: str, text: str) -> None:
    if value >= most:
        raise _unreadable(
            f"“{text[:40]}”: {name} must be below {most:g}.", "Type it as one figure."
        )


def _whole(value: float, name: str, text: str) -> None:
    if value != int(value):
        raise _unreadable(
            f"“{text[:40]}”: {name} must be whole where smaller ones follow.",
            "Type it as one figure.",
        )


def _wire(plain: str) -> float | None:
    """Cross-section [mm²] of an AWG size, written before or behind; None where none is named."""
    found = _AWG_FIRST.match(plain) or _AWG_LAST.match(plain)
    if found is None:
        if re.search(r"awg", plain, re.IGNORECASE):
            raise _unreadable(f"“{plain[:40]}” is no wire size.", "Type it as 10 AWG or 2/0 AWG.")
        return None
    size = found[1]
    if size.endswith("/0"):
        number = 1 - int(size[:-2])
    elif set(size) == {"0"}:
        number = 1 - len(size)
    else:
        number = int(size)
    if not -3 <= number <= 40 or size == "0/0":
        raise _unreadable(f"“{plain[:40]}” is no wire size.", "AWG runs from 4/0 to 40.")
    return awg_to_mm2(number)
