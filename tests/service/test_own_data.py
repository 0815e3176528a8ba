"""A job file that brings parts which this workshop has never seen, or has otherwise."""

from __future__ import annotations

import json
from typing import Any

from fastapi.testclient import TestClient

JOB = "/api/jobs/skerry-house"


def _export(client: TestClient, job: str = JOB) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"{job}/export").json()
    return found


def _take_in(client: TestClient, document: dict[str, Any]) -> Any:
    return client.post("/api/jobs/import", content=json.dumps(document).encode())


def _own(document: dict[str, Any], key: str, own: str) -> None:
    """Every use of a part by a name that no workshop has."""
    for part in document["job"]["parts"]:
        part["type"] = own if part["type"] == key else part["type"]
    for row in document["job"]["part_data"]:
        if row["key"] == key:
            row["key"] = row["data"]["key"] = own
            row["data"]["name"], row["origin"] = "Own switch", "data sheet"


def test_an_unknown_part_comes_in_with_its_job(client: TestClient) -> None:
    document = _export(client)
    _own(document, "multiswitch-12", "switch-own")
    came = _take_in(client, document)
    assert came.status_code == 201, came.text
    view = came.json()
    assert view["answers"]["outlets"] == client.get(JOB).json()["answers"]["outlets"]
    assert list(view["answers"]["stock"]["own"]["parts"]) == ["switch-own"]
    assert view["answers"]["stock"]["newer"] == []
    assert all("data" not in row for row in view["job"]["part_data"])  # only the core needs them
    job = f"/api/jobs/{view['id']}"
    assert _export(client, job) == document
    # It can be fitted again, and its data are refused where they make no part.
    switch = next(p["id"] for p in view["job"]["parts"] if p["type"] == "switch-own")
    row = next(r["id"] for r in view["job"]["part_data"] if r["key"] == "switch-own")
    for change, status in (
        ({"verb": "replace", "part": switch, "type": "switch-own"}, 200),
        (
            {
                "verb": "set",
                "rows": "part_data",
                "id": row,
                "values": {"data": {"key": "switch-own"}},
            },
            422,
        ),
        ({"verb": "remove", "rows": "part_data", "id": row}, 422),
    ):
        told = client.post(f"{job}/changes", json=change, headers={"If-Match": "0"})
        assert told.status_code == status, told.text


def test_data_that_a_run_cannot_have_are_refused(client: TestClient) -> None:
    """A port less than cables are joined to, two data of one key, a source that is none: each would
    leave an outlet without its signal, or a figure that nobody chose."""
    document = _export(client)
    switch = next(r for r in document["job"]["part_data"] if r["key"] == "multiswitch-12")
    lnb = next(r for r in document["job"]["part_data"] if r["key"] == "lnb-four")
    fewer = {**switch["data"], "outputs": 4}
    fewer["paths"] = [{**p, "outputs": [0, 1, 2, 3]} for p in fewer["paths"]]
    fewer["dc"] = [pair for pair in fewer["dc"] if pair[1] < 4]
    blind = {**lnb["data"], "bands": []}
    seen = {"If-Match": str(client.get(JOB).json()["revision"])}
    for row, data, words in ((switch, fewer, "has no port"), (lnb, blind, "does not fit")):
        change = {"verb": "set", "rows": "part_data", "id": row["id"], "values": {"data": data}}
        told = client.post(f"{JOB}/changes", json=change, headers=seen)
        assert told.status_code == 422, told.text
        assert words in told.json()["detail"]
    document["job"]["part_data"].append({**switch, "id": "dp99"})
    assert "carried twice" in _take_in(client, document).json()["detail"]
    # A filter that is not at hand is not tried; the page of the antenna opens all the same.
    document["job"]["part_data"].pop()
    document["job"]["limit_data"][0]["data"]["mobile"]["filter"] = "filter-own"
    job = _take_in(client, document).json()["id"]
    found = client.get(f"/api/jobs/{job}/antennas/a2/array").json()
    assert all("+" not in o["key"] for o in found["front"]["options"])


def test_without_its_data_it_is_refused_by_name(client: TestClient) -> None:
    document = _export(client)
    _own(document, "multiswitch-12", "switch-own")
    document["job"]["part_data"] = []
    told = _take_in(client, document)
    assert told.status_code == 422
    assert told.json()["code"] == "part-unknown"
    assert "switch-own" in told.json()["detail"]


def test_other_figures_count_until_the_workshops_are_taken(client: TestClient) -> None:
    document = _export(client)
    for row in document["job"]["cable_data"]:
        row["data"]["a"] *= 1.5
        row["of_date"] = "2020-02-02"
    view = _take_in(client, document).json()
    was = client.get(JOB).json()["answers"]["outlets"]
    assert view["answers"]["outlets"] != was
    stock = view["answers"]["stock"]
    assert {n["key"] for n in stock["newer"]} == {r["key"] for r in document["job"]["cable_data"]}
    job = f"/api/jobs/{view['id']}"
    taken = client.post(f"{job}/changes", json=stock["take_all"], headers={"If-Match": "0"}).json()
    assert taken["answers"]["outlets"] == was
    assert taken["answers"]["stock"]["take_all"] is None
    back = client.post(f"{job}/undo", headers={"If-Match": "1"}).json()
    assert back["answers"]["outlets"] == view["answers"]["outlets"]


def test_limits_travel_under_a_name_of_their_own(client: TestClient) -> None:
    document = _export(client)
    (limits,) = document["job"]["limit_data"]
    document["job"]["profile"] = limits["key"] = limits["data"]["key"] = "valley"
    limits["data"]["name"], limits["data"]["margin_db"] = "Valley", 12.5
    view = _take_in(client, document).json()
    assert view["job"]["profile"] == "valley"
    limits_said = [p["limit"] for p in view["answers"]["coax"]["problems"] if p["code"] == "margin"]
    assert limits_said
    assert all(q["value"] == 12.5 for said in limits_said for q in said if isinstance(q, dict))
    document["job"]["limit_data"] = []
    assert _take_in(client, document).json()["code"] == "profile-unknown"
