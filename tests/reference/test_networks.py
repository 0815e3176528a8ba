"""Whole networks against Friis's formula, worked out path by path in plain numbers.

The solver adds powers node by node; here each way from source to outlet is a cascade of its own:
F = F1 + (F2 - 1) / G1 + ... (H. T. Friis, Noise Figures of Radio Receivers, Proc. IRE 32, 1944),
a passive part at 290 K having a noise figure equal to its loss.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.job import Cable, Part
from evtro.core.job.parts import PartType
from evtro.core.network.arrays import Circuit, Columns
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.levels.outlets import outlet_rows, solve_job
from evtro.demo.world import demo_jobs
from tests.plants import from_one, lit
from tests.proving import examples

CATALOGUE = catalogue.load()
BOLTZMANN_J_K = 1.380649e-23  # SI, exact since 2019
T0_K, OHM = 290.0, 75.0
CONSTANTS_DB = 1e-3  # the program's constants are rounded to a ten-thousandth of a dB

INLINE = [
    "attenuator",
    "block-1",
    "arrester",
    "inserter-12",
    "preamp-13",
    "preamp-22",
    "amp-house-20",
    "filter-694",
]
SHARING = ["splitter-2", "splitter-4", "tap-12", "tap-16", "splitter-8"]


@dataclass(frozen=True)
class Stage:
    """One step of a cascade: gain and noise figure, both as plain ratios."""

    gain: float
    factor: float


def ktb_dbuv(bandwidth_mhz: float) -> float:
    """Thermal noise voltage of a matched source [dBµV]: U² = k T B R."""
    volts = math.sqrt(BOLTZMANN_J_K * T0_K * bandwidth_mhz * 1e6 * OHM)
    return 20 * math.log10(volts / 1e-6)


def cascade(
    level_dbuv: float, cn_db: float, bandwidth_mhz: float, stages: list[Stage]
) -> tuple[float, float]:
    """Level [dBµV] and C/N [dB] behind some stages."""
    gain, factor = 1.0, 1.0
    for stage in stages:
        factor += (stage.factor - 1) / gain
        gain *= stage.gain
    noise = 10 ** ((level_dbuv - cn_db) / 10)
    noise += (factor - 1) * 10 ** (ktb_dbuv(bandwidth_mhz) / 10)
    return level_dbuv + 10 * math.log10(gain), level_dbuv - 10 * math.log10(noise)


def stage_of(kind: PartType, out: int, mhz: float, setting: float | None) -> Stage:
    """A part as a stage, read from the catalogue's table by hand."""
    path = next(p for p in kind.paths if out in p.outputs)
    xs, ys = zip(*path.gain_db, strict=True)
    # Straight over the root of the frequency.
    db = float(np.interp(math.sqrt(mhz), [math.sqrt(x) for x in xs], ys)) - (setting or 0.0)
    gain = 10 ** (db / 10)
    if path.noise_figure_db is None:
        return Stage(gain, 1 / gain)
    noise, pad = 10 ** (path.noise_figure_db / 10), 10 ** ((setting or 0.0) / 10)
    if kind.setting_at == "input":  # a pad, then the amplifier: F = L + (F - 1) L
        return Stage(gain, pad + (noise - 1) * pad)
    # A pad behind the first half of the gain.
    return Stage(gain, noise + (pad - 1) * noise / 10 ** (max(ys) / 20))


def cable_stage(cable: str, metres: float, mhz: float) -> Stage:
    """A length of cable as a stage: a √f + b f for 100 m."""
    kind = CATALOGUE.cables[cable]
    loss = metres / 100 * (kind.a * math.sqrt(mhz) + kind.b * mhz)
    return Stage(10 ** (-loss / 10), 10 ** (loss / 10))


@st.composite
def trees(draw: st.DrawFn) -> tuple[tuple[Part, ...], tuple[Cable, ...], dict[str, list[Stage]]]:
    """A run that branches at random, and the cascade to each of its ends at 600 MHz."""
    parts = [Part(id="p1", type="antenna")]
    links: list[Cable] = []
    ends: dict[str, list[Stage]] = {}
    open_ends: list[tuple[str, int, list[Stage]]] = [("p1", 0, [])]
    for _ in range(draw(st.integers(1, 9))):
        at = draw(st.integers(0, len(open_ends) - 1))
        above, port, stages = open_ends.pop(at)
        name = draw(st.sampled_from([*INLINE, *SHARING]))
        kind = CATALOGUE.parts[name]
        setting = float(draw(st.integers(0, 12))) if kind.setting else None
        metres = draw(st.floats(0.1, 60))
        cable = draw(st.sampled_from(["rg6", "rg59", "rg11"]))
        new = f"p{len(parts) + 1}"
        parts.append(Part(id=new, type=name, setting_db=setting))
        links.append(
            Cable(
                id=f"l{len(links) + 1}",
                from_part=above,
                from_port=port,
                to_part=new,
                cable=cable,
                length_m=metres,
            )
        )
        way = [*stages, cable_stage(cable, metres, 600.0)]
        open_ends += [
            (new, o, [*way, stage_of(kind, o, 600.0, setting)]) for o in range(kind.outputs)
        ]
    for above, port, stages in open_ends:
        ends[f"{above}:{port}"] = stages
    return tuple(parts), tuple(links), ends


def _one(level: float, cn: float) -> Columns:
    return from_one(level, cn, np.array([600.0]))


@given(trees(), st.floats(40, 90), st.floats(10, 50))
@examples(24, 600)
def test_every_end_of_a_random_run_is_its_own_cascade(
    run: tuple[tuple[Part, ...], tuple[Cable, ...], dict[str, list[Stage]]], level: float, cn: float
) -> None:
    parts, links, ends = run
    sources = _one(level, cn)
    plant, found = lit(parts, links, CATALOGUE, sources)
    for end, stages in ends.items():
        name, port = end.split(":")
        node = plant.nodes[name, "out", int(port)]
        wanted = cascade(level, cn, 7.61, stages)
        assert found.level_dbuv[node, 0] == pytest.approx(wanted[0], abs=1e-5)
        assert found.cn_db[node, 0] == pytest.approx(wanted[1], abs=CONSTANTS_DB)


@given(trees(), st.floats(40, 90), st.floats(10, 50), st.floats(0.1, 20))
@examples(10, 200)
def test_more_signal_at_the_source_is_as_much_more_at_every_end(
    run: tuple[tuple[Part, ...], tuple[Cable, ...], dict[str, list[Stage]]],
    level: float,
    cn: float,
    more: float,
) -> None:
    parts, links, ends = run
    plant, low = lit(parts, links, CATALOGUE, _one(level, cn))
    _, high = lit(parts, links, CATALOGUE, _one(level + more, cn))
    for end in ends:
        name, port = end.split(":")
        node = plant.nodes[name, "out", int(port)]
        rise = high.level_dbuv[node, 0] - low.level_dbuv[node, 0]
        assert rise == pytest.approx(more, abs=1e-9)
        # The source's own ratio is as it was, what the run adds weighs less: never worse.
        assert high.cn_db[node, 0] >= low.cn_db[node, 0] - 1e-9


@given(trees(), st.floats(40, 90), st.floats(10, 50))
@examples(10, 200)
def test_no_run_makes_a_signal_cleaner(
    run: tuple[tuple[Part, ...], tuple[Cable, ...], dict[str, list[Stage]]], level: float, cn: float
) -> None:
    parts, links, _ = run
    _, found = lit(parts, links, CATALOGUE, _one(level, cn))
    assert np.nanmax(found.cn_db) <= cn + 1e-9


@given(trees(), st.data())
@examples(10, 200)
def test_the_order_of_rows_does_not_matter(
    run: tuple[tuple[Part, ...], tuple[Cable, ...], dict[str, list[Stage]]], data: st.DataObject
) -> None:
    parts, links, ends = run
    sources = _one(70, 40)
    first, one = lit(parts, links, CATALOGUE, sources)
    other, two = lit(
        data.draw(st.permutations(parts)), data.draw(st.permutations(links)), CATALOGUE, sources
    )
    for end in ends:
        name, port = end.split(":")
        key = (name, "out", int(port))
        a, b = first.nodes[key], other.nodes[key]
        assert one.level_dbuv[a, 0] == pytest.approx(two.level_dbuv[b, 0], abs=1e-9)
        assert one.cn_db[a, 0] == pytest.approx(two.cn_db[b, 0], abs=1e-9)


def _edge_stage(plant: Circuit, gain: float, edge: int, dark: bool) -> Stage:
    """A way as a stage; an amplifier without its voltage is a passive part."""
    factor = math.nan if dark else float(plant.factor[edge])
    return Stage(gain, 1 / gain if math.isnan(factor) else factor)


@pytest.mark.parametrize("name", sorted(demo_jobs()))
def test_the_demo_jobs_outlets_by_friis(name: str) -> None:
    """Every carrier that reaches an outlet of a demo job. Where antennas meet in a combiner or lines
    in a switch the cascade is the whole of it as long as the other line brings no more than kT in
    that band, as it does in all demo jobs."""
    job = demo_jobs()[name]
    run = solve_job(NetworkContext(job, CATALOGUE, profiles.load(job.profile))).run
    seen = 0
    for part in job.parts:
        node = run.outlet_node(part.id)
        if part.outlet is None or node is None:
            continue
        for c in range(run.columns.wanted):
            found = run.levels
            if not math.isfinite(found.level_dbuv[node, c]):
                continue
            way = run.way_to(node, c)
            start, ratio = run.columns.meant(c) or (0.0, 0.0)
            level, cn = cascade(
                start,
                ratio,
                float(run.columns.bandwidth_mhz[c]),
                [
                    _edge_stage(
                        run.circuit,
                        float(run.driven.gain[e, c]),
                        e,
                        run.circuit.edge_part[e] in run.dark,
                    )
                    for e, _ in way
                ],
            )
            noise = 10 * math.log10(found.low[node, c] / found.noise[node, c])
            assert found.level_dbuv[node, c] == pytest.approx(level, abs=1e-5)
            assert noise == pytest.approx(cn, abs=CONSTANTS_DB)
            assert found.cn_db[node, c] <= noise + 1e-9
            seen += 1
    if any(p.outlet for p in job.parts):
        assert seen


@pytest.mark.parametrize("name", sorted(demo_jobs()))
def test_an_outlets_margin_is_its_ratio_over_what_the_modulation_wants(name: str) -> None:
    job = demo_jobs()[name]
    profile = profiles.load(job.profile)
    solved = solve_job(NetworkContext(job, CATALOGUE, profile))
    channels = {channel.id: channel for channel in solved.channels}
    for row in outlet_rows(NetworkContext(job, CATALOGUE, profile), solved):
        for cell in row.cells:
            if cell.cn_db is None:
                continue
            channel = channels[cell.carrier]
            assert cell.margin.value == pytest.approx(cell.cn_db - channel.wanted_cn_db, abs=1e-9)
            assert cell.level.low == channel.window.low_dbuv
            assert cell.level.high == channel.window.high_dbuv
            assert cell.margin.low == profile.margin_db


def test_thermal_noise_of_known_bandwidths() -> None:
    """1 MHz at 290 K in 75 ohm: -114.0 dBm, that is -5.2 dBµV; each tenfold is 10 dB."""
    assert ktb_dbuv(1.0) == pytest.approx(-113.975 + 108.7506, abs=1e-3)
    assert ktb_dbuv(10.0) - ktb_dbuv(1.0) == pytest.approx(10.0)
