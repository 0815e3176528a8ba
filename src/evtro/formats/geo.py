"""Site, targets and beams as GeoJSON and KML, and beams out of GeoJSON."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any
from xml.etree import ElementTree

from pyproj import Geod

from evtro.core.job import Beam, Job, Target, edits
from evtro.core.job.targets import sights
from evtro.core.stations.aim.two_way.link import check_boundary
from evtro.core.units.quantities import InputError

from .bounded import held_to, read_json
from .tables import row_of

MOST_MB = 5
MOST_BEAMS, MOST_CORNERS, MOST_BORDER = 200, 10_000, 2000
RAY_KM = 5.0
_KML = "http://www.opengis.net/kml/2.2"


def features(job: Job) -> list[dict[str, Any]]:
    """The site, transmitters as points, satellites as rays of 5 km along their bearing."""
    lat, lon = job.site.latitude_deg, job.site.longitude_deg
    if lat is None or lon is None:
        raise InputError(
            "Position", "the site has no position yet.", "Type it at Site.", "position-missing"
        )
    found = [
        _feature(
            "Point",
            [lon, lat],
            {"kind": "site", "name": job.name, "place": job.place, "height_m": job.site.height_m},
        )
    ]
    geod = Geod(ellps="WGS84")
    seen = sights(job)
    for target in job.targets:
        sight = seen.get(target.id)
        if sight is None:
            continue
        about: dict[str, Any] = {
            "kind": target.kind,
            "name": target.name,
            "wanted": target.wanted,
            "azimuth_deg": round(sight.azimuth_deg, 3),
            "elevation_deg": round(sight.elevation_deg, 3),
        }
        if target.kind == "satellite":
            end_lon, end_lat, _ = geod.fwd(lon, lat, sight.azimuth_deg, RAY_KM * 1000)
            about |= {
                "orbit_deg_e": target.orbit_deg_e,
                "visible": sight.visible,
                "tilt_deg": round(sight.tilt_deg, 3),
            }
            line = [[lon, lat], [round(end_lon, 7), round(end_lat, 7)]]
            found.append(_feature("LineString", line, about))
        else:
            about |= {"distance_km": round(sight.distance_km, 3), "height_m": target.height_m}
            found.append(_feature("Point", [target.longitude_deg, target.latitude_deg], about))
    for beam in (b for b in job.beams if b.boundary):  # one that was typed has no border
        ring = [list(p) for p in beam.boundary]
        found.append(
            _feature(
                "Polygon", [ring + ring[:1]], {"kind": "beam", "name": beam.name, "code": beam.code}
            )
        )
    return found


def _feature(kind: str, coordinates: object, properties: dict[str, Any]) -> dict[str, Any]:
    return {
        "type": "Feature",
        "geometry": {"type": kind, "coordinates": coordinates},
        "properties": properties,
    }


def write_geojson(job: Job) -> str:
    """Reference: RFC 7946."""
    return (
        json.dumps(
            {"type": "FeatureCollection", "features": features(job)}, ensure_ascii=False, indent=1
        )
        + "\n"
    )


def write_kml(job: Job) -> str:
    """Reference: OGC KML 2.2."""
    ElementTree.register_namespace("", _KML)
    root = ElementTree.Element(f"{{{_KML}}}kml")
    document = ElementTree.SubElement(root, f"{{{_KML}}}Document")
    ElementTree.SubElement(document, f"{{{_KML}}}name").text = job.name
    for each in features(job):
        mark = ElementTree.SubElement(document, f"{{{_KML}}}Placemark")
        about = each["properties"]
        ElementTree.SubElement(mark, f"{{{_KML}}}name").text = about["name"]
        more = ElementTree.SubElement(mark, f"{{{_KML}}}ExtendedData")
        for key, value in about.items():
            data = ElementTree.SubElement(more, f"{{{_KML}}}Data", name=key)
            ElementTree.SubElement(data, f"{{{_KML}}}value").text = str(value)
        shape = each["geometry"]
        points = shape["coordinates"]
        if shape["type"] == "Polygon":
            polygon = ElementTree.SubElement(mark, f"{{{_KML}}}Polygon")
            outer = ElementTree.SubElement(polygon, f"{{{_KML}}}outerBoundaryIs")
            holder, points = ElementTree.SubElement(outer, f"{{{_KML}}}LinearRing"), points[0]
        else:
            holder = ElementTree.SubElement(mark, f"{{{_KML}}}{shape['type']}")
            points = [points] if shape["type"] == "Point" else points
        ElementTree.SubElement(holder, f"{{{_KML}}}coordinates").text = " ".join(
            f"{x},{y},0" for x, y in points
        )
    ElementTree.indent(root)
    return '<?xml version="1.0" encoding="UTF-8"?>\n' + ElementTree.tostring(root, "unicode") + "\n"


@dataclass(frozen=True)
class Beams:
    """What a file of beams holds: beams without a satellite yet, and what was left out."""

    beams: list[Beam]
    left: list[str]


def read_beams(data: bytes) -> Beams:
    """The polygons of a GeoJSON file as beams. Properties: name, code, polarisation (H V L R),
    least_esn0_db. Raises InputError when nothing can be used."""
    held_to(data, MOST_MB, "Beam file", "Thin the borders, or cut the file in two.")
    document = read_json(data, "Beam file", "Choose a file of polygons.")
    rows = document.get("features") if isinstance(document, dict) else None
    if not isinstance(rows, list) or not rows:
        raise InputError(
            "Beam file",
            "it has no features.",
            "A FeatureCollection of polygons is wanted.",
            "file-wrong",
        )
    found, left, corners = [], [], 0
    for n, row in enumerate(rows[:MOST_BEAMS], 1):
        try:
            made = _beam(row, n)
        except InputError as error:
            left.append(str(error.at(f"feature {n}, {error.field}")))
            continue
        corners += len(made.boundary)
        if corners > MOST_CORNERS:
            raise InputError(
                "Beam file",
                f"its borders have more than {MOST_CORNERS} corners.",
                "Thin them, or cut the file in two.",
                "file-too-large",
            )
        found.append(made)
    if len(rows) > MOST_BEAMS:
        left.append(
            f"features {MOST_BEAMS + 1} to {len(rows)}: a file is read to its {MOST_BEAMS}th. Cut it in two."
        )
    if not found:
        raise InputError("Beam file", left[0], "Nothing was taken in.", "file-wrong")
    return Beams(found, left)


def take_beams(read: Beams, job: Job, target: Target) -> tuple[Job, list[str]]:
    """The job with a file's beams for a satellite, and what was left out. A beam of the same name is
    replaced. Raises InputError when nothing can be used."""
    left = list(read.left)
    taken = 0
    for beam in read.beams:
        same = next((b for b in job.beams if b.target == target.id and b.name == beam.name), None)
        new = same.id if same else edits.new_id(job, "beams")
        made = beam.model_copy(update={"id": new, "target": target.id})
        if same is not None:
            beams = tuple(made if b is same else b for b in job.beams)
            job = job.model_copy(update={"beams": beams})
        else:
            try:
                job = edits.add_row(job, "beams", made)
            except InputError as error:
                left.append(f"{beam.name}: {error.reason} {error.remedy}")
                continue
        taken += 1
    if not taken:
        raise InputError("Beam file", left[0], "Nothing was taken in.", "file-wrong")
    return job, left


def _beam(row: Any, n: int) -> Beam:
    shape = row.get("geometry") if isinstance(row, dict) else None
    about = row.get("properties") if isinstance(row, dict) else None
    about = about if isinstance(about, dict) else {}
    if not isinstance(shape, dict) or shape.get("type") != "Polygon":
        raise InputError(
            "geometry", "it is not a Polygon.", "Split it into single areas.", "polygon-kind"
        )
    try:
        corners = shape["coordinates"][0]
        if len(corners) > MOST_BORDER:
            raise InputError(
                "coordinates",
                f"{len(corners)} corners are too many.",
                f"Thin it to {MOST_BORDER}.",
                "polygon-long",
            )
        ring = tuple((float(p[0]), float(p[1])) for p in corners)
    except (KeyError, IndexError, TypeError, ValueError, OverflowError) as error:
        if isinstance(error, InputError):
            raise
        raise InputError(
            "coordinates", "they cannot be read.", "Longitude, latitude in degrees.", "polygon-kind"
        ) from error
    check_boundary(ring)
    pol = str(about.get("polarisation", "L")).upper()
    least = about.get("least_esn0_db")
    values: dict[str, object] = {
        "id": "b1",
        "target": "t1",
        "name": str(about.get("name") or f"Beam {n}")[:80],
        "code": str(about.get("code", ""))[:40],
        "polarisation": pol if pol in "HVLR" and len(pol) == 1 else "L",
        "least_esn0_db": least if isinstance(least, (int, float)) and -10 <= least <= 40 else None,
        "boundary": ring,
    }
    made = row_of(Beam, values, n)
    assert isinstance(made, Beam)
    return made
