"""The link of a dish, satellite by satellite, from EIRP to the LNB's output."""

from __future__ import annotations

from dataclasses import dataclass

from ....job import Dish, Target
from ....job.context import JobContext, JobParts
from ....job.targets import sight_of
from ....physics.propagation.rain import Climate
from ...sky.dish_size import BandLine, band_choice
from ...sky.link import LinkRow, link
from ..answer import PLAIN_GAIN_DB, PLAIN_NOISE_DB
from ..dishes import link_dish, lnb_part, neighbours_of, sats_on


@dataclass(frozen=True)
class SatelliteLink:
    """One satellite through the dish."""

    target: str
    name: str
    feed_loss_db: float
    skew_loss_db: float
    rows: list[LinkRow]
    smallest_m: float | None
    least_margin_db: float | None
    bands: list[BandLine]


@dataclass(frozen=True)
class LinkView:
    """All satellites of a dish. `rain_mm_h` is None while the rain maps have not answered."""

    antenna: str
    diameter_m: float
    availability_pct: float
    lnb: str
    lnb_noise_db: float
    rain_mm_h: float | None
    rain_height_km: float | None
    satellites: list[SatelliteLink]


@dataclass(frozen=True)
class ChosenLnb:
    """What the link needs of the LNB that receives a satellite: noise figure and gain [dB]."""

    name: str
    noise_db: float
    gain_db: float


NO_LNB = ChosenLnb("LNB not chosen yet", PLAIN_NOISE_DB, PLAIN_GAIN_DB)


def lnb_of(ctx: JobParts, dish: Dish, target: Target) -> ChosenLnb:
    """The LNB on a dish that receives a satellite, a usual one where none is chosen."""
    part = lnb_part(ctx.job, dish, target.id)
    kind = ctx.catalogue.parts.get(part.type) if part else None
    if kind is None or not kind.bands:
        return NO_LNB
    return ChosenLnb(kind.name, kind.noise_db or NO_LNB.noise_db, kind.lnb_gain_db)


def link_view(ctx: JobContext, antenna_id: str, climate: Climate | None) -> LinkView | None:
    """The link budget of a dish; None when there is no such dish."""
    job = ctx.job
    antenna = next((a for a in job.dishes if a.id == antenna_id), None)
    lat = job.site.latitude_deg
    if antenna is None:
        return None
    by_target = {t.id: t for t in job.targets}
    sights = {
        k: s for k, t in by_target.items() if t.kind == "satellite" and (s := sight_of(job.site, t))
    }
    carriers = {k: tuple(c for c in job.carriers if c.target == k) for k in sights}
    found = []
    sats = sats_on(job, antenna)
    main = lnb_of(ctx, antenna, sats[0]) if sats else NO_LNB
    for target in sats:
        sight = sights.get(target.id)
        if sight is None or lat is None:
            continue
        lnb = lnb_of(ctx, antenna, target)
        dish = link_dish(
            job, antenna, target=target, lnb_noise_db=lnb.noise_db, lnb_gain_db=lnb.gain_db
        )
        others = neighbours_of(job, target)
        rows = link(
            dish,
            sight,
            latitude_deg=lat,
            height_m=job.site.height_m,
            carriers=carriers[target.id],
            others=others,
            climate=climate,
            availability_pct=antenna.availability_pct,
            reserve_db=ctx.profile.margin_reserve_db,
        )
        sizes = [r.smallest_m for r in rows]
        margins = [
            r.rain_margin.value if r.rain_margin.value is not None else r.margin.value for r in rows
        ]
        found.append(
            SatelliteLink(
                target=target.id,
                name=target.name,
                feed_loss_db=dish.feed_loss_db,
                skew_loss_db=dish.skew_loss_db,
                rows=rows,
                smallest_m=None
                if not sizes or any(s is None for s in sizes)
                else max(s for s in sizes if s is not None),
                least_margin_db=min((m for m in margins if m is not None), default=None),
                bands=band_choice(
                    dish,
                    sight,
                    latitude_deg=lat,
                    height_m=job.site.height_m,
                    carriers=carriers[target.id],
                    climate=climate,
                    availability_pct=antenna.availability_pct,
                ),
            )
        )
    return LinkView(
        antenna=antenna.id,
        diameter_m=antenna.diameter_m,
        availability_pct=antenna.availability_pct,
        lnb=main.name,
        lnb_noise_db=main.noise_db,
        rain_mm_h=climate.rain_mm_h if climate else None,
        rain_height_km=climate.rain_height_km if climate else None,
        satellites=found,
    )
