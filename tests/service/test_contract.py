"""The API against its own description, and the description against what is committed."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from evtro.core.units.quantities import unit_table
from tests.data import make_app, with_demo_jobs
from tests.proving import examples

pytestmark = pytest.mark.long

ROOT = Path(__file__).parents[2]

# fmt: off
OPERATIONS = ["add_tile", "aim_detail", "all_paths", "begin_design", "cables_csv", "call_out", "candidates_at", "carriers_csv", "catalogue", "change_day", "come_in", "copy_sheet", "coverings", "day_forecast_csv", "day_ics", "day_kit_csv", "design_state", "detail", "drop_sheet", "events", "expected", "export_job", "fixes_of", "forecast_of_job", "foresee_change", "forget_sender", "give_word", "go_alone", "health", "import_beams", "import_csv", "import_into_job", "import_job", "import_satellites", "import_senders", "import_sheets", "is_down", "job_csv", "job_geojson", "keep_senders", "kit", "kit_csv", "labels", "leave", "let_go", "level_terms", "levels_csv", "limits_of", "list_days", "list_jobs", "list_modulations", "list_profiles", "look_at_site", "near_here", "new_job", "open_day", "open_job", "part_levels", "photo", "places", "places_of_gpx", "plan_change", "powering", "print_run", "quick_job", "read_again", "read_frequencies", "read_link", "read_meter", "read_wish", "redo", "remove_day", "remove_job", "remove_tile", "removed_jobs", "satellites_csv", "satellites_json", "senders", "senders_csv", "senders_geojson", "sheet", "sheet_of", "sheet_pdf", "sheets_csv", "sheets_json", "shelves", "simulate_forecast", "stop_design", "stops_from_gpx", "sun", "sun_ics", "surroundings", "take_back", "take_change", "take_forecast", "take_outbox", "take_photo", "take_sender", "targets_geojson", "targets_kml", "tiles", "try_change", "turn_meter", "type_line", "undo", "who_is_alone"]
# fmt: on


@pytest.fixture(scope="module")
def app(tmp_path_factory: pytest.TempPathFactory) -> Any:
    folder = tmp_path_factory.mktemp("contract")
    with_demo_jobs(folder)
    return make_app(folder)


@pytest.fixture(scope="module")
def api(app: Any) -> Any:
    return schemathesis.openapi.from_asgi("/api/openapi.json", app)


def _operations() -> list[str]:
    description = json.loads((ROOT / "web/openapi.json").read_text())
    return [
        f"{method.upper()} {path}"
        for path, methods in description["paths"].items()
        for method in methods
        if not path.endswith("/events")  # it never ends; test_events reads it from a real server
    ]


@pytest.mark.parametrize("operation", _operations())
def test_any_call_is_answered_as_described(app: Any, api: Any, operation: str) -> None:
    """schemathesis (schemathesis.io): generated calls over the whole API; no server error, no
    status, content type or body that the description does not have."""
    method, path = operation.split(" ")
    jobs = app.state.desk.jobs

    @given(case=api[path][method].as_strategy(), known=st.sampled_from([True, True, False]))
    @examples(5, 80, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
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
            checks=[
                not_a_server_error,
                status_code_conformance,
                content_type_conformance,
                response_schema_conformance,
            ]
        )

    calls()


def test_the_operations_are_these(app: Any) -> None:
    """A client names a call by its operation id: one that goes or comes is said here."""
    described = app.openapi()["paths"].values()
    assert sorted(o["operationId"] for path in described for o in path.values()) == OPERATIONS


def test_the_web_client_was_built_from_it(app: Any) -> None:
    built = json.loads((ROOT / "web/openapi.json").read_text())
    # Units come from the same run; the client knows no other table.
    assert built.pop("x-units") == json.loads(json.dumps(unit_table()))
    assert built == json.loads(json.dumps(app.openapi()))
    table = json.loads((ROOT / "web/src/units/table.json").read_text())
    assert table == json.loads(json.dumps(unit_table()))
    made = (ROOT / "web/src/wire/schema.d.ts").read_text()
    assert all(f"{o}: " in made for o in OPERATIONS)
