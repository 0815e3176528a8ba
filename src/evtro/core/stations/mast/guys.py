"""What guys ask for: a rope that bears the wind, anchors that bear the rope, a tube that is not buckled by both."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...job import Mast
from ...job.problems import Problem
from ...units.quantities import Gauge, Phrase, Quantity, gauge
from ...units.severity import State
from .mount_checks import TYPICAL, Use
from .mounts import ANCHORS, GRAVITY
from .statics import BUCKLING_SAFETY, SLIP_M, FreeTube, Guys, buckles_n, guy_rise_m

EYE_MM = 10.0  # the eye bolt of a guy; common practice, no source
GROUND_N = 2_000.0  # a screwed or driven anchor in firm ground; common practice, no source
ROPE_ORIGIN = "a fifth of the rope's breaking force (common practice, no source)"
EULER = "Euler, clamped and pinned, a third of it (common practice, no source)"


@dataclass(frozen=True)
class AxialLoad:
    """What guys and weight press the tube with [N], the load that buckles it [N], and by how much that makes every
    bending moment grow [1]."""

    load_n: float = 0.0
    buckles_n: float = math.inf

    @property
    def moment_amplification(self) -> float:
        """Moments of a tube that is pressed and bent at once, over those of one that is only bent."""
        return 1 / (1 - min(self.load_n / self.buckles_n, 0.99))


def pressed(beam: FreeTube, carried_kg: float) -> AxialLoad:
    """How guys press a tube; nothing where it has none, for its own weight is small."""
    if beam.guys is None:
        return AxialLoad()
    load = beam.guys.axial_load_n(beam.held_n) + carried_kg * GRAVITY
    return AxialLoad(load, buckles_n(beam.stiff_nm2, beam.guys.at_m))


def anchor_n(mast: Mast) -> float | None:
    """What an anchor bears along its guy [N]: its own figure, else that of an eye bolt in its base, pulled and
    across at once, each its share; None where nobody has said what it holds in."""
    if mast.guy_anchor_n is not None:
        return mast.guy_anchor_n
    if mast.guy_base == "ground":
        return GROUND_N
    if mast.guy_base == "unknown":
        return None
    rise = guy_rise_m(mast)
    long = math.hypot(rise, mast.guy_out_m)
    base, larger = ANCHORS[mast.guy_base], (EYE_MM / 8.0) ** 2
    return larger / (rise / long / base.pull_n + mast.guy_out_m / long / base.shear_n)


def guy_uses(mast: Mast, beam: FreeTube, squeeze: AxialLoad, problems: list[Problem]) -> list[Use]:
    """The guys against what rope, anchors and tube bear; adds what is wrong to `problems`."""
    free = beam.free_m
    if mast.guys and mast.guy_m > free + SLIP_M:
        _add(
            problems,
            "guy-high",
            "fail",
            "The guys are tied above the end of the tube",
            one=gauge(mast.guy_m, "m", high=free),
            limit=("at most ", Quantity(free, "m", 2), " above the upper bracket"),
            origin="geometry of the mast",
            remedy="Tie them lower, or take a longer tube. As it stands they hold nothing.",
        )
    if beam.guys is None:
        return []
    pull_n = abs(beam.held_n) * beam.guys.pull
    rope = gauge(pull_n, "n", high=beam.guys.bears_n, reserve=0.1 * beam.guys.bears_n)
    if rope.state != "ok":
        _add(
            problems,
            "guy-pull",
            rope.state,
            "The guys are pulled too hard",
            one=rope,
            limit=("at most ", Quantity(beam.guys.bears_n, "n", 0)),
            origin=ROPE_ORIGIN,
            remedy="Take a thicker rope, or anchor them farther out.",
        )
    uses = [Use("a guy in the wind", rope, ROPE_ORIGIN)]
    most = squeeze.buckles_n / BUCKLING_SAFETY
    column = gauge(squeeze.load_n, "n", high=most, reserve=0.1 * most)
    if column.state != "ok":
        _add(
            problems,
            "mast-buckles",
            column.state,
            "The guys press the tube so hard that it buckles"
            if column.state == "fail"
            else "The guys press the tube near to what it bears",
            one=column,
            limit=("at most ", Quantity(most, "n", 0)),
            origin=EULER,
            remedy="Take a wider tube, tie the guys lower, or anchor them farther out.",
        )
    uses.append(Use("pressed along the tube", column, EULER))
    return [*uses, *_anchors(mast, beam.guys, pull_n, problems)]


def _anchors(mast: Mast, guys: Guys, pull_n: float, problems: list[Problem]) -> list[Use]:
    bears = anchor_n(mast)
    pull_n = max(pull_n, guys.drawn_n)
    if bears is None:
        _add(
            problems,
            "guy-anchor-unknown",
            "marginal",
            "Nobody has said what the guys are anchored in",
            one=None,
            limit=("at least ", Quantity(pull_n, "n", 0), " each"),
            origin="statics",
            remedy="Say here what they hold in, or type what one anchor bears.",
        )
        return []
    origin = TYPICAL if mast.guy_anchor_n is None else "the anchor's own sheet"
    judged = gauge(pull_n, "n", high=bears, reserve=0.1 * bears)
    if judged.state != "ok":
        _add(
            problems,
            "guy-anchor",
            judged.state,
            "The anchors of the guys are pulled out"
            if judged.state == "fail"
            else "The anchors of the guys are near what they bear",
            one=judged,
            limit=("at most ", Quantity(bears, "n", 0), " each"),
            origin=origin,
            remedy="Anchor them in something better, farther out, or with two anchors each.",
        )
    return [Use("an anchor of the guys", judged, origin)]


def _add(
    problems: list[Problem],
    code: str,
    state: State,
    title: str,
    *,
    one: Gauge | None,
    limit: Phrase,
    origin: str,
    remedy: str,
) -> None:
    problems.append(
        Problem(
            code=code,
            station="mast",
            state=state,
            place="guys",
            title=(title,),
            gauge=one,
            limit=limit,
            origin=origin,
            remedy=(remedy,),
        )
    )
