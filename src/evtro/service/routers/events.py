"""What happens to a job while somebody looks at it: one stream of named events."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse

from evtro.store.jobs import JobMissing

from ..common import READ, AtDesk, JobId
from ..desk import Desk

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["events"])

# Another device sees a change within a second. The file is asked, and not the writer, so that what
# another program wrote is told as well.
ASKED_S = 0.25
ALIVE_S = 15.0


@router.get("/events", response_class=StreamingResponse, responses=READ)
async def events(
    desk: AtDesk, request: Request, job_id: JobId,
    seen: Annotated[int, Query(ge=0, le=10**15, description="The revision that is shown.")] = 0,
) -> StreamingResponse:  # fmt: skip
    """`revision` whenever the job is at another revision than was told last, `gone` when it is
    removed."""
    await run_in_threadpool(desk.jobs.revision, job_id)
    return StreamingResponse(
        _told(desk, request, job_id, seen), media_type="text/event-stream",
        headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"},
    )  # fmt: skip


async def _told(desk: Desk, request: Request, job_id: str, seen: int) -> AsyncIterator[str]:
    yield "retry: 1000\n\n"
    quiet = 0.0
    while not await request.is_disconnected():
        try:
            now = await run_in_threadpool(desk.jobs.revision, job_id)
        except JobMissing:
            yield "event: gone\ndata: {}\n\n"
            return
        if now != seen:
            seen, quiet = now, 0.0
            yield f'event: revision\ndata: {{"revision": {now}}}\n\n'
        elif quiet >= ALIVE_S:
            quiet = 0.0
            yield ": here\n\n"
        await asyncio.sleep(ASKED_S)
        quiet += ASKED_S
