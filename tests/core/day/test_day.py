"""A day of several jobs: the clock, who does what, wind and light, the better order, one van's list."""

from __future__ import annotations

import datetime as dt
import itertools
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.catalogue import load
from evtro.core.answers import work_out
from evtro.core.day.order import Cost, best_order, road_min
from evtro.core.day.plan import DayPlan, Hour, Visit
from evtro.core.day.typed import clock, read_clock, read_minutes
from evtro.core.day.view import DayJob, DayView, day_view, van
from evtro.core.day.weather import light, sky_of
from evtro.core.day.work import BEGUN, FINISHED, Stint, tasks_of, timeline
from evtro.core.job import Job
from evtro.core.stations.kit.kit import REEL_M
from evtro.core.units.quantities import InputError, text_of
from evtro.demo.world import kept_jobs
from evtro.profiles import shop_profile
from tests.proving import examples
from tests.refusals import refused

DAY = dt.date(2026, 4, 14)
SHOP = load()
JOBS = kept_jobs()


def _of(key: str, job: Job | None = None) -> DayJob:
    job = job or JOBS[key]
    answers = work_out(job, SHOP, shop_profile(job))
    return DayJob(key=key, job=job, steps=answers.steps, kit=answers.kit, problems=answers.problems)


NEAR = [_of(k) for k in ("marten-lodge", "kittiwake-van", "plover-cottage")]


def _plan(jobs: list[DayJob], **more: object) -> DayPlan:
    visits = tuple(Visit(job=j.key, travel_min=20) for j in jobs)
    return DayPlan.model_validate({"date": DAY, "crew": ("A", "B"), "visits": visits, **more})


def _day(jobs: list[DayJob], **more: object) -> DayView:
    return day_view(_plan(jobs, **more), jobs)


@pytest.mark.parametrize("text", ["7:30", "07.30", "0730", "7 30", "7:30 am", "7h30"])
def test_a_time_is_read_as_people_write_it(text: str) -> None:
    assert read_clock("Leave at", text) == 450
    assert clock(450) == "07:30"


@pytest.mark.parametrize("text", ["", "half past", "25:00", "7:61", "7:3", "12345", "-1"])
def test_a_time_that_is_none_is_refused(text: str) -> None:
    with refused("no-time"):
        read_clock("Leave at", text)


@pytest.mark.parametrize(
    ("text", "minutes"),
    [
        ("24", 24),
        ("24 min", 24),
        ("1:10", 70),
        ("1 h 10", 70),
        ("1,5 h", 90),
        ("90m", 90),
        ("0", 0),
        ("", None),
    ],
)
def test_how_long_is_read_as_people_write_it(text: str, minutes: float | None) -> None:
    assert read_minutes("Road", text) == minutes


@pytest.mark.parametrize("text", ["soon", "11 h", "-5", "1:70", "h"])
def test_how_long_that_cannot_be_is_refused(text: str) -> None:
    with pytest.raises(InputError):
        read_minutes("Road", text)


@pytest.mark.parametrize("crew", [1, 2, 3])
@pytest.mark.parametrize("key", sorted(JOBS))
def test_the_work_keeps_its_order_and_nobody_is_in_two_places(key: str, crew: int) -> None:
    job = JOBS[key]
    steps = work_out(job, SHOP, shop_profile(job)).steps
    tasks = tasks_of(steps, job, crew)
    line = timeline(tasks, crew)
    wanted = sum(s.minutes for rows in steps.values() for s in rows)
    assert sum(t.minutes for t in tasks) == pytest.approx(wanted)
    for a, b in itertools.combinations(line.bars, 2):
        if set(a.who) & set(b.who):
            assert a.end <= b.begin + 1e-9 or b.end <= a.begin + 1e-9
    for bar in line.bars:
        assert bar.end - bar.begin == pytest.approx(bar.task.minutes)
        before = [b for b in line.bars if b.task.station in FINISHED[bar.task.station]]
        assert all(b.end <= bar.begin + 1e-9 for b in before)
        for station in BEGUN.get(bar.task.station, ()):
            first = [b.begin for b in line.bars if b.task.station == station]
            assert not first or min(first) <= bar.begin + 1e-9
    if crew == 1 and not line.waits:
        assert line.minutes == pytest.approx(wanted)


@given(st.lists(st.tuples(st.sampled_from(sorted(FINISHED)), st.floats(1, 90)), max_size=12))
@examples(15, 300)
def test_one_more_pair_of_hands_never_makes_it_longer_than_alone(
    rows: list[tuple[str, float]],
) -> None:
    order = list(FINISHED)
    tasks = [Stint(s, s, m, 1) for s, m in sorted(rows, key=lambda r: order.index(r[0]))]
    alone, two = timeline(tasks, 1), timeline(tasks, 2)
    assert alone.minutes == pytest.approx(sum(m for _, m in rows))
    assert two.minutes <= alone.minutes + 1e-6


def test_a_case_by_hand() -> None:
    """Ten minutes round the house, half an hour up the mast; then one earths for twenty while the other aims
    for forty; both cables at once; then it is read."""
    tasks = [
        Stint("site", "", 10, 1),
        Stint("mast", "", 30, 1, high=True),
        Stint("earth", "", 20, 1),
        Stint("aim", "", 40, 1, high=True),
        Stint("coax", "", 15, 2),
        Stint("readings", "", 5, 1, wait_min=8, wait_for="the scan"),
        Stint("handover", "", 10, 1),
    ]
    line = timeline(tasks, 2)
    at = {b.task.station: (b.begin, b.end) for b in line.bars}
    assert at["earth"] == (40, 60)
    assert at["aim"] == (40, 80)
    assert at["coax"] == (60, 75)
    assert at["readings"] == (80, 85)
    assert at["handover"] == (93, 103)
    assert line.minutes == 103
    # Who was up there goes on up there.
    who = {b.task.station: b.who for b in line.bars}
    assert who["aim"] == who["mast"] != who["earth"]


def test_what_is_done_is_no_work_any_more() -> None:
    from evtro.demo.progress import under_way

    before, after = (
        _day([_of("plover-cottage", j)])
        for j in (
            JOBS["plover-cottage"],
            under_way(JOBS["plover-cottage"], ("site", "sky", "mast", "earth")),
        )
    )
    assert after.work_min < before.work_min - 60
    assert not any(b.station == "mast" for v in after.visits for b in v.bars)


def test_concrete_ends_the_day() -> None:
    job = JOBS["marten-lodge"]
    pole = job.model_copy(update={"mast": job.mast.model_copy(update={"fixing": "pole"})})
    day = _day([_of("marten-lodge", pole)])
    assert {b.station for b in day.visits[0].bars} == {"site", "sky", "mast"}
    assert any("another visit" in text_of(q.why) for q in day.questions)


def test_a_lift_for_two_is_told_to_one() -> None:
    job = JOBS["marten-lodge"]
    heavy = job.model_copy(
        update={"arrays": tuple(a.model_copy(update={"weight_kg": 26.0}) for a in job.arrays)}
    )
    assert any(
        "lift for two" in text_of(c)
        for c in _day([_of("marten-lodge", heavy)], crew=("A",)).visits[0].clashes
    )
    assert not _day([_of("marten-lodge", heavy)]).visits[0].clashes
    assert _day([_of("marten-lodge")], crew=("A",)).alone
    assert not _day([_of("marten-lodge")]).alone


def _wind(*rows: tuple[float, float]) -> tuple[Hour, ...]:
    return tuple(Hour(at_min=60 * h, wind_ms=w) for h, w in rows)


def test_wind_and_dark_are_clashes_at_height_only() -> None:
    calm = _day(NEAR, forecast=_wind((5, 3), (22, 3)), starts_min=420)
    assert not any("wind" in text_of(c) for v in calm.visits for c in v.clashes)
    blown = _day(NEAR, forecast=_wind((5, 14), (22, 14)), starts_min=420)
    hit = {v.job for v in blown.visits if any("wind" in text_of(c) for c in v.clashes)}
    high = {v.job for v in blown.visits if any(b.high for b in v.bars)}
    assert hit == high == {"marten-lodge", "plover-cottage"}
    assert all(b.high for v in blown.visits for b in v.bars if b.clash)
    night = _day(NEAR[:1], starts_min=60, utc_offset_min=0)
    assert any("sunrise" in text_of(c) for c in night.visits[0].clashes)


def test_what_lies_past_midnight_is_night() -> None:
    late = _day(NEAR[:1], starts_min=1430 - 60)
    assert any("sunrise" in text_of(c) for c in late.visits[0].clashes)
    assert late.unforecast
    high = sum(b.end - b.begin for b in late.visits[0].bars if b.high)
    assert late.clash_min == pytest.approx(high)


def test_gusts_count_and_silence_is_told() -> None:
    gusty = tuple(Hour(at_min=60.0 * h, wind_ms=6, gust_ms=12) for h in range(5, 22))
    assert _day(NEAR[:1], forecast=gusty).visits[0].clashes
    assert _day(NEAR[:1]).unforecast
    assert _day(NEAR[:1], forecast=_wind((5, 2), (9, 2))).unforecast  # it ends before the work does
    assert not _day(NEAR[:1], forecast=_wind((4, 2), (23, 2))).unforecast


def test_the_roofs_come_before_the_wind_and_nothing_gets_worse() -> None:
    jobs = [NEAR[1], NEAR[2], NEAR[0]]
    hours = _wind((5, 3), (10, 5), (12, 12), (22, 12))
    day = _day(jobs, forecast=hours)
    assert day.clash_min > 60
    assert day.proposal is not None
    assert day.proposal.order[0] in ("marten-lodge", "plover-cottage")
    by_key = {j.key: j for j in jobs}
    then = day_view(
        DayPlan(
            date=DAY,
            crew=("A", "B"),
            forecast=hours,
            visits=tuple(Visit(job=k) for k in day.proposal.order),
        ),
        [by_key[k] for k in day.proposal.order],
    )
    assert then.clash_min < day.clash_min - 30
    again = then.proposal
    assert again is None or "less on the road" in text_of(again.effect)


@pytest.mark.parametrize("seed", range(6))
def test_the_best_order_is_that_of_all_of_them(seed: int) -> None:
    """Against every order tried (itertools), also where more visits are moved one at a time."""
    import random

    chance = random.Random(seed)
    road = [[chance.uniform(5, 60) for _ in range(8)] for _ in range(8)]

    def cost(order: object) -> Cost:
        rows = list(order)  # type: ignore[call-overload]
        return Cost(0.0, 0.0, sum(road[a][b] for a, b in itertools.pairwise(rows)))

    five = best_order(5, cost)
    assert cost(five).road_min == pytest.approx(
        min(cost(o).road_min for o in itertools.permutations(range(5)))
    )
    eight = best_order(8, cost)
    assert cost(eight).road_min <= cost(range(8)).road_min
    assert sorted(eight) == list(range(8))


def test_a_road_that_nobody_typed_follows_the_map() -> None:
    """A degree of latitude is 111.2 km (Karney's geodesic, by pyproj): an hour and three quarters and more."""
    near = road_min((53.0, -9.0), (53.0, -9.0), 20)
    far = road_min((53.0, -9.0), (54.0, -9.0), 20)
    assert near == pytest.approx(5)
    assert far == pytest.approx(5 + 1.35 * 111.3 / 45 * 60, rel=0.002)
    assert road_min(None, (54.0, -9.0), 17) == 17


def test_the_van_holds_what_all_of_them_need_and_tools_once() -> None:
    day = _day(NEAR)
    alone = [_day([j]) for j in NEAR]
    metres = sum(c.length_m for r in day.reels for c in r.cuts)
    assert metres == pytest.approx(sum(c.length_m for d in alone for r in d.reels for c in r.cuts))
    assert len(day.reels) <= sum(len(d.reels) for d in alone)
    for reel in day.reels:
        assert reel.left_m == pytest.approx(
            reel.reel_m - sum(c.length_m for c in reel.cuts), abs=0.02
        )
    assert [n.count for n in day.needs if text_of(n.name) == "compass"] == [1]
    connectors = sum(n.count for n in day.needs if n.kind == "connector")
    assert connectors == sum(n.count for d in alone for n in d.needs if n.kind == "connector")


def test_prices_add_up_where_both_are_known_and_a_long_cable_has_a_reel_of_its_own() -> None:
    """Two and a half of one and three of another are five and a half; what one does not know nobody knows."""
    first, second = NEAR[0], NEAR[1]

    def with_price(job: DayJob, price: float | None, count: int) -> DayJob:
        one = next(n for n in first.kit.needs if n.kind == "connector")
        need = replace(one, price=price, count=count, spare=count)
        return replace(job, kit=replace(job.kit, needs=[need], reels=[]))

    (together,) = van([with_price(first, 2.5, 4), with_price(second, 3.0, 6)])[0]
    assert (together.price, together.count, together.spare) == (5.5, 10, 10)
    (half,) = van([with_price(first, 2.5, 4), with_price(second, None, 6)])[0]
    assert half.price is None
    reel = next(r for r in first.kit.reels if r.cuts)
    long = replace(reel.cuts[0], length_m=REEL_M + 20)
    kit = replace(first.kit, needs=[], reels=[replace(reel, cuts=[long, reel.cuts[0]])])
    reels = van([replace(first, kit=kit)])[1]
    assert sorted(r.reel_m for r in reels) == [REEL_M, REEL_M + 20]
    assert [r.left_m for r in reels if r.reel_m > REEL_M] == [0]
    assert all(c.label == first.job.name for r in reels for c in r.cuts)


def test_the_end_of_a_day_is_its_last_work_and_the_way_home() -> None:
    """Two jobs by hand: each begins where the way to it ends, and the day ends at home."""
    day = _day(NEAR[:2], home_min=25.0)
    first, second = day.visits
    assert first.leaves == pytest.approx(first.arrives + first.work_min)
    assert second.arrives == pytest.approx(first.leaves + second.road_min)
    assert day.back == pytest.approx(second.leaves + 25.0)
    assert day.road_min == pytest.approx(first.road_min + second.road_min + 25.0)
    assert day.work_min == pytest.approx(first.work_min + second.work_min)


def test_a_job_that_is_gone_is_told_and_the_rest_stands() -> None:
    plan = _plan(NEAR)
    day = day_view(plan, [NEAR[0], None, NEAR[2]])
    assert [v.missing for v in day.visits] == [False, True, False]
    assert "not there" in text_of(day.visits[1].clashes[0])
    assert day.visits[2].arrives > day.visits[0].leaves
    empty = day_view(plan.model_copy(update={"visits": ()}), [])
    assert (empty.visits, empty.work_min, empty.proposal) == ([], 0, None)


def test_where_the_sun_does_not_set_nothing_is_dark() -> None:
    rises, sets = light(68.14, 15.42, dt.date(2026, 7, 2))
    assert (rises, sets) == (None, None)
    plan = DayPlan(date=dt.date(2026, 7, 2))
    assert not sky_of(plan, 68.14, 15.42).dark.any()
    assert sky_of(plan.model_copy(update={"date": dt.date(2026, 12, 20)}), 68.14, 15.42).dark.all()
