"""Open to the network: HTTPS by a local authority, a passphrase, named hosts; loopback as before."""

from __future__ import annotations

import datetime as dt
import ipaddress
import os
import socket
import ssl
import stat
import subprocess
import sys
import urllib.error
import urllib.request
from collections.abc import Iterator
from http.cookiejar import CookieJar
from pathlib import Path

import pytest
from argon2 import PasswordHasher
from cryptography import x509
from cryptography.hazmat.primitives import hashes
from fastapi.testclient import TestClient

from evtro.core.units.quantities import InputError
from evtro.service.access import AccessRules
from evtro.service.app import create_app
from evtro.service.certificates import identity, own_names
from evtro.service.passphrase import (
    COOKIE,
    SESSION_S,
    TRIES,
    TRIES_OF_ALL,
    WITHIN_S,
    Passphrase,
    TooManyTries,
)
from evtro.service.serve import Wanted
from tests.server import free_port

pytestmark = pytest.mark.long

WORDS = "gulls over the north jetty"
NOW = dt.datetime(2026, 3, 25, tzinfo=dt.UTC)


def test_the_passphrase_is_kept_as_a_salted_hash(tmp_path: Path) -> None:
    for folder in ("a", "b"):
        Passphrase(tmp_path / folder).set(WORDS)
    texts = [(tmp_path / f / "passphrase.json").read_text() for f in ("a", "b")]
    assert all(WORDS not in t and "argon2id" in t for t in texts)
    assert texts[0] != texts[1]
    assert stat.S_IMODE((tmp_path / "a" / "passphrase.json").stat().st_mode) == 0o600
    assert Passphrase(tmp_path / "a").matches(WORDS)
    assert not Passphrase(tmp_path / "a").matches(WORDS + " ")


@pytest.mark.parametrize("weak", ["", "short", "aaaaaaaaaaaaaa", "x" * 300])
def test_a_weak_passphrase_is_refused(tmp_path: Path, weak: str) -> None:
    with pytest.raises(InputError, match="characters"):
        Passphrase(tmp_path).set(weak)
    assert not Passphrase(tmp_path).known


def test_sessions_end_are_signed_and_go_with_the_passphrase(tmp_path: Path) -> None:
    kept = Passphrase(tmp_path)
    kept.set(WORDS)
    token = kept.open(WORDS, "10.0.0.9", now=1000.0)
    assert token is not None
    assert kept.holds(token, now=1001.0)
    assert Passphrase(tmp_path).holds(token, now=1001.0)  # a restart keeps it
    assert not kept.holds(token, now=1001.0 + SESSION_S)
    until, rest = token.split(".", 1)
    for forged in (f"{int(until) + 9}.{rest}", token[:-1], token + "0", "", ".", "9999999999.."):
        assert not kept.holds(forged, now=1001.0)
    kept.set(WORDS + "!")
    assert not kept.holds(token, now=1001.0)


@pytest.mark.long
def test_tries_are_limited_for_one_and_for_all(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    # Fifty tries, each of which takes a part of a second by intent: here it need not.
    quick = PasswordHasher(time_cost=1, memory_cost=64)
    monkeypatch.setattr("evtro.service.passphrase.PasswordHasher", lambda: quick)
    kept = Passphrase(tmp_path)
    kept.set(WORDS)
    for _ in range(TRIES):
        assert kept.open("wrong", "10.0.0.9", now=0.0) is None
    with pytest.raises(TooManyTries) as told:
        kept.open(WORDS, "10.0.0.9", now=1.0)
    assert 0 < told.value.seconds <= WITHIN_S
    assert kept.open(WORDS, "10.0.0.10", now=1.0)  # somebody else's tries are not mine
    assert kept.open(WORDS, "10.0.0.9", now=WITHIN_S + 1.0)
    for i in range(TRIES_OF_ALL):
        kept.open("wrong", f"10.0.1.{i}", now=2000.0)
    with pytest.raises(TooManyTries):
        kept.open(WORDS, "10.0.2.1", now=2001.0)


@pytest.fixture
def guarded(tmp_path: Path) -> Iterator[TestClient]:
    kept = Passphrase(tmp_path / "network")
    kept.set(WORDS)
    app = create_app(tmp_path, AccessRules(("testserver",), 443, secure=True), passphrase=kept)
    with TestClient(app, base_url="https://testserver") as client:
        yield client


def test_nothing_is_read_or_written_without_the_passphrase(guarded: TestClient) -> None:
    for method, path in (
        ("GET", "/api/jobs"),
        ("GET", "/api/health"),
        ("GET", "/api/openapi.json"),
        ("POST", "/api/jobs"),
        ("GET", "/api/jobs/x/export"),
        ("POST", "/api/tiles"),
        ("DELETE", "/api/session"),
        ("GET", "/api/session"),
    ):
        answer = guarded.request(method, path)
        assert (answer.status_code, answer.json()["code"]) == (401, "passphrase"), path
    assert guarded.get("/").status_code in (200, 503)  # the page that asks for it
    wrong = guarded.post("/api/session", json={"passphrase": "wrong one here"})
    assert (wrong.status_code, wrong.json()["code"]) == (401, "passphrase-wrong")
    right = guarded.post("/api/session", json={"passphrase": WORDS})
    assert right.status_code == 204
    cookie = right.headers["set-cookie"]
    for word in ("HttpOnly", "Secure", "SameSite=strict", "Path=/", COOKIE):
        assert word in cookie
    assert WORDS not in cookie
    assert guarded.get("/api/jobs").status_code == 200
    assert (
        guarded.post(
            "/api/jobs",
            json={"name": "x", "profile": "europe"},
            headers={"origin": "https://testserver"},
        ).status_code
        == 201
    )
    assert (
        guarded.post(
            "/api/jobs",
            json={"name": "x", "profile": "europe"},
            headers={"origin": "http://testserver"},
        ).status_code
        == 403
    )
    assert guarded.delete("/api/session").status_code == 204
    assert guarded.get("/api/jobs").status_code == 401


def test_too_many_tries_are_told_with_the_time_to_wait(guarded: TestClient) -> None:
    codes = [
        guarded.post("/api/session", json={"passphrase": f"wrong {i}"}).status_code
        for i in range(TRIES + 1)
    ]
    assert codes == [401] * TRIES + [429]
    told = guarded.post("/api/session", json={"passphrase": WORDS})
    assert told.status_code == 429
    assert int(told.headers["retry-after"]) > 0
    assert "min" in told.json()["remedy"]


def test_on_loopback_there_is_no_session(client: TestClient) -> None:
    assert client.post("/api/session", json={"passphrase": WORDS}).status_code == 404


@pytest.mark.parametrize(
    ("doors", "host", "let_in"),
    [
        (AccessRules((), 8750), "127.0.0.1:8750", True),
        (AccessRules((), 8750), "localhost:8750", True),
        (AccessRules((), 8750), "[::1]:8750", True),
        (AccessRules((), 8750), "LOCALHOST:8750", True),
        (AccessRules((), 8750), "127.0.0.1", False),
        (AccessRules((), 8750), "127.0.0.1:8751", False),
        (AccessRules((), 8750), "testserver", False),
        (AccessRules((), 8750), "testserver:8750", False),
        (AccessRules(("192.168.1.5",), 8750), "192.168.1.5:8750", True),
        (AccessRules((), 8750), "192.168.1.5:8750", False),
        (AccessRules(("a.example",), 443, secure=True), "a.example", True),
        (AccessRules((), 80), "localhost", True),
        (AccessRules((), 8750), "127.0.0.1:8750@evil.invalid", False),
        (AccessRules((), 8750), "", False),
    ],
)
def test_hosts_are_named_with_their_port(
    tmp_path: Path, doors: AccessRules, host: str, let_in: bool
) -> None:
    client = TestClient(create_app(tmp_path, doors))
    assert client.get("/api/health", headers={"host": host}).status_code == (200 if let_in else 400)


def test_the_certificate_is_of_a_local_authority_for_private_names(tmp_path: Path) -> None:
    """Reference: RFC 5280, checked by the cryptography package's own verifier."""
    names = ("roof", "roof.local", "localhost", "192.168.1.5", "127.0.0.1")
    made = identity(tmp_path, names, NOW)
    root = x509.load_der_x509_certificate(made.authority)
    leaf, chained = x509.load_pem_x509_certificates(made.certificate.read_bytes())
    leaf.verify_directly_issued_by(root)
    assert chained == root
    whose = leaf.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    assert whose.get_values_for_type(x509.DNSName) == ["roof", "roof.local", "localhost"]
    assert ipaddress.ip_address("192.168.1.5") in whose.get_values_for_type(x509.IPAddress)
    limits = root.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees
    assert limits is not None
    allowed = [n.value for n in limits if isinstance(n, x509.IPAddress)]
    assert all(net.is_private or str(net) == "100.64.0.0/10" for net in allowed)
    assert made.fingerprint.replace(":", "").lower() == root.fingerprint(hashes.SHA256()).hex()
    for key in ("authority-key.pem", "server-key.pem"):
        assert stat.S_IMODE((tmp_path / key).stat().st_mode) == 0o600
    again = identity(tmp_path, names, NOW + dt.timedelta(days=200))
    assert again.certificate.read_bytes() == b"".join(
        c.public_bytes(__import__("cryptography").hazmat.primitives.serialization.Encoding.PEM)
        for c in (leaf, root)
    )
    # Renewed by the same authority: phones that trust it go on.
    later = identity(tmp_path, names, NOW + dt.timedelta(days=380))
    assert later.authority == made.authority
    moved = identity(tmp_path, (*names, "10.0.0.7"), NOW + dt.timedelta(days=201))
    assert moved.authority == made.authority


def test_own_names_are_private_and_of_this_machine() -> None:
    names = own_names("0.0.0.0", ("roof.example",))
    assert names[0] == "roof.example"
    assert {"localhost", "127.0.0.1", f"{socket.gethostname().split('.')[0].lower()}.local"} <= set(
        names
    )
    for name in names:
        try:
            address = ipaddress.ip_address(name)
        except ValueError:
            continue
        assert address.is_private or address in ipaddress.ip_network("100.64.0.0/10")
    assert "10.9.8.7" in own_names("10.9.8.7")


@pytest.mark.parametrize(
    ("host", "wide"),
    [
        ("127.0.0.1", False),
        ("localhost", False),
        ("::1", False),
        ("127.4.4.4", False),
        ("0.0.0.0", True),
        ("::", True),
        ("192.168.1.5", True),
        ("roof.local", True),
    ],
)
def test_what_counts_as_open(host: str, wide: bool) -> None:
    assert Wanted(host, 8750).open is wide


def test_a_server_on_the_network_from_end_to_end(tmp_path: Path) -> None:
    """Without a passphrase it does not start; with one a client that trusts its authority comes in over
    HTTPS, and plain HTTP gives the authority's certificate and nothing else."""
    port = free_port()
    words = tmp_path / "words"
    words.write_text(WORDS + "\n")
    call = [sys.executable, "-m", "evtro.cli", "serve", "--host", "0.0.0.0", "--port", str(port)]
    rest: dict[str, object] = {
        "env": {**os.environ, "EVTRO_DATA": str(tmp_path / "data")},
        "text": True,
    }
    refused = subprocess.run(call, stdin=subprocess.DEVNULL, capture_output=True, **rest)  # type: ignore[call-overload]
    assert refused.returncode == 2
    assert "--passphrase-file" in refused.stderr
    server = subprocess.Popen(
        [*call, "--passphrase-file", str(words)], stdout=subprocess.PIPE, **rest
    )  # type: ignore[call-overload]
    try:
        said = ""
        while "fingerprint" not in said:
            line = server.stdout.readline()
            assert line, said
            said += line
        fingerprint = server.stdout.readline().strip()
        assert f"https://127.0.0.1:{port}/" not in said  # a phone has no use for it
        assert WORDS not in said
        assert "█" in said  # the QR code
        plain = f"http://127.0.0.1:{port + 1}"
        data = _patiently(lambda: urllib.request.urlopen(f"{plain}/", timeout=20).read())
        root = x509.load_der_x509_certificate(data)
        assert root.fingerprint(hashes.SHA256()).hex().upper() == fingerprint.replace(":", "")
        for path in ("/api/jobs", "/index.html"):
            with pytest.raises(urllib.error.HTTPError):
                urllib.request.urlopen(plain + path, timeout=20)
        trust = ssl.create_default_context(cadata=data)
        opener = urllib.request.build_opener(
            urllib.request.HTTPSHandler(context=trust),
            urllib.request.HTTPCookieProcessor(CookieJar()),
        )
        at = f"https://127.0.0.1:{port}"
        with pytest.raises(urllib.error.HTTPError, match="401"):
            _patiently(lambda: opener.open(f"{at}/api/jobs", timeout=20))
        body = b'{"passphrase": "%s"}' % WORDS.encode()
        asked = urllib.request.Request(
            f"{at}/api/session", body, {"content-type": "application/json"}
        )
        with opener.open(asked, timeout=20) as answer:
            assert answer.status == 204
        with opener.open(f"{at}/api/jobs", timeout=20) as answer:
            assert answer.status == 200
        with pytest.raises(urllib.error.HTTPError, match="400"):
            opener.open(
                urllib.request.Request(f"{at}/api/jobs", headers={"Host": "127.0.0.1"}), timeout=20
            )
    finally:
        server.terminate()
        server.wait()


def _patiently(call):  # type: ignore[no-untyped-def]
    """The port is bound just after it is printed."""
    for _ in range(3000):
        try:
            return call()
        except urllib.error.HTTPError:
            raise
        except urllib.error.URLError:
            continue
    raise AssertionError("no answer")
