"""Words in the pictures of all demo jobs: none stands on another, none is cut off by its picture."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page

from evtro.demo.world import demo_jobs

# Words of one picture that share more than three pixels each way, and words that begin or end
# outside of it; turned words and what is hidden do not count.
COLLIDING = """
() => {
  const words = [];
  for (const word of document.querySelectorAll('svg text')) {
    const style = getComputedStyle(word);
    const text = word.textContent.trim();
    if (!text || style.visibility === 'hidden' || style.display === 'none' || +style.opacity < 0.05) continue;
    if (/rotate/.test(word.getAttribute('transform') ?? '')) continue;
    const box = word.getBoundingClientRect();
    if (box.width < 2) continue;
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
  return found;
}
"""
JOBS = sorted(demo_jobs())


def _collisions(page: Page, path: str) -> list[str]:
    page.goto(path)
    page.wait_for_load_state("networkidle")
    found: list[str] = page.evaluate(COLLIDING)
    return found


@pytest.mark.parametrize("name", JOBS)
def test_words_stand_apart_on_the_bench(page: Page, name: str) -> None:
    for station in ("site", "sky", "aim", "mast", "coax"):
        assert not _collisions(page, f"/jobs/{name}/{station}"), station


@pytest.mark.parametrize("name", JOBS)
def test_words_stand_apart_on_the_phone(phone: Page, name: str) -> None:
    for station in ("aim", "mast"):
        assert not _collisions(phone, f"/jobs/{name}/{station}"), station


@pytest.mark.parametrize(
    ("name", "page_of"),
    [("alder-terrace", "row"), ("kauri-flat", "motor"), ("kauri-flat", "feed"), ("tern-hut", "find"),
     ("tern-hut", "twoway"), ("skerry-house", "peak"), ("fjell-caravan", "portable"), ("harrow-farm", "choice"),
     ("harrow-farm", "trial"), ("larch-street", "front")],
)  # fmt: skip
def test_words_stand_apart_on_the_pages_of_aim(page: Page, name: str, page_of: str) -> None:
    assert not _collisions(page, f"/jobs/{name}/aim?page={page_of}")


@pytest.mark.parametrize("page_of", ["ways", "sun", "link", "places", "frequencies"])
def test_words_stand_apart_on_the_pages_of_sky(page: Page, page_of: str) -> None:
    for name in ("skerry-house", "harrow-farm"):
        assert not _collisions(page, f"/jobs/{name}/sky?page={page_of}")
