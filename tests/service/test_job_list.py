"""The list of jobs in parts, found and filtered; removal that can be taken back."""

from __future__ import annotations

import datetime as dt
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from evtro.demo.world import demo_jobs, fern_cottage, skerry_house
from evtro.service.job_service import JobService, left_out
from evtro.service.joblist import AT_ONCE
from evtro.service.serve import keep_house
from evtro.store.jobs import REMOVED_DAYS

from .writing import setting


def _list(client: TestClient, **asked: Any) -> Any:
    answer = client.get("/api/jobs", params=asked)
    assert answer.status_code == 200, answer.text
    return answer.json()


def _names(client: TestClient, **asked: Any) -> list[str]:
    return [j["name"] for j in _list(client, **asked)["jobs"]]


def test_found_by_words_state_and_day(client: TestClient) -> None:
    assert _names(client, find="skerry") == ["Skerry House"]
    assert _names(client, find="port AVERIL") == ["Skerry House", "Kittiwake Van"]
    assert _names(client, find="skerry nowhere") == []
    all_ = _list(client)
    assert all_["total"] == len(demo_jobs())
    rank = {"fail": 3, "unknown": 2, "marginal": 1, "ok": 0}
    for state in ("fail", "marginal", "unknown", "ok"):
        wanted = [
            j["name"]
            for j in all_["jobs"]
            if max(rank[s["state"]] for s in j["stations"]) == rank[state]
        ]
        assert _names(client, state=state) == wanted
    day = skerry_house().date.isoformat()
    assert "Skerry House" in _names(client, since=day, until=day)
    assert "Skerry House" not in _names(client, until="2001-01-01")
    assert client.get("/api/jobs?since=yesterday").status_code == 422


def test_parts_of_the_list(client: TestClient) -> None:
    whole = _names(client)
    assert _names(client, first=2, most=3) == whole[2:5]
    assert _names(client, first=len(whole)) == []
    assert client.get("/api/jobs?most=0").status_code == 422


@pytest.mark.long
def test_a_long_list_answers_at_once_and_fills_up(client: TestClient) -> None:
    """Of many jobs that were never worked out, a request works out so many itself."""
    desk: JobService = client.app.state.desk  # type: ignore[attr-defined]
    for i in range(AT_ONCE + 30):
        desk.jobs.add(fern_cottage().model_copy(update={"name": f"House {i}"}))
    first = _list(client, most=100)
    assert first["waiting"] > 0
    assert sum(bool(j["stations"]) for j in first["jobs"]) >= AT_ONCE
    for _ in range(2000):
        found = _list(client, most=200)
        # What is known is written a moment later, by the hand that worked it out.
        if not found["waiting"] and all(h.line for h in desk.jobs.heads()):
            break
    assert all(len(j["stations"]) == 8 for j in found["jobs"])
    # Kept with the jobs: the next program start works nothing out.
    assert all(h.line for h in desk.jobs.heads())


def test_a_removed_job_comes_back_as_it_was(client: TestClient) -> None:
    path = "/api/jobs/skerry-house"
    change = setting("links", {"length_m": 33}, "l28")
    client.post(f"{path}/changes", json=change, headers={"If-Match": "0"})
    before = client.get(path).json()
    assert client.delete(path).status_code == 428
    stale = client.delete(path, headers={"If-Match": "0"})
    assert (stale.status_code, stale.json()["revision"]) == (409, 1)
    assert client.delete(path, headers={"If-Match": "1"}).status_code == 204
    assert client.get(path).status_code == 404
    assert "Skerry House" not in _names(client)
    late = client.post(f"{path}/changes", json=change, headers={"If-Match": "1"})
    assert late.status_code == 404
    (line,) = client.get("/api/jobs/removed").json()
    assert (line["id"], line["name"]) == ("skerry-house", "Skerry House")
    left = dt.date.fromisoformat(line["until"]) - _removed(line).date()
    assert left.days == REMOVED_DAYS
    assert client.post(f"{path}/take-back").status_code == 204
    assert client.post(f"{path}/take-back").status_code == 404
    after = client.get(path).json()
    assert after == before
    undone = client.post(f"{path}/undo", headers={"If-Match": "1"}).json()
    kept = demo_jobs()["skerry-house"].model_dump(
        mode="json", exclude=left_out(demo_jobs()["skerry-house"])
    )
    assert undone["job"] == kept


def _removed(line: dict[str, str]) -> dt.datetime:
    """The moment at which a job was removed, by the program's clock."""
    return dt.datetime.fromisoformat(line["removed_at"])


@pytest.mark.parametrize(("days", "there"), [(REMOVED_DAYS - 1, True), (REMOVED_DAYS + 1, False)])
def test_after_thirty_days_it_is_gone(
    client: TestClient, tmp_path: Path, days: int, there: bool
) -> None:
    client.delete("/api/jobs/fern-cottage", headers={"If-Match": "0"})
    desk: JobService = client.app.state.desk  # type: ignore[attr-defined]
    (line,) = client.get("/api/jobs/removed").json()
    keep_house(desk, tmp_path, _removed(line) + dt.timedelta(days=days))
    assert bool(client.get("/api/jobs/removed").json()) is there
    assert client.post("/api/jobs/fern-cottage/take-back").status_code == (204 if there else 404)
    assert len(list((tmp_path / "backups").glob("*.sqlite"))) == 1


def test_a_backup_that_fails_is_told_and_tried_again(
    client: TestClient, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(*_: object) -> None:
        raise OSError(28, "no space")

    desk: JobService = client.app.state.desk  # type: ignore[attr-defined]
    now = dt.datetime(2026, 4, 14, tzinfo=dt.UTC)
    with monkeypatch.context() as patched:
        patched.setattr("evtro.service.serve.backups.daily", full)
        keep_house(desk, tmp_path, now)
        keep_house(desk, tmp_path, now)
    assert [n for n in client.get("/api/health").json()["notices"] if "backup" in n]
    keep_house(desk, tmp_path, now)
    assert client.get("/api/health").json()["notices"] == []
