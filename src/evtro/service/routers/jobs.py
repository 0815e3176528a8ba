"""Jobs: list, make, open, undo, take a fix, files in and out."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro import profiles
from evtro.core.job import Job
from evtro.core.units.quantities import InputError
from evtro.formats import jobfile, tables
from evtro.store.jobs import REMOVED_DAYS, Kept

from ..common import (
    MADE,
    READ,
    VIEW,
    WRITE,
    AtDesk,
    JobId,
    RawBody,
    Seen,
    body_of,
    job_response,
)
from ..errors import DoesNotOpen
from ..job_service import JobService, exported
from ..joblist import ListFilter
from ..schemas import JobList, JobView, NewJob, Refusal, RemovedJob
from ..typing import device

router = APIRouter(prefix="/api/jobs", tags=["jobs"])
_DAY = r"^(|\d{4}-\d{2}-\d{2})$"


@router.get(
    "",
    response_model=JobList,
    responses={**READ, 422: {"model": Refusal, "description": "Cannot be used"}},
)
def list_jobs(
    desk: AtDesk,
    find: Annotated[str, Query(max_length=120)] = "",
    state: Annotated[str, Query(pattern="^(|ok|marginal|fail|unknown|broken)$")] = "",
    since: Annotated[str, Query(pattern=_DAY)] = "",
    until: Annotated[str, Query(pattern=_DAY)] = "",
    first: Annotated[int, Query(ge=0, le=10_000_000)] = 0,
    most: Annotated[int, Query(ge=1, le=200)] = 60,
) -> JobList:
    """Jobs, the newest change first, with the state of their stations; those whose name or place
    holds the words, of a state, of a date from and to."""
    return desk.lines.part(ListFilter(find, state, since, until), first, most)


@router.get("/removed", response_model=list[RemovedJob], responses=READ)
def removed_jobs(desk: AtDesk) -> list[RemovedJob]:
    """Jobs that were removed in the last thirty days, the newest change first."""
    found = []
    for head in desk.jobs.heads(removed=True):
        at = dt.datetime.fromisoformat(head.removed_at or head.kept_at)
        until = (at + dt.timedelta(days=REMOVED_DAYS)).date().isoformat()
        found.append(
            RemovedJob(
                id=head.id,
                name=head.name,
                place=head.place,
                removed_at=head.removed_at or "",
                until=until,
            )
        )
    return found


@router.post("", **MADE)
def new_job(desk: AtDesk, body: NewJob) -> Response:
    """Make an empty job."""
    profiles.load(body.profile)
    job = Job(name=body.name, place=body.place, profile=body.profile, date=desk.today())
    return job_response(desk.dump(desk.add(job)), 201)


@router.post("/import", openapi_extra=body_of("application/json"), **MADE)
def import_job(desk: AtDesk, body: RawBody) -> Response:
    """Take in a job file."""
    job, photos = jobfile.read_whole(body, desk.shop)
    for data in photos:
        desk.photos.put(data)
    return job_response(desk.dump(desk.add(job)), 201)


@router.get("/{job_id}", response_model=JobView, responses=READ)
def open_job(desk: AtDesk, job_id: JobId) -> Response:
    """A job with everything that is computed from it."""
    return _shown(desk, job_id, lambda: desk.jobs.get(job_id))


def _shown(desk: JobService, job_id: str, get: Callable[[], Kept]) -> Response:
    try:
        return job_response(desk.dump(get()))
    except InputError as error:
        if error.code == "read-since":  # the job opens, but goes no further back
            raise
        # With its revision it can be undone, exported and removed all the same.
        raise DoesNotOpen(error, desk.jobs.revision(job_id)) from error


@router.delete("/{job_id}", status_code=204, response_class=Response, responses=WRITE)
def remove_job(desk: AtDesk, job_id: JobId, seen: Seen) -> Response:
    """Take a job off the list. For thirty days it can be taken back, with its history."""
    desk.jobs.remove(job_id, seen)
    return Response(status_code=204)


@router.post("/{job_id}/take-back", status_code=204, response_class=Response, responses=WRITE)
def take_back(desk: AtDesk, job_id: JobId) -> Response:
    """Put a removed job back on the list."""
    desk.jobs.take_back(job_id)
    return Response(status_code=204)


@router.post("/{job_id}/undo", **VIEW)
def undo(desk: AtDesk, job_id: JobId, seen: Seen) -> Response:
    """Take back the newest change."""
    return _shown(desk, job_id, lambda: desk.jobs.undo(job_id, seen, device()))


@router.post("/{job_id}/redo", **VIEW)
def redo(desk: AtDesk, job_id: JobId, seen: Seen) -> Response:
    """Carry out again what was taken back."""
    return _shown(desk, job_id, lambda: desk.jobs.redo(job_id, seen, device()))


@router.get(
    "/{job_id}/export",
    response_class=Response,
    responses={**READ, 200: {"content": {"application/json": {}}, "description": "The job file"}},
)
def export_job(desk: AtDesk, job_id: JobId, photos: bool = False) -> Response:
    """The job as an open file, with its photographs on request."""
    values = exported(desk.jobs, desk.shop, job_id)
    held = {}
    if photos:
        found = {p.sha256: desk.photos.get(p.sha256) for p in desk.jobs.get(job_id).job.photos}
        held = {k: data for k, data in found.items() if data is not None}
    name = f"{_slug(str(values['name']))}.evtro.json"
    return _download(jobfile.write_plain(values, held), "application/json", name)


_CSV = {**READ, 200: {"content": {"text/csv": {}}, "description": "CSV"}}


@router.get("/{job_id}/carriers.csv", response_class=Response, responses=_CSV)
def carriers_csv(desk: AtDesk, job_id: JobId) -> Response:
    """Carriers as CSV."""
    return _download(tables.write_carriers(desk.jobs.get(job_id).job), "text/csv", "carriers.csv")


@router.post("/{job_id}/csv", openapi_extra=body_of("text/csv"), **VIEW)
def import_csv(
    desk: AtDesk,
    job_id: JobId,
    seen: Seen,
    kind: Annotated[str, Query(pattern="^carriers$")],
    body: RawBody,
) -> Response:
    """Take in carriers from CSV; a broken line takes in nothing."""
    lines = tables.carrier_lines(body)

    def edit(job: Job) -> Job:
        return tables.take_carriers(lines, job, desk.profile(job))

    return job_response(desk.change(job_id, seen, f"import {kind}", edit))


def _slug(name: str) -> str:
    kept = "".join(c if c.isascii() and c.isalnum() else "-" for c in name.lower())
    return "-".join(p for p in kept.split("-") if p) or "job"


def _download(text: str, media: str, name: str) -> Response:
    return Response(
        text, media_type=media, headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )
