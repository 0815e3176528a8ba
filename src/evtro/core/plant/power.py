"""Powering: the way of direct current from a supply up to LNB and preamplifier."""

from __future__ import annotations

from dataclasses import dataclass

from ..job import Job, Link
from ..units.quantities import Gauge, gauge
from .network import part_type
from .parts import Catalogue

RECEIVER_V = (
    13.0  # the lower of a receiver's two voltages, the harder case (EN 61319-1, from memory)
)
RECEIVER_MA = 350.0  # common practice, no source


@dataclass(frozen=True)
class Feed:
    """How one consumer is powered: supply part, voltage at the load [V], current [mA]."""

    consumer: str
    supply: str | None
    supply_v: float
    loop_ohm: float
    voltage: Gauge
    current_ma: float
    blocked_at: str | None
    blocked_link: str | None
    supplies: tuple[str, ...]


@dataclass(frozen=True)
class Supply:
    """What hangs on one supply [mA]."""

    part: str
    load: Gauge


def feeds(
    job: Job, catalogue: Catalogue, looped: frozenset[str]
) -> tuple[list[Feed], list[Supply]]:
    """Follow the line down from every consumer to what powers it."""
    parts = {p.id: p for p in job.parts if p.id not in looped}
    after: dict[str, list[Link]] = {}
    for link in job.links:
        if link.from_part in parts and link.to_part in parts:
            after.setdefault(link.from_part, []).append(link)
    satellite = {o.id: o.satellite for o in job.outlets}
    found: list[Feed] = []
    loads: dict[str, float] = {}
    for part in parts.values():
        kind = part_type(catalogue, part)
        if kind.needs_ma <= 0:
            continue
        reached: list[tuple[str, float, float]] = []
        stops: list[tuple[str, str]] = []
        pending = [(link, 0.0) for link in after.get(part.id, [])]
        while pending:
            link, ohm = pending.pop(0)
            cable = catalogue.cables.get(link.cable)
            ohm += cable.loop_ohm_km * link.length_m / 1000 if cable else 0.0
            there = parts[link.to_part]
            what = part_type(catalogue, there)
            if what.gives_v > 0:
                reached.append((there.id, what.gives_v, ohm))
                continue
            if what.kind == "plate":
                if kind.kind == "lnb" and satellite.get(there.outlet or "", False):
                    reached.append((there.id, RECEIVER_V, ohm))
                continue
            onward = [
                n for n in after.get(there.id, [])
                if what.port_passes_dc(n.from_port)
                and (not what.parallel or n.from_port == link.to_port)
            ]  # fmt: skip
            if not onward and not any(what.port_passes_dc(o) for o in range(what.outputs)):
                stops.append((there.id, link.id))
            pending += [(n, ohm) for n in onward]
        best = max(reached, key=lambda r: r[1] - r[2] * kind.needs_ma / 1000, default=None)
        volts = best[1] - best[2] * kind.needs_ma / 1000 if best else None
        judged = gauge(volts, "v", low=kind.needs_low_v, high=kind.needs_high_v, reserve=0.5)
        if volts is None:
            judged = Gauge(
                value=0.0,
                unit="v",
                low=kind.needs_low_v,
                high=kind.needs_high_v,
                reserve=0.5,
                state="out",
            )
        distinct = tuple(sorted({r[0] for r in reached}))
        if best:
            loads[best[0]] = loads.get(best[0], 0.0) + kind.needs_ma
        found.append(
            Feed(consumer=part.id, supply=best[0] if best else None, supply_v=best[1] if best else 0.0,
                 loop_ohm=best[2] if best else 0.0, voltage=judged, current_ma=kind.needs_ma,
                 blocked_at=stops[0][0] if stops and not best else None,
                 blocked_link=stops[0][1] if stops and not best else None, supplies=distinct)
        )  # fmt: skip
    rated = {
        p.id: (t.gives_ma if t.gives_v > 0 else RECEIVER_MA)
        for p in parts.values() for t in [part_type(catalogue, p)]
    }  # fmt: skip
    supplies = [
        Supply(part, gauge(ma, "ma", high=rated[part], reserve=0.1 * rated[part]))
        for part, ma in sorted(loads.items())
    ]
    return found, supplies
