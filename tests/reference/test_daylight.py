"""Sunrise and sunset against astropy (its own ephemeris and frames): the centre of the sun 0.833 degrees below
the horizon, by the Nautical Almanac's convention, from memory."""

from __future__ import annotations

import datetime as dt

import astropy.units as u
import numpy as np
import pytest
from astropy.coordinates import AltAz, EarthLocation, get_sun
from astropy.time import Time
from astropy.utils import iers

from evtro.core.day.weather import light

iers.conf.auto_download = False


@pytest.mark.parametrize(
    ("latitude", "longitude"), [(53.48, -9.97), (-37.2, 146.7), (0.0, 30.0), (58.0, 25.0)]
)
@pytest.mark.parametrize("day", [dt.date(2026, 1, 12), dt.date(2026, 4, 14), dt.date(2026, 9, 30)])
def test_it_is_light_when_astropy_says_so(latitude: float, longitude: float, day: dt.date) -> None:
    # A clock of the place's own longitude, so that neither falls behind midnight.
    offset = round(longitude / 15) * 60
    rises, sets = light(latitude, longitude, day, offset)
    assert rises is not None
    assert sets is not None
    minutes, seen = np.arange(0, 1440, 1.0), np.arange(0, 1444, 4.0)
    start = Time(dt.datetime(day.year, day.month, day.day)) - offset * u.min
    times = start + seen * u.min
    where = EarthLocation(lat=latitude * u.deg, lon=longitude * u.deg)
    high = get_sun(times).transform_to(AltAz(obstime=times, location=where)).alt.deg
    # Over four minutes the sun's height is a straight line to 0.003 degrees.
    high = np.interp(minutes, seen, high)
    up = np.flatnonzero(high > -0.833)
    assert rises == pytest.approx(minutes[up[0]], abs=1.2)
    assert sets == pytest.approx(minutes[up[-1]], abs=1.2)
