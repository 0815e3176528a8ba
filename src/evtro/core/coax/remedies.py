"""Remedies found by trying: the plant with one change, solved again."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..job import Job
from ..parts import Catalogue
from ..profile import Profile
from ..quantities import Phrase, Quantity, State
from .levels import OutletRow, Solved
from .plant import Levels, solve, way_back


@dataclass(frozen=True)
class Remedy:
    """What to do in words, what it gives, and the change as a fix the program can take."""

    do: Phrase
    effect: Phrase
    fix: str | None


def links_to(solved: Solved, part: str, carrier: int) -> list[str]:
    """Cables a carrier came by, from the outlet back to the source."""
    node = solved.plant.nodes[part, "out", 0]
    edges = way_back(solved.plant, solved.levels, node, carrier)
    return [solved.plant.edge_link[e] for e in reversed(edges) if solved.plant.edge_link[e]]


def better_cable(
    job: Job, catalogue: Catalogue, profile: Profile, solved: Solved, row: OutletRow, carrier: int
) -> Remedy | None:
    """The smallest change of cable that brings an outlet in: the drop first, then what feeds it;
    the least better cable first. All tries are variants of one solution."""
    if row.part is None:
        return None
    way = links_to(solved, row.part, carrier)
    links = {k.id: k for k in job.links}
    f = solved.sources.frequency_mhz
    reference = [1000.0]
    ranked = sorted(catalogue.cables.values(), key=lambda c: -float(c.loss_db(100, reference)[0]))
    tries: list[tuple[str, str]] = []
    losses = []
    for link_id in sorted(way, key=lambda i: -links[i].length_m):
        link = links[link_id]
        now = float(catalogue.cables[link.cable].loss_db(100, reference)[0])
        for cable in ranked:
            if float(cable.loss_db(100, reference)[0]) < now - 0.05:
                changed = solved.plant.loss_db.copy()
                changed[solved.plant.edge_link.index(link_id)] = cable.loss_db(link.length_m, f)
                tries.append((link_id, cable.key))
                losses.append(changed)
    if not tries:
        return None
    levels = solve(solved.plant, solved.sources, np.stack(losses))
    node = solved.plant.nodes[row.part, "out", 0]
    states = _states(solved, levels, node, profile, [c.carrier for c in row.cells])
    for good in (("in",), ("in", "near")):
        for v, (link_id, key) in enumerate(tries):
            if states[v] in good:
                gives = float(levels.level_dbuv[node, v, carrier])
                return Remedy(
                    ("Pull the ", Quantity(links[link_id].length_m, "m", 0), " in ",
                     catalogue.cables[key].short),
                    ("gives ", Quantity(gives, "dbuv"), f", {states[v]}"),
                    f"cable:{link_id}:{key}",
                )  # fmt: skip
    return None


def _states(
    solved: Solved, levels: Levels, node: int, profile: Profile, carriers: list[str]
) -> list[State]:
    """State of one outlet in every variant: levels in their windows, margins, slopes."""
    lanes = [(c, lane) for c, lane in enumerate(solved.lanes) if lane.id in carriers]
    column = [c for c, _ in lanes]
    level = levels.level_dbuv[node][:, column]
    margin = levels.cn_db[node][:, column] - np.array([lane.wanted_cn_db for _, lane in lanes])
    low = np.array([lane.window.low_dbuv for _, lane in lanes])
    high = np.array([lane.window.high_dbuv for _, lane in lanes])
    room = np.minimum(level - low, high - level).min(axis=1)
    spare = margin.min(axis=1) - profile.margin_db
    for group, most in (
        ("terrestrial", profile.slope_terrestrial_db),
        ("satellite", profile.slope_satellite_db),
    ):
        mine = [i for i, (_, lane) in enumerate(lanes) if lane.group == group]
        if mine:
            room = np.minimum(room, most - np.ptp(level[:, mine], axis=1))
    inside = (room >= profile.level_reserve_db) & (spare >= profile.margin_reserve_db)
    near = (room >= 0) & (spare >= 0)
    return ["in" if i else "near" if n else "out" for i, n in zip(inside, near, strict=True)]


def attenuate(solved: Solved, row: OutletRow, excess_db: float, level_dbuv: float, carrier: int
              ) -> Remedy | None:  # fmt: skip
    """An attenuator ahead of the outlet for a level that is too high."""
    if row.part is None:
        return None
    step = math.ceil(excess_db)
    link = links_to(solved, row.part, carrier)[:1]
    return Remedy(
        ("Fit an attenuator of ", Quantity(step, "db", 0), " ahead of the outlet"),
        ("gives ", Quantity(level_dbuv - step, "dbuv")),
        f"insert:{link[0]}:attenuator:{step}" if link else None,
    )
