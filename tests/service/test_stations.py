"""Every station's own calls: add, change, remove, and what they change elsewhere."""

from __future__ import annotations

import io
from typing import Any

import pypdf
import pytest

from evtro.demo.world import demo_jobs

from .conftest import Caller


def _station(view: Any, key: str) -> Any:
    return next(s for s in view["answers"]["stations"] if s["key"] == key)


def test_site_takes_positions_and_gives_a_plan(fresh: Caller) -> None:
    view = fresh.set("site", {"position_text": "geo:53.4805,-9.9720"})
    assert view["answers"]["site"]["position"] == "53.4805 N 9.9720 W"
    assert view["answers"]["site"]["precision_m"] == pytest.approx(6.47, abs=0.1)
    view = fresh.set("site", {"building_length_m": "40 ft", "entry_distance_m": "2,5"})
    corners = view["answers"]["site"]["shapes"][0]["points_m"]
    assert max(x for x, _ in corners) == pytest.approx(40 * 0.3048 / 2, abs=0.01)
    assert view["answers"]["site"]["entry_m"] == pytest.approx([0, 2.5])
    view = fresh.set("site", {"position_text": ""})
    assert view["answers"]["site"]["position"] is None
    assert _station(view, "site")["state"] == "unknown"


def test_outlets_come_and_go_with_their_plates(call: Caller) -> None:
    view = call.add("outlets", {"name": "Attic", "floor": "Third floor", "satellite": False})
    assert _station(view, "site")["figure"] == "13 outlets"
    problem = next(p for p in view["answers"]["coax"]["problems"] if p["code"] == "no-plate")
    assert problem["place"] == "Attic"
    view = call.set("outlets", {"name": "Loft", "terrestrial": False}, "o13")
    assert _station(view, "coax")["figure"] == "11/12 in"
    view = call.remove("outlets", "o12")
    assert all(p["outlet"] != "o12" for p in view["job"]["parts"])
    assert _station(view, "coax")["figure"] == "11/11 in"
    call.remove("outlets", "o99", status=404)


def test_sky_rows(call: Caller) -> None:
    view = call.add("obstructions", {"line": "silo 140 146 9m at 60m"})
    silo = view["answers"]["sky"]["skyline"][-1]
    assert silo["letter"] == "E"
    assert silo["top_deg"] == pytest.approx(8.53, abs=0.01)
    view = call.set("obstructions", {"top_deg": "12"}, "b5")
    assert view["job"]["obstructions"][-1]["above_m"] is None
    assert view["answers"]["sky"]["skyline"][-1]["top_deg"] == pytest.approx(12)
    view = call.set("obstructions", {"distance_m": "", "outline": "ridge"}, "b5")
    assert view["job"]["obstructions"][-1]["distance_m"] is None
    view = call.remove("obstructions", "b5")
    assert len(view["answers"]["sky"]["skyline"]) == 4


def test_targets_and_carriers(call: Caller) -> None:
    view = call.add(
        "targets",
        {
            "kind": "transmitter",
            "name": "Sloe Head",
            "position": "53.1 N 9.3 W",
            "height_m": "700 ft",
        },
    )
    sloe = view["answers"]["sky"]["targets"][-1]
    assert sloe["sight"]["distance_km"] == pytest.approx(61.4, abs=0.5)
    assert view["job"]["targets"][-1]["height_m"] == pytest.approx(213.36)
    view = call.add(
        "carriers",
        {
            "target": "t9",
            "name": "radio",
            "frequency_mhz": "ch 30",
            "bandwidth_mhz": "7,61",
            "polarisation": "V",
            "power": "5",
            "modulation": "DVB-T QPSK 1/2",
        },
    )
    assert view["job"]["carriers"][-1]["frequency_mhz"] == 546.0
    # No antenna of its own, but the one on the mast hears it from beside its beam.
    assert not any(p["code"] == "no-source" for p in view["answers"]["coax"]["problems"])
    part = view["answers"]["coax"]["outlets"][0]["part"]
    cells = call("GET", f"/parts/{part}/levels")["cells"]
    beside = next(c for c in cells if c["carrier"] == "c17")
    assert beside["level"]["value"] < min(
        c["level"]["value"] for c in cells if c["carrier"] in ("c1", "c2", "c3")
    )
    view = call.set("targets", {"own_loss_db": "12,5 dB"}, "t9")
    assert view["job"]["targets"][-1]["own_loss_db"] == 12.5
    view = call.remove("carriers", "c17")
    assert len(view["job"]["carriers"]) == 16
    call.add(
        "carriers",
        {
            "target": "t99",
            "name": "x",
            "frequency_mhz": "500",
            "bandwidth_mhz": "8",
            "polarisation": "H",
            "power": "1",
            "modulation": "DVB-T QPSK 1/2",
        },
        status=404,
    )


def test_a_far_transmitter_is_beyond_the_horizon(call: Caller) -> None:
    view = call.add("targets", {"kind": "transmitter", "name": "Far", "position": "56.5 N 9.9 W"})
    problem = next(p for p in view["answers"]["sky"]["problems"] if p["place"] == "Far")
    assert (problem["code"], problem["state"]) == ("far-beyond", "fail")
    view = call.set("targets", {"latitude_deg": "54.4"}, "t9")
    problem = next(p for p in view["answers"]["sky"]["problems"] if p["place"] == "Far")
    assert (problem["code"], problem["state"]) == ("beyond-horizon", "marginal")


def test_a_transmitter_at_the_site_itself_does_not_break(call: Caller) -> None:
    view = call.add(
        "targets", {"kind": "transmitter", "name": "Here", "position": "53.4805 -9.9720"}
    )
    assert view["answers"]["sky"]["targets"][-1]["sight"]["distance_km"] == pytest.approx(0.001)


def test_aim_follows_target_datum_and_school(call: Caller) -> None:
    view = call.set("dishes", {"datum": "structure", "constant_deg": "12,6"}, "a1")
    aim = view["answers"]["aim"]["aims"][0]
    assert aim["inclinometer_deg"] == pytest.approx(aim["elevation_deg"] + 12.6)
    view = call.set("dishes", {"skew_view": "front"}, "a1")
    assert view["answers"]["aim"]["aims"][0]["skew_short"] == "clockwise"
    view = call.set("dishes", {"target": "t3"}, "a1")
    assert view["answers"]["aim"]["problems"][0]["code"] == "wrong-antenna"
    view = call.set("dishes", {"target": "t2"}, "a1")
    assert view["answers"]["aim"]["aims"][0]["azimuth_deg"] == pytest.approx(152.7, abs=0.1)
    call.set("dishes", {"target": "t77"}, "a1", status=422)


def test_mast_adds_and_removes_antennas(call: Caller) -> None:
    before = call.set("mast", {"outer_mm": "60"})["answers"]["mast"]["moment"]["value"]
    view = call.add("dishes", {"name": "Second dish", "target": "t2"})
    # A dish of 0.8 m with its arm, pi/4 x 0.64 x 1.1 m² at 960 N/m², hangs 0.5 m up; t2 makes its face
    # stand upright to a tenth of a per cent.
    area = next(x["area_m2"] for x in view["answers"]["mast"]["loads"] if x["antenna"] == "a3")
    assert area == pytest.approx(0.5529, rel=2e-3)
    assert view["answers"]["mast"]["moment"]["value"] == pytest.approx(before + 960 * area * 0.5)
    view = call.set("dishes", {"on_mast_m": "9 ft", "wind_area_m2": "1"}, "a3")
    assert view["answers"]["mast"]["state"] == "fail"
    codes = {p["code"] for p in view["answers"]["mast"]["problems"]}
    assert "mast-moment" in codes
    view = call.remove("dishes", "a3")
    assert view["answers"]["mast"]["moment"]["value"] == pytest.approx(before)


def test_removing_an_antenna_takes_its_source_out(call: Caller) -> None:
    view = call.remove("arrays", "a2")
    assert all(p["antenna"] != "a2" for p in view["job"]["parts"])
    assert any(p["code"] == "no-source" for p in view["answers"]["coax"]["problems"])


def test_earth_conductors(call: Caller) -> None:
    view = call.add("conductors", {"role": "devices"})
    assert _station(view, "earth")["state"] == "marginal"
    view = call.set("conductors", {"connected": True, "length_m": "4 ft"}, "e3")
    assert _station(view, "earth")["figure"] == "all bonded"
    view = call.set("conductors", {"size_mm2": "14 AWG"}, "e3")
    assert _station(view, "earth")["state"] == "fail"
    view = call.remove("conductors", "e3")
    assert _station(view, "earth")["figure"] == "1 to fix"
    view = call.set("earth", {"overhead_lines": "near", "line_distance_m": "3"})
    problem = next(p for p in view["answers"]["earth"]["problems"] if p["code"] == "overhead")
    assert problem["title"][0].startswith("Stop")


def _printed(call: Caller, units: str) -> str:
    data = call.client.get(f"/api/jobs/{call.job}/sheet.pdf{units}").content
    return " ".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(data)).pages)


def test_the_profile_changes_rules_units_and_limits(call: Caller) -> None:
    view = call.set("job", {"profile": "north-america"})
    assert [b["role"] for b in view["answers"]["earth"]["bonds"]] == [
        "mast",
        "shields",
        "electrodes",
    ]
    printed = _printed(call, "")
    assert "dBmV" in printed
    assert "157.5 ft" in printed
    # Whoever prints it has it in units of their own.
    own = _printed(call, "?units=metric&level=dbuv")
    assert "48.0 m" in own
    assert "dBmV" not in own
    assert " ft" not in own


def test_coax_edits(call: Caller) -> None:
    view = call.change({"verb": "insert", "after": "p18", "type": "block-1"}, status=422)
    assert view["code"] == "run-ends"
    view = call.change({"verb": "insert", "after": "p2", "type": "filter-694", "length_m": "0.5"})
    new = view["job"]["parts"][-1]["id"]
    assert next(k for k in view["job"]["links"] if k["from_part"] == new)["to_part"] == "p4"
    view = call.set("parts", {"name": "LTE filter"}, new)
    assert any(p["name"] == "LTE filter" for p in view["answers"]["coax"]["parts"])
    view = call.set("parts", {"setting_db": "3"}, "p2")
    level = {c: v for c, v, _ in call("GET", "/parts/p2/levels")["levels"]}
    view = call.change({"verb": "replace", "part": "p2", "type": "preamp-22"})
    louder = {c: v for c, v, _ in call("GET", "/parts/p2/levels")["levels"]}
    assert louder["c1"] == pytest.approx(level["c1"] + 12)
    view = call.remove("parts", new)
    assert next(k for k in view["job"]["links"] if k["from_part"] == "p2")["to_part"] == "p4"


def test_the_terms_of_a_level(call: Caller) -> None:
    terms = call.client.get(
        f"/api/jobs/{call.job}/parts/p18/terms", params={"carrier": "c7"}
    ).json()
    quality, terms = terms["quality"], terms["level"]
    assert quality[0]["cn_db"] <= quality[1]["cn_db"]
    assert terms[0]["name"] == ["LNB"]
    length = {"value": 48.0, "unit": "m", "digits": 0}
    assert [t["name"] for t in terms][-2:] == [[length, " of 6 mm"], ["Garden room"]]
    assert terms[-1]["level_dbuv"] == pytest.approx(42.65, abs=0.1)
    silent = call.client.get(
        f"/api/jobs/{call.job}/parts/p2/terms", params={"carrier": "c7"}
    ).json()
    assert silent == {"level": [], "quality": [], "cn_db": None, "over_mhz": []}


def test_readings_by_level_unit_and_away_again(call: Caller) -> None:
    view = call.read("readings", {"part": "p13", "carrier": "c1"}, {"level_dbuv": "-50 dBm"})
    row = next(r for r in view["answers"]["readings"]["rows"] if r["part"] == "p13")
    assert row["cells"][0]["read_dbuv"] == pytest.approx(58.75)
    taken = view["answers"]["readings"]["taken"]
    view = call.read("readings", {"part": "p13", "carrier": "c1"}, {"cn_db": "31,5"})
    assert view["answers"]["readings"]["taken"] == taken
    view = call.read(
        "readings", {"part": "p13", "carrier": "c1"}, {"level_dbuv": None, "cn_db": None}
    )
    assert view["answers"]["readings"]["taken"] == taken - 1


def test_reading_everything_as_planned_is_in(call: Caller) -> None:
    """A house without faults, read as planned, is in and can be handed over."""
    fern = Caller(call.client, "fern-cottage")
    view = fern.set("job", {"place": "Mallow Bend, again"})
    for row in view["answers"]["readings"]["rows"]:
        for carrier, planned in zip(row["carriers"], row["planned_dbuv"], strict=True):
            view = fern.read(
                "readings",
                {"part": row["part"], "carrier": carrier},
                {"level_dbuv": f"{planned:.1f}"},
            )
    assert [s["state"] for s in view["answers"]["stations"]][:7] == ["ok"] * 7
    assert view["answers"]["handover"]["ready"]
    assert view["answers"]["readings"]["headline"] == "As planned"
    view = fern.set("handover", {"handed_over": True})
    assert _station(view, "handover")["state"] == "ok"


def test_the_jobs_list_says_what_is_next(call: Caller) -> None:
    rows = {r["id"]: r for r in call.client.get("/api/jobs").json()["jobs"]}
    assert rows["skerry-house"]["next"] == ["Halcyon goes behind Row of sycamores in 2028"]
    assert [s["state"] for s in rows["fern-cottage"]["stations"][:6]] == ["ok"] * 6
    call.set("job", {"name": "Other"})
    assert call.client.get("/api/jobs").json()["jobs"][0]["name"] == "Other"
    seen = {"If-Match": "0"}
    assert call.client.delete("/api/jobs/fern-cottage").status_code == 428
    assert (
        call.client.delete("/api/jobs/fern-cottage", headers={"If-Match": "7"}).status_code == 409
    )
    assert call.client.delete("/api/jobs/fern-cottage", headers=seen).status_code == 204
    assert call.client.get("/api/jobs/fern-cottage").status_code == 404
    assert call.client.get("/api/jobs").json()["total"] == len(demo_jobs()) - 1
    assert call.client.delete("/api/jobs/fern-cottage", headers=seen).status_code == 404


def test_steps_lose_their_mark_again(call: Caller) -> None:
    shut = call.change({"verb": "tick", "step": "site.entry", "done": True}, status=422)
    assert shut["code"] == "gate-shut"
    call.open_gates(until="sky.stand")
    call.change({"verb": "tick", "step": "site.entry", "done": True, "note": "by the bell"})
    view = call.change({"verb": "tick", "step": "site.entry", "done": False, "value": ""})
    mark = view["job"]["marks"][-1]
    assert (mark["at"], mark["note"], mark["value"]) == ("", "by the bell", None)
    refused = call.change({"verb": "tick", "step": "mast.brackets", "value": "wide"}, status=422)
    assert refused["field"] == "It reads"


def test_unknown_addresses_are_told(call: Caller) -> None:
    answer = call.client.get("/api/nothing")
    assert answer.status_code == 404
    assert answer.json()["title"] == "No such address"
    assert call.client.get("/api/jobs/UPPER").status_code == 422
    assert call.client.put("/api/jobs").status_code == 405
