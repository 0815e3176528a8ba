"""Dishes that move or transmit: beams, stops, the rig, the terminal."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import FailFast, Field, field_validator

from ..units.quantities import InputError
from .base import Id, In, Latitude, Longitude, Name, Note, Ref, Row, Table, Turn, length


class Beam(Row):
    """A beam or spot of a two-way satellite: its border and what the terminal is told."""

    table: ClassVar[Table] = Table("beam", "beam", "w")

    id: Id
    target: Annotated[Id, Ref("targets", gone="with it")]
    name: Name
    code: Annotated[str, Field(max_length=40)] = ""
    polarisation: Literal["H", "V", "L", "R"] = "L"
    least_esn0_db: Annotated[float | None, In("db"), Field(title="Least Es/N0", ge=-10, le=40)] = (
        None
    )
    boundary: Annotated[tuple[tuple[Turn, Latitude], ...], FailFast(), Field(max_length=2000)] = ()

    @field_validator("boundary")
    @classmethod
    def _none_or_an_area(
        cls, value: tuple[tuple[float, float], ...]
    ) -> tuple[tuple[float, float], ...]:
        if 0 < len(value) < 3:
            raise InputError(
                "Beam border",
                f"it has {len(value)} corners.",
                "Three at least make an area; none is a beam without a border.",
                "polygon-short",
            )
        return value


class Stop(Row):
    """A place where a portable or vehicle dish is set up again."""

    table: ClassVar[Table] = Table("stop", "stop", "h")

    id: Id
    name: Name
    position_text: Annotated[str, Field(max_length=80)] = ""
    latitude_deg: Annotated[Latitude, In("deg"), Field(title="Latitude")]
    longitude_deg: Annotated[Longitude, In("deg"), Field(title="Longitude")]
    height_m: Annotated[float, In("m"), Field(title="Ground above sea", ge=-430, le=6000)] = 0.0


class Rig(Row):
    """A dish that stands on a tripod or on a vehicle's roof."""

    table: ClassVar[Table] = Table("rig", "rig")

    kind: Literal["none", "tripod", "vehicle"] = "none"
    stop: Annotated[Id | None, Ref("stops", gone="cleared")] = None
    base_level_deg: Annotated[
        float | None, In("deg"), Field(title="Base off level", ge=0, le=45)
    ] = None
    gap_mm: Annotated[float | None, In("mm"), Field(title="Gap under the base", ge=0, le=500)] = (
        None
    )
    nearest_mm: Annotated[
        float | None, In("mm"), Field(title="Nearest thing on the roof away", ge=0, le=20_000)
    ] = None
    highest_mm: Annotated[
        float | None, In("mm"), Field(title="Its height above the roof", ge=0, le=5_000)
    ] = None
    cable_m: Annotated[float | None, In("m"), length("Cable to the receiver", 200)] = None
    sealed: bool = False
    stowed: bool = False


class Terminal(Row):
    """The record of a two-way terminal, for its provider."""

    table: ClassVar[Table] = Table("terminal", "terminal")

    installer: Name = ""
    licence: Annotated[str, Field(max_length=60)] = ""
    licence_seen: bool = False
    beam: Annotated[Id | None, Ref("beams", gone="cleared")] = None
    esn0_db: Annotated[float | None, In("db"), Field(title="Es/N0 read", ge=-20, le=40)] = None
    isolation_db: Annotated[float | None, In("db"), Field(title="Isolation read", ge=0, le=60)] = (
        None
    )
    skew_error_deg: Annotated[float, In("deg"), Field(title="Skew off by", ge=0, le=45)] = 0.0
    duty_pct: Annotated[float, In("pct"), Field(title="Sends of the time", gt=0, le=100)] = 100.0
    height_above_m: Annotated[
        float | None, In("m"), length("Beam above where people stand", 100)
    ] = None
    state: Literal["new", "pointed", "ranged", "commissioned"] = "new"
    note: Note = ""
