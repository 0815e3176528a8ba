"""Cable cut from reels: which pieces come from which, so that the fewest reels are opened.

References
----------
1. First fit, the longest first, needs at most 11/9 of the fewest reels and 6/9 of one (G. Dósa, from memory).
2. Fewest reels is at least the length in all over a reel's, rounded up.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

EXACT_MOST = 12  # pieces up to which every way is tried
SLIP_M = 1e-6


@dataclass(frozen=True)
class Reel:
    """The pieces that come from one reel, by their place in the list, and what is left of it [m]."""

    pieces: tuple[int, ...]
    left_m: float


def cut(lengths_m: Sequence[float], reel_m: float) -> tuple[list[Reel], list[int], bool]:
    """Reels for pieces [m] from reels of a length [m]; the pieces that are longer than a reel; and whether
    no fewer reels would do."""
    long = [n for n, m in enumerate(lengths_m) if m > reel_m + SLIP_M]
    order = sorted((n for n in range(len(lengths_m)) if n not in long), key=lambda n: -lengths_m[n])
    reels = _first_fit(order, lengths_m, reel_m)
    total = sum(lengths_m[n] for n in order)
    least = math.ceil(total / reel_m - SLIP_M)
    proven = len(reels) <= least
    if not proven and len(order) <= EXACT_MOST:
        reels = _fewest(order, lengths_m, reel_m, reels)
        proven = True
    found = [Reel(tuple(r), reel_m - sum(lengths_m[n] for n in r)) for r in reels]
    return found, long, proven


def _first_fit(order: Sequence[int], lengths_m: Sequence[float], reel_m: float) -> list[list[int]]:
    reels: list[list[int]] = []
    left: list[float] = []
    for n in order:
        at = next((i for i, room in enumerate(left) if lengths_m[n] <= room + SLIP_M), None)
        if at is None:
            reels.append([n])
            left.append(reel_m - lengths_m[n])
        else:
            reels[at].append(n)
            left[at] -= lengths_m[n]
    return reels


def _fewest(
    order: Sequence[int], lengths_m: Sequence[float], reel_m: float, known: list[list[int]]
) -> list[list[int]]:
    """Every way to fill reels with the pieces, the longest first, as long as fewer than known are open."""
    best = known
    reels: list[list[int]] = []
    left: list[float] = []
    rest = [sum(lengths_m[n] for n in order[k:]) for k in range(len(order) + 1)]

    def place(k: int) -> None:
        nonlocal best
        if k == len(order):
            best = [list(r) for r in reels]
            return
        need = len(reels) + max(math.ceil((rest[k] - sum(left)) / reel_m - SLIP_M), 0)
        if need >= len(best):
            return
        tried: set[float] = set()
        for i, room in enumerate(left):
            seen = round(room, 6)
            if lengths_m[order[k]] <= room + SLIP_M and seen not in tried:
                tried.add(seen)
                reels[i].append(order[k])
                left[i] -= lengths_m[order[k]]
                place(k + 1)
                left[i] += lengths_m[order[k]]
                reels[i].pop()
        if len(reels) + 1 < len(best):
            reels.append([order[k]])
            left.append(reel_m - lengths_m[order[k]])
            place(k + 1)
            reels.pop()
            left.pop()

    place(0)
    return best
