"""Nothing is drawn that did not change: what React draws anew after one typed length."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page

from .conftest import copied, settled

# React tells its developer tools of every commit, in the shipped build too. What was drawn anew has its flag of
# work performed; what was passed over is the fiber of before.
HOOK = """
window.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
  supportsFiber: true, renderers: new Map(), checkDCE() {}, inject: () => 1, onCommitFiberUnmount() {},
  onPostCommitFiberRoot() {}, onScheduleFiberRoot() {},
  onCommitFiberRoot(_, root) {
    if (!window.__drawn) return;
    const regionOf = (fiber) => {
      for (let at = fiber.return; at; at = at.return)
        if (at.tag === 1 && at.memoizedProps.name) return at.memoizedProps.name;
      return '';
    };
    const elementOf = (fiber) => {
      let at = fiber;
      while (at && at.tag !== 5) at = at.child;
      return at?.stateNode;
    };
    const walk = (fiber, before) => {
      if (fiber === before) return;
      const component = [0, 11, 14, 15].includes(fiber.tag);
      if (component && before && fiber.flags & 1) {
        const element = elementOf(fiber);
        const part = element?.querySelector?.(':scope > [data-part]')?.id ?? '';
        window.__drawn.push({ region: regionOf(fiber), part });
      }
      if (before && fiber.child === before.child) return;
      for (let at = fiber.child; at; at = at.sibling) if (at.alternate) walk(at, at.alternate);
    };
    walk(root.current, root.current.alternate);
  },
};
"""


def _drawn(page: Page) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = page.evaluate("window.__drawn")
    return found


def test_one_typed_length_draws_its_part_its_sheet_and_what_is_said_of_them(page: Page) -> None:
    page.add_init_script(HOOK)
    for at in copied(page, "skerry-house"):
        page.goto(f"{at}/coax")
        settled(page)
        page.locator("#network-p13").click()
        settled(page)
        field = page.get_by_label("Sheet").get_by_label("Cable length, m").first
        field.fill(f"{float(field.input_value()) + 1}")
        page.evaluate("window.__drawn = []")
        with page.expect_response(lambda r: r.url.endswith("/changes")):
            field.press("Enter")
        settled(page)
        drawn = _drawn(page)
        assert {d["part"] for d in drawn if d["region"] == "Network"} == {"", "network-p13"}
        regions = {d["region"] for d in drawn}
        assert {"Network", "Sheet", "Header"} <= regions
        assert not regions & {"Problems", "Powering", "Pairs of cables", "Company’s line", "Design"}
        # The house has 12 outlets and 18 parts: a page that is drawn whole draws some four hundred.
        assert len(drawn) < 150
