"""Sentences whose figures are quantities, so that units follow whoever reads them."""

from __future__ import annotations

from collections.abc import Iterable

from .quantities import Phrase, Quantity


def say(text: str, *figures: Quantity | str | Phrase) -> Phrase:
    """A sentence with figures, words or phrases in the places of its `{}`, in their order. Raises
    ValueError where it has more or fewer places."""
    pieces = text.split("{}")
    if len(pieces) != len(figures) + 1:
        raise ValueError(f"{len(figures)} figures for {len(pieces) - 1} places")
    found: list[str | Quantity] = [pieces[0]]
    for figure, piece in zip(figures, pieces[1:], strict=True):
        found += [*figure, piece] if isinstance(figure, tuple) else [figure, piece]
    return _joined(found)


def listed(phrases: Iterable[Phrase | str], between: str = ", ") -> Phrase:
    """Phrases one behind the other, with a mark between."""
    found: list[str | Quantity] = []
    for phrase in phrases:
        found += [between] if found else []
        found += [phrase] if isinstance(phrase, str) else phrase
    return _joined(found)


def _joined(parts: list[str | Quantity]) -> Phrase:
    """Neighbouring texts as one, empty ones left out."""
    found: list[str | Quantity] = []
    for part in parts:
        if isinstance(part, str) and found and isinstance(found[-1], str):
            found[-1] += part
        elif part != "":
            found.append(part)
    return tuple(found)
