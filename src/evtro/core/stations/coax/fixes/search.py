"""Fixes of a problem of the network: what the engine found, with its effect on every outlet."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....fixes.engine import Cure, find
from ....job import Job
from ....job.changes import Change
from ....job.diff import as_change
from ....job.problems import Problem
from ....units.quantities import InputError, Phrase
from ....units.severity import RANK, State
from ..context import NetworkContext
from ..verdict import Verdict, judged
from .judge import NetworkJudge

MOST = 5
# However large the network is; edges times columns that are solved at most.
LEAST_TRIED, WORK = 24, 6_000_000


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
    most = max(LEAST_TRIED, WORK // max(base.solved.run.circuit.gain_db.size, 1))
    tried = find(NetworkJudge(ctx, base), ctx.job, base, problem, enough=MOST, most=most)
    found = [
        (c.change.group or c.change.key, _fix_of(ctx.job, problem, base, c)) for c in tried.cures
    ]
    found.sort(key=lambda at: (RANK[at[1].state], at[1].cost, -at[1].inside))
    return Fixes(_unlike(found)[:MOST], tried.count, base.wanted)


def _fix_of(job: Job, problem: Problem, base: Verdict, cure: Cure[Verdict]) -> Fix:
    after = cure.after
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
        do=cure.change.do,
        change=as_change(job, cure.change.job, "cure what is wrong"),
        cost=cure.change.cost,
        state=cure.left,
        inside=after.inside,
        least_db=min(rooms, default=None),
        crowd=crowd,
    )


def _room(verdict: Verdict, row: int) -> float | None:
    """The least room of an outlet's levels to their limits [dB]."""
    of = verdict.outlets[row].judged
    level = of.level_dbuv[row]
    room = np.minimum(level - of.least_dbuv, of.most_dbuv - level)
    wanted = of.wants[row]
    if not wanted.any() or bool(np.isnan(room[wanted]).any()):
        return None
    return round(float(room[wanted].min()), 2)


def _unlike(found: list[tuple[str, Fix]]) -> list[Fix]:
    """Of those that do the same at the same place the first."""
    kept: dict[str, Fix] = {}
    for group, one in found:
        kept.setdefault(group, one)
    return list(kept.values())
