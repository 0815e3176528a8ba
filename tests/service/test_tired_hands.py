"""What a tired person types into every figure of a job: refused in the trade's words with the field
and the remedy, or taken for what it means; and nothing else is lost."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any, NamedTuple

import annotated_types as at
import pytest
from fastapi.testclient import TestClient
from pydantic import BaseModel

from evtro.core import job as model
from evtro.core.job import In
from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import write_job
from tests.data import make_app, with_demo_jobs

pytestmark = pytest.mark.long


class Figure(NamedTuple):
    """A figure that can be typed: where its row is changed and what its bounds are."""

    job: str
    rows: str
    row: str | None
    field: str
    title: str
    unit: str
    least: float | None
    most: float | None
    optional: bool


SINGLES = {
    "site": model.Site,
    "mast": model.Mast,
    "earth": model.Earth,
    "company": model.Company,
    "rig": model.Rig,
    "terminal": model.Terminal,
}
ROWS = {
    "obstructions": model.Obstruction, "dishes": model.Dish, "arrays": model.Array, "targets": model.Target,
    "carriers": model.Carrier, "conductors": model.Conductor, "links": model.Cable, "spots": model.Spot,
    "feeds": model.SatelliteFeed, "presets": model.Preset, "trial_spots": model.TrialSpot, "feed_tries": model.FeedTry,
    "locks": model.Lock, "beams": model.Beam, "parts": model.Part,
}  # fmt: skip


def _figures_of(
    kind: type[BaseModel],
) -> Iterator[tuple[str, str, str, float | None, float | None, bool]]:
    for name, info in kind.model_fields.items():
        unit = next((m.unit for m in info.metadata if isinstance(m, In)), None)
        if unit is None:
            continue
        least = next((float(m.ge) for m in info.metadata if isinstance(m, at.Ge)), None)  # type: ignore[arg-type]
        most = next((float(m.le) for m in info.metadata if isinstance(m, at.Le)), None)  # type: ignore[arg-type]
        yield name, info.title or name, unit, least, most, info.default is None


# Changed by a form of its own, not by the row's: a line such as `8m at 40m`, a channel or MHz.
OWN_FORM = {("obstructions", "seen_from_m"), ("carriers", "frequency_mhz")}


def _all() -> list[Figure]:
    """Each in the smallest job that has such a row, since every figure works all of its job out."""
    found: list[Figure] = []
    jobs = dict(sorted(demo_jobs().items(), key=lambda j: len(write_job(j[1]))))
    for single, kind in SINGLES.items():
        found += [Figure(next(iter(jobs)), single, None, *f) for f in _figures_of(kind)]
    for rows, kind in ROWS.items():
        job = next((n for n, j in jobs.items() if getattr(j, rows)), None)
        if job is None:
            continue
        row = getattr(jobs[job], rows)[0].id
        found += [Figure(job, rows, row, *f) for f in _figures_of(kind)]
    return [f for f in found if (f.rows, f.field) not in OWN_FORM]


FIGURES = _all()


@pytest.fixture(scope="module")
def house(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    folder: Path = tmp_path_factory.mktemp("tired")
    with_demo_jobs(folder)
    app = make_app(folder)
    with TestClient(app) as made:
        yield made


def _revision(house: TestClient, job: str) -> int:
    return int(house.app.state.desk.jobs.get(job).revision)  # type: ignore[attr-defined]


def _set(house: TestClient, figure: Figure, value: Any) -> Any:
    seen = _revision(house, figure.job)
    change = {
        "verb": "set",
        "rows": figure.rows,
        "id": figure.row or "",
        "values": {figure.field: value},
    }
    answer = house.post(
        f"/api/jobs/{figure.job}/changes",
        json=change,
        headers={"If-Match": str(seen), "Evtro-Include": ""},
    )
    return seen, answer


def _kept(body: Any, figure: Figure) -> float | None:
    held = body["job"][figure.rows]
    row = held if figure.row is None else next(r for r in held if r["id"] == figure.row)
    value: float | None = row[figure.field]
    return value


def _undo(house: TestClient, figure: Figure) -> None:
    seen = _revision(house, figure.job)
    seen_at = {"If-Match": str(seen), "Evtro-Include": ""}
    house.post(f"/api/jobs/{figure.job}/undo", headers=seen_at).raise_for_status()


def _ids(figure: Figure) -> str:
    return f"{figure.rows}.{figure.field}"


NONSENSE: list[Any] = ["abc", "1,2,3", "--5", "1e999", "NaN", "∞", "٣٤ x", [], {}, True]


@pytest.mark.parametrize("figure", FIGURES, ids=_ids)
def test_nonsense_is_refused_with_field_and_remedy_and_nothing_is_lost(
    house: TestClient, figure: Figure
) -> None:
    before = house.get(f"/api/jobs/{figure.job}/export").content
    # Each figure gets some of them in its turn; a sentence with a number gets none by.
    turn = FIGURES.index(figure)
    tries: list[Any] = ["12 bananas", *(NONSENSE[(turn + i) % len(NONSENSE)] for i in range(4))]
    if not figure.optional:
        tries += ["", "   ", None]
    for text in tries:
        seen, answer = _set(house, figure, text)
        assert answer.status_code == 422, (text, answer.text[:300])
        said = answer.json()
        assert said["detail"], text
        assert said["remedy"], (text, said)
        assert said["field"], (text, said)
        assert figure.title.lower() in said["field"].lower(), (text, said["field"])
        assert _revision(house, figure.job) == seen
    assert house.get(f"/api/jobs/{figure.job}/export").content == before


@pytest.mark.parametrize("figure", [f for f in FIGURES if f.most is not None], ids=_ids)
def test_beyond_the_bounds_is_refused_and_the_bound_is_named(
    house: TestClient, figure: Figure
) -> None:
    assert figure.most is not None
    for value in (figure.most * 10 + 1, figure.most + 0.5, 1e12):
        _, answer = _set(house, figure, value)
        assert answer.status_code == 422, (value, answer.text[:200])
        said = answer.json()
        words = said["detail"] + said["remedy"]
        assert f"{figure.most:g}" in words.replace("\u202f", "").replace("−", "-"), said
    if figure.least is not None:
        for value in (figure.least - 0.5, -1e12):
            _, answer = _set(house, figure, value)
            assert answer.status_code == 422, (value, answer.text[:200])


@pytest.mark.parametrize(
    "figure", [f for f in FIGURES if f.most is not None and f.least is not None], ids=_ids
)
def test_a_comma_a_unit_and_a_true_minus_are_understood(house: TestClient, figure: Figure) -> None:
    """The bounds themselves are taken, and a figure between them in several hands' writing."""
    assert figure.most is not None
    assert figure.least is not None
    middle = round((figure.least + figure.most) / 2, 2) + 0.01
    units = {
        "deg": "°",
        "m": " m",
        "mm": " mm",
        "mhz": " MHz",
        "db": " dB",
        "mm2": " mm²",
        "m2": " m²",
    }
    writings = [
        lambda text: text.replace(".", ",") + units.get(figure.unit, ""),
        lambda text: f"  {text} ".replace("-", "−"),
        float,
    ]
    for n, write in enumerate(writings):
        # Another figure each time: what stands there already would be taken for read.
        meant = round(middle + n * min(0.01, (figure.most - middle) / 4), 4)
        writing = write(f"{meant:.4f}")
        _, answer = _set(house, figure, writing)
        if answer.status_code == 422:
            # Two figures of one row that contradict each other: said so, not swallowed.
            assert answer.json()["remedy"], answer.json()
            return
        assert answer.status_code == 200, (writing, answer.text[:300])
        assert _kept(answer.json(), figure) == pytest.approx(meant, abs=1e-9), writing


@pytest.mark.parametrize("figure", [f for f in FIGURES if f.optional], ids=_ids)
def test_an_emptied_field_is_unknown_again(house: TestClient, figure: Figure) -> None:
    for empty in ("  ", None):
        _, answer = _set(house, figure, empty)
        if answer.status_code == 422:
            assert answer.json()["remedy"], (figure, answer.json())
            continue
        assert answer.status_code == 200, answer.text[:300]
        assert _kept(answer.json(), figure) is None
        if _revision(house, figure.job):
            _undo(house, figure)


def test_there_are_figures_to_try() -> None:
    assert len(FIGURES) > 90
    assert {f.rows for f in FIGURES} >= {
        "site",
        "mast",
        "dishes",
        "arrays",
        "obstructions",
        "links",
    }
