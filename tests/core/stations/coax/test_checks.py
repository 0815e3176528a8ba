"""Each rule of the run on a plant that breaks it, and on one that keeps it."""

from __future__ import annotations

import datetime as dt
import math

import pytest

from evtro import catalogue, profiles
from evtro.core.job import Array, Cable, Carrier, Dish, Job, Mast, Outlet, Part, Site, Target, edits
from evtro.core.job.context import JobParts
from evtro.core.job.paths import Supply
from evtro.core.job.problems import Problem
from evtro.core.network import edits as run
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.views.answer import CoaxAnswer, work_out
from evtro.core.units.quantities import text_of
from tests.changes import taken

CATALOGUE = catalogue.load()
EUROPE = profiles.load("europe")


def house(
    *kinds: str,
    metres: float = 10.0,
    erp_kw: float = 1.0,
    extra_db: float = 0.0,
    channels: tuple[float, ...] = (474.0, 586.0, 690.0),
    gain_dbi: float = 12.0,
) -> Job:
    """One array, a chain of parts with equal cables between them, one outlet."""
    parts = [Part(id="p1", type="antenna", antenna="a1")]
    links = []
    for i, kind in enumerate([*kinds, "plate"]):
        part = f"p{i + 2}"
        parts.append(Part(id=part, type=kind, outlet="o1" if kind == "plate" else None))
        links.append(
            Cable(id=f"l{i + 1}", from_part=f"p{i + 1}", to_part=part, cable="rg6", length_m=metres)
        )
    return Job(
        name="one line",
        date=dt.date(2026, 3, 25),
        site=Site(latitude_deg=53.48, longitude_deg=-9.97, height_m=10),
        mast=Mast(fixing="loft"),
        outlets=(Outlet(id="o1", name="Parlour", satellite=False),),
        targets=(
            Target(
                id="t1",
                kind="transmitter",
                name="Cairnmore",
                latitude_deg=53.59,
                longitude_deg=-9.4195,
                height_m=385,
                own_loss_db=extra_db,
            ),
        ),
        carriers=tuple(
            Carrier(
                id=f"c{i + 1}",
                target="t1",
                name=f"mux {i + 1}",
                frequency_mhz=f,
                bandwidth_mhz=7.61,
                polarisation="H",
                power=erp_kw,
                modulation="DVB-T 64QAM 2/3",
            )
            for i, f in enumerate(channels)
        ),
        arrays=(Array(id="a1", name="Array", target="t1", gain_dbi=gain_dbi),),
        parts=tuple(parts),
        links=tuple(links),
    )


def answer(job: Job) -> CoaxAnswer:
    return work_out(NetworkContext(job, CATALOGUE, EUROPE))


def _problem(job: Job, code: str) -> Problem:
    return next(p for p in answer(job).problems if p.code == code)


def _codes(job: Job) -> set[str]:
    return {p.code for p in answer(job).problems}


def _take(job: Job, problem: Problem) -> Job:
    assert problem.change
    return taken(job, problem.change)


def test_a_good_line_has_no_problem() -> None:
    found = answer(house(extra_db=2))
    assert found.problems == []
    assert found.state == "ok"
    assert (found.verdict.inside, found.verdict.wanted) == (1, 1)


def test_every_problem_says_its_four_things() -> None:
    for job in (house(metres=150, extra_db=10), house(erp_kw=900), house("splitter-8")):
        for problem in answer(job).problems:
            assert text_of(problem.title)
            assert problem.place
            assert text_of(problem.limit)
            assert problem.origin
            assert text_of(problem.remedy)


def test_too_low_with_the_least_better_cable_that_does_it() -> None:
    job = house(metres=80, extra_db=6)
    problem = _problem(job, "level-low")
    assert problem.state == "fail"
    better = answer(_take(job, problem))
    assert better.outlets[0].state in ("ok", "marginal")
    assert "gives" in text_of(problem.effect)


def test_too_low_beyond_any_cable_asks_for_more_level() -> None:
    problem = _problem(house(metres=60, extra_db=40), "level-low")
    assert problem.change is None
    assert "gain" in text_of(problem.remedy)


def test_too_high_is_attenuated() -> None:
    job = house(erp_kw=400, metres=2)
    problem = _problem(job, "level-high")
    assert problem.state == "fail"
    calmed = _take(job, problem)
    assert any(p.type == "attenuator" and p.setting_db for p in calmed.parts)
    assert "level-high" not in _codes(calmed)


def test_a_thin_margin_names_where_the_quality_is_lost() -> None:
    lost_in_cable = house("preamp-22", "inserter-12", metres=35, extra_db=6)
    lost_in_cable = edits.change_row(lost_in_cable, "links", "l1", {"length_m": 170.0})
    weak = house("preamp-22", "inserter-12", extra_db=40, metres=1)
    on_the_way = [p for p in answer(_add_gain(lost_in_cable)).problems if p.code == "margin"]
    assert on_the_way
    assert all("preamplifier" in text_of(p.remedy) for p in on_the_way)
    at_antenna = [p for p in answer(_add_gain(weak)).problems if p.code == "margin"]
    assert at_antenna
    assert all("preamplifier" not in text_of(p.remedy) for p in at_antenna)


def _add_gain(job: Job) -> Job:
    """A house amplifier behind preamplifier and inserter: level enough, quality not."""
    job, _ = run.add_after(JobParts(job, CATALOGUE), "p3", "amp-house-20", "rg6", 0.5, port=0)
    return job


def test_levels_that_differ_too_much_over_the_band() -> None:
    job = house(metres=160, erp_kw=300, channels=(66.0, 690.0))
    problem = _problem(job, "slope")
    assert problem.gauge is not None
    assert problem.gauge.high == 12.0
    assert "slope" not in _codes(house(metres=20))


def test_input_window_of_a_multiswitch() -> None:
    job = house("multiswitch-4", extra_db=12)
    assert _problem(job, "input-low").place.endswith("satellite line 1")
    job = edits.change_row(job, "links", "l1", {"cable": "rg11"})
    terrestrial = job.model_copy(
        update={
            "links": tuple(
                k.model_copy(update={"to_port": 4}) if k.id == "l1" else k for k in job.links
            )
        }
    )
    problem = _problem(terrestrial, "input-low")
    assert problem.place.endswith("terrestrial")


def test_two_supplies_that_meet() -> None:
    job = house("preamp-13", "splitter-2p", "inserter-12")
    parts = (*job.parts, Part(id="p9", type="inserter-12"), Part(id="p10", type="terminator"))
    links = (
        *job.links,
        Cable(id="l8", from_part="p3", from_port=1, to_part="p9", cable="rg6", length_m=1),
        Cable(id="l9", from_part="p9", to_part="p10", cable="rg6", length_m=0),
    )
    one_way = job.model_copy(update={"parts": parts, "links": links})
    assert "dc-meet" not in _codes(one_way)
    tap = run.replace(JobParts(one_way, CATALOGUE), "p3", "splitter-2p")
    both = CATALOGUE.model_copy(
        update={
            "parts": {
                **CATALOGUE.parts,
                "splitter-2p": CATALOGUE.parts["splitter-2p"].model_copy(
                    update={"dc": ((0, 0), (0, 1))}
                ),
            }
        }
    )
    found = work_out(NetworkContext(tap, both, EUROPE))
    assert any(p.code == "dc-meet" for p in found.problems)


def test_a_supply_that_is_overloaded() -> None:
    job = house("preamp-13", "inserter-12")
    small = CATALOGUE.model_copy(
        update={
            "parts": {
                **CATALOGUE.parts,
                "inserter-12": CATALOGUE.parts["inserter-12"].model_copy(
                    update={"supply": Supply(volts=12, most_ma=50)}
                ),
            }
        }
    )
    found = work_out(NetworkContext(job, small, EUROPE))
    problem = next(p for p in found.problems if p.code == "dc-current")
    assert problem.gauge is not None
    assert (problem.gauge.value, problem.gauge.high) == (60.0, 50.0)


def test_an_inserter_ahead_of_the_amplifier_lights_nothing() -> None:
    """The power inserter must stand below what it feeds."""
    assert "dc-none" in _codes(house("inserter-12", "preamp-13"))
    assert "dc-none" not in _codes(house("preamp-13", "inserter-12"))


@pytest.mark.parametrize(
    ("kind", "open_ports"), [("splitter-2", 1), ("splitter-8", 7), ("tap-12", 1)]
)
def test_open_ports_are_counted(kind: str, open_ports: int) -> None:
    job = house(kind, extra_db=0, erp_kw=20)
    problem = _problem(job, "open-port")
    assert problem.gauge is not None
    assert problem.gauge.value == open_ports
    capped = _take(job, problem)
    assert sum(p.type == "terminator" for p in capped.parts) == open_ports
    assert "open-port" not in _codes(capped)


def test_a_tap_gives_its_drop_less_than_its_through_line() -> None:
    tap = CATALOGUE.parts["tap-12"]
    through = tap.gain_db(0, 0, [600.0], None)
    drop = tap.gain_db(0, 1, [600.0], None)
    assert through is not None
    assert drop is not None
    assert drop[0] < through[0] - 10


def test_a_target_without_antenna_or_source() -> None:
    job = house()
    lost = job.model_copy(update={"dishes": (), "arrays": ()})
    lost = lost.model_copy(
        update={"parts": tuple(p.model_copy(update={"antenna": None}) for p in lost.parts)}
    )
    assert "Cairnmore" in text_of(_problem(lost, "no-source").title)
    idle = job.model_copy(update={"parts": (Part(id="p1", type="splitter-2"),), "links": ()})
    assert idle.arrays[0].name in text_of(_problem(idle, "no-source").title)


def test_a_transponder_outside_the_lnbs_bands(skerry: Job) -> None:
    job = edits.change_row(skerry, "carriers", "c4", {"frequency_mhz": 4000.0})
    problem = _problem(job, "no-source")
    assert "cannot be received" in text_of(problem.title)
    assert answer(job).channels[3].band == ""


def test_the_garden_room_by_hand(skerry: Job) -> None:
    """H 12.738 GHz: LNB level less feeder, block, arresters, multiswitch, drop and plate."""
    found = answer(skerry)
    channel = next(i for i in found.channels if i.id == "c7")
    assert channel.frequency_mhz == pytest.approx(2138.0)
    assert channel.band == "H high"
    rg6 = CATALOGUE.cables["rg6"]
    rg59 = CATALOGUE.cables["rg59"]
    f = [2138.0]
    lnb = next(level for c, level, _ in found.detail("p3").levels if c == "c7")
    loss = float(rg6.loss_db(18.5, f)[0] + rg59.loss_db(48, f)[0])
    for key, port_in in (("block-5", 3), ("arrester-5", 3), ("plate", 0)):
        gain = CATALOGUE.parts[key].gain_db(port_in, port_in, f, None)
        assert gain is not None
        loss -= float(gain[0])
    through = CATALOGUE.parts["multiswitch-12"].gain_db(3, 11, f, None)
    assert through is not None
    row = next(r for r in found.outlets if r.name == "Garden room")
    cell = next(c for c in row.cells if c.carrier == "c7")
    assert cell.level.value == pytest.approx(lnb - loss + float(through[0]), abs=1e-6)


def test_typical_cable_attenuation() -> None:
    """RG-6 class: about 5.8 dB/100 m at 55 MHz... 17 at 600 and 32 at 2150 (data sheets of the
    class, from memory)."""
    rg6 = CATALOGUE.cables["rg6"]
    for mhz, db in ((55, 5.1), (600, 16.9), (2150, 32.5)):
        assert float(rg6.loss_db(100, [mhz])[0]) == pytest.approx(db, rel=0.05)


def test_the_catalogue_is_sound() -> None:
    for part in CATALOGUE.parts.values():
        for path in part.paths:
            frequencies = [f for f, _ in path.gain_db]
            assert frequencies == sorted(frequencies)
            # No gain is told beyond the points of its table.
            assert frequencies[0] <= path.low_mhz < path.high_mhz <= max(frequencies[-1], 900)
            assert set(path.inputs) <= set(range(part.inputs))
            assert set(path.outputs) <= set(range(part.outputs))
            if path.noise_figure_db is None:
                assert max(db for _, db in path.gain_db) <= 0, "a passive part gives no gain"
        assert {(i, o) for i, o in part.dc} <= {(i, o) for i, o, _ in part.ways}
        assert {s.input for s in part.select} == {
            i for p in part.paths if p.arrivals == "selected" for i in p.inputs
        }
        assert part.inputs or part.draws_as in ("antenna", "lnb", "line")
        if part.load:
            assert 0 < part.load.low_v < part.load.high_v
        assert {b.output for b in part.bands} <= set(range(part.outputs))
        if part.draws_as == "splitter":
            # A path that serves several outputs at once shares the power between them.
            for path in part.paths:
                assert min(-db for _, db in path.gain_db) > 10 * math.log10(len(path.outputs))
    for kind in CATALOGUE.antennas.values():
        waves = [f for f, _ in kind.gain]
        assert waves == sorted(waves)
        assert kind.low_mhz <= waves[0] < waves[-1] <= kind.high_mhz
        if kind.beamwidth_deg >= 180:
            continue
        # No antenna has more gain than a beam as wide as high of its own width allows.
        assert max(g for _, g in kind.gain) <= 10 * math.log10(41_253 / kind.beamwidth_deg**2) + 6
    for cable in CATALOGUE.cables.values():
        assert cable.bend_radius_mm == pytest.approx(10 * cable.diameter_mm)


@pytest.mark.parametrize("name", profiles.NAMES)
def test_every_limit_of_a_profile_has_an_origin(name: str) -> None:
    profile = profiles.load(name)
    origins = [
        profile.keep_clear_origin,
        profile.margin_origin,
        profile.slope_origin,
        profile.reading_origin,
        profile.overhead_origin,
        profile.wind.origin,
        profile.mobile.origin,
        *(r.origin for r in profile.earth_rules),
        *(w.origin for w in profile.windows.values()),
    ]
    assert all(len(o) > 5 for o in origins)
    assert CATALOGUE.parts[profile.mobile.filter].draws_as == "filter"
    assert {"DVB-T", "DVB-T2", "DVB-S", "DVB-S2", "ATSC"} <= set(profile.windows)
    assert all(w.low_dbuv < w.high_dbuv for w in profile.windows.values())


# --- what a receiver can ask for --------------------------------------------------------------------


def _two_rooms(splitter: str) -> Job:
    """One LNB with one output, a splitter, two rooms with receivers."""
    outlets = tuple(
        Outlet(id=f"o{i}", name=n, terrestrial=False) for i, n in ((1, "Study"), (2, "Attic"))
    )
    carriers = tuple(
        Carrier(
            id=f"c{i + 1}",
            target="t1",
            name=f"tp {i + 1}",
            frequency_mhz=f,
            bandwidth_mhz=27.5,
            polarisation=p,  # type: ignore[arg-type]
            power=54,
            modulation="DVB-S2 8PSK 2/3",
        )
        for i, (f, p) in enumerate(
            ((10_850.0, "V"), (11_200.0, "H"), (12_000.0, "V"), (12_500.0, "H"))
        )
    )
    return Job(
        name="two rooms",
        date=dt.date(2026, 3, 25),
        site=Site(latitude_deg=52.1, longitude_deg=-1.2),
        mast=Mast(fixing="loft"),
        outlets=outlets,
        carriers=carriers,
        targets=(Target(id="t1", kind="satellite", name="Dotterel", orbit_deg_e=19.2),),
        dishes=(Dish(id="a1", name="Dish", target="t1", diameter_m=0.9),),
        parts=(
            Part(id="p1", type="lnb-single", antenna="a1"),
            Part(id="p2", type=splitter),
            Part(id="p3", type="plate", outlet="o1"),
            Part(id="p4", type="plate", outlet="o2"),
        ),
        links=(
            Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=10),
            Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=8),
            Cable(id="l3", from_part="p2", from_port=1, to_part="p4", cable="rg6", length_m=12),
        ),
    )


def test_an_lnb_behind_a_splitter_without_power_is_dark_and_the_twin_lights_it() -> None:
    """The twin and not an inserter: that would hold the LNB at one band."""
    job = _two_rooms("splitter-2")
    assert answer(job).verdict.inside == 0
    problem = _problem(job, "dc-none")
    assert "passes no power" in text_of(problem.title)
    lit = _take(job, problem)
    assert next(p.type for p in lit.parts if p.id == "p2") == "splitter-2p"
    assert [r.state for r in answer(lit).outlets] == ["ok", "fail"]


def test_the_room_on_the_dead_port_is_out_though_the_level_is_right() -> None:
    job = _two_rooms("splitter-2p")
    attic = next(r for r in answer(job).outlets if r.name == "Attic")
    assert {c.choice for c in attic.cells} == {"none"}
    assert {c.level.state for c in attic.cells} <= {"ok", "marginal"}
    assert attic.state == "fail"
    assert _problem(job, "choice-deaf").place == "Attic"
    assert "Attic goes dark" in text_of(_problem(job, "standby").title)


def test_lines_changed_over_at_a_switch_are_named_and_changed_back(skerry: Job) -> None:
    # Both lines of one place: the low bands take each other's inputs.
    into = {k.to_port: k for k in skerry.links if k.to_part == "p6" and k.to_port < 4}
    wrong = edits.change_row(skerry, "links", into[0].id, {"to_port": 1})
    wrong = edits.change_row(wrong, "links", into[1].id, {"to_port": 0})
    problem = _problem(wrong, "choice-input")
    assert "asks for input" in text_of(problem.title)
    assert answer(wrong).verdict.inside == 0
    back = _take(wrong, problem)
    assert [r.state for r in answer(back).outlets] == [r.state for r in answer(skerry).outlets]


def test_an_lnb_held_by_an_inserter_is_told_with_what_is_wanted() -> None:
    job = _two_rooms("splitter-2")
    parts = (*job.parts, Part(id="p5", type="inserter-18"))
    links = tuple(k.model_copy(update={"to_part": "p5"}) if k.id == "l1" else k for k in job.links)
    links = (*links, Cable(id="l4", from_part="p5", to_part="p2", cable="rg6", length_m=1))
    held = job.model_copy(update={"parts": parts, "links": links})
    problem = _problem(held, "choice-held")
    assert "18 V" in text_of(problem.title)
    study = next(r for r in answer(held).outlets if r.name == "Study")
    there = {c.carrier for c in study.cells if c.level.value is not None}
    assert there == {"c2"}, "18 V without tone brings the low horizontal band and nothing else"


def test_a_job_without_a_satellite_has_no_receiver_that_feeds_the_mast() -> None:
    """An outlet wants both by habit: that lights no preamplifier where there is no dish."""
    job = house("preamp-22")
    both = job.model_copy(update={"outlets": (Outlet(id="o1", name="Parlour"),)})
    assert "dc-none" in _codes(both)
    assert answer(both).verdict.inside == 0
