"""A late write that met another: which fields both changed, in the trade's words."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from evtro.core.job import In, Job
from evtro.core.job.registry import registry
from evtro.core.job.words import decimals
from evtro.core.units.phrases import say
from evtro.core.units.quantities import SHOWN, Phrase, Quantity, Unit
from evtro.store.changed_cells import WHOLE, CellClash
from evtro.store.jobs import Stale

from .schemas import Clash, Refusal

MOST_NAMED = 20


def in_the_trades_words(error: Stale) -> Refusal:
    """The problem details of a late write: the revision now, and the fields with both values."""
    clashes = [_clash(c) for c in error.clashes[:MOST_NAMED]]
    said: Phrase = ()
    if clashes:
        one = clashes[0]
        if one.column == WHOLE:
            detail = f"{one.where} came or went in another window since this was read."
        else:
            detail = (
                f"{one.where}, {one.field}: another window wrote “{one.theirs}” meanwhile, "
                f"here stands “{one.mine}”."
            )
            first = error.clashes[0]
            unit = _unit_of(first)
            said = say(
                "{}, {}: another window wrote “{}” meanwhile, here stands “{}”.",
                one.where,
                one.field,
                _figure(first.theirs, unit),
                _figure(first.mine, unit),
            )
        remedy = "The newest state is shown; send yours again to keep it, or leave it."
    else:
        detail = "the job was changed in another window since this was read."
        remedy = "The newest state is shown; make the change again."
    return Refusal(
        title="Changed elsewhere",
        status=409,
        code="stale",
        detail=detail,
        detail_said=said,
        remedy=remedy,
        revision=error.revision,
        clashes=clashes,
    )


def _clash(cell: CellClash) -> Clash:
    kind, noun = _kind_of(cell.table)
    info = kind.model_fields.get(cell.column) if kind is not None else None
    title = (info.title if info is not None else None) or cell.column.replace("_", " ")
    unit = _unit_of(cell)
    where = f"{noun} {cell.id}".strip() if noun else cell.id
    return Clash(
        where=where[:1].upper() + where[1:],
        field="" if cell.column == WHOLE else title,
        mine=_said(cell.mine, unit),
        theirs=_said(cell.theirs, unit),
        table=cell.table,
        id=cell.id,
        column=cell.column,
    )


def _unit_of(cell: CellClash) -> Unit | None:
    kind, _ = _kind_of(cell.table)
    info = kind.model_fields.get(cell.column) if kind is not None else None
    return next((m.unit for m in info.metadata if isinstance(m, In)), None) if info else None


def _figure(value: Any, unit: Unit | None) -> str | Quantity:
    if unit is None or isinstance(value, bool) or not isinstance(value, (int, float)):
        return _said(value, unit)
    return Quantity(float(value), unit, decimals(float(value)))


def _kind_of(table: str) -> tuple[type[BaseModel] | None, str]:
    if table == "job":
        return Job, "job"
    found = registry(Job).by_table(table)
    return (found.model, found.noun) if found is not None else (None, "")


def _said(value: Any, unit: Unit | None) -> str:
    if value is None:
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:g}{SHOWN[unit] if unit else ''}"
    return str(value)[:80]
