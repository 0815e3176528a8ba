"""A figure is worked out while it is typed: nothing of it is kept before Enter, and nothing waits for it."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, Request, Route, expect

from .conftest import imported, kept_job, on_this_device, remove, revision_of, settled

LINK = "l28"


@pytest.fixture
def job(page: Page) -> Iterator[str]:
    job_id = imported(page, "skerry-house")
    yield job_id
    remove(page, job_id)


def _length(page: Page, job: str) -> Locator:
    part = next(k["to_part"] for k in kept_job(page, job)["links"] if k["id"] == LINK)
    page.goto(f"/jobs/{job}/coax")
    page.locator(f"#network-{part}").click()
    settled(page)
    return page.get_by_label("Cable length").first


def _kept(page: Page, job: str) -> float:
    return float(next(k["length_m"] for k in kept_job(page, job)["links"] if k["id"] == LINK))


def test_what_is_typed_is_worked_out_and_kept_with_enter(page: Page, job: str) -> None:
    asked: list[tuple[str, str]] = []

    def note(request: Request) -> None:
        if request.method == "POST":
            change = request.post_data_json
            asked.append((request.url.rsplit("/", 1)[1], change["values"]["length_m"]))

    length = _length(page, job)
    before = length.input_value()
    page.on("request", note)
    with page.expect_response("**/foreseen") as answer:
        length.fill("19")
    assert answer.value.status == 204
    with page.expect_response("**/foreseen"):
        length.press_sequentially("0")
    length.press("Escape")
    settled(page)
    expect(length).to_have_value(before)
    assert (revision_of(page, job), _kept(page, job)) == (0, float(before))
    with page.expect_response("**/foreseen"):
        length.fill("21")
    length.press("Enter")
    settled(page)
    assert (revision_of(page, job), _kept(page, job)) == (1, 21)
    assert asked == [
        ("foreseen", "19"),
        ("foreseen", "190"),
        ("foreseen", "21"),
        ("changes", "21"),
    ]


def test_nothing_waits_for_what_is_not_foreseen(page: Page, job: str) -> None:
    """Without an answer, and refused: Enter carries the change out, and a wrong one is said."""
    length = _length(page, job)
    held: list[Route] = []
    page.route("**/foreseen", lambda route: held.append(route))
    length.fill("21")
    length.press("Enter")
    expect(page.get_by_role("region", name="Answer")).not_to_contain_text("11 of 12")
    assert _kept(page, job) == 21
    for one in held:
        one.fulfill(status=500, body="")
    page.unroute("**/foreseen")
    length.fill("-4")
    expect(page.get_by_role("alert")).to_have_count(0)
    length.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("too small")
    assert _kept(page, job) == 21


@pytest.mark.parametrize(("units", "shown"), [("profile", "ft"), ("metric", "m")])
def test_a_job_comes_in_its_own_units(page: Page, units: str, shown: str) -> None:
    """With its first answer, whether or not the list of practice profiles comes."""
    on_this_device(page, units=units)
    job_id = imported(page, "larch-street")
    page.route("**/api/profiles", lambda route: route.abort())
    page.goto(f"/jobs/{job_id}/coax")
    settled(page)
    expect(page.get_by_label(re.compile(rf"^Cable length.*, {shown}$")).first).to_be_visible()
    remove(page, job_id)
