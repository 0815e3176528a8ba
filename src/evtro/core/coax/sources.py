"""What the antennas and LNBs give: the levels and C/N that the plant starts from."""

from __future__ import annotations

import math

import numpy as np

from ..antennas import dish_gain_dbi, free_space_loss_db
from ..job import Antenna, Carrier, Job, Target
from ..parts import Band, Catalogue, PartType
from ..quantities import BOLTZMANN_DBM_PER_HZ_K, DBM_TO_DBUV, T0_K, noise_dbuv
from ..sky.targets import Sight, field_strength_dbuvm, sights, terminal_level_dbuv
from .plant import Port, Sources

CLEAR_SKY_K = 40.0  # antenna noise of a small dish under clear sky; common practice, no source


def lnb_band(kind: PartType, carrier: Carrier) -> Band | None:
    """The LNB's band that converts a carrier, or None."""
    for band in kind.bands:
        inside = band.low_mhz <= carrier.frequency_mhz <= band.high_mhz
        if inside and carrier.polarisation in band.polarisations:
            return band
    return None


def satellite_level(
    antenna: Antenna, kind: PartType, carrier: Carrier, sight: Sight
) -> tuple[float, float]:
    """Level at the LNB's output [dBµV] and clear-sky C/N [dB] of a transponder.

    EIRP - free-space loss + dish gain; noise of clear sky and LNB. Rain and gas are left out.
    """
    path = float(free_space_loss_db(sight.distance_km, carrier.frequency_mhz))
    gain = dish_gain_dbi(antenna.diameter_m, carrier.frequency_mhz, antenna.efficiency)
    received_dbm = carrier.power + 30 - path + gain
    lnb_k = T0_K * (10 ** ((kind.noise_db or 0.0) / 10) - 1)
    noise_dbm = (
        BOLTZMANN_DBM_PER_HZ_K
        + 10 * math.log10(CLEAR_SKY_K + lnb_k)
        + 10 * math.log10(carrier.bandwidth_mhz * 1e6)
    )
    return received_dbm + kind.lnb_gain_db + DBM_TO_DBUV, received_dbm - noise_dbm


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
    by_target = {a.target: a for a in job.antennas if a.target}
    source_parts = {p.antenna: p for p in job.parts if p.antenna}
    ports: list[Port | None] = []
    frequencies, levels, ratios = [], [], []
    for carrier in job.carriers:
        antenna = by_target.get(carrier.target)
        sight = seen.get(carrier.target)
        part = source_parts.get(antenna.id) if antenna else None
        kind = catalogue.parts.get(part.type) if part else None
        frequency, level, ratio = carrier.frequency_mhz, math.nan, math.nan
        port: Port | None = None
        target = targets[carrier.target]
        if antenna and sight and kind and part:
            if kind.kind == "lnb":
                band = lnb_band(kind, carrier)
                if band is not None and sight.visible:
                    frequency = abs(carrier.frequency_mhz - band.lo_mhz)
                    level, ratio = satellite_level(antenna, kind, carrier, sight)
                    port = (part.id, "out", band.output)
            elif target.kind == "transmitter" and carrier.power > 0:
                level, ratio = terrestrial_level(antenna, target, carrier, sight)
                port = (part.id, "out", 0)
        ports.append(port)
        frequencies.append(frequency)
        levels.append(level)
        ratios.append(ratio)
    return Sources(
        tuple(c.id for c in job.carriers),
        np.array(frequencies),
        np.array([c.bandwidth_mhz for c in job.carriers]),
        tuple(ports),
        np.array(levels),
        np.array(ratios),
    )
