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
from hypothesis import HealthCheck, given
from hypothesis import strategies as st

from evtro import catalogue, cli
from evtro.core.answers import work_out
from evtro.core.job import (
    Array,
    Beam,
    Carrier,
    Conductor,
    Dish,
    FeedTry,
    Job,
    Lock,
    Obstruction,
    Outlet,
    Preset,
    Reading,
    Rig,
    Sample,
    SatelliteFeed,
    Site,
    Spot,
    Stop,
    Target,
    TaskRecord,
    Terminal,
)
from evtro.core.job.consistency import check_job
from evtro.core.job.context import JobParts
from evtro.core.job.registry import registry
from evtro.core.network import edits as run
from evtro.core.physics.modulation import MODULATIONS
from evtro.core.physics.propagation.rain import Climate
from evtro.core.stations.aim.dish.detail import detail
from evtro.core.stations.aim.dish.link_view import link_view
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.views.frequency_plan import frequency_plan
from evtro.core.stations.sky.sun_events import sun_view
from evtro.demo.world import demo_jobs, skerry_house
from evtro.formats.jobfile import read_job, schema, write_job
from evtro.store.backups import backup, restore
from evtro.store.folder import FILE_NAME, Claim
from evtro.store.jobs import Jobs
from tests.changes import taken
from tests.data import open_database
from tests.proving import examples
from tests.rows import any_row, number, words

CATALOGUE = catalogue.load()


@st.composite
def jobs(draw: st.DrawFn) -> Job:
    """Any job that hangs together: rows of every kind, and a run grown part by part."""
    targets = [
        Target(
            id=f"t{i + 1}",
            kind=draw(st.sampled_from(["satellite", "transmitter"])),
            name=draw(words),
            orbit_deg_e=draw(number(-180, 180)),
            latitude_deg=draw(number(-90, 90)),
            longitude_deg=draw(number(-180, 180)),
        )
        for i in range(draw(st.integers(1, 3)))
    ]
    carriers = [
        Carrier(
            id=f"c{i + 1}",
            target=draw(st.sampled_from(targets)).id,
            name=draw(words),
            frequency_mhz=draw(number(30, 13000)),
            bandwidth_mhz=draw(number(0.1, 60)),
            polarisation=draw(st.sampled_from("HVLR")),
            power=draw(number(0.1, 90)),
            modulation=draw(st.sampled_from(sorted(MODULATIONS))),
        )
        for i in range(draw(st.integers(0, 5)))
    ]
    dishes = [
        Dish(id=f"a{i + 1}", name=draw(words), target=t.id, diameter_m=draw(number(0.2, 15)))
        for i, t in enumerate(targets)
        if t.kind == "satellite"
    ]
    arrays = [
        Array(id=f"a{i + 1}", name=draw(words), target=t.id)
        for i, t in enumerate(targets)
        if t.kind == "transmitter"
    ]
    outlets = [
        Outlet(id=f"o{i + 1}", name=draw(words), floor=draw(words), satellite=draw(st.booleans()))
        for i in range(draw(st.integers(0, 4)))
    ]
    job = Job(
        name=draw(words),
        place=draw(words),
        date=draw(st.dates(dt.date(2020, 1, 1), dt.date(2040, 1, 1))),
        profile=draw(st.sampled_from(["europe", "north-america"])),
        site=Site(
            latitude_deg=draw(st.none() | number(-90, 90)), longitude_deg=draw(number(-180, 180))
        ),
        targets=tuple(targets),
        carriers=tuple(carriers),
        dishes=tuple(dishes),
        arrays=tuple(arrays),
        outlets=tuple(outlets),
        obstructions=tuple(
            Obstruction(
                id=f"b{i + 1}",
                name=draw(words),
                from_deg=draw(number(0, 360)),
                to_deg=draw(number(0, 360)),
                top_deg=draw(st.none() | number(-30, 89)),
                distance_m=draw(st.none() | number(0.1, 1e5)),
            )
            for i in range(draw(st.integers(0, 3)))
        ),
        conductors=(Conductor(id="e1", role="mast", size_mm2=draw(number(0.1, 500)), length_m=2),),
        marks=(
            TaskRecord(id="m1", step="site.consent", value=draw(st.none() | number(-1e6, 1e6))),
        ),
    )
    for antenna in job.antennas:
        source = (
            "antenna"
            if antenna.kind == "array"
            else draw(st.sampled_from(["lnb-single", "lnb-four"]))
        )
        job = run.add_source(JobParts(job, CATALOGUE), antenna.id, source)
    for _ in range(draw(st.integers(0, 6))):
        here = draw(st.sampled_from(job.parts))
        kind = draw(
            st.sampled_from(["block-1", "splitter-4", "multiswitch-4", "attenuator", "tap-12"])
        )
        if CATALOGUE.parts[here.type].joinable:
            job, _ = run.add_after(
                JobParts(job, CATALOGUE), here.id, kind, "rg6", draw(number(0, 1000))
            )
    for outlet in outlets:
        free = [p for p in job.parts if run.free_outputs(JobParts(job, CATALOGUE), p)]
        if free:
            job, _ = run.add_after(
                JobParts(job, CATALOGUE), free[-1].id, "plate", "rg59", 3.5, outlet.id
            )
    job = job.model_copy(update=_dish_rows(draw, job))
    readings = [
        Reading(
            id=f"r{i + 1}", part=job.parts[0].id, carrier=c.id, level_dbuv=draw(number(-60, 150))
        )
        for i, c in enumerate(carriers)
    ]
    return job.model_copy(update={"readings": tuple(readings)})


def _dish_rows(draw: st.DrawFn, job: Job) -> dict[str, object]:
    """Everything that belongs to dishes, drawn from the models."""
    dishes = [d.id for d in job.dishes]
    sats = [t.id for t in job.targets if t.kind == "satellite"]
    some = draw(st.integers(0, 2))
    rows_of: dict[str, object] = {
        "dishes": tuple(any_row(draw, Dish, id=d.id, target=d.target) for d in job.dishes),
        "arrays": tuple(any_row(draw, Array, id=a.id, target=a.target) for a in job.arrays),
        "targets": tuple(
            any_row(draw, Target, id=t.id, kind=t.kind, wanted=t.wanted, orbit_deg_e=t.orbit_deg_e)
            for t in job.targets
        ),
        "obstructions": tuple(any_row(draw, Obstruction, id=f"b{i + 1}") for i in range(some)),
        "spots": tuple(any_row(draw, Spot, id=f"s{i + 1}") for i in range(some)),
        "stops": tuple(any_row(draw, Stop, id=f"h{i + 1}") for i in range(some)),
        "rig": any_row(draw, Rig, stop="h1" if some else None),
    }
    if dishes:
        for field, kind, prefix in (
            ("samples", Sample, "q"),
            ("feed_tries", FeedTry, "y"),
            ("locks", Lock, "k"),
            ("presets", Preset, "z"),
        ):
            rows_of[field] = tuple(
                any_row(draw, kind, id=f"{prefix}{i + 1}", antenna=draw(st.sampled_from(dishes)))
                for i in range(draw(st.integers(0, 4)))
            )
        rows_of["feeds"] = tuple(
            any_row(draw, SatelliteFeed, id=f"f{i + 1}", antenna=dishes[0], target=t)
            for i, t in enumerate(sats)
        )
    if sats:
        ring = ((-3.0, 40.0), (9.5, 41.25), (4.0, 55.5))
        rows_of["beams"] = (any_row(draw, Beam, id="w1", target=sats[0], boundary=ring),)
        rows_of["terminal"] = any_row(draw, Terminal, beam="w1")
    return rows_of


STORE = Jobs(open_database(Path("any.sqlite")))


@pytest.mark.long
@given(jobs())
@examples(15, 300, suppress_health_check=list(HealthCheck))
def test_any_job_survives_file_and_store(job: Job) -> None:
    check_job(JobParts(job, CATALOGUE))
    text = write_job(job)
    again = read_job(text.encode(), CATALOGUE)
    assert write_job(again) == text
    kept = STORE.add(again)
    assert write_job(kept.job) == text


@pytest.mark.long
# Drawn figures go to the ends of what is allowed, where powers overflow: that this is not fatal is what is tested.
@pytest.mark.filterwarnings("ignore::RuntimeWarning")
@given(jobs())
@examples(6, 125, suppress_health_check=list(HealthCheck))
def test_any_job_can_be_worked_out_and_fits_the_schema(job: Job) -> None:
    from evtro import profiles

    answers = work_out(job, CATALOGUE, profiles.load(job.profile))
    assert len(answers.stations) == 8
    for row in answers.coax.outlets:
        assert all(c.level.value is None or math.isfinite(c.level.value) for c in row.cells)
    jsonschema_rs.validator_for(schema()).validate(json.loads(write_job(job)))


@pytest.mark.long
@given(jobs())
@examples(10, 200, suppress_health_check=list(HealthCheck))
def test_every_page_of_any_job_has_an_answer(job: Job) -> None:
    """Whatever was typed, no page falls over: aim, link, frequencies, sun, sheet."""
    from evtro import profiles

    profile = profiles.load(job.profile)
    answers = work_out(job, CATALOGUE, profile)
    for aim in answers.aim.aims:
        page = detail(job, answers.sky, aim)
        if page is None:
            continue
        assert page.search.passes
        assert all(p.peak.centre is None or math.isfinite(p.peak.centre) for p in page.peaks)
        view = link_view(NetworkContext(job, CATALOGUE, profile), aim.antenna, Climate(30.0, 3.0))
        assert view is not None
        for sat in view.satellites:
            assert all(math.isfinite(r.cn_db) for r in sat.rows)
        frequency_plan(JobParts(job, CATALOGUE), aim.antenna)
    assert sun_view(job, job.date).day == job.date
    for remedy in answers.sky.remedies:
        taken(job, remedy.change)
    assert answers.sheet


def test_the_tables_have_the_models_fields(tmp_path: Path) -> None:
    database = open_database(tmp_path / FILE_NAME)
    for table, model in ((k.table.name, k.model) for k in registry(Job).kinds.values()):
        columns = {r["name"] for r in database.execute(f"PRAGMA table_info({table})")}
        assert columns - {"job", "seq"} == set(model.model_fields)
        strict = database.execute("SELECT strict FROM pragma_table_list WHERE name = ?", (table,))
        assert strict.fetchone()[0] == 1


def test_backup_and_restore_bring_the_same_data_back(tmp_path: Path) -> None:
    live, copy = tmp_path / FILE_NAME, tmp_path / "copy.sqlite"
    store = Jobs(open_database(live))
    kept = store.add(skerry_house())
    backup(tmp_path, copy)
    store.forget(kept.id)
    assert store.heads() == []
    store.close()
    with Claim(tmp_path) as claim:
        restore(claim, copy)
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
    arguments: list[str],
    words: str,
    capsys: pytest.CaptureFixture[str],
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
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
    assert set(found["outlets"][0]) == {
        "outlet",
        "carrier",
        "frequency_mhz",
        "level_dbuv",
        "cn_db",
        "margin_db",
        "state",
    }
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
    file.write_text(write_job(demo_jobs()["skerry-house"]))
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
