"""How parts are called."""

from __future__ import annotations

from ....job.context import JobParts
from ....job.parts import part_type


def part_names(ctx: JobParts) -> dict[str, str]:
    """How each part is called: its own name, its outlet's or antenna's, else its type's."""
    job = ctx.job
    antennas = {a.id: a.name for a in job.antennas}
    outlets = {o.id: o.name for o in job.outlets}
    names = {}
    for part in job.parts:
        kind = part_type(ctx.catalogue, part)
        if kind.draws_as == "antenna":
            other = antennas.get(part.antenna or "", kind.name)
        else:
            other = outlets.get(part.outlet or "", kind.name)
        names[part.id] = part.name or other
    return names
