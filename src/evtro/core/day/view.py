"""The whole day: who is where when, what clashes, the order that is better, what goes into the van, and what
is not yet sure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from ..job import Job
from ..job.problems import Problem
from ..stations.kit.cuts import cut
from ..stations.kit.kit import REEL_M, CutReel, KitView, Need
from ..units.quantities import Phrase, Quantity, Step
from .order import Cost, best_order, road_min
from .plan import DAY_MIN, DayPlan
from .weather import Sky, Span, sky_of, spans
from .work import Timeline, tasks_of, timeline

USUAL_ROAD_MIN = (
    20.0  # where neither a figure nor both places are known; common practice, no source
)
LATE_MIN = 19 * 60.0  # a day that ends later is too long; common practice, no source


@dataclass(frozen=True)
class DayJob:
    """What a day needs of a job: its value, its steps, its kit, what is wrong with it."""

    key: str
    job: Job
    steps: dict[str, list[Step]]
    kit: KitView
    problems: list[Problem]

    @cached_property
    def place(self) -> tuple[float, float] | None:
        """Latitude and longitude [deg]."""
        site = self.job.site
        if site.latitude_deg is None or site.longitude_deg is None:
            return None
        return site.latitude_deg, site.longitude_deg


@dataclass(frozen=True)
class BarView:
    """A stretch of work [minutes after midnight]: in whose row, at height or not, and what is wrong."""

    begin: float
    end: float
    who: list[int]
    words: str
    station: str
    high: bool
    clash: str


@dataclass(frozen=True)
class WaitView:
    """Time that passes by itself [minutes after midnight], and what is done meanwhile."""

    begin: float
    end: float
    words: str
    meanwhile: str


@dataclass(frozen=True)
class VisitView:
    """A visit on the clock [minutes after midnight]. `road_min` is its road, `estimated` where nobody typed
    it; `clashes` what cannot be so."""

    job: str
    name: str
    place: str
    road_min: float
    estimated: bool
    arrives: float
    leaves: float
    work_min: float
    bars: list[BarView]
    waits: list[WaitView]
    clashes: list[Phrase]
    missing: bool = False


@dataclass(frozen=True)
class Proposal:
    """A better order of the visits, and what it changes."""

    order: list[str]
    words: str
    effect: Phrase


@dataclass(frozen=True)
class Question:
    """What is not yet sure of a job."""

    job: str
    title: Phrase
    why: Phrase


@dataclass(frozen=True)
class DayView:
    """The day [minutes after midnight]: `back` if nothing is found; `no_height` the stretches without work
    at height for the wind, `dark` without light, `unforecast` those of which nothing is known."""

    plan: DayPlan
    visits: list[VisitView]
    work_min: float
    road_min: float
    home_min: float
    home_estimated: bool
    back: float
    late: bool
    rises: float | None
    sets: float | None
    no_height: list[Span]
    dark: list[Span]
    unforecast: bool
    clash_min: float
    proposal: Proposal | None
    needs: list[Need]
    reels: list[CutReel]
    questions: list[Question]
    alone: bool


@dataclass(frozen=True)
class _Placed:
    job: DayJob
    line: Timeline
    road_min: float
    estimated: bool
    begin: float


def day_view(plan: DayPlan, jobs: Sequence[DayJob | None]) -> DayView:
    """The day of a plan; `jobs` are those of its visits in their order, None where one is not there."""
    crew = len(plan.crew)
    there = [j for j in jobs if j is not None]
    lines = {j.key: timeline(tasks_of(j.steps, j.job, crew), crew) for j in there}
    first = next((j.place for j in there if j.place), None)
    sky = sky_of(plan, *(first or (None, None)))
    roads = _Roads(plan, there)
    now = _placed(there, lines, plan, roads)
    home, home_guessed = roads.home(there[-1] if there else None)
    end = now[-1].begin + now[-1].line.minutes if now else plan.starts_min
    back = end + (home if now else 0.0)
    at = {p.job.key: p for p in now}
    visits = [
        _visit(at[j.key], sky, plan) if j is not None else _gone(v.job)
        for j, v in zip(jobs, plan.visits, strict=True)
    ]
    cost = _cost(now, sky, home)
    needs, reels = van(there)
    return DayView(
        plan=plan,
        visits=visits,
        work_min=sum(p.line.minutes for p in now),
        road_min=sum(p.road_min for p in now) + (home if now else 0.0),
        home_min=home,
        home_estimated=home_guessed,
        back=back,
        late=back > LATE_MIN,
        rises=sky.rises,
        sets=sky.sets,
        no_height=spans(sky.windy),
        dark=spans(sky.dark),
        unforecast=_unforecast(now, sky),
        clash_min=cost.danger_min,
        proposal=_proposal(there, lines, plan=plan, roads=roads, sky=sky, now=cost),
        needs=needs,
        reels=reels,
        questions=[q for p in now for q in _questions(p)],
        alone=crew == 1 and any(b.task.high for p in now for b in p.line.bars),
    )


class _Roads:
    """How long it is from one job to the next: as typed, else by the way between their places."""

    def __init__(self, plan: DayPlan, jobs: Sequence[DayJob]) -> None:
        self._typed: dict[tuple[str, str], float] = {}
        before = ""
        for visit in plan.visits:
            if visit.travel_min is not None:
                self._typed[before, visit.job] = visit.travel_min
            before = visit.job
        self._home = plan.home_min
        known = [v for (a, _), v in self._typed.items() if a == ""]
        self._out = known[0] if known else USUAL_ROAD_MIN
        self._guessed: dict[tuple[str, str], float] = {}
        for a in jobs:
            for b in jobs:
                self._guessed[a.key, b.key] = road_min(a.place, b.place, USUAL_ROAD_MIN)

    def between(self, a: str, b: str) -> tuple[float, bool]:
        """Minutes, and whether that is a guess."""
        typed = self._typed.get((a, b))
        if typed is not None:
            return typed, False
        return (self._out if a == "" else self._guessed[a, b]), True

    def home(self, last: DayJob | None) -> tuple[float, bool]:
        """The road home from the last job: the one out, where nobody typed it."""
        return (self._out, True) if self._home is None or last is None else (self._home, False)


def _placed(
    jobs: Sequence[DayJob], lines: dict[str, Timeline], plan: DayPlan, roads: _Roads
) -> list[_Placed]:
    found, clock, before = [], plan.starts_min, ""
    for job in jobs:
        minutes, guessed = roads.between(before, job.key)
        clock += minutes
        found.append(_Placed(job, lines[job.key], road_min=minutes, estimated=guessed, begin=clock))
        clock += lines[job.key].minutes
        before = job.key
    return found


def _cost(placed: Sequence[_Placed], sky: Sky, home: float) -> Cost:
    bad = sky.bad_so_far
    danger = sum(bad.between(p.begin + a, p.begin + b) for p in placed for a, b in p.line.high)
    end = placed[-1].begin + placed[-1].line.minutes + home if placed else 0.0
    return Cost(danger, max(end - LATE_MIN, 0.0), sum(p.road_min for p in placed))


def _proposal(
    jobs: list[DayJob],
    lines: dict[str, Timeline],
    *,
    plan: DayPlan,
    roads: _Roads,
    sky: Sky,
    now: Cost,
) -> Proposal | None:
    """A better order: less work at height in wind and dark, or less road for the same."""
    if len(jobs) < 2:
        return None

    def cost(order: Sequence[int]) -> Cost:
        placed = _placed([jobs[n] for n in order], lines, plan, roads)
        return _cost(placed, sky, roads.home(placed[-1].job)[0])

    order = best_order(len(jobs), cost)
    then = cost(order)
    gained = now.danger_min - then.danger_min
    saved = now.road_min + now.late_min - then.road_min - then.late_min
    if gained < 1 and saved < 5:
        return None
    names = [jobs[n].job.name for n in order]
    effect: Phrase = (
        (f"{gained:.0f} min less at height in wind or dark",)
        if gained >= 1
        else (f"{saved:.0f} min less on the road",)
    )
    return Proposal(
        order=[jobs[n].key for n in order],
        effect=effect,
        words=", ".join(names) if gained < 1 else f"{names[0]} first: {', '.join(names)}",
    )


def _visit(placed: _Placed, sky: Sky, plan: DayPlan) -> VisitView:
    at, line, job = placed.begin, placed.line, placed.job
    bars: list[BarView] = []
    clashes: list[Phrase] = []
    for b in line.bars:
        wrong = ""
        begin, end = at + b.begin, at + b.end
        if b.task.high and sky.windy_so_far.between(begin, end) > 0.5:
            wrong = "wind"
        elif b.task.high and sky.dark_so_far.between(begin, end) > 0.5:
            wrong = "dark"
        bars.append(
            BarView(
                begin,
                end,
                who=list(b.who),
                words=b.task.words,
                station=b.task.station,
                high=b.task.high,
                clash=wrong,
            )
        )
    if any(b.clash == "wind" for b in bars):
        clashes.append(
            (
                "at height while the wind is over ",
                Quantity(plan.wind_most_ms, "ms", 0),
                ", this crew's own rule",
            )
        )
    if any(b.clash == "dark" for b in bars):
        clashes.append(("at height before sunrise or after sunset",))
    if line.too_few:
        clashes.append(("a lift for two, and one person goes",))
    if at + line.minutes > DAY_MIN:
        clashes.append(("past midnight",))
    return VisitView(
        job=job.key,
        name=job.job.name,
        place=job.job.place,
        road_min=placed.road_min,
        estimated=placed.estimated,
        arrives=at,
        leaves=at + line.minutes,
        work_min=line.minutes,
        bars=bars,
        waits=[WaitView(at + w.begin, at + w.end, w.words, w.meanwhile) for w in line.waits],
        clashes=clashes,
    )


def _gone(key: str) -> VisitView:
    return VisitView(
        job=key,
        name=key,
        place="",
        road_min=0,
        estimated=True,
        arrives=0,
        leaves=0,
        work_min=0,
        bars=[],
        waits=[],
        clashes=[("this job is not there any more",)],
        missing=True,
    )


def _unforecast(placed: Sequence[_Placed], sky: Sky) -> bool:
    unknown = sky.unknown_so_far
    return any(
        unknown.between(p.begin + a, p.begin + b) > 0.5 for p in placed for a, b in p.line.high
    )


MOUNTS: dict[str, tuple[str, str]] = {
    "chimney": ("is the chimney sound?", "a gate; else another mount, and what it takes is not in the van"),
    "ballast": ("does the roof bear the ballast?", "its owner says so, before the day"),
    "pole": ("what lies in the ground?", "ask the operators of cables and pipes before the day"),
}  # fmt: skip


def _questions(placed: _Placed) -> list[Question]:
    key, job = placed.job.key, placed.job.job
    found: list[Question] = []
    open_steps = {s.key for rows in placed.job.steps.values() for s in rows}
    done = {m.step for m in job.marks if m.at or m.danger_read}
    stop = next((s for rows in placed.job.steps.values() for s in rows if s.stop), None)
    if stop is not None:
        found.append(Question(key, ("stop",), stop.stop))
    elif "site.overhead" in open_steps - done and job.earth.overhead_lines == "unknown":
        found.append(
            Question(
                key, ("overhead lines?",), ("nobody has looked yet; a line near by ends the work",)
            )
        )
    if job.rig.kind == "none" and job.site.consent in ("unasked", "asked", "refused"):
        words = {
            "unasked": "nobody has asked",
            "asked": "asked, no answer yet",
            "refused": "refused",
        }
        found.append(Question(key, ("leave of owner or association",), (words[job.site.consent],)))
    asked = MOUNTS.get(job.mast.fixing)
    if asked and job.rig.kind == "none" and any(k.startswith("mast.") for k in open_steps - done):
        found.append(Question(key, (asked[0],), (asked[1],)))
    if placed.line.another_day:
        found.append(
            Question(
                key,
                (f"{placed.line.another_day} sets for a day",),
                ("what comes after is another visit, and not in this day",),
            )
        )
    bad = next(
        (p for p in placed.job.problems if p.state == "fail" and p.station in ("sky", "mast")), None
    )
    if bad is not None:
        found.append(Question(key, bad.title, bad.remedy))
    return found


def van(jobs: Sequence[DayJob]) -> tuple[list[Need], list[CutReel]]:
    """What goes into the van for all of them: alike lines together, tools once, cable cut from shared reels."""
    lines: dict[tuple[str, str], Need] = {}
    for job in jobs:
        for need in job.kit.needs:
            at = (need.kind, "".join(str(p) for p in need.name))
            old = lines.get(at)
            if old is None:
                lines[at] = replace(need, why=(job.job.name,))
                continue
            tool = need.kind == "tool"
            price = None if old.price is None or need.price is None else old.price + need.price
            lines[at] = replace(
                old,
                count=max(old.count, need.count) if tool else old.count + need.count,
                spare=max(old.spare, need.spare) if tool else old.spare + need.spare,
                price=price,
                why=(*old.why, ", ", job.job.name),
            )
    return list(lines.values()), _reels(jobs)


def _reels(jobs: Sequence[DayJob]) -> list[CutReel]:
    names = {reel.cable: reel.name for job in jobs for reel in job.kit.reels}
    found: list[CutReel] = []
    for cable, name in sorted(names.items()):
        cuts = [
            replace(one, label=job.job.name)
            for job in jobs
            for reel in job.kit.reels
            if reel.cable == cable
            for one in reel.cuts
        ]
        reels, long, _ = cut([c.length_m for c in cuts], REEL_M)
        whole = [([cuts[i] for i in r.pieces], REEL_M, r.left_m) for r in reels]
        whole += [([cuts[i]], cuts[i].length_m, 0.0) for i in long]
        found += [
            CutReel(cable=cable, name=name, reel_m=metres, cuts=pieces, left_m=round(left, 2))
            for pieces, metres, left in whole
        ]
    return found
