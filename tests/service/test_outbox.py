"""What waited on a device comes at once: each entry for itself, counted once, and none before its turn."""

from __future__ import annotations

import sqlite3
from typing import Any

import pytest
from fastapi.testclient import TestClient

from .conftest import Caller

AT = "/api/jobs/skerry-house"


def _entry(key: str, step: str = "site.entry", **tick: Any) -> dict[str, Any]:
    return {
        "key": key,
        "change": {"verb": "tick", "step": step, "waited_s": 60, "by": "Bo", **tick},
    }


def _sent(client: TestClient, *entries: dict[str, Any], revision: int | None = None) -> Any:
    seen = client.get(AT).json()["revision"] if revision is None else revision
    answer = client.post(
        f"{AT}/outbox",
        json={"entries": entries},
        headers={"If-Match": str(seen), "Evtro-Include": "steps"},
    )
    assert answer.is_success, answer.json()
    return answer.json()


def _codes(found: Any) -> list[str | None]:
    return [refusal and refusal["code"] for refusal in found["refused"]]


def _marks(client: TestClient) -> dict[str, Any]:
    return {m["step"]: m for m in client.get(AT).json()["job"]["marks"]}


def test_each_is_taken_for_itself_in_its_order(client: TestClient) -> None:
    first = client.get(AT).json()["revision"]
    found = _sent(
        client,
        _entry("k1", note="one"),
        _entry("k2", "site.outlets", done=True),  # its gate is shut
        _entry("k3", note="three"),
    )
    assert _codes(found) == [None, "gate-shut", None]
    assert found["view"]["revision"] == first + 2
    assert _marks(client)["site.entry"]["note"] == "three"
    assert set(found["view"]["answers"]) >= {"steps", "stations", "outlets"}
    assert [h["key"] for h in client.get(f"{AT}/watch").json()["held_back"]] == ["k2"]


def test_sent_again_it_counts_once(client: TestClient) -> None:
    entries = [_entry(f"k{n}", note=f"note {n}") for n in range(3)]
    once, again = _sent(client, *entries), _sent(client, *entries)
    assert once["view"]["revision"] == again["view"]["revision"]
    assert _codes(again) == [None] * 3


def test_what_met_another_device_ends_the_list_and_is_taken_when_it_comes_again(
    client: TestClient, call: Caller
) -> None:
    seen = client.get(AT).json()["revision"]
    call.revision = seen
    call.change({"verb": "tick", "step": "site.entry", "note": "of another"})
    entries = [
        _entry("k1", "site.overhead", note="a"),
        _entry("k2", note="b"),
        _entry("k3", note="c"),
    ]
    # The first meets nothing, and those behind it saw what it answered.
    assert _codes(_sent(client, *entries, revision=seen)) == [None] * 3
    call.revision = seen
    stale = _sent(client, _entry("k4", note="d"), _entry("k5", note="e"), revision=seen)
    assert _codes(stale) == ["stale"]
    assert stale["view"]["revision"] == client.get(AT).json()["revision"]
    again = _sent(
        client, _entry("k4", note="d"), _entry("k5", note="e"), revision=stale["view"]["revision"]
    )
    assert _codes(again) == [None, None]
    assert _marks(client)["site.entry"]["note"] == "e"


def test_trouble_of_the_disk_keeps_what_was_taken_before_it(client: TestClient) -> None:
    with client.app.state.desk.jobs.reading() as db:  # type: ignore[attr-defined]
        connection: sqlite3.Connection = db
    most = connection.execute("PRAGMA page_count").fetchone()[0]
    connection.execute(f"PRAGMA max_page_count = {most + 12}")
    entries = [_entry(f"k{n}", note=f"{n} " + "x" * 1900) for n in range(60)]
    found = _sent(client, *entries)
    taken = len(found["refused"])
    assert 0 < taken < 60
    full = client.post(
        f"{AT}/outbox",
        json={"entries": entries[taken:]},
        headers={"If-Match": str(found["view"]["revision"])},
    )
    assert (full.status_code, full.json()["code"]) == (507, "disk-full")
    connection.execute("PRAGMA max_page_count = 1000000")
    rest = _sent(client, *entries[taken:])
    assert _codes(rest) == [None] * (60 - taken)
    assert _marks(client)["site.entry"]["note"].startswith("59 ")


@pytest.mark.parametrize(
    "entries",
    [
        [],
        [{"key": "", "change": {"verb": "tick", "step": "site.entry"}}],
        [{"key": "k", "change": {"verb": "remove", "rows": "links", "id": "l1"}}],
        [{"key": "k"}],
        [{"key": "k", "change": {"verb": "tick", "step": "site.entry"}}] * 101,
    ],
)
def test_what_is_no_outbox_is_refused_as_a_whole(client: TestClient, entries: list[Any]) -> None:
    before = client.get(AT).json()["revision"]
    answer = client.post(
        f"{AT}/outbox", json={"entries": entries}, headers={"If-Match": str(before)}
    )
    assert (answer.status_code, answer.json()["title"]) == (422, "This cannot be used")
    assert client.get(AT).json()["revision"] == before
