"""Every fix that is offered does what it says, on the demo's jobs and on spoiled copies of them."""

from __future__ import annotations

import random

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.job import Job
from evtro.core.job.changes import Add, Change, Insert, Remove, Replace, Set, Several
from evtro.core.job.consistency import check_job
from evtro.core.job.context import JobParts
from evtro.core.job.problems import Problem
from evtro.core.units.quantities import (
    InputError,
    Quantity,
    text_of,
)
from evtro.demo.world import demo_jobs
from tests.changes import taken

JOBS = demo_jobs()
CATALOGUE = catalogue.load()
SPOILED = [(name, seed) for name in JOBS for seed in range(5)]


def _answers(job: Job) -> Answers:
    return work_out(job, CATALOGUE, profiles.load(job.profile))


def _spoiled(name: str, seed: int) -> Job:
    """The job with longer cables, weaker arrays, thinner or forgotten bonds, a mast held short."""
    job = JOBS[name]
    if not seed:
        return job
    draw = random.Random(seed)
    longer = [
        link.model_copy(update={"length_m": round(link.length_m * draw.choice([1, 1, 3, 6]), 1)})
        for link in job.links
    ]
    weaker = [
        a.model_copy(update={"gain_dbi": a.gain_dbi - draw.choice([0, 0, 8])}) for a in job.arrays
    ]
    thinner = [
        c.model_copy(update={"size_mm2": draw.choice([c.size_mm2, 1.5])})
        for c in job.conductors
        if draw.random() > 0.3
    ]
    held = 0.2 if draw.random() < 0.5 else job.mast.held_m
    return job.model_copy(
        update={
            "links": tuple(longer),
            "arrays": tuple(weaker),
            "conductors": tuple(thinner),
            "mast": job.mast.model_copy(update={"held_m": held}),
        }
    )


def _same(problem: Problem, answers: Answers) -> Problem | None:
    """The problem as it stands after the change, at the same place."""
    return next(
        (
            p
            for p in answers.problems
            if (p.code, p.place.split(",")[0]) == (problem.code, problem.place.split(",")[0])
        ),
        None,
    )


def _outside(problem: Problem) -> float:
    """How far a figure stands outside its limits, in the figure's own unit."""
    gauge = problem.gauge
    if gauge is None or gauge.value is None:
        return 0.0
    low = gauge.low - gauge.value if gauge.low is not None else 0.0
    high = gauge.value - gauge.high if gauge.high is not None else 0.0
    return max(low, high, 0.0)


@pytest.mark.long
@pytest.mark.parametrize(("name", "seed"), SPOILED)
def test_a_fix_takes_its_problem_away_or_out_of_the_red(name: str, seed: int) -> None:
    job = _spoiled(name, seed)
    for problem in _answers(job).problems:
        if problem.change is None:
            continue
        fixed = taken(job, problem.change)
        check_job(JobParts(fixed, CATALOGUE))
        left = _same(problem, _answers(fixed))
        if left is None:
            continue
        assert _outside(left) == 0, (problem.place, problem.change)
        assert left.state == "marginal", problem.place
        assert "marginal" in text_of(problem.effect), problem.place


@pytest.mark.parametrize(("name", "seed"), SPOILED)
def test_the_figure_that_a_fix_promises_comes_true(name: str, seed: int) -> None:
    job = _spoiled(name, seed)
    for problem in _answers(job).problems:
        promised = next((p for p in problem.effect if isinstance(p, Quantity)), None)
        if problem.change is None or promised is None or problem.gauge is None:
            continue
        if promised.unit != problem.gauge.unit or problem.code.startswith("bond"):
            continue
        left = _same(problem, _answers(taken(job, problem.change)))
        if left is not None and left.gauge is not None and left.gauge.value is not None:
            assert left.gauge.value == pytest.approx(promised.value, abs=0.51)


@pytest.mark.parametrize("name", JOBS)
def test_taking_every_fix_in_turn_comes_to_an_end(name: str) -> None:
    """Fixes do not undo each other: after a few rounds nothing is left that offers one."""
    job = _spoiled(name, 3)
    for _ in range(40):
        offered = [p for p in _answers(job).problems if p.change and p.state == "fail"]
        if not offered:
            break
        job = taken(job, offered[0].change)
    else:
        pytest.fail(f"still offered: {[p.change for p in offered]}")
    check_job(JobParts(job, CATALOGUE))


@pytest.mark.parametrize(
    "change",
    [
        Set(rows="links", id="l999", values={"cable": "rg6"}),
        Set(rows="links", id="l1", values={"cable": "rope"}),
        Add(rows="conductors", values={"role": "moon"}),
        Set(rows="parts", id="p999", values={"setting_db": 3.0}),
        Insert(type="amplifier-20", into="l999"),
        Remove(rows="outlets", id="o999"),
        Replace(part="p1", type="none"),
        Several(words="", changes=(Set(rows="outlets", id="$x", values={"name": "x"}),)),
    ],
)
def test_what_cannot_be_done_is_refused(change: Change) -> None:
    with pytest.raises(InputError):
        taken(demo_jobs()["skerry-house"], change)
