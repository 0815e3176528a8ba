"""The form of a problem of the mast."""

from __future__ import annotations

from ....job.changes import Set
from ....job.problems import Problem
from ....units.quantities import Gauge, Phrase
from ....units.severity import State


def problem(
    code: str,
    state: State,
    place: str,
    title: str,
    *,
    one: Gauge | None,
    limit: Phrase,
    origin: str,
    remedy: Phrase,
    change: Set | None = None,
    effect: Phrase = (),
    ref: str | None = None,
) -> Problem:
    """A problem of the mast, told at a place, with one figure against its limit."""
    return Problem(
        code=code,
        station="mast",
        state=state,
        place=place,
        title=(title,),
        gauge=one,
        limit=limit,
        origin=origin,
        remedy=remedy,
        change=change,
        effect=effect,
        ref=ref,
    )
