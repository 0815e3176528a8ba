"""Rain, thresholds, beams, polar mounts and power density against the outside world."""

from __future__ import annotations

import math
import warnings

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.spatial.transform import Rotation
from scipy.special import j0

from evtro.core.physics.beams import (
    LIGHT_M_MHZ,
    beam_deviation_factor,
    dish_beamwidth_deg,
    dish_gain_dbi,
    off_axis_loss_db,
    offset_reflector,
    pattern_gain_dbi,
    prime_focus,
)
from evtro.core.physics.geodesy import angles, direction, look, refraction_deg
from evtro.core.physics.modulation import MODULATIONS
from evtro.core.physics.propagation.rain import Climate, attenuation_db, specific_attenuation
from evtro.core.stations.aim.dish.polar import pointing, settings, stops
from evtro.core.stations.aim.multifeed import Paraboloid, displaced
from evtro.core.stations.aim.two_way.link import power_density

# Latitude, longitude, height [m], elevation, frequency [GHz], tilt, exceeded [%].
RAINY = [
    (53.5, -10.0, 14, 19.8, 11.7, 20, 0.3), (1.3, 103.8, 20, 60, 12.5, 70, 0.1),
    (-33.9, 151.2, 40, 50, 11.2, 45, 0.01), (40.7, -74.0, 10, 35, 20.2, 45, 0.5),
    (25.8, -80.2, 3, 50, 12.2, 30, 1.0), (15.0, 30.0, 400, 20, 19.7, 10, 0.2),
    (67.0, 15.0, 30, 12, 11.5, 5, 0.05), (48.1, 11.6, 520, 34, 12.1, 90, 0.03),
    (35.7, 139.7, 40, 38, 11.7, 45, 0.1), (-17.6, 168.2, 38, 69, 4.0, 0, 0.01),
    (-26.2, 28.0, 1700, 45, 11.0, 12, 0.5), (60.2, 24.9, 20, 20, 12.4, 78, 0.02),
    (-12.0, -77.0, 150, 55, 18.5, 45, 0.3), (30.0, 31.2, 30, 48, 10.9, 60, 0.1),
    (-54.8, -68.3, 20, 9, 11.9, 33, 0.2), (21.3, -157.9, 5, 40, 14.2, 0, 0.05),
    (13.1, -59.6, 30, 47, 19.9, 45, 0.01), (64.1, -21.9, 15, 14, 10.7, 15, 1.0),
    (-4.3, 15.3, 300, 72, 12.7, 85, 0.1), (55.7, 37.6, 150, 26, 11.1, 40, 0.003),
]  # fmt: skip


@pytest.mark.parametrize("case", RAINY)
def test_rain_agrees_with_a_propagation_library(case: tuple[float, ...]) -> None:
    """ITU-R P.618-13 at 20 places by itur (PyPI), 2 %; P.838-3 by the same, 0.1 %."""
    lat, lon, height, el, ghz, tilt, p = case
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        from itur.models import itu618, itu837, itu838, itu839

        rate = float(itu837.rainfall_rate(lat, lon, 0.01).value)
        high = float(itu839.rain_height(lat, lon).value)
        theirs = float(
            itu618.rain_attenuation(
                lat, lon, ghz, el, hs=height / 1000, p=p, R001=rate, tau=tilt
            ).value
        )
        gamma = float(itu838.rain_specific_attenuation(rate, ghz, el, tilt).value)
    mine = float(attenuation_db(Climate(rate, high), lat, height, ghz * 1000, el, tilt, p))
    assert mine == pytest.approx(theirs, rel=0.02)
    assert float(specific_attenuation(rate, ghz, el, tilt)) == pytest.approx(gamma, rel=0.001)


# ETSI EN 302 307-1 table 13: spectral efficiency [bit/symbol] and ideal Es/N0 [dB], written down
# apart from the program's table.
TABLE_13 = {
    "QPSK 1/4": (0.490, -2.35), "QPSK 1/3": (0.656, -1.24), "QPSK 2/5": (0.789, -0.30),
    "QPSK 1/2": (0.989, 1.00), "QPSK 3/5": (1.188, 2.23), "QPSK 2/3": (1.322, 3.10),
    "QPSK 3/4": (1.487, 4.03), "QPSK 4/5": (1.587, 4.68), "QPSK 5/6": (1.655, 5.18),
    "QPSK 8/9": (1.767, 6.20), "QPSK 9/10": (1.789, 6.42), "8PSK 3/5": (1.780, 5.50),
    "8PSK 2/3": (1.981, 6.62), "8PSK 3/4": (2.228, 7.91), "8PSK 5/6": (2.479, 9.35),
    "8PSK 8/9": (2.646, 10.69), "8PSK 9/10": (2.679, 10.98), "16APSK 2/3": (2.637, 8.97),
    "16APSK 3/4": (2.967, 10.21), "16APSK 4/5": (3.166, 11.03), "16APSK 5/6": (3.300, 11.61),
    "16APSK 8/9": (3.523, 12.89), "16APSK 9/10": (3.567, 13.13), "32APSK 3/4": (3.703, 12.73),
    "32APSK 4/5": (3.952, 13.64), "32APSK 5/6": (4.120, 14.28), "32APSK 8/9": (4.398, 15.69),
    "32APSK 9/10": (4.453, 16.05),
}  # fmt: skip


def test_thresholds_are_those_of_table_13() -> None:
    """ETSI EN 302 307-1, table 13 (from memory), all 28 rows."""
    mine = {
        k.removeprefix("DVB-S2 "): m.cn_db for k, m in MODULATIONS.items() if m.system == "DVB-S2"
    }
    assert mine == {k: v for k, (_, v) in TABLE_13.items()}


def _psk_capacity(points: int, es_n0_db: float) -> float:
    """Bits per symbol that PSK can carry, by Gauss-Hermite quadrature of its mutual information
    (J. G. Proakis, Digital Communications, chapter 7)."""
    nodes, weights = np.polynomial.hermite.hermgauss(24)
    sigma = math.sqrt(1 / (2 * 10 ** (es_n0_db / 10)))
    symbols = np.exp(2j * np.pi * np.arange(points) / points)
    noise = math.sqrt(2) * sigma * (nodes[:, None] + 1j * nodes[None, :])
    weight = weights[:, None] * weights[None, :] / np.pi
    received = symbols[0] + noise
    sums = sum(
        np.exp((np.abs(noise) ** 2 - np.abs(received - s) ** 2) / (2 * sigma**2)) for s in symbols
    )
    return math.log2(points) - float((weight * np.log2(sums)).sum())


@pytest.mark.parametrize("name", [n for n in TABLE_13 if "PSK" in n and "APSK" not in n])
def test_thresholds_stand_close_above_what_theory_allows(name: str) -> None:
    """No code beats the capacity of its constellation; these come within 0.3 to 1.7 dB of it."""
    points = 8 if name.startswith("8") else 4
    efficiency, threshold = TABLE_13[name]
    levels = np.arange(threshold - 3, threshold + 0.5, 0.05)
    limit = next(x for x in levels if _psk_capacity(points, float(x)) >= efficiency)
    assert 0.3 < threshold - limit < 1.7


def _exact_pattern_db(
    diameter_m: float, mhz: float, angle_deg: float, edge_db: float = -11.0
) -> float:
    """Power off the axis of a round aperture whose field falls by `edge_db` to the rim, by the
    Hankel integral (C. A. Balanis, Antenna Theory, chapter 12)."""
    k = 2 * math.pi * mhz / LIGHT_M_MHZ
    a = diameter_m / 2
    edge = 10 ** (edge_db / 20)

    def field(u: float) -> float:
        # Parabola on a pedestal, the usual shape of a feed's taper.
        return quad(lambda r: (edge + (1 - edge) * (1 - r * r)) * j0(u * r) * r, 0, 1)[0]

    return 20 * math.log10(abs(field(k * a * math.sin(math.radians(angle_deg)))) / field(0.0))


def _exact_width(diameter_m: float, mhz: float, edge_db: float) -> float:
    low, high = 0.0, 140 * LIGHT_M_MHZ / mhz / diameter_m
    for _ in range(40):
        middle = (low + high) / 2
        down = _exact_pattern_db(diameter_m, mhz, middle / 2, edge_db) < -3.0103
        low, high = (low, middle) if down else (middle, high)
    return low


@pytest.mark.parametrize(
    ("size", "mhz"), [(0.6, 10_714), (0.8, 11_700), (1.2, 12_750), (2.4, 3_950)]
)
def test_beamwidth_and_main_lobe_agree_with_the_exact_aperture(size: float, mhz: float) -> None:
    """70 wavelengths over diameter lies between the exact half-power widths for feeds that taper
    the rim by 11 and by 25 dB; 12 (offset/width)² is the lobe to 0.4 dB as far as 6 dB down."""
    width = dish_beamwidth_deg(size, mhz)
    assert _exact_width(size, mhz, -11.0) < width < _exact_width(size, mhz, -25.0)
    assert width == pytest.approx(_exact_width(size, mhz, -14.0), rel=0.05)
    own = _exact_width(size, mhz, -14.0)
    for share in (0.2, 0.4, 0.6, 0.7):
        exact = -_exact_pattern_db(size, mhz, share * own, -14.0)
        assert float(off_axis_loss_db(share * own, own)) == pytest.approx(exact, abs=0.4)


def test_gain_agrees_with_the_directivity_of_the_aperture() -> None:
    """Gain over an isotropic source from the exact pattern's solid angle, for the efficiency that
    the taper itself has."""
    size, mhz = 0.8, 11_700.0
    angle = np.linspace(1e-4, 60, 6000)
    k = 2 * math.pi * mhz / LIGHT_M_MHZ * size / 2
    edge = 10 ** (-11 / 20)
    r = np.linspace(0, 1, 400)
    taper = (edge + (1 - edge) * (1 - r**2)) * r
    u = k * np.sin(np.radians(angle))
    field = np.trapezoid(taper[None, :] * j0(u[:, None] * r[None, :]), r, axis=1)
    power = (field / np.trapezoid(taper, r)) ** 2
    solid = 2 * math.pi * np.trapezoid(power * np.sin(np.radians(angle)), np.radians(angle))
    directivity_db = 10 * math.log10(4 * math.pi / solid)
    illumination = np.trapezoid(taper, r) ** 2 / (
        0.5 * np.trapezoid(taper**2 / np.maximum(r, 1e-9), r)
    )
    assert dish_gain_dbi(size, mhz, float(illumination)) == pytest.approx(directivity_db, abs=0.25)


def test_pattern_falls_and_meets_its_envelope() -> None:
    """ITU-R BO.1213 (from memory): 29 - 25 log angle between the shoulder and 7°."""
    gain = pattern_gain_dbi(np.array([0.0, 1.0, 3.0, 5.0, 6.5, 20.0, 60.0]), 0.9, 11_700, 0.65)
    assert (np.diff(gain) <= 1e-9).all()
    assert gain[4] == pytest.approx(29 - 25 * math.log10(6.5))
    assert gain[0] == pytest.approx(dish_gain_dbi(0.9, 11_700, 0.65))


def test_beam_deviation_agrees_with_lo() -> None:
    """A feed a little beside the focus of a round dish: Y. T. Lo, IRE Trans. AP-8 (1960), within
    2 % from f/D 0.35 to 0.8."""
    for ratio in (0.35, 0.45, 0.6, 0.8):
        dish = Paraboloid(2.0, 2.0 * ratio, 0.0)
        beam, _, _ = displaced(dish, 0.02, 0.0, 11_700)
        feed = math.degrees(math.atan(0.02 / (2.0 * ratio)))
        assert abs(float(beam)) / feed == pytest.approx(beam_deviation_factor(ratio), rel=0.02)


@pytest.mark.parametrize(("focal", "offset", "width"), [(460.0, 22.0, 780.0), (700.0, 25.3, 950.0)])
def test_an_offset_reflector_is_measured_back(focal: float, offset: float, width: float) -> None:
    """Cut a paraboloid z = r²/4f by a cylinder, measure rim and depth on its points, and get focal
    length and offset angle again."""
    centre = 2 * focal * math.tan(math.radians(offset))
    turn = np.linspace(0, 2 * math.pi, 720)
    x, y = width / 2 * np.cos(turn), centre + width / 2 * np.sin(turn)
    rim = np.column_stack([x, y, (x**2 + y**2) / (4 * focal)])
    high = float(np.linalg.norm(rim[np.argmax(y)] - rim[np.argmin(y)]))
    normal = np.cross(rim[100] - rim[0], rim[300] - rim[0])
    normal /= np.linalg.norm(normal)
    grid = np.linspace(-1, 1, 101) * width / 2
    gx, gy = np.meshgrid(grid, grid)
    inside = np.hypot(gx, gy) <= width / 2
    surface = np.column_stack(
        [
            gx[inside],
            gy[inside] + centre,
            (gx[inside] ** 2 + (gy[inside] + centre) ** 2) / (4 * focal),
        ]
    )
    deep = float(np.abs((surface - rim[0]) @ normal).max())
    found = offset_reflector(high, width, deep)
    assert found.focal_mm == pytest.approx(focal, rel=0.002)
    assert found.offset_deg == pytest.approx(offset, abs=0.1)
    focus = np.array([0.0, 0.0, focal])
    assert found.low_mm == pytest.approx(float(np.linalg.norm(rim[np.argmin(y)] - focus)), abs=1)
    assert found.high_mm == pytest.approx(float(np.linalg.norm(rim[np.argmax(y)] - focus)), abs=1)


def test_a_round_dish_has_its_focus_at_d_squared_over_16_depth() -> None:
    """z = r²/4f at the rim; half angle by the triangle of focus, axis and rim."""
    focal, ratio, half = prime_focus(2400, 395)
    assert 1200**2 / (4 * focal) == pytest.approx(395)
    assert ratio == pytest.approx(focal / 2400)
    assert half == pytest.approx(math.degrees(math.atan2(1200, focal - 395)))


@pytest.mark.parametrize("latitude", [62.0, 53.5, 41.0, 25.0, -17.6, -33.9, -45.0])
def test_motor_turns_point_at_the_satellites(latitude: float) -> None:
    """The mount turned by scipy's Rotation about its axis: each satellite is met to 0.05°, the one
    at the top exactly."""
    set_to = settings(latitude, 30.0)
    orbits = [-52.0, -25.0, -6.0, 0.0, 12.0, 33.0, 55.0]
    found = stops(latitude, 0.0, 0.0, set_to, [(str(o), str(o), o, 1.0) for o in orbits], 75.0)
    south = latitude >= 0
    pole = direction(0.0 if south else 180.0, set_to.axis_deg)
    start = direction(180.0 if south else 0.0, 90.0 - set_to.axis_deg - set_to.declination_deg)
    for stop in found:
        if stop.elevation_deg < 2:
            continue
        turn = math.radians(-stop.hour_deg if south else stop.hour_deg)
        ahead = Rotation.from_rotvec(pole * turn).apply(start)
        seen = look(latitude, 0.0, 0.0, stop.orbit_deg_e)
        wanted = direction(float(seen.azimuth_deg), float(seen.elevation_deg))
        left = math.degrees(math.acos(min(float(ahead @ wanted), 1.0)))
        assert left < (0.001 if stop.orbit_deg_e == 0 else 0.05)
        assert stop.error_deg == pytest.approx(left, abs=1e-4)
        assert (stop.hour_deg > 0) == (stop.orbit_deg_e < 0) or stop.orbit_deg_e == 0


def test_a_mount_with_a_plain_polar_axis_misses_more() -> None:
    """The textbook's axis parallel to the earth's with the declination of the top leaves the arc at
    its ends; the tilted axis does not."""
    set_to = settings(53.5, 30.0)
    seen = look(53.5, 0.0, 0.0, -55.0)
    wanted = direction(float(seen.azimuth_deg), float(seen.elevation_deg))
    plain = pointing(53.5, 90 - 53.5 - set_to.top_elevation_deg, np.arange(50, 75, 0.05), True)
    worst = float(np.degrees(np.arccos(np.clip(plain @ wanted, -1, 1))).min())
    assert worst > 10 * set_to.worst_deg


def test_power_density_joins_exact_diffraction_at_both_ends() -> None:
    """On the axis of an even round aperture the exact density is 4 P/A sin²(pi D²/8 lambda R): at
    its highest it is the surface figure 4P/A, far away P G / 4 pi R² (C. A. Balanis, chapter 12;
    FCC OET Bulletin 65, section 2, equations from memory)."""
    size, watts, mhz = 1.2, 4.0, 14_250.0
    found = power_density(size, watts, mhz, 1.0)
    wave = LIGHT_M_MHZ / mhz
    area = math.pi * size**2 / 4

    def exact(metres: float) -> float:
        return 4 * watts / area * math.sin(math.pi * size**2 / (8 * wave * metres)) ** 2 / 10

    assert found.surface_mw_cm2 == pytest.approx(
        max(exact(r) for r in np.linspace(2, 12, 4000)), rel=0.01
    )
    assert found.near_mw_cm2 == pytest.approx(found.surface_mw_cm2)
    far = [(m, d) for m, d in found.curve if m > 2 * found.far_from_m]
    assert far
    for metres, density in far:
        assert density == pytest.approx(exact(metres), rel=0.12)
    assert found.gain_dbi == pytest.approx(dish_gain_dbi(size, mhz, 1.0))


def test_the_public_limit_is_met_where_it_is_said_to_be() -> None:
    """1 mW/cm² for anybody, 5 for workers above 1.5 GHz: 47 CFR 1.1310 (from memory)."""
    loud = power_density(1.2, 60.0, 14_250.0, 0.65)
    assert loud.near_mw_cm2 > 1
    at = np.interp(loud.public_from_m, [m for m, _ in loud.curve], [d for _, d in loud.curve])
    assert at == pytest.approx(1.0, rel=0.05)
    assert loud.worker_from_m < loud.public_from_m
    assert power_density(0.75, 1.0, 14_250.0, 0.65).public_from_m == 0.0


def test_refraction_at_the_horizon_and_above() -> None:
    """34' at the horizon for a body whose true place is there lifted to about 29'; 5' at 10°
    (The Astronomical Almanac, from memory; Meeus chapter 16 example)."""
    assert float(refraction_deg(0.0)) * 60 == pytest.approx(28.9, abs=0.6)
    assert float(refraction_deg(10.0)) * 60 == pytest.approx(5.4, abs=0.2)
    assert float(refraction_deg(-5.0)) == 0.0


def test_directions_go_there_and_back() -> None:
    az, el = angles(direction([10.0, 200.0, 359.9], [5.0, 80.0, -20.0]))
    assert az == pytest.approx([10.0, 200.0, 359.9])
    assert el == pytest.approx([5.0, 80.0, -20.0])
