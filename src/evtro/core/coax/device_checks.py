"""The rules of the devices: overload, input windows, powering, open ports, the entry."""

from __future__ import annotations

import math

import numpy as np

from ..job import Job
from ..parts import Catalogue
from ..quantities import Gauge, Phrase, Problem, Quantity, State, gauge
from .edits import free_outputs
from .levels import Solved
from .names import part_name
from .plant import part_type
from .powering import Feed, Supply

AMPLIFIER_ORIGIN = "data sheet rating less 7.5 log(n - 1), EN 60728 practice (from memory)"
DATA_SHEET = "the part's data sheet, typical of its class"


def check_devices(
    job: Job,
    catalogue: Catalogue,
    solved: Solved,
    powering: tuple[list[Feed], list[Supply]],
) -> list[Problem]:
    """All problems of the devices in the run."""
    return [
        *_amplifiers(job, catalogue, solved),
        *_inputs(job, catalogue, solved),
        *_powering(job, catalogue, *powering),
        *_open_ports(job, catalogue, solved),
        *_entry(job, catalogue, solved),
    ]


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
