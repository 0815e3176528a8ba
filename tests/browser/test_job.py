"""Whole jobs through the real interface."""

from __future__ import annotations

import re
import urllib.request

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.world import demo_jobs
from tests.server import Server

from .conftest import copied, fits_a_phone, go, open_gates


def _type(page: Page, label: str, text: str) -> None:
    """Type into a field edited in place, and wait until it is kept."""
    field = page.get_by_label(label, exact=True)
    field.click()
    field.fill(text)
    with page.expect_response(lambda r: r.request.method in ("PATCH", "PUT", "POST")):
        field.press("Enter")


def _press(page: Page, name: str) -> None:
    with page.expect_response(lambda r: r.request.method in ("PATCH", "PUT", "POST", "DELETE")):
        page.get_by_role("button", name=name, exact=True).click()


def _pick(page: Page, key: str, words: str) -> None:
    """Add to the run by keyboard: a key on the selected part, words, Enter."""
    page.locator("svg [role=button][tabindex='0']").focus()
    page.keyboard.press(key)
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("combobox").fill(words)
    expect(dialog.locator("[role=option][data-focus]")).to_contain_text(words)
    with page.expect_response(lambda r: r.request.method == "POST"):
        page.keyboard.press("Enter")


def _export(server: Server, page: Page) -> bytes:
    job = re.search(r"/jobs/([^/]+)/", page.url)
    assert job
    with urllib.request.urlopen(f"{server.url}/api/jobs/{job[1]}/export") as answer:
        data: bytes = answer.read()
    return data


def _spine(page: Page, station: str) -> str:
    return (
        page.get_by_role("navigation", name="Stations")
        .get_by_role("link", name=re.compile(f"^\\d ?{station}"))
        .inner_text()
        .replace("\n", " ")
    )


def test_a_job_from_nothing_through_all_eight_stations(page: Page, server: Server) -> None:
    page.goto("/")
    page.get_by_placeholder("Name").fill("Plover Cottage")
    page.get_by_label("Place", exact=True).fill("Port Averil")
    page.get_by_role("button", name="Start the job").click()
    expect(page.get_by_role("heading", name="Site, Plover Cottage")).to_be_attached()
    empty = _export(server, page)

    # Site
    _type(page, "Position", "53°28'49.8\"N 9°58'19.2\"W")
    expect(page.get_by_label("Answer")).to_contain_text("53.4805 N")
    _type(page, "Ground above sea, m", "14")
    for room in ("Lounge", "Loft room"):
        page.get_by_placeholder("room").fill(room)
        _press(page, "Add outlet")
    expect(page.get_by_role("table").get_by_label("Name of Loft room")).to_be_visible()
    assert "2 outlets" in _spine(page, "Site")

    # Sky, by key
    page.locator("body").click(position={"x": 700, "y": 20})
    page.keyboard.press("2")
    expect(page.get_by_role("heading", name="Sky, Plover Cottage")).to_be_attached()
    page.get_by_label("Target name").fill("Corvus")
    page.get_by_label("Orbit position").fill("28 E")
    _press(page, "Add target")
    page.get_by_label("Kind of target").select_option("transmitter")
    page.get_by_label("Target name").fill("Cairnmore")
    page.get_by_label("Transmitter position").fill("53.59 -9.4195")
    _press(page, "Add target")
    _type(page, "Add what is in the way", "chapel 118 126 14 at 36 m")
    expect(page.get_by_label("Targets", exact=True)).to_contain_text("135.8")
    expect(page.get_by_label("Targets", exact=True)).to_contain_text("71.4")
    for which, name, frequency in ((0, "V 11.778", "11778"), (1, "mux 1", "ch 22")):
        page.get_by_role("button", name=re.compile("0 carriers")).nth(0).click()
        page.get_by_label("Carrier name").fill(name)
        page.get_by_label("Carrier frequency").fill(frequency)
        if which == 0:
            page.get_by_label("Polarisation").select_option("V")
        _press(page, "Add carrier")
        expect(page.get_by_role("button", name="1 carrier", exact=True)).to_have_count(which + 1)
    expect(page.get_by_label("mux 1 frequency, MHz")).to_have_value("482")

    # Aim
    page.get_by_role("link", name=re.compile("^3 Aim")).click()
    page.get_by_label("Antenna's target").select_option(label="Corvus")
    _press(page, "Add antenna")
    answer = page.get_by_label("Answer")
    expect(answer).to_contain_text("LNB anticlockwise")  # the page with instruments has come
    page.get_by_label("Kind of antenna").select_option("array")
    page.get_by_label("Antenna's target").select_option(label="Cairnmore")
    _press(page, "Add antenna")
    text = answer.inner_text().replace("\n", "")
    for figure in ("135.8", "19.8", "24.7"):
        assert figure in text, text
    expect(
        page.get_by_text(re.compile(r"Sight it .* right of the right-hand edge of chapel"))
    ).to_be_visible()
    page.get_by_label("Seen from", exact=True).select_option("front")
    expect(answer).to_contain_text("LNB clockwise")

    # Mast
    page.get_by_role("link", name=re.compile("^4 Mast")).click()
    expect(page.get_by_label("Answer")).to_contain_text("of the limit")
    _type(page, "Array above the upper bracket, m", "1,6")
    expect(page.get_by_role("img", name=re.compile("Mast from the side"))).to_contain_text(
        "1.60 m up"
    )
    assert re.search(r"\d+ % of limit", _spine(page, "Mast"))

    # Earth
    page.get_by_role("link", name=re.compile("^5 Earth")).click()
    page.get_by_label("Overhead lines").select_option("none")
    for left in (2, 1, 0):
        plans = page.get_by_role("button", name="Plan this conductor")
        plans.first.click()
        expect(plans).to_have_count(left)
    for tick in page.get_by_label(re.compile("joined$")).all():
        tick.check()
    expect(page.get_by_role("link", name=re.compile("^5 Earth OK all bonded"))).to_be_attached()

    # Coax: two runs, by keyboard
    page.get_by_role("link", name=re.compile("^6 Coax")).click()
    _press(page, "an LNB with one output")
    expect(page.locator("#network-p1")).to_be_visible()
    _pick(page, "a", "Grounding block")
    expect(page.locator("#network-p2[tabindex='0']")).to_be_visible()
    _pick(page, "a", "Outlet: Lounge")
    _press(page, "its terminals")
    expect(page.locator("#network-p4[tabindex='0']")).to_be_visible()
    _pick(page, "a", "Grounding block")
    expect(page.locator("#network-p5[tabindex='0']")).to_be_visible()
    _pick(page, "a", "Splitter, two ways")
    expect(page.locator("#network-p6[tabindex='0']")).to_be_visible()
    _pick(page, "b", "Outlet: Loft room")
    page.locator("#network-p7").click()
    _type(page, "Cable length, m", "12,5")
    expect(page.get_by_label("Problems")).to_contain_text("1 open port")
    page.get_by_role("button", name="Show fix").first.click()
    with page.expect_response(lambda r: r.url.endswith("/changes")):
        page.get_by_role("button", name="Take it").click()
    expect(page.locator("svg")).not_to_have_count(0)
    page.locator("#network-p3").click()
    expect(page.get_by_label("Sheet")).to_contain_text(re.compile(r"\d\d\.\d"))

    # Undo to empty, redo to full
    full = _export(server, page)
    for name, wanted in (("Undo", empty), ("Redo", full)):
        button = page.get_by_role("button", name=re.compile(f"^{name}"))
        while button.is_enabled():
            with page.expect_response(lambda r: "/undo" in r.url or "/redo" in r.url) as answer:
                button.click()
            assert answer.value.ok, answer.value.text()
            expect(page.locator("[aria-live=polite]")).to_contain_text("kept")
        assert _export(server, page) == wanted

    # Readings
    page.get_by_role("link", name=re.compile("^7 Readings")).click()
    row = page.get_by_role("row", name=re.compile("^Loft room")).text_content() or ""
    planned = float(re.findall(r"\d+\.\d", row)[0])
    _type(page, "Loft room, 482 MHz level, dBµV", f"{planned - 8:.1f}")
    expect(page.get_by_label("Problems")).to_contain_text("below the plan")
    assert "1 of" in _spine(page, "Readings")

    # Handover
    page.get_by_role("link", name=re.compile("^8 Handover")).click()
    _type(page, "Customer", "The keeper")
    sheet = page.get_by_role("article", name="Job sheet")
    for words in ("Plover Cottage", "The keeper", "135.8° true", "12.5 m", "Loft room"):
        expect(sheet).to_contain_text(words)

    before = {
        key: _spine(page, key)
        for key in ("Site", "Sky", "Aim", "Mast", "Earth", "Coax", "Readings")
    }
    page.reload()
    expect(page.get_by_role("article", name="Job sheet")).to_contain_text("The keeper")
    assert {key: _spine(page, key) for key in before} == before

    # What was read on site stays: undo goes back to the part at which it was read, and says so.
    button = page.get_by_role("button", name=re.compile("^Undo"))
    refused = page.get_by_role("alert").filter(has_text="a reading was taken since")
    for _ in range(12):
        with page.expect_response(lambda r: "/undo" in r.url) as answer:
            button.click()
        if not answer.value.ok:
            break
        expect(page.locator("[aria-live=polite]")).to_contain_text("kept")
    expect(refused).to_contain_text("Remove the reading first")
    assert f'"level_dbuv": {planned - 8:.1f}' in _export(server, page).decode()


def test_typing_does_not_trigger_keys_and_bad_text_stays(page: Page) -> None:
    page.goto("/jobs/skerry-house/coax")
    page.locator("#network-p18").click()
    field = page.get_by_label("Cable length, m", exact=True)
    before = field.input_value()
    field.fill("10 km")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Cable length: 10000 m is too large")
    expect(field).to_have_value("10 km")
    expect(page.get_by_role("heading", name="Coax, Skerry House")).to_be_attached()
    field.fill("2 pdnul/")
    assert page.url.endswith("/coax")
    field.press("Escape")
    expect(field).to_have_value(before)


def test_the_fix_of_the_garden_room_by_keyboard(page: Page) -> None:
    page.goto("/jobs/skerry-house/coax")
    expect(page.get_by_label("Answer")).to_contain_text("11")
    page.locator("body").click(position={"x": 600, "y": 20})
    page.keyboard.press("f")
    expect(page.get_by_role("status")).to_contain_text("It will do this: Pull the 48 m in 10 mm")
    expect(page.get_by_role("button", name="Outlet Garden room, fail")).to_be_attached()
    with page.expect_response(lambda r: r.url.endswith("/changes")):
        page.keyboard.press("f")
    expect(page.get_by_role("button", name=re.compile("Outlet Garden room"))).not_to_have_attribute(
        "aria-label", re.compile("fail$")
    )
    with page.expect_response(lambda r: r.url.endswith("/undo")):
        page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Outlet Garden room, fail")).to_be_attached()


def test_arrows_walk_the_run(page: Page) -> None:
    page.goto("/jobs/skerry-house/coax")
    page.locator("#network-p18").click()
    page.locator("#network-p18").focus()
    for key, part in (
        ("ArrowUp", "p17"),
        ("ArrowLeft", "p6"),
        ("ArrowLeft", "p5"),
        ("ArrowRight", "p6"),
    ):
        page.keyboard.press(key)
        expect(page.locator(f"#network-{part}[aria-pressed=true]")).to_be_attached()


# Presses keys one after another without a frame between them, as a held key may.
PRESSED = """
(keys) => {
  for (const key of keys) {
    document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  }
}
"""


def test_arrows_in_quick_succession_each_go_on_from_the_last(page: Page) -> None:
    page.goto("/jobs/skerry-house/coax")
    page.locator("#network-p18").click()
    page.locator("#network-p18").focus()
    page.evaluate(PRESSED, ["ArrowUp", "ArrowLeft", "ArrowLeft"])
    expect(page.locator("#network-p5")).to_be_focused()
    expect(page.locator("#network-p5[aria-pressed=true]")).to_be_attached()


def test_units_levels_north_and_theme_switch_and_are_kept(page: Page) -> None:
    page.goto("/jobs/skerry-house/sky")
    page.locator("body").click(position={"x": 700, "y": 20})
    for key in ("u", "l", "n", "d"):
        page.keyboard.press(key)
    expect(page.get_by_label("Mount above ground, ft")).to_have_value("24.3")
    expect(page.get_by_label("Targets", exact=True)).to_contain_text("bearing °M")
    expect(page.get_by_label("Targets", exact=True)).to_contain_text("138.5")
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-theme", "night")
    _type(page, "Mount above ground, ft", "24,6")
    expect(page.get_by_label("Mount above ground, ft")).to_have_value("24.6")
    page.keyboard.press("Tab")


def test_the_command_box_finds_stations_and_parts(page: Page) -> None:
    page.goto("/jobs/skerry-house/site")
    page.locator("body").click(position={"x": 700, "y": 20})
    page.keyboard.press("/")
    page.get_by_role("dialog").get_by_role("combobox").fill("network garden")
    page.get_by_role("option", name=re.compile("Garden room")).click()
    expect(page.get_by_label("Sheet").get_by_role("heading", name="Garden room")).to_be_visible()


def test_a_window_behind_writes_elsewhere_in_the_job_and_shows_the_newest(
    page: Page, server: Server
) -> None:
    page.goto("/jobs/fern-cottage/handover")
    expect(page.get_by_label("Installer", exact=True)).to_have_value("A. Mender")
    seen = page.request.get("/api/jobs/fern-cottage").json()["revision"]
    page.request.post(
        "/api/jobs/fern-cottage/changes",
        data={"verb": "set", "rows": "handover", "values": {"installer": "Someone else"}},
        headers={"If-Match": str(seen)},
    )
    field = page.get_by_label("Remarks", exact=True)
    field.fill("left the ladder")
    # The first is refused, as the window is behind; the newest is read and the change sent once more.
    with page.expect_response(lambda r: r.url.endswith("/changes") and r.ok):
        field.press("Enter")
    expect(page.get_by_label("Installer", exact=True)).to_have_value("Someone else")
    expect(field).to_have_value("left the ladder")
    expect(page.get_by_role("alert")).to_have_count(0)
    kept = page.request.get("/api/jobs/fern-cottage").json()["job"]["handover"]
    assert (kept["installer"], kept["remarks"]) == ("Someone else", "left the ladder")


def test_import_of_a_wrong_file_is_told(page: Page) -> None:
    page.goto("/")
    page.get_by_label("Job file").set_input_files(
        {"name": "list.json", "mimeType": "application/json", "buffer": b"eggs, milk"}
    )
    expect(page.get_by_role("alert")).to_contain_text("not a JSON document")


def test_a_job_is_walked_on_a_phone_danger_first(phone: Page) -> None:
    for job in copied(phone, demo_jobs()["skerry-house"]):
        open_gates(phone, job.rpartition("/")[2], "aim")
        phone.goto(f"{job}/aim/do")
        expect(phone.get_by_text("Step 1 of")).to_be_visible()
        done = phone.get_by_role("button", name=re.compile("^Done"))
        expect(done).to_be_disabled()
        phone.get_by_label("Who looked").fill("A. Mender")
        phone.get_by_label("I am clipped on").check()
        expect(done).to_be_enabled()
        done.click()
        expect(phone.get_by_text("Step 2 of")).to_be_visible()
        expect(phone.get_by_role("region", name=re.compile("Step 2"))).to_contain_text(
            "Every lock loose"
        )
        phone.get_by_role("button", name="All snug").click()
        done.click()
        expect(phone.get_by_role("region", name=re.compile("Step 3"))).to_contain_text("84")
        phone.get_by_label("It reads, °").fill("84,9")
        phone.get_by_label("It reads, °").press("Enter")
        expect(
            phone.get_by_role("region", name=re.compile("Step 3")).get_by_text("OK", exact=True)
        ).to_be_visible()
        fits_a_phone(phone)


PLANS = [
    "site",
    "sky",
    "aim",
    "mast",
    "earth",
    "coax",
    "readings",
    "handover",
    *(f"sky?page={p}" for p in ("places", "sun", "link", "frequencies")),
    *(f"aim?page={p}" for p in ("find", "which", "tools", "row", "feed")),
]


@pytest.mark.parametrize(
    "paths",
    [
        [f"skerry-house/{p}" for p in PLANS],
        ["alder-terrace/aim", "kauri-flat/aim", "tern-hut/aim?page=twoway", "fjell-caravan/aim"],
    ],
    ids=["one-job", "other-jobs"],
)
def test_every_plan_is_usable_on_a_phone(phone: Page, paths: list[str]) -> None:
    phone.goto(f"/jobs/{paths[0]}")
    for path in paths:
        go(phone, f"/jobs/{path}")
        expect(phone.get_by_role("heading", level=1)).to_be_attached()
        assert phone.evaluate("document.documentElement.scrollWidth") <= 390, path
