"""The workshop through the service: sheets typed, used, taken in and out, and what jobs make of them."""

from __future__ import annotations

import json

import pytest
from fastapi.testclient import TestClient

JOB = "/api/jobs/skerry-house"


def _typed(client: TestClient, place: str, field: str, text: str, status: int = 200) -> dict:  # type: ignore[type-arg]
    answer = client.patch(f"/api/workshop/{place}", json={"field": field, "text": text})
    assert answer.status_code == status, answer.text
    found: dict = answer.json()  # type: ignore[type-arg]
    return found


def _line(view: dict, key: str) -> dict:  # type: ignore[type-arg]
    return next(x for x in view["lines"] if x["field"] == key)  # type: ignore[no-any-return]


def test_a_generic_part_typed_over_is_a_sheet_of_ones_own(client: TestClient) -> None:
    before = client.get("/api/workshop/part/multiswitch-12").json()
    assert not before["own"]
    assert before["typed"] == 0
    view = _typed(client, "part/multiswitch-12", "paths.0.gain_db", "950 3,2; 2150 6")
    assert view["own"]
    assert view["typed"] == 1
    assert _line(view, "paths.0.gain_db")["own"]
    assert not _line(view, "paths.1.gain_db")["own"]
    shop = client.get("/api/catalogue").json()
    assert shop["parts"]["multiswitch-12"]["paths"][0]["gain_db"] == [[950.0, -3.2], [2150.0, -6.0]]
    # A job keeps the figures that it was planned with, until it is brought up to date.
    use = next(u for u in view["jobs"] if u["job"] == "skerry-house")
    assert use["older"]
    level = _level(client)
    taken = client.post(
        f"{JOB}/changes", json=use["change"], headers={"If-Match": str(use["revision"])}
    )
    assert taken.status_code == 200, taken.text
    # 2138 MHz: 5.5 dB before, 6 dB now.
    assert _level(client) == pytest.approx(level - 0.5, abs=0.06)
    view = client.get("/api/workshop/part/multiswitch-12").json()
    assert not next(u for u in view["jobs"] if u["job"] == "skerry-house")["older"]
    client.delete("/api/workshop/part/multiswitch-12")
    assert not client.get("/api/workshop/part/multiswitch-12").json()["own"]


def _level(client: TestClient) -> float:
    levels = client.get(f"{JOB}/parts/p18/levels").json()["levels"]
    return float(next(level for carrier, level, _ in levels if carrier == "c7"))


def test_a_copy_is_used_in_a_run(client: TestClient) -> None:
    made = client.post("/api/workshop/cable/rg6", json={"name": "Bench 7 mm"})
    assert made.status_code == 201
    key = made.json()["key"]
    _typed(client, f"cable/{key}", "points", "100 5.5; 860 16.5; 2150 27")
    view = client.get(JOB).json()
    change = {"verb": "set", "rows": "links", "id": "l28", "values": {"cable": key}}
    done = client.post(f"{JOB}/changes", json=change, headers={"If-Match": str(view["revision"])})
    assert done.status_code == 200, done.text
    shelves = client.get("/api/workshop").json()["lines"]
    mine = next(x for x in shelves if x["key"] == key)
    assert mine["own"]
    assert mine["jobs"] == 1
    # Taken out of the workshop the job has it still.
    client.delete(f"/api/workshop/cable/{key}")
    assert key not in client.get("/api/catalogue").json()["cables"]
    assert client.get(JOB).status_code == 200
    assert any(k["cable"] == key for k in client.get(JOB).json()["job"]["links"])


@pytest.mark.parametrize("form", ["json", "csv"])
def test_sheets_go_out_and_come_back_the_same(client: TestClient, form: str) -> None:
    for place, name, field, text in (
        ("part/splitter-2", "Bench splitter", "paths.0.gain_db", "5 3.4; 862 3.9; 2150 5.2"),
        ("part/amp-house-20", "Bench amplifier", "paths.0.rated_output_dbuv", "112"),
        ("part/multiswitch-8", "Bench switch", "supply.most_ma", "900"),
        ("cable/rg6", "Bench cable", "points", "100 6; 860 18; 2150 30"),
        ("array/log-9", "Bench antenna", "front_back_db", "22"),
    ):
        key = client.post(f"/api/workshop/{place}", json={"name": name}).json()["key"]
        _typed(client, f"{place.partition('/')[0]}/{key}", field, text)
    text = client.get(f"/api/workshop/sheets.{form}").text
    whole = client.get("/api/workshop/sheets.json").json()
    assert len(whole["sheets"]) == 5
    if form == "json":
        for row in whole["sheets"]:
            client.delete(f"/api/workshop/{row['shelf']}/{row['data']['key']}")
        assert client.get("/api/workshop/sheets.json").json()["sheets"] == []
    back = client.post("/api/workshop", content=text.encode())
    assert back.status_code == 200, back.text
    after = client.get("/api/workshop/sheets.json").json()
    for one, two in zip(whole["sheets"], after["sheets"], strict=True):
        a, b = one["data"], two["data"]
        if one["shelf"] == "cable":  # a table has its points, rounded as a sheet has them
            assert b.pop("a") == pytest.approx(a.pop("a"), rel=0.01)
            assert b.pop("b") == pytest.approx(a.pop("b"), abs=3e-5)
        assert a == b
    assert client.get(f"/api/workshop/sheets.{form}").text.splitlines()[0] == text.splitlines()[0]


def test_a_table_makes_a_part_that_nobody_had(client: TestClient) -> None:
    table = (
        "shelf;key;name;draws_as;inputs;outputs;from;to;curve;noise_figure_db;rated_output_dbuv;passes;origin\n"
        "part;bench-tap;Bench tap;tap;1;3;1;1;5 1,2| 862 1,9;;;1-1;sheet of 2026-03\n"
        "part;bench-tap;Bench tap;tap;1;3;1;2 3;5 14| 862 14,5;;;;\n"
    )
    assert client.post("/api/workshop", content=table.encode()).status_code == 200
    part = client.get("/api/catalogue").json()["parts"]["bench-tap"]
    assert [p["outputs"] for p in part["paths"]] == [[0], [1, 2]]
    assert part["paths"][1]["gain_db"] == [[5.0, -14.0], [862.0, -14.5]]
    assert part["dc"] == [[0, 0]]


@pytest.mark.parametrize(
    ("body", "word"),
    [
        (b"", "empty"),
        (b"shelf,key,name\npart,x,y\n", "column curve is missing"),
        (b"shelf,key,name,curve\nshelf,x,y,5 1\n", "is none"),
        (b"shelf,key,name,curve,inputs\npart,x,y,5 1,many\n", "no number"),
        (b"shelf,key,name,curve\ncable,rg6,y,100 6 7\n", "no frequency"),
        (b'{"evtro_sheets": 2, "sheets": []}', "no sheets"),
        (
            b'{"evtro_sheets": 1, "sheets": [{"shelf": "part", "of_date": "2026-01-01", "data": {"key": "A B"}}]}',
            "",
        ),
        (b"\x00\x01\x02", ""),
        (b"{" * 400_000, ""),
    ],
)
def test_files_that_are_no_sheets_change_nothing(
    client: TestClient, body: bytes, word: str
) -> None:
    told = client.post("/api/workshop", content=body)
    assert told.status_code in (400, 413, 422)
    assert word in json.dumps(told.json())
    assert client.get("/api/workshop/sheets.json").json()["sheets"] == []


@pytest.mark.parametrize(
    ("place", "field", "text"),
    [
        ("part/splitter-2", "paths.0.gain_db", "5"),
        ("part/splitter-2", "paths.7.gain_db", "5 1; 6 2"),
        ("part/splitter-2", "key", "x"),
        ("part/preamp-13", "load.ma", "-3"),
        ("part/preamp-13", "load.ma", "1e400"),
        ("part/preamp-13", "name", "x" * 300),
        ("cable/rg6", "points", "100 6; 800 1"),
        ("cable/rg6", "velocity", "2"),
        ("part/preamp-13", "paths.0.noise_figure_db", "-4"),
        ("part/lnb-single", "noise_db", "-0,7"),
        ("array/log-9", "gain", "700 9; 470"),
        ("array/log-9", "gain", ""),
    ],
)
def test_a_wrong_line_is_refused_by_its_name(
    client: TestClient, place: str, field: str, text: str
) -> None:
    told = _typed(client, place, field, text, 404 if field in ("key", "paths.7.gain_db") else 422)
    assert told["field"]
    assert told["remedy"]
    assert not client.get(f"/api/workshop/{place}").json()["own"]


def test_a_sheet_that_is_not_there(client: TestClient) -> None:
    assert client.get("/api/workshop/part/none-such").status_code == 404
    assert client.delete("/api/workshop/part/splitter-2").status_code == 404
    assert client.post("/api/workshop/part/splitter-2", json={"name": " "}).status_code == 422


def test_three_hundred_sheets_go_out_and_come_back(client: TestClient) -> None:
    """A file of the size that a workshop really has is no form that is too large."""
    switch = client.get("/api/catalogue").json()["parts"]["multiswitch-16"]
    rows = [
        {
            "shelf": "part",
            "of_date": "2026-03-01",
            "data": {**switch, "key": f"own-{i}", "name": f"Switch {i}"},
        }
        for i in range(300)
    ]
    body = json.dumps({"evtro_sheets": 1, "sheets": rows})
    assert len(body) > 200_000
    assert client.post("/api/workshop", content=body.encode()).status_code == 200
    out = client.get("/api/workshop/sheets.json").text
    assert client.post("/api/workshop", content=out.encode()).status_code == 200
    assert client.get("/api/workshop/sheets.json").text == out


def test_a_passive_part_gives_no_gain(client: TestClient) -> None:
    switch = client.get("/api/catalogue").json()["parts"]["splitter-2"]
    switch["paths"][0]["gain_db"] = [[5, 3.6], [862, 4]]
    body = {
        "evtro_sheets": 1,
        "sheets": [{"shelf": "part", "of_date": "2026-03-01", "data": switch}],
    }
    told = client.post("/api/workshop", content=json.dumps(body).encode())
    assert told.status_code == 422
    assert "loss is negative" in told.text
