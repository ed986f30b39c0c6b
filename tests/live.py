"""The application on a port of its own, and when it has answered everything that it was asked.

A page that is closed leaves what it asked last behind: the server may not even have read it yet.
"""

from __future__ import annotations

import select
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from urllib.request import urlopen

from django.core.servers.basehttp import ThreadedWSGIServer
from django.test.testcases import LiveServerThread, QuietWSGIRequestHandler, _StaticFilesHandler


class Handler(QuietWSGIRequestHandler):
    """Tells the server from when to when a request is being answered; a connection that is kept open is
    none.
    """

    server: CountingServer
    answering = False

    def parse_request(self) -> bool:
        self.answering = True
        self.server.count(1)
        return bool(super().parse_request())

    def handle_one_request(self) -> None:
        try:
            super().handle_one_request()
        finally:
            if self.answering:
                self.answering = False
                self.server.count(-1)


class CountingServer(ThreadedWSGIServer):
    """Knows its connections, and how many requests are being answered."""

    request_queue_size = 128

    def __init__(self, *args: Any, **more: Any) -> None:
        super().__init__(*args, **more)
        self.change = threading.Condition()
        self.answering = 0
        self.connections: set[socket.socket] = set()

    def count(self, by: int) -> None:
        with self.change:
            self.answering += by
            self.change.notify_all()

    def process_request(self, request: Any, client_address: Any) -> None:
        with self.change:
            self.connections.add(request)
        super().process_request(request, client_address)

    def shutdown_request(self, request: Any) -> None:
        """Forgotten before it is closed: what is known while the lock is held is open."""
        with self.change:
            self.connections.discard(request)
        super().shutdown_request(request)

    def is_quiet(self) -> bool:
        """Nothing is being answered, and nothing has come that is still to be read."""
        with self.change:
            return not self.answering and not select.select(list(self.connections), [], [], 0)[0]


class Live(LiveServerThread):
    server_class = CountingServer
    httpd: CountingServer

    @property
    def url(self) -> str:
        return f"http://{self.host}:{self.port}"

    def _create_server(self, connections_override: Any = None) -> CountingServer:
        return self.server_class(
            (self.host, self.port),
            Handler,
            allow_reuse_address=False,
            connections_override=connections_override,
        )

    def wait_until_quiet(self, timeout_s: float, still_s: float = 0.02) -> bool:
        """Wait until nothing is being answered. Every page must be closed before. False after timeout_s."""
        ends = time.monotonic() + timeout_s
        # Connections are taken in the order in which they come: once this one is answered, all earlier ones
        # are known.
        with urlopen(f"{self.url}/api/session", timeout=timeout_s):
            pass
        while time.monotonic() < ends:
            if self.httpd.is_quiet():
                time.sleep(still_s)  # between the socket and the count lies the reading of one line
                if self.httpd.is_quiet():
                    return True
            with self.httpd.change:
                self.httpd.change.wait(still_s)
        return False


@contextmanager
def live() -> Iterator[Live]:
    server = Live("127.0.0.1", _StaticFilesHandler)
    server.daemon = True
    server.start()
    server.is_ready.wait()
    if server.error:
        raise server.error
    try:
        yield server
    finally:
        server.terminate()
