"""What stands at the data file's place is told apart, and nothing of others is touched."""

from __future__ import annotations

import os
import sqlite3
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from evtro import cli
from evtro.core.units.quantities import InputError
from evtro.demo.world import fern_cottage
from evtro.store.connection import APPLICATION_ID, look_at, open_owned
from evtro.store.folder import FILE_NAME, Claim
from evtro.store.jobs import Jobs
from tests.data import open_database
from tests.refusals import refused


def _foreign(path: Path) -> None:
    other = sqlite3.connect(path)
    other.execute("CREATE TABLE shopping (thing TEXT)")
    other.execute("INSERT INTO shopping VALUES ('nails')")
    other.commit()
    other.close()


def _newer(path: Path) -> None:
    open_database(path).close()
    other = sqlite3.connect(path)
    other.execute("PRAGMA user_version = 99")
    other.close()


def _damaged(path: Path) -> None:
    jobs = Jobs(open_database(path))
    for _ in range(20):
        jobs.add(fern_cottage())
    jobs.close()
    data = bytearray(path.read_bytes())
    data[100:4096] = b"\xff" * 3996
    path.write_bytes(data)


STATES: dict[str, tuple[Callable[[Path], object], str]] = {
    "empty": (lambda p: p.touch(), "is empty"),
    "text": (lambda p: p.write_text("nails, screws " * 90), "is not an Evtro database"),
    "short": (lambda p: p.write_bytes(b"SQLite format 3\x00"), "is not an Evtro database"),
    "foreign": (_foreign, "database of another program"),
    "newer": (_newer, "newer Evtro"),
    "folder": (lambda p: p.mkdir(), "is no file"),
    "pipe": (os.mkfifo, "is no file"),
    "damaged": (_damaged, "cannot be read"),
}


@pytest.mark.parametrize("state", STATES)
def test_each_state_has_its_own_words_and_is_left_as_it_was(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch, state: str
) -> None:
    make, words = STATES[state]
    folder = tmp_path / "data"
    folder.mkdir()
    path = folder / FILE_NAME
    make(path)
    before = path.read_bytes() if path.is_file() else None
    monkeypatch.setenv("EVTRO_DATA", str(folder))
    with pytest.raises(InputError, match=words) as told:
        open_database(path)
    assert told.value.remedy
    for command in (["export", "x"], ["backup", str(tmp_path / "copy")]):
        assert cli.main(command) == 2
    said = capsys.readouterr().err
    assert "Traceback" not in said
    if state != "newer":
        assert words in said
    if before is not None:
        assert path.read_bytes() == before
        assert not path.with_name(FILE_NAME + "-wal").exists() or state == "damaged"


def test_a_file_from_before_the_mark_is_known_by_its_tables(tmp_path: Path) -> None:
    path = tmp_path / FILE_NAME
    open_database(path).close()
    assert int.from_bytes(path.read_bytes()[68:72], "big") == APPLICATION_ID
    old = sqlite3.connect(path)
    old.execute("PRAGMA application_id = 0")
    old.close()
    assert look_at(path).kind == "ours"
    other = sqlite3.connect(path)
    other.execute("PRAGMA application_id = 7")
    other.close()
    assert look_at(path).kind == "foreign"


def test_a_locked_file_is_told_as_locked(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("evtro.store.connection.BUSY_MS", 50)
    path = tmp_path / FILE_NAME
    open_database(path).close()
    holder = sqlite3.connect(path, isolation_level=None)
    holder.execute("PRAGMA journal_mode = DELETE")
    holder.execute("BEGIN EXCLUSIVE")
    with refused("database-busy"):
        open_database(path)
    holder.execute("ROLLBACK")
    open_database(path).close()


@pytest.fixture
def as_nobody() -> Iterator[Callable[[], None]]:
    """Become a user without rights for the rest of a test: the administrator may write everywhere."""
    me = os.geteuid()
    yield lambda: os.seteuid(65534) if me == 0 else None
    os.seteuid(me)


def test_a_read_only_file_is_told_as_read_only(as_nobody: Callable[[], None]) -> None:
    folder = Path(tempfile.mkdtemp(prefix="evtro-test-"))
    folder.chmod(0o777)
    open_database(folder / FILE_NAME).close()
    (folder / FILE_NAME).chmod(0o444)
    (folder / "evtro.lock").chmod(0o666)
    as_nobody()
    with refused("database-read-only") as told:
        open_database(folder / FILE_NAME)
    assert "right to write" in told.value.remedy


def test_a_new_file_is_made_whole_or_not_at_all(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def stop(*_: object) -> None:
        raise KeyboardInterrupt

    monkeypatch.setattr("evtro.store.connection.put_in_place", stop)
    with pytest.raises(KeyboardInterrupt), Claim(tmp_path) as claim:
        open_owned(claim)
    assert not (tmp_path / FILE_NAME).exists()
    monkeypatch.undo()
    with Claim(tmp_path) as claim:
        open_owned(claim).connection.close()
    assert (tmp_path / FILE_NAME).exists()


def test_after_an_unclean_stop_the_file_is_looked_through(tmp_path: Path) -> None:
    jobs = Jobs(open_database(tmp_path / FILE_NAME))
    for _ in range(20):
        jobs.add(fern_cottage())
    jobs.close()
    # As a crash leaves it: the note of its owner is there, and the lock is free.
    (tmp_path / "evtro.owner.json").write_text("{}")
    with Claim(tmp_path) as claim:
        opened = open_owned(claim)
        assert (claim.clean, opened.checked, opened.damage) == (False, True, ())
        opened.connection.close()
    with Claim(tmp_path) as claim:
        assert claim.clean
    data = bytearray((tmp_path / FILE_NAME).read_bytes())
    page = len(data) // 4096 // 2 * 4096
    data[page : page + 4096] = b"\xaa" * 4096
    (tmp_path / FILE_NAME).write_bytes(data)
    (tmp_path / "evtro.owner.json").write_text("{}")
    with Claim(tmp_path) as claim:
        opened = open_owned(claim)
        assert opened.damage
        kept = Jobs(opened.connection, damage=opened.damage)
        with pytest.raises(sqlite3.DatabaseError):
            kept.add(fern_cottage())
        kept.close()


def test_the_owners_durability(tmp_path: Path) -> None:
    database = open_database(tmp_path / FILE_NAME)
    asked = ("journal_mode", "synchronous", "fullfsync", "checkpoint_fullfsync", "foreign_keys")
    found = [database.execute(f"PRAGMA {name}").fetchone()[0] for name in asked]
    assert found == ["wal", 2, 1, 1, 1]
