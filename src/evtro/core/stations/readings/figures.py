"""What was read at each place, beside what is planned there. Checks read it."""

from __future__ import annotations

from dataclasses import dataclass

from ...job.profile import Profile
from ...units.quantities import Gauge
from ...units.severity import State
from ..coax.levels.outlets import NetworkCarrier, Solved


@dataclass(frozen=True)
class ReadingCell:
    """One carrier at one place: planned and read [dBµV, dB], and how far apart they are [dB]."""

    carrier: str
    planned_dbuv: float | None
    planned_cn_db: float | None
    read_dbuv: float | None
    read_cn_db: float | None
    deviation: Gauge
    quality: Gauge
    state: State


@dataclass(frozen=True)
class ReadingRow:
    """A test point or an outlet: its carriers with what is planned [dBµV, dB], and those that were
    read; `as_read` judges an outlet by what was read there."""

    part: str
    name: str
    kind: str
    floor: str
    carriers: list[str]
    planned_dbuv: list[float | None]
    planned_cn_db: list[float | None]
    cells: list[ReadingCell]
    as_read: State


@dataclass(frozen=True, eq=False)
class ReadFigures:
    """The places that were read, with the network that they were planned in."""

    rows: list[ReadingRow]
    solved: Solved
    profile: Profile

    def carrier(self, cell: ReadingCell) -> NetworkCarrier:
        """The carrier of a cell."""
        return next(c for c in self.solved.channels if c.id == cell.carrier)
