"""Who may knock, and how often; what is served only with a secret; and whether it is well."""

from __future__ import annotations

import os
import subprocess
import sys
from datetime import timedelta

import pytest
from axes.models import AccessFailureLog
from django.contrib.auth.hashers import check_password, make_password
from django.db import connection
from django.db.models import F
from django.test import Client, RequestFactory, override_settings
from django.utils import timezone

from jungoptic.app.base.desk import PASSWORDS
from jungoptic.app.base.turns import Asker, Turns
from jungoptic.app.jobs.models import Job
from jungoptic.app.people import doors
from jungoptic.app.people.models import Person
from jungoptic.app.settings import PASSWORD_HASHERS

from .conftest import Caller

PASSWORD = "tidemill-demo"


def sign_in(username: str, password: str = "guess", at: str = "198.51.100.7") -> tuple[int, str]:
    client = Client(REMOTE_ADDR=at)
    client.get("/api/session")
    answer = client.post(
        "/api/session", data={"username": username, "password": password}, content_type="application/json"
    )
    problems = answer.json().get("problems", [{"message": ""}])
    return answer.status_code, problems[0]["message"]


# --- knocking


def test_an_address_that_tries_many_accounts_waits_longer_and_longer(production):
    for n in range(doors.FREE):
        assert sign_in(f"account-{n}")[0] == 401
    status, said = sign_in("supervisor", PASSWORD)
    assert status == 429 and said == "Too many wrong passwords from this address. Try again in 1 second."
    AccessFailureLog.objects.update(attempt_time=F("attempt_time") - timedelta(seconds=2))
    assert sign_in("one-more")[0] == 401
    assert "2 seconds" in sign_in("supervisor", PASSWORD)[1]
    assert sign_in("supervisor", PASSWORD, at="203.0.113.9")[0] == 200, "another address does not wait"


def test_the_wait_doubles_up_to_five_minutes():
    assert [doors.wait_of(n) for n in (0, 9, 10, 11, 14, 18, 19, 500)] == [0, 0, 1, 2, 16, 256, 300, 300]


def test_after_an_hour_it_is_forgotten(production):
    for n in range(doors.FREE + 3):
        AccessFailureLog.objects.create(username=f"a-{n}", ip_address="198.51.100.7")
    assert sign_in("supervisor", PASSWORD)[0] == 429
    AccessFailureLog.objects.update(attempt_time=timezone.now() - timedelta(minutes=61))
    assert sign_in("supervisor", PASSWORD)[0] == 200


@pytest.mark.parametrize(
    ("proxies", "peer", "forwarded", "address"),
    [
        ([], "127.0.0.1", "198.51.100.7", "127.0.0.1"),  # nobody is believed
        (["127.0.0.1"], "127.0.0.1", "198.51.100.7", "198.51.100.7"),
        (
            ["127.0.0.1"],
            "127.0.0.1",
            "10.9.9.9, 198.51.100.7",
            "198.51.100.7",
        ),  # what the caller wrote itself
        (["127.0.0.1", "10.0.0.0/8"], "127.0.0.1", "198.51.100.7, 10.0.0.2", "198.51.100.7"),
        (["127.0.0.1"], "203.0.113.5", "198.51.100.7", "203.0.113.5"),  # straight, past the proxy
        (["127.0.0.1"], "127.0.0.1", "nonsense", "127.0.0.1"),
        (["::1"], "::1", "2001:db8::7", "2001:db8::7"),
    ],
)
def test_only_a_trusted_proxy_says_who_asks(proxies: list[str], peer: str, forwarded: str, address: str):
    request = RequestFactory().get("/", REMOTE_ADDR=peer, headers={"X-Forwarded-For": forwarded})
    with override_settings(TRUSTED_PROXIES=proxies):
        assert doors.client_address(request) == address


def test_no_more_passwords_are_checked_at_once_than_leave_room(production, monkeypatch):
    monkeypatch.setattr(PASSWORDS, "_turns", Turns(seats=1, most=2, most_of_one=1, usual_s=2.5))
    with override_settings(PASSWORD_HASHERS=PASSWORD_HASHERS):
        for account in Person.objects.all():
            account.set_password(PASSWORD)
            account.save()
        with PASSWORDS._turns.seat(Asker("198.51.100.7")):
            status, said = sign_in("supervisor", PASSWORD)
        assert status == 429 and "Many are signing in at this moment. Try again in 3 seconds." in said
        assert sign_in("supervisor", PASSWORD)[0] == 200


def test_a_wrong_password_keeps_its_seat_for_a_moment(production, monkeypatch):
    held: list[tuple[int | str, float]] = []
    monkeypatch.setattr(PASSWORDS, "hold", lambda asker, seconds: held.append((asker.person, seconds)))
    with override_settings(WRONG_PASSWORD_HOLDS_S=0.7):
        assert sign_in("supervisor")[0] == sign_in("nobody")[0] == 401, "whether or not there is an account"
        assert sign_in("supervisor", PASSWORD)[0] == 200
    assert held == [("198.51.100.7", 0.7)] * 2


def test_passwords_are_kept_by_argon2_and_older_ones_still_open():
    with override_settings(PASSWORD_HASHERS=PASSWORD_HASHERS):
        kept = make_password("a wide estuary")
        # OWASP Password Storage Cheat Sheet (2023): Argon2id with m = 19 456 KiB, t = 2, p = 1
        assert kept.startswith("argon2$argon2id$v=19$m=19456,t=2,p=1$")
        assert check_password("a wide estuary", kept) and not check_password("a wide estuarY", kept)
        older = make_password("a wide estuary", hasher="pbkdf2_sha256")
        renewed: list[str] = []
        assert check_password("a wide estuary", older, setter=renewed.append)
        assert renewed == ["a wide estuary"], "and is kept anew when it is used"


# --- secrets


@pytest.mark.parametrize("module", ["jungoptic.app.wsgi", "jungoptic.app.events.asgi"])
@pytest.mark.parametrize("key", ["", "short"])
def test_nothing_is_served_without_a_secret(module: str, key: str):
    env = {**os.environ, "DJANGO_SETTINGS_MODULE": "jungoptic.app.settings", "JUNGOPTIC_SECRET_KEY": key}
    done = subprocess.run(
        [sys.executable, "-c", f"import {module}"], env=env, capture_output=True, text=True, check=False
    )
    assert done.returncode == 1 and "Set JUNGOPTIC_SECRET_KEY to 32 characters" in done.stderr
    env["JUNGOPTIC_SECRET_KEY"] = "of-a-test-" * 5
    subprocess.run([sys.executable, "-c", f"import {module}"], env=env, check=True)


# --- whether it is well


def test_it_says_that_it_is_alive_and_ready(production):
    assert Client().get("/health/alive").json() == {"alive": True}
    answer = Client().get("/health/ready")
    assert answer.json() == {"database": True, "tables": True, "workers": True} and answer.status_code == 200


def test_it_is_not_ready_where_nobody_takes_up_what_is_asked(production, shot):
    Caller("supervisor")("post", f"/shots/{shot.pk}/cards", {})
    Job.objects.update(asked_at=timezone.now() - timedelta(minutes=5))
    answer = Client().get("/health/ready")
    assert answer.json() == {"database": True, "tables": True, "workers": False} and answer.status_code == 503


def test_it_is_not_ready_without_the_tables_of_this_version(production):
    with connection.cursor() as cursor:
        cursor.execute("delete from django_migrations where app = 'breakdown'")
    assert Client().get("/health/ready").json()["tables"] is False


def test_what_is_said_to_the_health_addresses_is_heard_by_nobody(production):
    for path in ("/health/alive", "/health/ready"):
        assert Client().post(path).status_code == 405
    assert Client().get("/health/other").status_code == 404
