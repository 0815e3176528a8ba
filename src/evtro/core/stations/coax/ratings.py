"""What devices bear at their ports: the rating of an amplifier's output, the window of an input."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ...physics.geodesy import Floats
from ...plant.solve import Levels
from .levels import Solved

OUTPUT_RESERVE_DB, INPUT_RESERVE_DB = 2.0, 1.0  # common practice, no source
# Two carriers at a rating of U make U + 3 dB together; 7.5 log(n - 1) less for n of them keeps the
# sum within 2 dB of that, so that the sum is judged against it. EN 60728 practice (from memory).
SUM_OVER_RATING_DB = 3.0
Bound = Literal["carrier", "total", "supposed", "window"]


@dataclass(frozen=True, eq=False)
class PortLimit:
    """What a port bears [dBµV]: its strongest carrier against a rating for `count` of them, all that
    is there at once, the same with what may be there, or every carrier within a window. `reserve_db` is how near to it is near,
    `columns` (states, columns) what counts at the same time."""

    part: str
    node: int
    bound: Bound
    low_dbuv: float | None
    high_dbuv: float | None
    reserve_db: float
    count: int
    columns: NDArray[np.bool_]

    def figures(self, low: Floats, high: Floats) -> tuple[Floats, Floats]:
        """Least and most of what arrives [dBµV], of powers [µV²] (..., columns) at the low and at the
        high end of what they may be: inf and -inf where nothing does."""
        if self.bound in ("total", "supposed"):
            at_once = np.where(self.columns, high[..., None, :], 0.0).sum(axis=-1).max(axis=-1)
            most = _db(at_once)
            return np.full(most.shape, np.inf), most
        mine = self.columns.any(axis=0)
        most = _db(np.where(mine, high, 0.0).max(axis=-1, initial=0.0))
        there = mine & (high > 0)
        least = np.where(there, low, np.inf).min(axis=-1, initial=np.inf)
        return np.where(np.isinf(least), np.inf, _db(least)), most

    def now(self, solved: Solved) -> tuple[float, float]:
        """The same for the run as it is."""
        found: Levels = solved.run.found
        least, most = self.figures(found.low[self.node], found.high[self.node])
        return float(least), float(most)


def _db(power: Floats) -> Floats:
    with np.errstate(divide="ignore"):
        return np.asarray(10 * np.log10(power))


def output_limits(solved: Solved, part_id: str) -> list[PortLimit]:
    """What an amplifier's outputs bear: each carrier its rating less 7.5 log10(n - 1) for n of them
    (EN 60728 practice, from memory), all together the power of two carriers at the rating. None for
    outputs that have no rating, or where nothing arrives."""
    run = solved.run
    kind, grid = run.wiring.kinds[part_id], run.distorting
    if grid is None or part_id in run.wiring.looped:
        return []
    less = kind.rating_less_db(run.wiring.parts[part_id].setting_db)
    rated: dict[int, float] = {}
    for _, o, path in kind.ways:
        if path.rated_output_dbuv is not None:
            rated[o] = min(rated.get(o, math.inf), path.rated_output_dbuv - less)
    found = []
    columns = run.circuit.columns
    aside = columns.carrier >= columns.wanted
    for output, rating in rated.items():
        node = run.circuit.nodes[part_id, "out", output]
        there = grid.grid.states & (run.found.signal[node] > 0)
        n = int((there & ~aside).sum(axis=1).max(initial=0))
        if n:
            most = rating - (7.5 * math.log10(n - 1) if n > 1 else 0.0)
            found.append(PortLimit(
                part=part_id, node=node, bound="carrier", low_dbuv=None, high_dbuv=most,
                reserve_db=OUTPUT_RESERVE_DB, count=n, columns=grid.grid.states & ~aside))  # fmt: skip
        sums: list[tuple[Bound, NDArray[np.bool_]]] = [("total", grid.grid.states)]
        if columns.supposed:
            sums.append(("supposed", grid.grid.states | ~columns.known))
        for bound, at_once in sums:
            here = at_once & (run.found.signal[node] > 0)
            if here.any():
                found.append(PortLimit(
                    part=part_id, node=node, bound=bound, low_dbuv=None,
                    high_dbuv=rating + SUM_OVER_RATING_DB, reserve_db=OUTPUT_RESERVE_DB,
                    count=int(here.sum(axis=1).max()), columns=at_once))  # fmt: skip
    return found


def input_limit(solved: Solved, part_id: str, port: int) -> PortLimit | None:
    """The window of an input. None where the part has none, or nothing arrives."""
    kind = solved.run.wiring.kinds[part_id]
    node = solved.run.node(part_id, "in", port)
    if kind.input_low_dbuv is None or node is None:
        return None
    columns = solved.run.circuit.columns
    mine = columns.carrier < columns.wanted
    there = (solved.run.found.signal[node] > 0) & mine
    if not there.any():
        return None
    return PortLimit(part=part_id, node=node, bound="window", low_dbuv=kind.input_low_dbuv,
                     high_dbuv=kind.input_high_dbuv, reserve_db=INPUT_RESERVE_DB,
                     count=int(there.sum()), columns=mine[None])  # fmt: skip


def limits_of(solved: Solved, part_id: str) -> list[PortLimit]:
    """All ports of a part that bear so much and no more."""
    inputs = range(solved.run.wiring.kinds[part_id].inputs)
    found = [input_limit(solved, part_id, i) for i in inputs]
    return [*output_limits(solved, part_id), *(limit for limit in found if limit is not None)]
