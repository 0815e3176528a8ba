"""The trees that a design may take: spots in the order of the signal, each with the parts that may sit
there, and the runs of cable that lead to them."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field, replace

import numpy as np

from ....job.parts import Catalogue, PartType
from ....physics.geodesy import Floats
from ....plant.optimum import Choice, Option, Pick
from ..ratings import SUM_OVER_RATING_DB
from .head import Head
from .prices import price_of, price_per_m
from .wish import Route, TreeKind, Wish

JUMPER_M = 0.0  # parts side by side at the head
AMPLIFIER_RESERVE_DB = 2.0  # kept under an amplifier's rating; common practice, no source
STEP_DB = 1.0  # by which knobs are turned
CABLE = "rg6"  # whose impedance the run has
TAP_MOST = 4


@dataclass(frozen=True, eq=False)
class Filling:
    """A part in a spot: its key, None for nothing at all, its setting, and the ports of each end."""

    key: str | None
    setting_db: float | None
    ports: tuple[tuple[int, ...], ...]
    option: Option


@dataclass(frozen=True, eq=False)
class Spot:
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
    choices: list[Choice] = field(default_factory=list)
    spots: list[Spot] = field(default_factory=list)

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


class _Planter:
    """Builds trees from what is at hand."""

    def __init__(self, head: Head, catalogue: Catalogue, wish: Wish, waves_mhz: Floats, counts: int) -> None:  # fmt: skip
        self.head, self.catalogue, self.wish, self.mhz = head, catalogue, wish, waves_mhz
        self.count = counts  # carriers that an amplifier carries
        same = [k for k in catalogue.cables if catalogue.exchangeable(CABLE, k)]
        # A cable that loses and costs as much as another is not worth a choice.
        self.cables = [k for k in same if not any(self._beats(o, k) for o in same if o != k)]

    def _beats(self, one: str, other: str) -> bool:
        a, b = self.catalogue.cables[one], self.catalogue.cables[other]
        loss = [float(c.loss_db(100, 1000.0)) for c in (a, b)]
        cost = [price_per_m(c) for c in (a, b)]
        ahead = list(self.catalogue.cables).index(one) < list(self.catalogue.cables).index(other)
        better = loss[0] < loss[1] or cost[0] < cost[1] or a.loop_ohm_km < b.loop_ohm_km or ahead
        return loss[0] <= loss[1] and cost[0] <= cost[1] and a.loop_ohm_km <= b.loop_ohm_km and better  # fmt: skip

    def parts(self, *draws_as: str) -> Iterator[tuple[str, PartType]]:
        for key, kind in self.catalogue.parts.items():
            if kind.draws_as in draws_as and (kind.input_ohm, kind.output_ohm) == (75.0, 75.0):
                yield key, kind

    def gain(self, kind: PartType, output: int, setting: float | None = None) -> Floats:
        """What each carrier loses to an output, from the input that it comes by."""
        found = np.full(len(self.mhz), -1000.0)
        inputs = set(self.head.input_of) if kind.inputs > 1 else {0}
        for i in inputs:
            gain = kind.gain_db(i, output, self.mhz, setting)
            if gain is not None:
                mine = np.array([kind.inputs == 1 or n == i for n in self.head.input_of], bool)
                found = np.where(mine, gain, found)
        return found

    def filling(self, key: str, ends: tuple[tuple[int, ...], ...], setting: float | None = None,
                spare: int = 0) -> Filling:  # fmt: skip
        """A part with the ports of its ends; `spare` of them are capped."""
        kind = self.catalogue.parts[key]
        gain = np.array([self.gain(kind, ports[0], setting) for ports in ends])
        cap = price_of(self.catalogue.parts["terminator"]) if spare else 0.0
        kept = key == (self.head.kind.key if self.head.kind else None) and not ends[1:]
        cost = (0.0 if kept else price_of(kind)) + spare * cap
        return Filling(key, setting, ends, Option(gain, cost, (0 if kept else 1) + spare))

    def nothing(self) -> Filling:
        return Filling(None, None, ((0,),), Option(np.zeros((1, len(self.mhz))), 0.0, 0))

    def choose(self, tree: Tree, fillings: list[Filling]) -> int:
        tree.fillings.append(tuple(fillings))
        tree.choices.append(Choice(tuple(f.option for f in fillings)))
        return len(tree.choices) - 1

    def run(self, tree: Tree, length_m: float, there: str | None = None) -> int:
        """A length of cable; one that is there already costs nothing."""
        options = []
        for key in self.cables:
            cable = self.catalogue.cables[key]
            gain = -cable.loss_db(length_m, self.mhz)[None]
            cost = 0.0 if key == there else price_per_m(cable) * length_m
            options.append(Option(gain, cost, 0))
        tree.fillings.append(())
        tree.choices.append(Choice(tuple(options)))
        tree.cables[len(tree.choices) - 1] = tuple(self.cables)
        return len(tree.choices) - 1

    def trunk(self, tree: Tree) -> int | None:
        """An amplifier or an attenuator at the head, and an equaliser behind it, or neither."""
        gain = [self.nothing()]
        for key, kind in self.parts("amplifier", "attenuator"):
            if kind.inputs != 1 or kind.outputs != 1:
                continue
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
            spot = Spot(self.choose(tree, fillings), before, 0, 0, None, JUMPER_M)
            tree.spots.append(spot)
            before = len(tree.spots) - 1
        return before

    def _bears(self, kind: PartType, setting: float | None) -> bool:
        """Whether a part at the head stays under its rating."""
        limits = [p.rated_output_dbuv for p in kind.paths if p.rated_output_dbuv is not None]
        if not limits:
            return True
        gain = float(np.max(self.gain(kind, 0, setting)))
        less = 7.5 * math.log10(max(self.count - 1, 1))
        rated = min(limits) - kind.rating_less_db(setting) - AMPLIFIER_RESERVE_DB
        into = kind.input_high_dbuv
        level = float(np.nanmax(self.head.level_dbuv))
        bears = level + gain <= rated - less and self.head.total_dbuv + gain <= rated + SUM_OVER_RATING_DB  # fmt: skip
        return bears and (into is None or level <= into)

    def splitters(self, count: int, most: int | None = None) -> list[Filling]:
        """Splitters with as many outputs or some more, the rest capped."""
        found = []
        for key, kind in self.parts("splitter"):
            outs = kind.joinable
            same = len({kind.gain_db(0, o, 600.0, None).tobytes() for o in outs  # type: ignore[union-attr]
                        if kind.gain_db(0, o, 600.0, None) is not None}) == 1  # fmt: skip
            if kind.inputs == 1 and same and count <= len(outs) <= (most or count + 2):
                found.append(self.filling(key, (tuple(outs),), spare=len(outs) - count))
        return found

    def taps(self, drops: int, last: bool) -> list[Filling]:
        """Taps with as many drops or some more; at the end of a riser the way on is capped."""
        found = []
        for key, kind in self.parts("tap"):
            if kind.inputs == 1 and drops <= kind.outputs - 1 <= max(drops + 2, 1):
                ends = ((0,), tuple(range(1, kind.outputs)))
                found.append(self.filling(key, ends, spare=kind.outputs - 1 - drops + last))
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
            ends = (tuple(kind.joinable), plain) if goes_on else (plain,)
            one = self.filling(key, ends)
            if self.head.plates.get(outlet) == key:
                one = replace(one, option=replace(one.option, cost=0.0, count=0))
            found.append(one)
        return found

    def drop(self, tree: Tree, route: Route, before: int | None, *, end: int, nth: int,
             length_m: float, ties: Ties, branch: object = None) -> None:  # fmt: skip
        """A plate at the end of its own cable; drops that are alike are filled alike. `branch` is what
        they hang on, where that is not the spot itself."""
        old = self.head.drops.get(route.outlet)
        there = old.cable if old is not None and before_is_head(tree, before) and (
            abs(old.length_m - length_m) < 0.05) else None  # fmt: skip
        key = (length_m, branch if branch is not None else before, end, there,
               self.head.plates.get(route.outlet))  # fmt: skip
        if key not in ties:
            ties[key] = (
                self.run(tree, length_m, there),
                self.choose(tree, self.plates(route.outlet)),
            )
        run, plate = ties[key]
        tree.spots.append(Spot(plate, before, end, nth, run, length_m, route.outlet))


Ties = dict[object, tuple[int, int]]


def before_is_head(tree: Tree, before: int | None) -> bool:
    """Whether a spot stands at the head, where the old lines end."""
    while before is not None:
        if tree.spots[before].run is not None:
            return False
        before = tree.spots[before].before
    return True


def trees_of(
    head: Head, catalogue: Catalogue, wish: Wish, *, waves_mhz: Floats, carried: int
) -> list[Tree]:
    """Every tree of the kinds that are wished for, on the places that there are."""
    plant = _Planter(head, catalogue, wish, waves_mhz, carried)
    makers = {"star": _stars, "riser": _risers, "loop": _loops, "switch": _switches}
    return [_counted(tree) for kind in wish.trees for tree in makers[kind](plant) if _whole(tree)]


def _whole(tree: Tree) -> bool:
    """Whether there is something for every spot."""
    return all(choice.options for choice in tree.choices)


def _counted(tree: Tree) -> Tree:
    """The tree with the number of spots and runs that each choice fills."""
    used = Counter(c for s in tree.spots for c in (s.choice, s.run) if c is not None)
    tree.choices = [replace(c, copies=used[n]) for n, c in enumerate(tree.choices)]
    return tree


def _stars(plant: _Planter) -> Iterator[Tree]:
    """A cable to each outlet: from one splitter, or from several behind a first one."""
    if plant.head.trunks != 1:
        return
    routes, length = plant.wish.routes, plant.wish.length_m
    count = len(routes)
    tree = Tree("star", f"a cable to each of {count} outlets from one splitter")
    last = plant.trunk(tree)
    ties: Ties = {}
    if count > 1:
        tree.spots.append(Spot(plant.choose(tree, plant.splitters(count)), last, 0, 0, None, JUMPER_M))  # fmt: skip
        last = len(tree.spots) - 1
    for n, route in enumerate(routes):
        plant.drop(tree, route, last, end=0, nth=n, length_m=length(route), ties=ties)
    yield tree
    for first in (2, 3, 4, 6, 8):
        size = math.ceil(count / first)
        if not 2 <= size <= 8 or (first - 1) * size >= count:
            continue
        tree = Tree("star", f"a cable to each outlet from {first} splitters behind a first one")
        last, ties = plant.trunk(tree), {}
        tree.spots.append(Spot(plant.choose(tree, plant.splitters(first)), last, 0, 0, None, JUMPER_M))  # fmt: skip
        top = len(tree.spots) - 1
        for g in range(first):
            mine = routes[g * size : (g + 1) * size]
            second = plant.choose(tree, plant.splitters(len(mine)) if len(mine) > 1 else [plant.nothing()])  # fmt: skip
            tree.spots.append(Spot(second, top, 0, g, None, JUMPER_M))
            at = len(tree.spots) - 1
            for n, route in enumerate(mine):
                plant.drop(tree, route, at, end=0, nth=n, length_m=length(route), ties=ties)
        yield tree


def _by_riser(routes: tuple[Route, ...]) -> list[list[Route]]:
    risers: dict[int, list[Route]] = {}
    for route in sorted(routes, key=lambda r: (r.riser, r.floor)):
        risers.setdefault(route.riser, []).append(route)
    return [risers[r] for r in sorted(risers)]


def _risers(plant: _Planter) -> Iterator[Tree]:
    """Taps along each riser, one or more to a floor; risers that are alike are filled alike."""
    if plant.head.trunks != 1:
        return
    risers = _by_riser(plant.wish.routes)
    tree = Tree(
        "riser", "taps along " + ("a riser" if len(risers) == 1 else f"{len(risers)} risers")
    )
    top = plant.trunk(tree)
    if len(risers) > 1:
        tree.spots.append(Spot(plant.choose(tree, plant.splitters(len(risers), 8)), top, 0, 0, None, JUMPER_M))  # fmt: skip
        top = len(tree.spots) - 1
    ties: Ties = {}
    stems: Ties = {}
    for n, riser in enumerate(risers):
        shape = tuple((r.floor, r.drop_m, plant.head.plates.get(r.outlet)) for r in riser)
        groups = _groups(riser)
        before, end, nth, floor = top, 0, n, 0
        for g, group in enumerate(groups):
            length = plant.wish.head_m if g == 0 else 0.0
            length += plant.wish.floor_m * (group[0].floor - floor)
            floor = group[0].floor
            if (shape, g) not in stems:
                taps = plant.taps(len(group), g == len(groups) - 1)
                stems[shape, g] = plant.run(tree, length), plant.choose(tree, taps)
            run, tap = stems[shape, g]
            tree.spots.append(Spot(tap, before, end, nth, run, length))
            before, end, nth = len(tree.spots) - 1, 0, 0
            for k, route in enumerate(group):
                plant.drop(tree, route, before, end=1, nth=k, length_m=route.drop_m, ties=ties,
                           branch=(shape, g))  # fmt: skip
    yield tree


def _groups(riser: list[Route]) -> list[list[Route]]:
    """The outlets of a riser by floor, at most four to a tap."""
    found: list[list[Route]] = []
    for route in riser:
        if found and found[-1][0].floor == route.floor and len(found[-1]) < TAP_MOST:
            found[-1].append(route)
        else:
            found.append([route])
    return found


def _loops(plant: _Planter) -> Iterator[Tree]:
    """Plates in a row on each riser, each leading on to the next."""
    if plant.head.trunks != 1 or len(plant.wish.routes) < 2:
        return
    risers = _by_riser(plant.wish.routes)
    tree = Tree(
        "loop", "plates in a loop" if len(risers) == 1 else f"plates in {len(risers)} loops"
    )
    top = plant.trunk(tree)
    if len(risers) > 1:
        tree.spots.append(Spot(plant.choose(tree, plant.splitters(len(risers), 8)), top, 0, 0, None, JUMPER_M))  # fmt: skip
        top = len(tree.spots) - 1
    for n, riser in enumerate(risers):
        before, nth, floor, back = top, n, 0, plant.wish.head_m
        for g, route in enumerate(riser):
            length = back + plant.wish.floor_m * (route.floor - floor) + route.drop_m
            floor, back = route.floor, route.drop_m
            plate = plant.choose(tree, plant.plates(route.outlet, g < len(riser) - 1))
            tree.spots.append(
                Spot(plate, before, 0, nth, plant.run(tree, length), length, route.outlet)
            )
            before, nth = len(tree.spots) - 1, 0
    yield tree


def _switches(plant: _Planter) -> Iterator[Tree]:
    """A cable to each outlet from one multiswitch."""
    head = plant.head
    count = len(plant.wish.routes)
    tree = Tree("switch", f"a cable to each of {count} outlets from a multiswitch")
    found = []
    for key, kind in plant.parts("multiswitch"):
        outs = kind.joinable
        takes = (
            head.kind is not None
            and kind.inputs == head.kind.inputs
            and kind.select == head.kind.select
        )
        if takes and count <= len(outs) and len(outs) <= max(count + 8, 4):
            found.append(plant.filling(key, (tuple(outs),), spare=len(outs) - count))
    if not found:
        return
    tree.spots.append(Spot(plant.choose(tree, found), None, 0, 0, None, 0.0))
    ties: Ties = {}
    for n, route in enumerate(plant.wish.routes):
        plant.drop(tree, route, 0, end=0, nth=n, length_m=plant.wish.length_m(route), ties=ties)
    yield tree
