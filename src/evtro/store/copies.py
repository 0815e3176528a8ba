"""A copy of the database as one file, put in place whole, and copies set aside before something is
replaced."""

from __future__ import annotations

import contextlib
import datetime as dt
import os
import shutil
import sqlite3
from pathlib import Path

ASIDE = "aside"
KEPT = 10
LIST = ".files.json"  # beside a copy: the files that it needs
TAILS = ("", "-wal", LIST)


def put_in_place(new: Path, path: Path) -> None:
    """Move a closed file to its place, so that a crash leaves the one or the other."""
    with new.open("rb+") as file:
        os.fsync(file.fileno())
    os.replace(new, path)
    if os.name == "posix":
        folder = os.open(path.parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)


def copy_database(source: Path, target: Path) -> None:
    """Copy a database that may be in use into one file (SQLite's online backup)."""
    part = target.with_name(target.name + ".part")
    part.unlink(missing_ok=True)
    try:
        with (
            contextlib.closing(
                sqlite3.connect(f"{source.resolve().as_uri()}?mode=ro", uri=True)
            ) as live,
            contextlib.closing(sqlite3.connect(part)) as copy,
        ):
            live.backup(copy)
            # Whole in one file: a copy has no log of its own.
            copy.execute("PRAGMA journal_mode = DELETE")
        put_in_place(part, target)
    except BaseException:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)
        raise


def set_aside(source: Path, why: str) -> Path:
    """Keep a dated copy of the database before something replaces it; the last ten stay."""
    aside = source.parent / ASIDE
    aside.mkdir(parents=True, exist_ok=True)
    at = dt.datetime.now(dt.UTC).strftime("%Y%m%dT%H%M%S%fZ")
    target = aside / f"{at}-{why}.sqlite"
    try:
        copy_database(source, target)
    except sqlite3.DatabaseError:
        # Too damaged to be copied page by page: then byte by byte, its log with it.
        for tail in ("", "-wal"):
            one = source.with_name(source.name + tail)
            if one.exists():
                shutil.copyfile(one, target.with_name(target.name + tail))
    thin(aside)
    return target


def thin(folder: Path) -> None:
    """Keep the newest ten copies of a folder, by their names."""
    for old in sorted(folder.glob("*.sqlite"), key=lambda p: p.name)[:-KEPT]:
        for tail in TAILS:
            old.with_name(old.name + tail).unlink(missing_ok=True)
