"""The steps on site, on the phone: danger first, one at a time, big enough for a thumb, and nothing
of what was ticked, read or noted is lost."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import write_job

from .conftest import on_this_device, remove

STATIONS = ("site", "sky", "aim", "mast", "earth", "coax", "readings", "handover")
JOBS = sorted(demo_jobs())


@pytest.fixture
def job(phone: Page) -> Iterator[str]:
    """A copy of the demo house of this test's own."""
    yield from _copy(phone, "skerry-house")


def _copy(phone: Page, name: str) -> Iterator[str]:
    made = phone.request.post("/api/jobs/import", data=write_job(demo_jobs()[name]),
                              headers={"content-type": "application/json"}).json()  # fmt: skip
    yield str(made["id"])
    remove(phone, made["id"])


def _mark(phone: Page, job: str, step: str) -> dict[str, object] | None:
    marks = phone.request.get(f"/api/jobs/{job}").json()["job"]["marks"]
    found: dict[str, object] | None = next((m for m in marks if m["step"] == step), None)
    return found


def _fits(phone: Page) -> None:
    """Nothing runs over the side, and every button is as large as a thumb."""
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    for button in phone.locator("main button").all():
        box = button.bounding_box()
        if box and box["width"]:
            assert box["height"] >= 43.5, button.inner_text()


@pytest.mark.parametrize("station", STATIONS)
def test_a_station_is_walked_from_its_first_step_to_the_next_station(
    phone: Page, job: str, station: str
) -> None:
    steps = phone.request.get(f"/api/jobs/{job}").json()["answers"]["steps"][station]
    phone.goto(f"/jobs/{job}/{station}/do")
    for n, step in enumerate(steps):
        here = phone.get_by_role("region", name=f"Step {n + 1} of {len(steps)}")
        expect(here).to_be_visible()
        done = here.get_by_role("button", name=re.compile("^Done"))
        if step["danger"]:
            expect(here).to_contain_text(f"Danger: {step['danger']}")
            expect(done).to_be_disabled()
            expect(here).to_contain_text("Read the danger and tick it first")
            here.get_by_label(step["gate"], exact=True).check()
        expect(done).to_be_enabled()
        _fits(phone)
        with phone.expect_response(lambda r: r.url.endswith("/changes")):
            done.click()
    following = STATIONS[STATIONS.index(station) + 1] if station != "handover" else None
    if following:
        expect(phone).to_have_url(re.compile(f"/{following}/do$"))
    marks = phone.request.get(f"/api/jobs/{job}").json()["job"]["marks"]
    ticked = {m["step"] for m in marks if m["at"]}
    assert {s["key"] for s in steps} <= ticked


@pytest.mark.parametrize("name", JOBS)
def test_the_open_step_of_every_demo_job_fits(phone: Page, name: str) -> None:
    for station in STATIONS:
        phone.goto(f"/jobs/{name}/{station}/do")
        expect(
            phone.get_by_text(re.compile(r"^Step \d+ of|Nothing to do here yet")).first
        ).to_be_visible()
        _fits(phone)


def test_a_walk_goes_on_where_it_was_left(phone: Page, job: str) -> None:
    phone.goto(f"/jobs/{job}/mast/do")
    phone.locator("main input[type=checkbox]").first.check()
    with phone.expect_response(lambda r: r.url.endswith("/changes")):
        phone.get_by_role("button", name=re.compile("^Done")).click()
    expect(phone.get_by_text("Step 2 of")).to_be_visible()
    phone.reload()
    expect(phone.get_by_text("Step 2 of")).to_be_visible()
    phone.get_by_role("button", name="Back").click()
    expect(phone.get_by_text("Step 1 of")).to_be_visible()
    expect(phone.get_by_role("button", name="Done, next")).to_be_enabled()
    expect(phone.locator("main input[type=checkbox]").first).to_be_checked()


def _step_with_measure(phone: Page, job: str, station: str) -> dict[str, object]:
    """Go to the first step of a station that takes a reading."""
    steps = phone.request.get(f"/api/jobs/{job}").json()["answers"]["steps"][station]
    n = next(i for i, s in enumerate(steps) if s.get("measure"))
    phone.goto(f"/jobs/{job}/{station}/do")
    for step in steps[:n]:
        if step["danger"]:
            phone.get_by_label(step["gate"], exact=True).check()
        with phone.expect_response(lambda r: r.url.endswith("/changes")):
            phone.get_by_role("button", name=re.compile("^Done")).click()
    expect(phone.get_by_text(f"Step {n + 1} of")).to_be_visible()
    found: dict[str, object] = steps[n]
    return found


@pytest.mark.parametrize("station", ["sky", "aim", "mast", "readings"])
def test_a_reading_is_typed_judged_nudged_and_kept(phone: Page, job: str, station: str) -> None:
    step = _step_with_measure(phone, job, station)
    measure = step["measure"]
    assert isinstance(measure, dict)
    key = str(step["key"])
    low, high = measure["low"], measure["high"]
    good = (
        (low + high) / 2
        if low is not None and high is not None
        else (low or 0) + 1
        if low is not None
        else high / 2
    )
    field = phone.get_by_label(re.compile("^It reads"))
    field.fill(f"{good:.1f}".replace(".", ","))
    with phone.expect_response(lambda r: r.url.endswith("/changes")):
        field.press("Enter")
    mark = _mark(phone, job, key)
    assert mark is not None
    assert mark["value"] == pytest.approx(good, abs=0.051)
    # One press of the plus is one mark of the tool, and it shows.
    before = field.input_value()
    with phone.expect_response(lambda r: r.url.endswith("/changes")):
        phone.get_by_role("button", name="More").click()
    expect(field).not_to_have_value(before)
    after = _mark(phone, job, key)
    assert after is not None
    assert float(str(after["value"])) > float(str(mark["value"]))
    with phone.expect_response(lambda r: r.url.endswith("/changes")):
        phone.get_by_role("button", name="Less").click()
    again = _mark(phone, job, key)
    assert again is not None
    assert float(str(again["value"])) == pytest.approx(float(str(mark["value"])), abs=1e-6)


def test_a_reading_that_is_none_stays_typed_with_the_reason(phone: Page, job: str) -> None:
    step = _step_with_measure(phone, job, "aim")
    field = phone.get_by_label(re.compile("^It reads"))
    field.fill("about right")
    field.press("Enter")
    expect(phone.get_by_role("alert")).to_contain_text("not a number")
    expect(phone.get_by_role("alert")).to_contain_text("Type figures")
    expect(field).to_have_value("about right")
    mark = _mark(phone, job, str(step["key"]))
    assert mark is None or mark["value"] is None
    field.fill("84,2")
    field.press("Enter")
    expect(phone.get_by_role("alert")).to_have_count(0)
    expect(field).to_have_value("84.2")


def test_a_note_is_kept_with_its_step(phone: Page, job: str) -> None:
    phone.goto(f"/jobs/{job}/site/do")
    note = phone.get_by_label("Note")
    note.fill("ladder hooks behind the gate")
    with phone.expect_response(lambda r: r.url.endswith("/changes")):
        note.blur()
    phone.reload()
    expect(phone.get_by_label("Note")).to_have_value("ladder hooks behind the gate")
    sheet = phone.request.get(f"/api/jobs/{job}/sheet").text()
    assert "ladder hooks behind the gate" in sheet


def test_plan_and_do_are_one_touch_apart(phone: Page, job: str) -> None:
    phone.goto(f"/jobs/{job}/coax")
    phone.get_by_role("link", name="Do", exact=True).or_(
        phone.get_by_role("button", name="Do", exact=True)
    ).first.click()
    expect(phone).to_have_url(re.compile("/coax/do$"))
    expect(phone.get_by_text("Step 1 of")).to_be_visible()
    phone.go_back()
    expect(phone).to_have_url(re.compile("/coax$"))


def test_at_night_the_danger_is_still_the_first_thing(phone: Page, job: str) -> None:
    on_this_device(phone, theme="night")
    phone.goto(f"/jobs/{job}/earth/do")
    expect(phone.get_by_text("Danger: Mains")).to_be_visible()
    expect(phone.locator("html")).to_have_attribute("data-theme", "night")
    _fits(phone)
