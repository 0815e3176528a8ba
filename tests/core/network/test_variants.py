"""Variants of a run: many at once are the same as each by itself, whatever is altered."""

from __future__ import annotations

import dataclasses

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.network.arrays import Circuit
from evtro.core.network.excitation import excite
from evtro.core.network.solve import Alteration, solve, solve_variants
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.levels.outlets import solve_job
from evtro.demo.world import demo_jobs, skerry_house
from tests.plants import columns, lit
from tests.proving import examples
from tests.reference.test_whole_networks import MHZ, Run, nets

CATALOGUE = catalogue.load()


def _single(circuit: Circuit, one: Alteration) -> tuple[np.ndarray, ...]:
    """A run laid anew with its arrays altered."""
    gain_db, factor = circuit.gain_db.copy(), circuit.factor.copy()
    for edge, gain in one.gain_db.items():
        gain_db[edge] = gain
    for edge, nf in one.noise_figure_db.items():
        factor[edge] = 10 ** (nf / 10)
    given = dict(circuit.columns.given)
    ports = {node: port for port, node in circuit.nodes.items()}
    for node, more in one.level_db.items():
        level, noise = given[ports[node]]
        given[ports[node]] = level + np.asarray(more, float), noise
    altered = dataclasses.replace(
        circuit,
        gain_db=gain_db,
        factor=factor,
        columns=dataclasses.replace(circuit.columns, given=given),
    )
    found = solve(altered, excite(altered))
    return found.signal, found.noise, found.low, found.high


@given(nets(antennas=3), st.data())
@examples(15, 300)
def test_variants_in_a_batch_equal_one_by_one(run: Run, data: st.DataObject) -> None:
    given_ = {(f"p{i}", "out", 0): (np.array([60.0 + i]), np.array([20.0])) for i in (1, 2, 3)}
    circuit, base = lit(*run, CATALOGUE, columns(given_, MHZ))
    edges = st.integers(0, len(circuit.edges) - 1)
    active = [int(e) for e in np.flatnonzero(~np.isnan(circuit.factor))]
    heads = [circuit.nodes[port] for port in given_]

    def one() -> Alteration:
        gains = data.draw(
            st.dictionaries(edges, st.sampled_from([-1000.0, -20.0, -3.0, -0.5]), max_size=3)
        )
        figures = {e: data.draw(st.floats(1, 12)) for e in active if data.draw(st.booleans())}
        levels = {n: data.draw(st.floats(-20, 20)) for n in heads if data.draw(st.booleans())}
        return Alteration(gain_db=gains, noise_figure_db=figures, level_db=levels)

    variants = [one() for _ in range(data.draw(st.integers(1, 5)))]
    at = np.arange(len(circuit.nodes))
    batch = solve_variants(circuit, excite(circuit), base=base, variants=variants, at=at)
    for v, variant in enumerate(variants):
        signal, noise, low, high = _single(circuit, variant)
        assert np.allclose(batch.signal[v], signal, rtol=1e-9, atol=1e-12)
        assert np.allclose(batch.noise[v], noise, rtol=1e-9, atol=1e-12)
        assert np.allclose(batch.low[v], low, rtol=1e-9, atol=1e-9)
        assert np.allclose(batch.high[v], high, rtol=1e-9, atol=1e-9)


def test_three_hundred_variants_of_a_house_with_a_switch() -> None:
    """More than a block; selected arrivals and the sources of a real job; one at a time again."""
    run = solve_job(NetworkContext(skerry_house(), CATALOGUE, profiles.load("europe"))).run
    rng = np.random.default_rng(7)
    edges = rng.integers(0, len(run.circuit.edges), 300)
    variants = [
        Alteration({int(e): run.circuit.gain_db[e] - float(rng.uniform(0, 6))}) for e in edges
    ]
    at = np.array([n for p in run.wiring.plates.values() if (n := run.outlet_node(p)) is not None])
    batch = solve_variants(run.circuit, run.driven, base=run.found, variants=variants, at=at)
    assert batch.signal.shape == (300, len(at), len(run.columns.ids))
    for v in range(0, 300, 7):
        alone = solve_variants(
            run.circuit, run.driven, base=run.found, variants=variants[v : v + 1], at=at
        )
        assert np.allclose(batch.signal[v], alone.signal[0], rtol=1e-9)
        assert np.allclose(batch.noise[v], alone.noise[0], rtol=1e-9)


def test_nothing_altered_is_the_run_itself() -> None:
    for job in demo_jobs().values():
        run = solve_job(NetworkContext(job, CATALOGUE, profiles.load(job.profile))).run
        at = np.arange(len(run.circuit.nodes))
        same = run.variants([Alteration()], at=at)
        assert np.array_equal(same.signal[0], run.found.signal)
        assert np.array_equal(same.noise[0], run.found.noise)
        if run.found.distortion is not None:
            assert same.distortion is not None
            assert np.allclose(same.distortion[0], run.found.distortion, rtol=1e-9)


@pytest.mark.parametrize("left_db", [-30.0, -1000.0])
def test_an_amplifier_without_its_voltage_passes_what_its_sheet_leaves(left_db: float) -> None:
    """The same run with and without its inserter: by as much lower, or nothing at all."""
    job = demo_jobs()["fern-cottage"]
    amps = {k for k, p in CATALOGUE.parts.items() if p.load and p.inputs}
    parts = {
        k: p.model_copy(update={"dark_gain_db": left_db}) if k in amps else p
        for k, p in CATALOGUE.parts.items()
    }
    at_hand = CATALOGUE.model_copy(update={"parts": parts})
    # An inserter of no voltage: the same line, the same losses, no supply.
    weak = {
        k: p.model_copy(update={"supply": None, "dc": ((0, 0),)}) if k.startswith("inserter") else p
        for k, p in parts.items()
    }
    unfed = CATALOGUE.model_copy(update={"parts": weak})
    profile = profiles.load(job.profile)
    lit, dark = (
        solve_job(NetworkContext(job, at_hand, profile)).run,
        solve_job(NetworkContext(job, unfed, profile)).run,
    )
    amp = next(p for p, kind in lit.wiring.kinds.items() if kind.load and kind.inputs)
    assert amp in dark.dark
    node = lit.outlet_node(next(iter(lit.wiring.plates.values())))
    assert node is not None
    terrestrial = ~lit.columns.asked[: lit.columns.wanted] & (lit.levels.signal[node] > 0)
    assert terrestrial.any()
    if left_db <= -1000:
        assert not dark.levels.signal[node][terrestrial].any()
        return
    edge = lit.circuit.edges_of_part[amp][0]
    fall = lit.levels.level_dbuv[node] - dark.levels.level_dbuv[node]
    assert np.allclose(
        fall[terrestrial], lit.circuit.gain_db[edge][: len(fall)][terrestrial] - left_db
    )
