"""Gain: turned up or down, added, moved to the antenna, or less of it."""

from __future__ import annotations

import math
from collections.abc import Iterator

from .....fixes.engine import CandidateChange
from .....fixes.registry import may_cure
from .....network import edits
from .....units.quantities import Phrase, Quantity
from ...powering import with_power
from ..front_end import JUMPER_M
from ..surroundings import Surroundings, inserted, made, replaced

STEPS_DB = (3.0, 6.0, 10.0, 15.0)


@may_cure("level-low", "margin", "input-low")
def turned_up(at: Surroundings) -> Iterator[CandidateChange]:
    """A knob turned up."""
    yield from _turned(at, up=True)


@may_cure("level-high", "overload", "input-high", "distortion", "overload-supposed", "echo")
def turned_down(at: Surroundings) -> Iterator[CandidateChange]:
    """A knob turned down."""
    yield from _turned(at, up=False)


def _turned(at: Surroundings, *, up: bool) -> Iterator[CandidateChange]:
    """A knob turned: amplifiers and attenuators on the way, no further than they go."""
    settings = {p.id: p.setting_db or 0.0 for p in at.job.parts}
    for part in at.parts:
        kind = at.kind(part)
        if not kind.setting:
            continue
        now = settings.get(part, 0.0)
        for step in sorted({math.ceil(max(at.excess_db, 1.0)), *STEPS_DB}):
            to = now - step if up else now + step
            if up and 0 < now < step:
                to = 0.0
            if not 0 <= to <= kind.setting_most_db or to == now:
                continue
            words = "Turn up" if up else "Turn down"
            do: Phrase = (f"{words} {at.name(part)} by ", Quantity(abs(to - now), "db", 0))
            yield CandidateChange(
                f"turn {part} {to:g}",
                f"turn {part}",
                do=do,
                job=edits.with_setting(at.job, part, to),
                cost=0.1 + step / 100,
            )


@may_cure("setting-range")
def turned_to_its_end(at: Surroundings) -> Iterator[CandidateChange]:
    """A knob that is set further than it goes, at its end."""
    if at.problem.ref in at.types:
        most = at.kind(at.problem.ref).setting_most_db
        yield CandidateChange(
            "most",
            "most",
            do=(f"Set {at.name(at.problem.ref)} to ", Quantity(most, "db", 0)),
            job=edits.with_setting(at.job, at.problem.ref, most),
            cost=0.1,
        )


@may_cure("level-low", "margin", "input-low")
def amplified(at: Surroundings) -> Iterator[CandidateChange]:
    """Gain where the level is still high: at the antenna, or in a cable of the way that all share."""
    head = at.parts[0] if at.parts else None
    for key, kind in at.catalogue.parts.items():
        if kind.draws_as == "amplifier" and kind.inputs == kind.outputs == 1:
            for link in at.shared[-4:]:
                yield from inserted(at, key, link, cost=6.0, setting=None)
                if kind.setting:
                    half = min(kind.setting_most_db, 10.0)
                    yield from inserted(at, key, link, cost=6.1, setting=half)
        if (
            kind.draws_as == "preamplifier"
            and head
            and at.kind(head).draws_as == "antenna"
            and at.way
        ):
            for job in made(at, key, at.way[-1], None):
                new = job.parts[-1].id
                fed = with_power(at.ctx.with_job(job), new, "inserter-12")
                yield CandidateChange(
                    f"preamp {key}",
                    "amplify",
                    do=(f"Fit a {kind.name} at the antenna, with its inserter",),
                    job=fed,
                    cost=7.0,
                )


@may_cure("amp-late")
def to_the_antenna(at: Surroundings) -> Iterator[CandidateChange]:
    """A preamplifier hung under its antenna, fed where nothing feeds it yet; or a cable ahead of it
    that loses less."""
    part = at.problem.ref
    if part not in at.types:
        return
    kind, head = at.kind(part), at.parts[0]
    setting = at.ctx.parts[part].setting_db
    bare = edits.remove(at.ctx, part)
    job, new = edits.add_after(
        at.ctx.with_job(bare),
        head,
        type_key=kind.key,
        cable="rg6",
        length_m=JUMPER_M,
        port=0,
    )
    if setting:
        job = edits.with_setting(job, new, setting)
    for key in ("inserter-12", "inserter-18"):
        if key in at.catalogue.parts:
            fed = with_power(at.ctx.with_job(job), new, key)
            words = (
                ""
                if len(fed.parts) == len(job.parts)
                else f", with a {at.catalogue.parts[key].name}"
            )
            yield CandidateChange(
                f"move {part} {key}",
                f"move {part}",
                do=(f"Hang {at.name(part)} under {at.name(head)}{words}",),
                job=fed,
                cost=2.0,
            )


@may_cure("level-high", "overload", "input-high", "distortion", "overload-supposed")
def less_gain(at: Surroundings) -> Iterator[CandidateChange]:
    """Another amplifier of the same use in place of one on the way, or none."""
    for part in at.parts:
        kind = at.kind(part)
        if kind.draws_as not in ("preamplifier", "amplifier"):
            continue
        for key, other in at.catalogue.parts.items():
            if other.draws_as == kind.draws_as and key != kind.key:
                yield from replaced(at, part, key, 4.0)
        if kind.inputs == kind.outputs == 1:
            job = edits.remove(at.ctx, part)
            yield CandidateChange(
                f"without {part}",
                f"without {part}",
                do=(f"Take {at.name(part)} out",),
                job=job,
                cost=1.0,
            )
