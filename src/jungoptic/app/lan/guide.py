"""The page, without TLS, that hands out the authority's certificate and says how a telephone trusts it."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable
from html import escape
from pathlib import Path
from string import Template
from typing import Any

from cryptography.hazmat.primitives.serialization import Encoding

from jungoptic.app.lan.authority import fingerprint, read

_PAGE = Template((Path(__file__).parent / "guide.html").read_text())
_HEADERS = [
    ("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'"),
    ("X-Content-Type-Options", "nosniff"),
    ("Referrer-Policy", "no-referrer"),
    ("Cache-Control", "no-store"),
]


def application(environ: dict[str, Any], start: Callable[..., Any]) -> Iterable[bytes]:
    """Its WSGI entry: the page at ``/``, the certificate at ``/authority.crt`` (DER) and ``.pem``."""
    authority = read(Path(os.environ["JUNGOPTIC_AUTHORITY"]))
    path, asks = environ["PATH_INFO"], environ["REQUEST_METHOD"]
    status, kind, body = "404 Not Found", "text/plain", b"Nothing is here: go to the address above it."
    more: list[tuple[str, str]] = []
    if asks not in ("GET", "HEAD"):
        status, body = "405 Method Not Allowed", b"This is only read."
    elif path == "/":
        address = escape(os.environ["JUNGOPTIC_ADDRESS"], quote=True)
        page = _PAGE.substitute(address=address, fingerprint=fingerprint(authority))
        status, kind, body = "200 OK", "text/html; charset=utf-8", page.encode()
    elif path in ("/authority.crt", "/authority.pem"):
        der = path.endswith(".crt")
        status, body = "200 OK", authority.public_bytes(Encoding.DER if der else Encoding.PEM)
        kind = "application/x-x509-ca-cert" if der else "application/x-pem-file"
        more = [("Content-Disposition", f'attachment; filename="jungoptic{path[-4:]}"')]
    start(status, [("Content-Type", kind), ("Content-Length", str(len(body))), *more, *_HEADERS])
    return [b"" if asks == "HEAD" else body]
