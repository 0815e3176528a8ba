"""What a request wants to see comes, and nothing else."""

from __future__ import annotations

from fastapi.testclient import TestClient

SPINE = {"stations", "outlets"}


def _answers(client: TestClient, show: str | None) -> dict[str, object]:
    headers = {} if show is None else {"Evtro-Include": show}
    found: dict[str, object] = client.get("/api/jobs/skerry-house", headers=headers).json()[
        "answers"
    ]
    return found


def test_without_a_word_everything_comes(client: TestClient) -> None:
    whole = _answers(client, None)
    assert set(whole) == SPINE | {
        "site",
        "sky",
        "aim",
        "mast",
        "earth",
        "coax",
        "readings",
        "handover",
        "steps",
        "stock",
    }


def test_what_is_named_comes_and_is_the_same(client: TestClient) -> None:
    whole = _answers(client, None)
    for show in ("", "site", "coax,aim", "steps"):
        some = _answers(client, show)
        assert set(some) == SPINE | set(filter(None, show.split(",")))
        assert all(some[key] == whole[key] for key in some)


def test_a_part_comes_with_a_change(client: TestClient) -> None:
    change = {"verb": "set", "rows": "links", "id": "l28", "values": {"length_m": "30 m"}}
    headers = {"If-Match": "0", "Evtro-Include": "coax,part:p18"}
    view = client.post("/api/jobs/skerry-house/changes", json=change, headers=headers).json()
    assert set(view["answers"]) == SPINE | {"coax", "part"}
    alone = client.get("/api/jobs/skerry-house/parts/p18/levels").json()
    assert view["answers"]["part"] == alone
    assert alone["cells"]
    gone = client.get("/api/jobs/skerry-house", headers={"Evtro-Include": "part:p999"}).json()
    assert gone["answers"]["part"] is None


def test_what_is_not_an_answer_is_refused(client: TestClient) -> None:
    for show in ("everything", "site,,coax", "part:x", "__class__"):
        refused = client.get("/api/jobs/skerry-house", headers={"Evtro-Include": show})
        assert refused.status_code == 422
