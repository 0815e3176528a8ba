"""A block of 96 flats on one screen: risers that are alike fold to a line each, and open for what is
looked for."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from evtro.core.job.changes import CopyBranch, Replace
from evtro.demo.block import sorrel_court
from tests.changes import taken

from .conftest import copied


@pytest.fixture
def block(page: Page) -> Iterator[str]:
    yield from copied(page, sorrel_court())


def test_risers_fold_and_open(page: Page, block: str) -> None:
    page.goto(f"{block}/coax")
    expect(page.get_by_role("region", name="Answer")).to_contain_text("96")
    folds = page.get_by_role("button", name=re.compile("^Branch Tap .8, 24 outlets, OK: unfold"))
    expect(folds).to_have_count(4)
    expect(page.get_by_text("24, as Tap A8")).to_have_count(3)
    outlets = page.get_by_role("button", name=re.compile("^Outlet "))
    expect(outlets).to_have_count(0)
    folds.nth(1).click()
    expect(folds).to_have_count(3)
    expect(outlets).to_have_count(24)
    page.get_by_role("button", name=re.compile("^Tap B4")).click()
    page.get_by_role("button", name="Fold what is behind it").click()
    expect(outlets).to_have_count(12)
    # The same by key, and all of it at once.
    page.locator("[id^=network-][aria-pressed=true]").press("f")
    expect(outlets).to_have_count(24)
    page.get_by_role("button", name="Unfold all").click()
    expect(folds).to_have_count(0)


@pytest.fixture
def eight_risers(page: Page) -> Iterator[str]:
    """The block with each of its risers once more: 192 outlets."""
    job = sorrel_court()
    splitter = next(p.id for p in job.parts if p.type == "splitter-4")
    heads = [
        k.to_part for k in sorted(job.links, key=lambda k: k.from_port) if k.from_part == splitter
    ]
    job = taken(job, Replace(part=splitter, type="splitter-8"))
    for n, head in enumerate(heads):
        job = taken(job, CopyBranch(part=head, after=splitter, port=4 + n))
    yield from copied(page, job)


def test_a_house_of_192_outlets_draws_what_is_near_and_follows_a_change(
    page: Page, eight_risers: str
) -> None:
    page.goto(f"{eight_risers}/coax")
    answer = page.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("of 192")
    folds = page.get_by_role("button", name=re.compile("^Branch Tap .*24 outlets"))
    expect(folds).to_have_count(8)
    page.get_by_role("button", name="Unfold all").click()
    outlets = page.get_by_role("button", name=re.compile("^Outlet "))
    expect(outlets.first).to_be_visible()
    assert outlets.count() < 120  # of 192 only those near the screen are drawn
    outlets.first.click()
    length = page.get_by_role("textbox", name=re.compile("^Cable length"))
    before = answer.inner_text()
    with page.expect_response(lambda r: r.request.method == "POST" and "/changes" in r.url) as kept:
        length.fill("95")
        length.press("Enter")
    assert len(kept.value.body()) < 400_000
    expect(answer).not_to_have_text(before, use_inner_text=True)
