"""The run as arrays: nodes are ports, edges are ways through parts and lengths of cable."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..job import Cable
from ..job.parts import CableType, Catalogue, PartType, warmer
from ..job.paths import BLOCKED_DB, Path
from ..physics.geodesy import Floats
from ..units.quantities import noise_dbuv
from .graph import Wiring
from .sums import NodeSums

Ints = NDArray[np.int64]
Port = tuple[str, str, int]  # part, "in" or "out", number
# Input, output, row of gains, noise factor, selected or not, oscillator [MHz].
_Way = tuple[int, int, int, float, bool, float | None]

LIGHT_M_US = 299.792458
IN_STEP = 0.3  # delay times bandwidth under which two ways add as waves; common practice, no source


@dataclass(frozen=True)
class Columns:
    """Carriers as the plant carries them, one column each.

    Frequency on the cable and bandwidth [MHz]; what each source port gives of each column, carrier
    and noise [dBµV], NaN where it gives no such carrier. `port` is the source that a carrier is
    meant to come from. `asks` is the voltage [V] and tone by which a receiver asks for it, None for
    a carrier that is there without asking. Behind converters a carrier has columns of its own: `origin`
    names the first column of each one's carrier, `source` by oscillator [MHz] the column that each is
    made from, -1 for none; see `convert`. The last `beside` of the ids are carriers that nobody wants:
    they come along and load what amplifies. The last `supposed` of those are not known to be there: they
    make no distortion. `echo_us` is how late an echo may come that a receiver makes good [µs]; none told:
    as late as a carrier's width says, see `made_good_us`.
    """

    ids: tuple[str, ...]
    frequency_mhz: Floats
    bandwidth_mhz: Floats
    port: tuple[Port | None, ...]
    given: Mapping[Port, tuple[Floats, Floats]]
    asks: tuple[tuple[float, bool] | None, ...] = ()
    origin: Ints | None = None
    source: Mapping[float, Ints] = field(default_factory=dict)
    beside: int = 0
    supposed: int = 0
    echo_us: Floats = field(default_factory=lambda: np.zeros(0))

    @cached_property
    def carrier(self) -> Ints:
        """The number of each column's carrier: its own, behind a converter that of its first column."""
        return np.arange(len(self.ids)) if self.origin is None else self.origin

    @cached_property
    def wanted(self) -> int:
        """How many carriers are wanted: the first ones."""
        return int(self.carrier.max(initial=-1)) + 1 - self.beside

    @cached_property
    def of_wanted(self) -> NDArray[np.bool_]:
        """Which columns are of wanted carriers, (1, columns)."""
        return np.asarray(self.carrier < self.wanted)[None]

    @cached_property
    def known(self) -> NDArray[np.bool_]:
        """Which columns are of carriers that are known to be there."""
        return np.asarray(self.carrier < self.wanted + self.beside - self.supposed)

    @cached_property
    def tolerated_echo_us(self) -> Floats:
        """How late an echo may come [µs]: what the receiver makes good, and in any case so much that it
        only lifts or lowers the carrier as a whole."""
        flat = IN_STEP / np.maximum(self.bandwidth_mhz, 1e-6)
        return np.maximum(flat, self.echo_us) if len(self.echo_us) else flat

    @cached_property
    def asked(self) -> NDArray[np.bool_]:
        """Which carriers are asked for."""
        return np.array([ask is not None for ask in self.asks], bool)

    @cached_property
    def toned(self) -> NDArray[np.bool_]:
        """Which of them by a tone."""
        return np.array([ask is not None and ask[1] for ask in self.asks], bool)

    def gives(self, port: Port) -> NDArray[np.bool_]:
        """Which carriers a source port gives."""
        return np.asarray(~np.isnan(self.given[port][0]))

    def ports_of(self, column: int) -> list[Port]:
        """The outputs of its own source at which a carrier comes out, the one that is meant first."""
        meant = self.port[column]
        if meant is None:
            return []
        others = (p for p in self.given if p[0] == meant[0] and p != meant)
        return [meant, *(p for p in others if self.gives(p)[column])]

    def meant(self, column: int) -> tuple[float, float] | None:
        """Level and C/N [dBµV, dB] of a carrier at the port it is meant to come from."""
        port = self.port[column]
        if port is None or port not in self.given:
            return None
        level, noise = self.given[port]
        return float(level[column]), float(level[column] - noise[column])


@dataclass(frozen=True)
class Circuit:
    """A run ready to be solved for some columns.

    `edges` are rows of (from node, to node), `gain_db` (edges, columns) what each passes, `factor`
    its noise figure as a ratio (NaN: passive), `delay_us` how long it takes, `chosen` whether it is
    one of several arrivals of which one is selected. `source` holds, for edges that convert, the column
    that each column comes from, -1 for one that only noise comes to.
    """

    nodes: Mapping[Port, int]
    edges: Ints
    edge_part: tuple[str, ...]
    edge_link: tuple[str, ...]
    gain_db: Floats
    factor: Floats
    delay_us: Floats
    chosen: NDArray[np.bool_]
    columns: Columns
    groups: tuple[Ints, ...]
    source: Mapping[int, Ints] = field(default_factory=dict)

    @cached_property
    def ktb(self) -> Floats:
        """Thermal noise of each column [µV²]."""
        return np.array([10 ** (noise_dbuv(b) / 10) for b in self.columns.bandwidth_mhz])

    @cached_property
    def into(self) -> list[list[int]]:
        """Edges that come to each node."""
        found: list[list[int]] = [[] for _ in range(len(self.nodes))]
        for edge, node in enumerate(self.edges[:, 1].tolist()):
            found[node].append(edge)
        return found

    @cached_property
    def heads(self) -> Ints:
        """Nodes that nothing comes to."""
        return np.array([n for n, edges in enumerate(self.into) if not edges], dtype=np.int64)

    @cached_property
    def by_end(self) -> tuple[Ints, NodeSums]:
        """Edges sorted by the node they end at, and how they meet there."""
        order = np.argsort(self.edges[:, 1], kind="stable")
        return order, NodeSums(self.edges[order, 1])

    @cached_property
    def meets(self) -> tuple[NodeSums, ...]:
        """How the edges of each group meet."""
        return tuple(NodeSums(self.edges[group, 1]) for group in self.groups)

    @cached_property
    def edge_of_link(self) -> dict[str, int]:
        """The edge of each cable."""
        return {link: e for e, link in enumerate(self.edge_link) if link}

    @cached_property
    def edges_of_part(self) -> dict[str, list[int]]:
        """The edges of each part."""
        found: dict[str, list[int]] = {}
        for edge, part in enumerate(self.edge_part):
            if part:
                found.setdefault(part, []).append(edge)
        return found


def compile_arrays(wiring: Wiring, catalogue: Catalogue, columns: Columns) -> Circuit:
    """Lay out nodes and edges of everything that is not on a loop."""
    f = columns.frequency_mhz
    nodes: dict[Port, int] = {}
    rows: list[tuple[int, int]] = []
    part_of: list[str] = []
    factors: list[float] = []
    chosen: list[bool] = []
    which: list[int] = []
    table: list[Floats] = []
    # Parts of one type and setting share their gains.
    known: dict[tuple[str, float | None], list[_Way]] = {}
    source: dict[int, Ints] = {}
    for part_id in wiring.order:
        part, kind = wiring.parts[part_id], wiring.kinds[part_id]
        for i in range(kind.inputs):
            nodes[part_id, "in", i] = len(nodes)
        for o in range(kind.outputs):
            nodes[part_id, "out", o] = len(nodes)
        key = (kind.key, part.setting_db)
        if key not in known:
            known[key] = _ways(kind, part.setting_db, columns, table)
        for i, o, row, factor, select, lo in known[key]:
            if lo is not None:
                source[len(rows)] = columns.source[lo]
            rows.append((nodes[part_id, "in", i], nodes[part_id, "out", o]))
            which.append(row)
            factors.append(factor)
            chosen.append(select)
            part_of.append(part_id)
    inside = len(rows)
    cables = list(catalogue.cables)
    number = {key: i for i, key in enumerate(cables)}
    cable_of, length, warm, links = [], [], [], []
    for link in wiring.links():
        rows.append(
            (nodes[link.from_part, "out", link.from_port], nodes[link.to_part, "in", link.to_port])
        )
        cable_of.append(number[link.cable])
        length.append(link.length_m)
        warm.append(link.celsius)
        links.append(link.id)
    count = len(rows)
    gain_db = np.empty((count, len(f)))
    if inside:
        gain_db[:inside] = np.array(table).reshape(len(table), len(f))[which]
    metres, kinds = np.array(length), np.array(cable_of, dtype=np.int64)
    per_metre = np.array([catalogue.cables[key].loss_db(1.0, f) for key in cables])
    per_metre = per_metre.reshape(len(cables), len(f))
    gain_db[inside:] = -(metres * warmer(warm))[:, None] * per_metre[kinds] if links else 0.0
    steps = [stepped_db(wiring, catalogue.cables[k.cable], k) for k in wiring.links()]
    if any(steps):
        gain_db[inside:] -= np.array(steps)[:, None]
    speed = np.array([catalogue.cables[key].velocity * LIGHT_M_US for key in cables])
    edges = np.array(rows, dtype=np.int64).reshape(-1, 2)
    return Circuit(
        nodes=nodes,
        edges=edges,
        edge_part=(*part_of, *[""] * len(links)),
        edge_link=(*[""] * inside, *links),
        gain_db=gain_db,
        factor=np.array([*factors, *[np.nan] * len(links)]),
        delay_us=np.concatenate(
            [np.zeros(inside), metres / speed[kinds] if links else np.zeros(0)]
        ),
        chosen=np.array([*chosen, *[False] * len(links)], dtype=bool),
        columns=columns,
        groups=_groups(len(nodes), edges),
        source=source,
    )


def stepped_db(wiring: Wiring, cable: CableType, link: Cable) -> float:
    """What the steps between impedances at both ends of a cable keep from going on, in power [dB]."""
    ends = wiring.kinds[link.from_part].output_ohm, wiring.kinds[link.to_part].input_ohm
    if ends == (cable.impedance_ohm, cable.impedance_ohm):
        return 0.0
    goes_on = [1 - step(cable.impedance_ohm, ohm) for ohm in ends]
    return float(-10 * np.log10(goes_on[0] * goes_on[1]))


def step(one_ohm: float, other_ohm: float) -> float:
    """The share of power that a step between two impedances [Ω] sends back [1]."""
    return ((one_ohm - other_ohm) / (one_ohm + other_ohm)) ** 2


def _ways(
    kind: PartType, setting_db: float | None, columns: Columns, table: list[Floats]
) -> list[_Way]:
    """The ways of a type with a setting."""
    found = []
    row_of: dict[int, int] = {}
    less = setting_db if kind.setting and setting_db else 0.0
    for i, o, path in kind.ways:
        by = kind.moves_by(path)
        if id(path) not in row_of:
            row_of[id(path)] = len(table)
            f = columns.frequency_mhz if by is None else _entry_mhz(path, columns, by)
            gain = np.where(np.isnan(f), -BLOCKED_DB, path.gain_at(np.nan_to_num(f)))
            table.append(np.maximum(gain - less, -BLOCKED_DB))
        nf = kind.noise_figure_db(path, setting_db)
        factor = np.nan if nf is None else 10 ** (nf / 10)
        found.append((i, o, row_of[id(path)], factor, path.arrivals == "selected", by))
    return found


def _entry_mhz(path: Path, columns: Columns, by: float) -> Floats:
    """The frequency at which each column's power enters a converting path [MHz]: that of the column it
    is made from; for any other one that leads there, whose noise comes along. NaN where none does."""
    f = columns.frequency_mhz
    found = np.full(len(f), np.nan)
    for enters in (by - f, by + f) if path.lo_mhz is not None else ():
        inside = np.isnan(found) & (enters >= path.low_mhz) & (enters <= path.high_mhz)
        found[inside] = enters[inside]
    source = columns.source[by]
    made = source >= 0
    found[made] = f[source[made]]
    return found


def _groups(count: int, edges: Ints) -> tuple[Ints, ...]:
    """Edges by the depth of the node they end at, sorted by that node: a group needs only what came
    before it, and holds everything that comes to its nodes."""
    if len(edges) == 0:
        return ()
    depth = [0] * count
    by_start: list[list[int]] = [[] for _ in range(count)]
    waits = [0] * count
    for start, end in edges.tolist():
        by_start[start].append(end)
        waits[end] += 1
    ready = [n for n in range(count) if waits[n] == 0]
    for node in ready:
        for end in by_start[node]:
            depth[end] = max(depth[end], depth[node] + 1)
            waits[end] -= 1
            if waits[end] == 0:
                ready.append(end)
    at = np.array(depth)[edges[:, 1]]
    order = np.lexsort((edges[:, 1], at))
    cuts = np.flatnonzero(np.diff(at[order])) + 1
    return tuple(np.split(order, cuts))
