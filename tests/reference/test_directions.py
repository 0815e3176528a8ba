"""Rotations, offsets on the sky and fits against general libraries."""

from __future__ import annotations

import math
import warnings

import astropy.units as u
import numpy as np
import pytest
from astropy.coordinates import Angle, SkyCoord, SkyOffsetFrame
from astropy.coordinates import angular_separation as astro_separation
from scipy.optimize import curve_fit
from scipy.spatial.transform import Rotation

from evtro.core.physics.geodesy import (
    angles,
    direction,
    half_turn,
    look,
    sky_separation_deg,
    turned,
)
from evtro.core.stations.aim.errors import lean
from evtro.core.stations.aim.finding.peaking import fit
from evtro.core.stations.aim.multifeed import dish_frame, row_tilt_deg
from evtro.core.stations.site.skyline import View, clear_of, edges_of
from evtro.demo.world import skerry_house

CASES = [
    (az, el, t, b)
    for az in (12.0, 145.0, 287.0)
    for el in (8.0, 34.0, 71.0)
    for t in (0.3, 2.5)
    for b in (0.0, 77.0, 251.0)
]


@pytest.mark.parametrize(("az", "el", "tilt", "toward"), CASES)
def test_a_leaning_mast_turns_the_dish_as_scipy_does(
    az: float, el: float, tilt: float, toward: float
) -> None:
    """scipy.spatial.transform.Rotation (scipy.org) about the level axis that carries up toward the
    bearing; 1e-6°."""
    side = direction(toward - 90.0, 0.0)
    turn = Rotation.from_rotvec(side * math.radians(tilt))
    up = turn.apply([0.0, 0.0, 1.0])
    assert float(angles(up)[0]) == pytest.approx(toward % 360, abs=1e-6)
    real_az, real_el = angles(turn.apply(direction(az, el)))
    found = lean(az, el, tilt, toward)
    assert float(found.azimuth_deg) == pytest.approx(
        (float(real_az) - az + 180) % 360 - 180, abs=1e-6
    )
    assert float(found.elevation_deg) == pytest.approx(float(real_el) - el, abs=1e-6)


@pytest.mark.parametrize(("az", "el", "tilt", "toward"), CASES[::4])
def test_the_same_turn_rolls_the_dish(az: float, el: float, tilt: float, toward: float) -> None:
    """The dish's own up against the great circle to the zenith, by astropy's position angle."""
    turn = Rotation.from_rotvec(direction(toward - 90.0, 0.0) * math.radians(tilt))
    ahead = SkyCoord(*(float(v) for v in angles(turn.apply(direction(az, el)))), unit="deg")
    raised = SkyCoord(*(float(v) for v in angles(turn.apply(direction(az, el + 0.01)))), unit="deg")
    roll = Angle(ahead.position_angle(raised)).wrap_at(180 * u.deg).deg
    # Azimuth runs to the right as seen from behind, so a position angle runs clockwise there.
    assert float(lean(az, el, tilt, toward).skew_deg) == pytest.approx(
        float(half_turn(roll)), abs=0.02
    )


def test_turning_a_vector_agrees_with_scipy() -> None:
    random = np.random.default_rng(5)
    for _ in range(40):
        axis, vector = random.normal(size=3), random.normal(size=3)
        axis /= np.linalg.norm(axis)
        angle = random.uniform(-400, 400)
        wanted = Rotation.from_rotvec(axis * math.radians(angle)).apply(vector)
        assert turned(vector, axis, angle) == pytest.approx(wanted, abs=1e-12)


@pytest.mark.parametrize("place", [(53.5, -10.0), (47.2, 8.1), (-33.9, 151.2), (1.3, 103.8)])
def test_places_in_the_dish_frame_agree_with_astropys_offsets(place: tuple[float, float]) -> None:
    """astropy's SkyOffsetFrame round the dish's own direction: its longitude is the angle to the
    right, exactly."""
    lat, lon = place
    seen = look(lat, lon, 50.0, lon + np.array([-18.0, -6.0, 0.0, 7.0, 21.0]))
    az, el = seen.azimuth_deg, seen.elevation_deg
    x, y = dish_frame(float(az[2]), float(el[2]), az, el)
    frame = SkyOffsetFrame(origin=SkyCoord(az[2] * u.deg, el[2] * u.deg))
    theirs = SkyCoord(az * u.deg, el * u.deg).transform_to(frame)
    assert x == pytest.approx(theirs.lon.wrap_at(180 * u.deg).deg, abs=1e-6)
    # Their latitude is square to the meridian, ours an angle in the plane of the axis.
    wanted = np.degrees(
        np.arctan2(np.sin(theirs.lat.rad), np.cos(theirs.lat.rad) * np.cos(theirs.lon.rad))
    )
    assert y == pytest.approx(wanted, abs=1e-6)


def test_the_row_of_three_close_satellites_lies_along_the_tilt() -> None:
    """Neighbours on the arc run along the H axis of the one between: the bar's tilt is its tilt."""
    for lat in (20.0, 47.0, 64.0):
        seen = look(lat, 0.0, 0.0, np.array([15.9, 16.0, 16.1]))
        x, y = dish_frame(
            float(seen.azimuth_deg[1]),
            float(seen.elevation_deg[1]),
            seen.azimuth_deg,
            seen.elevation_deg,
        )
        assert row_tilt_deg(x, y) == pytest.approx(float(seen.tilt_deg[1]), abs=0.35)


def test_separations_agree_with_astropy() -> None:
    random = np.random.default_rng(6)
    a, b = random.uniform(0, 360, (2, 200))
    e, f = random.uniform(-5, 89, (2, 200))
    wanted = np.degrees(astro_separation(*(np.radians(v) for v in (a, e, b, f))))
    assert sky_separation_deg(a, e, b, f) == pytest.approx(wanted, abs=1e-9)


def test_clearance_agrees_with_astropy_over_every_point_of_the_outline() -> None:
    """The least separation from thousands of points along the edges, by astropy."""
    job = skerry_house()
    edges = edges_of(job.obstructions, View(7.4))
    all_az, all_el = edges.az_deg(slice(None)), edges.el_deg(slice(None))
    for az, el in ((135.8, 19.8), (152.7, 25.5), (200.0, 45.0)):
        mine = np.abs(clear_of(edges, az, el)[0])
        point = SkyCoord(az * u.deg, el * u.deg)
        for k in range(len(edges.ids)):
            end = edges.start[k + 1] if k + 1 < len(edges.start) else len(all_az)
            own = slice(int(edges.start[k]), int(end))
            fine_az = np.interp(
                np.linspace(0, 1, 4000), np.linspace(0, 1, own.stop - own.start), all_az[own]
            )
            fine_el = np.interp(
                np.linspace(0, 1, 4000), np.linspace(0, 1, own.stop - own.start), all_el[own]
            )
            # The three runs of points are laid end to end: only the upper edge is continuous.
            upper = edges.upper[k]
            keep = np.linspace(own.start, own.stop - 1, 4000) <= upper.stop - 1
            theirs = (
                SkyCoord(fine_az[keep] * u.deg, fine_el[keep] * u.deg).separation(point).deg.min()
            )
            sides = SkyCoord(all_az[own] * u.deg, all_el[own] * u.deg).separation(point).deg.min()
            assert mine[k] == pytest.approx(min(theirs, sides), abs=0.02)


@pytest.mark.parametrize("seed", range(12))
def test_the_top_of_a_peak_agrees_with_scipys_fit(seed: int) -> None:
    """scipy.optimize.curve_fit of the same parabola over the same readings."""
    random = np.random.default_rng(seed)
    centre, width = random.uniform(-0.8, 0.8), random.uniform(1.5, 2.8)
    x = np.linspace(-0.75, 0.75, 11) * width + centre
    y = 14 - 12 * ((x - centre) / width) ** 2 + random.normal(0, 0.15, len(x))

    def parabola(p: np.ndarray, top: float, middle: float, wide: float) -> np.ndarray:
        return top - 12 * ((p - middle) / wide) ** 2

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        values, spread = curve_fit(parabola, x, y, p0=(14, 0, 2))
    found = fit(x, y)
    assert found.centre == pytest.approx(values[1], abs=1e-4)
    assert found.top == pytest.approx(values[0], abs=1e-3)
    assert found.half_width == pytest.approx(abs(values[2]), rel=1e-3)
    # The stated interval is at least the library's own, and not many times as wide.
    assert found.uncertainty is not None
    assert 1.2 * math.sqrt(spread[1, 1]) < found.uncertainty < 8 * math.sqrt(spread[1, 1])
