"""Files that people bring: what they wrote goes in, what cannot is told by its line, nothing else moves."""

from __future__ import annotations

import datetime as dt
import json

import pytest
from defusedxml.ElementTree import fromstring

from evtro import profiles
from evtro.core.job import Beam, Job, Site
from evtro.core.stations.sky.senders import into_job
from evtro.core.units.quantities import InputError
from evtro.demo.world import demo_jobs
from evtro.formats import geo, gpx, satellites, tables, transmitters

JOBS = demo_jobs()
EUROPE = profiles.load("europe")
RING = [[-12.0, 51.0], [-7.0, 51.0], [-7.0, 56.0], [-12.0, 56.0], [-12.0, 51.0]]


def _empty() -> Job:
    return Job(
        name="new", date=dt.date(2026, 5, 4), site=Site(latitude_deg=53.0, longitude_deg=-9.0)
    )


# --- satellites ----------------------------------------------------------------------------------


@pytest.mark.parametrize("name", JOBS)
@pytest.mark.parametrize("form", ["csv", "json"])
def test_satellites_written_and_read_elsewhere_are_the_same(name: str, form: str) -> None:
    job = JOBS[name]
    if not any(t.kind == "satellite" for t in job.targets):
        pytest.skip("no satellites in this job")
    text = satellites.write_csv(job) if form == "csv" else satellites.write_json(job)
    there, left = satellites.take(satellites.lines_of(text.encode()), _empty())
    assert left == []
    assert (satellites.write_csv if form == "csv" else satellites.write_json)(there) == text


@pytest.mark.parametrize("name", JOBS)
def test_reading_a_jobs_own_satellites_changes_nothing(name: str) -> None:
    job = JOBS[name]
    if not any(t.kind == "satellite" for t in job.targets):
        pytest.skip("no satellites in this job")
    again, left = satellites.take(satellites.lines_of(satellites.write_json(job).encode()), job)
    assert left == []
    assert again == job


def test_semicolons_comma_decimals_and_west_are_read() -> None:
    text = (
        ";".join(satellites.COLUMNS)
        + "\nBunting;12,5 W;7,2;no;;yes;B 1;11 727,48;27,5;h;51,3;DVB-S2 8PSK 2/3\n"
    )
    job, left = satellites.take(satellites.lines_of(("\ufeff" + text).encode()), _empty())
    assert left == []
    (target,), (carrier,) = job.targets, job.carriers
    assert (target.orbit_deg_e, target.polarisation_offset_deg) == (-12.5, 7.2)
    assert (carrier.frequency_mhz, carrier.bandwidth_mhz, carrier.power) == (11_727.48, 27.5, 51.3)
    assert carrier.polarisation == "H"


@pytest.mark.parametrize(
    ("column", "text", "field", "words"),
    [
        ("orbit_deg_e", "361", "orbit_deg_e", ""),
        ("orbit_deg_e", "", "orbit_deg_e", ""),
        ("satellite", "", "satellite", "missing"),
        ("symbol_rate_mbd", "0", "symbol_rate_mbd", "0 MBd"),
        ("frequency_mhz", "high", "frequency_mhz", ""),
        ("modulation", "loud", "modulation", ""),
        ("polarisation", "Z", "polarisation", ""),
        ("eirp_dbw", "5000", "erp in", "too large"),
    ],
)
def test_a_wrong_field_is_named_and_the_other_rows_go_in(
    column: str, text: str, field: str, words: str
) -> None:
    good = {
        "satellite": "Wren",
        "orbit_deg_e": "5",
        "polarisation_offset_deg": "0",
        "circular": "no",
        "inclination_deg": "0",
        "wanted": "yes",
        "transponder": "W 1",
        "frequency_mhz": "11700",
        "symbol_rate_mbd": "27.5",
        "polarisation": "V",
        "eirp_dbw": "50",
        "modulation": "DVB-S2 8PSK 2/3",
    }
    bad = {**good, "satellite": "Dipper", column: text}
    lines = satellites.lines_of(tables.write_table(satellites.COLUMNS, [good, bad]).encode())
    job, left = satellites.take(lines, _empty())
    assert [t.name for t in job.targets] == ["Wren"]
    assert len(left) == 1
    assert "line 3" in left[0]
    assert field.split("_")[0] in left[0].casefold()
    assert words in left[0]
    with pytest.raises(InputError):
        satellites.take(
            satellites.lines_of(tables.write_table(satellites.COLUMNS, [bad]).encode()), _empty()
        )


# --- tables --------------------------------------------------------------------------------------


def _taken(text: str, job: Job) -> Job:
    for sender in transmitters.read(text.encode(), EUROPE.channels)[0]:
        job = into_job(job, sender)
    return job


def test_a_list_of_transmitters_moves_none_of_the_satellites() -> None:
    job = JOBS["skerry-house"]
    sat = next(t for t in job.targets if t.kind == "satellite")
    text = f"name,latitude_deg,longitude_deg,height_m\n{sat.name},53.6,-9.4,385\n"
    after = _taken(text, job)
    assert sat in after.targets
    assert len(after.targets) == len(job.targets) + 1


def test_a_transmitter_of_the_same_name_is_moved_and_keeps_the_rest() -> None:
    job = JOBS["skerry-house"]
    old = next(t for t in job.targets if t.kind == "transmitter")
    old_job = job.model_copy(
        update={
            "targets": tuple(
                t.model_copy(update={"own_loss_db": 7.5}) if t.id == old.id else t
                for t in job.targets
            )
        }
    )
    text = f"name,latitude_deg,longitude_deg,height_m\n{old.name.upper()},53.6,-9.4,385\n"
    after = _taken(text, old_job)
    moved = next(t for t in after.targets if t.id == old.id)
    assert (moved.latitude_deg, moved.height_m, moved.own_loss_db) == (53.6, 385, 7.5)
    assert len(after.targets) == len(job.targets)


def test_more_than_a_job_holds_is_refused_whole() -> None:
    head = "name,latitude_deg,longitude_deg,height_m\n"
    rows = "".join(f"Mast {i},53.6,-9.4,{i}\n" for i in range(250))
    with pytest.raises(InputError, match="at most 200"):
        _taken(head + rows, _empty())


def test_carriers_beyond_the_most_are_refused_and_never_cut() -> None:
    job = JOBS["skerry-house"]
    name = next(t.name for t in job.targets if t.kind == "transmitter")
    one = job.carriers[0]
    full = job.model_copy(
        update={
            "carriers": tuple(
                one.model_copy(update={"id": f"c{i}", "frequency_mhz": 1000.0 + i})
                for i in range(1990)
            )
        }
    )
    head = ",".join(tables.CARRIER_COLUMNS)
    rows = [f"{name},m,{500 + i},0.1,H,1,DVB-T 64QAM 2/3" for i in range(11)]
    with pytest.raises(InputError, match="at most 2000"):
        tables.take_carriers(tables.carrier_lines("\n".join([head, *rows]).encode()), full, EUROPE)
    just = tables.take_carriers(
        tables.carrier_lines("\n".join([head, *rows[:10]]).encode()), full, EUROPE
    )
    assert [c.frequency_mhz for c in just.carriers[1990:]] == [500.0 + i for i in range(10)]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        ("   \n", "empty"),
        ("a,b\n1,2\n", "column name is missing"),
        ("name,latitude_deg,longitude_deg,height_m\nA,1,2\n", "3 fields, not 4"),
        ("name,latitude_deg,longitude_deg,height_m\nA,91,2,3\n", ""),
        ("name,latitude_deg,longitude_deg,height_m\nA,1,2,tall\n", ""),
    ],
)
def test_tables_that_cannot_be_read_say_where(text: str, words: str) -> None:
    with pytest.raises(InputError) as caught:
        _taken(text, _empty())
    said = f"{caught.value.field} {caught.value.reason}"
    assert words in said
    assert "line" in said or "CSV" in said


# --- maps and places -----------------------------------------------------------------------------


def test_a_job_without_a_place_has_no_map() -> None:
    with pytest.raises(InputError, match="no position"):
        geo.features(Job(name="nowhere", date=dt.date(2026, 5, 4)))


def test_rays_leave_along_their_bearing() -> None:
    """The end of the ray, looked back at by another geodesic routine (Vincenty's, astropy-free:
    plane trigonometry at 5 km errs by less than 0.05 degrees)."""
    import math

    for feature in geo.features(JOBS["alder-terrace"]):
        if feature["geometry"]["type"] != "LineString":
            continue
        (lon, lat), (far_lon, far_lat) = feature["geometry"]["coordinates"]
        east = (far_lon - lon) * math.cos(math.radians((lat + far_lat) / 2))
        bearing = math.degrees(math.atan2(east, far_lat - lat)) % 360
        assert bearing == pytest.approx(feature["properties"]["azimuth_deg"], abs=0.2)
        assert math.hypot(east, far_lat - lat) * 111.2 == pytest.approx(5.0, rel=0.01)


def test_beams_go_out_as_areas_and_come_back() -> None:
    job = JOBS["tern-hut"]
    target = next(t for t in job.targets if t.kind == "satellite")
    beam = Beam(
        id="w9",
        target=target.id,
        name="Far",
        code="F1",
        polarisation="R",
        boundary=tuple((x, y) for x, y in RING[:-1]),
    )
    job = job.model_copy(update={"beams": (beam,)})
    kml = fromstring(geo.write_kml(job))
    assert any(e.tag.endswith("Polygon") for e in kml.iter())
    areas = json.loads(geo.write_geojson(job))
    areas["features"] = [f for f in areas["features"] if f["geometry"]["type"] == "Polygon"]
    back, left = geo.take_beams(geo.read_beams(json.dumps(areas).encode()), job, target)
    assert left == []
    assert len(back.beams) == 1
    assert back.beams[0].id == "w9"


@pytest.mark.parametrize(
    ("geometry", "words"),
    [
        ({"type": "Point", "coordinates": [1, 2]}, "not a Polygon"),
        ({"type": "Polygon", "coordinates": []}, "cannot be read"),
        ({"type": "Polygon", "coordinates": [[["a", 1], [2, 3], [3, 4]]]}, "cannot be read"),
        (
            {"type": "Polygon", "coordinates": [[[x / 50, 50 + (x % 2)] for x in range(2500)]]},
            "too many",
        ),
        (None, "not a Polygon"),
    ],
)
def test_one_bad_area_leaves_the_good_one(geometry: object, words: str) -> None:
    job = JOBS["tern-hut"]
    target = next(t for t in job.targets if t.kind == "satellite")
    rows = [
        {"type": "Feature", "geometry": geometry, "properties": None},
        {
            "type": "Feature",
            "geometry": {"type": "Polygon", "coordinates": [RING]},
            "properties": {"name": "Good"},
        },
    ]
    back, left = geo.take_beams(
        geo.read_beams(json.dumps({"features": rows}).encode()), job, target
    )
    assert "Good" in [b.name for b in back.beams]
    assert len(left) == 1
    assert left[0].startswith("feature 1")
    assert words in left[0]


def test_a_track_without_waypoints_ends_where_it_ends() -> None:
    data = (
        b"<gpx><trk><name>Morning</name><trkseg><trkpt lat='1' lon='2'/>"
        b"<trkpt lat='3.5' lon='4.5'><ele>9999</ele></trkpt></trkseg></trk></gpx>"
    )
    (place,) = gpx.read_places(data, 100).places
    assert (place.name, place.latitude_deg, place.longitude_deg) == ("Morning", 3.5, 4.5)
    assert place.height_m == 6000


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"   ",
        b"<gpx",
        b"<kml/>",
        b"<gpx/>",
        b"<gpx><wpt lat='x' lon='1'/></gpx>",
        b"<gpx><wpt lat='91' lon='1'/></gpx>",
        b"<gpx><wpt lat='nan' lon='1'/></gpx>",
        b"<!DOCTYPE gpx [<!ENTITY a 'b'>]><gpx>&a;</gpx>",
    ],
)
def test_a_places_file_that_is_none_is_told(data: bytes) -> None:
    with pytest.raises(InputError):
        gpx.read_places(data, 100)
