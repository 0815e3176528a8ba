"""What no change may bring about, however it is said: looked at on the job that it made."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..job import Dish, Job, Part
from ..job.consistency import check_carried, check_modulation, check_run
from ..job.context import JobContext
from ..job.parts import Catalogue, part_type
from ..job.registry import rows_of
from ..network import edits as run
from ..physics.propagation.clutter import covering_of
from ..stations.aim.evidence import check_commissioned
from ..stations.coax.sources.source_levels import MOST_OVER_DB
from ..stations.mast.wind import check_region
from ..units.quantities import InputError

# What a row is once and for all.
_LASTING = {"targets": "kind"}


def check_made(before: Job, ctx: JobContext) -> None:
    """Raise InputError for a job that a change must not make of the one before."""
    after = ctx.job
    for rows, column in _LASTING.items():
        for old, new in _changed(before, after, rows):
            if old is not None and getattr(old, column) != getattr(new, column):
                raise InputError(
                    column.capitalize(),
                    f"{new.name} cannot become another kind.",
                    "Remove it and add the other.",
                    "kind-lasts",
                )
    for old, carrier in _changed(before, after, "carriers"):
        if old is None or old.modulation != carrier.modulation:
            check_modulation(carrier.modulation)
        target = next((t for t in after.targets if t.id == carrier.target), None)
        if target is not None and target.kind == "transmitter" and carrier.power <= 0:
            raise InputError(
                "ERP",
                f"{carrier.power:g} kW sends nothing.",
                "Type the effective radiated power in kW, such as 20.",
                "erp-zero",
            )
        if target is not None and target.kind == "line" and abs(carrier.power) > MOST_OVER_DB:
            raise InputError(
                "Over the rest",
                f"{carrier.power:g} dB is no difference between multiplexes of one line.",
                f"Type how many dB it stands over the others, at most {MOST_OVER_DB:g}.",
                "line-level",
            )
    for old, antenna in _changed(before, after, "arrays"):
        if old is None or old.covering != antenna.covering:
            covering_of(antenna.covering)
    # A region of another school stays until somebody chooses one of this.
    if after.mast.wind_region and after.mast.wind_region != before.mast.wind_region:
        check_region(ctx.profile, after.mast.wind_region)
    _commissioned(before, after)
    check_carried(after)
    # Other data of a part can take away a port to which a cable is joined.
    run_of = ("parts", "links", "part_data", "cable_data")
    if any(getattr(after, rows) is not getattr(before, rows) for rows in run_of):
        _run(before, ctx)


def _changed(before: Job, after: Job, rows: str) -> Iterator[tuple[Any, Any]]:
    if getattr(before, rows) is getattr(after, rows):
        return
    old = {row.id: row for row in rows_of(before, rows)}
    for row in rows_of(after, rows):
        if old.get(row.id) is not row:
            yield old.get(row.id), row


def _commissioned(before: Job, after: Job) -> None:
    if after.terminal.state != "commissioned" or after.terminal is before.terminal:
        return
    lacking = check_commissioned(after) if before.terminal.state != "commissioned" else []
    if lacking:
        raise InputError(
            "State of the terminal",
            f"it cannot be commissioned yet: {'; '.join(lacking)}.",
            "Read Es/N0 and isolation, and bring both to their limits first.",
            "not-commissioned",
        )


def _run(before: Job, ctx: JobContext) -> None:
    after, catalogue = ctx.job, ctx.catalogue
    check_run(ctx)
    if _wires(before) != _wires(after) and run.looped_parts(ctx) - run.looped_parts(
        ctx.with_job(before)
    ):
        raise InputError(
            "Cable",
            "that would lead the signal back into the run: a loop.",
            "Join it to a part further down the run.",
            "loop",
        )
    antennas = {a.id: a for a in after.antennas}
    for old, part in _changed(before, after, "parts"):
        _of_one_use(old, part, catalogue)
    other = after.part_data is not before.part_data
    for part in after.parts if other else [new for _, new in _changed(before, after, "parts")]:
        antenna = antennas.get(part.antenna or "")
        kind = part_type(catalogue, part)
        if antenna is not None and isinstance(antenna, Dish) != bool(kind.bands):
            raise InputError(
                "Source",
                f"{kind.name} does not fit {antenna.name}.",
                "A dish takes an LNB, an array its terminals.",
                "source-wrong",
            )


def _wires(job: Job) -> list[tuple[str, int, str, int]]:
    return [(k.from_part, k.from_port, k.to_part, k.to_port) for k in job.links]


def _of_one_use(old: Part | None, new: Part, catalogue: Catalogue) -> None:
    if old is not None and old.type != new.type:
        run.check_use(part_type(catalogue, old), part_type(catalogue, new))
