"""Round the jobs: the list, settings that hold everywhere, parts, keys; the same figure in every unit."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from evtro.demo.world import demo_jobs

from .conftest import imported, kept_job, on_this_device, remove, settled

STATIONS = ("Site", "Sky", "Aim", "Mast", "Earth", "Coax", "Readings", "Handover")
M_IN_FOOT = 0.3048  # exact, international foot


@pytest.fixture
def job(page: Page) -> Iterator[str]:
    """A copy of the demo house of this test's own."""
    job_id = imported(page, "skerry-house")
    yield job_id
    remove(page, job_id)


def _set(page: Page, **values: str) -> None:
    on_this_device(page, **values)


def test_the_list_says_for_each_job_what_is_next(page: Page) -> None:
    page.goto("/")
    for summary in page.request.get("/api/jobs").json()["jobs"]:
        if summary["id"] not in demo_jobs():
            continue
        # Only what is in view is on the page: other tests' jobs may push it down.
        page.get_by_label("Find by name or place").fill(summary["name"])
        row = (
            page.get_by_role("listitem")
            .filter(has=page.get_by_role("link", name=summary["name"], exact=True))
            .first
        )
        figures = [p for p in summary["next"] if not isinstance(p, str)]
        for said in [p for p in summary["next"] if isinstance(p, str)] or ["nothing is open"]:
            expect(row).to_contain_text(said.strip())
        for one in figures:
            expect(row).to_contain_text(f"{one['value']:.{one['digits']}f}")
        for station in summary["stations"]:
            mark = row.get_by_role("link", name=re.compile(f"^{station['name']}, "))
            expect(mark).to_have_attribute("href", re.compile(f"/{station['key']}$"))


def test_a_mark_of_the_list_leads_to_its_station(page: Page) -> None:
    page.goto("/")
    for station in STATIONS:
        page.get_by_label("Find by name or place").fill("Skerry House")
        row = page.get_by_role("listitem").filter(has_text="Skerry House").first
        row.get_by_role("link", name=re.compile(f"^{station}, ")).click()
        expect(page.get_by_role("heading", level=1)).to_contain_text(station)
        page.go_back()


def test_a_removal_is_asked_first_and_can_be_taken_back(
    page: Page, job: str, tmp_path: Path
) -> None:
    page.set_viewport_size({"width": 1280, "height": 4000})  # only rows in view are on the page
    page.goto("/")
    row = page.get_by_role("listitem").filter(has=page.locator(f"a[href='/jobs/{job}/site']")).first
    with page.expect_download() as saved:
        row.get_by_role("link", name=re.compile("^Export")).click()
    file = tmp_path / "kept.json"
    saved.value.save_as(file)
    assert json.loads(file.read_text())["job"]["name"] == "Skerry House"
    before = page.request.get(f"/api/jobs/{job}").json()
    ask = page.get_by_role("dialog")
    row.get_by_role("button", name=re.compile("^Remove")).click()
    expect(ask).to_contain_text("revision 0")
    expect(ask).to_contain_text("thirty days")
    ask.get_by_role("button", name="Keep it").click()
    expect(ask).to_have_count(0)
    assert page.request.get(f"/api/jobs/{job}").ok
    row.get_by_role("button", name=re.compile("^Remove")).click()
    # Somebody else is at the job meanwhile: it is asked again, of the newest state.
    page.request.post(
        f"/api/jobs/{job}/changes",
        data={"verb": "set", "rows": "job", "values": {"place": "Elsewhere"}},
        headers={"If-Match": "0"},
    )
    ask.get_by_role("button", name="Remove revision 0").click()
    expect(ask.get_by_role("alert")).to_contain_text("Changed elsewhere")
    ask.get_by_role("button", name="Remove revision 1").click()
    expect(row).to_have_count(0)
    expect(page.get_by_role("status").filter(has_text="is removed")).to_be_visible()
    assert page.request.get(f"/api/jobs/{job}").status == 404
    page.get_by_text("Removed in the last thirty days").click()
    gone = page.request.get("/api/jobs/removed").json()
    at = [g["id"] for g in gone].index(job)
    page.get_by_role("button", name="Take back").nth(at).click()
    expect(row).to_be_visible()
    after = page.request.get(f"/api/jobs/{job}").json()
    assert after["job"] == {**before["job"], "place": "Elsewhere"}
    assert after["undo"] == "change the job"


@pytest.mark.parametrize(
    ("content", "words"),
    [
        ("", "empty"),
        ("{}", ""),
        ('{"format": "evtro-job"}', ""),
        ("nonsense", "JSON"),
        ("[" * 3000, ""),
    ],
)
def test_a_file_that_is_no_job_is_told_on_the_list(
    page: Page, tmp_path: Path, content: str, words: str
) -> None:
    file = tmp_path / "job.json"
    file.write_text(content)
    page.goto("/")
    page.get_by_label("Job file").set_input_files(file)
    alert = page.get_by_role("alert")
    expect(alert).to_be_visible()
    assert words.lower() in alert.inner_text().lower()
    expect(page).to_have_url(re.compile(r"/$"))


def test_settings_are_chosen_on_their_page_and_hold_at_once(page: Page, job: str) -> None:
    page.goto("/settings")
    for label, value in (
        ("Theme", "night"),
        ("Units", "us"),
        ("Level unit", "dbmv"),
        ("North", "compass"),
    ):
        page.get_by_label(label, exact=True).select_option(value)
    expect(page.locator("html")).to_have_attribute("data-theme", "night")
    page.goto(f"/jobs/{job}/coax")
    expect(page.get_by_role("banner").or_(page.locator("header")).first).to_contain_text("dBmV")
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-theme", "night")
    page.goto("/settings")
    expect(page.get_by_label("Units", exact=True)).to_have_value("us")


def test_a_level_is_one_level_in_every_unit(page: Page, job: str) -> None:
    """dBmV is dBµV less 60; dBm in 75 ohm is dBµV less 108.75."""
    page.goto(f"/jobs/{job}/coax")
    outlets = page.request.get(f"/api/jobs/{job}").json()["answers"]["coax"]["outlets"]
    least = min(g["least_dbuv"] for g in outlets[0]["groups"] if g["group"] == "terrestrial")
    picture = page.locator("main svg").filter(has_text=outlets[0]["name"]).first
    for offset in (0.0, -60.0, -108.75):
        expect(picture).to_contain_text(f"{least + offset:.1f}".replace("-", "−"))
        page.get_by_role("button", name=re.compile("^level: ")).click()


@pytest.mark.parametrize(
    ("units", "scale", "suffix"), [("metric", 1.0, "m"), ("us", 1 / M_IN_FOOT, "ft")]
)
def test_a_length_is_one_length_in_both_systems(
    page: Page, job: str, units: str, scale: float, suffix: str
) -> None:
    _set(page, units=units)
    page.goto(f"/jobs/{job}/site")
    field = page.get_by_label(f"Mount above ground, {suffix}", exact=True)
    kept = kept_job(page, job)["site"]["mount_height_m"]
    assert float(field.input_value()) == pytest.approx(kept * scale, abs=0.051)
    # Typed in the unit that is shown, kept in metres.
    field.fill("10")
    with page.expect_response(lambda r: "/changes" in r.url):
        field.press("Enter")
    kept = kept_job(page, job)["site"]["mount_height_m"]
    assert kept == pytest.approx(10 / scale, abs=1e-6)
    # And in the other one, when it is said.
    field.fill("5 m" if units == "us" else "16,4042 ft")
    with page.expect_response(lambda r: "/changes" in r.url):
        field.press("Enter")
    kept = kept_job(page, job)["site"]["mount_height_m"]
    assert kept == pytest.approx(5.0, abs=1e-3)


def test_bearings_turn_by_the_declination_when_the_compass_leads(page: Page, job: str) -> None:
    view = page.request.get(f"/api/jobs/{job}").json()
    turn = view["answers"]["aim"]["declination_deg"]
    sight = next(t for t in view["answers"]["sky"]["targets"] if t["name"] == "Corvus")["sight"]
    for north, bearing in (
        ("true", sight["azimuth_deg"]),
        ("compass", sight["azimuth_deg"] - turn),
    ):
        _set(page, north=north)
        page.goto(f"/jobs/{job}/sky")
        targets = page.get_by_role("region", name="Targets")
        expect(targets).to_contain_text(f"{bearing % 360:.1f}")
        expect(targets).to_contain_text("°T" if north == "true" else "°M")


def test_parts_lists_all_of_the_catalogue(page: Page) -> None:
    page.goto("/parts")
    parts = page.request.get("/api/catalogue").json()
    for part in [*parts["parts"].values(), *parts["cables"].values()]:
        expect(page.get_by_role("row").filter(has_text=part["name"]).first).to_be_attached()


def test_numbers_lead_to_the_stations_and_p_to_the_other_face(page: Page, job: str) -> None:
    page.goto(f"/jobs/{job}/mast")
    expect(page.get_by_role("main")).to_be_focused()
    for n, station in enumerate(STATIONS, 1):
        page.keyboard.press(str(n))
        expect(page).to_have_url(re.compile(f"/{station.lower()}$"))
        page.keyboard.press("p")
        expect(page).to_have_url(re.compile(f"/{station.lower()}/do$"))
        page.keyboard.press("p")
        expect(page).to_have_url(re.compile(f"/{station.lower()}$"))


@pytest.mark.parametrize(
    ("path", "stops"),
    [
        ("/", 8),
        ("/settings", 7),
        ("/parts", 3),
        ("/quick", 8),
        ("/jobs/skerry-house/sky", 8),
        ("/jobs/harrow-farm/aim", 8),
    ],
)
def test_the_keyboard_alone_reaches_everything_and_shows_where_it_is(
    page: Page, path: str, stops: int
) -> None:
    """Sixty tabs: each stop is on the screen, has a name and a ring that differs from its rest."""
    page.goto(path)
    settled(page)
    seen: set[str] = set()
    for _ in range(60):
        page.keyboard.press("Tab")
        at = page.evaluate(
            """() => {
              const e = document.activeElement;
              if (!e || e === document.body) return null;
              const s = getComputedStyle(e);
              const name = e.getAttribute('aria-label') ?? e.labels?.[0]?.textContent ?? e.textContent ?? '';
              const box = e.getBoundingClientRect();
              const ring = s.outlineStyle !== 'none' && parseFloat(s.outlineWidth) > 0;
              return { name: name.trim().slice(0, 60), ring, tag: e.tagName, wide: box.width };
            }"""
        )
        if at is None:
            break
        assert at["name"] or at["tag"] == "svg", at
        assert at["ring"], at
        seen.add(at["tag"] + at["name"])
    assert len(seen) >= stops
