"""Feeds beside the focus against physical optics: the far field is summed from the currents on the
reflector, with no step in common with the program's own reckoning in the aperture.

Scalar physical optics after the textbook form: each piece of the reflector adds
feed pattern / distance * exp(-jk (distance - piece . direction)). From memory; checked here at the
focus against the gain of an evenly lit circle.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from numpy.typing import NDArray

from evtro.core.stations.aim.multifeed import EDGE_DB, Paraboloid, displaced, feed_place

LIGHT_M_S = 299_792_458.0
MHZ = 11_700.0
WAVE = 2 * math.pi * MHZ * 1e6 / LIGHT_M_S

# Diameter, focal length, height of the aperture's middle [m]: two offset reflectors as an installer
# meets them, and a round one.
DISHES = [Paraboloid(0.8, 0.5, 0.42), Paraboloid(1.2, 0.72, 0.63), Paraboloid(1.8, 0.684, 0.0)]


def _surface(dish: Paraboloid) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Pieces of the reflector [m] on rings, with their share of the lit aperture."""
    radius = dish.diameter_m / 2
    r = (np.arange(40) + 0.5) / 40
    turn = np.linspace(0, 2 * np.pi, 80, endpoint=False)
    rr, tt = (a.ravel() for a in np.meshgrid(r, turn))
    x, y = radius * rr * np.cos(tt), radius * rr * np.sin(tt) + dish.centre_m
    points = np.column_stack([x, y, (x**2 + y**2) / (4 * dish.focal_m)])
    return points, rr * 10 ** (EDGE_DB / 20 * rr**2)


def _field(
    dish: Paraboloid, feed: NDArray[np.float64], side: NDArray[np.float64], up: NDArray[np.float64]
) -> NDArray[np.float64]:
    """Size of the far field toward each pair of angles [deg], 1 for a focused dish on its axis."""
    points, weight = _surface(dish)
    toward = np.column_stack([np.sin(np.radians(side)), np.sin(np.radians(up))])
    toward = np.column_stack([toward, np.sqrt(1 - (toward**2).sum(axis=1))])
    path = np.linalg.norm(points - feed, axis=1)[None, :] - toward @ points.T
    total = (weight * np.exp(-1j * WAVE * path)).sum(axis=1)
    return np.asarray(np.abs(total) / weight.sum())


def _peak(
    dish: Paraboloid, feed: NDArray[np.float64], side: float, up: float
) -> tuple[float, float, float]:
    """The top of the beam [deg] near a direction and the loss there [dB], by closing in."""
    span = 1.5
    best = (side, up, 0.0)
    for _ in range(6):
        xs, ys = np.meshgrid(np.linspace(-span, span, 13), np.linspace(-span, span, 13))
        xs, ys = xs.ravel() + best[0], ys.ravel() + best[1]
        field = _field(dish, feed, xs, ys)
        top = int(field.argmax())
        best = (float(xs[top]), float(ys[top]), float(-20 * np.log10(field[top])))
        span /= 4
    return best


def _feed(dish: Paraboloid, sideways_m: float, upward_m: float) -> NDArray[np.float64]:
    """Place of a feed moved in the plane square to the line from focus to the reflector's middle."""
    slope = math.atan2(dish.centre_m, dish.focal_m - dish.centre_m**2 / (4 * dish.focal_m))
    return np.array(
        [sideways_m, upward_m * math.cos(slope), dish.focal_m + upward_m * math.sin(slope)]
    )


@pytest.mark.parametrize("dish", DISHES)
def test_a_feed_in_the_focus_looks_straight_ahead_without_loss(dish: Paraboloid) -> None:
    side, up, loss = _peak(dish, _feed(dish, 0, 0), 0.0, 0.0)
    assert (side, up) == (pytest.approx(0, abs=0.01), pytest.approx(0, abs=0.01))
    assert loss == pytest.approx(0, abs=0.01)


@pytest.mark.parametrize("dish", DISHES)
@pytest.mark.parametrize("moved_mm", [-120, -60, 40, 80, 120])
def test_a_feed_moved_sideways_turns_the_beam_as_physical_optics_says(
    dish: Paraboloid, moved_mm: float
) -> None:
    side, up, loss = (float(v) for v in displaced(dish, moved_mm / 1000, 0.0, MHZ))
    po_side, po_up, po_loss = _peak(dish, _feed(dish, moved_mm / 1000, 0.0), side, up)
    assert side == pytest.approx(po_side, rel=0.01, abs=0.03)
    assert up == pytest.approx(po_up, abs=0.05)
    assert loss == pytest.approx(po_loss, rel=0.1, abs=0.08)


@pytest.mark.parametrize("dish", DISHES[:2])
@pytest.mark.parametrize("moved_mm", [-60, -30, 30, 60])
def test_a_feed_moved_up_or_down_does_too(dish: Paraboloid, moved_mm: float) -> None:
    side, up, loss = (float(v) for v in displaced(dish, 0.0, moved_mm / 1000, MHZ))
    po_side, po_up, po_loss = _peak(dish, _feed(dish, 0.0, moved_mm / 1000), side, up)
    assert side == pytest.approx(po_side, abs=0.03)
    assert up == pytest.approx(po_up, rel=0.01, abs=0.03)
    assert loss == pytest.approx(po_loss, rel=0.1, abs=0.08)


@pytest.mark.parametrize("across", [-9.0, -4.5, 3.0, 6.2, 10.0])
def test_a_feed_put_where_the_program_says_receives_from_there(across: float) -> None:
    """The line that counts on the roof: within a tenth of the beam of a dish of 0.8 m."""
    dish = DISHES[0]
    x, y, loss = feed_place(dish, across, 0.4, MHZ)
    side, up, po_loss = _peak(dish, _feed(dish, x, y), across, 0.4)
    assert side == pytest.approx(across, abs=0.06)
    assert up == pytest.approx(0.4, abs=0.06)
    assert loss == pytest.approx(po_loss, rel=0.1, abs=0.08)
