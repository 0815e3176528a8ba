"""What was read on the roof against the plan: contradictions are told, and bar what they must."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.job import Beam, Dish, Job, Site, Target, TaskRecord, Terminal
from evtro.core.physics.beams import dish_beamwidth_deg
from evtro.core.stations.aim.answer import AimAnswer
from evtro.core.stations.aim.evidence import check_commissioned
from evtro.core.stations.aim.finding.peaking import fit
from evtro.core.stations.aim.finding.search import search, sweep
from evtro.core.stations.aim.steps import aim_steps
from evtro.core.stations.aim.two_way.link import choose_beam, isolation_db
from evtro.core.units.quantities import text_of
from tests.changes import taken

PARTS = catalogue.load()
EUROPE = profiles.load("europe")


def _job(dish: dict[str, Any] | None = None, **more: Any) -> Job:
    values = {"id": "a1", "name": "Dish", "target": "t1", "diameter_m": 0.9} | (dish or {})
    rows = {
        "name": "x",
        "date": "2026-03-25",
        "site": Site(latitude_deg=50.0, longitude_deg=10.0),
        "targets": (Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=20),),
        "dishes": (Dish(**values),),
    }
    return Job(**(rows | more))


def _answers(job: Job) -> Answers:
    return work_out(job, PARTS, EUROPE)


def _codes(job: Job) -> set[str]:
    return {p.code for p in _answers(job).aim.problems}


# --- contradicting figures ------------------------------------------------------------------------


def test_a_reflector_measured_as_another_than_typed_is_told_and_mended() -> None:
    """The case that was seen: the inclinometer 12.6° wrong without a word. Measures of a dish whose
    offset is not the typed one put Aim out; the remedy takes the measured figures."""
    measures = {"reflector_height_mm": 900, "reflector_width_mm": 830, "reflector_depth_mm": 80}
    job = _job({"offset_deg": 10.0, "diameter_m": 0.83} | measures)
    answers = _answers(job)
    problem = next(p for p in answers.aim.problems if p.code == "reflector-differs")
    assert answers.aim.state == "fail"
    before = answers.aim.aims[0].inclinometer_deg
    assert problem.change is not None
    mended = taken(job, problem.change)
    after = _answers(mended)
    assert "reflector-differs" not in {p.code for p in after.aim.problems}
    # cos(offset) is short axis over long axis: geometry of an offset paraboloid.
    assert mended.dishes[0].offset_deg == pytest.approx(math.degrees(math.acos(830 / 900)), abs=0.1)
    assert before is not None
    assert abs(before - (after.aim.aims[0].inclinometer_deg or 0)) > 10
    wrong_size = _job({"offset_deg": 22.74, "diameter_m": 1.0} | measures)
    assert "reflector-differs" in _codes(wrong_size)
    assert "reflector-differs" not in _codes(
        _job({"offset_deg": 22.74, "diameter_m": 0.83} | measures)
    )


@pytest.mark.parametrize(
    ("dish", "high", "wide", "offset", "diameter"),
    [
        ({"offset_deg": 25.0, "diameter_m": 0.7}, 1200, 1100, 23.56, 1.1),  # no depth was measured
        ({"offset_deg": 0.0, "diameter_m": 1.2}, 1805, 1800, 0.0, 1.8),  # round: its angle stays
        ({"offset_deg": 0.0, "diameter_m": 1.2}, 1795, 1800, 0.0, 1.8),
        ({"offset_deg": 0.0, "diameter_m": 0.83}, 900, 830, 22.75, 0.83),
    ],
)
def test_two_axes_are_enough_to_contradict(
    dish: dict[str, float], high: float, wide: float, offset: float, diameter: float
) -> None:
    """By hand: arccos(short axis / long axis) and the short axis. Wind already follows the axes, so
    a size beside them must not pass in silence."""
    job = _job(dish | {"reflector_height_mm": high, "reflector_width_mm": wide})
    problem = next(p for p in _answers(job).aim.problems if p.code == "reflector-differs")
    assert problem.change is not None
    mended = taken(job, problem.change)
    assert mended.dishes[0].offset_deg == pytest.approx(offset, abs=0.01)
    assert mended.dishes[0].diameter_m == pytest.approx(diameter)
    assert "reflector-differs" not in _codes(mended)


def test_swapped_axes_are_told_without_a_depth() -> None:
    swapped = {"offset_deg": 25.0, "reflector_height_mm": 1100, "reflector_width_mm": 1200}
    assert "reflector" in _codes(_job(swapped))


def test_an_azimuth_read_against_the_plan() -> None:
    """160 against a plan of about 143, compass good to 3°: out; read as planned: nothing."""
    aim = _answers(_job()).aim.aims[0]
    assert aim.compass_deg is not None
    step = "aim.a1.azimuth"
    right = _job(marks=(TaskRecord(id="m1", step=step, value=aim.compass_deg + 1),))
    assert "azimuth-read" not in _codes(right)
    wrong = _answers(_job(marks=(TaskRecord(id="m1", step=step, value=aim.compass_deg + 16),)))
    problem = next(p for p in wrong.aim.problems if p.code == "azimuth-read")
    assert (problem.state, wrong.aim.state) == ("fail", "fail")
    assert "°M" in text_of(problem.limit)


def test_a_zero_that_moved_by_more_than_its_uncertainty() -> None:
    assert "zero-moved" not in _codes(_job({"scale_zero_deg": 2.0}))
    assert "zero-moved" not in _codes(_job({"scale_zero_deg": 2.0, "zero_before_deg": 1.7}))
    assert "zero-moved" in _codes(_job({"scale_zero_deg": 2.0, "zero_before_deg": -1.0}))
    coarse = {"scale_zero_deg": 2.0, "zero_before_deg": -1.0, "scale_error_deg": 4.0}
    assert "zero-moved" not in _codes(_job(coarse))


# --- two-way ---------------------------------------------------------------------------------------

SQUARE = ((5.0, 45.0), (15.0, 45.0), (15.0, 55.0), (5.0, 55.0))
FAR = ((25.0, 45.0), (35.0, 45.0), (35.0, 55.0), (25.0, 55.0))


def _terminal(**values: Any) -> Job:
    beams = (
        Beam(id="w1", target="t1", name="Home", least_esn0_db=8.0, boundary=SQUARE),
        Beam(id="w2", target="t1", name="Far", least_esn0_db=8.0, boundary=FAR),
        Beam(id="w3", target="t1", name="Blue 7", code="B7", least_esn0_db=9.0),
    )
    dish = {"two_way": True, "transmit_mhz": 29_500.0}
    return _job(dish, beams=beams, terminal=Terminal(**({"beam": "w1"} | values)))


def test_the_beam_of_a_terminal_is_that_of_its_transmit_frequency() -> None:
    aim = _answers(_terminal()).aim.aims[0]
    assert aim.beamwidth_deg == pytest.approx(dish_beamwidth_deg(0.9, 29_500.0))
    assert aim.beamwidth_deg < 0.45 * dish_beamwidth_deg(0.9, 11_700.0)
    assert aim.tolerance_deg == pytest.approx(aim.beamwidth_deg * math.sqrt(1 / 12))


def test_a_beam_that_does_not_hold_the_place_is_told() -> None:
    assert "beam-outside" not in _codes(_terminal())
    away = _answers(_terminal(beam="w2"))
    assert "beam-outside" in {p.code for p in away.aim.problems}
    assert away.aim.state == "fail"


def test_a_typed_beam_has_no_border_and_counts_as_its_provider_gave_it() -> None:
    found = choose_beam(_terminal().beams, 50.0, 10.0)
    typed = next(b for b in found if b.beam == "w3")
    assert (typed.inside, typed.border_km, typed.best) == (True, None, False)
    assert "beam-outside" not in _codes(_terminal(beam="w3"))
    assert "esn0-low" in _codes(_terminal(beam="w3", esn0_db=8.5))


@pytest.mark.parametrize(
    ("values", "codes", "bars"),
    [
        ({}, set(), 2),
        ({"esn0_db": 7.0}, {"esn0-low"}, 2),
        ({"esn0_db": 9.5}, set(), 1),
        ({"esn0_db": 9.5, "isolation_db": 20.0}, {"isolation-low"}, 1),
        ({"esn0_db": 9.5, "isolation_db": 29.0}, set(), 0),
    ],
)
def test_low_readings_are_problems_and_bar_commissioning(
    values: dict[str, float], codes: set[str], bars: int
) -> None:
    job = _terminal(**values)
    assert _codes(job) & {"esn0-low", "isolation-low"} == codes
    assert len(check_commissioned(job)) == bars


# --- the null ---------------------------------------------------------------------------------------


def test_the_null_is_found_within_its_stated_uncertainty() -> None:
    """300 made-up rotations through the null of tan² of the error and a leak of 35 dB, read to
    0.2 dB. Counted, fixed seed: the true null lies within the stated 95 % interval in 9 of 10."""
    r = np.random.default_rng(3)
    inside = 0
    for _ in range(300):
        true = float(r.uniform(-4, 4))
        at = np.sort(r.uniform(true - 7, true + 7, int(r.integers(6, 14))))
        read = -isolation_db(at - true) + r.normal(0, 0.2, len(at))
        found = fit(at, read, "db", null=True)
        assert found.centre is not None
        assert found.uncertainty is not None
        inside += abs(found.centre - true) <= found.uncertainty
    assert inside >= 270


def test_the_null_says_its_depth_and_the_way() -> None:
    at = np.array([-6.0, -4, -2, 0, 2, 4, 6])
    found = fit(at, -isolation_db(at - 1.0), "db", null=True)
    assert found.method == "null"
    assert found.centre == pytest.approx(1.0, abs=0.1)
    assert found.back == pytest.approx(-5.0, abs=0.1)
    assert found.top == pytest.approx(-35.0, abs=1.5)
    assert found.depth == pytest.approx(35.0 - float(isolation_db(7.0)), abs=1.5)
    assert fit(at[:2], [-20, -25], "db", null=True).centre is None
    # A bar in per cent has no decibels: the middle between two equal rises.
    bar = fit([-4, -2, 0, 2, 4, 6], [60, 40, 22, 20, 38, 62], "pct", null=True)
    assert bar.centre == pytest.approx(1.0, abs=0.5)
    assert bar.top == 20


@pytest.mark.parametrize(
    ("two_way", "circular", "axes", "method"),
    [
        (True, False, 3, "null"),
        (False, False, 3, "parabola"),
        (True, True, 2, None),
        (False, True, 2, None),
    ],
)
def test_a_null_only_where_there_is_something_to_null(
    two_way: bool, circular: bool, axes: int, method: str | None
) -> None:
    from evtro.core.job import Sample
    from evtro.core.stations.aim.dish.detail import detail

    at = [-6.0, -3.0, 0.0, 3.0, 6.0]
    reads = -isolation_db(np.array(at) - 1) if two_way else [8, 9.4, 10, 9.6, 8.3]
    samples = tuple(
        Sample(id=f"q{i + 1}", antenna="a1", axis="skew", position=p, unit="deg", reading=float(v))
        for i, (p, v) in enumerate(zip(at, reads, strict=True))
    )
    target = Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=20, circular=circular)
    job = _job({"two_way": two_way}, targets=(target,), samples=samples)
    answers = _answers(job)
    found = detail(job, answers.sky, answers.aim.aims[0])
    assert found is not None
    assert len(found.peaks) == axes
    keys = [s.key for s in aim_steps(job, answers.aim)]
    assert ("aim.a1.null" in keys) is (two_way and not circular)
    if method:
        assert found.peaks[2].peak.method == method


# --- one plan for Find and Do, north named ----------------------------------------------------------


@pytest.mark.parametrize("first", ["elevation", "azimuth"])
def test_find_and_do_sweep_and_raise_by_the_same(first: str) -> None:
    job = _job({"coarse_first": first})
    answers = _answers(job)
    aim = answers.aim.aims[0]
    dish = job.dishes[0]
    plan = search(
        aim.azimuth_deg,
        aim.elevation_deg,
        dish.compass_error_deg,
        dish.scale_error_deg,
        aim.beamwidth_deg,
        azimuth_first=first == "azimuth",
    )
    assert (aim.sweep_half_deg, aim.raise_deg) == (plan.half_width_deg, plan.step_deg)
    step = next(s for s in aim_steps(job, answers.aim) if s.key.endswith("sweep"))
    assert step.figure is not None
    assert step.figure.value == pytest.approx(2 * plan.half_width_deg)
    words = text_of(step.hint)
    assert f"in all, {plan.half_width_deg:.1f}° either side" in words
    assert f"by {plan.step_deg:.1f}°" in words


def test_a_sweep_by_hand() -> None:
    """Compass good to 3°, beam 2° at 60°: 3 + 1 / cos 60.5° = 5.03° to either side; 1.4° up."""
    found = sweep(60.0, 3.0, 0.5, 2.0)
    assert found.half_deg == pytest.approx(3 + 1 / math.cos(math.radians(60.5)), abs=1e-9)
    assert found.raise_deg == pytest.approx(1.4)


def test_a_learned_compass_error_moves_the_compass_figure_alone() -> None:
    def at(off: float) -> AimAnswer:
        return _answers(_job({"compass_off_deg": off})).aim

    plain, off = at(0.0).aims[0], at(7.5).aims[0]
    assert (off.compass_deg or 0) - (plain.compass_deg or 0) == pytest.approx(7.5)
    assert off.azimuth_deg == plain.azimuth_deg


def test_the_motor_names_its_north() -> None:
    from evtro.core.stations.aim.dish.detail import detail

    job = _job({"mounting": "polar"})
    answers = _answers(job)
    found = detail(job, answers.sky, answers.aim.aims[0])
    assert found is not None
    assert found.motor is not None
    turn = (answers.aim.aims[0].compass_deg or 0) - answers.aim.aims[0].azimuth_deg
    assert (
        f"due south by true north, which is {180 + turn:.1f}°M by the compass"
        in found.motor.order[0]
    )
    assert all("south" not in w or "true" in w for w in found.motor.order)
