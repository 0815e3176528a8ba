"""Moment at the fixing, stress in the tube, and the wind that makes both."""

from __future__ import annotations

from collections.abc import Iterator

from ....checks.registry import check
from ....job.problems import Problem
from ....units.quantities import Quantity, gauge
from ..figures import STEEL_SAFETY, MastFigures
from .problem import problem


@check(
    "mast",
    codes=("wind-region",),
    needs=(
        "blows",
        "profile",
    ),
)
def wind_region(at: MastFigures) -> Iterator[Problem]:
    """Whether the wind of the place is chosen."""
    if at.blows.chosen:
        return
    first, *others = at.profile.wind.regions
    yield problem(
        "wind-region",
        "marginal",
        "wind",
        "Which wind does this place get?",
        one=gauge(at.blows.pa, "pa"),
        limit=(f"reckoned as {first.name} until it is chosen",),
        origin=at.blows.origin,
        remedy=(
            f"Choose the wind region ({first.name}; {'; '.join(r.name for r in others)}) or type the "
            "design wind speed of the local building office.",
        ),
    )


@check(
    "mast",
    codes=("mast-moment",),
    needs=(
        "limit_nm",
        "moment",
        "moment_origin",
        "total_nm",
    ),
)
def moment_at_the_fixing(at: MastFigures) -> Iterator[Problem]:
    """The moment at the fixing."""
    moment, limit, total = at.moment, at.limit_nm, at.total_nm
    if moment.state == "ok":
        return
    yield problem(
        "mast-moment",
        moment.state,
        "fixing",
        "The moment at the fixing is too large"
        if moment.state == "fail"
        else "The moment at the fixing is near its limit",
        one=moment,
        limit=("at most ", Quantity(limit, "nm", 0)),
        origin=at.moment_origin,
        remedy=(
            "Hang the antennas ",
            Quantity(100 * (1 - limit / total), "pct", 0),
            " lower, take a smaller one, or have an engineer prove the mount.",
        )
        if total > limit
        else ("Keep any further antenna off this mast.",),
    )


@check(
    "mast",
    codes=("mast-tube",),
    needs=(
        "bearable_nm",
        "tube",
    ),
)
def tube(at: MastFigures) -> Iterator[Problem]:
    """The stress in the tube."""
    if at.tube.state != "ok":
        yield problem(
            "mast-tube",
            at.tube.state,
            "tube",
            "The tube bends too much" if at.tube.state == "fail" else "The tube is near its limit",
            one=at.tube,
            limit=("at most ", Quantity(at.bearable_nm, "nm", 0)),
            origin=f"yield strength over {STEEL_SAFETY}",
            remedy=("Take a wider or thicker tube, or hang the antennas lower.",),
        )
