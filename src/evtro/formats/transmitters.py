"""Transmitters with their multiplexes as CSV (a row for each multiplex) and as GeoJSON.

CSV columns: name, latitude_deg, longitude_deg, height_m (antenna above sea); then, each optional:
pattern (pairs of bearing and dB below the strongest direction, `0:8 60:0 180:12`), multiplex,
channel (RF, of the region's table) or frequency_mhz, bandwidth_mhz, modulation, erp_kw, polarisation
(H or V), label (virtual channel), services (parted by `|`), network (of one frequency). A site
without multiplexes has the rest empty. GeoJSON: a point for each site with `name`, `height_m`,
`pattern` as a list of pairs and a list `multiplexes` with the same names.
"""

from __future__ import annotations

import json
from typing import Any

from evtro.core.physics.channels import TABLES, channel_mhz, parse_frequency
from evtro.core.stations.site.position import read_position
from evtro.core.stations.sky.senders import Mux, Sender
from evtro.core.units.figures import read_figure
from evtro.core.units.quantities import InputError

from .bounded import LONGEST_CELL, read_json
from .tables import (
    Lines,
    modulation_of,
    number_of,
    read_table,
    row_of,
    table_text,
    write_table,
)

SITE = ("name", "latitude_deg", "longitude_deg", "height_m")
MUX = (
    "pattern", "multiplex", "channel", "frequency_mhz", "bandwidth_mhz", "modulation", "erp_kw",
    "polarisation", "label", "services", "network",
)  # fmt: skip
COLUMNS = SITE + MUX
MOST_ROWS, MOST_PAIRS = 2000, 361
# Occupied bandwidth and modulation where the list leaves them out.
_USUAL = {
    "north-america": (6.0, "ATSC 8-VSB"),
    "europe": (7.61, "DVB-T 64QAM 2/3"),
    "australia": (6.66, "DVB-T 64QAM 3/4"),
}


def write_csv(senders: list[Sender]) -> str:
    """A row for each multiplex."""
    rows: list[dict[str, object]] = []
    for s in senders:
        head: dict[str, object] = {k: getattr(s, k) for k in SITE}
        head["pattern"] = " ".join(f"{b:g}:{x:g}" for b, x in s.pattern)
        rows += [{**dict.fromkeys(MUX, ""), **head, **_mux_out(m)} for m in s.muxes] or [
            {**dict.fromkeys(MUX, ""), **head}
        ]
    return write_table(COLUMNS, rows)


def _mux_out(m: Mux) -> dict[str, object]:
    return {
        "multiplex": m.name,
        "channel": "",
        "frequency_mhz": m.frequency_mhz,
        "bandwidth_mhz": m.bandwidth_mhz,
        "modulation": m.modulation,
        "erp_kw": m.erp_kw,
        "polarisation": m.polarisation,
        "label": m.label,
        "services": "|".join(m.services),
        "network": m.network,
    }


def write_geojson(senders: list[Sender]) -> str:
    """A point for each site."""
    found = [
        {
            "type": "Feature",
            "geometry": {"type": "Point", "coordinates": [s.longitude_deg, s.latitude_deg]},
            "properties": {
                "name": s.name,
                "height_m": s.height_m,
                "pattern": [list(p) for p in s.pattern],
                "multiplexes": [{**_mux_out(m), "services": list(m.services)} for m in s.muxes],
            },
        }
        for s in senders
    ]
    document = {"type": "FeatureCollection", "features": found}
    return json.dumps(document, ensure_ascii=False, indent=1) + "\n"


def read(data: bytes, channels: str) -> tuple[list[Sender], list[str]]:
    """Transmitters of a file, CSV or GeoJSON, and what was left out, line by line.

    Raises InputError when nothing can be used.
    """
    text = table_text(data, "Transmitter file")
    rows = _from_geojson(data) if text.lstrip().startswith("{") else read_table(text, SITE, MUX)
    found: dict[str, Sender] = {}
    left: list[str] = []
    first: InputError | None = None
    for line, row in rows:
        try:
            _take(found, line, row, channels)
        except InputError as error:
            first = first or error
            left.append(str(error))
    if first is not None and not found:
        raise first
    return list(found.values()), left


def _take(found: dict[str, Sender], line: int, row: dict[str, str], channels: str) -> None:
    name = row["name"]
    if not name:
        raise InputError(f"line {line}, name", "the name is missing.", "Name the site.", "csv-name")
    place = _place(line, row)
    made = row_of(
        Sender, {"name": name, **place, "pattern": _pattern(line, row.get("pattern", ""))}, line
    )
    assert isinstance(made, Sender)
    old = found.get(name.casefold())
    mux = _mux(line, row, channels)
    before = old.muxes if old else ()
    pattern = made.pattern or (old.pattern if old else ())
    after = before
    if mux is not None:
        after = tuple(
            m
            for m in before
            if (m.polarisation, round(m.frequency_mhz, 2))
            != (mux.polarisation, round(mux.frequency_mhz, 2))
        ) + (mux,)
    found[name.casefold()] = made.model_copy(update={"muxes": after, "pattern": pattern})


def _place(line: int, row: dict[str, str]) -> dict[str, object]:
    """Latitude, longitude and height of a line's site, as a person writes them."""
    try:
        at = read_position(f"{row['latitude_deg']} ; {row['longitude_deg']}")
    except InputError as error:
        raise error.at(f"line {line}, latitude_deg and longitude_deg") from None
    height = number_of(line, "height_m", row["height_m"], "m", of=(Sender, "height_m"))
    return {"latitude_deg": at.latitude_deg, "longitude_deg": at.longitude_deg, "height_m": height}


def _pattern(line: int, text: str) -> list[tuple[float, float]]:
    pairs = []
    for pair in text.replace(";", " ").split():
        bearing, colon, loss = pair.partition(":")
        try:
            if not colon:
                raise ValueError
            pairs.append((_figure(bearing), abs(_figure(loss))))
        except ValueError as error:
            raise InputError(
                f"line {line}, pattern",
                f"“{pair}” is not a bearing and a loss.",
                "Write pairs such as 0:8 60:0 180:12.",
                "pattern-wrong",
            ) from error
    if len(pairs) == 1:
        raise InputError(
            f"line {line}, pattern",
            "a pattern of one bearing says nothing.",
            "Give at least two pairs, or none for all round.",
            "pattern-short",
        )
    return pairs


def _figure(text: str) -> float:
    found = read_figure(text, "count")
    assert isinstance(found, float)
    return found


def _mux(line: int, row: dict[str, str], channels: str) -> Mux | None:
    given = {k: row.get(k, "") for k in MUX}
    if not given["frequency_mhz"] and not given["channel"]:
        if any(given[k] for k in ("multiplex", "erp_kw", "modulation")):
            raise InputError(
                f"line {line}, channel",
                "neither channel nor frequency is given.",
                "Fill one of the two.",
                "csv-frequency",
            )
        return None
    usual = _USUAL.get(channels, _USUAL["europe"])
    if given["frequency_mhz"]:
        frequency = number_of(
            line,
            "frequency_mhz",
            text=given["frequency_mhz"],
            unit="mhz",
            channels=channels,
            of=(Mux, "frequency_mhz"),
        )
    else:
        frequency = _channel(line, given["channel"], channels)
    power = number_of(line, "erp_kw", given["erp_kw"], "kw", of=(Mux, "erp_kw"))
    if isinstance(power, float) and power <= 0:
        raise InputError(
            f"line {line}, erp_kw",
            f"{power:g} kW sends nothing.",
            "Fill in the effective radiated power in kW, such as 20.",
            "erp-zero",
        )
    modulation = given["modulation"] or usual[1]
    modulation_of(line, modulation)
    wide = given["bandwidth_mhz"]
    made = row_of(
        Mux,
        {
            "name": given["multiplex"] or given["label"] or f"{frequency:g} MHz",
            "frequency_mhz": frequency,
            "bandwidth_mhz": number_of(
                line, "bandwidth_mhz", wide, "mhz", of=(Mux, "bandwidth_mhz")
            )
            if wide
            else usual[0],
            "polarisation": (given["polarisation"] or "H").upper(),
            "erp_kw": power,
            "modulation": modulation,
            "label": given["label"],
            "services": [s.strip() for s in given["services"].split("|") if s.strip()],
            "network": given["network"],
        },
        line,
    )
    assert isinstance(made, Mux)
    return made


def _channel(line: int, text: str, channels: str) -> object:
    try:
        plain = text.strip()
        if plain.isdigit():
            return channel_mhz(int(plain), channels)
        return parse_frequency(plain, channels)
    except InputError as error:
        if error.code != "unreadable":
            raise error.at(f"line {line}, channel") from None
        tables = ", ".join(TABLES)
        raise InputError(
            f"line {line}, channel",
            f"“{text}” is not a channel.",
            f"Write its number; the regions are {tables}.",
            "csv-number",
        ) from error


def _from_geojson(data: bytes) -> Lines:
    document = read_json(data, "Transmitter file", "Export it again.")
    features = document.get("features") if isinstance(document, dict) else None
    if not isinstance(features, list) or len(features) > 1000:
        raise InputError(
            "Transmitter file",
            "it is no collection of up to 1000 features.",
            "Save it as a GeoJSON FeatureCollection of points.",
            "file-wrong",
        )
    rows: Lines = []
    for n, feature in enumerate(features, 1):
        inner = feature if isinstance(feature, dict) else {}
        about, shape = _object(inner.get("properties")), _object(inner.get("geometry"))
        at = shape.get("coordinates")
        if shape.get("type") != "Point" or not isinstance(at, list) or len(at) < 2:
            continue
        pairs = about.get("pattern")
        pairs = pairs[:MOST_PAIRS] if isinstance(pairs, list) else []
        head = {
            "name": str(about.get("name", "")),
            "latitude_deg": str(at[1]),
            "longitude_deg": str(at[0]),
            "height_m": str(about.get("height_m", "")),
            "pattern": " ".join(":".join(str(x) for x in p) for p in pairs if isinstance(p, list)),
        }
        each = about.get("multiplexes")
        muxes = [m for m in each if isinstance(m, dict)] if isinstance(each, list) else []
        for mux in muxes or [{}]:
            values = {k: mux.get(k, "") for k in MUX[1:]}
            services = values["services"]
            values["services"] = (
                "|".join(map(str, services)) if isinstance(services, list) else services
            )
            rows.append((n, head | {k: str(v)[:LONGEST_CELL] for k, v in values.items()}))
        if len(rows) > MOST_ROWS:
            raise InputError(
                "Transmitter file",
                f"it has more than {MOST_ROWS} multiplexes.",
                "Cut it in two.",
                "file-too-large",
            )
    if not rows:
        raise InputError(
            "Transmitter file", "it holds no points.", "Each site is a point.", "file-wrong"
        )
    return rows


def _object(value: object) -> dict[str, Any]:
    return value if isinstance(value, dict) else {}
