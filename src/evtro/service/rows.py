"""Changing and removing a row, the same for every list that a job holds.

No postponed annotations here: the body's model is known only when the routes are made.
"""

from typing import Any

from fastapi import APIRouter
from fastapi.responses import Response

from evtro.core.job.edits import KINDS

from .common import VIEW, AtDesk, JobId, RowId, Seen, change_row, remove_row


def row_routes(router: APIRouter, field: str, patch: type[Any]) -> None:
    """Hang PATCH and DELETE for the rows of a list into a router."""
    noun = KINDS.kind(field).noun

    @router.patch(f"/{field}/{{row_id}}", name=f"change {noun}", **VIEW)
    def change(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen, body: patch) -> Response:  # type: ignore[valid-type]
        return change_row(desk, job_id, seen=seen, field=field, row_id=row_id, body=body)

    @router.delete(f"/{field}/{{row_id}}", name=f"remove {noun}", **VIEW)
    def remove(desk: AtDesk, job_id: JobId, row_id: RowId, seen: Seen) -> Response:
        return remove_row(desk, job_id, seen=seen, field=field, row_id=row_id)
