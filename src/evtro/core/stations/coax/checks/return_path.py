"""The way back on a company's line: from an outlet to the drop, in the return band."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ....checks.registry import check
from ....job import Job
from ....job.parts import Catalogue
from ....job.problems import Problem
from ....network import edits
from ....network.solution import Solution
from ....physics.geodesy import Floats
from ....units.quantities import Gauge, Phrase, Quantity, gauge
from ..context import NetworkContext

BOTTOM_MHZ = 10.0  # under it hardly any modem sends (common practice, no source)
STOPS_DB = 12.0  # more than this no part loses that is meant to pass the return band
FILTER = "filter-return-stop"
STOPPED_DB = 30.0  # a branch that noise comes back from no more; common practice, no source
ORIGIN = "the company's own limit, as typed; the strictest usual one to begin with (common practice, no source)"


@dataclass(frozen=True)
class ReturnWay:
    """An outlet's way back to the drop: its worst loss over the return band, where that is [MHz], and the
    part that lets nothing back."""

    outlet: str
    part: str
    name: str
    modem: bool
    loss: Gauge
    at_mhz: float
    blocked_at: str | None


def ways_back(ctx: NetworkContext) -> list[ReturnWay]:
    """Every outlet on the company's line, modem or television."""
    run, company = ctx.solved.run, ctx.job.company
    mhz = np.linspace(BOTTOM_MHZ, max(company.return_high_mhz, BOTTOM_MHZ + 1), 12)
    lines = {p for p in run.wiring.order if run.wiring.kinds[p].draws_as == "line"}
    found = []
    for outlet in ctx.job.outlets:
        plate = run.wiring.plates.get(outlet.id)
        if outlet.company == "none" or plate is None or not lines:
            continue
        loss, blocked = _loss_back_db(run, ctx.catalogue, plate, lines=lines, mhz=mhz)
        if loss is None:
            continue
        worst = int(loss.argmax())
        modem = outlet.company == "modem"
        judged = gauge(round(float(loss[worst]), 3), "db", high=company.return_most_db, reserve=2.0)
        if not modem:
            judged = gauge(round(float(loss.min()), 3), "db", low=STOPPED_DB)
            judged = replace(judged, state="marginal" if judged.state == "fail" else judged.state)
            worst = int(loss.argmin())
        found.append(
            ReturnWay(
                outlet.id,
                plate,
                outlet.name,
                modem,
                loss=judged,
                at_mhz=float(mhz[worst]),
                blocked_at=blocked,
            )
        )
    return found


def _loss_back_db(
    run: Solution, catalogue: Catalogue, plate: str, *, lines: set[str], mhz: Floats
) -> tuple[Floats | None, str | None]:
    """Loss from a plate's receiver back to the line [dB], and the part that loses most of what is lost
    for good. What is passive loses the same both ways."""
    wiring = run.wiring
    pending: list[tuple[str, int, Floats, str | None, float]] = [
        (plate, port, np.zeros(len(mhz)), None, 0.0) for port in wiring.kinds[plate].receivers
    ]
    best: Floats | None = None
    stop: str | None = None
    while pending:
        part, out, loss, worst, most = pending.pop()
        if part in lines:
            if best is None or loss.max() < best.max():
                best, stop = loss, worst
            continue
        kind = wiring.kinds[part]
        for i, o, path in kind.ways:
            link = wiring.before[part].get(i)
            if o != out or link is None:
                continue
            own = -path.back_at(mhz)
            if kind.setting and path.noise_figure_db is None:
                own = own + (wiring.parts[part].setting_db or 0.0)
            lost = float(own.max())
            cable = catalogue.cables[link.cable]
            onward = loss + own + cable.loss_db(link.length_m, mhz, link.celsius)
            worse = lost > max(most, STOPS_DB)
            pending.append(
                (
                    link.from_part,
                    link.from_port,
                    onward,
                    part if worse else worst,
                    lost if worse else most,
                )
            )
    return best, stop


def filters_for(ctx: NetworkContext) -> list[tuple[Phrase, Job, Phrase]]:
    """A high pass at the head of each branch of the company's line that carries television only: what to
    do, the job with it, what it gives."""
    wiring = ctx.solved.run.wiring
    ways = {w.part: w for w in ways_back(ctx)}
    modems = {p for p, w in ways.items() if w.modem}
    heads: dict[str, str] = {}
    for plate, way in ways.items():
        if way.modem or way.loss.state == "ok":
            continue
        link = next(iter(wiring.before[plate].values()), None)
        while link is not None:
            above = link.from_part
            if wiring.kinds[above].draws_as == "line" or modems & set(wiring.down(above)):
                break
            link = next(iter(wiring.before[above].values()), None)
        if link is not None:
            heads[link.id] = ctx.solved.names[link.from_part]
    if not heads:
        return []
    after = ctx.job
    for link_id in heads:
        after, _ = edits.insert(ctx.with_job(after), link_id, FILTER)
    where = ", ".join(dict.fromkeys(heads.values()))
    count = "a high pass" if len(heads) == 1 else f"{len(heads)} high passes"
    return [((f"Fit {count} behind {where}",), after, ("stops what comes back from there",))]


@check(
    "coax",
    codes=(
        "return-loss",
        "no-return-filter",
    ),
    needs=(
        "job",
        "catalogue",
        "solved",
    ),
)
def return_losses(ctx: NetworkContext) -> list[Problem]:
    """Modems that do not reach the drop, and branches from which a house's noise does."""
    job = ctx.job
    if job.company.plan == "leave":
        return []
    found: list[Problem] = []
    ways = ways_back(ctx)
    for way in ways:
        if not way.modem or way.loss.state == "ok":
            continue
        part = ctx.solved.names.get(way.blocked_at or "", "")
        stopped = bool(part) and (way.loss.value or 0.0) > job.company.return_most_db
        found.append(
            Problem(
                code="return-loss",
                station="coax",
                state=way.loss.state,
                place=way.name,
                ref=way.blocked_at or way.part,
                title=(f"{part} lets the modem at {way.name} send nothing back",)
                if stopped
                else (f"What the modem at {way.name} sends loses much on its way back",),
                gauge=way.loss,
                limit=("at most ", Quantity(job.company.return_most_db, "db", 0)),
                origin=ORIGIN,
                remedy=(f"Lead the modem past {part}, or take one that passes the return band.",)
                if stopped
                else (
                    "Give the modem the first splitter's output of its own; take splitters out of its way.",
                ),
                outlets=(way.outlet,),
            )
        )
    open_ways = [w for w in ways if not w.modem and w.loss.state != "ok"]
    if open_ways:
        names = [w.name for w in open_ways]
        told = ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")
        worst = min(open_ways, key=lambda w: w.loss.value or 0.0)
        found.append(
            Problem(
                code="no-return-filter",
                station="coax",
                state="marginal",
                place=told,
                ref=worst.part,
                gauge=worst.loss,
                title=(f"Noise of {told} goes back into the company's line",),
                limit=(
                    "at least ",
                    Quantity(STOPPED_DB, "db", 0),
                    " back from where no modem hangs",
                ),
                origin="common practice, no source",
                remedy=(
                    "Fit the high pass that stops the return band on every branch that carries television only.",
                ),
                outlets=tuple(w.outlet for w in open_ways),
            )
        )
    return found
