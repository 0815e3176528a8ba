"""Trees of switches: one, several side by side in a cascade, or cascades along the risers."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ....job.parts import PartType
from .planter import JUMPER_M, Planter, Ties, Tree, TreeSpot

STAGES_MOST = 6
TRUNK_M = 1.0  # between switches of a cascade that hang side by side; common practice, no source


def _takes(plant: Planter, kind: PartType) -> bool:
    """Whether a switch stands for the one that is there, or behind what shares its lines: the same lines
    in, asked for in the same way."""
    head = plant.head.kind
    return (
        head is not None
        and kind.inputs == head.inputs
        and (kind.select == head.select or not head.select)
    )


def _drops(kind: PartType) -> tuple[int, ...]:
    """The outputs of a switch whose lines choose."""
    return tuple(o for o in kind.joinable if kind.selects_at(o))


def switches(plant: Planter) -> Iterator[Tree]:
    """A cable to each outlet from one multiswitch, or from several in a cascade."""
    count = len(plant.wish.routes)
    tree = Tree("switch", f"a cable to each of {count} outlets from a multiswitch")
    ends = [
        (key, kind)
        for key, kind in plant.parts("multiswitch")
        if _takes(plant, kind) and _drops(kind) == kind.joinable
    ]
    found = [
        plant.filling(key, (tuple(kind.joinable),), spare=len(kind.joinable) - count, first=True)
        for key, kind in ends
        if count <= len(kind.joinable) <= max(count + 8, 4)
    ]
    if found:
        tree.spots.append(
            TreeSpot(
                choice=plant.choose(tree, found), before=None, end=0, nth=0, run=None, length_m=0.0
            )
        )
        ties: Ties = {}
        for n, route in enumerate(plant.wish.routes):
            plant.drop(tree, route, 0, end=0, nth=n, length_m=plant.wish.length_m(route), ties=ties)
        yield tree
    most = max((len(kind.joinable) for _, kind in ends), default=0)
    goes_on = [
        (key, kind)
        for key, kind in plant.parts("multiswitch")
        if _takes(plant, kind) and 0 < len(_drops(kind)) < len(kind.joinable)
    ]
    for size in sorted({len(_drops(kind)) for _, kind in goes_on}):
        stages = max(math.ceil((count - most) / size), 1)
        if count > size and most and stages <= STAGES_MOST:
            yield _cascade(
                plant, ends, [g for g in goes_on if len(_drops(g[1])) == size], stages=stages
            )
    for size in sorted({len(_drops(kind)) for _, kind in goes_on}):
        same = [g for g in goes_on if len(_drops(g[1])) == size]
        yield from _along_risers(plant, ends, same, size)


def _cascade(
    plant: Planter,
    ends: list[tuple[str, PartType]],
    goes_on: list[tuple[str, PartType]],
    *,
    stages: int,
) -> Tree:
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
            fillings = [
                plant.stage(key, _drops(kind), spare=size - len(mine), first=stage == 0)
                for key, kind in goes_on
            ]
        else:
            fillings = [
                plant.filling(key, (tuple(kind.joinable),), spare=len(kind.joinable) - len(mine))
                for key, kind in ends
                if len(mine) <= len(kind.joinable) <= max(len(mine) + 8, 4)
            ]
        if before is not None and jumper is None:
            jumper = plant.run(tree, TRUNK_M, lines=len(plant.head.feeds))
        tree.spots.append(
            TreeSpot(
                choice=plant.choose(tree, fillings),
                before=before,
                end=0,
                nth=0,
                run=jumper if before is not None else None,
                length_m=TRUNK_M if before is not None else 0.0,
            )
        )
        before = len(tree.spots) - 1
        for n, route in enumerate(mine):
            plant.drop(
                tree,
                route,
                before,
                end=1 if stage < stages else 0,
                nth=n,
                length_m=plant.wish.length_m(route),
                ties=ties,
            )
    return tree


def _along_risers(
    plant: Planter, ends: list[tuple[str, PartType]], goes_on: list[tuple[str, PartType]], size: int
) -> Iterator[Tree]:
    """On each riser a cascade, its switches as far apart as the outlets that they serve; several risers
    share the lines by a trunk splitter at the head. Risers that are alike are filled alike."""
    wish, lines = plant.wish, len(plant.head.feeds)
    risers = wish.by_riser()
    groups = [[riser[n : n + size] for n in range(0, len(riser), size)] for riser in risers]
    if max(len(g) for g in groups) > STAGES_MOST or max(len(g) for g in groups) * len(groups) < 2:
        return
    stand = {g[len(g) // 2].floor for riser in groups for g in riser}
    if len(risers) == 1 and len(stand) == 1:
        return  # side by side, as above
    count = sum(len(g) for g in groups)
    words = f"{count} switches in cascades along " + (
        "a riser" if len(risers) == 1 else f"{len(risers)} risers"
    )
    tree = Tree("switch", words)
    top: int | None = None
    if len(risers) > 1:
        shared = plant.trunk_splitters(len(risers))
        tree.spots.append(
            TreeSpot(
                choice=plant.choose(tree, plant.launch()),
                before=None,
                end=0,
                nth=0,
                run=None,
                length_m=JUMPER_M,
            )
        )
        tree.spots.append(
            TreeSpot(
                choice=plant.choose(tree, shared),
                before=0,
                end=0,
                nth=0,
                run=None,
                length_m=JUMPER_M,
            )
        )
        top = 1
    stems: Ties = {}
    ties: Ties = {}
    for end, riser in enumerate(groups):
        shape = tuple(
            (r.floor, r.drop_m, plant.head.plates.get(r.outlet)) for g in riser for r in g
        )
        before, floor, way_m = top, 0, wish.head_m
        for g, group in enumerate(riser):
            here = group[len(group) // 2].floor
            length = way_m + wish.floor_m * (here - floor)
            floor, way_m = here, 0.0
            if (shape, g) not in stems:
                spare, last = size - len(group), g == len(riser) - 1
                fillings = [
                    plant.stage(
                        key, _drops(kind), spare=spare + lines * last, first=top is None and g == 0
                    )
                    for key, kind in goes_on
                ]
                if last:
                    fillings += [
                        plant.filling(
                            key, (tuple(kind.joinable),) * 2, spare=len(kind.joinable) - len(group)
                        )
                        for key, kind in ends
                        if len(group) <= len(kind.joinable) <= max(len(group) + 8, 4)
                    ]
                run = -1 if top is None and g == 0 else plant.run(tree, length, lines=lines)
                stems[shape, g] = run, plant.choose(tree, fillings)
            run, switch = stems[shape, g]
            tree.spots.append(
                TreeSpot(
                    choice=switch,
                    before=before,
                    end=end if before == top else 0,
                    nth=0,
                    run=run if run >= 0 else None,
                    length_m=length if run >= 0 else JUMPER_M,
                )
            )
            before = len(tree.spots) - 1
            for n, route in enumerate(group):
                off = wish.floor_m * abs(route.floor - here)
                first_m = (
                    length if run < 0 else 0.0
                )  # one riser: its first switch hangs at the head
                plant.drop(
                    tree,
                    route,
                    before,
                    end=1,
                    nth=n,
                    length_m=route.drop_m + off + first_m,
                    ties=ties,
                    branch=(shape, g),
                )
    yield tree
