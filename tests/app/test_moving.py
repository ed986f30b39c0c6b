"""A production out as one file and in again: the same to the last row; hostile files come in nowhere."""

from __future__ import annotations

import io
import json
import random
from collections.abc import Callable
from typing import Any

import jsonschema_rs
import pytest
from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import models, transaction
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from PIL import Image

from jungoptic.app.base.edits import _HANDLERS
from jungoptic.app.history.reading import history
from jungoptic.app.history.schemas import HistoryQuery
from jungoptic.app.moving import tables
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Membership, Production
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError

from .conftest import Caller, a_key
from .moved import Files, come_in, out, rows, with_rows
from .seen import version_seen
from .test_writes import BODIES, Demo, send


def without_the_last_entry(files: Files) -> Files:
    """But for what says that it was brought in, and when it was taken out."""
    head = json.loads(files["production.json"])
    entries = rows(files, "history")
    assert entries[-1]["title"].endswith("brought in from a file")
    own = [one for one in rows(files, "changes") if one["write_id"] != len(entries)]
    head["rows"] |= {"history": len(entries) - 1, "changes": len(own)}
    return told(files) | {
        "production.json": head,
        "tables/history.json": entries[:-1],
        "tables/changes.json": own,
    }


def told(files: Files) -> dict[str, Any]:
    head = json.loads(files["production.json"])
    return {name: json.loads(data) if name.endswith(".json") else data for name, data in files.items()} | {
        "production.json": head
    }


def same(first: Files, second: Files) -> None:
    one, two = told(first), without_the_last_entry(second)
    for whole in (one, two):
        del whole["production.json"]["made_at"]
    assert one.keys() == two.keys()
    for name in one:
        assert one[name] == two[name], name


def write_everything(said: Callable[[str], bool] = lambda operation: True) -> None:
    """One of every write that there is."""
    supervisor = Caller("supervisor")
    for operation in sorted(BODIES, key=lambda one: "take-back" in one):
        demo = Demo()
        if said(operation):
            path, body = BODIES[operation](demo)
            version = demo.mill.version if "/changes" in path else version_seen(path, body)
            status, answer = send(supervisor, operation, path, body, version, a_key())
            assert status < 300, (operation, answer)


# --- out and in


def test_every_table_of_a_production_is_in_its_file_or_is_said_to_stay_behind():
    def leads_to_a_production(model: Any, past: frozenset[Any] = frozenset()) -> bool:
        return any(
            field.related_model is Production
            or (
                field.related_model not in past
                and leads_to_a_production(field.related_model, past | {field.related_model})
            )
            for field in model._meta.concrete_fields
            if field.is_relation and field.related_model is not model
        )

    every = {
        model
        for model in apps.get_models()
        if model.__module__.startswith("jungoptic.") and leads_to_a_production(model)
    }
    behind = {apps.get_model(label) for label in tables.STAYS_BEHIND}
    assert every == {table.model for table in tables.TABLES} - {Production} | behind
    assert set(_HANDLERS) <= set(tables.ROWS_OF_KINDS) | tables.KINDS_THAT_STAY_BEHIND


def test_what_comes_in_is_what_went_out_to_the_last_row_and_byte(production: Production):
    write_everything(lambda operation: "film" not in operation)
    first = out(production)
    assert {"takes", "history", "changes", "ticks", "signatures", "set_views", "lines"} <= {
        name for name, count in json.loads(first["production.json"])["rows"].items() if count
    }
    came = come_in(first)
    assert came.left_out == [] and came.production.pk != production.pk
    same(first, out(came.production))
    again = come_in(out(came.production))
    assert len(rows(out(again.production), "history")) == len(rows(first, "history")) + 2


def test_what_came_in_is_judged_and_told_as_it_was(production: Production, supervisor: Caller):
    write_everything(lambda operation: "film" not in operation and "invitation" not in operation)
    came = come_in(out(production)).production

    def plain(wall: dict[str, Any]) -> list[Any]:
        own = ("id", "place_id", "board", "revision")
        return [{name: value for name, value in one.items() if name not in own} for one in wall["shots"]]

    assert plain(supervisor.wall(came)) == plain(supervisor.wall(production))
    for code in ("TM010", "TM050"):
        benches = [supervisor.bench(Shot.in_cut.get(production=one, code=code)) for one in (production, came)]
        said = ("item", "amount", "verdict", "sentence", "accepted")
        here, there = (
            [
                (layer["name"], [[item[name] for name in said] for item in layer["items"]])
                for layer in one["layers"]
            ]
            for one in benches
        )
        assert here == there and here
    asked = HistoryQuery(limit=200)
    me = Person.objects.get(username="supervisor")
    entries = [history(one.pk, me, "supervisor", asked).writes for one in (production, came)]
    here, there = ([(one.title, one.changes, one.by) for one in own] for own in entries)
    assert there[1:] == here and here
    standing = next(one for one in entries[1] if one.can_go_back)
    status, answer = supervisor("post", f"/productions/{came.pk}/take-back", {"write": standing.id})
    assert status == 200, answer


@settings(
    max_examples=12,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
    phases=[Phase.explicit, Phase.reuse, Phase.generate],
)
@given(data=st.data())
def test_whatever_a_production_holds_comes_in_as_it_went_out(production: Production, data: st.DataObject):
    """Any text, any figures near those that are there, any of the shots."""
    text = st.text(
        st.characters(exclude_characters="\x00", exclude_categories=["Cs"]), min_size=1, max_size=60
    )
    words = data.draw(st.lists(text, min_size=20, max_size=20, unique=True))
    share = data.draw(st.floats(0.97, 1.03))
    gone = data.draw(st.sets(st.sampled_from([f"TM{n:02}0" for n in range(1, 13)]), max_size=8))
    seed = random.Random(data.draw(st.integers(0, 1000)))
    with transaction.atomic():
        point = transaction.savepoint()
        Shot.objects.filter(production=production, code__in=gone).update(removed=True)
        for table in tables.TABLES:
            for row in table.rows(production.pk):
                if table.name in ("files", "production", "members") or seed.random() < 0.5:
                    continue
                _changed(row, words, share, seed)
        first = out(production)
        same(first, out(come_in(first).production))
        transaction.savepoint_rollback(point)


_FREE = {"title", "description", "note", "why", "reason", "what", "paint_out", "text"}
_NEAR = {"distance_m", "lens_height_m", "illuminance_lx", "width_m", "speed_m_s", "hours_spent", "offset_m"}


def _changed(row: Any, words: list[str], share: float, seed: random.Random) -> None:
    values: dict[str, Any] = {}
    for field in row._meta.concrete_fields:
        if field.name in _FREE and isinstance(field, models.CharField | models.TextField):
            values[field.name] = seed.choice(words)
        elif field.name in _NEAR and getattr(row, field.name) is not None:
            values[field.name] = getattr(row, field.name) * share
    if "text" in values:
        values["text"] = f"{values['text']} {row.pk}"  # ticked once
    if values:
        type(row)._base_manager.filter(pk=row.pk).update(**values)


# --- the people


def test_who_is_not_here_comes_in_by_name_and_nobody_signs_in_as_them(production: Production, mill):
    Caller("camera").take(mill, note="Clean")
    first = out(production)
    came = come_in(first, "stranger").production
    members = {row.name: row for row in Membership.objects.filter(production=came, removed=False)}
    assert set(members) == {"Supervisor", "Camera", "Runner", "Stranger"}
    assert members["Stranger"].role == "supervisor"
    for name in ("Supervisor", "Camera", "Runner"):
        account = members[name].person
        assert not account.is_active and not account.has_usable_password()
        assert not Membership.objects.filter(production=production, person=account).exists()
    take = Take.objects.get(layer__shot__production=came, note="Clean")
    assert (
        take.recorded_by == members["Camera"].person != Take.objects.get(layer=mill, note="Clean").recorded_by
    )
    stranger = Caller("stranger")
    own = members["Stranger"]
    status, answer = stranger("patch", f"/productions/{came.pk}/people/{own.pk}", {"role": "crew"})
    assert status == 422 and "only supervisor" in answer["problems"][0]["message"]


def test_whoever_has_the_name_is_the_person(production: Production):
    came = come_in(out(production), "camera").production
    me = Membership.objects.get(production=came, person__username="camera")
    assert me.role == "supervisor"
    assert Membership.objects.filter(production=came).count() == 3


# --- other versions


def test_an_older_file_comes_in_with_what_is_usual(production: Production):
    first = out(production)
    older = with_rows(first, "layers", lambda told: [one.pop("cut_by") for one in told])
    older = with_rows(older, "shots", lambda told: [one.pop("ready") for one in told])
    del older["tables/signatures.json"]
    came = come_in(older)
    assert came.left_out == [] and came.counts["signatures"] == 0
    assert {one["cut_by"] for one in rows(out(came.production), "layers")} == {"nothing"}


def test_of_a_newer_file_of_the_same_version_it_is_said_what_stays_out(production: Production):
    first = out(production)
    head = json.loads(first["production.json"])
    newer = with_rows(first, "shots", lambda told: [one.update(mood="grim") for one in told])
    newer |= {"production.json": json.dumps({**head, "version": "1.9"}).encode(), "tables/days.json": b"[]"}
    came = come_in(newer)
    assert came.left_out == ["tables/days.json as a whole", "“mood” of shots"]
    same(first, out(came.production))
    with pytest.raises(InputError, match=r"version 2\.0 of the file; this server reads version 1"):
        come_in({**newer, "production.json": json.dumps({**head, "version": "2.0"}).encode()})


def test_the_file_holds_its_own_schema_and_keeps_to_it(production: Production):
    first = out(production)
    validator = jsonschema_rs.Draft202012Validator(json.loads(first["schema.json"]))
    whole = {table.name: rows(first, table.name) for table in tables.TABLES}
    assert list(validator.iter_errors(whole)) == []
    whole["shots"][0]["length_frames"] = "long"
    assert list(validator.iter_errors(whole)) != []


# --- over the wire


def test_out_and_in_over_the_wire(supervisor: Caller, crew: Caller, stranger: Caller, production: Production):
    assert crew("get", f"/productions/{production.pk}/film.zip")[0] == 403
    assert stranger("get", f"/productions/{production.pk}/film.zip")[0] == 404
    answer = supervisor.client.get(f"/api/productions/{production.pk}/film.zip")
    data = b"".join(answer.streaming_content)
    assert answer["Content-Disposition"] == f'attachment; filename="{production.slug}.zip"'
    sent = {"file": SimpleUploadedFile("tidemill.zip", data)}
    said = stranger.client.post("/api/film-file", sent, headers={"Idempotency-Key": a_key()})
    assert said.status_code == 201, said.content
    came = said.json()
    assert (came["title"], came["shots"], came["pictures"], came["left_out"]) == ("The Tidemill", 12, 14, [])
    assert stranger("get", f"/productions/{came['id']}")[0] == 200
    assert stranger("get", f"/productions/{production.pk}")[0] == 404


def test_a_picture_may_be_larger_than_a_request_of_text(supervisor: Caller, shot: Shot):
    noise = random.Random(7).randbytes(2000 * 1600 * 3)
    picture = io.BytesIO()
    Image.frombytes("RGB", (2000, 1600), noise).save(picture, "PNG")
    assert len(picture.getvalue()) > 8_000_000
    sent = {"version": shot.version, "file": SimpleUploadedFile("large.png", picture.getvalue())}
    key = a_key()
    answer = supervisor.client.post(f"/api/shots/{shot.pk}/board", sent, headers={"Idempotency-Key": key})
    assert answer.status_code == 200, answer.content
    sent["file"].seek(0)
    again = supervisor.client.post(f"/api/shots/{shot.pk}/board", sent, headers={"Idempotency-Key": key})
    assert (again.status_code, again.content) == (200, answer.content)
    status, said = supervisor("post", "/films", {"values": {"title": "T" * 9_000_000}}, key=a_key())
    assert status == 413 and "more than can be sent at once" in said["problems"][0]["message"]


def test_who_came_in_with_the_file_is_invited_to_what_is_theirs(production: Production, mill):
    Caller("camera").take(mill, note="Clean")
    came = come_in(out(production), "stranger").production
    stranger = Caller("stranger")
    people = stranger("get", f"/productions/{came.pk}/people")[1]["people"]
    assert {one["name"] for one in people if not one["here"]} == {"Supervisor", "Camera", "Runner"}
    camera = next(one for one in people if one["name"] == "Camera")
    asked = {"token": "c" * 40, "role": "crew", "member": camera["id"]}
    assert stranger("post", f"/productions/{came.pk}/invitations", asked)[0] == 201
    fresh = Client()
    fresh.get("/api/session")
    csrf = {"X-CSRFToken": fresh.cookies["csrftoken"].value}

    def send(path: str, **body: Any) -> tuple[int, Any]:
        answer = fresh.post(f"/api/invitation{path}", body, content_type="application/json", headers=csrf)
        return answer.status_code, answer.json()

    status, seen = send("", token="c" * 40)
    assert (status, seen["kind"], seen["name"], seen["username"]) == (200, "join", "Camera", "")
    chosen = {"token": "c" * 40, "password": "a long quay wall"}
    status, said = send("/account", **chosen, username="camera")
    assert status == 422 and "choose another name" in said["problems"][0]["message"]
    status, said = send("/account", **chosen, username="ada", name="Ada")
    assert (status, said["person"]["name"]) == (200, "Ada")
    take = Take.objects.get(layer__shot__production=came, note="Clean")
    assert (take.recorded_by.username, take.recorded_by.is_active) == ("ada", True)
    assert Membership.objects.filter(production=came, person=take.recorded_by, role="crew").count() == 1
    # once, and only to whom it is not open yet
    assert send("/account", **chosen, username="eve")[0] == 422
    for member in (camera["id"], production.memberships.all()[0].pk):
        status, said = stranger(
            "post", f"/productions/{came.pk}/invitations", {**asked, "token": "d" * 40, "member": member}
        )
        assert (status, said["problems"][0]["field"]) == (422, "member")
