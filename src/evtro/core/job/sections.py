"""The job sheet as stations write it: sections of lines, each a caption and what stands beside it."""

from __future__ import annotations

from dataclasses import dataclass

from ..units.quantities import Phrase, Quantity, Unit
from ..units.severity import State


@dataclass(frozen=True)
class Line:
    """One line of the job sheet: a caption and what stands beside it."""

    label: Phrase
    text: Phrase
    state: State | None = None


@dataclass(frozen=True)
class Section:
    """A part of the job sheet, in the order of the work."""

    title: str
    lines: list[Line]


def line(label: Phrase | str, text: Phrase | str, state: State | None = None) -> Line:
    """A line of two texts."""
    wide = [part if isinstance(part, tuple) else (part,) if part else () for part in (label, text)]
    return Line(label=wide[0], text=wide[1], state=state)


def shown(value: float | None, unit: Unit, digits: int = 1) -> Phrase:
    """A figure in its unit, or that it is not known."""
    return ("not known",) if value is None else (Quantity(value, unit, digits),)
