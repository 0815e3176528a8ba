"""Fixes shown beside a problem: the smallest change of a cable, an attenuator, a way to power a part."""

from __future__ import annotations

from dataclasses import replace

from ....checks.composer import Composed
from ....fixes.engine import harmless
from ....job.diff import as_change
from ....job.problems import Problem
from ..checks.causes import OutletFinding
from ..checks.return_path import filters_for
from ..context import NetworkContext
from ..feeding import ways_to_feed
from ..verdict import Verdict, judged
from .judge import NetworkJudge
from .trials import InlineFix, Tried, attenuate, better_cable


def advised(ctx: NetworkContext, verdict: Verdict | None = None) -> Verdict:
    """A network judged, each problem with a change that cures it for all whom it concerns, where one is
    found that harms nothing."""
    found = judged(ctx) if verdict is None else verdict
    tried: dict[str, Tried] = {}
    problems = [
        replace(
            _powered(ctx, found, _levelled(ctx.wanted, told, tried)),
            fixable=NetworkJudge.fixable(told.problem),
        )
        for told in found.told
    ]
    return replace(found, problems=problems)


def _levelled(ctx: NetworkContext, told: Composed, tried: dict[str, Tried]) -> Problem:
    problem, findings = told.problem, [f for f in told.findings if isinstance(f, OutletFinding)]
    rows = [f.row for f in findings]
    fix: InlineFix | None = None
    if problem.code == "level-low":
        fix = better_cable(ctx, rows=rows, carrier=findings[0].carrier, tried=tried)
    elif problem.code == "level-high":
        first = findings[0]
        fix = attenuate(ctx, rows=rows, excess_db=first.by, carrier=first.carrier)
    return problem if fix is None else problem.with_remedy(fix.do, fix.change, fix.effect)


def _powered(ctx: NetworkContext, found: Verdict, problem: Problem) -> Problem:
    """A way to power a part that lacks its voltage, or to stop the return band: the least that harms
    nothing, or in words the least of all."""
    if problem.ref is None or problem.code not in ("dc-none", "no-return-filter"):
        return problem
    feed = problem.code == "dc-none"
    ways = ways_to_feed(ctx, problem.ref) if feed else filters_for(ctx)
    judge = NetworkJudge(ctx, found)
    before = judge.figures(found)
    for do, tried, gives in ways:
        if harmless(judge, before, tried) is not None:
            words = "bring the voltage up" if feed else "stop the return band"
            return problem.with_remedy(do, as_change(ctx.job, tried, words), gives)
    if not ways:
        return problem
    return problem.with_remedy(
        (*ways[0][0], "; it harms something else then: see what cures that"), None, ()
    )
