"""Station Earth: how it is bonded and earthed, and what is dangerous here."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from ...job import Conductor, Job, Part
from ...job.changes import Add, Change, Set, Several
from ...job.problems import Problem
from ...job.profile import EarthRule, Profile, Size
from ...units.phrases import listed, say
from ...units.quantities import Gauge, Phrase, Quantity, gauge
from ...units.severity import WORDS, State, worst
from .electrode import apart, expected_ohm, of_kind, own_asked, resistance
from .zone import exemption


@dataclass(frozen=True)
class Bond:
    """One conductor of the school, and the one that is planned for it: from a part, or from a bar that joins all
    of `points`, by id and name. `stretches` are the rows that it is made of, by id; size is that of the thinnest
    against its rule, length and bends are those of all."""

    key: str
    role: str
    name: str
    joins: str
    asked: Phrase
    origin: str
    needed: bool
    part: str | None
    points: list[tuple[str, str]]
    conductor: str | None
    material: str | None
    size: Gauge
    length: Gauge
    bends: Gauge
    stretches: list[str]
    connected: bool
    state: State


@dataclass(frozen=True)
class EarthAnswer:
    """The answer of the station. `below_edge`, `from_wall` how the antennas stand to roof and wall [m]; `apart`
    from the house's lightning protection, `electrode` its resistance, `kind` its length [m], None where nothing is
    asked; `expected_ohm` what it should read by its kind and the ground."""

    school: str
    bonds: list[Bond]
    lightning_earth: bool
    exemption: Phrase
    overhead: Gauge
    fall_m: float
    below_edge: float
    from_wall: float
    from_geometry: bool
    apart: Gauge | None
    electrode: Gauge | None
    kind: Gauge | None
    expected_ohm: float | None
    asks_electrode: bool
    cautions: list[str]
    problems: list[Problem]
    state: State
    figure: str


LAST_WORD = "Local code and the licensed electrician have the last word."


def work_out(job: Job, profile: Profile) -> EarthAnswer:
    """Every conductor against its rule, and the distance to overhead lines."""
    problems: list[Problem] = []
    exempt, why, stands = exemption(job, profile)
    bonds = []
    portable = job.rig.kind != "none"
    for rule in profile.earth_rules:
        needed = not (rule.lightning and exempt) and not portable and _there(job, rule)
        bonds += _bonds(job, profile, rule, needed=needed, problems=problems)
    overhead, fall = _overhead(job, profile, problems)
    lightning, ohm = apart(job, problems), resistance(job, profile, problems)
    kind = of_kind(job, profile, problems, exempt=exempt)
    if not job.antennas:
        # Nothing stands there yet: what to bond is known, but nothing is missing.
        problems = [p for p in problems if p.place == "overhead lines"]
    open_count = sum(p.state in ("fail", "marginal", "unknown") for p in problems)
    states = [b.state for b in bonds if b.needed] + [overhead.state]
    states += [g.state for g in (lightning, ohm, kind) if g is not None and g.state != "unknown"]
    return EarthAnswer(
        school=profile.earth_school,
        bonds=bonds,
        lightning_earth=not exempt,
        exemption=why,
        overhead=overhead,
        fall_m=fall,
        below_edge=stands.below_m,
        from_wall=stands.out_m,
        from_geometry=stands.known,
        apart=lightning,
        electrode=ohm,
        kind=kind,
        expected_ohm=expected_ohm(job.earth),
        asks_electrode=own_asked(profile),
        cautions=[
            "The whole mast and antenna must be able to fall without coming near an overhead "
            "line. If it cannot, stop.",
            "Earth before anything is joined to mains-powered equipment. Mains work is for "
            "licensed people.",
            LAST_WORD,
        ],
        problems=problems,
        state=worst([*states, *(p.state for p in problems)]) if job.antennas else "unknown",
        figure="no antenna"
        if not job.antennas
        else f"{open_count} to fix"
        if open_count
        else "all bonded",
    )


HOUSED = ("amplifier", "multiswitch", "inserter")  # what has a housing to bond, by how it is drawn
BLOCKS = ("grounding_block", "arrester")
DRAWN = {"devices": HOUSED, "shields": BLOCKS}


def _points(job: Job, rule: EarthRule) -> list[Part]:
    """The parts that a rule asks to be joined, as far as the job carries what they are."""
    drawn = DRAWN.get(rule.role, ())
    kinds = {p.key: p.data.draws_as for p in job.part_data}
    return [p for p in job.parts if kinds.get(p.type) in drawn]


def _there(job: Job, rule: EarthRule) -> bool:
    """Whether what a rule bonds exists in this job: housings only where there are some, electrodes only
    where the antenna has one of its own."""
    if rule.role == "electrodes":
        return job.earth.electrode == "own"
    if rule.role != "devices" or not job.parts:
        return True
    kinds = {p.key for p in job.part_data}
    return bool(_points(job, rule)) or any(p.type not in kinds and not kinds for p in job.parts)


def _size(size: Size) -> Phrase:
    whole = float(size.least_mm2).is_integer()
    return say("{} {}", Quantity(size.least_mm2, "mm2", 0 if whole else 2), size.of)


def _bonds(
    job: Job, profile: Profile, rule: EarthRule, *, needed: bool, problems: list[Problem]
) -> list[Bond]:
    """The conductors of a rule: one for all that it joins, or one from each part that was named."""
    points = {p.id: _named(job, p) for p in _points(job, rule)}
    found = [c for c in job.conductors if c.role == rule.role]
    heads = [(c, tuple(_line_of(job, c))) for c in found if not goes_on(job, c)]
    whole = any(c.part is None for c, _ in heads)
    taken = {c.part for c, _ in heads}
    bare = [] if whole or not heads else [p for p in points if p not in taken]
    rows: list[tuple[tuple[Conductor, ...], str | None]] = [(line, c.part) for c, line in heads]
    rows += [((), p) for p in bare] if heads else [((), None)]
    made, whole_ones = [], 0
    for line, part in rows:
        at = _At(
            rule=rule,
            profile=profile,
            needed=needed,
            part=part,
            points=points,
            again=part is None and whole_ones > 0,
        )
        whole_ones += part is None
        made.append(_bond(at, line, problems))
    return made


def goes_on(job: Job, conductor: Conductor) -> bool:
    """Whether a conductor goes on from another of its own role; one that names itself, or a ring, begins anew."""
    role = {c.id: c for c in job.conductors if c.role == conductor.role}
    seen: set[str] = set()
    at: str | None = conductor.id
    while at in role and at not in seen:
        seen.add(at)
        at = role[at].after
    return conductor.after in role and at not in seen


def _line_of(job: Job, first: Conductor) -> Iterator[Conductor]:
    """A conductor and all that goes on from it, and on from that."""
    yield first
    for row in job.conductors:
        if row.after == first.id and row.role == first.role and goes_on(job, row):
            yield from _line_of(job, row)


def _named(job: Job, part: Part) -> str:
    kinds = {p.key: p.data.name for p in job.part_data}
    return part.name or kinds.get(part.type, part.type)


@dataclass(frozen=True)
class _At:
    """Where a conductor of a rule begins: at one of several points, or at a bar for all of them."""

    rule: EarthRule
    profile: Profile
    needed: bool
    part: str | None
    points: dict[str, str]
    again: bool

    @property
    def name(self) -> str:
        """The rule's name, with the part where there are several."""
        return (
            f"{self.rule.name}, {self.points.get(self.part, 'elsewhere')}"
            if self.part
            else self.rule.name
        )

    @property
    def joins(self) -> str:
        """What it joins, in words."""
        first, _, last = self.rule.joins.partition(" and ")
        if self.part:
            first = self.points.get(self.part, first)
        elif len(self.points) > 1:
            first = f"a bar for {', '.join(self.points.values())}"
        return f"{first} and {last}"


def _bond(at: _At, line: tuple[Conductor, ...], problems: list[Problem]) -> Bond:
    rule, needed, name = at.rule, at.needed, at.name
    # A tick stays as long as its conductor does.
    key = line[0].id if line and (at.part or at.again) else at.part or rule.role
    asked = listed((_size(s) for s in rule.sizes), " or ")
    said: tuple[str | Quantity, ...] = ("at least ", Quantity(rule.sizes[0].least_mm2, "mm2", 1))

    def add(
        code: str,
        state: State,
        title: str,
        *,
        one: Gauge | None,
        limit: Phrase,
        remedy: Phrase,
        origin: str = rule.origin,
        change: Change | None = None,
        effect: Phrase = (),
    ) -> None:
        problems.append(
            Problem(
                code=code,
                station="earth",
                state=state,
                place=name,
                title=(f"{name}: {title}",),
                gauge=one,
                limit=limit,
                origin=origin,
                remedy=remedy,
                change=change,
                effect=effect,
                ref=key,
            )
        )

    shown = Bond(
        key=key,
        role=rule.role,
        name=name,
        joins=at.joins,
        part=at.part,
        points=list(at.points.items()),
        asked=asked,
        origin=rule.origin,
        needed=needed,
        conductor=line[0].id if line else None,
        material=line[0].material if line else None,
        size=gauge(None, "mm2"),
        length=gauge(None, "m"),
        bends=gauge(None, "count"),
        stretches=[c.id for c in line],
        connected=bool(line) and all(c.connected for c in line),
        state="fail" if needed else "unknown",
    )
    if not line:
        if needed:
            begins = {} if at.part is None else {"part": at.part}
            add(
                "bond-missing",
                "fail",
                "not bonded",
                one=None,
                limit=said,
                remedy=say("Run {} between {}.", asked, at.joins),
                change=Add(rows="conductors", values={"role": rule.role, **begins}),
                effect=("adds the conductor, to be measured",),
            )
        return shown
    sizes = [_size_of(rule, c) for c in line]
    thin = [(c, g) for c, g in zip(line, sizes, strict=True) if g.state == "fail"]
    if thin:
        row, size = thin[0]
        allowed = any(s.material == row.material for s in rule.sizes)
        best = {"material": rule.sizes[0].material, "size_mm2": rule.sizes[0].least_mm2}
        words = "too thin" if allowed else f"{row.material.replace('_', '-')} is not allowed"
        add(
            "bond-thin",
            "fail",
            words,
            one=size,
            limit=said,
            remedy=say("Run {} instead.", asked),
            change=_at_once(
                [Set(rows="conductors", id=c.id, values=best) for c, _ in thin],
                "run a thicker conductor",
            ),
            effect=("then ", said[1], f", {WORDS['ok']}"),
        )
    thinnest = next((s for s in sizes if s.state == "fail"), min(sizes, key=_room))
    length = gauge(
        sum(c.length_m for c in line),
        "m",
        high=rule.longest_m,
        reserve=0.5 if rule.longest_m else 0,
    )
    if length.state != "ok" and rule.longest_m is not None:
        add(
            "bond-long",
            length.state,
            "too long" if length.state == "fail" else "near the limit of length",
            one=length,
            limit=("at most ", Quantity(rule.longest_m, "m")),
            remedy=(
                "Move the block nearer to the electrode, or set an electrode of its own there.",
            ),
        )
    most = at.profile.bends_most
    bends = gauge(
        float(sum(c.bends for c in line)), "count", high=float(most) if rule.lightning else None
    )
    if bends.state == "fail":
        bends = replace(bends, state="marginal")
        add(
            "bond-bent",
            "marginal",
            "too many bends for lightning",
            one=bends,
            limit=(f"at most {most}, wide ones",),
            origin=at.profile.bends_origin,
            remedy=("Run it straighter, and every bend as wide as a hand's length.",),
        )
    states: list[State] = [thinnest.state, length.state, bends.state]
    apart = [c for c in line if not c.connected]
    if apart:
        states.append("marginal")
        add(
            "bond-open",
            "marginal",
            "not confirmed",
            one=None,
            limit=("joined and measured",),
            remedy=("Join it, scrape the paint under a serrated washer, and tick it here.",),
            change=_at_once(
                [Set(rows="conductors", id=c.id, values={"connected": True}) for c in apart],
                "mark it as joined",
            ),
            effect=("marks it as joined",),
        )
    return replace(shown, size=thinnest, length=length, bends=bends, state=worst(states))


def _at_once(changes: list[Set], words: str) -> Change:
    """One change of several stretches, where they are several."""
    return changes[0] if len(changes) == 1 else Several(words=words, changes=tuple(changes))


def _size_of(rule: EarthRule, row: Conductor) -> Gauge:
    """A stretch's section against that of its metal; one that the rule does not name is out whatever its size."""
    asked = next((s for s in rule.sizes if s.material == row.material), None)
    if asked is None:
        return Gauge(value=row.size_mm2, unit="mm2", low=None, high=None, reserve=0.0, state="fail")
    # Nominal AWG sizes are rounded; one in a hundred of the section is let pass.
    return gauge(row.size_mm2, "mm2", low=asked.least_mm2 * 0.99)


def _room(size: Gauge) -> float:
    return (size.value or 0.0) / size.low if size.low else 0.0


def _clear_m(profile: Profile, kv: float | None) -> float:
    """What must stay between a line and all that may fall [m]: the profile's figure holds to 50 kV."""
    if kv is None:
        return profile.overhead_clear_m
    return max(
        profile.overhead_clear_m,
        next((m for most, m in CLEAR_BY_KV if kv <= most), CLEAR_BY_KV[-1][1]),
    )


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
    nothing = Gauge(value=None, unit="m", low=need, high=None, reserve=0.0, state="ok")

    def add(code: str, state: State, title: str, *, one: Gauge | None, remedy: str) -> None:
        problems.append(
            Problem(
                code=code,
                station="earth",
                state=state,
                place="overhead lines",
                title=(title,),
                gauge=one,
                limit=("at least ", Quantity(need, "m"), " away"),
                origin=origin,
                remedy=(remedy,),
            )
        )

    if earth.overhead_lines == "none":
        return nothing, fall
    if earth.overhead_lines == "unknown":
        add(
            "overhead-unknown",
            "marginal",
            "Nobody has looked for overhead lines",
            one=None,
            remedy="Look before the ladder goes up; answer here.",
        )
        return replace(nothing, state="marginal"), fall
    if earth.overhead_lines == "dead":
        if earth.line_operator.strip() and earth.line_dead_confirmed.strip():
            return nothing, fall
        add(
            "overhead",
            "fail",
            "Stop: it is not confirmed that the line is dead",
            one=None,
            remedy="Only its operator makes a line dead, and says so to you. Write down who did, and who of you was told.",
        )
        return replace(nothing, state="fail"), fall
    judged = gauge(earth.line_distance_m, "m", low=need, reserve=1.0)
    if judged.state == "fail":
        add(
            "overhead",
            "fail",
            "Stop: the mast could fall onto an overhead line",
            one=judged,
            remedy="Choose another place, or let the network operator make the line safe first.",
        )
    elif judged.state != "ok":
        add(
            "overhead",
            "marginal",
            "The overhead line's distance is not sure",
            one=judged,
            remedy="Measure it from the mast's foot along the ground."
            if judged.value is None
            else "Choose another place, or let the network operator make the line safe first.",
        )
    if judged.state == "ok" and earth.line_kv is None:
        add(
            "overhead-voltage",
            "marginal",
            "Nobody has asked what voltage the line has",
            one=judged,
            remedy="This distance holds to 50 kV. Ask the network operator, and write the voltage here.",
        )
        judged = replace(judged, state="marginal")
    return judged, fall
