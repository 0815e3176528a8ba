"""The states of a figure and their one order. Whatever sorts by state, takes the worst of several or asks
whether something became worse goes by it; the client receives it as data."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

State = Literal["ok", "marginal", "fail", "unknown"]

BY_SEVERITY: tuple[State, ...] = ("fail", "unknown", "marginal", "ok")
STATES: tuple[State, ...] = BY_SEVERITY[::-1]  # by rank
OK, MARGINAL, UNKNOWN, FAIL = range(4)
WORDS: dict[State, str] = {
    "fail": "fail",
    "unknown": "unknown",
    "marginal": "marginal",
    "ok": "OK",
}
RANK: dict[State, int] = {state: rank for rank, state in enumerate(STATES)}


def worst(states: Sequence[State], empty: State = "unknown") -> State:
    """Return the most severe of some states; `empty` when there are none."""
    return max(states, key=RANK.__getitem__) if states else empty
