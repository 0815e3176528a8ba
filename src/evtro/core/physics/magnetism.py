"""Magnetic declination by the World Magnetic Model 2025."""

from __future__ import annotations

import datetime as dt
from functools import cache, lru_cache

from pygeomag import GeoMag

from ..units.quantities import InputError

FIRST_DAY, LAST_DAY = dt.date(2025, 1, 1), dt.date(2029, 12, 31)


@cache
def _model() -> GeoMag:
    return GeoMag(coefficients_file="wmm/WMM_2025.COF")


@lru_cache(maxsize=4096)
def declination_deg(
    latitude_deg: float, longitude_deg: float, height_m: float, day: dt.date
) -> float:
    """Declination at a place on a day [deg, east positive].

    Raises InputError for a day outside the model's five years.
    Reference: NOAA/BGS, The World Magnetic Model for 2025-2030, by pygeomag.
    """
    if not FIRST_DAY <= day <= LAST_DAY:
        raise InputError(
            "Date",
            f"{day} is outside the magnetic model's years 2025 to 2029.",
            "Set the job's date inside them, or aim by true bearing.",
            "date-outside-model",
        )
    year_days = 366 if day.year % 4 == 0 else 365
    decimal_year = day.year + (day.timetuple().tm_yday - 1) / year_days
    found = _model().calculate(latitude_deg, longitude_deg, height_m / 1000, decimal_year)
    return float(found.d)
