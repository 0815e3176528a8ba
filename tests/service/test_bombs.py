"""Small files that unfold to gigabytes or keep a check busy: refused or done within 2 s and 300 MB.

Each case runs in a process of its own, which counts its memory; the files are made here.
"""

from __future__ import annotations

import json
import os
import threading
from collections.abc import Callable
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from evtro import cli
from evtro.demo.world import fern_cottage
from evtro.formats.jobfile import write_job
from tests.server import forked_script

pytestmark = pytest.mark.long

MOST_MB = 300
PATIENCE_S = 60  # of a process; the time itself is measured by `make prove`

READ_JOB = (
    "from evtro import catalogue; from evtro.formats.jobfile import read_job; c = catalogue.load()\n"
    "def take(d): read_job(d, c)"
)
READ_GPX = "from evtro.formats.gpx import read_places\ndef take(d): read_places(d, 100)"
READ_BEAMS = "from evtro.formats.geo import read_beams\ndef take(d): read_beams(d)"
READ_CSV = "from evtro.formats.tables import carrier_lines\ndef take(d): carrier_lines(d)"
READ_SATELLITES = "from evtro.formats.satellites import lines_of\ndef take(d): lines_of(d)"
READ_SENDERS = "from evtro.formats.transmitters import read\ndef take(d): read(d, 'europe')"
READ_TILE = (
    "from pathlib import Path; from evtro.formats.elevation import inspect; import sys, rasterio\n"
    "def take(d): inspect(Path(sys.argv[1]), Path(sys.argv[1]).name)"
)
RUN = """
import sys, time
from evtro.core.units.quantities import InputError
{reader}
data = open(sys.argv[1], 'rb').read()
start = time.perf_counter()
try:
    take(data)
    word = 'taken'
except InputError as error:
    word = error.code
took = time.perf_counter() - start
peak = next(line for line in open('/proc/self/status') if line.startswith('VmHWM'))
print(word, took, int(peak.split()[1]) / 1024)
"""


def _with(field: str, value: object) -> bytes:
    document = json.loads(write_job(fern_cottage()))
    document["job"][field] = value
    return json.dumps(document).encode()


def _ring(corners: int) -> list[list[float]]:
    from math import cos, sin

    return [
        [10 + 5 * cos(i / corners * 6.28), 20 + 5 * sin(i / corners * 6.28)] for i in range(corners)
    ]


def _beams(count: int, corners: int) -> bytes:
    feature = {"geometry": {"type": "Polygon", "coordinates": [_ring(corners)]}, "properties": {}}
    return json.dumps({"features": [feature] * count}).encode()


def _carriers(rows: int) -> bytes:
    head = b"target,name,frequency_mhz,bandwidth_mhz,polarisation,power,modulation\n"
    return head + b"Fallow Top,M,474,8,H,1,DVB-T 64QAM 2/3\n" * rows


def _packed_tile() -> bytes:
    import numpy as np
    import rasterio
    from rasterio.transform import from_origin

    with rasterio.MemoryFile() as memory:
        with memory.open(
            driver="GTiff",
            width=12_000,
            height=12_000,
            count=1,
            dtype="int16",
            crs="EPSG:4326",
            transform=from_origin(0, 1, 1 / 12_000, 1 / 12_000),
            compress="deflate",
            blockysize=12_000,
        ) as file:
            file.write(np.zeros((1, 12_000, 12_000), "int16"))
        return bytes(memory.read())


def _grid(columns: int, step: str) -> bytes:
    return (
        f"ncols {columns}\nnrows {columns}\nxllcorner 0\nyllcorner 0\ncellsize {step}\nNODATA_value -1\n"
        "1 2 3\n"
    ).encode()


BOMBS: dict[str, tuple[str, Callable[[], bytes], str]] = {
    "a million parts": (READ_JOB, lambda: _with("parts", [1] * 1_000_000), "too-long"),
    "six million parts": (READ_JOB, lambda: _with("parts", [1] * 4_000_000), "file-too-large"),
    "wrong corners": (READ_JOB, lambda: _with("beams", [{"id": f"b{i}", "target": "t1", "name": "B", "boundary": [["a", "b"]] * 2000}
                                                        for i in range(190)]), "no-number"),
    "lists in lists": (READ_JOB, lambda: b"[" * 19_000_000, "file-too-large"),
    "deep": (READ_JOB, lambda: b"[" * 500_000 + b"]" * 500_000, "file-wrong"),
    "empty lists": (READ_JOB, lambda: b"[" + b"[]," * 6_000_000 + b"[]]", "file-too-large"),
    "keys": (READ_JOB, lambda: b"{" + b",".join(b'"k%d":1' % i for i in range(1_400_000)) + b"}", "file-too-large"),
    "one string": (READ_JOB, lambda: b'{"format":"' + b"x" * 19_000_000 + b'"}', "file-wrong"),
    "long number": (READ_JOB, lambda: _with("name", "x")[:-1] + b',"a":' + b"9" * 5000 + b"}", "file-wrong"),
    "waypoints": (READ_GPX, lambda: b"<gpx>" + b'<wpt lat="1" lon="1"/>' * 860_000 + b"</gpx>", "file-too-large"),
    "a walk round the world": (READ_GPX, lambda: b"<gpx><trk><trkseg>" + b'<trkpt lat="1" lon="1"><ele>3</ele></trkpt>'
                               * 140_000 + b"</trkseg></trk></gpx>", "taken"),
    "nothing in XML": (READ_GPX, lambda: b"<gpx>" + b"<x/>" * 590_000 + b"</gpx>", "gpx-empty"),
    "beams": (READ_BEAMS, lambda: _beams(200, 2000), "file-too-large"),
    "as many corners as may be": (READ_BEAMS, lambda: _beams(5, 2000), "taken"),
    "18 MB of carriers": (READ_CSV, lambda: _carriers(430_000), "file-too-large"),
    "4 MB of carriers": (READ_CSV, lambda: _carriers(100_000), "csv-too-many"),
    "one cell": (READ_CSV, lambda: b"target,name\n" + b"a" * 4_000_000, "csv-columns"),
    "one head": (READ_CSV, lambda: b"," * 4_900_000, "csv-columns"),
    "satellites": (READ_SATELLITES, lambda: json.dumps({"satellites": [{"transponders": [{}] * 90}] * 400}).encode(),
                   "file-wrong"),
    "transmitters": (READ_SENDERS, lambda: json.dumps({"features": [{"geometry": {"type": "Point", "coordinates": [1, 2]},
                     "properties": {"multiplexes": [{}] * 400}}] * 900}).encode(), "file-too-large"),
    "tile": (READ_TILE, _packed_tile, "tile-packed"),
}  # fmt: skip


@pytest.mark.parametrize("name", BOMBS)
def test_a_bomb_is_refused_or_done_soon(tmp_path: Path, name: str) -> None:
    reader, make, word = BOMBS[name]
    file = tmp_path / ("bomb.tif" if name == "tile" else "bomb")
    file.write_bytes(make())
    assert file.stat().st_size <= 20_000_000
    process, out = forked_script(RUN.format(reader=reader), str(file))
    process.join(PATIENCE_S)
    assert process.exitcode == 0
    said, _, memory = out.read().split()  # `make prove` prints the time
    assert said == word
    assert float(memory) < MOST_MB


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (_grid(1_000_000_000, "0.000000001"), ""),
        (_grid(1000, "0.0000000001"), "no map is so fine"),
        (_grid(250_000, "0.00001"), ""),
    ],
)
def test_a_grid_finer_than_any_map(tmp_path: Path, data: bytes, words: str) -> None:
    from evtro.core.units.quantities import InputError
    from evtro.formats.elevation import inspect

    file = tmp_path / "a.asc"
    file.write_bytes(data)
    with pytest.raises(InputError) as told:
        inspect(file, file.name)
    assert words in told.value.reason


def test_a_tile_that_names_another_file_is_not_followed(tmp_path: Path) -> None:
    from evtro.core.units.quantities import InputError
    from evtro.formats.elevation import inspect

    file = tmp_path / "a.tif"
    file.write_text(
        '<VRTDataset rasterXSize="2" rasterYSize="2"><VRTRasterBand dataType="Float32" band="1">'
        "<SimpleSource><SourceFilename>/etc/hostname</SourceFilename></SimpleSource>"
        "</VRTRasterBand></VRTDataset>"
    )
    with pytest.raises(InputError):
        inspect(file, file.name)


def test_devices_and_pipes_are_no_files(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("EVTRO_DATA", str(tmp_path / "data"))
    pipe = tmp_path / "pipe.tif"
    os.mkfifo(pipe)
    for command in ("import", "check", "tile", "restore", "recover"):
        for path in ("/dev/zero", str(pipe), str(tmp_path)):
            assert cli.main([command, path]) == 2, (command, path)
    said = capsys.readouterr().err
    assert "Traceback" not in said
    assert said.count("evtro: ") == 15


def test_a_large_import_holds_up_nobody(client: TestClient) -> None:
    """While half a million tags are read, a job is changed."""
    data, answers, stop = BOMBS["nothing in XML"][1](), [], threading.Event()

    def send() -> None:
        while not stop.is_set():
            answers.append(client.post("/api/places/gpx", content=data).status_code)

    sender = threading.Thread(target=send)
    sender.start()
    within = False
    for revision in range(40):
        before = len(answers)
        answer = client.post(
            "/api/jobs/fern-cottage/changes",
            headers={"If-Match": str(revision), "Evtro-Include": ""},
            json={"verb": "set", "rows": "job", "values": {"place": f"{revision}"}},
        )
        assert answer.status_code == 200
        # Begun and ended while one and the same file was being read.
        within = revision > 0 and len(answers) == before
        if within:
            break
    stop.set()
    sender.join()
    assert set(answers) == {422}
    assert within


def test_a_form_is_no_file(client: TestClient) -> None:
    answer = client.post(
        "/api/jobs/skerry-house/changes",
        content=b'{"verb": "' + b"x" * 300_000 + b'"}',
        headers={"If-Match": "0", "content-type": "application/json"},
    )
    assert answer.status_code == 413


def test_a_thousand_carriers_are_taken_in(client: TestClient) -> None:
    rows = "".join(
        f"Halcyon,T{i},{10700 + i * 2},1.5,{'HV'[i % 2]},50,DVB-S2 8PSK 2/3\n" for i in range(990)
    )
    head = "target,name,frequency_mhz,bandwidth_mhz,polarisation,power,modulation\n"
    answer = client.post(
        "/api/jobs/skerry-house/csv?kind=carriers",
        content=(head + rows).encode(),
        headers={"If-Match": "0"},
    )
    assert answer.status_code == 200, answer.text[:300]
    assert len(answer.json()["job"]["carriers"]) > 990
