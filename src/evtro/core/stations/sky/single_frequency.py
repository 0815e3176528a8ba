"""Single-frequency networks: what arrives inside the guard interval helps, what comes later or
earlier disturbs."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ...job import Carrier
from ...physics.geodesy import Floats
from ...physics.modulation import MODULATIONS

LIGHT_KM_US = 0.299792458
# How much of an echo beyond the guard a receiver's equaliser still uses, of the useful symbol.
EQUALISER_SHARE = 7 / 24  # EBU Tech 3348, ITU-R BT.1368 (from memory)
# System: bandwidth for which the times stand [MHz], useful symbol and usual guard interval [µs].
_FRAMES: dict[str, tuple[float, float, float, str]] = {
    "DVB-T": (7.61, 896.0, 224.0, "EN 300 744, 8k, guard 1/4 (from memory)"),
    "DVB-T2": (7.61, 3584.0, 224.0, "EN 302 755, 32k, guard 1/16 (from memory)"),
    "ISDB-T": (5.57, 1008.0, 126.0, "ARIB STD-B31, mode 3, guard 1/8 (from memory)"),
    "DTMB": (7.56, 500.0, 55.6, "GB 20600, PN 420 (from memory)"),
    "DAB": (1.536, 1000.0, 246.0, "EN 300 401, mode I (from memory)"),
    "ATSC 3.0": (5.71, 2370.0, 148.0, "ATSC A/322, 16k, guard 1024 (from memory)"),
    # No guard interval: what its equaliser reaches.
    "ATSC": (5.38, 0.0, 40.0, "reach of an equaliser, common practice, no source"),
}


@dataclass(frozen=True)
class Frame:
    """The useful part of a symbol and the guard interval before it [µs], and whose figures."""

    useful_us: float
    guard_us: float
    origin: str


def frame_of(carrier: Carrier) -> Frame | None:
    """Symbol and guard interval of a carrier; None for a system that makes no such networks. Times
    grow as the bandwidth shrinks."""
    found = _FRAMES.get(MODULATIONS[carrier.modulation].system)
    if found is None:
        return None
    width, useful, guard, origin = found
    scale = width / carrier.bandwidth_mhz if useful else 1.0
    # A channel's bandwidth is written in many ways: only a change of raster counts.
    scale = scale if abs(scale - 1) > 0.1 else 1.0
    if carrier.guard_us is not None:
        return Frame(useful * scale, carrier.guard_us, "typed")
    return Frame(useful * scale, guard * scale, origin)


def weight(delay_us: ArrayLike, frame: Frame) -> Floats:
    """How much of an arrival is useful, 0 to 1, by its delay against the receiver's window [µs]: all
    of it inside the guard interval, falling by the square beyond, nothing past the equaliser's reach;
    the same before the window. The rest of its power is interference. Reference: EBU Tech 3348."""
    t = np.asarray(delay_us, float)
    over = np.where(t < 0, -t, np.maximum(t - frame.guard_us, 0.0))
    if frame.useful_us <= 0:
        return np.asarray(over <= 0, float)
    part = ((frame.useful_us - over) / frame.useful_us) ** 2
    return np.asarray(np.where(over <= frame.useful_us * EQUALISER_SHARE, part, 0.0))


def arrivals_us(distance_km: ArrayLike, delay_us: ArrayLike) -> Floats:
    """When each transmitter's signal arrives [µs]: its way at the speed of light, and the delay that
    its network gave it."""
    return np.asarray(np.asarray(distance_km, float) / LIGHT_KM_US + np.asarray(delay_us, float))


def window_start_us(at_us: Floats, power: Floats, own: int, frame: Frame) -> float:
    """Where a receiver that takes one of the arrivals puts its window so that most of the others'
    power falls inside [µs]."""
    near = (at_us <= at_us[own]) & (at_us >= at_us[own] - frame.guard_us)
    starts = at_us[near]
    useful = [(power * weight(at_us - s, frame)).sum() for s in starts]
    return float(starts[int(np.argmax(useful))])


def networks_of(carriers: tuple[Carrier, ...], frequency_mhz: Floats) -> list[list[int]]:
    """Rows of each single-frequency network: one name on one frequency."""
    rows: dict[tuple[str, int], list[int]] = {}
    for i, carrier in enumerate(carriers):
        if carrier.network:
            rows.setdefault((carrier.network, round(float(frequency_mhz[i]) * 100)), []).append(i)
    return [r for r in rows.values() if len(r) > 1]


def within_networks(
    carriers: tuple[Carrier, ...], frequency_mhz: Floats, at_us: Floats, power: Floats
) -> tuple[Floats, Floats]:
    """What the carriers (rows) of one network put on each other (columns) as disturbance and as
    help, as shares of their power [1]; shape (carriers, carriers)."""
    count = len(carriers)
    harm, helped = np.zeros((count, count)), np.zeros((count, count))
    for rows in networks_of(carriers, frequency_mhz):
        index = np.array(rows)
        for n, j in enumerate(rows):
            frame = frame_of(carriers[j])
            if frame is None:
                harm[index, j] = 1.0
            else:
                start = window_start_us(at_us[index], power[index], n, frame)
                useful = weight(at_us[index] - start, frame)
                harm[index, j], helped[index, j] = 1.0 - useful, useful
            harm[j, j] = helped[j, j] = 0.0
    return harm, helped
