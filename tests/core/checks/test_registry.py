"""Checks keep to what they declare: the codes that they tell, and the facts that they read."""

from __future__ import annotations

from collections.abc import Callable
from types import ModuleType, SimpleNamespace
from typing import Any

import pytest

from evtro import profiles
from evtro.core.answers import work_out
from evtro.core.checks import registry
from evtro.core.checks.composer import compose
from evtro.core.checks.registry import Check, Finding, check, checks_of
from evtro.core.job import Job, Reading
from evtro.core.job.problems import Problem
from evtro.core.job.profile import Profile
from evtro.core.job.targets import sights
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.verdict import CHECKS as COAX
from evtro.core.stations.handover.answer import CHECKS as HANDOVER
from evtro.core.stations.handover.figures import HandoverFigures
from evtro.core.stations.mast.answer import CHECKS as MAST
from evtro.core.stations.mast.figures import MastFigures, figures_of
from evtro.core.stations.readings.answer import CHECKS as READINGS
from evtro.core.stations.readings.figures import ReadFigures
from evtro.core.stations.site.answer import CHECKS as SITE
from evtro.core.stations.site.figures import SiteFigures
from evtro.core.units.severity import State
from tests.changes import CATALOGUE, JOBS


class Recorder:
    """Facts of a job that note which of them are read."""

    def __init__(self, facts: Any) -> None:
        self._facts, self.read = facts, set[str]()

    def __getattr__(self, name: str) -> Any:
        self.read.add(name)
        return getattr(self._facts, name)


def _broken(job: Job) -> list[Job]:
    """A job, and the same with a fault in each of several places."""
    made = [job]
    if job.links:
        first = job.links[0].model_copy(
            update={"length_m": 180.0, "behind": "service", "route": (("hole", 0.3),)}
        )
        made.append(job.model_copy(update={"links": (first, *job.links[1:])}))
        made.append(job.model_copy(update={"links": job.links[1:]}))
    if job.parts:
        turned = tuple(p.model_copy(update={"setting_db": 40.0}) for p in job.parts)
        made.append(job.model_copy(update={"parts": turned}))
        made.append(job.model_copy(update={"parts": job.parts[1:], "links": ()}))
    return made


def _networks() -> list[NetworkContext]:
    return [
        NetworkContext(made, CATALOGUE, profiles.load(made.profile)).wanted
        for n, job in enumerate(JOBS.values())
        for made in (_broken(job) if n % 3 == 0 else [job])
    ]


def _masts() -> list[MastFigures]:
    """Masts of every kind, weak and strong ones, with guys and out of plumb."""
    made = []
    for job in JOBS.values():
        leaning = tuple(d.model_copy(update={"lean_deg": 4.0}) for d in job.dishes)
        job = job.model_copy(update={"dishes": leaning})
        for fixing in ("wall", "pole", "ballast", "jpole"):
            for more in (
                {},
                {"guys": 3, "guy_m": 1.5, "guy_out_m": 1.0, "guy_anchor_n": 5.0},
                {"guys": 3, "guy_m": 40.0, "base": "render", "behind": "service"},
                {
                    "wind_region": "",
                    "wind_ms": None,
                    "length_m": 12.0,
                    "held_m": 0.2,
                    "wall_mm": 1.0,
                    "bolt_pull_n": 100.0,
                },
            ):
                mast = job.mast.model_copy(update={"fixing": fixing, **more})
                tried = job.model_copy(update={"mast": mast})
                made.append(figures_of(tried, profiles.load(job.profile)))
    return made


def _sites() -> list[SiteFigures]:
    """Sites that are placed well, coarsely and not at all, with and without outlets."""
    made = []
    for job in JOBS.values():
        for values in ({}, {"position_good_m": 9000.0}, {"latitude_deg": None}):
            site = job.site.model_copy(update=values)
            tried = job.model_copy(update={"site": site, "outlets": job.outlets[: len(values)]})
            made.append(SiteFigures(tried, sights(job)))
    return made


def _readings() -> list[ReadFigures]:
    """Every outlet read far from its plan, and poor."""
    made = []
    for job in list(JOBS.values())[:3]:
        read = tuple(
            Reading(id=f"r{n}", part=part.id, carrier=carrier.id, level_dbuv=20.0, cn_db=1.0)
            for n, part in enumerate(p for p in job.parts if p.outlet)
            for carrier in job.carriers[:1]
        )
        found = work_out(job.model_copy(update={"readings": read}), CATALOGUE, _profile(job))
        made.append(ReadFigures(found.readings.rows, found.coax.solved, found.profile))
    return made


def _handovers() -> list[HandoverFigures]:
    job = JOBS["skerry-house"]
    closed = job.handover.model_copy(update={"handed_over": True})
    closed_job = job.model_copy(update={"handover": closed})
    return [HandoverFigures(j, ready) for j in (job, closed_job) for ready in (False, True)]


def _profile(job: Job) -> Profile:
    return profiles.load(job.profile)


STATIONS = [
    (SITE, _sites, 3),
    (MAST, _masts, 18),
    (COAX, _networks, 40),
    (READINGS, _readings, 2),
    (HANDOVER, _handovers, 1),
]


@pytest.mark.parametrize(("checks", "made"), [row[:2] for row in STATIONS])
def test_a_check_tells_its_own_codes_and_reads_what_it_declares(
    checks: tuple[Check[Any], ...], made: Callable[[], list[Any]]
) -> None:
    facts, wrong = made(), []
    for one in checks:
        read: set[str] = set()
        for each in facts:
            seen = Recorder(each)
            for item in one.run(seen):
                problem = item.problem if isinstance(item, Finding) else item
                assert problem.code in one.declared.codes, (one.name, problem.code)
                assert problem.station == one.declared.station
            read |= seen.read
        # What is worked out of a fact is that fact: an index by id is read of the job.
        asked = {{"parts": "job", "part_type": "catalogue"}.get(name, name) for name in read}
        if asked != set(one.declared.needs):
            wrong.append((one.name, sorted(asked)))
    assert not wrong


@pytest.mark.parametrize(("checks", "least"), [(row[0], row[2]) for row in STATIONS])
def test_every_code_of_a_station_is_declared_once(
    checks: tuple[Check[Any], ...], least: int
) -> None:
    codes = [code for one in checks for code in one.declared.codes]
    assert len(codes) == len(set(codes)) >= least


def _problem(code: str, state: State, *outlets: str) -> Problem:
    return Problem(
        code=code,
        station="coax",
        state=state,
        place="",
        title=(code,),
        gauge=None,
        limit=(),
        origin="",
        remedy=(),
        outlets=outlets,
    )


def test_problems_come_by_severity_then_those_that_explain_others() -> None:
    def some(facts: object) -> list[Problem]:
        return [_problem("a", "marginal"), _problem("b", "fail"), _problem("c", "unknown")]

    def first(facts: object) -> list[Problem]:
        return [_problem("d", "fail"), _problem("e", "fail", "o1", "o2")]

    def declared(told_first: bool) -> registry.Declared:
        return registry.Declared("coax", (), (), told_first=told_first)

    found = compose(
        [Check("some", declared(False), some), Check("first", declared(True), first)], None
    )
    assert [t.problem.code for t in found] == ["e", "d", "b", "c", "a"]


def test_two_checks_of_one_code_are_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    here = ModuleType("made.one")

    @check("coax", codes=("twice",), needs=())
    def one(facts: object) -> list[Problem]:
        return []

    @check("coax", codes=("twice",), needs=())
    def two(facts: object) -> list[Problem]:
        return []

    for function in (one, two):
        function.__module__ = "made.one"
        setattr(here, function.__name__, function)
    package = ModuleType("made")
    package.__path__ = []
    monkeypatch.setattr(registry, "iter_modules", lambda path: [SimpleNamespace(name="one")])
    monkeypatch.setattr(registry, "import_module", lambda name: here)
    with pytest.raises(ValueError, match="twice"):
        checks_of(package)
