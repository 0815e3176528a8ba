"""The unit at a field is the unit that is read: every heading, hint, placeholder and field of every
page in both unit systems, and a bare figure typed beside a unit."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.world import demo_jobs

from .conftest import on_this_device

PAGES = {
    "skerry-house": ["site", "sky", "sky?page=ways", "sky?page=senders", "sky?page=places", "sky?page=sun",
                     "sky?page=link", "sky?page=frequencies", "aim", "aim?page=find", "aim?page=which",
                     "aim?page=tools", "aim?page=feed", "mast", "earth", "coax", "readings", "site/do", "sky/do",
                     "aim/do", "mast/do", "earth/do", "coax/do", "readings/do", "handover", "handover/do"],
    "alder-terrace": ["aim?page=row"],
    "kauri-flat": ["aim?page=motor", "aim?page=feed", "mast"],
    "tern-hut": ["aim?page=twoway"],
    "fjell-caravan": ["aim?page=portable", "aim/do"],
    "harrow-farm": ["aim", "aim?page=choice", "aim?page=front", "aim?page=trial", "sky?page=ways"],
    "larch-street": ["mast", "earth", "coax"],
}  # fmt: skip
CASES = [(name, path) for name, paths in PAGES.items() for path in paths]

WORDS = """
() => {
  const seen = [];
  const put = (kind, text) => text && text.trim() && seen.push(kind + ': ' + text.replace(/\\s+/g, ' ').trim());
  for (const e of document.querySelectorAll('main th[scope=col], main dt')) put('heading', e.textContent);
  for (const e of document.querySelectorAll('main input, main select, main textarea')) {
    put('placeholder', e.getAttribute('placeholder'));
    put('field', e.getAttribute('aria-label') ?? e.labels?.[0]?.textContent);
    const after = e.nextElementSibling;
    if (after && after.tagName === 'SPAN') put('beside', after.textContent);
    const rest = e.nextSibling;
    if (rest && rest.nodeType === 3) put('behind', rest.textContent);
  }
  return seen;
}
"""
# Two frames later: how much stands in the page, and whether it has any words to walk.
STANDS = """
() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done([
  document.querySelector('main')?.innerHTML.length ?? 0,
  document.querySelectorAll('main input, main select, main th[scope=col], main dt').length,
]))))
"""
METRIC = re.compile(
    r"(?:^|[\s,(])(?:m|mm|km|cm|N|N·m|m/s|m²|MPa|N/m²|metres?|millimetres?)(?=$|[\s,).])"
)
US = re.compile(
    r"(?:^|[\s,(])(?:ft|mi|mph|lbf|psf|ksi|ft·lb|ft²|AWG|feet|foot|inch(?:es)?)(?=$|[\s,).])|(?:, in|\bset at in)$"
)


def _names(name: str) -> list[str]:
    """What people called things in the job: "Dish 0.8 m" is a name and no unit."""
    job = demo_jobs()[name]
    found = {job.name, job.place}
    for field in type(job).model_fields:
        rows = getattr(job, field)
        if isinstance(rows, tuple):
            found |= {
                n for r in rows for n in (getattr(r, "name", ""), getattr(r, "place", "")) if n
            }
    return sorted(found, key=len, reverse=True)


def _settled(page: Page) -> None:
    """Until the page stands: its parts come one after another, late on a slow machine."""
    page.wait_for_load_state("networkidle")
    before, same = [0, 0], 0
    for _ in range(2000):
        now = page.evaluate(STANDS)
        same = same + 1 if now == before and now[1] else 0
        if same >= 10:
            return
        before = now
    raise AssertionError(f"{page.url} never stands still")


def _words(page: Page, name: str) -> list[str]:
    _settled(page)
    found: list[str] = page.evaluate(WORDS)
    names = _names(name)
    cleaned = []
    for text in found:
        kind, _, rest = text.partition(": ")
        for called in names:
            rest = rest.replace(called, "*")
        # North of the equator is no newton.
        rest = re.sub(r"(\d) N\b", r"\1 north", rest)
        cleaned.append(f"{kind}: {rest}")
    return cleaned


@pytest.mark.parametrize(("name", "path"), CASES, ids=lambda v: str(v))
def test_no_heading_or_field_names_a_unit_of_the_other_system(
    page: Page, name: str, path: str
) -> None:
    on_this_device(page, units="metric")
    page.goto(f"/jobs/{name}/{path}")
    metric = _words(page, name)
    assert [w for w in metric if US.search(w)] == []
    page.get_by_role("button", name=re.compile("units: m")).click()
    expect(page.get_by_role("button", name=re.compile("units: ft"))).to_be_visible()
    us = _words(page, name)
    assert [w for w in us if METRIC.search(w)] == []
    # Both walks saw the same fields, so that nothing was left out.
    assert len(us) == len(metric)


def test_a_bare_figure_is_read_in_the_unit_that_stands_at_the_field(page: Page) -> None:
    """The case that was seen: "set at mm" over a field that took -80 as inches."""
    on_this_device(page, units="us")
    page.goto("/jobs/alder-terrace/aim?page=row")
    head = page.get_by_role("columnheader", name="set at in")
    expect(head).to_be_visible()
    field = page.get_by_label(re.compile("^Feed of Whimbrel set at")).first
    field.fill("3.15")
    with page.expect_response(lambda r: r.request.method == "PATCH") as answer:
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
    with page.expect_response(lambda r: r.request.method == "PATCH"):
        why.get_by_role("button", name="1240").click()
    expect(field).to_have_value("1240.0")
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(field).to_have_value(before)
    bearing = page.get_by_label(re.compile("^Long side bearing"))
    kept = bearing.input_value()
    bearing.fill("80°M")
    with page.expect_response(lambda r: r.request.method == "PATCH"):
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
