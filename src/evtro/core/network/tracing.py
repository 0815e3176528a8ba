"""Ways through a solved run: back to the source of a carrier, down to all that lies behind a port."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from .arrays import Circuit
from .excitation import Excitation
from .levels import Levels


def path_to_source(
    circuit: Circuit, driven: Excitation, levels: Levels, node: int, column: int
) -> list[tuple[int, int]]:
    """Edges from the source to a node on the strongest way that a carrier took, each with the column
    that leaves it, in the signal's order; empty where it does not arrive."""

    def entering(edge: int) -> int:
        return int(circuit.source[edge][column]) if edge in circuit.source else column

    def arriving(edge: int) -> float:
        before = entering(edge)
        if before < 0:
            return 0.0
        return float(levels.signal[circuit.edges[edge, 0], before] * driven.gain[edge, column])

    way: list[tuple[int, int]] = []
    while circuit.into[node]:
        best = max(circuit.into[node], key=arriving)
        if arriving(best) <= 0:
            return way[::-1]
        way.append((best, column))
        node, column = int(circuit.edges[best, 0]), entering(best)
    return way[::-1]


def downstream(circuit: Circuit, nodes: Iterable[int]) -> NDArray[np.bool_]:
    """Which nodes lie behind some nodes, those included."""
    behind = np.zeros(len(circuit.nodes), bool)
    behind[list(nodes)] = True
    for group in circuit.groups:
        start, end = circuit.edges[group, 0], circuit.edges[group, 1]
        behind[end[behind[start]]] = True
    return behind
