"""What may be folded, against the network walked by other means: a closure of pairs."""

from __future__ import annotations

import pytest

from evtro import profiles
from evtro.core.job import Job
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.views.answer import work_out
from evtro.core.stations.coax.views.folding import FEWEST, MOST, Branch
from evtro.demo.block import sorrel_court
from evtro.demo.world import demo_jobs
from tests.changes import CATALOGUE

JOBS = {n: j for n, j in demo_jobs().items() if j.parts}


def _branches(job: Job) -> dict[str, Branch]:
    view = work_out(NetworkContext(job, CATALOGUE, profiles.load(job.profile))).view
    return {b.part: b for b in view.branches}


def _closure(job: Job) -> dict[str, set[str]]:
    """Which parts lie behind which, by joining pairs until nothing is added."""
    pairs = {(k.from_part, k.to_part) for k in job.links}
    while True:
        more = {(a, d) for a, b in pairs for c, d in pairs if b == c} - pairs
        if not more:
            break
        pairs |= more
    return {p.id: {b for a, b in pairs if a == p.id} for p in job.parts}


@pytest.mark.parametrize("name", sorted(JOBS))
def test_what_is_behind_a_branch(name: str) -> None:
    job, found = JOBS[name], _branches(JOBS[name])
    served = {p.id for p in job.parts if p.outlet}
    for part, behind in _closure(job).items():
        if part in found:
            assert set(found[part].inside) == behind
            assert len(found[part].inside) == len(behind)
        else:
            assert len(served & (behind | {part})) < FEWEST or part in served


def test_a_large_network_folds_where_it_grows_large() -> None:
    job = sorrel_court()
    found, behind = _branches(job), _closure(job)
    served = {p.id for p in job.parts if p.outlet}
    before = {k.to_part: k.from_part for k in job.links}
    for part, one in found.items():
        here = len(served & behind[part])
        there = len(served & behind.get(before.get(part, ""), set()))
        assert one.by_itself == (here <= MOST < there), part
    assert sum(b.by_itself for b in found.values()) == 4


def test_branches_of_one_shape_have_the_same_parts_and_cables() -> None:
    job = sorrel_court()
    taps = [b for b in _branches(job).values() if b.by_itself]
    assert len({b.shape for b in taps}) == 1
    link = next(k for k in job.links if k.to_part == taps[0].inside[-1])
    longer = link.model_copy(update={"length_m": link.length_m + 1})
    other = job.model_copy(update={"links": tuple(longer if k is link else k for k in job.links)})
    shapes = [_branches(other)[b.part].shape for b in taps]
    assert len(set(shapes[1:])) == 1
    assert shapes[0] != shapes[1]


def test_a_small_house_folds_nothing_by_itself() -> None:
    assert not any(b.by_itself for b in _branches(JOBS["skerry-house"]).values())
