"""The workshop and the remedies of Coax, as an installer uses them: a data sheet typed and used, a cause
cured by what was tried, undone again."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.world import demo_jobs, skerry_house

from .conftest import copied


@pytest.fixture
def skerry(page: Page) -> Iterator[str]:
    yield from copied(page, skerry_house())


@pytest.fixture
def larch(page: Page) -> Iterator[str]:
    yield from copied(page, demo_jobs()["larch-street"])


def _type(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    with page.expect_response(lambda r: r.request.method == "PATCH"):
        field.press("Enter")


def test_a_part_from_its_data_sheet_goes_into_the_run(page: Page, skerry: str) -> None:
    page.goto("/parts")
    page.get_by_role("searchbox").fill("7 mm low")
    page.get_by_role("button", name=re.compile("^7 mm coax, low loss")).click()
    pane = page.get_by_role("complementary", name="Sheet")
    expect(pane).to_contain_text("7 mm coax, low loss")
    pane.get_by_label("Name of the copy").fill("Bench 8 mm")
    pane.get_by_role("button", name="Copy to a new one").click()
    expect(pane.get_by_role("heading")).to_have_text("Bench 8 mm")
    curve = "loss by frequency, MHz and dB in a hundred metres"
    field = pane.get_by_label(curve, exact=True)
    field.fill("100 6; 800 1")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("no cable loses so")
    _type(page, curve, "100 4,6; 860 14,1; 2150 23")
    expect(pane).to_contain_text("2 of 7 lines typed")
    _type(page, "where it comes from", "sheet of 2026-03")
    page.get_by_role("searchbox").fill("bench")
    expect(page.get_by_role("row", name=re.compile("^Bench 8 mm"))).to_contain_text(
        "sheet of 2026-03"
    )
    # The garden room's cable, 4.4 dB too long, is that one now.
    page.goto(f"{skerry}/coax")
    page.locator("#network-p18").click()
    page.get_by_label("Cable type", exact=True).select_option("own-bench-8-mm")
    expect(page.get_by_role("region", name="Answer")).to_contain_text("12")
    expect(page.get_by_label("Problems")).not_to_contain_text("under the limit")
    page.goto("/parts?shelf=cable&key=own-bench-8-mm")
    expect(page.get_by_role("region", name="Used in jobs")).to_contain_text("12 of 12 outlets in")
    pane.get_by_role("button", name="Take it away").click()
    expect(pane.get_by_role("heading")).to_have_text("7 mm coax, low loss, copper")


def test_a_cause_is_cured_and_the_cure_undone(page: Page, larch: str) -> None:
    page.goto(f"{larch}/coax")
    problems = page.get_by_role("region", name="Problems")
    low = problems.get_by_role("listitem").filter(has_text="3 outlets: up to")
    expect(low).to_contain_text("all behind Splitter of the old feed")
    low.get_by_role("button", name="What cures it").click()
    cures = low.get_by_role("region", name="What would cure it")
    expect(cures).to_contain_text("changes and pairs tried on the whole plant")
    moved = cures.get_by_role("listitem").filter(has_text="Move the power inserter")
    expect(moved).to_contain_text("11.9 V at Masthead amplifier")
    expect(moved.get_by_role("img")).to_have_accessible_name(re.compile("^3 outlets"))
    with page.expect_response(lambda r: "/changes" in r.url):
        moved.get_by_role("button", name="Take it").click()
    expect(problems).not_to_contain_text("passes no power")
    expect(problems).not_to_contain_text("under the limit")
    page.locator("body").click(position={"x": 600, "y": 20})
    page.keyboard.press("Control+z")
    expect(problems).to_contain_text("passes no power")
    expect(problems).to_contain_text("under the limit")


def test_a_ratio_opens_into_what_it_is_made_of(page: Page, skerry: str) -> None:
    page.goto(f"{skerry}/coax")
    page.locator("#network-p18").click()
    how = page.get_by_role("region", name="How the level comes about")
    expect(how).to_contain_text("What its quality is made of")
    expect(how).to_contain_text("LNB, as it arrives")
    how.get_by_label("Carrier").select_option(label="482 MHz, mux 1")
    expect(how).to_contain_text("UHF array, as it arrives")
    expect(how.get_by_role("row", name=re.compile("^Together"))).to_be_visible()


def test_twelve_cables_at_once_and_one_undo(page: Page, skerry: str) -> None:
    page.goto(f"{skerry}/coax")
    page.get_by_label("Cable for all of them").select_option(label="10 mm")
    page.get_by_label("On which floor").select_option(label="on Garden")
    expect(page.get_by_role("button", name="Change 1 cable")).to_be_visible()
    page.get_by_label("On which floor").select_option(label="on every floor")
    with page.expect_response(lambda r: "/changes" in r.url) as sent:
        page.get_by_role("button", name="Change 12 cables").click()
    drops = {
        k["cable"]
        for k in sent.value.json()["job"]["links"]
        if k["to_part"] in _plates(page, skerry)
    }
    assert drops == {"rg11"}
    expect(page.get_by_role("button", name="Change 0 cables")).to_be_visible()
    expect(page.get_by_label("Problems")).not_to_contain_text("under the limit")
    page.locator("body").click(position={"x": 600, "y": 20})
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Change 12 cables")).to_be_visible()
    expect(page.get_by_label("Problems")).to_contain_text("under the limit")


def _plates(page: Page, job: str) -> set[str]:
    parts = page.request.get(f"/api{job}").json()["job"]["parts"]
    return {p["id"] for p in parts if p["outlet"]}
