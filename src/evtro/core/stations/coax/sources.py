"""What the antennas and LNBs give: the levels and C/N that the plant starts from."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from ...job import Carrier, Job
from ...job.targets import Sight, sights
from ...physics.geodesy import Floats
from ...plant.network import Port, Sources
from ...plant.parts import Band, Catalogue, PartType
from ..aim.array.terminals import is_for, terminals
from ..aim.dishes import link_dish, lnb_part, neighbours_of
from ..sky.answer import dish_of
from ..sky.link import Dish, Neighbour, both_db, clear_sky, disturbances, interference_db


def lnb_band(kind: PartType, carrier: Carrier) -> Band | None:
    """The LNB's band that converts a carrier, or None."""
    for band in kind.bands:
        inside = band.low_mhz <= carrier.frequency_mhz <= band.high_mhz
        if inside and carrier.polarisation in band.polarisations:
            return band
    return None


def user_slot(kind: PartType, index: int) -> int | None:
    """Which user band a tuner's carrier gets, by turns; None for an LNB without user bands."""
    return index % len(kind.user_bands) if kind.user_bands else None


Given = dict[str, tuple[str, float, float]]  # carrier: antenna, level [dBµV], C/N [dB]


def from_the_air(job: Job) -> Given:
    """Which antenna gives each terrestrial carrier, and how well: the one that is set on its
    transmitter, else the one that hears it strongest. Interference counts as noise."""
    given: Given = {}
    best: dict[str, tuple[int, float]] = {}
    for antenna in job.antennas:
        at = terminals(job, antenna)
        if at is None:
            continue
        for i, carrier in enumerate(at.incident.carriers):
            level, cn = float(at.level_dbuv[i]), float(at.cn_db[i])
            rank = (is_for(antenna, carrier), level)
            if carrier.id not in best or rank > best[carrier.id]:
                best[carrier.id] = rank
                given[carrier.id] = (antenna.id, level, cn)
    return given


@lru_cache(maxsize=64)
def _through_the_dish(
    dish: Dish, sight: Sight, own: tuple[Carrier, ...], others: tuple[Neighbour, ...]
) -> tuple[Floats, Floats]:
    """Level [dBµV] and C/N [dB] of a satellite's carriers at the LNB's output, what disturbs counted."""
    waves = np.array([c.frequency_mhz for c in own])
    clear = clear_sky(
        dish, sight.distance_km, elevation_deg=sight.elevation_deg, frequency_mhz=waves, eirp_dbw=[c.power for c in own],
        bandwidth_mhz=[c.bandwidth_mhz for c in own],
    )  # fmt: skip
    disturbing = disturbances(sight, own, others, dish.skew_error_deg)
    return clear.level_dbuv, both_db(clear.cn_db, interference_db(dish, disturbing, waves))


def sources_of(job: Job, catalogue: Catalogue, given: Given, around: Job | None = None) -> Sources:
    """Every carrier of the job at the source port that gives it; without a port, NaN levels.
    `given` is what the terrestrial antennas hear, `around` the job with the satellites that nobody
    wants: they disturb all the same, and what disturbs counts as noise."""
    seen = sights(job)
    targets = {t.id: t for t in job.targets}
    source_parts = {p.antenna: p for p in job.parts if p.antenna}
    count = len(job.carriers)
    ports: list[Port | None] = [None] * count
    frequencies = [c.frequency_mhz for c in job.carriers]
    levels, ratios = [math.nan] * count, [math.nan] * count
    used: dict[str, int] = {}
    by_target: dict[str, list[int]] = {}
    for i, carrier in enumerate(job.carriers):
        by_target.setdefault(carrier.target, []).append(i)
    for key, rows in by_target.items():
        target, sight = targets[key], seen.get(key)
        if sight is None:
            continue
        if target.kind == "transmitter":
            for i in rows:
                heard = given.get(job.carriers[i].id)
                part = source_parts.get(heard[0]) if heard else None
                if heard is None or part is None or catalogue.parts[part.type].kind == "lnb":
                    continue
                _, levels[i], ratios[i] = heard
                ports[i] = (part.id, "out", 0)
            continue
        antenna = dish_of(job, key)
        part = lnb_part(job, antenna, key) if antenna else None
        kind = catalogue.parts.get(part.type) if part else None
        if (
            antenna is None
            or part is None
            or kind is None
            or kind.kind != "lnb"
            or not sight.visible
        ):
            continue
        taken = [(i, b) for i in rows if (b := lnb_band(kind, job.carriers[i])) is not None]
        if not taken:
            continue
        own = [job.carriers[i] for i, _ in taken]
        dish = link_dish(
            job,
            antenna,
            target=target,
            lnb_noise_db=kind.noise_db or 0.0,
            lnb_gain_db=kind.lnb_gain_db,
        )
        level, ratio = _through_the_dish(
            dish, sight, tuple(own), tuple(neighbours_of(around or job, target))
        )
        for n, (i, band) in enumerate(taken):
            slot = user_slot(kind, used.setdefault(part.id, 0))
            used[part.id] += 1
            frequencies[i] = (
                abs(own[n].frequency_mhz - band.lo_mhz)
                if slot is None
                else kind.user_bands[slot][0]
            )
            levels[i], ratios[i] = float(level[n]), float(ratio[n])
            ports[i] = (part.id, "out", band.output)
    return Sources(
        ids=tuple(c.id for c in job.carriers),
        frequency_mhz=np.array(frequencies),
        bandwidth_mhz=np.array([c.bandwidth_mhz for c in job.carriers]),
        port=tuple(ports),
        level_dbuv=np.array(levels),
        cn_db=np.array(ratios),
    )
