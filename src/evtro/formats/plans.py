"""The level plan and the register of cables as CSV; columns as in `LEVELS` and `CABLES`, a level in
dBµV, an empty cell for what does not arrive or has no limit."""

from __future__ import annotations

from dataclasses import asdict

from evtro.core.stations.coax.views.level_plan import CableRow, PlanRow
from evtro.core.stations.kit.kit import Need
from evtro.core.units.quantities import text_of

from .tables import write_table

LEVELS = (
    "place",
    "kind",
    "floor",
    "carrier",
    "frequency_mhz",
    "level_dbuv",
    "least_dbuv",
    "most_dbuv",
    "cn_db",
    "margin_db",
    "state",
)
CABLES = (
    "number",
    "start",
    "start_port",
    "end",
    "end_port",
    "cable",
    "length_m",
    "carries",
    "route",
    "clips",
    "note",
)


def write_levels(rows: list[PlanRow]) -> str:
    """The level plan."""
    return write_table(LEVELS, [_plain(asdict(r)) for r in rows])


KIT = ("kind", "name", "variant", "count", "unit", "spare", "price", "why")


def write_kit(rows: list[Need]) -> str:
    """The list of what goes into the van; an empty price is one that nobody has typed."""
    return write_table(
        KIT,
        [
            _plain(
                {
                    "kind": r.kind,
                    "name": text_of(r.name),
                    "variant": r.variant,
                    "count": r.count,
                    "unit": r.unit,
                    "spare": r.spare,
                    "price": r.price,
                    "why": text_of(r.why),
                }
            )
            for r in rows
        ],
    )


def write_cables(rows: list[CableRow]) -> str:
    """The register of cables."""
    return write_table(CABLES, [_plain(asdict(r)) for r in rows])


def _plain(row: dict[str, object]) -> dict[str, object]:
    """Tenths are what a meter reads."""
    return {
        k: "" if v is None else round(v, 1) if isinstance(v, float) else v for k, v in row.items()
    }
