"""How good a position is, and what it is good enough for."""

from __future__ import annotations

import math
from typing import Any

import pytest

from evtro.core.job import Beam, Dish, Job, Site, Target, TerrainProfile
from evtro.core.job.problems import Problem
from evtro.core.physics.geodesy import bearing_and_distance, look
from evtro.core.stations.site.answer import work_out
from evtro.core.stations.site.figures import good_to_m
from evtro.formats.places import find_places

LAT, LON = 50.0, 10.0
SAT = Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=20)
MAST = Target(
    id="t2",
    kind="transmitter",
    name="Alder Top",
    latitude_deg=50.1,
    longitude_deg=10.0,
    height_m=300,
)


def _coarse(text: str, good: float | None = None, **rows: Any) -> Problem | None:
    site = Site(position_text=text, latitude_deg=LAT, longitude_deg=LON, position_good_m=good)
    job = Job(name="x", date="2026-03-25", site=site, **rows)  # type: ignore[arg-type]
    return next((p for p in work_out(job).problems if p.code == "position-coarse"), None)


def test_it_follows_from_what_was_typed_or_said() -> None:
    assert good_to_m(Site(position_text="51°30' 0°7'W")) == pytest.approx(1091, rel=0.01)
    assert good_to_m(Site(position_text="51 0")) == pytest.approx(65_700, rel=0.01)
    assert good_to_m(Site(position_text="51 0", position_good_m=25.0)) == 25.0
    assert good_to_m(Site()) is None


def test_a_town_is_good_to_its_own_extent() -> None:
    """A million people at 2,500 a square kilometre fill a circle of 11.3 km; nobody is nearer than 1."""
    large, small = find_places("london, gb")[0], find_places("galway, ie")[0]
    assert large.good_to_m == pytest.approx(1000 * math.sqrt(large.population / 2500 / math.pi))
    assert large.good_to_m > 25_000
    assert 1000 <= small.good_to_m < 5000


def test_the_beam_of_a_terminal_wants_5_km() -> None:
    rows = {
        "targets": (SAT,),
        "beams": (Beam(id="w1", target="t1", name="B"),),
        "dishes": (Dish(id="a1", name="D", target="t1", two_way=True),),
    }
    assert _coarse("50.00 10.00", **rows) is None
    said = _coarse("50.0 10.0", **rows)
    assert said is not None
    assert said.state == "fail"
    assert "beam" in str(said.limit)
    assert _coarse("50.0 10.0", good=400.0, **rows) is None


def test_a_profile_of_the_ground_wants_300_m() -> None:
    relief = TerrainProfile(
        id="g1",
        target="t2",
        from_latitude_deg=LAT,
        from_longitude_deg=LON,
        to_latitude_deg=50.1,
        to_longitude_deg=10.0,
        length_km=11.1,
        heights_m=(1.0, 1.0, 1.0),
    )
    assert _coarse("50.0000 10.0000", reliefs=(relief,)) is None
    said = _coarse("50.00 10.00", reliefs=(relief,))
    assert said is not None
    assert said.state == "marginal"
    assert "ground" in str(said.limit)


def test_a_bearing_wants_a_tenth_of_a_degree() -> None:
    """A transmitter 11.1 km away: 19 m to the side turn it by a tenth of a degree. A satellite's
    bearing turns by less than a degree for each degree that the place moves: some 8 km."""
    assert _coarse("50.0001 10.0001", targets=(MAST,)) is None
    said = _coarse("50.001 10.001", targets=(MAST,))
    assert said is not None
    assert said.gauge is not None
    _, distance = bearing_and_distance(LAT, LON, 50.1, 10.0)
    assert said.gauge.high == pytest.approx(float(distance) * math.tan(math.radians(0.1)), rel=1e-3)
    assert _coarse("50.00 10.00", targets=(SAT,)) is None
    far = _coarse("50.0 10.0", good=12_000, targets=(SAT,))
    assert far is not None
    assert far.gauge is not None
    # The limit itself: moved by so much, no direction turns the bearing by more than a tenth.
    limit_deg = (far.gauge.high or 0) / 111.195
    here = float(look(LAT, LON, 6.0, 20.0).azimuth_deg)
    turns = [
        abs(
            float(
                look(
                    LAT + a * limit_deg,
                    LON + b * limit_deg / math.cos(math.radians(LAT)),
                    6.0,
                    20.0,
                ).azimuth_deg
            )
            - here
        )
        for a, b in ((1, 0), (-1, 0), (0, 1), (0, -1))
    ]
    assert max(turns) == pytest.approx(0.1, rel=0.02)


def test_one_problem_names_all_it_is_too_coarse_for_and_nothing_without_a_target() -> None:
    said = _coarse("50 10", targets=(SAT, MAST))
    assert said is not None
    assert "Alder Top" in str(said.limit)
    assert "Corvus" in str(said.limit)
    assert _coarse("50 10") is None
