"""Two browsers on one job: each sees the other's changes, and a page asks for no more than it shows."""

from __future__ import annotations

import json
import urllib.request
from collections.abc import Iterator
from functools import partial

import pytest
from playwright.sync_api import Browser, Page, Request, expect

from tests.server import Server

from .conftest import COUNTED, imported, remove, revision_of, settled


@pytest.fixture
def job(page: Page) -> Iterator[str]:
    job_id = imported(page, "skerry-house")
    yield job_id
    remove(page, job_id)


def test_two_browsers_see_each_others_changes(
    browser: Browser, server: Server, page: Page, job: str
) -> None:
    """The event stream tells the other page, which then asks once for what changed; nobody touches it."""
    context = browser.new_context(base_url=server.url, viewport={"width": 1280, "height": 800})
    context.add_init_script(COUNTED)
    other = context.new_page()
    page.goto(f"/jobs/{job}/site")
    other.goto(f"/jobs/{job}/coax")
    settled(page)
    settled(other)
    asked: dict[Page, list[str]] = {page: [], other: []}

    def note(of: Page, request: Request) -> None:
        if request.url.endswith(f"/api/jobs/{job}"):
            asked[of].append(request.method)

    for one in asked:
        one.on("request", partial(note, one))
    name = page.get_by_label("Name of Lounge")
    name.fill("Snug")
    name.press("Enter")
    expect(other.locator("main")).to_contain_text("Snug")
    settled(other)
    assert (asked[page], asked[other]) == ([], ["GET"])
    other.get_by_label("Snug", exact=False).first.click()
    length = other.get_by_label("Cable length").first
    stations = page.get_by_role("navigation", name="Stations")
    before = stations.inner_text()
    length.fill("190")
    length.press("Enter")
    expect(stations).not_to_have_text(before, use_inner_text=True)
    settled(page)
    assert (asked[page], asked[other]) == (["GET"], ["GET"])
    context.close()


def test_a_page_asks_for_what_it_shows(page: Page, job: str) -> None:
    """Site does not fetch Coax; opened there, the run is asked for once."""
    asked: list[str] = []

    def note(request: Request) -> None:
        if request.url.endswith((f"/api/jobs/{job}", f"/api/jobs/{job}/changes")):
            asked.append(request.headers.get("evtro-include", "everything"))

    page.on("request", note)
    with page.expect_response(f"**/api/jobs/{job}") as opened:
        page.goto(f"/jobs/{job}/site")
    settled(page)
    name = page.get_by_label("Name of Lounge")
    name.fill("Snug")
    with page.expect_response("**/changes") as changed:
        name.press("Enter")
    settled(page)
    assert asked == ["site", "site"]
    for answer in (opened.value, changed.value):
        assert set(answer.json()["answers"]) == {"stations", "outlets", "site"}
    page.get_by_role("link", name="Coax").first.click()
    settled(page)
    assert asked == ["site", "site", "coax,aim,stock"]
    page.get_by_role("link", name="Site").first.click()
    settled(page)
    assert len(asked) == 3, "what is known of this revision is not asked for again"


def test_the_stream_tells_a_revision_and_the_end(page: Page, server: Server, job: str) -> None:
    """Named events, read as any client would."""
    with urllib.request.urlopen(f"{server.url}/api/jobs/{job}/events?seen=0", timeout=10) as stream:
        assert stream.headers["content-type"].startswith("text/event-stream")

        def event() -> tuple[str, dict[str, object]]:
            name = ""
            while True:
                line = stream.readline().decode().strip()
                if line.startswith("event: "):
                    name = line.removeprefix("event: ")
                if line.startswith("data: "):
                    return name, json.loads(line.removeprefix("data: "))

        # Whoever comes in is told at once who is alone there, and what other devices keep back.
        assert event() == ("watch", {"alone": None, "held_back": [], "every_min": 30})
        revision = revision_of(page, job)
        change = {"verb": "set", "rows": "outlets", "id": "o1", "values": {"name": "Snug"}}
        page.request.post(
            f"/api/jobs/{job}/changes", data=change, headers={"If-Match": str(revision)}
        )
        assert event() == ("revision", {"revision": revision + 1})
        remove(page, job)
        assert event() == ("gone", {})
    assert page.request.get(f"/api/jobs/{job}/events").status == 404
