"""Copies of the data: on demand, one a day by itself, and of whatever is replaced.

A copy is the database as one file. Files beside it (elevation tiles) lie once by the hash of their
contents in the folder `files` next to the copies; a list next to each copy names those it needs.
"""

from __future__ import annotations

import contextlib
import datetime as dt
import hashlib
import json
import os
import shutil
import sqlite3
from pathlib import Path

from evtro.core.units.quantities import InputError

from .connection import damage_of, newest_form, require_ours, told
from .copies import ASIDE, LIST, copy_database, put_in_place, set_aside, thin
from .folder import FILE_NAME, Claim

DAILY, FILES = "backups", "files"
BESIDE = ("terrain", "photos")  # folders whose files belong to the data
_PIECE = 1 << 20


def backup(folder: Path, target: Path) -> None:
    """Copy all data while it may be in use (SQLite's online backup). Raises InputError."""
    source = folder / FILE_NAME
    require_ours(source, "Backup")
    if target.exists() and (target.is_dir() or target.samefile(source)):
        raise InputError(
            "Backup", f"{target} cannot be the copy.", "Name another file.", "backup-place"
        )
    with told(target, "Backup"):
        copy_database(source, target)
        listed = _keep_files(folder, target.parent / FILES, target.with_name(target.name + LIST))
        if listed:
            _write(target.with_name(target.name + LIST), json.dumps(listed, indent=1))


def _write(path: Path, text: str) -> None:
    part = path.with_name(path.name + ".part")
    part.write_text(text, "utf-8")
    put_in_place(part, path)


def _keep_files(folder: Path, store: Path, own: Path) -> list[dict[str, object]]:
    """Put every file beside the database into the store by its hash; the list of them."""
    known = {}
    for listing in sorted((*own.parent.glob("*" + LIST), *(folder / DAILY).glob("*" + LIST))):
        for entry in _listed(listing):
            known[entry["path"], entry["bytes"], entry["changed"]] = str(entry["sha256"])
    listed: list[dict[str, object]] = []
    for name in BESIDE:
        for path in sorted(p for p in (folder / name).rglob("*") if p.is_file()):
            about = path.stat()
            key = path.relative_to(folder).as_posix(), about.st_size, about.st_mtime_ns
            digest = known.get(key) or _hash(path)
            kept = store / digest
            if not kept.exists():
                store.mkdir(parents=True, exist_ok=True)
                part = kept.with_name(digest + ".part")
                part.unlink(missing_ok=True)
                shutil.copyfile(path, part)
                put_in_place(part, kept)
            listed.append({"path": key[0], "bytes": key[1], "changed": key[2], "sha256": digest})
    return listed


def _listed(listing: Path) -> list[dict[str, object]]:
    try:
        found = json.loads(listing.read_text("utf-8"))
        return [e for e in found if {"path", "bytes", "changed", "sha256"} <= e.keys()]
    except (OSError, ValueError, AttributeError, TypeError):
        return []


def _hash(path: Path) -> str:
    digest = hashlib.sha256()
    with path.open("rb") as file:
        while piece := file.read(_PIECE):
            digest.update(piece)
    return digest.hexdigest()


def daily(folder: Path, today: dt.date) -> Path | None:
    """The day's own backup, unless it is there already; the last ten stay. Raises OSError and
    sqlite3.Error."""
    target = folder / DAILY / f"evtro-{today.isoformat()}.sqlite"
    if target.exists():
        return None
    target.parent.mkdir(parents=True, exist_ok=True)
    listing = target.with_name(target.name + LIST)
    # The list first: a copy that is there has all that it names.
    listed = _keep_files(folder, target.parent / FILES, listing)
    if listed:
        _write(listing, json.dumps(listed, indent=1))
    copy_database(folder / FILE_NAME, target)
    thin(target.parent)
    _drop_unused(target.parent)
    return target


def copies(folder: Path) -> list[Path]:
    """Daily backups and copies set aside, the newest first."""
    found = [*(folder / DAILY).glob("*.sqlite"), *(folder / ASIDE).glob("*.sqlite")]
    return sorted(found, key=lambda p: p.stat().st_mtime, reverse=True)


def _drop_unused(folder: Path) -> None:
    wanted = {str(e["sha256"]) for listing in folder.glob("*" + LIST) for e in _listed(listing)}
    for kept in (folder / FILES).glob("*"):
        if kept.name not in wanted:
            kept.unlink(missing_ok=True)


def restore(claim: Claim, source: Path) -> Path | None:
    """Put a backup in place of the database, after proving that it is whole; what it replaces is set
    aside, and its path returned. Raises InputError when the copy is missing, broken or newer."""
    seen = require_ours(source, "Restore")
    if seen.form > newest_form():
        raise InputError(
            "Restore",
            "the backup is from a newer Evtro.",
            "Use the newer program.",
            "restore-newer",
        )
    target = claim.folder / FILE_NAME
    if target.exists() and target.samefile(source):
        raise InputError(
            "Restore", f"{source} is the data file itself.", "Name a backup.", "restore-self"
        )
    new = target.with_name(target.name + ".new")
    with told(source, "Restore"):
        copy_database(source, new)
        with contextlib.closing(sqlite3.connect(new)) as copy:
            if damage_of(copy):
                new.unlink(missing_ok=True)
                raise InputError(
                    "Restore",
                    f"{source} is not a whole Evtro backup.",
                    f"Choose another, or save what can be read of it with: evtro recover {source}",
                    "restore-wrong",
                )
    with told(target, "Restore"):
        _return_files(claim.folder, source)
        aside = _give_way(target)
        put_in_place(new, target)
    return aside


def _give_way(target: Path) -> Path | None:
    """Set the present file aside and fold its log into it: the log must not meet the new file."""
    if not target.exists():
        return None
    aside = set_aside(target, "before-restore")
    try:
        with contextlib.closing(sqlite3.connect(target)) as old:
            old.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    except sqlite3.Error:
        pass  # a broken file is about to be replaced
    for tail in ("-wal", "-shm"):
        target.with_name(target.name + tail).unlink(missing_ok=True)
    return aside


def _return_files(folder: Path, source: Path) -> None:
    """Bring back the files that a copy names and that are not there."""
    for entry in _listed(source.with_name(source.name + LIST)):
        target = (folder / str(entry["path"])).resolve()
        kept = source.parent / FILES / str(entry["sha256"])
        inside = any((folder / name).resolve() in target.parents for name in BESIDE)
        if inside and kept.is_file() and not target.exists():
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.copyfile(kept, target)
            os.utime(target, ns=(int(str(entry["changed"])), int(str(entry["changed"]))))
