"""A piece of a screen that cannot be drawn fails alone: it says its name and why, can be saved as a file, and the
rest of the page goes on."""

from __future__ import annotations

import contextlib
import json
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from playwright.sync_api import Page, Route, expect

from .conftest import imported, remove

Harm = Callable[[dict[str, Any]], None]
Broken = tuple[str, Harm, str, str | None]


def _at(*path: str | int) -> Harm:
    """Put nothing where a picture needs something."""

    def harm(answers: dict[str, Any]) -> None:
        *way, last = path
        here: Any = answers
        for step in way:
            here = here[step]
        here[last] = None

    return harm


def _sizes_of_bonds(answers: dict[str, Any]) -> None:
    for bond in answers["earth"]["bonds"]:
        bond["size"] = None


# A station, what is broken in its answer, the region that says so, and what must still work beside it.
BROKEN: list[Broken] = [
    ("site", _at("site", "shapes"), "Site plan", "Mount above ground, m"),
    ("sky", _at("sky", "arc"), "Skyline", "Target name"),
    ("aim", _at("sky", "skyline"), "Bearing ring", None),
    ("mast", _at("mast", "diagram"), "Mast picture", "Tube diameter, mm"),
    ("earth", _sizes_of_bonds, "Earthing picture", "Overhead lines"),
    ("coax", _at("coax", "layout", "places", 0, "in_rows"), "Network", "Cable length, m"),
    ("readings", _at("readings", "rows", 0, "cells"), "Readings", None),
    ("handover", _at("nothing", "here"), "Broken", "Installer"),
]


@pytest.fixture
def job(page: Page) -> Iterator[str]:
    job_id = imported(page, "skerry-house")
    yield job_id
    remove(page, job_id)


def _broken(page: Page, job: str, harm: Harm) -> None:
    """Every answer of the job is harmed on its way to the page."""

    def hand(route: Route) -> None:
        answer = route.fetch()
        body = answer.json()
        with contextlib.suppress(KeyError, TypeError, IndexError):  # this answer may not hold it
            harm(body["answers"])
        route.fulfill(response=answer, body=json.dumps(body))

    page.route(f"**/api/jobs/{job}", hand)
    sheet = [{"title": "Broken", "lines": [None]}]
    page.route("**/sheet", lambda route: route.fulfill(json=sheet))


# A few in one go, so that the longest keeps nobody waiting at the end of a run.
@pytest.mark.parametrize(
    "few", [BROKEN[:3], BROKEN[3:6], BROKEN[6:]], ids=lambda few: "-".join(b[0] for b in few)
)
def test_a_picture_that_throws_leaves_the_rest(page: Page, job: str, few: list[Broken]) -> None:
    for station, harm, name, field in few:
        _broken(page, job, harm)
        page.goto(f"/jobs/{job}/{station}")
        fault = page.get_by_role("alert").filter(has_text=f"{name} could not be drawn")
        expect(fault).to_be_visible()
        if field is not None:
            expect(page.get_by_label(field, exact=True).first).to_be_visible()
        # What was broken, and where, as a file.
        with page.expect_download() as saved:
            fault.get_by_role("button", name="Save fault report").click()
        report = json.loads(saved.value.path().read_text("utf-8"))
        assert report["region"] == name
        assert report["reason"]
        assert report["address"] == f"/jobs/{job}/{station}"
        # The other stations, the task list and what is typed there work on.
        page.get_by_role("link", name="Do", exact=True).click()
        expect(page.get_by_text("Step 1 of")).to_be_visible()
        page.unroute_all()
        page.get_by_role("link", name="Plan", exact=True).click()
        page.reload()
        expect(page.get_by_role("heading", level=1)).to_be_attached()
        expect(fault).to_have_count(0)


def test_a_button_held_while_the_page_is_drawn_again_still_acts(page: Page, job: str) -> None:
    """Somebody else changes the job between press and release: the picture is tried again afterwards."""
    _broken(page, job, _at("sky", "arc"))
    page.goto(f"/jobs/{job}/sky")
    save = page.get_by_role("button", name="Save fault report")
    expect(save).to_be_visible()
    save.hover()
    page.mouse.down()
    seen = page.request.get(f"/api/jobs/{job}").json()
    change = {"verb": "set", "rows": "job", "values": {"name": "Renamed elsewhere"}}
    sent = page.request.post(
        f"/api/jobs/{job}/changes",
        data=change,
        headers={"If-Match": f'"{seen["revision"]}"', "Origin": page.url.split("/jobs")[0]},
    )
    assert sent.ok, sent.text()
    expect(page.get_by_text("Renamed elsewhere").first).to_be_visible()
    with page.expect_download() as saved:
        page.mouse.up()
    assert saved.value.suggested_filename == "evtro-fault-skyline.json"
    expect(save).to_be_visible()


def test_it_is_drawn_again_when_the_answer_is_well(page: Page, job: str) -> None:
    _broken(page, job, _at("mast", "diagram"))
    page.goto(f"/jobs/{job}/mast")
    fault = page.get_by_role("alert").filter(has_text="Mast picture could not be drawn")
    expect(fault).to_be_visible()
    fault.get_by_role("button", name="Draw again").click()
    expect(fault).to_be_visible()
    field = page.get_by_label("Tube diameter, mm", exact=True)
    field.fill("60")
    field.press("Enter")
    expect(fault).to_have_count(0)


def test_a_drawing_on_the_roof_that_throws_leaves_the_tasks_and_the_outbox(
    phone: Page, job: str
) -> None:
    """The peaking pad breaks; the task is ticked all the same, and what waits to be sent is shown."""
    steps = phone.request.get(f"/api/jobs/{job}").json()["answers"]["steps"]["aim"]
    peak = next(s["key"] for s in steps if s["key"].endswith(".peak"))
    broken = '{"peaks": [{"axis": "azimuth", "scale": "db"}], "aim": {}}'
    phone.route(
        "**/antennas/*/aim*", lambda r: r.fulfill(body=broken, content_type="application/json")
    )
    phone.goto(f"/jobs/{job}/aim/do?step={peak}")
    fault = phone.get_by_role("alert").filter(has_text="Drawing and readings could not be drawn")
    expect(fault).to_be_visible()
    phone.context.set_offline(True)
    phone.get_by_role("button", name="Add a note").click()
    note = phone.get_by_label("Note")
    note.fill("the pad is gone, read on the meter")
    note.blur()
    expect(phone.get_by_text("No network, 1 kept here.")).to_be_visible()
    phone.context.set_offline(False)
    expect(phone.get_by_text("kept here")).to_have_count(0)
    phone.get_by_role("button", name="Back").click()
    expect(fault).to_have_count(0)


def test_a_page_whose_code_does_not_come_says_so_and_is_fetched_again(page: Page, job: str) -> None:
    page.goto(f"/jobs/{job}/site")
    expect(page.get_by_label("Mount above ground, m")).to_be_visible()
    page.route("**/assets/Plan-*.js", lambda route: route.abort())
    page.get_by_role("link", name="4 Mast").click()
    fault = page.get_by_role("alert").filter(has_text="Mast could not be drawn")
    expect(fault).to_be_visible()
    page.unroute("**/assets/Plan-*.js")
    fault.get_by_role("button", name="Draw again").click()
    expect(page.get_by_label("Tube diameter, mm", exact=True)).to_be_visible()
