"""Mismatch, ripple and echo against scattering circuits of a general RF library (scikit-rf), and against
the textbook's ripple of two mismatches on a line."""

from __future__ import annotations

import dataclasses

import numpy as np
import pytest
import skrf
from hypothesis import given

from evtro import catalogue
from evtro.core.job import Cable, Part
from evtro.core.job.parts import Catalogue, PartType
from evtro.core.network import scattering
from evtro.core.network.arrays import compile_arrays
from evtro.core.network.echo import RECEIVER_DB, matching, with_echoes
from evtro.core.network.excitation import excite, plain
from evtro.core.network.graph import wire
from evtro.core.network.scattering import waves
from evtro.core.network.solve import solve
from tests.plants import from_one
from tests.proving import examples
from tests.reference.test_whole_networks import Run, nets

SHOP = catalogue.load()
MHZ = np.linspace(474.0, 482.0, 9)
WIDE = np.linspace(500.0, 700.0, 801)


def _part(kind: PartType, setting: float | None, f: np.ndarray) -> np.ndarray:
    """A part's scattering matrix by frequency, inputs first, its mismatches real and positive."""
    count = kind.inputs + kind.outputs
    s = np.zeros((len(f), count, count), complex)
    active = any(p.noise_figure_db is not None for p in kind.paths)
    for i, o, _ in kind.ways:
        gain = kind.gain_db(i, o, f, setting)
        assert gain is not None
        s[:, kind.inputs + o, i] = np.where(gain > -900, 10 ** (gain / 20), 0)
        if not active:
            s[:, i, kind.inputs + o] = s[:, kind.inputs + o, i]
    for i in range(kind.inputs):
        s[:, i, i] = 10 ** (-kind.return_loss_at("in", f) / 20)
    for o in range(kind.outputs):
        at = kind.inputs + o
        s[:, at, at] = 10 ** (-kind.return_loss_at("out", f) / 20)
        for p in range(kind.outputs):
            if p != o and kind.inputs:
                s[:, kind.inputs + p, at] = 10 ** (-kind.isolation_at(f) / 20)
    return s


def _by_scikit(run: Run, shop: Catalogue, f: np.ndarray) -> dict[str, np.ndarray]:
    """The wave into each plate's receiver, as a share of what the antenna sends."""
    parts, links = run
    band = skrf.Frequency.from_f(f, unit="MHz")
    nets_, at, joined = {}, {}, []

    def end(name: str, share: float, ohm: float) -> skrf.Network:
        s = np.full((len(f), 1, 1), share, complex)
        return skrf.Network(frequency=band, s=s, z0=ohm, name=name)

    for part in parts:
        kind = shop.parts[part.type]
        z0 = [kind.input_ohm] * kind.inputs + [kind.output_ohm] * kind.outputs
        if not kind.inputs:
            # A source: a port, and a mismatch ahead of it that sends back what it says.
            back = 10 ** (-kind.return_loss_at("out", f) / 20)
            s = np.zeros((len(f), 2, 2), complex)
            s[:, 1, 0], s[:, 1, 1] = 1, back
            nets_[part.id] = skrf.Network(frequency=band, s=s, z0=kind.output_ohm, name=part.id)
            port = skrf.circuit.Circuit.Port(band, f"{part.id}-port", z0=kind.output_ohm)
            joined.append([(port, 0), (nets_[part.id], 0)])
            at[part.id, "out", 0] = nets_[part.id], 1
            continue
        nets_[part.id] = skrf.Network(
            frequency=band, s=_part(kind, part.setting_db, f), z0=z0, name=part.id
        )
        at.update({(part.id, "in", i): (nets_[part.id], i) for i in range(kind.inputs)})
        at.update(
            {(part.id, "out", o): (nets_[part.id], kind.inputs + o) for o in range(kind.outputs)}
        )
    for link in links:
        cable = shop.cables[link.cable]
        through = 10 ** (-cable.loss_db(link.length_m, f) / 20) * np.exp(
            -2j * np.pi * f * 1e6 * link.length_m / (cable.velocity * 299792458.0)
        )
        s = np.zeros((len(f), 2, 2), complex)
        s[:, 0, 1] = s[:, 1, 0] = through
        line = skrf.Network(frequency=band, s=s, z0=cable.impedance_ohm, name=link.id)
        joined.append([at.pop((link.from_part, "out", link.from_port)), (line, 0)])
        joined.append([(line, 1), at.pop((link.to_part, "in", link.to_port))])
    receiver, ports = 10 ** (-RECEIVER_DB / 20), []
    for (part_id, side, port), there in at.items():
        kind = shop.parts[next(p.type for p in parts if p.id == part_id)]
        if side == "out" and port in kind.receivers:
            # A port with the receiver's mismatch ahead of it.
            s = np.zeros((len(f), 2, 2), complex)
            s[:, 0, 0], s[:, 1, 0] = receiver, 1
            name = f"{part_id}-receiver"
            joined.append(
                [there, (skrf.Network(frequency=band, s=s, z0=kind.output_ohm, name=name), 0)]
            )
            port_ = skrf.circuit.Circuit.Port(band, f"{part_id}-end", z0=kind.output_ohm)
            joined.append([(joined[-1][1][0], 1), (port_, 0)])
            ports.append(part_id)
        else:
            ohm = kind.output_ohm if side == "out" else kind.input_ohm
            joined.append(
                [there, (end(f"{part_id}{side}{port}", 1.0 if side == "out" else 0.0, ohm), 0)]
            )
    circuit = skrf.circuit.Circuit(joined)
    # External ports count in the order in which they are joined.
    order = [n.name for pair in joined for n, _ in pair if n.name.endswith(("-port", "-end"))]
    s = circuit.s_external
    source = order.index(next(n for n in order if n.endswith("-port")))
    return {p: s[:, order.index(f"{p}-end"), source] for p in ports}


def _with_plates(run: Run) -> Run:
    """A run with a wall plate on some of its ends."""
    parts, links = list(run[0]), list(run[1])
    used = {(k.from_part, k.from_port) for k in links}
    ends = [
        (p.id, o) for p in parts for o in range(SHOP.parts[p.type].outputs) if (p.id, o) not in used
    ]
    for n, (part, port) in enumerate(ends[::2]):
        parts.append(Part(id=f"w{n}", type="plate", outlet=f"o{n}"))
        links.append(
            Cable(
                id=f"k{n}",
                from_part=part,
                from_port=port,
                to_part=f"w{n}",
                cable="rg6",
                length_m=3.0 + 4.7 * n,
            )
        )
    return parts, links


def _ours(run: Run, shop: Catalogue, f: np.ndarray) -> dict[str, np.ndarray]:
    wiring = wire(*run, shop)
    circuit = compile_arrays(wiring, shop, from_one(60.0, 40.0, f))
    start = circuit.nodes["p1", "out", 0]
    found = waves(
        circuit,
        plain(circuit.gain_db),
        matching(wiring, shop, circuit),
        wiring=wiring,
        catalogue=shop,
        start=start,
    )
    return {
        p.id: found[circuit.nodes[p.id, "out", 0]]
        for p in run[0]
        if p.outlet and inside(circuit, found, p.id)
    }


def inside(circuit: object, found: np.ndarray, part: str) -> bool:
    return bool(np.abs(found[circuit.nodes[part, "out", 0]]).max() > 0)  # type: ignore[attr-defined]


@given(nets(antennas=1, inline=("attenuator", "block-1", "arrester", "preamp-13"), longest_m=40.0))
@examples(6, 125)
def test_waves_of_any_run_against_a_circuit_of_the_library(run: Run) -> None:
    run = _with_plates(run)
    theirs = _by_scikit(run, SHOP, MHZ)
    for plate, wave in _ours(run, SHOP, MHZ).items():
        assert 20 * np.log10(np.abs(wave)) == pytest.approx(
            20 * np.log10(np.abs(theirs[plate])), abs=0.05
        )


@pytest.mark.parametrize("cable", ["rg58", "twin-300"])
def test_a_line_of_another_impedance_against_the_library(cable: str) -> None:
    """75 ohm at both ends of a line of 50 or 300: through and back at each step."""
    run = (
        [Part(id="p1", type="antenna"), Part(id="w0", type="plate", outlet="o0")],
        [Cable(id="l1", from_part="p1", to_part="w0", cable=cable, length_m=7.3)],
    )
    theirs, ours = _by_scikit(run, SHOP, MHZ)["w0"], _ours(run, SHOP, MHZ)["w0"]
    assert 20 * np.log10(np.abs(ours)) == pytest.approx(20 * np.log10(np.abs(theirs)), abs=0.05)


def _echo_db(run: Run, shop: Catalogue, plate: str) -> tuple[float, float]:
    """C/E at a plate [dB] in the middle of a wide band: by the sum of powers, and as the variance of the
    waves over the band."""
    wiring = wire(*run, shop)
    circuit = compile_arrays(wiring, shop, from_one(60.0, 40.0, WIDE, bandwidth_mhz=200.0))
    driven, matched = excite(circuit), matching(wiring, shop, circuit)
    levels = with_echoes(circuit, driven, solve(circuit, driven), matched)
    assert levels.echo is not None
    node, start = circuit.nodes[plate, "out", 0], circuit.nodes["p1", "out", 0]
    summed = float(np.mean(levels.echo[node] / levels.signal[node]))
    found = waves(circuit, driven.gain, matched, wiring=wiring, catalogue=shop, start=start)[node]
    plain_wave = np.sqrt(levels.signal[node] / levels.signal[start])
    delay = sum(
        circuit.delay_us[circuit.edge_of_link[k.id]] for k in run[1] if _on_way(run, k, plate)
    )
    ratio = found / (plain_wave * np.exp(-2j * np.pi * WIDE * delay))
    return -10 * np.log10(summed), float(-10 * np.log10(np.mean(np.abs(ratio - ratio.mean()) ** 2)))


def _on_way(run: Run, link: Cable, plate: str) -> bool:
    to = plate
    while True:
        feed = next((k for k in run[1] if k.to_part == to), None)
        if feed is None:
            return False
        if feed.id == link.id:
            return True
        to = feed.from_part


def _chain(*kinds: str, lengths: list[float], end: str = "plate") -> Run:
    parts = [Part(id="p1", type="antenna")]
    links = []
    for n, (kind, metres) in enumerate(zip((*kinds, end), lengths, strict=True), start=2):
        parts.append(Part(id=f"p{n}", type=kind, outlet="o1" if kind == end else None))
        links.append(
            Cable(id=f"l{n}", from_part=f"p{n - 1}", to_part=f"p{n}", cable="rg6", length_m=metres)
        )
    for n, part in enumerate(parts[1:-1]):
        if SHOP.parts[part.type].outputs > 1:
            parts.append(Part(id=f"t{n}", type="terminator"))
            links.append(
                Cable(
                    id=f"k{n}",
                    from_part=part.id,
                    from_port=1,
                    to_part=f"t{n}",
                    cable="rg6",
                    length_m=3.1 + 2.3 * n,
                )
            )
    return parts, links


@pytest.mark.parametrize(
    "run",
    [
        _chain(lengths=[11.3]),
        _chain("arrester", "block-1", lengths=[4.1, 7.7, 13.9]),
        _chain("preamp-13", "block-1", "splitter-2", lengths=[6.1, 9.3, 12.1, 17.7]),
        _chain("splitter-2", "tap-12", lengths=[5.3, 11.9, 8.7]),
    ],
)
def test_the_sum_of_powers_against_the_waves_over_a_wide_band(run: Run) -> None:
    """First order against all orders, phases over a whole band. Pairs without a length between them count
    in the sum and are no ripple, so each part sends back at one side only."""
    quiet = ((1.0, 120.0),)
    one_side = {"return_loss_out_db": quiet}
    parts = {k: p.model_copy(update=one_side) for k, p in SHOP.parts.items() if p.inputs}
    parts["plate"] = parts["plate"].model_copy(update={"return_loss_in_db": quiet})
    shop = SHOP.model_copy(update={"parts": {**SHOP.parts, **parts}})
    summed, varied = _echo_db(run, shop, next(p.id for p in run[0] if p.outlet))
    assert summed == pytest.approx(varied, abs=1.0)


def test_two_mismatches_on_a_line_ripple_as_the_textbook_says() -> None:
    """Of two mismatches of 10 dB with a line of loss L between them the echo is 20 dB + 2 L down; from
    top to bottom the ripple is 20 log (1 + a) / (1 - a) (mismatch uncertainty, S. F. Adam, Microwave
    Theory and Applications (1969), from memory)."""
    ten = ((1.0, 10.0),)
    parts = {
        "antenna": SHOP.parts["antenna"].model_copy(update={"return_loss_out_db": ten}),
        "terminator": SHOP.parts["terminator"].model_copy(update={"return_loss_in_db": ten}),
    }
    shop = SHOP.model_copy(update={"parts": parts})
    run = _chain(lengths=[20.0], end="terminator")
    wiring = wire(*run, shop)
    f = np.linspace(600.0, 640.0, 401)
    circuit = compile_arrays(wiring, shop, from_one(60.0, 40.0, f))
    driven, matched = excite(circuit), matching(wiring, shop, circuit)
    levels = with_echoes(circuit, driven, solve(circuit, driven), matched)
    node = circuit.nodes["p2", "in", 0]
    loss = float(SHOP.cables["rg6"].loss_db(20.0, 620.0))
    a = 10 ** (-(20 + 2 * loss) / 20)
    told = 20 * np.log10((1 + a) / (1 - a))
    assert levels.ripple_db[node, 200] == pytest.approx(told, abs=0.01)
    found = 20 * np.log10(
        np.abs(waves(circuit, driven.gain, matched, wiring=wiring, catalogue=shop, start=0)[node])
    )
    slope = np.polyval(np.polyfit(f, found, 1), f)
    assert np.ptp(found - slope) == pytest.approx(told, abs=0.05)


def test_an_open_port_sends_its_power_to_its_neighbour_and_a_cap_stops_it() -> None:
    """Over an isolation of 20 dB, a port beside it that is open makes an echo of the isolation."""
    twenty = ((1.0, 20.0),)
    quiet = ((1.0, 120.0),)
    none = {"return_loss_in_db": quiet, "return_loss_out_db": quiet}
    parts = {k: SHOP.parts[k].model_copy(update=none) for k in ("antenna", "plate", "terminator")}
    parts["splitter-2"] = SHOP.parts["splitter-2"].model_copy(
        update={**none, "isolation_db": twenty}
    )
    shop = SHOP.model_copy(update={"parts": parts})
    capped = _chain("splitter-2", lengths=[10.0, 0.0])
    run = (capped[0][:-1], capped[1][:-1])
    capped = (
        [*run[0], Part(id="p9", type="terminator")],
        [
            *run[1],
            Cable(id="l9", from_part="p2", from_port=1, to_part="p9", cable="rg6", length_m=0.0),
        ],
    )
    found = []
    for one in (run, capped):
        wiring = wire(*one, shop)
        circuit = compile_arrays(wiring, shop, from_one(60.0, 40.0, MHZ))
        driven = excite(circuit)
        levels = with_echoes(
            circuit,
            driven,
            solve(circuit, driven),
            dataclasses.replace(matching(wiring, shop, circuit)),
        )
        assert levels.echo is not None
        node = circuit.nodes["p3", "out", 0]
        found.append(10 * np.log10(levels.signal[node, 0] / max(levels.echo[node, 0], 1e-30)))
    assert found[0] == pytest.approx(20.0, abs=0.3)
    assert found[1] > 60


@given(nets(antennas=1, inline=("block-1", "arrester"), longest_m=30.0))
@examples(2, 50)
def test_small_and_large_systems_are_solved_alike(run: Run) -> None:
    run = _with_plates(run)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(scattering, "DENSE", 0)
        sparse = _ours(run, SHOP, MHZ)
        patch.setattr(scattering, "DENSE", 10_000)
        dense = _ours(run, SHOP, MHZ)
    for plate, wave in sparse.items():
        assert wave == pytest.approx(dense[plate], abs=1e-12)
