"""Satellites with their transponders, as CSV (a row for each transponder) and as JSON.

CSV columns: satellite, orbit_deg_e, polarisation_offset_deg, circular (yes or no), inclination_deg,
wanted (yes or no), transponder, frequency_mhz, symbol_rate_mbd, polarisation (H V L R), eirp_dbw,
modulation. A satellite without transponders has the last six empty. JSON: a list `satellites`, each
with the same names and a list `transponders`.
"""

from __future__ import annotations

import json
from typing import Any

from evtro.core.job import Carrier, Job, Target, edits
from evtro.core.stations.sky.survey import parse_orbit
from evtro.core.units.quantities import InputError

from .bounded import read_json
from .tables import (
    Lines,
    modulation_of,
    number_of,
    put_carrier,
    put_target,
    read_table,
    row_of,
    table_text,
    write_table,
)

SATELLITE = (
    "satellite",
    "orbit_deg_e",
    "polarisation_offset_deg",
    "circular",
    "inclination_deg",
    "wanted",
)
TRANSPONDER = (
    "transponder",
    "frequency_mhz",
    "symbol_rate_mbd",
    "polarisation",
    "eirp_dbw",
    "modulation",
)
COLUMNS = SATELLITE + TRANSPONDER
FORMAT = "evtro-satellites"


def _plain(job: Job) -> list[dict[str, Any]]:
    rows = []
    for t in job.targets:
        if t.kind != "satellite":
            continue
        rows.append(
            {
                "satellite": t.name,
                "orbit_deg_e": t.orbit_deg_e,
                "polarisation_offset_deg": t.polarisation_offset_deg,
                "circular": t.circular,
                "inclination_deg": t.inclination_deg,
                "wanted": t.wanted,
                "transponders": [
                    {
                        "transponder": c.name,
                        "frequency_mhz": c.frequency_mhz,
                        "symbol_rate_mbd": c.bandwidth_mhz,
                        "polarisation": c.polarisation,
                        "eirp_dbw": c.power,
                        "modulation": c.modulation,
                    }
                    for c in job.carriers
                    if c.target == t.id
                ],
            }
        )
    return rows


def write_json(job: Job) -> str:
    """All satellites of a job with their transponders."""
    return (
        json.dumps(
            {"format": FORMAT, "version": 1, "satellites": _plain(job)},
            ensure_ascii=False,
            indent=1,
        )
        + "\n"
    )


def write_csv(job: Job) -> str:
    """The same as CSV."""
    rows = []
    for sat in _plain(job):
        head = {k: sat[k] for k in SATELLITE}
        head |= {k: "yes" if head[k] else "no" for k in ("circular", "wanted")}
        rows += [{**head, **t} for t in sat["transponders"]] or [
            head | dict.fromkeys(TRANSPONDER, "")
        ]
    return write_table(COLUMNS, rows)


def lines_of(data: bytes) -> Lines:
    """The lines of a satellite file, CSV or JSON. Raises InputError."""
    text = table_text(data, "Satellite file")
    return _from_json(data) if text.lstrip().startswith("{") else read_table(text, COLUMNS)


def take(lines: Lines, job: Job) -> tuple[Job, list[str]]:
    """The job with the lines' satellites, and what was left out, line by line.

    A satellite of the same name is brought up to date, a transponder of the same frequency and
    polarisation replaced. Raises InputError when nothing can be used.
    """
    left: list[str] = []
    taken = 0
    for line, row in lines:
        try:
            job = _take(job, line, row)
            taken += 1
        except InputError as error:
            left.append(str(error))
    if left and not taken:
        raise InputError("Satellite file", left[0], "Nothing was taken in.", "file-wrong")
    return job, left


def _from_json(data: bytes) -> Lines:
    document = read_json(data, "Satellite file", "Export it again.")
    sats = document.get("satellites") if isinstance(document, dict) else None
    if not isinstance(sats, list):
        raise InputError(
            "Satellite file",
            "it has no list named satellites.",
            f"Its format is {FORMAT}: see the README.",
            "file-wrong",
        )
    rows: Lines = []
    for n, sat in enumerate(sats, 1):
        if not isinstance(sat, dict):
            raise InputError(
                f"satellite {n}", "it is not an object.", "See the README.", "file-wrong"
            )
        head = {k: _text(sat.get(k, "")) for k in SATELLITE}
        each = sat.get("transponders") or [{}]
        if not isinstance(each, list) or len(rows) + len(each) > 2000:
            raise InputError(
                f"satellite {n}",
                "its transponders are no list, or more than 2000 rows.",
                "Cut the file.",
                "file-wrong",
            )
        for t in each:
            inner = t if isinstance(t, dict) else {}
            rows.append((n, head | {k: _text(inner.get(k, "")) for k in TRANSPONDER}))
    return rows


def _text(value: object) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return str(value).strip()


def _yes(text: str, default: bool) -> bool:
    return default if not text else text.casefold() in ("yes", "y", "true", "1")


def _take(job: Job, line: int, row: dict[str, str]) -> Job:
    name = row["satellite"]
    where = f"line {line}"
    if not name:
        raise InputError(
            f"{where}, satellite", "the name is missing.", "Name the satellite.", "csv-name"
        )
    try:
        orbit = parse_orbit(row["orbit_deg_e"])
    except InputError as error:
        raise error.at(f"{where}, orbit_deg_e") from None
    old = next(
        (t for t in job.targets if t.kind == "satellite" and t.name.casefold() == name.casefold()),
        None,
    )
    values: dict[str, object] = {
        "orbit_deg_e": orbit,
        "polarisation_offset_deg": number_of(
            line,
            "polarisation_offset_deg",
            row["polarisation_offset_deg"] or "0",
            of=(Target, "polarisation_offset_deg"),
        ),
        "circular": _yes(row["circular"], old.circular if old else False),
        "inclination_deg": number_of(
            line, "inclination_deg", row["inclination_deg"] or "0", of=(Target, "inclination_deg")
        ),
        "wanted": _yes(row["wanted"], old.wanted if old else False),
    }
    with_it = put_target(job, "satellite", name=name, values=values, line=line)
    target = old.id if old else with_it.targets[-1].id
    carrier = _carrier(with_it, line, row, target)
    return with_it if carrier is None else put_carrier(with_it, carrier, line)


def _carrier(job: Job, line: int, row: dict[str, str], target: str) -> Carrier | None:
    if not row["frequency_mhz"] and not row["transponder"]:
        return None
    symbol = number_of(
        line, "symbol_rate_mbd", row["symbol_rate_mbd"], "msym", of=(Carrier, "bandwidth_mhz")
    )
    if isinstance(symbol, float) and symbol <= 0:
        raise InputError(
            f"line {line}, symbol_rate_mbd",
            "a transponder of 0 MBd carries nothing.",
            "Read the symbol rate off the satellite's list.",
            "symbol-zero",
        )
    modulation_of(line, row["modulation"])
    made = row_of(
        Carrier,
        {
            "id": edits.new_id(job, "carriers"),
            "target": target,
            "name": row["transponder"] or row["frequency_mhz"],
            "frequency_mhz": number_of(
                line, "frequency_mhz", row["frequency_mhz"], "mhz", of=(Carrier, "frequency_mhz")
            ),
            "bandwidth_mhz": symbol,
            "polarisation": row["polarisation"].upper(),
            "power": number_of(line, "eirp_dbw", row["eirp_dbw"], "dbw", of=(Carrier, "power")),
            "modulation": row["modulation"],
        },
        line,
    )
    assert isinstance(made, Carrier)
    return made
