"""Remedies found by trying: the plant with one change, solved again."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..job import Job
from ..parts import Catalogue
from ..profile import Profile
from ..quantities import Phrase, Quantity
from .levels import OutletRow, Solved, outlet_row
from .plant import solve, way_back


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
    outlet = next(o for o in job.outlets if o.id == row.outlet)
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
    again = Solved(solved.sources, solved.plant, levels, solved.lanes)
    afters = [outlet_row(again, profile, outlet, row.part, v) for v in range(len(tries))]
    for good in (("in",), ("in", "near")):
        for v, ((link_id, key), after) in enumerate(zip(tries, afters, strict=True)):
            if after.state in good:
                node = solved.plant.nodes[row.part, "out", 0]
                gives = float(levels.level_dbuv[node, v, carrier])
                return Remedy(
                    ("Pull the ", Quantity(links[link_id].length_m, "m", 0), " in ",
                     catalogue.cables[key].short),
                    ("gives ", Quantity(gives, "dbuv"), f", {after.state}"),
                    f"cable:{link_id}:{key}",
                )  # fmt: skip
    return None


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
