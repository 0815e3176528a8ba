"""Where the quality of a carrier is lost: at the source, on the way, or in a part that distorts."""

from __future__ import annotations

from ....job.problems import Problem
from ....units.quantities import Phrase, Quantity
from ..context import NetworkContext
from ..levels.outlets import Cell, NetworkCarrier, OutletRow, Solved


def margin_problem(
    ctx: NetworkContext,
    row: OutletRow,
    cell: Cell,
    channel: NetworkCarrier,
    carrier: int,
) -> Problem:
    """A thin margin is old noise, new noise or distortion: say which, and at which end of the run it
    is lost."""
    solved = ctx.solved
    port = solved.columns.port[carrier]
    meant = solved.columns.meant(carrier)
    at_source = (meant[1] if meant else 0.0) - channel.wanted_cn_db
    lost = at_source - (cell.margin.value or 0)
    code = "margin"
    node, levels = solved.run.outlet_node(row.part), solved.run.levels
    maker = None
    if (
        node is not None
        and levels.distortion is not None
        and (levels.distortion[node, carrier] >= levels.noise[node, carrier])
    ):
        maker = distorted_by(solved, carrier, node)
    if maker is not None:
        code = "distortion"
        do: Phrase = (
            f"{solved.names[maker]} makes most of it out of what it is given: turn its gain "
            "down, take one with a higher rating, or filter what is loud ahead of it.",
        )
    elif port is not None and lost > 3 and channel.group == "terrestrial":
        do = (
            "Fit a preamplifier close to the antenna: ",
            Quantity(lost, "db"),
            " of quality is lost on the way.",
        )
    elif channel.group == "terrestrial":
        do = ("Take an antenna with more gain or raise it: the quality is missing at the antenna.",)
    elif channel.group == "cable":
        do = (
            ("Show it to the company: the quality is missing at its drop.",)
            if lost <= 3
            else ("Split less ahead of the amplifier, or fit one where the level is still high.",)
        )
    else:
        do = ("Take a larger dish or a quieter LNB: the quality is missing at the dish.",)
    return Problem(
        code=code,
        station="coax",
        state=cell.margin.state,
        place=f"{row.name}, {channel.frequency_mhz:.0f} MHz",
        title=(
            f"{row.name}: quality margin of {channel.name} is "
            f"{'too small' if cell.margin.state == 'fail' else 'small'}",
        ),
        gauge=cell.margin,
        limit=("at least ", Quantity(ctx.profile.margin_db, "db", 0), " over the threshold"),
        origin=ctx.profile.margin_origin,
        remedy=do,
        ref=row.part,
    )


def distorted_by(solved: Solved, carrier: int, node: int) -> str | None:
    """The part that makes most of the distortion on a carrier's way to a node; None where none does."""
    run = solved.run
    if run.distorting is None:
        return None
    way = run.way_to(node, carrier)
    made: dict[str, float] = {}
    for edge, column in way:
        at = int(run.circuit.edges[edge, 1])
        for n in run.distorting.by_node.get(at, ()):
            if edge in run.distorting.rated[n].edges and (own := run.found.own.get(n)) is not None:
                share = (own.second[column] + own.third[column]) / max(own.power[column], 1e-300)
                made[run.circuit.edge_part[edge]] = float(share)
    return max(made, key=lambda part: made[part], default=None)
