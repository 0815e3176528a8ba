"""What reaches every outlet and part: figures judged against the profile."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ...job import Carrier, Job, Outlet
from ...job.profile import Profile, Window
from ...job.targets import wanted_job
from ...physics.modulation import MODULATIONS, Modulation
from ...plant.network import Levels, Plant, Sources, build, out_ports, part_type, solve
from ...plant.parts import Catalogue
from ...units.quantities import Gauge, State, gauge, worst
from .sources import from_the_air, lnb_band, sources_of

Group = Literal["terrestrial", "satellite"]


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
    """One carrier at one outlet."""

    carrier: str
    level: Gauge
    cn_db: float | None
    margin: Gauge
    state: State


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
    """A job's plant, solved once."""

    sources: Sources
    plant: Plant
    levels: Levels
    lanes: list[Lane]


def modulation_of(carrier: Carrier) -> Modulation:
    """The carrier's modulation; an unknown one counts as the most robust of its kind's name."""
    return MODULATIONS[carrier.modulation]


def solve_job(job: Job, catalogue: Catalogue, profile: Profile) -> Solved:
    """Build and solve the plant of a job; satellites that nobody wants stay out of it."""
    given = from_the_air(job)
    around, job = job, wanted_job(job)
    sources = sources_of(job, catalogue, given, around)
    plant = build(job.parts, job.links, catalogue, sources)
    return Solved(sources, plant, solve(plant, sources), _lanes(job, catalogue, profile, sources))


def _lanes(job: Job, catalogue: Catalogue, profile: Profile, sources: Sources) -> list[Lane]:
    kinds = {t.id: t.kind for t in job.targets}
    parts = {p.id: p for p in job.parts}
    lanes = []
    for i, carrier in enumerate(job.carriers):
        modulation = modulation_of(carrier)
        port = sources.port[i]
        band = ""
        if port is not None:
            found = lnb_band(part_type(catalogue, parts[port[0]]), carrier)
            band = found.name if found else ""
        lanes.append(
            Lane(
                id=carrier.id, name=carrier.name, target=carrier.target,
                group="satellite" if kinds[carrier.target] == "satellite" else "terrestrial",
                rf_mhz=carrier.frequency_mhz, frequency_mhz=float(sources.frequency_mhz[i]), band=band,
                system=modulation.system, wanted_cn_db=modulation.cn_db, window=profile.window(modulation.code, modulation.system),
            )
        )  # fmt: skip
    return lanes


def wants(outlet: Outlet, lane: Lane) -> bool:
    """Whether an outlet wants a carrier."""
    return outlet.satellite if lane.group == "satellite" else outlet.terrestrial


def cell(lane: Lane, level: float, cn: float, profile: Profile) -> Cell:
    """Judge one carrier at an outlet: its level window and its C/N margin."""
    judged = gauge(
        level,
        "dbuv",
        low=lane.window.low_dbuv,
        high=lane.window.high_dbuv,
        reserve=profile.level_reserve_db,
    )
    margin = gauge(cn - lane.wanted_cn_db, "db", low=profile.margin_db,
                   reserve=profile.margin_reserve_db)  # fmt: skip
    state: State = "out" if judged.value is None else worst([judged.state, margin.state])
    return Cell(
        carrier=lane.id,
        level=judged,
        cn_db=cn if math.isfinite(cn) else None,
        margin=margin,
        state=state,
    )


def outlet_rows(job: Job, solved: Solved, profile: Profile) -> list[OutletRow]:
    """Every outlet's cells and gauges."""
    plates = {p.outlet: p.id for p in job.parts if p.outlet}
    return [outlet_row(solved, profile, o, plates.get(o.id)) for o in job.outlets]


def outlet_row(
    solved: Solved, profile: Profile, outlet: Outlet, part: str | None, variant: int = 0
) -> OutletRow:
    """One outlet's cells and gauges, for one of the solved variants."""
    node = solved.plant.nodes.get((part, "out", 0)) if part else None
    if node is None:
        levels = ratios = [float("nan")] * len(solved.lanes)
    else:
        levels = solved.levels.level_dbuv[node, variant].tolist()
        ratios = solved.levels.cn_db[node, variant].tolist()
    cells = [
        cell(lane, level, ratio, profile)
        for lane, level, ratio in zip(solved.lanes, levels, ratios, strict=True)
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


def part_levels(job: Job, catalogue: Catalogue, solved: Solved, part_id: str) -> list[
    tuple[str, float, float]
]:  # fmt: skip
    """Carriers at a part's outputs: id, level [dBµV], C/N [dB]; the strongest output of each."""
    part = next(p for p in job.parts if p.id == part_id)
    kind = part_type(catalogue, part)
    ports = out_ports(kind)
    nodes = [solved.plant.nodes.get((part_id, "out", o)) for o in range(ports)]
    if not ports:
        nodes = [solved.plant.nodes.get((part_id, "in", 0))]
    at = [
        (solved.levels.level_dbuv[n, 0].tolist(), solved.levels.cn_db[n, 0].tolist())
        for n in nodes
        if n is not None
    ]
    rows = []
    for c, lane in enumerate(solved.lanes):
        found = [(level[c], ratio[c]) for level, ratio in at if math.isfinite(level[c])]
        if found:
            rows.append((lane.id, *max(found)))
    return rows
