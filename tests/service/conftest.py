"""A service over a fresh database."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.data import lend_app, with_demo_jobs

from .writing import adding, removing, setting


class Caller:
    """Calls with the revision of the last answer, as the interface does."""

    def __init__(self, client: TestClient, job: str) -> None:
        self.client, self.job, self.revision = client, job, 0

    def __call__(self, method: str, path: str, body: Any = None, status: int | None = None) -> Any:
        answer = self.client.request(
            method,
            f"/api/jobs/{self.job}{path}",
            json=body,
            headers={"If-Match": str(self.revision)},
        )
        found = answer.json() if answer.content else None
        # What is made by a change is answered with the job.
        fits = status in (None, answer.status_code) or (status == 201 and answer.status_code == 200)
        assert fits, found
        if status is None:
            assert answer.is_success, found
        if answer.is_success and isinstance(found, dict) and "revision" in found:
            self.revision = found["revision"]
        return found

    def change(self, change: dict[str, Any], status: int | None = None) -> Any:
        """Carry a change out."""
        return self("POST", "/changes", change, status)

    def set(
        self, rows: str, values: dict[str, Any], row: str = "", status: int | None = None
    ) -> Any:
        """Set fields of a row, or of a part of the job that is there once."""
        return self.change(setting(rows, values, row), status)

    def add(self, rows: str, values: dict[str, Any], status: int | None = None) -> Any:
        """Add a row."""
        return self.change(adding(rows, values), status)

    def remove(self, rows: str, row: str, status: int | None = None) -> Any:
        """Remove a row."""
        return self.change(removing(rows, row), status)

    def read(
        self, rows: str, at: dict[str, str], values: dict[str, Any], status: int | None = None
    ) -> Any:
        """Type what the meter reads at a place, over what it read there before; nothing takes it away."""
        job = self.client.get(f"/api/jobs/{self.job}").json()["job"]
        old = next((r for r in job[rows] if all(r[k] == v for k, v in at.items())), None)
        if old is None:
            return self.add(rows, {**at, **values}, status)
        now = {"level_dbuv": None, "cn_db": None, **old, **values}
        if now["level_dbuv"] is None and now["cn_db"] is None:
            return self.remove(rows, old["id"], status)
        return self.set(rows, values, old["id"], status)

    def open_gates(self, until: str | None = None) -> None:
        """Confirm every gate in the order of the work, or those before one."""
        steps = self.client.get(f"/api/jobs/{self.job}").json()["answers"]["steps"]
        for key in (s["key"] for rows in steps.values() for s in rows if s["danger"]):
            if key == until:
                return
            self.change({"verb": "tick", "step": key, "danger_read": True, "by": "A. Mender"})


def kept(client: TestClient) -> list[str]:
    """The ids of the jobs that are kept, without a look at what they say."""
    return [head.id for head in client.app.state.desk.jobs.heads()]  # type: ignore[attr-defined]


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    with_demo_jobs(tmp_path)
    with TestClient(lend_app(tmp_path)) as made:
        yield made


@pytest.fixture
def call(client: TestClient) -> Callable[..., Any]:
    return Caller(client, "skerry-house")


@pytest.fixture
def fresh(client: TestClient) -> Caller:
    made = client.post("/api/jobs", json={"name": "New house", "profile": "europe"}).json()
    return Caller(client, made["id"])
