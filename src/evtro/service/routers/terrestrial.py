"""Stations Sky, Aim and Readings for terrestrial antennas: ways, headings, front end, spots, scans."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import TypeAdapter

from evtro.core.job import Antenna, Hold, Job, Scan, edits
from evtro.core.physics.propagation.clutter import COVERINGS, SURROUNDINGS, Covering
from evtro.core.stations.aim.array.ways import Paths, paths
from evtro.core.stations.coax.array_detail import ArrayDetail, array_detail
from evtro.core.stations.coax.front_end import with_front
from evtro.core.stations.readings.expected import ExpectedOutlet, parse_found
from evtro.core.stations.readings.lists import expected_lists
from evtro.core.units.quantities import InputError

from ..common import (
    MADE,
    READ,
    VIEW,
    AtDesk,
    JobId,
    RowId,
    Seen,
    add_row,
    change_single,
    job_response,
)
from ..desk import Desk
from ..rows import row_routes
from ..schemas import (
    CompanyPatch,
    HeardBody,
    HoldPatch,
    NewFront,
    NewHold,
    NewModel,
    NewScan,
    NewSecond,
    ScanPatch,
)
from ..typing import plain, typed

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["terrestrial"])
_PATHS = TypeAdapter(Paths)
_DETAIL = TypeAdapter(ArrayDetail)
_EXPECTED = TypeAdapter(list[ExpectedOutlet])


def _array(desk: Desk, job_id: str, row_id: str) -> tuple[Job, Antenna]:
    job = desk.jobs.get(job_id).job
    found = next((a for a in job.antennas if a.id == row_id and a.kind == "array"), None)
    if found is None:
        raise InputError("Antenna", f"{row_id} is no terrestrial antenna of this job.",
                         "Choose one at Aim.", "row-missing")  # fmt: skip
    return job, found


@router.get("/paths", response_model=Paths, responses=READ)
def all_paths(desk: AtDesk, job_id: JobId) -> Response:
    """The way to every transmitter: profile, losses, what arrives."""
    job = desk.jobs.get(job_id).job
    return job_response(_PATHS.dump_json(paths(job, desk.profile(job))))


@router.get("/coverings", response_model=list[Covering], responses=READ)
def coverings(desk: AtDesk, job_id: JobId) -> list[Covering]:
    """What an antenna may stand behind, with the practice values."""
    desk.jobs.get(job_id)
    return list(COVERINGS.values())


@router.get("/surroundings", response_model=list[str], responses=READ)
def surroundings(desk: AtDesk, job_id: JobId) -> list[str]:
    """What may stand round a house."""
    desk.jobs.get(job_id)
    return list(SURROUNDINGS)


@router.get("/antennas/{row_id}/array", response_model=ArrayDetail, responses=READ)
def detail(
    desk: AtDesk,
    job_id: JobId,
    row_id: RowId,
    behind: Annotated[Literal["run", "preamplifier"], Query()] = "run",
) -> Response:
    """Heading, antennas to choose from, front end and spots of one antenna."""
    job, antenna = _array(desk, job_id, row_id)
    _, solved = desk.answers(desk.jobs.get(job_id))
    found = array_detail(
        job,
        desk.catalogue,
        profile=desk.profile(job),
        solved=solved,
        antenna=antenna,
        behind_preamplifier=behind == "preamplifier",
    )
    if found is None:
        raise InputError("Transmitter", "no transmitter with a multiplex is placed yet.",
                         "Add one at Sky, Transmitters.", "no-target")  # fmt: skip
    return job_response(_DETAIL.dump_json(found))


@router.post("/antennas/{row_id}/model", **VIEW)
def take_model(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewModel) -> Response:
    """Put an antenna of the catalogue in this one's place."""
    return job_response(
        desk.change(job_id, seen, "choose the antenna",
                    lambda job: edits.take_antenna(job, desk.catalogue, row_id, body.key))
    )  # fmt: skip


@router.post("/antennas/{row_id}/front", **VIEW)
def take_front(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewFront) -> Response:
    """Hang a front end under the antenna, or take it away."""
    _array(desk, job_id, row_id)
    return job_response(
        desk.change(job_id, seen, "change the front end",
                    lambda job: with_front(job, desk.catalogue, row_id, body.key))
    )  # fmt: skip


@router.post("/antennas/{row_id}/second", **MADE)
def add_second(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewSecond) -> Response:
    """A second antenna of the same kind, combined with this one."""
    _array(desk, job_id, row_id)
    first = plain("Heading of the first", body.first_deg, "deg_true")
    second = plain("Heading of the second", body.second_deg, "deg_true")
    return job_response(
        desk.change(job_id, seen, "add a second antenna",
                    lambda job: edits.second_antenna(job, desk.catalogue, antenna_id=row_id, first_deg=first, second_deg=second)),
        201,
    )  # fmt: skip


@router.post("/antennas/{row_id}/holds", **MADE)
def add_hold(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewHold) -> Response:
    """Log a spot where the antenna is held."""
    _array(desk, job_id, row_id)
    heading = typed(Hold, "heading_deg", body.heading_deg) if body.heading_deg.strip() else None
    height = (
        typed(Hold, "above_ground_m", body.above_ground_m) if body.above_ground_m.strip() else None
    )
    return add_row(
        desk, job_id, seen=seen, label="add spot", field="holds",
        make=lambda _, new: Hold(
            id=new, antenna=row_id, place=body.place, above_ground_m=height,
            heading_deg=heading, tilt_deg=typed(Hold, "tilt_deg", body.tilt_deg or "0"), note=body.note,
        ),
    )  # fmt: skip


row_routes(router, "holds", HoldPatch)


@router.put("/holds/{row_id}/heard/{carrier}", **VIEW)
def set_heard(
    desk: AtDesk, job_id: JobId, row_id: RowId, carrier: RowId, seen: Seen, body: HeardBody
) -> Response:
    """Write what the meter said of a carrier at a spot. A field that is left out stays."""
    values = body.model_dump(exclude_unset=True)

    def edit(job: Job) -> Job:
        old = next((h for h in job.heard if (h.hold, h.carrier) == (row_id, carrier)), None)
        level = values.get("level_dbuv", old.level_dbuv if old else None)
        ratio = values.get("cn_db", old.cn_db if old else None)
        return edits.set_heard(job, row_id, carrier=carrier, level_dbuv=level, cn_db=ratio)

    return job_response(desk.change(job_id, seen, "write a reading", edit))


@router.post("/holds/{row_id}/take", **VIEW)
def take_hold(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
    """Build the antenna at this spot: what was read there becomes the source."""
    return job_response(
        desk.change(job_id, seen, "take the spot", lambda job: edits.take_hold(job, row_id))
    )


@router.get("/expected", response_model=list[ExpectedOutlet], responses=READ)
def expected(desk: AtDesk, job_id: JobId) -> Response:
    """What a scan should find at each outlet, against the last one."""
    kept = desk.jobs.get(job_id)
    answers, solved = desk.answers(kept)
    found = expected_lists(kept.job, desk.profile(kept.job), answers.coax.outlets, solved)
    return job_response(_EXPECTED.dump_json(found))


@router.post("/outlets/{row_id}/scans", **MADE)
def add_scan(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: NewScan) -> Response:
    """Log a scan: the names that it found."""

    def make(job: Job, new: str) -> Scan:
        if all(o.id != row_id for o in job.outlets):
            raise edits.missing("outlets", row_id)
        found = parse_found(body.found)
        if len(found) > 600:
            raise InputError("Found", f"{len(found)} names are more than a scan brings.",
                             "Write down up to 600.", "too-many")  # fmt: skip
        now = dt.datetime.now().isoformat(" ", "minutes")
        return Scan(id=new, outlet=row_id, at=now, tuner=body.tuner, found=found, note=body.note)

    return add_row(desk, job_id, seen=seen, label="log a scan", field="scans", make=make)


row_routes(router, "scans", ScanPatch)


@router.patch("/company", **VIEW)
def change_company(desk: AtDesk, job_id: JobId, seen: Seen, body: CompanyPatch) -> Response:
    """Change what is known of the cable company's line."""
    return change_single(
        desk, job_id, seen=seen, field="company", values=body.model_dump(exclude_unset=True)
    )
