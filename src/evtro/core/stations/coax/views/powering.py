"""What every line carries up the run, what every consumer gets and every supply gives, and what each
receiver can ask for: with all receivers at their lower voltage, and at their higher one."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....job import Cable, Job
from ....job.context import JobParts
from ....job.parts import Catalogue
from ....job.paths import HIGH_V, LOW_V
from ....network.powering import RECEIVER_MA, Lines
from ....network.solution import Solution
from ....units.quantities import Gauge, gauge
from .answer import CoaxAnswer


@dataclass(frozen=True)
class OnLine:
    """A line at one voltage of the receivers: voltage at its upper end and lost over it [V], current [mA]."""

    volts: float
    lost_v: float
    ma: float


@dataclass(frozen=True)
class PoweredLine:
    """A cable that power goes up: its ends, what it carries at the lower and at the higher voltage;
    whether a tone comes up it, and which user bands its receivers share."""

    link: str
    start: str
    end: str
    length_m: float
    low: OnLine
    high: OnLine
    tone: bool
    user_bands: int
    tuners: int


@dataclass(frozen=True)
class Consumer:
    """A part that draws [mA]: its voltage at both voltages of the receivers, and what feeds it."""

    part: str
    name: str
    ma: float
    low: Gauge
    high: Gauge
    by: str


@dataclass(frozen=True)
class Giver:
    """A supply: its voltages [V], and all that it gives at both voltages of the receivers."""

    part: str
    name: str
    low_v: float
    high_v: float
    low: Gauge
    high: Gauge
    failed: bool


@dataclass(frozen=True)
class CanAsk:
    """What a receiver can ask for: how many of the satellite carriers that its outlet wants by itself,
    and how many whatever its neighbours watch; who these are, and what binds them."""

    outlet: str
    part: str
    wanted: int
    alone: int
    beside: int
    neighbours: tuple[str, ...]
    bound_by: str


@dataclass(frozen=True)
class PowerView:
    """Lines, consumers, supplies, receivers."""

    lines: list[PoweredLine]
    consumers: list[Consumer]
    supplies: list[Giver]
    asking: list[CanAsk]


def power_view(ctx: JobParts, answer: CoaxAnswer) -> PowerView:
    """Everything that goes up the run."""
    run, names = answer.solved.run, answer.names
    return PowerView(
        lines=_lines(ctx.catalogue, run, names),
        consumers=_consumers(run, names),
        supplies=_supplies(run, names),
        asking=_asking(ctx.job, answer),
    )


def _lines(catalogue: Catalogue, run: Solution, names: dict[str, str]) -> list[PoweredLine]:
    found = []
    toned = _toned(run)
    for link in run.wiring.links():
        low, high = (_carried(catalogue, run.power[v], link) for v in (LOW_V, HIGH_V))
        if low is None or high is None or max(low.volts, high.volts) < 0.5:
            continue
        slots, tuners = _shared(run, link)
        found.append(
            PoweredLine(
                link=link.id,
                start=names[link.from_part],
                end=names[link.to_part],
                length_m=link.length_m,
                low=low,
                high=high,
                tone=link.id in toned,
                user_bands=slots,
                tuners=tuners,
            )
        )
    return found


def _carried(catalogue: Catalogue, lit: Lines, link: Cable) -> OnLine | None:
    up = lit.port_v(link.from_part, "out", link.from_port)
    down = lit.port_v(link.to_part, "in", link.to_port)
    if up is None or down is None:
        return None
    ohm = catalogue.cables[link.cable].loop_ohm(link.length_m, link.celsius)
    ma = 1000 * (down - up) / ohm if ohm > 1e-6 else 0.0
    return OnLine(volts=round(up, 2), lost_v=round(down - up, 3), ma=round(ma, 1))


def _toned(run: Solution) -> set[str]:
    """Cables up which a receiver's tone comes."""
    found: set[str] = set()
    wiring = run.wiring
    for plate in run.choice.reach:
        pending = [
            (plate, i) for i, o in wiring.kinds[plate].dc if o in wiring.kinds[plate].receivers
        ]
        while pending:
            part, port = pending.pop()
            link = wiring.before[part].get(port)
            if link is None or link.id in found:
                continue
            found.add(link.id)
            kind = wiring.kinds[link.from_part]
            if (
                kind.passes_tone
                and not kind.selects_at(link.from_port)
                and not kind.by_line(link.from_port)
            ):
                supplied = (
                    set(kind.supply.inputs) if kind.supply and not kind.supply.repeats else set()
                )
                pending += [
                    (link.from_part, i)
                    for i, o in kind.dc
                    if o == link.from_port and i not in supplied
                ]
    return found


def _shared(run: Solution, link: Cable) -> tuple[int, int]:
    """User bands of what a cable comes from, and the tuners that share them."""
    kind = run.wiring.kinds[link.from_part]
    bands = len(kind.user_bands)
    if not bands:
        return 0, 0
    behind = {link.to_part, *run.wiring.down(link.to_part)}
    return bands, sum(1 for p in run.tuners if p in behind)


def _consumers(run: Solution, names: dict[str, str]) -> list[Consumer]:
    found = []
    for part in run.power[LOW_V].loads:
        load = run.wiring.kinds[part].load
        if load is None:
            continue
        fed = {v: run.power[v].loads[part] for v in (LOW_V, HIGH_V)}
        low, high = (
            gauge(round(fed[v].volts, 3), "v", low=load.low_v, high=load.high_v, reserve=0.5)
            for v in (LOW_V, HIGH_V)
        )
        by = dict.fromkeys((*fed[LOW_V].supplies, *fed[HIGH_V].supplies))
        found.append(
            Consumer(
                part, names[part], load.ma, low=low, high=high, by=", ".join(names[s] for s in by)
            )
        )
    return found


def _supplies(run: Solution, names: dict[str, str]) -> list[Giver]:
    found = []
    low, high = run.power[LOW_V], run.power[HIGH_V]
    for part in low.supply_v:
        own = run.wiring.kinds[part].supply
        most = own.most_ma if own is not None else RECEIVER_MA
        given = [
            gauge(round(at.given_ma.get(part, 0.0), 3), "ma", high=most, reserve=0.1 * most)
            for at in (low, high)
        ]
        if max(g.value or 0.0 for g in given) < 1e-3:
            continue
        found.append(
            Giver(
                part,
                names[part],
                low_v=low.supply_v[part],
                high_v=high.supply_v[part],
                low=given[0],
                high=given[1],
                failed=part in low.failed or part in high.failed,
            )
        )
    return found


def _asking(job: Job, answer: CoaxAnswer) -> list[CanAsk]:
    run, found = answer.solved.run, []
    satellite = answer.solved.of_group["satellite"]
    count = len(answer.solved.channels)
    by_plate = {p: o for o, p in run.wiring.plates.items()}
    outlets = {o.id: o for o in job.outlets}
    for plate, alone in run.choice.alone.items():
        outlet = outlets.get(by_plate.get(plate, ""))
        if outlet is None or not outlet.satellite:
            continue
        beside = run.choice.beside[plate][:count] & satellite
        mine = alone[:count] & satellite
        arrives = np.isfinite(_level_at(answer, plate)) & satellite
        bound = [b for b in run.choice.bound if plate in b.plates]
        others = dict.fromkeys(answer.names[p] for b in bound for p in b.plates if p != plate)
        found.append(
            CanAsk(
                outlet=outlet.name,
                part=plate,
                wanted=int(satellite.sum()),
                alone=int((mine & arrives).sum()),
                beside=int((beside & arrives).sum()),
                neighbours=tuple(others),
                bound_by=", ".join(dict.fromkeys(answer.names[b.part] for b in bound)),
            )
        )
    return found


def _level_at(answer: CoaxAnswer, plate: str) -> np.ndarray:
    run, count = answer.solved.run, len(answer.solved.channels)
    node = run.outlet_node(plate)
    if node is None:
        return np.full(count, np.nan)
    return np.asarray(run.levels.level_dbuv[node][:count])
