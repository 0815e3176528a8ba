"""What guys ask for: a rope that bears the wind, anchors that bear the rope, a tube that is not buckled by both."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...job import Mast
from ...units.quantities import Gauge, gauge
from .mounts import ANCHORS, GRAVITY
from .statics import BUCKLING_SAFETY, FreeTube, buckles_n, guy_rise_m
from .uses import TYPICAL, Use

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
        """Moments of a tube that is pressed and bent at once, over those of one that is only bent [1]."""
        return 1 / (1 - min(self.load_n / self.buckles_n, 0.99))


def pressed(beam: FreeTube, carried_kg: float) -> AxialLoad:
    """How guys press a tube; nothing where it has none, for its own weight is small."""
    if beam.guys is None:
        return AxialLoad()
    load = beam.guys.axial_load_n(beam.held_n) + carried_kg * GRAVITY
    return AxialLoad(load, buckles_n(beam.stiff_nm2, beam.guys.at_m))


def anchor_n(mast: Mast) -> float | None:
    """What an anchor bears along its guy [N]: its own figure, else that of an eye bolt in its base, pulled and
    across at once, each its share; None where its base is not entered."""
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


@dataclass(frozen=True)
class GuyFigures:
    """Loads of guys, of their anchors and of the tube they press [N]; the anchor's is None where its base
    is not entered, and `anchor_n` is the load on it."""

    rope: Gauge
    column: Gauge
    anchor: Gauge | None
    anchor_n: float

    def uses(self, mast: Mast) -> list[Use]:
        """Each of them as a use of the mount."""
        found = [
            Use("a guy in the wind", self.rope, ROPE_ORIGIN),
            Use("pressed along the tube", self.column, EULER),
        ]
        if self.anchor is not None:
            found.append(Use("an anchor of the guys", self.anchor, anchor_origin(mast)))
        return found


def anchor_origin(mast: Mast) -> str:
    """Where it comes from what an anchor bears."""
    return TYPICAL if mast.guy_anchor_n is None else "the anchor's own sheet"


def guy_figures(mast: Mast, beam: FreeTube, squeeze: AxialLoad) -> GuyFigures | None:
    """The guys against what rope, anchors and tube bear; None for a mast without."""
    if beam.guys is None:
        return None
    pull_n = abs(beam.held_n) * beam.guys.pull
    most = squeeze.buckles_n / BUCKLING_SAFETY
    at_anchor, bears = max(pull_n, beam.guys.drawn_n), anchor_n(mast)
    return GuyFigures(
        rope=gauge(pull_n, "n", high=beam.guys.bears_n, reserve=0.1 * beam.guys.bears_n),
        column=gauge(squeeze.load_n, "n", high=most, reserve=0.1 * most),
        anchor=None if bears is None else gauge(at_anchor, "n", high=bears, reserve=0.1 * bears),
        anchor_n=at_anchor,
    )
