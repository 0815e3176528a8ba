"""The door: which hosts and origins may come in, how large a body may be, headers on the way out."""

from __future__ import annotations

from urllib.parse import urlsplit

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from .errors import problem_response
from .schemas import Refusal
from .terrain import MOST_TILE_BYTES

MOST_BODY_BYTES = 20_000_000
TILES = "/api/tiles"  # elevation tiles go to disk piece by piece and may be large
LOOPBACK = ("localhost", "127.0.0.1", "[::1]", "testserver")
SAFE = ("GET", "HEAD", "OPTIONS")
HEADERS = [
    (b"content-security-policy",
     b"default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; "
     b"frame-ancestors 'none'; form-action 'self'"),
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
    (b"cross-origin-opener-policy", b"same-origin"),
    (b"cross-origin-resource-policy", b"same-origin"),
    (b"permissions-policy", b"geolocation=(self), camera=(), microphone=()"),
]  # fmt: skip


class _TooLarge(Exception):
    pass


class Door:
    """ASGI middleware before everything else."""

    def __init__(self, app: ASGIApp, hosts: tuple[str, ...] = ()) -> None:
        self._app = app
        self._hosts = {*LOOPBACK, *hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = {k.decode("latin-1"): v.decode("latin-1") for k, v in scope["headers"]}
        most = MOST_TILE_BYTES if scope["path"] == TILES else MOST_BODY_BYTES
        refused = self._refuse(scope["method"], headers, most)

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                own = [*message.get("headers", []), *HEADERS]
                if scope["path"].startswith("/api"):
                    own.append((b"cache-control", b"no-store"))
                message = {**message, "headers": own}
            await send(message)

        if refused is not None:
            await problem_response(refused)(scope, receive, with_headers)
            return
        taken = 0
        started = False

        async def bounded() -> Message:
            nonlocal taken
            message = await receive()
            taken += len(message.get("body", b""))
            if taken > most:
                raise _TooLarge
            return message

        async def noted(message: Message) -> None:
            nonlocal started
            started = True
            await with_headers(message)

        try:
            await self._app(scope, bounded, noted)
        except _TooLarge:
            if not started:
                await problem_response(_too_large(most))(scope, receive, with_headers)

    def _refuse(self, method: str, headers: dict[str, str], most: int) -> Refusal | None:
        host = headers.get("host", "")
        name = host.rsplit(":", 1)[0] if not host.endswith("]") else host
        if name not in self._hosts:
            return Refusal(title="Unknown host", status=400, code="host",
                           detail="this program answers only to its own address.",
                           remedy="Open it by the address that it printed at start.")  # fmt: skip
        origin = headers.get("origin")
        if origin and method not in SAFE and urlsplit(origin).netloc != host:
            return Refusal(title="From another site", status=403, code="origin",
                           detail="the request comes from another site.",
                           remedy="Open the program by its own address.")  # fmt: skip
        length = headers.get("content-length", "0")
        if length.isdigit() and int(length) > most:
            return _too_large(most)
        return None


def _too_large(most: int) -> Refusal:
    remedy = "A job file has a few MB at most: this is another file."
    if most > MOST_BODY_BYTES:
        remedy = "Cut it to the region, or leave it where it lies: evtro tile FILE"
    return Refusal(title="Too large", status=413, code="file-too-large", field="File",
                   detail=f"it is larger than {most // 1_000_000} MB.", remedy=remedy)  # fmt: skip
