"""Own sheets of the workshop in open formats.

JSON: `{"evtro_sheets": 1, "sheets": [{shelf, base, origin, of_date, data}]}`, `data` as in a job file,
whole. CSV: a line for each way of a part, each cable, each antenna, columns as in `COLUMNS`: `curve` in
pairs of MHz and dB (loss of a passive part, gain of an active one, dB in 100 m of a cable, dBi of an
antenna); `from` and `to` are numbers of ports, counted from 1. What a table has no column for, such as the
bands of an LNB, is left as it was; a new part of that kind comes in as JSON.
"""

from __future__ import annotations

import datetime as dt
import json
from typing import Any

from pydantic import BaseModel, ConfigDict, ValidationError

from evtro.core.job.parts import ArrayType, CableType, Catalogue, PartType
from evtro.core.job.words import in_words
from evtro.core.units.quantities import InputError
from evtro.core.workshop import SHELVES, Data, OwnSheet, Shelf, retyped
from evtro.core.workshop.lines import curve_of, text_of_curve
from evtro.core.workshop.sheets import MODELS, known

from .bounded import held_to, not_empty, read_json
from .tables import Lines, read_table, table_text, write_table

COLUMNS = ("shelf", "key", "name", "draws_as", "inputs", "outputs", "from", "to", "curve", "noise_figure_db",
           "rated_output_dbuv", "rated_ratio_db", "second_output_dbuv", "second_ratio_db", "needs_ma",
           "needs_low_v", "needs_high_v", "gives_v", "gives_ma", "passes", "loop_ohm_km", "diameter_mm",
           "low_mhz", "high_mhz", "beamwidth_deg", "front_back_db", "length_m", "wind_area_m2", "impedance_ohm",
           "input_ohm", "output_ohm", "return_loss_in", "return_loss_out", "isolation", "between_inputs",
           "drift_mhz", "most_output_dbuv", "price", "origin", "of_date")  # fmt: skip
NEEDED = ("shelf", "key", "name", "curve")
MOST_MB = 5
_REMEDY = "Take a file that this workshop wrote, or one with the columns that the README names."
_FIGURES = {
    "noise_figure_db",
    "rated_output_dbuv",
    "rated_ratio_db",
    "second_output_dbuv",
    "second_ratio_db",
}
_LOSSES = {
    "return_loss_in": "return_loss_in_db",
    "return_loss_out": "return_loss_out_db",
    "isolation": "isolation_db",
    "between_inputs": "input_isolation_db",
}
_PLAIN = ("input_ohm", "output_ohm", "price", "drift_mhz", "most_output_dbuv")
_POWER = {
    "needs_ma": ("load", "ma"),
    "needs_low_v": ("load", "low_v"),
    "needs_high_v": ("load", "high_v"),
    "gives_v": ("supply", "volts"),
    "gives_ma": ("supply", "most_ma"),
}


class _Told(BaseModel):
    """A sheet of a JSON file."""

    model_config = ConfigDict(extra="forbid")

    shelf: Shelf
    base: str = ""
    origin: str = ""
    of_date: dt.date
    data: dict[str, Any]


def write_json(sheets: list[OwnSheet]) -> str:
    """All sheets, whole."""
    rows = [
        {
            "shelf": s.shelf,
            "base": s.base,
            "origin": s.origin,
            "of_date": s.of_date.isoformat(),
            "data": s.data.model_dump(mode="json"),
        }
        for s in sheets
    ]
    return json.dumps({"evtro_sheets": 1, "sheets": rows}, indent=1, ensure_ascii=False) + "\n"


def write_csv(sheets: list[OwnSheet]) -> str:
    """All sheets as a table."""
    return write_table(COLUMNS, [row for s in sheets for row in _rows(s)])


def _rows(sheet: OwnSheet) -> list[dict[str, object]]:
    data = sheet.data
    head: dict[str, object] = {
        "shelf": sheet.shelf,
        "key": data.key,
        "name": data.name,
        "origin": sheet.origin,
        "of_date": sheet.of_date.isoformat(),
    }
    if isinstance(data, CableType):
        return [
            {
                **head,
                "curve": text_of_curve(data, "points"),
                "loop_ohm_km": data.loop_ohm_km,
                "diameter_mm": data.diameter_mm,
                "impedance_ohm": data.impedance_ohm,
                "price": "" if data.price_m is None else data.price_m,
            }
        ]
    if isinstance(data, ArrayType):
        own = ("low_mhz", "high_mhz", "beamwidth_deg", "front_back_db", "length_m", "wind_area_m2")
        return [
            {**head, "curve": text_of_curve(data, "gain"), **{k: getattr(data, k) for k in own}}
        ]
    head |= {
        "draws_as": data.draws_as,
        "inputs": data.inputs,
        "outputs": data.outputs,
        "passes": " ".join(f"{i + 1}-{o + 1}" for i, o in data.dc),
    }
    for column in _PLAIN:
        if getattr(data, column) is not None:
            head[column] = getattr(data, column)
    for column, field in _LOSSES.items():
        if getattr(data, field) is not None:
            head[column] = text_of_curve(data, field)
    for column, (of, field) in _POWER.items():
        there = getattr(data, of)
        if there is not None:
            head[column] = getattr(there, field)
    if not data.paths:
        return [{**head, "curve": ""}]
    return [
        {
            **head,
            "from": _ports(p.inputs),
            "to": _ports(p.outputs),
            "curve": text_of_curve(data, f"paths.{n}.gain_db"),
            **{k: getattr(p, k) for k in _FIGURES if p.noise_figure_db is not None},
        }
        for n, p in enumerate(data.paths)
    ]


def _ports(ports: tuple[int, ...]) -> str:
    return " ".join(str(p + 1) for p in ports)


def read(data: bytes, shop: Catalogue, today: dt.date) -> list[OwnSheet]:
    """The sheets of a file, JSON or CSV. Raises InputError naming the place; nothing is taken then."""
    held_to(data, MOST_MB, "File", "A workshop's sheets have less: this is another file.")
    not_empty(data, "File", _REMEDY)
    if data.lstrip()[:1] == b"{":
        return _of_json(data)
    return _of_lines(read_table(table_text(data, "CSV file"), NEEDED, COLUMNS), shop, today)


def _of_json(data: bytes) -> list[OwnSheet]:
    told = read_json(data, "File", _REMEDY)
    rows = told.get("sheets") if isinstance(told, dict) and told.get("evtro_sheets") == 1 else None
    if not isinstance(rows, list):
        raise InputError("File", "it holds no sheets of a workshop.", _REMEDY, "sheets-none")
    found = []
    for n, row in enumerate(rows, start=1):
        try:
            one = _Told.model_validate(row)
            found.append(
                OwnSheet(
                    one.shelf,
                    MODELS[one.shelf].model_validate(one.data),
                    base=one.base or one.data["key"],
                    origin=one.origin[:200],
                    of_date=one.of_date,
                )
            )
        except ValidationError as error:
            raise _at(in_words(error, PartType)[0], f"sheet {n}") from None
        except InputError as error:
            raise _at(error, f"sheet {n}") from None
    return found


def _at(error: InputError, place: str) -> InputError:
    return error.at(f"{place}, {error.field}" if error.field else place)


def _of_lines(lines: Lines, shop: Catalogue, today: dt.date) -> list[OwnSheet]:
    """Lines of one key make one sheet."""
    by_key: dict[tuple[str, str], Lines] = {}
    for line, row in lines:
        by_key.setdefault((row["shelf"].lower(), row["key"].lower()), []).append((line, row))
    found = []
    for (shelf, key), rows in by_key.items():
        line, first = rows[0]
        if shelf not in SHELVES:
            raise InputError(
                f"line {line}, shelf",
                f"“{first['shelf'][:40]}” is none.",
                "Write part, cable or array.",
                "csv-value",
            )
        try:
            old = known(shop, shelf).get(key)
            data = _part(rows, key, old) if shelf == "part" else _simple(shelf, first, key, old)
            day = dt.date.fromisoformat(first["of_date"]) if first.get("of_date") else today
        except ValidationError as error:
            raise _at(in_words(error, MODELS[shelf])[0], f"line {line}") from None
        except InputError as error:
            raise _at(error, f"line {line}") from None
        except ValueError:
            raise InputError(
                f"line {line}, of_date",
                f"“{first['of_date'][:40]}” is no day.",
                "Write it as 2026-11-27.",
                "csv-value",
            ) from None
        found.append(
            OwnSheet(
                shelf,
                data,
                base=key,
                origin=first.get("origin", "")[:200] or "own sheet",
                of_date=day,
            )
        )
    return found


def _figure(row: dict[str, str], column: str) -> float | None:
    text = row.get(column, "").strip().replace(",", ".")
    if not text:
        return None
    try:
        return float(text)
    except ValueError:
        raise InputError(
            column,
            f"“{text[:40]}” is no number.",
            "Write figures only, in the unit that the column names.",
            "csv-value",
        ) from None


def _simple(shelf: Shelf, row: dict[str, str], key: str, old: Data | None) -> Data:
    """A cable or an antenna of a line."""
    fields = {
        "cable": ("loop_ohm_km", "diameter_mm", "impedance_ohm"),
        "array": (
            "low_mhz",
            "high_mhz",
            "beamwidth_deg",
            "front_back_db",
            "length_m",
            "wind_area_m2",
        ),
    }
    plain: dict[str, Any] = (
        old.model_dump() if old is not None else {"key": key, "short": row["name"][:40]}
    )
    plain["name"] = row["name"]
    for column in fields[shelf]:
        value = _figure(row, column)
        if value is not None:
            plain[column] = value
    if shelf == "cable" and (price := _figure(row, "price")) is not None:
        plain["price_m"] = price
    if shelf == "array":
        plain.pop("short", None)
        plain["gain"] = curve_of(row["curve"])
        return ArrayType.model_validate(plain)
    plain.setdefault("a", 0.0)
    plain.setdefault("b", 0.0)
    return retyped("cable", CableType.model_validate(plain), "points", row["curve"])


def _part(rows: Lines, key: str, old: Data | None) -> PartType:
    """A part of its lines: each is a way."""
    line, first = rows[0]
    plain: dict[str, Any] = old.model_dump() if old is not None else {"key": key}
    plain["name"] = first["name"]
    for column, into in (("inputs", "inputs"), ("outputs", "outputs")):
        count = _figure(first, column)
        if count is not None:
            plain[into] = int(count)
    if first.get("draws_as"):
        plain["draws_as"] = first["draws_as"]
    for column in _PLAIN:
        if (ohm := _figure(first, column)) is not None:
            plain[column] = ohm
    for column, field in _LOSSES.items():
        if first.get(column, "").strip():
            plain[field] = tuple((f, abs(v)) for f, v in curve_of(first[column]))
    for column, (of, field) in _POWER.items():
        value = _figure(first, column)
        if value is not None:
            plain[of] = {**(plain.get(of) or {}), field: value}
    if first.get("passes"):
        plain["dc"] = tuple(_pair(text, line) for text in first["passes"].split())
    ways = [row for _, row in rows if row["curve"].strip()]
    before = plain.get("paths") or ()
    paths = []
    for n, row in enumerate(ways):
        path = dict(before[n]) if n < len(before) else {}
        for column, into in (("from", "inputs"), ("to", "outputs")):
            if row.get(column):
                path[into] = tuple(_port(t, column) for t in row[column].replace(",", " ").split())
        figures = {c: v for c in _FIGURES if (v := _figure(row, c)) is not None}
        path |= figures
        points = curve_of(row["curve"])
        sign = 1 if path.get("noise_figure_db") is not None else -1
        path["gain_db"] = tuple((f, sign * abs(v) + 0.0 if sign < 0 else v) for f, v in points)
        path["low_mhz"], path["high_mhz"] = points[0][0], points[-1][0]
        paths.append(path)
    if paths:
        plain["paths"] = tuple(paths)
    return PartType.model_validate(plain)


def _port(text: str, column: str) -> int:
    if not text.isdigit() or int(text) < 1:
        raise InputError(column, f"“{text[:20]}” is no port.", "Number ports from 1.", "csv-value")
    return int(text) - 1


def _pair(text: str, line: int) -> tuple[int, int]:
    start, dash, end = text.partition("-")
    if not dash:
        raise InputError(
            "passes",
            f"“{text[:20]}” is no pair of ports.",
            "Write input and output, such as 1-2.",
            "csv-value",
        )
    return _port(start, "passes"), _port(end, "passes")
