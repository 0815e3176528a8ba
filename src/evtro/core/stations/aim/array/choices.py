"""Which antenna is enough: every kind of the catalogue at its own best heading."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....job import Array
from ....job.parts import Catalogue
from ...sky.incident import IncidentField
from .heading import BehindTerminals, Best, best_of, sweep
from .terminals import as_antenna, gain_of


@dataclass(frozen=True)
class Choice:
    """An antenna of the catalogue tried at its own best heading."""

    key: str
    name: str
    gain_dbi: float
    beamwidth_deg: float
    length_m: float
    wind_area_m2: float
    heading_deg: float
    services: int
    of: int
    least_db: float
    fits: bool
    mark: str


def choices(
    incident: IncidentField,
    beyond: BehindTerminals,
    margin_db: float,
    catalogue: Catalogue,
    antenna: Array,
    total: int,
) -> tuple[list[Choice], str]:
    """Every antenna of the catalogue at its best heading, smallest first; the smallest that brings
    all that any of them brings is marked, with its neighbours up and down."""
    waves = incident.frequency_mhz[incident.wanted]
    kinds = [
        k
        for k in catalogue.antennas.values()
        if (antenna.standing != "outdoors" or not k.indoors)
        and ((waves >= k.low_mhz) & (waves <= k.high_mhz)).any()
    ]
    kinds.sort(key=lambda k: (k.wind_area_m2 * k.length_m, k.wind_area_m2))
    if not kinds or not total:
        return [], "No wanted service is entered yet."
    tried = [as_antenna(k, antenna) for k in kinds]
    found = sweep(
        incident, tried, beyond=beyond, margin_db=margin_db, bearing_deg=np.arange(0.0, 360.0, 2.0)
    )
    bests = [best_of(found, i, total) for i in range(len(kinds))]
    most = max(b.services for b in bests)
    fits = [b.services == most and most > 0 for b in bests]
    chosen = fits.index(True) if any(fits) else None
    up, down = _neighbours(bests, chosen)
    rows = []
    for i, (kind, best) in enumerate(zip(kinds, bests, strict=True)):
        mark = ""
        if chosen is not None:
            mark = (
                "smallest"
                if i == chosen
                else "next up"
                if i == up
                else "next down"
                if i == down
                else ""
            )
        middle = float(np.median(incident.frequency_mhz))
        rows.append(
            Choice(
                key=kind.key,
                name=kind.name,
                gain_dbi=float(gain_of(tried[i], np.array([middle]))[0]),
                beamwidth_deg=kind.beamwidth_deg,
                length_m=kind.length_m,
                wind_area_m2=kind.wind_area_m2,
                heading_deg=best.heading_deg,
                services=best.services,
                of=total,
                least_db=best.least_db,
                fits=fits[i],
                mark=mark,
            )
        )
    if chosen is None:
        return (
            rows,
            "Not one of them brings a service: raise it, move it, or take a front end with less noise.",
        )
    best, kind = bests[chosen], kinds[chosen]
    words = (
        f"{kind.name} is the smallest that brings {best.services} of {total}: the weakest stands "
        f"{best.least_db:.1f} dB over its threshold, {margin_db:g} are wanted."
    )
    if up is not None:
        words += f" The next up, {kinds[up].name}, gives {bests[up].least_db:.1f} dB."
    if down is not None:
        words += f" The next down, {kinds[down].name}, brings {bests[down].services} and {bests[down].least_db:.1f} dB."
    low, high = waves[waves < 300], waves[waves >= 300]
    if best.services < total and len(low) and len(high):
        words += (
            " VHF and UHF are both wanted: arms for both in one antenna, or one of its own for VHF with the "
            "combiner for VHF and UHF."
        )
    elif best.services < total:
        words += f" {total - best.services} of {total} no single antenna brings: see the ways at Heading."
    return rows, words


def _neighbours(bests: list[Best], chosen: int | None) -> tuple[int | None, int | None]:
    """The next larger antenna that stands higher, and the next smaller one that brings anything."""
    if chosen is None:
        return None, None
    up = next(
        (
            i
            for i in range(chosen + 1, len(bests))
            if bests[i].services == bests[chosen].services
            and bests[i].least_db > bests[chosen].least_db
        ),
        None,
    )
    down = next((i for i in range(chosen - 1, -1, -1) if bests[i].services > 0), None)
    return up, down
