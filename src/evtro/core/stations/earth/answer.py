"""Station Earth: how it is bonded and earthed, and what is dangerous here."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...job import Conductor, Job
from ...job.changes import Add, Set
from ...job.problems import Problem
from ...job.profile import EarthRule, Profile, Size
from ...units.phrases import listed, say
from ...units.quantities import Gauge, Phrase, Quantity, State, gauge, worst


@dataclass(frozen=True)
class Bond:
    """One conductor of the school, and the one that is planned for it."""

    role: str
    name: str
    joins: str
    asked: Phrase
    origin: str
    needed: bool
    conductor: str | None
    material: str | None
    size: Gauge
    length: Gauge
    connected: bool
    state: State


@dataclass(frozen=True)
class EarthAnswer:
    """The answer of the station."""

    school: str
    bonds: list[Bond]
    lightning_earth: bool
    exemption: Phrase
    overhead: Gauge
    fall_m: float
    cautions: list[str]
    problems: list[Problem]
    state: State
    figure: str


LAST_WORD = "Local code and the licensed electrician have the last word."


def work_out(job: Job, profile: Profile) -> EarthAnswer:
    """Every conductor against its rule, and the distance to overhead lines."""
    problems: list[Problem] = []
    exempt, why = _exemption(job, profile)
    bonds = []
    portable = job.rig.kind != "none"
    for rule in profile.earth_rules:
        needed = not (rule.lightning and exempt) and not portable and _there(job, rule)
        found = next((c for c in job.conductors if c.role == rule.role), None)
        bonds.append(_bond(rule, found, needed, problems))
    overhead, fall = _overhead(job, profile, problems)
    if not job.antennas:
        # Nothing stands there yet: what to bond is known, but nothing is missing.
        problems = [p for p in problems if p.place == "overhead lines"]
    open_count = sum(p.state in ("out", "near", "todo") for p in problems)
    states = [b.state for b in bonds if b.needed] + [overhead.state]
    return EarthAnswer(
        school=profile.earth_school, bonds=bonds, lightning_earth=not exempt, exemption=why, overhead=overhead, fall_m=fall,
        cautions=[
            "The whole mast and antenna must be able to fall without coming near an overhead "
            "line. If it cannot, stop.",
            "Earth before anything is joined to mains-powered equipment. Mains work is for "
            "licensed people.",
            LAST_WORD,
        ],
        problems=problems,
        state=worst([*states, *(p.state for p in problems)]) if job.antennas else "todo",
        figure="no antenna" if not job.antennas else f"{open_count} to fix" if open_count else "all bonded",
    )  # fmt: skip


HOUSED = ("amplifier", "multiswitch", "inserter")  # what has a housing to bond, by how it is drawn


def _there(job: Job, rule: EarthRule) -> bool:
    """Whether what a rule bonds exists in this job: housings only where there are some."""
    if rule.role != "devices" or not job.parts:
        return True
    kinds = {p.key: p.data.draws_as for p in job.part_data}
    return any(
        (p.type not in kinds and not kinds) or kinds.get(p.type) in HOUSED for p in job.parts
    )


def _exemption(job: Job, profile: Profile) -> tuple[bool, Phrase]:
    if job.rig.kind != "none":
        return True, ("Set up for a while: nothing to earth at a house. Take it down before a thunderstorm, and "
                      "unplug it.",)  # fmt: skip
    rule = profile.exemption
    if rule is None:
        return False, ("This school asks for the mast's earth in every place.",)
    if job.earth.indoors or job.mast.fixing == "loft":
        return True, (f"Indoors: no lightning earth, but bonding. {rule.origin}.",)
    low_enough = job.earth.below_roof_edge_m > rule.below_roof_edge_m
    if low_enough and job.earth.from_wall_m < rule.from_wall_m:
        return True, say(
            "More than {} below the roof edge and less than {} from the wall: no lightning earth, but "
            "bonding. {}.",
            Quantity(rule.below_roof_edge_m, "m"), Quantity(rule.from_wall_m, "m"), rule.origin,
        )  # fmt: skip
    return False, (f"Above the sheltered zone of the wall: earth the mast. {rule.origin}.",)


def _size(size: Size) -> Phrase:
    whole = float(size.least_mm2).is_integer()
    return say("{} {}", Quantity(size.least_mm2, "mm2", 0 if whole else 2), size.of)


def _bond(rule: EarthRule, found: Conductor | None, needed: bool, problems: list[Problem]) -> Bond:
    asked = listed((_size(s) for s in rule.sizes), " or ")
    said: tuple[str | Quantity, ...] = ("at least ", Quantity(rule.sizes[0].least_mm2, "mm2", 1))
    if found is None:
        if needed:
            problems.append(
                Problem(
                    code="bond-missing", station="earth", state="out", place=rule.name, title=(f"{rule.name}: not bonded",),
                    gauge=None, limit=said, origin=rule.origin, remedy=say("Run {} between {}.", asked, rule.joins),
                    change=Add(rows="conductors", values={"role": rule.role}), effect=("adds the conductor, to be measured",),
                    ref=rule.role,
                )
            )  # fmt: skip
        return Bond(
            role=rule.role, name=rule.name, joins=rule.joins, asked=asked, origin=rule.origin, needed=needed, conductor=None, material=None,
            size=gauge(None, "mm2"), length=gauge(None, "m"), connected=False, state="out" if needed else "todo",
        )  # fmt: skip
    size_rule = next((s for s in rule.sizes if s.material == found.material), None)
    least = size_rule.least_mm2 if size_rule else None
    # Nominal AWG sizes are rounded; one in a hundred of the section is let pass.
    size = gauge(found.size_mm2, "mm2", low=least * 0.99 if least else None)
    if size_rule is None:
        size = Gauge(
            value=found.size_mm2, unit="mm2", low=None, high=None, reserve=0.0, state="out"
        )
    length = gauge(found.length_m, "m", high=rule.longest_m, reserve=0.5 if rule.longest_m else 0)
    state = worst([size.state, length.state])
    if size.state == "out":
        name = found.material.replace("_", "-")
        problems.append(
            Problem(
                code="bond-thin", station="earth", state="out", place=rule.name,
                title=(f"{rule.name}: too thin" if size_rule else f"{rule.name}: {name} is not allowed",),
                gauge=size, limit=said, origin=rule.origin, remedy=(f"Run {asked} instead.",),
                change=Set(rows="conductors", id=found.id, values={
                    "material": rule.sizes[0].material, "size_mm2": rule.sizes[0].least_mm2}), effect=("then ", said[1], ", in"), ref=rule.role,
            )
        )  # fmt: skip
    if length.state != "in" and rule.longest_m is not None:
        problems.append(
            Problem(
                code="bond-long", station="earth", state=length.state, place=rule.name,
                title=(f"{rule.name}: too long" if length.state == "out" else f"{rule.name}: near the "
                 "limit of length",), gauge=length,
                limit=("at most ", Quantity(rule.longest_m, "m")), origin=rule.origin,
                remedy=("Move the block nearer to the electrode, or set an electrode of its own there.",),
                ref=rule.role,
            )
        )  # fmt: skip
    if not found.connected:
        state = worst([state, "near"])
        problems.append(
            Problem(
                code="bond-open", station="earth", state="near", place=rule.name, title=(f"{rule.name}: not confirmed",), gauge=None,
                limit=("joined and measured",), origin=rule.origin,
                remedy=("Join it, scrape the paint under a serrated washer, and tick it here.",),
                change=Set(rows="conductors", id=found.id, values={"connected": True}), effect=("marks it as joined",), ref=rule.role,
            )
        )  # fmt: skip
    return Bond(
        role=rule.role, name=rule.name, joins=rule.joins, asked=asked, origin=rule.origin, needed=needed, conductor=found.id, material=found.material,
        size=size, length=length, connected=found.connected, state=state,
    )  # fmt: skip


def _clear_m(profile: Profile, kv: float | None) -> float:
    """What must stay between a line and all that may fall [m]: the profile's figure holds to 50 kV."""
    if kv is None:
        return profile.overhead_clear_m
    return max(profile.overhead_clear_m, next((m for most, m in CLEAR_BY_KV if kv <= most), CLEAR_BY_KV[-1][1]))  # fmt: skip


# Least distance by voltage [kV, m]: 10, 15, 20, 25, 35 and 45 ft, 29 CFR 1926.1408 table A (from memory).
CLEAR_BY_KV = ((50.0, 3.0), (200.0, 4.6), (350.0, 6.1), (500.0, 7.6), (750.0, 10.7), (1200.0, 13.7))
BY_KV = "29 CFR 1926.1408 table A (from memory)"


def _overhead(job: Job, profile: Profile, problems: list[Problem]) -> tuple[Gauge, float]:
    above = max((a.on_mast_m for a in job.antennas), default=0.0)
    largest = max((a.diameter_m / 2 for a in job.dishes), default=0.5)
    fall = above + largest if job.rig.kind != "none" else max(job.mast.length_m, above + largest)
    earth = job.earth
    need = fall + _clear_m(profile, earth.line_kv if earth.overhead_lines == "near" else None)
    high = earth.line_kv is not None and earth.line_kv > CLEAR_BY_KV[0][0]
    origin = BY_KV if high else profile.overhead_origin
    nothing = Gauge(value=None, unit="m", low=need, high=None, reserve=0.0, state="in")

    def add(code: str, state: State, title: str, *, one: Gauge | None, remedy: str) -> None:
        problems.append(Problem(
            code=code, station="earth", state=state, place="overhead lines", title=(title,), gauge=one,
            limit=("at least ", Quantity(need, "m"), " away"), origin=origin, remedy=(remedy,)))  # fmt: skip

    if earth.overhead_lines == "none":
        return nothing, fall
    if earth.overhead_lines == "unknown":
        add("overhead-unknown", "near", "Nobody has looked for overhead lines", one=None, remedy="Look before the ladder goes up; answer here.")  # fmt: skip
        return replace(nothing, state="near"), fall
    if earth.overhead_lines == "dead":
        if earth.line_operator.strip() and earth.line_dead_confirmed.strip():
            return nothing, fall
        add("overhead", "out", "Stop: it is not confirmed that the line is dead", one=None, remedy="Only its operator makes a line dead, and says so to you. Write down who did, and who of you was told.")  # fmt: skip
        return replace(nothing, state="out"), fall
    judged = gauge(earth.line_distance_m, "m", low=need, reserve=1.0)
    if judged.state == "out":
        add("overhead", "out", "Stop: the mast could fall onto an overhead line", one=judged, remedy="Choose another place, or let the network operator make the line safe first.")  # fmt: skip
    elif judged.state != "in":
        add("overhead", "near", "The overhead line's distance is not sure", one=judged, remedy="Measure it from the mast's foot along the ground." if judged.value is None
            else "Choose another place, or let the network operator make the line safe first.")  # fmt: skip
    if judged.state == "in" and earth.line_kv is None:
        add("overhead-voltage", "near", "Nobody has asked what voltage the line has", one=judged, remedy="This distance holds to 50 kV. Ask the network operator, and write the voltage here.")  # fmt: skip
        judged = replace(judged, state="near")
    return judged, fall
