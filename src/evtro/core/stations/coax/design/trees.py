"""The trees that a design may take, one way to lay a run out each: stars, risers, loops, a switch."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

from ....job.parts import Catalogue
from ....physics.geodesy import Floats
from .cascades import switches
from .head import RunHead
from .planter import JUMPER_M, Planter, Ties, Tree, TreeSpot
from .wish import Route, Wish

TAP_MOST = 4


def trees_of(
    head: RunHead, catalogue: Catalogue, wish: Wish, *, waves_mhz: Floats, carried: int
) -> list[Tree]:
    """Every tree of the kinds that are wished for, on the places that there are."""
    plant = Planter(head, catalogue, wish, waves_mhz=waves_mhz, carried=carried)
    makers = {"star": _stars, "riser": _risers, "loop": _loops, "switch": switches}
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
        tree.spots.append(
            TreeSpot(
                choice=plant.choose(tree, plant.splitters(count, first=True)),
                before=last,
                end=0,
                nth=0,
                run=None,
                length_m=JUMPER_M,
            )
        )
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
        tree.spots.append(
            TreeSpot(
                choice=plant.choose(tree, plant.splitters(first, first=True)),
                before=last,
                end=0,
                nth=0,
                run=None,
                length_m=JUMPER_M,
            )
        )
        top = len(tree.spots) - 1
        for g in range(first):
            mine = routes[g * size : (g + 1) * size]
            second = plant.choose(
                tree, plant.splitters(len(mine)) if len(mine) > 1 else [plant.nothing()]
            )
            tree.spots.append(
                TreeSpot(choice=second, before=top, end=0, nth=g, run=None, length_m=JUMPER_M)
            )
            at = len(tree.spots) - 1
            for n, route in enumerate(mine):
                plant.drop(tree, route, at, end=0, nth=n, length_m=length(route), ties=ties)
        yield tree


def _risers(plant: Planter) -> Iterator[Tree]:
    """Taps along each riser, one or more to a floor; risers that are alike are filled alike."""
    if plant.head.trunks != 1:
        return
    risers = plant.wish.by_riser()
    tree = Tree(
        "riser", "taps along " + ("a riser" if len(risers) == 1 else f"{len(risers)} risers")
    )
    top = plant.trunk(tree, joint=len(risers) == 1)
    if len(risers) > 1:
        tree.spots.append(
            TreeSpot(
                choice=plant.choose(tree, plant.splitters(len(risers), 8, first=True)),
                before=top,
                end=0,
                nth=0,
                run=None,
                length_m=JUMPER_M,
            )
        )
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
                plant.drop(
                    tree,
                    route,
                    before,
                    end=1,
                    nth=k,
                    length_m=route.drop_m,
                    ties=ties,
                    branch=(shape, g),
                )
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
    risers = plant.wish.by_riser()
    tree = Tree(
        "loop", "plates in a loop" if len(risers) == 1 else f"plates in {len(risers)} loops"
    )
    top = plant.trunk(tree, joint=len(risers) == 1)
    if len(risers) > 1:
        tree.spots.append(
            TreeSpot(
                choice=plant.choose(tree, plant.splitters(len(risers), 8, first=True)),
                before=top,
                end=0,
                nth=0,
                run=None,
                length_m=JUMPER_M,
            )
        )
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
