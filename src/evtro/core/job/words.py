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


def _said(raw: Mapping[str, Any], unit: Unit | None) -> tuple[Phrase, Phrase | str, str]:
    kind, context, value = raw["type"], raw.get("ctx", {}), raw.get("input")

    def number(x: object) -> str | Quantity:
        if isinstance(x, int) and abs(x) > 10**300:
            return "a number of hundreds of figures"
        if isinstance(x, (int, float)) and not isinstance(x, bool):
            if abs(x) >= 1e9:  # nobody counts the figures of 1e160
                return f"{x:.3g}{SHOWN[unit] if unit else ''}"
            return Quantity(float(x), unit, decimals(float(x))) if unit else f"{x:g}"
        return f"“{str(x)[:40]}”"

    if kind in ("greater_than_equal", "greater_than"):
        limit = context.get("ge", context.get("gt"))
        word = "at least" if kind == "greater_than_equal" else "more than"
        return (
            (number(value), " is too small."),
            (f"It must be {word} ", number(limit), "."),
            "too-small",
        )
    if kind in ("less_than_equal", "less_than"):
        limit = context.get("le", context.get("lt"))
        return (
            (number(value), " is too large."),
            ("It may be at most ", number(limit), ". Check unit and decimal point."),
            "too-large",
        )
    if kind == "value_error":
        return (str(context.get("error") or raw["msg"]),), "Look at it again.", "unreadable"
    if kind == "missing":
        return ("it is missing.",), "Add it.", "missing"
    if kind == "extra_forbidden":
        return ("it is not a field of this form.",), "Take it out.", "unknown-field"
    if kind == "literal_error":
        return (number(value), " is not a choice here."), f"Use {context['expected']}.", "choice"
    if kind in ("string_too_long", "too_long"):
        most = context.get("max_length")
        return ("it is too long.",), f"At most {most} are kept.", "too-long"
    if kind in ("float_parsing", "float_type", "int_parsing", "int_type", "finite_number"):
        return (
            (number(value), " is not a number."),
            "Type figures, such as 3.5 or 3,5.",
            "no-number",
        )
    if kind.startswith("date"):
        return (number(value), " is not a date."), "Type it as 2026-03-25.", "no-date"
    if kind == "json_invalid":
        return ("this is not JSON.",), "Choose a file that was exported here.", "no-json"
    if kind == "string_unicode":
        return (
            ("it holds half a character.",),
            "Type it again; the file may have been cut in two.",
            "control-character",
        )
    if kind in ("model_type", "model_attributes_type", "dict_type", "list_type", "tuple_type"):
        return (number(value), " is not what stands here."), "Export it again.", "shape"
    if kind == "string_type":
        return (number(value), " is not text."), "Type it as text.", "no-text"
    return (f"{raw['msg']}.",), "Look at it again.", "input"


def decimals(x: float) -> int:
    """As many decimals as a figure has, three at the most."""
    return next(
        (d for d in range(_MOST_DIGITS) if round(x, d) == round(x, _MOST_DIGITS)), _MOST_DIGITS
    )
