"""Twenty editors on one job: how many edits a second, how long anyone waits, and that nothing is lost."""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass
from pathlib import Path

import httpx

from tests.server import Server

JOB = "/api/jobs/skerry-house"


@dataclass
class Found:
    """Edits in all and a second, the longest that one editor was without progress, what was lost."""

    edits: int = 0
    a_second: float = 0.0
    longest_s: float = 0.0
    fewest: int = 0
    lost: int = 0


def edit_together(folder: Path, least: int, seconds: float = 0.0, editors: int = 20) -> Found:
    """At least so many edits of each, and more until the time is over. Each edits its own row, most of them late: the
    revision is that of its own last answer."""
    server = Server(folder)
    done = [0] * editors
    waits = [0.0] * editors
    try:
        links = [k["id"] for k in httpx.get(server.url + JOB, timeout=30).json()["job"]["links"]][
            :editors
        ]
        end = time.monotonic() + seconds
        threads = [
            threading.Thread(target=_edit, args=(server.url, links[i], i, least, end, done, waits))
            for i in range(editors)
        ]
        start = time.monotonic()
        for each in threads:
            each.start()
        for each in threads:
            each.join()
        took = time.monotonic() - start
        kept = {
            k["id"]: k["note"]
            for k in httpx.get(server.url + JOB, timeout=30).json()["job"]["links"]
        }
        lost = sum(kept[links[i]] != str(done[i]) for i in range(editors))
    finally:
        server.stop()
    return Found(sum(done), sum(done) / took, max(waits), min(done), lost)


def _edit(
    url: str, link: str, i: int, least: int, end: float, done: list[int], waits: list[float]
) -> None:
    seen = 0
    with httpx.Client(timeout=60) as client:
        while done[i] < least or time.monotonic() < end:
            start = time.monotonic()
            answer = client.post(
                f"{url}{JOB}/changes",
                json={
                    "verb": "set",
                    "rows": "links",
                    "id": link,
                    "values": {"note": str(done[i] + 1)},
                },
                headers={"If-Match": str(seen)},
            )
            assert answer.status_code == 200, answer.text[:300]
            seen = answer.json()["revision"]
            done[i] += 1
            waits[i] = max(waits[i], time.monotonic() - start)


@dataclass
class Crews:
    """Crews at work on jobs of their own: edits a second in all, and the 95th percentile of a wait."""

    edits: int
    a_second: float
    p95_s: float


def crews(folder: Path, seconds: float, count: int = 16) -> Crews:
    """So many crews, each on its own job, as quick as they are answered; each edit is followed by the
    page that the desk shows and the page of the phone."""
    server = Server(folder)
    waits: list[float] = []
    try:
        with httpx.Client(base_url=server.url, timeout=60) as client:
            data = client.get(f"{JOB}/export").content
            media = {"content-type": "application/json"}
            jobs = [
                client.post("/api/jobs/import", content=data, headers=media).json()["id"]
                for _ in range(count)
            ]
        end = time.monotonic() + seconds
        threads = [
            threading.Thread(target=_crew, args=(server.url, job, end, waits)) for job in jobs
        ]
        start = time.monotonic()
        for each in threads:
            each.start()
        for each in threads:
            each.join()
        took = time.monotonic() - start
    finally:
        server.stop()
    return Crews(len(waits), len(waits) / took, sorted(waits)[int(len(waits) * 0.95)])


def _crew(url: str, job: str, end: float, waits: list[float]) -> None:
    seen = 0
    with httpx.Client(timeout=60) as client:
        while time.monotonic() < end:
            start = time.monotonic()
            answer = client.post(
                f"{url}/api/jobs/{job}/changes",
                json={"verb": "set", "rows": "links", "id": "l28", "values": {"note": str(seen)}},
                headers={"If-Match": str(seen)},
            )
            waits.append(time.monotonic() - start)
            seen = answer.json()["revision"]
            client.get(f"{url}/api/jobs/{job}/antennas/a1/aim")
            client.get(f"{url}/api/jobs/{job}")
