"""Splitters and taps exchanged, open ports capped."""

from __future__ import annotations

from collections.abc import Iterator

from .....fixes.engine import CandidateChange
from .....fixes.registry import may_cure
from .....network import edits
from .....network.edits import open_ports
from ..surroundings import Surroundings, replaced

PASSIVE = ("splitter", "tap")


@may_cure("level-low", "level-high", "margin", "slope", "input-low", "input-high")
def exchanged(at: Surroundings) -> Iterator[CandidateChange]:
    """Another splitter or tap with the same outputs in place of one on the way."""
    for part in at.parts:
        kind = at.kind(part)
        if kind.draws_as not in PASSIVE:
            continue
        for key, other in at.catalogue.parts.items():
            same = (
                other.draws_as in PASSIVE
                and (other.inputs, other.outputs) == (kind.inputs, kind.outputs)
                and set(other.dc) >= set(kind.dc)
            )
            if same and other.paths != kind.paths:
                yield from replaced(at, part, key, 2.5)


@may_cure("echo", "margin")
def capped(at: Surroundings) -> Iterator[CandidateChange]:
    """A terminator on each open port of a part on the way."""
    for part in at.parts:
        used = [k.from_port for k in at.job.links if k.from_part == part]
        free = open_ports(at.kind(part), used)
        if not free or at.kind(part).draws_as == "lnb":
            continue
        job = at.job
        for port in free:
            job, _ = edits.add_after(
                at.ctx.with_job(job),
                part,
                type_key="terminator",
                cable="rg6",
                length_m=0.0,
                port=port,
            )
        yield CandidateChange(
            f"cap {part}",
            f"cap {part}",
            do=(f"Cap the open ports of {at.name(part)}",),
            job=job,
            cost=0.5,
        )
