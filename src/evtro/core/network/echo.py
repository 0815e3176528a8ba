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
from .arrays import Circuit, Ints, step
from .excitation import Excitation
from .graph import Wiring
from .levels import Levels
from .sums import NodeSums

RECEIVER_DB = 8.0  # return loss of a receiver's input; common practice, no source


Ways = tuple[Ints, NodeSums]  # edges, and how they meet


@dataclass(frozen=True)
class Matching:
    """Shares of power, (nodes, columns). `at`: what an input sends back alone, and what an output sends
    back into its cable, each with the step between impedances. `near`: what that step sends back of a
    wave on its way out of an output, (nodes,). `ends`: what stands behind an output without a cable, a
    receiver or nothing at all. `apart`: what gets to an output from any other one of its part.
    `down` are the groups of edges parted into cables, ways of parts that let a wave back, and ways that do
    not, with how those of parts meet; `up` the same that let one back, from the ends to the sources, with how
    they meet where they start."""

    at: Floats
    near: Floats
    ends: Floats
    apart: Floats
    down: tuple[tuple[Ints, Ways, Ways], ...]
    up: tuple[Ways, ...]
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
            tables.append(
                (
                    _share(kind.return_loss_at("in", f)),
                    _share(kind.return_loss_at("out", f)),
                    _share(kind.isolation_at(f)),
                )
            )
        row = type_of[kind.key]
        before, after = wiring.before[part], wiring.after[part]
        for i in range(kind.inputs):
            node = nodes[part, "in", i]
            row_of[node] = row
            if (
                i in before
                and (ohm := catalogue.cables[before[i].cable].impedance_ohm) != kind.input_ohm
            ):
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
    cable = np.array([bool(k) for k in circuit.edge_link], bool)
    return Matching(
        at=np.minimum(at, 1.0),
        near=near,
        ends=open_to,
        apart=apart,
        down=tuple(
            (
                g[cable[g]],
                *(_by_end(circuit, g[~cable[g] & (returns[g] == back)]) for back in (True, False)),
            )
            for g in circuit.groups
        ),
        up=tuple(
            _by_start(circuit, g[returns[g]]) for g in reversed(circuit.groups) if returns[g].any()
        ),
        cable=cable,
        returns=returns,
    )


def _by_start(circuit: Circuit, group: Ints) -> Ways:
    """Edges sorted by where they start, and how they meet there."""
    edges = group[np.argsort(circuit.edges[group, 0], kind="stable")]
    return edges, NodeSums(circuit.edges[edges, 0])


def _by_end(circuit: Circuit, group: Ints) -> Ways:
    """Edges of a group, which are sorted by where they end, and how they meet there."""
    return group, NodeSums(circuit.edges[group, 1])


def _share(loss_db: Floats) -> Floats:
    return np.asarray(10 ** (-loss_db / 10), float)


def with_echoes(circuit: Circuit, driven: Excitation, levels: Levels, matched: Matching) -> Levels:
    """The levels with the power of the echoes at every node [µV²] that lift and lower a carrier over its
    width, and with what disturbs: what comes later than the receiver of a column makes good.

    Over a width W a pair with the delay t turns by 2 pi W t: of what turns less than half round only the
    share sin^2 is seen over the carrier, the rest is the same all over it and belongs to the level. What
    comes over the isolation of a part from a port left open counts whole.
    """
    passed = _Pass(circuit, driven, levels, matched)
    for cables, passive, one_way in matched.down:
        if len(cables):
            passed.cables(cables)
        if len(passive[0]):
            passed.parts(*passive)
        if len(one_way[0]):
            passed.one_way(*one_way)
    echo, late = passed.echo, passed.late
    turns = late / np.maximum(echo, 1e-300)
    turns *= circuit.columns.bandwidth_mhz
    seen = np.sin(np.pi * np.minimum(turns, 0.5, out=turns), out=turns)
    seen *= seen
    disturbs = late > circuit.columns.tolerated_echo_us * echo
    return replace(
        levels,
        echo=seen * (echo - passed.beside) + passed.beside,
        disturbing=np.where(disturbs, echo, 0.0) if disturbs.any() else None,
    )


class _Pass:
    """One pass down the run. `echo` is the power of echoes, `late` the same times its delay, `beside` the
    part of it that came over isolations; `back` what would come round again of a wave sent back from a
    node, `back_late` the same times its delay. Arrays (nodes, columns)."""

    def __init__(
        self, circuit: Circuit, driven: Excitation, levels: Levels, matched: Matching
    ) -> None:
        self.circuit, self.gain, self.signal, self.matched = (
            circuit,
            driven.gain,
            levels.signal,
            matched,
        )
        self.sent = _sent_back(circuit, driven, matched)
        self.stepped = bool(matched.near.any())
        shape = levels.signal.shape
        self.echo, self.late, self.beside = np.zeros(shape), np.zeros(shape), np.zeros(shape)
        self.back, self.back_late = np.zeros(shape), np.zeros(shape)

    def cables(self, group: Ints) -> None:
        """Over cables: both ends send back, and the near one turns round."""
        matched = self.matched
        start, end = self.circuit.edges[group, 0], self.circuit.edges[group, 1]
        gain = self.gain[group]
        twice = gain * gain
        turned, turned_late = self.back[start], self.back_late[start]
        on = (turned + matched.at[start]) * twice
        on_late = turned_late * twice + (2 * self.circuit.delay_us[group])[:, None] * on
        here = self.signal[start] * gain
        hit = here * matched.at[end]
        echo, late = self.echo[start] * gain + hit * on, self.late[start] * gain + hit * on_late
        if self.stepped:
            near = here * matched.near[start][:, None]
            echo, late = echo + near * turned, late + near * turned_late
        self.echo[end], self.late[end], self.beside[end] = echo, late, self.beside[start] * gain
        self.back[end], self.back_late[end] = on, on_late

    def one_way(self, group: Ints, meets: NodeSums) -> None:
        """Through parts that let nothing back: they only hand echoes on."""
        gain = self.gain[group]
        self._put(
            meets,
            [_before(self.circuit, x, group) * gain for x in (self.echo, self.late, self.beside)],
        )

    def parts(self, group: Ints, meets: NodeSums) -> None:
        """Through parts: other branches send back over the input and over the isolation, and what is
        plugged in at the very end sends back, too."""
        matched, sent = self.matched, self.sent
        start, end = self.circuit.edges[group, 0], self.circuit.edges[group, 1]
        gain = self.gain[group]
        twice = gain * gain
        here = self.signal[start] * gain
        turned, turned_late = self.back[start], self.back_late[start]
        share, share_late = sent.share[end], sent.late[end]
        aside = np.maximum(sent.share[start] - matched.at[start] - twice * share, 0.0)
        aside_late = np.maximum(sent.late[start] - twice * share_late, 0.0)
        leak = matched.apart[end] / np.maximum(gain, 1e-12)
        across = here * (leak * np.maximum(sent.over[start] - gain * share, 0.0))
        over_late = leak * np.maximum(sent.over_late[start] - gain * share_late, 0.0)
        on, on_late = turned * twice, turned_late * twice
        hit = matched.ends[end][:, None]
        echo = self.echo[start] * gain + here * (hit * on + aside * turned) + across
        late = self.late[start] * gain + here * (
            hit * on_late + aside * turned_late + aside_late * turned + over_late
        )
        beside = self.beside[start] * gain + across
        self._put(meets, [echo, late, beside, here, here * on, here * on_late])

    def _put(self, meets: NodeSums, rows: list[Floats]) -> None:
        """Sum what comes to each node; of what would come round the shares count by their carriers."""
        ends, rows = meets.nodes, [meets.sum(x) for x in rows]
        self.echo[ends] += rows[0]
        self.late[ends] += rows[1]
        self.beside[ends] += rows[2]
        if len(rows) > 3:
            total = np.maximum(rows[3], 1e-300)
            self.back[ends], self.back_late[ends] = rows[4] / total, rows[5] / total


def _before(circuit: Circuit, values: Floats, group: Ints) -> Floats:
    """Values where edges begin, in the columns that leave them."""
    found: Floats = values[circuit.edges[group, 0]]
    for k, edge in enumerate(group.tolist() if circuit.source else ()):
        if (source := circuit.source.get(edge)) is not None:
            found[k] = np.where(source >= 0, found[k][source], 0.0)
    return found


def _sent_back(circuit: Circuit, driven: Excitation, matched: Matching) -> _Sent:
    """Looking down the run from every node, all that lies behind it included."""
    # At an output its own port faces back: what counts is the step to its cable and what is behind.
    is_output = np.array([side == "out" for _, side, _ in circuit.nodes], bool)[:, None]
    share = np.where(is_output, (matched.ends + matched.near)[:, None], matched.at)
    late, over, over_late = np.zeros_like(share), np.zeros_like(share), np.zeros_like(share)
    for edges, meets in matched.up:
        starts = meets.nodes
        end, gain = circuit.edges[edges, 1], driven.gain[edges]
        once, once_late = gain * share[end], gain * late[end]
        delay = circuit.delay_us[edges]
        twice, twice_late = gain * once, gain * once_late
        if delay.any():
            twice_late += (2 * delay)[:, None] * twice
        share[starts] += meets.sum(twice)
        late[starts] += meets.sum(twice_late)
        over[starts] += meets.sum(once)
        over_late[starts] += meets.sum(once_late)
    return _Sent(np.minimum(share, 1.0), late, over, over_late)
