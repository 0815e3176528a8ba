"""What the antennas and LNBs give: the levels and C/N that the plant starts from."""

from __future__ import annotations

import math

import numpy as np

from ..aim.dishes import link_dish, lnb_part
from ..job import Antenna, Carrier, Job, Target
from ..parts import Band, Catalogue, PartType
from ..quantities import noise_dbuv
from ..sky.answer import dish_of
from ..sky.link import clear_sky
from ..sky.targets import Sight, field_strength_dbuvm, sights, terminal_level_dbuv
from .plant import Port, Sources


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


def terrestrial_level(
    antenna: Antenna, target: Target, carrier: Carrier, sight: Sight
) -> tuple[float, float]:
    """Level at the antenna's terminals [dBµV] and C/N against 290 K [dB] of a multiplex."""
    field = field_strength_dbuvm(carrier.power, sight.distance_km) - target.extra_loss_db
    level = terminal_level_dbuv(field, antenna.gain_dbi, carrier.frequency_mhz)
    return level, level - noise_dbuv(carrier.bandwidth_mhz)


def sources_of(job: Job, catalogue: Catalogue) -> Sources:
    """Every carrier of the job at the source port that gives it; without a port, NaN levels."""
    seen = sights(job)
    targets = {t.id: t for t in job.targets}
    arrays = {a.target: a for a in job.antennas if a.target and a.kind == "array"}
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
            antenna = arrays.get(key)
            part = source_parts.get(antenna.id) if antenna else None
            if antenna is None or part is None or catalogue.parts[part.type].kind == "lnb":
                continue
            for i in rows:
                if job.carriers[i].power > 0:
                    levels[i], ratios[i] = terrestrial_level(
                        antenna, target, job.carriers[i], sight
                    )
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
        clear = clear_sky(
            link_dish(job, antenna, target, kind.noise_db or 0.0, kind.lnb_gain_db),
            sight.distance_km, sight.elevation_deg, [c.frequency_mhz for c in own],
            [c.power for c in own], [c.bandwidth_mhz for c in own],
        )  # fmt: skip
        for n, (i, band) in enumerate(taken):
            slot = user_slot(kind, used.setdefault(part.id, 0))
            used[part.id] += 1
            frequencies[i] = (
                abs(own[n].frequency_mhz - band.lo_mhz)
                if slot is None
                else kind.user_bands[slot][0]
            )
            levels[i], ratios[i] = float(clear.level_dbuv[n]), float(clear.cn_db[n])
            ports[i] = (part.id, "out", band.output)
    return Sources(
        tuple(c.id for c in job.carriers),
        np.array(frequencies),
        np.array([c.bandwidth_mhz for c in job.carriers]),
        tuple(ports),
        np.array(levels),
        np.array(ratios),
    )
