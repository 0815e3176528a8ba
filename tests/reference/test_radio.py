"""Levels, noise and cascades against a network library, closed forms and published figures."""

from __future__ import annotations

import math

import numpy as np
import pytest
import skrf

from evtro.core.job import Cable, Part
from evtro.core.job.parts import Catalogue
from evtro.core.network.arrays import Circuit, Columns
from evtro.core.network.levels import Levels
from evtro.core.physics.beams import dish_beamwidth_deg, dish_gain_dbi, free_space_loss_db
from evtro.core.physics.channels import channel_mhz, channel_of
from evtro.core.physics.modulation import MODULATIONS
from evtro.core.physics.propagation.field import free_field_dbuvm, isotropic_dbuv
from evtro.core.units.quantities import noise_dbuv
from evtro.core.units.wire import awg_to_mm2, mm2_to_awg
from tests.plants import from_one, lit

FREQUENCIES = np.array([482.0, 586.0, 690.0, 970.0, 1388.0, 2138.0])


def _sources(level: float = 70.0, cn: float = 60.0) -> Columns:
    return from_one(level, cn, FREQUENCIES, bandwidth_mhz=8.0)


def _chain(
    parts: Catalogue, kinds: list[str], lengths: list[float], cable: str, sources: Columns
) -> tuple[Circuit, Levels]:
    rows = [Part(id="p1", type="lnb-single")]
    links = []
    for i, (kind, metres) in enumerate(zip(kinds, lengths, strict=True)):
        rows.append(Part(id=f"p{i + 2}", type=kind, setting_db=6 if kind == "attenuator" else None))
        links.append(
            Cable(
                id=f"l{i + 1}",
                from_part=f"p{i + 1}",
                to_part=f"p{i + 2}",
                cable=cable,
                length_m=metres,
            )
        )
    return lit(rows, links, parts, sources)


def test_a_coax_cascade_agrees_with_a_network_library(parts: Catalogue) -> None:
    """scikit-rf 2 (scikit-rf.org): lines of complex propagation constant and attenuators as
    scattering matrices, cascaded; its |S21| against the solver's loss."""
    lengths = [18.0, 6.0, 41.5]
    plant, levels = _chain(parts, ["arrester", "attenuator", "plate"], lengths, "rg6", _sources())
    end = plant.nodes["p4", "out", 0]
    mine = 70.0 - levels.level_dbuv[end]

    band = skrf.Frequency.from_f(FREQUENCIES, unit="MHz")
    f = FREQUENCIES
    alpha_np_m = (0.682 * np.sqrt(f) + 0.0004 * f) / 100 / 8.685889638
    beta = 2 * np.pi * f * 1e6 / (0.82 * 299792458.0)
    line = skrf.media.DefinedGammaZ0(frequency=band, gamma=alpha_np_m + 1j * beta, z0=75)

    def pad(points: list[float], values: list[float]) -> skrf.Network:
        db = -np.interp(np.sqrt(f), np.sqrt(points), values)
        s = np.zeros((len(f), 2, 2), complex)
        s[:, 0, 1] = s[:, 1, 0] = 10 ** (db / 20)
        return skrf.Network(frequency=band, s=s, z0=75)

    whole = (
        line.line(18.0, "m")
        ** pad([5, 862, 2150], [0.1, 0.2, 0.5])
        ** line.line(6.0, "m")
        ** pad([5, 2150], [6.0, 6.0])
        ** line.line(41.5, "m")
        ** pad([5, 862, 950, 2150], [0.8, 1.0, 1.2, 1.6])
    )
    # Its own figures in dB take the logarithm of what is reflected, too: nothing.
    assert mine == pytest.approx(-20 * np.log10(np.abs(whole.s[:, 1, 0])), abs=1e-6)


def test_noise_of_a_passive_chain_agrees_with_its_network(parts: Catalogue) -> None:
    """scikit-rf: a matched passive at 290 K has a noise factor of 1/|S21|²."""
    sources = _sources(level=30.0, cn=25.0)
    plant, levels = _chain(parts, ["arrester", "plate"], [60.0, 90.0], "rg59", sources)
    end = plant.nodes["p3", "out", 0]
    for i in range(len(FREQUENCIES)):
        loss = 30.0 - levels.level_dbuv[end, i]
        kt = 10 ** (noise_dbuv(8.0) / 10)
        wanted = 10 ** ((30.0 - 25.0 - loss) / 10) + kt * (1 - 10 ** (-loss / 10))
        cn = 10 * math.log10(10 ** ((30.0 - loss) / 10) / wanted)
        assert levels.cn_db[end, i] == pytest.approx(cn, abs=1e-9)


def test_the_cascade_follows_friis(parts: Catalogue) -> None:
    """Friis (Proc. IRE 32, 1944): F = F1 + (F2 - 1)/G1 + ...; cable ahead of an amplifier adds its
    loss in dB to the noise figure."""
    sources = from_one(60.0, 60.0 - noise_dbuv(8.0), np.array([600.0]), bandwidth_mhz=8.0)
    rows = (
        Part(id="p1", type="antenna"),
        Part(id="p2", type="preamp-13"),
        Part(id="p3", type="block-1"),
    )
    links = (
        Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=15),
        Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=30),
    )
    plant, levels = lit(rows, links, parts, sources)
    cable = parts.cables["rg6"]
    loss1 = float(cable.loss_db(15, [600.0])[0])
    loss2 = float(cable.loss_db(30, [600.0])[0]) + float(
        np.interp(math.sqrt(600), np.sqrt([5, 862, 2150]), [0.1, 0.2, 0.4])
    )
    f_amp, gain = 10**0.15, 10**1.3
    l1, l2 = 10 ** (loss1 / 10), 10 ** (loss2 / 10)
    total = l1 + (f_amp - 1) * l1 + (l2 - 1) * l1 / gain
    wanted = 60.0 - noise_dbuv(8.0) - 10 * math.log10(total)
    assert levels.cn_db[plant.nodes["p3", "out", 0], 0] == pytest.approx(wanted, abs=1e-6)


def test_thermal_noise() -> None:
    """kTB at 290 K: -106.2 dBm in 6 MHz, -105.2 dBm in 7.61 MHz (handbook figures, from memory)."""
    assert noise_dbuv(6.0) - 108.75 == pytest.approx(-106.2, abs=0.05)
    assert noise_dbuv(7.61) - 108.75 == pytest.approx(-105.2, abs=0.05)


def test_field_strength_and_terminal_level() -> None:
    """ITU-R P.525 in the trade's form: P = E + G - 20 log f - 77.2 dBm; 1 kW over a dipole gives
    106.9 dBµV/m at 1 km (from memory)."""
    assert float(free_field_dbuvm(1.0, 1.0)) == pytest.approx(106.9)
    level = float(isotropic_dbuv(80.0, 600.0)) + 12.0
    assert level - 108.75 == pytest.approx(80 + 12 - 20 * math.log10(600) - 77.2, abs=0.05)


def test_free_space_two_ways() -> None:
    """The field-strength path and the transmission-loss path of P.525 give the same power."""
    erp_kw, km, mhz, gain = 20.0, 38.6, 586.0, 12.5
    by_field = float(isotropic_dbuv(free_field_dbuvm(erp_kw, km), mhz)) + gain
    eirp_dbm = 10 * math.log10(erp_kw * 1e6) + 2.15
    by_loss = eirp_dbm - float(free_space_loss_db(km, mhz)) + gain + 108.75
    assert by_field == pytest.approx(by_loss, abs=0.05)


def test_free_space_loss_check_value() -> None:
    """50 km at 610 MHz: 122.13 dB (ITU-R P.525 by a propagation library)."""
    assert float(free_space_loss_db(50.0, 610.0)) == pytest.approx(122.134, abs=0.01)


def test_dish_gain_against_its_aperture() -> None:
    """Gain is 4 pi A / lambda² times efficiency; 0.8 m at 11.7 GHz has 38.0 dBi and 2.2° beam
    (common practice, no source)."""
    wavelength = 299.792458 / 11700
    area = math.pi * 0.4**2
    wanted = 10 * math.log10(0.65 * 4 * math.pi * area / wavelength**2)
    assert dish_gain_dbi(0.8, 11700, 0.65) == pytest.approx(wanted, abs=1e-9)
    assert dish_gain_dbi(0.8, 11700, 0.65) == pytest.approx(38.0, abs=0.1)
    assert dish_beamwidth_deg(0.8, 11700) == pytest.approx(2.24, abs=0.01)


# ASTM B258, nominal cross-sections (from memory).
@pytest.mark.parametrize(
    ("awg", "mm2"), [(6, 13.30), (8, 8.366), (10, 5.261), (14, 2.081), (17, 1.038)]
)
def test_wire_sizes(awg: int, mm2: float) -> None:
    assert awg_to_mm2(awg) == pytest.approx(mm2, rel=0.002)
    assert mm2_to_awg(mm2) == pytest.approx(awg, abs=0.02)


# EN 302 307-1 table 13, EN 300 744 annex A, A/74 (from memory).
@pytest.mark.parametrize(
    ("code", "cn"),
    [
        ("DVB-S2 QPSK 1/2", 1.00),
        ("DVB-S2 8PSK 2/3", 6.62),
        ("DVB-S2 16APSK 3/4", 10.21),
        ("DVB-T 64QAM 2/3", 16.5),
        ("ATSC 8-VSB", 15.2),
    ],
)
def test_thresholds(code: str, cn: float) -> None:
    assert MODULATIONS[code].cn_db == cn
    assert "from memory" in MODULATIONS[code].origin


# Channel centres of the regional plans (from memory).
@pytest.mark.parametrize(
    ("table", "channel", "mhz"),
    [
        ("europe", 21, 474.0),
        ("europe", 48, 690.0),
        ("europe", 5, 177.5),
        ("north-america", 2, 57.0),
        ("north-america", 7, 177.0),
        ("north-america", 14, 473.0),
        ("north-america", 36, 605.0),
        ("australia", 28, 529.5),
    ],
)
def test_channels(table: str, channel: int, mhz: float) -> None:
    assert channel_mhz(channel, table) == mhz
    assert channel_of(mhz, table) == channel
