"""What is offered as a cure cures what it promised and harms nothing: judged by solutions of their own,
on plants of all kinds, taken alone and one after the other."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import profiles
from evtro.core.job import Cable, Job, Outlet, Part
from evtro.core.job.changes import Change
from evtro.core.job.context import JobParts
from evtro.core.job.problems import Problem
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.feeding import voltage_of
from evtro.core.stations.coax.fixes.judge import candidate_changes, left_of
from evtro.core.stations.coax.fixes.quick_estimate import cannot_help
from evtro.core.stations.coax.fixes.search import Fixes, find_fixes
from evtro.core.units.quantities import InputError, text_of
from evtro.demo.world import demo_jobs
from tests.changes import CATALOGUE, taken
from tests.proving import examples

from .test_checks import house
from .test_regressions import answer, harmed
from .test_unwanted_signals import beside, strong

EUROPE = profiles.load("europe")
JOBS = {n: j for n, j in demo_jobs().items() if j.parts}
CURED = ("level-low", "level-high", "overload", "distortion", "margin", "slope", "dc-none")
SHARING = ("splitter-2", "splitter-2p", "splitter-4", "tap-12", "tap-16")


def _cures(job: Job, problem: Problem) -> Fixes:
    assert problem.ref is not None
    return find_fixes(
        NetworkContext(job, CATALOGUE, profiles.load(job.profile)),
        code=problem.code,
        ref=problem.ref,
    )


@st.composite
def plants(draw: st.DrawFn) -> Job:
    """A house of one array: parts in line, some of which share, an outlet at most ends."""
    line = draw(
        st.lists(
            st.sampled_from(
                [
                    "block-1",
                    "preamp-13",
                    "preamp-22",
                    "inserter-12",
                    "amp-house-20",
                    "filter-694",
                    "attenuator",
                    *SHARING,
                ]
            ),
            max_size=5,
        )
    )
    job = house(
        *line,
        metres=draw(st.sampled_from([1.0, 8.0, 25.0, 60.0])),
        erp_kw=draw(st.sampled_from([0.1, 1.0, 20.0, 200.0])),
        extra_db=draw(st.sampled_from([0.0, 0.0, 10.0, 25.0, 40.0])),
    )
    parts, links, outlets = list(job.parts), list(job.links), list(job.outlets)
    for n, kind in enumerate(line):
        outs = {"splitter-4": 4, "splitter-2": 2, "splitter-2p": 2, "tap-12": 2, "tap-16": 2}.get(
            kind, 1
        )
        for port in range(1, outs):
            if draw(st.booleans()):
                new = f"p{len(parts) + 1}"
                outlet = f"o{len(outlets) + 1}"
                parts.append(Part(id=new, type="plate", outlet=outlet))
                outlets.append(Outlet(id=outlet, name=f"Room {len(outlets)}", satellite=False))
                links.append(
                    Cable(
                        id=f"l{len(links) + 1}",
                        from_part=f"p{n + 2}",
                        from_port=port,
                        to_part=new,
                        cable=draw(st.sampled_from(["rg59", "rg6"])),
                        length_m=draw(st.sampled_from([1.0, 12.0, 50.0])),
                    )
                )
    job = job.model_copy(
        update={"parts": tuple(parts), "links": tuple(links), "outlets": tuple(outlets)}
    )
    if draw(st.booleans()):
        job = job.model_copy(
            update={
                "site": job.site.model_copy(
                    update={"mobile_m": draw(st.sampled_from([200.0, 900.0]))}
                )
            }
        )
    return beside(job, strong(draw(st.sampled_from([0.5, 30.0])))) if draw(st.booleans()) else job


def _holds(job: Job, problem: Problem, found: Fixes) -> list[Job]:
    """Every cure keeps its promise; returns the jobs that took one."""
    before, after_all = answer(job), []
    for cure in found.fixes:
        cured = taken(job, cure.change)
        after = answer(cured)
        left = [
            p
            for p in after.problems
            if p.code == problem.code
            and p.state == "fail"
            and (p.ref == problem.ref or set(p.outlets) & set(problem.outlets))
        ]
        assert not left, (text_of(cure.do), left)
        assert not harmed(before, after), text_of(cure.do)
        assert after.verdict.inside == cure.inside >= before.verdict.inside
        after_all.append(cured)
    return after_all


@pytest.mark.long
@pytest.mark.parametrize("code", CURED)
@given(plants(), st.data())
@examples(2, 120)
def test_a_cure_cures_and_harms_nothing_on_plants_of_all_kinds(
    code: str, job: Job, data: st.DataObject
) -> None:
    every = [p for p in answer(job).problems if p.code in CURED]
    # A plant without this problem tries another one of its own: no plant is drawn for nothing.
    asked = [p for p in every if p.code == code] or every
    if not asked:
        return
    problem = data.draw(st.sampled_from(asked))
    took = _holds(job, problem, _cures(job, problem))
    if not took:
        return
    # Another problem of the plant that is left, cured on top of it.
    one = data.draw(st.sampled_from(took))
    left = [p for p in answer(one).problems if p.code in CURED]
    if left:
        second = data.draw(st.sampled_from(left))
        _holds(one, second, _cures(one, second))


def _rules_out_no_cure(job: Job) -> int:
    """Of every change that sums along the way rule out, the full solution says that it cures nothing."""
    base, count = answer(job).verdict, 0
    for problem in base.problems:
        if problem.code not in ("level-low", "level-high"):
            continue
        ctx = NetworkContext(job, CATALOGUE, EUROPE).with_solved(base.solved)
        for one in list(candidate_changes(ctx, problem))[:30]:
            if cannot_help(ctx, base, problem, tried=one.job):
                count += 1
                after = answer(one.job).verdict
                assert (
                    left_of(problem, after) == "fail"
                    or problem.state == left_of(problem, after) == "marginal"
                ), one.key
    return count


@given(plants())
@examples(8, 200)
def test_what_is_ruled_out_unseen_would_cure_nothing(job: Job) -> None:
    _rules_out_no_cure(job)


@pytest.mark.long
def test_in_a_house_with_a_long_riser_most_tries_are_ruled_out() -> None:
    job = demo_jobs()["skerry-house"]
    longer = tuple(k.model_copy(update={"length_m": k.length_m + 30}) for k in job.links)
    assert _rules_out_no_cure(job.model_copy(update={"links": longer})) > 5


@pytest.mark.long
@pytest.mark.parametrize("name", sorted(JOBS))
def test_cures_of_the_demo_jobs(name: str) -> None:
    job = JOBS[name]
    for problem in answer(job).problems:
        if problem.code in CURED:
            _holds(job, problem, _cures(job, problem))


def _behind_a_splitter(inserter_port: int | None, kind: str = "splitter-2") -> Job:
    """A preamplifier ahead of a splitter, with its inserter behind one of the outputs or none."""
    job = house("preamp-13", kind, extra_db=12)
    parts = [*job.parts, Part(id="p9", type="plate", outlet="o2")]
    links = [*job.links]
    if inserter_port is None:
        links.append(
            Cable(id="l9", from_part="p3", from_port=1, to_part="p9", cable="rg6", length_m=6)
        )
    else:
        parts.append(Part(id="p8", type="inserter-12"))
        at = next(k for k in links if k.from_part == "p3")
        links = [k for k in links if k is not at]
        ends = {inserter_port: "p8", 1 - inserter_port: at.to_part}
        links += [
            Cable(
                id=f"l1{port}", from_part="p3", from_port=port, to_part=to, cable="rg6", length_m=6
            )
            for port, to in ends.items()
        ]
        links.append(Cable(id="l9", from_part="p8", to_part="p9", cable="rg6", length_m=1))
    return job.model_copy(
        update={
            "parts": tuple(parts),
            "links": tuple(links),
            "outlets": (*job.outlets, Outlet(id="o2", name="Study", satellite=False)),
        }
    )


@pytest.mark.parametrize(
    ("job", "wanted"),
    [
        (_behind_a_splitter(None), ["fit a power inserter"]),
        (_behind_a_splitter(0), ["power to port 1", "move the power inserter"]),
        (
            _behind_a_splitter(1),
            ["power to port 1, and exchange outputs 1 and 2", "move the power inserter"],
        ),
        (
            _behind_a_splitter(1, "splitter-2p"),
            ["exchange outputs 1 and 2", "move the power inserter"],
        ),
    ],
)
def test_a_preamplifier_in_the_dark(job: Job, wanted: list[str]) -> None:
    """Behind a splitter: the part that passes power, its legs exchanged, the inserter moved; each with
    its voltage, and a new inserter only as the last thing."""
    problem = next(p for p in answer(job).problems if p.code == "dc-none")
    found = _cures(job, problem)
    said = [text_of(c.do).lower() for c in found.fixes]
    for words in wanted:
        assert any(words in s and " v at " in s for s in said), (words, said)
    assert problem.change is not None
    for cure in found.fixes:
        fed = voltage_of(JobParts(taken(job, cure.change), CATALOGUE), "p2")
        assert fed.state == "ok", text_of(cure.do)
        assert f"{fed.value:.1f} V" in text_of(cure.do)
    new = [i for i, s in enumerate(said) if s.startswith("fit")]
    assert all(i >= len(wanted) - (wanted[0].startswith("fit")) for i in new)


def test_a_strong_local_transmitter_does_not_cost_the_good_ones() -> None:
    """What 37 dB of attenuation did once: every fix that is offered, taken one after the other."""
    job = beside(
        house("preamp-22", "inserter-12", "splitter-2", extra_db=10, metres=20), strong(60.0)
    )
    for _ in range(6):
        before = answer(job)
        problem = next(
            (p for p in before.problems if p.change is not None and p.code in CURED), None
        )
        if problem is None:
            break
        job = taken(job, problem.change)
        assert not harmed(before, answer(job)), text_of(problem.remedy)


def test_a_problem_that_is_gone_is_refused() -> None:
    with pytest.raises(InputError, match="not there any more"):
        find_fixes(NetworkContext(house(), CATALOGUE, EUROPE), code="level-low", ref="p99")


def test_the_house_of_six_faults_is_cured_one_by_one() -> None:
    """Whatever is offered first, taken until nothing more is: every outlet in, and nothing ever worse."""
    job = demo_jobs()["marten-lodge"]
    codes = {p.code for p in answer(job).problems}
    assert {"dc-none", "setting-range", "splitters-in-line", "open-port", "amp-late"} <= codes
    assert answer(job).verdict.inside == 0
    for _ in range(8):
        before = answer(job)
        change = next((c for p in before.problems if (c := _first(job, p)) is not None), None)
        if change is None:
            break
        job = taken(job, change)
        assert not harmed(before, answer(job))
    found = answer(job)
    assert found.verdict.inside == 5
    assert all(p.state != "fail" for p in found.problems)


def _first(job: Job, problem: Problem) -> Change | None:
    if not problem.fixable:
        return problem.change
    found = _cures(job, problem).fixes
    return found[0].change if found else None


def test_a_filter_that_stops_what_is_wanted_is_exchanged() -> None:
    job = house("filter-608", erp_kw=5, channels=(474.0, 586.0, 650.0))
    problem = next(p for p in answer(job).problems if p.code == "level-low")
    said = [text_of(c.do) for c in _cures(job, problem).fixes]
    assert any(
        "passes to 694 MHz in place of Cellular filter, passes to 608 MHz" in s for s in said
    ), said
    _holds(job, problem, _cures(job, problem))
