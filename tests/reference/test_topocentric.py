"""Directions to satellites by the PROJ library: geocentric coordinates and its own topocentric
conversion (EPSG Guidance Note 7-2, methods 9602 and 9836), another way than the one in the core."""

from __future__ import annotations

import math

import numpy as np
import pytest
from pyproj import Transformer

from evtro.core.job import Site, Target
from evtro.core.job.targets import arc, radio_horizon_km, sight_of
from evtro.core.physics.geodesy import ecef_m, look

ORBIT_M = 42_164_170.0
GEOCENTRIC = Transformer.from_crs("EPSG:4979", "EPSG:4978", always_xy=True)


def _by_proj(lat: float, lon: float, height: float, orbit: float) -> tuple[float, float, float]:
    """Azimuth, elevation [deg] and range [km] by PROJ."""
    pipeline = f"+proj=pipeline +step +proj=topocentric +ellps=WGS84 +lon_0={lon!r} +lat_0={lat!r} +h_0={height!r}"
    angle = math.radians(orbit)
    east, north, up = Transformer.from_pipeline(pipeline).transform(
        ORBIT_M * math.cos(angle), ORBIT_M * math.sin(angle), 0.0
    )
    distance = math.sqrt(east**2 + north**2 + up**2)
    return (
        math.degrees(math.atan2(east, north)) % 360,
        math.degrees(math.asin(up / distance)),
        distance / 1000,
    )


def _places(count: int) -> list[tuple[float, float, float, float]]:
    random = np.random.default_rng(26)
    return [
        (float(lat), float(lon), float(h), float((lon + away + 180) % 360 - 180))
        for lat, lon, h, away in zip(
            random.uniform(-80, 80, count),
            random.uniform(-180, 180, count),
            random.uniform(-400, 5000, count),
            random.uniform(-75, 75, count),
            strict=True,
        )
    ]


def test_geocentric_coordinates_at_many_places() -> None:
    for lat, lon, height, _ in _places(200):
        theirs = GEOCENTRIC.transform(lon, lat, height)
        assert ecef_m(lat, lon, height) == pytest.approx(np.array(theirs), abs=1e-6)


def test_look_angles_at_many_places() -> None:
    rows = _places(120)
    mine = look(*(np.array(v) for v in zip(*rows, strict=True)))
    for i, row in enumerate(rows):
        azimuth, elevation, distance = _by_proj(*row)
        apart = (float(mine.azimuth_deg[i]) - azimuth + 180) % 360 - 180
        assert apart * math.cos(math.radians(elevation)) == pytest.approx(0, abs=1e-7)
        assert float(mine.elevation_deg[i]) == pytest.approx(elevation, abs=1e-7)
        assert float(mine.range_km[i]) == pytest.approx(distance, abs=1e-6)


def test_the_polarisation_tilt_as_two_points_of_the_axis_seen_through_proj() -> None:
    """A little north and a little south of the satellite: the line between them as it is seen."""
    for lat, lon, height, orbit in _places(60):
        if abs(lat) < 2 and abs((orbit - lon + 180) % 360 - 180) < 2:
            continue  # straight below, where any tilt is as good
        pipeline = f"+proj=pipeline +step +proj=topocentric +ellps=WGS84 +lon_0={lon!r} +lat_0={lat!r} +h_0={height!r}"
        to_here = Transformer.from_pipeline(pipeline)
        angle = math.radians(orbit)
        seen = [
            np.array(to_here.transform(ORBIT_M * math.cos(angle), ORBIT_M * math.sin(angle), z))
            for z in (-2000.0, 2000.0)
        ]
        ahead = (seen[0] + seen[1]) / 2
        ahead /= np.linalg.norm(ahead)
        right = np.cross(ahead, [0.0, 0.0, 1.0])
        right /= np.linalg.norm(right)
        upward = np.cross(right, ahead)
        axis = seen[1] - seen[0]
        tilt = math.degrees(math.atan2(float(axis @ right), float(axis @ upward)))
        mine = float(look(lat, lon, height, orbit).tilt_deg)
        assert math.sin(math.radians(tilt - mine)) == pytest.approx(0, abs=2e-5)


def test_the_arc_is_the_satellites_side_by_side() -> None:
    site = Site(latitude_deg=47.2, longitude_deg=8.1, height_m=420.0)
    rows = arc(site)
    assert len(rows) > 100
    for orbit, azimuth, elevation in rows[::7]:
        theirs = _by_proj(47.2, 8.1, 420.0, orbit)
        assert azimuth == pytest.approx(theirs[0], abs=1e-6)
        assert elevation == pytest.approx(theirs[1], abs=1e-6)
    assert [r[0] for r in rows] == sorted(r[0] for r in rows)


def test_transmitters_stand_as_high_as_the_curved_earth_lets_them() -> None:
    """Over an earth of 4/3 radius: the drop of the horizon is d² / 2R, the angle half the arc less."""
    for km, height in ((5.0, 300.0), (24.0, 512.0), (60.0, 900.0), (90.0, 1500.0)):
        site = Site(latitude_deg=57.0, longitude_deg=-4.5, height_m=60.0, mount_height_m=10.0)
        mast = Target(
            id="t1",
            kind="transmitter",
            name="M",
            latitude_deg=57.0 + km / 111.36,
            longitude_deg=-4.5,
            height_m=height,
        )
        seen = sight_of(site, mast)
        assert seen is not None
        radius = 6371.0 * 4 / 3 * 1000
        drop = (seen.distance_km * 1000) ** 2 / (2 * radius)
        by_triangle = math.degrees(math.atan2(height - 70.0 - drop, seen.distance_km * 1000))
        assert seen.elevation_deg == pytest.approx(by_triangle, abs=0.01)
        assert seen.azimuth_deg == pytest.approx(0.0, abs=1e-6)


@pytest.mark.parametrize(("low", "high"), [(10, 300), (70, 512), (2, 50), (0, 400)])
def test_the_radio_horizon_by_geometry(low: float, high: float) -> None:
    """sqrt(2 R h) from both ends, R 4/3 of the earth's; the round figure 4.12 is a part in 1000 off."""
    radius = 6371.0 * 4 / 3
    exact = math.sqrt(2 * radius * low / 1000) + math.sqrt(2 * radius * high / 1000)
    assert radio_horizon_km(low, high) == pytest.approx(exact, rel=2e-3)
