"""What happens to a job while somebody looks at it: one stream of named events."""

from __future__ import annotations

import asyncio
import contextlib
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse

from evtro.store.jobs import JobMissing

from ..broadcast import CALLED
from ..common import READ, AtDesk, JobId
from ..job_service import JobService
from .watch import watched

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["events"])

# Another device sees a change within a second. The file is asked, and not the writer, so that what
# another program wrote is told as well.
ASKED_S = 0.25
ALIVE_S = 15.0


@router.get("/events", response_class=StreamingResponse, responses=READ)
async def events(
    desk: AtDesk,
    request: Request,
    job_id: JobId,
    seen: Annotated[int, Query(ge=0, le=10**15, description="The revision that is shown.")] = 0,
) -> StreamingResponse:
    """`revision` whenever the job is at another revision than was told last, `watch` when who is alone there or
    what devices keep back is another, `reading` when one is called out, `gone` when the job is removed."""
    await run_in_threadpool(desk.jobs.revision, job_id)
    return StreamingResponse(
        _told(desk, request, job_id, seen),
        media_type="text/event-stream",
        headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"},
    )


async def _told(desk: JobService, request: Request, job_id: str, seen: int) -> AsyncIterator[str]:
    yield "retry: 1000\n\n"
    room, ear = desk.live.room(job_id), asyncio.Event()
    mine = (asyncio.get_running_loop(), ear)
    room.ears.add(mine)
    try:
        # Whoever comes in is told who is alone, not what was read before.
        turns = {**room.turns, "watch": -1}
        quiet = 0.0
        while not await request.is_disconnected():
            ear.clear()
            then = dict(room.turns)
            other = then["watch"] != turns["watch"]
            try:
                now = await run_in_threadpool(desk.jobs.revision, job_id)
                site = await run_in_threadpool(watched, desk, job_id) if other else b""
            except JobMissing:
                yield "event: gone\ndata: {}\n\n"
                return
            said = [f'event: revision\ndata: {{"revision": {now}}}\n\n'] if now != seen else []
            if other:
                said.append(f"event: watch\ndata: {site.decode()}\n\n")
            if then["reading"] != turns["reading"] and room.called is not None:
                said.append(f"event: reading\ndata: {CALLED.dump_json(room.called).decode()}\n\n")
            seen, turns = now, then
            if not said and quiet >= ALIVE_S:
                said = [": here\n\n"]
            quiet = 0.0 if said else quiet + ASKED_S
            for one in said:
                yield one
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(ear.wait(), ASKED_S)
    finally:
        room.ears.discard(mine)
