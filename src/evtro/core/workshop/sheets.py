"""Own sheets, and the catalogue with them."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal, get_args

from ..job.parts import ArrayType, CableType, Catalogue, PartType
from ..units.plain import check_text
from ..units.quantities import InputError

Shelf = Literal["part", "cable", "array"]
Data = PartType | CableType | ArrayType
SHELVES: tuple[Shelf, ...] = get_args(Shelf)
MODELS: dict[Shelf, type[Data]] = {"part": PartType, "cable": CableType, "array": ArrayType}
_FIELD = {"part": "parts", "cable": "cables", "array": "antennas"}
LONGEST_KEY = 40


@dataclass(frozen=True)
class OwnSheet:
    """Data of one's own: on which shelf, of which key, made from the data of which other (its own key
    where it stands in place of a generic one), where they come from and of which day."""

    shelf: Shelf
    data: Data
    base: str
    origin: str
    of_date: dt.date

    @property
    def key(self) -> str:
        """The key by which runs use it."""
        return self.data.key


def known(catalogue: Catalogue, shelf: Shelf) -> dict[str, Data]:
    """What a catalogue has on a shelf, by key."""
    found: dict[str, Data] = getattr(catalogue, _FIELD[shelf])
    return found


def shop_with(generic: Catalogue, sheets: Iterable[OwnSheet]) -> Catalogue:
    """The catalogue with own sheets in place of generic ones and beside them."""
    more: dict[Shelf, dict[str, Data]] = {shelf: {} for shelf in SHELVES}
    for sheet in sheets:
        more[sheet.shelf][sheet.key] = sheet.data
    return generic.model_copy(
        update={
            _FIELD[shelf]: {**known(generic, shelf), **rows} for shelf, rows in more.items() if rows
        }
    )


def data_of(catalogue: Catalogue, shelf: Shelf, key: str) -> Data:
    """What is on a shelf under a key. Raises InputError when nothing is."""
    found = known(catalogue, shelf).get(key)
    if found is None:
        raise InputError(
            "Part", f"there is nothing under “{key}”.", "Reload the list.", "row-missing"
        )
    return found


def copied(catalogue: Catalogue, shelf: Shelf, key: str, name: str, today: dt.date) -> OwnSheet:
    """A new sheet under a name, with all figures of another. Raises InputError for a name that is empty
    or taken."""
    name = check_text(name.strip())
    if not name:
        raise InputError("Name", "it is empty.", "Give the new one a name.", "name-empty")
    if any(one.name.casefold() == name.casefold() for one in known(catalogue, shelf).values()):
        raise InputError(
            "Name", f"there is a “{name[:60]}” already.", "Give it another name.", "name-taken"
        )
    old = data_of(catalogue, shelf, key)
    data = old.model_validate(
        {**old.model_dump(), "key": _new_key(catalogue, shelf, name), "name": name}
    )
    return OwnSheet(shelf, data, base=key, origin="own sheet", of_date=today)


def _new_key(catalogue: Catalogue, shelf: Shelf, name: str) -> str:
    word = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[: LONGEST_KEY - 8] or "own"
    key, n = f"own-{word}"[:LONGEST_KEY].rstrip("-"), 1
    while key in known(catalogue, shelf):
        n += 1
        key = f"own-{word}"[: LONGEST_KEY - 4].rstrip("-") + f"-{n}"
    return key
