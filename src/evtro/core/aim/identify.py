"""Which satellite is it? From what locks to the name, the proof, and the way to the wanted one."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..geodesy import Floats, sky_separation_deg
from ..job import Carrier, Lock
from ..quantities import InputError, State

# How well a meter's figures fit a list: an LNB's oscillator drifts, a receiver finds a symbol rate
# within a part in a hundred. Common practice, no source.
FREQUENCY_MHZ = 3.0
SYMBOL_SHARE = 0.012
HIT, MISS = 0.94, 0.015  # a listed carrier locks; something unlisted locks at the same figures
NO_LOCK_THERE, NO_LOCK_ELSE = 0.12, 0.97


@dataclass(frozen=True)
class Seen:
    """A satellite that the dish may be on: where it stands [deg] and its carriers."""

    target: str
    name: str
    azimuth_deg: float
    elevation_deg: float
    wanted: bool
    carriers: tuple[Carrier, ...]


@dataclass(frozen=True)
class Candidate:
    """One satellite with the weight of the evidence, 0 to 1, and what spoke for and against it."""

    target: str
    name: str
    likelihood: float
    azimuth_deg: float
    elevation_deg: float
    agreeing: list[str]
    against: list[str]


@dataclass(frozen=True)
class NextTry:
    """The carrier whose lock, or failure to lock, says most."""

    frequency_mhz: float
    polarisation: str
    symbol_mbd: float
    if_on: str
    gain_bits: float


@dataclass(frozen=True)
class Identity:
    """Who it is, how sure, what to try next, and the way to the wanted one."""

    candidates: list[Candidate]
    name: str | None
    confidence: float
    state: State
    following: NextTry | None
    turn_azimuth_deg: float | None
    turn_elevation_deg: float | None
    words: str
    way: str


def identify(
    seen: Sequence[Seen], locks: Sequence[Lock], aimed_at: tuple[float, float] | None,
    aim_error_deg: float, wanted: str | None,
) -> Identity:  # fmt: skip
    """Rank the satellites within reach by what locked and what did not.

    Before anything locks, a satellite near to where the dish was set is likelier, as the tools'
    error says. Raises InputError for a symbol rate of nothing.
    """
    for lock in locks:
        if not lock.symbol_mbd > 0:
            raise InputError("Symbol rate", "a carrier of 0 MBd carries nothing.",
                             "Read it off the meter or the list.", "symbol-zero")  # fmt: skip
    up = [s for s in seen if s.elevation_deg > 0]
    if not up:
        return Identity([], None, 0.0, "todo", None, None, None,
                        "No satellite is listed within sight: load a list at Sky first.", "")  # fmt: skip
    weight = np.array([_prior(s, aimed_at, aim_error_deg) for s in up])
    for lock in locks:
        weight = weight + np.log([_evidence(s, lock) for s in up])
    share = np.exp(weight - weight.max())
    # Whatever is on no list may still be what shines in.
    unknown = math.exp(
        min(sum(math.log(MISS * 2 if k.locked else 0.9) for k in locks) - float(weight.max()), 0)
    )
    share = share / (share.sum() + unknown * 0.02)
    order = np.argsort(-share, kind="stable")
    ranked = [_candidate(up[i], float(share[i]), locks) for i in order]
    best = up[int(order[0])]
    told = [k for k in locks if k.locked]
    sure = float(share[order[0]])
    following = _next_try(up, share, locks)
    if not told:
        return Identity(ranked, None, 0.0, "todo", following, None, None,
                        "Nothing has locked yet. Try the carrier below.", "")  # fmt: skip
    on_wanted = best.target == wanted
    state: State = "in" if on_wanted and sure >= 0.9 else "out" if sure >= 0.9 else "near"
    target = next((s for s in up if s.target == wanted), None)
    words = f"This is {best.name}" if sure >= 0.9 else f"Probably {best.name}, not yet sure"
    if sure >= 0.9 and not on_wanted and target is not None:
        words += f", not {target.name}"
    d_az = d_el = None
    way = ""
    if target is not None and not on_wanted:
        d_az = (target.azimuth_deg - best.azimuth_deg + 180) % 360 - 180
        d_el = target.elevation_deg - best.elevation_deg
        way = (
            f"Turn {abs(d_az):.1f}° {'right, clockwise from above' if d_az > 0 else 'left, anticlockwise from above'}, "
            f"and {'up' if d_el > 0 else 'down'} {abs(d_el):.1f}°."
        )
    return Identity(ranked, best.name, sure, state, following if sure < 0.99 else None, d_az, d_el,
                    words, way)  # fmt: skip


def _prior(sat: Seen, aimed_at: tuple[float, float] | None, error_deg: float) -> float:
    if aimed_at is None:
        return 0.0
    away = float(sky_separation_deg(sat.azimuth_deg, sat.elevation_deg, *aimed_at))
    # Long tails: a tool that is used wrongly is wrong by a lot.
    return -math.log(1 + (away / max(error_deg, 0.5)) ** 2)


def _fits(carrier: Carrier, frequency_mhz: float, polarisation: str, symbol_mbd: float) -> bool:
    return (
        carrier.polarisation == polarisation
        and abs(carrier.frequency_mhz - frequency_mhz) <= FREQUENCY_MHZ
        and abs(carrier.bandwidth_mhz - symbol_mbd) <= SYMBOL_SHARE * carrier.bandwidth_mhz + 0.05
    )


def _evidence(sat: Seen, lock: Lock) -> float:
    listed = any(
        _fits(c, lock.frequency_mhz, lock.polarisation, lock.symbol_mbd) for c in sat.carriers
    )
    if not lock.locked:
        return NO_LOCK_THERE if listed else NO_LOCK_ELSE
    chance = HIT if listed else MISS
    if lock.identity.strip():
        same = lock.identity.strip().casefold() in (sat.name.casefold(), sat.target)
        chance *= 0.97 if same else 0.01
    return chance


def _candidate(sat: Seen, share: float, locks: Sequence[Lock]) -> Candidate:
    agreeing: list[str] = []
    against: list[str] = []
    for lock in locks:
        listed = any(
            _fits(c, lock.frequency_mhz, lock.polarisation, lock.symbol_mbd) for c in sat.carriers
        )
        said = f"{lock.frequency_mhz:.0f} {lock.polarisation}"
        if lock.identity.strip():
            same = lock.identity.strip().casefold() == sat.name.casefold()
            (agreeing if same else against).append(f"name {lock.identity}")
        if listed == lock.locked:
            if listed:
                agreeing.append(f"{said} locks")
        else:
            against.append(f"{said} {'is not listed' if lock.locked else 'should lock'}")
    return Candidate(
        sat.target, sat.name, share, sat.azimuth_deg, sat.elevation_deg, agreeing, against
    )


def _next_try(up: Sequence[Seen], share: Floats, locks: Sequence[Lock]) -> NextTry | None:
    """The listed carrier that is expected to narrow the choice most (in bits)."""
    tried = {(round(k.frequency_mhz), k.polarisation) for k in locks}
    # Carriers that several satellites send at the same figures tell them apart no more: one column
    # for each distinct carrier, one row for each satellite.
    rows: dict[tuple[int, str, int], Carrier] = {}
    for sat in up:
        for c in sat.carriers:
            if (round(c.frequency_mhz), c.polarisation) not in tried:
                rows.setdefault(
                    (round(c.frequency_mhz), c.polarisation, round(c.bandwidth_mhz * 10)), c
                )
    if not rows or len(up) < 2:
        return None
    keys = list(rows)
    f = np.array([rows[k].frequency_mhz for k in keys])
    b = np.array([rows[k].bandwidth_mhz for k in keys])
    pol = np.array([ord(rows[k].polarisation) for k in keys])
    there: NDArray[np.bool_] = np.zeros((len(up), len(keys)), bool)
    for i, sat in enumerate(up):
        for c in sat.carriers:
            there[i] |= (
                (np.abs(f - c.frequency_mhz) <= FREQUENCY_MHZ)
                & (pol == ord(c.polarisation)) & (np.abs(b - c.bandwidth_mhz) <= SYMBOL_SHARE * b + 0.05)
            )  # fmt: skip
    p = np.maximum(share, 1e-12)[:, None] / max(float(share.sum()), 1e-12)
    chance = np.where(there, HIT, MISS)
    yes = (p * chance).sum(axis=0)
    before = -float((p * np.log2(p)).sum())
    after = np.zeros(len(keys))
    for branch, total in ((p * chance / yes, yes), (p * (1 - chance) / (1 - yes), 1 - yes)):
        after += total * -(branch * np.log2(np.maximum(branch, 1e-12))).sum(axis=0)
    gain = before - after
    best = int(gain.argmax())
    names = [s.name for i, s in enumerate(up) if there[i, best]]
    return NextTry(
        float(f[best]), chr(int(pol[best])), float(b[best]), ", ".join(names[:4]), float(gain[best])
    )
