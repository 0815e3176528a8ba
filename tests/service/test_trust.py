"""What is typed and read on the way through the service: told, asked back, refused, and counted."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import mgrs
import pytest
from fastapi.testclient import TestClient
from openlocationcode import openlocationcode
from pyproj import Proj

from .conftest import Caller


def test_a_compass_bearing_is_turned_by_the_jobs_declination_and_told(call: Caller) -> None:
    """Skerry House: declination some 2.7 degrees west, so 80 by compass is 77.3 true."""
    view = call.set("site", {"entry_bearing_deg": "80°M"})
    declination = view["answers"]["aim"]["declination_deg"]
    assert view["job"]["site"]["entry_bearing_deg"] == pytest.approx(
        (80 + declination) % 360, abs=1e-6
    )
    assert "declination here" in view["told"][0]
    assert call.set("site", {"entry_bearing_deg": "80"})["told"] == []
    row = call.add("spots", {"name": "Post", "bearing_deg": "80 M", "distance_m": "12 ft"})
    spot = row["job"]["spots"][-1]
    assert spot["bearing_deg"] == pytest.approx(80 + declination, abs=1e-6)
    assert spot["distance_m"] == pytest.approx(3.6576)


def test_a_compass_bearing_without_a_place_is_refused(fresh: Caller) -> None:
    said = fresh.set("site", {"entry_bearing_deg": "80°M"}, status=422)
    assert "place" in said["detail"]
    assert said["field"] == "Cable entry bearing"


def test_two_readings_come_back_as_choices(call: Caller) -> None:
    said = call.set("site", {"height_m": "1,240"}, status=422)
    assert said["choices"] == ["1.24", "1240"]
    said = call.set("site", {"position_text": "53.4805 N 9.9720 O"}, status=422)
    assert said["choices"] == ["53.4805 N 9.9720 E", "53.4805 N 9.9720 W"]
    said = call.add(
        "targets", {"kind": "satellite", "name": "X", "orbit_deg_e": "28.2O"}, status=422
    )
    assert said["choices"] == ["28.2E", "28.2W"]
    assert (
        call.set("site", {"position_text": said["choices"][0]}, status=422)["field"] == "Position"
    )


@pytest.mark.parametrize("form", ["mgrs", "plus", "utm"])
def test_a_site_by_grid_or_code(call: Caller, form: str) -> None:
    lat, lon = 53.4805, -9.972
    east, north = Proj(proj="utm", zone=29, ellps="WGS84")(lon, lat)
    text = {
        "mgrs": mgrs.MGRS().toMGRS(lat, lon),
        "plus": openlocationcode.encode(lat, lon),
        "utm": f"29 north {east:.0f} {north:.0f}",
    }[form]
    view = call.set("site", {"position_text": text})
    assert view["job"]["site"]["latitude_deg"] == pytest.approx(lat, abs=1.5e-4)
    assert view["job"]["site"]["longitude_deg"] == pytest.approx(lon, abs=1.5e-4)
    assert view["answers"]["site"]["precision_m"] < 15


def test_carriers_are_read_in_the_units_of_their_kind(call: Caller) -> None:
    body = {
        "target": "t3",
        "name": "low",
        "frequency_mhz": "ch 40",
        "bandwidth_mhz": "7610 kHz",
        "polarisation": "H",
        "power": "250 W",
        "modulation": "DVB-T 64QAM 2/3",
    }
    kinds = {t["id"]: t["kind"] for t in call("GET", "")["job"]["targets"]}
    sender = next(k for k, v in kinds.items() if v == "transmitter")
    made = call.add("carriers", body | {"target": sender})["job"]["carriers"][-1]
    assert (made["power"], made["bandwidth_mhz"]) == (pytest.approx(0.25), pytest.approx(7.61))
    said = call.add("carriers", body | {"target": sender, "power": "250 mw"}, status=422)
    assert "megawatts or milliwatts" in said["detail"]
    sat = next(k for k, v in kinds.items() if v == "satellite")
    made = call.add(
        "carriers",
        body
        | {
            "target": sat,
            "frequency_mhz": "11,727 GHz",
            "bandwidth_mhz": "27500 kS/s",
            "power": "81 dBm",
            "modulation": "DVB-S2X 8PSK 25/36",
        },
    )["job"]["carriers"][-1]
    assert (made["frequency_mhz"], made["bandwidth_mhz"], made["power"]) == (11_727, 27.5, 51.0)


def test_a_place_from_a_gpx_file_is_good_to_its_waypoint(call: Caller) -> None:
    gpx = b'<gpx><wpt lat="53.480512" lon="-9.972034"><name>Gable</name></wpt></gpx>'
    place = call.client.post("/api/places/gpx", content=gpx).json()[0]
    view = call.set(
        "site", {"position_text": place["position"], "position_good_m": f"{place['good_to_m']} m"}
    )
    assert view["answers"]["site"]["precision_m"] == 10.0
    assert view["job"]["site"]["latitude_deg"] == pytest.approx(53.480512)
    # Typed anew, what was said of the place before no longer holds.
    assert (
        call.set("site", {"position_text": "53.48 -9.97"})["job"]["site"]["position_good_m"] is None
    )


def test_what_was_said_of_one_place_does_not_hold_at_the_next_stop(client: TestClient) -> None:
    van = Caller(client, "fjell-caravan")
    van("GET", "")
    van.set("site", {"position_good_m": "3 km"})
    view = van.add("stops", {"name": "Ford", "position_text": "61.1234 7.1234"})
    stop = view["job"]["stops"][-1]["id"]
    view = van.change({"verb": "arrive", "stop": stop})
    assert view["job"]["site"]["position_good_m"] is None
    assert view["answers"]["site"]["precision_m"] < 10


def test_towns_say_how_good_they_are(client: TestClient) -> None:
    found = client.get("/api/places?q=galway").json()
    assert all(p["good_to_m"] >= 1000 for p in found)


def test_a_wind_region_of_another_profile_is_refused(call: Caller) -> None:
    assert call.set("mast", {"wind_region": "c"}, status=422)["field"] == "Wind region"
    call.set("job", {"profile": "australia-new-zealand"})
    view = call.set("mast", {"wind_region": "c"})
    assert view["answers"]["mast"]["pressure_pa"] > 2500
    assert view["answers"]["mast"]["state"] == "fail"


def test_a_typed_wind_area_stays_and_can_be_given_back(call: Caller) -> None:
    view = call.set("dishes", {"wind_area_m2": "8 sq ft"}, "a1")
    dish = view["job"]["dishes"][0]
    assert (dish["area_from"], dish["wind_area_m2"]) == ("own", pytest.approx(0.743, abs=1e-3))
    view = call.set("dishes", {"diameter_m": "1.8"}, "a1")
    assert view["answers"]["mast"]["loads"][1]["area_m2"] == pytest.approx(0.743, abs=1e-3)
    view = call.set("dishes", {"area_from": "size"}, "a1")
    assert view["answers"]["mast"]["loads"][1]["area_m2"] > 2.5


# --- aim ---------------------------------------------------------------------------------------------


@pytest.fixture
def hut(client: TestClient) -> Caller:
    made = Caller(client, "tern-hut")
    made("GET", "")
    return made


def test_a_compass_is_learned_from_a_known_bearing(call: Caller) -> None:
    aim = call("GET", "")["answers"]["aim"]["aims"][0]
    view = call.change(
        {"verb": "learn-compass", "dish": "a1", "reads": "147", "bearing": f"{aim['azimuth_deg']}"}
    )
    after = view["answers"]["aim"]["aims"][0]
    assert after["compass_deg"] == pytest.approx(147, abs=0.02)
    assert after["azimuth_deg"] == aim["azimuth_deg"]
    said = call.change(
        {"verb": "learn-compass", "dish": "a1", "reads": "10", "bearing": "200"}, status=422
    )
    assert said["code"] == "too-large"
    assert call.change(
        {"verb": "learn-compass", "dish": "a1", "reads": "361", "bearing": "200"}, status=422
    )["field"]


def test_a_zero_learned_twice_remembers_the_first(call: Caller) -> None:
    aim = call("GET", "")["answers"]["aim"]["aims"][0]["inclinometer_deg"]
    first = call.change({"verb": "learn-scale", "dish": "a1", "reads": f"{aim + 2:.2f}"})
    assert first["job"]["dishes"][0]["zero_before_deg"] is None
    second = call.change({"verb": "learn-scale", "dish": "a1", "reads": f"{aim - 1:.2f}"})
    dish = second["job"]["dishes"][0]
    assert (dish["scale_zero_deg"], dish["zero_before_deg"]) == (
        pytest.approx(-1, abs=0.02),
        pytest.approx(2, abs=0.02),
    )
    assert "zero-moved" in {p["code"] for p in second["answers"]["aim"]["problems"]}


def test_readings_belong_to_a_feed(client: TestClient) -> None:
    terrace = Caller(client, "alder-terrace")
    view = terrace("GET", "")
    dish = view["job"]["dishes"][0]
    side = next(f["target"] for f in view["job"]["feeds"] if f["antenna"] == dish["id"])
    at = f"/api/jobs/alder-terrace/antennas/{dish['id']}/aim"
    for position, reading in (("0", "9"), ("1", "11"), ("2", "9.2")):
        terrace.add(
            "samples",
            {
                "antenna": dish["id"],
                "axis": "azimuth",
                "position": position,
                "reading": reading,
                "target": side,
            },
        )
    lock = {
        "antenna": dish["id"],
        "frequency_mhz": "10714",
        "polarisation": "V",
        "symbol_mbd": "22",
    }
    terrace.add("locks", {**lock, "target": side})
    main, other = client.get(at).json(), client.get(at, params={"feed": side}).json()
    assert len(other["peaks"][0]["samples"]) == 3
    assert not main["peaks"][0]["samples"]
    assert (other["feed"], main["feed"]) == (side, dish["target"])
    said = terrace.add("locks", {**lock, "target": "t99"}, status=404)
    assert said["field"] == "Feed"
    # Begun anew for the main feed, the side feed's readings stay.
    anew = {"verb": "anew", "dish": dish["id"], "axis": "azimuth"}
    terrace.change({**anew, "target": ""})
    assert len(client.get(at, params={"feed": side}).json()["peaks"][0]["samples"]) == 3
    terrace.change({**anew, "target": side})
    assert not client.get(at, params={"feed": side}).json()["peaks"][0]["samples"]
    # The satellite goes, and what was read at its feed with it.
    view = terrace.remove("targets", side)
    assert all(k["target"] != side for k in view["job"]["locks"])


def test_a_beam_is_typed_chosen_and_holds_its_minimum(hut: Caller) -> None:
    view = hut.add(
        "beams", {"target": "t1", "name": "Blue 7", "code": "B7", "least_esn0_db": "11,5"}
    )
    beam = view["job"]["beams"][-1]
    assert (beam["name"], beam["least_esn0_db"], beam["boundary"]) == ("Blue 7", 11.5, [])
    view = hut.set("terminal", {"beam": beam["id"]})
    codes = {p["code"] for p in view["answers"]["aim"]["problems"]}
    assert "esn0-low" in codes  # 10.4 was read
    assert view["answers"]["aim"]["state"] == "fail"
    # It has no border: the files that go out leave it out and stay whole.
    shapes = hut.client.get("/api/jobs/tern-hut/targets.geojson").json()["features"]
    assert all(s["properties"]["name"] != "Blue 7" for s in shapes)
    assert hut.client.get("/api/jobs/tern-hut/targets.kml").status_code == 200
    said = hut.add("beams", {"target": "t99", "name": "X"}, status=404)
    assert said["field"] == "Satellite"
    assert (
        hut.add("beams", {"target": "t1", "name": "X", "least_esn0_db": "high"}, status=422)[
            "field"
        ]
        == "Least Es/N0"
    )


def test_low_or_missing_readings_bar_commissioning(hut: Caller) -> None:
    said = hut.set("terminal", {"state": "commissioned"}, status=422)
    assert "isolation" in said["detail"]
    assert "below" not in said["detail"]
    said = hut.set("terminal", {"state": "commissioned", "isolation_db": "19"}, status=422)
    assert "below 25" in said["detail"]
    view = hut.set("terminal", {"state": "commissioned", "isolation_db": "28"})
    assert view["job"]["terminal"]["state"] == "commissioned"
    view = hut.set("terminal", {"esn0_db": "3"})
    assert view["answers"]["aim"]["state"] == "fail"


def test_a_place_that_is_known_to_the_degree_is_not_good_enough_for_a_beam(hut: Caller) -> None:
    view = hut.set("site", {"position_text": "61 -2"})
    problem = next(p for p in view["answers"]["site"]["problems"] if p["code"] == "position-coarse")
    assert problem["state"] == "fail"
    view = hut.set("site", {"position_good_m": "200 ft"})
    assert not [p for p in view["answers"]["site"]["problems"] if p["code"] == "position-coarse"]


def test_the_measured_reflector_is_taken_by_its_remedy(call: Caller) -> None:
    view = call.set(
        "dishes",
        {
            "reflector_height_mm": "35 7/16 in",
            "reflector_width_mm": "830",
            "reflector_depth_mm": "80",
            "offset_deg": "10°0'",
        },
        "a1",
    )
    problem = next(
        p for p in view["answers"]["aim"]["problems"] if p["code"] == "reflector-differs"
    )
    view = call("POST", "/changes", problem["change"])
    assert not [p for p in view["answers"]["aim"]["problems"] if p["code"] == "reflector-differs"]
    assert view["job"]["dishes"][0]["offset_deg"] == pytest.approx(22.8, abs=0.2)


def test_networks_and_places_can_be_typed(client: TestClient) -> None:
    farm = Caller(client, "harrow-farm")
    farm("GET", "")
    for carrier in ("c2", "c7"):
        farm.set("carriers", {"network": "vale"}, carrier)
    farm.set("targets", {"delay_us": "-400"}, "t3")
    paths = client.get("/api/jobs/harrow-farm/paths").json()["paths"]
    line = next(m for p in paths for m in p["muxes"] if m["carrier"] == "c2")
    early = next(e for e in line["network"]["echoes"] if e["delay_us"] < -100)
    assert early["useful"] < 1
    view = farm.add("spots", {"name": "Silo", "mount_height_m": "20"})
    row = next(s for s in view["answers"]["sky"]["spots"] if s["name"] == "Silo")
    assert row["of_arrives"] > 0
    view = farm.set("spots", {"in_way": "neighbour", "noise": "near"}, row["id"])
    row = next(s for s in view["answers"]["sky"]["spots"] if s["name"] == "Silo")
    assert (row["state"], row["best"]) == ("fail", False)
    assert "neighbour" in row["why"][0]


def test_tired_writings_of_every_kind_reach_the_job(fresh: Callable[..., Any]) -> None:
    """Feet and inches, degrees and minutes, fractions, wire by its size, true minus, knots."""
    fresh.set("site", {"position_text": "40 30.00N 3 42.00W", "mount_height_m": "19' 8\""})
    view = fresh("GET", "")
    assert view["job"]["site"]["latitude_deg"] == pytest.approx(40.5)
    assert view["job"]["site"]["mount_height_m"] == pytest.approx(5.9944)
    view = fresh.set(
        "mast",
        {
            "outer_mm": "1 7/8 in",
            "wall_mm": "⅛ in",
            "wind_ms": "90 mph",
            "moment_limit_nm": "900 ft·lb",
        },
    )
    mast = view["job"]["mast"]
    assert mast["outer_mm"] == pytest.approx(47.625)
    assert mast["wall_mm"] == pytest.approx(3.175)
    assert mast["wind_ms"] == pytest.approx(40.23, abs=0.01)
    assert mast["moment_limit_nm"] == pytest.approx(1220.2, abs=0.1)
