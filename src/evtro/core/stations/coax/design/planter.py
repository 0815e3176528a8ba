"""What a tree is made of: spots with the parts that may sit there, from what is at hand, and the runs of
cable that lead to them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field, replace

import numpy as np

from ....job.parts import Catalogue, PartType
from ....network.optimise import Filler, PartChoice, Pick
from ....physics.geodesy import Floats
from ..checks.return_path import BOTTOM_MHZ, STOPPED_DB
from ..levels.ratings import SUM_OVER_RATING_DB
from .groups import designed_groups
from .head import NEW, RunHead
from .prices import COUPLER, price_of, price_per_m
from .wish import Route, TreeKind, Wish

JUMPER_M = 0.0  # parts side by side at the head
AMPLIFIER_RESERVE_DB = 2.0  # kept under an amplifier's rating; common practice, no source
STEP_DB = 1.0  # by which knobs are turned
CABLE = "rg6"  # whose impedance the run has


@dataclass(frozen=True, eq=False)
class Filling:
    """A part in a spot: its key, None for nothing at all, its setting, and the ports of each end."""

    key: str | None
    setting_db: float | None
    ports: tuple[tuple[int, ...], ...]
    option: Filler


@dataclass(frozen=True, eq=False)
class TreeSpot:
    """A place for a part: which choice fills it, the spot before it with the end and the number of the
    port there, the run that leads to it and its length [m]. `outlet` where it is a plate, `kept` where
    the cable is there already."""

    choice: int
    before: int | None
    end: int
    nth: int
    run: int | None
    length_m: float
    outlet: str | None = None


@dataclass(eq=False)
class Tree:
    """One way to lay a run out."""

    kind: TreeKind
    words: str
    fillings: list[tuple[Filling, ...]] = field(default_factory=list)
    cables: dict[int, tuple[str, ...]] = field(default_factory=dict)
    choices: list[PartChoice] = field(default_factory=list)
    spots: list[TreeSpot] = field(default_factory=list)

    def way(self, spot: int) -> tuple[tuple[int, int], ...]:
        """The choices on the way to a spot and through it to its receiver, each with its end."""
        found: list[tuple[int, int]] = []
        end = 1 if self._through(spot) else 0
        here: int | None = spot
        while here is not None:
            at = self.spots[here]
            found.append((at.choice, end))
            if at.run is not None:
                found.append((at.run, 0))
            here, end = at.before, at.end
        return tuple(reversed(found))

    def _through(self, spot: int) -> bool:
        return any(len(f.ports) > 1 for f in self.fillings[self.spots[spot].choice])

    def picks_of(self, spot: int, picks: tuple[int, ...]) -> tuple[Pick, ...]:
        """What was picked on the way to a spot."""
        return tuple(sorted({(c, picks[c]) for c, _ in self.way(spot)}))


# What a part does to signals: all but what it lets up the line, and its name.
_TO_SIGNALS = (
    "draws_as", "inputs", "outputs", "receivers", "paths", "setting", "setting_at", "setting_most_db", "load",
    "return_loss_in_db", "return_loss_out_db", "isolation_db", "price", "input_low_dbuv", "input_high_dbuv",
)  # fmt: skip


class Planter:
    """Builds trees from what is at hand."""

    def __init__(
        self, head: RunHead, catalogue: Catalogue, wish: Wish, *, waves_mhz: Floats, carried: int
    ) -> None:
        self.head, self.catalogue, self.wish, self.mhz = head, catalogue, wish, waves_mhz
        self.count = carried  # carriers that an amplifier carries
        job = head.kept
        groups = designed_groups(job)
        self.modem = "cable" in groups and any(o.company == "modem" for o in job.outlets)
        self.asking = {o.id for o in job.outlets if o.satellite} if "satellite" in groups else set()
        self.asks = bool(self.asking)
        same = [k for k in catalogue.cables if catalogue.exchangeable(CABLE, k)]
        # A cable that loses and costs as much as another is not worth a choice.
        self.cables = [k for k in same if not any(self._beats(o, k) for o in same if o != k)]

    def _beats(self, one: str, other: str) -> bool:
        a, b = self.catalogue.cables[one], self.catalogue.cables[other]
        loss = [float(c.loss_db(100, 1000.0)) for c in (a, b)]
        cost = [price_per_m(c) for c in (a, b)]
        ahead = list(self.catalogue.cables).index(one) < list(self.catalogue.cables).index(other)
        better = loss[0] < loss[1] or cost[0] < cost[1] or a.loop_ohm_km < b.loop_ohm_km or ahead
        return (
            loss[0] <= loss[1] and cost[0] <= cost[1] and a.loop_ohm_km <= b.loop_ohm_km and better
        )

    def parts(self, *draws_as: str) -> Iterator[tuple[str, PartType]]:
        """The parts at hand of some kinds; of those that do the same to every signal the first."""
        there = {
            self.head.kind.key if self.head.kind is not None else "",
            *self.head.plates.values(),
        }
        seen: list[PartType] = []
        for key, kind in self.catalogue.parts.items():
            fits = (kind.input_ohm, kind.output_ohm) == (75.0, 75.0)
            if kind.draws_as not in draws_as or not fits or not self._lets_back(kind):
                continue
            if key in there or not any(self._same(kind, o) for o in seen):
                seen.append(kind)
                yield key, kind

    def _same(self, one: PartType, other: PartType) -> bool:
        """Whether two parts differ in what they let up the line at most, where nothing goes up it."""
        return not self.asks and all(getattr(one, f) == getattr(other, f) for f in _TO_SIGNALS)

    def _lets_back(self, kind: PartType) -> bool:
        """Whether a modem's signal comes back through a part, where one hangs behind; where none does, what is
        made for it is left out."""
        if not self.modem:
            return all(p.back_db is None for p in kind.paths)
        mhz = np.linspace(BOTTOM_MHZ, self.head.kept.company.return_high_mhz, 4)
        return all(float(p.back_at(mhz).min()) > -STOPPED_DB for p in kind.paths)

    def gain(self, kind: PartType, output: int, setting: float | None = None) -> Floats:
        """What each carrier loses to an output [dB], from the input that it comes by."""
        found = np.full(len(self.mhz), -1000.0)
        inputs = set(self.head.input_of) if kind.inputs > 1 else {0}
        for i in inputs:
            gain = kind.gain_db(i, output, self.mhz, setting)
            if gain is not None:
                mine = np.array([kind.inputs == 1 or n == i for n in self.head.input_of], bool)
                found = np.where(mine, gain, found)
        return found

    def filling(
        self,
        key: str,
        ends: tuple[tuple[int, ...], ...],
        setting: float | None = None,
        *,
        spare: int = 0,
        first: bool = False,
    ) -> Filling:
        """A part with the ports of its ends; `spare` of them are capped. The first one that branches may be
        the one that is there."""
        kind = self.catalogue.parts[key]
        gain = np.array([self.gain(kind, ports[0], setting) for ports in ends])
        cap = price_of(self.catalogue.parts["terminator"]) if spare else 0.0
        kept = first and self.head.kind is not None and key == self.head.kind.key
        cost = (0.0 if kept else price_of(kind)) + spare * cap
        return Filling(
            key, setting, ports=ends, option=Filler(gain, cost, (0 if kept else 1) + spare)
        )

    def stage(self, key: str, drops: tuple[int, ...], spare: int, first: bool) -> Filling:
        """A switch whose trunks go on: its first end are they, each of its own line, its second the drops."""
        trunks = self._by_line(key, (tuple(sorted(self.head.feeds)),), spare=spare, first=first)
        own = self.filling(key, (drops,))
        gains = np.vstack([trunks.option.gain_db, own.option.gain_db])
        return replace(
            trunks, ports=(*trunks.ports, drops), option=replace(trunks.option, gain_db=gains)
        )

    def _by_line(
        self,
        key: str,
        ends: tuple[tuple[int, ...], ...],
        *,
        spare: int,
        first: bool,
        setting: float | None = None,
    ) -> Filling:
        """A part whose ends have an output for every line, each carrier by its own."""
        kind, gains = self.catalogue.parts[key], []
        for ports in ends:
            onward = np.full(len(self.mhz), -1000.0)
            for i, output in zip(sorted(self.head.feeds), ports, strict=True):
                gain = kind.gain_db(i, output, self.mhz, setting)
                if gain is not None:
                    onward = np.where(np.array(self.head.input_of) == i, gain, onward)
            gains.append(onward)
        one = self.filling(key, ends, setting, spare=spare, first=first)
        return replace(one, option=replace(one.option, gain_db=np.array(gains)))

    def nothing(self) -> Filling:
        return Filling(None, None, ((0,),), Filler(np.zeros((1, len(self.mhz))), 0.0, 0))

    def choose(self, tree: Tree, fillings: list[Filling]) -> int:
        tree.fillings.append(tuple(fillings))
        tree.choices.append(PartChoice(tuple(f.option for f in fillings)))
        return len(tree.choices) - 1

    def run(self, tree: Tree, length_m: float, there: str | None = None, lines: int = 1) -> int:
        """A length of cable, of several side by side where a cascade's trunks go on; one that is there already
        costs nothing."""
        options = []
        for key in self.cables:
            cable = self.catalogue.cables[key]
            gain = -cable.loss_db(length_m, self.mhz)[None]
            cost = 0.0 if key == there else price_per_m(cable) * length_m * lines
            options.append(Filler(gain, cost, 0))
        tree.fillings.append(())
        tree.choices.append(PartChoice(tuple(options)))
        tree.cables[len(tree.choices) - 1] = tuple(self.cables)
        return len(tree.choices) - 1

    def trunk(self, tree: Tree, joint: bool = False) -> int | None:
        """An amplifier or an attenuator at the head, and an equaliser behind it, or neither. Where a cable
        goes on from a cable that is kept, a coupler joins them."""
        joint = joint and all(feed.id != NEW for feed in self.head.feeds.values())
        gain = [self.filling(COUPLER, ((0,),)) if joint else self.nothing()]
        for key, kind in self.parts("amplifier", "attenuator"):
            if kind.inputs != 1 or kind.outputs != 1 or kind.load is not None:
                continue  # what is powered over the line belongs to what is kept
            most = int(kind.setting_most_db) if kind.setting else 0
            first = 1 if kind.draws_as == "attenuator" else 0
            for step in range(first, min(most, 20) + 1):
                setting = float(step) * STEP_DB if kind.setting else None
                if self._bears(kind, setting):
                    gain.append(self.filling(key, ((0,),), setting))
        equal = [self.nothing()] + [
            self.filling(key, ((0,),)) for key, _ in self.parts("equaliser")
        ]
        before = None
        for fillings in (gain, equal):
            spot = TreeSpot(
                choice=self.choose(tree, fillings),
                before=before,
                end=0,
                nth=0,
                run=None,
                length_m=JUMPER_M,
            )
            tree.spots.append(spot)
            before = len(tree.spots) - 1
        return before

    def launch(self) -> list[Filling]:
        """Nothing, or an amplifier for all lines at the head, turned down as far as it goes."""
        lines, found = tuple(sorted(self.head.feeds)), [self.nothing()]
        for key, kind in self.parts("amplifier"):
            if not kind.together or kind.inputs != len(lines) or kind.load is not None:
                continue
            for step in range(int(kind.setting_most_db) + 1 if kind.setting else 1):
                setting = float(step) * STEP_DB if kind.setting else None
                one = self._by_line(key, (lines,), spare=0, first=False, setting=setting)
                if self._bears(kind, setting, one.option.gain_db[0]):
                    found.append(one)
        return found

    def _bears(self, kind: PartType, setting: float | None, gain_db: Floats | None = None) -> bool:
        """Whether a part at the head stays under its rating."""
        limits = [p.rated_output_dbuv for p in kind.paths if p.rated_output_dbuv is not None]
        if not limits:
            return True
        gain = float(np.max(self.gain(kind, 0, setting) if gain_db is None else gain_db))
        less = 7.5 * math.log10(max(self.count - 1, 1))
        rated = min(limits) - kind.rating_less_db(setting) - AMPLIFIER_RESERVE_DB
        into = kind.input_high_dbuv
        level = float(np.nanmax(self.head.level_dbuv))
        bears = (
            level + gain <= rated - less
            and self.head.total_dbuv + gain <= rated + SUM_OVER_RATING_DB
        )
        return bears and (into is None or level <= into)

    def splitters(self, count: int, most: int | None = None, first: bool = False) -> list[Filling]:
        """Splitters with as many outputs or some more, the rest capped."""
        found = []
        for key, kind in self.parts("splitter"):
            outs = kind.joinable
            gains = [kind.gain_db(0, o, 600.0, None) for o in outs]
            same = len({gain.tobytes() for gain in gains if gain is not None}) == 1
            if kind.inputs == 1 and same and count <= len(outs) <= (most or count + 2):
                found.append(
                    self.filling(key, (tuple(outs),), spare=len(outs) - count, first=first)
                )
        return found

    def trunk_splitters(self, count: int) -> list[Filling]:
        """Parts that share all lines among so many risers or some more; each riser is an end with an output
        of every line."""
        lines, found = sorted(self.head.feeds), []
        for key, kind in self.parts("splitter"):
            outs = [
                [o for o in kind.joinable if kind.gain_db(i, o, self.mhz[:1], None) is not None]
                for i in lines
            ]
            if (
                kind.inputs != len(lines)
                or {len(o) for o in outs} == {0}
                or len({len(o) for o in outs}) > 1
            ):
                continue
            risers = len(outs[0])
            if count <= risers <= count + 4:
                found.append(
                    self._by_line(
                        key,
                        tuple(zip(*outs, strict=True)),
                        spare=(risers - count) * len(lines),
                        first=True,
                    )
                )
        return found

    def taps(self, drops: int, last: bool, first: bool = False) -> list[Filling]:
        """Taps with as many drops or some more; at the end of a riser the way on is capped."""
        found = []
        for key, kind in self.parts("tap"):
            if kind.inputs == 1 and drops <= kind.outputs - 1 <= max(drops + 2, 1):
                ends = ((0,), tuple(range(1, kind.outputs)))
                found.append(
                    self.filling(key, ends, spare=kind.outputs - 1 - drops + last, first=first)
                )
        return found

    def plates(self, outlet: str, through: bool = False) -> list[Filling]:
        """Wall plates for an outlet, that end a line or go on; the one that is there costs nothing."""
        found = []
        for key, kind in self.parts("plate"):
            if kind.inputs != 1 or len(kind.receivers) != 1:
                continue
            goes_on = bool(kind.joinable)
            if goes_on != through:
                continue
            plain = (kind.receivers[0],)
            if outlet in self.asking and not any(o in plain for _, o in kind.dc):
                continue  # no voltage of a receiver goes up through it
            ends = (tuple(kind.joinable), plain) if goes_on else (plain,)
            one = self.filling(key, ends)
            if self.head.plates.get(outlet) == key:
                one = replace(one, option=replace(one.option, cost=0.0, count=0))
            found.append(one)
        return found

    def drop(
        self,
        tree: Tree,
        route: Route,
        before: int | None,
        *,
        end: int,
        nth: int,
        length_m: float,
        ties: Ties,
        branch: object = None,
    ) -> None:
        """A plate at the end of its own cable; drops that are alike are filled alike. `branch` is what
        they hang on, where that is not the spot itself."""
        old = self.head.drops.get(route.outlet)
        there = (
            old.cable
            if old is not None
            and before_is_head(tree, before)
            and (abs(old.length_m - length_m) < 0.05)
            else None
        )
        key = (
            length_m,
            branch if branch is not None else before,
            end,
            there,
            self.head.plates.get(route.outlet),
        )
        if key not in ties:
            ties[key] = (
                self.run(tree, length_m, there),
                self.choose(tree, self.plates(route.outlet)),
            )
        run, plate = ties[key]
        tree.spots.append(
            TreeSpot(
                choice=plate,
                before=before,
                end=end,
                nth=nth,
                run=run,
                length_m=length_m,
                outlet=route.outlet,
            )
        )


Ties = dict[object, tuple[int, int]]


def before_is_head(tree: Tree, before: int | None) -> bool:
    """Whether a spot stands at the head, where the old lines end."""
    while before is not None:
        if tree.spots[before].run is not None:
            return False
        before = tree.spots[before].before
    return True
