"""What passes between the devices at one job and is kept by none: the reading that one calls out to whoever turns
the dish, and that somebody is alone or something waits."""

from __future__ import annotations

import asyncio
import threading
from collections import OrderedDict
from dataclasses import dataclass, field

from pydantic import TypeAdapter
from pydantic.dataclasses import dataclass as checked

MOST_JOBS = 64


@checked(frozen=True)
class Called:
    """A reading as it was called out: at which antenna, on which scale, by whom and from which device; the highest
    since it was reset."""

    antenna: str
    scale: str
    value: float
    highest: float
    by: str
    device: str


CALLED = TypeAdapter(Called)


@dataclass
class Listeners:
    """One job's: how often each kind of thing was said, the last reading, who listens."""

    turns: dict[str, int] = field(default_factory=lambda: {"watch": 0, "reading": 0})
    called: Called | None = None
    ears: set[tuple[asyncio.AbstractEventLoop, asyncio.Event]] = field(default_factory=set)


class Live:
    """The rooms of the jobs that somebody looks at. Safe to use from several threads."""

    def __init__(self) -> None:
        self._rooms: OrderedDict[str, Listeners] = OrderedDict()
        self._lock = threading.Lock()

    def room(self, job: str) -> Listeners:
        """A job's room; those that nobody listens in any more make way."""
        with self._lock:
            found = self._rooms.setdefault(job, Listeners())
            self._rooms.move_to_end(job)
            for key in [k for k, r in self._rooms.items() if not r.ears][:-MOST_JOBS]:
                del self._rooms[key]
            return found

    def call(self, job: str, said: Called, *, again: bool) -> None:
        """A reading is called out; `again` begins a new search for the highest."""
        room = self.room(job)
        old = room.called
        same = (
            old is not None and not again and (old.antenna, old.scale) == (said.antenna, said.scale)
        )
        highest = max(old.highest, said.value) if same and old is not None else said.value
        room.called = Called(
            antenna=said.antenna,
            scale=said.scale,
            value=said.value,
            highest=highest,
            by=said.by,
            device=said.device,
        )
        self._told(room, "reading")

    def changed(self, job: str) -> None:
        """Who is alone, or what waits, is another."""
        self._told(self.room(job), "watch")

    def woken(self, job: str) -> None:
        """The job is at another revision: whoever listens looks at once."""
        self._wake(self.room(job))

    def _told(self, room: Listeners, what: str) -> None:
        room.turns[what] += 1
        self._wake(room)

    def _wake(self, room: Listeners) -> None:
        for loop, ear in list(room.ears):
            if not loop.is_closed():
                loop.call_soon_threadsafe(ear.set)
