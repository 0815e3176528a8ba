"""What all rows of a job share: frozen, closed, finite; types of fields with their units."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationInfo, field_validator

from ..units.plain import NOTES, check_text
from ..units.quantities import InputError, Unit


@dataclass(frozen=True)
class In:
    """Marks a field's unit, so that typed text can be read in it."""

    unit: Unit


class Ref:
    """Marks a field that names a row of another list, or of one of several that share their ids.
    `gone` says what becomes of this row when that one is removed: it goes with it, or the field is
    cleared."""

    def __init__(self, *to: str, gone: Literal["with it", "cleared"]) -> None:
        self.to, self.gone = to, gone


@dataclass(frozen=True)
class Table:
    """Where a kind of row lies, what an installer calls one, and how its ids begin; a kind of which
    a job holds one has no ids. Kinds that share their ids lie in one `family`: its table holds the
    ids of all of them, for rows that may name any."""

    name: str
    noun: str
    prefix: str = ""
    family: str = ""


class Row(BaseModel):
    """Frozen, closed, finite. A kind that is stored says its table."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)
    table: ClassVar[Table | None] = None

    @field_validator("*", mode="after")
    @classmethod
    def _as_every_format_can_carry(cls, value: object, info: ValidationInfo) -> object:
        # The database keeps no sign of a zero, and a job must come back byte for byte.
        if isinstance(value, float):
            return 0.0 if value == 0 else value
        if isinstance(value, str):
            return check_text(value, info.field_name in NOTES)
        if isinstance(value, tuple) and value and isinstance(value[0], str):
            return tuple(check_text(v) for v in value)
        return value


class Evidence(Row):
    """What was seen, read or confirmed on site, and when. It is part of a job's history that undo does
    not take back: it ends by its own reversal only, which is kept as well."""

    at: Annotated[str, Field(title="Read at", max_length=40)] = ""


Name = Annotated[str, Field(max_length=80)]
Note = Annotated[str, Field(max_length=2000)]
Id = Annotated[str, Field(pattern=r"^[a-z]+[0-9]+$", max_length=12)]
Bearing = Annotated[float, In("deg_true"), Field(ge=0, le=360)]
Latitude = Annotated[float, In("deg"), Field(ge=-90, le=90)]
Longitude = Annotated[float, In("deg"), Field(ge=-180, le=180)]


Turn = Annotated[float, Field(ge=-360, le=360)]
# bearing [deg], below the strongest direction [dB]
Pattern = tuple[tuple[Turn, Annotated[float, Field(ge=-60, le=60)]], ...]


def check_pattern(pattern: Pattern) -> None:
    """Raise InputError for pairs that describe no pattern round the compass."""
    if len(pattern) == 1:
        raise InputError(
            "Horizontal pattern",
            "a pattern of one bearing says nothing.",
            "Give at least two, or none for all round.",
            "pattern-short",
        )
    for bearing, loss in pattern:
        if not 0 <= bearing <= 360:
            raise InputError(
                "Horizontal pattern",
                f"bearing {bearing:g}° is not between 0 and 360.",
                "Write bearings from true north.",
                "pattern-wrong",
            )
        if not 0 <= loss <= 60:
            raise InputError(
                "Horizontal pattern",
                f"{loss:g} dB below the strongest direction is not between 0 and 60.",
                "Write the loss as a positive figure.",
                "pattern-wrong",
            )


def length(title: str, most: float, least: float = 0.0) -> object:
    """A length [m] with its bounds; for use inside Annotated."""
    return Field(title=title, ge=least, le=most)


def bounds_of(metadata: list[object]) -> tuple[float | None, float | None]:
    """The least and the most that a field takes."""
    least = most = None
    for rule in metadata:
        low, high = getattr(rule, "ge", None), getattr(rule, "le", None)
        low, high = getattr(rule, "gt", low), getattr(rule, "lt", high)
        least = float(low) if low is not None else least
        most = float(high) if high is not None else most
    return least, most


def most_of(metadata: list[object]) -> int | None:
    """The most entries, or characters, that a field takes."""
    found = [getattr(rule, "max_length", None) for rule in metadata]
    return next((int(m) for m in found if m is not None), None)
