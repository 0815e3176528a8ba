"""The database file: where it lies, how it is opened, migrated, backed up and restored."""

from __future__ import annotations

import os
import sqlite3
from importlib import resources
from pathlib import Path

from platformdirs import user_data_path

from evtro.core.quantities import InputError

FILE_NAME = "evtro.sqlite"


def data_dir() -> Path:
    """The user's data directory; EVTRO_DATA overrides it."""
    chosen = os.environ.get("EVTRO_DATA")
    return Path(chosen) if chosen else user_data_path("evtro")


def open_database(path: Path) -> sqlite3.Connection:
    """Open or create the file and bring it to the newest form.

    Raises InputError when the file is no database of this program or is newer than it.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    connection = sqlite3.connect(path, isolation_level=None, check_same_thread=False)
    connection.row_factory = sqlite3.Row
    try:
        connection.execute("PRAGMA journal_mode = WAL")
    except sqlite3.DatabaseError as error:
        connection.close()
        raise InputError(
            "Data file",
            f"{path} is not an Evtro database.",
            "Move it away, or restore a backup with: evtro restore FILE",
            "database-wrong",
        ) from error
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")
    connection.execute("PRAGMA busy_timeout = 5000")
    try:
        migrate(connection)
    except BaseException:
        connection.close()
        raise
    return connection


def _migrations() -> list[tuple[int, str]]:
    folder = resources.files("evtro.store").joinpath("migrations")
    files = sorted(f.name for f in folder.iterdir() if f.name.endswith(".sql"))
    return [(int(name[:4]), folder.joinpath(name).read_text("utf-8")) for name in files]


def migrate(connection: sqlite3.Connection) -> None:
    """Apply the numbered steps that are missing, each in one transaction."""
    steps = _migrations()
    version = connection.execute("PRAGMA user_version").fetchone()[0]
    if version > steps[-1][0]:
        raise InputError(
            "Data file",
            f"it was written by a newer Evtro (form {version}, this one knows {steps[-1][0]}).",
            "Start the newer program, or restore an older backup.",
            "database-newer",
        )
    for number, sql in steps:
        if number > version:
            connection.executescript(
                f"BEGIN IMMEDIATE; {sql}; PRAGMA user_version = {number}; COMMIT;"
            )


def backup(source: Path, target: Path) -> None:
    """Copy the database into a file while it may be in use (SQLite's online backup)."""
    if not source.exists():
        raise InputError("Backup", "there is no data yet.", "Start Evtro once.", "backup-empty")
    with sqlite3.connect(source) as live, sqlite3.connect(target) as copy:
        live.backup(copy)
    copy.close()
    live.close()


def restore(source: Path, target: Path) -> None:
    """Put a backup in place of the database, after proving that it is whole.

    Raises InputError when the file is missing, broken or newer than this program.
    """
    if not source.is_file():
        raise InputError(
            "Restore", f"{source} does not exist.", "Name a backup.", "restore-missing"
        )
    try:
        with sqlite3.connect(f"file:{source}?mode=ro", uri=True) as copy:
            whole = copy.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
            tables = {r[0] for r in copy.execute("SELECT name FROM sqlite_master")}
            version = copy.execute("PRAGMA user_version").fetchone()[0]
            if not whole or "job" not in tables or "change" not in tables:
                raise sqlite3.DatabaseError("not a backup")
            if version > _migrations()[-1][0]:
                raise InputError("Restore", "the backup is from a newer Evtro.",
                                 "Use the newer program.", "restore-newer")  # fmt: skip
            target.parent.mkdir(parents=True, exist_ok=True)
            with sqlite3.connect(target) as live:
                copy.backup(live)
            live.close()
        copy.close()
    except sqlite3.DatabaseError as error:
        raise InputError(
            "Restore",
            f"{source} is not a whole Evtro backup.",
            "Choose a file that was written by: evtro backup FILE",
            "restore-wrong",
        ) from error
