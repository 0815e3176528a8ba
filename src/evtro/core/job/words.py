"""Validation errors in the trade's words: the field, what is wrong, the remedy."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import BaseModel, ValidationError

from ..units.quantities import SHOWN, InputError, Phrase, Quantity, Unit
from . import In, Job

_MOST_DIGITS = 3


def field_of(model: type[BaseModel], path: tuple[int | str, ...]) -> tuple[str, Unit | None]:
    """The title of the field a path leads to, with its rows, and its unit."""
    words: list[str] = []
    unit: Unit | None = None
    current: object = model
    for step in path:
        if isinstance(step, int):
            words.append(f"row {step + 1}")
            continue
        if not (isinstance(current, type) and issubclass(current, BaseModel)):
            continue
        info = current.model_fields.get(step)
        if info is None:
            words.append(str(step))
            continue
        words.append(info.title or step.replace("_", " "))
        unit = next((m.unit for m in info.metadata if isinstance(m, In)), None)
        inner = getattr(info.annotation, "__args__", None)
        current = inner[0] if inner else info.annotation
    return ", ".join(words), unit


def in_words(error: ValidationError, model: type[BaseModel] = Job) -> list[InputError]:
    """Every error of a validation as an InputError."""
    found = []
    for raw in error.errors(include_url=False):
        field, unit = field_of(model, raw["loc"])
        found.append(said(raw, unit).at(field or "Input"))
    return found


def said(raw: Mapping[str, Any], unit: Unit | None) -> InputError:
    """One raw validation error in the trade's words, without its field."""
    error = raw.get("ctx", {}).get("error")
    if raw["type"] == "value_error" and isinstance(error, InputError):
        return error
    reason, remedy, code = _said(raw, unit)
    return InputError("", reason, remedy, code)


_Said = tuple[Phrase, Phrase | str, str]  # reason, remedy, code

# Errors that say the same whatever was typed.
_PLAIN: dict[str, _Said] = {
    "missing": (("it is missing.",), "Add it.", "missing"),
    "extra_forbidden": (("it is not a field of this form.",), "Take it out.", "unknown-field"),
    "json_invalid": (("this is not JSON.",), "Choose a file that was exported here.", "no-json"),
    "string_unicode": (
        ("it holds half a character.",),
        "Type it again; the file may have been cut in two.",
        "control-character",
    ),
}
# Errors that repeat what was typed: what is said behind it.
_NO_NUMBER = (" is not a number.", "Type figures, such as 3.5 or 3,5.", "no-number")
_NO_SHAPE = (" is not what stands here.", "Export it again.", "shape")
_NO_DATE = (" is not a date.", "Type it as 2026-03-25.", "no-date")
_QUOTED: dict[str, tuple[str, str, str]] = {
    **dict.fromkeys(
        ("float_parsing", "float_type", "int_parsing", "int_type", "finite_number"), _NO_NUMBER
    ),
    **dict.fromkeys(
        ("model_type", "model_attributes_type", "dict_type", "list_type", "tuple_type"), _NO_SHAPE
    ),
    "string_type": (" is not text.", "Type it as text.", "no-text"),
}


def _said(raw: Mapping[str, Any], unit: Unit | None) -> _Said:
    kind, context, value = raw["type"], raw.get("ctx", {}), raw.get("input")
    if kind in _PLAIN:
        return _PLAIN[kind]
    typed = _number(value, unit)
    quoted = _NO_DATE if kind.startswith("date") else _QUOTED.get(kind)
    if quoted is not None:
        return (typed, quoted[0]), quoted[1], quoted[2]
    if kind in ("greater_than_equal", "greater_than"):
        limit = _number(context.get("ge", context.get("gt")), unit)
        word = "at least" if kind == "greater_than_equal" else "more than"
        return (typed, " is too small."), (f"It must be {word} ", limit, "."), "too-small"
    if kind in ("less_than_equal", "less_than"):
        limit = _number(context.get("le", context.get("lt")), unit)
        remedy = ("It may be at most ", limit, ". Check unit and decimal point.")
        return (typed, " is too large."), remedy, "too-large"
    if kind == "value_error":
        return (str(context.get("error") or raw["msg"]),), "Look at it again.", "unreadable"
    if kind == "literal_error":
        return (typed, " is not a choice here."), f"Use {context['expected']}.", "choice"
    if kind in ("string_too_long", "too_long"):
        return ("it is too long.",), f"At most {context.get('max_length')} are kept.", "too-long"
    return (f"{raw['msg']}.",), "Look at it again.", "input"


def _number(x: object, unit: Unit | None) -> str | Quantity:
    if isinstance(x, int) and abs(x) > 10**300:
        return "a number of hundreds of figures"
    if isinstance(x, (int, float)) and not isinstance(x, bool):
        if abs(x) >= 1e9:  # nobody counts the figures of 1e160
            return f"{x:.3g}{SHOWN[unit] if unit else ''}"
        return Quantity(float(x), unit, decimals(float(x))) if unit else f"{x:g}"
    return f"“{str(x)[:40]}”"


def decimals(x: float) -> int:
    """As many decimals as a figure has, three at the most."""
    return next(
        (d for d in range(_MOST_DIGITS) if round(x, d) == round(x, _MOST_DIGITS)), _MOST_DIGITS
    )
