"""The steps of station Aim: base, coarse aim, search, peak, lock, and what a terminal needs more.

Orders and habits are common practice with no published source.
"""

from __future__ import annotations

from dataclasses import replace

from ...job import Dish, Job
from ...job.checklist import FASTENER, thing
from ...units.phrases import say
from ...units.quantities import Phrase, Quantity, Step, gauge
from .answer import Aim, AimAnswer
from .dish.polar import settings
from .two_way.link import ISOLATION_DB, power_density


def aim_steps(job: Job, answer: AimAnswer) -> list[Step]:
    """Every antenna in turn; what it stands on is set up before, at Mast."""
    steps: list[Step] = []
    for a in answer.aims:
        steps += _dish(job, a) if a.kind == "dish" else _array(job, a)
    return steps


def _dish(job: Job, a: Aim) -> list[Step]:
    key = f"aim.{a.antenna}"
    antenna = next(x for x in job.dishes if x.id == a.antenna)
    upright = antenna.coarse_first == "azimuth"
    bearing = a.azimuth_deg if a.compass_deg is None else a.compass_deg
    unit = "deg_true" if a.compass_deg is None else "deg_mag"
    if job.rig.kind == "vehicle":
        return _self_aiming(a, key)
    steps = _stand(job, key)
    if antenna.mounting == "polar":
        return [*steps, *_motor(job, antenna, a, key)]
    steps.append(_loose(job, antenna, key))
    if a.inclinometer_deg is not None:
        reads = a.inclinometer_deg
        steps.append(
            Step(
                f"{key}.elevation",
                ("Tilt the dish until the inclinometer reads",),
                Quantity(reads, "deg"),
                (
                    f"{a.inclinometer_words}; the beam then looks up ",
                    Quantity(a.elevation_deg, "deg"),
                ),
                measure=gauge(None, "deg", reads - a.tolerance_deg, reads + a.tolerance_deg),
            )
        )
    if a.skew_deg is not None:
        steps.append(
            Step(
                f"{key}.skew",
                (
                    f"Turn the {_TURNS[a.skew_turns]} {a.skew_short}"
                    if abs(a.skew_deg) >= 0.05
                    else f"Leave the {_TURNS[a.skew_turns]} as it is",
                ),
                Quantity(abs(a.skew_deg), "deg"),
                (a.skew_words,),
                measure=gauge(None, "deg", abs(a.skew_deg) - 2, abs(a.skew_deg) + 2),
            )
        )
    steps += [
        Step(
            f"{key}.azimuth",
            ("Turn the dish, by compass, to" if a.compass_deg is not None else "Turn the dish to",),
            Quantity(bearing, unit),  # type: ignore[arg-type]
            (
                Quantity(a.azimuth_deg, "deg_true"),
                f". {a.sight_line} Within ",
                Quantity(a.tolerance_deg, "deg"),
                " will do.",
            ),
            measure=gauge(None, unit, bearing - a.tolerance_deg, bearing + a.tolerance_deg),  # type: ignore[arg-type]
        ),
        Step(
            f"{key}.sweep",
            (
                "Sweep slowly up and down until quality shows"
                if upright
                else "Sweep slowly left and right until quality shows",
            ),
            Quantity(2 * a.sweep_half_deg, "deg"),
            (
                "in all, ",
                Quantity(a.sweep_half_deg, "deg"),
                " either side; then " + ("turn on" if upright else "raise") + " by ",
                Quantity(a.raise_deg, "deg"),
                " and sweep again, alternately to both sides of the start",
            ),
        ),
        Step(
            f"{key}.peak",
            ("Find both falling edges and go back to the middle",),
            hint=("Azimuth, then elevation, then skew, then once more. Quality, not strength.",),
            needs=(f"{key}.loose",),
        ),
        _lock(antenna, key),
        _tight(job, antenna, key),
    ]
    if antenna.two_way:
        steps += _two_way(job, antenna, key, a.tilt_deg is None)
    if upright:
        turn = next(i for i, s in enumerate(steps) if s.key == f"{key}.azimuth")
        first = next(i for i, s in enumerate(steps) if s.key == f"{key}.loose") + 1
        steps.insert(first, steps.pop(turn))
    return steps


def _self_aiming(a: Aim, key: str) -> list[Step]:
    """A dish on a vehicle turns by itself: it is told what to look for, and what it found is checked."""
    return [
        Step(
            f"{key}.code",
            (f"Set the receiver's switch and dish code, and {a.target_name} as wanted",),
            hint=("Test it there before the search; the code differs by kit.",),
        ),
        Step(
            f"{key}.search",
            ("Let it search: it should stop at ", Quantity(a.azimuth_deg, "deg_true", 0)),
            Quantity(a.elevation_deg, "deg"),
            (
                "is how high it then looks, from level ground. A mark that is missing is a satellite that is blocked.",
            ),
        ),
        Step(
            f"{key}.found",
            (f"See that it is {a.target_name}: its name, and the quality",),
            hint=("Unused ports stay, capped, for another service later.",),
        ),
    ]


_TURNS = {"lnb": "LNB", "dish": "whole reflector"}
HIGH_M = 2.0  # what is higher is reached from a ladder or a roof


def _stand(job: Job, key: str) -> list[Step]:
    """Where one stands to turn it, before anything is turned."""
    if job.rig.kind != "none" or job.mast.fixing == "loft" or job.site.mount_height_m <= HIGH_M:
        return []
    return [
        Step(
            f"{key}.stand",
            ("Stand where both hands are free to turn it",),
            hint=("The mast is plumb before the dish goes on.",),
            danger="Edge of the roof",
            danger_text="Clip on before you let go of the mast. Keep people from below.",
            gate="I am clipped on",
        )
    ]


def _locks(antenna: Dish) -> list[tuple[str, Phrase]]:
    """What holds a dish in its place once it is aimed, by key and name."""
    if antenna.two_way:
        return [
            ("elevation", ("four elevation nuts",)),
            ("azimuth", ("two azimuth nuts",)),
            ("canister", ("three bolts of the canister",)),
            ("transceiver", ("four screws of the transceiver",)),
        ]
    found: list[tuple[str, Phrase]] = [
        ("azimuth", ("azimuth lock",)),
        ("elevation", ("elevation lock",)),
    ]
    if antenna.mounting == "polar":
        found = [
            ("azimuth", ("the mount's clamp on the mast",)),
            ("axis", ("bolts of the motor's scale",)),
            ("scale", ("bolts of the dish's scale",)),
        ]
    if antenna.mounting == "multi":
        found.append(("tilt", ("tilt lock",)))
    turned = "the feed's clamp" if antenna.skew_turns == "lnb" else "the reflector's turn lock"
    return [*found, ("feed", (turned,))]


def _loose(job: Job, antenna: Dish, key: str) -> Step:
    """Every lock seen loose before its axis is turned."""
    at = f"{key}.loose"
    return Step(
        at,
        ("Every lock loose, every fine screw in its middle",),
        hint=("Snug enough that nothing falls, loose enough that it turns.",),
        things=tuple(
            thing(job, at, k, name=name, good=("loose", "snug"), states=FASTENER)
            for k, name in _locks(antenna)
        ),
    )


def _tight(job: Job, antenna: Dish, key: str) -> Step:
    """Every lock tried after the last nut."""
    at = f"{key}.tight"
    locks = [*_locks(antenna), ("foot", ("the clamp on the tube",))]
    return Step(
        at,
        ("Try every fastener: none turns",),
        hint=("By torque where the kit says one, even on both sides, the reflector not bent.",),
        needs=(f"{key}.lock",),
        things=tuple(
            thing(
                job,
                at,
                k,
                name=name,
                good=("tight",),
                states=FASTENER,
                torque_nm=antenna.lock_torque_nm,
            )
            for k, name in locks
        ),
    )


def _lock(antenna: Dish, key: str) -> Step:
    lock = Step(
        f"{key}.lock",
        ("Lock with the meter on",),
        hint=("Read before and after every nut; undo the one that costs level.",),
    )
    if not antenna.two_way:
        return lock
    return replace(
        lock,
        danger="Hand and tool before the horn",
        danger_text="Be certain that the unit is off.",
        gate="It cannot transmit now",
    )


def _motor(job: Job, antenna: Dish, a: Aim, key: str) -> list[Step]:
    """A motor on its axis: both scales are set before it turns, the mount on the mast after, then the ends."""
    latitude = job.site.latitude_deg
    set_to = None if latitude is None else settings(latitude, antenna.motor_bend_deg)
    south = latitude is not None and latitude < 0
    steps = [
        Step(
            f"{key}.zero",
            ("Drive the motor to zero, and check that it stands at its mark",),
            hint=("Nothing is set on a motor that is not at its middle.",),
        )
    ]
    if set_to is not None:
        steps += [
            Step(
                f"{key}.axis",
                ("Set the motor's own scale to",),
                Quantity(set_to.motor_elevation_deg, "deg"),
                ("which is an axis of ", Quantity(set_to.axis_deg, "deg"), " to the ground"),
                measure=gauge(
                    None, "deg", set_to.motor_elevation_deg - 0.5, set_to.motor_elevation_deg + 0.5
                ),
            ),
            Step(
                f"{key}.scale",
                ("Set the dish's scale on the motor's tube to",),
                Quantity(set_to.dish_scale_deg, "deg"),
                ("the beam then falls by ", Quantity(set_to.declination_deg, "deg"), " to the arc"),
                measure=gauge(
                    None, "deg", set_to.dish_scale_deg - 0.5, set_to.dish_scale_deg + 0.5
                ),
            ),
        ]
    return [
        *steps,
        _loose(job, antenna, key),
        Step(
            f"{key}.azimuth",
            (f"Turn the whole mount on the mast to true {'north' if south else 'south'}",),
            Quantity(0.0 if south else 180.0, "deg_true"),
            (f"{a.skew_words} ", f"The first to look for is {a.target_name}."),
        ),
        Step(
            f"{key}.sweep",
            (f"Drive to {a.target_name} and turn the mount until quality shows",),
            Quantity(a.azimuth_deg, "deg_true"),
            ("is its bearing; the motor stays where its position says",),
        ),
        Step(
            f"{key}.peak",
            ("Peak the top of the arc with the mount, then both ends",),
            hint=(
                "Low at both ends the same way: the elevation. Low at one and high at the other: the bearing.",
            ),
            needs=(f"{key}.loose",),
        ),
        _lock(antenna, key),
        _tight(job, antenna, key),
    ]


def _two_way(job: Job, antenna: Dish, key: str, circular: bool) -> list[Step]:
    """What a terminal still needs after its dish is locked. Its provider has the last word."""
    field = power_density(
        antenna.diameter_m,
        antenna.transmit_w,
        frequency_mhz=antenna.transmit_mhz,
        efficiency=antenna.efficiency,
        duty_pct=job.terminal.duty_pct,
    )
    beam = next((b for b in job.beams if b.id == job.terminal.beam), None)
    # Circular polarisation has no skew to turn, and nothing to null.
    null = [
        Step(
            f"{key}.null",
            ("Turn the feed slowly to the least of the other polarisation",),
            hint=("Two even rises on either side, then the middle; read the isolation.",),
            measure=gauge(job.terminal.isolation_db, "db", ISOLATION_DB),
        ),
    ]
    return [
        *([] if circular else null),
        Step(
            f"{key}.beam",
            (f"Enter the beam {beam.name}, code {beam.code}" if beam else "Enter the beam's code",),
            hint=say("Check that the modem shows the same place to {}.", Quantity(5.0, "km", 0)),
        ),
        Step(
            key=f"{key}.transmit",
            title=("Let the terminal transmit, range and commission",),
            figure=Quantity(max(field.public_from_m, antenna.diameter_m), "m"),
            hint=("in front of the dish kept free of people; write down Es/N0 and isolation",),
            danger="Radio energy in the beam",
            danger_text="Only the certified installer switches it on. Nobody before the dish, no hand at the horn.",
            gate="The beam is free and fenced off",
        ),
    ]


def _array(job: Job, a: Aim) -> list[Step]:
    """A terrestrial antenna: footing, elements, heading, spots, peak. Common practice, no source."""
    key = f"aim.{a.antenna}"
    antenna = next(x for x in job.arrays if x.id == a.antenna)
    bearing = a.azimuth_deg if a.compass_deg is None else a.compass_deg
    unit = "deg_true" if a.compass_deg is None else "deg_mag"
    heard = {h.spot for h in job.trial_readings}
    tried = sum(h.antenna == a.antenna and h.id in heard for h in job.trial_spots)
    steps = [_footing(key, antenna.standing)] if antenna.standing != "indoors" else []
    if job.site.boundary_m is not None and antenna.standing == "outdoors":
        steps.append(
            Step(
                f"{key}.boundary",
                ("Nothing reaches over the neighbour's ground",),
                Quantity(job.site.boundary_m, "m"),
                (f"{a.name} is ", Quantity(antenna.length_m, "m"), " long, and it turns"),
            )
        )
    steps += [
        Step(
            f"{key}.polarisation",
            (a.skew_words.rstrip("."),),
            hint=(f"{a.name} to {a.target_name}",),
        ),
        Step(
            f"{key}.azimuth",
            (f"Turn {a.name} to",),
            Quantity(bearing, unit),  # type: ignore[arg-type]
            (
                Quantity(a.azimuth_deg, "deg_true"),
                f". {a.sight_line} Within ",
                Quantity(a.tolerance_deg, "deg", 0),
                " will do.",
            ),
            measure=gauge(None, unit, bearing - a.tolerance_deg, bearing + a.tolerance_deg),  # type: ignore[arg-type]
        ),
        Step(
            f"{key}.spots",
            ("Hold it at three spots and write each one down",),
            Quantity(float(tried), "count", 0),
            ("spots read so far. Level and quality of every multiplex; stand clear of it.",),
            measure=gauge(float(tried), "count", 3.0),
        ),
        Step(
            f"{key}.peak",
            ("Turn and tilt for the best quality on the weakest multiplex",),
            hint=(
                "Quality before strength. Level high and quality low is an echo: move sideways.",
            ),
        ),
        Step(
            f"{key}.lock",
            ("Lock it and read again",),
            hint=("The figure must not fall by more than half a decibel.",),
            things=(
                thing(
                    job,
                    f"{key}.lock",
                    "clamp",
                    name=("its clamp on the tube",),
                    good=("tight",),
                    states=FASTENER,
                ),
            ),
        ),
    ]
    return steps


def _footing(key: str, standing: str) -> Step:
    if standing == "loft":
        return Step(
            f"{key}.loft",
            ("Find the place in the loft",),
            hint=("Clear of foil, tanks, pipes and wiring, a metre of air before it.",),
            danger="Loft",
            danger_text="Tread on joists only. Heat and dust: mask on, come down in time; "
            "live wiring lies under the wool.",
            gate="I stand on joists, the light is good",
        )
    return Step(
        f"{key}.roof",
        ("Carry the antenna up in parts, its cable tied off",),
        hint=("Not in wind or rain. One hand for yourself.",),
        danger="Edge of the roof",
        danger_text="Clip on before both hands are full. Look once more for overhead lines.",
        gate="I am clipped on, no line is near",
    )
