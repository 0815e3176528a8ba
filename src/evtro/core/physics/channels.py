"""RF channels of the regions: the number an antenna installer says, and its frequency."""

from __future__ import annotations

import re

from ..units.figures import read_figure
from ..units.quantities import InputError

# Each row: first channel, last channel, centre of the first [MHz], spacing [MHz].
# North America: 47 CFR 73.603 (from memory). Europe: CEPT GE06 rasters (from memory).
# Australia and New Zealand: ACMA and RSM channel plans (from memory).
TABLES: dict[str, tuple[tuple[int, int, float, float], ...]] = {
    "north-america": (
        (2, 4, 57.0, 6.0),
        (5, 6, 79.0, 6.0),
        (7, 13, 177.0, 6.0),
        (14, 36, 473.0, 6.0),
    ),
    "europe": ((5, 12, 177.5, 7.0), (21, 48, 474.0, 8.0)),
    "australia": ((6, 9, 177.5, 7.0), (10, 12, 212.5, 7.0), (28, 51, 529.5, 7.0)),
}

_CHANNEL = re.compile(r"^(?:ch(?:annel)?|e|rf|k)[\s.]*(\d{1,2})$", re.IGNORECASE)


def channel_mhz(channel: int, table: str) -> float:
    """Centre frequency of a channel [MHz]. Raises InputError when the table has no such channel."""
    for first, last, centre, spacing in TABLES[table]:
        if first <= channel <= last:
            return centre + (channel - first) * spacing
    spans = ", ".join(f"{first} to {last}" for first, last, _, _ in TABLES[table])
    raise InputError(
        "Channel",
        f"channel {channel} is not in this region's table.",
        f"It has {spans}. Type one of these, or the frequency in MHz.",
        "channel-not-in-table",
    )


def channel_of(frequency_mhz: float, table: str) -> int | None:
    """The channel whose centre is within 0.5 MHz of a frequency, or None."""
    for first, last, centre, spacing in TABLES[table]:
        number = round((frequency_mhz - centre) / spacing) + first
        if first <= number <= last and abs(channel_mhz(number, table) - frequency_mhz) <= 0.5:
            return number
    return None


def parse_frequency(
    text: object, table: str, least: float | None = None, most: float | None = None
) -> object:
    """Read `ch 36`, `E36`, `594`, `594 MHz` or `11,47 GHz` as MHz; other types go through. Bounds
    [MHz] as in `read_figure`."""
    if isinstance(text, str) and (found := _CHANNEL.match(text.strip())):
        return channel_mhz(int(found.group(1)), table)
    return read_figure(text, "mhz", least, most)
