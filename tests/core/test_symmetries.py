"""What must not change when the world is turned, mirrored, renamed or asked in another order.

No figure here is looked up: each test works a whole job twice and holds one against the other.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.answers import STATIONS, Answers, work_out
from evtro.core.job import Job
from evtro.core.physics.geodesy import look
from evtro.core.stations.aim.array.terminals import terminals
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.levels.outlets import solve_job
from evtro.core.stations.sky.incident import incident_at
from evtro.core.units.quantities import Gauge
from evtro.demo.world import demo_jobs
from tests.proving import examples

CATALOGUE = catalogue.load()
JOBS = sorted(demo_jobs())
PLACED = [n for n in JOBS if demo_jobs()[n].site.latitude_deg is not None]
DISHES = [n for n in PLACED if any(t.kind == "satellite" for t in demo_jobs()[n].targets)]
ARRAYS = [n for n in PLACED if demo_jobs()[n].arrays]


def _answers(job: Job) -> Answers:
    return work_out(job, CATALOGUE, profiles.load(job.profile))


def _east(value: float | None, by: float) -> float | None:
    return None if value is None else round((value + by + 180) % 360 - 180, 9)


def _turned(job: Job, by: float) -> Job:
    """The job with everything on the globe further east by an angle."""
    site = job.site.model_copy(update={"longitude_deg": _east(job.site.longitude_deg, by)})
    targets = tuple(
        t.model_copy(
            update={
                "orbit_deg_e": _east(t.orbit_deg_e, by),
                "longitude_deg": _east(t.longitude_deg, by),
            }
        )
        for t in job.targets
    )
    reliefs = tuple(
        r.model_copy(
            update={
                "from_longitude_deg": _east(r.from_longitude_deg, by),
                "to_longitude_deg": _east(r.to_longitude_deg, by),
            }
        )
        for r in job.reliefs
    )
    return job.model_copy(
        update={"site": site, "targets": targets, "reliefs": reliefs, "beams": (), "stops": ()}
    )


def _mirrored(job: Job) -> Job:
    """The job on the other half of the globe, seen in a mirror that lies along the equator."""
    site = job.site.model_copy(update={"latitude_deg": -(job.site.latitude_deg or 0.0)})
    targets = tuple(
        t.model_copy(
            update={
                "latitude_deg": None if t.latitude_deg is None else -t.latitude_deg,
                "polarisation_offset_deg": -t.polarisation_offset_deg,
            }
        )
        for t in job.targets
    )
    rows = tuple(
        o.model_copy(
            update={"from_deg": (180 - o.to_deg) % 360, "to_deg": (180 - o.from_deg) % 360}
        )
        for o in job.obstructions
    )
    spots = tuple(
        s.model_copy(update={"bearing_deg": (180 - s.bearing_deg) % 360}) for s in job.spots
    )
    return job.model_copy(
        update={
            "site": site,
            "targets": targets,
            "obstructions": rows,
            "spots": spots,
            "reliefs": (),
            "beams": (),
            "stops": (),
        }
    )


@pytest.mark.long
@pytest.mark.parametrize("name", PLACED)
@pytest.mark.parametrize("by", [47.3, 171.0, -120.5])
def test_only_differences_of_longitude_count(name: str, by: float) -> None:
    """All but the compass: the magnetic field is not the same all round the globe."""
    job = demo_jobs()[name].model_copy(update={"beams": (), "stops": ()})
    here, there = _answers(job), _answers(_turned(job, by))
    for a, b in zip(here.sky.targets, there.sky.targets, strict=True):
        assert a.sight is not None
        assert b.sight is not None
        assert b.sight.azimuth_deg == pytest.approx(a.sight.azimuth_deg, abs=2e-6)
        assert b.sight.elevation_deg == pytest.approx(a.sight.elevation_deg, abs=2e-6)
        assert b.sight.distance_km == pytest.approx(a.sight.distance_km, abs=1e-6)
        assert b.gauge.state == a.gauge.state
    for p, q in zip(here.aim.aims, there.aim.aims, strict=True):
        assert q.azimuth_deg == pytest.approx(p.azimuth_deg, abs=2e-6)
        assert (q.skew_deg is None) == (p.skew_deg is None)
        if p.skew_deg is not None:
            assert q.skew_deg == pytest.approx(p.skew_deg, abs=2e-6)
            assert q.skew_words == p.skew_words
    for row, other in zip(here.coax.outlets, there.coax.outlets, strict=True):
        assert [c.state for c in row.cells] == [c.state for c in other.cells]
        for c, d in zip(row.cells, other.cells, strict=True):
            assert (c.level.value is None) == (d.level.value is None)
            if c.level.value is not None:
                assert d.level.value == pytest.approx(c.level.value, abs=1e-6)
    assert [p.code for p in here.sky.problems] == [p.code for p in there.sky.problems]


@pytest.mark.parametrize("name", DISHES)
def test_the_other_half_of_the_globe_is_a_mirror(name: str) -> None:
    job = demo_jobs()[name].model_copy(update={"reliefs": (), "beams": (), "stops": ()})
    here, there = _answers(job), _answers(_mirrored(job))
    for a, b in zip(here.sky.targets, there.sky.targets, strict=True):
        assert a.sight is not None
        assert b.sight is not None
        assert b.sight.azimuth_deg == pytest.approx((180 - a.sight.azimuth_deg) % 360, abs=1e-6)
        assert b.sight.elevation_deg == pytest.approx(a.sight.elevation_deg, abs=1e-9)
        if a.kind == "satellite" and a.gauge.value is not None:
            assert b.gauge.value == pytest.approx(a.gauge.value, abs=1e-6)
    for p, q in zip(here.aim.aims, there.aim.aims, strict=True):
        if p.tilt_deg is not None and q.tilt_deg is not None:
            # A vertical axis stays one: the mirror turns the sense, 90 and -90 are the same axis.
            assert math.sin(math.radians(p.tilt_deg + q.tilt_deg)) == pytest.approx(0, abs=1e-7)
            assert q.inclinometer_deg == pytest.approx(p.inclinometer_deg, abs=1e-9)


@given(st.floats(-80, 80), st.floats(-180, 180), st.floats(-60, 60))
def test_east_and_west_of_the_meridian_mirror_each_other(
    lat: float, lon: float, away: float
) -> None:
    east = look(lat, lon, 0.0, lon + away)
    west = look(lat, lon, 0.0, lon - away)
    turn = (float(east.azimuth_deg) + float(west.azimuth_deg)) % 360
    assert min(turn, 360 - turn) == pytest.approx(0, abs=1e-6)
    assert float(east.elevation_deg) == pytest.approx(float(west.elevation_deg), abs=1e-9)
    assert float(east.range_km) == pytest.approx(float(west.range_km), abs=1e-6)
    if abs(away) > 1e-6 and abs(lat) > 1e-6:
        both = math.radians(float(east.tilt_deg) + float(west.tilt_deg))
        assert math.sin(both) == pytest.approx(0, abs=1e-6)


def _shuffled(job: Job, data: st.DataObject, *names: str) -> Job:
    return job.model_copy(
        update={n: tuple(data.draw(st.permutations(getattr(job, n)))) for n in names}
    )


@pytest.mark.long
@pytest.mark.parametrize("name", JOBS)
@given(data=st.data())
@examples(4, 20)
def test_the_order_of_rows_changes_no_figure(name: str, data: st.DataObject) -> None:
    job = demo_jobs()[name]
    other = _shuffled(
        job,
        data,
        "carriers",
        "parts",
        "links",
        "outlets",
        "obstructions",
        "readings",
        "conductors",
        "marks",
    )
    here, there = _answers(job), _answers(other)
    assert {s.key: (s.state, s.figure) for s in here.stations if s.key != "coax"} == {
        s.key: (s.state, s.figure) for s in there.stations if s.key != "coax"
    }
    assert [s.state for s in here.stations] == [s.state for s in there.stations]
    rows = {r.outlet: {c.carrier: c for c in r.cells} for r in there.coax.outlets}
    for row in here.coax.outlets:
        assert set(rows[row.outlet]) == {c.carrier for c in row.cells}
        for c in row.cells:
            _same(c.level, rows[row.outlet][c.carrier].level)
            _same(c.margin, rows[row.outlet][c.carrier].margin)
    assert sorted(p.code for p in here.problems) == sorted(p.code for p in there.problems)


def _same(a: Gauge, b: Gauge) -> None:
    assert (a.state, a.low, a.high) == (b.state, b.low, b.high)
    if a.value is not None:
        assert b.value == pytest.approx(a.value, abs=1e-9)


@pytest.mark.parametrize("name", JOBS)
def test_new_names_change_no_figure(name: str) -> None:
    job = demo_jobs()[name]

    def renamed(key: str) -> tuple[object, ...]:
        return tuple(r.model_copy(update={"name": f"{r.id} renamed"}) for r in getattr(job, key))

    other = job.model_copy(
        update={k: renamed(k) for k in ("outlets", "dishes", "arrays", "obstructions")}
    )
    here, there = _answers(job), _answers(other)
    assert [s.state for s in here.stations] == [s.state for s in there.stations]
    assert [p.code for p in here.problems] == [p.code for p in there.problems]
    assert here.mast.moment == there.mast.moment
    for row, again in zip(here.coax.outlets, there.coax.outlets, strict=True):
        assert [c.level for c in row.cells] == [c.level for c in again.cells]


@pytest.mark.parametrize("name", JOBS)
def test_a_job_worked_out_again_is_the_same_and_is_not_touched(name: str) -> None:
    job = demo_jobs()[name]
    before = job.model_dump_json()
    first, second = _answers(job), _answers(job)
    assert job.model_dump_json() == before
    for key in STATIONS:
        one, two = (getattr(a, key) for a in (first, second))
        assert one.view == two.view if key == "coax" else one == two
    assert first.stations == second.stations
    assert first.steps == second.steps


@pytest.mark.parametrize("name", ARRAYS)
def test_all_transmitters_louder_is_every_level_higher_by_as_much(name: str) -> None:
    """Unless the installer's reading stands in place of the forecast."""
    job = demo_jobs()[name].model_copy(update={"trial_spots": (), "trial_readings": ()})
    job = job.model_copy(
        update={"arrays": tuple(a.model_copy(update={"stands_at": None}) for a in job.arrays)}
    )
    kinds = {t.id: t.kind for t in job.targets}
    louder = job.model_copy(
        update={
            "carriers": tuple(
                c.model_copy(update={"power": c.power * 10**0.3})
                if kinds[c.target] == "transmitter"
                else c
                for c in job.carriers
            )
        }
    )
    profile = profiles.load(job.profile)
    first = NetworkContext(job, CATALOGUE, profile).rows
    after = NetworkContext(louder, CATALOGUE, profile).rows
    seen = 0
    for row, other in zip(first, after, strict=True):
        for c, d in zip(row.cells, other.cells, strict=True):
            target = next(k.target for k in job.carriers if k.id == c.carrier)
            if c.level.value is None or d.level.value is None:
                continue
            rise = 3.0 if kinds[target] == "transmitter" else 0.0
            assert d.level.value - c.level.value == pytest.approx(rise, abs=1e-9)
            seen += kinds[target] == "transmitter"
    for antenna in job.arrays:
        at, then = terminals(job, antenna), terminals(louder, antenna)
        if at is not None and then is not None:
            assert then.level_dbuv - at.level_dbuv == pytest.approx(3.0, abs=1e-9)
            assert (then.cn_db >= at.cn_db - 1e-9).all()
            seen += 1
    assert seen


@pytest.mark.parametrize("name", ARRAYS)
@given(turn=st.floats(-180, 180))
@examples(2, 40)
def test_an_antenna_hears_nothing_better_than_when_it_looks_straight(
    name: str, turn: float
) -> None:
    job = demo_jobs()[name].model_copy(update={"trial_readings": ()})
    for antenna in job.arrays:
        incident = incident_at(job, antenna)
        for i, bearing in enumerate(incident.bearing_deg):
            straight = _looking(job, antenna.id, float(bearing))
            beside = _looking(job, antenna.id, (float(bearing) + turn) % 360)
            assert beside(i) <= straight(i) + 1e-9


def _looking(job: Job, antenna: str, heading: float) -> Callable[[int], float]:
    own = next(a for a in job.arrays if a.id == antenna)
    at = terminals(job, own.model_copy(update={"heading_deg": heading, "stands_at": None}))
    assert at is not None
    return lambda i: float(at.level_dbuv[i])


@pytest.mark.parametrize("name", JOBS)
@given(worse=st.floats(0.5, 20))
@examples(3, 15)
def test_more_cable_everywhere_makes_no_outlet_stronger(name: str, worse: float) -> None:
    job = demo_jobs()[name]
    profile = profiles.load(job.profile)
    longer = job.model_copy(
        update={
            "links": tuple(k.model_copy(update={"length_m": k.length_m + worse}) for k in job.links)
        }
    )
    first = NetworkContext(job, CATALOGUE, profile).rows
    after = NetworkContext(longer, CATALOGUE, profile).rows
    for row, other in zip(first, after, strict=True):
        for c, d in zip(row.cells, other.cells, strict=True):
            if c.level.value is not None and d.level.value is not None:
                assert d.level.value < c.level.value
    # Noise and distortion only: a longer cable takes twice from its echo.
    quiet, other = (
        replace(solved.run.levels, disturbing=None).cn_db[: len(solved.run.circuit.nodes)]
        for solved in (solve_job(NetworkContext(j, CATALOGUE, profile)) for j in (job, longer))
    )
    assert not (other > quiet + 1e-9).any()


@pytest.mark.parametrize("name", JOBS)
def test_the_state_of_a_station_is_the_gravest_of_its_problems(name: str) -> None:
    rank = {"ok": 0, "unknown": 1, "marginal": 2, "fail": 3}
    found = _answers(demo_jobs()[name])
    for line in found.stations[:7]:
        problems = getattr(found, line.key).problems
        if problems and line.state != "unknown":
            assert rank[line.state] >= max(rank[p.state] for p in problems)
        if line.state == "ok":
            assert not [p for p in problems if p.state == "fail"]


@pytest.mark.parametrize("name", JOBS)
def test_every_problem_says_what_where_limit_origin_and_remedy(name: str) -> None:
    for problem in _answers(demo_jobs()[name]).problems:
        assert problem.title
        assert problem.place
        assert problem.limit
        assert problem.origin
        assert problem.remedy
        assert problem.state in ("fail", "marginal", "unknown")
        if problem.gauge is not None and problem.gauge.value is not None:
            assert math.isfinite(problem.gauge.value)


@pytest.mark.parametrize("name", JOBS)
def test_the_verdict_of_the_readings_is_that_of_all_their_rows(name: str) -> None:
    answers = _answers(demo_jobs()[name])
    line = next(s for s in answers.stations if s.key == "readings")
    whole = answers.readings
    assert (line.state, line.figure) == (whole.state, whole.figure)
    assert [p for p in answers.problems if p.station == "readings"] == whole.problems
