"""What a solution holds: level, noise, distortion and echo at every port."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..physics.geodesy import Floats
from .distortion import Own


@dataclass(frozen=True)
class Levels:
    """A solution, arrays (nodes, columns), or (variants, nodes asked for, columns).

    Powers [µV²]: `signal`, `noise`, and `low` and `high`, the ends of what a carrier that comes by
    two ways may have; without a second way they are the signal itself, and `delay_us` is not kept.
    `second` and `third` are products of distortion by their order, `own` what each rated output
    makes of them by itself; None where nothing is rated. `echo` is the power of all echoes, `disturbing`
    the part of it that a receiver cannot make good, `leak` what comes over switches from other inputs; None
    where nobody worked them out.
    """

    signal: Floats
    noise: Floats
    low: Floats
    high: Floats
    delay_us: Floats | None = None
    second: Floats | None = None
    third: Floats | None = None
    own: Mapping[int, Own] = field(default_factory=dict)
    echo: Floats | None = None
    disturbing: Floats | None = None
    leak: Floats | None = None

    @cached_property
    def level_dbuv(self) -> Floats:
        """Level, of a range its low end [dBµV]; NaN where no carrier arrives."""
        return _db(self.low, self.signal > 0)

    @cached_property
    def high_dbuv(self) -> Floats:
        """The high end of the level [dBµV]; NaN where no carrier arrives."""
        return self.level_dbuv if self.high is self.low else _db(self.high, self.signal > 0)

    @cached_property
    def cn_db(self) -> Floats:
        """Carrier to noise, distortion and what disturbs of echoes, at the low end of the level [dB];
        NaN where no carrier arrives."""
        unwanted = self.noise if self.distortion is None else self.noise + self.distortion
        if self.disturbing is not None:
            unwanted = unwanted + self.disturbing
        if self.leak is not None:
            unwanted = unwanted + self.leak
        with np.errstate(divide="ignore", invalid="ignore"):
            return _db(self.low / unwanted, self.signal > 0)

    @cached_property
    def ripple_db(self) -> Floats:
        """How far the echoes lift and lower a carrier's level over frequency, from top to bottom [dB];
        NaN where no carrier arrives."""
        if self.echo is None:
            return np.where(self.signal > 0, 0.0, np.nan)
        with np.errstate(divide="ignore", invalid="ignore"):
            wave = np.minimum(np.sqrt(self.echo / self.signal), 0.99)
            return np.where(self.signal > 0, 20 * np.log10((1 + wave) / (1 - wave)), np.nan)

    @cached_property
    def distortion(self) -> Floats | None:
        """Products of distortion of both orders [µV²]; None where nothing is rated."""
        return None if self.second is None or self.third is None else self.second + self.third


def _db(power: Floats, there: NDArray[np.bool_]) -> Floats:
    with np.errstate(divide="ignore"):
        return np.where(there, 10 * np.log10(np.maximum(power, 1e-300)), np.nan)
