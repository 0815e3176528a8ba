"""A sheet as lines that can be typed over: figures, and curves over frequency as a data sheet gives them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from pydantic import ValidationError

from ..job.parts import ArrayType, CableType, PartType
from ..job.typical import TYPICAL_BETWEEN_INPUTS, typical_isolation, typical_match
from ..job.words import in_words
from ..units.figures import read_figure
from ..units.quantities import InputError, Unit
from .sheets import MODELS, Data, Shelf

FIT_DB = 0.5  # how far a cable's points may lie beside a√f + bf, dB in 100 m
_FIGURE = r"[+-]?\d+(?:[.,]\d+)?"


@dataclass(frozen=True)
class SheetLine:
    """A line: its field, what it is called, the figure and its unit, or the text of a curve; whether it
    is otherwise than in what the sheet was made from."""

    field: str
    title: str
    value: float | None
    unit: Unit | None
    text: str
    own: bool
    choices: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class SheetCurve:
    """A curve over frequency as pairs of MHz and dB, gain up and loss down, and the same of what the sheet
    was made from; `field` is the line that it is typed in."""

    field: str
    title: str
    points: tuple[tuple[float, float], ...]
    base: tuple[tuple[float, float], ...]


_Row = tuple[str, str, Unit | None]
_CABLE: tuple[_Row, ...] = (
    ("points", "loss by frequency, MHz and dB in a hundred metres", None),
    ("loop_ohm_km", "centre and braid, Ω per km", "count"),
    ("diameter_mm", "diameter", "mm"),
    ("velocity", "velocity, share of light's", "count"),
    ("impedance_ohm", "impedance, Ω", "count"),
    ("price_m", "price of a metre", "count"),
)
_ARRAY: tuple[_Row, ...] = (
    ("gain", "gain by frequency, MHz and dBi", None),
    ("low_mhz", "band from", "mhz"),
    ("high_mhz", "band to", "mhz"),
    ("beamwidth_deg", "half-power beam", "deg"),
    ("front_back_db", "front to back", "db"),
    ("length_m", "length", "m"),
    ("wind_area_m2", "wind area", "m2"),
)
# What a class has typically where nobody told it: an empty line goes back to that.
_LOSSES = ("return_loss_in_db", "return_loss_out_db", "isolation_db", "input_isolation_db")
_AT = (("input", "at the input"), ("interstage", "between stages"), ("output", "at the output"))


def lines_of(data: Data, base: Data | None) -> list[SheetLine]:
    """All lines of a sheet, beside what it was made from."""
    same = base if type(base) is type(data) else None
    return [
        SheetLine(
            field=field,
            title=title,
            value=_value(data, field) if unit else None,
            unit=unit,
            text="" if unit else text_of_curve(data, field),
            own=same is None or _said(data, field) != _said(same, field),
            choices=choices,
        )
        for field, title, unit, choices in _rows(data)
    ]


def curves_of(data: Data, base: Data | None) -> list[SheetCurve]:
    """All curves of a sheet."""
    same = base if type(base) is type(data) else None
    if isinstance(data, PartType):
        told = [(f"paths.{n}.gain_db", way_words(data, n)) for n in range(len(data.paths))]
    else:
        told = [
            ("points", "in a hundred metres") if isinstance(data, CableType) else ("gain", "gain")
        ]
    return [
        SheetCurve(
            field,
            title if len(told) > 1 or not isinstance(data, PartType) else "",
            _points(data, field),
            _points(same, field) if same else (),
        )
        for field, title in told
    ]


def _points(data: Data, field: str) -> tuple[tuple[float, float], ...]:
    if isinstance(data, CableType):
        return tuple(
            (f, -float(data.loss_db(100, f)))
            for f in (5.0, 50.0, 200.0, 450.0, 860.0, 1400.0, 2150.0)
        )
    found = _at(data, field)
    return found if isinstance(found, tuple) else ()


def _rows(data: Data) -> Iterator[_Choosing]:
    yield "name", "name", None, ()
    if isinstance(data, CableType):
        yield from ((*row, ()) for row in _CABLE)
    elif isinstance(data, ArrayType):
        yield from ((*row, ()) for row in _ARRAY)
    else:
        yield from _part_rows(data)


_Choosing = tuple[str, str, Unit | None, tuple[tuple[str, str], ...]]  # with what may be chosen


def _part_rows(part: PartType) -> Iterator[_Choosing]:
    for n, path in enumerate(part.paths):
        way = "" if len(part.paths) == 1 else f", {way_words(part, n)}"
        yield from _path_rows(n, way, active=path.noise_figure_db is not None)
    if part.setting:
        yield "setting_most_db", "can be turned down by", "db", ()
        if any(p.noise_figure_db is not None for p in part.paths):
            yield "setting_at", "where the knob sits", None, _AT
    if part.input_low_dbuv is not None:
        yield "input_low_dbuv", "input from", "dbuv", ()
        yield "input_high_dbuv", "input to", "dbuv", ()
    if part.bands:
        yield from _lnb_rows(part)
    yield from _port_rows(part)
    yield "price", "price", "count", ()
    if part.load is not None:
        yield "load.ma", "needs", "ma", ()
        yield "load.low_v", "works from", "v", ()
        yield "load.high_v", "works to", "v", ()
    if part.supply is not None:
        yield "supply.volts", "gives", "v", ()
        yield "supply.most_ma", "gives at most", "ma", ()


def _path_rows(n: int, way: str, *, active: bool) -> Iterator[_Choosing]:
    kind = "gain" if active else "loss"
    yield f"paths.{n}.gain_db", f"{kind} by frequency{way}, MHz and dB", None, ()
    if not active:
        return
    second = f"paths.{n}.second_output_dbuv"
    yield f"paths.{n}.noise_figure_db", f"noise figure{way}", "db", ()
    yield f"paths.{n}.rated_output_dbuv", f"output, two carriers, third order{way}", "dbuv", ()
    yield f"paths.{n}.rated_ratio_db", f"third-order products below by{way}", "db", ()
    yield second, f"output, two carriers, second order{way}", "dbuv", ()
    yield f"paths.{n}.second_ratio_db", f"second-order products below by{way}", "db", ()
    yield f"paths.{n}.back_db", f"lets back{way}, MHz and dB", None, ()


def _lnb_rows(part: PartType) -> Iterator[_Choosing]:
    yield "noise_db", "noise figure", "db", ()
    yield "lnb_gain_db", "gain", "db", ()
    yield "drift_mhz", "oscillator drifts by up to", "mhz", ()
    yield "most_output_dbuv", "output of all together, at most", "dbuv", ()
    for n, band in enumerate(part.bands):
        yield f"bands.{n}.low_mhz", f"band {band.name} from", "mhz", ()
        yield f"bands.{n}.high_mhz", f"band {band.name} to", "mhz", ()
        yield f"bands.{n}.lo_mhz", f"band {band.name}, oscillator", "mhz", ()
        yield f"bands.{n}.volts", f"band {band.name}, asked for by", "v", ()


def _port_rows(part: PartType) -> Iterator[_Choosing]:
    if part.inputs:
        yield "input_ohm", "impedance of inputs, Ω", "count", ()
        yield "return_loss_in_db", "return loss of inputs, MHz and dB", None, ()
    if part.outputs:
        yield "output_ohm", "impedance of outputs, Ω", "count", ()
        yield "return_loss_out_db", "return loss of outputs, MHz and dB", None, ()
    if part.outputs > 1 and part.inputs:
        yield "isolation_db", "isolation between outputs, MHz and dB", None, ()
    if part.selects:
        yield "input_isolation_db", "isolation between inputs, MHz and dB", None, ()
        for n, asks in enumerate(part.select):
            if asks.position:
                continue
            yield f"select.{n}.low_v", f"input {asks.input + 1} asked for from", "v", ()
            yield f"select.{n}.high_v", f"input {asks.input + 1} asked for to", "v", ()


def way_words(part: PartType, n: int) -> str:
    """Which ways a path is of, by the numbers of their ports."""

    def ports(numbers: tuple[int, ...]) -> str:
        first, last = numbers[0] + 1, numbers[-1] + 1
        return f"{first}" if first == last else f"{first} to {last}"

    path = part.paths[n]
    if part.inputs > 1 and part.outputs == 1:
        return f"input {ports(path.inputs)}"
    if part.inputs == 1:
        return f"output {ports(path.outputs)}"
    return f"input {ports(path.inputs)} to output {ports(path.outputs)}"


def _said(data: Data, field: str) -> object:
    return text_of_curve(data, field) or _value(data, field)


def _at(data: Data, field: str) -> Any:
    found: Any = data
    for step in field.split("."):
        if found is None:
            return None
        found = (
            found[int(step)]
            if step.isdigit() and int(step) < len(found)
            else (None if step.isdigit() else getattr(found, step, None))
        )
    return found


def _value(data: Data, field: str) -> float | None:
    found = _at(data, field)
    return float(found) if isinstance(found, (int, float)) else None


def _sign(data: Data, field: str) -> int:
    """Losses are typed as they stand on a sheet, without a sign."""
    if isinstance(data, PartType) and field.endswith(".gain_db"):
        path = data.paths[int(field.split(".")[1])]
        return 1 if path.noise_figure_db is not None else -1
    return 1


def text_of_curve(data: Data, field: str) -> str:
    """A curve, or a text, as it is typed."""
    if isinstance(data, CableType) and field == "points":
        points = [(f, float(data.loss_db(100, f))) for f in (50.0, 200.0, 860.0, 2150.0)]
        return _curve_text(points, 1)
    found = _at(data, field)
    if field in _LOSSES and isinstance(data, PartType) and found is None:
        found = _typical(data, field)
    if isinstance(found, str):
        return found
    return _curve_text(found, _sign(data, field)) if isinstance(found, tuple) else ""


def _typical(part: PartType, field: str) -> tuple[tuple[float, float], ...]:
    if field == "input_isolation_db":
        return TYPICAL_BETWEEN_INPUTS
    of = typical_isolation if field == "isolation_db" else typical_match
    return of(part.draws_as)


def _curve_text(points: Any, sign: int) -> str:
    return "; ".join(
        f"{f:g} {sign * v + 0.0:.10g}"
        if sign * v == round(sign * v, 2)
        else f"{f:g} {sign * v:.2f}"
        for f, v in points
    )


def retyped(shelf: Shelf, data: Data, field: str, text: str) -> Data:
    """The data with a line as somebody typed it. Raises InputError naming the line."""
    row = next((r for r in _rows(data) if r[0] == field), None)
    if row is None:
        raise InputError(
            "Line", f"this sheet has no “{field[:40]}”.", "Reload the sheet.", "row-missing"
        )
    _, title, unit, _ = row
    try:
        plain = data.model_dump(mode="json")
        if isinstance(data, CableType) and field == "points":
            plain["a"], plain["b"] = _fitted(curve_of(text))
        else:
            _put(plain, field, _typed(data, field, text, unit))
            if field.startswith("paths.") and field.endswith(".gain_db"):
                _range_follows(plain, data, field)
        return MODELS[shelf].model_validate(plain)
    except ValidationError as error:
        raise in_words(error, MODELS[shelf])[0].at(title) from None
    except InputError as error:
        raise error.at(title) from None


def _typed(data: Data, field: str, text: str, unit: Unit | None) -> object:
    text = text.strip()
    now = _at(data, field)
    if unit is not None:
        return None if text == "" else read_figure(text, unit)
    if field in _LOSSES:
        told = tuple((f, abs(v)) for f, v in curve_of(text)) if text else None
        same = isinstance(data, PartType) and told == _typical(data, field)
        return None if same else told
    if field.endswith(".back_db"):  # a loss, whatever its sign; without a word nothing comes back
        return tuple((f, -abs(v) + 0.0) for f, v in curve_of(text)) if text else None
    if isinstance(now, tuple):
        sign = _sign(data, field)
        points = curve_of(text)
        if sign < 0 and any(v < 0 for _, v in points) and any(v > 0 for _, v in points):
            raise InputError(
                "",
                "some losses have a sign and some have none.",
                "Type losses without a sign.",
                "unreadable",
            )
        return tuple((f, sign * abs(v) + 0.0 if sign < 0 else v) for f, v in points)
    return text


def _put(plain: dict[str, Any], field: str, value: object) -> None:
    *way, last = field.split(".")
    at: Any = plain
    for step in way:
        at = at[int(step)] if step.isdigit() else at[step]
    at[last] = value


def _range_follows(plain: dict[str, Any], data: Data, field: str) -> None:
    """A range that ended at the points of the old curve ends at those of the new one: nothing is told
    beyond the points of a sheet."""
    assert isinstance(data, PartType)
    n = int(field.split(".")[1])
    new = plain["paths"][n]["gain_db"]
    plain["paths"][n]["low_mhz"], plain["paths"][n]["high_mhz"] = new[0][0], new[-1][0]


def curve_of(text: str) -> tuple[tuple[float, float], ...]:
    """Points as they stand on a sheet, `950 3.2; 2150 6` or one to a line, with decimal commas and units
    or without, by rising frequency [MHz]. Raises InputError."""
    plain = re.sub(r"(?i)\b(mhz|dbi|db)\b|(?<=\d)(?=mhz|db)", " ", text.replace("−", "-"))
    plain = re.sub(r"(?i)(mhz|dbi|db)", " ", plain)
    entries = [e for e in re.split(r"[;\n|]|,(?=\s)", plain) if e.strip()]
    points = []
    for entry in entries:
        said = re.fullmatch(rf"\s*({_FIGURE})\s*[\s:=]\s*({_FIGURE})\s*", entry)
        if said is None:
            raise InputError(
                "",
                f"“{entry.strip()[:40]}” is no frequency with its figure.",
                "Type pairs such as 950 3.2; 2150 6.",
                "unreadable",
            )
        points.append((float(said[1].replace(",", ".")), float(said[2].replace(",", "."))))
    if not points:
        raise InputError(
            "", "no points are told.", "Type pairs such as 950 3.2; 2150 6.", "unreadable"
        )
    points.sort()
    if len({f for f, _ in points}) < len(points):
        raise InputError("", "one frequency has two figures.", "Leave one of them.", "unreadable")
    return tuple(points)


def _fitted(points: tuple[tuple[float, float], ...]) -> tuple[float, float]:
    """a and b of a√f + bf [dB in 100 m] through the points of a sheet, both at least zero. Raises
    InputError for points that no cable has."""
    f = np.array([p[0] for p in points])
    loss = np.abs([p[1] for p in points])
    if (f <= 0).any():
        raise InputError(
            "", "a cable's loss is not told at 0 MHz.", "Leave that point out.", "unreadable"
        )
    a, b = _least_squares(np.sqrt(f), f, loss)
    off = a * np.sqrt(f) + b * f - loss
    worst = int(np.abs(off).argmax())
    if abs(off[worst]) > max(FIT_DB, 0.05 * loss[worst]):
        raise InputError(
            "",
            f"no cable loses so: at {f[worst]:g} MHz the curve through all points misses "
            f"yours by {abs(off[worst]):.1f} dB.",
            "Look for a slip in that point.",
            "cable-curve",
        )
    return float(f"{a:.6g}"), float(f"{b:.6g}")


def _least_squares(x: Any, y: Any, loss: Any) -> tuple[float, float]:
    weight = 1 / np.maximum(loss, 0.1)  # a tenth of a dB counts more where little is lost
    both = np.stack([x, y], axis=1) * weight[:, None]
    if len(x) > 1:
        a, b = np.linalg.lstsq(both, loss * weight, rcond=None)[0].tolist()
        if a >= 0 and b >= 0:
            return a, b
    alone = [float((c * loss * weight**2).sum() / (c * c * weight**2).sum()) for c in (x, y)]
    miss = [
        float(((loss - k * c) ** 2 * weight**2).sum()) for k, c in zip(alone, (x, y), strict=True)
    ]
    return (alone[0], 0.0) if miss[0] <= miss[1] or len(x) == 1 else (0.0, alone[1])
