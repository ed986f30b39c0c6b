"""A certificate authority of this machine's own, and the certificate that its server shows.

X.509 by RFC 5280. The authority vouches for addresses of local networks only (name constraints, 4.2.1.10), so
that a telephone that trusts it trusts nothing else by it.
"""

from __future__ import annotations

import os
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from ipaddress import IPv4Address, IPv6Address, ip_address, ip_network
from pathlib import Path
from typing import Any

from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import (
    Encoding,
    NoEncryption,
    PrivateFormat,
    load_pem_private_key,
)
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

Address = IPv4Address | IPv6Address
# RFC 1918, 3927, 6598, 4193, 4291, and 5737's examples, which are nobody's.
LOCAL = tuple(
    map(
        ip_network,
        (
            "127.0.0.0/8",
            "10.0.0.0/8",
            "172.16.0.0/12",
            "192.168.0.0/16",
            "169.254.0.0/16",
            "100.64.0.0/10",
            "192.0.2.0/24",
            "::1/128",
            "fc00::/7",
            "fe80::/10",
        ),
    )
)
LOCAL_NAMES = ("localhost", "local", "home.arpa")  # RFC 6761, 6762, 8375
AUTHORITY_YEARS = 10
SERVER_DAYS = 397  # 398 at most: CA/Browser Forum, Baseline Requirements 6.3.2 (from memory)
RENEWED_BEFORE = timedelta(days=30)
_EARLIER = timedelta(days=1)  # a telephone's clock may be behind


class LanError(Exception):
    """What is wrong, in a sentence that says what to do."""


@dataclass(frozen=True)
class Files:
    """Where the authority and the server's certificate lie."""

    folder: Path

    @property
    def authority(self) -> Path:
        return self.folder / "authority.pem"

    @property
    def authority_key(self) -> Path:
        return self.folder / "authority.key"

    @property
    def server(self) -> Path:
        """The server's certificate and the authority's behind it."""
        return self.folder / "server.pem"

    @property
    def server_key(self) -> Path:
        return self.folder / "server.key"


def is_local(address: Address) -> bool:
    """Whether the authority may vouch for an address."""
    return any(address in network for network in LOCAL if network.version == address.version)


def fingerprint(certificate: x509.Certificate) -> str:
    """SHA-256 of it in pairs, as devices show it, eight pairs together."""
    whole = certificate.fingerprint(hashes.SHA256())
    return " ".join(whole[at : at + 8].hex(":").upper() for at in range(0, len(whole), 8))


def read(path: Path) -> x509.Certificate:
    """The first certificate of a file."""
    return x509.load_pem_x509_certificate(path.read_bytes())


def made_ready(folder: Path, names: Sequence[str], now: datetime | None = None) -> Files:
    """Files with which a server is believed at these addresses and names; made where they are missing, do not
    fit, or run out soon. The authority stays: what trusts it trusts on. Raises LanError.
    """
    now = now or datetime.now(UTC)
    files = Files(folder)
    for name in names:
        _refuse_strange(name)
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    if not _stands(files.authority, files.authority_key, now):
        _make_authority(files, now)
        files.server.unlink(missing_ok=True)
    if not _stands(files.server, files.server_key, now) or _names_of(read(files.server)) != set(names):
        _make_server(files, names, now)
    return files


def _refuse_strange(name: str) -> None:
    address = _as_address(name)
    if address is not None and not is_local(address):
        raise LanError(
            f"{name} is no address of a local network. For an address that the whole world reaches, put the"
            " application behind a reverse proxy: docs/deploy.md says how."
        )
    if address is None and not any(name == one or name.endswith(f".{one}") for one in LOCAL_NAMES):
        raise LanError(f"{name} is neither an address nor a name that ends in .local.")


def _as_address(name: str) -> Address | None:
    try:
        return ip_address(name)
    except ValueError:
        return None


def _stands(certificate: Path, key: Path, now: datetime) -> bool:
    """Whether both are there, belong together, and last a while."""
    try:
        found = read(certificate)
        private = load_pem_private_key(key.read_bytes(), None)
    except (OSError, ValueError):
        return False
    return (
        found.public_key() == private.public_key()
        and found.not_valid_before_utc <= now < found.not_valid_after_utc - RENEWED_BEFORE
    )


def _names_of(certificate: x509.Certificate) -> set[str]:
    named = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return {str(one) for kind in (x509.DNSName, x509.IPAddress) for one in named.get_values_for_type(kind)}


def _begun(
    subject: str, key: ec.EllipticCurvePrivateKey, now: datetime, lasts: timedelta
) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, subject)]))
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - _EARLIER)
        .not_valid_after(now + lasts)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
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


def _make_authority(files: Files, now: datetime) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    named = f"Jungoptic on this machine, {now:%Y-%m-%d}"
    permitted: list[x509.GeneralName] = [x509.IPAddress(network) for network in LOCAL]
    permitted += [x509.DNSName(name) for name in LOCAL_NAMES]
    certificate = (
        _begun(named, key, now, timedelta(days=365 * AUTHORITY_YEARS))
        .issuer_name(x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, named)]))
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(x509.NameConstraints(permitted, None), critical=True)
        .sign(key, hashes.SHA256())
    )
    _keep(files.authority_key, _plain(key))
    _keep(files.authority, certificate.public_bytes(Encoding.PEM), 0o644)


def _make_server(files: Files, names: Sequence[str], now: datetime) -> None:
    authority = read(files.authority)
    its_key: Any = authority.public_key()
    signs = load_pem_private_key(files.authority_key.read_bytes(), None)
    assert isinstance(signs, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    lasts = min(timedelta(days=SERVER_DAYS), authority.not_valid_after_utc - now)
    addresses = {name: _as_address(name) for name in names}
    certificate = (
        _begun("Jungoptic", key, now, lasts - _EARLIER)
        .issuer_name(authority.subject)
        .add_extension(
            x509.SubjectAlternativeName(
                [
                    x509.IPAddress(address) if address else x509.DNSName(name)
                    for name, address in addresses.items()
                ]
            ),
            critical=False,
        )
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(its_key), critical=False)
        .sign(signs, hashes.SHA256())
    )
    both = certificate.public_bytes(Encoding.PEM) + authority.public_bytes(Encoding.PEM)
    _keep(files.server_key, _plain(key))
    _keep(files.server, both, 0o644)


def _plain(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption())


def _keep(path: Path, data: bytes, mode: int = 0o600) -> None:
    """Whole or not at all, and never readable to others in between."""
    part = path.with_suffix(".part")
    with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, mode), "wb") as file:
        file.write(data)
    part.replace(path)
