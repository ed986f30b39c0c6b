"""The application's own processes, as the start command runs them, on the test's database and files."""

from __future__ import annotations

import os
import signal
import socket
import ssl
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator, Mapping
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from django.conf import settings

from tests.database_url import database_url

ROOT = Path(__file__).resolve().parents[1]
STARTS_WITHIN_S = 60.0


def free_port() -> int:
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        return int(one.getsockname()[1])


def environment(**more: str) -> dict[str, str]:
    return {
        **os.environ,
        "DATABASE_URL": database_url(),
        "JUNGOPTIC_FILES": settings.STORAGES["default"]["OPTIONS"]["location"],
        "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}",
        **more,
    }


@contextmanager
def running(command: list[str], **more: str) -> Iterator[subprocess.Popen[bytes]]:
    process = subprocess.Popen(
        [sys.executable, "-m", *command],
        env=environment(**more),
        cwd=ROOT,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )
    try:
        yield process
    finally:
        process.terminate()  # a web server ends its own workers with it
        with suppress(subprocess.TimeoutExpired):
            process.wait(5)
        kill(process)


def kill(process: subprocess.Popen[bytes]) -> None:
    """As when a machine loses its power: the process and all that it started are gone at once."""
    with suppress(ProcessLookupError):
        os.killpg(process.pid, signal.SIGKILL)
    process.wait()


@contextmanager
def worker(*queues: str) -> Iterator[subprocess.Popen[bytes]]:
    """A worker with the tests' own kinds of jobs besides."""
    work = ["procrastinate", "worker", "--queues", ",".join(queues), "--concurrency", "2"]
    with running(["jungoptic.app.manage", *work], DJANGO_SETTINGS_MODULE="tests.worker_settings") as process:
        yield process


@dataclass(frozen=True)
class Web:
    """A web server of the application's, and somebody who may be signed in at it."""

    process: subprocess.Popen[bytes]
    url: str
    context: ssl.SSLContext | None

    def ask(
        self, method: str, path: str, body: bytes | None = None, **headers: str
    ) -> tuple[int, Mapping[str, Any], bytes]:
        """Status, headers, content. Raises OSError where nobody answers."""
        asked = urllib.request.Request(f"{self.url}{path}", body, headers, method=method)
        try:
            with urllib.request.urlopen(asked, timeout=30, context=self.context) as answer:
                return answer.status, answer.headers, answer.read()
        except urllib.error.HTTPError as error:
            return error.code, error.headers, error.read()

    def wait(self) -> None:
        ends = time.monotonic() + STARTS_WITHIN_S
        while True:
            try:
                self.ask("GET", "/api/session")
                return
            except OSError:
                assert self.process.poll() is None and time.monotonic() < ends, "the web server did not start"
                time.sleep(0.1)


@contextmanager
def web(
    certificate: tuple[Path, Path] | None = None,
    authority: Path | None = None,
    port: int | None = None,
    **more: str,
) -> Iterator[Web]:
    """A web server on a port of its own, or on this one; over TLS with a certificate and its key, trusted by
    ``authority``.
    """
    port = port or free_port()
    command = ["gunicorn", "jungoptic.app.wsgi", "--config", "python:jungoptic.app.lines"]
    command += ["--bind", f"127.0.0.1:{port}", "--threads", "4"]
    if certificate:
        command += ["--certfile", str(certificate[0]), "--keyfile", str(certificate[1])]
    context = ssl.create_default_context(cafile=str(authority)) if authority else None
    more = {
        "DJANGO_SETTINGS_MODULE": "jungoptic.app.settings",
        "JUNGOPTIC_SECRET_KEY": settings.SECRET_KEY,
        **more,
    }
    with running([*command, "--worker-class", "gthread"], **more) as process:
        found = Web(process, f"{'https' if certificate else 'http'}://127.0.0.1:{port}", context)
        found.wait()
        yield found
