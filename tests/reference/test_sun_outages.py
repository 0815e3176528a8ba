"""Days, moments and durations of sun outages against an astronomy library, most near the equator."""

from __future__ import annotations

import datetime as dt
import warnings
from functools import lru_cache

import numpy as np
import pytest
from astropy.coordinates import TETE, get_sun
from astropy.time import Time
from astropy.utils import iers
from scipy.interpolate import CubicSpline

from evtro.core.physics.geodesy import look
from evtro.core.physics.sun import passings

iers.conf.auto_download = False
iers.conf.auto_max_age = None
warnings.filterwarnings("ignore", module="astropy")

YEAR = 2026
STEP_S = 20.0
# Place and orbit: fifteen within 10° of the equator, half of them with the satellite overhead.
NEAR = [
    (0.0, 19.2, 19.2),
    (0.5, 19.2, 19.2),
    (-0.4, 103.8, 105.5),
    (1.3, 103.8, 103.0),
    (4.9, 114.9, 115.5),
    (-4.3, 15.3, 16.0),
    (-6.2, 106.8, 108.2),
    (9.0, 38.7, 52.5),
    (3.1, 101.7, 91.5),
    (-1.3, 36.8, 36.0),
    (6.5, 3.4, -5.0),
    (-9.4, 147.2, 156.0),
    (-3.1, -60.0, -61.0),
    (-0.2, -78.5, -30.0),
    (8.5, -13.2, 40.0),
]
FAR = [
    (53.5, -10.0, 28.2),
    (51.5, -0.1, 19.2),
    (40.4, -3.7, -30.0),
    (48.1, 11.6, 13.0),
    (60.2, 24.9, 5.0),
    (37.2, -3.6, 39.0),
    (30.0, 31.2, -7.0),
    (21.3, -157.9, -177.0),
    (-17.6, 168.2, 172.0),
    (-33.9, 151.2, 156.0),
    (-41.3, 174.8, 160.0),
    (-26.2, 28.0, 68.5),
    (35.7, 139.7, 110.0),
    (-51.7, -57.9, -61.0),
    (13.1, -59.6, -43.0),
]
WITHIN_DEG = 1.4
HALF_HOUR = 1800 // int(STEP_S)


@lru_cache
def _year() -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Unix seconds each 20 s, Greenwich hour angle and declination of the sun [deg]: by astropy each
    third hour, between these by a cubic spline (1e-6 deg)."""
    start = dt.datetime(YEAR, 1, 1, tzinfo=dt.UTC).timestamp()
    hours = start + np.arange(0, 365 * 86400 + 1, 3 * 3600.0)
    when = Time(hours, format="unix")
    seen = get_sun(when).transform_to(TETE(obstime=when))
    angle = np.unwrap(when.sidereal_time("apparent", "greenwich").deg - seen.ra.deg, period=360.0)
    # In three hours the angle grows by 45 degrees, which the unwrapping keeps.
    seconds = np.arange(hours[0], hours[-1], STEP_S)
    return seconds, CubicSpline(hours, angle)(seconds), CubicSpline(hours, seen.dec.deg)(seconds)


def _separation(
    lat: float, lon: float, az: float, el: float, hour: np.ndarray, dec: np.ndarray
) -> np.ndarray:
    """Between the sun and a direction, both as vectors of the place."""
    h, d, p = np.radians(hour + lon), np.radians(dec), np.radians(lat)
    up = np.sin(p) * np.sin(d) + np.cos(p) * np.cos(d) * np.cos(h)
    north = np.cos(p) * np.sin(d) - np.sin(p) * np.cos(d) * np.cos(h)
    east = -np.cos(d) * np.sin(h)
    a, e = np.radians(az), np.radians(el)
    dot = up * np.sin(e) + north * np.cos(e) * np.cos(a) + east * np.cos(e) * np.sin(a)
    return np.degrees(np.arccos(np.clip(dot, -1, 1)))


@pytest.mark.parametrize(("lat", "lon", "orbit"), NEAR + FAR)
def test_days_moments_and_minutes_of_outages(lat: float, lon: float, orbit: float) -> None:
    """Every day on which astropy's sun comes within 1.4°, and no other; the moment to 20 s, the
    nearest distance to 0.05°, the duration to 0.7 minutes where the sun passes well inside."""
    seen = look(lat, lon, 0.0, orbit)
    az, el = float(seen.azimuth_deg), float(seen.elevation_deg)
    found = {p.day: p for p in passings(lat, lon, az, el, YEAR, WITHIN_DEG)}
    seconds, hour, dec = _year()
    # In half an hour the sun moves by 7.5 degrees: far from it no second is looked at.
    coarse = _separation(lat, lon, az, el, hour[::HALF_HOUR], dec[::HALF_HOUR])
    close = np.repeat(coarse < 10, HALF_HOUR)[: len(hour)]
    apart = np.full(len(hour), 180.0)
    apart[close] = _separation(lat, lon, az, el, hour[close], dec[close])
    inside = np.flatnonzero(apart <= WITHIN_DEG)
    days = {}
    for block in np.split(inside, np.flatnonzero(np.diff(inside) > 1) + 1):
        k = block[apart[block].argmin()]
        day = dt.datetime.fromtimestamp(float(seconds[k]), dt.UTC).date()
        days[day] = (float(seconds[k]), float(apart[k]), len(block) * STEP_S / 60)
    # Two seasons, about the equinoxes, on either side of the equator.
    assert {d.month for d in days} <= {2, 3, 4, 8, 9, 10, 11}
    assert len({d.month > 6 for d in days}) == 2
    sure = {d for d, (_, s, _) in days.items() if s < WITHIN_DEG - 0.02}
    assert sure <= set(found)
    assert set(found) <= set(days) | {
        d for d, p in found.items() if p.separation_deg > WITHIN_DEG - 0.02
    }
    for day in sure:
        at, apart_deg, minutes = days[day]
        assert found[day].at_s == pytest.approx(at, abs=20)
        assert found[day].separation_deg == pytest.approx(apart_deg, abs=0.05)
        if apart_deg < WITHIN_DEG - 0.2:
            assert found[day].minutes == pytest.approx(minutes, abs=0.7)
