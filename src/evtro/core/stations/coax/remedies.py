"""Remedies found by trying: the plant with one change, solved again."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ...job import Job
from ...job.changes import Change, Insert, Set
from ...job.parts import Catalogue
from ...job.profile import Profile
from ...plant.solve import Alteration, Levels
from ...units.quantities import Phrase, Quantity, State
from .levels import STATES, OutletRow, Solved, ranks


@dataclass(frozen=True)
class CableRemedy:
    """What to do in words, what it gives, and the change that does it."""

    do: Phrase
    effect: Phrase
    change: Change | None


MOST_ATTENUATOR_DB = 60  # that one can be set to


def links_to(solved: Solved, part: str, carrier: int) -> list[str]:
    """Cables a carrier came by, from the outlet back to the source."""
    node = solved.run.outlet_node(part)
    edges = [] if node is None else solved.run.way_to(node, carrier)
    links = solved.run.circuit.edge_link
    return [links[e] for e, _ in reversed(edges) if links[e]]


def better_cable(
    job: Job,
    catalogue: Catalogue,
    profile: Profile,
    solved: Solved,
    row: OutletRow,
    carrier: int,
    tried: dict[str, tuple[Levels, list[State]]],
) -> CableRemedy | None:
    """The smallest change of cable that brings an outlet in: the drop first, then what feeds it;
    the least better cable first; in is better than near, but not worth touching a second cable.

    The tries at one cable are variants of one solution; `tried` keeps them by cable, for the next
    carrier of the same outlet.
    """
    node = solved.run.outlet_node(row.part)
    if row.part is None or node is None:
        return None
    links = {k.id: k for k in job.links}
    way = links_to(solved, row.part, carrier)
    way.sort(key=lambda i: -links[i].length_m)
    level = float(solved.run.levels.level_dbuv[node, carrier])
    wanted = [solved.channels[c].id for c in row.columns]
    lossy = {key: float(c.loss_db(100, 1000.0)) for key, c in catalogue.cables.items()}
    ranked = sorted(catalogue.cables, key=lambda key: -lossy[key])
    for link_id in way:
        link = links[link_id]
        better = [key for key in ranked if lossy[key] < lossy[link.cable] - 0.05]
        if not better:
            continue
        # Where even the best cable leaves this carrier too low, no try can bring the outlet in.
        mhz = float(solved.columns.frequency_mhz[carrier])
        saved = catalogue.cables[link.cable].loss_db(link.length_m, mhz) - min(
            float(catalogue.cables[key].loss_db(link.length_m, mhz)) for key in better
        )
        if level + saved < solved.channels[carrier].window.low_dbuv:
            continue
        if link_id not in tried:
            run = solved.run
            edge = run.circuit.edge_of_link[link_id]
            waves = run.circuit.columns.frequency_mhz
            cables = [catalogue.cables[key] for key in better]
            variants = [Alteration({edge: -c.loss_db(link.length_m, waves)}) for c in cables]
            levels = run.variants(variants, np.array([node]))
            tried[link_id] = (
                levels,
                _states(solved, levels, profile=profile, carriers=wanted),
            )
        levels, states = tried[link_id]
        for good in ("in", "near"):
            if good not in states:
                continue
            v = states.index(good)
            return CableRemedy(
                ("Pull the ", Quantity(link.length_m, "m", 0), " in ",
                 catalogue.cables[better[v]].short),
                ("gives ", Quantity(float(levels.level_dbuv[v, 0, carrier]), "dbuv"), f", {good}"),
                Set(rows="links", id=link_id, values={"cable": better[v]}),
            )  # fmt: skip
    return None


def _states(solved: Solved, levels: Levels, profile: Profile, carriers: list[str]) -> list[State]:
    """State of one outlet in every variant, judged as every outlet is."""
    mine = [(c, channel) for c, channel in enumerate(solved.channels) if channel.id in carriers]
    column = [c for c, _ in mine]
    least = np.array([channel.window.low_dbuv for _, channel in mine])
    most = np.array([channel.window.high_dbuv for _, channel in mine])
    low, high = levels.level_dbuv[:, 0, column], levels.high_dbuv[:, 0, column]
    margin = levels.cn_db[:, 0, column] - np.array([channel.wanted_cn_db for _, channel in mine])
    reserve = profile.level_reserve_db
    rank = np.maximum(ranks(low, least, None, reserve), ranks(high, None, most, reserve))
    rank = np.maximum(rank, ranks(margin, profile.margin_db, None, profile.margin_reserve_db))
    gravest = rank.max(axis=1)
    for group, limit in (
        ("terrestrial", profile.slope_terrestrial_db), ("satellite", profile.slope_satellite_db),
    ):  # fmt: skip
        own = [i for i, (_, channel) in enumerate(mine) if channel.group == group]
        if own:
            gravest = np.maximum(gravest, ranks(np.ptp(low[:, own], axis=1), None, limit, 1.0))
    return [STATES[r] for r in gravest.tolist()]


def attenuate(solved: Solved, row: OutletRow, excess_db: float, level_dbuv: float, carrier: int
              ) -> CableRemedy | None:  # fmt: skip
    """An attenuator ahead of the outlet for a level that is too high."""
    if row.part is None:
        return None
    step = math.ceil(excess_db)
    link = links_to(solved, row.part, carrier)[:1]
    return CableRemedy(
        ("Fit an attenuator of ", Quantity(step, "db", 0), " ahead of the outlet"),
        ("gives ", Quantity(level_dbuv - step, "dbuv")),
        Insert(type="attenuator", into=link[0], setting_db=float(step))
        if link and step <= MOST_ATTENUATOR_DB
        else None,
    )
