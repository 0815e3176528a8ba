"""Dish jobs driven in the real interface: survey, several satellites, motor, peaking, identity,
a quick portable job on the phone."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.world import demo_jobs

from .conftest import copied, open_gates


@pytest.fixture
def house(page: Page) -> Iterator[str]:
    """A copy of the demo house of this test's own."""
    yield from _copy(page, "skerry-house")


def _copy(page: Page, name: str) -> Iterator[str]:
    yield from copied(page, demo_jobs()[name])


def _type(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    with page.expect_response(lambda r: r.request.method in ("PATCH", "PUT", "POST")):
        field.press("Enter")


def test_a_survey_with_three_obstructions_and_the_remedy_taken(page: Page) -> None:
    page.goto("/")
    page.get_by_placeholder("Name").fill("Beacon End")
    page.get_by_role("button", name="Start the job").click()
    _type(page, "Position", "53.4805 N 9.9720 W")
    page.goto(re.sub("/site.*", "/sky", page.url))
    page.get_by_label("Target name").fill("Corvus")
    page.get_by_label("Orbit position").fill("28 E")
    page.get_by_role("button", name="Add target").click()
    targets = page.get_by_role("region", name="Targets")
    expect(targets).to_contain_text("Corvus")
    for line in ("barn 120 128 15 at 40m", "ash tree 130 142 17 at 22m", "mill 200 210 30 at 60m"):
        _type(page, "Add what is in the way", line)
    answer = page.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("0of1")
    expect(targets).to_contain_text("fail")
    problems = page.get_by_role("region", name="Problems")
    expect(problems).to_contain_text("ash tree is too close to Corvus")
    problems.get_by_label(re.compile("^Raise the mount")).check()
    # The effect is seen before it is taken.
    expect(page.get_by_text("with the remedy tried")).to_be_visible()
    expect(problems).to_contain_text("Shown dashed in the picture")
    problems.get_by_role("button", name=re.compile("^Raise")).click()
    expect(answer).to_contain_text("1of1")
    expect(targets).to_contain_text("marginal")
    expect(problems).to_contain_text("Every target stands clear")


def test_growth_closes_a_view_in_a_year(page: Page, house: str) -> None:
    page.goto(f"{house}/sky")
    answer = page.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("2028")
    _type(page, "Row of sycamores grows a year, m", "0,1")
    expect(answer).not_to_contain_text("2028")
    _type(page, "Summers to look ahead", "0")
    expect(answer).to_contain_text("3of3")


def test_the_top_of_an_obstruction_is_dragged(page: Page, house: str) -> None:
    page.goto(f"{house}/sky")
    field = (
        page.get_by_label("Chapel up to, °T")
        if page.get_by_label("Chapel up to, °T").count()
        else page.get_by_label(re.compile("^Chapel up to"))
    )
    expect(field).to_have_value("17.0")
    shape = page.locator("path.cursor-ns-resize").nth(1)
    box = shape.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] - 12
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 20, steps=4)
    with page.expect_response(lambda r: "/changes" in r.url):
        page.mouse.up()
    expect(field).to_have_value("21.0")


@pytest.mark.parametrize(
    ("side", "by", "field", "value"),
    [(0, -25, "from,", "113.0"), (1, 15, "to,", "129.0"), (0, 400, "from,", "125.0")],
)
def test_a_side_of_an_obstruction_is_dragged(
    page: Page, house: str, side: int, by: int, field: str, value: str
) -> None:
    """Five pixels a degree; a side stops a degree before the other one."""
    page.goto(f"{house}/sky")
    kept = page.get_by_label(re.compile(f"^Chapel {field}"))
    before = kept.input_value()
    # The sides of the second thing that is wide enough to have them.
    grip = page.locator("rect.cursor-ew-resize").nth(2 + side)
    box = grip.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + by, y, steps=4)
    expect(page.get_by_role("img", name=re.compile("^Skyline"))).to_contain_text("°T")
    with page.expect_response(lambda r: "/changes" in r.url):
        page.mouse.up()
    expect(kept).not_to_have_value(before)
    expect(kept).to_have_value(value)
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(kept).to_have_value(before)


def test_places_are_compared_and_one_is_taken(page: Page, house: str) -> None:
    page.goto(f"{house}/sky?page=places")
    places = page.get_by_role("region", name="Places to mount")
    expect(places).to_contain_text("best")
    row = places.get_by_role("row").filter(has=page.get_by_label("Name of North-east corner"))
    row.get_by_role("button", name="show").click()
    expect(page.get_by_text("with the remedy tried")).to_be_visible()
    row.get_by_role("button", name="Mount here").click()
    expect(page.get_by_role("region", name="Answer")).to_contain_text("3of3")
    expect(page.get_by_label("Name of Mount before")).to_be_visible()


def test_the_sun_and_its_calendar(page: Page, house: str) -> None:
    page.goto(f"{house}/sky?page=sun")
    _type_no_write(page, "Day of the sun", "2026-06-21")
    sun = page.get_by_role("region", name="Bearing by the sun")
    expect(sun).to_contain_text("2026-06-21")
    expect(page.get_by_role("region", name="View check and outage")).to_contain_text("Outage: 02-2")
    with page.expect_download() as got:
        page.get_by_role("link", name="Sun events as a calendar file").click()
    assert "BEGIN:VCALENDAR" in Path(got.value.path()).read_text()
    _type_no_write(page, "Day of the sun", "someday")
    expect(page.get_by_role("alert")).to_contain_text("is not a date")


def _type_no_write(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Enter")


def test_the_link_with_its_rain_and_a_larger_dish(page: Page, house: str) -> None:
    page.goto(f"{house}/sky?page=link")
    expect(page.get_by_role("region", name="Link waterfall")).to_contain_text("dBµV at the LNB")
    expect(page.get_by_text("ITU-R P.837-7")).to_be_visible(timeout=60_000)
    first = page.get_by_role("row").filter(has_text="V 10.714").first
    before = first.inner_text()
    _type(page, "Dish diameter, m", "1,2")
    expect(first).not_to_have_text(before, use_inner_text=True)
    page.get_by_role("button", name=re.compile("H 12.738")).click()
    expect(page.get_by_role("region", name="Link waterfall")).to_contain_text("H 12.738")
    page.get_by_text("Every term and where it comes from").click()
    expect(page.get_by_role("region", name="Link waterfall")).to_contain_text(
        "distance and frequency"
    )


def test_a_wrong_oscillator_is_shown(page: Page, house: str) -> None:
    page.goto(f"{house}/sky?page=frequencies")
    expect(page.get_by_text("Tell the receiver")).to_be_visible()
    _type_no_write(page, "Oscillator the receiver was told", "10,75 GHz")
    expect(page.get_by_role("region", name="Wrong oscillator")).to_contain_text("nothing")
    _type_no_write(page, "Oscillator the receiver was told", "often")
    expect(page.get_by_role("alert")).to_contain_text("is not a number")


def test_five_satellites_on_one_dish(page: Page) -> None:
    for path in _copy(page, "alder-terrace"):
        page.goto(f"{path}/aim")
        row = page.get_by_role("region", name="Row of feeds")
        expect(row).to_contain_text("Tilt the bar 9.6° anticlockwise")
        feeds = page.get_by_role("region", name="Satellites of this dish")
        for name in ("Whimbrel", "Kittiwake", "Redshank", "Guillemot", "Garganey"):
            expect(feeds).to_contain_text(name)
        # A wider LNB leaves no room between neighbours.
        expect(feeds).not_to_contain_text("fail")
        _type(page, "LNB width, mm", "60")
        expect(feeds).to_contain_text("fail")
        feeds.get_by_label("One more satellite").select_option(label="Pochard 28.5° E")
        feeds.get_by_role("button", name="Add to this dish").click()
        expect(feeds.get_by_role("row", name=re.compile("Pochard"))).to_be_visible()
        feeds.get_by_label("Zone", exact=True).fill("zone 3")
        feeds.get_by_label("Tilt of the zone").fill("79")
        feeds.get_by_role("button", name="Add zone").click()
        expect(feeds).to_contain_text("Zone zone 3 is nearest")


def test_a_motor_and_what_a_wrong_pole_does(page: Page) -> None:
    for path in _copy(page, "kauri-flat"):
        page.goto(f"{path}/aim")
        arc = page.get_by_role("region", name="Satellites on the arc")
        expect(arc.get_by_role("row", name=re.compile("Booby"))).to_contain_text(
            "the motor ends at 60°"
        )
        _type(page, "Motor reaches, °", "65")
        expect(arc.get_by_role("row", name=re.compile("Booby"))).to_contain_text("OK")
        worst = page.get_by_role("region", name="Motor arc")
        expect(worst).to_contain_text("0.11 °")
        _type(page, "Pole out of plumb, °", "3")
        expect(worst).to_contain_text("fail")
        expect(page.get_by_text("the dish looking due north")).to_be_visible()


def test_peaking_from_typed_readings_to_the_instruction(page: Page, house: str) -> None:
    page.goto(f"{house}/aim")
    told = page.get_by_role("region", name="Instruction")
    expect(told).to_contain_text("Go back left")
    expect(told).to_contain_text("1.4")
    page.get_by_role("tab", name=re.compile("elevation")).click()
    readings = page.get_by_role("region", name="Readings", exact=True)
    for position, reading in (
        ("-2", "8,0"),
        ("-1", "12,1"),
        ("0", "14,0"),
        ("1", "13,7"),
        ("2", "11,4"),
        ("3", "7"),
    ):
        readings.get_by_label("Position", exact=True).fill(position)
        readings.get_by_label("Reading", exact=True).fill(reading)
        with page.expect_response(lambda r: r.request.method == "POST"):
            readings.get_by_role("button", name="Write").click()
        expect(readings.get_by_label("Position", exact=True)).to_have_value("")
    expect(told).to_contain_text("Go back anticlockwise")
    expect(told).to_contain_text("2½")
    expect(told).to_contain_text("turns")
    readings.get_by_label("Position", exact=True).fill("up there")
    readings.get_by_label("Reading", exact=True).fill("9")
    readings.get_by_role("button", name="Write").click()
    expect(readings.get_by_role("alert")).to_contain_text("is not a number")


def test_a_wrong_neighbour_is_identified(page: Page, house: str) -> None:
    page.goto(f"{house}/aim?page=which")
    who = page.get_by_role("region", name="Which satellite is it")
    expect(who).to_contain_text("Nothing has locked yet")
    what = page.get_by_role("region", name="What locked")
    for frequency in ("11597", "10714"):
        what.get_by_label("Frequency that was tried").fill(frequency)
        what.get_by_label("Symbol rate that was tried").fill("22")
        what.get_by_role("button", name="It locks").click()
        expect(what).to_contain_text(f"{frequency} V")
    expect(who).to_contain_text("This is Avocet, not Corvus")
    expect(who).to_contain_text(re.compile(r"Turn \d\.\d° left"))


def test_the_search_plan_and_the_error_budget(page: Page, house: str) -> None:
    page.goto(f"{house}/aim?page=find")
    plan = page.get_by_role("region", name="Search plan")
    expect(plan).to_contain_text("1 pass")
    _type(page, "Tool good to, °", "3")
    expect(plan).to_contain_text("passes")
    expect(page.get_by_role("region", name="How good is good enough")).to_contain_text("fail")


def test_tries_of_a_feed(page: Page) -> None:
    for path in _copy(page, "kauri-flat"):
        page.goto(f"{path}/aim?page=feed")
        log = page.get_by_role("region", name="Log of tries")
        expect(log).to_contain_text("Set sideways to 5 mm")
        log.get_by_role("button", name="fill in the next try").click()
        log.get_by_label("Try, reads dB").fill("7,1")
        log.get_by_role("button", name="Log it").click()
        expect(log).to_contain_text("Set sideways to -5 mm")
        expect(page.get_by_role("region", name="Reflector")).to_contain_text("911 mm")


def test_a_terminal_stays_shut_without_a_certificate(page: Page) -> None:
    for path in _copy(page, "tern-hut"):
        page.goto(f"{path}/aim?page=twoway")
        expect(page.get_by_text("may be switched to transmit")).to_be_visible()
        page.get_by_label("The certificate was seen").uncheck()
        expect(page.get_by_text("It must not transmit yet")).to_be_visible()
        out = page.get_by_role("region", name="People kept out")
        _type(page, "Transmit power", "60")
        expect(out).to_contain_text(re.compile(r"\d\d\.\d m"))


def test_a_quick_portable_job_on_the_phone(phone: Page) -> None:
    phone.goto("/quick")
    phone.get_by_label("GPX file").set_input_files(
        {
            "name": "tour.gpx",
            "mimeType": "application/gpx+xml",
            "buffer": b'<gpx><wpt lat="68.14" lon="15.42"><name>Lay-by</name></wpt>'
            b'<wpt lat="70.47" lon="24.93"><name>Bay</name></wpt></gpx>',
        }
    )
    expect(phone.get_by_label("Where are you")).to_have_value("68.140000 N 15.420000 E")
    phone.get_by_label("Which satellite, by its orbit").fill("16,0 E")
    phone.get_by_label("Dish, m wide").fill("0,85")
    phone.get_by_role("button", name="Show the figures").click()
    figures = phone.get_by_role("region", name="Figures")
    expect(figures).to_contain_text("turn it, by compass")
    expect(figures).to_contain_text("beam 13.4° up")
    expect(phone.get_by_role("region", name="Search plan")).to_contain_text("elevation 13.4°")
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    field = phone.get_by_label("Position of the next stop")
    field.fill("70.468 N 24.93 E")
    field.press("Enter")
    phone.get_by_role("button", name="Set up here").click()
    expect(figures).to_contain_text("beam 10.8° up")


def test_peaking_with_the_simulated_meter_on_the_phone(phone: Page) -> None:
    open_gates(phone, "tern-hut")
    phone.goto("/jobs/tern-hut/aim/do")
    steps = phone.request.get("/api/jobs/tern-hut").json()["answers"]["steps"]["aim"]
    for step in steps[: next(n for n, s in enumerate(steps) if s["key"] == "aim.a1.peak")]:
        revision = phone.request.get("/api/jobs/tern-hut").json()["revision"]
        seen = {t["key"]: {"state": t["good"][-1]} for t in step["things"]}
        phone.request.post(
            "/api/jobs/tern-hut/changes",
            data={"verb": "tick", "step": step["key"], "done": True, "seen": seen},
            headers={"If-Match": str(revision)},
        )
    phone.reload()
    expect(phone.get_by_role("heading", name=re.compile("Find both falling edges"))).to_be_visible()
    phone.get_by_label("Simulated meter").check()
    expect(phone.get_by_text(re.compile("^(locks|no lock)$"))).to_be_visible()
    phone.get_by_role("tab", name="elevation").click()
    for _ in range(5):
        with phone.expect_response(lambda r: r.request.method == "POST" and "/meter" in r.url):
            phone.get_by_role("button", name="Turn on").click()
        with phone.expect_response(lambda r: "/changes" in r.url):
            phone.get_by_role("button", name="Write this reading").click()
    assert len(phone.request.get("/api/jobs/tern-hut").json()["job"]["samples"]) >= 11
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    # Highest contrast for the sun, and back.
    phone.get_by_label("Highest contrast, for the sun").click()
    expect(phone.locator("html")).to_have_attribute("data-theme", "sun")
    phone.get_by_label("Highest contrast, for the sun").click()
    expect(phone.locator("html")).not_to_have_attribute("data-theme", "sun")


def test_a_list_of_satellites_comes_in_with_its_broken_line_told(page: Page, house: str) -> None:
    page.goto(f"{house}/sky")
    page.get_by_label("List of satellites").set_input_files(
        {
            "name": "list.csv",
            "mimeType": "text/csv",
            "buffer": (
                b"satellite,orbit_deg_e,polarisation_offset_deg,circular,inclination_deg,wanted,transponder,"
                b"frequency_mhz,symbol_rate_mbd,polarisation,eirp_dbw,modulation\n"
                b"Curlew,33 E,0,no,0,no,H 11.2,11200,0,H,50,DVB-S2 8PSK 2/3\n"
                b"Curlew,33 E,0,no,0,no,H 11.3,11300,22,H,50,DVB-S2 8PSK 2/3\n"
            ),
        }
    )
    targets = page.get_by_role("region", name="Targets")
    expect(targets.get_by_role("alert")).to_contain_text("0 MBd")
    targets.get_by_text("6 others on the arc").click()
    expect(targets).to_contain_text("Curlew")


def test_the_tools_page_turns_the_schools(page: Page, house: str) -> None:
    page.goto(f"{house}/aim?page=tools")
    tool = page.get_by_role("region", name="Inclinometer")
    expect(tool.get_by_role("row", name=re.compile("rim to rim"))).to_contain_text("84.8")
    page.get_by_label("The dish hangs upside down, its feed arm above").check()
    expect(tool.get_by_role("row", name=re.compile("^face, from plumb"))).to_contain_text("44.8")
    page.get_by_label("The dish hangs upside down, its feed arm above").uncheck()
    _type_no_write(page, "Reading on the peaked satellite", "86,2")
    expect(page.get_by_label("Scale reads too high by, °")).to_have_value("1.38")
    expect(page.get_by_label("Answer")).to_contain_text("86.2")
    _type_no_write(page, "Reading on the peaked satellite", "361")
    expect(page.get_by_role("alert")).to_contain_text("off")
    skew = page.get_by_role("region", name="Skew")
    skew.get_by_label("What skew turns").select_option(label="the whole dish")
    skew.get_by_label("Tilt scale at level").select_option("90")
    expect(skew).to_contain_text("reads 90 at level shows 65.3")
    skew.get_by_label("Coarse aim sets first").select_option(
        label="the bearing first, then sweeps up and down"
    )
    page.get_by_role("tab", name="Find").click()
    expect(page.get_by_role("region", name="Search plan")).to_contain_text("up")
    page.goto(f"{house}/aim?page=tools")
    page.get_by_label("Mounting").select_option(label="motorised on a polar axis")
    expect(page.get_by_role("tab", name="Motor")).to_be_visible()


def test_undo_goes_back_over_everything_on_a_dish(page: Page, house: str) -> None:
    page.goto(f"{house}/aim")
    readings = page.get_by_role("region", name="Readings", exact=True)
    expect(readings.get_by_role("row")).to_have_count(8)
    readings.get_by_role("button", name="Begin this axis anew").click()
    expect(page.get_by_text("No reading on this axis yet")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(readings.get_by_role("row")).to_have_count(8)
    readings.get_by_role("button", name="Remove the reading at 1", exact=True).click()
    expect(readings.get_by_role("row")).to_have_count(7)
    page.keyboard.press("Control+z")
    expect(readings.get_by_role("row")).to_have_count(8)
    page.keyboard.press("Control+Shift+z")
    expect(readings.get_by_role("row")).to_have_count(7)


def test_percent_readings_with_a_flat_top_use_the_edges(page: Page, house: str) -> None:
    page.goto(f"{house}/aim")
    page.get_by_role("tab", name=re.compile("skew")).click()
    readings = page.get_by_role("region", name="Readings", exact=True)
    readings.get_by_label("Position in").select_option("deg")
    readings.get_by_label("Reading in").select_option("pct")
    for position, reading in (
        ("-20", "40"),
        ("-10", "90"),
        ("0", "90"),
        ("10", "90"),
        ("20", "60"),
        ("30", "20"),
    ):
        readings.get_by_label("Position", exact=True).fill(position)
        readings.get_by_label("Reading", exact=True).fill(reading)
        with page.expect_response(lambda r: r.request.method == "POST"):
            readings.get_by_role("button", name="Write").click()
        expect(readings.get_by_label("Position", exact=True)).to_have_value("")
    told = page.get_by_role("region", name="Instruction")
    expect(told).to_contain_text("anticlockwise")
    expect(told).to_contain_text("flat top")


def test_a_vehicles_roof_is_judged(page: Page) -> None:
    for path in _copy(page, "fjell-caravan"):
        page.goto(f"{path}/aim")
        base = page.get_by_role("region", name="Base")
        base.get_by_label("Stands on").select_option(label="a vehicle's roof")
        _type(page, "Gap under the base, mm", "9")
        expect(base).to_contain_text("fail")
        _type(page, "Nearest thing on the roof, mm", "700")
        _type(page, "Its height above the roof, mm", "260 mm")
        expect(page.get_by_role("region", name="Problems")).to_contain_text("reflector's circle")
        with page.expect_response(lambda r: r.url.endswith("/changes")):
            page.get_by_label("Stowed before travel").check()
        page.goto(f"{path}/mast/do")
        expect(page.get_by_text("Level the base").first).to_be_visible()


def test_the_next_stop_turns_the_figures_and_keeps_the_zero(page: Page) -> None:
    for path in _copy(page, "fjell-caravan"):
        page.goto(f"{path}/aim")
        figures = page.get_by_role("region", name="Figures")
        expect(figures).to_contain_text("Lichen Lay-by")
        expect(figures).to_contain_text("beam 13.4° up")
        page.get_by_role("button", name="Set up here").click()
        expect(figures).to_contain_text("Cloudberry Bay")
        expect(figures).to_contain_text("beam 10.8° up")
        expect(page.get_by_text("known to read")).to_contain_text("1.2°")
        page.get_by_label("GPX file").set_input_files(
            {"name": "x.gpx", "mimeType": "application/gpx+xml", "buffer": b"<gpx></gpx>"}
        )
        expect(page.get_by_role("region", name="Stops").get_by_role("alert")).to_contain_text(
            "no position"
        )


def test_beams_come_in_from_a_file(page: Page) -> None:
    for path in _copy(page, "tern-hut"):
        page.goto(f"{path}/aim?page=twoway")
        beams = page.get_by_role("region", name="Beam", exact=True)
        expect(beams).to_contain_text("North Skerries")
        shape = "[[-9,60],[-5,60],[-5,63],[-9,63],[-9,60]]"
        crossed = "[[0,0],[9,9],[9,0],[0,9],[0,0]]"
        rows = ",".join(
            f'{{"type":"Feature","properties":{{"name":"{n}","code":"Z"}},'
            f'"geometry":{{"type":"Polygon","coordinates":[{s}]}}}}'
            for n, s in (("New spot", shape), ("Bow tie", crossed))
        )
        page.get_by_label("Beam file").set_input_files(
            {
                "name": "b.geojson",
                "mimeType": "application/geo+json",
                "buffer": f'{{"type":"FeatureCollection","features":[{rows}]}}'.encode(),
            }
        )
        expect(beams).to_contain_text("New spot")
        expect(beams.get_by_role("alert")).to_contain_text("crosses side")
        beams.get_by_role("row", name=re.compile("New spot")).get_by_role(
            "button", name="choose"
        ).click()
        expect(beams.get_by_role("row", name=re.compile("New spot"))).to_contain_text("chosen")


def test_below_the_horizon_is_said_before_the_figures(page: Page, house: str) -> None:
    page.goto(f"{house}/site")
    _type(page, "Position", "53.48 N 170 E")
    page.goto(f"{house}/aim")
    expect(page.get_by_role("alert")).to_contain_text("Corvus stands below the horizon here")
    page.goto(f"{house}/sky")
    expect(page.get_by_role("region", name="Problems")).to_contain_text("stands below the horizon")


def test_a_satellites_own_tilt_and_swing_are_typed_with_it(page: Page, house: str) -> None:
    page.goto(f"{house}/sky")
    page.get_by_role("button", name="4 carriers").click()
    _type(page, "Own tilt of Corvus, °", "3,5")
    _type(page, "Orbit inclination of Corvus, °", "1.2")
    page.goto(f"{house}/aim?page=find")
    expect(page.get_by_role("region", name="Search plan")).to_contain_text("swings 1.2°")
    page.goto(f"{house}/sky")
    page.get_by_role("button", name="4 carriers").click()
    with page.expect_response(lambda r: r.url.endswith("/changes")):
        page.get_by_label("Circular, needs no skew").check()
    page.goto(f"{house}/aim")
    expect(page.get_by_label("Answer")).to_contain_text("no turn")


def test_the_compass_leads_the_search_when_it_is_switched(page: Page, house: str) -> None:
    page.goto(f"{house}/aim?page=find")
    plan = page.get_by_role("region", name="Search plan")
    expect(plan).to_contain_text("°T")
    page.keyboard.press("n")
    expect(plan).to_contain_text("°M")
    page.keyboard.press("n")
    expect(plan).to_contain_text("°T")


def test_a_refused_quick_job_keeps_what_was_typed(phone: Page) -> None:
    phone.goto("/quick")
    phone.get_by_label("Where are you").fill("somewhere north")
    phone.get_by_label("Which satellite, by its orbit").fill("16 E")
    phone.get_by_role("button", name="Show the figures").click()
    expect(phone.get_by_role("alert")).to_contain_text("Position")
    expect(phone.get_by_label("Where are you")).to_have_value("somewhere north")
    phone.get_by_label("Where are you").fill("68 N 15 E")
    phone.get_by_label("Which satellite, by its orbit").fill("200 Q")
    phone.get_by_role("button", name="Show the figures").click()
    expect(phone.get_by_role("alert")).to_contain_text("Orbit position")
    phone.get_by_label("Which satellite, by its orbit").fill("16 E")
    phone.get_by_label("Dish, m wide").fill("0")
    phone.get_by_role("button", name="Show the figures").click()
    expect(phone.get_by_role("alert")).to_contain_text("0.2 m")
