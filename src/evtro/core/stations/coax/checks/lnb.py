"""The rules of LNBs: how far their oscillator drifts, how much they give before they saturate."""

from __future__ import annotations

import numpy as np

from ....checks.registry import check
from ....job.problems import Problem
from ....units.quantities import Quantity, gauge
from ..context import NetworkContext

# Where no sheet says it; common practice, no source.
DRIFT_MHZ = 2.0  # of a free-running oscillator over a year's temperatures
MOST_OUTPUT_DBUV = 108.75  # 0 dBm of all together, 1 dB under which an LNB is linear enough
SEARCH_MHZ, SEARCH_SHARE = 5.0, 0.5  # how far a receiver searches, and at most in symbol rates
RESERVE_DB = 3.0
DATA = "the LNB's data sheet, else typical (common practice, no source)"


@check(
    "coax",
    codes=(
        "lnb-drift",
        "lnb-loud",
    ),
    needs=("solved",),
)
def lnb_limits(ctx: NetworkContext) -> list[Problem]:
    """Carriers that a drifting oscillator may lose, and outputs that are too loud for their LNB."""
    found: list[Problem] = []
    solved = ctx.solved
    run, columns, count = solved.run, solved.columns, len(solved.channels)
    for part in run.wiring.order:
        kind = run.wiring.kinds[part]
        if not kind.bands:
            continue
        mine = [p for p in columns.given if p[0] == part]
        given = [c for c in range(count) if any(columns.gives(p)[c] for p in mine)]
        drift = DRIFT_MHZ if kind.drift_mhz is None else kind.drift_mhz
        narrow = [
            c
            for c in given
            if min(SEARCH_MHZ, SEARCH_SHARE * float(columns.bandwidth_mhz[c])) < drift
        ]
        if narrow:
            c = min(narrow, key=lambda c: float(columns.bandwidth_mhz[c]))
            names = ", ".join(solved.channels[n].name for n in narrow[:3])
            found.append(
                Problem(
                    code="lnb-drift",
                    station="coax",
                    state="marginal",
                    place=solved.names[part],
                    ref=part,
                    title=(f"{names}: narrow beside what the LNB's oscillator drifts",),
                    gauge=gauge(
                        drift,
                        "mhz",
                        high=min(SEARCH_MHZ, SEARCH_SHARE * float(columns.bandwidth_mhz[c])),
                    ),
                    limit=(
                        "at most half a symbol rate of ",
                        Quantity(float(columns.bandwidth_mhz[c]), "msym", 1),
                    ),
                    origin=DATA,
                    remedy=(
                        "Take an LNB whose oscillator is locked to a crystal, or a receiver that searches further.",
                    ),
                )
            )
        most = MOST_OUTPUT_DBUV if kind.most_output_dbuv is None else kind.most_output_dbuv
        loudest = max(
            (_together_dbuv(columns.given[p][0], columns.asks) for p in mine), default=-np.inf
        )
        judged = gauge(
            loudest if np.isfinite(loudest) else None, "dbuv", high=most, reserve=RESERVE_DB
        )
        if judged.state in ("fail", "marginal"):
            found.append(
                Problem(
                    code="lnb-loud",
                    station="coax",
                    state=judged.state,
                    place=solved.names[part],
                    ref=part,
                    title=("All transponders together are more than the LNB bears",)
                    if judged.state == "fail"
                    else ("All transponders together are near what the LNB bears",),
                    gauge=judged,
                    limit=("at most ", Quantity(most, "dbuv", 0), " for all together"),
                    origin=DATA,
                    remedy=("Take an LNB with less gain: the dish gives more than it needs.",),
                )
            )
    return found


def _together_dbuv(level_dbuv: np.ndarray, asks: tuple[tuple[float, bool] | None, ...]) -> float:
    """The power of all carriers that come out in one state of the line, in the loudest [dBµV]."""
    states: dict[object, float] = {}
    for c in np.flatnonzero(~np.isnan(level_dbuv)).tolist():
        ask = asks[c] if c < len(asks) else None
        states[ask] = states.get(ask, 0.0) + 10 ** (float(level_dbuv[c]) / 10)
    return 10 * np.log10(max(states.values())) if states else -np.inf
