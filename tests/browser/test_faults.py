"""The screen under faults: what was not kept stays and says so, errors are no emptiness, other hands,
other devices, the passphrase."""

from __future__ import annotations

import json
import re
import sqlite3
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, Route, expect

from evtro.demo.world import demo_jobs, fern_cottage
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from tests.data import open_database
from tests.server import Server

from .conftest import imported, kept_job, on_this_device, remove

FULL = {
    "type": "about:blank",
    "title": "The disk is full",
    "status": 507,
    "code": "disk-full",
    "field": "",
    "detail": "there is no room left for it, so it was not kept.",
    "remedy": "Free some space.",
    "choices": [],
    "clashes": [],
}


@pytest.fixture
def job(page: Page) -> Iterator[str]:
    job_id = imported(page, "skerry-house")
    yield job_id
    remove(page, job_id)


def _fail(page: Page, answer: object = None) -> None:
    """Every write gets this answer, or none at all."""

    def fail(route: Route) -> None:
        if route.request.method == "GET":
            route.continue_()
        elif answer is None:
            route.abort()
        else:
            route.fulfill(
                status=int(answer["status"]),
                body=json.dumps(answer),  # type: ignore[index]
                content_type="application/problem+json",
            )

    page.route("**/api/jobs/**", fail)


@pytest.mark.parametrize(
    ("answer", "words"),
    [(FULL, "The disk is full"), (None, "No answer"), ({"status": 502}, "No answer in words")],
)
def test_what_was_not_kept_stays_and_is_sent_again(
    page: Page, job: str, answer: object, words: str
) -> None:
    page.goto(f"/jobs/{job}/site")
    field = page.get_by_label("Mount above ground, m")
    before = field.input_value()
    _fail(page, answer)
    field.fill("8.4")
    field.press("Enter")
    why = page.get_by_role("alert").filter(has_text="Try again").first
    expect(why).to_contain_text("Not kept")
    expect(page.get_by_role("alert").filter(has_text=words).first).to_be_visible()
    expect(field).to_have_value("8.4")
    expect(field).to_have_attribute("aria-invalid", "true")
    expect(page.get_by_text("not kept yet")).to_be_visible()
    # A choice and a tick too.
    leave = page.get_by_label("Leave", exact=True)
    leave.select_option("given")
    expect(leave).to_have_attribute("aria-invalid", "true")
    expect(leave).to_have_value("given")
    kept = kept_job(page, job)["site"]
    assert kept["mount_height_m"] == float(before)
    assert kept["consent"] != "given"
    page.unroute("**/api/jobs/**")
    page.get_by_label("Leave", exact=True).locator("xpath=..").get_by_role(
        "button", name="Try again"
    ).click()
    expect(leave).not_to_have_attribute("aria-invalid", "true")
    field.focus()
    field.press("Enter")
    expect(field).not_to_have_attribute("aria-invalid", "true")
    expect(page.get_by_role("alert")).to_have_count(0)
    kept = kept_job(page, job)["site"]
    assert (kept["mount_height_m"], kept["consent"]) == (8.4, "given")


def test_the_bar_above_sends_again_and_the_field_agrees(page: Page, job: str) -> None:
    page.goto(f"/jobs/{job}/site")
    field = page.get_by_label("Mount above ground, m")
    _fail(page, FULL)
    field.fill("8.4")
    field.press("Enter")
    expect(field).to_have_attribute("aria-invalid", "true")
    page.unroute("**/api/jobs/**")
    page.get_by_role("alert").filter(has_text="Not kept. The disk is full").get_by_role(
        "button", name="Try again"
    ).first.click()
    expect(field).not_to_have_attribute("aria-invalid", "true")
    expect(field).to_have_value("8.4")
    assert kept_job(page, job)["site"]["mount_height_m"] == 8.4


def test_two_hands_at_one_field_and_at_two(page: Page, job: str) -> None:
    page.goto(f"/jobs/{job}/site")
    field = page.get_by_label("Mount above ground, m")
    at = f"/api/jobs/{job}"
    expect(field).to_have_value("7.4")
    # Elsewhere in the job: let in, and the other's change is shown.
    page.request.post(
        f"{at}/changes",
        data={"verb": "set", "rows": "site", "values": {"height_m": "77 m"}},
        headers={"If-Match": "0"},
    )
    field.fill("8.4")
    with page.expect_response(lambda r: r.url.endswith("/changes")):
        field.press("Enter")
    expect(page.get_by_label("Ground above sea, m")).to_have_value("77.0")
    expect(page.get_by_role("alert")).to_have_count(0)
    # The other writes while this one types, and this window hears of it: what was typed saw the job
    # as it was when the typing began.
    field.fill("9.1")
    seen = page.request.get(at).json()["revision"]
    with page.expect_response(lambda r: r.request.method == "GET" and r.url.endswith(at)):
        page.request.post(
            f"{at}/changes",
            data={"verb": "set", "rows": "site", "values": {"mount_height_m": "5 m"}},
            headers={"If-Match": str(seen)},
        )
    expect(field).to_have_value("9.1")
    field.press("Enter")
    bar = page.get_by_role("alert").filter(has_text="Changed elsewhere").first
    expect(bar).to_contain_text("“5 m”")
    expect(bar).to_contain_text("“9.1 m”")
    expect(field).to_have_value("9.1")
    page.get_by_role("button", name="Send mine again").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    assert page.request.get(at).json()["job"]["site"]["mount_height_m"] == 9.1


def test_an_error_is_never_shown_as_emptiness(page: Page, job: str) -> None:
    wrong = {**FULL, "status": 500, "code": "fault", "title": "A fault of the program"}

    def fail(route: Route) -> None:
        route.fulfill(status=500, body=json.dumps(wrong), content_type="application/problem+json")

    page.route("**/api/jobs?**", fail)
    page.goto("/")
    expect(page.get_by_role("alert").filter(has_text="could not be read")).to_be_visible()
    expect(page.get_by_text("No jobs yet")).to_have_count(0)
    page.unroute("**/api/jobs?**")
    page.route(f"**/api/jobs/{job}", fail)
    page.goto(f"/jobs/{job}/site")
    expect(page.get_by_role("heading", level=1)).to_contain_text("does not open")
    expect(page.get_by_text("no such job", exact=False)).to_have_count(0)
    page.unroute(f"**/api/jobs/{job}")
    page.get_by_role("button", name="Open it again").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Site")
    page.goto("/jobs/none-of-these/site")
    expect(page.get_by_role("heading", level=1)).to_contain_text("No such job")


def test_a_page_that_cannot_be_read_says_so_and_is_read_again(page: Page, job: str) -> None:
    page.route("**/api/jobs/*/sheet", lambda route: route.abort())
    page.goto(f"/jobs/{job}/handover")
    bar = page.get_by_role("alert").filter(has_text="Not read")
    expect(bar).to_be_visible()
    page.unroute("**/api/jobs/*/sheet")
    bar.get_by_role("button", name="Read again").click()
    expect(bar).to_have_count(0)


def test_a_poisoned_job_stands_in_the_list_and_is_dealt_with(
    browser: Browser, tmp_path: Path
) -> None:
    """Seen, exported, removed and taken back through the screen; the rest of the list is whole."""
    jobs = Jobs(open_database(tmp_path / FILE_NAME))
    jobs.add(fern_cottage(), "fern-cottage")
    jobs.add(demo_jobs()["harrow-farm"].model_copy(update={"name": "Poisoned"}), "poisoned")
    jobs.close()
    with sqlite3.connect(tmp_path / FILE_NAME) as db:
        db.execute("UPDATE site SET height_m = 1e160 WHERE job = 'poisoned'")
    server = Server(tmp_path, "serve")
    context = browser.new_context(base_url=server.url, viewport={"width": 1280, "height": 800})
    page = context.new_page()
    try:
        page.goto("/")
        listed = page.get_by_role("region", name=re.compile("^Jobs, the newest"))
        row = listed.get_by_role("listitem").filter(has_text="Poisoned")
        expect(row).to_contain_text("does not open")
        expect(row).to_contain_text("too large")
        expect(page.get_by_role("link", name=fern_cottage().name, exact=True)).to_be_visible()
        row.get_by_role("link", name="Poisoned", exact=True).click()
        expect(page.get_by_role("heading", level=1)).to_contain_text("does not open")
        expect(page.get_by_role("alert")).to_contain_text("too large")
        with page.expect_download():
            page.get_by_role("link", name="Export it as it is").click()
        page.get_by_role("button", name="Remove it").click()
        expect(page).to_have_url(re.compile(r"/$"))
        expect(page.get_by_role("link", name=fern_cottage().name, exact=True)).to_be_visible()
        expect(row).to_have_count(0)
        page.get_by_text("Removed in the last thirty days").click()
        page.get_by_role("button", name="Take back Poisoned").click()
        expect(row).to_contain_text("does not open")
    finally:
        context.close()
        server.stop()


def test_an_unclean_stop_is_told_on_the_screen(browser: Browser, tmp_path: Path) -> None:
    first = Server(tmp_path, "serve")
    first.kill()
    server = Server(tmp_path, "serve")
    context = browser.new_context(base_url=server.url)
    page = context.new_page()
    try:
        page.goto("/")
        told = page.get_by_role("status").filter(has_text="was not closed")
        expect(told).to_contain_text("is whole")
        told.get_by_role("button", name="Read").click()
        expect(told).to_have_count(0)
        page.reload()
        expect(page.get_by_role("heading", level=1)).to_contain_text("Jobs")
        expect(told).to_have_count(0)
    finally:
        context.close()
        server.stop()


def test_each_device_has_its_own_theme_and_units(page: Page, phone: Page, job: str) -> None:
    page.goto(f"/jobs/{job}/site")
    on_this_device(phone, theme="sun", units="us")
    phone.goto(f"/jobs/{job}/site/do")
    expect(phone.locator("html")).to_have_attribute("data-theme", "sun")
    phone.get_by_role("button", name="Highest contrast, for the sun").click()
    expect(phone.locator("html")).not_to_have_attribute("data-theme", "sun")
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-theme", "day")
    expect(page.get_by_label("Mount above ground, m")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_label("Mount above ground, ft")).to_be_visible()
    other = page.context.new_page()  # another tab of the same device follows
    other.goto(f"/jobs/{job}/site")
    expect(other.get_by_label("Mount above ground, ft")).to_be_visible()
    other.close()


def test_a_thousand_jobs_are_a_short_page(page: Page, server: Server) -> None:
    """Rows of the window and no more; the search finds the last of them."""
    made = [f"House number {i}" for i in range(150)]
    ids = []
    for name in made:
        body = {"name": name, "place": "Row street", "profile": "europe"}
        ids.append(page.request.post("/api/jobs", data=body).json()["id"])
    try:
        page.goto("/")
        expect(page.get_by_role("link", name=made[-1], exact=True)).to_be_visible()
        assert page.evaluate("document.querySelectorAll('*').length") < 4000
        assert page.get_by_role("listitem").count() < 40
        page.get_by_label("Find by name or place").fill("number 77 row")
        expect(page.get_by_role("link", name="House number 77", exact=True)).to_be_visible()
        page.get_by_role("button", name="All jobs").click()
        expect(page.get_by_role("link", name=made[-1], exact=True)).to_be_visible()
        page.evaluate("window.scrollTo(0, document.body.scrollHeight / 2)")
        expect(
            page.get_by_role("link", name=re.compile("^House number (6|7|8)")).first
        ).to_be_visible()
        page.get_by_label("Worst state").select_option("broken")
        expect(page.get_by_text("No job is like this")).to_be_visible()
    finally:
        for job_id in ids:
            page.request.delete(f"/api/jobs/{job_id}", headers={"If-Match": "0"})


def _refused_late(browser: Browser, url: str, words: str) -> None:
    """What was asked before somebody came in, and is refused after that, is asked once more."""
    context = browser.new_context(base_url=url, ignore_https_errors=True, service_workers="block")
    page = context.new_page()
    page.set_default_timeout(30_000)
    held: list[Route] = []
    asked: list[str] = []

    def hold(route: Route) -> None:
        asked.append(route.request.url)
        # The first is refused and brings the page of the passphrase; the one that follows comes late.
        if len(asked) == 2:
            held.append(route)
        else:
            route.continue_()

    page.route(re.compile("/api/jobs/skerry-house$"), hold)
    with page.expect_event("request", lambda _: len(asked) == 1):  # the next one is held
        page.goto("/jobs/skerry-house/site")
    field = page.get_by_label("Passphrase", exact=True)
    expect(field).to_be_visible()
    refused = page.request.get("/api/jobs/skerry-house")
    assert refused.status == 401
    field.fill(words)
    with page.expect_request(re.compile("/api/jobs/skerry-house$")):
        page.get_by_role("button", name="Come in").click()
    expect(field).to_have_count(0)
    held[0].fulfill(status=401, content_type="application/problem+json", body=refused.body())
    expect(page.get_by_role("heading", name=re.compile("^Site, "))).to_be_attached()
    context.close()


def test_the_passphrase_page(browser: Browser, tmp_path: Path) -> None:
    """On the network, over HTTPS: asked for, refused, let in; what was typed stays when a session ends."""
    words = "gulls over the north jetty"
    (tmp_path / "words").write_text(words)
    server = Server(
        tmp_path / "data", "demo", "--host", "0.0.0.0", "--passphrase-file", str(tmp_path / "words")
    )
    # The test's browser takes the certificate unseen: that it holds is tested without a browser.
    context = browser.new_context(
        base_url=server.url,
        ignore_https_errors=True,
        viewport={"width": 390, "height": 844},
        has_touch=True,
    )
    page = context.new_page()
    page.set_default_timeout(30_000)
    try:
        page.goto("/jobs/fern-cottage/site")
        field = page.get_by_label("Passphrase", exact=True)
        expect(field).to_be_visible()
        assert page.request.get("/api/jobs").status == 401
        field.fill("not the one at all")
        page.get_by_role("button", name="Come in").click()
        expect(page.get_by_role("alert").filter(has_text="not the passphrase")).to_be_visible()
        field.fill(words)
        page.get_by_role("button", name="Come in").click()
        expect(page.get_by_role("heading", name=re.compile("^Site, "))).to_be_attached()
        assert page.evaluate("window.isSecureContext")
        assert page.evaluate("document.cookie") == ""  # no script reads it
        mount = page.get_by_label("Mount above ground, m")
        context.clear_cookies()
        mount.fill("7.7")
        mount.press("Enter")
        expect(field).to_be_visible()
        field.fill(words)
        page.get_by_role("button", name="Come in").click()
        expect(mount).to_have_value("7.7")
        page.get_by_role("button", name="Try again").first.click()
        expect(page.get_by_role("alert")).to_have_count(0)
        kept = page.request.get("/api/jobs/fern-cottage").json()
        assert kept["job"]["site"]["mount_height_m"] == 7.7
        _refused_late(browser, server.url, words)
    finally:
        context.close()
        server.stop()
