"""One's own account: what one prefers, the password, other devices; and locks that grow."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import pytest
from axes.models import AccessAttempt, AccessFailureLog
from django.db.models import F
from django.test import Client

from jungoptic.app.people import lockout
from jungoptic.app.people.models import Person

from .conftest import Caller

OLD, NEW = "tidemill-demo", "the heron walks at nine"
HERE, ELSEWHERE = "10.0.0.7", "10.0.0.8"


def test_name_dates_and_week_are_kept(crew: Caller):
    said = crew("patch", "/session", {"name": " Jo ", "dates": "de", "week_starts": "sunday"})[1]["person"]
    assert (said["name"], said["dates"], said["week_starts"]) == ("Jo", "de", "sunday")
    assert crew("patch", "/session", {"dates": "xx"})[0] == 422
    status, refused = crew("patch", "/session", {"name": "  "})
    assert (status, refused["problems"][0]["field"]) == (422, "name")


@pytest.mark.parametrize(
    ("old", "new", "field"), [("wrong", NEW, "old"), (OLD, "short", "new"), (OLD, "camera-cam", "new")]
)
def test_a_password_that_cannot_be_is_refused_at_its_field(crew: Caller, old: str, new: str, field: str):
    status, said = crew("put", "/session/password", {"old": old, "new": new})
    assert (status, said["problems"][0]["field"]) == (422, field)


def test_another_password_signs_out_every_other_device(crew: Caller):
    other = Caller("camera")
    assert crew("put", "/session/password", {"old": OLD, "new": NEW})[0] == 200
    assert crew("get", "/productions")[0] == 200
    assert other("get", "/productions")[0] == 401
    assert Person.objects.get(username="camera").check_password(NEW)


def test_signing_out_elsewhere_leaves_this_device(crew: Caller):
    other, somebody_else = Caller("camera"), Caller("runner")
    assert crew("delete", "/session/elsewhere")[0] == 200
    assert crew("get", "/productions")[0] == 200
    assert other("get", "/productions")[0] == 401
    assert somebody_else("get", "/productions")[0] == 200


# --- locks


def sign_in(password: str, at: str = HERE, who: str = "supervisor") -> tuple[int, Any]:
    client = Client(REMOTE_ADDR=at)
    client.get("/api/session")
    body = json.dumps({"username": who, "password": password})
    answer = client.post("/api/session", body, content_type="application/json")
    return answer.status_code, answer.json()


def later(by: timedelta) -> None:
    """As if so much time had passed for every failure."""
    AccessAttempt.objects.update(attempt_time=F("attempt_time") - by)
    AccessFailureLog.objects.update(attempt_time=F("attempt_time") - by)


def locked(at: str = HERE, who: str = "supervisor") -> str:
    """Fail until it is locked; what is said then."""
    for _ in range(5):
        status, said = sign_in("guess", at, who)
    assert status == 429, said
    return str(said["problems"][0]["message"])


def test_each_lock_is_twice_as_long_as_the_last(production):
    for minutes in (1, 2, 4, 8):
        assert f"Wait {minutes} minute" in locked()
        later(timedelta(minutes=minutes) - timedelta(seconds=5))
        assert sign_in(OLD)[0] == 429, "not yet"
        later(timedelta(seconds=10))
    assert sign_in(OLD)[0] == 200
    assert "Wait 1 minute" in locked(), "whoever signs in begins anew"


def test_no_lock_is_longer_than_an_hour(production):
    for _ in range(9):
        said = locked()
        later(timedelta(hours=1, seconds=1))
    assert "Wait 60 minutes" in said


def test_a_supervisor_cannot_be_shut_out_from_somewhere_else(production):
    locked(at=ELSEWHERE)
    assert sign_in(OLD, HERE)[0] == 200
    assert sign_in(OLD, ELSEWHERE)[0] == 429


def test_somebody_elses_failures_forget_nothing_of_a_long_lock(production):
    for minutes in (1, 2):
        locked()
        later(timedelta(minutes=minutes, seconds=1))
    locked()
    later(timedelta(minutes=2))
    sign_in("guess", HERE, "camera")  # a short memory of its own
    assert sign_in(OLD)[0] == 429, "four minutes, of which two have passed"


def test_who_asks_while_it_is_locked_does_not_make_it_longer(production):
    locked()
    later(timedelta(seconds=40))
    sign_in("guess")
    later(timedelta(seconds=25))
    assert sign_in(OLD)[0] == 200


def test_without_a_request_failures_are_counted_for_a_quarter_of_an_hour():
    assert lockout.cool_off(None) == timedelta(minutes=15)
