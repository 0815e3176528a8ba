"""The designer as an installer uses it: a wish in a sentence, two plans compared, one taken and undone."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.world import skerry_house

from .conftest import copied


@pytest.fixture
def skerry(page: Page) -> Iterator[str]:
    yield from copied(page, skerry_house())


def test_a_design_is_wished_for_compared_taken_and_undone(page: Page, skerry: str) -> None:
    page.goto(f"{skerry}/coax")
    expect(page.get_by_role("region", name="Answer")).to_contain_text("11 of 12")
    page.get_by_role("button", name="Design this run").click()
    field = page.get_by_label("Reserve, dB")
    field.fill("much")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Reserve")
    with page.expect_response(lambda r: r.url.endswith("/designs/options") and r.status == 200):
        field.fill("2,5")
        field.press("Enter")
    page.get_by_text("Where the 12 outlets hang").click()
    expect(page.get_by_label("Drop to Garden room, m")).to_be_visible()
    page.get_by_role("button", name="Design", exact=True).click()
    sheet = page.get_by_role("complementary", name="Sheet")
    expect(sheet).to_contain_text("12 of 12 outlets in")
    expect(sheet).to_contain_text("coax")
    table = page.get_by_role("row", name=re.compile("outlets in"))
    expect(table).to_contain_text("11 of 12")
    expect(table).to_contain_text("12 of 12")
    expect(page.get_by_role("row", name=re.compile("^proof"))).to_contain_text("optimal")
    # Another point of the curve becomes B.
    curve = page.get_by_role("region", name="Cost against reserve")
    points = curve.get_by_role("button")
    assert points.count() >= 3
    points.first.click()
    expect(points.first).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("region", name="Plan B")).to_be_visible()
    sheet.get_by_role("button", name="Take plan A").click()
    page.get_by_role("button", name="Back to the run").click()
    expect(page.get_by_role("region", name="Answer")).to_contain_text("12 of 12")
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(page.get_by_role("region", name="Answer")).to_contain_text("11 of 12")
