"""Site, targets and beams as GeoJSON and KML, and beams out of GeoJSON."""

from __future__ import annotations

import json
from typing import Any
from xml.etree import ElementTree

from pyproj import Geod

from evtro.core import edits
from evtro.core.aim.two_way import check_boundary
from evtro.core.job import Beam, Job, Target
from evtro.core.quantities import InputError
from evtro.core.sky.targets import sights

RAY_KM = 5.0
_KML = "http://www.opengis.net/kml/2.2"


def features(job: Job) -> list[dict[str, Any]]:
    """The site, transmitters as points, satellites as rays of 5 km along their bearing."""
    lat, lon = job.site.latitude_deg, job.site.longitude_deg
    if lat is None or lon is None:
        raise InputError(
            "Position", "the site has no position yet.", "Type it at Site.", "position-missing"
        )
    found = [_feature("Point", [lon, lat], {"kind": "site", "name": job.name, "place": job.place,
                                             "height_m": job.site.height_m})]  # fmt: skip
    geod = Geod(ellps="WGS84")
    seen = sights(job)
    for target in job.targets:
        sight = seen.get(target.id)
        if sight is None:
            continue
        about: dict[str, Any] = {
            "kind": target.kind, "name": target.name, "wanted": target.wanted,
            "azimuth_deg": round(sight.azimuth_deg, 3), "elevation_deg": round(sight.elevation_deg, 3),
        }  # fmt: skip
        if target.kind == "satellite":
            end_lon, end_lat, _ = geod.fwd(lon, lat, sight.azimuth_deg, RAY_KM * 1000)
            about |= {"orbit_deg_e": target.orbit_deg_e, "visible": sight.visible,
                      "tilt_deg": round(sight.tilt_deg, 3)}  # fmt: skip
            line = [[lon, lat], [round(end_lon, 7), round(end_lat, 7)]]
            found.append(_feature("LineString", line, about))
        else:
            about |= {"distance_km": round(sight.distance_km, 3), "height_m": target.height_m}
            found.append(_feature("Point", [target.longitude_deg, target.latitude_deg], about))
    for beam in (b for b in job.beams if b.boundary):  # one that was typed has no border
        ring = [list(p) for p in beam.boundary]
        found.append(_feature("Polygon", [ring + ring[:1]], {"kind": "beam", "name": beam.name,
                                                              "code": beam.code}))  # fmt: skip
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


def read_beams(data: bytes, job: Job, target: Target) -> tuple[Job, list[str]]:
    """The job with a GeoJSON file's polygons as beams of a satellite, and what was left out.

    Properties: name, code, polarisation (H V L R), least_esn0_db. A beam of the same name is
    replaced. Raises InputError when nothing can be used.
    """
    try:
        document = json.loads(data.decode("utf-8-sig"))
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        raise InputError(
            "Beam file", "it is not GeoJSON.", "Choose a file of polygons.", "file-wrong"
        ) from error
    rows = document.get("features") if isinstance(document, dict) else None
    if not isinstance(rows, list) or not rows:
        raise InputError("Beam file", "it has no features.", "A FeatureCollection of polygons is wanted.",
                         "file-wrong")  # fmt: skip
    left: list[str] = []
    for n, row in enumerate(rows[:200], 1):
        try:
            made = _beam(row, n, target.id, edits.new_id(job, "beams"))
            same = next(
                (b for b in job.beams if b.target == target.id and b.name == made.name), None
            )
            if same is None:
                job = edits.add_row(job, "beams", made)
        except InputError as error:
            left.append(str(error.at(f"feature {n}, {error.field}")))
            continue
        if same is not None:
            kept = made.model_copy(update={"id": same.id})
            beams = tuple(kept if b is same else b for b in job.beams)
            job = job.model_copy(update={"beams": beams})
    if len(rows) > 200:
        left.append(f"features 201 to {len(rows)}: a file is read to its 200th. Cut it in two.")
    if len(left) == len(rows):
        raise InputError("Beam file", left[0], "Nothing was taken in.", "file-wrong")
    return job, left


def _beam(row: Any, n: int, target: str, new: str) -> Beam:
    shape = row.get("geometry") if isinstance(row, dict) else None
    about = (row.get("properties") if isinstance(row, dict) else None) or {}
    if not isinstance(shape, dict) or shape.get("type") != "Polygon":
        raise InputError(
            "geometry", "it is not a Polygon.", "Split it into single areas.", "polygon-kind"
        )
    try:
        ring = tuple((float(p[0]), float(p[1])) for p in shape["coordinates"][0])
    except (KeyError, IndexError, TypeError, ValueError) as error:
        raise InputError("coordinates", "they cannot be read.", "Longitude, latitude in degrees.",
                         "polygon-kind") from error  # fmt: skip
    if len(ring) > 2000:
        raise InputError(
            "coordinates", f"{len(ring)} corners are too many.", "Thin it to 2000.", "polygon-long"
        )
    check_boundary(ring)
    least = about.get("least_esn0_db")
    pol = str(about.get("polarisation", "L")).upper()
    return Beam(id=new, target=target, name=str(about.get("name") or f"Beam {n}")[:80],
                code=str(about.get("code", ""))[:40], polarisation=pol if pol in "HVLR" and len(pol) == 1 else "L",
                least_esn0_db=float(least) if isinstance(least, (int, float)) and -10 <= least <= 40 else None,
                boundary=ring)  # fmt: skip
