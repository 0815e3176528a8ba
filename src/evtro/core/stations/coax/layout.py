"""The run as a picture: columns along the signal, rows down the outlets; wires never cross."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...job import Job, Link
from ...plant.network import part_type
from ...plant.parts import Catalogue, PartType

FLOOR_GAP = 0.25
ANTENNA_ROWS = 3.2  # between antennas that meet in a combiner, in rows
INPUT_ROWS = 0.9  # least distance between the lines into one part, in rows


@dataclass(frozen=True)
class Place:
    """Where a part stands: column, rows from top to bottom, and the row of each of its ports."""

    part: str
    column: int
    top: float
    bottom: float
    leaf: bool
    in_rows: list[float]
    out_rows: list[float | None]


@dataclass(frozen=True)
class Layout:
    """All places, the number of columns before the outlets and of rows."""

    places: list[Place]
    columns: int
    rows: float


def lay_out(job: Job, catalogue: Catalogue, looped: frozenset[str]) -> Layout:
    """Place every part that is not on a loop."""
    parts = {p.id: p for p in job.parts if p.id not in looped}
    kinds = {i: part_type(catalogue, p) for i, p in parts.items()}
    links = [k for k in job.links if k.from_part in parts and k.to_part in parts]
    after: dict[str, list[Link]] = {i: [] for i in parts}
    fed: set[str] = set()
    for link in sorted(links, key=lambda k: k.from_port):
        after[link.from_part].append(link)
        fed.add(link.to_part)
    order = _order(list(parts), after)
    column = dict.fromkeys(parts, 0)
    for part in order:
        for link in after[part]:
            column[link.to_part] = max(column[link.to_part], column[part] + 1)
    ends = [p for p in _depth_first(order, after, fed) if not after[p]]
    floors = {o.id: o.floor for o in job.outlets}
    row: dict[str, float] = {}
    y, floor = 0.0, None
    for part in ends:
        here = floors.get(parts[part].outlet or "", floor or "")
        if floor is not None and here != floor:
            y += FLOOR_GAP
        floor = here
        row[part] = y
        y += 1.0
    in_rows: dict[str, list[float]] = {}
    places = []
    for part in reversed(order):
        kind = kinds[part]
        outs: list[float | None] = [None] * kind.outputs
        for link in after[part]:
            if link.from_port < kind.outputs:
                outs[link.from_port] = in_rows[link.to_part][link.to_port]
        known = [o for o in outs if o is not None] or [row.get(part, 0.0)]
        top, bottom = min(known), max(known)
        ins = _in_rows(kind, outs, top, bottom)
        in_rows[part] = ins
        leaf = kind.kind in ("plate", "terminator")
        places.append(
            Place(
                part=part,
                column=column[part],
                top=min([top, *ins]),
                bottom=max([bottom, *ins]),
                leaf=leaf,
                in_rows=ins,
                out_rows=outs,
            )
        )
    columns = max((column[p.part] for p in places if not p.leaf), default=-1) + 1
    return Layout(places[::-1], columns, max(y, max((p.bottom + 1 for p in places), default=0)))


def _in_rows(kind: PartType, outs: list[float | None], top: float, bottom: float) -> list[float]:
    if kind.parallel:
        known = [o for o in outs if o is not None]
        spare = (max(known) if known else top) + INPUT_ROWS
        return [o if o is not None else spare + i for i, o in enumerate(outs)]
    if kind.inputs <= 1:
        return [(top + bottom) / 2] * kind.inputs
    if kind.kind == "combiner":
        # Antennas stand over one another, each with its name below: its lines need the room.
        middle, half = (top + bottom) / 2, ANTENNA_ROWS * (kind.inputs - 1) / 2
        return [float(r) for r in np.linspace(middle - half, middle + half, kind.inputs)]
    need = INPUT_ROWS * (kind.inputs - 1)
    inset = max((bottom - top - 1.6 * need) / 2, 0.0)
    rows = np.linspace(top + inset, max(bottom - inset, top + need), kind.inputs)
    # Terrestrial, the last input, comes first from above: the array stands over the dish.
    return [float(r) for r in [*rows[1:], rows[0]]]


def _order(parts: list[str], after: dict[str, list[Link]]) -> list[str]:
    waits = {p: sum(k.to_part == p for ks in after.values() for k in ks) for p in parts}
    ready = [p for p in parts if waits[p] == 0]
    order = []
    while ready:
        part = ready.pop(0)
        order.append(part)
        for link in after[part]:
            waits[link.to_part] -= 1
            if waits[link.to_part] == 0:
                ready.append(link.to_part)
    return order


def _depth_first(order: list[str], after: dict[str, list[Link]], fed: set[str]) -> list[str]:
    seen: list[str] = []
    stack = [p for p in reversed(order) if p not in fed]
    while stack:
        part = stack.pop()
        if part in seen:
            continue
        seen.append(part)
        stack += [k.to_part for k in reversed(after[part])]
    return seen
