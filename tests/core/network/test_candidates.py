"""What is offered at a part is what a change of it accepts, no more and no less."""

from __future__ import annotations

import pytest

from evtro.core.changes import ChangeContext, carry_out
from evtro.core.job import Job
from evtro.core.job.changes import Change, CopyBranch, Insert, Join, LeadFrom, Replace
from evtro.core.job.context import JobParts
from evtro.core.job.parts import part_type
from evtro.core.network.candidates import Mode, candidates
from evtro.core.units.quantities import InputError
from evtro.demo.world import demo_jobs
from evtro.profiles import shop_profile
from tests.changes import CATALOGUE
from tests.refusals import refused

HOUSES = ("skerry-house", "marten-lodge", "alder-terrace", "mill-loft")


def _accepted(job: Job, change: Change) -> bool:
    try:
        carry_out(job, change, ChangeContext(CATALOGUE, shop_profile(job)))
    except InputError:
        return False
    return True


@pytest.mark.parametrize("name", HOUSES)
@pytest.mark.parametrize("mode", ["after", "branch", "replace", "copy", "move"])
def test_whatever_is_offered_is_accepted(name: str, mode: Mode) -> None:
    job = demo_jobs()[name]
    for part in job.parts[:: max(1, len(job.parts) // 4)]:
        offered = candidates(JobParts(job, CATALOGUE), part.id, mode)
        for one in offered[:: max(1, len(offered) // 8)]:
            assert _accepted(job, one.change), (part.id, one.name)


@pytest.mark.parametrize("name", HOUSES)
def test_whatever_is_not_offered_is_refused(name: str) -> None:
    """Every part of the catalogue, put by force behind a part and in its place."""
    job = demo_jobs()[name]
    for part in job.parts[:: max(1, len(job.parts) // 3)]:
        added = {
            c.change.type
            for c in candidates(JobParts(job, CATALOGUE), part.id, "after")
            if isinstance(c.change, Insert)
        }
        instead = {
            c.change.type
            for c in candidates(JobParts(job, CATALOGUE), part.id, "replace")
            if isinstance(c.change, Replace)
        }
        plate = part_type(CATALOGUE, part).draws_as == "plate"
        for key, kind in list(CATALOGUE.parts.items())[::3]:
            if kind.draws_as != "plate" and key not in added:
                assert not _accepted(job, Insert(type=key, after=part.id, cable="rg6", length_m=1))
            if key == part.type:
                assert key not in instead  # it stands there already
            elif (kind.draws_as == "plate") == plate and key not in instead:
                assert not _accepted(job, Replace(part=part.id, type=key))


def test_free_outlets_are_offered_behind_a_part_and_never_twice() -> None:
    job = demo_jobs()["skerry-house"]
    switch = next(p for p in job.parts if part_type(CATALOGUE, p).selects)
    more = job.outlets[0].model_copy(update={"id": "o99", "name": "Attic"})
    job = job.model_copy(update={"outlets": (*job.outlets, more), "links": job.links[:-1]})
    offered = candidates(JobParts(job, CATALOGUE), switch.id, "branch")
    outlets = [c for c in offered if c.kind == "outlet"]
    assert [c.name for c in outlets] == ["Attic"]
    made = carry_out(job, outlets[0].change, ChangeContext(CATALOGUE, shop_profile(job)))
    new = next(p for p in made.job.parts if p.id == made.named["$new"])
    assert new.outlet == "o99"
    assert all(
        c.kind != "outlet" for c in candidates(JobParts(made.job, CATALOGUE), switch.id, "branch")
    )


def test_a_copy_says_where_the_branch_stands_now() -> None:
    job = demo_jobs()["marten-lodge"]
    found = [
        (p.id, c) for p in job.parts for c in candidates(JobParts(job, CATALOGUE), p.id, "copy")
    ]
    part, one = found[0]
    assert isinstance(one.change, CopyBranch)
    made = carry_out(job, one.change, ChangeContext(CATALOGUE, shop_profile(job)))
    copy, old = (next(p for p in made.job.parts if p.id == i) for i in (made.named["$new"], part))
    assert copy.type == old.type
    assert copy.id not in {p.id for p in job.parts}


def test_a_branch_is_never_fed_from_behind_itself() -> None:
    job = demo_jobs()["marten-lodge"]
    behind: dict[str, set[str]] = {}
    for _ in job.parts:  # long enough for the longest way
        for k in job.links:
            behind.setdefault(k.from_part, set()).update({k.to_part, *behind.get(k.to_part, ())})
    for part in job.parts:
        for one in candidates(JobParts(job, CATALOGUE), part.id, "move"):
            assert isinstance(one.change, LeadFrom)
            assert one.change.after not in behind.get(part.id, set())


def test_a_free_input_is_offered_to_connect_to() -> None:
    job = demo_jobs()["alder-terrace"]
    lost = next(
        k
        for k in job.links
        if part_type(CATALOGUE, next(p for p in job.parts if p.id == k.to_part)).inputs > 1
    )
    job = job.model_copy(update={"links": tuple(k for k in job.links if k is not lost)})
    joins = [
        c.change
        for c in candidates(JobParts(job, CATALOGUE), lost.from_part, "after")
        if c.kind == "join"
    ]
    assert lost.to_part in {c.to for c in joins if isinstance(c, Join)}


def test_a_part_that_is_not_there_is_refused() -> None:
    with refused("part-missing"):
        candidates(JobParts(demo_jobs()["mill-loft"], CATALOGUE), "p99", "after")
