"""Which satellite is it? From what locks to the name, the proof, and the way to the wanted one."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ....job import Carrier, Lock
from ....physics.geodesy import Floats, sky_separation_deg
from ....units.quantities import InputError
from ....units.severity import State

# How well a meter's figures fit a list: an LNB's oscillator drifts, a receiver finds a symbol rate
# within a part in a hundred. Common practice, no source.
FREQUENCY_MHZ = 3.0
SYMBOL_SHARE = 0.012
HIT, MISS = 0.94, 0.015  # a listed carrier locks; something unlisted locks at the same figures
NO_LOCK_THERE, NO_LOCK_ELSE = 0.12, 0.97
# A satellite on no list: how likely a carrier locks there at figures that somebody tried. Common
# practice, no source.
UNLISTED_LOCKS = 0.05
# A name that was read says more than any frequency: lists of carriers go out of date, a satellite
# does not call itself by another's name. Common practice, no source.
NAME_FITS, NAME_ELSE, NAME_UNLISTED = 0.97, 0.0005, 0.9
NONE_LISTED = "none of those listed"
SURE = 0.9


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
    """One satellite with the weight of the evidence, 0 to 1, and what spoke for and against it. The
    one that is on no list has no target."""

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
    seen: Sequence[Seen],
    locks: Sequence[Lock],
    aimed_at: tuple[float, float] | None,
    aim_error_deg: float,
    wanted: str | None,
    propose: bool = True,
) -> Identity:
    """Rank the satellites within reach by what locked and what did not.

    Before anything locks, a satellite near to where the dish was set is likelier, as the tools'
    error says; a satellite on no list is always one of the answers. `propose` asks for the next try.
    Raises InputError for a symbol rate of nothing.
    """
    for lock in locks:
        if not lock.symbol_mbd > 0:
            raise InputError(
                "Symbol rate",
                "a carrier of 0 MBd carries nothing.",
                "Read it off the meter or the list.",
                "symbol-zero",
            )
    up = [s for s in seen if s.elevation_deg > 0]
    if not up:
        return Identity(
            candidates=[],
            name=None,
            confidence=0.0,
            state="unknown",
            following=None,
            turn_azimuth_deg=None,
            turn_elevation_deg=None,
            words="No satellite is listed within sight: load a list at Sky first.",
            way="",
        )
    prior = np.array([_prior(s, aimed_at, aim_error_deg) for s in up])
    # The fewer are listed, the likelier it is one that is not.
    other = float(np.logaddexp.reduce(prior)) - math.log(len(up) + 1.0)
    weight = np.append(prior, other)
    for lock in locks:
        weight = weight + np.log(_evidence(up, lock))
    share = np.exp(weight - weight.max())
    share = share / share.sum()
    ranked = [_candidate(s, float(share[i]), locks) for i, s in enumerate(up)]
    ranked.append(_unlisted(float(share[-1]), locks))
    ranked.sort(key=lambda c: -c.likelihood)
    following = _next_try(up, share[:-1], locks) if propose else None
    target = next((s for s in up if s.target == wanted), None)
    return _judged(ranked, up, wanted=target, locks=locks, following=following)


def _judged(
    ranked: list[Candidate],
    up: Sequence[Seen],
    wanted: Seen | None,
    locks: Sequence[Lock],
    following: NextTry | None,
) -> Identity:
    """What the weights say: who it is, whether that is the wanted one, and the way to it."""
    if not any(k.locked or k.identity.strip() for k in locks):
        return Identity(
            candidates=ranked,
            name=None,
            confidence=0.0,
            state="unknown",
            following=following,
            turn_azimuth_deg=None,
            turn_elevation_deg=None,
            words="Nothing has locked yet. Try the carrier below.",
            way="",
        )
    first = ranked[0]
    sure = first.likelihood >= SURE
    if not first.target:
        called = next((k.identity.strip() for k in reversed(locks) if k.identity.strip()), "")
        words = f"This is {NONE_LISTED}" if sure else f"Probably {NONE_LISTED}, not yet sure"
        words += f": it calls itself “{called}”" if called else ""
        way = "Load a list that holds it at Sky; or search on, a degree or two to either side."
        return Identity(
            candidates=ranked,
            name=None,
            confidence=first.likelihood,
            state="fail" if sure else "marginal",
            following=None if sure else following,
            turn_azimuth_deg=None,
            turn_elevation_deg=None,
            words=words,
            way=way,
        )
    on_wanted = wanted is not None and first.target == wanted.target
    state: State = "marginal" if not sure else "ok" if on_wanted else "fail"
    words = f"This is {first.name}" if sure else f"Probably {first.name}, not yet sure"
    d_az = d_el = None
    way = ""
    if wanted is not None and not on_wanted:
        words += f", not {wanted.name}" if sure else ""
        d_az = (wanted.azimuth_deg - first.azimuth_deg + 180) % 360 - 180
        d_el = wanted.elevation_deg - first.elevation_deg
        way = (
            f"Turn {abs(d_az):.1f}° {'right, clockwise from above' if d_az > 0 else 'left, anticlockwise from above'}, "
            f"and {'up' if d_el > 0 else 'down'} {abs(d_el):.1f}°."
        )
    return Identity(
        candidates=ranked,
        name=first.name,
        confidence=first.likelihood,
        state=state,
        following=following if first.likelihood < 0.99 else None,
        turn_azimuth_deg=d_az,
        turn_elevation_deg=d_el,
        words=words,
        way=way,
    )


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


def _named(identity: str, sat: Seen) -> bool:
    """Whether a name that a meter read is a satellite's: its own, or its own with more around it."""
    said, name = identity.strip().casefold(), sat.name.strip().casefold()
    return said == sat.target or said == name or (len(name) > 2 and name in said)


def _evidence(up: Sequence[Seen], lock: Lock) -> Floats:
    """How likely a reading is on each listed satellite, and on one that is on no list."""
    listed = np.array(
        [
            any(
                _fits(c, lock.frequency_mhz, lock.polarisation, lock.symbol_mbd) for c in s.carriers
            )
            for s in up
        ]
    )
    if not lock.locked:
        chance = np.append(np.where(listed, NO_LOCK_THERE, NO_LOCK_ELSE), NO_LOCK_ELSE)
    else:
        chance = np.append(np.where(listed, HIT, MISS), UNLISTED_LOCKS)
    if lock.identity.strip():
        same = np.array([_named(lock.identity, s) for s in up])
        unlisted = NAME_ELSE if same.any() else NAME_UNLISTED
        chance *= np.append(np.where(same, NAME_FITS, NAME_ELSE), unlisted)
    return np.asarray(chance)


def _candidate(sat: Seen, share: float, locks: Sequence[Lock]) -> Candidate:
    agreeing: list[str] = []
    against: list[str] = []
    for lock in locks:
        listed = any(
            _fits(c, lock.frequency_mhz, lock.polarisation, lock.symbol_mbd) for c in sat.carriers
        )
        said = f"{lock.frequency_mhz:.0f} {lock.polarisation}"
        if lock.identity.strip():
            same = _named(lock.identity, sat)
            (agreeing if same else against).append(f"name {lock.identity}")
        if listed == lock.locked:
            if listed:
                agreeing.append(f"{said} locks")
        else:
            against.append(f"{said} {'is not listed' if lock.locked else 'should lock'}")
    return Candidate(
        target=sat.target,
        name=sat.name,
        likelihood=share,
        azimuth_deg=sat.azimuth_deg,
        elevation_deg=sat.elevation_deg,
        agreeing=agreeing,
        against=against,
    )


def _unlisted(share: float, locks: Sequence[Lock]) -> Candidate:
    names = [f"name {k.identity.strip()}" for k in locks if k.identity.strip()]
    return Candidate(
        target="",
        name=NONE_LISTED,
        likelihood=share,
        azimuth_deg=0.0,
        elevation_deg=0.0,
        agreeing=names[:1],
        against=[],
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
                & (pol == ord(c.polarisation))
                & (np.abs(b - c.bandwidth_mhz) <= SYMBOL_SHARE * b + 0.05)
            )
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
        frequency_mhz=float(f[best]),
        polarisation=chr(int(pol[best])),
        symbol_mbd=float(b[best]),
        if_on=", ".join(names[:4]),
        gain_bits=float(gain[best]),
    )
