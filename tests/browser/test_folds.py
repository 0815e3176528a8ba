"""A block of 96 flats on one screen: risers that are alike fold to a line each, and open for what is
looked for."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.block import sorrel_court
from evtro.formats.jobfile import write_job

from .conftest import remove


@pytest.fixture
def block(page: Page) -> Iterator[str]:
    page.goto("/")
    made = page.request.post("/api/jobs/import", data=write_job(sorrel_court()),
                             headers={"content-type": "application/json"})  # fmt: skip
    job_id = made.json()["id"]
    yield f"/jobs/{job_id}"
    remove(page, job_id)


def test_risers_fold_and_open(page: Page, block: str) -> None:
    page.goto(f"{block}/coax")
    expect(page.get_by_role("region", name="Answer")).to_contain_text("96")
    folds = page.get_by_role("button", name=re.compile("^Branch Tap .8, 24 outlets, in: unfold"))
    expect(folds).to_have_count(4)
    expect(page.get_by_text("24 outlets, as Tap A8")).to_have_count(3)
    outlets = page.get_by_role("button", name=re.compile("^Outlet "))
    expect(outlets).to_have_count(0)
    folds.nth(1).click()
    expect(folds).to_have_count(3)
    expect(outlets).to_have_count(24)
    page.get_by_role("button", name=re.compile("^Tap B4")).click()
    page.get_by_role("button", name="Fold what is behind it").click()
    expect(outlets).to_have_count(12)
    # The same by key, and all of it at once.
    page.locator("[id^=run-][aria-pressed=true]").press("f")
    expect(outlets).to_have_count(24)
    page.get_by_role("button", name="Unfold all").click()
    expect(folds).to_have_count(0)
