"""Places from a GPX file: its waypoints, or where a track or route ends."""

from __future__ import annotations

import re
from dataclasses import dataclass
from xml.etree.ElementTree import Element, ParseError

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import fromstring

from evtro.core.quantities import InputError


@dataclass(frozen=True)
class Place:
    """A named position [deg], height above sea [m] where the file has it."""

    name: str
    latitude_deg: float
    longitude_deg: float
    height_m: float


def read_places(data: bytes) -> list[Place]:
    """Waypoints of the file; without any, the last point of each track and route.

    Raises InputError in the trade's words.
    """
    if not data.strip():
        raise InputError(
            "GPX file", "the file is empty.", "Choose the file that the GPS wrote.", "file-empty"
        )
    try:
        root: Element = fromstring(data, forbid_dtd=True)
    except (ParseError, DefusedXmlException, ValueError) as error:
        raise InputError("GPX file", "it is not whole XML.", "Copy it from the GPS again.",
                         "file-wrong") from error  # fmt: skip
    if _tag(root) != "gpx":
        raise InputError("GPX file", f"it is a file of <{_tag(root)[:20]}>, not of <gpx>.",
                         "Choose a file that ends in .gpx.", "file-wrong")  # fmt: skip
    found = [p for e in root if _tag(e) == "wpt" for p in [_place(e)]]
    if not found:
        for line in (e for e in root if _tag(e) in ("trk", "rte")):
            points = [p for p in line.iter() if _tag(p) in ("trkpt", "rtept")]
            if points:
                end = _place(points[-1])
                name = _child(line, "name") or end.name
                found.append(Place(name[:80], end.latitude_deg, end.longitude_deg, end.height_m))
    if not found:
        raise InputError(
            "GPX file", "it holds no position.", "Mark a waypoint and save it again.", "gpx-empty"
        )
    return found


def _tag(element: Element) -> str:
    return re.sub(r"^\{.*\}", "", str(element.tag))


def _child(element: Element, name: str) -> str:
    for child in element:
        if _tag(child) == name:
            return (child.text or "").strip()
    return ""


def _place(point: Element) -> Place:
    try:
        lat, lon = float(point.get("lat", "")), float(point.get("lon", ""))
        height = float(_child(point, "ele") or 0)
    except ValueError as error:
        raise InputError(
            "GPX file", "a point has no readable position.", "Save it again.", "file-wrong"
        ) from error
    if not (abs(lat) <= 90 and abs(lon) <= 180):
        raise InputError(
            "GPX file", f"{lat:g} {lon:g} is no place on the earth.", "Save it again.", "file-wrong"
        )
    return Place(
        _child(point, "name")[:80] or "Waypoint", lat, lon, min(max(height, -430.0), 6000.0)
    )
