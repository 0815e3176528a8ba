"""What the job sheet says of the network: its cables, the levels planned, the company's line."""

from __future__ import annotations

from ...job import Job
from ...job.context import JobContext
from ...job.sections import Section, line, shown
from ...units.phrases import listed, say
from .views.answer import CoaxAnswer


def cable_section(ctx: JobContext, coax: CoaxAnswer) -> Section:
    """Every cable, with what it joins."""
    catalogue = ctx.catalogue
    lines = [
        line(
            coax.names[link.to_part],
            say(
                "{} {}, from {} port {}{}",
                shown(link.length_m, "m"),
                catalogue.cables[link.cable].name,
                coax.names[link.from_part],
                str(link.from_port + 1),
                f"; {link.note}" if link.note else "",
            ),
        )
        for link in ctx.job.links
        if link.cable in catalogue.cables
    ]
    return Section("Run as built", lines or [line("", "No run yet.")])


def level_section(coax: CoaxAnswer) -> Section:
    """The levels planned at each outlet."""
    lines = []
    for row in coax.outlets:
        groups = [
            say(
                "{} {} to {}",
                group.group,
                shown(group.low.value, group.low.unit),
                shown(group.high.value, group.high.unit),
            )
            for group in row.groups
        ]
        lines.append(line(row.name, listed(groups, "; ") or "no signal", row.state))
    return Section("Levels planned at the outlets", lines or [line("", "No outlets yet.")])


def company_section(job: Job) -> Section | None:
    """What becomes of the cable company's line."""
    if job.company.plan == "none":
        return None
    c = job.company
    plan = {"leave": "left for the own antenna", "both": "kept beside the own antenna"}
    lines = [
        line("What becomes of it", plan.get(c.plan, c.plan)),
        line("Lines", "known and labelled" if c.lines_known else "not proven yet"),
        line(
            "At the drop",
            say(
                "{} at {}, {} at {}",
                shown(c.low_dbuv, "dbuv"),
                shown(c.low_mhz, "mhz", 0),
                shown(c.high_dbuv, "dbuv"),
                shown(c.high_mhz, "mhz", 0),
            ),
        ),
    ]
    if c.plan == "leave":
        lines.append(line("Connection", "unplugged and capped" if c.unplugged else "still on"))
    else:
        lines.append(
            line(
                "Return noise",
                say(
                    "{} worst in {} s",
                    shown(c.return_noise_dbuv, "dbuv"),
                    f"{c.watched_s or 0:.0f}",
                ),
            )
        )
    if c.note:
        lines.append(line("", c.note))
    return Section("Cable company's line", lines)
