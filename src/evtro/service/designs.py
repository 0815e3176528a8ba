"""Designs off the request path: each is searched in a thread of its own, can be looked at while it works,
and stopped."""

from __future__ import annotations

import logging
import secrets
import threading
import time
from collections import OrderedDict
from dataclasses import dataclass, field

from evtro.core.job.changes import Change
from evtro.core.network.optimise import SearchProgress
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.design.compare import Design, compared
from evtro.core.stations.coax.design.wish import Wish
from evtro.core.units.quantities import InputError

KEPT = 6
AT_ONCE = 2
_log = logging.getLogger("evtro")


@dataclass
class Running:
    """One design: what is known so far, and what came of it."""

    job_id: str
    begun: float = field(default_factory=time.monotonic)
    progress: SearchProgress | None = None
    design: Design | None = None
    changes: list[Change] = field(default_factory=list)
    error: InputError | None = None
    over: threading.Event = field(default_factory=threading.Event)
    stop: threading.Event = field(default_factory=threading.Event)


class Designs:
    """The designs that are searched now, and the last ones that were."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._known: OrderedDict[str, Running] = OrderedDict()

    def start(self, job_id: str, ctx: NetworkContext, wish: Wish) -> str:
        """Begin a design; another one of the same job is stopped. Raises InputError when too many are
        searched at once."""
        with self._lock:
            for other in self._known.values():
                if other.job_id == job_id:
                    other.stop.set()
            busy = sum(not r.over.is_set() and not r.stop.is_set() for r in self._known.values())
            if busy >= AT_ONCE:
                raise InputError(
                    "Design",
                    "two others are being searched.",
                    "Wait for them, or stop one.",
                    "design-busy",
                )
            key = secrets.token_hex(5)
            running = self._known[key] = Running(job_id)
            while len(self._known) > KEPT:
                _, old = self._known.popitem(last=False)
                old.stop.set()
        threading.Thread(target=_search, args=(running, ctx, wish), daemon=True).start()
        return key

    def look(self, job_id: str, key: str) -> Running:
        """A design of a job. Raises InputError for one that is gone."""
        with self._lock:
            found = self._known.get(key)
        if found is None or found.job_id != job_id:
            raise self.gone()
        return found

    @staticmethod
    def gone() -> InputError:
        """What is told of a design or plan that is not there."""
        return InputError("Design", "it is not there any more.", "Design again.", "design-gone")


def _search(running: Running, ctx: NetworkContext, wish: Wish) -> None:
    def tell(progress: SearchProgress) -> None:
        running.progress = progress

    try:
        running.design, running.changes = compared(ctx, wish, stop=running.stop.is_set, tell=tell)
    except InputError as error:
        running.error = error
    except Exception:
        _log.exception("a design failed")
        running.error = InputError(
            "Design",
            "it cannot be worked out with these figures.",
            "Change the wish, or undo the last change of the run.",
            "unworkable",
        )
    running.over.set()
