"""Ways over terrain, headings, antennas, front ends, spots, scans and the company's line."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.changes.antennas import second_antenna, stand_at, take_antenna
from evtro.core.job import (
    Array,
    Carrier,
    Job,
    Obstruction,
    Scan,
    Site,
    Target,
    TerrainProfile,
    TrialReading,
    TrialSpot,
    edits,
)
from evtro.core.job.changes import Add, Remove
from evtro.core.job.context import JobParts
from evtro.core.job.problems import Problem
from evtro.core.network import edits as run
from evtro.core.physics.beams import array_loss_db, gain_at_dbi
from evtro.core.physics.propagation.clutter import COVERINGS, clutter_loss_db, entry_loss_db
from evtro.core.physics.propagation.diffraction import (
    delta_bullington,
    edge_loss_db,
    edge_parameter,
)
from evtro.core.stations.aim.array.heading import (
    bare_beyond,
    best_of,
    compare,
    preamplified,
    services_of,
    sweep,
)
from evtro.core.stations.aim.array.terminals import duty_of, heading_of, terminals
from evtro.core.stations.aim.array.trial import trial
from evtro.core.stations.aim.array.ways import paths
from evtro.core.stations.coax.checks.company_line import company_problems
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.fixes.front_end import front_end, with_front
from evtro.core.stations.coax.levels.outlets import outlet_rows, solve_job
from evtro.core.stations.coax.views.antenna_detail import array_detail
from evtro.core.stations.coax.views.referred_to_antenna import referred_to_antenna
from evtro.core.stations.readings.expected import parse_found
from evtro.core.stations.readings.lists import expected_lists
from evtro.core.stations.sky.incident import disturbance, incident_at
from evtro.core.stations.sky.path import ground_of, pattern_loss_db, relief_for, way_of
from evtro.core.stations.sky.senders import into_job, near, senders_of
from evtro.core.units.quantities import InputError, text_of
from evtro.demo.arrays import harrow_farm, larch_street, mill_loft
from tests.changes import taken
from tests.refusals import refused

CATALOGUE = catalogue.load()
EUROPE = profiles.load("europe")
AMERICA = profiles.load("north-america")
SITE = Site(latitude_deg=57.21, longitude_deg=-4.56, height_m=67.0, mount_height_m=8.0)
MAST = Target(
    id="t1", kind="transmitter", name="Mast", latitude_deg=57.35, longitude_deg=-4.3, height_m=400.0
)


def _job(**more: object) -> Job:
    return harrow_farm().model_copy(update=more)


def _changed(job: Job, antenna: str, **values: object) -> Job:
    return edits.change_row(job, "arrays", antenna, values)


# --- terrain -------------------------------------------------------------------------------------


@given(
    d1=st.floats(0.5, 60),
    d2=st.floats(0.5, 60),
    edge=st.floats(-50, 300),
    low=st.floats(2, 60),
    lift=st.floats(0, 60),
    mhz=st.sampled_from([100.0, 200.0, 474.0, 690.0]),
)
def test_a_higher_mast_never_loses_more_over_one_edge(
    d1: float, d2: float, edge: float, low: float, lift: float, mhz: float
) -> None:
    def lost(height: float) -> float:
        ray = height + (100.0 - height) * d1 / (d1 + d2)
        return float(edge_loss_db(edge_parameter(edge - ray, d1, d2, mhz)))

    assert lost(low + lift) <= lost(low) + 1e-9


@given(
    hill=st.floats(0, 400),
    at=st.integers(3, 45),
    low=st.floats(3, 30),
    lift=st.floats(0, 40),
    mhz=st.sampled_from([100.0, 474.0, 690.0]),
)
def test_a_higher_mast_never_loses_more_over_one_hill(
    hill: float, at: int, low: float, lift: float, mhz: float
) -> None:
    """The terrain's own edge; the smooth earth under it is another rule's business."""
    d = np.linspace(0, 24, 49)
    h = np.zeros(49)
    h[at] = hill
    below, above = (
        delta_bullington(d, h, x, 250.0, [mhz]).terrain_db[0] for x in (low, low + lift)
    )
    assert above <= below + 1e-9


@given(seed=st.integers(0, 10_000), start=st.floats(3, 200), end=st.floats(3, 200))
def test_the_way_back_loses_the_same(seed: int, start: float, end: float) -> None:
    rng = np.random.default_rng(seed)
    d = np.linspace(0, rng.uniform(2, 100), 60)
    h = np.abs(np.cumsum(rng.normal(0, rng.uniform(0, 30), 60)))
    there = delta_bullington(d, h, h[0] + start, h[-1] + end, [200.0, 650.0])
    back = delta_bullington(d[-1] - d[::-1], h[::-1], h[-1] + end, h[0] + start, [200.0, 650.0])
    assert back.loss_db == pytest.approx(there.loss_db, abs=1e-9)
    assert back.in_sight == there.in_sight


@given(factor=st.floats(0.01, 100))
def test_twice_the_power_is_three_decibels_everywhere(factor: float) -> None:
    job = harrow_farm()
    more = job.model_copy(
        update={
            "carriers": tuple(
                c.model_copy(update={"power": c.power * factor}) for c in job.carriers
            )
        }
    )
    a, b = terminals(job, job.arrays[0]), terminals(more, job.arrays[0])
    assert a is not None
    assert b is not None
    assert b.level_dbuv - a.level_dbuv == pytest.approx(10 * np.log10(factor), abs=1e-9)


def test_doubling_is_3_01() -> None:
    job = harrow_farm()
    more = job.model_copy(
        update={
            "carriers": tuple(c.model_copy(update={"power": c.power * 2}) for c in job.carriers)
        }
    )
    for one, two in zip(paths(job, EUROPE).paths, paths(more, EUROPE).paths, strict=True):
        for a, b in zip(one.muxes, two.muxes, strict=True):
            assert b.field_dbuvm - a.field_dbuvm == pytest.approx(3.0103, abs=1e-3)
            assert b.level_dbuv - a.level_dbuv == pytest.approx(3.0103, abs=1e-3)


def _relief(heights: list[float | None], length: float = 20.0) -> TerrainProfile:
    return TerrainProfile(
        id="g1",
        target="t1",
        source="tile",
        from_latitude_deg=57.21,
        from_longitude_deg=-4.56,
        to_latitude_deg=57.35,
        to_longitude_deg=-4.3,
        length_km=length,
        heights_m=tuple(heights),
    )


def test_small_holes_are_bridged_and_said() -> None:
    heights: list[float | None] = [10.0 * i for i in range(201)]
    heights[50] = heights[51] = None
    ground = ground_of(_relief(heights), 20.0, 5.0)
    assert ground.known
    assert text_of(ground.missing) == "1 hole bridged"
    assert ground.ground_m[50] == pytest.approx(500.0)


def test_a_tile_that_ends_on_the_way_says_which_part_is_missing() -> None:
    heights: list[float | None] = [100.0] * 124 + [None] * 77
    ground = ground_of(_relief(heights), 20.0, 5.0)
    assert not ground.known
    assert "12.3 km to 20.0 km of 20.0 km" in text_of(ground.missing)
    assert set(ground.ground_m) == {5.0}


def test_a_job_says_that_its_ground_is_known_in_part() -> None:
    job = harrow_farm()
    cut = job.reliefs[1].model_copy(
        update={
            "heights_m": tuple(
                h if i < 120 else None for i, h in enumerate(job.reliefs[1].heights_m)
            )
        }
    )
    job = job.model_copy(update={"reliefs": (job.reliefs[0], cut, job.reliefs[2])})
    found = next(
        p for p in work_out(job, CATALOGUE, EUROPE).sky.problems if p.code == "terrain-part"
    )
    assert found.ref == "t2"
    way = next(p for p in paths(job, EUROPE).paths if p.target == "t2")
    assert not way.known
    assert way.spread_db == 10.0


def test_a_profile_of_another_place_does_not_count() -> None:
    job = harrow_farm()
    assert relief_for(job.reliefs, job.site, job.targets[0]) is not None
    moved = job.site.model_copy(update={"latitude_deg": 57.2101})
    assert relief_for(job.reliefs, moved, job.targets[0]) is None


def test_the_sky_says_which_transmitter_the_ground_hides() -> None:
    answers = work_out(harrow_farm(), CATALOGUE, EUROPE)
    hidden = [p for p in answers.sky.problems if p.code == "behind-ground"]
    assert [p.ref for p in hidden] == ["t2"]
    assert {t.name: t.state for t in answers.sky.targets} == {
        "Staunmoor": "ok",
        "Cold Brae": "marginal",
    }
    own = edits.change_row(harrow_farm(), "targets", "t2", {"own_loss_db": 20.0})
    assert not any(p.code == "behind-ground" for p in work_out(own, CATALOGUE, EUROPE).sky.problems)


def test_what_an_antenna_brings_too_weakly_is_named() -> None:
    short = next(p for p in work_out(harrow_farm(), CATALOGUE, EUROPE).aim.problems)
    assert short.code == "terminals-short"
    assert "mux B1, mux B2, mux B3" in str(short.title[0])
    turned = _changed(harrow_farm(), "a1", heading_deg=294.0)
    assert work_out(turned, CATALOGUE, EUROPE).aim.problems == []
    away = _changed(harrow_farm(), "a1", heading_deg=160.0, front_back_db=40.0, beamwidth_deg=15.0)
    quiet = away.model_copy(
        update={"carriers": tuple(c.model_copy(update={"power": 1e-4}) for c in away.carriers)}
    )
    assert next(p for p in work_out(quiet, CATALOGUE, EUROPE).aim.problems).state == "fail"


def test_the_hill_costs_and_the_open_way_does_not() -> None:
    found = {p.name: p for p in paths(harrow_farm(), EUROPE).paths}
    assert found["Staunmoor"].in_sight
    assert found["Staunmoor"].terrain_db < 0.1
    assert not found["Cold Brae"].in_sight
    assert found["Cold Brae"].edge_km == pytest.approx(7.26, abs=0.2)
    assert found["Cold Brae"].terrain_db > 20


def test_an_own_figure_stands_in_place_of_the_forecast() -> None:
    job = edits.change_row(harrow_farm(), "targets", "t2", {"own_loss_db": 12.0})
    way = next(p for p in paths(job, EUROPE).paths if p.target == "t2")
    assert way.muxes[0].lost_db == pytest.approx(12.0)
    assert way.spread_db == 4.0


def test_what_stands_near_by_is_an_edge_only_in_its_bearing() -> None:
    wall = Obstruction(
        id="b1", name="wall", from_deg=30, to_deg=60, above_m=4, distance_m=12, seen_from_m=8
    )
    args = (MAST, None)
    with_wall = way_of(SITE, *args, (wall,), 8.0, (600.0,), (True,))
    beside = way_of(
        SITE,
        *args,
        (wall.model_copy(update={"from_deg": 60, "to_deg": 90}),),
        8.0,
        (600.0,),
        (True,),
    )
    assert with_wall is not None
    assert beside is not None
    assert with_wall.near_db[0] > 15
    assert beside.near_db[0] == 0
    above = way_of(SITE, *args, (wall,), 14.0, (600.0,), (True,))
    assert above is not None
    assert above.near_db[0] < 3


def test_a_transmitter_at_the_house_is_told_and_the_rest_goes_on() -> None:
    job = edits.change_row(
        harrow_farm(), "targets", "t2", {"latitude_deg": 57.21, "longitude_deg": -4.56}
    )
    answers = work_out(job, CATALOGUE, EUROPE)
    assert any(p.code == "at-site" and p.ref == "t2" for p in answers.sky.problems)
    assert {p.name for p in paths(job, EUROPE).paths} == {"Staunmoor", "Loch End relay"}


def test_a_transmitter_far_beyond_the_horizon_is_out() -> None:
    job = edits.change_row(harrow_farm(), "targets", "t2", {"latitude_deg": 61.5})
    answers = work_out(job, CATALOGUE, EUROPE)
    far = next(p for p in answers.sky.problems if p.code == "far-beyond")
    assert far.state == "fail"
    assert far.gauge is not None
    assert (far.gauge.value or 0) > 300


def test_a_pattern_of_one_bearing_is_refused() -> None:
    with pytest.raises(ValueError, match="one bearing"):
        Target(id="t1", kind="transmitter", name="x", pattern=((0.0, 3.0),))


@given(bearing=st.floats(-720, 720))
def test_a_pattern_goes_round_the_compass(bearing: float) -> None:
    pattern = ((0.0, 8.0), (90.0, 0.0), (270.0, 14.0))
    loss = pattern_loss_db(pattern, bearing)
    assert 0 <= loss <= 14
    assert loss == pytest.approx(pattern_loss_db(pattern, bearing + 360), abs=1e-9)
    assert pattern_loss_db(pattern, 315) == pytest.approx(11.0)


@given(height=st.floats(0, 40), more=st.floats(0, 10))
def test_surroundings_cost_less_higher_up(height: float, more: float) -> None:
    f = np.array([200.0, 600.0])
    assert (
        clutter_loss_db("town", height + more, f) <= clutter_loss_db("town", height, f) + 1e-9
    ).all()


def test_coverings_cost_less_at_vhf_and_an_own_figure_counts() -> None:
    for key in COVERINGS:
        loss, spread = entry_loss_db("loft", key, None, np.array([211.0, 600.0]))
        assert loss[0] == pytest.approx(0.6 * loss[1])
        assert spread > 0
    assert entry_loss_db("loft", "foil", 7.0, np.array([600.0]))[0][0] == 7.0
    assert entry_loss_db("outdoors", "foil", None, np.array([600.0]))[0][0] == 0.0


# --- antennas and headings -----------------------------------------------------------------------


@given(off=st.floats(0, 180), width=st.floats(15, 120), back=st.floats(0, 35))
def test_an_antenna_hears_less_the_further_off_it_looks(
    off: float, width: float, back: float
) -> None:
    loss = float(array_loss_db(off, width, back))
    assert 0 <= loss <= max(back, 13.0) + 1e-9
    assert float(array_loss_db(-off, width, back)) == pytest.approx(loss, abs=1e-9)
    assert float(array_loss_db(off + 360, width, back)) == pytest.approx(loss, abs=1e-6)
    assert float(array_loss_db(min(off + 5, 180), width, back)) >= loss - 1e-9


def test_half_the_beam_off_is_three_decibels() -> None:
    assert float(array_loss_db(18, 36, 24)) == pytest.approx(3.0)
    assert float(array_loss_db(180, 36, 24)) == pytest.approx(24.0)


def test_gain_is_read_between_the_pairs() -> None:
    table = ((600.0, 12.0), (470.0, 9.0))
    assert gain_at_dbi(table, 0.0, [470, 535, 600, 800]).tolist() == [9.0, 10.5, 12.0, 12.0]
    assert gain_at_dbi((), 7.5, [500]).tolist() == [7.5]


def test_the_sweep_says_what_one_look_says() -> None:
    """Two ways to one figure: the sweep's margin at a heading, and C/N at the terminals there."""
    job = harrow_farm()
    antenna = job.arrays[0]
    incident = incident_at(job, antenna)
    quiet = bare_beyond(incident)
    quiet = type(quiet)(np.full_like(quiet.noise_dbuv, -99.0), quiet.least_dbuv, "")
    found = sweep(incident, [antenna], quiet, 3.0, np.array([50.0, 261.0]))
    for i, heading in enumerate((50.0, 261.0)):
        at = terminals(job, antenna.model_copy(update={"heading_deg": heading}))
        assert at is not None
        margins = (at.cn_db - at.incident.wanted_db)[at.incident.wanted]
        assert found.least_db[0, i] == pytest.approx(margins.min(), abs=0.05)
        good = services_of(incident)[at.incident.wanted][margins >= 3.0].sum()
        assert found.services[0, i] == good


def test_between_two_transmitters_one_heading_wins_and_two_antennas_stand_higher() -> None:
    job = harrow_farm()
    incident = incident_at(job, job.arrays[0])
    beyond = preamplified(incident)
    found = sweep(incident, [job.arrays[0]], beyond, 3.0)
    best = best_of(found, 0, 15)
    assert best.services == 15
    assert 255 <= best.heading_deg <= 350
    ways = {w.key: w for w in compare(incident, job.arrays[0], beyond, 3.0, best, combiner_db=4.0)}
    assert ways["two"].least_db > ways["one"].least_db
    assert ways["rotator"].least_db == pytest.approx(ways["two"].least_db + 4.0, abs=0.3)


def test_the_best_stretch_brings_as_much_at_both_ends() -> None:
    job = harrow_farm()
    incident = incident_at(job, job.arrays[0])
    found = sweep(incident, [job.arrays[0]], preamplified(incident), 3.0)
    best = best_of(found, 0, 15)
    at = {round(b): s for b, s in zip(found.bearing_deg, found.services[0], strict=True)}
    assert at[round(best.from_deg)] == at[round(best.to_deg)] == best.services
    assert at[round(best.from_deg - 1) % 360] < best.services
    assert at[round(best.to_deg + 1) % 360] < best.services


def test_one_channel_from_two_sides_disturbs_and_a_network_does_not() -> None:
    job = harrow_farm()
    antenna = job.arrays[0].model_copy(update={"heading_deg": 131.0})

    def ratio(job: Job) -> float:
        at = terminals(job, antenna)
        assert at is not None
        return float(at.cn_db[at.incident.ids.index("c2")])

    alone = job.model_copy(update={"carriers": tuple(c for c in job.carriers if c.id != "c7")})
    one_net = job.model_copy(
        update={
            "carriers": tuple(
                c.model_copy(update={"network": "vale"}) if c.id in ("c2", "c7") else c
                for c in job.carriers
            )
        }
    )
    assert ratio(job) < ratio(alone) - 10
    # Both stand some 30 km apart: inside the guard interval the second adds its power to the first.
    at = terminals(one_net, antenna)
    assert at is not None
    own, other = (float(at.level_dbuv[at.incident.ids.index(k)]) for k in ("c2", "c7"))
    added = 10 * np.log10(1 + 10 ** ((other - own) / 10))
    assert ratio(one_net) == pytest.approx(ratio(alone) + added, abs=1e-6)


def test_the_neighbour_channel_harms_by_its_strength() -> None:
    job = harrow_farm()
    near_by = job.carriers[3].model_copy(update={"frequency_mhz": 498.0})
    job = job.model_copy(update={"carriers": (*job.carriers[:3], near_by, *job.carriers[4:])})
    at = terminals(job, job.arrays[0])
    assert at is not None
    i = at.incident.ids.index("c4")
    strong = at.level_dbuv[at.incident.ids.index("c1")]
    assert at.unwanted_dbuv[i] == pytest.approx(
        10 * np.log10(10 ** ((strong - 49) / 10) + 10**0.356), abs=0.05
    )


def test_several_antennas_share_the_work_by_band() -> None:
    job = mill_loft()
    uhf, dab = job.arrays
    wanted = [duty_of(job, a, incident_at(job, a)).wanted for a in (uhf, dab)]
    assert wanted[0].tolist() == [True, True, True, False]
    assert wanted[1].tolist() == [False, False, False, True]
    answers = work_out(job, CATALOGUE, EUROPE)
    solved = answers.coax.solved
    ports = dict(zip(solved.columns.ids, solved.columns.port, strict=True))
    assert ports["c1"] == ("p1", "out", 0)
    assert ports["c4"] == ("p2", "out", 0)
    assert answers.coax.verdict.inside == 2


def test_the_smallest_antenna_that_does_it_has_its_neighbours() -> None:
    job = mill_loft()
    solved = work_out(job, CATALOGUE, EUROPE).coax.solved
    detail = array_detail(NetworkContext(job, CATALOGUE, EUROPE).with_solved(solved), job.arrays[0])
    assert detail is not None
    middle = sorted(c.frequency_mhz for c in incident_at(job, job.arrays[0]).carriers)
    low, high = middle[(len(middle) - 1) // 2], middle[len(middle) // 2]
    assert detail.wave_m == pytest.approx(299.792458 / ((low + high) / 2))
    marks = {c.mark: c for c in detail.choices if c.mark}
    smallest = marks["smallest"]
    assert smallest.fits
    smaller = detail.choices[: detail.choices.index(smallest)]
    assert not any(c.fits for c in smaller)
    assert marks["next up"].least_db > smallest.least_db
    sizes = [c.wind_area_m2 * c.length_m for c in detail.choices]
    assert sizes == sorted(sizes)


def test_what_the_page_promises_comes_true_when_it_is_taken() -> None:
    """The margin that a choice shows is that of the run with the antenna in it."""
    job = mill_loft()
    solved = work_out(job, CATALOGUE, EUROPE).coax.solved
    detail = array_detail(NetworkContext(job, CATALOGUE, EUROPE).with_solved(solved), job.arrays[0])
    assert detail is not None
    pick = next(c for c in detail.choices if c.key == "row-13")
    taken = take_antenna(JobParts(job, CATALOGUE), "a1", "row-13")
    taken = _changed(taken, "a1", heading_deg=pick.heading_deg)
    after = work_out(taken, CATALOGUE, EUROPE).coax.solved
    channels = {channel.id: channel for channel in after.channels}
    margins = []
    for row in outlet_rows(NetworkContext(taken, CATALOGUE, EUROPE), after):
        for cell in row.cells:
            if cell.carrier in ("c1", "c2", "c3") and cell.level.value is not None:
                over = (cell.cn_db or 0) - channels[cell.carrier].wanted_cn_db
                margins.append(min(over, cell.level.value - 45 + 3))
    assert min(margins) == pytest.approx(pick.least_db, abs=0.1)


# --- front end -----------------------------------------------------------------------------------


def test_a_strong_short_run_needs_no_preamplifier() -> None:
    job = mill_loft()
    found = front_end(NetworkContext(job, CATALOGUE, EUROPE), job.arrays[0])
    assert found is not None
    assert found.advised == "none"
    assert found.change is None
    assert text_of(found.reason).count(". ") == 1


def test_a_long_run_gets_the_least_preamplifier_that_does_it() -> None:
    job = harrow_farm()
    job = job.model_copy(
        update={
            "carriers": tuple(c for c in job.carriers if c.target == "t1"),
            "targets": job.targets[:1],
            "reliefs": job.reliefs[:1],
            "trial_spots": (),
            "trial_readings": (),
            "scans": (),
        }
    )
    found = front_end(NetworkContext(job, CATALOGUE, EUROPE), job.arrays[0])
    assert found is not None
    assert found.advised == "preamp-13"
    after = taken(job, found.change)
    assert [p.type for p in after.parts if p.type.startswith("preamp")] == ["preamp-13"]
    again = front_end(NetworkContext(after, CATALOGUE, EUROPE), after.arrays[0])
    assert again is not None
    assert again.change is None
    option = next(o for o in found.options if o.key == "preamp-13")
    now = next(o for o in again.options if o.now)
    assert now.margin_db == pytest.approx(option.margin_db)
    assert all(
        r.state in ("ok", "marginal") for r in work_out(after, CATALOGUE, EUROPE).coax.outlets
    )


def test_strong_base_stations_call_for_the_filter() -> None:
    job = harrow_farm()
    site = job.site.model_copy(update={"mobile_m": 120.0, "mobile_bearing_deg": 50.0})
    job = job.model_copy(
        update={
            "site": site,
            "carriers": tuple(c for c in job.carriers if c.target == "t1"),
            "targets": job.targets[:1],
            "reliefs": job.reliefs[:1],
            "trial_spots": (),
            "trial_readings": (),
            "scans": (),
        }
    )
    found = front_end(NetworkContext(job, CATALOGUE, EUROPE), job.arrays[0])
    assert found is not None
    by_key = {o.key: o for o in found.options}
    assert by_key["preamp-22"].load.state == "fail"
    assert by_key["filter-694+preamp-22"].load.state != "fail"
    assert found.advised.startswith("filter-694")
    assert "filter" in text_of(found.reason)
    assert found.strongest[0][2]


def test_an_entered_base_station_takes_the_place_of_the_assumed_one() -> None:
    job = harrow_farm()
    mast = Target(
        id="t9",
        kind="transmitter",
        name="base",
        latitude_deg=57.2102,
        longitude_deg=-4.57,
        height_m=90.0,
        wanted=False,
    )
    load = Carrier(
        id="c9",
        target="t9",
        name="block",
        frequency_mhz=763.0,
        bandwidth_mhz=10.0,
        polarisation="V",
        power=0.6,
        modulation="Mobile OFDM",
    )
    job = job.model_copy(
        update={"targets": (*job.targets, mast), "carriers": (*job.carriers, load)}
    )
    found = front_end(NetworkContext(job, CATALOGUE, EUROPE), job.arrays[0])
    assert found is not None
    assert text_of(found.mobile_words) == "base stations as entered"
    assert not any("base station, " in row[0] for row in found.strongest)


def test_a_house_next_to_the_mast_gets_an_attenuator() -> None:
    job = mill_loft()
    loud = tuple(c.model_copy(update={"power": c.power * 1000}) for c in job.carriers)
    job = job.model_copy(update={"carriers": loud})
    found = front_end(NetworkContext(job, CATALOGUE, EUROPE), job.arrays[0])
    assert found is not None
    assert found.advised.startswith("attenuator")
    after = taken(job, found.change)
    again = front_end(NetworkContext(after, CATALOGUE, EUROPE), after.arrays[0])
    assert again is not None
    assert next(o for o in again.options if o.now).window_db >= 0


def test_what_lies_in_the_noise_no_amplifier_brings_back() -> None:
    job = _changed(harrow_farm(), "a1", heading_deg=80.0)
    far = tuple(
        c.model_copy(update={"power": 0.02}) if c.target == "t2" else c for c in job.carriers
    )
    job = job.model_copy(update={"carriers": far})
    found = front_end(NetworkContext(job, CATALOGUE, EUROPE), job.arrays[0])
    assert found is not None
    assert "mux B1" in found.beyond_help
    assert not any("mux B1" in o.weakest for o in found.options)


def test_a_front_end_goes_and_comes_without_a_trace() -> None:
    job = harrow_farm()
    there = with_front(JobParts(job, CATALOGUE), "a1", "filter-694+preamp-13")
    kinds = [p.type for p in there.parts if p.id not in {q.id for q in job.parts}]
    assert sorted(kinds) == ["filter-694", "inserter-12", "preamp-13"]
    back = with_front(JobParts(there, CATALOGUE), "a1", "none")
    assert {p.type for p in back.parts} == {p.type for p in job.parts}
    lengths = sum(k.length_m for k in back.links)
    assert lengths == pytest.approx(sum(k.length_m for k in job.links) + 1.9)
    with refused("part-unknown"):
        with_front(JobParts(job, CATALOGUE), "a1", "no-such-part")


def test_the_demo_house_with_a_dead_masthead_amplifier_says_why() -> None:
    answers = work_out(larch_street(), CATALOGUE, AMERICA)
    dead = next(p for p in answers.coax.problems if p.code == "dc-none")
    assert "passes no power" in str(dead.title[0])
    found = front_end(NetworkContext(larch_street(), CATALOGUE, AMERICA), larch_street().arrays[0])
    assert found is not None
    assert found.advised == "none"
    bare = taken(larch_street(), found.change)
    assert len(bare.parts) == len(larch_street().parts) - 1
    assert all(p.id != dead.ref for p in bare.parts)


def test_the_second_antenna_comes_in_through_a_combiner() -> None:
    job = with_front(JobParts(harrow_farm(), CATALOGUE), "a1", "preamp-22")
    two = second_antenna(JobParts(job, CATALOGUE), "a1", 50.0, 260.0)
    assert [a.heading_deg for a in two.arrays] == [50.0, 260.0]
    combiner = next(p for p in two.parts if p.type == "combiner-wide")
    assert sorted(k.to_port for k in two.links if k.to_part == combiner.id) == [0, 1]
    solved = solve_job(NetworkContext(two, CATALOGUE, EUROPE))
    ports = dict(zip(solved.columns.ids, solved.columns.port, strict=True))
    first, second = (next(p.id for p in two.parts if p.antenna == a.id) for a in two.arrays)
    assert ports["c1"] == (first, "out", 0)
    assert ports["c4"] == (second, "out", 0)


def test_the_run_referred_back_gives_the_outlets_own_ratio() -> None:
    """Noise of the run put at the antenna's terminals makes the C/N of the worst outlet."""
    job = harrow_farm()
    solved = solve_job(NetworkContext(job, CATALOGUE, EUROPE))
    at = terminals(job, job.arrays[0])
    assert at is not None
    beyond = referred_to_antenna(
        NetworkContext(job, CATALOGUE, EUROPE).with_solved(solved),
        job.arrays[0],
        at.incident,
    )
    worst = {}
    for row in outlet_rows(NetworkContext(job, CATALOGUE, EUROPE), solved):
        for cell in row.cells:
            worst[cell.carrier] = min(worst.get(cell.carrier, 99.0), cell.cn_db or 99.0)
    for i, key in enumerate(at.incident.ids):
        if key in worst:
            total = 10 ** (at.unwanted_dbuv[i] / 10) + 10 ** (beyond.noise_dbuv[i] / 10)
            assert at.level_dbuv[i] - 10 * np.log10(total) == pytest.approx(worst[key], abs=1e-6)


# --- trial, scans, the company's line ------------------------------------------------------------


def test_quality_goes_before_strength() -> None:
    job = harrow_farm()
    found = trial(job, job.arrays[0], 3.0)
    assert found.best == "d2"
    by_id = {h.id: h for h in found.spots}
    assert [by_id[k].rank for k in ("d2", "d1", "d3")] == [1, 2, 3]
    assert "stronger" in found.words
    assert [x.name for x in by_id["d3"].lines if x.echoes] == ["mux S1", "mux S2", "mux S3"]
    assert not any(x.echoes for x in by_id["d1"].lines)


def test_the_reading_becomes_the_source_with_the_forecast_beside_it() -> None:
    job = stand_at(harrow_farm(), "d2")
    antenna = job.arrays[0]
    assert (antenna.heading_deg, antenna.above_ground_m, antenna.stands_at) == (330.0, 7.2, "d2")
    at = terminals(job, antenna)
    assert at is not None
    i = at.incident.ids.index("c4")
    assert at.read[i]
    assert at.level_dbuv[i] == 31.2
    assert at.cn_db[i] == pytest.approx(22.6)
    assert at.forecast_dbuv[i] != pytest.approx(31.2, abs=0.5)
    solved = solve_job(NetworkContext(job, CATALOGUE, EUROPE))
    assert (solved.columns.meant(solved.columns.ids.index("c4")) or (0, 0))[0] == 31.2
    mux = next(m for p in paths(job, EUROPE).paths for m in p.muxes if m.carrier == "c4")
    assert mux.read
    assert mux.spread_db < 3


def test_a_spot_that_is_removed_gives_the_forecast_back() -> None:
    job = stand_at(harrow_farm(), "d2")
    job = taken(job, Remove(rows="trial_spots", id="d2"))
    assert job.arrays[0].stands_at is None
    assert not any(h.spot == "d2" for h in job.trial_readings)


def test_readings_far_off_the_forecast_ask_for_a_reason() -> None:
    job = harrow_farm()
    hold = TrialSpot(id="d9", antenna="a1", place="behind the tank", heading_deg=50.0)
    rows = tuple(
        TrialReading(id=f"i9{n}", spot="d9", carrier=f"c{n}", level_dbuv=35.0, cn_db=28.0)
        for n in (1, 2, 3)
    )
    job = job.model_copy(update={"trial_spots": (hold,), "trial_readings": rows})
    line = trial(job, job.arrays[0], 3.0).spots[0]
    assert "below the forecast" in line.words
    assert line.mean_off_db == pytest.approx(-30.3, abs=0.5)


def test_one_reading_taken_away_again_leaves_nothing() -> None:
    job = taken(
        harrow_farm(),
        Add(rows="trial_readings", values={"spot": "d3", "carrier": "c6", "level_dbuv": "12"}),
    )
    assert any((h.spot, h.carrier, h.level_dbuv) == ("d3", "c6", 12.0) for h in job.trial_readings)
    row = next(h.id for h in job.trial_readings if (h.spot, h.carrier) == ("d3", "c6"))
    job = taken(job, Remove(rows="trial_readings", id=row))
    assert not any((h.spot, h.carrier) == ("d3", "c6") for h in job.trial_readings)
    with pytest.raises(InputError):
        taken(
            job,
            Add(rows="trial_readings", values={"spot": "d99", "carrier": "c6", "level_dbuv": 1.0}),
        )


def _expected(job: Job) -> dict[str, object]:
    answers = work_out(job, CATALOGUE, EUROPE)
    solved = answers.coax.solved
    return {o.name: o for o in expected_lists(job, EUROPE, answers.coax.outlets, solved)}


def test_the_expected_list_and_what_is_missing() -> None:
    job = mill_loft()
    found = _expected(job)["Study"]
    assert [x.chance for x in found.lines] == ["sure"] * 4  # type: ignore[attr-defined]
    assert found.services == 11  # type: ignore[attr-defined]
    scan = Scan(
        id="n1",
        outlet="o2",
        found=parse_found("Harbour One, harbour two;Peat Radio\nVale News, Owl TV"),
    )
    job = job.model_copy(update={"scans": (scan,)})
    after = _expected(job)["Study"]
    lines = {x.name: x for x in after.lines}  # type: ignore[attr-defined]
    assert lines["mux S1"].found
    assert lines["mux S2"].missing == ["Lantern", "Shieling"]
    assert lines["mux S3"].found is False
    assert lines["mux S3"].state == "fail"
    assert after.extra == ["Owl TV"]  # type: ignore[attr-defined]
    assert any("mux S3" in w for w in after.words)  # type: ignore[attr-defined]


def test_a_tuner_set_to_cable_is_the_first_thing_said() -> None:
    job = mill_loft()
    job = job.model_copy(update={"scans": (Scan(id="n1", outlet="o1", tuner="cable", found=()),)})
    assert "set to cable" in _expected(job)["Sitting room"].words[0]  # type: ignore[attr-defined]


def test_a_whole_transmitter_missing_points_at_the_antenna_and_the_count_is_compared() -> None:
    job = mill_loft()
    scans = (Scan(id="n1", outlet="o1", found=("23", "30")), Scan(id="n2", outlet="o1", found=()))
    words = _expected(job.model_copy(update={"scans": scans}))["Sitting room"].words  # type: ignore[attr-defined]
    assert any("All of Staunmoor" in w for w in words)
    assert any("2 fewer" in w for w in words)
    by_number = _expected(job.model_copy(update={"scans": scans[:1]}))["Sitting room"]
    assert [x.found for x in by_number.lines][:3] == [True, True, False]  # type: ignore[attr-defined]


def _company(**values: object) -> Job:
    job = larch_street()
    return job.model_copy(update={"company": job.company.model_copy(update=values)})


def _of_line(job: Job) -> list[Problem]:
    return company_problems(
        NetworkContext(job, CATALOGUE, AMERICA).with_solved(
            solve_job(NetworkContext(job, CATALOGUE, AMERICA))
        )
    )


def test_the_company_s_line_is_unplugged_before_the_own_antenna() -> None:
    codes = {p.code for p in _of_line(larch_street())}
    assert codes == {"company-on", "lines-unknown"}
    done = _company(unplugged=True, lines_known=True)
    assert _of_line(done) == []


def test_own_antenna_and_company_s_line_are_never_joined() -> None:
    job = larch_street()
    job, _ = run.add_after(JobParts(job, CATALOGUE), "p1", "combiner-wide", "rg6", 1.0, port=0)
    combiner = job.parts[-1].id
    line = job.parts[0].model_copy(update={"id": "p90", "type": "company-line", "antenna": None})
    job = job.model_copy(update={"parts": (*job.parts, line)})
    job = run.join(JobParts(job, CATALOGUE), "p90", combiner, "rg6", 2.0, 1)
    found = _of_line(job)[0]
    assert found.code == "back-feed"
    assert found.state == "fail"
    assert "Combiner" in found.place


def test_levels_tilt_and_return_noise_of_a_drop_that_stays() -> None:
    good = _company(
        plan="both", lines_known=True, filter_fitted=True, return_noise_dbuv=8.0, watched_s=30.0
    )
    assert _of_line(good) == []
    bad = _company(
        plan="both",
        lines_known=True,
        low_dbuv=64.0,
        high_dbuv=44.0,
        return_noise_dbuv=31.0,
        watched_s=5.0,
    )
    codes = {p.code: p.state for p in _of_line(bad)}
    assert codes == {
        "drop-level": "fail",
        "drop-tilt": "fail",
        "return-noise": "fail",
        "watched-short": "marginal",
        "filter-unconfirmed": "marginal",
    }


# --- checks of the antenna, the list of transmitters ---------------------------------------------


def _codes(job: Job) -> set[str]:
    return {p.code for p in work_out(job, CATALOGUE, EUROPE).aim.problems}


def test_what_is_wrong_with_an_antenna_is_said() -> None:
    job = harrow_farm()
    assert _codes(job) == {"terminals-short"}
    assert _codes(mill_loft()) == set()
    assert "band" in _codes(_changed(job, "a1", low_mhz=174.0, high_mhz=230.0))
    assert "no-heading" in _codes(_changed(job, "a1", target=None))
    assert "covering" in _codes(_changed(job, "a1", standing="loft", covering="foil"))
    assert "covering" not in _codes(_changed(job, "a1", standing="loft", covering="slate"))
    tight = job.model_copy(update={"site": job.site.model_copy(update={"boundary_m": 0.5})})
    assert "over-boundary" in _codes(tight)
    no = job.model_copy(update={"site": job.site.model_copy(update={"consent": "refused"})})
    assert "consent" in _codes(no)


def test_an_antenna_without_a_target_looks_where_it_is_turned() -> None:
    job = _changed(harrow_farm(), "a1", target=None, heading_deg=255.0)
    assert heading_of(job, job.arrays[0]) == 255.0
    aim = work_out(job, CATALOGUE, EUROPE).aim.aims[0]
    assert (aim.azimuth_deg, aim.target_name) == (255.0, "Cold Brae")


def test_foil_costs_the_loft_its_services() -> None:
    slate, foil = mill_loft(), _changed(mill_loft(), "a1", covering="foil")
    a, b = terminals(slate, slate.arrays[0]), terminals(foil, foil.arrays[0])
    assert a is not None
    assert b is not None
    assert (a.level_dbuv - b.level_dbuv)[0] == pytest.approx(14.0)
    assert b.spread_db[0] > a.spread_db[0]


def test_transmitters_of_a_job_go_into_another_and_come_back_the_same() -> None:
    job = harrow_farm()
    known = senders_of(job)
    empty = Job(name="new", date=job.date, site=job.site)
    for sender in known:
        empty = into_job(empty, sender)
    assert senders_of(empty) == known
    twice = empty
    for sender in known:
        twice = into_job(twice, sender)
    assert twice == empty


def test_the_list_within_reach_is_sorted_by_what_arrives() -> None:
    job = harrow_farm()
    reliefs = {r.target: r for r in job.reliefs}
    known = senders_of(job)
    by_name = {t.name: reliefs[t.id] for t in job.targets}
    rows = near(
        job.site,
        known,
        8.5,
        lambda t: by_name[t.name].model_copy(update={"target": t.id}),
        {"staunmoor"},
    )
    fields = [r.field_dbuvm for r in rows]
    assert fields == sorted(fields, key=lambda f: -(f or -999))
    assert rows[0].name == "Staunmoor"
    assert rows[0].in_job
    assert not next(r for r in rows if r.name == "Cold Brae").in_sight
    far = known[0].model_copy(update={"latitude_deg": 40.0})
    assert near(job.site, [far], 8.5, lambda _: None, set()) == []


def test_an_empty_job_asks_for_nothing_and_breaks_nothing() -> None:
    job = Job(name="new", date=harrow_farm().date, site=SITE)
    assert paths(job, EUROPE).paths == []
    antenna = Array(id="a1", name="x")
    job = job.model_copy(update={"arrays": (antenna,)})
    solved = work_out(job, CATALOGUE, EUROPE).coax.solved
    assert array_detail(NetworkContext(job, CATALOGUE, EUROPE).with_solved(solved), antenna) is None
    assert front_end(NetworkContext(job, CATALOGUE, EUROPE), antenna) is None
    assert trial(job, antenna, 3.0).spots == []


def test_antennas_of_a_combiner_stand_clear_of_each_other() -> None:
    answers = work_out(mill_loft(), CATALOGUE, EUROPE)
    place = {p.part: p for p in answers.coax.layout.places}
    assert abs(place["p1"].top - place["p2"].top) > 3
    assert place["p3"].in_rows == sorted(place["p3"].in_rows)
    assert place["p3"].out_rows == [pytest.approx(sum(place["p3"].in_rows) / 2)]


def test_steps_name_the_danger_of_the_place_and_count_the_spots() -> None:
    loft = work_out(mill_loft(), CATALOGUE, EUROPE)
    roof = work_out(harrow_farm(), CATALOGUE, EUROPE)
    first = loft.steps["aim"][0]
    assert first.danger == "Loft"
    assert first.gate
    assert roof.steps["aim"][0].danger == "Edge of the roof"
    spots = next(s for s in roof.steps["aim"] if s.key == "aim.a1.spots")
    assert spots.figure is not None
    assert spots.figure.value == 3
    assert spots.measure is not None
    assert spots.measure.state == "ok"
    leave = work_out(larch_street(), CATALOGUE, AMERICA)
    off = next(s for s in leave.steps["coax"] if s.key == "coax.company-off")
    assert off.danger
    assert off.gate
    assert not any(s.key.startswith("coax.company") for s in roof.steps["coax"])
    scan = next(s for s in loft.steps["handover"] if s.key == "handover.scan")
    assert scan.figure is not None
    assert scan.figure.value == 11


def test_the_sheet_tells_leave_spot_scans_and_the_company_s_line() -> None:
    farm = stand_at(harrow_farm(), "d2")
    answers = work_out(farm, CATALOGUE, EUROPE)
    text = {
        s.title: " ".join(f"{text_of(x.label)} {text_of(x.text)}" for x in s.lines)
        for s in answers.sheet
    }
    assert "not needed here" in text["Job"]
    assert "West gable, the best of 3" in text["Aim"]
    assert "9 found, tuner set to antenna" in text["Scans"]
    street = larch_street()
    answers = work_out(street, CATALOGUE, AMERICA)
    line = next(s for s in answers.sheet if s.title == "Cable company's line")
    assert "still on" in " ".join(text_of(x.text) for x in line.lines)


def test_the_plan_of_the_site_shows_only_what_is_wanted() -> None:
    answers = work_out(harrow_farm(), CATALOGUE, EUROPE)
    assert [r.name for r in answers.site.rays] == ["Staunmoor", "Cold Brae"]


def test_a_wide_carrier_puts_only_its_part_into_a_narrow_one() -> None:
    radio = mill_loft().carriers[3]
    wide = radio.model_copy(update={"id": "c9", "bandwidth_mhz": 7.68})
    f = np.array([211.648, 211.648])
    share = disturbance((radio, wide), f, np.array([1.536, 7.68]))
    assert share[1, 0] == pytest.approx(0.2)
    assert share[0, 1] == pytest.approx(1.0)
    assert share[0, 0] == share[1, 1] == 0.0
