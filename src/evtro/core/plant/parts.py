"""What a part of the run is: its ports, its loss over frequency, its powering."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import ArrayLike
from pydantic import BaseModel, ConfigDict

from ..physics.geodesy import Floats

Kind = Literal[
    "antenna", "lnb", "preamplifier", "amplifier", "inserter", "filter", "arrester",
    "grounding_block", "splitter", "tap", "multiswitch", "plate", "attenuator", "terminator", "combiner", "line",
]  # fmt: skip

BLOCKED_DB = 1000.0  # stands for no way at all; no cable that can be entered loses as much


class _Table(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Band(_Table):
    """A band of an LNB: radio frequencies [MHz], local oscillator [MHz], how it is selected."""

    name: str
    low_mhz: float
    high_mhz: float
    lo_mhz: float
    polarisations: tuple[str, ...]
    output: int = 0
    volts: float
    tone: bool = False


class PartType(_Table):
    """A generic part. Loss tables are pairs of frequency [MHz] and loss [dB]; gain is negative."""

    key: str
    kind: Kind
    name: str
    inputs: int = 1
    outputs: int = 1
    low_mhz: float = 5.0
    high_mhz: float = 2150.0
    loss: tuple[tuple[float, float], ...] = ((5.0, 0.0), (2150.0, 0.0))
    tap_loss: tuple[tuple[float, float], ...] | None = None
    satellite_loss: tuple[tuple[float, float], ...] | None = None
    noise_db: float | None = None
    max_output_dbuv: float | None = None
    input_low_dbuv: float | None = None
    input_high_dbuv: float | None = None
    passes_dc: bool = False
    dc_ports: tuple[int, ...] | None = None
    needs_ma: float = 0.0
    needs_low_v: float = 0.0
    needs_high_v: float = 0.0
    gives_v: float = 0.0
    gives_ma: float = 0.0
    setting: bool = False
    lnb_gain_db: float = 0.0
    bands: tuple[Band, ...] = ()
    user_bands: tuple[tuple[float, float], ...] = ()
    input_bands: tuple[tuple[float, float], ...] = ()

    @property
    def parallel(self) -> bool:
        """Each input leads to the output of the same number (a block for several lines)."""
        return self.inputs > 1 and self.kind not in ("multiswitch", "combiner")

    def satellite_input(self, port: int) -> bool:
        """Whether a multiswitch input is for satellite IF: all but the last."""
        return self.kind == "multiswitch" and port < self.inputs - 1

    def path_loss_db(
        self, in_port: int, out_port: int, frequency_mhz: ArrayLike, setting_db: float | None
    ) -> Floats | None:
        """Loss from an input to an output [dB], shape of the frequencies; None where no way leads.

        A multiswitch input passes its own range only: the last one terrestrial below 900 MHz, the
        others satellite IF above.
        """
        f = np.asarray(frequency_mhz, float)
        if self.parallel and in_port != out_port:
            return None
        table, low, high = self.loss, self.low_mhz, self.high_mhz
        if self.kind == "multiswitch":
            if self.satellite_input(in_port):
                table, low = self.satellite_loss or self.loss, max(low, 900.0)
            else:
                high = min(high, 900.0)
        elif self.input_bands:
            low, high = self.input_bands[in_port]
        elif self.kind == "tap" and out_port > 0 and self.tap_loss:
            table = self.tap_loss
        points = np.asarray(table, float)
        loss = np.interp(f, points[:, 0], points[:, 1])
        if self.setting and setting_db is not None:
            # An attenuator adds its setting; an amplifier is turned down by it.
            loss = loss + setting_db
        return np.where((f >= low) & (f <= high), loss, BLOCKED_DB)

    def port_passes_dc(self, out_port: int) -> bool:
        """Whether direct current at an output reaches the input side."""
        return self.passes_dc and (self.dc_ports is None or out_port in self.dc_ports)


class CableType(_Table):
    """A cable class: attenuation a√f + bf [dB/100 m, f in MHz, 20 °C]."""

    key: str
    name: str
    short: str
    a: float
    b: float
    loop_ohm_km: float
    diameter_mm: float
    outdoor: bool = True

    def loss_db(self, length_m: ArrayLike, frequency_mhz: ArrayLike) -> Floats:
        """Loss of a length [m] at frequencies [MHz], broadcast [dB]."""
        f = np.asarray(frequency_mhz, float)
        per_100_m = self.a * np.sqrt(f) + self.b * f
        return np.asarray(np.asarray(length_m, float) / 100.0 * per_100_m)

    @property
    def bend_radius_mm(self) -> float:
        """Least bend radius [mm], ten diameters (common practice, no source)."""
        return 10 * self.diameter_mm


class ArrayType(_Table):
    """A generic terrestrial antenna: band [MHz], gain over frequency as pairs of MHz and dBi,
    half-power beamwidth [deg], front to back [dB], length [m], wind area [m²]."""

    key: str
    name: str
    low_mhz: float
    high_mhz: float
    gain: tuple[tuple[float, float], ...]
    beamwidth_deg: float
    front_back_db: float
    length_m: float
    wind_area_m2: float
    indoors: bool = False


class Catalogue(_Table):
    """All parts, cables and terrestrial antennas at hand."""

    origin: str
    antennas: dict[str, ArrayType] = {}
    cables: dict[str, CableType]
    parts: dict[str, PartType]
