"""Grids and codes of places against their own libraries and published examples."""

from __future__ import annotations

import mgrs
import numpy as np
import pytest
from openlocationcode import openlocationcode
from pyproj import Proj

from evtro.core.stations.site.position import read_position


# Examples of the Open Location Code specification's test data (encoding.csv, from memory).
@pytest.mark.parametrize(
    ("code", "lat", "lon"),
    [
        ("7FG49Q00+", 20.375, 2.775),
        ("7FG49QCJ+2V", 20.3700625, 2.7821875),
        ("8FVC2222+22", 47.0000625, 8.0000625),
        ("4VCPPQGP+Q9", -41.2730625, 174.7859375),
    ],
)
def test_plus_codes_of_the_specification(code: str, lat: float, lon: float) -> None:
    found = read_position(code)
    assert (found.latitude_deg, found.longitude_deg) == pytest.approx((lat, lon), abs=1e-7)


def test_plus_codes_against_the_library() -> None:
    rng = np.random.default_rng(1)
    for lat, lon in zip(rng.uniform(-89, 89, 300), rng.uniform(-180, 180, 300), strict=True):
        area = openlocationcode.decode(openlocationcode.encode(lat, lon, 11))
        found = read_position(openlocationcode.encode(lat, lon, 11))
        assert found.latitude_deg == pytest.approx(area.latitudeCenter, abs=1e-9)
        assert found.longitude_deg == pytest.approx(area.longitudeCenter, abs=1e-9)


# Vectors of the mgrs library's own tests (from memory): a square and its corner.
@pytest.mark.parametrize(
    ("square", "lat", "lon"),
    [("15SWC8081751205", 38.4054, -92.0744), ("24XWT783908", 83.627, -32.664)],
)
def test_mgrs_against_the_library(square: str, lat: float, lon: float) -> None:
    corner = mgrs.MGRS().toLatLon(square)
    assert corner == pytest.approx((lat, lon), abs=1e-3)
    found = read_position(square)
    digits = sum(c.isdigit() for c in square[2:]) // 2
    cell_deg = 10 ** (5 - digits) / 111_195
    assert abs(found.latitude_deg - corner[0]) <= cell_deg
    assert abs(found.longitude_deg - corner[1]) <= cell_deg / np.cos(np.radians(lat))


def test_utm_against_the_projection_itself() -> None:
    """PROJ's own transverse Mercator, zone by zone, both hemispheres."""
    rng = np.random.default_rng(2)
    bands = "CDEFGHJKLMNPQRSTUVWX"
    for lat, lon in zip(rng.uniform(-79, 83, 120), rng.uniform(-180, 180, 120), strict=True):
        zone = int((lon + 180) // 6) + 1
        east, north = Proj(proj="utm", zone=zone, ellps="WGS84", south=lat < 0)(lon, lat)
        band = bands[min(int((lat + 80) // 8), 19)]
        name = ("north" if lat >= 0 else "south") if band == "S" else band
        found = read_position(f"{zone}{name} {east:.2f} {north:.2f}")
        assert found.latitude_deg == pytest.approx(lat, abs=2e-7)
        assert found.longitude_deg == pytest.approx(lon, abs=2e-6)
        assert found.good_to_m < 0.01
