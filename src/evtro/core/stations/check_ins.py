"""Working alone: by when a word is due, and what whoever hears none is told to do. Common practice, no source."""

from __future__ import annotations

from ..units.severity import State

EVERY_MIN = 30  # at height; the crew's own rule may be shorter
NEAR_S = 300.0  # so long before it is due it is asked for
HIGH = "Call at once; no answer: send help to the place."


def word_state(due_s: float, now_s: float) -> State:
    """Whether a word is due: out once its time is past, near in the last five minutes."""
    left = due_s - now_s
    return "fail" if left < 0 else "marginal" if left < NEAR_S else "ok"
