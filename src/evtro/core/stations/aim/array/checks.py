"""What is wrong with a terrestrial antenna before anything is computed: band, elements, standing,
the neighbour's ground."""

from __future__ import annotations

import numpy as np

from ....job import Array, Job
from ....job.problems import Problem
from ....physics.propagation.clutter import COVERINGS
from ....units.quantities import (
    Quantity,
    gauge,
)
from .terminals import duty_of, heading_of, terminals

BAND_ORIGIN = "the antenna's data sheet, typical of its class"


def array_problems(job: Job, margin_db: float) -> list[Problem]:
    """Problems of all terrestrial antennas, and of the permission to install them."""
    found = [p for a in job.arrays for p in _of(job, a)]
    found += [p for a in job.arrays if (p := _short(job, a, margin_db)) is not None]
    outside = bool(job.dishes) or any(a.standing == "outdoors" for a in job.arrays)
    if job.site.consent == "refused" and outside:
        found.append(
            Problem(
                code="consent",
                station="aim",
                state="fail",
                place="leave",
                title=("Leave to put it up was refused",),
                gauge=None,
                limit=("leave of owner or association",),
                origin="local law has the last word",
                remedy=("Try the loft or indoors, or show the rule that protects small antennas.",),
            )
        )
    return found


def _short(job: Job, antenna: Array, margin_db: float) -> Problem | None:
    """What an antenna brings too weakly at its terminals, whatever hangs behind them."""
    at = terminals(job, antenna)
    if at is None:
        return None
    mine = duty_of(job, antenna, at.incident).wanted
    over = at.cn_db - at.incident.wanted_db
    weak = [i for i in np.flatnonzero(mine) if over[i] < margin_db]
    if not weak:
        return None
    worst = min(weak, key=lambda i: over[i])
    names = ", ".join(at.incident.carriers[i].name for i in weak[:4])
    more = f" and {len(weak) - 4} more" if len(weak) > 4 else ""
    return Problem(
        code="terminals-short",
        station="aim",
        state="marginal" if len(weak) < mine.sum() else "fail",
        place=antenna.name,
        title=(f"{antenna.name} brings {names}{more} too weakly",),
        gauge=gauge(float(over[worst]), "db", low=margin_db, reserve=0.0),
        limit=(Quantity(margin_db, "db", 0), " over the threshold at its own terminals"),
        origin="forecast, or what was read at the spot",
        remedy=(
            "See Heading for one that brings more, Which antenna for more gain, Trial for a better spot.",
        ),
        ref=antenna.id,
    )


def _of(job: Job, antenna: Array) -> list[Problem]:
    found = []
    transmitters = {t.id for t in job.targets if t.kind == "transmitter" and t.wanted}
    own = [c for c in job.carriers if c.target in transmitters and c.target == antenna.target]
    others = [a for a in job.arrays if a.id != antenna.id]
    outside = [
        c
        for c in own
        if not antenna.low_mhz <= c.frequency_mhz <= antenna.high_mhz
        and not any(o.low_mhz <= c.frequency_mhz <= o.high_mhz for o in others)
    ]
    if outside:
        names = ", ".join(c.name for c in outside[:4])
        found.append(
            Problem(
                code="band",
                station="aim",
                state="fail",
                place=antenna.name,
                title=(f"{antenna.name} is not made for {names}",),
                gauge=gauge(outside[0].frequency_mhz, "mhz", antenna.low_mhz, antenna.high_mhz),
                limit=(
                    Quantity(antenna.low_mhz, "mhz", 0),
                    " to ",
                    Quantity(antenna.high_mhz, "mhz", 0),
                ),
                origin=BAND_ORIGIN,
                remedy=("Take one that covers it, or add an antenna of its own with a combiner.",),
                ref=antenna.id,
            )
        )
    if heading_of(job, antenna) is None:
        found.append(
            Problem(
                code="no-heading",
                station="aim",
                state="marginal",
                place=antenna.name,
                title=(f"{antenna.name} looks nowhere yet",),
                gauge=None,
                limit=("a heading or a transmitter",),
                origin="nothing to compute with",
                remedy=("Choose its transmitter at Mast, or its heading at Aim.",),
                ref=antenna.id,
            )
        )
    room = job.site.boundary_m
    if room is not None and antenna.standing == "outdoors" and antenna.length_m / 2 > room:
        found.append(
            Problem(
                code="over-boundary",
                station="aim",
                state="fail",
                place=antenna.name,
                title=(f"{antenna.name} reaches over the neighbour's ground",),
                gauge=gauge(antenna.length_m / 2, "m", high=room),
                limit=(Quantity(room, "m"), " to the boundary"),
                origin="the neighbour's consent, local law",
                remedy=("Move the mount inward, or take a shorter antenna.",),
                ref=antenna.id,
            )
        )
    covering = COVERINGS.get(antenna.covering)
    if (
        antenna.standing != "outdoors"
        and covering
        and covering.said
        and antenna.entry_loss_db is None
    ):
        heavy = covering.loss_db >= 15
        found.append(
            Problem(
                code="covering",
                station="aim",
                state="marginal",
                place=antenna.name,
                title=(
                    f"{antenna.name} stands behind {covering.name}"
                    if covering.key
                    else f"{antenna.name}: what covers it is not said",
                ),
                gauge=gauge(covering.loss_db, "db", high=15.0) if heavy else None,
                limit=(Quantity(covering.loss_db, "db", 0), " lost on the way in, taken for now"),
                origin="common practice, no source",
                remedy=(covering.said,),
                ref=antenna.id,
            )
        )
    return found
