"""A data file of the first form is brought to the newest, with all that was in it."""

from __future__ import annotations

import json
import sqlite3
from importlib import resources
from pathlib import Path

import pytest

from evtro.core.job import Job
from evtro.demo.world import fern_cottage
from evtro.store import rows
from evtro.store.jobs import Jobs
from tests.data import open_database

FIRST = resources.files("evtro.store").joinpath("migrations/0001_jobs.sql").read_text("utf-8")


@pytest.fixture
def old_file(tmp_path: Path) -> Path:
    """A file as the first program wrote it: only the columns that it knew, one change to undo."""
    path = tmp_path / "evtro.sqlite"
    database = sqlite3.connect(path, isolation_level=None)
    database.executescript(f"BEGIN; {FIRST}; PRAGMA user_version = 1; COMMIT;")
    known = {
        t: [r[1] for r in database.execute(f"PRAGMA table_info({t})")]
        for (t,) in database.execute(
            "SELECT name FROM sqlite_master WHERE type = 'table'"
        ).fetchall()
    }
    database.execute("BEGIN")
    for (table, key), values in rows.tables_of(fern_cottage()).items():
        if table not in known:
            continue
        row: dict[str, object] = {"id": "old"} if table == "job" else {"job": "old"}
        row |= {k: v for k, v in values.items() if k in known[table]}
        if table == "antenna" and values["kind"] == "dish":
            row["wind_area_m2"] = 0.5  # what stood for every dish then
        if table == "target":
            row["extra_loss_db"] = values["own_loss_db"] or 0.0
        if table == "job":
            row |= {"kept_at": "2026-03-25T10:00:00.000+00:00", "revision": 1, "change_at": 1}
        marks = ", ".join("?" for _ in row)
        database.execute(
            f"INSERT INTO {table} ({', '.join(row)}) VALUES ({marks})", tuple(row.values())
        )
        assert key is not None
    site = {
        k: v for k, v in fern_cottage().site.model_dump(mode="json").items() if k in known["site"]
    }
    mast = {k: v for k, v in fern_cottage().targets[0].model_dump(mode="json").items()
            if k in known["target"]} | {"extra_loss_db": 16.0, "seq": 0}  # fmt: skip
    diff = [
        ["target", "t1", {**mast, "extra_loss_db": 0.0}, mast],
        ["site", "", {**site, "mount_height_m": 4.0}, site],
    ]
    database.execute(
        "INSERT INTO change VALUES ('old', 1, '2026-03-25', 'change site', ?)", (json.dumps(diff),)
    )
    database.execute("COMMIT")
    database.close()
    return path


def test_the_job_is_there_with_what_is_new_at_its_defaults(old_file: Path) -> None:
    kept = Jobs(open_database(old_file)).get("old")
    # No wind region was known then, and nobody had typed the area of the dish.
    then = fern_cottage()
    assert kept.job.mast == then.mast.model_copy(update={"wind_region": ""})
    dishes = [a for a in kept.job.antennas if a.kind == "dish"]
    assert [(a.area_from, a.wind_area_m2) for a in dishes] == [("size", 0.5)]
    antennas = tuple(
        a.model_copy(update={"wind_area_m2": 0.5}) if a.kind == "dish" else a for a in then.antennas
    )
    assert kept.job == then.model_copy(update={"mast": kept.job.mast, "antennas": antennas})
    assert kept.job.rig.kind == "none"
    assert kept.job.antennas[1].scale_zero_deg == 0
    assert kept.undo == "change site"


def test_its_history_still_goes_back(old_file: Path) -> None:
    jobs = Jobs(open_database(old_file))
    back = jobs.undo("old", 1)
    assert back.job.site.mount_height_m == 4.0
    # No loss meant free space then: from now on it is forecast.
    assert back.job.targets[0].own_loss_db is None
    again = jobs.redo("old", back.revision)
    assert again.job.site.mount_height_m == 5.2
    assert again.job.targets[0].own_loss_db == 16.0


def test_new_rows_are_kept_in_it(old_file: Path) -> None:
    from evtro.core.job import Stop

    jobs = Jobs(open_database(old_file))

    def edit(job: Job) -> Job:
        stop = Stop(id="h1", name="Ford", latitude_deg=1, longitude_deg=2)
        return job.model_copy(
            update={"stops": (stop,), "rig": job.rig.model_copy(update={"stop": "h1"})}
        )

    kept = jobs.change("old", 1, "add stop", edit)
    jobs.close()
    again = Jobs(open_database(old_file)).get("old")
    assert again.job == kept.job
    assert again.job.rig.stop == "h1"


def test_opening_it_twice_changes_nothing_more(old_file: Path) -> None:
    open_database(old_file).close()
    before = old_file.read_bytes()
    database = open_database(old_file)
    assert database.execute("PRAGMA user_version").fetchone()[0] == 5
    assert database.execute("PRAGMA foreign_key_check").fetchall() == []
    assert database.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
    database.close()
    assert old_file.read_bytes() == before
