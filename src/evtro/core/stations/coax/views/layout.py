"""The run as a picture: columns along the signal, rows down the outlets; wires never cross."""

from __future__ import annotations

import threading
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ....job import Cable, Job
from ....job.parts import PartType
from ....network.graph import Wiring

FLOOR_GAP = 0.25
ANTENNA_ROWS = 3.2  # between antennas that meet in a combiner, in rows
INPUT_ROWS = 0.9  # least distance between the lines into one part, in rows


@dataclass(frozen=True)
class PartPlace:
    """Where a part stands: column, rows from top to bottom, and the row of each of its ports; of a plate
    from which the line goes on that of its outlet last. `before` and `after` are its neighbours along the
    signal."""

    part: str
    column: int
    top: float
    bottom: float
    leaf: bool
    in_rows: list[float]
    out_rows: list[float | None]
    before: str | None
    after: str | None


@dataclass(frozen=True)
class Layout:
    """All places, the number of columns before the outlets and of rows."""

    places: list[PartPlace]
    columns: int
    rows: float


_lock = threading.Lock()
_kept: list[tuple[tuple[object, ...], Layout]] = []
KEPT = 4


def lay_out(job: Job, wiring: Wiring) -> Layout:
    """Place every part that is not on a loop. A run that is joined as one before stands as that did."""
    alike = (
        job.parts,
        job.outlets,
        wiring.order,
        tuple(wiring.kinds.values()),
        tuple((k.id, k.from_part, k.from_port, k.to_part, k.to_port) for k in wiring.links()),
    )
    with _lock:
        known = next((layout for key, layout in _kept if _same(key, alike)), None)
    if known is None:
        known = _placed(job, wiring)
        with _lock:
            _kept[:] = [(alike, known), *_kept][:KEPT]
    return known


def _same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    """Whether two runs are joined alike: rows and kinds by identity, ends of cables by value."""
    return (
        one[0] is other[0]
        and one[1] is other[1]
        and one[2] == other[2]
        and all(a is b for a, b in zip(one[3], other[3], strict=False))  # type: ignore[call-overload]
        and one[4] == other[4]
    )


def _placed(job: Job, wiring: Wiring) -> Layout:
    parts, kinds, order = wiring.parts, wiring.kinds, wiring.order
    after = {i: list(wiring.after[i].values()) for i in order}
    fed = {i for i in order if wiring.before[i]}
    column = dict.fromkeys(order, 0)
    for part in order:
        for link in after[part]:
            column[link.to_part] = max(column[link.to_part], column[part] + 1)
    ends = [p for p in _depth_first(order, after, fed) if not after[p] or kinds[p].receivers]
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
        joined = len(kind.joinable)
        outs: list[float | None] = [None] * joined
        for link in after[part]:
            if link.from_port < joined:
                outs[link.from_port] = in_rows[link.to_part][link.to_port]
        known = [o for o in outs if o is not None]
        own = row.get(part) if kind.receivers and kind.joinable else None
        known = [*known, own] if own is not None else known or [row.get(part, 0.0)]
        top, bottom = min(known), max(known)
        ins = _in_rows(kind, outs, top, bottom)
        in_rows[part] = ins
        leaf = not kind.joinable
        places.append(
            PartPlace(
                part=part,
                column=column[part],
                top=min([top, *ins]),
                bottom=max([bottom, *ins]),
                leaf=leaf,
                in_rows=ins,
                out_rows=outs if own is None else [*outs, own],
                before=next((k.from_part for k in wiring.before[part].values()), None),
                after=next((k.to_part for k in after[part]), None),
            )
        )
    columns = max((column[p.part] for p in places if not p.leaf), default=-1) + 1
    return Layout(places[::-1], columns, max(y, max((p.bottom + 1 for p in places), default=0)))


def _in_rows(kind: PartType, outs: list[float | None], top: float, bottom: float) -> list[float]:
    if kind.together:
        known = [o for o in outs if o is not None]
        spare = (max(known) if known else top) + INPUT_ROWS
        return [o if o is not None else spare + i for i, o in enumerate(outs)]
    if kind.inputs <= 1:
        return [(top + bottom) / 2] * kind.inputs
    if kind.draws_as == "combiner":
        # Antennas stand over one another, each with its name below: its lines need the room.
        middle, half = (top + bottom) / 2, ANTENNA_ROWS * (kind.inputs - 1) / 2
        return [float(r) for r in np.linspace(middle - half, middle + half, kind.inputs)]
    need = INPUT_ROWS * (kind.inputs - 1)
    inset = max((bottom - top - 1.6 * need) / 2, 0.0)
    rows = np.linspace(top + inset, max(bottom - inset, top + need), kind.inputs)
    # Terrestrial, the last input, comes first from above: the array stands over the dish.
    return [float(r) for r in [*rows[1:], rows[0]]]


def _depth_first(order: Sequence[str], after: dict[str, list[Cable]], fed: set[str]) -> list[str]:
    seen: dict[str, None] = {}
    stack = [p for p in reversed(order) if p not in fed]
    while stack:
        part = stack.pop()
        if part in seen:
            continue
        seen[part] = None
        stack += [k.to_part for k in reversed(after[part])]
    return list(seen)
