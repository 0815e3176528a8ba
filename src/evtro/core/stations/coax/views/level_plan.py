"""The level plan and the register of cables: what is hung up at the distribution point."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....job.context import JobParts
from ....units.quantities import text_of
from ....units.severity import State
from ..levels.outlets import GROUPS
from ..levels.parts import part_levels
from ..routes import clips_of, told
from .answer import CoaxAnswer


@dataclass(frozen=True)
class PlanRow:
    """A carrier at a place: level [dBµV] and C/N [dB]; at an outlet its window, margin and state too."""

    place: str
    kind: str
    floor: str
    carrier: str
    frequency_mhz: float
    level_dbuv: float | None
    least_dbuv: float | None
    most_dbuv: float | None
    cn_db: float | None
    margin_db: float | None
    state: State | None


@dataclass(frozen=True)
class CableRow:
    """A cable by its number, with both ends, and what is on it."""

    number: int
    start: str
    start_port: int
    end: str
    end_port: int
    cable: str
    length_m: float
    carries: str
    route: str
    clips: int
    note: str


@dataclass(frozen=True)
class DeviceRow:
    """What a device gets and gives [dBµV], weakest and strongest carrier, what it is set to [dB], and the most
    that it may give."""

    name: str
    type_name: str
    setting_db: float | None
    in_low_dbuv: float | None
    in_high_dbuv: float | None
    out_low_dbuv: float | None
    out_high_dbuv: float | None
    most_dbuv: float | None


def devices(answer: CoaxAnswer) -> list[DeviceRow]:
    """Every part of the run between sources and outlets, in the signal's order."""
    run, count = answer.solved.run, len(answer.channels)
    wiring = run.wiring

    def ends(part: str, side: str, ports: int) -> tuple[float | None, float | None]:
        nodes = [n for port in range(ports) if (n := run.node(part, side, port)) is not None]
        level = run.levels.level_dbuv[nodes][:, :count]
        there = level[np.isfinite(level)]
        return (float(there.min()), float(there.max())) if there.size else (None, None)

    found = []
    views = {p.id: p for p in answer.parts}
    for part in wiring.order:
        kind = wiring.kinds[part]
        if kind.receivers or not kind.inputs or kind.draws_as == "terminator":
            continue
        gets, gives = ends(part, "in", kind.inputs), ends(part, "out", kind.outputs)
        output = views[part].output
        found.append(
            DeviceRow(
                name=answer.names[part],
                type_name=kind.name,
                setting_db=wiring.parts[part].setting_db,
                in_low_dbuv=gets[0],
                in_high_dbuv=gets[1],
                out_low_dbuv=gives[0],
                out_high_dbuv=gives[1],
                most_dbuv=output.high if output is not None else None,
            )
        )
    return found


def level_plan(answer: CoaxAnswer) -> list[PlanRow]:
    """Every wanted carrier at every outlet, then at what every device gives, in the signal's order."""
    channels = {c.id: c for c in answer.channels}
    found = []
    for row in answer.outlets:
        for cell in row.cells:
            channel = channels[cell.carrier]
            found.append(
                PlanRow(
                    place=row.name,
                    kind="outlet",
                    floor=row.floor,
                    carrier=channel.name,
                    frequency_mhz=channel.frequency_mhz,
                    level_dbuv=cell.level.value,
                    least_dbuv=cell.level.low,
                    most_dbuv=cell.level.high,
                    cn_db=cell.cn_db,
                    margin_db=cell.margin.value,
                    state=cell.state,
                )
            )
    wiring = answer.solved.run.wiring
    for part in wiring.order:
        kind = wiring.kinds[part]
        if kind.receivers:
            continue
        for carrier, level, cn in part_levels(answer.solved, part):
            channel = channels[carrier]
            found.append(
                PlanRow(
                    place=answer.names[part],
                    kind=kind.draws_as,
                    floor="",
                    carrier=channel.name,
                    frequency_mhz=channel.frequency_mhz,
                    level_dbuv=level,
                    least_dbuv=None,
                    most_dbuv=None,
                    cn_db=cn,
                    margin_db=None,
                    state=None,
                )
            )
    return found


def cable_register(ctx: JobParts, answer: CoaxAnswer) -> list[CableRow]:
    """Every cable of the run, in the signal's order; those on a loop last."""
    run = answer.solved.run
    in_order = [k.id for k in run.wiring.links()]
    place = {link: n for n, link in enumerate(in_order)}
    found = []
    for number, link in enumerate(
        sorted(ctx.job.links, key=lambda k: place.get(k.id, len(place))), start=1
    ):
        node = run.node(link.to_part, "in", link.to_port)
        carries = []
        for group in GROUPS:
            mine = answer.solved.of_group[group]
            if node is None:
                continue
            there = mine & (run.levels.signal[node] > 0)
            if there.any():
                waves = [answer.channels[c].frequency_mhz for c in np.flatnonzero(there).tolist()]
                carries.append(f"{group} {min(waves):.0f} to {max(waves):.0f} MHz")
        cable = ctx.catalogue.cables.get(link.cable)
        found.append(
            CableRow(
                number=number,
                start=answer.names.get(link.from_part, link.from_part),
                start_port=link.from_port + 1,
                end=answer.names.get(link.to_part, link.to_part),
                end_port=link.to_port + 1,
                cable=cable.name if cable else link.cable,
                length_m=link.length_m,
                carries=", ".join(carries),
                route=text_of(told(link.route)),
                clips=clips_of(link),
                note=link.note,
            )
        )
    return found
