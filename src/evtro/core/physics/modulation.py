"""Wanted carrier-to-noise ratios by system, modulation and code rate (AWGN, quasi error free)."""

from __future__ import annotations

from dataclasses import dataclass

EN_302_307 = "EN 302 307-1 table 13, ideal Es/N0 (from memory)"
EN_302_307_2 = "EN 302 307-2 table 20a, ideal Es/N0 (from memory)"
A_327 = "ATSC A/327, AWGN, long code (from memory, good to 0.5 dB)"
STD_B31 = "ARIB STD-B31, required C/N, mode 3 (from memory)"
GB_20600 = "GB 20600, required C/N (from memory)"
EN_300_421 = "EN 300 421 table of Eb/N0 with 0.8 dB implementation margin (from memory)"
EN_300_744 = "EN 300 744 annex A, Gaussian channel (from memory)"
DVB_T2 = "ETSI TS 102 831, guidelines to EN 302 755, Gaussian channel, long code (from memory)"
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
    *(Modulation(code=f"DVB-T {name}", system="DVB-T", cn_db=g, origin=EN_300_744, mild_echoes_db=rice, strong_echoes_db=rayleigh)
      for name, (g, rice, rayleigh) in _DVB_T.items()),
    *_rows("DVB-T2", DVB_T2, {
        "QPSK 1/2": 1.0, "QPSK 3/5": 2.3, "QPSK 2/3": 3.1, "QPSK 3/4": 4.1, "QPSK 4/5": 4.7,
        "QPSK 5/6": 5.2, "16QAM 1/2": 6.0, "16QAM 3/5": 7.6, "16QAM 2/3": 8.9, "16QAM 3/4": 10.0,
        "16QAM 4/5": 10.8, "16QAM 5/6": 11.4, "64QAM 1/2": 9.9, "64QAM 3/5": 12.0, "64QAM 2/3": 13.5,
        "64QAM 3/4": 15.1, "64QAM 4/5": 16.1, "64QAM 5/6": 16.8, "256QAM 1/2": 13.2,
        "256QAM 3/5": 16.1, "256QAM 2/3": 17.8, "256QAM 3/4": 20.0, "256QAM 4/5": 21.3,
        "256QAM 5/6": 22.0,
    }),
    *_rows("ATSC 3.0", A_327, {
        "QPSK 3/15": -4.3, "QPSK 5/15": -1.7, "QPSK 7/15": 0.3, "QPSK 9/15": 2.0, "QPSK 11/15": 3.6,
        "16QAM 5/15": 2.8, "16QAM 7/15": 5.2, "16QAM 9/15": 7.3, "16QAM 11/15": 9.5,
        "64QAM 5/15": 6.0, "64QAM 7/15": 8.9, "64QAM 9/15": 11.5, "64QAM 10/15": 12.8,
        "64QAM 11/15": 14.1, "256QAM 7/15": 12.2, "256QAM 8/15": 13.7, "256QAM 9/15": 15.4,
        "256QAM 10/15": 17.0, "256QAM 11/15": 18.6, "256QAM 12/15": 20.2, "256QAM 13/15": 21.9,
    }),
    *_rows("ISDB-T", STD_B31, {
        "DQPSK 1/2": 6.2, "DQPSK 2/3": 7.7, "DQPSK 3/4": 8.7, "DQPSK 5/6": 9.6, "DQPSK 7/8": 10.4,
        "QPSK 1/2": 4.9, "QPSK 2/3": 6.6, "QPSK 3/4": 7.5, "QPSK 5/6": 8.5, "QPSK 7/8": 9.1,
        "16QAM 1/2": 11.5, "16QAM 2/3": 13.5, "16QAM 3/4": 14.6, "16QAM 5/6": 15.6, "16QAM 7/8": 16.2,
        "64QAM 1/2": 16.5, "64QAM 2/3": 18.7, "64QAM 3/4": 20.1, "64QAM 5/6": 21.3, "64QAM 7/8": 22.0,
    }),
    *_rows("DTMB", GB_20600, {
        "4QAM 0.4": 2.5, "4QAM 0.6": 4.5, "4QAM 0.8": 7.0, "16QAM 0.4": 8.0, "16QAM 0.6": 11.0,
        "16QAM 0.8": 14.0, "32QAM 0.8": 16.0, "64QAM 0.4": 14.0, "64QAM 0.6": 17.0, "64QAM 0.8": 22.0,
    }),
    *_rows("ATSC", A_74, {"8-VSB": 15.2}),
    *_rows("DVB-C", EN_300_429, {"16QAM": 19.0, "32QAM": 22.0, "64QAM": 25.0, "128QAM": 28.0,
                                   "256QAM": 31.0}),
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
    *_rows("DVB-S2X", EN_302_307_2, {
        "QPSK 13/45": -2.03, "QPSK 9/20": 0.22, "QPSK 11/20": 1.45, "8APSK 5/9-L": 4.73,
        "8APSK 26/45-L": 5.13, "8PSK 23/36": 6.12, "8PSK 25/36": 7.02, "8PSK 13/18": 7.49,
        "16APSK 1/2-L": 5.97, "16APSK 8/15-L": 6.55, "16APSK 5/9-L": 6.84, "16APSK 26/45": 7.51,
        "16APSK 3/5": 7.80, "16APSK 3/5-L": 7.41, "16APSK 28/45": 8.10, "16APSK 23/36": 8.38,
        "16APSK 2/3-L": 8.43, "16APSK 25/36": 9.27, "16APSK 13/18": 9.71, "16APSK 7/9": 10.65,
        "16APSK 77/90": 11.99, "32APSK 2/3-L": 11.10, "32APSK 32/45": 11.75, "32APSK 11/15": 12.17,
        "32APSK 7/9": 13.05, "64APSK 32/45-L": 13.98, "64APSK 11/15": 14.81, "64APSK 7/9": 15.47,
        "64APSK 4/5": 15.87, "64APSK 5/6": 16.55, "128APSK 3/4": 17.73, "128APSK 7/9": 18.53,
        "256APSK 29/45-L": 16.98, "256APSK 2/3-L": 17.24, "256APSK 31/45-L": 18.10,
        "256APSK 32/45": 18.59, "256APSK 11/15-L": 18.84, "256APSK 3/4": 19.57,
    }),
]  # fmt: skip

# How late an echo may come that a receiver makes good [µs]: the shortest guard interval of its system, or
# the reach of its equaliser (common practice, no source). Satellite receivers equalise some symbols.
ECHO_US = {
    "DVB-T": 7.0,
    "DVB-T2": 7.0,
    "ATSC 3.0": 20.0,
    "ISDB-T": 7.0,
    "DTMB": 50.0,
    "DAB": 30.0,
    "ATSC": 10.0,
    "DVB-C": 1.0,
    "FM": 1.0,
}
ECHO_SYMBOLS = 3.0

MODULATIONS: dict[str, Modulation] = {m.code: m for m in _ALL}


def tolerated_echo_us(code: str, bandwidth_mhz: float) -> float:
    """How late an echo may come that a receiver of a modulation makes good [µs]; 0 for an unknown one."""
    found = MODULATIONS.get(code)
    if found is None:
        return 0.0
    return ECHO_US.get(found.system, ECHO_SYMBOLS / max(bandwidth_mhz, 0.001))


def nearest_names(code: str) -> str:
    """What may have been meant by a modulation that is not known: those of its system, else the
    systems."""
    system = max(
        (m.system for m in _ALL if code.upper().startswith(m.system.upper())), key=len, default=""
    )
    if system:
        return ", ".join(m.code for m in _ALL if m.system == system)
    return ", ".join(dict.fromkeys(m.system for m in _ALL)) + " with modulation and code rate"
