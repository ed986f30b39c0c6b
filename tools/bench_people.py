"""Several people at once, measured: eight who drag, and one who solves."""

from __future__ import annotations

import http.client
import json
import os
import socket
import statistics
import subprocess
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

PEOPLE = 8
DRAGS_S = 8.0


def process_of(name: str) -> str:
    """How the start command runs one of its processes, without its being started again."""
    lines = Path("Procfile").read_text().splitlines()
    command = next(line for line in lines if line.startswith(f"{name}: ")).split(": ", 1)[1]
    return command.replace("tools/keep_up.sh ", "")


@contextmanager
def served() -> Iterator[int]:
    """The web server as the start command runs it, on the bench's database; gives its port."""
    from tests.database_url import database_url

    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    environment = {
        **os.environ,
        "DATABASE_URL": database_url(),
        "DJANGO_SETTINGS_MODULE": "jungoptic.app.settings",
        "PORT": str(port),
    }
    server = subprocess.Popen(
        ["sh", "-c", process_of("web")], env={**environment, "JUNGOPTIC_HOST": "127.0.0.1"}
    )
    try:
        while True:
            try:
                socket.create_connection(("127.0.0.1", port), 1).close()
                break
            except OSError:
                time.sleep(0.1)
        yield port
    finally:
        server.terminate()
        server.wait()


def people_numbers() -> None:
    """Eight people dragging on the server as the start command runs it, each as fast as it answers: alone,
    and while a ninth solves.
    """
    from tests.sessions import session_of

    from jungoptic.app.shots.models import Layer, Shot

    shot = Shot.objects.get(code="TM020")
    wheel = Layer.objects.get(shot=shot, name="Wheel 1:8")
    trial = json.dumps({"set_ups": {wheel.set_up_id: {"lens_height_m": 0.31}}, "selected": wheel.pk})
    sessions = [session_of("supervisor") for _ in range(PEOPLE + 1)]

    def ask(port: int, session: str, until: Callable[[], bool], path: str, body: str) -> list[float]:
        line = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
        headers = {
            "Cookie": f"sessionid={session}; csrftoken={'c' * 32}",
            "X-CSRFToken": "c" * 32,
            "Content-Type": "application/json",
        }
        times = []
        while not until():
            begun = time.perf_counter()
            line.request("POST", path, body, headers)
            answer = line.getresponse()
            assert answer.read() and answer.status == 200, answer.status
            times.append(1000 * (time.perf_counter() - begun))
        return times

    def dragged(port: int) -> list[float]:
        ends = time.monotonic() + DRAGS_S
        with ThreadPoolExecutor(PEOPLE) as people:
            drags = [
                people.submit(
                    ask, port, one, lambda: time.monotonic() > ends, f"/api/shots/{shot.pk}/trial", trial
                )
                for one in sessions[:PEOPLE]
            ]
            return [time for drag in drags for time in drag.result()]

    with served() as port:
        dragged(port)  # everything is read once
        alone: list[float] = []
        meanwhile: list[float] = []
        solves: list[float] = []
        for _ in range(4):  # by turns: the machine is not equally quick all the time
            alone += dragged(port)
            over = threading.Event()
            with ThreadPoolExecutor(1) as ninth:
                solving = ninth.submit(
                    ask, port, sessions[-1], over.is_set, f"/api/layers/{wheel.pk}/solve", "{}"
                )
                meanwhile += dragged(port)
                over.set()
                solves += solving.result()
        slowest, slowest_then = (statistics.quantiles(times, n=20)[-1] for times in (alone, meanwhile))
        print(
            f"HTTP: {PEOPLE} people dragging: median {statistics.median(alone):.0f} ms, 95 % {slowest:.0f}"
            f" ms; while one solves (median {statistics.median(solves):.0f} ms)"
            f" {statistics.median(meanwhile):.0f} ms, 95 % {slowest_then:.0f} ms:"
            f" {slowest_then / slowest:.2f} times   aim: 1.5 times"
        )
