"""The sun against an astronomy library."""

from __future__ import annotations

import datetime as dt
import math
import warnings

import astropy.units as u
import numpy as np
import pytest
from astropy.coordinates import AltAz, EarthLocation, get_sun
from astropy.time import Time
from astropy.utils import iers

from evtro.core.physics.geodesy import look
from evtro.core.physics.sun import midnight_s, passings, sun, times_at_azimuth, track

iers.conf.auto_download = False
iers.conf.auto_max_age = None
warnings.filterwarnings("ignore", module="astropy")

PLACES = [
    (lat, lon)
    for lat, lon in (
        (69.6, 18.9), (64.1, -21.9), (60.2, 24.9), (53.5, -10.0), (51.5, -0.1), (48.1, 11.6),
        (40.7, -74.0), (37.2, -3.6), (35.7, 139.7), (30.0, 31.2), (21.3, -157.9), (13.1, -59.6),
        (1.3, 103.8), (-4.3, 15.3), (-12.0, -77.0), (-17.6, 168.2), (-26.2, 28.0), (-33.9, 151.2),
        (-41.3, 174.8), (-51.7, -57.9),
    )
]  # fmt: skip


def _astropy(lat: float, lon: float, seconds: float) -> tuple[float, float]:
    """Azimuth and elevation by astropy (astropy.org): its own ephemeris, precession and nutation."""
    place = EarthLocation.from_geodetic(lon * u.deg, lat * u.deg, 0 * u.m)
    when = Time(seconds, format="unix")
    seen = get_sun(when).transform_to(AltAz(obstime=when, location=place, pressure=0 * u.hPa))
    return float(seen.az.deg), float(seen.alt.deg)


@pytest.mark.parametrize(("lat", "lon"), PLACES)
def test_the_moment_at_a_bearing_is_right_to_20_seconds(lat: float, lon: float) -> None:
    """20 places: when the sun stands at a bearing, astropy sees it there less than 20 s away.

    Left out are moments in the tropics when its bearing stands nearly still, by less than a tenth
    of a degree in a minute: there no clock is needed, and no clock helps.
    """
    day = dt.date(2026, 5, 9)
    start = midnight_s(day)
    hours = np.arange(0, 24, 0.5)
    az, el = sun(lat, lon, start + hours * 3600)
    for i in np.flatnonzero(el > 12)[::4]:
        wanted = float(az[i])
        nearby, _ = sun(lat, lon, start + hours[i] * 3600 + np.array([-60.0, 60.0]))
        if abs((nearby[1] - nearby[0] + 180) % 360 - 180) < 0.2:
            continue
        moments = times_at_azimuth(lat, lon, day, wanted)[0]
        moment = min((m for m, _ in moments), key=lambda m: abs(m - start - hours[i] * 3600))
        before, _ = _astropy(lat, lon, moment - 20)
        after, _ = _astropy(lat, lon, moment + 20)
        a, b = (((x - wanted + 180) % 360) - 180 for x in (before, after))
        assert a * b < 0, f"outside 20 s: {a:.4f} {b:.4f}"


@pytest.mark.parametrize(("lat", "lon"), PLACES[::3])
@pytest.mark.parametrize("month", [1, 3, 6, 9, 12])
def test_the_sun_stands_where_astropy_has_it(lat: float, lon: float, month: int) -> None:
    """0.015° in elevation and along the bearing, through the year."""
    for hour in (0.0, 7.3, 13.9, 19.1):
        seconds = midnight_s(dt.date(2028, month, 17)) + hour * 3600
        az, el = sun(lat, lon, seconds)
        real_az, real_el = _astropy(lat, lon, seconds)
        assert float(el) == pytest.approx(real_el, abs=0.015)
        along = ((float(az) - real_az + 180) % 360 - 180) * math.cos(math.radians(real_el))
        assert along == pytest.approx(0, abs=0.015)


def test_an_outage_is_when_the_sun_stands_behind_the_satellite() -> None:
    """The middle of the longest outage: astropy has the sun within 0.35° of the satellite."""
    lat, lon = 53.4805, -9.9720
    seen = look(lat, lon, 20.0, 28.0)
    az, el = float(seen.azimuth_deg), float(seen.elevation_deg)
    found = passings(lat, lon, az, el, 2026, 1.3)
    months = {p.day.month for p in found}
    assert months == {2, 3, 10}
    best = min(found, key=lambda p: p.separation_deg)
    real_az, real_el = _astropy(lat, lon, best.at_s)
    assert math.hypot((real_az - az) * math.cos(math.radians(el)), real_el - el) < 0.35
    assert best.minutes == pytest.approx(
        2 * math.sqrt(1.3**2 - best.separation_deg**2) / 0.2507, abs=1.0
    )


def test_no_outage_where_the_sun_never_goes() -> None:
    assert passings(53.5, -10.0, 0.0, 40.0, 2026, 1.0) == []
    assert passings(53.5, -10.0, 180.0, -3.0, 2026, 1.0) == []


def test_polar_night_and_midnight_sun() -> None:
    assert track(78.2, 15.6, dt.date(2026, 12, 21)) == []
    assert len(track(78.2, 15.6, dt.date(2026, 6, 21))) == 96
    assert times_at_azimuth(78.2, 15.6, dt.date(2026, 12, 21), [180.0]) == [[]]
