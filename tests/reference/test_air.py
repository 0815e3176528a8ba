"""Gas attenuation and sky noise against the ITU-R models of a general library (ITU-Rpy)."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from evtro.core.physics.propagation.air import GHZ, STANDARD, gas_db, sky_k
from evtro.service.rain import RainMaps

# The library warns of its own approximation at both ends of its range, and of itself when it is loaded.
pytestmark = pytest.mark.filterwarnings(
    "ignore:The approximated method:RuntimeWarning",
    "ignore::DeprecationWarning",
    "ignore::SyntaxWarning",
)


@pytest.fixture(scope="module")
def itur() -> Any:
    """The library, which takes seconds to load, where it is asked for."""
    import itur

    return itur


PLACES = [(53.5, -10.0), (1.3, 103.8), (-33.9, 151.2), (69.6, 18.9), (25.2, 55.3)]


def test_the_standard_table_is_the_librarys(itur: Any) -> None:
    """ITU-R P.676-12 annex 2: 1013.25 hPa, 15 °C, 7.5 g/m³, straight up, to 1e-4 dB."""
    theirs = itur.gaseous_attenuation_slant_path(
        np.array(GHZ), 90.0, 7.5, 1013.25, 288.15, mode="approx"
    ).value
    assert np.array(STANDARD.zenith_db) == pytest.approx(theirs, abs=1e-4)


@pytest.mark.parametrize("elevation", [5.0, 10.0, 35.0, 90.0])
def test_slant_attenuation_against_the_library(itur: Any, elevation: float) -> None:
    """By its approximate model to 2 % (between the table's frequencies), by its line-by-line model
    to 8 % or 0.02 dB."""
    f = np.array([3.8, 4.1, 10.95, 11.45, 12.2, 12.7, 14.25, 17.8, 19.7, 20.2, 29.5])
    mine = gas_db(STANDARD, f * 1000, elevation)
    near = itur.gaseous_attenuation_slant_path(
        f, elevation, 7.5, 1013.25, 288.15, mode="approx"
    ).value
    exact = itur.gaseous_attenuation_slant_path(
        f, elevation, 7.5, 1013.25, 288.15, mode="exact"
    ).value
    assert mine == pytest.approx(near, rel=0.02)
    assert np.abs(mine - exact).max() < max(0.02, 0.08 * float(exact.max()))


@pytest.mark.parametrize(("lat", "lon"), PLACES)
def test_a_places_air_is_the_librarys(itur: Any, lat: float, lon: float) -> None:
    """The worker's look-up against the library's own one-call total for gases at that place."""
    climate = RainMaps().wait(lat, lon)
    assert climate is not None
    wet = itur.models.itu836.surface_water_vapour_density(lat, lon, 50, 0.0).value
    warm = itur.models.itu1510.surface_mean_temperature(lat, lon).value
    for ghz, elevation in ((11.7, 30.0), (20.0, 45.0), (22.25, 20.0)):
        theirs = itur.gaseous_attenuation_slant_path(ghz, elevation, wet, 1013.25, warm).value
        assert float(gas_db(climate.air, ghz * 1000, elevation)) == pytest.approx(theirs, rel=0.01)


def test_moist_air_takes_more_than_dry() -> None:
    wet, dry = RainMaps().wait(1.3, 103.8), RainMaps().wait(69.6, 18.9)
    assert wet is not None
    assert dry is not None
    assert float(gas_db(wet.air, 20_000, 30)) > 1.7 * float(gas_db(dry.air, 20_000, 30))


# ITU-R P.618-13 section 3: T = Tmr (1 - 10^(-A/10)) + 2.7 x 10^(-A/10), Tmr 275 K; worked by hand.
@pytest.mark.parametrize(
    ("attenuation", "kelvin"), [(0.1, 8.9), (0.5, 32.3), (3.0, 138.5), (10.0, 247.8)]
)
def test_sky_noise_by_hand(attenuation: float, kelvin: float) -> None:
    assert float(sky_k(attenuation)) == pytest.approx(kelvin, abs=0.1)
