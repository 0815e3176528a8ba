"""Elevation tiles at work: which profiles a job lacks, read from the tiles that cover them."""

from __future__ import annotations

import re
import secrets
from collections.abc import AsyncIterator
from pathlib import Path

import numpy as np
from anyio import Path as AsyncPath
from anyio import open_file, to_thread

from evtro.core.job import Job, Site, Target, TerrainProfile, edits
from evtro.core.physics.geodesy import along
from evtro.core.stations.sky.path import relief_for, steps_for
from evtro.core.units.quantities import InputError
from evtro.store.library import Library, TileRow

MOST_TILE_BYTES = 700_000_000
FARTHEST_KM = 400.0
BOW_DEG = 1.0


class Terrain:
    """The tiles of the library, and the folder that holds those that were sent here."""

    def __init__(self, library: Library, folder: Path) -> None:
        self._library = library
        self._folder = folder

    def fill(self, job: Job) -> Job:
        """The job with the profiles that it lacks and a tile has; what holds no more goes."""
        wanted = [t for t in job.targets if t.kind == "transmitter"]
        there = {t.id: relief_for(job.reliefs, job.site, t) for t in wanted}
        if all(there.values()):
            return job
        tiles = self._library.tiles()
        kept = [r for r in there.values() if r is not None]
        for target in wanted:
            if there[target.id] is None and tiles:
                key = edits.new_id(job.model_copy(update={"reliefs": tuple(kept)}), "reliefs")
                made = self.relief(job.site, target, tiles, key)
                if made is not None:
                    kept.append(made)
        return job.model_copy(update={"reliefs": tuple(kept)})

    def again(self, job: Job) -> Job:
        """The job with all profiles read anew."""
        return self.fill(job.model_copy(update={"reliefs": ()}))

    def relief(
        self, site: Site, target: Target, tiles: list[TileRow] | None = None, key: str = "g1"
    ) -> TerrainProfile | None:
        """The profile toward a transmitter from the tiles, the finest first; None where no tile
        covers any of it, or a place is unknown."""
        lat, lon = site.latitude_deg, site.longitude_deg
        to_lat, to_lon = target.latitude_deg, target.longitude_deg
        if lat is None or lon is None or to_lat is None or to_lon is None:
            return None
        tiles = self._library.tiles() if tiles is None else tiles
        if not any(_may_reach(t, (lat, to_lat), (lon, to_lon)) for t in tiles):
            return None
        lats, lons, length = along(lat, lon, to_lat=to_lat, to_lon=to_lon, points=steps_for)
        if not 0.02 <= length <= FARTHEST_KM:
            return None
        found = np.full(len(lats), np.nan)
        sources: list[str] = []
        for tile in tiles:
            open_ = np.isnan(found)
            mine = open_ & (lats >= tile.south) & (lats <= tile.north) & (lons >= tile.west)
            mine &= lons <= tile.east
            if not mine.any():
                continue
            from evtro.formats import elevation

            read = elevation.heights(_tile(tile), lats[mine], lons[mine])
            if np.isfinite(read).any():
                found[mine] = read
                sources.append(tile.name)
        if not sources:
            return None
        rows = [None if np.isnan(h) else round(float(h), 1) for h in found]
        return TerrainProfile(
            id=key,
            target=target.id,
            source=", ".join(sources)[:120],
            from_latitude_deg=lat,
            from_longitude_deg=lon,
            to_latitude_deg=to_lat,
            to_longitude_deg=to_lon,
            length_km=length,
            heights_m=tuple(rows),
        )

    async def receive(self, name: str, chunks: AsyncIterator[bytes]) -> TileRow:
        """Write a file that is being sent to disk, piece by piece, and take it in. Raises InputError
        for what is no tile or too large; nothing is left then."""
        safe = re.sub(r"[^A-Za-z0-9._-]", "_", Path(name).name)[-80:].lstrip(".") or "tile.tif"
        folder = self._folder / secrets.token_hex(4)
        await AsyncPath(folder).mkdir(parents=True, exist_ok=True)
        path = folder / safe
        taken = 0
        try:
            async with await open_file(path, "wb") as file:
                async for chunk in chunks:
                    taken += len(chunk)
                    if taken > MOST_TILE_BYTES:
                        raise InputError(
                            "Elevation tile",
                            f"it is larger than {MOST_TILE_BYTES // 1_000_000} MB.",
                            f"Cut it to the region, or leave it where it lies: evtro tile {safe}",
                            "file-too-large",
                        )
                    await file.write(chunk)
            return await to_thread.run_sync(self.take, path, name)
        except BaseException:
            path.unlink(missing_ok=True)
            folder.rmdir()
            raise

    def take(self, path: Path, name: str) -> TileRow:
        """Take a file in where it lies. Raises InputError for what is no tile."""
        from evtro.formats import elevation

        found = elevation.inspect(path, Path(name).name)
        row = TileRow(
            id=secrets.token_hex(4),
            name=found.name,
            path=found.path,
            format=found.format,
            west=found.west,
            south=found.south,
            east=found.east,
            north=found.north,
            step_m=found.step_m,
        )
        self._library.add_tile(row)
        return row

    def drop(self, tile_id: str) -> None:
        """Take a tile off the list; the file goes only if it was sent here."""
        row = self._library.remove_tile(tile_id)
        path = Path(row.path)
        if self._folder in path.parents:
            path.unlink(missing_ok=True)
            if path.parent != self._folder and not any(path.parent.iterdir()):
                path.parent.rmdir()


def _may_reach(tile: TileRow, lats: tuple[float, float], lons: tuple[float, float]) -> bool:
    """Whether a tile can hold any of a way, before its points are worked out at every change. A way
    bows out of the box of its ends by less than the allowance, up to the farthest that is read."""
    if abs(lons[0] - lons[1]) > 180:
        return True
    return (
        tile.south - BOW_DEG <= max(lats)
        and min(lats) <= tile.north + BOW_DEG
        and tile.west <= max(lons)
        and min(lons) <= tile.east
    )


def _tile(row: TileRow):  # type: ignore[no-untyped-def]
    from evtro.formats.elevation import Tile

    return Tile(
        name=row.name,
        path=row.path,
        format=row.format,
        west=row.west,
        south=row.south,
        east=row.east,
        north=row.north,
        step_m=row.step_m,
    )
