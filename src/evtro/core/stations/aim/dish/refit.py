"""A dish with another maker's LNB: tries of the feed's place, the best one, and the next to make."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ....job import FeedTry
from ..finding.peaking import fit

# The axes in their order with a step and the words for it; common practice, no source.
AXES: tuple[tuple[str, str, float, str], ...] = (
    ("depth_mm", "depth", 5.0, "mm"),
    ("sideways_mm", "sideways", 5.0, "mm"),
    ("height_mm", "height", 5.0, "mm"),
    ("skew_deg", "skew", 5.0, "°"),
)


@dataclass(frozen=True)
class NextFeedTry:
    """The setting to try next, and why."""

    depth_mm: float
    sideways_mm: float
    height_mm: float
    skew_deg: float
    axis: str
    words: str


@dataclass(frozen=True)
class Tries:
    """The log judged: the best try, and the next one, None when every axis has its top."""

    best: str | None
    following: NextFeedTry | None
    done: list[str]


def _value(trial: FeedTry, axis: str) -> float:
    value: float = getattr(trial, axis)
    return value


def judge(trials: Sequence[FeedTry], start_depth_mm: float = 0.0) -> Tries:
    """The best try by reading, then by channels found. The next: along the axes in their order, a
    step to the side that was not tried, until the reading falls on both sides of the best."""
    if not trials:
        return Tries(
            None,
            NextFeedTry(
                depth_mm=start_depth_mm,
                sideways_mm=0.0,
                height_mm=0.0,
                skew_deg=0.0,
                axis="depth",
                words="Begin with the feed at its computed place, or as far back as it goes.",
            ),
            [],
        )
    best = max(trials, key=lambda t: (t.reading, t.channels or 0))
    done: list[str] = []
    for axis, name, step, unit in AXES:
        others = [a for a, *_ in AXES if a != axis]
        same = [
            t for t in trials if all(abs(_value(t, a) - _value(best, a)) < 1e-6 for a in others)
        ]
        tried = sorted({_value(t, axis) for t in same})
        at = _value(best, axis)
        below, above = [v for v in tried if v < at - 1e-9], [v for v in tried if v > at + 1e-9]
        if below and above:
            left, right = below[-1], above[0]
            if right - left > 1.5 * step:
                # Both sides are lower and far apart: the parabola through them says where the top is.
                peak = fit([_value(t, axis) for t in same], [t.reading for t in same])
                if (
                    peak.centre is not None
                    and left < peak.centre < right
                    and abs(peak.centre - at) > step / 3
                ):
                    return Tries(
                        best.id,
                        _try(
                            best,
                            axis,
                            value=round(peak.centre),
                            name=name,
                            unit=unit,
                            why="between the two that were lower",
                        ),
                        done,
                    )
            done.append(name)
            continue
        toward = at + step if not above else at - step
        return Tries(
            best.id,
            _try(best, axis, value=toward, name=name, unit=unit, why="that side was not tried yet"),
            done,
        )
    return Tries(best.id, None, done)


def _try(best: FeedTry, axis: str, value: float, name: str, unit: str, why: str) -> NextFeedTry:
    place = {a: _value(best, a) for a, *_ in AXES} | {axis: float(value)}
    return NextFeedTry(
        depth_mm=place["depth_mm"],
        sideways_mm=place["sideways_mm"],
        height_mm=place["height_mm"],
        skew_deg=place["skew_deg"],
        axis=name,
        words=f"Set {name} to {value:g}{'' if unit == '°' else ' '}{unit}, all else as in the best try: {why}.",
    )
