"""Where practitioners differ: each school has its effect, and the default its reason."""

from __future__ import annotations

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.job import Job
from evtro.core.job.changes import Set
from evtro.core.stations.coax.routes import way_of
from evtro.core.units.quantities import text_of
from evtro.demo.world import kept_jobs
from tests.changes import taken

CATALOGUE = catalogue.load()


def _school(job: Job, **values: str) -> Job:
    return taken(job, Set(rows="run_school", values=values))


def _answers(job: Job) -> Answers:
    return work_out(job, CATALOGUE, profiles.load(job.profile))


def test_ports_left_open_are_no_problem_of_themselves_and_echo_all_the_same() -> None:
    job = kept_jobs()["marten-lodge"]
    left = _school(job, open_ports="left")
    before, after = _answers(job), _answers(left)
    assert any(p.code == "open-port" for p in before.coax.problems)
    assert all(p.code != "open-port" for p in after.coax.problems)
    ripples = [[c.ripple.value for r in a.coax.outlets for c in r.cells] for a in (before, after)]
    assert ripples[0] == ripples[1]
    assert any(s.key == "coax.caps" for s in before.steps["coax"])
    assert all(s.key != "coax.caps" for s in after.steps["coax"])


def test_spare_cable_is_in_the_planned_route_and_in_the_step() -> None:
    job = kept_jobs()["plover-cottage"]
    lengths = {}
    for slack, metres in (("loop", 0.7), ("short", 0.1), ("coil", 3.0)):
        one = _school(job, slack=slack)
        answers = _answers(one)
        link = next(k for k in one.links if k.from_part == "p1")
        way = way_of(one, answers.coax.solved.run.wiring, link)
        planned = next(k for k in taken(one, way.from_plan).links if k.id == link.id)
        assert dict(planned.route)["slack"] == pytest.approx(metres)
        lengths[slack] = sum(m for kind, m in planned.route if kind != "indoors")
        step = next(s for s in answers.steps["coax"] if s.key == "coax.loop")
        assert step.figure is not None
        assert step.figure.value == pytest.approx(metres)
    assert lengths["short"] < lengths["loop"] < lengths["coil"]


@pytest.mark.parametrize(
    ("name", "school", "words"),
    [
        ("plover-cottage", "by_place", "spanner"),
        ("fjell-caravan", "by_place", "fingers"),
        ("fjell-caravan", "spanner", "spanner"),
        ("plover-cottage", "fingers", "fingers"),
    ],
)
def test_connectors_are_tightened_by_place_or_by_school(name: str, school: str, words: str) -> None:
    steps = _answers(_school(kept_jobs()[name], connectors=school)).steps["coax"]
    assert words in text_of(next(s for s in steps if s.key == "coax.connectors").hint)
