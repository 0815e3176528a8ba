"""The plant solver, powering, checks, remedies, edits and layout."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.changes.antennas import second_antenna
from evtro.core.job import Cable, Job, Part, edits
from evtro.core.job.changes import Remove, Set
from evtro.core.job.context import JobParts
from evtro.core.job.parts import Catalogue
from evtro.core.job.problems import Problem
from evtro.core.job.profile import Profile
from evtro.core.network import edits as run
from evtro.core.network.graph import wire
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.fixes.search import find_fixes
from evtro.core.stations.coax.views.answer import work_out as coax_of
from evtro.core.stations.coax.views.layout import lay_out
from evtro.core.stations.coax.views.terms import terms
from evtro.core.units.quantities import (
    InputError,
    text_of,
)
from evtro.demo.world import demo_jobs
from tests.changes import taken
from tests.plants import from_one, lit
from tests.proving import examples
from tests.refusals import refused

CATALOGUE = catalogue.load()
PASSIVE = ["arrester", "block-1", "inserter-12", "attenuator", "filter-694"]
ONE = from_one(70.0, 50.0, np.array([600.0]), bandwidth_mhz=8.0)


def _line(kinds: list[str], lengths: list[float], cable: str = "rg6") -> tuple[float, float]:
    parts = [Part(id="p1", type="antenna")]
    links = []
    for i, (kind, metres) in enumerate(zip(kinds, lengths, strict=True)):
        parts.append(
            Part(id=f"p{i + 2}", type=kind, setting_db=6 if kind == "attenuator" else None)
        )
        links.append(
            Cable(
                id=f"l{i + 1}",
                from_part=f"p{i + 1}",
                to_part=f"p{i + 2}",
                cable=cable,
                length_m=metres,
            )
        )
    plant, levels = lit(parts, links, CATALOGUE, ONE)
    end = plant.nodes[f"p{len(parts)}", "out", 0]
    return float(levels.level_dbuv[end, 0]), float(levels.cn_db[end, 0])


def _codes(job: Job, region: str = "europe") -> list[str]:
    return [p.code for p in coax_of(NetworkContext(job, CATALOGUE, profiles.load(region))).problems]


def _problem(job: Job, code: str, region: str = "europe") -> Problem:
    found = coax_of(NetworkContext(job, CATALOGUE, profiles.load(region))).problems
    return next(p for p in found if p.code == code)


@given(st.lists(st.sampled_from(PASSIVE), min_size=1, max_size=5), st.data())
@examples(15, 300)
def test_the_order_of_passive_parts_does_not_matter(kinds: list[str], data: st.DataObject) -> None:
    lengths = [5.0] * len(kinds)
    turned = data.draw(st.permutations(kinds))
    assert _line(kinds, lengths) == pytest.approx(_line(list(turned), lengths), abs=1e-9)


@given(st.floats(0, 300), st.floats(0.1, 300))
@examples(15, 300)
def test_more_cable_never_gives_more_level_or_quality(metres: float, more: float) -> None:
    level, cn = _line(["block-1"], [metres])
    longer, worse = _line(["block-1"], [metres + more])
    assert longer < level
    assert worse <= cn + 1e-9


@given(st.floats(0, 100), st.floats(0, 100))
@examples(10, 200)
def test_two_lengths_are_as_good_as_their_sum(a: float, b: float) -> None:
    joined = _line(["block-1", "block-1"], [a, b])[0]
    swapped = _line(["block-1", "block-1"], [b, a])[0]
    assert joined == pytest.approx(swapped, abs=1e-9)


def test_a_preamplifier_at_the_antenna_beats_one_after_the_cable() -> None:
    near = _line(["preamp-13", "block-1"], [0.5, 60])
    far = _line(["block-1", "preamp-13"], [60, 0.5])
    assert near[0] == pytest.approx(far[0], abs=1e-9)
    assert near[1] > far[1]


def test_the_demo_has_one_outlet_out_and_the_remedy_brings_it_in(
    skerry: Job, europe: Profile
) -> None:
    found = coax_of(NetworkContext(skerry, CATALOGUE, europe))
    out = [r.name for r in found.outlets if r.state == "fail"]
    assert out == ["Garden room"]
    problem = next(p for p in found.problems if p.code == "level-low" and p.state == "fail")
    assert problem.change is not None
    fixed = taken(skerry, problem.change)
    after = coax_of(NetworkContext(fixed, CATALOGUE, europe))
    assert all(r.state != "fail" for r in after.outlets)


@pytest.mark.parametrize("name", sorted(demo_jobs()))
def test_the_gauges_stand_at_the_lowest_and_the_highest_frequency(name: str) -> None:
    job = demo_jobs()[name]
    found = coax_of(NetworkContext(job, CATALOGUE, profiles.load(job.profile)))
    channels = {channel.id: channel for channel in found.channels}
    for row in found.outlets:
        for group in row.groups:
            cells = [
                c
                for c in row.cells
                if channels[c.carrier].group == group.group and c.level.value is not None
            ]
            cells.sort(key=lambda c: channels[c.carrier].frequency_mhz)
            for judged, mhz, cell in (
                (group.low, group.low_mhz, cells[0]),
                (group.high, group.high_mhz, cells[-1]),
            ):
                assert mhz == channels[cell.carrier].frequency_mhz
                assert judged.value == pytest.approx(cell.level.value, abs=1e-3)
                assert (judged.low, judged.high) == (cell.level.low, cell.level.high)
            levels = [c.level.value or 0.0 for c in cells]
            assert group.least_dbuv == pytest.approx(min(levels), abs=1e-3)
            assert group.slope.value == pytest.approx(max(levels) - min(levels), abs=2e-3)
    for part in found.parts:
        levels = {c: level for c, level, _ in found.detail(part.id).levels}
        for group in part.groups:
            ends = [
                levels[k]
                for k in levels
                if channels[k].frequency_mhz in (group.low_mhz, group.high_mhz)
            ]
            assert any(group.low.value == pytest.approx(v, abs=1e-3) for v in ends)


def test_the_staircase_ends_at_the_level(skerry: Job, europe: Profile) -> None:
    found = coax_of(NetworkContext(skerry, CATALOGUE, europe))
    for part in ("p7", "p18"):
        for carrier, level, _ in found.detail(part).levels:
            steps = terms(found.ctx, part, carrier).level
            assert steps[-1].level_dbuv == pytest.approx(level, abs=1e-9)
            assert steps[0].level_dbuv + sum(s.change_db for s in steps) == pytest.approx(level)


@pytest.mark.parametrize("name", sorted(demo_jobs()))
def test_the_budget_of_a_ratio_is_all_of_it(name: str) -> None:
    """Noise and distortion by where they come in: together they are the C/N of the place."""
    job = demo_jobs()[name]
    found = coax_of(NetworkContext(job, CATALOGUE, profiles.load(job.profile)))
    for row in found.outlets:
        for carrier, _, cn in found.detail(row.part).levels if row.part else ():
            made = terms(
                found.ctx,
                row.part or "",
                carrier,
            )
            total = -10 * np.log10(sum(10 ** (-t.cn_db / 10) for t in made.quality))
            assert made.cn_db == pytest.approx(cn, abs=1e-9)
            assert total == pytest.approx(cn, abs=0.01), (row.name, carrier, made.quality)


def test_a_second_way_stands_in_the_staircase() -> None:
    """Two antennas on a wide combiner hear the same carriers: the level counts at its low end."""
    job = demo_jobs()["harrow-farm"]
    two = second_antenna(JobParts(job, CATALOGUE), "a1", 330.0, 260.0)
    found = coax_of(NetworkContext(two, CATALOGUE, profiles.load(two.profile)))
    plate = next(r.part for r in found.outlets if r.part)
    seen = 0
    for carrier, level, _ in found.detail(plate).levels:
        steps = terms(found.ctx, plate, carrier).level
        assert steps[-1].level_dbuv == pytest.approx(level, abs=1e-9)
        seen += text_of(steps[-1].name).startswith("by a second way")
    assert seen == len(found.detail(plate).levels)


def test_a_splitter_without_power_pass_leaves_the_amplifier_dark(fern: Job) -> None:
    links = tuple(
        k.model_copy(update={"to_part": "p5"}) if k.id == "l3" else k
        for k in fern.links
        if k.id != "l4"
    )
    parts = tuple(p for p in fern.parts if p.id != "p4")
    dark = fern.model_copy(update={"parts": parts, "links": links})
    problem = _problem(dark, "dc-none", fern.profile)
    assert problem.place == "Preamplifier"
    assert problem.gauge is not None
    assert problem.gauge.value == 0
    lit = taken(dark, problem.change)
    assert "dc-none" not in _codes(lit, fern.profile)


def test_a_long_thin_line_drops_too_much_voltage(fern: Job) -> None:
    far = edits.change_row(fern, "links", "l7", {"length_m": 200.0, "cable": "rg6ccs"})
    problem = _problem(far, "dc-voltage", fern.profile)
    assert problem.gauge is not None
    assert problem.gauge.value == pytest.approx(13 - (200 * 0.130 + 9 * 0.05) * 0.110, abs=1e-4)


def test_power_follows_its_own_line_through_a_block(skerry: Job, europe: Profile) -> None:
    found = coax_of(NetworkContext(skerry, CATALOGUE, europe))
    assert {f.consumer: f.supply for f in found.verdict.feeds} == {"p2": "p6", "p3": "p6"}
    assert found.verdict.supplies[0].load.value == 240


def test_an_open_port_is_found_and_capped(skerry: Job, europe: Profile) -> None:
    job = taken(skerry, Remove(rows="outlets", id="o3"))
    problem = _problem(job, "open-port")
    assert problem.gauge is not None
    assert problem.gauge.value == 1
    capped = taken(job, problem.change)
    assert "open-port" not in _codes(capped)


def test_an_overdriven_amplifier_is_told_and_turned_down(skerry: Job, europe: Profile) -> None:
    target = skerry.targets[2].model_copy(update={"own_loss_db": -10.0})
    loud = skerry.model_copy(
        update={
            "targets": (*skerry.targets[:2], target, *skerry.targets[3:]),
            "carriers": tuple(
                c.model_copy(update={"power": 100.0}) if c.target == "t3" else c
                for c in skerry.carriers
            ),
        }
    )
    problem = _problem(loud, "overload")
    assert problem.state == "fail"
    found = find_fixes(NetworkContext(loud, CATALOGUE, europe), code="overload", ref="p2")
    assert "Preamplifier" in text_of(found.fixes[0].do)
    fixed = taken(loud, found.fixes[0].change)
    assert fixed.parts[1].setting_db
    assert "overload" not in _codes(fixed)


def test_a_part_that_stops_the_band_is_named(fern: Job) -> None:
    job, _ = run.add_after(JobParts(fern, CATALOGUE), "p9", "filter-694", "rg6", 1.0, port=0)
    problem = _problem(job, "range", fern.profile)
    assert "Cellular filter" in problem.title[0]  # type: ignore[operator]
    assert problem.place == "Living room, dish"


def test_a_loop_is_told_and_the_rest_goes_on(fern: Job) -> None:
    looped = fern.model_copy(
        update={
            "parts": (
                *fern.parts,
                Part(id="p20", type="splitter-2"),
                Part(id="p21", type="block-1"),
            ),
            "links": (
                *fern.links,
                Cable(id="l20", from_part="p20", to_part="p21", cable="rg6", length_m=1),
                Cable(id="l21", from_part="p21", to_part="p20", cable="rg6", length_m=1),
            ),
        }
    )
    problem = _problem(looped, "loop", fern.profile)
    assert "one cable" in str(problem.remedy[0])
    found = coax_of(NetworkContext(looped, CATALOGUE, profiles.load(fern.profile)))
    assert [r.state for r in found.outlets] == ["ok", "ok", "ok"]


def test_an_outlet_without_a_path_or_a_plate(fern: Job) -> None:
    loose = fern.model_copy(update={"links": tuple(k for k in fern.links if k.id != "l6")})
    assert _problem(loose, "no-path", fern.profile).place == "Bedroom"
    bare = taken(fern, Remove(rows="outlets", id="o2"))
    again = bare.model_copy(update={"outlets": fern.outlets})
    assert _problem(again, "no-plate", fern.profile).place == "Bedroom"


def test_a_line_without_a_grounding_block(fern: Job) -> None:
    assert "no-block" not in _codes(fern, fern.profile)
    bare = run.remove(JobParts(fern, CATALOGUE), "p9")
    assert _problem(bare, "no-block", fern.profile).place == "Dish 0.75 m"


def test_letting_a_part_in_keeps_what_hung_there(fern: Job) -> None:
    job, new = run.add_after(JobParts(fern, CATALOGUE), "p3", "attenuator", "rg6", 2.0, port=0)
    assert next(k for k in job.links if k.from_part == new).to_part == "p4"
    assert run.remove(JobParts(job, CATALOGUE), new).parts == fern.parts


def test_four_lines_go_into_the_multiswitch_at_once(skerry: Job) -> None:
    start = skerry.model_copy(update={"parts": (), "links": (), "readings": ()})
    job = run.add_source(JobParts(start, CATALOGUE), "a1", "lnb-four")
    job, block = run.add_after(JobParts(job, CATALOGUE), "p1", "block-5", "rg6", 12)
    job, switch = run.add_after(JobParts(job, CATALOGUE), block, "multiswitch-4", "rg6", 6)
    into = sorted(k.to_port for k in job.links if k.to_part == switch)
    assert into == [0, 1, 2, 3]
    job = run.add_source(JobParts(job, CATALOGUE), "a2", "antenna")
    job = run.join(JobParts(job, CATALOGUE), job.parts[-1].id, switch, "rg6", 10)
    assert sorted(k.to_port for k in job.links if k.to_part == switch) == [0, 1, 2, 3, 4]


@pytest.mark.parametrize(
    ("call", "code"),
    [
        (lambda j: run.add_source(JobParts(j, CATALOGUE), "a1", "lnb-single"), "source-wrong"),
        (lambda j: run.add_source(JobParts(j, CATALOGUE), "a2", "lnb-single"), "source-twice"),
        (lambda j: run.add_source(JobParts(j, CATALOGUE), "a9", "antenna"), "source-missing"),
        (
            lambda j: run.add_after(JobParts(j, CATALOGUE), "p2", "nothing", "rg6", 1),
            "part-unknown",
        ),
        (lambda j: run.add_after(JobParts(j, CATALOGUE), "p6", "block-1", "rg6", 1), "run-ends"),
        (
            lambda j: run.add_after(JobParts(j, CATALOGUE), "p5", "plate", "rg6", 1, "o1"),
            "outlet-twice",
        ),
        (lambda j: run.add_after(JobParts(j, CATALOGUE), "p3", "plate", "rg6", 1), "part-ends"),
        (
            lambda j: run.add_after(JobParts(j, CATALOGUE), "p5", "lnb-four", "rg6", 1),
            "part-is-source",
        ),
        (lambda j: run.join(JobParts(j, CATALOGUE), "p5", "p6", "rg6", 1), "no-free-port"),
        (lambda j: run.replace(JobParts(j, CATALOGUE), "p5", "block-1"), "too-few-ports"),
        (lambda j: run.replace(JobParts(j, CATALOGUE), "p8", "block-1"), "part-misplaced"),
        (lambda j: run.find_part(j, "p99"), "part-missing"),
        (lambda j: run.find_link(j, "l99"), "cable-missing"),
    ],
)
def test_what_cannot_be_done_is_said(fern: Job, call: object, code: str) -> None:
    with pytest.raises(InputError) as said:
        call(fern)  # type: ignore[operator]
    assert said.value.code == code
    assert said.value.remedy


def test_joining_into_a_loop_is_refused(fern: Job) -> None:
    job = fern.model_copy(
        update={
            "parts": (Part(id="p1", type="splitter-2"), Part(id="p2", type="block-1")),
            "links": (Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=1),),
        }
    )
    with refused("loop"):
        run.join(JobParts(job, CATALOGUE), "p2", "p1", "rg6", 1)


def test_wires_lie_level_and_rows_do_not_collide(skerry: Job, fern: Job) -> None:
    for job in (skerry, fern):
        found = lay_out(job, wire(job.parts, job.links, CATALOGUE))
        places = {p.part: p for p in found.places}
        for link in job.links:
            start, end = places[link.from_part], places[link.to_part]
            assert start.out_rows[link.from_port] == end.in_rows[link.to_port]
            assert start.column < end.column
        rows = [p.top for p in found.places if p.leaf]
        assert min(b - a for a, b in zip(sorted(rows), sorted(rows)[1:], strict=False)) >= 1


def test_work_out_is_pure(skerry: Job, parts: Catalogue, europe: Profile) -> None:
    first = work_out(skerry, parts, europe)
    again = work_out(skerry, parts, europe)
    assert first.stations == again.stations
    assert first.problems == again.problems
    assert first.steps == again.steps


def test_an_empty_job_asks_for_its_first_things(
    parts: Catalogue, europe: Profile, skerry: Job
) -> None:
    empty = Job(name="new", date=skerry.date)
    found = work_out(empty, parts, europe)
    assert [s.state for s in found.stations] == [
        "unknown",
        "unknown",
        "unknown",
        "unknown",
        "unknown",
        "unknown",
        "unknown",
        "unknown",
    ]
    assert {p.code for p in found.site.problems} == {"site-position", "site-outlets"}
    assert found.coax.problems == []


def test_readings_part_from_the_plan(skerry: Job, parts: Catalogue, europe: Profile) -> None:
    found = work_out(skerry, parts, europe)
    off = [p for p in found.readings.problems if p.code == "reading-off"]
    assert [p.place for p in off] == ["Kitchen, 690 MHz"]
    old = next(r for r in skerry.readings if (r.part, r.carrier) == ("p7", "c4"))
    read = taken(skerry, Set(rows="readings", id=old.id, values={"level_dbuv": 40.0, "cn_db": 3.0}))
    again = work_out(read, parts, europe)
    row = next(r for r in again.readings.rows if r.part == "p7")
    cell = next(c for c in row.cells if c.carrier == "c4")
    assert cell.state == "fail"
    assert cell.deviation.value == pytest.approx(40.0 - (cell.planned_dbuv or 0))
    assert any(p.code == "quality-low" for p in again.readings.problems)
    gone = taken(read, Remove(rows="readings", id=old.id))
    assert len(gone.readings) == len(read.readings) - 1


def test_handing_over_too_early_is_out(skerry: Job, parts: Catalogue, europe: Profile) -> None:
    early = skerry.model_copy(
        update={"handover": skerry.handover.model_copy(update={"handed_over": True})}
    )
    found = work_out(early, parts, europe)
    assert found.handover.state == "fail"
    assert found.handover.problems[0].code == "handed-over-open"


def test_dangers_come_before_the_first_step_of_roof_and_mains(
    skerry: Job, parts: Catalogue, europe: Profile
) -> None:
    found = work_out(skerry, parts, europe)
    for station in ("site", "sky", "aim", "mast", "earth", "coax"):
        first = found.steps[station][0]
        assert first.danger
        assert first.gate
    keys = [s.key for steps in found.steps.values() for s in steps]
    assert len(keys) == len(set(keys))
