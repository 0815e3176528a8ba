"""Places where the mount could stand, side by side: which is best, and why."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..job import Obstruction, Spot
from ..quantities import State
from .moves import step
from .remedies import Wants, least_slack
from .skyline import View, ground_of

RESERVE_DEG = 0.5


@dataclass(frozen=True)
class SpotLine:
    """One place compared: how many directions it frees, the least slack [deg] and whose, height
    above ground [m] and cable [m]. The place of now has no id."""

    id: str | None
    name: str
    bearing_deg: float
    distance_m: float
    height_m: float
    cable_m: float | None
    clear: int
    slack_deg: float
    least_target: str
    state: State
    best: bool
    why: str


def compare(
    wants: Wants, names: Sequence[str], rows: Sequence[Obstruction], spots: Sequence[Spot],
    height_m: float, years: float,
) -> list[SpotLine]:  # fmt: skip
    """The place of now and all others, judged for so many summers. The best frees most directions;
    among equals the one that is in with a lower mount and less cable wins over a wider view."""
    if not len(wants.azimuth_deg):
        return []
    places: list[tuple[str | None, str, float, float, float, float | None]] = [
        (None, "Mount as planned", 0.0, 0.0, height_m, None)
    ]
    places += [
        (s.id, s.name, s.bearing_deg, s.distance_m, s.mount_height_m, s.cable_m) for s in spots
    ]
    made = []
    ground = ground_of(rows)
    for place in places:
        east, north = step(place[2], place[3])
        slack = least_slack(wants, ground, View(place[4], east, north, years))
        made.append((place, slack))
    score = [
        (int((s >= 0).sum()), min(float(s.min()), 2.0), -p[4], -(p[5] or 0.0)) for p, s in made
    ]
    winner = max(range(len(made)), key=lambda i: score[i])
    lines = []
    for i, (place, slack) in enumerate(made):
        worst = int(slack.argmin())
        least = float(slack[worst])
        state: State = "out" if least < -1e-3 else "near" if least < RESERVE_DEG else "in"
        lines.append(
            SpotLine(*place, int((slack >= -1e-3).sum()), least, names[worst], state, i == winner,
                     _why(i, winner, score, made[i][0][4], made[winner][0][4], names[worst], least))
        )  # fmt: skip
    return lines


def _why(
    i: int, winner: int, score: list[tuple[int, float, float, float]], height: float,
    best_height: float, name: str, least: float,
) -> str:  # fmt: skip
    if i == winner:
        return f"frees {score[i][0]}, least {least:+.1f}° at {name}"
    if score[i][0] < score[winner][0]:
        return f"frees {score[winner][0] - score[i][0]} fewer; {name} lacks {max(-least, 0):.1f}°"
    if score[i][1] < score[winner][1]:
        return f"as many, but {name} has only {least:+.1f}°"
    if height > best_height:
        return f"as good, but {height - best_height:.1f} m higher"
    return "as good, but more cable"
