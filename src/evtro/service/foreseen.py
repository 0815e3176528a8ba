"""The result of a change, computed while the change is still being typed.

Nothing is stored. When the same change is then requested for the same state of the job, the result is reused; any
other change is computed as usual.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import NamedTuple

from evtro.core.answers import Answers
from evtro.core.changes import Applied
from evtro.core.job import Job
from evtro.core.job.parts import Catalogue

MOST_JOBS = 4


class Basis(NamedTuple):
    """All that a change's outcome comes from: the state of the job, the parts of the workshop, the change as it
    is sent, and the minute, which goes into what was read then."""

    job: Job
    shop: Catalogue
    change: str
    now: str

    def holds(self, other: Basis) -> bool:
        """Whether another basis gives the same outcome; a job is compared by identity."""
        return self.job is other.job and self.shop is other.shop and self[2:] == other[2:]


class Outcome(NamedTuple):
    """The change carried out, the job as it would be kept, and its answers."""

    carried: Applied
    job: Job
    answers: Answers


@dataclass
class _Row:
    basis: Basis
    done: threading.Event = field(default_factory=threading.Event)
    outcome: Outcome | None = None


class Foreseen:
    """The newest computed-ahead change of each of the last few jobs. Only one is computed at a time and none are
    queued, so that real changes never wait behind these."""

    def __init__(self) -> None:
        self._rows: OrderedDict[str, _Row] = OrderedDict()
        self._lock = threading.Lock()
        self._busy = threading.Lock()

    def work(self, job_id: str, basis: Basis, outcome: Callable[[], Outcome]) -> bool:
        """Work out what a change would make of a job, unless it is known or another one is being worked out;
        whether it was done. Raises what `outcome` raises."""
        if not self._busy.acquire(blocking=False):
            return False
        row = _Row(basis)
        try:
            with self._lock:
                known = self._rows.get(job_id)
                if known is not None and known.basis.holds(basis):
                    return False
                self._rows[job_id] = row
                self._rows.move_to_end(job_id)
                while len(self._rows) > MOST_JOBS:
                    self._rows.popitem(last=False)
            row.outcome = outcome()
            return True
        finally:
            row.done.set()
            self._busy.release()

    def take(self, job_id: str, basis: Basis) -> Outcome | None:
        """The outcome of a change where it was foreseen, waiting for it where it is being worked out. It is given
        once."""
        with self._lock:
            row = self._rows.get(job_id)
            if row is None or not row.basis.holds(basis):
                return None
            del self._rows[job_id]
        row.done.wait()
        return row.outcome

    def forget(self) -> None:
        """Let everything go."""
        with self._lock:
            self._rows.clear()
