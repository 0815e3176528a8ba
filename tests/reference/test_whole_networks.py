"""Whole networks against a network library with its noise waves, and direct current against a general
nodal solver.

Signals: scikit-rf circuits (scikit-rf.org), every part and cable a scattering matrix, joined port by
port. Noise: each part at 290 K radiates the correlated waves kT (I - S S^H) (H. Bosma, On the theory of
linear noisy systems, Philips Res. Rep. Suppl. 10, 1967), carried through the same circuit.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
import skrf
from hypothesis import assume, given
from hypothesis import strategies as st

from evtro import catalogue
from evtro.core.job import Cable, Part
from evtro.core.job.parts import Catalogue, PartType
from evtro.core.job.paths import Load, Path, Supply
from evtro.core.network.arrays import Circuit
from evtro.core.network.excitation import excite
from evtro.core.network.frequency_conversion import folded
from evtro.core.network.graph import wire
from evtro.core.network.levels import Levels
from evtro.core.network.powering import DIODE_OHM, lines
from evtro.core.network.solve import solve
from evtro.core.physics.geodesy import Floats
from evtro.core.units.quantities import noise_dbuv
from tests.plants import columns, lit
from tests.proving import examples

CATALOGUE = catalogue.load()
MHZ = np.array([618.0])
KT = 10 ** (noise_dbuv(7.61) / 10)
CLOSE_DB = 0.01

SHARING = ["splitter-2", "splitter-4", "tap-12", "tap-16"]
INLINE = ["attenuator", "block-1", "preamp-13", "preamp-22", "amp-house-20", "filter-694"]
PASSIVE = ["attenuator", "block-1", "filter-694", "arrester"]


Run = tuple[list[Part], list[Cable]]


@st.composite
def nets(
    draw: st.DrawFn,
    antennas: int = 2,
    inline: tuple[str, ...] = tuple(INLINE),
    longest_m: float = 60.0,
) -> Run:
    """A run that branches and meets at random: several antennas, splitters, taps, wide combiners."""
    parts = [Part(id=f"p{i + 1}", type="antenna") for i in range(antennas)]
    links: list[Cable] = []
    ends = [(p.id, 0) for p in parts]

    def add(kind: str, froms: list[tuple[str, int]]) -> None:
        new = f"p{len(parts) + 1}"
        setting = float(draw(st.integers(0, 12))) if CATALOGUE.parts[kind].setting else None
        parts.append(Part(id=new, type=kind, setting_db=setting))
        for i, (above, port) in enumerate(froms):
            links.append(
                Cable(
                    id=f"l{len(links) + 1}",
                    from_part=above,
                    from_port=port,
                    to_part=new,
                    to_port=i,
                    cable=draw(st.sampled_from(["rg6", "rg59", "rg11"])),
                    length_m=draw(st.floats(0.1, longest_m)),
                )
            )
        ends.extend((new, o) for o in range(CATALOGUE.parts[kind].outputs))

    for _ in range(draw(st.integers(1, 7))):
        kind = draw(st.sampled_from([*inline, *SHARING, "combiner-wide", "combiner-wide"]))
        wanted = CATALOGUE.parts[kind].inputs
        take = min(wanted, len(ends))
        froms = [ends.pop(draw(st.integers(0, len(ends) - 1))) for _ in range(take)]
        add(kind, froms)
    return parts, links


def _s_of(
    kind: PartType, setting: float | None, mhz: Floats = MHZ
) -> tuple[np.ndarray, np.ndarray]:
    """A part's scattering matrix, matched at all ports, its lines from inputs to outputs; and the
    correlation of its noise waves. Inputs come first. An amplifier lets nothing back."""
    count = kind.inputs + kind.outputs
    s = np.zeros((count, count), complex)
    active = kind.noise_figure_db(kind.paths[0], setting) if kind.paths else None
    for i, o, _ in kind.ways:
        gain = kind.gain_db(i, o, mhz, setting)
        assert gain is not None
        if gain[0] > -900:
            s[kind.inputs + o, i] = 10 ** (gain[0] / 20)
            if active is None:
                s[i, kind.inputs + o] = s[kind.inputs + o, i]
    if active is None:
        return s, KT * (np.eye(count) - s @ s.conj().T)
    power = abs(s[1, 0]) ** 2
    return s, np.diag([KT, KT * (10 ** (active / 10) - 1) * power]).astype(complex)


def _through_scikit(
    run: Run, mhz: Floats = MHZ
) -> tuple[dict[str, dict[str, complex]], dict[str, float]]:
    """For each open output: complex gain from every antenna, and noise power with kT at each."""
    parts, links = run
    band = skrf.Frequency.from_f(mhz, unit="MHz")

    def network(name: str, s: np.ndarray) -> skrf.Network:
        return skrf.Network(frequency=band, s=s[None], z0=75, name=name)

    nets: dict[str, skrf.Network] = {}
    noise: dict[str, np.ndarray] = {}
    ports: dict[tuple[str, str, int], tuple[skrf.Network, int]] = {}
    joined = []
    for part in parts:
        kind = CATALOGUE.parts[part.type]
        if not kind.inputs:
            continue
        s, wave = _s_of(kind, part.setting_db, mhz)
        nets[part.id], noise[part.id] = network(part.id, s), wave
        for i in range(kind.inputs):
            ports[part.id, "in", i] = nets[part.id], i
        for o in range(kind.outputs):
            ports[part.id, "out", o] = nets[part.id], kind.inputs + o
    # A source is a matched port at 290 K, and so is whatever is joined to nothing.
    for part in parts:
        if not CATALOGUE.parts[part.type].inputs:
            nets[part.id] = skrf.circuit.Circuit.Port(band, part.id, z0=75)
            noise[part.id] = np.array([[KT]], complex)
            ports[part.id, "out", 0] = nets[part.id], 0
    for link in links:
        loss = float(CATALOGUE.cables[link.cable].loss_db(link.length_m, mhz)[0])
        turn = np.exp(-2j * np.pi * mhz[0] * 1e6 * link.length_m / (0.82 * 299792458.0))
        s = np.array([[0, 1], [1, 0]], complex) * 10 ** (-loss / 20) * turn
        nets[link.id], noise[link.id] = network(link.id, s), KT * (np.eye(2) - s @ s.conj().T)
        joined.append([ports.pop((link.from_part, "out", link.from_port)), (nets[link.id], 0)])
        joined.append([(nets[link.id], 1), ports.pop((link.to_part, "in", link.to_port))])
    ends = []
    for (part_id, side, port), there in ports.items():
        name = f"{part_id}:{side}:{port}"
        nets[name] = skrf.circuit.Circuit.Port(band, name, z0=75)
        noise[name] = np.array([[KT]], complex)
        joined.append([there, (nets[name], 0)])
        if side == "out":
            ends.append(name)
    circuit = skrf.circuit.Circuit(joined)
    # Where each network's ports lie in the circuit's matrices.
    index: dict[str, list[int]] = {name: [0] * net.nports for name, net in nets.items()}
    for row, (_, (net, port)) in enumerate(circuit.connections_list):
        index[net.name][port] = row
    c, x = circuit.C[0], circuit.X[0]
    out = np.linalg.inv(
        np.eye(len(c)) - c @ x
    )  # waves that leave the networks, from what they radiate
    into = x @ out
    gains: dict[str, dict[str, complex]] = {}
    powers: dict[str, float] = {}
    antennas = [p.id for p in parts if not CATALOGUE.parts[p.type].inputs]
    for end in ends:
        row = into[index[end][0]]
        gains[end] = {a: complex(row[index[a][0]]) for a in antennas}
        powers[end] = float(
            sum(np.real(row[index[n]] @ wave @ row[index[n]].conj()) for n, wave in noise.items())
        )
    return gains, powers


def _found(
    run: Run, level: dict[str, float], floor: dict[str, float] | None = None
) -> tuple[Circuit, Levels]:
    given = {
        (a, "out", 0): (np.array([dbuv]), np.array([(floor or {}).get(a, 10 * math.log10(KT))]))
        for a, dbuv in level.items()
    }
    return lit(*run, CATALOGUE, columns(given, MHZ))


def _db(power: float) -> float:
    return 10 * math.log10(power)


@given(nets(antennas=3))
@examples(15, 300)
def test_noise_of_any_network_is_that_of_its_waves(run: Run) -> None:
    """Combiners, taps, amplifiers and open inputs in any order, noise where no carrier is."""
    _, wanted = _through_scikit(run)
    circuit, levels = _found(run, {})
    for end, power in wanted.items():
        part, side, port = end.split(":")
        noise = levels.noise[circuit.nodes[part, side, int(port)], 0]
        assert _db(float(noise)) == pytest.approx(_db(power), abs=CLOSE_DB)


LO_MHZ = 1100.0
CONVERTER = PartType(
    key="converter",
    draws_as="amplifier",
    name="Converter",
    paths=(
        Path(
            inputs=(0,),
            outputs=(0,),
            low_mhz=470,
            high_mhz=694,
            gain_db=((470, 2.0), (694, 6.0)),
            noise_figure_db=9.0,
            lo_mhz=LO_MHZ,
        ),
    ),
)
WITH_CONVERTER = Catalogue.model_validate(
    CATALOGUE.model_dump() | {"parts": {**CATALOGUE.parts, "converter": CONVERTER}}
)


def _one_way_each(run: Run, end: str) -> bool:
    """Whether nothing, an amplifier's noise included, comes to a part by two ways."""
    return all(_ways(run[1], p.id, end) <= 1 for p in run[0])


def _behind(front: Run, end: str, back: Run) -> Run:
    """A network whose one antenna is the output of a converter at an open end of another."""
    parts, links = list(front[0]), list(front[1])
    part, _, port = end.split(":")
    name = {p.id: f"p{100 + n}" for n, p in enumerate(back[0])}
    antenna = back[0][0].id
    parts += [
        Part(
            id=name[p.id], type="converter" if p.id == antenna else p.type, setting_db=p.setting_db
        )
        for p in back[0]
    ]
    links.append(
        Cable(
            id="l99",
            from_part=part,
            from_port=int(port),
            to_part=name[antenna],
            cable="rg6",
            length_m=0,
        )
    )
    links += [
        k.model_copy(
            update={"id": f"l{100 + n}", "from_part": name[k.from_part], "to_part": name[k.to_part]}
        )
        for n, k in enumerate(back[1])
    ]
    return parts, links


@given(nets(antennas=2), nets(antennas=1), st.floats(40, 90), st.data())
@examples(15, 300)
def test_a_converter_leads_from_one_network_into_another_at_another_frequency(
    front: Run, back: Run, dbuv: float, data: st.DataObject
) -> None:
    """Two circuits of the library, each at its own frequency; between them the converter's gain, and
    Friis's noise (Proc. IRE 32, 1944) at what enters."""
    ahead, ahead_noise = _through_scikit(front)
    leaves = np.abs(MHZ - LO_MHZ)
    after, after_noise = _through_scikit(back, leaves)
    # What comes by two ways has a range, which other tests hold.
    ends = [
        e
        for e in sorted(ahead)
        if _ways(front[1], "p1", e.split(":")[0]) == 1 and _one_way_each(front, e.split(":")[0])
    ]
    assume(ends)
    end = data.draw(st.sampled_from(ends))
    run = _behind(front, end, back)
    given = {("p1", "out", 0): (np.array([dbuv]), np.array([10 * math.log10(KT)]))}
    circuit, found = lit(*run, WITH_CONVERTER, columns(given, MHZ))
    gain = 10 ** (float(CONVERTER.paths[0].gain_at(MHZ)[0]) / 10)
    signal = 10 ** (dbuv / 10) * abs(ahead[end]["p1"]) ** 2 * gain
    noise = ahead_noise[end] * gain + KT * (10**0.9 - 1) * gain
    name = {p.id: f"p{100 + n}" for n, p in enumerate(back[0])}
    assert circuit.columns.frequency_mhz.tolist() == [618.0, 482.0]
    by_carrier = folded(found, circuit.columns, 1)
    for port, by in after.items():
        part, side, number = port.split(":")
        if _ways(back[1], back[0][0].id, part) != 1 or part == back[0][0].id:
            continue
        if not _one_way_each(back, part):
            continue
        node = circuit.nodes[name[part], side, int(number)]
        through = abs(by[back[0][0].id]) ** 2
        wanted = after_noise[port] + through * (noise - KT)
        assert _db(float(found.noise[node, 1])) == pytest.approx(_db(wanted), abs=CLOSE_DB)
        if signal * through > 1e-9:
            assert _db(float(found.signal[node, 1])) == pytest.approx(
                _db(signal * through), abs=CLOSE_DB
            )
            assert by_carrier.signal[node, 0] == found.signal[node].max()


def test_what_comes_converted_and_as_it_was_is_one_carrier_with_two_columns() -> None:
    """A converter beside a plain way into one combiner: both are there, the stronger is judged; a
    second converter with the same oscillator brings it back to where it was."""
    parts = [
        Part(id="p1", type="antenna"),
        Part(id="p2", type="splitter-2"),
        Part(id="p3", type="converter"),
        Part(id="p4", type="combiner-wide"),
        Part(id="p5", type="converter"),
    ]
    ends = [
        ("p1", 0, "p2", 0),
        ("p2", 0, "p3", 0),
        ("p3", 0, "p4", 0),
        ("p2", 1, "p4", 1),
        ("p4", 0, "p5", 0),
    ]
    links = [
        Cable(
            id=f"l{n + 1}", from_part=a, from_port=i, to_part=b, to_port=o, cable="rg6", length_m=0
        )
        for n, (a, i, b, o) in enumerate(ends)
    ]
    given = {("p1", "out", 0): (np.array([70.0]), np.array([10 * math.log10(KT)]))}
    circuit, found = lit(parts, links, WITH_CONVERTER, columns(given, MHZ))
    assert circuit.columns.frequency_mhz.tolist() == [618.0, 482.0, 618.0]
    assert circuit.columns.origin is not None
    assert circuit.columns.origin.tolist() == [0, 0, 0]
    split = float(CATALOGUE.parts["splitter-2"].gain_db(0, 0, MHZ, None)[0])  # type: ignore[index]
    join = [float(CATALOGUE.parts["combiner-wide"].gain_db(i, 0, MHZ, None)[0]) for i in (0, 1)]  # type: ignore[index]
    up, down = (float(CONVERTER.paths[0].gain_at(f)) for f in (618.0, 482.0))
    at = found.level_dbuv[circuit.nodes["p4", "out", 0]]
    low = float(CATALOGUE.parts["combiner-wide"].gain_db(0, 0, np.array([482.0]), None)[0])  # type: ignore[index]
    assert at[:2] == pytest.approx([70 + split + join[1], 70 + split + up + low], abs=0.001)
    assert not np.isfinite(at[2])
    last = found.level_dbuv[circuit.nodes["p5", "out", 0]]
    assert last[1:] == pytest.approx([at[0] + up, at[1] + down], abs=0.001)
    assert folded(found, circuit.columns, 1).level_dbuv[
        circuit.nodes["p5", "out", 0]
    ] == pytest.approx(max(last[1:]))


@given(nets(antennas=3), st.floats(40, 90))
@examples(10, 200)
def test_a_carrier_of_one_antenna_comes_out_as_in_the_circuit(run: Run, dbuv: float) -> None:
    gains, _ = _through_scikit(run)
    circuit, levels = _found(run, {"p2": dbuv})
    for end, by in gains.items():
        part, side, port = end.split(":")
        found = levels.signal[circuit.nodes[part, side, int(port)], 0]
        wanted = abs(by["p2"]) ** 2 * 10 ** (dbuv / 10)
        if wanted == 0:
            assert found == 0
        elif levels.low is levels.signal:
            assert _db(float(found)) == pytest.approx(_db(wanted), abs=CLOSE_DB)


@given(nets(longest_m=2.0), st.floats(50, 80), st.floats(50, 80))
@examples(15, 300)
def test_one_carrier_by_two_antennas_lies_between_its_waves_ends(
    run: Run, one: float, other: float
) -> None:
    """Phases are unknown: the level is told as the range that the circuit's waves span, and as more
    than that where one antenna's own signal comes by two ways."""
    gains, _ = _through_scikit(run)
    circuit, levels = _found(run, {"p1": one, "p2": other})
    for end, by in gains.items():
        part, side, port = end.split(":")
        node = circuit.nodes[part, side, int(port)]
        waves = [abs(by["p1"]) * 10 ** (one / 20), abs(by["p2"]) * 10 ** (other / 20)]
        if not any(waves):
            continue
        high, low = sum(waves) ** 2, (max(waves) - min(waves)) ** 2
        assert levels.high[node, 0] >= high * (1 - 1e-6)
        assert levels.low[node, 0] <= low * (1 + 1e-6)
        if max(_ways(run[1], a, part) for a in ("p1", "p2")) > 1:
            continue
        assert _db(float(levels.high[node, 0])) == pytest.approx(_db(high), abs=CLOSE_DB)
        if low > 1e-6 * max(waves) ** 2:
            assert _db(float(levels.low[node, 0])) == pytest.approx(_db(low), abs=CLOSE_DB)


def _ways(links: list[Cable], antenna: str, part: str) -> int:
    """How many ways lead from one part to another."""
    if antenna == part:
        return 1
    return sum(_ways(links, antenna, k.from_part) for k in links if k.to_part == part)


def test_two_ways_far_apart_in_time_add_as_powers() -> None:
    """Delay times bandwidth over 0.3: 60 m more is 0.24 µs, at 7.61 MHz nearly two."""
    parts = [
        Part(id="p1", type="antenna"),
        Part(id="p2", type="splitter-2"),
        Part(id="p3", type="combiner-wide"),
    ]
    links = [
        Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=1),
        Cable(id="l2", from_part="p2", to_part="p3", cable="rg11", length_m=1),
        Cable(
            id="l3", from_part="p2", from_port=1, to_part="p3", to_port=1, cable="rg11", length_m=61
        ),
    ]
    circuit, levels = _found((parts, links), {"p1": 70.0})
    end = circuit.nodes["p3", "out", 0]
    short, long = (abs(g) ** 2 for g in _two_ways(parts, links))
    assert levels.low[end, 0] == pytest.approx((short + long) * 1e7, rel=1e-6)
    assert levels.high[end, 0] == pytest.approx(levels.low[end, 0])


def _two_ways(parts: list[Part], links: list[Cable]) -> list[complex]:
    both = []
    for gone in ("l3", "l2"):
        gains, _ = _through_scikit((parts, [k for k in links if k.id != gone]))
        both.append(gains["p3:out:0"]["p1"])
    return both


@given(nets(antennas=2, inline=tuple(PASSIVE)))
@examples(15, 300)
def test_any_passive_network_at_one_temperature_shows_kt_everywhere(run: Run) -> None:
    """Nyquist (Phys. Rev. 32, 1928): what is at one temperature is in balance at every port."""
    circuit, levels = _found(run, {"p1": 60.0})
    assert np.allclose(levels.noise[:, 0], KT, rtol=1e-9)
    assert circuit.nodes


# --- direct current ---------------------------------------------------------------------------------


def _power_parts() -> Catalogue:
    """The catalogue with splitters that pass current on all ports, and small and large loads."""
    two = CATALOGUE.parts["splitter-2p"].model_copy(update={"key": "all-2", "dc": ((0, 0), (0, 1))})
    made = {
        f"load-{ma}": PartType(
            key=f"load-{ma}",
            draws_as="preamplifier",
            name="load",
            load=Load(ma=ma, low_v=0.5, high_v=40),
            paths=(
                Path(
                    inputs=(0,),
                    outputs=(0,),
                    low_mhz=5,
                    high_mhz=2150,
                    gain_db=((5, 10), (2150, 10)),
                    noise_figure_db=3,
                ),
            ),
        )
        for ma in (20, 60, 150)
    }
    made |= {
        f"supply-{v}": PartType(
            key=f"supply-{v}",
            draws_as="inserter",
            name="supply",
            supply=Supply(volts=v, most_ma=5000),
            paths=(
                Path(
                    inputs=(0,), outputs=(0,), low_mhz=5, high_mhz=2150, gain_db=((5, 0), (2150, 0))
                ),
            ),
        )
        for v in (12, 18)
    }
    return CATALOGUE.model_copy(update={"parts": {**CATALOGUE.parts, "all-2": two, **made}})


POWERED = _power_parts()


@st.composite
def power_trees(draw: st.DrawFn) -> tuple[list[Part], list[Cable]]:
    """Loads that stand above a supply, joined by power-passing splitters the other way round: the
    supply feeds all of them through one line, each load's current in the common part."""
    parts = [Part(id="p1", type=f"supply-{draw(st.sampled_from([12, 18]))}")]
    links: list[Cable] = []
    waiting = [("p1", 0)]
    for _ in range(draw(st.integers(1, 8))):
        below, port = waiting.pop(draw(st.integers(0, len(waiting) - 1)))
        new = f"p{len(parts) + 1}"
        kind = draw(st.sampled_from(["combiner-wide", "load-20", "load-60", "load-150", "block-1"]))
        parts.append(Part(id=new, type=kind))
        links.append(
            Cable(
                id=f"l{len(links) + 1}",
                from_part=new,
                to_part=below,
                to_port=port,
                cable=draw(st.sampled_from(["rg6", "rg6ccs", "rg11"])),
                length_m=draw(st.floats(1, 60)),
            )
        )
        if kind == "combiner-wide":
            waiting += [(new, 0), (new, 1)]
        elif kind == "block-1":
            waiting.append((new, 0))
        if not waiting:
            break
    return parts, links


@given(power_trees())
@examples(20, 400)
def test_lines_with_several_loads_by_a_general_nodal_solver(
    run: tuple[list[Part], list[Cable]],
) -> None:
    """G v = i written out for every port, solved by numpy's least squares (LAPACK): 0.01 V."""
    parts, links = run
    found = lines(wire(parts, links, POWERED), POWERED, (), 13.0)
    if any(not fed.on for fed in found.loads.values()):
        return
    kinds = {p.id: POWERED.parts[p.type] for p in parts}
    ports = [
        (p.id, side, n)
        for p in parts
        for side, count in (("in", kinds[p.id].inputs), ("out", kinds[p.id].outputs))
        for n in range(count)
    ]
    at = {port: i for i, port in enumerate(ports)}
    g, i = np.zeros((len(ports), len(ports))), np.zeros(len(ports))

    def join(a: int, b: int, ohm: float) -> None:
        g[a, a] += 1 / ohm
        g[b, b] += 1 / ohm
        g[a, b] -= 1 / ohm
        g[b, a] -= 1 / ohm

    for part in parts:
        kind = kinds[part.id]
        for a, b in kind.dc:
            join(at[part.id, "in", a], at[part.id, "out", b], 1e-6)
        if kind.load:
            i[at[part.id, "out", 0]] -= kind.load.ma / 1000
        if kind.supply:
            g[at[part.id, "in", 0], at[part.id, "in", 0]] += 1e6
            i[at[part.id, "in", 0]] += 1e6 * kind.supply.volts
    for k in links:
        ohm = POWERED.cables[k.cable].loop_ohm_km * k.length_m / 1000
        join(at[k.from_part, "out", k.from_port], at[k.to_part, "in", k.to_port], ohm)
    volts = np.linalg.lstsq(g, i, rcond=None)[0]
    for part_id, fed in found.loads.items():
        assert fed.volts == pytest.approx(volts[at[part_id, "out", 0]], abs=0.01)
    drawn = sum(kinds[p].load.ma for p in found.loads)  # type: ignore[union-attr]
    if found.loads:
        assert found.given_ma["p1"] == pytest.approx(drawn, abs=0.01)


def test_two_loads_on_one_line_add_their_currents_in_the_common_part() -> None:
    """By hand: 60 m of 50 ohm/km carry 210 mA, then 10 m carry 60 mA."""
    parts = [
        Part(id="p1", type="load-60"),
        Part(id="p2", type="load-150"),
        Part(id="p3", type="combiner-wide"),
        Part(id="p4", type="supply-12"),
    ]
    links = [
        Cable(id="l1", from_part="p1", to_part="p3", cable="rg6", length_m=10),
        Cable(id="l2", from_part="p2", to_part="p3", to_port=1, cable="rg6", length_m=0),
        Cable(id="l3", from_part="p3", to_part="p4", cable="rg6", length_m=60),
    ]
    found = lines(wire(parts, links, POWERED), POWERED, (), 13.0)
    common = 12 - 0.21 * (3.0 + DIODE_OHM)
    assert found.loads["p2"].volts == pytest.approx(common, abs=1e-3)
    assert found.loads["p1"].volts == pytest.approx(common - 0.06 * 0.5, abs=1e-3)


def test_the_higher_of_two_supplies_that_meet_carries_the_line() -> None:
    """Behind diodes the lower gives nothing as long as the line stands over it."""
    parts = [
        Part(id="p1", type="load-60"),
        Part(id="p2", type="all-2"),
        Part(id="p3", type="supply-12"),
        Part(id="p4", type="supply-18"),
    ]
    links = [
        Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=10),
        Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=10),
        Cable(id="l3", from_part="p2", from_port=1, to_part="p4", cable="rg6", length_m=10),
    ]
    found = lines(wire(parts, links, POWERED), POWERED, (), 13.0)
    assert found.given_ma["p4"] == pytest.approx(60, abs=0.01)
    assert found.given_ma.get("p3", 0.0) == pytest.approx(0, abs=0.01)
    assert found.loads["p1"].volts == pytest.approx(18 - 0.06 * (1.0 + DIODE_OHM), abs=1e-3)


def test_a_line_of_a_thousand_loads_is_solved_as_a_short_one() -> None:
    """The sparse way and the dense one give the same; by hand the drop is the sum of the rest's
    current through each piece."""
    count = 200
    parts = [Part(id="p0", type="supply-18")]
    links = []
    at = ("p0", 0)
    for n in range(1, count + 1):
        parts += [
            Part(id=f"p{2 * n}", type="combiner-wide"),
            Part(id=f"p{2 * n + 1}", type="load-20"),
        ]
        links += [
            Cable(
                id=f"l{2 * n}",
                from_part=f"p{2 * n}",
                to_part=at[0],
                to_port=at[1],
                cable="rg11",
                length_m=0.05,
            ),
            Cable(
                id=f"l{2 * n + 1}",
                from_part=f"p{2 * n + 1}",
                to_part=f"p{2 * n}",
                to_port=1,
                cable="rg11",
                length_m=0.0,
            ),
        ]
        at = (f"p{2 * n}", 0)
    found = lines(wire(parts, links, POWERED), POWERED, (), 13.0)
    piece = POWERED.cables["rg11"].loop_ohm_km * 0.05 / 1000
    drop = 0.02 * (count + 1) * DIODE_OHM + sum(0.02 * n * piece for n in range(1, count + 1))
    assert found.loads[f"p{2 * count + 1}"].volts == pytest.approx(18 - drop, abs=1e-4)


def test_a_supply_asked_for_too_much_leaves_all_its_loads_dark() -> None:
    small = POWERED.parts["supply-12"].model_copy(update={"supply": Supply(volts=12, most_ma=100)})
    parts_at_hand = POWERED.model_copy(update={"parts": {**POWERED.parts, "supply-12": small}})
    parts = [
        Part(id="p1", type="load-60"),
        Part(id="p2", type="load-60"),
        Part(id="p3", type="combiner-wide"),
        Part(id="p4", type="supply-12"),
    ]
    links = [
        Cable(id="l1", from_part="p1", to_part="p3", cable="rg6", length_m=1),
        Cable(id="l2", from_part="p2", to_part="p3", to_port=1, cable="rg6", length_m=1),
        Cable(id="l3", from_part="p3", to_part="p4", cable="rg6", length_m=1),
    ]
    found = lines(wire(parts, links, parts_at_hand), parts_at_hand, (), 13.0)
    assert found.failed == ("p4",)
    assert found.given_ma["p4"] == pytest.approx(120, abs=0.01)
    assert all(not fed.on and fed.failed == "p4" for fed in found.loads.values())


def test_the_load_furthest_under_goes_dark_and_the_rest_lives() -> None:
    """A thin line carries one of two loads: with the far one off the near one has what it needs."""
    need = Load(ma=150, low_v=10.5, high_v=40)
    parts_at_hand = POWERED.model_copy(
        update={
            "parts": {
                **POWERED.parts,
                "load-150": POWERED.parts["load-150"].model_copy(update={"load": need}),
            }
        }
    )
    parts = [
        Part(id="p1", type="load-150"),
        Part(id="p2", type="load-150"),
        Part(id="p3", type="combiner-wide"),
        Part(id="p4", type="supply-12"),
    ]
    links = [
        Cable(id="l1", from_part="p1", to_part="p3", cable="rg6ccs", length_m=20),
        Cable(id="l2", from_part="p2", to_part="p3", to_port=1, cable="rg6ccs", length_m=1),
        Cable(id="l3", from_part="p3", to_part="p4", cable="rg6ccs", length_m=50),
    ]
    found = lines(wire(parts, links, parts_at_hand), parts_at_hand, (), 13.0)
    assert not found.loads["p1"].on
    assert found.loads["p2"].on
    assert found.loads["p2"].volts == pytest.approx(12 - 0.15 * (0.130 * 51 + DIODE_OHM), abs=1e-3)


def test_a_source_that_is_dark_gives_its_line_kt() -> None:
    given = {("p1", "out", 0): (np.array([70.0]), np.array([30.0]))}
    off = np.zeros((1, 1), bool)
    off[0] = True
    circuit, _ = lit([Part(id="p1", type="antenna")], [], CATALOGUE, columns(given, MHZ))
    found = solve(circuit, excite(circuit, off=off))
    assert found.signal[0, 0] == 0
    assert found.noise[0, 0] == pytest.approx(KT)
