"""Powering: direct current over the metal that passes it, every load on the line at once.

Kirchhoff's laws at the ports; supplies are fixed voltages behind a diode, loads draw a constant
current, centre and braid of a cable are one loop resistance.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from ..job import Cable
from ..job.parts import Catalogue
from ..physics.geodesy import Floats
from .arrays import Ints
from .graph import Wiring

RECEIVER_MA = 350.0  # common practice, no source
DIODE_OHM = 1e-5  # what joins a supply to its line; nothing beside any cable
SHORT_OHM = (
    1e-6  # less than this is metal on metal: no current that is met drops a microvolt over it
)
Bools = NDArray[np.bool_]
DENSE = 150  # nodes up to which a full matrix is faster than a sparse one
RAIL = -1  # the port number of a part's own rail


@dataclass(frozen=True)
class Fed:
    """One load: its voltage while it draws [V], and whether it works; the supplies that feed it, and
    the one whose failing leaves it dark."""

    volts: float
    on: bool
    supplies: tuple[str, ...] = ()
    failed: str | None = None


@dataclass(frozen=True)
class Lines:
    """A solution: loads by part, current [mA] that each supply gives or was asked for, its voltage
    [V], and the supplies that failed."""

    loads: dict[str, Fed]
    given_ma: dict[str, float]
    supply_v: dict[str, float]
    failed: tuple[str, ...] = ()
    metal: DcNetwork | None = field(default=None, repr=False, compare=False)
    node_v: Floats | None = field(default=None, repr=False, compare=False)

    def port_v(self, part: str, side: str, port: int) -> float | None:
        """Voltage at a port [V]; None where no current for a load comes by."""
        if self.metal is None or self.node_v is None:
            return None
        node = self.metal.node.get((part, side, port))
        return None if node is None else float(self.node_v[node])


class DcNetwork:
    """The centre conductors of a run as one network: nodes, resistances, diodes."""

    def __init__(self, wiring: Wiring, catalogue: Catalogue, receivers: Collection[str]) -> None:
        self.node: dict[tuple[str, str, int], int] = {}
        self.ohms: list[tuple[int, int, float]] = []
        self.diodes: list[tuple[int, int]] = []
        self.supply: dict[str, int] = {}
        self.load: dict[str, int] = {}
        shorts: list[tuple[int, int]] = []
        # Metal on which nothing draws is not laid: a house has many receivers and few loads.
        parts, links = _below_loads(wiring)
        for part in parts:
            kind = wiring.kinds[part]
            for i, o in kind.dc:
                shorts.append((self._at(part, "in", i), self._at(part, "out", o)))
            if kind.load is not None:
                self.load[part] = rail = self._at(part, "in", RAIL)
                self.diodes += [(self._at(part, "out", o), rail) for o in range(kind.outputs)]
            if kind.supply is not None:
                self.supply[part] = rail = self._at(part, "out", RAIL)
                self.diodes += [(rail, self._at(part, "in", i)) for i in kind.supply.inputs]
            elif part in receivers:
                self.supply[part] = rail = self._at(part, "out", RAIL)
                self.diodes += [(rail, self._at(part, "out", o)) for o in kind.receivers]
        for link in links:
            ends = (
                self._at(link.from_part, "out", link.from_port),
                self._at(link.to_part, "in", link.to_port),
            )
            ohm = catalogue.cables[link.cable].loop_ohm(link.length_m, link.celsius)
            if ohm > SHORT_OHM:
                self.ohms.append((*ends, ohm))
            else:
                shorts.append(ends)
        self._merge(shorts)

    def _at(self, part: str, side: str, port: int) -> int:
        return self.node.setdefault((part, side, port), len(self.node))

    def _merge(self, shorts: list[tuple[int, int]]) -> None:
        """Ports joined without resistance become one node."""
        heads = _stretches(len(self.node), shorts)
        number = {head: i for i, head in enumerate(dict.fromkeys(heads))}
        self.count, to = len(number), [number[head] for head in heads]
        self.node = {port: to[n] for port, n in self.node.items()}
        self.ohms = [(to[i], to[j], ohm) for i, j, ohm in self.ohms]
        self.diodes = [(to[i], to[j]) for i, j in self.diodes]
        self.supply = {p: to[n] for p, n in self.supply.items()}
        self.load = {p: to[n] for p, n in self.load.items()}

    def meet(self, supplies: Collection[str]) -> bool:
        """Whether two of some supplies give to one stretch of metal; what only diodes of a load join, does not."""
        joined = _stretches(self.count, [(a, b) for a, b, _ in self.ohms])
        seen: dict[int, str] = {}
        for part in supplies:
            rail = self.supply.get(part)
            for start, end in self.diodes:
                if start == rail and seen.setdefault(joined[end], part) != part:
                    return True
        return False

    def steady(self, wiring: Wiring) -> bool:
        """Whether nothing in it follows what the receivers ask for."""
        supplies = [wiring.kinds[p].supply for p in self.supply]
        return all(s is not None and s.low_volts is None for s in supplies)


def _below_loads(wiring: Wiring) -> tuple[list[str], list[Cable]]:
    """The parts that current for a load may come through, and the cables between them."""
    parts: dict[str, None] = {}
    links: dict[str, Cable] = {}
    pending = [(p, o) for p in wiring.order if wiring.kinds[p].load for o in wiring.after[p]]
    parts |= dict.fromkeys(p for p in wiring.order if wiring.kinds[p].load)
    while pending:
        part, output = pending.pop()
        link = wiring.after[part].get(output)
        if link is None or link.id in links:
            continue
        links[link.id] = link
        parts[link.to_part] = None
        pending += [
            (link.to_part, o) for i, o in wiring.kinds[link.to_part].dc if i == link.to_port
        ]
    return list(parts), list(links.values())


@dataclass(frozen=True)
class _Settled:
    """Where the lines come to rest: voltage at each node [V], loads that work, what each supply is
    asked for [mA]; the voltage of each load while it still drew, and the supplies that fed it."""

    volts: Floats
    on: frozenset[str]
    asked_ma: dict[str, float]
    fed: dict[str, tuple[float, tuple[str, ...]]]


def lines(
    wiring: Wiring,
    catalogue: Catalogue,
    receivers: Collection[str],
    receiver_v: float,
    off: Collection[str] = (),
    metal: DcNetwork | None = None,
) -> Lines:
    """Solve the lines with `receivers`, plates whose receiver gives `receiver_v` [V] to its line;
    supplies in `off` give nothing. `metal` is the network of the same run, where it is at hand.

    All loads draw at first. The one furthest under its least voltage goes off and stays off, until
    none is under; a supply asked for more than it can give counts as failed for all its loads.
    """
    metal = metal or DcNetwork(wiring, catalogue, receivers)
    rated: dict[str, float] = {}
    volts: dict[str, float] = {}
    for part in metal.supply:
        own = wiring.kinds[part].supply
        rated[part] = own.most_ma if own else RECEIVER_MA
        volts[part] = own.at(receiver_v) if own else receiver_v
    failed: dict[str, float] = {}
    cause: dict[str, str] = {}
    while True:
        alive = {p: v for p, v in volts.items() if p not in off and p not in failed}
        found = _settle(wiring, metal, alive)
        over = {p: ma for p, ma in found.asked_ma.items() if ma > rated[p] * (1 + 1e-9)}
        if not over:
            break
        worst = max(over, key=lambda p: over[p] / rated[p])
        failed[worst] = over[worst]
        cause |= {load: worst for load, (_, by) in found.fed.items() if worst in by}
    return Lines(
        loads={
            part: Fed(had, part in found.on, by, None if part in found.on else cause.get(part))
            for part, (had, by) in found.fed.items()
        },
        given_ma={**found.asked_ma, **failed},
        supply_v=volts,
        failed=tuple(failed),
        metal=metal,
        node_v=found.volts,
    )


def _settle(wiring: Wiring, metal: DcNetwork, alive: dict[str, float]) -> _Settled:
    """Drop the loads that get too little, one in each stretch of metal at a time."""
    on = set(metal.load)
    closed = np.ones(len(metal.diodes), bool)
    fed: dict[str, tuple[float, tuple[str, ...]]] = {}
    while True:
        volts, current, stretch = _diodes(metal, wiring, alive=alive, on=on, closed=closed)
        asked = _asked(metal, alive, current)
        giving: dict[int, list[str]] = {}
        for part, ma in sorted(asked.items()):
            if ma > 1e-3:
                giving.setdefault(int(stretch[metal.supply[part]]), []).append(part)
        worst: dict[int, tuple[float, str]] = {}
        for part in sorted(on):
            node, load = metal.load[part], wiring.kinds[part].load
            place = int(stretch[node])
            # What a load that goes dark had under load is what its voltage was too low by.
            fed[part] = float(volts[node]), tuple(giving.get(place, ()))
            short = (load.low_v if load else 0.0) - volts[node]
            if short > 1e-9 and (place not in worst or (short, part) > worst[place]):
                worst[place] = (short, part)
        if not worst:
            return _Settled(volts, frozenset(on), asked, fed)
        on -= {part for _, part in worst.values()}


def _asked(metal: DcNetwork, alive: dict[str, float], current: Floats) -> dict[str, float]:
    """What each supply gives [mA]."""
    rails = {node: part for part, node in metal.supply.items() if part in alive}
    asked: dict[str, float] = {}
    for (start, _), amps in zip(metal.diodes, current.tolist(), strict=True):
        if start in rails:
            asked[rails[start]] = asked.get(rails[start], 0.0) + 1000 * amps
    return asked


def _diodes(
    metal: DcNetwork, wiring: Wiring, alive: dict[str, float], on: set[str], closed: Bools
) -> tuple[Floats, Floats, Ints]:
    """Voltages [V], current through each diode [A] and the stretch of metal of each node, with each
    diode open or closed as its voltage says; `closed` is changed in place."""
    start, end = np.array(metal.diodes, dtype=np.int64).reshape(-1, 2).T
    for turn in range(4 * len(closed) + 8):
        volts, stretch = _kirchhoff(metal, wiring, alive=alive, on=on, closed=closed)
        across = volts[start] - volts[end]
        current = np.where(closed, across / DIODE_OHM, 0.0)
        back, forward = closed & (current < -1e-6), ~closed & (across > 1e-6)
        if not back.any() and not forward.any():
            break
        if turn > 8:  # one at a time where all at once goes in a circle
            pick = int(np.argmax(np.where(back, -current, np.where(forward, across, -1.0))))
            closed[pick] = not closed[pick]
        else:
            closed[back] = False
            closed[forward] = True
    return volts, current, stretch


def _kirchhoff(
    metal: DcNetwork, wiring: Wiring, alive: dict[str, float], on: set[str], closed: Bools
) -> tuple[Floats, Ints]:
    """Node voltages [V] with the closed diodes as small resistances, stretch by stretch; metal without
    a supply is at 0."""
    joined = metal.ohms + [
        (a, b, DIODE_OHM)
        for (a, b), shut in zip(metal.diodes, closed.tolist(), strict=True)
        if shut
    ]
    stretch = _stretches(metal.count, [(a, b) for a, b, _ in joined])
    given = {metal.supply[part]: v for part, v in alive.items()}
    drawn: dict[int, float] = {}
    for part in on:
        load = wiring.kinds[part].load
        node = metal.load[part]
        drawn[node] = drawn.get(node, 0.0) + (load.ma if load else 0.0) / 1000
    lit = {stretch[n] for n in given}
    edges: dict[int, list[tuple[int, int, float]]] = {label: [] for label in lit}
    nodes: dict[int, list[int]] = {label: [] for label in lit}
    for row in joined:
        if stretch[row[0]] in lit:
            edges[stretch[row[0]]].append(row)
    for node, label in enumerate(stretch):
        if label in lit:
            nodes[label].append(node)
    volts = np.zeros(metal.count)
    for label in lit:
        here = nodes[label]
        supplies = [n for n in here if n in given]
        if len(supplies) == 1 and not any(n in drawn for n in here):
            volts[here] = given[supplies[0]]
        else:
            volts[here] = _stretch_volts(here, edges[label], given, drawn)
    return volts, np.array(stretch, dtype=np.int64)


def _stretch_volts(
    nodes: list[int],
    edges: list[tuple[int, int, float]],
    given: dict[int, float],
    drawn: dict[int, float],
) -> Floats:
    """Voltages [V] of one stretch of metal with a supply: G v = i."""
    place = {node: i for i, node in enumerate(nodes)}
    count = len(nodes)
    rows, cols, vals = [], [], []
    right = np.array([given.get(n, -drawn.get(n, 0.0)) for n in nodes])
    for a, b, ohm in edges:
        for x, y in ((a, b), (b, a)):
            if x not in given:
                rows += [place[x], place[x]]
                cols += [place[x], place[y]]
                vals += [1 / ohm, -1 / ohm]
    for n in nodes:
        if n in given:
            rows.append(place[n])
            cols.append(place[n])
            vals.append(1.0)
    if count <= DENSE:
        matrix = np.zeros((count, count))
        np.add.at(matrix, (rows, cols), vals)
        return np.linalg.solve(matrix, right)
    # Only a line of hundreds of parts comes here: starting the program need not wait for SciPy.
    from scipy.sparse import coo_array
    from scipy.sparse.linalg import spsolve

    return np.asarray(spsolve(coo_array((vals, (rows, cols)), shape=(count, count)).tocsr(), right))


def _stretches(count: int, pairs: Iterable[tuple[int, int]]) -> list[int]:
    """The stretch of each node: nodes that are joined have the same number."""
    head = list(range(count))

    def find(n: int) -> int:
        while head[n] != n:
            head[n] = head[head[n]]
            n = head[n]
        return n

    for a, b in pairs:
        head[find(a)] = find(b)
    return [find(n) for n in range(count)]
