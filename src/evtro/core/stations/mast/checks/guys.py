"""Guys: where they are tied, what rope, tube and anchors bear."""

from __future__ import annotations

from collections.abc import Iterator

from ....checks.registry import check
from ....job.problems import Problem
from ....units.quantities import Quantity, gauge
from ..figures import MastFigures
from ..guys import EULER, ROPE_ORIGIN, anchor_origin
from ..statics import SLIP_M
from .problem import problem


@check(
    "mast",
    codes=("guy-high",),
    needs=(
        "free_m",
        "mast",
    ),
)
def tied_too_high(at: MastFigures) -> Iterator[Problem]:
    """Guys above the end of the tube."""
    if at.mast.guys and at.mast.guy_m > at.free_m + SLIP_M:
        yield problem(
            "guy-high",
            "fail",
            "guys",
            "The guys are tied above the end of the tube",
            one=gauge(at.mast.guy_m, "m", high=at.free_m),
            limit=("at most ", Quantity(at.free_m, "m", 2), " above the upper bracket"),
            origin="geometry of the mast",
            remedy=("Tie them lower, or take a longer tube. As it stands they hold nothing.",),
        )


@check(
    "mast",
    codes=(
        "guy-pull",
        "mast-buckles",
        "guy-anchor-unknown",
        "guy-anchor",
    ),
    needs=(
        "guys",
        "mast",
    ),
)
def guys(at: MastFigures) -> Iterator[Problem]:
    """What the guys ask of rope, tube and anchors."""
    if at.guys is None:
        return
    rope, column, anchor = at.guys.rope, at.guys.column, at.guys.anchor
    if rope.state != "ok":
        yield problem(
            "guy-pull",
            rope.state,
            "guys",
            "The guys are pulled too hard",
            one=rope,
            limit=("at most ", Quantity(rope.high or 0.0, "n", 0)),
            origin=ROPE_ORIGIN,
            remedy=("Take a thicker rope, or anchor them farther out.",),
        )
    if column.state != "ok":
        yield problem(
            "mast-buckles",
            column.state,
            "guys",
            "The guys press the tube so hard that it buckles"
            if column.state == "fail"
            else "The guys press the tube near to what it bears",
            one=column,
            limit=("at most ", Quantity(column.high or 0.0, "n", 0)),
            origin=EULER,
            remedy=("Take a wider tube, tie the guys lower, or anchor them farther out.",),
        )
    if anchor is None:
        yield problem(
            "guy-anchor-unknown",
            "marginal",
            "guys",
            "Base of the guy anchors not entered",
            one=None,
            limit=("at least ", Quantity(at.guys.anchor_n, "n", 0), " each"),
            origin="statics",
            remedy=("Say here what they hold in, or type what one anchor bears.",),
        )
    elif anchor.state != "ok":
        yield problem(
            "guy-anchor",
            anchor.state,
            "guys",
            "The anchors of the guys are pulled out"
            if anchor.state == "fail"
            else "The anchors of the guys are near what they bear",
            one=anchor,
            limit=("at most ", Quantity(anchor.high or 0.0, "n", 0), " each"),
            origin=anchor_origin(at.mast),
            remedy=("Anchor them in something better, farther out, or with two anchors each.",),
        )
