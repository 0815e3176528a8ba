"""The best choice of parts and cables along a tree, proven: a mixed-integer program over levels in dB.

Along a chosen tree every level is the sum of what stands on the way, so that with one binary for each
option of each spot all windows are linear. HiGHS solves it by branch and bound and gives the bound that
proves it (Q. Huangfu, J. A. J. Hall, Parallelizing the dual revised simplex method, Math. Prog. Comp. 10
(2018); the library is highspy).
"""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Any, Literal

import numpy as np

from ..physics.geodesy import Floats

Aim = Literal["cost", "margin", "parts"]
Pick = tuple[int, int]  # choice, option
STOPPED_DB = -200.0  # a way that leads nowhere
MOST_DB = 60.0
BETTER = 1e-5  # by how much one must beat the best so far


@dataclass(frozen=True, eq=False)
class Filler:
    """One way to fill a spot or a run: what it passes to each of its ends, (ends, waves) [dB], what it
    costs, and how many things it is."""

    gain_db: Floats
    cost: float
    count: int = 1


@dataclass(frozen=True, eq=False)
class PartChoice:
    """A spot or a run: its options, and how many alike there are that are filled alike."""

    options: tuple[Filler, ...]
    copies: int = 1


@dataclass(frozen=True, eq=False)
class Served:
    """An outlet: the choices on its way, each with the end by which it goes on; levels that go in
    [dBµV] and the window (waves); NaN for a wave that it does not want. `slopes` are groups of waves
    that may lie apart by so much [dB]."""

    way: tuple[tuple[int, int], ...]
    source_dbuv: Floats
    low_dbuv: Floats
    high_dbuv: Floats
    slopes: tuple[tuple[tuple[int, ...], float], ...] = ()


@dataclass(frozen=True, eq=False)
class Task:
    """What is to be chosen, for whom, and to what end: least cost or fewest parts with a reserve [dB] inside
    of every window, or the most reserve, at least so much. `forbidden` are picks that may not all be made at once."""

    choices: tuple[PartChoice, ...]
    places: tuple[Served, ...]
    aim: Aim
    reserve_db: float
    forbidden: tuple[tuple[Pick, ...], ...] = ()
    below: float | None = None  # only what is better than this is looked for
    within: tuple[Aim, float] | None = None  # cost or parts may not come to more than this


@dataclass(frozen=True)
class SearchProgress:
    """How far a search is: the best value so far, what no choice can beat, seconds."""

    best: float | None
    bound: float | None
    seconds: float


@dataclass(frozen=True)
class Optimum:
    """The option of each choice, the value of it, and the bound that proves it; no picks where nothing
    fits. `proven` says whether the search went to its end."""

    picks: tuple[int, ...]
    value: float | None
    bound: float | None
    proven: bool
    binaries: int
    seconds: float


@dataclass
class _Rows:
    low: list[float] = field(default_factory=list)
    high: list[float] = field(default_factory=list)
    start: list[int] = field(default_factory=list)
    index: list[int] = field(default_factory=list)
    value: list[float] = field(default_factory=list)

    def add(self, low: float, high: float, terms: Sequence[tuple[int, float]]) -> None:
        self.low.append(low)
        self.high.append(high)
        self.start.append(len(self.index))
        self.index += [i for i, _ in terms]
        self.value += [v for _, v in terms]


def best(
    task: Task,
    *,
    seconds: float = 20.0,
    gap: float = 0.0,
    stop: Callable[[], bool] | None = None,
    tell: Callable[[SearchProgress], None] | None = None,
) -> Optimum:
    """Solve a task within a time, to a relative gap; `stop` is asked whether to give up, `tell` is told
    how far it is."""
    import highspy  # heavy, and needed only where somebody designs

    begun = time.monotonic()
    first = np.cumsum([0, *(len(c.options) for c in task.choices)]).tolist()
    count = first[-1]
    at = _model(task, first)
    solver: Any = highspy.Highs()  # type: ignore[no-untyped-call]
    solver.setOptionValue("output_flag", False)
    solver.setOptionValue("threads", 1)
    solver.setOptionValue("time_limit", seconds)
    solver.setOptionValue("mip_rel_gap", gap)
    margin = task.aim == "margin"
    columns = count + (1 if margin else 0)
    upper = np.ones(columns)
    upper[_shut(task, first)] = 0.0
    lower = np.zeros(columns)
    if margin:
        lower[count], upper[count] = task.reserve_db, MOST_DB
    solver.addVars(columns, lower, upper)
    every = np.arange(columns, dtype=np.int32)
    solver.changeColsCost(columns, every, _costs(task, columns))
    solver.changeColsIntegrality(
        count, every[:count], np.full(count, highspy.HighsVarType.kInteger)
    )
    rows = (
        np.array(at.low),
        np.array(at.high),
        len(at.index),
        np.array(at.start, np.int32),
        np.array(at.index, np.int32),
        np.array(at.value, float),
    )
    solver.addRows(len(at.low), *rows)
    _listen(solver, margin, begun, stop=stop, tell=tell)
    solver.run()
    info, status = solver.getInfo(), solver.getModelStatus()
    took = time.monotonic() - begun
    proven = status in (
        highspy.HighsModelStatus.kOptimal,
        highspy.HighsModelStatus.kInfeasible,
        highspy.HighsModelStatus.kUnboundedOrInfeasible,
    )
    sign = -1.0 if margin else 1.0
    bound = sign * info.mip_dual_bound if np.isfinite(info.mip_dual_bound) else None
    if info.primal_solution_status != highspy.SolutionStatus.kSolutionStatusFeasible:
        return Optimum(
            picks=(), value=None, bound=bound, proven=proven, binaries=count, seconds=took
        )
    values = np.array(solver.getSolution().col_value)
    picks = tuple(int(values[a:b].argmax()) for a, b in pairwise(first))
    value = sign * float(info.objective_function_value)
    return Optimum(
        picks=picks, value=value, bound=bound, proven=proven, binaries=count, seconds=took
    )


def _listen(
    solver: Any,
    margin: bool,
    begun: float,
    *,
    stop: Callable[[], bool] | None,
    tell: Callable[[SearchProgress], None] | None,
) -> None:
    sign = -1.0 if margin else 1.0

    def told(value: float) -> float | None:
        return sign * value if abs(value) < 1e20 else None

    def log(event: Any) -> None:
        if tell is not None:
            out = event.data_out
            tell(
                SearchProgress(
                    told(out.mip_primal_bound), told(out.mip_dual_bound), time.monotonic() - begun
                )
            )

    def interrupt(event: Any) -> None:
        if stop is not None and stop():
            event.data_in.user_interrupt = True

    solver.cbMipLogging += log
    solver.cbMipInterrupt += interrupt


def _shut(task: Task, first: list[int]) -> list[int]:
    """Options by which some place would get nothing."""
    found = []
    for place in task.places:
        wanted = np.isfinite(place.low_dbuv)
        for choice, end in place.way:
            for o, option in enumerate(task.choices[choice].options):
                if end >= len(option.gain_db) or (option.gain_db[end][wanted] < STOPPED_DB).any():
                    found.append(first[choice] + o)
    return sorted(set(found))


def _costs(task: Task, columns: int) -> Floats:
    costs = np.zeros(columns)
    if task.aim == "margin":
        costs[-1] = -1.0
    else:
        flat = _weights(task, task.aim)
        costs[: len(flat)] = flat
    return costs


def _weights(task: Task, aim: Aim) -> list[float]:
    """What each option counts for an aim."""
    return [
        (o.cost if aim == "cost" else o.count + o.cost * 1e-4) * c.copies
        for c in task.choices
        for o in c.options
    ]


def _model(task: Task, first: list[int]) -> _Rows:
    rows = _Rows()
    for c, choice in enumerate(task.choices):
        rows.add(1.0, 1.0, [(first[c] + o, 1.0) for o in range(len(choice.options))])
    inf, margin = float("inf"), task.aim == "margin"
    seen: set[tuple[Any, ...]] = set()
    for place in task.places:
        key = (place.way, place.source_dbuv.tobytes(), place.low_dbuv.tobytes())
        if key in seen:
            continue  # one like it is there
        seen.add(key)
        gains = _gains(task, place, first)
        for w in np.flatnonzero(np.isfinite(place.low_dbuv)).tolist():
            terms = [(i, float(g[w])) for i, g in gains]
            least = float(place.low_dbuv[w] - place.source_dbuv[w])
            most = float(place.high_dbuv[w] - place.source_dbuv[w])
            if margin:
                # The last column is the reserve.
                rows.add(least, inf, [*terms, (first[-1], -1.0)])
                rows.add(-inf, most, [*terms, (first[-1], 1.0)])
            else:
                rows.add(least + task.reserve_db, most - task.reserve_db, terms)
        for group, limit in place.slopes:
            for one in group:
                for other in group:
                    if one < other:
                        apart = float(place.source_dbuv[one] - place.source_dbuv[other])
                        terms = [(i, float(g[one] - g[other])) for i, g in gains]
                        rows.add(-limit - apart, limit - apart, terms)
    if task.below is not None and not margin:
        rows.add(-inf, task.below - BETTER, list(enumerate(_weights(task, task.aim))))
    if task.within is not None:
        aim, most_of_it = task.within
        rows.add(-inf, most_of_it + 1e-6, list(enumerate(_weights(task, aim))))
    for picks in task.forbidden:
        rows.add(-inf, len(picks) - 1.0, [(first[c] + o, 1.0) for c, o in picks])
    return rows


def _gains(task: Task, place: Served, first: list[int]) -> list[tuple[int, Floats]]:
    """What each option on the way adds; a run that is passed more than once adds as often."""
    found: dict[int, Floats] = {}
    for choice, end in place.way:
        for o, option in enumerate(task.choices[choice].options):
            if end < len(option.gain_db):
                gain = np.maximum(option.gain_db[end], STOPPED_DB)
                found[first[choice] + o] = found.get(first[choice] + o, 0.0) + gain
    return list(found.items())


def levels_of(task: Task, picks: Sequence[int], place: Served) -> Floats:
    """The level of every wave at a place with some picks [dBµV]."""
    total = place.source_dbuv.copy()
    for choice, end in place.way:
        option = task.choices[choice].options[picks[choice]]
        total = total + (option.gain_db[end] if end < len(option.gain_db) else STOPPED_DB)
    return np.asarray(total, float)
