"""A production out as one file and in again: the same to the last row; hostile files come in nowhere."""

from __future__ import annotations

import io
import json
import random
import zipfile
import zlib
from collections.abc import Callable
from typing import Any

import pytest
from django.apps import apps
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import models, transaction
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from PIL import Image

from jungoptic.app.base.edits import _HANDLERS
from jungoptic.app.base.models import Write
from jungoptic.app.files.models import FOLDER, StoredFile
from jungoptic.app.history.reading import history
from jungoptic.app.history.schemas import HistoryQuery
from jungoptic.app.moving import packed, tables
from jungoptic.app.moving.coming_in import CameIn, bring_in
from jungoptic.app.moving.going_out import pack
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Membership, Production
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError

from .conftest import Caller, a_key
from .seen import version_seen
from .test_writes import BODIES, Demo, send

Files = dict[str, bytes]


def out(production: Production) -> Files:
    target = io.BytesIO()
    pack(production.pk, target)
    with zipfile.ZipFile(target) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def zipped(files: Files) -> io.BytesIO:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    target.seek(0)
    return target


def come_in(files: Files, username: str = "supervisor") -> CameIn:
    return bring_in(Person.objects.get(username=username), "film.zip", zipped(files))


def rows(files: Files, name: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = json.loads(files[f"tables/{name}.json"])
    return found


def with_rows(files: Files, name: str, change: Callable[[list[Any]], Any]) -> Files:
    told = rows(files, name)
    change(told)
    return {**files, f"tables/{name}.json": json.dumps(told).encode()}


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
    asked = HistoryQuery(limit=100)
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
    jsonschema = pytest.importorskip("jsonschema")
    first = out(production)
    validator = jsonschema.Draft202012Validator(json.loads(first["schema.json"]))
    whole = {table.name: rows(first, table.name) for table in tables.TABLES}
    assert list(validator.iter_errors(whole)) == []
    whole["shots"][0]["length_frames"] = "long"
    assert list(validator.iter_errors(whole)) != []


# --- hostile files


def _png(width: int, height: int) -> bytes:
    """A PNG that says it is so large."""
    small = io.BytesIO()
    Image.new("L", (1, 1)).save(small, "PNG")
    data = bytearray(small.getvalue())
    data[16:24] = width.to_bytes(4, "big") + height.to_bytes(4, "big")
    data[29:33] = zlib.crc32(data[12:29]).to_bytes(4, "big")
    return bytes(data)


def _with_picture(files: Files, data: bytes, kind: str = "image/png") -> Files:
    import hashlib

    sha = hashlib.sha256(data).hexdigest()
    changed = with_rows(files, "files", lambda told: told[0].update(sha256=sha, kind=kind))
    return changed | {packed.file_member(sha, kind): data}


def _last_byte_off(files: Files) -> Files:
    name = next(one for one in files if one.startswith("files/"))
    return {**files, name: files[name][:-1] + b"\x00"}


def _first(name: str, **values: Any) -> Callable[[Files], Files]:
    return lambda files: with_rows(files, name, lambda told: told[0].update(values))


HOSTILE: dict[str, tuple[Callable[[Files], Files], str]] = {
    "no head": (lambda f: {k: v for k, v in f.items() if k != "production.json"}, "no production.json"),
    "foreign": (lambda f: {"production.json": b'{"format": "other"}'}, "no production that was taken out"),
    "a name that leads elsewhere": (lambda f: {**f, "tables/../../evil": b"x"}, "leads elsewhere"),
    "an absolute name": (lambda f: {**f, "/etc/evil": b"x"}, "leads elsewhere"),
    "no JSON": (lambda f: {**f, "tables/shots.json": b"[{"}, "no JSON"),
    "no number": (lambda f: {**f, "tables/shots.json": b'[{"code": NaN}]'}, "no JSON"),
    "endless number": (lambda f: {**f, "tables/shots.json": b'[{"code": 1e999}]'}, "no JSON"),
    "nested": (lambda f: {**f, "tables/shots.json": b"[" * 200_000}, "no JSON"),
    "no rows": (lambda f: {**f, "tables/shots.json": b'{"code": 1}'}, "no table of rows"),
    "two productions": (lambda f: with_rows(f, "production", lambda t: t.append(t[0])), "one production"),
    "NUL": (_first("shots", title="a\x00b"), "shots, row 1: title holds a character that is none"),
    "half a letter": (_first("shots", title="\ud800"), "holds a character that is none"),
    "too long": (_first("shots", code="C" * 17), "code is refused"),
    "text for a number": (_first("shots", length_frames="12"), "length_frames must be of another kind"),
    "a yes for a number": (_first("shots", length_frames=True), "length_frames must be of another kind"),
    "too great": (_first("shots", length_frames=2**70), "length_frames is refused"),
    "empty": (_first("shots", code=None), "code may not be empty"),
    "missing": (lambda f: with_rows(f, "shots", lambda t: t[0].pop("code")), "code is missing"),
    "a row that is not there": (_first("layers", shot_id=999), "names a row that is not there"),
    "the row before the first": (_first("layers", shot_id=0), "names a row that is not there"),
    "a word that is none": (_first("members", role="owner"), "role is refused"),
    "twice the same": (lambda f: with_rows(f, "members", lambda t: t.append(t[0])), "contradicts itself"),
    "against the database": (_first("layers", scale=-1), "contradicts itself"),
    "against core": (_first("layers", kind="dragon"), "cannot be as the file says it"),
    "a set-up of another shot": (_first("layers", set_up_id=20), "cannot be as the file says it"),
    "no delivery": (_first("production", delivery_width_px=3), "the production cannot be"),
    "a change of nothing": (_first("changes", kind="weather"), "a kind that nobody knows"),
    "a moment without a zone": (_first("boards", at="2026-10-01T10:00:00"), "at must say its time zone"),
    "a picture that is none": (lambda f: _with_picture(f, b"GIF89a" + bytes(99)), "not what it says it is"),
    "an SVG": (lambda f: _with_picture(f, b"<svg/>", "image/svg+xml"), "neither a PNG nor a JPEG"),
    "a picture too large": (lambda f: _with_picture(f, _png(100_000, 100_000)), "too large"),
    "a picture that was changed": (_last_byte_off, "is not what was taken out"),
    "a picture that is missing": (
        lambda f: {name: data for name, data in f.items() if not name.startswith("files/")},
        "is missing",
    ),
    "nameless people": (
        lambda f: {
            **f,
            "production.json": json.dumps(
                {**json.loads(f["production.json"]), "people": [{"name": ""}]}
            ).encode(),
        },
        "has no name",
    ),
}


@pytest.fixture
def whole(production: Production) -> Files:
    supervisor = Caller("supervisor")
    supervisor("patch", f"/productions/{production.pk}", {"changes": {"title": "The Tide Mill"}})
    return out(production)


def _stored() -> int:
    return sum(
        len(default_storage.listdir(f"{FOLDER}/{month}")[1]) for month in default_storage.listdir(FOLDER)[0]
    )


@pytest.mark.parametrize("what", HOSTILE)
def test_a_hostile_file_is_refused_at_the_file_and_nothing_of_it_stays(what: str, whole: Files):
    spoil, message = HOSTILE[what]
    before = (Production.objects.count(), Person.objects.count(), Write.objects.count(), _stored())
    with pytest.raises(InputError, match=message) as refused:
        come_in(spoil(whole))
    assert {one.field for one in refused.value.problems} == {"file"}
    after = (Production.objects.count(), Person.objects.count(), Write.objects.count(), _stored())
    assert before == after and StoredFile.objects.count()


def test_a_file_that_grows_is_not_read_to_its_end(whole: Files, monkeypatch):
    monkeypatch.setattr(packed, "MOST_TABLES_BYTES", 3_000_000)
    with pytest.raises(InputError, match=r"tables/shots\.json grows to more than"):
        come_in({**whole, "tables/shots.json": b" " * 50_000_000})
    monkeypatch.setattr(packed, "MOST_BYTES", 40_000_000)
    with pytest.raises(InputError, match="when it is opened"):
        come_in({**whole, "more": b" " * 50_000_000})
    monkeypatch.setattr(packed, "MOST_MEMBERS", 30)
    with pytest.raises(InputError, match="up to 30 are read"):
        come_in(whole)


@pytest.mark.parametrize("data", [b"", b"no zip", b"PK\x03\x04" + bytes(60)])
def test_what_is_no_zip_is_refused(supervisor: Caller, data: bytes):
    sent = {"file": SimpleUploadedFile("film.zip", data)} if data else {}
    answer = supervisor.client.post("/api/film-file", sent)
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["field"] == "file"


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
    assert status == 422 and "more than can be sent at once" in said["problems"][0]["message"]
