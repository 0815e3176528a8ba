"""What a receiver cannot ask for, and what it can only while its neighbours let it: told as problems."""

from __future__ import annotations

import numpy as np

from ....checks.registry import check
from ....job import Cable
from ....job.changes import Change, Replace, Set, Several
from ....job.parts import Catalogue
from ....job.paths import BLOCKED_DB
from ....job.problems import Problem
from ....network.solution import Solution
from ..context import NetworkContext
from ..levels.outlets import CHOICES, OutletRow
from ..powering import passing_twin, standbys

ASKING = "EN 61319-1: 13 or 18 V and a tone up the line (from memory)"
SHARING = "common practice, no source"


def _way(run: Solution, plate: str | None, column: int) -> list[int] | None:
    """The edges of a way from a carrier's own source to a plate, whether or not the carrier comes through."""
    circuit, start = run.circuit, run.outlet_node(plate)
    goals = [circuit.nodes[p] for p in run.columns.ports_of(column) if p in circuit.nodes]
    if start is None:
        return None
    came: dict[int, int] = {start: -1}
    pending = [start]
    while pending:
        for edge in circuit.into[pending.pop()]:
            before = int(circuit.edges[edge, 0])
            if before not in came:
                came[before] = edge
                pending.append(before)
    goal = next((g for g in goals if g in came), None)
    if goal is None:
        return None
    edges, node = [], goal
    while came[node] >= 0:
        edges.append(came[node])
        node = int(circuit.edges[came[node], 1])
    return edges


def blocked_way(run: Solution, plate: str | None, column: int) -> tuple[str, int] | None:
    """The first part on a carrier's way whose range stops it, and the input it comes in by."""
    way = _way(run, plate, column)
    for edge in way or ():
        if run.circuit.gain_db[edge, column] <= -BLOCKED_DB:
            return _entry(run, edge)
    return None


def _entry(run: Solution, edge: int) -> tuple[str, int]:
    start = int(run.circuit.edges[edge, 0])
    part, _, port = next(p for p, n in run.circuit.nodes.items() if n == start)
    return part, port


def unasked_problem(ctx: NetworkContext, row: OutletRow, column: int) -> Problem | None:
    """A carrier that does not arrive because no line asks for it, or another is asked for."""
    solved = ctx.solved
    run, channel = solved.run, solved.channels[column]
    ask, port = run.columns.asks[column], run.columns.port[column]
    way = _way(run, row.part, column)
    if port is None or way is None or row.part is None:
        return None
    source = solved.names[port[0]]
    if ask is None:
        return None
    if way:  # of several outputs the one that leads here
        first = int(run.circuit.edges[way[0], 0])
        port = next(p for p, n in run.circuit.nodes.items() if n == first)
    wanted = f"{ask[0]:.0f} V{', tone' if ask[1] else ', no tone'}"
    control = (port[0], port[2])
    if run.choice.silent is not None and run.choice.silent[run.circuit.nodes[port], column]:
        held = run.choice.held.get(control)
        if held is not None:
            return _problem(
                "choice-held",
                row,
                part=port[0],
                title=f"{source} is held at {held[0]:.0f} V: {channel.name} wants {wanted}",
                limit=f"{wanted} at {source}",
                remedy="Let the receiver power it: take the supply out of its line, or pass voltage and tone past it.",
            )
        return _problem(
            "choice-none",
            row,
            part=port[0],
            title=f"No receiver can ask {source} for {channel.name}",
            limit=f"{wanted} at {source}",
            remedy="Take parts that pass voltage and tone between receiver and LNB.",
        )
    for edge in way:
        if run.choice.mask is not None and run.choice.mask[edge, column] == 0:
            return _at_switch(ctx, row=row, column=column, edge=edge, wanted=wanted)
    return None


def _at_switch(
    ctx: NetworkContext,
    row: OutletRow,
    column: int,
    edge: int,
    wanted: str,
) -> Problem:
    """A switch that takes another input, or is asked by nobody."""
    solved = ctx.solved
    run, channel = solved.run, solved.channels[column]
    part, here = _entry(run, edge)
    kind, name = run.wiring.kinds[part], solved.names[part]
    end = int(run.circuit.edges[edge, 1])
    output = next(
        port for (p, side, port), n in run.circuit.nodes.items() if n == end and side == "out"
    )
    if (part, output) not in run.choice.askers:
        return _problem(
            "choice-none",
            row,
            part=part,
            title=f"No receiver can ask {name} for {channel.name} at {row.name}",
            limit=f"{wanted} at its output {output + 1}",
            remedy="Take parts that pass voltage and tone between receiver and switch.",
        )
    ask = run.columns.asks[column]
    asked = next((s.input for s in kind.select if ask is not None and s.answers(*ask)), None)
    change = None
    if asked is not None:
        change = _swap(
            run.wiring.before[part].get(here), run.wiring.before[part].get(asked), here, asked
        )
    return _problem(
        "choice-input",
        row,
        part=part,
        title=f"{name}: {channel.name} comes in at input {here + 1}, but {wanted} asks for {'input ' + str(asked + 1) if asked is not None else 'none'}",
        limit="each line at the input that its voltage and tone ask for",
        remedy=f"Change over the lines at inputs {here + 1} and {asked + 1}"
        if asked is not None
        else "Take a switch for this LNB.",
        change=change,
    )


def _swap(one: Cable | None, other: Cable | None, here: int, there: int) -> Change | None:
    moves = [
        Set(rows="links", id=k.id, values={"to_port": to})
        for k, to in ((one, there), (other, here))
        if k is not None
    ]
    return Several(words="change lines over", changes=tuple(moves)) if moves else None


@check(
    "coax",
    codes=(
        "choice-deaf",
        "choice-shared",
        "standby",
    ),
    needs=(
        "catalogue",
        "rows",
        "solved",
    ),
    of_figures=True,
)
def shared_choices(ctx: NetworkContext) -> list[Problem]:
    """Outlets that cannot ask for what they want, receivers bound to each other, receivers on whose
    voltage others live."""
    solved, rows = ctx.solved, ctx.rows
    names = {r.part: r.name for r in rows if r.part}
    found: list[Problem] = []
    if rows:
        judged = rows[0].judged
        lost = (
            judged.wants & (judged.choice == CHOICES.index("none")) & np.isfinite(judged.level_dbuv)
        )
        deaf = lost.any(axis=1)
        found = [p for row in rows if deaf[row.index] and (p := _deaf(ctx, row)) is not None]
    together: dict[tuple[tuple[str, ...], int], list[str]] = {}
    for one in solved.run.choice.bound:
        together.setdefault((one.plates, one.slots), []).append(one.part)
    for (plates, slots), parts in together.items():
        tuners = [names[p] for p in plates if p in names]
        who = list(dict.fromkeys(tuners))
        if len(tuners) < 2:
            continue
        shared = _and(sorted(solved.names[p] for p in parts))
        if slots:
            title = f"{len(tuners)} tuners share {slots} user bands of {shared}"
            remedy = "Take an LNB or switch with more user bands."
        elif len(who) == 1:
            title = f"The {len(tuners)} tuners of {who[0]} share one line of {shared}: the same band and polarisation at a time"
            remedy = "Give each tuner a line and an outlet of its own, or take an LNB or switch with user bands."
        else:
            title = (
                f"{_and(who)} share one line of {shared}: the same band and polarisation at a time"
            )
            remedy = "Take an LNB with an output for each receiver, or a multiswitch."
        found.append(
            Problem(
                code="choice-shared",
                station="coax",
                state="marginal",
                place=shared,
                title=(title,),
                gauge=None,
                limit=("a line of its own for each receiver that chooses freely",),
                origin=SHARING,
                remedy=(remedy,),
                ref=parts[0],
            )
        )
    for one_off in standbys(solved.run, ctx.catalogue):
        dark = [names[p] for p in one_off.dark if p in names]
        if not dark:
            continue
        here = names.get(one_off.plate, one_off.plate)
        found.append(
            Problem(
                code="standby",
                station="coax",
                state="marginal",
                place=here,
                title=(
                    f"With the receiver at {here} off, {_and(dark)} {'goes' if len(dark) == 1 else 'go'} dark",
                ),
                gauge=None,
                limit=("a supply that is always on",),
                origin=SHARING,
                remedy=(
                    "Power the part from an inserter or the mains, or leave that receiver on.",
                ),
                ref=one_off.plate,
            )
        )
    return found


def _deaf(ctx: NetworkContext, row: OutletRow) -> Problem | None:
    """An outlet to which carriers come that its own receiver cannot ask for."""
    solved = ctx.solved
    if row.part is None:
        return None
    judged, r, run = row.judged, row.index, solved.run
    none = judged.choice[r] == CHOICES.index("none")
    lost = np.flatnonzero(judged.wants[r] & none & np.isfinite(judged.level_dbuv[r])).tolist()
    if not lost:
        return None
    names = [solved.channels[c].name for c in lost]
    ask = next((a for c in lost if (a := run.columns.asks[c]) is not None), None)
    wanted = f"{ask[0]:.0f} V{', tone' if ask[1] else ''}" if ask else "voltage and tone"
    reach = run.choice.reach[row.part]
    if reach.stopped:
        part, link = reach.stopped[0]
        title = f"{solved.names[part]} lets no voltage of {row.name} through: it sees what others ask for"
        return _problem(
            "choice-deaf",
            row,
            part=part,
            title=title,
            limit=f"{wanted} from its own receiver ({_and(names[:3])})",
            remedy="Take a part that passes power on this line, or a line of its own.",
            change=_passing(ctx.catalogue, run, part, link),
        )
    title = f"{row.name} cannot ask for {_and(names[:3])} by itself"
    return _problem(
        "choice-deaf",
        row,
        part=row.part,
        title=title,
        limit=f"{wanted} from its own receiver",
        remedy="Give it a line that passes voltage and tone to the LNB or switch.",
    )


def _passing(catalogue: Catalogue, run: Solution, part: str, link_id: str) -> Change | None:
    """The same kind of part with power on the port that this line leaves by, where there is one."""
    port = next((k.from_port for k in run.wiring.after[part].values() if k.id == link_id), None)
    key = None if port is None else passing_twin(catalogue, run, part, port)
    return Replace(part=part, type=key) if key else None


def _problem(
    code: str,
    row: OutletRow,
    part: str,
    title: str,
    limit: str,
    remedy: str,
    change: Change | None = None,
) -> Problem:
    return Problem(
        code=code,
        station="coax",
        state="fail",
        place=row.name,
        title=(title,),
        gauge=None,
        limit=(limit,),
        origin=ASKING,
        remedy=(remedy,),
        change=change,
        ref=part,
    )


def _and(names: list[str]) -> str:
    if len(names) > 4:
        return f"{', '.join(names[:3])} and {len(names) - 3} more"
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
