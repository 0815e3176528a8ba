"""The passphrase of a program that is open to the network: kept as a salted hash, tries limited,
sessions as signed cookies."""

from __future__ import annotations

import hashlib
import hmac
import json
import secrets
import threading
import time
from collections import deque
from http.cookies import CookieError, SimpleCookie
from pathlib import Path

from argon2 import PasswordHasher
from argon2.exceptions import Argon2Error, InvalidHashError
from starlette.datastructures import Headers

from evtro.core.units.quantities import InputError

LEAST, MOST = 10, 200  # characters
COOKIE = "__Host-evtro"  # a browser keeps it only over HTTPS and for this host alone
SESSION_S = 30 * 86_400
# Tries that failed within the time: from one address, and from all of them together.
TRIES, TRIES_OF_ALL, WITHIN_S = 5, 40, 900
FILE = "passphrase.json"


class TooManyTries(Exception):
    """Wait before the next try; `seconds` from now."""

    def __init__(self, seconds: int) -> None:
        super().__init__(seconds)
        self.seconds = seconds


def check_strength(text: str) -> None:
    """Raise InputError for a passphrase that is guessed at once."""
    if not LEAST <= len(text) <= MOST or len(set(text)) < 5:
        raise InputError(
            "Passphrase",
            f"it is not between {LEAST} and {MOST} characters, or has "
            "fewer than five different ones.",
            "Take four words that do not belong together.",
            "passphrase-weak",
        )


class Passphrase:
    """The one passphrase of a data folder, and the sessions that it opened."""

    def __init__(self, folder: Path) -> None:
        """Raises InputError for a file that is there and cannot be read."""
        self._path = folder / FILE
        self._hasher = PasswordHasher()
        self._lock = threading.Lock()
        self._failed: dict[str, deque[float]] = {}
        self._hash, self._key = "", b""
        try:
            kept = json.loads(self._path.read_text("utf-8"))
            self._hash, self._key = str(kept["hash"]), bytes.fromhex(kept["key"])
        except FileNotFoundError:
            pass
        except (OSError, ValueError, KeyError, TypeError) as error:
            raise InputError(
                "Passphrase",
                f"{self._path} cannot be read.",
                "Remove it and set the passphrase anew.",
                "passphrase-file",
            ) from error

    @property
    def known(self) -> bool:
        """Whether a passphrase is set."""
        return bool(self._hash)

    def set(self, text: str) -> None:
        """Set the passphrase; every session that the old one opened ends. Raises InputError."""
        check_strength(text)
        self._hash, self._key = self._hasher.hash(text), secrets.token_bytes(32)
        keep_secret(self._path, json.dumps({"hash": self._hash, "key": self._key.hex()}).encode())

    def open(self, text: str, address: str, now: float | None = None) -> str | None:
        """A new session's token for the right passphrase, None for a wrong one. Raises TooManyTries.

        One try at a time: each takes 64 MB and a part of a second, and many at once would hold up
        everybody."""
        now = time.time() if now is None else now
        with self._lock:
            self._wait(address, now)
            try:
                right = len(text) <= MOST and self._hasher.verify(self._hash, text)
            except (Argon2Error, InvalidHashError):
                right = False
            if not right:
                self._failed.setdefault(address, deque()).append(now)
                return None
            self._failed.pop(address, None)
        body = f"{int(now) + SESSION_S}.{secrets.token_urlsafe(18)}"
        return f"{body}.{self._sign(body)}"

    def _wait(self, address: str, now: float) -> None:
        for key in list(self._failed):
            line = self._failed[key]
            while line and line[0] <= now - WITHIN_S:
                line.popleft()
            if not line:
                del self._failed[key]
        mine = self._failed.get(address, deque())
        if len(mine) >= TRIES:
            raise TooManyTries(int(mine[0] + WITHIN_S - now) + 1)
        if sum(map(len, self._failed.values())) >= TRIES_OF_ALL:
            oldest = min(line[0] for line in self._failed.values())
            raise TooManyTries(int(oldest + WITHIN_S - now) + 1)

    def _sign(self, body: str) -> str:
        return hmac.new(self._key, body.encode(), hashlib.sha256).hexdigest()

    def matches(self, text: str) -> bool:
        """Whether it is the passphrase, for whoever sits at the machine."""
        try:
            return self.known and self._hasher.verify(self._hash, text)
        except (Argon2Error, InvalidHashError):
            return False

    def holds(self, token: str, now: float | None = None) -> bool:
        """Whether a token is of a session that still runs."""
        body, _, signature = token.rpartition(".")
        if not self._key or not hmac.compare_digest(self._sign(body).encode(), signature.encode()):
            return False
        until = body.partition(".")[0]
        return until.isdigit() and int(until) > (time.time() if now is None else now)

    def admits(self, headers: Headers) -> bool:
        """Whether a request carries a session."""
        try:
            cookie = SimpleCookie(headers.get("cookie", "")).get(COOKIE)
        except CookieError:
            return False
        return cookie is not None and self.holds(cookie.value)


def keep_secret(path: Path, data: bytes) -> None:
    """Write a file that only this user may read."""
    path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    part = path.with_name(path.name + ".part")
    part.unlink(missing_ok=True)
    part.touch(mode=0o600)
    part.write_bytes(data)
    part.replace(path)
