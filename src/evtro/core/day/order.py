"""The order of a day's visits: how long work at height lies in wind or dark, how long the road is.

Up to seven visits every order is tried; more are moved one at a time as long as it gets better.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import permutations

from ..physics.geodesy import bearing_and_distance

EXACT_MOST = 7


@dataclass(frozen=True)
class Cost:
    """What an order costs [min]: at height where nobody should be, past the end of the day, on the road."""

    danger_min: float
    late_min: float
    road_min: float

    @property
    def key(self) -> tuple[float, float, float]:
        """Safety first, then the evening, then the road."""
        return (round(self.danger_min, 3), round(self.late_min, 3), round(self.road_min, 3))


def best_order(count: int, cost: Callable[[Sequence[int]], Cost]) -> tuple[int, ...]:
    """The order of so many visits that costs least; of two alike the one nearer to the present one."""
    now = tuple(range(count))
    if count <= EXACT_MOST:
        return min(permutations(now), key=lambda order: (cost(order).key, _moved(order)))
    best, at = now, cost(now).key
    while True:
        found = min(_neighbours(best), key=lambda order: cost(order).key)
        if cost(found).key >= at:
            return best
        best, at = found, cost(found).key


def _moved(order: Sequence[int]) -> int:
    return sum(abs(n - k) for n, k in enumerate(order))


def _neighbours(order: tuple[int, ...]) -> list[tuple[int, ...]]:
    found = []
    for n in range(len(order)):
        rest = order[:n] + order[n + 1 :]
        found += [(*rest[:k], order[n], *rest[k:]) for k in range(len(order)) if k != n]
    return found


DETOUR, ROAD_KMH, DOOR_MIN = 1.35, 45.0, 5.0  # common practice, no source


def road_min(
    a: tuple[float, float] | None, b: tuple[float, float] | None, otherwise: float
) -> float:
    """How long the road between two places [deg] may take, where nobody typed it."""
    if a is None or b is None:
        return otherwise
    _, km = bearing_and_distance(a[0], a[1], b[0], b[1])
    return DOOR_MIN + DETOUR * float(km) / ROAD_KMH * 60
