"""A run for twelve outlets laid by keyboard alone: no click, no pointer."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from evtro.core.job import Outlet
from evtro.demo.block import sorrel_court

from .conftest import copied


@pytest.fixture
def bare(page: Page) -> Iterator[str]:
    """The block's antenna, twelve outlets, and no run yet."""
    rooms = tuple(Outlet(id=f"o{n}", name=f"Room {n:02}", satellite=False) for n in range(1, 13))
    job = sorrel_court().model_copy(update={"outlets": rooms, "parts": (), "links": ()})
    yield from copied(page, job)


def _tab_to(page: Page, what: str) -> None:
    """Press Tab until the focus is where it is wanted."""
    for _ in range(80):
        page.keyboard.press("Tab")
        if page.evaluate("s => document.activeElement?.matches(s)", what):
            return
    raise AssertionError(f"Tab never came to {what}")


def _pick(page: Page, key: str, words: str) -> None:
    """Open the box by its key, type, take the first."""
    page.keyboard.press(key)
    box = page.get_by_role("dialog").get_by_role("combobox")
    expect(box).to_be_focused()
    page.keyboard.type(words)
    expect(page.get_by_role("dialog").get_by_role("option").first).to_contain_text(
        re.compile(re.escape(words), re.I)
    )
    with page.expect_response(lambda r: r.request.method == "POST" and "/changes" in r.url):
        page.keyboard.press("Enter")
    expect(box).to_have_count(0)


def test_twelve_outlets_by_keyboard_alone(page: Page, bare: str) -> None:
    page.goto(f"{bare}/coax")
    expect(page.get_by_role("button", name="its terminals")).to_be_visible()
    _tab_to(page, "button.plain-button")
    while page.evaluate("document.activeElement.textContent") != "its terminals":
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.locator("#network-p1")).to_be_visible()
    _tab_to(page, "#network-p1")
    _pick(page, "a", "Grounding block")
    page.keyboard.press("ArrowRight")
    _pick(page, "a", "House amplifier 20")
    page.keyboard.press("ArrowRight")
    _pick(page, "a", "Splitter, two ways")
    splitter = page.locator(
        "[id^=network-]", has=page.locator("xpath=self::*[contains(@aria-label,'two ways')]")
    )
    expect(splitter.first).to_be_visible()
    page.keyboard.press("ArrowRight")
    number = 1
    for _ in range(2):
        _pick(page, "b", "Splitter, six ways")
        page.keyboard.press("ArrowRight")
        for _ in range(6):
            _pick(page, "b", f"Room {number:02}")
            number += 1
        page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("button", name=re.compile("^Outlet Room"))).to_have_count(12)
    answer = page.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("0 of 12")  # too loud
    # Back to the amplifier, into its sheet, to its knob.
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Enter")
    _tab_to(page, "input:is([id]):not([type])")
    while not page.evaluate(
        "document.activeElement.labels?.[0]?.textContent?.startsWith('Setting')"
    ):
        page.keyboard.press("Tab")
    page.keyboard.type("15")
    page.keyboard.press("Enter")
    expect(answer).to_contain_text("12 of 12")
