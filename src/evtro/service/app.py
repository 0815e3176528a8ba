"""The application: routers, errors, the door, and the built interface."""

from __future__ import annotations

import gc
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

import anyio
import anyio.to_thread
from fastapi import Depends, FastAPI
from fastapi.responses import FileResponse, Response

from evtro import __version__
from evtro.store.connection import Opened, open_owned
from evtro.store.folder import Claim, data_dir
from evtro.store.jobs import Jobs

from . import errors, typing
from .access import AccessCheck, AccessRules
from .identity import program_identity
from .job_service import JobService
from .passphrase import Passphrase
from .routers import (
    aim,
    changes,
    coax,
    days,
    design,
    events,
    finding,
    handover,
    jobs,
    library,
    link,
    open_data,
    photos,
    portable,
    session,
    settings,
    site,
    survey,
    terrestrial,
    two_way,
    watch,
    workshop,
)
from .schemas import Refusal

THREADS = 120
WEB = Path(__file__).parent.parent / "web"


def create_app(
    folder: Path | None = None,
    doors: AccessRules | None = None,
    *,
    opened: Opened | None = None,
    passphrase: Passphrase | None = None,
) -> FastAPI:
    """The application over the database in a folder, the user's data directory by default.

    Whoever makes it closes `app.state.desk.jobs` at the end, and holds the folder's claim: `opened`
    is its database then. With a passphrase every call needs a session.
    """
    folder = folder or data_dir()
    if opened is None:
        with Claim(folder) as claim:
            opened = open_owned(claim)

    app = FastAPI(
        title="Evtro",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        lifespan=_many_hands,
        generate_unique_id_function=lambda route: route.name.replace(" ", "_"),
    )
    kept = Jobs(opened.connection, program_identity(), opened.damage)
    app.state.desk = JobService(kept, folder)
    app.state.desk.notices = notices_of(opened)
    app.state.passphrase = passphrase
    errors.install(app)
    app.add_middleware(AccessCheck, doors=doors, keeper=passphrase)
    for room in (
        portable,
        jobs,
        changes,
        events,
        site,
        survey,
        link,
        library,
        terrestrial,
        open_data,
        photos,
        aim,
        finding,
        two_way,
        coax,
        days,
        design,
        handover,
        settings,
        session,
        watch,
        workshop,
    ):
        app.include_router(room.router, dependencies=[Depends(typing.lay_down)])
    _serve_interface(app)
    return app


@asynccontextmanager
async def _many_hands(_: FastAPI) -> AsyncIterator[None]:
    """Those who wait for their turn at one job must not keep everybody else from theirs."""
    anyio.to_thread.current_default_thread_limiter().total_tokens = THREADS
    yield


def notices_of(opened: Opened) -> list[str]:
    """What is told on the screen about the start."""
    if opened.damage:
        return [
            "The data file is damaged, so nothing is written to it. Stop Evtro, then save what can "
            "be read (evtro recover FILE) or put a backup in place (evtro restore FILE)."
        ]
    if opened.checked:
        return ["Evtro was not closed last time. The data file was looked through and is whole."]
    return []


def settle() -> None:
    """Once everything is loaded: a pass of the collector over the catalogue and the libraries in
    the middle of a change would cost more than the change."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(200_000, 20, 50)


def _serve_interface(app: FastAPI) -> None:
    """Built files as they are; every other address is a place inside the interface."""

    @app.get("/{path:path}", include_in_schema=False)
    def interface(path: str) -> Response:
        if path.startswith("api/"):
            return errors.problem_response(
                Refusal(title="No such address", status=404, code="address")
            )
        file = _file_at(path)
        if file is not None:
            keep = "assets" in file.parts
            headers = {"Cache-Control": "public, max-age=31536000, immutable"} if keep else {}
            return FileResponse(file, headers=headers)
        index = WEB / "index.html"
        if not index.is_file():
            return Response("The interface is not built. Run: make setup", 503)
        return FileResponse(index, headers={"Cache-Control": "no-cache"})


def _file_at(path: str) -> Path | None:
    """The built file at an address, if there is one."""
    try:
        file = (WEB / path).resolve()
        return file if path and file.is_file() and WEB.resolve() in file.parents else None
    except (OSError, ValueError):  # a name that no file can have
        return None
