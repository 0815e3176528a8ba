"""The work to carry out at every station, in order, with the plan's figures filled in.

Where work can hurt someone the danger stands before the step and has a gate of its own.
Orders and habits are common practice with no published source.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..job import Job, TaskRecord
from ..job.checklist import thing
from ..job.context import JobContext, JobParts
from ..units.phrases import say
from ..units.quantities import InspectionItem, Quantity, Step, gauge
from ..units.severity import FAIL
from .aim.answer import AimAnswer
from .aim.steps import aim_steps
from .coax.checks.company_line import NOISE_MOST_DBUV, WATCH_S
from .coax.drilling import clip_steps, hole_steps, pull_words
from .coax.routes import SLACK_M, told
from .coax.views.answer import CoaxAnswer
from .earth.answer import EarthAnswer
from .kit.kit import Need, arrival, kit_of
from .mast.answer import MastAnswer
from .mast.steps import HIDDEN, drills, mast_steps
from .readings.answer import ReadingsAnswer
from .times import timed
from .work import gated, judged

CONSENT = "site.consent"


def steps_of(
    ctx: JobContext,
    *,
    aim: AimAnswer,
    mast: MastAnswer,
    earth: EarthAnswer,
    coax: CoaxAnswer,
    readings: ReadingsAnswer,
) -> dict[str, list[Step]]:
    """Steps by station, in the order of the work. A key stays the same as long as its thing exists, so that
    ticks stay."""
    job = ctx.job
    marks = {m.step: m for m in job.marks}
    found = {
        "site": _site(job, earth, kit_of(ctx, coax, earth).needs),
        "sky": _sky(job),
        "aim": aim_steps(job, aim),
        "mast": mast_steps(job, mast),
        "earth": _earth(job, earth),
        "coax": _coax(ctx, coax),
        "readings": _readings(readings),
        "handover": _handover(job, coax),
    }
    turn = aim.declination_deg
    read = {
        key: [_read(step, marks.get(step.key), turn) for step in rows]
        for key, rows in found.items()
    }
    return gated(timed(read, job, mast.weights), job, earth)


def _read(step: Step, mark: TaskRecord | None, declination_deg: float | None) -> Step:
    """The step with what was measured judged against its target, by the north that it was read from."""
    if step.measure is None or mark is None or mark.value is None:
        return step
    value, north = mark.value, (mark.unit, step.measure.unit)
    if north == ("deg_true", "deg_mag"):
        value = (value - (declination_deg or 0.0)) % 360
    elif north == ("deg_mag", "deg_true"):
        value = (value + (declination_deg or 0.0)) % 360
    return replace(step, measure=judged(step.measure, value))


def _site(job: Job, earth: EarthAnswer, needs: list[Need]) -> list[Step]:
    steps = (
        []
        if job.mast.fixing == "loft" and job.rig.kind == "none"
        else [
            Step(
                key="site.overhead",
                title=("Look for overhead lines round the whole place",),
                figure=Quantity(earth.overhead.low or 0.0, "m"),
                hint=(
                    "Least distance from the mast's foot, so that it may fall. Say above what you saw.",
                ),
                danger="Overhead lines kill",
                danger_text="Nothing goes up, no ladder and no tube, before you have looked all round.",
                gate="I have looked all round",
            )
        ]
    )
    kit = Step(
        "site.kit",
        ("Check the kit against its list: complete, undamaged, the right variant",),
        hint=(
            "spare bolts and connectors with it; what is damaged, missing or another variant is said here",
        ),
        things=arrival(job, needs),
    )
    if job.rig.kind != "none":
        return [*steps, kit]  # set up for a while: no owner's leave, no walls, no entry
    had = any(m.step == CONSENT and m.at for m in job.marks)
    if had or job.site.consent not in ("given", "not_needed"):
        steps.append(
            Step(
                CONSENT,
                ("Have the leave of owner or association",),
                hint=("Planning and heritage rules are local; they have the last word.",),
            )
        )
    return [
        *steps,
        Step(
            "site.outlets",
            ("Walk to every outlet and agree its place",),
            Quantity(float(len(job.outlets)), "count", 0),
            ("outlets in the plan",),
        ),
        Step(
            "site.entry",
            ("Mark the cable entry",),
            Quantity(job.site.entry_distance_m, "m"),
            ("from the mount, at ", Quantity(job.site.entry_bearing_deg, "deg_true")),
        ),
        kit,
    ]


GROUND_M = 2.0  # what is not higher is reached from the ground
GUST_MOST_MS = 10.0  # for work at height, gusts counted; common practice, no source
WEATHER = Step(
    "sky.weather", ("Look at the weather before anyone goes up",), Quantity(GUST_MOST_MS, "ms", 0),
    ("is the most, gusts counted. It holds for an hour or two: look again after a break.",),
    danger="Wind, ice, lightning", danger_text="No work at height in gusts, on ice or wet tiles, or when thunder can be heard.",
    gate="Calm, dry, no thunder", measure=gauge(None, "ms", 0.0, GUST_MOST_MS),
)  # fmt: skip


def _sky(job: Job) -> list[Step]:
    stand = Step(
        key="sky.stand",
        title=("Stand where the dish will be, or sight from there",),
        figure=Quantity(job.site.mount_height_m, "m"),
        hint=("above ground",),
    )
    steps = [stand]
    high = job.rig.kind == "none" and job.site.mount_height_m > GROUND_M
    if high and job.mast.fixing != "loft":
        stand = replace(
            stand,
            danger="Edge of the roof",
            danger_text="Clip on before you lean out. Keep people from below.",
            gate="I am clipped on, or on the ground",
        )
        steps = [WEATHER, stand]
    for row in job.obstructions:
        steps.append(
            Step(
                f"sky.{row.id}",
                (f"Measure the top of {row.name}",),
                None if row.top_deg is None else Quantity(row.top_deg, "deg"),
                (
                    "between ",
                    Quantity(row.from_deg, "deg_true", 0),
                    " and ",
                    Quantity(row.to_deg, "deg_true", 0),
                ),
                measure=gauge(None, "deg", (row.top_deg or 0) - 1, (row.top_deg or 0) + 1)
                if row.top_deg is not None
                else None,
                finds=True,
            )
        )
    return steps


def _earth(job: Job, answer: EarthAnswer) -> list[Step]:
    if not any(bond.needed for bond in answer.bonds):
        return []
    steps = [
        Step(
            "earth.mains",
            ("Keep the system apart from mains until it is bonded",),
            danger="Mains",
            danger_text="Work on the mains and on the earth terminal is for licensed people.",
            gate="Nothing is plugged in",
        )
    ]
    for bond in answer.bonds:
        if bond.needed:
            steps.append(
                Step(
                    f"earth.{bond.key}",
                    (f"Join {bond.joins}",),
                    None if bond.length.value is None else Quantity(bond.length.value, "m"),
                    say("{}. Scrape the paint under a serrated washer.", bond.asked),
                    things=_joint(job, f"earth.{bond.key}"),
                )
            )
    return steps


def _joint(job: Job, step: str) -> tuple[InspectionItem, ...]:
    """What shows that a joint conducts, at both of its ends."""
    return tuple(
        thing(job, step, key, name=(name,), good=("there",), states=("there", "missing"))
        for key, name in (
            ("bright", "bright metal under each clamp, the paint scraped"),
            ("washer", "a serrated washer at each"),
            ("cover", "grease or paint over it again, outdoors"),
        )
    )


def _coax(ctx: JobParts, answer: CoaxAnswer) -> list[Step]:
    job = ctx.job
    names = answer.names
    # Where no bracket wanted it before, the first hole is that of the cable.
    steps = [HIDDEN] if job.rig.kind == "none" and not drills(job) else []
    steps += [
        Step(
            key="coax.loop",
            title=(_SLACK_WORDS[job.run_school.slack],),
            figure=Quantity(SLACK_M[job.run_school.slack], "m"),
            hint=("of spare cable; outside connectors booted or taped",),
            danger="Loft and ladder",
            danger_text="Tread on joists only. Come down when it is too hot.",
            gate="I have a safe footing",
        )
    ]
    for link in job.links:
        if link.length_m <= 1.0 or link.to_part not in names or link.from_part not in names:
            continue
        cable = ctx.catalogue.cables.get(link.cable)
        if cable is not None:
            ends = names[link.from_part], names[link.to_part]
            steps += hole_steps(link, cable, ends) if job.rig.kind == "none" else []
            steps.append(
                Step(
                    f"coax.{link.id}",
                    (f"Pull {names[link.from_part]} to {names[link.to_part]}",),
                    Quantity(link.length_m, "m"),
                    (
                        *told(link.route),
                        "; " if link.route else "",
                        f"{cable.short}; label both ends; bend no tighter than ",
                        Quantity(cable.bend_radius_mm, "mm", 0),
                        pull_words(link),
                    ),
                )
            )
            steps += clip_steps(link, f"{ends[0]} to {ends[1]}") if job.rig.kind == "none" else []
    steps += _company(job)
    steps.append(
        Step(
            "coax.connectors",
            ("Make the connectors: no strand of braid on the pin, dielectric flush",),
            Quantity(PIN_MM, "mm", 0),
            ("of the pin stands out; ", _TIGHTEN[_tightened(job)]),
        )
    )
    caps = sum(p.type == "terminator" for p in job.parts)
    caps += sum(p.code == "open-port" for p in answer.problems)
    if job.run_school.open_ports == "left" or not caps:
        return steps
    steps.append(
        Step(
            "coax.caps",
            ("Cap every unused port with 75 ohm",),
            Quantity(float(caps), "count", 0),
            ("to cap, by the plan; none is left open",),
        )
    )
    return steps


# Schools of the run, each as its step says it.
_SLACK_WORDS = {
    "loop": "Leave a service loop at the antenna and a drip loop at the entry",
    "short": "Cut the cable as short as it goes, with a drip loop at the entry",
    "coil": "Leave the rest as a coil at the antenna for now, and a drip loop at the entry",
}
_TIGHTEN = {
    "spanner": "tighten with a spanner until it does not turn, no further",
    "fingers": "with fingers only: it is taken off again",
}
PIN_MM = 3.0  # common practice, no source


def _tightened(job: Job) -> str:
    """What connectors are tightened with: outdoors and for good with a spanner, portable with fingers."""
    if job.run_school.connectors != "by_place":
        return job.run_school.connectors
    return "spanner" if job.rig.kind == "none" else "fingers"


def _company(job: Job) -> list[Step]:
    """The cable company's line, before anything of the house's own is joined."""
    company = job.company
    if company.plan == "none":
        return []
    steps = [
        Step(
            "coax.company-lines",
            ("Prove which line is which, and label both ends",),
            hint=("Cap one end with 75 ohm and measure the loop, or send a tone.",),
        )
    ]
    if company.plan == "leave":
        steps.append(
            Step(
                "coax.company-off",
                ("Unplug the company's line at the grounding block and cap it",),
                hint=("Its earth stays on. Ask before the box outside is opened.",),
                danger="Never back into the company's line",
                danger_text="An antenna or amplifier on it disturbs the whole street.",
                gate="The company's line is off and capped",
            )
        )
        return steps
    return [
        *steps,
        Step(
            "coax.company-noise",
            ("Watch the return noise for half a minute and note the worst",),
            Quantity(WATCH_S, "count", 0),
            ("seconds, every outlet as it is used",),
            measure=gauge(None, "dbuv", high=NOISE_MOST_DBUV),
        ),
        Step(
            "coax.company-filter",
            ("Fit the high pass on every branch without a modem",),
            hint=("Two networks that never meet: own antenna here, company there.",),
        ),
    ]


def _readings(answer: ReadingsAnswer) -> list[Step]:
    steps = []
    for row in answer.rows:
        planned = min((p for p in row.planned_dbuv if p is not None), default=None)
        if planned is None:
            continue
        steps.append(
            Step(
                f"readings.{row.part}",
                (f"Read {row.name}",),
                Quantity(planned, "dbuv"),
                ("planned on its weakest carrier; write every reading at Plan",),
                measure=gauge(
                    None, "dbuv", planned - answer.tolerance_db, planned + answer.tolerance_db
                ),
            )
        )
    return steps


def _handover(job: Job, coax: CoaxAnswer) -> list[Step]:
    services = {c.id: max(len(c.services), 1) for c in job.carriers}
    weight = np.array(
        [
            services.get(channel.id, 0) if channel.group == "terrestrial" else 0
            for channel in coax.channels
        ]
    )
    counts = [
        int(weight[row.judged.wants[row.index] & (row.judged.rank[row.index] != FAIL)].sum())
        for row in coax.outlets
    ]
    most = max(counts, default=0)
    return [
        Step(
            "handover.scan",
            ("Scan the receivers on antenna, not cable",),
            Quantity(float(most), "count", 0) if most else None,
            ("services at the best outlet; log each scan at Readings, Expected scan",)
            if most
            else ("Note how many services each one finds.",),
        ),
        Step("handover.show", ("Show the customer how it works and what to do when it fails",)),
        Step("handover.sheet", ("Print or send the job sheet",)),
        Step("handover.labels", ("Check labels at both ends of every cable",)),
        *_before_travel(job),
    ]


def _before_travel(job: Job) -> list[Step]:
    if job.rig.kind == "none":
        return []
    lies = "see it lie flat" if job.rig.kind == "vehicle" else "take it down, with its cable"
    return [
        Step(
            "handover.stow",
            (f"Before travel: stow it and {lies}",),
            hint=("Show it to whoever drives.",),
        )
    ]
