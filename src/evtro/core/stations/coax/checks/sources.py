"""Where the signal comes from: loops, and targets whose carriers leave no source."""

from __future__ import annotations

from ....checks.registry import check
from ....job import Job, Target
from ....job.problems import Problem
from ..context import NetworkContext


@check("coax", codes=("loop",), needs=("solved",))
def loops(ctx: NetworkContext) -> list[Problem]:
    """Cables that lead the signal back."""
    solved = ctx.solved
    if not solved.run.wiring.looped:
        return []
    names = ", ".join(solved.names[p] for p in sorted(solved.run.wiring.looped))
    return [
        Problem(
            code="loop",
            station="coax",
            state="fail",
            place=names,
            title=("The signal runs in a loop",),
            gauge=None,
            limit=("one way from source to outlet",),
            origin="physics of the network",
            remedy=(f"Take away one cable between {names}. The rest goes on being computed.",),
            ref=min(solved.run.wiring.looped),
        )
    ]


@check("coax", codes=("no-source",), needs=("job", "solved"))
def lost_sources(ctx: NetworkContext) -> list[Problem]:
    """Targets whose carriers leave no source port."""
    job, solved = ctx.job, ctx.solved
    found = []
    antennas = {a.target: a for a in job.antennas if a.target}
    for target in job.targets:
        mine = [c for c, channel in enumerate(solved.channels) if channel.target == target.id]
        lost = [c for c in mine if solved.columns.port[c] is None]
        if not lost or not job.parts:
            continue
        if target.kind == "line":
            found.append(_no_line(job, target, len(mine)))
            continue
        antenna = antennas.get(target.id)
        placed = antenna is not None and any(p.antenna == antenna.id for p in job.parts)
        if antenna is None:
            text, remedy = f"No antenna looks at {target.name}", "Add one at Mast."
        elif not placed:
            text, remedy = f"{antenna.name} is not in the run", "Start a run at it."
        else:
            names = ", ".join(solved.channels[c].name for c in lost[:3])
            text = f"{target.name}: {names} cannot be received"
            remedy = "Check frequency and polarisation, or take an LNB for that band."
        found.append(
            Problem(
                code="no-source",
                station="coax",
                state="fail",
                place=target.name,
                title=(text,),
                gauge=None,
                limit=(f"{len(mine)} carriers wanted",),
                origin="this job's carriers",
                remedy=(remedy,),
                ref=target.id,
            )
        )
    return found


def _no_line(job: Job, target: Target, count: int) -> Problem:
    """A company's line whose carriers come from nowhere: left, not read, read at one frequency, not in the run."""
    at, state = job.company, "fail"
    title, remedy = (
        f"{target.name} is not in the run",
        "Put its multiplexes on again: that starts a run at it.",
    )
    if at.plan == "leave":
        title = f"{target.name} is left: nothing comes from it any more"
        remedy = "Take its multiplexes off, and the wish for it off the outlets."
    elif at.low_dbuv is None or at.high_dbuv is None:
        title, state = f"The drop of {target.name} was not read", "unknown"
        remedy = "Read the level at its lowest and its highest carrier."
    elif at.high_mhz <= at.low_mhz:
        title = f"The drop of {target.name} was read at two frequencies that are turned round"
        remedy = "Type the lower frequency with its level first, the higher one behind it."
    return Problem(
        code="no-source",
        station="coax",
        state="fail" if state == "fail" else "unknown",
        place=target.name,
        gauge=None,
        title=(title,),
        limit=(f"{count} carriers wanted",),
        origin="this job's carriers",
        ref=target.id,
        remedy=(remedy,),
    )
