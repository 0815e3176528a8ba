"""The rule set of the run: each problem with place, figure, limit, origin and remedy."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ....job import Job, Target
from ....job.parts import Catalogue
from ....job.problems import Problem
from ....job.profile import Profile
from ....units.quantities import Phrase, Quantity, gauge
from ....units.severity import OK, RANK
from ..levels.outlets import Cell, Group, Judged, NetworkCarrier, OutletRow, Solved
from ..levels.trials import InlineFix, Tried, attenuate, better_cable
from ..powering import DcLoad, SupplyLoad
from .causes import FIXABLE, Cause, Finding, causes, together
from .devices import DATA_SHEET, check_devices
from .lnb import lnb_problems
from .matching import echo_problem, echo_remedy, matching_problems
from .order import order_problems
from .passband import passband_problems
from .selection import blocked_way, choice_problems, unasked_problem


def check(
    job: Job,
    catalogue: Catalogue,
    profile: Profile,
    solved: Solved,
    rows: list[OutletRow],
    powering: tuple[list[DcLoad], list[SupplyLoad]],
    advise: bool = True,
    outlets: bool = True,
) -> list[Problem]:
    """All problems of the run, the gravest first; what cures them is looked for where somebody asks for
    advice, and those of `outlets` are left out where their figures are enough."""
    found: list[Problem] = []
    found += _loops(job, catalogue, solved)
    found += _sources(job, solved)
    if rows and outlets:
        picks = {g: _picks(rows[0].judged, solved, profile, g) for g in solved.groups}
        told = [
            f
            for row in rows
            for f in _outlet(job, catalogue, profile=profile, solved=solved, row=row, picks=picks)
        ]
        tried: dict[str, Tried] = {}
        for cause in causes(told, rows, solved):
            problem = together(cause, solved)
            if problem.code == "echo":
                problem = replace(
                    problem, remedy=echo_remedy(solved, cause.first.row, cause.first.carrier)
                )
            if advise:
                problem = _advised(
                    job,
                    catalogue,
                    profile,
                    solved=solved,
                    cause=cause,
                    problem=problem,
                    tried=tried,
                )
            found.append(problem)
    if outlets:
        found += choice_problems(job, catalogue, solved, rows)
    found += check_devices(job, catalogue, solved, powering)
    found += matching_problems(job, catalogue, profile, solved=solved, rows=rows)
    found += passband_problems(solved)
    found += lnb_problems(solved)
    found += order_problems(job, catalogue, solved, rows=rows, supplies=powering[1])
    found = [replace(p, fixable=True) if p.code in FIXABLE and p.ref else p for p in found]
    # A part without its power is why other figures are wrong: it is told before them.
    return sorted(
        found, key=lambda p: (-RANK[p.state], not p.code.startswith("dc-"), -len(p.outlets))
    )


def _advised(
    job: Job,
    catalogue: Catalogue,
    profile: Profile,
    *,
    solved: Solved,
    cause: Cause,
    problem: Problem,
    tried: dict[str, Tried],
) -> Problem:
    """The problem with a change that cures it for all whom it concerns, where one is found."""
    remedy: InlineFix | None = None
    if problem.code == "level-low":
        remedy = better_cable(
            job,
            catalogue,
            profile=profile,
            solved=solved,
            rows=cause.rows,
            carrier=cause.first.carrier,
            tried=tried,
        )
    elif problem.code == "level-high":
        remedy = attenuate(
            job,
            catalogue,
            profile,
            solved,
            rows=cause.rows,
            excess_db=cause.first.by_db,
            carrier=cause.first.carrier,
        )
    if remedy is None:
        return problem
    return problem.with_remedy(remedy.do, remedy.change, remedy.effect)


def _loops(job: Job, catalogue: Catalogue, solved: Solved) -> list[Problem]:
    if not solved.run.wiring.looped:
        return []
    names = ", ".join(solved.names[p] for p in sorted(solved.run.wiring.looped))
    return [
        Problem(
            code="loop",
            station="coax",
            state="fail",
            place=names,
            title=("The signal runs in a loop",),
            gauge=None,
            limit=("one way from source to outlet",),
            origin="physics of the network",
            remedy=(f"Take away one cable between {names}. The rest goes on being computed.",),
            ref=min(solved.run.wiring.looped),
        )
    ]


def _sources(job: Job, solved: Solved) -> list[Problem]:
    """Targets whose carriers leave no source port."""
    found = []
    antennas = {a.target: a for a in job.antennas if a.target}
    for target in job.targets:
        mine = [c for c, channel in enumerate(solved.channels) if channel.target == target.id]
        lost = [c for c in mine if solved.columns.port[c] is None]
        if not lost or not job.parts:
            continue
        if target.kind == "line":
            found.append(_no_line(job, target, len(mine)))
            continue
        antenna = antennas.get(target.id)
        placed = antenna is not None and any(p.antenna == antenna.id for p in job.parts)
        if antenna is None:
            text, remedy = f"No antenna looks at {target.name}", "Add one at Mast."
        elif not placed:
            text, remedy = f"{antenna.name} is not in the run", "Start a run at it."
        else:
            names = ", ".join(solved.channels[c].name for c in lost[:3])
            text = f"{target.name}: {names} cannot be received"
            remedy = "Check frequency and polarisation, or take an LNB for that band."
        found.append(
            Problem(
                code="no-source",
                station="coax",
                state="fail",
                place=target.name,
                title=(text,),
                gauge=None,
                limit=(f"{len(mine)} carriers wanted",),
                origin="this job's carriers",
                remedy=(remedy,),
                ref=target.id,
            )
        )
    return found


def _no_line(job: Job, target: Target, count: int) -> Problem:
    """A company's line whose carriers come from nowhere: left, not read, read at one frequency, not in the run."""
    at, state = job.company, "fail"
    title, remedy = (
        f"{target.name} is not in the run",
        "Put its multiplexes on again: that starts a run at it.",
    )
    if at.plan == "leave":
        title = f"{target.name} is left: nothing comes from it any more"
        remedy = "Take its multiplexes off, and the wish for it off the outlets."
    elif at.low_dbuv is None or at.high_dbuv is None:
        title, state = f"The drop of {target.name} was not read", "unknown"
        remedy = "Read the level at its lowest and its highest carrier."
    elif at.high_mhz <= at.low_mhz:
        title = f"The drop of {target.name} was read at two frequencies that are turned round"
        remedy = "Type the lower frequency with its level first, the higher one behind it."
    return Problem(
        code="no-source",
        station="coax",
        state="fail" if state == "fail" else "unknown",
        place=target.name,
        gauge=None,
        title=(title,),
        limit=(f"{count} carriers wanted",),
        origin="this job's carriers",
        ref=target.id,
        remedy=(remedy,),
    )


def _outlet(
    job: Job,
    catalogue: Catalogue,
    profile: Profile,
    solved: Solved,
    row: OutletRow,
    picks: dict[Group, _Picks],
) -> list[Finding]:
    judged, r = row.judged, row.index
    if not judged.wants[r].any():
        return []
    if row.part is None:
        return [
            Finding(
                Problem(
                    code="no-plate",
                    station="coax",
                    state="fail",
                    place=row.name,
                    title=(f"{row.name} has no path",),
                    gauge=None,
                    limit=("a wall plate in the run",),
                    origin="this job's outlets",
                    remedy=(f"Add {row.name} behind a free port of the run.",),
                    ref=row.outlet,
                ),
                row,
            )
        ]
    found: list[Finding] = []
    if row.state == "ok":
        return found
    for group, pick in picks.items():
        gone = pick.gone[r]
        if gone >= 0 and (silent := _silent(job, catalogue, solved=solved, row=row, column=gone)):
            found.append(Finding(silent, row, group, gone))
        if pick.any[r]:
            found += _group(
                job, catalogue, profile=profile, solved=solved, row=row, pick=pick, group=group
            )
    for one in row.groups:
        if one.slope.state != "ok":
            found.append(
                Finding(
                    Problem(
                        code="slope",
                        station="coax",
                        state=one.slope.state,
                        place=row.name,
                        title=(f"{row.name}: levels differ too much over the {one.group} band",),
                        gauge=one.slope,
                        limit=("at most ", Quantity(one.slope.high or 0, "db", 0)),
                        origin=profile.slope_origin,
                        remedy=("Shorten the run, take a better cable, or fit an equaliser.",),
                        ref=row.part,
                    ),
                    row,
                    one.group,
                    by_db=(one.slope.value or 0.0) - (one.slope.high or 0.0),
                )
            )
    return found


@dataclass(frozen=True)
class _Picks:
    """For one group at every outlet: the carrier furthest under its window, over it, and with the
    thinnest margin, and by how much [dB], the one with the most ripple; the first that does not arrive (-1: none). `any` says
    whether there is something to look at: what is in by all its figures needs no look."""

    any: list[bool]
    gone: list[int]
    low: list[int]
    under_db: list[float]
    high: list[int]
    over_db: list[float]
    thin: list[int]
    wavy: list[int]


def _picks(judged: Judged, solved: Solved, profile: Profile, group: Group) -> _Picks:
    mine = judged.wants & solved.of_group[group]
    there = np.isfinite(judged.level_dbuv)
    gone = mine & ~there & solved.has_source
    look = mine & there & (judged.rank != OK)
    reserve, rows = profile.level_reserve_db, np.arange(len(mine))
    under = np.where(look, judged.least_dbuv + reserve - judged.level_dbuv, -np.inf)
    over = np.where(look, judged.level_dbuv - judged.most_dbuv + reserve, -np.inf)
    margin = np.where(look, np.where(np.isnan(judged.margin_db), -99.0, judged.margin_db), np.inf)
    low, high = under.argmax(axis=1), over.argmax(axis=1)
    return _Picks(
        any=look.any(axis=1).tolist(),
        gone=np.where(gone.any(axis=1), gone.argmax(axis=1), -1).tolist(),
        low=low.tolist(),
        under_db=under[rows, low].tolist(),
        high=high.tolist(),
        over_db=over[rows, high].tolist(),
        thin=margin.argmin(axis=1).tolist(),
        wavy=np.where(look, judged.ripple_db, -np.inf).argmax(axis=1).tolist(),
    )


def _group(
    job: Job,
    catalogue: Catalogue,
    profile: Profile,
    solved: Solved,
    row: OutletRow,
    pick: _Picks,
    group: Group,
) -> list[Finding]:
    """The worst level and the worst margin of a group at an outlet."""
    found: list[Finding] = []
    judged, reserve, r = row.judged, profile.level_reserve_db, row.index
    if pick.under_db[r] > 1e-3:
        c = pick.low[r]
        more = "more from the company at the drop" if group == "cable" else "a larger antenna"
        remedy = InlineFix(
            (
                "Raise the level ahead of it: fewer splits, gain where the level is still "
                f"high, or {more}.",
            ),
            (),
            None,
        )
        problem = _level(
            row,
            judged.cell(r, c),
            channel=solved.channels[c],
            remedy=remedy,
            side="under",
            by=pick.under_db[r],
            reserve=reserve,
        )
        found.append(Finding(problem, row, group, c, by_db=pick.under_db[r] - reserve))
    if pick.over_db[r] > 1e-3:
        c = pick.high[r]
        remedy = InlineFix(("Lower the level ahead of it.",), (), None)
        problem = _level(
            row,
            judged.cell(r, c),
            channel=solved.channels[c],
            remedy=remedy,
            side="over",
            by=pick.over_db[r],
            reserve=reserve,
        )
        found.append(Finding(problem, row, group, c, by_db=pick.over_db[r] - reserve))
    c = pick.thin[r]
    if judged.margin_rank[r, c] != OK and pick.under_db[r] <= 1e-3:
        problem = _margin(
            job,
            catalogue,
            profile=profile,
            solved=solved,
            row=row,
            cell=judged.cell(r, c),
            channel=solved.channels[c],
            carrier=c,
        )
        short = profile.margin_db - float(np.nan_to_num(judged.margin_db[r, c], nan=-99.0))
        found.append(Finding(problem, row, group, c, by_db=short))
    c = pick.wavy[r]
    if judged.ripple_rank[r, c] != OK:
        found.append(
            Finding(
                echo_problem(profile, solved, row, c),
                row,
                group,
                c,
                by_db=float(judged.ripple_db[r, c]) - profile.ripple_db,
            )
        )
    return found


def _level(
    row: OutletRow,
    cell: Cell,
    channel: NetworkCarrier,
    remedy: InlineFix,
    side: str,
    by: float,
    reserve: float,
) -> Problem:
    limit = cell.level.low if side == "under" else cell.level.high
    beyond = by - reserve
    limit_text: Phrase = (
        "at least " if side == "under" else "at most ",
        Quantity(limit or 0, "dbuv", 0),
    )
    if beyond > 1e-3:
        title: Phrase = (f"{row.name}: ", Quantity(beyond, "db"), f" {side} the limit")
    else:
        title = (f"{row.name}: near the {'lower' if side == 'under' else 'upper'} limit",)
        limit_text = (
            Quantity(reserve, "db", 0),
            " reserve inside ",
            Quantity(limit or 0, "dbuv", 0),
        )
    return Problem(
        code="level-low" if side == "under" else "level-high",
        station="coax",
        state=cell.level.state,
        place=f"{row.name}, {channel.frequency_mhz:.0f} MHz",
        title=title,
        gauge=cell.level,
        limit=limit_text,
        origin=channel.window.origin,
        remedy=remedy.do,
        change=remedy.change,
        effect=remedy.effect,
        ref=row.part,
    )


def _margin(
    job: Job,
    catalogue: Catalogue,
    profile: Profile,
    solved: Solved,
    row: OutletRow,
    cell: Cell,
    channel: NetworkCarrier,
    carrier: int,
) -> Problem:
    """A thin margin is old noise, new noise or distortion: say which, and at which end of the run it
    is lost."""
    port = solved.columns.port[carrier]
    meant = solved.columns.meant(carrier)
    at_source = (meant[1] if meant else 0.0) - channel.wanted_cn_db
    lost = at_source - (cell.margin.value or 0)
    code = "margin"
    node, levels = solved.run.outlet_node(row.part), solved.run.levels
    maker = None
    if (
        node is not None
        and levels.distortion is not None
        and (levels.distortion[node, carrier] >= levels.noise[node, carrier])
    ):
        maker = distorted_by(solved, carrier, node)
    if maker is not None:
        code = "distortion"
        do: Phrase = (
            f"{solved.names[maker]} makes most of it out of what it is given: turn its gain "
            "down, take one with a higher rating, or filter what is loud ahead of it.",
        )
    elif port is not None and lost > 3 and channel.group == "terrestrial":
        do = (
            "Fit a preamplifier close to the antenna: ",
            Quantity(lost, "db"),
            " of quality is lost on the way.",
        )
    elif channel.group == "terrestrial":
        do = ("Take an antenna with more gain or raise it: the quality is missing at the antenna.",)
    elif channel.group == "cable":
        do = (
            ("Show it to the company: the quality is missing at its drop.",)
            if lost <= 3
            else ("Split less ahead of the amplifier, or fit one where the level is still high.",)
        )
    else:
        do = ("Take a larger dish or a quieter LNB: the quality is missing at the dish.",)
    return Problem(
        code=code,
        station="coax",
        state=cell.margin.state,
        place=f"{row.name}, {channel.frequency_mhz:.0f} MHz",
        title=(
            f"{row.name}: quality margin of {channel.name} is "
            f"{'too small' if cell.margin.state == 'fail' else 'small'}",
        ),
        gauge=cell.margin,
        limit=("at least ", Quantity(profile.margin_db, "db", 0), " over the threshold"),
        origin=profile.margin_origin,
        remedy=do,
        ref=row.part,
    )


def distorted_by(solved: Solved, carrier: int, node: int) -> str | None:
    """The part that makes most of the distortion on a carrier's way to a node; None where none does."""
    run = solved.run
    if run.distorting is None:
        return None
    way = run.way_to(node, carrier)
    made: dict[str, float] = {}
    for edge, column in way:
        at = int(run.circuit.edges[edge, 1])
        for n in run.distorting.by_node.get(at, ()):
            if edge in run.distorting.rated[n].edges and (own := run.found.own.get(n)) is not None:
                share = (own.second[column] + own.third[column]) / max(own.power[column], 1e-300)
                made[run.circuit.edge_part[edge]] = float(share)
    return max(made, key=lambda part: made[part], default=None)


def _to_its_source(solved: Solved, row: OutletRow, group: Group) -> str:
    """What leads a group to an outlet. A company's line and an own antenna are never joined for that."""
    wiring = solved.run.wiring
    sources = {
        wiring.kinds[p].draws_as == "line"
        for p in wiring.up(row.part or "")
        if not wiring.kinds[p].inputs
    }
    wish = "or take the wish off the outlet at Site."
    if group == "cable" and False in sources:
        return (
            f"Lead {row.name} from the company's line alone, by a cable of its own, and never join that to "
            f"the antenna's run; {wish}"
        )
    if group != "cable" and True in sources:
        return (
            f"{row.name} hangs on the company's line: give the antenna's signal an outlet and a cable of its "
            f"own, and never join the two; {wish}"
        )
    return f"Join the {group} source to the part that feeds {row.name}, {wish}"


def _silent(
    job: Job, catalogue: Catalogue, solved: Solved, row: OutletRow, column: int
) -> Problem | None:
    """A carrier does not arrive: name the part that does not pass it, or the gap. A source without
    its voltage is told where it is powered."""
    c, group, port = column, solved.channels[column].group, solved.columns.port[column]
    dark = solved.run.dark.get(port[0]) if port is not None else None
    if dark is not None and dark[c]:
        return None
    unasked = unasked_problem(job, catalogue, solved=solved, row=row, column=c)
    if unasked is not None:
        return unasked
    blocked = blocked_way(solved.run, row.part, c)
    if blocked is None:
        return Problem(
            code="no-path",
            station="coax",
            state="fail",
            place=row.name,
            title=(f"No {group} signal has a path to {row.name}",),
            gauge=None,
            limit=("a cable from its source",),
            origin="this job's run",
            remedy=(_to_its_source(solved, row, group),),
            ref=row.part,
        )
    part, entry = blocked
    kind = solved.run.wiring.kinds[part]
    low, high = kind.passes_mhz(entry) or kind.range_mhz
    frequency = solved.channels[c].frequency_mhz
    return Problem(
        code="range",
        station="coax",
        state="fail",
        place=row.name,
        title=(f"{solved.names[part]} does not pass {frequency:.0f} MHz to {row.name}",),
        gauge=gauge(frequency, "mhz", low, high),
        limit=(Quantity(low, "mhz", 0), " to ", Quantity(high, "mhz", 0)),
        origin=DATA_SHEET,
        remedy=("Replace it by a part for that range, or lead the line past it.",),
        ref=part,
    )
