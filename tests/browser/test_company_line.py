"""A house that keeps its company's line beside its own antenna, made through the screens."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from evtro.core.job import Outlet
from evtro.demo.block import sorrel_court

from .conftest import copied

ROOMS = (("Study", True, "none"), ("Den", False, "modem"), ("Attic", False, "television"))


@pytest.fixture
def house(page: Page) -> Iterator[str]:
    """An antenna, three outlets, and no run yet."""
    rooms = tuple(
        Outlet(id=f"o{n}", name=name, satellite=False, terrestrial=own)
        for n, (name, own, _) in enumerate(ROOMS, start=1)
    )
    job = sorrel_court().model_copy(update={"outlets": rooms, "parts": (), "links": ()})
    yield from copied(page, job)


def _kept(page: Page):  # type: ignore[no-untyped-def]
    return page.expect_response(lambda r: r.request.method == "POST" and "/changes" in r.url)


def _type(page: Page, label: str, text: str) -> None:
    field = page.get_by_role("textbox", name=label)
    with _kept(page):
        field.fill(text)
        field.press("Enter")


def _pick(page: Page, part: str, button: str, words: str) -> None:
    page.locator(
        "[id^=network-]", has=page.locator(f"xpath=self::*[contains(@aria-label,'{part}')]")
    ).first.click()
    page.get_by_role("complementary", name="Sheet").get_by_role(
        "button", name=re.compile(f"^{button}")
    ).click()
    box = page.get_by_role("dialog").get_by_role("combobox")
    box.fill(words)
    expect(page.get_by_role("dialog").get_by_role("option").first).to_contain_text(words)
    with _kept(page):
        box.press("Enter")


def test_a_line_is_put_on_read_split_and_its_noise_stopped(page: Page, house: str) -> None:
    page.goto(f"{house}/coax")
    line = page.get_by_role("region", name="Cable company's line")
    with _kept(page):
        line.get_by_label("Company's line", exact=True).select_option("both")
    _type(page, "Level at the lowest carrier", "74")
    _type(page, "Level at the highest carrier", "72,5")
    line.get_by_label("Spacing of the multiplexes").fill("0")
    line.get_by_role("button", name="Put them on").click()
    expect(line.get_by_role("alert")).to_contain_text("Bandwidth")
    line.get_by_label("Spacing of the multiplexes").fill("8")
    with _kept(page):
        line.get_by_role("button", name="Put them on").click()
    expect(line).to_contain_text("87 multiplexes on it, 114 to 802 MHz")
    page.goto(f"{house}/site")
    for name, _, wants in ROOMS[1:]:
        with _kept(page):
            page.get_by_label(f"{name} on the company's line").select_option(wants)
    page.goto(f"{house}/coax")
    _pick(page, "Company", "Add after", "Splitter, two ways")
    _pick(page, "two ways", "Branch", "Outlet: Den")
    _pick(page, "two ways", "Branch", "Outlet: Attic")
    back = page.get_by_role("table", name="Ways back to the drop")
    expect(back.get_by_role("row", name=re.compile("^Den"))).to_contain_text("OK")
    problem = page.get_by_role("listitem").filter(has_text="Noise of Attic goes back")
    expect(problem.first).to_contain_text("Fit a high pass behind")
    problem.first.get_by_role("button", name="Show fix").click()
    with _kept(page):
        problem.first.get_by_role("button", name="Take it").click()
    expect(back.get_by_role("row", name=re.compile("^Attic"))).to_contain_text("OK")
    expect(page.get_by_text("Noise of Attic goes back")).to_have_count(0)
    page.get_by_role("button", name="Powering and choice").click()
    expect(page.get_by_text("Nothing in this run takes power")).to_be_visible()
    # The own antenna joined to it is the one thing that may never be.
    page.get_by_role("button", name="its terminals").click()
    expect(page.get_by_role("region", name="Answer")).to_contain_text("of 3")
