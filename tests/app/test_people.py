"""How people come in, what they are, and how they go: invitations for once, roles, the last supervisor."""

from __future__ import annotations

import io
import json
import threading
from datetime import timedelta
from typing import Any

import pytest
from django.core.management import CommandError, call_command
from django.db import connections
from django.test import Client
from django.utils import timezone

from jungoptic.app.demo.production import SLUG
from jungoptic.app.people.models import Person
from jungoptic.app.productions import inviting
from jungoptic.app.productions.models import Invitation, Membership, Production
from jungoptic.app.takes.models import Take

from .conftest import Caller, a_key

TOKEN = "t" * 43
GOOD = "a boathouse in october"


def invite(caller: Caller, production: Production, token: str = TOKEN, **more: Any) -> tuple[int, Any]:
    version = Production.objects.get(pk=production.pk).version
    body = {"version": version, "token": token, "role": "crew", **more}
    return caller("post", f"/productions/{production.pk}/invitations", body, key=a_key())


def ask(client: Client, path: str, **body: Any) -> tuple[int, Any]:
    answer = client.post(f"/api{path}", json.dumps(body), content_type="application/json")
    return answer.status_code, answer.json()


def anybody() -> Client:
    client = Client()
    client.get("/api/session")
    return client


def people_of(caller: Caller, production: Production) -> dict[str, dict[str, Any]]:
    found = caller("get", f"/productions/{production.pk}/people")[1]
    return {one["username"]: one for one in found["people"]}


def change(caller: Caller, production: Production, who: str, **values: Any) -> tuple[int, Any]:
    row = Membership.objects.get(production=production, person__username=who)
    body = {"version": row.version, **values}
    return caller("patch", f"/productions/{production.pk}/people/{row.pk}", body)


# --- coming in


def test_an_invitation_makes_an_account_with_a_role_once(supervisor: Caller, production: Production):
    assert invite(supervisor, production, name="Ilse")[0] == 201
    listed = supervisor("get", f"/productions/{production.pk}/people")[1]["invitations"]
    assert [(one["name"], one["role"]) for one in listed] == [("Ilse", "crew")]
    assert TOKEN not in json.dumps(list(Invitation.objects.values()), default=str), "only its hash is kept"
    guest = anybody()
    status, said = ask(guest, "/invitation", token=TOKEN)
    assert (status, said["kind"], said["production"], said["role"]) == (200, "join", "The Tidemill", "crew")
    status, said = ask(guest, "/invitation/account", token=TOKEN, username="ilse", name="Ilse", password=GOOD)
    assert status == 200 and said["person"]["name"] == "Ilse"
    assert guest.get(f"/api/productions/{production.pk}/people").status_code == 200
    assert people_of(supervisor, production)["ilse"]["role"] == "crew"
    for path, body in (("/invitation", {}), ("/invitation/account", {"username": "x", "password": GOOD})):
        status, said = ask(anybody(), path, token=TOKEN, **body)
        assert status == 422 and "of no use any more" in said["problems"][0]["message"]


def test_who_has_an_account_comes_in_with_it(supervisor: Caller, stranger: Caller, production: Production):
    invite(supervisor, production, role="guest")
    status, said = stranger("post", "/invitation/join", {"token": TOKEN})
    assert (status, said) == (200, {"production": production.pk})
    assert people_of(supervisor, production)["stranger"]["role"] == "guest"
    assert stranger("post", "/invitation/join", {"token": TOKEN})[0] == 422


def test_coming_in_twice_keeps_the_greater_role(supervisor: Caller, crew: Caller, production: Production):
    invite(supervisor, production, role="guest")
    assert crew("post", "/invitation/join", {"token": TOKEN})[0] == 200
    assert people_of(supervisor, production)["camera"]["role"] == "crew"


def test_a_withdrawn_and_a_late_one_let_nobody_in(supervisor: Caller, production: Production):
    made = invite(supervisor, production)[1]
    path = f"/productions/{production.pk}/invitations/{made['id']}?version={made['version']}"
    assert supervisor("delete", path)[0] == 200
    assert ask(anybody(), "/invitation", token=TOKEN)[0] == 422
    late = "late-" + TOKEN
    invite(supervisor, production, token=late, days=1)
    Invitation.objects.filter(digest=inviting.digest_of(late)).update(
        expires_at=timezone.now() - timedelta(seconds=1)
    )
    assert ask(anybody(), "/invitation", token=late)[0] == 422
    newest = supervisor("get", f"/productions/{production.pk}/history")[1]["writes"][1]["id"]
    assert supervisor("post", f"/productions/{production.pk}/take-back", {"write": newest})[0] == 200
    assert ask(anybody(), "/invitation", token=TOKEN)[0] == 200, "withdrawn, and taken back"


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"token": "short"}, "token"),
        ({"days": 0}, "days"),
        ({"days": 61}, "days"),
        ({"role": "king"}, "role"),
    ],
)
def test_an_invitation_that_cannot_be_is_refused_at_its_field(
    supervisor: Caller, production: Production, given: dict[str, Any], field: str
):
    status, said = invite(supervisor, production, **{"token": TOKEN, **given})
    assert (status, said["problems"][0]["field"]) == (422, field)


@pytest.mark.parametrize(
    ("username", "password", "field"),
    [
        ("camera", GOOD, "username"),
        ("Camera", GOOD, "username"),
        ("two words", GOOD, "username"),
        ("", GOOD, "username"),
        ("ilse", "short", "password"),
        ("ilse", "password12", "password"),
        ("ilse", "1234567891", "password"),
        ("ilse-of-the-mill", "ilse-of-the-mill", "password"),
    ],
)
def test_an_account_that_cannot_be_leaves_the_invitation_good(
    supervisor: Caller, production: Production, username: str, password: str, field: str
):
    invite(supervisor, production)
    status, said = ask(anybody(), "/invitation/account", token=TOKEN, username=username, password=password)
    assert (status, said["problems"][0]["field"]) == (422, field)
    assert ask(anybody(), "/invitation", token=TOKEN)[0] == 200


def test_two_at_once_with_one_invitation_are_one_in(stored: None):
    invite(Caller("supervisor"), Production.objects.get(slug=SLUG))
    answers: list[int] = []

    def come(name: str) -> None:
        answers.append(ask(anybody(), "/invitation/account", token=TOKEN, username=name, password=GOOD)[0])
        connections.close_all()

    both = [threading.Thread(target=come, args=(name,)) for name in ("ilse", "hanne")]
    for one in both:
        one.start()
    for one in both:
        one.join()
    assert sorted(answers) == [200, 422]
    assert Person.objects.filter(username__in=["ilse", "hanne"]).count() == 1


# --- what they are, and going


def test_a_role_is_changed_and_taken_back(supervisor: Caller, crew: Caller, production: Production):
    assert change(supervisor, production, "camera", role="supervisor")[0] == 200
    assert people_of(crew, production)["camera"]["role"] == "supervisor"
    newest = supervisor("get", f"/productions/{production.pk}/history")[1]["writes"][0]
    assert newest["title"] == "Camera: role"
    assert supervisor("post", f"/productions/{production.pk}/take-back", {"write": newest["id"]})[0] == 200
    assert people_of(supervisor, production)["camera"]["role"] == "crew"


def test_the_last_supervisor_cannot_be_lost(supervisor: Caller, production: Production):
    for values in ({"role": "crew"}, {"removed": True}):
        status, said = change(supervisor, production, "supervisor", **values)
        assert status == 422 and "only supervisor" in said["problems"][0]["message"]
    change(supervisor, production, "camera", role="supervisor")
    assert change(supervisor, production, "supervisor", removed=True)[0] == 200


def test_two_supervisors_who_take_each_other_out_at_once_leave_one(stored: None):
    production = Production.objects.get(slug=SLUG)
    change(Caller("supervisor"), production, "camera", role="supervisor")
    answers: list[int] = []

    def take_out(by: str, whom: str) -> None:
        answers.append(change(Caller(by), production, whom, removed=True)[0])
        connections.close_all()

    pairs = [("supervisor", "camera"), ("camera", "supervisor")]
    both = [threading.Thread(target=take_out, args=pair) for pair in pairs]
    for one in both:
        one.start()
    for one in both:
        one.join()
    left = Membership.objects.filter(production=production, role="supervisor", removed=False).count()
    assert left == 1 and 200 in answers, answers


def test_who_is_taken_out_is_out_at_once_and_their_takes_stay(
    supervisor: Caller, crew: Caller, production: Production, mill
):
    crew.take(mill)
    assert change(supervisor, production, "camera", removed=True)[0] == 200
    for path in (f"/productions/{production.pk}/wall", f"/shots/{mill.shot_id}/bench", "/jobs/1"):
        assert crew("get", path)[0] == 404, path
    assert crew("get", "/productions")[1] == []
    assert Take.objects.filter(layer=mill).latest("pk").recorded_by.shown_name == "Camera"
    invite(supervisor, production, role="guest")
    assert crew("post", "/invitation/join", {"token": TOKEN})[0] == 200, "and can be asked in again"
    assert people_of(supervisor, production)["camera"]["role"] == "guest"


def test_anybody_may_leave_and_nobody_may_do_more_to_themselves(
    guest: Caller, crew: Caller, production: Production
):
    assert change(guest, production, "runner", role="supervisor")[0] == 403
    assert change(guest, production, "camera", removed=True)[0] == 403
    assert change(crew, production, "camera", removed=True, role="supervisor")[0] == 403
    assert change(guest, production, "runner", removed=True)[0] == 200
    assert guest("get", f"/productions/{production.pk}/people")[0] == 404


def test_open_invitations_are_for_supervisors(supervisor: Caller, guest: Caller, production: Production):
    invite(supervisor, production)
    found = guest("get", f"/productions/{production.pk}/people")[1]
    assert found["invitations"] == [] and all(one["last_seen"] is None for one in found["people"])


# --- the machine's own addresses


def address(*args: str, **options: Any) -> str:
    out = io.StringIO()
    call_command("way_in", *args, at="http://cart:8000/", stdout=out, **options)
    return out.getvalue().strip()


def test_the_first_account_is_made_by_the_address_that_the_terminal_prints(db: None):
    Person.objects.update(is_active=False)
    first, second = address(), address()
    assert second.startswith("http://cart:8000/#/join/") and first != second
    for printed, works in ((first, False), (second, True)):
        status, _ = ask(anybody(), "/invitation", token=printed.rpartition("/")[2])
        assert (status == 200) is works, "the newest only"
    token = second.rpartition("/")[2]
    client = anybody()
    assert ask(client, "/invitation/account", token=token, username="mira", password=GOOD)[0] == 200
    assert client.get("/api/productions").json() == []
    assert address() == "", "there is an account: nothing is printed"


def test_an_address_for_the_first_account_is_of_no_use_once_there_is_one(production: Production):
    token, _ = inviting.of_the_machine()
    assert ask(anybody(), "/invitation", token=token)[0] == 422


def test_who_forgot_the_password_chooses_another_and_is_signed_out_elsewhere(crew: Caller):
    token = address("camera").rpartition("/")[2]
    client = anybody()
    assert ask(client, "/invitation", token=token)[1]["username"] == "camera"
    assert ask(client, "/invitation/account", token=token, password="short")[0] == 422
    status, said = ask(client, "/invitation/account", token=token, password=GOOD)
    assert status == 200 and said["person"]["username"] == "camera"
    assert crew("get", "/productions")[0] == 401
    assert ask(client, "/invitation/account", token=token, password=GOOD)[0] == 422
    with pytest.raises(CommandError, match="nobody called 'ghost'"):
        address("ghost")
