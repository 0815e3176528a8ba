"""Each part of a mount against what it bears, and what is lifted."""

from __future__ import annotations

from dataclasses import dataclass

from ...job import Dish, Job, Mast
from ...units.quantities import Gauge
from .mounts import ARRAY_KG, Held, dish_kg, tube_kg

LIFT_ALONE_KG = 20.0  # over that it is a lift for two; common practice, no source
TYPICAL = "typical, common practice, no source"


@dataclass(frozen=True)
class Use:
    """A figure of the mount against what it bears, and where that comes from."""

    name: str
    gauge: Gauge
    origin: str


@dataclass(frozen=True)
class Weight:
    """One thing that is lifted [kg]; whether its weight is its own or typical of its class."""

    name: str
    kg: float
    own: bool


def weights_of(job: Job, mast: Mast) -> list[Weight]:
    """What is lifted, by its own weight or that typical of its class."""
    tube = [] if job.rig.kind != "none" else [Weight("tube", tube_kg(mast), False)]
    return tube + [
        Weight(
            a.name,
            a.weight_kg
            or (dish_kg(a.diameter_m, a.surface == "mesh") if isinstance(a, Dish) else ARRAY_KG),
            a.weight_kg is not None,
        )
        for a in job.antennas
    ]


def uses_of(mast: Mast, used: Held) -> list[Use]:
    """Each part of a mount against what it bears."""
    own = "the anchor's own sheet"
    return [
        Use(name, g, origin)
        for name, g, origin in (
            ("pull on the worst bolt", used.pull, TYPICAL if mast.bolt_pull_n is None else own),
            ("across the worst bolt", used.shear, TYPICAL if mast.bolt_shear_n is None else own),
            (
                "turning over the edge",
                used.overturn,
                "statics, safety of 1.5 (common practice, no source)",
            ),
            ("sliding", used.slide, "friction of 0.4, safety of 1.5 (common practice, no source)"),
            ("pole in the ground", used.buried, "IBC 1807.3.2.1, clay or silt (from memory)"),
        )
        if g is not None
    ]
