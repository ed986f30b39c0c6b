"""A connection that drops, delays and repeats: between a browser and the application."""

from __future__ import annotations

import http.client
import random
import socketserver
import threading
import time
from collections import Counter
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import urlsplit

_HOP_BY_HOP = {"connection", "keep-alive", "transfer-encoding", "content-length"}


class Line(ThreadingHTTPServer):
    """On a port of its own; ``bad`` while it does what a bad line does. What it did is counted in ``did``."""

    daemon_threads = True
    request_queue_size = 64

    def __init__(self, to: str, seed: int = 16) -> None:
        super().__init__(("127.0.0.1", 0), _Passing)
        self.host, self.port = urlsplit(to).hostname or "", urlsplit(to).port or 80
        self.url = f"http://127.0.0.1:{self.server_address[1]}"
        self.bad = False
        self.did: Counter[str] = Counter()
        self._chance = random.Random(seed)
        self._lock = threading.Lock()
        threading.Thread(target=self.serve_forever, daemon=True).start()

    def fault(self) -> str:
        """What becomes of the next request."""
        with self._lock:
            kinds = ["pass", "pass", "pass", "lost", "answer lost", "late", "twice"]
            kind = self._chance.choice(kinds) if self.bad else "pass"
            self.did[kind] += 1
            return kind

    def handle_error(self, request: Any, client_address: Any) -> None:
        """A line that breaks says nothing."""


class _Passing(BaseHTTPRequestHandler):
    protocol_version = "HTTP/1.1"
    server: Line

    def log_message(self, format: str, *args: Any) -> None:
        """Nothing is told."""

    def _pass_on(self) -> None:
        body = self.rfile.read(int(self.headers.get("Content-Length") or 0))
        fault = self.server.fault()
        if fault == "lost":
            return self._break()
        if fault == "late":
            time.sleep(0.6)
        try:
            answer = self._ask(body)
            if fault == "twice":
                answer = self._ask(body)
        except (OSError, http.client.HTTPException):
            return self._break()
        if fault == "answer lost":
            return self._break()
        status, headers, content = answer
        self.send_response(status)
        for name, value in headers:
            if name.lower() not in _HOP_BY_HOP:
                self.send_header(name, value)
        self.send_header("Content-Length", str(len(content)))
        self.end_headers()
        self.wfile.write(content)

    def _ask(self, body: bytes) -> tuple[int, list[tuple[str, str]], bytes]:
        line = http.client.HTTPConnection(self.server.host, self.server.port, timeout=30)
        try:
            headers = {name: value for name, value in self.headers.items() if name.lower() != "connection"}
            line.request(self.command, self.path, body or None, headers)
            answer = line.getresponse()
            return answer.status, answer.getheaders(), answer.read()
        finally:
            line.close()

    def _break(self) -> None:
        self.close_connection = True
        socketserver.BaseServer.shutdown_request(self.server, self.request)

    do_GET = do_POST = do_PATCH = do_PUT = do_DELETE = do_HEAD = _pass_on  # noqa: N815
