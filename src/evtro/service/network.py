"""Open to the network: the passphrase, this machine's certificate, and how a phone comes in."""

from __future__ import annotations

import getpass
import socket
import sys
import threading
from http import HTTPStatus
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

import segno

from evtro.core.units.quantities import InputError

from .access import as_host
from .certificates import ServerIdentity, identity, own_names
from .passphrase import Passphrase

FOLDER = "network"  # keys, certificate and passphrase, inside the data folder


def identity_of(folder: Path, host: str, names: tuple[str, ...]) -> ServerIdentity:
    """The certificate of the addresses that the program is reached by. Raises InputError."""
    return identity(folder / FOLDER, own_names(host, names))


def passphrase_of(folder: Path, file: Path | None) -> Passphrase:
    """The passphrase of the folder: from a file, or asked for at the terminal the first time. Raises
    InputError."""
    kept = Passphrase(folder / FOLDER)
    if file is not None:
        try:
            text = file.read_text("utf-8").strip("\r\n")
        except (OSError, UnicodeDecodeError) as error:
            raise InputError(
                "--passphrase-file",
                f"{file} cannot be read.",
                "Write the passphrase on one line of a text file.",
                "passphrase-file",
            ) from error
        if not kept.matches(text):
            kept.set(text)
    elif not kept.known:
        if not sys.stdin.isatty():
            raise InputError(
                "Passphrase",
                "opening to the network asks for one.",
                "Start it at a terminal, or give --passphrase-file FILE.",
                "passphrase-missing",
            )
        kept.set(_asked_twice())
    return kept


def _asked_twice() -> str:
    print("Other machines will reach your jobs. Set the passphrase that they have to type.")
    first = getpass.getpass("Passphrase: ")
    if getpass.getpass("Once more: ") != first:
        raise InputError("Passphrase", "the two differ.", "Start again.", "passphrase-differs")
    return first


def hand_out(own: ServerIdentity, host: str, port: int, plain_port: int) -> None:
    """Say how a phone comes in, and give it the authority's certificate over plain HTTP: that is
    public, and its fingerprint is compared by eye."""
    kind = _OverSix if ":" in host else ThreadingHTTPServer
    plain = kind((host, plain_port), _certificate_only(own.authority))
    threading.Thread(target=plain.serve_forever, daemon=True).start()
    names = [n for n in own.names if n not in ("localhost", "127.0.0.1", "::1")] or [host]
    first = next((n for n in names if n[:1].isdigit()), names[0])
    page = f"https://{as_host(first)}:{port}/"
    print(f"Open {page} on the phone, over this network (stop with Ctrl+C)", flush=True)
    segno.make(page, error="m").terminal(compact=True)
    print(f"Also at: {', '.join(f'https://{as_host(n)}:{port}/' for n in names)}")
    print(
        f"Once for each phone: http://{as_host(first)}:{plain_port}/ gives the certificate of "
        "this program; install it, and compare its fingerprint (SHA-256):"
    )
    print(f"  {own.fingerprint}", flush=True)


class _OverSix(ThreadingHTTPServer):
    address_family = socket.AF_INET6


def _certificate_only(certificate: bytes) -> type[BaseHTTPRequestHandler]:
    class CertificateOnly(BaseHTTPRequestHandler):
        server_version, sys_version, timeout = "Evtro", "", 10

        def do_GET(self) -> None:
            if self.path not in ("/", "/evtro.crt"):
                self.send_error(HTTPStatus.NOT_FOUND)
                return
            self.send_response(HTTPStatus.OK)
            self.send_header("Content-Type", "application/x-x509-ca-cert")
            self.send_header("Content-Disposition", 'attachment; filename="evtro.crt"')
            self.send_header("X-Content-Type-Options", "nosniff")
            self.send_header("Content-Length", str(len(certificate)))
            self.end_headers()
            self.wfile.write(certificate)

        def log_message(self, format: str, *args: object) -> None:
            return

    return CertificateOnly
