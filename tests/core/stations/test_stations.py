"""Sky, Aim, Mast and Earth on small cases with known answers."""

from __future__ import annotations

import datetime as dt
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import profiles
from evtro.core.job import Conductor, Dish, Earth, Job, Mast, Obstruction, Target, edits
from evtro.core.job.parts import Catalogue
from evtro.core.job.profile import Profile
from evtro.core.job.targets import radio_horizon_km
from evtro.core.stations.aim import answer as aim
from evtro.core.stations.earth import answer as earth
from evtro.core.stations.mast import answer as mast
from evtro.core.stations.mast.figures import section_modulus_mm3
from evtro.core.stations.site.skyline import View, clear_of, edges_of, silhouettes
from evtro.core.stations.sky import answer as sky
from evtro.core.stations.times import timed
from evtro.core.units.quantities import Step
from evtro.demo.world import demo_jobs
from tests.changes import taken


def _block(top: float, start: float = 170, end: float = 190, **more: float) -> Obstruction:
    return Obstruction(id="b1", name="mill", from_deg=start, to_deg=end, top_deg=top, **more)


def _clear(az: float, el: float, *rows: Obstruction) -> float:
    """The least clearance from a mount 6 m up [deg]."""
    return float(clear_of(edges_of(rows, View(6)), az, el).min())


def test_clearance_over_a_block_is_the_elevation_left() -> None:
    assert _clear(180, 30, _block(12)) == pytest.approx(18, abs=0.05)


def test_clearance_beside_a_block_is_along_the_sky() -> None:
    # 10° of bearing at 20° elevation is 10° x cos 20° along the sky, nearly.
    assert _clear(160, 20, _block(40)) == pytest.approx(10 * math.cos(math.radians(20)), abs=0.1)


def test_inside_is_negative_and_nothing_has_no_angle() -> None:
    assert _clear(180, 5, _block(12)) < 0
    assert clear_of(edges_of((), View(6)), 180, 5).shape == (1, 0)


def test_a_block_over_north_is_seen_from_both_sides() -> None:
    north = _block(20, 350, 10)
    assert _clear(0, 10, north) < 0
    assert _clear(355, 10, north) < 0
    assert _clear(20, 10, north) > 9


@given(st.floats(1, 40), st.floats(0.5, 20), st.floats(5, 60))
def test_widening_an_obstruction_never_improves_clearance(
    top: float, wider: float, el: float
) -> None:
    narrow = _clear(200, el, _block(top, 170, 190))
    assert _clear(200, el, _block(top, 170, 190 + wider)) <= narrow + 0.02


def test_raising_the_mount_lowers_what_has_a_distance() -> None:
    near = Obstruction(
        id="b1", name="tree", from_deg=0, to_deg=9, distance_m=20, above_m=5, seen_from_m=6
    )
    assert silhouettes((near,), 6)[0].top_deg == pytest.approx(math.degrees(math.atan(5 / 20)))
    assert silhouettes((near,), 8)[0].top_deg == pytest.approx(math.degrees(math.atan(3 / 20)))


def test_the_raise_that_is_proposed_clears_and_less_does_not(
    skerry: Job, europe: Profile, parts: Catalogue
) -> None:
    problem = next(p for p in sky.work_out(skerry, europe).problems if p.code == "clearance")
    assert problem.change is not None
    fixed = taken(skerry, problem.change)
    assert all(p.code != "clearance" for p in sky.work_out(fixed, europe).problems)
    short = fixed.model_copy(
        update={
            "site": fixed.site.model_copy(
                update={"mount_height_m": fixed.site.mount_height_m - 0.2}
            )
        }
    )
    assert any(p.code == "clearance" for p in sky.work_out(short, europe).problems)


def test_a_satellite_below_the_horizon_is_told(skerry: Job, europe: Profile) -> None:
    job = edits.add_row(
        skerry, "targets", Target(id="t9", kind="satellite", name="Far", orbit_deg_e=170)
    )
    found = sky.work_out(job, europe)
    problem = next(p for p in found.problems if p.code == "below-horizon")
    assert problem.place == "Far"
    assert found.state == "fail"
    assert len(found.targets) == 4


def test_radio_horizon() -> None:
    """4.12 (√100 + √10) km, the trade's short form (common practice, no source)."""
    assert radio_horizon_km(100, 10) == pytest.approx(54.2, abs=0.1)


# Datum, constant: what the tool reads at 33.6° with an offset of 20.8°. The structure's figure is
# a practitioner's worked case (common practice, no source).
@pytest.mark.parametrize(
    ("datum", "constant", "reads"),
    [("face", 0, 12.8), ("face_level", 0, 77.2), ("scale", 0, 33.6), ("structure", 12.6, 46.2)],
)
def test_inclinometer_datums(datum: str, constant: float, reads: float) -> None:
    dish = Dish(id="a1", name="d", offset_deg=20.8, datum=datum, constant_deg=constant)
    assert aim.inclinometer_deg(dish, 33.6)[0] == pytest.approx(reads)


def test_a_face_past_plumb_leans_out() -> None:
    dish = Dish(id="a1", name="d", offset_deg=25, datum="face_level")
    reads, words = aim.inclinometer_deg(dish, 19.8)
    assert reads == pytest.approx(84.8)
    assert "leaning out" in words


@pytest.mark.parametrize(
    ("view", "zero", "shown", "word"),
    [
        ("behind", "V", 24.0, "clockwise"),
        ("front", "V", -24.0, "anticlockwise"),
        ("behind", "H", -66.0, "anticlockwise"),
        ("front", "H", 66.0, "clockwise"),
    ],
)
def test_schools_of_skew(view: str, zero: str, shown: float, word: str) -> None:
    dish = Dish(id="a1", name="d", skew_view=view, skew_zero=zero)
    turn, sentence, short = aim.skew(dish, Target(id="t1", kind="satellite", name="s"), 24.0)
    assert turn == pytest.approx(shown)
    assert short == word
    assert f"{abs(shown):.1f}° {word}" in sentence


def test_circular_polarisation_needs_no_turn() -> None:
    target = Target(id="t1", kind="satellite", name="s", circular=True)
    turn, sentence, _ = aim.skew(Dish(id="a1", name="d"), target, 24.0)
    assert turn is None
    assert "no turn" in sentence


def test_a_date_outside_the_model_leaves_the_rest(skerry: Job, europe: Profile) -> None:
    job = skerry.model_copy(update={"date": dt.date(2035, 1, 1)})
    found = aim.work_out(job, sky.work_out(job, europe))
    assert found.problems[0].code == "date-outside-model"
    assert found.aims[0].compass_deg is None
    assert found.aims[0].azimuth_deg == pytest.approx(135.8, abs=0.1)


def test_wind_moment_by_hand(skerry: Job, europe: Profile) -> None:
    """W = c p A (EN/IEC 60728-11, from memory): a dish of 0.8 m with its arm, 0.5027 x 1.1 m², its face
    leaning out by 25° less 19.8°: 1.2 x 800 x 0.5507 = 528.7 N at 0.5 m; 86.4 N at 1.9 m, tube 60 mm x
    2.7 m x 960 N/m² = 155.5 N at 1.35 m."""
    found = mast.work_out(skerry, europe)
    assert found.moment.value == pytest.approx(528.7 * 0.5 + 86.4 * 1.9 + 155.52 * 1.35, abs=0.3)
    assert found.diagram[0][1] == pytest.approx(found.moment.value, abs=1e-6)
    assert found.diagram[-1][1] == pytest.approx(0, abs=1e-9)


def test_section_modulus_of_a_known_tube() -> None:
    """Tube 60.3 x 3.2 mm: 7.78 cm³ (EN 10210 section tables, from memory)."""
    assert section_modulus_mm3(60.3, 3.2) / 1000 == pytest.approx(7.78, abs=0.02)


def test_higher_than_twenty_metres_the_wind_is_harder(skerry: Job, europe: Profile) -> None:
    high = skerry.model_copy(
        update={"site": skerry.site.model_copy(update={"mount_height_m": 21.0})}
    )
    assert mast.work_out(high, europe).pressure_pa == 1100
    own = skerry.model_copy(update={"mast": Mast(wind_ms=40)})
    assert mast.work_out(own, europe).pressure_pa == pytest.approx(1000)


def test_too_little_held_is_out_with_a_fix(skerry: Job, europe: Profile, parts: Catalogue) -> None:
    loose = skerry.model_copy(update={"mast": skerry.mast.model_copy(update={"held_m": 0.3})})
    problem = next(p for p in mast.work_out(loose, europe).problems if p.code == "mast-held")
    fixed = taken(loose, problem.change)
    assert fixed.mast.held_m >= 0.6
    assert mast.work_out(fixed, europe).held.state == "ok"


def test_each_school_asks_its_own_conductors(skerry: Job) -> None:
    american = earth.work_out(skerry, profiles.load("north-america"))
    assert [b.role for b in american.bonds] == ["mast", "shields", "electrodes"]
    shields = american.bonds[1]
    assert shields.length.high == pytest.approx(6.1)
    assert shields.state == "fail"  # 6.2 m is longer than 20 ft


def test_under_the_roof_edge_no_lightning_earth_but_bonding(skerry: Job, europe: Profile) -> None:
    low = skerry.model_copy(
        update={"earth": Earth(below_roof_edge_m=2.5, from_wall_m=1.0, overhead_lines="none")}
    )
    found = earth.work_out(low, europe)
    assert not found.lightning_earth
    assert [b.role for b in found.bonds if b.needed] == ["shields", "devices"]


@pytest.mark.parametrize(
    ("away", "state"), [(14.0, "ok"), (7.0, "marginal"), (5.0, "fail"), (None, "marginal")]
)
def test_the_mast_may_not_fall_onto_a_line(
    skerry: Job, europe: Profile, away: float | None, state: str
) -> None:
    job = skerry.model_copy(update={"earth": Earth(overhead_lines="near", line_distance_m=away)})
    states = [p.state for p in earth.work_out(job, europe).problems if p.code == "overhead"]
    assert states == ([] if state == "ok" else [state])


def test_aluminium_thinner_than_its_own_rule_is_out(skerry: Job, europe: Profile) -> None:
    thin = Conductor(
        id="e1", role="mast", material="aluminium", size_mm2=16, length_m=5, connected=True
    )
    job = skerry.model_copy(update={"conductors": (thin,)})
    problem = next(p for p in earth.work_out(job, europe).problems if p.code == "bond-thin")
    assert problem.gauge is not None
    assert problem.gauge.low == pytest.approx(25 * 0.99)


@pytest.mark.parametrize("key", ["rig.unheard", "unheard", "unheard.a1.thing", "aim.a1.unheard"])
def test_a_step_that_nobody_listed_takes_a_time_of_its_own(key: str) -> None:
    """A new step breaks no job: it takes as long as most, at height until somebody says otherwise."""
    job = demo_jobs()["skerry-house"]
    step = Step(key, ("Do what nobody listed",), None, ())
    found = timed({"aim": [step]}, job, [])["aim"][0]
    assert (found.minutes or 0) > 0
    assert found.high
