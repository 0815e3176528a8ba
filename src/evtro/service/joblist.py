"""The list of all jobs: the spine of each as it is kept with it, found and filtered, a part at a time."""

from __future__ import annotations

import logging
import sqlite3
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass

from pydantic import BaseModel

from evtro.core.answers import Answers
from evtro.core.job import Job
from evtro.core.stations.handover.answer import StationLine
from evtro.core.units.quantities import InputError, Phrase
from evtro.core.units.severity import RANK, worst
from evtro.store.jobs import Head, JobMissing, Jobs

from .schemas import JobList, JobSummary

AT_ONCE = 40  # spines that a request works out itself; the rest follow beside it
_log = logging.getLogger("evtro")


class _Line(BaseModel):
    stations: list[StationLine] = []
    next: Phrase = ()
    broken: str | None = None


@dataclass(frozen=True)
class ListFilter:
    """What is looked for in the list: words of name and place, the worst state, days from and to."""

    words: str = ""
    state: str = ""
    since: str = ""
    until: str = ""


def job_summary(answers: Answers) -> str:
    """The spine of a job as it is kept: stations, and what is open next."""
    problems = sorted(answers.problems, key=lambda p: -RANK[p.state])
    following = problems[0].title if problems else ()
    return _Line(stations=answers.stations, next=following).model_dump_json()


class JobLines:
    """The lines of the list; what has no spine yet is worked out and kept."""

    def __init__(self, jobs: Jobs, worked: Callable[[Job], Answers]) -> None:
        self._jobs, self._worked = jobs, worked
        self._read: dict[str, tuple[str, _Line]] = {}
        self._lock = threading.Lock()
        self._busy = False

    def part(self, asked: ListFilter, first: int, most: int) -> JobList:
        """The jobs that are looked for, from the `first` on, the newest change first."""
        heads = [h for h in self._jobs.heads() if _wanted(h, asked)]
        budget = AT_ONCE
        # With a state asked for every job has to be known, without one only those that are shown.
        shown = heads if asked.state else heads[first : first + most]
        fresh: list[tuple[str, str, str]] = []
        for head in shown:
            if self._known(head) is None and budget:
                budget -= 1
                fresh.append((head.id, head.state, self._work(head)))
        self._keep(fresh)
        if asked.state:
            heads = [h for h in heads if self._state(h) in (asked.state, "")]
        waiting = sum(self._known(h) is None for h in heads)
        if waiting:
            self._follow(heads)
        part = [self._summary(h) for h in heads[first : first + most]]
        return JobList(jobs=part, total=len(heads), waiting=waiting)

    def _known(self, head: Head) -> _Line | None:
        with self._lock:
            read = self._read.get(head.id)
            if read is not None and read[0] == head.state:
                return read[1]
            if head.line is None:
                return None
            line = _Line.model_validate_json(head.line)
            self._read[head.id] = head.state, line
            return line

    def _state(self, head: Head) -> str:
        line = self._known(head)
        if line is None:
            return ""
        return "broken" if line.broken else worst([s.state for s in line.stations])

    def _work(self, head: Head) -> str:
        """The spine of a job, worked out now; the words why it cannot be, if so."""
        try:
            kept = self._jobs.get(head.id)
            text = job_summary(self._worked(kept.job))
        except InputError as error:
            text = _Line(broken=f"{error.field}: {error.reason}").model_dump_json()
        except JobMissing:
            text = _Line().model_dump_json()
        with self._lock:
            self._read[head.id] = head.state, _Line.model_validate_json(text)
        return text

    def _keep(self, fresh: list[tuple[str, str, str]]) -> None:
        if not fresh:
            return
        try:
            self._jobs.keep_lines(fresh)
        except sqlite3.Error:  # a list can be read where nothing can be written
            _log.warning("spines were worked out and could not be kept")

    def _follow(self, heads: list[Head]) -> None:
        with self._lock:
            if self._busy:
                return
            self._busy = True
        threading.Thread(target=self._work_rest, args=(heads,), daemon=True).start()

    def _work_rest(self, heads: list[Head]) -> None:
        try:
            fresh: list[tuple[str, str, str]] = []
            for head in heads:
                if self._known(head) is None:
                    fresh.append((head.id, head.state, self._work(head)))
                    time.sleep(0.002)  # who is at work goes first
                if len(fresh) >= AT_ONCE:
                    self._keep(fresh)
                    fresh = []
            self._keep(fresh)
        except sqlite3.ProgrammingError:
            pass  # the program closes meanwhile
        finally:
            with self._lock:
                self._busy = False

    def _summary(self, head: Head) -> JobSummary:
        line = self._known(head) or _Line()
        return JobSummary(
            id=head.id,
            revision=head.revision,
            kept_at=head.kept_at,
            name=head.name,
            place=head.place,
            date=head.date,
            stations=line.stations,
            next=line.next,
            broken=line.broken,
        )


def _wanted(head: Head, asked: ListFilter) -> bool:
    text = f"{head.name} {head.place}".casefold()
    if not all(word in text for word in asked.words.casefold().split()):
        return False
    return (not asked.since or head.date >= asked.since) and (
        not asked.until or head.date <= asked.until
    )
