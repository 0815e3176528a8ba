"""Stopping the program while its backup of the day is being written."""

from __future__ import annotations

import contextlib
import os
import signal
import sqlite3
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest

from evtro.service import serve as serving
from evtro.service.job_service import JobService
from evtro.store.folder import FILE_NAME
from tests.server import free_port

COUNT = "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 1000000) SELECT count(*) FROM n"


@pytest.fixture
def _own_signals() -> Iterator[None]:
    """The program installs a handler for SIGTERM; the one before it is put back."""
    before = signal.getsignal(signal.SIGTERM)
    yield
    signal.signal(signal.SIGTERM, before)


@pytest.mark.usefixtures("_own_signals")
def test_a_stop_in_the_middle_of_a_backup_waits_for_it(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The day's backup begins at the start. While it reads the database, SQLite cannot fold its log into the
    file."""
    begun = threading.Event()

    def keeps_house(desk: JobService, folder: Path, stop: threading.Event) -> None:
        with contextlib.closing(sqlite3.connect(folder / FILE_NAME)) as reader:
            reader.execute("SELECT count(*) FROM sqlite_master").fetchone()
            begun.set()
            stop.wait(60)
            # Longer than the database takes to close, if nobody waits.
            reader.execute(COUNT).fetchone()

    def stopped_at_once(*_: object) -> None:
        assert begun.wait(60)

    monkeypatch.setattr(serving, "_keep_house", keeps_house)
    monkeypatch.setattr(serving, "_run", stopped_at_once)
    serving.serve(tmp_path, serving.Wanted("127.0.0.1", free_port()))
    assert sorted(p.name for p in tmp_path.iterdir() if p.is_file()) == ["evtro.lock", FILE_NAME]


@pytest.mark.usefixtures("_own_signals")
def test_a_second_stop_does_not_wait_and_still_closes_the_database(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    desks: list[JobService] = []
    stopped = threading.Event()

    def keeps_house(desk: JobService, folder: Path, stop: threading.Event) -> None:
        desks.append(desk)
        stop.wait(60)
        os.kill(os.getpid(), signal.SIGTERM)
        stopped.wait(60)

    monkeypatch.setattr(serving, "_keep_house", keeps_house)
    monkeypatch.setattr(serving, "_run", lambda *_: None)
    monkeypatch.setattr(serving, "COPIED_S", 60)
    serving.serve(tmp_path, serving.Wanted("127.0.0.1", free_port()))
    assert not stopped.is_set()
    stopped.set()
    with pytest.raises(sqlite3.ProgrammingError, match="closed"):
        desks[0].jobs.heads()
