"""What devices bear at their ports: the rating of an amplifier's output, the window of an input."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from .levels import Solved

OUTPUT_RESERVE_DB, INPUT_RESERVE_DB = 2.0, 1.0  # common practice, no source


@dataclass(frozen=True)
class PortLimit:
    """The levels that a port bears [dBµV], at its node, and how near to them is near [dB]. `count` is
    how many carriers arrive there."""

    node: int
    low_dbuv: float | None
    high_dbuv: float | None
    reserve_db: float
    count: int


def output_limit(solved: Solved, part_id: str) -> PortLimit | None:
    """An amplifier's rating for the number of carriers that it has: 7.5 log10(n - 1) less (EN 60728
    practice, from memory). None where it has none, or nothing arrives."""
    node = solved.run.node(part_id, "out", 0)
    rating = solved.run.wiring.kinds[part_id].rated_output_dbuv
    if rating is None or node is None:
        return None
    n = int(np.isfinite(solved.run.found.high_dbuv[node]).sum())
    if not n:
        return None
    most = rating - (7.5 * math.log10(n - 1) if n > 1 else 0.0)
    return PortLimit(node, None, high_dbuv=most, reserve_db=OUTPUT_RESERVE_DB, count=n)


def input_limit(solved: Solved, part_id: str, port: int) -> PortLimit | None:
    """The window of an input. None where the part has none, or nothing arrives."""
    kind = solved.run.wiring.kinds[part_id]
    node = solved.run.node(part_id, "in", port)
    if kind.input_low_dbuv is None or node is None:
        return None
    n = int(np.isfinite(solved.run.found.level_dbuv[node]).sum())
    if not n:
        return None
    return PortLimit(node, kind.input_low_dbuv, high_dbuv=kind.input_high_dbuv,
                     reserve_db=INPUT_RESERVE_DB, count=n)  # fmt: skip


def limits_of(solved: Solved, part_id: str) -> list[PortLimit]:
    """All ports of a part that bear so much and no more."""
    inputs = range(solved.run.wiring.kinds[part_id].inputs)
    found = [output_limit(solved, part_id), *(input_limit(solved, part_id, i) for i in inputs)]
    return [limit for limit in found if limit is not None]
