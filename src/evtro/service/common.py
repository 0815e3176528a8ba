"""What all routers share: the desk, the revision a write saw, the answer to a write."""

from __future__ import annotations

import re
from typing import Annotated, Any

from fastapi import Depends, Header, Path, Request
from fastapi.responses import Response

from evtro.core.job import Dish, Job
from evtro.core.units.quantities import InputError

from .errors import Refused
from .job_service import JobService

_ETAG = re.compile(r'^(?:W/)?"?(\d{1,15})"?$')


def _desk(request: Request) -> JobService:
    desk: JobService = request.app.state.desk
    return desk


def _seen(
    if_match: Annotated[
        str | None, Header(description="The revision that the write saw.", max_length=40)
    ] = None,
) -> int:
    if if_match is None:
        raise Refused(
            status=428,
            code="revision-missing",
            title="Which revision?",
            detail="the write does not say which revision of the job it saw.",
            remedy="Send the header If-Match with the revision.",
        )
    found = _ETAG.match(if_match.strip())
    if not found:
        raise Refused(
            status=400,
            code="revision-wrong",
            title="Which revision?",
            detail="If-Match is not a revision.",
            remedy="Send a whole number.",
        )
    return int(found.group(1))


async def _raw(request: Request) -> bytes:
    return await request.body()


def body_of(media: str) -> dict[str, Any]:
    """How a body that is read as it comes stands in the description."""
    return {"requestBody": {"required": True, "content": {media: {"schema": {"type": "string"}}}}}


RawBody = Annotated[bytes, Depends(_raw)]
AtDesk = Annotated[JobService, Depends(_desk)]
Seen = Annotated[int, Depends(_seen)]
JobId = Annotated[str, Path(pattern=r"^[a-z0-9-]{1,40}$")]
RowId = Annotated[str, Path(pattern=r"^[a-z]+[0-9]+$", max_length=12)]


# Written as references: a model named at every route would be built anew for each of them, which
# costs a second at start. `jobs.open_job` and `jobs.list_jobs` bring the two models in.
def _described(words: str, media: str, name: str) -> dict[str, Any]:
    schema = {"$ref": f"#/components/schemas/{name}"}
    return {"description": words, "content": {media: {"schema": schema}}}


def _refused(**words: str) -> dict[int | str, dict[str, Any]]:
    return {
        int(status[1:]): _described(said, "application/problem+json", "Refusal")
        for status, said in words.items()
    }


READ = _refused(_400="Refused", _404="Not there", _422="Cannot be used")
WRITE = READ | _refused(
    _403="From another site",
    _409="Changed elsewhere",
    _413="Too large",
    _428="No revision named",
)
_VIEW = _described(
    "The job with everything that is computed from it", "application/json", "JobView"
)
VIEW: dict[str, Any] = {"response_model": None, "responses": {**WRITE, 200: _VIEW}}
MADE: dict[str, Any] = {
    "response_model": None,
    "status_code": 201,
    "responses": {**WRITE, 201: _VIEW},
}


def download(text: str | bytes, media: str, name: str) -> Response:
    """A file to keep."""
    return Response(
        text, media_type=media, headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )


def file_of(media: str) -> dict[int | str, dict[str, Any]]:
    """How such a file stands in the description."""
    return {**READ, 200: {"content": {media: {}}, "description": "The file"}}


def job_response(body: bytes, status: int = 200) -> Response:
    """A job's view that is JSON already."""
    return Response(body, status, media_type="application/json")


def dish_at(desk: JobService, job_id: str, antenna: str) -> tuple[Job, Dish]:
    """A job and one of its dishes. Raises InputError when there is none of that id."""
    job = desk.jobs.get(job_id).job
    found = next((d for d in job.dishes if d.id == antenna), None)
    if found is None:
        raise InputError(
            "Antenna", f"{antenna} is no dish of this job.", "Choose one at Aim.", "row-missing"
        )
    return job, found
