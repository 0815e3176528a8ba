"""Everything there is to know about aiming one dish, for the pages of the station."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ....job import Dish, Job, Sample, Target
from ....job.targets import sight_of
from ....physics.beams import dish_beamwidth_deg
from ....physics.geodesy import half_turn
from ....units.quantities import Gauge, gauge
from ...sky.answer import SkyAnswer
from ..answer import Aim, inclinometer_deg
from ..dishes import feeds_of, reflector_of, sats_on
from ..errors import ONE_DB, ErrorLine, budget
from ..evidence import identity_of, seen_from
from ..finding import peaking
from ..finding.identify import Identity
from ..finding.search import SearchPlan, search
from ..multifeed import FeedLine
from ..portable import rig
from . import polar, refit
from .feedhorn import Feedhorn, feedhorn
from .terminal import TwoWayView, terminal_page

FLATS = 6  # of a nut


@dataclass(frozen=True)
class Datum:
    """What a tool reads in one of the places where it can be laid [deg]."""

    key: str
    name: str
    reads_deg: float
    words: str


@dataclass(frozen=True)
class FeedView:
    """A feed of the row with the turn of its own LNB against the bar [deg]."""

    line: FeedLine
    lnb_turn_deg: float | None
    placed_mm: float | None
    state: str


@dataclass(frozen=True)
class RowView:
    """Several satellites on one dish."""

    tilt_deg: float
    tilt_words: str
    azimuth_deg: float
    elevation_deg: float
    least_spacing_deg: float
    beam_deviation: float
    focal_mm: float
    feeds: list[FeedView]
    zone: str
    zones: list[tuple[str, str, float, float]]


@dataclass(frozen=True)
class MotorView:
    """A motorised mount. `error` rows: longitude west [deg], along and across the arc [deg]."""

    settings: polar.PolarSettings
    stops: list[polar.ArcStop]
    order: list[str]
    error: list[tuple[float, float, float]]
    worst_across: Gauge


@dataclass(frozen=True)
class PeakView:
    """The readings of one axis and where its top is."""

    axis: str
    unit: str
    scale: str
    samples: list[Sample]
    peak: peaking.Peak
    words: str
    go_back: peaking.WayBack | None
    arm_mm: float | None
    lobe: Gauge


@dataclass(frozen=True)
class SightLine:
    """What must stay under the beam: whatever is higher than an angle [deg], which is `rise_m` above the dish at
    `away_m`."""

    under_deg: float
    away_m: float
    rise_m: float


@dataclass(frozen=True)
class AimDetail:
    """The pages of one antenna."""

    aim: Aim
    datums: list[Datum]
    errors: list[ErrorLine]
    search: SearchPlan
    row: RowView | None
    motor: MotorView | None
    peaks: list[PeakView]
    tightened: list[peaking.Tightening]
    identity: Identity
    tries: refit.Tries
    feedhorn: Feedhorn
    two_way: TwoWayView | None
    rig: list[rig.RigLine]
    sight: SightLine
    inclined: str
    feed: str
    feeds: list[tuple[str, str]]


def detail(job: Job, sky: SkyAnswer, aim: Aim, feed: str = "") -> AimDetail | None:
    """All pages of a dish; None for an array. `feed` names the satellite whose feed the readings
    are asked for; the main one where it is left out."""
    antenna = next((a for a in job.dishes if a.id == aim.antenna), None)
    if antenna is None or antenna.kind != "dish":
        return None
    target = next(t for t in job.targets if t.id == aim.target)
    others = seen_from(job)
    feeds = sats_on(job, antenna)
    at_feed = feed if any(t.id == feed for t in feeds) else target.id
    plan = search(
        aim.azimuth_deg,
        aim.elevation_deg,
        compass_error_deg=antenna.compass_error_deg,
        tool_error_deg=antenna.scale_error_deg,
        beamwidth_deg=aim.beamwidth_deg,
        others=[(s.name, s.azimuth_deg, s.elevation_deg) for s in others if s.target != target.id],
        azimuth_first=antenna.coarse_first == "azimuth",
    )
    samples = [
        s for s in job.samples if s.antenna == antenna.id and (s.target or target.id) == at_feed
    ]
    scale: peaking.Scale = samples[-1].scale if samples else "db"
    trials = [t for t in job.feed_tries if t.antenna == antenna.id]
    return AimDetail(
        aim=aim,
        datums=_datums(antenna, aim.elevation_deg),
        errors=budget(
            antenna,
            aim.azimuth_deg,
            elevation_deg=aim.elevation_deg,
            beamwidth_deg=aim.beamwidth_deg,
            linear=not target.circular,
        ),
        search=plan,
        row=_row_view(job, antenna, aim),
        motor=_motor(job, antenna, sky, _turn(aim)),
        peaks=_peaks(
            antenna,
            samples,
            aim=aim,
            target=next(t for t in job.targets if t.id == at_feed),
            heard_deg=_heard_deg(job, antenna, at_feed),
        ),
        tightened=peaking.tightenings([(s.axis, s.role, s.reading) for s in samples], scale),
        identity=identity_of(job, antenna, at_feed, target.id, seen=others),
        tries=refit.judge(trials),
        feedhorn=feedhorn(antenna, target),
        two_way=terminal_page(job, antenna, aim) if antenna.two_way else None,
        rig=rig.judge(job.rig),
        sight=_sight(aim.elevation_deg),
        inclined=_inclined(target, aim),
        feed=at_feed,
        feeds=[(t.id, t.name) for t in feeds],
    )


SIGHT_UNDER_DEG = 3.0  # kept free below the beam's middle; typical value, no published source
SIGHT_AWAY_M = 10.0


def _sight(elevation_deg: float) -> SightLine:
    under = max(elevation_deg - SIGHT_UNDER_DEG, 0.0)
    return SightLine(under, SIGHT_AWAY_M, SIGHT_AWAY_M * math.tan(math.radians(under)))


def _datums(antenna: Dish, elevation_deg: float) -> list[Datum]:
    names = (
        ("face", "face, from plumb"),
        ("face_level", "rim to rim, from level"),
        ("scale", "mount's own scale"),
        ("structure", "back structure"),
    )
    found = []
    for key, name in names:
        reads, words = inclinometer_deg(antenna.model_copy(update={"datum": key}), elevation_deg)
        found.append(Datum(key, name, reads, words))
    return found


def _inclined(target: Target, aim: Aim) -> str:
    if target.inclination_deg <= 0:
        return ""
    swing = target.inclination_deg
    costs = 12 * (swing / aim.beamwidth_deg) ** 2
    return (
        f"{target.name} swings {swing:.1f}° north and south of its place each day: at the ends a fixed "
        f"dish loses {min(costs, 60):.1f} dB. Peak it at the hour between, or follow it."
    )


def _row_view(job: Job, antenna: Dish, aim: Aim) -> RowView | None:
    row = feeds_of(job, antenna)
    if row is None:
        return None
    by_id = {t.id: t for t in sats_on(job, antenna)}
    placed = {f.target: f.placed_mm for f in job.feeds if f.antenna == antenna.id}
    views = []
    for line in row.feeds:
        target = by_id[line.target]
        sight = sight_of(job.site, target)
        turn = None
        if sight is not None and not target.circular:
            turn = (sight.tilt_deg - row.tilt_deg + 90) % 180 - 90
        set_at = placed.get(line.target)
        gap_out = line.gap_mm is not None and line.gap_mm < 0
        state = "fail" if gap_out else "marginal" if line.loss_db > 3 else "ok"
        views.append(FeedView(line, turn, set_at, state))
    side = "clockwise" if row.tilt_deg > 0 else "anticlockwise"
    level = 90.0 if antenna.level_reads == "90" else 0.0
    words = (
        f"Tilt the bar {abs(row.tilt_deg):.1f}° {side} as you stand behind the dish; a scale that reads "
        f"{level:.0f} at level shows {abs(level + row.tilt_deg):.1f}."
    )
    focal = (antenna.focal_ratio * antenna.diameter_m) * 1000
    measured = reflector_of(antenna)
    zone, zones = _zones(job, antenna, level + row.tilt_deg)
    return RowView(
        tilt_deg=row.tilt_deg,
        tilt_words=words,
        azimuth_deg=row.azimuth_deg,
        elevation_deg=row.elevation_deg,
        least_spacing_deg=row.least_spacing_deg,
        beam_deviation=row.beam_deviation,
        focal_mm=measured.focal_mm if measured else focal,
        feeds=views,
        zone=zone,
        zones=zones,
    )


def _zones(
    job: Job, antenna: Dish, reads_deg: float
) -> tuple[str, list[tuple[str, str, float, float]]]:
    """The maker's zone whose tilt lies nearest to what the scale should show, in words, and all
    zones as id, name, tilt and how far off [deg]."""
    zones = [
        (z.id, z.name, z.tilt_deg, z.tilt_deg - reads_deg)
        for z in job.presets
        if z.antenna == antenna.id
    ]
    if not zones:
        return "", []
    best = min(zones, key=lambda z: abs(z[3]))
    return f"Zone {best[1]} is nearest, {abs(best[3]):.1f}° off; then set the scale by hand.", zones


def _turn(aim: Aim) -> float | None:
    """From a true bearing to what this antenna's compass reads [deg]."""
    if aim.compass_deg is None:
        return None
    return float(half_turn(aim.compass_deg - aim.azimuth_deg))


def _motor(job: Job, antenna: Dish, sky: SkyAnswer, declination: float | None) -> MotorView | None:
    site = job.site
    if antenna.mounting != "polar" or site.latitude_deg is None or site.longitude_deg is None:
        return None
    set_to = polar.settings(site.latitude_deg, antenna.motor_bend_deg)
    slack = {t.id: (t.gauge.value or 0) - (t.gauge.low or 0) for t in sky.targets}
    rows = [
        (t.id, t.name, t.orbit_deg_e or 0.0, slack.get(t.id, 0.0)) for t in sats_on(job, antenna)
    ]
    found = polar.stops(
        site.latitude_deg,
        site.longitude_deg,
        height_m=site.height_m,
        set_to=set_to,
        sats=rows,
        limit_deg=antenna.motor_limit_deg,
    )
    error = polar.error_along_arc(
        site.latitude_deg,
        set_to,
        lean_deg=antenna.lean_deg,
        lean_bearing_deg=antenna.lean_bearing_deg,
        zero_deg=antenna.motor_zero_deg,
    )
    waves = [c.frequency_mhz for c in job.carriers]
    allowed = dish_beamwidth_deg(antenna.diameter_m, max(waves, default=11_700.0)) * ONE_DB
    worst = max((abs(e[2]) for e in error), default=0.0)
    return MotorView(
        settings=set_to,
        stops=found,
        order=polar.order_of_tuning(set_to.south, found, declination),
        error=error,
        worst_across=gauge(worst, "deg", high=allowed, reserve=0.3 * allowed),
    )


def _heard_deg(job: Job, antenna: Dish, target: str) -> float:
    """Beamwidth at what is read while peaking: the carriers of the satellite, whatever a terminal
    transmits [deg]."""
    waves = [c.frequency_mhz for c in job.carriers if c.target == target]
    return dish_beamwidth_deg(antenna.diameter_m, max(waves, default=11_700.0))


def _peaks(
    antenna: Dish, samples: list[Sample], aim: Aim, target: Target, heard_deg: float
) -> list[PeakView]:
    views = []
    # Circular polarisation has no skew to peak. What a terminal's feed is turned for is the least of
    # the other polarisation; a feed that only receives is turned for the most of its own.
    for axis in ("azimuth", "elevation") if target.circular else ("azimuth", "elevation", "skew"):
        null = axis == "skew" and antenna.two_way
        own = [s for s in samples if s.axis == axis and s.role == "sweep"]
        unit = own[-1].unit if own else "turn"
        scale: peaking.Scale = own[-1].scale if own else "db"
        own = [s for s in own if s.unit == unit and s.scale == scale]
        per = _deg_per_unit(antenna, unit)
        width = None
        if per and axis != "skew":
            flat = math.cos(math.radians(aim.elevation_deg)) if axis == "azimuth" else 1.0
            width = heard_deg / max(flat, 0.05) / per
        play = antenna.play_turns * (FLATS if unit == "flat" else 1) if unit != "deg" else 0.0
        found = peaking.fit(
            [s.position for s in own],
            [s.reading for s in own],
            scale=scale,
            play=play,
            width=width,
            null=null,
        )
        words, way = "", None
        if found.back is not None:
            stands = "It stands in the null" if null else "It stands on the top"
            way = None if found.state == "ok" else peaking.way_back(found.back, unit, axis)
            words = stands if way is None else f"Go back {way}"
        arm = None
        if found.back is not None and per:
            arm = (
                abs(math.radians(found.back * per))
                * antenna.focal_ratio
                * antenna.diameter_m
                * 1000
            )
        lobe = gauge(None, "deg")
        if found.half_width is not None and width and per:
            lobe = gauge(
                found.half_width * per, "deg", low=width * per * 0.8, high=width * per * 1.25
            )
        views.append(
            PeakView(
                axis=axis,
                unit=unit,
                scale=scale,
                samples=own,
                peak=found,
                words=words,
                go_back=way,
                arm_mm=arm,
                lobe=lobe,
            )
        )
    return views


def _deg_per_unit(antenna: Dish, unit: str) -> float | None:
    if unit == "deg":
        return 1.0
    if antenna.deg_per_turn is None:
        return None
    return antenna.deg_per_turn / (FLATS if unit == "flat" else 1)


def learned_zero(antenna: Dish, elevation_deg: float, reads_deg: float) -> float:
    """How much too high a scale reads [deg], from what it shows on a satellite that is peaked."""
    honest, _ = inclinometer_deg(antenna.model_copy(update={"scale_zero_deg": 0.0}), elevation_deg)
    return reads_deg - honest
