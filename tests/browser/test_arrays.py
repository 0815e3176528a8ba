"""Terrestrial jobs driven through the interface as an installer would."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.library import demo_senders
from evtro.demo.terrain import TILE
from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import write_job
from evtro.formats.transmitters import write_csv
from tests.server import Server

from .conftest import copied, imported, open_gates, remove

WRITES = ("PATCH", "PUT", "POST", "DELETE")


def _kept(page: Page, name: str) -> Iterator[str]:
    yield from copied(page, demo_jobs()[name])


@pytest.fixture
def farm(page: Page) -> Iterator[str]:
    yield from _kept(page, "harrow-farm")


@pytest.fixture
def larch(page: Page) -> Iterator[str]:
    yield from _kept(page, "larch-street")


def _type(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    with page.expect_response(lambda r: r.request.method in WRITES):
        field.press("Enter")


def _press(page: Page, name: str | re.Pattern[str]) -> None:
    with page.expect_response(lambda r: r.request.method in WRITES):
        page.get_by_role("button", name=name).first.click()


def test_from_a_list_of_transmitters_to_the_antenna(page: Page, tmp_path: Path) -> None:
    page.goto("/")
    page.get_by_placeholder("Name").fill("Ford House")
    page.get_by_role("button", name="Start the job").click()
    _type(page, "Position", "57°12'36\"N 4°33'36\"W")
    _type(page, "Mount above ground, m", "8,5")
    sky = re.sub("/site.*", "/sky?page=senders", page.url)
    page.goto(sky)
    listed = tmp_path / "list.csv"
    listed.write_text(
        write_csv([s for s in demo_senders() if s.name in ("Staunmoor", "Cold Brae")])
    )
    with page.expect_response(lambda r: "/transmitters" in r.url and r.request.method == "POST"):
        page.get_by_label("List of transmitters").set_input_files(listed)
    page.goto(sky.replace("senders", "ways"))
    losses = page.get_by_role("region", name="Where it goes")
    expect(losses).to_contain_text("Vale of Orrick, demo tile")
    _press(page, "Take the tile's height")
    expect(losses).not_to_contain_text("check the position")
    page.get_by_role("tab", name="Cold Brae").click()
    expect(losses).to_contain_text("Over an edge at 7.")
    # An antenna, then the smallest that does it.
    page.goto(sky.replace("/sky?page=senders", "/aim?page=choice"))
    page.get_by_label("Kind of antenna").select_option("array")
    page.get_by_label("Antenna's target").select_option("Staunmoor")
    _press(page, "Add antenna")
    choices = page.get_by_role("region", name="Antennas")
    expect(choices).to_contain_text("smallest that does it")
    row = choices.get_by_role("row").filter(has_text="smallest that does it")
    name = row.get_by_role("button").get_attribute("aria-label")
    assert name is not None
    _press(page, name)
    expect(row).to_contain_text("on the plan")
    # The best heading between the two.
    page.get_by_role("tab", name="Heading").click()
    answer = page.get_by_role("tabpanel")
    expect(answer).to_contain_text("best heading")
    _press(page, "Take the best heading")
    expect(page.get_by_role("button", name="It stands there")).to_be_disabled()


def test_without_a_tile_the_earth_is_smooth_and_marked(page: Page, larch: str) -> None:
    page.goto(f"{larch}/sky?page=ways")
    losses = page.get_by_role("region", name="Where it goes")
    expect(losses).to_contain_text("smooth earth stands for it")
    expect(losses).to_contain_text("good to ±10 dB")
    tiles = page.get_by_role("region", name="Elevation tiles")
    page.get_by_label("Elevation tile", exact=True).set_input_files(
        {"name": "broken.tif", "mimeType": "image/tiff", "buffer": b"no heights"}
    )
    expect(tiles).to_contain_text("cannot be read as heights")
    page.get_by_label("Elevation tile", exact=True).set_input_files(TILE)
    expect(tiles).to_contain_text("orrick.tif")
    page.get_by_role("button", name="Remove orrick.tif").click()
    expect(tiles).not_to_contain_text("orrick.tif")


def test_a_preamplifier_only_where_the_answer_says_so(page: Page, farm: str) -> None:
    page.goto(f"{farm}/aim?page=front")
    answer = page.get_by_role("region", name="Front end answer")
    expect(answer).to_contain_text("Preamplifier: Mast preamplifier 22 dB")
    expect(answer).to_contain_text("still short")
    _press(page, re.compile("^Build it"))
    expect(answer).to_contain_text("already has this front end")
    expect(answer.get_by_role("button")).to_have_count(0)
    # At a house in the village, none is wanted and none is offered.
    found = imported(page, "mill-loft")
    page.goto(f"/jobs/{found}/aim?page=front")
    expect(answer).to_contain_text("No preamplifier")
    expect(answer.get_by_role("button")).to_have_count(0)
    remove(page, found)


def test_the_way_to_two_antennas(page: Page, farm: str) -> None:
    page.goto(f"{farm}/aim")
    page.get_by_label("Judged").select_option("preamplifier")
    panel = page.get_by_role("tabpanel")
    expect(panel).to_contain_text("15of15")
    expect(panel.get_by_role("region", name="What the best heading costs")).to_contain_text(
        "beside the main lobe"
    )
    _press(page, "Take the best heading")
    expect(page.get_by_role("region", name="Answer")).to_contain_text(re.compile(r"29\d\.0"))


def test_three_spots_are_logged_and_the_best_is_taken(page: Page, farm: str) -> None:
    for row in ("d1", "d2", "d3"):
        revision = page.request.get(f"/api{farm}").json()["revision"]
        page.request.post(
            f"/api{farm}/changes",
            headers={"If-Match": str(revision)},
            data={"verb": "remove", "rows": "trial_spots", "id": row},
        )
    page.goto(f"{farm}/aim?page=trial")
    answer = page.get_by_role("region", name="Trial answer")
    expect(answer).to_contain_text("Hold the antenna at a spot")
    spots = (
        ("Ridge", "9", "50", ("60", "30"), ("24", "14")),
        ("West gable", "7,2", "330", ("48", "29"), ("31", "22,5")),
        ("Porch", "5", "50", ("66", "18"), ("15", "8")),
    )
    for name, height, heading, first, second in spots:
        page.get_by_label("Spot", exact=True).fill(name)
        page.get_by_label("Spot's height").fill(height)
        page.get_by_label("Spot's heading").fill(heading)
        _press(page, "Add spot")
        expect(page.get_by_role("button", name=f"Remove {name}")).to_be_visible()
        for mux, (level, quality) in (("mux S1", first), ("mux B1", second)):
            _type(page, f"{mux} level at {name}, dBµV", level)
            _type(page, f"{mux} quality at {name}, dB", quality)
    expect(answer).to_contain_text("West gable is best: 2 of 6")
    expect(answer).to_contain_text("Ridge is stronger, but worse in quality")
    expect(page.get_by_role("tabpanel")).to_contain_text("echo")
    _press(page, "Take West gable")
    expect(answer).to_contain_text("its readings are the source")
    # At Sky the reading stands with the forecast beside it.
    page.goto(f"{farm}/sky?page=ways")
    expect(page.get_by_role("region", name="Multiplexes of Staunmoor")).to_contain_text(
        "read; forecast"
    )


def test_the_expected_list_is_compared_with_a_scan(page: Page, farm: str) -> None:
    page.goto(f"{farm}/readings?page=expected")
    listed = page.get_by_role("region", name="Expected at Kitchen")
    expect(listed).to_contain_text("9 services expected")
    expect(listed.get_by_role("row").filter(has_text="mux S1")).to_contain_text("should be found")
    expect(listed.get_by_role("row").filter(has_text="mux B1")).to_contain_text(
        "not to be expected"
    )
    page.get_by_label("What the scan found").fill("Harbour One, Harbour Two, Peat Radio, Moor TV")
    _press(page, "Log the scan")
    answer = page.get_by_role("region", name="Scan answer")
    expect(answer).to_contain_text("mux S2")
    expect(answer).to_contain_text("5 fewer than in the scan before")
    expect(page.get_by_role("region", name="Scans")).to_contain_text("Moor TV")
    expect(listed.get_by_role("row").filter(has_text="mux S2")).to_contain_text("missing")


def test_leaving_the_cable_company(page: Page, larch: str) -> None:
    page.goto(f"{larch}/coax")
    problems = page.get_by_role("region", name="Problems")
    expect(problems).to_contain_text("passes no power to Masthead amplifier")
    expect(problems).to_contain_text("The company's line is still connected")
    line = page.get_by_role("region", name="Cable company's line")
    expect(line).to_contain_text("Never joined")
    for label in (
        "The company's line is unplugged and capped",
        "Each line is known and labelled at both ends",
    ):
        with page.expect_response(lambda r: "/changes" in r.url):
            line.get_by_label(label).check()
    expect(problems).not_to_contain_text("company's line")
    # The answer to the dead amplifier: this house needs none.
    page.goto(f"{larch}/aim?page=front")
    expect(page.get_by_role("region", name="Front end answer")).to_contain_text("No preamplifier")
    _press(page, "Take it out")
    page.goto(f"{larch}/coax")
    expect(problems).not_to_contain_text("passes no power")


def test_a_refused_spot_stays_typed(page: Page, farm: str) -> None:
    page.goto(f"{farm}/aim?page=trial")
    page.get_by_label("Spot", exact=True).fill("Gable")
    page.get_by_label("Spot's heading").fill("361")
    page.get_by_role("button", name="Add spot").click()
    expect(page.get_by_role("alert").first).to_contain_text("360")
    expect(page.get_by_label("Spot's heading")).to_have_value("361")


def test_spots_are_logged_with_one_thumb(phone: Page, server: Server) -> None:
    made = phone.request.post(
        "/api/jobs/import",
        data=write_job(demo_jobs()["harrow-farm"]),
        headers={"content-type": "application/json"},
    ).json()
    open_gates(phone, made["id"])
    phone.goto(f"/jobs/{made['id']}/aim/do")
    for n in (2, 3, 4):
        phone.get_by_role("button", name=re.compile("^Done")).click()
        expect(phone.get_by_text(f"Step {n} of 6")).to_be_visible()
    phone.get_by_label("New spot").fill("Byre")
    phone.get_by_role("button", name="Add", exact=True).click()
    phone.get_by_role("tab", name=re.compile("^Byre")).click()
    for level, quality in (
        ("49", "29,5"),
        ("48", "29"),
        ("47", "28"),
        ("33", "24"),
        ("32", "23,5"),
        ("31", "23"),
    ):
        phone.get_by_label("level, dBµV").fill(level)
        phone.get_by_label("C/N or MER, dB").fill(quality)
        with phone.expect_response(lambda r: "/changes" in r.url):
            phone.get_by_role("button", name="Write and next").click()
    expect(phone.get_by_text("Byre is best: 6 of 6")).to_be_visible()
    phone.get_by_role("button", name="Take Byre").click()
    expect(phone.get_by_text("Taken.")).to_be_visible()
    width = phone.evaluate("document.documentElement.scrollWidth")
    assert width <= 390
    remove(phone, made["id"])
