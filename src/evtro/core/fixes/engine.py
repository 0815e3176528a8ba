"""Fixes: changes that are tried on the whole job and offered only where they cure and harm nothing."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import Generic, Protocol, TypeVar

from ..job import Job
from ..job.problems import Problem
from ..units.quantities import InputError, Phrase
from ..units.severity import State
from .comparison import Judgement, regressions

FIRSTS, PER_GROUP = 8, 2  # changes that others are added to, and how many of a kind are added
MENDED = 2  # problems that a change made, of which the fixes are tried


@dataclass(frozen=True)
class CandidateChange:
    """A change: what it is, the kind of thing it does, the job with it, its cost beside others (a turn
    of a knob 0, a part 2, a cable by its length, an amplifier 6)."""

    key: str
    group: str
    do: Phrase
    job: Job
    cost: float


class HasProblems(Protocol):
    """What a station says of a job."""

    @property
    def problems(self) -> list[Problem]: ...


Verdict = TypeVar("Verdict", bound=HasProblems)


class Judge(Protocol[Verdict]):
    """How a station judges a job, and what it would try."""

    def judged(self, job: Job, *, whole: bool) -> Verdict:
        """The verdict on a job; not `whole`, the problems may be left out that its figures tell.
        Raises InputError."""

    def figures(self, verdict: Verdict) -> Judgement:
        """The figures of a verdict."""

    def fixable(self, problem: Problem) -> bool:
        """Whether there are changes to try for a problem."""

    def left(self, problem: Problem, verdict: Verdict) -> State:
        """What is left of a problem."""

    def candidates(self, job: Job, problem: Problem, told_of: Job) -> Iterable[CandidateChange]:
        """Single changes of a job that may cure a problem; it is told of that job, or of one that
        lacks a first change."""

    def cannot_help(self, problem: Problem, job: Job) -> bool:
        """Whether a changed job surely leaves the problem."""


@dataclass(frozen=True)
class Cure(Generic[Verdict]):
    """A change that cures a problem and harms nothing: what is left of the problem, and the verdict."""

    change: CandidateChange
    left: State
    after: Verdict


@dataclass
class TriedChanges(Generic[Verdict]):
    """What came of some changes: cures, changes that cure and harm, and how many were tried."""

    cures: list[Cure[Verdict]] = field(default_factory=list)
    harmful: list[CandidateChange] = field(default_factory=list)
    count: int = 0


def harmless(judge: Judge[Verdict], before: Judgement, job: Job) -> Verdict | None:
    """The verdict on a changed job; None where the change is refused or makes a figure worse."""
    try:
        after = judge.judged(job, whole=False)
    except InputError:
        return None
    return None if any(True for _ in regressions(before, judge.figures(after))) else after


def find(
    judge: Judge[Verdict], job: Job, base: Verdict, problem: Problem, *, enough: int, most: int
) -> TriedChanges[Verdict]:
    """Single changes that cure a problem, the cheapest first, until `enough` kinds of them cure it whole;
    where there are none, pairs of changes. At most `most` are solved each time."""
    singles = sorted(judge.candidates(job, problem, job), key=lambda one: one.cost)
    before = judge.figures(base)
    found = _tried(judge, before, problem, singles[:most], enough=enough)
    if found.cures:
        return found
    pairs = list(_mended(judge, base, found.harmful[:FIRSTS]))
    pairs = pairs or list(_pairs(judge, job, problem, singles[:FIRSTS]))
    pairs.sort(key=lambda one: one.cost)
    second = _tried(judge, before, problem, pairs[:most], enough=enough)
    second.count += found.count
    return second


def _tried(
    judge: Judge[Verdict],
    before: Judgement,
    problem: Problem,
    changes: list[CandidateChange],
    enough: int,
) -> TriedChanges[Verdict]:
    found: TriedChanges[Verdict] = TriedChanges()
    whole: set[str] = set()
    for one in changes:
        if len(whole) >= enough:
            return found
        found.count += 1
        if one.group in whole or judge.cannot_help(problem, one.job):
            continue
        try:
            after = judge.judged(one.job, whole=False)
        except InputError:
            continue
        left = judge.left(problem, after)
        if not is_cured(problem, left):
            continue
        if any(True for _ in regressions(before, judge.figures(after))):
            found.harmful.append(one)
            continue
        found.cures.append(Cure(one, left, after))
        if left == "ok":
            whole.add(one.group or one.key)
    return found


def is_cured(problem: Problem, left: State) -> bool:
    """Whether a problem fails no more, and is better than marginal where it was marginal."""
    return left == "ok" if problem.state == "marginal" else left != "fail"


def _mended(
    judge: Judge[Verdict], base: Verdict, firsts: list[CandidateChange]
) -> Iterator[CandidateChange]:
    """What cures and harms, with a second change that mends what it broke."""
    was = {(p.code, p.ref): p.state for p in base.problems}
    for one in firsts:
        broken = [
            p
            for p in judge.judged(one.job, whole=True).problems
            if judge.fixable(p) and was.get((p.code, p.ref)) not in ("fail", p.state)
        ]
        for problem in broken[:MENDED]:
            for other in judge.candidates(one.job, problem, one.job):
                yield _both(one, other)


def _pairs(
    judge: Judge[Verdict], job: Job, problem: Problem, firsts: list[CandidateChange]
) -> Iterator[CandidateChange]:
    """Two changes together: the second as it can be made in a job that has the first."""
    seen: set[frozenset[str]] = set()
    for one in firsts:
        seconds: dict[str, int] = {}
        for other in judge.candidates(one.job, problem, job):
            both = frozenset((one.key, other.key))
            seconds[other.group] = seconds.get(other.group, 0) + 1
            if both in seen or other.group == one.group or seconds[other.group] > PER_GROUP:
                continue
            seen.add(both)
            yield _both(one, other)


def _both(one: CandidateChange, other: CandidateChange) -> CandidateChange:
    return CandidateChange(
        key=f"{one.key}, {other.key}",
        group=f"{one.group}, {other.group}",
        job=other.job,
        cost=one.cost + other.cost + 0.5,
        do=(*one.do, "; and ", *_lower(other.do)),
    )


def _lower(do: Phrase) -> Phrase:
    first = do[0]
    return (first[0].lower() + first[1:], *do[1:]) if isinstance(first, str) and first else do
