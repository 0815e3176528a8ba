"""The survey: growth, eaves, what frees a view, places compared, the mount moved."""

from __future__ import annotations

import datetime as dt
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import profiles
from evtro.core.job import Carrier, Dish, Job, Obstruction, Site, Spot, Target
from evtro.core.job.changes import Change, Move, Set
from evtro.core.job.parts import Catalogue
from evtro.core.job.profile import Profile
from evtro.core.job.targets import sight_of
from evtro.core.stations.site.skyline import View, edges_of, room, silhouettes, top_deg, top_m
from evtro.core.stations.sky import answer as sky
from evtro.core.stations.sky import moves
from evtro.core.stations.sky.answer import _bare
from evtro.core.stations.sky.lines import Survey
from evtro.core.stations.sky.remedies import Wants, asked_deg, closing_years, least_slack, remedies
from evtro.core.stations.sky.spots import compare
from evtro.core.stations.sky.sun_events import sun_view
from evtro.core.units.quantities import text_of
from evtro.demo.world import demo_jobs
from tests.changes import taken
from tests.refusals import refused


def _tree(**more: object) -> Obstruction:
    values = {
        "id": "b1",
        "name": "Ash",
        "outline": "crowns",
        "nature": "leafy",
        "from_deg": 170.0,
        "to_deg": 190.0,
        "above_m": 6.0,
        "distance_m": 20.0,
        "seen_from_m": 6.0,
        "growth_m_year": 0.5,
    }
    return Obstruction.model_validate(values | more)


def _wants(az: float = 180.0, el: float = 25.0, margin: float = 5.0) -> Wants:
    one = np.array([1.0])
    return Wants(az * one, el * one, margin * one, 0.0 * one, 0.0 * one)


def test_a_tree_grows_and_its_top_rises() -> None:
    tree = _tree()
    assert top_m(tree) == pytest.approx(12.0)
    assert top_m(tree, 4) == pytest.approx(14.0)
    assert top_deg(tree, 6.0, 4) > top_deg(tree, 6.0)
    # Without a distance nobody knows how far the top will rise.
    far = _tree(distance_m=None, above_m=None, top_deg=12.0)
    assert top_deg(far, 6.0, 10) == 12.0


@given(st.floats(0.05, 2.0), st.floats(10, 60), st.floats(18, 60))
def test_the_year_it_closes_is_the_first_in_which_it_is_short(
    growth: float, distance: float, elevation: float
) -> None:
    tree = _tree(growth_m_year=growth, distance_m=distance)
    wants = _wants(el=elevation)
    year = closing_years(wants, [tree], 6.0)[0]
    slack = [float(least_slack(wants, [tree], View(6.0, years=y))[0]) for y in range(41)]
    if year is None:
        assert slack[40] >= 0
    elif year == 0:
        assert slack[0] < 0
    else:
        assert slack[year] < 0 <= slack[year - 1]


def test_an_eave_covers_all_above_it() -> None:
    eave = Obstruction(
        id="b1",
        name="eave",
        outline="eave",
        from_deg=150,
        to_deg=210,
        top_deg=50,
        distance_m=3,
        seen_from_m=6,
    )
    under = least_slack(_wants(el=30, margin=0), [eave], View(6.0))[0]
    above = least_slack(_wants(el=60, margin=0), [eave], View(6.0))[0]
    assert under == pytest.approx(20.0, abs=0.1)
    assert above < 0
    free = room(edges_of([eave], View(6.0)), 180.0, 30.0)
    assert free.up == pytest.approx(20.0, abs=0.1)
    assert free.down is None


def test_free_sky_is_told_in_four_directions() -> None:
    left = _tree(id="b1", from_deg=140.0, to_deg=150.0, above_m=20.0)
    below = _tree(id="b2", from_deg=170.0, to_deg=190.0, above_m=2.0)
    free = room(edges_of([left, below], View(6.0)), 180.0, 20.0)
    assert free.left == pytest.approx(30 * np.cos(np.radians(20)), abs=0.5)
    assert free.down is not None
    assert 13 < free.down < 16
    assert free.right is None


@given(st.floats(0, 30), st.floats(0.1, 20), st.floats(1, 60))
def test_a_higher_mount_never_sees_less_over_what_stands(
    height: float, more: float, distance: float
) -> None:
    tree = _tree(distance_m=distance)
    low = least_slack(_wants(), [tree], View(height))[0]
    assert least_slack(_wants(), [tree], View(height + more))[0] >= low - 0.05


def test_the_beams_lower_edge_counts_beside_the_margin() -> None:
    wants = Wants(
        np.array([180.0]), np.array([30.0]), np.array([2.0]), np.array([1.2]), np.array([0.6])
    )
    near, far = _tree(distance_m=4.0), _tree(id="b2", distance_m=400.0)
    asked = asked_deg(wants, edges_of([near, far], View(6.0)))[0]
    assert asked[0] == pytest.approx(1.2 + np.degrees(np.arctan(0.6 / 4.0)), abs=0.01)
    assert asked[1] == 2.0


@pytest.mark.parametrize("kind", ["raise", "move", "cut"])
def test_each_remedy_frees_the_view_and_a_little_less_does_not(
    skerry: Job, europe: Profile, parts: Catalogue, kind: str
) -> None:
    offered = {r.kind: r for r in sky.work_out(skerry, europe).remedies}
    fix = offered[kind].change
    after = sky.work_out(taken(skerry, fix), europe)
    row = next(t for t in after.targets if t.id == "t2")
    assert row.state in ("ok", "marginal"), fix
    if isinstance(fix, Move):
        short: Change = fix.model_copy(update={"distance_m": fix.distance_m - 0.6})
    else:
        assert isinstance(fix, Set)
        (name,) = (k for k, v in fix.values.items() if v is not None)
        less_of_it = fix.values[name] + (0.6 if name == "above_m" else -0.6)
        short = fix.model_copy(update={"values": {**fix.values, name: less_of_it}})
    less = sky.work_out(taken(skerry, short), europe)
    assert next(t for t in less.targets if t.id == "t2").state == "fail"


def test_nothing_but_a_tree_is_cut() -> None:
    house = _tree(nature="fixed", growth_m_year=0.0)
    kinds = {r.kind for r in remedies(_wants(el=18), 0, "t1", [house], 6.0, 0)}
    assert "cut" not in kinds
    assert "raise" in kinds


def test_a_move_closes_no_other_view() -> None:
    wall = _tree(
        id="b2",
        outline="block",
        nature="fixed",
        growth_m_year=0,
        from_deg=215.0,
        to_deg=235.0,
        above_m=9.0,
        distance_m=12.0,
    )
    tree = _tree(growth_m_year=0)
    two = np.array([1.0, 1.0])
    wants = Wants(np.array([180.0, 205.0]), np.array([22.0, 24.0]), 5 * two, 0 * two, 0 * two)
    now = least_slack(wants, [tree, wall], View(6.0))
    for remedy in remedies(wants, 0, "t1", [tree, wall], 6.0, 0):
        if remedy.kind == "move":
            assert isinstance(remedy.change, Move)
            east, north = moves.step(remedy.change.bearing_deg, remedy.change.distance_m)
            after = least_slack(wants, [tree, wall], View(6.0, east, north))
            assert after[0] >= 0
            assert after[1] >= min(now[1], 0)


def test_without_a_distance_the_remedy_asks_for_it(skerry: Job, europe: Profile) -> None:
    bare = tuple(
        o.model_copy(update={"distance_m": None, "top_deg": 26.0, "growth_m_year": 0.0})
        for o in skerry.obstructions
    )
    found = sky.work_out(skerry.model_copy(update={"obstructions": bare}), europe)
    problem = next(p for p in found.problems if p.code == "clearance")
    assert problem.change is None
    assert "Measure how far" in str(problem.remedy[0])


@given(st.floats(0, 359.9), st.floats(0, 12))
def test_moving_there_and_back_leaves_the_survey(bearing: float, distance: float) -> None:
    tree = _tree()
    job = Job(
        name="x", date=dt.date(2026, 3, 1), obstructions=(tree,), site=Site(entry_distance_m=4)
    )
    there = moves.move_mount(job, bearing, distance)
    back = moves.move_mount(there, (bearing + 180) % 360, distance).obstructions[0]
    if distance < 8:
        assert back.distance_m == pytest.approx(20.0, abs=0.6)
        assert back.from_deg == pytest.approx(170.0, abs=2.0)
        assert top_m(back) == pytest.approx(12.0, abs=0.01)


def test_a_place_is_taken_and_the_old_one_is_kept(
    skerry: Job, europe: Profile, parts: Catalogue
) -> None:
    lines = {s.id: s for s in sky.work_out(skerry, europe).spots}
    moved = taken(skerry, lines["s1"].change)
    old = next(s for s in moved.spots if s.id == "s1")
    assert old.name == "Mount before"
    assert (round(old.bearing_deg), round(old.distance_m, 1)) == (225, 3.7)
    with refused("row-missing", "not in the job"):
        taken(skerry, Set(rows="spots", id="s77", values={"name": "there"}))
    with refused("row-missing", "no distance"):
        moves.cut(_tree(distance_m=None, above_m=None, top_deg=9.0), 1.0)


def _survey(obstructions: tuple[Obstruction, ...], spots: tuple[Spot, ...]) -> Survey:
    return Survey(
        Site(),
        obstructions,
        (),
        (),
        (),
        (),
        (),
        spots,
        (),
        dt.date(2026, 3, 25),
        5.0,
        10.0,
        "x",
        1.0,
    )


def test_the_best_place_frees_most_and_says_why() -> None:
    spots = [
        Spot(id="s1", name="Behind", bearing_deg=0, distance_m=12, mount_height_m=6, cable_m=30),
        Spot(id="s2", name="High", bearing_deg=0, distance_m=0, mount_height_m=11, cable_m=12),
    ]
    job = _survey(obstructions=(_tree(growth_m_year=0),), spots=tuple(spots))
    rows = compare(job, _wants(el=20), ["Corvus"], 6.0, 0)
    best = next(r for r in rows if r.best)
    assert best.state == "ok"
    assert best.clear == 1
    assert all(r.why for r in rows)
    assert [r.id for r in rows] == [None, "s1", "s2"]
    assert compare(job, Wants(*(np.array([]),) * 5), [], 6.0, 0) == []


def test_a_transmitting_dish_wants_a_wider_circle(skerry: Job, europe: Profile) -> None:
    plain = skerry.model_copy(
        update={"site": skerry.site.model_copy(update={"keep_clear_deg": None})}
    )
    loud = plain.model_copy(
        update={
            "dishes": (
                skerry.dishes[0].model_copy(update={"two_way": True}),
                *skerry.dishes[1:],
            )
        }
    )
    rows = [sky.work_out(j, europe).targets[0].gauge.low for j in (plain, loud)]
    assert rows == [europe.keep_clear_deg, europe.keep_clear_two_way_deg]


def test_trees_surveyed_bare_are_told(skerry: Job, europe: Profile) -> None:
    site = skerry.site.model_copy(update={"keep_clear_deg": 9.5})
    winter = skerry.model_copy(update={"site": site, "date": dt.date(2026, 1, 10)})
    codes = {p.code for p in sky.work_out(winter, europe).problems}
    assert "bare" in codes
    summer = winter.model_copy(update={"date": dt.date(2026, 7, 10)})
    assert "bare" not in {p.code for p in sky.work_out(summer, europe).problems}


def test_low_satellites_are_lifted_by_the_air(europe: Profile) -> None:
    job = Job(
        name="x",
        date=dt.date(2026, 6, 1),
        site=Site(latitude_deg=78.22, longitude_deg=15.65),
        targets=(Target(id="t1", kind="satellite", name="Low", orbit_deg_e=13.0),),
    )
    row = sky.work_out(job, europe).targets[0]
    assert row.lifted_deg == pytest.approx(0.24, abs=0.05)


@pytest.mark.parametrize("latitude", [90.0, -90.0])
def test_at_the_poles_every_satellite_is_below(latitude: float, europe: Profile) -> None:
    job = Job(
        name="x",
        date=dt.date(2026, 6, 1),
        site=Site(latitude_deg=latitude, longitude_deg=0.0),
        targets=(Target(id="t1", kind="satellite", name="Far", orbit_deg_e=10.0),),
        dishes=(Dish(id="a1", name="d", target="t1", mounting="polar"),),
    )
    found = sky.work_out(job, europe)
    assert found.state == "fail"
    assert found.problems[0].code == "below-horizon"
    assert sun_view(job, dt.date(2026, 6, 1)).targets[0].outages == []


def test_neighbours_are_drawn_but_not_counted(skerry: Job, europe: Profile) -> None:
    found = sky.work_out(skerry, europe)
    assert {n.name for n in found.neighbours} == {
        "Lanner",
        "Avocet",
        "Dunlin",
        "Turnstone",
        "Shelduck",
    }
    assert len(found.targets) == 3


def test_silhouettes_of_later_years_stand_higher(skerry: Job) -> None:
    now, then = (silhouettes(skerry.obstructions, 7.4, y)[2].top_deg for y in (0, 5))
    assert then > now + 3


def test_the_sun_shows_every_target(skerry: Job) -> None:
    found = sun_view(skerry, skerry.date)
    by_name = {t.name: t for t in found.targets}
    assert by_name["Corvus"].outages
    assert not by_name["Halcyon"].outages  # no dish looks at it
    assert by_name["Halcyon"].views
    assert len(found.track) > 40
    empty = skerry.model_copy(update={"site": Site()})
    assert sun_view(empty, skerry.date).targets == []


def test_profiles_name_their_margins() -> None:
    for name in profiles.NAMES:
        found = profiles.load(name)
        assert found.keep_clear_two_way_deg >= found.keep_clear_deg


def test_sight_needs_a_place() -> None:
    target = Target(id="t1", kind="satellite", name="x", orbit_deg_e=10.0)
    assert sight_of(Site(), target) is None
    carrier = Carrier(
        id="c1",
        target="t1",
        name="x",
        frequency_mhz=11_000,
        bandwidth_mhz=27,
        polarisation="H",
        power=50,
        modulation="DVB-S2 QPSK 3/4",
    )
    assert carrier.power == 50


@pytest.mark.parametrize("latitude_deg", [52.0, -35.0])
@pytest.mark.parametrize("month", range(1, 13))
def test_a_tree_is_bare_in_the_winter_of_its_own_hemisphere(
    latitude_deg: float, month: int
) -> None:
    """Leafless from November to March in the north, from May to September in the south (common practice, no
    source); an evergreen never."""
    job = demo_jobs()["skerry-house"]
    there = job.model_copy(
        update={
            "date": dt.date(2026, month, 15),
            "site": job.site.model_copy(update={"latitude_deg": latitude_deg}),
        }
    )
    winter = {11, 12, 1, 2, 3} if latitude_deg > 0 else {5, 6, 7, 8, 9}
    assert _bare(_tree(nature="leafy"), there) == (month in winter)
    assert not _bare(_tree(nature="evergreen"), there)


def test_the_height_of_a_tree_that_was_seen_by_its_angle() -> None:
    """20 m away and 30 degrees up from 6 m, it ends 6 + 20 tan 30 = 17.55 m above ground. From 8 m the beam at
    25 degrees asks for one degree below it: 8 + 20 tan 24 = 16.90 m. The cut is the 0.64 m between, in tenths."""
    tree = _tree(distance_m=20.0, above_m=None, top_deg=30.0)
    found = [r for r in remedies(_wants(margin=1.0), 0, "t1", [tree], 8.0, 0) if r.kind == "cut"]
    (one,) = found
    over = 6 + 20 * math.tan(math.radians(30)) - 8 - 20 * math.tan(math.radians(24))
    assert text_of(one.title).endswith(f"cut {math.ceil(over * 10) / 10:.1f} m")
