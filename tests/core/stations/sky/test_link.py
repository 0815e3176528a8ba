"""The link budget and the frequency plan on cases with known answers."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.job import Carrier, Job, SatelliteFeed
from evtro.core.job.context import JobParts
from evtro.core.job.targets import Sight
from evtro.core.physics.propagation.rain import Climate
from evtro.core.stations.aim.dish.link_view import link_view
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.sources.source_levels import sources_of
from evtro.core.stations.coax.views.frequency_plan import frequency_plan, wrong_oscillator
from evtro.core.stations.sky.interference import NeighbourSatellite, disturbances, interference_db
from evtro.core.stations.sky.link import link
from evtro.core.stations.sky.receiving import ReceivingDish, clear_sky, rain_fade_db
from evtro.core.units.quantities import text_of
from evtro.demo.world import demo_jobs

JOBS = demo_jobs()
CATALOGUE = catalogue.load()
SIGHT = Sight("t1", 150.0, 30.0, -12.0, 38_500.0, True, None)
WET = Climate(40.0, 2.5)


def _carrier(
    i: int = 1, f: float = 11_700.0, power: float = 50.0, pol: str = "V", width: float = 27.5
) -> Carrier:
    return Carrier(
        id=f"c{i}",
        target="t1",
        name=f"{f:.0f}",
        frequency_mhz=f,
        bandwidth_mhz=width,
        polarisation=pol,
        power=power,
        modulation="DVB-S2 8PSK 2/3",
    )  # type: ignore[arg-type]


def test_the_budget_adds_up_by_hand() -> None:
    """EIRP 50 dBW over 38 500 km to 0.8 m at 11.7 GHz, worked with a pocket calculator."""
    found = clear_sky(
        ReceivingDish(0.8, 0.65, lnb_noise_db=0.7, lnb_gain_db=55), 38_500, 30, 11_700, 50, 27.5
    )
    path = 92.45 + 20 * math.log10(38_500 * 11.7)
    gain = 10 * math.log10(0.65 * (math.pi * 0.8 * 11.7e9 / 299_792_458) ** 2)
    # ITU-R P.676: 0.0574 dB straight up at 11.7 GHz, twice that at 30 degrees; the sky behind it has
    # 275 (1 - 10^-0.01148) + 2.7 x 10^-0.01148 = 9.8 K (P.618), the ground gives 28 K.
    air = 2 * 0.0574
    sky = 275 * (1 - 10 ** (-air / 10)) + 2.7 * 10 ** (-air / 10)
    received = 50 - path - air - 0.3 + gain
    noise = -228.6 + 10 * math.log10(sky + 28 + 290 * (10**0.07 - 1)) + 10 * math.log10(27.5e6)
    assert float(found.path_db) == pytest.approx(path, abs=0.01)
    assert float(found.cn_db) == pytest.approx(received - noise, abs=0.02)
    assert float(found.level_dbuv) == pytest.approx(received + 30 + 108.75 + 55, abs=0.02)


def test_the_terms_lead_from_the_satellite_to_the_port() -> None:
    row = link(
        ReceivingDish(0.8, 0.65, 1.2, 8.0), SIGHT, 50, 100, [_carrier()], [], WET, 99.7, 1.0
    )[0]
    power = 0.0
    for i, term in enumerate(row.terms):
        power = term.after_dbw if i == 0 else power + term.change_db
        assert term.after_dbw == pytest.approx(power)
    assert {t.name for t in row.terms} == {
        "EIRP",
        "Free space",
        "Air",
        "Rain",
        "Pointing",
        "Skew",
        "Feed off focus",
        "Dish gain",
        "LNB gain",
    }
    # The plant starts in clear sky; the waterfall with rain ends lower by just the rain.
    assert row.terms[-1].after_dbw + 30 + 108.75 + (row.rain_db or 0) == pytest.approx(
        row.level_dbuv
    )


@pytest.mark.parametrize(("efficiency", "said"), [(0.65, "65 %"), (0.5, "50 %"), (0.7, "70 %")])
def test_the_gain_says_of_which_dish(efficiency: float, said: str) -> None:
    row = link(ReceivingDish(0.8, efficiency), SIGHT, 50, 100, [_carrier()], [], WET, 99.7, 1.0)[0]
    (gain,) = (t for t in row.terms if t.name == "Dish gain")
    assert text_of(gain.said) == f"0.80 m, {said} efficient"


@given(st.floats(0.4, 3.0), st.floats(0.05, 2.0))
def test_a_larger_dish_never_loses(size: float, more: float) -> None:
    others = [NeighbourSatellite("N", 152.6, 30.3, (_carrier(2),))]
    one, two = (
        link(ReceivingDish(d, 0.65), SIGHT, 50, 100, [_carrier()], others, WET, 99.9, 1.0)[0]
        for d in (size, size + more)
    )
    assert two.total_db >= one.total_db - 0.3  # a side lobe may pass over the neighbour
    assert two.cn_db > one.cn_db


@given(st.floats(99.0, 99.98))
def test_more_availability_wants_more_dish(percent: float) -> None:
    dish = ReceivingDish(0.8, 0.65)
    low, high = (
        link(dish, SIGHT, 50, 100, [_carrier(power=47)], [], WET, p, 1.0)[0]
        for p in (percent, percent + 0.015)
    )
    assert (high.rain_db or 0) > (low.rain_db or 0)
    assert (high.smallest_m or 99) >= (low.smallest_m or 0)


def test_the_smallest_dish_is_just_enough() -> None:
    row = link(ReceivingDish(0.8, 0.65), SIGHT, 50, 100, [_carrier(power=46)], [], WET, 99.9, 1.0)[
        0
    ]
    assert row.smallest_m is not None
    at = link(
        ReceivingDish(row.smallest_m, 0.65),
        SIGHT,
        50,
        100,
        [_carrier(power=46)],
        [],
        WET,
        99.9,
        1.0,
    )[0]
    under = link(
        ReceivingDish(row.smallest_m - 0.05, 0.65),
        SIGHT,
        50,
        100,
        [_carrier(power=46)],
        [],
        WET,
        99.9,
        1.0,
    )[0]
    assert (at.rain_margin.value or 0) >= 0 > (under.rain_margin.value or 0)


def test_availability_is_where_the_margin_ends() -> None:
    row = link(ReceivingDish(0.8, 0.65), SIGHT, 50, 100, [_carrier(power=48)], [], WET, 99.9, 1.0)[
        0
    ]
    assert row.available_pct is not None
    at = link(
        ReceivingDish(0.8, 0.65),
        SIGHT,
        50,
        100,
        [_carrier(power=48)],
        [],
        WET,
        row.available_pct,
        1.0,
    )[0]
    assert 0 <= (at.rain_margin.value or -1) < 1.2


def test_rain_takes_more_than_its_attenuation() -> None:
    fade = rain_fade_db(np.array([0.0, 1.0, 3.0]), 0.12, 80.0)
    assert fade[0] == 0
    assert fade[1] > 1.9
    assert fade[2] > 4.5


def test_only_what_shares_frequency_and_polarisation_disturbs() -> None:
    dish, mine = ReceivingDish(0.6, 0.65), [_carrier()]
    f = np.array([11_700.0])

    def ratio(az: float, other: Carrier) -> float:
        found = disturbances(SIGHT, mine, [NeighbourSatellite("N", az, 30.2, (other,))])
        return float(interference_db(dish, found, f)[0])

    near = ratio(152.8, _carrier(2))
    assert 5 < near < 25
    # The other polarisation falls in as far as it is tilted against this one: here by 12 degrees.
    assert ratio(152.8, _carrier(2, pol="H")) == pytest.approx(
        near - 10 * math.log10(math.sin(math.radians(12)) ** 2 / math.cos(math.radians(12)) ** 2),
        abs=0.01,
    )
    assert ratio(152.8, _carrier(2, f=11_800)) == math.inf
    assert ratio(170.0, _carrier(2)) > near + 8
    # Half a carrier's overlap disturbs half as much, a louder neighbour as much more.
    assert ratio(152.8, _carrier(2, f=11_713.75)) == pytest.approx(near + 3.01, abs=0.05)
    assert ratio(152.8, _carrier(2, power=53.0)) == pytest.approx(near - 3.0, abs=0.01)


def test_the_demo_link_is_where_the_plant_starts(skerry: Job) -> None:
    view = link_view(NetworkContext(skerry, CATALOGUE, profiles.load("europe")), "a1", None)
    assert view is not None
    sources = sources_of(JobParts(skerry, CATALOGUE), {})
    for row in view.satellites[0].rows:
        meant = sources.meant(sources.ids.index(row.carrier))
        assert meant is not None
        assert meant[0] == pytest.approx(row.level_dbuv)
    assert view.rain_mm_h is None
    assert {r.disturber for r in view.satellites[0].rows} >= {"Avocet"}
    assert link_view(NetworkContext(skerry, CATALOGUE, profiles.load("europe")), "a2", None) is None


def test_below_the_horizon_there_is_no_link() -> None:
    under = Sight("t1", 150.0, -3.0, 0.0, 42_000.0, False, None)
    assert link(ReceivingDish(0.8, 0.65), under, 50, 100, [_carrier()], [], None, 99.7, 1.0) == []
    assert link(ReceivingDish(0.8, 0.65), SIGHT, 50, 100, [], [], None, 99.7, 1.0) == []


# --- frequencies ---------------------------------------------------------------------------------


def test_c_band_on_one_cable_is_stacked_and_inverted() -> None:
    plan = frequency_plan(JobParts(JOBS["kauri-flat"], CATALOGUE), "a1")[0]
    by_pol = {line.polarisation: line for line in plan.lines}
    assert by_pol["V"].lo_mhz == 5150
    assert by_pol["H"].lo_mhz == 5750
    for line in plan.lines:
        assert line.inverted
        assert line.if_mhz == pytest.approx((line.lo_mhz or 0) - line.frequency_mhz)
        low, high = (950, 1450) if line.polarisation == "V" else (1550, 2050)
        assert low <= (line.if_mhz or 0) <= high
        assert line.state == "ok"
    assert any("both polarisations" in r for r in plan.receiver)


def test_a_part_that_stops_the_if_is_named() -> None:
    job = JOBS["kauri-flat"]
    parts = tuple(
        p.model_copy(update={"type": "filter-694"}) if p.id == "p2" else p for p in job.parts
    )
    plan = frequency_plan(JobParts(job.model_copy(update={"parts": parts}), CATALOGUE), "a1")[0]
    assert all(line.state == "fail" for line in plan.lines)
    assert "passes" in plan.lines[0].stopped_by


def test_ka_in_two_blocks_needs_parts_that_pass_both() -> None:
    hut = JOBS["tern-hut"]
    parts = tuple(
        p.model_copy(update={"type": "lnb-ka-two-blocks"}) if p.id == "p1" else p for p in hut.parts
    )
    rows = tuple(
        c.model_copy(update={"frequency_mhz": f, "polarisation": "L"})
        for c, f in zip(hut.carriers[:2], (18_450.0, 19_900.0), strict=True)
    )
    plan = frequency_plan(
        JobParts(hut.model_copy(update={"parts": parts, "carriers": rows}), CATALOGUE), "a1"
    )[0]
    low, high = plan.lines
    assert low.if_mhz == 400
    assert high.if_mhz == 1850
    assert "950 to 2150" in low.stopped_by  # the modem's input
    assert high.state == "ok"


def test_user_bands_are_given_by_turns() -> None:
    job = JOBS["fern-cottage"]
    parts = tuple(
        p.model_copy(update={"type": "lnb-user-band-8"}) if p.id == "p8" else p for p in job.parts
    )
    plan = frequency_plan(JobParts(job.model_copy(update={"parts": parts}), CATALOGUE), "a2")[0]
    assert [line.slot for line in plan.lines] == [1, 2]
    assert plan.lines[0].if_mhz == 985
    assert len(plan.user_bands) == 8
    assert "user band 1" in plan.lines[0].told


def test_a_wrong_oscillator_tunes_what_lies_that_far_off(skerry: Job) -> None:
    plan = frequency_plan(JobParts(skerry, CATALOGUE), "a1")[0]
    own = [c for c in skerry.carriers if c.target == "t1"]
    right = wrong_oscillator([line for line in plan.lines if line.lo_mhz == 9750], 9750, own)
    assert all(w.finds == "itself" for w in right)
    wrong = wrong_oscillator(plan.lines, 10_000, own)
    low = next(w for w in wrong if w.carrier == "c4")
    # Asked for 10 714 with 10 000: the IF of 714 is really 10 464 through 9 750.
    assert low.asked_mhz == pytest.approx(714)
    assert low.tunes_mhz == pytest.approx(10_464)
    assert low.finds == "nothing"


def test_a_carrier_outside_the_lnb_is_told(skerry: Job) -> None:
    moved = tuple(
        c.model_copy(update={"frequency_mhz": 13_500.0}) if c.id == "c4" else c
        for c in skerry.carriers
    )
    plan = frequency_plan(JobParts(skerry.model_copy(update={"carriers": moved}), CATALOGUE), "a1")[
        0
    ]
    line = next(x for x in plan.lines if x.carrier == "c4")
    assert line.state == "fail"
    assert "13500 MHz" in line.stopped_by


def test_each_satellite_is_reckoned_with_its_own_lnb(skerry: Job) -> None:
    """The second satellite of a dish has no LNB yet: a usual one counts, not the first one's."""
    noisy = next(k for k, p in CATALOGUE.parts.items() if p.bands and (p.noise_db or 0) > 1)
    parts = tuple(
        p.model_copy(update={"type": noisy}) if p.antenna == "a1" else p for p in skerry.parts
    )
    other = next(c.target for c in skerry.carriers if c.target not in ("t1", "t3"))
    feed = SatelliteFeed(id="f1", antenna="a1", target=other)
    both = skerry.model_copy(update={"parts": parts, "feeds": (feed,)})
    bare = both.model_copy(update={"parts": ()})
    first, second = (
        {t.target: t.rows for t in view.satellites}
        for job in (both, bare)
        if (view := link_view(NetworkContext(job, CATALOGUE, profiles.load("europe")), "a1", None))
        is not None
    )
    assert all(a.cn_db < b.cn_db for a, b in zip(first["t1"], second["t1"], strict=True))
    assert [r.cn_db for r in first[other]] == [r.cn_db for r in second[other]]
    assert first[other]
