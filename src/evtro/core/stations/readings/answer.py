"""Station Readings: what the meter said against the plan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ...job import Job, Reading
from ...job.problems import Problem
from ...job.profile import Profile
from ...units.quantities import (
    Gauge,
    Quantity,
    State,
    gauge,
    worst,
)
from ..coax.answer import CoaxAnswer
from ..coax.levels import Solved, wants

TEST_POINTS = ("preamplifier", "amplifier", "grounding_block", "arrester")


@dataclass(frozen=True)
class ReadingCell:
    """One carrier at one place: planned and read [dBµV, dB], and how far apart they are [dB]."""

    carrier: str
    planned_dbuv: float | None
    planned_cn_db: float | None
    read_dbuv: float | None
    read_cn_db: float | None
    deviation: Gauge
    quality: Gauge
    state: State


@dataclass(frozen=True)
class ReadingRow:
    """A test point or an outlet; `as_read` judges an outlet by what was read there."""

    part: str
    name: str
    kind: str
    floor: str
    cells: list[ReadingCell]
    as_read: State


@dataclass(frozen=True)
class CarrierMean:
    """Mean deviation of a carrier over all places where it was read [dB]."""

    carrier: str
    deviation: Gauge
    count: int


@dataclass(frozen=True)
class ReadingsAnswer:
    """The answer of the station."""

    rows: list[ReadingRow]
    means: list[CarrierMean]
    taken: int
    wanted: int
    headline: str
    detail: str
    overall: Gauge
    tolerance_db: float
    tolerance_origin: str
    problems: list[Problem]
    state: State
    figure: str


def work_out(job: Job, profile: Profile, coax: CoaxAnswer, solved: Solved) -> ReadingsAnswer:
    """Compare every reading with the plan, and say where they part."""
    tolerance = profile.reading_tolerance_db
    said = {(r.part, r.carrier): r for r in job.readings}
    outlets = {o.id: o for o in job.outlets}
    planned = {p.id: {c: (level, cn) for c, level, cn in p.levels} for p in coax.parts}
    rows: list[ReadingRow] = []
    for view in coax.parts:
        if view.kind in TEST_POINTS and planned[view.id]:
            cells = _cells(
                solved,
                planned[view.id],
                said=said,
                part=view.id,
                tolerance=tolerance,
                profile=profile,
                outlet=False,
            )
            rows.append(
                ReadingRow(
                    part=view.id,
                    name=view.name,
                    kind="test point",
                    floor="",
                    cells=cells,
                    as_read="todo",
                )
            )
    for row in coax.outlets:
        if row.part is None:
            continue
        here = outlets[row.outlet]
        own: dict[str, tuple[float | None, float | None]] = {
            lane.id: planned[row.part].get(lane.id, (None, None))
            for lane in solved.lanes
            if wants(here, lane)
        }
        cells = _cells(
            solved, own, said=said, part=row.part, tolerance=tolerance, profile=profile, outlet=True
        )
        done = [c for c in cells if c.read_dbuv is not None or c.read_cn_db is not None]
        whole = bool(cells) and len(done) == len(cells)
        judged = worst([_as_read(c, solved, profile) for c in done])
        as_read: State = judged if whole or judged == "out" else "todo"
        rows.append(
            ReadingRow(
                part=row.part,
                name=row.name,
                kind="outlet",
                floor=row.floor,
                cells=cells,
                as_read=as_read,
            )
        )
    at_outlets = [c for r in rows if r.kind == "outlet" for c in r.cells]
    taken = sum(c.read_dbuv is not None or c.read_cn_db is not None for c in at_outlets)
    means = _means(rows, solved, tolerance)
    problems = _problems(rows, solved, profile)
    headline, detail, overall = _headline(
        rows, solved, tolerance=tolerance, taken=taken, wanted=len(at_outlets)
    )
    states = [r.as_read for r in rows if r.kind == "outlet"]
    state = worst([*states, *(p.state for p in problems)])
    return ReadingsAnswer(
        rows=rows,
        means=means,
        taken=taken,
        wanted=len(at_outlets),
        headline=headline,
        detail=detail,
        overall=overall,
        tolerance_db=tolerance,
        tolerance_origin=profile.reading_origin,
        problems=problems,
        state=state,
        figure=f"{taken} of {len(at_outlets)} taken",
    )


def _cells(
    solved: Solved,
    planned: Mapping[str, tuple[float | None, float | None]],
    said: dict[tuple[str, str], Reading],
    part: str,
    tolerance: float,
    profile: Profile,
    outlet: bool,
) -> list[ReadingCell]:
    cells = []
    unread = gauge(None, "db", -tolerance, tolerance)
    least = profile.margin_db if outlet else None
    unproven = gauge(None, "db", low=least)
    wanted_cn = {lane.id: lane.wanted_cn_db for lane in solved.lanes}
    for lane in solved.lanes:
        if lane.id not in planned:
            continue
        level, cn = planned[lane.id]
        reading = said.get((part, lane.id))
        if reading is None:
            cells.append(
                ReadingCell(
                    carrier=lane.id,
                    planned_dbuv=level,
                    planned_cn_db=cn,
                    read_dbuv=None,
                    read_cn_db=None,
                    deviation=unread,
                    quality=unproven,
                    state="todo",
                )
            )
            continue
        read, read_cn = reading.level_dbuv, reading.cn_db
        off = None if read is None or level is None else read - level
        deviation = gauge(off, "db", -tolerance, tolerance)
        quality = gauge(
            None if read_cn is None else read_cn - wanted_cn[lane.id],
            "db",
            low=least,
            reserve=profile.margin_reserve_db if outlet else 0.0,
        )
        states = [g.state for g in (deviation, quality) if g.value is not None]
        cells.append(
            ReadingCell(
                carrier=lane.id,
                planned_dbuv=level,
                planned_cn_db=cn,
                read_dbuv=read,
                read_cn_db=read_cn,
                deviation=deviation,
                quality=quality,
                state=worst(states),
            )
        )
    return cells


def _as_read(cell: ReadingCell, solved: Solved, profile: Profile) -> State:
    """An outlet's reading against the outlet's own window, apart from the plan."""
    lane = next(x for x in solved.lanes if x.id == cell.carrier)
    states: list[State] = []
    if cell.read_dbuv is not None:
        window = lane.window
        states.append(
            gauge(
                cell.read_dbuv,
                "dbuv",
                low=window.low_dbuv,
                high=window.high_dbuv,
                reserve=profile.level_reserve_db,
            ).state
        )
    if cell.quality.value is not None:
        states.append(cell.quality.state)
    return worst(states)


def _means(rows: list[ReadingRow], solved: Solved, tolerance: float) -> list[CarrierMean]:
    means = []
    for lane in solved.lanes:
        off = [
            c.deviation.value
            for r in rows
            for c in r.cells
            if c.carrier == lane.id and c.deviation.value is not None
        ]
        mean = float(np.mean(off)) if off else None
        means.append(CarrierMean(lane.id, gauge(mean, "db", -tolerance, tolerance), len(off)))
    return means


def _headline(
    rows: list[ReadingRow], solved: Solved, tolerance: float, taken: int, wanted: int
) -> tuple[str, str, Gauge]:
    """The answer in words: the group that is furthest from its plan."""
    if not taken:
        return "Nothing read yet", "Read the test points from the mast inward.", gauge(None, "db")
    group_of = {lane.id: lane.group for lane in solved.lanes}
    best: tuple[float, str] | None = None
    for group, name in (("terrestrial", "Terrestrial"), ("satellite", "Satellite IF")):
        off = [
            c.deviation.value
            for r in rows
            for c in r.cells
            if group_of[c.carrier] == group and c.deviation.value is not None
        ]
        if off and (best is None or abs(np.mean(off)) > abs(best[0])):
            best = (float(np.mean(off)), name)
    if best is None:
        return f"{taken} of {wanted} taken", "Quality only: no level to compare.", gauge(None, "db")
    overall = gauge(best[0], "db", -tolerance, tolerance)
    if overall.state == "in":
        words = "As planned"
    else:
        words = f"{best[1]} is {abs(best[0]):.1f} dB {'low' if best[0] < 0 else 'high'}"
    places = len({r.part for r in rows for c in r.cells if c.deviation.value is not None})
    place = "place" if places == 1 else "places"
    return words, f"{best[1]} mean deviation over {places} {place} read.", overall


def _problems(rows: list[ReadingRow], solved: Solved, profile: Profile) -> list[Problem]:
    found = []
    lanes = {lane.id: lane for lane in solved.lanes}
    for row in rows:
        off = [c for c in row.cells if c.deviation.state == "out"]
        if off:
            worst_cell = max(off, key=lambda c: abs(c.deviation.value or 0))
            value = worst_cell.deviation.value or 0
            found.append(
                Problem(
                    code="reading-off",
                    station="readings",
                    state="out",
                    place=f"{row.name}, {lanes[worst_cell.carrier].frequency_mhz:.0f} MHz",
                    title=(
                        f"{row.name}: read ",
                        Quantity(abs(value), "db"),
                        " below the plan" if value < 0 else " above the plan",
                    ),
                    gauge=worst_cell.deviation,
                    limit=(
                        "within ",
                        Quantity(profile.reading_tolerance_db, "db", 0),
                        " of the plan",
                    ),
                    origin=profile.reading_origin,
                    remedy=(
                        "Read the point ahead of it: the fault lies between the last point that "
                        "agrees and the first that does not.",
                    ),
                    ref=row.part,
                )
            )
        poor = [c for c in row.cells if c.quality.state == "out"]
        if poor and row.kind == "outlet":
            cell = min(poor, key=lambda c: c.quality.value or 0)
            found.append(
                Problem(
                    code="quality-low",
                    station="readings",
                    state="out",
                    place=f"{row.name}, {lanes[cell.carrier].frequency_mhz:.0f} MHz",
                    title=(f"{row.name}: the quality read is too low",),
                    gauge=cell.quality,
                    limit=(
                        "at least ",
                        Quantity(profile.margin_db, "db", 0),
                        " over the threshold",
                    ),
                    origin=profile.margin_origin,
                    remedy=(
                        "Strength without quality: check satellite, polarity, overload and "
                        "reflections before raising the level.",
                    ),
                    ref=row.part,
                )
            )
    return found
