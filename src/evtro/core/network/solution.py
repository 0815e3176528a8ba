"""The plant solved whole: choice, power, then signal and noise."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..job import Cable, Part
from ..job.parts import Catalogue
from ..job.paths import BLOCKED_DB, HIGH_V, LOW_V
from ..physics.geodesy import Floats
from .arrays import Circuit, Columns, Ints, Port
from .distortion import Distorting
from .echo import Matching, with_echoes
from .excitation import Excitation, excite
from .frequency_conversion import folded
from .graph import Wiring
from .incremental import compile_network, solved
from .leakage import with_leaks
from .levels import Levels
from .powering import DcNetwork, Lines, lines
from .selection import Selection
from .solve import Alteration, solve_variants
from .tracing import path_to_source


@dataclass(frozen=True)
class Solution:
    """A run solved. `power` holds the lines with all receivers at their lower and at their higher
    voltage [V], `tuners` the plate of each tuner that asks."""

    wiring: Wiring
    circuit: Circuit
    choice: Selection
    power: dict[float, Lines]
    driven: Excitation
    found: Levels
    columns: Columns
    matched: Matching
    distorting: Distorting | None = None
    tuners: tuple[str, ...] = ()

    @cached_property
    def levels(self) -> Levels:
        """What was found by carrier: behind a converter at the frequency that it has there."""
        return self.by_carrier(self.found)

    def variants(self, variants: Sequence[Alteration], at: Ints) -> Levels:
        """Levels in every column for variants, at some nodes: arrays (variants, nodes, columns). Echoes
        and leaks keep the share of their carrier that they have without the alteration."""
        found = solve_variants(
            self.circuit,
            self.driven,
            base=self.found,
            variants=variants,
            at=at,
            distorting=self.distorting,
        )
        whole = np.maximum(self.found.signal[at], 1e-300)
        echo, late, leak = (
            None if x is None else found.signal * (x[at] / whole)
            for x in (self.found.echo, self.found.disturbing, self.found.leak)
        )
        return replace(found, echo=echo, disturbing=late, leak=leak)

    def by_carrier(self, found: Levels) -> Levels:
        """The same by carrier."""
        return folded(found, self.circuit.columns, self.columns.wanted)

    def node(self, part: str, side: str, port: int) -> int | None:
        """The node of a port; None for one that is not there or lies on a loop."""
        return self.circuit.nodes.get((part, side, port))

    def outlet_node(self, part: str | None) -> int | None:
        """The port of a plate where its receiver is plugged in."""
        if part is None or part not in self.wiring.before:
            return None
        ports = self.wiring.kinds[part].receivers
        return self.node(part, "out", ports[0]) if ports else None

    def ports_out(self, part: str) -> list[Port]:
        """What a part gives: its outputs, those of its receivers where it has some, or its inputs where it
        ends a line."""
        kind = self.wiring.kinds[part]
        if kind.receivers:
            return [
                (part, "out", n) for n in kind.receivers if (part, "out", n) in self.circuit.nodes
            ]
        side, count = ("out", kind.outputs) if kind.outputs else ("in", kind.inputs)
        return [(part, side, n) for n in range(count) if (part, side, n) in self.circuit.nodes]

    def way_to(self, node: int, carrier: int) -> list[tuple[int, int]]:
        """Edges on the strongest way of a carrier to a node, with the column that leaves each."""
        mine = [carrier]
        if self.circuit.columns.origin is not None:
            mine = np.flatnonzero(self.circuit.columns.origin == carrier).tolist()
        column = max(mine, key=lambda c: float(self.found.signal[node, c]))
        return path_to_source(
            self.circuit, self.driven, levels=self.found, node=node, column=column
        )

    @cached_property
    def dark(self) -> dict[str, NDArray[np.bool_]]:
        """Parts without their voltage, with the columns in which they lack it."""
        return _dark(self.wiring, self.circuit.columns, self.power)


def solve_run(
    parts: Iterable[Part],
    links: Iterable[Cable],
    catalogue: Catalogue,
    columns: Columns,
    receivers: Collection[str],
) -> Solution:
    """Solve a run; `receivers` are the outlets that have a receiver which asks and supplies, one with
    several tuners as often as it has.

    Parts on a loop are left out and named. Raises InputError for a part that is not in the catalogue.
    """
    run = compile_network(
        tuple(parts), tuple(links), catalogue, columns, receivers=tuple(receivers)
    )
    wiring, circuit, choice, plates = run.wiring, run.circuit, run.choice, run.plates
    metal = DcNetwork(wiring, catalogue, plates)
    low = lines(wiring, catalogue, plates, receiver_v=LOW_V, metal=metal)
    high = low
    if not metal.steady(wiring):
        high = lines(wiring, catalogue, plates, receiver_v=HIGH_V, metal=metal)
    power = {LOW_V: low, HIGH_V: high}
    dark = _dark(wiring, circuit.columns, power)
    driven = _driven(wiring, circuit, choice, dark)
    found = with_echoes(circuit, driven, solved(circuit, driven, run.distorting), run.matched)
    found = with_leaks(circuit, found, wiring, choice)
    return Solution(
        wiring=wiring,
        circuit=circuit,
        choice=choice,
        power=power,
        driven=driven,
        found=found,
        columns=columns,
        matched=run.matched,
        distorting=run.distorting,
        tuners=plates,
    )


def _dark(
    wiring: Wiring, columns: Columns, power: dict[float, Lines]
) -> dict[str, NDArray[np.bool_]]:
    """In a column that a receiver asks for, its own voltage counts, in any other the worse of both."""
    asked = np.array([ask[0] if ask is not None else 0.0 for ask in columns.asks])
    found: dict[str, NDArray[np.bool_]] = {}
    for part in power[LOW_V].loads:
        off = {v: not lines.loads[part].on for v, lines in power.items()}
        if any(off.values()):
            found[part] = np.array(
                [off.get(v, False) if v else any(off.values()) for v in asked.tolist()], bool
            )
    return found


def _driven(
    wiring: Wiring, circuit: Circuit, choice: Selection, dark: dict[str, NDArray[np.bool_]]
) -> Excitation:
    if not dark:
        return excite(circuit, choice.mask, choice.silent)
    unlit = np.zeros((len(circuit.nodes), len(circuit.columns.ids)), bool)
    left: dict[int, Floats] = {}
    for part, off in dark.items():
        kind = wiring.kinds[part]
        for edge in circuit.edges_of_part.get(part, ()):
            open_way = circuit.gain_db[edge] > -BLOCKED_DB
            left[edge] = np.where(off, np.where(open_way, kind.dark_gain_db, -BLOCKED_DB), np.nan)
        if not kind.inputs:
            for port in range(kind.outputs):
                unlit[circuit.nodes[part, "out", port]] |= off
    return excite(circuit, choice.mask, silent=choice.silent, off=unlit, dark_db=left)
