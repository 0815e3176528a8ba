"""Elevation tiles: GeoTIFF, HGT and ESRI ASCII grids, read by windows and never whole.

The raster library takes two seconds to load, so it is imported when a tile is first opened.
"""

from __future__ import annotations

import math
import warnings
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from evtro.core.units.quantities import InputError

DRIVER = {".tif": "GTiff", ".tiff": "GTiff", ".hgt": "SRTMHGT", ".asc": "AAIGrid"}
SEGMENT = 40  # points of a profile that share a window
MOST_BLOCK_BYTES = 64_000_000  # what one look at a point may unfold
FINEST_M, MOST_SIDE = 0.1, 200_000
HIGHEST_M, LOWEST_M = 9000.0, -500.0
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Tile:
    """What a tile covers [deg] and how far its points lie apart [m]."""

    name: str
    path: str
    format: str
    west: float
    south: float
    east: float
    north: float
    step_m: float


def _open(path: Path, driver: str) -> Any:
    import rasterio

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        # Only this driver looks at it: others follow addresses that a file names.
        return rasterio.open(path, driver=driver)


def inspect(path: Path, name: str) -> Tile:
    """What a file covers. Raises InputError for a file that is no elevation tile."""
    driver = DRIVER.get(path.suffix.lower())
    if driver is None:
        raise InputError(
            "Elevation tile",
            f"{name} is none of GeoTIFF, HGT or ESRI ASCII grid.",
            "Choose a .tif, .hgt or .asc file.",
            "tile-wrong",
        )
    if not path.is_file():
        raise InputError(
            "Elevation tile",
            f"{name} is no file.",
            "Name a file: a folder, a device or a pipe holds no heights.",
            "tile-wrong",
        )
    if path.stat().st_size == 0:
        raise InputError("Elevation tile", f"{name} is empty.", "Fetch it again.", "file-empty")
    try:
        with _open(path, driver) as file:
            if file.count < 1:
                raise InputError(
                    "Elevation tile",
                    f"{name} holds no heights.",
                    "Choose a GeoTIFF, HGT or ESRI ASCII grid of heights.",
                    "tile-wrong",
                )
            _check_size(file, name)
            west, south, east, north = _bounds(file, name)
            middle = math.cos(math.radians((south + north) / 2))
            step = min((east - west) / file.width * middle, (north - south) / file.height) * 111_320
            if not step >= FINEST_M:
                raise InputError(
                    "Elevation tile",
                    f"its heights lie {step * 1000:.2g} mm apart: no map is so fine.",
                    "Thin it to a metre or more.",
                    "tile-fine",
                )
            return Tile(
                name=name,
                path=str(path),
                format=file.driver,
                west=west,
                south=south,
                east=east,
                north=north,
                step_m=round(step, 2),
            )
    except InputError:
        raise
    except Exception as error:
        raise InputError(
            "Elevation tile",
            f"{name} cannot be read as heights.",
            "Choose a whole GeoTIFF, HGT or ESRI ASCII grid; an HGT keeps its name, such as "
            "N57W005.hgt.",
            "tile-wrong",
        ) from error


def _check_size(file: Any, name: str) -> None:
    """Raise InputError for a file whose parts are too large to be read one at a time: packed as a
    whole, a small file may unfold to gigabytes."""
    rows, columns = file.block_shapes[0]
    block = rows * columns * np.dtype(file.dtypes[0]).itemsize
    if file.width > MOST_SIDE or file.height > MOST_SIDE:
        raise InputError(
            "Elevation tile",
            f"{name} has {file.width} by {file.height} heights.",
            "Cut it to the region.",
            "tile-large",
        )
    if block > MOST_BLOCK_BYTES:
        raise InputError(
            "Elevation tile",
            f"{name} is packed in pieces of {block / 1e6:.0f} MB.",
            "Save it as a tiled GeoTIFF.",
            "tile-packed",
        )


def _bounds(file: Any, name: str) -> tuple[float, float, float, float]:
    box = file.bounds
    if file.crs is None or file.crs.is_geographic:
        if file.crs is None and not (
            -180.5 <= box.left < box.right <= 180.5 and -90.5 <= box.bottom < box.top <= 90.5
        ):
            raise InputError(
                "Elevation tile",
                f"{name} does not say in which grid its figures are.",
                "Save it in degrees, or as a GeoTIFF with its projection.",
                "tile-grid",
            )
        return box.left, box.bottom, box.right, box.top
    from rasterio.warp import transform_bounds

    west, south, east, north = transform_bounds(file.crs, "EPSG:4326", *box)
    return west, south, east, north


def heights(tile: Tile, latitude_deg: Floats, longitude_deg: Floats) -> Floats:
    """Heights at points [m], by bilinear interpolation; NaN outside the tile and in its holes.

    Points are read in the order of the path, a small window for each stretch of it."""
    found = np.full(len(latitude_deg), np.nan)
    if not Path(tile.path).is_file():
        return found
    try:
        with _open(Path(tile.path), tile.format) as file:
            x, y = longitude_deg, latitude_deg
            if file.crs is not None and not file.crs.is_geographic:
                from rasterio.warp import transform

                xs, ys = transform("EPSG:4326", file.crs, x.tolist(), y.tolist())
                x, y = np.array(xs), np.array(ys)
            inverse = ~file.transform
            columns = inverse.a * x + inverse.b * y + inverse.c - 0.5
            rows = inverse.d * x + inverse.e * y + inverse.f - 0.5
            for start in range(0, len(found), SEGMENT):
                part = slice(start, start + SEGMENT)
                found[part] = _window(file, rows[part], columns[part])
    except OSError:
        return np.full(len(latitude_deg), np.nan)
    return found


def _window(file: Any, rows: Floats, columns: Floats) -> Floats:
    inside = (
        (rows > -0.51)
        & (rows < file.height - 0.49)
        & (columns > -0.51)
        & (columns < file.width - 0.49)
    )
    out = np.full(len(rows), np.nan)
    if not inside.any():
        return out
    r = np.clip(rows[inside], 0, file.height - 1)
    c = np.clip(columns[inside], 0, file.width - 1)
    top, left = int(r.min()), int(c.min())
    bottom, right = min(int(r.max()) + 2, file.height), min(int(c.max()) + 2, file.width)
    block = file.read(1, window=((top, bottom), (left, right)), masked=True).astype(float)
    values = np.ma.filled(block, np.nan)
    values[(values > HIGHEST_M) | (values < LOWEST_M)] = np.nan
    r0 = np.clip(np.floor(r).astype(int) - top, 0, values.shape[0] - 1)
    c0 = np.clip(np.floor(c).astype(int) - left, 0, values.shape[1] - 1)
    r1, c1 = np.minimum(r0 + 1, values.shape[0] - 1), np.minimum(c0 + 1, values.shape[1] - 1)
    fr, fc = r - np.floor(r), c - np.floor(c)
    out[inside] = (
        values[r0, c0] * (1 - fr) * (1 - fc)
        + values[r0, c1] * (1 - fr) * fc
        + values[r1, c0] * fr * (1 - fc)
        + values[r1, c1] * fr * fc
    )
    return out
