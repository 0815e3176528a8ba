"""Ways to power what lacks its voltage, and supplies that feed nothing."""

from __future__ import annotations

from collections.abc import Iterator

from .....fixes.engine import CandidateChange
from .....fixes.registry import may_cure
from .....network import edits
from ...feeding import ways_to_feed
from ..surroundings import Surroundings


@may_cure("dc-none")
def fed(at: Surroundings) -> Iterator[CandidateChange]:
    """Ways to power the part that lacks its voltage."""
    if at.problem.ref:
        yield from _ways(at, at.problem.ref)


@may_cure(
    "level-low",
    "level-high",
    "margin",
    "distortion",
    "slope",
    "echo",
    "overload",
    "overload-supposed",
    "input-low",
    "input-high",
    "dc-voltage",
    "amp-late",
    "idle-supply",
    "setting-range",
)
def fed_on_the_way(at: Surroundings) -> Iterator[CandidateChange]:
    """What lacks its voltage on the way comes before anything that is bought."""
    for part in at.parts:
        if part in at.solved.run.dark:
            yield from _ways(at, part)


def _ways(at: Surroundings, part: str) -> Iterator[CandidateChange]:
    """Ways to power a part."""
    for i, (do, fed, gives) in enumerate(ways_to_feed(at.ctx, part)):
        yield CandidateChange(
            f"feed {part} {i}",
            f"feed {part} {i}",
            do=(*do, ": ", *gives),
            job=fed,
            cost=1.0 + i * 0.5,
        )


@may_cure("idle-supply")
def taken_out(at: Surroundings) -> Iterator[CandidateChange]:
    """A supply that feeds nothing, away."""
    if at.problem.ref in at.types:
        yield CandidateChange(
            "idle",
            "idle",
            do=(f"Take {at.name(at.problem.ref)} out",),
            job=edits.remove(at.ctx, at.problem.ref),
            cost=0.5,
        )
