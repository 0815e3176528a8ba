"""Positions as people type them."""

from __future__ import annotations

import re

from ..quantities import InputError

_GEO = re.compile(
    r"^geo:([+-]?\d+(?:\.\d+)?),([+-]?\d+(?:\.\d+)?)(?:,([+-]?\d+(?:\.\d+)?))?(?:;.*)?$", re.I
)
_ANGLE = re.compile(
    r"""^\s*(?P<before>[NSEWO])?\s*(?P<sign>[+\-−])?\s*
        (?P<deg>\d+(?:[.,]\d+)?)\s*(?:°|º|d|:|\s|$)?\s*
        (?:(?P<min>\d+(?:[.,]\d+)?)\s*(?:'|′|’|m|:|\s|$)\s*)?
        (?:(?P<sec>\d+(?:[.,]\d+)?)\s*(?:"|″|”|''|s)?\s*)?
        (?P<after>[NSEWO])?\s*$""",
    re.X | re.I,
)
_REMEDY = "Type it like 53.4805 -9.9720, 53°28'49.8\"N 9°58'19.2\"W or geo:53.4805,-9.9720."


def parse_position(text: str) -> tuple[float, float]:
    """Latitude and longitude [deg, north and east positive] from typed text.

    Takes decimals with dot or comma, degrees with minutes and seconds, letters or signs, either
    order when letters say so, and geo: URIs (RFC 5870). Raises InputError naming what is wrong.
    """
    cleaned = text.strip()
    if not cleaned:
        raise InputError("Position", "nothing is typed.", _REMEDY, "position-empty")
    if found := _GEO.match(cleaned):
        return _checked(float(found.group(1)), float(found.group(2)))
    first, second = _halves(cleaned)
    a, letter_a = _angle(first)
    b, letter_b = _angle(second)
    if letter_a in ("E", "W") or letter_b in ("N", "S"):
        a, letter_a, b, letter_b = b, letter_b, a, letter_a
    if letter_a in ("E", "W") or letter_b in ("N", "S"):
        raise InputError(
            "Position", "both halves are of the same kind.", "Give one N or S and one E or W.",
            "position-unreadable",
        )  # fmt: skip
    return _checked(a, b)


def _halves(text: str) -> tuple[str, str]:
    lettered = re.split(r"(?<=[NSEWOnsewo])[\s,;]+(?=[\d+\-−])", text)
    if len(lettered) == 2:
        return lettered[0], lettered[1]
    led = re.split(r"[\s,;]+(?=[NSEWOnsewo]\s*\d)", text)
    if len(led) == 2:
        return led[0], led[1]
    for pattern in (r"\s*;\s*", r",\s+", r"\s+"):
        pieces = [p for p in re.split(pattern, text) if p]
        if len(pieces) == 2:
            return pieces[0], pieces[1]
        if pattern == r"\s+" and pieces and len(pieces) % 2 == 0 and len(pieces) <= 6:
            middle = len(pieces) // 2
            return " ".join(pieces[:middle]), " ".join(pieces[middle:])
    # Comma alone: 53.4805,-9.9720 or, with comma decimals, 53,4805,-9,9720.
    pieces = text.split(",")
    if len(pieces) == 2:
        return pieces[0], pieces[1]
    if len(pieces) == 4:
        return ",".join(pieces[:2]), ",".join(pieces[2:])
    raise InputError(
        "Position", f"“{text[:60]}” does not read as latitude and longitude.", _REMEDY,
        "position-unreadable",
    )  # fmt: skip


def _angle(text: str) -> tuple[float, str]:
    found = _ANGLE.match(text)
    if not found:
        raise InputError(
            "Position", f"“{text[:40]}” does not read as an angle.", _REMEDY, "position-unreadable"
        )
    parts = [float((found.group(k) or "0").replace(",", ".")) for k in ("deg", "min", "sec")]
    if parts[1] >= 60 or parts[2] >= 60:
        raise InputError(
            "Position", "minutes and seconds must be below 60.", _REMEDY, "position-unreadable"
        )
    value = parts[0] + parts[1] / 60 + parts[2] / 3600
    letter = (found.group("before") or found.group("after") or "").upper().replace("O", "W")
    if found.group("sign") in ("-", "−"):
        value = -value
    if letter in ("S", "W"):
        value = -abs(value)
    return value, letter


def _checked(latitude: float, longitude: float) -> tuple[float, float]:
    if not -90 <= latitude <= 90:
        raise InputError(
            "Position", f"latitude {latitude:g}° is outside the earth.",
            "It lies between 90 S and 90 N; perhaps latitude and longitude are swapped.",
            "position-outside",
        )  # fmt: skip
    if not -180 <= longitude <= 360:
        raise InputError(
            "Position", f"longitude {longitude:g}° is outside the earth.",
            "It lies between 180 W and 180 E.", "position-outside",
        )  # fmt: skip
    return latitude, longitude - 360 if longitude > 180 else longitude


def show_position(latitude: float, longitude: float) -> str:
    """A position in the form used everywhere in print: 53.4805 N 9.9720 W."""
    ns, ew = "N" if latitude >= 0 else "S", "E" if longitude >= 0 else "W"
    return f"{abs(latitude):.4f} {ns} {abs(longitude):.4f} {ew}"
