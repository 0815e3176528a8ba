"""Everything that can be asked of one terrestrial antenna."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ....job import Array
from ....physics.beams import LIGHT_M_MHZ, array_loss_db
from ....units.severity import State
from ...aim.array.choices import Choice, choices
from ...aim.array.heading import (
    BehindTerminals,
    Best,
    HeadingSweep,
    HeadingWay,
    advised,
    best_of,
    compare,
    preamplified,
    services_of,
    sweep,
)
from ...aim.array.terminals import duty_of, gain_of, heading_of, stands_upright, terminals, width_of
from ...aim.array.trial import TrialView, trial
from ...aim.array.ways import MuxLine, mux
from ...sky.incident import IncidentField, height_of, incident_at
from ..context import NetworkContext
from ..fixes.front_end import front_end
from ..fixes.front_end_options import FrontEnd
from ..views.referred_to_antenna import referred_to_antenna

WIDE = "combiner-wide"  # what two antennas of one band are joined by


@dataclass(frozen=True)
class Curve:
    """Services over their margin and the weakest margin [dB], bearing by bearing."""

    bearing_deg: list[float]
    services: list[float]
    least_db: list[float]


@dataclass(frozen=True)
class HeadingCost:
    """What a heading costs toward one transmitter: bearing [deg], loss [dB], weakest margin [dB]."""

    target: str
    name: str
    bearing_deg: float
    lost_db: float
    least_db: float
    services: int
    of: int


@dataclass(frozen=True)
class ArrayDetail:
    """All pages of one terrestrial antenna. `pattern` holds pairs of degrees off the heading and dB
    below it, `rays` each wanted transmitter with its bearing [deg] and what it loses by the heading
    of now [dB]; `with_preamplifier` the best heading behind one; `off_best_deg` how far it is turned away from
    the best heading now."""

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
    off_best_deg: float | None
    with_preamplifier: Best | None
    costs: list[HeadingCost]
    ways: list[HeadingWay]
    advised: str
    advice: str
    choices: list[Choice]
    choice_words: str
    muxes: list[MuxLine]
    front: FrontEnd | None
    trial: TrialView
    state: State


def array_detail(
    ctx: NetworkContext,
    antenna: Array,
    behind_preamplifier: bool = False,
) -> ArrayDetail | None:
    """Everything about one antenna; None while no transmitter with a carrier is placed. Headings and
    antennas are judged through the run as it is, or as if a mast preamplifier made up for it."""
    job = ctx.job
    incident = duty_of(job, antenna, incident_at(job, antenna))
    if not incident.carriers:
        return None
    beyond = (
        preamplified(incident)
        if behind_preamplifier
        else referred_to_antenna(ctx, antenna, incident)
    )
    margin = ctx.profile.margin_db
    total = int(services_of(incident).sum())
    heading = heading_of(job, antenna)
    found = sweep(incident, [antenna], beyond, margin)
    best = best_of(found, 0, total) if total else None
    now = None
    if heading is not None and total:
        here = sweep(
            incident, [antenna], beyond=beyond, margin_db=margin, bearing_deg=np.array([heading])
        )
        now = best_of(here, 0, total)
        now = Best(
            heading_deg=heading,
            from_deg=heading,
            to_deg=heading,
            services=now.services,
            of=total,
            least_db=now.least_db,
        )
    amplified = None
    if best is not None and not behind_preamplifier and best.services < total:
        amplified = best_of(sweep(incident, [antenna], preamplified(incident), margin), 0, total)
    ways = []
    if best:
        middle = float(np.median(incident.frequency_mhz))
        wide = ctx.catalogue.parts[WIDE].gain_db(0, 0, middle, None)
        ways = compare(
            incident,
            antenna,
            beyond=beyond,
            margin_db=margin,
            best=best,
            combiner_db=-float(wide) if wide is not None else 0.0,
        )
    pick = advised(ways) if ways else None
    tried, choice_words = choices(
        incident, beyond, margin_db=margin, catalogue=ctx.catalogue, antenna=antenna, total=total
    )
    at = terminals(job, antenna)
    return ArrayDetail(
        antenna=antenna.id,
        name=antenna.name,
        heading_deg=heading,
        beamwidth_deg=width_of(antenna),
        gain_dbi=float(gain_of(antenna, np.array([float(np.median(incident.frequency_mhz))]))[0]),
        upright=stands_upright(antenna, incident),
        wave_m=LIGHT_M_MHZ / float(np.median(incident.frequency_mhz)),
        pattern=_pattern(antenna),
        rays=_rays(incident, antenna, heading),
        above_ground_m=height_of(job.site, antenna),
        margin_db=margin,
        beyond=beyond.words,
        curve=_curve(found),
        now=now,
        best=best,
        off_best_deg=_apart(heading, best),
        with_preamplifier=amplified,
        costs=_costs(
            incident,
            beyond,
            margin_db=margin,
            antenna=antenna,
            heading=best.heading_deg if best else heading or 0.0,
        ),
        ways=ways,
        advised=pick.key if pick else "",
        advice=_advice(ways, pick, amplified),
        choices=tried,
        choice_words=choice_words,
        muxes=[mux(ctx.profile, at, i) for i in range(len(incident.carriers)) if incident.wanted[i]]
        if at
        else [],
        front=front_end(ctx, antenna),
        trial=trial(job, antenna, margin),
        state="unknown"
        if now is None
        else "ok"
        if now.services == total
        else "marginal"
        if now.services
        else "fail",
    )


def _apart(heading: float | None, best: Best | None) -> float | None:
    if heading is None or best is None:
        return None
    return abs((heading - best.heading_deg + 180.0) % 360.0 - 180.0)


def _curve(found: HeadingSweep) -> Curve:
    least = np.clip(np.nan_to_num(found.least_served_db[0], neginf=-60.0), -60.0, 60.0)
    return Curve(found.bearing_deg.tolist(), found.services[0].tolist(), least.round(1).tolist())


def _costs(
    incident: IncidentField,
    beyond: BehindTerminals,
    margin_db: float,
    antenna: Array,
    heading: float,
) -> list[HeadingCost]:
    """The compromise of a heading, transmitter by transmitter."""
    counts = services_of(incident)
    found = []
    by_target: dict[str, list[int]] = {}
    for i, carrier in enumerate(incident.carriers):
        if incident.wanted[i]:
            by_target.setdefault(carrier.target, []).append(i)
    for key, rows in by_target.items():
        bearing = float(incident.bearing_deg[rows[0]])
        lost = float(array_loss_db(bearing - heading, width_of(antenna), antenna.front_back_db))
        only = np.zeros(len(counts), bool)
        only[rows] = True
        part = replace(incident, wanted=only)
        there = sweep(
            part, [antenna], beyond=beyond, margin_db=margin_db, bearing_deg=np.array([heading])
        )
        of = int(counts[rows].sum())
        found.append(
            HeadingCost(
                target=key,
                name=incident.targets[rows[0]].name,
                bearing_deg=bearing,
                lost_db=lost,
                least_db=float(there.least_db[0, 0]),
                services=int(there.services[0, 0]),
                of=of,
            )
        )
    return found


def _pattern(antenna: Array) -> list[tuple[float, float]]:
    off = np.arange(0.0, 181.0, 3.0)
    down = array_loss_db(off, width_of(antenna), antenna.front_back_db)
    return [(float(a), round(float(d), 2)) for a, d in zip(off, down, strict=True)]


def _rays(
    incident: IncidentField, antenna: Array, heading: float | None
) -> list[tuple[str, float, float]]:
    if heading is None:
        return []
    found: dict[str, tuple[str, float, float]] = {}
    for i, target in enumerate(incident.targets):
        if target.wanted:
            bearing = float(incident.bearing_deg[i])
            down = array_loss_db(bearing - heading, width_of(antenna), antenna.front_back_db)
            found[target.id] = (target.name, bearing, float(down))
    return list(found.values())


def _advice(ways: list[HeadingWay], pick: HeadingWay | None, amplified: Best | None) -> str:
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
