"""The real interface in Debian's Chromium, over a real server with demo data."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Locator, Page, expect, sync_playwright

from evtro.core.job import Job
from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import write_job
from tests.server import Server

# As patient as the page itself: a slower machine is no fault of the program.
expect.set_options(timeout=30_000)
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--process-per-site",
]


def on_this_device(page: Page, **values: str) -> None:
    """Set theme, units, level or north of the device that a page runs on, for every address after."""
    page.add_init_script(f"localStorage.setItem('evtro.settings', '{json.dumps(values)}')")


# Counts the answers that a page still waits for.
COUNTED = """
window.__asked = 0;
const ask = window.fetch;
window.fetch = (...it) => {
  window.__asked += 1;
  return ask(...it).finally(() => { window.__asked -= 1; });
};
"""
# Until nothing is asked for, the faces are there and nothing in the page has changed for a moment.
STANDS = """
() => new Promise((done, fail) => {
  const late = setTimeout(() => fail(new Error('the page does not come to rest')), 30000);
  let timer = 0;
  const watch = new MutationObserver(() => look());
  const look = () => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      // A page whose script is still on its way is an empty frame; while a face is on its way, another one
      // draws its words.
      const there = (document.querySelector('main')?.querySelectorAll('*').length ?? 0) > 1;
      if (!there || window.__asked || document.fonts.status !== 'loaded') return look();
      watch.disconnect();
      clearTimeout(late);
      requestAnimationFrame(() => requestAnimationFrame(() => done(true)));
    }, 60);
  };
  watch.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
  look();
})
"""
GO = """
(path) => {
  history.pushState(null, '', path);
  window.dispatchEvent(new PopStateEvent('popstate'));
}
"""


def settled(page: Page) -> None:
    """Wait until a page has all its answers and stands."""
    page.wait_for_load_state("load")
    page.evaluate(STANDS)


def go(page: Page, path: str) -> None:
    """Open another address in a page that is loaded, as its own links do, and wait until it stands."""
    page.evaluate(GO, path)
    settled(page)


# Asks for no answers: enough where only rows or the revision are read.
UNSHOWN = {"Evtro-Include": ""}


def kept_job(page: Page, job: str) -> Any:
    """A job as it is kept."""
    return page.request.get(f"/api/jobs/{job}", headers=UNSHOWN).json()["job"]


def revision_of(page: Page, job: str) -> int:
    """The revision of a job."""
    return int(page.request.get(f"/api/jobs/{job}", headers=UNSHOWN).json()["revision"])


def remove(page: Page, job: str) -> None:
    """Take a test's own job off the list again."""
    answer = page.request.get(f"/api/jobs/{job}", headers=UNSHOWN)
    if answer.ok:
        seen = str(answer.json()["revision"])
        page.request.delete(f"/api/jobs/{job}", headers={"If-Match": seen})


def imported(page: Page, job: Job | str) -> str:
    """The id of a copy of a job, or of a demo job by its name."""
    made = page.request.post(
        "/api/jobs/import",
        data=write_job(demo_jobs()[job] if isinstance(job, str) else job),
        headers={"content-type": "application/json", **UNSHOWN},
    )
    return str(made.json()["id"])


def copied(page: Page, job: Job | str) -> Iterator[str]:
    """The address of a copy of a job, taken off the list afterwards."""
    job_id = imported(page, job)
    yield f"/jobs/{job_id}"
    remove(page, job_id)


# What is too small for a thumb: buttons that are seen and under 43.5 pixels high.
SMALL = """
() => [...document.querySelectorAll('button, [role=button]')]
  .map((b) => [b.innerText, b.getBoundingClientRect()])
  .filter(([, box]) => box.width && box.height < 43.5).map(([text]) => text)
"""


def fits_a_phone(page: Page) -> None:
    """Nothing runs over the side, and every button is as large as a thumb."""
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    assert page.evaluate(SMALL) == []


def open_gates(page: Page, job: str, station: str | None = None) -> None:
    """Confirm the gates of a job in the order of the work, up to those of a station."""
    view = page.request.get(f"/api/jobs/{job}").json()
    revision = view["revision"]
    for key, steps in view["answers"]["steps"].items():
        if key == station:
            return
        for step in (s for s in steps if s["danger"]):
            tick = {"verb": "tick", "step": step["key"], "danger_read": True, "by": "A. Mender"}
            done = page.request.post(
                f"/api/jobs/{job}/changes", data=tick, headers={"If-Match": str(revision)}
            )
            assert done.ok, done.text()
            revision = done.json()["revision"]


def look_at_each(here: Locator, step: dict[str, Any]) -> None:
    """Say of each thing of a step that it is as it should be, all at once where they are several."""
    things = step["things"]
    if not things or all(t["state"] in t["good"] for t in things):
        return
    good = things[0]["good"][-1]
    if len(things) > 1:
        here.get_by_role("button", name=f"All {good}").click()
    else:
        here.get_by_role("button", name=good, exact=True).click()


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    made = Server(tmp_path_factory.mktemp("browser"))
    yield made
    made.stop()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as play:
        made = play.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=FLAGS)
        yield made
        made.close()


DESK: dict[str, Any] = {"viewport": {"width": 1280, "height": 800}, "accept_downloads": True}
PHONE: dict[str, Any] = {
    "viewport": {"width": 390, "height": 844},
    "has_touch": True,
    "is_mobile": True,
}


def _device(browser: Browser, server: Server, kind: dict[str, Any]) -> BrowserContext:
    made = browser.new_context(base_url=server.url, **kind)
    made.set_default_timeout(30_000)
    made.add_init_script(COUNTED)
    # It stays open, so that the process that has compiled the program stays, too.
    made.new_page().goto("/api/health")
    return made


@pytest.fixture(scope="session")
def at_the_desk(browser: Browser, server: Server) -> BrowserContext:
    return _device(browser, server, DESK)


@pytest.fixture(scope="session")
def in_the_hand(browser: Browser, server: Server) -> BrowserContext:
    return _device(browser, server, PHONE)


def _lent(device: BrowserContext, server: Server) -> Iterator[Page]:
    """A page of a device on which nothing is kept but the program itself, loaded and compiled."""
    made = device.new_page()
    tools = device.new_cdp_session(made)
    tools.send("Storage.clearDataForOrigin", {"origin": server.url, "storageTypes": "all"})
    tools.detach()
    yield made
    device.set_offline(False)
    for each in device.pages[1:]:
        each.close()


@pytest.fixture
def page(at_the_desk: BrowserContext, server: Server) -> Iterator[Page]:
    lent = _lent(at_the_desk, server)
    made = next(lent)
    wrong: list[str] = []
    made.on("pageerror", lambda error: wrong.append(str(error)))
    made.on(
        "console", lambda m: wrong.append(m.text) if "Content Security Policy" in m.text else None
    )
    made.on(
        "request",
        lambda r: (
            None
            if r.url.startswith((server.url, "data:", "blob:"))
            else wrong.append(f"asked outside: {r.url}")
        ),
    )
    yield made
    next(lent, None)
    assert not wrong


@pytest.fixture
def phone(in_the_hand: BrowserContext, server: Server) -> Iterator[Page]:
    yield from _lent(in_the_hand, server)


@pytest.fixture(scope="session")
def axe() -> str:
    root = Path(__file__).parents[2]
    return (root / "web/node_modules/axe-core/axe.min.js").read_text()
