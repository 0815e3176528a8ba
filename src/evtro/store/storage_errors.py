"""What SQLite and the disk answer when something cannot be read or kept, in the trade's words."""

from __future__ import annotations

import errno
import sqlite3
from dataclasses import dataclass

_FULL = "Free some space on the disk, then try again. What was kept before is safe."


@dataclass(frozen=True)
class StorageError:
    """Why something was not read or kept. `passing`: the same may succeed a moment later."""

    code: str
    title: str
    reason: str
    remedy: str
    passing: bool = False


DISK_FULL = StorageError(
    "disk-full", "The disk is full", "there is no room left for it, so it was not kept.", _FULL
)
READ_ONLY = StorageError(
    "read-only",
    "The data cannot be written",
    "the data file or its folder is read-only, so it was not kept.",
    "Give this user the right to write there, then try again.",
)
BUSY = StorageError(
    "busy",
    "The data file is held",
    "another program holds the data file locked, so it was not kept.",
    "Close that program, then try again.",
    passing=True,
)
DAMAGED = StorageError("damaged", "The data file is damaged",
                  "a part of the data file cannot be read.",
                  "Stop Evtro, then save what can be read: evtro recover FILE, or put a backup in "
                  "place: evtro restore FILE.")  # fmt: skip
DISK_FAULT = StorageError("disk-fault", "The disk does not answer",
                     "the disk refused to read or write, so it was not kept.",
                     "Look whether the drive is still connected, then try again.",
                     passing=True)  # fmt: skip
NOT_OPENED = StorageError(
    "not-opened",
    "The data file cannot be opened",
    "the path leads to no file that can be opened.",
    "Check the path, and the rights on it and its folder.",
)

_BY_SQLITE = {
    sqlite3.SQLITE_FULL: DISK_FULL,
    sqlite3.SQLITE_READONLY: READ_ONLY,
    sqlite3.SQLITE_PERM: READ_ONLY,
    sqlite3.SQLITE_BUSY: BUSY,
    sqlite3.SQLITE_LOCKED: BUSY,
    sqlite3.SQLITE_PROTOCOL: BUSY,
    sqlite3.SQLITE_CORRUPT: DAMAGED,
    sqlite3.SQLITE_NOTADB: DAMAGED,
    sqlite3.SQLITE_IOERR: DISK_FAULT,
    sqlite3.SQLITE_CANTOPEN: NOT_OPENED,
}
_BY_DISK = {
    errno.ENOSPC: DISK_FULL,
    errno.EDQUOT: DISK_FULL,
    errno.EFBIG: DISK_FULL,
    errno.EROFS: READ_ONLY,
    errno.EACCES: READ_ONLY,
    errno.EPERM: READ_ONLY,
    errno.EIO: DISK_FAULT,
}


def trouble_of(error: BaseException) -> StorageError | None:
    """The trouble behind an error of SQLite or of the disk; None for any other error."""
    if isinstance(error, sqlite3.Error):
        code = getattr(error, "sqlite_errorcode", None)
        if code is None:
            return None
        # A write past the size that a file may have is an input and output error to SQLite.
        if code == sqlite3.SQLITE_IOERR_WRITE:
            return DISK_FULL
        return _BY_SQLITE.get(code & 0xFF)
    if isinstance(error, OSError):
        return _BY_DISK.get(error.errno or 0)
    return None
