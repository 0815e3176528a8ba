"""What frees a view: each remedy found by trying it against the whole skyline."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ...job import Obstruction
from ...job.changes import Change, Move, Set
from ...physics.geodesy import Floats
from ...units.quantities import Phrase, Quantity
from ...units.severity import WORDS
from ..site.skyline import Edges, SkylinePoints, View, clear_of, edges_of, ground_of, letter
from .moves import cut

HIGHEST_MOUNT_M = 30.0
FARTHEST_MOVE_M = 15.0
_BEARINGS = tuple(range(0, 360, 45))
_WINDS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
YEARS_LOOKED = 40
COARSE_DEG = 1.5
BEARINGS_FOLLOWED = 3


@dataclass(frozen=True)
class Wants:
    """Directions that must stay clear: azimuth, elevation [deg], the keep-clear circle [deg], half
    the beam's width [deg] and the dish's radius [m] for each; 0 where no dish is placed yet."""

    azimuth_deg: Floats
    elevation_deg: Floats
    margin_deg: Floats
    half_beam_deg: Floats
    radius_m: Floats

    def one(self, i: int) -> Wants:
        """The wants of one direction alone."""
        return Wants(
            *(
                a[i : i + 1]
                for a in (
                    self.azimuth_deg,
                    self.elevation_deg,
                    self.margin_deg,
                    self.half_beam_deg,
                    self.radius_m,
                )
            )
        )


@dataclass(frozen=True)
class Remedy:
    """One way to free a view, with its fix to take and its effect on the clearance."""

    kind: str
    target: str
    title: Phrase
    button: Phrase
    effect: Phrase
    change: Change


def asked_deg(wants: Wants, edges: Edges) -> Floats:
    """The angle each direction must keep from each obstruction [deg]: the keep-clear circle, and
    never less than the beam's lower edge, half its width and the dish's own radius at that distance.
    Shape (directions, obstructions)."""
    near = np.degrees(np.arctan2(wants.radius_m[:, None], edges.distance_m[None, :]))
    return np.maximum(wants.margin_deg[:, None], wants.half_beam_deg[:, None] + near)


def slack_deg(wants: Wants, edges: Edges) -> Floats:
    """Clearance beyond what is asked [deg] for every direction and obstruction."""
    found: Floats = clear_of(edges, wants.azimuth_deg, wants.elevation_deg) - asked_deg(
        wants, edges
    )
    return found


def least_slack(wants: Wants, rows: Sequence[Obstruction] | SkylinePoints, view: View) -> Floats:
    """The least slack of each direction [deg]; 180 where nothing is in the way."""
    ground = rows if isinstance(rows, SkylinePoints) else ground_of(rows)
    if not ground.rows:
        return np.full(len(wants.azimuth_deg), 180.0)
    least: Floats = slack_deg(wants, ground.seen(view)).min(axis=1)
    return least


def closing_years(wants: Wants, rows: Sequence[Obstruction], height_m: float) -> list[int | None]:
    """For each direction, after how many summers growth closes it; None where it stays open."""
    growing = [o for o in rows if o.growth_m_year > 0 and o.distance_m is not None]
    if not growing:
        return [None] * len(wants.azimuth_deg)
    ground = ground_of(growing)
    low, high = (least_slack(wants, ground, View(height_m, years=y)) for y in (0, YEARS_LOOKED))
    found: list[int | None] = []
    for i in range(len(low)):
        if low[i] < 0 or high[i] >= 0:
            found.append(0 if low[i] < 0 else None)
            continue
        one = wants.one(i)
        found.append(
            _first(
                lambda y, one=one: least_slack(one, ground, View(height_m, years=y))[0] < 0,  # type: ignore[misc]
                YEARS_LOOKED,
            )
        )
    return found


def _first(is_so: Callable[[int], bool], most: int) -> int:
    """The least whole number from 1 to `most` for which something is so, given that it is at the
    end and stays so."""
    low, high = 0, most
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if is_so(middle) else (middle, high)
    return high


def remedies(
    wants: Wants, i: int, target: str, rows: Sequence[Obstruction], height_m: float, years: float
) -> list[Remedy]:
    """Ways to free direction `i` for so many summers, the least change first in each kind.

    Searched over coarse outlines and proven over fine ones. A move must not close a direction that
    is open now.
    """
    fine, coarse = ground_of(rows), ground_of(rows, COARSE_DEG)
    return [
        r
        for r in (
            _raise(
                wants, i, target=target, fine=fine, coarse=coarse, height_m=height_m, years=years
            ),
            _move(
                wants, i, target=target, fine=fine, coarse=coarse, height_m=height_m, years=years
            ),
            _cut(wants, i, target=target, rows=rows, height_m=height_m, years=years),
        )
        if r is not None
    ]


def _raise(
    wants: Wants,
    i: int,
    target: str,
    fine: SkylinePoints,
    coarse: SkylinePoints,
    height_m: float,
    years: float,
) -> Remedy | None:
    one = wants.one(i)

    def slack(ground: SkylinePoints, tenths: int) -> float:
        return float(least_slack(one, ground, View(height_m + tenths / 10, years=years))[0])

    most = math.ceil((HIGHEST_MOUNT_M - height_m) * 10)
    if most <= 0 or slack(fine, most) < 0:
        return None
    tenths = max(_first(lambda n: slack(coarse, n) >= 0, most) - 1, 1)
    while slack(fine, tenths) < 0:
        tenths += 1
    view = View(height_m + tenths / 10, years=years)
    return Remedy(
        kind="raise",
        target=target,
        title=("Raise the mount ", Quantity(tenths / 10, "m")),
        button=("Raise ", Quantity(tenths / 10, "m")),
        effect=(*_effect(one, fine.seen(view), fine), "; the mast bears more wind"),
        change=Set(rows="site", values={"mount_height_m": round(height_m + tenths / 10, 1)}),
    )


def _move(
    wants: Wants,
    i: int,
    target: str,
    fine: SkylinePoints,
    coarse: SkylinePoints,
    height_m: float,
    years: float,
) -> Remedy | None:
    if bool(np.isinf(fine.distance_m).all()):
        return None
    one = wants.one(i)
    now = least_slack(wants, fine, View(height_m, years=years))
    best: tuple[float, int] | None = None

    def slack(b: int, metres: float) -> float:
        angle = math.radians(b)
        view = View(height_m, math.sin(angle) * metres, math.cos(angle) * metres, years)
        return float(least_slack(one, coarse, view)[0])

    # The bearings along which the view opens soonest are worth following.
    for b in sorted(_BEARINGS, key=lambda b: -slack(b, 2.5))[:BEARINGS_FOLLOWED]:
        east, north = math.sin(math.radians(b)), math.cos(math.radians(b))
        # Nothing farther than the best so far is worth a look.
        steps = [
            m for m in (1.0, 2.5, 5.0, 9.0, FARTHEST_MOVE_M) if best is None or m < best[0] + 3
        ]
        reach = next((m for m in steps if slack(b, m) >= 0), None)
        if reach is None:
            continue
        low, high = max((m for m in (0.0, *steps) if m < reach), default=0.0), reach
        while high - low > 0.1:
            middle = (low + high) / 2
            low, high = (low, middle) if slack(b, middle) >= 0 else (middle, high)
        metres = math.ceil(high * 5) / 5
        if best is not None and metres >= best[0]:
            continue
        for tried in (metres, metres + 0.2):
            after = least_slack(wants, fine, View(height_m, east * tried, north * tried, years))
            if after[i] >= 0 and bool((after >= np.minimum(now, 0) - 1e-9).all()):
                best = tried, b
                break
    if best is None:
        return None
    metres, b = best
    angle = math.radians(b)
    view = View(height_m, math.sin(angle) * metres, math.cos(angle) * metres, years)
    return Remedy(
        kind="move",
        target=target,
        title=("Move the mount ", Quantity(metres, "m"), f" {_WINDS[b // 45]}"),
        button=("Move ", Quantity(metres, "m"), f" {_WINDS[b // 45]}"),
        effect=(*_effect(one, fine.seen(view), fine), "; check surface and cable there"),
        change=Move(bearing_deg=b, distance_m=round(metres, 1)),
    )


def _cut(
    wants: Wants, i: int, target: str, rows: Sequence[Obstruction], height_m: float, years: float
) -> Remedy | None:
    one = wants.one(i)
    slack = slack_deg(one, edges_of(rows, View(height_m, years=years)))[0]
    short = np.flatnonzero(slack < 0)
    # Only a single tree is worth a saw, and only where its height is known.
    if len(short) != 1:
        return None
    row = rows[int(short[0])]
    if row.nature not in ("evergreen", "leafy") or row.distance_m is None:
        return None
    grown = row.model_copy(update={"above_m": row.above_m, "growth_m_year": row.growth_m_year})
    view = View(height_m, years=years)

    def after(tenths: int) -> float:
        lower = grown.model_copy(update={"seen_from_m": row.seen_from_m - tenths / 10})
        if row.above_m is None:
            height = (row.distance_m or 0) * math.tan(math.radians(row.top_deg or 0))
            lower = lower.model_copy(update={"above_m": height})
        return float(least_slack(one, [lower], view)[0])

    if after(200) < 0:
        return None
    tenths = _first(lambda n: after(n) >= 0, 200)
    return Remedy(
        kind="cut",
        target=target,
        title=(f"Have {row.name} ({letter(int(short[0]))}) cut ", Quantity(tenths / 10, "m")),
        button=("Note it cut ", Quantity(tenths / 10, "m")),
        effect=(f"by its owner, for {years:.0f} summers",) if years else ("by its owner",),
        change=cut(row, round(tenths / 10, 1)),
    )


def _effect(one: Wants, edges: Edges, ground: SkylinePoints) -> Phrase:
    angle = clear_of(edges, one.azimuth_deg, one.elevation_deg)[0]
    k = int((angle - asked_deg(one, edges)[0]).argmin())
    return (Quantity(float(angle[k]), "deg"), f" clear of {ground.rows[k].name}, {WORDS['ok']}")
