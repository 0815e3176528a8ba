"""Carriers whose edges lie beyond what a part passes. A range is no brick wall: a tenth of a carrier
beyond its end does no harm, a quarter does (common practice, no source)."""

from __future__ import annotations

import numpy as np

from ....checks.registry import check
from ....job.parts import PartType
from ....job.problems import Problem
from ....physics.geodesy import Floats
from ....units.severity import State
from ..context import NetworkContext

NEAR_SHARE, OUT_SHARE = 0.1, 0.25


@check("coax", codes=("range-edge",), needs=("solved",))
def passband_edges(ctx: NetworkContext) -> list[Problem]:
    """The first part on the way of each carrier that cuts off more of it than that, one problem a part."""
    solved = ctx.solved
    run, count = solved.run, len(solved.channels)
    columns = run.circuit.columns
    mhz, wide = columns.frequency_mhz, columns.bandwidth_mhz
    beyond: dict[str, list[tuple[int, np.ndarray]]] = {}
    told: set[int] = set()
    found: list[Problem] = []
    for part in run.wiring.order:
        kind = run.wiring.kinds[part]
        if kind.key not in beyond:
            beyond[kind.key] = _beyond(kind, mhz, wide)
        if not beyond[kind.key]:
            continue
        worst = np.zeros(len(mhz))
        edges = run.circuit.edges_of_part.get(part, ())
        for n, share in beyond[kind.key]:
            arrives = run.found.signal[run.circuit.edges[edges[n], 1]] > 0
            worst = np.maximum(worst, np.where(arrives, share, 0.0))
        carriers = {int(columns.carrier[c]) for c in np.flatnonzero(worst > NEAR_SHARE).tolist()}
        new = sorted(c for c in carriers - told if c < count)
        if not new:
            continue
        told |= set(new)
        most = float(worst.max())
        state: State = "fail" if most > OUT_SHARE else "marginal"
        low, high = kind.range_mhz
        names = ", ".join(solved.channels[c].name for c in new[:3])
        found.append(
            Problem(
                code="range-edge",
                station="coax",
                state=state,
                place=solved.names[part],
                ref=part,
                gauge=None,
                title=(
                    f"{solved.names[part]} cuts off the edge of {names}: {100 * most:.0f} % lies beyond its range",
                ),
                limit=(f"{low:.0f} to {high:.0f} MHz",),
                origin="the part's data sheet, typical of its class",
                remedy=("Take a part whose range goes further.",),
            )
        )
    return found


def _beyond(kind: PartType, mhz: Floats, wide: Floats) -> list[tuple[int, np.ndarray]]:
    """The ways of a part, by their number, that cut off more than that of a carrier: its share of each."""
    found = []
    shares: dict[tuple[float, float], np.ndarray] = {}
    for n, (_, _, path) in enumerate(kind.ways):
        if kind.moves_by(path) is not None:
            continue
        ends = path.low_mhz, path.high_mhz
        if ends not in shares:
            over = np.maximum(mhz + wide / 2 - ends[1], ends[0] - mhz + wide / 2)
            inside = (mhz >= ends[0]) & (mhz <= ends[1])
            shares[ends] = np.where(inside, np.maximum(over, 0.0) / wide, 0.0)
        if shares[ends].max(initial=0.0) > NEAR_SHARE:
            found.append((n, shares[ends]))
    return found
