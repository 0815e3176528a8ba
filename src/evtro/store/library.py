"""What the installer keeps for every job: transmitters, elevation tiles, own sheets."""

from __future__ import annotations

import datetime as dt
import json
import secrets
from dataclasses import dataclass

from evtro.core.stations.sky.senders import Sender
from evtro.core.units.quantities import InputError
from evtro.core.workshop import OwnSheet
from evtro.core.workshop.sheets import MODELS

from .jobs import Jobs

MOST_SENDERS = 2000
MOST_TILES = 400
MOST_SHEETS = 3000


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
                Sender(
                    name=r["name"],
                    latitude_deg=r["latitude_deg"],
                    longitude_deg=r["longitude_deg"],
                    height_m=r["height_m"],
                    pattern=json.loads(r["pattern"]),
                    muxes=json.loads(r["carriers"]),
                ),
            )
            for r in rows
        ]

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
                    (
                        secrets.token_hex(5),
                        s.name,
                        s.latitude_deg,
                        s.longitude_deg,
                        s.height_m,
                        json.dumps(plain["pattern"]),
                        json.dumps(plain["muxes"]),
                    ),
                )
            count = db.execute("SELECT count(*) FROM transmitter").fetchone()[0]
            if count > MOST_SENDERS:
                raise InputError(
                    "Transmitters",
                    f"the list holds at most {MOST_SENDERS}.",
                    "Remove some that are far away.",
                    "too-many",
                )

    def forget(self, sender_id: str) -> None:
        """Remove a transmitter. Raises InputError when it is not there."""
        with self._jobs.transaction() as db:
            if db.execute("DELETE FROM transmitter WHERE id = ?", (sender_id,)).rowcount == 0:
                raise InputError(
                    "Transmitter",
                    f"{sender_id} is not in the list.",
                    "Reload the list.",
                    "row-missing",
                )

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
                (
                    row.id,
                    row.name,
                    row.path,
                    row.format,
                    row.west,
                    row.south,
                    row.east,
                    row.north,
                    row.step_m,
                ),
            )
            if db.execute("SELECT count(*) FROM tile").fetchone()[0] > MOST_TILES:
                raise InputError(
                    "Elevation tiles",
                    f"the list holds at most {MOST_TILES}.",
                    "Remove some first.",
                    "too-many",
                )

    def remove_tile(self, tile_id: str) -> TileRow:
        """Take a tile off the list. Raises InputError when it is not there."""
        with self._jobs.transaction() as db:
            row = db.execute("SELECT * FROM tile WHERE id = ?", (tile_id,)).fetchone()
            if row is None:
                raise InputError(
                    "Elevation tile",
                    f"{tile_id} is not in the list.",
                    "Reload the list.",
                    "row-missing",
                )
            db.execute("DELETE FROM tile WHERE id = ?", (tile_id,))
        return TileRow(**dict(row))

    def sheets(self) -> list[OwnSheet]:
        """All own sheets, in the order of their keys."""
        with self._jobs.reading() as db:
            rows = db.execute("SELECT * FROM sheet ORDER BY shelf, key").fetchall()
        return [
            OwnSheet(
                shelf=r["shelf"],
                data=MODELS[r["shelf"]].model_validate_json(r["data"]),
                base=r["base"],
                origin=r["origin"],
                of_date=dt.date.fromisoformat(r["of_date"]),
            )
            for r in rows
        ]

    def keep_sheets(self, sheets: list[OwnSheet]) -> None:
        """Take sheets in; one of the same key is replaced. Raises InputError when full."""
        with self._jobs.transaction() as db:
            for s in sheets:
                db.execute(
                    "INSERT OR REPLACE INTO sheet (shelf, key, base, origin, of_date, data) "
                    "VALUES (?, ?, ?, ?, ?, ?)",
                    (
                        s.shelf,
                        s.key,
                        s.base,
                        s.origin,
                        s.of_date.isoformat(),
                        s.data.model_dump_json(),
                    ),
                )
            if db.execute("SELECT count(*) FROM sheet").fetchone()[0] > MOST_SHEETS:
                raise InputError(
                    "Sheets",
                    f"the workshop holds at most {MOST_SHEETS}.",
                    "Remove some that no job uses.",
                    "too-many",
                )

    def drop_sheet(self, shelf: str, key: str) -> None:
        """Take a sheet out of the workshop. Raises InputError when it is not there."""
        with self._jobs.transaction() as db:
            found = db.execute("DELETE FROM sheet WHERE shelf = ? AND key = ?", (shelf, key))
            if found.rowcount == 0:
                raise InputError(
                    "Sheet", f"“{key}” is not of your own.", "Reload the list.", "row-missing"
                )

    def in_jobs(self) -> dict[tuple[str, str], list[str]]:
        """Which jobs carry data of which part, cable or antenna."""
        found: dict[tuple[str, str], list[str]] = {}
        with self._jobs.reading() as db:
            for shelf in MODELS:
                rows = db.execute(
                    f"SELECT key, job FROM {shelf}_data WHERE job IN "
                    "(SELECT id FROM job WHERE removed_at IS NULL) ORDER BY job"
                ).fetchall()
                for row in rows:
                    found.setdefault((shelf, row["key"]), []).append(row["job"])
        return found
