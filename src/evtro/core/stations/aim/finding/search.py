"""The search plan: passes over the sky that meet the satellite for sure, and what else they meet."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

STEP_OF_BEAM = 0.7  # between half and one beamwidth, common practice, no source
DEG_PER_S = 1.0  # a slow sweep with the meter on; common practice, no source


@dataclass(frozen=True)
class Pass:
    """One sweep at one elevation from one bearing to the other [deg]; of an upright plan at one
    bearing from one elevation to the other."""

    at_deg: float
    from_deg: float
    to_deg: float
    meets: list[str]


@dataclass(frozen=True)
class SearchPlan:
    """Passes in their order, and how long they take at a slow pace [s]. An upright plan sweeps in
    elevation, for those who set the bearing first."""

    upright: bool
    half_width_deg: float
    step_deg: float
    passes: list[Pass]
    seconds: float


@dataclass(frozen=True)
class Sweep:
    """One pass [deg]: how far it goes to either side of the middle, and how far the next one lies."""

    half_deg: float
    raise_deg: float


def sweep(
    elevation_deg: float,
    compass_error_deg: float,
    tool_error_deg: float,
    beamwidth_deg: float,
    azimuth_first: bool = False,
) -> Sweep:
    """How wide to sweep and how far to go between two sweeps. As wide as the tool of the swept axis
    may be wrong and half a beam more; the next pass less than a beam further."""
    raised = beamwidth_deg * STEP_OF_BEAM
    if azimuth_first:
        wide = max(math.cos(math.radians(max(elevation_deg - tool_error_deg, 0.0))), 0.05)
        return Sweep(tool_error_deg + beamwidth_deg / 2, raised / wide)
    # A degree of bearing is narrowest on the sky at the highest of the passes.
    narrow = max(math.cos(math.radians(min(elevation_deg + tool_error_deg, 87.0))), 0.05)
    return Sweep(compass_error_deg + beamwidth_deg / 2 / narrow, raised)


def search(
    azimuth_deg: float,
    elevation_deg: float,
    compass_error_deg: float,
    tool_error_deg: float,
    beamwidth_deg: float,
    others: Sequence[tuple[str, float, float]] = (),
    azimuth_first: bool = False,
) -> SearchPlan:
    """Sweep as wide as the compass may be wrong and half a beam more, raise by less than a beam,
    sweep back, until the tool's error is covered. The middle comes first, then by turns above and
    below. `others` are satellites (name, azimuth, elevation) that a sweep may meet.

    With `azimuth_first` the passes run up and down at a bearing instead (the other school).
    """
    flat = max(math.cos(math.radians(elevation_deg)), 0.05)
    wide = max(math.cos(math.radians(max(elevation_deg - tool_error_deg, 0.0))), 0.05)
    plan = sweep(
        elevation_deg,
        compass_error_deg,
        tool_error_deg=tool_error_deg,
        beamwidth_deg=beamwidth_deg,
        azimuth_first=azimuth_first,
    )
    half, step = plan.half_deg, plan.raise_deg
    reach = max(tool_error_deg - beamwidth_deg / 2, 0.0)
    if azimuth_first:
        reach = max(compass_error_deg - beamwidth_deg / 2 / wide, 0.0)
    # A pass covers half a beam on either side; the next one must leave no gap.
    count = math.ceil(reach / step)
    offsets = [0.0] + [s * n * step for n in range(1, count + 1) for s in (1, -1)]
    passes: list[Pass] = []
    turn = 1
    for offset in offsets:
        if azimuth_first:
            at, low, high = azimuth_deg + offset, elevation_deg - half, elevation_deg + half
            meets = _met(
                [(n, _off(a, at) * flat, e) for n, a, e in others], beamwidth_deg, low, high
            )
            first, last = (low, high) if turn > 0 else (high, low)
            passes.append(Pass(at % 360, first, last, meets))
        else:
            el = elevation_deg + offset
            first, last = azimuth_deg - turn * half, azimuth_deg + turn * half
            meets = _met(
                [(n, e - el, azimuth_deg + _off(a, azimuth_deg)) for n, a, e in others],
                beamwidth_deg,
                azimuth_deg - half,
                azimuth_deg + half,
            )
            passes.append(Pass(el, first % 360, last % 360, meets if turn > 0 else meets[::-1]))
        turn = -turn
    return SearchPlan(
        upright=azimuth_first,
        half_width_deg=half,
        step_deg=step,
        passes=passes,
        seconds=2 * half * len(passes) / DEG_PER_S,
    )


def _off(a: float, b: float) -> float:
    return (a - b + 180) % 360 - 180


def _met(
    rows: Sequence[tuple[str, float, float]], width: float, low: float, high: float
) -> list[str]:
    """Names of what lies on a pass, in the order in which it is met. Rows are name, distance across
    the pass and place along it [deg]."""
    on = [
        (along, name)
        for name, across, along in rows
        if abs(across) < width * 0.6 and low < along < high
    ]
    return [name for _, name in sorted(on)]


def sweep_covers(
    plan: SearchPlan, azimuth_deg: float, elevation_deg: float, beamwidth_deg: float
) -> bool:
    """Whether some pass brings a direction inside the half-power beam."""
    for each in plan.passes:
        if plan.upright:
            low, high = sorted((each.from_deg, each.to_deg))
            over = max(low - elevation_deg, elevation_deg - high, 0.0)
            aside = _off(azimuth_deg, each.at_deg) * math.cos(math.radians(elevation_deg))
            if np.hypot(over, aside) <= beamwidth_deg / 2:
                return True
            continue
        middle = each.from_deg + _off(each.to_deg, each.from_deg) / 2
        along = _off(azimuth_deg, middle)
        flat = math.cos(math.radians(elevation_deg))
        over = max(abs(along) - plan.half_width_deg, 0.0) * flat
        if np.hypot(over, elevation_deg - each.at_deg) <= beamwidth_deg / 2:
            return True
    return False
