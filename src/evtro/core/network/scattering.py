"""The waves themselves: a run as one system of scattering matrices, solved for every frequency.

Each port has a wave that goes down the run and one that comes back; parts and cables join them by their
scattering parameters, impedances of cables as steps at both ends (N. Marcuvitz, Waveguide Handbook (1951);
from memory). Slow beside `echo`, and exact where phases are known: those of cables are, those of
mismatches inside of parts count as real and positive.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..job.parts import Catalogue
from ..physics.geodesy import Floats
from .arrays import Circuit, Columns, Ints, compile_arrays
from .echo import Matching, matching
from .excitation import Excitation, plain
from .graph import Wiring
from .tracing import downstream

Waves = NDArray[np.complex128]
DENSE = 120  # waves that are solved as a full matrix
_Term = tuple[int, int, Waves]


@dataclass(frozen=True)
class _Cables:
    """Scattering parameters of cables between the ports that they join: what comes back at either end,
    and what goes through; (edges, frequencies)."""

    near: Waves
    through: Waves
    far: Waves


def response(
    wiring: Wiring,
    catalogue: Catalogue,
    circuit: Circuit,
    driven: Excitation,
    *,
    start: int,
    node: int,
    column: int,
    frequency_mhz: Floats,
) -> Floats | None:
    """Level at a node against what goes in at the output `start` [dB], by frequency [MHz], the plant in
    the state that a column has; None where something between converts."""
    if circuit.source:
        return None
    count = len(frequency_mhz)
    swept = Columns(
        ids=tuple(str(i) for i in range(count)),
        frequency_mhz=np.asarray(frequency_mhz, float),
        bandwidth_mhz=np.full(count, 1.0),
        port=(None,) * count,
        given={},
        asks=(None,) * count,
    )
    wide = compile_arrays(wiring, catalogue, swept)
    if circuit.edges.shape != wide.edges.shape:
        return None
    # What no line asks for stays shut; what lacks its voltage passes what it passes then.
    here = driven.gain[:, column]
    shift = here / np.maximum(plain(circuit.gain_db[:, column]), 1e-300)
    gain = plain(wide.gain_db) * np.where(here > 0, np.minimum(shift, 1e300), 0.0)[:, None]
    found = waves(
        wide,
        gain,
        matching(wiring, catalogue, wide),
        wiring=wiring,
        catalogue=catalogue,
        start=start,
    )
    power = np.abs(found[node]) ** 2
    return np.asarray(10 * np.log10(np.maximum(power, 1e-30)))


def waves(
    circuit: Circuit,
    gain: Floats,
    matched: Matching,
    *,
    wiring: Wiring,
    catalogue: Catalogue,
    start: int,
) -> Waves:
    """The wave down the run at every node for one of 1 out of `start`, (nodes, frequencies); 0 where
    none gets."""
    inside = downstream(circuit, [start])
    nodes = np.flatnonzero(inside)
    row = np.full(len(circuit.nodes), -1)
    row[nodes] = np.arange(len(nodes))
    count, freqs = len(nodes), len(circuit.columns.frequency_mhz)
    terms = list(
        _joined(
            circuit, gain, matched, wiring=wiring, catalogue=catalogue, inside=inside, start=start
        )
    )
    # Waves down come first, waves back behind them.
    place = [(row[n] if n >= 0 else count + row[~n]) for pair in terms for n in pair[:2]]
    to, of = np.array(place[::2], int), np.array(place[1::2], int)
    value = np.array([t[2] for t in terms]).reshape(len(terms), freqs)
    drive = np.zeros(2 * count, complex)
    drive[row[start]] = 1.0
    found = np.zeros((len(circuit.nodes), freqs), complex)
    solve = _dense if 2 * count <= DENSE else _sparse
    found[nodes] = solve(to, of, value, drive)[:count]
    return found


def _dense(to: Ints, of: Ints, value: Waves, drive: Waves) -> Waves:
    """The waves of a small system, (waves, frequencies)."""
    size = len(drive)
    system = np.zeros((value.shape[1], size, size), complex)
    for t, o, v in zip(to.tolist(), of.tolist(), value, strict=True):
        system[:, t, o] -= v
    system += np.eye(size)
    return np.asarray(np.linalg.solve(system, drive[None, :, None])[:, :, 0].T)


def _sparse(to: Ints, of: Ints, value: Waves, drive: Waves) -> Waves:
    """The same of a large one."""
    from scipy.sparse import csc_matrix, identity  # heavy, and seldom needed
    from scipy.sparse.linalg import spsolve

    size = len(drive)
    one = identity(size, dtype=complex, format="csc")
    return np.array(
        [
            spsolve(one - csc_matrix((value[:, f], (to, of)), shape=(size, size)), drive)
            for f in range(value.shape[1])
        ]
    ).T


def _joined(
    circuit: Circuit,
    gain: Floats,
    matched: Matching,
    *,
    wiring: Wiring,
    catalogue: Catalogue,
    inside: NDArray[np.bool_],
    start: int,
) -> Iterator[_Term]:
    """Which wave adds to which, and by how much: (to, of, factor), a node for the wave down the run,
    its complement for the wave back."""
    step = matched.near[:, None]
    own = np.sqrt(np.maximum(matched.at - step, 0.0)).astype(complex)
    cables = _cables(circuit, gain, wiring, catalogue)
    joined_to: set[int] = set()
    for edge in np.flatnonzero(inside[circuit.edges].all(axis=1)).tolist():
        a, b = circuit.edges[edge].tolist()
        if matched.cable[edge]:
            joined_to |= {a, b}
            yield b, a, cables.through[edge]
            yield ~a, ~b, cables.through[edge]
            yield ~a, a, cables.near[edge]
            yield b, ~b, cables.far[edge]
        elif a != start:
            wave = np.sqrt(gain[edge]).astype(complex)
            yield b, a, wave
            if matched.returns[edge]:
                yield ~a, ~b, wave
    of_part: dict[str, list[int]] = {}
    for (part, side, _), n in circuit.nodes.items():
        if not inside[n]:
            continue
        if side == "in":
            # The step to its cable is the cable's.
            loss = wiring.kinds[part].return_loss_at("in", circuit.columns.frequency_mhz)
            yield ~n, n, (10 ** (-loss / 20)).astype(complex)
            continue
        yield n, ~n, own[n]
        of_part.setdefault(part, []).append(n)
        if n not in joined_to:
            yield ~n, n, np.full(len(own[n]), np.sqrt(matched.ends[n]), complex)
    for part, outs in of_part.items():
        if any(
            circuit.nodes.get((part, "in", i)) is not None and inside[circuit.nodes[part, "in", i]]
            for i in range(wiring.kinds[part].inputs)
        ):
            for p in outs:
                for o in outs:
                    if p != o:
                        yield o, ~p, np.sqrt(matched.apart[o]).astype(complex)


def _cables(circuit: Circuit, gain: Floats, wiring: Wiring, catalogue: Catalogue) -> _Cables:
    near, through, far = (np.zeros(gain.shape, complex) for _ in range(3))
    f = circuit.columns.frequency_mhz
    for link in wiring.links():
        edge, cable = circuit.edge_of_link[link.id], catalogue.cables[link.cable]
        ohm = cable.impedance_ohm
        first, last = (
            wiring.kinds[link.from_part].output_ohm,
            wiring.kinds[link.to_part].input_ohm,
        )
        one, two = (ohm - first) / (ohm + first), (last - ohm) / (last + ohm)
        line = np.sqrt(plain(-cable.loss_db(link.length_m, f))) * np.exp(
            -2j * np.pi * f * circuit.delay_us[edge]
        )
        ring = 1 + one * two * line**2
        kept = np.sqrt((1 - one**2) * (1 - two**2))
        through[edge] = kept * line / ring
        near[edge] = one + (1 - one**2) * line**2 * two / ring
        far[edge] = -two - (1 - two**2) * line**2 * one / ring
    return _Cables(near, through, far)


def swept(centre_mhz: float, bandwidth_mhz: float, points: int = 33) -> Floats:
    """Frequencies over a carrier [MHz]."""
    half = max(bandwidth_mhz, 0.1) / 2
    return np.linspace(centre_mhz - half, centre_mhz + half, points)
