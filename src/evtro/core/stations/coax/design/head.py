"""What a design keeps: everything up to the first part from which the run branches."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....job import Cable, Job, Part
from ....job.context import JobContext
from ....job.parts import PartType
from ....network.graph import Wiring
from ....physics.geodesy import Floats
from ....units.quantities import InputError
from ..context import NetworkContext
from ..levels.outlets import Solved, solve_job
from .groups import designed_groups

NEW = "l0"  # a cable that is not there yet
INSERTERS = ("inserter-12", "inserter-18")


@dataclass(frozen=True)
class Hanging:
    """How an outlet hangs on a riser as it is: by which output of the head, the lengths from there to
    each tap or switch, and its own drop [m]."""

    port: int
    rises_m: tuple[float, ...]
    drop_m: float


@dataclass(frozen=True, eq=False)
class RunHead:
    """Where the run goes on from what is kept: the cables that lead there by the input that they come to,
    the level of every wanted carrier that arrives [dBµV] and by which of them, the parts behind it; for
    each outlet the plate that is there, the cable that leads to it from the head, and all cable on its way
    from there [m], and how it hangs where it hangs on taps or
    switches along a riser. `total_dbuv` is all power that is known to come by one line. `kept` is the
    job that is left, with an inserter where what is left needs one."""

    feeds: dict[int, Cable]
    kind: PartType | None
    part: str | None
    level_dbuv: Floats
    input_of: tuple[int, ...]
    behind: frozenset[str]
    plates: dict[str, str]
    drops: dict[str, Cable]
    lengths_m: dict[str, float]
    hangs: dict[str, Hanging]
    total_dbuv: float
    kept: Job

    @property
    def trunks(self) -> int:
        """How many lines come in."""
        return len(self.feeds)


def head_of(ctx: NetworkContext) -> RunHead:
    """Find it. Raises InputError where no run has begun."""
    wiring = ctx.solved.run.wiring
    sources = [p for p in wiring.order if not wiring.kinds[p].inputs and wiring.kinds[p].outputs]
    if set(designed_groups(ctx.job)) != {"cable"}:
        # A company's line beside is a network of its own, and stays as it is.
        lines = [p for p in sources if wiring.kinds[p].draws_as == "line"]
        beside = {b for p in lines for b in (p, *wiring.down(p))}
        sources = [p for p in sources if p not in lines]
    else:
        beside = set()
    plates = {p.id for p in ctx.job.parts if p.outlet and p.id not in beside}
    if not sources:
        raise InputError(
            "Run",
            "no antenna is in it yet.",
            "Start a run with an antenna or an LNB; the design goes on from there.",
            "design-no-run",
        )
    # The first part from which more than one line goes on, and to which all lines lead.
    for part in wiring.order:
        kind = wiring.kinds[part]
        branches = len(kind.joinable) > 1 and kind.inputs > 0 and not kind.together
        ahead = {part, *wiring.up(part)}
        everything = ahead | set(wiring.down(part))
        if branches and not kind.receivers and set(sources) <= ahead and plates <= everything:
            return _at(ctx, part=part)
    # No branch: behind the last part of the line that is no plate.
    ends = [
        p
        for p in wiring.order
        if p not in plates
        and p not in beside
        and wiring.kinds[p].outputs
        and all(k.to_part in plates for k in wiring.after[p].values())
    ]
    if len(ends) != 1 or len(wiring.kinds[ends[0]].joinable) > 1:
        raise InputError(
            "Run",
            "its lines do not meet in one part.",
            "Lead the antennas to one combiner or "
            "multiswitch first; the design goes on from there.",
            "design-no-head",
        )
    last = ends[0]
    behind = frozenset(plates & set(wiring.down(last)))
    feed = Cable(id=NEW, from_part=last, to_part=last, cable="rg6", length_m=0.0)
    return _head(
        ctx, feeds={0: feed}, behind=behind, nodes=[ctx.solved.run.circuit.nodes[last, "out", 0]]
    )


def _at(ctx: NetworkContext, *, part: str) -> RunHead:
    run, wiring = ctx.solved.run, ctx.solved.run.wiring
    feeds = dict(wiring.before[part])
    nodes = [run.circuit.nodes[part, "in", i] for i in sorted(feeds)]
    behind = frozenset({part, *wiring.down(part)})
    return _head(ctx, feeds=feeds, behind=behind, nodes=nodes, part=part)


def _head(
    ctx: NetworkContext,
    *,
    feeds: dict[int, Cable],
    behind: frozenset[str],
    nodes: list[int],
    part: str | None = None,
) -> RunHead:
    job, solved = ctx.job, ctx.solved
    wiring = solved.run.wiring
    kept = job.model_copy(
        update={
            "parts": tuple(p for p in job.parts if p.id not in behind),
            "links": tuple(
                k for k in job.links if k.from_part not in behind and k.to_part not in behind
            ),
        }
    )
    if len(feeds) == 1:
        powered = _powered(ctx, kept, feed=feeds[min(feeds)], behind=behind)
        if powered is not None:
            kept, feed, solved = powered
            feeds, nodes = {0: feed}, [solved.run.circuit.nodes[feed.from_part, "out", 0]]
    level = np.asarray(solved.run.levels.level_dbuv[nodes][:, : len(solved.channels)])
    best = np.where(np.isnan(level), -np.inf, level).argmax(axis=0)
    inputs = sorted(feeds)
    plates = {p.outlet: p for p in job.parts if p.outlet}
    above = part or next(iter(feeds.values())).from_part
    ways = {o: line for o, p in plates.items() if (line := _line(wiring, p.id, above)) is not None}
    return RunHead(
        feeds=feeds,
        kind=wiring.kinds[part] if part else None,
        part=part,
        level_dbuv=level[best, np.arange(level.shape[1])],
        input_of=tuple(inputs[b] for b in best.tolist()),
        behind=behind,
        plates={o: p.type for o, p in plates.items()},
        drops={
            o: k
            for o, p in plates.items()
            for k in wiring.before.get(p.id, {}).values()
            if k.from_part == above
        },
        lengths_m={o: sum(k.length_m for k in line) for o, line in ways.items()},
        hangs={o: h for o, line in ways.items() if (h := _hanging(wiring, line)) is not None},
        total_dbuv=_total(solved, nodes),
        kept=kept,
    )


def _total(solved: Solved, nodes: list[int]) -> float:
    known = solved.run.circuit.columns.known
    most = max(float(solved.run.found.high[n][known].sum()) for n in nodes)
    return float(10 * np.log10(max(most, 1e-30)))


def _line(wiring: Wiring, plate: str, head: str) -> list[Cable] | None:
    """The cables from the head to a plate; None where they do not lead there."""
    found: list[Cable] = []
    here = plate
    while here != head:
        before = wiring.before.get(here, {})
        if not before:
            return None
        found.append(next(iter(before.values())))
        here = found[-1].from_part
    return found[::-1]


def _hanging(wiring: Wiring, line: list[Cable]) -> Hanging | None:
    """How the end of a line hangs on a riser; None where it does not."""
    between = [wiring.kinds[k.to_part].draws_as for k in line[:-1]]
    if set(between) not in ({"tap"}, {"multiswitch"}):
        return None
    return Hanging(line[0].from_port, tuple(k.length_m for k in line[:-1]), line[-1].length_m)


def _powered(
    ctx: JobContext,
    kept: Job,
    *,
    feed: Cable,
    behind: frozenset[str],
) -> tuple[Job, Cable, Solved] | None:
    """What is kept with an inserter at its end, where an amplifier ahead would be dark without one; the
    one that the run had keeps its row."""

    job, catalogue = ctx.job, ctx.catalogue

    def dark(one: Solved) -> bool:
        return any(one.run.wiring.kinds[p].paths for p in one.run.dark)

    if not dark(solve_job(ctx.with_job(kept))):
        return None
    old = [
        p for p in job.parts if p.id in behind and catalogue.parts[p.type].draws_as == "inserter"
    ]
    types = [*(p.type for p in old), *(k for k in INSERTERS if k in catalogue.parts)]
    number = 1 + max((int(p.id[1:]) for p in job.parts), default=0)
    for key in types:
        part = next((p for p in old if p.type == key), Part(id=f"p{number}", type=key))
        line = feed.model_copy(update={"to_part": part.id, "to_port": 0})
        if line.id == NEW:
            line = line.model_copy(
                update={"id": f"l{1 + max((int(k.id[1:]) for k in job.links), default=0)}"}
            )
        tried = kept.model_copy(update={"parts": (*kept.parts, part), "links": (*kept.links, line)})
        solved = solve_job(ctx.with_job(tried))
        if not dark(solved):
            onward = Cable(id=NEW, from_part=part.id, to_part=part.id, cable="rg6", length_m=0.0)
            return tried, onward, solved
    return None
