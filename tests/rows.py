"""Rows of any kind with any values that fit, drawn from the models themselves."""

from __future__ import annotations

import types
import typing
from typing import Any

from annotated_types import Ge, Gt, Le, MaxLen
from hypothesis import strategies as st
from pydantic.fields import FieldInfo

from evtro.core.job import Row

words = st.text(st.characters(blacklist_categories=["Cs", "Cc"]), max_size=20)


def number(low: float, high: float) -> st.SearchStrategy[float]:
    """Figures as a person types them, six decimals at most."""
    return st.floats(low, high, allow_nan=False).map(lambda v: min(max(round(v, 6), low), high))


def any_row(draw: st.DrawFn, model: type[Row], /, **fixed: Any) -> Any:
    """A row with the given fields, all others drawn inside their bounds."""
    values = {
        name: fixed[name] if name in fixed else draw(_value(info))
        for name, info in model.model_fields.items()
        if name in fixed or not _names_another(name)
    }
    return model.model_validate(values)


def _names_another(field: str) -> bool:
    return field in (
        "antenna",
        "target",
        "outlet",
        "stop",
        "beam",
        "boundary",
        "id",
        "spot",
        "stands_at",
        "carrier",
        "pattern",
        "covering",
    )


def _bounds(metadata: list[Any]) -> tuple[float | None, float | None]:
    low = high = None
    for rule in metadata:
        if isinstance(rule, Ge):
            low = float(rule.ge)  # type: ignore[arg-type]
        elif isinstance(rule, Gt):
            low = float(rule.gt) + 1e-3  # type: ignore[arg-type,operator]
        elif isinstance(rule, Le):
            high = float(rule.le)  # type: ignore[arg-type]
    return low, high


def _value(info: FieldInfo) -> st.SearchStrategy[Any]:
    return _of(info.annotation, list(info.metadata))


def _of(kind: Any, metadata: list[Any]) -> st.SearchStrategy[Any]:
    origin = typing.get_origin(kind)
    if origin is typing.Annotated:
        inner, *more = typing.get_args(kind)
        more = [m for x in more for m in (x.metadata if isinstance(x, FieldInfo) else [x])]
        return _of(inner, metadata + more)
    if origin in (typing.Union, types.UnionType):
        inner = next(a for a in typing.get_args(kind) if a is not type(None))
        return st.none() | _of(inner, metadata)
    if origin is typing.Literal:
        return st.sampled_from(typing.get_args(kind))
    if origin is tuple:
        inner = typing.get_args(kind)
        if len(inner) == 2 and inner[1] is Ellipsis:
            return st.lists(_of(inner[0], []), max_size=4).map(tuple)
        return st.tuples(*(_of(i, []) for i in inner))
    low, high = _bounds(metadata)
    if kind is bool:
        return st.booleans()
    if kind is int:
        return st.integers(int(low or 0), int(high if high is not None else 100))
    if kind is float:
        return number(low if low is not None else -1e3, high if high is not None else 1e3)
    most = next((m.max_length for m in metadata if isinstance(m, MaxLen)), 20)
    return words.map(lambda t: t[:most])
