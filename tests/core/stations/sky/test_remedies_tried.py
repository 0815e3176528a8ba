"""What the survey proposes against trying everything: no lower raise, no shorter move and no smaller cut
frees the view, and what is proposed does."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.core.job import Obstruction
from evtro.core.job.changes import Move, Set
from evtro.core.stations.site.skyline import View, ground_of, top_m
from evtro.core.stations.sky.remedies import FARTHEST_MOVE_M, Remedy, Wants, least_slack, remedies
from tests.proving import examples

HEIGHT_M = 6.0


def _wants(az: float, el: float) -> Wants:
    one = np.ones(1)
    return Wants(az * one, el * one, 5 * one, 1.1 * one, 0.4 * one)


@st.composite
def yards(draw: st.DrawFn) -> tuple[list[Obstruction], float, float]:
    """Up to four things round a direction, at least one of them in its way."""
    az, el = draw(st.floats(120, 240)), draw(st.floats(18, 45))
    rows = []
    for i in range(draw(st.integers(1, 4))):
        middle = az + draw(st.floats(-25, 25)) * (i > 0)
        half = draw(st.floats(2, 9))
        distance = draw(st.floats(9, 45))
        over = draw(st.floats(-3, 4))
        above = distance * math.tan(math.radians(el)) + over
        rows.append(
            Obstruction(
                id=f"b{i + 1}",
                name=f"tree {i}",
                nature="evergreen",
                outline=draw(st.sampled_from(["block", "crowns", "gable"])),
                from_deg=round((middle - half) % 360, 2),
                to_deg=round((middle + half) % 360, 2),
                distance_m=round(distance, 2),
                above_m=round(above, 2),
                seen_from_m=HEIGHT_M,
            )
        )
    return rows, az, el


def _slack(wants: Wants, rows: list[Obstruction], view: View) -> float:
    return float(least_slack(wants, rows, view)[0])


def _of(found: list[Remedy], kind: str) -> Remedy | None:
    return next((r for r in found if r.kind == kind), None)


@given(yards())
@examples(10, 200)
def test_no_lower_raise_frees_the_view(yard: tuple[list[Obstruction], float, float]) -> None:
    rows, az, el = yard
    wants = _wants(az, el)
    if _slack(wants, rows, View(HEIGHT_M)) >= 0:
        return
    found = _of(remedies(wants, 0, "t1", rows, HEIGHT_M, 0), "raise")
    frees = [t for t in range(1, 241) if _slack(wants, rows, View(HEIGHT_M + t / 10)) >= 0]
    if found is None:
        assert 240 not in frees
        return
    assert isinstance(found.change, Set)
    to = float(found.change.values["mount_height_m"])
    assert _slack(wants, rows, View(to)) >= 0
    assert round((to - HEIGHT_M) * 10) <= min(frees) + 1  # to the tenth of a metre


@given(yards())
@examples(6, 125)
def test_the_move_that_is_proposed_frees_the_view(
    yard: tuple[list[Obstruction], float, float],
) -> None:
    rows, az, el = yard
    wants = _wants(az, el)
    if _slack(wants, rows, View(HEIGHT_M)) >= 0:
        return
    found = _of(remedies(wants, 0, "t1", rows, HEIGHT_M, 0), "move")
    if found is None:
        return
    assert isinstance(found.change, Move)
    angle, far = math.radians(found.change.bearing_deg), found.change.distance_m
    assert 0 < far <= FARTHEST_MOVE_M + 0.3
    assert _slack(wants, rows, View(HEIGHT_M, math.sin(angle) * far, math.cos(angle) * far)) >= 0


@given(yards())
@examples(10, 200)
def test_the_cut_is_the_least_that_frees_the_view(
    yard: tuple[list[Obstruction], float, float],
) -> None:
    rows, az, el = yard
    wants = _wants(az, el)
    found = (
        _of(remedies(wants, 0, "t1", rows, HEIGHT_M, 0), "cut")
        if _slack(wants, rows, View(HEIGHT_M)) < 0
        else None
    )
    if found is None:
        return
    assert isinstance(found.change, Set)
    key = found.change.id
    tree = next(r for r in rows if r.id == key)
    metres = (top_m(tree) or 0.0) - tree.seen_from_m - float(found.change.values["above_m"])

    def cut(by: float) -> float:
        lower = [
            r.model_copy(update={"above_m": (r.above_m or 0.0) - by}) if r.id == key else r
            for r in rows
        ]
        return _slack(wants, lower, View(HEIGHT_M))

    assert cut(metres) >= -1e-3
    assert cut(float(metres) - 0.1) < 0


@given(yards(), st.floats(-12, 12), st.floats(-12, 12))
@examples(10, 200)
def test_a_step_aside_and_back_sees_the_same(
    yard: tuple[list[Obstruction], float, float], east: float, north: float
) -> None:
    """Two ways to the same eye: the outline seen from there, and points moved by hand."""
    rows, _, _ = yard
    ground = ground_of(rows)
    here, there = ground.seen(View(HEIGHT_M)), ground.seen(View(HEIGHT_M, east, north))
    for k, row in enumerate(rows):
        assert row.distance_m is not None
        u = ground.upper[k]
        az, el = np.radians(here.az_deg(u)), np.radians(here.el_deg(u))
        x, y = row.distance_m * np.sin(az) - east, row.distance_m * np.cos(az) - north
        up = row.distance_m * np.tan(el)
        new_az = np.degrees(np.arctan2(x, y))
        new_el = np.degrees(np.arctan2(up, np.hypot(x, y)))
        turned = (there.az_deg(u) - new_az + 180) % 360 - 180
        assert np.abs(turned).max() == pytest.approx(0, abs=1e-6)
        assert there.el_deg(u) == pytest.approx(new_el, abs=1e-6)
