"""What the mast stands on, and what goes into the van, on the screens."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.world import skerry_house

from .conftest import copied


@pytest.fixture
def house(page: Page) -> Iterator[str]:
    yield from copied(page, skerry_house())


def _choose(page: Page, label: str, choice: str) -> None:
    with page.expect_response(lambda r: r.url.endswith("/changes")):
        page.get_by_label(label, exact=True).select_option(label=choice)


def _cure(page: Page, title: str) -> None:
    """Look at what the remedy of a problem does, and take it."""
    row = page.get_by_role("region", name="Problems").get_by_role("listitem").filter(has_text=title)
    row.get_by_role("button").last.click()
    with page.expect_response(lambda r: r.url.endswith("/changes")):
        row.get_by_role("button", name="Take it").click()


def test_each_mount_is_drawn_and_reckoned_as_what_it_is(page: Page, house: str) -> None:
    page.goto(f"{house}/mast")
    problems = page.get_by_role("region", name="Problems")
    _choose(page, "Bolts hold in", "hollow block")
    expect(problems).to_contain_text("The bolts are pulled out")
    _cure(page, "The bolts are pulled out")
    expect(problems).not_to_contain_text("The bolts are pulled out")
    _choose(page, "Fixed to", "flat roof, ballast")
    expect(page.get_by_text("turning over the edge")).to_be_visible()
    expect(problems).to_contain_text("The wind turns it over")
    expect(page.get_by_label("Bolts hold in")).to_have_count(0)
    _cure(page, "The wind turns it over")
    expect(problems).not_to_contain_text("The wind turns it over")
    _choose(page, "Fixed to", "loft")
    expect(page.get_by_role("link", name=re.compile("Mast"))).to_contain_text("out of the wind")
    _choose(page, "Fixed to", "pole in the ground")
    expect(page.get_by_text("moment at the ground")).to_be_visible()


def test_the_kit_and_its_cuts_follow_the_plan(page: Page, house: str) -> None:
    page.goto(f"{house}/site")
    page.get_by_role("button", name="+ Kit").click()
    kit = page.get_by_role("region", name="Kit")
    plates = kit.get_by_role("row", name=re.compile("^Wall plate"))
    expect(plates).to_contain_text("12")
    reels = kit.get_by_role("img", name=re.compile("^Reel of 7 mm"))
    expect(reels).to_have_count(3)
    listed = page.request.get(f"/api{house}/kit.csv").text()
    assert "Wall plate,,12" in listed
    # A drop of 90 m opens a reel more.
    page.goto(f"{house}/coax")
    page.locator("#network-p11").click()
    length = page.get_by_label("Cable that comes in").get_by_role("textbox").first
    with page.expect_response(lambda r: r.url.endswith("/changes")):
        length.fill("90")
        length.press("Enter")
    page.goto(f"{house}/site")
    page.get_by_role("button", name="+ Kit").click()
    expect(kit.get_by_role("img", name=re.compile("^Reel of 7 mm"))).to_have_count(4)
