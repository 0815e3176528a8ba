"""The application: routers, errors, the door, and the built interface."""

from __future__ import annotations

import gc
from pathlib import Path

from fastapi import Depends, FastAPI
from fastapi.responses import FileResponse, Response

from evtro import __version__
from evtro.store.connection import FILE_NAME, data_dir, open_database
from evtro.store.jobs import Jobs

from . import errors, typing
from .desk import Desk
from .routers import (
    aim,
    coax,
    earth,
    finding,
    handover,
    jobs,
    library,
    link,
    mast,
    open_data,
    portable,
    readings,
    settings,
    site,
    sky,
    survey,
    terrestrial,
    two_way,
)
from .schemas import Refusal
from .security import Door

WEB = Path(__file__).parent.parent / "web"


def create_app(folder: Path | None = None, hosts: tuple[str, ...] = ()) -> FastAPI:
    """The application over the database in a folder, the user's data directory by default.

    Whoever makes it closes `app.state.desk.jobs` at the end.
    """
    folder = folder or data_dir()
    connection = open_database(folder / FILE_NAME)

    app = FastAPI(title="Evtro", version=__version__, docs_url=None,
                  redoc_url=None, openapi_url="/api/openapi.json")  # fmt: skip
    app.state.desk = Desk(Jobs(connection), folder)
    errors.install(app)
    app.add_middleware(Door, hosts=hosts)
    for room in (
        portable,
        jobs,
        site,
        sky,
        survey,
        link,
        library,
        terrestrial,
        open_data,
        aim,
        finding,
        two_way,
        mast,
        earth,
        coax,
        readings,
        handover,
        settings,
    ):
        app.include_router(room.router, dependencies=[Depends(typing.lay_down)])
    _serve_interface(app)
    return app


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
        file = (WEB / path).resolve()
        if path and file.is_file() and WEB.resolve() in file.parents:
            keep = "assets" in file.parts
            headers = {"Cache-Control": "public, max-age=31536000, immutable"} if keep else {}
            return FileResponse(file, headers=headers)
        index = WEB / "index.html"
        if not index.is_file():
            return Response("The interface is not built. Run: make setup", 503)
        return FileResponse(index, headers={"Cache-Control": "no-cache"})
