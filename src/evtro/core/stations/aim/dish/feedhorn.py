"""Where a feed goes on its reflector, and how it is put there."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ....job import Dish, Target
from ....physics.beams import Reflector, prime_focus
from ....units.phrases import listed, say
from ....units.quantities import Phrase, Quantity
from ..dishes import reflector_of, reflector_problem

PHASE_CENTRE_MM = 6.0  # inside the mouth of a feed with a scalar ring; common practice, no source


@dataclass(frozen=True)
class Feedhorn:
    """Where the feed goes on this reflector. Lengths [mm], angles [deg]."""

    focal_mm: float
    focal_ratio: float
    half_angle_deg: float
    reflector: Reflector | None
    words: list[Phrase]


def feedhorn(antenna: Dish, target: Target) -> Feedhorn:
    """Where the feed goes, by the reflector as it was measured, else by its f/D."""
    diameter = antenna.diameter_m * 1000
    words: list[Phrase] = []
    if antenna.offset_deg < 0.5:
        focal, ratio = antenna.focal_ratio * diameter, antenna.focal_ratio
        half = math.degrees(2 * math.atan(1 / (4 * ratio)))
        depth, width = antenna.reflector_depth_mm, antenna.reflector_width_mm
        if depth is not None and width is not None and depth < width:
            focal, ratio, half = prime_focus(width, depth)
        words.append((f"Slide the feed until the scalar ring stands on the mark f/D {ratio:.2f}.",))
        words.append(
            say(
                "From the dish's middle to the mouth of the feed: {}, so that the focus lies {} inside it.",
                Quantity(focal - PHASE_CENTRE_MM, "mm", 0),
                Quantity(PHASE_CENTRE_MM, "mm", 0),
            )
        )
        words.append(
            ("Measure from the rim to the feed at three places: all three must be equal.",)
        )
        if target.circular:
            words.append(
                ("Put the dielectric plate in at 45° to the probes, the way the mark shows.",)
            )
        else:
            words.append(("The two probes stand at 90°; mark which is V before the cap goes on.",))
        return Feedhorn(
            focal_mm=focal, focal_ratio=ratio, half_angle_deg=half, reflector=None, words=words
        )
    measured = reflector_of(antenna)
    if measured is None:
        focal = antenna.focal_ratio * diameter
        wrong = reflector_problem(antenna)
        if wrong is not None:
            words.append(listed([wrong.title, wrong.remedy], " "))
        words.append(
            (
                "Measure the reflector's long axis, short axis and deepest point: then the feed's "
                "place is computed.",
            )
        )
        return Feedhorn(
            focal_mm=focal,
            focal_ratio=antenna.focal_ratio,
            half_angle_deg=40.0,
            reflector=None,
            words=words,
        )
    width = antenna.reflector_width_mm or diameter
    words.append(
        say(
            "Hold the feed's mouth {} from the lower rim and {} from the upper rim.",
            Quantity(measured.low_mm, "mm", 0),
            Quantity(measured.high_mm, "mm", 0),
        )
    )
    words.append(
        (f"The face leans {measured.offset_deg:.1f}° from the beam: that is the offset angle.",)
    )
    return Feedhorn(
        focal_mm=measured.focal_mm,
        focal_ratio=measured.focal_mm / width,
        half_angle_deg=measured.half_angle_deg,
        reflector=measured,
        words=words,
    )
