"""A branch once more by a key, led from elsewhere by the pointer, a route typed stretch by stretch."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, expect

from evtro.demo.line import plover_cottage

from .conftest import copied


@pytest.fixture
def cottage(page: Page) -> Iterator[str]:
    yield from copied(page, plover_cottage())


def _kept(page: Page):  # type: ignore[no-untyped-def]
    return page.expect_response(lambda r: r.request.method == "POST" and "/changes" in r.url)


def _pick(page: Page, key: str, words: str) -> None:
    page.keyboard.press(key)
    box = page.get_by_role("dialog").get_by_role("combobox")
    box.fill(words)
    expect(page.get_by_role("dialog").get_by_role("option").first).to_contain_text(words)
    with _kept(page):
        box.press("Enter")


def _middle(one: Locator) -> tuple[float, float]:
    box = one.bounding_box()
    assert box is not None
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def test_copy_lead_and_route(page: Page, cottage: str) -> None:
    page.goto(f"{cottage}/coax")
    splitter, kitchen = page.locator("#network-p3"), page.locator("#network-p4")
    splitter.click()
    _pick(page, "r", "Splitter, four ways")
    kitchen.click()
    _pick(page, "c", "Copy to: Own splitter, output 3")
    expect(page.get_by_role("region", name="Answer")).to_contain_text("of 6")
    expect(page.get_by_role("button", name=re.compile("^Outlet Kitchen 2"))).to_be_visible()
    # The pointer takes the parlour and drops it on the splitter of the company's line: none is free.
    for onto, said in (("#network-p11", "no free output"), ("#network-p3", "")):
        x, y = _middle(page.locator("#network-p5"))
        to_x, to_y = _middle(page.locator(onto))
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x - 30, y + 4)
        page.mouse.move(to_x, to_y)
        with _kept(page):
            page.mouse.up()
        if said:
            expect(page.get_by_role("alert")).to_contain_text(said)
    expect(page.get_by_role("alert")).to_have_count(0)
    lead = page.request.get(f"/api{cottage}").json()["job"]["links"]
    assert next(k["from_port"] for k in lead if k["to_part"] == "p5") == 3
    # Its cable stretch by stretch: the sum is its length.
    page.locator("#network-p5").click()
    page.get_by_role("button", name="route of this cable").click()
    with _kept(page):
        page.get_by_role("button", name="Add stretch").click()
    with _kept(page):
        page.get_by_role("button", name="Add stretch").click()
    length = page.get_by_label(re.compile("^Stretch 2 length"))
    with _kept(page):
        length.fill("2,5")
        length.press("Enter")
    expect(page.get_by_label(re.compile("^Cable length"))).to_have_value("13.5")
    expect(page.get_by_role("complementary", name="Sheet")).to_contain_text("clips")


def test_powering_and_choice_of_a_house_with_a_switch(page: Page, axe: str) -> None:
    page.goto("/jobs/skerry-house/coax")
    page.get_by_role("button", name="Powering and choice").click()
    tables = page.get_by_role("region", name="Powering and choice")
    expect(
        tables.get_by_role("row", name=re.compile("^LNB takes 180 mA from Multiswitch"))
    ).to_contain_text("14.0 V")
    expect(tables.get_by_role("row", name=re.compile("^Multiswitch gives 14 V"))).to_contain_text(
        "240 mA"
    )
    expect(tables.get_by_role("row", name=re.compile("^all 12 outlets"))).to_contain_text("4 of 4")
    page.evaluate(axe)
    found = page.evaluate("axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag22aa']})")
    assert not [(v["id"], v["nodes"][0]["html"]) for v in found["violations"]]
