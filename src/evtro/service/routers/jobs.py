"""Jobs: list, make, open, undo, take a fix, files in and out."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro import profiles
from evtro.core import edits
from evtro.core.job import Job
from evtro.core.quantities import InputError
from evtro.formats import jobfile, tables

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
    offered,
)
from ..schemas import HeadPatch, JobSummary, JobView, NewJob, Refusal, TakeFix

router = APIRouter(prefix="/api/jobs", tags=["jobs"])


@router.get(
    "",
    response_model=list[JobSummary],
    responses={**READ, 422: {"model": Refusal, "description": "Cannot be used"}},
)
def list_jobs(desk: AtDesk) -> list[JobSummary]:
    """All jobs, the newest change first, with the state of their stations."""
    return desk.summaries()


@router.post("", **MADE)
def new_job(desk: AtDesk, body: NewJob) -> Response:
    """Make an empty job."""
    profiles.load(body.profile)
    job = Job(name=body.name, place=body.place, profile=body.profile, date=desk.today())
    return job_response(desk.dump(desk.jobs.add(job)), 201)


@router.post("/import", openapi_extra=body_of("application/json"), **MADE)
def import_job(desk: AtDesk, body: RawBody) -> Response:
    """Take in a job file."""
    job = jobfile.read_job(body, desk.catalogue)
    profiles.load(job.profile)
    return job_response(desk.dump(desk.jobs.add(job)), 201)


@router.get("/{job_id}", response_model=JobView, responses=READ)
def open_job(desk: AtDesk, job_id: JobId) -> Response:
    """A job with everything that is computed from it."""
    return job_response(desk.dump(desk.jobs.get(job_id)))


@router.patch("/{job_id}", **VIEW)
def change_head(desk: AtDesk, job_id: JobId, seen: Seen, body: HeadPatch) -> Response:
    """Change name, place, practice profile or date."""
    values = body.model_dump(exclude_unset=True)
    if body.profile is not None:
        profiles.load(body.profile)

    def edit(job: Job) -> Job:
        return Job.model_validate({**job.model_dump(), **values})

    return job_response(desk.change(job_id, seen, "change the job", edit))


@router.delete("/{job_id}", status_code=204, response_class=Response, responses=WRITE)
def remove_job(desk: AtDesk, job_id: JobId) -> Response:
    """Delete a job with its history."""
    desk.jobs.remove(job_id)
    return Response(status_code=204)


@router.post("/{job_id}/undo", **VIEW)
def undo(desk: AtDesk, job_id: JobId, seen: Seen) -> Response:
    """Take back the newest change."""
    return job_response(desk.dump(desk.jobs.undo(job_id, seen)))


@router.post("/{job_id}/redo", **VIEW)
def redo(desk: AtDesk, job_id: JobId, seen: Seen) -> Response:
    """Carry out again what was taken back."""
    return job_response(desk.dump(desk.jobs.redo(job_id, seen)))


@router.post("/{job_id}/fix", **VIEW)
def take_fix(desk: AtDesk, job_id: JobId, seen: Seen, body: TakeFix) -> Response:
    """Do what a problem offered to do."""
    offered(desk, job_id, body.fix)

    def edit(job: Job) -> Job:
        return edits.take_fix(job, desk.catalogue, desk.profile(job), body.fix)

    return job_response(desk.change(job_id, seen, "take the fix", edit))


@router.get("/{job_id}/export", response_class=Response, responses={
    **READ, 200: {"content": {"application/json": {}}, "description": "The job file"}})  # fmt: skip
def export_job(desk: AtDesk, job_id: JobId) -> Response:
    """The job as an open file."""
    job = desk.jobs.get(job_id).job
    return _download(jobfile.write_job(job), "application/json", f"{_slug(job.name)}.evtro.json")


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
    try:
        text = body.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InputError("CSV file", "it is not UTF-8 text.", "Save it as CSV in UTF-8.",
                         "csv-broken") from error  # fmt: skip

    def edit(job: Job) -> Job:
        return tables.read_carriers(text, job, desk.profile(job))

    return job_response(desk.change(job_id, seen, f"import {kind}", edit))


def _slug(name: str) -> str:
    kept = "".join(c if c.isascii() and c.isalnum() else "-" for c in name.lower())
    return "-".join(p for p in kept.split("-") if p) or "job"


def _download(text: str, media: str, name: str) -> Response:
    return Response(
        text, media_type=media, headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )
