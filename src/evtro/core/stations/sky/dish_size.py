"""Whether a dish is large enough for its satellite: for the service, and for the neighbours."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ...job import Carrier, Target
from ...job.problems import Problem
from ...job.targets import Sight
from ...physics.beams import LIGHT_M_MHZ, dish_beamwidth_deg, off_axis_loss_db
from ...physics.geodesy import sky_separation_deg
from ...physics.modulation import MODULATIONS
from ...physics.propagation.air import STANDARD
from ...physics.propagation.rain import Climate
from ...units.quantities import Quantity, gauge
from ...units.severity import State
from .interference import NeighbourSatellite, disturbances, figures
from .link import link, smallest_m
from .receiving import ReceivingDish

# How far down a neighbour must lie in the beam; and up to where neighbours count. Common practice.
NEIGHBOUR_DB, NEIGHBOUR_DEG = 10.0, 6.0
LARGEST_M = 12.0


@dataclass(frozen=True)
class Sized:
    """The carrier that asks most of a dish: its margin in clear sky [dB], neighbours counted, whose
    threshold, and the least diameter that brings all carriers with their reserve, None where none
    does."""

    carrier: str
    margin_db: float
    origin: str
    smallest_m: float | None
    disturber: str


@dataclass(frozen=True)
class BandLine:
    """What the same service asks for in a band: EIRP taken [dBW] and whose figure, rain at the wanted
    availability [dB], margin of this dish [dB], the smallest dish that does [m] and its beam [deg]."""

    band: str
    frequency_mhz: float
    eirp_dbw: float
    origin: str
    rain_db: float | None
    margin_db: float
    smallest_m: float | None
    beamwidth_deg: float | None


# Middle of the band [MHz], the range that belongs to it, and an EIRP that is usual there [dBW]: common
# practice, no source.
BANDS = (
    ("C", 3_950.0, (3_400.0, 4_800.0), 38.0),
    ("Ku", 11_950.0, (10_700.0, 12_750.0), 50.0),
    ("Ka", 19_950.0, (17_300.0, 21_200.0), 54.0),
)


@lru_cache(maxsize=64)
def sized(
    dish: ReceivingDish,
    sight: Sight,
    carriers: tuple[Carrier, ...],
    others: tuple[NeighbourSatellite, ...],
    reserve_db: float,
) -> Sized | None:
    """The carrier of a satellite that this dish brings worst in clear sky; None without carriers."""
    rows = link(
        dish,
        sight,
        latitude_deg=0.0,
        height_m=0.0,
        carriers=carriers,
        others=others,
        climate=None,
        availability_pct=99.0,
        reserve_db=0.0,
    )
    if not rows:
        return None
    worst = min(rows, key=lambda r: r.margin.value or 0.0)
    f, width, eirp, _ = figures(carriers)
    wanted = np.array([r.wanted_db for r in rows]) + reserve_db
    disturbing = disturbances(sight, carriers, others, dish.skew_error_deg)
    need = smallest_m(
        dish,
        sight,
        disturbing=disturbing,
        f=f,
        eirp=eirp,
        width=width,
        wanted=wanted,
        fade=None,
        air=STANDARD,
    )
    smallest = None if any(s is None for s in need) else max(s for s in need if s is not None)
    return Sized(
        carrier=worst.name,
        margin_db=worst.margin.value or 0.0,
        origin=worst.wanted_origin,
        smallest_m=smallest,
        disturber=worst.disturber,
    )


def size_problems(
    station: str,
    antenna: str,
    name: str,
    target: Target,
    dish: ReceivingDish,
    sight: Sight,
    carriers: tuple[Carrier, ...],
    others: tuple[NeighbourSatellite, ...],
    reserve_db: float,
    arc: Sequence[tuple[str, float, float]],
) -> list[Problem]:
    """A dish that is too small for what it should bring, or for the spacing of what stands beside
    its satellite. `arc` are the other satellites that are known: name, azimuth and elevation [deg]."""
    found: list[Problem] = []
    size = (
        sized(dish, sight, carriers=carriers, others=others, reserve_db=reserve_db)
        if carriers and sight.visible
        else None
    )
    if size is not None and size.margin_db < reserve_db:
        state: State = "fail" if size.margin_db < 0 else "marginal"
        need = size.smallest_m
        found.append(
            Problem(
                code="dish-small",
                station=station,
                state=state,
                place=name,
                title=(
                    f"{name} is too small for {target.name}"
                    if state == "fail"
                    else f"{name} is just large enough for {target.name}, in clear sky",
                ),
                gauge=gauge(size.margin_db, "db", low=0.0, reserve=reserve_db),
                limit=(
                    f"{size.carrier} wants 0 dB over its threshold in clear sky; rain comes on top",
                ),
                origin=size.origin,
                remedy=(
                    "No dish up to ",
                    Quantity(LARGEST_M, "m", 0),
                    " brings it with its reserve: look at its EIRP here"
                    + (f", and at {size.disturber}" if size.disturber else "")
                    + ".",
                )
                if need is None
                else (
                    "Take a dish of ",
                    Quantity(need, "m", 2),
                    " or more; see Link and dish size for rain.",
                ),
                ref=antenna,
                fields=(target.id,),
            )
        )
    crowd = _crowded(dish, sight, carriers, arc) if not target.circular and sight.visible else None
    if crowd is not None:
        other, away, down, least = crowd
        found.append(
            Problem(
                code="dish-neighbours",
                station=station,
                state="marginal",
                place=name,
                title=(f"{name} does not tell {target.name} from {other}",),
                gauge=gauge(down, "db", low=NEIGHBOUR_DB),
                limit=(
                    f"{other} stands ",
                    Quantity(away, "deg"),
                    " away and lies so far down in the beam; ",
                    Quantity(NEIGHBOUR_DB, "db", 0),
                    " is usual",
                ),
                origin="common practice, no source",
                remedy=(
                    "Take a dish of ",
                    Quantity(least, "m", 2),
                    " or more, or expect what shares its frequencies and polarisation to break up.",
                ),
                ref=antenna,
                fields=(target.id,),
            )
        )
    return found


def _crowded(
    dish: ReceivingDish,
    sight: Sight,
    carriers: Sequence[Carrier],
    arc: Sequence[tuple[str, float, float]],
) -> tuple[str, float, float, float] | None:
    """The nearest neighbour that lies too high in the beam: name, distance [deg], how far down [dB],
    and the diameter that would do [m]."""
    wave = min((c.frequency_mhz for c in carriers), default=11_700.0)
    if not arc:
        return None
    az, el = np.array([a[1] for a in arc]), np.array([a[2] for a in arc])
    apart = sky_separation_deg(sight.azimuth_deg, sight.elevation_deg, az, el)
    k = int(np.argmin(apart))
    away = float(apart[k])
    if not 0.05 < away < NEIGHBOUR_DEG:
        return None
    down = float(off_axis_loss_db(away, dish_beamwidth_deg(dish.diameter_m, wave)))
    if down >= NEIGHBOUR_DB:
        return None
    least = 70.0 * LIGHT_M_MHZ / wave * math.sqrt(NEIGHBOUR_DB / 12) / away
    return arc[k][0], away, down, math.ceil(least * 20) / 20


def band_choice(
    dish: ReceivingDish,
    sight: Sight,
    latitude_deg: float,
    height_m: float,
    carriers: Sequence[Carrier],
    climate: Climate | None,
    availability_pct: float,
) -> list[BandLine]:
    """The same service in each band: the carrier that wants most, at the same symbol rate, with the
    EIRP of the satellite's own list where it has that band, else with what is usual there."""
    if not carriers or not sight.visible:
        return []
    service = max(carriers, key=lambda c: MODULATIONS[c.modulation].cn_db)
    found = []
    for band, middle, (low, high), usual in BANDS:
        listed = [c for c in carriers if low <= c.frequency_mhz <= high]
        own = min(listed, key=lambda c: c.power, default=None)
        f, eirp = (own.frequency_mhz, own.power) if own else (middle, usual)
        asked = service.model_copy(update={"frequency_mhz": f, "power": eirp})
        row = link(
            dish,
            sight,
            latitude_deg=latitude_deg,
            height_m=height_m,
            carriers=[asked],
            others=[],
            climate=climate,
            availability_pct=availability_pct,
            reserve_db=0.0,
        )[0]
        margin = row.rain_margin.value if row.rain_margin.value is not None else row.margin.value
        found.append(
            BandLine(
                band=band,
                frequency_mhz=f,
                eirp_dbw=eirp,
                origin="weakest of this satellite's list"
                if own
                else "usual there (common practice, no source)",
                rain_db=row.rain_db,
                margin_db=margin or 0.0,
                smallest_m=row.smallest_m,
                beamwidth_deg=dish_beamwidth_deg(row.smallest_m, f) if row.smallest_m else None,
            )
        )
    return found
