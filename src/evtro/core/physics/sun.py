"""The sun as a tool: where it stands, when it stands at a bearing, when it passes a satellite."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from .geodesy import Floats, full_turn, sky_separation_deg

SUN_RADIUS_DEG = 0.2666  # mean angular radius, 959.6" (IAU value, from memory)
_DELTA_T_S = 69.2  # terrestrial minus universal time in 2025 to 2030, within a second or two


@dataclass(frozen=True)
class Passing:
    """The sun passing a place in the sky: its nearest moment [unix s], how near [deg], and for how
    many minutes it stays inside the asked circle."""

    day: dt.date
    at_s: float
    separation_deg: float
    minutes: float


def sun(
    latitude_deg: ArrayLike, longitude_deg: ArrayLike, unix_s: ArrayLike
) -> tuple[Floats, Floats]:
    """Azimuth from true north and elevation of the sun's centre [deg], without refraction.

    All parameters broadcast; `unix_s` is universal time. Good to about 0.01°.
    Reference: J. Meeus, Astronomical Algorithms, 2nd ed., chapters 12 and 25, low accuracy.
    """
    universal = np.asarray(unix_s, float) / 86400.0 + 2440587.5 - 2451545.0
    t = (universal + _DELTA_T_S / 86400.0) / 36525.0
    mean = 280.46646 + t * (36000.76983 + 0.0003032 * t)
    anomaly = np.radians(357.52911 + t * (35999.05029 - 0.0001537 * t))
    centre = (
        (1.914602 - t * (0.004817 + 0.000014 * t)) * np.sin(anomaly)
        + (0.019993 - 0.000101 * t) * np.sin(2 * anomaly)
        + 0.000289 * np.sin(3 * anomaly)
    )
    node = np.radians(125.04 - 1934.136 * t)
    ecliptic = np.radians(mean + centre - 0.00569 - 0.00478 * np.sin(node))
    tilt = np.radians(23.439291 - 0.0130042 * t + 0.00256 * np.cos(node))
    ascension = np.arctan2(np.cos(tilt) * np.sin(ecliptic), np.cos(ecliptic))
    declination = np.arcsin(np.sin(tilt) * np.sin(ecliptic))
    sidereal = 280.46061837 + 360.98564736629 * universal + 0.000387933 * (universal / 36525) ** 2
    sidereal = sidereal - 0.00478 * np.sin(node) * np.cos(tilt)
    hour = np.radians(sidereal + np.asarray(longitude_deg, float)) - ascension
    lat = np.radians(np.asarray(latitude_deg, float))
    up = np.sin(lat) * np.sin(declination) + np.cos(lat) * np.cos(declination) * np.cos(hour)
    north = np.cos(lat) * np.sin(declination) - np.sin(lat) * np.cos(declination) * np.cos(hour)
    east = -np.cos(declination) * np.sin(hour)
    elevation = np.degrees(np.arcsin(np.clip(up, -1, 1)))
    # The sun is near enough for a parallax of 8.8 seconds of arc.
    return full_turn(np.degrees(np.arctan2(east, north))), elevation - 0.00244 * np.sqrt(1 - up**2)


def midnight_s(day: dt.date) -> float:
    """Unix time of the beginning of a day, UTC [s]."""
    return dt.datetime(day.year, day.month, day.day, tzinfo=dt.UTC).timestamp()


def track(
    latitude_deg: float, longitude_deg: float, day: dt.date
) -> list[tuple[float, float, float]]:
    """The sun above the horizon through a day: rows of hour UTC, azimuth, elevation [deg], each
    quarter of an hour."""
    hours = np.arange(0, 24, 0.25)
    az, el = sun(latitude_deg, longitude_deg, midnight_s(day) + hours * 3600)
    up = el > -0.9
    return [
        (float(h), float(a), float(e)) for h, a, e in zip(hours[up], az[up], el[up], strict=True)
    ]


def times_at_azimuth(
    latitude_deg: float, longitude_deg: float, day: dt.date, azimuth_deg: ArrayLike
) -> list[list[tuple[float, float]]]:
    """For each bearing, the moments of a day when the sun stands there above the horizon: unix
    time [s] and elevation [deg]. A plumb line's shadow then points the other way."""
    start = midnight_s(day)
    t = start + np.arange(0, 86401, 240.0)
    az, el = sun(latitude_deg, longitude_deg, t)
    found: list[list[tuple[float, float]]] = []
    for wanted in np.atleast_1d(np.asarray(azimuth_deg, float)):
        off = (az - wanted + 180.0) % 360.0 - 180.0
        crossing = np.flatnonzero(
            (np.sign(off[:-1]) != np.sign(off[1:]))
            & (np.abs(off[:-1] - off[1:]) < 90)
            & (el[:-1] > -2)
        )
        a, b = t[crossing], t[crossing + 1]
        fa, fb = off[crossing], off[crossing + 1]
        for _ in range(4):
            if not len(a):
                break
            middle = a - fa * (b - a) / np.where(fb == fa, 1.0, fb - fa)
            m_az, _ = sun(latitude_deg, longitude_deg, middle)
            fm = (m_az - wanted + 180.0) % 360.0 - 180.0
            left = np.sign(fm) == np.sign(fa)
            a, fa = np.where(left, middle, a), np.where(left, fm, fa)
            b, fb = np.where(left, b, middle), np.where(left, fb, fm)
        moments = np.where(np.abs(fa) < np.abs(fb), a, b) if len(a) else a
        _, heights = sun(latitude_deg, longitude_deg, moments)
        found.append([(float(s), float(h)) for s, h in zip(moments, heights, strict=True) if h > 0])
    return found


def _equatorial(
    latitude_deg: float, azimuth_deg: ArrayLike, elevation_deg: ArrayLike
) -> tuple[Floats, Floats]:
    """Hour angle, west positive, and declination of a direction [deg]."""
    az, el = (
        np.radians(np.asarray(azimuth_deg, float)),
        np.radians(np.asarray(elevation_deg, float)),
    )
    lat = np.radians(latitude_deg)
    up, north, east = np.sin(el), np.cos(el) * np.cos(az), np.cos(el) * np.sin(az)
    declination = np.arcsin(np.clip(up * np.sin(lat) + north * np.cos(lat), -1, 1))
    return np.degrees(np.arctan2(-east, up * np.cos(lat) - north * np.sin(lat))), np.degrees(
        declination
    )


def passings(
    latitude_deg: float,
    longitude_deg: float,
    azimuth_deg: float,
    elevation_deg: float,
    year: int,
    within_deg: float,
) -> list[Passing]:
    """The days of a year on which the sun's centre comes within a circle round a direction, with
    the moment and how long it stays [min]. A view that the sun reaches is open to the eye.

    The sun runs along the hour angle, so each day it is nearest when its hour angle is that of the
    direction: true at any latitude, where an azimuth near the zenith tells nothing.
    """
    if elevation_deg <= 0:
        return []
    first = dt.date(year, 1, 1)
    days = (dt.date(year + 1, 1, 1) - first).days
    wanted, _ = _equatorial(latitude_deg, azimuth_deg, elevation_deg)
    noon = midnight_s(first) + np.arange(days) * 86400.0 + 43200.0
    at = noon
    for _ in range(2):
        hour, _ = _equatorial(latitude_deg, *sun(latitude_deg, longitude_deg, at))
        at = at + ((wanted - hour + 180.0) % 360.0 - 180.0) * 240.0
    near = sky_separation_deg(*sun(latitude_deg, longitude_deg, at), azimuth_deg, elevation_deg)
    # A day's change of declination is 0.4° at most; the circle's own half time gives the window.
    rows = np.flatnonzero(near <= within_deg + 0.05)
    half_s = min(within_deg * 240.0 * 1.3 + 180.0, 20_000.0)
    found = []
    for d in rows:
        fine = at[d] + np.arange(-half_s, half_s + 1, 5.0)
        s = sky_separation_deg(*sun(latitude_deg, longitude_deg, fine), azimuth_deg, elevation_deg)
        least = float(s.min())
        if least > within_deg:
            continue
        moment = float(fine[s.argmin()])
        day = dt.datetime.fromtimestamp(moment, dt.UTC).date()
        found.append(Passing(day, moment, least, float((s <= within_deg).sum() * 5 / 60)))
    return found
