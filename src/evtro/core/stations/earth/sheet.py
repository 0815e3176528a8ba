"""What the job sheet says of bonding and earthing."""

from __future__ import annotations

from ...job import Job
from ...job.sections import Line, Section, line, shown
from ...units.phrases import listed, say
from ...units.quantities import Phrase, Quantity
from .answer import LAST_WORD, Bond, EarthAnswer


def earth_section(job: Job, earth: EarthAnswer) -> Section:
    """Every conductor of the school with what was laid for it."""
    lines = [line("School", earth.school), *(_bond_line(job, bond) for bond in earth.bonds)]
    return Section("Earth", [*lines, line("", LAST_WORD)])


def _bond_line(job: Job, bond: Bond) -> Line:
    if not bond.needed:
        return line(bond.name, "not needed here")
    text = say("asked {}", bond.asked)
    if bond.conductor:
        text = say(
            "{} {}, {}, {}",
            shown(bond.size.value, bond.size.unit),
            (bond.material or "").replace("_", "-"),
            shown(bond.length.value, bond.length.unit),
            "joined" if bond.connected else "not confirmed",
        )
        text = listed([text, *_stretches(job, bond)], "; ")
    return line(bond.name, text, bond.state)


def _stretches(job: Job, bond: Bond) -> list[Phrase]:
    """What a conductor is made of, where it is of several or somebody said from where to where it runs."""
    rows = {c.id: c for c in job.conductors}
    line = [rows[c] for c in bond.stretches if c in rows]
    said: list[Phrase] = []
    for c in line:
        way = f"{c.begins or 'on'} to {c.ends or 'its end'}" if c.begins or c.ends else ""
        if not way and not c.bends and len(line) == 1:
            continue
        bends = f", {c.bends} bend{'s' * (c.bends > 1)}" if c.bends else ""
        said.append(
            (
                f"{way}: " if way else "",
                shown(c.length_m, "m")[0],
                " of ",
                Quantity(c.size_mm2, "mm2", 1),
                f" {c.material.replace('_', '-')}{bends}",
            )
        )
    return said
