"""Generated jobs through store and file, backup and restore, and the command line."""

from __future__ import annotations

import datetime as dt
import json
import math
import sqlite3
import subprocess
import sys
from pathlib import Path
from typing import Any

import jsonschema_rs
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from evtro import catalogue, cli
from evtro.core.coax import edits as run
from evtro.core.consistency import check_job
from evtro.core.job import (
    Antenna,
    Carrier,
    Conductor,
    Job,
    Mark,
    Obstruction,
    Outlet,
    Reading,
    Site,
    Target,
)
from evtro.core.modulation import MODULATIONS
from evtro.demo.world import skerry_house
from evtro.formats.jobfile import read_job, schema, write_job
from evtro.store import rows
from evtro.store.connection import FILE_NAME, backup, open_database, restore
from evtro.store.jobs import Jobs

CATALOGUE = catalogue.load()
words = st.text(st.characters(blacklist_categories=["Cs", "Cc"]), max_size=20)


def _numbers(low: float, high: float) -> st.SearchStrategy[float]:
    return st.floats(low, high, allow_nan=False).map(lambda v: round(v, 6))


@st.composite
def jobs(draw: st.DrawFn) -> Job:
    """Any job that hangs together: rows of every kind, and a run grown part by part."""
    targets = [
        Target(id=f"t{i + 1}", kind=draw(st.sampled_from(["satellite", "transmitter"])),
               name=draw(words), orbit_deg_e=draw(_numbers(-180, 180)),
               latitude_deg=draw(_numbers(-90, 90)), longitude_deg=draw(_numbers(-180, 180)))
        for i in range(draw(st.integers(1, 3)))
    ]  # fmt: skip
    carriers = [
        Carrier(id=f"c{i + 1}", target=draw(st.sampled_from(targets)).id, name=draw(words),
                frequency_mhz=draw(_numbers(30, 13000)), bandwidth_mhz=draw(_numbers(0.1, 60)),
                polarisation=draw(st.sampled_from("HVLR")), power=draw(_numbers(0.1, 90)),
                modulation=draw(st.sampled_from(sorted(MODULATIONS))))
        for i in range(draw(st.integers(0, 5)))
    ]  # fmt: skip
    antennas = [
        Antenna(id=f"a{i + 1}", kind="dish" if t.kind == "satellite" else "array", name=draw(words),
                target=t.id, diameter_m=draw(_numbers(0.2, 15)))
        for i, t in enumerate(targets)
    ]  # fmt: skip
    outlets = [
        Outlet(id=f"o{i + 1}", name=draw(words), floor=draw(words), satellite=draw(st.booleans()))
        for i in range(draw(st.integers(0, 4)))
    ]
    job = Job(
        name=draw(words), place=draw(words), date=draw(st.dates(dt.date(2020, 1, 1), dt.date(2040, 1, 1))),
        profile=draw(st.sampled_from(["europe", "north-america"])),
        site=Site(latitude_deg=draw(st.none() | _numbers(-90, 90)), longitude_deg=draw(_numbers(-180, 180))),
        targets=tuple(targets), carriers=tuple(carriers), antennas=tuple(antennas),
        outlets=tuple(outlets),
        obstructions=tuple(
            Obstruction(id=f"b{i + 1}", name=draw(words), from_deg=draw(_numbers(0, 360)),
                        to_deg=draw(_numbers(0, 360)), top_deg=draw(st.none() | _numbers(-30, 89)),
                        distance_m=draw(st.none() | _numbers(0.1, 1e5)))
            for i in range(draw(st.integers(0, 3)))),
        conductors=(Conductor(id="e1", role="mast", size_mm2=draw(_numbers(0.1, 500)), length_m=2),),
        marks=(Mark(id="m1", step="site.consent", value=draw(st.none() | _numbers(-1e6, 1e6))),),
    )  # fmt: skip
    for antenna in antennas:
        source = (
            "antenna"
            if antenna.kind == "array"
            else draw(st.sampled_from(["lnb-single", "lnb-four"]))
        )
        job = run.add_source(job, CATALOGUE, antenna.id, source)
    for _ in range(draw(st.integers(0, 6))):
        here = draw(st.sampled_from(job.parts))
        kind = draw(
            st.sampled_from(["block-1", "splitter-4", "multiswitch-4", "attenuator", "tap-12"])
        )
        if CATALOGUE.parts[here.type].outputs:
            job, _ = run.add_after(job, CATALOGUE, here.id, kind, "rg6", draw(_numbers(0, 1000)))
    for outlet in outlets:
        free = [p for p in job.parts if run.free_outputs(job, CATALOGUE, p)]
        if free:
            job, _ = run.add_after(job, CATALOGUE, free[-1].id, "plate", "rg59", 3.5, outlet.id)
    readings = [Reading(id=f"r{i + 1}", part=job.parts[0].id, carrier=c.id, level_dbuv=draw(_numbers(-60, 150)))
                for i, c in enumerate(carriers)]  # fmt: skip
    return job.model_copy(update={"readings": tuple(readings)})


@given(jobs())
@settings(max_examples=60, deadline=None, suppress_health_check=list(HealthCheck))
def test_any_job_survives_file_and_store(job: Job) -> None:
    check_job(job, CATALOGUE)
    text = write_job(job)
    again = read_job(text.encode(), CATALOGUE)
    assert write_job(again) == text
    kept = Jobs(open_database(Path(":memory:"))).add(again)
    assert write_job(kept.job) == text


@given(jobs())
@settings(max_examples=25, deadline=None, suppress_health_check=list(HealthCheck))
def test_any_job_can_be_worked_out_and_fits_the_schema(job: Job) -> None:
    from evtro import profiles
    from evtro.core.answers import work_out

    answers, _ = work_out(job, CATALOGUE, profiles.load(job.profile))
    assert len(answers.stations) == 8
    for row in answers.coax.outlets:
        assert all(c.level.value is None or math.isfinite(c.level.value) for c in row.cells)
    jsonschema_rs.validator_for(schema()).validate(json.loads(write_job(job)))


def test_the_tables_have_the_models_fields(tmp_path: Path) -> None:
    database = open_database(tmp_path / FILE_NAME)
    for table, model in {**rows.SINGLES, **{t: m for t, (_, m) in rows.LISTS.items()}}.items():
        columns = {r["name"] for r in database.execute(f"PRAGMA table_info({table})")}
        assert columns - {"job", "seq"} == set(model.model_fields)
        strict = database.execute("SELECT strict FROM pragma_table_list WHERE name = ?", (table,))
        assert strict.fetchone()[0] == 1


def test_backup_and_restore_bring_the_same_data_back(tmp_path: Path) -> None:
    live, copy = tmp_path / FILE_NAME, tmp_path / "copy.sqlite"
    store = Jobs(open_database(live))
    kept = store.add(skerry_house())
    backup(live, copy)
    store.remove(kept.id)
    assert store.revisions() == []
    restore(copy, live)
    assert Jobs(open_database(live)).get(kept.id).job == skerry_house()


def test_a_broken_backup_is_refused_and_the_data_stays(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("EVTRO_DATA", str(tmp_path))
    kept = Jobs(open_database(tmp_path / FILE_NAME)).add(skerry_house())
    wrong = tmp_path / "wrong"
    wrong.write_bytes(b"no database at all" * 100)
    assert cli.main(["restore", str(wrong)]) == 2
    other = tmp_path / "other.sqlite"
    sqlite3.connect(other).execute("CREATE TABLE shopping (thing)")
    assert cli.main(["restore", str(other)]) == 2
    assert cli.main(["restore", str(tmp_path / "nothing")]) == 2
    assert "evtro: Restore" in capsys.readouterr().err
    assert Jobs(open_database(tmp_path / FILE_NAME)).get(kept.id).job == skerry_house()


def _said(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[int, Any]:
    code = cli.main(list(arguments))
    return code, capsys.readouterr()


def test_look_gives_the_known_figures(capsys: pytest.CaptureFixture[str]) -> None:
    code, said = _said(capsys, "look", "40.4168", "-3.7038", "-30", "--height", "667", "--json")
    found = json.loads(said.out)
    assert code == 0
    assert found["visible"] is True
    assert found["azimuth_deg"] == pytest.approx(217.337, abs=0.01)
    assert found["elevation_deg"] == pytest.approx(36.041, abs=0.01)
    assert found["polarization_tilt_deg"] == pytest.approx(27.68, abs=0.01)
    wanted = (found["azimuth_deg"] - found["declination_deg"]) % 360
    assert found["compass_deg"] == pytest.approx(wanted, abs=1e-3)
    code, said = _said(capsys, "look", "40,4168 N", "3°42'13.7\"W", "30W", "--date", "2026-03-25")
    assert "217.34° true" in said.out
    code, said = _said(capsys, "look", "52.37", "4.9", "105.5", "--json")
    assert json.loads(said.out)["visible"] is False


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["look", "95", "0", "30"], "outside the earth"),
        (["look", "50", "0", "west"], "Orbit position"),
        (["look", "50", "0", "30", "--height", "high"], "--height"),
        (["look", "50", "0", "30", "--date", "soon"], "--date"),
        (["check", "no-such-file"], "cannot be read"),
        (["export", "no such job"], "there is no job"),
    ],
)
def test_bad_words_on_the_command_line(
    arguments: list[str], words: str, capsys: pytest.CaptureFixture[str], tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    monkeypatch.setenv("EVTRO_DATA", str(tmp_path))
    code, said = _said(capsys, *arguments)
    assert code == 2
    assert words in said.err


def test_check_says_what_is_out(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "skerry.evtro.json"
    file.write_text(write_job(skerry_house()))
    code, said = _said(capsys, "check", str(file), "--json")
    found = json.loads(said.out)
    assert code == 1
    assert set(found["outlets"][0]) == {"outlet", "carrier", "frequency_mhz", "level_dbuv", "cn_db",
                                        "margin_db", "state"}  # fmt: skip
    assert len(found["outlets"]) == 12 * 7
    problem = next(p for p in found["problems"] if p["code"] == "level-low")
    assert problem["place"].startswith("Garden room")
    assert {"figure", "limit", "origin", "remedy"} <= set(problem)
    code, said = _said(capsys, "check", str(file))
    assert code == 1
    assert "6 Coax" in said.out


def test_import_export_by_command(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("EVTRO_DATA", str(tmp_path))
    file, out = tmp_path / "a.evtro.json", tmp_path / "b.evtro.json"
    file.write_text(write_job(skerry_house()))
    assert cli.main(["import", str(file)]) == 0
    assert cli.main(["export", "Skerry House", str(out)]) == 0
    assert out.read_bytes() == file.read_bytes()
    assert cli.main(["backup", str(tmp_path / "copy.sqlite")]) == 0
    capsys.readouterr()
    assert cli.main(["schema"]) == 0
    assert json.loads(capsys.readouterr().out)["properties"]["format"]["const"] == "evtro-job"


def test_the_core_knows_nobody() -> None:
    """Arrows point one way: importing the core brings in no interface, no database, no files."""
    code = (
        "import sys, evtro.core.answers as a\n"
        "bad = [m for m in sys.modules if m.split('.')[0] in ('fastapi', 'sqlite3', 'uvicorn', 'starlette')"
        " or m.startswith(('evtro.service', 'evtro.store', 'evtro.formats', 'evtro.report'))]\n"
        "print(bad)"
    )
    out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert out.stdout.strip() == "[]"
