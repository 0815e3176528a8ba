"""Wanted carrier-to-noise ratios by system, modulation and code rate (AWGN, quasi error free)."""

from __future__ import annotations

from dataclasses import dataclass

EN_302_307 = "EN 302 307-1 table 13, ideal Es/N0 (from memory)"
EN_300_421 = "EN 300 421 table of Eb/N0 with 0.8 dB implementation margin (from memory)"
EN_300_744 = "EN 300 744 annex A, Gaussian channel (from memory)"
DVB_T2 = "EN 302 755 implementation guidelines (from memory)"
A_74 = "ATSC A/74 (from memory)"


@dataclass(frozen=True)
class Modulation:
    """`cn_db` is the ratio wanted in the carrier's symbol rate or occupied bandwidth [dB]."""

    code: str
    system: str
    cn_db: float
    origin: str


def _rows(system: str, origin: str, table: dict[str, float]) -> list[Modulation]:
    return [Modulation(f"{system} {name}", system, cn, origin) for name, cn in table.items()]


_ALL = [
    *_rows("DVB-T", EN_300_744, {
        "QPSK 1/2": 3.1, "QPSK 2/3": 4.9, "16QAM 1/2": 8.8, "16QAM 2/3": 11.1, "16QAM 3/4": 12.5,
        "64QAM 1/2": 14.4, "64QAM 2/3": 16.5, "64QAM 3/4": 18.0, "64QAM 5/6": 19.3,
        "64QAM 7/8": 20.1,
    }),
    *_rows("DVB-T2", DVB_T2, {"64QAM 2/3": 13.5, "256QAM 3/5": 16.1, "256QAM 2/3": 17.8,
                              "256QAM 3/4": 20.0}),
    *_rows("ATSC", A_74, {"8-VSB": 15.2}),
    *_rows("DVB-S", EN_300_421, {"QPSK 1/2": 4.1, "QPSK 2/3": 5.9, "QPSK 3/4": 6.9,
                                 "QPSK 5/6": 7.9, "QPSK 7/8": 8.5}),
    *_rows("DVB-S2", EN_302_307, {
        "QPSK 1/4": -2.35, "QPSK 1/3": -1.24, "QPSK 2/5": -0.30, "QPSK 1/2": 1.00,
        "QPSK 3/5": 2.23, "QPSK 2/3": 3.10, "QPSK 3/4": 4.03, "QPSK 4/5": 4.68, "QPSK 5/6": 5.18,
        "QPSK 8/9": 6.20, "QPSK 9/10": 6.42, "8PSK 3/5": 5.50, "8PSK 2/3": 6.62, "8PSK 3/4": 7.91,
        "8PSK 5/6": 9.35, "8PSK 8/9": 10.69, "8PSK 9/10": 10.98, "16APSK 2/3": 8.97,
        "16APSK 3/4": 10.21, "16APSK 4/5": 11.03, "16APSK 5/6": 11.61, "16APSK 8/9": 12.89,
        "16APSK 9/10": 13.13, "32APSK 3/4": 12.73, "32APSK 4/5": 13.64, "32APSK 5/6": 14.28,
        "32APSK 8/9": 15.69, "32APSK 9/10": 16.05,
    }),
]  # fmt: skip

MODULATIONS: dict[str, Modulation] = {m.code: m for m in _ALL}
