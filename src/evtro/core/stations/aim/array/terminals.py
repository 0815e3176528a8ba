"""Terrestrial antennas as receivers: what every carrier of every transmitter gives at their
terminals, whichever way they look."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from ....job import Array, Carrier, Job, TrialReading
from ....job.parts import ArrayType
from ....job.targets import sight_of
from ....physics.beams import array_gain_dbi, array_loss_db, yagi_beamwidth_deg
from ....physics.geodesy import Floats
from ....physics.propagation.field import isotropic_dbuv
from ....units.quantities import noise_dbuv
from ...sky.incident import IncidentField, incident_at, sharing_of

CROSS_POLAR_DB = (
    16.0  # a linear antenna against the other polarisation; ITU-R BT.419-3 (from memory)
)
METER_SPREAD_DB = 2.0  # a hand-held meter at the antenna; common practice, no source


@dataclass(frozen=True)
class Terminals:
    """What an antenna gives at its terminals by carrier: level [dBµV], noise and interference
    [dBµV], the ratio of the two [dB], spread [dB]; `read` where the installer's meter said it."""

    incident: IncidentField
    heading_deg: float
    level_dbuv: Floats
    forecast_dbuv: Floats
    unwanted_dbuv: Floats
    cn_db: Floats
    spread_db: Floats
    read: np.typing.NDArray[np.bool_]


def width_of(antenna: Array) -> float:
    """Half-power beamwidth of a terrestrial antenna [deg]: its own, or what its gain makes."""
    if antenna.beamwidth_deg is not None:
        return antenna.beamwidth_deg
    most = max((g for _, g in antenna.gain_table), default=antenna.gain_dbi)
    return min(yagi_beamwidth_deg(max(most, 0.0)), 360.0)


def gain_of(antenna: Array, frequency_mhz: Floats) -> Floats:
    """Gain by frequency [dBi], in its band and beside it."""
    band = antenna.low_mhz, antenna.high_mhz
    return array_gain_dbi(antenna.gain_table, antenna.gain_dbi, band, frequency_mhz)


def is_for(antenna: Array, carrier: Carrier) -> int:
    """How much a carrier is an antenna's business: 2 in its band and from its transmitter, 1 in its
    band, 0 outside of it."""
    if not antenna.low_mhz <= carrier.frequency_mhz <= antenna.high_mhz:
        return 0
    return 2 if carrier.target == antenna.target else 1


def duty_of(job: Job, antenna: Array, incident: IncidentField) -> IncidentField:
    """The carriers with only those as wanted that fall to this antenna: where several antennas share
    the work, another one that is more for a carrier takes it."""
    others = [a for a in job.arrays if a.id != antenna.id]
    if not others:
        return incident
    mine = np.array(
        [
            all(is_for(antenna, c) >= is_for(o, c) for o in others) and is_for(antenna, c) > 0
            for c in incident.carriers
        ],
        bool,
    )
    return replace(incident, wanted=incident.wanted & mine)


def stands_upright(antenna: Array, incident: IncidentField) -> bool:
    """Whether the elements stand for vertical polarisation: as set, else as its target sends, or
    most of the wanted carriers."""
    if antenna.elements != "auto":
        return antenna.elements == "V"
    own = [c for c in incident.carriers if is_for(antenna, c) == 2]
    rows = own or [c for c, w in zip(incident.carriers, incident.wanted, strict=True) if w]
    return sum(c.polarisation == "V" for c in rows) > len(rows) / 2


def polar_loss_db(incident: IncidentField, upright: bool) -> Floats:
    """Loss of carriers that are sent in the polarisation the elements do not stand for [dB]."""
    return np.where(incident.horizontal == upright, CROSS_POLAR_DB, 0.0)


def heading_of(job: Job, antenna: Array) -> float | None:
    """Where an antenna looks [deg]: as set, else straight at its target; None without either."""
    if antenna.heading_deg is not None:
        return antenna.heading_deg
    target = next((t for t in job.targets if t.id == antenna.target), None)
    sight = sight_of(job.site, target) if target is not None else None
    return sight.azimuth_deg if sight is not None else None


def terminals(job: Job, antenna: Array) -> Terminals | None:
    """Levels at the antenna's terminals with its heading of now, the installer's readings at the
    chosen spot in place of the forecast; None while it looks nowhere."""
    heading = heading_of(job, antenna)
    if heading is None or antenna.kind != "array":
        return None
    heard = (
        tuple(h for h in job.trial_readings if h.spot == antenna.stands_at)
        if antenna.stands_at
        else ()
    )
    return _terminals(incident_at(job, antenna), antenna, heading, heard)


@lru_cache(maxsize=64)
def _terminals(
    incident: IncidentField, antenna: Array, heading: float, heard: tuple[TrialReading, ...]
) -> Terminals:
    loss = array_loss_db(incident.bearing_deg - heading, width_of(antenna), antenna.front_back_db)
    forecast = (
        isotropic_dbuv(incident.field_dbuvm, incident.frequency_mhz)
        + gain_of(antenna, incident.frequency_mhz)
        - loss
        - polar_loss_db(incident, stands_upright(antenna, incident))
    )
    noise = np.array([noise_dbuv(b) for b in incident.bandwidth_mhz])
    level, spread, read = forecast.copy(), incident.spread_db.copy(), np.zeros(len(forecast), bool)
    ratio = np.full(len(forecast), np.nan)
    rows = {h.carrier: h for h in heard}
    for i, carrier in enumerate(incident.carriers):
        said = rows.get(carrier.id)
        if said is not None and said.level_dbuv is not None:
            level[i], spread[i], read[i] = said.level_dbuv, METER_SPREAD_DB, True
        if said is not None and said.cn_db is not None:
            ratio[i] = said.cn_db
    share, helped = sharing_of(incident)
    power = 10 ** (level / 10)
    unwanted = 10 * np.log10(10 ** (noise / 10) + power @ share)
    useful = 10 * np.log10(power + power @ helped)
    cn = np.where(np.isnan(ratio), useful - unwanted, np.minimum(ratio, level - noise))
    return Terminals(
        incident=incident,
        heading_deg=heading,
        level_dbuv=level,
        forecast_dbuv=forecast,
        unwanted_dbuv=level - cn,
        cn_db=cn,
        spread_db=spread,
        read=read,
    )


def as_antenna(kind: ArrayType, antenna: Array) -> Array:
    """An antenna of the job with the figures of one of the catalogue."""
    return antenna.model_copy(
        update={
            "model": kind.key,
            "name": kind.name,
            "gain_table": kind.gain,
            "gain_dbi": max(g for _, g in kind.gain),
            "low_mhz": kind.low_mhz,
            "high_mhz": kind.high_mhz,
            "beamwidth_deg": kind.beamwidth_deg,
            "front_back_db": kind.front_back_db,
            "length_m": kind.length_m,
            "wind_area_m2": kind.wind_area_m2,
        }
    )
