"""Which of several figures counts, and what stands in where none is told: each with a case that only the right one
passes."""

from __future__ import annotations

import math
from types import SimpleNamespace
from typing import Any

import numpy as np
import pytest

from evtro.core.answers import work_out
from evtro.core.job import Carrier, Job
from evtro.core.job.context import JobContext, JobParts
from evtro.core.job.parts import Catalogue
from evtro.core.job.profile import Profile
from evtro.core.network.distortion import _good
from evtro.core.physics.beams import dish_beamwidth_deg
from evtro.core.physics.propagation.rain import Climate, attenuation_db
from evtro.core.practice.meter import TURN_DEG, tuned_sky
from evtro.core.stations.aim.dish.detail import ONE_DB, _heard_deg, _motor
from evtro.core.stations.aim.dish.link_view import link_view
from evtro.core.stations.aim.dishes import shape_of
from evtro.core.stations.aim.evidence import _set_otherwise
from evtro.core.stations.aim.finding.peaking import _edges, _instruct
from evtro.core.stations.aim.multifeed import Paraboloid, feed_places, row_of_feeds
from evtro.core.stations.coax.checks.passband import NEAR_SHARE, _beyond
from evtro.core.stations.coax.design.designer import _value, reserve_of
from evtro.core.stations.coax.design.wish import DROP_M, Wish
from evtro.core.stations.coax.fixes.surroundings import Surroundings
from evtro.core.stations.coax.views.level_plan import cable_register
from evtro.core.stations.mast.mounts import dish_kg
from evtro.core.stations.mast.statics import worst_nm
from evtro.core.stations.mast.steps import _shim
from evtro.core.stations.sky.interference import NeighbourSatellite, disturbances
from evtro.core.stations.sky.spots import _line
from evtro.core.units.quantities import gauge


def changed(job: Job, rows: str, **values: Any) -> Job:
    return job.model_copy(update={rows: getattr(job, rows).model_copy(update=values)})


def test_the_largest_moment_counts_either_way() -> None:
    beam: Any = SimpleNamespace(moment_nm={0.0: 5.0, 1.0: -9.0, 2.0: 2.0}.get)
    assert worst_nm(beam, [0.0, 1.0, 2.0]) == 9.0


def test_the_weakest_carrier_of_a_place_is_told() -> None:
    place: Any = SimpleNamespace(
        id="s1",
        name="Gable",
        bearing_deg=0.0,
        distance_m=1.0,
        height_m=5.0,
        cable_m=None,
        slack=[("Corvus", 3.0)],
        margins=[("A", 9.0), ("B", 2.0), ("C", 5.0)],
        drawbacks=[],
        lacking=[],
        state="ok",
    )
    line = _line(place, None, best=True)
    assert (line.least_carrier, line.margin_db, line.arrives) == ("B", 2.0, 3)


def test_rain_does_not_jump_where_its_formula_changes() -> None:
    """ITU-R P.618: the exponent's part that goes by latitude ends at 36° with nothing left of it."""
    wet = Climate(rain_mm_h=30.0, rain_height_km=3.0)
    south, north = (
        float(attenuation_db(wet, deg, 0.0, 11_700.0, 30.0, 45.0, 0.1)) for deg in (35.999, 36.001)
    )
    assert south == pytest.approx(north, rel=1e-4)


def test_the_next_reading_lies_beyond_the_side_that_has_not_fallen() -> None:
    x = np.array([0.0, 1.0, 2.0])
    rising, falling = (_edges(x, y, "db") for y in (x + 5.0, 9.0 - x))
    assert (rising.centre, rising.next_position) == (None, 3.0)
    assert (falling.centre, falling.next_position) == (None, -1.0)


def test_a_twelfth_of_the_lobe_from_the_top_is_near_enough() -> None:
    """Within 0.08 of the half width nobody turns back; beyond it they do."""
    x = np.array([-2.0, -1.0, 1.0, 2.0, 0.0])
    peak = _edges(x, 10.0 - x**2, "db")
    assert peak.half_width is not None
    assert peak.centre == pytest.approx(0.0, abs=0.2)
    exact = peak.__class__(**{**peak.__dict__, "uncertainty": 1e-6})
    for share, state in ((0.07, "ok"), (0.15, "fail")):
        stands = (exact.centre or 0.0) + share * peak.half_width
        assert _instruct(exact, np.array([-2.0, 2.0, stands]), np.zeros(3), 0.0).state == state


def test_places_of_feeds_are_told_in_millimetres() -> None:
    dish = Paraboloid(diameter_m=1.2, focal_m=0.72, centre_m=0.0)
    sats = [("a", "A", 172.0, 30.0), ("b", "B", 180.0, 33.0), ("c", "C", 188.0, 30.0)]
    row = row_of_feeds(dish, sats, -1, 11_700.0, 40.0)
    across, up = np.array([(f.across_deg, f.beside_deg) for f in row.feeds]).T
    along_m, high_m, _ = feed_places(dish, across, up, 11_700.0)
    assert [f.offset_mm for f in row.feeds] == pytest.approx((1000 * along_m).tolist(), rel=1e-4)
    assert max(abs(f.height_mm) for f in row.feeds) > 1
    assert [f.height_mm for f in row.feeds] == pytest.approx((1000 * high_m).tolist(), rel=1e-4)


def test_a_carrier_that_is_not_there_leaves_no_reserve() -> None:
    def found(level: float) -> Any:
        judged = SimpleNamespace(
            level_dbuv=np.array([[60.0, level]]),
            least_dbuv=np.array([47.0, 47.0]),
            most_dbuv=np.array([77.0, 77.0]),
            wants=np.array([[True, True]]),
        )
        solved = SimpleNamespace(of_group={"cable": np.array([False, False])})
        return SimpleNamespace(outlets=[SimpleNamespace(judged=judged)], solved=solved)

    assert reserve_of(found(52.0)) == pytest.approx(5.0)
    assert reserve_of(found(math.nan)) == -math.inf


def test_of_designs_with_as_many_parts_the_cheaper_is_better() -> None:
    plan: Any = SimpleNamespace(cost=120.0, parts=7)
    assert _value(plan, "cost") == 120.0
    assert _value(plan, "parts") == pytest.approx(7.012)


def test_a_run_that_has_no_room_for_a_head_is_taken_as_it_is(skerry: Job) -> None:
    wanted = [o.id for o in skerry.outlets if o.satellite or o.terrestrial]
    short = Wish().checked(skerry, dict.fromkeys(wanted, 1.0), {})
    assert {r.drop_m for r in short.routes} == {1.0}
    long = Wish(floor_m=0.0).checked(skerry, dict.fromkeys(wanted, 20.0), {})
    assert {r.drop_m for r in long.routes} == {17.0}
    assert {r.drop_m for r in Wish(floor_m=0.0).checked(skerry, {}, {}).routes} == {DROP_M}


def test_the_edge_of_a_filter_cuts_by_its_share(parts: Catalogue) -> None:
    kind = next(k for k in parts.parts.values() if k.draws_as == "filter")
    end = kind.paths[0].high_mhz
    wide = np.array([8.0])
    for beyond_mhz in (0.0, 8.0 * NEAR_SHARE / 2, 8.0 * 0.4):
        found = _beyond(kind, np.array([end - 4.0 + beyond_mhz]), wide)
        shares = [share.tolist() for _, share in found]
        assert shares == ([[pytest.approx(0.4)]] * len(found) if beyond_mhz > 3 else [])
        assert bool(found) == (beyond_mhz > 3)


def test_a_leaning_tube_is_shimmed_by_its_tangent(skerry: Job) -> None:
    job = changed(skerry, "mast", held_m=0.8, fixing="wall")
    mark = SimpleNamespace(step="mast.plumb", value=-2.0)
    _, off, _ = _shim(SimpleNamespace(marks=[mark], mast=job.mast))  # type: ignore[arg-type]
    assert off.value == pytest.approx(27.937, abs=0.001)


def _carrier(name: str, mhz: float, wide: float = 30.0) -> Carrier:
    return Carrier(
        id=name,
        target="t1",
        name=name,
        frequency_mhz=mhz,
        bandwidth_mhz=wide,
        polarisation="H",
        modulation="DVB-S QPSK 3/4",
        power=50.0,
    )


def test_a_neighbour_counts_by_what_it_shares_and_by_what_is_left_of_the_carrier() -> None:
    """Half of the band shared is half of the power; a skew that is 30° off leaves cos² of the carrier, and all of
    a neighbour that is turned the same way."""
    sight: Any = SimpleNamespace(tilt_deg=10.0, azimuth_deg=180.0, elevation_deg=30.0)
    own = [_carrier("c1", 11_000.0)]
    for offset, share in ((0.0, 1.0), (15.0, 0.5), (-15.0, 0.5), (40.0, None)):
        other = NeighbourSatellite("N", 183.0, 30.0, (_carrier("c2", 11_000.0 + offset),), 40.0)
        found = [d for d in disturbances(sight, own, [other], skew_error_deg=30.0) if d.name == "N"]
        if share is None:
            assert found == []
        else:
            assert found[0].share == pytest.approx([share / 0.75])


def test_what_is_heard_without_a_carrier_is_the_middle_of_its_band(skerry: Job) -> None:
    dish = skerry.dishes[0]
    bare = skerry.model_copy(update={"carriers": ()})
    assert _heard_deg(bare, dish, dish.target or "") == pytest.approx(
        float(dish_beamwidth_deg(dish.diameter_m, 11_700.0))
    )
    assert pytest.approx(math.sqrt(1 / 12), rel=0.01) == ONE_DB


def test_a_motor_without_a_carrier_is_judged_by_the_middle_of_the_band(
    skerry: Job, parts: Catalogue, europe: Profile
) -> None:
    dish = skerry.dishes[0].model_copy(update={"mounting": "polar"})
    bare = skerry.model_copy(update={"carriers": ()})
    found = _motor(bare, dish, work_out(skerry, parts, europe).sky, 0.0)
    assert found is not None
    wide = float(dish_beamwidth_deg(dish.diameter_m, 11_700.0))
    assert found.worst_across.high == pytest.approx(wide * ONE_DB)


def test_a_dish_must_do_for_the_carrier_that_wants_most(
    skerry: Job, parts: Catalogue, europe: Profile
) -> None:
    target = skerry.dishes[0].target
    mine = [c for c in skerry.carriers if c.target == target]
    carriers = tuple(
        c.model_copy(update={"power": p}) for c, p in zip(mine, (50.0, 44.0, 47.0), strict=False)
    )
    view = link_view(
        JobContext(skerry.model_copy(update={"carriers": carriers}), parts, europe),
        skerry.dishes[0].id,
        None,
    )
    assert view is not None
    one = next(s for s in view.satellites if s.target == target)
    sizes = [r.smallest_m for r in one.rows]
    assert None not in sizes
    assert len(set(sizes)) > 1
    assert one.smallest_m == max(s for s in sizes if s is not None)


@pytest.mark.parametrize(("told", "turns"), [(3.5, 3.5), (None, TURN_DEG)])
def test_a_screw_turns_as_it_is_told(
    skerry: Job, parts: Catalogue, told: float | None, turns: float
) -> None:
    dish = skerry.dishes[0].model_copy(update={"deg_per_turn": told})
    target = next(t for t in skerry.targets if t.id == dish.target)
    sky = tuned_sky(JobParts(skerry, parts), dish, target)
    assert sky is not None
    assert sky.deg_per_turn == turns


@pytest.mark.parametrize(("sent", "stands"), [("V", "upright"), ("H", "level")])
def test_an_antenna_stands_as_its_carriers_are_sent(
    skerry: Job, parts: Catalogue, europe: Profile, sent: str, stands: str
) -> None:
    antenna = skerry.arrays[0]
    carriers = tuple(
        c.model_copy(update={"polarisation": sent}) if c.target == antenna.target else c
        for c in skerry.carriers
    )
    arrays = (antenna.model_copy(update={"elements": "auto"}), *skerry.arrays[1:])
    job = skerry.model_copy(update={"carriers": carriers, "arrays": arrays})
    aim = next(a for a in work_out(job, parts, europe).aim.aims if a.antenna == antenna.id)
    assert stands in aim.skew_words


@pytest.mark.parametrize(("diameter_m", "kg"), [(0.6, 4.0), (0.85, 9.0), (1.2, 20.0), (2.0, 60.0)])
def test_dishes_weigh_what_is_usual(diameter_m: float, kg: float) -> None:
    """Common practice, no source; of mesh half of it."""
    assert dish_kg(diameter_m) == pytest.approx(kg, rel=0.08)
    assert dish_kg(diameter_m, mesh=True) == pytest.approx(kg / 2, rel=0.08)


def test_the_middle_of_an_offset_dish(skerry: Job) -> None:
    """A paraboloid leans by atan(y / 2f) at the height y over its axis."""
    dish = skerry.dishes[0].model_copy(
        update={
            "diameter_m": 0.8,
            "focal_ratio": 0.6,
            "offset_deg": 24.0,
            "reflector_height_mm": None,
            "reflector_width_mm": None,
            "reflector_depth_mm": None,
        }
    )
    shape = shape_of(dish)
    assert (shape.focal_m, shape.centre_m) == pytest.approx((0.48, 0.42742), abs=1e-5)


def test_cables_are_told_by_the_ports_as_they_are_marked(
    skerry: Job, parts: Catalogue, europe: Profile
) -> None:
    rows = cable_register(JobParts(skerry, parts), work_out(skerry, parts, europe).coax)
    links = {k.id: k for k in skerry.links}
    assert [r.number for r in rows] == list(range(1, len(links) + 1))
    assert sorted((r.start_port, r.end_port, r.length_m) for r in rows) == sorted(
        (k.from_port + 1, k.to_port + 1, k.length_m) for k in links.values()
    )


@pytest.mark.parametrize(
    ("value", "low", "high", "by"), [(80.0, None, 77.0, 5.0), (40.0, 47.0, None, 9.0)]
)
def test_a_cure_must_bring_its_reserve(
    value: float, low: float | None, high: float | None, by: float
) -> None:
    bench: Any = SimpleNamespace(
        problem=SimpleNamespace(gauge=gauge(value, "dbuv", low, high, 2.0))
    )
    assert Surroundings._excess(bench) == pytest.approx(by)


def test_an_elevation_read_otherwise_is_told_by_how_much() -> None:
    antenna: Any = SimpleNamespace(id="a1", name="Dish", scale_error_deg=0.5)
    aim: Any = SimpleNamespace(inclinometer_deg=30.0, tolerance_deg=0.5, skew_deg=None)
    for read, by in ((33.0, 3.0), (28.0, 2.0), (30.9, None)):
        mark = SimpleNamespace(step="aim.a1.elevation", value=read)
        job: Any = SimpleNamespace(marks=[mark])
        told = [
            p.gauge.value for p in _set_otherwise(job, antenna, aim, on_wanted=False) if p.gauge
        ]
        assert told == ([] if by is None else [pytest.approx(by)])


def test_two_feeds_lie_on_their_own_line() -> None:
    dish = Paraboloid(diameter_m=1.2, focal_m=0.72, centre_m=0.0)
    row = row_of_feeds(dish, [("a", "A", 170.0, 25.0), ("b", "B", 186.0, 31.0)], -1, 11_700.0, 40.0)
    assert abs(row.tilt_deg) > 15
    assert [f.beside_deg for f in row.feeds] == pytest.approx(
        [row.feeds[0].beside_deg] * 2, abs=1e-6
    )


def test_lengths_that_are_quick_to_transform() -> None:
    """The next power of two, or three quarters of it where that is enough."""
    found = [_good(n) for n in (5, 6, 7, 12, 13, 96, 97, 1000, 1600)]
    assert found == [6, 6, 8, 12, 16, 96, 128, 1024, 2048]
