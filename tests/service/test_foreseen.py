"""A change that was worked out while it was typed comes to the same as one that was not, and alters nothing before."""

from __future__ import annotations

import random
import threading
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from fastapi.testclient import TestClient

from evtro.core.answers import Answers
from evtro.core.changes import Applied
from evtro.core.job import Job
from evtro.core.job.parts import Catalogue
from evtro.demo.world import demo_jobs, skerry_house
from evtro.formats.jobfile import write_job
from evtro.service.foreseen import Basis, Foreseen, Outcome
from evtro.service.job_service import JobService

from .conftest import Caller
from .writing import Change, setting

JOBS = ("skerry-house", "mill-loft", "larch-street", "kittiwake-van")
# What says when and under which number a state was kept.
OWN = ("id", "revision", "kept_at")


def _imported(client: TestClient, job: Job) -> Caller:
    made = client.post("/api/jobs/import", content=write_job(job).encode()).json()
    return Caller(client, made["id"])


def _foresee(job: Caller, change: Change) -> None:
    answer = job.client.post(f"/api/jobs/{job.job}/foreseen", json=change)
    assert (answer.status_code, answer.content) == (204, b"")


def _same(one: dict[str, Any], other: dict[str, Any]) -> bool:
    return {k: v for k, v in one.items() if k not in OWN} == {
        k: v for k, v in other.items() if k not in OWN
    }


@pytest.fixture
def anew(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> list[Job]:
    """The jobs that were worked out, one entry each time."""
    found: list[Job] = []
    work = JobService._worked_anew

    def noted(self: JobService, job: Job, shop: Catalogue) -> Answers:
        found.append(job)
        return work(self, job, shop)

    monkeypatch.setattr(JobService, "_worked_anew", noted)
    return found


@pytest.mark.parametrize("name", JOBS)
def test_it_comes_to_the_same_and_is_worked_out_once(
    client: TestClient, anew: list[Job], name: str
) -> None:
    chance = random.Random(name)
    guessed, plain = (_imported(client, demo_jobs()[name]) for _ in range(2))
    links = [k.id for k in demo_jobs()[name].links]
    for _ in range(4):
        change = setting(
            "links", {"length_m": f"{chance.uniform(1, 60):.1f} m"}, chance.choice(links)
        )
        _foresee(guessed, change)
        anew.clear()
        found = guessed.change(change)
        assert anew == []
        assert _same(found, plain.change(change))
        assert len(anew) == 1


def test_nothing_is_kept_of_it(client: TestClient) -> None:
    job = _imported(client, skerry_house())
    before = client.get(f"/api/jobs/{job.job}").content
    listed = client.get("/api/jobs").content
    for length in ("190 m", "12 ft 6 in", "3,5 m"):
        _foresee(job, setting("links", {"length_m": length}, "l28"))
    assert client.get(f"/api/jobs/{job.job}").content == before
    assert client.get("/api/jobs").content == listed


def test_another_change_is_its_own(client: TestClient, anew: list[Job]) -> None:
    """Of another text, another row, or of a state that another device has made meanwhile."""
    job, twin = (_imported(client, skerry_house()) for _ in range(2))
    typed = setting("links", {"length_m": "19 m"}, "l28")
    _foresee(job, typed)
    meant = setting("links", {"length_m": "190 m"}, "l28")
    assert _same(job.change(meant), twin.change(meant))
    _foresee(job, typed)
    elsewhere = setting("outlets", {"name": "Snug"}, "o1")
    assert _same(job.change(elsewhere), twin.change(elsewhere))
    found = job.change(typed)
    assert _same(found, twin.change(typed))
    assert found["job"]["outlets"][0]["name"] == "Snug"


def test_undo_goes_back_over_it(client: TestClient) -> None:
    job = _imported(client, skerry_house())
    before = client.get(f"/api/jobs/{job.job}").json()
    change = setting("links", {"length_m": "190 m"}, "l28")
    _foresee(job, change)
    job.change(change)
    assert _same({**job("POST", "/undo"), "redo": None}, {**before, "redo": None})
    _foresee(job, change)
    assert job.change(change)["job"]["links"] != before["job"]["links"]


@pytest.mark.parametrize("length", ["", "long", "361 x", "-4 m", "10 km", "0 m"])
def test_what_is_refused_is_refused_as_ever(client: TestClient, length: str) -> None:
    job, twin = (_imported(client, skerry_house()) for _ in range(2))
    change = setting("links", {"length_m": length}, "l28")
    _foresee(job, change)
    answers = [
        client.post(f"/api/jobs/{j.job}/changes", json=change, headers={"If-Match": "0"})
        for j in (job, twin)
    ]
    assert answers[0].status_code == answers[1].status_code
    assert _same(answers[0].json(), answers[1].json())


def test_only_what_a_field_asks_for_is_foreseen(client: TestClient) -> None:
    job = _imported(client, skerry_house())
    for change in ({"verb": "remove", "rows": "links", "id": "l28"}, {"verb": "tick", "step": "x"}):
        assert client.post(f"/api/jobs/{job.job}/foreseen", json=change).status_code == 422
    change = setting("links", {"length_m": "4 m"}, "l28")
    assert client.post("/api/jobs/none-such/foreseen", json=change).status_code == 404


# The rows themselves, without a service.

JOB, SHOP = object(), object()


def _basis(change: str = "a", now: str = "10:00", job: object = JOB, shop: object = SHOP) -> Basis:
    return Basis(job, shop, change, now)  # type: ignore[arg-type]


OUTCOME = Outcome(Applied(None, [], {}), None, None)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "other",
    [
        {"change": "b"},
        {"now": "10:01"},
        {"job": object()},
        {"shop": object()},
    ],
)
def test_it_holds_for_its_basis_alone_and_once(other: dict[str, Any]) -> None:
    foreseen = Foreseen()
    assert foreseen.work("j", _basis(), lambda: OUTCOME)
    assert foreseen.take("j", _basis(**other)) is None
    assert foreseen.take("k", _basis()) is None
    assert foreseen.take("j", _basis()) is OUTCOME
    assert foreseen.take("j", _basis()) is None


def test_a_change_waits_for_itself_and_never_for_another() -> None:
    foreseen = Foreseen()
    begun, go = threading.Event(), threading.Event()

    def slow() -> Outcome:
        begun.set()
        go.wait()
        return OUTCOME

    with ThreadPoolExecutor(2) as pool:
        working = pool.submit(foreseen.work, "j", _basis(), slow)
        begun.wait()
        assert foreseen.take("j", _basis("b")) is None
        assert not foreseen.work("k", _basis(), lambda: OUTCOME), "one at a time"
        taking = pool.submit(foreseen.take, "j", _basis())
        assert not taking.done()
        go.set()
        assert working.result()
        assert taking.result() is OUTCOME


def test_what_goes_wrong_leaves_nothing_behind() -> None:
    foreseen = Foreseen()

    def wrong() -> Outcome:
        raise ValueError("no")

    with pytest.raises(ValueError, match="no"):
        foreseen.work("j", _basis(), wrong)
    assert foreseen.take("j", _basis()) is None
    assert foreseen.work("j", _basis(), lambda: OUTCOME)
    for n in range(5):
        foreseen.work(f"other{n}", _basis(), lambda: OUTCOME)
    assert foreseen.take("j", _basis()) is None, "of the last few jobs only"
