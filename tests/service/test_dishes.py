"""Calls of the dish pages: survey, sun, link with rain, readings, locks, tries, two-way, portable."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

import icalendar
import pytest
from defusedxml.ElementTree import fromstring

from evtro.formats.jobfile import write_job
from evtro.service.rain import RainMaps

from .conftest import Caller

AT = "/api/jobs/skerry-house"


def _get(call: Caller, path: str, status: int = 200) -> Any:
    answer = call.client.get(f"{AT}{path}")
    assert answer.status_code == status, answer.text
    return answer.json()


# --- survey --------------------------------------------------------------------------------------


def test_a_remedy_is_previewed_and_then_taken(call: Caller) -> None:
    view = call.set("site", {"years_ahead": 5})
    changes = [r["change"] for r in view["answers"]["sky"]["remedies"]]
    assert len(changes) == 3
    tried = call("POST", "/preview", changes[0])
    assert tried["sky"]["clear"] == 3
    assert {s["key"] for s in tried["stations"]} >= {"mast", "coax"}
    # Nothing is kept by looking.
    assert _get(call, "")["job"]["site"]["mount_height_m"] == 7.4
    view = call("POST", "/changes", changes[0])
    assert view["answers"]["sky"]["clear"] == 3
    refused = call(
        "POST", "/preview", {"verb": "set", "rows": "spots", "id": "s99", "values": {}}, status=404
    )
    assert refused["code"] == "row-missing"
    assert "s99" in refused["detail"]


def test_places_are_added_compared_taken_and_removed(call: Caller) -> None:
    view = call.add(
        "spots",
        {
            "name": "Flat roof",
            "bearing_deg": "300°",
            "distance_m": "20 ft",
            "mount_height_m": "9,5",
            "cable_m": "12 m",
        },
        status=201,
    )
    spot = view["job"]["spots"][-1]
    assert spot["distance_m"] == pytest.approx(6.096)
    line = next(s for s in view["answers"]["sky"]["spots"] if s["id"] == spot["id"])
    assert line["why"]
    view = call.set("spots", {"mount_height_m": "7"}, spot["id"])
    assert view["job"]["spots"][-1]["mount_height_m"] == 7
    line = next(s for s in view["answers"]["sky"]["spots"] if s["id"] == spot["id"])
    view = call("POST", "/changes", line["change"])
    assert view["job"]["site"]["mount_height_m"] == 7
    view = call.remove("spots", spot["id"])
    assert all(s["id"] != spot["id"] for s in view["job"]["spots"])
    bad = call.add("spots", {"name": "x", "bearing_deg": "361"}, status=422)
    assert bad["field"] == "Bearing"


def test_the_sun_of_a_day(call: Caller) -> None:
    found = _get(call, "/sun?day=2026-06-21")
    assert found["day"] == "2026-06-21"
    assert len(found["track"]) > 60
    assert {t["name"] for t in found["targets"]} == {"Corvus", "Halcyon", "Cairnmore"}
    assert call.client.get(f"{AT}/sun?day=soon").status_code == 422
    assert "too far off" in call.client.get(f"{AT}/sun?day=2300-01-01").json()["detail"]


def test_obstructions_take_growth_and_kind(call: Caller) -> None:
    view = call.set("obstructions", {"growth_m_year": "1,2", "nature": "evergreen"}, "b3")
    assert view["answers"]["sky"]["closes"] == 2027
    view = call.set("obstructions", {"outline": "eave"}, "b2")
    assert view["job"]["obstructions"][1]["outline"] == "eave"
    refused = call.set("obstructions", {"growth_m_year": "-1"}, "b3", status=422)
    assert refused["field"] == "Growth a year"


# --- link ----------------------------------------------------------------------------------------


def test_the_link_answers_at_once_and_with_rain_later(call: Caller) -> None:
    first = _get(call, "/antennas/a1/link")
    assert first["rain"]["state"] in ("working", "ready")
    assert first["link"]["satellites"][0]["rows"][0]["margin"]["value"] > 3
    site = call.client.get(AT).json()["job"]["site"]
    desk = call.client.app.state.desk  # type: ignore[attr-defined]
    assert desk.rain.wait(site["latitude_deg"], site["longitude_deg"]) is not None
    found = _get(call, "/antennas/a1/link")
    assert found["rain"]["state"] == "ready"
    assert 20 < found["link"]["rain_mm_h"] < 60
    row = found["link"]["satellites"][0]["rows"][0]
    assert 0.2 < row["rain_db"] < 3
    assert row["available_pct"] > 99.7
    assert row["smallest_m"] < 0.8
    assert call.client.get(f"{AT}/antennas/a2/link").status_code == 404


def test_rain_that_cannot_be_read_is_told(monkeypatch: pytest.MonkeyPatch) -> None:
    import sys

    maps = RainMaps()
    monkeypatch.setitem(sys.modules, "itur.models", None)
    assert maps.wait(10.0, 20.0) is None
    climate, progress = maps.climate(10.0, 20.0)
    assert climate is None
    assert progress.state == "failed"
    assert progress.words


def test_the_frequency_plan_and_a_wrong_oscillator(call: Caller) -> None:
    plan = _get(call, "/antennas/a1/frequencies?lo=10,6 GHz")
    assert [p["lnb"] for p in plan["plans"]] == ["p3"]
    assert plan["told_lo_mhz"] == pytest.approx(10_600)
    assert {w["finds"] for w in plan["wrong"]} >= {"itself", "nothing"}
    refused = call.client.get(f"{AT}/antennas/a1/frequencies?lo=wide")
    assert refused.json()["field"] == "LNB oscillator"


# --- finding -------------------------------------------------------------------------------------


def test_readings_lead_to_the_way_back(call: Caller) -> None:
    call.change({"verb": "anew", "dish": "a1", "axis": "azimuth", "target": ""})
    for position, reading in (
        ("-2", "8,1"),
        ("-1", "12.4 dB"),
        ("0", "14.0"),
        ("1", "12.6"),
        ("2", "8.3"),
    ):
        call.add(
            "samples",
            {"antenna": "a1", "axis": "azimuth", "position": position, "reading": reading},
            status=201,
        )
    peak = next(p for p in _get(call, "/antennas/a1/aim")["peaks"] if p["axis"] == "azimuth")
    assert peak["peak"]["centre"] == pytest.approx(0.02, abs=0.1)
    assert {"2", "anticlockwise"} <= set(peak["words"].split())
    view = call.set("samples", {"reading": 8.4}, "q1")
    assert view["job"]["samples"][0]["reading"] == 8.4
    call.remove("samples", "q1")
    refused = call.add(
        "samples",
        {"antenna": "a1", "axis": "azimuth", "position": "far", "reading": "3"},
        status=422,
    )
    assert refused["field"] == "Position"
    view = call.change({"verb": "anew", "dish": "a1", "axis": "azimuth", "target": ""})
    assert view["job"]["samples"] == []
    view = call("POST", "/undo")
    assert len(view["job"]["samples"]) == 4


def test_nuts_are_compared(call: Caller) -> None:
    for role, reading in (("before", "14.0"), ("after", "13.2")):
        call.add(
            "samples",
            {
                "antenna": "a1",
                "axis": "elevation",
                "position": "0",
                "reading": reading,
                "role": role,
            },
            status=201,
        )
    nuts = _get(call, "/antennas/a1/aim")["tightened"]
    assert [(n["axis"], round(n["lost"], 1), n["state"]) for n in nuts] == [
        ("elevation", 0.8, "marginal")
    ]


def test_a_wrong_neighbour_is_named(call: Caller) -> None:
    call.add(
        "locks",
        {"antenna": "a1", "frequency_mhz": "11.597 GHz", "polarisation": "V", "symbol_mbd": "22"},
        status=201,
    )
    call.add(
        "locks",
        {"antenna": "a1", "frequency_mhz": "10714", "polarisation": "V", "symbol_mbd": "22 MBd"},
        status=201,
    )
    found = _get(call, "/antennas/a1/aim")["identity"]
    assert 0 < found["words"].index("Avocet") < found["words"].index("Corvus")
    assert "left" in found["way"]
    refused = call.add(
        "locks",
        {"antenna": "a1", "frequency_mhz": "10714", "polarisation": "V", "symbol_mbd": "0"},
        status=422,
    )
    assert refused["code"] == "symbol-zero"
    view = call.set("locks", {"locked": False}, "k1")
    assert view["job"]["locks"][0]["locked"] is False
    call.remove("locks", "k1")


def test_tries_are_logged_and_the_best_is_marked(call: Caller) -> None:
    for depth, reading in (("0", "6"), ("-5", "7,5"), ("-10", "7")):
        call.add(
            "feed_tries",
            {"antenna": "a1", "depth_mm": depth, "reading": reading, "channels": "12"},
            status=201,
        )
    tries = _get(call, "/antennas/a1/aim")["tries"]
    assert tries["best"] == "y2"
    assert tries["following"]["axis"] == "sideways"
    view = call.set("feed_tries", {"note": "feed loose"}, "y3")
    assert view["job"]["feed_tries"][2]["note"] == "feed loose"
    call.remove("feed_tries", "y3")


def test_a_learned_zero_is_kept_and_an_absurd_one_refused(call: Caller) -> None:
    view = call.change({"verb": "learn-scale", "dish": "a1", "reads": "86,0°"})
    assert view["job"]["dishes"][0]["scale_zero_deg"] == pytest.approx(1.18, abs=0.02)
    assert view["answers"]["aim"]["aims"][0]["inclinometer_deg"] == pytest.approx(86.0, abs=0.01)
    refused = call.change({"verb": "learn-scale", "dish": "a1", "reads": "20"}, status=422)
    assert "off" in refused["detail"]


def test_feeds_and_zones(call: Caller) -> None:
    view = call.add("feeds", {"antenna": "a1", "target": "t2"}, status=201)
    assert view["job"]["feeds"][0]["target"] == "t2"
    row = _get(call, "/antennas/a1/aim")["row"]
    assert len(row["feeds"]) == 2
    assert call.add("feeds", {"antenna": "a1", "target": "t2"}, status=422)["code"] == "feed-twice"
    assert call.add("feeds", {"antenna": "a1", "target": "t3"}, status=404)["code"] == "row-missing"
    call.set("feeds", {"placed_mm": "-131 mm"}, "f1")
    call.add("presets", {"antenna": "a1", "name": "zone 4", "tilt_deg": "-18°"}, status=201)
    call.set("presets", {"tilt_deg": "-20"}, "z1")
    row = _get(call, "/antennas/a1/aim")["row"]
    assert row["zone"].startswith("Zone zone 4")
    assert row["feeds"][0]["placed_mm"] == -131 or row["feeds"][1]["placed_mm"] == -131
    call.remove("presets", "z1")
    call.remove("feeds", "f1")
    assert _get(call, "/antennas/a1/aim")["row"] is None


def test_removing_a_target_takes_its_feed_along(call: Caller) -> None:
    call.add("feeds", {"antenna": "a1", "target": "t2"}, status=201)
    view = call.remove("targets", "t2")
    assert view["job"]["feeds"] == []


def test_the_simulated_meter_turns_and_streams(call: Caller) -> None:
    first = _get(call, "/antennas/a1/meter")
    answer = call.client.post(f"{AT}/antennas/a1/meter", json={"axis": "azimuth", "by": 0.5})
    assert answer.json()["azimuth"] == pytest.approx(first["azimuth"] + 0.5)
    assert (
        call.client.post(f"{AT}/antennas/a1/meter", json={"axis": "roll", "by": 1}).status_code
        == 422
    )


def test_the_simulated_meter_follows_the_job_and_ends_with_its_dish(call: Caller) -> None:
    def reads() -> float:
        shown = [_get(call, "/antennas/a1/meter")["cn_db"] for _ in range(20)]
        return sum(shown) / len(shown)

    call.client.post(f"{AT}/antennas/a1/meter", json={"axis": "azimuth", "by": 0.25})
    stands, before = _get(call, "/antennas/a1/meter"), reads()
    call.set("dishes", {"efficiency": 0.33}, "a1")
    # Half the efficiency is half the power; the screws stand where they stood.
    assert before - reads() == pytest.approx(3.0, abs=0.4)
    assert _get(call, "/antennas/a1/meter")["azimuth"] == stands["azimuth"]
    call.set("dishes", {"target": None}, "a1")
    refused = call.client.get(f"{AT}/antennas/a1/meter")
    assert refused.json()["code"] == "no-target"
    call.remove("dishes", "a1")
    assert call.client.get(f"{AT}/antennas/a1/meter").status_code == 404


def test_an_array_has_no_dish_pages(call: Caller) -> None:
    assert call.client.get(f"{AT}/antennas/a2/aim").status_code == 404
    assert call.client.get(f"{AT}/antennas/a9/meter").status_code == 404


# --- open files ----------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["csv", "json"])
def test_satellites_go_out_and_come_in_the_same(call: Caller, kind: str) -> None:
    out = call.client.get(f"{AT}/satellites.{kind}").content
    before = _get(call, "")["job"]
    answer = call.client.post(f"{AT}/satellites", content=out, headers={"If-Match": "0"})
    assert answer.status_code == 200
    after = answer.json()["job"]
    assert after["targets"] == before["targets"]
    assert after["carriers"] == before["carriers"]
    assert answer.json()["notes"] == []


def test_a_list_is_taken_but_for_its_broken_lines(call: Caller) -> None:
    rows = list(csv.reader(io.StringIO(call.client.get(f"{AT}/satellites.csv").text)))
    head = rows[0]
    body = [
        [
            "Curlew",
            "33 E",
            "0",
            "no",
            "0",
            "no",
            "V 11.1",
            "11100",
            "0",
            "V",
            "50",
            "DVB-S2 8PSK 2/3",
        ],
        [
            "Curlew",
            "33 E",
            "0",
            "no",
            "0",
            "no",
            "H 11.2",
            "11200",
            "27,5",
            "H",
            "50",
            "DVB-S2 8PSK 2/3",
        ],
        ["Dotterel", "nowhere", "0", "no", "0", "no", "", "", "", "", "", ""],
        ["Bunting", "40 W", "", "", "", "", "", "", "", "", "", ""],
    ]
    text = io.StringIO()
    csv.writer(text).writerows([head, *body])
    answer = call.client.post(
        f"{AT}/satellites", content=text.getvalue().encode(), headers={"If-Match": "0"}
    )
    view = answer.json()
    assert answer.status_code == 200
    assert len(view["notes"]) == 2
    assert "line 2" in view["notes"][0]
    assert "0 MBd" in view["notes"][0]
    assert "line 4" in view["notes"][1]
    names = {t["name"]: t for t in view["job"]["targets"]}
    assert names["Curlew"]["wanted"] is False
    assert names["Bunting"]["orbit_deg_e"] == -40
    assert [c["name"] for c in view["job"]["carriers"] if c["target"] == names["Curlew"]["id"]] == [
        "H 11.2"
    ]


@pytest.mark.parametrize(
    ("body", "words"),
    [
        (b"", "the file is empty"),
        (b"\xff\xfe\x00", "not UTF-8"),
        (b"{", "not a JSON document"),
        (b'{"satellites": 3}', "no list named satellites"),
        (b"name,orbit\nx,3\n", "column satellite is missing"),
    ],
)
def test_a_list_that_is_none_is_told(call: Caller, body: bytes, words: str) -> None:
    answer = call.client.post(f"{AT}/satellites", content=body, headers={"If-Match": "0"})
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_geometry_goes_out_as_geojson_and_kml(call: Caller) -> None:
    found = json.loads(call.client.get(f"{AT}/targets.geojson").content)
    kinds = [f["properties"]["kind"] for f in found["features"]]
    assert kinds.count("site") == 1
    assert kinds.count("transmitter") == 1
    corvus = next(f for f in found["features"] if f["properties"]["name"] == "Corvus")
    assert corvus["geometry"]["type"] == "LineString"
    assert corvus["properties"]["azimuth_deg"] == pytest.approx(135.8, abs=0.1)
    root = fromstring(call.client.get(f"{AT}/targets.kml").text)
    marks = [e for e in root.iter() if e.tag.endswith("Placemark")]
    assert len(marks) == len(found["features"])


def test_sun_events_go_out_as_a_calendar(call: Caller) -> None:
    calendar = icalendar.Calendar.from_ical(call.client.get(f"{AT}/sun.ics").content)
    titles = [str(e["summary"]) for e in calendar.walk("VEVENT")]
    assert any("Corvus: sun outage" in t for t in titles)
    assert any("plumb-line" in t for t in titles)
    assert len({str(e["uid"]) for e in calendar.walk("VEVENT")}) == len(titles)


# --- two-way -------------------------------------------------------------------------------------


def _beams(*shapes: Any) -> bytes:
    rows = [
        {
            "type": "Feature",
            "properties": {
                "name": f"Spot {i}",
                "code": f"S{i}",
                "least_esn0_db": 9,
                "polarisation": "R",
            },
            "geometry": {"type": "Polygon", "coordinates": [s]},
        }
        for i, s in enumerate(shapes)
    ]
    return json.dumps({"type": "FeatureCollection", "features": rows}).encode()


def test_beams_come_from_geojson_and_a_crossed_one_is_told(call: Caller) -> None:
    around = [[-12, 51], [-7, 51], [-7, 56], [-12, 56], [-12, 51]]
    crossed = [[0, 0], [10, 10], [10, 0], [0, 10], [0, 0]]
    answer = call.client.post(
        f"{AT}/beams?target=t1", content=_beams(around, crossed), headers={"If-Match": "0"}
    )
    view = answer.json()
    assert answer.status_code == 200, view
    assert [b["name"] for b in view["job"]["beams"]] == ["Spot 0"]
    assert "crosses side" in view["notes"][0]
    call.revision = view["revision"]
    call.set("dishes", {"two_way": True}, "a1")
    page = _get(call, "/antennas/a1/aim")["two_way"]
    assert page["beams"][0]["inside"] is True
    assert page["gate_open"] is False
    call.set(
        "terminal",
        {
            "installer": "A. Mender",
            "licence": "7",
            "licence_seen": True,
            "esn0_db": "9,7 dB",
            "beam": "w1",
        },
    )
    page = _get(call, "/antennas/a1/aim")["two_way"]
    assert page["gate_open"] is True
    assert page["es_n0"]["state"] == "marginal"
    sheet = call.client.get(f"{AT}/sheet").json()
    terminal = next(part for part in sheet if part["title"] == "Two-way terminal")
    assert "Spot 0, code S0" in str(terminal)
    view = call.remove("beams", "w1")
    assert view["job"]["terminal"]["beam"] is None
    assert call.set("terminal", {"beam": "w9"}, status=422)["field"] == "Beam"


@pytest.mark.parametrize(
    "body", [b"", b"[]", b'{"features": []}', b'{"features": [{"geometry": {"type": "Point"}}]}']
)
def test_beam_files_that_are_none_are_told(call: Caller, body: bytes) -> None:
    answer = call.client.post(f"{AT}/beams?target=t1", content=body, headers={"If-Match": "0"})
    assert answer.status_code == 422


# --- portable ------------------------------------------------------------------------------------

GPX = b"""<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1">
<wpt lat="69.5" lon="19.1"><name>Quay</name><ele>4</ele></wpt><wpt lat="-40.25" lon="175"><name>Ford</name></wpt></gpx>"""


def test_a_quick_job_needs_only_place_satellite_and_dish(call: Caller) -> None:
    answer = call.client.post(
        "/api/jobs/quick",
        json={"position": "69°30'N 19°06'E", "orbit": "16 E", "diameter_m": "85 cm"},
    )
    view = answer.json()
    assert answer.status_code == 201, view
    aim = view["answers"]["aim"]["aims"][0]
    assert aim["elevation_deg"] == pytest.approx(12.0, abs=0.5)
    assert view["job"]["dishes"][0]["diameter_m"] == 0.85
    for body, field in (
        ({"position": "here", "orbit": "16 E"}, "Position"),
        ({"position": "1 2", "orbit": "up"}, "Orbit position"),
        ({"position": "1 2", "orbit": "3", "diameter_m": "big"}, "Dish diameter"),
    ):
        refused = call.client.post("/api/jobs/quick", json=body)
        assert refused.status_code == 422
        assert refused.json()["field"] == field


def test_the_next_stop_keeps_what_the_kit_has_learned(call: Caller) -> None:
    made = call.client.post(
        "/api/jobs/quick", json={"position": "68 N 15 E", "orbit": "16 E"}
    ).json()
    at, write = f"/api/jobs/{made['id']}", Caller(call.client, made["id"])
    write.set("dishes", {"datum": "scale"}, "a1")
    reads = call.client.get(at).json()["answers"]["aim"]["aims"][0]["inclinometer_deg"]
    write.change({"verb": "learn-scale", "dish": "a1", "reads": str(reads + 1.5)})
    write.add("obstructions", {"line": "barn 170 180 9"})
    view = call.client.post(
        f"{at}/stops/gpx", content=GPX, headers={"If-Match": str(write.revision)}
    ).json()
    write.revision = view["revision"]
    assert [s["name"] for s in view["job"]["stops"]] == ["First stop", "Quay", "Ford"]
    view = write.change({"verb": "arrive", "stop": "h2"})
    assert view["job"]["site"]["latitude_deg"] == 69.5
    assert view["job"]["dishes"][0]["scale_zero_deg"] == pytest.approx(1.5)
    assert view["job"]["obstructions"] == []
    view = write.add("stops", {"name": "", "position_text": "70.1 N 20 E"})
    assert view["job"]["stops"][-1]["name"] == "Stop 4"
    view = write.set("rig", {"kind": "vehicle", "gap_mm": "9 mm"})
    assert any(p["code"] == "rig-gap" for p in view["answers"]["aim"]["problems"])
    view = write.remove("stops", "h2")
    assert view["job"]["rig"]["stop"] is None


@pytest.mark.parametrize(
    ("body", "words"),
    [
        (b"", "empty"),
        (b"<gpx", "not whole XML"),
        (b"<kml/>", "not of <gpx>"),
        (b"<gpx/>", "no position"),
        (b'<gpx><wpt lat="99" lon="1"/></gpx>', "no place on the earth"),
        (b'<!DOCTYPE a [<!ENTITY b "c">]><gpx>&b;</gpx>', "not whole XML"),
    ],
)
def test_gpx_files_that_are_none_are_told(call: Caller, body: bytes, words: str) -> None:
    answer = call.client.post("/api/places/gpx", content=body)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_a_track_gives_its_last_point(call: Caller) -> None:
    gpx = b'<gpx><trk><name>Way</name><trkseg><trkpt lat="1" lon="2"/><trkpt lat="3" lon="4"/></trkseg></trk></gpx>'
    assert call.client.post("/api/places/gpx", content=gpx).json() == [
        {"name": "Way", "position": "3.000000 N 4.000000 E", "good_to_m": 10.0}
    ]


# --- files ---------------------------------------------------------------------------------------


def test_a_job_file_of_the_first_form_is_still_read(call: Caller, skerry: Any) -> None:
    document = json.loads(write_job(skerry))
    document["version"] = 1
    for row in (
        "spots",
        "feeds",
        "samples",
        "feed_tries",
        "locks",
        "beams",
        "stops",
        "presets",
        "rig",
        "terminal",
    ):
        del document["job"][row]
    answer = call.client.post("/api/jobs/import", content=json.dumps(document).encode())
    assert answer.status_code == 201
    assert answer.json()["job"]["rig"]["kind"] == "none"


def test_a_long_places_file_says_what_it_left_out(call: Caller) -> None:
    marks = "".join(f'<wpt lat="{i / 10}" lon="3"><name>P{i}</name></wpt>' for i in range(130))
    answer = call.client.post(
        "/api/jobs/fjell-caravan/stops/gpx",
        content=f"<gpx>{marks}</gpx>".encode(),
        headers={"If-Match": "0"},
    )
    view = answer.json()
    assert answer.status_code == 200, view
    assert len(view["job"]["stops"]) == 102
    assert view["notes"] == ["Places from the 101st on were left out: a file gives at most 100."]
