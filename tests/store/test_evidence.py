"""What was read on site is kept by history and left alone by undo; it ends by its own reversal only."""

from __future__ import annotations

from pathlib import Path

import pytest

from evtro.core.job import Job
from evtro.core.job.changes import Add, Change, Insert, Remove, Set
from evtro.core.job.registry import registry
from evtro.demo.world import demo_jobs
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from tests.changes import taken
from tests.data import open_database
from tests.refusals import refused

FIRST = demo_jobs()["fern-cottage"]
PLATE = next(p.id for p in FIRST.parts if p.outlet)
CARRIER = FIRST.carriers[0].id


class ChangeContext:
    """One job, changed one thing after another."""

    def __init__(self, folder: Path) -> None:
        self.jobs = Jobs(open_database(folder / FILE_NAME))
        self.jobs.add(FIRST, "house")
        self.revision = 0

    def do(self, change: Change) -> Job:
        kept = self.jobs.change("house", self.revision, change.verb, lambda j: taken(j, change))
        self.revision = kept.revision
        return kept.job

    def back(self) -> Job:
        kept = self.jobs.undo("house", self.revision)
        self.revision = kept.revision
        return kept.job

    def forth(self) -> Job:
        kept = self.jobs.redo("house", self.revision)
        self.revision = kept.revision
        return kept.job


@pytest.fixture
def bench(tmp_path: Path) -> ChangeContext:
    return ChangeContext(tmp_path)


def _level(dbuv: float, part: str = PLATE) -> Add:
    return Add(rows="readings", values={"part": part, "carrier": CARRIER, "level_dbuv": f"{dbuv}"})


def _height(metres: float) -> Set:
    return Set(rows="site", values={"mount_height_m": metres})


def test_undo_takes_back_what_was_planned_and_leaves_what_was_read(bench: ChangeContext) -> None:
    bench.do(_height(8.0))
    read = bench.do(_level(61.5))
    typed = bench.do(Set(rows="readings", id=read.readings[-1].id, values={"level_dbuv": "62"}))
    assert typed.readings[-1].level_dbuv == 62
    assert bench.jobs.steps("house").undo == "set"
    back = bench.back()
    assert back.site.mount_height_m == FIRST.site.mount_height_m
    assert back.readings == typed.readings
    assert bench.jobs.steps("house").undo is None
    # What was taken back is still there to carry out again after one more reading.
    bench.do(Set(rows="readings", id=read.readings[-1].id, values={"cn_db": "28"}))
    forth = bench.forth()
    assert (forth.site.mount_height_m, forth.readings[-1].cn_db) == (8.0, 28)


def test_what_was_read_ends_by_its_own_reversal_and_comes_back_by_it(bench: ChangeContext) -> None:
    read = bench.do(_level(61.5))
    gone = bench.do(Remove(rows="readings", id=read.readings[-1].id))
    assert gone.readings == FIRST.readings
    assert bench.back().readings == read.readings


def test_what_went_with_a_part_comes_back_with_it(bench: ChangeContext) -> None:
    read = bench.do(_level(61.5))
    outlet = next(p.outlet for p in FIRST.parts if p.id == PLATE)
    assert outlet is not None
    gone = bench.do(Remove(rows="outlets", id=outlet))
    assert all(r.part != PLATE for r in gone.readings)
    assert bench.back() == read
    assert bench.forth() == gone


def test_a_part_at_which_something_was_read_does_not_go_by_undo(bench: ChangeContext) -> None:
    fitted = bench.do(Insert(type="splitter-2", into=FIRST.links[0].id))
    new = fitted.parts[-1].id
    read = bench.do(_level(70, new))
    with refused("read-since"):
        bench.back()
    assert bench.jobs.get("house").job == read
    bench.do(Remove(rows="readings", id=read.readings[-1].id))
    assert bench.back() == read  # the reading, which was removed last
    bench.do(Remove(rows="readings", id=read.readings[-1].id))


def test_it_says_when(bench: ChangeContext) -> None:
    row = bench.do(
        Add(rows="scans", values={"outlet": FIRST.outlets[0].id, "found": "One\nTwo"})
    ).scans[-1]
    assert row.at == "2026-01-02 03:04"
    kinds = {k.field for k in registry(Job).lists if k.evidence}
    assert kinds == {
        "samples",
        "feed_tries",
        "locks",
        "trial_spots",
        "trial_readings",
        "scans",
        "readings",
        "marks",
        "photos",
        "seen",
    }
