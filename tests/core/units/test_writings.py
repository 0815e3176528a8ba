"""Twenty thousand writings of positions and figures, made up, read back within what the form can
hold; and twenty thousand odd strings, each read or refused with reason and remedy."""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from typing import Any

import mgrs
import pytest
from openlocationcode import openlocationcode
from pyproj import Transformer

from evtro.core.stations.site.position import read_position
from evtro.core.stations.sky.survey import parse_orbit
from evtro.core.units.figures import read_figure
from evtro.core.units.quantities import InputError, Unit
from evtro.core.units.wire import awg_to_mm2

MANY = 20_000
M_PER_DEG = 111_195.0


def _sides(lat: float, lon: float) -> tuple[str, str]:
    return ("N" if lat >= 0 else "S"), ("E" if lon >= 0 else "W")


def _parts(value: float, decimals: int) -> tuple[int, int, str]:
    """Whole degrees, whole minutes and seconds with decimals, rounded without reaching 60."""
    unit = 10**decimals
    whole = round(abs(value) * 3600 * unit)
    d, rest = divmod(whole, 3600 * unit)
    m, s = divmod(rest, 60 * unit)
    return d, m, f"{s / unit:.{decimals}f}"


def _decimal(r: random.Random, lat: float, lon: float) -> tuple[str, float]:
    n = r.randint(2, 7)
    a, b = f"{lat:.{n}f}", f"{lon:.{n}f}"
    cut = r.choice([" ", ", ", "; ", "  "])
    if r.random() < 0.4 and n != 3:
        a, b, cut = a.replace(".", ","), b.replace(".", ","), r.choice([" ", "; "])
    if r.random() < 0.3:
        a, b = a.replace("-", "−"), b.replace("-", "–")
    return f"{a}{cut}{b}", 0.5 * 10**-n


def _lettered(r: random.Random, lat: float, lon: float) -> tuple[str, float]:
    n = r.randint(2, 7)
    a, b = f"{abs(lat):.{n}f}", f"{abs(lon):.{n}f}"
    ns, ew = _sides(lat, lon)
    if r.random() < 0.3:
        ns, ew = ns.lower(), ew.lower()
    forms = [
        f"{a}{ns} {b}{ew}",
        f"{a} {ns} {b} {ew}",
        f"{ns}{a}{ew}{b}",
        f"{ns} {a}, {ew} {b}",
        f"{b}{ew} {a}{ns}",
        f"{a}°{ns},{b}°{ew}",
        f"{a}{ns}{b}{ew}",
    ]
    return r.choice(forms), 0.5 * 10**-n


def _minutes(r: random.Random, lat: float, lon: float) -> tuple[str, float]:
    n = r.randint(0, 4)
    ns, ew = _sides(lat, lon)
    halves = []
    for value in (lat, lon):
        whole = round(abs(value) * 60 * 10**n)
        d, m = divmod(whole, 60 * 10**n)
        halves.append((d, f"{m / 10**n:.{n}f}"))
    (a, b), (c, d) = halves
    forms = [
        f"{a}°{b}'{ns} {c}°{d}'{ew}",
        f"{a} {b}{ns} {c} {d}{ew}",
        f"{a} {b} {ns}, {c} {d} {ew}",
        f"{a} deg {b} min {ns} {c} deg {d} min {ew}",
        f"{ns} {a} {b} {ew} {c} {d}",
        f"{a}:{b}{ns} {c}:{d}{ew}",
    ]
    return r.choice(forms), 0.5 * 10**-n / 60


def _seconds(r: random.Random, lat: float, lon: float) -> tuple[str, float]:
    n = r.randint(0, 3)
    ns, ew = _sides(lat, lon)
    a, b = _parts(lat, n), _parts(lon, n)
    minus = ("-" if lat < 0 else ""), ("-" if lon < 0 else "")
    forms = [
        f"{a[0]}°{a[1]}'{a[2]}\"{ns} {b[0]}°{b[1]}'{b[2]}\"{ew}",
        f"{a[0]}° {a[1]}′ {a[2]}″ {ns}, {b[0]}° {b[1]}′ {b[2]}″ {ew}",
        f"{a[0]} {a[1]} {a[2]}{ns} {b[0]} {b[1]} {b[2]}{ew}",
        f"{a[0]}:{a[1]}:{a[2]}{ns} {b[0]}:{b[1]}:{b[2]}{ew}",
        f"{minus[0]}{a[0]} {a[1]} {a[2]} {minus[1]}{b[0]} {b[1]} {b[2]}",
        f"{a[0]}d{a[1]}m{a[2]}s{ns} {b[0]}d{b[1]}m{b[2]}s{ew}",
    ]
    return r.choice(forms), 0.5 * 10**-n / 3600


def _geo(r: random.Random, lat: float, lon: float) -> tuple[str, float]:
    n = r.randint(2, 7)
    return f"geo:{lat:.{n}f},{lon:.{n}f}" + r.choice(["", ",12", ";u=8"]), 0.5 * 10**-n


def _plus(r: random.Random, lat: float, lon: float) -> tuple[str, float]:
    return openlocationcode.encode(lat, lon, 10), 0.5 / 8000 + 1e-9


def _grid(r: random.Random, lat: float, lon: float) -> tuple[str, float]:
    lat = max(min(lat, 83.0), -79.0)
    text = mgrs.MGRS().toMGRS(lat, lon)
    if r.random() < 0.5:
        text = f"{text[:-12]} {text[-12:-10]} {text[-10:-5]} {text[-5:]}"
    return text, 3.0 / M_PER_DEG


def _utm(r: random.Random, lat: float, lon: float) -> tuple[str, float]:
    lat = max(min(lat, 83.0), -79.0)
    zone = min(int((lon + 180) // 6) + 1, 60)
    code = (32600 if lat >= 0 else 32700) + zone
    e, n = Transformer.from_crs(4326, code, always_xy=True).transform(lon, lat)
    half = "north" if lat >= 0 else "south"
    return f"{zone} {half} {e:.0f} {n:.0f}", 1.5 / M_PER_DEG


WRITERS: list[tuple[Callable[[random.Random, float, float], tuple[str, float]], int]] = [
    (_decimal, 5),
    (_lettered, 5),
    (_minutes, 4),
    (_seconds, 5),
    (_geo, 1),
    (_plus, 1),
    (_grid, 1),
]


def test_positions_written_in_every_form_read_back() -> None:
    r = random.Random(8)
    makers = [w for w, weight in WRITERS for _ in range(weight)]
    for n in range(MANY):
        lat, lon = r.uniform(-89.9, 89.9), r.uniform(-179.9, 179.9)
        if abs(lat) < 0.01 or abs(lon) < 0.01:
            continue
        maker = _utm if n % 400 == 0 else r.choice(makers)
        text, step = maker(r, lat, lon)
        if maker in (_grid, _utm):
            lat = max(min(lat, 83.0), -79.0)
        found = read_position(text)
        east = step / math.cos(math.radians(lat)) if maker in (_grid, _utm) else step
        assert abs(found.latitude_deg - lat) <= step * 1.001, (text, lat)
        assert abs(found.longitude_deg - lon) <= east * 1.001, (text, lon)
        # What the form can hold is what the reader says that it holds.
        off = math.hypot(
            (found.latitude_deg - lat) * M_PER_DEG,
            (found.longitude_deg - lon) * M_PER_DEG * math.cos(math.radians(lat)),
        )
        assert off <= found.good_to_m * 1.02 + 3.0, (text, off, found)


LENGTHS = {
    "m": 1.0,
    " m": 1.0,
    " km": 1000.0,
    "cm": 0.01,
    " mm": 0.001,
    " ft": 0.3048,
    "'": 0.3048,
    " feet": 0.3048,
    " in": 0.0254,
    '"': 0.0254,
    " yd": 0.9144,
    " mi": 1609.344,
    "": 1.0,
}
OTHERS: dict[Unit, dict[str, float]] = {
    "mhz": {"": 1, " MHz": 1, " GHz": 1000, "kHz": 0.001},
    "ms": {"": 1, " m/s": 1, " km/h": 1 / 3.6, " mph": 0.44704, " knots": 1852 / 3600},
    "kw": {"": 1, " kW": 1, " W": 1e-3, " MW": 1e3, " mW": 1e-6},
    "db": {"": 1, " dB": 1, "dB": 1}, "deg": {"": 1, "°": 1, " deg": 1, "º": 1},
    "nm": {"": 1, " N·m": 1, " Nm": 1, " ft·lb": 1.3558179483, " ft-lb": 1.3558179483},
    "pct": {"": 1, " %": 1}, "v": {"": 1, " V": 1}, "ma": {"": 1, " mA": 1, " A": 1000},
    "m2": {"": 1, " m²": 1, " m2": 1, " sq ft": 0.09290304, " ft²": 0.09290304},
}  # fmt: skip


def _number(r: random.Random, value: float) -> tuple[str, float]:
    """A number in some hand's writing, and what stands there."""
    n = r.choice([0, 1, 2, 4])
    text = f"{abs(value):.{n}f}"
    kept = float(text)
    style = r.random()
    if n and style < 0.35:
        text = text.replace(".", ",")
    elif style < 0.5 and kept >= 10_000:
        whole, _, rest = f"{kept:,.{n}f}".partition(".")
        text = whole.replace(",", " ") + (f".{rest}" if rest else "")
    elif style < 0.6 and kept >= 1e6:
        text = f"{kept:,.{n}f}"
    minus = value < 0 and kept > 0
    return (r.choice(["-", "−", "–"]) if minus else "") + text, -kept if minus else kept


def test_figures_written_in_every_form_read_back() -> None:
    r = random.Random(9)
    for n in range(MANY):
        if n % 2:
            unit: Unit = "m"
            scales = LENGTHS
        else:
            unit = r.choice(list(OTHERS))
            scales = OTHERS[unit]
        value = math.copysign(10 ** r.uniform(-2, 7), r.random() - 0.3)
        text, kept = _number(r, value)
        tail = r.choice(list(scales))
        found = read_figure(f"{r.choice(['', ' '])}{text}{tail}", unit)
        assert found == pytest.approx(kept * scales[tail], rel=1e-9), (text, tail, unit)


def test_feet_and_inches_angles_and_wire_read_back() -> None:
    r = random.Random(10)
    for _ in range(2000):
        feet, eighths = r.randint(0, 200), r.randint(0, 95)
        inches, part = divmod(eighths, 8)
        small = f"{inches} {part}/8" if part else f"{inches}"
        form = r.choice(["{}' {}\"", "{} ft {} in", "{}'-{}\"", "{}′ {}″", "{} feet {} inches"])
        found = read_figure(form.format(feet, small), "m")
        assert found == pytest.approx(feet * 0.3048 + eighths / 8 * 0.0254, abs=1e-9)
        d, m = r.randint(0, 89), r.randint(0, 59)
        assert read_figure(f"{d}°{m}'", "deg") == pytest.approx(d + m / 60, abs=1e-9)
        awg = r.randint(-3, 40)
        name = f"{1 - awg}/0" if awg < 1 else str(awg)
        form = r.choice(["{} AWG", "AWG {}", "{}awg", "#{}"])
        assert read_figure(form.format(name), "mm2") == pytest.approx(awg_to_mm2(awg))


PIECES = ["1", "2", "40", "0", "9" * 30, ",", ".", ",,", "°", "'", '"', "-", "−", "+", " ", "  ", "N", "S",
          "E", "W", "O", "m", "ft", "in", "/", "/0", "e", "e9", "e999", "AWG", "MW", "mw", "dBm", "M", "T", "½",
          ";", ":", "d", "s", "x", "٣", "\x00", "\u202e", "nan", "inf", "geo:", "8FVC", "+", "30T", "VK", "²",
          "(", ")", "\n", "µ", "ß", "%", "·", "kN", "#"]  # fmt: skip
UNITS: list[Unit] = [
    "m",
    "mm",
    "mm2",
    "deg",
    "deg_true",
    "mhz",
    "kw",
    "dbuv",
    "count",
    "ms",
    "nm",
    "dbi",
]


def _read(reader: Callable[[str], Any], text: str) -> Any:
    """What a reader makes of a string; None where it refuses with reason and remedy."""
    said: InputError | None = None
    try:
        return reader(text)
    except InputError as error:
        said = error
    assert said.reason, text
    assert said.remedy, text
    assert said.code != "two-readings" or said.choices or "mw" in text.lower(), text
    return None


def test_odd_strings_are_read_or_refused() -> None:
    """Never another error, never what is no number, and never without a remedy."""
    r = random.Random(11)
    taken = 0
    for _ in range(MANY):
        text = "".join(r.choice(PIECES) for _ in range(r.randint(0, 9)))
        for reader in (
            lambda t: read_figure(t, r.choice(UNITS), -100, 100),
            read_position,
            parse_orbit,
        ):
            found = _read(reader, text)
            if found is None:
                continue
            taken += 1
            values = (
                [found.latitude_deg, found.longitude_deg] if reader is read_position else [found]
            )
            assert all(isinstance(v, float) and math.isfinite(v) for v in values), text
    assert taken > 500
