"""A limit of a job's own judges its outlets, says whose it is, and goes back to the practice's."""

from __future__ import annotations

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Job
from evtro.core.job.changes import OwnLimit
from evtro.core.job.own_limits import limit_lines
from evtro.core.job.stock import limits, stock_of
from evtro.core.stations.coax.views.answer import CoaxAnswer
from evtro.core.units.quantities import InputError
from evtro.demo.world import kept_jobs
from tests.changes import taken

CATALOGUE, EUROPE = catalogue.load(), profiles.load("europe")


@pytest.fixture(scope="module")
def cottage() -> Job:
    return kept_jobs()["plover-cottage"]


def _coax(job: Job) -> CoaxAnswer:
    return work_out(job, CATALOGUE, limits(job, EUROPE)).coax


def test_a_stricter_window_puts_outlets_out_and_back(cottage: Job) -> None:
    assert _coax(cottage).verdict.inside == 5
    strict = taken(cottage, OwnLimit(field="windows.DVB-C 256QAM.low_dbuv", value="60,5 dBµV"))
    answer = _coax(strict)
    assert [r.state for r in answer.outlets] == ["ok", "ok", "ok", "fail", "fail"]
    assert answer.outlets[3].cells[-1].level.low == 60.5
    told = [p for p in answer.problems if p.code == "level-low"]
    assert told
    assert {p.origin for p in told} == {"own limit of this job"}
    again = taken(strict, OwnLimit(field="windows.DVB-C 256QAM.low_dbuv", value=""))
    assert limits(again, EUROPE) == EUROPE
    assert _coax(again).verdict.inside == 5


def test_the_other_limits_judge_too(cottage: Job) -> None:
    for field, value in (("margin_db", 9.0), ("ripple_db", 0.5), ("slope_terrestrial_db", 2.0)):
        states = [
            r.state for r in _coax(taken(cottage, OwnLimit(field=field, value=value))).outlets
        ]
        assert "fail" in states, field


def test_what_is_own_is_told_and_not_offered_to_be_undone(cottage: Job) -> None:
    own = taken(cottage, OwnLimit(field="margin_db", value="4"))
    lines = {one.field: one for one in limit_lines(own, EUROPE)}
    assert (lines["margin_db"].value, lines["margin_db"].usual, lines["margin_db"].own) == (
        4.0,
        EUROPE.margin_db,
        True,
    )
    assert not lines["ripple_db"].own
    assert "windows.DVB-S2.low_dbuv" not in lines  # nothing of that kind in this job
    assert all(n.rows != "limit_data" for n in stock_of(own, CATALOGUE, EUROPE).newer)
    row = next(r for r in own.limit_data if r.key == "europe")
    assert row.origin.startswith("own limits of this job")


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [
        ("windows.DVB-C 64QAM.low_dbuv", 90.0, "shut"),
        ("margin_db", -3.0, "0 and 100"),
        ("margin_db", "much", "number"),
        ("windows.X.low_dbuv", 3.0, "no limit"),
        ("key", 3.0, "no limit"),
    ],
)
def test_a_bad_limit_is_refused_in_words(
    cottage: Job, field: str, value: object, words: str
) -> None:
    with pytest.raises(InputError) as refused:
        taken(cottage, OwnLimit(field=field, value=value))  # type: ignore[arg-type]
    assert words in f"{refused.value.field} {refused.value}"
