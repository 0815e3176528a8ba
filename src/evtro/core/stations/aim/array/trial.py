"""Trial on site: spots where the antenna was held, against the forecast; which one to take."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from ....job import Array, Job, TrialSpot
from ....physics.beams import LIGHT_M_MHZ
from ....units.phrases import say
from ....units.quantities import Phrase, Quantity, noise_dbuv
from ....units.severity import State
from ...sky.incident import height_of
from .terminals import METER_SPREAD_DB, Terminals, heading_of, terminals, width_of

STRONG_DB = (
    12.0  # above what the ratio wants: noise cannot be the reason; common practice, no source
)
ECHO_LOSS_DB = 10.0  # below what the level allows, the meter's own noise included; common practice


@dataclass(frozen=True)
class TrialCell:
    """One carrier at a spot: forecast and read [dBµV], quality [dB] and its margin [dB]; `echoes`
    when the level is high and the quality low."""

    carrier: str
    name: str
    forecast_dbuv: float | None
    spread_db: float
    read_dbuv: float | None
    off_db: float | None
    quality_db: float | None
    margin_db: float | None
    echoes: bool
    state: State


@dataclass(frozen=True)
class TrialLine:
    """A spot with what it gave: carriers that hold their margin, the weakest of them [dB], how far
    the readings lie from the forecast on the mean [dB]."""

    id: str
    place: str
    above_ground_m: float
    heading_deg: float
    tilt_deg: float
    lines: list[TrialCell]
    good: int
    read: int
    least_margin_db: float | None
    mean_off_db: float | None
    words: str
    rank: int
    taken: bool


@dataclass(frozen=True)
class TrialView:
    """All spots of an antenna, the best one first in rank, and what to try next."""

    spots: list[TrialLine]
    best: str | None
    words: str
    next_try: list[Phrase]
    wanted: list[tuple[str, str, float]]


def trial(job: Job, antenna: Array, margin_db: float) -> TrialView:
    """Judge the spots. Quality goes before strength: a spot is as good as the number of carriers
    whose C/N or MER holds the margin, then as the weakest of them, then as its mean level."""
    here = terminals(job, antenna.model_copy(update={"stands_at": None}))
    wanted = _wanted(here)
    rows = [
        _line(job, antenna, spot, margin_db)
        for spot in job.trial_spots
        if spot.antenna == antenna.id
    ]
    order = sorted(range(len(rows)), key=lambda i: _score(rows[i]), reverse=True)
    ranked = [replace(row, rank=order.index(i) + 1) for i, row in enumerate(rows)]
    read = [r for r in ranked if r.read > 0]
    best = min(read, key=lambda r: r.rank, default=None)
    return TrialView(
        spots=ranked,
        best=best.id if best else None,
        words=_words(ranked, best),
        next_try=_next(job, antenna, here=here, rows=ranked, best=best),
        wanted=wanted,
    )


def _wanted(here: Terminals | None) -> list[tuple[str, str, float]]:
    if here is None:
        return []
    return [
        (c.id, c.name, c.frequency_mhz)
        for c, w in zip(here.incident.carriers, here.incident.wanted, strict=True)
        if w
    ]


def _line(job: Job, antenna: Array, spot: TrialSpot, margin_db: float) -> TrialLine:
    heading = spot.heading_deg if spot.heading_deg is not None else heading_of(job, antenna)
    height = (
        spot.above_ground_m if spot.above_ground_m is not None else height_of(job.site, antenna)
    )
    there = antenna.model_copy(
        update={"heading_deg": heading, "above_ground_m": height, "stands_at": None}
    )
    forecast = terminals(job, there)
    rows = {h.carrier: h for h in job.trial_readings if h.spot == spot.id}
    lines: list[TrialCell] = []
    if forecast is not None:
        for i, carrier in enumerate(forecast.incident.carriers):
            if not forecast.incident.wanted[i]:
                continue
            heard = rows.get(carrier.id)
            level = heard.level_dbuv if heard else None
            quality = heard.cn_db if heard else None
            expected = float(forecast.level_dbuv[i])
            need = float(forecast.incident.wanted_db[i])
            allows = None if level is None else level - noise_dbuv(carrier.bandwidth_mhz)
            margin = None if quality is None else quality - need
            # Where no quality was read the level has to speak, with the meter's own noise over it.
            by_level = None if allows is None else allows - need
            echoes = (
                quality is not None
                and allows is not None
                and allows > need + STRONG_DB
                and quality < min(allows, 35.0) - ECHO_LOSS_DB
                and quality < need + margin_db + 3
            )
            judged = margin if margin is not None else by_level
            state: State = (
                "unknown"
                if judged is None
                else "fail"
                if judged < 0
                else "marginal"
                if judged < margin_db or margin is None
                else "ok"
            )
            lines.append(
                TrialCell(
                    carrier=carrier.id,
                    name=carrier.name,
                    forecast_dbuv=expected,
                    spread_db=float(forecast.spread_db[i]),
                    read_dbuv=level,
                    off_db=None if level is None else level - expected,
                    quality_db=quality,
                    margin_db=margin,
                    echoes=echoes,
                    state=state,
                )
            )
    known = [x for x in lines if x.read_dbuv is not None or x.quality_db is not None]
    margins = [x.margin_db for x in known if x.margin_db is not None]
    off = [x.off_db for x in known if x.off_db is not None]
    good = sum(x.margin_db is not None and x.margin_db >= margin_db for x in known)
    return TrialLine(
        id=spot.id,
        place=spot.place,
        above_ground_m=height,
        heading_deg=heading or 0.0,
        tilt_deg=spot.tilt_deg,
        lines=lines,
        good=good,
        read=len(known),
        least_margin_db=min(margins) if margins else None,
        mean_off_db=float(np.mean(off)) if off else None,
        words=_of_spot(known, off),
        rank=0,
        taken=antenna.stands_at == spot.id,
    )


def _of_spot(known: list[TrialCell], off: list[float]) -> str:
    if not known:
        return "nothing read here yet"
    echoes = [x.name for x in known if x.echoes]
    if echoes:
        return f"level high, quality low on {', '.join(echoes)}: echoes are likely, not weakness"
    spread = max(x.spread_db for x in known)
    allowed = 2 * math.hypot(spread, METER_SPREAD_DB)
    mean = float(np.mean(off)) if off else 0.0
    if off and abs(mean) > allowed:
        side = "below" if mean < 0 else "above"
        return f"{abs(mean):.0f} dB {side} the forecast: more than it can be off, look for a reason"
    return "as the forecast has it" if off else "quality alone was read"


def _score(row: TrialLine) -> tuple[float, ...]:
    if row.read == 0:
        return (-1.0, -99.0, -99.0)
    levels = [x.read_dbuv for x in row.lines if x.read_dbuv is not None]
    least = row.least_margin_db if row.least_margin_db is not None else -50.0
    return (float(row.good), least, float(np.mean(levels)) if levels else -99.0)


def _words(rows: list[TrialLine], best: TrialLine | None) -> str:
    if best is None:
        return "Hold the antenna at a spot, read each carrier, and write it down; then at the next spot."
    of = len(best.lines)
    said = f"{best.place} is best: {best.good} of {of} hold their margin"
    if best.least_margin_db is not None:
        said += f", the weakest by {best.least_margin_db:.1f} dB"
    louder = max((r for r in rows if r.read), key=lambda r: _mean_level(r), default=best)
    if louder.id != best.id and _mean_level(louder) > _mean_level(best) + 1:
        said += f"; {louder.place} is stronger, but worse in quality"
    return said + "."


def _mean_level(row: TrialLine) -> float:
    levels = [x.read_dbuv for x in row.lines if x.read_dbuv is not None]
    return float(np.mean(levels)) if levels else -99.0


def _next(
    job: Job,
    antenna: Array,
    here: Terminals | None,
    rows: list[TrialLine],
    best: TrialLine | None,
) -> list[Phrase]:
    if here is None or not any(here.incident.wanted):
        return []
    waves = [
        c.frequency_mhz
        for c, w in zip(here.incident.carriers, here.incident.wanted, strict=True)
        if w
    ]
    wave = LIGHT_M_MHZ / (sum(waves) / len(waves))
    found: list[Phrase] = []
    way = next((w for w in here.incident.ways if w.target == antenna.target), here.incident.ways[0])
    over = way.antenna_m - way.house_m
    tall = max(
        next((t.height_m for t in job.targets if t.id == way.target), 0.0)
        - way.ground.ground_m[-1],
        1.0,
    )
    lobe = wave * way.distance_km * 1000 / (2 * tall)
    if lobe / 2 < 6 and over < lobe * 3:
        found.append(
            say(
                "Raise or lower it by {}: over flat ground the field rises and falls every {} of "
                "height.",
                Quantity(lobe / 2, "m"),
                Quantity(lobe, "m"),
            )
        )
    if best is not None and any(x.echoes for x in best.lines):
        found.append(
            say(
                "Move it sideways by {}, half a wave, or turn it up to {} until the echo falls into "
                "the pattern's side.",
                Quantity(wave / 2, "m", 2),
                Quantity(0.5 * width_of(antenna), "deg", 0),
            )
        )
    if not any(r.tilt_deg for r in rows):
        found.append(("Tilt the nose up by 10° once: over wet roofs and water it can win.",))
    if len([r for r in rows if r.read]) < 3:
        found.append(
            say(
                "Three spots at the least: the field on a roof differs by 10 dB within {}.",
                Quantity(2.0, "m", 0),
            )
        )
    return found
