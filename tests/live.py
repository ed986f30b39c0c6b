"""The application on a port of its own, and when it has answered everything that it was asked.

A page that is closed leaves what it asked last behind: the server may not even have taken that connection yet.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from urllib.request import urlopen

from django.core.servers.basehttp import ThreadedWSGIServer
from django.test.testcases import LiveServerThread, _StaticFilesHandler


class CountingServer(ThreadedWSGIServer):
    """Counts the connections that are open."""

    request_queue_size = 128

    def __init__(self, *args: object, **more: object) -> None:
        super().__init__(*args, **more)
        self.change = threading.Condition()
        self.open = 0

    def _count(self, by: int) -> None:
        with self.change:
            self.open += by
            self.change.notify_all()

    def process_request(self, request: object, client_address: object) -> None:
        self._count(1)
        super().process_request(request, client_address)

    def process_request_thread(self, request: object, client_address: object) -> None:
        try:
            super().process_request_thread(request, client_address)
        finally:
            self._count(-1)


class Live(LiveServerThread):
    server_class = CountingServer

    @property
    def url(self) -> str:
        return f"http://{self.host}:{self.port}"

    def wait_until_quiet(self, timeout_s: float) -> bool:
        """Wait until no connection is open. Every page must be closed before. False after timeout_s."""
        ends = time.monotonic() + timeout_s
        # Connections are taken in the order in which they come: once this one is answered, all earlier ones are counted.
        with urlopen(f"{self.url}/api/session", timeout=timeout_s):
            pass
        with self.httpd.change:
            return self.httpd.change.wait_for(lambda: self.httpd.open == 0, ends - time.monotonic())


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
