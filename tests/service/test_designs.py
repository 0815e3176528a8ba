"""The designer through the service: a wish typed as tired people type, a search that is looked at and
stopped, a plan taken and taken back."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient

JOB = "/api/jobs/skerry-house"


def _wish(client: TestClient, **typed: str) -> dict[str, Any]:
    answer = client.post(f"{JOB}/designs/options", json={"typed": typed or None})
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def _done(client: TestClient, key: str) -> dict[str, Any]:
    running = client.app.state.desk.designs.look("skerry-house", key)  # type: ignore[attr-defined]
    assert running.over.wait(60)
    state: dict[str, Any] = client.get(f"{JOB}/designs/{key}").json()
    return state


def test_a_wish_starts_from_the_run_as_it_is(client: TestClient) -> None:
    wish = _wish(client)
    assert len(wish["routes"]) == 12
    lengths = {
        r["outlet"]: wish["head_m"] + wish["floor_m"] * r["floor"] + r["drop_m"]
        for r in wish["routes"]
    }
    links = client.get(JOB).json()["job"]["links"]
    assert max(lengths.values()) == pytest.approx(max(k["length_m"] for k in links))


@pytest.mark.parametrize(
    ("typed", "of", "is_"),
    [
        ({"field": "reserve_db", "text": "2,5 dB"}, "reserve_db", 2.5),
        ({"field": "floor_m", "text": "9 ft 10 in"}, "floor_m", pytest.approx(2.997, abs=0.001)),
        ({"field": "head_m", "text": "0"}, "head_m", 0.0),
    ],
)
def test_figures_are_read_as_they_are_typed(
    client: TestClient, typed: dict[str, str], of: str, is_: float
) -> None:
    assert _wish(client, **typed)[of] == is_


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        ({"field": "drop_m", "text": "10 km", "outlet": "o1"}, "Drop"),
        ({"field": "reserve_db", "text": "-3"}, "Reserve"),
        ({"field": "reserve_db", "text": "much"}, "Reserve"),
        ({"field": "riser", "text": "1,5", "outlet": "o1"}, "Riser"),
        ({"field": "floor", "text": "361", "outlet": "o1"}, "Floor from the head"),
        ({"field": "head_m", "text": ""}, "To the first floor"),
    ],
)
def test_what_cannot_be_is_refused_with_its_field(
    client: TestClient, typed: dict[str, str], field: str
) -> None:
    answer = client.post(f"{JOB}/designs/options", json={"typed": typed})
    assert answer.status_code == 422
    assert answer.json()["field"] == field
    assert answer.json()["remedy"]


def test_a_plan_is_found_taken_and_taken_back(client: TestClient) -> None:
    wish = _wish(client, field="reserve_db", text="0")
    key = client.post(f"{JOB}/designs", json=wish).json()["key"]
    state = _done(client, key)
    assert state["state"] == "done"
    design = state["design"]
    plan = design["plans"][design["chosen"]]
    assert (plan["inside"], plan["wanted"], plan["proven"]) == (12, 12, True)
    change = client.get(f"{JOB}/designs/{key}/plans/{design['chosen']}").json()["change"]
    before = client.get(JOB).json()
    taken = client.post(
        f"{JOB}/changes", json=change, headers={"If-Match": str(before["revision"])}
    )
    assert taken.status_code == 200, taken.text
    assert taken.json()["answers"]["coax"]["inside"] == 12
    back = client.post(f"{JOB}/undo", headers={"If-Match": str(taken.json()["revision"])}).json()
    assert back["job"]["links"] == before["job"]["links"]
    assert back["answers"]["coax"]["inside"] == 11


def test_a_design_is_stopped_and_another_jobs_is_not_seen(client: TestClient) -> None:
    key = client.post(f"{JOB}/designs", json=_wish(client)).json()["key"]
    client.delete(f"{JOB}/designs/{key}")
    assert _done(client, key)["state"] == "stopped"
    other = client.get(f"/api/jobs/mill-loft/designs/{key}")
    assert (other.status_code, other.json()["code"]) == (422, "design-gone")
    assert client.get(f"{JOB}/designs/{key}/plans/20").json()["code"] == "design-gone"
    assert client.get(f"{JOB}/designs/0123456789").json()["code"] == "design-gone"


def test_a_run_without_a_head_says_what_to_do(client: TestClient) -> None:
    made = client.post("/api/jobs", json={"name": "Empty", "profile": "europe"})
    job = f"/api/jobs/{made.json()['id']}"
    answer = client.post(f"{job}/designs", json={})
    assert answer.status_code == 422
    assert answer.json()["field"] == "Outlets"
