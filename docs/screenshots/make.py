"""Pictures of every main view from the demo data, into the folder of this file or another."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

PORT = 8797
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
JOB = "/jobs/skerry-house"
DESK, TALL, PHONE = (1280, 800), (1280, 1080), (390, 844)
VIEWS: dict[str, tuple[str, tuple[int, int], str]] = {
    "jobs": ("/", DESK, "day"),
    "site": (f"{JOB}/site", DESK, "day"),
    "sky": (f"{JOB}/sky", DESK, "day"),
    "aim": (f"{JOB}/aim", DESK, "day"),
    "mast": (f"{JOB}/mast", DESK, "day"),
    "earth": (f"{JOB}/earth", DESK, "day"),
    "coax": (f"{JOB}/coax", DESK, "day"),
    "parts": ("/parts?shelf=part&key=amp-house-20", DESK, "day"),
    "readings": (f"{JOB}/readings", DESK, "day"),
    "handover": (f"{JOB}/handover", DESK, "day"),
    "way": ("/jobs/harrow-farm/sky?page=ways", TALL, "day"),
    "day": ("/day/2026-04-14", TALL, "day"),
    "trial": ("/jobs/harrow-farm/aim?page=trial", (1280, 1240), "day"),
    "step-phone": (f"{JOB}/mast/do?step=mast.plumb", PHONE, "day"),
    "link": (f"{JOB}/sky?page=link", TALL, "day"),
    "several": ("/jobs/alder-terrace/aim", TALL, "day"),
    "two-way": ("/jobs/tern-hut/aim?page=twoway", TALL, "day"),
    "design": ("/jobs/marten-lodge/coax", TALL, "day"),
    "peak-do-phone": ("/jobs/tern-hut/aim/do", PHONE, "day"),
}


def _rain(page: Page) -> None:
    page.get_by_text("ITU-R P.837").wait_for(timeout=60_000)


def _remedy(page: Page) -> None:
    page.get_by_label("Raise the mount").first.check()
    page.get_by_text("with the remedy tried").wait_for()


def _peak(page: Page) -> None:
    """The list of steps stands on the desk only: go to the step there, then look on the phone."""
    page.set_viewport_size({"width": DESK[0], "height": DESK[1]})
    page.get_by_text("Find both falling edges").first.click()
    page.set_viewport_size({"width": PHONE[0], "height": PHONE[1]})
    page.get_by_role("tablist", name="Axis").scroll_into_view_if_needed()


def _hill(page: Page) -> None:
    page.get_by_role("tab", name="Cold Brae").click()
    page.get_by_text("Over an edge at").wait_for()


def _amplified(page: Page) -> None:
    page.get_by_label("Judged").select_option("preamplifier")
    page.get_by_text("beside the main lobe: a real pattern").wait_for()


def _design(page: Page) -> None:
    page.get_by_role("button", name="Design this run").click()
    page.get_by_text("Where the 5 outlets hang").wait_for()
    page.get_by_role("button", name="Design", exact=True).click()
    page.get_by_role("button", name="Take plan A").wait_for(timeout=60_000)


FIRST: dict[str, Callable[[Page], None]] = {
    "link": _rain,
    "sky": _remedy,
    "peak-do-phone": _peak,
    "way": _hill,
    "design": _design,
}


def main(folder: Path, names: list[str]) -> None:
    """Take the pictures named, or all."""
    with tempfile.TemporaryDirectory() as data, sync_playwright() as play:
        server = subprocess.Popen(
            [sys.executable, "-m", "evtro.cli", "demo", "--port", str(PORT)],
            env={**os.environ, "EVTRO_DATA": data},
            stdout=subprocess.DEVNULL,
        )
        try:
            _wait()
            browser = play.chromium.launch(
                executable_path="/usr/bin/chromium-headless-shell", args=FLAGS
            )
            for name in names or list(VIEWS):
                path, (width, height), theme = VIEWS[name]
                page = browser.new_page(
                    viewport={"width": width, "height": height},
                    color_scheme="dark" if theme == "night" else "light",
                )
                page.goto(f"http://127.0.0.1:{PORT}{path}")
                page.wait_for_load_state("networkidle")
                page.evaluate("document.fonts.ready")
                if name in FIRST:
                    FIRST[name](page)
                    page.wait_for_load_state("networkidle")
                    page.wait_for_timeout(300)
                page.screenshot(path=folder / f"{name}.png")
                page.close()
            browser.close()
        finally:
            server.terminate()
            server.wait()


def _wait() -> None:
    for _ in range(100):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/health", timeout=1)
            return
        except OSError:
            time.sleep(0.1)
    raise SystemExit("the demo did not start")


if __name__ == "__main__":
    out = Path(os.environ.get("SHOTS", Path(__file__).parent))
    out.mkdir(parents=True, exist_ok=True)
    main(out, sys.argv[1:])
