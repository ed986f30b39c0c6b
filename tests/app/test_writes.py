"""Every write that the API's own schema knows, walked: never over what was not seen, once for one key, kept
in the history, told at once.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from contextlib import closing
from typing import Any

import psycopg
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test.utils import CaptureQueriesContext

from jungoptic.app.api.main import api
from jungoptic.app.base.events import CHANNEL
from jungoptic.app.base.models import Write
from jungoptic.app.builds.models import Build
from jungoptic.app.people.models import Person
from jungoptic.app.productions import inviting
from jungoptic.app.productions.models import Place
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.stock.models import StockItem

from .conftest import Caller, a_key, edit
from .seen import version_seen
from .written import OF_MEASUREMENTS, OF_RUSHES, OF_STILLS, Demo, held, live
from .written_frames import OF_FRAMES

TOLD_WITHIN_S = 1.0

# POST because of what is asked, not because anything is written.
ONLY_ASKS = {
    "/api/shots/{shot_id}/trial",
    "/api/shots/{shot_id}/picture",
    "/api/layers/{layer_id}/solve",
    "/api/layers/{layer_id}/scales",
    "/api/productions/{production_id}/preview",
    "/api/calculations/{name}",
    "/api/calculations/{name}/around",
    "/api/calculations/{name}/beforehand",
    "/api/productions/{production_id}/tried",
    "/api/productions/{production_id}/days-tried",
    "/api/films/asked",
    "/api/photographs/tags",
    "/api/layers/{layer_id}/outline",
    "/api/layers/{layer_id}/ground",
    "/api/layers/{layer_id}/line-up",
    "/api/exposures/{exposure_id}/built-up",
    "/api/qr",
    "/api/invitation",
}
# A piece of a file at its place: the same piece twice is one, and nothing of it is a row.
IN_PIECES = {"/api/productions/{production_id}/dropped"}
# Signing in and out, coming in, one's own preferences: nothing of a production that anybody else writes.
OF_ONESELF = {
    "/api/session",
    "/api/session/password",
    "/api/session/elsewhere",
    "/api/invitation/account",
    "/api/invitation/join",
}


def operations() -> Iterator[tuple[str, str, bool]]:
    for path, methods in api.get_openapi_schema()["paths"].items():
        for method, operation in methods.items():
            yield method, path, bool(operation.get("x-writes"))


WRITES = sorted(f"{method} {path}" for method, path, writes in operations() if writes)


# What a page would send: the path, and the body without the version that it has seen.
BODIES: dict[str, Callable[[Demo], tuple[str, dict[str, Any]]]] = {
    "post /api/shots/{shot_id}/changes": lambda d: (
        f"/shots/{d.shot.pk}/changes",
        {"layers": {d.mill.pk: edit(d.mill.version, width_m=9)}},
    ),
    "post /api/shots/{shot_id}/add": lambda d: (
        f"/shots/{d.shot.pk}/add",
        {"what": "layer", "fields": {"name": "Another"}},
    ),
    "post /api/shots/{shot_id}/accept": lambda d: (
        f"/shots/{d.shot.pk}/accept",
        {"layer_id": d.mill.pk, "item": "time", "reason": "Seen"},
    ),
    "post /api/layers/{layer_id}/takes": lambda d: (
        f"/layers/{d.mill.pk}/takes",
        {"note": "first", "shown": d.newest()},
    ),
    "patch /api/takes/{take_id}": lambda d: (f"/takes/{d.take().pk}", {"circled": True}),
    "post /api/productions/{production_id}/boards": lambda d: (
        f"/productions/{d.production.pk}/boards",
        {"files": d.png()},
    ),
    "post /api/shots/{shot_id}/board": lambda d: (f"/shots/{d.shot.pk}/board", {"file": d.png()}),
    "delete /api/shots/{shot_id}/board": lambda d: (f"/shots/{d.other.pk}/board", {}),
    "post /api/shots/{shot_id}/recipes": lambda d: (
        f"/shots/{d.shot.pk}/recipes",
        {"key": "vanish", "answers": {"distance_m": 9}},
    ),
    "patch /api/shots/{shot_id}/recipes/{recipe_id}": lambda d: (
        f"/shots/{d.other.pk}/recipes/{ShotRecipe.objects.get(shot=d.other).pk}",
        {"removed": True},
    ),
    "post /api/shots/{shot_id}/save-recipe": lambda d: (f"/shots/{d.shot.pk}/save-recipe", {"title": "Ours"}),
    "post /api/layers/{layer_id}/picture": lambda d: (f"/layers/{d.mill.pk}/picture", {"file": d.png()}),
    "post /api/layers/{layer_id}/ticks": lambda d: (
        f"/layers/{d.mill.pk}/ticks",
        {"text": d.check(), "done": True},
    ),
    "patch /api/shots/{shot_id}/line": lambda d: (
        f"/shots/{d.shot.pk}/line",
        {"changes": {"title": "Other"}},
    ),
    "patch /api/shots/{shot_id}/costs": lambda d: (f"/shots/{d.shot.pk}/costs", {"changes": {"shapes": 7}}),
    "patch /api/productions/{production_id}/figures": lambda d: (
        f"/productions/{d.production.pk}/figures",
        {"changes": {"crew": 5}},
    ),
    "post /api/shots/{shot_id}/sign": lambda d: (
        f"/shots/{d.shot.pk}/sign",
        {"caution": "water_edge", "note": "Asked."},
    ),
    "put /api/shots/{shot_id}/who": lambda d: (f"/shots/{d.shot.pk}/who", {"who": ["grown", "frail"]}),
    "put /api/shots/{shot_id}/cautions": lambda d: (f"/shots/{d.shot.pk}/cautions", {"cautions": ["flame"]}),
    "post /api/productions/{production_id}/places": lambda d: (
        f"/productions/{d.production.pk}/places",
        {"name": "The sluice"},
    ),
    "put /api/productions/{production_id}/places/{place_id}": lambda d: (
        f"/productions/{d.production.pk}/places/{d.first(Place)}",
        {"name": "Elsewhere"},
    ),
    "patch /api/productions/{production_id}/places/{place_id}": lambda d: (
        f"/productions/{d.production.pk}/places/{d.empty_place()}",
        {"removed": True},
    ),
    "post /api/productions/{production_id}/stock": lambda d: (
        f"/productions/{d.production.pk}/stock",
        {"name": "Clouds"},
    ),
    "patch /api/productions/{production_id}/stock/{item_id}": lambda d: (
        f"/productions/{d.production.pk}/stock/{d.first(StockItem)}",
        {"removed": True},
    ),
    "post /api/productions/{production_id}/builds": lambda d: (
        f"/productions/{d.production.pk}/builds",
        {"name": "Loft"},
    ),
    "patch /api/productions/{production_id}/builds/{build_id}": lambda d: (
        f"/productions/{d.production.pk}/builds/{d.first(Build)}",
        {"removed": True},
    ),
    "put /api/builds/{build_id}": lambda d: (
        f"/builds/{d.first(Build)}",
        {"fields": {"scale": 3}},
    ),
    "patch /api/productions/{production_id}/judging": lambda d: (
        f"/productions/{d.production.pk}/judging",
        {"soften_px": 1.5},
    ),
    "post /api/films": lambda d: ("/films", {"values": {"title": "The Salt Road"}}),
    "post /api/productions/{production_id}/kit-opened": lambda d: (
        f"/productions/{d.production.pk}/kit-opened",
        {},
    ),
    "post /api/film-file": lambda d: ("/film-file", {"file": d.film()}),
    "patch /api/productions/{production_id}": lambda d: (
        f"/productions/{d.production.pk}",
        {"changes": {"title": "The Tide Mill", "mains_hz": 60}},
    ),
    "post /api/productions/{production_id}/invitations": lambda d: (
        f"/productions/{d.production.pk}/invitations",
        {"token": "w" * 43, "role": "crew"},
    ),
    "delete /api/productions/{production_id}/invitations/{invitation_id}": lambda d: (
        f"/productions/{d.production.pk}/invitations/{d.invitation()}",
        {},
    ),
    "patch /api/productions/{production_id}/people/{member_id}": lambda d: (
        f"/productions/{d.production.pk}/people/{d.production.memberships.get(role='guest').pk}",
        {"role": "crew"},
    ),
    "post /api/productions/{production_id}/kit/{kind}": lambda d: (
        f"/productions/{d.production.pk}/kit/filter",
        {"fields": {"name": "ND 0.6", "stops": 2}},
    ),
    "patch /api/productions/{production_id}/kit/{kind}/{row_id}": lambda d: (
        f"/productions/{d.production.pk}/kit/lens/{d.production.lenses.all()[0].pk}",
        {"changes": {"note": "serviced"}},
    ),
    "post /api/productions/{production_id}/days/{kind}": lambda d: (
        f"/productions/{d.production.pk}/days/person",
        {"fields": {"name": "Wren", "hours": [{"start": "09:00", "end": "17:00"}]}},
    ),
    "patch /api/productions/{production_id}/days/{kind}/{row_id}": lambda d: (
        f"/productions/{d.production.pk}/days/day/{d.shooting_day().pk}",
        {"changes": {"note": "low tide at noon"}},
    ),
    "put /api/productions/{production_id}/bookings": lambda d: (
        f"/productions/{d.production.pk}/bookings",
        {"bookings": [d.booking()]},
    ),
    "post /api/productions/{production_id}/call-sheets": lambda d: (
        f"/productions/{d.production.pk}/call-sheets",
        {"day": "2027-10-16"},
    ),
    "post /api/productions/{production_id}/shooting-days": lambda d: (
        f"/productions/{d.production.pk}/shooting-days",
        {"dates": ["2027-11-06", "2027-11-07"]},
    ),
    "post /api/productions/{production_id}/days-plan": lambda d: (
        f"/productions/{d.production.pk}/days-plan",
        {"again": bool(d.shooting_day())},
    ),
    "post /api/productions/{production_id}/kit-start": lambda d: (
        f"/productions/{d.production.pk}/kit-start",
        {"start": "panels"},
    ),
    "post /api/productions/{production_id}/kit-table": lambda d: (
        f"/productions/{d.production.pk}/kit-table",
        {"text": "kind,name,stops\r\nfilter,ND 1.2,4"},
    ),
    "post /api/productions/{production_id}/take-in": lambda d: (
        f"/productions/{d.production.pk}/take-in",
        {"text": "TM900 New"},
    ),
    "post /api/productions/{production_id}/book": lambda d: (f"/productions/{d.production.pk}/book", {}),
    "post /api/productions/{production_id}/cards": lambda d: (
        f"/productions/{d.production.pk}/cards",
        {"place": d.recording().card.place},
    ),
    "post /api/productions/{production_id}/simulated-card": lambda d: (
        f"/productions/{d.production.pk}/simulated-card",
        {},
    ),
    "post /api/cards/{card_id}/filings": lambda d: (
        f"/cards/{d.recording().card_id}/filings",
        {"filings": [{"recording_id": d.recording().pk, "take_id": d.take().pk}]},
    ),
    **OF_FRAMES,
    **OF_MEASUREMENTS,
    **OF_RUSHES,
    **OF_STILLS,
    "post /api/cards/{card_id}/copies": lambda d: (f"/cards/{d.recording().card_id}/copies", {}),
    "post /api/shots/{shot_id}/cards": lambda d: (f"/shots/{d.shot.pk}/cards", {}),
    "post /api/shots/{shot_id}/page": lambda d: (f"/shots/{d.shot.pk}/page", {}),
    "delete /api/jobs/{job_id}": lambda d: (f"/jobs/{d.job().pk}", {}),
    "post /api/jobs/{job_id}/again": lambda d: (f"/jobs/{d.job().pk}/again", {}),
    "post /api/productions/{production_id}/take-back": lambda d: (
        f"/productions/{d.production.pk}/take-back",
        {"write": (d.first(Write, stays=False, taken_back_by__isnull=True, takes_back__isnull=True))},
    ),
}
# A take is a fact: the plan may have moved on since the telephone showed it. What goes back is refused where
# it was changed since (below).
SEES_OTHERWISE = {
    "post /api/layers/{layer_id}/takes",
    "post /api/layers/{layer_id}/exposure-sheet",  # one a layer: a second is refused
    "post /api/layers/{layer_id}/hyperlapse",
    "post /api/poses/{pose_id}/exposures",  # shot again leaves the one before it
    "post /api/layers/{layer_id}/stills",  # another one beside: nobody's is changed
    "post /api/recordings/{recording_id}/measures",
    "post /api/stills/{still_id}/sheet",
    "post /api/set-ups/{set_up_id}/frame-marks",  # who marks sees the mark, and the later one stands
    "post /api/productions/{production_id}/take-back",
    "post /api/films",  # nothing was there to be seen
    "post /api/film-file",
}


def send(
    caller: Caller, operation: str, path: str, body: dict[str, Any], version: int | None, key: str
) -> tuple[int, bytes]:
    method = operation.split(maxsplit=1)[0]
    if "/changes" in path:
        body = {
            kind: {pk: {**one, "version": version} for pk, one in rows.items()} for kind, rows in body.items()
        }
    elif "bookings" in body:
        body = {"bookings": [{**one, "version": version} for one in body["bookings"]]}
    elif method == "delete":
        path += f"?version={version}"
    elif version is not None:
        body = {**body, "version": version}
    files = [one for one in body.values() if isinstance(one, SimpleUploadedFile)]
    for one in files:
        one.seek(0)
    sent: dict[str, Any] = (
        {"data": body} if files else {"data": json.dumps(body), "content_type": "application/json"}
    )
    answer = getattr(caller.client, method)(f"/api{path}", headers={"Idempotency-Key": key}, **sent)
    return answer.status_code, answer.content


def test_every_operation_that_is_no_get_is_a_write_or_says_why_not():
    assert {
        path for method, path, writes in operations() if method != "get" and not writes
    } == ONLY_ASKS | OF_ONESELF | IN_PIECES
    assert set(WRITES) == set(BODIES), "a new write needs a line in BODIES"


def test_every_write_is_seen_once_kept_and_told(stored: None):
    where = connection.settings_dict
    with psycopg.connect(
        host=where["HOST"],
        port=where["PORT"],
        user=where["USER"],
        password=where["PASSWORD"],
        dbname=where["NAME"],
        autocommit=True,
    ) as second_window:
        second_window.execute(f"LISTEN {CHANNEL}")
        # what takes back stands at the end: by then there is something to take back
        for operation in sorted(WRITES, key=lambda one: "take-back" in one):
            walk(operation, second_window)


def walk(operation: str, second_window: psycopg.Connection[Any]) -> None:
    supervisor, demo = Caller("supervisor"), Demo()
    path, body = BODIES[operation](demo)
    version = demo.mill.version if "/changes" in path else version_seen(path, body)
    for _ in second_window.notifies(timeout=0):  # what was made ready for this write
        pass
    ours = Write.objects.filter(production=demo.production)
    count = ours.count()
    if operation not in SEES_OTHERWISE:
        assert version is not None, operation
        for unseen in (version - 1, version + 1):
            status, answer = send(supervisor, operation, path, body, unseen, a_key())
            assert status == 409, (operation, answer)
        assert ours.count() == count, operation
    if "shown" in body:
        assert (
            send(supervisor, operation, path, {**body, "shown": body["shown"] + 1000}, None, a_key())[0]
            == 409
        ), "a plan that never was"
        assert ours.count() == count
    key = a_key()
    (status, first), again = (send(supervisor, operation, path, body, version, key) for _ in range(2))
    assert status < 300 and again == (status, first), (operation, first)
    begins_another = operation.startswith("post /api/film")
    assert ours.count() == count + (not begins_another), operation
    assert Write.objects.filter(key=key).count() == 1, operation
    where = json.loads(first)["id"] if begins_another else demo.production.pk
    newest = supervisor("get", f"/productions/{where}/history?limit=1")[1]["writes"][0]
    assert newest["mine"] and newest["key"] == key and newest["changes"] and newest["title"], (
        operation,
        newest,
    )
    with closing(
        second_window.notifies(timeout=TOLD_WITHIN_S)
    ) as notices:  # it holds the connection until then
        payloads = (json.loads(one.payload) for one in notices)
        told = next((one for one in payloads if one.get("write") == newest["id"]), None)
    assert told and told["production"] == where, operation


@pytest.mark.parametrize("path", sorted(ONLY_ASKS))
def test_what_only_asks_writes_nothing(supervisor: Caller, production, mill, path):
    ids = {"shot_id": mill.shot_id, "layer_id": mill.pk, "production_id": production.pk}
    ids["exposure_id"] = Demo().exposure().pk if "{exposure_id}" in path else 0
    filled = path.format(**ids, name="angle_of_view").removeprefix("/api")
    example = supervisor("get", "/calculations/angle_of_view")[1]["example"]
    asks = {
        "preview": {"text": "TM900 New"},
        "around": {"values": example, "field": "focal_length_mm"},
        "tried": {"changes": {"mains_hz": 60}},
        "days-tried": {"bookings": [{"set_up_id": mill.set_up_id, "date": None}]},
        "asked": {"values": {"title": "The Salt Road"}},
        "ground": {"x_px": 960, "y_px": 1000},
        "qr": {"text": "http://127.0.0.1/"},
        "invitation": {"token": inviting.of_the_machine(Person.objects.get(username="camera"))[0]},
        "{name}": example,
        "beforehand": example,
    }
    body = asks.get(path.rpartition("/")[2], {})
    sent = {"tags": {"file": Demo().png()}, "outline": {"file": Demo().svg()}}
    sent["built-up"] = {"file": Demo().frame()}
    if path.endswith("/line-up"):
        frame = live(supervisor, mill)
        sent["line-up"] = {
            "file": SimpleUploadedFile("live.jpg", frame),
            "against": held(supervisor, mill, frame),
        }
    if kind := next((one for one in sent if path.endswith(f"/{one}")), None):
        with CaptureQueriesContext(connection) as asked:
            read = supervisor.client.post(f"/api{filled}", sent[kind])
        status, answer = read.status_code, read.json()
    else:
        with CaptureQueriesContext(connection) as asked:
            status, answer = supervisor("post", filled, body)
    assert status == 200, answer
    assert not [one["sql"] for one in asked if one["sql"].split()[0] in ("INSERT", "UPDATE", "DELETE")]
