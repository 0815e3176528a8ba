"""The free tube as a beam that the upper bracket clamps, with guys as a spring where they are tied.

References
----------
1. W. C. Young, R. G. Budynas, Roark's Formulas for Stress and Strain, table 8.1, cantilevers under a point load and
   under an even one (from memory); a prop by superposition.
2. Steel rope 6x7 with a fibre core: metal area 0.4 d², minimum breaking force 0.5 kN/mm² of d², modulus of the
   rope 100 GPa (EN 12385, from memory); a fifth of the breaking force is what it may carry (common practice).
3. L. Euler, buckling of a column clamped at one end and pinned at the other, K = 0.7 (any textbook, from memory);
   a beam-column's moments grow by 1 / (1 - N / Pcr) (S. Timoshenko, from memory).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from ...job import Mast

STEEL_MPA = 210_000.0
ROPE_MPA, ROPE_AREA, ROPE_N_MM2, ROPE_SAFETY = 100_000.0, 0.4, 500.0, 5.0
DRAWN_SHARE = 0.1
CLAMPED_PINNED = 0.7
BUCKLING_SAFETY = 3.0  # common practice, no source
SLIP_M = 1e-6
LEAST_GUYS = 3  # fewer hold it one way only
ICE_KG_M3 = 900.0  # glaze, ISO 12494 (from memory)
ELEMENT_MM = 20.0  # how wide what an array turns to the wind is; common practice, no source


@dataclass(frozen=True)
class Guys:
    """Guys as the mast sees them: how many, their height above the upper bracket [m], what a metre of give costs
    them [N/m], the pull in one for each newton held [1], how much of a pull goes down the tube [1], what one may
    carry [N]."""

    at_m: float
    stiff_n_m: float
    pull: float
    down: float
    bears_n: float
    number: int

    def axial_load_n(self, held_n: float) -> float:
        """What they press the tube with [N], where they hold this much [N] of the wind and are all tightened before."""
        return self.down * (abs(held_n) * self.pull + self.number * self.drawn_n)

    @property
    def drawn_n(self) -> float:
        """What each is tightened to before any wind [N]: a tenth of its breaking force; common practice, no source."""
        return self.bears_n * ROPE_SAFETY * DRAWN_SHARE


@dataclass(frozen=True)
class FreeTube:
    """Point loads [N] at heights [m] and an even load [N] over the free length [m] on a tube of a bending
    stiffness [N m²], held by guys or not."""

    points: tuple[tuple[float, float], ...]
    spread_n: float
    free_m: float
    stiff_nm2: float
    guys: Guys | None = None

    @cached_property
    def held_n(self) -> float:
        """What the guys hold [N]: as much as leaves the tube where they give way as far as it does [1]."""
        if self.guys is None:
            return 0.0
        at = self.guys.at_m
        give = at**3 / (3 * self.stiff_nm2) + 1 / self.guys.stiff_n_m
        return self._bare(at)[0] / give

    def moment_nm(self, z: float) -> float:
        """Bending moment at a height above the upper bracket [N m]."""
        return (
            sum(f * (a - z) for f, a in self._all() if a > z)
            + self._even * max(self.free_m - z, 0.0) ** 2 / 2
        )

    @property
    def shear_n(self) -> float:
        """What pushes at the upper bracket [N]."""
        return self.spread_n + sum(f for f, _ in self._all())

    def turn_rad(self, z: float) -> float:
        """By how much the tube leans at a height [rad]."""
        own = self._bare(z)[1]
        if self.guys is None:
            return own
        return own - self.held_n * _point(1.0, self.guys.at_m, z, self.stiff_nm2)[1]

    @property
    def _even(self) -> float:
        return self.spread_n / self.free_m if self.free_m > 0 else 0.0

    def _all(self) -> list[tuple[float, float]]:
        tied = [] if self.guys is None else [(-self.held_n, self.guys.at_m)]
        return [*self.points, *tied]

    def _bare(self, x: float) -> tuple[float, float]:
        """How far the tube without guys gives way at a height [m], and by which angle [rad]."""
        parts = [_point(f, a, x, self.stiff_nm2) for f, a in self.points]
        inside = min(x, self.free_m)
        length, w = self.free_m, self._even
        turn = w * inside * (3 * length**2 - 3 * length * inside + inside**2) / (6 * self.stiff_nm2)
        way = (
            w
            * inside**2
            * (6 * length**2 - 4 * length * inside + inside**2)
            / (24 * self.stiff_nm2)
        )
        way += turn * (x - inside)
        return way + sum(p[0] for p in parts), turn + sum(p[1] for p in parts)


def _point(force_n: float, at_m: float, x: float, stiff_nm2: float) -> tuple[float, float]:
    if x <= at_m:
        return force_n * x**2 * (3 * at_m - x) / (6 * stiff_nm2), force_n * x * (2 * at_m - x) / (
            2 * stiff_nm2
        )
    return force_n * at_m**2 * (3 * x - at_m) / (6 * stiff_nm2), force_n * at_m**2 / (2 * stiff_nm2)


def stiffness_nm2(inertia_mm4: float) -> float:
    """Bending stiffness of a steel tube [N m²]."""
    return STEEL_MPA * 1e6 * inertia_mm4 * 1e-12


def guy_rise_m(mast: Mast) -> float:
    """How far above their anchors guys are tied [m]: these lie as low as the lower end of what stands free, which
    is the ground where a pole stands in it and the foot plate of a J-pole."""
    return mast.guy_m + (0.0 if mast.fixing in ("pole", "jpole") else mast.held_m)


def guys_of(mast: Mast) -> Guys | None:
    """The guys of a mast; None where it has none, or where they are
    tied to no tube. Of three or four the one that lies in the wind takes it all."""
    if mast.guys < LEAST_GUYS or not 0 < mast.guy_m <= mast.length_m - mast.held_m + SLIP_M:
        return None
    rise = guy_rise_m(mast)
    long = math.hypot(rise, mast.guy_out_m)
    flat = mast.guy_out_m / long
    area = ROPE_AREA * mast.guy_mm**2
    stiff = ROPE_MPA * 1e6 * area * 1e-6 / long * flat**2
    return Guys(
        mast.guy_m,
        stiff,
        pull=1 / flat,
        down=rise / long,
        bears_n=ROPE_N_MM2 * mast.guy_mm**2 / ROPE_SAFETY,
        number=mast.guys,
    )


def buckles_n(stiff_nm2: float, free_m: float) -> float:
    """The load that buckles a tube between its bracket and its guys [N], from its bending stiffness [N m²] and the
    length between [m] [3]."""
    return math.pi**2 * stiff_nm2 / (CLAMPED_PINNED * free_m) ** 2


def iced_area_m2(area_m2: float, ice_mm: float, across_mm: float) -> float:
    """An area with ice all round it [m²]: what is as wide as `across_mm` grows by twice its thickness."""
    return area_m2 * (1 + 2 * ice_mm / across_mm)


def iced_dish_m2(area_m2: float, ice_mm: float, diameter_m: float) -> float:
    """A dish's area with ice round its rim [m²]."""
    return area_m2 * (1 + 2 * ice_mm / 1000 / diameter_m) ** 2


def worst_nm(beam: FreeTube, heights: Sequence[float]) -> float:
    """The largest bending moment along the tube, either way [N m]."""
    return max(abs(beam.moment_nm(z)) for z in heights)
