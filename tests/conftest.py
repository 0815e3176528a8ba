"""What all tests share: the catalogue, a profile, the demo's houses."""

from __future__ import annotations

import gc
import os

import pytest
from hypothesis import settings

from evtro import catalogue, profiles
from evtro.core.job import Job
from evtro.core.job.parts import Catalogue
from evtro.core.job.profile import Profile
from evtro.demo.world import fern_cottage, skerry_house

from .share import lines

# The same cases every time: a red run must be red on the next machine too.
settings.register_profile("same", derandomize=True, deadline=None, database=None)
settings.load_profile("same")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Each worker begins with its share of what takes longest, the browser; the short ones fill the end."""
    workers = int(os.environ.get("PYTEST_XDIST_WORKER_COUNT", "1"))
    long = [i for i in items if i.nodeid.startswith("tests/browser/")]
    short = [i for i in items if not i.nodeid.startswith("tests/browser/")]

    def share(of: list[pytest.Item], n: int) -> list[pytest.Item]:
        return of[len(of) * n // workers : len(of) * (n + 1) // workers]

    items[:] = [i for n in range(workers) for i in (*share(long, n), *share(short, n))]


def pytest_collection_finish() -> None:
    """Modules and tests stay loaded to the end: the garbage collector need not look at them."""
    gc.collect()
    gc.freeze()


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter) -> None:
    """Every run says how much of the code are its tests."""
    tests, code = lines()
    share = 100 * tests / (tests + code)
    terminalreporter.write_line(f"tests: {tests} lines of {tests + code}, {share:.1f} %")


@pytest.fixture(scope="session")
def parts() -> Catalogue:
    return catalogue.load()


@pytest.fixture(scope="session")
def europe() -> Profile:
    return profiles.load("europe")


@pytest.fixture
def skerry() -> Job:
    return skerry_house()


@pytest.fixture
def fern() -> Job:
    return fern_cottage()
