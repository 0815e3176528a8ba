"""What all tests share: the catalogue, a profile, the demo's houses."""

from __future__ import annotations

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
