"""What comes out of the parts of the run."""

from __future__ import annotations

import numpy as np

from ....physics.geodesy import Floats
from .outlets import Solved


def strongest(solved: Solved, part_id: str) -> tuple[Floats, Floats]:
    """Level [dBµV] and C/N [dB] of each carrier at the one of a part's outputs where it is strongest;
    NaN where it comes out of none."""
    run = solved.run
    nodes = (
        []
        if part_id in run.wiring.looped
        else [run.circuit.nodes[p] for p in run.ports_out(part_id)]
    )
    if not nodes:
        nothing = np.full(len(solved.channels), np.nan)
        return nothing, nothing
    if len(nodes) == 1:
        return run.levels.level_dbuv[nodes[0]], run.levels.cn_db[nodes[0]]
    level, cn = run.levels.level_dbuv[nodes], run.levels.cn_db[nodes]
    best = np.argmax(np.where(np.isnan(level), -np.inf, level), axis=0)[None]
    return np.take_along_axis(level, best, 0)[0], np.take_along_axis(cn, best, 0)[0]


def part_levels(solved: Solved, part_id: str) -> list[tuple[str, float, float]]:
    """Carriers at a part's outputs: id, level [dBµV], C/N [dB]; the strongest output of each."""
    level, cn = strongest(solved, part_id)
    return [
        (channel.id, float(level[c]), float(cn[c]))
        for c, channel in enumerate(solved.channels)
        if np.isfinite(level[c])
    ]
