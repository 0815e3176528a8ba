"""What the wind does to a mast: areas that follow the dish, both brackets, regions of wind."""

from __future__ import annotations

import json
import math
import sqlite3
from importlib import resources
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.job import Antenna, Array, Dish, Job, Mast, Site, Target
from evtro.core.job.profile import Profile
from evtro.core.stations.mast.answer import work_out
from evtro.core.stations.mast.wind import area_m2, pressure
from evtro.core.units.quantities import text_of
from evtro.demo.world import skerry_house
from evtro.formats.jobfile import read_job, write_job

PLACE = Site(latitude_deg=45.0, longitude_deg=10.0, mount_height_m=6.0)
SOUTH = Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=10.0)


def _dish(**values: Any) -> Dish:
    return Dish(**{"id": "a1", "name": "Dish", "target": "t1", "offset_deg": 25.0} | values)


def _job(*antennas: Antenna, profile: str = "europe", **mast: Any) -> Job:
    return Job(
        name="x",
        date="2026-03-25",
        profile=profile,
        site=PLACE,
        targets=(SOUTH,),  # type: ignore[arg-type]
        dishes=[a for a in antennas if isinstance(a, Dish)],
        arrays=[a for a in antennas if isinstance(a, Array)],
        mast=Mast(**mast),
    )


def test_a_dish_of_1_8_m_is_no_dish_of_0_8_m(europe: Profile) -> None:
    """The case that was seen: 0.5 m² whatever the size, and "in"."""
    mast = {"length_m": 3.0, "held_m": 0.8, "outer_mm": 48.0}
    small = work_out(_job(_dish(diameter_m=0.8, on_mast_m=1.5), **mast), europe)
    large = work_out(_job(_dish(diameter_m=1.8, on_mast_m=1.5), **mast), europe)
    assert small.state != "fail" or small.moment.state == "ok"
    assert large.moment.state == "fail"
    assert large.loads[1].area_m2 / small.loads[1].area_m2 == pytest.approx(
        (1.8 / 0.8) ** 2, rel=1e-9
    )


@given(st.floats(0.3, 5), st.floats(1.05, 3))
def test_area_grows_with_the_square_of_the_diameter(diameter: float, more: float) -> None:
    one, _ = area_m2(_job(), _dish(diameter_m=diameter))
    two, _ = area_m2(_job(), _dish(diameter_m=min(diameter * more, 15)))
    assert two / one == pytest.approx((min(diameter * more, 15) / diameter) ** 2)


def test_shape_mesh_and_elevation_count() -> None:
    """By hand: pi/4 x 0.9 x 0.8 m, 1.1 for the arm; elevation 38.1° less offset 25° leans 13.1° back."""
    job = _job()
    from evtro.core.job.targets import sight_of

    sight = sight_of(PLACE, SOUTH)
    assert sight is not None
    lean = math.radians(sight.elevation_deg - 25.0)
    area, words = area_m2(job, _dish(reflector_height_mm=900, reflector_width_mm=800))
    assert area == pytest.approx(math.pi / 4 * 0.9 * 0.8 * 1.1 * math.cos(lean), rel=1e-9)
    assert "measured reflector" in text_of(words)
    mesh, _ = area_m2(job, _dish(reflector_height_mm=900, reflector_width_mm=800, surface="mesh"))
    assert mesh == pytest.approx(0.6 * area)
    upright, _ = area_m2(job, _dish(target=None))
    assert upright == pytest.approx(math.pi / 4 * 0.64 * 1.1)
    # A prime-focus dish that looks up steeply is lifted: never less than six tenths.
    steep = job.model_copy(update={"site": PLACE.model_copy(update={"latitude_deg": 1.0})})
    up, _ = area_m2(steep, _dish(offset_deg=0.0))
    assert up == pytest.approx(math.pi / 4 * 0.64 * 1.1 * 0.6)


def test_an_own_area_stays_and_says_so(europe: Profile) -> None:
    own = _dish(wind_area_m2=0.7, area_from="own", diameter_m=1.8)
    area, words = area_m2(_job(own), own)
    assert area == 0.7
    assert "own" in text_of(words)
    assert "own" in text_of(work_out(_job(own), europe).loads[1].area_words)


def test_both_brackets_bear_their_part(europe: Profile) -> None:
    """By hand: 1,000 N/m² x 1.2 on 0.5 m² at 2 m and on a tube of 50 mm x 2 m. M = 1200 + 120 = 1320
    N·m, V = 600 + 120 = 720 N; over 0.6 m the lower bracket 2200 N, the upper 2920 N. Leaving out
    the shear gave 2200 N for both."""
    plain = Array(id="a1", name="A", on_mast_m=2.0, wind_area_m2=0.5)
    found = work_out(_job(plain, length_m=2.6, held_m=0.6, outer_mm=50.0, wind_ms=40.0), europe)
    assert found.moment.value == pytest.approx(1320.0)
    assert found.lower_bracket_n == pytest.approx(2200.0)
    assert found.upper_bracket_n == pytest.approx(2920.0)
    loose = work_out(_job(plain, length_m=2.6, held_m=0.0), europe)
    assert (loose.upper_bracket_n, loose.lower_bracket_n, loose.state) == (None, None, "fail")


@pytest.mark.parametrize(
    ("profile", "region", "height_m", "pa", "origin"),
    [
        # EN/IEC 60728-11 (from memory): 800 N/m² to 20 m, 1100 above.
        ("europe", "", 6, 800, "60728-11"),
        ("europe", "", 21, 1100, "60728-11"),
        # Half rho v²: 115 mph is 51.4 m/s, 0.613 v² = 1619 N/m² at 10 m (ASCE 7-16, from memory).
        ("north-america", "inland", 10, 1619, "ASCE"),
        ("north-america", "severe", 10, 3972, "ASCE"),
        # Twice as high: (20/10)^(2/9.5) = 1.157 (ASCE 7-16 Kz, exposure C, from memory).
        ("north-america", "inland", 20, 1874, "ASCE"),
        ("australia-new-zealand", "a", 5, 1215, "1170.2"),
        ("australia-new-zealand", "c", 5, 2881, "1170.2"),
    ],
)
def test_wind_by_region(profile: str, region: str, height_m: float, pa: float, origin: str) -> None:
    job = _job(profile=profile, wind_region=region)
    job = job.model_copy(update={"site": PLACE.model_copy(update={"mount_height_m": height_m})})
    found = pressure(job, profiles.load(profile))
    assert found.pa == pytest.approx(pa, rel=2e-3)
    assert origin in found.origin
    assert found.chosen


@pytest.mark.parametrize("profile", ["north-america", "australia-new-zealand"])
def test_a_region_that_nobody_chose_is_asked_for(profile: str) -> None:
    rules = profiles.load(profile)
    firm = {
        "profile": profile,
        "outer_mm": 76.0,
        "wall_mm": 4.0,
        "base": "concrete",
        "bolt_mm": 12.0,
        "crew": 3,
    }
    found = work_out(_job(_dish(on_mast_m=0.3), **firm), rules)
    assert [p.code for p in found.problems] == ["wind-region"]
    assert found.state == "marginal"
    chosen = work_out(
        _job(_dish(on_mast_m=0.3), **firm, wind_region=rules.wind.regions[0].key), rules
    )
    assert (chosen.problems, chosen.state) == ([], "ok")
    typed = work_out(_job(_dish(on_mast_m=0.3), **firm, wind_ms=40), rules)
    assert typed.problems == []


def test_what_is_worse_is_never_less(europe: Profile) -> None:
    """Regions come in the order of their wind, and each asks at least as much as the one before."""
    for key in ("north-america", "australia-new-zealand"):
        rules = profiles.load(key)
        found = [
            pressure(_job(profile=key, wind_region=r.key), rules).pa for r in rules.wind.regions
        ]
        assert found == sorted(found)
        assert found[0] > pressure(_job(), europe).pa


def test_a_file_of_form_3_keeps_own_areas_and_drops_the_one_nobody_typed() -> None:
    old = json.loads(write_job(skerry_house()))
    old["version"] = 3
    dishes, arrays = old["job"].pop("dishes"), old["job"].pop("arrays")
    rows = [{**d, "kind": "dish"} for d in dishes] + [{**a, "kind": "array"} for a in arrays]
    old["job"]["antennas"] = rows
    for row, area in zip(rows, (0.5, 0.09), strict=True):
        row["wind_area_m2"] = area
        for new in ("area_from", "surface", "ground_k", "compass_off_deg", "zero_before_deg"):
            row.pop(new, None)
    parts = catalogue.load()
    assert read_job(json.dumps(old).encode(), parts).dishes[0].area_from == "size"
    old["job"]["antennas"][0]["wind_area_m2"] = 0.64
    kept = read_job(json.dumps(old).encode(), parts).dishes[0]
    assert (kept.area_from, kept.wind_area_m2) == ("own", 0.64)


def test_a_database_of_form_3_keeps_own_areas() -> None:
    folder = resources.files("evtro.store").joinpath("migrations")
    database = sqlite3.connect(":memory:")
    for name in ("0001_jobs.sql", "0002_satellites.sql", "0003_terrestrial.sql"):
        database.executescript(folder.joinpath(name).read_text("utf-8"))
    columns = {r[1]: r for r in database.execute("PRAGMA table_info(antenna)")}
    database.execute("PRAGMA foreign_keys = OFF")
    for key, kind, area in (
        ("a1", "dish", 0.5),
        ("a2", "dish", 0.7),
        ("a3", "array", 0.09),
        ("a4", "dish", 1.1 * 0.785 * 0.6 * 0.6),
    ):
        values = {
            n: "" if c[2] == "TEXT" else 0 for n, c in columns.items() if c[3] and c[4] is None
        }
        values |= {
            "job": "j",
            "id": key,
            "kind": kind,
            "wind_area_m2": area,
            "diameter_m": 0.6,
            "name": key,
        }
        marks = ", ".join("?" for _ in values)
        database.execute(
            f"INSERT INTO antenna ({', '.join(values)}) VALUES ({marks})", tuple(values.values())
        )
    database.executescript(folder.joinpath("0004_trust.sql").read_text("utf-8"))
    found = dict(database.execute("SELECT id, area_from FROM antenna").fetchall())
    assert found == {"a1": "size", "a2": "own", "a3": "size", "a4": "size"}
