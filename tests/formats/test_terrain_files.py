"""Lists of transmitters and elevation tiles: in and out, and what cannot be used."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
import rasterio
from rasterio.transform import from_origin

from evtro import catalogue, profiles
from evtro.core.stations.sky.senders import senders_of
from evtro.core.units.quantities import InputError
from evtro.demo.arrays import harrow_farm, larch_street
from evtro.demo.terrain import TILE, ground_m
from evtro.formats import elevation, transmitters
from evtro.formats.elevation import Tile
from evtro.formats.jobfile import read_job, write_job

EUROPE = profiles.load("europe").channels
HEAD = "name,latitude_deg,longitude_deg,height_m,channel,erp_kw,polarisation,services"


# --- transmitters --------------------------------------------------------------------------------


@pytest.mark.parametrize("job", [harrow_farm, larch_street])
@pytest.mark.parametrize("write", [transmitters.write_csv, transmitters.write_geojson])
def test_a_list_that_was_written_is_read_the_same(job, write) -> None:  # type: ignore[no-untyped-def]
    known = senders_of(job())
    found, left = transmitters.read(write(known).encode(), EUROPE)
    assert left == []
    assert found == known
    assert write(found) == write(known)


def test_channels_are_those_of_the_region() -> None:
    text = f"{HEAD}\nTop,57.1,-4.2,300,36,20,H,One|Two\n"
    europe, _ = transmitters.read(text.encode(), "europe")
    america, _ = transmitters.read(text.encode(), "north-america")
    assert europe[0].muxes[0].frequency_mhz == 594.0
    assert (america[0].muxes[0].frequency_mhz, america[0].muxes[0].bandwidth_mhz) == (605.0, 6.0)
    assert america[0].muxes[0].modulation == "ATSC 8-VSB"
    assert europe[0].muxes[0].services == ("One", "Two")


def test_a_tired_hand_is_understood() -> None:
    text = (
        "\ufeffname;latitude_deg;longitude_deg;height_m;channel;erp_kw;polarisation;pattern\n"
        "Top;57°12'36\"N;4°33'36\"W;1 200 m;ch 23;0,5;h;0:8,5 90:0\n"
        "Top;57,21;-4,56;300;;200 W;v;\n"
        "Top;57,21;-4,56;300;E 30;200 W;v;\n"
    )
    found, left = transmitters.read(text.encode(), EUROPE)
    assert found[0].latitude_deg == pytest.approx(57.21)
    assert found[0].longitude_deg == pytest.approx(-4.56)
    assert [m.erp_kw for m in found[0].muxes] == [0.5, 0.2]
    assert found[0].pattern == ((0.0, 8.5), (90.0, 0.0))
    assert len(left) == 1
    assert left[0].startswith("line 3, channel")


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("Top,57.1,-4.2,300,36,0,H,", "0 kW sends nothing"),
        ("Top,57.1,-4.2,300,99,20,H,", "channel 99 is not in this region's table"),
        ("Top,57.1,-4.2,300,thirty,20,H,", "thirty"),
        ("Top,97.1,-4.2,300,36,20,H,", "97.1"),
        (",57.1,-4.2,300,36,20,H,", "the name is missing"),
        ("Top,57.1,-4.2,tall,36,20,H,", "not a number"),
        ("Top,57.1,-4.2,300,,20,H,", "neither channel nor frequency"),
        ("Top,57.1,-4.2,300,36,20,slant,", ""),
    ],
)
def test_a_line_that_cannot_be_used_is_told_and_the_rest_is_taken(row: str, words: str) -> None:
    good = "Base,57.2,-4.3,310,42,5,V,Three"
    found, left = transmitters.read(f"{HEAD}\n{row}\n{good}\n".encode(), EUROPE)
    assert [s.name for s in found] == ["Base"]
    assert left[0].startswith("line 2")
    assert words in left[0]
    with pytest.raises(InputError):
        transmitters.read(f"{HEAD}\n{row}\n".encode(), EUROPE)


def test_a_pattern_of_one_point_is_told() -> None:
    text = "name,latitude_deg,longitude_deg,height_m,pattern\nTop,57,-4,300,90:3\n"
    with pytest.raises(InputError, match="one bearing"):
        transmitters.read(text.encode(), EUROPE)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"\xff\xfe\x00", "not UTF-8"),
        (b"{", "not a JSON document"),
        (b'{"a": 1}', "no collection"),
        (b'{"features": []}', "no points"),
        (b"a,b\n1,2\n", "column name is missing"),
    ],
)
def test_files_that_are_no_list(data: bytes, words: str) -> None:
    with pytest.raises(InputError) as caught:
        transmitters.read(data, EUROPE)
    assert words in str(caught.value)


# --- tiles ---------------------------------------------------------------------------------------


def _grid(
    path: Path, driver: str = "GTiff", hole: bool = False, crs: str | None = "EPSG:4326"
) -> Path:
    """One degree by one, N57W005, a plane that rises 100 m a degree north and 40 m east."""
    n = 1201 if driver == "SRTMHGT" else 241
    step = 1 / (n - 1) if driver == "SRTMHGT" else 1 / n
    half = step / 2 if driver == "SRTMHGT" else 0.0
    lat = 58 + half - step * (np.arange(n) + 0.5)
    lon = -5 - half + step * (np.arange(n) + 0.5)
    heights = (100 * (lat[:, None] - 57) + 40 * (lon[None] + 5)).round().astype("int16")
    if hole:
        heights[n // 2 : n // 2 + 6] = -32768
    with rasterio.open(
        path,
        "w",
        driver=driver,
        width=n,
        height=n,
        count=1,
        dtype="int16",
        crs=crs,
        nodata=-32768,
        transform=from_origin(-5 - half, 58 + half, step, step),
    ) as file:
        file.write(heights, 1)
    return path


LAT, LON = np.linspace(57.1, 57.9, 601), np.linspace(-4.9, -4.2, 601)
PLANE = 100 * (LAT - 57) + 40 * (LON + 5)


@pytest.mark.parametrize(("name", "driver"), [("plane.tif", "GTiff"), ("N57W005.hgt", "SRTMHGT")])
def test_heights_are_read_between_the_points(tmp_path: Path, name: str, driver: str) -> None:
    tile = elevation.inspect(_grid(tmp_path / name, driver), name)
    assert (tile.format, round(tile.north), round(tile.west)) == (driver, 58, -5)
    assert elevation.heights(tile, LAT, LON) == pytest.approx(PLANE, abs=0.6)


def test_an_ascii_grid_is_read_as_the_tiff_it_came_from(tmp_path: Path) -> None:
    tif = elevation.inspect(_grid(tmp_path / "plane.tif"), "plane.tif")
    with rasterio.open(tif.path) as file:
        rows = file.read(1)
    text = f"ncols 241\nnrows 241\nxllcorner -5\nyllcorner 57\ncellsize {1 / 241:.12f}\nNODATA_value -32768\n"
    path = tmp_path / "plane.asc"
    path.write_text(text + "\n".join(" ".join(map(str, r)) for r in rows) + "\n")
    asc = elevation.inspect(path, "plane.asc")
    assert asc.format == "AAIGrid"
    assert elevation.heights(asc, LAT, LON) == pytest.approx(
        elevation.heights(tif, LAT, LON), abs=0.01
    )


def test_a_projected_grid_is_read_in_degrees(tmp_path: Path) -> None:
    """UTM zone 30 as an outside grid: rasterio's own transform of the corners."""
    path = tmp_path / "utm.tif"
    with rasterio.open(
        path,
        "w",
        driver="GTiff",
        width=100,
        height=100,
        count=1,
        dtype="float32",
        crs="EPSG:32630",
        transform=from_origin(380_000, 6_360_000, 500, 500),
        nodata=-9999,
    ) as file:
        file.write(np.full((100, 100), 77.5, "float32"), 1)
    tile = elevation.inspect(path, "utm.tif")
    assert 56 < tile.south < tile.north < 58
    middle = np.array([(tile.south + tile.north) / 2]), np.array([(tile.west + tile.east) / 2])
    assert elevation.heights(tile, *middle) == pytest.approx([77.5])
    assert tile.step_m == pytest.approx(500, rel=0.1)


def test_holes_and_the_world_outside_are_unknown(tmp_path: Path) -> None:
    tile = elevation.inspect(_grid(tmp_path / "plane.tif", hole=True), "plane.tif")
    read = elevation.heights(tile, LAT, LON)
    assert 5 < np.isnan(read).sum() < 40
    outside = elevation.heights(tile, np.array([58.5, 57.5]), np.array([-4.5, -6.0]))
    assert np.isnan(outside).all()


def test_a_tile_that_went_away_is_unknown_and_no_crash(tmp_path: Path) -> None:
    gone = Tile("gone", str(tmp_path / "gone.tif"), "GTiff", -5, 57, -4, 58, 90)
    assert np.isnan(elevation.heights(gone, LAT[:3], LON[:3])).all()


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [
        ("a.txt", b"x", "none of GeoTIFF"),
        ("a.tif", b"", "is empty"),
        ("a.tif", b"no tiff", "cannot be read"),
        ("a.asc", b"ncols 2\n", "cannot be read"),
        ("odd.hgt", b"\x00" * 100, "cannot be read"),
    ],
)
def test_what_is_no_tile_is_told(tmp_path: Path, name: str, data: bytes, words: str) -> None:
    path = tmp_path / name
    path.write_bytes(data)
    with pytest.raises(InputError) as caught:
        elevation.inspect(path, name)
    assert words in str(caught.value)


def test_a_grid_without_its_grid_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "metres.asc"
    path.write_text(
        "ncols 2\nnrows 2\nxllcorner 380000\nyllcorner 6300000\ncellsize 50\n1 2\n3 4\n"
    )
    with pytest.raises(InputError, match="in which grid"):
        elevation.inspect(path, "metres.asc")


def test_the_demo_tile_is_the_demo_ground() -> None:
    tile = elevation.inspect(TILE, "demo")
    lat, lon = np.linspace(57.06, 57.39, 200), np.linspace(-4.98, -4.2, 200)
    assert elevation.heights(tile, lat, lon) == pytest.approx(ground_m(lat, lon), abs=1.5)
    assert TILE.stat().st_size < 200_000


def test_a_job_file_of_an_older_form_is_brought_up_to_date() -> None:
    """Up to form 2 a transmitter's loss of zero stood for free space."""
    document = json.loads(write_job(harrow_farm()))
    for row, loss in zip(document["job"]["targets"], (0.0, 12.5, 0.0), strict=True):
        del row["own_loss_db"]
        row["extra_loss_db"] = loss
    document["version"] = 2
    job = read_job(json.dumps(document).encode(), catalogue.load())
    assert [t.own_loss_db for t in job.targets] == [None, 12.5, None]
    document["version"] = 3
    with pytest.raises(InputError):
        read_job(json.dumps(document).encode(), catalogue.load())
