"""Who may do what: nobody sees a production that they are not in, the guest reads, the crew logs, the
supervisor writes.
"""

import re
from datetime import UTC, datetime

import pytest
from django.test import Client

from jungoptic.app.api.main import api
from jungoptic.app.builds.models import Build
from jungoptic.app.days.models import ShootingDay
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Invitation
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.models import Take

from .calls import of_cameras_cards, of_frames, of_measurements, of_rushes, of_stills
from .conftest import SATURDAY, Caller, edit

FAR_OFF = datetime(2099, 1, 1, tzinfo=UTC)


def broken_down(production, shot, mill) -> list[tuple[str, str, object]]:
    """The operations of the break-down."""
    build = Build.objects.filter(production=production).first() or Build.objects.create(
        production=production, name="Loft"
    )
    of_production, of_shot = f"/productions/{production.pk}", f"/shots/{shot.pk}"
    place = production.places.all()[0].pk
    return [
        ("patch", f"{of_shot}/line", {"changes": {"title": "Other"}}),
        ("post", f"{of_production}/preview", {"text": "TM900 New"}),
        ("post", f"{of_production}/take-in", {"text": "TM900 New"}),
        ("get", f"{of_production}/shots.csv", None),
        ("get", f"{of_production}/shots.otio", None),
        ("post", f"{of_production}/boards", None),
        ("post", f"{of_shot}/board", None),
        ("delete", f"{of_shot}/board", None),
        ("post", f"/layers/{mill.pk}/picture", None),
        ("get", f"/layers/{mill.pk}/look?outline=barn", None),
        ("get", f"/layers/{mill.pk}/parts", None),
        ("get", f"{of_shot}/small.jpg", None),
        ("get", f"{of_shot}/plan", None),
        ("post", f"{of_shot}/recipes", {"key": "night"}),
        ("patch", f"{of_shot}/recipes/1", {"removed": True}),
        ("post", f"{of_shot}/save-recipe", {"title": "Ours"}),
        ("post", f"/layers/{mill.pk}/ticks", {"text": "x", "done": True}),
        ("patch", f"{of_shot}/costs", {"changes": {"chosen": "model"}}),
        ("get", f"{of_production}/figures", None),
        ("patch", f"{of_production}/figures", {"version": 1, "changes": {"crew": 4}}),
        ("post", f"{of_shot}/sign", {"caution": "water_edge", "note": "Asked"}),
        ("put", f"{of_shot}/cautions", {"cautions": []}),
        ("put", f"{of_shot}/who", {"who": []}),
        ("get", f"{of_shot}/reuse", None),
        ("get", f"{of_production}/places", None),
        ("post", f"{of_production}/places", {"name": "Elsewhere"}),
        ("put", f"{of_production}/places/{place}", {"name": "Elsewhere"}),
        ("patch", f"{of_production}/places/{place}", {"removed": True}),
        ("get", f"{of_production}/stock", None),
        ("patch", f"{of_production}/stock/{production.stock.all()[0].pk}", {"removed": True}),
        ("post", f"{of_production}/stock", {"name": "Sky"}),
        ("get", f"{of_production}/builds", None),
        ("post", f"{of_production}/builds", {"name": "Other"}),
        ("patch", f"{of_production}/builds/{build.pk}", {"removed": False}),
        ("get", f"/builds/{build.pk}", None),
        ("put", f"/builds/{build.pk}", {"version": 1}),
        ("post", f"{of_production}/book", {}),
        ("post", f"{of_shot}/page", {}),
        *of_the_days(production, shot),
    ]


DEMO_DAY = "2027-10-16"  # something is filmed on it


def of_the_days(production, shot) -> list[tuple[str, str, object]]:
    """The operations of the days."""
    of_production = f"/productions/{production.pk}"
    day = ShootingDay.objects.get_or_create(production=production, date=SATURDAY)[0]
    booking = {"set_up_id": shot.set_ups.all()[0].pk, "date": SATURDAY.isoformat(), "start_min": 540}
    return [
        ("get", f"{of_production}/days", None),
        ("get", f"{of_production}/shooting-days/{day.date}", None),
        ("get", f"{of_production}/sun-charts/{shot.set_ups.all()[0].pk}?day={day.date}", None),
        ("post", f"{of_production}/days-tried", {"bookings": [booking]}),
        ("put", f"{of_production}/bookings", {"bookings": [booking]}),
        ("post", f"{of_production}/days-plan", {}),
        ("post", f"{of_production}/shooting-days", {"dates": ["2027-11-06"]}),
        ("post", f"{of_production}/call-sheets", {"day": DEMO_DAY}),
        ("get", f"{of_production}/calls.ics?name=Camera", None),
        ("get", f"{of_production}/days.csv", None),
        ("get", f"{of_production}/outlook", None),
        ("post", f"{of_production}/days/person", {"fields": {"name": "Orla"}}),
        ("patch", f"{of_production}/days/day/{day.pk}", {"changes": {"note": "x"}}),
    ]


def of_the_film(production) -> list[tuple[str, str, object]]:
    """The operations on a production itself and on who is in it."""
    of_production = f"/productions/{production.pk}"
    member = production.memberships.get(person__username="camera")
    invitation = Invitation.objects.get_or_create(
        production=production, role="crew", digest="d" * 64, expires_at=FAR_OFF
    )[0]
    return [
        ("get", of_production, None),
        ("patch", of_production, {"changes": {"title": "Ours"}}),
        ("post", f"{of_production}/tried", {"changes": {"mains_hz": 60}}),
        ("get", f"{of_production}/people", None),
        ("get", f"{of_production}/kit", None),
        ("get", f"{of_production}/kit.csv", None),
        ("get", f"{of_production}/kit-abilities", None),
        ("get", f"{of_production}/kit-opened", None),
        ("post", f"{of_production}/kit/filter", {"fields": {"name": "ND 0.3", "stops": 1}}),
        ("patch", f"{of_production}/kit/lens/{production.lenses.all()[0].pk}", {"changes": {"note": "x"}}),
        ("post", f"{of_production}/kit-start", {"start": "panels"}),
        ("post", f"{of_production}/kit-table", {"text": "kind,name,stops\r\nfilter,ND 0.6,2"}),
        ("post", f"{of_production}/invitations", {"token": "i" * 40, "role": "crew"}),
        ("delete", f"{of_production}/invitations/{invitation.pk}", None),
        ("patch", f"{of_production}/people/{member.pk}", {"role": "guest"}),
    ]


def calls(production, shot, mill, take, card) -> list[tuple[str, str, object]]:
    """Every operation on something that belongs to a production."""
    return [
        *of_the_film(production),
        ("get", f"/productions/{production.pk}/wall", None),
        *broken_down(production, shot, mill),
        *of_cameras_cards(production, shot, take),
        *of_rushes(production, shot),
        *of_measurements(production),
        ("post", f"/productions/{production.pk}/kit-opened", {}),
        ("get", f"/shots/{shot.pk}/bench", None),
        ("get", f"/shots/{shot.pk}/version", None),
        ("post", f"/shots/{shot.pk}/trial", {}),
        ("post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(1, iso=400)}}),
        ("post", f"/layers/{mill.pk}/solve", {}),
        ("post", f"/layers/{mill.pk}/outline", None),
        ("post", f"/layers/{mill.pk}/ground", {"x_px": 960, "y_px": 1000}),
        ("post", f"/layers/{mill.pk}/scales", {}),
        ("post", f"/shots/{shot.pk}/picture", {"width_px": 64}),
        ("post", f"/shots/{shot.pk}/add", {"what": "layer"}),
        ("post", f"/shots/{shot.pk}/accept", {"layer_id": mill.pk, "item": "time", "reason": "Because"}),
        ("get", f"/productions/{production.pk}/on-set", None),
        ("get", f"/productions/{production.pk}/judging", None),
        ("patch", f"/productions/{production.pk}/judging", {"version": 1}),
        ("get", f"/layers/{mill.pk}/fill/angle_of_view", None),
        ("get", f"/shots/{shot.pk}/log", None),
        ("get", f"/productions/{production.pk}/history", None),
        ("post", f"/productions/{production.pk}/take-back", {"write": 1}),
        ("post", f"/layers/{mill.pk}/takes", {}),
        ("get", f"/layers/{mill.pk}/takes?before=9", None),
        ("get", f"/layers/{mill.pk}/foretold", None),
        ("get", f"/takes/{take.pk}/now", None),
        ("patch", f"/takes/{take.pk}", {"version": take.version, "circled": True}),
        *of_stills(shot, mill),
        *of_frames(production, mill),
        ("post", f"/shots/{shot.pk}/cards", {}),
        ("get", f"/productions/{production.pk}/jobs", None),
        ("get", f"/jobs/{card.pk}", None),
        ("post", f"/jobs/{card.pk}/again", {}),
        ("get", f"/files/{card.file_id}", None),
        ("delete", f"/jobs/{card.pk}", None),
    ]


def test_the_list_above_is_every_operation_of_a_production(production, shot, mill, take, card):
    listed = [(method, f"/api{path}") for method, path, _ in calls(production, shot, mill, take, card)]
    for path, operations in api.get_openapi_schema()["paths"].items():
        if "{" not in path or "calculations" in path:
            continue  # nobody's in particular: asked for in the tests below
        address = re.compile(re.sub(r"{\w+}", r"[^/]+", path))
        for method in operations:
            assert any(one == method and address.fullmatch(at.partition("?")[0]) for one, at in listed), (
                method,
                path,
            )


def test_the_guest_changes_nothing_of_the_break_down(guest: Caller, crew: Caller, production, shot, mill):
    """Reading, printing and asking are everybody's; ticking is the crew's too; the rest is the
    supervisor's.
    """
    for method, path, body in broken_down(production, shot, mill):
        wanted = 403 if method != "get" and not path.endswith(("/book", "/page", "/days-tried")) else None
        status, _ = guest(method, path, body)
        assert (status == wanted) if wanted else status < 300, (method, path)
        if wanted and not path.endswith("/ticks"):
            assert crew(method, path, body)[0] == 403, path


def test_a_stranger_sees_nothing(stranger: Caller, production, shot, mill, take, card):
    assert stranger("get", "/productions") == (200, [])
    for method, path, body in calls(production, shot, mill, take, card):
        status, answer = stranger(method, path, body)
        assert status == 404, path
        assert answer["problems"][0]["message"] == "There is no such thing here, or it is not yours to see."


def test_a_supervisor_of_another_production_is_a_stranger(
    stranger: Caller, production, shot, mill, take, card
):
    """Nor does their own production open anything of ours: its number before a row of ours finds nothing, and
    says nothing of it.
    """
    own = stranger("post", "/films", {"values": {"title": "Elsewhere"}})[1]["id"]
    ours = [production.title, *Shot.objects.values_list("code", flat=True), "Orla", "supervisor"]
    for method, path, body in calls(production, shot, mill, take, card):
        status, answer = stranger(method, path, body)
        assert status == 404, path
        mixed = path.replace(f"/productions/{production.pk}/", f"/productions/{own}/")
        if mixed != path and re.search(r"/\d+$", mixed.partition("?")[0]):
            status, answer = stranger(method, mixed, body)
            assert status in (404, 409, 422), (mixed, answer)
            assert not [word for word in ours if word in str(answer)], (mixed, answer)


@pytest.mark.parametrize("role", ["supervisor", "crew", "guest"])
def test_whoever_was_taken_out_is_a_stranger(role: str, production, shot, mill, take, card):
    """Whatever they were, at the very next thing that they ask."""
    caller = Caller("runner")
    member = production.memberships.filter(person__username="runner")
    member.update(role=role)
    assert caller("get", f"/productions/{production.pk}")[0] == 200
    member.update(removed=True)
    assert caller("get", "/productions") == (200, [])
    for method, path, body in calls(production, shot, mill, take, card):
        assert caller(method, path, body)[0] == 404, path


def test_only_supervisors_change_the_film_and_who_is_in_it(guest: Caller, crew: Caller, production):
    for method, path, body in of_the_film(production):
        wanted = method == "get" or path.endswith("/tried")
        for caller in (guest, crew):
            assert caller(method, path, body)[0] == (200 if wanted else 403), path


def test_a_stranger_is_told_the_same_of_what_does_not_exist(stranger: Caller, supervisor: Caller, shot):
    assert stranger("get", f"/shots/{shot.pk}/bench") == stranger("get", "/shots/999999/bench")
    assert supervisor("get", "/jobs/999999")[0] == 404


def test_nobody_who_is_not_signed_in_gets_anything(production, shot, mill, take, card):
    for method, path, body in [
        *calls(production, shot, mill, take, card),
        ("get", "/productions", None),
        ("get", "/sources", None),
        ("get", "/calculations", None),
    ]:
        answer = getattr(Client(), method)(f"/api{path}", data=body or {}, content_type="application/json")
        assert answer.status_code == 401, path


def test_a_guest_reads_and_does_not_write(guest: Caller, shot, mill, take):
    assert guest.bench(shot)["role"] == "guest"
    assert guest("get", f"/shots/{shot.pk}/log")[0] == 200
    for method, path, body in (
        ("post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(1, iso=400)}}),
        ("post", f"/layers/{mill.pk}/takes", {}),
        ("patch", f"/takes/{take.pk}", {"version": 1, "circled": True}),
    ):
        status, answer = guest(method, path, body)
        assert status == 403
        assert "you are here as guest" in answer["problems"][0]["message"]
    mill.set_up.refresh_from_db()
    assert mill.set_up.iso == 800
    assert Take.objects.count() == 1


def test_the_crew_logs_but_does_not_change_the_plan(crew: Caller, shot, mill):
    crew.take(mill)
    status, answer = crew(
        "post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(1, iso=400)}}
    )
    assert status == 403
    assert "Only the supervisor may do this" in answer["problems"][0]["message"]


def test_a_write_without_the_csrf_token_is_refused(shot, mill):
    client = Client(enforce_csrf_checks=True)
    client.force_login(
        Person.objects.get(username="supervisor"), backend="django.contrib.auth.backends.ModelBackend"
    )
    answer = client.post(f"/api/layers/{mill.pk}/takes", data="{}", content_type="application/json")
    assert answer.status_code == 403
    assert Take.objects.count() == 0


def test_signing_in_needs_the_csrf_token_too(production):
    client = Client(enforce_csrf_checks=True)
    body = {"username": "supervisor", "password": "tidemill-demo"}
    assert client.post("/api/session", data=body, content_type="application/json").status_code in (401, 403)
    client.get("/api/session")
    token = client.cookies["csrftoken"].value
    assert (
        client.post(
            "/api/session", data=body, content_type="application/json", headers={"X-CSRFToken": token}
        ).status_code
        == 200
    )


def test_sign_in_and_out(production):
    client = Client()
    wrong = client.post(
        "/api/session", data={"username": "supervisor", "password": "guess"}, content_type="application/json"
    )
    # the session check needs its cookie first
    client.get("/api/session")
    wrong = client.post(
        "/api/session", data={"username": "supervisor", "password": "guess"}, content_type="application/json"
    )
    assert wrong.status_code == 401
    assert wrong.json()["problems"][0]["field"] == "password"
    right = client.post(
        "/api/session",
        data={"username": "supervisor", "password": "tidemill-demo"},
        content_type="application/json",
    )
    assert right.json()["person"]["name"] == "Supervisor"
    assert (
        client.patch("/api/session", data={"theme": "daylight"}, content_type="application/json").json()[
            "person"
        ]["theme"]
        == "daylight"
    )
    assert (
        client.patch("/api/session", data={"theme": "pink"}, content_type="application/json").status_code
        == 422
    )
    assert client.delete("/api/session").json() == {"person": None, "events": None}
    assert client.get("/api/session").json() == {"person": None, "events": None}


def test_an_account_is_locked_after_repeated_failures(production):
    client = Client()
    client.get("/api/session")
    for _ in range(5):
        client.post(
            "/api/session",
            data={"username": "supervisor", "password": "guess"},
            content_type="application/json",
        )
    locked = client.post(
        "/api/session",
        data={"username": "supervisor", "password": "tidemill-demo"},
        content_type="application/json",
    )
    assert locked.status_code == 429
    assert "Wait 1 minute" in locked.json()["problems"][0]["message"]


def test_the_page_is_served_with_its_policy(production):
    answer = Client().get("/anything/at/all")
    assert answer.status_code in (200, 503)
    assert "script-src 'self'" in answer.headers["Content-Security-Policy"]
    assert answer.headers["X-Frame-Options"] == "DENY"
    assert Client().get("/api/nothing-here").status_code == 404
