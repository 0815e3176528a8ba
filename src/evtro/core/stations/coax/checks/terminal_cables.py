"""The pair of cables of a terminal that transmits: what comes down, and what goes up to be sent."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....checks.registry import check
from ....job.problems import Problem
from ....physics.geodesy import Floats
from ....units.quantities import Gauge, Quantity, gauge
from ...aim.dish.terminal import CABLE_PAIR_M
from ..context import NetworkContext

# What a terminal's cables carry [MHz]; common practice, no source.
DOWN_MHZ, UP_MHZ = (950.0, 1950.0), (950.0, 1450.0)
MEASURE = "rg6"  # by what 50 m of which a longer cable is measured
BETWEEN = ("grounding_block", "arrester")
RULE = "a length for a terminal's pair, unless the cable's loss allows more (common practice, no source)"


@dataclass(frozen=True)
class PairCable:
    """One cable of a pair: from the unit to where it ends; length [m], loss at the upper end of what it
    carries [dB] against what the rule's length of RG-6 loses there, resistance there and back [Ω]."""

    unit: str
    name: str
    sends: bool
    end: str | None
    length: Gauge
    loss: Gauge
    at_mhz: float
    loop_ohm: float
    between: tuple[str, ...]


def pair_cables(ctx: NetworkContext) -> list[PairCable]:
    """Both cables of every terminal that transmits."""
    wiring = ctx.solved.run.wiring
    two_way = {d.id for d in ctx.job.dishes if d.two_way}
    found = []
    for part in wiring.order:
        own, kind = wiring.parts[part], wiring.kinds[part]
        if own.antenna not in two_way or kind.inputs:
            continue
        for output in range(kind.outputs):
            sends = output in kind.sends
            mhz = np.array(UP_MHZ if sends else DOWN_MHZ)
            most = float(ctx.catalogue.cables[MEASURE].loss_db(CABLE_PAIR_M, mhz[-1]))
            length, loss, ohm, between, end = _to_the_modem(ctx, part, output, mhz=mhz)
            known = end is not None
            found.append(
                PairCable(
                    unit=part,
                    name=ctx.solved.names[part],
                    sends=sends,
                    end=end,
                    between=between,
                    length=gauge(length if known else None, "m", high=CABLE_PAIR_M, reserve=5.0),
                    loss=gauge(
                        round(float(loss[-1]), 3) if known else None, "db", high=most, reserve=1.0
                    ),
                    at_mhz=float(mhz[-1]),
                    loop_ohm=ohm,
                )
            )
    return found


def _to_the_modem(
    ctx: NetworkContext, part: str, output: int, *, mhz: Floats
) -> tuple[float, Floats, float, tuple[str, ...], str | None]:
    """Follow a cable from the unit to the device that it ends in: the first that gives it its supply, or
    that has no way on."""
    wiring = ctx.solved.run.wiring
    length, ohm, loss = 0.0, 0.0, np.zeros(len(mhz))
    between: list[str] = []
    link = wiring.after[part].get(output)
    end: str | None = None
    while link is not None:
        cable = ctx.catalogue.cables[link.cable]
        length += link.length_m
        ohm += cable.loop_ohm(link.length_m, link.celsius)
        loss = loss + cable.loss_db(link.length_m, mhz, link.celsius)
        end = link.to_part
        kind = wiring.kinds[end]
        ways = [o for i, o, _ in kind.ways if i == link.to_port]
        if kind.receivers or len(ways) != 1 or kind.supply is not None:
            break
        gain = kind.gain_db(link.to_port, ways[0], mhz, wiring.parts[end].setting_db)
        loss = loss - (gain if gain is not None else 0.0)
        if kind.draws_as not in BETWEEN:
            between.append(ctx.solved.names[end])
        link = wiring.after[end].get(ways[0])
    return length, loss, ohm, tuple(between), end


@check(
    "coax",
    codes=(
        "pair-half",
        "pair-long",
        "pair-parts",
    ),
    needs=(
        "job",
        "catalogue",
        "solved",
    ),
)
def terminal_pairs(ctx: NetworkContext) -> list[Problem]:
    """A cable of a pair that is missing, too long, or has in it what does not belong there."""
    found = []
    for one in pair_cables(ctx):
        which = f"{'transmit' if one.sends else 'receive'} cable of {one.name}"
        if one.end is None:
            if one.sends:
                found.append(
                    Problem(
                        code="pair-half",
                        station="coax",
                        state="fail",
                        place=one.name,
                        ref=one.unit,
                        gauge=None,
                        title=(f"The {which} goes nowhere",),
                        limit=("two cables, each labelled at both ends",),
                        origin=RULE,
                        remedy=("Join it to the modem's transmit connector.",),
                    )
                )
            continue
        long = (one.length.value or 0.0) > CABLE_PAIR_M
        if one.loss.state == "fail" or (long and one.loss.state == "marginal"):
            most = one.loss.high or 0.0
            found.append(
                Problem(
                    code="pair-long",
                    station="coax",
                    state=one.loss.state,
                    place=one.name,
                    ref=one.unit,
                    gauge=one.loss,
                    title=(
                        f"The {which} loses too much: ",
                        Quantity(one.length.value or 0.0, "m", 0),
                    ),
                    limit=(
                        "at most ",
                        Quantity(most, "db", 1),
                        f" at {one.at_mhz:.0f} MHz, as ",
                        Quantity(CABLE_PAIR_M, "m", 0),
                        " of the class of RG-6",
                    ),
                    origin=RULE,
                    remedy=("Shorten it, or pull a cable that loses less.",),
                )
            )
        if one.between:
            found.append(
                Problem(
                    code="pair-parts",
                    station="coax",
                    state="fail",
                    place=one.name,
                    ref=one.unit,
                    gauge=None,
                    title=(f"In the {which} stands {', '.join(one.between)}",),
                    limit=("a grounding block, and nothing else",),
                    origin="common practice, no source",
                    remedy=(f"Take {one.between[0]} out of it.",),
                )
            )
    return found
