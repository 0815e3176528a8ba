"""Photographs of steps: taken once, small and without their place, in the sheet, the file and the backup."""

from __future__ import annotations

import io
import json
from pathlib import Path
from typing import Any

import pypdf
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from evtro.store.backups import backup, restore
from evtro.store.folder import Claim
from evtro.store.photos import Photos, named
from tests.pictures import drawn

from .conftest import Caller

AT = "/api/jobs/skerry-house/photos"


def _take(
    client: TestClient, data: bytes, step: str = "mast.plumb", key: str = "", **more: Any
) -> Any:
    revision = client.get("/api/jobs/skerry-house").json()["revision"]
    headers = {"If-Match": str(revision), "content-type": "image/jpeg"}
    if key:
        headers["Idempotency-Key"] = key
    return client.post(
        AT, params={"step": step, "by": "A. Mender", **more}, content=data, headers=headers
    )


def _rows(client: TestClient) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = client.get("/api/jobs/skerry-house").json()["job"]["photos"]
    return found


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_it_is_written_anew_upright_small_and_without_its_place(
    client: TestClient, kind: str
) -> None:
    sent = drawn(3000, 2000, kind, turned=True)
    assert Image.open(io.BytesIO(sent)).getexif().get_ifd(0x8825)
    assert _take(client, sent, waited_s=7200).status_code == 200
    (row,) = _rows(client)
    assert (row["step"], row["taken_by"]) == ("mast.plumb", "A. Mender")
    assert row["at"]
    answer = client.get(f"{AT}/{row['id']}")
    assert answer.headers["content-type"] == "image/jpeg"
    kept = Image.open(io.BytesIO(answer.content))
    assert kept.size == (row["width_px"], row["height_px"]) == (1067, 1600)
    assert not kept.getexif()
    assert b"a camera" not in answer.content


def test_it_arrives_once_however_often_it_is_sent(client: TestClient) -> None:
    for _ in range(3):
        assert _take(client, drawn(), key="the-one").status_code == 200
    assert len(_rows(client)) == 1
    # The same picture of the same step is no second one, under another key either.
    _take(client, drawn(), key="another")
    assert len(_rows(client)) == 1
    _take(client, drawn(), step="site.kit")
    assert len(_rows(client)) == 2


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"not a picture", "no picture"),
        (b"\xff\xd8\xff\xe0" + b"x" * 400, "no picture"),
        (drawn()[:4000], "no picture"),
        (b"GIF89a" + b"\0" * 40, "no picture"),
    ],
)
def test_what_is_no_picture_is_refused_in_words(
    client: TestClient, data: bytes, words: str
) -> None:
    answer = _take(client, data)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]
    assert answer.json()["field"] == "Photo"
    assert not _rows(client)


def test_too_large_is_refused_before_it_is_read(client: TestClient) -> None:
    answer = _take(client, b"\xff" * 21_000_000)
    assert answer.status_code == 413
    assert "fewer pixels" in answer.json()["remedy"]
    # Few bytes that unfold to many.
    bomb = io.BytesIO()
    Image.new("L", (9000, 9000)).save(bomb, "PNG")
    answer = _take(client, bomb.getvalue())
    assert answer.status_code == 422
    assert "million pixels" in answer.json()["detail"]


def test_a_step_that_is_none_and_a_photo_without_a_file_are_refused(
    client: TestClient, call: Caller
) -> None:
    assert _take(client, drawn(), step="mast.of-straw").status_code == 404
    bare = {"step": "mast.plumb", "sha256": "0" * 64, "width_px": 1, "height_px": 1}
    answer = client.post(
        "/api/jobs/skerry-house/changes",
        json={"verb": "add", "rows": "photos", "values": bare},
        headers={"If-Match": "0"},
    )
    assert answer.status_code == 422
    assert answer.json()["code"] == "photo-bare"


def test_it_is_evidence_that_undo_leaves_and_its_own_reversal_ends(
    client: TestClient, call: Caller
) -> None:
    _take(client, drawn())
    (row,) = _rows(client)
    call.revision = client.get("/api/jobs/skerry-house").json()["revision"]
    call("POST", "/undo")
    assert len(_rows(client)) == 1
    call.remove("photos", row["id"])
    assert not _rows(client)


def test_it_is_on_the_sheet_and_in_the_printed_one(client: TestClient) -> None:
    _take(client, drawn())
    sections = client.get("/api/jobs/skerry-house/sheet").json()
    assert any(s["title"] == "Photographs" for s in sections)
    pages = pypdf.PdfReader(
        io.BytesIO(client.get("/api/jobs/skerry-house/sheet.pdf").content)
    ).pages
    assert sum(len(p.images) for p in pages) == 1


def test_it_travels_in_the_file_on_request_and_comes_back_the_same(
    client: TestClient, tmp_path: Path
) -> None:
    _take(client, drawn())
    (row,) = _rows(client)
    picture = client.get(f"{AT}/{row['id']}").content
    plain = client.get("/api/jobs/skerry-house/export").text
    whole = client.get("/api/jobs/skerry-house/export", params={"photos": True}).text
    assert row["sha256"] in plain
    assert "photos" not in {k for k in json.loads(plain) if k != "job"}
    made = client.post(
        "/api/jobs/import", content=whole, headers={"content-type": "application/json"}
    ).json()
    again = client.get(f"/api/jobs/{made['id']}/export", params={"photos": True}).text
    assert again == whole
    assert client.get(f"/api/jobs/{made['id']}/photos/{row['id']}").content == picture
    # A picture that was changed on the way is not the one that the job names.
    broken = json.loads(whole)
    broken["photos"][row["sha256"]] = broken["photos"][row["sha256"]][:-8] + "AAAAAAA="
    answer = client.post("/api/jobs/import", json=broken)
    assert answer.status_code == 422
    assert answer.json()["field"] == "Photos"


def test_a_file_without_them_says_where_they_are(client: TestClient) -> None:
    _take(client, drawn())
    (row,) = _rows(client)
    text = client.get("/api/jobs/skerry-house/export").text.replace(row["sha256"], "a" * 64)
    made = client.post(
        "/api/jobs/import", content=text, headers={"content-type": "application/json"}
    ).json()
    answer = client.get(f"/api/jobs/{made['id']}/photos/{row['id']}")
    assert answer.status_code == 404
    assert answer.json()["code"] == "photo-missing"
    assert answer.json()["remedy"]


def test_the_backup_holds_it_and_what_nobody_names_goes(client: TestClient, tmp_path: Path) -> None:
    _take(client, drawn())
    (row,) = _rows(client)
    kept = Photos(tmp_path)
    assert kept.get(row["sha256"])
    stray = kept.put(b"of no job")
    desk = client.app.state.desk  # type: ignore[attr-defined]
    with desk.jobs.reading() as db:
        assert named(db) == {row["sha256"]}
        # What came in a moment ago may still be on its way to its row.
        assert kept.tidy(named(db)) == 0
    import os

    old = next(tmp_path.glob(f"photos/*/{stray}.jpg"))
    os.utime(old, (0, 0))
    os.utime(next(tmp_path.glob(f"photos/*/{row['sha256']}.jpg")), (0, 0))
    assert kept.tidy({row["sha256"]}) == 1
    assert kept.get(stray) is None
    copy = tmp_path / "elsewhere" / "copy.sqlite"
    copy.parent.mkdir()
    backup(tmp_path, copy)
    desk.jobs.close()
    other = tmp_path / "other"
    other.mkdir()
    with Claim(other) as claim:
        restore(claim, copy)
    assert Photos(other).get(row["sha256"]) == kept.get(row["sha256"])
