"""What a part of the run is: ports, paths between them, supplies. What it is called decides its
picture and nothing else."""

from __future__ import annotations

import datetime as dt
import math
from typing import Annotated, Any, Literal

import numpy as np
from numpy.typing import ArrayLike
from pydantic import Field, model_validator

from ..physics.geodesy import Floats
from ..units.quantities import InputError
from .built import Part
from .paths import (
    BLOCKED_DB,
    Band,
    Count,
    Curve,
    Db,
    Key,
    Load,
    Losses,
    Mhz,
    NoiseFigure,
    Ohm,
    Path,
    Port,
    Ports,
    Price,
    Select,
    Sheet,
    Supply,
    Words,
    rising,
    wrong,
)
from .typical import TYPICAL_BETWEEN_INPUTS, typical_isolation, typical_match

Picture = Literal[
    "antenna",
    "lnb",
    "preamplifier",
    "amplifier",
    "inserter",
    "filter",
    "arrester",
    "grounding_block",
    "splitter",
    "tap",
    "multiswitch",
    "plate",
    "attenuator",
    "terminator",
    "combiner",
    "line",
    "equaliser",
]


class PartType(Sheet):
    """A generic part.

    Ports are numbered by side. `receivers` are the outputs where a receiver is plugged in and no
    cable goes on; `sends` outputs of a terminal by which a modem's signal comes up to be sent; `dc` pairs of input and output whose centre conductors are joined; `low_mhz` and
    `high_mhz` what a source gives. A part without its voltage passes what `dark_gain_db` says.
    `setting_at` is where the knob of an amplifier sits, `setting_most_db` how far it turns. Return losses
    and the isolation between outputs [dB] as on a sheet, without one those of its class; the price as
    whoever buys counts it.
    """

    key: Key
    draws_as: Picture
    name: Words
    inputs: Count = 1
    outputs: Count = 1
    receivers: Ports = ()
    sends: Ports = ()
    paths: Annotated[tuple[Path, ...], Field(max_length=64)] = ()
    select: Annotated[tuple[Select, ...], Field(max_length=64)] = ()
    dc: Annotated[tuple[tuple[Port, Port], ...], Field(max_length=4096)] = ()
    passes_tone: bool = True
    supply: Supply | None = None
    load: Load | None = None
    dark_gain_db: Db = -BLOCKED_DB
    setting: bool = False
    setting_at: Literal["input", "interstage", "output"] = "interstage"
    setting_most_db: Annotated[float, Field(ge=0, le=100)] = 60.0
    input_ohm: Ohm = 75.0
    output_ohm: Ohm = 75.0
    return_loss_in_db: Losses | None = None
    return_loss_out_db: Losses | None = None
    isolation_db: Losses | None = None
    input_isolation_db: Losses | None = None
    price: Price | None = None
    input_low_dbuv: Db | None = None
    input_high_dbuv: Db | None = None
    low_mhz: Mhz = 5.0
    high_mhz: Mhz = 2150.0
    noise_db: NoiseFigure = 0.0
    drift_mhz: Annotated[float, Field(ge=0, le=50)] | None = None
    most_output_dbuv: Db | None = None
    lnb_gain_db: Db = 0.0
    bands: Annotated[tuple[Band, ...], Field(max_length=32)] = ()
    user_bands: Annotated[tuple[tuple[Mhz, Mhz], ...], Field(max_length=64)] = ()

    @model_validator(mode="before")
    @classmethod
    def _written_short(cls, given: Any) -> Any:
        """Ports left out of a path are all ports of that side, a range left out the table's ends."""
        if not isinstance(given, dict):
            return given
        out = dict(given)
        ports = [out.get("inputs", 1), out.get("outputs", 1)]
        if any(not isinstance(n, int) or not 0 <= n <= 64 for n in ports):
            raise wrong("Ports", "a part has at most 64 inputs and 64 outputs.")
        ins, outs = range(ports[0]), range(ports[1])
        paths, ways = [], out.get("paths", ())
        if not isinstance(ways, (list, tuple)):
            raise wrong("Ways", "they are no list.")
        for path in ways:
            if isinstance(path, dict) and _is_curve(path.get("gain_db")):
                table = path["gain_db"]
                path = {
                    "inputs": tuple(ins),
                    "outputs": tuple(outs),
                    "low_mhz": table[0][0],
                    "high_mhz": table[-1][0],
                    **path,
                }
            paths.append(path)
        out["paths"] = tuple(paths)
        if out.get("dc") == "all":
            out["dc"] = tuple((i, o) for i in ins for o in outs)
        elif out.get("dc") == "each":
            out["dc"] = tuple((i, i) for i in ins)
        return out

    @model_validator(mode="after")
    def _has_its_ports(self) -> PartType:
        """Raise InputError for a port that is named and is not there."""
        ins, outs = set(range(self.inputs)), set(range(self.outputs))
        named_in = {i for p in self.paths for i in p.inputs} | {s.input for s in self.select}
        named_in |= {i for i, _ in self.dc} | set(self.supply.inputs if self.supply else ())
        named_out = {o for p in self.paths for o in p.outputs} | {o for _, o in self.dc}
        named_out |= set(self.receivers) | set(self.sends) | {b.output for b in self.bands}
        # A supply without an input of its own feeds its output.
        missing = sorted((named_in - ins if self.inputs else set()) | (named_out - outs))
        if missing:
            raise wrong("Ports", f"{self.name} has no port {missing[0] + 1}, which its data name.")
        if not self.user_bands and any(p.to_user_bands for p in self.paths):
            raise wrong("User bands", f"{self.name} leads to user bands and has none.")
        if self.paths and not self.inputs:
            raise wrong("Ports", f"{self.name} has ways and no input.")
        return self

    def return_loss_at(self, side: Literal["in", "out"], frequency_mhz: Floats) -> Floats:
        """Return loss of its inputs or outputs [dB], shape of the frequencies [MHz]."""
        told = self.return_loss_in_db if side == "in" else self.return_loss_out_db
        return _over(told or typical_match(self.draws_as), frequency_mhz)

    def isolation_at(self, frequency_mhz: Floats) -> Floats:
        """Isolation between any two of its outputs [dB], shape of the frequencies [MHz]."""
        return _over(self.isolation_db or typical_isolation(self.draws_as), frequency_mhz)

    def input_isolation_at(self, frequency_mhz: Floats) -> Floats:
        """Isolation between what a line asks for and what comes in elsewhere [dB]."""
        return _over(self.input_isolation_db or TYPICAL_BETWEEN_INPUTS, frequency_mhz)

    def moves_by(self, path: Path) -> float | None:
        """What moves carriers on one of its ways: the oscillator [MHz], or a number below zero that stands
        for its user bands; None for a way that moves nothing."""
        if path.to_user_bands:
            return -sum((n + 1) * mhz for n, (mhz, _) in enumerate(self.user_bands))
        return path.lo_mhz

    @property
    def joinable(self) -> tuple[int, ...]:
        """Outputs that a cable can be joined to."""
        return tuple(o for o in range(self.outputs) if o not in self.receivers)

    @property
    def ways(self) -> list[tuple[int, int, Path]]:
        """Every single way: input, output, the path that it is of."""
        return [
            (i, o, path)
            for path in self.paths
            for i in path.inputs
            for o in path.outputs
            if not path.each or i == o
        ]

    def gain_db(
        self, in_port: int, out_port: int, frequency_mhz: ArrayLike, setting_db: float | None
    ) -> Floats | None:
        """Gain from an input to an output [dB], shape of the frequencies [MHz]; None where no way
        leads. A setting takes from it: an attenuator's loss, an amplifier turned down."""
        for i, o, path in self.ways:
            if (i, o) == (in_port, out_port):
                return path.gain_at(frequency_mhz) - (setting_db or 0.0 if self.setting else 0.0)
        return None

    def noise_figure_db(self, path: Path, setting_db: float | None) -> float | None:
        """Noise figure of a way turned down by a setting [dB]; None for a passive one. A matched pad of
        loss L at the input makes it L F; between two equal stages (common practice, no source) that
        share the gain F + (L - 1) F / √G (Friis); at the output nothing."""
        own, less = path.noise_figure_db, setting_db or 0.0
        if own is None or not self.setting or less <= 0 or self.setting_at == "output":
            return own
        if self.setting_at == "input":
            return own + less
        first = max(max(g for _, g in path.gain_db), 0.0) / 2
        return own + 10 * math.log10(1 + (10 ** (less / 10) - 1) / 10 ** (first / 10))

    def rating_less_db(self, setting_db: float | None) -> float:
        """What a setting takes from the rating of the outputs [dB]: a pad behind the last stage all."""
        return (setting_db or 0.0) if self.setting and self.setting_at == "output" else 0.0

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
    def rated(self) -> bool:
        """Whether any of its outputs has a rating."""
        return any(
            p.rated_output_dbuv is not None or p.second_output_dbuv is not None for p in self.paths
        )

    @property
    def selects(self) -> bool:
        """Whether an outlet's line asks for one of several inputs."""
        return any(p.arrivals == "selected" for p in self.paths)

    def selects_at(self, output: int) -> bool:
        """Whether the line of this output asks for one of several inputs."""
        return any(p.arrivals == "selected" and output in p.outputs for p in self.paths)

    @property
    def together(self) -> bool:
        """Whether several lines pass side by side, each on its own."""
        return self.inputs > 1 and bool(self.paths) and all(p.each for p in self.paths)

    def by_line(self, output: int) -> bool:
        """Whether an LNB's output gives what its line asks for: more than one state brings bands."""
        return len({b.asked for b in self.bands if b.output == output}) > 1


AT_CELSIUS = 20.0  # at which cables are specified


def warmer(celsius: ArrayLike) -> Floats:
    """Loss of a cable over its loss at 20 °C [1]: 0.2 % more with each kelvin (EN 50117, from memory)."""
    return np.asarray(1 + 0.002 * (np.asarray(celsius, float) - AT_CELSIUS))


class CableType(Sheet):
    """A cable class: attenuation a√f + bf [dB/100 m, f in MHz, 20 °C], resistance of centre and braid
    together [Ω/km], velocity as a share of light's."""

    key: Key
    name: Words
    short: Words
    a: Annotated[float, Field(ge=0, le=100)]
    b: Annotated[float, Field(ge=0, le=1)]
    loop_ohm_km: Annotated[float, Field(ge=0, le=10_000)]
    diameter_mm: Annotated[float, Field(gt=0, le=100)]
    outdoor: bool = True
    velocity: Annotated[float, Field(ge=0.3, le=1)] = 0.82
    impedance_ohm: Ohm = 75.0
    price_m: Price | None = None

    def loss_db(
        self, length_m: ArrayLike, frequency_mhz: ArrayLike, celsius: ArrayLike = AT_CELSIUS
    ) -> Floats:
        """Loss of a length [m] at frequencies [MHz] and temperatures [°C], broadcast [dB]."""
        f = np.asarray(frequency_mhz, float)
        per_100_m = (self.a * np.sqrt(f) + self.b * f) * warmer(celsius)
        return np.asarray(np.asarray(length_m, float) / 100.0 * per_100_m)

    def loop_ohm(self, length_m: float, celsius: float = AT_CELSIUS) -> float:
        """Resistance of centre and braid of a length [m] at a temperature [°C]; copper gains 0.39 % of it
        with each kelvin (handbook value, from memory)."""
        return self.loop_ohm_km * length_m / 1000 * (1 + 0.0039 * (celsius - AT_CELSIUS))

    @property
    def bend_radius_mm(self) -> float:
        """Least bend radius [mm], ten diameters (common practice, no source)."""
        return 10 * self.diameter_mm


class ArrayType(Sheet):
    """A generic terrestrial antenna: band [MHz], gain over frequency as pairs of MHz and dBi,
    half-power beamwidth [deg], front to back [dB], length [m], wind area [m²]."""

    key: Key
    name: Words
    low_mhz: Mhz
    high_mhz: Mhz
    gain: Curve
    beamwidth_deg: Annotated[float, Field(ge=5, le=360)]
    front_back_db: Annotated[float, Field(ge=0, le=45)]
    length_m: Annotated[float, Field(ge=0, le=12)]
    wind_area_m2: Annotated[float, Field(ge=0, le=200)]
    indoors: bool = False

    @model_validator(mode="after")
    def _is_an_antenna(self) -> ArrayType:
        rising("Gain", self.gain)
        return self


class Catalogue(Sheet):
    """All parts, cables and terrestrial antennas at hand, where their data come from and of which
    day they are."""

    origin: str
    of_date: dt.date
    antennas: dict[str, ArrayType] = Field(default_factory=dict)
    cables: dict[str, CableType]
    parts: dict[str, PartType]

    @property
    def loss_of_cables_db(self) -> dict[str, float]:
        """What 100 m of each cable lose at 1 GHz [dB], by which cables are ranked; the most first."""
        loss = {key: c.a * math.sqrt(1000.0) + c.b * 1000.0 for key, c in self.cables.items()}
        return dict(sorted(loss.items(), key=lambda row: -row[1]))

    def less_lossy(self, cable: str) -> list[str]:
        """Cables that may be pulled in place of another and lose less, the smallest step first."""
        losses = self.loss_of_cables_db
        return [
            key
            for key, loss in losses.items()
            if loss < losses[cable] - 0.05 and self.exchangeable(cable, key)
        ]

    def exchangeable(self, cable: str, other: str) -> bool:
        """Whether a cable may be pulled in place of another: both of one impedance."""
        return self.cables[cable].impedance_ohm == self.cables[other].impedance_ohm

    def part(self, key: str) -> PartType | None:
        """The part of that key; None for one that the catalogue does not know."""
        return self.parts.get(key)


def _over(curve: tuple[tuple[float, float], ...], frequency_mhz: Floats) -> Floats:
    """A curve at frequencies [MHz], held at its ends."""
    points = np.asarray(curve, float)
    return np.asarray(np.interp(frequency_mhz, points[:, 0], points[:, 1]))


def _is_curve(value: Any) -> bool:
    pairs = isinstance(value, (list, tuple)) and len(value) > 0
    return pairs and all(isinstance(p, (list, tuple)) and len(p) == 2 for p in value)


def part_type(catalogue: Catalogue, part: Part) -> PartType:
    """The part's type. Raises InputError when neither the job nor the catalogue has it."""
    found = catalogue.part(part.type)
    if found is None:
        raise InputError(
            "Part",
            f"“{part.type}” is not in the catalogue.",
            "Replace it by a known part.",
            "part-unknown",
        )
    return found
