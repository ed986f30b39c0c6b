"""One door for what is said: what cannot be kept is refused there, what cannot be shown is not stored, and
what stands all the same is shown as such, alone.
"""

from __future__ import annotations

import csv
import io
import json
from typing import Any

import pytest
from django.db import IntegrityError, OperationalError
from django.test import Client

from jungoptic.app.base import parsing
from jungoptic.app.base.models import Change
from jungoptic.app.breakdown import wall as wall_module
from jungoptic.app.places import api as places_api
from jungoptic.app.shots.models import Layer, SetUp, Shot
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError

from .conftest import Caller, a_key, edit


def sent(caller: Caller, path: str, data: bytes, kind: str = "application/json", method: str = "POST") -> Any:
    return caller.client.generic(method, f"/api{path}", data, content_type=kind)


# --- what is refused at the door


@pytest.mark.parametrize(
    ("data", "status", "field", "words"),
    [
        (b"[" * 100_000, 422, "", "deeper"),
        (b'{"actual":' * 40 + b"1" + b"}" * 40, 422, "", "deeper"),
        (b'{"actual": {"references": [' + b"0," * 100_000 + b"0]}}", 422, "", "up to 100,000 values"),
        (b'{"note": "\\ud800"}', 422, "note", "half a character"),
        (b'{"note": "\\u0000"}', 422, "note", "NUL"),
        (b'{"actual": {"iso": NaN}}', 422, "iso", "ISO must be a finite number."),
        (b'{"actual": {"iso": 1e999}}', 422, "iso", "ISO must be a finite number."),
        (b'{"shown": 99999999999999999999}', 422, "shown", "up to 9,223,372,036,854,775,807"),
        (b'{"actual": {"iso": 1' + b"0" * 400 + b"}}", 422, "iso", "up to"),
        (b'{"note": "x"', 400, "", "no JSON"),
        ('{"note": "é"}'.encode("latin-1"), 400, "", "no JSON"),
        ('{"note": "x"}'.encode("utf-16"), 400, "", "no JSON"),
        (b'{"circled": "yes"}', 422, "circled", "boolean"),
        (b'{"circled": 1}', 422, "circled", "boolean"),
        (b'{"note": null}', 422, "note", "string"),
        (b'{"note": ["a"]}', 422, "note", "string"),
    ],
)
def test_what_cannot_be_kept_is_refused_at_its_field(
    data: bytes, status: int, field: str, words: str, crew: Caller, mill: Layer
):
    answer = sent(crew, f"/layers/{mill.pk}/takes", data)
    problem = answer.json()["problems"][0]
    assert (answer.status_code, problem["field"]) == (status, field), problem
    assert words in problem["message"]
    assert Take.objects.count() == 0


@pytest.mark.parametrize(
    "kind",
    ["text/plain", "multipart/form-data; boundary=x", "application/x-www-form-urlencoded", "image/png"],
)
def test_only_json_is_read_where_json_is_meant(kind: str, crew: Caller, mill: Layer):
    for key in ("", a_key()):
        answer = crew.client.post(
            f"/api/layers/{mill.pk}/takes",
            data=b'{"note": "x"}',
            content_type=kind,
            headers={"Idempotency-Key": key} if key else {},
        )
        assert answer.status_code == 415 or (answer.status_code == 400 and "boundary" in kind), answer.content
        assert "application/json" in answer.headers["Content-Type"]
    assert Take.objects.count() == 0


@pytest.mark.parametrize(
    ("path", "headers", "status"),
    [
        ("/api/session", {"Host": "elsewhere.example"}, 400),
        ("/api/no/such/address", {}, 404),
        ("/health/nothing", {}, 404),
    ],
)
def test_every_refusal_has_a_sentence(path: str, headers: dict[str, str], status: int, production):
    answer = Client(raise_request_exception=False).get(path, headers=headers)
    assert answer.status_code == status
    if path.startswith("/api/"):
        assert answer.json()["problems"][0]["message"].endswith(".")
    else:
        assert answer.headers["Content-Type"].startswith("text/plain")


def test_what_is_too_large_is_told_as_everything_else_is(supervisor: Caller, shot: Shot):
    answer = sent(
        supervisor,
        f"/shots/{shot.pk}/line",
        b'{"changes": {"title": "' + b"T" * 9_000_000 + b'"}}',
        method="PATCH",
    )
    assert answer.status_code == 413 and "in parts" in answer.json()["problems"][0]["message"]


@pytest.mark.parametrize("value", [5e-324, 1e-308, 1e-30])
@pytest.mark.parametrize(
    ("kind", "field"),
    [
        ("set_ups", "focal_length_mm"),
        ("set_ups", "f_number"),
        ("set_ups", "distance_m"),
        ("layers", "scale"),
        ("layers", "near_m"),
        ("layers", "width_m"),
        ("layers", "height_m"),
        ("shot", "visibility_m"),
    ],
)
def test_nothing_is_smaller_than_a_thing_can_be(
    kind: str, field: str, value: float, supervisor: Caller, shot: Shot, mill: Layer
):
    pk, seen = {"set_ups": (mill.set_up_id, 1), "layers": (mill.pk, 1), "shot": (shot.pk, shot.version)}[kind]
    status, answer = supervisor(
        "post", f"/shots/{shot.pk}/changes", {kind: {pk: edit(seen, **{field: value})}}
    )
    assert status == 422 and answer["problems"][0]["field"] == field, answer
    assert Change.objects.count() == 0


# --- what cannot be shown is not stored


@pytest.mark.parametrize("key", ["", "of-a-page"])
@pytest.mark.parametrize("error", [ZeroDivisionError("x"), OverflowError("x"), RuntimeError("x")])
def test_what_cannot_be_judged_is_not_stored(
    error: Exception, key: str, supervisor: Caller, shot: Shot, mill: Layer, monkeypatch
):
    """The answer is worked out before anything stands, with a key and without."""

    def cannot(*_: Any, **__: Any) -> None:
        raise error

    monkeypatch.setattr(wall_module, "summary_of", cannot)
    supervisor.client.raise_request_exception = False
    status, answer = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"layers": {mill.pk: edit(1, width_m=7)}}, key=key or None
    )
    if isinstance(error, ArithmeticError):
        assert status == 422 and answer["problems"][0]["field"] == "width_m"
        assert "nearer to what is usual" in answer["problems"][0]["message"]
    else:
        assert status == 500 and "Something went wrong" in answer["problems"][0]["message"]
    mill.refresh_from_db()
    assert mill.version == 1 and mill.width_m != 7 and Change.objects.count() == 0


def test_a_refusal_after_the_write_undoes_it(supervisor: Caller, shot: Shot, mill: Layer, monkeypatch):
    from jungoptic.app.bench import api

    def refuses(*_: Any, **__: Any) -> None:
        raise InputError.at("width_m", "It cannot be drawn.")

    monkeypatch.setattr(api, "_bench", refuses)
    body = {"layers": {mill.pk: edit(1, width_m=7)}}
    assert supervisor("post", f"/shots/{shot.pk}/changes", body)[0] == 422
    mill.refresh_from_db()
    assert mill.version == 1 and Change.objects.count() == 0


def test_a_change_is_worked_out_once_for_the_wall_too(
    supervisor: Caller, production, shot: Shot, mill: Layer, monkeypatch
):
    supervisor.wall(production)
    supervisor("post", f"/shots/{shot.pk}/changes", {"layers": {mill.pk: edit(1, width_m=7)}})
    monkeypatch.setattr(wall_module, "summary_of", None)
    assert supervisor("get", f"/productions/{production.pk}/wall")[1]["pending"] == 0


# --- what stands all the same is shown as such, alone


@pytest.fixture
def broken(shot: Shot, mill: Layer) -> Shot:
    """Of an earlier version, say: a light that core knows no such thing of."""
    SetUp.objects.filter(pk=mill.set_up_id).update(iso=1e300)
    return shot


def test_a_shot_that_cannot_be_judged_stands_on_the_wall_as_such_and_the_others_go_on(
    supervisor: Caller, production, broken: Shot
):
    wall = supervisor.wall(production)
    faults = {one["code"]: one["fault"] for one in wall["shots"] if one["fault"]}
    assert list(faults) == [broken.code] and "ISO must be at most" in faults[broken.code]
    line = next(one for one in wall["shots"] if one["fault"])
    assert line["verdict"] is None and not line["ready"] and not line["pending"]
    assert sum(one["verdict"] is not None for one in wall["shots"]) >= 10
    status, text = supervisor("get", f"/productions/{production.pk}/shots.csv")
    row = next(one for one in csv.DictReader(io.StringIO(text.decode())) if one["code"] == broken.code)
    assert status == 200 and row["verdict"] == row["open cautions"] == "not judged", (
        "and not without cautions"
    )


@pytest.mark.parametrize("page", ["bench", "plan", "log"])
def test_its_own_pages_say_why(page: str, supervisor: Caller, broken: Shot):
    status, answer = supervisor("get", f"/shots/{broken.pk}/{page}")
    assert status == 422 and "ISO must be at most" in answer["problems"][0]["message"]


def test_it_can_be_mended_where_it_stands(supervisor: Caller, production, broken: Shot, mill: Layer):
    body = {"set_ups": {mill.set_up_id: edit(1, iso=800)}}
    assert supervisor("post", f"/shots/{broken.pk}/changes", body)[0] == 200
    assert not any(one["fault"] for one in supervisor.wall(production)["shots"])


def test_an_answer_that_is_not_as_its_schema_says_is_our_fault(supervisor: Caller, production, monkeypatch):
    monkeypatch.setattr("jungoptic.app.breakdown.api.wall", lambda *_: {"shots": 1})
    supervisor.client.raise_request_exception = False
    assert supervisor("get", f"/productions/{production.pk}/wall")[0] == 500


@pytest.mark.parametrize("day", ["0001-01-01", "9999-12-31", "1899-12-31", "2101-01-01"])
def test_a_day_is_of_our_years(day: str, supervisor: Caller, shot: Shot):
    status, answer = supervisor("patch", f"/shots/{shot.pk}/line", {"changes": {"shoot_on": day}})
    assert status == 422 and "between 1900 and 2100" in answer["problems"][0]["message"]


# --- what the database says


def test_two_of_a_name_at_once_are_told_in_words(supervisor: Caller, production, monkeypatch):
    class ToldError(Exception):
        diag = type("Diag", (), {"constraint_name": "one_place_of_a_name"})

    def twice(*_: Any, **__: Any) -> None:
        raise IntegrityError("duplicate key") from ToldError()

    monkeypatch.setattr(places_api, "save_place", twice)
    status, answer = supervisor("post", f"/productions/{production.pk}/places", {"name": "The sluice"})
    assert status == 409 and answer["problems"] == [
        {"field": "name", "message": "Somebody used this name at the same moment: choose another."}
    ]


def test_a_database_that_is_away_is_told_as_such(supervisor: Caller, production, monkeypatch):
    def away(*_: Any, **__: Any) -> None:
        raise OperationalError("server closed the connection")

    monkeypatch.setattr("jungoptic.app.breakdown.api.wall", away)
    answer = supervisor.client.get(f"/api/productions/{production.pk}/wall")
    assert answer.status_code == 503 and answer.headers["Retry-After"] == "2"
    assert "being started again" in answer.json()["problems"][0]["message"]


# --- the door itself


def test_the_walk_names_every_field_that_it_refuses_and_ends():
    body = {"a": {"b": ["ok", "\x00"]}, "c": float("nan"), "d\x00": 1, "e": [{"f": 2**64}]}
    assert list(parsing._unfit(json.loads(json.dumps(body)))) == [
        ("", "Text may not hold a NUL character: type it again, or paste it as plain text."),
        ("a.b.1", "Text may not hold a NUL character: type it again, or paste it as plain text."),
        ("c", "C must be a finite number."),
        ("f", "F must be a number of up to 9,223,372,036,854,775,807."),
    ]
    with pytest.raises(InputError) as refused:
        parsing._refuse(["\x00"] * 500)
    assert len(refused.value.problems) == parsing.MOST_PROBLEMS
