"""How every part that needs it is powered, and what hangs on every supply."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ...job import Cable, Job
from ...job.context import JobParts
from ...job.parts import Catalogue
from ...job.paths import HIGH_V, LOW_V, Load
from ...network import edits
from ...network.graph import Wiring, wire
from ...network.powering import RECEIVER_MA, Fed, Lines, lines
from ...network.solution import Solution
from ...network.tracing import downstream
from ...units.quantities import Gauge, gauge
from .sources.source_levels import receivers_of


@dataclass(frozen=True)
class DcLoad:
    """How one consumer is powered: supply part, voltage at the load and lost on the way [V], current
    [mA]; the part and cable that let nothing through, and the supply that failed under it."""

    consumer: str
    supply: str | None
    supply_v: float
    lost_v: float
    voltage: Gauge
    current_ma: float
    blocked_at: str | None
    blocked_link: str | None
    supplies: tuple[str, ...]
    failed: str | None


@dataclass(frozen=True)
class SupplyLoad:
    """What hangs on one supply [mA]."""

    part: str
    load: Gauge


@dataclass(frozen=True)
class Standby:
    """A receiver that supplies others: its plate, and the plates that go dark when it is off."""

    plate: str
    dark: tuple[str, ...]


def feeds(run: Solution) -> tuple[list[DcLoad], list[SupplyLoad]]:
    """Every consumer and every supply that is asked for something. Both voltages of the receivers
    are looked at; told is the one at which the consumer stands nearer to its limit."""
    found = []
    for part in run.power[LOW_V].loads:
        load = run.wiring.kinds[part].load
        if load is not None:
            found.append(_feed(run, part, load))
    supplies = []
    for part in run.power[LOW_V].supply_v:
        own = run.wiring.kinds[part].supply
        asked = max(at.given_ma.get(part, 0.0) for at in run.power.values())
        most = own.most_ma if own is not None else RECEIVER_MA
        if asked > 1e-3:
            supplies.append(
                SupplyLoad(part, gauge(round(asked, 3), "ma", high=most, reserve=0.1 * most))
            )
    return found, sorted(supplies, key=lambda s: s.part)


def _feed(run: Solution, part: str, load: Load) -> DcLoad:
    at = {v: one.loads[part] for v, one in run.power.items()}
    low, high = at[LOW_V], at[HIGH_V]
    volts = HIGH_V if low.on and high.volts - load.high_v > load.low_v - low.volts else LOW_V
    if low.on and not high.on:
        volts = HIGH_V
    told: Fed = at[volts]
    judged = gauge(told.volts, "v", low=load.low_v, high=load.high_v, reserve=0.5)
    fed = told.supplies
    reaches = told.volts > 0
    stop = None if reaches or told.failed else _stop(run, part)
    sources = fed or ((told.failed,) if told.failed else ())
    supply = max(sources, key=lambda s: run.power[volts].supply_v[s], default=None)
    supply_v = run.power[volts].supply_v[supply] if supply is not None else 0.0
    return DcLoad(
        consumer=part,
        supply=supply,
        supply_v=supply_v,
        lost_v=supply_v - told.volts if supply is not None and reaches else 0.0,
        voltage=judged,
        current_ma=load.ma,
        blocked_at=stop[0] if stop else None,
        blocked_link=stop[1] if stop else None,
        supplies=fed,
        failed=told.failed,
    )


def _stop(run: Solution, part: str) -> tuple[str, str] | None:
    """The first part below a consumer that lets no current through, and the cable that comes to it."""
    for there, link in _ends(run.wiring, part):
        if not run.wiring.kinds[there].receivers:
            return there, link
    return None


def feeding_place(wiring: Wiring, part: str) -> str | None:
    """The cable below a consumer in which a supply reaches it: that to the first part which lets no
    current through, or to the outlet at the end; None where the line ends before."""
    return next((link for _, link in metal_below(wiring, part)), None)


def passing_twin(
    catalogue: Catalogue, run: Solution, part: str, port: int | None = None
) -> str | None:
    """The same part with power on an output (on any that is joined, where none is named), where the
    catalogue has one."""
    old, joined = run.wiring.kinds[part], run.wiring.after[part]
    for key, kind in catalogue.parts.items():
        same = (kind.draws_as, kind.inputs, kind.outputs) == (old.draws_as, old.inputs, old.outputs)
        passes = {o for _, o in kind.dc} & (set(joined) if port is None else {port})
        if passes and same and key != old.key and kind.paths == old.paths:
            return key
    return None


def metal_below(wiring: Wiring, part: str) -> list[tuple[str, str]]:
    """Where the metal below a part ends, and the cable that comes there. Where all of it ends at closed
    ports, what feeds it goes below the parts that its line only runs through."""
    if ends := list(_ends(wiring, part)):
        return ends
    link = next(iter(wiring.after[part].values()), None)
    while link is not None and not _supplied(wiring, link):
        there = wiring.kinds[link.to_part]
        on = wiring.after[link.to_part].get(link.to_port)
        if on is None or there.inputs != there.outputs:
            return [(link.to_part, link.id)]
        link = on
    return []


def _ends(wiring: Wiring, part: str) -> Iterator[tuple[str, str]]:
    """Parts below that let no current through, and outlets; a closed port is none of them."""
    pending = list(wiring.after[part].values())
    while pending:
        link = pending.pop(0)
        there = wiring.kinds[link.to_part]
        onward = [o for i, o in there.dc if i == link.to_port]
        passive = there.outputs and not onward and not _supplied(wiring, link)
        if there.receivers or passive:
            yield link.to_part, link.id
        pending += [
            wiring.after[link.to_part][o] for o in onward if o in wiring.after[link.to_part]
        ]


def _supplied(wiring: Wiring, link: Cable) -> bool:
    supply = wiring.kinds[link.to_part].supply
    return supply is not None and link.to_port in supply.inputs


def _lines_of(ctx: JobParts) -> tuple[Wiring, Lines]:
    """A job's lines with its receivers at their lower voltage."""
    job = ctx.job
    wiring = wire(job.parts, job.links, ctx.catalogue)
    asking = receivers_of(job)
    plates = tuple(p for o, p in wiring.plates.items() if o in asking)
    return wiring, lines(wiring, ctx.catalogue, plates, LOW_V)


def supplies_in_use(ctx: JobParts) -> set[str]:
    """The parts that supply something."""
    return {p for p, ma in _lines_of(ctx)[1].given_ma.items() if ma > 1e-3}


def with_power(ctx: JobParts, part: str, inserter: str) -> Job:
    """The job with a power inserter below a part, where nothing feeds it yet and the line goes on."""
    wiring, lit = _lines_of(ctx)
    fed = lit.loads.get(part)
    place = feeding_place(wiring, part) if part in wiring.before else None
    if fed is None or fed.on or place is None:
        return ctx.job
    return edits.insert(ctx, place, inserter)[0]


def standbys(run: Solution, catalogue: Catalogue) -> list[Standby]:
    """Receivers whose voltage others live on: each of those that supply something is turned off in
    turn, and what then lacks its voltage is followed to the outlets."""
    receivers = tuple(run.choice.reach)
    plates = set(run.wiring.plates.values())
    behind = {part: _outlets_behind(run, part) & plates for part in run.power[LOW_V].loads}
    found = []
    for plate in receivers:
        others = [p for p, reached in behind.items() if reached - {plate}]
        if not others or all(run.power[v].given_ma.get(plate, 0.0) <= 1e-3 for v in run.power):
            continue
        dark: set[str] = set()
        for volts, lit in run.power.items():
            without = lines(run.wiring, catalogue, receivers, volts, off=(plate,))
            dark |= {p for p in others if lit.loads[p].on and not without.loads[p].on}
        lost = {o for p in dark for o in behind[p]} - {plate}
        if lost:
            found.append(Standby(plate, tuple(sorted(lost))))
    return found


def _outlets_behind(run: Solution, part: str) -> set[str]:
    nodes = [n for (p, _, _), n in run.circuit.nodes.items() if p == part]
    reached = set(np.flatnonzero(downstream(run.circuit, nodes)).tolist())
    return {
        p
        for (p, side, port), n in run.circuit.nodes.items()
        if n in reached and side == "out" and port in run.wiring.kinds[p].receivers
    }
