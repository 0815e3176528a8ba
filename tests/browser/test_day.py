"""The page of a day: jobs put on it, what cannot be so, the order that is better, what goes into the van."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from .conftest import on_this_device

DATE = "2026-05-19"


@pytest.fixture
def day(page: Page) -> Iterator[Page]:
    """A day of this test's own."""
    page.request.delete(f"/api/days/{DATE}")
    page.goto(f"/day/{DATE}")
    expect(page.get_by_text("No job on this day yet")).to_be_visible()
    yield page
    page.request.delete(f"/api/days/{DATE}")


def _plan(page: Page) -> dict[str, object]:
    found: dict[str, object] = page.request.get(f"/api/days/{DATE}").json()["day"]
    return found


def _add(page: Page, name: str) -> None:
    with page.expect_response(lambda r: r.request.method == "PUT"):
        page.get_by_label("Add a job to the day").select_option(label=name)
    expect(
        page.get_by_role("region", name="Visits").get_by_role("link", name=name.partition(",")[0])
    ).to_be_visible()


def test_a_day_is_planned_by_hand(day: Page) -> None:
    for name in ("Kittiwake Van, Port Averil", "Marten Lodge, Sorrel Head"):
        _add(day, name)
    answer = day.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("2 jobs")
    # A road that nobody typed is a guess, and says so; typed as people do it is taken.
    road = day.get_by_label("Road to Marten Lodge, min")
    expect(road).to_have_value("")
    expect(road).to_have_attribute("placeholder", re.compile("^about"))
    road.fill("1 h 10")
    with day.expect_response(lambda r: r.request.method == "PUT"):
        road.press("Enter")
    expect(road).to_have_value("70")
    before = answer.inner_text()
    leave = day.get_by_label("Leave at")
    leave.fill("half past six")
    leave.press("Enter")
    expect(day.get_by_role("alert")).to_contain_text("no time of the day")
    leave.fill("6.30")
    with day.expect_response(lambda r: r.request.method == "PUT"):
        leave.press("Enter")
    expect(leave).to_have_value("06:30")
    expect(answer).not_to_have_text(before, use_inner_text=True)
    # Alone at height is said; with a second person the work is shared and shorter.
    expect(answer).to_contain_text("Alone at height")
    alone = float(str(_plan(day)["work_min"]))
    with day.expect_response(lambda r: r.request.method == "PUT"):
        day.get_by_role("button", name="One more person").click()
    expect(answer).not_to_contain_text("Alone at height")
    assert float(str(_plan(day)["work_min"])) < alone
    # What goes into the van follows, and what is not yet sure is asked.
    expect(day.get_by_role("region", name="Into the van")).to_contain_text("compass")
    expect(day.get_by_role("region", name="Not yet sure")).to_contain_text("no forecast")
    with day.expect_response(lambda r: r.request.method == "PUT"):
        day.get_by_role("button", name="Take Kittiwake Van off the day").click()
    expect(answer).to_contain_text("1 job")


def test_wind_in_the_afternoon_puts_the_roofs_first(day: Page) -> None:
    for name in (
        "Kittiwake Van, Port Averil",
        "Plover Cottage, Sorrel Head",
        "Marten Lodge, Sorrel Head",
    ):
        _add(day, name)
    day.get_by_role("button", name="One more person").click()
    table = "time,wind_ms,gust_ms\n05:00,3,4\n11:00,5,7\n13:00,12,15\n22:00,12,15\n"
    with day.expect_response(lambda r: "/forecast" in r.url):
        day.get_by_label("Forecast file").set_input_files(
            {"name": "wind.csv", "mimeType": "text/csv", "buffer": table.encode()}
        )
    visits = day.get_by_role("region", name="Visits")
    expect(visits).to_contain_text("at height while the wind is over 10 m/s")
    before = float(str(_plan(day)["clash_min"]))
    with day.expect_response(lambda r: r.request.method == "PUT"):
        day.get_by_role("button", name="Put the roofs first").click()
    expect(visits.get_by_role("row").nth(1)).to_contain_text("Marten Lodge")
    assert float(str(_plan(day)["clash_min"])) < before - 30
    # A crew that may go up in more wind has its own rule, in its own units.
    on_this_device(day, units="us")
    day.reload()
    limit = day.get_by_label("No work at height over")
    expect(limit).to_have_value("22")
    limit.fill("45")
    with day.expect_response(lambda r: r.request.method == "PUT"):
        limit.press("Enter")
    expect(visits).not_to_contain_text("wind")
    with day.expect_response(lambda r: "/forecast" in r.url):
        day.get_by_label("Forecast file").set_input_files(
            {"name": "wind.csv", "mimeType": "text/csv", "buffer": b"time,wind_ms\nnoon,3\n"}
        )
    expect(day.get_by_role("alert")).to_contain_text("no time of the day")


def test_two_plan_one_day(day: Page) -> None:
    _add(day, "Marten Lodge, Sorrel Head")
    day.request.put(f"/api/days/{DATE}", data={"starts": "9:00"}, headers={"If-Match": "1"})
    leave = day.get_by_label("Leave at")
    leave.fill("6:00")
    leave.press("Enter")
    expect(day.get_by_role("alert").first).to_be_visible()
    leave.fill("6:00")
    with day.expect_response(lambda r: r.request.method == "PUT" and r.ok):
        leave.press("Enter")
    expect(leave).to_have_value("06:00")


def test_the_demo_opens_at_its_day(page: Page) -> None:
    page.goto("/")
    page.get_by_role("navigation", name="Places", exact=True).get_by_role(
        "link", name="Day"
    ).click()
    expect(page).to_have_url(re.compile(r"/day/\d{4}-\d\d-\d\d$"))
    picture = page.get_by_role("img", name=re.compile("^The day: Kittiwake Van at"))
    expect(picture).to_be_visible()
    expect(page.get_by_role("button", name="Put the roofs first")).to_be_visible()
