"""Carriers that a part moves to another frequency: each is a column of its own behind the part, made
from the column that it was before."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable

import numpy as np

from ..job.parts import PartType
from ..job.paths import Path
from ..physics.geodesy import Floats
from .arrays import Columns, Ints
from .graph import Wiring
from .levels import Levels


def converted(wiring: Wiring, columns: Columns) -> Columns:
    """The columns with those that converters make of them, in the order of the signal. Columns as they
    are where nothing converts."""
    moving = {
        (kind.key, by): kind
        for kind in wiring.kinds.values()
        for p in kind.paths
        if (by := kind.moves_by(p)) is not None
    }
    if not moving:
        return columns
    frequency = columns.frequency_mhz.tolist()
    origin = list(range(len(frequency)))
    made: dict[tuple[int, float], int] = {}
    there: dict[str, set[int]] = {}
    for part in wiring.order:
        kind = wiring.kinds[part]
        here = _given(columns, part)
        for link in wiring.before[part].values():
            here |= there.get(link.from_part, set())
        leaves = set() if kind.paths else here
        for path in kind.paths:
            by = kind.moves_by(path)
            if by is None:
                leaves |= here
                continue
            for i in sorted(here):
                if path.low_mhz <= frequency[i] <= path.high_mhz:
                    to_mhz = _moved_mhz(kind, path, columns, mhz=frequency[i], carrier=origin[i])
                    if to_mhz is None:
                        continue
                    key = i, by
                    if key not in made:
                        made[key] = len(frequency)
                        frequency.append(to_mhz)
                        origin.append(origin[i])
                    leaves.add(made[key])
        there[part] = leaves
    source: dict[float, Ints] = {}
    for _, lo in moving:
        source[lo] = np.full(len(frequency), -1, dtype=np.int64)
    for (i, lo), j in made.items():
        source[lo][j] = i
    more = len(frequency) - len(columns.ids)
    unknown = np.full(more, np.nan)
    of = np.array(origin, dtype=np.int64)
    return dataclasses.replace(
        columns,
        ids=tuple(columns.ids[i] for i in origin),
        frequency_mhz=np.array(frequency),
        bandwidth_mhz=columns.bandwidth_mhz[of],
        port=tuple(columns.port[i] for i in origin),
        given={
            port: (np.append(level, unknown), np.append(noise, unknown))
            for port, (level, noise) in columns.given.items()
        },
        asks=tuple(columns.asks[i] for i in origin) if columns.asks else (),
        echo_us=columns.echo_us[of] if len(columns.echo_us) else columns.echo_us,
        origin=of,
        source=source,
    )


def _moved_mhz(
    kind: PartType, path: Path, columns: Columns, *, mhz: float, carrier: int
) -> float | None:
    """Where a carrier leaves a way that moves it [MHz]: in the user band of its turn; None for one that is
    wider than that."""
    if not path.to_user_bands:
        return abs(mhz - (path.lo_mhz or 0.0))
    to_mhz, wide_mhz = kind.user_bands[carrier % len(kind.user_bands)]
    return to_mhz if columns.bandwidth_mhz[carrier] <= wide_mhz else None


def _given(columns: Columns, part: str) -> set[int]:
    found: set[int] = set()
    for (source, _, _), (level, _) in columns.given.items():
        if source == part:
            found |= set(np.flatnonzero(~np.isnan(level)).tolist())
    return found


def folded(levels: Levels, columns: Columns, count: int) -> Levels:
    """Levels by carrier, the first `count` columns: of the columns that a carrier has, the one in which
    it is strongest."""
    signal = levels.signal
    if columns.origin is None:
        if signal.shape[-1] == count:
            return levels
        return _each(levels, lambda values: values[..., :count])
    best = np.broadcast_to(np.arange(count), (*signal.shape[:-1], count)).copy()
    for column in range(count, len(columns.origin)):
        carrier = int(columns.origin[column])
        if carrier >= count:
            continue
        mine = np.take_along_axis(signal, best[..., carrier, None], -1)[..., 0]
        best[..., carrier] = np.where(signal[..., column] > mine, column, best[..., carrier])
    return _each(levels, lambda values: np.take_along_axis(values, best, -1))


def _each(levels: Levels, take: Callable[[Floats], Floats]) -> Levels:
    """The same columns of every quantity."""
    signal = take(levels.signal)

    def of(values: Floats | None) -> Floats | None:
        return None if values is None else take(values)

    return Levels(
        signal,
        take(levels.noise),
        low=signal if levels.low is levels.signal else take(levels.low),
        high=signal if levels.high is levels.signal else take(levels.high),
        delay_us=of(levels.delay_us),
        second=of(levels.second),
        third=of(levels.third),
        echo=of(levels.echo),
        disturbing=of(levels.disturbing),
        leak=of(levels.leak),
    )
