"""Station Aim: where to point, and what the tools will read when it is right."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass, replace

from ...job import Antenna, Array, Dish, Job, Target
from ...job.problems import Problem
from ...job.targets import Sight, sight_of
from ...physics.beams import dish_beamwidth_deg
from ...physics.geodesy import half_turn
from ...physics.magnetism import declination_deg
from ...units.quantities import InputError
from ...units.severity import State, worst
from ..sky.answer import SkyAnswer
from ..sky.dish_size import size_problems
from .array.checks import array_problems
from .array.terminals import heading_of, width_of
from .dishes import feeds_of, link_dish, neighbours_of, reflector_problem, sats_on
from .errors import ONE_DB
from .evidence import evidence_problems
from .finding.search import sweep
from .portable import rig

PLAIN_NOISE_DB, PLAIN_GAIN_DB = (
    0.7,
    55.0,
)  # of an LNB until one is chosen; common practice, no source
ARRAY_TOOL_DEG = 0.5  # how well a terrestrial antenna is tilted; common practice, no source


@dataclass(frozen=True)
class Aim:
    """The figures to set one antenna by. Degrees; `skew` is None where nothing is turned."""

    antenna: str
    name: str
    kind: str
    target: str
    target_name: str
    azimuth_deg: float
    compass_deg: float | None
    elevation_deg: float
    inclinometer_deg: float | None
    inclinometer_words: str
    face_lean_deg: float | None
    tilt_deg: float | None
    skew_deg: float | None
    skew_words: str
    skew_short: str
    skew_turns: str
    skew_view: str
    skew_zero: str
    beamwidth_deg: float
    tolerance_deg: float
    sweep_half_deg: float
    raise_deg: float
    sight_line: str
    state: State


@dataclass(frozen=True)
class AimAnswer:
    """The answer of the station."""

    aims: list[Aim]
    declination_deg: float | None
    problems: list[Problem]
    state: State
    figure: str
    figure_compass: str


def inclinometer_deg(antenna: Dish, elevation_deg: float) -> tuple[float, str]:
    """What the tool reads when the dish looks up by `elevation_deg`, and where it is laid [deg].

    An offset dish's face leans back by elevation less offset, one that hangs upside down by
    elevation and offset. Datums: face from vertical, face from horizontal, the mount's own scale, a
    structure with the maker's constant. A scale that is known to read too high reads so much more.
    """
    lean = face_lean_deg(antenna, elevation_deg)
    zero = antenna.scale_zero_deg
    if antenna.datum == "face":
        return abs(lean) + zero, f"face from plumb, the top leaning {'out' if lean < 0 else 'back'}"
    if antenna.datum == "face_level":
        top = "out" if lean < 0 else "back"
        return 90.0 - abs(lean) + zero, f"rim to rim on the face, the top leaning {top}"
    if antenna.datum == "scale":
        return elevation_deg + antenna.constant_deg + zero, "the mount's own scale"
    return elevation_deg + antenna.constant_deg + zero, "laid on the back structure"


def face_lean_deg(antenna: Dish, elevation_deg: float) -> float:
    """How far the face leans back from plumb [deg], negative when its top leans out."""
    return elevation_deg + (antenna.offset_deg if antenna.upside_down else -antenna.offset_deg)


def skew(
    antenna: Dish, target: Target, tilt_deg: float, row: bool = False
) -> tuple[float | None, str, str]:
    """Turn of the LNB in the chosen school: amount with the school's sign [deg], the sentence and
    its short form. The core's sign is clockwise as seen from behind the dish. A whole dish with a `row` of
    feeds is turned along the arc, whatever their polarisation."""
    if target.circular and not row:
        return None, "Circular polarisation: the LNB needs no turn.", "no turn"
    turn = tilt_deg
    what = "whole dish" if antenna.skew_turns == "dish" else "LNB"
    if antenna.mounting == "polar":
        return 0.0, "Leave the LNB at zero at the top of the arc; it follows by itself.", "at zero"
    if antenna.skew_zero == "H":
        turn = float(half_turn(tilt_deg + 90.0))
    shown = turn if antenna.skew_view == "behind" else -turn
    direction = "clockwise" if shown > 0 else "anticlockwise"
    if abs(turn) < 0.05:
        return 0.0, "Leave the LNB at zero.", "at zero"
    where = (
        "as you stand behind the dish"
        if antenna.skew_view == "behind"
        else "as you stand in front, facing the dish"
    )
    zero = "" if antenna.skew_zero == "V" else ", from zero at H"
    scale = ""
    if antenna.skew_turns == "dish":
        level = 90.0 if antenna.level_reads == "90" else 0.0
        scale = f" A tilt scale that reads {level:.0f} at level shows {abs(level + turn):.1f}."
    return shown, f"Turn the {what} {abs(turn):.1f}° {direction} {where}{zero}.{scale}", direction


def sight_line(azimuth_deg: float, sky: SkyAnswer) -> str:
    """How to sight the bearing from the nearest edge of something surveyed, in words."""
    best: tuple[float, str] | None = None
    for shape in sky.skyline:
        for corner, side in ((shape.points[0][0], "left"), (shape.points[-1][0], "right")):
            away = (azimuth_deg - corner + 180) % 360 - 180
            if abs(away) <= 30 and (best is None or abs(away) < abs(best[0])):
                best = (away, f"the {side}-hand edge of {shape.name} ({shape.letter})")
    if best is None:
        return "No surveyed landmark within 30°: use compass or sun."
    side = "right" if best[0] >= 0 else "left"
    return f"Sight it {abs(best[0]):.1f}° {side} of {best[1]}."


def work_out(
    job: Job, sky: SkyAnswer, margin_db: float = 3.0, margin_reserve_db: float = 1.0
) -> AimAnswer:
    """Set-up figures of every antenna that has a target. A terrestrial service counts with
    `margin_db` over its threshold."""
    problems: list[Problem] = []
    declination = _declination(job, job.date, problems)
    targets = {t.id: t for t in job.targets}
    sights = {t.id: t.sight for t in sky.targets}
    aims = []
    for antenna in job.antennas:
        target = targets.get(antenna.target or "")
        sight = sights.get(antenna.target or "")
        heading = heading_of(job, antenna) if isinstance(antenna, Array) else None
        if heading is not None:
            target, sight = _nearest(job, antenna, heading)
        if target is not None and sight is not None:
            if isinstance(antenna, Dish) != (target.kind == "satellite"):
                problems.append(_mismatch(antenna, target))
                continue
            aims.append(
                _aim(job, antenna, target=target, sight=sight, declination=declination, sky=sky)
            )
        elif isinstance(antenna, Dish) and antenna.mounting == "polar":
            top = _top_of_arc(job, antenna)
            if top is not None:
                aims.append(
                    _aim(
                        job, antenna, target=top[0], sight=top[1], declination=declination, sky=sky
                    )
                )
    first = aims[0] if aims else None
    problems += rig.problems(job.rig)
    problems += array_problems(job, margin_db)
    problems += [p for d in job.dishes if (p := reflector_problem(d))]
    small = _too_small(job, sky, margin_reserve_db)
    problems += small
    told, wrong = evidence_problems(job, aims)
    wrong |= {p.ref for p in small if p.state == "fail" and p.ref}
    problems += told
    aims = [replace(a, state="fail") if a.antenna in wrong else a for a in aims]
    return AimAnswer(
        aims=aims,
        declination_deg=declination,
        problems=problems,
        state=worst([a.state for a in aims] + [p.state for p in problems]),
        figure=f"{first.azimuth_deg:.1f}°T / {first.elevation_deg:.1f}°" if first else "no antenna",
        figure_compass=f"{first.compass_deg:.1f}°M / {first.elevation_deg:.1f}°"
        if first and first.compass_deg is not None
        else "no compass figure",
    )


def _too_small(job: Job, sky: SkyAnswer, reserve_db: float) -> list[Problem]:
    """Dishes that are too small, with what only Aim knows: feeds beside the focus, skew. Where there
    is none of both, what Sky found holds here too."""
    found = {
        (p.ref, p.fields): replace(p, station="aim") for p in sky.problems if p.code == "dish-small"
    }
    for antenna in job.dishes:
        for target in sats_on(job, antenna):
            dish = link_dish(
                job, antenna, target=target, lnb_noise_db=PLAIN_NOISE_DB, lnb_gain_db=PLAIN_GAIN_DB
            )
            sight = sight_of(job.site, target)
            if sight is None or not (dish.feed_loss_db > 0.1 or abs(dish.skew_error_deg) > 1):
                continue
            own = tuple(c for c in job.carriers if c.target == target.id)
            worse = size_problems(
                "aim",
                antenna.id,
                name=antenna.name,
                target=target,
                dish=dish,
                sight=sight,
                carriers=own,
                others=tuple(neighbours_of(job, target)),
                reserve_db=reserve_db,
                arc=(),
            )
            found |= {(p.ref, p.fields): p for p in worse}
    return list(found.values())


def _nearest(job: Job, antenna: Antenna, heading_deg: float) -> tuple[Target | None, Sight | None]:
    """What an array looks at: its own transmitter, else the wanted one next to its heading; its
    sight with the heading in place of the bearing."""
    seen = [
        (t, s)
        for t in job.targets
        if t.kind == "transmitter"
        and (t.wanted or t.id == antenna.target)
        and (s := sight_of(job.site, t)) is not None
    ]
    if not seen:
        return None, None

    def beside(row: tuple[Target, Sight]) -> tuple[bool, float]:
        off = abs((row[1].azimuth_deg - heading_deg + 180) % 360 - 180)
        return row[0].id != antenna.target, off

    target, sight = min(seen, key=beside)
    return target, replace(sight, azimuth_deg=heading_deg)


def _top_of_arc(job: Job, antenna: Dish) -> tuple[Target, Sight] | None:
    """A motor without a satellite of its own is set up on the job's satellite nearest the top."""
    seen = [
        (t, s)
        for t in sats_on(job, antenna)
        if (s := sight_of(job.site, t)) is not None and s.visible
    ]
    return max(seen, key=lambda row: row[1].elevation_deg, default=None)


def _declination(job: Job, day: dt.date, problems: list[Problem]) -> float | None:
    site = job.site
    if site.latitude_deg is None or site.longitude_deg is None:
        return None
    try:
        return declination_deg(site.latitude_deg, site.longitude_deg, site.height_m, day)
    except InputError as error:
        problems.append(
            Problem(
                code=error.code,
                station="aim",
                state="marginal",
                place="compass",
                title=(error.reason,),
                gauge=None,
                limit=("years 2025 to 2029",),
                origin="World Magnetic Model 2025",
                remedy=(error.remedy,),
            )
        )
        return None


def _mismatch(antenna: Antenna, target: Target) -> Problem:
    return Problem(
        code="wrong-antenna",
        station="aim",
        state="fail",
        place=antenna.name,
        title=(f"{antenna.name} cannot receive {target.name}",),
        gauge=None,
        limit=("a dish for a satellite, an array for a transmitter",),
        origin="kind of antenna",
        remedy=("Choose another target for it, or another antenna.",),
        ref=antenna.id,
    )


def _aim(
    job: Job,
    antenna: Antenna,
    target: Target,
    sight: Sight,
    declination: float | None,
    sky: SkyAnswer,
) -> Aim:
    compass = None
    if declination is not None:
        compass = (sight.azimuth_deg - declination + antenna.compass_off_deg) % 360
    waves = [c.frequency_mhz for c in job.carriers if c.target == target.id]
    state: State = "ok" if compass is not None else "marginal"
    turns, view, zero, tool, upright = "lnb", "behind", "V", ARRAY_TOOL_DEG, False
    if isinstance(antenna, Dish):
        turns, view, zero = antenna.skew_turns, antenna.skew_view, antenna.skew_zero
        tool, upright = antenna.scale_error_deg, antenna.coarse_first == "azimuth"
        # The narrowest beam is that of the highest frequency; 11.7 GHz until one is listed.
        # A terminal must not stray with what it sends, and its transmit beam is the narrower one.
        waves = [*waves, antenna.transmit_mhz] if antenna.two_way else waves
        width = dish_beamwidth_deg(antenna.diameter_m, max(waves, default=11_700.0))
        reads, words = inclinometer_deg(antenna, sight.elevation_deg)
        row = feeds_of(job, antenna) if antenna.skew_turns == "dish" else None
        turn, sentence, short = skew(
            antenna, target, row.tilt_deg if row else sight.tilt_deg, row=row is not None
        )
        lean = face_lean_deg(antenna, sight.elevation_deg)
        if not sight.visible:
            state = "fail"
        tilt = None if target.circular else sight.tilt_deg
    else:
        assert isinstance(antenna, Array)
        width = width_of(antenna)
        reads, words, lean, tilt, turn = None, "", None, None, None
        flats = {
            c.polarisation
            for c in job.carriers
            if c.target == target.id and antenna.low_mhz <= c.frequency_mhz <= antenna.high_mhz
        } or {"H"}
        if antenna.elements != "auto":
            flats = {antenna.elements}
        sentence = (
            "Elements level: horizontal polarisation."
            if flats == {"H"}
            else "Elements upright: vertical polarisation."
            if flats == {"V"}
            else "Both polarisations are sent: choose by the carriers wanted."
        )
        short = "level" if flats == {"H"} else "upright" if flats == {"V"} else "mixed"
    pass_ = sweep(
        sight.elevation_deg,
        antenna.compass_error_deg,
        tool_error_deg=tool,
        beamwidth_deg=width,
        azimuth_first=upright,
    )
    # A parabola-shaped main lobe loses 1 dB at width x sqrt(1/12).
    return Aim(
        antenna=antenna.id,
        name=antenna.name,
        kind=antenna.kind,
        target=target.id,
        target_name=target.name,
        azimuth_deg=sight.azimuth_deg,
        compass_deg=compass,
        elevation_deg=sight.elevation_deg,
        inclinometer_deg=reads,
        inclinometer_words=words,
        face_lean_deg=lean,
        tilt_deg=tilt,
        skew_deg=turn,
        skew_words=sentence,
        skew_short=short,
        skew_turns=turns,
        skew_view=view,
        skew_zero=zero,
        beamwidth_deg=width,
        tolerance_deg=width * ONE_DB,
        sweep_half_deg=pass_.half_deg,
        raise_deg=pass_.raise_deg,
        sight_line=sight_line(sight.azimuth_deg, sky),
        state=state,
    )
