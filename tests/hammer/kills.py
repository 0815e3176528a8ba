"""SIGKILL at random moments: what was acknowledged is there, and the file is whole.

On a real server with four writers, and on a bare process of the store while it writes, backs up,
restores, migrates and takes in; the bare process is quick enough for many moments.
"""

from __future__ import annotations

import contextlib
import random
import shutil
import sqlite3
import threading
from dataclasses import dataclass
from pathlib import Path

import httpx

from evtro.core.job.forms import FORM
from evtro.demo.world import fern_cottage
from evtro.store.backups import backup
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from tests.data import open_database
from tests.server import Server, forked_script

WRITERS = 4
JOBS = ("skerry-house", "fern-cottage", "mill-loft", "tern-hut")


@dataclass
class Found:
    """How often was killed, what was acknowledged, what of it was lost, what was not whole."""

    kills: int = 0
    acknowledged: int = 0
    lost: int = 0
    broken: int = 0


def whole(path: Path) -> bool:
    """Whether SQLite finds the file whole, and no row that names what is not there."""
    with sqlite3.connect(path) as database:
        checked = database.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        return checked and not database.execute("PRAGMA foreign_key_check").fetchall()


def on_the_program(folder: Path, kills: int, seed: int = 1) -> Found:
    """Four writers on four jobs of a real server, which is killed and started again."""
    chance, found = random.Random(seed), Found()
    last = dict.fromkeys(JOBS, "")
    for _ in range(kills):
        server = Server(folder)
        threads, acknowledged = [], threading.Semaphore(0)
        for job in JOBS:
            now = httpx.get(f"{server.url}/api/jobs/{job}", timeout=30).json()
            kept = now["job"]["handover"]["remarks"]
            # The write that was under way when it was killed may be in; what was acknowledged is.
            if last[job] and int(kept or 0) < int(last[job]):
                found.lost += 1
            last[job] = kept
            threads.append(
                threading.Thread(
                    target=_write, args=(server.url, job, now["revision"], last, acknowledged)
                )
            )
        for each in threads:
            each.start()
        # After so many writes, however long they take, and at any moment of the next.
        writes = chance.randint(4, 60)
        for _ in range(writes):
            assert acknowledged.acquire(timeout=60)
        timer = threading.Timer(chance.random() * 0.05, server.kill)
        timer.start()
        for each in threads:
            each.join()
        timer.join()
        found.kills += 1
        found.acknowledged += writes
        while acknowledged.acquire(blocking=False):
            found.acknowledged += 1
        # A copy is looked at: the file with its log, as the crash left it.
        copy = folder / "looked-at.sqlite"
        for tail in ("", "-wal"):
            one = folder / (FILE_NAME + tail)
            if one.exists():
                shutil.copyfile(one, copy.with_name(copy.name + tail))
        found.broken += not whole(copy)
        for tail in ("", "-wal", "-shm"):
            copy.with_name(copy.name + tail).unlink(missing_ok=True)
    server = Server(folder)
    for job in JOBS:
        kept = httpx.get(f"{server.url}/api/jobs/{job}", timeout=30).json()["job"]["handover"][
            "remarks"
        ]
        found.lost += int(kept or 0) < int(last[job] or 0)
    server.stop()
    found.broken += not whole(folder / FILE_NAME)
    return found


def _write(
    url: str, job: str, revision: int, last: dict[str, str], acknowledged: threading.Semaphore
) -> None:
    n = int(last[job] or 0)
    with httpx.Client(timeout=30) as client:
        while True:
            n += 1
            try:
                answer = client.post(
                    f"{url}/api/jobs/{job}/changes",
                    json={"verb": "set", "rows": "handover", "values": {"remarks": str(n)}},
                    headers={"If-Match": str(revision)},
                )
            except httpx.HTTPError:
                return
            assert answer.status_code == 200, answer.text[:300]
            revision, last[job] = answer.json()["revision"], str(n)
            acknowledged.release()


BARE = """
import datetime as dt, sys
from pathlib import Path
from evtro.demo.world import fern_cottage
from evtro.store.backups import backup, daily, restore
from evtro.store.connection import open_owned
from evtro.store.folder import Claim
from evtro.store.jobs import Jobs
what, folder, base = sys.argv[1], Path(sys.argv[2]), int(sys.argv[3])
with Claim(folder) as claim:
    if what == "restore":
        print("ready", flush=True)
        for n in range(10**9):
            restore(claim, folder / "copy.sqlite")
            print(n, flush=True)
    if what == "migration":
        print("ready", flush=True)
    jobs = Jobs(open_owned(claim).connection)
    print("ready", flush=True)
    first = fern_cottage()
    house = "fern-cottage" if what == "migration" else "house"
    for n in range(base + 1, 10**9):
        if what == "import":
            jobs.add(first.model_copy(update={"name": str(n)}))
        else:
            seen = jobs.get(house).revision
            note = first.handover.model_copy(update={"remarks": str(n)})
            jobs.change(house, seen, "note", lambda j: j.model_copy(update={"handover": note}))
        if what == "backup" and n % 3 == 0:
            backup(folder, folder / "copy.sqlite")
        print(n, flush=True)
"""
OLD_FILE = Path(__file__).parents[1] / "forms" / f"database-{FORM - 1}.sql"
KINDS = ("write", "backup", "restore", "import", "migration")


def on_the_store(folder: Path, kills: int, seed: int = 2) -> dict[str, Found]:
    """A bare process of the store, killed while it does each of the things that it does."""
    chance = random.Random(seed)
    return {kind: _bare(folder / kind, kind, kills, chance) for kind in KINDS}


def _bare(folder: Path, kind: str, kills: int, chance: random.Random) -> Found:
    folder.mkdir(parents=True)
    path, found = folder / FILE_NAME, Found()
    jobs = Jobs(open_database(path))
    jobs.add(fern_cottage(), "house")
    jobs.close()
    backup(folder, folder / "copy.sqlite")
    for _ in range(kills):
        if kind == "migration":
            _make_old(path)
        # A look would bring the old file up to date before the kill.
        before = 0 if kind == "migration" else _state(path, kind)
        process, out = forked_script(BARE, kind, str(folder), str(before))
        assert out.readline() == "ready\n"
        timer = threading.Timer(chance.random() * 0.25, process.kill)
        timer.start()
        said = [int(line) for line in out if line.strip().isdigit()]
        process.join()
        timer.join()
        found.kills += 1
        found.acknowledged += len(said)
        after = _state(path, kind)
        found.broken += not whole(path)
        if kind in ("write", "backup", "migration"):
            found.lost += after < (said[-1] if said else before)
        elif kind == "import":
            found.lost += after < before + len(said)
        if (folder / "copy.sqlite").exists():
            found.broken += not whole(folder / "copy.sqlite")
    return found


def _state(path: Path, kind: str) -> int:
    jobs = Jobs(open_database(path))
    try:
        if kind == "import":
            return len(jobs.heads()) - 1
        job = jobs.get("fern-cottage" if kind == "migration" else "house").job
        return int(job.handover.remarks or 0)
    finally:
        jobs.close()


def _make_old(path: Path) -> None:
    """A file of the form before this one, so that the next start brings it up to date."""
    for old in path.parent.glob(f"{FILE_NAME}*"):
        old.unlink()
    with contextlib.closing(sqlite3.connect(path)) as old_file:
        old_file.executescript(OLD_FILE.read_text("utf-8"))
