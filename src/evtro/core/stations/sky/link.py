"""The link from a satellite to the LNB's output, term by term, in clear sky and in rain."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ...job import Carrier
from ...job.targets import Sight
from ...physics.beams import LIGHT_M_MHZ, free_space_loss_db, pattern_gain_dbi
from ...physics.geodesy import Floats, half_turn, sky_separation_deg
from ...physics.modulation import MODULATIONS
from ...physics.propagation.air import STANDARD, Air, gas_db, ground_k, sky_k
from ...physics.propagation.rain import Climate, attenuation_db
from ...units.phrases import say
from ...units.quantities import (
    BOLTZMANN_DBM_PER_HZ_K,
    DBM_TO_DBUV,
    T0_K,
    Gauge,
    Phrase,
    Quantity,
    gauge,
)

# What dish and LNB let through of the other polarisation on their axis; common practice, no source.
CROSS_DB = 27.0
POINTING_DB = 0.3  # left after a good peaking and some wind; common practice, no source
# Diameters tried first; between two of them lie eight finer ones.
_SIZES_M = np.array([0.3, 0.4, 0.5, 0.65, 0.8, 1.0, 1.3, 1.7, 2.1, 2.9, 4.5, 7.7, 12.0])
_PERCENTS = np.logspace(-3, 1, 81)


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
class NeighbourSatellite:
    """Another satellite with the carriers that may disturb; how its polarisation is tilted here
    [deg], None for circular."""

    name: str
    azimuth_deg: float
    elevation_deg: float
    carriers: tuple[Carrier, ...]
    tilt_deg: float | None = 0.0


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


@dataclass(slots=True)
class LinkTerm:
    """One step of the waterfall: what it is, its change [dB] and the power after it [dBW]."""

    name: str
    change_db: float
    after_dbw: float
    said: Phrase


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
    dish: ReceivingDish, range_km: float, elevation_deg: float, frequency_mhz: ArrayLike,
    eirp_dbw: ArrayLike, bandwidth_mhz: ArrayLike, diameter_m: ArrayLike | None = None,
    air: Air = STANDARD,
) -> Clear:  # fmt: skip
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
    return Clear(gain_dbi=gain, path_db=path, air_db=gas, sky_k=sky, ground_k=warm, received_dbm=received, noise_dbm=noise, cn_db=received - noise,
                 level_dbuv=received + dish.lnb_gain_db + DBM_TO_DBUV)  # fmt: skip


def rain_fade_db(attenuation: ArrayLike, air_db: ArrayLike, warm_k: float) -> Floats:
    """What rain takes from C/N [dB]: its attenuation, and the noise of the warm rain. `air_db` is
    what the clear air takes, `warm_k` what ground and LNB add. Reference: ITU-R P.618-13, 3."""
    a, gas = np.asarray(attenuation, float), np.asarray(air_db, float)
    wet, clear = sky_k(gas + a) + warm_k, sky_k(gas) + warm_k
    return np.asarray(a + 10 * np.log10(wet / clear))


@dataclass(frozen=True)
class Disturbance:
    """What arrives on each carrier besides it, before the dish's pattern: from how far on the sky
    [deg] and the ratio of powers for each carrier."""

    name: str
    away_deg: float
    share: Floats


OTHER_POLARISATION = "its own other polarisation"


def disturbances(
    sight: Sight, carriers: Sequence[Carrier], others: Sequence[NeighbourSatellite], skew_error_deg: float = 0.0,
) -> list[Disturbance]:  # fmt: skip
    """What shares the frequency of at least one carrier: neighbours, as far as their polarisation
    falls into this one, and the same satellite's other polarisation, as far as a wrong skew lets it
    in: sin² over cos² of the error. Between linear and circular half of the power passes."""
    if not carriers:
        return []
    f, width, eirp, pol = figures(carriers)
    found = []
    own = tuple(carriers)
    for name, tilt, az, el, rows in (
        (OTHER_POLARISATION, sight.tilt_deg, sight.azimuth_deg, sight.elevation_deg, own),
        *((o.name, o.tilt_deg, o.azimuth_deg, o.elevation_deg, o.carriers) for o in others),
    ):
        if not rows:
            continue
        of, ow, oe, op = figures(rows)
        shared = np.minimum((f + width / 2)[:, None], of + ow / 2)
        shared -= np.maximum((f - width / 2)[:, None], of - ow / 2)
        np.maximum(shared, 0.0, out=shared)
        turn = (0.0 if tilt is None else tilt - sight.tilt_deg) - skew_error_deg
        shared *= _coupling(pol, op, turn, rows is own)
        power = shared @ (10 ** (oe / 10) / ow) / 10 ** (eirp / 10)
        if power.any():
            away = 0.0
            if rows is not own:
                # Against what is left of the carrier itself.
                power = power / math.cos(math.radians(min(abs(skew_error_deg), 89.0))) ** 2
                away = float(sky_separation_deg(sight.azimuth_deg, sight.elevation_deg, az, el))
            found.append(Disturbance(name, away, power))
    return found


_LETTERS = "HVLR"


def _coupling(pol: Floats, other: Floats, turn_deg: float, own: bool) -> Floats:
    """How much of another carrier's power falls into each carrier's polarisation, against what the
    carrier keeps of its own; shape (carriers, others). Of the own satellite the same polarisation
    is the carrier itself, which does not disturb."""
    across = math.tan(math.radians(min(abs(float(half_turn(turn_deg))), 89.0))) ** 2
    leak = 10 ** (-CROSS_DB / 10)
    cross = across + leak if own else max(across / (1 + across), leak)
    same, alike = (0.0, 0.0) if own else (1.0 / (1.0 + across), 1.0)
    table = np.array([
        [same, cross, 0.5, 0.5], [cross, same, 0.5, 0.5], [0.5, 0.5, alike, leak], [0.5, 0.5, leak, alike],
    ])  # fmt: skip
    return np.asarray(table[np.ix_(_letters(pol), _letters(other))])


def _letters(pol: Floats) -> NDArray[np.int64]:
    """Places of polarisations, given as the codes of their letters, in `_LETTERS`."""
    codes = np.array([ord(c) for c in _LETTERS], float)
    return np.asarray((pol[:, None] == codes[None, :]).argmax(axis=1), np.int64)


def figures(carriers: Sequence[Carrier]) -> tuple[Floats, Floats, Floats, Floats]:
    """Frequency, bandwidth [MHz], EIRP [dBW] and the code of the polarisation's letter."""
    rows = np.array(
        [(c.frequency_mhz, c.bandwidth_mhz, c.power, ord(c.polarisation)) for c in carriers], float
    )
    return rows[:, 0], rows[:, 1], rows[:, 2], rows[:, 3]


def contributions(
    dish: ReceivingDish, found: Sequence[Disturbance], frequency_mhz: Floats, diameter_m: ArrayLike | None = None,
) -> Floats:  # fmt: skip
    """What each disturbance puts on each carrier through the dish's pattern, as a ratio of powers;
    the disturbances along the first axis. Diameters of shape (m, 1) give (found, m, carriers)."""
    d = np.asarray(dish.diameter_m if diameter_m is None else diameter_m, float)
    shape = np.broadcast_shapes(d.shape, frequency_mhz.shape)
    if not found:
        return np.zeros((0, *shape))
    axis = 10 * np.log10(dish.efficiency * (np.pi * d * frequency_mhz / LIGHT_M_MHZ) ** 2)
    rows = []
    for each in found:
        if each.away_deg == 0:
            rows.append(np.broadcast_to(each.share, shape))
            continue
        drop = pattern_gain_dbi(each.away_deg, d, frequency_mhz, dish.efficiency) - axis
        rows.append(each.share * 10 ** (drop / 10))
    return np.array(rows)


def interference_db(
    dish: ReceivingDish, found: Sequence[Disturbance], frequency_mhz: Floats, diameter_m: ArrayLike | None = None,
) -> Floats:  # fmt: skip
    """Ratio of each carrier to all that disturbs it [dB], inf where nothing does."""
    with np.errstate(divide="ignore"):
        return np.asarray(
            -10 * np.log10(contributions(dish, found, frequency_mhz, diameter_m).sum(axis=0))
        )


def both_db(cn: Floats, ci: Floats) -> Floats:
    """Carrier to noise and interference together [dB]."""
    found: Floats = -10 * np.log10(10 ** (-cn / 10) + 10 ** (-ci / 10))
    return found


def link(
    dish: ReceivingDish, sight: Sight, latitude_deg: float, height_m: float, carriers: Sequence[Carrier],
    others: Sequence[NeighbourSatellite], climate: Climate | None, availability_pct: float, reserve_db: float,
) -> list[LinkRow]:  # fmt: skip
    """The link of every carrier of a satellite; rain is left out while the climate is not known."""
    if not carriers or not sight.visible:
        return []
    f, width, eirp, _ = figures(carriers)
    wanted = np.array([MODULATIONS[c.modulation].cn_db for c in carriers])
    air = climate.air if climate is not None else STANDARD
    clear = clear_sky(
        dish,
        sight.distance_km,
        elevation_deg=sight.elevation_deg,
        frequency_mhz=f,
        eirp_dbw=eirp,
        bandwidth_mhz=width,
        air=air,
    )
    disturbing = disturbances(sight, carriers, others, dish.skew_error_deg)
    parts = contributions(dish, disturbing, f)
    with np.errstate(divide="ignore"):
        ci: Floats = -10 * np.log10(parts.sum(axis=0))
    names = _strongest(disturbing, parts)
    warm = clear.ground_k + noise_k(dish.lnb_noise_db)
    total = both_db(clear.cn_db, ci)
    fade = attenuation = wet = None
    curve: Floats | None = None
    if climate is not None:
        tilt = np.array([_against_level(c, sight.tilt_deg) for c in carriers])
        p = 100.0 - availability_pct
        attenuation = attenuation_db(
            climate,
            latitude_deg,
            height_m=height_m,
            frequency_mhz=f,
            elevation_deg=sight.elevation_deg,
            tilt_deg=tilt,
            exceeded_pct=p,
        )
        fade = rain_fade_db(attenuation, clear.air_db, warm)
        wet = both_db(clear.cn_db - fade, ci)
        curve = attenuation_db(climate, latitude_deg, height_m=height_m, frequency_mhz=f[:, None], elevation_deg=sight.elevation_deg,
                               tilt_deg=tilt[:, None], exceeded_pct=_PERCENTS[None, :])  # fmt: skip
    smallest = smallest_m(
        dish,
        sight,
        disturbing=disturbing,
        f=f,
        eirp=eirp,
        width=width,
        wanted=wanted,
        fade=fade,
        air=air,
    )
    available: list[float | None] = [None] * len(carriers)
    rain_margins = [gauge(None, "db", low=0.0)] * len(carriers)
    rains: list[float | None] = [None] * len(carriers)
    if wet is not None and curve is not None and attenuation is not None:
        left = both_db(
            clear.cn_db[:, None] - rain_fade_db(curve, clear.air_db[:, None], warm), ci[:, None]
        )
        enough = np.asarray(left >= wanted[:, None])
        reached = list(np.any(enough, axis=1))
        first = 100.0 - _PERCENTS[enough.argmax(axis=1)]
        available = [p if ok else None for p, ok in zip(first.tolist(), reached, strict=True)]
        rain_margins = [
            gauge(m, "db", low=0.0, reserve=reserve_db) for m in (wet - wanted).tolist()
        ]
        rains = list(attenuation.tolist())
    terms = _terms(
        dish, clear, carriers=carriers, rains=rains, availability=availability_pct, air=air
    )
    need, ratio, between, both = (a.tolist() for a in (wanted, clear.cn_db, ci, total))
    level = clear.level_dbuv.tolist()
    return [
        LinkRow(
            carrier=c.id, name=c.name, frequency_mhz=c.frequency_mhz, polarisation=c.polarisation,
            wanted_db=need[i], wanted_origin=MODULATIONS[c.modulation].origin, cn_db=ratio[i],
            interference_db=between[i] if math.isfinite(between[i]) else None, disturber=names[i],
            total_db=both[i], margin=gauge(both[i] - need[i], "db", low=0.0, reserve=reserve_db),
            rain_db=rains[i], rain_margin=rain_margins[i], available_pct=available[i],
            smallest_m=smallest[i], level_dbuv=level[i], terms=terms[i],
        )
        for i, c in enumerate(carriers)
    ]  # fmt: skip


def _against_level(carrier: Carrier, tilt_deg: float) -> float:
    """Tilt of a carrier's polarisation against level at the site [deg], 45 for circular."""
    if carrier.polarisation in ("L", "R"):
        return 45.0
    return tilt_deg if carrier.polarisation == "H" else 90.0 + tilt_deg


def _strongest(disturbing: Sequence[Disturbance], parts: Floats) -> list[str]:
    """The name of what disturbs each carrier most, empty where nothing does."""
    if not disturbing:
        return [""] * parts.shape[-1]
    best = parts.argmax(axis=0)
    return [disturbing[int(b)].name if parts[b, i] > 0 else "" for i, b in enumerate(best)]


def smallest_m(
    dish: ReceivingDish, sight: Sight, disturbing: Sequence[Disturbance], f: Floats, eirp: Floats, width: Floats,
    wanted: Floats, fade: Floats | None, air: Air,
) -> list[float | None]:  # fmt: skip
    """The least diameter that reaches the threshold, with rain once it is known, within about a
    twentieth [m]."""

    def enough(d: Floats) -> NDArray[np.bool_]:
        cn = clear_sky(
            dish,
            sight.distance_km,
            elevation_deg=sight.elevation_deg,
            frequency_mhz=f,
            eirp_dbw=eirp,
            bandwidth_mhz=width,
            diameter_m=d,
            air=air,
        ).cn_db
        reached: NDArray[np.bool_] = (
            both_db(cn if fade is None else cn - fade, interference_db(dish, disturbing, f, d))
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
    dish: ReceivingDish,
    clear: Clear,
    carriers: Sequence[Carrier],
    rains: Sequence[float | None],
    availability: float,
    air: Air,
) -> list[list[LinkTerm]]:
    """The steps of every carrier; steps that change nothing are left out."""
    after = [
        step
        for step in (
            ("Pointing", -POINTING_DB, "left after peaking, practice value"),
            ("Skew", -dish.skew_loss_db, "from the lean of the mast"),
            ("Feed off focus", -dish.feed_loss_db, "several satellites on one dish"),
        )
        if abs(step[1]) >= 0.005
    ]
    wet = f"exceeded {100 - availability:.3g} % of the year"
    plate = say(
        "{}, {} efficient",
        Quantity(dish.diameter_m, "m", 2),
        Quantity(100 * dish.efficiency, "pct", 0),
    )
    found = []
    paths, gains, air_db = (a.tolist() for a in (clear.path_db, clear.gain_dbi, clear.air_db))
    for i, c in enumerate(carriers):
        path, gain, rain, gas = paths[i], gains[i], rains[i], air_db[i]
        level = c.power
        own = [LinkTerm("EIRP", level, level, ("from the satellite's list",))]
        steps = [("Free space", -path, "distance and frequency"), ("Air", -gas, air.words)]
        if rain is not None:
            steps.append(("Rain", -rain, wet))
        for name, change, said in (
            *steps,
            *after,
            ("Dish gain", gain, plate),
            ("LNB gain", dish.lnb_gain_db, "to its output"),
        ):
            level += change
            own.append(LinkTerm(name, change, level, said if isinstance(said, tuple) else (said,)))
        found.append(own)
    return found
