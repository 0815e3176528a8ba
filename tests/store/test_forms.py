"""A data file and a job file of every older form, as the programs of their time wrote them, are
brought to the newest form with all that was in them."""

from __future__ import annotations

import contextlib
import json
import sqlite3
from pathlib import Path

import pytest

from evtro.catalogue import load
from evtro.core.job import Job, Stop
from evtro.core.job.forms import FORM
from evtro.formats.jobfile import read_job, write_job
from evtro.store.connection import newest_form
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from tests.data import open_database

FORMS = Path(__file__).parents[1] / "forms"
OLDER = range(1, FORM)
CATALOGUE = load()
# Lists that had another name once.
NOW = {"trials": "feed_tries", "holds": "trial_spots", "heard": "trial_readings"}


@pytest.fixture(params=OLDER)
def form(request: pytest.FixtureRequest) -> int:
    made: int = request.param
    return made


@pytest.fixture
def old_file(tmp_path: Path, form: int) -> Path:
    """Two houses; in one of them a height, a name and a removal were kept, the fourth change was
    taken back."""
    path = tmp_path / FILE_NAME
    with contextlib.closing(sqlite3.connect(path)) as database:
        database.executescript((FORMS / f"database-{form}.sql").read_text("utf-8"))
    return path


def _then(form: int) -> dict[str, object]:
    """The house's rows as they lie in the old file."""
    with contextlib.closing(sqlite3.connect(":memory:")) as database:
        database.row_factory = sqlite3.Row
        database.executescript((FORMS / f"database-{form}.sql").read_text("utf-8"))
        found: dict[str, object] = {}
        for table in ("outlet", "target", "carrier", "antenna", "part", "link", "reading"):
            # From form 8 on dishes and arrays lie in tables of their own.
            split = ("dish", "array") if table == "antenna" and form >= 8 else (table,)
            rows = [
                dict(r)
                for kind in split
                for r in database.execute(
                    f"SELECT * FROM {kind} WHERE job = 'fern-cottage' ORDER BY seq"
                )
            ]
            found[table] = sorted(rows, key=lambda r: r["id"]) if len(split) > 1 else rows
        return found


def test_all_that_was_in_it_is_there(old_file: Path, form: int) -> None:
    job = Jobs(open_database(old_file)).get("fern-cottage").job
    then = _then(form)
    for table, rows in (
        ("outlet", job.outlets),
        ("target", job.targets),
        ("carrier", job.carriers),
        ("antenna", job.antennas),
        ("part", job.parts),
        ("link", job.links),
        ("reading", job.readings),
    ):
        old = then[table]
        assert isinstance(old, list)
        assert [r.id for r in rows] == [r["id"] for r in old]
        for row, was in zip(rows, old, strict=True):
            for name, value in was.items():
                if hasattr(row, name) and not isinstance(getattr(row, name), tuple):
                    assert getattr(row, name) == value, (table, row.id, name)
    assert job.site.mount_height_m == 7.5
    assert job.carriers[0].name == "Renamed once"
    assert job.rig.kind == "none"
    assert len(Jobs(open_database(old_file)).heads()) == 2


@pytest.mark.long
def test_its_history_goes_all_the_way_back_and_forth(old_file: Path) -> None:
    jobs = Jobs(open_database(old_file))
    now = jobs.get("fern-cottage")
    assert jobs.steps("fern-cottage").redo == "change target"
    assert jobs.steps("fern-cottage").undo == "remove outlet"
    revision = now.revision
    labels = []
    while (label := jobs.steps("fern-cottage").undo) is not None:
        labels.append(label)
        revision = jobs.undo("fern-cottage", revision).revision
    first = jobs.get("fern-cottage").job
    assert labels == ["remove outlet", "change carrier", "change site"]
    assert len(first.outlets) == len(now.job.outlets) + 1
    assert first.carriers[0].name != "Renamed once"
    assert first.site.mount_height_m != 7.5
    for _ in labels:
        revision = jobs.redo("fern-cottage", revision).revision
    assert jobs.get("fern-cottage").job == now.job
    named = jobs.redo("fern-cottage", revision).job
    assert named.targets[0].name == "Old name of a target"


def test_history_tells_dishes_from_arrays(tmp_path: Path) -> None:
    """Up to form 7 both were one kind of row: `a3` was a dish first, and an array later."""
    path = tmp_path / FILE_NAME
    with contextlib.closing(sqlite3.connect(path)) as database:
        database.executescript((FORMS / "database-7.sql").read_text("utf-8"))
    jobs = Jobs(open_database(path))
    seen = []
    while (label := jobs.steps("skerry-house").undo) is not None:
        job = jobs.undo("skerry-house", jobs.get("skerry-house").revision).job
        seen.append((label, [(a.kind, a.id, a.name) for a in job.antennas]))
    first, both = ("dish", "a1", "Dish 0.8 m"), ("array", "a2", "UHF array")
    assert [(label, rows[2:]) for label, rows in seen] == [
        ("remove first dish", [("array", "a3", "Third again, named")]),
        ("name array", [("array", "a3", "Third again")]),
        ("add array", []),
        ("remove dish", [("dish", "a3", "Third, named")]),
        ("name dish", [("dish", "a3", "Third")]),
        ("add dish", []),
        ("change dish", []),
        ("change array", []),
    ]
    assert all(rows[:2] == [first, both] for _, rows in seen)
    assert jobs.get("skerry-house").job.arrays[0].heading_deg is None
    while jobs.steps("skerry-house").redo is not None:
        job = jobs.redo("skerry-house", jobs.get("skerry-house").revision).job
    assert [(a.kind, a.name) for a in job.antennas] == [
        ("array", "UHF array"),
        ("array", "Third again, named"),
    ]
    assert job.arrays[0].heading_deg == 123.0


def test_what_named_an_antenna_of_the_wrong_kind_had_no_effect_and_goes() -> None:
    old = json.loads((FORMS / "job-7.evtro.json").read_bytes())
    before = read_job(json.dumps(old).encode(), CATALOGUE)
    old["job"]["presets"] = [{"id": "z8", "antenna": "a9", "name": "zone", "tilt_deg": 1.0}]
    old["job"]["holds"].append({"id": "d2", "antenna": "a1", "place": "Held a dish"})
    old["job"]["heard"] = [{"id": "i1", "hold": "d2", "carrier": "c1", "level_dbuv": 60.0}]
    assert read_job(json.dumps(old).encode(), CATALOGUE) == before


@pytest.mark.long
def test_new_rows_are_kept_in_it(old_file: Path) -> None:
    jobs = Jobs(open_database(old_file))

    def edit(job: Job) -> Job:
        stop = Stop(id="h1", name="Ford", latitude_deg=1, longitude_deg=2)
        return job.model_copy(
            update={"stops": (stop,), "rig": job.rig.model_copy(update={"stop": "h1"})}
        )

    seen = jobs.get("fern-cottage").revision
    kept = jobs.change("fern-cottage", seen, "add stop", edit)
    jobs.close()
    again = Jobs(open_database(old_file)).get("fern-cottage")
    assert again.job == kept.job
    assert again.job.rig.stop == "h1"


@pytest.mark.long
def test_opening_it_twice_changes_nothing_more(old_file: Path) -> None:
    open_database(old_file).close()
    before = old_file.read_bytes()
    database = open_database(old_file)
    assert database.execute("PRAGMA user_version").fetchone()[0] == newest_form() == FORM
    assert database.execute("PRAGMA foreign_key_check").fetchall() == []
    assert database.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
    database.close()
    assert old_file.read_bytes() == before


def test_a_job_file_of_its_time_opens(form: int) -> None:
    data = (FORMS / f"job-{form}.evtro.json").read_bytes()
    job = read_job(data, CATALOGUE)
    raw = json.loads(data)
    assert raw["version"] == form
    for field, rows in raw["job"].items():
        if isinstance(rows, list):
            now = NOW.get(field, field)
            assert [r["id"] for r in rows] == [r.id for r in getattr(job, now)], field
            if field == "antennas":
                assert [r["kind"] for r in rows] == [a.kind for a in job.antennas]
    assert read_job(write_job(job).encode(), CATALOGUE) == job


def test_what_changed_its_meaning_is_told_apart() -> None:
    """Up to form 2 a loss of zero stood for free space, up to 3 a dish of 0.5 m² for any dish."""
    old = json.loads((FORMS / "job-2.evtro.json").read_bytes())
    losses = [t["extra_loss_db"] or None for t in old["job"]["targets"]]
    job = read_job(json.dumps(old).encode(), CATALOGUE)
    assert [t.own_loss_db for t in job.targets] == losses
    areas = {a["id"]: a["wind_area_m2"] for a in old["job"]["antennas"] if a["kind"] == "dish"}
    assert areas
    for antenna in job.dishes:
        if antenna.id in areas:
            assert antenna.area_from == ("size" if areas[antenna.id] == 0.5 else "own")
