"""The link from a satellite to the LNB's output, term by term, in clear sky and in rain."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..antennas import LIGHT_M_MHZ, free_space_loss_db, pattern_gain_dbi
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
# Diameters tried first; between two of them lie eight finer ones.
_SIZES_M = np.array([0.3, 0.4, 0.5, 0.65, 0.8, 1.0, 1.3, 1.7, 2.1, 2.9, 4.5, 7.7, 12.0])
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


@dataclass(slots=True)
class LinkTerm:
    """One step of the waterfall: what it is, its change [dB] and the power after it [dBW]."""

    name: str
    change_db: float
    after_dbw: float
    said: str


@dataclass(slots=True)
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
    gain = 10 * np.log10(dish.efficiency * (np.pi * d * f / LIGHT_M_MHZ) ** 2)
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


@dataclass(frozen=True)
class Disturbance:
    """What a neighbour sends on each carrier, before the dish's pattern: its distance on the sky
    [deg] and the ratio of powers for each carrier."""

    name: str
    away_deg: float
    share: Floats


def disturbances(
    sight: Sight, carriers: Sequence[Carrier], others: Sequence[Neighbour]
) -> list[Disturbance]:
    """Neighbours that share frequency and polarisation with at least one carrier."""
    f, width, eirp, pol = _figures(carriers)
    found = []
    for other in others:
        if not other.carriers or not carriers:
            continue
        of, ow, oe, op = _figures(other.carriers)
        shared = np.minimum((f + width / 2)[:, None], of + ow / 2)
        shared -= np.maximum((f - width / 2)[:, None], of - ow / 2)
        shared[(shared < 0) | (op != pol[:, None])] = 0.0
        power = shared @ (10 ** (oe / 10) / ow) / 10 ** (eirp / 10)
        if power.any():
            away = float(sky_separation_deg(sight.azimuth_deg, sight.elevation_deg, other.azimuth_deg,
                                            other.elevation_deg))  # fmt: skip
            found.append(Disturbance(other.name, away, power))
    return found


def _figures(carriers: Sequence[Carrier]) -> tuple[Floats, Floats, Floats, Floats]:
    rows = np.array(
        [(c.frequency_mhz, c.bandwidth_mhz, c.power, ord(c.polarisation)) for c in carriers], float
    )
    return rows[:, 0], rows[:, 1], rows[:, 2], rows[:, 3]


def interference_db(
    dish: Dish,
    found: Sequence[Disturbance],
    frequency_mhz: Floats,
    diameter_m: ArrayLike | None = None,
) -> Floats:
    """Ratio of each carrier to what neighbours send on it through the dish's pattern [dB], inf
    where nothing is listed. Diameters of shape (m, 1) give ratios of shape (m, carriers)."""
    d = np.asarray(dish.diameter_m if diameter_m is None else diameter_m, float)
    total = np.zeros(np.broadcast_shapes(d.shape, frequency_mhz.shape))
    if found:
        axis = 10 * np.log10(dish.efficiency * (np.pi * d * frequency_mhz / LIGHT_M_MHZ) ** 2)
        for each in found:
            drop = pattern_gain_dbi(each.away_deg, d, frequency_mhz, dish.efficiency) - axis
            total = total + each.share * 10 ** (drop / 10)
    with np.errstate(divide="ignore"):
        ratio: Floats = -10 * np.log10(total)
    return ratio


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
    f, width, eirp, _ = _figures(carriers)
    wanted = np.array([MODULATIONS[c.modulation].cn_db for c in carriers])
    clear = clear_sky(dish, sight.distance_km, sight.elevation_deg, f, eirp, width)
    disturbing = disturbances(sight, carriers, others)
    ci = interference_db(dish, disturbing, f)
    names = _strongest(disturbing, len(carriers))
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
    smallest = _smallest(dish, sight, disturbing, f, eirp, width, wanted, fade)
    available: list[float | None] = [None] * len(carriers)
    rain_margins = [gauge(None, "db", low=0.0)] * len(carriers)
    rains: list[float | None] = [None] * len(carriers)
    if wet is not None and curve is not None and attenuation is not None:
        left = _sum_ratios(
            clear.cn_db[:, None] - rain_fade_db(curve, dish.lnb_noise_db), ci[:, None]
        )
        enough = np.asarray(left >= wanted[:, None])
        reached = list(np.any(enough, axis=1))
        first = 100.0 - _PERCENTS[enough.argmax(axis=1)]
        available = [p if ok else None for p, ok in zip(first.tolist(), reached, strict=True)]
        rain_margins = [
            gauge(m, "db", low=0.0, reserve=reserve_db) for m in (wet - wanted).tolist()
        ]
        rains = list(attenuation.tolist())
    terms = _terms(dish, clear, carriers, rains, availability_pct)
    figures = zip(carriers, wanted.tolist(), clear.cn_db.tolist(), ci.tolist(), names, total.tolist(),
                  rains, rain_margins, available, smallest, clear.level_dbuv.tolist(), terms, strict=True)  # fmt: skip
    return [
        LinkRow(
            c.id, c.name, c.frequency_mhz, c.polarisation, need, MODULATIONS[c.modulation].origin, cn,
            inter if math.isfinite(inter) else None, name, both,
            gauge(both - need, "db", low=0.0, reserve=reserve_db), rain, rain_margin, percent, size,
            level, own,
        )
        for c, need, cn, inter, name, both, rain, rain_margin, percent, size, level, own in figures
    ]  # fmt: skip


def _against_level(carrier: Carrier, tilt_deg: float) -> float:
    """Tilt of a carrier's polarisation against level at the site [deg], 45 for circular."""
    if carrier.polarisation in ("L", "R"):
        return 45.0
    return tilt_deg if carrier.polarisation == "H" else 90.0 + tilt_deg


def _strongest(disturbing: Sequence[Disturbance], count: int) -> list[str]:
    """The name of the neighbour that sends most on each carrier, empty where none does."""
    if not disturbing:
        return [""] * count
    shares = np.array([d.share for d in disturbing])
    best = shares.argmax(axis=0)
    return [disturbing[int(b)].name if shares[b, i] > 0 else "" for i, b in enumerate(best)]


def _smallest(
    dish: Dish, sight: Sight, disturbing: Sequence[Disturbance], f: Floats, eirp: Floats, width: Floats,
    wanted: Floats, fade: Floats | None,
) -> list[float | None]:  # fmt: skip
    """The least diameter that reaches the threshold, with rain once it is known, within about a
    twentieth [m]."""

    def enough(d: Floats) -> NDArray[np.bool_]:
        cn = clear_sky(dish, sight.distance_km, sight.elevation_deg, f, eirp, width, d).cn_db
        reached: NDArray[np.bool_] = (
            _sum_ratios(cn if fade is None else cn - fade, interference_db(dish, disturbing, f, d))
            >= wanted
        )
        return reached

    coarse = enough(_SIZES_M[:, None])
    first = coarse.argmax(axis=0)
    # Between the last size that is too small and the first that is enough, in eight steps.
    low, high = _SIZES_M[np.maximum(first - 1, 0)], _SIZES_M[first]
    steps = np.linspace(0, 1, 9)[:, None]
    tried = np.round((low + steps * (high - low)) * 20) / 20
    fine = enough(tried)
    found = tried[fine.argmax(axis=0), np.arange(len(f))].tolist()
    there: list[bool] = np.logical_and(coarse.any(axis=0), fine.any(axis=0)).tolist()
    return [size if ok else None for size, ok in zip(found, there, strict=True)]


def _terms(
    dish: Dish,
    clear: Clear,
    carriers: Sequence[Carrier],
    rains: Sequence[float | None],
    availability: float,
) -> list[list[LinkTerm]]:
    """The steps of every carrier; steps that change nothing are left out."""
    before = [("Air", -clear.air_db, "oxygen and vapour, practice value")]
    after = [
        step
        for step in (
            ("Pointing", -POINTING_DB, "left after peaking, practice value"),
            ("Skew", -dish.skew_loss_db, "from the lean of the mast"),
            ("Feed off focus", -dish.feed_loss_db, "several satellites on one dish"),
        )
        if step[1]
    ]
    wet = f"exceeded {100 - availability:.3g} % of the year"
    plate = f"{dish.diameter_m:g} m, {100 * dish.efficiency:.0f} % efficient"
    found = []
    for c, path, gain, rain in zip(
        carriers, clear.path_db.tolist(), clear.gain_dbi.tolist(), rains, strict=True
    ):
        level = c.power
        own = [LinkTerm("EIRP", level, level, "from the satellite's list")]
        steps = [("Free space", -path, "distance and frequency"), *before]
        if rain is not None:
            steps.append(("Rain", -rain, wet))
        for name, change, said in (
            *steps,
            *after,
            ("Dish gain", gain, plate),
            ("LNB gain", dish.lnb_gain_db, "to its output"),
        ):
            level += change
            own.append(LinkTerm(name, change, level, said))
        found.append(own)
    return found
