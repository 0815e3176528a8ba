"""Level and noise at every port, for the run as it is and for many variants of it at once.

Signals are powers in µV², so that 10 log10 of them is dBµV. Noise is carried in every column at every
port, whether or not the carrier is there. References: H. T. Friis, Noise Figures of Radio Receivers,
Proc. IRE 32 (1944); H. Bosma, On the theory of linear noisy systems, Philips Res. Rep. Suppl. 10 (1967).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..physics.geodesy import Floats
from .arrays import IN_STEP, Circuit, Ints
from .distortion import Distorting, Own
from .excitation import Excitation, plain
from .levels import Levels
from .sums import NodeSums

ORDERS = ("second", "third")
BLOCK = 100  # variants solved side by side: their arrays stay in the processor's cache


@dataclass(frozen=True)
class Alteration:
    """A variant: gains [dB] and noise figures [dB] of edges, levels [dB more] of source nodes."""

    gain_db: Mapping[int, ArrayLike] = field(default_factory=dict)
    noise_figure_db: Mapping[int, float] = field(default_factory=dict)
    level_db: Mapping[int, ArrayLike] = field(default_factory=dict)


def solve(circuit: Circuit, driven: Excitation, distorting: Distorting | None = None) -> Levels:
    """Level and noise at every node of the run as it is. Linear in edges times columns.

    Passive ways at 290 K add kT less what they let through to their end, active ones kT (F - 1) g.
    Of selected arrivals the strongest counts, all others are added: in power, and where one carrier
    comes by two ways within `IN_STEP` as waves of unknown phase, so that its level is a range.
    """
    run = _Run(circuit, driven, base=None, variants=(), distorting=distorting)
    return run.levels()


def solve_onward(
    circuit: Circuit,
    driven: Excitation,
    old_driven: Excitation,
    old: Levels,
    distorting: Distorting | None = None,
) -> Levels | None:
    """What `solve` gives, from what it gave for the same circuit driven otherwise: only what lies behind a
    difference is solved again. None where that would not be the same to the last digit."""
    if old.delay_us is not None:
        return None
    touched = np.zeros(len(circuit.nodes), bool)
    for now, was in (
        (driven.signal, old_driven.signal),
        (driven.noise, old_driven.noise),
        (driven.added, old_driven.added),
    ):
        touched |= (now != was).any(axis=1)
    touched[circuit.edges[(driven.gain != old_driven.gain).any(axis=1), 1]] = True
    run = _Run(circuit, driven, base=old, variants=(), distorting=distorting, touched=touched)
    return None if run.two_ways else run.onward(old)


def solve_variants(
    circuit: Circuit,
    driven: Excitation,
    base: Levels,
    variants: Sequence[Alteration],
    at: Ints,
    distorting: Distorting | None = None,
) -> Levels:
    """The same for many variants, at some nodes: arrays (variants, nodes, columns). Only what lies
    behind an alteration and leads to the nodes asked for is solved again. Distortion goes by the total
    power at each output, the spectrum keeping the shape that it has in the base: C/D falls by 2 dB for
    each dB that all carriers rise."""
    blocks = []
    for start in range(0, len(variants), BLOCK):
        some = variants[start : start + BLOCK]
        run = _Run(circuit, driven, base=base, variants=some, at=at, distorting=distorting)
        blocks.append(run.levels(at))
    if not blocks:
        empty = np.zeros((0, len(at), len(circuit.ktb)))
        return Levels(empty, empty, empty, empty)

    def joined(what: str) -> Floats:
        return np.concatenate([getattr(b, what) for b in blocks])

    signal, noise = joined("signal"), joined("noise")
    alone = all(b.low is b.signal for b in blocks)
    low, high = (signal, signal) if alone else (joined("low"), joined("high"))
    if distorting is None:
        return Levels(signal, noise, low, high)
    return Levels(signal, noise, low, high, second=joined("second"), third=joined("third"))


class _Run:
    """One pass over the groups of a circuit, for a block of variants."""

    def __init__(
        self,
        circuit: Circuit,
        driven: Excitation,
        base: Levels | None,
        variants: Sequence[Alteration],
        at: Ints | None = None,
        ranged: bool = False,
        distorting: Distorting | None = None,
        touched: NDArray[np.bool_] | None = None,
    ) -> None:
        self.exact = base is None or touched is not None
        self.circuit, self.driven, self.base, self.distorting = circuit, driven, base, distorting
        self.count = max(len(variants), 1)
        self.gains: dict[int, list[tuple[int, Floats]]] = {}
        self.added: dict[int, list[tuple[int, Floats]]] = {}
        self.sources: dict[int, list[tuple[int, Floats]]] = {}
        for v, one in enumerate(variants):
            self._take(v, one)
        nodes = len(circuit.nodes)
        self.live = np.ones(nodes, bool) if base is None else self._live(at, touched)
        self.row = np.full(nodes, -1, dtype=np.int64)
        self.row[self.live] = np.arange(int(self.live.sum()))
        self.two_ways = False
        self.ranged = ranged or (base is not None and base.delay_us is not None)
        self._pass()
        if self.two_ways and not self.ranged and touched is None:
            self.ranged = True
            if self.base is not None:
                self.base = _Run(
                    circuit, driven, base=None, variants=(), ranged=True, distorting=distorting
                ).levels()
            self._pass()

    def _take(self, v: int, one: Alteration) -> None:
        circuit, driven = self.circuit, self.driven
        ends: dict[int, dict[int, Floats]] = {}
        for edge in {*one.gain_db, *one.noise_figure_db}:
            gain = driven.gain[edge]
            if edge in one.gain_db:
                gain = np.broadcast_to(plain(one.gain_db[edge]), gain.shape)
                self.gains.setdefault(edge, []).append((v, gain))
            ends.setdefault(int(circuit.edges[edge, 1]), {})[edge] = gain
        for node, changed in ends.items():
            self.added.setdefault(node, []).append((v, self._adds(node, changed, one)))
        for node, more in one.level_db.items():
            louder = driven.signal[node] * 10 ** (np.asarray(more, float) / 10)
            self.sources.setdefault(node, []).append((v, louder))

    def _adds(self, node: int, changed: Mapping[int, Floats], one: Alteration) -> Floats:
        """The noise that a node's own ways add, some of them changed."""
        circuit, driven = self.circuit, self.driven
        through, own, lossy = np.zeros_like(circuit.ktb), np.zeros_like(circuit.ktb), False
        for edge in circuit.into[node]:
            gain = changed.get(edge, driven.gain[edge])
            factor = circuit.factor[edge]
            if edge in one.noise_figure_db:
                factor = 10 ** (one.noise_figure_db[edge] / 10)
            if np.isnan(factor):
                lossy = True
                through = through + (0.0 if circuit.chosen[edge] else gain)
            else:
                own = own + (factor - 1) * gain
        return circuit.ktb * ((np.maximum(1 - through, 0.0) if lossy else 0.0) + own)

    def _live(self, at: Ints | None, differs: NDArray[np.bool_] | None) -> NDArray[np.bool_]:
        """Nodes behind an alteration, or behind what differs, that lead to a node asked for."""
        circuit = self.circuit
        touched, needed = np.zeros(len(circuit.nodes), bool), np.zeros(len(circuit.nodes), bool)
        touched[[*self.added, *self.sources]] = True
        if differs is not None:
            touched |= differs
        needed[slice(None) if at is None else at] = True
        for group in circuit.groups:
            start, end = circuit.edges[group, 0], circuit.edges[group, 1]
            touched[end[touched[start]]] = True
        for group in reversed(circuit.groups):
            start, end = circuit.edges[group, 0], circuit.edges[group, 1]
            needed[start[needed[end]]] = True
        return touched & needed

    def _pass(self) -> None:
        circuit, driven, live = self.circuit, self.driven, self.live
        shape = (int(live.sum()), self.count, len(circuit.ktb))
        self.signal = np.broadcast_to(driven.signal[live][:, None], shape).copy()
        self.noise = np.broadcast_to(driven.noise[live][:, None], shape).copy()
        for node, rows in self.sources.items():
            if live[node]:
                for v, power in rows:
                    self.signal[self.row[node], v] = power
        if self.ranged:
            self.low, self.high = self.signal.copy(), self.signal.copy()
            self.delay_us = np.zeros(shape)
        self.own: dict[int, Own] = {}
        if self.distorting is not None:
            self.second, self.third = np.zeros(shape), np.zeros(shape)
        for group, meets in zip(circuit.groups, circuit.meets, strict=True):
            if self.base is None:
                self._group(group, meets)
                continue
            end = circuit.edges[group, 1]
            here = live[end]
            if here.any():
                self._group(group[here], NodeSums(end[here]))

    def _from(self, what: str, start: Ints) -> Floats:
        """A quantity at the start of edges, of this run or of the base: (edges, variants or 1,
        columns)."""
        rows = self.row[start]
        mine: Floats = getattr(self, what)
        if self.base is None:
            return mine[rows]
        inside = rows >= 0
        if inside.all():
            return mine[rows]
        base: Floats = getattr(self.base, what)[start]
        if not inside.any():
            return base[:, None]
        found = np.repeat(base[:, None], self.count, axis=1)
        found[inside] = mine[rows[inside]]
        return found

    def _entering(self, what: str, group: Ints, alone: ArrayLike = 0.0) -> Floats:
        """A quantity where edges begin, in the columns that leave them: what converts takes it from the
        column before, and has `alone` where none is."""
        before = self._from(what, self.circuit.edges[group, 0])
        if not self.circuit.source:
            return before
        turned = [(k, e) for k, e in enumerate(group.tolist()) if e in self.circuit.source]
        if turned:
            before = before.copy()
        for k, edge in turned:
            source = self.circuit.source[edge]
            before[k] = np.where(source >= 0, before[k][:, source], alone)
        return before

    def _through(self, group: Ints, before: Floats) -> Floats:
        """What comes out of edges, their gains altered where a variant says so."""
        after = before * self.driven.gain[group][:, None]
        if not self.gains:
            return after
        altered = [(k, e) for k, e in enumerate(group.tolist()) if e in self.gains]
        if altered and after.shape[1] != self.count:
            after = np.repeat(after, self.count, axis=1)
        for k, edge in altered:
            for v, gain in self.gains[edge]:
                after[k, v] = before[k, v if before.shape[1] > 1 else 0] * gain
        return after

    def _group(self, group: Ints, meets: NodeSums) -> None:
        circuit = self.circuit
        signal = self._through(group, self._entering("signal", group))
        noise = self._through(group, self._entering("noise", group, circuit.ktb))
        if self.ranged:
            low = self._through(group, self._entering("low", group))
            high = self._through(group, self._entering("high", group))
            delay = self._entering("delay_us", group) + circuit.delay_us[group][:, None, None]
        products = {}
        if self.distorting is not None:
            products = {k: self._through(group, self._entering(k, group)) for k in ORDERS}
        first, ends = meets.first, meets.nodes
        rows = self.row[ends]
        if meets.alone:
            self.signal[rows], self.noise[rows] = signal, noise
            if self.ranged:
                self.low[rows], self.high[rows], self.delay_us[rows] = low, high, delay
            for k, power in products.items():
                getattr(self, k)[rows] = power
        else:
            through = None
            if circuit.chosen[group].any():
                open_way = self._through(group, np.ones((len(group), 1, 1)))
                won = self._won(group, signal, first=first, open_way=open_way)
                chosen = circuit.chosen[group][:, None, None]
                through = meets.sum(np.where(won & chosen, open_way, 0.0))
                signal, noise = np.where(won, signal, 0.0), np.where(won, noise, 0.0)
                products = {k: np.where(won, power, 0.0) for k, power in products.items()}
            for k, power in products.items():
                getattr(self, k)[rows] = meets.sum(power)
            self.noise[rows] = meets.sum(noise)
            if through is not None:
                self._less_selected(rows, ends, through)
            self.signal[rows] = meets.sum(signal)
            if self.ranged:
                if through is not None:
                    low, high = np.where(won, low, 0.0), np.where(won, high, 0.0)
                self._meet(rows, first, len(group), signal=signal, low=low, high=high, delay=delay)
            elif not self.two_ways:
                self.two_ways = bool((np.add.reduceat(signal > 0, first, dtype=np.int64) > 1).any())
        self.noise[rows] += self.driven.added[ends][:, None]
        for node, row in zip(ends.tolist(), rows.tolist(), strict=True):
            for v, power in self.added.get(node, ()):
                self.noise[row, v] += power - self.driven.added[node]
        if self.distorting is not None:
            self._distort(self.distorting, group, ends, signal)

    def _distort(self, at: Distorting, group: Ints, ends: Ints, signal: Floats) -> None:
        """Add what the rated outputs among some nodes make of the signals on the edges that come to
        them, (edges, variants or 1, columns)."""
        which = [n for node in ends.tolist() for n in at.by_node.get(node, ())]
        if not which:
            return
        place = {edge: k for k, edge in enumerate(group.tolist())}
        power = np.array(
            [signal[[place[e] for e in at.rated[n].edges.tolist()]].sum(axis=0) for n in which]
        )
        if self.exact:
            made = at.own(which, power[:, 0])
            second, third = made.second[:, None], made.third[:, None]
            for i, n in enumerate(which):
                self.own[n] = made.row(i)
        elif self.base is not None:
            second, third = at.scaled(which, power, self.base.own)
        for i, n in enumerate(which):
            row = self.row[at.rated[n].node]
            self.second[row] += second[i]
            self.third[row] = (np.sqrt(self.third[row]) + np.sqrt(third[i])) ** 2

    def _less_selected(self, rows: Ints, ends: Ints, through: Floats) -> None:
        """A passive part adds the less, the more the selected way lets through."""
        there = np.maximum(self.driven.added[ends][:, None] - self.circuit.ktb * through, 0.0)
        self.noise[rows] += there - self.driven.added[ends][:, None]

    def _won(self, group: Ints, signal: Floats, first: Ints, open_way: Floats) -> NDArray[np.bool_]:
        """Which arrivals count: all that are added, and of the selected ones the strongest."""
        chosen = self.circuit.chosen[group][:, None, None]
        place = np.arange(len(group))[:, None, None]
        of_node = np.repeat(np.arange(len(first)), np.diff(np.r_[first, len(group)]))
        score = np.where(chosen & (open_way > 0), signal, -1.0)
        best = np.maximum.reduceat(score, first)[of_node]
        # Where none has the carrier the first open way counts: its noise is what is heard.
        at_first = np.minimum.reduceat(np.where(score == best, place, len(group)), first)
        won: NDArray[np.bool_] = ~chosen | ((at_first[of_node] == place) & (score >= 0))
        return won

    def _meet(
        self,
        rows: Ints,
        first: Ints,
        count: int,
        signal: Floats,
        low: Floats,
        high: Floats,
        delay: Floats,
    ) -> None:
        """One carrier by several ways: within a step of each other their waves add or cancel, apart
        from that their powers add."""
        width = self.circuit.columns.bandwidth_mhz
        for row, begin, stop in zip(
            rows.tolist(), first.tolist(), [*first[1:].tolist(), count], strict=True
        ):
            part = slice(begin, stop)
            power = signal[part]
            total = power.sum(axis=0)
            late = (power * delay[part]).sum(axis=0) / np.maximum(total, 1e-300)
            best = np.expand_dims(np.argmax(power, axis=0), 0)
            apart = np.abs(delay[part] - np.take_along_axis(delay[part], best, 0)) * width
            together = (apart < IN_STEP) & (power > 0)
            waves = np.where(together, np.sqrt(high[part]), 0.0)
            strongest = np.sqrt(np.take_along_axis(low[part], best, 0))[0]
            others = waves.sum(axis=0) - np.take_along_axis(waves, best, 0)[0]
            aside = np.where(together, 0.0, 1.0)
            self.high[row] = waves.sum(axis=0) ** 2 + (aside * high[part]).sum(axis=0)
            self.low[row] = np.maximum(strongest - others, 0.0) ** 2 + (aside * low[part]).sum(
                axis=0
            )
            self.delay_us[row] = late

    def onward(self, old: Levels) -> Levels:
        """What was found, and what stands from before."""
        found: dict[str, Floats] = {}
        for what in ("signal", "noise", *(ORDERS if self.distorting is not None else ())):
            found[what] = getattr(old, what).copy()
            found[what][self.live] = getattr(self, what)[:, 0]
        return Levels(
            **found, low=found["signal"], high=found["signal"], own={**old.own, **self.own}
        )

    def levels(self, at: Ints | None = None) -> Levels:
        """What was found: all nodes, or the nodes asked for by variant."""
        if at is None:
            found = {k: getattr(self, k)[:, 0] for k in ("signal", "noise")}
            if self.ranged:
                found |= {k: getattr(self, k)[:, 0] for k in ("low", "high", "delay_us")}
            else:
                found |= {"low": found["signal"], "high": found["signal"]}
            if self.distorting is not None:
                found |= {k: getattr(self, k)[:, 0] for k in ORDERS}
            return Levels(**found, own=self.own)
        found = {}
        names = [
            "signal",
            "noise",
            *(("low", "high") if self.ranged else ()),
            *(ORDERS if self.distorting is not None else ()),
        ]
        for what in names:
            here = self._from(what, at)
            found[what] = np.moveaxis(
                np.broadcast_to(here, (len(at), self.count, here.shape[2])), 0, 1
            )
        return Levels(
            found["signal"],
            found["noise"],
            found.get("low", found["signal"]),
            found.get("high", found["signal"]),
            second=found.get("second"),
            third=found.get("third"),
        )
