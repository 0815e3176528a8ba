"""Whether a job that comes from outside hangs together."""

from __future__ import annotations

from ..physics.modulation import MODULATIONS, nearest_names
from ..physics.propagation.clutter import covering_of
from ..plant.edits import check_run
from ..plant.parts import Catalogue
from ..units.quantities import InputError
from . import Job
from .references import check_references


def check_job(job: Job, catalogue: Catalogue) -> None:
    """Raise InputError for the first thing that names what is not there, or is there twice.

    A loop in the run is let through: the run shows it and the rest is computed.
    """
    check_references(job)
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
