"""The level plan and the register of cables as files."""

from __future__ import annotations

import csv
import io

import pytest
from fastapi.testclient import TestClient

from evtro.formats import plans

JOB = "/api/jobs/skerry-house"


def _rows(client: TestClient, name: str) -> list[dict[str, str]]:
    answer = client.get(f"{JOB}/{name}")
    assert answer.status_code == 200
    assert "attachment" in answer.headers["content-disposition"]
    return list(csv.DictReader(io.StringIO(answer.text)))


def test_the_level_plan_has_every_wanted_carrier_at_every_outlet(client: TestClient) -> None:
    rows = _rows(client, "levels.csv")
    assert tuple(rows[0]) == plans.LEVELS
    outlets = [r for r in rows if r["kind"] == "outlet"]
    assert len(outlets) == 12 * 7
    levels = client.get(f"{JOB}/parts/p18/levels").json()["levels"]
    garden = [float(r["level_dbuv"]) for r in outlets if r["place"] == "Garden room"]
    assert garden == pytest.approx([level for _, level, _ in levels], abs=0.051)
    low = next(r for r in outlets if r["place"] == "Garden room" and r["state"] == "fail")
    assert float(low["level_dbuv"]) < float(low["least_dbuv"])
    assert {"multiswitch", "preamplifier", "lnb"} <= {r["kind"] for r in rows}


def test_the_register_has_every_cable_with_its_ends_and_what_is_on_it(client: TestClient) -> None:
    rows = _rows(client, "cables.csv")
    job = client.get(JOB).json()["job"]
    assert tuple(rows[0]) == plans.CABLES
    assert [int(r["number"]) for r in rows] == list(range(1, len(job["links"]) + 1))
    garden = next(r for r in rows if r["end"] == "Garden room")
    assert garden["start"] == "Multiswitch"
    assert garden["start_port"] == "12"
    assert float(garden["length_m"]) == 48
    assert garden["carries"] == "terrestrial 482 to 690 MHz, satellite 964 to 2138 MHz"
    assert garden["note"].startswith("Duct")
