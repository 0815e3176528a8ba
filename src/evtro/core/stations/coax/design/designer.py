"""The designer: choose by the linear model, judge by the full solution, forbid what fails, choose again."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ....job import Job
from ....job.changes import Change
from ....job.diff import as_change
from ....job.problems import Problem
from ....network.optimise import (
    MOST_DB,
    Aim,
    Optimum,
    Pick,
    SearchProgress,
    Served,
    Task,
    best,
    levels_of,
)
from ....physics.geodesy import Floats
from ....units.quantities import InputError, Phrase, Quantity
from ....units.severity import State, worst
from ..context import NetworkContext
from ..levels.outlets import GROUPS, slope_limit_db, wants_group
from ..verdict import Verdict, judged
from .build import built
from .groups import designed_groups
from .head import RunHead, head_of
from .planter import Tree
from .prices import price_of
from .trees import trees_of
from .wish import Wish

LEVELS = ("level-low", "level-high")
# What a plan may be near to: the reserve of levels is asked for on its own, the others have their limits,
# and what nobody entered is a warning.
LENIENT = (*LEVELS, "margin", "slope", "echo", "isolation", "overload-supposed")
MOST_CUTS = 60
BEATEN = {"cost": "it costs more", "parts": "it takes more parts", "margin": "it has less reserve"}
FULLEST_S = 4.0
CLOSE = 1e-6
ALIKE = 0.05  # what is told as one price
POINTS = 8


@dataclass(frozen=True)
class Told:
    """What was tried and does not do: in words, and why."""

    what: str
    why: Phrase


@dataclass(frozen=True, eq=False)
class Plan:
    """A design that the full solution found to be right: the job with it, what it costs beside what is
    there, and what proves it."""

    words: str
    job: Job
    cost: float
    parts: int
    reserve_db: float
    verdict: Verdict
    bound: float | None
    proven: bool


@dataclass(frozen=True, eq=False)
class Searched:
    """A plan or none, what else was tried, and how much work it was."""

    plan: Plan | None
    tried: list[Told]
    binaries: int
    cuts: int
    seconds: float
    stopped: bool


class Designer:
    """Designs for one job; `stop` and `tell` as in `optimum.best`."""

    def __init__(
        self,
        ctx: NetworkContext,
        wish: Wish,
        stop: Callable[[], bool] | None = None,
        tell: Callable[[SearchProgress], None] | None = None,
        seconds: float = 20.0,
        gap: float = 0.0,
    ) -> None:
        self.ctx, self.whole, self.job = ctx, ctx.job, ctx.wanted.job
        self.catalogue, self.profile = ctx.catalogue, ctx.profile
        self.stop, self.tell, self.gap = stop, tell, gap
        self.until = time.monotonic() + seconds
        self.solved = ctx.solved
        self.before = judged(ctx)
        self.head: RunHead = head_of(ctx.wanted)
        self.wish = wish.checked(self.job, self.head.lengths_m, self.head.hangs)
        ours = {p.id for p in self.head.kept.parts}
        # What is wrong with what is kept no design can mend. What a switch feeds is judged as it is now.
        stays = self.before
        if self.head.trunks == 1:
            stays = judged(ctx.with_job(self.head.kept))
        self.ahead = [
            p
            for p in stays.problems
            if p.ref in ours
            and p.state == "fail"
            and p.code not in LEVELS
            and not self._asked_for(p)
        ]
        # The gravest state of what is wrong already; a plan may leave it, and not make it graver.
        self.there: dict[tuple[str, str | None], State] = {}
        for p in (*self.before.problems, *self.ahead):
            self.there[p.code, p.ref] = worst([p.state, self.there.get((p.code, p.ref), "ok")])
        mhz = np.array([c.frequency_mhz for c in self.solved.channels])
        arrives = int(np.isfinite(self.head.level_dbuv).sum())
        self.trees = trees_of(self.head, self.catalogue, self.wish, waves_mhz=mhz, carried=arrives)
        self.forbidden: dict[int, list[tuple[Pick, ...]]] = {}
        self._checks_arrival()

    def _asked_for(self, problem: Problem) -> bool:
        """Whether it is an LNB without its voltage: a receiver gives it that."""
        kind = self.solved.run.wiring.kinds.get(problem.ref or "")
        return problem.code.startswith("dc-") and kind is not None and not kind.paths

    def _checks_arrival(self) -> None:
        wants = np.zeros(len(self.solved.channels), bool)
        for o in self.job.outlets:
            for group in designed_groups(self.job):
                if wants_group(o, group):
                    wants |= self.solved.of_group[group]
        lost = np.flatnonzero(wants & ~np.isfinite(self.head.level_dbuv) & self.solved.has_source)
        if len(lost):
            name = self.solved.channels[int(lost[0])].name
            raise InputError(
                "Run",
                f"{name} does not reach the part from which the run branches.",
                "Mend what stands ahead of it first: the design keeps that.",
                "design-nothing-arrives",
            )
        if not self.trees:
            raise InputError(
                "Trees",
                "none of the parts at hand fits these places.",
                "Allow another kind of tree, or add parts to the workshop.",
                "design-no-tree",
            )

    def places(self, tree: Tree) -> list[Served]:
        """Every outlet of a tree with its windows."""
        channels, found = self.solved.channels, []
        level = self.head.level_dbuv
        outlets = {o.id: o for o in self.job.outlets}
        mhz = np.array([c.frequency_mhz for c in channels])
        least = np.array([c.window.low_dbuv for c in channels])
        most = np.array([c.window.high_dbuv for c in channels])
        for n, spot in enumerate(tree.spots):
            if spot.outlet is None:
                continue
            outlet = outlets[spot.outlet]
            wants = np.zeros(len(channels), bool)
            slopes = []
            for group in GROUPS:
                if wants_group(outlet, group):
                    mine = self.solved.of_group[group] & np.isfinite(level)
                    wants |= mine
                    if mine.sum() > 1:
                        slopes.append((self._steep(mine, mhz), slope_limit_db(self.profile, group)))
            found.append(
                Served(
                    way=tree.way(n),
                    source_dbuv=np.nan_to_num(level),
                    low_dbuv=np.where(wants, least, np.nan),
                    high_dbuv=np.where(wants, most, np.nan),
                    slopes=tuple(slopes),
                )
            )
        return found

    def _steep(self, mine: np.ndarray, mhz: np.ndarray) -> tuple[int, ...]:
        """The carriers between which levels can lie furthest apart: the ends of the band, and those that
        come in lowest and highest."""
        index = np.flatnonzero(mine)
        level = self.head.level_dbuv[index]
        ends = {
            index[mhz[index].argmin()],
            index[mhz[index].argmax()],
            index[level.argmin()],
            index[level.argmax()],
        }
        return tuple(sorted(int(i) for i in ends))

    def search(self, aim: Aim, reserve_db: float) -> Searched:
        """The best plan of all trees."""
        begun = time.monotonic()
        found: Plan | None = None
        tried: list[Told] = []
        binaries = cuts = 0
        stopped = False
        for n, tree in enumerate(self.trees):
            # Only what beats the best so far is looked for.
            below = None if found is None or aim == "margin" else _value(found, aim)
            least = (
                max(reserve_db, found.reserve_db)
                if found is not None and aim == "margin"
                else reserve_db
            )
            one = self._of_tree(n, tree, aim, reserve_db=least, below=below)
            binaries, cuts = binaries + one.binaries, cuts + one.cuts
            stopped |= one.stopped
            if one.plan is not None and (found is None or _better(one.plan, found, aim)):
                if found is not None:
                    tried.append(_told(found, one.plan, aim))
                found = one.plan
            elif one.plan is not None and found is not None:
                tried.append(_told(one.plan, found, aim))
            else:
                tried += one.tried
        if found is not None and stopped:
            found = replace(found, proven=False)
        return Searched(
            plan=found,
            tried=tried,
            binaries=binaries,
            cuts=cuts,
            seconds=time.monotonic() - begun,
            stopped=stopped,
        )

    def _of_tree(
        self, n: int, tree: Tree, aim: Aim, *, reserve_db: float, below: float | None
    ) -> Searched:
        places = self.places(tree)
        forbidden = self.forbidden.setdefault(n, [])
        cuts: list[tuple[Pick, ...]] = []
        why: Phrase = ("no choice of parts keeps every window",)
        binaries = 0

        def ended(plan: Plan | None, words: Phrase, stopped: bool) -> Searched:
            told = [Told(tree.words, words)] if words else []
            return Searched(
                plan=plan,
                tried=told,
                binaries=binaries,
                cuts=len(cuts) + len(forbidden),
                seconds=0.0,
                stopped=stopped,
            )

        while True:
            left = self.until - time.monotonic()
            if left <= 0 or (self.stop is not None and self.stop()):
                return ended(None, ("the time was over",), True)
            task = Task(
                choices=tuple(tree.choices),
                places=tuple(places),
                aim=aim,
                reserve_db=reserve_db,
                forbidden=(*forbidden, *cuts),
                below=below,
            )
            got = best(task, seconds=left, gap=self.gap, stop=self.stop, tell=self.tell)
            binaries = max(binaries, got.binaries)
            if not got.picks:
                beaten = below is not None or reserve_db > self.wish.reserve_db
                if beaten and not cuts and not forbidden and got.proven:
                    why = (BEATEN[aim],)
                return ended(None, why, not got.proven)
            got = self._fullest(task, got, left)
            plan, fails = self._judged(tree, got, reserve_db if aim != "margin" else 0.0)
            if plan is not None:
                return ended(plan, (), not got.proven)
            if len(cuts) + len(forbidden) > MOST_CUTS or not fails:
                return ended(None, why, True)
            for picks, problem, lasting in fails:
                (forbidden if lasting else cuts).append(picks)
                why = problem.title

    def _fullest(self, task: Task, got: Optimum, left: float) -> Optimum:
        """Of all that come to the same, the choice with the most reserve: knobs cost nothing."""
        if task.aim == "margin" or got.value is None:
            return got
        same = replace(task, aim="margin", below=None, within=(task.aim, got.value))
        fuller = best(same, seconds=min(left, FULLEST_S), gap=0.01, stop=self.stop)
        return replace(got, picks=fuller.picks) if fuller.picks else got

    def _judged(
        self, tree: Tree, got: Optimum, reserve_db: float
    ) -> tuple[Plan | None, list[tuple[tuple[Pick, ...], Problem, bool]]]:
        """The plan if the full solution has nothing against it, else what to forbid, and whether that holds
        for any reserve."""
        job, spots = built(self.ctx, self.head, tree=tree, picks=got.picks)
        after = judged(self.ctx.with_job(job))
        fails: dict[tuple[Pick, ...], tuple[Problem, bool]] = {}
        every = tuple((c, o) for c, o in enumerate(got.picks))
        for problem in after.problems:
            was = self.there.get((problem.code, problem.ref), "ok")
            if problem.ref not in spots and worst([was, problem.state]) == was:
                continue
            if problem.code == "no-return-filter":
                continue  # a high pass ahead of a branch comes with its own remedy
            level = problem.code in LENIENT
            if problem.state == "fail" or (problem.state == "marginal" and not level):
                plates = {p.outlet: p.id for p in job.parts if p.outlet}
                at = [plates[o] for o in problem.outlets[:1] if o in plates] or [problem.ref or ""]
                cut = tree.picks_of(spots[at[0]], got.picks) if at[0] in spots else every
                fails[cut] = problem, True
        reserve = reserve_of(after)
        if not fails and reserve < reserve_db - 1e-4:
            row = _worst(after)
            part = after.outlets[row].part if row is not None else None
            cut = tree.picks_of(spots[part], got.picks) if part in spots else every
            near = next((p for p in after.problems if p.code in LEVELS), None)
            if near is not None:
                fails[cut] = near, False
        if fails:
            return None, [(cut, problem, lasting) for cut, (problem, lasting) in fails.items()]
        cost, count = self._bought(tree, got.picks)
        return Plan(
            words=tree.words,
            job=job,
            cost=cost,
            parts=count,
            reserve_db=reserve,
            verdict=after,
            bound=got.bound,
            proven=got.proven,
        ), []

    def nearest(self) -> Phrase | None:
        """Where nothing fits: the smallest thing to give up, which outlet, which limit, by how much."""
        found: tuple[float, Phrase] | None = None
        channels = self.solved.channels
        for tree in self.trees:
            places = self.places(tree)
            bare = [replace(p, slopes=()) for p in places]
            got = best(
                Task(tuple(tree.choices), tuple(bare), "margin", -MOST_DB),
                stop=self.stop,
                seconds=max(self.until - time.monotonic(), 2.0) / len(self.trees),
            )
            if not got.picks:
                continue
            task = Task(tuple(tree.choices), tuple(places), "margin", 0.0)
            least: tuple[float, Phrase] = (float("inf"), ())
            for place, spot in zip(places, (s for s in tree.spots if s.outlet), strict=True):
                name = next(o.name for o in self.job.outlets if o.id == spot.outlet)
                level = levels_of(task, got.picks, place)
                for side, room in (
                    ("lower", level - place.low_dbuv),
                    ("upper", place.high_dbuv - level),
                ):
                    if np.isnan(room).all():
                        continue  # it wants nothing
                    w = int(np.nanargmin(room))
                    if room[w] < least[0]:
                        least = (
                            float(room[w]),
                            _short(name, channels[w].frequency_mhz, side, float(room[w])),
                        )
                for group, limit in place.slopes:
                    apart = float(np.ptp(level[list(group)]))
                    if limit - apart < min(least[0], 0.0):
                        least = (
                            limit - apart,
                            (
                                f"{name}: levels lie ",
                                Quantity(apart, "db"),
                                " apart, where ",
                                Quantity(limit, "db", 0),
                                " are allowed",
                            ),
                        )
            if found is None or least[0] > found[0]:
                found = least
        return found[1] if found is not None else None

    def _bought(self, tree: Tree, picks: tuple[int, ...]) -> tuple[float, int]:
        """What must be bought for a plan: its price, and how many parts."""
        options = [(c.options[o], c.copies) for c, o in zip(tree.choices, picks, strict=True)]
        old = {p.id for p in self.whole.parts}
        new = [p for p in self.head.kept.parts if p.id not in old]
        cost = sum(o.cost * n for o, n in options) + sum(
            price_of(self.catalogue.parts[p.type]) for p in new
        )
        return cost, sum(o.count * n for o, n in options) + len(new)

    def change(self, plan: Plan) -> Change:
        """The change that takes a plan."""
        return as_change(self.whole, plan.job, f"take the design: {plan.words}")


def reserve_of(found: Verdict) -> float:
    """How far the nearest of all wanted carriers is inside of its window [dB]; -inf for one that is not
    there."""
    if not found.outlets:
        return float("-inf")
    room = _room(found)
    return float(room.min(initial=np.inf))


def _room(found: Verdict) -> Floats:
    j = found.outlets[0].judged
    room = np.minimum(j.level_dbuv - j.least_dbuv, j.most_dbuv - j.level_dbuv)
    line = found.solved.of_group["cable"]  # beside own antennas it is no matter of the design
    served = j.wants & (~line | line.all())
    return np.asarray(np.where(served, np.where(np.isnan(room), -np.inf, room), np.inf))


def _worst(found: Verdict) -> int | None:
    return int(_room(found).min(axis=1).argmin()) if found.outlets else None


def _value(plan: Plan, aim: Aim) -> float:
    return plan.cost if aim == "cost" else plan.parts + plan.cost * 1e-4


def _better(one: Plan, other: Plan, aim: Aim) -> bool:
    if aim == "margin":
        return (one.reserve_db, -one.cost) > (other.reserve_db, -other.cost)
    return _value(one, aim) < _value(other, aim) - CLOSE


def _told(one: Plan, other: Plan, aim: Aim) -> Told:
    if aim == "margin":
        return Told(one.words, (Quantity(one.reserve_db, "db"), " of reserve"))
    if abs(_value(one, aim) - _value(other, aim)) < ALIKE:
        return Told(one.words, ("does as well",))
    if aim == "parts":
        return Told(one.words, (f"{one.parts} parts instead of {other.parts}",))
    return Told(one.words, (f"costs {one.cost:.1f} instead of {other.cost:.1f}",))


def _short(name: str, mhz: float, side: str, room_db: float) -> Phrase:
    where = f"{name}, {mhz:.0f} MHz: "
    if room_db < 0:
        return (where, Quantity(-room_db, "db"), f" beyond the {side} limit, at best")
    return (where, Quantity(room_db, "db"), f" inside the {side} limit, at best")
