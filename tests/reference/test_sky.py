"""Directions against an astronomy library, a geodetic library and another magnetic model."""

from __future__ import annotations

import datetime as dt
import math
import warnings

import astropy.units as u
import numpy as np
import pytest
from astropy.coordinates import ITRS, AltAz, EarthLocation
from astropy.time import Time
from astropy.utils import iers
from geographiclib.geodesic import Geodesic
from wmm import wmm_calc

from evtro.core.physics.geodesy import GEOSTATIONARY_RADIUS_M, bearing_and_distance, half_turn, look
from evtro.core.physics.magnetism import declination_deg
from evtro.core.units.quantities import InputError

iers.conf.auto_download = False
warnings.filterwarnings("ignore", module="astropy")

# Latitudes and longitudes over both hemispheres, heights from the coast to high country.
PLACES = [
    (lat, lon, height)
    for lat, height in ((78.2, 100), (70.5, 8), (64.1, 15), (53.5, 14), (40.4, 667), (32.6, 40), (21.3, 3), (4.7, 2600),
                        (-0.2, 2850), (-18.1, 6), (-33.9, 40), (-54.8, 20))
    for lon in (-170.0, -71.5, 0.3, 46.0, 151.2)
]  # fmt: skip


def _astropy_direction(
    lat: float, lon: float, height: float, orbit: float, raise_m: float = 0.0
) -> tuple[float, float, float]:
    """Azimuth, elevation [deg] and range [km] by astropy's ITRS to AltAz, which for a topocentric
    ITRS vector is pure geometry on WGS-84."""
    when = Time("2026-03-25T12:00:00")
    place = EarthLocation.from_geodetic(lon * u.deg, lat * u.deg, height * u.m)
    angle = math.radians(orbit)
    satellite = np.array(
        [
            GEOSTATIONARY_RADIUS_M * math.cos(angle),
            GEOSTATIONARY_RADIUS_M * math.sin(angle),
            raise_m,
        ]
    )
    site = np.array([place.x.to_value(u.m), place.y.to_value(u.m), place.z.to_value(u.m)])
    line = satellite - site
    topocentric = ITRS(*(line * u.m), obstime=when, location=place)
    seen = topocentric.transform_to(AltAz(obstime=when, location=place))
    return seen.az.deg, seen.alt.deg, float(np.linalg.norm(line)) / 1000


@pytest.mark.parametrize(("lat", "lon", "height"), PLACES)
def test_look_angles_agree_with_astropy(lat: float, lon: float, height: float) -> None:
    """60 places, three satellites each: astropy 8 (astropy.org), its own ellipsoid and frames."""
    for away in (-38.0, 4.0, 55.0):
        orbit = (lon + away + 180) % 360 - 180
        mine = look(lat, lon, height, orbit)
        az, el, km = _astropy_direction(lat, lon, height, orbit)
        assert (float(mine.azimuth_deg) - az + 180) % 360 - 180 == pytest.approx(0, abs=0.002)
        assert float(mine.elevation_deg) == pytest.approx(el, abs=0.002)
        assert float(mine.range_km) == pytest.approx(km, abs=0.1)


@pytest.mark.parametrize(("lat", "lon", "height"), PLACES)
def test_tilt_is_the_direction_of_the_satellites_axis_on_the_sky(
    lat: float, lon: float, height: float
) -> None:
    """Two points 5 km up and down the V axis: the direction between them as astropy sees it."""
    orbit = (lon + 21.0 + 180) % 360 - 180
    az0, el0, _ = _astropy_direction(lat, lon, height, orbit, raise_m=-5_000)
    az1, el1, _ = _astropy_direction(lat, lon, height, orbit, raise_m=5_000)
    right = ((az1 - az0 + 180) % 360 - 180) * math.cos(math.radians((el0 + el1) / 2))
    wanted = float(half_turn(math.degrees(math.atan2(right, el1 - el0))))
    mine = float(look(lat, lon, height, orbit).tilt_deg)
    # Near the equator the tilt wraps at 90: compare as an axis.
    assert float(half_turn(mine - wanted)) == pytest.approx(0, abs=0.01)


# Site, orbit: azimuth, elevation, range, tilt. Three independent geodetic libraries agree.
KNOWN = [
    (40.4168, -3.7038, 667, -30.0, 217.337, 36.041, 38088.26, 27.68),
    (51.50, -0.12, 30, 19.2, 155.8546, 28.3550, 38751.93, -14.878),
    (-33.87, 151.21, 40, 156.0, 8.5580, 50.3163, 37052.97, 7.130),
    (-33.92, 18.42, 25, 68.5, 65.0000, 24.2612, 39136.94, 49.040),
    (-18.14, 178.44, 6, -177.0, 14.3817, 68.0958, 36177.32, 13.673),
    (78.22, 15.65, 100, 13.0, 182.7075, 3.1083, 41330.31, 0.559),
]


@pytest.mark.parametrize("row", KNOWN)
def test_known_look_angles(row: tuple[float, ...]) -> None:
    lat, lon, height, orbit, az, el, km, tilt = row
    mine = look(lat, lon, height, orbit)
    assert float(mine.azimuth_deg) == pytest.approx(az, abs=0.001)
    assert float(mine.elevation_deg) == pytest.approx(el, abs=0.001)
    assert float(mine.range_km) == pytest.approx(km, abs=0.01)
    assert float(mine.tilt_deg) == pytest.approx(tilt, abs=0.01)


def test_below_the_horizon_is_a_result() -> None:
    mine = look(52.37, 4.90, 0, 105.5)
    assert not mine.visible
    assert float(mine.azimuth_deg) == pytest.approx(81.54, abs=0.01)
    assert float(mine.elevation_deg) == pytest.approx(-14.84, abs=0.01)


@pytest.mark.parametrize(("lat", "lon", "height"), PLACES)
def test_declination_agrees_with_another_model_program(
    lat: float, lon: float, height: float
) -> None:
    """wmm-calculator (pypi.org), its own synthesis of the WMM-2025 coefficients."""
    for day in (dt.date(2025, 3, 1), dt.date(2027, 12, 25)):
        other = wmm_calc()
        other.setup_time(*(np.array([n]) for n in (day.year, day.month, day.day)))
        other.setup_env(np.array([lat]), np.array([lon]), np.array([height / 1000]))
        wanted = float(other.get_all()["dec"][0])
        assert declination_deg(lat, lon, height, day) == pytest.approx(wanted, abs=0.005)


def test_known_declinations() -> None:
    """Two values of WMM-2025, given with the model's own calculator."""
    assert declination_deg(40.71, -74.0, 10, dt.date(2026, 4, 1)) == pytest.approx(
        -12.487, abs=0.005
    )
    assert declination_deg(-41.29, 174.78, 20, dt.date(2027, 12, 25)) == pytest.approx(
        23.382, abs=0.005
    )


@pytest.mark.parametrize("day", [dt.date(2024, 12, 31), dt.date(2030, 1, 1)])
def test_a_date_outside_the_model_is_told(day: dt.date) -> None:
    with pytest.raises(InputError, match="2025 to 2029"):
        declination_deg(50, 0, 0, day)


@pytest.mark.parametrize(("lat", "lon", "height"), PLACES[::3])
def test_distance_and_bearing_agree_with_geographiclib(
    lat: float, lon: float, height: float
) -> None:
    """geographiclib (pypi.org), Karney's own implementation in Python."""
    for to_lat, to_lon in ((lat + 0.31, lon + 0.42), (lat - 1.2, lon - 0.05)):
        bearing, km = bearing_and_distance(lat, lon, to_lat, to_lon)
        other = Geodesic.WGS84.Inverse(lat, lon, to_lat, to_lon)
        assert float(bearing) == pytest.approx(other["azi1"] % 360, abs=1e-6)
        assert float(km) == pytest.approx(other["s12"] / 1000, abs=1e-6)


def test_figures_in_use_for_a_city_are_within_half_a_degree() -> None:
    """217.67, 35.98 and 27.77 degrees at 40.4168 N 3.7038 W for 30 W (common practice, no source);
    three libraries agree on 217.34, 36.04 and 27.68."""
    found = look(40.4168, -3.7038, 667.0, -30.0)
    assert float(found.azimuth_deg) == pytest.approx(217.67, abs=0.5)
    assert float(found.elevation_deg) == pytest.approx(35.98, abs=0.5)
    assert float(found.tilt_deg) == pytest.approx(27.77, abs=0.5)
