"""The resistance of electrodes against the average potential of a line of even current, which is what H. B. Dwight
(Electrical Engineering 55, 1936, from memory) took; integrated here by scipy."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from scipy.integrate import quad

from evtro.core.job import Earth
from evtro.core.stations.earth.electrode import expected_ohm, rod_ohm, wire_ohm


def _potential(at: float, begin: float, end: float, off: float) -> float:
    """Of a line of one ampere per metre from begin to end, at a distance off it, over rho / (4 pi)."""
    return math.asinh((end - at) / off) - math.asinh((begin - at) / off)


@pytest.mark.parametrize(("soil", "length"), [(100.0, 2.5), (400.0, 1.5), (30.0, 6.0)])
def test_an_upright_rod(soil: float, length: float) -> None:
    radius = 0.008

    def at(z: float) -> float:
        # The rod and its mirror above ground are one line of twice the length.
        return _potential(z, -length, length, radius)

    mean = quad(at, 0, length)[0] / length
    exact = soil / (4 * math.pi * length) * mean
    assert rod_ohm(soil, length, radius) == pytest.approx(exact, rel=0.01)


@pytest.mark.parametrize(("soil", "length"), [(100.0, 10.0), (250.0, 5.0), (60.0, 20.0)])
def test_a_buried_wire(soil: float, length: float) -> None:
    radius, depth = 0.005, 0.5

    def at(x: float) -> float:
        return _potential(x, 0, length, radius) + _potential(x, 0, length, 2 * depth)

    mean = quad(at, 0, length, points=[0.1, length - 0.1])[0] / length
    exact = soil / (4 * math.pi * length) * mean
    # Dwight's series leaves out what is small where the wire is much longer than it lies deep.
    assert wire_ohm(soil, length, depth_m=depth, radius_m=radius) == pytest.approx(exact, rel=0.03)


def test_more_electrodes_read_less_but_not_by_their_number() -> None:
    one = {"soil_ohm_m": 100.0, "electrode_m": 2.5, "electrode_kind": "rod"}
    read = [
        expected_ohm(Earth.model_validate({**one, "electrode_count": n})) or 0 for n in range(1, 6)
    ]
    assert all(b < a for a, b in itertools.pairwise(read))
    assert all(r > read[0] / n for n, r in enumerate(read, 1) if n > 1)
    assert expected_ohm(Earth(electrode_kind="plate", soil_ohm_m=100, electrode_m=1)) is None
    assert np.isfinite(read).all()
