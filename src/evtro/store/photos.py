"""Photographs beside the database, each once, by the hash of what is in it."""

from __future__ import annotations

import hashlib
import sqlite3
import threading
import time
from pathlib import Path

from .copies import put_in_place

FOLDER = "photos"
# What came in within the last day stays: the row that names it may still be on its way.
YOUNG_S = 86_400.0


class Photos:
    """The files of a data folder's photographs. Safe to use from several threads."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder / FOLDER
        self._lock = threading.Lock()

    def put(self, data: bytes) -> str:
        """Keep a file; its hash. Raises OSError."""
        digest = hashlib.sha256(data).hexdigest()
        path = self._path(digest)
        with self._lock:
            if not path.exists():
                path.parent.mkdir(parents=True, exist_ok=True)
                part = path.with_name(path.name + ".part")
                part.write_bytes(data)
                put_in_place(part, path)
        return digest

    def get(self, digest: str) -> bytes | None:
        """A file by its hash; None where it is not here."""
        try:
            return self._path(digest).read_bytes()
        except FileNotFoundError:
            return None

    def tidy(self, used: set[str]) -> int:
        """Remove the files that nothing names any more; how many went."""
        gone = 0
        for path in self._folder.glob("*/*"):
            old = time.time() - path.stat().st_mtime > YOUNG_S
            if old and path.name.partition(".")[0] not in used:
                path.unlink(missing_ok=True)
                gone += 1
        return gone

    def _path(self, digest: str) -> Path:
        return self._folder / digest[:2] / f"{digest}.jpg"


def named(db: sqlite3.Connection) -> set[str]:
    """The hashes that jobs name, or named in what their history can bring back."""
    found = {str(r[0]) for r in db.execute("SELECT DISTINCT sha256 FROM photo")}
    told = db.execute("SELECT diff FROM change WHERE diff LIKE '%sha256%'")
    for (diff,) in told:
        found |= {word for word in str(diff).replace('"', " ").split() if len(word) == 64}
    return found
