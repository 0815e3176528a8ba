"""Places by a code instead of two angles: UTM, MGRS and Plus codes."""

from __future__ import annotations

import math
import re
import warnings
from functools import lru_cache

import mgrs
from openlocationcode import openlocationcode
from pyproj import Transformer

from ...units.quantities import InputError

BANDS = "CDEFGHJKLMNPQRSTUVWX"
M_PER_DEG = 111_195.0  # of a great circle, mean earth radius 6371.0 km
_PLUS = re.compile(
    r"^([23456789CFGHJMPQRVWX0]{2,8}\+[23456789CFGHJMPQRVWX]{0,7})(?:[\s,]+(.+))?$", re.I | re.S
)
_MGRS = re.compile(
    rf"^(\d{{1,2}}[{BANDS}]|[ABYZ])\s*([A-HJ-NP-Z]{{2}})\s*(\d[\d\s]*)?$", re.I | re.ASCII
)
_UTM = re.compile(
    rf"^(?:utm\s*)?(\d{{1,2}})\s*([{BANDS}]|north|south)[\s,]+(\d{{5,7}}(?:[.,]\d+)?)\s*(?:m\s*)?e?"
    r"[\s,;]+(\d{1,8}(?:[.,]\d+)?)\s*(?:m\s*)?n?$",
    re.I | re.ASCII,
)

Found = tuple[float, float, float]  # latitude, longitude [deg], good to [m]


def by_code(text: str) -> Found | None:
    """A place by its code: latitude, longitude [deg] and how far off it may be [m]; None when the
    text is no code. Raises InputError for a code that names no place, or more than one."""
    plain = text.strip()
    if found := _PLUS.match(plain):
        return _plus(found[1].upper(), plain)
    if found := _UTM.match(plain):
        return _utm(
            int(found[1]), found[2].upper(), easting=found[3], northing=found[4], text=plain
        )
    if found := _MGRS.match(plain):
        return _mgrs(found[1].upper(), found[2].upper(), re.sub(r"\s", "", found[3] or ""), plain)
    return None


def _wrong(text: str, reason: str, remedy: str, choices: tuple[str, ...] = ()) -> InputError:
    code = "two-readings" if choices else "unreadable"
    return InputError(
        field="", reason=f"“{text[:60]}” {reason}", remedy=remedy, code=code, choices=choices
    )


def _plus(code: str, text: str) -> Found:
    if not openlocationcode.isValid(code):
        raise _wrong(text, "is no Plus code.", "Copy it again, such as 8FVC9G8F+6X.")
    if not openlocationcode.isFull(code):
        raise _wrong(
            text,
            "is a short Plus code, which is one of thousands of places.",
            "Type the full code, with the four figures and letters before it.",
        )
    area = openlocationcode.decode(code)
    lat, lon = area.latitudeCenter, area.longitudeCenter
    high = (area.latitudeHi - area.latitudeLo) / 2 * M_PER_DEG
    wide = (area.longitudeHi - area.longitudeLo) / 2 * M_PER_DEG * math.cos(math.radians(lat))
    return lat, lon, math.hypot(high, wide)


def _mgrs(zone: str, square: str, figures: str, text: str) -> Found:
    if len(figures) % 2 or len(figures) > 10:
        raise _wrong(
            text,
            f"has {len(figures)} figures behind its square.",
            "MGRS has as many for the easting as for the northing, five each at most.",
        )
    half = len(figures) // 2
    # The middle of the square that was named, not its corner.
    east, north = figures[:half], figures[half:]
    if half < 5:
        east, north = east + "5", north + "5"
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")  # a square that lies outside its band
            lat, lon = mgrs.MGRS().toLatLon(f"{zone}{square}{east}{north}")
    except Exception as error:
        raise _wrong(
            text, "is no square of the MGRS.", "Check zone and letters, such as 30T VK 40290 74257."
        ) from error
    return float(lat), float(lon), 0.5 * 10.0 ** (5 - half) * math.sqrt(2)


def _utm(zone: int, letter: str, easting: str, northing: str, text: str) -> Found:
    if not 1 <= zone <= 60:
        raise _wrong(text, f"names zone {zone}.", "UTM has zones 1 to 60.")
    east, north = float(easting.replace(",", ".")), float(northing.replace(",", "."))
    if not 100_000 <= east <= 900_000 or not 0 <= north <= 10_000_000:
        raise _wrong(
            text, "lies outside its zone.", "The easting has six figures, the northing up to seven."
        )
    decimals = min(
        len(re.split("[.,]", f)[1]) if re.search("[.,]", f) else 0 for f in (easting, northing)
    )
    good = 0.5 * 10.0**-decimals * math.sqrt(2)
    above, below = _unproject(zone, True, east, north), _unproject(zone, False, east, north)
    if letter in ("NORTH", "SOUTH"):
        return (*(above if letter == "NORTH" else below), good)
    if letter == "S":
        # S is the band from 32 to 40 north, and for many people the southern half.
        if _in_band("S", above[0]):
            a, b = (f"{lat:.6f} {lon:.6f}" for lat, lon in (above, below))
            raise _wrong(
                text,
                f"can be band S, {a}, or the southern half, {b}.",
                "Write “north” or “south” behind the zone.",
                (a, b),
            )
        return (*below, good)
    at = above if letter >= "N" else below
    if letter == "N" or _in_band(letter, at[0]):
        return (*at, good)
    raise _wrong(
        text,
        f"names band {letter}, but its northing lies elsewhere.",
        "Check the letter behind the zone.",
    )


def _in_band(letter: str, latitude_deg: float) -> bool:
    low = -80.0 + 8 * BANDS.index(letter)
    return low - 0.01 <= latitude_deg <= (84.0 if letter == "X" else low + 8) + 0.01


@lru_cache(maxsize=16)
def _into(epsg: int) -> Transformer:
    return Transformer.from_crs(epsg, 4326, always_xy=True)


def _unproject(zone: int, north: bool, easting_m: float, northing_m: float) -> tuple[float, float]:
    lon, lat = _into((32600 if north else 32700) + zone).transform(easting_m, northing_m)
    return float(lat), float(lon)
