"""Every page, loaded once and looked at in every way: accessibility in both themes, the faces that
drew its text, words in pictures that stand apart, and units at fields in both systems."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Page

from evtro.demo.world import demo_jobs
from tests.server import Server

from .conftest import COUNTED, PHONE, go, on_this_device, settled

PAGES = {
    "skerry-house": ["site", "sky", "sky?page=ways", "sky?page=senders", "sky?page=places", "sky?page=sun",
                     "sky?page=link", "sky?page=frequencies", "aim", "aim?page=peak", "aim?page=find",
                     "aim?page=which", "aim?page=tools", "aim?page=feed", "mast", "earth", "coax",
                     "readings", "site/do", "sky/do", "aim/do", "mast/do", "earth/do", "coax/do",
                     "readings/do", "handover", "handover/do"],
    "alder-terrace": ["aim", "aim?page=row", "site", "sky", "mast", "coax"],
    "fern-cottage": ["sky", "aim", "coax"],
    "kauri-flat": ["aim", "aim?page=motor", "aim?page=feed", "sky", "coax"],
    "mill-loft": ["sky", "aim", "mast", "coax"],
    "tern-hut": ["aim", "aim?page=find", "aim?page=twoway", "site", "sky", "coax"],
    "kittiwake-van": ["site", "mast", "mast/do", "aim/do"],
    "fjell-caravan": ["aim", "aim?page=portable", "aim/do", "sky", "coax"],
    "harrow-farm": ["sky?page=ways", "sky?page=senders", "sky?page=sun", "sky?page=link",
                    "sky?page=places", "sky?page=frequencies", "aim", "aim?page=choice",
                    "aim?page=front", "aim?page=trial", "readings?page=expected", "site", "sky", "mast",
                    "coax"],
    "sorrel-court": ["coax"],
    "whimbrel-court": ["coax"],
    "plover-cottage": ["coax", "coax/do"],
    "larch-street": ["aim", "aim?page=front", "mast", "earth", "coax", "site", "sky"],
}  # fmt: skip
OUTER = ["/", "/parts", "/settings", "/quick", "/day/2026-04-14", "/day/2026-04-15"]
# Most of a page is the same in every job: these are looked at with all of it.
WITH_AXE = {*OUTER, *(f"/jobs/skerry-house/{path}" for path in PAGES["skerry-house"]),
    "/jobs/alder-terrace/aim?page=row", "/jobs/kauri-flat/aim?page=motor", "/jobs/kauri-flat/aim?page=feed",
    "/jobs/tern-hut/aim?page=twoway", "/jobs/fjell-caravan/aim?page=portable",
    "/jobs/harrow-farm/sky?page=ways", "/jobs/harrow-farm/sky?page=senders", "/jobs/harrow-farm/aim",
    "/jobs/harrow-farm/aim?page=choice", "/jobs/harrow-farm/aim?page=front",
    "/jobs/harrow-farm/aim?page=trial", "/jobs/harrow-farm/readings?page=expected",
    "/jobs/larch-street/coax", "/jobs/plover-cottage/coax", "/jobs/whimbrel-court/coax",
}  # fmt: skip
SHIPPED = (
    "Atkinson Hyperlegible Next",
    "Atkinson Hyperlegible Mono",
    "Noto Sans",
    "Noto Sans Mono",
)

# Words of one picture that share more than three pixels each way, and words that begin or end
# outside of it; turned words and what is hidden do not count. And figures of the answer that are cut off.
COLLIDING = """
() => {
  const words = [];
  for (const word of document.querySelectorAll('svg text')) {
    const style = getComputedStyle(word);
    const text = word.textContent.trim();
    if (!text || style.visibility === 'hidden' || style.display === 'none' || +style.opacity < 0.05) continue;
    if (/rotate/.test(word.getAttribute('transform') ?? '')) continue;
    const box = word.getBoundingClientRect();
    if (box.width < 2 || !word.checkVisibility()) continue;
    words.push({ text, box, picture: word.ownerSVGElement, frame: word.ownerSVGElement.getBoundingClientRect() });
  }
  const found = [];
  words.forEach((a, i) => {
    const f = a.frame;
    const wholly = a.box.right < f.left || a.box.left > f.right;
    if (!wholly && (a.box.left < f.left - 2 || a.box.right > f.right + 2)) found.push(`${a.text} is cut off`);
    for (const b of words.slice(i + 1)) {
      if (a.picture !== b.picture) continue;
      const wide = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
      // The line box is taller than the letters.
      const high = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top)
        - 0.2 * (a.box.height + b.box.height);
      if (wide > 3 && high > 3) found.push(`${a.text} on ${b.text}`);
    }
  });
  for (const row of document.querySelectorAll('section[aria-label="Answer"] *:not(.sr-only, .truncate)')) {
    if (getComputedStyle(row).overflowX !== 'hidden' || row.scrollWidth <= row.clientWidth + 1) continue;
    found.push(`${row.textContent.trim()} is cut off`);
  }
  return found;
}
"""
WORDS = """
() => {
  const seen = [];
  const all = (what) => [...document.querySelectorAll(what)].filter((e) => e.checkVisibility());
  const put = (kind, text) => text && text.trim() && seen.push(kind + ': ' + text.replace(/\\s+/g, ' ').trim());
  for (const e of all('main th[scope=col], main dt')) put('heading', e.textContent);
  for (const e of all('main input, main select, main textarea')) {
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
METRIC = re.compile(
    r"(?:^|[\s,(])(?:m|mm|km|cm|N|N·m|m/s|m²|MPa|N/m²|metres?|millimetres?)(?=$|[\s,).])"
)
US = re.compile(
    r"(?:^|[\s,(])(?:ft|mi|mph|lbf|psf|ksi|ft·lb|ft²|AWG|feet|foot|inch(?:es)?)(?=$|[\s,).])|(?:, in|\bset at in)$"
)


def _names() -> list[str]:
    """What people called things in the jobs: "Dish 0.8 m" is a name and no unit."""
    found: set[str] = set()
    for job in demo_jobs().values():
        found |= {job.name, job.place}
        for field in type(job).model_fields:
            rows = getattr(job, field)
            if isinstance(rows, tuple):
                found |= {
                    n for r in rows for n in (getattr(r, "name", ""), getattr(r, "place", "")) if n
                }
    return sorted(found, key=len, reverse=True)


NAMES = _names()


def _words(page: Page) -> list[str]:
    settled(page)
    found: list[str] = page.evaluate(WORDS)
    cleaned = []
    for text in found:
        kind, _, rest = text.partition(": ")
        for called in NAMES:
            rest = rest.replace(called, "*")
        # North of the equator is no newton.
        rest = re.sub(r"(\d) N\b", r"\1 north", rest)
        cleaned.append(f"{kind}: {rest}")
    return cleaned


def _no_violation(page: Page, rules: str = "") -> None:
    """axe-core (deque.com, npm), WCAG 2.2 A and AA and best practices."""
    found = page.evaluate(
        "axe.run(document, { resultTypes: ['violations'], selectors: false, iframes: false, preload: false,"
        f" {rules} }})"
    )
    said = [
        f"{v['id']}: {n['html'][:140]} {n.get('failureSummary', '')[:200]}"
        for v in found["violations"]
        for n in v["nodes"]
    ]
    assert not said, "\n".join(said)


def _only_shipped_faces(page: Page) -> None:
    """Chromium says which faces really drew the text of the whole page."""
    tools = page.context.new_cdp_session(page)
    tools.send("DOM.enable")
    tools.send("CSS.enable")
    root = tools.send("DOM.getDocument", {"depth": 0})["root"]["nodeId"]
    # The text of a node counts with all that is inside it.
    nodes = tools.send(
        "DOM.querySelectorAll", {"nodeId": root, "selector": "main, header, nav, footer"}
    )["nodeIds"]
    used: set[str] = set()
    for node in nodes:
        fonts = tools.send("CSS.getPlatformFontsForNode", {"nodeId": node})["fonts"]
        used |= {font["familyName"] for font in fonts}
    tools.detach()
    assert used
    assert not {n for n in used if not n.startswith(SHIPPED)}


@pytest.fixture
def desk(browser: Browser, server: Server, axe: str) -> Iterator[Page]:
    """A page that may be given axe-core, its settings its own, the job's units at first."""
    context = browser.new_context(
        base_url=server.url,
        viewport={"width": 1280, "height": 800},
        color_scheme="light",
        bypass_csp=True,
    )
    context.set_default_timeout(30_000)
    context.add_init_script(COUNTED)
    page = context.new_page()
    on_this_device(page, units="metric")
    yield page
    context.close()


# Units of the other system, by the system in use.
FOREIGN = {"m": US, "ft": METRIC}


def _in_both_systems(page: Page) -> None:
    """Units at fields and in headings, first in the system in use, then in the other one. The page keeps that one,
    so that the next page is looked at in it first."""
    switch = page.get_by_role("button", name=re.compile("units: "))
    first, second = (
        ("m", "ft") if "units: m" in str(switch.get_attribute("aria-label")) else ("ft", "m")
    )
    before = _words(page)
    assert [w for w in before if FOREIGN[first].search(w)] == []
    switch.click()
    after = _words(page)
    assert [w for w in after if FOREIGN[second].search(w)] == []
    if len(before) != len(after):  # a slow answer, such as that of the rain maps, came in between
        switch.click()
        before = _words(page)
        assert [w for w in before if FOREIGN[first].search(w)] == []
    # Both walks saw the same fields, so that nothing was left out.
    assert len(before) == len(after)


def _look(page: Page, path: str, axe: str) -> None:
    assert not page.evaluate(COLLIDING)
    if path in WITH_AXE:
        _only_shipped_faces(page)
        if not page.evaluate("'axe' in window"):
            page.evaluate(axe)
        _no_violation(page)
        page.emulate_media(color_scheme="dark")
        settled(page)
        # At night the colours are others, nothing else.
        _no_violation(page, "runOnly: ['color-contrast']")
        page.emulate_media(color_scheme="light")
    if path.startswith("/jobs/"):
        _in_both_systems(page)
    else:
        assert [w for w in _words(page) if FOREIGN["m"].search(w)] == []


def _look_at_all(page: Page, paths: list[str], axe: str) -> None:
    """One page load serves all looks; each address is opened as a link of the page opens it."""
    page.goto(paths[0])
    wrong = {}
    for path in paths:
        go(page, path)
        try:
            _look(page, path, axe)
        except AssertionError as error:
            wrong[path] = str(error)
            page.goto(path)  # what was left half way is no fault of the next
    assert wrong == {}


def test_every_page_outside_of_jobs_in_every_light(desk: Page, axe: str) -> None:
    _look_at_all(desk, OUTER, axe)


# Of nine pages at most, so that the longest list keeps nobody waiting at the end of a run.
LISTS = [(name, i) for name in sorted(PAGES) for i in range(0, len(PAGES[name]), 9)]


@pytest.mark.parametrize(("name", "first"), LISTS)
def test_every_page_of_a_job_in_every_light(desk: Page, axe: str, name: str, first: int) -> None:
    paths = PAGES[name][first : first + 9]
    _look_at_all(desk, [f"/jobs/{name}/{path}" for path in paths], axe)


def test_no_page_outside_of_jobs_is_wider_than_the_phone(phone: Page) -> None:
    phone.goto(OUTER[0])
    wide = {}
    for path in OUTER:
        go(phone, path)
        wide[path] = phone.evaluate("document.documentElement.scrollWidth")
    assert all(width <= PHONE["viewport"]["width"] for width in wide.values()), wide


@pytest.mark.parametrize("name", sorted(demo_jobs()))
def test_words_stand_apart_on_the_phone(phone: Page, name: str) -> None:
    phone.goto(f"/jobs/{name}/aim")
    for station in ("aim", "mast"):
        go(phone, f"/jobs/{name}/{station}")
        assert not phone.evaluate(COLLIDING), station
