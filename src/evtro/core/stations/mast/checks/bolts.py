"""Bolts: what they hold in, what they bear, what lies behind them."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ....checks.registry import check
from ....job.changes import Set
from ....job.problems import Problem
from ....units.quantities import Quantity
from ..figures import MastFigures
from ..mounts import ANCHORS, BOLTED, BRACKETED, WEAK
from ..uses import TYPICAL
from .problem import problem


def _unproved(at: MastFigures) -> bool:
    """Whether the wall material and the allowable load of the bolts are not entered."""
    mast = at.mast
    known = mast.bolt_pull_n is not None and mast.bolt_shear_n is not None
    return _bolted(at) and mast.base in WEAK and not known


def _bolted(at: MastFigures) -> bool:
    return at.job.rig.kind == "none" and at.mast.fixing in BOLTED


@check(
    "mast",
    codes=("base-unknown",),
    needs=(
        "job",
        "mast",
    ),
)
def base_of_the_bolts(at: MastFigures) -> Iterator[Problem]:
    """What the bolts hold in."""
    mast, unproved = at.mast, _unproved(at)
    if unproved and at.job.antennas:
        words = ANCHORS[mast.base].words
        render = mast.base == "render"
        yield problem(
            "base-unknown",
            "fail" if render else "marginal",
            "fixing",
            "The bolts hold in render only" if render else "Wall material not entered",
            one=None,
            limit=("solid base behind each bolt",),
            origin="common practice, no source",
            remedy=(
                f"{words[0].upper()}{words[1:]}, and say it here; or type what a bolt bears there.",
            ),
        )


@check(
    "mast",
    codes=(
        "bolt-pull",
        "bolt-shear",
    ),
    needs=(
        "job",
        "mast",
        "used",
    ),
)
def bolts(at: MastFigures) -> Iterator[Problem]:
    """Each bolt against what it bears."""
    mast, used, unproved = at.mast, at.used, _unproved(at)
    for code, one, title in (
        ("bolt-pull", used.pull, "The bolts are pulled out"),
        ("bolt-shear", used.shear, "The bolts bear too much across"),
    ):
        if one is None or one.state == "ok" or unproved:
            continue
        bears = one.high or 0.0
        more = math.ceil(mast.bolts * (one.value or 0.0) / bears / 0.9 / 2) * 2 if bears > 0 else 99
        fits = more <= 12
        yield problem(
            code,
            one.state,
            "fixing",
            title if one.state == "fail" else "The bolts are near what they bear",
            one=one,
            limit=("at most ", Quantity(bears, "n", 0), " each"),
            origin=TYPICAL if mast.bolt_pull_n is None else "the anchor's own sheet",
            remedy=(
                f"Take {more} bolts at each bracket, thicker ones, or set the brackets farther apart.",
            )
            if fits and mast.fixing in BRACKETED
            else (f"Take {more} bolts, thicker ones, or a larger foot plate.",)
            if fits
            else ("Hold it wider apart, hang the antennas lower, or choose a better base.",),
            change=Set(rows="mast", values={"bolts": more}) if fits else None,
            effect=(f"{more} bolts",) if fits else (),
        )


@check(
    "mast",
    codes=("service-behind",),
    needs=(
        "job",
        "mast",
    ),
)
def behind_the_bolts(at: MastFigures) -> Iterator[Problem]:
    """What lies where the bolts are to go."""
    if _bolted(at) and at.mast.behind == "service":
        yield problem(
            "service-behind",
            "fail",
            "fixing",
            "A cable or a pipe lies where the bolts are to go",
            one=None,
            limit=("nothing behind a hole",),
            origin="common practice, no source",
            remedy=(
                "Move the mount, look again with the detector from both sides, and say here what you found.",
            ),
        )
