"""The data folder and its one owner: a lock that a crash frees, and a note of who holds it."""

from __future__ import annotations

import datetime as dt
import json
import os
from pathlib import Path

from filelock import FileLock, Timeout
from platformdirs import user_data_path

from evtro.core.units.quantities import InputError

FILE_NAME = "evtro.sqlite"
LOCK, NOTE = "evtro.lock", "evtro.owner.json"


class FolderTaken(InputError):
    """Another Evtro holds the data; `address` is where it serves, or empty."""

    def __init__(self, folder: Path, address: str) -> None:
        where = f" at {address}" if address else ""
        super().__init__(
            "Data folder",
            f"an Evtro is running{where} with the data in {folder}.",
            "Do it there, or stop that one first.",
            "folder-taken",
        )
        self.address = address


def data_dir() -> Path:
    """The user's data directory; EVTRO_DATA overrides it."""
    chosen = os.environ.get("EVTRO_DATA")
    return Path(chosen) if chosen else user_data_path("evtro")


class Claim:
    """The data folder as its one owner. `clean` is False when the owner before did not close it."""

    def __init__(self, folder: Path, address: str = "") -> None:
        """Raises FolderTaken, and InputError for a folder that cannot be used."""
        try:
            folder.mkdir(parents=True, exist_ok=True)
            self._lock = FileLock(folder / LOCK)
            self._lock.acquire(timeout=0)
        except Timeout:
            raise FolderTaken(folder, address_of(folder)) from None
        except OSError as error:
            raise InputError(
                "Data folder",
                f"{folder} cannot be used ({error.strerror or error}).",
                "Check the path and the rights on it, or name another with EVTRO_DATA.",
                "folder-wrong",
            ) from error
        self._note = folder / NOTE
        self.folder = folder
        self.clean = not self._note.exists()
        note = {
            "pid": os.getpid(),
            "address": address,
            "since": dt.datetime.now(dt.UTC).isoformat(timespec="seconds"),
        }
        try:
            self._note.write_text(json.dumps(note), "utf-8")
        except OSError as error:
            self._lock.release()
            raise InputError(
                "Data folder",
                f"{folder} cannot be written ({error.strerror}).",
                "Check the rights and the room on the disk.",
                "folder-wrong",
            ) from error

    def release(self) -> None:
        """Give the folder back, all closed."""
        self._note.unlink(missing_ok=True)
        self._lock.release()

    def __enter__(self) -> Claim:
        return self

    def __exit__(self, *_: object) -> None:
        self.release()


def address_of(folder: Path) -> str:
    """Where the Evtro serves that holds the folder, as it noted there; empty when unknown."""
    try:
        note = json.loads((folder / NOTE).read_text("utf-8"))
        return str(note["address"])
    except (OSError, ValueError, KeyError, TypeError):
        return ""
