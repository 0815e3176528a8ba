"""Places from a GPX file: its waypoints, or where a track or route ends."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any
from xml.sax import SAXException
from xml.sax.handler import ContentHandler

from defusedxml.common import DefusedXmlException
from defusedxml.sax import parseString

from evtro.core.units.plain import cleaned
from evtro.core.units.quantities import InputError

from .bounded import held_to, not_empty

MOST_MB, MOST_TAGS, MOST_ENDS = 20, 600_000, 2000
DEEPEST, MOST_PIECES = 40, 50
_POINTS = frozenset({"wpt", "trkpt", "rtept"})
_CUT = "Export the waypoints without their tracks."


@dataclass(frozen=True)
class Waypoint:
    """A named position [deg], height above sea [m] where the file has it."""

    name: str
    latitude_deg: float
    longitude_deg: float
    height_m: float


@dataclass(frozen=True)
class Places:
    """The first places of a file, and whether it has more."""

    places: list[Waypoint]
    more: bool


def read_places(data: bytes, most: int) -> Places:
    """Waypoints of the file; without any, the last point of each track and route. The file is read
    as it comes, nothing is built of it, and only to the place after the last that is wanted.

    Raises InputError in the trade's words.
    """
    not_empty(data, "GPX file", "Choose the file that the GPS wrote.")
    held_to(data, MOST_MB, "GPX file", _CUT)
    if data.count(b"<") > MOST_TAGS:
        raise InputError(
            "GPX file", "it holds more points than any walk has.", _CUT, "file-too-large"
        )
    reader = _Reader(most)
    try:
        parseString(data, reader, forbid_dtd=True)
    except _Enough:
        return Places((reader.points or reader.ends)[:most], more=True)
    except (SAXException, DefusedXmlException, ValueError, LookupError) as error:
        if isinstance(error, InputError):
            raise
        raise InputError(
            "GPX file", "it is not whole XML.", "Copy it from the GPS again.", "file-wrong"
        ) from error
    found = reader.points or reader.ends
    if not found:
        raise InputError(
            "GPX file", "it holds no position.", "Mark a waypoint and save it again.", "gpx-empty"
        )
    return Places(found[:most], more=len(found) > most)


class _Enough(Exception):
    pass


class _Reader(ContentHandler):
    """Waypoints, and the ends of tracks and routes, as they come by."""

    def __init__(self, most: int) -> None:
        super().__init__()
        self.points: list[Waypoint] = []
        self.ends: list[Waypoint] = []
        self._most = most
        self._path: list[str] = []
        self._text: list[str] | None = None
        self._at: dict[str, str] = {}
        self._line = ""

    def startElement(self, name: str, attrs: Any) -> None:  # noqa: N802
        tag = name.rpartition(":")[2]
        self._path.append(tag)
        deep = len(self._path)
        if deep == 1 and tag != "gpx":
            raise InputError(
                "GPX file",
                f"it is a file of <{tag[:20]}>, not of <gpx>.",
                "Choose a file that ends in .gpx.",
                "file-wrong",
            )
        if deep > DEEPEST:
            raise ValueError("no GPX file is so deep")
        if tag in _POINTS:
            self._at = {"lat": attrs.get("lat", ""), "lon": attrs.get("lon", "")}
        elif deep == 2 and tag in ("trk", "rte"):
            self._at, self._line = {}, ""
        elif tag in ("name", "ele"):
            self._text = []

    def characters(self, content: str) -> None:
        if self._text is not None and len(self._text) < MOST_PIECES:
            self._text.append(content)

    def endElement(self, name: str) -> None:  # noqa: N802
        tag = self._path.pop()
        inside = self._path[-1] if self._path else ""
        if self._text is not None and tag in ("name", "ele"):
            text = str(cleaned("".join(self._text))).strip()[:80]
            self._text = None
            if inside in _POINTS:
                self._at[tag] = text
            elif tag == "name" and inside in ("trk", "rte"):
                self._line = text
        elif tag == "wpt" and inside == "gpx":
            self.points.append(_place(self._at))
            self._enough(self.points)
        elif tag in ("trk", "rte") and inside == "gpx" and self._at:
            end = _place(self._at)
            self.ends.append(replace(end, name=self._line or end.name))
            self._enough(self.ends)

    def _enough(self, found: list[Waypoint]) -> None:
        # Ends count for nothing once there is a waypoint, and one may still come.
        if len(found) > self._most and (found is self.points or len(found) > MOST_ENDS):
            raise _Enough


def _place(at: dict[str, str]) -> Waypoint:
    try:
        lat, lon = float(at.get("lat", "")), float(at.get("lon", ""))
        height = float(at.get("ele") or 0)
    except ValueError as error:
        raise InputError(
            "GPX file", "a point has no readable position.", "Save it again.", "file-wrong"
        ) from error
    if not (abs(lat) <= 90 and abs(lon) <= 180):
        raise InputError(
            "GPX file", f"{lat:g} {lon:g} is no place on the earth.", "Save it again.", "file-wrong"
        )
    return Waypoint(at.get("name") or "Waypoint", lat, lon, min(max(height, -430.0), 6000.0))
