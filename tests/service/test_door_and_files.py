"""The door and the files behind it: who comes in, what goes out with every answer, the interface's own
files, the simulated meter, tiles that lie beside each other."""

from __future__ import annotations

import itertools
import json
import re
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import rasterio
from fastapi.testclient import TestClient
from rasterio.transform import from_bounds

from evtro.core.job import Site, Target
from evtro.service.app import WEB
from tests.server import Server

from .conftest import Caller
from .writing import setting


@pytest.mark.parametrize(
    "path", ["/", "/jobs/skerry-house/sky", "/settings", "/quick", "/no/such/place"]
)
def test_every_address_of_the_interface_is_its_one_page(client: TestClient, path: str) -> None:
    answer = client.get(path)
    assert answer.status_code == 200
    assert answer.headers["content-type"].startswith("text/html")
    assert answer.content == (WEB / "index.html").read_bytes()
    assert "immutable" not in answer.headers.get("cache-control", "")


def test_its_scripts_and_styles_are_kept_by_the_browser(client: TestClient) -> None:
    page = client.get("/").text
    files = re.findall(r'(?:src|href)="(/assets/[^"]+)"', page)
    assert any(f.endswith(".js") for f in files)
    assert any(f.endswith(".css") for f in files)
    for file in files:
        answer = client.get(file)
        assert answer.status_code == 200
        assert "immutable" in answer.headers["cache-control"]


@pytest.mark.parametrize(
    "path",
    [
        "/../pyproject.toml",
        "/%2e%2e/pyproject.toml",
        "/assets/../../app.py",
        "/..%2f..%2fetc%2fpasswd",
        "/assets/%2e%2e/%2e%2e/%2e%2e/store/rows.py",
        "//etc/passwd",
    ],
)
def test_nothing_outside_of_the_interfaces_folder_is_given(client: TestClient, path: str) -> None:
    answer = client.get(path)
    assert b"[project]" not in answer.content
    assert b"root:" not in answer.content
    assert b"import " not in answer.content[:400] or answer.headers["content-type"].startswith(
        "text/html"
    )


@pytest.mark.parametrize(
    "path", ["/api", "/api/", "/api/nothing", "/api/jobs/skerry-house/nothing", "/api/jobs/../x"]
)
def test_an_unknown_address_of_the_service_is_a_problem_and_no_page(
    client: TestClient, path: str
) -> None:
    answer = client.get(path)
    if path.startswith("/api/") and len(path) > 5 and ".." not in path:
        assert answer.status_code == 404
        assert answer.headers["content-type"] == "application/problem+json"
    assert "text/html" not in answer.headers["content-type"] or path in ("/api", "/api/jobs/../x")


@pytest.mark.parametrize(
    "path", ["/", "/api/health", "/api/jobs", "/api/nothing", "/api/jobs/skerry-house/sheet.pdf"]
)
def test_every_answer_carries_the_same_guards(client: TestClient, path: str) -> None:
    headers = client.get(path).headers
    policy = headers["content-security-policy"]
    assert "default-src 'self'" in policy
    assert "unsafe" not in policy
    assert "http" not in policy  # nothing from outside is named
    assert headers["x-content-type-options"] == "nosniff"
    assert headers["referrer-policy"] == "no-referrer"
    if path.startswith("/api"):
        assert headers["cache-control"] == "no-store"


@pytest.mark.parametrize(
    ("host", "code"),
    [
        ("localhost", 200),
        ("127.0.0.1", 200),
        ("127.0.0.1:8750", 400),
        ("[::1]", 200),
        ("[::1]:8750", 400),
        ("evil.invalid", 400),
        ("localhost:", 400),
        ("localhost.evil.invalid", 400),
        ("127.0.0.1.evil.invalid:8750", 400),
        ("", 400),
    ],
)
def test_only_its_own_address_is_answered(client: TestClient, host: str, code: int) -> None:
    answer = client.get("/api/health", headers={"host": host})
    assert answer.status_code == code
    if code == 400:
        assert answer.json()["remedy"]


@pytest.mark.parametrize(
    ("origin", "let_in"),
    [
        (None, True),
        ("http://testserver", True),
        ("http://evil.invalid", False),
        ("null", False),
        ("http://testserver.evil.invalid", False),
    ],
)
def test_writes_come_from_its_own_pages_only(
    client: TestClient, origin: str | None, let_in: bool
) -> None:
    headers = {"If-Match": "0"} | ({"origin": origin} if origin else {})
    change = setting("links", {"length_m": 33}, "l28")
    answer = client.post("/api/jobs/skerry-house/changes", json=change, headers=headers)
    assert answer.status_code == (200 if let_in else 403)
    kept = client.get("/api/jobs/skerry-house").json()["revision"]
    assert kept == (1 if let_in else 0)


def test_a_body_that_says_it_is_small_and_is_not(client: TestClient) -> None:
    """Counted as it comes in, whatever its header says."""

    def pieces():  # type: ignore[no-untyped-def]
        for _ in range(25):
            yield b"x" * 1_000_000

    answer = client.post("/api/jobs/import", content=pieces())
    assert answer.status_code == 413
    assert answer.json()["code"] == "file-too-large"


# --- the simulated meter ----------------------------------------------------------------------------


def test_the_meter_stands_where_it_was_turned_and_is_the_same_for_all(call: Caller) -> None:
    at = "/api/jobs/skerry-house/antennas/a1/meter"
    first = call.client.get(at).json()
    assert call.client.get(at).json()["azimuth"] == first["azimuth"]
    for axis in ("azimuth", "elevation", "skew"):
        turned = call.client.post(at, json={"axis": axis, "by": 0.5}).json()
        assert turned[axis] == pytest.approx(first[axis] + 0.5)
        back = call.client.post(at, json={"axis": axis, "by": -0.5}).json()
        assert back[axis] == pytest.approx(first[axis])
    assert call.client.get("/api/jobs/skerry-house/antennas/a2/meter").status_code in (404, 422)


@pytest.mark.parametrize(
    "body", [{}, {"axis": "roll", "by": 1}, {"axis": "azimuth", "by": "far"}, {"axis": "azimuth"}]
)
def test_a_turn_that_is_none_is_refused(call: Caller, body: dict[str, Any]) -> None:
    answer = call.client.post("/api/jobs/skerry-house/antennas/a1/meter", json=body)
    assert answer.status_code == 422
    assert answer.json()["remedy"]


@pytest.mark.long
def test_readings_come_as_a_stream(tmp_path: Path) -> None:
    """Over a real connection, which the reader closes when it has enough."""
    import urllib.request

    server = Server(tmp_path)
    try:
        seen = []
        with urllib.request.urlopen(
            f"{server.url}/api/jobs/skerry-house/antennas/a1/meter/stream"
        ) as stream:
            assert stream.headers["content-type"].startswith("text/event-stream")
            while len(seen) < 4:
                line = stream.readline().decode()
                if line.startswith("data: "):
                    seen.append(json.loads(line[6:]))
        assert {"azimuth", "elevation", "skew", "cn_db", "locked", "tone_hz"} <= set(seen[0])
        with urllib.request.urlopen(f"{server.url}/api/health") as answer:
            assert answer.status == 200
    finally:
        server.stop()


# --- tiles ------------------------------------------------------------------------------------------


def _tile(
    folder: Path, name: str, west: float, south: float, side: float, height: float, points: int
) -> Path:
    path = folder / name
    with rasterio.open(
        path,
        "w",
        driver="GTiff",
        width=points,
        height=points,
        count=1,
        dtype="float32",
        crs="EPSG:4326",
        transform=from_bounds(west, south, west + side, south + side, points, points),
        nodata=-9999,
    ) as file:
        file.write(np.full((points, points), height, "float32"), 1)
    return path


def test_tiles_beside_each_other_and_the_finer_one_first(
    client: TestClient, tmp_path: Path
) -> None:
    terrain = client.app.state.desk.terrain  # type: ignore[attr-defined]
    terrain.take(_tile(tmp_path, "west.tif", 10.0, 50.0, 0.5, 100.0, 60), "west.tif")
    terrain.take(_tile(tmp_path, "east.tif", 10.5, 50.0, 0.5, 200.0, 60), "east.tif")
    site = Site(latitude_deg=50.25, longitude_deg=10.2)
    mast = Target(id="t1", kind="transmitter", name="M", latitude_deg=50.25, longitude_deg=10.8)
    found = terrain.relief(site, mast)
    assert found is not None
    heights = [h for h in found.heights_m if h is not None]
    assert len(heights) == len(found.heights_m)
    assert heights[0] == pytest.approx(100)
    assert heights[-1] == pytest.approx(200)
    assert "west.tif" in found.source
    assert "east.tif" in found.source
    # A finer tile over a part of it takes over there.
    terrain.take(_tile(tmp_path, "fine.tif", 10.15, 50.2, 0.1, 150.0, 400), "fine.tif")
    again = terrain.relief(site, mast)
    assert again is not None
    assert again.heights_m[0] == pytest.approx(150)
    assert again.heights_m[-1] == pytest.approx(200)


def test_beyond_every_tile_there_is_no_profile(client: TestClient, tmp_path: Path) -> None:
    terrain = client.app.state.desk.terrain  # type: ignore[attr-defined]
    terrain.take(_tile(tmp_path, "here.tif", 10.0, 50.0, 0.5, 100.0, 40), "here.tif")
    far = Site(latitude_deg=-30.0, longitude_deg=150.0)
    mast = Target(id="t1", kind="transmitter", name="M", latitude_deg=-30.2, longitude_deg=150.3)
    assert terrain.relief(far, mast) is None
    assert terrain.relief(Site(), mast) is None
    part = terrain.relief(
        Site(latitude_deg=50.25, longitude_deg=10.4),
        Target(id="t1", kind="transmitter", name="M", latitude_deg=50.25, longitude_deg=10.9),
    )
    assert part is not None
    known = [h is not None for h in part.heights_m]
    assert known[0]
    assert not known[-1]
    # Known from the house on, then unknown to the end: one change and no more.
    assert sum(a != b for a, b in itertools.pairwise(known)) == 1
