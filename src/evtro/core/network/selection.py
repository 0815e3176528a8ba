"""What each receiver can ask for: voltage and tone up its line to the LNB or switch that they choose.

A receiver tells its line a voltage, a tone and, to a switch, a position. That goes up wherever direct
current passes. On a line that several receivers share, what arrives is the highest voltage, and the
tone if any of them sends it (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from ..job.paths import BETWEEN_V, HIGH_V, LOW_V
from ..physics.geodesy import Floats
from .arrays import Circuit, Columns
from .graph import Wiring

Control = tuple[str, int]  # a part and its output whose line chooses what comes out
State = tuple[float, bool]  # voltage [V] and tone


@dataclass(frozen=True)
class Reach:
    """What a receiver's voltage comes to: the controls, those among them that its tone does not
    reach, and the first parts and cables that let nothing through."""

    controls: tuple[Control, ...]
    toneless: frozenset[Control] = frozenset()
    stopped: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class Bound:
    """Receivers that share what one control gives: they get the same voltage, tone and position, or
    there are more of them than user bands (`slots`). `concerns` (columns) says which carriers come
    from there, `states` what they are asked for by."""

    part: str
    output: int
    plates: tuple[str, ...]
    concerns: NDArray[np.bool_]
    states: tuple[State, ...] = ()
    by_position: bool = False
    slots: int = 0


@dataclass(frozen=True)
class Selection:
    """What receivers can choose in a run, by plate: `alone` and `beside` (columns) say which carriers one receiver can
    ask for by itself, and whatever its neighbours watch. `mask` (edges, columns) and `silent` (nodes,
    columns) go into the solution."""

    reach: Mapping[str, Reach]
    alone: Mapping[str, NDArray[np.bool_]]
    beside: Mapping[str, NDArray[np.bool_]]
    bound: tuple[Bound, ...]
    mask: Floats | None
    silent: NDArray[np.bool_] | None
    held: Mapping[Control, State] = field(default_factory=dict)
    askers: Mapping[Control, tuple[str, ...]] = field(default_factory=dict)


def merged(one: State, other: State) -> State:
    """What arrives when two ask on one line."""
    return max(one[0], other[0]), one[1] or other[1]


def choose(wiring: Wiring, circuit: Circuit, receivers: tuple[str, ...]) -> Selection:
    """Work out the choice of every receiver, named by its plate, in every column."""
    columns = circuit.columns
    reach = {plate: _reach(wiring, plate) for plate in receivers}
    askers: dict[Control, list[str]] = {}
    for plate in receivers:
        for control in reach[plate].controls:
            askers.setdefault(control, []).append(plate)
    held = _held(wiring)
    mask = _mask(wiring, circuit, askers)
    silent = _silent(wiring, circuit, askers=askers, held=held, reach=reach)
    controls, above = _controls_of(wiring, columns), _above(wiring)
    alone = {
        p: _alone(wiring, columns, lines=above[p], reach=r, held=held, controls=controls)
        for p, r in reach.items()
    }
    bound = _bound(wiring, columns, askers, receivers)
    beside = {p: alone[p] & _free(columns, p, bound) if bound else alone[p] for p in reach}
    return Selection(
        reach=reach,
        alone=alone,
        beside=beside,
        bound=bound,
        mask=mask,
        silent=silent,
        held=held,
        askers={k: tuple(v) for k, v in askers.items()},
    )


def _reach(wiring: Wiring, plate: str) -> Reach:
    """Go up from a plate's receiver as far as its voltage goes."""
    controls: list[Control] = []
    toneless: set[Control] = set()
    stopped: list[tuple[str, str]] = []
    kind = wiring.kinds[plate]
    pending = [(plate, i, True) for i, o in kind.dc if o in kind.receivers]
    seen: set[tuple[str, int]] = set()
    while pending:
        part, port, tone = pending.pop()
        link = wiring.before[part].get(port)
        if link is None or (link.from_part, link.from_port) in seen:
            continue
        above, output = link.from_part, link.from_port
        seen.add((above, output))
        kind = wiring.kinds[above]
        tone = tone and kind.passes_tone
        if kind.by_line(output) or kind.selects_at(output):
            controls.append((above, output))
            if not tone:
                toneless.add((above, output))
        supplied = set(kind.supply.inputs) if kind.supply else set()
        if kind.supply is not None and kind.supply.repeats:
            pending += [(above, i, tone) for i in sorted(supplied)]
            continue
        onward = [i for i, o in kind.dc if o == output and i not in supplied]
        if not onward and not kind.bands and not kind.selects_at(output):
            stopped.append((above, link.id))
        pending += [(above, i, tone) for i in onward]
    return Reach(tuple(controls), frozenset(toneless), tuple(stopped))


def _held(wiring: Wiring) -> dict[Control, State]:
    """LNB outputs whose line a supply holds at its own voltage, without tone: the highest of several."""
    held: dict[Control, State] = {}
    for part in wiring.order:
        kind = wiring.kinds[part]
        for output in range(kind.outputs):
            if not kind.by_line(output):
                continue
            volts = max(_supplies_below(wiring, part, output), default=0.0)
            if volts > 0:
                held[part, output] = (HIGH_V if volts >= BETWEEN_V else LOW_V), False
    return held


def _supplies_below(wiring: Wiring, part: str, output: int) -> list[float]:
    found: list[float] = []
    pending = [wiring.after[part].get(output)]
    while pending:
        link = pending.pop()
        if link is None:
            continue
        kind = wiring.kinds[link.to_part]
        if (
            kind.supply is not None
            and link.to_port in kind.supply.inputs
            and not kind.supply.repeats
        ):
            found.append(kind.supply.volts)
        pending += [wiring.after[link.to_part].get(o) for i, o in kind.dc if i == link.to_port]
    return found


def _mask(wiring: Wiring, circuit: Circuit, askers: Mapping[Control, list[str]]) -> Floats | None:
    """Which selected ways are open in each column: those whose line asks for their input."""
    if not circuit.chosen.any():
        return None
    columns = circuit.columns
    mask = np.ones(circuit.gain_db.shape)
    rows: dict[tuple[str, int], Floats] = {}
    ports = {node: port for port, node in circuit.nodes.items()}
    for edge in np.flatnonzero(circuit.chosen).tolist():
        part, _, i = ports[int(circuit.edges[edge, 0])]
        _, _, o = ports[int(circuit.edges[edge, 1])]
        kind = wiring.kinds[part]
        if (kind.key, i) not in rows:
            rows[kind.key, i] = np.array(
                [
                    float(
                        any(
                            s.input == i and (s.position or (ask is not None and s.answers(*ask)))
                            for s in kind.select
                        )
                    )
                    for ask in columns.asks
                ]
            )
        mask[edge] = rows[kind.key, i] if (part, o) in askers else 0.0
    return mask


def _silent(
    wiring: Wiring,
    circuit: Circuit,
    askers: Mapping[Control, list[str]],
    held: Mapping[Control, State],
    reach: Mapping[str, Reach],
) -> NDArray[np.bool_] | None:
    """Columns that an LNB's output does not give: no line asks for them, or a supply holds another."""
    columns = circuit.columns
    silent = np.zeros((len(circuit.nodes), len(columns.ids)), bool)
    for port in columns.given:
        control = (port[0], port[2])
        if port not in circuit.nodes or not wiring.kinds[port[0]].by_line(port[2]):
            continue
        mine = askers.get(control, [])
        tone = any(control not in reach[p].toneless for p in mine)
        gives = columns.gives(port)
        for c, ask in enumerate(columns.asks):
            if ask is None or not gives[c]:
                continue
            arrives = held.get(control, (0.0, False))
            if mine:
                arrives = merged(arrives, (ask[0], ask[1] and tone))
            silent[circuit.nodes[port], c] = arrives != ask
    return silent if silent.any() else None


def _controls_of(wiring: Wiring, columns: Columns) -> list[tuple[int, Control, State]]:
    """The columns that an LNB's output must be asked for: the output, and by what."""
    return [
        (c, (port[0], port[2]), ask)
        for port in columns.given
        if port[0] in wiring.before and wiring.kinds[port[0]].by_line(port[2])
        for c in np.flatnonzero(columns.gives(port)).tolist()
        if (ask := columns.asks[c]) is not None
    ]


def _above(wiring: Wiring) -> dict[str, frozenset[Control]]:
    """The controls that a part's signal comes through, by part."""
    above: dict[str, frozenset[Control]] = {}
    for part in wiring.order:
        found: frozenset[Control] = frozenset()
        for link in wiring.before[part].values():
            kind = wiring.kinds[link.from_part]
            own = kind.selects_at(link.from_port) or kind.by_line(link.from_port)
            more = above[link.from_part]
            if own:
                more = more | {(link.from_part, link.from_port)}
            found = found | more if found else more
        above[part] = found
    return above


def _alone(
    wiring: Wiring,
    columns: Columns,
    lines: frozenset[Control],
    reach: Reach,
    held: Mapping[Control, State],
    controls: list[tuple[int, Control, State]],
) -> NDArray[np.bool_]:
    """What a receiver can ask for with all others off."""
    switches = {c for c in lines if wiring.kinds[c[0]].selects_at(c[1])}
    mine = set(reach.controls)
    found = ~columns.asked | (switches <= mine)
    if any(s in reach.toneless for s in switches):
        found &= ~columns.toned
    brought: dict[int, bool] = {}
    for c, control, ask in controls:
        if not found[c] or control not in lines:
            continue
        arrives = held.get(control, (0.0, False))
        if control in mine:
            arrives = merged(arrives, (ask[0], ask[1] and control not in reach.toneless))
        # Of several outputs that lead here one is enough.
        brought[c] = brought.get(c, False) or arrives == ask
    for c, there in brought.items():
        found[c] = there
    return found


def _bound(
    wiring: Wiring,
    columns: Columns,
    askers: Mapping[Control, list[str]],
    receivers: tuple[str, ...],
) -> tuple[Bound, ...]:
    found = []
    for control, plates in askers.items():
        kind = wiring.kinds[control[0]]
        if len(plates) < 2 or kind.user_bands:
            continue
        from_here = np.zeros(len(columns.ids), bool)
        for port in columns.given:
            if (port[0], port[2]) == control:
                from_here |= columns.gives(port)
        concerns = columns.asked & (from_here | kind.selects)
        states = {columns.asks[c] for c in np.flatnonzero(concerns).tolist()}
        position = any(s.position for s in kind.select)
        if len(states) > 1 or (position and concerns.any()):
            found.append(
                Bound(
                    control[0],
                    control[1],
                    plates=tuple(plates),
                    concerns=concerns,
                    states=tuple(sorted(s for s in states if s)),
                    by_position=position,
                )
            )
    for part in wiring.order:
        kind = wiring.kinds[part]
        slots = len(kind.user_bands)
        for output, link in wiring.after[part].items() if slots else ():
            # Each output has all of them for itself.
            behind = {link.to_part, *wiring.down(link.to_part)}
            tuners = [p for p in receivers if p in behind]
            if len(tuners) <= slots:
                continue
            concerns = columns.asked
            if not kind.selects:
                concerns = np.array([p is not None and p[0] == part for p in columns.port], bool)
            found.append(Bound(part, output, plates=tuple(tuners), concerns=concerns, slots=slots))
    return tuple(found)


def _free(columns: Columns, plate: str, bound: tuple[Bound, ...]) -> NDArray[np.bool_]:
    """Whether a carrier stays whatever the neighbours on the same line ask for."""
    free = np.ones(len(columns.ids), bool)
    for one in bound:
        if plate not in one.plates:
            continue
        for c in np.flatnonzero(one.concerns).tolist():
            ask = columns.asks[c]
            if ask is None or one.slots or one.by_position:
                free[c] = False
            else:
                free[c] &= all(merged(ask, other) == ask for other in one.states)
    return free
