"""The unit at a field is the unit that is read: a bare figure typed beside a unit."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from .conftest import on_this_device


def test_a_bare_figure_is_read_in_the_unit_that_stands_at_the_field(page: Page) -> None:
    """The case that was seen: "set at mm" over a field that took -80 as inches."""
    on_this_device(page, units="us")
    page.goto("/jobs/alder-terrace/aim?page=row")
    head = page.get_by_role("columnheader", name="set at in")
    expect(head).to_be_visible()
    field = page.get_by_label(re.compile("^Feed of Whimbrel set at")).first
    field.fill("3.15")
    with page.expect_response(lambda r: "/changes" in r.url) as answer:
        field.press("Enter")
    feeds = answer.value.json()["job"]["feeds"]
    assert any(abs((f["placed_mm"] or 0) - 80.01) < 1e-6 for f in feeds)
    page.get_by_role("button", name=re.compile("units: ft")).click()
    expect(page.get_by_role("columnheader", name="set at mm")).to_be_visible()
    expect(field).to_have_value("80")
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(field).to_have_value("")


def test_two_readings_are_asked_and_a_compass_bearing_is_told(page: Page) -> None:
    on_this_device(page, units="metric")
    page.goto("/jobs/fern-cottage/site")
    field = page.get_by_label("Ground above sea, m")
    before = field.input_value()
    field.fill("1,240")
    field.press("Enter")
    why = page.get_by_role("alert")
    expect(why).to_contain_text("can be read as 1.24 or as 1240")
    with page.expect_response(lambda r: "/changes" in r.url):
        why.get_by_role("button", name="1240").click()
    expect(field).to_have_value("1240.0")
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(field).to_have_value(before)
    bearing = page.get_by_label(re.compile("^Long side bearing"))
    kept = bearing.input_value()
    bearing.fill("80°M")
    with page.expect_response(lambda r: "/changes" in r.url):
        bearing.press("Enter")
    expect(page.get_by_role("status").filter(has_text="Read so")).to_contain_text(
        "declination here"
    )
    # Declination there is some 12 degrees east.
    assert abs(float(bearing.input_value()) - 92) < 2
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(bearing).to_have_value(kept)
    position = page.get_by_label("Position", exact=True)
    position.fill("53.4805 N 9.9720 O")
    position.press("Enter")
    expect(
        page.get_by_role("alert").get_by_role("button", name="53.4805 N 9.9720 W")
    ).to_be_visible()
    position.press("Escape")


def test_a_refusal_names_its_bound_in_the_units_in_use(page: Page) -> None:
    on_this_device(page, units="us")
    page.goto("/jobs/fern-cottage/mast")
    field = page.get_by_label(re.compile("^Tube length"))
    field.fill("500")
    field.press("Enter")
    why = page.get_by_role("alert")
    expect(why).to_contain_text("500.0 ft is too large. It may be at most 131 ft.")
    page.get_by_role("button", name=re.compile("units: ft")).click()
    expect(why).to_contain_text("152.4 m is too large. It may be at most 40 m.")
    field.press("Escape")
