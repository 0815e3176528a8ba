"""Angles of places as people type them: letters, signs, degrees with minutes and seconds."""

from __future__ import annotations

import re
from dataclasses import dataclass

from .figures import PLAIN
from .quantities import InputError

MOST_WORDS = 24
# Words and letters for the four sides. O is kept apart: east in German, west in French.
_SIDES = {
    "n": "N", "north": "N", "nord": "N", "norte": "N", "s": "S", "south": "S", "süd": "S", "sud": "S",
    "sued": "S", "sur": "S", "sul": "S", "e": "E", "east": "E", "est": "E", "ost": "E", "este": "E",
    "leste": "E", "w": "W", "west": "W", "ouest": "W", "oeste": "W", "ovest": "W", "o": "O",
}  # fmt: skip
_MARKS = {
    "°": 0, "d": 0, "deg": 0, "degs": 0, "degree": 0, "degrees": 0, ":": -1, "'": 1, "m": 1, "min": 1,
    "mins": 1, "minute": 1, "minutes": 1, '"': 2, "''": 2, "sec": 2, "secs": 2, "second": 2,
    "seconds": 2,
}  # fmt: skip
_TOKEN = re.compile(
    r"(?P<number>\d+(?:[.,]\d+)?)|(?P<mark>°|''|'|\"|:)|(?P<sign>[+-])|(?P<word>[^\W\d_]+)"
    r"|(?P<cut>[;/])|(?P<comma>,)|(?P<space>\s+)|(?P<other>.)",
    re.ASCII,
)
_LONE_O = re.compile(r"(?<![^\W\d_])o(?![^\W\d_])", re.IGNORECASE)
_WORD = re.compile(r"[^\W\d_]+")


@dataclass(frozen=True, slots=True)
class Token:
    """A piece of what was typed: its kind, its text, and whether a space stands before it."""

    kind: str
    text: str
    spaced: bool


@dataclass(frozen=True, slots=True)
class Angle:
    """An angle [deg], signed; the side that was named, if any; half a unit of its last place [deg]."""

    value_deg: float
    side: str
    step_deg: float


def unreadable(text: str, reason: str, remedy: str, choices: tuple[str, ...] = ()) -> InputError:
    """The error for a position or orbit that cannot be read; or be read in more than one way."""
    code = "two-readings" if choices else "unreadable"
    return InputError(
        field="",
        reason=f"“{text.strip()[:60]}” {reason}",
        remedy=remedy,
        code=code,
        choices=choices,
    )


def tokens(text: str, remedy: str) -> list[Token]:
    """What was typed, piece by piece. Raises InputError for what no angle holds."""
    plain = text.translate(PLAIN)
    found: list[Token] = []
    spaced = False
    at = 0
    while at < len(plain):
        word = _WORD.match(plain, at)
        piece = word or _TOKEN.match(plain, at)
        assert piece is not None
        at = piece.end()
        kind = "word" if word else str(piece.lastgroup)
        if kind == "space":
            spaced = True
            continue
        if kind == "other":
            raise unreadable(text, f"holds “{piece[0]}”, which no angle has.", remedy)
        found += (
            _words(piece[0], spaced, text, remedy)
            if kind == "word"
            else [Token(kind, piece[0], spaced)]
        )
        spaced = False
        if len(found) > MOST_WORDS:
            raise unreadable(text, "holds too many pieces.", remedy)
    return found


def _words(word: str, spaced: bool, text: str, remedy: str) -> list[Token]:
    """A word as a side or a mark; `mN` behind a figure is a mark and a side."""
    low = word.casefold()
    if low in _SIDES:
        return [Token("side", _SIDES[low] if low != "s" else word, spaced)]
    if low in _MARKS:
        return [Token("mark", low, spaced)]
    head, last = low[:-1], low[-1:]
    if last in ("n", "s", "e", "w", "o") and head in _MARKS:
        return [Token("mark", head, spaced), Token("side", _SIDES[last], False)]
    if last in ("n", "s", "e", "w", "o") and head == "s":
        return [Token("mark", "sec", spaced), Token("side", _SIDES[last], False)]
    raise unreadable(text, f"holds “{word[:20]}”, which is neither a side nor a unit.", remedy)


def seconds_or_south(pieces: list[Token], text: str, remedy: str) -> list[Token]:
    """An `s` behind seconds is south, or the mark of seconds where degrees and minutes have their
    letters too."""
    lettered = any(t.kind == "mark" and t.text in ("d", "deg", "m", "min") for t in pieces)
    marks = [i for i, t in enumerate(pieces) if t.kind == "side" and t.text in ("s", "S")]
    found = list(pieces)
    for i in marks:
        third = lettered and i > 0 and pieces[i - 1].kind == "number"
        followed = i + 1 < len(pieces) and pieces[i + 1].kind == "side"
        if third and (followed or len(marks) > 1):
            found[i] = Token("mark", "sec", pieces[i].spaced)
        elif third and not any(t.kind == "side" and t.text in ("E", "W") for t in pieces):
            raise unreadable(
                text,
                "ends in an s that can be seconds or south.",
                "Write N or S behind it, or a sign before it.",
            )
        else:
            found[i] = Token("side", "S", pieces[i].spaced)
    return found


def angle(pieces: list[Token], text: str, remedy: str) -> Angle:
    """One angle from its pieces. Raises InputError where they contradict each other."""
    sides = [t.text for t in pieces if t.kind == "side"]
    signs = [t.text for t in pieces if t.kind == "sign"]
    if len(sides) > 1 or len(signs) > 1:
        raise unreadable(text, "names a side or a sign twice.", remedy)
    side, sign = (sides or [""])[0], (signs or [""])[0]
    places: list[tuple[int, str]] = []
    for i, token in enumerate(pieces):
        if token.kind == "number":
            behind = pieces[i + 1] if i + 1 < len(pieces) else None
            mark = _MARKS[behind.text] if behind is not None and behind.kind == "mark" else -1
            place = mark if mark >= 0 else (places[-1][0] + 1 if places else 0)
            if (places and place <= places[-1][0]) or place > 2:
                raise unreadable(text, "has its degrees, minutes and seconds out of order.", remedy)
            places.append((place, token.text.replace(",", ".")))
        elif token.kind == "mark" and (i == 0 or pieces[i - 1].kind != "number"):
            raise unreadable(text, f"has a “{token.text}” without a figure before it.", remedy)
        elif token.kind == "sign" and places:
            raise unreadable(text, "has a sign in the middle of an angle.", remedy)
    if not places or places[0][0] != 0:
        raise unreadable(text, "has no degrees.", remedy)
    value = 0.0
    for n, (place, figure) in enumerate(places):
        part = float(figure)
        if place and part >= 60:
            raise unreadable(
                text, "has minutes or seconds of 60 and more; they must be below 60.", remedy
            )
        if n < len(places) - 1 and part != int(part):
            raise unreadable(
                text,
                "has a broken part before a smaller one.",
                "Only the last of degrees, minutes and seconds may have decimals.",
            )
        value += part / 60**place
    place, figure = places[-1]
    decimals = len(figure.partition(".")[2])
    step = 0.5 * 10.0**-decimals / 60**place
    if side == "O":
        choices = tuple(_LONE_O.sub(turned, text.strip()) for turned in "EW")
        raise unreadable(
            text,
            "has an O, which is east in German and west in French and Spanish.",
            "Write E or W.",
            choices,
        )
    if sign and side and (sign == "-") != (side in "SW"):
        raise unreadable(
            text,
            f"has the sign {sign} and the side {side}, which disagree.",
            "Leave one of the two out.",
        )
    return Angle(-value if sign == "-" or side in ("S", "W") else value, side, step)
