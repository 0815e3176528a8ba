"""Station Handover: what was built, proven and left with the customer."""

from __future__ import annotations

from dataclasses import dataclass

from ...checks.composer import compose
from ...checks.registry import checks_of
from ...job import Job
from ...job.problems import Problem
from ...units.severity import State, worst
from . import checks
from .figures import HandoverFigures

CHECKS = checks_of(checks)


@dataclass(frozen=True)
class StationLine:
    """The state of a station as the sheet and the spine show it."""

    number: int
    key: str
    name: str
    figure: str
    figure_compass: str | None
    state: State


@dataclass(frozen=True)
class HandoverAnswer:
    """The answer of the station."""

    open_points: int
    ready: bool
    problems: list[Problem]
    state: State
    figure: str


def work_out(job: Job, before: list[StationLine], problems: list[Problem]) -> HandoverAnswer:
    """Whether the job can be handed over, from the seven stations before."""
    left = sum(p.state in ("fail", "marginal", "unknown") for p in problems)
    gravest = worst([s.state for s in before])
    ready = gravest in ("ok", "marginal")
    found = [told.problem for told in compose(CHECKS, HandoverFigures(job, ready))]
    state: State = "unknown"
    if job.handover.handed_over:
        state = "fail" if found else "ok"
    figure = "handed over" if job.handover.handed_over else "ready" if ready else "draft"
    return HandoverAnswer(open_points=left, ready=ready, problems=found, state=state, figure=figure)
