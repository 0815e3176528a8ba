"""Designs side by side: the run as it is, the plan that was wished for, and what more reserve costs."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ....job import Cable, Job
from ....job.changes import Change
from ....network.optimise import SearchProgress
from ....units.quantities import Phrase
from ..context import NetworkContext
from ..levels.outlets import GroupGauge
from ..verdict import Verdict
from ..views.layout import Layout, lay_out
from .designer import POINTS, Designer, Plan, Told, reserve_of
from .prices import price_of, price_per_m
from .wish import Wish

NEAR_DB = 0.05  # reserves that are one


@dataclass(frozen=True)
class Bought:
    """A line of what to buy: how many, or how many metres, of what, and its price."""

    count: int
    length_m: float
    name: str
    price: float


@dataclass(frozen=True)
class OutletLine:
    """An outlet of a plan with its gauges."""

    part: str | None
    name: str
    groups: list[GroupGauge]


@dataclass(frozen=True)
class PlanView:
    """A plan as it is shown: what it costs beside what is there, its figures, its picture with what is new
    in it. Reserve, tilt and margin [dB], the least voltage at a load [V], cable to pull [m]."""

    words: str
    cost: float
    parts: int
    reserve_db: float | None
    inside: int
    wanted: int
    tilt_db: float | None
    margin_db: float | None
    voltage_v: float | None
    cable_m: float
    proven: bool
    bound: float | None
    buy: list[Bought]
    outlets: list[OutletLine]
    layout: Layout
    kinds: dict[str, str]
    links: list[Cable]
    fresh: list[str]


@dataclass(frozen=True)
class Design:
    """What a design found: the wish with every route, the run as it is, plans by rising reserve, which of
    them was wished for, what else was tried and what stands in the way. `priced` says whether all prices
    are the workshop's own, `already` whether the run as it is keeps the wish."""

    wish: Wish
    as_it_is: PlanView
    plans: list[PlanView]
    chosen: int | None
    tried: list[Told]
    nearest: Phrase | None
    ahead: list[Phrase]
    binaries: int
    cuts: int
    seconds: float
    priced: bool
    already: bool


def compared(
    ctx: NetworkContext,
    wish: Wish,
    *,
    stop: Callable[[], bool] | None = None,
    tell: Callable[[SearchProgress], None] | None = None,
    seconds: float = 30.0,
) -> tuple[Design, list[Change]]:
    """Design a job: the plan wished for first, then the curve of cost against reserve; and the change that
    takes each plan. Raises InputError."""
    at = Designer(ctx, wish, stop=stop, tell=tell, seconds=seconds)
    first = at.search(at.wish.aim, at.wish.reserve_db)
    found: list[Plan] = [first.plan] if first.plan is not None else []
    if first.plan is not None and not first.stopped:
        found += _curve(at, first.plan)
    found.sort(key=lambda p: (p.reserve_db, p.cost))
    views = [_view(at, p.job, p.verdict, plan=p) for p in found]
    nearest = at.nearest() if not found and not first.stopped else None
    design = Design(
        wish=at.wish,
        as_it_is=_view(at, at.job, at.before, plan=None),
        plans=views,
        chosen=found.index(first.plan) if first.plan is not None else None,
        tried=first.tried,
        nearest=nearest,
        ahead=[p.title for p in at.ahead],
        binaries=first.binaries,
        cuts=first.cuts,
        seconds=first.seconds,
        priced=_priced(at, found),
        already=_already(at),
    )
    return design, [at.change(p) for p in found]


def _curve(at: Designer, wanted: Plan) -> list[Plan]:
    """The cheapest plans for some reserves, from none to the most that can be had."""
    most = wanted if at.wish.aim == "margin" else at.search("margin", 0.0).plan
    top = most.reserve_db if most is not None else wanted.reserve_db
    found: list[Plan] = []
    known = [wanted]
    for reserve in np.linspace(0.0, max(top - 0.01, 0.0), POINTS - 1).tolist():
        if any(
            p.reserve_db >= reserve - NEAR_DB and _cheapest(p, found, reserve) for p in known[1:]
        ):
            continue
        one = at.search("cost", round(reserve, 3)).plan
        if one is None:
            continue
        known.append(one)
        if all(
            abs(one.reserve_db - p.reserve_db) > NEAR_DB or one.cost < p.cost - 1e-6
            for p in (wanted, *found)
        ):
            found.append(one)
    return found


def _cheapest(plan: Plan, found: list[Plan], reserve_db: float) -> bool:
    """Whether a plan that was cheapest for less reserve has this much, too."""
    return plan in found and plan.reserve_db >= reserve_db


def _view(at: Designer, job: Job, verdict: Verdict, plan: Plan | None) -> PlanView:
    old_parts = {p.id: p.type for p in at.job.parts}
    old_links = {k.id: (k.from_part, k.cable, k.length_m) for k in at.job.links}
    fresh = [p.id for p in job.parts if old_parts.get(p.id) != p.type]
    pulled = [k for k in job.links if old_links.get(k.id) != (k.from_part, k.cable, k.length_m)]
    wanted = plan.job if plan is not None else at.job
    j = verdict.outlets[0].judged if verdict.outlets else None
    margins = j.margin_db[j.wants & np.isfinite(j.margin_db)] if j is not None else np.zeros(0)
    tilts = [g.slope.value for r in verdict.outlets for g in r.groups if g.slope.value is not None]
    volts = [f.voltage.value for f in verdict.feeds if f.voltage.value is not None]
    reserve = reserve_of(verdict)
    return PlanView(
        words=plan.words if plan else "as it is",
        cost=round(plan.cost, 2) if plan else 0.0,
        parts=plan.parts if plan else 0,
        reserve_db=reserve if np.isfinite(reserve) else None,
        inside=verdict.inside,
        wanted=verdict.wanted,
        tilt_db=max(tilts, default=None),
        margin_db=float(margins.min()) if len(margins) else None,
        voltage_v=min(volts, default=None),
        cable_m=sum(k.length_m for k in pulled) if plan else 0.0,
        proven=plan.proven if plan else True,
        bound=plan.bound if plan else None,
        buy=_buy(at, job, fresh, pulled) if plan else [],
        outlets=[OutletLine(r.part, r.name, r.groups) for r in verdict.outlets],
        layout=lay_out(wanted, verdict.solved.run.wiring),
        kinds={p.id: at.catalogue.parts[p.type].draws_as for p in wanted.parts},
        links=list(wanted.links),
        fresh=[*fresh, *(k.id for k in pulled)] if plan else [],
    )


def _buy(at: Designer, job: Job, fresh: list[str], pulled: list[Cable]) -> list[Bought]:
    rows: dict[str, Bought] = {}
    types = {p.id: p.type for p in job.parts}
    for part in fresh:
        kind = at.catalogue.parts[types[part]]
        was = rows.get(kind.name) or Bought(0, 0.0, kind.name, 0.0)
        rows[kind.name] = replace(was, count=was.count + 1, price=was.price + price_of(kind))
    for link in pulled:
        if link.length_m > 0:
            cable = at.catalogue.cables[link.cable]
            was = rows.get(cable.name) or Bought(0, 0.0, cable.name, 0.0)
            rows[cable.name] = replace(
                was,
                length_m=was.length_m + link.length_m,
                price=was.price + price_per_m(cable) * link.length_m,
            )
    return sorted(rows.values(), key=lambda b: -b.price)


def _already(at: Designer) -> bool:
    """Whether the run as it is keeps the wish."""
    told = at.before
    fine = told.inside == told.wanted and not any(p.state == "fail" for p in told.problems)
    return fine and reserve_of(told) >= at.wish.reserve_db


def _priced(at: Designer, found: list[Plan]) -> bool:
    types = {
        p.type for plan in found for p in plan.job.parts if p.id not in {q.id for q in at.job.parts}
    }
    cables = {k.cable for plan in found for k in plan.job.links}
    return all(at.catalogue.parts[t].price is not None for t in types) and all(
        at.catalogue.cables[c].price_m is not None for c in cables
    )
