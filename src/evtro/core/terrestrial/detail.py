"""Everything that can be asked of one terrestrial antenna."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..aim.arrays import (
    Ether,
    duty_of,
    ether_of,
    gain_of,
    heading_of,
    height_of,
    stands_upright,
    terminals,
    width_of,
)
from ..aim.heading import (
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
from ..aim.trial import TrialView, trial
from ..antennas import LIGHT_M_MHZ, array_loss_db
from ..coax.front_end import front_end
from ..coax.front_words import FrontEnd
from ..coax.levels import Solved
from ..coax.reach import beyond_antenna
from ..job import Antenna, Job
from ..parts import Catalogue
from ..profile import Profile
from ..quantities import State
from .choices import Choice, choices
from .ways import MuxLine, mux


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
    tried, choice_words = choices(ether, beyond, margin, catalogue, antenna, total)
    at = terminals(job, antenna)
    return ArrayDetail(
        antenna.id, antenna.name, heading, width_of(antenna),
        float(gain_of(antenna, np.array([float(np.median(ether.frequency_mhz))]))[0]),
        stands_upright(antenna, ether), LIGHT_M_MHZ / float(np.median(ether.frequency_mhz)),
        _pattern(antenna), _rays(ether, antenna, heading), height_of(job.site, antenna), margin, beyond.words,
        _curve(found), now, best, amplified,
        _tolls(ether, beyond, margin, antenna, best.heading_deg if best else heading or 0.0),
        ways, pick.key if pick else "", _advice(ways, pick, amplified),
        tried, choice_words,
        [mux(profile, at, i) for i in range(len(ether.carriers)) if ether.wanted[i]] if at else [],
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
