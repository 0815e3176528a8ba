"""Speed on the demo job, each figure beside its target. `make bench` runs all in one go."""

from __future__ import annotations

import asyncio
import gzip
import os
import re
import signal
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path

import design
import growth
import httpx
import work
from arrays import arrays
from dishes import dishes
from phone import phone
from playwright.sync_api import sync_playwright
from timing import PAINT, TYPING_MS

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.memo import Memo
from evtro.core.network.solve import solve
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.levels.outlets import solve_job
from evtro.demo.world import skerry_house
from evtro.service.app import WEB, create_app, settle

ROOT = Path(__file__).parents[1]
PORT = 8796
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def timed(call: Callable[[], object], runs: int) -> list[float]:
    """Milliseconds of each run, after a warm-up."""
    call()
    found = []
    for _ in range(runs):
        start = time.perf_counter()
        call()
        found.append((time.perf_counter() - start) * 1000)
    return found


def p95(values: list[float]) -> float:
    """The value that 95 in 100 runs stay under."""
    return statistics.quantiles(values, n=20)[18]


def core() -> list[tuple[str, str, str]]:
    """The solver and the whole job."""
    job, parts, profile = skerry_house(), catalogue.load(), profiles.load("europe")
    run = solve_job(NetworkContext(job, parts, profile)).run
    alone = timed(lambda: solve(run.circuit, run.driven), 400)
    built = timed(lambda: solve_job(NetworkContext(job, parts, profile)), 200)

    memo = Memo()
    whole = timed(lambda: work_out(job, parts, profile).stations, 60)
    known = timed(lambda: work_out(job, parts, profile, memo).stations, 60)
    return [
        ("core solve of the demo plant, median", "2 ms", f"{statistics.median(alone):.2f} ms"),
        ("  with building it from the job, median", "", f"{statistics.median(built):.2f} ms"),
        ("  all eight stations worked out, median", "", f"{statistics.median(whole):.1f} ms"),
        (
            "  used again where nothing was read that changed",
            "",
            f"{statistics.median(known):.2f} ms",
        ),
    ]


async def _service(folder: Path) -> list[float]:
    app = create_app(folder)
    settle()
    app.state.desk.jobs.add(skerry_house(), "skerry-house")
    found = []
    transport = httpx.ASGITransport(app)
    async with httpx.AsyncClient(transport=transport, base_url="http://localhost") as client:
        for i in range(220):
            start = time.perf_counter()
            longer = {"length_m": f"{40 + i % 17} m"}
            answer = await client.post(
                "/api/jobs/skerry-house/changes",
                headers={"If-Match": str(i), "Evtro-Include": "coax,aim"},
                json={"verb": "set", "rows": "links", "id": "l28", "values": longer},
            )
            if i >= 20:
                found.append((time.perf_counter() - start) * 1000)
            assert answer.status_code == 200
    app.state.desk.jobs.close()
    return found


def service() -> list[tuple[str, str, str]]:
    """Write, recompute, answer."""
    with tempfile.TemporaryDirectory() as folder:
        found = asyncio.run(_service(Path(folder)))
    return [
        ("a change through the service, 95th percentile", "25 ms", f"{p95(found):.1f} ms"),
        ("  median", "", f"{statistics.median(found):.1f} ms"),
    ]


def interface() -> list[tuple[str, str, str]]:
    """Second start of `make demo`, key press to repainted figure, memory, size of the script."""
    rows = []
    with tempfile.TemporaryDirectory() as folder:
        environment = {**os.environ, "EVTRO_DATA": folder}
        for turn in range(2):
            start = time.perf_counter()
            demo = subprocess.Popen(
                ["make", "-s", "demo", f"PORT={PORT}"],
                cwd=ROOT,
                env=environment,
                stdout=subprocess.DEVNULL,
                start_new_session=True,
            )
            _wait()
            taken = time.perf_counter() - start
            if turn == 0:
                _end(demo)
        rows.append(("second start of `make demo` to first answer", "4 s", f"{taken:.1f} s"))
        with sync_playwright() as play:
            browser = play.chromium.launch(
                executable_path="/usr/bin/chromium-headless-shell", args=FLAGS
            )
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"http://127.0.0.1:{PORT}/jobs/skerry-house/coax")
            page.locator("#network-p18").click()
            page.locator("[aria-label=Sheet] .font-mono").first.wait_for()
            page.wait_for_timeout(1000)
            found = page.evaluate(PAINT, [[40 + i % 23 for i in range(80)], TYPING_MS])[10:]
            browser.close()
        rows.append(
            ("key press to repainted figure, 95th percentile", "150 ms", f"{p95(found):.0f} ms")
        )
        rows.append(("  median", "", f"{statistics.median(found):.0f} ms"))
        urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/places?q=gal").read()
        urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/jobs/skerry-house/sheet.pdf").read()
        rows.append(("server memory after all that", "200 MB", f"{_memory_mb():.0f} MB"))
        _end(demo)
    index = (WEB / "index.html").read_text()
    scripts = set(re.findall(r'"/(assets/[^"]+\.js)"', index))
    size = sum(len(gzip.compress((WEB / s).read_bytes())) for s in scripts)
    rows.append(("initial JavaScript, gzipped", "250 kB", f"{size / 1000:.0f} kB"))
    return rows


def _wait() -> None:
    while True:
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/jobs", timeout=2).read()
            return
        except OSError:
            time.sleep(0.02)


def _end(process: subprocess.Popen[bytes]) -> None:
    os.killpg(process.pid, signal.SIGTERM)
    process.wait()
    time.sleep(0.3)


def _memory_mb() -> float:
    """Resident memory of the demo's server process [MB]."""
    for status in Path("/proc").glob("[0-9]*/cmdline"):
        words = status.read_bytes().split(b"\0")
        if b"demo" in words and str(PORT).encode() in words and b"make" not in words[0]:
            text = status.with_name("status").read_text()
            return int(re.search(r"VmRSS:\s+(\d+)", text)[1]) / 1000  # type: ignore[index]
    return float("nan")


def main() -> int:
    """Print the table."""
    rows = core() + dishes() + arrays() + work.on_site() + service() + interface()
    rows += (
        growth.solver() + design.designs() + growth.service() + growth.browser(FLAGS) + phone(FLAGS)
    )
    width = max(len(name) for name, _, _ in rows)
    print(f"{'on the demo job':<{width}}  {'target':>9}  {'figure':>9}")
    for name, target, figure in rows:
        print(f"{name:<{width}}  {target:>9}  {figure:>9}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
