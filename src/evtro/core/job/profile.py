"""A practice profile: limits, rules and habits of a region, each limit with its origin."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..physics.modulation import MODULATIONS
from ..units.quantities import InputError
from .paths import Db, Key, Sheet, Words

Said = Annotated[str, Field(max_length=400)]
Metres = Annotated[float, Field(ge=0, le=10_000)]
Degrees = Annotated[float, Field(ge=0, le=90)]
Figure = Annotated[float, Field(ge=0, le=1e7)]
Few = Field(max_length=60)


class Window(Sheet):
    """Level limits of a system at the outlet [dBµV]."""

    low_dbuv: Db
    high_dbuv: Db
    origin: Said


class WindRegion(Sheet):
    """The wind that a rule designs for: a pressure that steps up at a height, or a speed at 10 m
    that grows with height by an exponent (of the pressure)."""

    key: Key
    name: Words
    origin: Said
    pressure_low_pa: Figure = 0.0
    pressure_high_pa: Figure = 0.0
    change_at_m: Metres = 20.0
    speed_ms: Figure | None = None
    exponent: Figure = 0.0


class Wind(Sheet):
    """The wind of a region and the moment a mount may bear without an engineer."""

    coefficient: Figure
    air_kg_m3: Figure
    regions: Annotated[tuple[WindRegion, ...], Field(min_length=1, max_length=60)]
    moment_limit_nm: Annotated[float, Field(ge=1, le=1e7)]
    held_fraction: Figure
    origin: Said


class Size(Sheet):
    """The least cross-section of a material [mm²]."""

    material: Literal["copper", "aluminium", "steel", "copper_clad_steel"]
    least_mm2: Figure
    of: Words  # in words


class EarthRule(Sheet):
    """One conductor that a school of earthing asks for."""

    role: Words
    name: Words
    joins: Said
    sizes: Annotated[tuple[Size, ...], Few]
    longest_m: Metres | None = None
    lightning: bool = False
    origin: Said


class ElectrodeRule(Sheet):
    """The most resistance that an electrode may have [ohm]."""

    most_ohm: Figure
    origin: Said


class ElectrodeKind(Sheet):
    """A kind of electrode that a school lets an antenna have: how many of what length, in words."""

    kind: Literal["rod", "horizontal", "foundation", "plate"]
    least_m: Metres
    count: Annotated[int, Field(ge=1, le=9)] = 1
    words: Words
    origin: Said


class Exemption(Sheet):
    """Where a school asks for bonding but not for a lightning earth."""

    below_roof_edge_m: Metres
    from_wall_m: Metres
    origin: Said


class Mobile(Sheet):
    """A base station as it is assumed where none is entered: ERP [kW], distance [m], frequency [MHz];
    the filter that keeps its band out, a part of the catalogue."""

    erp_kw: Figure
    away_m: Metres
    frequency_mhz: Figure
    filter: Key
    origin: Said


class Profile(Sheet):
    """Everything that differs by region."""

    key: Key
    name: Words
    origin: Said
    of_date: dt.date
    units: Literal["metric", "us"]
    level: Literal["dbuv", "dbmv", "dbm"]
    channels: Key
    small_antenna: Said = ""
    keep_clear_deg: Degrees
    keep_clear_origin: Said
    keep_clear_two_way_deg: Degrees = 10.0
    level_reserve_db: Db
    margin_db: Db
    margin_reserve_db: Db
    margin_origin: Said
    slope_terrestrial_db: Db
    slope_satellite_db: Db
    slope_origin: Said
    ripple_db: Db = 4.0
    ripple_origin: Said = "within one carrier, from top to bottom (common practice, no source)"
    isolation_db: Db = 22.0
    isolation_apart_db: Db = 42.0
    isolation_origin: Said = "EN 60728-1, within one home and between homes (from memory)"
    reading_tolerance_db: Db
    reading_origin: Said
    overhead_clear_m: Metres
    overhead_origin: Said
    earth_school: Said
    earth_rules: Annotated[tuple[EarthRule, ...], Few]
    exemption: Exemption | None = None
    electrode: ElectrodeRule | None = None
    electrode_kinds: Annotated[tuple[ElectrodeKind, ...], Few] = ()
    bends_most: Annotated[int, Field(ge=0, le=60)] = 4
    bends_origin: Said = "as straight as can be (common practice, no source)"
    windows: Annotated[dict[Words, Window], Few]
    wind: Wind
    mobile: Mobile

    @model_validator(mode="after")
    def _has_a_window_for_each(self) -> Profile:
        """Raise InputError for a system without its window."""
        lacking = sorted({m.system for m in MODULATIONS.values()} - set(self.windows))
        if lacking:
            raise InputError(
                "Limits",
                f"{self.name} has no levels for {lacking[0]}.",
                "Add a window for it.",
                "limits-missing",
            )
        return self

    def window(self, modulation: str, system: str) -> Window:
        """Level limits of a modulation where it has its own, else of its system."""
        return self.windows.get(modulation) or self.windows[system]
