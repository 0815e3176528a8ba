"""What lies behind the holes that cables need."""

from __future__ import annotations

from ....checks.registry import check
from ....job.problems import Problem
from ..context import NetworkContext


@check("coax", codes=("service-behind",), needs=("job", "solved"))
def holes(ctx: NetworkContext) -> list[Problem]:
    """Holes behind which a cable or a pipe was found."""
    return [
        Problem(
            code="service-behind",
            station="coax",
            state="fail",
            place=f"hole of {ctx.solved.names.get(k.to_part, k.id)}",
            title=("A cable or a pipe lies where a hole is to go",),
            gauge=None,
            limit=("nothing behind a hole",),
            origin="common practice, no source",
            remedy=(
                "Enter elsewhere, look again with the detector from both sides, and say at the cable what you found.",
            ),
            ref=k.id,
        )
        for k in ctx.job.links
        if k.behind == "service"
        and ctx.job.rig.kind == "none"
        and any(kind == "hole" for kind, _ in k.route)
    ]
