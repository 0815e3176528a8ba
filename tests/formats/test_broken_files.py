"""Files and words as they come: cut off, bitten by a disk, made up. Whatever comes in, the answer is
a job or a message with field and remedy, never a crash, and never half a job."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.job import Job
from evtro.core.job.consistency import check_job
from evtro.core.job.context import JobParts
from evtro.core.physics.channels import TABLES, channel_mhz, channel_of, parse_frequency
from evtro.core.stations.readings.expected import parse_found
from evtro.core.stations.site.position import read_position
from evtro.core.stations.sky.survey import parse_orbit, parse_row
from evtro.core.units.figures import read_figure
from evtro.core.units.quantities import InputError, Quantity, show
from evtro.demo.library import demo_senders
from evtro.demo.world import demo_jobs
from evtro.formats import geo, gpx, satellites, tables, transmitters
from evtro.formats.jobfile import read_job, write_job
from tests.proving import examples

CATALOGUE = catalogue.load()
EUROPE = profiles.load("europe")
HUT = demo_jobs()["tern-hut"]
SKERRY = demo_jobs()["skerry-house"]
SATELLITE = next(t for t in HUT.targets if t.kind == "satellite")

GPX = b"""<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">
<wpt lat="61.4" lon="-6.7"><name>Hut</name><ele>46</ele></wpt>
<trk><trkseg><trkpt lat="61.1" lon="-6.5"/><trkpt lat="61.2" lon="-6.6"/></trkseg></trk></gpx>"""
BEAMS = json.dumps(
    {
        "type": "FeatureCollection",
        "features": [
            {
                "type": "Feature",
                "properties": {"name": "Spot 7", "least_esn0_db": 6.5},
                "geometry": {
                    "type": "Polygon",
                    "coordinates": [[[-10, 58], [-2, 58], [-2, 64], [-10, 64], [-10, 58]]],
                },
            }
        ],
    }
).encode()


def _tables(data: bytes) -> Any:
    return tables.take_carriers(tables.carrier_lines(data), SKERRY, EUROPE)


READERS: dict[str, tuple[bytes, Callable[[bytes], Any]]] = {
    "job file": (write_job(SKERRY).encode(), lambda data: read_job(data, CATALOGUE)),
    "satellites csv": (satellites.write_csv(SKERRY).encode(), lambda data: satellites.take(satellites.lines_of(data), SKERRY)),
    "satellites json": (satellites.write_json(SKERRY).encode(), lambda data: satellites.take(satellites.lines_of(data), SKERRY)),
    "transmitters csv": (transmitters.write_csv(demo_senders()).encode(), lambda data: transmitters.read(data, "europe")),
    "transmitters geojson": (transmitters.write_geojson(demo_senders()).encode(),
                             lambda data: transmitters.read(data, "europe")),
    "carriers csv": (tables.write_carriers(SKERRY).encode(), _tables),
    "places": (GPX, lambda data: gpx.read_places(data, 100)),
    "beams": (BEAMS, lambda data: geo.take_beams(geo.read_beams(data), HUT, SATELLITE)),
}  # fmt: skip


def _jobs_in(found: Any) -> list[Job]:
    rows = found if isinstance(found, tuple) else (found,)
    return [r for r in rows if isinstance(r, Job)]


def _tried(name: str, data: bytes) -> Any:
    """The reader's answer, or None when it refused in words."""
    refusal: InputError | None = None
    found: Any = None
    try:
        found = READERS[name][1](data)
    except InputError as error:
        refusal = error
    if refusal is not None:
        assert refusal.field, (name, refusal)
        assert refusal.reason, (name, refusal)
        assert refusal.remedy, (name, str(refusal))
        return None
    for job in _jobs_in(found):
        # What was let in hangs together and goes out again as it came.
        check_job(JobParts(job, CATALOGUE))
        assert read_job(write_job(job).encode(), CATALOGUE) == job
    return found


@pytest.mark.parametrize("name", sorted(READERS))
def test_the_whole_file_is_read(name: str) -> None:
    assert _tried(name, READERS[name][0]) is not None


@pytest.mark.parametrize("name", sorted(READERS))
@given(share=st.floats(0, 1))
@examples(3, 60)
def test_a_file_that_breaks_off(name: str, share: float) -> None:
    whole = READERS[name][0]
    _tried(name, whole[: int(len(whole) * share)])


@pytest.mark.parametrize("name", sorted(READERS))
@given(data=st.data())
@examples(6, 125)
def test_a_file_with_bitten_bytes(name: str, data: st.DataObject) -> None:
    whole = bytearray(READERS[name][0])
    for _ in range(data.draw(st.integers(1, 6))):
        at = data.draw(st.integers(0, len(whole) - 1))
        whole[at] = data.draw(st.sampled_from(list(b"0019-.,;\"'{}[]<>\n\r\t eN\x00\xff\xc3")))
    _tried(name, bytes(whole))


@pytest.mark.parametrize("name", sorted(READERS))
@given(
    data=st.one_of(
        st.binary(max_size=200), st.text(max_size=200).map(lambda t: t.encode("utf-8", "replace"))
    )
)
@examples(6, 125)
def test_a_file_that_is_something_else(name: str, data: bytes) -> None:
    _tried(name, data)


@pytest.mark.parametrize("name", sorted(READERS))
@pytest.mark.parametrize(
    "data",
    [
        b"",
        b" ",
        b"\n\n\n",
        b"\xef\xbb\xbf",
        b"{}",
        b"[]",
        b"null",
        b"0",
        b'"x"',
        b'{"format":1}',
        b"<a/>",
        b"<gpx/>",
        b";;;;;",
        b"a,b,c\n1,2,3\n",
        b"\x1f\x8b\x08\x00",
        b"PK\x03\x04",
        b"%PDF-1.7",
        b"[" * 5000,
        b'{"a":' * 2000,
        b"\xff\xfe\x00\x00",
    ],
)
def test_an_empty_file_and_other_mistakes(name: str, data: bytes) -> None:
    _tried(name, data)


def _values(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    found = [path] if path else []
    if isinstance(value, dict):
        for key, inner in value.items():
            found += _values(inner, (*path, key))
    elif isinstance(value, list):
        for i, inner in enumerate(value[:3]):
            found += _values(inner, (*path, i))
    return found


@given(data=st.data())
@examples(30, 750)
def test_a_job_file_with_one_value_replaced(data: st.DataObject) -> None:
    document = json.loads(READERS["job file"][0])
    path = data.draw(st.sampled_from(_values(document)))
    at = document
    for step in path[:-1]:
        at = at[step]
    at[path[-1]] = data.draw(
        st.sampled_from(
            [
                None,
                "",
                "x",
                "c1",
                "p1",
                -1,
                0,
                1e308,
                10**30,
                0.5,
                True,
                [],
                {},
                [1],
                {"a": 1},
                "9" * 400,
                "\x00",
            ]
        )
    )
    _tried("job file", json.dumps(document).encode())


words = st.one_of(
    st.text(max_size=30),
    st.text(alphabet="0123456789.,;:°'\"NSEWO-+− mkftin/", max_size=25),
    st.from_regex(r"\A[a-z ]{0,12}[-−]?\d{0,5}[.,]?\d{0,4} ?(°|m|km|ft|dB|MHz|GHz|dBm|E|W|N|S)?\Z"),
)


@given(words)
@examples(80, 2000)
def test_any_words_are_a_figure_or_a_refusal(text: str) -> None:
    calls: list[Callable[[str], Any]] = [
        read_position,
        parse_orbit,
        parse_row,
        parse_found,
        *(
            lambda t, u=u: read_figure(t, u)
            for u in ("m", "deg", "dbuv", "mhz", "mm2", "count", "kw")
        ),  # type: ignore[misc]
        *(lambda t, k=k: parse_frequency(t, k) for k in TABLES),  # type: ignore[misc]
    ]
    for call in calls:
        refusal: InputError | None = None
        try:
            call(text)
        except InputError as error:
            refusal = error
        assert refusal is None or (refusal.reason and refusal.remedy), text


@given(
    st.floats(-1e6, 1e6), st.sampled_from(["m", "deg", "db", "mhz", "v", "km"]), st.integers(0, 4)
)
def test_what_is_shown_is_read_back(value: float, unit: Any, digits: int) -> None:
    text = show(Quantity(value, unit, digits))
    found = read_figure(text, unit)
    scale = 1000.0 if unit == "km" else 1.0  # a length is read in metres
    assert isinstance(found, float)
    assert found == pytest.approx(
        value * scale if unit == "km" and abs(found - value) > 1 else value,
        abs=0.51 * 10**-digits * scale,
    )


@pytest.mark.parametrize("table", sorted(TABLES))
def test_channels_and_frequencies_are_each_others_way_back(table: str) -> None:
    for first, last, _, spacing in TABLES[table]:
        for channel in range(first, last + 1):
            mhz = channel_mhz(channel, table)
            assert channel_of(mhz, table) == channel
            assert parse_frequency(f"ch {channel}", table) == mhz
            assert channel_of(mhz + spacing * 0.4, table) in (None, channel, channel + 1)
