"""The demo's dish jobs as a whole: steps, sheet, spine, what one change does elsewhere."""

from __future__ import annotations

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.job import Job, SatelliteFeed, edits
from evtro.core.job.changes import Remove
from evtro.core.job.consistency import check_job
from evtro.core.job.context import JobParts
from evtro.core.job.targets import wanted_job
from evtro.core.units.quantities import Quantity, text_of
from evtro.demo.world import demo_jobs
from tests.changes import taken
from tests.refusals import refused

JOBS = demo_jobs()
CATALOGUE = catalogue.load()


def _answers(job: Job) -> Answers:
    return work_out(job, CATALOGUE, profiles.load(job.profile))


@pytest.mark.parametrize("name", JOBS)
def test_every_demo_job_hangs_together(name: str) -> None:
    check_job(JobParts(JOBS[name], CATALOGUE))
    answers = _answers(JOBS[name])
    assert [s.number for s in answers.stations] == list(range(1, 9))
    assert all(s.figure for s in answers.stations)
    assert not any(s.key == "aim" and s.state == "fail" for s in answers.stations)


@pytest.mark.parametrize("name", JOBS)
def test_steps_have_keys_of_their_own_and_figures_with_units(name: str) -> None:
    steps = _answers(JOBS[name]).steps
    keys = [s.key for rows in steps.values() for s in rows]
    assert len(keys) == len(set(keys))
    for rows in steps.values():
        for step in rows:
            assert all(isinstance(p, (str, Quantity)) for p in step.title)
            assert bool(step.danger) == bool(step.gate)
            if step.danger:
                assert step.danger_text


@pytest.mark.parametrize("name", JOBS)
def test_the_sheet_says_every_antenna_and_every_problem(name: str) -> None:
    job = JOBS[name]
    answers = _answers(job)
    sections = {s.title: s.lines for s in answers.sheet}
    aimed = " ".join(text_of(line.label) for line in sections["Aim"])
    for aim in answers.aim.aims:
        assert f"{aim.name} to {aim.target_name}" in aimed
    still = [line for line in sections["Still open"] if line.label]
    assert len(still) == len([p for p in answers.problems if p.station != "handover"])


def test_the_terminals_last_steps_keep_people_out() -> None:
    steps = {s.key: s for s in _answers(JOBS["tern-hut"]).steps["aim"]}
    order = list(steps)
    assert order.index("aim.a1.lock") < order.index("aim.a1.null") < order.index("aim.a1.transmit")
    assert "Radio energy" in steps["aim.a1.transmit"].danger
    assert steps["aim.a1.transmit"].gate
    assert "NS-2" in str(steps["aim.a1.beam"].title[0])
    assert (steps["aim.a1.transmit"].figure or Quantity(0, "m")).value >= 0.98


def test_a_tripod_is_levelled_first() -> None:
    steps = _answers(JOBS["fjell-caravan"]).steps["mast"]
    assert steps[0].key == "rig.level"
    assert steps[0].measure is not None
    assert steps[0].measure.state == "ok"
    assert "weigh" in steps[0].danger_text


def test_the_sheet_keeps_what_was_set_on_a_dish() -> None:
    def lines(name: str) -> str:
        job = JOBS[name]
        rows = _answers(job).sheet
        return "\n".join(f"{text_of(x.label)}: {text_of(x.text)}" for s in rows for x in s.lines)

    several = lines("alder-terrace")
    assert "Tilt the bar 9.6° anticlockwise" in several
    assert "mm along the bar" in several
    motor = lines("kauri-flat")
    assert "Booby: 62.6° west, the motor ends at 60°" in motor
    assert "Feed, best try: depth −10" in motor
    terminal = lines("tern-hut")
    assert "Certified installer: A. Mender, certificate EV-2031, seen" in terminal
    assert "Beam: North Skerries, code NS-2" in terminal
    assert "the tool reads +1.2° off" in lines("fjell-caravan")


def test_neighbours_never_reach_the_coax() -> None:
    job = JOBS["skerry-house"]
    wanted = wanted_job(job)
    assert len(wanted.carriers) == 7
    assert len(job.carriers) == 16
    assert {channel.id for channel in _answers(job).coax.channels} == {
        c.id for c in wanted.carriers
    }
    assert wanted_job(wanted) is wanted


def test_a_neighbour_that_is_wanted_joins_the_plan() -> None:
    job = edits.change_row(JOBS["skerry-house"], "targets", "t5", {"wanted": True})
    answers = _answers(job)
    assert [t.name for t in answers.sky.targets if t.kind == "satellite"] == [
        "Corvus",
        "Halcyon",
        "Avocet",
    ]
    assert any(p.code == "no-source" and p.ref == "t5" for p in answers.coax.problems)


def test_a_side_feed_needs_an_lnb_of_its_own() -> None:
    job = JOBS["alder-terrace"]
    bare = job.model_copy(
        update={
            "parts": tuple(
                p.model_copy(update={"target": None}) if p.id == "p5" else p for p in job.parts
            )
        }
    )
    problems = _answers(bare).coax.problems
    assert any(p.code == "no-source" and p.ref == "t5" for p in problems)


def test_a_motor_carries_one_lnb_to_every_satellite() -> None:
    answers = _answers(JOBS["kauri-flat"])
    channels = {channel.target for channel in answers.coax.channels}
    assert channels == {"t1", "t2", "t3", "t4", "t5"}
    assert answers.coax.outlets[0].state in ("ok", "marginal")


def test_a_motor_without_a_first_satellite_is_set_on_the_highest() -> None:
    job = JOBS["kauri-flat"]
    free = job.dishes[0].model_copy(update={"target": None})
    feeds = (*job.feeds, SatelliteFeed(id="f9", antenna="a1", target="t1"))
    aims = _answers(job.model_copy(update={"dishes": (free,), "feeds": feeds})).aim.aims
    assert [a.target_name for a in aims] == ["Tropicbird"]


def test_a_reflector_with_wrong_measures_is_told_and_the_rest_goes_on() -> None:
    job = JOBS["alder-terrace"]
    wrong = job.dishes[0].model_copy(
        update={
            "reflector_height_mm": 800.0,
            "reflector_width_mm": 950.0,
            "reflector_depth_mm": 80.0,
        }
    )
    answers = _answers(job.model_copy(update={"dishes": (wrong,)}))
    problem = next(p for p in answers.aim.problems if p.code == "reflector")
    assert "wider" in text_of(problem.title)
    assert "f/D is used" in text_of(problem.remedy)
    assert answers.coax.verdict.inside == 5


def test_removing_a_dish_takes_all_that_was_logged_on_it() -> None:
    job = taken(JOBS["skerry-house"], Remove(rows="dishes", id="a1"))
    assert job.samples == ()
    check_job(JobParts(job, CATALOGUE))
    stop = taken(JOBS["fjell-caravan"], Remove(rows="stops", id="h1"))
    assert stop.rig.stop is None
    beam = taken(JOBS["tern-hut"], Remove(rows="targets", id="t1"))
    assert beam.beams == ()
    assert beam.terminal.beam is None
    check_job(JobParts(beam, CATALOGUE))


@pytest.mark.parametrize(
    ("field", "change"),
    [("feeds", {"target": "t99"}), ("feeds", {"antenna": "a9"}), ("beams", {"target": "t77"})],
)
def test_a_file_that_names_what_is_not_there_is_refused(field: str, change: dict[str, str]) -> None:
    job = JOBS["alder-terrace"] if field == "feeds" else JOBS["tern-hut"]
    rows = getattr(job, field)
    broken = job.model_copy(update={field: (rows[0].model_copy(update=change), *rows[1:])})
    with refused("reference-missing"):
        check_job(JobParts(broken, CATALOGUE))


def test_a_taller_survey_of_the_dish_costs_wind(skerry: Job) -> None:
    before = _answers(skerry)
    lifted = taken(skerry, before.sky.remedies[0].change)
    after = _answers(lifted)
    assert after.sky.clear == 3
    # The mount is higher, not the mast; the dish leans by a hair less.
    assert after.mast.percent == pytest.approx(before.mast.percent, rel=1e-6)


def test_looking_ahead_by_no_summer_is_looking_at_today(skerry: Job) -> None:
    today = skerry.model_copy(update={"site": skerry.site.model_copy(update={"years_ahead": 0})})
    sky = _answers(today).sky
    assert sky.later == []
    assert sky.clear == sky.clear_now
    assert sky.until == skerry.date.year
