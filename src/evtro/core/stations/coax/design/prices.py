"""What parts and cables cost where no price is told: points of a class, to weigh one against another
(common practice, no source)."""

from __future__ import annotations

from ....job.parts import CableType, PartType

COUPLER = "coupler"  # joins a cable to a cable
PER_OUTPUT = {
    "splitter": (3.0, 1.5),
    "tap": (4.0, 1.2),
    "multiswitch": (30.0, 7.0),
    "plate": (5.0, 1.0),
}
FLAT = {"terminator": 1.0, "attenuator": 4.0, "equaliser": 8.0, "amplifier": 45.0, "filter": 9.0}


def price_of(kind: PartType) -> float:
    """Price of a part [in the currency of the workshop]."""
    if kind.price is not None:
        return kind.price
    if kind.key == COUPLER:
        return 1.0
    if kind.draws_as in PER_OUTPUT:
        base, each = PER_OUTPUT[kind.draws_as]
        return base + each * kind.outputs
    if kind.draws_as == "amplifier":
        return FLAT["amplifier"] + max((g for p in kind.paths for _, g in p.gain_db), default=0.0)
    return FLAT.get(kind.draws_as, 10.0)


def price_per_m(cable: CableType) -> float:
    """Price of a metre of cable [in the currency of the workshop]: the less it loses, the more."""
    if cable.price_m is not None:
        return cable.price_m
    return 0.1 + (14.0 / float(cable.loss_db(100.0, 1000.0))) ** 2
