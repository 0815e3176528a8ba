"""The cable company's line at a house that leaves it, or keeps it beside an own antenna."""

from __future__ import annotations

from ....checks.registry import check
from ....job import Job
from ....job.problems import Problem
from ....job.profile import Profile
from ....network.graph import Wiring
from ....units.quantities import Gauge, Quantity, gauge
from ....units.severity import State
from ..context import NetworkContext

TILT_MOST_DB = 12.0  # between the ends of the band at the drop; common practice, no source
NOISE_MOST_DBUV = 20.0  # ingress at the drop, -40 dBmV, 5 to 42 MHz; common practice, no source
WATCH_S = 30.0  # return noise comes in bursts: half a minute shows the worst (common practice)
LICENCE = "the company's line is the company's; its staff and local law have the last word"


def tilt_gauge(job: Job) -> Gauge:
    """Level at the lowest less at the highest carrier of the drop [dB], as size."""
    company = job.company
    if company.low_dbuv is None or company.high_dbuv is None:
        return gauge(None, "db", high=TILT_MOST_DB)
    return gauge(abs(company.low_dbuv - company.high_dbuv), "db", high=TILT_MOST_DB, reserve=2.0)


def noise_gauge(job: Job) -> Gauge:
    """The worst return noise seen [dBµV] against what the company bears."""
    return gauge(job.company.return_noise_dbuv, "dbuv", high=NOISE_MOST_DBUV, reserve=3.0)


def level_gauge(job: Job, profile: Profile, value: float | None) -> Gauge:
    """A level at the drop against the window of its system [dBµV]."""
    window = profile.windows["DVB-C"]
    return gauge(value, "dbuv", low=window.low_dbuv, high=window.high_dbuv, reserve=2.0)


def joined(wiring: Wiring) -> list[str]:
    """Names of the parts at which the company's line and an own antenna come together."""
    reach: dict[str, set[str]] = {}
    for part in wiring.order:
        own = wiring.parts[part]
        if wiring.kinds[part].draws_as == "line":
            mine = {"line"}
        else:
            mine = {"own"} if own.antenna else set()
        reach[part] = mine.union(*(reach[k.from_part] for k in wiring.before[part].values()))
    both = {"line", "own"}
    first = [
        p
        for p in wiring.order
        if reach[p] == both and all(reach[k.from_part] != both for k in wiring.before[p].values())
    ]
    return [wiring.parts[p].name or wiring.kinds[p].name for p in first]


@check(
    "coax",
    codes=(
        "back-feed",
        "company-on",
        "lines-unknown",
        "drop-level",
        "drop-tilt",
        "return-noise",
        "watched-short",
        "filter-unconfirmed",
    ),
    needs=(
        "job",
        "profile",
        "solved",
    ),
)
def company_problems(ctx: NetworkContext) -> list[Problem]:
    """What is wrong with the company's line, dangers for its network first."""
    job = ctx.job
    company = job.company
    found = [
        Problem(
            code="back-feed",
            station="coax",
            state="fail",
            place=name,
            title=(f"Own antenna and company's line meet at {name}",),
            gauge=None,
            limit=("never joined",),
            origin=LICENCE,
            remedy=(
                "Part them: one network for each, or a switch that joins only one at a time. What feeds back "
                "disturbs the whole street.",
            ),
        )
        for name in joined(ctx.solved.run.wiring)
    ]
    if company.plan == "none":
        # Whatever is said of it: a line that is in the run is judged.
        return found
    if company.plan == "leave" and not company.unplugged:
        found.append(
            _said(
                "company-on",
                "fail",
                title="The company's line is still connected",
                limit="unplugged before the own antenna goes on",
                remedy="Unplug it at the grounding block, cap it with 75 ohm, leave its earth on.",
                judged=None,
            )
        )
    if not company.lines_known:
        found.append(
            _said(
                "lines-unknown",
                "marginal",
                title="Which line is which is not proven",
                limit="each line named at both ends",
                remedy="Cap one end with 75 ohm and measure the loop, or use a tone; then label both ends.",
                judged=None,
            )
        )
    if company.plan == "leave":
        return found
    for value, mhz in ((company.low_dbuv, company.low_mhz), (company.high_dbuv, company.high_mhz)):
        judged = level_gauge(job, ctx.profile, value)
        if judged.state in ("fail", "marginal"):
            found.append(
                Problem(
                    code="drop-level",
                    station="coax",
                    state=judged.state,
                    place=f"drop at {mhz:.0f} MHz",
                    title=(
                        f"The drop comes in {'low' if (judged.value or 0) < (judged.low or 0) + 3 else 'high'} at {mhz:.0f} MHz",
                    ),
                    gauge=judged,
                    limit=(
                        Quantity(judged.low or 0, "dbuv", 0),
                        " to ",
                        Quantity(judged.high or 0, "dbuv", 0),
                    ),
                    origin=ctx.profile.windows["DVB-C"].origin,
                    remedy=("Show it to the company before anything is changed behind it.",),
                )
            )
    tilt = tilt_gauge(job)
    if tilt.state == "fail":
        found.append(
            Problem(
                code="drop-tilt",
                station="coax",
                state="fail",
                place="drop",
                title=("The drop leans too much over the band",),
                gauge=tilt,
                limit=("at most ", Quantity(TILT_MOST_DB, "db", 0)),
                origin="common practice, no source",
                remedy=(
                    "Wet or damaged cable eats the top first: look at the drop and its connectors.",
                ),
            )
        )
    noise = noise_gauge(job)
    if noise.state in ("fail", "marginal"):
        found.append(
            Problem(
                code="return-noise",
                station="coax",
                state=noise.state,
                place="drop",
                title=("Noise goes back into the company's line",),
                gauge=noise,
                limit=("at most ", Quantity(NOISE_MOST_DBUV, "dbuv", 0)),
                origin="common practice, no source",
                remedy=(
                    "Unplug branch by branch until it falls; mend that one, then fit the filter.",
                ),
            )
        )
    if noise.value is not None and (company.watched_s or 0.0) < WATCH_S:
        found.append(
            _said(
                "watched-short",
                "marginal",
                title="The return noise was watched too short",
                limit="half a minute",
                remedy="Watch the meter for 30 s and write down the worst.",
                judged=gauge(company.watched_s or 0.0, "count", low=WATCH_S),
            )
        )
    known = any(channel.group == "cable" for channel in ctx.solved.channels)
    if not company.filter_fitted and not known:
        found.append(
            _said(
                "filter-unconfirmed",
                "marginal",
                title="No filter stops the house's noise on the company's line",
                limit="high pass where no modem hangs",
                remedy="Fit the high pass on every branch that carries television only.",
                judged=None,
            )
        )
    return found


def _said(
    code: str, state: State, title: str, limit: str, remedy: str, judged: Gauge | None
) -> Problem:
    return Problem(
        code=code,
        station="coax",
        state=state,
        place="company's line",
        title=(title,),
        gauge=judged,
        limit=(limit,),
        origin=LICENCE,
        remedy=(remedy,),
    )
