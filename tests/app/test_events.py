"""What happens reaches the browsers that look, from a process of its own, and nobody else."""

from __future__ import annotations

import http.client
import json
import threading
import time
from collections.abc import Iterator
from queue import Empty, Queue
from typing import Any

import pytest
from django.conf import settings

from jungoptic.app.people.models import Person
from jungoptic.app.productions import people
from jungoptic.app.productions.models import Membership, Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.models import Shot
from tests.events import Events, heard_at
from tests.sessions import session_of

from .conftest import Caller, a_key

TOLD_WITHIN_S = 1.0
LISTENS_WITHIN_S = 40.0
PAGE = "http://127.0.0.1:8000"


class Window:
    """A browser's window that listens to a production."""

    def __init__(self, events: Events, username: str, production_id: int, origin: str = PAGE) -> None:
        self.told: Queue[dict[str, Any] | None] = Queue()
        self.connection = http.client.HTTPConnection("127.0.0.1", events.port, timeout=20)
        headers = {
            "Cookie": f"{settings.SESSION_COOKIE_NAME}={session_of(username) if username else 'none'}",
            "Origin": origin,
        }
        self.connection.request("GET", f"/events/{production_id}", headers=headers)
        self.answer = self.connection.getresponse()
        if self.answer.status == 200:
            threading.Thread(target=self._read, daemon=True).start()

    def _read(self) -> None:
        event = ""
        try:
            for line in self.answer:
                name, _, value = line.decode().strip().partition(": ")
                if name == "event":
                    event = value
                elif name == "data":
                    self.told.put({"event": event} if event else json.loads(value))
                    event = ""
        except (OSError, http.client.HTTPException, ValueError):
            pass
        self.told.put(None)

    def next(self, within_s: float = 5.0) -> dict[str, Any] | None:
        return self.told.get(timeout=within_s)

    def listens(self) -> None:
        """Wait until nothing is missed any more: the process has only begun, on a busy machine."""
        assert self.answer.status == 200
        assert self.next(LISTENS_WITHIN_S) == {"event": "listening"}

    def close(self) -> None:
        self.connection.sock and self.connection.sock.close()


@pytest.fixture
def events(stored: None) -> Iterator[Events]:
    with heard_at(PAGE) as running:
        yield running


@pytest.fixture
def production(stored: None) -> Production:
    return Production.objects.get(slug="the-tidemill")


def test_what_is_written_and_done_is_told_within_a_second(events: Events, production: Production):
    windows = [Window(events, name, production.pk) for name in ("supervisor", "runner")]
    for window in windows:
        assert window.answer.getheader("Content-Type") == "text/event-stream"
        assert window.answer.getheader("Access-Control-Allow-Origin") == PAGE
        window.listens()
    shot = Shot.objects.get(code="TM010")
    began = time.monotonic()
    assert (
        Caller("supervisor")("patch", f"/shots/{shot.pk}/line", {"changes": {"title": "Other"}}, key=a_key())[
            0
        ]
        == 200
    )
    for window in windows:
        told = window.next(TOLD_WITHIN_S)
        assert told and told["shot"] == shot.pk and told["write"]
    assert time.monotonic() - began < TOLD_WITHIN_S
    job = Caller("camera")("post", f"/shots/{shot.pk}/cards", {})[1]
    assert [windows[1].next()["shot"]] == [shot.pk]
    assert Caller("camera")("delete", f"/jobs/{job['id']}")[0] == 200
    told = [windows[1].next(TOLD_WITHIN_S) for _ in range(2)]
    assert {"job": job["id"], "state": "stopped", "progress": 0} in told
    # what is refused, and what happens elsewhere, is not told
    assert (
        Caller("supervisor")("patch", f"/shots/{shot.pk}/line", {"version": 0, "changes": {"title": "x"}})[0]
        == 409
    )
    with pytest.raises(Empty):
        windows[1].next(0.5)
    for window in windows:
        window.close()


@pytest.mark.parametrize(
    ("username", "origin", "status"),
    [
        ("stranger", PAGE, 404),
        ("", PAGE, 404),
        ("supervisor", "http://127.0.0.1:9999", 403),
        ("supervisor", "http://elsewhere.example:8000", 403),
        ("supervisor", "https://trusted.example", 200),
    ],
)
def test_who_is_not_in_the_production_or_asks_from_another_page_hears_nothing(
    events: Events, production: Production, username: str, origin: str, status: int
):
    window = Window(events, username, production.pk, origin)
    assert window.answer.status == status
    assert window.answer.getheader("Access-Control-Allow-Origin") == (origin if status != 403 else None)
    window.close()


def test_it_ends_when_one_is_not_in_the_production_any_more(stored: None, production: Production):
    with heard_at(PAGE, beat_s=0.3) as running:
        window = Window(running, "runner", production.pk)
        window.listens()
        Membership.objects.filter(production=production, person__username="runner").delete()
        assert window.next(5) is None


def test_whoever_is_taken_out_hears_not_even_that(stored: None, production: Production):
    with heard_at(PAGE, beat_s=60) as running:
        window = Window(running, "runner", production.pk)
        window.listens()
        with in_production(Person.objects.get(username="supervisor"), production.pk) as write:
            row = Membership.objects.get(production=production, person__username="runner")
            people.change(write, row.pk, row.version, {"removed": True})
        assert window.next(5) is None


def test_it_listens_again_when_the_database_was_away(events: Events, production: Production):
    from django.db import connection

    window = Window(events, "runner", production.pk)
    window.listens()
    with connection.cursor() as cursor:
        cursor.execute(
            "select pg_terminate_backend(pid) from pg_stat_activity where query like 'LISTEN%' and datname ="
            " current_database()"
        )
        assert cursor.rowcount == 1
    assert window.next(10) == {"missed": True}, "something may have happened meanwhile"
    shot = Shot.objects.get(code="TM010")
    Caller("supervisor")("patch", f"/shots/{shot.pk}/line", {"changes": {"title": "Other"}})
    assert window.next(TOLD_WITHIN_S)["shot"] == shot.pk
    window.close()
