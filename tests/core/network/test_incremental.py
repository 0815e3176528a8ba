"""A run that was laid before is laid again by its cables alone, and gives what a fresh one gives."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue
from evtro.core.job import Job
from evtro.core.network import incremental
from evtro.core.network.solution import Solution
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.levels.outlets import solve_job
from evtro.demo.world import demo_jobs
from evtro.profiles import shop_profile
from tests.proving import examples

CATALOGUE = catalogue.load()
JOBS = {k: j for k, j in demo_jobs().items() if j.links}


def _run(job: Job) -> Solution:
    return solve_job(NetworkContext(job, CATALOGUE, shop_profile(job))).run


def _same(one: Solution, other: Solution) -> None:
    for what in ("signal", "noise", "low", "high", "second", "third", "echo", "disturbing", "leak"):
        mine, its = getattr(one.found, what), getattr(other.found, what)
        assert (mine is None) == (its is None), what
        assert mine is None or np.array_equal(mine, its), what
    assert one.found.own.keys() == other.found.own.keys()
    for n, own in one.found.own.items():
        assert np.array_equal(own.power, other.found.own[n].power)
    assert one.choice.alone.keys() == other.choice.alone.keys()
    for plate, free in one.choice.beside.items():
        assert np.array_equal(free, other.choice.beside[plate])
    assert one.power == other.power
    assert one.wiring == other.wiring
    assert one.dark.keys() == other.dark.keys()


def _altered(draw: st.DrawFn, job: Job) -> Job:
    """One thing more about a job: most often a cable, else anything that must not be taken for one."""
    kind = draw(
        st.sampled_from(
            [
                "length",
                "length",
                "cable",
                "gone",
                "moved",
                "type",
                "setting",
                "carrier",
                "mast",
                "outlet",
                "data",
            ]
        )
    )
    links, parts = list(job.links), list(job.parts)
    if not links:
        return job
    at = draw(st.integers(0, len(links) - 1))
    if kind == "length":
        links[at] = links[at].model_copy(update={"length_m": draw(st.floats(0, 200))})
    elif kind == "cable":
        links[at] = links[at].model_copy(
            update={"cable": draw(st.sampled_from(sorted(CATALOGUE.cables)))}
        )
    elif kind == "gone":
        del links[at]
    elif kind == "moved":
        other = draw(st.integers(0, len(links) - 1))
        a, b = links[at], links[other]
        links[at] = a.model_copy(update={"to_part": b.to_part, "to_port": b.to_port})
        links[other] = b.model_copy(update={"to_part": a.to_part, "to_port": a.to_port})
        if at == other:
            links = list(job.links)
    elif kind == "type":
        n = draw(st.integers(0, len(parts) - 1))
        parts[n] = parts[n].model_copy(
            update={"type": draw(st.sampled_from(["block-1", "attenuator", "splitter-2"]))}
        )
    elif kind == "setting":
        n = draw(st.integers(0, len(parts) - 1))
        parts[n] = parts[n].model_copy(update={"setting_db": draw(st.integers(0, 20))})
    elif kind == "carrier":
        n = draw(st.integers(0, len(job.carriers) - 1))
        row = job.carriers[n]
        moved = row.model_copy(
            update={"frequency_mhz": row.frequency_mhz + 8, "power": row.power * 2}
        )
        return job.model_copy(
            update={"carriers": (*job.carriers[:n], moved, *job.carriers[n + 1 :])}
        )
    elif kind == "mast":
        return job.model_copy(
            update={"site": job.site.model_copy(update={"mount_height_m": draw(st.floats(2, 30))})}
        )
    elif kind == "outlet":
        n = draw(st.integers(0, len(job.outlets) - 1))
        row = job.outlets[n].model_copy(update={"satellite": not job.outlets[n].satellite})
        return job.model_copy(update={"outlets": (*job.outlets[:n], row, *job.outlets[n + 1 :])})
    elif job.cable_data:
        first = job.cable_data[0]
        worse = first.model_copy(
            update={"data": first.data.model_copy(update={"a": draw(st.floats(0.1, 3))})}
        )
        return job.model_copy(update={"cable_data": (worse, *job.cable_data[1:])})
    return job.model_copy(update={"links": tuple(links), "parts": tuple(parts)})


@pytest.mark.long
@pytest.mark.parametrize("name", sorted(JOBS))
@given(data=st.data())
@examples(7, 60)
def test_after_any_changes_it_is_what_a_fresh_one_is(name: str, data: st.DataObject) -> None:
    job = JOBS[name]
    _run(job)
    for _ in range(data.draw(st.integers(1, 5))):
        job = data.draw(st.composite(_altered)(job))
        found = _run(job)
        kept, solved = incremental._kept[:], incremental._solved[:]
        incremental._kept.clear()
        incremental._solved.clear()
        _same(found, _run(job))
        # The next change goes on from what was laid and solved step by step.
        incremental._kept[:], incremental._solved[:] = kept, solved


def test_a_changed_cable_is_laid_by_its_cable_alone(monkeypatch: pytest.MonkeyPatch) -> None:
    job = JOBS["skerry-house"]
    before = _run(job)
    monkeypatch.setattr(incremental, "_fresh", None)  # a fresh one would call it
    longer = job.links[3].model_copy(update={"length_m": job.links[3].length_m + 5})
    after = _run(job.model_copy(update={"links": (*job.links[:3], longer, *job.links[4:])}))
    assert after.circuit.groups is before.circuit.groups
    assert not np.array_equal(after.found.signal, before.found.signal)


def test_what_does_not_lie_behind_a_changed_cable_is_not_solved_again(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    job = JOBS["skerry-house"]
    before = _run(job)
    monkeypatch.setattr(incremental, "solve", None)  # a fresh one would call it
    last = job.links[-1]
    longer = last.model_copy(update={"length_m": last.length_m + 5})
    after = _run(job.model_copy(update={"links": (*job.links[:-1], longer)}))
    moved = (after.found.signal != before.found.signal).any(axis=1)
    behind = {last.to_part}
    assert {part for (part, *_), n in after.circuit.nodes.items() if moved[n]} == behind
