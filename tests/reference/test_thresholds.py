"""Thresholds of modulations against their published tables and against what no code can beat.

The tables are those of the standards named at each, from memory. Independent of memory is the limit
of Shannon: no ratio may lie under the capacity that its own bits need, and a good code lies close.
"""

from __future__ import annotations

import itertools
import math
import re

import pytest

from evtro import profiles
from evtro.core.physics.modulation import MODULATIONS, nearest_names

BITS = {
    "QPSK": 2,
    "DQPSK": 2,
    "4QAM": 2,
    "8PSK": 3,
    "8APSK": 3,
    "16QAM": 4,
    "16APSK": 4,
    "32QAM": 5,
    "32APSK": 5,
    "64QAM": 6,
    "64APSK": 6,
    "128APSK": 7,
    "128QAM": 7,
    "256QAM": 8,
    "256APSK": 8,
}
# Systems with a code of their own; how far above the limit their thresholds lie at most [dB].
GAPS = {
    "DVB-S2": 3.6,
    "DVB-S2X": 2.3,
    "DVB-T2": 3.1,
    "ATSC 3.0": 2.1,
    "DTMB": 8.0,
    "ISDB-T": 9.0,
    "DVB-T": 9.0,
    "DVB-S": 5.4,
}
# The outer Reed-Solomon code of the older systems, 188 of 204 bytes; BCH of DTMB, 752 of 762.
OUTER = {"DVB-T": 188 / 204, "ISDB-T": 188 / 204, "DVB-S": 188 / 204, "DTMB": 752 / 762}
WHERE = [m for m in MODULATIONS.values() if m.system in GAPS]


def _limit_db(code: str, system: str) -> float:
    name, rate = code.removeprefix(system).split()
    top, _, bottom = re.sub("-L$", "", rate).partition("/")
    share = float(top) / float(bottom) if bottom else float(top)
    bits = BITS[name] * share * OUTER.get(system, 1.0)
    return 10 * math.log10(2**bits - 1)


@pytest.mark.parametrize("kind", WHERE, ids=lambda m: m.code)
def test_no_threshold_beats_capacity_and_each_is_near_it(kind: object) -> None:
    from evtro.core.physics.modulation import Modulation

    assert isinstance(kind, Modulation)
    over = kind.cn_db - _limit_db(kind.code, kind.system)
    assert 0.2 < over < GAPS[kind.system], f"{kind.code}: {over:.2f} dB over the limit"


@pytest.mark.parametrize("system", sorted(GAPS))
def test_more_bits_want_more(system: str) -> None:
    """Within one constellation the ratio rises with the rate."""
    rows: dict[str, list[tuple[float, float]]] = {}
    for m in MODULATIONS.values():
        if m.system == system and not m.code.endswith("-L"):
            rows.setdefault(m.code.removeprefix(system).split()[0], []).append(
                (_limit_db(m.code, system), m.cn_db)
            )
    for found in rows.values():
        assert [cn for _, cn in sorted(found)] == sorted(cn for _, cn in found)


# One figure or more of each table, as the standard gives it (from memory).
@pytest.mark.parametrize(
    ("code", "cn_db", "origin"),
    [
        ("DVB-S2 QPSK 1/4", -2.35, "302 307"),
        ("DVB-S2 QPSK 1/3", -1.24, "302 307"),
        ("DVB-S2 QPSK 2/5", -0.30, "302 307"),
        ("DVB-S2 8PSK 2/3", 6.62, "302 307"),
        ("DVB-S2X QPSK 13/45", -2.03, "302 307-2"),
        ("DVB-S2X 8PSK 25/36", 7.02, "302 307-2"),
        ("DVB-S2X 16APSK 26/45", 7.51, "302 307-2"),
        ("DVB-S2X 64APSK 5/6", 16.55, "302 307-2"),
        ("DVB-S2X 256APSK 3/4", 19.57, "302 307-2"),
        ("DVB-T2 QPSK 1/2", 1.0, "102 831"),
        ("DVB-T2 16QAM 3/4", 10.0, "102 831"),
        ("DVB-T2 64QAM 5/6", 16.8, "102 831"),
        ("DVB-T2 256QAM 5/6", 22.0, "102 831"),
        ("ISDB-T 64QAM 3/4", 20.1, "B31"),
        ("ISDB-T QPSK 2/3", 6.6, "B31"),
        ("ISDB-T 64QAM 7/8", 22.0, "B31"),
        ("DTMB 64QAM 0.6", 17.0, "20600"),
        ("DTMB 4QAM 0.4", 2.5, "20600"),
        ("DVB-C 16QAM", 19.0, "300 429"),
        ("DVB-C 256QAM", 31.0, "300 429"),
        ("ATSC 3.0 QPSK 7/15", 0.3, "A/327"),
        ("ATSC 3.0 16QAM 9/15", 7.3, "A/327"),
    ],
)
def test_figures_of_the_tables(code: str, cn_db: float, origin: str) -> None:
    kind = MODULATIONS[code]
    assert kind.cn_db == pytest.approx(cn_db, abs=0.05)
    assert origin in kind.origin
    assert "from memory" in kind.origin


def test_a_step_of_cable_modulation_is_three_decibels() -> None:
    """Each bit more on a square of points wants 3 dB; the 2^n QAM of EN 300 429 all are there."""
    found = [MODULATIONS[f"DVB-C {n}QAM"].cn_db for n in (16, 32, 64, 128, 256)]
    assert [b - a for a, b in itertools.pairwise(found)] == [3.0] * 4


@pytest.mark.parametrize("key", ["europe", "north-america", "australia-new-zealand"])
def test_every_modulation_has_a_window_with_its_origin(key: str) -> None:
    profile = profiles.load(key)
    for m in MODULATIONS.values():
        window = profile.window(m.code, m.system)
        assert window.low_dbuv < window.high_dbuv
        assert window.origin
    weak, strong = (profile.window(f"DVB-C {n}QAM", "DVB-C") for n in (64, 256))
    assert weak.low_dbuv < strong.low_dbuv
    assert weak != strong


def test_an_unknown_modulation_names_its_own_system() -> None:
    assert "DVB-T2 256QAM 3/4" in nearest_names("dvb-t2 1024QAM")
    assert "DVB-S2X QPSK" not in nearest_names("DVB-S2 QPSK 9/99")
    assert "ISDB-T" in nearest_names("chirp")
