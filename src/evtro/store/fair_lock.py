"""One after the other, in the order in which they came."""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Iterator
from contextlib import contextmanager


class FairLock:
    """Lets one thread at a time in for each name; the longest waiting is next."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._lines: dict[str, deque[threading.Event]] = {}

    @contextmanager
    def of(self, name: str) -> Iterator[None]:
        """Wait for the turn at a name, and hold it."""
        mine = threading.Event()
        with self._lock:
            line = self._lines.setdefault(name, deque())
            line.append(mine)
            if len(line) == 1:
                mine.set()
        mine.wait()
        try:
            yield
        finally:
            with self._lock:
                line.popleft()
                if line:
                    line[0].set()
                else:
                    del self._lines[name]
