"""The steps on site, on the phone: danger first, one at a time, big enough for a thumb, and nothing
of what was ticked, read or noted is lost."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Locator, Page, expect

from .conftest import (
    fits_a_phone,
    go,
    imported,
    kept_job,
    look_at_each,
    on_this_device,
    open_gates,
    remove,
    revision_of,
    settled,
)

STATIONS = ("site", "sky", "mast", "earth", "aim", "coax", "readings", "handover")
# One of each kind of work.
JOBS = [
    "fern-cottage",
    "fjell-caravan",
    "kittiwake-van",
    "larch-street",
    "skerry-house",
    "tern-hut",
]


# Until nothing waits in the browser any more.
EMPTIED = """
() => new Promise((done, fail) => {
  const asked = indexedDB.open('evtro');
  let looks = 0;
  asked.onsuccess = () => {
    const look = () => {
      if (++looks > 4000) return fail(new Error('something still waits'));
      const count = asked.result.transaction('outbox').objectStore('outbox').count();
      count.onsuccess = () => count.result ? setTimeout(look, 20) : (asked.result.close(), done());
    };
    look();
  };
})
"""


@pytest.fixture
def job(phone: Page) -> Iterator[str]:
    """A copy of the demo house of this test's own."""
    yield from _copy(phone, "skerry-house")


def _copy(phone: Page, name: str) -> Iterator[str]:
    job_id = imported(phone, name)
    yield job_id
    remove(phone, job_id)


def _mark(phone: Page, job: str, step: str) -> dict[str, object] | None:
    marks = kept_job(phone, job)["marks"]
    found: dict[str, object] | None = next((m for m in marks if m["step"] == step), None)
    return found


def _confirm(here: Locator, gate: str) -> None:
    """Confirm a gate by name; the device knows the name from the first one on."""
    who = here.get_by_label("Who looked")
    if not who.input_value():
        who.fill("A. Mender")
    here.get_by_label(gate, exact=True).check()


# A house with dish and array, a street of arrays alone, a two-way terminal, a dish on a tripod: between them
# they hold every kind of step. `core/stations/test_work.py` walks the steps of every demo job.
@pytest.mark.parametrize("name", ["skerry-house", "fjell-caravan"])
def test_a_job_is_walked_from_its_first_step_to_its_last(phone: Page, name: str) -> None:
    """Every kind of job in the order of its work: each step opens when the one before it is done, a danger
    is confirmed by name first, and the last one leaves nothing to do. All demo jobs are walked without a browser."""
    for job in _copy(phone, name):
        steps = phone.request.get(f"/api/jobs/{job}").json()["answers"]["steps"]
        assert tuple(steps) == STATIONS
        first = next(k for k in STATIONS if steps[k])
        phone.goto(f"/jobs/{job}/{first}/do")
        for station in (k for k in STATIONS if steps[k]):
            expect(phone).to_have_url(re.compile(f"/{station}/do$"))
            rows = [s["key"] for s in steps[station]]
            for n in range(len(rows)):
                here = phone.get_by_role("region", name=f"Step {n + 1} of {len(rows)}")
                expect(here).to_be_visible()
                step = steps[station][n]
                done = here.get_by_role("button", name=re.compile("^Done"))
                if step["danger"]:
                    expect(here).to_contain_text(f"Danger: {step['danger']}")
                    expect(done).to_be_disabled()
                    _confirm(here, step["gate"])
                look_at_each(here, step)
                expect(done).to_be_enabled()
                if n == 0:
                    fits_a_phone(phone)
                with phone.expect_response(lambda r: r.url.endswith("/changes")):
                    done.click()
        marks = kept_job(phone, job)["marks"]
        assert {s["key"] for rows in steps.values() for s in rows} <= {
            m["step"] for m in marks if m["at"]
        }
        gates = [m for m in marks if m["danger_read"]]
        assert all(m["confirmed_by"] == "A. Mender" and m["confirmed_at"] for m in gates)


def test_a_line_in_the_fall_circle_stops_the_job_until_the_facts_change(
    phone: Page, job: str
) -> None:
    phone.goto(f"/jobs/{job}/site/do")
    here = phone.get_by_role("region", name=re.compile("^Step 1 of"))
    with phone.expect_response(lambda r: r.url.endswith("/changes")):
        here.get_by_label("Overhead line away, m").fill("2")
        here.get_by_label("Overhead line away, m").press("Enter")
    expect(here.get_by_role("alert")).to_contain_text("Stop")
    expect(here.get_by_role("alert")).to_contain_text("could fall onto an overhead line")
    expect(here.get_by_label("I have looked all round")).to_have_count(0)
    expect(here.get_by_role("button", name=re.compile("^Done"))).to_be_disabled()
    # Nor on another page of the same work.
    phone.goto(f"/jobs/{job}/mast/do")
    expect(phone.get_by_text("Stopped: Look for overhead lines")).to_be_visible()
    expect(phone.get_by_role("button", name=re.compile("^Done"))).to_be_disabled()
    phone.get_by_role("button", name="Go there, at Site").click()
    with phone.expect_response(lambda r: r.url.endswith("/changes")):
        phone.get_by_label("Overhead lines").select_option(label="made dead by its operator")
    expect(phone.get_by_role("alert").first).to_contain_text("not confirmed that the line is dead")
    for label in ("Who made it dead", "Who confirmed that it is dead"):
        with phone.expect_response(lambda r: r.url.endswith("/changes")):
            phone.get_by_label(label).fill("A. Mender")
            phone.get_by_label(label).press("Enter")
    _confirm(phone.get_by_role("region", name=re.compile("^Step 1 of")), "I have looked all round")
    expect(phone.get_by_role("button", name=re.compile("^Done"))).to_be_enabled()


def test_two_phones_on_one_job_hold_each_other_at_the_gate(
    phone: Page, page: Page, job: str
) -> None:
    """What one confirms opens the step of the other, without a reload."""
    page.goto(f"/jobs/{job}/site/do?step=site.entry")
    expect(page.get_by_text("First: Look for overhead lines")).to_be_visible()
    done = page.get_by_role("button", name=re.compile("^Done"))
    expect(done).to_be_disabled()
    phone.goto(f"/jobs/{job}/site/do")
    _confirm(phone.get_by_role("region", name=re.compile("^Step 1 of")), "I have looked all round")
    expect(done).to_be_enabled()
    expect(page.get_by_text("First: Look for overhead lines")).to_have_count(0)


@pytest.mark.parametrize("name", JOBS)
def test_the_open_step_of_every_demo_jobfits_a_phone(phone: Page, name: str) -> None:
    phone.goto(f"/jobs/{name}/site/do")
    for station in STATIONS:
        go(phone, f"/jobs/{name}/{station}/do")
        expect(
            phone.get_by_text(re.compile(r"^Step \d+ of|Nothing to do here yet")).first
        ).to_be_visible()
        fits_a_phone(phone)


def test_a_walk_goes_on_where_it_was_left(phone: Page, job: str) -> None:
    open_gates(phone, job, "earth")
    phone.goto(f"/jobs/{job}/mast/do")
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
    open_gates(phone, job)
    phone.goto(f"/jobs/{job}/{station}/do")
    for i, before in enumerate(steps[:n]):
        look_at_each(phone.get_by_role("region", name=f"Step {i + 1} of {len(steps)}"), before)
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
    phone.get_by_role("button", name="Add a note").click()
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
    fits_a_phone(phone)


def test_what_is_ticked_without_a_network_is_kept_and_sent_once_in_its_order(
    phone: Page, job: str
) -> None:
    open_gates(phone, job, "sky")
    phone.goto(f"/jobs/{job}/site/do?step=site.outlets")
    here = phone.get_by_role("region", name=re.compile("^Step 3 of"))
    expect(here).to_be_visible()
    here.get_by_role("button", name="Add a note").click()
    phone.context.set_offline(True)
    here.get_by_label("Note").fill("second socket wanted in the attic")
    here.get_by_label("Note").blur()
    expect(phone.get_by_text("No network, 1 kept here.")).to_be_visible()
    for n in (3, 4):
        phone.get_by_role("region", name=f"Step {n} of 5").get_by_role(
            "button", name=re.compile("^Done")
        ).click()
    expect(phone.get_by_role("region", name="Step 5 of 5")).to_be_visible()
    expect(phone.get_by_text("No network, 3 kept here.")).to_be_visible()
    assert "site.outlets" not in {m["step"] for m in _marks_elsewhere(phone, job)}
    # The page is left; what it kept is sent by the next one that opens, once and in its order.
    context = phone.context
    phone.close()
    context.set_offline(False)
    again = context.new_page()
    sent: list[tuple[str, Any]] = []
    again.on(
        "request", lambda r: sent.append((r.url, r.post_data_json)) if r.method == "POST" else None
    )
    again.goto(f"/jobs/{job}/site/do")
    again.evaluate(EMPTIED)
    expect(again.get_by_text("kept here")).to_have_count(0)
    marks = {m["step"]: m for m in kept_job(again, job)["marks"]}
    assert marks["site.outlets"]["note"] == "second socket wanted in the attic"
    assert marks["site.outlets"]["at"]
    assert marks["site.entry"]["at"]
    settled(again)
    ((at, body),) = sent
    assert at.endswith("/outbox")
    notes = [entry["change"].get("note") for entry in body["entries"]]
    assert notes == ["second socket wanted in the attic", None, None]


def _marks_elsewhere(phone: Page, job: str) -> list[dict[str, object]]:
    """What the program knows, asked from outside the page."""
    found: list[dict[str, object]] = kept_job(phone, job)["marks"]
    return found


def test_a_tick_that_comes_before_its_gate_waits_and_both_devices_say_why(
    phone: Page, page: Page, job: str
) -> None:
    """Without a network one goes on behind a gate that another device opens again meanwhile: the tick waits
    here, and is sent when the gate is confirmed once more."""
    open_gates(phone, job, "sky")
    phone.goto(f"/jobs/{job}/site/do?step=site.outlets")
    here = phone.get_by_role("region", name=re.compile("^Step 3 of"))
    expect(here).to_be_visible()
    phone.context.set_offline(True)
    here.get_by_role("button", name=re.compile("^Done")).click()
    expect(phone.get_by_text("No network, 1 kept here.")).to_be_visible()

    def tick(**more: object) -> None:
        revision = revision_of(phone, job)
        done = phone.request.post(
            f"/api/jobs/{job}/changes",
            data={"verb": "tick", "step": "site.overhead", **more},
            headers={"If-Match": str(revision)},
        )
        assert done.ok, done.text()

    tick(danger_read=False)
    phone.context.set_offline(False)
    expect(phone.get_by_text(re.compile("Waits. Gate: .*nobody has confirmed"))).to_be_visible()
    assert not any(m["step"] == "site.outlets" and m["at"] for m in _marks_elsewhere(phone, job))
    # The other device sees that it waits, and why; the one that keeps it says so once.
    page.goto(f"/jobs/{job}/site/do")
    there = page.get_by_role("status", name="Kept elsewhere")
    expect(there).to_contain_text("Waits on another device, 1.")
    expect(there).to_contain_text("agree its place")
    expect(there).to_contain_text("a gate before it is not confirmed")
    expect(phone.get_by_role("status", name="Kept elsewhere")).to_have_count(0)
    tick(danger_read=True, by="A. Mender")
    expect(phone.get_by_text("kept here")).to_have_count(0)
    expect(there).to_have_count(0)
    assert any(m["step"] == "site.outlets" and m["at"] for m in _marks_elsewhere(phone, job))


def test_what_one_reads_out_is_on_the_phone_of_the_one_who_turns(
    phone: Page, page: Page, job: str
) -> None:
    dish = next(d["id"] for d in kept_job(phone, job)["dishes"])
    for one in (phone, page):
        open_gates(one, job, "coax")
        one.goto(f"/jobs/{job}/aim/do?step=aim.{dish}.peak")
        expect(one.get_by_label("The meter says")).to_be_visible()
    heard = page.get_by_role("status", name="Read out")
    for reading, said in (
        ("9.5", "the highest so far"),
        ("12,3", "the highest so far"),
        ("11.8", "0.5 below the highest, 12.3"),
    ):
        phone.get_by_label("The meter says").fill(reading)
        expect(heard).to_contain_text(reading.replace(",", "."))
        expect(heard).to_contain_text(said)
    # Not on the device that reads, and kept by none.
    expect(phone.get_by_role("status", name="Read out")).to_have_count(0)
    samples = kept_job(phone, job)["samples"]
    heard.get_by_role("button", name="Take it here").click()
    expect(page.get_by_label("The meter says")).to_have_value("11.8")
    assert kept_job(phone, job)["samples"] == samples


def test_alone_up_there_and_the_others_see_when_word_is_due(
    phone: Page, page: Page, job: str
) -> None:
    open_gates(phone, job, "mast")
    phone.goto(f"/jobs/{job}/mast/do?step=mast.plumb")
    page.goto(f"/jobs/{job}/mast/do?step=mast.plumb")
    phone.get_by_role("button", name=re.compile("Alone up there")).click()
    phone.get_by_label("Who", exact=True).fill("Bo")
    phone.get_by_label("Who to call").fill("555 0100")
    phone.get_by_label("Word every").fill("40")
    phone.get_by_role("button", name="I go up alone").click()
    for one in (phone, page):
        expect(one.get_by_role("region", name="Working alone")).to_contain_text(
            "Word due in 40 min"
        )
    fits_a_phone(phone)
    other = page.context.new_page()
    other.goto("/")
    expect(other.get_by_role("list", name="Working alone")).to_contain_text("Bo is alone")
    other.close()
    phone.get_by_role("button", name="Down again").click()
    expect(page.get_by_role("region", name="Working alone")).to_have_count(0)


def test_each_fastener_is_said_for_itself_and_one_that_is_loose_keeps_the_step_open(
    phone: Page, job: str
) -> None:
    dish = next(d["id"] for d in kept_job(phone, job)["dishes"])
    open_gates(phone, job, "coax")
    phone.goto(f"/jobs/{job}/aim/do?step=aim.{dish}.loose")
    done = phone.get_by_role("button", name=re.compile("^Done"))
    expect(done).to_be_disabled()
    phone.get_by_role("group", name="azimuth lock").get_by_role("button", name="tight").click()
    phone.get_by_role("button", name="The other 2 snug").click()
    expect(
        phone.get_by_role("group", name="elevation lock").get_by_role("button", name="snug")
    ).to_have_attribute("aria-pressed", "true")
    expect(done).to_be_disabled()
    phone.get_by_label("what is wrong").fill("rusted in")
    phone.get_by_label("what is wrong").blur()
    phone.get_by_role("group", name="azimuth lock").get_by_role("button", name="loose").click()
    expect(done).to_be_enabled()
    fits_a_phone(phone)
    seen = {s["thing"]: s for s in kept_job(phone, job)["seen"]}
    assert {k: s["state"] for k, s in seen.items()} == {
        "azimuth": "loose",
        "elevation": "snug",
        "feed": "snug",
    }


def test_how_long_a_step_takes_is_ones_own(phone: Page, job: str) -> None:
    open_gates(phone, job, "sky")
    phone.goto(f"/jobs/{job}/site/do?step=site.outlets")
    phone.get_by_role("button", name="How long it takes").click()
    phone.get_by_label("takes you, min").fill("25")
    phone.get_by_label("takes you, min").press("Enter")
    expect(phone.get_by_role("button", name="How long it takes")).to_contain_text("25 min by you")
    mark = _mark(phone, job, "site.outlets")
    assert mark is not None
    assert (mark["minutes"], mark["at"]) == (25, "")


def test_the_forecast_of_the_day_stands_at_the_weather(phone: Page) -> None:
    phone.goto("/jobs/skerry-house/sky/do?step=sky.weather")
    expect(phone.get_by_text(re.compile("2026-04-14. Forecast .*gusts counted"))).to_be_visible()
