"""Laws that directions, sun, rain, feeds and motors keep, whatever the figures."""

from __future__ import annotations

import datetime as dt
import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from evtro.core.physics.beams import (
    dish_beamwidth_deg,
    dish_gain_dbi,
    off_axis_loss_db,
    offset_reflector,
    pattern_gain_dbi,
)
from evtro.core.physics.geodesy import (
    angles,
    direction,
    look,
    refraction_deg,
    sky_separation_deg,
    turned,
)
from evtro.core.physics.propagation.rain import Climate, attenuation_db, specific_attenuation
from evtro.core.physics.sun import midnight_s, passings, sun, times_at_azimuth
from evtro.core.stations.aim import multifeed
from evtro.core.stations.aim.dish import polar
from tests.proving import examples

latitudes = st.floats(-75, 75)
longitudes = st.floats(-179, 179)


# --- looking at the arc --------------------------------------------------------------------------


@given(latitudes, longitudes, st.floats(-70, 70), st.floats(0, 4000))
def test_only_the_difference_of_longitudes_counts(
    lat: float, lon: float, away: float, height: float
) -> None:
    here, there = look(lat, lon, height, lon + away), look(lat, 0.0, height, away)
    # Straight under the satellite neither bearing nor tilt means anything.
    assume(float(there.elevation_deg) < 89.9)
    assert float(here.azimuth_deg) == pytest.approx(float(there.azimuth_deg), abs=1e-6)
    assert float(here.elevation_deg) == pytest.approx(float(there.elevation_deg), abs=1e-6)
    assert float(here.tilt_deg) == pytest.approx(float(there.tilt_deg), abs=1e-6)


@given(st.floats(1, 75), st.floats(0.5, 70))
def test_east_and_west_are_mirror_images(lat: float, away: float) -> None:
    east, west = look(lat, 0.0, 0.0, away), look(lat, 0.0, 0.0, -away)
    assert float(east.azimuth_deg) == pytest.approx(360 - float(west.azimuth_deg), abs=1e-6)
    assert float(east.elevation_deg) == pytest.approx(float(west.elevation_deg), abs=1e-9)
    assert float(east.tilt_deg) == pytest.approx(-float(west.tilt_deg), abs=1e-6)
    assert float(west.tilt_deg) > 0  # in the north a satellite west of south tilts clockwise


@given(st.floats(1, 75), st.floats(-70, 70))
def test_north_and_south_are_mirror_images(lat: float, away: float) -> None:
    north, south = look(lat, 0.0, 0.0, away), look(-lat, 0.0, 0.0, away)
    assert float(south.azimuth_deg) == pytest.approx(
        (180 - float(north.azimuth_deg)) % 360, abs=1e-6
    )
    assert float(south.elevation_deg) == pytest.approx(float(north.elevation_deg), abs=1e-9)
    assert float(south.tilt_deg) == pytest.approx(-float(north.tilt_deg), abs=1e-6)


@given(latitudes, st.floats(0, 69), st.floats(0.5, 10))
def test_farther_along_the_arc_stands_lower(lat: float, away: float, more: float) -> None:
    near, far = look(lat, 0.0, 0.0, away), look(lat, 0.0, 0.0, away + more)
    assert float(far.elevation_deg) < float(near.elevation_deg)
    assert float(far.range_km) > float(near.range_km)


@given(latitudes, st.floats(-70, 70), st.floats(-44, 44))
def test_a_satellites_own_tilt_adds_to_the_tilt(lat: float, away: float, own: float) -> None:
    assume(abs(lat) > 2 or abs(away) > 2)
    plain, turned_ = look(lat, 0.0, 0.0, away), look(lat, 0.0, 0.0, away, own)
    assume(float(plain.elevation_deg) > 5)
    change = (float(turned_.tilt_deg) - float(plain.tilt_deg) - own + 90) % 180 - 90
    # The axis is seen a little from the side: exact only for a satellite that faces the place.
    assert abs(change) < 6.5
    assert float(turned_.azimuth_deg) == float(plain.azimuth_deg)


def test_many_places_at_once_are_as_one_by_one() -> None:
    random = np.random.default_rng(11)
    lat, lon = random.uniform(-70, 70, 40_000), random.uniform(-180, 180, 40_000)
    orbit, height = random.uniform(-180, 180, 40_000), random.uniform(0, 3000, 40_000)
    many = look(lat, lon, height, orbit, 3.0)
    for i in range(0, 40_000, 3_333):
        one = look(lat[i], lon[i], height[i], orbit[i], 3.0)
        assert float(many.azimuth_deg[i]) == pytest.approx(float(one.azimuth_deg), abs=1e-9)
        assert float(many.tilt_deg[i]) == pytest.approx(float(one.tilt_deg), abs=1e-9)
    grid = look(lat[:30, None], lon[:30, None], 0.0, orbit[None, :20])
    assert grid.azimuth_deg.shape == (30, 20)
    assert look([], [], 0.0, []).azimuth_deg.shape == (0,)


@given(st.floats(0, 359.99), st.floats(-89, 89))
def test_a_direction_comes_back_from_its_vector(az: float, el: float) -> None:
    vector = direction(az, el)
    assert float(np.linalg.norm(vector)) == pytest.approx(1.0)
    back_az, back_el = angles(vector)
    assert float(sky_separation_deg(az, el, float(back_az), float(back_el))) < 1e-6


@given(st.floats(-180, 180), st.floats(0, 359), st.floats(-80, 80))
def test_turning_keeps_lengths_and_turns_back(angle: float, az: float, el: float) -> None:
    vector, axis = direction(az, el), direction(az / 2, -el / 2)
    there = turned(vector, axis, angle)
    assert float(np.linalg.norm(there)) == pytest.approx(1.0)
    assert turned(there, axis, -angle) == pytest.approx(vector, abs=1e-9)


@given(st.floats(-0.9, 88), st.floats(0.05, 2))
def test_the_air_lifts_less_the_higher_one_looks(el: float, more: float) -> None:
    assert float(refraction_deg(el)) > float(refraction_deg(el + more)) >= -1e-3


# --- sun -----------------------------------------------------------------------------------------


@given(st.floats(-65, 65), longitudes, st.dates(dt.date(2025, 1, 1), dt.date(2035, 1, 1)))
@examples(10, 200)
def test_the_sun_is_highest_on_the_meridian(lat: float, lon: float, day: dt.date) -> None:
    t = midnight_s(day) + np.arange(0, 86_400, 120.0)
    az, el = sun(lat, lon, t)
    top = int(el.argmax())
    assume(2 < top < len(t) - 3)
    assume(el[top] < 88)
    off = min(abs(az[top] - 180), az[top], 360 - az[top])
    assert off < 1.5 / max(math.cos(math.radians(float(el[top]))), 0.03)
    # The meridian's height is that of the pole's complement and a declination within the tropics.
    declination = float(el[top]) - 90 + abs(lat) if az[top] > 90 and az[top] < 270 else None
    if declination is not None and lat > 0:
        assert -23.5 <= declination <= 23.5


@given(
    st.floats(-60, 60),
    longitudes,
    st.floats(60, 300),
    st.dates(dt.date(2025, 1, 1), dt.date(2030, 1, 1)),
)
@examples(10, 200)
def test_at_the_moments_found_the_sun_stands_at_the_bearing(
    lat: float, lon: float, az: float, day: dt.date
) -> None:
    for moment, height in times_at_azimuth(lat, lon, day, az)[0]:
        real_az, real_el = sun(lat, lon, moment)
        assert abs((float(real_az) - az + 180) % 360 - 180) < 0.02
        assert float(real_el) == pytest.approx(height, abs=1e-6)
        assert midnight_s(day) <= moment <= midnight_s(day) + 86_400


@given(st.floats(30, 60), st.floats(-30, 30))
@examples(3, 75)
def test_outages_come_in_two_seasons_and_last_longest_in_their_middle(
    lat: float, away: float
) -> None:
    seen = look(lat, 0.0, 0.0, away)
    found = passings(lat, 0.0, float(seen.azimuth_deg), float(seen.elevation_deg), 2027, 1.2)
    spring = [p for p in found if p.day.month < 7]
    autumn = [p for p in found if p.day.month >= 7]
    assert spring
    assert autumn
    for season in (spring, autumn):
        middle = min(season, key=lambda p: p.separation_deg)
        assert middle.minutes >= max(p.minutes for p in season) - 0.2
        days = [p.day.toordinal() for p in season]
        assert days == list(range(days[0], days[-1] + 1))


# --- rain ----------------------------------------------------------------------------------------

wet = st.floats(5, 120)


@given(wet, st.floats(1, 30), st.floats(4, 30), st.floats(10, 80))
def test_more_rain_takes_more(rate: float, more: float, ghz: float, el: float) -> None:
    less, plenty = (float(specific_attenuation(r, ghz, el, 45)) for r in (rate, rate + more))
    assert plenty > less


@given(wet, st.floats(5, 28), st.floats(0.5, 5))
def test_higher_frequencies_suffer_more(rate: float, ghz: float, more: float) -> None:
    assert float(specific_attenuation(rate, ghz + more, 30, 45)) > float(
        specific_attenuation(rate, ghz, 30, 45)
    )


@given(wet, st.floats(8, 30), st.floats(10, 70))
def test_level_polarisation_suffers_most_and_circular_lies_between(
    rate: float, ghz: float, el: float
) -> None:
    level, circular, upright = (float(specific_attenuation(rate, ghz, el, t)) for t in (0, 45, 90))
    assert level >= circular >= upright


@given(wet, st.floats(0.01, 1.0), st.floats(1.2, 4), st.floats(40, 60))
def test_the_rarer_the_rain_the_deeper_the_fade(
    rate: float, p: float, times: float, lat: float
) -> None:
    climate = Climate(rate, 3.0)
    rare, common = (
        float(attenuation_db(climate, lat, 0, 12_000, 30, 45, x)) for x in (p, p * times)
    )
    assert rare > common > 0


def test_above_the_rain_there_is_none() -> None:
    assert float(attenuation_db(Climate(40, 2.0), 45, 2500, 12_000, 30, 45, 0.1)) == 0
    assert float(attenuation_db(Climate(0, 2.0), 45, 0, 12_000, 30, 45, 0.1)) == 0
    many = attenuation_db(Climate(40, 3.0), 45, 0, [11_000, 12_000], 30, [0, 90], 0.1)
    assert many.shape == (2,)


# --- beams and feeds -----------------------------------------------------------------------------


@given(st.floats(0.3, 5), st.floats(3_500, 30_000))
def test_gain_and_width_go_together(size: float, mhz: float) -> None:
    """Twice the dish is 6 dB and half the width."""
    assert dish_gain_dbi(2 * size, mhz, 0.6) - dish_gain_dbi(size, mhz, 0.6) == pytest.approx(
        6.02, abs=0.01
    )
    assert dish_beamwidth_deg(size, mhz) == pytest.approx(2 * dish_beamwidth_deg(2 * size, mhz))
    width = dish_beamwidth_deg(size, mhz)
    assert float(off_axis_loss_db(width / 2, width)) == pytest.approx(3.0)


@given(st.floats(0.4, 3), st.floats(10_000, 13_000), st.floats(0, 90), st.floats(0.01, 5))
def test_the_pattern_never_rises_away_from_the_axis(
    size: float, mhz: float, offset: float, more: float
) -> None:
    near, far = (float(pattern_gain_dbi(o, size, mhz, 0.65)) for o in (offset, offset + more))
    # One step of the reference pattern rises: from 7.9 dBi at 9.2° to 32 - 25 log.
    assert far <= near + 0.25


@given(st.floats(0.5, 2.5), st.floats(0.35, 0.9), st.floats(0.005, 0.08))
@examples(7, 150)
def test_feeds_either_side_are_mirror_images(size: float, ratio: float, aside: float) -> None:
    dish = multifeed.Paraboloid(size, size * ratio, size * 0.5)
    side, up, lost = multifeed.displaced(dish, [aside, -aside], 0.0, 11_700)
    assert float(side[0]) == pytest.approx(-float(side[1]), abs=1e-6)
    assert float(up[0]) == pytest.approx(float(up[1]), abs=1e-6)
    assert float(lost[0]) == pytest.approx(float(lost[1]), abs=1e-6)
    assert float(side[0]) < 0  # a feed on the right throws its beam to the left


@given(st.floats(0.6, 1.6), st.floats(2, 7))
@examples(5, 100)
def test_a_longer_focus_loses_less_beside_it(size: float, angle: float) -> None:
    short = multifeed.feed_place(multifeed.Paraboloid(size, 0.45 * size, 0.0), angle, 0.0, 11_700)
    long = multifeed.feed_place(multifeed.Paraboloid(size, 0.8 * size, 0.0), angle, 0.0, 11_700)
    assert long[2] < short[2] + 1e-9
    assert abs(long[0]) > abs(short[0])


@given(st.floats(300, 1500), st.floats(0.75, 0.98), st.floats(0.05, 0.2))
def test_the_rims_are_as_far_as_a_paraboloid_says(
    height: float, narrow: float, deep: float
) -> None:
    found = offset_reflector(height, height * narrow, height * deep)
    # Any point of a paraboloid lies as far from the focus as from the directrix.
    for sign, distance in ((-1, found.low_mm), (1, found.high_mm)):
        r = found.centre_mm + sign * height * narrow / 2
        assert distance == pytest.approx(found.focal_mm + r**2 / (4 * found.focal_mm))
    assert found.high_mm > found.low_mm
    assert 0 < found.half_angle_deg < 120


# --- motors --------------------------------------------------------------------------------------


@given(st.floats(15, 62), st.floats(5, 55))
@examples(7, 150)
def test_a_motor_turns_as_far_east_as_west(lat: float, away: float) -> None:
    set_to = polar.settings(round(lat, 1), 30.0)
    east, west = polar.stops(
        round(lat, 1), 0.0, 0.0, set_to, [("e", "e", away, 1.0), ("w", "w", -away, 1.0)], 80.0
    )
    assert east.hour_deg == pytest.approx(-west.hour_deg, abs=1e-6)
    assert abs(west.hour_deg) > away  # nearer than the earth's middle, the arc turns faster


@given(st.floats(15, 62))
@examples(5, 100)
def test_a_southern_mount_is_a_northern_one_turned_round(lat: float) -> None:
    north, south = polar.settings(round(lat, 1), 30.0), polar.settings(-round(lat, 1), 30.0)
    assert north.axis_deg == pytest.approx(south.axis_deg, abs=1e-6)
    assert north.declination_deg == pytest.approx(south.declination_deg, abs=1e-6)
    assert north.south
    assert not south.south
    assert north.worst_deg < 0.02


@pytest.mark.parametrize(("latitude", "declination"), [(20.0, 3.05), (40.0, 5.7), (53.5, 7.0)])
def test_declination_offsets_are_those_of_the_usual_tables(
    latitude: float, declination: float
) -> None:
    """Tables that come with motors give about these, for an axis a little above the latitude
    (common practice, no source)."""
    found = polar.settings(latitude, 30.0)
    assert found.declination_deg == pytest.approx(declination, abs=0.4)
    assert 0 <= found.axis_deg - latitude < 0.9
    assert found.dish_scale_deg == pytest.approx(30 - found.declination_deg)


def test_satellites_out_of_reach_say_why() -> None:
    set_to = polar.settings(50.0, 30.0)
    rows = [
        ("a", "Low", 85.0, 1.0),
        ("b", "Far", 60.0, 1.0),
        ("c", "Hid", 10.0, -2.0),
        ("d", "Free", -5.0, 3.0),
    ]
    why = {s.name: (s.reached, s.why) for s in polar.stops(50.0, 0.0, 0.0, set_to, rows, 55.0)}
    assert why["Low"] == (False, "below the horizon")
    assert why["Far"] == (False, "the motor ends at 55°")
    assert why["Hid"] == (False, "behind the skyline")
    assert why["Free"] == (True, "")
    assert polar.stops(50.0, 0.0, 0.0, set_to, [], 55.0) == []
    assert "south" in polar.order_of_tuning(True, [])[1]
