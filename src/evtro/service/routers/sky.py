"""Station Sky: targets, their carriers, and what is in the way."""

from __future__ import annotations

import re

from fastapi import APIRouter
from fastapi.responses import Response

from evtro.core.job import Carrier, Job, Obstruction, Target, edits
from evtro.core.job.base import bounds_of
from evtro.core.job.consistency import check_modulation
from evtro.core.physics.channels import parse_frequency
from evtro.core.stations.site.position import read_position
from evtro.core.stations.sky.survey import parse_orbit, parse_row
from evtro.core.units.quantities import InputError, Unit

from ..common import (
    MADE,
    VIEW,
    AtDesk,
    JobId,
    RowId,
    Seen,
    add_row,
    change_row,
    job_response,
    remove_row,
)
from ..schemas import (
    CarrierFrequency,
    NewCarrier,
    NewObstruction,
    NewTarget,
    ObstructionPatch,
    TargetPatch,
)
from ..typing import typed

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["sky"])


@router.post("/targets", **MADE)
def add_target(desk: AtDesk, job_id: JobId, seen: Seen, body: NewTarget) -> Response:
    """Add a satellite by its orbit or a transmitter by its place."""
    place: dict[str, float] = {}
    if body.kind == "satellite":
        place["orbit_deg_e"] = parse_orbit(body.orbit)
    else:
        at = read_position(body.position)
        place["latitude_deg"], place["longitude_deg"] = at.latitude_deg, at.longitude_deg
        place["height_m"] = typed(Target, "height_m", body.height_m)
    return add_row(desk, job_id, seen=seen, label="add target", field="targets",
                   make=lambda _, new: Target(id=new, kind=body.kind, name=body.name, **place))  # fmt: skip


@router.patch("/targets/{row_id}", **VIEW)
def change_target(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: TargetPatch
) -> Response:
    """Change a target."""
    return change_row(desk, job_id, seen=seen, field="targets", row_id=row_id, body=body)


@router.delete("/targets/{row_id}", **VIEW)
def remove_target(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Remove a target with its carriers and their readings."""
    return remove_row(desk, job_id, seen=seen, field="targets", row_id=row_id)


@router.post("/carriers", **MADE)
def add_carrier(desk: AtDesk, job_id: JobId, seen: Seen, body: NewCarrier) -> Response:
    """Add a multiplex or transponder."""
    check_modulation(body.modulation)

    def make(job: Job, new: str) -> Carrier:
        sent = next((t.kind for t in job.targets if t.id == body.target), "satellite")
        units: tuple[Unit, Unit] = ("mhz", "kw") if sent == "transmitter" else ("msym", "dbw")
        carrier = Carrier(
            id=new, target=body.target, name=body.name,
            frequency_mhz=_frequency(desk.profile(job).channels, body.frequency),
            bandwidth_mhz=typed(Carrier, "bandwidth_mhz", body.bandwidth, units[0]),
            polarisation=body.polarisation, power=typed(Carrier, "power", body.power, units[1]),
            modulation=body.modulation,
        )  # fmt: skip
        edits.carrier_ready(job, carrier)
        return carrier

    return add_row(desk, job_id, seen=seen, label="add carrier", field="carriers", make=make)


@router.patch("/carriers/{row_id}", **VIEW)
def change_carrier(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: CarrierFrequency
) -> Response:
    """Change a carrier."""
    values = body.model_dump(exclude_unset=True)
    text = values.pop("frequency", None)
    if values.get("modulation"):
        check_modulation(values["modulation"])

    def edit(job: Job) -> Job:
        if text is not None:
            values["frequency_mhz"] = _frequency(desk.profile(job).channels, text)
        job = edits.change_row(job, "carriers", row_id, values)
        edits.carrier_ready(job, next(c for c in job.carriers if c.id == row_id))
        return job

    return job_response(desk.change(job_id, seen, "change carrier", edit))


@router.delete("/carriers/{row_id}", **VIEW)
def remove_carrier(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Remove a carrier with its readings."""
    return remove_row(desk, job_id, seen=seen, field="carriers", row_id=row_id)


@router.post("/obstructions", **MADE)
def add_obstruction(desk: AtDesk, job_id: JobId, seen: Seen, body: NewObstruction) -> Response:
    """Add what is in the way from one line, such as `barn 212 224 11`."""
    values = parse_row(body.line)
    return add_row(
        desk, job_id, seen=seen, label="add obstruction", field="obstructions",
        make=lambda job, new: Obstruction(id=new, seen_from_m=job.site.mount_height_m, **values),
    )  # fmt: skip


@router.patch("/obstructions/{row_id}", **VIEW)
def change_obstruction(
    desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: ObstructionPatch
) -> Response:
    """Change an obstruction. A new angle or height counts as seen from the mount of now."""
    values = body.model_dump(exclude_unset=True)
    if values.get("top_deg") is not None:
        values.setdefault("above_m", None)
    elif values.get("above_m") is not None:
        values.setdefault("top_deg", None)

    def edit(job: Job) -> Job:
        if "top_deg" in values or "above_m" in values:
            values["seen_from_m"] = job.site.mount_height_m
        return edits.change_row(job, "obstructions", row_id, values)

    return job_response(desk.change(job_id, seen, "change obstruction", edit))


@router.delete("/obstructions/{row_id}", **VIEW)
def remove_obstruction(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Remove an obstruction."""
    return remove_row(desk, job_id, seen=seen, field="obstructions", row_id=row_id)


def _frequency(table: str, text: str) -> float:
    try:
        found = parse_frequency(
            re.sub(r"\s+", " ", text),
            table,
            *bounds_of(Carrier.model_fields["frequency_mhz"].metadata),
        )
    except InputError as error:
        raise error if error.field else error.at("Frequency") from None
    assert isinstance(found, float)
    return found
