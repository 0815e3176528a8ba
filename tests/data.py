"""A data folder of a test's own, and the application over it."""

from __future__ import annotations

import shutil
import sqlite3
import tempfile
from functools import cache
from pathlib import Path

from fastapi import FastAPI

from evtro.service.app import create_app
from evtro.service.security import Doors
from evtro.store.connection import open_owned
from evtro.store.folder import FILE_NAME, Claim


def open_database(path: Path) -> sqlite3.Connection:
    """The database at a path; one of another name is opened as a copy in a folder of its own."""
    folder = path.parent
    if path.name != FILE_NAME:
        folder = Path(tempfile.mkdtemp(prefix="evtro-test-"))
        if path.exists():
            shutil.copyfile(path, folder / FILE_NAME)
    with Claim(folder) as claim:
        return open_owned(claim).connection


@cache
def _empty() -> Path:
    """A database without a job, made once: a test that begins with none begins with a copy."""
    path = Path(tempfile.mkdtemp(prefix="evtro-test-")) / FILE_NAME
    open_database(path).close()
    return path


def make_app(folder: Path) -> FastAPI:
    """The application as the test client reaches it: by a host that is trusted nowhere else."""
    if not any(folder.iterdir()):
        shutil.copyfile(_empty(), folder / FILE_NAME)
    return create_app(folder, Doors(("testserver",)))
