"""What a circuit is driven with: sources, choice and power put into its arrays."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..job.paths import BLOCKED_DB
from ..physics.geodesy import Floats
from .arrays import Circuit

PER_DB = np.log(10) / 10


@dataclass(frozen=True)
class Excitation:
    """What the arrays of a circuit are driven with: plain gains (edges, columns), and at each node
    what sources put in and what the node's own ways add, (nodes, columns) [µV²]."""

    gain: Floats
    signal: Floats
    noise: Floats
    added: Floats


def excite(
    circuit: Circuit,
    mask: Floats | None = None,
    silent: NDArray[np.bool_] | None = None,
    off: NDArray[np.bool_] | None = None,
    dark_db: Mapping[int, Floats] | None = None,
) -> Excitation:
    """Everything on and found, but for `mask` (edges, columns; 0 where no line asks for a selected
    input), `silent` (nodes, columns: sources that do not give this carrier), `off` (the same:
    sources without their voltage) and `dark_db`: edges of parts without theirs, by column the gain
    that is left [dB], NaN where they work."""
    columns, ktb = circuit.columns, circuit.ktb
    gain_db, factor = circuit.gain_db, circuit.factor[:, None]
    if dark_db:
        gain_db, factor = gain_db.copy(), np.broadcast_to(factor, gain_db.shape).copy()
        for edge, left in dark_db.items():
            lit = np.isnan(left)
            gain_db[edge, ~lit], factor[edge, ~lit] = left[~lit], np.nan
    gain = plain(gain_db)
    if mask is not None:
        gain = gain * mask
    count = len(circuit.nodes)
    signal = np.zeros((count, len(ktb)))
    # A source gives its own noise, every other port that nothing comes to is terminated or open.
    noise = np.zeros((count, len(ktb)))
    noise[circuit.heads] = ktb
    for port, (level, floor) in columns.given.items():
        node = circuit.nodes.get(port)
        if node is not None:
            signal[node] = np.where(np.isnan(level), 0.0, _power(level))
            noise[node] = np.where(np.isnan(floor), ktb, _power(floor))
    if silent is not None:
        signal[silent] = 0.0
    if off is not None:
        signal[off], noise[off] = 0.0, np.broadcast_to(ktb, signal.shape)[off]
    added = np.zeros((count, len(ktb)))
    order, meets = circuit.by_end
    if len(order):
        passive = np.isnan(factor[order])
        through = np.where(passive & ~circuit.chosen[order][:, None], gain[order], 0.0)
        own = np.where(passive, 0.0, (np.nan_to_num(factor[order], nan=1.0) - 1) * gain[order])
        lossy = np.maximum.reduceat(passive, meets.first)
        added[meets.nodes] = ktb * (
            np.where(lossy, np.maximum(1 - meets.sum(through), 0.0), 0.0) + meets.sum(own)
        )
    return Excitation(gain, signal, noise, added)


def plain(gain_db: ArrayLike) -> Floats:
    """Gains as ratios [dB]; a way that is blocked lets nothing through."""
    gain = np.asarray(gain_db, float)
    return np.where(gain > -BLOCKED_DB, np.exp(gain * PER_DB), 0.0)


def _power(level_dbuv: Floats) -> Floats:
    """Powers of levels [µV²]; a level that is beyond any float is an infinite power."""
    with np.errstate(over="ignore"):
        return np.asarray(10 ** (np.nan_to_num(level_dbuv) / 10))
