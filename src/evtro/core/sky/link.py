"""The link from a satellite to the LNB's output, term by term, in clear sky and in rain."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..antennas import free_space_loss_db, pattern_gain_dbi
from ..geodesy import Floats, sky_separation_deg
from ..job import Carrier
from ..modulation import MODULATIONS
from ..quantities import BOLTZMANN_DBM_PER_HZ_K, DBM_TO_DBUV, T0_K, Gauge, gauge
from .rain import Climate, attenuation_db
from .targets import Sight

CLEAR_SKY_K = 40.0  # antenna noise of a small dish under clear sky; common practice, no source
RAIN_K = 275.0
AIR_ZENITH_DB = 0.05  # oxygen and vapour at Ku straight up; common practice, no source
POINTING_DB = 0.3  # left after a good peaking and some wind; common practice, no source
SIZES_M = (0.3, 12.0)
_PERCENTS = np.logspace(-3, 1, 81)


@dataclass(frozen=True)
class Dish:
    """What the link needs of a dish and its LNB: diameter [m], efficiency, losses beyond the axis
    [dB] (feed beside the focus, skew), LNB noise figure and gain [dB]."""

    diameter_m: float
    efficiency: float
    feed_loss_db: float = 0.0
    skew_loss_db: float = 0.0
    lnb_noise_db: float = 0.7
    lnb_gain_db: float = 55.0


@dataclass(frozen=True)
class Neighbour:
    """Another satellite with the carriers that may disturb."""

    name: str
    azimuth_deg: float
    elevation_deg: float
    carriers: tuple[Carrier, ...]


@dataclass(frozen=True)
class Clear:
    """Clear-sky figures of carriers, arrays of one length [dB, dBm, dBµV]."""

    gain_dbi: Floats
    path_db: Floats
    air_db: float
    received_dbm: Floats
    noise_dbm: Floats
    cn_db: Floats
    level_dbuv: Floats


@dataclass(frozen=True)
class LinkTerm:
    """One step of the waterfall: what it is, its change [dB] and the power after it [dBW]."""

    name: str
    change_db: float
    after_dbw: float
    said: str


@dataclass(frozen=True)
class LinkRow:
    """The link of one carrier. Ratios [dB]; `margin` against the threshold in clear sky,
    `rain_margin` at the wanted availability, `available_pct` of the year."""

    carrier: str
    name: str
    frequency_mhz: float
    polarisation: str
    wanted_db: float
    wanted_origin: str
    cn_db: float
    interference_db: float | None
    disturber: str
    total_db: float
    margin: Gauge
    rain_db: float | None
    rain_margin: Gauge
    available_pct: float | None
    smallest_m: float | None
    level_dbuv: float
    terms: list[LinkTerm]


def noise_k(lnb_noise_db: float) -> float:
    """Noise temperature of an LNB from its noise figure [K]."""
    return float(T0_K * (10 ** (lnb_noise_db / 10) - 1))


def clear_sky(
    dish: Dish, range_km: float, elevation_deg: float, frequency_mhz: ArrayLike,
    eirp_dbw: ArrayLike, bandwidth_mhz: ArrayLike, diameter_m: ArrayLike | None = None,
) -> Clear:  # fmt: skip
    """EIRP less free space, air, pointing, skew and feed loss, plus the dish's gain; noise of clear
    sky and LNB in the carrier's symbol rate. Everything broadcasts. Reference: ITU-R P.525."""
    f, eirp, width = np.broadcast_arrays(
        *(np.asarray(v, float) for v in (frequency_mhz, eirp_dbw, bandwidth_mhz))
    )
    d = np.asarray(dish.diameter_m if diameter_m is None else diameter_m, float)
    gain = 10 * np.log10(dish.efficiency * (np.pi * d * f / 299.792458) ** 2)
    path = free_space_loss_db(range_km, f)
    air = AIR_ZENITH_DB / math.sin(math.radians(max(elevation_deg, 3.0)))
    lost = air + POINTING_DB + dish.skew_loss_db + dish.feed_loss_db
    received = eirp + 30 - path - lost + gain
    noise = (
        BOLTZMANN_DBM_PER_HZ_K + 10 * math.log10(CLEAR_SKY_K + noise_k(dish.lnb_noise_db))
        + 10 * np.log10(width * 1e6)
    )  # fmt: skip
    return Clear(gain, path, air, received, noise, received - noise,
                 received + dish.lnb_gain_db + DBM_TO_DBUV)  # fmt: skip


def rain_fade_db(attenuation: ArrayLike, lnb_noise_db: float) -> Floats:
    """What rain takes from C/N [dB]: its attenuation, and the noise of the warm rain."""
    a = np.asarray(attenuation, float)
    clear = CLEAR_SKY_K + noise_k(lnb_noise_db)
    share = 10 ** (-a / 10)
    wet = CLEAR_SKY_K * share + RAIN_K * (1 - share) + noise_k(lnb_noise_db)
    return np.asarray(a + 10 * np.log10(wet / clear))


def interference_db(
    dish: Dish, sight: Sight, carriers: Sequence[Carrier], others: Sequence[Neighbour],
    diameter_m: ArrayLike | None = None,
) -> tuple[Floats, list[str]]:  # fmt: skip
    """Ratio of each carrier to what neighbours send on it through the dish's pattern [dB], inf
    where nothing is listed, and the strongest disturber. With diameters of shape (m,) the ratios
    have the shape (m, carriers)."""
    d = np.atleast_1d(np.asarray(dish.diameter_m if diameter_m is None else diameter_m, float))
    total = np.zeros((len(d), len(carriers)))
    worst, names = np.zeros(len(carriers)), [""] * len(carriers)
    if not carriers:
        return total, names
    f = np.array([c.frequency_mhz for c in carriers])
    width = np.array([c.bandwidth_mhz for c in carriers])
    eirp = np.array([c.power for c in carriers])
    pol = np.array([ord(c.polarisation) for c in carriers])
    for other in others:
        if not other.carriers:
            continue
        away = float(sky_separation_deg(sight.azimuth_deg, sight.elevation_deg, other.azimuth_deg,
                                        other.elevation_deg))  # fmt: skip
        of = np.array([c.frequency_mhz for c in other.carriers])[:, None]
        ow = np.array([c.bandwidth_mhz for c in other.carriers])[:, None]
        oe = np.array([c.power for c in other.carriers])[:, None]
        op = np.array([ord(c.polarisation) for c in other.carriers])[:, None]
        low = np.maximum(f - width / 2, of - ow / 2)
        high = np.minimum(f + width / 2, of + ow / 2)
        share = np.clip(high - low, 0, None) / ow
        power = (np.where(op == pol, share, 0.0) * 10 ** ((oe - eirp) / 10)).sum(axis=0)
        for m, size in enumerate(d):
            drop = pattern_gain_dbi(away, float(size), f, dish.efficiency) - pattern_gain_dbi(
                0.0, float(size), f, dish.efficiency
            )
            total[m] += power * 10 ** (drop / 10)
        stronger = power > worst
        worst = np.maximum(worst, power)
        names = [other.name if s else n for s, n in zip(stronger, names, strict=True)]
    with np.errstate(divide="ignore"):
        ratio = -10 * np.log10(total)
    return (ratio[0] if diameter_m is None else ratio), names


def _sum_ratios(cn: Floats, ci: Floats) -> Floats:
    """Carrier to noise and interference together [dB]."""
    found: Floats = -10 * np.log10(10 ** (-cn / 10) + 10 ** (-ci / 10))
    return found


def link(
    dish: Dish, sight: Sight, latitude_deg: float, height_m: float, carriers: Sequence[Carrier],
    others: Sequence[Neighbour], climate: Climate | None, availability_pct: float, reserve_db: float,
) -> list[LinkRow]:  # fmt: skip
    """The link of every carrier of a satellite; rain is left out while the climate is not known."""
    if not carriers or not sight.visible:
        return []
    f = np.array([c.frequency_mhz for c in carriers])
    eirp = np.array([c.power for c in carriers])
    width = np.array([c.bandwidth_mhz for c in carriers])
    wanted = np.array([MODULATIONS[c.modulation].cn_db for c in carriers])
    clear = clear_sky(dish, sight.distance_km, sight.elevation_deg, f, eirp, width)
    ci, names = interference_db(dish, sight, carriers, others)
    total = _sum_ratios(clear.cn_db, ci)
    fade = attenuation = wet = None
    curve: Floats | None = None
    if climate is not None:
        tilt = np.array([_against_level(c, sight.tilt_deg) for c in carriers])
        p = 100.0 - availability_pct
        attenuation = attenuation_db(
            climate, latitude_deg, height_m, f, sight.elevation_deg, tilt, p
        )
        fade = rain_fade_db(attenuation, dish.lnb_noise_db)
        wet = _sum_ratios(clear.cn_db - fade, ci)
        curve = attenuation_db(climate, latitude_deg, height_m, f[:, None], sight.elevation_deg,
                               tilt[:, None], _PERCENTS[None, :])  # fmt: skip
    smallest = _smallest(dish, sight, carriers, others, f, eirp, width, wanted, fade)
    rows = []
    for i, c in enumerate(carriers):
        rain_margin = gauge(None, "db", low=0.0)
        available = None
        if wet is not None and curve is not None:
            rain_margin = gauge(float(wet[i] - wanted[i]), "db", low=0.0, reserve=reserve_db)
            left = _sum_ratios(clear.cn_db[i] - rain_fade_db(curve[i], dish.lnb_noise_db), ci[i])
            enough: NDArray[np.bool_] = left >= wanted[i]
            available = 100.0 - float(_PERCENTS[int(enough.argmax())]) if enough.any() else None
        rows.append(
            LinkRow(
                c.id, c.name, c.frequency_mhz, c.polarisation, float(wanted[i]),
                MODULATIONS[c.modulation].origin, float(clear.cn_db[i]),
                float(ci[i]) if np.isfinite(ci[i]) else None, names[i], float(total[i]),
                gauge(float(total[i] - wanted[i]), "db", low=0.0, reserve=reserve_db),
                None if attenuation is None else float(attenuation[i]), rain_margin, available,
                smallest[i], float(clear.level_dbuv[i]),
                _terms(dish, clear, i, c, None if attenuation is None else float(attenuation[i]), availability_pct),
            )
        )  # fmt: skip
    return rows


def _against_level(carrier: Carrier, tilt_deg: float) -> float:
    """Tilt of a carrier's polarisation against level at the site [deg], 45 for circular."""
    if carrier.polarisation in ("L", "R"):
        return 45.0
    return tilt_deg if carrier.polarisation == "H" else 90.0 + tilt_deg


def _smallest(
    dish: Dish, sight: Sight, carriers: Sequence[Carrier], others: Sequence[Neighbour], f: Floats,
    eirp: Floats, width: Floats, wanted: Floats, fade: Floats | None,
) -> list[float | None]:  # fmt: skip
    """The least diameter that reaches the threshold, with rain once it is known, in 5 cm [m]."""
    sizes = np.round(np.arange(SIZES_M[0], SIZES_M[1] + 0.01, 0.05), 2)
    few = np.unique(np.concatenate([sizes[sizes <= 1.5], sizes[::4], sizes[-1:]]))
    found = clear_sky(dish, sight.distance_km, sight.elevation_deg, f[None, :], eirp[None, :],
                      width[None, :], few[:, None]).cn_db  # fmt: skip
    if fade is not None:
        found = found - fade[None, :]
    ci, _ = interference_db(dish, sight, carriers, others, few)
    enough = _sum_ratios(found, ci) >= wanted[None, :]
    return [float(few[int(e.argmax())]) if e.any() else None for e in enough.T]


def _terms(
    dish: Dish, clear: Clear, i: int, c: Carrier, rain: float | None, availability: float
) -> list[LinkTerm]:
    steps = [
        ("Free space", -float(clear.path_db[i]), "distance and frequency"),
        ("Air", -clear.air_db, "oxygen and vapour, practice value"),
        ("Pointing", -POINTING_DB, "left after peaking, practice value"),
        ("Skew", -dish.skew_loss_db, "from the lean of the mast"),
        ("Feed off focus", -dish.feed_loss_db, "several satellites on one dish"),
        ("Dish gain", float(clear.gain_dbi[i]), f"{dish.diameter_m:g} m, {100 * dish.efficiency:.0f} % efficient"),
    ]  # fmt: skip
    if rain is not None:
        steps.insert(2, ("Rain", -rain, f"exceeded {100 - availability:.3g} % of the year"))
    level = c.power
    found = [LinkTerm("EIRP", c.power, level, "from the satellite's list")]
    for name, change, said in steps:
        if change == 0:
            continue
        level += change
        found.append(LinkTerm(name, change, level, said))
    level += dish.lnb_gain_db
    found.append(LinkTerm("LNB gain", dish.lnb_gain_db, level, "to its output"))
    return found
