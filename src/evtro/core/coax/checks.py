"""The rule set of the run: each problem with place, figure, limit, origin and remedy."""

from __future__ import annotations

import math

import numpy as np

from ..job import Job
from ..parts import BLOCKED_DB, Catalogue
from ..profile import Profile
from ..quantities import Gauge, Phrase, Problem, Quantity, State, gauge
from .edits import free_outputs
from .levels import Cell, Lane, OutletRow, Solved
from .plant import part_type
from .powering import Feed, Supply
from .remedies import Remedy, attenuate, better_cable

AMPLIFIER_ORIGIN = "data sheet rating less 7.5 log(n - 1), EN 60728 practice (from memory)"
DATA_SHEET = "the part's data sheet, typical of its class"


def part_name(job: Job, catalogue: Catalogue, part_id: str) -> str:
    """How a part is called: its own name, its outlet's or antenna's, else its type's."""
    part = next(p for p in job.parts if p.id == part_id)
    if part.name:
        return part.name
    kind = part_type(catalogue, part)
    if kind.kind == "antenna":
        return next((a.name for a in job.antennas if a.id == part.antenna), kind.name)
    return next((o.name for o in job.outlets if o.id == part.outlet), kind.name)


def check(
    job: Job, catalogue: Catalogue, profile: Profile, solved: Solved, rows: list[OutletRow],
    powering: tuple[list[Feed], list[Supply]],
) -> list[Problem]:  # fmt: skip
    """All problems of the run, the gravest first."""
    found: list[Problem] = []
    found += _loops(job, catalogue, solved)
    found += _sources(job, solved)
    for row in rows:
        found += _outlet(job, catalogue, profile, solved, row)
    found += _amplifiers(job, catalogue, solved)
    found += _inputs(job, catalogue, solved)
    found += _powering(job, catalogue, *powering)
    found += _open_ports(job, catalogue, solved)
    found += _entry(job, catalogue, solved)
    rank = {"out": 0, "near": 1, "todo": 2, "in": 3}
    return sorted(found, key=lambda p: rank[p.state])


def _loops(job: Job, catalogue: Catalogue, solved: Solved) -> list[Problem]:
    if not solved.plant.looped:
        return []
    names = ", ".join(part_name(job, catalogue, p) for p in sorted(solved.plant.looped))
    return [
        Problem("loop", "coax", "out", names, ("The signal runs in a loop",), None,
                ("one way from source to outlet",), "physics of the network",
                (f"Take away one cable between {names}. The rest goes on being computed.",),
                ref=min(solved.plant.looped))
    ]  # fmt: skip


def _sources(job: Job, solved: Solved) -> list[Problem]:
    """Targets whose carriers leave no source port."""
    found = []
    antennas = {a.target: a for a in job.antennas if a.target}
    for target in job.targets:
        mine = [c for c, lane in enumerate(solved.lanes) if lane.target == target.id]
        lost = [c for c in mine if solved.sources.port[c] is None]
        if not lost or not job.parts:
            continue
        antenna = antennas.get(target.id)
        placed = antenna is not None and any(p.antenna == antenna.id for p in job.parts)
        if antenna is None:
            text, remedy = f"No antenna looks at {target.name}", "Add one at Mast."
        elif not placed:
            text, remedy = f"{antenna.name} is not in the run", "Start a run at it."
        else:
            names = ", ".join(solved.lanes[c].name for c in lost[:3])
            text = f"{target.name}: {names} cannot be received"
            remedy = "Check frequency and polarisation, or take an LNB for that band."
        found.append(
            Problem("no-source", "coax", "out", target.name, (text,), None,
                    (f"{len(mine)} carriers wanted",), "this job's carriers", (remedy,),
                    ref=target.id)
        )  # fmt: skip
    return found


def _outlet(
    job: Job, catalogue: Catalogue, profile: Profile, solved: Solved, row: OutletRow
) -> list[Problem]:
    lanes = {lane.id: (c, lane) for c, lane in enumerate(solved.lanes)}
    if not row.cells:
        return []
    if row.part is None:
        return [
            Problem("no-plate", "coax", "out", row.name, (f"{row.name} has no path",), None,
                    ("a wall plate in the run",), "this job's outlets",
                    (f"Add {row.name} behind a free port of the run.",), ref=row.outlet)
        ]  # fmt: skip
    found = []
    silent = [
        c for c in row.cells
        if c.level.value is None and solved.sources.port[lanes[c.carrier][0]] is not None
    ]  # fmt: skip
    for group in ("terrestrial", "satellite"):
        gone = [c for c in silent if lanes[c.carrier][1].group == group]
        if gone:
            found.append(_silent(job, catalogue, solved, row, gone, group))
        present = [
            c for c in row.cells if c.level.value is not None and lanes[c.carrier][1].group == group
        ]
        if present:
            found += _group(job, catalogue, profile, solved, row, present, lanes)
    for judged in row.groups:
        if judged.slope.state != "in":
            found.append(
                Problem("slope", "coax", judged.slope.state, row.name,
                        (f"{row.name}: levels differ too much over the {judged.group} band",),
                        judged.slope, ("at most ", Quantity(judged.slope.high or 0, "db", 0)),
                        profile.slope_origin,
                        ("Shorten the run, take a better cable, or fit an equaliser.",),
                        ref=row.part)
            )  # fmt: skip
    return found


def _group(
    job: Job, catalogue: Catalogue, profile: Profile, solved: Solved, row: OutletRow,
    cells: list[Cell], lanes: dict[str, tuple[int, Lane]],
) -> list[Problem]:  # fmt: skip
    """The worst level and the worst margin of a group at an outlet."""
    found: list[Problem] = []
    low = min(cells, key=lambda c: (c.level.value or 0) - (c.level.low or 0))
    high = max(cells, key=lambda c: (c.level.value or 0) - (c.level.high or 0))
    thin = min(cells, key=lambda c: c.margin.value if c.margin.value is not None else -99)
    reserve = profile.level_reserve_db
    under = (low.level.low or 0) + reserve - (low.level.value or 0)
    over = (high.level.value or 0) - (high.level.high or 0) + reserve
    if under > 1e-3:
        c, lane = lanes[low.carrier]
        remedy = better_cable(job, catalogue, profile, solved, row, c) or Remedy(
            ("Raise the level ahead of it: preamplifier at the antenna, fewer splits, or a larger "
             "antenna.",), (), None)  # fmt: skip
        found.append(_level(row, low, lane, remedy, "under", under, reserve))
    if over > 1e-3:
        c, lane = lanes[high.carrier]
        remedy = attenuate(solved, row, over, high.level.value or 0, c) or Remedy(
            ("Lower the level ahead of it.",), (), None
        )
        found.append(_level(row, high, lane, remedy, "over", over, reserve))
    if thin.margin.state != "in" and under <= 1e-3:
        c, lane = lanes[thin.carrier]
        found.append(_margin(job, catalogue, profile, solved, row, thin, lane, c))
    return found


def _level(
    row: OutletRow, cell: Cell, lane: Lane, remedy: Remedy, side: str, by: float, reserve: float
) -> Problem:
    limit = cell.level.low if side == "under" else cell.level.high
    beyond = by - reserve
    limit_text: Phrase = ("at least " if side == "under" else "at most ",
                          Quantity(limit or 0, "dbuv", 0))  # fmt: skip
    if beyond > 1e-3:
        title: Phrase = (f"{row.name}: ", Quantity(beyond, "db"), f" {side} the limit")
    else:
        title = (f"{row.name}: near the {'lower' if side == 'under' else 'upper'} limit",)
        limit_text = (
            Quantity(reserve, "db", 0),
            " reserve inside ",
            Quantity(limit or 0, "dbuv", 0),
        )
    return Problem(
        "level-low" if side == "under" else "level-high", "coax", cell.level.state,
        f"{row.name}, {lane.frequency_mhz:.0f} MHz", title, cell.level, limit_text,
        lane.window.origin, remedy.do, remedy.fix, remedy.effect, row.part,
    )  # fmt: skip


def _margin(
    job: Job, catalogue: Catalogue, profile: Profile, solved: Solved, row: OutletRow, cell: Cell,
    lane: Lane, carrier: int,
) -> Problem:  # fmt: skip
    """A thin margin is old noise or new: say at which end of the run it is lost."""
    port = solved.sources.port[carrier]
    at_source = float(solved.sources.cn_db[carrier]) - lane.wanted_cn_db
    lost = at_source - (cell.margin.value or 0)
    if port is not None and lost > 3 and lane.group == "terrestrial":
        do: Phrase = ("Fit a preamplifier close to the antenna: ", Quantity(lost, "db"),
                      " of quality is lost on the way.")  # fmt: skip
    elif lane.group == "terrestrial":
        do = ("Take an antenna with more gain or raise it: the quality is missing at the antenna.",)
    else:
        do = ("Take a larger dish or a quieter LNB: the quality is missing at the dish.",)
    return Problem(
        "margin", "coax", cell.margin.state, f"{row.name}, {lane.frequency_mhz:.0f} MHz",
        (f"{row.name}: quality margin of {lane.name} is "
         f"{'too small' if cell.margin.state == 'out' else 'small'}",),
        cell.margin, ("at least ", Quantity(profile.margin_db, "db", 0), " over the threshold"),
        profile.margin_origin, do, ref=row.part,
    )  # fmt: skip


def _silent(
    job: Job, catalogue: Catalogue, solved: Solved, row: OutletRow, cells: list[Cell], group: str
) -> Problem:
    """Nothing of a group arrives: name the part that does not pass it, or the gap."""
    c = next(i for i, lane in enumerate(solved.lanes) if lane.id == cells[0].carrier)
    blocker = _blocker(solved, row.part or "", c)
    if blocker is None:
        return Problem("no-path", "coax", "out", row.name,
                       (f"No {group} signal has a path to {row.name}",), None,
                       ("a cable from its source",), "this job's run",
                       (f"Join the {group} source to the part that feeds {row.name}, or take the "
                        "wish off the outlet at Site.",), ref=row.part)  # fmt: skip
    name = part_name(job, catalogue, blocker)
    kind = part_type(catalogue, next(p for p in job.parts if p.id == blocker))
    frequency = solved.lanes[c].frequency_mhz
    return Problem("range", "coax", "out", row.name,
                   (f"{name} does not pass {frequency:.0f} MHz to {row.name}",),
                   gauge(frequency, "mhz", kind.low_mhz, kind.high_mhz),
                   (Quantity(kind.low_mhz, "mhz", 0), " to ", Quantity(kind.high_mhz, "mhz", 0)),
                   DATA_SHEET, ("Replace it by a part for that range, or lead the line past it.",),
                   ref=blocker)  # fmt: skip


def _blocker(solved: Solved, part: str, carrier: int) -> str | None:
    plant = solved.plant
    port = solved.sources.port[carrier]
    goal = plant.nodes.get(port) if port is not None else None
    start = plant.nodes.get((part, "out", 0))
    if goal is None or start is None:
        return None
    came: dict[int, int] = {start: -1}
    pending = [start]
    while pending:
        node = pending.pop()
        for edge in np.flatnonzero(plant.edges[:, 1] == node).tolist():
            before = int(plant.edges[edge, 0])
            if before not in came:
                came[before] = edge
                pending.append(before)
    node = goal
    while node in came and came[node] >= 0:
        edge = came[node]
        if plant.loss_db[edge, carrier] >= BLOCKED_DB:
            return plant.edge_part[edge] or None
        node = int(plant.edges[edge, 1])
    return None


def _amplifiers(job: Job, catalogue: Catalogue, solved: Solved) -> list[Problem]:
    found = []
    for part in job.parts:
        judged, count = output_gauge(job, catalogue, solved, part.id)
        if judged is None or judged.state == "in" or judged.value is None:
            continue
        kind = part_type(catalogue, part)
        step = math.ceil(judged.value - (judged.high or 0) + judged.reserve)
        setting = (part.setting_db or 0) + step
        found.append(
            Problem("overload", "coax", judged.state, part_name(job, catalogue, part.id),
                    (f"{kind.name} is {'overdriven' if judged.state == 'out' else 'near overload'}",),
                    judged,
                    ("at most ", Quantity(judged.high or 0, "dbuv"), f" with {count} carriers"),
                    AMPLIFIER_ORIGIN, ("Turn its gain down by ", Quantity(step, "db", 0)),
                    f"setting:{part.id}:{setting:g}" if kind.setting else None,
                    ("gives ", Quantity(judged.value - step, "dbuv"), ", in"), part.id)
        )  # fmt: skip
    return found


def output_gauge(
    job: Job, catalogue: Catalogue, solved: Solved, part_id: str
) -> tuple[Gauge | None, int]:
    """An amplifier's strongest carrier against its rating for the number of carriers [dBµV]."""
    part = next(p for p in job.parts if p.id == part_id)
    kind = part_type(catalogue, part)
    node = solved.plant.nodes.get((part_id, "out", 0))
    if kind.max_output_dbuv is None or node is None:
        return None, 0
    levels = solved.levels.level_dbuv[node, 0]
    present = levels[np.isfinite(levels)]
    if present.size == 0:
        return None, 0
    n = int(present.size)
    most = kind.max_output_dbuv - (7.5 * math.log10(n - 1) if n > 1 else 0.0)
    return gauge(float(present.max()), "dbuv", high=most, reserve=2.0), n


def _inputs(job: Job, catalogue: Catalogue, solved: Solved) -> list[Problem]:
    found = []
    for part in job.parts:
        kind = part_type(catalogue, part)
        if kind.input_low_dbuv is None or part.id in solved.plant.looped:
            continue
        for i in range(kind.inputs):
            levels = solved.levels.level_dbuv[solved.plant.nodes[part.id, "in", i], 0]
            present = levels[np.isfinite(levels)]
            if present.size == 0:
                continue
            low = float(present.min())
            high = float(present.max())
            reserve = 1.0
            side_low = low - kind.input_low_dbuv <= (kind.input_high_dbuv or 999) - high
            value = low if side_low else high
            judged = gauge(value, "dbuv", kind.input_low_dbuv, kind.input_high_dbuv, reserve)
            if judged.state == "in":
                continue
            line = "terrestrial" if not kind.satellite_input(i) else f"satellite line {i + 1}"
            found.append(
                Problem("input-low" if side_low else "input-high", "coax", judged.state,
                        f"{part_name(job, catalogue, part.id)}, {line}",
                        (f"{kind.name}: {line} comes in too {'low' if side_low else 'high'}",),
                        judged, (Quantity(kind.input_low_dbuv, "dbuv", 0), " to ",
                                 Quantity(kind.input_high_dbuv or 0, "dbuv", 0)),
                        DATA_SHEET,
                        ("Amplify ahead of it, at the antenna for terrestrial." if side_low
                         else "Fit an attenuator in this line.",), ref=part.id)
            )  # fmt: skip
    return found


def _powering(
    job: Job, catalogue: Catalogue, feeds: list[Feed], supplies: list[Supply]
) -> list[Problem]:
    found = []
    for feed in feeds:
        name = part_name(job, catalogue, feed.consumer)
        window: Phrase = (Quantity(feed.voltage.low or 0, "v"), " to ",
                          Quantity(feed.voltage.high or 0, "v"))  # fmt: skip
        if feed.supply is None:
            lnb = part_type(catalogue, next(p for p in job.parts if p.id == feed.consumer))
            inserter = "inserter-18" if lnb.kind == "lnb" else "inserter-12"
            if feed.blocked_at:
                title = f"{part_name(job, catalogue, feed.blocked_at)} passes no power to {name}"
            else:
                title = f"Nothing powers {name}"
            fix = f"insert:{feed.blocked_link}:{inserter}" if feed.blocked_link else None
            found.append(
                Problem("dc-none", "coax", "out", name, (title,), feed.voltage, window, DATA_SHEET,
                        ("Fit a power inserter between them" if fix else
                         "Fit a power inserter below it.",), fix,
                        (catalogue.parts[inserter].name, " ahead of it") if fix else (),
                        feed.consumer)
            )  # fmt: skip
            continue
        if feed.voltage.state != "in":
            found.append(
                Problem("dc-voltage", "coax", feed.voltage.state, name,
                        (f"{name} gets too little voltage" if feed.voltage.state == "out"
                         else f"{name} is near its voltage limit",), feed.voltage, window,
                        DATA_SHEET,
                        ("Shorten the line or take a copper cable: ", Quantity(
                            feed.loop_ohm * feed.current_ma / 1000, "v", 2), " are lost in it."),
                        ref=feed.consumer)
            )  # fmt: skip
        if len(feed.supplies) > 1:
            found.append(
                Problem("dc-meet", "coax", "near", name, (f"Two supplies meet at {name}",), None,
                        ("one supply for each part",), "common practice, no source",
                        ("Use a splitter that passes power on one port only.",), ref=feed.consumer)
            )  # fmt: skip
    for supply in supplies:
        if supply.load.state != "in":
            found.append(
                Problem("dc-current", "coax", supply.load.state,
                        part_name(job, catalogue, supply.part),
                        ("The supply is overloaded" if supply.load.state == "out"
                         else "The supply is near its rating",), supply.load,
                        ("at most ", Quantity(supply.load.high or 0, "ma", 0)), DATA_SHEET,
                        ("Take a supply with a higher rating, or give one part its own.",),
                        ref=supply.part)
            )  # fmt: skip
    return found


def _open_ports(job: Job, catalogue: Catalogue, solved: Solved) -> list[Problem]:
    found = []
    for part in job.parts:
        kind = part_type(catalogue, part)
        if kind.kind not in ("splitter", "tap", "multiswitch") or part.id in solved.plant.looped:
            continue
        free = free_outputs(job, catalogue, part)
        if not free:
            continue
        count = len(free)
        state: State = "near"
        found.append(
            Problem("open-port", "coax", state, part_name(job, catalogue, part.id),
                    (f"{kind.name}: {count} open port{'s' if count > 1 else ''}",),
                    gauge(float(count), "count", high=0.0), ("no port left open",),
                    "75 ohm on every unused port (common practice, no source)",
                    (f"Cap {'them' if count > 1 else 'it'} with 75 ohm",), f"terminate:{part.id}",
                    (f"{count} terminator{'s' if count > 1 else ''}, no echo from open ports",),
                    part.id)
        )  # fmt: skip
    return found


def _entry(job: Job, catalogue: Catalogue, solved: Solved) -> list[Problem]:
    """Lines from outside that meet no grounding block before the first device indoors."""
    if job.earth.indoors or job.mast.fixing == "loft":
        return []
    found = []
    kinds = {p.id: part_type(catalogue, p).kind for p in job.parts}
    for part in job.parts:
        if part.antenna is None:
            continue
        reached, pending, blocked = False, [part.id], set()
        while pending:
            here = pending.pop()
            for link in job.links:
                if link.from_part != here or link.to_part in blocked:
                    continue
                blocked.add(link.to_part)
                kind = kinds.get(link.to_part)
                if kind == "grounding_block":
                    continue
                if kind in ("splitter", "tap", "multiswitch", "plate", "amplifier"):
                    reached = True
                    continue
                pending.append(link.to_part)
        if reached:
            name = next((a.name for a in job.antennas if a.id == part.antenna), part.id)
            found.append(
                Problem("no-block", "coax", "near", name,
                        (f"{name}: its line enters without a grounding block",), None,
                        ("shield bonded where the cable enters",),
                        "IEC 60728-11 and NEC 820 (from memory)",
                        ("Add a grounding block at the entry, and bond it at Earth.",), ref=part.id)
            )  # fmt: skip
    return found
