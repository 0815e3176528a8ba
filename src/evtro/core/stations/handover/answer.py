"""Station Handover: what was built, proven and left with the customer."""

from __future__ import annotations

from dataclasses import dataclass

from ...job import Job
from ...job.problems import Problem
from ...units.severity import State, worst


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
    found = []
    if job.handover.handed_over and not ready:
        found.append(
            Problem(
                code="handed-over-open",
                station="handover",
                state="fail",
                place="handover",
                title=("Handed over with something out or unread",),
                gauge=None,
                limit=("every station in or near",),
                origin="order of the work",
                remedy=("Mend what is out, take the readings, then hand over again.",),
            )
        )
    state: State = "unknown"
    if job.handover.handed_over:
        state = "fail" if found else "ok"
    figure = "handed over" if job.handover.handed_over else "ready" if ready else "draft"
    return HandoverAnswer(open_points=left, ready=ready, problems=found, state=state, figure=figure)
