"""The order of the work over all stations, and what holds a step: a gate that nobody has confirmed, or a
stop. A gate holds everything behind it until someone says what was seen; a stop has no tick, it ends
when the facts change."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from ..job import Job
from ..job.measured import OVERHEAD
from ..units.quantities import Gauge, InputError, Phrase, Step, gauge, text_of
from .earth.answer import EarthAnswer

# What is put up stands, is fixed and is earthed before it is aimed.
ORDER = ("site", "sky", "mast", "earth", "aim", "coax", "readings", "handover")


def gated(steps: Mapping[str, list[Step]], job: Job, earth: EarthAnswer) -> dict[str, list[Step]]:
    """The steps in the order of the work, each with the gate that holds it."""
    confirmed = {m.step for m in job.marks if m.danger_read}
    stop = _stop(earth)
    holds: str | None = None
    found: dict[str, list[Step]] = {}
    for station in ORDER:
        rows = []
        for step in steps[station]:
            if step.key == OVERHEAD and stop:
                step = replace(step, stop=stop)
            rows.append(replace(step, held_by=holds))
            shut = step.danger and (step.key not in confirmed or step.stop)
            holds = holds or (step.key if shut else None)
        found[station] = rows
    return found


def _stop(earth: EarthAnswer) -> Phrase:
    """Why nothing may go up at all; empty where it may."""
    danger = next((p for p in earth.problems if p.code == "overhead" and p.state == "fail"), None)
    return () if danger is None else (*danger.title, ". ", *danger.remedy)


def check_free(step: Step, steps: Mapping[str, Step], job: Job) -> None:
    """Raise InputError where a step may not be called done now: a stop stands, a gate before it or its own
    is not confirmed."""
    if step.stop:
        raise _stopped(step)
    if step.held_by is not None and step.held_by in steps:
        gate = steps[step.held_by]
        if gate.stop:
            raise _stopped(gate)
        raise InputError(
            "Gate",
            f"“{text_of(gate.title)}” comes before it, and nobody has confirmed that.",
            f"Look, and confirm it there: {gate.gate}.",
            "gate-shut",
        )
    if step.danger and not any(m.step == step.key and m.danger_read for m in job.marks):
        raise InputError(
            "Danger",
            f"“{step.danger}” is not confirmed.",
            "Read it and tick it first.",
            "danger-unread",
        )
    done = {m.step for m in job.marks if m.at}
    before = next((steps[k] for k in step.needs if k in steps and k not in done), None)
    if before is not None:
        raise InputError(
            "Step",
            f"“{text_of(before.title)}” comes before it.",
            "Do it first, or leave it there and say why.",
            "step-first",
        )


def check_reading(step: Step, value: float | None, why: str) -> None:
    """Raise InputError where a step is called done though what was read in it is out of its limits, and
    nobody says why it is left so."""
    wanted = step.measure
    if wanted is None or value is None or why or step.finds:
        return
    if judged(wanted, value).state == "fail":
        raise InputError(
            "It reads",
            "it is out of what the step asks for.",
            "Put it right and read again, or leave the step and say why.",
            "reading-out",
        )


def judged(wanted: Gauge, value: float) -> Gauge:
    """A reading against what its step asks for; a bearing the short way round."""
    if (
        wanted.unit in ("deg_true", "deg_mag")
        and wanted.low is not None
        and wanted.high is not None
    ):
        middle = (wanted.low + wanted.high) / 2
        value = middle + (value - middle + 180) % 360 - 180
    return gauge(value, wanted.unit, wanted.low, wanted.high)


def check_confirm(step: Step, steps: Mapping[str, Step], job: Job, who: str) -> None:
    """Raise InputError where a gate cannot be confirmed now."""
    if step.stop:
        raise _stopped(step)
    if step.held_by is not None and step.held_by in steps:
        check_free(step, {step.held_by: steps[step.held_by]}, job)
    lines = job.earth.overhead_lines
    if step.key == OVERHEAD and (
        lines == "unknown" or (lines == "near" and job.earth.line_distance_m is None)
    ):
        raise InputError(
            "Overhead lines",
            "it is not said whether there are any.",
            "Say at Earth what you saw: none, or how far away and of what voltage.",
            "overhead-unsaid",
        )
    if not who.strip():
        raise InputError(
            "Who",
            "a gate wants the name of who looked.",
            "Type your name; this device keeps it.",
            "who-missing",
        )


def check_reopen(step: Step, steps: Mapping[str, Step], job: Job) -> None:
    """Raise InputError where a gate cannot be taken back, because what stands behind it is done."""
    done = {m.step for m in job.marks if m.at}
    keys = list(steps)
    behind = [k for k in keys[keys.index(step.key) :] if k in done]
    if behind:
        raise InputError(
            "Gate",
            f"“{text_of(steps[behind[-1]].title)}” behind it is done.",
            "Take back what is done behind it first.",
            "gate-behind-done",
        )


def _stopped(step: Step) -> InputError:
    return InputError(
        "Stop",
        text_of(step.stop),
        "Only changed facts end it: another place, or the line made dead by its operator.",
        "stop",
    )
