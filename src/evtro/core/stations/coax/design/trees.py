"""The trees that a design may take, one way to lay a run out each: stars, risers, loops, a switch."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

from ....job.parts import Catalogue, PartType
from ....physics.geodesy import Floats
from .head import RunHead
from .planter import JUMPER_M, Planter, Ties, Tree, TreeSpot
from .wish import Route, Wish

TAP_MOST = 4
STAGES_MOST = 6
TRUNK_M = 1.0  # between switches of a cascade that hang side by side; common practice, no source


def trees_of(
    head: RunHead, catalogue: Catalogue, wish: Wish, *, waves_mhz: Floats, carried: int
) -> list[Tree]:
    """Every tree of the kinds that are wished for, on the places that there are."""
    plant = Planter(head, catalogue, wish, waves_mhz=waves_mhz, carried=carried)
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


def _stars(plant: Planter) -> Iterator[Tree]:
    """A cable to each outlet: from one splitter, or from several behind a first one."""
    if plant.head.trunks != 1:
        return
    routes, length = plant.wish.routes, plant.wish.length_m
    count = len(routes)
    words = f"a cable to each of {count} outlets from one splitter" if count > 1 else "one cable"
    tree = Tree("star", words)
    last = plant.trunk(tree, joint=count == 1)
    ties: Ties = {}
    if count > 1:
        tree.spots.append(TreeSpot(choice=plant.choose(tree, plant.splitters(count, first=True)), before=last, end=0, nth=0, run=None, length_m=JUMPER_M))  # fmt: skip
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
        tree.spots.append(TreeSpot(choice=plant.choose(tree, plant.splitters(first, first=True)), before=last, end=0, nth=0, run=None, length_m=JUMPER_M))  # fmt: skip
        top = len(tree.spots) - 1
        for g in range(first):
            mine = routes[g * size : (g + 1) * size]
            second = plant.choose(tree, plant.splitters(len(mine)) if len(mine) > 1 else [plant.nothing()])  # fmt: skip
            tree.spots.append(
                TreeSpot(choice=second, before=top, end=0, nth=g, run=None, length_m=JUMPER_M)
            )
            at = len(tree.spots) - 1
            for n, route in enumerate(mine):
                plant.drop(tree, route, at, end=0, nth=n, length_m=length(route), ties=ties)
        yield tree


def _by_riser(routes: tuple[Route, ...]) -> list[list[Route]]:
    risers: dict[int, list[Route]] = {}
    for route in sorted(routes, key=lambda r: (r.riser, r.floor)):
        risers.setdefault(route.riser, []).append(route)
    return [risers[r] for r in sorted(risers)]


def _risers(plant: Planter) -> Iterator[Tree]:
    """Taps along each riser, one or more to a floor; risers that are alike are filled alike."""
    if plant.head.trunks != 1:
        return
    risers = _by_riser(plant.wish.routes)
    tree = Tree(
        "riser", "taps along " + ("a riser" if len(risers) == 1 else f"{len(risers)} risers")
    )
    top = plant.trunk(tree, joint=len(risers) == 1)
    if len(risers) > 1:
        tree.spots.append(TreeSpot(choice=plant.choose(tree, plant.splitters(len(risers), 8, first=True)), before=top, end=0, nth=0, run=None, length_m=JUMPER_M))  # fmt: skip
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
                taps = plant.taps(
                    len(group), g == len(groups) - 1, first=len(risers) == 1 and g == 0
                )
                stems[shape, g] = plant.run(tree, length), plant.choose(tree, taps)
            run, tap = stems[shape, g]
            tree.spots.append(
                TreeSpot(choice=tap, before=before, end=end, nth=nth, run=run, length_m=length)
            )
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


def _loops(plant: Planter) -> Iterator[Tree]:
    """Plates in a row on each riser, each leading on to the next."""
    if plant.head.trunks != 1 or len(plant.wish.routes) < 2:
        return
    risers = _by_riser(plant.wish.routes)
    tree = Tree(
        "loop", "plates in a loop" if len(risers) == 1 else f"plates in {len(risers)} loops"
    )
    top = plant.trunk(tree, joint=len(risers) == 1)
    if len(risers) > 1:
        tree.spots.append(TreeSpot(choice=plant.choose(tree, plant.splitters(len(risers), 8, first=True)), before=top, end=0, nth=0, run=None, length_m=JUMPER_M))  # fmt: skip
        top = len(tree.spots) - 1
    for n, riser in enumerate(risers):
        before, nth, floor, back = top, n, 0, plant.wish.head_m
        for g, route in enumerate(riser):
            length = back + plant.wish.floor_m * (route.floor - floor) + route.drop_m
            floor, back = route.floor, route.drop_m
            plate = plant.choose(tree, plant.plates(route.outlet, g < len(riser) - 1))
            tree.spots.append(
                TreeSpot(
                    choice=plate,
                    before=before,
                    end=0,
                    nth=nth,
                    run=plant.run(tree, length),
                    length_m=length,
                    outlet=route.outlet,
                )
            )
            before, nth = len(tree.spots) - 1, 0
    yield tree


def _takes(plant: Planter, kind: PartType) -> bool:
    """Whether a switch stands for the one that is there: the same lines in, asked for in the same way."""
    head = plant.head.kind
    return head is not None and kind.inputs == head.inputs and kind.select == head.select


def _drops(kind: PartType) -> tuple[int, ...]:
    """The outputs of a switch whose lines choose."""
    return tuple(o for o in kind.joinable if kind.selects_at(o))


def _switches(plant: Planter) -> Iterator[Tree]:
    """A cable to each outlet from one multiswitch, or from several in a cascade."""
    count = len(plant.wish.routes)
    tree = Tree("switch", f"a cable to each of {count} outlets from a multiswitch")
    ends = [(key, kind) for key, kind in plant.parts("multiswitch")
            if _takes(plant, kind) and _drops(kind) == kind.joinable]  # fmt: skip
    found = [
        plant.filling(key, (tuple(kind.joinable),), spare=len(kind.joinable) - count, first=True)
        for key, kind in ends if count <= len(kind.joinable) <= max(count + 8, 4)
    ]  # fmt: skip
    if found:
        tree.spots.append(TreeSpot(choice=plant.choose(tree, found), before=None, end=0, nth=0, run=None, length_m=0.0))  # fmt: skip
        ties: Ties = {}
        for n, route in enumerate(plant.wish.routes):
            plant.drop(tree, route, 0, end=0, nth=n, length_m=plant.wish.length_m(route), ties=ties)
        yield tree
    most = max((len(kind.joinable) for _, kind in ends), default=0)
    goes_on = [(key, kind) for key, kind in plant.parts("multiswitch")
               if _takes(plant, kind) and 0 < len(_drops(kind)) < len(kind.joinable)]  # fmt: skip
    for size in sorted({len(_drops(kind)) for _, kind in goes_on}):
        stages = max(math.ceil((count - most) / size), 1)
        if count > size and most and stages <= STAGES_MOST:
            yield _cascade(
                plant, ends, [g for g in goes_on if len(_drops(g[1])) == size], stages=stages
            )


def _cascade(
    plant: Planter, ends: list[tuple[str, PartType]], goes_on: list[tuple[str, PartType]], *, stages: int
) -> Tree:  # fmt: skip
    """So many switches whose trunks go on, each with as many outlets as it takes, and one that ends them."""
    size = len(_drops(goes_on[0][1]))
    # The trunks lose at each switch: who is farthest away hangs on the first.
    routes = sorted(plant.wish.routes, key=lambda r: -plant.wish.length_m(r))
    words = f"{stages + 1} switches in a cascade, a cable to each of {len(routes)} outlets"
    tree = Tree("switch", words)
    ties: Ties = {}
    jumper: int | None = None
    before: int | None = None
    for stage in range(stages + 1):
        mine = (
            routes[stage * size : (stage + 1) * size] if stage < stages else routes[stage * size :]
        )
        if stage < stages:
            fillings = [plant.stage(key, _drops(kind), spare=size - len(mine), first=stage == 0)
                        for key, kind in goes_on]  # fmt: skip
        else:
            fillings = [plant.filling(key, (tuple(kind.joinable),), spare=len(kind.joinable) - len(mine))
                        for key, kind in ends if len(mine) <= len(kind.joinable) <= max(len(mine) + 8, 4)]  # fmt: skip
        if before is not None and jumper is None:
            jumper = plant.run(tree, TRUNK_M, lines=len(plant.head.feeds))
        tree.spots.append(TreeSpot(
            choice=plant.choose(tree, fillings), before=before, end=0, nth=0,
            run=jumper if before is not None else None, length_m=TRUNK_M if before is not None else 0.0))  # fmt: skip
        before = len(tree.spots) - 1
        for n, route in enumerate(mine):
            plant.drop(tree, route, before, end=1 if stage < stages else 0, nth=n,
                       length_m=plant.wish.length_m(route), ties=ties)  # fmt: skip
    return tree
