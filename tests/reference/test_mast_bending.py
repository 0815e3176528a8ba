"""The mast as a cantilever, integrated in small steps by scipy instead of the closed forms."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import integrate

from evtro import profiles
from evtro.core.job import Array, Conductor, Dish, Earth, Job, Mast
from evtro.core.stations.earth.answer import work_out as earth_of
from evtro.core.stations.mast.answer import work_out
from evtro.core.stations.mast.figures import STEEL_SAFETY, section_modulus_mm3
from evtro.core.stations.mast.wind import pressure as pressure_of
from evtro.core.units.wire import awg_to_mm2, mm2_to_awg
from evtro.demo.world import demo_jobs
from tests.proving import examples

REGIONS = ("europe", "north-america", "australia-new-zealand")
EUROPE = profiles.load("europe")


def _job(antennas: list[tuple[float, float]], **mast: object) -> Job:
    rows = tuple(
        Array(id=f"a{i + 1}", name=f"A{i}", on_mast_m=up, wind_area_m2=area)
        for i, (up, area) in enumerate(antennas)
    )
    return Job(name="mast", date="2026-03-25", arrays=rows, mast=Mast(**mast))  # type: ignore[arg-type]


masts = st.fixed_dictionaries(
    {
        "length_m": st.floats(1.0, 12.0),
        "held_m": st.floats(0.3, 0.9),
        "outer_mm": st.floats(30, 120),
        "wall_mm": st.floats(1.5, 6),
        "wind_ms": st.floats(10, 45),
    }
)
loads = st.lists(st.tuples(st.floats(0.1, 6.0), st.floats(0.02, 0.8)), min_size=1, max_size=5)


@given(loads, masts)
@examples(15, 300)
def test_the_moment_is_the_integral_of_the_winds_forces(
    antennas: list[tuple[float, float]], mast: dict[str, float]
) -> None:
    job = _job(antennas, **mast)
    found = work_out(job, EUROPE)
    pressure = 0.5 * 1.25 * mast["wind_ms"] ** 2
    assert pressure_of(job, EUROPE).pa == pytest.approx(pressure)
    free = mast["length_m"] - mast["held_m"]
    per_metre = EUROPE.wind.coefficient * pressure * mast["outer_mm"] / 1000
    own, _ = integrate.quad(lambda z: per_metre * z, 0, free)
    hung = sum(EUROPE.wind.coefficient * pressure * area * up for up, area in antennas)
    assert found.moment.value == pytest.approx(own + hung, rel=1e-9)
    # The free body of the held part: the lower bracket pulls M/h back, the upper one bears M/h + V.
    shear = per_metre * free + sum(EUROPE.wind.coefficient * pressure * a for _, a in antennas)
    lower = (own + hung) / mast["held_m"]
    assert found.lower_bracket_n == pytest.approx(lower, rel=1e-9)
    assert found.upper_bracket_n == pytest.approx(lower + shear, rel=1e-9)


@given(loads, masts)
@examples(10, 200)
def test_the_diagram_is_the_integral_of_the_shear(
    antennas: list[tuple[float, float]], mast: dict[str, float]
) -> None:
    found = work_out(_job(antennas, **mast), EUROPE)
    pressure = 0.5 * 1.25 * mast["wind_ms"] ** 2
    free = mast["length_m"] - mast["held_m"]
    per_metre = EUROPE.wind.coefficient * pressure * mast["outer_mm"] / 1000
    heights = np.array([z for z, _ in found.diagram])
    moments = np.array([m for _, m in found.diagram])
    assert moments[0] == pytest.approx(found.moment.value, rel=1e-9)
    assert heights[-1] == pytest.approx(free)
    assert (np.diff(moments) <= 1e-9).all()
    for z, moment in list(found.diagram)[::6]:
        spread, _ = integrate.quad(lambda x, z=z: per_metre * (x - z), z, free)
        hung = sum(
            EUROPE.wind.coefficient * pressure * area * max(up - z, 0.0) for up, area in antennas
        )
        assert moment == pytest.approx(spread + hung, rel=1e-6, abs=1e-9)


@given(st.floats(20, 200), st.floats(0.8, 9.0))
def test_section_modulus_by_integration_over_the_ring(outer_mm: float, wall_mm: float) -> None:
    """W = I / R, I the integral of y² over the ring."""
    outer, inner = outer_mm / 2, max(outer_mm / 2 - wall_mm, 0.0)
    inertia, _ = integrate.quad(lambda r: math.pi * r**3, inner, outer)
    assert section_modulus_mm3(outer_mm, wall_mm) == pytest.approx(inertia / outer, rel=1e-9)


@given(loads, masts, st.floats(1.01, 2.0))
@examples(10, 200)
def test_what_makes_a_mast_worse(
    antennas: list[tuple[float, float]], mast: dict[str, float], more: float
) -> None:
    plain = work_out(_job(antennas, **mast), EUROPE)
    harder = work_out(_job(antennas, **{**mast, "wind_ms": mast["wind_ms"] * more}), EUROPE)
    higher = work_out(_job([(up * more, area) for up, area in antennas], **mast), EUROPE)
    thicker = work_out(_job(antennas, **{**mast, "wall_mm": mast["wall_mm"] * more}), EUROPE)
    assert plain.moment.value is not None
    assert harder.moment.value == pytest.approx(plain.moment.value * more**2, rel=1e-9)
    assert (higher.moment.value or 0) > plain.moment.value
    assert thicker.moment.value == pytest.approx(plain.moment.value)
    assert (thicker.tube.high or 0) > (plain.tube.high or 0)


def test_the_tube_bears_its_yield_over_the_safety() -> None:
    found = work_out(_job([(1.0, 0.1)], outer_mm=48.0, wall_mm=3.0, yield_mpa=235.0), EUROPE)
    modulus_m3 = section_modulus_mm3(48.0, 3.0) * 1e-9
    assert found.tube.high == pytest.approx(235e6 / STEEL_SAFETY * modulus_m3, rel=1e-9)


@pytest.mark.parametrize("metres", [-1.0, 0.0, 0.05])
def test_a_mast_that_is_held_along_its_whole_length(metres: float) -> None:
    """Nothing stands free: the tube bears nothing of its own."""
    job = _job([(0.5, 0.1)], length_m=1.0, held_m=max(1.0 + metres, 0.2))
    found = work_out(job, EUROPE)
    assert found.moment.value is not None
    assert math.isfinite(found.moment.value)
    assert all(math.isfinite(m) for _, m in found.diagram)


@pytest.mark.parametrize(
    ("awg", "mm2", "mm"),
    [
        (10, 5.261, 2.588),
        (6, 13.30, 4.115),
        (4, 21.15, 5.189),
        (17, 1.04, 1.150),
        (1, 42.41, 7.348),
    ],
)
def test_wire_gauges(awg: int, mm2: float, mm: float) -> None:
    """The table of ASTM B258 (from memory)."""
    assert awg_to_mm2(awg) == pytest.approx(mm2, rel=5e-3)
    assert math.sqrt(4 * awg_to_mm2(awg) / math.pi) == pytest.approx(mm, rel=3e-3)
    assert mm2_to_awg(mm2) == pytest.approx(awg, abs=0.05)


@pytest.mark.parametrize("region", REGIONS)
def test_each_conductor_is_judged_by_its_own_rule(region: str) -> None:
    """Just enough is in, a tenth less is out, of every material that the school allows."""
    profile = profiles.load(region)
    antenna = Array(id="a1", name="A")
    for rule in profile.earth_rules:
        for size in rule.sizes:
            for factor, states in ((1.0, ("ok", "marginal")), (0.9, ("fail",))):
                row = Conductor(
                    id="e1",
                    role=rule.role,
                    material=size.material,
                    size_mm2=size.least_mm2 * factor,
                    length_m=0.5,
                    connected=True,
                )
                job = Job(
                    name="earth",
                    date="2026-03-25",
                    arrays=(antenna,),
                    conductors=(row,),  # type: ignore[arg-type]
                    earth=Earth(overhead_lines="none"),
                )
                bond = next(b for b in earth_of(job, profile).bonds if b.role == rule.role)
                assert bond.size.state in states, (region, rule.role, size.material)
                assert bond.origin == rule.origin
        allowed = {s.material for s in rule.sizes}
        for material in {"copper", "aluminium", "steel", "copper_clad_steel"} - allowed:
            row = Conductor(
                id="e1",
                role=rule.role,
                material=material,
                size_mm2=400.0,
                length_m=0.5,  # type: ignore[arg-type]
                connected=True,
            )
            job = Job(name="earth", date="2026-03-25", arrays=(antenna,), conductors=(row,))  # type: ignore[arg-type]
            bond = next(b for b in earth_of(job, profile).bonds if b.role == rule.role)
            assert bond.size.state == "fail"


@pytest.mark.parametrize("region", REGIONS)
@given(st.floats(0.5, 12), st.floats(0, 6), st.floats(0, 60))
@examples(6, 125)
def test_the_whole_mast_may_fall_without_coming_near_a_line(
    region: str, length: float, up: float, away: float
) -> None:
    profile = profiles.load(region)
    job = Job(
        name="line",
        date="2026-03-25",
        mast=Mast(length_m=max(length, 0.5)),  # type: ignore[arg-type]
        dishes=(Dish(id="a1", name="D", diameter_m=1.2, on_mast_m=up),),
        earth=Earth(overhead_lines="near", line_distance_m=away, line_kv=20.0),
    )
    found = earth_of(job, profile)
    reach = max(max(length, 0.5), up + 0.6) + profile.overhead_clear_m
    assert found.overhead.low == pytest.approx(reach)
    if away < reach - 0.01:
        assert found.overhead.state == "fail"
        stop = next(p for p in found.problems if p.code == "overhead")
        assert str(stop.title[0]).startswith("Stop")
    elif away > reach + 1.01:
        assert found.overhead.state == "ok"
        # Whoever has not asked for the voltage does not know that.
        unasked = job.model_copy(update={"earth": job.earth.model_copy(update={"line_kv": None})})
        assert earth_of(unasked, profile).overhead.state == "marginal"


@pytest.mark.parametrize("name", sorted(demo_jobs()))
def test_the_last_word_is_always_said(name: str) -> None:
    job = demo_jobs()[name]
    found = earth_of(job, profiles.load(job.profile))
    assert any("last word" in c for c in found.cautions)
    assert found.cautions[0].startswith("The whole mast")
