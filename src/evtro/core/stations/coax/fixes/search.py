"""What would cure a problem: single changes and pairs of them, each tried on the whole plant. Offered
is only what cures it and leaves every figure, at every outlet and device, as good as it was."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ....job.changes import Change
from ....job.diff import as_change
from ....job.problems import Problem
from ....units.quantities import InputError, Phrase
from ....units.severity import FAIL, RANK, STATES, State, worst
from ..context import NetworkContext
from ..levels.outlets import ranks
from ..verdict import Verdict, judged
from .candidate_changes import CandidateChange, candidate_changes
from .quick_estimate import cannot_help
from .regressions import OUTLETS_OWN, has_regressions

MOST = 5
FIRSTS, PER_GROUP = 8, 2  # changes that others are added to, and how many of a kind are added
LEAST_TRIED, WORK = (
    24,
    6_000_000,
)  # however large the run is; edges times columns that are solved at most
MENDED = 2  # problems that a change made, of which the cures are tried


@dataclass(frozen=True)
class OutletEffect:
    """An outlet before and after a cure: its state, and the room that its level has to the nearer limit
    [dB], negative outside; None where nothing arrives."""

    outlet: str
    name: str
    before: State
    after: State
    before_db: float | None
    after_db: float | None


@dataclass(frozen=True)
class Fix:
    """A change that cures a problem: what to do, what it costs beside others (small is little), how many
    outlets are in then, and every outlet before and after."""

    do: Phrase
    change: Change
    cost: float
    state: State
    inside: int
    least_db: float | None
    crowd: list[OutletEffect]


@dataclass(frozen=True)
class Fixes:
    """All that was found, the best first, and how many changes were tried."""

    fixes: list[Fix]
    tried: int
    wanted: int


def find_fixes(ctx: NetworkContext, *, code: str, ref: str) -> Fixes:
    """What cures a problem of the network, by its code and the part or outlet that it is told of."""
    base = judged(ctx)
    problem = next((p for p in base.problems if p.code == code and p.ref == ref), None)
    if problem is None:
        raise InputError(
            "Problem", "it is not there any more.", "Look at the list again.", "problem-gone"
        )
    singles = sorted(candidate_changes(ctx, problem), key=lambda one: one.cost)
    found, harmful, count = _all(ctx, base=base, problem=problem, tried=singles)
    if not found:
        pairs = list(_set_right(ctx, base=base, firsts=harmful[:FIRSTS]))
        if not pairs:
            pairs = list(_pairs(ctx, problem, firsts=singles[:FIRSTS]))
        pairs.sort(key=lambda one: one.cost)
        found, _, more = _all(ctx, base=base, problem=problem, tried=pairs)
        count += more
    found.sort(key=lambda at: (RANK[at[1].state], at[1].cost, -at[1].inside))
    return Fixes(_unlike(found)[:MOST], count, base.wanted)


def _all(
    ctx: NetworkContext,
    *,
    base: Verdict,
    problem: Problem,
    tried: list[CandidateChange],
) -> tuple[list[tuple[str, Fix]], list[CandidateChange], int]:
    """The cures among some changes, the cheapest first, until there are as many as are offered; those
    that cure and harm; how many were tried."""
    found: list[tuple[str, Fix]] = []
    harmful: list[CandidateChange] = []
    whole: set[str] = set()
    tried = tried[: max(LEAST_TRIED, WORK // max(base.solved.run.circuit.gain_db.size, 1))]
    for count, one in enumerate(tried):
        if len(whole) >= MOST:
            return found, harmful, count
        if one.group in whole:
            continue
        if cannot_help(ctx, base, problem, tried=one.job):
            continue
        fix, fixed = _fix_of(ctx, base=base, problem=problem, did=one)
        if fix is not None:
            found.append((one.group or one.key, fix))
            if fix.state == "ok":
                whole.add(one.group or one.key)
        elif fixed:
            harmful.append(one)
    return found, harmful, len(tried)


def _set_right(
    ctx: NetworkContext, *, base: Verdict, firsts: list[CandidateChange]
) -> Iterator[CandidateChange]:
    """What cures and harms, with a second change that mends what it broke."""
    was = {(p.code, p.ref): p.state for p in base.problems}
    for one in firsts:
        there = ctx.with_job(one.job)
        broken = [
            p
            for p in judged(there).problems
            if p.fixable and was.get((p.code, p.ref)) not in ("fail", p.state)
        ]
        for problem in broken[:MENDED]:
            for other in candidate_changes(there, problem):
                yield _both(one, other)


def _both(one: CandidateChange, other: CandidateChange) -> CandidateChange:
    return CandidateChange(
        key=f"{one.key}, {other.key}",
        group=f"{one.group}, {other.group}",
        job=other.job,
        cost=one.cost + other.cost + 0.5,
        do=(*one.do, "; and ", *_lower(other.do)),
    )


def _pairs(
    ctx: NetworkContext, problem: Problem, *, firsts: list[CandidateChange]
) -> Iterator[CandidateChange]:
    """Two changes together: the second as it can be made in a run that has the first."""
    seen: set[frozenset[str]] = set()
    for one in firsts:
        seconds: dict[str, int] = {}
        # As the network is solved now: what is told of it still holds.
        for other in candidate_changes(ctx.with_job(one.job).with_solved(ctx.solved), problem):
            both = frozenset((one.key, other.key))
            seconds[other.group] = seconds.get(other.group, 0) + 1
            if both in seen or other.group == one.group or seconds[other.group] > PER_GROUP:
                continue
            seen.add(both)
            yield _both(one, other)


def _lower(do: Phrase) -> Phrase:
    first = do[0]
    return (first[0].lower() + first[1:], *do[1:]) if isinstance(first, str) and first else do


def _fix_of(
    ctx: NetworkContext, *, base: Verdict, problem: Problem, did: CandidateChange
) -> tuple[Fix | None, bool]:
    """A change as a cure, None where it is none; and whether it cures what is asked for."""
    try:
        after = judged(ctx.with_job(did.job), outlets=False)
    except InputError:
        return None, False
    if not _is_fixed(problem, after):
        return None, False
    if has_regressions(base, after):
        return None, True
    crowd = [
        OutletEffect(
            outlet=a.outlet,
            name=a.name,
            before=a.state,
            after=b.state,
            before_db=_room(base, a.index),
            after_db=_room(after, b.index),
        )
        for a, b in zip(base.outlets, after.outlets, strict=True)
        if len(a.columns)
    ]
    concerned = [m for m in crowd if m.outlet in problem.outlets] or crowd
    rooms = [m.after_db for m in concerned if m.after_db is not None]
    return Fix(
        do=did.do,
        change=as_change(ctx.job, did.job, "cure what is wrong"),
        cost=did.cost,
        state=_left(problem, after),
        inside=after.inside,
        least_db=min(rooms, default=None),
        crowd=crowd,
    ), True


def _room(verdict: Verdict, row: int) -> float | None:
    """The least room of an outlet's levels to their limits [dB]."""
    of = verdict.outlets[row].judged
    level = of.level_dbuv[row]
    room = np.minimum(level - of.least_dbuv, of.most_dbuv - level)
    wanted = of.wants[row]
    if not wanted.any() or bool(np.isnan(room[wanted]).any()):
        return None
    return round(float(room[wanted].min()), 2)


def _is_fixed(problem: Problem, after: Verdict) -> bool:
    """Whether it is out no more, and better than near where it was near."""
    left = _left(problem, after)
    return left == "ok" if problem.state == "marginal" else left != "fail"


def _left(problem: Problem, after: Verdict) -> State:
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


def _unlike(found: list[tuple[str, Fix]]) -> list[Fix]:
    """Of those that do the same at the same place the first."""
    kept: dict[str, Fix] = {}
    for group, one in found:
        kept.setdefault(group, one)
    return list(kept.values())
