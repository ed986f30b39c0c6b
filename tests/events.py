"""The process that tells browsers what happens, as the start command runs it, on the test's database."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from urllib.parse import urlsplit

from django.conf import settings

from tests.database_url import database_url
from tests.processes import free_port

TRUSTED = "https://trusted.example"
STARTS_WITHIN_S = 30.0


@dataclass(frozen=True)
class Events:
    port: int

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"


@contextmanager
def heard_at(page: str, beat_s: float = 15.0) -> Iterator[Events]:
    """Told to pages from the address ``page`` (and from one that is trusted)."""
    events = Events(free_port())
    environment = {
        **os.environ,
        "DATABASE_URL": database_url(),
        "JUNGOPTIC_SECRET_KEY": settings.SECRET_KEY,
        "JUNGOPTIC_PORT": str(urlsplit(page).port),
        "JUNGOPTIC_ORIGINS": TRUSTED,
        "JUNGOPTIC_EVENTS_BEAT_S": str(beat_s),
    }
    command = [
        sys.executable,
        "-m",
        "uvicorn",
        "jungoptic.app.events.asgi:application",
        "--port",
        str(events.port),
    ]
    process = subprocess.Popen([*command, "--lifespan", "off", "--log-level", "error"], env=environment)
    try:
        ends = time.monotonic() + STARTS_WITHIN_S
        while True:
            try:
                socket.create_connection(("127.0.0.1", events.port), 1).close()
                break
            except OSError:
                assert process.poll() is None and time.monotonic() < ends, "the events did not start"
                time.sleep(0.05)
        yield events
    finally:
        process.kill()
        process.wait()
