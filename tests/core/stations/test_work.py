"""The order of the work, its gates and stops, and what a reading on site does to the answers."""

from __future__ import annotations

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.core.job import Earth, Job
from evtro.core.job.changes import Arrive, Move, SeenNow, Set, Tick
from evtro.core.job.checklist import is_good
from evtro.core.job.edits import change_row
from evtro.core.stations.work import ORDER
from evtro.core.units.quantities import InputError, text_of
from tests.changes import JOBS, answers_of, behind_gates, gates_of, steps_of, taken
from tests.proving import examples, whole_only
from tests.refusals import refused

WHO = "A. Mender"


@pytest.mark.parametrize("name", sorted(JOBS))
def test_what_is_put_up_is_fixed_before_it_is_aimed(name: str) -> None:
    steps = answers_of(JOBS[name]).steps
    assert tuple(steps) == ORDER
    keys = [s.key for rows in steps.values() for s in rows]
    assert len(keys) == len(set(keys))
    peaks = [n for n, key in enumerate(keys) if key.endswith((".peak", ".search"))]
    fixed = [n for n, key in enumerate(keys) if key.startswith(("mast.", "rig."))]
    assert max(fixed) < min(peaks)


@pytest.mark.parametrize("name", sorted(JOBS))
def test_a_job_has_its_own_steps_only(name: str) -> None:
    job = JOBS[name]
    steps = {s.key: s for rows in answers_of(job).steps.values() for s in rows}
    said = " ".join(
        f"{text_of(s.title)} {text_of(s.hint)} {s.danger} {s.danger_text}" for s in steps.values()
    )
    portable = job.rig.kind != "none"
    assert ("rig.level" in steps) == portable
    assert ("mast.foot" in steps or "mast.bears" in steps or "mast.dig" in steps) != portable
    # Nobody drills a wall, for a bracket or for the cable, before it was looked into.
    assert ("site.hidden" in steps) != portable
    if portable:
        assert not {"site.hidden", "site.consent", "earth.mains", "mast.plumb"} & set(steps)
        assert "roof edge" not in said.lower()
    if job.mast.fixing == "loft":
        assert "Edge of the roof" not in said
        assert "bracket" not in " ".join(text_of(s.title) for s in steps.values()).lower()
    for dish in job.dishes:
        lock = steps.get(f"aim.{dish.id}.lock")
        if lock is not None:
            assert bool(lock.danger) == dish.two_way
        if dish.skew_turns == "dish" and f"aim.{dish.id}.skew" in steps:
            assert "whole reflector" in text_of(steps[f"aim.{dish.id}.skew"].title)
        if dish.mounting == "polar":
            assert {f"aim.{dish.id}.{k}" for k in ("zero", "axis", "scale")} <= set(steps)
            assert f"aim.{dish.id}.elevation" not in steps


def test_a_motors_scales_are_those_of_its_page() -> None:
    job = JOBS["kauri-flat"]
    steps = {s.key: s for s in answers_of(job).steps["aim"]}
    axis, scale = steps["aim.a1.axis"], steps["aim.a1.scale"]
    # Axis near the latitude, a little more; the motor's scale its complement.
    assert axis.figure is not None
    assert scale.figure is not None
    assert axis.figure.value == pytest.approx(90 - abs(job.site.latitude_deg or 0.0), abs=0.8)
    assert scale.figure.value == pytest.approx(job.dishes[0].motor_bend_deg - 2.6, abs=0.5)
    assert text_of(steps["aim.a1.azimuth"].title).endswith("north")  # south of the equator


def test_a_row_of_circular_feeds_is_tilted_as_a_whole() -> None:
    job = JOBS["alder-terrace"]
    before = next(a for a in answers_of(job).aim.aims if a.antenna == "a1")
    round_ = job.model_copy(
        update={"targets": tuple(t.model_copy(update={"circular": True}) for t in job.targets)}
    )
    after = next(a for a in answers_of(round_).aim.aims if a.antenna == "a1")
    assert after.skew_deg == pytest.approx(before.skew_deg)
    assert "aim.a1.skew" in steps_of(round_)


def test_a_step_waits_for_the_gates_before_it() -> None:
    job = JOBS["skerry-house"]
    first = gates_of(job)[0]
    with refused("gate-shut"):
        taken(job, Tick(step="mast.brackets", done=True))
    with refused("who-missing"):
        taken(job, Tick(step=first, danger_read=True))
    # The second gate is not confirmed before the first, either.
    with refused("gate-shut"):
        taken(job, Tick(step=gates_of(job)[1], danger_read=True, by=WHO))
    done = taken(behind_gates(job), Tick(step="mast.brackets", done=True))
    # A gate with something done behind it stays confirmed until that is taken back.
    with refused("gate-behind-done"):
        taken(done, Tick(step=first, danger_read=False))
    back = taken(done, Tick(step="mast.brackets", done=False))
    again = taken(back, Tick(step=first, danger_read=False))
    mark = next(m for m in again.marks if m.step == first)
    assert (mark.danger_read, mark.confirmed_by, mark.confirmed_at) == (False, "", "")


@examples(6, 125)
@given(st.randoms(use_true_random=False))
def test_in_no_order_is_anything_done_behind_a_shut_gate(rng: random.Random) -> None:
    job = JOBS["tern-hut"]
    keys = list(steps_of(job))
    gates = set(gates_of(job))
    for _ in range(30):
        key = rng.choice(keys)
        change = rng.choice(
            [
                Tick(step=key, done=True),
                Tick(step=key, done=False),
                Tick(step=key, danger_read=True, by=WHO),
                Tick(step=key, danger_read=False),
                Tick(step=rng.choice(sorted(gates)), danger_read=True, by=WHO),
            ]
        )
        try:
            job = taken(job, change)
        except InputError:
            continue
        marks = {m.step: m for m in job.marks}
        done = [k for k in keys if k in marks and marks[k].at]
        for key in done:
            before = [g for g in keys[: keys.index(key) + 1] if g in gates]
            assert all(marks[g].danger_read and marks[g].confirmed_by for g in before)


def _with_line(job: Job, **earth: object) -> Job:
    return job.model_copy(
        update={"earth": Earth.model_validate({**job.earth.model_dump(), **earth})}
    )


def test_a_line_in_the_fall_circle_stops_everything_and_has_no_tick() -> None:
    job = _with_line(JOBS["skerry-house"], overhead_lines="near", line_distance_m=2.0)
    steps = steps_of(job)
    assert "Stop" in text_of(steps["site.overhead"].stop)
    assert {s.held_by for s in steps.values()} == {None, "site.overhead"}
    for tick in (
        Tick(step="site.overhead", danger_read=True, by=WHO),
        Tick(step="site.overhead", done=True),
        Tick(step="mast.brackets", done=True),
        Tick(step="handover.labels", done=True),
    ):
        with pytest.raises(InputError, match="could fall onto") as refused:
            taken(job, tick)
        assert refused.value.code == "stop"
    # A gate that was confirmed before the line was measured stops as well.
    was = behind_gates(JOBS["skerry-house"])
    now = taken(was, Set(rows="earth", values={"line_distance_m": "2 m"}))
    with pytest.raises(InputError, match="could fall onto"):
        taken(now, Tick(step="mast.brackets", done=True))
    # Only the facts end it: another place, or a line that its operator made dead and someone was told.
    far = taken(now, Set(rows="earth", values={"line_distance_m": "30 m"}))
    taken(far, Tick(step="mast.brackets", done=True))
    half = _with_line(now, overhead_lines="dead", line_operator="The network")
    with pytest.raises(InputError, match="not confirmed that the line is dead"):
        taken(half, Tick(step="mast.brackets", done=True))
    dead = _with_line(half, line_dead_confirmed=WHO)
    taken(dead, Tick(step="mast.brackets", done=True))


def test_a_line_of_which_nothing_is_said_shuts_the_gate() -> None:
    for earth in (
        {"overhead_lines": "unknown"},
        {"overhead_lines": "near", "line_distance_m": None},
    ):
        job = _with_line(JOBS["skerry-house"], **earth)
        with refused("overhead-unsaid"):
            taken(job, Tick(step="site.overhead", danger_read=True, by=WHO))


@pytest.mark.parametrize(
    ("kv", "clear_m"),
    [(0.4, 3.0), (20.0, 3.0), (50.0, 3.0), (110.0, 4.6), (220.0, 6.1), (400.0, 7.6)],
)
def test_a_line_of_more_voltage_wants_more_room(kv: float, clear_m: float) -> None:
    """29 CFR 1926.1408 table A, from memory: 10, 15, 20 and 25 ft."""
    job = _with_line(JOBS["skerry-house"], overhead_lines="near", line_distance_m=50.0, line_kv=kv)
    earth = answers_of(job).earth
    assert (earth.overhead.low or 0.0) - earth.fall_m == pytest.approx(clear_m, abs=0.03)
    assert earth.overhead.state == "ok"


def test_an_unknown_voltage_is_asked_of_the_operator() -> None:
    job = _with_line(
        JOBS["skerry-house"], overhead_lines="near", line_distance_m=50.0, line_kv=None
    )
    problem = next(p for p in answers_of(job).earth.problems if p.code == "overhead-voltage")
    assert "operator" in text_of(problem.remedy)


def test_what_is_read_on_the_roof_changes_what_it_concerns() -> None:
    job = behind_gates(JOBS["skerry-house"])
    before = answers_of(job)
    tree = next(b for b in job.obstructions if b.name == "Row of sycamores")
    job = taken(job, Tick(step=f"sky.{tree.id}", value="24"))
    job = taken(job, Tick(step="mast.plumb", value="2.5"))
    job = taken(job, Tick(step="mast.brackets", value="0.4"))
    after = answers_of(job)
    # Seven degrees more of tree hide Halcyon, which was clear before.
    now, was = ({t.id: t.gauge.value for t in a.sky.targets}["t2"] for a in (after, before))
    assert now is not None
    assert was is not None
    assert now < was - 4
    assert after.mast.held.state == "fail"
    assert before.mast.held.state == "ok"
    assert after.aim is not before.aim
    told = {(p.station, p.code): p for p in after.problems if p.code == "read-otherwise"}
    assert set(told) == {
        ("sky", "read-otherwise"),
        ("mast", "read-otherwise"),
        ("aim", "read-otherwise"),
    }
    # The plan stays as it was typed, until the reading is taken into it.
    assert next(b for b in job.obstructions if b.id == tree.id).top_deg == tree.top_deg
    problem = told["sky", "read-otherwise"]
    assert tree.name in text_of(problem.title)
    assert all(f in text_of(problem.title) for f in ("24.0°", "17.0°"))
    kept = taken(job, problem.change)
    assert next(b for b in kept.obstructions if b.id == tree.id).top_deg == 24.0
    assert ("sky", "read-otherwise") not in {(p.station, p.code) for p in answers_of(kept).problems}


def test_a_reading_that_agrees_says_nothing_and_none_leaves_all_as_it_was() -> None:
    job = JOBS["skerry-house"]
    found = answers_of(job)
    assert found.measured is job
    read = taken(job, Tick(step="mast.brackets", value="0.91"))
    after = answers_of(read)
    assert after.mast.held.value == pytest.approx(0.91)
    assert not [p for p in after.problems if p.code == "read-otherwise"]
    # What nothing was read of is the same object, so that what rests on it is used again.
    assert after.measured.obstructions is read.obstructions
    assert answers_of(read).measured.mast is after.measured.mast


def test_a_base_off_level_is_read_on_site() -> None:
    job = JOBS["fjell-caravan"]
    assert "rig-level" not in {p.code for p in answers_of(job).aim.problems}
    off = taken(job, Tick(step="rig.level", value="3"))
    assert "rig-level" in {p.code for p in answers_of(off).aim.problems}


def test_the_owners_leave_that_is_had_at_the_door_is_that_of_site() -> None:
    job = behind_gates(JOBS["skerry-house"], until="sky.stand")
    assert job.site.consent == "unasked"
    had = taken(job, Tick(step="site.consent", done=True))
    assert had.site.consent == "given"
    known = job.model_copy(update={"site": job.site.model_copy(update={"consent": "given"})})
    assert "site.consent" not in steps_of(known)


@pytest.mark.parametrize(
    ("part", "off", "code"),
    [
        ("elevation", 4.0, "elevation-read"),
        ("skew", 12.0, "skew-read"),
        ("azimuth", 16.0, "azimuth-read"),
    ],
)
def test_a_dish_that_was_set_otherwise_is_told_with_both_figures(
    part: str, off: float, code: str
) -> None:
    job = JOBS["skerry-house"].model_copy(update={"locks": ()})
    step = steps_of(job)[f"aim.a1.{part}"]
    assert step.figure is not None
    good = taken(job, Tick(step=step.key, value=f"{step.figure.value + 0.1:.2f}"))
    assert code not in {p.code for p in answers_of(good).aim.problems}
    bad = taken(job, Tick(step=step.key, value=f"{step.figure.value + off:.2f}"))
    problem = next(p for p in answers_of(bad).aim.problems if p.code == code)
    assert problem.state == "fail"
    assert "planned" in text_of(problem.limit)


def test_at_the_next_stop_everyone_looks_again() -> None:
    job = behind_gates(JOBS["fjell-caravan"])
    stop = next(s for s in job.stops if s.id != job.rig.stop)
    there = taken(job, Arrive(stop=stop.id))
    assert there.earth.overhead_lines == "unknown"
    assert there.marks == ()
    with pytest.raises(InputError, match="nobody has confirmed"):
        taken(there, Tick(step="rig.level", done=True))


def test_a_mount_that_is_moved_has_its_line_measured_anew() -> None:
    job = behind_gates(JOBS["skerry-house"])
    there = taken(job, Move(bearing_deg=90, distance_m=3))
    assert there.earth.line_distance_m is None
    with refused("gate-shut"):
        taken(there, Tick(step="mast.brackets", done=True))
    problem = next(p for p in answers_of(there).earth.problems if p.code == "overhead")
    assert "Measure it" in text_of(problem.remedy)
    # Where there is none, none comes near by a move.
    bare = taken(
        _with_line(job, overhead_lines="none", line_distance_m=None),
        Move(bearing_deg=90, distance_m=3),
    )
    assert bare.earth.overhead_lines == "none"


def test_a_leave_that_was_refused_is_not_had_by_a_tick() -> None:
    job = taken(JOBS["skerry-house"], Set(rows="site", values={"consent": "refused"}))
    with refused("consent-refused"):
        taken(behind_gates(job, until="sky.stand"), Tick(step="site.consent", done=True))


@pytest.mark.parametrize(
    ("name", "lean", "state"),
    [
        ("skerry-house", 0.5, None),
        ("skerry-house", 1.0, "marginal"),
        ("skerry-house", 2.5, "fail"),
        ("alder-terrace", 0.8, "fail"),
        ("kauri-flat", 0.8, "fail"),
        ("tern-hut", 0.8, "fail"),
    ],
)
def test_a_mast_out_of_plumb_is_never_in(name: str, lean: float, state: str | None) -> None:
    """By reading and by plan alike: a row of feeds, a motor and a terminal bear less than one satellite."""
    job = taken(JOBS[name], Tick(step="mast.plumb", value=f"{lean}"))
    planned = taken(JOBS[name], Set(rows="dishes", id="a1", values={"lean_deg": f"{lean}"}))
    for one in (job, planned):
        found = answers_of(one).mast
        assert next((p.state for p in found.problems if p.code == "mast-lean"), None) == state
        assert state is None or found.state in (state, "fail")


def test_out_of_its_limits_it_is_not_done_until_it_is_read_again_or_left_with_a_reason() -> None:
    house = behind_gates(JOBS["skerry-house"])
    read = taken(house, Tick(step="mast.plumb", value="2,5"))
    with refused("reading-out"):
        taken(read, Tick(step="mast.plumb", done=True))
    with refused("reading-out"):
        taken(house, Tick(step="mast.plumb", done=True, value="2,5"))
    step = steps_of(read)["mast.plumb"]
    # 0.85 m held, 2.5 degrees off: by hand 0.85 m x tan 2.5 = 37.1 mm.
    assert "37.1" in text_of(step.mend) or f"{1000 * read.mast.held_m * 0.043661:.1f}" in text_of(
        step.mend
    )
    left = taken(read, Tick(step="mast.plumb", done=True, left="bracket ordered", by=WHO))
    (mark,) = (m for m in left.marks if m.step == "mast.plumb")
    assert (mark.left_why, mark.done_by, bool(mark.at)) == ("bracket ordered", WHO, True)
    again = taken(
        taken(left, Tick(step="mast.plumb", value="0.2")),
        Tick(step="mast.plumb", done=True, by=WHO),
    )
    (mark,) = (m for m in again.marks if m.step == "mast.plumb")
    assert (mark.left_why, mark.value) == ("", 0.2)


def test_what_is_found_out_is_never_wrong() -> None:
    """A tree is as high as it is: the step that measures it asks for no height."""
    house = behind_gates(JOBS["skerry-house"])
    measured = taken(house, Tick(step="sky.b3", value="25", done=True))
    assert any(m.step == "sky.b3" and m.at for m in measured.marks)


def test_done_twice_it_was_done_when_it_was_done_first() -> None:
    house = behind_gates(JOBS["skerry-house"])
    first = taken(house, Tick(step="site.entry", done=True, by="Ada", waited_s=3600))
    (mark,) = (m for m in first.marks if m.step == "site.entry")
    assert (mark.at, mark.done_by) == ("2026-01-02 02:04", "Ada")
    second = taken(first, Tick(step="site.entry", done=True, by="Ben"))
    assert second == first
    # One that waited longer, on a phone without a network, was done earlier still.
    earlier = taken(first, Tick(step="site.entry", done=True, by="Ben", waited_s=7200))
    (mark,) = (m for m in earlier.marks if m.step == "site.entry")
    assert (mark.at, mark.done_by) == ("2026-01-02 01:04", "Ada")
    opened = taken(second, Tick(step="site.entry", done=False))
    (mark,) = (m for m in opened.marks if m.step == "site.entry")
    assert (mark.at, mark.done_by) == ("", "")


@pytest.mark.parametrize("name", sorted(JOBS))
def test_every_step_says_what_it_takes(name: str) -> None:
    job = JOBS[name]
    steps = [s for rows in answers_of(job).steps.values() for s in rows]
    assert all(0 < s.minutes <= 240 for s in steps)
    assert all(bool(s.wait_min) == bool(s.wait_for) for s in steps)
    low = job.rig.kind != "none" or job.mast.fixing == "loft" or job.site.mount_height_m <= 2
    assert any(s.high for s in steps) != low
    assert not any(s.high for s in steps if s.key.startswith(("readings.", "handover.", "site.")))


@pytest.mark.parametrize("name", ["skerry-house", "tern-hut", "kauri-flat"])
def test_nothing_is_peaked_before_its_locks_are_seen_loose_and_all_is_tried_at_the_end(
    name: str,
) -> None:
    job = behind_gates(JOBS[name])
    keys = list(steps_of(job))
    loose, peak, tight = (
        next(k for k in keys if k.startswith("aim.") and k.endswith(f".{w}"))
        for w in ("loose", "peak", "tight")
    )
    assert keys.index(loose) < keys.index(peak) < keys.index(tight)
    with pytest.raises(InputError) as refused:
        taken(job, Tick(step=peak, done=True))
    assert refused.value.code == "step-first"
    # Left with a reason it is no obstacle: a head that turns in its clamp has no locks.
    left = taken(job, Tick(step=loose, done=True, left="no fine screws on this one"))
    assert taken(left, Tick(step=peak, done=True)) != left
    # One that still turns keeps the last step open.
    locked = taken(left, Tick(step=tight.replace("tight", "lock"), done=True))
    things = steps_of(locked)[tight].things
    assert len(things) >= 4
    for state in (None, "snug"):
        said = {things[0].key: SeenNow(state=state)} if state else {}
        rest = {t.key: SeenNow(state="tight") for t in things[1:]}
        with pytest.raises(InputError) as refused:
            taken(locked, Tick(step=tight, done=True, seen={**said, **rest}))
        assert refused.value.code == "thing-open"
    whole = taken(
        locked,
        Tick(step=tight, done=True, by="B", seen={t.key: SeenNow(state="tight") for t in things}),
    )
    assert {s.state for s in whole.seen if s.step == tight} == {"tight"}
    assert all(s.seen_by == "B" and s.at for s in whole.seen)
    # Loose things do not pass for tight ones, whatever was typed at another step.
    with pytest.raises(InputError):
        taken(locked, Tick(step=tight, seen={"horn": SeenNow(state="tight")}))


def test_a_torque_that_is_read_must_be_what_the_kit_asks() -> None:
    dish = JOBS["skerry-house"].dishes[0]
    job = behind_gates(
        taken(
            JOBS["skerry-house"], Set(rows="dishes", id=dish.id, values={"lock_torque_nm": "12 Nm"})
        )
    )
    tight = f"aim.{dish.id}.tight"
    things = [t.key for t in steps_of(job)[tight].things]
    for reads, good in (("", True), ("12", True), ("13.8", True), ("14.5", False), ("9", False)):
        seen = {k: SeenNow(state="tight", torque_nm=reads) for k in things}
        said = steps_of(taken(job, Tick(step=tight, seen=seen)))[tight].things
        assert all(is_good(t) == good for t in said)
    # In pound-feet it is the same torque.
    seen = {k: SeenNow(state="tight", torque_nm="8.85 ft lb") for k in things}
    assert all(is_good(t) for t in steps_of(taken(job, Tick(step=tight, seen=seen)))[tight].things)


def test_a_line_of_the_kit_that_came_damaged_keeps_its_step_open_and_is_told_on_the_sheet() -> None:
    house = behind_gates(JOBS["skerry-house"])
    lines = steps_of(house)["site.kit"].things
    assert {t.key.partition(".")[0] for t in lines} >= {"antenna", "part", "cable", "connector"}
    seen = {t.key: SeenNow(state="there") for t in lines[1:]}
    seen[lines[0].key] = SeenNow(state="damaged", note="rim bent")
    with pytest.raises(InputError) as refused:
        taken(house, Tick(step="site.kit", done=True, seen=seen))
    assert refused.value.code == "thing-open"
    left = taken(
        house, Tick(step="site.kit", done=True, seen=seen, left="a new one comes tomorrow")
    )
    done = next(s for s in answers_of(left).sheet if s.title == "Steps done")
    assert any("damaged, rim bent" in text_of(line.text) for line in done.lines)


def test_a_reading_keeps_the_north_that_it_was_read_from() -> None:
    """It was kept as a bare number, and was another bearing as soon as the compass was believed again."""
    job = behind_gates(JOBS["skerry-house"])
    key = next(k for k, s in steps_of(job).items() if k.endswith(".azimuth") and s.measure)
    step = steps_of(job)[key]
    assert step.measure is not None
    assert step.figure is not None
    assert step.measure.unit == "deg_mag"
    read = taken(job, Tick(step=key, value=f"{step.figure.value:.1f}"))
    assert steps_of(read)[key].measure.state == "ok"  # type: ignore[union-attr]
    mark = next(m for m in read.marks if m.step == key)
    assert mark.unit == "deg_mag"
    turn = answers_of(read).aim.declination_deg or 0.0
    true = change_row(
        read, "marks", mark.id, {"unit": "deg_true", "value": round((mark.value or 0) + turn, 1)}
    )
    again = steps_of(true)[key].measure
    assert again is not None
    assert again.value == pytest.approx(mark.value, abs=0.06)
    done = next(s for s in answers_of(true).sheet if s.title == "Steps done")
    assert any("°T" in text_of(line.text) for line in done.lines)


def test_a_step_takes_as_long_as_whoever_does_it_says() -> None:
    house = behind_gates(JOBS["skerry-house"])
    usual = steps_of(house)["site.outlets"].minutes
    own = taken(house, Tick(step="site.outlets", minutes="25"))
    assert (steps_of(own)["site.outlets"].minutes, steps_of(own)["site.outlets"].usual_min) == (
        25,
        usual,
    )
    assert (
        steps_of(taken(own, Tick(step="site.outlets", minutes="")))["site.outlets"].minutes == usual
    )
    for wrong in ("0", "-5", "half an hour", "99999"):
        with pytest.raises(InputError):
            taken(house, Tick(step="site.outlets", minutes=wrong))


def test_what_lies_behind_a_wall_stops_the_drill() -> None:
    house = behind_gates(JOBS["skerry-house"])
    assert not steps_of(house)["site.hidden"].stop
    found = taken(house, Set(rows="mast", id="", values={"behind": "service"}))
    assert steps_of(found)["site.hidden"].stop
    assert any(
        p.code == "service-behind" and p.state == "fail" for p in answers_of(found).mast.problems
    )
    with pytest.raises(InputError) as refused:
        taken(found, Tick(step="mast.bolts", done=True))
    assert refused.value.code == "stop"
    link = next(k for k in house.links if k.length_m > 1)
    hole = taken(
        house,
        Set(
            rows="links",
            id=link.id,
            values={"route": [["wall", 3.0], ["hole", 0.4]], "behind": "service"},
        ),
    )
    assert steps_of(hole)[f"coax.{link.id}.hole"].stop
    assert any(p.code == "service-behind" for p in answers_of(hole).coax.problems)


def test_nobody_goes_up_before_the_weather_is_looked_at() -> None:
    house = behind_gates(JOBS["skerry-house"], until="sky.weather")
    with pytest.raises(InputError) as refused:
        taken(house, Tick(step="sky.stand", done=True))
    assert refused.value.code == "gate-shut"
    calm = taken(house, Tick(step="sky.weather", danger_read=True, by="A", value="23 mph"))
    with pytest.raises(InputError) as refused:
        taken(calm, Tick(step="sky.weather", done=True))
    assert refused.value.code == "reading-out"
    assert "sky.weather" not in steps_of(JOBS["kittiwake-van"])


def test_a_hole_on_the_way_is_drilled_before_the_cable_is_pulled() -> None:
    house = JOBS["skerry-house"]
    assert not any(k.endswith(".hole") for k in steps_of(house))
    link = house.links[1]
    route = [["mast", 1.0], ["wall", 3.0], ["loop", 0.3], ["hole", 0.4], ["duct", 5.0]]
    routed = taken(house, Set(rows="links", id=link.id, values={"route": route}))
    steps = steps_of(routed)
    keys = list(steps)
    hole, pull = f"coax.{link.id}.hole", f"coax.{link.id}"
    assert keys.index("site.hidden") < keys.index(hole) < keys.index(pull)
    # Half an inch and more for a cable of 7 mm with its connector; 0.4 m at five degrees fall by 35 mm.
    assert steps[hole].figure is not None
    assert steps[hole].figure.value == 13
    assert "35 mm lower" in text_of(steps[hole].hint)
    assert "pull line" in text_of(steps[pull].hint)
    tools = {text_of(n.name) for n in answers_of(routed).kit.needs} - {
        text_of(n.name) for n in answers_of(house).kit.needs
    }
    assert any("13 mm" in t for t in tools)


def test_what_was_left_is_still_open_on_the_sheet() -> None:
    house = behind_gates(JOBS["skerry-house"])
    left = taken(house, Tick(step="site.kit", done=True, left="one reel is missing"))
    still = next(s for s in answers_of(left).sheet if s.title == "Still open")
    assert any("one reel is missing" in text_of(line.text) for line in still.lines)


@pytest.mark.parametrize(
    ("name", "step", "reads"),
    [
        ("skerry-house", "sky.b3", "361"),
        ("skerry-house", "mast.brackets", "900"),
        ("kittiwake-van", "rig.level", "88"),
    ],
)
def test_a_reading_that_nothing_can_have_is_refused(name: str, step: str, reads: str) -> None:
    """It was kept, and the plan was reckoned with it."""
    job = JOBS[name]
    with refused("too-large"):
        taken(job, Tick(step=step, value=reads))


def test_the_gap_under_a_base_that_was_read_counts() -> None:
    van = behind_gates(JOBS["kittiwake-van"])
    read = answers_of(taken(van, Tick(step="rig.place", value="9")))
    assert any(p.code == "rig-gap" and p.state == "fail" for p in read.aim.problems)
    assert not any(p.code == "rig-gap" for p in answers_of(van).aim.problems)


@pytest.mark.long
# The two large blocks have the steps of others, a hundred times over.
@pytest.mark.parametrize(
    "name",
    [
        pytest.param(n, marks=whole_only) if n in ("whimbrel-court", "sorrel-court") else n
        for n in sorted(JOBS)
    ],
)
def test_a_job_is_walked_from_its_first_step_to_its_last(name: str) -> None:
    """Each step opens when the one before it is done, and not before its own danger is confirmed by name."""
    job = JOBS[name]
    keys = list(steps_of(job))
    for key in keys:
        step = steps_of(job)[key]
        if step.things:
            seen = {t.key: SeenNow(state=t.good[-1]) for t in step.things}
            job = taken(job, Tick(step=key, seen=seen))
        if step.danger:
            with pytest.raises(InputError):
                taken(job, Tick(step=key, done=True, by="A. Mender"))
            job = taken(job, Tick(step=key, danger_read=True, by="A. Mender"))
        job = taken(job, Tick(step=key, done=True, by="A. Mender"))
    marks = {m.step: m for m in job.marks}
    assert all(marks[key].at for key in keys)
    assert all(m.confirmed_by == "A. Mender" for m in marks.values() if m.danger_read)
