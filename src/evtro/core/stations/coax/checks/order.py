"""The rules of what stands where in the run: gain before loss, few splits in line, nothing without use."""

from __future__ import annotations

from ....checks.registry import check
from ....job.parts import part_type
from ....job.problems import Problem
from ....units.quantities import Quantity, gauge
from ..context import NetworkContext
from ..levels.outlets import OutletRow

LATE_DB = 3.0  # of loss ahead of a preamplifier; common practice, no source
IN_LINE = 2  # splitters one behind another; common practice, no source
PRACTICE = "common practice, no source"


@check(
    "coax",
    codes=("amp-late",),
    needs=(
        "job",
        "catalogue",
        "solved",
    ),
)
def late_preamplifiers(ctx: NetworkContext) -> list[Problem]:
    """A preamplifier behind a long cable: what is lost ahead of it is lost of the quality."""
    solved = ctx.solved
    run, found = solved.run, []
    carriers = [c for c, channel in enumerate(solved.channels) if channel.group == "terrestrial"]
    for part in ctx.job.parts:
        kind = part_type(ctx.catalogue, part)
        node = run.node(part.id, "in", 0)
        if kind.draws_as != "preamplifier" or node is None:
            continue
        lost = 0.0
        for c in carriers:
            if run.found.signal[node, c] > 0:
                way = run.way_to(node, c)
                cables = [e for e, _ in way if run.circuit.edge_link[e]]
                lost = max(lost, -float(sum(run.circuit.gain_db[e, c] for e in cables)))
        if lost <= LATE_DB:
            continue
        found.append(
            Problem(
                code="amp-late",
                station="coax",
                state="marginal",
                place=solved.names[part.id],
                title=(f"{kind.name} sits behind a long cable",),
                gauge=gauge(lost, "db", high=LATE_DB),
                limit=("at most ", Quantity(LATE_DB, "db", 0), " of cable ahead of it"),
                origin=PRACTICE,
                remedy=(
                    "Hang it under the antenna: what the cable ahead of it takes is taken from the quality.",
                ),
                ref=part.id,
            )
        )
    return found


@check(
    "coax",
    codes=("splitters-in-line",),
    needs=(
        "rows",
        "solved",
    ),
)
def splitters_in_line(ctx: NetworkContext) -> list[Problem]:
    """More than two splitters one behind another on the way to outlets, told once for the last one."""
    solved, wiring = ctx.solved, ctx.solved.run.wiring
    depth: dict[str, tuple[int, tuple[str, ...]]] = {}
    told: dict[str, list[OutletRow]] = {}
    names = {r.part: r for r in ctx.rows if r.part is not None}
    for part in wiring.order:
        before = [depth[k.from_part] for k in wiring.before[part].values()]
        count, line = max(before, default=(0, ()))
        if wiring.kinds[part].draws_as == "splitter" and wiring.kinds[part].outputs > 1:
            count, line = count + 1, (*line, part)
        depth[part] = count, line
        if part in names and count > IN_LINE:
            told.setdefault(line[-1], []).append(names[part])
    found = []
    for last, behind in told.items():
        count = depth[last][0]
        said = ", ".join(r.name for r in behind[:3]) + (
            "" if len(behind) < 4 else f" and {len(behind) - 3} more"
        )
        found.append(
            Problem(
                code="splitters-in-line",
                station="coax",
                state="marginal",
                place=f"{solved.names[last]}: {said}",
                title=(f"{count} splitters one behind another",),
                gauge=gauge(float(count), "count", high=float(IN_LINE)),
                limit=(f"at most {IN_LINE}",),
                origin=PRACTICE,
                remedy=(
                    "Take one with more outputs, or taps along the way: each splitter in line loses as much "
                    "again, and a fault of the first darkens all.",
                ),
                ref=last,
                outlets=tuple(r.outlet for r in behind),
            )
        )
    return found


@check(
    "coax",
    codes=("setting-range",),
    needs=(
        "job",
        "catalogue",
        "solved",
    ),
)
def settings_out_of_range(ctx: NetworkContext) -> list[Problem]:
    found = []
    for part in ctx.job.parts:
        kind = part_type(ctx.catalogue, part)
        now = part.setting_db or 0.0
        if not kind.setting or now <= kind.setting_most_db:
            continue
        most = kind.setting_most_db
        found.append(
            Problem(
                code="setting-range",
                station="coax",
                state="fail",
                place=ctx.solved.names[part.id],
                title=(f"{kind.name} cannot be turned down so far",),
                gauge=gauge(now, "db", high=most),
                limit=("at most ", Quantity(most, "db", 0)),
                origin="the part's data sheet, typical of its class",
                remedy=(
                    "Set it to ",
                    Quantity(most, "db", 0),
                    ", and take the rest with an attenuator.",
                ),
                ref=part.id,
            )
        )
    return found


@check(
    "coax",
    codes=("idle-supply",),
    needs=(
        "job",
        "catalogue",
        "solved",
        "supplies",
    ),
)
def idle_supplies(ctx: NetworkContext) -> list[Problem]:
    """An inserter in line that feeds nothing: it only takes level."""
    solved = ctx.solved
    busy = {s.part for s in ctx.supplies}
    found = []
    for part in ctx.job.parts:
        kind = part_type(ctx.catalogue, part)
        if kind.draws_as != "inserter" or kind.supply is None or kind.supply.repeats:
            continue
        if part.id in busy or part.id in solved.run.wiring.looped:
            continue
        if any(not fed.on for lines in solved.run.power.values() for fed in lines.loads.values()):
            continue  # something waits for it: told there
        found.append(
            Problem(
                code="idle-supply",
                station="coax",
                state="marginal",
                place=solved.names[part.id],
                title=(f"{kind.name} feeds nothing",),
                gauge=None,
                limit=("nothing in line without use",),
                origin=PRACTICE,
                remedy=("Take it out: it only takes level.",),
                ref=part.id,
            )
        )
    return found
