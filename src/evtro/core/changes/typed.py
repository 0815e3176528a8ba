"""Figures of a change as somebody typed them, read in the unit of their column."""

from __future__ import annotations

from typing import Any, Literal, get_args

from annotated_types import Ge, Le

from ..job import Job
from ..job.base import bounds_of
from ..job.profile import Profile
from ..job.registry import Column, Kind
from ..job.words import said
from ..physics.magnetism import declination_deg
from ..units.figures import read_figure
from ..units.quantities import InputError, Unit


class Reader:
    """Reads what is typed into one job, and remembers what was read in a way that is not plain."""

    def __init__(self, job: Job, profile: Profile) -> None:
        self.job, self.profile = job, profile
        self._turned_deg: float | None = None

    def told(self) -> list[str]:
        """What is told with the answer."""
        if self._turned_deg is None:
            return []
        side = "east" if self._turned_deg >= 0 else "west"
        return [
            "The compass bearing was turned into a true one: declination here "
            f"{abs(self._turned_deg):.1f}° {side}."
        ]

    def values(self, kind: Kind, given: dict[str, Any], units: dict[str, Unit]) -> dict[str, Any]:
        """The values of a row's columns; `units` are those that a row decides by itself, such as the
        unit of a reading. Raises InputError naming the field."""
        found: dict[str, Any] = {}
        for name, value in given.items():
            column = kind.column(name)
            if column is None or name == "id":
                raise InputError(
                    name, "it is not a field of this form.", "Take it out.", "unknown-field"
                )
            found[name] = self._value(kind, column, value, units.get(name))
        return found

    def _value(self, kind: Kind, column: Column, value: Any, unit: Unit | None) -> Any:
        own = unit or column.unit
        figure = own is not None or _is_figure(kind, column)
        if not isinstance(value, (str, bool) if figure else str) or column.json:
            return value
        if column.optional and isinstance(value, str) and not value.strip():
            return None
        if figure:
            return self.typed(column.title, value, unit=own or "count", rules=column.rules)
        return value

    def figure(self, kind: Kind, name: str, value: float | str) -> float:
        """One figure of a kind's column [in the unit of the column], within its bounds. Raises InputError."""
        column = kind.column(name)
        assert column is not None
        if isinstance(value, str):
            value = self.typed(column.title, value, unit=column.unit or "count", rules=column.rules)
        return _bounded(column.title, value, column.unit, rules=column.rules)

    def bearing(
        self, title: str, value: float | str, unit: Literal["deg_true", "deg_mag"]
    ) -> float:
        """A bearing that no row keeps [deg true], 0 to 360. Raises InputError."""
        found = self.typed(title, str(value), unit=unit, rules=_BEARING)
        return _bounded(title, found, unit, rules=_BEARING)

    def length(self, title: str, value: object, rules: tuple[object, ...]) -> float:
        """A length that lies within a list [m], as a figure or typed. Raises InputError."""
        number = isinstance(value, (int, float)) and not isinstance(value, bool)
        found = float(value) if number else self.typed(title, value, unit="m", rules=rules)  # type: ignore[arg-type]
        return _bounded(title, found, "m", rules=rules)

    def typed(
        self, title: str, text: object, *, unit: Unit, rules: tuple[object, ...] = ()
    ) -> float:
        """A typed figure [in the unit asked for]. Raises InputError naming the field."""
        least, most = bounds_of(list(rules))
        try:
            found = read_figure(text, unit, least, most, declination=self._declination)
        except InputError as error:
            raise error.at(title) from None
        assert isinstance(found, float)
        return found

    def _declination(self) -> float:
        site = self.job.site
        if site.latitude_deg is None or site.longitude_deg is None:
            raise InputError(
                "",
                "a compass bearing needs the place, and none is known yet.",
                "Type the position at Site first, or a true bearing.",
                "unreadable",
            )
        self._turned_deg = declination_deg(
            site.latitude_deg, site.longitude_deg, site.height_m, self.job.date
        )
        return self._turned_deg


_BEARING = (Ge(0.0), Le(360.0))


def _bounded(title: str, value: float, unit: Unit | None, rules: tuple[object, ...]) -> float:
    least, most = bounds_of(list(rules))
    if least is not None and value < least:
        low = {"type": "greater_than_equal", "ctx": {"ge": least}, "input": value}
        raise said(low, unit).at(title)
    if most is not None and value > most:
        high = {"type": "less_than_equal", "ctx": {"le": most}, "input": value}
        raise said(high, unit).at(title)
    return value


def _is_figure(kind: Kind, column: Column) -> bool:
    annotation = kind.model.model_fields[column.name].annotation
    return annotation is float or float in get_args(annotation)
