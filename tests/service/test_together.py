"""Several windows, several threads, a command beside the server: every write that was acknowledged is
there, none is there twice, and nobody ever sees half a change."""

from __future__ import annotations

import random
import threading
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import httpx
import pytest
from fastapi.testclient import TestClient

from evtro import cli
from evtro.core.units.quantities import InputError
from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import write_job
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from tests.data import open_database
from tests.server import Server

from .writing import Change, adding, setting

pytestmark = pytest.mark.long

HANDS, WRITES = 6, 8


def _view(client: TestClient, job: str) -> Any:
    return client.get(f"/api/jobs/{job}").json()


def _insist(client: TestClient, job: str, change: Change | None) -> int:
    """Write, or undo, as a window does that is told of a newer state: again, on the newest revision."""
    for told in range(400):
        seen = _view(client, job)["revision"]
        at = f"/api/jobs/{job}/{'changes' if change else 'undo'}"
        answer = client.post(at, json=change, headers={"If-Match": str(seen)})
        if answer.status_code != 409:
            assert answer.is_success, answer.text
            return told
        assert answer.json()["revision"] > seen
    raise AssertionError("never let in")


@pytest.mark.long
def test_many_hands_lose_nothing_and_add_nothing_twice(client: TestClient) -> None:
    job = "skerry-house"
    before = _view(client, job)

    def hand(n: int) -> int:
        return sum(
            _insist(
                client,
                job,
                adding("obstructions", {"line": f"thing{n}x{i} {10 + n} {12 + n} {3 + i}"}),
            )
            for i in range(WRITES)
        )

    with ThreadPoolExecutor(HANDS) as pool:
        list(pool.map(hand, range(HANDS)))
    after = _view(client, job)
    assert after["revision"] == before["revision"] + HANDS * WRITES
    names = [o["name"] for o in after["job"]["obstructions"]][len(before["job"]["obstructions"]) :]
    assert sorted(names) == sorted(f"thing{n}x{i}" for n in range(HANDS) for i in range(WRITES))
    ids = [o["id"] for o in after["job"]["obstructions"]]
    assert len(ids) == len(set(ids))
    for n in range(HANDS):
        own = [name for name in names if name.startswith(f"thing{n}x")]
        assert own == [
            f"thing{n}x{i}" for i in range(WRITES)
        ]  # in the order in which each was written


def test_of_writes_on_one_revision_exactly_one_is_let_in(client: TestClient) -> None:
    job = "skerry-house"
    for turn in range(6):
        seen = _view(client, job)["revision"]
        gate = threading.Barrier(HANDS)

        def write(
            n: int, seen: int = seen, gate: threading.Barrier = gate, turn: int = turn
        ) -> int:
            gate.wait()
            return client.post(
                f"/api/jobs/{job}/changes",
                json=setting("links", {"length_m": 5 + turn * 10 + n}, "l28"),
                headers={"If-Match": str(seen)},
            ).status_code

        with ThreadPoolExecutor(HANDS) as pool:
            codes = sorted(pool.map(write, range(HANDS)))
        assert codes == [200] + [409] * (HANDS - 1)
        assert _view(client, job)["revision"] == seen + 1


@pytest.mark.long
def test_what_is_read_meanwhile_is_always_one_whole_state(client: TestClient) -> None:
    """The answers in a view are those of the job in the same view, whatever is written meanwhile."""
    job = "skerry-house"
    stop = threading.Event()
    wrong: list[str] = []

    def read() -> None:
        last = -1
        while not stop.is_set():
            view = _view(client, job)
            if view["revision"] < last:
                wrong.append("a revision went back")
            last = view["revision"]
            metres = next(k["length_m"] for k in view["job"]["links"] if k["id"] == "l28")
            rows = view["answers"]["coax"]["outlets"]
            if len(rows) != len(view["job"]["outlets"]):
                wrong.append("outlets and answers differ")
            if [s["number"] for s in view["answers"]["stations"]] != list(range(1, 9)):
                wrong.append("stations are missing")
            if metres <= 0:
                wrong.append("a length that nobody wrote")

    readers = [threading.Thread(target=read) for _ in range(3)]
    for reader in readers:
        reader.start()
    dice = random.Random(4)
    for i in range(10):
        _insist(client, job, setting("links", {"length_m": dice.uniform(1, 90)}, "l28"))
        if i % 5 == 4:
            _insist(client, job, None)
    stop.set()
    for reader in readers:
        reader.join()
    assert not wrong


def test_undo_from_two_windows_goes_back_once_for_each_that_was_let_in(client: TestClient) -> None:
    job = "skerry-house"
    first = _view(client, job)["job"]
    for metres in (10, 20, 30, 40):
        _insist(client, job, setting("links", {"length_m": metres}, "l28"))
    seen = _view(client, job)["revision"]
    gate = threading.Barrier(2)

    def undo(_: int) -> int:
        gate.wait()
        return client.post(f"/api/jobs/{job}/undo", headers={"If-Match": str(seen)}).status_code

    with ThreadPoolExecutor(2) as pool:
        codes = sorted(pool.map(undo, range(2)))
    assert codes == [200, 409]
    length = next(k["length_m"] for k in _view(client, job)["job"]["links"] if k["id"] == "l28")
    assert length == 30
    for _ in range(3):
        _insist(client, job, None)
    assert _view(client, job)["job"] == first


def test_jobs_do_not_wait_for_or_mix_with_each_other(client: TestClient) -> None:
    names = sorted(demo_jobs())

    def work(name: str) -> tuple[str, str]:
        for i in range(3):
            _insist(client, name, setting("job", {"place": f"{name} {i}"}))
        return name, _view(client, name)["job"]["place"]

    with ThreadPoolExecutor(len(names)) as pool:
        found = dict(pool.map(work, names))
    assert found == {name: f"{name} 2" for name in names}


def test_two_programs_on_one_folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """The command line takes a job in while the server runs; the server shows it and both go on."""
    server = Server(tmp_path, "serve")
    try:
        monkeypatch.setenv("EVTRO_DATA", str(tmp_path))
        file = tmp_path / "a.json"
        file.write_text(write_job(demo_jobs()["mill-loft"]))
        assert cli.main(["import", str(file)]) == 0
        with httpx.Client(base_url=server.url, trust_env=False) as client:
            kept = client.get("/api/jobs").json()["jobs"]
            assert [j["name"] for j in kept] == ["Mill Loft"]
            job = kept[0]["id"]
            seen = client.get(f"/api/jobs/{job}").json()["revision"]
            changed = client.post(
                f"/api/jobs/{job}/changes",
                json={"verb": "set", "rows": "job", "values": {"name": "Mill Loft, twice"}},
                headers={"If-Match": str(seen)},
            )
            assert changed.status_code == 200
            # Nobody writes beside it, and who tries is told where it runs.
            with pytest.raises(InputError, match=server.url):
                open_database(tmp_path / FILE_NAME)
            assert cli.main(["restore", str(file)]) == 2
            assert cli.main(["backup", str(tmp_path / "copy.sqlite")]) == 0
        copy = Jobs(open_database(tmp_path / "copy.sqlite"))
        assert copy.get(job).job.name == "Mill Loft, twice"
        copy.close()
    finally:
        server.stop()
