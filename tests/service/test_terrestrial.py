"""Terrestrial pages, the list of transmitters and the tiles, through the service."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from evtro.cli import main
from evtro.demo.arrays import COLD_BRAE, harrow_farm
from evtro.demo.library import demo_senders, demo_tile
from evtro.demo.terrain import TILE
from evtro.formats import transmitters
from evtro.service import access
from tests.data import make_app

from .conftest import Caller


@pytest.fixture
def farm(client: TestClient) -> Caller:
    made = Caller(client, "harrow-farm")
    made("GET", "")
    return made


@pytest.fixture
def tiled(client: TestClient) -> TestClient:
    client.app.state.desk.library.add_tile(demo_tile())  # type: ignore[attr-defined]
    return client


def _said(answer: Any, code: str) -> str:
    assert answer["code"] == code, answer
    return f"{answer['field']}: {answer['detail']} {answer['remedy']}"


def test_the_view_leaves_the_heights_out_and_the_export_has_them(farm: Caller) -> None:
    view = farm("GET", "")
    assert [r["target"] for r in view["job"]["reliefs"]] == ["t1", "t2", "t3"]
    assert all("heights_m" not in r for r in view["job"]["reliefs"])
    whole = farm("GET", "/export")
    assert all(len(r["heights_m"]) > 200 for r in whole["job"]["reliefs"])


def test_ways_and_detail_of_the_farm(farm: Caller) -> None:
    ways = farm("GET", "/paths")["paths"]
    assert [(p["name"], p["in_sight"]) for p in ways] == [
        ("Staunmoor", True),
        ("Cold Brae", False),
        ("Loch End relay", True),
    ]
    run = farm("GET", "/antennas/a1/array")
    better = farm("GET", "/antennas/a1/array?behind=preamplifier")
    assert run["best"]["services"] == 6
    assert better["best"]["services"] == 15
    assert run["with_preamplifier"]["services"] == 15
    assert farm("GET", "/antennas/a9/array", status=404)["code"] == "row-missing"
    assert farm("GET", "/antennas/a1/array?behind=luck", status=422)


def test_the_whole_way_from_heading_to_every_service(farm: Caller) -> None:
    """What the pages advise one after the other brings the house from nothing to all fifteen."""
    better = farm("GET", "/antennas/a1/array?behind=preamplifier")
    two = next(w for w in better["ways"] if w["key"] == "two")
    farm.change(
        {
            "verb": "second",
            "array": "a1",
            "first_deg": str(two["headings_deg"][0]),
            "second_deg": str(two["headings_deg"][1]),
        }
    )
    for antenna in ("a1", "a2"):
        detail = farm("GET", f"/antennas/{antenna}/array")
        if detail["front"] and detail["front"]["change"]:
            farm.change({"verb": "front", "array": antenna, "key": detail["front"]["advised"]})
    view = farm("GET", "")
    part = view["answers"]["coax"]["outlets"][0]["part"]
    channels = {c["carrier"]: c for c in farm("GET", f"/parts/{part}/levels")["cells"]}
    assert all((c["level"]["value"] or 0) > 20 for c in channels.values())


def test_spots_are_logged_read_and_taken(farm: Caller) -> None:
    view = farm.add(
        "trial_spots",
        {"antenna": "a1", "place": "Barn end", "above_ground_m": "6,2", "heading_deg": "300"},
    )
    hold = view["job"]["trial_spots"][-1]
    assert (hold["above_ground_m"], hold["heading_deg"]) == (6.2, 300)
    for carrier, level, ratio in (("c1", "50,2", "30"), ("c4", "33", "23.5")):
        farm.read("trial_readings", {"spot": hold["id"], "carrier": carrier}, {"level_dbuv": level})
        farm.read("trial_readings", {"spot": hold["id"], "carrier": carrier}, {"cn_db": ratio})
    trial = farm("GET", "/antennas/a1/array")["trial"]
    line = next(h for h in trial["spots"] if h["id"] == hold["id"])
    assert (line["good"], line["read"]) == (2, 2)
    view = farm.change({"verb": "stand", "spot": hold["id"]})
    antenna = view["job"]["arrays"][0]
    assert (antenna["stands_at"], antenna["heading_deg"], antenna["above_ground_m"]) == (
        hold["id"],
        300,
        6.2,
    )
    farm.set("trial_spots", {"tilt_deg": "10°"}, hold["id"])
    view = farm.remove("trial_spots", hold["id"])
    assert view["job"]["arrays"][0]["stands_at"] is None


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"place": "x", "heading_deg": "361"}, "360"),
        ({"place": "x", "above_ground_m": "tall"}, "not a number"),
        ({"place": ""}, ""),
        ({"place": "x", "tilt_deg": "80"}, "60"),
    ],
)
def test_a_spot_that_cannot_be(farm: Caller, body: dict[str, str], words: str) -> None:
    answer = farm.add("trial_spots", {"antenna": "a1", **body}, status=422)
    assert words in f"{answer['detail']} {answer['remedy']}"


def test_scans_are_compared_with_the_list(farm: Caller) -> None:
    farm.add(
        "scans", {"outlet": "o2", "found": "Harbour One\nHarbour Two, Kelp", "tuner": "antenna"}
    )
    found = next(o for o in farm("GET", "/expected") if o["name"] == "Parlour")
    assert found["scans"][0]["found"] == 3
    assert [x["found"] for x in found["lines"][:3]] == [True, False, True]
    assert farm.add("scans", {"outlet": "o9", "found": "x"}, status=422)
    assert (
        farm.add(
            "scans", {"outlet": "o1", "found": ",".join(f"n{i}" for i in range(700))}, status=422
        )["code"]
        == "too-many"
    )


def test_antenna_front_end_and_company_are_changed_and_undone(farm: Caller) -> None:
    farm.change({"verb": "model", "array": "a1", "key": "row-16"})
    view = farm.change({"verb": "front", "array": "a1", "key": "preamp-13"})
    assert view["job"]["arrays"][0]["model"] == "row-16"
    assert any(p["type"] == "preamp-13" for p in view["job"]["parts"])
    view = farm.set(
        "company", {"plan": "both", "low_dbuv": "64", "high_dbuv": "2 dBmV", "watched_s": 10}
    )
    assert view["job"]["company"]["high_dbuv"] == 62
    assert any(p["code"] == "filter-unconfirmed" for p in view["answers"]["coax"]["problems"])
    for _ in range(3):
        view = farm("POST", "/undo", {})
    assert view["job"]["company"]["plan"] == "none"
    assert view["job"]["arrays"][0]["model"] == "row-13"
    assert _said(
        farm.change({"verb": "model", "array": "a1", "key": "none"}, status=422), "antenna-unknown"
    )


def test_a_covering_that_is_not_known_is_told_with_those_that_are(farm: Caller) -> None:
    answer = farm.set("arrays", {"standing": "loft", "covering": "cheese"}, "a1", status=422)
    assert "slate" in _said(answer, "covering-unknown")
    view = farm.set("arrays", {"standing": "loft", "covering": "foil"}, "a1")
    assert any(p["code"] == "covering" for p in view["answers"]["aim"]["problems"])


# --- the list of transmitters --------------------------------------------------------------------


def _file(names: tuple[str, ...] = ("Cold Brae",)) -> bytes:
    return transmitters.write_csv([s for s in demo_senders() if s.name in names]).encode()


def test_the_list_is_filled_looked_through_and_taken_from(tiled: TestClient) -> None:
    found = tiled.post(
        "/api/transmitters", content=_file(("Cold Brae", "Staunmoor", "Fallow Top"))
    ).json()
    assert sorted(s["sender"]["name"] for s in found["senders"]) == [
        "Cold Brae",
        "Fallow Top",
        "Staunmoor",
    ]
    new = Caller(
        tiled, tiled.post("/api/jobs", json={"name": "New", "profile": "europe"}).json()["id"]
    )
    new("GET", "")
    assert new("GET", "/near") == []
    new.set("site", {"position_text": "57.21 N 4.56 W"})
    rows = new("GET", "/near")
    assert [r["name"] for r in rows] == ["Staunmoor", "Fallow Top", "Cold Brae"]
    assert rows[2]["source"].startswith("Vale of Orrick")
    view = new("POST", "/near", {"name": "Cold Brae"})
    assert view["job"]["targets"][0]["pattern"] == [list(p) for p in COLD_BRAE.pattern]
    assert len(view["job"]["carriers"]) == 3
    # The profile came with it, in the same step, and goes when it is undone.
    assert view["job"]["reliefs"][0]["source"].startswith("Vale of Orrick")
    assert new("POST", "/undo", {})["job"]["reliefs"] == []
    key = next(s["id"] for s in found["senders"] if s["sender"]["name"] == "Staunmoor")
    assert len(tiled.delete(f"/api/transmitters/{key}").json()["senders"]) == 2
    assert tiled.delete("/api/transmitters/nothere").status_code == 404
    again = tiled.get("/api/transmitters.csv").content
    assert tiled.post("/api/transmitters", content=again).json()["senders"] == [
        s for s in found["senders"] if s["id"] != key
    ]
    assert (
        tiled.get("/api/transmitters.geojson").json()["features"][0]["properties"]["name"]
        == "Cold Brae"
    )


def test_a_list_goes_into_a_job_and_what_is_wrong_is_told(fresh: Caller) -> None:
    fresh("GET", "")
    text = _file() + b"Bad,57,-4,300,,mux,99,,8,DVB-T 64QAM 2/3,5,H,,,\n"
    answer = fresh.client.post(
        f"/api/jobs/{fresh.job}/transmitters",
        content=text,
        headers={"If-Match": str(fresh.revision)},
    )
    assert answer.status_code == 200
    view = answer.json()
    assert [t["name"] for t in view["job"]["targets"]] == ["Cold Brae"]
    assert "99" in view["notes"][0]
    kept = fresh.client.post(f"/api/jobs/{fresh.job}/keep-transmitters").json()
    assert [s["sender"]["name"] for s in kept["senders"]] == ["Cold Brae"]
    for name in ("transmitters.csv", "transmitters.geojson"):
        assert b"Cold Brae" in fresh.client.get(f"/api/jobs/{fresh.job}/{name}").content


# --- tiles ---------------------------------------------------------------------------------------


def test_a_tile_is_sent_read_and_taken_off(client: TestClient, tmp_path: Path) -> None:
    farm = Caller(client, "harrow-farm")
    farm("GET", "")
    # Another place has no profile until a tile is there.
    view = farm.set("site", {"position_text": "57.25 N 4.50 W"})
    assert view["job"]["reliefs"] == []
    sent = client.post("/api/tiles?name=orrick.tif", content=TILE.read_bytes())
    assert sent.status_code == 200
    tile = sent.json()["tiles"][0]
    assert (tile["name"], tile["format"]) == ("orrick.tif", "GTiff")
    view = farm("POST", "/terrain", {})
    assert {r["target"] for r in view["job"]["reliefs"]} == {"t1", "t2", "t3"}
    assert farm("GET", "/paths")["paths"][0]["source"] == "orrick.tif"
    assert Path(tile["path"]).is_file()
    assert client.delete(f"/api/tiles/{tile['id']}").json() == {"tiles": []}
    assert not Path(tile["path"]).exists()
    assert farm("GET", "/paths")["paths"][0]["known"]


def test_a_demo_that_was_moved_finds_its_tile_at_the_new_place(tiled: TestClient) -> None:
    library = tiled.app.state.desk.library  # type: ignore[attr-defined]
    library.add_tile(replace(demo_tile(), path="/moved/orrick.tif"))
    assert [t.path for t in library.tiles()] == ["/moved/orrick.tif"]
    library.add_tile(demo_tile())
    library.add_tile(replace(demo_tile(), id="other"))
    assert [(t.id, t.path) for t in library.tiles()] == [("other", str(TILE))]


@pytest.mark.parametrize(
    ("name", "data", "code"),
    [
        ("a.tif", b"nothing", "tile-wrong"),
        ("a.tif", b"", "file-empty"),
        ("a.doc", b"x", "tile-wrong"),
        ("../../a.tif", b"x", "tile-wrong"),
    ],
)
def test_what_is_no_tile_leaves_nothing(
    client: TestClient, tmp_path: Path, name: str, data: bytes, code: str
) -> None:
    answer = client.post("/api/tiles", params={"name": name}, content=data)
    assert answer.status_code == 422
    assert answer.json()["code"] == code
    assert client.get("/api/tiles").json() == {"tiles": []}
    assert [p for p in (tmp_path / "terrain").rglob("*") if p.is_file()] == []


def test_a_tile_too_large_to_be_sent_is_told_before_it_is(client: TestClient) -> None:
    answer = client.post(
        "/api/tiles?name=a.tif",
        content=b"x",
        headers={"content-length": str(access.MOST_TILE_BYTES + 1)},
    )
    assert answer.status_code == 413
    assert "evtro tile" in answer.json()["remedy"]


def test_a_large_tile_is_taken_where_it_lies(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("EVTRO_DATA", str(tmp_path / "data"))
    assert main(["tile", str(TILE)]) == 0
    assert {"57.050", "57.400"} <= set(capsys.readouterr().out.split())
    assert main(["tile", str(tmp_path / "none.tif")]) == 2
    app = make_app(tmp_path / "data")
    assert app.state.desk.library.tiles()[0].path == str(TILE)
    app.state.desk.jobs.close()


def test_a_tile_that_ends_on_the_way_is_marked(tiled: TestClient) -> None:
    farm = Caller(tiled, "harrow-farm")
    farm("GET", "")
    view = farm.set("targets", {"longitude_deg": "-5.2"}, "t2")
    found = next(p for p in view["answers"]["sky"]["problems"] if p["code"] == "terrain-part")
    assert "does not cover" in found["limit"][0]
    way = next(p for p in farm("GET", "/paths")["paths"] if p["target"] == "t2")
    assert (way["known"], way["spread_db"]) == (False, 10.0)


def test_moving_the_house_reads_the_ground_anew(tiled: TestClient) -> None:
    farm = Caller(tiled, "harrow-farm")
    before = farm("GET", "/export")["job"]["reliefs"]
    farm("GET", "")
    farm.set("site", {"position_text": "57.2200 N 4.5600 W"})
    after = farm("GET", "/export")["job"]["reliefs"]
    assert {r["from_latitude_deg"] for r in after} == {57.22}
    assert before != after
    farm("POST", "/undo", {})
    assert farm("GET", "/export")["job"]["reliefs"] == before
    assert before == [r.model_dump(mode="json") for r in harrow_farm().reliefs]
