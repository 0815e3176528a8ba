"""A job carries the data of all that it uses, and answers by them wherever it is opened."""

from __future__ import annotations

import datetime as dt
from typing import Any

import pytest
from pydantic import ValidationError

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.changes import ChangeContext, carry_out
from evtro.core.job import Job
from evtro.core.job.changes import Insert, Remove
from evtro.core.job.parts import Catalogue, PartType
from evtro.core.job.profile import Profile
from evtro.core.job.stock import carrying, limits, stock_of, stocked
from evtro.demo.world import demo_jobs, skerry_house

SHOP, EUROPE = catalogue.load(), profiles.load("europe")


@pytest.fixture(scope="module")
def job() -> Job:
    return carrying(skerry_house(), SHOP, EUROPE)


def _other_shop() -> Catalogue:
    """A workshop whose cables lose twice as much, and which has forgotten the wall plate."""
    cables = {k: c.model_copy(update={"a": 2 * c.a}) for k, c in SHOP.cables.items()}
    parts = {k: p for k, p in SHOP.parts.items() if k != "plate"}
    return SHOP.model_copy(
        update={"cables": cables, "parts": parts, "of_date": dt.date(2030, 1, 1)}
    )


def test_what_is_used_is_carried_and_nothing_else(job: Job) -> None:
    assert {r.key for r in job.part_data} == {p.type for p in job.parts}
    assert {r.key for r in job.cable_data} == {k.cable for k in job.links}
    assert {r.key for r in job.array_data} == {a.model for a in job.arrays} - {""}
    assert [r.key for r in job.limit_data] == ["europe"]
    assert carrying(job, SHOP, EUROPE) is job
    assert all(r.origin == SHOP.origin and r.of_date == SHOP.of_date for r in job.part_data)


@pytest.mark.parametrize("name", sorted(demo_jobs()))
def test_a_job_answers_the_same_with_another_workshop(name: str) -> None:
    job = demo_jobs()[name]
    profile = profiles.load(job.profile)
    harder = profile.model_copy(update={"margin_db": 20.0, "keep_clear_deg": 40.0})
    here, there = work_out(job, SHOP, profile), work_out(job, _other_shop(), harder)
    assert there.stations == here.stations
    assert there.coax.outlets == here.coax.outlets
    # What is fitted in place of something may differ: that comes from the workshop.
    assert [p.code for p in there.problems] == [p.code for p in here.problems]


def test_what_the_workshop_has_otherwise_is_offered_and_taken(job: Job) -> None:
    other = _other_shop()
    strict = EUROPE.model_copy(update={"margin_db": 20.0, "of_date": dt.date(2030, 1, 1)})
    found = stock_of(job, other, strict)
    assert {n.key for n in found.newer} == {r.key for r in job.cable_data} | {"europe"}
    assert set(found.own.cables) == {r.key for r in job.cable_data}
    assert set(found.own.parts) == {"plate"}  # nothing is offered for what the workshop lacks
    assert found.take_all is not None
    before = work_out(job, other, strict)
    after_job = carry_out(job, found.take_all, ChangeContext(other, strict)).job
    after = work_out(after_job, other, strict)
    assert stock_of(after_job, other, strict).newer == []
    assert after.profile.margin_db == 20.0
    low = [a.coax.view.lowest.value for a in (before, after)]
    assert low[1] is not None
    assert low[0] is not None
    assert low[1] < low[0]
    assert all(r.of_date == dt.date(2030, 1, 1) for r in after_job.cable_data)


def test_what_is_fitted_later_comes_from_the_workshop_of_that_day(job: Job) -> None:
    other = _other_shop()
    fitted = carry_out(
        job, Insert(type="splitter-2", into=job.links[0].id), ChangeContext(other, EUROPE)
    ).job
    fitted = carrying(fitted, other, EUROPE)
    new = [r for r in fitted.part_data if r.key not in {p.key for p in job.part_data}]
    assert [(r.key, r.of_date) for r in new] == [("splitter-2", dt.date(2030, 1, 1))]
    assert fitted.cable_data == job.cable_data
    taken = carry_out(
        fitted, Remove(rows="parts", id=fitted.parts[-1].id), ChangeContext(other, EUROPE)
    ).job
    assert carrying(taken, other, EUROPE).part_data == job.part_data
    # What only this job has is kept, used or not.
    bare = job.model_copy(update={"parts": (), "links": ()})
    assert [r.key for r in carrying(bare, other, EUROPE).part_data] == ["plate"]


def test_another_profile_brings_its_limits(job: Job) -> None:
    moved = job.model_copy(update={"profile": "north-america"})
    american = profiles.load("north-america")
    found = carrying(moved, SHOP, american)
    # Those of the profile before stay, for whoever goes back to it.
    assert [r.key for r in found.limit_data] == ["europe", "north-america"]
    assert limits(found, american) == american
    assert limits(job, american.model_copy(update={"key": "europe"})) == EUROPE


def _part(**values: Any) -> dict[str, Any]:
    return {
        "key": "own",
        "draws_as": "splitter",
        "name": "Own",
        "inputs": 1,
        "outputs": 2,
        "paths": [{"gain_db": [[47, -4], [862, -5]]}],
        **values,
    }


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({"paths": [{"gain_db": [[862, -4], [47, -5]]}]}, "do not rise"),
        ({"paths": [{"gain_db": [[47, -4]]}]}, "ends at 47 MHz"),
        ({"paths": [{"gain_db": []}]}, "gain_db"),
        ({"paths": [{"gain_db": [[47, -4], [862, float("inf")]]}]}, "finite"),
        ({"paths": [{"gain_db": [[47, -4], [862, 1e9]]}]}, "less than"),
        ({"receivers": [5]}, "no port 6"),
        ({"dc": [[3, 0]]}, "no port 4"),
        ({"inputs": 10**9}, "at most 64"),
        ({"outputs": -1}, "at most 64"),
        (
            {
                "bands": [
                    {
                        "name": "b",
                        "low_mhz": 1,
                        "high_mhz": 2,
                        "lo_mhz": 3,
                        "polarisations": ["Q"],
                        "volts": 13,
                    }
                ]
            },
            "polarisations",
        ),
        ({"key": "Own part!"}, "key"),
        ({"name": "bell \x07"}, "control character"),
        ({"loses_db": 4}, "loses_db"),
        ({"paths": None}, "no list"),
    ],
)
def test_data_that_are_no_part_are_refused(values: dict[str, Any], words: str) -> None:
    with pytest.raises(ValidationError, match=words):
        PartType.model_validate(_part(**values))
    assert PartType.model_validate(_part()).range_mhz == (47, 862)


def test_limits_without_a_system_are_refused() -> None:
    windows = {k: w for k, w in EUROPE.windows.items() if k != "DVB-S2"}
    with pytest.raises(ValidationError, match="no levels for DVB-S2"):
        Profile.model_validate(EUROPE.model_dump() | {"windows": windows})
    assert stocked(skerry_house(), SHOP) is SHOP
