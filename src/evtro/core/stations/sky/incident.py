"""The incident field: every terrestrial carrier as it arrives at an antenna's place, whatever antenna
stands there, and which of them disturb or help each other."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ...job import Array, Carrier, Job, Obstruction, Site, Target, TerrainProfile
from ...physics.geodesy import Floats
from ...physics.modulation import MODULATIONS
from ...physics.propagation.clutter import entry_loss_db
from ...physics.propagation.field import free_field_dbuvm
from .path import Way, loss_db, pattern_loss_db, relief_for, sent_toward, way_of
from .single_frequency import arrivals_us, within_networks

# How much stronger a neighbour channel may be than one on the same channel for the same harm: the
# difference of ITU-R BT.1368's ratios for 64-QAM 2/3, 19 and -30 dB (from memory).
NEXT_CHANNEL_DB = 49.0


@dataclass(frozen=True, eq=False)
class IncidentField:
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


def height_of(site: Site, antenna: Array) -> float:
    """The antenna above ground [m]: its own figure, else the mount's."""
    return site.mount_height_m if antenna.above_ground_m is None else antenna.above_ground_m


@lru_cache(maxsize=64)
def _incident(
    site: Site,
    targets: tuple[Target, ...],
    carriers: tuple[Carrier, ...],
    obstructions: tuple[Obstruction, ...],
    reliefs: tuple[TerrainProfile, ...],
    above_ground_m: float,
    standing: str,
    covering: str,
    own_entry_db: float | None,
) -> IncidentField:
    rows: list[Carrier] = []
    whose: list[Target] = []
    ways: list[Way] = []
    columns: list[tuple[Floats, Floats, Floats, float]] = []
    for target in targets:
        own = [c for c in carriers if c.target == target.id and c.power > 0]
        if not own:
            continue
        way = way_of(
            site,
            target,
            relief=relief_for(reliefs, site, target),
            obstructions=obstructions,
            above_ground_m=above_ground_m,
            frequencies_mhz=tuple(c.frequency_mhz for c in own),
            horizontal=tuple(c.polarisation == "H" for c in own),
        )
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
    return IncidentField(
        carriers=tuple(rows),
        targets=tuple(whose),
        frequency_mhz=f,
        bandwidth_mhz=np.array([c.bandwidth_mhz for c in rows]),
        bearing_deg=bearing,
        free_dbuvm=free,
        loss_db=lost,
        entry_db=entry,
        field_dbuvm=free - lost - entry,
        spread_db=spread,
        horizontal=np.array([c.polarisation == "H" for c in rows], bool),
        wanted_db=np.array([MODULATIONS[c.modulation].cn_db for c in rows]),
        wanted=np.array(
            [t.wanted and not c.mobile for c, t in zip(rows, whose, strict=True)], bool
        ),
        ways=tuple(ways),
        at_us=arrivals_us([distances[t.id] for t in whose], [t.delay_us for t in whose]),
    )


def incident_at(job: Job, antenna: Array) -> IncidentField:
    """What is in the air at an antenna's place, unwanted transmitters included."""
    sends = tuple(t for t in job.targets if t.kind == "transmitter")
    keys = {t.id for t in sends}
    return _incident(
        job.site,
        sends,
        carriers=tuple(c for c in job.carriers if c.target in keys),
        obstructions=job.obstructions,
        reliefs=job.reliefs,
        above_ground_m=height_of(job.site, antenna),
        standing=antenna.standing,
        covering=antenna.covering,
        own_entry_db=antenna.entry_loss_db,
    )


def disturbance(
    carriers: tuple[Carrier, ...], frequency_mhz: Floats, bandwidth_mhz: Floats
) -> Floats:
    """Shares with which each carrier (row) disturbs each other (column), as power ratios [1].

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
def sharing_of(incident: IncidentField) -> tuple[Floats, Floats]:
    """Shares [1] of its power with which each carrier (row) disturbs and helps each other (column):
    strangers disturb, carriers of one single-frequency network help as far as they arrive inside the
    guard interval. The receiver's window follows the field strengths."""
    share = disturbance(incident.carriers, incident.frequency_mhz, incident.bandwidth_mhz)
    if not any(c.network for c in incident.carriers):
        return share, np.zeros_like(share)
    harm, helped = within_networks(
        incident.carriers, incident.frequency_mhz, incident.at_us, 10 ** (incident.field_dbuvm / 10)
    )
    return share + harm, helped
