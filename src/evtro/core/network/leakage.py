"""What leaks over a switch: carriers at the inputs that a line did not ask for, where they lie on the one
that it did."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from ..physics.geodesy import Floats
from .arrays import Circuit, Columns
from .graph import Wiring
from .levels import Levels
from .selection import Selection


def with_leaks(circuit: Circuit, levels: Levels, wiring: Wiring, choice: Selection) -> Levels:
    """The levels with what leaks into each carrier at the receivers [µV²]: of every carrier at another
    input the share of its power that lies in the band of this one, less the isolation between inputs."""
    ratios: dict[str, Floats] = {}
    overlap: Floats | None = None
    leak: Floats | None = None
    for plate, reach in choice.reach.items():
        switches = {part for part, out in reach.controls if wiring.kinds[part].selects_at(out)}
        for part in switches - ratios.keys():
            overlap = _overlap(circuit.columns) if overlap is None else overlap
            ratios[part] = _ratio(circuit, levels, wiring, part, overlap=overlap)
        together = _sum(ratios[part] for part in switches)
        if together is None or not together.any():
            continue
        leak = np.zeros(levels.signal.shape) if leak is None else leak
        for port in wiring.kinds[plate].receivers:
            node = circuit.nodes[plate, "out", port]
            leak[node] = levels.signal[node] * together
    return levels if leak is None else replace(levels, leak=leak)


def _sum(ratios: Iterable[Floats]) -> Floats | None:
    found: Floats | None = None
    for ratio in ratios:
        found = ratio if found is None else found + ratio
    return found


def _overlap(columns: Columns) -> Floats:
    """The share of one carrier's power that lies in the band of another, (of, in)."""
    f, w = columns.frequency_mhz, columns.bandwidth_mhz
    low, high = f - w / 2, f + w / 2
    shared = np.minimum(high[:, None], high[None]) - np.maximum(low[:, None], low[None])
    return np.asarray(np.clip(shared, 0.0, None) / w[:, None])


def _ratio(
    circuit: Circuit, levels: Levels, wiring: Wiring, part: str, *, overlap: Floats
) -> Floats:
    """What leaks into each carrier of a switch as a share of its own power."""
    kind = wiring.kinds[part]
    inputs = sorted({i for p in kind.paths if p.arrivals == "selected" for i in p.inputs})
    at = levels.signal[[circuit.nodes[part, "in", i] for i in inputs]]
    own, which = at.max(axis=0), at.argmax(axis=0)
    columns = circuit.columns
    # Behind what moves carriers each keeps the share that it had before.
    first = columns.carrier
    base = np.arange(len(own)) == first
    isolated = 10 ** (-kind.input_isolation_at(columns.frequency_mhz) / 10)
    other = (which[:, None] != which[None]) & base[:, None] & (own > 0)[:, None]
    power = (own[:, None] * np.where(other, overlap, 0.0)).sum(axis=0) * isolated
    share = np.where(own > 0, power / np.maximum(own, 1e-300), 0.0)
    return np.asarray(share[first])
