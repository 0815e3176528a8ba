"""How long each step takes, how many it wants, whether it is work at height, and what has to pass after it.

All figures are common practice with no published source: what one practised installer takes with everything
at hand. Waits as practitioners tell them: concrete a day, a scan and a terminal's last alignment minutes.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..job import Job
from ..units.quantities import Step
from .mast.uses import LIFT_ALONE_KG, Weight

GROUND_M = 2.0  # what is not higher is reached from the ground


@dataclass(frozen=True)
class Takes:
    """A step's own time [min], the wait behind it [min] and for what; `high` where it is done at the mast."""

    minutes: float
    wait_min: float = 0.0
    wait_for: str = ""
    high: bool = False


_ID = re.compile(r"\.[a-z]{1,2}\d+(?=\.|$)")
PULL_MIN, PULL_MIN_PER_M = 4.0, 0.4

TIMES: dict[str, Takes] = {
    "site.overhead": Takes(5), "site.consent": Takes(5), "site.outlets": Takes(10), "site.entry": Takes(5),
    "site.kit": Takes(15), "site.hidden": Takes(10),
    "sky.weather": Takes(2), "sky.stand": Takes(10, high=True), "sky": Takes(3, high=True),
    "mast.foot": Takes(20, high=True), "mast.dig": Takes(90), "mast.bears": Takes(40, high=True),
    "mast.bolts": Takes(25, high=True), "mast.brackets": Takes(10, high=True), "mast.plumb": Takes(10, high=True), "mast.tight": Takes(8, high=True), "mast.ground": Takes(15), "mast.guys": Takes(40, high=True),
    "mast": Takes(20, high=True), "rig.level": Takes(15), "rig.circle": Takes(5), "rig.place": Takes(15),
    "rig.bead": Takes(30), "rig.cable": Takes(15), "rig.reflector": Takes(10),
    "rig.deploy": Takes(5, 10, "its first search"),
    "earth.mains": Takes(3), "earth.mast": Takes(30), "earth.electrodes": Takes(45), "earth": Takes(15),
    "aim.stand": Takes(3, high=True), "aim.roof": Takes(10, high=True), "aim.loft": Takes(10),
    "aim.boundary": Takes(3, high=True), "aim.polarisation": Takes(3, high=True), "aim.elevation": Takes(5, high=True),
    "aim.skew": Takes(5, high=True), "aim.azimuth": Takes(5, high=True), "aim.sweep": Takes(10, high=True),
    "aim.spots": Takes(20, high=True), "aim.peak": Takes(15, high=True), "aim.lock": Takes(8, high=True),
    "aim.code": Takes(5), "aim.search": Takes(3, 10, "its search"), "aim.found": Takes(3),
    "aim.loose": Takes(3, high=True), "aim.tight": Takes(4, high=True), "aim.null": Takes(10, high=True), "aim.zero": Takes(5), "aim.axis": Takes(5, high=True),
    "aim.scale": Takes(5, high=True), "aim.beam": Takes(5, 0.5, "the modem's log-in"),
    "aim.transmit": Takes(10, 5, "the terminal's last alignment"), "aim": Takes(5, high=True),
    "coax.loop": Takes(8, high=True), "coax.connectors": Takes(15), "coax.hole": Takes(12), "coax.clips": Takes(8), "coax.caps": Takes(5),
    "coax.company-lines": Takes(10), "coax.company-off": Takes(10), "coax.company-noise": Takes(3, 0.5, "the watch"),
    "coax.company-filter": Takes(5), "coax": Takes(PULL_MIN),
    "readings": Takes(4), "handover.scan": Takes(5, 8, "the scan"), "handover.show": Takes(15),
    "handover.sheet": Takes(5), "handover.labels": Takes(5), "handover.stow": Takes(5),
}  # fmt: skip
# A step that nobody has listed: as long as most, and taken to be at height until somebody does.
UNLISTED = Takes(10, high=True)
CONCRETE_MIN = 24 * 60.0  # before anything pulls on a footing


def timed(
    steps: Mapping[str, list[Step]], job: Job, weights: Sequence[Weight]
) -> dict[str, list[Step]]:
    """The steps with what they take."""
    metres = {f"coax.{link.id}": link.length_m for link in job.links}
    up = job.rig.kind == "none" and job.mast.fixing != "loft" and job.site.mount_height_m > GROUND_M
    inside = {f"aim.{a.id}" for a in job.arrays if a.standing != "outdoors"}
    own = {m.step: m.minutes for m in job.marks if m.minutes is not None}
    named = {w.name: w.kg for w in weights}
    kg = {f"mast.{a.id}": named.get(a.name, 0.0) for a in job.antennas}
    return {
        station: [
            _timed(
                step,
                job,
                metres=metres.get(step.key),
                kg=kg.get(step.key, 0.0),
                own=own.get(step.key),
                up=up and step.key.rpartition(".")[0] not in inside,
            )
            for step in rows
        ]
        for station, rows in steps.items()
    }


def _timed(
    step: Step, job: Job, *, metres: float | None, kg: float, up: bool, own: float | None
) -> Step:
    kind = _ID.sub("", step.key)
    takes = TIMES.get(kind) or TIMES.get(kind.partition(".")[0], UNLISTED)
    minutes = takes.minutes if metres is None else PULL_MIN + PULL_MIN_PER_M * metres
    if kind == "mast.foot" and job.mast.fixing == "pole":
        takes = replace(takes, wait_min=CONCRETE_MIN, wait_for="the concrete")
    usual, minutes = minutes, minutes if own is None else own
    return replace(
        step,
        minutes=minutes,
        usual_min=usual,
        crew=2 if kg > LIFT_ALONE_KG else 1,
        high=takes.high and up,
        wait_min=takes.wait_min,
        wait_for=takes.wait_for,
    )
