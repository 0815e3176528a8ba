"""What a part of the run is: ports, paths between them, supplies. What it is called decides its
picture and nothing else."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from numpy.typing import ArrayLike
from pydantic import BaseModel, ConfigDict, model_validator

from ..physics.geodesy import Floats

Picture = Literal[
    "antenna", "lnb", "preamplifier", "amplifier", "inserter", "filter", "arrester",
    "grounding_block", "splitter", "tap", "multiswitch", "plate", "attenuator", "terminator", "combiner", "line",
]  # fmt: skip

BLOCKED_DB = 1000.0  # stands for no way at all; no cable that can be entered loses as much
LOW_V, HIGH_V = 13.0, 18.0  # the two voltages of a receiver (EN 61319-1, from memory)
BETWEEN_V = 15.0  # what parts a receiver's two voltages (EN 61319-1, from memory)


class _Table(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Band(_Table):
    """A band of an LNB: radio frequencies [MHz], local oscillator [MHz], how it is asked for."""

    name: str
    low_mhz: float
    high_mhz: float
    lo_mhz: float
    polarisations: tuple[str, ...]
    output: int = 0
    volts: float
    tone: bool = False

    @property
    def asked(self) -> tuple[float, bool]:
        """Voltage [V] and tone on the line that ask for it."""
        return (HIGH_V if self.volts >= BETWEEN_V else LOW_V), self.tone


class Path(_Table):
    """A way from some inputs to some outputs: gain over frequency as pairs of MHz and dB, the range
    that it passes [MHz], noise figure [dB] where it is active. With `each`, every input leads to the
    output of its own number. Arrivals at one output are added, or one of them is selected."""

    inputs: tuple[int, ...]
    outputs: tuple[int, ...]
    each: bool = False
    arrivals: Literal["added", "selected"] = "added"
    low_mhz: float
    high_mhz: float
    gain_db: tuple[tuple[float, float], ...]
    noise_figure_db: float | None = None
    rated_output_dbuv: float | None = None

    def gain_at(self, frequency_mhz: ArrayLike) -> Floats:
        """Gain [dB], shape of the frequencies [MHz]; -BLOCKED_DB outside its range. Between the points
        it goes straight over the root of the frequency, as loss in copper does."""
        f = np.asarray(frequency_mhz, float)
        points = np.asarray(self.gain_db, float)
        gain = np.interp(np.sqrt(f), np.sqrt(points[:, 0]), points[:, 1])
        return np.where((f >= self.low_mhz) & (f <= self.high_mhz), gain, -BLOCKED_DB)


class Select(_Table):
    """What asks for an input at any output: a voltage [V] and a tone on its line, or a position that
    the receiver sends as a command."""

    input: int
    low_v: float = 0.0
    high_v: float = 99.0
    tone: bool | None = None
    position: bool = False

    def answers(self, volts: float, tone: bool) -> bool:
        """Whether this input is the one that such a line asks for."""
        return self.low_v <= volts <= self.high_v and (self.tone is None or self.tone == tone)


class Supply(_Table):
    """A supply: volts and milliamperes at some inputs together. One that repeats hands on what the
    outlet's line asks for; `low_volts` is what it gives while the lower voltage is asked for."""

    volts: float
    most_ma: float
    inputs: tuple[int, ...] = (0,)
    repeats: bool = False
    low_volts: float | None = None

    def at(self, asked_v: float) -> float:
        """What it gives while the receivers ask for a voltage [V]."""
        return self.volts if self.low_volts is None or asked_v >= BETWEEN_V else self.low_volts


class Load(_Table):
    """What a part draws [mA], and the voltages between which it works [V]."""

    ma: float
    low_v: float
    high_v: float


class PartType(_Table):
    """A generic part.

    Ports are numbered by side. `receivers` are the outputs where a receiver is plugged in and no
    cable goes on; `dc` pairs of input and output whose centre conductors are joined; `low_mhz` and
    `high_mhz` what a source gives. A part without its voltage passes what `dark_gain_db` says.
    """

    key: str
    draws_as: Picture
    name: str
    inputs: int = 1
    outputs: int = 1
    receivers: tuple[int, ...] = ()
    paths: tuple[Path, ...] = ()
    select: tuple[Select, ...] = ()
    dc: tuple[tuple[int, int], ...] = ()
    passes_tone: bool = True
    supply: Supply | None = None
    load: Load | None = None
    dark_gain_db: float = -BLOCKED_DB
    setting: bool = False
    input_low_dbuv: float | None = None
    input_high_dbuv: float | None = None
    low_mhz: float = 5.0
    high_mhz: float = 2150.0
    noise_db: float = 0.0
    lnb_gain_db: float = 0.0
    bands: tuple[Band, ...] = ()
    user_bands: tuple[tuple[float, float], ...] = ()

    @model_validator(mode="before")
    @classmethod
    def _written_short(cls, given: Any) -> Any:
        """Ports left out of a path are all ports of that side, a range left out the table's ends."""
        if not isinstance(given, dict):
            return given
        out = dict(given)
        ins, outs = range(out.get("inputs", 1)), range(out.get("outputs", 1))
        paths = []
        for path in out.get("paths", ()):
            if isinstance(path, dict):
                table = path["gain_db"]
                path = {"inputs": tuple(ins), "outputs": tuple(outs), "low_mhz": table[0][0],
                        "high_mhz": table[-1][0], **path}  # fmt: skip
            paths.append(path)
        out["paths"] = tuple(paths)
        if out.get("dc") == "all":
            out["dc"] = tuple((i, o) for i in ins for o in outs)
        elif out.get("dc") == "each":
            out["dc"] = tuple((i, i) for i in ins)
        return out

    @property
    def joinable(self) -> tuple[int, ...]:
        """Outputs that a cable can be joined to."""
        return tuple(o for o in range(self.outputs) if o not in self.receivers)

    @property
    def ways(self) -> list[tuple[int, int, Path]]:
        """Every single way: input, output, the path that it is of."""
        return [
            (i, o, path) for path in self.paths for i in path.inputs for o in path.outputs
            if not path.each or i == o
        ]  # fmt: skip

    def gain_db(
        self, in_port: int, out_port: int, frequency_mhz: ArrayLike, setting_db: float | None
    ) -> Floats | None:
        """Gain from an input to an output [dB], shape of the frequencies [MHz]; None where no way
        leads. A setting takes from it: an attenuator's loss, an amplifier turned down."""
        for i, o, path in self.ways:
            if (i, o) == (in_port, out_port):
                return path.gain_at(frequency_mhz) - (setting_db or 0.0 if self.setting else 0.0)
        return None

    def passes_mhz(self, in_port: int) -> tuple[float, float] | None:
        """The range that an input takes [MHz]; None for one that leads nowhere."""
        mine = [p for p in self.paths if in_port in p.inputs]
        if not mine:
            return None
        return min(p.low_mhz for p in mine), max(p.high_mhz for p in mine)

    @property
    def range_mhz(self) -> tuple[float, float]:
        """The range of all its ways, or what it gives as a source [MHz]."""
        if not self.paths:
            return self.low_mhz, self.high_mhz
        return min(p.low_mhz for p in self.paths), max(p.high_mhz for p in self.paths)

    @property
    def rated_output_dbuv(self) -> float | None:
        """The rating of its output [dBµV]; None for a part that has none."""
        return next((p.rated_output_dbuv for p in self.paths if p.rated_output_dbuv), None)

    @property
    def selects(self) -> bool:
        """Whether an outlet's line asks for one of several inputs."""
        return any(p.arrivals == "selected" for p in self.paths)

    @property
    def together(self) -> bool:
        """Whether several lines pass side by side, each on its own."""
        return any(p.each for p in self.paths) and self.inputs > 1

    def by_line(self, output: int) -> bool:
        """Whether an LNB's output gives what its line asks for: more than one state brings bands."""
        return len({b.asked for b in self.bands if b.output == output}) > 1


class CableType(_Table):
    """A cable class: attenuation a√f + bf [dB/100 m, f in MHz, 20 °C], resistance of centre and braid
    together [Ω/km], velocity as a share of light's."""

    key: str
    name: str
    short: str
    a: float
    b: float
    loop_ohm_km: float
    diameter_mm: float
    outdoor: bool = True
    velocity: float = 0.82

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

    def part(self, key: str) -> PartType | None:
        """The part of that key; None for one that the catalogue does not know."""
        return self.parts.get(key)
