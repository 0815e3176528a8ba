"""Whether a job that comes from outside hangs together."""

from __future__ import annotations

from collections.abc import Iterable

from ..physics.modulation import MODULATIONS, nearest_names
from ..physics.propagation.clutter import covering_of
from ..plant.edits import check_run
from ..plant.parts import Catalogue
from ..units.quantities import InputError
from . import Job


def check_job(job: Job, catalogue: Catalogue) -> None:
    """Raise InputError for the first thing that names what is not there, or is there twice.

    A loop in the run is let through: the run shows it and the rest is computed.
    """
    for name in ("outlets", "targets", "carriers", "obstructions", "antennas", "conductors",
                 "parts", "links", "readings", "marks", "spots", "feeds", "samples", "presets", "trials", "locks",
                 "beams", "stops", "reliefs", "holds", "heard", "scans"):  # fmt: skip
        ids = [row.id for row in getattr(job, name)]
        twice = (
            next((i for i in ids if ids.count(i) > 1), None) if len(set(ids)) < len(ids) else None
        )
        if twice:
            raise InputError(f"{name}", f"the id {twice} stands there twice.",
                             "Give each row its own id.", "id-twice")  # fmt: skip
    targets = {t.id for t in job.targets}
    antennas = {a.id for a in job.antennas}
    outlets = {o.id for o in job.outlets}
    parts = {p.id for p in job.parts}
    carriers = {c.id for c in job.carriers}
    _known("carriers", "target", [c.target for c in job.carriers], targets)
    _known("antennas", "target", [a.target for a in job.antennas], targets)
    _known("parts", "antenna", [p.antenna for p in job.parts], antennas)
    _known("parts", "outlet", [p.outlet for p in job.parts], outlets)
    _known("parts", "target", [p.target for p in job.parts], targets)
    for rows in ("feeds", "presets", "samples", "trials", "locks"):
        _known(rows, "antenna", [r.antenna for r in getattr(job, rows)], antennas)
    for rows in ("samples", "locks"):
        _known(rows, "target", [r.target for r in getattr(job, rows)], targets)
    _known("feeds", "target", [f.target for f in job.feeds], targets)
    _known("beams", "target", [b.target for b in job.beams], targets)
    holds = {h.id for h in job.holds}
    _known("holds", "antenna", [h.antenna for h in job.holds], antennas)
    _known("heard", "hold", [h.hold for h in job.heard], holds)
    _known("heard", "carrier", [h.carrier for h in job.heard], carriers)
    _known("antennas", "hold", [a.hold for a in job.antennas], holds)
    _known("reliefs", "target", [r.target for r in job.reliefs], targets)
    _known("scans", "outlet", [s.outlet for s in job.scans], outlets)
    _known("rig", "stop", [job.rig.stop], {s.id for s in job.stops})
    _known("terminal", "beam", [job.terminal.beam], {b.id for b in job.beams})
    _known("readings", "part", [r.part for r in job.readings], parts)
    _known("readings", "carrier", [r.carrier for r in job.readings], carriers)
    for part in job.parts:
        if part.type not in catalogue.parts:
            raise InputError("parts", f"“{part.type}” is not in the catalogue.",
                             "Use a part of the list under Parts.", "part-unknown")  # fmt: skip
    for antenna in job.antennas:
        covering_of(antenna.covering)
    for carrier in job.carriers:
        check_modulation(carrier.modulation)
    check_run(job, catalogue)


def check_modulation(code: str) -> None:
    """Raise InputError for a modulation that has no threshold here."""
    if code not in MODULATIONS:
        raise InputError("Modulation", f"“{code}” is not known.",
                         f"Use one of {nearest_names(code)}.", "modulation-unknown")  # fmt: skip


def _known(rows: str, field: str, used: Iterable[str | None], there: set[str]) -> None:
    for name in used:
        if name is not None and name not in there:
            raise InputError(f"{rows}, {field}", f"{name} is not in the job.",
                             "Name a row that is there.", "reference-missing")  # fmt: skip
