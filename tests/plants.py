"""Runs for tests: laid and solved with every part on, whoever asks for what."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from evtro.core.job import Cable, Part
from evtro.core.job.parts import Catalogue
from evtro.core.network.arrays import Circuit, Columns, Port, compile_arrays
from evtro.core.network.excitation import excite
from evtro.core.network.frequency_conversion import converted
from evtro.core.network.graph import wire
from evtro.core.network.levels import Levels
from evtro.core.network.solve import solve
from evtro.core.physics.geodesy import Floats


def columns(
    given: dict[Port, tuple[Floats, Floats]],
    frequency_mhz: Floats,
    bandwidth_mhz: float = 7.61,
    asks: tuple[tuple[float, bool] | None, ...] | None = None,
) -> Columns:
    """Columns from what each port gives: level and noise [dBµV]."""
    count = len(frequency_mhz)
    meant = {c: p for p, (level, _) in given.items() for c in range(count) if level[c] == level[c]}
    return Columns(
        tuple(f"c{i + 1}" for i in range(count)),
        frequency_mhz,
        np.full(count, bandwidth_mhz),
        tuple(meant.get(c) for c in range(count)),
        given,
        asks or (None,) * count,
    )


def from_one(
    level_dbuv: float, cn_db: float, frequency_mhz: Floats, bandwidth_mhz: float = 7.61
) -> Columns:
    """The same level and ratio of every carrier at the first part."""
    level = np.full(len(frequency_mhz), level_dbuv)
    return columns({("p1", "out", 0): (level, level - cn_db)}, frequency_mhz, bandwidth_mhz)


def lit(
    parts: Iterable[Part], links: Iterable[Cable], catalogue: Catalogue, sources: Columns
) -> tuple[Circuit, Levels]:
    """A run with everything on; behind converters a carrier has columns of its own."""
    wiring = wire(parts, links, catalogue)
    circuit = compile_arrays(wiring, catalogue, converted(wiring, sources))
    return circuit, solve(circuit, excite(circuit))
