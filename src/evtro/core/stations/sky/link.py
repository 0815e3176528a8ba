"""The link from a satellite to the LNB's output, term by term, in clear sky and in rain."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...job import Carrier
from ...job.targets import Sight
from ...physics.geodesy import Floats
from ...physics.modulation import MODULATIONS
from ...physics.propagation.air import STANDARD, Air
from ...physics.propagation.rain import Climate, attenuation_db
from ...units.phrases import say
from ...units.quantities import (
    Gauge,
    Phrase,
    Quantity,
    gauge,
)
from .interference import (
    Disturbance,
    NeighbourSatellite,
    both_db,
    contributions,
    disturbances,
    figures,
    interference_db,
    strongest,
)
from .receiving import POINTING_DB, Clear, ReceivingDish, clear_sky, noise_k, rain_fade_db

# Diameters tried first; between two of them lie eight finer ones.
_SIZES_M = np.array([0.3, 0.4, 0.5, 0.65, 0.8, 1.0, 1.3, 1.7, 2.1, 2.9, 4.5, 7.7, 12.0])
_PERCENTS = np.logspace(-3, 1, 81)


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


def link(
    dish: ReceivingDish,
    sight: Sight,
    latitude_deg: float,
    height_m: float,
    carriers: Sequence[Carrier],
    others: Sequence[NeighbourSatellite],
    climate: Climate | None,
    availability_pct: float,
    reserve_db: float,
) -> list[LinkRow]:
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
    names = strongest(disturbing, parts)
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
        curve = attenuation_db(
            climate,
            latitude_deg,
            height_m=height_m,
            frequency_mhz=f[:, None],
            elevation_deg=sight.elevation_deg,
            tilt_deg=tilt[:, None],
            exceeded_pct=_PERCENTS[None, :],
        )
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
            carrier=c.id,
            name=c.name,
            frequency_mhz=c.frequency_mhz,
            polarisation=c.polarisation,
            wanted_db=need[i],
            wanted_origin=MODULATIONS[c.modulation].origin,
            cn_db=ratio[i],
            interference_db=between[i] if math.isfinite(between[i]) else None,
            disturber=names[i],
            total_db=both[i],
            margin=gauge(both[i] - need[i], "db", low=0.0, reserve=reserve_db),
            rain_db=rains[i],
            rain_margin=rain_margins[i],
            available_pct=available[i],
            smallest_m=smallest[i],
            level_dbuv=level[i],
            terms=terms[i],
        )
        for i, c in enumerate(carriers)
    ]


def _against_level(carrier: Carrier, tilt_deg: float) -> float:
    """Tilt of a carrier's polarisation against level at the site [deg], 45 for circular."""
    if carrier.polarisation in ("L", "R"):
        return 45.0
    return tilt_deg if carrier.polarisation == "H" else 90.0 + tilt_deg


def smallest_m(
    dish: ReceivingDish,
    sight: Sight,
    disturbing: Sequence[Disturbance],
    f: Floats,
    eirp: Floats,
    width: Floats,
    wanted: Floats,
    fade: Floats | None,
    air: Air,
) -> list[float | None]:
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
