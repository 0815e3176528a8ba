"""A practice profile: limits, rules and habits of a region, each limit with its origin."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict


class _Table(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Window(_Table):
    """Level limits of a system at the outlet [dBµV]."""

    low_dbuv: float
    high_dbuv: float
    origin: str


class WindRegion(_Table):
    """The wind that a rule designs for: a pressure that steps up at a height, or a speed at 10 m
    that grows with height by an exponent (of the pressure)."""

    key: str
    name: str
    origin: str
    pressure_low_pa: float = 0.0
    pressure_high_pa: float = 0.0
    change_at_m: float = 20.0
    speed_ms: float | None = None
    exponent: float = 0.0


class Wind(_Table):
    """The wind of a region and the moment a mount may bear without an engineer."""

    coefficient: float
    air_kg_m3: float
    regions: tuple[WindRegion, ...]
    moment_limit_nm: float
    held_fraction: float
    origin: str


class Size(_Table):
    """The least cross-section of a material [mm²]."""

    material: Literal["copper", "aluminium", "steel", "copper_clad_steel"]
    least_mm2: float
    said: str


class EarthRule(_Table):
    """One conductor that a school of earthing asks for."""

    role: str
    name: str
    joins: str
    sizes: tuple[Size, ...]
    longest_m: float | None = None
    lightning: bool = False
    origin: str


class Exemption(_Table):
    """Where a school asks for bonding but not for a lightning earth."""

    below_roof_edge_m: float
    from_wall_m: float
    origin: str


class Mobile(_Table):
    """A base station as it is assumed where none is entered: ERP [kW], distance [m], frequency [MHz];
    the filter that keeps its band out, a part of the catalogue."""

    erp_kw: float
    away_m: float
    frequency_mhz: float
    filter: str
    origin: str


class Profile(_Table):
    """Everything that differs by region."""

    key: str
    name: str
    units: Literal["metric", "us"]
    level: Literal["dbuv", "dbmv", "dbm"]
    channels: str
    small_antenna: str = ""
    keep_clear_deg: float
    keep_clear_origin: str
    keep_clear_two_way_deg: float = 10.0
    level_reserve_db: float
    margin_db: float
    margin_reserve_db: float
    margin_origin: str
    slope_terrestrial_db: float
    slope_satellite_db: float
    slope_origin: str
    reading_tolerance_db: float
    reading_origin: str
    overhead_clear_m: float
    overhead_origin: str
    earth_school: str
    earth_rules: tuple[EarthRule, ...]
    exemption: Exemption | None = None
    windows: dict[str, Window]
    wind: Wind
    mobile: Mobile

    def window(self, modulation: str, system: str) -> Window:
        """Level limits of a modulation where it has its own, else of its system."""
        return self.windows.get(modulation) or self.windows[system]
