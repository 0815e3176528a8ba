"""Station Readings: what the meter said against the plan."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...checks.composer import compose
from ...checks.registry import checks_of
from ...job import Job, Reading
from ...job.problems import Problem
from ...job.profile import Profile
from ...physics.geodesy import Floats
from ...units.quantities import Gauge, gauge
from ...units.severity import State, worst
from ..coax.levels.outlets import NetworkCarrier, Solved
from ..coax.levels.parts import strongest
from ..coax.views.answer import CoaxAnswer
from . import checks
from .figures import ReadFigures, ReadingCell, ReadingRow

CHECKS = checks_of(checks)
TEST_POINTS = ("preamplifier", "amplifier", "grounding_block", "arrester")


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


def work_out(job: Job, profile: Profile, coax: CoaxAnswer, whole: bool = True) -> ReadingsAnswer:
    """Compare every reading with the plan, and say where they part. The verdict needs no rows of
    places that nobody has read: without `whole` they are left out."""
    tolerance, solved = profile.reading_tolerance_db, coax.solved
    said: dict[str, dict[str, Reading]] = {}
    for reading in job.readings:
        said.setdefault(reading.part, {})[reading.carrier] = reading
    rows: list[ReadingRow] = []
    kinds = solved.run.wiring.kinds
    points = [p.id for p in job.parts if kinds[p.id].draws_as in TEST_POINTS]
    places: list[tuple[str, str, str, list[int] | None]]
    places = [(p, coax.names[p], "", None) for p in points]
    places += [(r.part, r.name, r.floor, r.columns) for r in coax.outlets if r.part is not None]
    wanted = sum(len(columns) for *_, columns in places if columns is not None)
    unread = any(columns is not None and part not in said for part, _, _, columns in places)
    if not whole:
        places = [place for place in places if place[0] in said]
    figures = [strongest(solved, part) for part, *_ in places]
    levels, ratios = (_without_nan([f[i] for f in figures]) for i in (0, 1))
    for (part, name, floor, columns), level, ratio in zip(places, levels, ratios, strict=True):
        mine = [c for c, v in enumerate(level) if v is not None] if columns is None else columns
        if mine or columns is not None:
            plan = [level[c] for c in mine], [ratio[c] for c in mine]
            rows.append(
                _row(
                    coax,
                    profile,
                    part=part,
                    name=name,
                    floor=floor,
                    columns=mine,
                    plan=plan,
                    said=said.get(part, {}),
                    outlet=columns is not None,
                )
            )
    taken = sum(len(r.cells) for r in rows if r.kind == "outlet")
    means = _means(rows, solved, tolerance)
    problems = [told.problem for told in compose(CHECKS, ReadFigures(rows, solved, profile))]
    headline, detail, overall = _headline(
        rows, solved, tolerance=tolerance, taken=taken, wanted=wanted
    )
    states: list[State] = [r.as_read for r in rows if r.kind == "outlet"]
    if unread:
        states.append("unknown")
    state = worst([*states, *(p.state for p in problems)])
    return ReadingsAnswer(
        rows=rows,
        means=means,
        taken=taken,
        wanted=wanted,
        headline=headline,
        detail=detail,
        overall=overall,
        tolerance_db=tolerance,
        tolerance_origin=profile.reading_origin,
        problems=problems,
        state=state,
        figure=f"{taken} of {wanted} taken",
    )


def _without_nan(rows: list[Floats]) -> list[list[float | None]]:
    """Figures as lists, None for what is not there."""
    if not rows:
        return []
    figures = np.array(rows)
    plain = figures.astype(object)
    plain[np.isnan(figures)] = None
    found: list[list[float | None]] = plain.tolist()
    return found


def _row(
    coax: CoaxAnswer,
    profile: Profile,
    part: str,
    name: str,
    floor: str,
    columns: list[int],
    plan: tuple[list[float | None], list[float | None]],
    said: dict[str, Reading],
    outlet: bool,
) -> ReadingRow:
    solved = coax.solved
    planned = list(zip(*plan, strict=True))
    cells = []
    for c, due in zip(columns, planned, strict=True) if said else ():
        reading = said.get(solved.channels[c].id)
        if reading is not None and (reading.level_dbuv, reading.cn_db) != (None, None):
            cells.append(
                _cell(solved.channels[c], due, reading=reading, profile=profile, outlet=outlet)
            )
    judged = worst([_as_read(c, solved, profile) for c in cells])
    whole = bool(cells) and len(cells) == len(columns)
    return ReadingRow(
        part=part,
        name=name,
        kind="outlet" if outlet else "test point",
        floor=floor,
        carriers=[solved.channels[c].id for c in columns],
        planned_dbuv=plan[0],
        planned_cn_db=plan[1],
        cells=cells,
        as_read=judged if outlet and (whole or judged == "fail") else "unknown",
    )


def _cell(
    channel: NetworkCarrier,
    planned: tuple[float | None, float | None],
    reading: Reading,
    profile: Profile,
    outlet: bool,
) -> ReadingCell:
    tolerance, (level, cn) = profile.reading_tolerance_db, planned
    read, read_cn = reading.level_dbuv, reading.cn_db
    off = None if read is None or level is None else read - level
    deviation = gauge(off, "db", -tolerance, tolerance)
    quality = gauge(
        None if read_cn is None else read_cn - channel.wanted_cn_db,
        "db",
        low=profile.margin_db if outlet else None,
        reserve=profile.margin_reserve_db if outlet else 0.0,
    )
    states = [g.state for g in (deviation, quality) if g.value is not None]
    return ReadingCell(
        carrier=channel.id,
        planned_dbuv=level,
        planned_cn_db=cn,
        read_dbuv=read,
        read_cn_db=read_cn,
        deviation=deviation,
        quality=quality,
        state=worst(states),
    )


def _as_read(cell: ReadingCell, solved: Solved, profile: Profile) -> State:
    """An outlet's reading against the outlet's own window, apart from the plan."""
    channel = next(x for x in solved.channels if x.id == cell.carrier)
    states: list[State] = []
    if cell.read_dbuv is not None:
        window = channel.window
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
    by_carrier: dict[str, list[float]] = {}
    for cell in (c for r in rows for c in r.cells):
        if cell.deviation.value is not None:
            by_carrier.setdefault(cell.carrier, []).append(cell.deviation.value)
    for channel in solved.channels:
        off = by_carrier.get(channel.id, [])
        mean = float(np.mean(off)) if off else None
        means.append(CarrierMean(channel.id, gauge(mean, "db", -tolerance, tolerance), len(off)))
    return means


def _headline(
    rows: list[ReadingRow], solved: Solved, tolerance: float, taken: int, wanted: int
) -> tuple[str, str, Gauge]:
    """The answer in words: the group that is furthest from its plan."""
    if not taken:
        return "Nothing read yet", "Read the test points from the mast inward.", gauge(None, "db")
    group_of = {channel.id: channel.group for channel in solved.channels}
    best: tuple[float, str] | None = None
    for group, name in (
        ("terrestrial", "Terrestrial"),
        ("satellite", "Satellite IF"),
        ("cable", "Company's line"),
    ):
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
    if overall.state == "ok":
        words = "As planned"
    else:
        words = f"{best[1]} is {abs(best[0]):.1f} dB {'low' if best[0] < 0 else 'high'}"
    places = len({r.part for r in rows for c in r.cells if c.deviation.value is not None})
    place = "place" if places == 1 else "places"
    return words, f"{best[1]} mean deviation over {places} {place} read.", overall
