"""The rules of matching: open ports, steps between impedances, echoes, isolation between outlets."""

from __future__ import annotations

import numpy as np

from ....checks.registry import check
from ....job.changes import Change, Insert, Set, Several
from ....job.parts import Catalogue, part_type
from ....job.problems import Problem
from ....network.arrays import Ints
from ....network.arrays import step as step_between
from ....network.edits import open_ports
from ....physics.geodesy import Floats
from ....units.quantities import Phrase, Quantity, gauge
from ....units.severity import State
from ..context import NetworkContext
from ..levels.outlets import Group, OutletRow, Solved

STRONG_STEP = 0.1  # of the power sent back: a tenth and more is out; common practice, no source
ISOLATION_RESERVE_DB = 2.0


def _left_open(solved: Solved, part: str) -> list[int]:
    wiring = solved.run.wiring
    return [] if part in wiring.looped else open_ports(wiring.kinds[part], wiring.after[part])


@check(
    "coax",
    codes=("open-port",),
    needs=(
        "job",
        "catalogue",
        "solved",
    ),
)
def open_ports_left(ctx: NetworkContext) -> list[Problem]:
    found: list[Problem] = []
    if ctx.job.run_school.open_ports == "left":
        return found  # what their echoes do is told all the same
    for part in ctx.job.parts:
        free = _left_open(ctx.solved, part.id)
        if not free:
            continue
        count = len(free)
        found.append(
            Problem(
                code="open-port",
                station="coax",
                state="marginal",
                place=ctx.solved.names[part.id],
                title=(
                    f"{part_type(ctx.catalogue, part).name}: {count} open port{'s' if count > 1 else ''}",
                ),
                gauge=gauge(float(count), "count", high=0.0),
                limit=("no port left open",),
                origin="75 ohm on every unused port (common practice, no source)",
                remedy=(f"Cap {'them' if count > 1 else 'it'} with 75 ohm",),
                change=_caps(part.id, free),
                effect=(f"{count} terminator{'s' if count > 1 else ''}, no echo from open ports",),
                ref=part.id,
            )
        )
    return found


def _caps(part_id: str, ports: list[int]) -> Change:
    """A terminator on each of a part's free outputs."""
    caps = tuple(
        Insert(type="terminator", after=part_id, port=p, cable="rg6", length_m=0.0) for p in ports
    )
    return Several(words="cap open ports", changes=caps)


@check(
    "coax",
    codes=("impedance",),
    needs=(
        "catalogue",
        "solved",
    ),
)
def impedance_steps(ctx: NetworkContext) -> list[Problem]:
    """Cables that meet a port of another impedance."""
    catalogue = ctx.catalogue
    wiring, found = ctx.solved.run.wiring, []
    for link in wiring.links():
        cable = catalogue.cables[link.cable]
        ends = (
            (link.from_part, wiring.kinds[link.from_part].output_ohm),
            (link.to_part, wiring.kinds[link.to_part].input_ohm),
        )
        part, ohm = max(ends, key=lambda end: step_between(cable.impedance_ohm, end[1]))
        share = step_between(cable.impedance_ohm, ohm)
        if share == 0:
            continue
        lost = -10 * np.log10(1 - share)
        fits = all(end == ends[0][1] for _, end in ends)
        change = None
        if fits:
            key = _cable_of(catalogue, ohm, link.cable)
            if key is not None:
                change = Set(rows="links", id=link.id, values={"cable": key})
        do = (
            f"Pull it in {catalogue.cables[change.values['cable']].short}"
            if change is not None
            else "Put a transformer for these two impedances between them"
        )
        state: State = "fail" if share >= STRONG_STEP else "marginal"
        found.append(
            Problem(
                code="impedance",
                station="coax",
                state=state,
                place=f"{cable.short} at {ctx.solved.names[part]}",
                title=(f"{cable.impedance_ohm:.0f} ohm meets {ohm:.0f} ohm",),
                gauge=gauge(float(-10 * np.log10(share)), "db", low=20.0),
                limit=(
                    "at least ",
                    Quantity(20.0, "db", 0),
                    " of return loss, one impedance along the line",
                ),
                origin="wave theory, and common practice, no source",
                remedy=(
                    do,
                    ": here ",
                    Quantity(float(lost), "db"),
                    " is lost, and the rest comes back as an echo",
                ),
                change=change,
                ref=part,
            )
        )
    return found


def _cable_of(catalogue: Catalogue, ohm: float, old: str) -> str | None:
    """The plainest cable of an impedance that loses no more than the old one, else the best there is."""
    loss = catalogue.loss_of_cables_db
    fitting = [k for k, c in catalogue.cables.items() if c.impedance_ohm == ohm]
    fine = [k for k in fitting if loss[k] <= loss[old]]
    if fine:
        return max(fine, key=lambda k: loss[k])
    return min(fitting, key=lambda k: loss[k], default=None)


def echo_maker(solved: Solved, carrier: int, node: int) -> str | None:
    """The part on a carrier's way at which most of the echo at a node is made; None where there is
    none."""
    run = solved.run
    echo, gain = run.found.echo, run.driven.gain
    if echo is None:
        return None
    best, made, tail = None, 0.0, 1.0
    for edge, column in reversed(run.way_to(node, carrier)):
        start, end = run.circuit.edges[edge].tolist()
        before = run.circuit.source[edge][column] if edge in run.circuit.source else column
        here = float(echo[end, column] - echo[start, before] * gain[edge, column]) * tail
        tail *= float(gain[edge, column])
        if here > made:
            made, best = here, end
    if best is None:
        return None
    return next(port[0] for port, n in run.circuit.nodes.items() if n == best)


def echo_problem(ctx: NetworkContext, row: OutletRow, column: int) -> Problem:
    """Echoes lift and lower a carrier at an outlet; `echo_remedy` says where most of them is made."""
    channel, judged = ctx.solved.channels[column], row.judged
    ripple = judged.ripple_of(row.index, column)
    return Problem(
        code="echo",
        station="coax",
        state=ripple.state,
        place=f"{row.name}, {channel.frequency_mhz:.0f} MHz",
        title=(f"{row.name}: echoes lift and lower {channel.name}",),
        gauge=ripple,
        limit=("at most ", Quantity(ctx.profile.ripple_db, "db", 0), " from top to bottom"),
        origin=ctx.profile.ripple_origin,
        remedy=("Match what stands in the line.",),
        ref=row.part,
    )


def echo_remedy(solved: Solved, row: OutletRow, column: int) -> Phrase:
    """What to do about the echoes of a carrier at an outlet."""
    node = solved.run.outlet_node(row.part)
    maker = echo_maker(solved, column, node) if node is not None else None
    if maker is None:
        return ("Match what stands in the line.",)
    loose = len(_left_open(solved, maker))
    words = (
        f"cap its {loose} open port{'s' if loose > 1 else ''}."
        if loose
        else "look for an open end, a crushed cable or another impedance there, or put an attenuator "
        "ahead of it: it takes twice from what comes back."
    )
    return (f"Most of it comes back at {solved.names[maker]}: {words}",)


@check(
    "coax",
    codes=("isolation",),
    needs=(
        "profile",
        "rows",
        "solved",
    ),
)
def outlet_isolation(ctx: NetworkContext) -> list[Problem]:
    """Two outlets that hear each other's receiver: over the part at which their ways meet, in the
    weakest of some carriers of each band."""
    solved = ctx.solved
    run = solved.run
    nodes = {n: r for r in ctx.rows if (n := run.outlet_node(r.part)) is not None}
    if len(nodes) < 2:
        return []
    of_group = {g: _spread_over(solved, g) for g in solved.groups}
    columns = np.array([c for mine in of_group.values() for c in mine], int)
    if not len(columns):
        return []
    loss = _to_nearest(solved, list(nodes), columns)
    mhz = run.circuit.columns.frequency_mhz[columns]
    masks = {g: np.isin(columns, mine) for g, mine in of_group.items()}
    found = []
    for part in run.wiring.order:
        kind = run.wiring.kinds[part]
        if kind.outputs < 2 or not kind.inputs or kind.together:
            continue
        outs = [run.circuit.nodes[part, "out", o] for o in range(kind.outputs)]
        two = np.partition(loss[outs], 1, axis=0)[:2].sum(axis=0) + kind.isolation_at(mhz)
        for group, mask in masks.items():
            here = np.flatnonzero(mask & np.isfinite(two))
            if not len(here):
                continue
            at = int(here[two[here].argmin()])
            judged = gauge(
                float(two[at]), "db", low=ctx.profile.isolation_db, reserve=ISOLATION_RESERVE_DB
            )
            if judged.state == "ok":
                continue
            near = sorted(outs, key=lambda n, c=at: float(loss[n, c]))[:2]  # type: ignore[misc]
            names = [nodes[_nearest(solved, loss[:, at], n)].name for n in near]
            found.append(_hears(ctx, part, group=group, names=names, judged_db=judged.value or 0.0))
            break  # one cause, told once
    return found


def _spread_over(solved: Solved, group: Group) -> list[int]:
    """Up to four carriers spread over a band: loss and isolation go evenly over it."""
    mine = np.flatnonzero(solved.of_group[group])
    waves = solved.run.circuit.columns.frequency_mhz[mine]
    ordered = mine[np.argsort(waves)]
    picks = np.unique(np.linspace(0, len(ordered) - 1, min(4, len(ordered))).round().astype(int))
    return [int(c) for c in ordered[picks]]


def _hears(
    ctx: NetworkContext, part: str, *, group: Group, names: list[str], judged_db: float
) -> Problem:
    profile = ctx.profile
    judged = gauge(judged_db, "db", low=profile.isolation_db, reserve=ISOLATION_RESERVE_DB)
    return Problem(
        code="isolation",
        station="coax",
        state=judged.state,
        place=f"{names[0]} and {names[1]}",
        title=(f"{names[0]} and {names[1]} hear each other on the {group} band",),
        gauge=judged,
        limit=(
            "at least ",
            Quantity(profile.isolation_db, "db", 0),
            " within one home, ",
            Quantity(profile.isolation_apart_db, "db", 0),
            " between homes",
        ),
        origin=profile.isolation_origin,
        remedy=(
            f"They meet at {ctx.solved.names[part]}: take a tap or a splitter with more isolation there, or "
            "plates that lose more.",
        ),
        ref=part,
    )


def _to_nearest(solved: Solved, outlets: list[int], columns: Ints) -> Floats:
    """From every node the least loss down to an outlet in some columns [dB], inf where none is behind.
    What amplifies lets nothing back."""
    circuit = solved.run.circuit
    loss = np.full((len(circuit.nodes), len(columns)), np.inf)
    loss[outlets] = 0.0
    passive = np.isnan(circuit.factor)
    for group in reversed(circuit.groups):
        edges = group[passive[group]]
        edges = edges[np.argsort(circuit.edges[edges, 0], kind="stable")]
        if not len(edges):
            continue
        start, end = circuit.edges[edges, 0], circuit.edges[edges, 1]
        first = np.flatnonzero(np.r_[True, start[1:] != start[:-1]])
        there = loss[end] - circuit.gain_db[edges[:, None], columns]
        least = np.minimum.reduceat(there, first)
        loss[start[first]] = np.minimum(loss[start[first]], least)
    return loss


def _nearest(solved: Solved, loss: Floats, node: int) -> int:
    """The outlet's node at the end of the way of least loss from a node."""
    circuit = solved.run.circuit
    onward = circuit.edges[:, 0]
    while loss[node] > 0:
        edges = np.flatnonzero(onward == node)
        node = int(circuit.edges[edges[np.argmin(loss[circuit.edges[edges, 1]])], 1])
    return node
