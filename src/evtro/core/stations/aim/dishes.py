"""A dish of the job in the terms of the modules that compute with one."""

from __future__ import annotations

import math
from functools import lru_cache

from ...job import Carrier, Dish, Job, Part, Site, Target
from ...job.changes import Set
from ...job.problems import Problem
from ...job.targets import sight_of
from ...physics.beams import Reflector, offset_reflector
from ...units.quantities import (
    InputError,
    Quantity,
    gauge,
)
from ..sky.interference import NeighbourSatellite
from ..sky.receiving import ReceivingDish
from . import multifeed
from .errors import lean


def reflector_of(antenna: Dish) -> Reflector | None:
    """The reflector from its three measures; None where they are not known, or make no dish."""
    measures = (
        antenna.reflector_height_mm,
        antenna.reflector_width_mm,
        antenna.reflector_depth_mm,
    )
    if any(m is None for m in measures):
        return None
    try:
        return offset_reflector(*(float(m or 0) for m in measures))
    except InputError:
        return None


def reflector_problem(antenna: Dish) -> Problem | None:
    """What is wrong with a reflector's measures, as soon as both axes are typed."""
    height, width, depth = (
        antenna.reflector_height_mm,
        antenna.reflector_width_mm,
        antenna.reflector_depth_mm,
    )
    if height is None or width is None:
        return None
    try:
        # Any depth will do to tell that the axes are swapped.
        offset_reflector(height, width, width / 10 if depth is None else depth)
    except InputError as error:
        return Problem(
            code="reflector",
            station="aim",
            state="marginal",
            place=antenna.name,
            title=(f"{antenna.name}: {error.reason}",),
            gauge=None,
            limit=("the long way first, the depth from rim to the deepest point",),
            origin="geometry of a paraboloid",
            remedy=(f"{error.remedy} Until then f/D is used.",),
            ref=antenna.id,
        )
    return None


OFFSET_DEG, SIZE_SHARE = 1.5, 0.05  # how well a reflector is measured; common practice, no source
ROUND = 0.97  # the axes of a round dish are read alike to this; common practice, no source


def axes_of(antenna: Dish) -> tuple[float, float] | None:
    """Offset angle [deg] and diameter [m] from the two axes of a reflector: arccos(W/H) and W. None
    where they are not measured, or swapped. A dish typed as round keeps its angle while it is."""
    height, width = antenna.reflector_height_mm, antenna.reflector_width_mm
    if height is None or width is None:
        return None
    if antenna.offset_deg < 0.5 and min(height, width) >= ROUND * max(height, width):
        return antenna.offset_deg, width / 1000
    if width > height:
        return None
    return math.degrees(math.acos(width / height)), width / 1000


def measured_differs(antenna: Dish) -> Problem | None:
    """A reflector whose measures say another offset angle or size than those that were typed: every
    figure of the tools follows the typed ones."""
    axes = axes_of(antenna)
    if axes is None:
        return None
    offset_deg, diameter_m = axes
    off = offset_deg - antenna.offset_deg
    size = diameter_m / antenna.diameter_m - 1
    if abs(off) <= OFFSET_DEG and abs(size) <= SIZE_SHARE:
        return None
    by_angle = abs(off) > OFFSET_DEG
    return Problem(
        code="reflector-differs",
        station="aim",
        state="fail",
        place=antenna.name,
        title=(f"The reflector of {antenna.name} was measured as another dish than was typed",),
        gauge=gauge(
            offset_deg if by_angle else diameter_m,
            "deg" if by_angle else "m",
            *(
                (antenna.offset_deg - OFFSET_DEG, antenna.offset_deg + OFFSET_DEG)
                if by_angle
                else (antenna.diameter_m * (1 - SIZE_SHARE), antenna.diameter_m * (1 + SIZE_SHARE))
            ),
        ),
        limit=(
            "typed: offset ",
            Quantity(antenna.offset_deg, "deg"),
            ", ",
            Quantity(antenna.diameter_m, "m", 2),
            "; measured: ",
            Quantity(offset_deg, "deg"),
            ", ",
            Quantity(diameter_m, "m", 2),
        ),
        origin="geometry of a paraboloid",
        remedy=("Take the measured figures, or measure again: long axis, short axis.",),
        change=Set(
            rows="dishes",
            id=antenna.id,
            values={"offset_deg": round(offset_deg, 2), "diameter_m": round(diameter_m, 3)},
        ),
        effect=(
            "then the offset is ",
            Quantity(offset_deg, "deg"),
            " and the inclinometer moves by ",
            Quantity(abs(off), "deg"),
        ),
        ref=antenna.id,
    )


def shape_of(antenna: Dish) -> multifeed.Paraboloid:
    """Diameter, focal length and where the aperture's middle stands, from measures or from f/D."""
    measured = reflector_of(antenna)
    if measured is not None:
        return multifeed.Paraboloid(
            (antenna.reflector_width_mm or 0) / 1000,
            measured.focal_mm / 1000,
            measured.centre_mm / 1000,
        )
    focal = antenna.focal_ratio * antenna.diameter_m
    # The rim's plane of an offset dish leans by its offset angle: tan o = centre / 2f.
    return multifeed.Paraboloid(
        antenna.diameter_m, focal, 2 * focal * math.tan(math.radians(antenna.offset_deg))
    )


def sats_on(job: Job, antenna: Dish) -> list[Target]:
    """The satellites a dish looks at, its main one first."""
    keys = [antenna.target] + [f.target for f in job.feeds if f.antenna == antenna.id]
    by_id = {t.id: t for t in job.targets}
    return [by_id[k] for k in dict.fromkeys(keys) if k in by_id and by_id[k].kind == "satellite"]


@lru_cache(maxsize=256)
def _row(
    site: Site, antenna: Dish, sats: tuple[Target, ...], frequency_mhz: float
) -> multifeed.RowOfFeeds | None:
    seen = [(t, s) for t in sats if (s := sight_of(site, t)) is not None and s.visible]
    if not seen:
        return None
    main = next((i for i, (t, _) in enumerate(seen) if t.id == antenna.target), -1)
    return multifeed.row_of_feeds(
        shape_of(antenna),
        [(t.id, t.name, s.azimuth_deg, s.elevation_deg) for t, s in seen],
        main=main,
        frequency_mhz=frequency_mhz,
        lnb_width_mm=antenna.lnb_width_mm,
    )


def feeds_of(job: Job, antenna: Dish) -> multifeed.RowOfFeeds | None:
    """The row of feeds of a dish for several satellites; None for a dish with one, or a motor."""
    sats = tuple(sats_on(job, antenna))
    if antenna.mounting == "polar" or len(sats) < 2:
        return None
    waves = [c.frequency_mhz for c in job.carriers if c.target == antenna.target]
    return _row(job.site, antenna, sats, max(waves, default=11_700.0))


def lnb_part(job: Job, antenna: Dish, target: str) -> Part | None:
    """The LNB on an antenna that receives a satellite: its own, or the one of the main feed."""
    own = [p for p in job.parts if p.antenna == antenna.id]
    named = next((p for p in own if p.target == target), None)
    if named is not None:
        return named
    plain = next((p for p in own if p.target is None), None)
    # A motor carries one LNB to every satellite; a second feed needs one of its own.
    return plain if antenna.target == target or antenna.mounting == "polar" else None


@lru_cache(maxsize=256)
def _lean_skew_deg(
    azimuth_deg: float, elevation_deg: float, lean_deg: float, toward_deg: float
) -> float:
    """How far a leaning mast turns the skew [deg]."""
    return float(lean(azimuth_deg, elevation_deg, lean_deg, toward_deg).skew_deg)


def neighbours_of(job: Job, target: Target) -> list[NeighbourSatellite]:
    """All other satellites above the horizon with their carriers, wanted or not."""
    own: dict[str, list[Carrier]] = {}
    for carrier in job.carriers:
        if carrier.target != target.id:
            own.setdefault(carrier.target, []).append(carrier)
    found = []
    for other in job.targets:
        sight = sight_of(job.site, other) if other.kind == "satellite" and other.id in own else None
        if sight is not None and sight.visible:
            found.append(
                NeighbourSatellite(
                    name=other.name,
                    azimuth_deg=sight.azimuth_deg,
                    elevation_deg=sight.elevation_deg,
                    carriers=tuple(own[other.id]),
                    tilt_deg=None if other.circular else sight.tilt_deg,
                )
            )
    return found


def link_dish(
    job: Job, antenna: Dish, target: Target, lnb_noise_db: float, lnb_gain_db: float
) -> ReceivingDish:
    """The dish as the link sees it for a satellite: with the loss of a feed beside the focus and of
    the skew that a leaning mast leaves, and ground noise where somebody typed it."""
    row = feeds_of(job, antenna)
    lost = 0.0
    if row is not None:
        lost = next((f.loss_db for f in row.feeds if f.target == target.id), 0.0)
    skew = 0.0
    if antenna.lean_deg > 0 and not target.circular:
        sight = sight_of(job.site, target)
        if sight is not None:
            skew = _lean_skew_deg(
                sight.azimuth_deg, sight.elevation_deg, antenna.lean_deg, antenna.lean_bearing_deg
            )
    return ReceivingDish(
        diameter_m=antenna.diameter_m,
        efficiency=antenna.efficiency,
        feed_loss_db=lost,
        skew_error_deg=skew,
        lnb_noise_db=lnb_noise_db,
        lnb_gain_db=lnb_gain_db,
        ground_k=antenna.ground_k,
    )
