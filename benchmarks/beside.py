"""`make beside COMMIT=…`: the client's speed beside that of an earlier commit, both in one run and in turns, since
one machine is not as quick in the next minute as in this one."""

from __future__ import annotations

import gzip
import os
import re
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from itertools import product
from pathlib import Path

import httpx
from large import house
from phone import EMPTY, ENTRIES, FILL, SLOWER, interactive_s
from playwright.sync_api import Browser, sync_playwright
from timing import PAINT, TYPING_MS, until_it_answers

from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import write_job

ROOT = Path(__file__).parents[1]
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
ROUNDS = 3


class Side:
    """A checkout of the program, built, and its server."""

    def __init__(self, name: str, root: Path, port: int, folder: Path) -> None:
        self.name, self.root, self.url = name, root, f"http://127.0.0.1:{port}"
        self.server = subprocess.Popen(
            [sys.executable, "-m", "evtro.cli", "serve", "--port", str(port)],
            cwd=folder,
            env={**os.environ, "PYTHONPATH": str(root / "src"), "EVTRO_DATA": str(folder / name)},
            stdout=subprocess.DEVNULL,
        )
        self.jobs: dict[str, str] = {}
        with httpx.Client(base_url=self.url, timeout=60) as client:
            until_it_answers(client)
            texts = {
                "12 outlets": write_job(demo_jobs()["skerry-house"]),
                "200 outlets": write_job(house(200, 60)),
                "do": write_job(demo_jobs()["fern-cottage"]),
            }
            for key, text in texts.items():
                made = client.post(
                    "/api/jobs/import",
                    content=text.encode(),
                    headers={"content-type": "application/json"},
                ).json()
                self.jobs[key] = made["id"]

    def presses(self, browser: Browser, key: str, pause_ms: float) -> list[float]:
        """From Enter to painted figure [ms], so long after the last digit [ms]."""
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{self.url}/jobs/{self.jobs[key]}/coax")
        node = page.locator(
            '[id^="network-"][aria-label^="Outlet"], [id^="run-"][aria-label^="Outlet"]'
        ).last
        unfold = page.get_by_role("button", name="Unfold all")
        page.locator("svg [role=button]").first.wait_for()
        if unfold.count():
            unfold.click()
        node.click()
        page.locator("[aria-label=Sheet] .font-mono").first.wait_for()
        page.wait_for_timeout(1000)
        found: list[float] = page.evaluate(PAINT, [[8 + i % 23 for i in range(35)], pause_ms])
        page.close()
        return found[5:]

    def interactive(self, browser: Browser) -> float:
        """Until a step of Do can be used on a phone that has nothing of the program [s]."""
        context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
        taken = interactive_s(context, self.url, self.jobs["12 outlets"])
        context.close()
        return taken

    def outbox(self, browser: Browser) -> float:
        """Until a full outbox has been sent [s]."""
        context = browser.new_context(viewport={"width": 390, "height": 844})
        page = context.new_page()
        page.goto(f"{self.url}/jobs/{self.jobs['do']}/site/do")
        page.get_by_role("button", name="Back").wait_for()
        page.evaluate(
            FILL,
            [
                {
                    "job": self.jobs["do"],
                    "change": {"verb": "tick", "step": "site.entry", "note": f"note {n}"},
                }
                for n in range(ENTRIES)
            ],
        )
        start = time.perf_counter()
        page.reload()
        page.evaluate(EMPTY)
        taken = time.perf_counter() - start
        context.close()
        return taken

    def script_kb(self) -> float:
        """The script that every page loads, compressed [kB]."""
        web = self.root / "src/evtro/web"
        scripts = set(re.findall(r'"/(assets/[^"]+\.js)"', (web / "index.html").read_text()))
        return sum(len(gzip.compress((web / s).read_bytes())) for s in scripts) / 1000


def _built(commit: str, folder: Path) -> Path:
    """A work tree of a commit, its client built with its own packages, most of which are here."""
    root = folder / "before"
    subprocess.run(
        ["git", "worktree", "add", "--quiet", "--detach", str(root), commit], cwd=ROOT, check=True
    )
    shutil.copytree(ROOT / "web/node_modules", root / "web/node_modules", symlinks=True)
    subprocess.run(
        ["npm", "install", "--no-save", "--no-audit", "--no-fund", "--loglevel=error"],
        cwd=root / "web",
        check=True,
    )
    described = subprocess.run(
        [sys.executable, "-m", "evtro.cli", "openapi"],
        check=True,
        capture_output=True,
        cwd=folder,
        env={**os.environ, "PYTHONPATH": str(root / "src")},
    ).stdout
    (root / "web/openapi.json").write_bytes(described)
    subprocess.run(
        ["npm", "run", "build", "--silent"], cwd=root / "web", check=True, capture_output=True
    )
    return root


def _row(what: str, before: list[float], now: list[float], unit: str) -> None:
    a, b = (
        statistics.quantiles(f, n=20)[18] if len(f) > 19 else statistics.median(f)
        for f in (before, now)
    )
    print(f"{what:<64} {a:8.1f} {b:8.1f} {unit:<3} {b / a:5.0%}", flush=True)


def main() -> int:
    """Print the table: before, now, and now over before."""
    with tempfile.TemporaryDirectory(prefix="evtro-beside-") as name:
        folder = Path(name)
        root = _built(sys.argv[1], folder)
        sides = [Side("before", root, 8801, folder), Side("now", ROOT, 8802, folder)]
        try:
            with sync_playwright() as play:
                browser = play.chromium.launch(
                    executable_path="/usr/bin/chromium-headless-shell", args=FLAGS
                )
                for key, pause_ms in product(("12 outlets", "200 outlets"), (TYPING_MS, 0)):
                    found: list[list[float]] = [[], []]
                    for _ in range(ROUNDS):
                        for n, side in enumerate(sides):
                            found[n] += side.presses(browser, key, pause_ms)
                    pace = "as people type" if pause_ms else "Enter with the last digit"
                    _row(f"key press to paint at {key}, {pace}, p95", *found, "ms")
                    _row("  median", *([statistics.median(f)] for f in found), "ms")
                for what, measure, times in (
                    (f"Do interactive on a phone slowed {SLOWER} times", Side.interactive, 5),
                    (f"an outbox of {ENTRIES} entries sent", Side.outbox, 2),
                ):
                    found = [[], []]
                    for _ in range(times):
                        for n, side in enumerate(sides):
                            found[n].append(measure(side, browser))
                    _row(f"{what}, median of {times}", *found, "s")
                browser.close()
            _row("first script, compressed", *([s.script_kb()] for s in sides), "kB")
        finally:
            for side in sides:
                side.server.terminate()
                side.server.wait()
            subprocess.run(
                ["git", "worktree", "remove", "--force", str(root)], cwd=ROOT, check=False
            )
    return 0


if __name__ == "__main__":
    sys.exit(main())
