"""Each screen: what is typed there, and what is seen there and elsewhere."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, Route, expect

from evtro.demo.world import skerry_house
from evtro.formats.jobfile import write_job

from .conftest import copied, revision_of


@pytest.fixture
def job(page: Page) -> Iterator[str]:
    """A copy of the demo house of this test's own."""
    yield from copied(page, skerry_house())


def _type(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    with page.expect_response(lambda r: r.request.method in ("PATCH", "PUT", "POST")):
        field.press("Enter")


def _spine(page: Page, words: str) -> None:
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text(words)


def test_place_search_sets_the_position(page: Page, job: str) -> None:
    page.goto(f"{job}/site")
    page.get_by_placeholder("town, country code").fill("reykjav")
    page.get_by_role("button", name=re.compile("IS 64")).click()
    expect(page.get_by_label("Position", exact=True)).to_have_value(re.compile("^64.1"))
    expect(page.get_by_label("Answer")).to_contain_text("64.1")


def test_a_position_outside_the_earth_stays_typed_with_the_remedy(page: Page, job: str) -> None:
    page.goto(f"{job}/site")
    field = page.get_by_label("Position", exact=True)
    field.fill("95 N 10 W")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("latitude 95° is outside the earth")
    expect(page.get_by_role("alert")).to_contain_text("perhaps latitude and longitude are swapped")
    expect(field).to_have_value("95 N 10 W")
    _spine(page, "12 outlets")


def test_raising_the_mount_from_the_problem(page: Page, job: str) -> None:
    page.goto(f"{job}/sky")
    problems = page.get_by_role("region", name="Problems")
    expect(problems).to_contain_text("Halcyon goes behind Row of sycamores in 2028")
    problems.get_by_label(re.compile("^Raise the mount")).check()
    problems.get_by_role("button", name="Raise 1.4 m").click()
    expect(page.get_by_label("Mount above ground, m")).to_have_value("8.8")
    expect(page.get_by_label("Answer")).to_contain_text("3of3")


def test_obstructions_are_rows_and_the_picture_follows(page: Page, job: str) -> None:
    page.goto(f"{job}/sky")
    _type(page, "Add what is in the way", "silo 140 146 25")
    expect(page.get_by_label("Name of E")).to_have_value("silo")
    expect(page.get_by_label("Targets", exact=True)).to_contain_text("nearest E")
    _type(page, "silo up to, °", "5")
    expect(page.get_by_label("Targets", exact=True)).not_to_contain_text("nearest E")
    page.get_by_role("button", name="Remove silo").click()
    expect(page.get_by_label("Name of E")).to_have_count(0)
    alert = page.get_by_label("Add what is in the way", exact=True)
    alert.fill("silo")
    alert.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("barn 212 224 11")


def test_the_datum_changes_what_the_tool_reads(page: Page, job: str) -> None:
    page.goto(f"{job}/aim")
    expect(page.get_by_label("Answer")).to_contain_text("84.8")
    page.get_by_label("Where the tool is laid").select_option("scale")
    expect(page.get_by_label("Answer")).to_contain_text("the mount's own scale")
    _type(page, "Maker's constant, °", "2,5")
    expect(page.get_by_label("Answer")).to_contain_text("22.3")
    page.get_by_role("tab", name=re.compile("Cairnmore")).click()
    expect(page.get_by_label("Answer")).to_contain_text("71.4")
    expect(page.get_by_role("img", name="Elements level")).to_be_visible()


def test_a_mast_that_is_too_weak(page: Page, job: str) -> None:
    page.goto(f"{job}/mast")
    _type(page, "Tube diameter, mm", "40")
    _spine(page, "of limit")
    expect(page.get_by_label("Problems")).to_contain_text("The tube bends too much")
    _type(page, "Dish 0.8 m wind area, m²", "0,2")
    expect(page.get_by_label("Problems")).not_to_contain_text("The tube bends too much")


def test_a_bond_is_planned_joined_and_judged(page: Page, job: str) -> None:
    page.goto(f"{job}/earth")
    page.get_by_role("button", name="Plan this conductor").click()
    _type(page, "Amplifier and multiswitch housing size, mm²", "2,5")
    expect(page.get_by_label("Problems")).to_contain_text("too thin")
    _type(page, "Amplifier and multiswitch housing size, mm²", "4")
    page.get_by_label("Amplifier and multiswitch housing joined").check()
    _spine(page, "all bonded")
    page.get_by_label("Overhead lines").select_option("near")
    _type(page, "Overhead line away, m", "4")
    expect(page.get_by_label("Problems")).to_contain_text("Stop: the mast could fall")


def test_cable_and_part_are_changed_in_place(page: Page, job: str) -> None:
    page.goto(f"{job}/coax")
    page.locator("#network-p18").click()
    page.get_by_label("Cable type", exact=True).select_option(label="10 mm")
    _spine(page, "12/12 in")
    page.locator("#network-p2").click()
    expect(page.get_by_label("Sheet")).to_contain_text("Powering")
    page.get_by_role("button", name=re.compile("^Replace")).click()
    page.get_by_role("dialog").get_by_role("combobox").fill("22 dB")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Sheet")).to_contain_text("Mast preamplifier 22 dB")
    page.get_by_role("button", name=re.compile("^Remove")).click()
    expect(page.locator("#network-p2")).to_have_count(0)
    page.locator("body").click(position={"x": 600, "y": 20})
    page.keyboard.press("Control+z")
    expect(page.locator("#network-p2")).to_be_attached()


def _replace_with_list_held(page: Page, job: str) -> list[Route]:
    """Open Replace of a part; its list of parts does not load until the one route is continued."""
    page.goto(f"{job}/coax")
    page.locator("#network-p2").click()
    held: list[Route] = []
    page.route("**/candidates*", lambda route: held.append(route))
    with page.expect_request("**/candidates*"):
        page.get_by_role("button", name=re.compile("^Replace")).click()
    return held


def test_enter_before_the_list_is_there_takes_the_first_of_it(page: Page, job: str) -> None:
    held = _replace_with_list_held(page, job)
    page.get_by_role("dialog").get_by_role("combobox").fill("22 dB")
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("Working it out")
    held[0].continue_()
    expect(page.get_by_label("Sheet")).to_contain_text("Mast preamplifier 22 dB")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_enter_in_an_empty_box_or_before_more_typing_adds_nothing(page: Page, job: str) -> None:
    """Enter that opened the box and is still held down must not put a part in; nor one that was followed by typing."""
    held = _replace_with_list_held(page, job)
    before = revision_of(page, job.removeprefix("/jobs/"))
    box = page.get_by_role("dialog").get_by_role("combobox")
    page.keyboard.press("Enter")
    box.fill("13")
    page.keyboard.press("Enter")
    box.fill("22 dB")
    held[0].continue_()
    expect(page.get_by_role("dialog").get_by_role("option").first).to_contain_text("22 dB")
    assert revision_of(page, job.removeprefix("/jobs/")) == before


def test_what_does_not_fit_is_not_offered(page: Page, job: str) -> None:
    """A switch with too few ports for the cables that are connected; behind an outlet nothing fits at all."""
    page.goto(f"{job}/coax")
    page.locator("#network-p6").click()
    page.get_by_role("button", name=re.compile("^Replace")).click()
    box = page.get_by_role("dialog")
    expect(box.get_by_role("option").first).to_be_visible()
    box.get_by_role("combobox").fill("Multiswitch, 4")
    expect(box.get_by_role("option")).to_have_count(0)
    expect(box).to_contain_text("Nothing of that name")
    page.keyboard.press("Escape")
    page.locator("#network-p18").click()
    page.get_by_role("button", name=re.compile("^Add after")).click()
    expect(box).to_contain_text("Nothing fits behind this part")


def test_readings_against_the_plan_and_their_unit(page: Page, job: str) -> None:
    page.goto(f"{job}/readings")
    _type(page, "Office, 482 MHz level, dBµV", "40")
    expect(page.get_by_label("Problems")).to_contain_text("Office: read")
    page.get_by_label("What is written").select_option("cn")
    _type(page, "Office, 482 MHz C/N, dB", "12,5")
    expect(page.get_by_label("Problems")).to_contain_text("the quality read is too low")


def test_the_sheet_is_printed_as_it_stands(page: Page, job: str) -> None:
    page.goto(f"{job}/handover")
    _type(page, "Remarks", "Key under the pot")
    sheet = page.get_by_role("article", name="Job sheet")
    expect(sheet).to_contain_text("Key under the pot")
    page.emulate_media(media="print")
    expect(sheet).to_be_visible()
    expect(page.get_by_role("navigation", name="Stations")).to_be_hidden()
    link = page.get_by_role("link", name="Job sheet as PDF")
    page.emulate_media(media="screen")
    answer = page.request.get(link.get_attribute("href") or "")
    assert answer.body().startswith(b"%PDF")


def test_csv_in_through_the_interface(page: Page, job: str) -> None:
    page.goto(f"{job}/sky?page=senders")
    page.get_by_label("List of transmitters").set_input_files(
        {
            "name": "t.csv",
            "mimeType": "text/csv",
            "buffer": b"name,latitude_deg,longitude_deg,height_m\nSloe Head,53.1,-9.3,210\n",
        }
    )
    expect(page.get_by_role("region", name="Answer")).to_contain_text("of4")
    page.get_by_label("List of transmitters").set_input_files(
        {"name": "t.csv", "mimeType": "text/csv", "buffer": b"name,latitude_deg\nSloe Head,53.1\n"}
    )
    expect(page.get_by_role("alert")).to_contain_text("column longitude_deg is missing")


def test_jobs_are_imported_exported_and_removed(page: Page, job: str) -> None:
    page.goto("/")
    page.get_by_label("Job file").set_input_files(
        {
            "name": "a.evtro.json",
            "mimeType": "application/json",
            "buffer": write_job(
                skerry_house().model_copy(update={"name": "Copied house"})
            ).encode(),
        }
    )
    expect(page.get_by_role("heading", name="Site, Copied house")).to_be_attached()
    page.get_by_role("navigation", name="Stations").get_by_role("link", name="Jobs").click()
    page.get_by_label("Find by name or place").fill("Copied house")
    row = page.get_by_role("listitem").filter(has_text="Copied house")
    with page.expect_download() as download:
        row.get_by_role("link", name=re.compile("^Export")).click()
    assert download.value.suggested_filename == "copied-house.evtro.json"
    row.get_by_role("button", name=re.compile("^Remove")).click()
    page.get_by_role("button", name="Remove revision 0").click()
    expect(row).to_have_count(0)


def test_keys_are_listed(page: Page, job: str) -> None:
    page.goto(f"{job}/site")
    page.locator("body").click(position={"x": 700, "y": 20})
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("metric or US units")
    page.keyboard.press("Escape")
    expect(page.locator("[data-station]")).to_be_focused()
    page.keyboard.press("p")
    expect(page.get_by_text("Step 1 of")).to_be_visible()
    page.keyboard.press("5")
    expect(page.get_by_role("heading", name=re.compile("Earth"))).to_be_attached()
    expect(page.get_by_text("Danger: Mains")).to_be_visible()


def test_a_missing_job_is_told(page: Page) -> None:
    page.goto("/jobs/nothing-here/sky")
    expect(page.get_by_role("heading", name="No such job")).to_be_visible()
