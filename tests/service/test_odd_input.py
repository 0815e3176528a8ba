"""Calls that ended in a fault of the program: each is refused in words, with every header."""

from __future__ import annotations

import json
from typing import Any

import pytest
from fastapi.testclient import TestClient

from .writing import setting

JOB = "/api/jobs/skerry-house"
JSON = {"content-type": "application/json"}
NINES = b"9" * 400


def _call(client: TestClient, method: str, path: str, **more: Any) -> Any:
    seen = {"If-Match": str(client.get(JOB).json()["revision"])}
    answer = client.request(method, path, headers={**seen, **more.pop("headers", {})}, **more)
    assert answer.status_code < 500, answer.text[:300]
    for name in ("content-security-policy", "x-content-type-options", "referrer-policy"):
        assert name in answer.headers
    return answer


def test_terms_of_a_carrier_whose_satellite_is_not_wanted(client: TestClient) -> None:
    view = client.get(JOB).json()["job"]
    satellite = next(t["id"] for t in view["targets"] if t["kind"] == "satellite" and t["wanted"])
    carrier = next(c["id"] for c in view["carriers"] if c["target"] == satellite)
    change = setting("targets", {"wanted": False}, satellite)
    assert _call(client, "POST", f"{JOB}/changes", json=change).status_code == 200
    for part in view["parts"]:
        told = _call(client, "GET", f"{JOB}/parts/{part['id']}/terms?carrier={carrier}")
        assert told.status_code == 422
        assert "wanted" in told.json()["remedy"]


def test_a_plate_behind_an_output_that_is_not_there(client: TestClient) -> None:
    for port in (63, 12, 40):
        told = _call(
            client,
            "POST",
            f"{JOB}/changes",
            json={"verb": "insert", "after": "p6", "type": "plate", "port": port},
        )
        assert told.status_code == 422
        assert f"no output {port + 1}" in told.json()["detail"]


@pytest.mark.long
@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("/links/l28", b'{"length_m": ' + NINES + b"}"),
        ("/links/l28", b'{"length_m": -' + NINES + b".5}"),
        ("/links/l28", b'{"length_m": ' + b"9" * 5000 + b"}"),
        ("/links/l28", b'{"length_m": 1e999}'),
        ("/links/l28", b'{"length_m": "' + b"9" * 79 + b'"}'),
        ("/links/l28", b'{"length_m": NaN}'),
        ("/links/l28", b'{"length_m": "\\ud800"}'),
        ("", b'{"name": "a\\ud800b"}'),
        ("", b'{"na\\ud800me": "a"}'),
        ("", b'{"profile": "\\ud800"}'),
        ("", b'{"name": "a\\u0007b"}'),
        ("", b'{"name": "a\\u0000"}'),
        ("/site", b'{"position_text": "\\ud800"}'),
        ("/site", b'{"position_text": "51 \\u0000 0"}'),
        ("/carriers/c1", b'{"modulation": "\\ud800"}'),
        ("", b'{"date": "9999-12-31"}'),
        ("", b'{"date": "0001-01-01"}'),
        ("", b"{" * 9000),
        ("", b"\xff\xfe"),
        ("", b"[" * 90_000),
    ],
)
def test_figures_and_texts_that_no_field_can_hold(
    client: TestClient, path: str, body: bytes
) -> None:
    before = client.get(JOB).json()
    rows, _, row = path.strip("/").partition("/")
    said = b'{"verb": "set", "rows": "%s", "id": "%s", "values": %s}' % (
        (rows or "job").encode(),
        row.encode(),
        body,
    )
    told = _call(client, "POST", f"{JOB}/changes", content=said, headers=JSON)
    assert told.status_code in (400, 422)
    assert told.json()["detail"]
    assert client.get(JOB).json()["job"] == before["job"]


@pytest.mark.long
@pytest.mark.parametrize(
    "body",
    [
        b"[]",
        b"3",
        b"null",
        b'"x"',
        b'{"features": {}}',
        b'{"features": [1, null, []]}',
        b'{"features": [{"geometry": 5}]}',
        b'{"features": [{"geometry": {"type": "Polygon", "coordinates": {}}}]}',
        b'{"features": [{"geometry": {"type": "Polygon", "coordinates": [5]}, "properties": [1]}]}',
        b'{"features": [{"geometry": {"type": "Polygon", "coordinates": [[[1,2],[1e400,3],[3,3]]]}}]}',
        b'{"features": [{"geometry": {"type": "Polygon", "coordinates": [[[1,2],[2,3],['
        + NINES
        + b",3]]]}}]}",
        b'{"features": [{"geometry": {"type": "Polygon", "coordinates": [[[1,2],[2,3],[3,null]]]}}]}',
        b'{"features": [{"geometry": {"type": "Polygon", "coordinates": [[[1,2],[2,3],[1e300,1]]]}}]}',
        b'{"features": [{"geometry": {"type": "Point", "coordinates": {}}, "properties": {"name": [1]}}]}',
        b'{"features": [{"geometry": {"type": "Point", "coordinates": [1, 2]}, "properties": 7}]}',
        b'{"features": [{"geometry": {"type": "Point", "coordinates": [1, 2]}, "properties": {"name": "x", '
        b'"height_m": 10, "pattern": 5, "multiplexes": [{"services": [[1]], "frequency_mhz": {"a": 1}}]}}]}',
        b'{"satellites": [{"satellite": "\\ud800", "orbit_deg_e": {}}]}',
        b'{"satellites": [[]]}',
        b"\xef\xbb\xbf",
        b"\x00",
        b"a,b\x00c\n1,2\n",
    ],
)
@pytest.mark.parametrize(
    "path", ["/beams?target=t1", "/transmitters", "/satellites", "/csv?kind=carriers"]
)
def test_open_files_of_wrong_shapes(client: TestClient, path: str, body: bytes) -> None:
    assert _call(client, "POST", f"{JOB}{path}", content=body).status_code == 422
    assert client.get(JOB).json()["revision"] == 0


@pytest.mark.parametrize(
    "body",
    [
        b'<?xml version="1.0" encoding="klingon"?><gpx/>',
        b'<?xml version="1.0" encoding="utf-7"?><gpx/>',
        b'<?xml version="1.0" encoding="utf-16"?><gpx/>',
        b'<gpx><wpt lat="1" lon="2"><name>&#7;</name></wpt></gpx>',
        b'<gpx><wpt lat="1e400" lon="2"/></gpx>',
        b'<gpx><wpt lat="nan" lon="2"/></gpx>',
        b'<gpx><wpt lat="1" lon="2"><ele>1e999</ele></wpt>',
        b'<gpx xmlns:a="b"><a:wpt/></gpx>',
        b"<gpx>" * 60,
    ],
)
def test_places_of_odd_xml(client: TestClient, body: bytes) -> None:
    assert _call(client, "POST", "/api/places/gpx", content=body).status_code == 422


@pytest.mark.parametrize(
    ("path", "code"),
    [
        ("/%00", 404),
        ("/api/%00", 404),
        ("/" + "a" * 3000, 404),
        ("/" + "a" * 1500, 200),
        ("/assets/%ff", 200),
        ("/api/jobs/%F0%9F%9B%A0", 422),
        ("/api/jobs?find=%00%ff", 200),
        ("/api/places?q=%00%00", 200),
        (f"{JOB}/sun?day=9999-99-99", 422),
        (f"{JOB}/sun?day=0001-01-01", 422),
        ("/..%00/", 404),
    ],
)
def test_odd_addresses(client: TestClient, path: str, code: int) -> None:
    assert _call(client, "GET", path).status_code == code


@pytest.mark.parametrize(
    "origin",
    [
        "http://[",
        "http://]",
        "http://[::1",
        "http://a b",
        "null",
        "",
        "\x00",
        "http://testserver:99999999",
    ],
)
def test_odd_origins(client: TestClient, origin: str) -> None:
    told = _call(
        client,
        "POST",
        f"{JOB}/changes",
        json=setting("job", {"name": "a"}),
        headers={"origin": origin},
    )
    assert told.status_code == 403


@pytest.mark.parametrize(
    "name", ["..", ".", "/", "a\x00b.tif", "...tif", "x" * 119, "../../../etc/passwd.tif"]
)
def test_odd_names_of_tiles(client: TestClient, name: str) -> None:
    told = _call(client, "POST", "/api/tiles", params={"name": name}, content=b"abc")
    assert told.status_code == 422
    assert json.loads(told.content)["field"]


@pytest.mark.parametrize(
    "media", ["text/plain", "application/x-www-form-urlencoded", "multipart/form-data; boundary=a"]
)
def test_a_form_of_another_site_is_no_call(client: TestClient, media: str) -> None:
    """Browsers send these from any page without asking first."""
    body = json.dumps({"name": "x", "profile": "europe"}).encode()
    told = _call(client, "POST", "/api/jobs", content=body, headers={"content-type": media})
    assert told.status_code == 403
    fine = {"content-type": media, "origin": "http://testserver"}
    assert _call(client, "POST", "/api/jobs", content=body, headers=fine).status_code != 403
