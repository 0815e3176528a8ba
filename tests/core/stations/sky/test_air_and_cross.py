"""Clear air by elevation, band and vapour; what a wrong skew lets in; neighbours of the other side."""

from __future__ import annotations

import math

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Carrier, Dish, Job, Site, Target
from evtro.core.job.targets import Sight
from evtro.core.physics.propagation.air import STANDARD, gas_db, ground_k, sky_k
from evtro.core.stations.aim.dish.link_view import link_view
from evtro.core.stations.aim.dishes import link_dish
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.sky.interference import NeighbourSatellite, disturbances, interference_db
from evtro.core.stations.sky.link import link
from evtro.core.stations.sky.receiving import ReceivingDish, clear_sky
from evtro.demo.world import demo_jobs

PARTS = catalogue.load()
EUROPE = profiles.load("europe")
SIGHT = Sight("t1", 150.0, 30.0, -12.0, 38_500.0, True, None)


def _carrier(i: int = 1, f: float = 11_700.0, pol: str = "V", power: float = 50.0) -> Carrier:
    return Carrier(
        id=f"c{i}",
        target="t1",
        name=f"{f:.0f}",
        frequency_mhz=f,
        bandwidth_mhz=27.5,
        polarisation=pol,
        power=power,
        modulation="DVB-S2 8PSK 2/3",
    )  # type: ignore[arg-type]


def test_noise_and_air_grow_toward_the_horizon_and_with_the_band() -> None:
    """One constant for all of them was what stood there before."""
    elevations = [70.0, 30.0, 15.0, 8.0]
    found = [
        clear_sky(ReceivingDish(0.8, 0.65), 38_500, e, [4_000, 11_700, 20_000], 50, 27.5)
        for e in elevations
    ]
    noise = np.array([f.sky_k + f.ground_k for f in found])
    air = np.array([f.air_db for f in found])
    assert (np.diff(noise, axis=0) > 0).all()
    assert (np.diff(air, axis=0) > 0).all()
    assert (np.diff(noise, axis=1) > 0).all()
    assert noise[1, 1] == pytest.approx(38, abs=1.5)  # 40 K was the usual figure, at 30 degrees
    assert noise[3, 2] > 120


def test_a_typed_ground_noise_counts() -> None:
    plain = clear_sky(ReceivingDish(0.8, 0.65), 38_500, 30, 11_700, 50, 27.5)
    quiet = clear_sky(ReceivingDish(0.8, 0.65, ground_k=5.0), 38_500, 30, 11_700, 50, 27.5)
    assert quiet.ground_k == 5.0
    assert plain.ground_k == ground_k(30.0) == 28.0
    assert float(quiet.cn_db) > float(plain.cn_db) + 0.5


def test_sky_temperature_by_hand() -> None:
    """275 (1 - 10^-0.1) + 2.7 x 10^-0.1 = 58.7 K behind 1 dB; 2.7 K behind nothing."""
    assert float(sky_k(1.0)) == pytest.approx(58.70, abs=0.01)
    assert float(sky_k(0.0)) == pytest.approx(2.7)
    assert float(gas_db(STANDARD, 11_700.0, 30.0)) == pytest.approx(2 * 0.0574, abs=1e-4)


# --- what a wrong skew lets in ----------------------------------------------------------------------


@pytest.mark.parametrize("error", [0.0, 3.0, 10.0, 25.0])
def test_the_other_polarisation_falls_in_by_tan_squared(error: float) -> None:
    """By hand: as loud on the same frequency, C/I = -10 log (tan² error + 10^-2.7)."""
    rows = [_carrier(1, pol="V"), _carrier(2, pol="H")]
    found = disturbances(SIGHT, rows, [], error)
    ratio = interference_db(ReceivingDish(0.8, 0.65), found, np.array([11_700.0, 11_700.0]))
    hand = -10 * math.log10(math.tan(math.radians(error)) ** 2 + 10**-2.7)
    assert ratio == pytest.approx([hand, hand], abs=1e-9)


def test_neighbours_of_the_other_polarisation_count_by_their_own_tilt() -> None:
    f = np.array([11_700.0])

    def ratio(pol: str, tilt: float | None, mine: str = "V", error: float = 0.0) -> float:
        other = NeighbourSatellite("N", 152.8, 30.2, (_carrier(2, pol=pol),), tilt)
        found = disturbances(SIGHT, [_carrier(pol=mine)], [other], error)
        return float(interference_db(ReceivingDish(0.6, 0.65), found, f)[0])

    same = ratio("V", -12.0)
    assert ratio("H", -12.0) == pytest.approx(
        same + 27.0, abs=0.01
    )  # only what the LNB lets through
    assert ratio("H", 33.0) == pytest.approx(same + 3.01, abs=0.01)  # tilted by 45 degrees: half
    assert ratio("V", 33.0) == pytest.approx(same + 3.01, abs=0.01)
    assert ratio("L", None) == pytest.approx(same + 3.01, abs=0.01)  # circular into linear: half
    assert ratio("L", None, "L") == pytest.approx(same, abs=0.01)
    assert ratio("R", None, "L") == pytest.approx(same + 27.0, abs=0.01)
    # A dish turned onto the neighbour's own tilt hears it fully, less what it keeps of its own.
    assert ratio("V", -2.0, error=10.0) < ratio("V", -2.0) - 0.05


def test_a_mast_that_leans_ten_degrees_sideways_shows_it() -> None:
    """The dish looks south, the mast leans to the west: the skew turns by as much, and the other
    polarisation comes in at 15 dB where it had been 27."""
    targets = (Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=10),)
    rows = (_carrier(1, pol="V"), _carrier(2, pol="H"))
    site = Site(latitude_deg=50.0, longitude_deg=10.0)

    def at(lean: float) -> tuple[float, float]:
        dish = Dish(id="a1", name="D", target="t1", lean_deg=lean, lean_bearing_deg=270)
        job = Job(
            name="x", date="2026-03-25", site=site, targets=targets, carriers=rows, dishes=(dish,)
        )  # type: ignore[arg-type]
        view = link_view(NetworkContext(job, PARTS, EUROPE), "a1", None)
        assert view is not None
        row = view.satellites[0].rows[0]
        assert row.interference_db is not None
        return row.interference_db, row.margin.value or 0.0

    upright, leaning = at(0.0), at(10.0)
    assert upright[0] == pytest.approx(27.0, abs=0.01)
    assert leaning[0] < 16.0
    assert leaning[1] < upright[1] - 0.5


def test_what_leans_reaches_the_outlets_too() -> None:
    """The plant starts with the same interference: no verdict "in" on a skew that is far off."""
    job = demo_jobs()["skerry-house"]
    dish = job.dishes[0]
    bad = dish.model_copy(update={"lean_deg": 18.0, "lean_bearing_deg": 45.0})
    dishes = (bad, *job.dishes[1:])
    other = {"V": "H", "H": "V"}
    # The satellite sends on both polarisations of every frequency, as they all do.
    twins = tuple(
        c.model_copy(update={"id": f"c{500 + i}", "polarisation": other[c.polarisation]})
        for i, c in enumerate(job.carriers)
        if c.target == dish.target
    )
    full = job.model_copy(update={"carriers": job.carriers + twins})
    before = work_out(full, PARTS, EUROPE).coax
    after = work_out(full.model_copy(update={"dishes": dishes}), PARTS, EUROPE).coax
    sat = {c.id for c in full.carriers if c.target == dish.target}
    assert after.state == "fail"
    pairs = [
        (a, b)
        for x, y in zip(before.outlets, after.outlets, strict=True)
        for a, b in zip(x.cells, y.cells, strict=True)
        if a.carrier in sat and a.cn_db and b.cn_db
    ]
    assert pairs
    assert all((b.cn_db or 0) < (a.cn_db or 0) - 2 for a, b in pairs)
    assert link_dish(full, bad, job.targets[0], 0.7, 55).skew_error_deg != 0


def test_the_disturber_is_named_after_the_dish_has_turned_from_it() -> None:
    """A loud neighbour far away counts for less than a quiet one close by."""
    near = NeighbourSatellite("Near", 152.5, 30.2, (_carrier(2, power=46),), -12.0)
    far = NeighbourSatellite("Far", 175.0, 33.0, (_carrier(3, power=52),), -12.0)
    row = link(
        ReceivingDish(0.6, 0.65), SIGHT, 50, 100, [_carrier()], [far, near], None, 99.7, 1.0
    )[0]
    assert row.disturber == "Near"
