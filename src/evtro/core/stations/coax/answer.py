"""Station Coax: what level and quality reaches each outlet."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...job import Job
from ...job.problems import Problem
from ...job.profile import Profile
from ...job.targets import wanted_job
from ...plant.edits import free_inputs, free_outputs
from ...plant.parts import Catalogue, PartType
from ...plant.wiring import part_type
from ...units.quantities import (
    Gauge,
    InputError,
    State,
    gauge,
    worst,
)
from .checks import check
from .company import company_problems
from .device_checks import output_gauge
from .layout import Layout, lay_out
from .levels import (
    Cell,
    GroupGauge,
    Lane,
    OutletRow,
    Solved,
    group_gauges,
    outlet_rows,
    part_levels,
    solve_job,
)
from .names import part_name
from .powering import Feed, Supply, feeds

NO_MARGIN = gauge(None, "db")


@dataclass(frozen=True)
class PartView:
    """A part with what comes out of it and what it may still be joined to."""

    id: str
    type: str
    kind: str
    name: str
    type_name: str
    levels: list[tuple[str, float, float]]
    groups: list[GroupGauge]
    output: Gauge | None
    free_outputs: list[int]
    free_inputs: list[int]
    state: State


@dataclass(frozen=True)
class CoaxAnswer:
    """The answer of the station."""

    lanes: list[Lane]
    outlets: list[OutletRow]
    parts: list[PartView]
    layout: Layout
    feeds: list[Feed]
    supplies: list[Supply]
    inside: int
    wanted: int
    lowest: Gauge
    lowest_place: str
    problems: list[Problem]
    state: State
    figure: str


@dataclass(frozen=True)
class Term:
    """One step of a level on its way: what did it, by how much [dB], and the level after it."""

    name: str
    change_db: float
    level_dbuv: float
    part: str | None
    link: str | None


def work_out(job: Job, catalogue: Catalogue, profile: Profile) -> tuple[CoaxAnswer, Solved]:
    """Solve the plant and judge it; the solution goes on to Readings."""
    solved = solve_job(job, catalogue, profile)
    job = wanted_job(job)
    rows = outlet_rows(job, solved, profile)
    powering = feeds(solved.run)
    problems = check(job, catalogue, profile=profile, solved=solved, rows=rows, powering=powering)
    problems += company_problems(job, catalogue, profile)
    wanted = [r for r in rows if r.cells]
    inside = sum(r.state in ("in", "near") for r in wanted)
    worst_cell = _nearest_to_limit(wanted)
    begun = bool(job.parts and job.carriers)
    state = worst([r.state for r in wanted] + [p.state for p in problems]) if begun else "todo"
    states = {p.ref: worst([q.state for q in problems if q.ref == p.ref]) for p in problems}
    answer = CoaxAnswer(
        lanes=solved.lanes, outlets=rows,
        parts=[_view(job, catalogue, profile=profile, solved=solved, part_id=p.id, state=states.get(p.id, "in")) for p in job.parts],
        layout=lay_out(job, solved.run.wiring), feeds=powering[0], supplies=powering[1],
        inside=inside, wanted=len(wanted),
        lowest=worst_cell[0] if worst_cell else gauge(None, "dbuv"),
        lowest_place=worst_cell[1] if worst_cell else "",
        problems=problems if begun else [],
        state=state,
        figure=f"{inside}/{len(wanted)} in" if begun else "no run yet",
    )  # fmt: skip
    return answer, solved


def _nearest_to_limit(rows: list[OutletRow]) -> tuple[Gauge, str] | None:
    best: tuple[float, Gauge, str] | None = None
    for row in rows:
        for group in row.groups:
            for judged, mhz in ((group.low, group.low_mhz), (group.high, group.high_mhz)):
                room = min((judged.value or 0) - (judged.low or 0),
                           (judged.high or 0) - (judged.value or 0))  # fmt: skip
                if best is None or room < best[0]:
                    best = (room, judged, f"{row.name} at {mhz:.0f} MHz")
    return None if best is None else (best[1], best[2])


def _view(
    job: Job, catalogue: Catalogue, profile: Profile, solved: Solved, part_id: str, state: State
) -> PartView:
    part = next(p for p in job.parts if p.id == part_id)
    kind = part_type(catalogue, part)
    levels = part_levels(solved, part_id)
    lanes = {lane.id: lane for lane in solved.lanes}
    window = _window(job, catalogue, kind, part_id)
    # An outlet's row has its gauges already; here they would be computed a second time.
    cells = [] if kind.receivers else [
        Cell(carrier=c, level=judged, cn_db=cn, margin=NO_MARGIN, state=judged.state)
        for c, level, cn in levels if c in lanes
        for judged in [gauge(level, "dbuv", *window, reserve=1.0)]
    ]  # fmt: skip
    return PartView(
        id=part_id, type=part.type, kind=kind.draws_as, name=part_name(job, catalogue, part_id), type_name=kind.name, levels=levels,
        groups=group_gauges(cells, solved.lanes, profile), output=output_gauge(job, catalogue, solved, part_id)[0],
        free_outputs=free_outputs(job, catalogue, part), free_inputs=free_inputs(job, catalogue, part), state=state,
    )  # fmt: skip


def _window(
    job: Job, catalogue: Catalogue, kind: PartType, part_id: str
) -> tuple[float | None, float | None]:
    """Levels a part should give: its own input window, else the next part's carried back."""
    if kind.input_low_dbuv is not None and not kind.selects:
        return kind.input_low_dbuv, kind.input_high_dbuv
    for link in job.links:
        if link.from_part == part_id:
            following = next((p for p in job.parts if p.id == link.to_part), None)
            if following is not None:
                after = part_type(catalogue, following)
                if after.input_low_dbuv is not None:
                    return after.input_low_dbuv, after.input_high_dbuv
    return None, kind.rated_output_dbuv


def terms(
    job: Job, catalogue: Catalogue, solved: Solved, part_id: str, carrier_id: str
) -> list[Term]:
    """The staircase of a carrier's level from its source to a part's output."""
    if carrier_id not in solved.columns.ids:
        raise InputError("Carrier", f"{carrier_id} is of a target that the job does not want, so it is "
                         "not in the run.", "Tick the target as wanted at Sky.", "carrier-unwanted")  # fmt: skip
    run, carrier = solved.run, solved.columns.ids.index(carrier_id)
    nodes = (
        [run.circuit.nodes[p] for p in run.ports_out(part_id)]
        if part_id in run.wiring.before
        else []
    )
    best = max(nodes, key=lambda n: _or_low(run.levels.level_dbuv[n, carrier]), default=None)
    if best is None or not run.levels.signal[best, carrier] > 0:
        return []
    way = run.way_to(best, carrier)
    start = int(run.circuit.edges[way[0], 0]) if way else best
    port = next(p for p, n in run.circuit.nodes.items() if n == start)
    level = float(run.columns.given[port][0][carrier])
    found = [
        Term(
            name=part_name(job, catalogue, port[0]),
            change_db=0.0,
            level_dbuv=level,
            part=port[0],
            link=None,
        )
    ]
    links = {k.id: k for k in job.links}
    for edge in way:
        change = float(10 * np.log10(run.driven.gain[edge, carrier]))
        level += change
        link_id, part = run.circuit.edge_link[edge], run.circuit.edge_part[edge]
        if link_id:
            link = links[link_id]
            name = f"{link.length_m:g} m of {catalogue.cables[link.cable].short}"
        else:
            name = part_name(job, catalogue, part)
        found.append(
            Term(
                name=name,
                change_db=change,
                level_dbuv=level,
                part=part or None,
                link=link_id or None,
            )
        )
    return found


def _or_low(value: float) -> float:
    return value if value == value else -1e9
