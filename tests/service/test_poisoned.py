"""One job that cannot be read or worked out hides no other, and answers are those of the value."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Job
from evtro.demo.world import demo_jobs, fern_cottage
from evtro.formats.jobfile import read_job, write_job
from evtro.service import joblist
from evtro.service.job_service import JobService
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from tests.data import make_app, open_database

from .conftest import kept
from .writing import setting

POISON = "Poisoned"


def _poison(app: Any) -> None:
    """A height that the old program let in lies in the file."""
    desk: JobService = app.state.desk
    desk.jobs.add(demo_jobs()["harrow-farm"].model_copy(update={"name": POISON}), "poisoned")
    desk.jobs.change("poisoned", 0, "rename", lambda j: j.model_copy(update={"place": "Here"}))
    with desk.jobs.transaction() as db:
        for row in db.execute("SELECT id, heights_m FROM relief WHERE job = 'poisoned'").fetchall():
            heights = json.loads(row["heights_m"])
            heights[3] = 1e160
            db.execute(
                "UPDATE relief SET heights_m = ? WHERE job = 'poisoned' AND id = ?",
                (json.dumps(heights), row["id"]),
            )
        db.execute("UPDATE job SET state = 'x' WHERE id = 'poisoned'")


def test_an_absurd_height_is_refused_in_a_file(client: TestClient) -> None:
    document = json.loads(client.get("/api/jobs/harrow-farm/export").content)
    document["job"]["reliefs"][0]["heights_m"][3] = 1e160
    answer = client.post("/api/jobs/import", content=json.dumps(document).encode())
    assert answer.status_code == 422
    assert "too large" in answer.json()["detail"]
    assert len(answer.json()["detail"]) < 60  # not its hundred and sixty figures
    assert len(kept(client)) == len(demo_jobs())


def test_a_job_that_is_none_stands_in_the_list_and_can_go(tmp_path: Path) -> None:
    app = make_app(tmp_path)
    app.state.desk.jobs.add(fern_cottage(), "fern-cottage")
    _poison(app)
    app.state.desk.jobs.close()
    with TestClient(make_app(tmp_path)) as client:  # after a restart too
        lines = {j["name"]: j for j in client.get("/api/jobs").json()["jobs"]}
        assert set(lines) == {POISON, fern_cottage().name}
        assert "too large" in lines[POISON]["broken"]
        assert lines[fern_cottage().name]["broken"] is None
        assert len(lines[fern_cottage().name]["stations"]) == 8
        assert [j["id"] for j in client.get("/api/jobs?state=broken").json()["jobs"]] == [
            "poisoned"
        ]
        told = client.get("/api/jobs/poisoned")
        assert told.status_code == 422
        problem = told.json()
        assert (problem["code"], problem["revision"]) == ("job-broken", 1)
        assert problem["remedy"]
        out = client.get("/api/jobs/poisoned/export")
        assert json.loads(out.content)["job"]["reliefs"][0]["heights_m"][3] == 1e160
        seen = {"If-Match": str(problem["revision"])}
        undone = client.post("/api/jobs/poisoned/undo", headers=seen).json()
        assert undone["revision"] == 2  # the rest of the job goes back all the same
        gone = client.delete("/api/jobs/poisoned", headers={"If-Match": "2"})
        assert gone.status_code == 204
        assert client.get("/api/jobs").json()["total"] == 1


def test_what_cannot_be_worked_out_is_not_kept(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A fault of the core refuses the write with words; what was there before stays."""

    def stumbles(job: Job, *_: object) -> object:
        if job.place == "Nowhere":
            raise ZeroDivisionError
        return work_out(job, catalogue.load(), profiles.load(job.profile))

    monkeypatch.setattr("evtro.service.job_service.work_out", stumbles)
    seen = {"If-Match": "0"}
    answer = client.post(
        "/api/jobs/fern-cottage/changes", json=setting("job", {"place": "Nowhere"}), headers=seen
    )
    assert (answer.status_code, answer.json()["code"]) == (422, "unworkable")
    assert client.get("/api/jobs/fern-cottage").json()["revision"] == 0
    text = write_job(fern_cottage().model_copy(update={"place": "Nowhere"}))
    assert client.post("/api/jobs/import", content=text.encode()).status_code == 422
    assert len(kept(client)) == len(demo_jobs())


def test_answers_belong_to_the_value_and_not_to_its_number(tmp_path: Path) -> None:
    """Two states of one job with one number: each has its own wind moment."""
    jobs = Jobs(open_database(tmp_path / FILE_NAME))
    desk = JobService(jobs, tmp_path)
    short = fern_cottage()
    long = short.model_copy(update={"mast": short.mast.model_copy(update={"length_m": 9.0})})
    first = desk.answers(jobs.add(short, "house")).mast
    jobs.forget("house")
    again = desk.answers(jobs.add(long, "house")).mast
    assert first.figure != again.figure
    assert again == work_out(long, catalogue.load(), profiles.load(long.profile)).mast


def test_another_state_in_the_file_is_read_anew(tmp_path: Path) -> None:
    """What lies in the file decides, also where somebody put another file's rows there."""
    jobs = Jobs(open_database(tmp_path / FILE_NAME))
    kept = jobs.add(fern_cottage(), "house")
    with jobs.transaction() as db:
        db.execute("UPDATE mast SET length_m = 9.0 WHERE job = 'house'")
        db.execute("UPDATE job SET state = 'restored' WHERE id = 'house'")
    again = jobs.get("house")
    assert (again.revision, again.job.mast.length_m) == (kept.revision, 9.0)


def test_a_kept_spine_names_what_it_was_made_by(tmp_path: Path) -> None:
    jobs = Jobs(open_database(tmp_path / FILE_NAME), "this program")
    desk = JobService(jobs, tmp_path)
    desk.add(fern_cottage())
    assert jobs.heads()[0].line
    jobs.program = "the next program"
    assert jobs.heads()[0].line is None
    assert desk.lines.part(joblist.ListFilter(), 0, 9).jobs[0].stations  # worked out anew, and kept
    assert jobs.heads()[0].line


def test_old_files_with_control_characters_come_in_clean() -> None:
    document = json.loads(write_job(fern_cottage()))
    document["job"]["name"] = "Fern\x07 Cottage\ufffe"
    parts = catalogue.load()
    with pytest.raises(Exception, match="control character U\\+0007"):
        read_job(json.dumps(document).encode(), parts)
    document["version"] = 4
    assert read_job(json.dumps(document).encode(), parts).name == "Fern  Cottage "
