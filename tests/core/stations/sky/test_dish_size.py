"""A dish too small for its service or its neighbours is told at Sky and Aim, without any run."""

from __future__ import annotations

import math
from typing import Any

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.job import Carrier, Dish, Job, SatelliteFeed, Site, Target
from evtro.core.job.targets import sight_of
from evtro.core.physics.beams import dish_beamwidth_deg
from evtro.core.physics.propagation.rain import Climate
from evtro.core.stations.aim.dish.link_view import link_view
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.sky.dish_size import band_choice
from evtro.core.stations.sky.receiving import ReceivingDish
from evtro.core.units.quantities import text_of

SITE = Site(latitude_deg=50.0, longitude_deg=10.0)
PARTS = catalogue.load()


def _carrier(
    i: int, target: str, eirp: float = 50.0, modulation: str = "DVB-S2 8PSK 3/4"
) -> Carrier:
    return Carrier(
        id=f"c{i}",
        target=target,
        name=f"X{i}",
        frequency_mhz=11_700,
        bandwidth_mhz=27.5,
        polarisation="V",
        power=eirp,
        modulation=modulation,
    )


def _answers(
    diameter: float,
    eirp: float = 50.0,
    modulation: str = "DVB-S2 8PSK 3/4",
    spacing: float = 0.0,
    circular: bool = False,
    **dish: Any,
) -> Answers:
    targets = [Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=10, circular=circular)]
    if spacing:
        targets.append(
            Target(id="t2", kind="satellite", name="Avocet", orbit_deg_e=10 + spacing, wanted=False)
        )
    feeds = dish.pop("feeds", ())
    job = Job(
        name="x",
        date="2026-03-25",
        site=SITE,
        targets=tuple(targets),  # type: ignore[arg-type]
        carriers=(_carrier(1, "t1", eirp, modulation),),
        feeds=feeds,
        dishes=(
            Dish(**({"id": "a1", "name": "Dish", "target": "t1", "diameter_m": diameter} | dish)),
        ),
    )
    return work_out(job, PARTS, profiles.load("europe"))


def _codes(answers: Answers) -> dict[str, str]:
    return {
        f"{p.station}:{p.code}": p.state for p in answers.problems if p.code.startswith("dish-")
    }


def test_a_dish_too_small_is_out_at_sky_and_aim_without_a_run() -> None:
    small = _answers(0.35, eirp=42)
    assert _codes(small) == {"sky:dish-small": "fail", "aim:dish-small": "fail"}
    assert (small.sky.state, small.aim.state, small.aim.aims[0].state) == ("fail", "fail", "fail")
    large = _answers(1.2, eirp=48)
    assert _codes(large) == {}
    assert large.sky.state == "ok"


@pytest.mark.parametrize("eirp", [38.0, 42.0, 46.0])
@pytest.mark.parametrize("start", ["fail", "marginal"])
def test_the_size_that_is_named_does(eirp: float, start: str) -> None:
    """Whoever takes it has nothing left to mend, and it is never smaller than the dish there is."""
    sizes = [n / 20 for n in range(4, 60)]
    now = next(d for d in sizes if start in _codes(_answers(d, eirp=eirp)).values())
    said = next(p for p in _answers(now, eirp=eirp).sky.problems if p.code == "dish-small")
    need = next(x.value for x in said.remedy if not isinstance(x, str))
    assert need > now
    assert _codes(_answers(need, eirp=eirp)) == {}
    # The next twentieth of a metre: one less still lacks reserve.
    assert "sky:dish-small" in _codes(_answers(need - 0.06, eirp=eirp))


def test_what_no_dish_brings_is_said_so() -> None:
    said = next(p for p in _answers(0.8, eirp=5).sky.problems if p.code == "dish-small")
    assert "No dish up to 12 m" in text_of(said.remedy)


def test_a_linear_dish_too_small_for_its_neighbours_spacing() -> None:
    """By hand: 0.45 m at 11.7 GHz is 3.99 degrees wide; a neighbour 2.2 degrees away on the sky lies
    12 (2.2/3.99)² = 3.7 dB down, and 10 dB want 70 x 0.02562 x sqrt(10/12) / 2.2 = 0.74 m."""
    answers = _answers(0.45, spacing=2.0)
    said = next(p for p in answers.sky.problems if p.code == "dish-neighbours")
    assert said.gauge is not None
    away = next(x.value for x in said.limit if not isinstance(x, str))
    assert said.gauge.value == pytest.approx(12 * (away / dish_beamwidth_deg(0.45, 11_700)) ** 2)
    need = next(x.value for x in said.remedy if not isinstance(x, str))
    assert need == pytest.approx(70 * 0.025623 * math.sqrt(10 / 12) / away, abs=0.05)
    assert "dish-neighbours" not in str(_codes(_answers(need, spacing=2.0)))
    assert "dish-neighbours" not in str(_codes(_answers(0.45, spacing=7.0)))
    assert "dish-neighbours" not in str(_codes(_answers(0.45, spacing=2.0, circular=True)))


def test_a_neighbour_on_the_same_dish_is_no_neighbour() -> None:
    both = _answers(0.45, spacing=2.0, feeds=(SatelliteFeed(id="f1", antenna="a1", target="t2"),))
    assert "dish-neighbours" not in str(_codes(both))


def test_a_leaning_mast_can_make_a_dish_too_small_for_aim_alone() -> None:
    """A mast that leans 20 degrees sideways turns the skew as far: 0.5 dB less. Of the dishes that
    only just do, one does no more at Aim; Sky, which knows of no mast, has nothing against it."""
    alone = 0
    for hundredths in range(40, 90):
        upright = _codes(_answers(hundredths / 100, eirp=44))
        leaning = _codes(_answers(hundredths / 100, eirp=44, lean_deg=20, lean_bearing_deg=270))
        if upright:
            assert set(upright) == set(leaning)
            assert leaning["aim:dish-small"] in ("fail", upright["aim:dish-small"])
        elif leaning:
            assert set(leaning) == {"aim:dish-small"}
            alone += 1
    assert alone >= 1


def test_each_band_says_what_it_would_ask_for() -> None:
    sight = sight_of(SITE, Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=10))
    assert sight is not None
    wet = Climate(40.0, 2.5)
    rows = band_choice(
        ReceivingDish(0.8, 0.65), sight, 50.0, 100.0, [_carrier(1, "t1", 51.5)], wet, 99.7
    )
    assert [r.band for r in rows] == ["C", "Ku", "Ka"]
    c, ku, ka = rows
    assert (ku.eirp_dbw, ku.frequency_mhz) == (51.5, 11_700)
    assert "list" in ku.origin
    assert "no source" in c.origin
    assert (c.rain_db or 0) < 0.2 < (ku.rain_db or 0) < (ka.rain_db or 0)
    assert c.smallest_m is not None
    assert ku.smallest_m is not None
    assert c.smallest_m > 2 * ku.smallest_m
    assert c.beamwidth_deg == pytest.approx(dish_beamwidth_deg(c.smallest_m, c.frequency_mhz))
    dry = band_choice(ReceivingDish(0.8, 0.65), sight, 50.0, 100.0, [_carrier(1, "t1")], None, 99.7)
    assert all(r.rain_db is None for r in dry)


def test_the_link_page_holds_the_bands() -> None:
    from evtro.demo.world import demo_jobs

    view = link_view(
        NetworkContext(demo_jobs()["skerry-house"], PARTS, profiles.load("europe")), "a1", None
    )
    assert view is not None
    assert [b.band for b in view.satellites[0].bands] == ["C", "Ku", "Ka"]
