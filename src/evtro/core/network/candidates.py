"""What may be added behind a part, put in its place, or joined to it: whatever the edits accept, tried on the
job itself, so that no other place holds a rule of what fits."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from typing import Literal

from ..job import Part
from ..job.changes import Change, CopyBranch, Insert, Join, LeadFrom, Replace
from ..job.context import JobParts
from ..job.parts import Catalogue, part_type
from ..units.quantities import InputError
from . import branches, edits

NEW = "$new"  # what a new part is called until it has an id
DROP_M = 10.0  # to an outlet; typical value, no published source
DEVICE_M = 1.0  # between devices in one place; typical value, no published source
CABLE = "rg6"

Mode = Literal["after", "branch", "replace", "copy", "move"]


@dataclass(frozen=True)
class NetworkCandidate:
    """Something that may be done at a part: what kind of thing `name` is, a hint to tell it from others, the
    change that does it, and whether the part that it adds is looked at next."""

    kind: Literal["outlet", "join", "part", "place"]
    name: str
    hint: str
    change: Change
    port: int | None = None
    follow: bool = False


def candidates(ctx: JobParts, part_id: str, mode: Mode) -> list[NetworkCandidate]:
    """Return what may be chosen at a part. Raises InputError for a part that is not there."""
    part = edits.find_part(ctx.job, part_id)
    match mode:
        case "after":
            return list(_added(ctx, part, None))
        case "branch":
            return list(_branched(ctx, part))
        case "replace":
            return list(_replaced(ctx, part))
        case "copy" | "move":
            return list(_placed(ctx, part, copied=mode == "copy"))


def _works(edit: Callable[[], object]) -> bool:
    try:
        edit()
    except InputError:
        return False
    return True


def _branched(ctx: JobParts, part: Part) -> Iterator[NetworkCandidate]:
    free = edits.free_outputs(ctx, part)
    yield from _added(ctx, part, free[0] if free else None)


def _added(ctx: JobParts, part: Part, port: int | None) -> Iterator[NetworkCandidate]:
    job = ctx.job
    insert = partial(Insert, after=part.id, port=port, cable=CABLE, called=NEW)
    placed = {p.outlet for p in job.parts}
    for outlet in job.outlets:
        change = insert(type="plate", outlet=outlet.id, length_m=DROP_M)
        if outlet.id not in placed and _fits(ctx, change):
            yield NetworkCandidate("outlet", outlet.name, outlet.floor, change)
    for other in job.parts:
        free = edits.free_inputs(ctx, other)
        join = Join(part=part.id, to=other.id, cable=CABLE, length_m=DEVICE_M)
        if other.id != part.id and free and _joins(ctx, join):
            yield NetworkCandidate("join", _name(ctx.catalogue, other), f"{len(free)} free", join)
    for kind in ctx.catalogue.parts.values():
        change = insert(type=kind.key, length_m=DEVICE_M)
        if kind.draws_as != "plate" and kind.inputs and _fits(ctx, change):
            follow = kind.draws_as != "terminator"
            yield NetworkCandidate("part", kind.name, kind.draws_as, change, follow=follow)


def _fits(ctx: JobParts, change: Insert) -> bool:
    return _works(
        partial(
            edits.add_after,
            ctx,
            change.after or "",
            type_key=change.type,
            cable=change.cable,
            length_m=DEVICE_M,
            outlet=change.outlet,
            port=change.port,
        )
    )


def _joins(ctx: JobParts, change: Join) -> bool:
    return _works(
        partial(
            edits.join,
            ctx,
            after=change.part,
            to=change.to,
            cable=change.cable,
            length_m=DEVICE_M,
        )
    )


def _replaced(ctx: JobParts, part: Part) -> Iterator[NetworkCandidate]:
    catalogue = ctx.catalogue
    plate = part_type(catalogue, part).draws_as == "plate"
    for kind in catalogue.parts.values():
        # An outlet keeps its plate: another kind of it, such as one from which the cable goes on.
        alike = (kind.draws_as == "plate") == plate and kind.key != part.type
        if alike and _works(partial(edits.replace, ctx, part_id=part.id, type_key=kind.key)):
            change = Replace(part=part.id, type=kind.key)
            yield NetworkCandidate("part", kind.name, kind.draws_as, change)


def _placed(ctx: JobParts, part: Part, *, copied: bool) -> Iterator[NetworkCandidate]:
    """Free outputs to which a branch may be copied or moved."""
    catalogue = ctx.catalogue
    edit = partial(branches.copy_branch, floor="") if copied else branches.lead_from
    for other in ctx.job.parts:
        free = edits.free_outputs(ctx, other)
        # What holds for one free output holds for all of them.
        if (
            other.id == part.id
            or not free
            or not _works(partial(edit, ctx, part.id, after=other.id, port=free[0]))
        ):
            continue
        hint = part_type(catalogue, other).name
        for port in free:
            change: Change = (
                CopyBranch(part=part.id, after=other.id, port=port, called=NEW)
                if copied
                else LeadFrom(part=part.id, after=other.id, port=port)
            )
            yield NetworkCandidate(
                "place", _name(catalogue, other), hint, change, port=port, follow=copied
            )


def _name(catalogue: Catalogue, part: Part) -> str:
    return part.name or part_type(catalogue, part).name
