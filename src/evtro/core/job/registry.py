"""What the rows of a job say about themselves, read once from their classes: tables, columns, nouns,
references. Whatever handles rows of every kind reads it here; nobody lists the kinds a second time."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, get_args, get_origin

from pydantic import BaseModel

from ..units.quantities import InputError, Unit
from .base import Evidence, In, Ref, Row, Table, most_of


@dataclass(frozen=True)
class Column:
    """A field of a row: how it lies in a table, its unit, and the rows it may name."""

    name: str
    title: str
    rules: tuple[object, ...]
    unit: Unit | None
    ref: Ref | None
    boolean: bool
    json: bool  # a list, or the data of a sheet, lies in its column as JSON
    optional: bool
    required: bool
    default: Any  # as it stands in a file


@dataclass(frozen=True)
class Kind:
    """A kind of row: the field of the job that holds it, its class, table and columns. `most` is how
    many a job holds; None for a kind of which there is one."""

    field: str
    model: type[Row]
    table: Table
    columns: tuple[Column, ...]
    most: int | None

    @property
    def many(self) -> bool:
        """Whether a job holds a list of them."""
        return self.most is not None

    @property
    def evidence(self) -> bool:
        """Whether its rows were read on site, so that undo leaves them alone."""
        return issubclass(self.model, Evidence)

    @property
    def noun(self) -> str:
        """What an installer calls one of them."""
        return self.table.noun

    def column(self, name: str) -> Column | None:
        """A column by its name."""
        return next((c for c in self.columns if c.name == name), None)


@dataclass(frozen=True)
class Registry:
    """All kinds of row of one class of job, in the order of its fields, and its own plain fields."""

    job: type[Row]
    kinds: dict[str, Kind]
    head: tuple[str, ...]

    @property
    def lists(self) -> tuple[Kind, ...]:
        """Kinds of which a job holds many."""
        return tuple(k for k in self.kinds.values() if k.many)

    @property
    def singles(self) -> tuple[Kind, ...]:
        """Kinds of which a job holds one."""
        return tuple(k for k in self.kinds.values() if not k.many)

    def by_table(self, table: str) -> Kind | None:
        """The kind that lies in a table."""
        return next((k for k in self.kinds.values() if k.table.name == table), None)

    def named_table(self, ref: Ref) -> str:
        """The table that holds the ids of all rows that a reference may name."""
        return _named_table(self.kinds, ref)

    def kind(self, field: str) -> Kind:
        """The kind of a field. Raises InputError for a field that holds no rows."""
        found = self.kinds.get(field)
        if found is None:
            raise InputError(
                "Rows",
                f"“{field[:40]}” is no list of a job.",
                f"Use one of {', '.join(self.kinds)}.",
                "rows-unknown",
            )
        return found

    def named_by(self, field: str) -> Iterator[tuple[Kind, Column]]:
        """Every column that may name a row of a field."""
        for kind in self.kinds.values():
            for column in kind.columns:
                if column.ref is not None and field in column.ref.to:
                    yield kind, column


def _named_table(kinds: dict[str, Kind], ref: Ref) -> str:
    tables = [kinds[to].table for to in ref.to]
    if len(tables) == 1:
        return tables[0].name
    families = {t.family for t in tables}
    if len(families) > 1 or families == {""}:
        raise TypeError(f"{', '.join(ref.to)} are of no one family")
    return families.pop()


@lru_cache(maxsize=8)
def registry(job: type[Row]) -> Registry:
    """The registry of a class of job. Raises TypeError for a class that contradicts itself."""
    kinds: dict[str, Kind] = {}
    head: list[str] = []
    for field, info in job.model_fields.items():
        model, many = info.annotation, False
        if get_origin(model) is tuple:
            model, many = get_args(model)[0], True
        if not (isinstance(model, type) and issubclass(model, Row)):
            head.append(field)
            continue
        if model.table is None:
            raise TypeError(f"{model.__name__} says no table")
        most = most_of(info.metadata) if many else None
        if many and (most is None or not model.table.prefix or "id" not in model.model_fields):
            raise TypeError(f"{field} needs a bound, and {model.__name__} an id with a prefix")
        kinds[field] = Kind(field, model, model.table, columns=_columns(model), most=most)
    for kind in kinds.values():
        for column in kind.columns:
            for to in column.ref.to if column.ref is not None else ():
                if to not in kinds or not kinds[to].many:
                    raise TypeError(f"{kind.field}, {column.name} names {to}, which is no list")
                if column.ref is not None and column.ref.gone == "cleared" and not column.optional:
                    raise TypeError(f"{kind.field}, {column.name} cannot be cleared")
            if column.ref is not None:
                _named_table(kinds, column.ref)
    tables = [k.table.name for k in kinds.values()]
    if len(set(tables)) < len(tables):
        raise TypeError("two kinds of row lie in one table")
    return Registry(job, kinds, tuple(head))


def _columns(model: type[Row]) -> tuple[Column, ...]:
    return tuple(
        Column(
            name=name,
            title=info.title or name.replace("_", " "),
            rules=tuple(info.metadata),
            unit=next((m.unit for m in info.metadata if isinstance(m, In)), None),
            ref=next((m for m in info.metadata if isinstance(m, Ref)), None),
            boolean=info.annotation is bool,
            json=get_origin(info.annotation) is tuple or _is_sheet(info.annotation),
            optional=type(None) in get_args(info.annotation),
            required=info.is_required(),
            default=list(info.default) if isinstance(info.default, tuple) else info.default,
        )
        for name, info in model.model_fields.items()
    )


def _is_sheet(annotation: Any) -> bool:
    return isinstance(annotation, type) and issubclass(annotation, BaseModel)


def registry_of(job: Row) -> Registry:
    """The registry of a job's own class."""
    return registry(type(job))


def new_row_id(job: Row, field: str) -> str:
    """The id for the next row of a list: the lowest above all of its prefix, such as p7."""
    known = registry_of(job)
    prefix = known.kind(field).table.prefix
    taken = [
        int(number)
        for kind in known.lists
        if kind.table.prefix == prefix
        for row in rows_of(job, kind.field)
        if (number := row.id.removeprefix(prefix)).isdecimal()
    ]
    return f"{prefix}{max(taken, default=0) + 1}"


def rows_of(job: Any, field: str) -> tuple[Any, ...]:
    """The rows that a field of a job holds."""
    rows: tuple[Any, ...] = getattr(job, field)
    return rows
