"""Whether a job that comes from outside hangs together."""

from __future__ import annotations

from ..physics.modulation import MODULATIONS, nearest_names
from ..physics.propagation.clutter import covering_of
from ..units.quantities import InputError
from . import Job
from .context import JobParts
from .parts import part_type
from .references import check_references
from .stock import stocked


def check_job(ctx: JobParts) -> None:
    """Raise InputError for the first thing that names what is not there, or is there twice. What the
    job carries of its parts counts as known.

    A loop in the run is let through: the run shows it and the rest is computed.
    """
    job, catalogue = ctx.job, ctx.catalogue
    check_references(job)
    check_carried(job)
    catalogue = stocked(job, catalogue)
    for part in job.parts:
        if part.type not in catalogue.parts:
            raise InputError(
                "parts",
                f"“{part.type}” is not in the catalogue.",
                "Use a part of the list under Parts.",
                "part-unknown",
            )
    for antenna in job.arrays:
        covering_of(antenna.covering)
    for carrier in job.carriers:
        check_modulation(carrier.modulation)
    check_run(JobParts(job, catalogue))


def check_carried(job: Job) -> None:
    """Raise InputError for two data of one key: nobody could say which of them counts."""
    for rows in (job.part_data, job.cable_data, job.array_data, job.limit_data):
        keys = [row.key for row in rows]
        twice = next((k for k in keys if keys.count(k) > 1), None)
        if twice is not None:
            raise InputError(
                "Data", f"“{twice}” is carried twice.", "Keep one of them.", "data-twice"
            )


def check_modulation(code: str) -> None:
    """Raise InputError for a modulation that has no threshold here."""
    if code not in MODULATIONS:
        raise InputError(
            "Modulation",
            f"“{code}” is not known.",
            f"Use one of {nearest_names(code)}.",
            "modulation-unknown",
        )


def check_run(ctx: JobParts) -> None:
    """Raise InputError for a cable to nowhere, a port used twice, or a loop."""
    catalogue = ctx.catalogue
    parts = {p.id: p for p in ctx.job.parts}
    outs: set[tuple[str, int]] = set()
    ins: set[tuple[str, int]] = set()
    for link in ctx.job.links:
        for end, port, what in (
            (link.from_part, link.from_port, "outputs"),
            (link.to_part, link.to_port, "inputs"),
        ):
            if end not in parts:
                raise InputError(
                    f"Cable {link.id}",
                    f"{end} is not in the run.",
                    "Join it to a part that is.",
                    "cable-nowhere",
                )
            kind = part_type(catalogue, parts[end])
            there = kind.joinable if what == "outputs" else range(kind.inputs)
            if port not in there:
                raise InputError(
                    f"Cable {link.id}",
                    f"{kind.name} has no port {port + 1} among its {what}.",
                    "Join it to another port.",
                    "port-missing",
                )
        if link.cable not in catalogue.cables:
            raise InputError(
                f"Cable {link.id}",
                f"“{link.cable}” is not a cable of the catalogue.",
                f"Use one of {', '.join(catalogue.cables)}.",
                "cable-unknown",
            )
        start, end_port = (link.from_part, link.from_port), (link.to_part, link.to_port)
        if start in outs or end_port in ins:
            raise InputError(
                f"Cable {link.id}",
                "two cables are joined to one port.",
                "Put a splitter between them.",
                "port-twice",
            )
        outs.add(start)
        ins.add(end_port)
