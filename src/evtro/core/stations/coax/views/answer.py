"""Station Coax: what level and quality reaches each outlet."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ....job import Job, Part
from ....job.parts import PartType
from ....job.problems import Problem
from ....network.edits import free_inputs, free_outputs
from ....network.graph import Wiring
from ....units.quantities import Gauge, gauge
from ....units.severity import State, worst
from ..checks.devices import output_gauge
from ..checks.return_path import ReturnWay, ways_back
from ..checks.terminal_cables import PairCable, pair_cables
from ..context import NetworkContext
from ..fixes.inline import advised
from ..levels.outlets import (
    Cell,
    GroupGauge,
    NetworkCarrier,
    OutletRow,
    Solved,
    group_gauges,
    ranks,
)
from ..levels.parts import part_levels, strongest
from ..powering import DcLoad, SupplyLoad
from ..routes import CableWay, way_of
from ..verdict import Verdict
from .folding import Branch, branches_of
from .layout import Layout, lay_out


@dataclass(frozen=True)
class PartView:
    """A part with what comes out of it and what it may still be joined to."""

    id: str
    type: str
    kind: str
    name: str
    type_name: str
    groups: list[GroupGauge]
    output: Gauge | None
    free_outputs: list[int]
    free_inputs: list[int]
    state: State


@dataclass(frozen=True)
class OutletView:
    """An outlet with its gauges; its carriers are asked for by its part."""

    outlet: str
    part: str | None
    name: str
    floor: str
    groups: list[GroupGauge]
    state: State


@dataclass(frozen=True)
class PartDetail:
    """Every carrier at a part: id, level [dBµV] and C/N [dB]; at an outlet judged, too; the ways of the
    cables that come to it; `route` are the cables on the way from the sources to it."""

    part: str
    levels: list[tuple[str, float, float]]
    cells: list[Cell]
    ways: list[CableWay]
    route: list[str]


@dataclass(frozen=True)
class CoaxView:
    """What the station shows."""

    channels: list[NetworkCarrier]
    outlets: list[OutletView]
    parts: list[PartView]
    layout: Layout
    branches: list[Branch]
    feeds: list[DcLoad]
    supplies: list[SupplyLoad]
    back: list[ReturnWay]
    pairs: list[PairCable]
    inside: int
    wanted: int
    lowest: Gauge
    lowest_place: str
    problems: list[Problem]
    state: State
    figure: str


@dataclass(frozen=True)
class CoaxAnswer:
    """The verdict of the station, and its tables once they are looked at."""

    ctx: NetworkContext
    verdict: Verdict

    @property
    def job(self) -> Job:
        """The job with what is wanted."""
        return self.ctx.job

    @property
    def solved(self) -> Solved:
        """The plant."""
        return self.verdict.solved

    @property
    def outlets(self) -> list[OutletRow]:
        """Every outlet, judged."""
        return self.verdict.outlets

    @property
    def problems(self) -> list[Problem]:
        """What is wrong in the run, and what to do."""
        return self.verdict.problems

    @property
    def state(self) -> State:
        """The state of the station."""
        return self.verdict.state

    @property
    def figure(self) -> str:
        """The figure of the station."""
        return self.verdict.figure

    @property
    def channels(self) -> list[NetworkCarrier]:
        """The carriers."""
        return self.solved.channels

    @property
    def names(self) -> dict[str, str]:
        """How each part is called."""
        return self.solved.names

    @cached_property
    def parts(self) -> list[PartView]:
        """Every part with its gauges."""
        states: dict[str | None, list[State]] = {}
        for problem in self.problems:
            states.setdefault(problem.ref, []).append(problem.state)
        groups = _groups(self)
        return [
            _view(self, part, groups.get(part.id, []), worst(states.get(part.id, []), "ok"))
            for part in self.job.parts
        ]

    @cached_property
    def layout(self) -> Layout:
        """Where everything stands in the picture."""
        return lay_out(self.job, self.solved.run.wiring)

    def detail(self, part_id: str) -> PartDetail:
        """Every carrier at a part."""
        row = next((r for r in self.outlets if r.part == part_id), None)
        wiring = self.solved.run.wiring
        ways = [way_of(self.job, wiring, k) for k in self.job.links if k.to_part == part_id]
        return PartDetail(
            part_id,
            part_levels(self.solved, part_id),
            row.cells if row else [],
            ways,
            route=_route(wiring, part_id),
        )

    @cached_property
    def view(self) -> CoaxView:
        """What the station shows."""
        lowest, place = _worst_place(self)
        found = self.verdict
        return CoaxView(
            channels=self.channels,
            outlets=[
                OutletView(
                    r.outlet, r.part, name=r.name, floor=r.floor, groups=r.groups, state=r.state
                )
                for r in self.outlets
            ],
            parts=self.parts,
            layout=self.layout,
            branches=branches_of(self.solved.run.wiring, (r.part for r in self.outlets if r.part)),
            feeds=found.feeds,
            supplies=found.supplies,
            back=ways_back(self.ctx),
            pairs=pair_cables(self.ctx),
            inside=found.inside,
            wanted=found.wanted,
            lowest=lowest,
            lowest_place=place,
            problems=self.problems,
            state=self.state,
            figure=self.figure,
        )


def _route(wiring: Wiring, part_id: str) -> list[str]:
    ahead = [part_id, *wiring.up(part_id)] if part_id in wiring.before else []
    return [link.id for part in ahead for link in wiring.before[part].values()]


def work_out(ctx: NetworkContext) -> CoaxAnswer:
    """Solve the network and judge it."""
    return answer_of(ctx, advised(ctx))


def answer_of(ctx: NetworkContext, verdict: Verdict) -> CoaxAnswer:
    """The answer around a verdict on a job's network."""
    return CoaxAnswer(ctx.with_solved(verdict.solved).wanted, verdict)


def _worst_place(answer: CoaxAnswer) -> tuple[Gauge, str]:
    """The wanted carrier that is furthest outside its window, or nearest to its limit: its level and
    where; one that does not arrive before all others."""
    rows = answer.outlets
    if not rows or not answer.channels:
        return gauge(None, "dbuv"), ""
    judged = rows[0].judged
    room = np.minimum(judged.level_dbuv - judged.least_dbuv, judged.most_dbuv - judged.level_dbuv)
    room = np.where(np.isnan(room), np.where(answer.solved.has_source, -np.inf, np.inf), room)
    room = np.where(judged.wants, room, np.inf)
    row, column = np.unravel_index(int(room.argmin()), room.shape)
    if np.isposinf(room[row, column]):
        return gauge(None, "dbuv"), ""
    cell = judged.cell(int(row), int(column))
    return (
        cell.level,
        f"{rows[int(row)].name} at {answer.channels[int(column)].frequency_mhz:.0f} MHz",
    )


def _groups(answer: CoaxAnswer) -> dict[str, list[GroupGauge]]:
    """The gauges of every part; an outlet's row has its own already."""
    solved, wiring = answer.solved, answer.solved.run.wiring
    parts = [p for p in wiring.order if not wiring.kinds[p].receivers]
    if not parts:
        return {}
    level = np.array([strongest(solved, p)[0] for p in parts])
    windows = [_window(solved, wiring.kinds[p], p) for p in parts]
    low, high = (
        np.array([np.nan if w[i] is None else w[i] for w in windows], float)[:, None]
        for i in (0, 1)
    )
    found = group_gauges(
        level,
        ranks(level, np.nan_to_num(low, nan=-np.inf), np.nan_to_num(high, nan=np.inf), 1.0),
        windows=(low, high),
        channels=answer.channels,
        profile=answer.ctx.profile,
        reserve_db=1.0,
    )
    return dict(zip(parts, found, strict=True))


def _view(answer: CoaxAnswer, part: Part, groups: list[GroupGauge], state: State) -> PartView:
    ctx, solved = answer.ctx, answer.solved
    kind = ctx.part_type(part)
    wiring = solved.run.wiring
    after, before = wiring.after.get(part.id), wiring.before.get(part.id)
    if after is None or before is None:  # on a loop
        outputs, inputs = free_outputs(ctx, part), free_inputs(ctx, part)
    else:
        outputs = [o for o in kind.joinable if o not in after]
        inputs = [i for i in range(kind.inputs) if i not in before]
    return PartView(
        id=part.id,
        type=part.type,
        kind=kind.draws_as,
        name=answer.names[part.id],
        type_name=kind.name,
        groups=groups,
        output=output_gauge(solved, part.id),
        free_outputs=outputs,
        free_inputs=inputs,
        state=state,
    )


def _window(solved: Solved, kind: PartType, part_id: str) -> tuple[float | None, float | None]:
    """Levels a part should give: its own input window, else the next part's carried back."""
    if kind.input_low_dbuv is not None and not kind.selects:
        return kind.input_low_dbuv, kind.input_high_dbuv
    wiring = solved.run.wiring
    for link in wiring.after.get(part_id, {}).values():
        after = wiring.kinds[link.to_part]
        if after.input_low_dbuv is not None:
            return after.input_low_dbuv, after.input_high_dbuv
    rated = [p.rated_output_dbuv for p in kind.paths if p.rated_output_dbuv is not None]
    return None, min(rated, default=None)
