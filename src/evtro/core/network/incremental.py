"""A run laid once and used again while only cables change: order, ways and choice stay what they are,
lengths of cable are put in anew, and what does not lie behind them is not solved again."""

from __future__ import annotations

import dataclasses
import threading
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..job import Cable, Part
from ..job.parts import CableType, Catalogue, PartType, warmer
from .arrays import LIGHT_M_US, Circuit, Columns, compile_arrays, stepped_db
from .distortion import Distorting, distorting
from .echo import Matching, matching
from .excitation import Excitation
from .frequency_conversion import converted
from .graph import Wiring, wire
from .levels import Levels
from .selection import Selection, choose
from .solve import solve, solve_onward

KEPT = 4
# What a circuit works out from its edges alone.
_OF_EDGES = ("into", "heads", "by_end", "meets", "edge_of_link", "edges_of_part")


@dataclass(frozen=True, eq=False)
class Compiled:
    """A run laid out, with the choice of its receivers, and what it was laid from."""

    parts: tuple[Part, ...]
    links: tuple[Cable, ...]
    types: Mapping[str, PartType]
    cables: Mapping[str, CableType]
    columns: Columns
    plates: tuple[str, ...]  # of each receiver, once for each of its tuners
    wiring: Wiring
    circuit: Circuit
    choice: Selection
    distorting: Distorting | None
    matched: Matching


@dataclass(frozen=True, eq=False)
class _Solved:
    circuit: Circuit
    driven: Excitation
    distorting: Distorting | None
    levels: Levels


_lock = threading.Lock()
_kept: list[Compiled] = []
_solved: list[_Solved] = []


def compile_network(
    parts: tuple[Part, ...],
    links: tuple[Cable, ...],
    catalogue: Catalogue,
    columns: Columns,
    receivers: tuple[str, ...],
) -> Compiled:
    """The run laid out; from a run that was laid before where nothing but cables differs. Raises
    InputError for a part that nobody knows."""
    with _lock:
        known = list(_kept)
    for old in known:
        if _alike(old, parts, links, catalogue=catalogue, columns=columns, receivers=receivers):
            found = _relaid(old, links, catalogue, columns)
            break
    else:
        found = _fresh(parts, links, catalogue, columns, receivers=receivers)
    with _lock:
        _kept[:] = [found, *(k for k in _kept if k.parts is not parts)][:KEPT]
    return found


def solved(circuit: Circuit, driven: Excitation, distorting: Distorting | None) -> Levels:
    """Level and noise at every node; from what was solved before where the circuit is the same but for its
    cables."""
    with _lock:
        known = list(_solved)
    found = None
    for old in known:
        if old.circuit.edges is circuit.edges and old.distorting is distorting:
            found = solve_onward(
                circuit, driven, old_driven=old.driven, old=old.levels, distorting=distorting
            )
            break
    if found is None:
        found = solve(circuit, driven, distorting)
    with _lock:
        others = (k for k in _solved if k.circuit.edges is not circuit.edges)
        _solved[:] = [_Solved(circuit, driven, distorting, found), *others][:KEPT]
    return found


def _fresh(
    parts: tuple[Part, ...],
    links: tuple[Cable, ...],
    catalogue: Catalogue,
    columns: Columns,
    *,
    receivers: tuple[str, ...],
) -> Compiled:
    wiring = wire(parts, links, catalogue)
    plates = _plates(wiring, receivers)
    circuit = compile_arrays(wiring, catalogue, converted(wiring, columns))
    return Compiled(
        parts=parts,
        links=links,
        types={p.type: wiring.kinds[p.id] for p in parts},
        cables={k.cable: catalogue.cables[k.cable] for k in links if k.cable in catalogue.cables},
        columns=columns,
        plates=plates,
        wiring=wiring,
        circuit=circuit,
        choice=choose(wiring, circuit, plates),
        distorting=distorting(wiring, circuit),
        matched=matching(wiring, catalogue, circuit),
    )


def _plates(wiring: Wiring, receivers: tuple[str, ...]) -> tuple[str, ...]:
    asking = Counter(receivers)
    return tuple(
        plate for outlet, plate in wiring.plates.items() for _ in range(asking.get(outlet, 0))
    )


def _alike(
    old: Compiled,
    parts: tuple[Part, ...],
    links: tuple[Cable, ...],
    *,
    catalogue: Catalogue,
    columns: Columns,
    receivers: tuple[str, ...],
) -> bool:
    """Whether a run differs from one that was laid in the cables between the same ports, and in what
    its sources give, at most."""
    return (
        len(old.parts) == len(parts)
        and len(old.links) == len(links)
        and not old.circuit.source
        and all(a is b for a, b in zip(old.parts, parts, strict=True))
        and all(catalogue.part(key) is kind for key, kind in old.types.items())
        and all(catalogue.cables.get(key) is kind for key, kind in old.cables.items())
        and all(a is b or _same_ends(a, b) for a, b in zip(old.links, links, strict=True))
        and all(k.cable in catalogue.cables for k in links)
        and len(old.cables) == len({k.cable for k in old.links})
        and _same_columns(old.columns, columns)
        and old.plates == _plates(old.wiring, receivers)
    )


def _same_ends(a: Cable, b: Cable) -> bool:
    return (a.id, a.from_part, a.from_port, a.to_part, a.to_port) == (
        b.id,
        b.from_part,
        b.from_port,
        b.to_part,
        b.to_port,
    )


def _same_columns(a: Columns, b: Columns) -> bool:
    return (
        a.ids == b.ids
        and (a.beside, a.supposed) == (b.beside, b.supposed)
        and a.port == b.port
        and a.asks == b.asks
        and a.given.keys() == b.given.keys()
        and np.array_equal(a.frequency_mhz, b.frequency_mhz)
        and np.array_equal(a.bandwidth_mhz, b.bandwidth_mhz)
        and np.array_equal(a.echo_us, b.echo_us)
    )


def _relaid(
    old: Compiled, links: tuple[Cable, ...], catalogue: Catalogue, columns: Columns
) -> Compiled:
    wiring, circuit = old.wiring, old.circuit
    before, after = dict(wiring.before), dict(wiring.after)
    gain_db, delay_us, stepped = circuit.gain_db.copy(), circuit.delay_us.copy(), False
    for was, link in zip(old.links, links, strict=True):
        if was is link or link.id not in circuit.edge_of_link:
            continue
        after[link.from_part] = {**after[link.from_part], link.from_port: link}
        before[link.to_part] = {**before[link.to_part], link.to_port: link}
        edge, cable = circuit.edge_of_link[link.id], catalogue.cables[link.cable]
        gain_db[edge] = -(link.length_m * warmer(link.celsius)) * cable.loss_db(
            1.0, columns.frequency_mhz
        )
        gain_db[edge] -= stepped_db(wiring, cable, link)
        stepped |= cable.impedance_ohm != old.cables[was.cable].impedance_ohm
        delay_us[edge] = link.length_m / (cable.velocity * LIGHT_M_US)
    wiring = dataclasses.replace(wiring, before=before, after=after)
    new = dataclasses.replace(circuit, gain_db=gain_db, delay_us=delay_us, columns=columns)
    new.__dict__.update({k: v for k in _OF_EDGES if (v := circuit.__dict__.get(k)) is not None})
    return dataclasses.replace(
        old,
        links=links,
        columns=columns,
        wiring=wiring,
        circuit=new,
        cables={k.cable: catalogue.cables[k.cable] for k in links},
        matched=matching(wiring, catalogue, new) if stepped else old.matched,
    )
