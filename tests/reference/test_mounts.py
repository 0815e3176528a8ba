"""What holds a mast, against worked statics and against solutions by other ways.

Sources are named at each check; those marked (from memory) were not at hand when this was written.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.core.job import Mast
from evtro.core.stations.mast.mounts import (
    FRICTION,
    GRAVITY,
    OVERTURN_SAFETY,
    SLIDE_SAFETY,
    ballast_kg,
    bracket_bolts_n,
    deflection_m,
    embedment_m,
    held,
    inertia_mm4,
    tube_kg,
)


def test_a_cantilever_against_a_finite_difference_solution() -> None:
    """E I w'' = M, integrated from the fixed end on a fine grid; and the textbook's F l^3 / 3 E I."""
    force, length, outer, wall = 529.0, 1.9, 60.0, 3.0
    inertia = inertia_mm4(outer, wall)
    stiff = 210e9 * inertia * 1e-12
    z = np.linspace(0.0, length, 20_001)
    curvature = force * (length - z) / stiff
    slope = np.concatenate([[0.0], np.cumsum((curvature[1:] + curvature[:-1]) / 2 * np.diff(z))])
    sag = np.concatenate([[0.0], np.cumsum((slope[1:] + slope[:-1]) / 2 * np.diff(z))])
    way, turn = deflection_m(force, length, inertia)
    assert way == pytest.approx(sag[-1], rel=1e-6)
    assert turn == pytest.approx(slope[-1], rel=1e-6)
    # A tube of 60 x 3 mm has 21.9 cm^4 (tables of steel sections, EN 10219, from memory).
    assert inertia == pytest.approx(21.9e4, rel=5e-3)


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
