"""What comes down from an antenna and nobody wants: it loads the amplifier all the same."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....job import Array, Job
from ....job.profile import Mobile
from ....physics.beams import array_loss_db
from ....physics.propagation.field import free_field_dbuvm, isotropic_dbuv
from ....units.phrases import say
from ....units.quantities import Phrase, Quantity
from ...aim.array.terminals import Terminals, gain_of, width_of

DIPOLE = 10**0.215  # EIRP over ERP: a half-wave dipole has 2.15 dBi
QUIET_DB = 30.0  # what lies so far under the strongest adds nothing to its load
WIDTH_MHZ = 10.0  # of a base station's carrier; common practice, no source
NEAREST_M = 1.0  # nearer than that no antenna is in the far field of another
ASSUMED = "~base-station"  # the column of a base station that nobody entered


@dataclass(frozen=True)
class UnwantedSignal:
    """A carrier beside those that are wanted: frequency and bandwidth [MHz], level [dBµV] and noise
    [dBµV] at the terminals of each antenna that hears it. One that is `supposed` may not be there."""

    id: str
    name: str
    frequency_mhz: float
    bandwidth_mhz: float
    at: dict[str, tuple[float, float]]
    supposed: bool = False


def assumes_mobile(job: Job) -> bool:
    """Whether a base station is taken because none is entered."""
    sends = {t.id for t in job.targets if t.kind == "transmitter"}
    return not any(c.target in sends and c.mobile for c in job.carriers)


def assumed_dbuv(job: Job, antenna: Array, heading_deg: float, mobile: Mobile) -> float:
    """Level of a base station that nobody entered at an antenna's terminals [dBµV]: in free space at
    the distance told at Site or the profile's, in the beam unless its bearing is told."""
    f = np.array([mobile.frequency_mhz])
    away_m = max(job.site.mobile_m or mobile.away_m, NEAREST_M)
    field = free_field_dbuvm([mobile.erp_kw], away_m / 1000)
    off = 0.0
    if job.site.mobile_bearing_deg is not None:
        off = float(
            array_loss_db(
                job.site.mobile_bearing_deg - heading_deg, width_of(antenna), antenna.front_back_db
            )
        )
    return float(isotropic_dbuv(field, f)[0] + gain_of(antenna, f)[0]) - off


def mobile_words(job: Job, mobile: Mobile) -> Phrase:
    """What is taken for base stations, in words."""
    if not assumes_mobile(job):
        return ("base stations as entered",)
    where = "in the beam" if job.site.mobile_bearing_deg is None else "in its bearing"
    known = "entered" if job.site.mobile_m is not None else "assumed"
    return say(
        "a base station of {} EIRP at {} {}, {}",
        Quantity(DIPOLE * mobile.erp_kw, "kw"),
        Quantity(job.site.mobile_m or mobile.away_m, "m", 0),
        where,
        known,
    )


def unwanted_signals(
    job: Job, heard: dict[str, Terminals], wanted: frozenset[str], mobile: Mobile
) -> list[UnwantedSignal]:
    """Every carrier that the arrays in the run hear beside the wanted ones, as far as it is loud there, a
    supposed one last; `wanted` are the ids of those."""
    arrays = {a.id: a for a in job.arrays}
    names = {t.id: t.name for t in job.targets}
    in_run = [p.antenna for p in job.parts if p.antenna in heard and p.antenna in arrays]
    found: dict[str, UnwantedSignal] = {}
    for key in in_run:
        at = heard[key]
        floor = float(at.level_dbuv.max(initial=-np.inf)) - QUIET_DB
        for n, c in enumerate(at.incident.carriers):
            if c.id in wanted or at.level_dbuv[n] < floor:
                continue
            one = found.setdefault(
                c.id,
                UnwantedSignal(
                    c.id,
                    f"{names[c.target]}, {c.name}",
                    frequency_mhz=c.frequency_mhz,
                    bandwidth_mhz=c.bandwidth_mhz,
                    at={},
                ),
            )
            one.at[key] = float(at.level_dbuv[n]), float(at.unwanted_dbuv[n])
    if in_run and assumes_mobile(job):
        levels = {
            key: (assumed_dbuv(job, arrays[key], heard[key].heading_deg, mobile), np.nan)
            for key in in_run
        }
        found[ASSUMED] = UnwantedSignal(
            ASSUMED,
            "a base station",
            frequency_mhz=mobile.frequency_mhz,
            bandwidth_mhz=WIDTH_MHZ,
            at=levels,
            supposed=job.site.mobile_m is None,
        )
    return list(found.values())
