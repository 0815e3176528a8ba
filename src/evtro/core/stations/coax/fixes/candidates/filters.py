"""Filters, attenuators and equalisers."""

from __future__ import annotations

import math
from collections.abc import Iterator

from .....fixes.engine import CandidateChange
from .....fixes.registry import may_cure
from .....network import edits
from ..surroundings import Surroundings, inserted, replaced


@may_cure("level-high", "overload", "input-high", "distortion", "overload-supposed", "echo")
def padded(at: Surroundings) -> Iterator[CandidateChange]:
    """An attenuator: where the outlets concerned are fed, or ahead of the device that is overdriven."""
    key = next(
        (k for k, p in at.catalogue.parts.items() if p.draws_as == "attenuator" and p.setting), None
    )
    if key is None:
        return
    size = math.ceil(max(at.excess_db, 1.0))
    for link in (at.shared or at.way)[:3]:
        for more in (0, 2, 5):
            if size + more <= at.catalogue.parts[key].setting_most_db:
                yield from inserted(at, key, link, cost=2.0 + more / 10, setting=float(size + more))


@may_cure("level-high", "overload", "input-high", "distortion", "overload-supposed")
def filtered(at: Surroundings) -> Iterator[CandidateChange]:
    """A filter ahead of what is overdriven, right behind the antenna."""
    if not at.way:
        return
    for key, kind in at.catalogue.parts.items():
        if (
            kind.draws_as == "filter"
            and kind.inputs == kind.outputs == 1
            and at.takes_the_loudest(kind)
        ):
            yield from inserted(at, key, at.way[-1], cost=3.0, setting=None)


@may_cure("level-low", "margin", "input-low")
def refiltered(at: Surroundings) -> Iterator[CandidateChange]:
    """A filter on the way that stops what is wanted: another one in its place, or none."""
    for part in at.parts:
        kind = at.kind(part)
        if kind.draws_as != "filter" or kind.inputs != 1 or kind.outputs != 1:
            continue
        for key, other in at.catalogue.parts.items():
            if other.draws_as == "filter" and key != kind.key and set(other.dc) >= set(kind.dc):
                yield from replaced(at, part, key, 2.5)
        job = edits.remove(at.ctx, part)
        yield CandidateChange(
            f"without {part}",
            f"without {part}",
            do=(f"Take {at.name(part)} out",),
            job=job,
            cost=1.0,
        )


@may_cure("slope")
def equalised(at: Surroundings) -> Iterator[CandidateChange]:
    """An equaliser in the way of all outlets concerned: one whose loss falls with frequency."""
    for key, kind in at.catalogue.parts.items():
        if kind.draws_as != "equaliser":
            continue
        for link in at.shared[:3]:
            yield from inserted(at, key, link, cost=2.2, setting=None)
