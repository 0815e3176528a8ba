"""Jobs through the service: writing, stale writes, undo, redo, files, bad input."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from evtro.core.units.quantities import InputError
from evtro.demo.world import demo_jobs
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from tests.data import open_database

from .conftest import Caller, kept
from .writing import adding, setting


def _export(call: Caller) -> bytes:
    return call.client.get(f"/api/jobs/{call.job}/export").content


def test_a_change_answers_with_everything_it_changes(call: Caller) -> None:
    view = call.set("links", {"length_m": "20"}, "l28")
    assert view["revision"] == 1
    assert view["undo"] == "change cable"
    assert view["answers"]["coax"]["figure"] == "12/12 in"
    assert next(s for s in view["answers"]["stations"] if s["key"] == "coax")["state"] == "marginal"


def test_a_stale_write_gets_both_values_and_loses_nothing(call: Caller) -> None:
    call.set("links", {"length_m": 20}, "l28")
    call.revision = 0
    refused = call.set("links", {"length_m": 30}, "l28", status=409)
    assert refused["code"] == "stale"
    assert refused["revision"] == 1
    (clash,) = refused["clashes"]
    assert (clash["id"], clash["column"], clash["mine"], clash["theirs"]) == (
        "l28",
        "length_m",
        "30 m",
        "20 m",
    )
    assert clash["field"] == "Cable length"
    assert "current" not in refused


def test_a_write_must_say_what_it_saw(call: Caller) -> None:
    path, change = f"/api/jobs/{call.job}/changes", setting("links", {"length_m": 20}, "l28")
    answer = call.client.post(path, json=change)
    assert answer.status_code == 428
    assert answer.headers["content-type"] == "application/problem+json"
    assert call.client.post(path, json=change, headers={"If-Match": "x"}).status_code == 400


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        (setting("links", {"length_m": "-3 m"}, "l28"), "Cable length", "−3 m is too small"),
        (setting("links", {"length_m": "10 km"}, "l28"), "Cable length", "at most 1000 m"),
        (setting("links", {"length_m": "far"}, "l28"), "Cable length", "not a number"),
        (setting("links", {"length_m": None}, "l28"), "Cable length", "not a number"),
        (setting("links", {"cable": "string"}, "l28"), "Cable", "Use one of"),
        (setting("links", {"colour": "red"}, "l28"), "colour", "not a field"),
        (setting("site", {"position_text": "95 N 3 W"}), "Position", "outside the earth"),
        (setting("site", {"mount_height_m": "1e9"}), "Mount above ground", "too large"),
        (setting("obstructions", {"from_deg": "361°"}, "b1"), "From bearing", "at most 360"),
        (setting("carriers", {"frequency_mhz": "0 MHz"}, "c1"), "Frequency", "too small"),
        (setting("carriers", {"frequency_mhz": "ch 99"}, "c1"), "Channel", "not in this region"),
        (setting("carriers", {"power": 0}, "c1"), "ERP", "sends nothing"),
        (setting("carriers", {"modulation": "9-VSB"}, "c1"), "Modulation", "not known"),
        (setting("mast", {"outer_mm": "0"}), "Tube diameter", "at least 15"),
        (setting("job", {"date": "yesterday"}), "Date", "not a date"),
        (setting("job", {"profile": "moon"}), "Profile", "Choose one of"),
        (setting("dishes", {"datum": "thumb"}, "a1"), "datum", "not a choice"),
        (
            adding("targets", {"kind": "satellite", "name": "x", "orbit_deg_e": "north"}),
            "Orbit",
            "28.0 E",
        ),
        (adding("obstructions", {"line": "barn"}), "Obstruction", "barn 212 224 11"),
        (adding("outlets", {"name": ""}), "name", ""),
        (adding("conductors", {"role": "mast"}), "Conductor", "it is there"),
        (
            {"verb": "set", "rows": "links", "id": "l999", "values": {"cable": "rg11"}},
            "Cable",
            "not in the job",
        ),
        (
            adding("readings", {"part": "p7", "carrier": "c99", "level_dbuv": 60}),
            "Carrier",
            "not in the job",
        ),
        (
            adding("readings", {"part": "p7", "carrier": "c1", "level_dbuv": "900"}),
            "Level",
            "at most 150",
        ),
        ({"verb": "tick", "step": "site.overhead", "done": True}, "Danger", "not confirmed"),
        ({"verb": "tick", "step": "site.nothing", "done": True}, "Step", "not a step"),
    ],
)
def test_bad_input_names_field_and_remedy_and_changes_nothing(
    call: Caller, change: Any, field: str, words: str
) -> None:
    before = _export(call)
    answer = call.client.post(
        f"/api/jobs/{call.job}/changes", json=change, headers={"If-Match": "0"}
    )
    problem = answer.json()
    assert answer.status_code in (404, 422), problem
    assert field.lower() in problem["field"].lower(), problem
    assert words in f"{problem['detail']} {problem.get('remedy', '')}", problem
    assert _export(call) == before


def test_undo_to_empty_and_redo_to_full_is_the_same_file(fresh: Caller) -> None:
    empty = _export(fresh)
    fresh.set("site", {"position_text": "53,4805 -9,9720", "height_m": "14 m"})
    fresh.add("targets", {"kind": "satellite", "name": "Corvus", "orbit_deg_e": "28 E"})
    fresh.add(
        "carriers",
        {
            "target": "t1",
            "name": "a",
            "frequency_mhz": "11778",
            "bandwidth_mhz": "27,5",
            "polarisation": "V",
            "power": "50",
            "modulation": "DVB-S2 8PSK 2/3",
        },
    )
    fresh.add("dishes", {"name": "Dish", "target": "t1"})
    fresh.add("outlets", {"name": "Lounge"})
    fresh.change({"verb": "insert", "antenna": "a1", "type": "lnb-single"})
    fresh.change(
        {"verb": "insert", "after": "p1", "type": "plate", "outlet": "o1", "length_m": "18"}
    )
    fresh.add("obstructions", {"line": "barn 212 224 11"})
    fresh.add("conductors", {"role": "mast"})
    fresh.remove("outlets", "o1")
    view = fresh.set("handover", {"customer": "The keeper"})
    full = _export(fresh)
    steps = 0
    while view["undo"]:
        view = fresh("POST", "/undo")
        steps += 1
    assert steps == 11
    assert _export(fresh) == empty
    while view["redo"]:
        view = fresh("POST", "/redo")
    assert _export(fresh) == full


def test_history_survives_a_restart(tmp_path: Path, skerry: Any) -> None:
    path = tmp_path / FILE_NAME
    first = Jobs(open_database(path))
    kept = first.add(skerry)
    first.change(kept.id, 0, "rename", lambda j: j.model_copy(update={"name": "Other"}))
    again = Jobs(open_database(path))
    assert again.steps(kept.id).undo == "rename"
    back = again.undo(kept.id, 1)
    assert back.job == skerry
    assert back.revision == 2
    assert again.steps(kept.id).redo == "rename"
    assert again.redo(kept.id, 2).job.name == "Other"


def test_a_change_after_undo_drops_what_was_undone(call: Caller) -> None:
    call.set("job", {"name": "One"})
    call("POST", "/undo")
    view = call.set("job", {"name": "Two"})
    assert view["redo"] is None
    assert call("POST", "/undo")["job"]["name"] == "Skerry House"


def test_removing_a_target_takes_its_carriers_readings_and_aim(call: Caller) -> None:
    view = call.remove("targets", "t3")
    assert all(c["target"] != "t3" for c in view["job"]["carriers"])
    assert all(r["carrier"] not in ("c1", "c2", "c3") for r in view["job"]["readings"])
    assert view["job"]["arrays"][0]["target"] is None


def test_export_import_export_is_the_same_bytes(client: TestClient) -> None:
    for job in ("skerry-house", "fern-cottage"):
        first = client.get(f"/api/jobs/{job}/export").content
        made = client.post("/api/jobs/import", content=first)
        assert made.status_code == 201
        assert client.get(f"/api/jobs/{made.json()['id']}/export").content == first


def _document(client: TestClient) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(client.get("/api/jobs/skerry-house/export").content)
    return found


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        (lambda d: b"", "Job file", "empty"),
        (lambda d: b"\x00\x01\xff", "Job file", "not a JSON"),
        (lambda d: b"[]", "Job file", "not a job"),
        (lambda d: json.dumps({**d, "version": 99}).encode(), "version", "newer Evtro"),
        (lambda d: json.dumps({**d, "job": None}).encode(), "Input", ""),
        (
            lambda d: d["job"]["links"][0].update(length_m=-3),
            "links, row 1, Cable length",
            "at least 0 m",
        ),
        (lambda d: d["job"]["carriers"][0].update(frequency_mhz=0), "Frequency", "at least 30"),
        (
            lambda d: d["job"]["carriers"][0].update(target="t9"),
            "carriers, target",
            "not in the job",
        ),
        (lambda d: d["job"]["links"][0].update(to_part="p99"), "links, to_part", "not in the job"),
        (
            lambda d: d["job"]["links"][1].update(d["job"]["links"][0], id="l2"),
            "Cable l2",
            "one port",
        ),
        (lambda d: d["job"]["parts"][0].update(type="magic"), "parts", "not in the catalogue"),
        (lambda d: d["job"]["outlets"][0].update(id="o2"), "outlets", "twice"),
        (lambda d: d["job"].update(profile="moon"), "Profile", "Choose one of"),
    ],
)
def test_wrong_files_are_told(client: TestClient, change: Any, field: str, words: str) -> None:
    document = _document(client)
    body = change(document)
    if not isinstance(body, bytes):
        body = json.dumps(document).encode()
    answer = client.post("/api/jobs/import", content=body)
    problem = answer.json()
    assert answer.status_code == 422
    assert field in problem["field"]
    assert words in f"{problem['detail']} {problem.get('remedy')}"
    assert len(kept(client)) == len(demo_jobs())


def test_a_file_of_200_mb_is_turned_away_unread(client: TestClient) -> None:
    answer = client.post(
        "/api/jobs/import", content=b" " * 1000, headers={"content-length": "200000000"}
    )
    assert answer.status_code == 413
    assert "another file" in answer.json()["remedy"]


def test_csv_out_and_in_again(call: Caller) -> None:
    text = call.client.get(f"/api/jobs/{call.job}/carriers.csv").text
    assert (
        text.splitlines()[0]
        == "target,name,frequency_mhz,bandwidth_mhz,polarisation,power,modulation"
    )
    before = _export(call)
    answer = call.client.post(
        f"/api/jobs/{call.job}/csv?kind=carriers", content=text, headers={"If-Match": "0"}
    )
    assert answer.status_code == 200
    assert _export(call) == before
    more = "name;latitude_deg;longitude_deg;height_m\nSloe Head;53,1;-9,3;210\nCairnmore;53,6;-9,4;390\n"
    view = call.client.post(
        f"/api/jobs/{call.job}/transmitters", content=more, headers={"If-Match": "0"}
    ).json()
    targets = {t["name"]: t for t in view["job"]["targets"]}
    assert targets["Sloe Head"]["latitude_deg"] == 53.1
    assert targets["Cairnmore"]["height_m"] == 390
    assert targets["Cairnmore"]["own_loss_db"] == 8


HEAD = "target,name,frequency_mhz,bandwidth_mhz,polarisation,power,modulation\n"


@pytest.mark.parametrize(
    ("text", "field", "words"),
    [
        ("", "CSV file", "empty"),
        ("target,name\n", "line 1", "frequency_mhz is missing"),
        (HEAD + "Cairnmore,x,474,7.61,H,20\n", "line 2", "6 fields, not 7"),
        (
            HEAD
            + "Cairnmore,x,474,7.61,H,20,DVB-T 64QAM 2/3\nNowhere,x,474,7.61,H,20,DVB-T 64QAM 2/3\n",
            "line 3, target",
            "not a target",
        ),
        (
            HEAD + "Cairnmore,x,many,7.61,H,20,DVB-T 64QAM 2/3\n",
            "line 2, frequency_mhz",
            "not a number",
        ),
        (
            HEAD + "Cairnmore,x,474,7.61,Q,20,DVB-T 64QAM 2/3\n",
            "line 2, polarisation",
            "not a choice",
        ),
        (HEAD + "Cairnmore,x,474,7.61,H,20,9-VSB\n", "line 2, modulation", "not known"),
    ],
)
def test_a_broken_csv_line_is_named_and_nothing_is_taken(
    call: Caller, text: str, field: str, words: str
) -> None:
    before = _export(call)
    answer = call.client.post(
        f"/api/jobs/{call.job}/csv?kind=carriers", content=text, headers={"If-Match": "0"}
    )
    assert answer.status_code == 422
    problem = answer.json()
    assert problem["field"] == field
    assert words in problem["detail"]
    assert _export(call) == before


def test_foreign_hosts_and_origins_stay_outside(client: TestClient) -> None:
    assert client.get("/api/jobs", headers={"host": "evil.example"}).status_code == 400
    refused = client.post(
        "/api/jobs", json={"name": "x"}, headers={"origin": "http://evil.example"}
    )
    assert refused.status_code == 403
    fine = client.post("/api/jobs", json={"name": "x"}, headers={"origin": "http://testserver"})
    assert fine.status_code == 201
    policy = client.get("/api/health").headers["content-security-policy"]
    assert "default-src 'self'" in policy
    assert "unsafe" not in policy


def test_the_job_sheet_is_a_document_with_the_figures(call: Caller) -> None:
    import io

    import pypdf

    data = call.client.get(f"/api/jobs/{call.job}/sheet.pdf").content
    text = "\n".join(p.extract_text() for p in pypdf.PdfReader(io.BytesIO(data)).pages)
    for words in ("Skerry House", "135.8° true", "Garden room", "dBµV", "Still open"):
        assert words in text


def test_steps_keep_their_marks_and_judge_what_was_read(call: Caller) -> None:
    call.open_gates()
    view = call.change({"verb": "tick", "step": "mast.plumb", "done": True, "value": "0,3"})
    step = next(s for s in view["answers"]["steps"]["mast"] if s["key"] == "mast.plumb")
    assert step["measure"]["state"] == "ok"
    assert view["job"]["marks"][-1]["at"]
    view = call.change({"verb": "tick", "step": "aim.a1.azimuth", "value": "498.4"})
    step = next(s for s in view["answers"]["steps"]["aim"] if s["key"] == "aim.a1.azimuth")
    assert step["measure"]["value"] == pytest.approx(138.4)
    assert step["measure"]["state"] == "ok"


def test_places_are_found_offline(client: TestClient) -> None:
    found = client.get("/api/places", params={"q": "reykjav"}).json()
    assert found[0]["country"] == "IS"
    assert found[0]["latitude_deg"] == pytest.approx(64.1, abs=0.1)
    assert client.get("/api/places", params={"q": "x"}).status_code == 422


def test_a_newer_or_foreign_database_is_refused(tmp_path: Path) -> None:
    path = tmp_path / FILE_NAME
    database = open_database(path)
    database.execute("PRAGMA user_version = 99")
    database.close()
    with pytest.raises(InputError, match="newer Evtro"):
        open_database(path)
    other = tmp_path / "other.sqlite"
    other.write_text("this is a shopping list, and a long one at that" * 30)
    with pytest.raises(InputError, match="not an Evtro database"):
        open_database(other)
