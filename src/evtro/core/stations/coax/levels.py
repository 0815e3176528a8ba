"""What reaches every outlet and part: figures judged against the profile."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ...job import Carrier, Job, Outlet
from ...job.profile import Profile, Window
from ...job.targets import wanted_job
from ...physics.modulation import MODULATIONS, Modulation
from ...plant.circuit import Columns
from ...plant.parts import Catalogue
from ...plant.solution import Solution, solve_run
from ...units.quantities import Gauge, State, gauge, worst
from .sources import from_the_air, lnb_band, sources_of

Group = Literal["terrestrial", "satellite"]
ChoiceOf = Literal["own", "shared", "none"]


@dataclass(frozen=True)
class Lane:
    """A carrier in the plant: its group, frequency on the cable [MHz] and what it wants."""

    id: str
    name: str
    target: str
    group: Group
    rf_mhz: float
    frequency_mhz: float
    band: str
    system: str
    wanted_cn_db: float
    window: Window


@dataclass(frozen=True)
class Cell:
    """One carrier at one outlet. `choice` says whether its receiver can ask for it: by itself, only
    while its neighbours on the same line let it, or not at all."""

    carrier: str
    level: Gauge
    cn_db: float | None
    margin: Gauge
    state: State
    choice: ChoiceOf = "own"


@dataclass(frozen=True)
class GroupGauge:
    """A group of carriers at a place: lowest and highest frequency, and the least level."""

    group: Group
    low: Gauge
    high: Gauge
    low_mhz: float
    high_mhz: float
    least_dbuv: float
    slope: Gauge
    state: State


@dataclass(frozen=True)
class OutletRow:
    """An outlet with everything that it wants."""

    outlet: str
    part: str | None
    name: str
    floor: str
    cells: list[Cell]
    groups: list[GroupGauge]
    state: State


@dataclass(frozen=True)
class Solved:
    """A job's plant, solved once, and its carriers in the order of the columns."""

    run: Solution
    lanes: list[Lane]

    @property
    def columns(self) -> Columns:
        """What the sources give."""
        return self.run.columns


def modulation_of(carrier: Carrier) -> Modulation:
    """The carrier's modulation; an unknown one counts as the most robust of its kind's name."""
    return MODULATIONS[carrier.modulation]


def solve_job(job: Job, catalogue: Catalogue, profile: Profile) -> Solved:
    """Build and solve the plant of a job; satellites that nobody wants stay out of it."""
    heard = from_the_air(job)
    around, job = job, wanted_job(job)
    columns = sources_of(job, catalogue, heard, around)
    asking = {o.id for o in job.outlets if o.satellite}
    run = solve_run(job.parts, job.links, catalogue, columns=columns, receivers=asking)
    return Solved(run, _lanes(job, catalogue, profile, columns))


def _lanes(job: Job, catalogue: Catalogue, profile: Profile, columns: Columns) -> list[Lane]:
    kinds = {t.id: t.kind for t in job.targets}
    parts = {p.id: p for p in job.parts}
    lanes = []
    for i, carrier in enumerate(job.carriers):
        modulation = modulation_of(carrier)
        port = columns.port[i]
        band = ""
        if port is not None:
            kind = catalogue.part(parts[port[0]].type)
            found = lnb_band(kind, carrier) if kind is not None else None
            band = found.name if found else ""
        lanes.append(
            Lane(
                id=carrier.id, name=carrier.name, target=carrier.target,
                group="satellite" if kinds[carrier.target] == "satellite" else "terrestrial",
                rf_mhz=carrier.frequency_mhz, frequency_mhz=float(columns.frequency_mhz[i]), band=band,
                system=modulation.system, wanted_cn_db=modulation.cn_db, window=profile.window(modulation.code, modulation.system),
            )
        )  # fmt: skip
    return lanes


def wants(outlet: Outlet, lane: Lane) -> bool:
    """Whether an outlet wants a carrier."""
    return outlet.satellite if lane.group == "satellite" else outlet.terrestrial


def cell(
    lane: Lane, level: float, high: float, cn: float, profile: Profile, choice: ChoiceOf = "own"
) -> Cell:
    """Judge one carrier at an outlet: its level window and its C/N margin. Where it comes by two ways
    its level is a range, and the end counts that lies nearer to its limit."""
    window = lane.window
    if high - window.high_dbuv > window.low_dbuv - level:
        level = high
    judged = gauge(level, "dbuv", low=window.low_dbuv, high=window.high_dbuv,
                   reserve=profile.level_reserve_db)  # fmt: skip
    margin = gauge(cn - lane.wanted_cn_db, "db", low=profile.margin_db,
                   reserve=profile.margin_reserve_db)  # fmt: skip
    state: State = worst([judged.state, margin.state])
    if judged.value is None or choice == "none":
        state = "out"
    return Cell(
        carrier=lane.id,
        level=judged,
        cn_db=cn if math.isfinite(cn) else None,
        margin=margin,
        state=state,
        choice=choice,
    )


def outlet_rows(job: Job, solved: Solved, profile: Profile) -> list[OutletRow]:
    """Every outlet's cells and gauges."""
    plates = {p.outlet: p.id for p in job.parts if p.outlet}
    return [outlet_row(solved, profile, o, plates.get(o.id)) for o in job.outlets]


def outlet_row(solved: Solved, profile: Profile, outlet: Outlet, part: str | None) -> OutletRow:
    """One outlet's cells and gauges."""
    node = solved.run.outlet_node(part)
    if node is None:
        levels = highs = ratios = [float("nan")] * len(solved.lanes)
    else:
        found = solved.run.levels
        levels, highs = found.level_dbuv[node].tolist(), found.high_dbuv[node].tolist()
        ratios = found.cn_db[node].tolist()
    figures = zip(levels, highs, ratios, strict=True)
    given = zip(solved.lanes, figures, choices_of(solved, part), strict=True)
    cells = [
        cell(lane, level, high=high, cn=ratio, profile=profile, choice=choice)
        for lane, (level, high, ratio), choice in given
        if wants(outlet, lane)
    ]
    groups = group_gauges(cells, solved.lanes, profile)
    states = [c.state for c in cells] + [g.slope.state for g in groups]
    return OutletRow(
        outlet=outlet.id,
        part=part,
        name=outlet.name,
        floor=outlet.floor,
        cells=cells,
        groups=groups,
        state=worst(states),
    )


def choices_of(solved: Solved, part: str | None) -> list[ChoiceOf]:
    """Whether the receiver at a plate can ask for each carrier."""
    choice = solved.run.choice
    if part is None or part not in choice.alone:
        return ["own"] * len(solved.lanes)
    return [
        "own" if beside else "shared" if alone else "none"
        for alone, beside in zip(choice.alone[part].tolist(), choice.beside[part].tolist(), strict=True)
    ]  # fmt: skip


def group_gauges(cells: list[Cell], lanes: list[Lane], profile: Profile) -> list[GroupGauge]:
    """Gauges of the lowest and highest frequency in each group that is present."""
    by_id = {lane.id: lane for lane in lanes}
    found = []
    for group in ("terrestrial", "satellite"):
        mine = [c for c in cells if by_id[c.carrier].group == group and c.level.value is not None]
        if not mine:
            continue
        mine.sort(key=lambda c: by_id[c.carrier].frequency_mhz)
        levels = [c.level.value for c in mine if c.level.value is not None]
        most = profile.slope_satellite_db if group == "satellite" else profile.slope_terrestrial_db
        slope = gauge(max(levels) - min(levels), "db", high=most, reserve=1.0)
        found.append(
            GroupGauge(
                group=group, low=mine[0].level, high=mine[-1].level,
                low_mhz=by_id[mine[0].carrier].frequency_mhz, high_mhz=by_id[mine[-1].carrier].frequency_mhz,
                least_dbuv=min(levels), slope=slope, state=worst([*(c.state for c in mine), slope.state]),
            )
        )  # fmt: skip
    return found


def part_levels(solved: Solved, part_id: str) -> list[tuple[str, float, float]]:
    """Carriers at a part's outputs: id, level [dBµV], C/N [dB]; the strongest output of each."""
    if part_id in solved.run.wiring.looped:
        return []
    found = solved.run.levels
    nodes = [solved.run.circuit.nodes[port] for port in solved.run.ports_out(part_id)]
    at = [(found.level_dbuv[n].tolist(), found.cn_db[n].tolist()) for n in nodes]
    rows = []
    for c, lane in enumerate(solved.lanes):
        there = [(level[c], ratio[c]) for level, ratio in at if math.isfinite(level[c])]
        if there:
            rows.append((lane.id, *max(there)))
    return rows
