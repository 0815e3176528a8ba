"""Sums of what meets at a node: rows that lie beside each other, added up per group."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


class NodeSums:
    """Rows that meet, from the node of each row (rows of one node beside each other): `first` where each node's
    begin, `nodes` the nodes, `alone` whether nothing meets at all.

    Nearly all groups are of one size or of a few (a switch, a splitter backwards); adding up those of a
    size together takes a fifth of the time that numpy's `reduceat` takes. What is known of the sizes is worked
    out once, and used for every quantity that is summed.
    """

    def __init__(self, at: Ints) -> None:
        new = np.ones(len(at), bool)
        np.not_equal(at[1:], at[:-1], out=new[1:])
        self.first = np.flatnonzero(new)
        self.nodes = at[self.first]
        self.alone = len(self.first) == len(at)
        size = np.append(self.first[1:], len(at)) - self.first
        sizes = np.unique(size).tolist()
        self._one = sizes[0] if len(sizes) == 1 else 0
        # Of each size: which groups have it, and their rows, (groups, rows).
        self._each = [
            (which, self.first[which][:, None] + np.arange(one))
            for one in sizes
            if len(sizes) > 1
            for which in (np.flatnonzero(size == one),)
        ]

    def sum(self, values: Floats) -> Floats:
        """The sums of the groups [in the unit of the rows], (rows, ...) to (nodes, ...)."""
        if self.alone:
            return values
        if self._one:
            return _alike(values.reshape(len(self.first), self._one, *values.shape[1:]))
        found = np.empty((len(self.first), *values.shape[1:]), values.dtype)
        for which, rows in self._each:
            found[which] = _alike(values[rows])
        return found


def _alike(groups: Floats) -> Floats:
    """The sum over the second axis."""
    return groups[:, 0] if groups.shape[1] == 1 else np.einsum("gs...->g...", groups)
