"""Properties of the geometry that hold at every place."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from evtro.core.job import Obstruction, Site, Target
from evtro.core.job.targets import arc, sight_of
from evtro.core.physics.beams import off_axis_loss_db
from evtro.core.physics.geodesy import (
    GEOSTATIONARY_RADIUS_M,
    bearing_and_distance,
    ecef_m,
    half_turn,
    look,
    sky_separation_deg,
)
from evtro.core.stations.site.skyline import letter, outline, silhouettes, top_deg

latitudes = st.floats(-80, 80)
longitudes = st.floats(-179, 179)


@given(latitudes, longitudes, st.floats(-60, 60), st.floats(-90, 90))
def test_turning_the_earth_changes_nothing(
    lat: float, lon: float, away: float, turn: float
) -> None:
    here = look(lat, lon, 100, lon + away)
    assume(float(here.elevation_deg) < 85)  # straight up there is no bearing
    there = look(lat, lon + turn, 100, lon + turn + away)
    off = float(here.azimuth_deg) - float(there.azimuth_deg)
    assert (off + 180) % 360 - 180 == pytest.approx(0, abs=1e-6)
    assert float(here.elevation_deg) == pytest.approx(float(there.elevation_deg), abs=1e-9)
    assert float(here.tilt_deg) == pytest.approx(float(there.tilt_deg), abs=1e-6)


@given(st.floats(0.5, 80), longitudes, st.floats(0.5, 60))
def test_east_and_west_and_north_and_south_mirror(lat: float, lon: float, away: float) -> None:
    east, west = look(lat, lon, 0, lon + away), look(lat, lon, 0, lon - away)
    assert float(east.azimuth_deg) == pytest.approx(360 - float(west.azimuth_deg), abs=1e-6)
    assert float(east.tilt_deg) == pytest.approx(-float(west.tilt_deg), abs=1e-6)
    south = look(-lat, lon, 0, lon + away)
    assert float(south.azimuth_deg) == pytest.approx(180 - float(east.azimuth_deg), abs=1e-6)
    assert float(south.elevation_deg) == pytest.approx(float(east.elevation_deg), abs=1e-9)


@given(st.floats(1, 75), longitudes)
def test_on_the_meridian_the_dish_looks_south_and_needs_no_turn(lat: float, lon: float) -> None:
    seen = look(lat, lon, 0, lon)
    assert float(seen.azimuth_deg) == pytest.approx(180, abs=1e-6)
    assert float(seen.tilt_deg) == pytest.approx(0, abs=1e-6)


@given(st.floats(1, 75), longitudes, st.floats(1, 50))
def test_west_of_south_turns_clockwise_in_the_north(lat: float, lon: float, away: float) -> None:
    assert float(look(lat, lon, 0, lon - away).tilt_deg) > 0
    assert float(look(lat, lon, 0, lon + away).tilt_deg) < 0


@given(latitudes, longitudes, st.floats(-50, 50), st.floats(-45, 45))
def test_a_satellites_own_tilt_adds(lat: float, lon: float, away: float, own: float) -> None:
    """Near enough: the axis turned in the satellite's face shows turned by as much, seen from the
    ground within a degree or two because the face is seen a little from the side."""
    assume(0 < float(look(lat, lon, 0, lon + away).elevation_deg) < 85)
    plain = float(look(lat, lon, 0, lon + away).tilt_deg)
    turned = float(look(lat, lon, 0, lon + away, own).tilt_deg)
    assert abs(float(half_turn(turned - plain - own))) < 2.0


@given(latitudes, longitudes, st.floats(0, 5000))
def test_places_lie_on_the_ellipsoid(lat: float, lon: float, height: float) -> None:
    x, y, z = ecef_m(lat, lon, 0)
    assert (x**2 + y**2) / 6378137.0**2 + z**2 / 6356752.314245**2 == pytest.approx(1, abs=1e-12)
    up = ecef_m(lat, lon, height) - ecef_m(lat, lon, 0)
    assert float(np.linalg.norm(up)) == pytest.approx(height, abs=1e-6)


@given(latitudes, longitudes)
def test_the_range_lies_between_the_nearest_and_the_horizon(lat: float, lon: float) -> None:
    seen = look(lat, lon, 0, lon)
    assume(bool(seen.visible))
    nearest = (GEOSTATIONARY_RADIUS_M - 6378137.0) / 1000
    horizon = math.sqrt(GEOSTATIONARY_RADIUS_M**2 - 6356752.0**2) / 1000
    assert nearest - 1 <= float(seen.range_km) <= horizon + 25


def test_look_takes_many_at_once() -> None:
    lat = np.linspace(-60, 60, 50)[:, None]
    orbit = np.linspace(-60, 60, 40)[None, :]
    grid = look(lat, 5.0, 0.0, orbit)
    assert grid.azimuth_deg.shape == (50, 40)
    one = look(float(lat[7, 0]), 5.0, 0.0, float(orbit[0, 9]))
    assert float(one.azimuth_deg) == pytest.approx(float(grid.azimuth_deg[7, 9]), abs=1e-12)


@given(st.floats(-720, 720))
def test_an_axis_is_reduced_to_a_half_turn(angle: float) -> None:
    reduced = float(half_turn(angle))
    assert -90 < reduced <= 90
    assert math.isclose((angle - reduced) / 180, round((angle - reduced) / 180), abs_tol=1e-9)


@given(st.floats(0, 360), st.floats(-80, 80), st.floats(0, 360), st.floats(-80, 80))
def test_separation_is_the_angle_between_vectors(
    a1: float, e1: float, a2: float, e2: float
) -> None:
    def vector(az: float, el: float) -> np.ndarray:
        a, e = math.radians(az), math.radians(el)
        return np.array([math.cos(e) * math.sin(a), math.cos(e) * math.cos(a), math.sin(e)])

    cosine = float(np.clip(vector(a1, e1) @ vector(a2, e2), -1, 1))
    assert float(sky_separation_deg(a1, e1, a2, e2)) == pytest.approx(
        math.degrees(math.acos(cosine)), abs=2e-6
    )


@given(latitudes, longitudes, st.floats(-1, 1), st.floats(-1, 1))
def test_there_and_back_is_as_far(lat: float, lon: float, dlat: float, dlon: float) -> None:
    assume(abs(dlat) + abs(dlon) > 1e-3)
    _, out = bearing_and_distance(lat, lon, lat + dlat, lon + dlon)
    _, back = bearing_and_distance(lat + dlat, lon + dlon, lat, lon)
    assert float(out) == pytest.approx(float(back), abs=1e-9)


def test_half_a_beamwidth_costs_three_decibels() -> None:
    """The definition of the half-power width."""
    assert float(off_axis_loss_db(1.1, 2.2)) == pytest.approx(3.0)
    assert float(off_axis_loss_db(0.0, 2.2)) == 0.0


def test_the_arc_is_highest_toward_the_equator() -> None:
    north = arc(Site(latitude_deg=53.5, longitude_deg=-10, height_m=0))
    south = arc(Site(latitude_deg=-37.2, longitude_deg=146.7, height_m=0))
    assert max(north, key=lambda p: p[2])[1] == pytest.approx(180, abs=1)
    assert min(max(south, key=lambda p: p[2])[1] % 360, 360) == pytest.approx(0, abs=1.5) or max(
        south, key=lambda p: p[2]
    )[1] == pytest.approx(360, abs=1.5)
    assert arc(Site()) == []


@pytest.mark.parametrize("kind", ["ridge", "gable", "crowns", "block"])
@given(top=st.floats(1, 60), start=st.floats(0, 359), width=st.floats(1, 90))
def test_no_outline_stands_above_its_top(kind: str, top: float, start: float, width: float) -> None:
    row = Obstruction(
        id="b1", name="x", outline=kind, from_deg=start, to_deg=(start + width) % 360, top_deg=top
    )
    points = outline(row, 6.0)
    assert points[:, 1].max() <= top + 1e-9
    assert points[:, 1].max() >= 0.9 * top
    assert points[0, 0] == pytest.approx(start)
    assert points[-1, 0] - points[0, 0] == pytest.approx(width, abs=1e-6)


@given(st.floats(1, 60), st.floats(2, 500), st.floats(0, 20))
def test_a_measured_angle_is_kept_at_the_height_it_was_measured(
    top: float, away: float, raised: float
) -> None:
    row = Obstruction(
        id="b1", name="x", from_deg=0, to_deg=5, top_deg=top, distance_m=away, seen_from_m=6
    )
    assert top_deg(row, 6.0) == pytest.approx(top)
    assert top_deg(row, 6.0 + raised) <= top + 1e-9


def test_letters_go_on_after_z() -> None:
    assert [letter(i) for i in (0, 25, 26, 27, 52)] == ["A", "Z", "AA", "AB", "BA"]
    assert silhouettes((), 6) == []


def test_a_target_without_a_place_has_no_direction() -> None:
    site = Site(latitude_deg=50, longitude_deg=5)
    assert sight_of(site, Target(id="t1", kind="satellite", name="s")) is None
    assert sight_of(site, Target(id="t1", kind="transmitter", name="s")) is None
    assert sight_of(Site(), Target(id="t1", kind="satellite", name="s", orbit_deg_e=5)) is None
