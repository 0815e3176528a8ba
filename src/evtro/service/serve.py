"""Serving: on this machine alone, or over HTTPS to the network with a passphrase. Everything that can
be refused is refused before anything is touched."""

from __future__ import annotations

import contextlib
import datetime as dt
import ipaddress
import logging
import signal
import socket
import sqlite3
import threading
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import uvicorn
from fastapi import FastAPI
from uvicorn.config import STARTUP_FAILURE

from evtro.core.units.quantities import InputError
from evtro.store import backups
from evtro.store.connection import open_owned, told
from evtro.store.folder import Claim
from evtro.store.jobs import Jobs
from evtro.store.photos import named

from .access import AccessRules, as_host
from .app import create_app, settle
from .job_service import JobService

HOUR_S = 3600.0
STOP_S = 2  # how long an open stream of events may hold the end up
COPIED_S = 10  # how long a backup that has begun may hold it up
_log = logging.getLogger("evtro")


@dataclass(frozen=True)
class Wanted:
    """How the program is to be reached. `names` are further host names for the certificate."""

    host: str
    port: int
    names: tuple[str, ...] = ()
    passphrase_file: Path | None = None

    @property
    def open(self) -> bool:
        """Whether other machines can reach it."""
        if self.host == "localhost":
            return False
        try:
            return not ipaddress.ip_address(self.host).is_loopback
        except ValueError:
            return True


def serve(folder: Path, asked: Wanted, prepare: Callable[[Path, Jobs], None] | None = None) -> None:
    """Serve a data folder until it is stopped. `prepare` may fill the database first. Raises
    InputError for what is refused."""
    check_port(asked.host, asked.port)
    if asked.open:
        check_port(asked.host, _plain_port(asked))
    scheme = "https" if asked.open else "http"
    shown = asked.names[0] if asked.names else asked.host
    with Claim(folder, f"{scheme}://{as_host(shown)}:{asked.port}/") as claim:
        keeper = None
        if asked.open:
            from . import network  # its libraries take a while to load, and few starts need them

            keeper = network.passphrase_of(folder, asked.passphrase_file)
        opened = open_owned(claim)
        if prepare is not None and not opened.damage:
            with told(folder):
                prepare(folder, Jobs(opened.connection))
        own = network.identity_of(folder, asked.host, asked.names) if asked.open else None
        hosts = tuple(as_host(n) for n in own.names) if own else (as_host(asked.host),)
        doors = AccessRules(hosts, asked.port, secure=own is not None)
        app = create_app(folder, doors, opened=opened, passphrase=keeper)
        settle()
        desk: JobService = app.state.desk
        print(f"Evtro keeps its data in {folder}", flush=True)
        signal.signal(signal.SIGTERM, _end)
        stop = threading.Event()
        house = threading.Thread(target=_keep_house, args=(desk, folder, stop), daemon=True)
        house.start()
        try:
            if own is None:
                address = f"http://{as_host(asked.host)}:{asked.port}/"
                _run(app, asked, lambda: print(f"Open {address} (stop with Ctrl+C)", flush=True))
            else:
                port = _plain_port(asked)
                _run(
                    app,
                    asked,
                    lambda: network.hand_out(own, asked.host, asked.port, port),
                    ssl_certfile=own.certificate,
                    ssl_keyfile=own.key,
                )
        finally:
            stop.set()
            # While a backup reads it, SQLite cannot fold its log into the file. Who stops it twice does not wait.
            with contextlib.suppress(KeyboardInterrupt, SystemExit):
                house.join(COPIED_S)
            desk.jobs.close()


class _Announced(uvicorn.Server):
    """A server that says how it is reached once it can be: no line is printed before the port is bound."""

    def __init__(self, config: uvicorn.Config, ready: Callable[[], None]) -> None:
        super().__init__(config)
        self._ready = ready

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        """Bind the port, then announce it."""
        await super().startup(sockets)
        if self.started:
            self._ready()


def _run(app: FastAPI, asked: Wanted, ready: Callable[[], None], **more: Any) -> None:
    config = uvicorn.Config(
        app,
        host=asked.host,
        port=asked.port,
        log_level="warning",
        server_header=False,
        timeout_graceful_shutdown=STOP_S,
        **more,
    )
    server = _Announced(config, ready)
    with contextlib.suppress(KeyboardInterrupt):
        server.run()
    if not server.started:
        raise SystemExit(STARTUP_FAILURE)


def _end(*_: object) -> None:
    # The server stops first and then raises the signal again: what is open is closed on the way out.
    raise SystemExit(0)


def check_port(host: str, port: int) -> None:
    """Raise InputError for an address that cannot be served, before anything is built."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    try:
        socket.create_server((host, port), family=family).close()
    except OverflowError:
        raise InputError("--port", f"{port} is no port.", "Give one from 1024 to 65535.") from None
    except OSError as error:
        raise InputError(
            "--port",
            f"{host}:{port} cannot be served ({error.strerror or error}).",
            f"Stop what runs there, or give another: --port {port + 1 if port < 65535 else 8750}.",
        ) from None


def _plain_port(asked: Wanted) -> int:
    return asked.port + 1 if asked.port < 65535 else asked.port - 1


def _keep_house(desk: JobService, folder: Path, stop: threading.Event) -> None:
    """At the start and every hour: the day's backup, and what was removed thirty days ago goes."""
    while not stop.is_set():
        keep_house(desk, folder, dt.datetime.now(dt.UTC))
        stop.wait(HOUR_S)


def keep_house(desk: JobService, folder: Path, now: dt.datetime) -> None:
    """One round of housekeeping; what fails is told on the screen and tried again."""
    failed = "The backup of today could not be written: look at the room on the disk."
    try:
        if not desk.jobs.damage:
            desk.jobs.forget_old(now)
            with desk.jobs.reading() as db:
                used = named(db)
            desk.photos.tidy(used)
            backups.daily(folder, now.date())
        if failed in desk.notices:
            desk.notices.remove(failed)
    except (sqlite3.Error, OSError) as error:
        _log.warning("housekeeping: %s", error)
        if failed not in desk.notices:
            desk.notices.append(failed)
