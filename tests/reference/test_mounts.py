"""What holds a mast, against worked statics and against solutions by other ways.

Sources are named at each check; those marked (from memory) were not at hand when this was written.
"""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.core.job import Mast
from evtro.core.stations.mast.guys import anchor_n
from evtro.core.stations.mast.mounts import (
    FRICTION,
    GRAVITY,
    OVERTURN_SAFETY,
    SLIDE_SAFETY,
    ballast_kg,
    bracket_bolts_n,
    embedment_m,
    held,
    inertia_mm4,
    plate_bolts_n,
    tube_kg,
)
from evtro.core.stations.mast.statics import FreeTube, Guys, buckles_n, guys_of, stiffness_nm2


def test_a_cantilever_against_a_finite_difference_solution() -> None:
    """E I w'' = M, integrated from the fixed end on a fine grid; and the textbook's F l^3 / 3 E I."""
    force, length, outer, wall = 529.0, 1.9, 60.0, 3.0
    inertia = inertia_mm4(outer, wall)
    stiff = 210e9 * inertia * 1e-12
    z = np.linspace(0.0, length, 20_001)
    curvature = force * (length - z) / stiff
    slope = np.concatenate([[0.0], np.cumsum((curvature[1:] + curvature[:-1]) / 2 * np.diff(z))])
    sag = np.concatenate([[0.0], np.cumsum((slope[1:] + slope[:-1]) / 2 * np.diff(z))])
    beam = FreeTube(
        ((force, length),), spread_n=0.0, free_m=length, stiff_nm2=stiffness_nm2(inertia)
    )
    assert beam.stiff_nm2 == pytest.approx(stiff)
    assert beam.turn_rad(length) == pytest.approx(slope[-1], rel=1e-6)
    # The way from a guy so soft that it holds nothing: its force over its stiffness.
    soft = replace(beam, guys=Guys(length, 1e-6, pull=1.0, down=0.0, bears_n=1.0, number=3))
    assert soft.held_n / 1e-6 == pytest.approx(sag[-1], rel=1e-6)
    assert sag[-1] == pytest.approx(force * length**3 / (3 * stiff), rel=1e-6)
    # A tube of 60 x 3 mm has 21.9 cm^4 (tables of steel sections, EN 10219, from memory).
    assert inertia == pytest.approx(21.9e4, rel=5e-3)


def test_a_propped_cantilever_against_the_textbook() -> None:
    """Under an even load, propped stiffly at its end: the prop bears 3/8 of it and the clamp w l^2 / 8 (Roark's
    Formulas, table 8.1, from memory). Under a load at its middle: 5/16 of it."""
    even = FreeTube(
        (),
        spread_n=800.0,
        free_m=4.0,
        stiff_nm2=2e4,
        guys=Guys(4.0, 1e12, pull=1.0, down=0.0, bears_n=1.0, number=3),
    )
    assert even.held_n == pytest.approx(3 / 8 * 800, rel=1e-6)
    assert abs(even.moment_nm(0.0)) == pytest.approx(800 * 4 / 8, rel=1e-6)
    middle = FreeTube(
        ((800.0, 2.0),),
        spread_n=0.0,
        free_m=4.0,
        stiff_nm2=2e4,
        guys=Guys(4.0, 1e12, pull=1.0, down=0.0, bears_n=1.0, number=3),
    )
    assert middle.held_n == pytest.approx(5 / 16 * 800, rel=1e-6)
    assert middle.shear_n == pytest.approx(11 / 16 * 800, rel=1e-6)


@pytest.mark.parametrize("spring", [2e3, 4e4, 1e7])
def test_a_guyed_mast_against_finite_elements(spring: float) -> None:
    """200 cubic beam elements of numpy, the guy a spring at its node: force, moment at the clamp, and slope."""
    length, stiff, at, n = 4.0, 3.4e4, 3.0, 200
    loads = {1.0: 180.0, 3.6: 420.0}
    even = 260.0
    h = length / n
    matrix, load = np.zeros((2 * n + 2, 2 * n + 2)), np.zeros(2 * n + 2)
    one = (
        stiff
        / h**3
        * np.array(
            [
                [12, 6 * h, -12, 6 * h],
                [6 * h, 4 * h**2, -6 * h, 2 * h**2],
                [-12, -6 * h, 12, -6 * h],
                [6 * h, 2 * h**2, -6 * h, 4 * h**2],
            ]
        )
    )
    for e in range(n):
        matrix[2 * e : 2 * e + 4, 2 * e : 2 * e + 4] += one
        w = even / length
        load[2 * e : 2 * e + 4] += w * np.array([h / 2, h**2 / 12, h / 2, -(h**2) / 12])
    for z, force in loads.items():
        load[2 * round(z / h)] += force
    node = 2 * round(at / h)
    matrix[node, node] += spring
    moved = np.zeros(2 * n + 2)
    moved[2:] = np.linalg.solve(matrix[2:, 2:], load[2:])
    clamp = (matrix @ moved - load)[:2]
    beam = FreeTube(
        tuple((f, z) for z, f in loads.items()),
        spread_n=even,
        free_m=length,
        stiff_nm2=stiff,
        guys=Guys(at, spring, pull=1.0, down=0.0, bears_n=1.0, number=3),
    )
    assert beam.held_n == pytest.approx(spring * moved[node], rel=1e-6)
    assert beam.shear_n == pytest.approx(-clamp[0], rel=1e-6)
    assert beam.moment_nm(0.0) == pytest.approx(-clamp[1], rel=1e-6)
    for z in (0.5, 2.0, 3.0, 3.5, 4.0):
        assert beam.turn_rad(z) == pytest.approx(moved[2 * round(z / h) + 1], rel=1e-5, abs=1e-9)


def test_a_guys_pull_and_stiffness_by_hand() -> None:
    """4 m up and 3 m out of the lower end: 5 m of rope at 3/5: 100 N held are 167 N in it; 4 mm: 6.4 mm^2 of 100 GPa
    over 5 m, 128 kN/m along it, 46 kN/m across; 8 kN of breaking force, of which a fifth."""
    guys = guys_of(Mast(length_m=4.2, guys=3, guy_m=3.2, held_m=0.8, guy_out_m=3.0, guy_mm=4.0))
    assert guys is not None
    assert guys.pull == pytest.approx(5 / 3)
    assert guys.stiff_n_m == pytest.approx(128e3 * 0.36)
    assert guys.bears_n == pytest.approx(1600)
    assert guys_of(Mast(guy_m=3.2)) is None


def test_the_weight_of_a_tube_against_its_table() -> None:
    """60.3 x 3.2 mm: 4.51 kg/m (EN 10219 tables, from memory)."""
    assert tube_kg(Mast(length_m=1.0, outer_mm=60.3, wall_mm=3.2)) == pytest.approx(4.51, rel=0.01)


def test_moment_and_shear_at_both_brackets_by_hand() -> None:
    """Sum of moments about the lower bracket: F_u h = M + S h; sum of forces: F_l = F_u - S."""
    used = held(
        Mast(length_m=3.6, held_m=0.9, base="concrete"),
        moment_nm=638.0,
        shear_n=700.0,
        weight_kg=30.0,
    )
    assert used.upper_n is not None
    assert used.lower_n is not None
    assert used.upper_n * 0.9 == pytest.approx(638.0 + 700.0 * 0.9)
    assert used.upper_n - used.lower_n == pytest.approx(700.0)


def test_a_group_of_four_bolts_as_a_statics_textbook_does_it() -> None:
    """1,400 N along the wall on a mast 0.2 m off it: 280 N m on two columns 0.2 m apart are a couple of
    1,400 N, 700 N on each of its two bolts. From the wall: 350 N each. Across: 1,400 N and 300 N of weight
    on four, 358 N."""
    pull, across = bracket_bolts_n(1_400.0, 300.0, standoff_m=0.2, apart_m=0.2, bolts=4)
    assert pull == pytest.approx(700.0)
    assert across == pytest.approx(math.hypot(1_400.0, 300.0) / 4)
    close, _ = bracket_bolts_n(1_400.0, 300.0, standoff_m=0.02, apart_m=0.2, bolts=4)
    assert close == pytest.approx(350.0)


def test_overturning_and_sliding_by_hand() -> None:
    """400 N m about the edge of a foot of 1 m: W x 0.5 m = 1.5 x 400 N m, W = 1,200 N or 122.4 kg. 300 N at a
    friction of 0.4: W = 1.5 x 300 / 0.4 = 1,125 N or 114.7 kg. The first leads; 40 kg stand there already."""
    assert pytest.approx(122.4, abs=0.1) == OVERTURN_SAFETY * 400 / 0.5 / GRAVITY
    assert pytest.approx(114.7, abs=0.1) == SLIDE_SAFETY * 300 / FRICTION / GRAVITY
    assert ballast_kg(400.0, 300.0, 1.0, 40.0) == pytest.approx(82.4, abs=0.1)
    assert ballast_kg(100.0, 300.0, 1.0, 0.0) == pytest.approx(114.7, abs=0.1)


def test_a_post_that_nothing_holds_at_the_ground() -> None:
    """International Building Code 1807.3.2.1 (from memory): d = A/2 (1 + sqrt(1 + 4.36 h/A)),
    A = 2.34 P / (S1 b). P = 500 lbf at 6 ft, b = 1.5 ft, S1 = 100 psf/ft x d/3. By trying by hand: at
    d = 5.0 ft S1 = 166.7 psf, A = 4.68 ft, d = 8.38 ft: too shallow; at d = 6.4 ft S1 = 213.3, A = 3.656,
    d = 7.0 ft; at 6.67 ft S1 = 222.3, A = 3.509, d = 6.86 ft; at 6.74 ft they meet to 0.1 ft."""
    lbf, foot = 4.4482216, 0.3048
    depth = embedment_m(500 * lbf, 6 * foot, 1.5 * foot) / foot
    bearing = 100 * depth / 3
    a = 2.34 * 500 / (bearing * 1.5)
    assert depth == pytest.approx(0.5 * a * (1 + math.sqrt(1 + 4.36 * 6 / a)), rel=2e-3)
    assert depth == pytest.approx(6.75, abs=0.12)


@given(st.floats(50, 3_000), st.floats(0.3, 6.0), st.floats(0.1, 1.0))
def test_more_wind_higher_up_wants_more_ground_and_more_ballast(
    force: float, height: float, width: float
) -> None:
    assert embedment_m(force * 1.1, height, width) > embedment_m(force, height, width)
    assert embedment_m(force, height * 1.1, width) > embedment_m(force, height, width)
    assert embedment_m(force, height, width * 1.1) < embedment_m(force, height, width)
    assert ballast_kg(force * height * 1.1, force, 1.0, 0.0) >= ballast_kg(
        force * height, force, 1.0, 0.0
    )
    pull, across = bracket_bolts_n(force, 100.0, standoff_m=0.2, apart_m=0.2, bolts=4)
    more, wide = bracket_bolts_n(force * 1.1, 100.0, standoff_m=0.2, apart_m=0.2, bolts=4)
    assert more > pull
    assert wide > across


@pytest.mark.parametrize("free_m", [1.5, 3.0, 6.5])
def test_a_clamped_and_pinned_column_buckles_at_eulers_load(free_m: float) -> None:
    """Smallest eigenvalue of EI w'''' + P w'' = 0 by finite differences of numpy, clamped below and pinned above;
    the textbook's K of 0.699 is rounded to 0.7."""
    stiff, n = 20_000.0, 400
    h = free_m / n
    fourth, second = np.zeros((n - 1, n - 1)), np.zeros((n - 1, n - 1))
    for i in range(n - 1):
        for j, factor in ((i - 2, 1.0), (i - 1, -4.0), (i, 6.0), (i + 1, -4.0), (i + 2, 1.0)):
            if 0 <= j < n - 1:
                fourth[i, j] += factor
        for j, factor in ((i - 1, 1.0), (i, -2.0), (i + 1, 1.0)):
            if 0 <= j < n - 1:
                second[i, j] += factor
    fourth[0, 0] += 1.0  # clamped: the mirrored point lies on the same side
    fourth[-1, -1] -= 1.0  # pinned: on the other
    loads = np.linalg.eigvals(np.linalg.solve(-second / h**2, stiff * fourth / h**4))
    least = min(v.real for v in loads if v.real > 0)
    assert buckles_n(stiff, free_m) == pytest.approx(least, rel=0.01)


def test_the_plate_of_a_j_pole_as_an_elastic_bolt_group() -> None:
    """Bolt group by the elastic method (A. Blake, Design of Mechanical Joints, from memory): forces fall in with
    the distance from the middle, found here by least squares of numpy over four bolts."""
    rows, columns, reach = 0.24, 0.16, 0.35
    moment, shear, weight = 180.0, 120.0, 150.0
    at = np.array([(x, y) for x in (-columns / 2, columns / 2) for y in (-rows / 2, rows / 2)])
    # Square to the wall: pull and the moment about the level axis, with the weight at its reach.
    axial = np.linalg.lstsq(
        np.array([np.ones(4), at[:, 1]]), np.array([shear, moment + weight * reach]), rcond=None
    )[0]
    # Along it: turned about the upright axis by the reach, in its plane by the moment.
    turned = np.linalg.lstsq(
        np.array([np.ones(4), at[:, 1], at[:, 0]]),
        np.array([0.0, weight * reach, shear * reach]),
        rcond=None,
    )[0]
    ring = moment * np.linalg.norm(at, axis=1) / (np.linalg.norm(at, axis=1) ** 2).sum()
    pull, across = plate_bolts_n(
        moment, shear, weight, reach_m=reach, rows_m=rows, columns_m=columns, bolts=4
    )
    assert pull == pytest.approx(max(axial.max(), turned.max()), rel=1e-9)
    # Each bolt's share and its part of the turn, as if they pointed the same way: never less than they add to.
    assert across == pytest.approx(math.hypot(weight, shear) / 4 + ring.max(), rel=1e-9)


def test_what_guys_press_a_tube_with_by_hand() -> None:
    """Three guys of 4 mm at 3 m, anchored 4 m out and as deep: a rope of 5 m. Each breaks at 0.5 kN/mm2 x 16 mm2 = 8 kN
    and is drawn to 800 N. Holding 400 N the one in the wind pulls 400 x 5/4 = 500 N; down go (500 + 3 x 800) x 3/5."""
    mast = Mast(length_m=4.0, held_m=0.0, guys=3, guy_m=3.0, guy_out_m=4.0, guy_mm=4.0)
    guys = guys_of(mast)
    assert guys is not None
    assert guys.axial_load_n(400.0) == pytest.approx((500 + 2400) * 0.6)
    # A metre of the tube in the ground makes the guys no longer; between brackets it does.
    in_ground, held_up = (
        guys_of(mast.model_copy(update={"held_m": 1.0, "fixing": f})) for f in ("pole", "wall")
    )
    assert in_ground == guys
    assert held_up is not None
    assert held_up.pull == pytest.approx(math.hypot(4, 4) / 4)
    # An eye of 10 mm in brick: 900 and 1500 N for 8 mm, each by (10/8)^2; pulled by 3/5 and pushed by 4/5 at once.
    in_brick = anchor_n(mast.model_copy(update={"guy_base": "brick"}))
    assert in_brick == pytest.approx(1 / (0.6 / (900 * 1.5625) + 0.8 / (1500 * 1.5625)))
