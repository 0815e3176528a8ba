"""What is known of a site, and how well. Checks read it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from ...job import Job, Site
from ...job.targets import Sight
from ...units.quantities import InputError
from .position import read_position


@dataclass(frozen=True, eq=False)
class SiteFigures:
    """A job with the directions of its targets."""

    job: Job
    known: dict[str, Sight]

    @property
    def placed(self) -> bool:
        """Whether there is a position."""
        return self.job.site.latitude_deg is not None and self.job.site.longitude_deg is not None

    @cached_property
    def good_m(self) -> float | None:
        """How far off the position may be [m]."""
        return good_to_m(self.job.site)


def good_to_m(site: Site) -> float | None:
    """How far off the position may be [m]: the figure entered for it, else the precision of the typed
    position; None without a typed position."""
    if site.position_good_m is not None:
        return site.position_good_m
    try:
        return read_position(site.position_text).good_to_m
    except InputError:
        return None
