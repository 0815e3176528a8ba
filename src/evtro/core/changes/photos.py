"""A photograph as evidence of a step."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from ..job import Job, Photo
from ..job.edits import add_row
from ..units.quantities import InputError, Step
from .actions import when


def with_photo(
    job: Job, photo: Photo, steps: Mapping[str, Step], *, now: dt.datetime, waited_s: float = 0.0
) -> Job:
    """The job with a photograph of one of its steps; the same picture of a step is kept once. Raises
    InputError for a step that is none of the job's."""
    if photo.step not in steps:
        raise InputError(
            "Step", f"{photo.step} is not a step of this job.", "Reload the job.", "row-missing"
        )
    if any(p.step == photo.step and p.sha256 == photo.sha256 for p in job.photos):
        return job
    at = when(now.isoformat(" ", "minutes"), waited_s)
    return add_row(job, "photos", photo.model_copy(update={"at": at}))
