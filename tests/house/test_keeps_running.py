"""What the start command began goes on whatever is killed: no take is lost and none is there twice, the page
can be used again without a hand, and nothing is left when it is stopped.
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import signal
import socket
import subprocess
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.error import HTTPError, URLError
from urllib.request import HTTPCookieProcessor, Request, build_opener

import pytest

ROOT = Path(__file__).resolve().parents[2]
TAKES = int(os.environ.get("TAKES", "100"))
USABLE_AGAIN_S = 60.0  # of a loaded machine; README says what a free one takes
STARTS_S = 240.0
ANSWERED_S = 180.0


class Run:
    """``./run demo`` in a folder of its own."""

    def __init__(self, state: Path) -> None:
        with socket.socket() as one:
            one.bind(("127.0.0.1", 0))
            port = one.getsockname()[1]
        self.state, self.url = state, f"http://127.0.0.1:{port}"
        self.said = state / "said"
        kept = {name: os.environ[name] for name in ("PATH", "HOME", "LANG") if name in os.environ}
        with self.said.open("w") as out:
            self.process = subprocess.Popen(
                [str(ROOT / "run"), "demo"],
                env={**kept, "JUNGOPTIC_STATE": str(state), "PORT": str(port)},
                stdout=out,
                stderr=out,
            )

    @property
    def far_home(self) -> Path:
        """Where its database stands when its user cannot reach the folder (tools/database.sh)."""
        name = hashlib.sha256(str(self.state).encode()).hexdigest()[:12]
        return Path(f"/var/tmp/jungoptic-{name}-database")

    def pids(self, *words: str) -> list[int]:
        """The processes of this run whose command holds all the words."""
        found = []
        for one in Path("/proc").iterdir():
            if not one.name.isdigit():
                continue
            try:
                ours = f"JUNGOPTIC_STATE={self.state}".encode() in (one / "environ").read_bytes()
                command = (one / "cmdline").read_bytes().replace(b"\0", b" ").decode()
            except OSError:
                continue
            if ours and command and all(word in command for word in words):
                found.append(int(one.name))
        return sorted(found)

    def parent(self, pid: int) -> int:
        try:
            return int((Path("/proc") / str(pid) / "stat").read_text().rpartition(")")[2].split()[1])
        except OSError:
            return 0

    def is_shell(self, pid: int) -> bool:
        """Whether it is what keeps the others up, or is gone."""
        try:
            return b"keep_up.sh" in (Path("/proc") / str(pid) / "cmdline").read_bytes()
        except OSError:
            return True

    def web(self) -> list[int]:
        return [pid for pid in self.pids("gunicorn", "jungoptic.app.wsgi") if not self.is_shell(pid)]

    def web_server(self) -> list[int]:
        every = self.web()
        return [pid for pid in every if self.parent(pid) not in every]

    def web_processes(self) -> list[int]:
        return sorted(set(self.web()) - set(self.web_server()))

    def workers(self) -> list[int]:
        return [pid for pid in self.pids("procrastinate", "worker") if not self.is_shell(pid)]

    def database(self) -> list[int]:
        return self.pids("bin/postgres -D")

    def log(self) -> str:
        return (self.state / "serve.log").read_text()


class Page:
    """A browser, as far as it asks: signed in, and sending what it has until it is answered."""

    def __init__(self, url: str) -> None:
        self.url = url
        self.cookies = CookieJar()
        self.opener = build_opener(HTTPCookieProcessor(self.cookies))

    def ask(self, method: str, path: str, body: Any = None, **headers: str) -> tuple[int, Any]:
        data = None if body is None else json.dumps(body).encode()
        token = next((one.value for one in self.cookies if one.name == "csrftoken"), "") or ""
        said = {"Content-Type": "application/json", "X-CSRFToken": token, **headers}
        try:
            with self.opener.open(
                Request(self.url + path, data=data, method=method, headers=said), timeout=10
            ) as answer:
                return answer.status, json.loads(answer.read())
        except HTTPError as error:
            return error.code, None
        except (URLError, OSError, ValueError):
            return 0, None

    def until_answered(self, method: str, path: str, body: Any = None, **headers: str) -> Any:
        ends = time.monotonic() + ANSWERED_S
        while True:
            status, answer = self.ask(method, path, body, **headers)
            if 200 <= status < 300:
                return answer
            assert time.monotonic() < ends, f"{method} {path}: not answered, {status}"
            assert status == 0 or status >= 500 or status == 429, f"{method} {path}: {status}"
            time.sleep(0.2)

    def sign_in(self) -> None:
        self.until_answered("GET", "/api/session")
        said = {"username": "supervisor", "password": "tidemill-demo"}
        self.until_answered("POST", "/api/session", said)


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


def killed(run: Run, what: str) -> list[int]:
    """Kill the processes of one kind; all of them there are."""
    kinds = {
        "a web process": lambda: run.web_processes()[:1],
        "the web server": run.web_server,
        "the workers": run.workers,
        "the database": run.database,
        "all at once": lambda: [*run.web(), *run.workers(), *run.database()],
    }
    pids = kinds[what]()
    assert pids, f"{what}: there is none"
    for pid in pids:
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)
    return pids


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
    the_workers_take_up_what_is_asked(run)
    the_log_says_what_died(run)
    it_stops_cleanly(run)
