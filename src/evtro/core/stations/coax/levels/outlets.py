"""What reaches every outlet and part: figures judged against the profile."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ....job import Carrier, Outlet
from ....job.context import JobContext
from ....job.profile import Profile, Window
from ....job.targets import wanted_job
from ....network.arrays import Columns, Ints
from ....network.solution import Solution, solve_run
from ....physics.geodesy import Floats
from ....physics.modulation import MODULATIONS, Modulation
from ....units.quantities import Gauge, gauge
from ....units.severity import FAIL, MARGINAL, OK, STATES, UNKNOWN, State, worst
from ..sources.part_names import part_names
from ..sources.source_levels import from_the_air, lnb_band, receivers_of, sources_of
from ..sources.unwanted_signals import UnwantedSignal, unwanted_signals

Group = Literal["terrestrial", "satellite", "cable"]
ChoiceOf = Literal["own", "shared", "none"]
Ranks = NDArray[np.int8]
GROUPS: tuple[Group, ...] = ("terrestrial", "satellite", "cable")
_GROUP_OF: dict[str, Group] = {
    "transmitter": "terrestrial",
    "satellite": "satellite",
    "line": "cable",
}
CHOICES: tuple[ChoiceOf, ...] = ("own", "shared", "none")
RIPPLE_RESERVE_DB = 0.5


@dataclass(frozen=True)
class NetworkCarrier:
    """A carrier in the plant: its group, frequency on the cable [MHz] and what it wants."""

    id: str
    name: str
    target: str
    group: Group
    rf_mhz: float
    frequency_mhz: float
    band: str
    system: str
    wanted_cn_db: float
    window: Window


@dataclass(frozen=True)
class Cell:
    """One carrier at one outlet; `ripple` is how far echoes lift and lower it over frequency. `choice` says whether its receiver can ask for it: by itself, only
    while its neighbours on the same line let it, or not at all."""

    carrier: str
    level: Gauge
    cn_db: float | None
    margin: Gauge
    state: State
    ripple: Gauge
    choice: ChoiceOf = "own"


@dataclass(frozen=True)
class GroupGauge:
    """A group of carriers at a place: lowest and highest frequency, and the least level."""

    group: Group
    low: Gauge
    high: Gauge
    low_mhz: float
    high_mhz: float
    least_dbuv: float
    slope: Gauge
    state: State


@dataclass(frozen=True, eq=False)
class Judged:
    """Every carrier at every outlet, judged at once: arrays (outlets, carriers).

    Level [dBµV], of a range the end that lies nearer to its limit; C/N, margin and ripple [dB]; the rank
    of level, margin, ripple and all in `STATES`; `wants` whether the outlet wants it, `choice` as in `CHOICES`.
    `least_dbuv` and `most_dbuv` (carriers) are the windows; `rows` are the outlets that have a path,
    at the nodes `nodes`; `plates` the part of each outlet.
    """

    channels: list[NetworkCarrier]
    plates: list[str | None]
    rows: Ints
    nodes: Ints
    level_dbuv: Floats
    cn_db: Floats
    margin_db: Floats
    ripple_db: Floats
    level_rank: Ranks
    margin_rank: Ranks
    ripple_rank: Ranks
    rank: Ranks
    wants: NDArray[np.bool_]
    choice: Ranks
    least_dbuv: Floats
    most_dbuv: Floats
    level_reserve_db: float
    margin_low_db: float
    margin_reserve_db: float
    ripple_high_db: float

    def ripple_of(self, row: int, column: int) -> Gauge:
        """How far echoes lift and lower one of them, from top to bottom."""
        return gauge(
            float(self.ripple_db[row, column]),
            "db",
            high=self.ripple_high_db,
            reserve=RIPPLE_RESERVE_DB,
        )

    def cell(self, row: int, column: int) -> Cell:
        """One of them with its gauges."""
        channel = self.channels[column]
        cn = float(self.cn_db[row, column])
        return Cell(
            carrier=channel.id,
            level=gauge(
                float(self.level_dbuv[row, column]),
                "dbuv",
                low=channel.window.low_dbuv,
                high=channel.window.high_dbuv,
                reserve=self.level_reserve_db,
            ),
            cn_db=cn if math.isfinite(cn) else None,
            margin=gauge(
                float(self.margin_db[row, column]),
                "db",
                low=self.margin_low_db,
                reserve=self.margin_reserve_db,
            ),
            state=STATES[self.rank[row, column]],
            ripple=self.ripple_of(row, column),
            choice=CHOICES[self.choice[row, column]],
        )


@dataclass(frozen=True)
class OutletRow:
    """An outlet with everything that it wants: its row among those that were judged."""

    outlet: str
    part: str | None
    name: str
    floor: str
    groups: list[GroupGauge]
    state: State
    judged: Judged = field(repr=False, compare=False)
    index: int

    @cached_property
    def columns(self) -> list[int]:
        """The carriers that it wants."""
        columns: list[int] = np.flatnonzero(self.judged.wants[self.index]).tolist()
        return columns

    @cached_property
    def cells(self) -> list[Cell]:
        """Each of them with its gauges; made when somebody looks."""
        return [self.judged.cell(self.index, c) for c in self.columns]


@dataclass(frozen=True)
class Solved:
    """A job's plant, solved once, its carriers in the order of the columns, how its parts are called,
    and the carriers that nobody wants, in the columns behind."""

    run: Solution
    channels: list[NetworkCarrier]
    names: dict[str, str]
    loud: list[UnwantedSignal] = field(default_factory=list)

    @property
    def columns(self) -> Columns:
        """What the sources give."""
        return self.run.columns

    @cached_property
    def of_group(self) -> dict[Group, NDArray[np.bool_]]:
        """Which carriers are of each group."""
        return {
            g: np.array([channel.group == g for channel in self.channels], bool) for g in GROUPS
        }

    @cached_property
    def groups(self) -> tuple[Group, ...]:
        """The groups that are there."""
        return tuple(g for g in GROUPS if self.of_group[g].any())

    @cached_property
    def has_source(self) -> NDArray[np.bool_]:
        """Which carriers have a port that they are meant to come from."""
        return np.array(
            [port is not None for port in self.columns.port[: len(self.channels)]], bool
        )


def modulation_of(carrier: Carrier) -> Modulation:
    """The carrier's modulation; an unknown one counts as the most robust of its kind's name."""
    return MODULATIONS[carrier.modulation]


def solve_job(ctx: JobContext) -> Solved:
    """Build and solve the plant of a job; satellites that nobody wants stay out of it."""
    job, catalogue, profile = ctx.job, ctx.catalogue, ctx.profile
    heard = from_the_air(job)
    around, job = job, wanted_job(job)
    loud: list[UnwantedSignal] = []
    # Only what amplifies minds what nobody wants.
    if any(p.rated for p in {catalogue.part(p.type) for p in job.parts} if p is not None):
        loud = unwanted_signals(
            around, heard, frozenset(c.id for c in job.carriers), profile.mobile
        )
    columns = sources_of(ctx.with_job(job), heard, around, loud=loud)
    run = solve_run(job.parts, job.links, catalogue, columns=columns, receivers=receivers_of(job))
    return Solved(run, _channels(ctx.with_job(job), columns), part_names(ctx.with_job(job)), loud)


def _channels(ctx: JobContext, columns: Columns) -> list[NetworkCarrier]:
    job = ctx.job
    kinds = {t.id: t.kind for t in job.targets}
    parts = {p.id: p for p in job.parts}
    channels = []
    for i, carrier in enumerate(job.carriers):
        modulation = modulation_of(carrier)
        port = columns.port[i]
        band = ""
        if port is not None:
            kind = ctx.catalogue.part(parts[port[0]].type)
            found = lnb_band(kind, carrier) if kind is not None else None
            band = found.name if found else ""
        channels.append(
            NetworkCarrier(
                id=carrier.id,
                name=carrier.name,
                target=carrier.target,
                group=_GROUP_OF[kinds[carrier.target]],
                rf_mhz=carrier.frequency_mhz,
                frequency_mhz=float(columns.frequency_mhz[i]),
                band=band,
                system=modulation.system,
                wanted_cn_db=modulation.cn_db,
                window=ctx.profile.window(modulation.code, modulation.system),
            )
        )
    return channels


def ranks(
    value: Floats, low: float | Floats | None, high: float | Floats | None, reserve: float | Floats
) -> Ranks:
    """The rank of many figures in `STATES`, as `gauge` judges one."""
    room = np.full(value.shape, np.inf)
    if low is not None:
        room = np.minimum(room, value - low)
    if high is not None:
        room = np.minimum(room, high - value)
    found = np.where(room < -1e-3, FAIL, np.where(room < reserve - 1e-3, MARGINAL, OK))
    return np.where(np.isfinite(value), found, UNKNOWN).astype(np.int8)


@dataclass(frozen=True, eq=False)
class Ranked:
    """Figures of carriers against windows and thresholds, arrays (..., carriers): level [dBµV], of a
    range the end that lies nearer to its limit; margin [dB]; the rank of level, margin and both."""

    level_dbuv: Floats
    margin_db: Floats
    level_rank: Ranks
    margin_rank: Ranks
    rank: Ranks


def ranked(
    channels: list[NetworkCarrier],
    profile: Profile,
    *,
    low_dbuv: Floats,
    high_dbuv: Floats,
    cn_db: Floats,
) -> Ranked:
    """Judge the ends of what levels may be [dBµV] and C/N [dB], arrays (..., carriers)."""
    least = np.array([channel.window.low_dbuv for channel in channels])
    most = np.array([channel.window.high_dbuv for channel in channels])
    # Where a carrier comes by two ways its level is a range: the end nearer to its limit counts.
    level = np.where(high_dbuv - most > least - low_dbuv, high_dbuv, low_dbuv)
    margin = cn_db - np.array([channel.wanted_cn_db for channel in channels])
    level_rank = ranks(level, least, most, profile.level_reserve_db)
    margin_rank = ranks(margin, profile.margin_db, None, profile.margin_reserve_db)
    rank = np.maximum(level_rank, margin_rank)
    rank[np.isnan(level)] = FAIL
    return Ranked(
        level_dbuv=level,
        margin_db=margin,
        level_rank=level_rank,
        margin_rank=margin_rank,
        rank=rank,
    )


def wants_group(outlet: Outlet, group: Group) -> bool:
    """Whether an outlet wants the carriers of a group."""
    if group == "cable":
        return outlet.company != "none"
    return outlet.satellite if group == "satellite" else outlet.terrestrial


def slope_limit_db(profile: Profile, group: Group) -> float:
    """How far the levels of a group may lie apart at an outlet [dB]."""
    return profile.slope_satellite_db if group == "satellite" else profile.slope_terrestrial_db


def judge(ctx: JobContext, solved: Solved) -> Judged:
    """Judge every carrier at every outlet."""
    profile = ctx.profile
    channels, run = solved.channels, solved.run
    plates = [run.wiring.plates.get(o.id) for o in ctx.job.outlets]
    shape = (len(plates), len(channels))
    low, high, cn, ripple = (np.full(shape, np.nan) for _ in range(4))
    nodes = [run.outlet_node(p) for p in plates]
    rows = np.array([r for r, node in enumerate(nodes) if node is not None], int)
    at = np.array([node for node in nodes if node is not None], int)
    if len(rows):
        low[rows], high[rows] = run.levels.level_dbuv[at], run.levels.high_dbuv[at]
        cn[rows], ripple[rows] = run.levels.cn_db[at], run.levels.ripple_db[at]
    found = ranked(channels, profile, low_dbuv=low, high_dbuv=high, cn_db=cn)
    choice = np.zeros(shape, np.int8)
    for r, plate in enumerate(plates):
        if plate is not None and plate in run.choice.alone:
            alone, beside = (
                c[plate][: len(channels)] for c in (run.choice.alone, run.choice.beside)
            )
            choice[r] = np.where(beside, 0, np.where(alone, 1, 2))
    ripple_rank = ranks(ripple, None, profile.ripple_db, RIPPLE_RESERVE_DB)
    ripple_rank[np.isnan(ripple)] = OK  # nothing there: told as a level
    rank = np.where(choice == 2, np.int8(FAIL), np.maximum(found.rank, ripple_rank))
    group = np.array([GROUPS.index(channel.group) for channel in channels], int)
    wants = np.array([[wants_group(o, g) for g in GROUPS] for o in ctx.job.outlets], bool)
    return Judged(
        channels=channels,
        plates=plates,
        rows=rows,
        nodes=at,
        level_dbuv=found.level_dbuv,
        cn_db=cn,
        margin_db=found.margin_db,
        ripple_db=ripple,
        level_rank=found.level_rank,
        margin_rank=found.margin_rank,
        ripple_rank=ripple_rank,
        rank=rank,
        wants=wants.reshape(-1, len(GROUPS))[:, group],
        choice=choice,
        least_dbuv=np.array([channel.window.low_dbuv for channel in channels]),
        most_dbuv=np.array([channel.window.high_dbuv for channel in channels]),
        level_reserve_db=profile.level_reserve_db,
        margin_low_db=profile.margin_db,
        margin_reserve_db=profile.margin_reserve_db,
        ripple_high_db=profile.ripple_db,
    )


def outlet_rows(ctx: JobContext, solved: Solved) -> list[OutletRow]:
    """Every outlet's figures and gauges."""
    plates = {p.outlet: p.id for p in ctx.job.parts if p.outlet}
    judged = judge(ctx, solved)
    groups = group_gauges(
        np.where(judged.wants, judged.level_dbuv, np.nan),
        judged.rank,
        windows=(judged.least_dbuv[None], judged.most_dbuv[None]),
        channels=solved.channels,
        profile=ctx.profile,
        reserve_db=ctx.profile.level_reserve_db,
    )
    gravest = np.where(judged.wants, judged.rank, -1).max(axis=1, initial=-1).tolist()
    rows = []
    for r, outlet in enumerate(ctx.job.outlets):
        states = [g.slope.state for g in groups[r]]
        rows.append(
            OutletRow(
                outlet=outlet.id,
                part=plates.get(outlet.id),
                name=outlet.name,
                floor=outlet.floor,
                groups=groups[r],
                judged=judged,
                index=r,
                state=worst([*states, STATES[gravest[r]]] if gravest[r] >= 0 else states),
            )
        )
    return rows


def group_gauges(
    level_dbuv: Floats,
    rank: Ranks,
    windows: tuple[Floats, Floats],
    channels: list[NetworkCarrier],
    profile: Profile,
    reserve_db: float,
) -> list[list[GroupGauge]]:
    """For many places at once, the gauges of the lowest and highest frequency in each group that is
    there: levels [dBµV] and their ranks (places, carriers), NaN for what is not there or not wanted;
    `windows` the lower and upper limits, broadcast to these, NaN for none."""
    count = len(level_dbuv)
    found: list[list[GroupGauge]] = [[] for _ in range(count)]
    low, high = (np.broadcast_to(w, level_dbuv.shape) for w in windows)
    for group in GROUPS:
        mine = [c for c, channel in enumerate(channels) if channel.group == group]
        mine.sort(key=lambda c: channels[c].frequency_mhz)
        if not mine:
            continue
        # A picture needs no more than a thousandth of a dB, and the answer half the bytes.
        level = np.round(level_dbuv[:, mine], 3)
        there = np.isfinite(level)
        first, last = there.argmax(axis=1), len(mine) - 1 - there[:, ::-1].argmax(axis=1)
        least = np.where(there, level, np.inf).min(axis=1)
        most = np.where(there, level, -np.inf).max(axis=1)
        gravest = np.where(there, rank[:, mine], 0).max(axis=1).tolist()
        limit = slope_limit_db(profile, group)
        figures = (level_dbuv, low, high)
        low_of, high_of = (_figures(figures, np.array(mine)[end]) for end in (first, last))
        for r in np.flatnonzero(there.any(axis=1)).tolist():
            slope = gauge(round(float(most[r] - least[r]), 3), "db", high=limit, reserve=1.0)
            found[r].append(
                GroupGauge(
                    group=group,
                    low=_gauge(low_of[r], reserve_db),
                    high=_gauge(high_of[r], reserve_db),
                    low_mhz=channels[mine[first[r]]].frequency_mhz,
                    high_mhz=channels[mine[last[r]]].frequency_mhz,
                    least_dbuv=float(least[r]),
                    slope=slope,
                    state=worst([STATES[gravest[r]], slope.state]),
                )
            )
    return found


def _figures(arrays: tuple[Floats, ...], column: Ints) -> list[tuple[float | None, ...]]:
    """One column of each row, from several arrays; None for what is not there."""
    rows = np.arange(len(column))
    found = zip(*(np.round(x[rows, column], 3).tolist() for x in arrays), strict=True)
    return [tuple(None if x != x else x + 0.0 for x in row) for row in found]


@lru_cache(8192)
def _gauge(figures: tuple[float | None, ...], reserve_db: float) -> Gauge:
    """The gauge of rounded figures: from one change to the next most of them are the same."""
    level, low, high = figures
    return gauge(level, "dbuv", low=low, high=high, reserve=reserve_db)
