"""What the start command began goes on whatever is killed: no take is lost and none is there twice, the page
can be used again without a hand, and nothing is left when it is stopped.
"""

from __future__ import annotations

import os
import shutil
import signal
import subprocess
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path

import pytest

from .started import Page, Run, killed
from .telephones import two_telephones_log_over_a_bad_line

TAKES = int(os.environ.get("TAKES", "100"))
USABLE_AGAIN_S = 60.0  # of a loaded machine; README says what a free one takes
STARTS_S = 240.0


@pytest.fixture
def run(tmp_path: Path) -> Iterator[Run]:
    running = Run(tmp_path)
    try:
        ends = time.monotonic() + STARTS_S
        while not (running.state / "running").exists():
            assert running.process.poll() is None and time.monotonic() < ends, running.said.read_text()
            time.sleep(0.2)
        yield running
    finally:
        running.process.terminate()
        try:
            running.process.wait(30)
        except subprocess.TimeoutExpired:
            running.process.kill()
        for pid in running.pids():
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)
        shutil.rmtree(running.far_home, ignore_errors=True)


def no_take_is_lost_or_doubled(run: Run) -> None:
    page = Page(run.url)
    page.sign_in()
    shot = page.until_answered("GET", "/api/productions")[0]
    wall = page.until_answered("GET", f"/api/productions/{shot['id']}/wall")["shots"]
    log = page.until_answered("GET", f"/api/shots/{wall[0]['id']}/log")
    layers = [one["id"] for one in log["layers"]]
    slow = threading.Semaphore(0)  # takes are logged while it is killed, not all before

    def take(n: int) -> int:
        slow.acquire()
        headers = {"Idempotency-Key": f"take-{n}"}
        body = {"note": f"take {n}", "shown": log["shown"]}
        return int(
            page.until_answered("POST", f"/api/layers/{layers[n % len(layers)]}/takes", body, **headers)["id"]
        )

    with ThreadPoolExecutor(4) as pool:
        answers = [pool.submit(take, n) for n in range(TAKES)]
        back: dict[str, float] = {}
        whats = ["a web process", "the web server", "the workers", "the database", "all at once"]
        try:
            for what in whats:
                slow.release(TAKES // len(whats))
                time.sleep(1.0)
                killed(run, what)
                began = time.monotonic()
                time.sleep(0.3)
                page.until_answered("GET", f"/api/shots/{wall[0]['id']}/bench")
                page.until_answered("GET", f"/api/productions/{shot['id']}/wall")
                back[what] = time.monotonic() - began
        finally:
            slow.release(TAKES)
        ids = [one.result() for one in answers]
    print({what: round(seconds, 1) for what, seconds in back.items()})
    assert max(back.values()) < USABLE_AGAIN_S, back
    assert len(set(ids)) == TAKES
    logged = []
    for layer in layers:
        before = f"?before={2**31 - 1}"
        while True:
            found = page.until_answered("GET", f"/api/layers/{layer}/takes{before}")
            logged += found["takes"]
            if not found["more"]:
                break
            before = f"?before={found['takes'][-1]['number']}"
    notes = sorted(one["note"] for one in logged if one["note"].startswith("take "))
    assert notes == sorted(f"take {n}" for n in range(TAKES))
    for layer in layers:
        numbers = sorted(one["number"] for one in logged if one["layer_id"] == layer)
        assert numbers == list(range(numbers[0], numbers[0] + len(numbers))), "no number is left out"


def the_workers_take_up_what_is_asked(run: Run) -> None:
    page = Page(run.url)
    page.sign_in()
    production = page.until_answered("GET", "/api/productions")[0]["id"]
    shot = page.until_answered("GET", f"/api/productions/{production}/wall")["shots"][0]
    asked = page.until_answered(
        "POST",
        f"/api/shots/{shot['id']}/cards",
        {"version": shot["version"]},
        **{"Idempotency-Key": "a-card"},
    )
    killed(run, "the workers")
    ends = time.monotonic() + 90
    while (job := page.until_answered("GET", f"/api/jobs/{asked['id']}"))["state"] != "ready":
        assert job["state"] in ("waiting", "working") and time.monotonic() < ends, job
        time.sleep(0.5)
    assert page.ask("GET", "/health/ready")[0] == 200


def the_log_says_what_died(run: Run) -> None:
    log = run.log()
    assert "started again in 1 s: gunicorn jungoptic.app.wsgi" in log
    assert "started again in 1 s: python -m jungoptic.app.manage procrastinate worker --queues light" in log
    assert "the database is down: it is started again" in log


def it_stops_cleanly(run: Run) -> None:
    for pid in [*run.web_server(), *run.database()]:
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)
    run.process.terminate()
    assert run.process.wait(30) in (130, 143, -signal.SIGTERM)
    assert "Stopped." in run.said.read_text() and "unbound variable" not in run.said.read_text()
    ends = time.monotonic() + 15
    while run.pids() and time.monotonic() < ends:
        time.sleep(0.2)
    assert run.pids() == []
    assert "the database is down" in run.log() or (run.state / "serve.log.1").exists()


def test_it_goes_on_whatever_is_killed_and_leaves_nothing_when_it_is_stopped(run: Run):
    no_take_is_lost_or_doubled(run)
    two_telephones_log_over_a_bad_line(run)
    the_workers_take_up_what_is_asked(run)
    the_log_says_what_died(run)
    it_stops_cleanly(run)
