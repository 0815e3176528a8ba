"""Cables as routes: what a cable needs on its way, and the way that the Site plan gives."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...job import Cable, Job
from ...job.built import Lies, Route
from ...job.changes import Change, Set
from ...network.graph import Wiring
from ...units.quantities import Phrase, Quantity

CLIP_M = 0.6  # from clip to clip; common practice, no source
CLIPPED: frozenset[Lies] = frozenset({"mast", "roof", "wall", "down", "indoors", "riser"})
HOLE_M, DRIP_M = 0.3, 0.3  # common practice, no source
# Spare cable at the antenna by school; common practice, no source.
SLACK_M = {"loop": 0.7, "short": 0.1, "coil": 3.0}
WORDS: dict[Lies, str] = {
    "mast": "down the mast", "roof": "over the roof", "loft": "through the loft", "wall": "along the wall",
    "down": "down the wall", "hole": "through a hole", "riser": "in the riser", "duct": "in a duct",
    "ground": "under ground", "indoors": "indoors", "loop": "in loops", "slack": "slack",
}  # fmt: skip


@dataclass(frozen=True)
class CableWay:
    """What a cable needs: clips, holes to drill, loops; its way in words; and the way that the Site plan
    gives, where it comes from the mast and that is another one."""

    link: str
    clips: int
    holes: int
    words: Phrase
    from_plan: Change | None
    plan_words: Phrase


def way_of(job: Job, wiring: Wiring, link: Cable) -> CableWay:
    """The way of one cable."""
    planned = _from_plan(job, wiring, link)
    other = planned is not None and _outside(planned) != _outside(link.route)
    return CableWay(
        link=link.id,
        clips=clips_of(link),
        holes=sum(1 for kind, _ in link.route if kind == "hole"),
        words=told(link.route),
        plan_words=told(planned) if planned and other else (),
        from_plan=Set(rows="links", id=link.id, values={"route": [list(s) for s in planned]})
        if planned and other
        else None,
    )


def _outside(route: Route) -> Route:
    return tuple(s for s in route if s[0] != "indoors")


def clips_of(link: Cable) -> int:
    """Clips or ties for the stretches that want them."""
    return sum(math.ceil(metres / CLIP_M) for kind, metres in link.route if kind in CLIPPED)


def told(route: Route) -> Phrase:
    """A route in words."""
    said: list[str | Quantity] = []
    for kind, metres in route:
        said += [", " if said else "", Quantity(metres, "m"), f" {WORDS[kind]}"]
    return tuple(w for w in said if w != "")


def _from_plan(job: Job, wiring: Wiring, link: Cable) -> Route | None:
    """From an antenna down the mast and the wall, along it to the entry, looped, and through a sloping hole;
    what is left of the cable's length lies indoors."""
    if link.from_part not in wiring.kinds:
        return None
    own = wiring.parts[link.from_part]
    antenna = next((a for a in job.antennas if a.id == own.antenna), None)
    if antenna is None:
        return None
    site = job.site
    mast = max(antenna.on_mast_m, 0.1)
    entry: Lies = "loft" if job.mast.fixing == "loft" else "wall"
    along = max(site.entry_distance_m, 0.1)
    route: list[tuple[Lies, float]] = [
        ("slack", SLACK_M[job.run_school.slack]),
        ("mast", round(mast, 2)),
        (entry, round(along, 2)),
        ("loop", DRIP_M),
        ("hole", HOLE_M),
    ]
    rest = link.length_m - sum(m for _, m in route)
    if link.route:
        rest = sum(m for kind, m in link.route if kind == "indoors")
    if rest > 0.05:
        route.append(("indoors", round(rest, 2)))
    return tuple(route)
