"""A write that the disk or a lock refuses: told in the trade's words, and nothing is half kept."""

from __future__ import annotations

import errno
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from evtro.store.storage_errors import trouble_of

from .writing import setting

JOB = "/api/jobs/skerry-house"


def _write(client: TestClient) -> tuple[int, str, str]:
    seen = {"If-Match": str(client.get(JOB).json()["revision"])}
    answer = client.post(
        f"{JOB}/changes", json=setting("links", {"length_m": 33}, "l28"), headers=seen
    )
    said = answer.json()
    assert "content-security-policy" in answer.headers
    return answer.status_code, said.get("code", ""), f"{said.get('detail')} {said.get('remedy')}"


def _connection(client: TestClient) -> sqlite3.Connection:
    jobs: Jobs = client.app.state.desk.jobs  # type: ignore[attr-defined]
    with jobs.reading() as db:
        return db


def test_a_full_disk(client: TestClient) -> None:
    """The file may not grow: SQLite itself says full."""
    db = _connection(client)
    most = db.execute("PRAGMA page_count").fetchone()[0]
    db.execute(f"PRAGMA max_page_count = {most}")
    before = client.get(JOB).json()["job"]
    notes = {"remarks": "x" * 1900}
    codes = set()
    for _ in range(30):
        seen = {"If-Match": str(client.get(JOB).json()["revision"])}
        answer = client.post(f"{JOB}/changes", json=setting("handover", notes), headers=seen)
        notes = {"remarks": notes["remarks"][::-1] + "y"}
        codes.add(answer.status_code)
        if answer.status_code == 507:
            break
    assert codes <= {200, 507}
    assert 507 in codes
    said = answer.json()
    assert (said["code"], said["title"]) == ("disk-full", "The disk is full")
    assert "not kept" in said["detail"]
    db.execute("PRAGMA max_page_count = 1000000")
    assert client.get(JOB).json()["job"]["site"] == before["site"]
    assert _write(client)[0] == 200  # the same, sent again when there is room


def test_read_only_data(client: TestClient) -> None:
    _connection(client).execute("PRAGMA query_only = ON")
    status, code, words = _write(client)
    assert (status, code) == (503, "read-only")
    assert "read-only" in words
    assert client.get(JOB).status_code == 200  # reading goes on
    assert client.get("/api/jobs").json()["total"]


def test_a_locked_file(client: TestClient, tmp_path: Path) -> None:
    _connection(client).execute("PRAGMA busy_timeout = 30")
    holder = sqlite3.connect(tmp_path / FILE_NAME, isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    assert _write(client)[:2] == (503, "busy")
    holder.execute("ROLLBACK")
    assert _write(client)[0] == 200


def test_a_damaged_file_takes_no_writes(client: TestClient) -> None:
    client.app.state.desk.jobs.damage = ("page 7",)  # type: ignore[attr-defined]
    status, code, words = _write(client)
    assert (status, code) == (500, "damaged")
    assert "evtro recover" in words
    assert client.get(JOB).status_code == 200


@pytest.mark.parametrize(
    ("error", "code"),
    [
        (OSError(errno.ENOSPC, "x"), "disk-full"),
        (OSError(errno.EFBIG, "x"), "disk-full"),
        (OSError(errno.EDQUOT, "x"), "disk-full"),
        (OSError(errno.EROFS, "x"), "read-only"),
        (PermissionError(errno.EACCES, "x"), "read-only"),
        (OSError(errno.EIO, "x"), "disk-fault"),
    ],
)
def test_the_disks_own_errors(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, error: OSError, code: str
) -> None:
    found = trouble_of(error)
    assert found is not None
    assert found.code == code

    @contextmanager
    def fails(_: Jobs) -> Iterator[sqlite3.Connection]:
        raise error
        yield

    monkeypatch.setattr(Jobs, "transaction", fails)
    assert _write(client)[1] == code


def test_a_fault_of_the_program_has_words_and_headers_too(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    def stumbles(*_: object) -> object:
        raise ZeroDivisionError

    monkeypatch.setattr(Jobs, "heads", stumbles)
    answer = client.get("/api/jobs")
    assert answer.status_code == 500
    assert answer.headers["content-type"] == "application/problem+json"
    assert answer.json()["code"] == "fault"
    for name in ("content-security-policy", "x-content-type-options", "cache-control"):
        assert name in answer.headers
