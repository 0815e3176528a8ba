"""A figure at a place opened into what it is made of: the staircase of a level, the budget of a C/N."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from ....network.scattering import response, swept
from ....units.quantities import InputError, Phrase, Quantity
from ..checks.margins import distorted_by
from ..checks.matching import echo_maker
from ..context import NetworkContext

SHOWN_DB = 20.0  # what takes less than a hundredth of all is summed

CUT_OFF_DB = 100.0  # so far below the rest lies only what a part does not pass at all


@dataclass(frozen=True)
class Term:
    """One step of a level on its way: what did it, by how much [dB], and the level after it."""

    name: Phrase
    change_db: float
    level_dbuv: float
    part: str | None
    link: str | None


@dataclass(frozen=True)
class QualityTerm:
    """What takes from a carrier's quality: the ratio that it alone would leave [dB], and its share of all that is
    not the carrier, 0 to 1."""

    name: Phrase
    cn_db: float
    share: float
    part: str | None


@dataclass(frozen=True)
class Terms:
    """Both, and the C/N that all of it leaves [dB]; `over_mhz` is how the level goes over the carrier's
    width [dB against its mean], pairs of MHz and dB by the waves themselves, empty where a part converts."""

    level: list[Term]
    quality: list[QualityTerm]
    cn_db: float | None
    over_mhz: list[tuple[float, float]] = field(default_factory=list)


def terms(ctx: NetworkContext, part_id: str, carrier_id: str) -> Terms:
    """The staircase of a carrier's level from its source to a part's output, and what takes from its
    quality on the way."""
    solved = ctx.solved
    if carrier_id not in solved.columns.ids:
        raise InputError(
            "Carrier",
            f"{carrier_id} is of a target that the job does not want, so it is not in the run.",
            "Tick the target as wanted at Sky.",
            "carrier-unwanted",
        )
    run, carrier = solved.run, solved.columns.ids.index(carrier_id)
    nodes = (
        [run.circuit.nodes[p] for p in run.ports_out(part_id)]
        if part_id in run.wiring.before
        else []
    )
    best = max(nodes, key=lambda n: _or_low(run.levels.level_dbuv[n, carrier]), default=None)
    if best is None or not run.levels.signal[best, carrier] > 0:
        return Terms([], [], None)
    way = run.way_to(best, carrier)
    start = int(run.circuit.edges[way[0][0], 0]) if way else best
    port = next(p for p, n in run.circuit.nodes.items() if n == start)
    level = float(run.columns.given[port][0][carrier])
    found = [
        Term(
            name=(solved.names[port[0]],),
            change_db=0.0,
            level_dbuv=level,
            part=port[0],
            link=None,
        )
    ]
    links = {k.id: k for k in ctx.job.links}
    for edge, column in way:
        change = float(10 * np.log10(run.driven.gain[edge, column]))
        level += change
        link_id, part = run.circuit.edge_link[edge], run.circuit.edge_part[edge]
        if link_id:
            link = links[link_id]
            if link.length_m == 0:
                continue  # side by side
            digits = 0 if link.length_m % 1 == 0 else 1
            name: Phrase = (
                Quantity(link.length_m, "m", digits),
                f" of {ctx.catalogue.cables[link.cable].short}",
            )
        else:
            name = (solved.names[part],)
        found.append(
            Term(
                name=name,
                change_db=change,
                level_dbuv=level,
                part=part or None,
                link=link_id or None,
            )
        )
    # By a second way the level is a range: what it may take away stands last.
    there = float(run.levels.level_dbuv[best, carrier])
    if abs(there - level) > 1e-6:
        found.append(
            Term(
                name=("by a second way, at worst",),
                change_db=there - level,
                level_dbuv=there,
                part=None,
                link=None,
            )
        )
    return Terms(
        found,
        _quality(ctx, best, way=way, carrier=carrier),
        float(run.levels.cn_db[best, carrier]),
        _over_width(ctx, best, way=way),
    )


def _over_width(
    ctx: NetworkContext, node: int, *, way: list[tuple[int, int]]
) -> list[tuple[float, float]]:
    """The level over a carrier's width from the last part on its way that lets nothing back."""
    run = ctx.solved.run
    if not way:
        return []
    circuit, column = run.circuit, way[-1][1]
    active = [n for n, (e, _) in enumerate(way) if not run.matched.returns[e]]
    first = active[-1] + 1 if active else 0
    start = int(circuit.edges[way[active[-1]][0], 1] if active else circuit.edges[way[0][0], 0])
    if first >= len(way):
        return []
    mhz = swept(
        float(circuit.columns.frequency_mhz[column]), float(circuit.columns.bandwidth_mhz[column])
    )
    level = response(
        run.wiring,
        ctx.catalogue,
        circuit,
        run.driven,
        start=start,
        node=node,
        column=column,
        frequency_mhz=mhz,
    )
    if level is None:
        return []
    # Beyond a part's range nothing is known.
    there = level > level.max() - CUT_OFF_DB
    mhz, level = mhz[there], level[there]
    off = level - level.mean()
    return [(round(f, 3), round(d, 3)) for f, d in zip(mhz.tolist(), off.tolist(), strict=True)]


def _quality(
    ctx: NetworkContext,
    node: int,
    *,
    way: list[tuple[int, int]],
    carrier: int,
) -> list[QualityTerm]:
    """Noise by where it comes in, distortion by its order, the worst first."""
    solved = ctx.solved
    run = solved.run
    circuit, driven, found = run.circuit, run.driven, run.found
    column = way[-1][1] if way else carrier
    level = float(found.low[node, column])
    made: dict[tuple[str, str | None], float] = {}

    def add(name: str, part: str | None, power: float) -> None:
        if power > 0:
            made[name, part] = made.get((name, part), 0.0) + power

    tail = 1.0
    links = {k.id: k for k in ctx.job.links}
    for edge, at in reversed(way):
        start, end = circuit.edges[edge].tolist()
        gain = float(driven.gain[edge, at])
        own = float(driven.added[end, at])
        if circuit.chosen[
            edge
        ]:  # a passive switch adds the less, the more its chosen way lets through
            own = max(own - float(circuit.ktb[at]) * gain, 0.0)
        before = circuit.source[edge][at] if edge in circuit.source else at
        came = float(found.noise[start, before]) * gain
        link = circuit.edge_link[edge]
        part = circuit.edge_part[edge] or None
        name = (
            f"cable, {ctx.catalogue.cables[links[link].cable].short}"
            if link
            else solved.names[part or ""]
        )
        add(name, part, own * tail)
        add("other lines that meet it", None, (float(found.noise[end, at]) - own - came) * tail)
        tail *= gain
    head = int(circuit.edges[way[0][0], 0]) if way else node
    first = (
        circuit.source[way[0][0]][way[0][1]]
        if way and way[0][0] in circuit.source
        else (way[0][1] if way else carrier)
    )
    port = next(p for p, n in circuit.nodes.items() if n == head)
    add(f"{solved.names[port[0]]}, as it arrives", port[0], float(found.noise[head, first]) * tail)
    if found.second is not None and found.third is not None:
        maker = distorted_by(solved, carrier, node)
        words = f", most of it in {solved.names[maker]}" if maker else ""
        add(f"distortion, second order{words}", maker, float(found.second[node, column]))
        add(f"distortion, third order{words}", maker, float(found.third[node, column]))
    if found.disturbing is not None:
        maker = echo_maker(solved, carrier, node)
        words = f", most of it from {solved.names[maker]}" if maker else ""
        add(f"echoes that come too late{words}", maker, float(found.disturbing[node, column]))
    if found.leak is not None:
        add("other lines, over the switch", None, float(found.leak[node, column]))
    total = sum(made.values())
    rows = sorted(made.items(), key=lambda row: -row[1])
    shown = [row for row in rows if row[1] >= total * 10 ** (-SHOWN_DB / 10)]
    rest = total - sum(power for _, power in shown)
    if rest > total * 1e-9:
        shown.append((("all else", None), rest))
    return [
        QualityTerm((name,), float(10 * np.log10(level / power)), power / total, part)
        for (name, part), power in shown
    ]


def _or_low(value: float) -> float:
    return value if value == value else -1e9
