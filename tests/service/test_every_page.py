"""Every page of every demo job, in and out: finite, within bounds, and of one mind with the others."""

from __future__ import annotations

import csv
import io
import json
import math
import re
from collections.abc import Iterator
from typing import Any
from xml.etree import ElementTree

import pytest
from fastapi.testclient import TestClient

from evtro.demo.library import demo_senders
from evtro.demo.world import demo_jobs
from tests.data import make_app, with_demo_jobs

pytestmark = pytest.mark.long

JOBS = sorted(demo_jobs())
STATES = {"ok", "marginal", "fail", "unknown"}


@pytest.fixture(scope="module")
def world(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    folder = tmp_path_factory.mktemp("pages")
    with_demo_jobs(folder)
    app = make_app(folder)
    app.state.desk.library.keep(demo_senders())
    with TestClient(app) as made:
        yield made


def _get(world: TestClient, path: str) -> Any:
    answer = world.get(path)
    assert answer.status_code == 200, (path, answer.text[:300])
    return answer


def _view(world: TestClient, name: str) -> Any:
    return _get(world, f"/api/jobs/{name}").json()


def _walk(value: Any, path: str = "") -> Iterator[tuple[str, Any]]:
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from _walk(inner, f"{path}.{key}")
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            yield from _walk(inner, f"{path}[{i}]")
    else:
        yield path, value


def _pages(job: Any, name: str) -> list[str]:
    at = f"/api/jobs/{name}"
    found = [
        at,
        f"{at}/sheet",
        f"{at}/sun?day=2026-06-21",
        f"{at}/paths",
        f"{at}/near",
        f"{at}/expected",
        f"{at}/surroundings",
        f"{at}/coverings",
    ]
    for dish in job["dishes"]:
        own = f"{at}/antennas/{dish['id']}"
        found += [f"{own}/{p}" for p in ("aim", "link", "frequencies", "frequencies?lo=9600")]
    for array in job["arrays"]:
        own = f"{at}/antennas/{array['id']}"
        found += [f"{own}/array", f"{own}/array?behind=preamplifier"]
    return found


@pytest.mark.parametrize("name", JOBS)
def test_every_figure_is_finite_and_every_state_is_one(world: TestClient, name: str) -> None:
    job = _view(world, name)["job"]
    for page in _pages(job, name):
        body = _get(world, page)
        assert len(body.content) < 2_500_000, page
        found = json.loads(body.content, parse_constant=pytest.fail)
        for path, value in _walk(found):
            if isinstance(value, float):
                assert math.isfinite(value), (page, path)
            if path.endswith(".state") and not path.endswith(("terminal.state", "rain.state")):
                assert value is None or value in STATES, (page, path, value)
            if re.search(r"(azimuth|bearing|heading)_deg$", path) and isinstance(value, float):
                assert -360.0 <= value <= 360.0, (page, path, value)
            if path.endswith("elevation_deg") and isinstance(value, float):
                assert -90 <= value <= 90, (page, path, value)
            if isinstance(value, str):
                assert not re.search(r"\bNone(?! ticked)\b", value), (page, path, value)
                assert "nan" not in re.split(r"[^a-z]+", value.lower()), (page, path, value)


@pytest.mark.parametrize("name", JOBS)
def test_a_page_asked_twice_says_the_same(world: TestClient, name: str) -> None:
    job = _view(world, name)["job"]
    for page in _pages(job, name):
        if page.endswith("/link"):
            continue  # its rain maps are read beside the request
        assert world.get(page).content == world.get(page).content, page


@pytest.mark.parametrize("name", JOBS)
def test_the_aim_page_and_the_station_say_one_thing(world: TestClient, name: str) -> None:
    view = _view(world, name)
    aims = {(a["antenna"], a["target"]): a for a in view["answers"]["aim"]["aims"]}
    for antenna in view["job"]["dishes"]:
        detail = _get(world, f"/api/jobs/{name}/antennas/{antenna['id']}/aim").json()
        text = json.dumps(detail)
        for (own, _), aim in aims.items():
            if own == antenna["id"]:
                assert aim["beamwidth_deg"] > 0
                assert aim["tolerance_deg"] <= aim["beamwidth_deg"]
        assert antenna["id"] in text or antenna["name"] in text


@pytest.mark.parametrize("name", JOBS)
def test_the_sheet_repeats_the_figures_of_the_stations(world: TestClient, name: str) -> None:
    view = _view(world, name)
    sheet = _get(world, f"/api/jobs/{name}/sheet").text
    assert (
        view["job"]["name"] in json.loads(f"[{json.dumps(sheet)}]")[0]
        or view["job"]["place"] in sheet
    )
    for aim in view["answers"]["aim"]["aims"]:
        if aim["kind"] == "dish":
            assert aim["target_name"] in sheet
    for outlet in view["job"]["outlets"]:
        assert outlet["name"] in sheet


@pytest.mark.parametrize("name", JOBS)
def test_the_sheet_as_a_document(world: TestClient, name: str) -> None:
    answer = _get(world, f"/api/jobs/{name}/sheet.pdf")
    assert answer.headers["content-type"] == "application/pdf"
    assert answer.content.startswith(b"%PDF-")
    assert answer.content.rstrip().endswith(b"%%EOF")
    assert 2_000 < len(answer.content) < 2_000_000


@pytest.mark.parametrize("name", JOBS)
def test_tables_have_their_header_and_a_row_for_each_row(world: TestClient, name: str) -> None:
    job = _view(world, name)["job"]
    rows = list(csv.DictReader(io.StringIO(_get(world, f"/api/jobs/{name}/carriers.csv").text)))
    assert len(rows) >= len(job["carriers"])
    assert all(None not in row for row in rows)
    sats = [t for t in job["targets"] if t["kind"] == "satellite"]
    if sats:
        lines = list(
            csv.DictReader(io.StringIO(_get(world, f"/api/jobs/{name}/satellites.csv").text))
        )
        assert {t["name"] for t in sats} <= {v for row in lines for v in row.values()}
    masts = [t for t in job["targets"] if t["kind"] == "transmitter"]
    if masts:
        lines = list(
            csv.DictReader(io.StringIO(_get(world, f"/api/jobs/{name}/transmitters.csv").text))
        )
        assert {t["name"] for t in masts} <= {v for row in lines for v in row.values()}


@pytest.mark.parametrize("name", JOBS)
def test_maps_are_sound(world: TestClient, name: str) -> None:
    job = _view(world, name)["job"]
    found = _get(world, f"/api/jobs/{name}/targets.geojson").json()
    assert found["type"] == "FeatureCollection"
    for feature in found["features"]:
        for _, value in _walk(feature["geometry"]["coordinates"]):
            assert -180 <= value <= 9000
    points = [f for f in found["features"] if f["geometry"]["type"] == "Point"]
    site = job["site"]
    assert any(
        f["geometry"]["coordinates"][:2]
        == pytest.approx([site["longitude_deg"], site["latitude_deg"]])
        for f in points
    )
    root = ElementTree.fromstring(_get(world, f"/api/jobs/{name}/targets.kml").content)
    assert root.tag == "{http://www.opengis.net/kml/2.2}kml"
    assert len(list(root.iter("{http://www.opengis.net/kml/2.2}Placemark"))) >= len(points)


@pytest.mark.parametrize("name", JOBS)
def test_the_suns_events_are_a_calendar(world: TestClient, name: str) -> None:
    text = _get(world, f"/api/jobs/{name}/sun.ics?day=2026-03-01").content.decode()
    lines = text.split("\r\n")
    assert lines[0] == "BEGIN:VCALENDAR"
    assert "END:VCALENDAR" in lines
    assert text.count("BEGIN:VEVENT") == text.count("END:VEVENT")
    # RFC 5545: a line has at most 75 octets, the rest is folded.
    assert max(len(line.encode()) for line in lines) <= 75
    for start in re.findall(r"DTSTART[^:]*:(\d{8}T\d{6}Z?)", text):
        assert start[:2] == "20"


@pytest.mark.parametrize("name", JOBS)
def test_export_and_import_change_no_answer(world: TestClient, name: str) -> None:
    first = _view(world, name)
    data = _get(world, f"/api/jobs/{name}/export").content
    made = world.post("/api/jobs/import", content=data).json()
    try:
        assert made["job"] == first["job"]
        assert made["answers"] == first["answers"]
        assert _get(world, f"/api/jobs/{made['id']}/export").content == data
    finally:
        assert world.delete(f"/api/jobs/{made['id']}", headers={"If-Match": "0"}).status_code == 204


@pytest.mark.parametrize("name", JOBS)
def test_every_offered_fix_can_be_taken_and_helps(world: TestClient, name: str) -> None:
    """Taken on a copy: the problem is gone or smaller, and undo brings the copy back."""
    data = _get(world, f"/api/jobs/{name}/export").content
    view = _view(world, name)
    offered = {
        json.dumps(p["change"]): p
        for key in ("sky", "aim", "mast", "earth", "coax", "readings")
        for p in view["answers"][key]["problems"]
        if p.get("change")
    }
    for fix, problem in offered.items():
        made = world.post("/api/jobs/import", content=data).json()
        at = f"/api/jobs/{made['id']}"
        taken = world.post(
            f"{at}/changes", json=json.loads(fix), headers={"If-Match": str(made["revision"])}
        )
        assert taken.status_code == 200, (fix, taken.text[:300])
        after = taken.json()
        left = [
            p
            for key in ("sky", "aim", "mast", "earth", "coax", "readings")
            for p in after["answers"][key]["problems"]
            if (p["code"], p["place"], p.get("ref"))
            == (problem["code"], problem["place"], problem.get("ref"))
            and p["state"] == problem["state"]
            and p.get("gauge") == problem.get("gauge")
        ]
        assert not left, fix
        back = world.post(f"{at}/undo", headers={"If-Match": str(after["revision"])}).json()
        assert back["job"] == view["job"]
        world.delete(at, headers={"If-Match": str(back["revision"])})


def test_lists_of_the_house(world: TestClient) -> None:
    jobs = _get(world, "/api/jobs").json()["jobs"]
    assert {j["id"] for j in jobs} >= set(JOBS)
    for line in jobs:
        assert [s["number"] for s in line["stations"]] == list(range(1, 9))
    assert len(_get(world, "/api/modulations").json()) > 20
    profiles = _get(world, "/api/profiles").json()
    assert len(profiles) == 3
    parts = _get(world, "/api/catalogue").json()
    assert parts["parts"]
    assert parts["cables"]
    assert _get(world, "/api/health").json()
