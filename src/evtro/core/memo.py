"""What was worked out once is used again while all that it was read from is the same.

Nobody says what an answer depends on: which fields of the job it reads is noted while it is worked
out. It holds for another job in which these fields are the same objects, as they are after a change
that did not touch them.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, NoReturn, TypeVar, cast

from .job.base import Row

AnyJob = TypeVar("AnyJob", bound=Row)
Found = TypeVar("Found")

KEPT = 4  # answers of one kind: a large plant solved is some megabytes
_READS = "_reads"


class Reads:
    """The fields that were read of a job, until it is done with."""

    def __init__(self) -> None:
        self.names: set[str] = set()
        self.done = False

    def note(self, name: str) -> None:
        """Note a field. Raises TypeError once the answer is kept: what is read later would not be
        known when it is asked whether the answer still holds."""
        if self.done and name not in self.names:
            raise TypeError(f"{name} of a job is read after its answer was kept")
        self.names.add(name)

    def close(self) -> frozenset[str]:
        """Let nothing more be read; what was."""
        self.done = True
        return frozenset(self.names)


def watched(job: AnyJob) -> tuple[AnyJob, Reads]:
    """The job as one that notes which of its fields are read, and where it notes them; its copies
    note theirs there too."""
    made = object.__new__(_watching(type(job)))
    reads = Reads()
    for name in ("__pydantic_fields_set__", "__pydantic_extra__", "__pydantic_private__"):
        object.__setattr__(made, name, getattr(job, name))
    object.__setattr__(made, "__dict__", {**job.__dict__, _READS: reads})
    return cast(AnyJob, made), reads


@lru_cache(maxsize=8)
def _watching(model: type[Row]) -> type[Row]:
    fields = frozenset(model.model_fields)

    def look(self: Any, name: str) -> Any:
        if name in fields:
            object.__getattribute__(self, "__dict__")[_READS].note(name)
        return model.__getattribute__(self, name)

    def refuse(self: Any, *_: object, **__: object) -> NoReturn:
        raise TypeError("a job is worked out from its fields, not from the whole of it")

    # What reads all fields at once would go unnoticed.
    whole = dict.fromkeys(
        ("__hash__", "__eq__", "__iter__", "model_dump", "model_dump_json"), refuse
    )
    return type(
        model.__name__, (model,), {"__module__": __name__, "__getattribute__": look, **whole}
    )


@dataclass(frozen=True)
class _Kept:
    job: Row
    reads: frozenset[str]
    beside: tuple[object, ...]
    found: Any


class Memo:
    """Answers by their names; of each name the last few."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._kept: dict[str, list[_Kept]] = {}

    def of(
        self,
        name: str,
        job: AnyJob,
        work: Callable[[AnyJob], Found],
        beside: tuple[object, ...] = (),
    ) -> Found:
        """What `work` makes of a job and of what stands beside it, compared by identity. It must
        have read all it will ever read when it comes back: nothing in it may look at the job later."""
        with self._lock:
            rows = list(self._kept.get(name, ()))
        for row in rows:
            if _holds(row, job, beside):
                return cast(Found, row.found)
        seen, reads = watched(job)
        found = work(seen)
        with self._lock:
            kept = _Kept(job, reads.close(), beside, found)
            self._kept[name] = [kept, *self._kept.get(name, ())][:KEPT]
        return found

    def forget(self) -> None:
        """Let everything go."""
        with self._lock:
            self._kept.clear()


def _holds(row: _Kept, job: Row, beside: tuple[object, ...]) -> bool:
    return (
        type(row.job) is type(job)
        and len(row.beside) == len(beside)
        and all(a is b for a, b in zip(row.beside, beside, strict=True))
        and all(getattr(row.job, f) is getattr(job, f) for f in row.reads)
    )
