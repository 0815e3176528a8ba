"""Where a school asks for bonding but not for a lightning earth: low and close to the wall, or indoors."""

from __future__ import annotations

from dataclasses import dataclass

from ...job import Job
from ...job.profile import Profile
from ...units.phrases import say
from ...units.quantities import Phrase, Quantity

ON_TOP = ("chimney", "roof", "ballast")  # never in the shelter of a wall, whatever was typed
AT_WALL = ("wall", "balcony", "eave", "jpole")


@dataclass(frozen=True)
class Shelter:
    """How far the highest point lies below the roof edge, and how far the outermost one from the wall [m];
    `known` from the roof edge, the mount and the antennas, else as it was typed."""

    below_m: float
    out_m: float
    known: bool


def shelter(job: Job) -> Shelter:
    """From the geometry where the roof edge is known and the mount is at a wall."""
    edge, mast = job.site.roof_edge_m, job.mast
    if edge is None or mast.fixing not in AT_WALL:
        return Shelter(job.earth.below_roof_edge_m, job.earth.from_wall_m, known=False)
    tops = [mast.length_m - (0.0 if mast.fixing == "jpole" else mast.held_m)]
    out = [mast.standoff_m + mast.outer_mm / 2000]
    tops += [a.on_mast_m + UP_M for a in job.arrays]
    out += [mast.standoff_m + a.length_m for a in job.arrays]
    # A dish reaches up by its radius, and out by about its diameter with the arm.
    tops += [d.on_mast_m + d.diameter_m / 2 for d in job.dishes]
    out += [mast.standoff_m + d.diameter_m for d in job.dishes]
    return Shelter(edge - job.site.mount_height_m - max(tops), max(out), known=True)


UP_M = 0.3  # half the height of a terrestrial antenna's elements; common practice, no source


def exemption(job: Job, profile: Profile) -> tuple[bool, Phrase, Shelter]:
    """Whether no lightning earth is asked for here, in words, and how the antennas stand to the roof."""
    stands = shelter(job)
    if job.rig.kind != "none":
        return (
            True,
            (
                "Set up for a while: nothing to earth at a house. Take it down before a thunderstorm, and "
                "unplug it.",
            ),
            stands,
        )
    rule = profile.exemption
    if rule is None:
        return False, ("This school asks for the mast's earth in every place.",), stands
    if job.earth.indoors or job.mast.fixing == "loft":
        return True, (f"Indoors: no lightning earth, but bonding. {rule.origin}.",), stands
    if job.mast.fixing in ON_TOP:
        return False, (f"It stands above the roof's edge: earth the mast. {rule.origin}.",), stands
    if stands.below_m > rule.below_roof_edge_m and stands.out_m < rule.from_wall_m:
        return (
            True,
            say(
                "More than {} below the roof edge and less than {} from the wall: no lightning earth, but "
                "bonding. {}.",
                Quantity(rule.below_roof_edge_m, "m"),
                Quantity(rule.from_wall_m, "m"),
                rule.origin,
            ),
            stands,
        )
    return False, (f"Above the sheltered zone of the wall: earth the mast. {rule.origin}.",), stands
