"""Branches of the network that may be drawn as one line: what is behind each, which fold by themselves, and
which are alike."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from ....network.graph import Wiring

FEWEST = 3  # outlets that are worth folding; our own choice
MOST = 24  # outlets up to which a branch of a large network folds by itself; our own choice


@dataclass(frozen=True)
class Branch:
    """A part with at least three outlets behind or at it: the parts behind it, in the order of the signal;
    branches of one `shape` have the same parts and cables."""

    part: str
    inside: list[str]
    by_itself: bool
    shape: int


def branches_of(wiring: Wiring, served: Iterable[str]) -> list[Branch]:
    """Return the branches of a network in the order of the signal; `served` are the parts with an outlet."""
    served = set(served)
    inside: dict[str, list[str]] = {}
    shape: dict[str, int] = {}
    shapes: dict[tuple[object, ...], int] = {}
    for part in reversed(wiring.order):
        links = list(wiring.after[part].items())
        behind: dict[str, None] = {}
        for _, link in links:
            behind |= dict.fromkeys([link.to_part, *inside[link.to_part]])
        inside[part] = list(behind)
        alike = (
            wiring.parts[part].type,
            *((port, k.cable, k.length_m, shape[k.to_part]) for port, k in links),
        )
        shape[part] = shapes.setdefault(alike, len(shapes))
    count = {
        p: sum(q in served for q in (p, *inside[p]))
        for p in wiring.order
        if wiring.kinds[p].joinable
    }
    large = sum(p in served for p in wiring.order) > MOST
    return [
        Branch(p, inside[p], by_itself=large and _folds(wiring, count, p), shape=shape[p])
        for p in count
        if count[p] >= FEWEST
    ]


def _folds(wiring: Wiring, count: dict[str, int], part: str) -> bool:
    """Whether a branch is small enough to fold, and what feeds it is not."""
    return count[part] <= MOST and any(
        count.get(k.from_part, 0) > MOST for k in wiring.before[part].values()
    )
