"""Cables as routes and at a temperature: what is typed feeds length, loss, clips, steps and register."""

from __future__ import annotations

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Job
from evtro.core.job.changes import Set
from evtro.core.job.context import JobParts
from evtro.core.stations.coax.routes import way_of
from evtro.core.stations.coax.views.level_plan import cable_register
from evtro.core.units.quantities import InputError, text_of
from evtro.demo.world import skerry_house
from tests.changes import taken

CATALOGUE = catalogue.load()
LAST = "o12"


def _drop(job: Job) -> str:
    plate = next(p.id for p in job.parts if p.outlet == LAST)
    return next(k.id for k in job.links if k.to_part == plate)


def _with(job: Job, **values: object) -> Job:
    return taken(job, Set(rows="links", id=_drop(job), values=values))


def _lowest(job: Job) -> float:
    coax = work_out(job, CATALOGUE, profiles.load(job.profile)).coax
    row = next(r for r in coax.outlets if r.outlet == LAST)
    return min(c.level.value or 0.0 for c in row.cells)


def test_a_route_is_its_length_and_its_loss() -> None:
    job = skerry_house()
    laid = _with(job, route=[["riser", "3,5 m"], ["hole", 0.3], ["duct", "20 ft"], ["indoors", 12]])
    link = next(k for k in laid.links if k.id == _drop(job))
    assert link.length_m == pytest.approx(3.5 + 0.3 + 6.096 + 12, abs=1e-3)
    straight = _with(job, length_m=link.length_m)
    assert _lowest(laid) == pytest.approx(_lowest(straight), abs=1e-9)
    assert _lowest(laid) > _lowest(job)  # 48 m before


def test_clips_by_spacing_and_holes_are_counted_and_told_in_steps_and_register() -> None:
    job = _with(
        skerry_house(), route=[["wall", 3.0], ["hole", 0.3], ["duct", 20.0], ["indoors", 1.3]]
    )
    answers = work_out(job, CATALOGUE, profiles.load(job.profile))
    link = next(k for k in job.links if k.id == _drop(job))
    way = way_of(job, answers.coax.solved.run.wiring, link)
    assert (way.clips, way.holes) == (5 + 3, 1)  # each begun 0.6 m; none in a duct
    row = next(
        r
        for r in cable_register(JobParts(job, CATALOGUE), answers.coax)
        if r.length_m == link.length_m
    )
    assert (row.clips, row.route[:22]) == (8, "3.0 m along the wall, ")
    step = next(s for s in answers.steps["coax"] if s.key == f"coax.{link.id}")
    assert "20.0 m in a duct" in text_of(step.hint)
    clips = next(s for s in answers.steps["coax"] if s.key == f"coax.{link.id}.clips")
    assert clips.figure is not None
    assert clips.figure.value == 8


def test_a_length_typed_alone_takes_the_route_away_and_the_same_one_keeps_it() -> None:
    job = _with(skerry_house(), route=[["wall", 3.0], ["indoors", 4.0]])
    assert next(k for k in _with(job, length_m=7.0).links if k.id == _drop(job)).route
    other = next(k for k in _with(job, length_m=9.0).links if k.id == _drop(job))
    assert (other.length_m, other.route) == (9.0, ())


def test_the_site_plan_gives_the_way_from_the_mast_to_the_entry() -> None:
    job = skerry_house()
    answers = work_out(job, CATALOGUE, profiles.load(job.profile))
    wiring = answers.coax.solved.run.wiring
    array = next(p.id for p in job.parts if p.type == "antenna")
    link = next(k for k in job.links if k.from_part == array)
    way = way_of(job, wiring, link)
    assert way.from_plan is not None
    after = next(k for k in taken(job, way.from_plan).links if k.id == link.id)
    stretches = dict(after.route)
    mounted = next(a for a in job.arrays if any(p.antenna == a.id for p in job.parts))
    assert stretches["mast"] == pytest.approx(mounted.on_mast_m)
    assert stretches["wall"] == pytest.approx(job.site.entry_distance_m)
    assert after.length_m == pytest.approx(sum(m for _, m in after.route))
    again = way_of(taken(job, way.from_plan), wiring, after)
    assert again.from_plan is None  # it lies as planned
    indoors = next(k for k in job.links if k.id == _drop(job))
    assert way_of(job, wiring, indoors).from_plan is None


@pytest.mark.parametrize(
    ("route", "words"),
    [
        ([["wall", "much"]], "Stretch 1"),
        ([["wall", 2], ["indoors", "0"]], "too small"),
        ([["wall", 2000]], "too large"),
        ([["sky", 2]], "route"),
        ("wall 3", "no list"),
        ([["wall", 1]] * 25, "24"),
        ([["wall", 900], ["roof", 900]], "too large"),
    ],
)
def test_a_bad_route_is_refused_in_words(route: object, words: str) -> None:
    with pytest.raises(InputError) as refused:
        _with(skerry_house(), route=route)
    assert words.lower() in f"{refused.value.field} {refused.value}".lower()


def test_a_hot_cable_loses_a_fifth_of_a_percent_more_with_each_kelvin() -> None:
    """EN 50117 (from memory): 0.2 % of the attenuation in dB per kelvin over 20 °C."""
    job = skerry_house()
    cold, hot = _lowest(job), _lowest(_with(job, celsius="70 °C"))
    assert _lowest(_with(job, celsius="158°F")) == pytest.approx(hot, abs=1e-9)
    link = next(k for k in job.links if k.id == _drop(job))
    loss = float(CATALOGUE.cables[link.cable].loss_db(link.length_m, 2138.0))
    assert cold - hot == pytest.approx(0.1 * loss, abs=0.01)
    assert CATALOGUE.cables["rg6"].loop_ohm(1000, 70.0) == pytest.approx(
        CATALOGUE.cables["rg6"].loop_ohm_km * 1.195
    )
