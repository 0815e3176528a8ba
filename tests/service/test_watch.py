"""What goes on at a job's site beside its rows: who is alone, what devices keep back, what is forecast."""

from __future__ import annotations

import datetime as dt
import io
import uuid
from typing import Any

import pypdf
import pytest
from fastapi.testclient import TestClient

from evtro.core.day.plan import DayPlan, Hour, Visit
from evtro.core.day.weather import outlook
from evtro.core.stations.check_ins import word_state
from evtro.core.units.quantities import text_of
from evtro.store.watch import Alone, Watch

from .conftest import Caller

AT = "/api/jobs/skerry-house"


def _alone(client: TestClient) -> dict[str, Any] | None:
    found: dict[str, Any] | None = client.get(f"{AT}/watch").json()["alone"]
    return found


def test_whoever_is_alone_gives_word_and_is_missed_when_none_comes(client: TestClient) -> None:
    assert _alone(client) is None
    made = client.put(f"{AT}/check-ins", json={"who": " Bo ", "call": "555 0100", "every_min": 20})
    assert made.status_code == 200
    first = _alone(client)
    assert first is not None
    assert (first["who"], first["call"], first["state"]) == ("Bo", "555 0100", "ok")
    assert 1190 < first["left_s"] <= 1200
    assert client.get("/api/check-ins").json()[0]["name"] == "Skerry House"
    # An hour later nobody has heard anything.
    watch: Watch = client.app.state.desk.watch  # type: ignore[attr-defined]
    with watch._jobs.transaction() as db:
        db.execute("UPDATE alone SET due = due - 3600")
    late = _alone(client)
    assert late is not None
    assert late["state"] == "fail"
    assert "help" in late["do"]
    client.post(f"{AT}/check-ins")
    heard = _alone(client)
    assert heard is not None
    assert heard["left_s"] > 1190
    client.delete(f"{AT}/check-ins")
    assert _alone(client) is None


@pytest.mark.parametrize(
    ("left", "state"), [(1800, "ok"), (301, "ok"), (299, "marginal"), (0, "marginal"), (-1, "fail")]
)
def test_a_word_is_due(left: float, state: str) -> None:
    assert word_state(1000.0 + left, 1000.0) == state


@pytest.mark.parametrize(
    "body",
    [
        {"who": ""},
        {"who": "Bo", "every_min": 0},
        {"who": "Bo", "every_min": 1000},
        {"who": "Bo", "every_min": "half an hour"},
        {},
    ],
)
def test_alone_without_a_name_or_a_span_is_refused(
    client: TestClient, body: dict[str, Any]
) -> None:
    assert client.put(f"{AT}/check-ins", json=body).status_code == 422
    assert _alone(client) is None


def _held(client: TestClient) -> list[str]:
    return [h["step"] for h in client.get(f"{AT}/watch").json()["held_back"]]


def _sent(client: TestClient, key: str, **tick: Any) -> Any:
    revision = client.get(AT).json()["revision"]
    headers = {"If-Match": str(revision), "Idempotency-Key": key}
    return client.post(
        f"{AT}/changes", json={"verb": "tick", "waited_s": 60, "by": "Bo", **tick}, headers=headers
    )


def test_what_comes_before_its_gate_is_known_to_all_until_it_is_taken(
    client: TestClient, call: Caller
) -> None:
    key = str(uuid.uuid4())
    for _ in range(2):  # however often it is sent
        assert _sent(client, key, step="site.outlets", done=True).status_code == 422
        assert _held(client) == ["site.outlets"]
    row = client.get(f"{AT}/watch").json()["held_back"][0]
    assert (row["who"], row["code"], row["key"]) == ("Bo", "gate-shut", key)
    call.change({"verb": "tick", "step": "site.overhead", "danger_read": True, "by": "A. Mender"})
    assert _sent(client, key, step="site.outlets", done=True).status_code == 200
    assert _held(client) == []


def test_what_is_taken_back_waits_no_more_and_a_tick_at_hand_never_did(client: TestClient) -> None:
    key = str(uuid.uuid4())
    _sent(client, key, step="site.outlets", done=True)
    assert client.delete(f"{AT}/pending-writes/{key}").status_code == 200
    assert _held(client) == []
    # What somebody is told at once on the same page waits nowhere.
    assert (
        _sent(client, str(uuid.uuid4()), step="site.outlets", done=True, waited_s=0).status_code
        == 422
    )
    assert _held(client) == []


def test_a_job_that_is_removed_takes_its_watch_along(client: TestClient) -> None:
    client.put(f"{AT}/check-ins", json={"who": "Bo"})
    _sent(client, str(uuid.uuid4()), step="site.outlets", done=True)
    revision = client.get(AT).json()["revision"]
    assert client.delete(AT, headers={"If-Match": str(revision)}).is_success
    assert client.get("/api/check-ins").json() == []
    assert client.get(f"{AT}/watch").status_code == 404
    assert client.put(f"{AT}/check-ins", json={"who": "Bo"}).status_code == 404


@pytest.mark.parametrize("reading", ["12,3", "12.3", 12.3])
def test_a_reading_is_called_out_with_the_highest_so_far(client: TestClient, reading: Any) -> None:
    live = client.app.state.desk.live  # type: ignore[attr-defined]

    def call_out(reading: Any, **more: Any) -> int:
        body = {"antenna": "a1", "scale": "db", "reading": reading, "by": "Ada", **more}
        return client.post(f"{AT}/live-readings", json=body).status_code

    assert [call_out(r) for r in (9, reading, "11.8")] == [204] * 3
    said = live.room("skerry-house").called
    assert (said.value, said.highest, said.by) == (11.8, 12.3, "Ada")
    assert call_out(8, again=True) == 204
    assert live.room("skerry-house").called.highest == 8
    assert call_out("loud") == 422
    assert call_out(1, antenna="b7") == 422


def _hours(*rows: tuple[float, float, float | None]) -> DayPlan:
    hours = tuple(Hour(at_min=60 * h, wind_ms=w, gust_ms=g) for h, w, g in rows)
    return DayPlan(date=dt.date(2026, 4, 14), visits=(Visit(job="skerry-house"),), forecast=hours)


def test_the_days_forecast_is_told_where_one_goes_up(client: TestClient) -> None:
    assert client.get(f"{AT}/forecast").json() is None
    client.app.state.desk.days.kept.put(_hours((8, 4, 6), (14, 8, 13), (18, 3, None)), 0)  # type: ignore[attr-defined]
    found = client.get(f"{AT}/forecast").json()
    assert (found["date"], found["state"]) == ("2026-04-14", "fail")


@pytest.mark.parametrize(
    ("hour", "state"), [(8, "ok"), (14, "fail"), (17.9, "ok"), (20, "unknown"), (None, "fail")]
)
def test_the_wind_of_an_hour_decides_and_gusts_count(hour: float | None, state: str) -> None:
    plan = _hours((8, 4, 6), (14, 8, 13), (18, 3, None))
    found = outlook(plan, None if hour is None else 60 * hour)
    assert found is not None
    assert found.state == state
    # From 6 to 13 m/s in six hours 10 m/s is passed after 60/7 x 4 minutes of 360: at 11:25, and at 15:12 again.
    assert "from 11:25 to 15:10" in text_of(found.words)
    assert outlook(_hours()) is None


def test_labels_for_both_ends_of_every_cable(client: TestClient) -> None:
    made = client.get(f"{AT}/labels.pdf")
    assert made.headers["content-type"] == "application/pdf"
    text = " ".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(made.content)).pages)
    cuts = [c for reel in client.get(f"{AT}/kit").json()["reels"] for c in reel["cuts"]]
    assert cuts
    words = text.split()
    for cut in cuts:
        assert words.count(cut["label"]) == 2
    assert client.get("/api/jobs/fjell-caravan/labels.pdf").status_code == 200


def test_the_watch_is_no_part_of_a_jobs_file(client: TestClient) -> None:
    before = client.get(f"{AT}/export").content
    client.put(f"{AT}/check-ins", json={"who": "Bo"})
    assert client.get(f"{AT}/export").content == before
    watch: Watch = client.app.state.desk.watch  # type: ignore[attr-defined]
    assert [type(a) for a in watch.alone()] == [Alone]
