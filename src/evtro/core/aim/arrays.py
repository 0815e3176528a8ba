"""Terrestrial antennas as receivers: what every carrier of every transmitter gives at their
terminals, whichever way they look."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from ..antennas import (
    array_loss_db,
    gain_at_dbi,
    yagi_beamwidth_deg,
)
from ..geodesy import Floats
from ..job import Antenna, Carrier, Heard, Job, Obstruction, Relief, Site, Target
from ..modulation import MODULATIONS
from ..parts import ArrayType
from ..quantities import noise_dbuv
from ..sky.clutter import entry_loss_db
from ..sky.field import free_field_dbuvm, isotropic_dbuv
from ..sky.path import Way, loss_db, pattern_loss_db, relief_for, sent_toward, way_of
from ..sky.targets import sight_of
from .single_frequency import arrivals_us, within_networks

CROSS_POLAR_DB = (
    16.0  # a linear antenna against the other polarisation; ITU-R BT.419-3 (from memory)
)
# How much stronger a neighbour channel may be than one on the same channel for the same harm: the
# difference of ITU-R BT.1368's ratios for 64-QAM 2/3, 19 and -30 dB (from memory).
NEXT_CHANNEL_DB = 49.0
METER_SPREAD_DB = 2.0  # a hand-held meter at the antenna; common practice, no source
MOBILE = "Mobile"


@dataclass(frozen=True, eq=False)
class Ether:
    """Every terrestrial carrier of a job as it arrives at one antenna's place, in arrays of one
    length: frequency and bandwidth [MHz], bearing [deg], field strength [dBµV/m], spread [dB],
    polarisation, wanted ratio [dB], whether the job wants it, when it arrives [µs]."""

    carriers: tuple[Carrier, ...]
    targets: tuple[Target, ...]
    frequency_mhz: Floats
    bandwidth_mhz: Floats
    bearing_deg: Floats
    free_dbuvm: Floats
    loss_db: Floats
    entry_db: Floats
    field_dbuvm: Floats
    spread_db: Floats
    horizontal: np.typing.NDArray[np.bool_]
    wanted_db: Floats
    wanted: np.typing.NDArray[np.bool_]
    ways: tuple[Way, ...]
    at_us: Floats

    @property
    def ids(self) -> tuple[str, ...]:
        """Carriers in the order of the arrays."""
        return tuple(c.id for c in self.carriers)


@dataclass(frozen=True)
class Terminals:
    """What an antenna gives at its terminals by carrier: level [dBµV], noise and interference
    [dBµV], the ratio of the two [dB], spread [dB]; `read` where the installer's meter said it."""

    ether: Ether
    heading_deg: float
    level_dbuv: Floats
    forecast_dbuv: Floats
    unwanted_dbuv: Floats
    cn_db: Floats
    spread_db: Floats
    read: np.typing.NDArray[np.bool_]


def height_of(site: Site, antenna: Antenna) -> float:
    """The antenna above ground [m]: its own figure, else the mount's."""
    return site.mount_height_m if antenna.above_ground_m is None else antenna.above_ground_m


def width_of(antenna: Antenna) -> float:
    """Half-power beamwidth of a terrestrial antenna [deg]: its own, or what its gain makes."""
    if antenna.beamwidth_deg is not None:
        return antenna.beamwidth_deg
    most = max((g for _, g in antenna.gain_table), default=antenna.gain_dbi)
    return min(yagi_beamwidth_deg(max(most, 0.0)), 360.0)


def gain_of(antenna: Antenna, frequency_mhz: Floats) -> Floats:
    """Gain by frequency [dBi]; outside its band an antenna falls by 3 dB for each tenth of the
    band's edge (common practice, no source)."""
    f = np.asarray(frequency_mhz, float)
    beyond = np.maximum(antenna.low_mhz / f, f / antenna.high_mhz) - 1
    return np.asarray(
        gain_at_dbi(antenna.gain_table, antenna.gain_dbi, f) - 30 * np.maximum(beyond, 0.0)
    )


def is_for(antenna: Antenna, carrier: Carrier) -> int:
    """How much a carrier is an antenna's business: 2 in its band and from its transmitter, 1 in its
    band, 0 outside of it."""
    if not antenna.low_mhz <= carrier.frequency_mhz <= antenna.high_mhz:
        return 0
    return 2 if carrier.target == antenna.target else 1


def duty_of(job: Job, antenna: Antenna, ether: Ether) -> Ether:
    """The carriers with only those as wanted that fall to this antenna: where several antennas share
    the work, another one that is more for a carrier takes it."""
    others = [a for a in job.antennas if a.kind == "array" and a.id != antenna.id]
    if not others:
        return ether
    mine = np.array([
        all(is_for(antenna, c) >= is_for(o, c) for o in others) and is_for(antenna, c) > 0
        for c in ether.carriers
    ], bool)  # fmt: skip
    return replace(ether, wanted=ether.wanted & mine)


def stands_upright(antenna: Antenna, ether: Ether) -> bool:
    """Whether the elements stand for vertical polarisation: as set, else as its target sends, or
    most of the wanted carriers."""
    if antenna.elements != "auto":
        return antenna.elements == "V"
    own = [c for c in ether.carriers if is_for(antenna, c) == 2]
    rows = own or [c for c, w in zip(ether.carriers, ether.wanted, strict=True) if w]
    return sum(c.polarisation == "V" for c in rows) > len(rows) / 2


@lru_cache(maxsize=64)
def _ether(
    site: Site, targets: tuple[Target, ...], carriers: tuple[Carrier, ...],
    obstructions: tuple[Obstruction, ...], reliefs: tuple[Relief, ...], above_ground_m: float,
    standing: str, covering: str, own_entry_db: float | None,
) -> Ether:  # fmt: skip
    rows: list[Carrier] = []
    whose: list[Target] = []
    ways: list[Way] = []
    columns: list[tuple[Floats, Floats, Floats, float]] = []
    for target in targets:
        own = [c for c in carriers if c.target == target.id and c.power > 0]
        if not own:
            continue
        way = way_of(
            site, target, relief_for(reliefs, site, target), obstructions, above_ground_m,
            tuple(c.frequency_mhz for c in own), tuple(c.polarisation == "H" for c in own),
        )  # fmt: skip
        if way is None:
            continue
        down = pattern_loss_db(target.pattern, sent_toward(site, target))
        free = free_field_dbuvm(np.array([c.power for c in own]), way.distance_km)
        lost = loss_db(way) + down
        columns.append((free, lost, np.full(len(own), way.bearing_deg), way.spread_db))
        rows += own
        whose += [target] * len(own)
        ways.append(way)
    f = np.array([c.frequency_mhz for c in rows])
    entry, entry_spread = entry_loss_db(standing, covering, own_entry_db, f)
    free, lost, bearing = (
        np.concatenate([c[i] for c in columns]) if columns else np.zeros(0) for i in range(3)
    )
    distances = {w.target: w.distance_km for w in ways}
    counts = [len(c[0]) for c in columns]
    spread = np.repeat([math.hypot(c[3], entry_spread) for c in columns], counts)
    return Ether(
        tuple(rows), tuple(whose), f, np.array([c.bandwidth_mhz for c in rows]), bearing, free,
        lost, entry, free - lost - entry, spread,
        np.array([c.polarisation == "H" for c in rows], bool),
        np.array([MODULATIONS[c.modulation].cn_db for c in rows]),
        np.array([t.wanted and not c.modulation.startswith(MOBILE)
                  for c, t in zip(rows, whose, strict=True)], bool),
        tuple(ways),
        arrivals_us([distances[t.id] for t in whose], [t.delay_us for t in whose]),
    )  # fmt: skip


def ether_of(job: Job, antenna: Antenna) -> Ether:
    """What is in the air at an antenna's place, unwanted transmitters included."""
    sends = tuple(t for t in job.targets if t.kind == "transmitter")
    keys = {t.id for t in sends}
    return _ether(
        job.site, sends, tuple(c for c in job.carriers if c.target in keys), job.obstructions,
        job.reliefs, height_of(job.site, antenna), antenna.standing, antenna.covering,
        antenna.entry_loss_db,
    )  # fmt: skip


def polar_loss_db(ether: Ether, upright: bool) -> Floats:
    """Loss of carriers that are sent in the polarisation the elements do not stand for [dB]."""
    return np.where(ether.horizontal == upright, CROSS_POLAR_DB, 0.0)


def disturbance(
    carriers: tuple[Carrier, ...], frequency_mhz: Floats, bandwidth_mhz: Floats
) -> Floats:
    """Shares with which each carrier (row) disturbs each other (column), as power ratios.

    On the same channel by the part that overlaps, beside it by what the receiver leaves. Carriers
    of one single-frequency network are left out: see `sharing_of`.
    """
    apart = np.abs(frequency_mhz[:, None] - frequency_mhz[None])
    half = (bandwidth_mhz[:, None] + bandwidth_mhz[None]) / 2
    # The part of the disturber's power that falls into the other's band.
    least = np.minimum(bandwidth_mhz[:, None], bandwidth_mhz[None])
    overlap = np.clip(half - apart, 0, least) / bandwidth_mhz[:, None]
    beside = np.where(apart < half + bandwidth_mhz[None], 10 ** (-NEXT_CHANNEL_DB / 10), 0.0)
    share = np.maximum(overlap, beside)
    np.fill_diagonal(share, 0.0)
    names = np.array([c.network for c in carriers], dtype=object)
    together = (names[:, None] == names[None]) & (names[:, None] != "") & (apart < 0.01)
    share[together] = 0.0
    return np.asarray(share)


@lru_cache(maxsize=64)
def sharing_of(ether: Ether) -> tuple[Floats, Floats]:
    """Shares of its power with which each carrier (row) disturbs and helps each other (column):
    strangers disturb, carriers of one single-frequency network help as far as they arrive inside the
    guard interval. The receiver's window follows the field strengths."""
    share = disturbance(ether.carriers, ether.frequency_mhz, ether.bandwidth_mhz)
    if not any(c.network for c in ether.carriers):
        return share, np.zeros_like(share)
    harm, helped = within_networks(
        ether.carriers, ether.frequency_mhz, ether.at_us, 10 ** (ether.field_dbuvm / 10)
    )
    return share + harm, helped


def heading_of(job: Job, antenna: Antenna) -> float | None:
    """Where an antenna looks [deg]: as set, else straight at its target; None without either."""
    if antenna.heading_deg is not None:
        return antenna.heading_deg
    target = next((t for t in job.targets if t.id == antenna.target), None)
    sight = sight_of(job.site, target) if target is not None else None
    return sight.azimuth_deg if sight is not None else None


def terminals(job: Job, antenna: Antenna) -> Terminals | None:
    """Levels at the antenna's terminals with its heading of now, the installer's readings at the
    chosen spot in place of the forecast; None while it looks nowhere."""
    heading = heading_of(job, antenna)
    if heading is None or antenna.kind != "array":
        return None
    heard = tuple(h for h in job.heard if h.hold == antenna.hold) if antenna.hold else ()
    return _terminals(ether_of(job, antenna), antenna, heading, heard)


@lru_cache(maxsize=64)
def _terminals(
    ether: Ether, antenna: Antenna, heading: float, heard: tuple[Heard, ...]
) -> Terminals:
    loss = array_loss_db(ether.bearing_deg - heading, width_of(antenna), antenna.front_back_db)
    forecast = (
        isotropic_dbuv(ether.field_dbuvm, ether.frequency_mhz)
        + gain_of(antenna, ether.frequency_mhz) - loss
        - polar_loss_db(ether, stands_upright(antenna, ether))
    )  # fmt: skip
    noise = np.array([noise_dbuv(b) for b in ether.bandwidth_mhz])
    level, spread, read = forecast.copy(), ether.spread_db.copy(), np.zeros(len(forecast), bool)
    ratio = np.full(len(forecast), np.nan)
    rows = {h.carrier: h for h in heard}
    for i, carrier in enumerate(ether.carriers):
        said = rows.get(carrier.id)
        if said is not None and said.level_dbuv is not None:
            level[i], spread[i], read[i] = said.level_dbuv, METER_SPREAD_DB, True
        if said is not None and said.cn_db is not None:
            ratio[i] = said.cn_db
    share, helped = sharing_of(ether)
    power = 10 ** (level / 10)
    unwanted = 10 * np.log10(10 ** (noise / 10) + power @ share)
    useful = 10 * np.log10(power + power @ helped)
    cn = np.where(np.isnan(ratio), useful - unwanted, np.minimum(ratio, level - noise))
    return Terminals(ether, heading, level, forecast, level - cn, cn, spread, read)


def as_antenna(kind: ArrayType, antenna: Antenna) -> Antenna:
    """An antenna of the job with the figures of one of the catalogue."""
    return antenna.model_copy(
        update={
            "model": kind.key, "name": kind.name, "gain_table": kind.gain,
            "gain_dbi": max(g for _, g in kind.gain), "low_mhz": kind.low_mhz,
            "high_mhz": kind.high_mhz, "beamwidth_deg": kind.beamwidth_deg,
            "front_back_db": kind.front_back_db, "length_m": kind.length_m,
            "wind_area_m2": kind.wind_area_m2,
        }
    )  # fmt: skip
