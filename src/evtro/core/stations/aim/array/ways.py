"""The way to each transmitter: the picture of the ground, what it costs, what arrives."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....job import Array, Job
from ....job.profile import Profile
from ....physics.channels import channel_of
from ....physics.magnetism import declination_deg
from ....physics.modulation import MODULATIONS
from ....physics.propagation.diffraction import bulge_m, fresnel_radius_m
from ....units.phrases import say
from ....units.quantities import Gauge, InputError, Phrase, Quantity, gauge, noise_dbuv
from ...sky import path
from ...sky.incident import IncidentField, incident_at
from ...sky.path import Way
from ...sky.single_frequency import frame_of, networks_of, weight, window_start_us
from .terminals import Terminals, terminals

PICTURE_POINTS = 240


@dataclass(frozen=True)
class Echo:
    """One transmitter of a multiplex's network as it arrives at the antenna: how much later than
    this one [µs], how strong against this one [dB], how much of it is useful, 0 to 1."""

    name: str
    delay_us: float
    level_db: float
    useful: float


@dataclass(frozen=True)
class EchoPattern:
    """The network of a multiplex: its transmitters in the order in which they arrive; where the
    receiver's window begins and how long the guard interval is [µs, from this transmitter]."""

    echoes: list[Echo]
    start_us: float
    guard_us: float
    origin: str


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
    mode: str  # the modulation without its system
    wanted_cn_db: float
    mild_echoes_db: float | None
    strong_echoes_db: float | None
    margin: Gauge
    network: EchoPattern | None


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
    horizon_km: float | None
    house_m: float
    antenna_m: float
    mast_m: float
    known: bool
    source: str
    missing: Phrase
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
    words: Phrase
    height_note: Phrase


@dataclass(frozen=True)
class Paths:
    """Every transmitter's way, the wanted ones first."""

    paths: list[PathView]
    surroundings: str
    small_antenna: str


def paths(job: Job, profile: Profile) -> Paths:
    """The ways to all transmitters of a job, each as the antenna that hears it best has it."""
    arrays = list(job.arrays)
    heard = [(a, t) for a in arrays if (t := terminals(job, a)) is not None]
    plain = Array(
        id="a0", name="a half-wave dipole", gain_dbi=2.15, beamwidth_deg=360, front_back_db=0
    )
    views = []
    sends = [t for t in job.targets if t.kind == "transmitter"]
    for target in sorted(sends, key=lambda t: not t.wanted):
        best = max(
            ((a, t) for a, t in heard if any(c.target == target.id for c in t.incident.carriers)),
            key=lambda at: (at[0].target == target.id, _strength(at[1], target.id)),
            default=None,
        )
        if best is None:
            incident = incident_at(job, plain)
            at = _straight(job, plain, target.id, incident)
            if at is None:
                continue
            best = (plain, at)
        views.append(_path(job, profile, target.id, *best))
    return Paths(views, job.site.surroundings, profile.small_antenna)


def _strength(at: Terminals, target: str) -> float:
    return max(
        float(at.level_dbuv[i]) for i, c in enumerate(at.incident.carriers) if c.target == target
    )


def _straight(job: Job, antenna: Array, target: str, incident: IncidentField) -> Terminals | None:
    bearings = [
        float(incident.bearing_deg[i])
        for i, c in enumerate(incident.carriers)
        if c.target == target
    ]
    if not bearings:
        return None
    return terminals(job, antenna.model_copy(update={"heading_deg": bearings[0], "target": target}))


def _path(job: Job, profile: Profile, key: str, antenna: Array, at: Terminals) -> PathView:
    target = next(t for t in job.targets if t.id == key)
    way = next(w for w in at.incident.ways if w.target == key)
    rows = [i for i, c in enumerate(at.incident.carriers) if c.target == key]
    waves = [at.incident.carriers[i].frequency_mhz for i in rows]
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
            compass = (
                way.bearing_deg
                - declination_deg(
                    job.site.latitude_deg, job.site.longitude_deg, job.site.height_m, job.date
                )
            ) % 360
        except InputError:
            compass = None
    off = way.house_m - job.site.height_m
    note = (
        say(
            "The tile has the house at {}, the job at {}: check the position.",
            Quantity(way.house_m, "m", 0),
            Quantity(job.site.height_m, "m", 0),
        )
        if way.ground.known and abs(off) > 15
        else ()
    )
    return PathView(
        target=key,
        name=target.name,
        wanted=target.wanted,
        bearing_deg=way.bearing_deg,
        compass_deg=compass,
        distance_km=way.distance_km,
        horizon_km=way.horizon_km,
        house_m=way.house_m,
        antenna_m=way.antenna_m,
        mast_m=target.height_m,
        known=way.ground.known,
        source=way.ground.words,
        missing=way.ground.missing,
        own_loss_db=way.own_loss_db,
        ground=[(float(d[i]), way.ground.ground_m[i], float(raised[i])) for i in keep],
        ray=[(0.0, way.antenna_m), (way.distance_km, target.height_m)],
        zone=[(float(d[i]), float(ray[i] - radius[i])) for i in keep],
        zone_mhz=middle,
        clear_share=float(share[least]),
        clear_km=float(d[inside][least]),
        in_sight=way.diffraction.in_sight,
        edge_km=way.diffraction.edge_km,
        edge_above_m=way.diffraction.edge_above_m,
        terrain_db=float(way.diffraction.loss_db[of]),
        near_db=float(way.near_db[of]),
        near_name=way.near_name,
        clutter_db=float(way.clutter_db[of]),
        pattern_db=down,
        spread_db=way.spread_db,
        antenna=None if antenna.id == "a0" else antenna.id,
        antenna_name=antenna.name,
        muxes=[mux(profile, at, i) for i in rows],
        words=_words(way, float(share[least])),
        height_note=note,
    )


def mux(profile: Profile, at: Terminals, i: int) -> MuxLine:
    carrier, incident = at.incident.carriers[i], at.incident
    kind = MODULATIONS[carrier.modulation]
    noise_only = float(at.level_dbuv[i]) - noise_dbuv(carrier.bandwidth_mhz)
    cn = float(at.cn_db[i])
    margin = gauge(cn - kind.cn_db, "db", low=profile.margin_db, reserve=float(at.spread_db[i]))
    return MuxLine(
        carrier=carrier.id,
        name=carrier.name,
        rf_channel=channel_of(carrier.frequency_mhz, profile.channels),
        label=carrier.label,
        services=max(len(carrier.services), 1),
        frequency_mhz=carrier.frequency_mhz,
        polarisation=carrier.polarisation,
        erp_kw=carrier.power,
        free_dbuvm=float(incident.free_dbuvm[i]),
        lost_db=float(incident.loss_db[i]),
        entry_db=float(incident.entry_db[i]),
        field_dbuvm=float(incident.field_dbuvm[i]),
        level_dbuv=float(at.level_dbuv[i]),
        forecast_dbuv=float(at.forecast_dbuv[i]),
        read=bool(at.read[i]),
        spread_db=float(at.spread_db[i]),
        cn_db=cn,
        interference_db=noise_only - cn,
        modulation=carrier.modulation,
        mode=carrier.modulation.removeprefix(f"{kind.system} "),
        wanted_cn_db=kind.cn_db,
        mild_echoes_db=kind.mild_echoes_db,
        strong_echoes_db=kind.strong_echoes_db,
        margin=margin,
        network=_echoes(at, i),
    )


def _echoes(at: Terminals, i: int) -> EchoPattern | None:
    """The echo pattern of a multiplex that several transmitters send; None for one alone."""
    incident = at.incident
    rows = next((r for r in networks_of(incident.carriers, incident.frequency_mhz) if i in r), None)
    frame = frame_of(incident.carriers[i])
    if rows is None or frame is None:
        return None
    index = np.array(rows)
    power = 10 ** (incident.field_dbuvm[index] / 10)
    start = window_start_us(incident.at_us[index], power, rows.index(i), frame)
    useful = weight(incident.at_us[index] - start, frame)
    own = float(incident.at_us[i])
    echoes = [
        Echo(
            incident.targets[k].name,
            float(incident.at_us[k]) - own,
            float(at.level_dbuv[k] - at.level_dbuv[i]),
            float(u),
        )
        for k, u in zip(rows, useful, strict=True)
    ]
    echoes.sort(key=lambda e: e.delay_us)
    return EchoPattern(echoes, start - own, frame.guard_us, frame.origin)


def _words(way: Way, share: float) -> Phrase:
    if way.own_loss_db is not None:
        return (f"Own figure: {way.own_loss_db:g} dB over free space, in place of the forecast.",)
    over = way.diffraction
    if not over.in_sight:
        return say(
            "Over an edge at {} that stands {} above the ray: delta-Bullington, ITU-R P.526, which makes "
            "one hill dearer than a bare knife edge.",
            Quantity(over.edge_km, "km"),
            Quantity(over.edge_above_m, "m", 0),
        )
    if share < 0.6:
        return (
            f"In sight, but only {max(share, 0) * 100:.0f} % of the Fresnel zone's radius is free where 60 % "
            "would cost nothing.",
        )
    return ("In sight, with 60 % of the first Fresnel zone free: free space.",)
