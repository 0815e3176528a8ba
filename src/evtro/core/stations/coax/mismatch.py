"""The rules of matching: open ports, steps between impedances, echoes, isolation between outlets."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np

from ...job import Job
from ...job.changes import Change, Insert, Set, Several
from ...job.parts import Catalogue, PartType, part_type
from ...job.problems import Problem
from ...job.profile import Profile
from ...physics.geodesy import Floats
from ...plant.circuit import Ints
from ...plant.circuit import step as step_between
from ...units.quantities import Quantity, State, gauge
from .levels import GROUPS, Group, OutletRow, Solved

STRONG_STEP = 0.1  # of the power sent back: a tenth and more is out; common practice, no source
ISOLATION_RESERVE_DB = 2.0


def matching_problems(
    job: Job, catalogue: Catalogue, profile: Profile, solved: Solved, rows: list[OutletRow]
) -> list[Problem]:
    """All problems of matching but the echoes at outlets."""
    return [
        *_open_ports(job, catalogue, solved),
        *_impedances(job, catalogue, solved),
        *_isolation(profile, solved, rows),
    ]


def open_ports(kind: PartType, used: Collection[int]) -> list[int]:
    """Outputs of a part with several that are left open, beside those in use."""
    if kind.outputs < 2 or kind.together or not kind.inputs:
        return []
    return [o for o in kind.joinable if o not in used]


def _left_open(solved: Solved, part: str) -> list[int]:
    wiring = solved.run.wiring
    return [] if part in wiring.looped else open_ports(wiring.kinds[part], wiring.after[part])


def _open_ports(job: Job, catalogue: Catalogue, solved: Solved) -> list[Problem]:
    found = []
    for part in job.parts:
        free = _left_open(solved, part.id)
        if not free:
            continue
        count = len(free)
        found.append(
            Problem(code="open-port", station="coax", state="near", place=solved.names[part.id],
                    title=(f"{part_type(catalogue, part).name}: {count} open port{'s' if count > 1 else ''}",),
                    gauge=gauge(float(count), "count", high=0.0), limit=("no port left open",),
                    origin="75 ohm on every unused port (common practice, no source)",
                    remedy=(f"Cap {'them' if count > 1 else 'it'} with 75 ohm",), change=_caps(part.id, free),
                    effect=(f"{count} terminator{'s' if count > 1 else ''}, no echo from open ports",),
                    ref=part.id)
        )  # fmt: skip
    return found


def _caps(part_id: str, ports: list[int]) -> Change:
    """A terminator on each of a part's free outputs."""
    caps = tuple(
        Insert(type="terminator", after=part_id, port=p, cable="rg6", length_m=0.0) for p in ports
    )
    return Several(words="cap open ports", changes=caps)


def _impedances(job: Job, catalogue: Catalogue, solved: Solved) -> list[Problem]:
    """Cables that meet a port of another impedance."""
    wiring, found = solved.run.wiring, []
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
            key = next((k for k, c in catalogue.cables.items() if c.impedance_ohm == ohm), None)
            if key is not None:
                change = Set(rows="links", id=link.id, values={"cable": key})
        do = (
            f"Pull it in {catalogue.cables[change.values['cable']].short}"
            if change is not None
            else "Put a transformer for these two impedances between them"
        )
        state: State = "out" if share >= STRONG_STEP else "near"
        found.append(Problem(
            code="impedance", station="coax", state=state, place=f"{cable.short} at {solved.names[part]}",
            title=(f"{cable.impedance_ohm:.0f} ohm meets {ohm:.0f} ohm",),
            gauge=gauge(float(-10 * np.log10(share)), "db", low=20.0),
            limit=("at least ", Quantity(20.0, "db", 0), " of return loss, one impedance along the line"),
            origin="wave theory, and common practice, no source",
            remedy=(do, ": here ", Quantity(float(lost), "db"), " is lost, and the rest comes back as an echo"),
            change=change, ref=part))  # fmt: skip
    return found


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


def echo_problem(profile: Profile, solved: Solved, row: OutletRow, column: int) -> Problem:
    """Echoes lift and lower a carrier at an outlet: where most of them is made."""
    judged, channel = row.judged, solved.channels[column]
    cell = judged.cell(row.index, column)
    node = solved.run.outlet_node(row.part)
    maker = echo_maker(solved, column, node) if node is not None else None
    do = "Match what stands in the line."
    if maker is not None:
        loose = len(_left_open(solved, maker))
        do = (f"Most of it comes back at {solved.names[maker]}: "
              + (f"cap its {loose} open port{'s' if loose > 1 else ''}." if loose else
                 "look for an open end, a crushed cable or another impedance there, or put an attenuator "
                 "ahead of it: it takes twice from what comes back."))  # fmt: skip
    return Problem(
        code="echo", station="coax", state=cell.ripple.state, place=f"{row.name}, {channel.frequency_mhz:.0f} MHz",
        title=(f"{row.name}: echoes lift and lower {channel.name}",), gauge=cell.ripple,
        limit=("at most ", Quantity(profile.ripple_db, "db", 0), " from top to bottom"),
        origin=profile.ripple_origin, remedy=(do,), ref=row.part,
    )  # fmt: skip


def _isolation(profile: Profile, solved: Solved, rows: list[OutletRow]) -> list[Problem]:
    """Two outlets that hear each other's receiver: over the part at which their ways meet, in the
    weakest of the wanted carriers' frequencies."""
    run = solved.run
    plates = {r.part: r for r in rows if r.part is not None}
    if len(plates) < 2:
        return []
    loss, end = _to_nearest(solved, plates)
    found = []
    count = len(solved.channels)
    for part in run.wiring.order:
        kind = run.wiring.kinds[part]
        outs = [run.circuit.nodes[part, "out", o] for o in range(kind.outputs)]
        outs = [n for n in outs if end[n].max(initial=-1) >= 0]
        if len(outs) < 2 or not kind.inputs or kind.together:
            continue
        apart = kind.isolation_at(run.circuit.columns.frequency_mhz)[:count]
        near = np.sort(loss[outs][:, :count], axis=0)[:2].sum(axis=0) + apart
        for group in GROUPS:
            mine = np.flatnonzero(solved.of_group[group] & np.isfinite(near))
            if not len(mine):
                continue
            column = int(mine[near[mine].argmin()])
            judged = gauge(float(near[column]), "db", low=profile.isolation_db,
                           reserve=ISOLATION_RESERVE_DB)  # fmt: skip
            if judged.state == "in":
                continue
            two = sorted(outs, key=lambda n, c=column: float(loss[n, c]))[:2]  # type: ignore[misc]
            names = [rows[int(end[n, column])].name for n in two]
            found.append(_hears(profile, solved, part, group=group, names=names, judged_db=judged.value or 0.0))  # fmt: skip
            break  # one cause, told once
    return found


def _hears(
    profile: Profile, solved: Solved, part: str, *, group: Group, names: list[str], judged_db: float
) -> Problem:
    judged = gauge(judged_db, "db", low=profile.isolation_db, reserve=ISOLATION_RESERVE_DB)
    return Problem(
        code="isolation", station="coax", state=judged.state, place=f"{names[0]} and {names[1]}",
        title=(f"{names[0]} and {names[1]} hear each other on the {group} band",), gauge=judged,
        limit=("at least ", Quantity(profile.isolation_db, "db", 0), " within one home, ",
               Quantity(profile.isolation_apart_db, "db", 0), " between homes"),
        origin=profile.isolation_origin,
        remedy=(f"They meet at {solved.names[part]}: take a tap or a splitter with more isolation there, or "
                "plates that lose more.",), ref=part,
    )  # fmt: skip


def _to_nearest(solved: Solved, plates: dict[str, OutletRow]) -> tuple[Floats, Ints]:
    """From every node the least loss down to an outlet [dB], inf where none is behind, and the row of
    that outlet, -1 for none; (nodes, columns). What amplifies lets nothing back."""
    run = solved.run
    circuit = run.circuit
    shape = (len(circuit.nodes), len(circuit.columns.ids))
    loss, end = np.full(shape, np.inf), np.full(shape, -1, np.int64)
    for part, row in plates.items():
        node = run.outlet_node(part)
        if node is not None:
            loss[node], end[node] = 0.0, row.index
    passive = np.isnan(circuit.factor)
    for group in reversed(circuit.groups):
        edges = group[passive[group]]
        for edge in edges.tolist():
            start, to = circuit.edges[edge].tolist()
            if not (end[to] >= 0).any():
                continue
            there = loss[to] - circuit.gain_db[edge]
            nearer = there < loss[start]
            loss[start, nearer], end[start, nearer] = there[nearer], end[to, nearer]
    return loss, end
