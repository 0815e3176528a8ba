"""SIGKILL at random moments: what was acknowledged is there."""

from __future__ import annotations

import random
import sqlite3
import threading
from pathlib import Path

import httpx

from evtro.store.connection import FILE_NAME
from tests.server import Server

EDITS, KILLS = 300, 6


def test_every_acknowledged_edit_survives_sigkill(tmp_path: Path) -> None:
    chance = random.Random(20260325)
    moments = sorted(chance.sample(range(10, EDITS), KILLS))
    server = Server(tmp_path)
    acknowledged, revision, n = "", 0, 0
    while n < EDITS:
        path = f"{server.url}/api/jobs/skerry-house"
        with httpx.Client(timeout=20) as client:
            killer: threading.Timer | None = None
            while n < EDITS:
                n += 1
                if moments and n >= moments[0]:
                    moments.pop(0)
                    killer = threading.Timer(chance.random() * 0.04, server.kill)
                    killer.start()
                try:
                    answer = client.patch(f"{path}/handover", json={"remarks": f"edit {n}"},
                                          headers={"If-Match": str(revision)})  # fmt: skip
                except httpx.HTTPError:
                    break
                assert answer.status_code == 200, answer.text
                acknowledged, revision = f"edit {n}", answer.json()["revision"]
            if killer is not None:
                killer.join()
        if server.process.poll() is None and n >= EDITS:
            break
        server.process.wait()
        server = Server(tmp_path)
        view = httpx.get(f"{server.url}/api/jobs/skerry-house", timeout=20).json()
        # The edit that was under way may be in or not; everything acknowledged is.
        assert view["revision"] in (revision, revision + 1)
        assert view["job"]["handover"]["remarks"] in (acknowledged, f"edit {n}")
        revision, acknowledged = view["revision"], view["job"]["handover"]["remarks"]
    server.kill()
    assert not moments
    with sqlite3.connect(tmp_path / FILE_NAME) as database:
        assert database.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        assert database.execute("PRAGMA foreign_key_check").fetchall() == []
        count = database.execute(
            "SELECT count(*) FROM change WHERE job = 'skerry-house'"
        ).fetchone()[0]
        assert count == revision
