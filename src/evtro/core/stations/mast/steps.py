"""The steps of station Mast, by what the mast stands on. Orders and habits are common practice with no
published source."""

from __future__ import annotations

import math
from dataclasses import replace

from ...job import Antenna, Job
from ...job.checklist import FASTENER, thing
from ...job.measured import PLUMB_DEG
from ...units.quantities import Phrase, Quantity, Step, gauge
from ..aim.portable.rig import CIRCLE_MM, GAP_MM, HIGHEST_MM, LEVEL_DEG, TRIPOD_LEVEL_DEG
from .answer import MastAnswer
from .mounts import BRACKETED, DRILLED, anchor
from .uses import LIFT_ALONE_KG

TIE_MM = 356.0  # 14 in; common practice, no source

# Before the first hole in a wall, be it for a bracket or for the cable's entry.
HIDDEN = Step(
    "site.hidden", ("Find hidden cables and pipes where you will drill",), hint=("Entry hole slopes down to the outside.",),
    danger="Live cables in the wall", danger_text="Use a detector on both sides. If unsure, do not drill.",
    gate="The wall is checked",
)  # fmt: skip


BEHIND_STOP: Phrase = (
    "A cable or a pipe lies behind it: no hole here. Choose another place, find again, and say there what you found.",
)


def behind(step: Step, found: str) -> Step:
    """A step that drills, or looks where one drills: a service that was found there stops it."""
    return replace(step, stop=BEHIND_STOP) if found == "service" else step


def drills(job: Job) -> bool:
    """Whether the mount itself is drilled into a wall."""
    return job.rig.kind == "none" and job.mast.fixing in DRILLED


def mast_steps(job: Job, answer: MastAnswer) -> list[Step]:
    """What the antennas stand on, from the first hole to the last nut."""
    if job.rig.kind != "none":
        return _rig(job)
    fixing = job.mast.fixing
    steps = [*_footing(job)]
    if fixing != "loft":
        steps.append(
            Step(
                "mast.plumb",
                ("Plumb the tube in two directions at right angles",),
                Quantity(PLUMB_DEG, "deg"),
                ("or better, before any antenna goes on",),
                measure=gauge(None, "deg", 0.0, PLUMB_DEG),
                mend=_shim(job),
            )
        )
        steps += _guyed(job)
        if fixing != "pole" or job.mast.guys:
            steps.append(_tight(job))
    weights = {w.name: w.kg for w in answer.weights}
    for antenna in job.antennas:
        kg = weights.get(antenna.name, 0.0)
        steps.append(_on_the_ground(antenna))
        lift: Phrase = (
            (f"; a lift for {math.ceil(kg / LIFT_ALONE_KG)}, ", Quantity(kg, "kg", 0))
            if kg > LIFT_ALONE_KG
            else ()
        )
        steps.append(
            Step(
                f"mast.{antenna.id}",
                (f"Hang {antenna.name}",),
                Quantity(antenna.on_mast_m, "m", 2),
                ("above the upper bracket; lock bolts loose, fine screws in the middle", *lift),
            )
        )
    return steps


def _guyed(job: Job) -> list[Step]:
    """Guys, once the tube stands upright."""
    mast = job.mast
    if not mast.guys:
        return []
    turn = 360 / mast.guys
    return [
        Step(
            "mast.guys",
            (f"Set {mast.guys} anchors and tie the guys",),
            Quantity(mast.guy_m, "m", 2),
            (
                "above the upper bracket; anchored ",
                Quantity(mast.guy_out_m, "m"),
                " away, every ",
                Quantity(turn, "deg", 0),
                " round. Draw them by turns, and look at the plumb line after each.",
            ),
        )
    ]


def _on_the_ground(antenna: Antenna) -> Step:
    """What is put together before it is carried up."""
    key = f"mast.{antenna.id}.ground"
    if antenna.kind == "array":
        return Step(
            key,
            (f"Unfold {antenna.name} on the ground",),
            hint=("Elements straight and locked, the lead on, its boot before the connector.",),
        )
    return Step(
        key,
        (f"Put {antenna.name} together on the ground",),
        hint=(
            "Gloves: reflector and plates have sharp edges. Horn toward the reflector, its key seated, the tilt's pointer at its mark; "
            "everything snug, nothing tight yet.",
        ),
    )


def _tight(job: Job) -> Step:
    """Every fastener of the mount, once the tube stands upright and before anything hangs on it."""
    mast, at = job.mast, "mast.tight"
    torque = mast.bolt_torque_nm or anchor(mast).torque_nm or None
    found = {
        "chimney": (("upper", "upper strap"), ("lower", "lower strap")),
        "roof": (("foot", "bolts of the foot"),),
        "jpole": (("foot", "bolts of the foot plate"),),
        "pole": (),
        "ballast": (("foot", "the tube's clamp in the foot"),),
    }.get(
        mast.fixing,
        (
            ("upper", "bolts of the upper bracket"),
            ("lower", "bolts of the lower bracket"),
            ("clamps", "the tube's clamps"),
        ),
    )
    things = [
        thing(
            job,
            at,
            key,
            name=(name,),
            good=("tight",),
            states=FASTENER,
            torque_nm=torque if name.startswith("bolts") else None,
        )
        for key, name in found
    ]
    if mast.guys:
        things.append(
            thing(
                job,
                at,
                "guys",
                name=(f"{mast.guys} guys, even all round",),
                good=("tight",),
                states=FASTENER,
            )
        )
    hint: Phrase = ("Even on both sides, by turns; nothing cracks, nothing is crushed.",)
    if torque and any(t.torque for t in things):
        own = (
            "by its own sheet"
            if mast.bolt_torque_nm
            else "typical of such an anchor; its own sheet leads"
        )
        hint = (*hint, " ", Quantity(torque, "nm", 0), f" at a bolt, {own}.")
    return Step(at, ("Tighten the mount",), hint=hint, things=tuple(things))


def _shim(job: Job) -> Phrase:
    """What puts a tube upright that was read to lean."""
    read = next((m.value for m in job.marks if m.step == "mast.plumb"), None)
    if not read:
        return ()
    if job.mast.fixing not in BRACKETED:
        return ("Bring it upright at its foot, and read both ways again.",)
    off = Quantity(1000 * job.mast.held_m * math.tan(math.radians(abs(read))), "mm", 1)
    return ("Shim one bracket by ", off, " on the side that it leans to, and read both ways again.")


def _footing(job: Job) -> list[Step]:
    """Everything up to the tube, danger first."""
    mast = job.mast
    ladder = (
        "Ladder and load",
        "Tie the ladder, at 75 degrees, a metre above where you step off. Over 20 kg is a lift for two.",
        "Ladder tied, load agreed",
    )
    brackets = Step(
        "mast.brackets",
        ("Set the brackets apart",),
        Quantity(mast.held_m, "m", 2),
        ("at least ", Quantity(max(mast.length_m / 6, 0.0), "m", 2), " must be held"),
        measure=gauge(None, "m", mast.length_m / 6, mast.length_m),
    )
    if mast.fixing == "loft":
        return [
            Step(
                "mast.foot",
                ("Screw the foot to a joist or a rafter",),
                hint=("Nothing hangs on battens or boards.",),
                danger="Loft",
                danger_text="Tread on joists only. Heat and dust: mask on, come down in time.",
                gate="I stand on joists, the light is good",
            )
        ]
    if mast.fixing == "pole":
        return [
            Step(
                "mast.dig",
                ("Dig the footing",),
                Quantity(mast.buried_m, "m", 2),
                ("deep and ", Quantity(mast.footing_mm, "mm", 0), " across"),
                danger="Cables and pipes in the ground",
                danger_text="Ask the operators for their plans and locate what lies there. Dig by hand near it.",
                gate="What lies in the ground is known",
            ),
            Step(
                "mast.foot",
                ("Pour the concrete and prop the pole upright",),
                hint=(
                    "Let it set for a day at least before anything pulls on it; go on indoors meanwhile.",
                ),
            ),
        ]
    if mast.fixing == "ballast":
        return [
            Step(
                "mast.bears",
                ("Lay mats, set the foot, then lay the ballast on",),
                Quantity(mast.ballast_kg, "kg", 0),
                ("evenly over the foot; nothing is drilled into the roof",),
                danger="The roof and its edge",
                danger_text="Whoever owns the roof says what it bears. Stay two metres from an edge without a rail.",
                gate="The roof bears it, I am away from the edge",
            )
        ]
    if mast.fixing == "chimney":
        return [
            Step(
                "mast.foot",
                ("Lay the straps round sound courses, two of them, with corner plates",),
                Quantity(mast.held_m, "m", 2),
                ("between them; tighten by turns, not so far that brick cracks",),
                danger="A chimney that gives way",
                danger_text="Loose bricks, cracks, lean or one brick's width: nothing is strapped to it.",
                gate="I have looked at it from all four sides: it is sound",
            ),
            _ladder(brackets, ladder),
        ]
    bolt = anchor(mast)
    bolts = Step(
        "mast.bolts",
        ("Drill, and set the middle bolt of each bracket first",),
        Quantity(float(mast.bolts), "count", 0),
        (
            "bolts a bracket, ",
            Quantity(mast.bolt_mm, "mm", 0),
            "; drill ",
            Quantity(bolt.drill_mm, "mm", 1),
            *((", ", Quantity(bolt.depth_mm, "mm", 0), " deep") if bolt.depth_mm else ()),
            ", no nearer to an edge than ",
            Quantity(bolt.edge_mm, "mm", 0),
            f"; {bolt.words}",
        ),
    )
    if mast.fixing == "jpole":
        foot = Step(
            "mast.foot",
            ("Hold the foot plate up, its tube upright, and mark every hole through it",),
            hint=(
                "Into a rafter, a stud or solid wall, never into boards, tiles or render alone. What is pierced "
                "is sealed.",
            ),
        )
        return [behind(HIDDEN, mast.behind), _ladder(foot, ladder), bolts]
    if mast.fixing in BRACKETED:
        foot = Step(
            "mast.foot",
            ("Hold the brackets up, level, one straight over the other",),
            hint=(
                "Into solid brick, concrete or the middle of the beam; never mortar or render alone.",
            ),
        )
        return [behind(HIDDEN, mast.behind), _ladder(foot, ladder), bolts, brackets]
    foot = Step(
        "mast.foot",
        ("Find the rafter and set the foot on the middle of it",),
        hint=("Never on battens or tiles alone. Lift the tile, seal what you pierce.",),
        danger="Edge of the roof",
        danger_text="Clip on before you leave the ladder. Roof ladder over tiles.",
        gate="I am clipped on, the ladder is tied",
    )
    return [foot, bolts, brackets]


def _ladder(step: Step, words: tuple[str, str, str]) -> Step:
    """The step with the ladder's gate before it."""
    return replace(step, danger=words[0], danger_text=words[1], gate=words[2])


def _rig(job: Job) -> list[Step]:
    """A tripod or a vehicle's roof, before its dish turns. Common practice, no source."""
    if job.rig.kind == "none":
        return []
    level = LEVEL_DEG if job.rig.kind == "vehicle" else TRIPOD_LEVEL_DEG
    found = [
        Step(
            key="rig.level",
            title=(
                "Level the base"
                if job.rig.kind == "vehicle"
                else "Level the tripod and load its legs",
            ),
            figure=Quantity(level, "deg"),
            hint=("or better, in two directions",),
            danger="Wind" if job.rig.kind == "tripod" else "Moving reflector",
            danger_text="A dish that falls hurts: weigh the tripod down and keep children away."
            if job.rig.kind == "tripod"
            else "Nobody on the roof, no hand and no cable under the reflector while it turns.",
            gate="It is weighed down" if job.rig.kind == "tripod" else "The roof is free",
            measure=gauge(job.rig.base_level_deg, "deg", 0.0, level),
        )
    ]
    if job.rig.kind == "vehicle":
        found += [
            Step(
                "rig.circle",
                ("Nothing higher than this inside the clear circle",),
                Quantity(HIGHEST_MM, "mm", 0),
                (
                    "within ",
                    Quantity(CIRCLE_MM, "mm", 0),
                    " of the base; what unfolds near by counts as it stands then",
                ),
            ),
            Step(
                "rig.place",
                ("Front mark to the front, on or parallel to the centre line; trace the base",),
                Quantity(GAP_MM, "mm", 1),
                ("is the most that may gape under it",),
                measure=gauge(job.rig.gap_mm, "mm", 0.0, GAP_MM),
            ),
            Step(
                "rig.bead",
                ("Lay an unbroken bead of sealant along the trace, then all screws",),
                hint=(
                    "A thin roof wants a plate under it. Seal the edge and every screw's head: what is in the "
                    "base must stay dry. Old holes are sealed, too.",
                ),
            ),
            Step(
                "rig.cable",
                ("Clamp the cable clear of the moving parts",),
                Quantity(TIE_MM, "mm", 0),
                (
                    "from the connectors, just below the tie: elsewhere it stops the turn; not too tight. The hole sealed.",
                ),
            ),
            Step(
                "rig.reflector",
                ("Bolt the reflector on with the arms upright",),
                hint=("Power off. Nothing under it, and nothing bent.",),
            ),
            Step(
                "rig.deploy",
                ("Deploy, and watch the first full turn",),
                hint=("Stop at any touch. The first search takes longer than those after it.",),
            ),
        ]
    return found
