"""A dish on a tripod or a vehicle's roof: what must be level, free and tight before it turns."""

from __future__ import annotations

from dataclasses import dataclass

from ....job import Rig
from ....job.problems import Problem
from ....units.quantities import (
    Gauge,
    Phrase,
    Quantity,
    gauge,
    text_of,
)

PRACTICE = "common practice, no source"
LEVEL_DEG = 5.0
GAP_MM = 4.8  # 3/16 in
CIRCLE_MM = 900.0
HIGHEST_MM = 200.0
CABLE_M = 15.0
TRIPOD_LEVEL_DEG = 1.0


@dataclass(frozen=True)
class RigLine:
    """One figure of the base against its limit."""

    key: str
    name: Phrase
    gauge: Gauge
    origin: str


def judge(rig: Rig) -> list[RigLine]:
    """The base's figures against practice; empty for a dish on a building."""
    if rig.kind == "none":
        return []
    if rig.kind == "tripod":
        return [
            RigLine(
                "level",
                ("Tripod off level",),
                gauge(rig.base_level_deg, "deg", high=TRIPOD_LEVEL_DEG, reserve=0.3),
                PRACTICE,
            )
        ]
    high = gauge(rig.highest_mm, "mm", high=HIGHEST_MM, reserve=20)
    if rig.nearest_mm is not None and rig.nearest_mm >= CIRCLE_MM:
        high = gauge(0.0, "mm", high=HIGHEST_MM)
    return [
        RigLine(
            "level",
            ("Base off level",),
            gauge(rig.base_level_deg, "deg", high=LEVEL_DEG, reserve=0.5),
            PRACTICE,
        ),
        RigLine(
            "gap",
            ("Gap under the base",),
            gauge(rig.gap_mm, "mm", high=GAP_MM, reserve=0.5),
            PRACTICE,
        ),
        RigLine(
            "circle",
            ("Height inside the clear circle of ", Quantity(CIRCLE_MM, "mm", 0)),
            high,
            PRACTICE,
        ),
        RigLine(
            "cable",
            ("Cable to the receiver",),
            gauge(rig.cable_m, "m", high=CABLE_M, reserve=1.0),
            PRACTICE,
        ),
    ]


_DO = {
    "level": ("The base does not stand level", "Pack it up or drive on to level ground."),
    "gap": ("The base stands hollow", "Fill the gap with a shaped pad, then seal."),
    "circle": (
        "Something stands in the reflector's circle",
        "Move the base or the thing that stands there.",
    ),
    "cable": ("The cable is too long", "Move the receiver nearer, or take a cable of lower loss."),
}


def problems(rig: Rig) -> list[Problem]:
    """What is out of the base's limits."""
    found = []
    for line in judge(rig):
        if line.gauge.state == "fail":
            title, do = _DO[line.key]
            found.append(
                Problem(
                    code=f"rig-{line.key}",
                    station="aim",
                    state="fail",
                    place=text_of(line.name),
                    title=(title,),
                    gauge=line.gauge,
                    limit=("within the limit",),
                    origin=line.origin,
                    remedy=(do,),
                )
            )
    return found
