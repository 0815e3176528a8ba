"""Wanted carrier-to-noise ratios by system, modulation and code rate (AWGN, quasi error free)."""

from __future__ import annotations

from dataclasses import dataclass

EN_302_307 = "EN 302 307-1 table 13, ideal Es/N0 (from memory)"
EN_300_421 = "EN 300 421 table of Eb/N0 with 0.8 dB implementation margin (from memory)"
EN_300_744 = "EN 300 744 annex A, Gaussian channel (from memory)"
DVB_T2 = "EN 302 755 implementation guidelines (from memory)"
EN_300_401 = "EN 300 401, DQPSK at protection level 3A (from memory)"
EN_300_429 = "EN 300 429 with receiver margin (from memory)"
FM = "stereo without hiss; common practice, no source"
MOBILE = "no service: it only loads the amplifier"
A_74 = "ATSC A/74 (from memory)"


@dataclass(frozen=True)
class Modulation:
    """`cn_db` is the ratio wanted in the carrier's symbol rate or occupied bandwidth [dB]."""

    code: str
    system: str
    cn_db: float
    origin: str
    mild_echoes_db: float | None = None
    strong_echoes_db: float | None = None


def _rows(system: str, origin: str, table: dict[str, float]) -> list[Modulation]:
    return [Modulation(f"{system} {name}", system, cn, origin) for name, cn in table.items()]


# EN 300 744 table A.1: Gaussian, Ricean and Rayleigh channel (from memory).
_DVB_T = {
    "QPSK 1/2": (3.1, 3.6, 5.4), "QPSK 2/3": (4.9, 5.7, 8.4), "QPSK 3/4": (5.9, 6.8, 10.7),
    "QPSK 5/6": (6.9, 8.0, 13.1), "QPSK 7/8": (7.7, 8.7, 16.3),
    "16QAM 1/2": (8.8, 9.6, 11.2), "16QAM 2/3": (11.1, 11.6, 14.2), "16QAM 3/4": (12.5, 13.0, 16.7),
    "16QAM 5/6": (13.5, 14.4, 19.3), "16QAM 7/8": (13.9, 15.0, 22.8),
    "64QAM 1/2": (14.4, 14.7, 16.0), "64QAM 2/3": (16.5, 17.1, 19.3), "64QAM 3/4": (18.0, 18.6, 21.7),
    "64QAM 5/6": (19.3, 20.0, 25.3), "64QAM 7/8": (20.1, 21.0, 27.9),
}  # fmt: skip

_ALL = [
    *(Modulation(f"DVB-T {name}", "DVB-T", g, EN_300_744, rice, rayleigh)
      for name, (g, rice, rayleigh) in _DVB_T.items()),
    *_rows("DVB-T2", DVB_T2, {"64QAM 2/3": 13.5, "256QAM 3/5": 16.1, "256QAM 2/3": 17.8,
                              "256QAM 3/4": 20.0}),
    *_rows("ATSC", A_74, {"8-VSB": 15.2}),
    *_rows("DVB-C", EN_300_429, {"64QAM": 25.0, "256QAM": 31.0}),
    *_rows("FM", FM, {"stereo": 38.0}),
    *_rows("DAB", EN_300_401, {"DQPSK": 7.4}),
    *_rows("Mobile", MOBILE, {"OFDM": 0.0}),
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
