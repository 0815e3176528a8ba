"""The network of a job with its solution, worked out when it is first asked for."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from ...job import Job
from ...job.context import JobContext
from ...job.targets import wanted_job
from .levels.outlets import OutletRow, Solved, outlet_rows, solve_job
from .powering import DcLoad, SupplyLoad, feeds


@dataclass(frozen=True, eq=False)
class NetworkContext(JobContext):
    """A job whose network is solved once, with the figures of its outlets and its powering."""

    @cached_property
    def solved(self) -> Solved:
        """The network solved."""
        return solve_job(self)

    def with_solved(self, solved: Solved) -> NetworkContext:
        """The same with a solution that is known already."""
        made = NetworkContext(self.job, self.catalogue, self.profile)
        made.__dict__["solved"] = solved
        return made

    def with_job(self, job: Job) -> NetworkContext:
        """Another job, to be solved anew."""
        return NetworkContext(job, self.catalogue, self.profile)

    @cached_property
    def wanted(self) -> NetworkContext:
        """The same solution, with only those targets and carriers that are wanted."""
        return self.with_job(wanted_job(self.job)).with_solved(self.solved)

    @cached_property
    def rows(self) -> list[OutletRow]:
        """The figures of every outlet."""
        return outlet_rows(self, self.solved)

    @cached_property
    def _powering(self) -> tuple[list[DcLoad], list[SupplyLoad]]:
        return feeds(self.solved.run)

    @property
    def feeds(self) -> list[DcLoad]:
        """How every part that needs power gets it."""
        return self._powering[0]

    @property
    def supplies(self) -> list[SupplyLoad]:
        """What is connected to every supply."""
        return self._powering[1]
