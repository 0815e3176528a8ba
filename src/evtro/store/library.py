"""What the installer keeps for every job: transmitters, and elevation tiles."""

from __future__ import annotations

import json
import secrets
from dataclasses import dataclass

from evtro.core.stations.sky.senders import Sender
from evtro.core.units.quantities import InputError

from .jobs import Jobs

MOST_SENDERS = 2000
MOST_TILES = 400


@dataclass(frozen=True)
class TileRow:
    """An elevation tile: where the file lies, what it covers [deg], its step [m]."""

    id: str
    name: str
    path: str
    format: str
    west: float
    south: float
    east: float
    north: float
    step_m: float


class Library:
    """The lists beside the jobs, in the same database file."""

    def __init__(self, jobs: Jobs) -> None:
        self._jobs = jobs

    def senders(self) -> list[tuple[str, Sender]]:
        """Id and value of every known transmitter, by name."""
        with self._jobs.reading() as db:
            rows = db.execute("SELECT * FROM transmitter ORDER BY name COLLATE NOCASE").fetchall()
        return [
            (
                r["id"],
                Sender(name=r["name"], latitude_deg=r["latitude_deg"], longitude_deg=r["longitude_deg"],
                       height_m=r["height_m"], pattern=json.loads(r["pattern"]),
                       muxes=json.loads(r["carriers"])),
            )
            for r in rows
        ]  # fmt: skip

    def keep(self, senders: list[Sender]) -> None:
        """Take transmitters in; one of the same name is replaced. Raises InputError when full."""
        with self._jobs.transaction() as db:
            for s in senders:
                plain = s.model_dump(mode="json")
                db.execute(
                    "INSERT INTO transmitter (id, name, latitude_deg, longitude_deg, height_m, pattern, "
                    "carriers) VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT (name) DO UPDATE SET "
                    "latitude_deg = excluded.latitude_deg, longitude_deg = excluded.longitude_deg, "
                    "height_m = excluded.height_m, pattern = excluded.pattern, "
                    "carriers = excluded.carriers",
                    (secrets.token_hex(5), s.name, s.latitude_deg, s.longitude_deg, s.height_m,
                     json.dumps(plain["pattern"]), json.dumps(plain["muxes"])),
                )  # fmt: skip
            count = db.execute("SELECT count(*) FROM transmitter").fetchone()[0]
            if count > MOST_SENDERS:
                raise InputError("Transmitters", f"the list holds at most {MOST_SENDERS}.",
                                 "Remove some that are far away.", "too-many")  # fmt: skip

    def forget(self, sender_id: str) -> None:
        """Remove a transmitter. Raises InputError when it is not there."""
        with self._jobs.transaction() as db:
            if db.execute("DELETE FROM transmitter WHERE id = ?", (sender_id,)).rowcount == 0:
                raise InputError("Transmitter", f"{sender_id} is not in the list.", "Reload the list.",
                                 "row-missing")  # fmt: skip

    def tiles(self) -> list[TileRow]:
        """All tiles, the finest first."""
        with self._jobs.reading() as db:
            rows = db.execute("SELECT * FROM tile ORDER BY step_m, name").fetchall()
        return [TileRow(**dict(r)) for r in rows]

    def add_tile(self, row: TileRow) -> None:
        """Take a tile in; the same file again replaces it."""
        with self._jobs.transaction() as db:
            # The same file or the same id again takes the place of what stood there.
            db.execute(
                "INSERT OR REPLACE INTO tile (id, name, path, format, west, south, east, north, step_m) "
                "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
                (row.id, row.name, row.path, row.format, row.west, row.south, row.east, row.north,
                 row.step_m),
            )  # fmt: skip
            if db.execute("SELECT count(*) FROM tile").fetchone()[0] > MOST_TILES:
                raise InputError("Elevation tiles", f"the list holds at most {MOST_TILES}.",
                                 "Remove some first.", "too-many")  # fmt: skip

    def remove_tile(self, tile_id: str) -> TileRow:
        """Take a tile off the list. Raises InputError when it is not there."""
        with self._jobs.transaction() as db:
            row = db.execute("SELECT * FROM tile WHERE id = ?", (tile_id,)).fetchone()
            if row is None:
                raise InputError("Elevation tile", f"{tile_id} is not in the list.", "Reload the list.",
                                 "row-missing")  # fmt: skip
            db.execute("DELETE FROM tile WHERE id = ?", (tile_id,))
        return TileRow(**dict(row))
