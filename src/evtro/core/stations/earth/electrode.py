"""The electrode's resistance, and how far a house's own lightning protection must be.

References
----------
1. Separation from a lightning-protection system, IEC 62305-3, 6.3: s = ki kc l / km, with ki = 0.04 for
   classes III and IV, kc = 1 for one down conductor, km = 1 in air (from memory). The least favourable
   kc is taken: who keeps the system knows the number of its conductors.
2. H. B. Dwight, Calculation of Resistances to Ground, Electrical Engineering 55 (1936): a rod,
   rho / (2 pi L) (ln(4 L / a) - 1); a buried wire of length 2 l at a depth s / 2,
   rho / (4 pi l) (ln(4 l / a) + ln(4 l / s) - 2 + s / (2 l)) (from memory).
3. Several rods at least their own length apart share the current: each 1.16 and 1.29 times its part for two and
   three, 1.36 for four and more (IEEE 142, from memory).
"""

from __future__ import annotations

import math

from ...job import Earth, Job
from ...job.problems import Problem
from ...job.profile import ElectrodeKind, Profile
from ...units.phrases import listed, say
from ...units.quantities import Gauge, Phrase, Quantity, gauge
from ...units.severity import State

ROD_MM, WIRE_MM, DEPTH_M = 16.0, 10.0, 0.5  # usual sizes; common practice, no source
SHARED = {1: 1.0, 2: 1.16, 3: 1.29}
SHARED_BY_MORE = 1.36
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
    if judged.state == "unknown":
        _add(
            problems,
            state="marginal",
            title=("Nobody has measured how far the lightning protection is",),
            one=None,
            need=need,
            remedy=(
                "Measure from every part of mast, antenna and cable to its nearest rod, mesh or down conductor.",
            ),
        )
        return Gauge(value=None, unit="m", low=need, high=None, reserve=0.1, state="marginal")
    if judged.state != "ok":
        title = (
            "Too near to the house's lightning protection"
            if judged.state == "fail"
            else "Barely clear of the house's lightning protection"
        )
        _add(
            problems,
            state=judged.state,
            title=(title,),
            one=judged,
            need=need,
            remedy=(
                "Move mast and cable away from it. If that is not possible, its owner bonds the mast to it and protects the cable.",
            ),
        )
    return judged


def _add(
    problems: list[Problem],
    *,
    state: State,
    title: Phrase,
    one: Gauge | None,
    need: float,
    remedy: Phrase,
) -> None:
    problems.append(
        Problem(
            code="lightning-protection",
            station="earth",
            state=state,
            place="lightning protection",
            title=title,
            gauge=one,
            limit=(
                "at least ",
                Quantity(need, "m", 2),
                " apart in air, twice as far through a wall",
            ),
            origin=LPS_ORIGIN,
            remedy=remedy,
            fields=("lps_apart_m",),
        )
    )


def resistance(job: Job, profile: Profile, problems: list[Problem]) -> Gauge | None:
    """An electrode of the antenna's own against the most that the school lets it have; None where it says
    nothing of it, or there is none."""
    rule = profile.electrode
    if rule is None or job.rig.kind != "none" or job.earth.electrode != "own":
        return None
    judged = gauge(job.earth.electrode_ohm, "ohm", high=rule.most_ohm, reserve=rule.most_ohm * 0.1)
    if judged.state in ("marginal", "fail"):
        problems.append(
            Problem(
                code="electrode-ohm",
                station="earth",
                state=judged.state,
                place="electrode",
                title=(
                    "The electrode's resistance is too high"
                    if judged.state == "fail"
                    else "The electrode's resistance is near its limit",
                ),
                gauge=judged,
                limit=("at most ", Quantity(rule.most_ohm, "ohm", 0)),
                origin=rule.origin,
                remedy=(
                    "Drive a second rod, at least ",
                    Quantity(1.8, "m"),
                    " away, join both, and measure again; dry ground reads high.",
                ),
                fields=("electrode_ohm",),
            )
        )
    return judged


def rod_ohm(soil_ohm_m: float, length_m: float, radius_m: float = ROD_MM / 2000) -> float:
    """The resistance of one upright rod to earth [ohm], in ground of a resistivity [ohm m] [2]."""
    return soil_ohm_m / (2 * math.pi * length_m) * (math.log(4 * length_m / radius_m) - 1)


def wire_ohm(
    soil_ohm_m: float,
    length_m: float,
    *,
    depth_m: float = DEPTH_M,
    radius_m: float = WIRE_MM / 2000,
) -> float:
    """The resistance of a straight wire or strip in the ground [ohm], of this whole length [m] [2]."""
    half, s = length_m / 2, 2 * depth_m
    terms = math.log(4 * half / radius_m) + math.log(4 * half / s) - 2 + s / (2 * half)
    return soil_ohm_m / (4 * math.pi * half) * terms


def expected_ohm(earth: Earth) -> float | None:
    """What the electrode should read by its kind, length and ground [ohm]; None where one of them is not said or
    its kind has no such figure."""
    if earth.soil_ohm_m is None or earth.electrode_m is None:
        return None
    shared = SHARED.get(earth.electrode_count, SHARED_BY_MORE) / earth.electrode_count
    if earth.electrode_kind == "rod":
        return rod_ohm(earth.soil_ohm_m, earth.electrode_m) * shared
    if earth.electrode_kind == "horizontal":
        return wire_ohm(earth.soil_ohm_m, earth.electrode_m) * shared
    return None


def of_kind(job: Job, profile: Profile, problems: list[Problem], *, exempt: bool) -> Gauge | None:
    """The antenna's own electrode against the lengths that the school lets it have; None where nothing is asked."""
    earth = job.earth
    rules = [r for r in profile.electrode_kinds if r.kind == earth.electrode_kind]
    if not profile.electrode_kinds or exempt or job.rig.kind != "none" or earth.electrode != "own":
        return None
    if earth.electrode_kind == "unknown" and not own_asked(profile):
        return None  # the mast goes to the house's earth terminal, and no electrode of its own was told
    if not rules:
        other = earth.electrode_kind != "unknown"
        asked = listed((_asked(r) for r in profile.electrode_kinds), " or ")
        problems.append(
            Problem(
                code="electrode-kind",
                station="earth",
                state="marginal" if other else "unknown",
                place="electrode",
                title=(
                    "This school does not name such an electrode"
                    if other
                    else "Type of earth electrode not entered",
                ),
                gauge=None,
                limit=asked,
                origin=profile.electrode_kinds[0].origin,
                remedy=say("Take {}, or the building's own; say here what is there.", asked),
                fields=("electrode_kind",),
            )
        )
        return None
    rule = rules[0]
    whole = (
        None
        if earth.electrode_m is None
        else min(float(earth.electrode_count) / rule.count, 1.0) * earth.electrode_m
    )
    judged = gauge(whole, "m", low=rule.least_m)
    if judged.state != "ok":
        unsaid = judged.value is None
        problems.append(
            Problem(
                code="electrode-short",
                station="earth",
                state="unknown" if unsaid else "fail",
                place="electrode",
                title=(
                    "Length of earth electrode not entered"
                    if unsaid
                    else "The electrode is too short",
                ),
                gauge=None if unsaid else judged,
                limit=_asked(rule),
                origin=rule.origin,
                remedy=say("Drive or lay {}.", _asked(rule)),
                fields=("electrode_m",),
            )
        )
    return judged


def own_asked(profile: Profile) -> bool:
    """Whether a school reckons with an electrode of the antenna's own."""
    return any(r.role == "electrodes" for r in profile.earth_rules)


def _asked(rule: ElectrodeKind) -> Phrase:
    many = f"{rule.count} times " if rule.count > 1 else ""
    return (many, Quantity(rule.least_m, "m"), f" of {rule.words}")
