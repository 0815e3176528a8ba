"""Where a problem is told, the ways that lead there, and changes of one part or cable there."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ....fixes.engine import CandidateChange
from ....job import Job
from ....job.parts import PartType
from ....job.problems import Problem
from ....network import edits
from ....units.quantities import InputError, Phrase, Quantity
from ..context import NetworkContext
from ..levels.outlets import Solved

TAKES_DB = 6.0


def links_to(solved: Solved, part: str, carrier: int) -> list[str]:
    """Cables a carrier came by, from the outlet back to the source."""
    node = solved.run.outlet_node(part)
    edges = [] if node is None else solved.run.way_to(node, carrier)
    links = solved.run.circuit.edge_link
    return [links[e] for e, _ in reversed(edges) if links[e]]


class Surroundings:
    """A problem's surroundings: where it is told, and the ways that lead there."""

    def __init__(self, ctx: NetworkContext, problem: Problem) -> None:
        self.ctx, self.problem = ctx, problem
        self.job, self.catalogue, self.solved = ctx.job, ctx.catalogue, ctx.solved
        ends = [ctx.plates[o].id for o in problem.outlets if o in ctx.plates]
        wiring = self.solved.run.wiring
        if not ends and problem.ref is not None and problem.ref in wiring.before:
            ends = [problem.ref]
        self.types = {p.id: self.catalogue.parts[p.type] for p in self.job.parts}
        self.links = ctx.cables
        self.way: list[str] = []  # cables, the nearest to where it is told first
        for end in ends[:1]:
            self.way = [i for i in self._way(end) if i in self.links]
        names = [*reversed([self.links[i].from_part for i in self.way]), *ends[:1]]
        self.parts = [p for p in dict.fromkeys(names) if p in self.types]
        self.shared = [i for i in self.way if all(i in self._way(e) for e in ends)]
        self.excess_db = self._excess()

    def _way(self, end: str) -> list[str]:
        """Cables up from a part by its strongest carrier, from the nearest to the source."""
        for carrier in range(self.solved.columns.wanted):
            if found := links_to(self.solved, end, carrier):
                return found
        found, here = [], end
        wiring = self.solved.run.wiring
        while wiring.before.get(here):
            link = next(iter(wiring.before[here].values()))
            found.append(link.id)
            here = link.from_part
        return found

    def _excess(self) -> float:
        gauge = self.problem.gauge
        if gauge is None or gauge.value is None:
            return 0.0
        over = gauge.value - gauge.high if gauge.high is not None else -math.inf
        under = gauge.low - gauge.value if gauge.low is not None else -math.inf
        return max(over, under) + gauge.reserve

    def takes_the_loudest(self, kind: PartType) -> bool:
        """Whether a filter takes much of what is loudest where it would sit."""
        run = self.solved.run
        node = run.circuit.edges[run.circuit.edge_of_link[self.way[-1]], 1]
        power = run.found.high[node]
        mhz = run.circuit.columns.frequency_mhz[int(power.argmax())]
        gain = kind.gain_db(0, 0, mhz, None)
        return gain is not None and float(gain) < -TAKES_DB

    def kind(self, part: str) -> PartType:
        return self.types[part]

    def name(self, part: str) -> str:
        return self.solved.names.get(part, part)


def made(at: Surroundings, key: str, link: str, setting: float | None) -> Iterator[Job]:
    """The job with a part in a cable, set to so much [dB]; none where it does not fit."""
    try:
        job, new = edits.insert(at.ctx, link, key)
    except InputError:
        return
    yield job if setting is None else edits.with_setting(job, new, setting)


def inserted(
    at: Surroundings, key: str, link: str, *, cost: float, setting: float | None
) -> Iterator[CandidateChange]:
    """A part fitted in a cable, set to so much [dB]."""
    kind, to = at.catalogue.parts[key], at.links[link].to_part
    size: Phrase = () if setting is None else (" of ", Quantity(setting, "db", 0))
    if setting is not None and kind.draws_as != "attenuator":
        size = (", turned down by ", Quantity(setting, "db", 0))
    name = "an attenuator" if kind.draws_as == "attenuator" else f"a {kind.name}"
    for job in made(at, key, link, setting):
        do: Phrase = (f"Fit {name}", *size, f" ahead of {at.name(to)}")
        yield CandidateChange(
            f"insert {link} {key} {setting}",
            f"insert {kind.draws_as} {link}",
            do=do,
            job=job,
            cost=cost,
        )


def replaced(at: Surroundings, part: str, key: str, cost: float) -> Iterator[CandidateChange]:
    """Another part in the place of one."""
    try:
        job = edits.replace(at.ctx, part, key)
    except InputError:
        return
    do = (f"Take {at.catalogue.parts[key].name} in place of {at.name(part)}",)
    yield CandidateChange(f"replace {part} {key}", f"exchange {part}", do=do, job=job, cost=cost)
