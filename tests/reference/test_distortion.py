"""Distortion against signals that are really squared and cubed, and against the count of beats."""

from __future__ import annotations

import numpy as np
import pytest

from evtro import catalogue
from evtro.core.job import Cable, Part
from evtro.core.job.parts import Catalogue, PartType
from evtro.core.network.arrays import Columns, compile_arrays
from evtro.core.network.distortion import Spectrum, coefficients, distorting, spectrum
from evtro.core.network.excitation import excite
from evtro.core.network.graph import wire
from evtro.core.network.levels import Levels
from evtro.core.network.solve import Alteration, solve, solve_variants
from evtro.core.physics.geodesy import Floats

CATALOGUE = catalogue.load()
RATED, RATIO = 110.0, 60.0


def _grid(f: Floats, b: Floats, asks: tuple[tuple[float, bool] | None, ...] = ()) -> Spectrum:
    return spectrum(
        Columns(tuple(f"c{i}" for i in range(len(f))), f, b, (None,) * len(f), {}, asks)
    )


def _products(
    level: Floats, f: Floats, b: Floats, square: float, cube: float
) -> tuple[Floats, Floats]:
    second, third = _grid(f, b).products(
        10 ** (level[None] / 10), np.array([square]), np.array([cube])
    )
    return second[0], third[0]


@pytest.mark.parametrize("below_db", [0.0, 7.0])
def test_two_tones_make_the_products_that_the_rating_says(below_db: float) -> None:
    """Two sine waves through the square and the cube, their spectrum read off; at the rating the
    products lie by the ratio below, and 2 dB (3 dB - 1) further for each dB less."""
    square, cube = coefficients(RATED, RATIO, 105.0, 62.0)
    count, k1, k2 = 4096, 400, 520
    t = np.arange(count) / count
    level = RATED - below_db
    size = np.sqrt(2 * 10 ** (level / 10))
    s = size * (np.cos(2 * np.pi * k1 * t) + np.cos(2 * np.pi * k2 * t))
    lines = np.abs(np.fft.rfft(s + np.sqrt(square) * s**2 + np.sqrt(cube) * s**3)) ** 2
    carrier = 10 * np.log10(np.abs(np.fft.rfft(s)[k1]) ** 2)
    assert carrier - 10 * np.log10(lines[2 * k1 - k2]) == pytest.approx(
        RATIO + 2 * below_db, abs=0.01
    )
    assert carrier - 10 * np.log10(lines[k1 + k2]) == pytest.approx(62.0 - 5.0 + below_db, abs=0.01)


def test_a_plan_of_equal_carriers_against_the_count_of_triple_beats() -> None:
    """In the middle of N equal carriers 3/8 N² beats of three fall, each 6 dB stronger than a product
    of two (handbook count for composite triple beat, from memory)."""
    count = 60
    f, b = 250.0 + 8.0 * np.arange(count), np.full(count, 8.0)
    level = np.full(count, 90.0)
    _, third = _products(level, f, b, *coefficients(RATED, RATIO, None, 60.0))
    beats = RATIO + 2 * (RATED - 90.0) - 6.02 - 10 * np.log10(3 / 8 * count**2)
    assert 90.0 - 10 * np.log10(third[count // 2]) == pytest.approx(beats, abs=0.15)


def test_the_total_power_form_is_the_spectrum_of_a_full_band() -> None:
    """C/D = ratio + 2 (U + 3 - P) - 7.8 dB at the middle of a band full of carriers."""
    f, b = 302.0 + 8.0 * np.arange(50), np.full(50, 8.0)
    level = np.full(50, 88.0)
    _, third = _products(level, f, b, *coefficients(RATED, RATIO, None, 60.0))
    total = 88.0 + 10 * np.log10(50)
    assert 88.0 - 10 * np.log10(third[25]) == pytest.approx(
        RATIO + 2 * (RATED + 3.01 - total) - 7.78, abs=0.15
    )


def _noise(rng: np.random.Generator, f: Floats, b: Floats, level: Floats, count: int) -> Floats:
    """Carriers of Gaussian noise on a line of 0.25 MHz."""
    wave = np.zeros(count // 2 + 1, complex)
    k = np.arange(count // 2 + 1) * 0.25
    for mhz, width, dbuv in zip(f, b, level, strict=True):
        inside = np.abs(k - mhz) < width / 2
        random = rng.normal(size=(2, int(inside.sum())))
        power = 10 ** (dbuv / 10) / inside.sum()
        wave[inside] += np.sqrt(power / 2) * (random[0] + 1j * random[1]) * count / np.sqrt(2)
    return np.fft.irfft(wave, count)


def test_unequal_carriers_against_noise_that_is_cubed_and_squared() -> None:
    """Noise in four channels and a base station 25 dB louder, squared and cubed in time; what is
    coherent with the carriers themselves is gain, the rest is distortion, read in each channel."""
    f = np.array([202.0, 210.0, 490.0, 506.0, 700.0, 698.0, 692.0])
    b = np.array([7.0, 7.0, 8.0, 8.0, 10.0, 7.0, 7.0])
    level = np.array([80.0, 78.0, 77.0, 82.0, 104.0, -40.0, -40.0])
    square, cube = coefficients(RATED, RATIO, 100.0, 60.0)
    count, rng = 16384, np.random.default_rng(7)
    power2, power3 = np.zeros(count // 2 + 1), np.zeros(count // 2 + 1)
    turns = 200
    for _ in range(turns):
        s = _noise(rng, f, b, level, count)
        cubed = np.sqrt(cube) * (s**3 - 3 * (10 ** (level / 10)).sum() * s)
        power2 += np.abs(np.fft.rfft(np.sqrt(square) * s**2)) ** 2
        power3 += np.abs(np.fft.rfft(cubed)) ** 2
    k = np.arange(count // 2 + 1) * 0.25
    second, third = _products(level, f, b, square, cube)
    for c in range(len(f)):
        inside = np.abs(k - f[c]) < b[c] / 2
        for made, read in ((second, power2), (third, power3)):
            wanted = 2 * read[inside].sum() / count**2 / turns
            if wanted > 1e-9 * third.max():
                # A channel at the edge of a product sees the grid of 1 MHz.
                assert 10 * np.log10(made[c] / wanted) == pytest.approx(0, abs=0.8), (c, wanted)


def test_products_fall_where_they_belong() -> None:
    """Two loud channels at 500 and 540 MHz: the third order falls on 460 and 580, the second on 40 and
    1040, and a quiet channel between is left alone."""
    f = np.array([500.0, 540.0, 460.0, 580.0, 40.0, 1040.0, 620.0])
    b, level = np.full(7, 8.0), np.array([100.0, 100.0, 40, 40, 40, 40, 40])
    second, third = _products(level, f, b, *coefficients(RATED, RATIO, 105.0, 60.0))
    assert (third[[2, 3]] > 1e3 * third[6]).all()
    assert (second[[4, 5]] > 1e3 * second[[2, 3, 6]].max()).all()


def test_what_is_never_on_the_line_at_once_makes_no_products() -> None:
    """Two states of a line: each carrier meets those of its own state and those without one."""
    f, b = np.array([1000.0, 1100.0, 1200.0, 600.0]), np.full(4, 30.0)
    asks = ((13.0, False), (18.0, False), (18.0, True), None)
    power = np.full((1, 4), 1e10)
    square, cube = coefficients(110.0, 35.0, None, 60.0)
    grid = _grid(f, b, asks)
    _, together = grid.products(power, np.array([square]), np.array([cube]))
    pair = _grid(f[[0, 3]], b[:2]).products(power[:, :2], np.array([square]), np.array([cube]))[1]
    assert together[0, 0] == pytest.approx(pair[0, 0], rel=1e-9)
    assert grid.totals(power)[0] == pytest.approx([2e10] * 4)


AMP = PartType.model_validate({
    "key": "amp", "draws_as": "amplifier", "name": "amplifier", "setting": True,
    "paths": [{"gain_db": [[5, 20], [862, 20]], "noise_figure_db": 5, "rated_output_dbuv": RATED}],
})  # fmt: skip


def _span(count: int, level: float) -> tuple[Levels, Levels]:
    """Amplifiers in line with the cable that each makes good, and all 3 dB hotter as a variant."""
    shelf = Catalogue.model_validate(
        CATALOGUE.model_dump() | {"parts": {**CATALOGUE.parts, "amp": AMP}}
    )
    parts = [Part(id="p1", type="antenna")]
    links = []
    for _n in range(count):
        for kind, setting in (("amp", None), ("attenuator", 20.0)):
            new = f"p{len(parts) + 1}"
            links.append(
                Cable(
                    id=f"l{len(parts)}",
                    from_part=parts[-1].id,
                    to_part=new,
                    cable="rg6",
                    length_m=0.0,
                )
            )
            parts.append(Part(id=new, type=kind, setting_db=setting))
    f = 474.0 + 8.0 * np.arange(28)
    given = np.full(28, level), np.full(28, -20.0)
    columns = Columns(
        tuple(f"c{i}" for i in range(28)),
        f,
        np.full(28, 7.61),
        (("p1", "out", 0),) * 28,
        {("p1", "out", 0): given},
    )
    wiring = wire(parts, links, shelf)
    circuit = compile_arrays(wiring, shelf, columns)
    at = distorting(wiring, circuit)
    driven = excite(circuit)
    base = solve(circuit, driven, at)
    last = np.array([circuit.nodes[parts[-1].id, "out", 0]])
    more = Alteration(level_db={circuit.nodes["p1", "out", 0]: np.full(28, 3.0)})
    return base, solve_variants(circuit, driven, base=base, variants=[more], at=last, distorting=at)


def test_a_cascade_of_like_amplifiers_adds_20_log_n_and_2_db_for_each_db() -> None:
    """Third order of n like spans is 20 log10 n worse (handbook rule, from memory); 3 dB more of
    everything is 6 dB less of C/D, in a variant as in a solution of its own."""
    one, _ = _span(1, 70.0)
    four, hotter = _span(4, 70.0)
    again, _ = _span(4, 73.0)
    cd = [
        -10 * np.log10(x.third[-1] / x.signal[-1])
        for x in (one, four, again)
        if x.third is not None
    ]
    assert cd[0] - cd[1] == pytest.approx(np.full(28, 20 * np.log10(4)), abs=1e-6)
    assert cd[1] - cd[2] == pytest.approx(np.full(28, 6.0), abs=1e-6)
    assert hotter.third is not None
    assert again.third is not None
    assert hotter.third[0, 0] == pytest.approx(again.third[-1], rel=1e-9)
    assert hotter.cn_db[0, 0] == pytest.approx(again.cn_db[-1], abs=1e-9)
