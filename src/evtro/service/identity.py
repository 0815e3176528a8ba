"""Which program, catalogue and profiles work a job out: what is kept of an answer names them."""

from __future__ import annotations

import hashlib
from functools import cache
from importlib import resources
from importlib.resources.abc import Traversable

from evtro import __version__

_ROOMS = ("core", "catalogue", "profiles")
_ENDS = (".py", ".toml")


@cache
def program_identity() -> str:
    """Version and a hash over all that computes: another line of it gives another name."""
    digest = hashlib.sha256(__version__.encode())
    for room in _ROOMS:
        for name, file in sorted(_files(resources.files("evtro").joinpath(room), room)):
            digest.update(name.encode())
            digest.update(file.read_bytes())
    return digest.hexdigest()[:32]


def _files(folder: Traversable, name: str) -> list[tuple[str, Traversable]]:
    found: list[tuple[str, Traversable]] = []
    for entry in folder.iterdir():
        if entry.is_dir():
            found += _files(entry, f"{name}/{entry.name}")
        elif entry.name.endswith(_ENDS):
            found.append((f"{name}/{entry.name}", entry))
    return found
