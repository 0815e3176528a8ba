"""Positions as people type them, and how good they are."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from ...units.angles import Angle, Token, angle, seconds_or_south, tokens, unreadable
from ...units.quantities import InputError
from .grids import M_PER_DEG, by_code

_GEO = re.compile(
    r"^geo:([+-]?\d+(?:\.\d+)?),([+-]?\d+(?:\.\d+)?)(?:,[+-]?\d+(?:\.\d+)?)?(?:;(.*))?$",
    re.I | re.ASCII,
)
_REMEDY = (
    "Type it like 53.4805 -9.9720, 53°28'49.8\"N 9°58'19.2\"W, geo:53.4805,-9.9720, a UTM or MGRS "
    "place or a full Plus code."
)


@dataclass(frozen=True, slots=True)
class Position:
    """Latitude and longitude [deg, north and east positive], and how far off they may be as they
    were typed [m]: half a unit of the last figure."""

    latitude_deg: float
    longitude_deg: float
    good_to_m: float


def read_position(text: str) -> Position:
    """A place from typed text.

    Takes decimals with dot or comma, degrees with minutes and seconds, letters or signs, either
    order when letters say so, geo: URIs (RFC 5870), UTM, MGRS and full Plus codes. Raises InputError
    naming what is wrong, with both readings where it can be read in two ways.
    """
    try:
        return _read(text.strip())
    except InputError as error:
        code = error.code if error.code == "two-readings" else f"position-{error.code}"
        raise InputError(
            field="Position",
            reason=error.reason,
            remedy=error.remedy,
            code=code,
            choices=error.choices,
        ) from None


def _read(text: str) -> Position:
    if not text:
        raise InputError("", "nothing is typed.", _REMEDY, "empty")
    if found := _GEO.match(text):
        return _geo(text, found[1], found[2], found[3] or "")
    if code := by_code(text):
        return Position(*code)
    pieces = seconds_or_south(tokens(text, _REMEDY), text, _REMEDY)
    first, second = _halves(pieces, text)
    a, b = angle(first, text, _REMEDY), angle(second, text, _REMEDY)
    if a.side in ("E", "W") or b.side in ("N", "S"):
        a, b = b, a
    if a.side in ("E", "W") or b.side in ("N", "S"):
        raise unreadable(
            text, "has both halves of the same kind.", "Give one N or S and one E or W."
        )
    return _checked(a, b)


def _halves(pieces: list[Token], text: str) -> tuple[list[Token], list[Token]]:
    """Where the first half ends: at a letter, a semicolon, a sign, a comma, or in the middle."""
    kinds = [t.kind for t in pieces]
    numbers = [i for i, k in enumerate(kinds) if k == "number"]
    sides = [i for i, k in enumerate(kinds) if k == "side"]
    if len(numbers) == 1 and "," in pieces[numbers[0]].text:
        a, b = pieces[numbers[0]].text.split(",")
        raise unreadable(
            text,
            "is one figure with a comma, or two.",
            "Type both halves with a space between.",
            (f"{a} {b}",),
        )
    if not 2 <= len(numbers) <= 6:
        raise unreadable(text, "does not read as latitude and longitude.", _REMEDY)
    cut = _cut(pieces, kinds, numbers, sides)
    if cut is None:
        raise unreadable(text, "does not read as latitude and longitude.", _REMEDY)
    _one_comma(pieces, text)
    left = [t for t in pieces[:cut] if t.kind not in ("cut", "comma")]
    right = [t for t in pieces[cut:] if t.kind not in ("cut", "comma")]
    if not left or not right or kinds.count("cut") > 1:
        raise unreadable(text, "does not read as latitude and longitude.", _REMEDY)
    return left, right


def _cut(pieces: list[Token], kinds: list[str], numbers: list[int], sides: list[int]) -> int | None:
    if "cut" in kinds:
        return kinds.index("cut")
    if sides:
        leading = sides[0] < numbers[0]
        if len(sides) == 2:
            if leading:
                return sides[1] if sides[1] < numbers[-1] else None
            return sides[0] + 1 if sides[1] > numbers[-1] else None
        if len(sides) == 1 and not leading and sides[0] < numbers[-1]:
            return sides[0] + 1
    signs = [i for i, k in enumerate(kinds) if k == "sign" and i > numbers[0]]
    if len(signs) == 1:
        return signs[0]
    commas = [i for i, k in enumerate(kinds) if k == "comma"]
    if len(commas) == 1:
        return commas[0]
    degrees = [
        i
        for i in numbers
        if i + 1 < len(pieces) and pieces[i + 1].text in ("°", "d", "deg", "degrees")
    ]
    if len(degrees) == 2:
        return degrees[1]
    if len(numbers) % 2 == 0 and not commas:
        return numbers[len(numbers) // 2]
    return None


def _one_comma(pieces: list[Token], text: str) -> None:
    """One kind of decimals only, and no decimal comma beside a comma that parts the halves, unless
    both halves have one."""
    decimals = [t.text for t in pieces if t.kind == "number"]
    comma, dot = any("," in d for d in decimals), any("." in d for d in decimals)
    parts = any(t.kind == "comma" for t in pieces)
    told = any(t.kind in ("side", "cut") for t in pieces)
    if (comma and dot and not told) or (
        comma and parts and not ("," in decimals[0] and "," in decimals[-1])
    ):
        raise unreadable(
            text,
            "mixes commas that part with commas of decimals.",
            "Part the halves with a space or a semicolon.",
        )


def _geo(text: str, latitude: str, longitude: str, rest: str) -> Position:
    a, b = (
        Angle(float(f), "", 0.5 * 10.0 ** -len(f.partition(".")[2])) for f in (latitude, longitude)
    )
    found = _checked(a, b)
    told = re.search(r"(?:^|;)u=(\d+(?:\.\d+)?)", rest, re.I)
    good = found.good_to_m if told is None else max(float(told[1]), found.good_to_m)
    return Position(found.latitude_deg, found.longitude_deg, good)


def _checked(latitude: Angle, longitude: Angle) -> Position:
    lat, lon = latitude.value_deg, longitude.value_deg
    if not -90 <= lat <= 90:
        raise InputError(
            "",
            f"latitude {lat:g}° is outside the earth.",
            "It lies between 90 S and 90 N; perhaps latitude and longitude are swapped.",
            "outside",
        )
    if not -180 <= lon <= 360 or (longitude.side and abs(lon) > 180):
        raise InputError(
            "",
            f"longitude {lon:g}° is outside the earth.",
            "It lies between 180 W and 180 E.",
            "outside",
        )
    high = latitude.step_deg * M_PER_DEG
    wide = longitude.step_deg * M_PER_DEG * math.cos(math.radians(lat))
    return Position(lat, lon - 360 if lon > 180 else lon, math.hypot(high, wide))


def show_position(latitude: float, longitude: float, digits: int = 4) -> str:
    """A position in the form used everywhere in print: 53.4805 N 9.9720 W."""
    ns, ew = "N" if latitude >= 0 else "S", "E" if longitude >= 0 else "W"
    return f"{abs(latitude):.{digits}f} {ns} {abs(longitude):.{digits}f} {ew}"
