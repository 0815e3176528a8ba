"""The store against a plain list: whatever is changed, undone, redone, reopened or refused in any

pytestmark = pytest.mark.long
order, the job is the one a list of its states says it is."""

from __future__ import annotations

import shutil
import sqlite3
import tempfile
from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule

from evtro import catalogue
from evtro.core.job import Carrier, Job, Obstruction, Outlet, Spot, Target, edits
from evtro.core.job.changes import Remove
from evtro.core.job.context import JobParts
from evtro.core.network import edits as run
from evtro.core.units.quantities import InputError
from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import read_job, write_job
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs, Stale
from tests.changes import taken
from tests.data import open_database
from tests.proving import examples

CATALOGUE = catalogue.load()
Edit = Callable[[Job], Job]


def _obstruction(job: Job, deg: float) -> Job:
    row = Obstruction(
        id=edits.new_id(job, "obstructions"),
        name=f"thing at {deg:.0f}",
        from_deg=deg,
        to_deg=(deg + 9) % 360,
        top_deg=deg / 10,
    )
    return edits.add_row(job, "obstructions", row)


def _outlet(job: Job, n: float) -> Job:
    row = Outlet(id=edits.new_id(job, "outlets"), name=f"Room {n:.0f}")
    return edits.add_row(job, "outlets", row)


def _target(job: Job, orbit: float) -> Job:
    row = Target(
        id=edits.new_id(job, "targets"),
        kind="satellite",
        name="Petrel",
        orbit_deg_e=round(orbit / 2 - 90, 2),
    )
    job = edits.add_row(job, "targets", row)
    carrier = Carrier(
        id=edits.new_id(job, "carriers"),
        target=row.id,
        name="one",
        frequency_mhz=11_000 + orbit,
        bandwidth_mhz=27.5,
        polarisation="V",
        power=50,
        modulation="DVB-S2 8PSK 2/3",
    )
    return edits.add_row(job, "carriers", carrier)


def _spot(job: Job, n: float) -> Job:
    return edits.add_row(
        job, "spots", Spot(id=edits.new_id(job, "spots"), name=f"place {n:.0f}", bearing_deg=n)
    )


def _lengths(job: Job, n: float) -> Job:
    return edits.change_row(job, "links", job.links[0].id, {"length_m": round(n / 7, 3)})


def _height(job: Job, n: float) -> Job:
    return job.model_copy(update={"site": job.site.model_copy(update={"height_m": round(n, 2)})})


def _last(field: str) -> Callable[[Job, float], Job]:
    def removed(job: Job, _: float) -> Job:
        found = getattr(job, field)
        return taken(job, Remove(rows=field, id=found[-1].id)) if found else job

    return removed


def _attenuator(job: Job, n: float) -> Job:
    link = job.links[int(n) % len(job.links)]
    job, _ = run.add_after(
        JobParts(job, CATALOGUE), link.from_part, "attenuator", "rg6", 1.0, port=link.from_port
    )
    return job


EDITS: dict[str, Callable[[Job, float], Job]] = {
    "add obstruction": _obstruction, "add outlet": _outlet, "add target": _target, "add place": _spot,
    "change cable": _lengths, "change site": _height,
    "add part": _attenuator, "remove obstruction": _last("obstructions"), "remove outlet": _last("outlets"),
    "remove target": _last("targets"), "remove carrier": _last("carriers"), "remove dish": _last("dishes"), "remove array": _last("arrays"),
    "remove place": _last("spots"), "remove spot": _last("trial_spots"),
}  # fmt: skip


class History(RuleBasedStateMachine):
    """A job in a database beside the list of its states."""

    def __init__(self) -> None:
        super().__init__()
        self.folder = Path(tempfile.mkdtemp())
        self.jobs = Jobs(open_database(self.folder / FILE_NAME))
        first = demo_jobs()["harrow-farm"]
        self.id = self.jobs.add(first).id
        self.states, self.labels, self.at, self.revision = [first], [""], 0, 0

    @rule(name=st.sampled_from(sorted(EDITS)), figure=st.floats(0, 359, width=16))
    def change(self, name: str, figure: float) -> None:
        now = self.states[self.at]
        try:
            wanted = EDITS[name](now, figure)
        except (InputError, IndexError):
            return  # it cannot be done to the job as it stands
        kept = self.jobs.change(self.id, self.revision, name, lambda job: EDITS[name](job, figure))
        if wanted == now:
            assert kept.revision == self.revision
            return
        del self.states[self.at + 1 :], self.labels[self.at + 1 :]
        self.states.append(wanted)
        self.labels.append(name)
        self.at += 1
        self.revision += 1

    @rule()
    def undo(self) -> None:
        self.jobs.undo(self.id, self.revision)
        if self.at:
            self.at -= 1
            self.revision += 1

    @rule()
    def redo(self) -> None:
        self.jobs.redo(self.id, self.revision)
        if self.at < len(self.states) - 1:
            self.at += 1
            self.revision += 1

    @precondition(lambda self: self.revision > 0)
    @rule(behind=st.integers(1, 5), name=st.sampled_from(sorted(EDITS)))
    def write_what_is_stale(self, behind: int, name: str) -> None:
        seen = max(self.revision - behind, 0)
        for call in (self.jobs.undo, self.jobs.redo):
            with pytest.raises(Stale):
                call(self.id, seen)
        now = self.states[self.at]
        try:
            kept = self.jobs.change(self.id, seen, name, lambda job: EDITS[name](job, 1.0))
        except (InputError, IndexError):
            return
        except Stale as error:
            stale = error
        else:
            stale = None
        if stale is not None:
            assert stale.revision == self.revision
            assert stale.clashes  # a thousand revisions are remembered
            return
        # Let in: it was made on the newest state, and touched nothing of what came since.
        wanted = EDITS[name](now, 1.0)
        assert kept.job == wanted
        if wanted != now:
            del self.states[self.at + 1 :], self.labels[self.at + 1 :]
            self.states.append(wanted)
            self.labels.append(name)
            self.at += 1
            self.revision += 1

    @rule()
    def fail_in_the_middle(self) -> None:
        def broken(_: Job) -> Job:
            raise RuntimeError("the power went")

        with pytest.raises(RuntimeError):
            self.jobs.change(self.id, self.revision, "broken", broken)

    @rule()
    def reopen(self) -> None:
        self.jobs.close()
        self.jobs = Jobs(open_database(self.folder / FILE_NAME))

    @invariant()
    def the_job_is_what_the_list_says(self) -> None:
        kept = self.jobs.get(self.id)
        assert kept.job == self.states[self.at]
        assert kept.revision == self.revision
        steps = self.jobs.steps(self.id)
        assert steps.undo == (self.labels[self.at] if self.at else None)
        following = self.at + 1
        assert steps.redo == (self.labels[following] if following < len(self.labels) else None)

    def teardown(self) -> None:
        kept = self.jobs.get(self.id).job
        assert read_job(write_job(kept).encode(), CATALOGUE) == kept
        self.jobs.close()
        db = sqlite3.connect(self.folder / FILE_NAME)
        assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        assert db.execute("PRAGMA foreign_key_check").fetchall() == []
        db.close()
        shutil.rmtree(self.folder)


TestHistory = History.TestCase
TestHistory.settings = examples(8, 100, stateful_step_count=20)


@pytest.mark.long
@pytest.mark.parametrize("name", sorted(demo_jobs()))
def test_every_kind_of_change_to_every_demo_job_is_undone_to_the_byte(
    name: str, tmp_path: Path
) -> None:
    jobs = Jobs(open_database(tmp_path / FILE_NAME))
    first = demo_jobs()[name]
    kept = jobs.add(first, name)
    done = 0
    for label, edit in EDITS.items():
        try:
            kept = jobs.change(name, kept.revision, label, lambda job, edit=edit: edit(job, 77.0))  # type: ignore[misc]
        except (InputError, IndexError):
            continue
        done += 1
    full = write_job(kept.job)
    assert done > 8
    assert full != write_job(first)
    while jobs.steps(name).undo:
        kept = jobs.undo(name, kept.revision)
    assert write_job(kept.job) == write_job(first)
    while jobs.steps(name).redo:
        kept = jobs.redo(name, kept.revision)
    assert write_job(kept.job) == full
    jobs.close()
