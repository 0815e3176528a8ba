"""Accessibility, shipped fonts and no network on every main view, in both themes."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Browser, Error, Page

from tests.server import Server

JOB = "/jobs/skerry-house"
VIEWS = ["/", "/parts", "/settings", f"{JOB}/site", f"{JOB}/sky", f"{JOB}/aim", f"{JOB}/mast",
         f"{JOB}/earth", f"{JOB}/coax", f"{JOB}/readings", f"{JOB}/handover", f"{JOB}/aim/do",
         "/quick", f"{JOB}/sky?page=places", f"{JOB}/sky?page=sun", f"{JOB}/sky?page=link",
         f"{JOB}/sky?page=frequencies", f"{JOB}/aim?page=find", f"{JOB}/aim?page=which",
         f"{JOB}/aim?page=tools", "/jobs/alder-terrace/aim", "/jobs/kauri-flat/aim",
         "/jobs/kauri-flat/aim?page=feed", "/jobs/tern-hut/aim", "/jobs/tern-hut/aim?page=twoway",
         "/jobs/fjell-caravan/aim", "/jobs/harrow-farm/sky?page=ways",
         "/jobs/harrow-farm/sky?page=senders", "/jobs/harrow-farm/aim", "/jobs/harrow-farm/aim?page=choice",
         "/jobs/harrow-farm/aim?page=front", "/jobs/harrow-farm/aim?page=trial",
         "/jobs/harrow-farm/readings?page=expected", "/jobs/larch-street/coax"]  # fmt: skip
SHIPPED = {
    "Atkinson Hyperlegible Next",
    "Atkinson Hyperlegible Mono",
    "Noto Sans",
    "Noto Sans Mono",
}


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("view", VIEWS)
def test_axe_finds_no_violation(
    browser: Browser, server: Server, axe: str, view: str, theme: Any
) -> None:
    """axe-core (deque.com, npm), WCAG 2.2 A and AA and best practices."""
    context = browser.new_context(base_url=server.url, viewport={"width": 1280, "height": 800},
                                  color_scheme=theme, bypass_csp=True)  # fmt: skip
    page = context.new_page()
    page.goto(view)
    page.locator("h1").wait_for(state="attached")
    page.wait_for_load_state("networkidle")
    page.evaluate(axe)
    found = page.evaluate("axe.run(document)")
    context.close()
    said = [f"{v['id']}: {n['html'][:140]} {n.get('failureSummary', '')[:200]}"
            for v in found["violations"] for n in v["nodes"]]  # fmt: skip
    assert not said, "\n".join(said)


@pytest.mark.parametrize("view", VIEWS)
def test_no_system_font_is_used(page: Page, view: str) -> None:
    """Chromium says which faces really drew the text."""
    page.goto(view)
    page.locator("h1").wait_for(state="attached")
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")
    tools = page.context.new_cdp_session(page)
    tools.send("DOM.enable")
    tools.send("CSS.enable")
    root = tools.send("DOM.getDocument", {"depth": -1})["root"]["nodeId"]
    nodes = tools.send("DOM.querySelectorAll", {"nodeId": root, "selector": "body *"})["nodeIds"]
    used: dict[str, float] = {}
    gone = 0
    for node in nodes:
        try:
            fonts = tools.send("CSS.getPlatformFontsForNode", {"nodeId": node})["fonts"]
        except Error as error:
            # An answer that came late has drawn this place anew.
            if "Could not find node" not in str(error):
                raise
            gone += 1
            continue
        for font in fonts:
            used[font["familyName"]] = used.get(font["familyName"], 0) + font["glyphCount"]
    strange = {n: c for n, c in used.items() if not any(n.startswith(s) for s in SHIPPED)}
    assert not strange
    assert gone < len(nodes) / 2
