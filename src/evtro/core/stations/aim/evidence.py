"""What was read on the roof against what was planned: where the two contradict, it is said.

One rule for all of them comes with the evidence as a kind of row; until then each is named here.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from ...job import Carrier, Dish, Job
from ...job.problems import Problem
from ...job.targets import sight_of
from ...physics.geodesy import half_turn
from ...units.quantities import Quantity, gauge
from ...units.severity import State
from .dishes import measured_differs, sats_on
from .finding.identify import Identity, Seen, identify
from .two_way.link import ISOLATION_DB, choose_beam

ESN0_RESERVE_DB = 1.0


class Planned(Protocol):
    """What of an antenna's set-up figures is compared."""

    @property
    def antenna(self) -> str: ...
    @property
    def target(self) -> str: ...
    @property
    def azimuth_deg(self) -> float: ...
    @property
    def compass_deg(self) -> float | None: ...
    @property
    def elevation_deg(self) -> float: ...
    @property
    def tolerance_deg(self) -> float: ...
    @property
    def inclinometer_deg(self) -> float | None: ...
    @property
    def skew_deg(self) -> float | None: ...


def seen_from(job: Job) -> list[Seen]:
    """Every satellite the job knows, wanted or not, where it stands above the horizon."""
    found = []
    own: dict[str, list[Carrier]] = {}
    for carrier in job.carriers:
        own.setdefault(carrier.target, []).append(carrier)
    for target in job.targets:
        sight = sight_of(job.site, target) if target.kind == "satellite" else None
        if sight is not None and sight.visible:
            found.append(
                Seen(
                    target=target.id,
                    name=target.name,
                    azimuth_deg=sight.azimuth_deg,
                    elevation_deg=sight.elevation_deg,
                    wanted=target.wanted,
                    carriers=tuple(own.get(target.id, ())),
                )
            )
    return found


def identity_of(
    job: Job,
    antenna: Dish,
    target: str,
    main: str,
    propose: bool = True,
    seen: Sequence[Seen] | None = None,
) -> Identity:
    """Which satellite a feed of a dish is on, from what locked there. A lock that names no feed
    belongs to the main one."""
    up = seen_from(job) if seen is None else seen
    locks = [k for k in job.locks if k.antenna == antenna.id and (k.target or main) == target]
    wanted = next((s for s in up if s.target == target), None)
    at = None if wanted is None else (wanted.azimuth_deg, wanted.elevation_deg)
    return identify(
        up,
        locks,
        aimed_at=at,
        aim_error_deg=antenna.compass_error_deg,
        wanted=target,
        propose=propose,
    )


def evidence_problems(job: Job, aims: Sequence[Planned]) -> tuple[list[Problem], set[str]]:
    """What contradicts the plan, and the antennas that are not where they should be."""
    problems: list[Problem] = []
    wrong: set[str] = set()
    by_id = {a.id: a for a in job.dishes}
    for dish in by_id.values():
        if (differs := measured_differs(dish)) is not None:
            problems.append(differs)
            wrong.add(dish.id)
        if (moved := _zero_moved(dish)) is not None:
            problems.append(moved)
    for aim in aims:
        antenna = by_id.get(aim.antenna)
        if antenna is None:
            continue
        on_wanted, found = _identities(job, antenna, aim)
        problems += found
        if found:
            wrong.add(antenna.id)
        for read in (
            _azimuth_read(job, antenna, aim, on_wanted),
            *_set_otherwise(job, antenna, aim, on_wanted),
        ):
            if read is not None:
                problems.append(read)
                if read.state == "fail":
                    wrong.add(antenna.id)
        if antenna.two_way:
            bad = _terminal(job, antenna, aim)
            problems += bad
            if any(p.state == "fail" for p in bad):
                wrong.add(antenna.id)
    return problems, wrong


def _identities(job: Job, antenna: Dish, aim: Planned) -> tuple[bool, list[Problem]]:
    """Whether the main feed is surely on its satellite, and the feeds that are surely on another."""
    if not any(k.antenna == antenna.id for k in job.locks):
        return False, []
    seen = seen_from(job)
    found, good = [], False
    for target in sats_on(job, antenna):
        said = identity_of(
            job, antenna, target=target.id, main=aim.target, propose=False, seen=seen
        )
        if target.id == aim.target:
            good = said.state == "ok"
        if said.state == "fail":
            found.append(
                Problem(
                    code="wrong-satellite",
                    station="aim",
                    state="fail",
                    place=antenna.name,
                    title=(f"{antenna.name}: {said.words}",),
                    gauge=None,
                    limit=(f"wanted: {target.name}",),
                    origin="from what locked, and the names that were read",
                    remedy=(said.way,),
                    ref=antenna.id,
                )
            )
    return good, found


def _azimuth_read(job: Job, antenna: Dish, aim: Planned, on_wanted: bool) -> Problem | None:
    """The bearing that was read when the dish was set, against the one that was planned."""
    mark = next((m for m in job.marks if m.step == f"aim.{antenna.id}.azimuth"), None)
    if mark is None or mark.value is None:
        return None
    planned = aim.azimuth_deg if aim.compass_deg is None else aim.compass_deg
    unit = "deg_true" if aim.compass_deg is None else "deg_mag"
    off = (mark.value - planned + 180) % 360 - 180
    allowed = antenna.compass_error_deg + aim.tolerance_deg
    if abs(off) <= allowed:
        return None
    state: State = "marginal" if on_wanted else "fail"
    remedy = (
        "It is on its satellite, so the compass is wrong here: steel near by. Learn its error under Tools."
        if on_wanted
        else "Turn to the planned bearing, or read again away from steel; then search."
    )
    return Problem(
        code="azimuth-read",
        station="aim",
        state=state,
        place=antenna.name,
        title=(f"{antenna.name} was read at another bearing than planned",),
        gauge=gauge(abs(off), "deg", high=allowed),
        limit=("read ", Quantity(mark.value, unit), ", planned ", Quantity(planned, unit)),  # type: ignore[arg-type]
        origin="what the compass and the beam allow",
        remedy=(remedy,),
        ref=antenna.id,
    )


def _set_otherwise(job: Job, antenna: Dish, aim: Planned, on_wanted: bool) -> list[Problem]:
    """Elevation and turn that were read when the dish was set, against the plan; what the tool is not good
    to, the beam does not mind."""
    read = {m.step: m.value for m in job.marks if m.value is not None}
    found = []
    for part, planned, allowed in (
        ("elevation", aim.inclinometer_deg, antenna.scale_error_deg + aim.tolerance_deg),
        ("skew", None if aim.skew_deg is None else abs(aim.skew_deg), SKEW_DEG),
    ):
        value = read.get(f"aim.{antenna.id}.{part}")
        if value is None or planned is None or abs(value - planned) <= allowed:
            continue
        state: State = "marginal" if on_wanted else "fail"
        found.append(
            Problem(
                code=f"{part}-read",
                station="aim",
                state=state,
                place=antenna.name,
                title=(
                    f"{antenna.name} was read at another {'turn' if part == 'skew' else part} than planned",
                ),
                gauge=gauge(abs(value - planned), "deg", high=allowed),
                limit=("read ", Quantity(value, "deg"), ", planned ", Quantity(planned, "deg")),
                origin="what the tool and the beam allow",
                remedy=(
                    "It is on its satellite, so the tool reads otherwise here: learn its zero under Tools."
                    if on_wanted
                    else "Set it to the plan, or read again where the tool is meant to lie; then search.",
                ),
                ref=antenna.id,
            )
        )
    return found


SKEW_DEG = 5.0  # costs 0.03 dB, and leaves 21 dB to the other polarisation (-20 log10 tan)


def _zero_moved(antenna: Dish) -> Problem | None:
    """A tool whose zero was learned twice, and differs by more than it is good to."""
    before = antenna.zero_before_deg
    if before is None:
        return None
    moved = abs(float(half_turn(antenna.scale_zero_deg - before)))
    if moved <= antenna.scale_error_deg:
        return None
    return Problem(
        code="zero-moved",
        station="aim",
        state="marginal",
        place=antenna.name,
        title=(f"The zero of the tool on {antenna.name} moved since it was learned before",),
        gauge=gauge(moved, "deg", high=antenna.scale_error_deg),
        limit=(
            "before ",
            Quantity(before, "deg"),
            ", now ",
            Quantity(antenna.scale_zero_deg, "deg"),
        ),
        origin="how well the tool is said to read",
        remedy=(
            "Look where it is laid and whether the satellite was the right one, and learn it once more; or "
            "say that the tool is good to less.",
        ),
        ref=antenna.id,
    )


def _terminal(job: Job, antenna: Dish, aim: Planned) -> list[Problem]:
    """What a terminal's own readings and its beam say against it."""
    terminal, site = job.terminal, job.site
    found: list[Problem] = []
    beams = [b for b in job.beams if b.target == aim.target]
    chosen = None
    if site.latitude_deg is not None and site.longitude_deg is not None:
        choices = choose_beam(beams, site.latitude_deg, site.longitude_deg)
        chosen = next((b for b in choices if b.beam == terminal.beam), None)
        if chosen is not None and not chosen.inside:
            found.append(
                Problem(
                    code="beam-outside",
                    station="aim",
                    state="fail",
                    place=antenna.name,
                    title=(f"Beam {chosen.name} does not hold this place",),
                    gauge=gauge(-(chosen.border_km or 0.0), "km", low=0.0),
                    limit=(Quantity(chosen.border_km or 0.0, "km"), " outside its border"),
                    origin="the beam's border",
                    remedy=("Choose a beam that holds it, or check the position.",),
                    ref=antenna.id,
                )
            )
    least = chosen.least_esn0_db if chosen else None
    level = gauge(terminal.esn0_db, "db", low=least, reserve=ESN0_RESERVE_DB)
    if level.state == "fail":
        found.append(
            Problem(
                code="esn0-low",
                station="aim",
                state="fail",
                place=antenna.name,
                title=("Es/N0 is below what this place wants",),
                gauge=level,
                limit=("at least ", Quantity(least or 0.0, "db")),
                origin=f"beam {chosen.name if chosen else ''}",
                remedy=(
                    "Peak again, azimuth, elevation, skew; look along the beam for what stands in it; dry "
                    "and remake the connectors.",
                ),
                ref=antenna.id,
            )
        )
    nulled = gauge(terminal.isolation_db, "db", low=ISOLATION_DB, reserve=3.0)
    linear = next((not t.circular for t in job.targets if t.id == aim.target), True)
    if linear and nulled.state == "fail":
        found.append(
            Problem(
                code="isolation-low",
                station="aim",
                state="fail",
                place=antenna.name,
                title=("The other polarisation is not nulled",),
                gauge=nulled,
                limit=("at least ", Quantity(ISOLATION_DB, "db")),
                origin="common practice, no source",
                remedy=("Turn the feed slowly through the null once more, at Peak.",),
                ref=antenna.id,
            )
        )
    return found


def check_commissioned(job: Job) -> list[str]:
    """What is still missing or too low before a terminal may be called commissioned."""
    missing = []
    for antenna in (a for a in job.dishes if a.two_way):
        target = next((t for t in job.targets if t.id == antenna.target), None)
        beam = next((b for b in job.beams if b.id == job.terminal.beam), None)
        least = beam.least_esn0_db if beam else None
        if job.terminal.esn0_db is None:
            missing.append("Es/N0 is not read")
        elif least is not None and job.terminal.esn0_db < least:
            missing.append(f"Es/N0 of {job.terminal.esn0_db:g} dB is below {least:g} dB")
        if target is not None and not target.circular:
            if job.terminal.isolation_db is None:
                missing.append("isolation is not read")
            elif job.terminal.isolation_db < ISOLATION_DB:
                missing.append(
                    f"isolation of {job.terminal.isolation_db:g} dB is below {ISOLATION_DB:g} dB"
                )
    return missing
