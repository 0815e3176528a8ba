"""Single changes of a run that may cure a problem: what an installer would reach for, each with what it
costs beside the others (a turn of a knob 0, a part 2, a cable by its length, an amplifier 6)."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ....fixes.engine import CandidateChange
from ....job import Job
from ....job.parts import PartType
from ....job.problems import Problem
from ....network import edits
from ....network.edits import open_ports
from ....units.quantities import InputError, Phrase, Quantity
from ..context import NetworkContext
from ..feeding import ways_to_feed
from ..levels.outlets import Solved
from ..powering import with_power
from .front_end import JUMPER_M

PASSIVE = ("splitter", "tap")
TAKES_DB = 6.0
STEPS_DB = (3.0, 6.0, 10.0, 15.0)


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


def candidate_changes(ctx: NetworkContext, problem: Problem) -> Iterator[CandidateChange]:
    """Every single change worth a try for a problem."""
    at = Surroundings(ctx, problem)
    if problem.code == "dc-none" and problem.ref:
        yield from _fed(at, problem.ref)
        return
    # What lacks its voltage on the way comes before anything that is bought.
    for part in at.parts:
        if part in ctx.solved.run.dark:
            yield from _fed(at, part)
    if problem.ref not in at.types and not problem.outlets:
        return  # another change took it away
    if problem.code == "idle-supply" and problem.ref:
        yield CandidateChange(
            "idle",
            "idle",
            do=(f"Take {at.name(problem.ref)} out",),
            job=edits.remove(ctx, problem.ref),
            cost=0.5,
        )
    if problem.code == "setting-range" and problem.ref:
        most = at.kind(problem.ref).setting_most_db
        yield CandidateChange(
            "most",
            "most",
            do=(f"Set {at.name(problem.ref)} to ", Quantity(most, "db", 0)),
            job=edits.with_setting(ctx.job, problem.ref, most),
            cost=0.1,
        )
    if problem.code == "amp-late" and problem.ref:
        yield from _to_the_antenna(at, problem.ref)
    if problem.code in ("level-low", "margin", "input-low", "dc-voltage", "slope", "distortion"):
        yield from _cables(at)
    if problem.code in ("level-low", "margin", "input-low"):
        yield from _turned(at, up=True)
        yield from _amplified(at)
        yield from _refiltered(at)
    if problem.code in ("level-high", "overload", "input-high", "distortion", "overload-supposed"):
        yield from _turned(at, up=False)
        yield from _padded(at)
        yield from _filtered(at)
        yield from _less_gain(at)
    if problem.code in ("level-low", "level-high", "margin", "slope", "input-low", "input-high"):
        yield from _exchanged(at)
    if problem.code == "slope":
        yield from _equalised(at)
    if problem.code in ("echo", "margin"):
        yield from _capped(at)
    if problem.code == "echo":
        yield from _turned(at, up=False)
        yield from _padded(at)


def _fed(at: Surroundings, part: str) -> Iterator[CandidateChange]:
    """Ways to power a part."""
    for i, (do, fed, gives) in enumerate(ways_to_feed(at.ctx, part)):
        yield CandidateChange(
            f"feed {part} {i}",
            f"feed {part} {i}",
            do=(*do, ": ", *gives),
            job=fed,
            cost=1.0 + i * 0.5,
        )


def _cables(at: Surroundings) -> Iterator[CandidateChange]:
    """A better cable, at each length of the way."""
    loss = at.catalogue.loss_of_cables_db
    ohms = {key: c.loop_ohm_km for key, c in at.catalogue.cables.items()}
    for link_id in at.way:
        link = at.links[link_id]
        if link.length_m < 2:
            continue
        same = [k for k in loss if at.catalogue.exchangeable(link.cable, k)]
        better = [
            k
            for k in same
            if loss[k] < loss[link.cable] - 0.05
            or (at.problem.code == "dc-voltage" and ohms[k] < ohms[link.cable] * 0.9)
        ]
        seen: set[float] = set()
        for key in sorted(better, key=lambda k: (-loss[k], ohms[k])):
            if loss[key] in seen and at.problem.code != "dc-voltage":
                continue  # the same loss in steel
            seen.add(loss[key])
            links = tuple(
                k.model_copy(update={"cable": key}) if k.id == link_id else k for k in at.job.links
            )
            do: Phrase = (
                "Pull the ",
                Quantity(link.length_m, "m", 0),
                f" to {at.name(link.to_part)} in ",
                at.catalogue.cables[key].short,
            )
            cost = (
                2 + link.length_m / 10 + 0.05 * link.length_m * (loss[link.cable] - loss[key]) / 10
            )
            yield CandidateChange(
                f"cable {link_id} {key}",
                f"cable {link_id}",
                do=do,
                job=at.job.model_copy(update={"links": links}),
                cost=cost,
            )


def _turned(at: Surroundings, *, up: bool) -> Iterator[CandidateChange]:
    """A knob turned: amplifiers and attenuators on the way, no further than they go."""
    settings = {p.id: p.setting_db or 0.0 for p in at.job.parts}
    for part in at.parts:
        kind = at.kind(part)
        if not kind.setting:
            continue
        now = settings.get(part, 0.0)
        for step in sorted({math.ceil(max(at.excess_db, 1.0)), *STEPS_DB}):
            to = now - step if up else now + step
            if up and 0 < now < step:
                to = 0.0
            if not 0 <= to <= kind.setting_most_db or to == now:
                continue
            words = "Turn up" if up else "Turn down"
            do: Phrase = (f"{words} {at.name(part)} by ", Quantity(abs(to - now), "db", 0))
            yield CandidateChange(
                f"turn {part} {to:g}",
                f"turn {part}",
                do=do,
                job=edits.with_setting(at.job, part, to),
                cost=0.1 + step / 100,
            )


def _amplified(at: Surroundings) -> Iterator[CandidateChange]:
    """Gain where the level is still high: at the antenna, or in a cable of the way that all share."""
    head = at.parts[0] if at.parts else None
    for key, kind in at.catalogue.parts.items():
        if kind.draws_as == "amplifier" and kind.inputs == kind.outputs == 1:
            for link in at.shared[-4:]:
                yield from _inserted(at, key, link, cost=6.0, setting=None)
                if kind.setting:
                    half = min(kind.setting_most_db, 10.0)
                    yield from _inserted(at, key, link, cost=6.1, setting=half)
        if (
            kind.draws_as == "preamplifier"
            and head
            and at.kind(head).draws_as == "antenna"
            and at.way
        ):
            for job in _made(at, key, at.way[-1], None):
                new = job.parts[-1].id
                fed = with_power(at.ctx.with_job(job), new, "inserter-12")
                yield CandidateChange(
                    f"preamp {key}",
                    "amplify",
                    do=(f"Fit a {kind.name} at the antenna, with its inserter",),
                    job=fed,
                    cost=7.0,
                )


def _to_the_antenna(at: Surroundings, part: str) -> Iterator[CandidateChange]:
    """A preamplifier hung under its antenna, fed where nothing feeds it yet; or a cable ahead of it
    that loses less."""
    kind, head = at.kind(part), at.parts[0]
    setting = at.ctx.parts[part].setting_db
    bare = edits.remove(at.ctx, part)
    job, new = edits.add_after(
        at.ctx.with_job(bare),
        head,
        type_key=kind.key,
        cable="rg6",
        length_m=JUMPER_M,
        port=0,
    )
    if setting:
        job = edits.with_setting(job, new, setting)
    for key in ("inserter-12", "inserter-18"):
        if key in at.catalogue.parts:
            fed = with_power(at.ctx.with_job(job), new, key)
            words = (
                ""
                if len(fed.parts) == len(job.parts)
                else f", with a {at.catalogue.parts[key].name}"
            )
            yield CandidateChange(
                f"move {part} {key}",
                f"move {part}",
                do=(f"Hang {at.name(part)} under {at.name(head)}{words}",),
                job=fed,
                cost=2.0,
            )


def _padded(at: Surroundings) -> Iterator[CandidateChange]:
    """An attenuator: where the outlets concerned are fed, or ahead of the device that is overdriven."""
    key = next(
        (k for k, p in at.catalogue.parts.items() if p.draws_as == "attenuator" and p.setting), None
    )
    if key is None:
        return
    size = math.ceil(max(at.excess_db, 1.0))
    for link in (at.shared or at.way)[:3]:
        for more in (0, 2, 5):
            if size + more <= at.catalogue.parts[key].setting_most_db:
                yield from _inserted(
                    at, key, link, cost=2.0 + more / 10, setting=float(size + more)
                )


def _filtered(at: Surroundings) -> Iterator[CandidateChange]:
    """A filter ahead of what is overdriven, right behind the antenna."""
    if not at.way:
        return
    for key, kind in at.catalogue.parts.items():
        if (
            kind.draws_as == "filter"
            and kind.inputs == kind.outputs == 1
            and at.takes_the_loudest(kind)
        ):
            yield from _inserted(at, key, at.way[-1], cost=3.0, setting=None)


def _refiltered(at: Surroundings) -> Iterator[CandidateChange]:
    """A filter on the way that stops what is wanted: another one in its place, or none."""
    for part in at.parts:
        kind = at.kind(part)
        if kind.draws_as != "filter" or kind.inputs != 1 or kind.outputs != 1:
            continue
        for key, other in at.catalogue.parts.items():
            if other.draws_as == "filter" and key != kind.key and set(other.dc) >= set(kind.dc):
                yield from _replaced(at, part, key, 2.5)
        job = edits.remove(at.ctx, part)
        yield CandidateChange(
            f"without {part}",
            f"without {part}",
            do=(f"Take {at.name(part)} out",),
            job=job,
            cost=1.0,
        )


def _less_gain(at: Surroundings) -> Iterator[CandidateChange]:
    """Another amplifier of the same use in place of one on the way, or none."""
    for part in at.parts:
        kind = at.kind(part)
        if kind.draws_as not in ("preamplifier", "amplifier"):
            continue
        for key, other in at.catalogue.parts.items():
            if other.draws_as == kind.draws_as and key != kind.key:
                yield from _replaced(at, part, key, 4.0)
        if kind.inputs == kind.outputs == 1:
            job = edits.remove(at.ctx, part)
            yield CandidateChange(
                f"without {part}",
                f"without {part}",
                do=(f"Take {at.name(part)} out",),
                job=job,
                cost=1.0,
            )


def _exchanged(at: Surroundings) -> Iterator[CandidateChange]:
    """Another splitter or tap with the same outputs in place of one on the way."""
    for part in at.parts:
        kind = at.kind(part)
        if kind.draws_as not in PASSIVE:
            continue
        for key, other in at.catalogue.parts.items():
            same = (
                other.draws_as in PASSIVE
                and (other.inputs, other.outputs) == (kind.inputs, kind.outputs)
                and set(other.dc) >= set(kind.dc)
            )
            if same and other.paths != kind.paths:
                yield from _replaced(at, part, key, 2.5)


def _equalised(at: Surroundings) -> Iterator[CandidateChange]:
    """An equaliser in the way of all outlets concerned: one whose loss falls with frequency."""
    for key, kind in at.catalogue.parts.items():
        if kind.draws_as != "equaliser":
            continue
        for link in at.shared[:3]:
            yield from _inserted(at, key, link, cost=2.2, setting=None)


def _capped(at: Surroundings) -> Iterator[CandidateChange]:
    """A terminator on each open port of a part on the way."""
    for part in at.parts:
        used = [k.from_port for k in at.job.links if k.from_part == part]
        free = open_ports(at.kind(part), used)
        if not free or at.kind(part).draws_as == "lnb":
            continue
        job = at.job
        for port in free:
            job, _ = edits.add_after(
                at.ctx.with_job(job),
                part,
                type_key="terminator",
                cable="rg6",
                length_m=0.0,
                port=port,
            )
        yield CandidateChange(
            f"cap {part}",
            f"cap {part}",
            do=(f"Cap the open ports of {at.name(part)}",),
            job=job,
            cost=0.5,
        )


def _made(at: Surroundings, key: str, link: str, setting: float | None) -> Iterator[Job]:
    try:
        job, new = edits.insert(at.ctx, link, key)
    except InputError:
        return
    yield job if setting is None else edits.with_setting(job, new, setting)


def _inserted(
    at: Surroundings, key: str, link: str, *, cost: float, setting: float | None
) -> Iterator[CandidateChange]:
    kind, to = at.catalogue.parts[key], at.links[link].to_part
    size: Phrase = () if setting is None else (" of ", Quantity(setting, "db", 0))
    if setting is not None and kind.draws_as != "attenuator":
        size = (", turned down by ", Quantity(setting, "db", 0))
    name = "an attenuator" if kind.draws_as == "attenuator" else f"a {kind.name}"
    for job in _made(at, key, link, setting):
        do: Phrase = (f"Fit {name}", *size, f" ahead of {at.name(to)}")
        yield CandidateChange(
            f"insert {link} {key} {setting}",
            f"insert {kind.draws_as} {link}",
            do=do,
            job=job,
            cost=cost,
        )


def _replaced(at: Surroundings, part: str, key: str, cost: float) -> Iterator[CandidateChange]:
    try:
        job = edits.replace(at.ctx, part, key)
    except InputError:
        return
    do = (f"Take {at.catalogue.parts[key].name} in place of {at.name(part)}",)
    yield CandidateChange(f"replace {part} {key}", f"exchange {part}", do=do, job=job, cost=cost)
