"""One owner of a data folder, and copies of whatever is replaced."""

from __future__ import annotations

import contextlib
import datetime as dt
import json
import os
import signal
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest

from evtro import cli
from evtro.core.units.quantities import InputError
from evtro.demo.library import fill
from evtro.demo.world import demo_jobs, fern_cottage, kept_jobs, skerry_house
from evtro.formats.jobfile import write_job
from evtro.store.backups import backup, daily, restore
from evtro.store.connection import look_at, newest_form
from evtro.store.copies import KEPT
from evtro.store.folder import FILE_NAME, Claim, FolderTaken
from evtro.store.jobs import Jobs
from evtro.store.recover import recover
from tests.data import open_database, with_demo_jobs
from tests.refusals import refused
from tests.server import Server

FORMS = Path(__file__).parents[1] / "forms"


def _names(path: Path) -> list[str]:
    jobs = Jobs(open_database(path))
    found = sorted(h.name for h in jobs.heads())
    jobs.close()
    return found


def _filled(folder: Path, *jobs: object) -> Path:
    store = Jobs(open_database(folder / FILE_NAME))
    for job in jobs:
        store.add(job)  # type: ignore[arg-type]
    store.close()
    return folder / FILE_NAME


def test_a_folder_has_one_owner_and_a_crash_frees_it(tmp_path: Path) -> None:
    hold = (
        "import sys; from pathlib import Path; from evtro.store.folder import Claim; "
        "mine = Claim(Path(sys.argv[1]), 'http://127.0.0.1:9/'); print('held', flush=True); sys.stdin.read()"
    )
    other = subprocess.Popen(
        [sys.executable, "-c", hold, str(tmp_path)],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        text=True,
    )
    assert other.stdout is not None
    assert other.stdout.readline() == "held\n"
    with pytest.raises(FolderTaken, match=r"running at http://127.0.0.1:9/") as told:
        Claim(tmp_path)
    assert told.value.address == "http://127.0.0.1:9/"
    other.send_signal(signal.SIGKILL)
    other.wait()
    with Claim(tmp_path) as claim:
        assert not claim.clean


def test_commands_beside_a_running_server(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    """Import goes through it, reading is free, and what would pull the data away is refused."""
    monkeypatch.setenv("EVTRO_DATA", str(tmp_path))
    file, copy = tmp_path / "a.json", tmp_path / "copy.sqlite"
    file.write_text(write_job(fern_cottage()))
    server = Server(tmp_path, "serve")
    try:
        assert cli.main(["import", str(file)]) == 0
        assert cli.main(["backup", str(copy)]) == 0
        assert cli.main(["export", fern_cottage().name]) == 0
        capsys.readouterr()
        for words in (
            ["restore", str(copy)],
            ["serve", "--port", "1"],
            ["demo", "--fresh", "--port", "0"],
        ):
            assert cli.main(words) == 2
        said = capsys.readouterr().err
        assert (
            said.count(f"running at {server.url}/") == 2 + (os.geteuid() == 0) - 1
            or server.url in said
        )
    finally:
        server.stop()
    assert _names(copy) == [fern_cottage().name]


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGINT])
def test_a_polite_stop_is_a_clean_one(tmp_path: Path, how: signal.Signals) -> None:
    server = Server(tmp_path, "serve")
    server.end(how)
    assert sorted(p.name for p in tmp_path.iterdir() if p.is_file()) == ["evtro.lock", FILE_NAME]
    with Claim(tmp_path) as claim:
        assert claim.clean


@pytest.mark.long
def test_a_refused_fresh_start_leaves_the_jobs_alone(tmp_path: Path) -> None:
    """The port is looked at before anything is put back."""
    with_demo_jobs(tmp_path)
    jobs = Jobs(open_database(tmp_path / FILE_NAME))
    jobs.change("fern-cottage", 0, "rename", lambda j: j.model_copy(update={"name": "Mine"}))
    jobs.close()
    other = Server(tmp_path / "other", "serve")
    try:
        done = subprocess.run(
            [sys.executable, "-m", "evtro.cli", "demo", "--fresh", "--port", str(other.port)],
            env={**os.environ, "EVTRO_DATA": str(tmp_path)},
            capture_output=True,
            text=True,
        )
    finally:
        other.stop()
    assert done.returncode == 2
    assert "cannot be served" in done.stderr
    assert "Mine" in _names(tmp_path / FILE_NAME)


@pytest.mark.long
def test_a_fresh_demo_sets_aside_what_it_replaces(tmp_path: Path) -> None:
    jobs = Jobs(open_database(tmp_path / FILE_NAME))
    fill(tmp_path, jobs, fresh=False)
    assert not (tmp_path / "aside").exists()
    jobs.change("fern-cottage", 0, "rename", lambda j: j.model_copy(update={"name": "Mine"}))
    fill(tmp_path, jobs, fresh=True)
    assert sorted(h.name for h in jobs.heads()) == sorted(j.name for j in kept_jobs().values())
    (aside,) = (tmp_path / "aside").glob("*before-fresh.sqlite")
    assert "Mine" in _names(aside)


def test_restore_sets_aside_what_it_replaces_and_keeps_the_last_ten(tmp_path: Path) -> None:
    path, copy = _filled(tmp_path, fern_cottage()), tmp_path / "copy.sqlite"
    backup(tmp_path, copy)
    path.unlink()
    _filled(tmp_path, skerry_house())
    with Claim(tmp_path) as claim:
        aside = restore(claim, copy)
    assert aside is not None
    assert _names(aside) == [skerry_house().name]
    assert _names(path) == [fern_cottage().name]
    for _ in range(KEPT + 3):
        with Claim(tmp_path) as claim:
            restore(claim, copy)
    kept = sorted((tmp_path / "aside").glob("*.sqlite"))
    assert len(kept) == KEPT
    assert aside not in kept  # the oldest went first


@pytest.mark.parametrize("data", [b"", b"SQLite format 3\x00", b"nails" * 99])
def test_restore_refuses_what_is_no_backup_and_touches_nothing(tmp_path: Path, data: bytes) -> None:
    path, wrong = _filled(tmp_path, fern_cottage()), tmp_path / "wrong"
    before = path.read_bytes()
    wrong.write_bytes(data)
    with Claim(tmp_path) as claim, pytest.raises(InputError):
        restore(claim, wrong)
    with Claim(tmp_path) as claim, refused("restore-self"):
        restore(claim, path)
    assert path.read_bytes() == before
    assert not (tmp_path / "aside").exists()


def test_a_damaged_backup_is_refused(tmp_path: Path) -> None:
    path, copy = _filled(tmp_path, *demo_jobs().values()), tmp_path / "copy.sqlite"
    backup(tmp_path, copy)
    data = bytearray(copy.read_bytes())
    data[40960:49152] = b"\xee" * 8192
    copy.write_bytes(data)
    with (
        Claim(tmp_path) as claim,
        refused("restore-wrong"),
    ):
        restore(claim, copy)
    assert len(_names(path)) == len(demo_jobs())


def test_a_migration_sets_the_old_form_aside(tmp_path: Path) -> None:
    path = tmp_path / FILE_NAME
    old = sqlite3.connect(path)
    old.executescript((FORMS / "database-4.sql").read_text("utf-8"))
    old.close()
    assert len(_names(path)) == 2
    assert look_at(path).form == newest_form()
    (aside,) = (tmp_path / "aside").glob("*before-update.sqlite")
    assert look_at(aside).form == 4


def test_one_backup_a_day_with_the_files_beside_it(tmp_path: Path) -> None:
    _filled(tmp_path, fern_cottage())
    tile = tmp_path / "terrain" / "ab" / "n57.tif"
    tile.parent.mkdir(parents=True)
    tile.write_bytes(b"heights" * 1000)
    day = dt.date(2026, 3, 1)
    first = daily(tmp_path, day)
    assert first is not None
    assert daily(tmp_path, day) is None
    for i in range(1, 14):
        assert daily(tmp_path, day + dt.timedelta(days=i)) is not None
    copies = sorted((tmp_path / "backups").glob("*.sqlite"))
    assert len(copies) == KEPT
    assert copies[0].name == "evtro-2026-03-05.sqlite"
    # The same file lies there once, whatever the number of copies.
    assert len(list((tmp_path / "backups" / "files").iterdir())) == 1
    listed = json.loads(copies[-1].with_name(copies[-1].name + ".files.json").read_text())
    assert [e["path"] for e in listed] == ["terrain/ab/n57.tif"]
    tile.unlink()
    with Claim(tmp_path) as claim:
        restore(claim, copies[-1])
    assert tile.read_bytes() == b"heights" * 1000


@pytest.mark.long
def test_what_a_damaged_page_leaves_is_saved(tmp_path: Path) -> None:
    """A page in the middle is lost; every job that has no row on it is there, whole."""
    path = _filled(tmp_path, *demo_jobs().values(), *demo_jobs().values())
    whole = path.read_bytes()
    pages = len(whole) // 4096
    with contextlib.closing(sqlite3.connect(path)) as db:
        # Without the list of its tables a file tells nothing: see the README.
        tables = {
            r[0] for r in db.execute("SELECT pageno FROM dbstat WHERE name = 'sqlite_schema'")
        }
    saved = lost = 0
    for page in range(pages // 3, pages, max(1, pages // 9)):
        if page + 1 in tables:
            continue
        damaged = tmp_path / f"damaged{page}.sqlite"
        damaged.write_bytes(whole[: page * 4096] + b"\xff" * 4096 + whole[(page + 1) * 4096 :])
        found = recover(damaged, tmp_path / f"saved{page}.sqlite")
        names = _names(tmp_path / f"saved{page}.sqlite")
        assert sorted(found.jobs) == names
        assert len(names) >= len(demo_jobs())  # of two times as many
        saved += len(names)
        lost += bool(found.lost)
    assert lost >= 3
    assert saved >= 3 * len(demo_jobs())


def test_recovering_a_whole_file_loses_nothing(tmp_path: Path) -> None:
    path = tmp_path / FILE_NAME
    jobs = Jobs(open_database(path))
    kept = jobs.add(fern_cottage())
    jobs.change(kept.id, 0, "rename", lambda j: j.model_copy(update={"name": "Mine"}))
    jobs.close()
    found = recover(path, tmp_path / "saved.sqlite")
    assert not found.lost
    again = Jobs(open_database(tmp_path / "saved.sqlite"))
    assert again.get(kept.id).job.name == "Mine"
    assert again.undo(kept.id, 1).job == fern_cottage()


def test_recovering_what_is_beyond_it_is_told(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = _filled(tmp_path, fern_cottage())
    data = path.read_bytes()
    broken = tmp_path / "broken.sqlite"
    broken.write_bytes(data[:100] + b"\xff" * (len(data) - 100))
    assert cli.main(["recover", str(broken)]) == 2
    assert "nothing in it can be found" in capsys.readouterr().err
    taken = tmp_path / "there"
    taken.write_text("mine")
    assert cli.main(["recover", str(path), str(taken)]) == 2
    assert taken.read_text() == "mine"
