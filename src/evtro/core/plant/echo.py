"""Echoes: what a mismatch sends back, turned round again by one that lies before it.

First order and in power: every port on a carrier's way sends a share of its wave back, and every port
before it turns a share of that round once more. The sum over all pairs is taken in one pass: `back` is
what would come round again of a wave sent back from here. What open ports and other branches send back
comes over the isolation between outputs, or over the input. An amplifier lets nothing back. Phases are
not known, so that powers are summed (pairs of small reflections: C. G. Montgomery, R. H. Dicke, E. M.
Purcell, Principles of Microwave Circuits (1948), from memory); `scatter` has the waves themselves.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..job.parts import Catalogue
from ..physics.geodesy import Floats
from .circuit import Circuit, step
from .drive import Drive
from .found import Levels
from .wiring import Wiring

RECEIVER_DB = 8.0  # return loss of a receiver's input; common practice, no source


@dataclass(frozen=True)
class Matching:
    """Shares of power, (nodes, columns). `at`: what an input sends back alone, and what an output sends
    back into its cable, each with the step between impedances. `near`: what that step sends back of a
    wave on its way out of an output, (nodes,). `ends`: what stands behind an output without a cable, a
    receiver or nothing at all. `apart`: what gets to an output from any other one of its part.
    `edges` are those of the circuit, `cable` and `returns` say which of them are cables, and which let a
    wave back."""

    at: Floats
    near: Floats
    ends: Floats
    apart: Floats
    edges: NDArray[np.int64]
    cable: NDArray[np.bool_]
    returns: NDArray[np.bool_]


@dataclass(frozen=True)
class _Sent:
    """What a node sends back, looking down the run, as a share of what arrives there, and `late` the
    same times its delay [µs]; `over` and `over_late` sum over the outputs of an input what each of them
    sends back of what gets there. Arrays (nodes, columns)."""

    share: Floats
    late: Floats
    over: Floats
    over_late: Floats


def matching(wiring: Wiring, catalogue: Catalogue, circuit: Circuit) -> Matching:
    """The mismatches of a run, from the data of its parts and cables."""
    f, nodes = circuit.columns.frequency_mhz, circuit.nodes
    type_of: dict[str, int] = {}
    tables: list[tuple[Floats, Floats, Floats]] = []
    row_of, side_of = np.zeros(len(nodes), np.int64), np.zeros(len(nodes), np.int64)
    steps, near = np.zeros(len(nodes)), np.zeros(len(nodes))
    open_to = np.zeros(len(nodes))
    receiver = float(10 ** (-RECEIVER_DB / 10))
    for part in wiring.order:
        kind = wiring.kinds[part]
        if kind.key not in type_of:
            type_of[kind.key] = len(tables)
            tables.append((_share(kind.return_loss_at("in", f)), _share(kind.return_loss_at("out", f)),
                           _share(kind.isolation_at(f))))  # fmt: skip
        row = type_of[kind.key]
        before, after = wiring.before[part], wiring.after[part]
        for i in range(kind.inputs):
            node = nodes[part, "in", i]
            row_of[node] = row
            if i in before and (
                ohm := catalogue.cables[before[i].cable].impedance_ohm
            ) != kind.input_ohm:  # fmt: skip
                steps[node] = step(ohm, kind.input_ohm)
        for o in range(kind.outputs):
            node = nodes[part, "out", o]
            row_of[node], side_of[node] = row, 1
            if o not in after:
                open_to[node] = receiver if o in kind.receivers else 1.0
            elif (ohm := catalogue.cables[after[o].cable].impedance_ohm) != kind.output_ohm:
                steps[node] = near[node] = step(ohm, kind.output_ohm)
    shares = np.array(tables).reshape(len(tables), 3, len(f))
    at = shares[row_of, side_of] + steps[:, None] if tables else np.zeros((0, len(f)))
    apart = np.where(side_of[:, None] == 1, shares[row_of, 2], 0.0) if tables else at
    returns = np.isnan(circuit.factor) & ~circuit.chosen
    returns[list(circuit.source)] = False
    return Matching(
        at=np.minimum(at, 1.0), near=near, ends=np.broadcast_to(open_to[:, None], at.shape),
        apart=apart, edges=circuit.edges, cable=np.array([bool(k) for k in circuit.edge_link], bool), returns=returns,
    )  # fmt: skip


def _share(loss_db: Floats) -> Floats:
    return np.asarray(10 ** (-loss_db / 10), float)


def with_echoes(circuit: Circuit, driven: Drive, levels: Levels, matched: Matching) -> Levels:
    """The levels with the power of the echoes at every node [µV²] that lift and lower a carrier over its
    width, and with what disturbs: what comes later than the receiver of a column makes good.

    Over a width W a pair with the delay t turns by 2 pi W t: of what turns less than half round only the
    share sin^2 is seen over the carrier, the rest is the same all over it and belongs to the level. What
    comes over the isolation of a part from a port left open counts whole.
    """
    sent = _sent_back(circuit, driven, matched)
    zero = np.zeros(levels.signal.shape)
    echo, late, beside, back, back_late = (zero.copy() for _ in range(5))
    for group in circuit.groups:
        start, end = circuit.edges[group, 0], circuit.edges[group, 1]
        gain, delay = driven.gain[group], 2 * circuit.delay_us[group][:, None]
        here = _before(circuit, levels.signal, group) * gain
        came, came_late = (_before(circuit, x, group) * gain for x in (echo, late))
        turned, turned_late = (_before(circuit, x, group) for x in (back, back_late))
        cable, returns = matched.cable[group][:, None], matched.returns[group][:, None]
        # Over a cable: both of its ends send back, and the near one turns round.
        near = matched.near[start][:, None]
        twice = np.where(returns, gain**2, 0.0)
        on = (turned + np.where(cable, matched.at[start], 0.0)) * twice
        on_late = turned_late * twice + delay * on
        first = np.where(cable, near, 0.0)
        # The port that it comes to sends back, at the very end what is plugged in there.
        hit = np.where(cable, matched.at[end], matched.ends[end])
        # Through a part: other branches send back over the input and over the isolation.
        branches = np.where(cable | ~returns, 0.0, _beside(sent, matched, group, gain=gain))
        aside, aside_late, over, over_late = branches
        across = _before(circuit, beside, group) * gain + here * branches[2]
        came += here * (hit * on + (first + aside) * turned + over)
        came_late += here * (hit * on_late + (first + aside) * turned_late + aside_late * turned + over_late)  # fmt: skip
        begins = np.flatnonzero(np.r_[True, end[1:] != end[:-1]])
        ends = end[begins]
        if len(begins) < len(end):
            total = np.maximum(np.add.reduceat(here, begins), 1e-300)
            came, came_late, across = (
                np.add.reduceat(x, begins) for x in (came, came_late, across)
            )
            on, on_late = (np.add.reduceat(here * x, begins) / total for x in (on, on_late))
        echo[ends], late[ends], beside[ends] = came, came_late, across
        back[ends], back_late[ends] = on, on_late
    turns = circuit.columns.bandwidth_mhz * late / np.maximum(echo, 1e-300)
    seen = np.sin(np.pi * np.minimum(turns, 0.5)) ** 2
    disturbs = late > circuit.columns.made_good_us * echo
    return replace(
        levels, echo=seen * echo + (1 - seen) * beside, disturbing=np.where(disturbs, echo, 0.0)
    )


def _before(circuit: Circuit, values: Floats, group: NDArray[np.int64]) -> Floats:
    """Values where edges begin, in the columns that leave them."""
    found: Floats = values[circuit.edges[group, 0]]
    for k, edge in enumerate(group.tolist() if circuit.source else ()):
        if (source := circuit.source.get(edge)) is not None:
            found[k] = np.where(source >= 0, found[k][source], 0.0)
    return found


def _sent_back(circuit: Circuit, driven: Drive, matched: Matching) -> _Sent:
    """Looking down the run from every node, all that lies behind it included."""
    # At an output its own port faces back: what counts is the step to its cable and what is behind.
    is_output = np.array([side == "out" for _, side, _ in circuit.nodes], bool)[:, None]
    share = np.where(is_output, matched.ends + matched.near[:, None], matched.at)
    late, over, over_late = (np.zeros_like(share) for _ in range(3))
    for group in reversed(circuit.groups):
        edges = group[matched.returns[group]]
        if not len(edges):
            continue
        start, end = circuit.edges[edges, 0], circuit.edges[edges, 1]
        gain, delay = driven.gain[edges], 2 * circuit.delay_us[edges][:, None]
        more, more_late = share[end], late[end]
        np.add.at(share, start, gain**2 * more)
        np.add.at(late, start, gain**2 * (more_late + delay * more))
        np.add.at(over, start, gain * more)
        np.add.at(over_late, start, gain * more_late)
    return _Sent(np.minimum(share, 1.0), late, over, over_late)


def _beside(sent: _Sent, matched: Matching, group: NDArray[np.int64], *, gain: Floats) -> Floats:
    """Of a wave on its way from an input to an output, the shares that the part's other outputs send
    back: over the input, and over the isolation, each also times its delay: (4, edges, columns)."""
    edges = matched.edges[group]
    start, end = edges[:, 0], edges[:, 1]
    leak = matched.apart[end] / np.maximum(gain, 1e-12)
    found = np.array([
        sent.share[start] - matched.at[start] - gain**2 * sent.share[end],
        sent.late[start] - gain**2 * sent.late[end],
        leak * (sent.over[start] - gain * sent.share[end]),
        leak * (sent.over_late[start] - gain * sent.late[end]),
    ])  # fmt: skip
    return np.asarray(np.maximum(found, 0.0), float)
