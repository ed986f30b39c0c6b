"""``./run demo`` in a folder of its own, who asks it, and what is killed of it."""

from __future__ import annotations

import hashlib
import json
import os
import signal
import socket
import subprocess
import time
from contextlib import suppress
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.error import HTTPError, URLError
from urllib.request import HTTPCookieProcessor, Request, build_opener

ROOT = Path(__file__).resolve().parents[2]
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
