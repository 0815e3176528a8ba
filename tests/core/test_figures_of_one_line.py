"""Figures that one line works out, each with a value that can be checked on paper; many of them stand where other
tests look only at what comes of them."""

from __future__ import annotations

import datetime as dt
import math
from types import SimpleNamespace

import numpy as np
import pytest

from evtro.core.fixes.comparison import (
    SAME_DB,
    Figures,
    Judgement,
    NamedFigure,
    is_worse,
    regressions,
)
from evtro.core.job import Job
from evtro.core.job.profile import Profile
from evtro.core.network.echo import _share
from evtro.core.network.levels import _db
from evtro.core.physics.propagation.rain import Climate, attenuation_db
from evtro.core.physics.sun import sun, times_at_azimuth
from evtro.core.stations.aim.finding.search import STEP_OF_BEAM, sweep
from evtro.core.stations.aim.multifeed import Paraboloid, row_of_feeds
from evtro.core.stations.coax.checks.lnb import _together_dbuv
from evtro.core.stations.coax.drilling import fall_mm
from evtro.core.stations.coax.fixes.judge import carrier_figures
from evtro.core.stations.earth.zone import exemption
from evtro.core.stations.mast.guys import AxialLoad
from evtro.core.stations.mast.mounts import held
from evtro.core.stations.mast.statics import guys_of
from evtro.core.stations.mast.wind import area_m2
from evtro.core.units.angles import Token, angle
from evtro.core.units.severity import FAIL
from tests.refusals import refused


def test_decibels_and_shares_of_power() -> None:
    assert _share(np.array([0.0, 10.0, 20.0])) == pytest.approx([1.0, 0.1, 0.01])
    assert _db(np.array([100.0, 1e-4]), np.array([True, True])) == pytest.approx([20.0, -40.0])


def test_the_sun_of_a_worked_example() -> None:
    """Meeus, Astronomical Algorithms, example 25.a (from memory): declination -7.78507° on 1992-10-13 at 0 h
    dynamical time, 59 s after universal time. At the pole it is the elevation, less the parallax of 8.794″."""
    when = dt.datetime(1992, 10, 13, tzinfo=dt.UTC).timestamp() - 59
    _, elevation = sun(90.0, 0.0, when)
    parallax_deg = 8.794 / 3600 * math.cos(math.radians(7.78507))
    assert float(elevation) == pytest.approx(-7.78507 - parallax_deg, abs=1e-4)


@pytest.mark.parametrize("wanted", [358.5, 359.6, 0.4, 1.5])
def test_the_sun_is_found_on_both_sides_of_north(wanted: float) -> None:
    """South of the tropics it passes through north at noon."""
    ((moment, elevation),) = times_at_azimuth(-35.0, 149.0, dt.date(2026, 6, 21), wanted)[0]
    azimuth, height = sun(-35.0, 149.0, moment)
    assert (float(azimuth) - wanted + 180) % 360 - 180 == pytest.approx(0, abs=0.02)
    assert float(height) == pytest.approx(elevation, abs=0.01)


WET = Climate(rain_mm_h=30.0, rain_height_km=3.0)


def test_rain_by_elevation_and_latitude() -> None:
    """ITU-R P.618: the formulas for low and high paths meet at 5°; from 36° of latitude on nothing depends on it."""
    low, high = attenuation_db(WET, 50.0, 0.0, 11_700.0, np.array([4.99, 5.01]), 45.0, 0.01)
    assert low == pytest.approx(high, rel=0.05)
    here, there = (
        float(attenuation_db(WET, deg, 0.0, 11_700.0, 20.0, 45.0, 0.1)) for deg in (36.2, 60.0)
    )
    assert here == pytest.approx(there)


def test_how_far_a_carrier_is_outside() -> None:
    window = SimpleNamespace(least_dbuv=47.0, most_dbuv=77.0, margin_low_db=3.0)
    found = carrier_figures(
        window,  # type: ignore[arg-type]
        np.ones(5, bool),
        level_dbuv=np.array([40.0, 60.0, 80.0, 60.0, np.nan]),
        margin_db=np.array([5.0, 5.0, 5.0, 1.0, np.nan]),
        ranks_of=(np.array([FAIL, 0, FAIL, 0, 2], np.int8), np.array([0, 0, 0, FAIL, 2], np.int8)),
    )
    assert found["level"].outside == pytest.approx([7.0, -13.0, 3.0, -13.0, np.inf])
    assert found["margin"].outside == pytest.approx([-2.0, -2.0, -2.0, 2.0, np.inf])
    assert found["level"].rank.tolist() == [FAIL, 0, FAIL, 0, FAIL]
    assert found["margin"].rank.tolist() == [0, 0, 0, FAIL, FAIL]


def test_what_is_out_may_not_fall_deeper() -> None:
    out, before = np.array([FAIL]), np.array([3.0])
    for more, worse in ((0.0, False), (SAME_DB / 2, False), (SAME_DB * 2, True), (-1.0, False)):
        found = is_worse(out, out, before, outside_after=before + more, same=SAME_DB)
        assert found.tolist() == [worse]
    assert is_worse([0], [1], before, outside_after=before, same=SAME_DB).tolist() == [True]


def _judgement(**ranks: list[int]) -> Judgement:
    return Judgement(
        {
            name: Figures(np.array(rank, np.int8), np.array(rank, float), np.ones(len(rank), bool))
            for name, rank in ranks.items()
        }
    )


def test_a_gain_of_one_figure_does_not_hide_the_loss_of_another() -> None:
    """The level of a carrier comes in, and its margin goes out: that is worse, whatever the sum says."""
    before = _judgement(level=[FAIL, 0], margin=[0, 0])
    after = _judgement(level=[0, 0], margin=[FAIL, 0])
    assert list(regressions(before, after)) == ["margin"]
    assert list(regressions(after, before)) == ["level"]
    assert not list(regressions(before, _judgement(level=[0, 0], margin=[0, 0])))


def test_named_figures_are_compared_each_with_its_own() -> None:
    def named(**figures: NamedFigure) -> Judgement:
        return Judgement(named={name: [one] for name, one in figures.items()})

    over = NamedFigure("fail", 100.0, same=2.0)
    assert not list(regressions(named(bolt=over), named(bolt=NamedFigure("fail", 101.5, same=2.0))))
    assert list(regressions(named(bolt=over), named(bolt=NamedFigure("fail", 103.0)))) == ["bolt"]
    assert list(regressions(named(), named(tube=NamedFigure("marginal")))) == ["tube"]
    assert not list(regressions(named(), named(tube=NamedFigure("ok"))))
    assert not list(regressions(named(bolt=over), named()))


def test_carriers_of_one_state_of_the_line_add_up() -> None:
    low, high = (13.0, False), (18.0, False)
    two = np.array([60.0, 60.0])
    assert _together_dbuv(two, (low, high)) == pytest.approx(60.0)
    assert _together_dbuv(two, (low, low)) == pytest.approx(63.01, abs=0.01)


def test_a_sweep_with_the_azimuth_first() -> None:
    """A degree of bearing is narrow on the sky where the dish looks high."""
    high, flat = (sweep(el, 5.0, 2.0, 2.0, azimuth_first=True) for el in (62.0, 1.0))
    assert high.raise_deg == pytest.approx(2.0 * STEP_OF_BEAM / math.cos(math.radians(60)))
    assert flat.raise_deg == pytest.approx(2.0 * STEP_OF_BEAM)
    assert high.half_deg == pytest.approx(3.0)


def test_a_row_of_feeds_across_north_is_one_across_south() -> None:
    dish = Paraboloid(diameter_m=1.2, focal_m=0.72, centre_m=0.0)
    rows = [
        row_of_feeds(dish, [("a", "A", az - 4, 30.0), ("b", "B", az + 4, 30.0)], -1, 11_700.0, 40.0)
        for az in (180.0, 360.0)
    ]
    south, north = ([f.offset_mm for f in row.feeds] for row in rows)
    assert north == pytest.approx(south)
    assert south[0] == pytest.approx(-south[1])
    assert rows[1].azimuth_deg % 360 == pytest.approx(0.0, abs=1e-6)


def test_a_hole_falls_by_its_slope() -> None:
    assert fall_mm(0.3) == pytest.approx(300 * math.tan(math.radians(5)), rel=1e-6)


def test_the_wind_on_a_dish_goes_with_its_face(skerry: Job) -> None:
    dish = next(d for d in skerry.dishes)
    areas = [
        area_m2(
            skerry,
            dish.model_copy(
                update={
                    "diameter_m": size,
                    "area_from": "size",
                    "reflector_height_mm": None,
                    "reflector_width_mm": None,
                }
            ),
        )[0]
        for size in (0.6, 1.2)
    ]
    assert areas[1] == pytest.approx(4 * areas[0])


def test_a_pressed_tube_bends_more() -> None:
    """Half of the load that buckles it doubles every moment: 1/(1 - P/P_E), as every book on columns has it."""
    assert AxialLoad(50.0, 100.0).moment_amplification == pytest.approx(2.0)
    assert AxialLoad().moment_amplification == 1.0


def test_guys_tied_to_the_very_top_hold(skerry: Job) -> None:
    mast = skerry.mast.model_copy(
        update={"length_m": 4.0, "held_m": 0.8, "guys": 3, "guy_out_m": 3.0, "fixing": "wall"}
    )
    assert guys_of(mast.model_copy(update={"guy_m": 4.0 - 0.8})) is not None
    assert guys_of(mast.model_copy(update={"guy_m": 3.3})) is None


@pytest.mark.parametrize(("moment_nm", "shear_n"), [(900.0, 100.0), (60.0, 400.0)])
def test_ballast_that_is_easy_leaves_a_tenth(skerry: Job, moment_nm: float, shear_n: float) -> None:
    """Where it turns over first, and where it slides first."""
    mast = skerry.mast.model_copy(update={"fixing": "ballast", "foot_m": 1.2, "ballast_kg": 0.0})
    easy = held(mast, moment_nm, shear_n, 20.0).ballast_easy_kg
    used = held(mast.model_copy(update={"ballast_kg": easy}), moment_nm, shear_n, 20.0)
    parts = [g.value / g.high for g in (used.overturn, used.slide)]
    assert max(parts) == pytest.approx(0.9, rel=1e-3)


def test_indoors_and_in_the_loft_no_lightning_earth_is_asked_for(
    skerry: Job, europe: Profile
) -> None:
    for indoors, fixing in ((True, "wall"), (False, "loft"), (True, "loft")):
        job = skerry.model_copy(
            update={
                "earth": skerry.earth.model_copy(update={"indoors": indoors}),
                "mast": skerry.mast.model_copy(update={"fixing": fixing}),
            }
        )
        assert exemption(job, europe)[0], (indoors, fixing)


def test_a_side_or_a_sign_that_is_named_twice_is_refused() -> None:
    figure = Token("number", "51", False)
    for kind, text in (("side", "N"), ("sign", "-")):
        with refused("unreadable", "twice"):
            angle(
                [Token(kind, text, False), figure, Token(kind, text, False)], "51", "Type it once."
            )
