"""Random calls over API, files and phone faces: no fault, no long wait, memory as at the start."""

from __future__ import annotations

import json
import random
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import httpx

from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import write_job
from tests.server import Server

HANDS = 4
_ODD: list[Any] = [
    None, True, False, 0, -1, 1, 3.5, 1e308, -1e308, 10**400, "", " ", "x" * 3000, "12", "12,5", "1,240", "5 ft 3 in",
    "51°30'N", "nan", "361°", "-0", "\x00", "\x07", "\ud800", "🛰", "=1+1", "<b>", "'; DROP TABLE job; --",
    [], [1], {}, {"a": 1}, [[[]]], "a1", "p1", "c1", "t1", "o1", "l28", "2026-03-25", "9999-12-31", "europe",
]  # fmt: skip


@dataclass
class Found:
    """How many calls, answers by class, the longest wait, memory before and after [MB]."""

    calls: int = 0
    faults: list[str] = field(default_factory=list)
    kinds: dict[int, int] = field(default_factory=dict)
    longest_s: float = 0.0
    first_mb: float = 0.0
    last_mb: float = 0.0


def fuzz(folder: Path, calls: int, seed: int = 3, *, memory: bool = False) -> Found:
    """So many calls of four hands on a server of the demo world; its memory is looked at if it is asked for."""
    server, found = Server(folder), Found()
    try:
        described = httpx.get(f"{server.url}/api/openapi.json", timeout=30).json()
        operations = [
            (m.upper(), p, o)
            for p, ms in described["paths"].items()
            for m, o in ms.items()
            if not p.endswith("/events")  # a call that never ends
        ]
        if memory:
            # Compared once everything that loads late is loaded: the rain maps, the gazetteer.
            _settle(server)
            _hands(server, operations, max(calls // 10, 400), seed + 1, Found())
            found.first_mb = _memory_mb(server)
        _hands(server, operations, calls, seed, found)
        found.last_mb = _memory_mb(server) if memory else 0.0
    finally:
        server.stop()
    return found


def _settle(server: Server) -> None:
    with httpx.Client(base_url=server.url, timeout=60) as client:
        client.get("/api/places?q=ab")
        for name in demo_jobs():
            for antenna in client.get(f"/api/jobs/{name}").json()["job"]["dishes"]:
                at = f"/api/jobs/{name}/antennas/{antenna['id']}/link"
                for _ in range(3000):
                    if client.get(at).json().get("rain", {}).get("state") != "working":
                        break
            client.get(f"/api/jobs/{name}/sheet.pdf")


def _hands(server: Server, operations: list[Any], calls: int, seed: int, found: Found) -> None:
    lock = threading.Lock()
    threads = [
        threading.Thread(
            target=_hand, args=(server.url, operations, calls // HANDS, seed * 100 + i, found, lock)
        )
        for i in range(HANDS)
    ]
    for each in threads:
        each.start()
    for each in threads:
        each.join()


def _hand(
    url: str, operations: list[Any], calls: int, seed: int, found: Found, lock: threading.Lock
) -> None:
    chance = random.Random(seed)
    jobs = {name: write_job(job).encode() for name, job in demo_jobs().items()}
    names = list(jobs)
    with httpx.Client(timeout=60) as client:
        for _ in range(calls):
            method, path, operation = chance.choice(operations)
            call = _call(chance, method, path, operation, jobs, names)
            if chance.random() < 0.05:
                call = {
                    "method": "GET",
                    "url": f"/jobs/{chance.choice(names)}/{chance.choice(('aim', 'site', '%00'))}/do",
                }
            start = time.perf_counter()
            try:
                answer = client.request(call.pop("method"), url + call.pop("url"), **call)
            except (httpx.InvalidURL, httpx.LocalProtocolError, UnicodeError):
                continue
            took = time.perf_counter() - start
            with lock:
                found.calls += 1
                found.kinds[answer.status_code // 100] = (
                    found.kinds.get(answer.status_code // 100, 0) + 1
                )
                found.longest_s = max(found.longest_s, took)
                if answer.status_code >= 500:
                    found.faults.append(f"{method} {path} {answer.text[:200]}")
            if method == "DELETE" and path == "/api/jobs/{job_id}" and answer.status_code == 204:
                client.post(f"{answer.request.url}/take-back")


def _call(
    chance: random.Random,
    method: str,
    path: str,
    operation: Any,
    jobs: dict[str, bytes],
    names: list[str],
) -> dict[str, Any]:
    for parameter in operation.get("parameters", []):
        if parameter["in"] != "path":
            continue
        name = parameter["name"]
        value = (
            chance.choice(names)
            if name == "job_id"
            else chance.choice(
                ("a1", "p1", "p7", "c1", "t1", "o1", "l28", "x9", "%00", "mast", "aim.a1.peak")
            )
        )
        path = path.replace("{" + name + "}", value)
    query = {
        p["name"]: _text(chance)
        for p in operation.get("parameters", [])
        if p["in"] == "query" and chance.random() < 0.8
    }
    call: dict[str, Any] = {"method": method, "url": path, "params": query}
    call["headers"] = {"If-Match": str(chance.choice((0, 1, 2, 3, 5, 8, 13, 10**14)))}
    if method in ("POST", "PATCH", "PUT"):
        call["content"], media = _body(chance, operation, jobs, names)
        call["headers"]["content-type"] = media
    # The list grows by what is let in: the imports are few.
    if path in ("/api/jobs/import", "/api/jobs", "/api/jobs/quick") and chance.random() < 0.97:
        call["content"] = b"{}"
    return call


def _text(chance: random.Random) -> str:
    value = chance.choice(_ODD)
    return str(value)[:200].encode("utf-8", "ignore").decode()


def _body(
    chance: random.Random, operation: Any, jobs: dict[str, bytes], names: list[str]
) -> tuple[bytes, str]:
    content = operation.get("requestBody", {}).get("content", {})
    media = next(iter(content), "application/json")
    if media != "application/json" or chance.random() < 0.05:
        return _broken(chance, jobs[chance.choice(names)]), media
    fields = _fields(content.get(media, {}).get("schema", {}))
    picked = [f for f in fields if chance.random() < 0.3] or fields[:1]
    body = {name: chance.choice(_ODD) for name in picked}
    return json.dumps(body).encode(), media


_SCHEMAS: dict[str, list[str]] = {}


def _fields(schema: dict[str, Any]) -> list[str]:
    from evtro.service import schemas

    name = str(schema.get("$ref", "")).rsplit("/", 1)[-1]
    if name not in _SCHEMAS:
        model = getattr(schemas, name, None)
        _SCHEMAS[name] = list(getattr(model, "model_fields", {}))
    return _SCHEMAS[name]


def _broken(chance: random.Random, data: bytes) -> bytes:
    """A file with a stretch cut, doubled or overwritten."""
    a, b = sorted(chance.randrange(len(data)) for _ in range(2))
    return chance.choice(
        (
            data[:a],
            data[:a] + data[b:],
            data[:b] + data[a:b][:5000] + data[b:],
            data[:a] + b"\xff" * 9 + data[a + 9 :],
            data.replace(b"1", b"9" * chance.choice((1, 3, 400)), 3),
            b"",
            b"[" * 5000,
            b"\x00" * 50,
            data,
        )
    )


def _memory_mb(server: Server) -> float:
    status = Path(f"/proc/{server.process.pid}/status").read_text()
    return (
        int(next(line for line in status.splitlines() if line.startswith("VmRSS")).split()[1])
        / 1024
    )
