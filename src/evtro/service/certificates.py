"""A local authority and the certificate of this machine's addresses, for HTTPS in the house.

A phone gives a page its service worker, its wake lock and its camera over HTTPS only, and a
passphrase would travel in clear without it. The authority is made once for a data folder; a phone
that trusts it trusts names of this machine and private addresses, and no others (name constraints).
Reference: RFC 5280.
"""

from __future__ import annotations

import datetime as dt
import ipaddress
import socket
from dataclasses import dataclass
from pathlib import Path

import ifaddr
from cryptography import x509
from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from evtro.core.units.quantities import InputError

from .passphrase import keep_secret

AUTHORITY_DAYS, CERTIFICATE_DAYS, RENEW_DAYS = 3650, 397, 30
_PRIVATE = (
    "10.0.0.0/8",
    "172.16.0.0/12",
    "192.168.0.0/16",
    "169.254.0.0/16",
    "127.0.0.0/8",
    "100.64.0.0/10",
    "fc00::/7",
    "fe80::/10",
    "::1/128",
)
_NETS = [ipaddress.ip_network(n) for n in _PRIVATE]


@dataclass(frozen=True)
class ServerIdentity:
    """What the program shows: paths of its certificate and key, the authority's certificate, its
    fingerprint (SHA-256), and the names and addresses that they hold for."""

    certificate: Path
    key: Path
    authority: bytes
    fingerprint: str
    names: tuple[str, ...]


def own_names(host: str, more: tuple[str, ...] = ()) -> tuple[str, ...]:
    """Names and private addresses of this machine that a phone in the house may use; with a host that
    is one address, only that one."""
    machine = socket.gethostname().split(".")[0].lower() or "evtro"
    names = [*more, machine, f"{machine}.local", "localhost"]
    found = {
        str(ip.ip[0] if isinstance(ip.ip, tuple) else ip.ip).partition("%")[0]
        for adapter in ifaddr.get_adapters()
        for ip in adapter.ips
    }
    if host not in ("0.0.0.0", "::"):
        found = {host} if _address(host) else set()
        names = names if _address(host) else [host, *names]
    # An address of one link alone needs the name of the link, which no browser takes.
    found = {a for a in found if not a.startswith(("fe80:", "169.254."))}
    private = sorted(a for a in {*found, "127.0.0.1", "::1"} if _is_private(a))
    return tuple(dict.fromkeys([*names, *private]))


def _address(text: str) -> ipaddress.IPv4Address | ipaddress.IPv6Address | None:
    try:
        return ipaddress.ip_address(text)
    except ValueError:
        return None


def _is_private(text: str) -> bool:
    address = _address(text)
    return address is not None and any(
        address in net for net in _NETS if net.version == address.version
    )


def identity(
    folder: Path, names: tuple[str, ...], now: dt.datetime | None = None
) -> ServerIdentity:
    """The program's certificate for its names, made or renewed where it lacks one of them or ends
    soon. Raises InputError for a name that cannot be certified."""
    now = now or dt.datetime.now(dt.UTC)
    root, root_key = _authority(folder, names, now)
    path, key_path = folder / "server.pem", folder / "server-key.pem"
    if not _still_good(path, key_path, root=root, names=names, now=now):
        key = ec.generate_private_key(ec.SECP256R1())
        keep_secret(key_path, _pem(key))
        made = _sign(root, root_key, key=key, names=names, now=now)
        keep_secret(path, _bytes(made) + _bytes(root))
    return ServerIdentity(
        certificate=path,
        key=key_path,
        authority=root.public_bytes(serialization.Encoding.DER),
        fingerprint=_fingerprint(root),
        names=names,
    )


def _authority(
    folder: Path, names: tuple[str, ...], now: dt.datetime
) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    path, key_path = folder / "authority.pem", folder / "authority-key.pem"
    try:
        root = x509.load_pem_x509_certificate(path.read_bytes())
        key = serialization.load_pem_private_key(key_path.read_bytes(), None)
        if (
            isinstance(key, ec.EllipticCurvePrivateKey)
            and _covers(root, names)
            and _lives(root, now)
        ):
            return root, key
    except (OSError, ValueError):
        pass
    key = ec.generate_private_key(ec.SECP256R1())
    machine = socket.gethostname()[:40] or "this machine"
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Evtro on {machine}"[:64])])
    allowed = [x509.DNSName(n) for n in names if _address(n) is None] + [x509.DNSName("local")]
    try:
        root = (
            _builder(subject, subject, key=key.public_key(), now=now, days=AUTHORITY_DAYS)
            .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
            .add_extension(_usage(signs=True), critical=True)
            .add_extension(
                x509.NameConstraints([*allowed, *(x509.IPAddress(n) for n in _NETS)], None),
                critical=True,
            )
            .add_extension(
                x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False
            )
            .sign(key, hashes.SHA256())
        )
    except ValueError as error:
        raise InputError(
            "--name",
            "a name cannot stand in a certificate.",
            "Use letters, figures, hyphens and dots.",
            "name-wrong",
        ) from error
    keep_secret(key_path, _pem(key))
    keep_secret(path, _bytes(root))
    return root, key


def _sign(
    root: x509.Certificate,
    root_key: ec.EllipticCurvePrivateKey,
    key: ec.EllipticCurvePrivateKey,
    names: tuple[str, ...],
    now: dt.datetime,
) -> x509.Certificate:
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Evtro")])
    whose = [x509.IPAddress(a) if (a := _address(n)) else x509.DNSName(n) for n in names]
    return (
        _builder(subject, root.subject, key=key.public_key(), now=now, days=CERTIFICATE_DAYS)
        .add_extension(x509.SubjectAlternativeName(whose), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_public_key(root_key.public_key()),
            critical=False,
        )
        .sign(root_key, hashes.SHA256())
    )


def _builder(
    subject: x509.Name,
    issuer: x509.Name,
    key: ec.EllipticCurvePublicKey,
    now: dt.datetime,
    days: int,
) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key)
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - dt.timedelta(days=1))
        .not_valid_after(now + dt.timedelta(days=days))
    )


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs,
        key_cert_sign=signs,
        crl_sign=signs,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _covers(root: x509.Certificate, names: tuple[str, ...]) -> bool:
    allowed = root.extensions.get_extension_for_class(x509.NameConstraints).value
    dns = [s.value for s in allowed.permitted_subtrees or () if isinstance(s, x509.DNSName)]
    return all(_address(n) or any(n == d or n.endswith(f".{d}") for d in dns) for n in names)


def _lives(certificate: x509.Certificate, now: dt.datetime) -> bool:
    return certificate.not_valid_after_utc > now + dt.timedelta(days=RENEW_DAYS)


def _still_good(
    path: Path, key_path: Path, root: x509.Certificate, names: tuple[str, ...], now: dt.datetime
) -> bool:
    try:
        made = x509.load_pem_x509_certificate(path.read_bytes())
        made.verify_directly_issued_by(root)
        whose = made.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (OSError, ValueError, TypeError, x509.ExtensionNotFound, InvalidSignature):
        return False
    there = {str(n.value) for n in whose}
    return key_path.is_file() and set(names) <= there and _lives(made, now)


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _bytes(certificate: x509.Certificate) -> bytes:
    return certificate.public_bytes(serialization.Encoding.PEM)


def _fingerprint(certificate: x509.Certificate) -> str:
    plain = certificate.fingerprint(hashes.SHA256()).hex().upper()
    return ":".join(plain[i : i + 2] for i in range(0, len(plain), 2))
