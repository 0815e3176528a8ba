"""The door: which addresses and origins may come in, how large a body may be, who has to say the
passphrase, headers on the way out, and no answer without words, whatever went wrong."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol
from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from .errors import problem_response, refusal_of
from .schemas import Refusal
from .terrain import MOST_TILE_BYTES

MOST_BODY_BYTES = 20_000_000  # of a file
MOST_FORM_BYTES = 200_000  # of anything else
LONGEST_PATH = 2000
TILES = "/api/tiles"  # elevation tiles go to disk piece by piece and may be large
FILES = (
    "/import",
    "/transmitters",
    "/satellites",
    "/beams",
    "/csv",
    "/gpx",
    "/workshop",
    "/photos",
)
LOOPBACK = ("localhost", "127.0.0.1", "[::1]")
SAFE = ("GET", "HEAD", "OPTIONS")
# A page of another site may send these without asking first.
PLAIN_FORMS = ("text/plain", "application/x-www-form-urlencoded", "multipart/form-data")
HEADERS = [
    (b"content-security-policy",
     b"default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; "
     b"frame-ancestors 'none'; form-action 'self'"),
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
    (b"cross-origin-opener-policy", b"same-origin"),
    (b"cross-origin-resource-policy", b"same-origin"),
    (b"permissions-policy", b"geolocation=(self), camera=(self), microphone=()"),
]  # fmt: skip


class Keeper(Protocol):
    """Who may come in from the network."""

    def admits(self, headers: Headers) -> bool:
        """Whether a request carries a session."""


@dataclass(frozen=True)
class AccessRules:
    """Where the program is reached: host names, the port, and over the network who keeps the door."""

    hosts: tuple[str, ...] = ()
    port: int | None = None
    secure: bool = False

    @property
    def addresses(self) -> frozenset[str]:
        """The values of the Host header that are this program's own."""
        usual = self.port in (None, 443 if self.secure else 80)
        names = {h.lower() for h in (*LOOPBACK, *self.hosts)}
        return frozenset(names if usual else {f"{n}:{self.port}" for n in names})


def as_host(name: str) -> str:
    """A name as it stands in an address: IPv6 in brackets."""
    return f"[{name}]" if ":" in name else name


class _TooLarge(Exception):
    pass


class AccessCheck:
    """ASGI middleware before everything else."""

    def __init__(
        self, app: ASGIApp, doors: AccessRules | None = None, keeper: Keeper | None = None
    ) -> None:
        doors = doors or AccessRules()
        self._app, self._keeper = app, keeper
        self._addresses = doors.addresses
        self._scheme = "https" if doors.secure else "http"

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        most = _most(scope["path"])
        started = False

        async def with_headers(message: Message) -> None:
            nonlocal started
            if message["type"] == "http.response.start":
                started = True
                own = [*message.get("headers", []), *HEADERS]
                if scope["path"].startswith("/api"):
                    own.append((b"cache-control", b"no-store"))
                message = {**message, "headers": own}
            await send(message)

        refused = self._refuse(scope, Headers(scope=scope), most)
        if refused is not None:
            await problem_response(refused)(scope, receive, with_headers)
            return
        taken = 0

        async def bounded() -> Message:
            nonlocal taken
            message = await receive()
            taken += len(message.get("body", b""))
            if taken > most:
                raise _TooLarge
            return message

        try:
            await self._app(scope, bounded, with_headers)
        except _TooLarge:
            if not started:
                await problem_response(_too_large(most, scope["path"]))(
                    scope, receive, with_headers
                )
        except Exception as error:
            # Once an answer is on its way nothing can be put in its place.
            if started:
                raise
            await problem_response(refusal_of(error))(scope, receive, with_headers)

    def _refuse(self, scope: Scope, headers: Headers, most: int) -> Refusal | None:
        path, method = scope["path"], scope["method"]
        if headers.get("host", "").lower() not in self._addresses:
            return Refusal(
                title="Unknown host",
                status=400,
                code="host",
                detail="this program answers only to its own address.",
                remedy="Open it by the address that it printed at start.",
            )
        if len(path) > LONGEST_PATH or "\x00" in path:
            return Refusal(
                title="No such address",
                status=404,
                code="address",
                detail="there is nothing at this address.",
                remedy="Go back to Jobs.",
            )
        if method not in SAFE and (foreign := self._foreign(headers)) is not None:
            return foreign
        length = headers.get("content-length", "0")
        if length.isdigit() and len(length) < 20 and int(length) > most:
            return _too_large(most, path)
        if self._keeper is not None and _kept(method, path) and not self._keeper.admits(headers):
            return Refusal(
                title="Passphrase",
                status=401,
                code="passphrase",
                detail="this program is open to the network and asks for its passphrase.",
                remedy="Type the passphrase that was set where Evtro runs.",
            )
        return None

    def _foreign(self, headers: Headers) -> Refusal | None:
        """A write that comes from another site, or may."""
        origin = headers.get("origin")
        media = headers.get("content-type", "").partition(";")[0].strip().lower()
        own = f"{self._scheme}://{headers.get('host', '')}".lower()
        if origin is not None and _origin(origin) != own:
            return Refusal(
                title="From another site",
                status=403,
                code="origin",
                detail="the request comes from another site.",
                remedy="Open the program by its own address.",
            )
        if origin is None and media in PLAIN_FORMS:
            return Refusal(
                title="From where?",
                status=403,
                code="origin",
                detail=f"a body of {media} without an origin may come from another site.",
                remedy="Send application/json, or the file's own media type.",
            )
        return None


def _most(path: str) -> int:
    if path == TILES:
        return MOST_TILE_BYTES
    return MOST_BODY_BYTES if path.endswith(FILES) else MOST_FORM_BYTES


def _kept(method: str, path: str) -> bool:
    """Whether an address is behind the passphrase: the interface itself and the way in are not."""
    return path.startswith("/api") and not (path == "/api/session" and method == "POST")


def _origin(text: str) -> str:
    try:
        parts = urlsplit(text)
        return f"{parts.scheme}://{parts.netloc}".lower()
    except ValueError:
        return ""


def _too_large(most: int, path: str) -> Refusal:
    remedy = "A job file has a few MB at most: this is another file."
    if path.endswith("/photos"):
        remedy = "A photo has a few MB: take it with fewer pixels."
    if most == MOST_FORM_BYTES:
        return Refusal(
            title="Too large",
            status=413,
            code="file-too-large",
            detail=f"it is larger than {most // 1000} kB.",
            remedy="Type less at once.",
        )
    if most > MOST_BODY_BYTES:
        remedy = "Cut it to the region, or leave it where it lies: evtro tile FILE"
    return Refusal(
        title="Too large",
        status=413,
        code="file-too-large",
        field="File",
        detail=f"it is larger than {most // 1_000_000} MB.",
        remedy=remedy,
    )
