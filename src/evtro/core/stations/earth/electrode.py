"""The electrode's resistance, and how far a house's own lightning protection must be.

References
----------
1. Separation from a lightning-protection system, IEC 62305-3, 6.3: s = ki kc l / km, with ki = 0.04 for
   classes III and IV, kc = 1 for one down conductor, km = 1 in air (from memory). The least favourable
   kc is taken: who keeps the system knows the number of its conductors.
"""

from __future__ import annotations

from ...job import Job
from ...job.problems import Problem
from ...job.profile import Profile
from ...units.quantities import Gauge, Phrase, Quantity, State, gauge

KI, KC, KM = 0.04, 1.0, 1.0
LPS_ORIGIN = "IEC 62305-3, 6.3, class III or IV, one down conductor (from memory)"


def separation_m(height_m: float) -> float:
    """The least distance in air [m] from a lightning-protection system, at a height [m] above where both are
    bonded."""
    return KI * KC * height_m / KM


def apart(job: Job, problems: list[Problem]) -> Gauge | None:
    """The distance from the house's own lightning protection against what must separate them; None where
    there is none."""
    earth = job.earth
    if earth.lps == "none" or job.rig.kind != "none":
        return None
    above = max((a.on_mast_m for a in job.antennas), default=0.0)
    need = separation_m(job.site.mount_height_m + above)
    judged = gauge(earth.lps_apart_m, "m", low=need, reserve=0.1)
    if judged.state == "todo":
        _add(problems, state="near", title=("Nobody has measured how far the lightning protection is",), one=None, need=need,
             remedy=("Measure from every part of mast, antenna and cable to its nearest rod, mesh or down conductor.",))  # fmt: skip
        return Gauge(value=None, unit="m", low=need, high=None, reserve=0.1, state="near")
    if judged.state != "in":
        title = "Too near to the house's lightning protection" if judged.state == "out" else "Barely clear of the house's lightning protection"  # fmt: skip
        _add(problems, state=judged.state, title=(title,), one=judged, need=need,
             remedy=("Move mast and cable away from it. If that cannot be, whoever keeps it bonds the mast to it and protects the cable.",))  # fmt: skip
    return judged


def _add(
    problems: list[Problem], *, state: State, title: Phrase, one: Gauge | None, need: float, remedy: Phrase
) -> None:  # fmt: skip
    problems.append(Problem(
        code="lightning-protection", station="earth", state=state, place="lightning protection", title=title, gauge=one,
        limit=("at least ", Quantity(need, "m", 2), " apart in air, twice as far through a wall"), origin=LPS_ORIGIN,
        remedy=remedy, fields=("lps_apart_m",)))  # fmt: skip


def resistance(job: Job, profile: Profile, problems: list[Problem]) -> Gauge | None:
    """An electrode of the antenna's own against the most that the school lets it have; None where it says
    nothing of it, or there is none."""
    rule = profile.electrode
    if rule is None or job.rig.kind != "none" or job.earth.electrode != "own":
        return None
    judged = gauge(job.earth.electrode_ohm, "ohm", high=rule.most_ohm, reserve=rule.most_ohm * 0.1)
    if judged.state in ("near", "out"):
        problems.append(Problem(
            code="electrode-ohm", station="earth", state=judged.state, place="electrode",
            title=("The electrode's resistance is too high" if judged.state == "out" else "The electrode's resistance is near its limit",),
            gauge=judged, limit=("at most ", Quantity(rule.most_ohm, "ohm", 0)), origin=rule.origin,
            remedy=("Drive a second rod, at least ", Quantity(1.8, "m"), " away, join both, and measure again; dry ground reads high.",),
            fields=("electrode_ohm",)))  # fmt: skip
    return judged
