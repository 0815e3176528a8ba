"""What stands round the antenna and over it: surroundings, coverings, walls."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ...units.quantities import InputError
from ..geodesy import Floats

# Height of what stands there [m] and how far it begins [km]: ITU-R P.452-16 table 4 (from memory).
SURROUNDINGS: dict[str, tuple[float, float]] = {
    "open": (0.0, 0.1),
    "village": (5.0, 0.07),
    "suburb": (9.0, 0.025),
    "town": (12.0, 0.02),
    "city": (20.0, 0.02),
    "wood": (15.0, 0.05),
}


@dataclass(frozen=True)
class Covering:
    """What is over or before an antenna under a roof or indoors: loss at UHF [dB] and how far it
    may be off. Below 300 MHz 0.6 of it. Common practice, no source; each job may set its own."""

    key: str
    name: str
    loss_db: float
    spread_db: float
    said: str = ""


COVERINGS: dict[str, Covering] = {
    c.key: c
    for c in (
        Covering(key="", name="not said", loss_db=8.0, spread_db=5.0, said="Say what covers it: the loss differs by 20 dB."),
        Covering("slate", "slate or clay tiles", 6.0, 3.0),
        Covering("concrete-tile", "concrete tiles", 8.0, 3.0),
        Covering("wet-tile", "tiles, wet", 11.0, 4.0),
        Covering("shingle", "felt or shingle", 4.0, 2.0),
        Covering("thatch", "thatch", 5.0, 3.0),
        Covering(key="foil", name="foil under the roof", loss_db=20.0, spread_db=6.0,
                 said="Foil shuts a loft like a box: go outside, or try a window side."),
        Covering(key="metal", name="metal roof", loss_db=30.0, spread_db=6.0, said="Nothing useful comes through metal: go outside."),
        Covering(key="solar", name="solar panels", loss_db=15.0, spread_db=5.0, said="Panels shadow their side of the loft."),
        Covering("timber-wall", "timber wall", 5.0, 3.0),
        Covering("brick-wall", "brick wall", 9.0, 4.0),
        Covering("stone-wall", "thick stone wall", 18.0, 6.0),
        Covering("concrete-wall", "concrete wall", 16.0, 5.0),
        Covering("window", "window", 4.0, 3.0),
        Covering(key="coated-window", name="coated window", loss_db=22.0, spread_db=6.0,
                 said="Coated panes keep radio out like foil."),
    )
}  # fmt: skip


def clutter_loss_db(surroundings: str, above_ground_m: float, frequency_mhz: Floats) -> Floats:
    """Loss by what stands round an antenna that is lower than it [dB].

    ITU-R P.452-16 equations 57 and 57a (from memory); nothing above the roofs."""
    top, away = SURROUNDINGS[surroundings]
    f = np.asarray(frequency_mhz, float)
    if top <= 0 or above_ground_m >= top:
        return np.zeros_like(f)
    rising = 0.25 + 0.375 * (1 + np.tanh(7.5 * (f / 1000 - 0.5)))
    shape = 1 - math.tanh(6 * (above_ground_m / top - 0.625))
    return np.asarray(np.maximum(10.25 * rising * math.exp(-away) * shape - 0.33, 0.0))


def covering_of(key: str) -> Covering:
    """A covering by its key. Raises InputError for one that is not known."""
    found = COVERINGS.get(key)
    if found is None:
        raise InputError(
            "What covers it",
            f"“{key}” is not known.",
            f"Use one of {', '.join(k for k in COVERINGS if k)}.",
            "covering-unknown",
        )
    return found


def entry_loss_db(
    standing: str, covering: str, own_db: float | None, frequency_mhz: Floats
) -> tuple[Floats, float]:
    """Loss into the building by frequency [dB] and how far it may be off [dB]."""
    f = np.asarray(frequency_mhz, float)
    if standing == "outdoors":
        return np.zeros_like(f), 0.0
    if own_db is not None:
        return np.full_like(f, own_db), 2.0
    kind = COVERINGS.get(covering, COVERINGS[""])
    return np.where(f < 300, 0.6, 1.0) * kind.loss_db, kind.spread_db
