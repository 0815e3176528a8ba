"""Why a carrier does not arrive: the part that stops it, the line that does not ask for it, or a gap."""

from __future__ import annotations

from ....job.problems import Problem
from ....units.quantities import Quantity, gauge
from ..context import NetworkContext
from ..levels.outlets import Group, OutletRow, Solved
from .devices import DATA_SHEET
from .selection import blocked_way, unasked_problem


def silent_problem(ctx: NetworkContext, row: OutletRow, column: int) -> Problem | None:
    """A carrier does not arrive: name the part that does not pass it, or the gap. A source without
    its voltage is told where it is powered."""
    solved = ctx.solved
    c, group, port = column, solved.channels[column].group, solved.columns.port[column]
    dark = solved.run.dark.get(port[0]) if port is not None else None
    if dark is not None and dark[c]:
        return None
    unasked = unasked_problem(ctx, row=row, column=c)
    if unasked is not None:
        return unasked
    blocked = blocked_way(solved.run, row.part, c)
    if blocked is None:
        return Problem(
            code="no-path",
            station="coax",
            state="fail",
            place=row.name,
            title=(f"No {group} signal has a path to {row.name}",),
            gauge=None,
            limit=("a cable from its source",),
            origin="this job's run",
            remedy=(_to_its_source(solved, row, group),),
            ref=row.part,
        )
    part, entry = blocked
    kind = solved.run.wiring.kinds[part]
    low, high = kind.passes_mhz(entry) or kind.range_mhz
    frequency = solved.channels[c].frequency_mhz
    return Problem(
        code="range",
        station="coax",
        state="fail",
        place=row.name,
        title=(f"{solved.names[part]} does not pass {frequency:.0f} MHz to {row.name}",),
        gauge=gauge(frequency, "mhz", low, high),
        limit=(Quantity(low, "mhz", 0), " to ", Quantity(high, "mhz", 0)),
        origin=DATA_SHEET,
        remedy=("Replace it by a part for that range, or lead the line past it.",),
        ref=part,
    )


def _to_its_source(solved: Solved, row: OutletRow, group: Group) -> str:
    """What leads a group to an outlet. A company's line and an own antenna are never joined for that."""
    wiring = solved.run.wiring
    sources = {
        wiring.kinds[p].draws_as == "line"
        for p in wiring.up(row.part or "")
        if not wiring.kinds[p].inputs
    }
    wish = "or take the wish off the outlet at Site."
    if group == "cable" and False in sources:
        return (
            f"Lead {row.name} from the company's line alone, by a cable of its own, and never join that to "
            f"the antenna's run; {wish}"
        )
    if group != "cable" and True in sources:
        return (
            f"{row.name} hangs on the company's line: give the antenna's signal an outlet and a cable of its "
            f"own, and never join the two; {wish}"
        )
    return f"Join the {group} source to the part that feeds {row.name}, {wish}"
