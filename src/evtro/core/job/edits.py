"""Changes to the rows of a job: pure functions that keep what refers to a row in order."""

from __future__ import annotations

import math
from typing import Any

from ..plant import edits as run
from ..plant.parts import Catalogue
from ..stations.aim.array.terminals import as_antenna
from ..stations.aim.dishes import axes_of
from ..stations.coax.front_end import JUMPER_M, with_front
from ..stations.sky import moves
from ..units.quantities import InputError
from . import Carrier, Conductor, Heard, Job, Mark, Reading, Row, references
from .profile import Profile
from .references import without
from .registry import new_row_id, registry

KINDS = registry(Job)


def new_id(job: Job, field: str) -> str:
    """The id for the next row of a list."""
    return new_row_id(job, field)


def add_row(job: Job, field: str, row: Row) -> Job:
    """Append a row; lists are bounded."""
    kind = KINDS.kind(field)
    rows = getattr(job, field)
    if kind.most is not None and len(rows) >= kind.most:
        raise InputError(kind.noun.capitalize(), f"a job holds at most {kind.most}.",
                         "Remove one first.", "too-many")  # fmt: skip
    return job.model_copy(update={field: (*rows, row)})


def change_row(job: Job, field: str, row_id: str, values: dict[str, Any]) -> Job:
    """Change fields of a row. Raises InputError when it is not there or does not fit."""
    rows = getattr(job, field)
    old = next((r for r in rows if r.id == row_id), None)
    if old is None:
        raise missing(field, row_id)
    changed = type(old).model_validate({**old.model_dump(), **values})
    return job.model_copy(update={field: tuple(changed if r.id == row_id else r for r in rows)})


def missing(field: str, row_id: str) -> InputError:
    """The error for a row that is not there."""
    return references.missing(KINDS.kind(field), row_id)


def remove_row(job: Job, catalogue: Catalogue, field: str, row_id: str) -> Job:
    """Remove a row and what cannot be without it. A part between two cables leaves them joined."""
    if field == "parts":
        return run.remove(job, catalogue, row_id)
    return without(job, field, row_id)


def set_reading(
    job: Job, part: str, carrier: str, level_dbuv: float | None, cn_db: float | None
) -> Job:
    """Write or take away what the meter said."""
    run.find_part(job, part)
    if all(c.id != carrier for c in job.carriers):
        raise missing("carriers", carrier)
    old = next((r for r in job.readings if (r.part, r.carrier) == (part, carrier)), None)
    kept = [r for r in job.readings if r is not old]
    if level_dbuv is not None or cn_db is not None:
        row = Reading(id=old.id if old else new_id(job, "readings"), part=part, carrier=carrier,
                      level_dbuv=level_dbuv, cn_db=cn_db)  # fmt: skip
        at = job.readings.index(old) if old else len(kept)
        kept.insert(at, row)
    return job.model_copy(update={"readings": tuple(kept)})


def set_mark(job: Job, step: str, values: dict[str, Any]) -> Job:
    """Tick a step, confirm its danger, note what was measured."""
    old = next((m for m in job.marks if m.step == step), None)
    if old is None:
        row = Mark.model_validate({"id": new_id(job, "marks"), "step": step, **values})
        return add_row(job, "marks", row)
    return change_row(job, "marks", old.id, values)


def carrier_ready(job: Job, carrier: Carrier) -> None:
    """Raise InputError for a carrier that cannot be computed: no power, no such target."""
    target = next((t for t in job.targets if t.id == carrier.target), None)
    if target is None:
        raise missing("targets", carrier.target)
    if target.kind == "transmitter" and carrier.power <= 0:
        raise InputError("ERP", f"{carrier.power:g} kW sends nothing.",
                         "Type the effective radiated power in kW, such as 20.", "erp-zero")  # fmt: skip


def take_fix(job: Job, catalogue: Catalogue, profile: Profile, fix: str) -> Job:
    """Carry out a remedy that a problem offered."""
    kind, *args = fix.split(":")
    if kind == "mount-height":
        return _single(job, "site", mount_height_m=float(args[0]))
    if kind == "move":
        return moves.move_mount(job, float(args[0]), float(args[1]))
    if kind == "cut":
        return moves.cut(job, args[0], float(args[1]))
    if kind == "spot":
        return moves.take_spot(job, args[0])
    if kind == "mast-held":
        return _single(job, "mast", held_m=float(args[0]))
    if kind in ("bond", "bond-size", "bond-joined"):
        return _bond(job, profile, kind, args[0])
    if kind == "cable":
        return change_row(job, "links", args[0], {"cable": args[1]})
    if kind == "setting":
        return change_row(job, "parts", args[0], {"setting_db": min(float(args[1]), 60.0)})
    if kind == "terminate":
        part = run.find_part(job, args[0])
        for port in run.free_outputs(job, catalogue, part):
            job, _ = run.add_after(
                job,
                catalogue,
                after=part.id,
                type_key="terminator",
                cable="rg6",
                length_m=0.0,
                port=port,
            )
        return job
    if kind == "measured":
        return _as_measured(job, args[0])
    if kind == "heading":
        return change_row(
            job, "antennas", args[0], {"heading_deg": float(args[1]) % 360, "hold": None}
        )
    if kind == "front":
        return with_front(job, catalogue, args[0], ":".join(args[1:]))
    if kind == "insert":
        return _insert(job, catalogue, link_id=args[0], type_key=args[1], rest=args[2:])
    raise InputError("Fix", f"“{kind}” is not something the program can do.", "Do it by hand.",
                     "fix-unknown")  # fmt: skip


def take_hold(job: Job, hold_id: str) -> Job:
    """The antenna stands where it was held: its readings become the source, heading and height the
    plan's."""
    hold = next((h for h in job.holds if h.id == hold_id), None)
    if hold is None:
        raise missing("holds", hold_id)
    values: dict[str, Any] = {"hold": hold_id}
    if hold.heading_deg is not None:
        values["heading_deg"] = hold.heading_deg
    if hold.above_ground_m is not None:
        values["above_ground_m"] = hold.above_ground_m
    return change_row(job, "antennas", hold.antenna, values)


def set_heard(
    job: Job, hold: str, carrier: str, level_dbuv: float | None, cn_db: float | None
) -> Job:
    """Write or take away what the meter said of a carrier at a spot."""
    if all(h.id != hold for h in job.holds):
        raise missing("holds", hold)
    if all(c.id != carrier for c in job.carriers):
        raise missing("carriers", carrier)
    old = next((h for h in job.heard if (h.hold, h.carrier) == (hold, carrier)), None)
    if level_dbuv is None and cn_db is None:
        return job.model_copy(update={"heard": tuple(h for h in job.heard if h is not old)})
    values = {"level_dbuv": level_dbuv, "cn_db": cn_db}
    if old is not None:
        return change_row(job, "heard", old.id, values)
    row = Heard(id=new_id(job, "heard"), hold=hold, carrier=carrier, **values)
    return add_row(job, "heard", row)


def take_antenna(job: Job, catalogue: Catalogue, antenna_id: str, key: str) -> Job:
    """Put an antenna of the catalogue in the place of one of the job's."""
    kind = catalogue.antennas.get(key)
    if kind is None:
        raise InputError("Antenna", f"“{key}” is not in the catalogue.", "Choose from the list.",
                         "antenna-unknown")  # fmt: skip
    old = next((a for a in job.antennas if a.id == antenna_id and a.kind == "array"), None)
    if old is None:
        raise missing("antennas", antenna_id)
    new = as_antenna(kind, old).model_copy(update={"hold": None})
    return job.model_copy(
        update={"antennas": tuple(new if a.id == antenna_id else a for a in job.antennas)}
    )


def second_antenna(
    job: Job, catalogue: Catalogue, antenna_id: str, first_deg: float, second_deg: float
) -> Job:
    """A second antenna of the same kind, with a combiner right behind both where the first is in
    the run."""
    old = next((a for a in job.antennas if a.id == antenna_id), None)
    if old is None:
        raise missing("antennas", antenna_id)
    key = new_id(job, "antennas")
    new = old.model_copy(
        update={"id": key, "name": f"{old.name}, second"[:80], "heading_deg": second_deg % 360,
                "hold": None, "target": None, "on_mast_m": max(old.on_mast_m - 1.0, 0.1)}
    )  # fmt: skip
    job = add_row(job, "antennas", new)
    job = change_row(job, "antennas", antenna_id, {"heading_deg": first_deg % 360, "hold": None})
    source = next((p for p in job.parts if p.antenna == antenna_id), None)
    if source is None or not any(k.from_part == source.id for k in job.links):
        return job
    job, combiner = run.add_after(
        job,
        catalogue,
        after=source.id,
        type_key="combiner-wide",
        cable="rg6",
        length_m=JUMPER_M,
        port=0,
    )
    job = run.add_source(job, catalogue, key, source.type)
    return run.join(
        job,
        catalogue,
        after=job.parts[-1].id,
        to=combiner,
        cable="rg6",
        length_m=JUMPER_M,
        to_port=1,
    )


def _as_measured(job: Job, antenna_id: str) -> Job:
    """A dish with the offset angle and the size that its reflector was measured to have."""
    dish = next((a for a in job.antennas if a.id == antenna_id), None)
    axes = None if dish is None else axes_of(dish)
    if dish is None or axes is None:
        raise missing("antennas", antenna_id)
    return change_row(
        job, "antennas", antenna_id,
        {"offset_deg": round(axes[0], 2), "diameter_m": round(axes[1], 3)},
    )  # fmt: skip


def _single(job: Job, field: str, **values: float) -> Job:
    old: Row = getattr(job, field)
    return job.model_copy(update={field: type(old).model_validate({**old.model_dump(), **values})})


def _insert(job: Job, catalogue: Catalogue, link_id: str, type_key: str, rest: list[str]) -> Job:
    """Let a part into a cable, close to its lower end."""
    link = run.find_link(job, link_id)
    job, new = run.add_after(
        job,
        catalogue,
        after=link.from_part,
        type_key=type_key,
        cable=link.cable,
        length_m=link.length_m,
        port=link.from_port,
    )
    job = change_row(job, "links", link_id, {"length_m": min(run.PATCH_M, link.length_m)})
    if rest:
        job = change_row(job, "parts", new, {"setting_db": float(math.ceil(float(rest[0])))})
    return job


def _bond(job: Job, profile: Profile, kind: str, role: str) -> Job:
    rule = next((r for r in profile.earth_rules if r.role == role), None)
    if rule is None:
        raise InputError("Bond", f"{role} is not asked by this school.", "", "fix-unknown")
    old = next((c for c in job.conductors if c.role == role), None)
    size = rule.sizes[0]
    if old is None:
        row = Conductor(id=new_id(job, "conductors"), role=role, material=size.material,
                        size_mm2=size.least_mm2, length_m=5.0)  # fmt: skip
        return add_row(job, "conductors", row)
    if kind == "bond-joined":
        return change_row(job, "conductors", old.id, {"connected": True})
    return change_row(
        job, "conductors", old.id, {"material": size.material, "size_mm2": size.least_mm2}
    )
