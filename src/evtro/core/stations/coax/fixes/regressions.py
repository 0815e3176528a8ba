"""Whether a change makes anything worse: a plant before and after it."""

from __future__ import annotations

from typing import Protocol

import numpy as np

from ....job.problems import Problem
from ....units.severity import RANK
from ..levels.outlets import OutletRow
from .trials import HARM_DB, figures_short, is_worse


class Weighed(Protocol):
    """A plant as it is judged."""

    @property
    def outlets(self) -> list[OutletRow]: ...
    @property
    def problems(self) -> list[Problem]: ...


def has_regressions(before: Weighed, after: Weighed) -> bool:
    """Whether anything is worse: a figure of an outlet in a worse state, or out already and further out
    by more than a tenth of a dB; a problem of a device or a line that was not there."""
    if not before.outlets:
        return False
    a, b = before.outlets[0].judged, after.outlets[0].judged
    harm = is_worse(
        a.rank,
        b.rank,
        figures_short(a, a.level_dbuv, a.margin_db),
        short_after=figures_short(b, b.level_dbuv, b.margin_db),
    )
    if bool((harm & a.wants).any()) or bool(((a.choice < b.choice) & a.wants).any()):
        return True
    was: dict[tuple[str, str | None], list[Problem]] = {}
    for p in before.problems:
        was.setdefault((p.code, p.ref), []).append(p)
    for p in after.problems:
        if p.code in OUTLETS_OWN or p.code == SUPPOSED:
            continue
        old = was.get((p.code, p.ref), [])
        if all(RANK[p.state] > RANK[o.state] for o in old):
            return True
        if p.state == "fail" and all(_deeper(o, p) for o in old):
            return True
    for x, y in zip(before.outlets, after.outlets, strict=True):
        slopes = {g.group: g.slope for g in x.groups}
        for g in y.groups:
            old_slope = slopes.get(g.group)
            if old_slope is not None and RANK[g.slope.state] > RANK[old_slope.state]:
                return True
    return False


# What is judged figure by figure at every outlet already.
OUTLETS_OWN = ("level-low", "level-high", "margin", "distortion", "slope")


SUPPOSED = "overload-supposed"  # a warning of what may not be there harms nobody


def _deeper(old: Problem, new: Problem) -> bool:
    """Whether a figure lies further outside its limits by more than a tenth of a dB."""
    if old.gauge is None or new.gauge is None or old.state != "fail":
        return False

    def outside(p: Problem) -> float:
        g = p.gauge
        if g is None or g.value is None:
            return np.inf
        return max(
            (g.low if g.low is not None else -np.inf) - g.value,
            g.value - (g.high if g.high is not None else np.inf),
        )

    return bool(outside(new) > outside(old) + HARM_DB)
