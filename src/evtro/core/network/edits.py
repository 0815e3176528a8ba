"""Changes to the run: pure functions from a job to a changed job."""

from __future__ import annotations

from collections.abc import Collection

from ..job import Cable, Dish, Job, Part
from ..job.consistency import check_run
from ..job.context import JobParts
from ..job.parts import PartType, part_type
from ..job.references import without
from ..job.registry import new_row_id
from ..units.quantities import InputError
from .graph import wire

PATCH_M = 0.5  # a patch cable between neighbouring devices; common practice, no source


def find_part(job: Job, part_id: str) -> Part:
    """The part of that id. Raises InputError when the run has none."""
    for part in job.parts:
        if part.id == part_id:
            return part
    raise InputError("Part", f"{part_id} is not in the run.", "Reload the job.", "part-missing")


def find_link(job: Job, link_id: str) -> Cable:
    """The cable of that id. Raises InputError when the run has none."""
    for link in job.links:
        if link.id == link_id:
            return link
    raise InputError("Cable", f"{link_id} is not in the run.", "Reload the job.", "cable-missing")


def free_outputs(ctx: JobParts, part: Part) -> list[int]:
    """Numbers of the outputs that nothing is joined to."""
    used = {link.from_port for link in ctx.job.links if link.from_part == part.id}
    return [o for o in part_type(ctx.catalogue, part).joinable if o not in used]


def open_ports(kind: PartType, used: Collection[int]) -> list[int]:
    """Outputs of a part with several that are left open, beside those in use."""
    if kind.outputs < 2 or kind.together or not kind.inputs:
        return []
    return [o for o in kind.joinable if o not in used]


def free_inputs(ctx: JobParts, part: Part) -> list[int]:
    """Numbers of the inputs that nothing is joined to."""
    used = {link.to_port for link in ctx.job.links if link.to_part == part.id}
    return [i for i in range(part_type(ctx.catalogue, part).inputs) if i not in used]


def _add_part(
    ctx: JobParts, type_key: str, antenna: str | None, outlet: str | None
) -> tuple[Job, Part]:
    job = ctx.job
    if type_key not in ctx.catalogue.parts:
        raise InputError(
            "Part",
            f"“{type_key}” is not in the catalogue.",
            "Choose from the list.",
            "part-unknown",
        )
    if outlet is not None and any(p.outlet == outlet for p in job.parts):
        name = next((o.name for o in job.outlets if o.id == outlet), outlet)
        raise InputError(
            "Outlet",
            f"{name} already has its wall plate.",
            "Remove that one first.",
            "outlet-twice",
        )
    part = Part(id=new_row_id(job, "parts"), type=type_key, antenna=antenna, outlet=outlet)
    return job.model_copy(update={"parts": (*job.parts, part)}), part


def add_link(
    job: Job, start: tuple[str, int], end: tuple[str, int], cable: str, length_m: float
) -> Job:
    """Join a free output to a free input with a cable [m]."""
    link = Cable(
        id=new_row_id(job, "links"),
        from_part=start[0],
        from_port=start[1],
        to_part=end[0],
        to_port=end[1],
        cable=cable,
        length_m=length_m,
    )
    return job.model_copy(update={"links": (*job.links, link)})


def add_source(ctx: JobParts, antenna_id: str, type_key: str) -> Job:
    """Begin the run at an antenna: its terminals, or the LNB of a dish."""
    antenna = next((a for a in ctx.job.antennas if a.id == antenna_id), None)
    kind = ctx.catalogue.parts.get(type_key)
    if antenna is None or kind is None or kind.inputs:
        raise InputError(
            "Source",
            "that is not an antenna of this job, or not a source.",
            "Add the antenna at Mast, then start the run at it.",
            "source-missing",
        )
    if isinstance(antenna, Dish) != bool(kind.bands):
        raise InputError(
            "Source",
            f"{kind.name} does not fit {antenna.name}.",
            "A dish takes an LNB, an array its terminals.",
            "source-wrong",
        )
    if any(p.antenna == antenna_id for p in ctx.job.parts):
        raise InputError(
            "Source",
            f"{antenna.name} is in the run already.",
            "Replace its LNB instead.",
            "source-twice",
        )
    return _add_part(ctx, type_key=type_key, antenna=antenna_id, outlet=None)[0]


def add_after(
    ctx: JobParts,
    after: str,
    type_key: str,
    cable: str,
    length_m: float,
    outlet: str | None = None,
    port: int | None = None,
) -> tuple[Job, str]:
    """Put a part behind another; what hung there moves behind the new one.

    A part for several lines takes all free lines at once. With `port` None the first free output
    is used, and when none is free the part is let in behind output 0. Returns job and new id.
    """
    job, catalogue = ctx.job, ctx.catalogue
    here = find_part(job, after)
    before_kind = part_type(catalogue, here)
    job, part = _add_part(ctx.with_job(job), type_key=type_key, antenna=None, outlet=outlet)
    kind = part_type(catalogue, part)
    if not kind.inputs:
        raise InputError(
            "Part",
            f"{kind.name} is a source and has no input.",
            "Start a run with it instead.",
            "part-is-source",
        )
    free = free_outputs(ctx.with_job(job), here)
    if port is not None and port not in free:
        free = []
    if not free:
        port = 0 if port is None else port
        if not before_kind.joinable:
            raise InputError(
                "Part", "the run ends here.", "Add behind a part with an output.", "run-ends"
            )
        old = next((k for k in job.links if k.from_part == after and k.from_port == port), None)
        if old is None:
            raise InputError(
                "Port",
                f"{before_kind.name} has no output {port + 1}.",
                f"It has {len(before_kind.joinable)}.",
                "port-missing",
            )
        if not kind.joinable:
            raise InputError(
                "Part",
                f"{kind.name} has no output to carry the run on.",
                "Branch instead, or choose another part.",
                "part-ends",
            )
        job = add_link(job, (after, port), end=(part.id, 0), cable=cable, length_m=length_m)
        moved = old.model_copy(update={"from_part": part.id, "from_port": 0})
        links = tuple(moved if k.id == old.id else k for k in job.links)
        return job.model_copy(update={"links": links}), part.id
    lines = free if kind.inputs > 1 and port is None else [free[0] if port is None else port]
    wanted = _inputs_for(ctx.with_job(job), after, kind)
    for out, into in zip(lines, wanted, strict=False):
        job = add_link(job, (after, out), end=(part.id, into), cable=cable, length_m=length_m)
    return job, part.id


def insert(ctx: JobParts, link_id: str, type_key: str) -> tuple[Job, str]:
    """Let a part into a cable, close to its lower end. Returns job and new id."""
    job = ctx.job
    link = find_link(job, link_id)
    job, new = add_after(
        ctx.with_job(job),
        link.from_part,
        type_key=type_key,
        cable=link.cable,
        length_m=link.length_m,
        port=link.from_port,
    )
    short = min(PATCH_M, link.length_m)
    links = tuple(
        k.model_copy(update={"length_m": short}) if k.id == link_id else k for k in job.links
    )
    return job.model_copy(update={"links": links}), new


def with_setting(job: Job, part_id: str, setting_db: float) -> Job:
    """A part's setting turned [dB]."""
    parts = tuple(
        p.model_copy(update={"setting_db": setting_db}) if p.id == part_id else p for p in job.parts
    )
    return job.model_copy(update={"parts": parts})


def _inputs_for(ctx: JobParts, after: str, kind: PartType) -> list[int]:
    """The inputs of a part that take what comes from another, those first that take most of it; all
    where none does."""
    given = _given_mhz(ctx, after)
    shares = []
    for i in range(kind.inputs):
        low, high = kind.passes_mhz(i) or (0.0, 0.0)
        shares.append(sum(max(min(high, b) - max(low, a), 0.0) for a, b in given))
    fitting = [i for i in range(kind.inputs) if shares[i] > 0] or list(range(kind.inputs))
    return sorted(fitting, key=lambda i: -shares[i])


def _given_mhz(ctx: JobParts, part_id: str) -> set[tuple[float, float]]:
    """What the sources ahead of a part give [MHz]: an array its own band."""
    job = ctx.job
    wiring = wire(job.parts, job.links, ctx.catalogue)
    ahead = (part_id, *wiring.up(part_id)) if part_id in wiring.before else (part_id,)
    arrays = {a.id: (a.low_mhz, a.high_mhz) for a in job.arrays}
    return {
        arrays.get(wiring.parts[p].antenna or "", wiring.kinds[p].range_mhz)
        for p in ahead
        if not wiring.kinds[p].inputs
    }


def join(
    ctx: JobParts,
    after: str,
    to: str,
    cable: str,
    length_m: float,
    to_port: int | None = None,
) -> Job:
    """Join the free outputs of a part to free inputs of another that is already in the run."""
    job, catalogue = ctx.job, ctx.catalogue
    here, there = find_part(job, after), find_part(job, to)
    outs, ins = free_outputs(ctx.with_job(job), here), free_inputs(ctx.with_job(job), there)
    kind = part_type(catalogue, there)
    if to_port is None:
        ins = [i for i in _inputs_for(ctx.with_job(job), after, kind) if i in ins]
    if to_port is not None:
        ins = [i for i in ins if i == to_port]
    if not outs or not ins:
        raise InputError(
            "Cable",
            "there is no free output or no free input to join.",
            "Free one first, or take a part with more ports.",
            "no-free-port",
        )
    several = kind.inputs > 1 and len(outs) > 1
    for out, into in zip(outs, ins, strict=False):
        job = add_link(job, (after, out), end=(to, into), cable=cable, length_m=length_m)
        if not several:
            break
    check_run(ctx.with_job(job))
    if looped_parts(ctx.with_job(job)):
        raise InputError(
            "Cable",
            f"that would lead the signal back into {kind.name}: a loop.",
            "Join it to a part further down the run.",
            "loop",
        )
    return job


def looped_parts(ctx: JobParts) -> set[str]:
    """Ids of the parts on or behind a loop."""
    return set(wire(ctx.job.parts, ctx.job.links, ctx.catalogue).looped)


def replace(ctx: JobParts, part_id: str, type_key: str) -> Job:
    """Put another part in a part's place; its cables stay. Raises when ports are too few."""
    job = ctx.job
    part = find_part(job, part_id)
    kind = ctx.catalogue.parts.get(type_key)
    if kind is None:
        raise InputError(
            "Part",
            f"“{type_key}” is not in the catalogue.",
            "Choose from the list.",
            "part-unknown",
        )
    highest_out = max((k.from_port for k in job.links if k.from_part == part_id), default=-1)
    highest_in = max((k.to_port for k in job.links if k.to_part == part_id), default=-1)
    if highest_out > max(kind.joinable, default=-1) or highest_in >= kind.inputs:
        raise InputError(
            "Part",
            f"{kind.name} has too few ports for the cables that are joined.",
            "Remove branches first, or choose a larger one.",
            "too-few-ports",
        )
    check_use(part_type(ctx.catalogue, part), kind)
    changed = part.model_copy(update={"type": type_key, "setting_db": None})
    return job.model_copy(
        update={"parts": tuple(changed if p.id == part_id else p for p in job.parts)}
    )


def check_use(old: PartType, new: PartType) -> None:
    """Raise InputError for a part that cannot stand where another one stood."""
    if (bool(old.bands), old.inputs > 0) != (bool(new.bands), new.inputs > 0):
        raise InputError(
            "Part",
            f"{new.name} cannot stand in this place.",
            "Choose a part of the same use.",
            "part-misplaced",
        )


def remove(ctx: JobParts, part_id: str) -> Job:
    """Take a part out. A part with one line in and one out leaves its cables joined; anything
    else takes what hangs on it only along its own cables."""
    job = ctx.job
    find_part(job, part_id)
    into = [k for k in job.links if k.to_part == part_id]
    out = [k for k in job.links if k.from_part == part_id]
    links = [k for k in job.links if part_id not in (k.from_part, k.to_part)]
    for arriving, leaving in zip(into, out, strict=False) if len(into) == len(out) else ():
        links.append(
            leaving.model_copy(
                update={
                    "from_part": arriving.from_part,
                    "from_port": arriving.from_port,
                    "length_m": min(arriving.length_m + leaving.length_m, 1000.0),
                }
            )
        )
    order = {k.id: i for i, k in enumerate(job.links)}
    links.sort(key=lambda k: order[k.id])
    return without(job.model_copy(update={"links": tuple(links)}), "parts", part_id)
