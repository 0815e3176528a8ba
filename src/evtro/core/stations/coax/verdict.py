"""The network of a job, solved and judged: states of outlets and problems."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...job import Job
from ...job.diff import as_change
from ...job.parts import Catalogue
from ...job.problems import Problem
from ...job.profile import Profile
from ...job.targets import wanted_job
from ...units.severity import State, worst
from .checks.company_line import company_problems
from .checks.outlets import check
from .checks.return_path import filters_for, ways_back
from .checks.terminal_cables import pair_problems
from .drilling import hole_problems
from .feeding import ways_to_feed
from .levels.outlets import OutletRow, Solved, outlet_rows, solve_job
from .levels.regressions import has_regressions
from .powering import DcLoad, SupplyLoad, feeds


@dataclass(frozen=True, eq=False)
class Verdict:
    """The plant solved and judged."""

    solved: Solved
    outlets: list[OutletRow]
    feeds: list[DcLoad]
    supplies: list[SupplyLoad]
    inside: int
    wanted: int
    problems: list[Problem]
    state: State
    figure: str


def judged(
    job: Job,
    catalogue: Catalogue,
    profile: Profile,
    solved: Solved,
    advise: bool = True,
    outlets: bool = True,
) -> Verdict:
    """Judge a plant that is solved; without advice nothing is tried as a remedy, without `outlets` their
    figures are judged and not told."""
    whole, job = job, wanted_job(job)
    rows = _heard(outlet_rows(job, solved, profile), job, catalogue, solved)
    powering = feeds(solved.run)
    problems = check(
        job,
        catalogue,
        profile=profile,
        solved=solved,
        rows=rows,
        powering=powering,
        advise=advise,
        outlets=outlets,
    )
    problems += company_problems(job, catalogue, profile, solved)
    problems += pair_problems(job, catalogue, solved)
    problems += hole_problems(job, solved.names)
    wanted = [r for r in rows if r.judged.wants[r.index].any()]
    inside = sum(r.state in ("ok", "marginal") for r in wanted)
    begun = bool(job.parts and job.carriers)
    state = worst([r.state for r in wanted] + [p.state for p in problems]) if begun else "unknown"
    found = Verdict(
        solved=solved,
        outlets=rows,
        feeds=powering[0],
        supplies=powering[1],
        inside=inside,
        wanted=len(wanted),
        problems=problems if begun else [],
        state=state,
        figure=f"{inside}/{len(wanted)} in" if begun else "no run yet",
    )
    return _fed(whole, catalogue, profile, found) if advise else found


def _heard(
    rows: list[OutletRow], job: Job, catalogue: Catalogue, solved: Solved
) -> list[OutletRow]:
    """The outlets, those of modems no better than their way back: one that nobody hears is not in."""
    if job.company.plan == "leave" or all(o.company != "modem" for o in job.outlets):
        return rows
    back = {w.part: w.loss.state for w in ways_back(job, catalogue, solved) if w.modem}
    return [replace(r, state=worst([r.state, back[r.part]])) if r.part in back else r for r in rows]


def _fed(job: Job, catalogue: Catalogue, profile: Profile, found: Verdict) -> Verdict:
    """The verdict with a way to power each part that lacks its voltage: the least that harms nothing, or
    in words the least of all."""
    problems = []
    for problem in found.problems:
        feed = problem.code == "dc-none" and problem.ref is not None
        if feed or (problem.code == "no-return-filter" and problem.ref):
            ways = (
                ways_to_feed(job, catalogue, problem.ref or "")
                if feed
                else filters_for(job, catalogue, found.solved)
            )
            for do, tried, gives in ways:
                solved = solve_job(tried, catalogue, profile)
                after = judged(tried, catalogue, profile, solved, advise=False, outlets=False)
                if not has_regressions(found, after):
                    words = "bring the voltage up" if feed else "stop the return band"
                    change = as_change(job, tried, words)
                    problem = problem.with_remedy(do, change, gives)
                    break
            else:
                if ways:
                    problem = problem.with_remedy(
                        (*ways[0][0], "; it harms something else then: see what cures that"),
                        None,
                        (),
                    )
        problems.append(problem)
    return replace(found, problems=problems)
