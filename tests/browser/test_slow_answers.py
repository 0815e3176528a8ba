"""A slow answer, no answer, and keys pressed meanwhile: nothing that was typed is lost."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from .conftest import imported, kept_job, remove

# Every write of the page waits before it is sent; what the test itself sends does not.
SLOW = """
const send = window.fetch.bind(window);
window.held = 900;
window.fetch = async (...what) => {
  const asked = what[0] instanceof Request ? what[0] : new Request(...what);
  if (asked.method !== 'GET') await new Promise((done) => setTimeout(done, window.held));
  return send(asked);
};
"""


@pytest.fixture
def slow(page: Page) -> Page:
    page.add_init_script(SLOW)
    return page


def _open(page: Page, name: str, path: str) -> Iterator[str]:
    page.goto("/")
    job = imported(page, name)
    page.goto(f"/jobs/{job}{path}")
    yield job
    remove(page, job)


@pytest.fixture
def house(slow: Page) -> Iterator[str]:
    yield from _open(slow, "skerry-house", "/site")


@pytest.fixture
def farm(slow: Page) -> Iterator[str]:
    yield from _open(slow, "harrow-farm", "/aim?page=trial")


def _job(page: Page, job: str) -> dict[str, list[dict[str, object]]]:
    found: dict[str, list[dict[str, object]]] = kept_job(page, job)
    return found


def _kept(page: Page, job: str, writes: int) -> None:
    """Wait until so many writes are kept."""
    page.evaluate(
        """async ([job, writes]) => {
          for (;;) {
            const now = await (await fetch(`/api/jobs/${job}`)).json();
            if (now.revision >= writes) return;
            await new Promise((done) => setTimeout(done, 50));
          }
        }""",
        [job, writes],
    )


def test_the_next_room_is_typed_while_the_last_one_is_kept(slow: Page, house: str) -> None:
    field = slow.get_by_placeholder("room")
    for room in ("Attic", "Cellar"):
        field.fill(room)
        field.press("Enter")
        expect(field).to_have_value(room)
    field.fill("Shed")
    expect(slow.get_by_label("Name of Cellar")).to_be_visible()
    expect(field).to_have_value("Shed")
    slow.get_by_role("button", name="Add outlet", exact=True).click()
    expect(slow.get_by_label("Name of Shed")).to_be_visible()
    expect(field).to_have_value("")
    names = [o["name"] for o in _job(slow, house)["outlets"]]
    assert names[-3:] == ["Attic", "Cellar", "Shed"]


def test_targets_and_carriers_one_after_the_other(slow: Page, house: str) -> None:
    slow.goto(f"/jobs/{house}/sky")
    name, where = slow.get_by_label("Target name"), slow.get_by_label("Orbit position")
    for target, orbit in (("Merlin", "20 E"), ("Osprey", "22 E")):
        name.fill(target)
        where.fill(orbit)
        where.press("Enter")
    expect(slow.get_by_role("region", name="Targets")).to_contain_text("Osprey")
    expect(name).to_have_value("")
    name.fill("Hobby")
    expect(name).to_have_value("Hobby")
    added = [t["name"] for t in _job(slow, house)["targets"]][-2:]
    assert added == ["Merlin", "Osprey"]

    slow.get_by_role("button", name=re.compile("^4 carriers")).first.click()
    wave = slow.get_by_label("Carrier frequency")
    for mhz in ("11264", "11347"):
        wave.fill(mhz)
        wave.press("Enter")
    expect(slow.get_by_role("button", name=re.compile("^6 carriers"))).to_be_visible()
    expect(wave).to_have_value("")
    waves = [c["frequency_mhz"] for c in _job(slow, house)["carriers"]]
    assert 11264 in waves
    assert 11347 in waves


def test_lines_of_the_survey_one_after_the_other(slow: Page, house: str) -> None:
    slow.goto(f"/jobs/{house}/sky")
    field = slow.get_by_label("Add what is in the way")
    for line in ("barn 90 100 9", "mast 101 102 12", "gable 103 110 8"):
        field.fill(line)
        field.press("Enter")
    expect(slow.get_by_label("gable grows a year, m")).to_be_visible()
    rows = [o["name"] for o in _job(slow, house)["obstructions"]][-3:]
    assert rows == ["barn", "mast", "gable"]


def test_two_fields_changed_at_once_are_both_kept(slow: Page, house: str) -> None:
    """The second write waits for the first one's revision instead of running into it."""
    first = slow.get_by_label("Ground above sea, m")
    second = slow.get_by_label("Mount above ground, m")
    first.fill("21,5")
    second.fill("8,25")
    second.press("Enter")
    expect(slow.get_by_label("Answer")).to_contain_text("53.4805 N")
    _kept(slow, house, 2)
    site = slow.request.get(f"/api/jobs/{house}").json()["job"]["site"]
    assert (site["height_m"], site["mount_height_m"]) == (21.5, 8.25)
    expect(slow.get_by_role("alert")).to_have_count(0)


def test_spots_on_the_roof_one_after_the_other(slow: Page, farm: str) -> None:
    place, heading = slow.get_by_label("Spot", exact=True), slow.get_by_label("Spot's heading")
    for name, degrees in (("Byre", "40"), ("Silo", "50")):
        place.fill(name)
        heading.fill(degrees)
        heading.press("Enter")
    _kept(slow, farm, 2)
    holds = [(h["place"], h["heading_deg"]) for h in _job(slow, farm)["trial_spots"]][-2:]
    assert holds == [("Byre", 40), ("Silo", 50)]


def test_without_an_answer_the_text_stays_and_goes_out_again(page: Page) -> None:
    for job in _open(page, "skerry-house", "/site"):
        page.route("**/api/jobs/*/changes", lambda route: route.abort())
        field = page.get_by_label("Ground above sea, m")
        field.fill("33")
        field.press("Enter")
        expect(page.get_by_role("alert").first).to_contain_text("does not answer")
        expect(field).to_have_value("33")
        page.unroute("**/api/jobs/*/changes")
        with page.expect_response(lambda r: "/changes" in r.url):
            field.press("Enter")
        expect(page.get_by_role("alert")).to_have_count(0)
        assert kept_job(page, job)["site"]["height_m"] == 33


def test_undo_pressed_in_haste_goes_back_as_often_as_it_was_pressed(slow: Page, house: str) -> None:
    for text in ("11", "12", "13"):
        field = slow.get_by_label("Ground above sea, m")
        field.fill(text)
        field.press("Enter")
        expect(slow.get_by_role("button", name=re.compile("^Undo"))).to_be_enabled()
    _kept(slow, house, 3)
    slow.locator("body").click(position={"x": 700, "y": 20})
    before = slow.request.get(f"/api/jobs/{house}").json()["job"]["site"]["height_m"]
    assert before == 13
    slow.keyboard.press("Control+z")
    slow.keyboard.press("Control+z")
    expect(slow.get_by_label("Ground above sea, m")).to_have_value("11.0")
    assert slow.request.get(f"/api/jobs/{house}").json()["job"]["site"]["height_m"] == 11
