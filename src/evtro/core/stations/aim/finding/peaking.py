"""The peak from its sides: from readings against position to the middle and the way back."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ....physics.geodesy import Floats
from ....units.severity import State

METER_DB = 0.2  # scatter of one reading of a meter in dB; common practice, no source
LOBE_DB = 8.0  # how far down the flanks the parabola still is the beam
# Student's t for 95 % two-sided by degrees of freedom, from the tables in every textbook.
_T95 = (12.71, 4.30, 3.18, 2.78, 2.57, 2.45, 2.36, 2.31, 2.26, 2.23)
Scale = Literal["db", "pct", "tone"]


@dataclass(frozen=True)
class Peak:
    """Where the top is, as far as the readings tell. Positions in the unit of the readings;
    `uncertainty` is half of a 95 % interval, `back` the way from the last position. Of a null `top`
    is its bottom, `half_width` where the power has doubled, `depth` how far it lies below the highest
    reading."""

    method: str
    centre: float | None
    uncertainty: float | None
    top: float | None
    half_width: float | None
    back: float | None
    next_position: float | None
    state: State
    words: str
    warning: str
    curve: list[tuple[float, float]]
    residuals: list[float | None]
    depth: float | None = None


def fit(
    position: Sequence[float] | Floats,
    reading: Sequence[float] | Floats,
    scale: Scale = "db",
    play: float = 0.0,
    width: float | None = None,
    null: bool = False,
) -> Peak:
    """Find the top. In dB a parabola is fitted to the main lobe; a percentage or a tone, or a top
    that is flat, is found from its edges: where it falls by as much on either side.

    `play` is the slack of the screw in the same unit; `width` the half-power width when known.
    Positions may come in any order; the last one is where the dish stands now. With `null` the least
    reading is sought instead: the other polarisation, whose power grows with the square of the turn
    from the null.
    """
    x, y = np.asarray(position, float), np.asarray(reading, float)
    if len(x) == 0:
        return _open(
            "none", x, "No reading yet. Turn until the reading falls, and write it down.", None
        )
    here = float(x[-1])
    if len(np.unique(x)) < 2:
        step = (width or 1.0) / 3
        return _open("none", x, "One position only: turn on and read again.", here + step)
    if len(x) > 2 and float(np.ptp(y)) < (
        2 * METER_DB if scale == "db" else 0.02 * max(abs(float(y.max())), 1e-9)
    ):
        span = float(np.ptp(x))
        return _open(
            "none",
            x,
            "All readings are equal: the meter is at its stop, or the turn was too small. "
            "Turn on until it falls on both sides.",
            here + max(span, (width or 1.0) / 2),
        )
    if null:
        found = _null(x, y) if scale == "db" else None
        found = found or _turned_over(_edges(x, -y, scale), y)
        return _instruct(found, x, y=-y, play=play, sought="null")
    flat = scale != "db" or _is_flat(x, y)
    peak = None if flat else _parabola(x, y, width)
    if peak is None:
        peak = _edges(x, y, scale)
    return _instruct(peak, x, y, play)


def _turned_over(peak: Peak, y: Floats) -> Peak:
    """An edge-found middle of readings that were turned over, the right way up again."""
    curve = [(p, -v) for p, v in peak.curve]
    top = None if peak.top is None else -peak.top
    return replace(peak, top=top, curve=curve, depth=None if top is None else float(y.max()) - top)


def _null(x: Floats, y: Floats) -> Peak | None:
    """The least of the other polarisation: its power is a parabola of the turn (tan² of a small
    angle) on what the feed leaks. A meter scatters by so many dB, so that each reading counts by its
    own power. None where the readings bend the other way."""
    if len(np.unique(x)) < 3:
        return None
    zero, unit = float(x.mean()), max(float(np.ptp(x)) / 2, 1e-9)
    u = (x - zero) / unit
    power = 10 ** ((y - y.max()) / 10)
    matrix = np.column_stack([np.ones_like(u), u, u**2]) / power[:, None]
    weights, *_ = np.linalg.lstsq(matrix, np.ones_like(u), rcond=None)
    a, b, c = (float(w) for w in weights)
    if c <= 1e-9:
        return None
    spare = max(len(x) - 3, 0)
    rest = np.ones_like(u) - matrix @ weights
    prior, own = 4, METER_DB * math.log(10) / 10
    sigma = math.sqrt((float(rest @ rest) + prior * own**2) / (spare + prior))
    spread = np.linalg.pinv(matrix.T @ matrix) * sigma**2
    centre = -b / (2 * c)
    slope = np.array([0.0, -1 / (2 * c), b / (2 * c**2)])
    error = _t95(spare + prior) * math.sqrt(float(slope @ spread @ slope))
    # What the fit leaves at the null may fall below nothing; the deepest reading then stands for it.
    least = max(a - b**2 / (4 * c), float(power.min()) / 2)
    line = np.linspace(float(x.min()), float(x.max()), 61)
    lu = (line - zero) / unit
    curve = 10 * np.log10(np.maximum(a + b * lu + c * lu**2, least)) + y.max()
    fitted = 10 * np.log10(np.maximum(a + b * u + c * u**2, least)) + y.max()
    bottom = 10 * math.log10(least) + float(y.max())
    return Peak(
        method="null",
        centre=zero + centre * unit,
        uncertainty=error * unit,
        top=bottom,
        half_width=2 * unit * math.sqrt(least / c),
        back=None,
        next_position=None,
        state="unknown",
        words="",
        warning="",
        curve=[(float(p), float(v)) for p, v in zip(line, curve, strict=True)],
        residuals=[float(r) for r in y - fitted],
        depth=float(y.max()) - bottom,
    )


def _open(method: str, x: Floats, words: str, following: float | None) -> Peak:
    return Peak(
        method=method,
        centre=None,
        uncertainty=None,
        top=None,
        half_width=None,
        back=None,
        next_position=following,
        state="unknown",
        words=words,
        warning="",
        curve=[],
        residuals=[None] * len(x),
    )


def _t95(freedom: int) -> float:
    return _T95[freedom - 1] if freedom <= len(_T95) else 1.96 + 2.6 / freedom


def _is_flat(x: Floats, y: Floats) -> bool:
    """Whether the meter is at its stop: three positions or more share the highest reading to the
    digit while others lie clearly lower."""
    top = y.max()
    return bool((np.abs(y - top) < 1e-9).sum() >= 3 and float(np.ptp(y)) > 1.0)


def _parabola(x: Floats, y: Floats, width: float | None) -> Peak | None:
    use = y >= y.max() - LOBE_DB
    if width is not None:
        use &= np.abs(x - x[y.argmax()]) <= 0.9 * width
    xs, ys = x[use], y[use]
    if len(np.unique(xs)) < 3:
        if len(np.unique(x)) < 3:
            return None
        xs, ys = x, y
    zero, unit = xs.mean(), max(float(np.ptp(xs)) / 2, 1e-9)
    u = (xs - zero) / unit
    matrix = np.column_stack([np.ones_like(u), u, u**2])
    weights, *_ = np.linalg.lstsq(matrix, ys, rcond=None)
    a, b, c = (float(w) for w in weights)
    if c >= -1e-9:
        return None
    spare = len(xs) - 3
    rest = ys - matrix @ weights
    # Few readings tell little of their own scatter: the meter's own counts with them.
    prior = 4
    sigma = math.sqrt((float(rest @ rest) + prior * METER_DB**2) / (max(spare, 0) + prior))
    freedom = max(spare, 0) + prior
    t95 = _t95(freedom)
    spread = np.linalg.pinv(matrix.T @ matrix) * sigma**2
    centre = -b / (2 * c)
    slope = np.array([0.0, -1 / (2 * c), b / (2 * c**2)])
    error = t95 * math.sqrt(float(slope @ spread @ slope))
    top = a - b**2 / (4 * c)
    half = math.sqrt(3.0 / -c) * 2 * unit
    low, high = float(x.min()), float(x.max())
    line = np.linspace(low, high, 41)
    lu = (line - zero) / unit
    curve = a + b * lu + c * lu**2
    fitted = a + b * (x - zero) / unit + c * ((x - zero) / unit) ** 2
    return Peak(
        method="parabola",
        centre=zero + centre * unit,
        uncertainty=error * unit,
        top=top,
        half_width=half,
        back=None,
        next_position=None,
        state="unknown",
        words="",
        warning="",
        curve=[(float(p), float(v)) for p, v in zip(line, curve, strict=True)],
        residuals=[float(r) if k else None for r, k in zip(y - fitted, use, strict=True)],
    )


def _edges(x: Floats, y: Floats, scale: Scale) -> Peak:
    """The middle between two falls: the level both sides reach, met on each by interpolation."""
    order = np.argsort(x, kind="stable")
    xs, ys = x[order], y[order]
    top = float(ys.max())
    first, last = int(ys.argmax()), len(ys) - 1 - int(ys[::-1].argmax())
    low_left = float(ys[: first + 1].min())
    low_right = float(ys[last:].min())
    curve = [(float(a), float(b)) for a, b in zip(xs, ys, strict=True)]
    if len(xs) == 2 and abs(float(ys[0] - ys[1])) <= (
        2 * METER_DB if scale == "db" else 0.05 * abs(top)
    ):
        # Two edges alone, read where it had fallen by as much.
        half = float(xs[1] - xs[0])
        return Peak(
            method="edges",
            centre=float(xs.mean()),
            uncertainty=half / 4,
            top=None,
            half_width=half,
            back=None,
            next_position=None,
            state="unknown",
            words="",
            warning="",
            curve=curve,
            residuals=[None] * len(x),
        )
    if len(xs) == 2:
        outer = float(xs[1] + (xs[1] - xs[0]) if ys[1] > ys[0] else xs[0] - (xs[1] - xs[0]))
        return Peak(
            method="edges",
            centre=None,
            uncertainty=None,
            top=top,
            half_width=None,
            back=None,
            next_position=outer,
            state="unknown",
            words="",
            warning="",
            curve=curve,
            residuals=[None] * 2,
        )
    if first == 0 or last == len(ys) - 1 or low_left >= top or low_right >= top:
        outer = (
            float(xs[-1] + (xs[-1] - xs[0]) / 2)
            if last == len(ys) - 1
            else float(xs[0] - (xs[-1] - xs[0]) / 2)
        )
        return Peak(
            method="edges",
            centre=None,
            uncertainty=None,
            top=top,
            half_width=None,
            back=None,
            next_position=outer,
            state="unknown",
            words="",
            warning="",
            curve=curve,
            residuals=[None] * len(x),
        )
    level = max(low_left, low_right) + 0.25 * (top - max(low_left, low_right))
    left, dl = _crossing(xs[: first + 1][::-1], ys[: first + 1][::-1], level)
    right, dr = _crossing(xs[last:], ys[last:], level)
    flat = float(xs[last] - xs[first])
    error = math.hypot(dl, dr) / 2
    return Peak(
        method="edges",
        centre=(left + right) / 2,
        uncertainty=max(error, 1e-3 * (right - left)),
        top=top,
        half_width=right - left,
        back=None,
        next_position=None,
        state="unknown",
        words="",
        warning="" if not flat else "flat top",
        curve=curve,
        residuals=[None] * len(x),
    )


def _crossing(xs: Floats, ys: Floats, level: float) -> tuple[float, float]:
    """Where a falling side passes a level, walking away from the top, and half the gap it lies in."""
    for i in range(1, len(xs)):
        if ys[i] <= level:
            span = ys[i - 1] - ys[i]
            share = (ys[i - 1] - level) / span if span > 0 else 0.5
            gap = xs[i] - xs[i - 1]
            return float(xs[i - 1] + share * gap), abs(float(gap)) / 2
    return float(xs[-1]), abs(float(xs[-1] - xs[0])) / 2


def _instruct(peak: Peak, x: Floats, y: Floats, play: float, sought: str = "top") -> Peak:
    here = float(x[-1])
    if peak.centre is None or peak.uncertainty is None:
        return replace(
            peak,
            words=f"The reading has not {'risen' if sought == 'null' else 'fallen'} on both sides yet: turn on "
            "to the next position.",
        )
    back = peak.centre - here
    outside = peak.centre < x.min() or peak.centre > x.max()
    tolerance = max(peak.uncertainty, (peak.half_width or 0.0) * 0.08)
    state: State = "fail" if abs(back) > tolerance else "marginal" if outside else "ok"
    warning = peak.warning
    if outside:
        warning = f"The {sought} lies outside what was read: go there and read on the other side."
        state = "fail" if abs(back) > tolerance else "marginal"
    following = None
    half = peak.half_width or float(np.ptp(x))
    if outside or peak.uncertainty > 0.1 * half:
        # The flank that was read least is where the next reading tells most.
        left, right = int((x < peak.centre).sum()), int((x >= peak.centre).sum())
        following = peak.centre + (0.45 * half if right <= left else -0.45 * half)
    elif abs(back) > tolerance:
        following = peak.centre
    if play > 0 and abs(back) > tolerance:
        warning = (warning + " " if warning else "") + (
            "Go past it by the play and come back, so that the screw bears on the side from which "
            "the readings were taken."
        )
    return replace(peak, back=back, state=state, next_position=following, warning=warning)


_QUARTERS = {0: "", 1: "¼", 2: "½", 3: "¾"}


_SIDES = {"azimuth": ("right", "left"), "elevation": ("up", "down")}


@dataclass(frozen=True)
class WayBack:
    """How far back, and which way: `1¾`, `turns`, `clockwise`."""

    size: str
    unit: str
    side: str

    def __str__(self) -> str:
        joint = "" if self.unit == "°" else " "
        return f"{self.size}{joint}{self.unit}".strip() + (f" {self.side}" if self.side else "")


def way_back(back: float, unit: Literal["turn", "flat", "deg"], axis: str = "azimuth") -> WayBack:
    """The way back: `1¾ turns clockwise`, `4 flats anticlockwise`, `1.4° left`; a scale of degrees runs
    right, up, or clockwise as seen from behind."""
    plus = back >= 0
    size = abs(back)
    if unit == "deg":
        right, left = _SIDES.get(axis, ("clockwise", "anticlockwise"))
        return WayBack(f"{size:.1f}", "°", right if plus else left)
    side = "clockwise" if plus else "anticlockwise"
    if unit == "flat":
        n = round(size * 2) / 2
        return WayBack(f"{n:g}", "flat" if n == 1 else "flats", side)
    quarters = round(size * 4)
    if quarters == 0:
        return WayBack("a touch", "", side) if size > 0.02 else WayBack("nothing", "", "")
    whole, rest = divmod(quarters, 4)
    text = f"{whole or ''}{_QUARTERS[rest]}"
    return WayBack(text, "turn" if quarters <= 4 else "turns", side)


@dataclass(frozen=True)
class Tightening:
    """What one nut cost: reading before, after, and the loss; in when nothing was lost."""

    axis: str
    before: float
    after: float
    lost: float
    state: State


def tightenings(rows: Sequence[tuple[str, str, float]], scale: Scale) -> list[Tightening]:
    """Pairs of readings before and after a nut. Rows are axis, role and reading in their order; a
    reading after without one before is left out."""
    found: list[Tightening] = []
    before: dict[str, float] = {}
    small = 0.3 if scale == "db" else 2.0
    for axis, role, reading in rows:
        if role == "before":
            before[axis] = reading
        elif role == "after" and axis in before:
            lost = before.pop(axis) - reading
            state: State = "ok" if lost <= small else "marginal" if lost <= 3 * small else "fail"
            found.append(
                Tightening(axis=axis, before=reading + lost, after=reading, lost=lost, state=state)
            )
    return found
