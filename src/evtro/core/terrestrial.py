"""Terrestrial reception worked out for the pages: the way to each transmitter, and all that one
antenna can be asked. Puts stations together as `answers` does, so it stands above them."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from .aim.arrays import (
    Ether,
    Terminals,
    as_antenna,
    duty_of,
    ether_of,
    gain_of,
    heading_of,
    height_of,
    stands_upright,
    terminals,
    width_of,
)
from .aim.heading import (
    Best,
    Beyond,
    Sweep,
    Way,
    advised,
    best_of,
    compare,
    preamplified,
    services_of,
    sweep,
)
from .aim.trial import TrialView, trial
from .antennas import LIGHT_M_MHZ, array_loss_db
from .channels import channel_of
from .coax.front_end import front_end
from .coax.front_words import FrontEnd
from .coax.levels import OutletRow, Solved
from .coax.reach import beyond_antenna
from .geomagnetism import declination_deg
from .job import Antenna, Job
from .modulation import MODULATIONS
from .parts import Catalogue
from .profile import Profile
from .quantities import Gauge, InputError, State, gauge, noise_dbuv
from .readings.expected import ExpectedOutlet, expected
from .sky import path
from .sky.diffraction import bulge_m, fresnel_radius_m
from .sky.path import Way as Path_

PICTURE_POINTS = 240


@dataclass(frozen=True)
class MuxLine:
    """A multiplex at the antenna's terminals. `level_dbuv` is read where `read` says so."""

    carrier: str
    name: str
    rf_channel: int | None
    label: str
    services: int
    frequency_mhz: float
    polarisation: str
    erp_kw: float
    free_dbuvm: float
    lost_db: float
    entry_db: float
    field_dbuvm: float
    level_dbuv: float
    forecast_dbuv: float
    read: bool
    spread_db: float
    cn_db: float
    interference_db: float
    modulation: str
    wanted_cn_db: float
    mild_echoes_db: float | None
    strong_echoes_db: float | None
    margin: Gauge


@dataclass(frozen=True)
class PathView:
    """The way to a transmitter. Picture arrays are rows of distance [km] and heights above sea [m]:
    the ground raised by the earth's curve; the ray; the border of the first Fresnel zone below it
    at `zone_mhz`. `clear_share` is how much of the zone's radius is free where it is least."""

    target: str
    name: str
    wanted: bool
    bearing_deg: float
    compass_deg: float | None
    distance_km: float
    horizon_km: float
    house_m: float
    antenna_m: float
    mast_m: float
    known: bool
    source: str
    missing: str
    own_loss_db: float | None
    ground: list[tuple[float, float, float]]
    ray: list[tuple[float, float]]
    zone: list[tuple[float, float]]
    zone_mhz: float
    clear_share: float
    clear_km: float
    in_sight: bool
    edge_km: float
    edge_above_m: float
    terrain_db: float
    near_db: float
    near_name: str
    clutter_db: float
    pattern_db: float
    spread_db: float
    antenna: str | None
    antenna_name: str
    muxes: list[MuxLine]
    words: str
    height_note: str


@dataclass(frozen=True)
class Paths:
    """Every transmitter's way, the wanted ones first."""

    paths: list[PathView]
    surroundings: str
    small_antenna: str


def paths(job: Job, profile: Profile) -> Paths:
    """The ways to all transmitters of a job, each as the antenna that hears it best has it."""
    arrays = [a for a in job.antennas if a.kind == "array"]
    heard = [(a, t) for a in arrays if (t := terminals(job, a)) is not None]
    plain = Antenna(id="a0", kind="array", name="a half-wave dipole", gain_dbi=2.15, beamwidth_deg=360,
                    front_back_db=0)  # fmt: skip
    views = []
    sends = [t for t in job.targets if t.kind == "transmitter"]
    for target in sorted(sends, key=lambda t: not t.wanted):
        best = max(
            ((a, t) for a, t in heard if any(c.target == target.id for c in t.ether.carriers)),
            key=lambda at: (at[0].target == target.id, _strength(at[1], target.id)),
            default=None,
        )
        if best is None:
            ether = ether_of(job, plain)
            at = _straight(job, plain, target.id, ether)
            if at is None:
                continue
            best = (plain, at)
        views.append(_path(job, profile, target.id, *best))
    return Paths(views, job.site.surroundings, profile.small_antenna)


def _strength(at: Terminals, target: str) -> float:
    return max(
        float(at.level_dbuv[i]) for i, c in enumerate(at.ether.carriers) if c.target == target
    )


def _straight(job: Job, antenna: Antenna, target: str, ether: Ether) -> Terminals | None:
    bearings = [
        float(ether.bearing_deg[i]) for i, c in enumerate(ether.carriers) if c.target == target
    ]
    if not bearings:
        return None
    return terminals(job, antenna.model_copy(update={"heading_deg": bearings[0], "target": target}))


def _path(job: Job, profile: Profile, key: str, antenna: Antenna, at: Terminals) -> PathView:
    target = next(t for t in job.targets if t.id == key)
    way = next(w for w in at.ether.ways if w.target == key)
    rows = [i for i, c in enumerate(at.ether.carriers) if c.target == key]
    waves = [at.ether.carriers[i].frequency_mhz for i in rows]
    middle = sorted(waves)[len(waves) // 2]
    of = sorted(range(len(waves)), key=lambda i: waves[i])[len(waves) // 2]
    d = np.array(way.ground.distance_km)
    raised = np.array(way.ground.ground_m) + bulge_m(d, d[-1] - d)
    ray = way.antenna_m + (target.height_m - way.antenna_m) * d / d[-1]
    inside = slice(1, -1)
    radius = np.zeros_like(d)
    radius[inside] = fresnel_radius_m(d[inside], d[-1] - d[inside], middle)
    share = (ray[inside] - raised[inside]) / radius[inside]
    least = int(share.argmin())
    keep = np.unique(np.linspace(0, len(d) - 1, PICTURE_POINTS).round().astype(int))
    keep = np.unique(np.append(keep, least + 1))
    down = path.pattern_loss_db(target.pattern, path.sent_toward(job.site, target))
    compass = None
    if job.site.latitude_deg is not None and job.site.longitude_deg is not None:
        try:
            compass = (way.bearing_deg - declination_deg(
                job.site.latitude_deg, job.site.longitude_deg, job.site.height_m, job.date)) % 360  # fmt: skip
        except InputError:
            compass = None
    off = way.house_m - job.site.height_m
    note = (
        f"The tile has the house at {way.house_m:.0f} m, the job at {job.site.height_m:.0f} m: check the position."
        if way.ground.known and abs(off) > 15
        else ""
    )
    return PathView(
        key, target.name, target.wanted, way.bearing_deg, compass, way.distance_km, way.horizon_km,
        way.house_m, way.antenna_m, target.height_m, way.ground.known, way.ground.words,
        way.ground.missing, way.own_loss_db,
        [(float(d[i]), way.ground.ground_m[i], float(raised[i])) for i in keep],
        [(0.0, way.antenna_m), (way.distance_km, target.height_m)],
        [(float(d[i]), float(ray[i] - radius[i])) for i in keep],
        middle, float(share[least]), float(d[inside][least]), way.diffraction.in_sight,
        way.diffraction.edge_km, way.diffraction.edge_above_m, float(way.diffraction.loss_db[of]),
        float(way.near_db[of]), way.near_name, float(way.clutter_db[of]), down, way.spread_db,
        None if antenna.id == "a0" else antenna.id, antenna.name,
        [_mux(profile, at, i) for i in rows], _words(way, float(share[least])), note,
    )  # fmt: skip


def _mux(profile: Profile, at: Terminals, i: int) -> MuxLine:
    carrier, ether = at.ether.carriers[i], at.ether
    kind = MODULATIONS[carrier.modulation]
    noise_only = float(at.level_dbuv[i]) - noise_dbuv(carrier.bandwidth_mhz)
    cn = float(at.cn_db[i])
    margin = gauge(cn - kind.cn_db, "db", low=profile.margin_db, reserve=float(at.spread_db[i]))
    return MuxLine(
        carrier.id, carrier.name, channel_of(carrier.frequency_mhz, profile.channels), carrier.label,
        max(len(carrier.services), 1), carrier.frequency_mhz, carrier.polarisation, carrier.power,
        float(ether.free_dbuvm[i]), float(ether.loss_db[i]), float(ether.entry_db[i]),
        float(ether.field_dbuvm[i]), float(at.level_dbuv[i]), float(at.forecast_dbuv[i]),
        bool(at.read[i]), float(at.spread_db[i]), cn, noise_only - cn, carrier.modulation, kind.cn_db,
        kind.mild_echoes_db, kind.strong_echoes_db, margin,
    )  # fmt: skip


def _words(way: Path_, share: float) -> str:
    if way.own_loss_db is not None:
        return f"Own figure: {way.own_loss_db:g} dB over free space, in place of the forecast."
    over = way.diffraction
    if not over.in_sight:
        return (
            f"Over an edge at {over.edge_km:.1f} km that stands {over.edge_above_m:.0f} m above the ray: "
            "delta-Bullington, ITU-R P.526, which makes one hill dearer than a bare knife edge."
        )
    if share < 0.6:
        return (
            f"In sight, but only {max(share, 0) * 100:.0f} % of the Fresnel zone's radius is free where 60 % "
            "would cost nothing."
        )
    return "In sight, with 60 % of the first Fresnel zone free: free space."


@dataclass(frozen=True)
class Curve:
    """Services over their margin and the weakest margin [dB], bearing by bearing."""

    bearing_deg: list[float]
    services: list[float]
    least_db: list[float]


@dataclass(frozen=True)
class Toll:
    """What a heading costs toward one transmitter: bearing [deg], loss [dB], weakest margin [dB]."""

    target: str
    name: str
    bearing_deg: float
    lost_db: float
    least_db: float
    services: int
    of: int


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


@dataclass(frozen=True)
class ArrayDetail:
    """All pages of one terrestrial antenna. `pattern` holds pairs of degrees off the heading and dB
    below it, `rays` each wanted transmitter with its bearing [deg] and what it loses by the heading
    of now [dB]; `with_preamplifier` the best heading behind one."""

    antenna: str
    name: str
    heading_deg: float | None
    beamwidth_deg: float
    gain_dbi: float
    upright: bool
    wave_m: float
    pattern: list[tuple[float, float]]
    rays: list[tuple[str, float, float]]
    above_ground_m: float
    margin_db: float
    beyond: str
    curve: Curve
    now: Best | None
    best: Best | None
    with_preamplifier: Best | None
    tolls: list[Toll]
    ways: list[Way]
    advised: str
    advice: str
    choices: list[Choice]
    choice_words: str
    muxes: list[MuxLine]
    front: FrontEnd | None
    trial: TrialView
    state: State


def array_detail(
    job: Job, catalogue: Catalogue, profile: Profile, solved: Solved, antenna: Antenna,
    behind_preamplifier: bool = False,
) -> ArrayDetail | None:  # fmt: skip
    """Everything about one antenna; None while no transmitter with a carrier is placed. Headings and
    antennas are judged through the run as it is, or as if a mast preamplifier made up for it."""
    ether = duty_of(job, antenna, ether_of(job, antenna))
    if not ether.carriers:
        return None
    beyond = (
        preamplified(ether) if behind_preamplifier else beyond_antenna(job, solved, antenna, ether)
    )
    margin = profile.margin_db
    total = int(services_of(ether).sum())
    heading = heading_of(job, antenna)
    found = sweep(ether, [antenna], beyond, margin)
    best = best_of(found, 0, total) if total else None
    now = None
    if heading is not None and total:
        here = sweep(ether, [antenna], beyond, margin, np.array([heading]))
        now = best_of(here, 0, total)
        now = Best(heading, heading, heading, now.services, total, now.least_db)
    amplified = None
    if best is not None and not behind_preamplifier and best.services < total:
        amplified = best_of(sweep(ether, [antenna], preamplified(ether), margin), 0, total)
    ways = compare(ether, antenna, beyond, margin, best) if best else []
    pick = advised(ways) if ways else None
    choices, choice_words = _choices(ether, beyond, margin, catalogue, antenna, total)
    at = terminals(job, antenna)
    return ArrayDetail(
        antenna.id, antenna.name, heading, width_of(antenna),
        float(gain_of(antenna, np.array([float(np.median(ether.frequency_mhz))]))[0]),
        stands_upright(antenna, ether), LIGHT_M_MHZ / float(np.median(ether.frequency_mhz)),
        _pattern(antenna), _rays(ether, antenna, heading), height_of(job.site, antenna), margin, beyond.words,
        _curve(found), now, best, amplified,
        _tolls(ether, beyond, margin, antenna, best.heading_deg if best else heading or 0.0),
        ways, pick.key if pick else "", _advice(ways, pick, amplified),
        choices, choice_words,
        [_mux(profile, at, i) for i in range(len(ether.carriers)) if ether.wanted[i]] if at else [],
        front_end(job, catalogue, profile, antenna), trial(job, antenna, margin),
        "todo" if now is None else "in" if now.services == total else "near" if now.services else "out",
    )  # fmt: skip


def _curve(found: Sweep) -> Curve:
    least = np.clip(np.nan_to_num(found.least_served_db[0], neginf=-60.0), -60.0, 60.0)
    return Curve(found.bearing_deg.tolist(), found.services[0].tolist(), least.round(1).tolist())


def _tolls(
    ether: Ether, beyond: Beyond, margin_db: float, antenna: Antenna, heading: float
) -> list[Toll]:
    """The compromise of a heading, transmitter by transmitter."""
    counts = services_of(ether)
    found = []
    by_target: dict[str, list[int]] = {}
    for i, carrier in enumerate(ether.carriers):
        if ether.wanted[i]:
            by_target.setdefault(carrier.target, []).append(i)
    for key, rows in by_target.items():
        bearing = float(ether.bearing_deg[rows[0]])
        lost = float(array_loss_db(bearing - heading, width_of(antenna), antenna.front_back_db))
        only = np.zeros(len(counts), bool)
        only[rows] = True
        part = replace(ether, wanted=only)
        there = sweep(part, [antenna], beyond, margin_db, np.array([heading]))
        of = int(counts[rows].sum())
        found.append(
            Toll(key, ether.targets[rows[0]].name, bearing, lost, float(there.least_db[0, 0]),
                 int(there.services[0, 0]), of)
        )  # fmt: skip
    return found


def _pattern(antenna: Antenna) -> list[tuple[float, float]]:
    off = np.arange(0.0, 181.0, 3.0)
    down = array_loss_db(off, width_of(antenna), antenna.front_back_db)
    return [(float(a), round(float(d), 2)) for a, d in zip(off, down, strict=True)]


def _rays(ether: Ether, antenna: Antenna, heading: float | None) -> list[tuple[str, float, float]]:
    if heading is None:
        return []
    found: dict[str, tuple[str, float, float]] = {}
    for i, target in enumerate(ether.targets):
        if target.wanted:
            bearing = float(ether.bearing_deg[i])
            down = array_loss_db(bearing - heading, width_of(antenna), antenna.front_back_db)
            found[target.id] = (target.name, bearing, float(down))
    return list(found.values())


def _advice(ways: list[Way], pick: Way | None, amplified: Best | None) -> str:
    if pick is None:
        return "No wanted service is entered yet."
    more = ""
    if amplified is not None and amplified.services > pick.services:
        more = (
            f" Levels at the outlets hold it back: behind a mast preamplifier one antenna brings "
            f"{amplified.services} at {amplified.heading_deg:.0f}°. Judge it so below, then see Front end."
        )
    if len(ways) == 1:
        return "One transmitter: one antenna, straight at it." + more
    by = {w.key: w for w in ways}
    if pick.key == "one":
        return (
            f"One antenna at {pick.headings_deg[0]:.0f}° brings {pick.services} of {pick.of} services, the "
            f"weakest {pick.least_db:.1f} dB over its threshold; two bring {by['two'].services} and cost a "
            "combiner." + more
        )
    if pick.key == "two":
        return (
            f"One antenna brings {by['one'].services} of {pick.of}; two with a combiner bring {pick.services}, the "
            f"weakest {pick.least_db:.1f} dB over its threshold." + more
        )
    return (
        f"Only turning brings {pick.services} of {pick.of}: one antenna gets {by['one'].services}, two with a "
        f"combiner {by['two'].services}." + more
    )


def _choices(
    ether: Ether, beyond: Beyond, margin_db: float, catalogue: Catalogue, antenna: Antenna,
    total: int,
) -> tuple[list[Choice], str]:  # fmt: skip
    """Every antenna of the catalogue at its best heading, smallest first; the smallest that brings
    all that any of them brings is marked, with its neighbours up and down."""
    waves = ether.frequency_mhz[ether.wanted]
    kinds = [
        k for k in catalogue.antennas.values()
        if (antenna.standing != "outdoors" or not k.indoors)
        and ((waves >= k.low_mhz) & (waves <= k.high_mhz)).any()
    ]  # fmt: skip
    kinds.sort(key=lambda k: (k.wind_area_m2 * k.length_m, k.wind_area_m2))
    if not kinds or not total:
        return [], "No wanted service is entered yet."
    tried = [as_antenna(k, antenna) for k in kinds]
    found = sweep(ether, tried, beyond, margin_db, np.arange(0.0, 360.0, 2.0))
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
        middle = float(np.median(ether.frequency_mhz))
        rows.append(
            Choice(kind.key, kind.name, float(gain_of(tried[i], np.array([middle]))[0]),
                   kind.beamwidth_deg, kind.length_m, kind.wind_area_m2, best.heading_deg,
                   best.services, total, best.least_db, fits[i], mark)
        )  # fmt: skip
    if chosen is None:
        return (
            rows,
            "None of them brings a service: raise it, move it, or take a front end with less noise.",
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
            i for i in range(chosen + 1, len(bests))
            if bests[i].services == bests[chosen].services
            and bests[i].least_db > bests[chosen].least_db
        ),
        None,
    )  # fmt: skip
    down = next((i for i in range(chosen - 1, -1, -1) if bests[i].services > 0), None)
    return up, down


def expected_lists(
    job: Job, profile: Profile, rows: list[OutletRow], solved: Solved
) -> list[ExpectedOutlet]:
    """The list that a scan should find at every outlet."""
    spread: dict[str, float] = {}
    for antenna in job.antennas:
        at = terminals(job, antenna)
        for i, carrier in enumerate(at.ether.carriers if at else ()):
            own = float(at.spread_db[i]) if at else 0.0
            spread[carrier.id] = min(spread.get(carrier.id, math.inf), own)
    return expected(job, profile, rows, solved, spread)
