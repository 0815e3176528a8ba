"""The rules of the devices: overload, input windows, powering, open ports, the entry."""

from __future__ import annotations

import math

from ....checks.registry import check
from ....job import Part
from ....job.parts import PartType, part_type
from ....job.problems import Problem
from ....units.quantities import Gauge, Phrase, Quantity, gauge
from ..context import NetworkContext
from ..levels.outlets import Solved
from ..levels.ratings import PortLimit, figures_now, input_limit, output_limits

SUM_ORIGIN = "the power of two carriers at the data sheet's rating, EN 60728 practice (from memory)"
AMPLIFIER_ORIGIN = "data sheet rating less 7.5 log(n - 1), EN 60728 practice (from memory)"
IF_FROM_MHZ = 900.0  # satellite IF begins above this (EN 61319-1: 950 MHz, from memory)
DATA_SHEET = "the part's data sheet, typical of its class"


@check(
    "coax",
    codes=(
        "overload",
        "overload-supposed",
    ),
    needs=(
        "job",
        "catalogue",
        "solved",
    ),
)
def overloads(ctx: NetworkContext) -> list[Problem]:
    found = []
    for part in ctx.job.parts:
        for limit in output_limits(ctx.solved, part.id):
            most = limit.now(ctx.solved)[1]
            judged = gauge(most, "dbuv", high=limit.high_dbuv, reserve=limit.reserve_db)
            if judged.state == "ok":
                continue
            if limit.bound == "supposed":
                found.append(_supposed(ctx, part, judged))
            else:
                found.append(_overload(ctx, part, limit=limit, judged=judged))
            break  # one cause, told once
    return found


def _overload(ctx: NetworkContext, part: Part, *, limit: PortLimit, judged: Gauge) -> Problem:
    kind = part_type(ctx.catalogue, part)
    most = judged.value or 0.0
    step = math.ceil(most - (judged.high or 0) + judged.reserve)
    setting = (part.setting_db or 0) + step
    how = "overdriven" if judged.state == "fail" else "near overload"
    title = f"{kind.name} is {how}"
    together: Phrase = (f" with {limit.count} carriers",)
    if limit.bound == "total":
        title += f" by all that comes in{_loudest(ctx.solved, limit)}"
        together = (" for all together",)
    turns = kind.setting and setting <= kind.setting_most_db
    # What turning it down takes from what is weak is looked at where its cures are asked for.
    do: Phrase = ("Take one with less gain or a higher rating, or a filter ahead of it.",)
    if turns:
        do = (
            "Turn its gain down by ",
            Quantity(step, "db", 0),
            " where what is weak allows it, or keep what is loud out ahead of it.",
        )
    return Problem(
        code="overload",
        station="coax",
        state=judged.state,
        place=ctx.solved.names[part.id],
        title=(title,),
        gauge=judged,
        limit=("at most ", Quantity(judged.high or 0, "dbuv"), *together),
        origin=SUM_ORIGIN if limit.bound == "total" else AMPLIFIER_ORIGIN,
        remedy=do,
        ref=part.id,
    )


def _supposed(ctx: NetworkContext, part: Part, judged: Gauge) -> Problem:
    """Nobody said how far the next base station is: a warning, not a verdict."""
    return Problem(
        code="overload-supposed",
        station="coax",
        state="marginal",
        place=ctx.solved.names[part.id],
        title=(
            f"{part_type(ctx.catalogue, part).name} would be overdriven by a base station in the beam",
        ),
        gauge=judged,
        limit=("at most ", Quantity(judged.high or 0, "dbuv"), " for all together"),
        origin=f"{SUM_ORIGIN}; the base station is supposed, as Front end says",
        remedy=(
            "Say at Aim, Front end, how far the next base station is, or put a cellular filter ahead.",
        ),
        ref=part.id,
    )


def _loudest(solved: Solved, limit: PortLimit) -> str:
    """The loudest of what nobody wants, where it is louder than all that is."""
    columns, power = solved.columns, solved.run.found.high[limit.node]
    wanted = columns.wanted
    aside = power[wanted : wanted + columns.beside]
    if not len(aside) or aside.max() < power[:wanted].max(initial=0.0):
        return ""
    return f", {solved.loud[int(aside.argmax())].name} above all"


def output_gauge(solved: Solved, part_id: str) -> Gauge | None:
    """Of what an amplifier's outputs bear the figure that is nearest to its limit [dBµV]."""
    gauges = [
        gauge(limit.now(solved)[1], "dbuv", high=limit.high_dbuv, reserve=limit.reserve_db)
        for limit in output_limits(solved, part_id)
        if limit.bound != "supposed"
    ]
    return min(gauges, key=lambda g: (g.high or 0.0) - (g.value or 0.0), default=None)


@check(
    "coax",
    codes=(
        "input-low",
        "input-high",
    ),
    needs=(
        "job",
        "catalogue",
        "solved",
    ),
)
def input_windows(ctx: NetworkContext) -> list[Problem]:
    catalogue, solved = ctx.catalogue, ctx.solved
    at = [
        (part, i, limit)
        for part in ctx.job.parts
        if part_type(catalogue, part).input_low_dbuv is not None
        and part.id not in solved.run.wiring.looped
        for i in range(part_type(catalogue, part).inputs)
        if (limit := input_limit(solved, part.id, i)) is not None
    ]
    found = []
    least, most = figures_now([limit for _, _, limit in at], solved)
    for (part, i, limit), low, high in zip(at, least.tolist(), most.tolist(), strict=True):
        bound = limit.low_dbuv or 0.0
        side_low = low - bound <= (limit.high_dbuv or 999) - high
        judged = gauge(
            low if side_low else high,
            "dbuv",
            low=bound,
            high=limit.high_dbuv,
            reserve=limit.reserve_db,
        )
        if judged.state == "ok":
            continue
        kind = part_type(catalogue, part)
        line = input_name(kind, i)
        found.append(
            Problem(
                code="input-low" if side_low else "input-high",
                station="coax",
                state=judged.state,
                place=f"{solved.names[part.id]}, {line}",
                title=(f"{kind.name}: {line} comes in too {'low' if side_low else 'high'}",),
                gauge=judged,
                limit=(
                    Quantity(bound, "dbuv", 0),
                    " to ",
                    Quantity(limit.high_dbuv or 0, "dbuv", 0),
                ),
                origin=DATA_SHEET,
                remedy=(
                    "Amplify ahead of it, at the antenna for terrestrial."
                    if side_low
                    else "Fit an attenuator in this line.",
                ),
                ref=part.id,
            )
        )
    return found


def input_name(kind: PartType, port: int) -> str:
    """What a line into a part is called: terrestrial where its path begins below satellite IF."""
    passes = kind.passes_mhz(port)
    if passes is not None and passes[0] < IF_FROM_MHZ:
        return "terrestrial"
    return f"satellite line {port + 1}"


def _meet(solved: Solved, supplies: tuple[str, ...]) -> bool:
    """Whether supplies give to one line, not just each by a line of its own to one part."""
    metal = next(iter(solved.run.power.values())).metal
    return metal is None or metal.meet(supplies)


@check(
    "coax",
    codes=(
        "dc-none",
        "dc-voltage",
        "dc-meet",
        "dc-current",
    ),
    needs=(
        "feeds",
        "supplies",
        "solved",
    ),
    told_first=True,
)
def powering(ctx: NetworkContext) -> list[Problem]:
    """Parts without voltage or with too little, supplies that meet or give too much."""
    solved = ctx.solved
    found = []
    for feed in ctx.feeds:
        name = solved.names[feed.consumer]
        window: Phrase = (
            Quantity(feed.voltage.low or 0, "v"),
            " to ",
            Quantity(feed.voltage.high or 0, "v"),
        )
        if feed.failed is not None:
            continue  # told once, at the supply that fails
        if feed.supply is None:
            title = f"Nothing powers {name}"
            if feed.blocked_at:
                title = f"{solved.names[feed.blocked_at]} passes no power to {name}"
            do: Phrase = ("Fit a power inserter below it.",)
            found.append(
                Problem(
                    code="dc-none",
                    station="coax",
                    state="fail",
                    place=name,
                    title=(title,),
                    gauge=feed.voltage,
                    limit=window,
                    origin=DATA_SHEET,
                    remedy=do,
                    ref=feed.consumer,
                )
            )
            continue
        if feed.voltage.state != "ok":
            found.append(
                Problem(
                    code="dc-voltage",
                    station="coax",
                    state=feed.voltage.state,
                    place=name,
                    title=(
                        f"{name} gets too little voltage"
                        if feed.voltage.state == "fail"
                        else f"{name} is near its voltage limit",
                    ),
                    gauge=feed.voltage,
                    limit=window,
                    origin=DATA_SHEET,
                    remedy=(
                        "Shorten the line or take a copper cable: ",
                        Quantity(feed.lost_v, "v", 2),
                        " are lost in it.",
                    ),
                    ref=feed.consumer,
                )
            )
        if len(feed.supplies) > 1 and _meet(solved, feed.supplies):
            found.append(
                Problem(
                    code="dc-meet",
                    station="coax",
                    state="marginal",
                    place=name,
                    title=(f"Two supplies meet at {name}",),
                    gauge=None,
                    limit=("one supply for each part",),
                    origin="common practice, no source",
                    remedy=("Use a splitter that passes power on one port only.",),
                    ref=feed.consumer,
                )
            )
    for supply in ctx.supplies:
        if supply.load.state != "ok":
            found.append(
                Problem(
                    code="dc-current",
                    station="coax",
                    state=supply.load.state,
                    place=solved.names[supply.part],
                    title=(
                        "The supply is overloaded"
                        if supply.load.state == "fail"
                        else "The supply is near its rating",
                    ),
                    gauge=supply.load,
                    limit=("at most ", Quantity(supply.load.high or 0, "ma", 0)),
                    origin=DATA_SHEET,
                    remedy=("Take a supply with a higher rating, or give one part its own.",),
                    ref=supply.part,
                )
            )
    return found


@check(
    "coax",
    codes=("no-block",),
    needs=(
        "job",
        "solved",
    ),
)
def entry_bonds(ctx: NetworkContext) -> list[Problem]:
    """Lines from outside that meet no grounding block before the first device indoors."""
    job = ctx.job
    if job.earth.indoors or job.mast.fixing == "loft":
        return []
    found = []
    wiring = ctx.solved.run.wiring
    indoors = ("splitter", "tap", "multiswitch", "plate", "amplifier")

    def passes(part: str) -> bool:
        return wiring.kinds[part].draws_as not in (*indoors, "grounding_block")

    for part in job.parts:
        if part.antenna is None or part.id in wiring.looped:
            continue
        reached = any(wiring.kinds[p].draws_as in indoors for p in wiring.down(part.id, passes))
        if reached:
            name = next((a.name for a in job.antennas if a.id == part.antenna), part.id)
            found.append(
                Problem(
                    code="no-block",
                    station="coax",
                    state="marginal",
                    place=name,
                    title=(f"{name}: its line enters without a grounding block",),
                    gauge=None,
                    limit=("shield bonded where the cable enters",),
                    origin="IEC 60728-11 and NEC 820 (from memory)",
                    remedy=("Add a grounding block at the entry, and bond it at Earth.",),
                    ref=part.id,
                )
            )
    return found
