"""Preamplifier or not, filter or not, attenuator or not: the whole run solved with each, and the
answer with its reason."""

from __future__ import annotations

import math

from ....job import Array, Job, Part
from ....job.context import JobContext, JobParts
from ....job.diff import as_change
from ....job.parts import Catalogue, PartType, part_type
from ....job.paths import BLOCKED_DB
from ....job.profile import Mobile, Profile
from ....network import edits
from ....units.quantities import Gauge, InputError, gauge
from ....units.severity import State
from ...aim.array.terminals import Terminals, terminals
from ..levels.outlets import Solved, outlet_rows, solve_job
from ..levels.ratings import output_limits
from ..powering import supplies_in_use, with_power
from ..sources.unwanted_signals import assumed_dbuv, assumes_mobile, mobile_words
from .front_end_options import FrontEnd, Option, fits, said

JUMPER_M = 0.7  # from the antenna's terminals to what hangs under it; common practice, no source
WORTH_DB = 1.0  # less than this is not worth a part that can fail; common practice, no source


def front_parts(ctx: JobParts, source: Part) -> list[Part]:
    """What hangs in line right behind the antenna before the run is shared: filters,
    preamplifiers, attenuators."""
    found: list[Part] = []
    here = source.id
    while True:
        nexts = [k for k in ctx.job.links if k.from_part == here]
        if len(nexts) != 1:
            return found
        part = edits.find_part(ctx.job, nexts[0].to_part)
        picture = part_type(ctx.catalogue, part).draws_as
        if picture in ("filter", "preamplifier", "attenuator"):
            found.append(part)
        elif picture not in ("arrester", "grounding_block"):
            return found
        if part_type(ctx.catalogue, part).inputs > 1:
            return found
        here = part.id


def with_front(ctx: JobParts, antenna: str, key: str) -> Job:
    """The job with a front end such as `none`, `preamp-13` or `filter-694+preamp-22`: what was
    there goes, the new parts hang right under the antenna in that order; what needs power gets an
    inserter below it where nothing feeds it yet."""
    job, catalogue = ctx.job, ctx.catalogue
    source = next((p for p in job.parts if p.antenna == antenna), None)
    if source is None:
        raise InputError(
            "Front end",
            "this antenna is not in the run yet.",
            "Start the run at it at Coax.",
            "source-missing",
        )
    wanted = [] if key == "none" else key.split("+")
    for name in wanted:
        if name.split(":")[0] not in catalogue.parts:
            raise InputError(
                "Front end",
                f"“{name}” is not in the catalogue.",
                "Choose from the list.",
                "part-unknown",
            )
    feeding = supplies_in_use(ctx.with_job(job))
    for part in front_parts(ctx.with_job(job), source):
        job = edits.remove(ctx.with_job(job), part.id)
    active: list[str] = []
    for name in reversed(wanted):
        kind, _, setting = name.partition(":")
        if not any(k.from_part == source.id for k in job.links):
            job, new = edits.add_after(
                ctx.with_job(job), after=source.id, type_key=kind, cable="rg6", length_m=JUMPER_M
            )
        else:
            job, new = edits.add_after(
                ctx.with_job(job),
                after=source.id,
                type_key=kind,
                cable="rg6",
                length_m=JUMPER_M,
                port=0,
            )
        if setting:
            changed = tuple(
                p.model_copy(update={"setting_db": float(setting)}) if p.id == new else p
                for p in job.parts
            )
            job = job.model_copy(update={"parts": changed})
        if catalogue.parts[kind].load is not None:
            active.append(new)
    for part_id in active:
        job = with_power(ctx.with_job(job), part_id, "inserter-12")
    # An inserter that fed what is gone goes with it.
    for part_id in sorted(feeding - supplies_in_use(ctx.with_job(job))):
        if catalogue.parts[edits.find_part(job, part_id).type].draws_as == "inserter":
            job = edits.remove(ctx.with_job(job), part_id)
    return job


def front_end(ctx: JobContext, antenna: Array) -> FrontEnd | None:
    """Try the front ends of the catalogue on a run. None while the antenna is in no run that
    reaches an outlet, or looks nowhere."""
    job, profile = ctx.job, ctx.profile
    source = next((p for p in job.parts if p.antenna == antenna.id), None)
    at = terminals(job, antenna)
    if source is None or at is None or len(at.incident.carriers) == 0:
        return None
    old = front_parts(ctx, source)
    now = "+".join(_key_of(p) for p in old) or "none"
    filter_key = profile.mobile.filter
    # What lies in the noise at the terminals already no front end brings back.
    dead = {
        c.id: c.name
        for i, c in enumerate(at.incident.carriers)
        if at.cn_db[i] < at.incident.wanted_db[i] and at.incident.wanted[i]
    }
    amps = [k for k, p in ctx.catalogue.parts.items() if p.draws_as == "preamplifier"]
    # The limits that a job carries may name a filter that is not at hand here.
    filtered = [f"{filter_key}+{a}" for a in amps] if filter_key in ctx.catalogue.parts else []
    keys = ["none", *amps, *filtered]
    too_strong = _too_strong(ctx, source)
    if too_strong > 0:
        keys.append(f"attenuator:{math.ceil(too_strong):g}")
    options: list[Option] = []
    for key in dict.fromkeys([now, *keys]):
        tried = job if key == now else with_front(ctx, antenna.id, key)
        found = _tried(ctx.with_job(tried), source=source, key=key, now=key == now, dead=set(dead))
        if found is not None:
            options.append(found)
    if not options:
        return None
    bare = next((o for o in options if o.key == "none"), options[0])
    best = _best(options, bare, profile)
    title, reason = said(best, bare, options, profile)
    beyond_help = ""
    if dead:
        beyond_help = (
            f"{', '.join(dead.values())}: in the noise at the terminals already, at this heading; no amplifier "
            "brings that back."
        )
    return FrontEnd(
        title=title,
        reason=reason,
        options=options,
        advised=best.key,
        change=None
        if best.key == now
        else as_change(job, with_front(ctx, antenna.id, best.key), "change the front end"),
        strongest=_strongest(job, antenna, at, profile.mobile),
        mobile_words=mobile_words(job, profile.mobile),
        beyond_help=beyond_help,
    )


def _key_of(part: Part) -> str:
    return part.type if part.setting_db is None else f"{part.type}:{part.setting_db:g}"


def _strongest(
    job: Job, antenna: Array, at: Terminals, mobile: Mobile
) -> list[tuple[str, float, bool]]:
    """What is loudest at the terminals, wanted or not: name, level [dBµV], whether it is a base
    station's."""
    names = {t.id: t.name for t in job.targets}
    rows = [
        (f"{names[c.target]}, {c.name}", float(at.level_dbuv[i]), c.mobile)
        for i, c in enumerate(at.incident.carriers)
    ]
    if assumes_mobile(job):
        rows.append(("base station", assumed_dbuv(job, antenna, at.heading_deg, mobile), True))
    return sorted(rows, key=lambda row: -row[1])[:5]


def _too_strong(ctx: JobContext, source: Part) -> float:
    """How far the strongest carrier stands over the window at any outlet [dB]."""
    solved = solve_job(ctx)
    most = 0.0
    channels = {channel.id: i for i, channel in enumerate(solved.channels)}
    for row in outlet_rows(ctx, solved):
        for cell in row.cells:
            port = solved.columns.port[channels[cell.carrier]]
            if port and port[0] == source.id and cell.level.value is not None:
                most = max(most, cell.level.value - (cell.level.high or 999.0))
    return most


def _tried(
    ctx: JobContext,
    source: Part,
    key: str,
    now: bool,
    dead: set[str],
) -> Option | None:
    solved = solve_job(ctx)
    channels = {channel.id: (i, channel) for i, channel in enumerate(solved.channels)}
    worst: tuple[float, str] = (math.inf, "")
    room, low, high = math.inf, math.inf, -math.inf
    for row in outlet_rows(ctx, solved):
        for cell in row.cells:
            if cell.carrier in dead:
                continue
            index, channel = channels[cell.carrier]
            port = solved.columns.port[index]
            if port is None or port[0] != source.id or cell.cn_db is None:
                continue
            if cell.level.value is None:
                continue
            margin = cell.cn_db - channel.wanted_cn_db
            if margin < worst[0]:
                worst = margin, f"{channel.name} at {row.name}"
            level = cell.level.value
            low, high = min(low, level), max(high, level)
            room = min(room, level - (cell.level.low or -99.0), (cell.level.high or 999.0) - level)
    if worst[0] == math.inf:
        return None
    load, noise = _load(ctx, solved, source)
    states: list[State] = [load.state] if load.value is not None else []
    states += ["fail" if worst[0] < ctx.profile.margin_db or room < 0 else "ok"]
    state: State = "fail" if "fail" in states else "marginal" if "marginal" in states else "ok"
    return Option(
        key=key,
        name=_named(key, ctx.catalogue),
        margin_db=worst[0],
        weakest=worst[1],
        window_db=room,
        lowest_dbuv=low,
        highest_dbuv=high,
        load=load,
        noise_figure_db=noise,
        state=state,
        now=now,
    )


def _load(
    ctx: JobContext,
    solved: Solved,
    source: Part,
) -> tuple[Gauge, float | None]:
    """All that leaves the first amplifier under the antenna against what it bears, as Coax judges it,
    and the noise figure of what hangs before it and itself [dB]."""
    before = 0.0
    for part in front_parts(ctx, source):
        kind: PartType = part_type(ctx.catalogue, part)
        noise = kind.noise_figure_db(kind.paths[0], part.setting_db) if kind.paths else None
        if noise is not None:
            sums = [x for x in output_limits(solved, part.id) if x.bound in ("total", "supposed")]
            total = sums[-1] if sums else None
            if total is None:
                return gauge(None, "dbuv"), noise + before
            most = total.now(solved)[1]
            return gauge(
                most, "dbuv", high=total.high_dbuv, reserve=total.reserve_db
            ), noise + before
        gain = kind.gain_db(0, 0, 600.0, part.setting_db)
        before -= float(gain) if gain is not None and gain > -BLOCKED_DB else 0.0
    return gauge(None, "dbuv"), None


def _named(key: str, catalogue: Catalogue) -> str:
    if key == "none":
        return "nothing under the antenna"
    words = []
    for name in key.split("+"):
        kind, _, setting = name.partition(":")
        words.append(catalogue.parts[kind].name + (f" {setting} dB" if setting else ""))
    return ", ".join(words)


def _best(options: list[Option], bare: Option, profile: Profile) -> Option:
    """The one with fewest parts that fits; where none fits, the one that comes nearest without
    overload, if it is worth its parts."""
    order = sorted(options, key=lambda o: (o.key.count("+") + (o.key != "none"), -o.margin_db))
    fitting = [o for o in order if fits(o, profile)]
    if fitting:
        least = fitting[0].key.count("+") + (fitting[0].key != "none")
        same = [o for o in fitting if o.key.count("+") + (o.key != "none") == least]
        # The least gain that does it: more of it only nears the overload.
        return min(same, key=lambda o: (o.load.state != "ok", o.highest_dbuv))
    usable = [o for o in order if o.load.state != "fail"]

    def lack(option: Option) -> float:
        return min(option.margin_db - profile.margin_db, option.window_db)

    best = max(usable, key=lack, default=bare)
    return best if lack(best) - lack(bare) >= WORTH_DB else bare
