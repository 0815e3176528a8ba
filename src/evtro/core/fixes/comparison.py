"""Whether a change makes anything worse: every figure is compared by itself, before and after it."""

from __future__ import annotations

import math
from collections.abc import Hashable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..job.problems import Problem
from ..physics.geodesy import Floats
from ..units.quantities import Gauge
from ..units.severity import FAIL, RANK, State

# So much further outside its limit a figure counts as where it was.
SAME_DB = 0.1
SAME_SHARE = 0.01


@dataclass(frozen=True, eq=False)
class Figures:
    """Figures of one kind at the same places before and after a change: their rank in `STATES`, how far
    outside its limit each lies [in its unit], negative inside; which of them count; how much is no
    difference [in the same unit]."""

    rank: NDArray[np.int8]
    outside: Floats
    counts: NDArray[np.bool_]
    same: float = SAME_DB


@dataclass(frozen=True)
class NamedFigure:
    """One figure that is known by a name: its state, how far outside it lies, what is no difference
    [both in its unit]; NaN where it has no figure."""

    state: State
    outside: float = math.nan
    same: float = SAME_DB


@dataclass(frozen=True, eq=False)
class Judgement:
    """All figures of a job as a station judges them: in arrays, and by name."""

    arrays: Mapping[str, Figures] = field(default_factory=dict)
    named: Mapping[Hashable, list[NamedFigure]] = field(default_factory=dict)


def is_worse(
    before: ArrayLike,
    after: ArrayLike,
    outside_before: Floats,
    *,
    outside_after: Floats,
    same: float,
) -> NDArray[np.bool_]:
    """Which figures are in a worse state, or outside and further out by more than `same` [their unit];
    arrays of ranks in `STATES` and of distances from the limit, broadcast against each other. What was
    without a figure and outside cannot get further out."""
    was, becomes = np.asarray(before), np.asarray(after)
    deeper = (was == FAIL) & (becomes == FAIL) & ~(outside_after <= outside_before + same)
    return np.asarray((becomes > was) | deeper & np.isfinite(outside_before))


def regressions(before: Judgement, after: Judgement) -> Iterator[Hashable]:
    """The names of what a change made worse."""
    for name, old in before.arrays.items():
        new = after.arrays[name]
        worse = is_worse(old.rank, new.rank, old.outside, outside_after=new.outside, same=old.same)
        if bool((worse & old.counts).any()):
            yield name
    for key, figures in after.named.items():
        known = before.named.get(key, [])
        if any(all(_worse(old, one) for old in known) for one in figures if one.state != "ok"):
            yield key


def _worse(old: NamedFigure, new: NamedFigure) -> bool:
    if RANK[new.state] != RANK[old.state]:
        return RANK[new.state] > RANK[old.state]
    outside = new.state == "fail" and not math.isnan(old.outside)
    return outside and not new.outside <= old.outside + old.same


def named_figure(gauge: Gauge) -> NamedFigure:
    """A gauge as a figure to compare: a tenth of a dB, or a hundredth of the limit, is no difference."""
    if gauge.value is None:
        return NamedFigure(gauge.state)
    over = gauge.value - gauge.high if gauge.high is not None else -math.inf
    under = gauge.low - gauge.value if gauge.low is not None else -math.inf
    limit = gauge.high if over >= under else gauge.low
    same = SAME_DB if gauge.unit in ("db", "dbuv") else SAME_SHARE * abs(limit or 0.0)
    return NamedFigure(gauge.state, max(over, under), same)


def named_by_problem(problems: Iterable[Problem]) -> dict[Hashable, list[NamedFigure]]:
    """Problems as figures, by their code and what or where they are told of."""
    found: dict[Hashable, list[NamedFigure]] = {}
    for p in problems:
        figure = NamedFigure(p.state)
        if p.gauge is not None:
            known = named_figure(p.gauge)
            figure = NamedFigure(p.state, known.outside, known.same)
        found.setdefault((p.code, p.ref or p.place), []).append(figure)
    return found
