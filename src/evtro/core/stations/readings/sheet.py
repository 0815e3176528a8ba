"""What the job sheet says of the readings and scans."""

from __future__ import annotations

from ...job import Job
from ...job.sections import Section, line, shown
from ...units.phrases import listed, say
from ...units.quantities import Phrase
from ..coax.levels.outlets import NetworkCarrier
from .answer import ReadingsAnswer
from .figures import ReadingCell, ReadingRow


def reading_section(job: Job, channels: list[NetworkCarrier], readings: ReadingsAnswer) -> Section:
    """What was read at each place."""
    names = {c.id: f"{c.name} {c.frequency_mhz:.0f} MHz" for c in channels}
    latest: dict[str, str] = {}
    for reading in job.readings:
        latest[reading.part] = max(latest.get(reading.part, ""), reading.at)
    lines = []
    for row in readings.rows:
        cells = _cells(row, names)
        if cells:
            when = latest.get(row.part)
            cells += [(f"read {when}",)] if when else []
            lines.append(line(row.name, listed(cells, "; "), row.as_read))
    return Section("Readings", lines or [line("", "Nothing read yet.")])


def _cells(row: ReadingRow, names: dict[str, str]) -> list[Phrase]:
    return [
        say("{}: {}", names[cell.carrier], listed(read))
        for cell in row.cells
        if (read := _read(cell))
    ]


def _read(cell: ReadingCell) -> list[Phrase]:
    read = [shown(cell.read_dbuv, "dbuv")] if cell.read_dbuv is not None else []
    if cell.read_cn_db is not None:
        read.append(say("C/N {}", shown(cell.read_cn_db, "db")))
    return read


def scan_section(job: Job) -> Section | None:
    """What a search of channels found at each outlet."""
    if not job.scans:
        return None
    names = {o.id: o.name for o in job.outlets}
    return Section(
        "Scans",
        [
            line(
                names[s.outlet],
                f"{s.at}: {len(s.found)} found, tuner set to {s.tuner}"
                + (f"; {s.note}" if s.note else ""),
            )
            for s in job.scans
        ],
    )
