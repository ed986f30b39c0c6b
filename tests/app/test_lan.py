"""On the local network: believed by whoever trusts the authority, for local addresses only; nobody comes in
by a password that is printed.
"""

from __future__ import annotations

import io
import json
import os
import socket
import ssl
import stat
import subprocess
import sys
import threading
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path
from typing import Any

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import (
    Encoding,
    NoEncryption,
    PrivateFormat,
    load_pem_private_key,
)
from cryptography.x509.oid import NameOID
from django.core.management import CommandError, call_command
from django.test.utils import override_settings

from jungoptic.app.lan import addresses, guide
from jungoptic.app.lan.authority import Files, LanError, fingerprint, made_ready, read
from jungoptic.app.people.models import Person
from jungoptic.app.people.passwords import PRINTED
from tests.processes import Web, web

from .conftest import Caller

NAMES = ["192.168.1.20", "cart.local", "127.0.0.1", "localhost", "::1"]


def handshake(certificate: Path, key: Path, authority: Path, name: str) -> str:
    """What a client that trusts the authority says when it meets a server of this name; "" when it believes
    it.
    """
    serving = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    serving.load_cert_chain(certificate, key)
    trusting = ssl.create_default_context(cafile=str(authority))
    ours, theirs = socket.socketpair()

    def serve() -> None:
        try:
            with serving.wrap_socket(theirs, server_side=True) as served:
                served.recv(1)
        except OSError:
            theirs.close()

    thread = threading.Thread(target=serve)
    thread.start()
    try:
        with trusting.wrap_socket(ours, server_hostname=name) as met:
            met.send(b".")
        return ""
    except ssl.SSLCertVerificationError as error:
        return str(error.verify_message)
    finally:
        ours.close()
        thread.join()


@pytest.fixture
def files(tmp_path: Path) -> Files:
    return made_ready(tmp_path / "authority", NAMES)


@pytest.mark.parametrize("name", NAMES)
def test_whoever_trusts_the_authority_believes_the_server_by_each_of_its_names(files: Files, name: str):
    assert handshake(files.server, files.server_key, files.authority, name) == ""


@pytest.mark.parametrize("name", ["192.168.1.21", "other.local"])
def test_nobody_believes_it_by_another_name(files: Files, name: str):
    assert "mismatch" in handshake(files.server, files.server_key, files.authority, name)


@pytest.mark.parametrize("name", ["bank.example", "203.0.113.9"])
def test_what_the_authority_signs_for_the_open_internet_is_not_believed(files: Files, name: str):
    """Whoever steals its key cannot pass for a bank on the telephones that trust it."""
    authority, signs = read(files.authority), load_pem_private_key(files.authority_key.read_bytes(), None)
    assert isinstance(signs, ec.EllipticCurvePrivateKey)
    key, now = ec.generate_private_key(ec.SECP256R1()), datetime.now(UTC)
    alternative = x509.DNSName(name) if name[0].isalpha() else x509.IPAddress(ip_address(name))
    stolen = (
        x509.CertificateBuilder()
        .subject_name(x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "stolen")]))
        .issuer_name(authority.subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=9))
        .add_extension(x509.SubjectAlternativeName([alternative]), critical=False)
        .sign(signs, hashes.SHA256())
    )
    certificate, private = files.folder / "stolen.pem", files.folder / "stolen.key"
    certificate.write_bytes(stolen.public_bytes(Encoding.PEM))
    private.write_bytes(key.private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption()))
    assert "permitted subtree violation" in handshake(certificate, private, files.authority, name)


def test_keys_are_nobody_else_s_and_certificates_last_as_long_as_telephones_take(files: Files):
    for key in (files.authority_key, files.server_key):
        assert stat.S_IMODE(key.stat().st_mode) == 0o600
    assert stat.S_IMODE(files.folder.stat().st_mode) == 0o700
    server = read(files.server)
    assert server.not_valid_after_utc - server.not_valid_before_utc <= timedelta(days=397)


def test_the_authority_stays_and_the_server_s_certificate_is_made_anew_when_it_must(files: Files):
    folder, first = files.folder, (files.authority.read_bytes(), files.server.read_bytes())

    def now() -> tuple[bytes, bytes]:
        return files.authority.read_bytes(), files.server.read_bytes()

    made_ready(folder, NAMES)
    assert now() == first
    made_ready(folder, [*NAMES, "10.0.0.7"])
    assert now()[0] == first[0] and now()[1] != first[1]
    assert handshake(files.server, files.server_key, files.authority, "10.0.0.7") == ""
    before = now()
    made_ready(folder, [*NAMES, "10.0.0.7"], datetime.now(UTC) + timedelta(days=380))  # runs out soon
    assert now()[0] == first[0] and now()[1] != before[1]
    before = now()
    files.server_key.write_text("no key")
    made_ready(folder, NAMES)
    assert now()[0] == first[0] and now()[1] != before[1]
    files.authority_key.unlink()  # without its key it can vouch for nothing: all devices begin anew
    made_ready(folder, NAMES)
    assert now()[0] != first[0]
    assert handshake(files.server, files.server_key, files.authority, "localhost") == ""


@pytest.mark.parametrize(
    ("name", "said"),
    [
        ("203.0.113.9", "reverse proxy"),
        ("8.8.8.8", "reverse proxy"),
        ("2001:4860::1", "reverse proxy"),
        ("film.example", "ends in .local"),
        ("local.example", "ends in .local"),
        ("", "ends in .local"),
    ],
)
def test_an_address_of_the_open_internet_is_refused(tmp_path: Path, name: str, said: str):
    with pytest.raises(LanError, match=said):
        made_ready(tmp_path / "authority", [name])
    assert not (tmp_path / "authority").exists()


def test_this_machine_s_own_addresses_are_those_of_local_networks(monkeypatch):
    has = {"192.168.255.254": "192.168.1.20", "10.255.255.254": "203.0.113.9"}
    monkeypatch.setattr(addresses, "_by_which", has.get)
    named = ("cart", [], ["127.0.1.1", "10.1.2.3", "192.168.1.20"])
    monkeypatch.setattr(addresses.socket, "gethostbyname_ex", lambda name: named)
    assert addresses.own_addresses() == ["192.168.1.20", "10.1.2.3"]
    for called, name in (("Cart-2.example", "cart-2.local"), ("no name", None), ("", None)):
        monkeypatch.setattr(addresses.socket, "gethostname", lambda called=called: called)
        assert addresses.own_name() == name


# --- the page that hands it out


def got(path: str, method: str = "GET") -> tuple[str, dict[str, str], bytes]:
    told: list[Any] = []
    body = b"".join(
        guide.application({"PATH_INFO": path, "REQUEST_METHOD": method}, lambda *said: told.extend(said))
    )
    return told[0], dict(told[1]), body


def test_the_guide_hands_out_the_certificate_and_says_what_it_is_worth(files: Files, monkeypatch):
    monkeypatch.setenv("JUNGOPTIC_AUTHORITY", str(files.authority))
    monkeypatch.setenv("JUNGOPTIC_ADDRESS", 'https://192.168.1.20:8000/"><script>')
    status, headers, page = got("/")
    assert status == "200 OK" and fingerprint(read(files.authority)) in page.decode()
    assert b"<script" not in page and "script" not in headers["Content-Security-Policy"]
    assert b"do not log takes like that" in page
    _, headers, der = got("/authority.crt")
    assert headers["Content-Type"] == "application/x-x509-ca-cert"
    assert x509.load_der_x509_certificate(der) == read(files.authority)
    assert x509.load_pem_x509_certificate(got("/authority.pem")[2]) == read(files.authority)
    for path in ("/authority.key", "/../authority.key", "/server.pem"):
        assert got(path)[0] == "404 Not Found"
    assert got("/", "POST")[0] == "405 Method Not Allowed"
    assert got("/", "HEAD")[2] == b""


# --- the application behind it


def ready(folder: Path, *told: str) -> dict[str, str]:
    out = io.StringIO()
    call_command("lan", *told, folder=folder, port="8000", guide_port="8002", stdout=out)
    return dict(line.split("=", 1) for line in out.getvalue().splitlines())


def test_the_demo_is_not_served_to_others_with_its_printed_passwords(production, tmp_path: Path):
    with pytest.raises(CommandError, match="supervisor, camera, runner, stranger still have the password"):
        ready(tmp_path / "authority", "192.168.1.20")
    assert not (tmp_path / "authority").exists()
    out = io.StringIO()
    call_command("new_passwords", stdout=out)
    given = dict(line.split() for line in out.getvalue().splitlines())
    assert set(given) == {"supervisor", "camera", "runner", "stranger"} and len(set(given.values())) == 4
    for username, password in given.items():
        person = Person.objects.get(username=username)
        assert person.check_password(password) and not person.check_password(PRINTED)
    told = ready(tmp_path / "authority", "192.168.1.20")
    assert told["JUNGOPTIC_ADDRESS"] == "https://192.168.1.20:8000/"
    assert told["JUNGOPTIC_HOSTS"].split(",")[0] == "192.168.1.20" and "*" not in told["JUNGOPTIC_HOSTS"]
    with pytest.raises(CommandError, match="reverse proxy"):
        ready(tmp_path / "authority", "203.0.113.9")


def test_beyond_this_machine_the_printed_password_opens_nothing(production):
    client = Caller("supervisor").client
    client.logout()
    body = {"username": "supervisor", "password": PRINTED}
    with override_settings(BEYOND_LOOPBACK=True):
        answer = client.post("/api/session", body, content_type="application/json")
    assert answer.status_code == 422 and "on its own machine only" in answer.json()["problems"][0]["message"]
    assert client.post("/api/session", body, content_type="application/json").status_code == 200


def test_the_page_is_told_where_others_come_in(supervisor: Caller, files: Files):
    assert supervisor("get", "/joining") == (
        200,
        {"address": None, "guide": None, "code": None, "fingerprint": None},
    )
    told = {
        "address": "https://192.168.1.20:8000/",
        "guide": "http://192.168.1.20:8002/",
        "authority": str(files.authority),
    }
    with override_settings(LAN=told):
        seen = supervisor("get", "/joining")[1]
    assert seen["guide"] == told["guide"] and seen["code"].startswith("<svg")
    assert seen["fingerprint"] == fingerprint(read(files.authority))


def test_served_over_tls_its_cookies_go_nowhere_else(stored: None, files: Files):
    with web(
        (files.server, files.server_key),
        files.authority,
        JUNGOPTIC_HTTPS="1",
        JUNGOPTIC_HOSTS="192.168.1.20,127.0.0.1",
        JUNGOPTIC_AUTHORITY=str(files.authority),
        JUNGOPTIC_ADDRESS="https://192.168.1.20:8000/",
        JUNGOPTIC_GUIDE="http://192.168.1.20:8002/",
    ) as served:
        status, headers, _ = served.ask("GET", "/api/session")
        cookie = headers["Set-Cookie"]
        assert status == 200 and "Secure" in cookie and "Strict-Transport-Security" not in headers
        token = cookie.split("csrftoken=")[1].split(";")[0]
        said = json.dumps({"username": "supervisor", "password": PRINTED}).encode()
        own = {"Cookie": f"csrftoken={token}", "X-CSRFToken": token, "Content-Type": "application/json"}
        status, _, body = served.ask("POST", "/api/session", said, Origin=served.url, **own)
        assert status == 422 and b"on its own machine only" in body
        assert served.ask("POST", "/api/session", said, Origin="https://evil.example", **own)[0] == 403
        assert served.ask("GET", "/api/session", Host="evil.example")[0] == 400
        stranger = Web(served.process, served.url, ssl.create_default_context())
        with pytest.raises(OSError, match="CERTIFICATE_VERIFY_FAILED"):
            stranger.ask("GET", "/api/session")


DEPLOYED = {
    "JUNGOPTIC_SECRET_KEY": "a-key-of-fifty-characters-and-more-for-this-test-0123456789",
    "JUNGOPTIC_HTTPS": "1",
}


@pytest.mark.parametrize(("hosts", "kept"), [("film.example", "31536000"), ("192.0.2.7", "0")])
def test_deployed_as_the_guide_says_django_has_nothing_to_say(hosts: str, kept: str):
    environment = {
        **{name: value for name, value in os.environ.items() if name != "DJANGO_ALLOW_ASYNC_UNSAFE"},
        **DEPLOYED,
        "JUNGOPTIC_HOSTS": hosts,
        "DJANGO_SETTINGS_MODULE": "jungoptic.app.settings",
    }
    asks = (
        "from django.conf import settings; print(settings.SECURE_HSTS_SECONDS, settings.SECURE_SSL_REDIRECT)"
    )
    told = subprocess.run(
        [sys.executable, "-c", asks], env=environment, capture_output=True, text=True, check=True
    )
    assert told.stdout.split() == [kept, "True"]
    command = [sys.executable, "-m", "jungoptic.app.manage", "check", "--deploy", "--fail-level", "WARNING"]
    checked = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
    clean = checked.returncode == 0 and "no issues" in checked.stdout
    assert clean if kept != "0" else "security.W004" in checked.stderr, checked.stderr
