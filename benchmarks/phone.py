"""Do on a phone that is four times slower, and an outbox of 500 entries that finds the network again."""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
import time

import httpx
from playwright.sync_api import BrowserContext, sync_playwright

Row = tuple[str, str, str]
PORT = 8794
SLOWER = 4
ENTRIES = 500
BASE = f"http://127.0.0.1:{PORT}"
FILL = """
(rows) => new Promise((done) => {
  const asked = indexedDB.open('evtro');
  asked.onsuccess = () => {
    const turn = asked.result.transaction('outbox', 'readwrite');
    for (const row of rows)
      turn.objectStore('outbox').add({ ...row, key: crypto.randomUUID(), at: Date.now() });
    turn.oncomplete = () => { asked.result.close(); done(); };
  };
})
"""
EMPTY = """
() => new Promise((done) => {
  const asked = indexedDB.open('evtro');
  asked.onsuccess = () => {
    const look = () => {
      const count = asked.result.transaction('outbox').objectStore('outbox').count();
      count.onsuccess = () => count.result ? setTimeout(look, 10) : (asked.result.close(), done());
    };
    look();
  };
})
"""


# The first frame in which the step can be worked with, by the page's own clock: to look for it from outside
# costs a slowed page more than what is looked for.
WATCHED = """
const look = () => {
  const back = [...document.querySelectorAll('main section button')].find((b) => b.textContent === 'Back');
  if (back) setTimeout(() => { window.__stands = performance.now(); }, 0);
  else requestAnimationFrame(look);
};
requestAnimationFrame(look);
"""
STANDS = """
() => new Promise((done) => {
  const look = () => (window.__stands ? done(window.__stands) : setTimeout(look, 200));
  look();
})
"""


def interactive_s(context: BrowserContext, base: str = BASE, job: str = "skerry-house") -> float:
    """Until a step of Do can be used by a device that has nothing of the program [s]."""
    page = context.new_page()
    page.add_init_script(WATCHED)
    slow = context.new_cdp_session(page)
    # The browser itself runs already; nothing of the program is in it.
    page.goto(f"{base}/api/health")
    slow.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    page.goto(f"{base}/jobs/{job}/mast/do", wait_until="commit")
    taken = float(page.evaluate(STANDS)) / 1000
    page.close()
    return taken


def phone(flags: list[str]) -> list[Row]:
    """Both, in one run of the demo."""
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as play:
        server = subprocess.Popen(
            [sys.executable, "-m", "evtro.cli", "demo", "--port", str(PORT)],
            env={"EVTRO_DATA": folder, "PATH": "/usr/bin:/bin", "HOME": folder},
            stdout=subprocess.DEVNULL,
        )
        while True:
            try:
                httpx.get(f"{BASE}/api/health", timeout=5)
                break
            except httpx.HTTPError:
                time.sleep(0.05)
        chromium = play.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=flags
        )
        size = {"width": 390, "height": 844}
        opened = [
            interactive_s(chromium.new_context(viewport=size, has_touch=True)) for _ in range(5)
        ]
        page = chromium.new_page(viewport=size)
        page.goto(f"{BASE}/jobs/fern-cottage/site/do")
        page.get_by_role("button", name="Back").wait_for()
        rows = [
            {
                "job": "fern-cottage",
                "change": {"verb": "tick", "step": "site.entry", "note": f"note {n}"},
            }
            for n in range(ENTRIES)
        ]
        page.evaluate(FILL, rows)
        start = time.perf_counter()
        page.reload()
        page.evaluate(EMPTY)
        sent = time.perf_counter() - start
        chromium.close()
        server.terminate()
        server.wait()
    return [
        (
            f"Do interactive on a phone slowed {SLOWER} times, worst of 5",
            "1.5 s",
            f"{max(opened):.2f} s",
        ),
        ("  median", "", f"{statistics.median(opened):.2f} s"),
        (f"an outbox of {ENTRIES} entries sent", "10 s", f"{sent:.1f} s"),
    ]


if __name__ == "__main__":
    print(*phone(["--no-sandbox", "--disable-gpu"]), sep="\n")
