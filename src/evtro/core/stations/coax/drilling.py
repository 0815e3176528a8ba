"""Holes for cables: the bit, how far a hole slopes, and the line that pulls a cable through what is closed.

All of it is common practice with no published source: half an inch lets a cable pass with its connector on.
"""

from __future__ import annotations

import math

from ...job import Cable
from ...job.parts import CableType
from ...units.phrases import say
from ...units.quantities import Quantity, Step
from ..mast.steps import behind
from .routes import CLIP_M, clips_of

BITS_MM = (6.0, 8.0, 10.0, 13.0, 16.0, 20.0, 25.0, 32.0)
WITH_CONNECTOR_MM = 12.7  # half an inch
ROOM_MM = 2.0
SLOPE_DEG = 5.0
CLOSED = frozenset({"duct", "riser"})


def bit_mm(diameter_mm: float) -> float:
    """The bit for a cable [mm], so that its connector passes, too."""
    need = max(diameter_mm + ROOM_MM, WITH_CONNECTOR_MM)
    return next((b for b in BITS_MM if b >= need), math.ceil(need))


def fall_mm(hole_m: float) -> float:
    """How much lower the outer end of a hole lies [mm], so that water stays outside."""
    return 1000 * hole_m * math.tan(math.radians(SLOPE_DEG))


def hole_steps(link: Cable, cable: CableType, names: tuple[str, str]) -> list[Step]:
    """The holes on a cable's way, before it is pulled."""
    holes = [metres for kind, metres in link.route if kind == "hole"]
    if not holes:
        return []
    bit, deep = Quantity(bit_mm(cable.diameter_mm), "mm", 0), Quantity(max(holes), "m", 2)
    many = f"{len(holes)} holes" if len(holes) > 1 else "the hole"
    return [
        behind(
            Step(
                f"coax.{link.id}.hole",
                (f"Drill {many} for {names[0]} to {names[1]}",),
                bit,
                say(
                    "wide, {} deep: a thin locator first, then from outside upward, the outer end {} lower. Not in a corner: it "
                    "may be too solid. Sleeve, drip loop before it, sealed after.",
                    deep,
                    Quantity(fall_mm(max(holes)), "mm", 0),
                ),
            ),
            link.behind,
        )
    ]


def clip_steps(link: Cable, name: str) -> list[Step]:
    """Clips and ties along a cable, after it is pulled."""
    many = clips_of(link)
    if not many:
        return []
    return [
        Step(
            f"coax.{link.id}.clips",
            (f"Clip {name}",),
            Quantity(float(many), "count", 0),
            say("clips or ties, every {}: none crushes it, none in a bend", Quantity(CLIP_M, "m")),
        )
    ]


def pull_words(link: Cable) -> str:
    """What pulls a cable through what is closed; empty for one that lies open."""
    if not any(kind in CLOSED for kind, _ in link.route):
        return ""
    return "; taped to the pull line with little tape, and a new line left in"
