"""What a change would do to levels, by sums along the way alone: enough to leave out what cannot cure a level."""

from __future__ import annotations

import numpy as np

from ....job import Cable, Job
from ....job.context import JobParts
from ....job.problems import Problem
from ....physics.geodesy import Floats
from ..context import NetworkContext
from ..levels.outlets import Solved
from ..verdict import Verdict

SURE_DB = 0.5  # by so much a sum must miss the limit before it is believed
MOST_PARTS = 200
APART_DB, FAINT_DBUV = 20.0, -100.0


def cannot_help(ctx: NetworkContext, base: Verdict, problem: Problem, *, tried: Job) -> bool:
    """Whether a changed job surely leaves a level where it is told of beyond its limit. Nothing is sure where
    parts lack their voltage or move carriers: what powers them changes more than sums along the way."""
    run = base.solved.run
    if problem.code not in ("level-low", "level-high") or run.dark or run.circuit.source:
        return False
    if not base.outlets:
        return False
    # What stays without its voltage only lowers a level further.
    then = ctx.with_job(tried)
    if problem.code == "level-high" and _drawing(ctx) != _drawing(then):
        return False
    judged = base.outlets[0].judged
    rows = [r for r in base.outlets if r.outlet in problem.outlets and r.part is not None]
    reserve = judged.level_reserve_db if problem.state == "marginal" else 0.0
    before, after = _Sums(ctx, base.solved), _Sums(then, base.solved)
    for row in rows:
        old, new = before.at(row.part or ""), after.at(row.part or "")
        if old is None or new is None:
            continue
        level = judged.level_dbuv[row.index] + new - old
        short = (
            judged.least_dbuv - level if problem.code == "level-low" else level - judged.most_dbuv
        )
        mine = judged.wants[row.index] & np.isfinite(level)
        if bool((short[mine] + reserve > SURE_DB).any()):
            return True
    return False


class _Sums:
    """Levels of a job's carriers by sums of dB from their sources on, every way open."""

    def __init__(self, ctx: JobParts, solved: Solved) -> None:
        job = ctx.job
        self.catalogue, self.solved = ctx.catalogue, solved
        self.parts = ctx.parts
        self.into: dict[str, list[Cable]] = {}
        for link in job.links:
            self.into.setdefault(link.to_part, []).append(link)
        self.mhz = solved.columns.frequency_mhz[: len(solved.channels)]
        self.known: dict[tuple[str, int], Floats | None] = {}

    def at(self, plate: str) -> Floats | None:
        """Level at a plate's receiver [dBµV], -inf for what does not come; None where nobody can say."""
        kind = self.catalogue.part(self.parts[plate].type) if plate in self.parts else None
        return self._out(plate, kind.receivers[0]) if kind is not None and kind.receivers else None

    def _out(self, part: str, output: int) -> Floats | None:
        key = part, output
        if key in self.known:
            return self.known[key]
        if len(self.known) > MOST_PARTS:
            return None
        self.known[key] = None  # a loop comes back here
        own = self.parts[part]
        kind = self.catalogue.part(own.type)
        found: Floats | None = None
        if kind is not None and not kind.inputs:
            given = self.solved.columns.given.get(key_of(part, output))
            found = None if given is None else np.nan_to_num(given[0][: len(self.mhz)], nan=-np.inf)
        elif kind is not None:
            for link in self.into.get(part, ()):
                gain = kind.gain_db(link.to_port, output, self.mhz, own.setting_db)
                if gain is None:
                    continue
                ahead = self._out(link.from_part, link.from_port)
                if ahead is None or link.cable not in self.catalogue.cables:
                    return None
                lost = self.catalogue.cables[link.cable].loss_db(
                    link.length_m, self.mhz, link.celsius
                )
                here = ahead - lost + gain
                if found is not None and _near(here, found):
                    return None  # one carrier by two ways: no sum says what comes of it
                found = here if found is None else np.maximum(found, here)
        self.known[key] = found
        return found


def _drawing(ctx: JobParts) -> set[tuple[str, str]]:
    """The parts that draw current, with their types."""
    kinds = ((p, ctx.catalogue.part(p.type)) for p in ctx.job.parts)
    return {(p.id, p.type) for p, kind in kinds if kind is not None and kind.load is not None}


def _near(one: Floats, other: Floats) -> bool:
    both = np.isfinite(one) & np.isfinite(other) & (np.maximum(one, other) > FAINT_DBUV)
    return bool((np.abs(one[both] - other[both]) < APART_DB).any())


def key_of(part: str, output: int) -> tuple[str, str, int]:
    """A source's port as the plant names it."""
    return part, "out", output
