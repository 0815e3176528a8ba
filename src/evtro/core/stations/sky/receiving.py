"""What a dish and its LNB receive of a satellite in clear sky, and what rain takes from it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ...physics.beams import LIGHT_M_MHZ, free_space_loss_db
from ...physics.geodesy import Floats
from ...physics.propagation.air import STANDARD, Air, gas_db, ground_k, sky_k
from ...units.quantities import BOLTZMANN_DBM_PER_HZ_K, DBM_TO_DBUV, T0_K

POINTING_DB = 0.3  # left after a good peaking and some wind; common practice, no source


@dataclass(frozen=True)
class ReceivingDish:
    """What the link needs of a dish and its LNB: diameter [m], efficiency, loss of a feed beside the
    focus [dB], how far the skew is off [deg], LNB noise figure and gain [dB], and noise from the
    ground [K] where somebody knows it better than the usual figure."""

    diameter_m: float
    efficiency: float
    feed_loss_db: float = 0.0
    skew_error_deg: float = 0.0
    lnb_noise_db: float = 0.7
    lnb_gain_db: float = 55.0
    ground_k: float | None = None

    @property
    def skew_loss_db(self) -> float:
        """What the wrong skew takes from the wanted polarisation [dB]: -20 log cos."""
        return -20 * math.log10(math.cos(math.radians(min(abs(self.skew_error_deg), 89.0))))


@dataclass(frozen=True)
class Clear:
    """Clear-sky figures of carriers, arrays of one length [dB, K, dBm, dBµV]. `sky_k` and `ground_k`
    make the antenna's noise."""

    gain_dbi: Floats
    path_db: Floats
    air_db: Floats
    sky_k: Floats
    ground_k: float
    received_dbm: Floats
    noise_dbm: Floats
    cn_db: Floats
    level_dbuv: Floats


def noise_k(lnb_noise_db: float) -> float:
    """Noise temperature of an LNB from its noise figure [K]."""
    return float(T0_K * (10 ** (lnb_noise_db / 10) - 1))


def clear_sky(
    dish: ReceivingDish,
    range_km: float,
    elevation_deg: float,
    frequency_mhz: ArrayLike,
    eirp_dbw: ArrayLike,
    bandwidth_mhz: ArrayLike,
    diameter_m: ArrayLike | None = None,
    air: Air = STANDARD,
) -> Clear:
    """EIRP less free space, air, pointing, skew and feed loss, plus the dish's gain; noise of sky,
    ground and LNB in the carrier's symbol rate. Everything broadcasts. Reference: ITU-R P.525."""
    f, eirp, width = np.broadcast_arrays(
        *(np.asarray(v, float) for v in (frequency_mhz, eirp_dbw, bandwidth_mhz))
    )
    d = np.asarray(dish.diameter_m if diameter_m is None else diameter_m, float)
    gain = 10 * np.log10(dish.efficiency * (np.pi * d * f / LIGHT_M_MHZ) ** 2)
    path = free_space_loss_db(range_km, f)
    gas = gas_db(air, f, elevation_deg)
    warm = ground_k(elevation_deg) if dish.ground_k is None else dish.ground_k
    sky = sky_k(gas)
    received = eirp + 30 - path - gas - POINTING_DB - dish.skew_loss_db - dish.feed_loss_db + gain
    noise = BOLTZMANN_DBM_PER_HZ_K + 10 * np.log10(
        (sky + warm + noise_k(dish.lnb_noise_db)) * width * 1e6
    )
    return Clear(
        gain_dbi=gain,
        path_db=path,
        air_db=gas,
        sky_k=sky,
        ground_k=warm,
        received_dbm=received,
        noise_dbm=noise,
        cn_db=received - noise,
        level_dbuv=received + dish.lnb_gain_db + DBM_TO_DBUV,
    )


def rain_fade_db(attenuation: ArrayLike, air_db: ArrayLike, warm_k: float) -> Floats:
    """What rain takes from C/N [dB]: its attenuation, and the noise of the warm rain. `air_db` is
    what the clear air takes, `warm_k` what ground and LNB add. Reference: ITU-R P.618-13, 3."""
    a, gas = np.asarray(attenuation, float), np.asarray(air_db, float)
    wet, clear = sky_k(gas + a) + warm_k, sky_k(gas) + warm_k
    return np.asarray(a + 10 * np.log10(wet / clear))
