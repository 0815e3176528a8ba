"""What a station finds wrong, and the change that a remedy offers."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..units.quantities import Gauge, Phrase
from ..units.severity import State
from .changes import Change


@dataclass(frozen=True)
class Problem:
    """What and where, the figure, the limit and whose it is, and what to do about it: in words, and
    as a change that can be taken. `outlets` are those that it concerns;
    of one that is `curable` changes can be tried on the whole plant."""

    code: str
    station: str
    state: State
    place: str
    title: Phrase
    gauge: Gauge | None
    limit: Phrase
    origin: str
    remedy: Phrase
    change: Change | None = None
    effect: Phrase = ()
    ref: str | None = None
    fields: tuple[str, ...] = ()
    outlets: tuple[str, ...] = ()
    fixable: bool = False

    def with_remedy(self, remedy: Phrase, change: Change | None, effect: Phrase) -> Problem:
        """The same problem with what to do about it."""
        return replace(self, remedy=remedy, change=change, effect=effect)
