"""What is done to an antenna as a whole: built where it was held, another model in its place, a second
one beside it."""

from __future__ import annotations

from typing import Any

from ..job import Array, Job
from ..job.context import JobParts
from ..job.edits import add_row, change_row, missing, new_id
from ..network import edits as run
from ..stations.aim.array.terminals import as_antenna
from ..stations.coax.fixes.front_end import JUMPER_M
from ..units.quantities import InputError


def array_of(job: Job, key: str) -> Array:
    """A terrestrial antenna by its id. Raises InputError when it is not there."""
    found = next((a for a in job.arrays if a.id == key), None)
    if found is None:
        raise missing("arrays", key)
    return found


def stand_at(job: Job, spot_id: str) -> Job:
    """The antenna stands where it was held: its readings become the source, heading and height the
    plan's."""
    spot = next((s for s in job.trial_spots if s.id == spot_id), None)
    if spot is None:
        raise missing("trial_spots", spot_id)
    values: dict[str, Any] = {"stands_at": spot_id}
    if spot.heading_deg is not None:
        values["heading_deg"] = spot.heading_deg
    if spot.above_ground_m is not None:
        values["above_ground_m"] = spot.above_ground_m
    return change_row(job, "arrays", spot.antenna, values)


def take_antenna(ctx: JobParts, antenna_id: str, key: str) -> Job:
    """Put an antenna of the catalogue in the place of one of the job's."""
    job = ctx.job
    kind = ctx.catalogue.antennas.get(key)
    if kind is None:
        raise InputError(
            "Antenna",
            f"“{key}” is not in the catalogue.",
            "Choose from the list.",
            "antenna-unknown",
        )
    old = array_of(job, antenna_id)
    new = as_antenna(kind, old).model_copy(update={"stands_at": None})
    return job.model_copy(
        update={"arrays": tuple(new if a.id == antenna_id else a for a in job.arrays)}
    )


def second_antenna(ctx: JobParts, antenna_id: str, first_deg: float, second_deg: float) -> Job:
    """A second antenna of the same kind, with a combiner right behind both where the first is in
    the run."""
    job = ctx.job
    old = array_of(job, antenna_id)
    key = new_id(job, "arrays")
    new = old.model_copy(
        update={
            "id": key,
            "name": f"{old.name}, second"[:80],
            "heading_deg": second_deg % 360,
            "stands_at": None,
            "target": None,
            "on_mast_m": max(old.on_mast_m - 1.0, 0.1),
        }
    )
    job = add_row(job, "arrays", new)
    job = change_row(job, "arrays", antenna_id, {"heading_deg": first_deg % 360, "stands_at": None})
    source = next((p for p in job.parts if p.antenna == antenna_id), None)
    if source is None or not any(k.from_part == source.id for k in job.links):
        return job
    job, combiner = run.add_after(
        ctx.with_job(job),
        after=source.id,
        type_key="combiner-wide",
        cable="rg6",
        length_m=JUMPER_M,
        port=0,
    )
    job = run.add_source(ctx.with_job(job), key, source.type)
    return run.join(
        ctx.with_job(job),
        after=job.parts[-1].id,
        to=combiner,
        cable="rg6",
        length_m=JUMPER_M,
        to_port=1,
    )
