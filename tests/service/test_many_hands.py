"""Late writes: let in where they touch nothing that came since, else told which fields and both values."""

from __future__ import annotations

import threading
from collections import Counter
from typing import Any

import pytest
from fastapi.testclient import TestClient

from evtro.store.changed_cells import REMEMBERED
from evtro.store.fair_lock import FairLock

from .writing import Change, adding, removing, setting

pytestmark = pytest.mark.long

JOB = "/api/jobs/skerry-house"


def _write(client: TestClient, change: Change, seen: int) -> Any:
    return client.post(f"{JOB}/changes", json=change, headers={"If-Match": str(seen)})


def test_a_late_write_elsewhere_in_the_job_is_let_in(client: TestClient) -> None:
    """Everybody writes on revision 0: another row, another column of a row, another kind of row."""
    writes = [
        setting("links", {"length_m": 33}, "l28"),
        setting("links", {"note": "behind the cupboard"}, "l28"),
        setting("links", {"length_m": 3}, "l1"),
        setting("mast", {"length_m": 2.5}),
        setting("handover", {"customer": "At home"}),
        setting("job", {"place": "Elsewhere"}),
        adding("obstructions", {"line": "one 10 12 3"}),
        adding("obstructions", {"line": "two 14 16 3"}),
        setting("outlets", {"floor": "attic"}, "o1"),
        adding("readings", {"part": "p7", "carrier": "c1", "level_dbuv": "60"}),
    ]
    for n, change in enumerate(writes):
        answer = _write(client, change, 0)
        assert answer.is_success, (change, answer.text[:300])
        assert answer.json()["revision"] == n + 1
    job = client.get(JOB).json()["job"]
    link = next(k for k in job["links"] if k["id"] == "l28")
    assert (link["length_m"], link["note"]) == (33, "behind the cupboard")
    assert [o["name"] for o in job["obstructions"]][-2:] == ["one", "two"]
    assert job["mast"]["length_m"] == 2.5
    assert job["place"] == "Elsewhere"


def test_a_clash_names_the_field_and_both_values_and_nothing_more(client: TestClient) -> None:
    assert _write(
        client, setting("outlets", {"name": "Hall", "floor": "ground"}, "o1"), 0
    ).is_success
    told = _write(client, setting("outlets", {"name": "Lobby", "floor": "ground"}, "o1"), 0)
    assert told.status_code == 409
    said = told.json()
    assert said["revision"] == 1
    (clash,) = said["clashes"]  # the floor was written the same by both
    assert (clash["where"], clash["field"], clash["mine"], clash["theirs"]) == (
        "Outlet o1",
        "name",
        "Lobby",
        "Hall",
    )
    assert "Hall" in said["detail"]
    assert "Lobby" in said["detail"]
    assert len(told.content) < 1500
    again = _write(client, setting("outlets", {"name": "Lobby"}, "o1"), said["revision"])
    assert again.json()["job"]["outlets"][0]["name"] == "Lobby"


def test_the_same_value_from_two_hands_is_no_clash(client: TestClient) -> None:
    for _ in range(3):
        assert _write(client, setting("links", {"length_m": 33}, "l28"), 0).status_code == 200
    assert client.get(JOB).json()["revision"] == 1


def test_a_row_that_went_meanwhile(client: TestClient) -> None:
    row = client.get(JOB).json()["job"]["obstructions"][0]["id"]
    assert _write(client, removing("obstructions", row), 0).is_success
    told = _write(client, setting("obstructions", {"top_deg": 9}, row), 0)
    assert told.status_code == 409
    assert told.json()["clashes"][0]["column"] == "*"
    assert _write(client, setting("obstructions", {"top_deg": 9}, row), 1).status_code == 404
    # The other way round: it was changed, and a late hand removes it.
    other = client.get(JOB).json()["job"]["obstructions"][0]["id"]
    assert _write(client, setting("obstructions", {"top_deg": 9}, other), 1).is_success
    assert _write(client, removing("obstructions", other), 1).status_code == 409


def test_removing_one_row_does_not_meet_a_change_of_the_next(client: TestClient) -> None:
    """The order of rows is nobody's value."""
    rows = [o["id"] for o in client.get(JOB).json()["job"]["obstructions"]]
    assert _write(client, setting("obstructions", {"top_deg": 9}, rows[-1]), 0).is_success
    assert _write(client, removing("obstructions", rows[0]), 0).is_success
    left = client.get(JOB).json()["job"]["obstructions"]
    assert [o["id"] for o in left] == rows[1:]
    assert left[-1]["top_deg"] == 9


def test_undo_is_a_move_too_and_wants_the_newest_state(client: TestClient) -> None:
    _write(client, setting("links", {"length_m": 33}, "l28"), 0)
    for seen, code in (("0", 409), ("1", 200)):
        assert client.post(f"{JOB}/undo", headers={"If-Match": seen}).status_code == code
    told = _write(client, setting("links", {"length_m": 44}, "l28"), 1)
    assert told.status_code == 409  # the undo moved this very cell
    assert _write(client, setting("links", {"length_m": 4}, "l1"), 1).is_success


def test_a_revision_from_nowhere(client: TestClient) -> None:
    for seen in (7, 10**9):
        told = _write(client, setting("links", {"length_m": 33}, "l28"), seen)
        assert told.status_code == 409
        assert told.json()["revision"] == 0


def test_only_so_many_revisions_are_remembered(client: TestClient) -> None:
    assert _write(client, setting("handover", {"remarks": "x"}), 0).is_success
    jobs = client.app.state.desk.jobs  # type: ignore[attr-defined]
    with jobs.transaction() as db:
        db.execute("DELETE FROM moved WHERE job = 'skerry-house'")  # as after a thousand more
    assert REMEMBERED == 1000
    told = _write(client, setting("links", {"length_m": 33}, "l28"), 0)
    assert told.status_code == 409
    assert told.json()["clashes"] == []


def test_twenty_hands_on_one_job_all_get_on(client: TestClient) -> None:
    """Each changes its own cable, without ever reading the job anew."""
    links = [k["id"] for k in client.get(JOB).json()["job"]["links"]][:20]
    done: Counter[str] = Counter()

    def hand(link: str) -> None:
        seen = 0
        for n in range(3):
            answer = _write(client, setting("links", {"length_m": 2 + n}, link), seen)
            assert answer.status_code == 200, answer.text[:200]
            seen = answer.json()["revision"]
            done[link] += 1

    hands = [threading.Thread(target=hand, args=(link,)) for link in links]
    for each in hands:
        each.start()
    for each in hands:
        each.join()
    assert done == Counter(dict.fromkeys(links, 3))
    job = client.get(JOB).json()
    assert {k["length_m"] for k in job["job"]["links"] if k["id"] in links} == {4}


def test_turns_are_in_the_order_of_coming() -> None:
    turns, order, gate = FairLock(), [], threading.Event()

    def first() -> None:
        with turns.of("a"):
            gate.wait(20)

    threads = [threading.Thread(target=first)]
    threads[0].start()
    while "a" not in turns._lines:
        pass
    for n in range(8):

        def later(n: int = n) -> None:
            with turns.of("a"):
                order.append(n)

        threads.append(threading.Thread(target=later))
        threads[-1].start()
        while len(turns._lines["a"]) < n + 2:
            pass
    with turns.of("b"):  # another name waits for nobody
        gate.set()
    for each in threads:
        each.join()
    assert order == list(range(8))
    assert turns._lines == {}


@pytest.mark.parametrize("path", ["/api/settings"])
def test_what_belongs_to_the_device_is_not_kept_here(client: TestClient, path: str) -> None:
    assert client.get(path).status_code == 404
