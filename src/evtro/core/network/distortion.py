"""Distortion: what active parts add at frequencies of their own, made of everything that arrives.

A part is a linear one and, at its output, a square and a cube of the signal fitted to its rating. Of
carriers that are like noise (every digital one is) a square makes the double, a cube the triple
convolution of their power spectrum; both are worked out on a grid of 1 MHz. References: W. B. Davenport
and W. L. Root, Random Signals and Noise (1958), chapters 12 and 13 (from memory); EN 60728-3 for the
rating by two carriers (from memory). Envelopes that are flatter than noise make less: the figures are
on the safe side. Phases: products of a cascade add in voltage for the third order (like spans) and in
power for the second (handbook rule, from memory).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..physics.geodesy import Floats
from .arrays import Circuit, Columns, Ints
from .graph import Wiring

GRID_MHZ = 1.0
MOST_MHZ = 3500.0  # what no cable here carries makes no products


@dataclass(frozen=True)
class Rated:
    """An output of a part with a rating: the edges that lead to it, its node, and the coefficients of
    its square and cube. Of carriers with powers in µV² second-order products come to 2 `square` S*S,
    third-order ones to 6 `cube` S*S*S, S being the two-sided spectrum."""

    edges: Ints
    node: int
    square: float
    cube: float


def coefficients(
    rated_dbuv: float | None, ratio_db: float, second_dbuv: float | None, second_ratio_db: float
) -> tuple[float, float]:
    """Square [1/µV²] and cube [1/µV⁴] as power ratios, from the ratings for two carriers.

    Two equal carriers of power P make products at 2 f1 - f2 of (9/4) k P³ and at f1 + f2 of 2 k P².
    """
    square = cube = 0.0
    if rated_dbuv is not None:
        cube = 4 / 9 * 10 ** (-ratio_db / 10) / 10 ** (rated_dbuv / 5)
    if second_dbuv is not None:
        square = 0.5 * 10 ** (-second_ratio_db / 10) / 10 ** (second_dbuv / 10)
    return square, cube


def rated_outputs(wiring: Wiring, circuit: Circuit) -> list[Rated]:
    """Every output that has a rating, a way that converts as it leaves."""
    found = []
    for part in wiring.order:
        kind = wiring.kinds[part]
        if not kind.rated:
            continue
        less = kind.rating_less_db(wiring.parts[part].setting_db)
        mine: dict[tuple[int, int], list[int]] = {}
        ways = kind.ways
        for edge, (_, o, path) in zip(circuit.edges_of_part[part], ways, strict=True):
            mine.setdefault((o, next(n for n, p in enumerate(kind.paths) if p is path)), []).append(
                edge
            )
        for (o, n), edges in mine.items():
            path = kind.paths[n]
            square, cube = coefficients(
                None if path.rated_output_dbuv is None else path.rated_output_dbuv - less,
                path.rated_ratio_db,
                None if path.second_output_dbuv is None else path.second_output_dbuv - less,
                path.second_ratio_db,
            )
            if square or cube:
                found.append(
                    Rated(np.array(edges, np.int64), circuit.nodes[part, "out", o], square, cube)
                )
    return found


@dataclass(frozen=True)
class Spectrum:
    """The grid on which the spectrum of some columns is laid: `share` (bins, columns) of a column's
    power in each bin, `width` what of a bin a column hears. `states` are the columns that are on one
    line at the same time, (states, columns)."""

    share: Floats
    width: Floats
    states: NDArray[np.bool_]

    def products(self, power: Floats, square: Floats, cube: Floats) -> tuple[Floats, Floats]:
        """Power of second- and third-order products in each column [µV²], arrays (outputs, columns):
        of columns with `power` (outputs, columns), by the coefficients of each output. A column that is
        there in every state has its worst."""
        second, third = np.zeros_like(power), np.zeros_like(power)
        here = (power > 0).any(axis=0)
        # States that differ in nothing that is here are one; an empty one makes nothing.
        alike: dict[bytes, NDArray[np.bool_]] = {}
        for state in self.states:
            key = (state & here).tobytes()
            alike[key] = alike[key] | state if key in alike else state
        for state in alike.values():
            inside = state & here
            if not inside.any():
                continue
            own, cubed = self._of(power, inside, square=square, cube=cube)
            second[:, state] = np.maximum(second[:, state], own[:, state])
            third[:, state] = np.maximum(third[:, state], cubed[:, state])
        return second, third

    def _of(
        self, power: Floats, inside: NDArray[np.bool_], *, square: Floats, cube: Floats
    ) -> tuple[Floats, Floats]:
        # Squares reach to twice the highest frequency, on which something else may come later.
        most = self.share if square.any() else self.share[:, inside]
        top = int(np.flatnonzero(most.any(axis=1)).max(initial=0)) + 1
        bins = power[:, inside] @ self.share[:top, inside].T
        # Third-order products reach to three times the highest frequency: a ring of four times it
        # keeps what wraps round out of the columns.
        points = _good(4 * top)
        waves = np.fft.irfft(bins / 2, points, axis=1) * points
        squared = waves * waves
        width, found = self.width[:top], []
        for k, made, ways in ((square, squared, 2.0), (cube, squared * waves, 6.0)):
            if not k.any():
                found.append(np.zeros_like(power))
                continue
            # One side of the two-sided spectrum, twice.
            folded = 2 * np.fft.rfft(made, axis=1).real[:, :top] / points
            folded = ways * k[:, None] * np.maximum(folded, 0.0)
            folded[:, 0] = 0.0
            found.append(folded @ width)
        return found[0], found[1]

    def totals(self, power: Floats) -> Floats:
        """For each column the power of all that is on the line with it [µV²], arrays (..., columns)."""
        total = np.zeros_like(power)
        for state in self.states:
            here = np.where(state, power, 0.0).sum(axis=-1, keepdims=True)
            total = np.where(state, np.maximum(total, here), total)
        return total


def spectrum(columns: Columns) -> Spectrum:
    """The grid for some columns: linear in their number and their highest frequency."""
    f, b = columns.frequency_mhz, np.maximum(columns.bandwidth_mhz, 1e-3)
    inside = f + b / 2 <= MOST_MHZ
    top = float((f + b / 2)[inside].max(initial=1.0))
    count = int(top / GRID_MHZ) + 2
    edge = (np.arange(count) - 0.5)[:, None] * GRID_MHZ
    over = np.minimum(edge + GRID_MHZ, f + b / 2) - np.maximum(edge, f - b / 2)
    over = np.where(inside, np.maximum(over, 0.0), 0.0)
    asked = [a for a in dict.fromkeys(columns.asks) if a is not None]
    free = np.array([a is None for a in columns.asks], bool)
    if not columns.asks:
        free = np.ones(len(f), bool)
    free &= columns.known
    states = [free | np.array([a == ask for a in columns.asks], bool) for ask in asked]
    return Spectrum(over / b, over / GRID_MHZ, np.array(states or [free]))


def _good(count: int) -> int:
    """The next length that is a power of two or three times one: quick to transform."""
    size = 1
    while size < count:
        size *= 2
    return size * 3 // 4 if size * 3 // 4 >= count else size


@dataclass(frozen=True)
class Own:
    """What each rated output makes by itself, arrays (outputs, columns): its products of both orders
    and the power of all that is there with each column [µV²]."""

    second: Floats
    third: Floats
    total: Floats
    power: Floats

    def row(self, i: int) -> Own:
        """One of the outputs."""
        return Own(self.second[i], self.third[i], self.total[i], self.power[i])


@dataclass(frozen=True, eq=False)
class Distorting:
    """The rated outputs of a circuit on the grid of its columns, by node."""

    rated: Sequence[Rated]
    grid: Spectrum

    @cached_property
    def by_node(self) -> Mapping[int, list[int]]:
        """Rated outputs of each node."""
        found: dict[int, list[int]] = {}
        for n, one in enumerate(self.rated):
            found.setdefault(one.node, []).append(n)
        return found

    def own(self, which: Sequence[int], power: Floats) -> Own:
        """What some of them make of what they give: power (outputs, columns)."""
        square = np.array([self.rated[n].square for n in which])
        cube = np.array([self.rated[n].cube for n in which])
        second, third = self.grid.products(power, square, cube)
        return Own(second, third, self.grid.totals(power), power)

    def scaled(
        self, which: Sequence[int], power: Floats, base: Mapping[int, Own]
    ) -> tuple[Floats, Floats]:
        """The same in variants from what they make in the base, by the total power: power (outputs,
        variants or 1, columns) and products of both orders."""
        second, third = np.zeros_like(power), np.zeros_like(power)
        total = self.grid.totals(power)
        for i, n in enumerate(which):
            was = base.get(n)
            if was is None or bool(((was.power <= 0) & (power[i] > 0)).any()):
                # What was silent in the base has no shape that could be kept.
                for v in range(power.shape[1]):
                    made = self.own([n], power[i, v][None])
                    second[i, v], third[i, v] = made.second[0], made.third[0]
                continue
            louder = np.divide(
                total[i], was.total, out=np.zeros_like(total[i]), where=was.total > 0
            )
            mine = np.where(was.power > 0, power[i] / np.maximum(was.power, 1e-300), louder)
            second[i], third[i] = was.second * louder * mine, was.third * louder**2 * mine
        return second, third


def distorting(wiring: Wiring, circuit: Circuit) -> Distorting | None:
    """What is rated in a run; None where nothing is, and nothing is reckoned."""
    rated = rated_outputs(wiring, circuit)
    return Distorting(rated, spectrum(circuit.columns)) if rated else None
