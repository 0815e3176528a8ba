"""Photographs of steps: taken in, shown, and in the job's file on request."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro.core.changes.photos import with_photo
from evtro.core.job import Job, Photo
from evtro.core.job.registry import new_row_id
from evtro.core.units.quantities import InputError
from evtro.formats.photos import read_photo

from ..common import READ, VIEW, AtDesk, JobId, RawBody, RowId, Seen, body_of, job_response
from ..errors import Refused

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["photos"])


@router.post("/photos", openapi_extra=body_of("image/jpeg"), **VIEW)
def take_photo(
    desk: AtDesk,
    job_id: JobId,
    seen: Seen,
    body: RawBody,
    step: Annotated[str, Query(pattern=r"^[a-z0-9.-]{1,60}$")],
    by: Annotated[str, Query(max_length=80)] = "",
    waited_s: Annotated[float, Query(ge=0, le=1e9)] = 0.0,
    latitude_deg: Annotated[float | None, Query(ge=-90, le=90)] = None,
    longitude_deg: Annotated[float | None, Query(ge=-180, le=180)] = None,
) -> Response:
    """Keep a photograph of a step: JPEG, PNG or WebP. It is written anew, small and without its place; where it was
    taken is kept beside it only if whoever took it sends it. `waited_s` is how long ago, by the device's own clock."""
    if (latitude_deg is None) != (longitude_deg is None):
        raise InputError(
            "Place", "it has one coordinate of two.", "Send both, or none.", "place-half"
        )
    picture = read_photo(body)
    digest = desk.photos.put(picture.data)
    now = dt.datetime.now()

    def edit(job: Job) -> Job:
        photo = Photo(
            id=new_row_id(job, "photos"),
            step=step,
            sha256=digest,
            width_px=picture.width_px,
            height_px=picture.height_px,
            taken_by=by.strip(),
            latitude_deg=latitude_deg,
            longitude_deg=longitude_deg,
        )
        return with_photo(job, photo, desk.steps_of(job), now=now, waited_s=waited_s)

    return job_response(desk.change(job_id, seen, "add photo", edit))


@router.get(
    "/photos/{row_id}",
    response_class=Response,
    responses={**READ, 200: {"content": {"image/jpeg": {}}, "description": "The photograph"}},
)
def photo(desk: AtDesk, job_id: JobId, row_id: RowId) -> Response:
    """A photograph of a job."""
    row = next((p for p in desk.jobs.get(job_id).job.photos if p.id == row_id), None)
    data = None if row is None else desk.photos.get(row.sha256)
    if data is None:
        raise Refused(
            status=404,
            code="photo-missing",
            title="No such photo",
            detail="its file is not here.",
            remedy="It came with a job file that holds no photos: ask for one with them.",
        )
    return Response(data, media_type="image/jpeg")
