"""What the functions of the core are given: a job with the data that it is computed with."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from . import Antenna, Cable, Carrier, Job, Outlet, Part, Target
from .parts import Catalogue, PartType, part_type
from .profile import Profile


@dataclass(frozen=True, eq=False)
class JobParts:
    """A job and the catalogue that its parts are of: all that a change of the network needs. Each
    index reads its own table, and only when it is asked for."""

    job: Job
    catalogue: Catalogue

    def with_job(self, job: Job) -> JobParts:
        """Another job with the same catalogue."""
        return JobParts(job, self.catalogue)

    @cached_property
    def parts(self) -> Mapping[str, Part]:
        """The parts of the network by id."""
        return {row.id: row for row in self.job.parts}

    @cached_property
    def cables(self) -> Mapping[str, Cable]:
        """The cables by id."""
        return {row.id: row for row in self.job.links}

    @cached_property
    def antennas(self) -> Mapping[str, Antenna]:
        """Dishes and terrestrial antennas by id."""
        return {row.id: row for row in self.job.antennas}

    @cached_property
    def targets(self) -> Mapping[str, Target]:
        """Satellites, transmitters and lines by id."""
        return {row.id: row for row in self.job.targets}

    @cached_property
    def carriers(self) -> Mapping[str, Carrier]:
        """The carriers by id."""
        return {row.id: row for row in self.job.carriers}

    @cached_property
    def outlets(self) -> Mapping[str, Outlet]:
        """The outlets by id."""
        return {row.id: row for row in self.job.outlets}

    @cached_property
    def plates(self) -> Mapping[str, Part]:
        """The part at which an outlet ends, by the outlet's id."""
        return {row.outlet: row for row in self.job.parts if row.outlet}

    def part_type(self, part: Part) -> PartType:
        """The part's type. Raises InputError when neither the job nor the catalogue has it."""
        return part_type(self.catalogue, part)


@dataclass(frozen=True, eq=False)
class JobContext(JobParts):
    """A job with its catalogue and its limits."""

    profile: Profile

    def with_job(self, job: Job) -> JobContext:
        """Another job with the same catalogue and limits."""
        return JobContext(job, self.catalogue, self.profile)
