"""Generic parts and cables that ship with the program."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources

from evtro.core.job.parts import Catalogue, PartType


@cache
def load() -> Catalogue:
    """The catalogue. Figures are typical of a class, not of a make; a data sheet replaces them."""
    text = resources.files(__name__).joinpath("generic.toml").read_text("utf-8")
    raw = tomllib.loads(text)
    return Catalogue(
        origin=raw["origin"],
        of_date=raw["of_date"],
        antennas={row["key"]: row for row in raw["array"]},
        cables={row["key"]: row for row in raw["cable"]},
        parts={row["key"]: PartType.model_validate(row) for row in raw["part"]},
    )
