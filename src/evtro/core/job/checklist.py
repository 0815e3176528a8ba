"""What is looked at thing by thing at a step: a fastener loose, snug or tight, a line of the kit there or not."""

from __future__ import annotations

from collections.abc import Mapping

from ..units.quantities import (
    Gauge,
    InputError,
    InspectionItem,
    Phrase,
    SeenState,
    Step,
    gauge,
    text_of,
)
from . import Job, ThingSeen
from .edits import add_row, change_row, new_id

FASTENER: tuple[SeenState, ...] = ("loose", "snug", "tight")
KIT: tuple[SeenState, ...] = ("there", "damaged", "missing", "wrong")
GRIP_SHARE = 0.15  # how far a torque may lie from what is asked: a wrench's own error, and the hand's (practice)


def thing(
    job: Job,
    step: str,
    key: str,
    *,
    name: Phrase,
    good: tuple[SeenState, ...],
    states: tuple[SeenState, ...],
    torque_nm: float | None = None,
) -> InspectionItem:
    """One thing of a step as it was last seen there."""
    seen = next((s for s in job.seen if s.step == step and s.thing == key), None)
    asked = None
    if torque_nm is not None:
        low, high = torque_nm * (1 - GRIP_SHARE), torque_nm * (1 + GRIP_SHARE)
        asked = gauge(None if seen is None else seen.torque_nm, "nm", low, high)
    return InspectionItem(
        key=key,
        name=name,
        good=good,
        states=states,
        state=None if seen is None else seen.state,
        torque=asked,
        note="" if seen is None else seen.note,
    )


def as_seen(job: Job, step: Step) -> tuple[InspectionItem, ...]:
    """The things of a step as the job has seen them by now."""
    return tuple(
        thing(
            job,
            step.key,
            t.key,
            name=t.name,
            good=t.good,
            states=t.states,
            torque_nm=None if t.torque is None else _middle(t.torque),
        )
        for t in step.things
    )


def _middle(torque: Gauge) -> float:
    return ((torque.low or 0.0) + (torque.high or 0.0)) / 2


def is_good(one: InspectionItem) -> bool:
    """Whether a thing was seen as its step asks; a torque that was read must be right, one that was not read
    is not held against it."""
    fits = one.torque is None or one.torque.state in ("ok", "unknown")
    return one.state in one.good and (fits or one.state != "tight")


def check_things(things: tuple[InspectionItem, ...]) -> None:
    """Raise InputError where a step is called done though one of its things is not as it asks."""
    left = [t for t in things if not is_good(t)]
    if not left:
        return
    first = left[0]
    said = "nobody has looked" if first.state is None else f"it is {first.state}"
    if first.state in first.good:
        said = "its torque is not right"
    more = f", and {len(left) - 1} more" if len(left) > 1 else ""
    raise InputError(
        text_of(first.name)[:80],
        f"{said}; asked is {' or '.join(first.good)}{more}.",
        "Look at each and say how it is, or leave the step and say why.",
        "thing-open",
    )


def saw(
    job: Job,
    step: str,
    things: Mapping[str, InspectionItem],
    *,
    found: Mapping[str, Mapping[str, object]],
    who: str,
    now: str,
) -> Job:
    """The job with what was seen of some things. Raises InputError for one that the step does not have."""
    for key, said in found.items():
        one = things.get(key)
        if one is None or said["state"] not in one.states:
            raise InputError(
                "Thing", f"{key} is not looked at in this step.", "Reload the job.", "row-missing"
            )
        values = {**said, "seen_by": who, "at": now}
        old = next((s for s in job.seen if s.step == step and s.thing == key), None)
        if old is not None:
            job = change_row(job, "seen", old.id, values)
        else:
            row = ThingSeen.model_validate(
                {"id": new_id(job, "seen"), "step": step, "thing": key, **values}
            )
            job = add_row(job, "seen", row)
    return job
