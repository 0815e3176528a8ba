"""The network of a job, solved and judged: states of outlets and problems."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...checks.composer import Composed, compose
from ...checks.registry import checks_of
from ...job.problems import Problem
from ...units.severity import State, worst
from . import checks
from .checks.causes import by_cause
from .checks.return_path import ways_back
from .context import NetworkContext
from .levels.outlets import OutletRow, Solved
from .powering import DcLoad, SupplyLoad


@dataclass(frozen=True, eq=False)
class Verdict:
    """The network solved and judged."""

    solved: Solved
    outlets: list[OutletRow]
    feeds: list[DcLoad]
    supplies: list[SupplyLoad]
    inside: int
    wanted: int
    problems: list[Problem]
    told: list[Composed]
    state: State
    figure: str


CHECKS = checks_of(checks)


def judged(ctx: NetworkContext, *, outlets: bool = True) -> Verdict:
    """Judge a network; without `outlets` their figures are judged and not told."""
    seen = ctx.wanted
    job, solved = seen.job, seen.solved
    rows = _heard(seen)
    told = compose(CHECKS, seen, group=by_cause, figures=outlets)
    problems = [t.problem for t in told]
    wanted = [r for r in rows if r.judged.wants[r.index].any()]
    inside = sum(r.state in ("ok", "marginal") for r in wanted)
    begun = bool(job.parts and job.carriers)
    state = worst([r.state for r in wanted] + [p.state for p in problems]) if begun else "unknown"
    return Verdict(
        solved=solved,
        outlets=rows,
        feeds=seen.feeds,
        supplies=seen.supplies,
        inside=inside,
        wanted=len(wanted),
        problems=problems if begun else [],
        told=told if begun else [],
        state=state,
        figure=f"{inside}/{len(wanted)} in" if begun else "no run yet",
    )


def _heard(ctx: NetworkContext) -> list[OutletRow]:
    """The outlets, those of modems no better than their way back: one that nobody hears is not in."""
    job, rows = ctx.job, ctx.rows
    if job.company.plan == "leave" or all(o.company != "modem" for o in job.outlets):
        return rows
    back = {w.part: w.loss.state for w in ways_back(ctx) if w.modem}
    return [replace(r, state=worst([r.state, back[r.part]])) if r.part in back else r for r in rows]
