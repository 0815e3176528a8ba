"""A branch copied and led from elsewhere: figures of the copy are those of the branch."""

from __future__ import annotations

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Job
from evtro.core.job.changes import CopyBranch, LeadFrom
from evtro.core.units.quantities import InputError
from evtro.demo.block import sorrel_court
from evtro.demo.world import skerry_house
from tests.changes import taken

CATALOGUE = catalogue.load()


def _levels(job: Job) -> dict[str, float]:
    coax = work_out(job, CATALOGUE, profiles.load(job.profile)).coax
    return {r.name: min(c.level.value or 0.0 for c in r.cells) for r in coax.outlets if r.part}


@pytest.fixture
def block() -> tuple[Job, str, str]:
    """The block of flats with a free output at its riser splitter; the head of its fourth riser."""
    job = sorrel_court()
    splitter = next(p.id for p in job.parts if p.type == "splitter-4")
    cut = next(k for k in job.links if k.from_part == splitter and k.from_port == 3)
    third = next(k for k in job.links if k.from_part == splitter and k.from_port == 2)
    left = {cut.to_part}
    while True:
        more = {k.to_part for k in job.links if k.from_part in left} - left
        if not more:
            break
        left |= more
    gone = {p.outlet for p in job.parts if p.id in left}
    return (
        job.model_copy(
            update={
                "parts": tuple(p for p in job.parts if p.id not in left),
                "links": tuple(k for k in job.links if k.to_part not in left),
                "outlets": tuple(o for o in job.outlets if o.id not in gone),
            }
        ),
        splitter,
        third.to_part,
    )


def test_a_riser_copied_to_a_free_output_gives_its_outlets_the_same(
    block: tuple[Job, str, str],
) -> None:
    job, splitter, head = block
    assert len(job.outlets) == 72
    after = taken(job, CopyBranch(part=head, after=splitter, port=3))
    assert len(after.outlets) == 96
    old, new = _levels(job), _levels(after)
    assert len({o.name for o in after.outlets}) == 96
    fresh = [new[o.name] for o in after.outlets[72:]]
    behind = [p for p in after.parts if p.outlet in {o.id for o in after.outlets[72:]}]
    assert len(behind) == 24
    # Riser by riser the block is the same: the copy as well.
    assert sorted(fresh) == pytest.approx(sorted(new[o.name] for o in job.outlets[48:72]), abs=1e-9)
    assert {n: new[n] for n in old} == pytest.approx(old, abs=1e-9)


def test_a_branch_is_led_from_elsewhere_with_all_behind_it(block: tuple[Job, str, str]) -> None:
    job, splitter, head = block
    moved = taken(job, LeadFrom(part=head, after=splitter, port=3))
    lead = next(k for k in moved.links if k.to_part == head)
    assert (lead.from_part, lead.from_port) == (splitter, 3)
    assert _levels(moved) == pytest.approx(_levels(job), abs=1e-9)  # an equal output
    assert len(moved.links) == len(job.links)


def test_what_is_no_branch_or_has_no_place_is_refused_in_words(block: tuple[Job, str, str]) -> None:
    job, splitter, head = block
    tap = next(k.to_part for k in job.links if k.from_part == head)
    skerry = skerry_house()
    switch = next(p.id for p in skerry.parts if p.type.startswith("multiswitch"))
    plate = next(p.id for p in skerry.parts if p.outlet)
    for base, change, words in (
        (job, CopyBranch(part=head, after=splitter, port=0), "no free output 1"),
        (job, LeadFrom(part=head, after=tap), "loop"),
        (job, LeadFrom(part=splitter, after=head), "loop"),
        (skerry, CopyBranch(part=switch, after=plate), "cables that come to it"),
        (job, CopyBranch(part="p99999", after=splitter), "p99999"),
        (job, LeadFrom(part=job.parts[0].id, after=splitter), "no cables"),
    ):
        with pytest.raises(InputError) as refused:
            taken(base, change)
        assert words in f"{refused.value.field} {refused.value}"


def test_a_copied_outlet_keeps_its_wishes_and_takes_a_free_name() -> None:
    job = skerry_house()
    switch = next(p.id for p in job.parts if p.type.startswith("multiswitch"))
    plate = next(p for p in job.parts if p.outlet)
    twelve = next(p for p in job.parts if p.outlet == "o12")
    job = job.model_copy(
        update={
            "parts": tuple(p for p in job.parts if p.id != twelve.id),
            "links": tuple(k for k in job.links if k.to_part != twelve.id),
        }
    )
    after = taken(job, CopyBranch(part=plate.id, after=switch, floor="Loft"))
    old = next(o for o in job.outlets if o.id == plate.outlet)
    made = after.outlets[-1]
    assert (made.name, made.floor, made.satellite) == (f"{old.name} 2", "Loft", old.satellite)
    assert len({o.name for o in after.outlets}) == len(after.outlets)
