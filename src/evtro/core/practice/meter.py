"""A meter and a dish that are not there: a hidden aim, a real beam, a reading that scatters.

A stand-in for the device on the roof, so that peaking can be tried and tested without one.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np

from ..stations.aim.errors import cross_polar

SCATTER_DB = 0.15
FLOOR_DB = 0.5
LOCK_DB = 5.0
TURN_LIMIT = 12.0


@dataclass
class SimulatedMeter:
    """A dish on two fine screws and an LNB in its clamp. `true` is where the top lies, in turns of
    the azimuth and elevation screws and degrees of skew; `at` where they stand."""

    beamwidth_deg: float
    deg_per_turn: float
    elevation_deg: float
    top_cn_db: float
    seed: int
    at: dict[str, float] = field(
        default_factory=lambda: {"azimuth": 0.0, "elevation": 0.0, "skew": 0.0}
    )
    true: dict[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self._random = np.random.default_rng(self.seed)
        reach = 0.7 * self.beamwidth_deg / self.deg_per_turn
        for axis, most in (("azimuth", reach), ("elevation", reach), ("skew", 20.0)):
            if axis not in self.true:
                self.true[axis] = float(
                    self._random.uniform(0.35, 1.0) * most * self._random.choice([-1, 1])
                )

    def turn(self, axis: str, by: float) -> None:
        """Turn a screw (turns) or the LNB (degrees); they have stops."""
        most = 90.0 if axis == "skew" else TURN_LIMIT
        self.at[axis] = float(np.clip(self.at[axis] + by, -most, most))

    def true_cn_db(self) -> float:
        """C/N without scatter [dB]."""
        az = (self.at["azimuth"] - self.true["azimuth"]) * self.deg_per_turn
        az *= math.cos(math.radians(self.elevation_deg))
        el = (self.at["elevation"] - self.true["elevation"]) * self.deg_per_turn
        off = math.hypot(az, el) / self.beamwidth_deg
        skew_loss = float(cross_polar(min(abs(self.at["skew"] - self.true["skew"]), 89.0))[0])
        return max(self.top_cn_db - 12 * off**2 - skew_loss, FLOOR_DB)

    def read(self) -> tuple[float, bool, float]:
        """C/N [dB] as it is shown, whether it locks, and the tone [Hz] that rises with it."""
        shown = max(self.true_cn_db() + float(self._random.normal(0, SCATTER_DB)), 0.0)
        return shown, shown >= LOCK_DB, 220.0 * 2 ** (shown / 6.0)
