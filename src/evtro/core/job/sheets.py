"""The data that a job carries of every part, cable, antenna and limit it uses, so that it answers the
same everywhere."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any, ClassVar

from pydantic import Field, GetJsonSchemaHandler, model_validator
from pydantic_core import CoreSchema

from ..units.quantities import InputError
from .base import Id, Row, Table
from .parts import ArrayType, CableType, PartType
from .paths import Key
from .profile import Profile

Origin = Annotated[str, Field(title="Origin", max_length=200)]
Day = Annotated[dt.date, Field(title="Of", ge=dt.date(1970, 1, 1), le=dt.date(2199, 12, 31))]


class Carried(Row):
    """What every carried row says: the key by which it is used, where the data come from, of which
    day they are, the data."""

    id: Id
    key: Key
    origin: Origin = ""
    of_date: Day
    data: Any

    @classmethod
    def __get_pydantic_json_schema__(
        cls, core_schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        """A file and a change must have the data; a view of a job may leave them out."""
        schema = handler(core_schema)
        if handler.mode == "serialization":
            own = handler.resolve_ref_schema(schema)
            own["required"] = [name for name in own["required"] if name != "data"]
        return schema

    @model_validator(mode="after")
    def _of_its_key(self) -> Carried:
        """Raise InputError for data of another key."""
        if self.data.key != self.key:
            raise InputError(
                "Key",
                f"“{self.key}” carries the data of “{self.data.key}”.",
                "Give both one key.",
                "key-wrong",
            )
        return self


class PartData(Carried):
    """Data of a part in use."""

    table: ClassVar[Table] = Table("part_data", "data of a part", "dp")

    data: PartType


class CableData(Carried):
    """Data of a cable in use."""

    table: ClassVar[Table] = Table("cable_data", "data of a cable", "dc")

    data: CableType


class ArrayData(Carried):
    """Data of a terrestrial antenna in use."""

    table: ClassVar[Table] = Table("array_data", "data of an antenna", "da")

    data: ArrayType


class LimitData(Carried):
    """The limits and habits of the practice profile in use."""

    table: ClassVar[Table] = Table("limit_data", "limits of a profile", "dl")

    data: Profile
