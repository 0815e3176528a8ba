"""A data folder of a test's own, and the application over it."""

from __future__ import annotations

import shutil
import sqlite3
import tempfile
from functools import cache
from pathlib import Path

from fastapi import FastAPI

from evtro.demo.world import demo_jobs
from evtro.service.access import AccessRules
from evtro.service.app import create_app
from evtro.service.identity import program_identity
from evtro.service.job_service import JobService
from evtro.store.connection import open_owned
from evtro.store.folder import FILE_NAME, Claim
from evtro.store.jobs import Jobs


def open_database(path: Path) -> sqlite3.Connection:
    """The database at a path, an empty one where there is none; one of another name is opened as a copy in a folder
    of its own."""
    folder = path.parent
    if path.name != FILE_NAME:
        folder = Path(tempfile.mkdtemp(prefix="evtro-test-"))
        if path.exists():
            shutil.copyfile(path, folder / FILE_NAME)
    if not (folder / FILE_NAME).exists():
        shutil.copyfile(_empty(), folder / FILE_NAME)
    with Claim(folder) as claim:
        return open_owned(claim).connection


@cache
def _empty() -> Path:
    """A database without a job, made once: a test that begins with none begins with a copy."""
    folder = Path(tempfile.mkdtemp(prefix="evtro-test-"))
    with Claim(folder) as claim:
        open_owned(claim).connection.close()
    return folder / FILE_NAME


@cache
def _demo() -> Path:
    """A database with the jobs of the demo world, made once."""
    path = Path(tempfile.mkdtemp(prefix="evtro-test-")) / FILE_NAME
    jobs = Jobs(open_database(path))
    for job_id, job in demo_jobs().items():
        jobs.add(job, job_id)
    jobs.close()
    return path


def with_demo_jobs(folder: Path) -> None:
    """Begin a data folder with the jobs of the demo world."""
    shutil.copyfile(_demo(), folder / FILE_NAME)


def make_app(folder: Path) -> FastAPI:
    """The application as the test client reaches it: by a host that is trusted nowhere else."""
    if not any(folder.iterdir()):
        shutil.copyfile(_empty(), folder / FILE_NAME)
    return create_app(folder, AccessRules(("testserver",)))


@cache
def _application() -> FastAPI:
    return make_app(Path(tempfile.mkdtemp(prefix="evtro-test-")))


def lend_app(folder: Path) -> FastAPI:
    """The one application of this process over a folder. It describes a hundred calls when it is made, which
    takes longer than most tests; all that it knows of jobs is its desk, and that is a new one each time."""
    app = _application()
    app.state.desk.jobs.close()
    with Claim(folder) as claim:
        opened = open_owned(claim)
    app.state.desk = JobService(Jobs(opened.connection, program_identity(), opened.damage), folder)
    return app
