"""Days through the service: typed as people type, kept with a revision, forecasts in, calendar and list out."""

from __future__ import annotations

from typing import Any

import icalendar
import pytest
from fastapi.testclient import TestClient

from evtro.formats.forecast import simulated
from tests.core.day.test_day import DAY

AT = f"/api/days/{DAY.isoformat()}"


class Day:
    """Writes with the newest revision."""

    def __init__(self, client: TestClient) -> None:
        self.client, self.revision = client, 0

    def put(self, status: int = 200, **edit: Any) -> Any:
        answer = self.client.put(AT, json=edit, headers={"If-Match": str(self.revision)})
        assert answer.status_code == status, answer.text
        return self._kept(answer.json())

    def forecast(self, data: bytes, status: int = 200) -> Any:
        answer = self.client.post(
            f"{AT}/forecast",
            content=data,
            headers={"If-Match": str(self.revision), "content-type": "text/csv"},
        )
        assert answer.status_code == status, answer.text
        return self._kept(answer.json())

    def _kept(self, found: Any) -> Any:
        self.revision = found.get("revision", self.revision) or self.revision
        return found


@pytest.fixture
def day(client: TestClient) -> Day:
    return Day(client)


TWO = [{"job": "marten-lodge", "travel": "1 h 5"}, {"job": "fern-cottage", "travel": ""}]


def test_a_day_is_made_typed_and_kept(day: Day, client: TestClient) -> None:
    assert client.get(AT).json()["revision"] == 0
    assert client.get("/api/days").json() == []
    found = day.put(starts="6.45", crew=["Ada", "Ben"], wind_most="20 mph", home="40", visits=TWO)[
        "day"
    ]
    assert found["plan"]["starts_min"] == 405
    assert found["plan"]["wind_most_ms"] == pytest.approx(8.94, abs=0.01)
    first, second = found["visits"]
    assert first["arrives"] == 405 + 65
    assert not first["estimated"]
    assert second["estimated"]
    assert second["arrives"] == pytest.approx(first["leaves"] + second["road_min"])
    assert found["back"] == pytest.approx(second["leaves"] + 40)
    assert client.get("/api/days").json() == [{"date": "2026-04-14", "visits": 2}]
    assert client.get(AT).json()["day"] == found


@pytest.mark.parametrize(
    ("edit", "field"),
    [
        ({"starts": "soon"}, "Leave at"),
        ({"home": "-3"}, "Road home"),
        ({"wind_most": "400 km/h"}, "No work at height over"),
        ({"wind_most": "a gale"}, "No work at height over"),
        ({"visits": [{"job": "fern-cottage", "travel": "11 h"}]}, "Road"),
    ],
)
def test_what_cannot_be_is_refused_with_its_field_and_nothing_moves(
    day: Day, client: TestClient, edit: dict[str, Any], field: str
) -> None:
    day.put(visits=TWO)
    before = client.get(AT).json()
    assert day.put(422, **edit)["field"] == field
    assert client.get(AT).json() == before


def test_a_job_stands_once_in_a_day_and_follows_what_is_done(day: Day, client: TestClient) -> None:
    found = day.put(visits=[*TWO, *TWO])["day"]
    assert [v["job"] for v in found["visits"]] == ["marten-lodge", "fern-cottage"]
    before = found["visits"][0]["work_min"]
    revision = client.get("/api/jobs/marten-lodge").json()["revision"]
    tick = {"verb": "tick", "step": "site.overhead", "danger_read": True, "by": "A", "done": True}
    client.post("/api/jobs/marten-lodge/changes", json=tick, headers={"If-Match": str(revision)})
    after = client.get(AT).json()["day"]["visits"][0]["work_min"]
    assert after == pytest.approx(before - 5)
    client.delete("/api/jobs/fern-cottage", headers={"If-Match": "0"})
    gone = client.get(AT).json()["day"]["visits"][1]
    assert gone["missing"]
    assert gone["work_min"] == 0


def test_two_who_plan_one_day_do_not_write_over_each_other(day: Day, client: TestClient) -> None:
    day.put(visits=TWO)
    answer = client.put(AT, json={"starts": "9:00"}, headers={"If-Match": "0"})
    assert answer.status_code == 409
    assert client.get(AT).json()["day"]["plan"]["starts_min"] == 450


GOOD = (
    b"time;wind_ms;gust_ms\n06:00;3,5;5\n2026-04-14T12:00;9;14,5\n2026-04-15 06:00;30;\n20:00;4;\n"
)


def test_a_forecast_comes_in_and_goes_out(day: Day, client: TestClient) -> None:
    found = day.forecast(GOOD)["day"]
    rows = [(h["at_min"], h["wind_ms"], h["gust_ms"]) for h in found["plan"]["forecast"]]
    assert rows == [(360, 3.5, 5), (720, 9, 14.5), (1200, 4, None)]
    out = client.get(f"{AT}/forecast.csv").content
    assert [(h["at_min"], h["wind_ms"]) for h in day.forecast(out)["day"]["plan"]["forecast"]] == [
        r[:2] for r in rows
    ]
    made = client.post(f"{AT}/simulated", headers={"If-Match": str(day.revision)}).json()["day"][
        "plan"
    ]
    assert made["forecast"] == [h.model_dump() for h in simulated(DAY)]
    assert "simulated" in made["forecast_from"]


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"\x00\xff\x00", ""),
        (b"time,wind_ms\nnoon,4\n", "no time"),
        (b"time,wind_ms\n12:00,400\n", "no wind"),
        (b"time,wind_ms\n12:00,breezy\n", "breezy"),
        (b"time\n12:00\n", "missing"),
        (b"time,wind_ms\n2026-04-15 12:00,4\n", "says nothing of"),
        (
            b"time,wind_ms\n" + b"".join(b"%02d:%02d,4\n" % (n // 60, n % 60) for n in range(1440)),
            "rows",
        ),
    ],
)
def test_a_broken_forecast_takes_in_nothing(
    day: Day, client: TestClient, data: bytes, words: str
) -> None:
    day.forecast(GOOD)
    assert words in day.forecast(data, 422)["detail"]
    assert len(client.get(AT).json()["day"]["plan"]["forecast"]) == 3


def test_the_calendar_and_the_list(day: Day, client: TestClient) -> None:
    found = day.put(visits=TWO, starts="7:30")["day"]
    calendar = icalendar.Calendar.from_ical(client.get(f"{AT}/calendar.ics").content)
    events = list(calendar.walk("VEVENT"))
    assert [str(e["summary"]) for e in events] == ["Marten Lodge", "Fern Cottage"]
    begins = events[0]["dtstart"].dt
    assert begins.hour * 60 + begins.minute == round(found["visits"][0]["arrives"])
    assert begins.tzinfo is None
    assert "at height" in str(events[0]["description"])
    lines = client.get(f"{AT}/kit.csv").text.splitlines()
    assert lines[0].startswith("kind,name,variant,count")
    assert len(lines) == len(found["needs"]) + 1


def test_a_day_is_taken_away_and_its_jobs_stay(day: Day, client: TestClient) -> None:
    day.put(visits=TWO)
    assert client.delete(AT).status_code == 204
    assert client.get(AT).json()["revision"] == 0
    assert client.get("/api/jobs/marten-lodge").status_code == 200
    assert client.get("/api/days/2026-13-40").status_code == 422
    assert client.get("/api/days/1969-01-01").status_code == 422
