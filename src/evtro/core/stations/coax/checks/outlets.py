"""The figures of every outlet against their windows: levels, quality, ripple, slope, and what is missing."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ....checks.registry import check
from ....job.problems import Problem
from ....units.quantities import Phrase, Quantity
from ....units.severity import OK
from ..context import NetworkContext
from ..levels.outlets import Cell, Group, Judged, NetworkCarrier, OutletRow
from .causes import OutletFinding
from .margins import margin_problem
from .matching import echo_problem
from .silent import silent_problem


@check(
    "coax",
    codes=(
        "no-plate",
        "no-path",
        "range",
        "choice-none",
        "choice-held",
        "choice-input",
        "level-low",
        "level-high",
        "margin",
        "distortion",
        "echo",
        "slope",
    ),
    needs=("profile", "rows", "solved"),
    of_figures=True,
)
def outlet_figures(ctx: NetworkContext) -> Iterator[OutletFinding]:
    """The worst figure of each group at each outlet."""
    if not ctx.rows:
        return
    picks = {g: _picks(ctx, ctx.rows[0].judged, g) for g in ctx.solved.groups}
    for row in ctx.rows:
        yield from _outlet(ctx, row, picks)


def _outlet(
    ctx: NetworkContext,
    row: OutletRow,
    picks: dict[Group, _Picks],
) -> list[OutletFinding]:
    judged, r = row.judged, row.index
    if not judged.wants[r].any():
        return []
    if row.part is None:
        return [
            OutletFinding(
                problem=Problem(
                    code="no-plate",
                    station="coax",
                    state="fail",
                    place=row.name,
                    title=(f"{row.name} has no path",),
                    gauge=None,
                    limit=("a wall plate in the run",),
                    origin="this job's outlets",
                    remedy=(f"Add {row.name} behind a free port of the run.",),
                    ref=row.outlet,
                ),
                row=row,
            )
        ]
    found: list[OutletFinding] = []
    if row.state == "ok":
        return found
    for group, pick in picks.items():
        gone = pick.gone[r]
        if gone >= 0 and (silent := silent_problem(ctx, row=row, column=gone)):
            found.append(OutletFinding(problem=silent, row=row, group=group, carrier=gone))
        if pick.any[r]:
            found += _group(ctx, row=row, pick=pick, group=group)
    for one in row.groups:
        if one.slope.state != "ok":
            found.append(
                OutletFinding(
                    problem=Problem(
                        code="slope",
                        station="coax",
                        state=one.slope.state,
                        place=row.name,
                        title=(f"{row.name}: levels differ too much over the {one.group} band",),
                        gauge=one.slope,
                        limit=("at most ", Quantity(one.slope.high or 0, "db", 0)),
                        origin=ctx.profile.slope_origin,
                        remedy=("Shorten the run, take a better cable, or fit an equaliser.",),
                        ref=row.part,
                    ),
                    row=row,
                    group=one.group,
                    by=(one.slope.value or 0.0) - (one.slope.high or 0.0),
                )
            )
    return found


@dataclass(frozen=True)
class _Picks:
    """For one group at every outlet: the carrier furthest under its window, over it, and with the
    thinnest margin, and by how much [dB], the one with the most ripple; the first that does not arrive (-1: none). `any` says
    whether there is something to look at: what is in by all its figures needs no look."""

    any: list[bool]
    gone: list[int]
    low: list[int]
    under_db: list[float]
    high: list[int]
    over_db: list[float]
    thin: list[int]
    wavy: list[int]


def _picks(ctx: NetworkContext, judged: Judged, group: Group) -> _Picks:
    mine = judged.wants & ctx.solved.of_group[group]
    there = np.isfinite(judged.level_dbuv)
    gone = mine & ~there & ctx.solved.has_source
    look = mine & there & (judged.rank != OK)
    reserve, rows = ctx.profile.level_reserve_db, np.arange(len(mine))
    under = np.where(look, judged.least_dbuv + reserve - judged.level_dbuv, -np.inf)
    over = np.where(look, judged.level_dbuv - judged.most_dbuv + reserve, -np.inf)
    margin = np.where(look, np.where(np.isnan(judged.margin_db), -99.0, judged.margin_db), np.inf)
    low, high = under.argmax(axis=1), over.argmax(axis=1)
    return _Picks(
        any=look.any(axis=1).tolist(),
        gone=np.where(gone.any(axis=1), gone.argmax(axis=1), -1).tolist(),
        low=low.tolist(),
        under_db=under[rows, low].tolist(),
        high=high.tolist(),
        over_db=over[rows, high].tolist(),
        thin=margin.argmin(axis=1).tolist(),
        wavy=np.where(look, judged.ripple_db, -np.inf).argmax(axis=1).tolist(),
    )


def _group(
    ctx: NetworkContext,
    row: OutletRow,
    pick: _Picks,
    group: Group,
) -> list[OutletFinding]:
    """The worst level and the worst margin of a group at an outlet."""
    profile, solved = ctx.profile, ctx.solved
    found: list[OutletFinding] = []
    judged, reserve, r = row.judged, profile.level_reserve_db, row.index
    if pick.under_db[r] > 1e-3:
        c = pick.low[r]
        more = "more from the company at the drop" if group == "cable" else "a larger antenna"
        remedy: Phrase = (
            "Raise the level ahead of it: fewer splits, gain where the level is still "
            f"high, or {more}.",
        )
        problem = _level(
            row,
            judged.cell(r, c),
            channel=solved.channels[c],
            remedy=remedy,
            side="under",
            by=pick.under_db[r],
            reserve=reserve,
        )
        found.append(
            OutletFinding(
                problem=problem, row=row, group=group, carrier=c, by=pick.under_db[r] - reserve
            )
        )
    if pick.over_db[r] > 1e-3:
        c = pick.high[r]
        remedy = ("Lower the level ahead of it.",)
        problem = _level(
            row,
            judged.cell(r, c),
            channel=solved.channels[c],
            remedy=remedy,
            side="over",
            by=pick.over_db[r],
            reserve=reserve,
        )
        found.append(
            OutletFinding(
                problem=problem, row=row, group=group, carrier=c, by=pick.over_db[r] - reserve
            )
        )
    c = pick.thin[r]
    if judged.margin_rank[r, c] != OK and pick.under_db[r] <= 1e-3:
        problem = margin_problem(
            ctx, row=row, cell=judged.cell(r, c), channel=solved.channels[c], carrier=c
        )
        short = profile.margin_db - float(np.nan_to_num(judged.margin_db[r, c], nan=-99.0))
        found.append(OutletFinding(problem=problem, row=row, group=group, carrier=c, by=short))
    c = pick.wavy[r]
    if judged.ripple_rank[r, c] != OK:
        found.append(
            OutletFinding(
                problem=echo_problem(ctx, row, c),
                row=row,
                group=group,
                carrier=c,
                by=float(judged.ripple_db[r, c]) - profile.ripple_db,
            )
        )
    return found


def _level(
    row: OutletRow,
    cell: Cell,
    channel: NetworkCarrier,
    remedy: Phrase,
    side: str,
    by: float,
    reserve: float,
) -> Problem:
    limit = cell.level.low if side == "under" else cell.level.high
    beyond = by - reserve
    limit_text: Phrase = (
        "at least " if side == "under" else "at most ",
        Quantity(limit or 0, "dbuv", 0),
    )
    if beyond > 1e-3:
        title: Phrase = (f"{row.name}: ", Quantity(beyond, "db"), f" {side} the limit")
    else:
        title = (f"{row.name}: near the {'lower' if side == 'under' else 'upper'} limit",)
        limit_text = (
            Quantity(reserve, "db", 0),
            " reserve inside ",
            Quantity(limit or 0, "dbuv", 0),
        )
    return Problem(
        code="level-low" if side == "under" else "level-high",
        station="coax",
        state=cell.level.state,
        place=f"{row.name}, {channel.frequency_mhz:.0f} MHz",
        title=title,
        gauge=cell.level,
        limit=limit_text,
        origin=channel.window.origin,
        remedy=remedy,
        ref=row.part,
    )
