"""A meter and a dish that are not there: a hidden aim under the sky of the plan, a reading that
scatters.

A stand-in for the device on the roof, so that peaking can be tried and tested without one. Sky, beam,
noise and what disturbs are those of the link.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

from ..job import Carrier, Dish, Target
from ..job.context import JobParts
from ..job.targets import Sight, sight_of
from ..physics.beams import dish_beamwidth_deg, pattern_gain_dbi
from ..physics.geodesy import sky_separation_deg
from ..stations.aim.dish.link_view import lnb_of
from ..stations.aim.dishes import link_dish, neighbours_of
from ..stations.coax.levels.outlets import modulation_of
from ..stations.sky.interference import NeighbourSatellite, both_db, contributions, disturbances
from ..stations.sky.receiving import ReceivingDish, clear_sky

SCATTER_DB = 0.15
FLOOR_DB = 0.5
TURN_LIMIT = 12.0
TURN_DEG = 0.8  # a turn of a fine screw where nobody measured it; common practice, no source
# A transponder as most are, for a satellite of which none is listed; common practice, no source.
_USUAL = {
    "frequency_mhz": 11_700.0,
    "bandwidth_mhz": 27.5,
    "power": 50.0,
    "modulation": "DVB-S2 8PSK 2/3",
}


@dataclass(frozen=True)
class TunedSky:
    """What a meter hears that is tuned to one carrier: the dish, where its satellite stands, the
    carrier and all others of its satellite, the satellites beside it, the C/N at which it locks
    [dB], and how far a turn of a screw moves the dish [deg]."""

    dish: ReceivingDish
    sight: Sight
    carrier: Carrier
    beside: tuple[Carrier, ...]
    others: tuple[NeighbourSatellite, ...]
    lock_db: float
    deg_per_turn: float

    @property
    def beamwidth_deg(self) -> float:
        """Half-power beamwidth at the carrier [deg]."""
        return dish_beamwidth_deg(self.dish.diameter_m, self.carrier.frequency_mhz)

    def cn_db(self, azimuth_off_deg: float, elevation_off_deg: float, skew_off_deg: float) -> float:
        """C/N and interference together [dB] for a dish that points beside its satellite; the
        azimuth off is that of the mount."""
        dish = replace(self.dish, skew_error_deg=min(abs(skew_off_deg), 89.0))
        f = np.array([self.carrier.frequency_mhz])
        clear = clear_sky(
            dish,
            self.sight.distance_km,
            elevation_deg=self.sight.elevation_deg,
            frequency_mhz=f,
            eirp_dbw=self.carrier.power,
            bandwidth_mhz=self.carrier.bandwidth_mhz,
        )
        at = self.sight.azimuth_deg + azimuth_off_deg, self.sight.elevation_deg + elevation_off_deg
        away = sky_separation_deg(self.sight.azimuth_deg, self.sight.elevation_deg, *at)
        drop = clear.gain_dbi - pattern_gain_dbi(away, dish.diameter_m, f, dish.efficiency)
        own = (self.carrier,)
        # The satellite's other polarisation comes through the same pattern.
        both = (*own, *self.beside)
        waves = np.array([c.frequency_mhz for c in both])
        crossed = contributions(dish, disturbances(self.sight, both, (), skew_off_deg), waves)
        crossed = crossed.sum(axis=0)[:1]
        beside = np.zeros(1)
        for other in self.others:
            met = disturbances(self.sight, own, (other,), skew_off_deg)
            off = float(sky_separation_deg(*at, other.azimuth_deg, other.elevation_deg))
            seen = [replace(d, away_deg=max(off, 1e-6)) for d in met if d.name == other.name]
            beside = beside + contributions(dish, seen, f).sum(axis=0)
        with np.errstate(divide="ignore"):
            against = -10 * np.log10(crossed + beside * 10 ** (drop / 10))
        return float(both_db(clear.cn_db - drop, against)[0])


def tuned_sky(ctx: JobParts, dish: Dish, target: Target) -> TunedSky | None:
    """The sky of a meter on a dish of the job, tuned to the strongest carrier of a satellite; None
    where the satellite is not seen."""
    job = ctx.job
    sight = sight_of(job.site, target)
    if sight is None:
        return None
    own = [c for c in job.carriers if c.target == target.id]
    usual = Carrier(
        id="c0",
        target=target.id,
        name="a usual transponder",
        polarisation="L" if target.circular else "H",
        **_USUAL,
    )
    carrier = max(own, key=lambda c: c.power, default=usual)
    lnb = lnb_of(ctx, dish, target)
    seen = link_dish(job, dish, target=target, lnb_noise_db=lnb.noise_db, lnb_gain_db=lnb.gain_db)
    return TunedSky(
        dish=seen,
        sight=sight,
        carrier=carrier,
        beside=tuple(c for c in own if c is not carrier),
        others=tuple(neighbours_of(job, target)),
        lock_db=modulation_of(carrier).cn_db,
        deg_per_turn=dish.deg_per_turn or TURN_DEG,
    )


@dataclass
class SimulatedMeter:
    """A dish on two fine screws and an LNB in its clamp, under a sky that may change with the job.
    `true` is where the top lies, in turns of the azimuth and elevation screws and degrees of skew;
    `at` where they stand."""

    sky: TunedSky
    seed: int
    at: dict[str, float] = field(
        default_factory=lambda: {"azimuth": 0.0, "elevation": 0.0, "skew": 0.0}
    )
    true: dict[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self._random = np.random.default_rng(self.seed)
        reach = 0.7 * self.sky.beamwidth_deg / self.sky.deg_per_turn
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
        off = {axis: self.at[axis] - self.true[axis] for axis in self.at}
        turn = self.sky.deg_per_turn
        found = self.sky.cn_db(off["azimuth"] * turn, off["elevation"] * turn, off["skew"])
        return max(found, FLOOR_DB)

    def read(self) -> tuple[float, bool, float]:
        """C/N [dB] as it is shown, whether it locks, and the tone [Hz] that rises with it."""
        shown = max(self.true_cn_db() + float(self._random.normal(0, SCATTER_DB)), 0.0)
        return shown, shown >= self.sky.lock_db, 220.0 * 2 ** (shown / 6.0)
