"""The plant as a network, and its solution: level, noise and C/N at every port.

Signals are powers in µV² so that 10 log10 of them is dBµV; arrays are (nodes, variants, carriers).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..job import Link, Part
from ..physics.geodesy import Floats
from ..units.quantities import InputError, noise_dbuv
from .parts import BLOCKED_DB, Catalogue, PartType

Ints = NDArray[np.int64]
Port = tuple[str, str, int]  # part, "in" or "out", number


@dataclass(frozen=True)
class Sources:
    """Carriers and what each source port gives: IF or RF [MHz], bandwidth [MHz], level [dBµV] and
    C/N [dB] at the port it leaves from."""

    ids: tuple[str, ...]
    frequency_mhz: Floats
    bandwidth_mhz: Floats
    port: tuple[Port | None, ...]
    level_dbuv: Floats
    cn_db: Floats


@dataclass(frozen=True)
class Plant:
    """A network ready to be solved. `edges` are rows of (from node, to node)."""

    nodes: Mapping[Port, int]
    edges: Ints
    edge_part: tuple[str, ...]
    edge_link: tuple[str, ...]
    loss_db: Floats
    noise_figure_db: Floats
    groups: tuple[Ints, ...]
    looped: frozenset[str]


@dataclass(frozen=True)
class Levels:
    """The solution. Level [dBµV] and C/N [dB], shape (nodes, variants, carriers); NaN where no
    carrier arrives."""

    level_dbuv: Floats
    cn_db: Floats
    best_edge: Ints


def out_ports(kind: PartType) -> int:
    """Outputs in the network; a wall plate has one, where the receiver is plugged in."""
    return 1 if kind.kind == "plate" else kind.outputs


def part_type(catalogue: Catalogue, part: Part) -> PartType:
    """The part's type. Raises InputError when the catalogue does not know it."""
    found = catalogue.parts.get(part.type)
    if found is None:
        raise InputError(
            "Part", f"“{part.type}” is not in the catalogue.", "Replace it by a known part.",
            "part-unknown",
        )  # fmt: skip
    return found


def build(
    parts: tuple[Part, ...], links: tuple[Link, ...], catalogue: Catalogue, sources: Sources
) -> Plant:
    """Lay out nodes and edges in the order of the signal. Parts on a loop are left out and named.

    Links to parts or ports that do not exist are ignored; `edits.check_run` refuses them earlier.
    """
    kinds = {p.id: part_type(catalogue, p) for p in parts}
    on_loop = looped(kinds, links)
    nodes: dict[Port, int] = {}
    rows: list[tuple[int, int]] = []
    part_of: list[str] = []
    link_of: list[str] = []
    losses: list[Floats] = []
    noise: list[float] = []
    f = sources.frequency_mhz
    paths: dict[tuple[str, float | None, int, bool], Floats | None] = {}
    per_metre = {key: cable.loss_db(1.0, f) for key, cable in catalogue.cables.items()}
    for part in parts:
        if part.id in on_loop:
            continue
        kind = kinds[part.id]
        for i in range(kind.inputs):
            nodes[part.id, "in", i] = len(nodes)
        for o in range(out_ports(kind)):
            nodes[part.id, "out", o] = len(nodes)
        # Parts of one type and setting share their losses; a tap's first output has its own.
        for i in range(kind.inputs):
            for o in range(out_ports(kind)):
                if kind.parallel and i != o:
                    continue
                shared = (part.type, part.setting_db, 0 if kind.parallel else i, o > 0)
                if shared not in paths:
                    paths[shared] = kind.path_loss_db(i, o, f, part.setting_db)
                loss = paths[shared]
                if loss is None:
                    continue
                rows.append((nodes[part.id, "in", i], nodes[part.id, "out", o]))
                part_of.append(part.id)
                link_of.append("")
                losses.append(loss)
                noise.append(np.nan if kind.noise_db is None else kind.noise_db)
    for link in links:
        start = nodes.get((link.from_part, "out", link.from_port))
        end = nodes.get((link.to_part, "in", link.to_port))
        if start is None or end is None or link.cable not in per_metre:
            continue
        rows.append((start, end))
        part_of.append("")
        link_of.append(link.id)
        losses.append(per_metre[link.cable] * link.length_m)
        noise.append(np.nan)
    edges = np.array(rows, dtype=np.int64).reshape(-1, 2)
    loss_db = np.array(losses, dtype=float).reshape(len(rows), len(f))
    return Plant(
        nodes=nodes, edges=edges, edge_part=tuple(part_of), edge_link=tuple(link_of), loss_db=loss_db, noise_figure_db=np.array(noise),
        groups=_groups(len(nodes), edges), looped=frozenset(on_loop),
    )  # fmt: skip


def looped(kinds: Mapping[str, PartType], links: tuple[Link, ...]) -> set[str]:
    """Parts that lie on or behind a loop (Kahn's order never reaches them)."""
    waits = dict.fromkeys(kinds, 0)
    behind: dict[str, list[str]] = {p: [] for p in kinds}
    for link in links:
        if link.to_part in waits and link.from_part in waits:
            waits[link.to_part] += 1
            behind[link.from_part].append(link.to_part)
    ready = [p for p, n in waits.items() if n == 0]
    while ready:
        for part in behind[ready.pop()]:
            waits[part] -= 1
            if waits[part] == 0:
                ready.append(part)
    return {p for p, n in waits.items() if n > 0}


def _groups(count: int, edges: Ints) -> tuple[Ints, ...]:
    """Edges by the depth of their start, so that a group needs only what came before it."""
    depth = np.zeros(count, dtype=np.int64)
    if len(edges) == 0:
        return ()
    for _ in range(count):
        deeper = depth.copy()
        np.maximum.at(deeper, edges[:, 1], depth[edges[:, 0]] + 1)
        if np.array_equal(deeper, depth):
            break
        depth = deeper
    start = depth[edges[:, 0]]
    return tuple(np.flatnonzero(start == d) for d in range(int(start.max()) + 1))


def solve(
    plant: Plant, sources: Sources, loss_db: Floats | None = None, only: Ints | None = None
) -> Levels:
    """Level and C/N at every node by the full cascade.

    `loss_db` (variants, edges, carriers) replaces the plant's own losses, to try changes; one
    variant without it. `only` names the edges that matter, such as the way to one outlet; the rest
    stays unsolved and the best edges unknown. Where a carrier arrives by several ways the strongest counts: a multiswitch
    selects. Passive parts at 290 K add kTB (1 - g), active ones kTB (F - 1) g.
    Reference: H. T. Friis, Noise Figures of Radio Receivers, Proc. IRE 32 (1944).
    """
    losses = plant.loss_db[None] if loss_db is None else loss_db
    variants, carriers = losses.shape[0], len(sources.ids)
    shape = (len(plant.nodes), variants, carriers)
    signal, noise = np.zeros(shape), np.zeros(shape)
    best = np.full((len(plant.nodes), carriers), -1, dtype=np.int64)
    for c, port in enumerate(sources.port):
        node = plant.nodes.get(port) if port is not None else None
        if node is not None:
            signal[node, :, c] = 10 ** (sources.level_dbuv[c] / 10)
            noise[node, :, c] = 10 ** ((sources.level_dbuv[c] - sources.cn_db[c]) / 10)
    rows = np.arange(len(plant.edges)) if only is None else only
    place = np.full(len(plant.edges), -1, dtype=np.int64)
    place[rows] = np.arange(len(rows))
    loss = np.moveaxis(losses[:, rows], 0, 1)
    ktb = np.array([10 ** (noise_dbuv(b) / 10) for b in sources.bandwidth_mhz])
    gain = np.where(loss < BLOCKED_DB, 10 ** (-loss / 10), 0.0)
    factor = 10 ** (plant.noise_figure_db[rows] / 10)[:, None, None]
    excess = np.where(np.isnan(factor), 1 - gain, (np.nan_to_num(factor, nan=1.0) - 1) * gain)
    added = np.maximum(excess, 0.0) * ktb
    for whole in plant.groups:
        at = place[whole]
        at = at[at >= 0]
        if at.size == 0:
            continue
        edges = rows[at]
        start, end = plant.edges[edges, 0], plant.edges[edges, 1]
        arriving = signal[start] * gain[at]
        # Only a multiswitch's outputs take several edges; elsewhere plain assignment is faster.
        alone = at.size == 1 or len(set(end.tolist())) == at.size
        if alone:
            signal[end] = np.maximum(signal[end], arriving)
        else:
            np.maximum.at(signal, end, arriving)
        won = (arriving > 0) & (arriving == signal[end])
        with_noise = np.where(won, noise[start] * gain[at] + added[at], 0.0)
        if alone:
            noise[end] = np.maximum(noise[end], with_noise)
        else:
            np.maximum.at(noise, end, with_noise)
        if only is None:
            which, cols = np.nonzero(won[:, 0])
            best[end[which], cols] = edges[which]
    with np.errstate(divide="ignore", invalid="ignore"):
        level = np.where(signal > 0, 10 * np.log10(signal), np.nan)
        cn = np.where(signal > 0, 10 * np.log10(signal / noise), np.nan)
    return Levels(level, cn, best)


def way_back(plant: Plant, levels: Levels, node: int, carrier: int) -> list[int]:
    """Edges from the source to a node on the way one carrier took, in the signal's order."""
    way: list[int] = []
    while (edge := int(levels.best_edge[node, carrier])) >= 0:
        way.append(edge)
        node = int(plant.edges[edge, 0])
    return way[::-1]
