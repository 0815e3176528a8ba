"""Timing for the benchmarks: a median after a warm-up, and a key press in the browser until it is painted."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

import httpx


def median_ms(call: Callable[[], object], runs: int) -> float:
    """Median of some runs [ms], after a warm-up."""
    call()
    found = []
    for _ in range(runs):
        start = time.perf_counter()
        call()
        found.append((time.perf_counter() - start) * 1000)
    return statistics.median(found)


def until_it_answers(client: httpx.Client) -> None:
    """Wait for a server that was just started."""
    while True:
        try:
            client.get("/api/health")
            return
        except httpx.HTTPError:
            time.sleep(0.05)


# Between the last digit and Enter; people who type figures take 100 to 250 ms from key to key (from memory).
TYPING_MS = 150
# From Enter to the painted figure, for each of some lengths; between the text and Enter a pause [ms], and a frame.
PAINT = """
async ([lengths, pause]) => {
  const found = [];
  const frame = () => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)));
  const figure = () => document.querySelector('[aria-label=Sheet] .font-mono').parentElement.textContent;
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  for (const metres of lengths) {
    const field = document.querySelector('[aria-label="Cable that comes in"] input');
    const before = figure();
    field.focus();
    set.call(field, String(metres));
    field.dispatchEvent(new Event('input', { bubbles: true }));
    if (pause) await new Promise((done) => setTimeout(done, pause));
    await frame();
    const start = performance.now();
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    while (figure() === before && performance.now() - start < 5000) await frame();
    await frame();
    found.push(performance.now() - start);
    await new Promise((done) => setTimeout(done, 100));
  }
  return found;
}
"""
