"""What is done to an antenna, at a stop or at a step as a whole, said as a change."""

from __future__ import annotations

from typing import Any

import pytest

from evtro import profiles
from evtro.core.answers import work_out
from evtro.core.changes.apply import words_of
from evtro.core.job import Job, Sample
from evtro.core.job.changes import (
    Anew,
    Arrive,
    Change,
    LearnCompass,
    LearnScale,
    Model,
    Second,
    Set,
    Several,
    Tick,
)
from evtro.core.units.quantities import InputError, text_of
from evtro.demo.world import demo_jobs
from tests.changes import CATALOGUE, NOW, behind_gates, taken
from tests.refusals import refused

JOBS = demo_jobs()


def _aim(job: Job) -> Any:
    return work_out(job, CATALOGUE, profiles.load(job.profile)).aim.aims[0]


def test_a_learned_scale_makes_the_tool_read_what_it_read() -> None:
    job = JOBS["skerry-house"]
    learned = taken(job, LearnScale(dish="a1", reads="86,3°"))
    assert _aim(learned).inclinometer_deg == pytest.approx(86.3, abs=1e-3)
    again = taken(learned, LearnScale(dish="a1", reads=86.0))
    assert again.dishes[0].zero_before_deg == learned.dishes[0].scale_zero_deg


def test_a_learned_compass_makes_it_read_what_it_read() -> None:
    job = JOBS["skerry-house"]
    true = _aim(job).azimuth_deg
    learned = taken(job, LearnCompass(dish="a1", reads="147", bearing=true))
    assert _aim(learned).compass_deg == pytest.approx(147.0, abs=0.01)


@pytest.mark.parametrize(
    ("name", "change", "words"),
    [
        ("skerry-house", LearnCompass(dish="a1", reads="361", bearing="3"), "361°M is too large"),
        ("skerry-house", LearnCompass(dish="a1", reads="3", bearing="-1"), "too small"),
        ("skerry-house", LearnCompass(dish="a2", reads="3", bearing="3"), "a2 is not in the job"),
        ("skerry-house", LearnScale(dish="a1", reads="10"), "off"),
        ("harrow-farm", Second(array="a1", first_deg="50", second_deg="361"), "361°T is too large"),
        ("harrow-farm", Model(array="a1", key="none"), "not in the catalogue"),
        ("fjell-caravan", Arrive(stop="h99"), "h99 is not in the job"),
        ("skerry-house", Tick(step="mast.plumb", done=True), "nobody has confirmed"),
        ("skerry-house", Tick(step="site.overhead", done=True), "not confirmed"),
        ("skerry-house", Tick(step="site.overhead", danger_read=True), "who looked"),
        (
            "skerry-house",
            Tick(step="mast.foot", danger_read=True, by="A. Mender"),
            "nobody has confirmed",
        ),
        ("skerry-house", Tick(step="mast.plumb", value="wide"), "is not a number"),
        ("skerry-house", Tick(step="aim.a9.sweep", done=True), "not a step"),
    ],
)
def test_what_cannot_be_is_refused_with_its_field(name: str, change: Change, words: str) -> None:
    with pytest.raises(InputError, match=words) as refused:
        taken(JOBS[name], change)
    assert refused.value.field
    assert refused.value.remedy


def test_an_axis_begins_anew_for_its_feed_alone() -> None:
    job = JOBS["alder-terrace"]
    dish = job.dishes[0]
    side = next(f.target for f in job.feeds if f.antenna == dish.id)
    rows = tuple(
        Sample(id=f"q{n}", antenna=dish.id, target=t, axis=axis, position=n, reading=9.0)
        for n, (t, axis) in enumerate(
            [(None, "azimuth"), (side, "azimuth"), (None, "elevation")], 1
        )
    )
    job = job.model_copy(update={"samples": rows})
    main = taken(job, Anew(dish=dish.id, axis="azimuth"))
    assert [s.id for s in main.samples] == ["q2", "q3"]
    other = taken(job, Anew(dish=dish.id, axis="azimuth", target=side))
    assert [s.id for s in other.samples] == ["q1", "q3"]


def test_a_stop_takes_the_place_along_and_leaves_what_belonged_to_the_last() -> None:
    job = JOBS["fjell-caravan"]
    stop = next(s for s in job.stops if s.id != job.rig.stop)
    there = taken(job, Arrive(stop=stop.id))
    assert (there.site.latitude_deg, there.site.longitude_deg) == (
        stop.latitude_deg,
        stop.longitude_deg,
    )
    assert there.rig.stop == stop.id
    assert (there.obstructions, there.samples, there.locks) == ((), (), ())
    assert there.dishes == job.dishes


def test_a_step_is_ticked_with_the_time_and_what_it_reads() -> None:
    job = JOBS["skerry-house"]
    read = behind_gates(job)
    done = taken(read, Tick(step="mast.plumb", done=True, value="0,3°", note="two ways"))
    mark = next(m for m in done.marks if m.step == "mast.plumb")
    assert (mark.at, mark.value, mark.note) == (NOW, 0.3, "two ways")
    undone = taken(done, Tick(step="mast.plumb", done=False, value=""))
    mark = next(m for m in undone.marks if m.step == "mast.plumb")
    assert (mark.at, mark.value, mark.note) == ("", None, "two ways")
    gate = next(m for m in undone.marks if m.step == "mast.foot")
    assert (gate.danger_read, gate.confirmed_by, gate.confirmed_at, gate.at) == (
        True,
        "A. Mender",
        NOW,
        "",
    )


def test_no_change_of_rows_ticks_a_step_in_its_place() -> None:
    job = JOBS["skerry-house"]
    marked = taken(job, Tick(step="site.overhead", danger_read=True, by="A. Mender"))
    row = marked.marks[-1].id
    for change in (
        Set(rows="marks", id=row, values={"at": "now"}, as_is=True),
        Several(words="smuggled", changes=(Set(rows="marks", id=row, values={"at": "now"}),)),
    ):
        with refused("danger-unread"):
            taken(marked, change)


def test_history_calls_them_by_their_names() -> None:
    assert words_of(Anew(dish="a1", axis="skew")) == "begin skew anew"
    assert words_of(Tick(step="x", done=True)) == "mark step"
    assert words_of(Second(array="a1", first_deg=1, second_deg=2)) == "add a second antenna"


def test_what_was_measured_at_a_step_stands_on_the_sheet_in_its_unit() -> None:
    job = taken(
        behind_gates(JOBS["skerry-house"]), Tick(step="mast.brackets", done=True, value="36 in")
    )
    sections = work_out(job, CATALOGUE, profiles.load(job.profile)).sheet
    done = next(s for s in sections if s.title == "Steps done")
    assert text_of(done.lines[-1].text) == f"{NOW}, read 0.914 m, OK"
    assert text_of(done.lines[-1].text, "us").endswith("read 3.000 ft, OK")
    looked = [text_of(x.text) for x in done.lines]
    assert f"not ticked; I have looked all round: A. Mender, {NOW}" in looked
