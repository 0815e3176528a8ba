"""The work of one visit on the clock: a job's open steps as tasks, and who does which when.

Tasks follow the order of the work: what is put up stands before it is earthed and aimed, a gate is passed
before what is behind it begins, and everything is read at the end. Two people split what can be split.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import groupby

from ..job import Job
from ..units.quantities import Step

# What has to be finished, and what has to have begun, before a station's work begins.
FINISHED = {
    "site": (), "sky": ("site",), "mast": ("site", "sky"), "earth": ("site", "sky", "mast"),
    "aim": ("site", "sky", "mast"), "coax": ("site", "sky", "mast"),
    "readings": ("site", "sky", "mast", "earth", "aim", "coax"),
    "handover": ("site", "sky", "mast", "earth", "aim", "coax", "readings"),
}  # fmt: skip
BEGUN = {"aim": ("earth",), "coax": ("earth", "aim")}
WORDS = {
    "site": "look round, kit", "sky": "survey", "mast": "mount", "earth": "earth", "aim": "aim, lock",
    "coax": "cables", "readings": "read", "handover": "hand over",
}  # fmt: skip
SPLIT_MIN = 30.0  # what takes as long is shared where there are two
ANOTHER_DAY_MIN = 8 * 60.0


@dataclass(frozen=True)
class Stint:
    """Steps that are done in one go: their station, for how long [min], by how many, whether at height; the
    wait behind them. `chain` numbers those of a station that follow each other."""

    station: str
    words: str
    minutes: float
    steps: int
    crew: int = 1
    high: bool = False
    wait_min: float = 0.0
    wait_for: str = ""
    chain: int = 0


@dataclass(frozen=True)
class Bar:
    """A task on the clock of its visit [min from its begin], and who of the crew does it."""

    task: Stint
    begin: float
    end: float
    who: tuple[int, ...]


@dataclass(frozen=True)
class Wait:
    """Time that passes by itself [min from the visit's begin], for what, and what is done meanwhile."""

    begin: float
    end: float
    words: str
    meanwhile: str


@dataclass(frozen=True)
class Timeline:
    """One visit's work: bars, waits, how long it is [min]; `too_few` says that a task wants more people than
    there are, `another_day` what has to set before the rest."""

    bars: tuple[Bar, ...]
    waits: tuple[Wait, ...]
    minutes: float
    too_few: bool
    another_day: str

    @cached_property
    def high(self) -> tuple[tuple[float, float], ...]:
        """When somebody is at height [min from the visit's begin]."""
        return tuple((b.begin, b.end) for b in self.bars if b.task.high)


def tasks_of(steps: Mapping[str, Sequence[Step]], job: Job, crew: int) -> list[Stint]:
    """The open steps of a job as tasks, for a crew of so many."""
    done = {m.step for m in job.marks if m.at}
    found: list[Stint] = []
    for station, rows in steps.items():
        left = [s for s in rows if s.key not in done]
        pieces: list[Stint] = []
        for (high, _), group in groupby(_with_breaks(left), key=lambda s: (s[0].high, s[1])):
            run = [s for s, _ in group]
            last = run[-1]
            pieces.append(
                Stint(
                    station,
                    WORDS[station],
                    minutes=sum(s.minutes for s in run),
                    steps=len(run),
                    crew=max(s.crew for s in run),
                    high=high,
                    wait_min=last.wait_min,
                    wait_for=last.wait_for,
                )
            )
        found += _shared(pieces, crew)
    return found


def _with_breaks(steps: Sequence[Step]) -> list[tuple[Step, int]]:
    """Each step with the number of its piece: a wait ends one."""
    found, n = [], 0
    for step in steps:
        found.append((step, n))
        n += step.wait_min > 0
    return found


def _shared(pieces: list[Stint], crew: int) -> list[Stint]:
    """Long runs of what two can do apart, as one for each of them."""
    found: list[Stint] = []
    for one in pieces:
        apart = one.station in ("site", "coax", "readings") and one.crew == 1 and not one.high
        if crew < 2 or not apart or one.minutes < SPLIT_MIN or one.steps < 2:
            found.append(one)
            continue
        half = replace(
            one, minutes=one.minutes / 2, steps=one.steps // 2, wait_min=0.0, wait_for=""
        )
        found.append(replace(one, minutes=half.minutes, steps=one.steps - half.steps))
        found.append(replace(half, chain=1))
    return found


def timeline(tasks: Sequence[Stint], crew: int) -> Timeline:
    """Who does what when, for a crew of so many: each task as early as its order and a free hand allow."""
    bars: list[Bar] = []
    waits: list[tuple[float, float, str]] = []
    free = [0.0] * max(crew, 1)
    ready = dict.fromkeys(FINISHED, 0.0)  # when a station's next piece may begin, by its own chain
    begun: dict[str, float] = {}
    ended: dict[str, float] = {}
    too_few, another_day = False, ""
    for task in tasks:
        held = [ended.get(s, 0.0) for s in FINISHED[task.station]]
        held += [begun.get(s, 0.0) for s in BEGUN.get(task.station, ())]
        if task.chain == 0:
            held.append(ready[task.station])
        wanted = min(task.crew, len(free))
        too_few |= task.crew > len(free)
        hands = sorted(range(len(free)), key=lambda n: (free[n], n))[:wanted]
        begin = max([*held, *(free[n] for n in hands)])
        # Who works up there already stays up there.
        if wanted == 1:
            hands = [_best(task, bars, free=free, begin=begin, first=hands[0])]
            begin = max([*held, free[hands[0]]])
        end = begin + task.minutes
        for n in hands:
            free[n] = end
        bars.append(Bar(task, begin, end, tuple(sorted(hands))))
        begun.setdefault(task.station, begin)
        after = end + task.wait_min
        if task.wait_min >= ANOTHER_DAY_MIN:
            another_day = task.wait_for
            break
        if task.wait_min >= 1:
            waits.append((end, after, task.wait_for))
        ready[task.station] = max(ready[task.station], after)
        ended[task.station] = max(ended.get(task.station, 0.0), after)
    length = max([b.end for b in bars] + [end for _, end, _ in waits], default=0.0)
    told = tuple(Wait(a, b, words, _meanwhile(bars, a, b)) for a, b, words in waits)
    return Timeline(tuple(bars), told, minutes=length, too_few=too_few, another_day=another_day)


def _best(
    task: Stint, bars: Sequence[Bar], *, free: Sequence[float], begin: float, first: int
) -> int:
    up = {n for b in bars if b.task.high for n in b.who}
    able = [n for n, at in enumerate(free) if at <= begin]
    same = [n for n in able if (n in up) == task.high]
    return same[0] if same else able[0] if able else first


def _meanwhile(bars: Sequence[Bar], begin: float, end: float) -> str:
    words = [b.task.words for b in bars if b.begin < end and b.end > begin and b.begin >= begin]
    return ", ".join(dict.fromkeys(words))
