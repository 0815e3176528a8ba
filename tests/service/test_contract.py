"""The API against its own description, and the description against what is committed."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from evtro.demo.world import demo_jobs
from tests.data import make_app

pytestmark = pytest.mark.long

ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def app(tmp_path_factory: pytest.TempPathFactory) -> Any:
    made = make_app(tmp_path_factory.mktemp("contract"))
    for job_id, job in demo_jobs().items():
        made.state.desk.jobs.add(job, job_id)
    return made


def _operations() -> list[str]:
    description = json.loads((ROOT / "docs/openapi.json").read_text())
    return [
        f"{method.upper()} {path}"
        for path, methods in description["paths"].items()
        for method in methods
    ]


@pytest.mark.parametrize("operation", _operations())
def test_any_call_is_answered_as_described(app: Any, operation: str) -> None:
    """schemathesis (schemathesis.io): generated calls over the whole API; no server error, no
    status, content type or body that the description does not have."""
    api = schemathesis.openapi.from_asgi("/api/openapi.json", app)
    method, path = operation.split(" ")
    jobs = app.state.desk.jobs

    @given(case=api[path][method].as_strategy(), known=st.sampled_from([True, True, False]))
    @settings(max_examples=40, deadline=None, derandomize=True, database=None,
              suppress_health_check=list(HealthCheck))  # fmt: skip
    def calls(case: Any, known: bool) -> None:
        if "job_id" in case.path_parameters and known:
            # Most calls go to a job that is there, at its own revision, so that they reach the core.
            if all(h.id != "skerry-house" for h in jobs.heads()):
                jobs.take_back("skerry-house")
            case.path_parameters["job_id"] = "skerry-house"
            if method != "GET":
                revision = str(jobs.get("skerry-house").revision)
                case.headers = {**(case.headers or {}), "if-match": revision}
        case.call_and_validate(
            checks=[not_a_server_error, status_code_conformance, content_type_conformance,
                    response_schema_conformance]
        )  # fmt: skip

    calls()


def test_the_committed_description_is_the_services_own(app: Any) -> None:
    """Run `make client` after a change of the service."""
    assert json.loads((ROOT / "docs/openapi.json").read_text()) == json.loads(
        json.dumps(app.openapi())
    )


def test_the_web_clients_types_are_generated_from_it(tmp_path: Path) -> None:
    """The build makes them from the committed description; what lies there must be its own."""
    made = tmp_path / "schema.d.ts"
    tool = ROOT / "web/node_modules/.bin/openapi-typescript"
    subprocess.run([str(tool), str(ROOT / "docs/openapi.json"), "-o", str(made)], check=True,
                   capture_output=True)  # fmt: skip
    assert made.read_text() == (ROOT / "web/src/service/schema.d.ts").read_text()
