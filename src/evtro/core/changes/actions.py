"""What is done to an antenna, at a place or at a step as a whole: the verbs that are no plain change
of a row."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from ..job import Dish, Job, changes
from ..job.checklist import as_seen, check_things, saw
from ..job.context import JobContext
from ..job.edits import change_row, set_mark
from ..job.measured import check_read
from ..job.own_limits import limit_lines, with_limit
from ..job.profile import Profile
from ..job.references import missing
from ..job.registry import registry
from ..stations.aim.answer import work_out as aimed
from ..stations.aim.dish.detail import learned_zero
from ..stations.coax.fixes.front_end import with_front
from ..stations.sky.answer import work_out as surveyed
from ..stations.steps import CONSENT
from ..stations.work import check_confirm, check_free, check_reading, check_reopen
from ..units.quantities import InputError, Step, Unit
from .antennas import array_of, second_antenna, stand_at, take_antenna
from .lines import company_carriers
from .typed import Reader

ACTION_WORDS = {
    "model": "choose the antenna", "front": "change the front end",
    "second": "add a second antenna", "stand": "take the spot",
    "learn-scale": "learn the scale's zero", "learn-compass": "learn the compass's error",
    "arrive": "set up at the next stop", "tick": "mark step", "line": "put the company's carriers on its line",
    "limit": "change a limit",
}  # fmt: skip

LONGEST_WAIT_S = 120 * 86_400.0


def acted(ctx: JobContext, action: changes.Action, *, reader: Reader) -> Job:
    """The job with something done as a whole; a step is ticked by `ticked`. Raises InputError."""
    job, profile = ctx.job, ctx.profile
    if isinstance(action, changes.Model):
        return take_antenna(ctx, action.array, action.key)
    if isinstance(action, changes.Front):
        array_of(job, action.array)
        return with_front(ctx, action.array, action.key)
    if isinstance(action, changes.Second):
        first = reader.bearing("Heading of the first", action.first_deg, "deg_true")
        second = reader.bearing("Heading of the second", action.second_deg, "deg_true")
        return second_antenna(ctx, antenna_id=action.array, first_deg=first, second_deg=second)
    if isinstance(action, changes.Stand):
        return stand_at(job, action.spot)
    if isinstance(action, changes.LearnScale):
        return _learn_scale(job, action, profile, reader)
    if isinstance(action, changes.LearnCompass):
        return _learn_compass(job, action, profile, reader)
    if isinstance(action, changes.Anew):
        return _anew(job, action)
    if isinstance(action, changes.PutOnLine):
        return company_carriers(job, action, reader)
    if isinstance(action, changes.OwnLimit):
        return _own_limit(job, action, profile, reader)
    assert isinstance(action, changes.Arrive)
    return _arrived(job, action.stop)


def _own_limit(job: Job, action: changes.OwnLimit, profile: Profile, reader: Reader) -> Job:
    line = next((one for one in limit_lines(job, profile) if one.field == action.field), None)
    text = action.value
    if isinstance(text, str) and not text.strip():
        return with_limit(job, profile, action.field, None)
    value = (
        text
        if not isinstance(text, str)
        else reader.typed(line.title if line else "Limit", text, unit=line.unit if line else "db")
    )
    return with_limit(job, profile, action.field, value)


def ticked(
    job: Job, tick: changes.Tick, steps: Mapping[str, Step], now: str, *, reader: Reader
) -> Job:
    """The job with a step ticked or left, its danger confirmed, what was measured kept. What waited on a
    device counts from when it was done. Raises InputError, also for a danger that nobody confirmed."""
    now = when(now, tick.waited_s)
    step = steps.get(tick.step)
    if step is None:
        raise InputError(
            "Step", f"{tick.step} is not a step of this job.", "Reload the job.", "row-missing"
        )
    values: dict[str, Any] = {} if tick.note is None else {"note": tick.note}
    who = (tick.by or "").strip()
    if tick.danger_read is not None:
        if tick.danger_read:
            check_confirm(step, steps, job, who)
        else:
            check_reopen(step, steps, job)
        values |= {"danger_read": tick.danger_read}
        values |= {
            "confirmed_by": who if tick.danger_read else "",
            "confirmed_at": now if tick.danger_read else "",
        }
        job = set_mark(job, tick.step, values)
    if "value" in tick.model_fields_set:
        unit: Unit = step.measure.unit if step.measure is not None else "count"
        empty = tick.value is None or not str(tick.value).strip()
        values["value"] = None if empty else reader.typed("It reads", str(tick.value), unit=unit)
        values["unit"] = "" if empty else unit
    if "minutes" in tick.model_fields_set:
        values["minutes"] = _minutes(tick.minutes, reader)
    if tick.seen:
        job = _saw(job, tick, step, now=now, who=who, reader=reader)
        step = replace(step, things=as_seen(job, step))
    if tick.done is not None:
        values |= _done(job, tick, step, steps, now=now, read=values)
        if tick.step == CONSENT and tick.done and job.site.consent in ("unasked", "asked"):
            # What is asked at the door is the consent that Site tells of.
            job = job.model_copy(update={"site": job.site.model_copy(update={"consent": "given"})})
    marked = set_mark(job, tick.step, values)
    if values.get("value") is not None:
        check_read(marked)
    return marked


def _minutes(text: float | str | None, reader: Reader) -> float | None:
    if text is None or not str(text).strip():
        return None
    return reader.figure(registry(Job).kind("marks"), "minutes", str(text))


def _saw(job: Job, tick: changes.Tick, step: Step, *, now: str, who: str, reader: Reader) -> Job:
    found: dict[str, dict[str, object]] = {}
    for key, one in tick.seen.items():
        found[key] = {"state": one.state, "note": one.note}
        if one.torque_nm is not None:
            blank = not str(one.torque_nm).strip()
            found[key]["torque_nm"] = (
                None if blank else reader.typed("Tightened with", str(one.torque_nm), unit="nm")
            )
    return saw(job, tick.step, {t.key: t for t in step.things}, found=found, who=who, now=now)


def when(now: str, waited_s: float) -> str:
    """The moment that is as long ago as a device says by its own clock, which need not be right."""
    if not waited_s:
        return now
    ago = dt.timedelta(seconds=min(waited_s, LONGEST_WAIT_S))
    return (dt.datetime.fromisoformat(now) - ago).isoformat(" ", "minutes")


def _done(
    job: Job,
    tick: changes.Tick,
    step: Step,
    steps: Mapping[str, Step],
    *,
    now: str,
    read: dict[str, Any],
) -> dict[str, Any]:
    """What a mark says of a step that is done, left, or open again. Raises InputError."""
    if not tick.done:
        return {"at": "", "done_by": "", "left_why": ""}
    check_free(step, steps, job)
    if not (tick.left or "").strip():
        check_things(step.things)
    if tick.step == CONSENT and job.site.consent == "refused":
        raise InputError(
            "Leave",
            "it was refused, as Site says.",
            "Say at Site that it is given now, and by whom.",
            "consent-refused",
        )
    why = (tick.left or "").strip()
    old = next((m for m in job.marks if m.step == tick.step), None)
    check_reading(step, read.get("value", old.value if old else None), why)
    # Done twice, by two phones, it was done when it was done first.
    first = old is not None and old.at and bool(old.left_why) == bool(why)
    return {
        "at": min(old.at, now) if old is not None and first else now,
        "done_by": (old.done_by if old is not None and first else "") or (tick.by or "").strip(),
        "left_why": why,
    }


def _dish(job: Job, key: str) -> Dish:
    found = next((d for d in job.dishes if d.id == key), None)
    if found is None:
        raise missing(registry(Job).kind("dishes"), key)
    return found


def _learn_scale(job: Job, action: changes.LearnScale, profile: Profile, reader: Reader) -> Job:
    dish = _dish(job, action.dish)
    aims = aimed(job, surveyed(job, profile)).aims
    aim = next((a for a in aims if a.antenna == dish.id), None)
    if aim is None:
        raise InputError(
            "Target", "this dish looks at no satellite yet.", "Choose one first.", "no-target"
        )
    reads = reader.typed("The tool reads", str(action.reads), unit="deg")
    zero = learned_zero(dish, aim.elevation_deg, reads)
    if abs(zero) > 30:
        raise InputError(
            "The tool reads",
            f"that would be {zero:+.1f}° off.",
            "Check where it is laid and that this satellite is the right one.",
            "too-large",
        )
    values = {"scale_zero_deg": round(zero, 3)}
    if dish.scale_zero_deg != 0 or dish.zero_before_deg is not None:
        values["zero_before_deg"] = dish.scale_zero_deg
    return change_row(job, "dishes", dish.id, values)


def _learn_compass(job: Job, action: changes.LearnCompass, profile: Profile, reader: Reader) -> Job:
    dish = _dish(job, action.dish)
    turn = aimed(job, surveyed(job, profile)).declination_deg
    if turn is None:
        raise InputError(
            "The compass reads",
            "the declination is not known here.",
            "Type the position at Site and a date within the model first.",
            "no-place",
        )
    known = reader.bearing("Known bearing", action.bearing, "deg_true")
    reads = reader.bearing("The compass reads", action.reads, "deg_mag")
    off = (reads - (known - turn) + 180) % 360 - 180
    if abs(off) > 60:
        raise InputError(
            "The compass reads",
            f"that would be {off:+.1f}° off.",
            "Check which end of the needle was read, and that the bearing is the right one.",
            "too-large",
        )
    return change_row(job, "dishes", dish.id, {"compass_off_deg": round(off, 2)})


def _anew(job: Job, action: changes.Anew) -> Job:
    dish = _dish(job, action.dish)
    feed = action.target or dish.target

    def goes(sample: Any) -> bool:
        own = sample.target or dish.target or feed
        return (sample.antenna, sample.axis, own) == (dish.id, action.axis, feed)

    return job.model_copy(update={"samples": tuple(s for s in job.samples if not goes(s))})


def _arrived(job: Job, key: str) -> Job:
    stop = next((s for s in job.stops if s.id == key), None)
    if stop is None:
        raise missing(registry(Job).kind("stops"), key)
    site = job.site.model_copy(
        update={
            "position_text": stop.position_text,
            "latitude_deg": stop.latitude_deg,
            "longitude_deg": stop.longitude_deg,
            "height_m": stop.height_m,
            "position_good_m": None,
        }
    )
    rig = job.rig.model_copy(update={"stop": stop.id, "base_level_deg": None, "stowed": False})
    # At another place nobody has looked yet: no gate of the last one holds here.
    earth = job.earth.model_copy(
        update={
            "overhead_lines": "unknown",
            "line_distance_m": None,
            "line_kv": None,
            "line_operator": "",
            "line_dead_confirmed": "",
        }
    )
    return job.model_copy(
        update={
            "site": site,
            "rig": rig,
            "earth": earth,
            "obstructions": (),
            "samples": (),
            "locks": (),
            "marks": (),
        }
    )
