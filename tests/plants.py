"""Runs for tests: laid and solved with every part on, whoever asks for what."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from evtro.core.job import Link, Part
from evtro.core.job.parts import Catalogue
from evtro.core.physics.geodesy import Floats
from evtro.core.plant.circuit import Circuit, Columns, Port, lay
from evtro.core.plant.convert import converted
from evtro.core.plant.drive import drive
from evtro.core.plant.found import Levels
from evtro.core.plant.solve import solve
from evtro.core.plant.wiring import wire


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
    parts: Iterable[Part], links: Iterable[Link], catalogue: Catalogue, sources: Columns
) -> tuple[Circuit, Levels]:
    """A run with everything on; behind converters a carrier has columns of its own."""
    wiring = wire(parts, links, catalogue)
    circuit = lay(wiring, catalogue, converted(wiring, sources))
    return circuit, solve(circuit, drive(circuit))
