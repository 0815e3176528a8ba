"""What devices bear at their ports: the rating of an amplifier's output, the window of an input."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ....network.levels import Levels
from ....physics.geodesy import Floats
from .outlets import Solved

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

    def now(self, solved: Solved) -> tuple[float, float]:
        """The same for the network as it is [dBµV]."""
        least, most = figures_now([self], solved)
        return float(least[0]), float(most[0])


def _db(power: Floats) -> Floats:
    with np.errstate(divide="ignore"):
        return np.asarray(10 * np.log10(power))


def figures_of(limits: Sequence[PortLimit], low: Floats, high: Floats) -> tuple[Floats, Floats]:
    """Least and most of what arrives at some ports [dBµV], arrays (..., ports), of powers [µV²] (...,
    ports, columns) at the low and at the high end of what they may be: inf and -inf where nothing does."""
    least, most = np.full(high.shape[:-1], np.inf), np.zeros(high.shape[:-1])
    alike: dict[tuple[bool, int], list[int]] = {}
    for i, limit in enumerate(limits):
        alike.setdefault((limit.bound in ("total", "supposed"), id(limit.columns)), []).append(i)
    for (summed, _), rows in alike.items():
        columns = limits[rows[0]].columns
        here = high[..., rows, :]
        if summed:
            most[..., rows] = np.max([np.where(c, here, 0.0).sum(axis=-1) for c in columns], axis=0)
            continue
        mine = columns.any(axis=0)
        most[..., rows] = np.where(mine, here, 0.0).max(axis=-1, initial=0.0)
        there = np.where(mine & (here > 0), low[..., rows, :], np.inf)
        least[..., rows] = there.min(axis=-1, initial=np.inf)
    return _db(least), _db(most)


def figures_now(limits: Sequence[PortLimit], solved: Solved) -> tuple[Floats, Floats]:
    """The same for the network as it is [dBµV]."""
    found: Levels = solved.run.found
    nodes = np.array([limit.node for limit in limits], int)
    return figures_of(limits, found.low[nodes], found.high[nodes])


def output_limits(solved: Solved, part_id: str) -> list[PortLimit]:
    """What an amplifier's outputs bear: each carrier its rating less 7.5 log10(n - 1) for n of them
    (EN 60728 practice, from memory), all together the power of two carriers at the rating. None for
    outputs that have no rating, or where nothing arrives."""
    run = solved.run
    kind, grid = run.wiring.kinds[part_id], run.distorting
    if grid is None or not kind.rated or part_id in run.wiring.looped:
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
            found.append(
                PortLimit(
                    part=part_id,
                    node=node,
                    bound="carrier",
                    low_dbuv=None,
                    high_dbuv=most,
                    reserve_db=OUTPUT_RESERVE_DB,
                    count=n,
                    columns=grid.grid.states & ~aside,
                )
            )
        sums: list[tuple[Bound, NDArray[np.bool_]]] = [("total", grid.grid.states)]
        if columns.supposed:
            sums.append(("supposed", grid.grid.states | ~columns.known))
        for bound, at_once in sums:
            here = at_once & (run.found.signal[node] > 0)
            if here.any():
                found.append(
                    PortLimit(
                        part=part_id,
                        node=node,
                        bound=bound,
                        low_dbuv=None,
                        high_dbuv=rating + SUM_OVER_RATING_DB,
                        reserve_db=OUTPUT_RESERVE_DB,
                        count=int(here.sum(axis=1).max()),
                        columns=at_once,
                    )
                )
    return found


def input_limit(solved: Solved, part_id: str, port: int) -> PortLimit | None:
    """The window of an input. None where the part has none, or nothing arrives."""
    kind = solved.run.wiring.kinds[part_id]
    node = solved.run.node(part_id, "in", port)
    if kind.input_low_dbuv is None or node is None:
        return None
    mine = solved.run.circuit.columns.of_wanted
    there = (solved.run.found.signal[node] > 0) & mine[0]
    if not there.any():
        return None
    return PortLimit(
        part=part_id,
        node=node,
        bound="window",
        low_dbuv=kind.input_low_dbuv,
        high_dbuv=kind.input_high_dbuv,
        reserve_db=INPUT_RESERVE_DB,
        count=int(there.sum()),
        columns=mine,
    )


def limits_of(solved: Solved, part_id: str) -> list[PortLimit]:
    """All ports of a part that bear so much and no more."""
    inputs = range(solved.run.wiring.kinds[part_id].inputs)
    found = [input_limit(solved, part_id, i) for i in inputs]
    return [*output_limits(solved, part_id), *(limit for limit in found if limit is not None)]
