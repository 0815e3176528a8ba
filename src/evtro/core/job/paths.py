"""What a part is made of: ways with their gain, what selects them, supplies, loads, bands; and what a sheet
may say at all."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

import numpy as np
from numpy.typing import ArrayLike
from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from ..physics.geodesy import Floats
from ..units.plain import check_text
from ..units.quantities import InputError

BLOCKED_DB = 1000.0  # stands for no way at all; no cable that can be entered loses as much
LOW_V, HIGH_V = 13.0, 18.0  # the two voltages of a receiver (EN 61319-1, from memory)
BETWEEN_V = 15.0  # what parts a receiver's two voltages (EN 61319-1, from memory)


# What a data sheet may say; a part may come in with a job file from anywhere.
Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9.-]*$", max_length=40)]
Words = Annotated[str, Field(max_length=80)]
Mhz = Annotated[float, Field(ge=0, le=100_000)]
Db = Annotated[float, Field(ge=-BLOCKED_DB, le=BLOCKED_DB)]
Volts = Annotated[float, Field(ge=0, le=1000)]
Milliamperes = Annotated[float, Field(ge=0, le=100_000)]
Port = Annotated[int, Field(ge=0, le=63)]
Count = Annotated[int, Field(ge=0, le=64)]
NoiseFigure = Annotated[float, Field(ge=0, le=100)]  # under 0 dB nothing that amplifies is
Ratio = Annotated[float, Field(ge=1, le=200)]
Loss = Annotated[float, Field(ge=0, le=120)]
Price = Annotated[float, Field(ge=0, le=100_000)]
Ohm = Annotated[float, Field(ge=10, le=1000)]
Curve = Annotated[tuple[tuple[Mhz, Db], ...], Field(min_length=1, max_length=200)]
Losses = Annotated[tuple[tuple[Mhz, Loss], ...], Field(min_length=1, max_length=200)]
Ports = Annotated[tuple[Port, ...], Field(max_length=64)]


def wrong(field: str, reason: str) -> InputError:
    return InputError(field, reason, "Mend the part's data.", "part-wrong")


def rising(field: str, curve: tuple[tuple[float, float], ...]) -> None:
    """Raise InputError for points that are not in the order of their frequencies."""
    if any(b[0] <= a[0] for a, b in pairwise(curve)):
        raise wrong(field, "its frequencies do not rise from point to point.")


class Sheet(BaseModel):
    """Data of a sheet: closed, frozen and finite."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    @field_validator("*", mode="after")
    @classmethod
    def _as_every_format_can_carry(cls, value: object) -> object:
        return check_text(value) if isinstance(value, str) else value


class Band(Sheet):
    """A band of an LNB: radio frequencies [MHz], local oscillator [MHz], how it is asked for."""

    name: Words
    low_mhz: Mhz
    high_mhz: Mhz
    lo_mhz: Mhz
    polarisations: Annotated[tuple[Literal["H", "V", "L", "R"], ...], Field(max_length=4)]
    output: Port = 0
    volts: Volts
    tone: bool = False

    @property
    def asked(self) -> tuple[float, bool]:
        """Voltage [V] and tone on the line that ask for it."""
        return (HIGH_V if self.volts >= BETWEEN_V else LOW_V), self.tone


class Path(Sheet):
    """A way from some inputs to some outputs: gain over frequency as pairs of MHz and dB, the range
    that it passes [MHz], noise figure [dB] where it is active. With `each`, every input leads to the
    output of its own number. Arrivals at one output are added, or one of them is selected. With an
    oscillator `lo_mhz` what enters at f leaves at the distance of f from it; gain and range are those
    of the frequency that enters; with `to_user_bands` each carrier leaves in one of the part's user bands, by turns. `back_db` is what an active way lets through from its output to its input,
    within its own frequencies.

    An active way may be rated: two carriers of `rated_output_dbuv` each make third-order products
    `rated_ratio_db` below either, two of `second_output_dbuv` second-order ones `second_ratio_db` below.
    """

    inputs: Ports
    outputs: Ports
    each: bool = False
    arrivals: Literal["added", "selected"] = "added"
    low_mhz: Mhz
    high_mhz: Mhz
    gain_db: Curve
    noise_figure_db: NoiseFigure | None = None
    rated_output_dbuv: Db | None = None
    rated_ratio_db: Ratio = 60.0
    second_output_dbuv: Db | None = None
    second_ratio_db: Ratio = 60.0
    lo_mhz: Annotated[float, Field(gt=0, le=100_000)] | None = None
    back_db: Curve | None = None
    to_user_bands: bool = False

    @model_validator(mode="after")
    def _is_a_way(self) -> Path:
        rising("Gain", self.gain_db)
        if self.back_db is not None:
            rising("Way back", self.back_db)
        if self.lo_mhz is not None and (
            self.noise_figure_db is None or self.arrivals == "selected"
        ):
            raise wrong(
                "Oscillator", "a way that converts has a noise figure, and selects nothing."
            )
        if self.noise_figure_db is None and max(g for _, g in self.gain_db) > 0:
            raise wrong(
                "Loss", "a part without a noise figure gives no gain: its loss is negative."
            )
        if self.high_mhz <= self.low_mhz:
            raise wrong("Range", f"it ends at {self.high_mhz:g} MHz, where it begins.")
        return self

    def gain_at(self, frequency_mhz: ArrayLike) -> Floats:
        """Gain [dB], shape of the frequencies [MHz]; -BLOCKED_DB outside its range. Between the points
        it goes straight over the root of the frequency, as loss in copper does."""
        f = np.asarray(frequency_mhz, float)
        points = np.asarray(self.gain_db, float)
        gain = np.interp(np.sqrt(f), np.sqrt(points[:, 0]), points[:, 1])
        return np.where((f >= self.low_mhz) & (f <= self.high_mhz), gain, -BLOCKED_DB)

    def back_at(self, frequency_mhz: Floats) -> Floats:
        """Gain from its output back to its input [dB], shape of the frequencies [MHz]. What is passive loses
        as much as forward; what amplifies lets back what its sheet says, and nothing without a word."""
        if self.back_db is None:
            active = self.noise_figure_db is not None or self.arrivals == "selected"
            return (
                np.full(len(frequency_mhz), -BLOCKED_DB) if active else self.gain_at(frequency_mhz)
            )
        points = np.asarray(self.back_db, float)
        gain = np.interp(frequency_mhz, points[:, 0], points[:, 1])
        inside = (frequency_mhz >= points[0, 0]) & (frequency_mhz <= points[-1, 0])
        return np.where(inside, gain, -BLOCKED_DB)


class Select(Sheet):
    """What asks for an input at any output: a voltage [V] and a tone on its line, or a position that
    the receiver sends as a command."""

    input: Port
    low_v: Volts = 0.0
    high_v: Volts = 99.0
    tone: bool | None = None
    position: bool = False

    def answers(self, volts: float, tone: bool) -> bool:
        """Whether this input is the one that such a line asks for."""
        return self.low_v <= volts <= self.high_v and (self.tone is None or self.tone == tone)


class Supply(Sheet):
    """A supply: volts and milliamperes at some inputs together. One that repeats hands on what the
    outlet's line asks for; `low_volts` is what it gives while the lower voltage is asked for."""

    volts: Volts
    most_ma: Annotated[float, Field(gt=0, le=100_000)]
    inputs: Ports = (0,)
    repeats: bool = False
    low_volts: Volts | None = None

    def at(self, asked_v: float) -> float:
        """What it gives while the receivers ask for a voltage [V]."""
        return self.volts if self.low_volts is None or asked_v >= BETWEEN_V else self.low_volts


class Load(Sheet):
    """What a part draws [mA], and the voltages between which it works [V]."""

    ma: Milliamperes
    low_v: Volts
    high_v: Volts
