"""Whole branches of a run: copied to another place, led from another part."""

from __future__ import annotations

import re

from ..job import Cable, Job, Outlet, Part
from ..job.consistency import check_run
from ..job.context import JobParts
from ..job.edits import add_row
from ..job.parts import part_type
from ..job.registry import new_row_id
from ..units.quantities import InputError
from .edits import find_part, free_outputs, looped_parts
from .graph import Wiring, wire


def copy_branch(
    ctx: JobParts, part: str, *, after: str, port: int | None, floor: str
) -> tuple[Job, str]:
    """The job with a part and everything behind it once more, behind another part; its outlets are new ones of the
    same wishes, on a floor of their own where one is named. Returns job and id of the new part.

    Raises InputError for a part that several cables lead to, or where no output is free.
    """
    job, catalogue = ctx.job, ctx.catalogue
    find_part(job, part)
    there = find_part(job, after)
    wiring = wire(job.parts, job.links, catalogue)
    lead = _only_lead(wiring, part)
    behind = [part, *dict.fromkeys(wiring.down(part))]
    for p in behind[1:]:
        if any(k.from_part not in behind for k in wiring.before[p].values()):
            raise InputError(
                "Branch",
                f"another line comes to {_name(wiring, p)}, too.",
                "Copy what one cable leads to.",
                "branch-joined",
            )
    port = _free(ctx.with_job(job), there, port)
    new: dict[str, str] = {}
    for p in behind:
        old = wiring.parts[p]
        outlet = None
        if old.outlet is not None:
            job, outlet = _same_outlet(job, old.outlet, floor)
        fresh = old.model_copy(update={"id": new_row_id(job, "parts"), "outlet": outlet})
        job = add_row(job, "parts", Part.model_validate(fresh.model_dump()))
        new[p] = fresh.id
    links = [k for p in behind for k in wiring.after[p].values()]
    job = _link(job, lead, from_part=after, from_port=port, to_part=new[part])
    for k in links:
        job = _link(
            job, k, from_part=new[k.from_part], from_port=k.from_port, to_part=new[k.to_part]
        )
    check_run(ctx.with_job(job))
    return job, new[part]


def lead_from(ctx: JobParts, part: str, *, after: str, port: int | None) -> Job:
    """The job with a part, and what hangs behind it, led from another part's free output. Raises
    InputError."""
    job, catalogue = ctx.job, ctx.catalogue
    find_part(job, part)
    there = find_part(job, after)
    wiring = wire(job.parts, job.links, catalogue)
    lead = _only_lead(wiring, part)
    if after == part or (part in wiring.before and after in wiring.down(part)):
        raise InputError(
            "Cable",
            "that would lead the signal back into itself: a loop.",
            "Lead it from a part further up the run.",
            "loop",
        )
    port = _free(ctx.with_job(job), there, port)
    moved = lead.model_copy(update={"from_part": after, "from_port": port})
    job = job.model_copy(
        update={"links": tuple(moved if k.id == lead.id else k for k in job.links)}
    )
    check_run(ctx.with_job(job))
    if looped_parts(ctx.with_job(job)):
        raise InputError(
            "Cable", "that would make a loop.", "Lead it from a part further up the run.", "loop"
        )
    return job


def _only_lead(wiring: Wiring, part: str) -> Cable:
    leads = list(wiring.before.get(part, {}).values())
    if len(leads) != 1:
        raise InputError(
            "Branch",
            f"{_name(wiring, part)} has {len(leads) or 'no'} cables that come to it, and a "
            "branch has one.",
            "Choose a part that one cable leads to.",
            "branch-lead",
        )
    return leads[0]


def _free(ctx: JobParts, there: Part, port: int | None) -> int:
    free = free_outputs(ctx, there)
    name = there.name or part_type(ctx.catalogue, there).name
    if not free or (port is not None and port not in free):
        raise InputError(
            "Output",
            f"{name} has no free output{'' if port is None else f' {port + 1}'}.",
            "Take a part with more, or free one.",
            "no-free-port",
        )
    return free[0] if port is None else port


def _name(wiring: Wiring, part: str) -> str:
    return wiring.parts[part].name or wiring.kinds[part].name


def _same_outlet(job: Job, outlet_id: str, floor: str) -> tuple[Job, str]:
    """A new outlet with the wishes of another one, under a name that is free."""
    old = next(o for o in job.outlets if o.id == outlet_id)
    taken = {o.name for o in job.outlets}
    stem, number = re.sub(r"\s+\d+$", "", old.name), 2
    while f"{stem} {number}" in taken:
        number += 1
    made = Outlet.model_validate(
        {
            **old.model_dump(),
            "id": new_row_id(job, "outlets"),
            "name": f"{stem} {number}",
            "floor": floor or old.floor,
        }
    )
    return add_row(job, "outlets", made), made.id


def _link(job: Job, like: Cable, *, from_part: str, from_port: int, to_part: str) -> Job:
    made = like.model_copy(
        update={
            "id": new_row_id(job, "links"),
            "from_part": from_part,
            "from_port": from_port,
            "to_part": to_part,
        }
    )
    return add_row(job, "links", made)
