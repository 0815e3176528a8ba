"""How a network is judged when a change is tried: its figures one by one, and what is left of a problem."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ....fixes.comparison import Figures, Judgement, named_by_problem
from ....fixes.engine import CandidateChange
from ....fixes.registry import generators_of
from ....job import Job
from ....job.problems import Problem
from ....physics.geodesy import Floats
from ....units.severity import FAIL, RANK, STATES, State, worst
from ..context import NetworkContext
from ..levels.outlets import GROUPS, Judged, OutletRow, Ranks, ranks
from ..verdict import Verdict, judged
from . import candidates
from .quick_estimate import cannot_help
from .surroundings import Surroundings

# What the figures of the outlets say already.
OUTLETS_OWN = ("level-low", "level-high", "margin", "distortion", "slope")
# A warning of what may not be there harms nobody.
SUPPOSED = "overload-supposed"

GENERATORS = generators_of(candidates)


class NetworkJudge:
    """Judges changes of one job's network."""

    def __init__(self, ctx: NetworkContext, base: Verdict) -> None:
        self._ctx, self._base = ctx, base
        self._last = ctx

    def judged(self, job: Job, *, whole: bool) -> Verdict:
        """The verdict on a changed job."""
        self._last = self._ctx.with_job(job)
        return judged(self._last, outlets=whole)

    @staticmethod
    def figures(verdict: Verdict) -> Judgement:
        """Every figure of every outlet, and what is told of devices and lines."""
        return judgement_of(verdict)

    @staticmethod
    def fixable(problem: Problem) -> bool:
        """Whether there are changes to try for a problem."""
        return problem.code in GENERATORS and bool(problem.ref)

    @staticmethod
    def left(problem: Problem, verdict: Verdict) -> State:
        """The worst that is of a problem's kind where it was."""
        return left_of(problem, verdict)

    def candidates(self, job: Job, problem: Problem, told_of: Job) -> Iterator[CandidateChange]:
        """Single changes, looked for in the solution of which the problem is told."""
        there = next(
            (c for c in (self._ctx, self._last) if c.job is told_of), self._ctx.with_job(told_of)
        )
        ctx = there if job is told_of else self._ctx.with_job(job).with_solved(there.solved)
        return candidate_changes(ctx, problem)

    def cannot_help(self, problem: Problem, job: Job) -> bool:
        """Whether sums along the way say that a level stays beyond its limit."""
        return cannot_help(self._ctx, self._base, problem, tried=job)


def candidate_changes(ctx: NetworkContext, problem: Problem) -> Iterator[CandidateChange]:
    """Every single change worth a try for a problem of a network, in no order."""
    at = Surroundings(ctx, problem)
    if problem.code != "dc-none" and problem.ref not in at.types and not problem.outlets:
        return  # another change took it away
    for generator in GENERATORS.get(problem.code, ()):
        yield from generator(at)


def judgement_of(verdict: Verdict) -> Judgement:
    """Figures at outlets as arrays, those of devices and lines by their problems."""
    named = named_by_problem(
        p for p in verdict.problems if p.code not in OUTLETS_OWN and p.code != SUPPOSED
    )
    if not verdict.outlets:
        return Judgement(named=named)
    of = verdict.outlets[0].judged
    arrays = carrier_figures(
        of,
        of.wants,
        level_dbuv=of.level_dbuv,
        margin_db=of.margin_db,
        ranks_of=(of.level_rank, of.margin_rank),
    )
    arrays["ripple"] = Figures(of.ripple_rank, of.ripple_db - of.ripple_high_db, of.wants)
    arrays["choice"] = Figures(of.choice, np.zeros(of.choice.shape), of.wants)
    arrays["slope"] = _slopes(verdict.outlets)
    return Judgement(arrays, named)


def carrier_figures(
    of: Judged,
    wants: np.ndarray,
    *,
    level_dbuv: Floats,
    margin_db: Floats,
    ranks_of: tuple[Ranks, Ranks],
) -> dict[str, Figures]:
    """Level [dBµV] and margin [dB] against what they may be, each by itself; arrays (..., outlets,
    carriers). What does not arrive fails both."""
    gone = np.isnan(level_dbuv)
    level, margin = (np.where(gone, np.int8(FAIL), rank) for rank in ranks_of)
    outside = np.maximum(of.least_dbuv - level_dbuv, level_dbuv - of.most_dbuv)
    return {
        "level": Figures(level, np.where(gone, np.inf, outside), wants),
        "margin": Figures(margin, np.where(gone, np.inf, of.margin_low_db - margin_db), wants),
    }


def _slopes(rows: list[OutletRow]) -> Figures:
    rank = np.zeros((len(rows), len(GROUPS)), np.int8)
    outside = np.full(rank.shape, np.nan)
    for r, row in enumerate(rows):
        for one in row.groups:
            at = r, GROUPS.index(one.group)
            rank[at] = RANK[one.slope.state]
            outside[at] = (one.slope.value or 0.0) - (one.slope.high or 0.0)
    return Figures(rank, outside, np.ones(rank.shape, bool))


def left_of(problem: Problem, after: Verdict) -> State:
    """What is left of a problem: the worst that is of its kind where it was."""
    if problem.code not in OUTLETS_OWN:
        same = [
            p.state
            for p in after.problems
            if p.code == problem.code
            and (p.ref == problem.ref or set(p.outlets) & set(problem.outlets))
        ]
        return worst(same, "ok")
    rows = [r for r in after.outlets if r.outlet in problem.outlets]
    if problem.code == "slope":
        return worst([g.slope.state for r in rows for g in r.groups], "ok")
    of, at = after.outlets[0].judged, [r.index for r in rows]
    wants, level = of.wants[at], of.level_dbuv[at]
    if problem.code in ("margin", "distortion"):
        rank = of.margin_rank[at]
    else:
        short = of.least_dbuv - level if problem.code == "level-low" else level - of.most_dbuv
        rank = ranks(-short, 0.0, None, of.level_reserve_db)
        rank = np.where(np.isnan(level), np.int8(FAIL), rank)
    return STATES[int(np.where(wants, rank, 0).max(initial=0))]
