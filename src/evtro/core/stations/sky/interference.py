"""What disturbs the carriers of a satellite: its neighbours, and its own other polarisation."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ...job import Carrier
from ...job.targets import Sight
from ...physics.beams import LIGHT_M_MHZ, pattern_gain_dbi
from ...physics.geodesy import Floats, half_turn, sky_separation_deg
from .receiving import ReceivingDish

# What dish and LNB let through of the other polarisation on their axis; common practice, no source.
CROSS_DB = 27.0


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
class Disturbance:
    """What arrives on each carrier besides it, before the dish's pattern: from how far on the sky
    [deg] and the ratio of powers for each carrier."""

    name: str
    away_deg: float
    share: Floats


OTHER_POLARISATION = "its own other polarisation"


def disturbances(
    sight: Sight,
    carriers: Sequence[Carrier],
    others: Sequence[NeighbourSatellite],
    skew_error_deg: float = 0.0,
) -> list[Disturbance]:
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
    table = np.array(
        [
            [same, cross, 0.5, 0.5],
            [cross, same, 0.5, 0.5],
            [0.5, 0.5, alike, leak],
            [0.5, 0.5, leak, alike],
        ]
    )
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
    dish: ReceivingDish,
    found: Sequence[Disturbance],
    frequency_mhz: Floats,
    diameter_m: ArrayLike | None = None,
) -> Floats:
    """What each disturbance puts on each carrier through the dish's pattern, as a ratio of powers [1];
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
    dish: ReceivingDish,
    found: Sequence[Disturbance],
    frequency_mhz: Floats,
    diameter_m: ArrayLike | None = None,
) -> Floats:
    """Ratio of each carrier to all that disturbs it [dB], inf where nothing does."""
    with np.errstate(divide="ignore"):
        return np.asarray(
            -10 * np.log10(contributions(dish, found, frequency_mhz, diameter_m).sum(axis=0))
        )


def both_db(cn: Floats, ci: Floats) -> Floats:
    """Carrier to noise and interference together [dB]."""
    found: Floats = -10 * np.log10(10 ** (-cn / 10) + 10 ** (-ci / 10))
    return found


def strongest(disturbing: Sequence[Disturbance], parts: Floats) -> list[str]:
    """The name of what disturbs each carrier most, empty where nothing does."""
    if not disturbing:
        return [""] * parts.shape[-1]
    best = parts.argmax(axis=0)
    return [disturbing[int(b)].name if parts[b, i] > 0 else "" for i, b in enumerate(best)]
