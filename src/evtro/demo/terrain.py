"""The ground of an invented country: a closed form, so that tile, profiles and tests agree.

`python -m evtro.demo.terrain` writes the tile that ships beside this file.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import ArrayLike

from evtro.core.job import Site, Target, TerrainProfile
from evtro.core.physics.geodesy import Floats, along
from evtro.core.stations.sky.path import RELIEF_MOST, steps_for

TILE = Path(__file__).parent / "orrick.tif"
TILE_NAME = "Vale of Orrick, demo tile"
WEST, SOUTH, EAST, NORTH = -5.0, 57.05, -4.15, 57.40
STEP_DEG = 6 / 3600

# Hills: latitude, longitude, height [m], half width north and east [km].
_HILLS = (
    (57.348, -4.255, 300.0, 3.2, 3.6),
    (57.175, -4.920, 330.0, 3.0, 2.6),
    (57.197, -4.680, 205.0, 6.0, 1.5),
    (57.300, -4.700, 180.0, 2.4, 4.0),
    (57.110, -4.420, 140.0, 3.0, 5.0),
    (57.255, -4.395, 45.0, 1.2, 1.8),
)


def ground_m(latitude_deg: ArrayLike, longitude_deg: ArrayLike) -> Floats:
    """Height of the ground above sea [m]."""
    lat, lon = np.asarray(latitude_deg, float), np.asarray(longitude_deg, float)
    north, east = (lat - 57.2) * 111.3, (lon + 4.55) * 60.4
    ground = 62.0 + 0.9 * north - 0.35 * east + 7 * np.sin(north * 1.3) * np.cos(east * 0.9)
    for at, beside, top, high, wide in _HILLS:
        ground = ground + top * np.exp(
            -(((lat - at) * 111.3 / high) ** 2) - ((lon - beside) * 60.4 / wide) ** 2
        )
    return np.asarray(ground)


def relief(key: str, site: Site, target: Target) -> TerrainProfile:
    """The profile that the tile gives between a place and a transmitter."""
    start = (site.latitude_deg or 0.0, site.longitude_deg or 0.0)
    end = (target.latitude_deg or 0.0, target.longitude_deg or 0.0)
    lat, lon, length = along(*start, *end, steps_for)
    heights = ground_m(lat, lon)
    return TerrainProfile(
        id=key,
        target=target.id,
        source=TILE_NAME,
        from_latitude_deg=start[0],
        from_longitude_deg=start[1],
        to_latitude_deg=end[0],
        to_longitude_deg=end[1],
        length_km=length,
        heights_m=tuple(round(float(h), 1) for h in heights[:RELIEF_MOST]),
    )


def write_tile(path: Path = TILE) -> None:
    """Write the tile as a GeoTIFF of whole metres."""
    import rasterio
    from rasterio.transform import from_origin

    rows = np.arange(NORTH - STEP_DEG / 2, SOUTH, -STEP_DEG)
    columns = np.arange(WEST + STEP_DEG / 2, EAST, STEP_DEG)
    heights = np.rint(ground_m(rows[:, None], columns[None])).astype("int16")
    with rasterio.open(
        path,
        "w",
        driver="GTiff",
        height=len(rows),
        width=len(columns),
        count=1,
        dtype="int16",
        crs="EPSG:4326",
        transform=from_origin(WEST, NORTH, STEP_DEG, STEP_DEG),
        nodata=-32768,
        compress="deflate",
        predictor=2,
    ) as file:
        file.write(heights, 1)


if __name__ == "__main__":
    write_tile()
