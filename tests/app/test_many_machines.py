"""Web and worker processes on several machines with one database and one store: whoever is asked answers, and
one that dies stops nobody.
"""

from __future__ import annotations

import io
import json
import time
from contextlib import ExitStack, closing
from http.client import HTTPConnection
from typing import Any

from django.conf import settings
from PIL import Image

from jungoptic.app.files.models import StoredFile
from jungoptic.app.jobs.models import Job
from jungoptic.app.lines import MOST_IDLE
from jungoptic.app.shots.models import Shot
from tests import worker_settings
from tests.processes import Web, kill, web, worker
from tests.sessions import session_of

from .test_jobs import PRINTED_S, is_, wait_for

BOUNDARY = "a-line-between"


def signed_in(machine: Web, username: str) -> Any:
    """How somebody asks a machine; the session was begun at another one."""
    session = session_of(username)

    def ask(method: str, path: str, body: Any = None, kind: str = "application/json") -> tuple[int, Any]:
        token = "t" * 32
        headers = {
            "Cookie": f"{settings.SESSION_COOKIE_NAME}={session}; csrftoken={token}",
            "X-CSRFToken": token,
            "Content-Type": kind,
        }
        data = body if isinstance(body, bytes) or body is None else json.dumps(body).encode()
        status, said, content = machine.ask(method, f"/api{path}", data, **headers)
        return status, json.loads(content) if said["Content-Type"].startswith("application/json") else content

    return ask


def title(ask: Any, shot: Shot) -> str:
    wall = ask("GET", f"/productions/{shot.production_id}/wall")[1]
    return next(str(one["title"]) for one in wall["shots"] if one["id"] == shot.pk)


def drawn() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (320, 180), "#4080a0").save(out, "PNG")
    return out.getvalue()


def form(version: int, picture: bytes) -> bytes:
    head = (
        f'--{BOUNDARY}\r\nContent-Disposition: form-data; name="version"\r\n\r\n{version}\r\n'
        f'--{BOUNDARY}\r\nContent-Disposition: form-data; name="file"; filename="a.png"\r\n'
        "Content-Type: image/png\r\n\r\n"
    )
    return head.encode() + picture + f"\r\n--{BOUNDARY}--\r\n".encode()


def test_two_of_each_on_one_store_and_one_of_each_killed(stored: None):
    shot = Shot.objects.get(code="TM010")
    with web() as first, web() as second, worker("light", "upkeep") as one:
        here, there = signed_in(first, "supervisor"), signed_in(second, "supervisor")
        # what one writes the other has read at once, and sees when it is told an old version
        status, said = here(
            "PATCH", f"/shots/{shot.pk}/line", {"version": shot.version, "changes": {"title": "Dusk"}}
        )
        assert status == 200, said
        assert title(there, shot) == "Dusk"
        status, _ = there(
            "PATCH", f"/shots/{shot.pk}/line", {"version": shot.version, "changes": {"title": "Dawn"}}
        )
        assert status == 409
        # a picture that came in here is seen there
        shot.refresh_from_db()
        kind = f"multipart/form-data; boundary={BOUNDARY}"
        status, board = here("POST", f"/shots/{shot.pk}/board", form(shot.version, drawn()), kind)
        assert status == 200, board
        status, seen = there("GET", f"/boards/{board['id']}.jpg")
        assert status == 200 and Image.open(io.BytesIO(seen)).size == (320, 180)
        # a card asked for here is printed by a worker; that one and a web server
        # are killed, others go on
        shot.refresh_from_db()
        status, asked = here("POST", f"/shots/{shot.pk}/cards", {"version": shot.version})
        assert status == 202, asked
        card = Job.objects.get(pk=asked["id"])
        wait_for(card, lambda job: job.state == "working" and job.progress >= 10, 40)
        with worker("light", "upkeep"):
            kill(one)
            kill(first.process)
            wait_for(card, is_("ready"), 60 / worker_settings.FASTER + PRINTED_S)
        status, seen = there("GET", f"/jobs/{card.pk}")
        assert (status, seen["state"]) == (200, "ready")
        assert there("GET", seen["opens"].removeprefix("/api"))[1].startswith(b"%PDF")
        assert StoredFile.objects.filter(kind="application/pdf").count() == 1
        assert title(there, shot) == "Dusk"


def test_few_idle_lines_are_kept_so_that_the_next_question_goes_to_whoever_is_free(stored: None):
    with web() as machine, ExitStack() as open_lines:
        closed = []
        for _ in range(MOST_IDLE + 3):
            line = open_lines.enter_context(closing(HTTPConnection(machine.url.removeprefix("http://"))))
            line.request("GET", "/health/alive")
            answer = line.getresponse()
            answer.read()
            closed.append(answer.will_close)
            time.sleep(0.1)  # until it is put among those that are kept
    assert closed == [False] * MOST_IDLE + [True] * 3
