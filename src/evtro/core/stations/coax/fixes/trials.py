"""Remedies found by trying: the plant with one change, solved again."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ....fixes.comparison import SAME_DB, is_worse
from ....job import Cable
from ....job.changes import Change, Insert, Set
from ....network.solve import Alteration
from ....physics.geodesy import Floats
from ....units.quantities import Phrase, Quantity
from ....units.severity import FAIL, MARGINAL, OK, WORDS
from ..context import NetworkContext
from ..levels.outlets import Judged, OutletRow, Ranks, Solved, ranked, ranks, slope_limit_db
from ..levels.ratings import PortLimit, figures_now, figures_of, limits_of
from .judge import carrier_figures
from .surroundings import links_to


@dataclass(frozen=True)
class InlineFix:
    """What to do in words, what it gives, and the change that does it."""

    do: Phrase
    effect: Phrase
    change: Change | None


MOST_ATTENUATOR_DB = 60  # that one can be set to
TRIED_STEPS = 6  # attenuators of one dB more


@dataclass(frozen=True, eq=False)
class Tried:
    """Variants of a plant, judged as the plant itself is at the outlets `rows` that they reach: level
    [dBµV], arrays (variants, rows, carriers); the rank of each of these outlets; whether a variant
    leaves all else as good as it was."""

    rows: list[int]
    level_dbuv: Floats
    outlet_rank: Ranks
    harmless: NDArray[np.bool_]


def try_out(
    ctx: NetworkContext, judged: Judged, first: str, variants: Sequence[Alteration]
) -> Tried:
    """Solve variants of a part, or of the cable that comes to it, and judge them at every outlet behind
    it and at every device."""
    solved = ctx.solved
    behind = {first, *solved.run.wiring.down(first)}
    at = [
        (r, n)
        for r, n in zip(judged.rows.tolist(), judged.nodes.tolist(), strict=True)
        if judged.plates[r] in behind
    ]
    borne = [limit for part in behind for limit in limits_of(solved, part)]
    nodes = [*(n for _, n in at), *(limit.node for limit in borne)]
    whole, here = solved.run.variants(variants, np.array(nodes, int)), len(at)
    found = solved.run.by_carrier(whole)
    tried = _weighed(
        ctx,
        judged,
        rows=[r for r, _ in at],
        low_dbuv=found.level_dbuv[:, :here],
        high_dbuv=found.high_dbuv[:, :here],
        cn_db=found.cn_db[:, :here],
    )
    harmless = tried.harmless & _borne(solved, borne, whole.low[:, here:], whole.high[:, here:])
    return replace(tried, harmless=harmless)


def _borne(solved: Solved, borne: list[PortLimit], low: Floats, high: Floats) -> NDArray[np.bool_]:
    """Which variants leave every port of a device as good as it was: powers [µV²], arrays (variants,
    ports, columns)."""
    if not borne:
        return np.ones(len(low), bool)
    least = np.array([-np.inf if x.low_dbuv is None else x.low_dbuv for x in borne])
    most = np.array([np.inf if x.high_dbuv is None else x.high_dbuv for x in borne])
    reserve = np.array([x.reserve_db for x in borne])
    before, after = figures_now(borne, solved), figures_of(borne, low, high)
    harm = np.zeros(len(low), bool)
    for side, bound, sign in ((0, least, -1), (1, most, 1)):
        over = [sign * (ends[side] - bound) for ends in (before, after)]
        was, becomes = (ranks(x, None, 0.0, reserve) for x in over)
        harm |= is_worse(was, becomes, over[0], outside_after=over[1], same=SAME_DB).any(axis=1)
    return ~harm


def _weighed(
    ctx: NetworkContext,
    judged: Judged,
    *,
    rows: list[int],
    low_dbuv: Floats,
    high_dbuv: Floats,
    cn_db: Floats,
) -> Tried:
    """Judge figures at some outlets, arrays (variants, rows, carriers). One harms that puts any into
    a worse state, or one that is out already further out by more than a tenth of a dB."""
    after = ranked(
        judged.channels, ctx.profile, low_dbuv=low_dbuv, high_dbuv=high_dbuv, cn_db=cn_db
    )
    # What echoes do to a carrier stays: a share of it.
    rank = np.maximum(after.rank, judged.ripple_rank[rows])
    rank = np.where(judged.choice[rows] == 2, np.int8(FAIL), rank)
    wants, level = judged.wants[rows], judged.level_dbuv[rows]
    was = carrier_figures(
        judged,
        wants,
        level_dbuv=level,
        margin_db=judged.margin_db[rows],
        ranks_of=(judged.level_rank[rows], judged.margin_rank[rows]),
    )
    now = carrier_figures(
        judged,
        wants,
        level_dbuv=after.level_dbuv,
        margin_db=after.margin_db,
        ranks_of=(after.level_rank, after.margin_rank),
    )
    harmed = np.zeros(len(after.level_dbuv), bool)
    for name, old in was.items():
        new = now[name]
        worse = is_worse(old.rank, new.rank, old.outside, outside_after=new.outside, same=old.same)
        harmed |= (worse & wants).any(axis=(1, 2))
    outlet = np.where(wants, rank, 0).max(axis=2, initial=0)
    for group in ctx.solved.groups:
        mine = wants & ctx.solved.of_group[group]
        if not mine.any():
            continue
        limit = slope_limit_db(ctx.profile, group)
        before, then = _spread(level, mine), _spread(after.level_dbuv, mine)
        ranks_before, ranks_now = (ranks(x, None, limit, 1.0) for x in (before, then))
        seen = np.isfinite(then)
        worse = is_worse(
            ranks_before, ranks_now, before - limit, outside_after=then - limit, same=SAME_DB
        )
        harmed |= (worse & seen).any(axis=1)
        outlet = np.where(seen, np.maximum(outlet, ranks_now), outlet)
    return Tried(rows, after.level_dbuv, outlet.astype(np.int8), np.asarray(~harmed))


def _spread(level_dbuv: Floats, mine: NDArray[np.bool_]) -> Floats:
    """How far apart the levels of some carriers lie [dB]; NaN where none of them is there."""
    there = mine & np.isfinite(level_dbuv)
    most = np.where(there, level_dbuv, -np.inf).max(axis=-1, initial=-np.inf)
    least = np.where(there, level_dbuv, np.inf).min(axis=-1, initial=np.inf)
    return np.where(there.any(axis=-1), most - least, np.nan)


def better_cable(
    ctx: NetworkContext,
    *,
    rows: list[OutletRow],
    carrier: int,
    tried: dict[str, Tried],
) -> InlineFix | None:
    """The smallest change of cable that brings outlets in and harms no other; `carrier` is the one that
    the first of them lacks most. The drop first, then what feeds it; the least better cable first; in is
    better than near, but not worth touching a second cable.

    The tries at one cable are variants of one solution; `tried` keeps them by cable, for the next
    carrier and the next cause.
    """
    catalogue, solved = ctx.catalogue, ctx.solved
    row = rows[0]
    node = solved.run.outlet_node(row.part)
    if row.part is None or node is None:
        return None
    way = links_to(solved, row.part, carrier)
    links = {k.id: k for k in ctx.job.links if k.id in way}
    way.sort(key=lambda i: -links[i].length_m)
    level = float(solved.run.levels.level_dbuv[node, carrier])
    less_lossy = {k: catalogue.less_lossy(k) for k in {k.cable for k in links.values()}}
    too_much = False
    for link_id in way:
        link = links[link_id]
        better = less_lossy[link.cable]
        if not better:
            continue
        # Where even the best cable leaves this carrier too low, no try can bring the outlet in.
        mhz = float(solved.columns.frequency_mhz[carrier])
        here = link.length_m, link.celsius
        saved = catalogue.cables[link.cable].loss_db(here[0], mhz, here[1]) - min(
            float(catalogue.cables[key].loss_db(here[0], mhz, here[1])) for key in better
        )
        if level + saved < solved.channels[carrier].window.low_dbuv:
            continue
        if link_id not in tried:
            run = solved.run
            edge = run.circuit.edge_of_link[link_id]
            waves = run.circuit.columns.frequency_mhz
            cables = [catalogue.cables[key] for key in better]
            old = catalogue.cables[link.cable].loss_db(here[0], waves, here[1])
            bare = run.circuit.gain_db[edge] + old
            variants = [
                Alteration({edge: bare - c.loss_db(here[0], waves, here[1])}) for c in cables
            ]
            tried[link_id] = try_out(ctx, row.judged, link.to_part, variants=variants)
        found = tried[link_id]
        if any(r.index not in found.rows for r in rows):
            continue  # it leads to some of them only
        mine_at = [found.rows.index(r.index) for r in rows]
        mine = found.outlet_rank[:, mine_at].max(axis=1)
        too_much |= bool((~found.harmless & np.isin(mine, (OK, MARGINAL))).any())
        for good, word in ((OK, WORDS["ok"]), (MARGINAL, WORDS["marginal"])):
            fitting = np.flatnonzero(found.harmless & (mine == good))
            if not len(fitting):
                continue
            v = int(fitting[0])
            gives = float(found.level_dbuv[v, mine_at[0], carrier])
            return InlineFix(
                (
                    "Pull the ",
                    Quantity(link.length_m, "m", 0),
                    " in ",
                    catalogue.cables[better[v]].short,
                ),
                ("gives ", Quantity(gives, "dbuv"), f", {word}"),
                Set(rows="links", id=link_id, values={"cable": better[v]}),
            )
    if too_much:
        return InlineFix(
            (
                "More level here would be too much for another outlet or an amplifier on the way: share it "
                "otherwise, with a tap for the near outlets, or gain behind the long cable.",
            ),
            (),
            None,
        )
    return None


def attenuate(
    ctx: NetworkContext,
    *,
    rows: list[OutletRow],
    excess_db: float,
    carrier: int,
) -> InlineFix | None:
    """The least attenuator that brings a level in which is too high at some outlets, unless it takes
    from what is weak: ahead of the outlet, of several in the last cable that leads to them all."""
    solved = ctx.solved
    row = rows[0]
    first = math.ceil(excess_db + ctx.profile.level_reserve_db)
    if row.part is None or first > MOST_ATTENUATOR_DB:
        return None
    links = {k.id: k for k in ctx.job.links}
    plates = {r.part for r in rows}
    wiring = solved.run.wiring
    link = next(
        (
            links[i]
            for i in links_to(solved, row.part, carrier)
            if plates <= {links[i].to_part, *wiring.down(links[i].to_part)}
        ),
        None,
    )
    if link is None:
        return None
    steps = range(first, min(first + TRIED_STEPS, MOST_ATTENUATOR_DB + 1))
    found = _attenuated(ctx, row, link=link, steps=steps)
    here = [found.rows.index(r.index) for r in rows]
    rank = np.where(found.harmless, found.outlet_rank[:, here].max(axis=1), FAIL + 1)
    v = int(rank.argmin())
    step = steps[v] if rank[v] <= FAIL else first
    where = "the outlet" if len(rows) == 1 else solved.names[link.to_part]
    do: Phrase = ("Fit an attenuator of ", Quantity(float(step), "db", 0), f" ahead of {where}")
    if rank[v] > FAIL:
        return InlineFix(
            (
                "An attenuator here takes too much from what is weak: bring the levels together "
                "ahead of it, at the antennas or with a filter.",
            ),
            (),
            None,
        )
    level = float(found.level_dbuv[v, here[0], carrier])
    return InlineFix(
        do,
        ("gives ", Quantity(level, "dbuv")),
        Insert(type="attenuator", into=link.id, setting_db=float(step)),
    )


def _attenuated(
    ctx: NetworkContext,
    row: OutletRow,
    *,
    link: Cable,
    steps: range,
) -> Tried:
    """Attenuators of some sizes [dB] in a cable. Where it leads to one outlet and every carrier has
    one level, a matched pad takes its size from signal and noise and adds kT (1 - 1/a), which needs
    no solution."""
    run, judged, r = ctx.solved.run, row.judged, row.index
    alone = not any(True for _ in run.wiring.down(link.to_part))
    if not alone or run.levels.high is not run.levels.low or run.circuit.columns.origin is not None:
        edge = run.circuit.edge_of_link[link.id]
        pads = [Alteration({edge: run.circuit.gain_db[edge] - s}) for s in steps]
        return try_out(ctx, judged, link.to_part, variants=pads)
    pad = np.array(steps, float)[:, None]
    level, cn = judged.level_dbuv[r], judged.cn_db[r]
    noise = 10 ** (-cn / 10) + run.circuit.ktb[: len(cn)] / 10 ** (level / 10) * (
        10 ** (pad / 10) - 1
    )
    lower = (level - pad)[:, None]
    return _weighed(
        ctx,
        judged,
        rows=[r],
        low_dbuv=lower,
        high_dbuv=lower,
        cn_db=(-10 * np.log10(noise))[:, None],
    )
