"""Errors, search, peaking, several satellites, motor, identity and refit on cases with known answers."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Beam, Carrier, Dish, FeedTry, Job, Lock, Rig
from evtro.core.job.context import JobParts
from evtro.core.physics.beams import offset_reflector, prime_focus
from evtro.core.physics.geodesy import look
from evtro.core.practice.meter import SimulatedMeter, TunedSky, tuned_sky
from evtro.core.stations.aim import answer as aim
from evtro.core.stations.aim import multifeed
from evtro.core.stations.aim.dish import polar, refit
from evtro.core.stations.aim.dish.detail import AimDetail, detail, learned_zero
from evtro.core.stations.aim.dish.link_view import link_view
from evtro.core.stations.aim.dishes import link_dish, lnb_part, sats_on, shape_of
from evtro.core.stations.aim.errors import cross_polar, lean
from evtro.core.stations.aim.finding import peaking
from evtro.core.stations.aim.finding.identify import Seen, identify
from evtro.core.stations.aim.finding.search import search, sweep_covers
from evtro.core.stations.aim.portable.rig import judge
from evtro.core.stations.aim.two_way import link as two_way
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.units.quantities import InputError, text_of
from evtro.demo.world import demo_jobs
from tests.proving import examples

JOBS = demo_jobs()
PARTS = catalogue.load()
CATALOGUE = catalogue.load()


def _detail(job: Job, antenna: str = "a1") -> AimDetail:
    answers = work_out(job, CATALOGUE, profiles.load(job.profile))
    found = detail(job, answers.sky, next(a for a in answers.aim.aims if a.antenna == antenna))
    assert found is not None
    return found


# --- leaning masts -------------------------------------------------------------------------------


@given(st.floats(0, 359.9), st.floats(0, 85), st.floats(0, 359.9))
def test_a_mast_that_does_not_lean_changes_nothing(az: float, el: float, toward: float) -> None:
    found = lean(az, el, 0.0, toward)
    assert float(found.azimuth_deg) == pytest.approx(0, abs=1e-9)
    assert float(found.elevation_deg) == pytest.approx(0, abs=1e-9)
    assert float(found.skew_deg) == pytest.approx(0, abs=1e-9)


@given(st.floats(0, 359.9), st.floats(1, 70), st.floats(0, 359.9), st.floats(0.05, 1.0))
def test_opposite_leans_cancel_to_first_order(
    az: float, el: float, toward: float, t: float
) -> None:
    one, other = lean(az, el, t, toward), lean(az, el, t, (toward + 180) % 360)
    second = 3 * math.radians(t) ** 2 * 57.3 / math.cos(math.radians(el)) ** 2 + 1e-6
    for key in ("azimuth_deg", "elevation_deg", "skew_deg"):
        assert abs(float(getattr(one, key)) + float(getattr(other, key))) < second


@given(st.floats(0, 359.9), st.floats(5, 65), st.floats(0, 359.9))
def test_small_leans_follow_the_short_forms(az: float, el: float, toward: float) -> None:
    """-t cos(b - A), +t sin(b - A) tan el, t sin(b - A) / cos el (common practice, no source)."""
    t = 0.2
    found = lean(az, el, t, toward)
    side = math.radians(toward - az)
    up = math.radians(el)
    assert float(found.elevation_deg) == pytest.approx(-t * math.cos(side), abs=0.004)
    assert float(found.azimuth_deg) == pytest.approx(t * math.sin(side) * math.tan(up), abs=0.008)
    assert float(found.skew_deg) == pytest.approx(t * math.sin(side) / math.cos(up), abs=0.008)


def test_skew_costs_little_and_isolates_less() -> None:
    loss, isolation = cross_polar(np.array([0.0, 2.0, 45.0]))
    assert loss == pytest.approx([0.0, 0.0053, 3.01], abs=0.01)
    assert isolation[1] == pytest.approx(29.1, abs=0.1)
    assert isolation[2] == pytest.approx(0.0, abs=0.01)


def test_each_error_is_held_against_one_decibel(skerry: Job) -> None:
    rows = {e.key: e for e in _detail(skerry).errors}
    assert set(rows) == {"compass", "scale", "plumb", "skew"}
    # An error as large as its limit costs one decibel.
    limit = rows["scale"].gauge.high or 0
    sharp = skerry.dishes[0].model_copy(update={"scale_error_deg": limit})
    job = skerry.model_copy(update={"dishes": (sharp, *skerry.dishes[1:])})
    cost = next(e for e in _detail(job).errors if e.key == "scale").cost_db
    assert cost == pytest.approx(1.0, abs=0.01)


# --- tools ---------------------------------------------------------------------------------------


def test_an_upside_down_dish_leans_by_its_offset_the_other_way() -> None:
    plain = Dish(id="a1", name="d", offset_deg=25)
    over = plain.model_copy(update={"upside_down": True})
    assert aim.face_lean_deg(plain, 30) == 5
    assert aim.face_lean_deg(over, 30) == 55


def test_the_scales_zero_is_learned_and_stays() -> None:
    antenna = Dish(id="a1", name="d", datum="structure", constant_deg=12.6)
    zero = learned_zero(antenna, 33.6, 47.4)
    assert zero == pytest.approx(1.2)
    wise = antenna.model_copy(update={"scale_zero_deg": zero})
    assert aim.inclinometer_deg(wise, 40.0)[0] == pytest.approx(53.8)


def test_the_whole_dish_turns_where_that_is_the_school() -> None:
    found = _detail(JOBS["alder-terrace"])
    assert "whole dish" in found.aim.skew_words
    assert "reads 90 at level" in found.aim.skew_words
    assert found.row is not None
    assert "Tilt the bar" in found.row.tilt_words


# --- search --------------------------------------------------------------------------------------


@given(st.floats(5, 70), st.floats(0.5, 8), st.floats(0.2, 6), st.floats(0.8, 4), st.booleans())
@examples(15, 300)
def test_every_place_inside_the_errors_is_swept(
    el: float, compass: float, tool: float, width: float, upright: bool
) -> None:
    plan = search(180.0, el, compass, tool, width, azimuth_first=upright)
    for a in (-1, -0.4, 0, 0.7, 1):
        for e in (-1, -0.3, 0, 0.5, 1):
            assert sweep_covers(plan, 180.0 + a * compass, el + e * tool, width * 1.02)


def test_a_plan_names_what_it_meets_in_order() -> None:
    others = [("East", 176.0, 30.2), ("West", 184.0, 30.0), ("High", 180.0, 50.0)]
    plan = search(180.0, 30.0, 5.0, 0.3, 2.0, others)
    assert plan.passes[0].meets == ["East", "West"]
    assert len(plan.passes) == 1
    assert plan.seconds > 0


# --- peaking -------------------------------------------------------------------------------------


def test_noisy_peaks_are_found_within_what_is_said() -> None:
    """2000 simulated sweeps, seed 20260418: the true centre lies inside the stated interval in at
    least 90 of 100, and a sweep that saw both sides is nearly always answered."""
    random = np.random.default_rng(20260418)
    inside = answered = both = 0
    for _ in range(2000):
        centre, width = random.uniform(-1, 1), random.uniform(1.4, 3.0)
        x = np.sort(random.uniform(-1.1, 1.1, random.integers(5, 14))) * width + centre * 0.5
        noise = random.normal(0, random.uniform(0.05, 0.35), len(x))
        found = peaking.fit(x, 14 - 12 * ((x - centre) / width) ** 2 + noise)
        seen = x.min() < centre - 0.3 * width and x.max() > centre + 0.3 * width
        both += seen
        if found.centre is not None and found.uncertainty is not None:
            answered += seen
            inside += abs(found.centre - centre) <= found.uncertainty
        else:
            inside += not seen  # it said that it does not know, and it cannot
    assert inside / 2000 >= 0.90
    assert answered / both >= 0.99


def test_more_readings_tell_more() -> None:
    def spread(n: int) -> float:
        x = np.linspace(-1.5, 1.5, n)
        found = peaking.fit(x, 14 - 12 * ((x - 0.2) / 2) ** 2)
        return found.uncertainty or 99.0

    assert spread(5) > spread(9) > spread(25)


def test_two_falls_alone_give_the_middle() -> None:
    found = peaking.fit([-2.5, 1.5], [9.0, 9.1])
    assert found.method == "edges"
    assert found.centre == pytest.approx(-0.5)
    assert found.back == pytest.approx(-2.0)
    one_sided = peaking.fit([0.0, 1.0], [9.0, 12.0])
    assert one_sided.centre is None
    assert one_sided.next_position == pytest.approx(2.0)


@pytest.mark.parametrize("scale", ["pct", "tone"])
def test_a_flat_top_is_found_from_its_edges(scale: peaking.Scale) -> None:
    found = peaking.fit([-3, -2, -1, 0, 1, 2, 3, 4], [10, 50, 99, 99, 99, 99, 50, 10], scale)
    assert found.method == "edges"
    assert found.centre == pytest.approx(0.5, abs=0.1)
    assert found.warning


def test_a_meter_at_its_stop_in_db_is_seen_too() -> None:
    found = peaking.fit([-3, -2, -1, 0, 1, 2, 3], [8, 12, 15, 15, 15, 12, 8])
    assert found.method == "edges"
    assert found.centre == pytest.approx(0.0, abs=0.1)


def test_readings_in_any_order_give_the_same_top() -> None:
    x, y = np.array([-2, -1, 0, 1, 2.0]), np.array([8, 12, 14, 13, 10.0])
    order = [3, 0, 4, 1, 2]
    assert peaking.fit(x, y).centre == pytest.approx(peaking.fit(x[order], y[order]).centre)


@pytest.mark.parametrize(
    ("x", "y", "words"),
    [
        ([], [], "No reading yet"),
        ([1.0], [9.0], "One position only"),
        ([0.0, 1.0, 2.0], [9.0, 9.0, 9.0], "All readings are equal"),
        ([0.0, 1.0, 2.0, 3.0], [9.0, 11.0, 12.5, 13.0], ""),
    ],
)
def test_readings_that_tell_nothing_ask_for_the_next(
    x: list[float], y: list[float], words: str
) -> None:
    found = peaking.fit(x, y)
    assert words in found.words
    if x and not found.centre:
        assert found.next_position is not None


def test_a_top_outside_what_was_read_is_a_guess_that_says_so() -> None:
    x = np.array([0.0, 0.5, 1.0, 1.5])
    found = peaking.fit(x, 14 - 12 * ((x - 2.4) / 2.2) ** 2)
    assert found.state in ("fail", "marginal")
    assert "outside" in found.warning
    assert found.next_position is not None
    assert found.next_position > 1.5


def test_play_asks_to_come_from_one_side() -> None:
    x = np.array([-2, -1, 0, 1, 2.0])
    found = peaking.fit(x, 14 - 12 * ((x + 0.5) / 2.4) ** 2, play=0.3)
    assert "bears" in found.warning


@pytest.mark.parametrize(
    ("back", "unit", "said"),
    [
        (1.77, "turn", "1¾ turns clockwise"),
        (-1.0, "turn", "1 turn anticlockwise"),
        (-0.26, "turn", "¼ turn anticlockwise"),
        (2.5, "turn", "2½ turns clockwise"),
        (0.05, "turn", "a touch clockwise"),
        (0.0, "turn", "nothing"),
        (4.1, "flat", "4 flats clockwise"),
        (-1.0, "flat", "1 flat anticlockwise"),
        (-1.42, "deg", "1.4° left"),
    ],
)
def test_the_way_back_in_words(back: float, unit: str, said: str) -> None:
    assert str(peaking.way_back(back, unit)) == said  # type: ignore[arg-type]


def test_degrees_run_up_for_elevation_and_round_for_skew() -> None:
    assert str(peaking.way_back(0.6, "deg", "elevation")) == "0.6° up"
    assert str(peaking.way_back(-3.0, "deg", "skew")) == "3.0° anticlockwise"


def test_each_nut_is_judged_by_what_it_cost() -> None:
    rows = [
        ("azimuth", "after", 12.0),
        ("azimuth", "before", 14.0),
        ("elevation", "before", 14.0),
        ("azimuth", "after", 13.9),
        ("elevation", "after", 12.0),
    ]
    found = peaking.tightenings(rows, "db")
    assert [(t.axis, round(t.lost, 2), t.state) for t in found] == [
        ("azimuth", 0.1, "ok"),
        ("elevation", 2.0, "fail"),
    ]


def _tuned(name: str, **dish: object) -> TunedSky:
    job = JOBS[name]
    own = job.dishes[0].model_copy(update={"lean_deg": 0.0, **dish})
    job = job.model_copy(update={"dishes": (own, *job.dishes[1:])})
    target = next(t for t in job.targets if t.id == own.target)
    found = tuned_sky(JobParts(job, PARTS), own, target)
    assert found is not None
    return found


@pytest.mark.parametrize("name", [n for n in sorted(JOBS) if any(d.target for d in JOBS[n].dishes)])
def test_the_simulated_meter_stands_under_the_sky_of_the_plan(name: str) -> None:
    """On the top it shows what the link says of the carrier that it is tuned to, neighbours and the
    other polarisation counted; beside it less, by as much as the dish's pattern says."""
    sky = _tuned(name)
    job = JOBS[name].model_copy(
        update={"dishes": tuple(d.model_copy(update={"lean_deg": 0.0}) for d in JOBS[name].dishes)}
    )
    view = link_view(NetworkContext(job, PARTS, profiles.load(job.profile)), job.dishes[0].id, None)
    rows = {r.carrier: r for s in view.satellites for r in s.rows} if view else {}
    top = sky.cn_db(0, 0, 0)
    if sky.carrier.id in rows:
        assert top == pytest.approx(rows[sky.carrier.id].total_db, abs=1e-6)
    alone = replace(sky, others=())
    half = alone.cn_db(0, sky.beamwidth_deg / 2, 0)
    # Half power at half the half-power width.
    assert alone.cn_db(0, 0, 0) - half == pytest.approx(3.0, abs=0.25)
    assert alone.cn_db(0, 0, 0) >= top
    assert sky.cn_db(0, 0, 20) < top
    # The other polarisation of the same satellite comes in with a wrong skew.
    across = {"H": "V", "V": "H", "L": "R", "R": "L"}[sky.carrier.polarisation]
    twin = sky.carrier.model_copy(update={"id": "c99", "polarisation": across})
    crossed = replace(sky, beside=(*sky.beside, twin))
    assert crossed.cn_db(0, 0, 20) < sky.cn_db(0, 0, 20) - (0.5 if across in "HV" else 0.0)
    assert _tuned(name, diameter_m=JOBS[name].dishes[0].diameter_m * 1.5).cn_db(0, 0, 0) > top


def test_the_simulated_meter_is_peaked_by_the_fit() -> None:
    # A neighbour draws the best C/N a little to its other side: here there is none.
    sky = replace(_tuned("skerry-house"), others=())
    top = sky.cn_db(0, 0, 0)
    meter = SimulatedMeter(sky, 7)
    for axis in ("azimuth", "elevation"):
        start = meter.true[axis]
        rows = []
        for position in np.arange(start - 1.5, start + 1.6, 0.5):
            meter.turn(axis, float(position) - meter.at[axis])
            rows.append((meter.at[axis], meter.read()[0]))
        found = peaking.fit([p for p, _ in rows], [r for _, r in rows])
        assert found.centre == pytest.approx(meter.true[axis], abs=0.25)
        meter.turn(axis, found.centre - meter.at[axis])
    meter.turn("skew", meter.true["skew"])
    shown, locked, tone = meter.read()
    assert shown == pytest.approx(top, abs=0.8)
    assert locked
    assert tone > 900
    meter.turn("azimuth", 400)
    assert meter.at["azimuth"] == 12.0


# --- several satellites --------------------------------------------------------------------------


def test_the_bar_lies_along_the_satellites_and_feeds_are_mirrored() -> None:
    found = _detail(JOBS["alder-terrace"]).row
    assert found is not None
    lines = [f.line for f in found.feeds]
    assert all(abs(x.beside_deg) < 0.35 for x in lines)
    for x in lines:
        assert x.across_deg * x.offset_mm <= 1e-6  # a beam to the right needs its feed on the left
    main = next(x for x in lines if x.name == "Kittiwake")
    assert main.offset_mm == pytest.approx(0, abs=0.5)
    assert main.loss_db == 0
    losses = sorted((abs(x.across_deg), x.loss_db) for x in lines)
    assert [b for _, b in losses] == sorted(b for _, b in losses)


def test_each_lnb_turns_only_by_what_the_bar_does_not() -> None:
    job = JOBS["alder-terrace"]
    found = _detail(job).row
    assert found is not None
    site = job.site
    for feed in found.feeds:
        target = next(t for t in job.targets if t.id == feed.line.target)
        tilt = float(
            look(
                site.latitude_deg or 0,
                site.longitude_deg or 0,
                site.height_m + site.mount_height_m,
                target.orbit_deg_e or 0,
            ).tilt_deg
        )
        assert feed.lnb_turn_deg is not None
        assert found.tilt_deg + feed.lnb_turn_deg == pytest.approx(tilt, abs=0.01)


@given(st.floats(-8, 8), st.floats(-2, 2))
@examples(6, 125)
def test_a_feed_put_where_it_is_told_looks_where_it_should(across: float, up: float) -> None:
    dish = multifeed.Paraboloid(0.9, 0.55, 0.45)
    x, y, loss = multifeed.feed_place(dish, across, up, 11_700)
    side, rise, lost = multifeed.displaced(dish, x, y, 11_700)
    assert float(side) == pytest.approx(across, abs=0.02)
    assert float(rise) == pytest.approx(up, abs=0.02)
    assert loss == pytest.approx(float(lost), abs=0.2)
    assert loss >= -1e-9


def test_a_makers_zone_is_chosen_by_its_tilt() -> None:
    from evtro.core.job import Preset

    job = JOBS["alder-terrace"]
    zones = tuple(
        Preset(id=f"z{i}", antenna="a1", name=f"zone {i}", tilt_deg=70.0 + 4 * i)
        for i in range(1, 6)
    )
    row = _detail(job.model_copy(update={"presets": zones})).row
    assert row is not None
    assert row.zone.startswith("Zone zone 3")
    assert len(row.zones) == 5


def test_a_side_feed_starts_lower_in_the_run() -> None:
    job = JOBS["alder-terrace"]
    antenna = job.dishes[0]
    far = next(t for t in job.targets if t.name == "Garganey")
    main = next(t for t in job.targets if t.name == "Kittiwake")
    lost = link_dish(job, antenna, far, 0.7, 55).feed_loss_db
    assert lost > 3
    assert link_dish(job, antenna, main, 0.7, 55).feed_loss_db == 0
    part = lnb_part(job, antenna, far.id)
    assert part is not None
    assert part.target == far.id
    assert next(t.name for t in sats_on(job, antenna)) == "Kittiwake"
    bare = job.model_copy(update={"parts": tuple(p for p in job.parts if p.target != far.id)})
    assert lnb_part(bare, antenna, far.id) is None


# --- motor ---------------------------------------------------------------------------------------


def test_a_plumb_pole_with_a_right_zero_leaves_nothing() -> None:
    set_to = polar.settings(53.5, 30.0)
    assert max(abs(c) for _, _, c in polar.error_along_arc(53.5, set_to, 0, 0, 0)) < 0.02


def test_a_pole_that_leans_east_errs_to_both_sides() -> None:
    set_to = polar.settings(53.5, 30.0)
    rows = polar.error_along_arc(53.5, set_to, 0.5, 90, 0)
    assert rows[0][2] * rows[-1][2] < 0
    assert max(abs(c) for _, _, c in rows) == pytest.approx(
        0.5 * math.cos(math.radians(30)), abs=0.15
    )


def test_a_wrong_zero_runs_along_the_arc_and_not_off_it() -> None:
    set_to = polar.settings(40.0, 30.0)
    rows = polar.error_along_arc(40.0, set_to, 0, 0, 1.0)
    assert all(0.5 < abs(a) < 1.2 for _, a, _ in rows)
    assert max(abs(c) for _, _, c in rows) < 0.05


def test_the_motor_page_says_what_is_reached() -> None:
    found = _detail(JOBS["kauri-flat"]).motor
    assert found is not None
    assert {s.name: s.reached for s in found.stops}["Booby"] is False
    assert "ends at 60" in next(s.why for s in found.stops if s.name == "Booby")
    assert not found.settings.south
    assert "due north" in found.order[0]
    assert "Tropicbird" in found.order[1]


# --- which satellite -----------------------------------------------------------------------------


def _seen() -> list[Seen]:
    def carrier(i: int, f: float, pol: str, symbol: float) -> Carrier:
        return Carrier(
            id=f"c{i}",
            target="t1",
            name=str(f),
            frequency_mhz=f,
            bandwidth_mhz=symbol,
            polarisation=pol,
            power=50,
            modulation="DVB-S2 QPSK 3/4",
        )  # type: ignore[arg-type]

    return [
        Seen(
            "t1",
            "Corvus",
            180,
            30,
            True,
            (carrier(1, 10_714, "V", 27.5), carrier(2, 11_138, "H", 27.5)),
        ),
        Seen(
            "t2",
            "Avocet",
            183,
            30,
            False,
            (carrier(3, 10_714, "V", 22.0), carrier(4, 11_597, "V", 22.0)),
        ),
        Seen(
            "t3",
            "Lanner",
            177,
            30,
            False,
            (carrier(5, 11_264, "H", 22.0), carrier(6, 11_138, "H", 27.5)),
        ),
        Seen("t9", "Sunken", 90, -4, False, ()),
    ]


def _lock(f: float, pol: str, symbol: float, locked: bool = True, name: str = "") -> Lock:
    return Lock(
        id="k1",
        antenna="a1",
        frequency_mhz=f,
        polarisation=pol,
        symbol_mbd=symbol,  # type: ignore[arg-type]
        locked=locked,
        identity=name,
    )


def test_what_locks_names_the_neighbour_and_the_way_back() -> None:
    found = identify(
        _seen(), [_lock(11_597, "V", 22.0), _lock(10_714, "V", 22.0)], (180, 30), 3.0, "t1"
    )
    assert found.name == "Avocet"
    assert found.confidence > 0.9
    assert found.state == "fail"
    assert found.turn_azimuth_deg == pytest.approx(-3.0)
    assert "left" in found.way
    assert "not Corvus" in found.words


def test_a_carrier_that_two_send_leaves_it_open_and_the_next_try_tells() -> None:
    found = identify(_seen(), [_lock(11_138, "H", 27.5)], None, 3.0, "t1")
    assert found.confidence < 0.9
    assert found.following is not None
    assert found.following.frequency_mhz in (10_714, 11_264)
    sure = identify(_seen(), [_lock(11_138, "H", 27.5), _lock(10_714, "V", 27.5)], None, 3.0, "t1")
    assert (sure.name, sure.state) == ("Corvus", "ok")


def test_no_lock_where_one_should_be_speaks_against() -> None:
    before = identify(_seen(), [], (180, 30), 3.0, "t1").candidates
    after = identify(
        _seen(), [_lock(10_714, "V", 27.5, locked=False)], (180, 30), 3.0, "t1"
    ).candidates
    share = {c.name: c.likelihood for c in before}
    assert {c.name: c.likelihood for c in after}["Corvus"] < 0.5 * share["Corvus"]


def test_a_name_that_was_read_decides() -> None:
    found = identify(_seen(), [_lock(11_138, "H", 27.5, name="Lanner")], (180, 30), 3.0, "t1")
    assert found.name == "Lanner"
    assert found.confidence > 0.9


def test_something_on_no_list_makes_nobody_sure() -> None:
    found = identify(
        _seen(), [_lock(12_500, "V", 5.0), _lock(12_600, "H", 7.0)], (180, 30), 3.0, "t1"
    )
    assert found.confidence < 0.9
    nothing = identify([], [], None, 3.0, None)
    assert nothing.words
    assert nothing.way == ""
    with pytest.raises(InputError, match="0 MBd"):
        identify(
            _seen(),
            [Lock.model_construct(**{**_lock(11_000, "V", 1.0).model_dump(), "symbol_mbd": 0.0})],
            None,
            3.0,
            "t1",
        )


# --- refit ---------------------------------------------------------------------------------------


def _trial(i: int, depth: float, reading: float, **more: float) -> FeedTry:
    return FeedTry(id=f"y{i}", antenna="a1", depth_mm=depth, reading=reading, **more)


def test_the_log_proposes_the_next_try_axis_by_axis() -> None:
    start = refit.judge([])
    assert start.following is not None
    assert "as far back" in start.following.words
    one = refit.judge([_trial(1, 0, 6.0)])
    assert one.following is not None
    assert one.following.depth_mm == 5
    two = refit.judge([_trial(1, 0, 6.0), _trial(2, 5, 5.0)])
    assert two.following is not None
    assert two.following.depth_mm == -5
    done = [_trial(1, 0, 6.0), _trial(2, 5, 5.0), _trial(3, -5, 5.2)]
    following = refit.judge(done).following
    assert following is not None
    assert following.axis == "sideways"


def test_tries_end_at_the_top_of_a_simulated_dish() -> None:
    """A reading that falls by the square from a hidden place: the log climbs to it."""
    hidden = {"depth_mm": 12.0, "sideways_mm": -7.0, "height_mm": 4.0, "skew_deg": 11.0}

    def reads(place: dict[str, float]) -> float:
        return 12 - sum(((place[k] - v) / 9) ** 2 for k, v in hidden.items())

    trials: list[FeedTry] = []
    for i in range(60):
        following = refit.judge(trials).following
        if following is None:
            break
        place = {k: getattr(following, k) for k in hidden}
        trials.append(FeedTry(id=f"y{i + 1}", antenna="a1", reading=reads(place), **place))
    assert refit.judge(trials).following is None
    assert max(t.reading for t in trials) > 11.4
    assert len(trials) < 40


@pytest.mark.parametrize("measures", [(700, 800, 70), (800, 0, 70), (800, 700, 0), (800, 700, 900)])
def test_measures_that_make_no_dish_are_told(measures: tuple[float, float, float]) -> None:
    with pytest.raises(InputError):
        offset_reflector(*measures)
    with pytest.raises(InputError):
        prime_focus(1000, 0)


def test_a_c_band_feed_is_told_its_mark_and_distance() -> None:
    words = [text_of(w) for w in _detail(JOBS["kauri-flat"]).feedhorn.words]
    assert any("f/D 0.38" in w for w in words)
    assert any("905 mm" in w for w in words)
    assert any("90°" in w for w in words)
    shape = shape_of(JOBS["alder-terrace"].dishes[0])
    assert shape.focal_m == pytest.approx(0.66)


# --- two-way and portable ------------------------------------------------------------------------


def _beam(name: str, *ring: tuple[float, float]) -> Beam:
    return Beam(id=f"w{len(name)}", target="t1", name=name, boundary=ring)


def test_the_beam_that_holds_the_place_deepest_is_best() -> None:
    wide = _beam("wide", (-10, 50), (10, 50), (10, 60), (-10, 60))
    edge = _beam("edge!", (-1, 54), (12, 54), (12, 62), (-1, 62))
    away = _beam("away...", (20, 40), (30, 40), (30, 45))
    found = two_way.choose_beam([away, edge, wide], 55.0, 0.0)
    assert [b.name for b in found] == ["wide", "edge!", "away..."]
    assert [b.best for b in found] == [True, False, False]
    assert found[1].border_km == pytest.approx(64, abs=3)  # one degree of longitude at 55° north


def test_a_beam_over_the_date_line_holds_its_places() -> None:
    pacific = _beam("pacific", (170, -25), (-170, -25), (-170, -10), (170, -10))
    assert two_way.choose_beam([pacific], -17.0, -178.0)[0].inside
    assert two_way.choose_beam([pacific], -17.0, 178.0)[0].inside
    assert not two_way.choose_beam([pacific], -17.0, 160.0)[0].inside


@pytest.mark.parametrize(
    ("ring", "code"),
    [
        (((0, 0), (10, 10), (10, 0), (0, 10)), "polygon-crossed"),
        (((0, 0), (1, 1), (0, 0)), "polygon-short"),
        (((0, 0), (10, 95), (10, 0)), "polygon-outside"),
    ],
)
def test_a_border_that_is_none_is_told(ring: tuple[tuple[float, float], ...], code: str) -> None:
    with pytest.raises(InputError) as caught:
        two_way.check_boundary(ring)
    assert caught.value.code == code


def test_isolation_is_least_error_away_from_the_null() -> None:
    rows = two_way.isolation_db(np.array([-6.0, -1.0, 0.0, 1.0, 6.0]))
    assert rows[2] == pytest.approx(two_way.FEED_ISOLATION_DB)
    assert rows[1] == pytest.approx(rows[3])
    assert rows[0] < rows[1] < rows[2]
    assert float(two_way.isolation_db(two_way.skew_for_isolation(25.0) or 0)) == pytest.approx(25.0)
    assert two_way.skew_for_isolation(50.0) is None


def test_the_gate_stays_shut_until_all_is_there() -> None:
    hut = JOBS["tern-hut"]
    page = _detail(hut).two_way
    assert page is not None
    assert page.gate_open
    assert page.keep_out_m >= hut.dishes[0].diameter_m
    assert page.cable.state == "ok"
    unseen = hut.model_copy(
        update={"terminal": hut.terminal.model_copy(update={"licence_seen": False})}
    )
    shut = _detail(unseen).two_way
    assert shut is not None
    assert not shut.gate_open


def test_a_vehicles_roof_is_held_against_practice() -> None:
    rig = Rig(kind="vehicle", base_level_deg=6, gap_mm=3, nearest_mm=700, highest_mm=260, cable_m=9)
    states = {r.key: r.gauge.state for r in judge(rig)}
    assert states == {"level": "fail", "gap": "ok", "circle": "fail", "cable": "ok"}
    far = {r.key: r.gauge.state for r in judge(rig.model_copy(update={"nearest_mm": 950}))}
    assert far["circle"] == "ok"
    assert judge(Rig()) == []
    caravan = JOBS["fjell-caravan"].model_copy(update={"rig": rig})
    answers = work_out(caravan, CATALOGUE, profiles.load("europe"))
    assert {"rig-level", "rig-circle"} <= {p.code for p in answers.aim.problems}
    assert [s.key for s in answers.steps["mast"]] == [
        "rig.level",
        "rig.circle",
        "rig.place",
        "rig.bead",
        "rig.cable",
        "rig.reflector",
        "rig.deploy",
    ]
    # It turns by itself: nobody is told to turn it, and it is stowed before the vehicle moves.
    assert [s.key.rpartition(".")[2] for s in answers.steps["aim"]] == ["code", "search", "found"]
    assert answers.steps["handover"][-1].key == "handover.stow"


def test_an_inclined_orbit_is_told_with_its_cost(skerry: Job) -> None:
    swung = (skerry.targets[0].model_copy(update={"inclination_deg": 1.0}), *skerry.targets[1:])
    assert "swings 1.0°" in _detail(skerry.model_copy(update={"targets": swung})).inclined
    assert _detail(skerry).inclined == ""


def test_a_date_outside_the_magnetic_model_leaves_the_rest(skerry: Job) -> None:
    found = _detail(skerry.model_copy(update={"date": dt.date(2031, 1, 1)}))
    assert found.aim.compass_deg is None
    assert found.search.passes


def test_azimuth_first_turns_the_order(skerry: Job) -> None:
    first = skerry.dishes[0].model_copy(update={"coarse_first": "azimuth"})
    job = skerry.model_copy(update={"dishes": (first, *skerry.dishes[1:])})
    answers = work_out(job, CATALOGUE, profiles.load("europe"))
    keys = [s.key for s in answers.steps["aim"]]
    assert keys.index("aim.a1.azimuth") < keys.index("aim.a1.elevation")
    assert _detail(job).search.upright
