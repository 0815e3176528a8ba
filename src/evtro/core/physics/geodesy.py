"""Where things stand on the earth and in the sky: WGS-84 vectors and geodesics."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pyproj import Geod

Floats = NDArray[np.float64]

WGS84_A_M = 6378137.0
WGS84_F = 1 / 298.257223563
WGS84_E2 = WGS84_F * (2 - WGS84_F)
GEOSTATIONARY_RADIUS_M = 42_164_170.0
_RAD, _DEG = np.pi / 180, 180 / np.pi


@cache
def _geod() -> Geod:
    return Geod(ellps="WGS84")


@dataclass(frozen=True)
class Look:
    """Look angles, arrays of one shape. Azimuth from true north [deg], elevation geometric [deg],
    tilt positive clockwise as seen from behind the dish [deg], range [km]."""

    azimuth_deg: Floats
    elevation_deg: Floats
    tilt_deg: Floats
    range_km: Floats

    @property
    def visible(self) -> NDArray[np.bool_]:
        """True where the satellite stands above the geometric horizon."""
        return self.elevation_deg > 0.0


def ecef_m(latitude_deg: ArrayLike, longitude_deg: ArrayLike, height_m: ArrayLike) -> Floats:
    """Earth-centred coordinates of geodetic positions [m], shape (..., 3).

    Reference: EPSG Guidance Note 7-2, method 9602.
    """
    lat = np.radians(np.asarray(latitude_deg, float))
    lon = np.radians(np.asarray(longitude_deg, float))
    height = np.asarray(height_m, float)
    n = WGS84_A_M / np.sqrt(1 - WGS84_E2 * np.sin(lat) ** 2)
    x = (n + height) * np.cos(lat) * np.cos(lon)
    y = (n + height) * np.cos(lat) * np.sin(lon)
    z = (n * (1 - WGS84_E2) + height) * np.sin(lat)
    return np.stack(np.broadcast_arrays(x, y, z), axis=-1)


def look(
    latitude_deg: ArrayLike,
    longitude_deg: ArrayLike,
    height_m: ArrayLike,
    orbit_deg_e: ArrayLike,
    polarisation_offset_deg: ArrayLike = 0.0,
) -> Look:
    """Look angles to geostationary satellites; all parameters broadcast.

    The tilt is that of the satellite's V axis, which stands parallel to the earth's axis, turned
    by `polarisation_offset_deg` clockwise as seen from the earth; reduced to (-90, +90].
    """
    args = np.broadcast_arrays(
        *(np.asarray(v, float) for v in (latitude_deg, longitude_deg, height_m, orbit_deg_e))
    )
    offset = np.broadcast_to(
        np.asarray(polarisation_offset_deg, float),
        np.broadcast_shapes(args[0].shape, np.shape(polarisation_offset_deg)),
    )
    shape = offset.shape
    flat = [np.broadcast_to(v, shape).reshape(-1) for v in args]
    offset = offset.reshape(-1)
    out = np.empty((4, offset.size))
    # Blocks that stay in the processor's cache are twice as fast as one long pass.
    for i in range(0, offset.size, _BLOCK):
        part = slice(i, i + _BLOCK)
        lat, lon, height, orbit = (v[part] for v in flat)
        _look_block(
            lat, lon, height_m=height, orbit_deg_e=orbit, offset_deg=offset[part], out=out[:, part]
        )
    return Look(*(row.reshape(shape) for row in out))


_BLOCK = 16384


def _look_block(
    latitude_deg: Floats,
    longitude_deg: Floats,
    height_m: Floats,
    orbit_deg_e: Floats,
    offset_deg: Floats,
    out: Floats,
) -> None:
    """Azimuth, elevation, tilt [deg] and range [km] of flat arrays, into the rows of `out`."""
    # Sines are the dear part: each cosine comes from its sine, by halves where the angle runs round.
    sin = np.sin(latitude_deg * _RAD)
    cos = np.sqrt(1 - sin * sin)
    away = orbit_deg_e - longitude_deg
    half = np.sin(away * (_RAD / 2))
    square = half * half
    cos_away, sin_away = 1 - 2 * square, 2 * half * np.sqrt(1 - square)
    far = np.abs(away) > 180.0
    if far.any():
        sin_away[far] *= -1
    n = WGS84_A_M / np.sqrt(1 - WGS84_E2 * sin * sin)
    # The meridian of the place as x, the earth's axis as z: only the difference of longitudes counts.
    x = GEOSTATIONARY_RADIUS_M * cos_away - (n + height_m) * cos
    east = GEOSTATIONARY_RADIUS_M * sin_away
    z = (n * (1 - WGS84_E2) + height_m) * -sin
    north = cos * z - sin * x
    up = cos * x + sin * z
    flat2 = east * east + north * north
    distance = np.sqrt(flat2 + up * up)
    azimuth = np.arctan2(-east, -north) * _DEG + 180.0
    azimuth[azimuth >= 360.0] = 0.0
    # The V axis in east, north, up. Someone who looks up at the satellite has the orbit's west on
    # the right: clockwise is west.
    if offset_deg.any():
        turn = offset_deg * _RAD
        a_east = -np.sin(turn) * cos_away
        a_north = np.cos(turn) * cos - np.sin(turn) * sin * sin_away
        a_up = np.cos(turn) * sin + np.sin(turn) * cos * sin_away
        side, along = a_east * north - a_north * east, a_east * east + a_north * north
    else:
        a_up = sin
        side, along = -cos * east, cos * north
    # Right is ahead x up, upward is right x ahead; both carry the same factor but for the distance.
    # An axis has no head: the quotient alone gives its angle between -90 and +90.
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        tilt = np.arctan(side * distance / (a_up * flat2 - up * along)) * _DEG
    tilt[tilt <= -90.0] = 90.0
    tilt[np.isnan(tilt)] = 0.0  # straight under the satellite any angle is as good
    out[0], out[1] = azimuth, np.arctan2(up, np.sqrt(flat2)) * _DEG
    out[2], out[3] = tilt, distance * 1e-3


def half_turn(angle_deg: ArrayLike) -> Floats:
    """Reduce angles of an axis [deg] to (-90, +90]."""
    return 90.0 - (90.0 - np.asarray(angle_deg, float)) % 180.0


def full_turn(angle_deg: ArrayLike) -> Floats:
    """Reduce bearings [deg] to 0 and more, under 360; a hair below zero is zero and not 360."""
    reduced = np.asarray(angle_deg, float) % 360.0
    return np.where(reduced >= 360.0, 0.0, reduced)


def bearing_and_distance(
    latitude_deg: ArrayLike, longitude_deg: ArrayLike, to_lat: ArrayLike, to_lon: ArrayLike
) -> tuple[Floats, Floats]:
    """Geodesic from a place to others: bearing at the start [deg true] and length [km].

    Reference: C. F. F. Karney, Algorithms for geodesics, J. Geodesy 87 (2013), by pyproj.
    """
    lat1, lon1, lat2, lon2 = np.broadcast_arrays(
        *(np.asarray(v, float) for v in (latitude_deg, longitude_deg, to_lat, to_lon))
    )
    forward, _, distance = _geod().inv(lon1, lat1, lon2, lat2)
    return full_turn(forward), np.asarray(distance) / 1000


def along(
    latitude_deg: float,
    longitude_deg: float,
    to_lat: float,
    to_lon: float,
    points: Callable[[float], int],
) -> tuple[Floats, Floats, float]:
    """Points at equal steps along a geodesic, both ends included: latitudes and longitudes [deg],
    and its length [km]. `points` says how many from the length."""
    forward, _, distance = _geod().inv(longitude_deg, latitude_deg, to_lon, to_lat)
    count = points(distance / 1000)
    steps = np.linspace(0.0, distance, count)
    lon, lat, _ = _geod().fwd(
        np.full(count, longitude_deg), np.full(count, latitude_deg), np.full(count, forward), steps
    )
    return np.asarray(lat), np.asarray(lon), distance / 1000


def sky_separation_deg(az1: ArrayLike, el1: ArrayLike, az2: ArrayLike, el2: ArrayLike) -> Floats:
    """Angle between directions in the sky [deg]; haversine, exact for small angles too."""
    a1, e1, a2, e2 = (np.radians(np.asarray(v, float)) for v in (az1, el1, az2, el2))
    h = np.sin((e2 - e1) / 2) ** 2 + np.cos(e1) * np.cos(e2) * np.sin((a2 - a1) / 2) ** 2
    return np.asarray(np.degrees(2 * np.arcsin(np.sqrt(np.clip(h, 0, 1)))))


def refraction_deg(elevation_deg: ArrayLike) -> Floats:
    """How much the atmosphere lifts a direction that stands at a geometric elevation [deg].

    Optical refraction at 10 °C and 1010 hPa; radio waves are lifted by about as much more as the
    air is moist, so below 5° the figure is a guide. Below -1° it is left at zero.
    Reference: T. Saemundsson, Sky and Telescope 72 (1986), in Meeus chapter 16.
    """
    h = np.asarray(elevation_deg, float)
    lifted = (
        1.02 / 60 / np.tan(np.radians(np.maximum(h, -1.0) + 10.3 / (np.maximum(h, -1.0) + 5.11)))
    )
    return np.where(h < -1.0, 0.0, lifted)


def direction(azimuth_deg: ArrayLike, elevation_deg: ArrayLike) -> Floats:
    """Unit vectors east, north, up [1] of directions in the sky, shape (..., 3)."""
    az = np.asarray(azimuth_deg, float) * _RAD
    el = np.asarray(elevation_deg, float) * _RAD
    flat = np.cos(el)
    out = np.empty((*np.broadcast_shapes(az.shape, el.shape), 3))
    out[..., 0], out[..., 1], out[..., 2] = flat * np.sin(az), flat * np.cos(az), np.sin(el)
    return out


def angles(vectors: Floats) -> tuple[Floats, Floats]:
    """Azimuth and elevation [deg] of east, north, up vectors of any length, shape (..., 3)."""
    flat = np.hypot(vectors[..., 0], vectors[..., 1])
    azimuth = full_turn(np.degrees(np.arctan2(vectors[..., 0], vectors[..., 1])))
    return azimuth, np.degrees(np.arctan2(vectors[..., 2], flat))


def turned(vectors: Floats, axis: Floats, angle_deg: ArrayLike) -> Floats:
    """Vectors [in their own unit] turned about a unit axis by the right-hand rule (Rodrigues); all broadcast."""
    angle = np.radians(np.asarray(angle_deg, float))[..., None]
    along = np.sum(vectors * axis, axis=-1)[..., None]
    turned_: Floats = (
        vectors * np.cos(angle)
        + crossed(axis, vectors) * np.sin(angle)
        + axis * along * (1 - np.cos(angle))
    )
    return turned_


def crossed(first: Floats, second: Floats) -> Floats:
    """Vector product [product of their units] of vectors of shape (..., 3), broadcast; a third of the general one's time."""
    a, b, c = first[..., 0], first[..., 1], first[..., 2]
    x, y, z = second[..., 0], second[..., 1], second[..., 2]
    east = b * z - c * y
    out = np.empty((*east.shape, 3))
    out[..., 0], out[..., 1], out[..., 2] = east, c * x - a * z, a * y - b * x
    return out
